"""Comic scripts: each panel is a picture, its lines are said by whoever they are given to, and nothing else is somebody."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.core.text.coverage import coverage
from juxtaform.formats import comic, texts

SCRIPT = """Noodles

PAGE ONE (four panels)

Panel 1. Wide. Rooftops at dusk. A girl in a yellow raincoat, PIA, sits on a chimney pot.

CAPTION: Nobody looks up in this town.

Panel 2: Close on Pia. She has heard something.

1. PIA: Mmf?
2. MRS ABERNATHY (off): Who is there?
SFX: KRANNG

PANEL THREE
The shadow of an enormous bird falls across the tiles.
Silent.

PAGE TWO

A page of one large panel, no gutters.

Panel 1
In the street below, MRS ABERNATHY looks up. A single noodle has landed on her hat.

MRS ABERNATHY
Rain, they said.
"""


def kinds(text):
    return [(p.kind, p.name, p.words) for p in texts.read(text, "prose").passages]


def test_panels_captions_lines_and_sounds_are_told_apart():
    assert kinds(SCRIPT) == [
        ("title", "", "Noodles"),
        ("scene", "", "PAGE ONE (four panels)"),
        ("action", "", "Rooftops at dusk. A girl in a yellow raincoat, PIA, sits on a chimney pot."),
        ("dialogue", "CAPTION", "Nobody looks up in this town."),
        ("action", "", "Close on Pia. She has heard something."),
        ("character", "PIA", "PIA"),
        ("dialogue", "PIA", "Mmf?"),
        ("character", "MRS ABERNATHY", "MRS ABERNATHY"),
        ("dialogue", "MRS ABERNATHY", "Who is there?"),
        ("note", "", "KRANNG"),
        ("action", "", "The shadow of an enormous bird falls across the tiles."),
        ("scene", "", "PAGE TWO"),
        ("note", "", "A page of one large panel, no gutters."),
        ("action", "", "In the street below, MRS ABERNATHY looks up. A single noodle has landed on her hat."),
        ("character", "MRS ABERNATHY", "MRS ABERNATHY"),
        ("dialogue", "MRS ABERNATHY", "Rain, they said."),
    ]
    for p in texts.read(SCRIPT, "prose").passages:
        if p.kind in ("action", "dialogue"):
            assert " ".join(SCRIPT[p.start : p.end].split()) == p.words


def test_each_panel_is_one_shot_that_shows_all_its_words_say():
    manuscript = texts.read(SCRIPT, "prose")
    one, two = breakdown(manuscript)
    assert [s.shows for s in one.shots] == [
        "Rooftops at dusk. A girl in a yellow raincoat, Pia, sits on a chimney pot.",
        "Close on Pia. She has heard something.",
        "The shadow of an enormous bird falls across the tiles.",
    ]
    assert [s.spoken for s in one.shots] == ["Nobody looks up in this town.", "Mmf? Who is there?", ""]
    assert [(s.size, s.angle) for s in one.shots[:2]] == [("WS", "eye level"), ("CU", "eye level")]
    assert {s.why for s in (*one.shots, *two.shots)} == {"a panel"}
    assert all(s.sure == 1 for s in one.shots)
    assert one.shots[1].cast == ("new:Pia",), "who is off is not to be seen"
    assert len(two.shots) == 1
    everyone = [(str(i), s.start, s.end) for i, s in enumerate((*one.shots, *two.shots))]
    assert coverage(manuscript, everyone) == []


def test_only_people_are_somebody():
    found = discovered(texts.read(SCRIPT, "prose"))
    people = {c.name for c in found if c.kind == "character" and c.sure}
    assert people == {"Pia", "Mrs Abernathy"}


def test_whose_voice_a_caption_is_may_be_said():
    (caption,) = [
        p
        for p in texts.read("Panel 1. Rain.\nCAPTION (PIA): I was nine.\n\nPanel 2. Sun.", "prose").passages
        if p.kind == "dialogue"
    ]
    assert (caption.name, caption.off) == ("PIA", True)


@pytest.mark.parametrize(
    "text",
    [
        "He kicked the panel. It was panel 2 of nine.\n\nPanel work is dull.",
        "Panel 1 was loose.",
        "Case 1\n\nThe missing goose was in the oven.\n\nCase 2\n\nNobody had lost a clock.",
        "Oda sat down.\n\nODA: Home at last.",
    ],
)
def test_other_texts_are_none(text):
    assert not comic.is_comic(text)
    assert texts.read(text, "prose").panels == ()


@pytest.mark.parametrize(
    ("lines", "said"),
    [
        (
            "PIA: It is a very long way\ndown to the street.",
            ("PIA", "It is a very long way down to the street.", False),
        ),
        ("PIA:\nMmf?", ("PIA", "Mmf?", False)),
        ("PIA (O.S.)\n  Who is\n  there?", ("PIA", "Who is there?", True)),
        ("PIA (offended): No.", ("PIA", "No.", False)),
        ("CAPTION:\nNobody looks up.", ("CAPTION", "Nobody looks up.", True)),
    ],
)
def test_a_speech_goes_on_to_the_next_blank_line(lines, said):
    text = f"Panel 1. A chimney.\n\n{lines}\n\nPanel 2. She sits."
    manuscript = texts.read(text, "prose")
    assert [(p.name, p.words, p.off) for p in manuscript.passages if p.kind == "dialogue"] == [said]
    assert [p.words for p in manuscript.passages if p.kind == "action"] == ["A chimney.", "She sits."]


def test_a_title_before_a_name_is_no_size():
    [scene] = breakdown(texts.read("Panel 1. Ms Quill sleeps.\n\nPanel 2. MCU of her eye.", "prose"))
    assert [s.size for s in scene.shots][1] == "MCU"
    assert scene.shots[0].size != scene.shots[1].size


def test_a_page_may_stand_in_the_panel_s_own_line():
    text = "Page 1, Panel 1: Oda waits.\n\nPage 1, Panel 2: Oda sits.\n\nPage 2, Panel 1: Oda goes."
    told = breakdown(texts.read(text, "prose"))
    assert [(s.title, [x.shows for x in s.shots]) for s in told] == [
        ("Page 1", ["Oda waits.", "Oda sits."]),
        ("Page 2", ["Oda goes."]),
    ]


@pytest.mark.parametrize("form", ["**Panel {}** – ", "### Panel {}\n", "Bild {}: ", "Case {}.", "PANEL {}:\n"])
def test_panels_are_known_in_other_forms_and_languages(form):
    text = "Page 1\n\n" + "\n\n".join(form.format(i) + "Oda waits on the quay." for i in (1, 2, 3))
    manuscript = texts.read(text, "prose")
    assert len(manuscript.panels) == 3
    assert [len(s.shots) for s in breakdown(manuscript)] == [3]


def test_a_thousand_panels_are_read_one_by_one():
    text = "\n\n".join(f"Panel {i}. Oda counts boat {i} at the quay.\n\nODA: {i}." for i in range(1, 1001))
    [scene] = breakdown(texts.read(text, "prose"))
    assert len(scene.shots) == 1000


def test_who_says_in_a_bubble_what_they_are_called_is_that_and_nobody_is_made_of_a_shout():
    script = (
        "Panel 1\nA robot arm holds a teacup. KESTREL pulls.\n\nROBOT: You may call me Nine.\n\n"
        "Panel 2\nThe robot sits on the table. A patched parrot-drone watches.\n\nDRONE: Boots! Boots!\n\n"
        "Panel 3\nNine pours tea.\n\nNINE: I forget.\n"
    )
    cast = {c.name: c.aliases for c in discovered(texts.read(script, "prose")) if c.kind == "character"}
    assert "Robot" in cast["Nine"]
    assert "parrot-drone" in cast["Drone"]
    assert "Boots" not in cast
