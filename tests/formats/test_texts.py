"""Text files in and out, prose and Markdown, Fountain."""

from itertools import pairwise

import pytest

from juxtaform.formats import fountain, prose, texts

SCRIPT = """Title: The Night Tram
Credit: written by
Author: A. Nother
Contact:
    Somewhere 1
    Nowhere

# Act one

= Jona waits.

EXT. TRAM STOP - NIGHT #1A#

Rain. *Nobody* is _there_. [[a note
on two lines]]

JONA (V.O.)
(softly)
It is late.
Very late.

CONDUCTOR ^
Ticket.

@McAllister
Aye.

/* cut
CONDUCTOR
This is gone.
*/

~La la la

> CENTRED <

CUT TO:

> A forced transition

.A FORCED HEADING

!LOUD ACTION

===

INT./EXT. TRAM - CONTINUOUS

The end.
"""


def kinds(manuscript):
    return [(p.kind, p.words) for p in manuscript.passages]


def test_fountain_in_full():
    m = fountain.read(SCRIPT)
    assert kinds(m) == [
        ("title", ""),
        ("section", "Act one"),
        ("synopsis", "Jona waits."),
        ("scene", "EXT. TRAM STOP - NIGHT"),
        ("action", "Rain. Nobody is there."),
        ("note", "a note\non two lines"),
        ("character", "JONA"),
        ("parenthetical", "softly"),
        ("dialogue", "It is late. Very late."),
        ("character", "CONDUCTOR"),
        ("dialogue", "Ticket."),
        ("character", "McAllister"),
        ("dialogue", "Aye."),
        ("boneyard", "cut\nCONDUCTOR\nThis is gone."),
        ("lyric", "La la la"),
        ("centred", "CENTRED"),
        ("transition", "CUT TO:"),
        ("transition", "A forced transition"),
        ("scene", "A FORCED HEADING"),
        ("action", "LOUD ACTION"),
        ("page_break", ""),
        ("scene", "INT./EXT. TRAM - CONTINUOUS"),
        ("action", "The end."),
    ]
    assert dict(m.title_page)["Contact"] == "Somewhere 1\nNowhere"
    assert [p.dual for p in m.passages if p.words == "Ticket."] == [True]
    assert {p.name for p in m.passages if p.kind == "dialogue"} == {"JONA", "CONDUCTOR", "McAllister"}
    assert m.troubles == ()


@pytest.mark.parametrize("reader", [fountain.read, prose.read])
def test_passages_lie_in_the_text_in_order_and_apart(reader):
    m = reader(SCRIPT)
    assert m.text == SCRIPT
    spoken = [p for p in m.passages if p.kind in ("action", "dialogue", "scene", "character")]
    assert all(SCRIPT[p.start : p.end].strip() for p in spoken)
    assert all(a.end <= b.start for a, b in pairwise(spoken))


@pytest.mark.parametrize(
    ("text", "line", "word"),
    [("EXT. A\n\nOne.\n\n/* open", 5, "boneyard"), ("One.\n\n[[ open\n\nTwo.", 3, "note")],
)
def test_a_broken_script_says_where_and_keeps_its_words(text, line, word):
    m = fountain.read(text)
    [trouble] = m.troubles
    assert (trouble.line, word in trouble.message) == (line, True)
    assert "One." in [p.words for p in m.passages]


LONG = "Old Tobiah kept the ferry at the end of the road, and every night he lit a lamp."


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("# One\nA b.\n\nC.", [("scene", "One"), ("action", "A b."), ("action", "C.")]),
        ("One\n===\n\nA *b* **c** _d_.", [("scene", "One"), ("action", "A b c d.")]),
        ("A.\n\n* * *\n\nB.", [("action", "A."), ("scene", ""), ("action", "B.")]),
        (
            "# Book\n\n## One\n\nA.\n\n## Two\n\nB.",
            [("title", "Book"), ("scene", "One"), ("action", "A."), ("scene", "Two"), ("action", "B.")],
        ),
        ("INT. HALL - DAY\n\nA.", [("scene", "INT. HALL - DAY"), ("action", "A.")]),
        (f"The Lamp\n\n{LONG}", [("title", "The Lamp"), ("action", LONG)]),
        (
            f"The Lamp\n\nby Ines Okafor\n\n{LONG}",
            [("title", "The Lamp"), ("title", "by Ines Okafor"), ("action", LONG)],
        ),
        (f"He is here!\n\n{LONG}", [("action", "He is here!"), ("action", LONG)]),
        ("Pell wakes up\n\nPell sees the shell", [("action", "Pell wakes up"), ("action", "Pell sees the shell")]),
        ("Chapter Two\n\nA.", [("scene", "Chapter Two"), ("action", "A.")]),
        ("> quoted\n> words", [("action", "quoted words")]),
        ("A <!-- not this --> b.", [("action", "A b."), ("note", "not this")]),
        ("#5 is alive.", [("scene", "5 is alive.")]),
    ],
)
def test_prose_and_markdown(text, wanted):
    assert kinds(prose.read(text)) == wanted


@pytest.mark.parametrize(
    ("text", "name", "syntax"),
    [
        (SCRIPT, "", "fountain"),
        ("# One\n\nA story.", "", "prose"),
        ("# One", "x.fountain", "fountain"),
        ("EXT. A - DAY\n\nBO\nHello.", "x.md", "prose"),
        ("EXT. A - DAY\n\nBO\nHello.", "", "fountain"),
        ("He said: never.\n\nNO\nYES", "", "prose"),
    ],
)
def test_the_syntax_is_known_by_name_or_looks(text, name, syntax):
    assert texts.syntax_of(text, name) == syntax


STORY = "Ödland – “naïve” café.\r\nTwo\nThree\r"


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "cp1252"])
def test_a_text_goes_out_as_it_came_in(encoding):
    data = STORY.encode(encoding)
    text, source = texts.decoded(data)
    assert text == "Ödland – “naïve” café.\nTwo\nThree\n"
    assert texts.encoded(text, source) == data


def test_an_edited_text_keeps_its_line_ends_and_what_an_encoding_cannot_hold_becomes_utf_8():
    text, source = texts.decoded(b"a\r\nb\r\n")
    assert texts.encoded(text + "c\nd", source) == b"a\r\nb\r\nc\r\nd"
    _, western = texts.decoded("café".encode("cp1252"))
    assert texts.encoded("café 🦀", western) == "café 🦀".encode()


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR", "binary"),
        (bytes(range(1, 32)) * 40, "binary"),
        (b"a" * (8 * 2**20 + 1), "Split"),
    ],
)
def test_what_is_no_text_is_refused_with_the_place(data, word):
    with pytest.raises(texts.NotText, match=word):
        texts.decoded(data)


def test_a_line_above_the_first_heading_is_the_title_and_no_picture():
    text = "SNOW DAY\n\nINT. KITCHEN - MORNING\n\nDad stares into the fridge.\n\nDAD\nThere is no milk."
    assert [(p.kind, p.words) for p in fountain.read(text).passages][:2] == [
        ("title", "SNOW DAY"),
        ("scene", "INT. KITCHEN - MORNING"),
    ]
    told = fountain.read("Snow falls on the yard.\n\nINT. KITCHEN - MORNING\n\nDad stares.").passages[0]
    assert told.kind == "action"


DIARY = """{0}
I carried the cat to the greenhouse.

{1}
Somebody had brought milk.

{2}
Ines came. She cried.
"""


@pytest.mark.parametrize(
    "days",
    [
        ("MONDAY", "TUESDAY", "WEDNESDAY"),
        ("Monday", "Tuesday morning", "Wednesday, 3 May"),
        ("3 May", "May 4th, 1921", "5. Mai 1921"),
        ("Day One", "Day 2", "Night 3"),
        ("Lundi", "mardi", "Mercredi 3 mai"),
        ("2026-05-03", "4.5.2026", "05/05/2026"),
    ],
)
def test_the_days_of_a_diary_are_its_scenes(days):
    text = DIARY.format(*days)
    assert texts.syntax_of(text) == "prose"
    told = texts.read(text, texts.syntax_of(text)).passages
    assert [p.words for p in told if p.kind == "scene"] == list(days)
    assert [p.kind for p in told] == ["scene", "action"] * 3


def test_a_line_that_begins_with_a_day_and_goes_on_is_none():
    told = prose.read("Monday was blue\nand cold.\n\nMay came late.\n\nSunday, said Oda.").passages
    assert {p.kind for p in told} == {"action"}


TOLD = "A boat lay under a white sun, and there was nobody in it."


def scenes_of(text):
    return [p.words for p in prose.read(text).passages if p.kind == "scene"]


def test_lines_that_stand_like_headings_begin_scenes():
    above = f"Opening\n{TOLD}\n\nThe Old Well\n{TOLD}\n\nHe left.\n\nThe Man in Red\n{TOLD}\n\nEnding\nRain."
    assert scenes_of(above) == ["Opening", "The Old Well", "The Man in Red", "Ending"]
    alone = f"Opening\n\n{TOLD}\n\nThe Old Well\n\n{TOLD}\n\nNight\n\n{TOLD}"
    assert scenes_of(alone) == ["Opening", "The Old Well", "Night"]


@pytest.mark.parametrize(
    "text",
    [
        f"The Old Well\n{TOLD}\n\n{TOLD}\n\n{TOLD}",
        "The Wind Blew\nThe ship flew.\n\nThe Sail Tore\nWe came ashore.\n\nThe Night Fell\nAll was well.",
        f"“Where?”\n{TOLD}\n\nPlop!\n{TOLD}\n\nHe said:\n{TOLD}\n\nAnd then\n{TOLD}",
        "One line\nafter the other stands here without an end that anybody could see\n\n" * 4,
    ],
    ids=["once alone", "a verse", "with marks", "without an end"],
)
def test_other_short_lines_are_none(text):
    assert scenes_of(text) == []


def test_a_label_tells_where_a_scene_is():
    text = "Scene: A kitchen, early morning.\nRosa stands on a chair.\n\nLocation: the garden\nThey eat.\n\nSetting 3: The same kitchen\nNight."
    assert scenes_of(text) == ["A kitchen, early morning", "the garden", "The same kitchen"]


def test_every_item_of_a_list_stands_for_itself():
    told = prose.read("- Bruno wakes\n- He tries to whistle\n  and fails\n• Night").passages
    assert [p.words for p in told] == ["Bruno wakes", "He tries to whistle and fails", "Night"]


def test_counted_beats_are_a_picture_each():
    beats = "Beats:\n\n1. Bruno wakes. It is spring.\n2. He whistles.\n3. A bird laughs.\n   It falls.\n4. Night."
    told = prose.read(beats)
    assert len(told.panels) == 4
    assert [p.words for p in told.passages if p.kind == "action"] == [
        "Bruno wakes. It is spring.",
        "He whistles.",
        "A bird laughs. It falls.",
        "Night.",
    ]


def test_a_list_in_a_story_is_not_the_story():
    story = "Ida wanted to bake a cake for the whole street, and nobody could stop her, not even Tam.\n\n" * 3
    text = f"{story}She wrote a list:\n1. flour\n2. eggs\n3. a ladder\n4. Tam\n\n{story}"
    told = prose.read(text)
    assert told.panels == ()
    assert next(p.words for p in told.passages if p.kind == "action").startswith("Ida wanted")
