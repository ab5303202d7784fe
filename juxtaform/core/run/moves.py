"""Where the camera looks: the frame on a picture at every part of a shot, for a move from one frame to another."""

from __future__ import annotations

from collections.abc import Mapping

Frame = tuple[float, float, float, float]
"""A frame on a picture as shares of its width and height: left, top, width, height."""

WHOLE: Frame = (0.0, 0.0, 1.0, 1.0)
USUAL: Mapping[str, tuple[Frame, Frame]] = {
    "pan": ((0.0, 0.1, 0.7, 0.8), (0.3, 0.1, 0.7, 0.8)),
    "tilt": ((0.1, 0.3, 0.8, 0.7), (0.1, 0.0, 0.8, 0.7)),
    "push in": (WHOLE, (0.2, 0.2, 0.6, 0.6)),
    "pull out": ((0.2, 0.2, 0.6, 0.6), WHOLE),
    "arc": ((0.0, 0.1, 0.8, 0.8), (0.2, 0.1, 0.8, 0.8)),
    "track": ((0.0, 0.1, 0.7, 0.8), (0.3, 0.1, 0.7, 0.8)),
    "crane": ((0.1, 0.3, 0.8, 0.7), (0.1, 0.0, 0.8, 0.7)),
}
"""The two frames of a move for which nobody drew any."""


def frames_of(move: str, start: Frame | None = None, end: Frame | None = None) -> tuple[Frame, Frame]:
    """The first and the last frame of a move: those that were drawn, else the usual ones; the whole picture for a static shot.

    >>> frames_of("static", (0, 0, 0.5, 0.5))
    ((0.0, 0.0, 1.0, 1.0), (0.0, 0.0, 1.0, 1.0))
    """
    if move == "static":
        return WHOLE, WHOLE
    first, last = USUAL.get(move, (WHOLE, WHOLE))
    return start or first, end or last


def eased(part: float) -> float:
    """A move's way at a part of its time, both 0..1: it begins and ends softly (3 t^2 - 2 t^3).

    >>> eased(0.25), eased(0.5)
    (0.15625, 0.5)
    """
    t = min(1.0, max(0.0, part))
    return t * t * (3 - 2 * t)


def frame_at(start: Frame, end: Frame, part: float) -> Frame:
    """The frame at a part of the shot (0..1): place goes straight, size by equal ratios, so that a push in looks even.

    >>> frame_at((0, 0, 1, 1), (0.25, 0.25, 0.5, 0.5), 0.0)
    (0.0, 0.0, 1.0, 1.0)
    >>> tuple(round(v, 3) for v in frame_at((0, 0, 1, 1), (0.25, 0.25, 0.5, 0.5), 0.5))
    (0.146, 0.146, 0.707, 0.707)
    """
    t = eased(part)
    w, h = (a ** (1 - t) * b**t for a, b in zip(start[2:], end[2:], strict=True))
    # The point of the picture that stays where it is while the size changes: place follows size along it.
    x, y = (
        _along(a, b, s0, s1, s, t)
        for a, b, s0, s1, s in zip(start[:2], end[:2], start[2:], end[2:], (w, h), strict=True)
    )
    return x, y, w, h


def _along(first: float, last: float, size_first: float, size_last: float, size: float, t: float) -> float:
    if abs(size_last - size_first) < 1e-6:
        return first + (last - first) * t
    return first + (last - first) * (size - size_first) / (size_last - size_first)


def laid_in(picture: float, stage: float, frame: Frame) -> tuple[Frame, Frame]:
    """How a frame of a picture lies on a stage: the part of the picture that is seen, and the part of the stage that it fills, both as shares. `picture` and
    `stage` are widths over heights. The frame is shown whole; what of the stage it leaves free stays dark.

    >>> laid_in(1.5, 1.5, (0, 0, 1, 1))
    ((0, 0, 1, 1), (0.0, 0.0, 1.0, 1.0))
    >>> laid_in(1.0, 2.0, (0, 0, 1, 1))[1]
    (0.25, 0.0, 0.5, 1.0)
    """
    form = picture * frame[2] / frame[3]
    if form <= stage:
        wide = form / stage
        return frame, ((1 - wide) / 2, 0.0, wide, 1.0)
    high = stage / form
    return frame, (0.0, (1 - high) / 2, 1.0, high)
