"""What about a figure changed: the colours of its parts, read where the frame's figure lies over the reference."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.figure.colours import DARK, bounded, steps
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
STRANGE = 0.07
"""OKLab distance from which a cell wears another colour: about a shade."""
SOLID = 0.35
"""The quantile of a part's steps that is told: the part has changed when even its better third has."""

Cells = NDArray[np.float64]


@dataclass(frozen=True)
class PartStep:
    """One part of a figure against the reference: `step` and `hue` are OKLab distances in the common light (hue and chroma alone for
    the second), `beyond` how much further `step` is than that of the rest of the figure, `seen` its middle colour in the frame, linear
    light without the scene's light; `cells` how many cells could be read. `strange` is the part 0..1 of them that wears a colour of neither
    the figure nor the ground, `patch` the largest of these that hang together as a part of the whole figure, 0..1; `seen` is their colour where
    there are any."""

    step: float
    hue: float
    beyond: float
    seen: tuple[float, float, float]
    cells: int
    strange: float
    patch: float


def grid(pixels: Pixels) -> Cells:
    """Mean linear light of 56 x 56 cells of a square, (56, 56, 3)."""
    step = SIDE // GRID
    return np.asarray(linear_from_srgb8(pixels).reshape(GRID, step, GRID, step, 3).mean(axis=(1, 3)))


def cover(mask: NDArray[np.bool_]) -> Mask:
    """How much of each cell a mask (224, 224) fills, (56, 56)."""
    step = SIDE // GRID
    return np.asarray(mask.reshape(GRID, step, GRID, step).mean(axis=(1, 3)), dtype=np.float32)


def part_steps(
    reference: Sheet, masks: Mask, redrawn: Pixels, inside: Mask, familiar: Floats, ground: Floats
) -> list[PartStep | None]:
    """Every part's step; `masks` (t, 56, 56) tell where on the reference's square each part is; `familiar` (n, 3) are the figure's own
    colours, `ground` (m, 3) those around it in the frame, linear light. None for a part that is out of the picture or too small.

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
    whole, hue = steps(own, other, stops, REACH)
    any_part = held.any(axis=0)
    strange = any_part & (whole > STRANGE) & _unlike(plain, familiar) & _unlike(plain, ground / 2.0**stops)
    out: list[PartStep | None] = []
    for mask in held:
        count = int(mask.sum())
        if count < CELLS_LEAST:
            out.append(None)
            continue
        step = float(np.quantile(whole[mask], SOLID))
        rest = any_part & ~mask
        others = float(np.median(whole[rest])) if rest.sum() >= CELLS_LEAST else 0.0
        patch = _largest(strange & mask)
        where = patch if patch.sum() >= CELLS_LEAST else mask
        colour = np.median(plain[where], axis=0)
        out.append(
            PartStep(
                step=step,
                hue=float(np.quantile(hue[mask], SOLID)),
                beyond=step - others,
                seen=(float(colour[0]), float(colour[1]), float(colour[2])),
                cells=count,
                strange=float((strange & mask).sum() / count),
                patch=float(patch.sum() / max(1, any_part.sum())),
            )
        )
    return out


def _unlike(cells: Cells, colours: Floats) -> NDArray[np.bool_]:
    """Which cells wear none of some linear-light colours (n, 3)."""
    if not len(colours):
        return np.ones(cells.shape[:2], dtype=bool)
    lab, tones = oklab_from_linear(cells), oklab_from_linear(np.clip(colours, 0, 1.2))
    return np.asarray(((lab[..., None, :] - tones) ** 2).sum(axis=-1).min(axis=-1) > STRANGE**2)


def _largest(where: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """The largest group of cells that hang together."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats(where.astype(np.uint8), connectivity=4)
    if count < 2:
        return np.zeros_like(where)
    return np.asarray(labels == 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA])))


def _light(own: Cells, other: Cells, held: NDArray[np.bool_]) -> Floats:
    """Stops per channel (3,) of the common light: a weighted median over the cells of all parts."""
    ratios, weights = [], []
    stops = np.log2((other + DARK) / (own + DARK))
    for mask in held:
        if mask.any():
            ratios.append(stops[mask])
            weights.append(np.full(int(mask.sum()), 1 / np.sqrt(mask.sum())))
    values, weight = np.concatenate(ratios), np.concatenate(weights)
    return bounded(np.array([_weighted_median(values[:, c], weight) for c in range(3)]))


def _weighted_median(values: Floats, weights: Floats) -> float:
    return float(np.quantile(values, 0.5, weights=weights, method="inverted_cdf"))
