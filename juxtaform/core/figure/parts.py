"""What about a figure changed: the colours of its parts, read where the frame's figure lies over the reference."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.figure.colours import DARK, EXPOSURE, TINT_MOST
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.sheet import Sheet
from juxtaform.core.figure.trunk import SIDE

GRID = 56
"""Cells of a square's side at which parts are read: 4 px each."""
REACH = 2
"""A cell is compared with the cells this far around: what a transform leaves in poses, folds and outlines."""
CELL_LEAST = 0.5
"""A cell belongs to a part when the part fills this much of it."""
CELLS_LEAST = 5
SOLID = 0.35
"""The quantile of a part's steps that is told: the part has changed when even its better third has."""

Cells = NDArray[np.float64]


@dataclass(frozen=True)
class PartStep:
    """One part of a figure against the reference: `step` and `hue` are OKLab distances in the common light (hue and chroma alone for
    the second), `beyond` how much further `step` is than that of the rest of the figure, `seen` its middle colour in the frame, linear
    light without the scene's light; `cells` how many cells could be read."""

    step: float
    hue: float
    beyond: float
    seen: tuple[float, float, float]
    cells: int


def grid(pixels: Pixels) -> Cells:
    """Mean linear light of 56 x 56 cells of a square, (56, 56, 3)."""
    step = SIDE // GRID
    return np.asarray(linear_from_srgb8(pixels).reshape(GRID, step, GRID, step, 3).mean(axis=(1, 3)))


def cover(mask: NDArray[np.bool_]) -> Mask:
    """How much of each cell a mask (224, 224) fills, (56, 56)."""
    step = SIDE // GRID
    return np.asarray(mask.reshape(GRID, step, GRID, step).mean(axis=(1, 3)), dtype=np.float32)


def part_steps(reference: Sheet, masks: Mask, redrawn: Pixels, inside: Mask) -> list[PartStep | None]:
    """Every part's step; `masks` (t, 56, 56) tell where on the reference's square each part is. None for a part that is out of the picture
    or too small.

    The common light is the median over parts' cells, each part weighing by the root of its size, so that a large part that changed does not
    become the light.
    """
    own, other = grid(reference.pixels), grid(redrawn)
    there = inside.reshape(GRID, SIDE // GRID, GRID, SIDE // GRID).mean(axis=(1, 3)) > 0.6
    held = (masks > CELL_LEAST) & there[None]
    if not held.any():
        return [None] * len(masks)
    stops = _light(own, other, held)
    plain = np.clip(other / 2.0**stops, 0, 1.2)
    whole, hue = _steps(own, plain)
    any_part = held.any(axis=0)
    out: list[PartStep | None] = []
    for mask in held:
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
                step,
                float(np.quantile(hue[mask], SOLID)),
                step - others,
                (float(colour[0]), float(colour[1]), float(colour[2])),
                count,
            )
        )
    return out


def _light(own: Cells, other: Cells, held: NDArray[np.bool_]) -> Floats:
    """Stops per channel (3,) of the common light: a weighted median over the cells of all parts."""
    ratios, weights = [], []
    stops = np.log2((other + DARK) / (own + DARK))
    for mask in held:
        if mask.any():
            ratios.append(stops[mask])
            weights.append(np.full(int(mask.sum()), 1 / np.sqrt(mask.sum())))
    values, weight = np.concatenate(ratios), np.concatenate(weights)
    middle = np.array([_weighted_median(values[:, c], weight) for c in range(3)])
    exposure = float(middle.mean())
    return np.asarray(np.clip(exposure, *EXPOSURE) + np.clip(middle - exposure, -TINT_MOST, TINT_MOST))


def _weighted_median(values: Floats, weights: Floats) -> float:
    return float(np.quantile(values, 0.5, weights=weights, method="inverted_cdf"))


def _steps(own: Cells, plain: Cells) -> tuple[Floats, Floats]:
    """Each cell's OKLab distance to the most alike cell around it, and that in hue and chroma alone."""
    ours, theirs = oklab_from_linear(own), oklab_from_linear(plain)
    padded = np.pad(theirs, ((REACH, REACH), (REACH, REACH), (0, 0)), constant_values=9.0)
    span = range(2 * REACH + 1)
    apart = np.stack([ours - padded[y : y + GRID, x : x + GRID] for y in span for x in span])
    whole = np.linalg.norm(apart, axis=-1)
    return whole.min(axis=0), np.linalg.norm(apart[..., 1:], axis=-1).min(axis=0)
