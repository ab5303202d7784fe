"""Which setting of a trial holds better, or that the trial shows no difference: settings are compared seed by seed."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from scipy.special import ndtr, stdtrit

from juxtaform.core.colour.spaces import Floats

LEVEL = 0.05
"""The chance that a trial whose settings are alike tells a difference."""
LEAST_PAIRS = 3
"""Fewer seeds that two settings share say nothing."""
LEANS = 0.5
"""A mean that is worse by half a tolerance is worth more seeds."""
RESAMPLED = 4000
SEED = 20261


@dataclass(frozen=True)
class Cell:
    """A setting as it came out: its measures by seed (lower holds better), their middle and their spread (quartiles)."""

    setting: str
    values: Mapping[int, float]
    middle: float
    quartiles: tuple[float, float]


@dataclass(frozen=True)
class Outcome:
    """What a trial shows: the cells, the best of them by its mean, those that cannot be told from it (itself among them), and those that hold worse,
    each with the interval of how much worse. `is_told` is false where there is no difference to be told."""

    cells: tuple[Cell, ...]
    best: str | None
    alike: tuple[str, ...]
    worse: Mapping[str, tuple[float, float]]
    pairs: int
    leans: Mapping[str, float] = field(default_factory=dict)
    """Of those that cannot be told from the best, the ones whose mean is plainly worse, and by how much: more seeds would tell."""

    @property
    def is_told(self) -> bool:
        return bool(self.worse)


def outcome(measured: Mapping[str, Mapping[int, float]], level: float = LEVEL) -> Outcome:
    """What a trial shows by measures of each setting and seed. Each other setting is held against the best by the paired differences of the seeds
    that both have; a difference is told when the bootstrap interval, at the level divided by how many are compared, leaves zero out."""
    cells = tuple(_cell(name, values) for name, values in measured.items())
    full = [c for c in cells if len(c.values) >= LEAST_PAIRS]
    if len(full) < 2:
        return Outcome(cells, None, (), {}, min((len(c.values) for c in cells), default=0))
    best = min(full, key=lambda c: float(np.mean(list(c.values.values()))))
    alike, worse, pairs, leans = [best.setting], {}, [], {}
    # The best was chosen by looking at all: a trial without a difference must not tell one because of that, so every pair counts.
    compared = len(full) * (len(full) - 1) / 2
    for cell in full:
        if cell is best:
            continue
        shared = sorted(set(cell.values) & set(best.values))
        pairs.append(len(shared))
        differences = np.array([cell.values[s] - best.values[s] for s in shared])
        interval = mean_interval(differences, level / compared)
        if interval is not None and interval[0] > 0:
            worse[cell.setting] = interval
        else:
            alike.append(cell.setting)
            if len(differences) and (mean := float(differences.mean())) > LEANS:
                leans[cell.setting] = mean
    return Outcome(cells, best.setting, tuple(alike), worse, min(pairs), leans)


def mean_interval(values: Floats, level: float = LEVEL) -> tuple[float, float] | None:
    """The interval of a mean at 1 - `level` by the bootstrap, with percentiles moved outwards for few values, so that it covers as often as it says
    (T. Hesterberg, What teachers should know about the bootstrap, 2015, section 5.3: expanded percentile interval). None for fewer than
    three values."""
    n = len(values)
    if n < LEAST_PAIRS:
        return None
    if float(np.ptp(values)) == 0.0:
        return float(values[0]), float(values[0])
    rng = np.random.default_rng(SEED)
    means = values[rng.integers(0, n, (RESAMPLED, n))].mean(axis=1)
    outwards = float(ndtr(math.sqrt(n / (n - 1)) * stdtrit(n - 1, level / 2)))
    low, high = np.quantile(means, [outwards, 1 - outwards])
    if n <= 8:  # Means of few values resampled stop at the extremes: Student's interval is wider where it should be.
        half = float(stdtrit(n - 1, 1 - level / 2) * values.std(ddof=1) / math.sqrt(n))
        low, high = min(low, values.mean() - half), max(high, values.mean() + half)
    return float(low), float(high)


def _cell(name: str, values: Mapping[int, float]) -> Cell:
    held: Sequence[float] = list(values.values()) or [math.nan]
    low, middle, high = (float(v) for v in np.quantile(held, [0.25, 0.5, 0.75]))
    return Cell(name, values, middle, (low, high))
