"""Shot lists that say first how each picture is framed."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.formats import texts
from juxtaform.formats.framing import begins_framed

LIST = """1. WS. Rooftops of a town at dawn. A kite rises.
2. MS, low angle. A boy, OSMAN, about 8, holds the string. He stands on a roof.
3. Insert: a knot in the string.
4. OTS. Osman looks past his sister LEYLA to the kite.
5. TWO SHOT, push in. She pulls the lace out of her shoe.
6. The kite again, very small.
"""


def shots(text):
    return [s for scene in breakdown(texts.read(text, "prose")) for s in scene.shots]


def test_a_shot_list_tells_how_each_picture_is_framed_and_all_that_it_shows():
    told = shots(LIST)
    assert [(s.size, s.angle, s.move) for s in told[:5]] == [
        ("WS", "eye level", ""),
        ("MS", "low", ""),
        ("CU", "eye level", ""),
        (told[3].size, "over the shoulder", ""),
        ("MS", "eye level", "push in"),
    ]
    assert told[0].shows == "Rooftops of a town at dawn. A kite rises."
    assert told[1].shows == "A boy, Osman, about 8, holds the string. He stands on a roof."
    assert told[2].shows == "A knot in the string."
    assert told[5].shows == "The kite again, very small."
    cast = {c.name: c.aliases for c in discovered(texts.read(LIST, "prose")) if c.kind == "character"}
    assert "boy" in cast["Osman"]
    assert not cast.keys() & {"WS", "MS", "OTS"}


@pytest.mark.parametrize(
    "words",
    [
        "Ms. Okafor waits.",
        "A wide river. Nobody.",
        "Still. Nothing moves.",
        "Wide awake, he sat up.",
        "Close. Too close.",
    ],
)
def test_what_a_story_says_is_no_framing(words):
    assert begins_framed(words) is None


def test_counted_beats_that_say_nothing_of_it_are_as_they_were():
    beats = "1. Wide. The sea.\n2. Bo wakes up.\n3. Bo eats.\n4. Bo goes out.\n5. Bo sings.\n6. Bo sleeps.\n"
    assert texts.read(beats, "prose").framings == ()
