"""Colours under the loupe, and pictures pegged on a figure or its head."""

import cv2
import numpy as np
import pytest

from juxtaform.core.colour.light import SceneLight, common_light
from juxtaform.core.colour.loupe import apart, apart_in_words, colour_at
from juxtaform.core.colour.spaces import hex_from_linear, linear_from_hex
from juxtaform.core.figure.pegs import by_boxes, pegged
from juxtaform.core.picture.regions import Box, head_of
from juxtaform.media.network import figure_eye
from tests.constructed import Look, scene

ADA = Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b", extra_form=0)


def test_the_loupe_reads_the_mean_light_of_a_round_place():
    pixels = np.zeros((40, 40, 3), np.uint8)
    pixels[:, 20:] = 255
    assert hex_from_linear(colour_at(pixels, 5, 5, 3)) == "#000000"
    assert colour_at(pixels, 20, 20, 6) == pytest.approx(0.5, abs=0.01)
    assert hex_from_linear(colour_at(pixels, 39.9, 0, 50)) != "#000000"
    with pytest.raises(ValueError, match="outside"):
        colour_at(pixels, 40, 3, 2)


@pytest.mark.parametrize(
    ("one", "other", "words"),
    [
        ("#d9a326", "#d9a326", "the same to the eye"),
        ("#d9a326", "#d5a62e", "hardly seen"),
        ("#d9a326", "#7a7a3a", "another colour"),
    ],
)
def test_how_far_two_colours_are_apart_is_said_in_words(one, other, words):
    assert apart_in_words(apart(linear_from_hex(one), linear_from_hex(other))) == words


def test_a_common_light_is_that_of_the_middle_figure():
    lights = [SceneLight((g, 1.0, 1.0)) for g in (0.5, 0.6, 3.0)]
    assert common_light(lights).gain == pytest.approx((0.6, 1.0, 1.0))
    assert common_light([]) == SceneLight()


def test_boxes_alone_lay_a_figure_on_the_same_spot():
    laid = by_boxes(Box(100, 50, 40, 80), Box(10, 20, 20, 40))
    assert (laid @ [20, 20, 1])[:2].tolist() == [120, 50]
    assert (laid @ [20, 60, 1])[:2].tolist() == [120, 130]


def _moved(pixels, box, scale, dx, dy):
    """The picture made larger and moved, and where the box is then."""
    h, w = pixels.shape[:2]
    out = cv2.warpAffine(
        pixels, np.array([[scale, 0, dx], [0, scale, dy]]), (w, h), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REFLECT
    )
    return np.asarray(out, np.uint8), Box(box.x * scale + dx, box.y * scale + dy, box.w * scale, box.h * scale)


@pytest.mark.parametrize("head", [False, True])
def test_a_roughly_marked_figure_lies_on_itself_to_the_pixel(head):
    """The marks of the two pictures are off by a tenth; the places of the figure lay it where it belongs."""
    pixels, [box] = scene([ADA], np.random.default_rng(3), ground=3, scale=0.8)
    over, there = _moved(pixels, box, 0.8, 40, 60)
    rough = Box(there.x - 0.07 * there.w, there.y + 0.06 * there.h, there.w * 1.1, there.h * 0.95)
    one, other = (head_of(box), head_of(rough)) if head else (box, rough)
    peg = pegged(figure_eye(), pixels, one, over, other)
    assert peg.by == "places"
    a, b, c, d, e, f = peg.affine
    middle = np.array([there.x + there.w / 2, there.y + there.h * (0.15 if head else 0.5), 1])
    truth = np.array([(middle[0] - 40) / 0.8, (middle[1] - 60) / 0.8])
    off = np.hypot(*(np.array([[a, b, c], [d, e, f]]) @ middle - truth))
    by_marks = np.hypot(*((by_boxes(one, other) @ middle)[:2] - truth))
    assert off < 0.03 * box.h
    assert off < by_marks


def test_who_is_not_alike_is_laid_by_the_boxes():
    one, [box] = scene([ADA], np.random.default_rng(3), ground=3, scale=0.8)
    blank = np.full_like(one, 128)
    assert pegged(figure_eye(), one, box, blank, box).by == "boxes"
    assert pegged(None, one, box, one, box).by == "boxes"
