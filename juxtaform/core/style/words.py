"""Words for a style, from what its pictures measure: each with what it was read off, to be taken one by one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.style.terms import NAMES, Signature
from juxtaform.core.text.listing import listed

LEAST_SHARE = 0.08
"""The share of the pictures that a colour must have to be named."""
MOST_COLOURS = 4


@dataclass(frozen=True)
class StyleWord:
    """A word for a style and what says so, in words with numbers."""

    word: str
    because: str


def proposed_words(
    signatures: Sequence[Signature], weights: Sequence[float] = (), palettes: Sequence[Sequence[tuple[str, float]]] = ()
) -> tuple[StyleWord, ...]:
    """Words for what the pictures of a style have in common, by the middle of each term (weighed); `palettes` are (hex, share) of each picture.

    What lies between two words is not named. The borders are those at which a change is plain to see in constructed pictures of one subject.
    """
    if not signatures:
        return ()
    values = np.array([s.values for s in signatures])
    share = np.array(weights if len(weights) == len(signatures) else np.ones(len(signatures)), dtype=float)
    middle = dict(zip(NAMES, (_weighed_median(values[:, i], share) for i in range(values.shape[1])), strict=True))
    found: list[StyleWord] = []

    def tell(word: str, because: str, holds: bool) -> None:
        if holds:
            found.append(StyleWord(word, because))

    lines = 2 ** middle["line_share"] - 1
    tell("dark outlines", f"drawn lines take {lines:.0f} % of the pictures", lines >= 3.0)
    tell("few outlines", f"drawn lines take {lines:.1f} % of the pictures", 0.8 <= lines < 3.0)
    tell("no outlines", "hardly any drawn line", lines < 0.4)
    tell("thick lines", "lines are wide", lines >= 3.0 and middle["line_width"] >= 0.8)
    tell("thin lines", "lines are narrow", lines >= 3.0 and middle["line_width"] <= 0.35)
    flat, shaded = middle["flatness"], middle["modelling"]
    tell("flat colour", f"{100 * flat:.0f} % of what lies between edges is one tone", flat >= 0.75 and shaded < 2.0)
    tell("modelled with light and shade", "tones change inside the shapes", flat < 0.45 or shaded >= 3.0)
    tell("grainy", "grain lies over the areas", middle["grain_fine"] >= 4.5)
    tell("smooth", "no grain in the areas", middle["grain_fine"] <= 1.2)
    tell("strong contrast", f"{middle['contrast']:.1f} stops from dark to light", middle["contrast"] >= 5.0)
    tell("low contrast", f"{middle['contrast']:.1f} stops from dark to light", middle["contrast"] <= 1.6)
    tell("vivid colours", "the strongest colours are pure", middle["saturation"] >= 0.8)
    tell("muted colours", "the strongest colours are near grey", middle["saturation"] <= -0.5)
    tell("few colours", f"about {2 ** middle['colours']:.0f} tones", middle["colours"] <= 2.2)
    tell("soft edges", "edges are wider than a drawn line", middle["edge_softness"] >= -1.0)
    tell("crisp edges", "edges are narrow", middle["edge_softness"] <= -1.85)
    if colours := _colours(palettes):
        found.append(StyleWord(f"mostly {listed(colours)}", "the largest areas of the pictures"))
    return tuple(found)


def _colours(palettes: Sequence[Sequence[tuple[str, float]]]) -> list[str]:
    """The names of the colours that take most of the pictures."""
    total: dict[str, float] = {}
    for palette in palettes:
        whole = sum(s for _, s in palette) or 1.0
        for code, share in palette:
            name = colour_name(linear_from_hex(code))
            total[name] = total.get(name, 0.0) + share / whole / len(palettes)
    ranked = sorted(total.items(), key=lambda t: (-t[1], t[0]))
    return [name for name, share in ranked[:MOST_COLOURS] if share >= LEAST_SHARE]


def _weighed_median(values: np.ndarray, weights: np.ndarray) -> float:
    order = np.argsort(values)
    total = np.cumsum(weights[order])
    return float(values[order][int(np.searchsorted(total, total[-1] / 2))])
