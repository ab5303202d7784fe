"""Taste rounds: the ranking recovers a known taste, knows what it does not know, and asks what teaches most."""

import numpy as np
import pytest

from juxtaform.core.taste import fitted, next_pair, proposed, taught


def played(true, rounds, seed=0, choose=None):
    """Choices of somebody with known scores, over pairs asked for by the model or by `choose`."""
    rng = np.random.default_rng(seed)
    choices, shown = [], []
    for k in range(rounds):
        taste = fitted(len(true), choices)
        a, b = (choose or next_pair)(taste, shown, k) if choose is None else choose(rng, len(true))
        shown.append((a, b))
        choices.append((a, b) if rng.random() < 1 / (1 + np.exp(true[b] - true[a])) else (b, a))
    return fitted(len(true), choices), shown


def agreement(taste, true):
    order = np.array([r.index for r in taste.ranking])
    place = np.empty(len(order))
    place[order] = np.arange(len(order))
    return float(np.corrcoef(-place, np.argsort(np.argsort(true)))[0, 1])


def test_a_known_taste_is_recovered_from_choices():
    true = np.linspace(-3, 3, 12)
    taste, _ = played(true, 90, seed=2)
    assert agreement(taste, true) > 0.85
    assert taste.ranking[0].index in (11, 10, 9)


def test_asking_what_teaches_most_leaves_less_unknown_than_asking_at_random():
    true = np.linspace(-2.5, 2.5, 14)

    def at_random(rng, count):
        return tuple(int(v) for v in rng.choice(count, 2, replace=False))

    agreed = []
    for seed in range(10):
        mixed = np.random.default_rng(100 + seed).permutation(true)
        asked, random = played(mixed, 45, seed)[0], played(mixed, 45, seed, at_random)[0]
        unknown = [float(np.linalg.slogdet(t.covariance)[1]) for t in (asked, random)]
        assert unknown[0] < unknown[1]
        agreed.append([agreement(t, mixed) for t in (asked, random)])
    of_asked, of_random = np.mean(agreed, axis=0)
    assert of_asked > of_random + 0.02


@pytest.mark.parametrize(
    ("mean", "variance", "more"),
    [
        ((0.0, 2.0), (0.0, 0.5), "wider"),
        ((0.0, 1.0), (3.0, 1.0), "nearer"),
        ((0.0, 1.0), (8.0, 2.0), "undecided"),
    ],
)
def test_a_choice_teaches_more_where_less_is_known(mean, variance, more):
    first, second = (float(taught(np.array([m]), np.array([v]))[0]) for m, v in (mean, variance))
    assert first > second >= 0, more


def test_uncertainty_shrinks_with_choices_and_stays_where_nothing_was_asked():
    few, many = fitted(4, [(0, 1)]), fitted(4, [(0, 1)] * 20)
    sd_few, sd_many = (np.sqrt(np.diag(t.covariance)) for t in (few, many))
    assert sd_many[0] < sd_few[0]
    assert sd_many[3] == pytest.approx(sd_few[3]) == pytest.approx(1.2)
    assert few.ranking[0].index == 0


def test_scores_do_not_depend_on_the_order_of_choices_and_stay_finite():
    choices = [(0, 1), (2, 1), (0, 2), (3, 0)]
    a, b = fitted(4, choices), fitted(4, choices[::-1])
    assert np.allclose(a.scores, b.scores)
    assert np.isfinite(fitted(2, [(0, 1)] * 500).scores).all()


def test_no_pair_is_asked_twice_while_another_was_not_asked():
    shown = []
    for k in range(15):
        pair = next_pair(fitted(6, []), shown, k)
        assert pair is not None
        assert tuple(sorted(pair)) not in {tuple(sorted(p)) for p in shown}
        shown.append(pair)
    assert next_pair(fitted(6, []), shown) is not None
    assert next_pair(fitted(1, [])) is None
    assert next_pair(fitted(0, [])) is None


def test_many_pictures_are_asked_about_quickly_and_all_come_up():
    choices, shown, seen = [], [], set()
    for k in range(120):
        a, b = next_pair(fitted(150, choices), shown, k)
        shown.append((a, b))
        choices.append((min(a, b), max(a, b)))
        seen |= {a, b}
    assert len(seen) > 100


def test_only_pictures_that_are_surely_liked_are_proposed_with_falling_weights():
    assert proposed(fitted(5, [])) == []
    taste = fitted(5, [(0, i) for i in range(1, 5)] * 6 + [(1, i) for i in range(2, 5)] * 6)
    told = proposed(taste)
    assert [i for i, _ in told] == [0, 1]
    assert [w for _, w in told] == sorted((w for _, w in told), reverse=True)
    assert told[0][1] == 1.0
