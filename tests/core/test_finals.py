"""A final is its draft in full, or says in words what makes it another picture."""

import numpy as np
import pytest

from juxtaform.core.check.takes import Score, TakeReading
from juxtaform.core.picture.regions import Box
from juxtaform.core.takes.finals import Looked, correlated, differences

NAMES = {"a": "Ada", "b": "Bo", "ink": "Ink"}
SMALL = np.random.default_rng(1).random((32, 48))
LIKE = 0.7 * SMALL + 0.3 * np.random.default_rng(5).random((32, 48))
"""Another picture of the same composition."""


def looked(boxes=None, value=0.2, style=0.3, small=SMALL):
    boxes = {"a": Box(0.3, 0.2, 0.2, 0.6)} if boxes is None else boxes
    reading = TakeReading("t", (Score("a", value, "holds"),), Score("ink", style, "holds"), (), 0.3)
    return Looked(reading, boxes, small)


def test_the_same_picture_in_full_has_no_differences():
    rng = np.random.default_rng(2)
    noisy = SMALL + rng.normal(0, 0.05, SMALL.shape)
    moved = {"a": Box(0.31, 0.21, 0.2, 0.6)}
    assert differences(looked(), looked(moved, 0.4, 0.5, noisy), NAMES) == []


@pytest.mark.parametrize(
    ("final", "words"),
    [
        (looked({}, small=LIKE), ["Ada is not found any more"]),
        (looked({"a": Box(0.7, 0.2, 0.2, 0.6)}, small=LIKE), ["Ada stands elsewhere"]),
        (looked({"a": Box(0.3, 0.2, 0.2, 0.6), "b": Box(0.7, 0.2, 0.1, 0.5)}, small=LIKE), ["Bo is there now"]),
        (looked({"a": Box(0.28, 0.1, 0.26, 0.8)}, small=LIKE), ["closer than the draft"]),
        (looked({"a": Box(0.32, 0.3, 0.16, 0.45)}, small=LIKE), ["farther than the draft"]),
        (looked(value=1.4), ["Ada holds less than in the draft"]),
        (looked(style=1.5), ["less in the style than the draft"]),
        (looked(small=1 - SMALL), ["another composition"]),
    ],
)
def test_each_difference_is_said_in_words(final, words):
    assert differences(looked(), final, NAMES) == words


@pytest.mark.parametrize(
    "boxes", [{}, {"a": Box(0.7, 0.2, 0.1, 0.2)}, {"a": Box(0.3, 0.2, 0.2, 0.6), "b": Box(0.7, 0.2, 0.1, 0.5)}]
)
def test_what_was_found_elsewhere_in_the_same_picture_is_no_difference(boxes):
    assert differences(looked(), looked(boxes), NAMES) == []


def test_somebody_moved_where_the_rest_is_the_same():
    one, other = SMALL.copy(), SMALL.copy()
    one[12:18, 16:20] = other[12:18, 36:40] = 0.0
    was, now = {"a": Box(0.33, 0.38, 0.08, 0.18)}, {"a": Box(0.75, 0.38, 0.08, 0.18)}
    assert differences(looked(was, small=one), looked(now, small=other), NAMES) == ["Ada stands elsewhere"]


def test_what_was_as_bad_in_the_draft_is_no_difference():
    assert differences(looked(value=1.5), looked(value=1.7), NAMES) == []
    unseen = Looked(TakeReading("t", (Score("a", None, "unseen"),), None, (), 1.2), {}, SMALL)
    assert differences(unseen, unseen, NAMES) == []


def test_flat_pictures_correlate():
    flat = np.ones((4, 4))
    assert correlated(flat, flat * 3) == 1.0
    assert correlated(flat, SMALL[:4, :4]) == 0.0
    assert correlated(SMALL, SMALL * 2 + 1) == pytest.approx(1.0)
    assert correlated(SMALL, -SMALL) == pytest.approx(-1.0)
