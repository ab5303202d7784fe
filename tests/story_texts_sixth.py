"""Five made-up texts more, broken down by hand when all numbers and rules stood, and read once (the docs have the rates)."""

from __future__ import annotations

from tests.story_texts import Told

UMBRELLA = Told(
    "the umbrella that would not close",
    "prose",
    (
        (
            "Gustav bought the umbrella at the flea market for two coins. It was green, and the handle was carved like a heron's head.",
            "Gustav",
            "market",
        ),
        (
            "On the way home it began to rain. He opened the umbrella, and it said quite clearly: “At last.”",
            "Gustav",
            "way",
        ),
        (
            "Gustav was a polite man. “Good evening,” he answered. An old lady at the tram stop moved away from him.",
            "Gustav, lady",
            "stop",
        ),
        (
            "In his hallway he tried to close it. It would not close. He pulled, he pushed, he sat on it. Finally he squeezed it sideways through the bedroom door.",
            "Gustav",
            "hallway",
        ),
        (
            "That night he slept under the umbrella. It told him about Africa, and about a river as wide as a country. Towards morning Gustav began to pack.",
            "Gustav",
            "bedroom",
        ),
        (
            "The station master shook his head. “You can't board with that thing open, sir.” So they walked.",
            "master, Gustav",
            "station",
        ),
        (
            "Three years later a fisherman on the great river saw a heron rise from the reeds. A thin man stood beneath it with an empty handle in his hand, waving.",
            "fisherman, Gustav",
            "river",
        ),
    ),
)

LIBRARY = Told(
    "the bear in the library",
    "prose",
    (
        (
            "The library in Holm has a rule: no food, no shouting, no bears. Nobody knew why the third one was there until Tuesday.",
            "",
            "library",
        ),
        (
            "Mrs Quist was stamping books at the desk when the door opened and a bear came in. He wiped his paws on the mat, all four of them.",
            "Quist, bear",
            "library",
        ),
        (
            "“We don't allow bears,” whispered Mrs Quist. “I read very quietly,” whispered the bear.",
            "Quist, bear",
            "library",
        ),
        (
            "He went to the children's corner and sat down on a cushion, which was never the same again. Selma and her little brother slid closer. The bear held the book upside down.",
            "bear, Selma, brother",
            "corner",
        ),
        (
            "“Shall I show you?” asked Selma. She turned it round for him and put her finger under the first word.",
            "Selma, bear",
            "corner",
        ),
        (
            "By closing time they had read eleven books. Outside it was getting dark, and the streetlamps were reflected in the wet pavement. The bear carried the boy home on his shoulders.",
            "bear, brother, Selma",
            "pavement",
        ),
        (
            "On Wednesday Mrs Quist climbed on a chair with a pot of paint. The rule is shorter now.",
            "Quist",
            "library",
        ),
    ),
)

WELLS = Told(
    "two wells",
    "prose",
    (
        (
            "Once two brothers lived on either side of a hill. Anders had a well with sweet water, and Nils had a well with bitter water, and neither had spoken to the other for twenty years.",
            "Anders, Nils",
            "hill",
        ),
        (
            "Every evening Nils went out to his well, drank, made a face, and went back in.",
            "Nils",
            "well",
        ),
        (
            "One summer no rain fell. The sweet well ran dry. Anders let down the bucket, and it came up with nothing in it but a toad.",
            "Anders, toad",
            "well",
        ),
        (
            "“Your brother still has some,” croaked the toad. Anders kicked a stone. He was very thirsty.",
            "toad, Anders",
            "well",
        ),
        (
            "At midnight he crept over the top of the hill with a jug under his coat. The grass was so dry that it crackled at every step.",
            "Anders",
            "hill",
        ),
        (
            "Nils was sitting on the edge of his well in the moonlight. He held out a cup. “It's horrible,” he said. “You get used to it.”",
            "Nils, Anders",
            "well",
        ),
        (
            "They drank and pulled faces until the sun came up. When the rain returned, they dug a ditch from one well to the other, and now the water in both tastes like water.",
            "Anders, Nils",
            "ditch",
        ),
    ),
)

CIRCUS = Told(
    "the smallest circus",
    "prose",
    (
        (
            "The smallest circus in the world came to our village in a suitcase. A man with a moustache opened it on the counter of the bakery, and my mother stopped slicing.",
            "man, mother",
            "bakery",
        ),
        (
            "There was a ring of sawdust, no bigger than a plate. Out of the curtain marched a flea in a red coat. She bowed.",
            "flea",
            "bakery",
        ),
        (
            "I had to use the magnifying glass. The flea danced on a hair, she juggled with poppy seeds, and for the finale she jumped through a burning match.",
            "I, flea",
            "bakery",
        ),
        (
            "When we clapped, the man began to cry. “She is the last one,” he said. “There used to be forty.”",
            "man, I, mother",
            "bakery",
        ),
        (
            "I ran up to the attic and whistled for our dog. Bosco was old and lay on the rug all day, and he scratched a lot.",
            "I, Bosco",
            "attic",
        ),
        (
            "We stood in the doorway of the bakery, Bosco and I. The flea looked at him for a long moment. Then she took a run.",
            "I, Bosco, flea",
            "doorway",
        ),
        (
            "The circus never left. On Saturdays there are performances on our kitchen table. You have to hold your breath.",
            "",
            "kitchen",
        ),
    ),
)

SIGNAL = Told(
    "signal from the deep station",
    "prose",
    (
        (
            "In the deep station, four thousand metres under the ice, Dr Okafor poured herself a cup of tea and listened to the walls creak.",
            "Okafor",
            "station",
        ),
        (
            "The instruments had been silent for a month. Now a needle twitched. It drew a curve, then the same curve again.",
            "",
            "station",
        ),
        (
            "“Somebody is knocking,” she said to the cat. She pulled on the heavy suit, screwed down the helmet and stepped into the lock.",
            "Okafor, cat",
            "lock",
        ),
        (
            "Outside her lamp made a small yellow room in the water. Snow drifted through it, upwards. She followed the cable to the third buoy.",
            "Okafor",
            "water",
        ),
        (
            "Something sat on the buoy. It had a great many arms, and with one of them it was tapping patiently on the metal.",
            "something",
            "buoy",
        ),
        (
            "Dr Okafor tapped back. The creature changed colour from grey to rose, and from rose to a blue that she had no word for.",
            "Okafor, creature",
            "buoy",
        ),
        (
            "She stayed until her air was nearly gone. In the station the tea was cold. The cat sniffed at her gloves, and its fur stood on end.",
            "Okafor, cat",
            "station",
        ),
    ),
)

READ_ONCE = (UMBRELLA, LIBRARY, WELLS, CIRCUS, SIGNAL)
