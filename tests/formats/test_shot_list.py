"""Shot lists in plain text: numbered or not, framed in words or short, with scenes between them or on each line."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.core.text.coverage import coverage
from juxtaform.formats import texts
from juxtaform.formats.framing import begins_framed, framing_of
from juxtaform.formats.shot_list import is_shot_list

LIST = """1. WS. Rooftops of a town at dawn. A kite rises.
2. MS, low angle. A boy, OSMAN, about 8, holds the string. He stands on a roof.
3. Insert: a knot in the string.
4. OTS. Osman looks past his sister LEYLA to the kite.
5. TWO SHOT, push in. She pulls the lace out of her shoe.
6. The kite again, very small.
"""
SCENES = """Fog – a shot list

SCENE 1 – THE QUAY
1A – Wide: fog over the quay. A lamp.
1B – Medium close-up: Bo at the lamp, listening.
1C – POV Bo: a boat comes out of the fog. (4 sec)

INT. CABIN - NIGHT
2A (ECU): a match.
2B – Track left with the smoke until it is gone.
BO: Who is there?
VO: Nobody was there.
"""
EACH_PLACED = """1. EXT. ROOF - NIGHT. WS. A paper moon on a string.
2. EXT. ROOF - NIGHT. CU: Ida's hand lets go of it.
3. INT. STAIRS - NIGHT. High angle. Ida runs down. - 2,5 s
"""


def shots(text):
    return [s for scene in breakdown(texts.read(text, texts.syntax_of(text))) for s in scene.shots]


def test_a_shot_list_tells_how_each_picture_is_framed_and_all_that_it_shows():
    told = shots(LIST)
    assert [(s.size, s.angle, s.move) for s in told[:5]] == [
        ("WS", "eye level", ""),
        ("MS", "low", ""),
        ("CU", "eye level", ""),
        ("MS", "over the shoulder", ""),
        ("MS", "eye level", "push in"),
    ]
    assert told[0].shows == "Rooftops of a town at dawn. A kite rises."
    assert told[1].shows == "A boy, Osman, about 8, holds the string. He stands on a roof."
    assert told[2].shows == "A knot in the string."
    assert told[5].shows == "The kite again, very small."
    assert {s.why for s in told} == {"a part of its own"}
    cast = {c.name: c.aliases for c in discovered(texts.read(LIST, "prose")) if c.kind == "character"}
    assert "boy" in cast["Osman"]
    assert not cast.keys() & {"WS", "MS", "OTS"}


def test_scenes_stand_between_its_lines_and_words_are_said_in_the_picture_above():
    manuscript = texts.read(SCENES, texts.syntax_of(SCENES))
    quay, cabin = breakdown(manuscript)
    assert (quay.title, cabin.title, cabin.time) == ("THE QUAY", "INT. CABIN - NIGHT", "night")
    assert [s.size for s in quay.shots] == ["WS", "MCU", quay.shots[2].size]
    assert (quay.shots[2].angle, quay.shots[2].length_s) == ("point of view", 4.0)
    assert quay.shots[2].shows == "A boat comes out of the fog."
    match, smoke = cabin.shots
    assert (match.size, match.shows) == ("ECU", "A match.")
    assert (smoke.move, [x.words for x in smoke.lines]) == ("track", ["Who is there?", "Nobody was there."])
    assert smoke.shows == "Track left with the smoke until it is gone."
    assert manuscript.passages[0].kind == "title"
    assert coverage(manuscript, [(str(i), s.start, s.end) for i, s in enumerate([*quay.shots, *cabin.shots])]) == []


def test_each_line_may_say_where_it_is():
    roof, stairs = breakdown(texts.read(EACH_PLACED, "prose"))
    assert [(s.size, s.shows) for s in roof.shots] == [
        ("WS", "A paper moon on a string."),
        ("CU", "Ida's hand lets go of it."),
    ]
    assert [(s.angle, s.length_s, s.places) for s in stairs.shots] == [("high", 2.5, ("new:Stairs",))]


def test_lines_without_numbers_are_shots_too():
    told = shots("WIDE – The village at night.\nCU of a hand.\nECU An eye.\nOTS. She sees it.\n")
    assert [(s.size, s.shows) for s in told] == [
        ("WS", "The village at night."),
        ("CU", "A hand."),
        ("ECU", "An eye."),
        ("MS", "She sees it."),
    ]


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


@pytest.mark.parametrize(
    "text",
    [
        "1. Wide. The sea.\n2. Bo wakes up.\n3. Bo eats.\n4. Bo goes out.\n5. Bo sings.\n6. Bo sleeps.\n",
        "Close up the shop, she said.\n\nThe door shut.\n\nNobody came.",
        "12 – 14 people came.\n\nThey ate.\n\nThey went.",
    ],
)
def test_a_story_is_no_shot_list(text):
    assert not is_shot_list(text)


def test_a_framing_is_told_by_several_words():
    told = framing_of("Medium close-up, from below / dolly in")
    assert told is not None
    assert (told.size, told.angle, told.move) == ("MCU", "low", "push in")


def test_who_stands_in_a_line_without_a_verb_is_to_be_seen():
    text = "1. WS. Fog over the quay.\n2. MCU. NILS at the lamp, listening.\n3. Two shot. Nils and the FERRYMAN. Neither speaks.\n"
    told = shots(text)
    assert [s.cast for s in told] == [(), ("new:Nils",), ("new:Nils", "new:ferryman")]
    assert told[1].shows == "Nils at the lamp, listening."


def test_a_place_on_one_line_of_many_is_left_out_before_its_framing():
    text = "1. WS. A kite.\n2. CU. A knot.\n3. MS. Ada runs.\n4. INT. AIRPLANE. CU. A man smiles.\n"
    assert [(s.size, s.shows) for s in shots(text)][-1] == ("CU", "A man smiles.")


@pytest.mark.parametrize(
    "line",
    [
        "1. WS. a" + " " * 200_000 + "b",
        "1. WS. (5 s" + " " * 200_000 + "b",
        "1. WS. " + "A-" * 100_000,
        "1. WS. " + "“" * 100_000,
    ],
    ids=["spaces", "seconds that never end", "a name that never ends", "speech that never ends"],
)
def test_a_line_that_never_ends_is_read_through(line):
    manuscript = texts.read(f"{line}\n2. CU. A hand.\n3. MS. Bo.\n", "prose")
    assert len([s for scene in breakdown(manuscript) for s in scene.shots]) == 3
