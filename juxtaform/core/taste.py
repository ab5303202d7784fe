"""Taste from choices between two pictures: a ranking with its uncertainty, the pair that would teach most, and weights."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from scipy.special import expit

from juxtaform.core.colour.spaces import Floats

PRIOR_SD = 1.2
"""Before any choice, scores differ by about this much: one picture would be liked better than another about 3 times in 4."""
STEPS = 40
NODES, NODE_WEIGHTS = (np.asarray(v) for v in np.polynomial.hermite_e.hermegauss(9))
NODE_WEIGHTS = NODE_WEIGHTS / NODE_WEIGHTS.sum()
"""Gauss–Hermite nodes and weights for means over a standard normal."""
SURE = 1.0
"""A picture is proposed for the style when its score exceeds the middle by this many of its own standard deviations."""
MOST_PROPOSED = 6
CANDIDATES = 400
"""Pairs looked at when there are very many; drawn evenly, so that choosing stays quick."""


@dataclass(frozen=True)
class Ranked:
    """A picture's place: its score (log odds against the average picture), the standard deviation of that, and how often it
    was seen."""

    index: int
    score: float
    sd: float
    seen: int


@dataclass(frozen=True)
class Taste:
    """Scores (n,), their covariance (n, n), and how often each picture was seen (n,)."""

    scores: Floats
    covariance: Floats
    seen: Floats

    @property
    def ranking(self) -> list[Ranked]:
        """Best first; equal scores keep their order."""
        sd = np.sqrt(np.diag(self.covariance))
        order = np.argsort(-self.scores, kind="stable")
        return [Ranked(int(i), float(self.scores[i]), float(sd[i]), int(self.seen[i])) for i in order]


def fitted(count: int, choices: Sequence[tuple[int, int]]) -> Taste:
    """Fit scores to choices, each as (preferred, other), indices below `count`.

    The model is R. A. Bradley and M. E. Terry, "Rank analysis of incomplete block designs", Biometrika 39, 1952: the
    chance that i is preferred to j is 1 / (1 + exp(s_j - s_i)). A normal prior on the scores keeps pictures that won
    every time finite; the maximum is found by Newton's method, and the inverse of its curvature gives the covariance.

    >>> t = fitted(3, [(0, 1), (0, 1), (1, 2)])
    >>> [r.index for r in t.ranking], t.ranking[0].seen
    ([0, 1, 2], 2)
    """
    scores, seen = np.zeros(count), np.zeros(count)
    won = np.array([a for a, _ in choices], dtype=np.intp)
    lost = np.array([b for _, b in choices], dtype=np.intp)
    np.add.at(seen, won, 1)
    np.add.at(seen, lost, 1)
    precision = np.eye(count) / PRIOR_SD**2
    curvature = precision
    for _ in range(STEPS):
        p = 1 / (1 + np.exp(scores[lost] - scores[won]))
        gradient = -scores / PRIOR_SD**2
        np.add.at(gradient, won, 1 - p)
        np.add.at(gradient, lost, p - 1)
        curvature = np.array(precision)
        w = p * (1 - p)
        for rows, columns, sign in ((won, won, 1), (lost, lost, 1), (won, lost, -1), (lost, won, -1)):
            np.add.at(curvature, (rows, columns), sign * w)
        step = np.linalg.solve(curvature, gradient)
        scores += step
        if np.abs(step).max(initial=0.0) < 1e-8:
            break
    return Taste(scores, np.asarray(np.linalg.inv(curvature), dtype=np.float64), seen)


def next_pair(taste: Taste, shown: Sequence[tuple[int, int]] = (), seed: int = 0) -> tuple[int, int] | None:
    """The pair whose choice would teach most about the scores; pairs that were shown before (also skipped ones) come last.
    None with fewer than two pictures.

    What a choice teaches is its mutual information with the scores: how uncertain its outcome is, less how uncertain it
    would still be if the scores were known (D. V. Lindley, "On a measure of the information provided by an experiment", Ann.
    Math. Stat. 27, 1956; for preferences N. Houlsby et al., "Bayesian active learning for classification and preference
    learning", 2011, equation 1), over the normal posterior of the difference of two scores.
    """
    count = len(taste.scores)
    if count < 2:
        return None
    pairs = np.array(list(combinations(range(count), 2))) if count <= 60 else _drawn(count, seed, taste)
    a, b = pairs[:, 0], pairs[:, 1]
    var = np.diag(taste.covariance)
    spread = var[a] + var[b] - 2 * taste.covariance[a, b]
    gain = taught(taste.scores[a] - taste.scores[b], spread)
    known: dict[tuple[int, int], int] = {}
    for x, y in shown:
        key = (min(x, y), max(x, y))
        known[key] = known.get(key, 0) + 1
    again = np.array([known.get((int(x), int(y)), 0) for x, y in pairs])
    best = int(np.lexsort((np.arange(len(pairs)), -gain, again))[0])
    x, y = int(a[best]), int(b[best])
    return (x, y) if (x + y + len(shown)) % 2 == 0 else (y, x)


def taught(mean: Floats, variance: Floats) -> Floats:
    """What a choice teaches, in nats, where the difference of the two scores is normal: mean (n,), variance (n,); shape (n,).

    >>> taught(np.array([0.0, 0.0, 4.0]), np.array([0.5, 2.0, 2.0])).round(2).tolist()
    [0.05, 0.15, 0.03]
    """
    differences = mean[:, None] + np.sqrt(np.maximum(variance, 0.0))[:, None] * NODES
    chances = expit(differences)
    return np.asarray(np.maximum(0.0, _entropy(chances @ NODE_WEIGHTS) - _entropy(chances) @ NODE_WEIGHTS))


def _entropy(chance: Floats) -> Floats:
    p = np.clip(chance, 1e-12, 1 - 1e-12)
    return np.asarray(-(p * np.log(p) + (1 - p) * np.log1p(-p)))


def _drawn(count: int, seed: int, taste: Taste) -> np.ndarray:
    """Pairs of pictures that are seldom seen or near in score, when all pairs would be too many."""
    rng = np.random.default_rng(seed)
    order = np.argsort(-taste.scores, kind="stable")
    near = np.stack([order[:-1], order[1:]], axis=1)
    seldom = np.argsort(taste.seen, kind="stable")[: max(2, count // 4)]
    left, right = rng.choice(seldom, CANDIDATES), rng.integers(0, count, CANDIDATES)
    pairs = np.concatenate([near, np.stack([left, right], axis=1)])
    pairs = np.sort(pairs[pairs[:, 0] != pairs[:, 1]], axis=1)
    return np.asarray(np.unique(pairs, axis=0))


def proposed(taste: Taste, most: int = MOST_PROPOSED) -> list[tuple[int, float]]:
    """Pictures for a style with their weights, heaviest first: those surely better than the middle; the best has weight 1.

    >>> proposed(fitted(3, [(0, 1)] * 6 + [(0, 2)] * 6 + [(1, 2)] * 6))[0]
    (0, 1.0)
    """
    if not taste.seen.any():
        return []
    middle = float(np.median(taste.scores))
    sure = [r for r in taste.ranking if r.seen and r.score - SURE * r.sd > middle][:most]
    if not sure:
        return []
    top = sure[0].score
    return [(r.index, round(float(np.exp(0.5 * (r.score - top))), 2)) for r in sure]
