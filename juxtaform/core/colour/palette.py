"""The main colours of a set of pixels, with their shares."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, delta_e_2000, hex_from_linear, lab_from_linear, oklab_from_linear

MERGE_DELTA_E = 7.0
"""Colours nearer than this in CIEDE2000 read as one paint and are merged."""


@dataclass(frozen=True, slots=True)
class Swatch:
    """One colour of a palette: linear-light RGB and its share of the pixels, 0..1."""

    linear: tuple[float, float, float]
    share: float

    @property
    def hex(self) -> str:
        return hex_from_linear(self.linear)


def palette(
    linear: Floats,
    most: int = 6,
    weights: Floats | None = None,
    merge: float = MERGE_DELTA_E,
    lab: Floats | None = None,
) -> list[Swatch]:
    """Up to `most` main colours of linear-light pixels, shape (n, 3), greatest share first.

    Pixels are counted into OKLab cells of side 0.04; peaks of the counts seed a weighted k-means in OKLab
    (Lloyd's iteration), and centres nearer than `merge` in CIEDE2000 are joined (complete linkage). The result is deterministic.
    `weights`, shape (n,), weighs the pixels; `lab` are their OKLab values if already known. Returns an empty list for no pixels.
    """
    n = len(linear)
    if n == 0:
        return []
    w = np.ones(n) if weights is None else np.maximum(weights, 0.0)  # a blur leaves a little less than nothing
    lab = oklab_from_linear(linear) if lab is None else lab
    cells = np.floor(lab / 0.04).astype(np.int64) + 64
    keys = (cells[:, 0] << 20) | (cells[:, 1] << 10) | cells[:, 2]
    _, inverse = np.unique(keys, return_inverse=True)
    mass: Floats = np.bincount(inverse, weights=w).astype(np.float64)
    total = float(mass.sum())
    if total <= 0:
        return []
    means = np.stack([np.bincount(inverse, weights=w * lab[:, c]) for c in range(3)], axis=1) / np.maximum(
        mass[:, None], 1e-12
    )
    linears = np.stack([np.bincount(inverse, weights=w * linear[:, c]) for c in range(3)], axis=1) / np.maximum(
        mass[:, None], 1e-12
    )
    centres = _seeds(means, mass, most * 2)
    for _ in range(6):
        nearest = _nearest(means, centres)
        sums = np.stack([np.bincount(nearest, mass * means[:, c], len(centres)) for c in range(3)], axis=1)
        masses = np.bincount(nearest, mass, len(centres))
        centres = np.where(masses[:, None] > 0, sums / np.maximum(masses[:, None], 1e-12), centres)
    nearest = _nearest(means, centres)
    masses = np.bincount(nearest, mass, len(centres))
    colours = np.stack([np.bincount(nearest, mass * linears[:, c], len(centres)) for c in range(3)], axis=1)
    keep = masses > 0
    return _merged(colours[keep] / masses[keep, None], masses[keep] / total, most, merge)


def _nearest(points: Floats, centres: Floats) -> NDArray[np.intp]:
    return np.asarray(((centres**2) @ np.ones(3) - 2 * points @ centres.T).argmin(axis=1))


def _seeds(points: Floats, mass: Floats, most: int) -> Floats:
    """Heaviest cell first, then whichever cell has the most mass times squared distance to those taken."""
    taken = [points[int(np.argmax(mass))]]
    distance = ((points - taken[0]) ** 2) @ np.ones(3)
    for _ in range(min(most, len(points)) - 1):
        score = np.sqrt(mass) * distance
        i = int(np.argmax(score))
        if score[i] <= 0:
            break
        taken.append(points[i])
        distance = np.minimum(distance, ((points - points[i]) ** 2) @ np.ones(3))
    return np.array(taken)


def _merged(colours: Floats, shares: Floats, most: int, merge: float) -> list[Swatch]:
    lab = lab_from_linear(colours)
    apart = delta_e_2000(lab[:, None], lab[None])
    np.fill_diagonal(apart, np.inf)
    alive = np.ones(len(colours), dtype=bool)
    while alive.sum() > 1:
        i, j = divmod(int(np.argmin(apart)), len(colours))
        if apart[i, j] >= merge:
            if alive.sum() <= most:
                break
            i = int(np.argmin(np.where(alive, shares, np.inf)))
            j = int(np.argmin(apart[i]))
        both = shares[i] + shares[j]
        colours[j] = (colours[i] * shares[i] + colours[j] * shares[j]) / both
        shares[j] = both
        alive[i] = False
        widest = np.maximum(apart[i], apart[j])
        apart[j], apart[:, j] = widest, widest
        apart[i], apart[:, i] = np.inf, np.inf
    colours, shares = colours[alive], shares[alive]
    order = np.argsort(-shares, kind="stable")
    return [
        Swatch((float(c[0]), float(c[1]), float(c[2])), float(s))
        for c, s in zip(colours[order], shares[order], strict=True)
    ]


def palette_of_palettes(colours: Sequence[tuple[Floats, float]], most: int = 10) -> list[Swatch]:
    """One palette from the weighed colours of several: linear-light colours (3,) with shares, merged by nearness."""
    if not colours:
        return []
    return palette(np.array([c for c, _ in colours]), most, np.array([share for _, share in colours]))
