"""What is still to be spent: from what kept pictures cost so far, as a range."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

LEAST_KEPT = 3
"""With fewer kept pictures nothing is foretold."""
RESAMPLED = 4000
LOW, HIGH = 0.1, 0.9
SEED = 20262


@dataclass(frozen=True)
class Forecast:
    """Credits for the shots that are left: one time in ten it is less than `low`, half the time less than `middle`, nine in ten less than `high`. `takes`
    are those made per kept picture so far; `surely` and `likely` say for how many of the shots left the budget lasts, in nine of ten cases and in half
    of them (None: no budget)."""

    low: float
    middle: float
    high: float
    takes: float
    kept: int
    surely: int | None
    likely: int | None


def forecast(costs: Sequence[float], takes: Sequence[int], left: int, budget: float | None = None) -> Forecast | None:
    """A forecast for `left` shots from what each kept picture cost (credits, that of the shot's other takes too) and how many takes were made for
    it; None with too few of them. Costs of the shots to come are drawn from those so far (bootstrap), with the uncertainty of having seen few."""
    if len(costs) < LEAST_KEPT:
        return None
    rng = np.random.default_rng(SEED)
    seen = np.asarray(costs, dtype=np.float64)
    # Weights after Rubin, The Bayesian bootstrap, 1981: what was seen is itself a sample.
    weights = rng.dirichlet(np.ones(len(seen)), RESAMPLED)
    edges = weights.cumsum(axis=1)
    drawn = rng.random((RESAMPLED, max(1, left)))
    at = (drawn[:, :, None] > edges[:, None, :]).sum(axis=2) if left * len(seen) <= 4000 else _drawn(drawn, edges)
    sums = seen[np.minimum(at, len(seen) - 1)].cumsum(axis=1)
    total = sums[:, -1] if left else np.zeros(RESAMPLED)
    low, middle, high = (float(v) for v in np.quantile(total, [LOW, 0.5, HIGH]))
    lasts = None if budget is None else (sums <= budget).sum(axis=1) if left else np.zeros(RESAMPLED)
    surely = None if lasts is None else int(np.quantile(lasts, 1 - HIGH))
    likely = None if lasts is None else int(np.quantile(lasts, 0.5))
    return Forecast(low, middle, high, float(np.mean(takes)) if len(takes) else 0.0, len(seen), surely, likely)


def _drawn(drawn: np.ndarray, edges: np.ndarray) -> np.ndarray:
    """The same row by row, where all at once would take much memory."""
    return np.stack([np.searchsorted(e, d) for e, d in zip(edges, drawn, strict=True)])
