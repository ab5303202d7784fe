"""Panels on constructed pages, and views on a sheet."""

import cv2
import numpy as np
import pytest

from juxtaform.core.picture.panels import panels, reading_order, views_on
from juxtaform.core.picture.regions import Box
from juxtaform.core.picture.upright import straightened
from tests.constructed import random_look, reference
from tests.constructed_pages import CASES, LAYOUTS, drawn_page, in_photo, judged, overlap


@pytest.mark.parametrize("case", CASES)
def test_panels_of_a_drawn_page_are_found(case):
    hits = false = missed = 0
    for layout in (2, 5):
        drawn = drawn_page(np.random.default_rng(40 + layout), layout, **CASES[case])
        page = straightened(drawn.photo)
        h, f, m = judged(drawn, panels(page.pixels), page.to_page)
        hits, false, missed = hits + h, false + f, missed + m
    assert 2 * hits / (2 * hits + false + missed) >= 0.9


@pytest.mark.parametrize("layout", [5])
@pytest.mark.parametrize("paper", ["dark", "red", "blue"])
def test_gutters_may_be_of_any_colour(layout, paper):
    drawn = drawn_page(np.random.default_rng(60 + layout), layout, noise=1.0)
    shown = drawn.photo.astype(float)
    shown = 255 - shown if paper == "dark" else shown * ({"red": (0.8, 0.4, 0.3), "blue": (0.3, 0.45, 0.7)}[paper])
    page = straightened(shown.astype(np.uint8))
    assert np.allclose(page.to_page, np.eye(3)), "an upright page is not turned"
    hits, false, missed = judged(drawn, panels(page.pixels), page.to_page)
    assert (hits, false, missed) == (len(drawn.quads), 0, 0)


def test_panels_full_of_art_are_parted_by_gutters_as_thin_as_a_few_pixels():
    rng = np.random.default_rng(4)
    page = np.full((900, 700, 3), (96, 110, 84), np.uint8)
    truth = [Box(12, 12, 330, 420), Box(350, 12, 338, 420), Box(12, 440, 676, 448)]
    for b in truth:
        art = cv2.resize(rng.integers(0, 255, (9, 7, 3), dtype=np.uint8), (int(b.w), int(b.h)))
        page[int(b.y) : int(b.y + b.h), int(b.x) : int(b.x + b.w)] = art
    found = panels(straightened(page).pixels)
    assert len(found) == 3
    for b, expected in zip(found, truth, strict=True):
        assert max(abs(b.x - expected.x), abs(b.y - expected.y), abs(b.w - expected.w), abs(b.h - expected.h)) < 8


def test_panels_come_in_reading_order_and_the_other_way_round_for_the_other_direction():
    drawn = drawn_page(np.random.default_rng(3), 3, turn=2.0)
    page = straightened(drawn.photo)
    for direction in ("left to right", "right to left"):
        quads = in_photo(panels(page.pixels, direction), page.to_page)
        order = [max(range(len(drawn.quads)), key=lambda i, q=q: overlap(q, drawn.quads[i])) for q in quads]
        assert order == ([0, 1, 2, 3, 4] if direction == "left to right" else [1, 0, 3, 2, 4])


def test_a_straightened_page_is_upright():
    drawn = drawn_page(np.random.default_rng(5), 2, desk=True, perspective=0.04, turn=-4.0)
    page = straightened(drawn.photo)
    quads = cv2.perspectiveTransform(drawn.quads.reshape(-1, 1, 2), page.to_page).reshape(-1, 4, 2)
    for quad in quads:
        across, down = quad[1] - quad[0], quad[3] - quad[0]
        assert abs(np.degrees(np.arctan2(across[1], across[0]))) < 1.2
        assert abs(np.degrees(np.arctan2(down[0], down[1]))) < 1.2


@pytest.mark.parametrize("level", [255, 128, 30])
def test_an_empty_page_has_no_panels(level):
    assert panels(np.full((900, 700, 3), level, np.uint8)) == []


def test_a_photo_too_small_is_refused():
    with pytest.raises(ValueError, match="too small"):
        straightened(np.zeros((40, 90, 3), np.uint8))


def test_order_of_boxes_goes_tier_by_tier():
    tall, top, low = Box(0, 0, 40, 100), Box(50, 0, 40, 45), Box(50, 55, 40, 45)
    assert reading_order([low, tall, top]) == [tall, top, low]
    assert len(LAYOUTS[-1]) == 4


def test_views_of_a_sheet_are_cut_apart_in_their_order():
    rng = np.random.default_rng(8)
    look = random_look(rng)
    figure = reference(look)
    h, w = figure.shape[:2]
    sheet = np.full((2 * h + 60, 3 * w + 120, 3), 255, np.uint8)
    truth = []
    for i in range(5):
        x, y = 30 + (i % 3) * (w + 30), 20 + (i // 3) * (h + 20)
        sheet[y : y + h, x : x + w] = figure
        truth.append((x + w / 2, y + h / 2))
    found = views_on(sheet)
    assert len(found) == 5
    for box, (x, y) in zip(found, truth, strict=True):
        assert abs(box.x + box.w / 2 - x) < 0.15 * w
        assert abs(box.y + box.h / 2 - y) < 0.15 * h
