"""The trade names of a shot's size, angle and move, where somebody looks on the screen, and what of a page a picture takes."""

from __future__ import annotations

from typing import Literal, get_args

Size = Literal["EWS", "WS", "MWS", "MS", "MCU", "CU", "ECU"]
Angle = Literal["eye level", "high", "low", "bird's eye", "worm's eye", "over the shoulder", "point of view", "tilted"]
Move = Literal["static", "pan", "tilt", "push in", "pull out", "arc", "track", "crane"]
Facing = Literal["", "left", "right", "camera", "away"]
PageForm = Literal["half", "single", "spread"]
Join = Literal["cut", "dissolve", "fade"]
"""How a shot comes after the one before it."""
SoundKind = Literal["voice", "music", "effect"]

SIZES: tuple[str, ...] = get_args(Size)
"""From the widest to the closest."""
WIDE = SIZES[:3]
ANGLES: tuple[str, ...] = get_args(Angle)
MOVES: tuple[str, ...] = get_args(Move)
PAGE_FORMS: tuple[str, ...] = get_args(PageForm)
JOINS: tuple[str, ...] = get_args(Join)

SIZE_WORDS: dict[str, str] = {
    "EWS": "extreme wide shot",
    "WS": "wide shot",
    "MWS": "medium wide shot",
    "MS": "medium shot",
    "MCU": "medium close-up",
    "CU": "close-up",
    "ECU": "extreme close-up",
}
ANGLE_WORDS: dict[str, str] = {
    "high": "high angle",
    "low": "low angle",
    "bird's eye": "bird's-eye view",
    "worm's eye": "worm's-eye view",
}
"""Angles whose name alone does not read as part of a sentence."""


def framing_words(size: str, angle: str) -> str:
    """A size and an angle as words.

    >>> framing_words("MCU", "low"), framing_words("WS", "over the shoulder")
    ('medium close-up, low angle', 'wide shot, over the shoulder')
    """
    return f"{SIZE_WORDS.get(size, size)}, {ANGLE_WORDS.get(angle, angle)}"


FIGURE_HEIGHTS: dict[str, float] = {
    "EWS": 0.22,
    "WS": 0.5,
    "MWS": 0.85,
    "MS": 1.05,
    "MCU": 1.35,
    "CU": 1.7,
    "ECU": 2.0,
}
"""The part of the picture's height that a standing grown figure would take, by size; above 1 it is cut by the edge."""
