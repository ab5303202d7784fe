"""Edits of an area: masks, proof that nothing else changed, only the area taken, and added parts that match or do not."""

import cv2
import numpy as np
import pytest

from juxtaform.core.edits.added import added_parts
from juxtaform.core.edits.area import Area, Shape, box_of, mask_of
from juxtaform.core.edits.fit import laid_on
from juxtaform.core.edits.proof import proof
from juxtaform.core.edits.seam import only_inside
from juxtaform.core.picture.regions import Box
from tests.constructed_edits import grown, is_found, pair


def test_an_area_is_what_was_drawn_less_what_was_rubbed_out():
    area = Area(
        (Shape("box", ((0.1, 0.1), (0.5, 0.6))), Shape("brush", ((0.3, 0.0), (0.3, 1.0)), 0.02, rubbed=True)), 0.0
    )
    mask = mask_of(area, 200, 100)
    assert mask[30, 30] == 1
    assert mask[30, 60] == 0
    assert mask[30, 90] == 1
    assert mask[80, 30] == 0
    box = box_of(mask)
    assert (box.x, box.y, box.w, box.h) == (20, 10, 80, 50)
    with pytest.raises(ValueError, match="empty"):
        mask_of(Area((area.shapes[0], Shape("box", ((0, 0), (1, 1)), rubbed=True))), 200, 100)


def test_the_soft_rim_lies_inside_and_the_picture_s_own_edge_is_none():
    mask = mask_of(Area((Shape("box", ((0.0, 0.2), (0.5, 0.8))),), 0.05), 200, 200)
    assert mask[39].max() == 0
    assert 0 < mask[42, 50] < 0.5
    assert mask[100, 0] == 1
    assert mask[100, 98] < 0.5


@pytest.mark.parametrize("seed", [12, 22, 28, 34, 58])
def test_what_is_harmless_to_the_whole_picture_is_no_change(seed):
    made = pair(seed)
    assert not made.change
    told = proof(made.before, made.after, made.mask)
    assert told.places == ()


def test_exposure_and_size_are_told_as_harmless():
    made = pair(68)
    assert (made.change, made.harmless) == ("", "all")
    told = proof(made.before, made.after, made.mask)
    assert told.resized
    assert abs(told.stops) > 0.1
    assert told.shift_px > 0.5
    assert not told.changed


@pytest.mark.parametrize("seed", [0, 8, 10, 30, 40, 46])
def test_what_changed_outside_the_area_is_found_where_it_is(seed):
    made = pair(seed)
    assert made.change
    told = proof(made.before, made.after, made.mask)
    assert told.changed
    assert is_found(tuple(p.box for p in told.places), made.where)


def test_an_area_that_is_all_of_the_picture_leaves_nothing_to_prove():
    pixels = np.zeros((100, 100, 3), np.uint8)
    with pytest.raises(ValueError, match="nearly all"):
        proof(pixels, pixels, np.ones((100, 100), np.float32))


def test_taking_only_the_area_leaves_every_other_code_as_it_was():
    made = pair(40)
    taken = only_inside(made.before, made.after, made.mask)
    outside = made.mask == 0
    assert (taken[outside] == made.before[outside]).all()
    assert not proof(made.before, taken, made.mask).changed
    inside = made.mask > 0.99
    # The light of the whole edit is taken back inside: the middle of what was painted is as it was painted, not lighter.
    assert np.abs(taken[inside].astype(int) - made.before[inside]).mean() > 5


def test_added_sides_that_go_on_as_the_picture_does_are_not_told():
    pixels, box, _, flaw = grown(6)
    assert flaw == ""
    assert [p.departures for p in added_parts(pixels, box)] == [(), ()]


@pytest.mark.parametrize(
    ("seed", "words"), [(8, "greyer"), (16, "darker"), (24, "grain"), (40, "grain"), (48, "colour")]
)
def test_added_sides_in_another_hand_or_light_are_told_in_words(seed, words):
    pixels, box, _, _ = grown(seed)
    for part in added_parts(pixels, box):
        assert any(words in d.words for d in part.departures), part


def test_a_picture_that_did_not_grow_has_no_added_part():
    with pytest.raises(ValueError, match="Nothing was added"):
        added_parts(np.zeros((50, 50, 3), np.uint8), Box(0, 0, 50, 50))


def test_a_picture_is_laid_on_what_it_was_cropped_or_moved_from():
    """Looked at on the light table, both agree to the pixel though one was made smaller and moved."""
    made = pair(16)
    over = cv2.warpAffine(
        made.before,
        np.array([[0.9, 0, 30.0], [0, 0.9, -22.0]]),
        (1100, 680),
        flags=cv2.INTER_AREA,
        borderMode=cv2.BORDER_REFLECT,
    )
    affine = laid_on(made.before, over)
    for x, y in ((300, 200), (700, 500)):
        there = affine @ [0.9 * x + 30, 0.9 * y - 22, 1]
        assert np.hypot(there[0] - x, there[1] - y) < 2


def test_a_retouched_picture_that_came_back_cropped_is_still_compared():
    made = pair(24)
    assert not made.change
    cropped = made.after[60:, 90:]
    told = proof(made.before, cropped, made.mask)
    assert not told.changed
    spoilt = cropped.copy()
    cv2.circle(spoilt, (spoilt.shape[1] - 120, 80), 34, (20, 240, 60), -1)
    assert proof(made.before, spoilt, made.mask).changed


def test_pictures_with_nothing_in_common_fill_the_page():
    rng = np.random.default_rng(4)
    one = np.kron(rng.integers(0, 255, (8, 12, 3), dtype=np.uint8), np.ones((100, 100, 1), np.uint8))
    other = np.full((400, 400, 3), 128, np.uint8)
    affine = laid_on(one, other)
    assert affine == pytest.approx(np.array([[2, 0, 200], [0, 2, 0]]), abs=0.01)


def test_a_tiny_common_part_lays_nothing_on_anything():
    """Two pictures share a small corner alone."""
    rng = np.random.default_rng(5)
    page = np.kron(rng.integers(0, 255, (80, 120, 3), dtype=np.uint8), np.ones((10, 10, 1), np.uint8))
    one, other = page[:400, :500], page[330:800, 420:1000]
    affine = laid_on(one, other)
    assert np.hypot(affine[0, 0], affine[1, 0]) == pytest.approx(min(500 / 580, 400 / 470), abs=0.2)
