"""What is read along a clip: a slip of style or of a figure where it begins, flicker, and nothing where nothing is wrong."""

import cv2
import numpy as np
import pytest

from juxtaform.core.clips.reading import EVERY, GRID, Frame, Still, read_clip
from tests.constructed_clips import frames


def reading(flaw="", count=48, still=True):
    pixels, box = frames(count, flaw)
    whole = frames(1)[0][0]

    def luma(p):
        return cv2.resize(cv2.cvtColor(p, cv2.COLOR_RGB2GRAY), (GRID[1], GRID[0]), interpolation=cv2.INTER_AREA)

    given = (Frame(luma(p), p if i % EVERY == 0 else None) for i, p in enumerate(pixels))
    return read_clip(given, {"ada": box}, Still(whole, {"ada": box}) if still else None)


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
