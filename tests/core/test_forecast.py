"""What is still to be spent: the range holds what comes, and budgets last as long as is said."""

import numpy as np
import pytest

from juxtaform.core.takes.forecast import forecast


def test_nothing_is_foretold_of_two():
    assert forecast([4.0, 8.0], [4, 8], 10) is None


def test_the_range_holds_what_comes_about_as_often_as_it_says():
    inside = 0
    for i in range(200):
        rng = np.random.default_rng(i)
        costs = rng.geometric(0.2, 32).astype(float)
        told = forecast(costs[:12], [1] * 12, 20)
        assert told
        inside += told.low <= costs[12:].sum() <= told.high
    assert 140 <= inside <= 190


def test_a_budget_lasts_for_so_many_shots():
    told = forecast([5.0, 5.0, 5.0, 5.0], [5] * 4, 10, budget=26.0)
    assert told
    assert (told.surely, told.likely, told.low, told.high) == (5, 5, 50.0, 50.0)
    assert told.takes == 5.0
    few, many = (forecast([2.0, 8.0, 4.0, 20.0], [2, 8, 4, 20], 10, budget=b) for b in (10.0, 60.0))
    assert few
    assert many
    assert few.surely <= few.likely <= many.likely
    assert many.surely <= many.likely


def test_no_shots_left_cost_nothing():
    told = forecast([2.0, 3.0, 4.0], [2, 3, 4], 0, budget=5.0)
    assert told
    assert (told.low, told.middle, told.high, told.likely) == (0.0, 0.0, 0.0, 0)


def test_a_long_film_is_foretold_as_well():
    told = forecast(list(np.random.default_rng(1).uniform(2, 10, 200)), [3] * 200, 800)
    assert told
    assert told.low == pytest.approx(told.high, rel=0.1)
