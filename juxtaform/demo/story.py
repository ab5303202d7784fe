"""The demo's story, its shots and its threads, in words."""

from __future__ import annotations

from dataclasses import dataclass

TITLE = "Pell and the Borrowed Tide"
TARGET_S = 135.0
PACE = 1.12
"""Read a little faster than usual: there is much to tell in two minutes."""
PREMISE = "The tide has not come back, and a girl borrows a key to find out who is keeping it."
TONE = "warm, quiet, a little funny"
CAST = (
    ("Pell", "nine, apprentice at a harbour light"),
    ("Oda", "seventy, keeper of the light"),
    ("Sprocket", "a brass crab who knows more than he says"),
)
ANSWERS = (
    "The boats lie on their sides, and nobody may ask why.",
    "Pell looks for the tide key behind the clock, and is seen by nobody.",
    "She practises the stairs and goes to bed in her boots.",
    "",
    "The door under the light opens; the tide is asleep behind it.",
    "She blows the note that means dinner; the boats stand up.",
)
"""The frame in three tries, as far as it is filled."""

TEXT = """# The harbour steps, dusk

The tide had been gone three days. Pell sat on the bottom step, where the water ought to be, and dangled her boots in nothing. Sprocket tapped the dry stone twice and would not look at her. Up on the quay Oda counted the boats lying on their sides. “Nine,” she said. “And one of them is mine.”

# The lamp room, night

The tide key hung behind the clock, where nobody was supposed to know about it. Pell knew about it. She lifted it down while Sprocket held the chair. It was colder than it looked, and a good deal heavier. Then she put it back, and yawned for Oda to hear, and went to bed in her boots. Down the inside of the light go two hundred steps. She took the first fifty on tiptoe, to practise.

# The cave under the light

At midnight Pell came down again in her night-shirt, and this time she had the key. The door under the light was shaped like a shell. It opened with a sigh, as if it had been waiting for somebody small. Behind it lay the tide, fast asleep, curled round its own tail. Sprocket, who had known all along, hid his eye. “You might have said,” said Pell, and put the whistle to her lips and blew the note that means dinner.

# The harbour steps, dawn

The tide woke, and stretched, and remembered the sea. All along the harbour the boats stood up, one after another, like people who have dropped off in church. Pell stood on the top step with the key behind her back. Oda came out with two cups of tea and looked at the water for a long while. “Well,” she said, “there it is, then,” and hung her shawl over the hook where the key belonged.
"""


@dataclass(frozen=True)
class ShotFacts:
    """A shot as planned; `setting` with its variant after a colon, `cast` are its characters and props, `covers` the words it begins and ends with."""

    scene: int
    shows: str
    size: str
    angle: str
    move: str
    length_s: float
    setting: str
    cast: tuple[str, ...]
    covers: tuple[str, str]
    costume: str = ""
    spoken: str = ""
    speakers: tuple[str, ...] = ()
    motion: str = ""
    sound: str = ""
    music: str = ""
    notes: str = ""
    facings: tuple[tuple[str, str], ...] = ()
    stands: tuple[tuple[str, tuple[float, float, float, float]], ...] = ()
    move_frames: tuple[tuple[float, ...], tuple[float, ...]] | None = None


SHOTS = (
    ShotFacts(
        0,
        "Pell waits on the bottom step where the water ought to be; Sprocket keeps her company.",
        "WS",
        "eye level",
        "static",
        12.0,
        "steps:dusk",
        ("pell", "sprocket", "whistle"),
        ("The tide had", "in nothing."),
        stands=(("pell", (0.34, 0.26, 0.14, 0.53)), ("sprocket", (0.57, 0.76, 0.22, 0.14))),
    ),
    ShotFacts(
        0,
        "Sprocket taps the dry stone twice and looks guilty, Pell behind him.",
        "MS",
        "high",
        "static",
        6.5,
        "steps:dusk",
        ("pell", "sprocket", "whistle"),
        ("Sprocket tapped", "look at her."),
    ),
    ShotFacts(
        0,
        "Oda counts the boats lying on their sides in the mud.",
        "MS",
        "eye level",
        "pan",
        10.5,
        "steps:dusk",
        ("oda",),
        ("Up on the quay", "them is mine.”"),
        spoken="Nine. And one of them is mine.",
        speakers=("oda",),
        sound="gulls, far off",
        motion="Her finger goes from boat to boat.",
        move_frames=((0.0, 0.1, 0.72, 0.8), (0.28, 0.1, 0.72, 0.8)),
    ),
    ShotFacts(
        1,
        "Pell looks for the tide key behind the clock while Oda snores next door.",
        "MS",
        "low",
        "push in",
        8.5,
        "lamp",
        ("pell", "whistle", "key"),
        ("The tide key", "knew about it."),
        sound="a clock; snoring",
        move_frames=((0.0, 0.0, 1.0, 1.0), (0.22, 0.18, 0.6, 0.6)),
    ),
    ShotFacts(
        1,
        "Pell lifts the key down; Sprocket holds the chair.",
        "MS",
        "eye level",
        "static",
        12.0,
        "lamp",
        ("pell", "sprocket", "whistle", "key"),
        ("She lifted", "in her boots."),
    ),
    ShotFacts(
        1,
        "Pell on the two hundred steps down the inside of the light, on tiptoe.",
        "WS",
        "bird's eye",
        "tilt",
        9.5,
        "stairs",
        ("pell", "sprocket", "whistle"),
        ("Down the inside", "to practise."),
    ),
    ShotFacts(
        2,
        "In her night-shirt, the key in her hand, Pell finds the door that is shaped like a shell; Sprocket looks on.",
        "WS",
        "low",
        "static",
        17.5,
        "cave",
        ("pell", "sprocket", "whistle", "key"),
        ("At midnight", "somebody small."),
        "night-shirt",
    ),
    ShotFacts(
        2,
        "The tide lies asleep, curled round its own tail; Sprocket hides behind Pell.",
        "WS",
        "eye level",
        "static",
        10.0,
        "cave",
        ("pell", "sprocket", "whistle"),
        ("Behind it lay", "hid his eye."),
        "night-shirt",
    ),
    ShotFacts(
        2,
        "Pell puts the whistle to her lips.",
        "MS",
        "eye level",
        "push in",
        10.0,
        "cave",
        ("pell", "whistle"),
        ("“You might", "means dinner."),
        "night-shirt",
        "You might have said.",
        speakers=("pell",),
        sound="one long note on a tin whistle",
        music="stops",
        facings=(("pell", "right"),),
    ),
    ShotFacts(
        3,
        "Dawn: all along the harbour the boats stand up. Pell watches with Sprocket.",
        "WS",
        "eye level",
        "pan",
        14.5,
        "steps:dawn",
        ("pell", "sprocket", "whistle"),
        ("The tide woke", "in church."),
    ),
    ShotFacts(
        3,
        "Pell on the top step with the key behind her back, Sprocket at her feet.",
        "MS",
        "eye level",
        "static",
        6.5,
        "steps:dawn",
        ("pell", "sprocket", "whistle", "key"),
        ("Pell stood", "behind her back."),
    ),
    ShotFacts(
        3,
        "Oda looks at the water and pretends that she has noticed nothing; Pell beside her.",
        "WS",
        "eye level",
        "static",
        15.0,
        "steps:dawn",
        ("pell", "oda", "whistle"),
        ("Oda came out", "key belonged."),
        spoken="Well, there it is, then.",
        speakers=("oda",),
        music="the opening tune, once more",
        notes="Room for the last line at the lower left.",
    ),
)


@dataclass(frozen=True)
class ThreadFacts:
    """A thread in words; costumes have a wording, variants of a setting a wording, time and light."""

    key: str
    kind: str
    name: str
    wording: str
    aliases: tuple[str, ...] = ()
    short: str = ""
    must_keep: tuple[str, ...] = ()
    costumes: tuple[tuple[str, str], ...] = ()
    variants: tuple[tuple[str, str, str, str], ...] = ()
    owner: str = ""
    vocabulary: tuple[str, ...] = ()
    donts: tuple[str, ...] = ()


PALETTE = """GIMP Palette
Name: Cut-paper dusk
Columns: 4
#
 31  95 102\tDeep teal (lead)
 91  42  78\tPlum (lead)
239 185 164\tShell pink (other)
 13  74  78\tTeal of the deep (ground)
"""
SERVICE = {
    "name": "The printer’s desk",
    "text_limit": 1400,
    "picture_limit": 8,
    "picture_side_px": 640,
    "holds": ["figure", "face", "outfit", "place"],
    "aspects": ["3:2", "1:1"],
    "plate": False,
}
"""Whoever makes the pictures takes so much."""


THREADS = (
    ThreadFacts(
        "pell",
        "character",
        "Pell",
        "Pell, nine years old: copper hair in a short bob, mustard oilskin coat, green boots, a tin whistle on a cord.",
        short="Pell: copper bob, mustard oilskin, green boots, tin whistle.",
        must_keep=("tin whistle",),
        costumes=(("night-shirt", "A striped night-shirt down to her bare feet."),),
    ),
    ThreadFacts(
        "oda",
        "character",
        "Oda",
        "Oda, seventy, keeper of the light: a white plait, a plum-coloured shawl, round spectacles.",
        ("the keeper",),
        "Oda: white plait, plum shawl, round spectacles.",
    ),
    ThreadFacts(
        "sprocket", "character", "Sprocket", "Sprocket, a brass crab the size of a teapot with one blue glass eye."
    ),
    ThreadFacts(
        "steps",
        "setting",
        "Harbour steps",
        "Stone steps down to a small harbour with boats.",
        variants=(
            ("dusk", "the water gone, the boats on their sides in the mud", "at dusk", "low rose light from the right"),
            ("dawn", "the water back, the boats upright", "at dawn", "pale light over the water"),
        ),
    ),
    ThreadFacts(
        "lamp", "setting", "Lamp room", "The room under the great lamp at night: a window with stars, a clock."
    ),
    ThreadFacts("stairs", "setting", "Inner stair", "Two hundred steps down the inside of the light."),
    ThreadFacts("cave", "setting", "Cave", "The cave under the light, round and deep teal."),
    ThreadFacts(
        "style",
        "style",
        "Cut-paper dusk",
        "Flat torn-edge paper shapes, soft shadows under them.",
        vocabulary=("cut-paper", "flat", "few outlines"),
        donts=("lettering", "photographs"),
    ),
    ThreadFacts("key", "prop", "Tide key", "A long iron key with a shell-shaped bow.", ("key",)),
    ThreadFacts("whistle", "prop", "Tin whistle", "A tin whistle on a cord.", ("whistle",), owner="pell"),
)

IMPRINT = (
    "Pell and the Borrowed Tide\nWords and pictures were made up for this book.\nFirst printed on a kitchen table."
)
DEDICATION = "For everybody who put the key back."
COVER = 10
"""The number of the shot whose picture is on the cover."""
AUTHOR = "Told and cut from paper by Wren Halloway"
BLURB = "The tide has not come back for three days. A brass crab knows why, and will not say. Pell has a whistle, a borrowed key, and until breakfast."
IN_TIME: dict[int, dict[str, object]] = {
    1: {"join": "fade", "join_s": 1.2, "bleed": True},
    4: {"join": "dissolve", "join_s": 0.8},
    7: {"join": "fade", "join_s": 1.0},
    8: {"bleed": True},
    9: {"surprise": True},
    10: {"join": "dissolve", "join_s": 1.0, "bleed": True, "surprise": True},
}
"""By the number of a shot: how it comes after the one before it, and how it stands on paper."""
VOICE: dict[int, tuple[float, float]] = {4: (0.62, 1.0), 6: (1.1, 4.5)}
"""By the number of a shot: how fast its scratch voice speaks, and how loud; the fourth outruns its shot, the sixth clips."""
