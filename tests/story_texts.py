"""Six made-up texts of different kinds, broken down by hand: where a new picture begins, who is in it, and where it is.

Each moment is (words, cast, places); `#` and screenplay headings stand before the moment that they open. The cast are those who
are to be seen, also when a pronoun names them; a place counts where the words or the scene's heading name it.
"""

from __future__ import annotations

from dataclasses import dataclass

Moment = tuple[str, str, str]


@dataclass(frozen=True)
class Told:
    """A text with its hand-made truth."""

    name: str
    syntax: str
    moments: tuple[Moment, ...]
    joint: str = " "

    @property
    def text(self) -> str:
        """The moments one after another; a moment that begins with a line feed starts a paragraph or a scene."""
        parts: list[str] = []
        for words, _, _ in self.moments:
            parts.append(words if not parts or words.startswith("\n") else self.joint + words)
        return "".join(parts)


PICTURE_BOOK = Told(
    "picture book",
    "prose",
    (
        (
            "# The bakery\n\nEvery morning before the birds were up, Mina lit the big oven in the bakery.",
            "Mina",
            "bakery",
        ),
        ("Her grandfather Tobias shaped the loaves, and he never used a clock.", "Tobias, Mina", "bakery"),
        ("\n\nThen one morning the oven would not light.", "", "bakery"),
        (
            "Mina blew on the coals until her cheeks were grey. She tried feathers, and twigs, and a page of old sums.",
            "Mina",
            "bakery",
        ),
        ("“It is sulking,” said Tobias. “Somebody must say sorry to it.”", "Tobias", "bakery"),
        ("\n\n# The square\n\nOutside in the square the whole village was waiting with empty baskets.", "", "square"),
        ("The mayor looked at his watch. A goose looked at the mayor.", "mayor, goose", "square"),
        ("Mina climbed on the fountain and shouted that there would be no bread today.", "Mina", "square"),
        (
            "\n\n# The bakery\n\nBack in the bakery Tobias was sitting in front of the oven with his hat in his hands.",
            "Tobias",
            "bakery",
        ),
        ("“I am sorry,” he said to it, “that I called you old.”", "Tobias", "bakery"),
        ("\n\nA small red light began to glow. Mina held her breath.", "Mina", "bakery"),
        ("By noon every basket in the village was full, and the goose had eaten two rolls.", "goose", ""),
    ),
)

DIALOGUE = Told(
    "dialogue",
    "prose",
    (
        ("Ruben put the letter on the kitchen table and did not sit down.", "Ruben", "kitchen"),
        ("\n\n“You opened it,” said Ilse.", "Ilse", ""),
        ("\n\n“It was addressed to both of us,” said Ruben.", "Ruben", ""),
        (
            "\n\n“It says nothing about the boat,” she said. She turned the page over, and there was nothing on the back.",
            "Ilse",
            "",
        ),
        (
            "\n\n“It says he is coming home. That is about the boat.”\n\n“Don't shout.”\n\n“I am not shouting,” Ruben shouted.",
            "Ruben",
            "",
        ),
        (
            "\n\nIn the doorway stood Little Anton in his pyjamas, holding a wooden whale by the tail.",
            "Little Anton",
            "doorway",
        ),
        ("\n\n“Is Papa coming?” asked Anton.", "Little Anton", ""),
        (
            "\n\nIlse knelt down and buttoned his collar. “On Thursday,” she said. “If the wind lets him.”",
            "Ilse, Little Anton",
            "",
        ),
        ("\n\nRuben went to the window. The harbour was full of fog.", "Ruben", "window, harbour"),
        ("\n\n“Then we must paint it,” said Ilse behind him, “before he sees what we did to it.”", "Ilse, Ruben", ""),
    ),
)

ACTION = Told(
    "action",
    "prose",
    (
        (
            "The rope snapped. Kestrel fell backwards off the tower, hit the awning of the fish stall, and bounced.",
            "Kestrel",
            "tower",
        ),
        ("Behind her the three guards came down the stairs with their lanterns swinging.", "guards", "stairs"),
        ("\n\nShe ran along the wall, jumped the gap, and slid under a cart.", "Kestrel", "wall"),
        (
            "Orlo was already on the roof. He threw down the second rope and braced his feet against the chimney.",
            "Orlo",
            "roof",
        ),
        ("\n\nA crossbow bolt split the wood beside her head.", "", ""),
        ("Kestrel grabbed the rope and climbed.", "Kestrel", ""),
        ("\n\nOn the bridge Captain Vane raised one hand, and every guard stopped.", "Captain Vane, guards", "bridge"),
        ("He took off his helmet. He was smiling.", "Captain Vane", "bridge"),
        ("\n\nMeanwhile, under the bridge, the boat had begun to sink.", "", "bridge"),
        ("Orlo looked down and saw the water close over the bow.", "Orlo", ""),
        (
            "\n\nKestrel did not look down. She cut the banner loose and let the wind take her over the river.",
            "Kestrel",
            "river",
        ),
    ),
)

NO_NAMES = Told(
    "no names",
    "prose",
    (
        ("The old woman lived at the end of the road, where the road forgets that it is one.", "old woman", "road"),
        ("She had a dog, and the dog had a stone.", "old woman, dog", ""),
        (
            "\n\nEvery evening the dog carried the stone to the river and every evening it carried it back.",
            "dog",
            "river",
        ),
        ("\n\nOne day a boy came up the road with a sack on his shoulder.", "boy", "road"),
        ("He asked for water. The old woman gave him soup.", "boy, old woman", ""),
        ("\n\n“What is in the sack?” she asked.\n\n“Stones,” said the boy.", "old woman, boy", ""),
        ("\n\nThe dog put its own stone down at his feet. Nobody said anything for a while.", "dog, boy", ""),
        (
            "\n\nAt night they heard the sack talking in the kitchen, very softly, like gravel under a boat.",
            "",
            "kitchen",
        ),
        ("\n\nIn the morning the boy was gone. On the step lay a stone shaped like a dog.", "dog", "step"),
        ("The old woman put it in the garden, and it grew.", "old woman", "garden"),
    ),
)

SECOND_PERSON = Told(
    "second person",
    "prose",
    (
        ("## Morning\n\nYou wake up in a tent, and something has eaten your left boot.", "you", "tent"),
        ("You crawl outside. The forest is full of steam.", "you", "forest"),
        ("\n\nA bear is sitting by the fire with your hat on its head.", "bear", "fire"),
        ("It offers you a cup of tea.", "bear, you", "fire"),
        ("\n\n## Noon\n\nBy noon you have followed the bear as far as the waterfall.", "you, bear", "waterfall"),
        ("It points at the top with its spoon.", "bear", ""),
        ("You climb. The rock is warm, and it hums under your hands.", "you", ""),
        ("\n\nAt the top stands a very small house, no bigger than a letter box.", "", "house"),
        ("You knock with one finger.", "you", "house"),
        (
            "\n\n## Night\n\nThe ranger finds you asleep in your tent, both boots on, with crumbs in your beard.",
            "ranger, you",
            "tent",
        ),
    ),
)

SCRIPT = Told(
    "script",
    "fountain",
    (
        (
            "Title: The Night Tram\nCredit: a short\n\nEXT. TRAM STOP - NIGHT\n\nRain. JONA, ten, stands under a broken umbrella. Nobody else is there.",
            "Jona",
            "tram stop",
        ),
        ("\n\nA tram without lights rolls up and opens its doors.", "", "tram stop"),
        (
            "\n\nINT. TRAM - CONTINUOUS\n\nJona walks down the empty aisle. On the last seat a CONDUCTOR made of brass is polishing his own elbow.",
            "Jona, Conductor",
            "tram",
        ),
        ("\n\nCONDUCTOR\n(not looking up)\nTicket.", "Conductor", "tram"),
        ("\n\nJONA\nI only have a button.", "Jona", "tram"),
        ("\n\nThe Conductor takes the button, bites it, and hands it back.", "Conductor", "tram"),
        ("\n\nCONDUCTOR\nThat will take you as far as the sea.", "Conductor", "tram"),
        ("\n\nEXT. BEACH - DAWN\n\nThe tram stands in the surf up to its windows. Gulls on the roof.", "", "beach"),
        ("\n\nJona steps down into the water with her shoes in her hand.", "Jona", "beach"),
        ("\n\nJONA\n(calling back)\nWho pays for the way home?", "Jona", "beach"),
        ("\n\nThe Conductor raises his cap. The doors close.", "Conductor", "beach"),
    ),
)

TEXTS = (PICTURE_BOOK, DIALOGUE, ACTION, NO_NAMES, SECOND_PERSON, SCRIPT)
