"""The book out: opened by other programs, its boxes, words, pictures and order held against the layout."""

import shutil
import subprocess
import zipfile
from datetime import UTC, datetime

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader

from juxtaform.core.book.cover import covered
from juxtaform.core.book.pages import Book, BookShot, laid_out
from juxtaform.formats.out.book import PT_PER_MM, OutBook, book_pdf, dummy_pdf, folded
from juxtaform.formats.out.cover import NoCover, cover_pdf
from juxtaform.formats.out.epub import epub
from juxtaform.formats.out.sequence import Going, OutPicture, OutSequence, OutShot

AT = datetime(2026, 11, 27, tzinfo=UTC)
SAID = ["One & <one> tide.", "Они ждали на причале.", "Καλημέρα, said the “spread”.", "", "Half one.", "Half two."]
FORMS = ["single", "single", "spread", "single", "half", "half"]


@pytest.fixture
def book(tmp_path):
    """Six shots: one bleeds, one is a spread of which the left half is red and the right half blue, one has no picture, two are halves."""
    shots, laid = [], []
    for i, (words, form) in enumerate(zip(SAID, FORMS, strict=True), 1):
        pixels = np.zeros((400, 1066 if form == "spread" else 600, 3), np.uint8)
        pixels[:] = (20 * i, 120, 90)
        if form == "spread":
            pixels[:, :533], pixels[:, 533:] = (200, 30, 30), (30, 30, 200)
        Image.fromarray(pixels).save(tmp_path / f"{i}.png")
        picture = None if i == 4 else OutPicture(str(tmp_path / f"{i}.png"), pixels.shape[1], 400, "image/png")
        shots.append(
            OutShot(f"s{i}", i, f"Scene {i // 3}", f"Step {i}", "", "static", 3.0, "cut", 0.6, words, picture=picture)
        )
        laid.append(BookShot(f"s{i}", i, form, pixels.shape[1] / 400 if picture else 0.0, words, bleed=i == 1))
    made = Book(
        180, 120, 3, 10, 8, 4, ("title", "imprint", "dedication"), 13, "For the crab", "Made by hand\n© nobody & all"
    )
    return OutBook(OutSequence("Pell: the <Tide>", tuple(shots), project="a" * 32), laid_out(laid, made))


@pytest.fixture
def going(tmp_path):
    (tmp_path / "work").mkdir()
    return Going(tmp_path / "work")


def text_of(path, page):
    told = subprocess.run(
        ["pdftotext", "-f", str(page), "-l", str(page), str(path), "-"], capture_output=True, text=True, check=True
    )
    return " ".join(told.stdout.split())


def seen(path, page, folder):
    subprocess.run(
        ["pdftoppm", "-r", "50", "-f", str(page), "-l", str(page), "-singlefile", "-png", str(path), str(folder / "p")],
        check=True,
    )
    return np.asarray(Image.open(folder / "p.png").convert("RGB")).astype(int)


def test_a_book_has_its_pages_in_order_with_boxes_words_and_faces(book, going, tmp_path):
    to = tmp_path / "b.pdf"
    assert book_pdf(book, to, going) == []
    pages = PdfReader(to).pages
    assert len(pages) == len(book.layout.pages) == 12
    for page in pages:
        edge = 3 * 72 / 25.4
        assert float(page.trimbox.width) == pytest.approx(180 * 72 / 25.4, abs=0.02)
        assert float(page.trimbox.left) == pytest.approx(edge, abs=0.02)
        assert tuple(page.bleedbox) == tuple(page.mediabox)
    assert text_of(to, 1) == "Pell: the <Tide>"
    assert text_of(to, 2) == "Made by hand © nobody & all"
    assert text_of(to, 3) == "For the crab"
    assert text_of(to, 4) == SAID[0]
    assert text_of(to, 5) == SAID[1]
    assert text_of(to, 9) == "Half one. Half two."
    fonts = subprocess.run(["pdffonts", str(to)], capture_output=True, text=True, check=True).stdout
    assert all(line.split()[-5] == "yes" for line in fonts.splitlines()[2:])


def test_a_spread_is_cut_at_the_fold_and_what_bleeds_reaches_the_edge(book, going, tmp_path):
    to = tmp_path / "b.pdf"
    book_pdf(book, to, going)
    left, right = seen(to, 6, tmp_path), seen(to, 7, tmp_path)
    high, wide = left.shape[:2]
    assert np.abs(left[high // 2, 5] - (200, 30, 30)).max() < 12
    assert np.abs(left[high // 2, wide - 12] - (200, 30, 30)).max() < 12
    assert np.abs(right[high // 2, wide - 5] - (30, 30, 200)).max() < 12
    assert np.abs(right[high // 2, 12] - (30, 30, 200)).max() < 12
    bleeding = seen(to, 4, tmp_path)
    assert np.abs(bleeding[1, 1] - (20, 120, 90)).max() < 12
    assert (seen(to, 5, tmp_path)[1, 1] > 250).all()
    assert seen(to, 8, tmp_path).mean() > 200  # a card stands where there is no picture


def test_a_dummy_can_be_folded(book, going, tmp_path):
    to = tmp_path / "d.pdf"
    dummy_pdf(book, to, going)
    assert len(PdfReader(to).pages) == 6
    assert "Pell: the <Tide>" in text_of(to, 1)
    assert "Made by hand" in text_of(to, 2)
    assert "Half one." in text_of(to, 4)  # page 9 and page 4 lie on one sheet


@pytest.mark.parametrize("count", [4, 8, 12, 6, 1])
def test_folded_sheets_follow_each_other(count):
    sides = folded(count)
    whole = 2 * len(sides)
    assert sorted(n for pair in sides for n in pair if n) == list(range(1, count + 1))
    for front, back in zip(sides[::2], sides[1::2], strict=True):
        # The page behind a right-hand one is the next; the one behind a left-hand page comes before it.
        assert (front[1] or whole) % 2 == 1
        assert back[0] in (None, (front[1] or 0) + 1)
        assert sum(n or 0 for n in front) in (0, whole + 1, front[1] or 0, front[0] or 0)


def test_an_e_book_is_valid_and_holds_the_words_as_text(book, going, tmp_path):
    to = tmp_path / "b.epub"
    assert epub(book, AT, to, going) == []
    checker = shutil.which("epubcheck")
    told = subprocess.run(["java", "-jar", checker, str(to)], capture_output=True, text=True)
    assert told.returncode == 0, told.stdout + told.stderr
    assert "0 fatals / 0 errors / 0 warnings" in told.stdout + told.stderr
    with zipfile.ZipFile(to) as archive:
        names = archive.namelist()
        assert names[0] == "mimetype"
        pages = [n for n in names if n.startswith("EPUB/page-")]
        every = "".join(archive.read(p).decode() for p in pages)
        assert len(pages) == 12
        assert "One &amp; &lt;one&gt; tide." in every
        assert all(words.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;") in every for words in SAID)
        package = archive.read("EPUB/package.opf").decode()
        assert "page-spread-right" in package
        assert "pre-paginated" in package
        assert sum("literata" in n for n in names) == 3  # Latin, Cyrillic and Greek, and no other


def test_a_damaged_picture_is_told_in_every_form(book, going, tmp_path):
    (tmp_path / "1.png").write_bytes(b"nothing")
    assert book_pdf(book, tmp_path / "b.pdf", going) == [1]
    assert epub(book, AT, tmp_path / "b.epub", going) == [1]


def test_words_that_no_page_can_hold_leave_a_whole_file(tmp_path, going):
    shot = OutShot("s", 1, "", "Step\x07 <b>", "", "static", 3.0, "cut", 0.6, "\x00word " * 4000)
    layout = laid_out([BookShot("s", 1, "single", 0.0, shot.words)], Book())
    book = OutBook(OutSequence("\x01T", (shot,)), layout)
    book_pdf(book, tmp_path / "b.pdf", going)
    epub(book, AT, tmp_path / "b.epub", going)
    assert len(PdfReader(tmp_path / "b.pdf").pages) == len(layout.pages)


def test_a_cover_is_one_sheet_with_its_words_and_leads_the_e_book(book, going, tmp_path):
    made, _ = covered(book.layout.book, 7.5, "s3", 2.665, (book.sequence.title, "Nobody & Co", "Read <me>."), "#102030")
    whole = OutBook(book.sequence, book.layout, made)
    assert cover_pdf(whole, tmp_path / "c.pdf", going) == []
    page = PdfReader(tmp_path / "c.pdf").pages[0]
    wide, high = (float(page.trimbox.width), float(page.trimbox.height))
    assert (wide / PT_PER_MM, high / PT_PER_MM) == (pytest.approx(367.5), pytest.approx(120))
    told = text_of(tmp_path / "c.pdf", 1)
    assert all(words in told for words in ("Pell: the <Tide>", "Nobody & Co", "Read <me>."))
    pixels = seen(tmp_path / "c.pdf", 1, tmp_path)
    h, w = pixels.shape[:2]
    assert np.abs(pixels[h // 8, w // 8].astype(int) - (16, 32, 48)).max() < 8  # the back
    assert np.abs(pixels[h // 2, round(0.95 * w)].astype(int) - (30, 30, 200)).max() < 40  # the right of the picture
    epub(whole, AT, tmp_path / "b.epub", going)
    checked = subprocess.run(
        ["java", "-jar", shutil.which("epubcheck"), str(tmp_path / "b.epub")], capture_output=True, text=True
    )
    assert "0 fatals / 0 errors / 0 warnings" in checked.stdout + checked.stderr
    with zipfile.ZipFile(tmp_path / "b.epub") as archive:
        package = archive.read("EPUB/package.opf").decode()
        assert package.count("cover-image") == 1
        assert package.index("cover-page") < package.index('idref="page-1"')
    with pytest.raises(NoCover):
        cover_pdf(book, tmp_path / "n.pdf", going)
