"""Whether somebody else stands where a character is marked: how the figure goes with the references, beside its other pictures and the rest of the cast."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.certainty import TraitJudge
from juxtaform.core.figure.logistic import Logistic
from juxtaform.core.figure.verdict import DOUBTFUL_LEAD, OTHER_LEAST, Answer, Level

ODDS_MOST = 6.0
"""Scores (log odds) beyond this say no more."""
NO_RIVAL = -4.0
"""The lead of the rest of the cast where nobody else was compared."""
UNWORN = (0.3, 0.03)
"""The part of strange colours, and their mean distance, of a figure whose colours could not be read."""
STRANGER, ASKED = -1.0, -2.5
"""Log odds from which somebody else is told, and from which it is asked who it is. Of right figures by other hands one in two hundred is told wrongly, and one
in two hundred asked about."""


@dataclass(frozen=True)
class WhoTerms:
    """What speaks for somebody else: the figure's `score` (log odds that it is whom it is marked as), how far it lies `below` the thread's level and, in the right
    colours, `shape_below`; the part of it that is `placed` (0..1); by how much the best of the `rivals` goes better; the middle and the lower quarter of
    the scores of the thread's `others`; of its colours the part that is strange to all (`anywhere`) and to most (`mostly`) of the thread's
    other pictures, each with their mean OKLab distance; and how far it is from itself by colours, make-up and structure (`distance`, 1 is the edge)."""

    score: float
    below: float
    shape_below: float
    placed: float
    rivals: float
    others: tuple[float, float]
    anywhere: tuple[float, float]
    mostly: tuple[float, float]
    distance: float

    @property
    def values(self) -> Floats:
        """The numbers of the regression (12,)."""
        scores = (self.score, self.below, self.shape_below, max(self.rivals, NO_RIVAL), *self.others)
        return np.array(
            [
                *np.clip(scores, -ODDS_MOST, ODDS_MOST),
                self.placed,
                *self.anywhere,
                *self.mostly,
                min(self.distance, 4.0),
            ]
        )


class WhoJudge(Logistic):
    """Whether somebody else stands there, by its terms."""

    def somebody_else(self, terms: WhoTerms) -> float:
        """Log odds that it is not whom it is marked as."""
        return self.odds(terms.values)


@dataclass(frozen=True)
class Judges:
    """What weighs the pictures of a thread: whether a trait changed, and whether somebody else stands there; None where its numbers are missing."""

    traits: TraitJudge
    who: WhoJudge | None = None


def weighed(odds: float, score: float, rivals: Mapping[str, float], level: Level) -> tuple[Answer, str | None]:
    """Who stands there by the log odds that it is somebody else, and who of the cast it looks like most; `score` and `rivals` are log odds that
    it is whom it is marked as, and each of the others."""
    rival = max(rivals, key=lambda k: rivals[k], default=None)
    if odds > STRANGER:
        is_rival = (
            rival is not None and rivals[rival] - score > DOUBTFUL_LEAD and level.score - rivals[rival] < OTHER_LEAST
        )
        return "other" if is_rival else "stranger", rival
    return "doubtful" if odds > ASKED else "same", rival
