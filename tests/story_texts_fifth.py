"""Fourteen made-up texts of many kinds, broken down by hand: what the numbers of the breakdown are set on, beside the older ones."""

from __future__ import annotations

from tests.story_texts import Told


def _told(name: str, *moments: tuple[str, str, str]) -> Told:
    return Told(name, "prose", moments)


SET_ON = (
    _told(
        "a diary from a farm",
        (
            "I was feeding the hens when the letter came. The postman leaned his bicycle against the gate and waved it at me.",
            "I, postman",
            "gate",
        ),
        (
            "I read it in the barn, where nobody could see my face. It was from the city school. They wanted me in September.",
            "I",
            "barn",
        ),
        (
            "At supper I said nothing. Father cut the bread, Mother poured the milk, and Hannes kicked me under the table.",
            "I, Father, Mother, Hannes",
            "supper",
        ),
        (
            "In the night I climbed down the ladder and went out to the cow shed. Berta turned her big head.",
            "I, Berta",
            "shed",
        ),
        (
            "“I have to go away,” I told her. She breathed on my neck, warm and wet, and went on chewing.",
            "I, Berta",
            "shed",
        ),
        (
            "In the morning the letter lay on the kitchen table, smoothed flat. “Well,” said Father, “you will need shoes.”",
            "Father, I",
            "kitchen",
        ),
    ),
    _told(
        "a detective who is a rat",
        (
            "Rain ran down the windows of the office. Inspector Tunk, a rat of middle age, sat behind a matchbox and cleaned his whiskers.",
            "Tunk",
            "office",
        ),
        (
            "“Somebody has stolen the cheese,” said the lady in the doorway. She wore a veil, and she smelled of cellar.",
            "lady, Tunk",
            "office",
        ),
        (
            "They took the drainpipe to Cutler Street. The larder of number nine was dark, and on the shelf was a ring of crumbs.",
            "Tunk, lady",
            "larder",
        ),
        ("Tunk crawled along the shelf with his glass. “Big feet,” he muttered. “Two of them left.”", "Tunk", "larder"),
        (
            "The trail led through a crack, behind the stove and out onto the fire escape. There sat a kitten, rather fat, licking its paw.",
            "Tunk, kitten",
            "escape",
        ),
        (
            "“I was hungry,” said the kitten. Tunk looked at the lady, and the lady looked at her shoes.",
            "kitten, Tunk, lady",
            "escape",
        ),
        ("Back in his office he wrote one word on the file. The word was: milk.", "Tunk", "office"),
    ),
    _told(
        "the swimming lesson",
        (
            "Every Thursday class two went to the swimming pool, and every Thursday Malik had a stomach ache.",
            "Malik",
            "pool",
        ),
        (
            "He sat on the bench in the changing room and tied his shoes again and again. The others were already shrieking.",
            "Malik",
            "room",
        ),
        (
            "“Your laces are very tidy,” said somebody. In the next cubicle stood a boy in a towel with ducks on it.",
            "boy, Malik",
            "room",
        ),
        (
            "“I'm Anselm. I can't swim either,” said the boy. They went out together and looked at the water. It was extremely blue.",
            "boy, Malik",
            "pool",
        ),
        (
            "They sat down on the edge and put in their feet. Then their knees. The teacher pretended not to see them.",
            "Malik, boy, teacher",
            "pool",
        ),
        (
            "On the bus home Malik's hair was wet. He leaned his forehead against the window and grinned at everyone who passed.",
            "Malik",
            "bus",
        ),
    ),
    _told(
        "the lighthouse cat",
        (
            "High above the sea, in a room full of glass, lived a cat called Captain. She had never set a paw on land.",
            "Captain",
            "room",
        ),
        (
            "Each evening the keeper climbed the two hundred steps, lit the lamp, and gave her a herring.",
            "keeper, Captain",
            "room",
        ),
        (
            "One evening he did not come. Captain waited on the sill. The first star appeared, and the lamp was dark.",
            "Captain",
            "sill",
        ),
        (
            "Step by step she went down. It grew colder with every turn. At the bottom the door was open, and sand had blown in.",
            "Captain",
            "bottom",
        ),
        (
            "The keeper lay on the path with his leg under him. “Good cat,” he groaned. “Fetch somebody.”",
            "keeper, Captain",
            "path",
        ),
        (
            "So she ran across the sand, along the sea wall, and into the village. In the first house they were playing cards.",
            "Captain",
            "house",
        ),
        (
            "Captain jumped onto the table and howled like a storm. Four fishermen put down their cards and followed her.",
            "Captain, fishermen",
            "house",
        ),
        (
            "That night two lamps burned in the tower: one for the ships, and one by the bed of the keeper, on whose feet a cat was sleeping.",
            "keeper, Captain",
            "tower",
        ),
    ),
    _told(
        "robots on strike",
        (
            "The factory on the edge of town made teapots, and robots made the teapots. One Tuesday they stopped.",
            "robots",
            "factory",
        ),
        (
            "“What is the matter?” shouted Director Plum from the gallery. Four hundred heads turned towards him with a soft whirr.",
            "Plum, robots",
            "factory",
        ),
        ("“We would like to know,” said a small robot in the front row, “what tea is.”", "robot", "factory"),
        (
            "Plum went back into his office and closed the blinds. He thought for a long while. Then he telephoned his mother.",
            "Plum",
            "office",
        ),
        (
            "Old Mrs Plum arrived with three cakes and her best cloth. She laid it over the conveyor belt, and the kettle sang.",
            "Plum, robots",
            "factory",
        ),
        (
            "The robots could not drink, of course. But they held the warm cups in their grippers, and nobody wanted to go home.",
            "robots, Plum",
            "factory",
        ),
    ),
    _told(
        "three wishes for a goat",
        (
            "In the mountains, where the paths are no wider than a goat, there lived a goat named Frieda.",
            "Frieda",
            "mountains",
        ),
        (
            "While she was grazing by the waterfall, she found a bottle. She pulled out the cork with her teeth, and a spirit floated out.",
            "Frieda, spirit",
            "waterfall",
        ),
        (
            "“You have three wishes,” yawned the spirit. “Grass,” said Frieda at once. And the grass grew up to her ears.",
            "spirit, Frieda",
            "waterfall",
        ),
        (
            "“More grass,” said Frieda. Now she could no longer see anything. Somewhere the spirit sneezed.",
            "Frieda, spirit",
            "waterfall",
        ),
        (
            "The farmer's daughter was coming up from the valley with a bucket. She stopped before the green wall and called.",
            "daughter",
            "wall",
        ),
        (
            "“Here I am!” cried Frieda. “I wish somebody would come and eat with me!” And the cows came, and the sheep, and even the old mule.",
            "Frieda, cows, sheep, mule",
            "wall",
        ),
        (
            "By evening the meadow was as short as a carpet. They lay in it, all of them, and looked up at the snow on the peaks.",
            "Frieda, cows, sheep, mule",
            "meadow",
        ),
    ),
    _told(
        "a tunnel under the school",
        (
            "Behind the boiler in the school basement there was a door as high as a chair. Only Pia and Oleg knew about it.",
            "Pia, Oleg",
            "basement",
        ),
        (
            "“You first,” said Oleg. The passage was so narrow that they had to push their bags in front of them.",
            "Oleg, Pia",
            "passage",
        ),
        (
            "After a while they heard music. Pia put her eye to a grating. Below them lay a hall with golden seats.",
            "Pia, Oleg",
            "passage",
        ),
        (
            "On the stage a man in a dressing gown was practising the tuba. He played one wrong note, always the same.",
            "man",
            "stage",
        ),
        ("“F sharp!” Pia shouted through the grating. The man fell off his stool.", "Pia, man", "stage"),
        (
            "Later they sat beside him in the golden seats and ate his sandwiches. “Forty years,” he said. “And nobody ever told me.”",
            "Pia, Oleg, man",
            "seats",
        ),
        (
            "They were late for maths. Mrs Haddad was standing in the corridor with folded arms, but from under the floor came, quite clearly, an F sharp.",
            "Haddad, Pia, Oleg",
            "corridor",
        ),
    ),
    _told(
        "the snow leopard and the tea",
        (
            "At the top of the pass stood a tea house made of stones and flags. An old woman kept it, and she kept it alone.",
            "woman",
            "pass",
        ),
        (
            "On the coldest night of the winter somebody scratched at her door. Outside, in the snow, sat a leopard.",
            "woman, leopard",
            "door",
        ),
        (
            "“Come in or stay out,” said the old woman, “but shut the door.” The leopard came in.",
            "woman, leopard",
            "house",
        ),
        (
            "It lay down before the fire, and steam rose from its coat. She filled a bowl with tea and butter and pushed it across the floor with her foot.",
            "leopard, woman",
            "house",
        ),
        ("They looked into the flames until midnight. Neither of them said a word.", "woman, leopard", "house"),
        (
            "In the morning there were only tracks. They went round the house once, and then straight up the ridge, until they ended in the sky.",
            "",
            "ridge",
        ),
    ),
    _told(
        "moving day",
        (
            "The removal van was full. Only the cactus stood in the empty room, and beside the cactus stood Lotte.",
            "Lotte",
            "room",
        ),
        (
            "“I'm staying,” she said. Dad wiped his forehead. “The bath is already in the van,” he said. “And your bed. And the cat.”",
            "Lotte, Dad",
            "room",
        ),
        (
            "So Lotte said goodbye. She said it to the stairs, to the letter box, and to the crack in the front step that looked like a horse.",
            "Lotte",
            "step",
        ),
        (
            "All the way she held the cactus on her lap. On the motorway it began to rain. The cat complained in three languages.",
            "Lotte, cat",
            "motorway",
        ),
        (
            "The new house was yellow and smelled of paint. Her steps echoed. In the garden, though, there was a wall, and on the wall sat a girl.",
            "Lotte, girl",
            "garden",
        ),
        (
            "“Is that a real cactus?” asked the girl. Lotte held it up to her. “Careful,” she said. “He bites.”",
            "girl, Lotte",
            "garden",
        ),
    ),
    _told(
        "the last dragon of the lake",
        (
            "The villagers rowed out at dawn. In the first boat sat the priest, in the second the smith, and in the third a girl named Sunniva with a drum.",
            "priest, smith, Sunniva",
            "boat",
        ),
        (
            "In the middle of the lake they stopped and waited. Mist lay on the water. Nobody dared to cough.",
            "priest, smith, Sunniva",
            "lake",
        ),
        (
            "Slowly, like an island, the dragon's head came up. It was green with weed, and one of its eyes was blind.",
            "dragon",
            "lake",
        ),
        (
            "The smith lifted his harpoon. But Sunniva began to drum, very quietly, the way rain drums on a roof.",
            "smith, Sunniva",
            "lake",
        ),
        (
            "The dragon laid its chin on the edge of her boat and closed its eye. “It only wants company,” she said.",
            "dragon, Sunniva",
            "boat",
        ),
        (
            "Since then she goes down to the shore every evening with her drum. And if you stand on the church hill, you can hear somebody answering, far out.",
            "Sunniva",
            "shore",
        ),
    ),
    _told(
        "shadow theatre",
        (
            "The power had been off since four. Grandpa hung a sheet across the hallway and put a candle behind it.",
            "Grandpa",
            "hallway",
        ),
        (
            "“Ladies and gentlemen,” he said to Nadim, who was the only one there, “the theatre is open.”",
            "Grandpa, Nadim",
            "hallway",
        ),
        (
            "First a rabbit hopped over the sheet. Then a crocodile came and ate the rabbit. Nadim knew that they were only hands.",
            "rabbit, crocodile, Nadim",
            "hallway",
        ),
        (
            "But when the crocodile turned round and winked, he moved a little further back.",
            "crocodile, Nadim",
            "hallway",
        ),
        (
            "Then the lamps went on. In the kitchen the fridge began to hum. Grandpa came out from behind the sheet and blew out the candle.",
            "Grandpa",
            "hallway",
        ),
        ("“Again,” said Nadim, and he ran to the wall and pressed the switch.", "Nadim", "hallway"),
        (
            "At bedtime he lay under his blanket with the torch. On the ceiling above him a rabbit was hopping, and this time it got away.",
            "Nadim, rabbit",
            "ceiling",
        ),
    ),
    _told(
        "a stowaway in space",
        ("Cargo ship Marigold was nine days out from Ceres when the potatoes began to sing.", "", "ship"),
        (
            "Captain Adeyo floated down the long shaft to hold number six and put her ear to the hatch. “Alto,” she said. “Possibly two.”",
            "Adeyo",
            "shaft",
        ),
        (
            "She opened it. Between the sacks, upside down, hung a girl in a spacesuit far too large for her.",
            "Adeyo, girl",
            "hold",
        ),
        (
            "“I can pay,” said the girl quickly. “With songs.” The captain scratched her chin. There was nothing about songs in the regulations.",
            "girl, Adeyo",
            "hold",
        ),
        (
            "From then on there was music in the galley. The cook beat time with his ladle, and the engineer cried into her soup.",
            "cook, engineer, girl",
            "galley",
        ),
        (
            "On the bridge the stars stood still before the window. “Where do you want to get off?” asked the captain.",
            "Adeyo, girl",
            "bridge",
        ),
        ("“I don't,” said the girl.", "girl", "bridge"),
    ),
    _told(
        "the apple thief of the convent",
        (
            "Behind the convent wall grew the best apples in the county. Sister Agnes counted them every morning from the ladder.",
            "Agnes",
            "wall",
        ),
        (
            "One hundred and six. Yesterday there had been one hundred and seven. She climbed down and looked for footprints among the leeks.",
            "Agnes",
            "leeks",
        ),
        (
            "“It was an angel,” whispered Sister Clara at breakfast. The refectory fell silent. Thirty spoons hung in the air.",
            "Clara",
            "refectory",
        ),
        (
            "That night Agnes hid in the compost heap with a lantern under her cloak. An owl called. Something came over the wall.",
            "Agnes",
            "heap",
        ),
        (
            "It was a hedgehog, and behind it came five more. They rolled in the grass until apples stuck to their backs.",
            "hedgehogs, Agnes",
            "grass",
        ),
        (
            "Agnes laughed so loudly that lights went on in the dormitory. One after another the sisters leaned out in their nightcaps.",
            "Agnes, sisters",
            "dormitory",
        ),
        ("In the chapel next morning an apple lay on the altar. It had a small bite in it.", "", "chapel"),
    ),
    _told(
        "a ghost on the ferris wheel",
        ("The fair came to our town every May and put up its tents on the meadow by the canal.", "", "meadow"),
        (
            "My cousin Bo had money for one ride. We got into the last gondola of the big wheel, and there was already somebody in it.",
            "I, Bo",
            "gondola",
        ),
        (
            "“Don't mind me,” said the ghost. You could see the bolts through him. “I only ride for the view.”",
            "ghost, I, Bo",
            "gondola",
        ),
        (
            "We rose above the roofs. Far away the sea was shining like tin. Bo forgot to be afraid and forgot her candyfloss.",
            "Bo, I, ghost",
            "gondola",
        ),
        (
            "“There,” said the ghost, and pointed. “That window over the chemist's. That was mine.” A woman was watering tomatoes in it.",
            "ghost, woman",
            "window",
        ),
        (
            "When we came down he stayed in his seat. The man at the lever let the bar fall, and the wheel carried him up again.",
            "ghost, man",
            "gondola",
        ),
        (
            "We walked home along the canal without talking. In the window over the chemist's a light was burning, and we waved to it, just in case.",
            "I, Bo",
            "canal",
        ),
    ),
)
