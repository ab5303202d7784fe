"""Two grounds held against each other: how much of one is in the other, laid how, in which light, and what of it is unlike."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.picture.regions import Box
from juxtaform.core.place.ground import COLUMNS, ROWS, PlaceMap

AROUND = 0.05
"""A figure's box is moved outwards by this part on each side, so that no cell of the ground has some of it."""
GROUND_LEAST = 24
"""A picture that shows fewer cells of ground than this says nothing of its place."""
MATCH_LEAST = 0.45
"""The cosine from which a pair of cells counts for the layout and the light."""
PAIRS_LEAST = 6
"""Fewer pairs that agree on one layout make none."""
REACH = 1.1
"""How many cells a pair may lie off the common layout."""
SMALLEST, LARGEST, TURN_MOST = 0.3, 3.2, 0.35
"""Scale and turn (radians) between two views of one place."""
COLOUR_PAIRS = 6
"""So many pairs tell how two palettes go together."""
COLOURED = 0.35
"""Hues that spread by so many stops (red over green, blue over green) make a coloured ground."""
HARDLY = 0.1
"""... and by so few hardly any colour at all."""
OTHER_VIVID, OTHER_HUES = 1.0, 0.6
"""From such a `vivid` on (log2), or below such `hues`, neither says what stands in the other: the whole palette is another."""


@dataclass(frozen=True)
class Ground:
    """The cells of a picture that show its ground: unit vectors (n, k), tones in stops (n, 3), and which cells of the picture they are (n,)."""

    numbers: NDArray[np.float32]
    tones: NDArray[np.float32]
    cells: NDArray[np.intp]

    @cached_property
    def at(self) -> NDArray[np.float32]:
        """Columns and rows (n, 2) of the cells' centres."""
        return np.stack([self.cells % COLUMNS + 0.5, self.cells // COLUMNS + 0.5], axis=1).astype(np.float32)


@dataclass(frozen=True)
class Compared:
    """What two grounds have in common, seen from the first: `likeness` 0..1, the share of its cells found in the second, each by its cosine; `share` of
    cells that lie as one layout puts them; `exposure` and `warmth` in stops, the second against the first, on those cells; `layout` (2, 3) leads from
    the first's cells to the second's. With the light taken out, `vivid` tells how much farther the second's hues lie apart (log2; below 0 it is greyer) and
    `hues` how its hues go with the first's (correlation -1..1); 0 and 1 where there is too little colour or ground to tell."""

    likeness: float
    share: float
    exposure: float
    warmth: float
    layout: NDArray[np.float64] | None
    vivid: float = 0.0
    hues: float = 1.0

    @property
    def one_palette(self) -> bool:
        """Whether both grounds are painted in one palette, whatever the light."""
        return abs(self.vivid) < OTHER_VIVID and self.hues > OTHER_HUES

    @property
    def sure(self) -> bool:
        """Whether enough cells agree on one layout to speak of the light."""
        return self.layout is not None


def ground_of(place: PlaceMap, width: float, height: float, figures: Iterable[Box] = ()) -> Ground | None:
    """The ground of a picture of that size, its figures taken out; None where too little of it is left."""
    numbers, tones = place.read()
    free = np.ones((ROWS, COLUMNS), dtype=bool)
    for figure in figures:
        b = figure.grown(AROUND)
        top, bottom = (min(ROWS, max(0, int(v * ROWS / height))) for v in (b.y, b.y + b.h))
        left, right = (min(COLUMNS, max(0, int(v * COLUMNS / width))) for v in (b.x, b.x + b.w))
        free[top : bottom + 1, left : right + 1] = False
    cells = np.flatnonzero(free.ravel())
    return Ground(numbers[cells], tones[cells], cells) if len(cells) >= GROUND_LEAST else None


def likeness(a: Ground, b: Ground) -> float:
    """The share 0..1 of the cells of `a` that are found in `b`, each by its cosine: mutual nearest cells count."""
    return _paired(a, b)[0]


def _paired(a: Ground, b: Ground) -> tuple[float, NDArray[np.intp], NDArray[np.bool_], NDArray[np.float32]]:
    """The likeness, for each cell of `a` its nearest of `b`, whether both are each other's nearest, and their cosine."""
    cosine = a.numbers @ b.numbers.T
    best, back = cosine.argmax(axis=1), cosine.argmax(axis=0)
    top = cosine[np.arange(len(best)), best]
    mutual = back[best] == np.arange(len(best))
    return float(top[mutual].sum() / len(best)), best, mutual, top


def compared(a: Ground, b: Ground) -> Compared:
    """Hold two grounds against each other: mutual nearest cells by cosine, then the one layout (RANSAC) that places most of them."""
    alike, best, mutual, top = _paired(a, b)
    pairs = np.flatnonzero(mutual & (top > MATCH_LEAST))
    if len(pairs) < PAIRS_LEAST:
        return Compared(alike, 0.0, 0.0, 0.0, None)
    cv2.setRNGSeed(1)
    layout, inliers = cv2.estimateAffinePartial2D(
        a.at[pairs], b.at[best[pairs]], ransacReprojThreshold=REACH, maxIters=800
    )
    agree = pairs[np.asarray(inliers).ravel() > 0] if layout is not None else pairs[:0]
    if layout is None or len(agree) < PAIRS_LEAST or not _is_view(np.asarray(layout, dtype=np.float64)):
        return Compared(alike, 0.0, 0.0, 0.0, None)
    ours, theirs = a.tones[agree], b.tones[best[agree]]
    step = np.median(theirs - ours, axis=0)
    vivid, hues = _palettes(ours, theirs)
    return Compared(
        alike, len(agree) / len(best), float(step.mean()), float(step[0] - step[2]), np.asarray(layout), vivid, hues
    )


def _palettes(a: NDArray[np.float32], b: NDArray[np.float32]) -> tuple[float, float]:
    """How much farther apart the hues of tones `b` (n, 3) lie than those of `a`, cell by cell the same ground, and how they go together."""
    if len(a) < COLOUR_PAIRS:
        return 0.0, 1.0
    one, other = (np.column_stack([t[:, 0] - t[:, 1], t[:, 2] - t[:, 1]]) for t in (a, b))
    one, other = one - np.median(one, axis=0), other - np.median(other, axis=0)
    spread_a, spread_b = (float(np.sqrt((hue**2).mean())) for hue in (one, other))
    if max(spread_a, spread_b) < COLOURED:
        return 0.0, 1.0
    vivid = float(np.log2(max(spread_b, HARDLY) / max(spread_a, HARDLY)))
    both = min(spread_a, spread_b) >= COLOURED
    return vivid, float((one * other).mean() / (spread_a * spread_b)) if both else 1.0


def _is_view(layout: NDArray[np.float64]) -> bool:
    scale, turn = float(np.hypot(layout[0, 0], layout[1, 0])), abs(float(np.arctan2(layout[1, 0], layout[0, 0])))
    return SMALLEST < scale < LARGEST and turn < TURN_MOST


@dataclass(frozen=True)
class Unlike:
    """What of a ground is not as the other has it: the share of the compared cells, and the box of the largest patch, in parts 0..1 of the picture."""

    share: float
    box: Box


STRANGE_COSINE = 0.1
"""A cell of which the other ground has nothing nearer by than this cosine shows something else; those of one thing in another light stay above."""
STRANGE_TONE = 1.0
"""... or whose tone is so many stops off in a channel once the common light is out."""
TOE = 0.006
"""Linear light that is added before tones are compared: what is darker is black to the eye, and a light that falls on it hardly shows."""
NEAR = 1.6
"""How many cells away, in either picture's larger cells, the same thing may stand by a crude layout."""
PATCH_LEAST = 2
"""A patch of fewer cells is a rim."""
UPON = 0.75
"""A cell lies upon another where their centres are no more cells apart."""


MOST_OF = 0.75
"""What a ground shows otherwise than several others is unlike where so many of those have it otherwise that show the place."""
Votes = tuple[NDArray[np.bool_], NDArray[np.bool_]]
"""Which cells of a ground are compared (n,), and which of these are strange (n,)."""


@dataclass(frozen=True)
class Laid:
    """A ground laid over another one: how, where it has what the other has not, and where it has not what the other has."""

    seen: Compared
    own: Votes | None
    theirs: Votes | None


def laid_over(a: Ground, b: Ground, seen: Compared) -> tuple[Laid, Laid] | None:
    """The first ground laid over the second, and the second over the first; None where no layout holds, or they are painted in two palettes."""
    if seen.layout is None or not seen.one_palette:
        return None
    turned = np.asarray(cv2.invertAffineTransform(seen.layout), np.float64)
    back = replace(seen, exposure=-seen.exposure, warmth=-seen.warmth, layout=turned, vivid=-seen.vivid)
    of_a, of_b = _strange(a, b, seen.layout), _strange(b, a, turned)
    return Laid(seen, of_a, _upon(a, b, seen.layout, of_b)), Laid(back, of_b, _upon(b, a, turned, of_a))


def unlike(a: Ground, over: Sequence[Laid], least: int = 1) -> Unlike | None:
    """The cells of a ground in which something stands that most of those have not that it is laid over; each votes on the cells that it shows, and `least`
    must show a cell. None where too few show anything, or nothing is unlike."""
    return _voted(a, [x.own for x in over if x.own is not None], least)


def gone(a: Ground, over: Sequence[Laid], least: int = 2) -> Unlike | None:
    """The cells of a ground in which most of the others have something that is not there."""
    return _voted(a, [x.theirs for x in over if x.theirs is not None], least)


def _voted(a: Ground, read: Sequence[Votes], least: int) -> Unlike | None:
    if len(read) < least:
        return None
    shown = np.sum([inside for inside, _ in read], axis=0)
    strange = np.sum([otherwise for _, otherwise in read], axis=0)
    return _patch(a, shown >= least, (strange >= least) & (strange >= MOST_OF * shown))


def _apart(a: Ground, b: Ground, layout: NDArray[np.float64]) -> NDArray[np.float32]:
    """How many cells the cells of `a`, laid over `b`, lie from those of `b` (n, m), along the side where it is more."""
    to = (a.at @ layout[:, :2].T + layout[:, 2]).astype(np.float32)
    apart: NDArray[np.float32] = np.maximum(np.abs(to[:, :1] - b.at[:, 0]), np.abs(to[:, 1:] - b.at[:, 1]))
    return apart


def _upon(a: Ground, b: Ground, layout: NDArray[np.float64], of_b: Votes | None) -> Votes | None:
    """What is said of the cells of `b`, said of the cells of `a` that lie upon them."""
    if of_b is None:
        return None
    apart = _apart(a, b, layout)
    upon, close = apart.argmin(axis=1), apart.min(axis=1) < UPON
    return of_b[0][upon] & close, of_b[1][upon] & close


def _strange(a: Ground, b: Ground, layout: NDArray[np.float64]) -> Votes | None:
    """Which cells of `a` are in `b` as well, and where `b` shows something else there; None where these are too few."""
    apart = _apart(a, b, layout)
    scale = max(1.0, float(np.hypot(layout[0, 0], layout[1, 0])))
    near = apart < NEAR * scale
    # Only cells whose whole neighbourhood is in the other picture, and not behind its figures, can be unlike.
    inside = near.sum(axis=1) >= (2 * NEAR * scale) ** 2 * 0.6
    if inside.sum() < PAIRS_LEAST:
        return None
    light = _light(a.tones[inside], b.tones[apart.argmin(axis=1)][inside])
    cosine = np.where(near, a.numbers @ b.numbers.T, -1.0).max(axis=1)
    theirs, ours = _with_toe(b.tones - light), _with_toe(a.tones)
    off = np.abs(ours[:, :1] - theirs[:, 0])
    for channel in (1, 2):
        np.maximum(off, np.abs(ours[:, channel, None] - theirs[:, channel]), out=off)
    return inside, inside & ((cosine < STRANGE_COSINE) | (np.where(near, off, np.inf).min(axis=1) > STRANGE_TONE))


def _light(a: NDArray[np.float32], b: NDArray[np.float32]) -> NDArray[np.float32]:
    """The light on tones `b` (n, 3) above that on `a`, cell by cell the same ground, in stops a channel (3,): the middle of the cells that are no black in both."""
    shown = np.minimum(a, b) > np.log2(TOE)
    return np.array(
        [
            np.median((b - a)[shown[:, c] if shown[:, c].sum() >= PAIRS_LEAST else slice(None), c])
            for c in range(a.shape[1])
        ],
        np.float32,
    )


def _with_toe(tones: NDArray[np.float32]) -> NDArray[np.float32]:
    return np.log2(np.exp2(tones) + np.float32(TOE))


def _patch(a: Ground, inside: NDArray[np.bool_], strange: NDArray[np.bool_]) -> Unlike | None:
    """The largest patch of strange cells among those that are compared."""
    grid = np.zeros((ROWS, COLUMNS), np.uint8)
    grid.ravel()[a.cells[strange]] = 1
    count, _, stats, _ = cv2.connectedComponentsWithStats(grid, connectivity=4)
    if count < 2:
        return None
    x, y, w, h, area = (int(v) for v in stats[1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())])
    if area < PATCH_LEAST:
        return None
    return Unlike(area / int(inside.sum()), Box(x / COLUMNS, y / ROWS, w / COLUMNS, h / ROWS))
