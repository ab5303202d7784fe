"""Traits that stand on a figure once more than on its references: their pieces, counted by colour.

A trait's pieces are what of the figure wears its colours and nobody else's, each connected by itself. Legs before a coat part a piece in two, so
pieces alone say little: there must be one more of them, as large as the references' own, and as much more of the trait. Only a thing can be there
twice: a trait that somebody marked, that is one piece on every reference, and of which that piece is the most. A colour that was proposed for want of
traits (hair, shade, skin) comes in other pieces with every pose: on drawn art by other hands such colours were told in 17 of 635 right figures.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from juxtaform.core import tolerances as tol
from juxtaform.core.figure.reading import Surface, least, not_own
from juxtaform.core.figure.traits import NEAR, Trait, belonging
from juxtaform.core.picture.regions import Box

PIECE_LEAST = 0.4
"""A piece counts when it is at least this part of the largest one of the references."""
PIECE_MOST = 2.2
"""... and at most so many times that: what is larger is something else in the same colour."""
MORE_LEAST = 1.25
"""A trait is there once more when there is so many times as much of it as on the references."""
SURE = 0.5
"""The chance that a pixel is the figure from which it counts."""
ONE_THING = 0.6
"""A trait whose pieces are less than this part of it, by its colours alone, is mixed with what lies beside it: its pieces cannot be counted."""
LEAST_PX = 12
"""Pieces of fewer pixels are specks."""


@dataclass(frozen=True)
class Pieces:
    """The pieces of one trait on one figure, the largest first: their shares of the figure, how far each lies from where the trait usually is
    (in sides of the mark, the figure turned over or not), and where it is in the picture."""

    shares: tuple[float, ...] = ()
    away: tuple[float, ...] = ()
    boxes: tuple[Box, ...] = ()


@dataclass(frozen=True)
class Usual:
    """What the references show of a trait: its largest piece and all of it (shares of the figure, the middle of its views), and how many pieces at most."""

    largest: float
    whole: float
    count: int


@dataclass(frozen=True)
class Again:
    """A trait that is there once more: how many times as much of it as on the references, and where the further piece is."""

    times: float
    box: Box


def pieces(trait: Trait, on: Surface) -> Pieces:
    """The pieces of a marked trait on a surface; of proposed ones none are counted."""
    if not trait.declared:
        return Pieces()
    _, to_own = belonging(on.lab, trait.colours)
    to_rival = least(on.to_paints[:, not_own(on.model.paints.linear, trait)], len(on.lab))
    near = 0.6 * NEAR / min(1.0, on.saturation**0.5)
    own = (to_own < near) & (to_own < 0.7 * to_rival) & (on.chance > SURE) & ~on.ground_like
    shape = on.crop.figure.shape
    labels, count = ndimage.label(ndimage.binary_closing(own.reshape(shape)), np.ones((3, 3), dtype=bool))
    sizes = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    kept = [i for i in np.argsort(-sizes, kind="stable") if sizes[i] >= LEAST_PX]
    slices = ndimage.find_objects(labels)
    h, w = shape
    boxes, away = [], []
    for i in kept:
        rows, columns = slices[i]
        x, y = (columns.start + columns.stop) / (2 * w), (rows.start + rows.stop) / (2 * h)
        across = min(abs(x - trait.centre[0]), abs(1 - x - trait.centre[0]))
        away.append(float(np.hypot(across, y - trait.centre[1])))
        boxes.append(
            Box(
                on.box.x + on.box.w * columns.start / w,
                on.box.y + on.box.h * rows.start / h,
                on.box.w * (columns.stop - columns.start) / w,
                on.box.h * (rows.stop - rows.start) / h,
            )
        )
    return Pieces(tuple(float(sizes[i] / max(1e-9, on.area)) for i in kept), tuple(away), tuple(boxes))


def usual(seen: Sequence[Pieces]) -> Usual | None:
    """What references show of a trait, by its pieces in each view; None where none shows any."""
    shown = [p for p in seen if p.shares]
    if not shown:
        return None
    largest = float(np.median([p.shares[0] for p in shown]))
    counts = [sum(s >= PIECE_LEAST * largest for s in p.shares) for p in shown]
    return Usual(largest, float(np.median([sum(p.shares) for p in shown])), max(counts))


def again(trait: Trait, seen: Pieces, known: Usual | None) -> Again | None:
    """Whether a trait is there once more than on the references."""
    if known is None or known.count != 1 or known.whole < ONE_THING * trait.share or trait.share > tol.WHOLE_PART_SHARE:
        return None
    like = [i for i, s in enumerate(seen.shares) if PIECE_LEAST * known.largest <= s <= PIECE_MOST * known.largest]
    times = sum(seen.shares[i] for i in like) / max(1e-9, known.whole)
    if len(like) <= known.count or times < MORE_LEAST:
        return None
    return Again(times, seen.boxes[max(like, key=lambda i: seen.away[i])])
