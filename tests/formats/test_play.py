"""Plays: who speaks stands before a colon, what is done between the lines; nobody is made of their words."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.formats import fountain, play, texts

PLAY = """THE RIVER PARTY

(A small boat. MOSS is at the oars. FERN lies in the bow.)

MOSS: Where are we going?
FERN: Down.
MOSS: (rowing) That isn't a place.
And it never was.
FERN: It is if you wait.

(They drift under a bridge. A BADGER leans over the rail.)

BADGER: Mind my line!
MOSS: Mind our boat!
"""


def test_names_lines_and_deeds_are_told_apart():
    manuscript = texts.read(PLAY, texts.syntax_of(PLAY))
    assert [(p.kind, p.name, p.words) for p in manuscript.passages if p.kind not in ("character", "parenthetical")] == [
        ("title", "", "THE RIVER PARTY"),
        ("action", "", "A small boat. MOSS is at the oars. FERN lies in the bow."),
        ("dialogue", "MOSS", "Where are we going?"),
        ("dialogue", "FERN", "Down."),
        ("dialogue", "MOSS", "That isn't a place. And it never was."),
        ("dialogue", "FERN", "It is if you wait."),
        ("action", "", "They drift under a bridge. A BADGER leans over the rail."),
        ("dialogue", "BADGER", "Mind my line!"),
        ("dialogue", "MOSS", "Mind our boat!"),
    ]
    assert {c.name for c in discovered(manuscript) if c.kind == "character" and c.sure} == {"Moss", "Fern", "Badger"}
    shots = [s for scene in breakdown(manuscript) for s in scene.shots]
    assert [(line.speaker, line.words) for s in shots for line in s.lines][:2] == [
        ("new:Moss", "Where are we going?"),
        ("new:Fern", "Down."),
    ]
    assert not any(")" in s.shows for s in shots)


@pytest.mark.parametrize(
    "text",
    [
        "Pia: Come.\nOtto: No.\nPia: Why?\nOtto: It rains.",
        "Frau Holle: Wer ist da?\nMarie: Ich.\n\n(Es schneit.)\n\nFrau Holle: Komm herein.\nMarie: Danke.",
    ],
)
def test_names_need_no_capitals(text):
    assert play.is_play(text)
    assert len([p for p in texts.read(text, "prose").passages if p.kind == "dialogue"]) == 4


@pytest.mark.parametrize(
    "text",
    [
        "Note: it rained.\nNote: it snowed.\nArt: a cloud.\nArt: a bigger cloud.",
        "Oda said: “Nine.”\nShe meant: boats.\nThen: nothing.\nLater: rain.",
        "Ingredients: flour.\n\nOda baked all day. She said one thing: wait.",
    ],
)
def test_other_texts_are_no_plays(text):
    assert not play.is_play(text)


@pytest.mark.parametrize("opened", ["[[", "/*", "_a "])
def test_what_is_opened_very_often_and_never_closed_takes_no_longer(opened):
    assert fountain.read(f"INT. HUT - DAY\n\n{opened * 10_000}").passages


def test_the_list_of_who_is_in_it_is_no_picture_and_the_porter_is_one():
    listed = (
        "Characters:\nMOSS, an otter\nFERN: a heron\nTHE PORTER\n\n(A quay.)\n\nMOSS: Where?\nFERN: Down.\nMOSS: Why?\n\n"
        "(THE PORTER crosses with a broom.)\n\nTHE PORTER: Mind the step.\nFERN: Good evening.\n"
    )
    manuscript = texts.read(listed, "prose")
    assert manuscript.passages[0].kind == "note"
    names = {c.name for c in discovered(manuscript) if c.kind == "character"}
    assert "Porter" in names
    assert not names & {"The Porter", "porter", "otter", "heron"}
