"""Sequences of drawn art by other hands whose last pictures lose colour or contrast, or gain some, one after another."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import cv2
import numpy as np

from bench.art.checked import findings_of, shots_of, side_by_side, sources_of, told_of
from bench.art.staging import Rgb
from juxtaform.core.findings import asks

LASTING = {"style_slide", "style_step"}
PICTURES = 4
"""So many of the last pictures change, each more than the one before."""


def _coloured(pixels: Rgb, amount: float) -> Rgb:
    """A picture with so many times its colour, about its grey."""
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY).astype(np.float32)[..., None]
    return np.rint((grey + amount * (pixels - grey)).clip(0, 255)).astype(np.uint8)


def _contrasted(pixels: Rgb, amount: float) -> Rgb:
    """A picture with so many times its contrast, about its mean colour."""
    mean = pixels.mean(axis=(0, 1), dtype=np.float32)
    return np.rint((mean + amount * (pixels - mean)).clip(0, 255)).astype(np.uint8)


WAYS = {
    "clean": (_coloured, 1.0),
    "half grey at last": (_coloured, 0.5),
    "nearly grey at last": (_coloured, 0.2),
    "colours of twice the strength at last": (_coloured, 2.0),
    "seven tenths of the contrast at last": (_contrasted, 0.7),
    "less than half of the contrast at last": (_contrasted, 0.45),
    "1.4 times the contrast at last": (_contrasted, 1.4),
    "twice the contrast at last": (_contrasted, 2.0),
}
"""How the last pictures change, and what part of their colour or contrast the last one has."""


def rows_that_slide(last: bool, each: int = 2) -> None:
    """Both characters of a sequence are marked; its last pictures slide. What else is told of it is told wrongly."""
    first = 7000 if last else 5000
    jobs = [(s, first + k, way, last) for way in WAYS for s in sources_of(last) for k in range(each)]
    told = list(zip(jobs, side_by_side(_slid, jobs), strict=True))
    for way in WAYS:
        own = [out for (_, _, name, _), out in told if name == way]
        starts = [begins for begins, _ in own if begins is not None]
        others = Counter(kind for _, kinds in own for kind in kinds)
        off = f", begins {np.mean(np.abs(starts)):.1f} pictures off" if starts else ""
        print(
            f"  {way}: a lasting change told in {len(starts)} of {len(own)}{off}; told besides: {dict(others) or 'nothing'}"
        )


def _slid(job: tuple[str, int, str, bool]) -> tuple[int | None, list[str]]:
    """How many pictures off the told change begins, and what else is told."""
    source, seed, way, last = job
    told = told_of(source, seed, (), last)
    begins = len(told.frames) - PICTURES
    changed, least = WAYS[way]
    for i, amount in enumerate(np.linspace(1.0, least, PICTURES + 1)[1:], begins):
        told.frames[i] = replace(told.frames[i], pixels=changed(told.frames[i].pixels, float(amount)))
    findings = findings_of(shots_of(told))
    lasting = [f for f in findings if f.kind in LASTING]
    rest = [f.kind for f in findings if f.kind not in LASTING and not asks(f)]
    return (int((lasting[0].shot or "s0")[1:]) - begins if lasting else None), rest
