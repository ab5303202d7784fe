"""The shot list as a table, and as a PDF."""

import io

import pytest
from PIL import Image

from juxtaform.formats.shot_table import HEADERS, TableWrong, read_table, write_csv, write_tabs
from juxtaform.formats.shotlist_pdf import PrintedShot, shot_list_pdf

ROW = {
    "number": "1",
    "scene": "The quay, dusk",
    "shows": 'Oda says “nine”; "nine", says Oda',
    "size": "MS",
    "angle": "bird's eye",
    "move": "push in",
    "length_s": "7.5",
    "spoken": "Nine,\nand one is mine.",
    "motion": "",
    "sound": "gulls",
    "music": "",
    "notes": "tab\there",
    "character": "Oda; Pell",
    "setting": "Quay",
    "style": "",
    "prop": "",
    "page_form": "spread",
    "bleed": "yes",
    "aspect": "1:1",
    "seed": "77",
    "donts": "lettering; frames",
    "words": "…",
    "id": "abc",
}


@pytest.mark.parametrize("write", [write_csv, write_tabs])
def test_a_table_reads_back_as_it_was_written(write):
    [row] = read_table(write([ROW])).rows
    facts = row.facts
    assert (facts["shows"], facts["spoken"], facts["notes"]) == (ROW["shows"], ROW["spoken"], ROW["notes"])
    assert (facts["length_s"], facts["bleed"], facts["page_form"]) == (7.5, True, "spread")
    assert facts["character"] == ["Oda", "Pell"]
    assert (facts["aspect"], facts["seed"], facts["donts"]) == ("1:1", 77, ["lettering", "frames"])
    assert "number" not in facts


def test_csv_is_as_rfc_4180_says():
    data = write_csv([ROW], ["Number", "Spoken"])
    assert data == b'\xef\xbb\xbfNumber,Spoken\r\n1,"Nine,\nand one is mine."\r\n'


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "empty"),
        ("Shows\n", "no rows"),
        ("Notes,Colour\nA,b", "Line 1: there is no column “Colour”"),
        ("Shows,Shows\nA,b", "stands twice"),
        ("Size\nMS", "needs the column"),
        ("Shows,Size\nA,MS\nB,HUGE", "Line 3, column “Size”"),
        ("Shows,Length\nA,ten", "Line 2, column “Length”"),
        ('Shows,Length\n"A\nB",5\nC,-1', "Line 4, column “Length”"),
        ("Shows,Bleed\nA,maybe", "neither yes nor no"),
        ("Shows,Form\nA,wide", "no form such as 3:2"),
        ("Shows,Seed\nA,-4", "no whole number"),
        ("Shows,Seed\nA,99999999999", "no whole number"),
        ("Shows,Size\nA,MS,WS,CU", "Line 2: 4 cells for 2 columns"),
    ],
)
def test_a_wrong_table_says_line_and_column(text, says):
    with pytest.raises(TableWrong, match=says):
        read_table(text)


def test_semicolons_tabs_commas_and_missing_columns_are_read():
    assert read_table("Shows;Length\nA;2,5").rows[0].facts == {"shows": "A", "length_s": 2.5}
    assert read_table("shows\tSIZE\nA\tmcu").rows[0].facts == {"shows": "A", "size": "MCU"}
    assert read_table("Shows,Size\nA,").rows[0].facts == {"shows": "A"}


def test_the_printed_list_has_its_words_and_pictures():
    out = io.BytesIO()
    Image.new("RGB", (300, 200), (200, 60, 40)).save(out, "WEBP")
    data = shot_list_pdf("Łódź – Ωmega", [PrintedShot(ROW | {"scene": str(i // 4)}, out.getvalue()) for i in range(14)])
    assert data.startswith(b"%PDF")
    assert data.count(b"/Subtype /Image") >= 1
    assert len(data) > 20_000
    assert data.count(b"/Type /Page\n") >= 3


def test_headers_are_documented_and_unique():
    assert len({h.casefold() for h in HEADERS}) == len(HEADERS)


def test_tables_of_others_are_read_by_the_trades_other_words():
    table = (
        "Shot #\tDescription\tShot size\tCamera angle\tCamera\tDuration\tDialogue\tSFX\tRemarks\n"
        "1A\tOda waits.\tClose-up\tLow angle\tDolly in\t0:04\tNine.\twind\tdusk\n"
        "1B\tPell runs.\tlong shot\tPOV\tnone\t2.5 sec\t\t\t"
    )
    first, second = (row.facts for row in read_table(table).rows)
    assert (first["shows"], first["size"], first["angle"], first["move"]) == ("Oda waits.", "CU", "low", "push in")
    assert (first["length_s"], first["spoken"], first["sound"], first["notes"]) == (4.0, "Nine.", "wind", "dusk")
    assert (second["size"], second["angle"], second["move"]) == ("WS", "point of view", "static")
    assert second["length_s"] == 2.5
    assert "number" not in first


def test_two_words_for_one_column_stand_there_twice():
    with pytest.raises(TableWrong, match="stands twice"):
        read_table("Shows,Description\nA,b")


@pytest.mark.parametrize(
    ("cell", "form"),
    [("4", "single"), ("pp. 4-5", "spread"), ("6 & 7", "spread"), ("Double page", "spread"), ("half", "half")],
)
def test_numbers_of_pages_tell_a_page_or_a_spread(cell, form):
    [row] = read_table(f"Shows;Page\nA;{cell}").rows
    assert row.facts["page_form"] == form


def test_a_column_that_nothing_is_known_of_is_told_beside_the_rows():
    table = read_table("Shows,Hue,,Size\nA,red,,MS")
    assert table.unknown == ["Hue"]
    assert table.rows[0].facts == {"shows": "A", "size": "MS"}


def test_a_table_of_markdown_is_read_as_one():
    told = read_table(
        "| Shot | Size | Description |\n|---|:--:|---|\n| 1 | WS | Fog over the quay |\n| 2 | CU | A hand \\| a rudder |\n"
    )
    assert [(r.line, r.facts["size"], r.facts["shows"]) for r in told.rows] == [
        (3, "WS", "Fog over the quay"),
        (4, "CU", "A hand | a rudder"),
    ]
    with pytest.raises(TableWrong, match="Line 3"):
        read_table("| Shot | Size | Description |\n|---|---|---|\n| 1 | HUGE | Fog |\n")
