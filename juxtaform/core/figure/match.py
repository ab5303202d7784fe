"""A frame's figure against one reference: laid over it and compared place by place, or matched loosely in another pose."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.colours import NOT_LAID, laid_over
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.logistic import Logistic
from juxtaform.core.figure.loose import loose_likeness
from juxtaform.core.figure.placing import Placed, coarsely, redrawn, refined
from juxtaform.core.figure.sheet import COARSE, FIGURE_LEAST, Look, Sheet, finely
from juxtaform.core.picture.trunk import Map, Maps, Trunk, unit

SEEN_LEAST = 0.6
"""A reference's place is compared when at least this part of it has picture behind it."""
COMPARED_LEAST = 4
"""Fewer compared places than this tell nothing of colour."""
RIGHT_COLOUR = (0.03, 0.015)
"""The middle colour steps of right figures laid over their references: of the whole colour, of hue and chroma."""


@dataclass(frozen=True, slots=True)
class Terms:
    """What a figure is judged by. Laid over the reference: the mean of the best cosine within one place at stages 4 and 5
    (-1..1), the placed share (0..1), the median colour steps `colour` and `hue` (OKLab): medians, so that one part in another colour
    makes no stranger. In any pose: the loose likeness (about 0..1)."""

    fourth: float
    fifth: float
    share: float
    loose: float
    colour: float
    hue: float

    @property
    def values(self) -> Floats:
        return np.array([getattr(self, f.name) for f in fields(self)])


class Judge(Logistic):
    """Whether two pictures show one figure, by the six terms."""

    def score(self, terms: Terms) -> float:
        """Log odds that two pictures show one figure; 0 is even."""
        return self.odds(terms.values)

    def shape(self, terms: Terms) -> float:
        """The score that they would have in the right colours."""
        return self.score(replace(terms, colour=RIGHT_COLOUR[0], hue=RIGHT_COLOUR[1]))


@dataclass(frozen=True)
class Eye:
    """What looks at figures: the network, and the judges of what it shows of a figure and of a place."""

    trunk: Trunk
    judge: Judge
    places: Logistic


@dataclass(frozen=True)
class Match:
    """How a frame's figure goes with one reference.

    `score` is log odds that both are one figure. `likeness` (14, 14) holds the cosine of each place of the reference, NaN
    where none was compared; `redrawn` (224, 224, 3) is the frame's figure in the reference's place, `affine` (2, 3) the transform
    from coarse places of the reference to the frame's square, `mirrored` whether the frame's picture was turned over first, `maps` those of what is redrawn.
    All of these are None when no transform placed the figure.
    """

    score: float
    terms: Terms
    likeness: NDArray[np.float32] | None = None
    redrawn: Pixels | None = None
    inside: Mask | None = None
    affine: Floats | None = None
    mirrored: bool = False
    maps: Maps | None = None


def match(eye: Eye, reference: Look, seen: Look) -> Match:
    """Compare a frame's figure with a reference. The better of upright and mirrored is taken."""
    ours = reference.upright
    loose = max(loose_likeness(ours, side) for side in seen.sides)
    tried = [(p, side) for side in seen.sides if (p := coarsely(ours, side)) is not None]
    over = _laid_over(eye.trunk, ours, *max(tried, key=lambda t: t[0].share)) if tried else None
    if over is None:
        terms = Terms(0.0, 0.0, 0.0, loose, *NOT_LAID)
        return Match(eye.judge.score(terms), terms)
    terms = Terms(over.fourth, over.fifth, over.share, loose, over.colour, over.hue)
    return Match(
        score=eye.judge.score(terms),
        terms=terms,
        likeness=over.likeness,
        redrawn=over.redrawn,
        inside=over.inside,
        affine=over.affine,
        mirrored=over.side is seen.mirrored,
        maps=over.maps,
    )


@dataclass(frozen=True)
class _Over:
    fourth: float
    fifth: float
    share: float
    colour: float
    hue: float
    likeness: NDArray[np.float32]
    redrawn: Pixels
    inside: Mask
    affine: Floats
    side: Sheet
    maps: Maps


def _laid_over(trunk: Trunk, ours: Sheet, found: Placed, side: Sheet) -> _Over | None:
    affine = found.affine
    pixels, inside = redrawn(side, affine)
    better = refined(affine, ours, finely(*trunk.early(pixels)), inside)
    if better is not None:
        affine = better
        pixels, inside = redrawn(side, affine)
    maps = trunk.maps(pixels)
    seen = np.asarray(cv2.resize(inside, (COARSE, COARSE), interpolation=cv2.INTER_AREA))
    where = (ours.coarse_mask > FIGURE_LEAST) & (seen > SEEN_LEAST)
    if where.sum() < COMPARED_LEAST:
        return None
    fourth, fifth = (best_near(ours.units[i], unit(maps[i])) for i in (1, 2))
    colour, hue = laid_over(ours, pixels, inside)
    return _Over(
        fourth=float(fourth[where].mean()),
        fifth=float(fifth[where].mean()),
        share=found.share,
        colour=colour,
        hue=hue,
        likeness=np.where(where, fourth, np.nan).astype(np.float32),
        redrawn=pixels,
        inside=inside,
        affine=affine,
        side=side,
        maps=maps,
    )


def best_near(one: Map, other: Map) -> Map:
    """The best cosine of each place of `one` (n, s, s) with the 3 x 3 places of `other` around it, (s, s); 0 stands for a place beyond its edge."""
    n, side = one.shape[:2]
    cosine = np.zeros((side * side, side * side + 1), np.float32)
    np.matmul(one.reshape(n, -1).T, other.reshape(n, -1), out=cosine[:, :-1])
    return np.asarray(np.take_along_axis(cosine, _around(side), axis=1).max(axis=1).reshape(side, side))


@lru_cache(maxsize=4)
def _around(side: int) -> NDArray[np.intp]:
    """The 3 x 3 places around each of a square's, (side², 9); side² stands for a place beyond its edge."""
    places = np.pad(np.arange(side * side).reshape(side, side), 1, constant_values=side * side)
    return np.stack([places[y : y + side, x : x + side].ravel() for y in range(3) for x in range(3)], axis=1)
