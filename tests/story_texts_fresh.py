"""Fourteen made-up texts of fourteen kinds, written and broken down by hand before the reading was made anew, most of them without paragraphs.

A place holds until another one is told: each moment has it. `WORKED` is the half that was looked at from the start; `LAST` was first read when that work was done, and worked on after (docs/measures.md has its first rates).
"""

from __future__ import annotations

from tests.story_texts import Told

FOLK = Told(
    "folk tale",
    "prose",
    (
        (
            "There was once a miller who had three sons and a mill that would not turn. The brook had gone dry, and nobody knew why.",
            "miller, sons",
            "mill",
        ),
        (
            "“Go up the valley,” said the miller to the eldest, “and see what keeps our water.”",
            "miller, eldest son",
            "mill",
        ),
        (
            "So the eldest took his father's good stick and walked until he came to an inn. The music was loud there and the soup was hot, and he went no farther.",
            "eldest son",
            "inn",
        ),
        (
            "Then the second son set out, and he passed the inn and climbed as far as the pine wood, where he met a woman who was carrying a door on her back.",
            "second son, woman",
            "wood",
        ),
        (
            "“Help me with this door,” she said. But he laughed at her and lay down in the moss to sleep.",
            "woman, second son",
            "wood",
        ),
        ("At last the youngest went, whose name was Jorin.", "Jorin", ""),
        (
            "He did not stop at the inn. In the wood he took the door from the old woman and carried it himself, though it was heavier than the mill stone.",
            "Jorin, woman",
            "wood",
        ),
        (
            "When they reached the spring, there was a hole in the hill, and behind it sat a toad as big as a calf, drinking.",
            "Jorin, woman, toad",
            "spring",
        ),
        (
            "Jorin hung the door in the hole and shut it. “Occupied,” said the toad from inside.",
            "Jorin, toad",
            "spring",
        ),
        ("Down in the valley the wheel began to turn, and the miller wept into his flour.", "miller", "mill"),
    ),
)

PRESENT = Told(
    "picture book in the present tense",
    "prose",
    (
        (
            "Amara is packing her suitcase. In go the socks, in goes the torch, in goes one very flat rabbit.",
            "Amara, rabbit",
            "",
        ),
        ("Downstairs her fathers are loading the van.", "Papa Leo, Papa Sam", ""),
        (
            "It is a long road to the mountains. Amara counts nine bridges, two castles and a cow on a roof.",
            "Amara, cow",
            "road",
        ),
        (
            "“Are we there?” she asks. “Nearly,” says Papa Leo. “Nearly,” says Papa Sam.",
            "Amara, Papa Leo, Papa Sam",
            "road",
        ),
        ("The cabin smells of old matches. There is a stove, a ladder, and a window full of snow.", "", "cabin"),
        ("She climbs up to the loft and opens the suitcase. It is empty.", "Amara", "loft"),
        ("No socks. No torch. No rabbit.", "Amara", "loft"),
        (
            "Outside, small footprints lead away from the van. She follows them past the woodpile, past the frozen trough, all the way to the edge of the forest.",
            "Amara",
            "forest",
        ),
        (
            "And there sits the rabbit under a fir tree, wearing both socks as a scarf, shining the torch at a very surprised badger.",
            "rabbit, badger",
            "forest",
        ),
        ("“Nearly,” says the rabbit.", "rabbit", "forest"),
    ),
)

SINGLE_QUOTES = Told(
    "novel with single quotes",
    "prose",
    (
        (
            "Inspector Nwosu put down the receiver and looked at the clock above the filing cabinet. It was ten past four, and the rain had not let up since noon.",
            "Inspector Nwosu",
            "",
        ),
        (
            "‘Get your coat, Tilly,’ he said. Sergeant Tilly Brandt already had it on. ‘The lighthouse?’ ‘The lighthouse.’",
            "Inspector Nwosu, Sergeant Tilly Brandt",
            "",
        ),
        (
            "The causeway was nearly under water when they crossed it. Waves slapped at the doors of the little car, and Brandt drove with her chin almost on the wheel.",
            "Inspector Nwosu, Sergeant Tilly Brandt",
            "causeway",
        ),
        (
            "At the foot of the tower a man in a yellow oilskin was waiting with a lantern. His hands shook so badly that the shadows jumped.",
            "man",
            "lighthouse",
        ),
        ("‘You took your time,’ the man said. ‘He's been up there since Tuesday.’", "man", "lighthouse"),
        (
            "They climbed. Two hundred and twelve steps, Nwosu counted, and not one of them dry.",
            "Inspector Nwosu, Sergeant Tilly Brandt",
            "lighthouse",
        ),
        (
            "In the lamp room the keeper sat bolt upright in his chair with a teacup in his lap. The cup was full. The keeper was made of wax.",
            "keeper",
            "lamp room",
        ),
        (
            "Brandt walked once round the chair. ‘Well,’ she said, ‘that's new.’",
            "Sergeant Tilly Brandt, keeper",
            "lamp room",
        ),
        ("Far below them, the yellow oilskin was running for the car.", "man", "causeway"),
    ),
)

MOTHER_AND = Told(
    "kin words and a group",
    "prose",
    (
        (
            "Mother Duck had five ducklings, and the fifth one was called Button. Every morning the ducklings marched to the canal behind their mother, left, right, left, right.",
            "Mother Duck, ducklings, Button",
            "canal",
        ),
        ("Button always came last because Button always stopped to look at things.", "Button", "canal"),
        (
            "She looked at a snail. She looked at a bottle top. She looked at a boot with a fern in it.",
            "Button",
            "canal",
        ),
        ("When she looked up, the path was empty.", "Button", "path"),
        ("“Mama?” said Button. Only the reeds answered.", "Button", "path"),
        (
            "A great grey heron stood in the shallows on one leg. “Lost?” he asked. “Not me,” said Button. “It's the others that are lost.”",
            "heron, Button",
            "shallows",
        ),
        (
            "The heron bent down until his beak touched the water, and Button walked up it, over his head and onto his back.",
            "heron, Button",
            "shallows",
        ),
        (
            "From up there she could see the whole canal, the lock, the yellow barge, and four small dots going round and round in a panic.",
            "Button, ducklings",
            "canal",
        ),
        ("“Found you!” shouted Button.", "Button", "canal"),
        (
            "That night they slept in a heap under the bridge, and their mother counted them twice.",
            "ducklings, Button, Mother Duck",
            "bridge",
        ),
    ),
)

FIRST_PERSON = Told(
    "first person with an aside",
    "prose",
    (
        (
            "My sister Noor says that our lift goes to a floor that isn't there. I didn't believe her until last Wednesday.",
            "Noor, I",
            "lift",
        ),
        (
            "We were on our way down with the rubbish. Noor pressed seven and three together and held her breath.",
            "Noor, I",
            "lift",
        ),
        ("The lights went green. The lift went sideways.", "Noor, I", "lift"),
        (
            "When the doors opened there was a long corridor with moss on the walls, and at the end of it a desk, and behind the desk a fox in a porter's cap.",
            "fox",
            "corridor",
        ),
        (
            "“Names?” said the fox without looking up. I could not say a word. Noor gave him both of ours.",
            "fox, Noor, I",
            "corridor",
        ),
        ("He wrote them in a book and handed her a key with a tag that said LATER.", "fox, Noor", "corridor"),
        ("“What does it open?” I asked.", "I", "corridor"),
        ("“That depends on when,” said the fox, and he rang his bell, and the moss folded shut.", "fox", "corridor"),
        (
            "Then we were in the cellar again beside the bins, and Mr. Castellanos from the second floor was staring at us with his cat under his arm.",
            "Noor, I, Mr. Castellanos, cat",
            "cellar",
        ),
        ("“Rubbish,” said Noor, and held up the bag.", "Noor", "cellar"),
    ),
)

SCRIPT = Told(
    "screenplay",
    "fountain",
    (
        (
            "EXT. ALLOTMENTS - DAWN\n\nFrost on the cabbages. DELROY, 60, in a coat tied with string, stands before an enormous pumpkin. Somebody has taken a bite out of it. A bite the size of a door.",
            "Delroy",
            "Allotments",
        ),
        ("\n\nHe puts his whole head into the hole and looks around.", "Delroy", "Allotments"),
        ("\n\nDELROY\nHello?\n\nDELROY (CONT'D)\nAnybody in?", "Delroy", "Allotments"),
        (
            "\n\nBehind him, MISS AGNEW comes through the gate with her wheelbarrow and stops dead.",
            "Miss Agnew, Delroy",
            "Allotments",
        ),
        ("\n\nMISS AGNEW\nThat was going to win.\n\nDELROY\nIt still might.", "Miss Agnew, Delroy", "Allotments"),
        (
            "\n\nINT. DELROY'S SHED - LATER\n\nA map of the gardens is pinned to the wall. Delroy sticks a red pin into plot nine. There are eleven red pins already.",
            "Delroy",
            "Delroy's shed",
        ),
        ("\n\nMiss Agnew measures a tooth mark with a ruler.", "Miss Agnew", "Delroy's shed"),
        ("\n\nMISS AGNEW\nFour feet. Molars.", "Miss Agnew", "Delroy's shed"),
        (
            "\n\nThe window darkens. Both of them turn round very slowly. A huge brown eye is looking in.",
            "Delroy, Miss Agnew",
            "Delroy's shed",
        ),
        ("\n\nEXT. LANE - NIGHT\n\nThe hippo trots down the lane with the shed on its back.", "hippo", "Lane"),
        ("\n\nDELROY (O.S.)\nI think it likes us.", "", "Lane"),
    ),
)

SPACE = Told(
    "short for film, no paragraphs",
    "prose",
    (
        (
            "The drill stops. Commander Ilves wipes the frost from her visor and leans over the shaft, which is two kilometres deep and perfectly black.",
            "Commander Ilves",
            "shaft",
        ),
        ("Something knocks from below. Three times.", "", "shaft"),
        (
            "“Tell me that was you, Pim,” she whispers. “I'm in the galley,” says Pim over the radio.",
            "Commander Ilves",
            "shaft",
        ),
        (
            "In the galley the little cook is floating upside down among his onions with one hand on the radio. His eyes are very wide.",
            "cook",
            "galley",
        ),
        ("He pushes off from the stove and sails through the hatch, and the onions sail after him.", "cook", "galley"),
        (
            "On the ice, Ilves has lowered a lamp on a wire. It sinks past blue layers, past a seam of gold, past the bones of an animal with too many wings.",
            "Commander Ilves",
            "ice",
        ),
        ("Then a hand closes around the lamp.", "", "shaft"),
        (
            "The wire goes tight. Ilves digs in her heels, but she slides, and just before the edge Pim catches her by the air hose.",
            "Commander Ilves, Pim",
            "ice",
        ),
        (
            "They look at each other. From the shaft comes a voice, polite and rather tired. “Would you mind?” it says. “People are asleep.”",
            "Commander Ilves, Pim",
            "ice",
        ),
    ),
)

CITY = Told(
    "city tale with roles",
    "prose",
    (
        (
            "The number nine tram was late again. At the stop on Glass Street stood a lady with a cello, a boy with a loaf under his jacket, and a very old dog who belonged to nobody.",
            "lady, boy, dog",
            "stop",
        ),
        ("The lady stamped her feet. The boy broke off a crust and gave it to the dog.", "lady, boy, dog", "stop"),
        ("“He'll follow you now,” the lady warned.", "lady", "stop"),
        (
            "When the tram came at last, the driver shook his head. “No dogs,” he said, pointing at the sign.",
            "driver",
            "stop",
        ),
        (
            "The boy looked at the dog, and the dog looked at the cello case. Nobody said a word. The lady opened the case.",
            "boy, dog, lady",
            "stop",
        ),
        (
            "So the cello rode on the back seat beside the boy, and the case stood in the aisle and snored a little at the corners.",
            "boy",
            "tram",
        ),
        ("Two inspectors got on at the opera.", "inspectors", "tram"),
        (
            "“What's in the case, madam?” asked the taller one. “A bass,” she said. “It has a cold.”",
            "inspector, lady",
            "tram",
        ),
        (
            "At the terminus the boy carried the bread, the lady carried the cello, and the dog carried himself with dignity down the steps and into the park.",
            "boy, lady, dog",
            "park",
        ),
        ("By spring he belonged to both of them.", "dog, boy, lady", "park"),
    ),
)

VERSE = Told(
    "verse",
    "prose",
    (
        (
            "Old Barnaby Crick had a boat made of tin\nand a coat made of feathers to sail about in.",
            "Barnaby Crick",
            "boat",
        ),
        (
            "He sailed past the lighthouse, he sailed past the quay,\nand he waved to the whales in the middle of the sea.",
            "Barnaby Crick, whales",
            "sea",
        ),
        (
            "A gull with a basket came down on the mast.\n“Deliveries!” it said. “And you're sailing too fast.”",
            "gull, Barnaby Crick",
            "boat",
        ),
        ("He opened the basket. Inside was a bell,\na lemon, a ladder, a letter as well.", "Barnaby Crick", "boat"),
        (
            "“Dear Barnaby,” it said, “if you're hungry or cold,\ncome home to your sister before you grow old.”",
            "Barnaby Crick",
            "boat",
        ),
        (
            "He turned the boat round with a tear in his eye,\nand the gull held the lantern, and on they did fly.",
            "Barnaby Crick, gull",
            "boat",
        ),
        (
            "On the quay stood his sister, as round as a bun.\n“You're late,” said Matilda. “The dinner is done.”",
            "Matilda, Barnaby Crick",
            "quay",
        ),
        (
            "They sat in her kitchen, the three of them, long,\nand the gull ate the lemon and sang them a song.",
            "Barnaby Crick, Matilda, gull",
            "kitchen",
        ),
    ),
)

DASHES = Told(
    "plain quotes and a named pair",
    "prose",
    (
        (
            "The twins Zuzana and Petr lived above the clock shop, and on the hour their beds trembled.",
            "Zuzana, Petr",
            "clock shop",
        ),
        (
            'One night the big clock struck thirteen. "Did you hear that?" said Petr. His sister was already putting on her boots.',
            "Petr, Zuzana",
            "clock shop",
        ),
        ("They crept down the back stairs in the dark.", "Zuzana, Petr", "stairs"),
        (
            "In the shop every pendulum hung still. A thin man with silver gloves was standing on the counter and winding the air with a key.",
            "man",
            "clock shop",
        ),
        ('"Put that down," said Zuzana.', "Zuzana, man", "clock shop"),
        (
            'The thin man turned. "I only need an hour," he said. "You have so many that nobody is using."',
            "man",
            "clock shop",
        ),
        (
            "Petr held up the egg timer from the kitchen. There was one hour in it, exactly, in red sand.",
            "Petr",
            "clock shop",
        ),
        (
            "The man took it in both hands as if it were a bird. Then he bowed to the twins, stepped into the grandfather clock and pulled the door shut behind him.",
            "man, Zuzana, Petr",
            "clock shop",
        ),
        ("All the pendulums began to swing.", "", "clock shop"),
        (
            "The next morning their uncle could not understand why breakfast was late, and why the children slept until noon.",
            "uncle, Zuzana, Petr",
            "",
        ),
    ),
)

BUGS = Told(
    "animals without names",
    "prose",
    (
        (
            "A beetle fell into a teacup. The cup was deep and the sides were smooth, and the beetle walked round the bottom seven times before it sat down.",
            "beetle",
            "teacup",
        ),
        ("Over the rim came a face with eight eyes.", "spider", "teacup"),
        ("“Good evening,” said the spider. “Are you the tea?”", "spider, beetle", "teacup"),
        (
            "“I am the guest,” said the beetle, thinking quickly. “And I have been waiting for an hour.”",
            "beetle",
            "teacup",
        ),
        (
            "The spider was so ashamed that she let down a thread at once. The beetle climbed up it with great dignity, wiping its feet on the rim.",
            "spider, beetle",
            "teacup",
        ),
        (
            "They sat together on the sugar bowl until the moon came through the kitchen window. She told him about flies, and he told her about dung.",
            "spider, beetle",
            "kitchen",
        ),
        ("A moth came by to complain of the dark.", "moth", "kitchen"),
        (
            "In the morning a hand picked up the cup. Nobody was in it. But on the saucer, in fine white thread, somebody had written THANK YOU FOR HAVING ME.",
            "",
            "kitchen",
        ),
    ),
)

HARBOUR_GIRL = Told(
    "a chapter of a longer book",
    "prose",
    (
        (
            "By the time Hollis found the key, the tide had come in as far as the boathouse. She could hear it talking under the floor.",
            "Hollis",
            "boathouse",
        ),
        (
            "Her grandfather had never allowed anyone into the back room. Even the cat was not allowed. Now the lock turned as easily as butter.",
            "Hollis",
            "boathouse",
        ),
        (
            "Inside there were shelves from floor to ceiling, and on the shelves stood bottles, hundreds of them, and in every bottle there was weather.",
            "Hollis",
            "back room",
        ),
        ("She held one up to the light. A storm the size of a walnut flashed inside it.", "Hollis", "back room"),
        ("“I wouldn't drop that,” somebody said.", "Hollis", "back room"),
        (
            "Behind the door a boy was sitting on a crate and eating a herring. He had wet hair and no shoes, and Hollis had never seen him in her life.",
            "boy, Hollis",
            "back room",
        ),
        ("“Who are you?” she said. “Wednesday,” said the boy. “I got out.”", "Hollis, boy", "back room"),
        (
            "A board creaked in the front room. Her grandfather stood on the threshold with his lamp, and he looked not angry but afraid.",
            "grandfather",
            "boathouse",
        ),
        (
            "“Hollis,” he said quietly, “give Grandpa the bottle.” But Wednesday had already taken it out of her hand.",
            "grandfather, Hollis, boy",
            "boathouse",
        ),
        ("He pulled the cork, and the roof came off.", "boy", "boathouse"),
    ),
)

MARKET = Told(
    "many people",
    "prose",
    (
        (
            "On market day Kofi carried the big drum and his cousin Esi carried the small one. Their aunt walked ahead with the stools on her head, and whoever stood in her way soon did not.",
            "Kofi, Esi, aunt",
            "",
        ),
        (
            "The square was full. There were yam sellers and cloth sellers, goats, a dentist under an umbrella, and a soldier asleep against the pump.",
            "sellers, goats, dentist, soldier",
            "square",
        ),
        ("Auntie put the stools down in the shade of the fig tree.", "aunt", "square"),
        ("“Play,” she said.", "aunt", "square"),
        (
            "Kofi played. It was not good. A goat lay down. Esi covered her eyes.",
            "Kofi, goat, Esi",
            "square",
        ),
        (
            "Then from the other side of the square another drum began to answer, low and slow, and the crowd parted, and there was the soldier with the upturned dentist's bucket between his knees.",
            "soldier",
            "square",
        ),
        (
            "Kofi listened. He let his hands go soft. He played into the gaps, and Esi came in on the small drum, and the yam sellers began to stamp.",
            "Kofi, Esi, sellers",
            "square",
        ),
        ("Even the goats stood up.", "goats", "square"),
        (
            "In the evening they walked home along the river, and their aunt carried everything and hummed.",
            "Kofi, Esi, aunt",
            "river",
        ),
    ),
)

FOUNTAIN_TWO = Told(
    "comic script",
    "fountain",
    (
        (
            "INT. TAILOR'S SHOP - DAY\n\nBolts of cloth up to the ceiling. OLD YUSUF, the tailor, pins a sleeve on a nervous GIANT who has to kneel to fit into the room.",
            "Old Yusuf, Giant",
            "Tailor's shop",
        ),
        (
            "\n\nOLD YUSUF\nArm up.\n\nGIANT\nIt's the roof.\n\nOLD YUSUF\nThen arm out.",
            "Old Yusuf, Giant",
            "Tailor's shop",
        ),
        (
            "\n\nThe arm goes out through the window and knocks the hat off a POLICEMAN in the street.",
            "Policeman",
            "street",
        ),
        ("\n\nThe policeman blows his whistle.", "Policeman", "street"),
        ("\n\nInside, Yusuf takes the pins out of his mouth and sighs.", "Old Yusuf", "Tailor's shop"),
        (
            "\n\nOLD YUSUF\nNow you have a hat.\n\nThe giant holds the tiny hat between two fingers.",
            "Old Yusuf, Giant",
            "Tailor's shop",
        ),
        (
            "\n\nEXT. ROOFTOPS - EVENING\n\nThe giant walks between the houses in his new blue suit. Children lean out of every window and cheer.",
            "Giant, Children",
            "Rooftops",
        ),
        (
            "\n\nOn his head sits the policeman's hat. In his breast pocket sits the policeman, beaming.",
            "Giant, Policeman",
            "Rooftops",
        ),
    ),
)

WORKED = (FOLK, PRESENT, SINGLE_QUOTES, MOTHER_AND, FIRST_PERSON, SCRIPT, SPACE)
LAST = (CITY, VERSE, DASHES, BUGS, HARBOUR_GIRL, MARKET, FOUNTAIN_TWO)
