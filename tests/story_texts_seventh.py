"""Five made-up texts, broken down by hand when the rules stood, and read once: no number is set on them and nothing was mended on them."""

from __future__ import annotations

from tests.story_texts import Told


def _told(name: str, *moments: tuple[str, str, str]) -> Told:
    return Told(name, "prose", moments)


READ_ONCE = (
    _told(
        "the weather man's daughter",
        (
            "Halina's father made the weather. He had a shed behind the house with nine levers in it, and nobody was allowed to touch them.",
            "father",
            "shed",
        ),
        (
            "One Saturday he fell off the ladder and broke his arm. The doctor came and put it in plaster.",
            "father, doctor",
            "shed",
        ),
        (
            "“Who is going to make it rain?” he moaned from the sofa. “The farmers are waiting.”",
            "father",
            "sofa",
        ),
        (
            "Halina went out to the shed. She looked at the levers for a long time, and then she pulled the biggest one.",
            "Halina",
            "shed",
        ),
        (
            "Down in the village the farmers looked up. It was raining lemonade. The baker ran into the street with a bucket.",
            "farmers, baker",
            "village",
        ),
        (
            "Halina came back to the house with sticky hair. “I think I found a new one,” she said, and her father laughed until his plaster cracked.",
            "Halina, father",
            "house",
        ),
    ),
    _told(
        "a goat on the roof",
        (
            "There is a goat on the roof of the school. Nobody knows how it got there. It is eating the gutter.",
            "goat",
            "roof",
        ),
        (
            "Mr. Brandt, the caretaker, leans a ladder against the wall. He climbs up. The goat looks at him and climbs higher.",
            "Mr. Brandt, goat",
            "roof",
        ),
        (
            "In the yard the children cheer. A tall girl with braids makes bets. A small boy in a cape has bet his lunch on the goat.",
            "children, tall girl, small boy",
            "yard",
        ),
        (
            "“Come down at once,” says the headmistress. She does not say whom she means.",
            "headmistress",
            "yard",
        ),
        (
            "Mr. Brandt holds out an apple. The goat stretches its neck. It takes the apple, and the hat, and one of his sleeves.",
            "Mr. Brandt, goat",
            "roof",
        ),
        (
            "The small boy eats his lunch under the chestnut tree. He gives the crust to the goat, which has come down by itself.",
            "small boy, goat",
            "tree",
        ),
    ),
    _told(
        "the night watch",
        (
            "When my brother was ill we took turns at sitting by his bed. I had the hours from two to four.",
            "I, brother",
            "bed",
        ),
        (
            "The house ticked. I counted the roses on the wallpaper. On the chair lay our grandmother's knitting, with the needles still in it.",
            "I",
            "bed",
        ),
        (
            "At three o'clock the door opened and a fox came in. It walked across the carpet as if it had an appointment.",
            "fox, I",
            "bed",
        ),
        (
            "“How is he?” it asked. “Hot,” I said. The fox jumped onto the bed and laid its cold nose against his neck.",
            "fox, I, brother",
            "bed",
        ),
        (
            "In the morning Mother found me asleep on the floor. My brother was sitting up. He was eating toast, and there were paw prints all over the quilt.",
            "Mother, I, brother",
            "bed",
        ),
    ),
    _told(
        "two kings and a bridge",
        (
            "Between two kingdoms ran a river, and over the river went a bridge that was just wide enough for one.",
            "",
            "bridge",
        ),
        (
            "One day two kings met in the middle of it. The fat one came from the north. The thin one came from the south.",
            "fat king, thin king",
            "bridge",
        ),
        (
            "“Back,” said the fat king. “Back yourself,” said the thin king. They stood nose to nose until the sun went down.",
            "fat king, thin king",
            "bridge",
        ),
        (
            "A fisherwoman who lived under the bridge brought them soup. “It is only one bowl,” she said. “You will have to share.”",
            "fisherwoman, fat king, thin king",
            "bridge",
        ),
        (
            "So they sat down with their legs over the edge and passed the spoon. The thin king told a joke. The fat king choked on a noodle.",
            "fat king, thin king",
            "bridge",
        ),
        (
            "In the morning they went home, each to the other's castle, and it was a week before anybody noticed.",
            "fat king, thin king",
            "castle",
        ),
    ),
    _told(
        "the last bus to the moon",
        (
            "The bus stop stood on the hill behind the gasworks. Anouk had found it on a map that was older than the town.",
            "Anouk",
            "hill",
        ),
        (
            "She waited with her cello between her knees. A man in a diving suit was waiting too. He nodded to her.",
            "Anouk, man",
            "hill",
        ),
        (
            "At midnight the bus came, not along the road but down out of the sky. Its driver was a badger named Rosalie.",
            "Rosalie, Anouk, man",
            "hill",
        ),
        (
            "“One and a half to the moon,” said the man, “and a cello.” They climbed the steps. The badger punched their tickets with her teeth.",
            "man, Anouk, Rosalie",
            "bus",
        ),
        (
            "Anouk pressed her face against the window. Below them lay the town, no bigger than a tray of cups.",
            "Anouk",
            "bus",
        ),
        (
            "On the moon it was quiet. She sat down on a stone and tuned the strings. The man took off his helmet and wept.",
            "Anouk, man",
            "moon",
        ),
    ),
)
