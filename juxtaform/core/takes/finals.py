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
SAME_THERE = 0.95
"""Where two small grey pictures correlate so much nobody moved, came or left, whatever was found there."""
GRAIN = 0.05
"""Or where they differ by so little of the spread of the whole picture: an empty sky correlates with nothing."""
_FLAT = 1e-9
LEAST_CELLS = 4
"""So many rows and columns of a small picture are compared at least."""


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
        if all(_same_there(draft.small, final.small, box) for box in (was, now) if box is not None):
            continue
        if now is None:
            out.append(f"{name} is not found any more")
            continue
        sizes.append(math.log2(now.h / was.h))
        if overlap(was, now) < SAME_PLACE:
            out.append(f"{name} stands elsewhere")
    came = [t for t, box in final.boxes.items() if t not in draft.boxes]
    out += [
        f"{names.get(t, 'somebody')} is there now"
        for t in came
        if not _same_there(draft.small, final.small, final.boxes[t])
    ]
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
    """The correlation -1..1 of two small grey pictures of one size; 1 where both are flat, 0 where one is."""
    x, y = a - a.mean(), b - b.mean()
    of_a, of_b = float((x**2).sum()), float((y**2).sum())
    if min(of_a, of_b) <= _FLAT:
        return float(max(of_a, of_b) <= _FLAT)
    return float((x * y).sum() / np.sqrt(of_a * of_b))


def _same_there(a: Floats, b: Floats, box: Box) -> bool:
    """Whether two small pictures of one shape show the same in a box (parts of the picture, 0..1)."""
    if a.shape != b.shape:
        return False
    h, w = a.shape
    rows, columns = max(LEAST_CELLS, round(box.h * h)), max(LEAST_CELLS, round(box.w * w))
    y = min(max(0, round((box.y + box.h / 2) * h - rows / 2)), max(0, h - rows))
    x = min(max(0, round((box.x + box.w / 2) * w - columns / 2)), max(0, w - columns))
    there = np.s_[y : y + rows, x : x + columns]
    grain = float(np.abs(a[there] - b[there]).mean()) <= GRAIN * float(a.std())
    return grain or correlated(a[there], b[there]) >= SAME_THERE


def _worse(was: Score | None, now: Score | None) -> bool:
    if was is None or now is None or was.value is None or now.value is None:
        return False
    return now.value > 1 and now.value - was.value > WORSE
