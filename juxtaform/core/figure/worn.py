"""What colours a figure wears in a picture, and which of them it wears nowhere else along its thread."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import Floats, distances, oklab_from_linear

COLOURS, MERGE = 16, 3.0
"""A figure's colours are told by at most so many, those within this CIEDE2000 of each other as one."""
PRESENT = 0.01
"""A picture shows a colour that has at least this share of its figure."""
EVERY = 3
"""The colours are found on every third pixel."""
STRANGE = 0.05
"""OKLab distance from which a colour is another one: about a shade."""
UNLIKE_MOST, FAR = 0.3, 0.2
"""Beyond these OKLab distances a colour is just another colour: where one counts alone, and where several are averaged or ranked."""
CHROMATIC_TOE = 0.02
"""Linear light added to each channel before their ratios are taken: near black they are noise."""
UPPER, RIM = 0.75, 0.95
"""The quantiles of strangeness that are told of a trait, and of a figure."""

Where = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Worn:
    """A colour that a figure wears where its reference lies under it: linear light without the scene's light, its share of the figure,
    its OKLab distance `apart` from the nearest colour of the references, and the share of the figure that it has on each trait; shares
    are 0..1."""

    linear: tuple[float, float, float]
    share: float
    apart: float
    parts: tuple[float, ...]


@dataclass(frozen=True)
class Strangeness:
    """How strange the colours of a trait are: the `part` of it 0..1 whose colours are strange, their mean and upper distance (OKLab), that
    part as the side of a square in the figure (0..1), of all the figure's colours the largest and strangest, and the upper distance, and
    how much more of the trait is strange than of the rest of the figure (-1..1): another hand makes all of it strange.
    """

    part: float = 0.1
    mean: float = 0.02
    upper: float = 0.02
    patch: float = 0.03
    largest: float = 0.02
    rim: float = 0.05
    beyond: float = 0.0

    @property
    def values(self) -> tuple[float, ...]:
        """The numbers (7,) that a trait is judged by; those of nothing are the middle ones of right figures."""
        return (self.part, self.mean, self.upper, self.patch, self.largest, self.rim, self.beyond)


def main_colours(pixels: Floats) -> Floats:
    """The main colours (n, 3) of a figure's pixels (m, 3), linear light."""
    return np.array([s.linear for s in palette(pixels[::EVERY], COLOURS, merge=MERGE)]).reshape(-1, 3)


def worn(plain: Floats, figure: Where, parts: Sequence[Where], familiar: Floats) -> tuple[Worn, ...]:
    """The colours of a figure from its pixels (h, w, 3), linear light without the scene's; `figure` (h, w) tells where it is, `parts`
    where each trait is; `familiar` (n, 3) are the colours of its references."""
    pixels = plain[figure]
    colours = main_colours(pixels)
    lab = oklab_from_linear(colours)
    nearest = distances(oklab_from_linear(pixels), lab).argmin(axis=1)
    counts = np.bincount(nearest, minlength=len(colours))
    on = np.array([np.bincount(nearest[p[figure]], minlength=len(colours)) for p in parts]).reshape(len(parts), -1)
    apart = distances(lab, oklab_from_linear(np.clip(familiar, 0, 1.2))).min(axis=1)
    return tuple(
        Worn(
            linear=(round(float(c[0]), 4), round(float(c[1]), 4), round(float(c[2]), 4)),
            share=round(float(counts[i] / len(pixels)), 4),
            apart=round(float(apart[i]), 4),
            parts=tuple(round(float(n / len(pixels)), 4) for n in on[:, i]),
        )
        for i, c in enumerate(colours)
    )


def shown(own: Sequence[Worn]) -> Floats:
    """The OKLab colours (n, 3) that a picture shows of a figure."""
    return _lab([w for w in own if w.share > PRESENT])


def strange(own: Sequence[Worn], others: Sequence[Floats]) -> tuple[Floats, Floats]:
    """How strange each colour of a figure is, (n,) each: the OKLab distance to the nearest that its references or its `others` pictures show
    (OKLab colours (m, 3) of each), of all of these and of most."""
    apart = np.array([w.apart for w in own])
    some = [lab for lab in others if len(lab)]
    if not some or not own:
        return apart, apart
    starts = np.cumsum([0, *(len(lab) for lab in some[:-1])])
    beside = np.sort(np.minimum.reduceat(distances(_lab(own), np.concatenate(some)), starts, axis=1), axis=1)
    return np.minimum(apart, beside[:, 0]), np.minimum(apart, beside[:, (len(some) - 1) // 2])


def colourfulness(linear: Floats, shares: Floats) -> float:
    """How colourful colours (n, 3) in linear light are, each with its share: the root mean square of their log2 ratios of red and of blue to green
    about the mean, in stops. A tint or an exposure is a common gain per channel and does not change it; without colour it is 0."""
    if shares.sum() <= 0:
        return 0.0
    ratios = np.log2(linear[:, [0, 2]] + CHROMATIC_TOE) - np.log2(linear[:, 1:2] + CHROMATIC_TOE)
    part = (shares / shares.sum())[:, None]
    return float(np.sqrt((part * (ratios - (part * ratios).sum(axis=0)) ** 2).sum()))


def strangeness(own: Sequence[Worn], unlike: Floats, trait: int) -> Strangeness:
    """What the strange colours of a figure say of one of its traits; `unlike` (n,) is how strange each is."""
    on = np.array([w.parts[trait] for w in own])
    share = np.array([w.share for w in own])
    if not own or on.sum() <= 0:
        return Strangeness()
    part, rest = on / on.sum(), share - on
    mass = float(part[unlike > STRANGE].sum())
    return Strangeness(
        part=mass,
        mean=float((part * np.minimum(unlike, FAR)).sum()),
        upper=_quantile(unlike, part, UPPER),
        patch=float(np.sqrt(on[unlike > STRANGE].sum())),
        largest=float((np.sqrt(share) * np.minimum(unlike, UNLIKE_MOST)).max()),
        rim=_quantile(unlike, share, RIM),
        beyond=mass - float(rest[unlike > STRANGE].sum() / max(rest.sum(), 1e-6)),
    )


def _lab(colours: Sequence[Worn]) -> Floats:
    return oklab_from_linear(np.array([w.linear for w in colours]).reshape(-1, 3))


def _quantile(values: Floats, weights: Floats, at: float) -> float:
    return float(min(FAR, np.quantile(values, at, weights=weights, method="inverted_cdf")))
