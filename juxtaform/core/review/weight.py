"""How much of a finding a reader would see."""

from __future__ import annotations

from math import sqrt

from juxtaform.core.findings import Finding, asks

KINDS: dict[str, float] = {
    "figure_swapped": 3.0,
    "figure_stranger": 3.0,
    "twice": 2.6,
    "unplanned": 2.2,
    "costume": 2.2,
    "another_place": 2.2,
    "lettering": 2.0,
    "border": 1.8,
    "letterbox": 1.6,
    "aspect": 1.6,
    "style_break": 1.8,
    "style_step": 1.8,
    "style_slide": 1.6,
    "style_apart": 1.4,
    "unmarked_doubtful": 2.0,
    "figure_missing": 1.6,
    "clip_slips": 1.8,
    "clip_unlike_still": 1.4,
    "clip_flickers": 1.2,
    "line_crossed": 1.3,
    "place_variant": 1.3,
    "prop_missing": 1.2,
    "trait_missing": 1.2,
    "trait_twice": 1.2,
    "extra": 1.6,
    "extra_doubtful": 1.6,
    "proportion": 1.4,
    "proportion_doubtful": 1.4,
    "height": 1.4,
    "height_doubtful": 1.4,
    "tint_doubtful": 1.6,
    "leak": 1.2,
    "soft": 1.1,
    "named_absent": 1.0,
    "compressed": 0.7,
    "banding": 0.7,
    "too_small": 0.6,
}
"""What a reader notices first: who it is, then what should not be there, then how it is drawn, then how it was stored. Others weigh 1."""
MOST_SEVERE = 4.0
"""More than four times past tolerance is plainly wrong; farther says no more."""
LEAST_SEEN = 0.25
"""Even the smallest place is seen by those who know the book."""
LASTS = 0.5
"""What lasts weighs so much more for each doubling of its shots."""
ASKED = 0.35
"""A question weighs so much of what is told."""
WITH_REASON = 0.55
"""... and so does what the plan itself has a reason for."""


def weight(f: Finding, picture: tuple[float, float] | None, shots: int = 1) -> float:
    """How much a reader would see of a finding, above 0: its kind, how far past tolerance it is, the root of the part of the picture (width and height in
    px) that it lies in, and through how many shots it lasts.

    >>> from juxtaform.core.picture.regions import Box
    >>> told = lambda side: Finding(source="check", kind="soft", title="", advice="", severity=2.0, region=Box(0, 0, side, side))
    >>> weight(told(300), (600, 600)) > weight(told(60), (600, 600))
    True
    """
    part = 1.0
    if f.region is not None and picture is not None and picture[0] > 0 and picture[1] > 0:
        part = min(1.0, f.region.w * f.region.h / (picture[0] * picture[1]))
    seen = LEAST_SEEN + (1 - LEAST_SEEN) * sqrt(part)
    lasting = 1 + LASTS * max(0, shots - 1).bit_length()
    meant = (ASKED if asks(f) else 1.0) * (WITH_REASON if f.reason else 1.0)
    return KINDS.get(f.kind, 1.0) * min(MOST_SEVERE, max(0.2, f.severity)) * seen * lasting * meant
