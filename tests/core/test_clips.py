"""What is read along a clip: a slip of style or of a figure where it begins, flicker, and nothing where nothing is wrong."""

from functools import cache

import cv2
import numpy as np
import pytest

from juxtaform.core.clips.looks import NO_EYES, Eyes, Kept
from juxtaform.core.clips.reading import EVERY, GRID, Frame, Still, read_clip
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.picture.regions import Box
from juxtaform.media.network import figure_eye, hand_eye
from tests.constructed_clips import frames, walk


def given(pixels):
    def luma(p):
        return cv2.resize(cv2.cvtColor(p, cv2.COLOR_RGB2GRAY), (GRID[1], GRID[0]), interpolation=cv2.INTER_AREA)

    return (Frame(luma(p), p if i % EVERY == 0 else None) for i, p in enumerate(pixels))


def reading(flaw="", count=48, still=True):
    pixels, box = frames(count, flaw)
    whole = frames(1)[0][0]
    return read_clip(given(pixels), {"ada": box}, Still(whole, {"ada": box}) if still else None)


@cache
def walked(way="", looked=True):
    """What is read of Ada's walk, with the networks or without."""
    pixels, box = walk(way)
    return read_clip(given(pixels), {"ada": box}, None, Eyes(figure_eye(), hand_eye()) if looked else NO_EYES)


def test_a_clip_that_holds_is_told_so_though_everything_moves():
    told = reading()
    assert told.begins is None
    assert told.flicker == ()
    assert max(told.style.drift) < 0.6
    assert told.style.still < 0.6
    assert told.figures[0].still < 0.6
    assert told.count == 48
    assert told.frames == tuple(range(0, 48, EVERY))


def test_a_picture_that_fades_slips_in_style_from_where_it_begins():
    told = reading("grey")
    assert told.style.begins is not None
    assert 20 <= told.style.begins <= 32


def test_a_coat_that_changes_is_the_figure_s_slip_not_the_style_s():
    told = reading("coat")
    assert told.figures[0].begins is not None
    assert 20 <= told.figures[0].begins <= 32
    assert told.style.begins is None


def test_flicker_is_told_frame_by_frame():
    told = reading("flicker")
    lighter = {i for i, off in told.flicker if off > 0}
    assert lighter >= set(range(3, 46, 6))
    assert told.style.begins is None


def test_a_figure_is_followed_where_it_goes():
    told = reading(count=40)
    start, *_, end = told.boxes["ada"]
    moved = (18 * np.sin(36 / 7) - 0) / 480
    assert start[0] - end[0] == pytest.approx(moved, abs=0.02)


def test_a_clip_without_frames_is_none():
    with pytest.raises(ValueError, match="no frame"):
        read_clip(iter(()), {})


@pytest.mark.parametrize("way", ["", "turns", "leaves", "pans", "nears", "dark"])
@pytest.mark.parametrize("looked", [True, False])
def test_whoever_walks_turns_and_leaves_and_whatever_the_camera_does_holds(way, looked):
    told = walked(way, looked)
    assert told.begins is None
    assert told.flicker == ()


def test_whoever_leaves_the_picture_is_said_to():
    told = walked("leaves").figures[0]
    assert 24 <= told.leaves <= 40
    assert walked("turns").figures[0].leaves is None


def test_somebody_else_in_a_figure_s_place_is_told_as_that():
    told = walked("other").figures[0]
    assert told.kind == "person"
    assert 22 <= told.begins <= 40
    assert walked("other", looked=False).figures[0].kind == "colours"


def test_a_coat_in_another_colour_makes_nobody_else():
    told = walked("coat").figures[0]
    assert told.kind in ("colour", "colours")
    assert 22 <= told.begins <= 40


def test_a_part_that_takes_a_colour_of_the_figure_s_own_is_seen_where_it_lies():
    told = walked("boots").figures[0]
    assert told.kind == "colour"
    assert 22 <= told.begins <= 44
    assert told.was != told.now
    assert walked("boots", looked=False).figures[0].kind == ""


def test_one_colour_that_becomes_another_is_named():
    told = reading("coat").figures[0]
    assert told.kind == "colour"
    assert colour_name(linear_from_hex(told.was)) == "amber"
    assert colour_name(linear_from_hex(told.now)) in ("violet", "purple", "dark violet", "dark purple")


def test_colours_that_fade_are_told_as_that_and_not_of_the_figure():
    told = reading("grey")
    assert told.style.kind == "pale"
    assert told.figures[0].begins is None


def test_another_hand_is_told_where_it_takes_over():
    pixels, box = walk()
    blurred = [p if i < 30 else cv2.GaussianBlur(p, (0, 0), 2.5) for i, p in enumerate(pixels)]
    told = read_clip(given(blurred), {"ada": box}, None, Eyes(figure_eye(), hand_eye()))
    assert told.style.kind == "hand"
    assert 24 <= told.style.begins <= 36


def test_a_fade_and_a_lamp_that_goes_on_do_not_flicker():
    pixels, box = walk()
    lamp = [np.clip(p * (1.3 if i > 25 else 1.0), 0, 255).astype(np.uint8) for i, p in enumerate(pixels)]
    assert read_clip(given(lamp), {"ada": box}).flicker == ()
    flash = [np.clip(p * (1.3 if i in (20, 21) else 1.0), 0, 255).astype(np.uint8) for i, p in enumerate(pixels)]
    assert [i for i, _ in read_clip(given(flash), {"ada": box}).flicker] == [20, 21]


def test_a_figure_that_is_lost_from_the_beginning_is_no_error():
    pixels = [np.full((320, 480, 3), 90, np.uint8)] * 20
    told = read_clip(given(pixels), {"ada": walk()[1]}, None, Eyes(figure_eye(), hand_eye()))
    assert told.begins is None


@pytest.mark.parametrize(
    "mark", [Box(200, 150, 1.5, 2), Box(-30, 100, 60, 90), Box(0, 0, 480, 320), Box(479, 319, 1, 1)]
)
def test_a_mark_of_any_size_and_place_is_no_error(mark):
    pixels, _ = walk(count=12)
    still = Still(pixels[0], {"ada": mark})
    told = read_clip(given(pixels), {"ada": mark}, still, Eyes(figure_eye(), hand_eye()))
    assert len(told.figures[0].drift) == 3
    assert all(0 <= v <= 1 for box in told.boxes["ada"] for v in box)


def test_of_a_long_clip_some_frames_are_kept_evenly_the_first_and_the_last_among_them():
    kept = Kept()
    for i in range(500):
        kept.add(np.full((2, 2, 3), i % 256, np.uint8))
    numbers = list(kept.frames())
    assert numbers[0] == 0
    assert numbers[-1] == 499
    assert 20 < len(numbers) <= 50
    assert max(np.diff(numbers)) == numbers[1]
