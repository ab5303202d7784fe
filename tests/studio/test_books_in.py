"""Comic archives and PDFs come in page by page; what is hostile or damaged is refused with the reason, and leaves nothing half."""

import io
import zipfile

import numpy as np
import pytest
from fpdf import FPDF

from juxtaform.studio import takes
from juxtaform.studio.workspace import NotPossible
from tests.conftest import flat


def archive(*entries):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, data in entries:
            made.writestr(name, data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def pdf(*colours):
    made = FPDF("L", "mm", (100, 150))
    for colour in colours:
        made.add_page()
        made.set_fill_color(*colour)
        made.rect(0, 0, 150, 100, "F")
    return bytes(made.output())


def test_an_archive_comes_in_by_its_numbers(ws):
    data = archive(
        ("book/10.png", flat((10, 0, 0))),
        ("book/2.jpg", flat((2, 0, 0))),
        ("ComicInfo.xml", "<a/>"),
        (".hidden.png", b"x"),
    )
    told = takes.take_in_book(ws, "Tide.cbz", data)
    assert [t.name for t in told] == ["Tide.cbz, page 001.jpg", "Tide.cbz, page 002.png"]
    assert [int(ws.store.pixels(t.sha)[0, 0, 0]) for t in told] == [2, 10]


def test_a_cover_before_the_pages_shifts_none_of_them(ws):
    data = archive(("000 cover.png", flat((9, 0, 0))), ("001 a.png", flat((1, 0, 0))), ("002 b.png", flat((2, 0, 0))))
    assert [t.name[-7:-4] for t in takes.take_in_book(ws, "Tide.cbz", data)] == ["000", "001", "002"]


def test_a_pdf_comes_in_as_pictures_of_its_pages(ws):
    told = takes.take_in_book(ws, "Tide.pdf", pdf((200, 30, 30), (30, 30, 200)))
    assert [(t.name, t.width, t.height) for t in told] == [
        ("Tide.pdf, page 001.png", 2400, 1600),
        ("Tide.pdf, page 002.png", 2400, 1600),
    ]
    assert np.abs(ws.store.pixels(told[1].sha)[800, 1200].astype(int) - (30, 30, 200)).max() <= 2


def test_a_bad_page_harms_no_other(ws):
    told = takes.take_in_book(ws, "x.cbz", archive(("1.png", b"\x89PNG nothing"), ("2.png", flat())))
    assert [bool(t.sha) for t in told] == [False, True]
    assert told[0].refused


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "neither"),
        (b"GIF89a", "neither"),
        (b"PK\x03\x04 and no more", "damaged"),
        (archive(("a.txt", "words")), "No picture"),
        (b"%PDF-1.7 and no more", "damaged"),
        (pdf((1, 2, 3))[:300], "damaged"),
        (archive(("bomb.png", b"\0" * 30_000_000)), "too large"),
    ],
)
def test_what_is_no_book_says_why(ws, data, words):
    with pytest.raises(NotPossible, match=words):
        takes.take_in_book(ws, "x", data)
