"""A trial tells which setting holds better when it does, and that there is no difference when there is none."""

import math

import numpy as np
import pytest

from juxtaform.core.takes.trials import mean_interval, outcome


def measured(rng, shifts, seeds, spread=0.15, of_seeds=0.4):
    """Measures of settings that differ by their shifts; each seed has a level of its own that all settings share."""
    level = rng.normal(0, of_seeds, seeds)
    return {
        f"{i}": {s: 1 + level[s] + shift + rng.normal(0, spread) for s in range(seeds)}
        for i, shift in enumerate(shifts)
    }


@pytest.mark.parametrize(("settings", "seeds"), [(2, 3), (2, 6), (5, 3), (5, 6), (3, 12)])
def test_settings_that_are_alike_are_hardly_ever_told_apart(settings, seeds):
    told = sum(outcome(measured(np.random.default_rng(7 * i), [0.0] * settings, seeds)).is_told for i in range(300))
    assert told <= 26  # 5 % wanted; three spreads above


def test_a_better_setting_is_told_by_pairs_though_seeds_differ_more():
    told = 0
    for i in range(60):
        got = outcome(measured(np.random.default_rng(i), [0.6, 0.6, 0.0], 6))
        told += got.best == "2" and set(got.worse) == {"0", "1"}
        assert all(low <= high for low, high in got.worse.values())
    assert told >= 48


def test_what_cannot_be_told_from_the_best_is_named_with_it():
    rng = np.random.default_rng(3)
    got = outcome(measured(rng, [1.5, 0.02, 0.0], 8, spread=0.1))
    assert set(got.alike) == {"1", "2"}
    assert set(got.worse) == {"0"}


def test_what_looks_worse_and_cannot_be_told_yet_is_said_so():
    values = {"low": {1: 0.5, 2: 3.0, 3: 2.6, 4: 3.0}, "high": dict.fromkeys((1, 2, 3, 4), 0.4)}
    got = outcome({**values, "other": {1: 0.4, 2: 0.5, 3: 0.4, 4: 0.45}}, level=0.02)
    assert not got.is_told
    assert set(got.leans) == {"low"}
    assert got.leans["low"] > 1.5


def test_the_interval_covers_as_often_as_it_says():
    for n in (4, 8, 20):
        inside = 0
        for i in range(400):
            low, high = mean_interval(np.random.default_rng([n, i]).normal(0.3, 1, n))
            inside += low <= 0.3 <= high
        assert inside >= 370, n


def test_too_few_seeds_say_nothing_and_cells_without_measures_are_shown_empty():
    got = outcome({"a": {1: 0.2, 2: 0.3}, "b": {1: 0.9, 2: 0.8}, "c": {}})
    assert (got.best, got.is_told) == (None, False)
    assert math.isnan(got.cells[2].middle)
    assert mean_interval(np.array([1.0, 2.0])) is None
    assert mean_interval(np.array([2.0, 2.0, 2.0])) == (2.0, 2.0)


def test_seeds_that_only_one_setting_has_are_left_out_of_the_pairs():
    a = dict.fromkeys(range(5), 1.0)
    b = {s: 1.5 + 0.01 * s for s in (3, 4, 5, 6, 7)}
    got = outcome({"a": a, "b": b})
    assert (got.pairs, got.is_told) == (2, False)
