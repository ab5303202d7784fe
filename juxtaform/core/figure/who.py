"""Who stands in a box: a figure against all references of whom it is said to be, and against the rest of the cast."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import combinations

import numpy as np

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.loose import loose_likeness
from juxtaform.core.figure.match import Eye, Match, match
from juxtaform.core.figure.sheet import Look, look_of
from juxtaform.core.picture.regions import Box, cut_out

AROUND = 0.04
"""Each side of a mark is moved outwards by this part, so that the figure's rim is ground."""
SURE = 4.0
"""From this score on (log odds, level taken out) nobody else of the cast is compared: they are one figure."""
PAIRED = 4
"""The number of references that are compared with each other."""
RIVALS = 3
"""The number of others of the cast that are laid over: those that are most alike by the loose matching."""
COSTUME_LEAD = 1.2
"""Another costume that goes so much better (log odds) than the planned one is worn, where it is likelier than not that it is the same character at all."""


@dataclass(frozen=True)
class Known:
    """A figure's references as they are compared: its owner (a character's id), the names, ids and looks of its views,
    their scores against each other, and the figure's own id: a character has one for each costume."""

    owner: str
    names: tuple[str, ...]
    ids: tuple[str, ...]
    looks: tuple[Look, ...]
    pairs: tuple[float, ...] = ()
    id: str = ""


@dataclass(frozen=True)
class Evidence:
    """Where on a reference the frame's figure differs: `likeness` is the cosine of each of 14 x 14 places of the reference's
    square, row by row, None where nothing was compared; `affine` (six numbers, two rows) leads from those places to
    the square of the frame's crop, `mirrored` says that the crop is turned over first."""

    likeness: tuple[float | None, ...]
    affine: tuple[float, ...]
    mirrored: bool


@dataclass(frozen=True, slots=True)
class Identity:
    """Who a figure is: `score` is the log odds that it is whom it is marked as, by the reference `view` that it goes with best,
    whose id is `reference`;
    `share` how much of it one transform places (0..1); `shape` the score that it would have in the right colours; `rivals` the scores
    of others in the cast, by owner; `references` those of
    its own references against each other; `costumes` its scores in its other costumes, by figure, where it does not plainly wear the one that it is marked in."""

    score: float
    view: int
    share: float
    rivals: dict[str, float]
    reference: str = ""
    shape: float = 0.0
    references: tuple[float, ...] = ()
    evidence: Evidence | None = None
    costumes: dict[str, float] = field(default_factory=dict)

    @property
    def wears(self) -> str | None:
        """The other costume, by figure, that it plainly wears; None where it wears the one that it is marked in, or nobody can tell."""
        best = max(self.costumes, key=lambda k: self.costumes[k], default=None)
        return best if best is not None and self.costumes[best] > max(0.0, self.score + COSTUME_LEAD) else None

    @property
    def as_worn(self) -> float:
        """The score in the costume that it wears."""
        worn = self.wears
        return self.score if worn is None else self.costumes[worn]


def seen_look(eye: Eye, pixels: Pixels, box: Box) -> Look:
    """The look of a marked figure, upright and mirrored. Raises ValueError for a box outside the picture."""
    return look_of(eye.trunk, cut_out(pixels, looked_at(pixels, box)), mirror=True)


def looked_at(pixels: Pixels, box: Box) -> Box:
    """What of a picture is looked at for a mark: its box and a little ground around it."""
    return box.grown(AROUND).inside(pixels.shape[1], pixels.shape[0])


def identify(eye: Eye, seen: Look, own: Known, cast: Sequence[Known]) -> tuple[Identity, Match]:
    """Compare a figure with its own references, and with those of the cast that it may be instead."""
    matches = [match(eye, look, seen) for look in own.looks]
    best = max(range(len(matches)), key=lambda i: matches[i].score)
    found = matches[best]
    rivals: dict[str, float] = {}
    costumes: dict[str, float] = {}
    if found.score < SURE:
        others = [k for k in cast if k.owner != own.owner and k.looks]
        if len(others) > RIVALS:
            others = sorted(others, key=lambda k: -_loosely(k, seen))[:RIVALS]
        costumes = {
            k.id: max(match(eye, look, seen).score for look in k.looks)
            for k in cast
            if k.owner == own.owner and k.id != own.id and k.looks
        }
        for other in others:
            score = max(match(eye, look, seen).score for look in other.looks)
            rivals[other.owner] = max(score, rivals.get(other.owner, score))
    identity = Identity(
        score=found.score,
        view=best,
        share=found.terms.share,
        rivals=rivals,
        reference=own.ids[best],
        shape=eye.judge.shape(found.terms),
        references=own.pairs,
        evidence=_evidence(found),
        costumes=costumes,
    )
    return identity, found


def pairs_of(eye: Eye, looks: Sequence[Look]) -> tuple[float, ...]:
    """The scores of a figure's references against each other."""
    return tuple(match(eye, a, b).score for a, b in combinations(looks[:PAIRED], 2))


def _loosely(known: Known, seen: Look) -> float:
    return max(loose_likeness(look.upright, side) for look in known.looks for side in seen.sides)


def _evidence(found: Match) -> Evidence | None:
    if found.likeness is None or found.affine is None:
        return None
    likenesses = [None if np.isnan(v) else round(float(v), 3) for v in found.likeness.ravel()]
    return Evidence(tuple(likenesses), tuple(round(float(v), 5) for v in found.affine.ravel()), found.mirrored)
