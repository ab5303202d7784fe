"""Which colours a figure has along a clip, the scene's light taken out, and from when on some of them are others."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, maximum_filter

from juxtaform.core.clips.follow import AROUND, within
from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_oklab, linear_from_srgb8, oklab_from_linear
from juxtaform.core.picture.regions import Box

STEP = 0.04
"""Colours are counted in cells of OKLab of this side."""
LIGHT, TINT = 26, 20
"""Cells from black to white, and of each of both other axes, their middle grey."""
REACH = 2
"""Colours within so many cells are one: light and compression move them so far."""
SOFT = 0.9
"""Spread in cells by which counts are softened."""
NEAR = 0.08
"""What lies so near around a box (parts of it) may be the figure's still."""
TRACE = 1e-6
"""Less of a figure is nothing."""
SEEN_LEAST = 0.02
"""Less of a box that is unlike its ground is no figure."""
WINDOW = 6
"""A colour is another one for good when it is so for this many measured frames: about a second."""
SLIDE = 2
"""It may take so many measured frames to become so."""
MOSTLY = 0.25
"""... and in all of them but for this part: a pose may hide it."""
TOLERANCE = 0.02
"""The part of a figure that may be in colours that it never had, where as much is gone that it had (geometric mean). Set on drawn figures that walk, turn and
talk before wallpapers: of 108 clean clips two went further."""

ALONE = 0.8
"""One colour is another one where it has at least this part of what went and of what came: else several are, as with somebody else."""
ONE_TOLERANCE = 0.05
"""The same of one picture beside another one: a pose alone hides and shows more than a second of them does."""


@dataclass(frozen=True, slots=True)
class Worn:
    """The figure's colours in one measured frame: which cells they are in, and how much of the figure each has (k,); their sum is 1, or 0 where nothing is
    seen. A long clip has thousands of these."""

    at: NDArray[np.uint16]
    much: NDArray[np.float32]

    @property
    def seen(self) -> bool:
        return bool(len(self.at))

    def cells(self) -> NDArray[np.float32]:
        """How much of the figure has each colour, (LIGHT, TINT, TINT)."""
        whole = np.zeros(LIGHT * TINT * TINT, np.float32)
        whole[self.at] = self.much
        return whole.reshape(LIGHT, TINT, TINT)

    def near(self) -> NDArray[np.float32]:
        """The same, each cell with the most of what is within reach of it."""
        return np.asarray(maximum_filter(self.cells(), size=2 * REACH + 1))


@dataclass(frozen=True)
class Recoloured:
    """How far a figure's colours changed, `drift` (n,) for each measured frame, 1 is the edge of what holds; from which on (index, None: never); the colour
    that went and the one that came, linear light (3,); and whether `one` colour became another one, not several others."""

    drift: Floats
    begins: int | None
    was: Floats | None = None
    now: Floats | None = None
    one: bool = True


def nothing_worn() -> Worn:
    """A frame in which the figure is not seen."""
    return Worn(np.zeros(0, np.uint16), np.zeros(0, np.float32))


def worn(pixels: Pixels, box: Box, light: Floats) -> Worn:
    """The colours of a figure in a frame (h, w, 3) in which it stands in `box`; `light` (3,) is the gain of linear light since the first frame."""
    h, w = pixels.shape[:2]
    wide, near, own = (within(box.grown(part), h, w) for part in (AROUND, NEAR, 0.0))
    part = pixels[wide]
    if part.size < 48:
        return nothing_worn()
    codes = _codes(part, light)
    ring = np.ones(part.shape[:2], bool)
    ring[_from(near, wide)] = False
    seen, ground = _counted(codes[_from(own, wide)]), _counted(codes[ring])
    figure = seen * seen / (seen + ground + 1e-5)
    total = float(figure.sum())
    if total <= SEEN_LEAST:
        return nothing_worn()
    flat = (figure / total).ravel()
    at = np.flatnonzero(flat > TRACE)
    return Worn(at.astype(np.uint16), flat[at].astype(np.float32))


def recoloured(seen: Sequence[Worn]) -> Recoloured:
    """Where along measured frames a part of a figure is in another colour: it has one that it never had before, for a second at least, and one that it had is not
    seen meanwhile. A turn or a pose brings one or the other, hardly both."""
    n = len(seen)
    drift = np.zeros(n)
    there = [k for k in range(n) if seen[k].seen]
    before = np.zeros((LIGHT, TINT, TINT), np.float32)
    best: tuple[Floats, Floats] | None = None
    most = 0.0
    for s in range(1, n - SLIDE - 1):
        before = np.maximum(before, seen[s - 1].near()) if seen[s - 1].seen else before
        passed = bisect_left(there, s)
        earlier = there[max(0, passed - WINDOW) : passed]
        later = there[bisect_left(there, s + SLIDE) : bisect_left(there, s + SLIDE + WINDOW)]
        if len(earlier) < 2 or len(later) < min(3, n - s - SLIDE):
            continue
        came = np.maximum(0, _mostly([seen[k] for k in later]) - before)
        if came.sum() < TOLERANCE**2:
            continue  # nothing new: what went does not count
        meanwhile = np.max([seen[k].near() for k in later], axis=0)
        went = np.maximum(0, _mostly([seen[k] for k in earlier]) - meanwhile)
        far = float(np.sqrt(came.sum() * went.sum())) / TOLERANCE
        drift[s:] = np.maximum(drift[s:], far)
        if far > most:
            best, most = (went, came), far
    if most <= 1 or best is None:
        return Recoloured(drift, None)
    (was, alone), (now, lonely) = (_foremost(cells) for cells in best)
    return Recoloured(drift, int(np.argmax(drift > 1)), was, now, min(alone, lonely) > ALONE)


def _mostly(seen: Sequence[Worn]) -> Floats:
    """How much of a figure has each colour in all of some frames but for a few."""
    return np.asarray(np.quantile([w.cells() for w in seen], MOSTLY, axis=0))


def unlike(one: Worn, other: Worn) -> float:
    """How far a figure's colours in one picture are from those in another one, 1 is the edge of what holds; 0 where it is not seen in both."""
    if not (one.seen and other.seen):
        return 0.0
    came = np.maximum(0, other.cells() - one.near()).sum()
    went = np.maximum(0, one.cells() - other.near()).sum()
    return float(np.sqrt(came * went)) / ONE_TOLERANCE


def _codes(pixels: Pixels, light: Floats) -> NDArray[np.intp]:
    lab = oklab_from_linear(np.clip(linear_from_srgb8(pixels) / light, 0, 1))
    steps = np.rint(lab / STEP).astype(np.intp)
    dark = np.clip(steps[..., 0], 0, LIGHT - 1)
    a, b = (np.clip(steps[..., k] + TINT // 2, 0, TINT - 1) for k in (1, 2))
    return np.asarray((dark * TINT + a) * TINT + b)


def _counted(codes: NDArray[np.intp]) -> Floats:
    counts = np.bincount(codes.ravel(), minlength=LIGHT * TINT * TINT).reshape(LIGHT, TINT, TINT)
    return np.asarray(gaussian_filter(counts / max(1, codes.size), SOFT, truncate=2.0))


def _from(part: tuple[slice, slice], whole: tuple[slice, slice]) -> tuple[slice, slice]:
    """A part of a picture as part of a larger part of it."""
    return tuple(slice(p.start - w.start, p.stop - w.start) for p, w in zip(part, whole, strict=True))  # type: ignore[return-value]


def _foremost(cells: Floats) -> tuple[Floats, float]:
    """The colour of most weight, linear light (3,), and what part of all weight it has: what lies around the fullest cell."""
    at = np.unravel_index(int(cells.argmax()), cells.shape)
    part = tuple(slice(max(0, int(i) - REACH), int(i) + REACH + 1) for i in at)
    near = cells[part]
    where = np.indices(near.shape).reshape(3, -1) + np.array([[p.start] for p in part])
    middle = (where * near.ravel()).sum(axis=1) / near.sum()
    lab = (middle - np.array([0, TINT // 2, TINT // 2])) * STEP
    return np.asarray(np.clip(linear_from_oklab(lab), 0, 1)), float(near.sum() / cells.sum())
