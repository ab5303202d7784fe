"""Text to shots, names in text, and file names to shots."""

import pytest

from juxtaform.core.breakdown import breakdown, reading_length_s
from juxtaform.core.numbering import matched
from juxtaform.core.preflight import Named, named_but_absent, names_in

CAST = [Named("p", "Pell"), Named("o", "Oda", ("the keeper",)), Named("s", "Sprocket")]
PLACES = [Named("l", "Lamp room"), Named("q", "Quay")]
TEXT = """# The harbour steps

The tide had been gone three days. Pell sat on the bottom step and dangled her boots in nothing. Sprocket tapped the
dry stone twice. Up on the quay Oda counted the boats. “Nine,” she said. “And one of them is mine.”

INT. LAMP ROOM - NIGHT

Mr. Finch slept. The tide key hung behind the clock. Pell lifted it down. It was colder than it looked.
"""


def test_headings_of_both_kinds_begin_scenes():
    assert [s.title for s in breakdown(TEXT, CAST, PLACES)] == ["The harbour steps", "INT. LAMP ROOM - NIGHT"]


def test_a_new_person_begins_a_new_shot_and_a_pronoun_does_not():
    shots = breakdown(TEXT, CAST, PLACES)[0].shots
    assert [s.cast for s in shots] == [("p",), ("s",), ("o",)]
    assert shots[2].spoken == "Nine, And one of them is mine."


def test_every_word_of_the_body_is_in_exactly_one_shot():
    for scene in breakdown(TEXT, CAST, PLACES):
        body = TEXT[scene.start : scene.end].split()
        assert [w for s in scene.shots for w in TEXT[s.start : s.end].split()] == body


def test_an_abbreviation_does_not_end_a_sentence():
    assert any(s.shows.startswith("Mr. Finch slept") or "Pell" in s.shows for s in breakdown(TEXT, CAST)[1].shots)
    assert not any(TEXT[s.start : s.end].strip() == "Mr." for s in breakdown(TEXT, CAST)[1].shots)


def test_a_place_in_the_heading_holds_for_its_shots():
    assert all(s.places == ("l",) for s in breakdown(TEXT, CAST, PLACES)[1].shots)


@pytest.mark.parametrize("text", ["", "   \n\n ", "\n#\n"])
def test_nothing_gives_no_shots(text):
    assert sum(len(s.shots) for s in breakdown(text)) == 0


def test_text_without_names_or_headings_still_becomes_shots():
    scenes = breakdown("The rain began. It went on. By morning the road was a river, and the hens sat on the roof.")
    assert len(scenes) == 1
    assert len(scenes[0].shots) == 2


def test_length_follows_the_words():
    assert reading_length_s(26) == pytest.approx(12.8)
    assert reading_length_s(1) == 2.0


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Pell’s boots", ["p"]),
        ("Pells", []),
        ("pell", []),
        ("Ask Oda and Pell", ["o", "p"]),
        ("the keeper slept", ["o"]),
    ],
)
def test_names_are_whole_words_with_capitals_and_possessives(text, found):
    assert names_in(text, CAST) == found


def test_only_names_that_are_not_assigned_are_absent():
    assert named_but_absent("Pell and Oda", CAST, {"p"}) == ["o"]


NUMBERS = [str(n) for n in range(1, 13)]


@pytest.mark.parametrize(
    ("names", "numbers", "expected"),
    [
        (["p10.png", "p2.png"], NUMBERS, {"p2.png": 1, "p10.png": 9}),
        (["shot_03b.jpg", "shot_03.jpg"], [*NUMBERS, "3b"], {"shot_03b.jpg": 12, "shot_03.jpg": 2}),
        (["03b.png"], NUMBERS, {"03b.png": 2}),
        (["book2_page01.png", "book2_page02.png", "book2_page11.png"], NUMBERS, {"book2_page01.png": 0, "book2_page02.png": 1, "book2_page11.png": 10}),
        (["4 t2.png", "4 t1.png", "5.png"], NUMBERS, {"4 t1.png": 3, "4 t2.png": 3, "5.png": 4}),
        (["in/007.png", "in/008.png"], NUMBERS, {"in/007.png": 6, "in/008.png": 7}),
        (["cover.png"], NUMBERS, {"cover.png": None}),
        (["99.png", "1.png"], NUMBERS, {"1.png": 0, "99.png": None}),
        (["b.png", "a.png"], ["1", "2"], {"a.png": 0, "b.png": 1}),
    ],
)  # fmt: skip
def test_files_find_their_shots_by_number_in_natural_order(names, numbers, expected):
    assert {m.name: m.shot for m in matched(names, numbers)} == expected
