"""Made-up texts with the paragraphs that writers make, a new one for each who speaks, broken down by hand: on the first numbers are set, the others are only counted."""

from __future__ import annotations

from tests.story_texts import Told


def _told(name: str, *moments: tuple[str, str, str]) -> Told:
    return Told(name, "prose", moments)


SET_ON = (
    _told(
        "the umbrella man",
        (
            "It had not rained in Dunmore for a year, and still Mr. Pettigrew opened his umbrella shop at nine every morning.",
            "Pettigrew",
            "shop",
        ),
        (
            "\n\nOn Tuesday a girl with a wet nose came in.\n\n“I would like an umbrella, please,” she said.\n\n“It isn't raining,” said Mr. Pettigrew.\n\n“Not yet,” said the girl.",
            "girl, Pettigrew",
            "shop",
        ),
        (
            "\n\nHe climbed the ladder and brought down the smallest one, which was yellow. She paid with a button.",
            "Pettigrew, girl",
            "shop",
        ),
        (
            "\n\nWhen she had gone, Mr. Pettigrew stood in the doorway and looked up. One cloud, no bigger than a loaf, was sailing over the church.",
            "Pettigrew",
            "doorway",
        ),
        (
            "\n\nBy noon there were people all down the street. They pushed and shouted and held up their money.\n\n“One at a time!” cried Mr. Pettigrew. “One at a time!”",
            "people, Pettigrew",
            "street",
        ),
        (
            "\n\nIn the square, under a yellow umbrella, the girl was sitting on the edge of the dry fountain. She was waiting.",
            "girl",
            "square",
        ),
        ("\n\nThe first drop fell on her shoe.", "girl", "square"),
    ),
    _told(
        "a tooth",
        (
            "“It's loose,” said Nils.\n\n“Show me,” said his sister.\n\nHe opened his mouth. Karin looked in with the torch.\n\n“It's hanging by a thread,” she said.",
            "Nils, Karin",
            "",
        ),
        (
            "\n\nThey tied the tooth to the door handle with a piece of wool. Nils sat on the stool and shut his eyes.",
            "Nils, Karin",
            "",
        ),
        (
            "\n\n“Ready?” said Karin.\n\n“No,” said Nils.\n\n“Good,” said Karin, and she slammed the door.",
            "Karin, Nils",
            "",
        ),
        (
            "\n\nThe wool broke. The handle came off. Grandfather, who had been leaning on the other side, fell into the hall with his newspaper on his head.",
            "Grandfather",
            "hall",
        ),
        (
            "\n\n“What in the world,” said Grandfather.\n\nNils began to laugh. He laughed so hard that the tooth flew out and landed in the goldfish bowl.",
            "Grandfather, Nils",
            "hall",
        ),
        (
            "\n\nThat night, when the house was quiet, something very small went into the bowl with a very small diving helmet.",
            "",
            "house",
        ),
    ),
    _told(
        "the last tram",
        (
            "The last tram to Ferry Road left at midnight, and Osman drove it alone. He liked it that way.",
            "Osman",
            "tram",
        ),
        (
            "\n\nAt the hospital stop a fox got on. It sat down behind him, folded its tail over its feet, and looked straight ahead.",
            "fox, Osman",
            "tram",
        ),
        ("\n\n“Ticket?” said Osman.\n\nThe fox said nothing.\n\n“Fair enough,” said Osman.", "Osman, fox", "tram"),
        (
            "\n\nThey went over the bridge. The river was full of lights. Osman hummed, and the fox's ears turned to listen.",
            "Osman, fox",
            "bridge",
        ),
        (
            "\n\nAt Ferry Road the doors opened on the dark. The fox jumped down. It walked a little way along the rails, then it stopped and looked back.",
            "fox",
            "Road",
        ),
        (
            "\n\nOsman had never left his tram before. He took the key out, put on his cap, and followed.",
            "Osman",
            "tram",
        ),
        (
            "\n\nBehind the last shed, where the rails end, four cubs were sleeping in a driver's cap exactly like his own.",
            "cubs",
            "shed",
        ),
    ),
    _told(
        "pirates on the second floor",
        (
            "The flat above was empty, everyone said so. Then why did somebody up there keep shouting “Land ahoy”?",
            "",
            "flat",
        ),
        (
            "\n\nBea put her ear to the ceiling. To do that she had to stand on the wardrobe.\n\n“Bea!” called her father. “What are you doing?”\n\n“Homework!” Bea called back.",
            "Bea",
            "",
        ),
        (
            "\n\nShe crept up the stairs in her socks. The door of number nine was open a crack, and a smell of tar and oranges came out.",
            "Bea",
            "stairs",
        ),
        (
            "\n\nInside there was no floor. There was a sea, green and going up and down, and on it a ship as long as a bus.",
            "",
            "sea",
        ),
        (
            "\n\n“You're late,” said the captain. She had a parrot on one shoulder and a pigeon on the other.\n\n“I had homework,” said Bea.\n\n“So did I, once,” said the captain, and threw her a rope.",
            "captain, Bea",
            "ship",
        ),
        (
            "\n\nAt supper her father found seaweed in her hair. He didn't say a word. He only went to the window, and from his pocket he took an old brass spyglass.",
            "father, Bea",
            "window",
        ),
    ),
    _told(
        "the snail race",
        (
            "Everyone in the garden knew that Horace would win. Horace had won every year since the wall was built.",
            "Horace",
            "garden",
        ),
        (
            "\n\n“On your marks,” said the beetle.\n\nSix snails put out their horns.\n\n“Get set.”\n\nSomebody sneezed.\n\n“Go!”",
            "beetle, snails",
            "garden",
        ),
        ("\n\nFor an hour not much happened.", "snails", "garden"),
        (
            "\n\nThen little Mabel, who had started last, turned left instead of right. She went under the gate.\n\n“Wrong way!” shouted the ants.\n\n“I know!” shouted Mabel.",
            "Mabel, ants",
            "gate",
        ),
        (
            "\n\nOn the other side of the gate stood a watering can, and on the can, in big letters, somebody had written FINISH.",
            "",
            "gate",
        ),
        (
            "\n\nHorace got there on Thursday. Mabel was sitting on the handle with a dandelion round her neck.\n\n“What kept you?” she said.",
            "Horace, Mabel",
            "",
        ),
    ),
)

KEPT = (
    _told(
        "the borrowed coat",
        (
            "When the theatre burned down, all that was left was a coat. Ludo found it in the ashes. It was red and it was much too big.",
            "Ludo",
            "theatre",
        ),
        (
            "\n\nHe put it on and walked to the market.\n\n“Good morning, General,” said the fishwife.\n\n“Good morning,” said Ludo, who was only ten.",
            "Ludo, fishwife",
            "market",
        ),
        (
            "\n\nShe gave him a herring for nothing. The baker gave him a bun. A policeman saluted.",
            "fishwife, baker, policeman, Ludo",
            "market",
        ),
        (
            "\n\nIn the afternoon a black carriage stopped beside him, and a lady put her head out of the window.\n\n“Are you the General?” she asked.\n\nLudo looked down at his brass buttons. “I must be,” he said.",
            "lady, Ludo",
            "",
        ),
        (
            "\n\nThey drove to the palace. There were a hundred steps, and on every step stood a soldier who was afraid of him.",
            "Ludo, lady, soldiers",
            "palace",
        ),
        (
            "\n\n“What shall we do about the war?” said the king.\n\nLudo ate the rest of his bun while he thought about it.\n\n“Go home,” he said.\n\nSo they did.",
            "king, Ludo",
            "palace",
        ),
        (
            "\n\nThat evening Ludo hung the coat on a nail. It was only a coat again, and there was a herring in the pocket.",
            "Ludo",
            "",
        ),
    ),
    _told(
        "number forty",
        ("Miss Abara had lived at number forty for so long that the ivy knew her name.", "Abara", ""),
        (
            "\n\nOne morning two men came with a paper.\n\n“This house is coming down,” said the tall one.\n\n“There will be a car park,” said the other.\n\n“I see,” said Miss Abara. “Would you like some tea?”",
            "men, Abara",
            "house",
        ),
        (
            "\n\nWhile they drank it, the ivy grew in at the window. It went once around the table and twice around their ankles.",
            "men",
            "",
        ),
        ("\n\n“Is that normal?” asked the tall one.\n\n“It likes you,” said Miss Abara.", "men, Abara", ""),
        (
            "\n\nAcross the street the children from the school had stopped to watch. The front door was already gone. Now only the chimney was to be seen, and a hand that waved a white handkerchief out of the leaves.",
            "children",
            "street",
        ),
        (
            "\n\nThe men came out at five o'clock, through the cellar, with twigs in their hair. They tore the paper in half, and in half again.",
            "men",
            "",
        ),
        ("\n\nMiss Abara watered the doorstep.\n\n“Good boy,” she said.", "Abara", "doorstep"),
    ),
    _told(
        "the whale in the bath",
        ("Pip was washing his knees when the plug began to sing.", "Pip", "bath"),
        (
            "\n\n“Mum!” he shouted. “The plug's singing!”\n\n“Sing back!” shouted his mother from the kitchen.",
            "Pip",
            "bath",
        ),
        (
            "\n\nHe did. The water shook. Up came a whale, about as long as a loaf of bread, and blew a spout that hit the ceiling.",
            "Pip, whale",
            "bath",
        ),
        ("\n\n“At last,” said the whale. “Do you know how many plugholes I've tried?”", "whale", "bath"),
        (
            "\n\nThere was a knock.\n\n“Who are you talking to in there?” said his big sister Wren.\n\n“Nobody,” said Pip.\n\n“Nobody,” said the whale.",
            "Pip, whale, Wren",
            "bath",
        ),
        (
            "\n\nWren opened the door. She looked at the whale. She looked at Pip. Then she turned both taps on full and fetched the salt.",
            "Wren, whale, Pip",
            "bath",
        ),
        (
            "\n\nBy bedtime the landing was a lagoon. Their mother came up the stairs with a mop, and she stopped on the third step, because the third step was the beach.",
            "mother",
            "stairs",
        ),
    ),
    _told(
        "what the lamplighter saw",
        (
            "Every evening at six Tomasz walked down Needle Street with his pole and lit the lamps, one after another, nineteen of them.",
            "Tomasz",
            "Street",
        ),
        (
            "\n\nTonight the nineteenth would not light.\n\n“Come on,” he said. “My soup's getting cold.”\n\n“I'm not a lamp,” said the lamp.",
            "Tomasz",
            "Street",
        ),
        (
            "\n\nTomasz put down his pole. It was a giraffe. It was standing very still, with its eyes shut and a glass bowl on its head.",
            "Tomasz, giraffe",
            "Street",
        ),
        (
            "\n\n“You've escaped from the circus,” said Tomasz.\n\n“I've retired,” said the giraffe.",
            "Tomasz, giraffe",
            "Street",
        ),
        (
            "\n\nFrom the corner came the sound of boots. The ringmaster was walking along with a net over his shoulder, and he looked behind every barrel.",
            "ringmaster",
            "corner",
        ),
        (
            "\n\nTomasz didn't think for long. He struck a match, reached up, and lit the bowl.\n\n“Nice lamp, that,” said the ringmaster as he went by.",
            "Tomasz, giraffe, ringmaster",
            "Street",
        ),
        (
            "\n\nNow there are twenty lamps in Needle Street, and one of them has soup with Tomasz on Sundays.",
            "Tomasz, giraffe",
            "Street",
        ),
    ),
)
