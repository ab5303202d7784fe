"""The book: pages in their order, words where they can be read, and what would go wrong in print."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.book.cover import covered, spine_of
from juxtaform.core.book.legible import BUSY_MOST, legibility, luminance, quiet_place
from juxtaform.core.book.notes import book_notes
from juxtaform.core.book.pages import Book, BookShot, laid_out, paged
from juxtaform.core.book.placing import placed_well
from juxtaform.core.book.words import LEADING, MM_PER_PT, lines_in, lines_wide, width_of
from juxtaform.core.picture.regions import Box

BOOK = Book(trim_w=200, trim_h=150, front=("title",))
WORDS = "The tide woke, and stretched, and remembered the sea."
PAPER = np.full((160, 240), 0.8)
INK = np.full((160, 240), 0.02)


def single(i, **facts):
    return BookShot(f"s{i}", i, "single", 4 / 3, WORDS, **facts)


def kinds(*forms, **facts):
    pages, empty, filled = paged(
        [BookShot(f"s{i}", i, f, 1.5, "") for i, f in enumerate(forms, 1)], replace(BOOK, **facts)
    )
    return [(p.kind, *p.shots) for p in pages], empty, filled


def test_pages_fill_up_to_whole_sheets():
    told, empty, filled = kinds("single", "single")
    assert told == [("title",), ("shot", "s1"), ("shot", "s2"), ("blank",)]
    assert (empty, filled) == ([], 1)
    assert kinds("single", multiple=1)[2] == 0
    assert len(kinds("single", multiple=8)[0]) == 8


def test_halves_share_a_page_and_a_lone_one_stands_by_itself():
    told, _, _ = kinds("half", "half", "half", "single")
    assert told[1:4] == [("shot", "s1", "s2"), ("shot", "s3"), ("shot", "s4")]


@pytest.mark.parametrize(("front", "at", "skipped"), [(("title",), 2, []), (("title", "imprint"), 4, [3])])
def test_a_spread_begins_on_a_left_hand_page(front, at, skipped):
    told, empty, _ = kinds("spread", front=front)
    assert told[at - 1] == told[at] == ("shot", "s1")
    assert empty == skipped


def test_a_spread_lies_over_both_pages_of_one_opening():
    layout = laid_out([BookShot("s1", 1, "spread", 2.0, WORDS)], BOOK)
    [opening] = [o for o in layout.openings if o.shots]
    assert (opening.left.number, opening.right.number) == (2, 3)
    [picture] = opening.pictures
    assert picture.box == Box(-3, -3, 406, 156)
    assert picture.part == pytest.approx((0.0, 0.1156, 1.0, 0.7685), abs=0.001)  # a wider room cuts top and foot alike
    assert len(opening.words) == 1


def test_what_bleeds_fills_its_page_to_the_cut_and_ends_at_the_fold():
    layout = laid_out([single(1, bleed=True), single(2, bleed=True)], BOOK)
    left, right = next(o for o in layout.openings if len(o.pictures) == 2).pictures
    assert left.box == Box(-3, -3, 203, 156)
    assert right.box == Box(200, -3, 203, 156)


def test_what_does_not_bleed_stands_whole_above_its_words_inside_the_safe_area():
    layout = laid_out([single(1)], BOOK)
    opening = next(o for o in layout.openings if o.shots)
    [picture], [words] = opening.pictures, opening.words
    assert picture.part == (0, 0, 1, 1)
    assert picture.box.w / picture.box.h == pytest.approx(4 / 3)
    assert picture.box.y + picture.box.h <= words.box.y
    assert words.box.y + words.box.h <= BOOK.trim_h - BOOK.safe
    assert book_notes(layout, [single(1)], {"s1": 9000}, {}, {}) == [
        n for n in book_notes(layout, [single(1)], {"s1": 9000}, {}, {}) if n.kind == "filled"
    ]


def test_a_half_page_has_its_words_beside_the_picture():
    shots = [BookShot(f"s{i}", i, "half", 1.5, WORDS) for i in (1, 2)]
    opening = next(o for o in laid_out(shots, replace(BOOK, trim_w=240)).openings if o.shots)
    for picture, words in zip(opening.pictures, opening.words, strict=True):
        assert words.box.x > picture.box.x + picture.box.w
        assert picture.box.h > 45


def test_words_are_laid_in_lines_that_fit():
    assert lines_in("", 100, 15) == 0
    assert lines_in("word " * 40, 60, 15) == lines_in("word " * 40, 30, 7.5)
    assert lines_in("one\ntwo", 100, 15) == 2
    assert lines_in("x" * 500, 50, 15) > 20  # a word without end is broken
    assert lines_wide("a bb ccc", 1000, 15) == pytest.approx(width_of("a bb ccc", 15))
    assert width_of("潮は眠る", 10) == pytest.approx(4 * 10 * MM_PER_PT)


def test_contrast_is_that_of_the_standard():
    # Two greys whose ratio WCAG gives: #767676 on white is 4.54 to 1.
    grey = luminance(np.full((8, 8, 3), 0x76, np.uint8))
    assert (1.05 / (grey[0, 0] + 0.05)) == pytest.approx(4.54, abs=0.01)
    assert legibility(np.full((40, 40), grey[0, 0]), 6, "light").contrast == pytest.approx(4.54, abs=0.01)
    assert legibility(PAPER, 6).tone == "dark"
    assert legibility(INK, 6).tone == "light"
    assert not legibility(PAPER, 6, "light").is_good


def test_a_calm_wash_is_not_busy_and_a_hatched_wall_is():
    rng = np.random.default_rng(1)
    wash = np.clip(0.6 + 0.1 * np.linspace(0, 1, 120)[None, :] + rng.normal(0, 0.01, (80, 120)), 0, 1)
    wall = np.where((np.indices((80, 120)).sum(axis=0) // 4) % 2, 0.75, 0.08)
    assert legibility(wash, 6).busy < BUSY_MOST / 4
    assert legibility(wall, 6).busy > BUSY_MOST


def test_words_go_to_the_calm_part_and_to_no_face():
    ground = np.where((np.indices((160, 240)).sum(axis=0) // 4) % 2, 0.75, 0.08)
    ground[20:80, 130:230] = 0.03  # one calm dark place
    free = np.ones_like(ground)
    best = quiet_place(ground, (80, 30), 5, free)
    assert 128 <= best.x <= 150
    assert 18 <= best.y <= 50
    assert (best.legible.tone, best.legible.is_good) == ("light", True)
    free[:, 120:] = 0
    assert quiet_place(ground, (80, 30), 5, free).x < 50
    assert quiet_place(ground, (300, 30), 5, free) is None
    free[:] = 0
    free[41:72, 11:101] = 1  # room for the words at one place alone
    only = quiet_place(ground, (90, 31), 5, free)
    assert (only.x, only.y) == (11, 41)


def placed(shot, ground, faces=()):
    layout = laid_out([shot], BOOK)
    layout, read = placed_well(layout, {shot.id: ground}, {shot.id: faces})
    return layout, read, book_notes(layout, [shot], {shot.id: 9000}, {shot.id: faces}, read)


def told(notes):
    return sorted(n.kind for n in notes if n.kind != "filled")


def test_words_over_a_picture_find_their_place_and_tone():
    ground = np.full((150, 200), 0.75)
    ground[90:] = 0.02
    face = ("Ada", Box(0.0, 0.6, 0.45, 0.4))
    layout, read, notes = placed(single(1, bleed=True), ground, [face])
    [words] = next(o for o in layout.openings if o.words).words
    assert words.tone == read["s1"].tone
    assert told(notes) == []
    assert words.box.x >= 9.9  # page 2 is a left one


@pytest.mark.parametrize(
    ("at", "tone", "kind"),
    [
        ((0.1, 0.7, 0.5, 0.1), "dark", "contrast"),
        ((0.0, 0.1, 0.5, 0.1), None, "unsafe"),
        ((0.6, 0.1, 0.6, 0.1), None, "words in fold"),
        ((0.1, 0.1, 0.5, 0.1), None, ""),
    ],
)
def test_words_that_were_put_somewhere_stay_and_are_judged_there(at, tone, kind):
    ground = np.full((150, 200), 0.75)
    ground[90:] = 0.02
    layout, _, notes = placed(single(1, bleed=True, words_at=at, tone=tone), ground)
    [words] = next(o for o in layout.openings if o.words).words
    assert words.by_hand
    assert words.box.x == pytest.approx(at[0] * BOOK.trim_w)
    assert told(notes) == ([kind] if kind else [])


def test_a_face_in_the_fold_is_told_and_one_beside_it_is_not():
    shot = BookShot("s1", 1, "spread", 400 / 150, "")
    _, _, notes = placed(shot, PAPER, [("Pell", Box(0.46, 0.2, 0.1, 0.3))])
    assert [(n.kind, n.title) for n in notes if n.kind == "fold"] == [("fold", "Pell’s face lies in the fold")]
    _, _, notes = placed(shot, PAPER, [("Pell", Box(0.3, 0.2, 0.1, 0.3))])
    assert told(notes) == []


def test_words_on_a_face_are_told():
    shot = single(1, bleed=True, words_at=(0.1, 0.1, 0.5, 0.2))
    _, _, notes = placed(shot, PAPER, [("Pell", Box(0.3, 0.1, 0.15, 0.2))])
    assert told(notes) == ["face"]


@pytest.mark.parametrize(("width", "small"), [(2398, False), (2300, True)])
def test_too_few_pixels_are_told_by_the_size_in_print(width, small):
    shot = replace(single(1, bleed=True), picture=203 / 156)
    layout = laid_out([shot], BOOK)  # 203 mm of page at 300 dpi are 2,398 px
    notes = book_notes(layout, [shot], {"s1": width}, {}, {})
    assert ("small" in told(notes)) == small
    if small:
        assert "2,398 px" in next(n.advice for n in notes if n.kind == "small")


def test_a_surprise_on_a_right_hand_page_is_given_away():
    shots = [single(1), single(2, surprise=True), single(3)]
    notes = book_notes(laid_out(shots, BOOK), shots, {}, {}, {})
    assert [(n.kind, n.page) for n in notes if n.kind == "surprise"] == [("surprise", 3)]
    turned = [single(1), single(2), single(3, surprise=True)]
    assert "surprise" not in told(book_notes(laid_out(turned, BOOK), turned, {}, {}, {}))


def test_empty_pages_are_told_with_what_to_do():
    shots = [single(1), BookShot("s2", 2, "spread", 2.0, "")]
    notes = book_notes(laid_out(shots, BOOK), shots, {}, {}, {})
    assert [(n.kind, n.page) for n in notes if n.kind == "empty"] == [("empty", 3)]
    assert "1 page" not in next(n.title for n in notes if n.kind == "empty")


def test_a_book_without_shots_has_its_front_matter():
    layout = laid_out([], BOOK)
    assert [p.kind for p in layout.pages] == ["title", "blank", "blank", "blank"]
    assert book_notes(layout, [], {}, {}, {})[0].title == "3 pages are empty at the end"
    assert laid_out([], replace(BOOK, front=(), multiple=1)).pages == ()


def test_the_words_height_is_the_leading_of_their_lines():
    layout = laid_out([single(1)], BOOK)
    [words] = next(o for o in layout.openings if o.words).words
    lines = lines_in(WORDS, words.box.w, 15)
    assert words.box.h == pytest.approx(lines * 15 * MM_PER_PT * LEADING)


def test_a_cover_has_its_title_in_the_calm_place_and_a_spine_by_its_pages():
    busy = np.full((240, 360), 0.02)
    rng = np.random.default_rng(3)
    busy[120:] = rng.choice([0.01, 0.9], (120, 360))
    face = [("Pell", Box(0.0, 0.0, 0.3, 0.5))]
    book = Book(180, 120, 3, 10, 8, 4)
    cover, read = covered(book, spine_of(120), "s", 1.5, ("Pell", "by Nobody", "Read me."), "#123a44", busy, face)
    assert read is not None
    assert (read.tone, read.is_good) == ("light", True)
    box = cover.title.box
    assert box.y + box.h <= 62
    assert box.x >= 180 + 0.3 * 180
    assert (cover.title.words, cover.width_mm, cover.tone) == ("Pell", 371.1, "light")
    assert covered(book, 0.0, "s", 1.5, ("P", "", ""), "#f0e8d8")[0].tone == "dark"
    assert cover.picture.box.x == 180  # nothing of it lies on the spine
