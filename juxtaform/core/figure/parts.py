"""What about a figure changed: the colours of its parts, read where the frame's figure lies over the reference."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8
from juxtaform.core.figure.colours import DARK, bounded, steps
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.sheet import Sheet
from juxtaform.core.figure.worn import Worn, worn
from juxtaform.core.picture.trunk import SIDE

GRID = 56
"""Cells of a square's side at which parts are read: 4 px each."""
REACH = 2
"""A cell is compared with the cells this far around: what a transform leaves in poses, folds and outlines."""
CELL_LEAST = 0.5
"""A cell belongs to a part when the part fills this much of it."""
CELLS_LEAST = 5
"""A part with fewer cells than this is too small to judge."""
STEP_MOST = 0.2
SHARED = 0.8
"""How much what a light leaves unexplained of the picture's other figures counts beside the figure itself."""
TINT_COST = 0.005
"""What a squared stop of tint costs, in OKLab steps: no light before a little of it."""
INSIDE_LEAST = 0.6
"""A cell can be read when at least this part of it has picture behind it."""
FIGURE_CELLS_LEAST = 20
"""A figure with fewer cells than this tells no light."""
SOLID = 0.35
"""The quantile of a part's steps that is told: the part has changed when even its better third has."""

Cells = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class PartStep:
    """One part of a figure against the reference: `step` and `hue` are OKLab distances in the common light (hue and chroma alone for
    the second), `beyond` how much further `step` is than that of the rest of the figure, `seen` its middle colour in the frame, linear
    light without the scene's light; `cells` how many cells could be read."""

    step: float
    hue: float
    beyond: float
    seen: tuple[float, float, float]
    cells: int


@dataclass(frozen=True)
class Over:
    """A figure laid over its reference: `redrawn` (224, 224, 3) is the frame's figure in the reference's place, `inside` (224, 224) where
    there is picture behind it, `masks` (t, 56, 56) tell where on the reference's square each part is."""

    reference: Sheet
    masks: Mask
    redrawn: Pixels
    inside: Mask

    @cached_property
    def own(self) -> Cells:
        return grid(self.reference.pixels)

    @cached_property
    def other(self) -> Cells:
        return grid(self.redrawn)

    @cached_property
    def there(self) -> NDArray[np.bool_]:
        """Which cells (56, 56) have picture behind them."""
        return np.asarray(cover(self.inside) > INSIDE_LEAST)

    @cached_property
    def cells(self) -> NDArray[np.bool_]:
        """The cells (t, 56, 56) of each part."""
        return np.asarray((self.masks > CELL_LEAST) & self.there[None])

    @cached_property
    def figure(self) -> NDArray[np.bool_]:
        """The cells (56, 56) of the figure."""
        return np.asarray((cover(self.reference.figure) > CELL_LEAST) & self.there)

    @cached_property
    def own_light(self) -> Floats:
        """Stops per channel (3,) of its light as it alone tells it: the median over parts' cells, each part weighing by the root of its size,
        so that a large part that changed does not become the light."""
        return _light(self.own, self.other, self.cells if self.cells.any() else self.figure[None])

    def unexplained(self, stops: Floats) -> float:
        """What a light leaves unexplained of the figure: the mean OKLab step of its cells, large ones cut off."""
        whole, _ = steps(self.own, self.other, stops, REACH)
        return float(np.minimum(whole[self.figure], STEP_MOST).mean()) if self.figure.any() else 0.0


def shared_light(overs: Sequence[Over]) -> list[Floats]:
    """The light on each figure of a picture, stops per channel (3,): of those that the figures tell, and none at all, that which explains the
    figure and the others best; a large part that took another colour is not explained by a light that the others do not stand in."""
    lights = [np.zeros(3), *(over.own_light for over in overs)]
    left = np.array([[over.unexplained(light) for light in lights] for over in overs]).reshape(len(overs), len(lights))
    tint = np.array([float(((light - light.mean()) ** 2).sum()) for light in lights])
    out = []
    for i, own in enumerate(left):
        others = np.delete(left, i, axis=0)
        beside = SHARED * others.mean(axis=0) if len(others) else 0.0
        out.append(lights[int(np.argmin(own + beside + TINT_COST * tint))])
    return out


def grid(pixels: Pixels) -> Cells:
    """Mean linear light of 56 x 56 cells of a square, (56, 56, 3)."""
    step = SIDE // GRID
    return np.asarray(linear_from_srgb8(pixels).reshape(GRID, step, GRID, step, 3).mean(axis=(1, 3)))


def cover(mask: NDArray[np.bool_] | Mask) -> Mask:
    """How much of each cell a mask (224, 224) fills, (56, 56)."""
    step = SIDE // GRID
    return np.asarray(mask.reshape(GRID, step, GRID, step).mean(axis=(1, 3)), dtype=np.float32)


def part_steps(over: Over, stops: Floats) -> list[PartStep | None]:
    """Every part's step in a light of `stops` per channel (3,). None for a part that is out of the picture or too small."""
    if not over.cells.any():
        return [None] * len(over.masks)
    plain = np.clip(over.other / 2.0**stops, 0, 1.2)
    whole, hue = steps(over.own, over.other, stops, REACH)
    any_part = over.cells.any(axis=0)
    out: list[PartStep | None] = []
    for mask in over.cells:
        count = int(mask.sum())
        if count < CELLS_LEAST:
            out.append(None)
            continue
        step = float(np.quantile(whole[mask], SOLID))
        rest = any_part & ~mask
        others = float(np.median(whole[rest])) if rest.sum() >= CELLS_LEAST else 0.0
        colour = np.median(plain[mask], axis=0)
        out.append(
            PartStep(
                step=step,
                hue=float(np.quantile(hue[mask], SOLID)),
                beyond=step - others,
                seen=(float(colour[0]), float(colour[1]), float(colour[2])),
                cells=count,
            )
        )
    return out


def worn_over(over: Over, stops: Floats, familiar: Floats) -> tuple[Worn, ...]:
    """The colours that the figure wears where it lies over its reference; `familiar` (n, 3) are those of all its references, linear light.
    Nothing where too little of it can be seen."""
    if over.figure.sum() < FIGURE_CELLS_LEAST:
        return ()
    half = np.ascontiguousarray(over.redrawn[1::2, 1::2])
    plain = np.clip(linear_from_srgb8(half) / 2.0**stops, 0, 1.2)
    return worn(plain, _doubled(over.figure), [_doubled(part) for part in over.cells], familiar)


def _doubled(cells: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return np.asarray(cells.repeat(2, axis=0).repeat(2, axis=1))


def _light(own: Cells, other: Cells, kept: NDArray[np.bool_]) -> Floats:
    """Stops per channel (3,) of the common light: a weighted median over the cells of all parts."""
    ratios, weights = [], []
    stops = np.log2((other + DARK) / (own + DARK))
    for mask in kept:
        if mask.any():
            ratios.append(stops[mask])
            weights.append(np.full(int(mask.sum()), 1 / np.sqrt(mask.sum())))
    values, weight = np.concatenate(ratios), np.concatenate(weights)
    return bounded(np.array([_weighted_median(values[:, c], weight) for c in range(3)]))


def _weighted_median(values: Floats, weights: Floats) -> float:
    return float(np.quantile(values, 0.5, weights=weights, method="inverted_cdf"))
