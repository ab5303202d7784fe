"""What the scores of a figure mean along its thread: the same, doubtful, a stranger, or somebody else of the cast."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

Answer = Literal["same", "doubtful", "stranger", "other"]

LEVEL = 2.8
"""The middle score (log odds) of right figures over hands and poses, on pairs and sequences of our own and of foreign drawn art."""
LEVEL_WEIGHT, REFERENCE_WEIGHT, SEQUENCE_WEIGHT = 4.0, 1.0, 0.5
"""How much that level counts against one pair of the character's own references, and one appearance along its thread."""
ACCEPTED_WEIGHT = 2.0
"""An appearance that the illustrator let stand as right says more than one that nobody looked at."""
REFERENCES_ABOVE = 0.7
"""References, on plain ground and in the same light, score this much above figures in frames."""
LEVEL_RANGE = (0.0, 4.5)
USUAL_SHAPE, SHAPES_LEAST = 1.6, 4
"""The middle score of right figures in the right colours; a thread of so many pictures has its own."""
STRANGER_BELOW, DOUBTFUL_BELOW = 3.4, 2.5
"""A figure this far below the thread's level is a stranger, or doubtful; it is neither while its score is above the next two:"""
STRANGER_MOST, DOUBTFUL_MOST = -0.3, 0.9
BESIDE_LEAST, BETTER = 1.0, 0.7
"""A stranger also scores this much below the thread's better pictures (this quantile of them). Where all but a few pictures go badly with the
references (another pose, another side), the references say little."""
OTHER_LEAD, DOUBTFUL_LEAD = 2.0, 0.7
"""Somebody else of the cast scores so much better that it is that one, or that it may be."""
OTHER_LEAST = 1.8
"""And is himself at most this far below the level."""


@dataclass(frozen=True)
class Level:
    """Where the scores of a character's right figures lie, and what that was set on; `shape` the same in the right colours, `better` that of the
    thread's better pictures."""

    score: float
    references: int
    appearances: int
    shape: float = USUAL_SHAPE
    accepted: int = 0
    better: float = LEVEL

    def words(self) -> str:
        """What the band was set on, for the evidence."""
        parts = []
        if self.references:
            parts.append(f"{self.references} {'pair' if self.references == 1 else 'pairs'} of references")
        if self.appearances:
            parts.append(f"{self.appearances} {'picture' if self.appearances == 1 else 'pictures'} of this thread")
        if self.accepted:
            parts.append(f"{self.accepted} that you let stand")
        return " and ".join(parts) or "drawn figures in general"


def level(
    references: Sequence[float],
    sequence: Sequence[float],
    shapes: Sequence[float] = (),
    accepted: Sequence[float] = (),
) -> Level:
    """The level of a thread from scores between its own references and along its shots, and those in the right colours.

    Along the shots the better half counts alone, so that strangers do not lower what they are held against; what the illustrator
    `accepted` counts whatever its score.
    """
    better = sorted(sequence)[len(sequence) // 2 :]
    values = [LEVEL, *(r - REFERENCES_ABOVE for r in references), *better, *accepted]
    weights = [
        LEVEL_WEIGHT,
        *(REFERENCE_WEIGHT for _ in references),
        *(SEQUENCE_WEIGHT for _ in better),
        *(ACCEPTED_WEIGHT for _ in accepted),
    ]
    middle = float(np.average(np.clip(values, -1.0, 6.0), weights=weights))
    shape = float(np.median(sorted(shapes)[len(shapes) // 2 :])) if len(shapes) >= SHAPES_LEAST else USUAL_SHAPE
    return Level(
        score=float(np.clip(middle, *LEVEL_RANGE)),
        references=len(references),
        appearances=len(sequence),
        shape=shape,
        accepted=len(accepted),
        better=float(np.quantile(sequence, BETTER)) if len(sequence) >= SHAPES_LEAST else LEVEL,
    )


def answer(score: float, rivals: dict[str, float], level: Level) -> tuple[Answer, str | None]:
    """Who stands there by its score and the cast's, and who of the cast it looks like most."""
    rival = max(rivals, key=lambda k: rivals[k], default=None)
    lead = rivals[rival] - score if rival else -np.inf
    below = level.score - score
    if rival and lead > OTHER_LEAD and level.score - rivals[rival] < OTHER_LEAST:
        return "other", rival
    if below > STRANGER_BELOW and score < min(STRANGER_MOST, level.better - BESIDE_LEAST):
        return "stranger", rival
    if (below > DOUBTFUL_BELOW and score < DOUBTFUL_MOST) or (rival and lead > DOUBTFUL_LEAD):
        return "doubtful", rival
    return "same", rival
