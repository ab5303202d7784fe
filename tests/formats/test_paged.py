"""Manuscripts of picture books: each page is a picture, notes say what is to be seen on it, and neither numbers nor notes are read aloud."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.core.text.coverage import coverage
from juxtaform.core.text.voices import Voicing
from juxtaform.formats import paged, texts

MANUSCRIPT = """THE MOON IN THE WELL
by Ann Otherhand
410 words

SPREAD 1
Nobody in Tarn had ever seen the moon up close. Nobody except Wilma.

SPREAD 2
Every night Wilma let down her bucket into the well.
[Art note: Wilma is in her nightgown, with one sock.]

SPREAD 3
"What are you doing?" asked the owl.
"Fishing," said Wilma.

SPREAD 4 (wordless)
Art: The owl and Wilma lean over the rim together.

SPREAD 5
Illustration note: the empty bucket, close
Text: On the fifth night there was nothing in it.
"""


def kinds(text):
    return [(p.kind, p.words) for p in texts.read(text, texts.syntax_of(text)).passages]


def shots(text):
    return [s for scene in breakdown(texts.read(text, texts.syntax_of(text))) for s in scene.shots]


def test_numbers_words_and_notes_are_told_apart():
    assert texts.syntax_of(MANUSCRIPT) == "prose"
    assert kinds(MANUSCRIPT) == [
        ("title", "THE MOON IN THE WELL"),
        ("note", "by Ann Otherhand"),
        ("note", "410 words"),
        ("section", "SPREAD 1"),
        ("action", "Nobody in Tarn had ever seen the moon up close. Nobody except Wilma."),
        ("section", "SPREAD 2"),
        ("action", "Every night Wilma let down her bucket into the well."),
        ("art", "Wilma is in her nightgown, with one sock."),
        ("section", "SPREAD 3"),
        ("action", '"What are you doing?" asked the owl. "Fishing," said Wilma.'),
        ("section", "SPREAD 4"),
        ("art", "The owl and Wilma lean over the rim together."),
        ("section", "SPREAD 5"),
        ("art", "the empty bucket, close"),
        ("action", "On the fifth night there was nothing in it."),
    ]


def test_each_page_is_a_picture_and_shows_what_its_note_says():
    found = shots(MANUSCRIPT)
    assert [s.shows for s in found][1:] == [
        "Wilma is in her nightgown, with one sock.",
        "The owl and Wilma speak.",
        "The owl and Wilma lean over the rim together.",
        "The empty bucket, close.",
    ]
    assert {(s.why, s.page_form) for s in found} == {("a page", "spread")}
    assert [s.spoken for s in found] == ["", "", "What are you doing? Fishing", "", ""]
    assert found[3].cast == ("new:owl", "new:Wilma")
    assert {c.name for c in discovered(texts.read(MANUSCRIPT, "prose")) if c.kind == "character" and c.sure} == {
        "Wilma",
        "owl",
    }


def test_notes_and_numbers_are_neither_read_aloud_nor_missed():
    manuscript = texts.read(MANUSCRIPT, "prose")
    voices = Voicing(manuscript).of(0, len(MANUSCRIPT))
    assert "sock" not in voices.told
    assert "SPREAD" not in voices.told
    spans = [(str(i), s.start, s.end) for i, s in enumerate(shots(MANUSCRIPT))]
    assert coverage(manuscript, spans) == []


@pytest.mark.parametrize(
    ("text", "shown"),
    [
        (
            "PAGES 2-3: Lila finds a mitten.\n\nPAGES 4-5: She puts it on.\n\nPAGES 6-7: (No text. Lila and the mitten run through the park.)",
            ["Lila finds a mitten.", "Lila puts it on.", "Lila and the mitten run through the park."],
        ),
        (
            "**p. 4–5**\nBruno was a bear.\n\n**p. 6–7**\nBruno made a bed.\n(Illustration: the cave, snow outside)\n\n**p. 8**\nBruno fell over.",
            ["Bruno was a bear.", "Bruno made a bed. The cave, snow outside.", "Bruno fell over."],
        ),
        (
            "1. Pip sat on the pier.\n\n2. Pip sang.\n\nILLUSTRATION NOTE: Show Pip far away.\n\n3. A gull came.\n\n4. Pip slept.",
            ["Pip sat on the pier.", "Pip far away.", "A gull came.", "Pip slept."],
        ),
        (
            "Seite 1\nDer Fuchs war nicht im Bau, und Fritzi suchte ihn.\n[Bild: Fritzi steht im Schnee.]\n\nSeite 2\nDa kam der Fuchs, und Fritzi lachte.\n\nSeite 3\nFritzi schlief auf dem Dach.",
            ["Fritzi steht im Schnee.", "Da kam der Fuchs, und Fritzi lachte.", "Fritzi schlief auf dem Dach."],
        ),
    ],
)
def test_pages_are_marked_in_many_ways(text, shown):
    assert [s.shows for s in shots(text)] == shown


def test_pages_without_story_have_no_picture_and_what_stands_beside_a_number_is_no_text():
    text = "Page 1 (right)\nHalf title\n\nPages 2-3: Copyright and dedication\n\nPage 4 (left)\nPip sat.\n\nPage 5\nA gull came."
    assert [(s.shows, s.page_form) for s in shots(text)] == [("Pip sat.", "single"), ("A gull came.", "single")]
    assert ("note", "(left)") in kinds(text)


@pytest.mark.parametrize(
    "text",
    [
        "Page 4 was torn. Page 5 too.\n\nPage 6 was gone.",
        "Spread 1\nA boat.\n\nSpread 2\nA gull.",
        "Page 3\nA boat.\n\nPage 2\nA gull.\n\nPage 1\nNight.",
        "What she bought:\n\n1. Milk\n\n3. Eggs\n\n4. Flour\n\n6. Tea",
        "Chapter 1\n\nIt rained.\n\nChapter 2\n\nIt snowed.\n\nChapter 3\n\nIt hailed.",
    ],
)
def test_other_texts_are_not_read_by_pages(text):
    assert not paged.is_paged(text)


def test_a_book_has_the_words_of_its_pages_and_a_comic_what_is_said():
    first, second, *_ = shots(MANUSCRIPT)
    voicing = Voicing(texts.read(MANUSCRIPT, "prose"))
    assert voicing.beside(first.start, second.end) == (
        "Nobody in Tarn had ever seen the moon up close. Nobody except Wilma. Every night Wilma let down her bucket into the well."
    )
    comic = "Panel 1. Pia on a roof.\n\nCAPTION: Nobody looks up.\n\nPanel 2. Close.\n\nPIA: Mmf?\nSFX: KRANNG"
    assert Voicing(texts.read(comic, "prose")).beside(0, len(comic)) == "Nobody looks up. Mmf?"
    plain = "Oda sat. “Nine,”\nsaid Oda.\n\nShe slept."
    assert Voicing(texts.read(plain, "prose")).beside(0, len(plain)) == " ".join(plain.split())


@pytest.mark.parametrize(
    "line", ["Page 1" + " " * 30_000 + "x", "MOSS" + " " * 30_000 + "x", "Page 1\n" + "[" * 30_000]
)
def test_long_hostile_lines_take_no_longer_than_others(line):
    text = f"{line}\n\nPage 2\nA gull.\n\nPage 3\nNight."
    assert texts.read(text, texts.syntax_of(text)).passages
