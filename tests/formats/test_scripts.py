"""Texts of any script on paper, on cards and in the book: no letter is an empty box, and what is written can be read out again."""

import subprocess
from datetime import UTC, datetime

import numpy as np
import pytest
from pypdf import PdfReader

from juxtaform.core.book.pages import Book, BookShot, laid_out
from juxtaform.formats.fonts import covered_by, letters_of, script_files, subset_files
from juxtaform.formats.out.book import OutBook, book_pdf
from juxtaform.formats.out.epub import epub
from juxtaform.formats.out.lettering import as_one, card, letters
from juxtaform.formats.out.sequence import Going, OutSequence, OutShot
from juxtaform.formats.out.storyboard import storyboard

TEXTS = {
    "Greek": "Η παλίρροια κοιμόταν.",
    "Cyrillic": "Прилив спал.",
    "Arabic": "كان المد نائماً.",
    "Hebrew": "הגאות ישנה.",
    "Devanagari": "ज्वार सो रहा था।",
    "Bengali": "জোয়ার ঘুমিয়ে ছিল।",
    "Tamil": "அலை தூங்கியது.",
    "Thai": "น้ำขึ้นหลับอยู่",
    "Georgian": "ზღვა იძინებდა.",
    "Armenian": "Ծովը քնած էր։",
    "Vietnamese": "Thủy triều đã ngủ.",
    "Tatar": "Диңгез йоклаган иде, җәй.",
    "Ancient Greek": "Ἡ ἄμπωτις ἐκοιμᾶτο.",
    "Gujarati": "ભરતી સૂતી હતી.",
    "Punjabi": "ਜਵਾਰ ਸੁੱਤੀ ਸੀ.",
    "Telugu": "అల నిద్రపోయింది.",
    "Kannada": "ಅಲೆ ಮಲಗಿತ್ತು.",
    "Malayalam": "തിര ഉറങ്ങി.",
    "Odia": "ଜୁଆର ଶୋଇଥିଲା.",
    "Sinhala": "වඩදිය නිදා සිටියේය.",
    "Khmer": "ទឹកជោរកំពុងដេក។",
    "Lao": "ນ້ຳຂຶ້ນນອນຫຼັບ",
    "Burmese": "ဒီရေ အိပ်နေသည်။",
    "Amharic": "ማዕበሉ ተኝቶ ነበር።",
    "Tibetan": "རླབས་ཉལ་ཡོད།",
    "Dhivehi": "ދިޔަވަރު ނިދަން އޮތެވެ.",
    "Syriac": "ܝܡܐ ܕܡܟ.",
    "Cherokee": "ᎠᎺᏉᎯ ᎦᎵᎲᎢ.",
    "Inuktitut": "ᐃᒪᖅ ᓯᓂᒃᑐᖅ.",
    "Japanese": "潮は眠っていた。",
    "Korean": "밀물이 자고 있었다.",
    "Chinese": "潮水睡着了。",
}
JOINING = {
    *(
        "Arabic",
        "Devanagari",
        "Bengali",
        "Tamil",
        "Thai",
        "Hebrew",
        "Gujarati",
        "Punjabi",
        "Telugu",
        "Kannada",
        "Malayalam",
        "Odia",
        "Sinhala",
    ),
    *("Khmer", "Lao", "Burmese", "Tibetan", "Dhivehi", "Syriac"),
}
"""What joins or stacks its letters, or runs from the right, is read out of a PDF in the order in which it is drawn."""


@pytest.fixture
def going(tmp_path):
    (tmp_path / "work").mkdir()
    return Going(tmp_path / "work")


def sequence(words):
    shot = OutShot("s", 1, "", words, "", "static", 3.0, "cut", 0.6, words)
    return OutSequence(words, (shot,), project="a" * 32)


@pytest.mark.parametrize("script", TEXTS)
def test_every_letter_has_a_face(script):
    words = TEXTS[script]
    have = frozenset().union(
        *(covered_by(p) for p in (*subset_files("book"), *subset_files("sans"), *script_files(words)))
    )
    assert {c for c in words if not c.isspace() and ord(c) not in have} == set()


@pytest.mark.parametrize("script", TEXTS)
def test_words_are_printed_in_faces_that_are_embedded(script, going, tmp_path):
    words = TEXTS[script]
    to = tmp_path / "s.pdf"
    storyboard(sequence(words), 4, to, going)
    told = subprocess.run(["pdffonts", str(to)], capture_output=True, text=True, check=True).stdout.splitlines()[2:]
    assert all(" yes yes yes " in f"{line} " or " yes yes no " in f"{line} " for line in told)
    read = subprocess.run(["pdftotext", str(to), "-"], capture_output=True, text=True, check=True).stdout
    if script in JOINING:
        letters_read = {c for c in read if not c.isspace()}
        assert len({c for c in words if c.isalpha()} & letters_read) >= 0.6 * len({c for c in words if c.isalpha()})
    else:
        assert "".join(words.split()) in "".join(read.split())
    laid = laid_out([BookShot("s", 1, "single", 0.0, words)], Book(180, 120, 3, 10, 8, 4, ("title",), 13, "", ""))
    book_pdf(OutBook(sequence(words), laid), tmp_path / "b.pdf", going)
    assert len(PdfReader(tmp_path / "b.pdf").pages) == len(laid.pages)


@pytest.mark.parametrize("script", TEXTS)
def test_cards_show_the_letters_and_no_boxes(script):
    words = TEXTS[script]
    face = letters("book", 400, 40)
    missing = {face._font(c) for c in words if not c.isspace()}
    empty = face._fonts[0][0]
    assert script in ("Latin",) or missing != {empty}
    drawn, boxes = card(1, words, 900, 600), card(1, "\ue000" * len(words), 900, 600)
    assert not np.array_equal(drawn, boxes)
    assert face.width(words) > 40


def as_drawn(words):
    """A line's parts from the left, as whoever reads it sees them, without the spaces between."""
    return [run.words.strip() for run in letters("book", 400, 40)._runs(words) if run.words.strip()]


@pytest.mark.parametrize(
    ("line", "from_the_left"),
    [
        ("הספינה 12 יצאה", ["יצאה", "12", "הספינה"]),
        ("אמרה (Ada) לים", ["לים", ")", "Ada", "(", "אמרה"]),
        ("Ada said שלום 12 now", ["Ada said", "12", "שלום", "now"]),
        ("في 7:30 مع", ["مع", "7:30", "في"]),
        ("می\u200cخواهم", ["می\u200cخواهم"]),
    ],
)
def test_a_line_of_two_directions_stands_as_it_is_read(line, from_the_left):
    assert "".join(as_drawn(line)).replace(" ", "") == "".join(from_the_left).replace(" ", "")


def test_every_line_of_a_text_from_the_right_runs_from_the_right():
    lines = letters("book", 400, 40).lines("הספינה יצאה Ada אמרה", 240)
    ada = next(line for line in lines if "Ada" in line)
    assert len(lines) == 2
    assert as_drawn(ada) == ["אמרה", "Ada"]
    assert as_one(["Ada", "אמרה"]) == ["Ada", "אמרה"]


def test_a_book_takes_only_the_faces_that_it_needs(going, tmp_path):
    words = TEXTS["Japanese"]
    laid = laid_out([BookShot("s", 1, "single", 0.0, words)], Book(180, 120, 3, 10, 8, 4, (), 13, "", ""))
    epub(OutBook(sequence(words), laid), datetime(2026, 1, 2, tzinfo=UTC), tmp_path / "b.epub", going)
    import zipfile

    with zipfile.ZipFile(tmp_path / "b.epub") as archive:
        faces = [n for n in archive.namelist() if "noto" in n]
        assert 1 <= len(faces) <= 8
        assert all("-jp-" in n for n in faces)
    assert script_files("The tide — “woke”. Прилив. Thủy triều.") == []
    assert letters_of(script_files("ა")[0]).startswith("U+")
