"""Whether a final is its draft in full, or came out another picture: who stands where, how they hold, the framing and the style."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from juxtaform.core.check.takes import Score, TakeReading
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.picture.regions import Box, overlap

SAME_PLACE = 0.5
"""A figure stands where it stood when its boxes overlap so much, both as parts of their pictures."""
OTHER_FRAMING = 0.3
"""log2 of how much larger or smaller figures became: half a shot size."""
WORSE = 0.35
"""A score that rose by so much, past its tolerance, holds less than it did."""
ALIKE_LEAST = 0.6
"""Two small grey pictures of one composition correlate at least so much."""


@dataclass(frozen=True)
class Looked:
    """A take as it is compared: its reading, where its figures stand as parts of the picture, and a small grey picture of it (h, w)."""

    reading: TakeReading
    boxes: Mapping[str, Box]
    small: Floats


def differences(draft: Looked, final: Looked, names: Mapping[str, str]) -> list[str]:
    """What makes a final another picture than its draft, in words; none where it is the same."""
    out = []
    correlation = correlated(draft.small, final.small)
    if correlation < ALIKE_LEAST:
        out.append("another composition")
    sizes = []
    for thread, was in draft.boxes.items():
        name, now = names.get(thread, "somebody"), final.boxes.get(thread)
        if now is None:
            out.append(f"{name} is not found any more")
            continue
        sizes.append(math.log2(now.h / was.h))
        if overlap(was, now) < SAME_PLACE:
            out.append(f"{name} stands elsewhere")
    out += [f"{names.get(t, 'somebody')} is there now" for t in final.boxes if t not in draft.boxes]
    if sizes and abs(float(np.median(sizes))) > OTHER_FRAMING:
        out.append("closer than the draft" if np.median(sizes) > 0 else "farther than the draft")
    before = {s.of: s for s in draft.reading.figures}
    out += [
        f"{names.get(s.of, 'somebody')} holds less than in the draft"
        for s in final.reading.figures
        if _worse(before.get(s.of), s)
    ]
    if _worse(draft.reading.style, final.reading.style):
        out.append("less in the style than the draft")
    return out


def correlated(a: Floats, b: Floats) -> float:
    """The correlation -1..1 of two small grey pictures of one size; 1 where both are flat."""
    x, y = a - a.mean(), b - b.mean()
    spread = float(np.sqrt((x**2).sum() * (y**2).sum()))
    return float((x * y).sum() / spread) if spread > 1e-9 else 1.0


def _worse(was: Score | None, now: Score | None) -> bool:
    if was is None or now is None or was.value is None or now.value is None:
        return False
    return now.value > 1 and now.value - was.value > WORSE
