"""Sequences of drawn art by other hands whose last pictures lose colour or contrast, gain some, or take on a tint, one after another."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import cv2
import numpy as np

from bench.art.checked import findings_of, shots_of, side_by_side, sources_of, told_of
from bench.art.staging import Rgb
from juxtaform.core.colour.spaces import linear_from_srgb8, srgb_from_linear
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


def _tinted(pixels: Rgb, stops: float) -> Rgb:
    """A picture with so much more red than blue (stops), and a little less green: it turns yellow, or blue where there is less."""
    gains = np.exp2(stops * np.array([0.0, -0.15, -1.0]) if stops > 0 else stops * np.array([1.0, 0.3, 0.0]))
    return np.rint(255 * srgb_from_linear(np.clip(linear_from_srgb8(pixels) * gains, 0, 1))).astype(np.uint8)


def _evening(pixels: Rgb, stops: float) -> Rgb:
    """A picture in a light that is redder by so much, and as much darker."""
    gains = np.exp2(-stops * np.array([0.5, 1.0, 1.5]))
    return np.rint(255 * srgb_from_linear(np.clip(linear_from_srgb8(pixels) * gains, 0, 1))).astype(np.uint8)


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
TINTS = {
    "clean, all in one light": (_tinted, 0.0),
    "yellow by 0.35 stops at last": (_tinted, 0.35),
    "yellow by 0.6 stops at last": (_tinted, 0.6),
    "yellow by a stop at last": (_tinted, 1.0),
    "blue by 0.6 stops at last": (_tinted, -0.6),
    "an evening": (_evening, 1.0),
}
"""Tints of pictures that are all in one light, in stops of red over blue; an evening is the story's own light, and nothing is to be told of it."""


def rows_that_slide(last: bool, each: int = 2) -> None:
    """Both characters of a sequence are marked; its last pictures slide. What else is told of it is told wrongly."""
    first = 7000 if last else 5000
    jobs = [(s, first + k, way, last) for way in (*WAYS, *TINTS) for s in sources_of(last) for k in range(each)]
    told = list(zip(jobs, side_by_side(_slid, jobs), strict=True))
    for way in (*WAYS, *TINTS):
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
    told = told_of(source, seed, (), last, "day" if way in TINTS else "")
    begins = len(told.frames) - PICTURES
    changed, at_last = (WAYS | TINTS)[way]
    for i, amount in enumerate(np.linspace(way not in TINTS, at_last, PICTURES + 1)[1:], begins):
        told.frames[i] = replace(told.frames[i], pixels=changed(told.frames[i].pixels, float(amount)))
    findings = findings_of(shots_of(told))
    lasting = [f for f in findings if f.kind in LASTING]
    rest = [f.kind for f in findings if f.kind not in LASTING and not asks(f)]
    return (int((lasting[0].shot or "s0")[1:]) - begins if lasting else None), rest
