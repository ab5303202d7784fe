"""How certain it is that a trait changed: what the laid-over figure shows and what its colours show, weighed together."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.logistic import Logistic
from juxtaform.core.figure.parts import PartStep
from juxtaform.core.figure.worn import Strangeness

NOT_LAID_STEP, NOT_LAID_HUE = 0.05, 0.03
"""Steps of a part that could not be read over the reference: neither alike nor other."""
MISSING_DIFFERENCE, UNKNOWN_DIFFERENCE = 20.0, 5.0
"""CIEDE2000 of a trait whose colour is nowhere, and of one that could not be judged."""
TOLD = -0.7
"""From this certainty on (log odds, what its other pictures show taken out) a change is told: of right figures about one in a hundred and twenty is
told wrongly."""
OTHER_HAND = 3.0
"""A change in a picture by another hand must be this much more certain."""
USUAL = -5.4
"""The middle certainty of traits that hold. A trait that is above it in all of a thread's pictures is read badly there, not changed; one that
is far below it in all others is read well, and a lesser rise says more."""
LOWER_MOST = 2.5
"""A thread's usual certainty counts at most so much below that of all: steadiness has its end."""
OTHERS_WEIGHT = 2.0
"""How much that usual level counts, in pictures, against the thread's own."""


@dataclass(frozen=True)
class TraitTerms:
    """What speaks for a change: the part's steps, the verdict by its colours (`changed`, `missing`), its colour's difference over what is
    allowed, the parts of the figure where its colour is seen and expected (0..1), how well the figure is placed, its score, and how strange
    its colours are: as the thread's other pictures go, of which none (`anywhere`) or few (`mostly`) show them."""

    laid: PartStep | None
    changed: bool
    missing: bool
    difference: float | None
    allowed: float
    seen_share: float
    expected_share: float
    placed: float
    score: float
    anywhere: Strangeness
    mostly: Strangeness

    @property
    def values(self) -> Floats:
        """The numbers of the regression (30,): the terms, and how they go together."""
        step, hue, beyond = (
            (self.laid.step, self.laid.hue, self.laid.beyond) if self.laid else (NOT_LAID_STEP, NOT_LAID_HUE, 0.0)
        )
        unknown = MISSING_DIFFERENCE if self.missing else UNKNOWN_DIFFERENCE
        difference = self.difference if self.difference is not None else unknown
        bad, placed = float(self.changed or self.missing), min(self.placed, 0.6)
        return np.array(
            [
                step,
                hue,
                beyond,
                float(self.laid is None),
                bad,
                float(self.missing),
                min(difference / self.allowed, 4.0),
                min(self.seen_share / max(self.expected_share, 1e-3), 2.0),
                float(np.log(max(self.expected_share, 0.01))),
                placed,
                float(np.clip(self.score, -4, 4)),
                float(np.log(self.laid.cells)) if self.laid else 2.0,
                step * placed,
                beyond * placed,
                hue * placed,
                bad * step,
                *self.anywhere.values,
                *self.mostly.values,
            ]
        )


class TraitJudge(Logistic):
    """Whether a trait changed, by its terms."""

    def certainty(self, terms: TraitTerms) -> float:
        """Log odds that the trait changed."""
        return self.odds(terms.values)


def beside_others(certainties: Floats) -> Floats:
    """The certainties (n,) of one trait along a thread, of each what the other pictures show taken out."""
    n = len(certainties)
    if n < 2:
        return certainties
    rank = np.argsort(np.argsort(certainties, kind="stable"), kind="stable")
    rising = np.sort(certainties)
    low, high = (n - 2) // 2, (n - 1) // 2  # the middle of the others, of which those above lie one place further up
    middle = (rising[low + (rank <= low)] + rising[high + (rank <= high)]) / 2
    excess = np.maximum(-LOWER_MOST, middle - USUAL)
    return np.asarray(certainties - (n - 1) / (n - 1 + OTHERS_WEIGHT) * excess)
