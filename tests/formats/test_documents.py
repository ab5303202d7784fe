"""Documents of a word processor as plain text, and those that are none."""

from __future__ import annotations

import pytest

from juxtaform.formats import documents, texts
from tests.written import ODF, W, docx, odt, par, zipped


def text_of(data: bytes) -> str:
    text, source = texts.decoded(data)
    assert source == texts.Source()
    return text


def test_a_docx_gives_its_words_and_headings_without_what_was_taken_out():
    crossed_out = "<w:r><w:rPr><w:strike/></w:rPr><w:t>Not this.</w:t></w:r>"
    text = text_of(
        docx(
            par("The Otter’s Umbrella"),
            par("One . . . . 3", "TOC1"),
            par("One", "Heading1"),
            par(
                "<w:ins><w:r><w:t>Otto sat. </w:t></w:r></w:ins><w:del><w:r><w:delText>He ran.</w:delText></w:r></w:del>"
            ),
            par(
                f'{crossed_out}<w:r><w:t>It</w:t><w:tab/><w:t>rained.</w:t><w:br/><w:t>A lot.</w:t><w:footnoteReference w:id="2"/></w:r>'
            ),
            f"<w:tbl><w:tr><w:tc>{par('In a table.')}</w:tc><w:tc>{par('Beside it.')}</w:tc></w:tr></w:tbl>",
        )
    )
    assert text == ("The Otter’s Umbrella\n\n# One\n\nOtto sat.\n\nIt rained.\nA lot.\n\nIn a table.\n\nBeside it.\n")


def test_a_list_that_the_word_processor_counts_keeps_its_numbers_and_its_pages():
    tellings = ["Otto wakes.", "It rains.", "He looks for the umbrella.", "He finds it.", "It has a hole."]
    text = text_of(docx(*(par(words, counted=True) for words in tellings)))
    assert text.startswith("1. Otto wakes.\n\n2. It rains.")
    assert len(texts.read(text, "prose").panels) == 5


def test_empty_paragraphs_part_a_script_and_its_cues_keep_their_lines():
    script = [
        *("INT. KITCHEN - DAY", "", "Mia stirs.", "", "MIA", "Hot!", "", "OTTO", "Very hot.", "", "EXT. YARD - DAY"),
        *("", "Rain."),
    ]
    text = text_of(docx(*(par(words) for words in script)))
    assert text == "\n".join(script) + "\n"
    assert texts.syntax_of(text) == "fountain"
    styled = text_of(docx(par("INT. KITCHEN - DAY"), par("Mia stirs."), par("MIA", "Cue"), par("Hot!"), par("Rain.")))
    assert styled == "INT. KITCHEN - DAY\n\nMia stirs.\n\nMIA\nHot!\n\nRain.\n"


def table(*rows: tuple[str, ...]) -> str:
    return f"<w:tbl>{''.join('<w:tr>' + ''.join(f'<w:tc>{par(c)}</w:tc>' for c in row) + '</w:tr>' for row in rows)}</w:tbl>"


def test_a_table_that_tells_a_book_by_its_pages_is_read_by_them():
    text = text_of(
        docx(
            par("The Otter"),
            table(
                ("Spread", "Text", "Illustration notes"),
                ("1", "Otto wakes.", "A burrow [dawn]"),
                ("2–3", "It rains.", ""),
                ("4", "", "Wordless: the river"),
            ),
        )
    )
    assert (
        "Spread 1\n\nOtto wakes.\n\n[Art: A burrow (dawn)]\n\nSpread 2–3\n\nIt rains.\n\nSpread 4\n\n[Art: Wordless"
        in text
    )
    read = texts.read(text, "prose")
    assert read.by_pages
    assert len(read.panels) == 3


def test_an_odt_gives_its_words_and_headings_without_notes_and_changes():
    text = text_of(
        odt(
            "<text:tracked-changes><text:p>Gone.</text:p></text:tracked-changes>"
            '<text:h text:outline-level="2">One</text:h>'
            '<text:p>Otto<text:s text:c="3"/>sat.<text:note><text:p>A note.</text:p></text:note><text:line-break/>It\n  <text:span>rained</text:span>.</text:p>'
            '<text:list text:style-name="L1"><text:list-item><text:p>First.</text:p><text:p>More of it.</text:p></text:list-item>'
            "<text:list-item><text:p>Second.</text:p></text:list-item></text:list>"
            "<text:list><text:list-item><text:p>A point.</text:p></text:list-item></text:list>"
            "<text:p><office:annotation><text:p>Really?</text:p></office:annotation>End.</text:p>"
        )
    )
    assert text == "## One\n\nOtto sat.\nIt rained.\n\n1. First.\n\nMore of it.\n\n2. Second.\n\nA point.\n\nEnd.\n"


def test_rich_text_gives_its_words_in_any_alphabet():
    data = (
        rb"{\rtf1\ansi\ansicpg1252{\fonttbl\f0\fswiss\fcharset0 Helvetica;\f1\fcharset204 Times;{\f2\fcharset0{\*\panose 02}Arial;}}"
        rb"{\colortbl;\red255\green255\blue255;}\f0\fs24 The fox\'92s caf\'e9 \u8212? closed.\par "
        rb'{\field{\*\fldinst{HYPERLINK "http://nowhere.test"}}{\fldrslt the harbour}} \uc0\u55357\u56836 \par '
        rb"{\pict\pngblip " + b"ab" * 900_000 + rb"}\f1 \'cf\'f0\'e8\'e2\'e5\'f2 \par}"
    )
    assert text_of(data) == "The fox’s café — closed.\n\nthe harbour 😄\n\nПривет\n"


DEEP = "<w:sdt><w:sdtContent>" * 20_000 + "</w:sdtContent></w:sdt>" * 20_000
BOMB = zipped(**{"word/document.xml": b" " * (40 << 20)})
ENTITY = '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa">]>'


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"\xd0\xcf\x11\xe0" + bytes(600), "old kind"),
        (b"%PDF-1.7\n", "a PDF"),
        (b"PK\x03\x04 and no more", "damaged"),
        (zipped(**{"a.txt": "A story."}), "an archive"),
        (BOMB, "larger than 32 MB"),
        (docx("<w:p/>" * 400_000), "more marks"),
        (docx(DEEP), "damaged"),
        (zipped(**{"word/document.xml": f"{ENTITY}<w:document {W}><w:body/></w:document>"}), "not written as"),
        (zipped(**{"word/document.xml": f"<w:document {W}><w:body>"}), "damaged"),
        (zipped(**{"content.xml": f"{ENTITY}<a>&a;</a>"}), "not written as"),
        (zipped(**{"content.xml": f"<office:document-content {ODF}/>"}), "no written document"),
        (b"{\\rtf1 " + b"word " * (1 << 20), "the most is 4"),
    ],
    ids=[
        "doc",
        "pdf",
        "torn",
        "archive",
        "bomb",
        "tags",
        "deep",
        "entity",
        "unclosed",
        "odt entity",
        "odt empty",
        "rtf long",
    ],
)
def test_what_is_no_document_or_means_harm_is_refused_with_what_to_do(data, said):
    with pytest.raises(texts.NotText, match=said):
        texts.decoded(data)


@pytest.mark.parametrize(
    "again",
    [r"{\field{\*\fldinst{", r"{\field{\*\fldinst{ HYPERLINK ", r"\f1 a", r"{\fonttbl", "{", r"\'e9", r"\pict\bin"],
)
def test_rich_text_that_never_ends_is_read_through(again):
    data = (r"{\rtf1 " + again * (3_000_000 // len(again))).encode()
    try:
        words = texts.decoded(data)[0]
        assert bool(words.strip()) == (again == r"\f1 a")
    except texts.NotText:
        assert again == r"\pict\bin"


def test_a_document_without_words_is_an_empty_text():
    assert documents.words_of(docx(par("")), "docx") == ""
