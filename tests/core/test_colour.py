"""Colour against published values."""

import numpy as np
import pytest

from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import (
    delta_e_2000,
    hex_from_linear,
    lab_from_srgb8,
    linear_from_hex,
    oklab_from_linear,
)
from juxtaform.core.colour.words import colour_name

# G. Sharma, W. Wu, E. N. Dalal (2005), table 1.
SHARMA = [
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
    ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, 2.8361, -74.0200), (50, 0, -82.7485), 3.4412),
    ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0000),
    ((50, 0, 0), (50, -1, 2), 2.3669),
    ((50, 2.4900, -0.0010), (50, -2.4900, 0.0009), 7.1792),
    ((50, 2.4900, -0.0010), (50, -2.4900, 0.0011), 7.2195),
    ((50, -0.0010, 2.4900), (50, 0.0009, -2.4900), 4.8045),
    ((50, 2.5, 0), (50, 0, -2.5), 4.3065),
    ((50, 2.5, 0), (73, 25, -18), 27.1492),
    ((50, 2.5, 0), (61, -5, 29), 22.8977),
    ((50, 2.5, 0), (56, -27, -3), 31.9030),
    ((50, 2.5, 0), (58, 24, 15), 19.4535),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((61.2901, 3.7196, -5.3901), (61.4292, 2.2480, -4.9620), 1.8731),
    ((35.0831, -44.1164, 3.7933), (35.0232, -40.0716, 1.5901), 1.8645),
    ((22.7233, 20.0904, -46.6940), (23.0331, 14.9730, -42.5619), 2.0373),
    ((36.4612, 47.8580, 18.3852), (36.2715, 50.5065, 21.2231), 1.4146),
    ((90.8027, -2.0831, 1.4410), (91.1528, -1.6435, 0.0447), 1.4441),
    ((6.7747, -0.2908, -2.4247), (5.8714, -0.0985, -2.2286), 0.6377),
    ((2.0776, 0.0795, -1.1350), (0.9033, -0.0636, -0.5514), 0.9082),
]


@pytest.mark.parametrize(("one", "two", "expected"), SHARMA)
def test_ciede2000_agrees_with_the_published_pairs_both_ways(one, two, expected):
    assert float(delta_e_2000(one, two)) == pytest.approx(expected, abs=5e-5)
    assert float(delta_e_2000(two, one)) == pytest.approx(expected, abs=5e-5)


def test_oklab_of_the_primaries_agrees_with_its_author():
    red = oklab_from_linear([1.0, 0.0, 0.0])
    assert np.allclose(red, [0.628, 0.225, 0.126], atol=1e-3)


def test_white_is_lab_100():
    assert np.allclose(lab_from_srgb8(np.array([[255, 255, 255]], np.uint8)), [[100, 0, 0]], atol=1e-3)


@pytest.mark.parametrize("code", ["", "#12", "#gg0000", "red"])
def test_what_is_no_colour_code_is_refused(code):
    with pytest.raises(ValueError, match="not a colour"):
        linear_from_hex(code)


def test_a_palette_finds_the_paints_and_their_shares():
    pixels = np.concatenate(
        [np.tile(linear_from_hex("#dba326"), (600, 1)), np.tile(linear_from_hex("#1f5f66"), (400, 1))]
    )
    found = palette(pixels)
    assert [s.hex for s in found] == ["#dba326", "#1f5f66"]
    assert [round(s.share, 2) for s in found] == [0.6, 0.4]
    assert hex_from_linear(found[0].linear) == "#dba326"


def test_shades_of_one_paint_are_one_swatch_and_no_pixels_give_none():
    shades = np.array([linear_from_hex("#dba326") * f for f in np.linspace(0.93, 1.0, 50)])
    assert len(palette(shades)) == 1
    assert palette(np.zeros((0, 3))) == []


def test_names_of_colours_are_everyday_words():
    assert colour_name(linear_from_hex("#75803c")) == "olive"
    assert colour_name(linear_from_hex("#c8322b")) == "red"
