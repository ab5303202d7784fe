"""In which hand: the network's statistics of a picture, and where along a sequence they change."""

import numpy as np
import pytest

from juxtaform.core.style.hand import HandEye
from juxtaform.core.style.hands import SPREAD_RANGE, change_of_hand, hands_judged
from juxtaform.media import network
from tests.constructed import random_look, scene


@pytest.fixture(scope="module")
def eye():
    found = network.hand_eye()
    assert found is not None
    return found


def row(rng, count, middle):
    return middle + rng.normal(0, 0.06, (count, 88))


def test_pictures_by_one_hand_lie_closer_than_pictures_by_two(eye):
    rng = np.random.default_rng(1)
    told = {
        hand: np.array([eye.hand(scene([random_look(rng)], rng, ground=g, hand=hand)[0]) for g in (0, 3, 5, 7)])
        for hand in ("paper", "inked")
    }
    within = [np.linalg.norm(a - b) for own in told.values() for i, a in enumerate(own) for b in own[:i]]
    between = [np.linalg.norm(a - b) for a in told["paper"] for b in told["inked"]]
    assert np.median(between) > 1.3 * np.median(within)


def test_a_file_that_is_no_network_is_refused(eye):
    with pytest.raises(ValueError, match="cannot be read"):
        HandEye(b"no", eye.numbers)


def test_a_change_of_hand_is_found_where_it_begins():
    rng = np.random.default_rng(2)
    other = np.zeros(88)
    other[:20] = 0.5
    hands = np.concatenate([row(rng, 6, np.zeros(88)), row(rng, 5, other)])
    change = change_of_hand(hands)
    assert change is not None
    assert (change.kind, change.start, change.end) == ("step", 6, 11)


@pytest.mark.parametrize("seed", range(6))
def test_one_hand_is_no_change(seed):
    assert change_of_hand(row(np.random.default_rng(seed), 12, np.zeros(88))) is None


def test_single_slips_are_no_change_and_lie_outside():
    rng = np.random.default_rng(3)
    hands = row(rng, 12, np.zeros(88))
    hands[[4, 8], :30] += 0.8
    assert change_of_hand(hands) is None
    judged = hands_judged(hands, row(rng, 2, np.zeros(88)), len(hands))
    assert set(np.flatnonzero(judged.distance > 1)) == {4, 8}


def test_a_hand_that_wanders_off_slides():
    rng = np.random.default_rng(4)
    way = np.zeros(88)
    way[:20] = 0.35
    hands = row(rng, 12, np.zeros(88)) + np.maximum(0, np.arange(12) - 5)[:, None] * way
    change = change_of_hand(hands)
    assert change is not None
    assert change.kind == "slide"
    assert 5 <= change.start <= 9


def test_the_spread_shrinks_and_widens_with_the_styles_own_pictures():
    rng = np.random.default_rng(5)
    tight, wide = (hands_judged(row(rng, 4, np.zeros(88)) * f, row(rng, 6, np.zeros(88)) * f, 4) for f in (0.3, 6.0))
    assert tight.spread < wide.spread
    assert SPREAD_RANGE[0] <= tight.spread <= wide.spread <= SPREAD_RANGE[1]
    assert tight.set_on == 10


def test_too_few_pictures_tell_no_change():
    assert change_of_hand(np.zeros((3, 88))) is None
    assert change_of_hand(np.zeros((8, 88))) is None
