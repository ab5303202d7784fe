"""The sequence laid out in time: which picture is seen at a moment, how a shot is joined to the one before it, and lengths trimmed by ripple or roll."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.plan.shots import Join

SHORTEST_S = 0.2
"""No trim makes a shot shorter: five frames of film are the least that is seen as a picture."""
JOIN_S = 0.6
"""How long a dissolve or a fade takes when nobody says."""


@dataclass(frozen=True)
class TimedShot:
    """A shot in time: its length, and how it comes: by a cut, by a dissolve over its first `join_s` seconds, or by a fade, out of the shot before and into this
    one, each over half of `join_s`."""

    id: str
    scene: str
    length_s: float
    join: Join = "cut"
    join_s: float = JOIN_S


@dataclass(frozen=True)
class Span:
    """From when to when, in s of the whole sequence, a shot is seen."""

    shot: TimedShot
    start_s: float

    @property
    def end_s(self) -> float:
        return self.start_s + self.shot.length_s


@dataclass(frozen=True)
class Seen:
    """A shot in a frame: where in it the frame lies (0 its first moment, 1 its end), and how much of it is seen, over what lies under it, 0..1."""

    shot: str
    part: float
    strength: float


class Timeline:
    """Shots one after another. A shot without length is not seen."""

    def __init__(self, shots: Sequence[TimedShot]) -> None:
        spans: list[Span] = []
        at = 0.0
        for shot in shots:
            spans.append(Span(shot, at))
            at += max(0.0, shot.length_s)
        self.spans = tuple(spans)
        self.length_s = at
        self._seen = [s for s in spans if s.shot.length_s > 0]
        self._starts = [s.start_s for s in self._seen]

    def frames(self, fps: float) -> int:
        """How many frames the whole takes.

        >>> Timeline([TimedShot("a", "1", 2.0), TimedShot("b", "1", 0.52)]).frames(25)
        63
        """
        return round(self.length_s * fps)

    def at(self, time_s: float) -> tuple[Seen, ...]:
        """What is seen at a moment, what lies undermost first; nothing in an empty sequence.

        >>> line = Timeline([TimedShot("a", "1", 2.0), TimedShot("b", "1", 2.0, "dissolve", 1.0)])
        >>> line.at(2.5)
        (Seen(shot='a', part=1.0, strength=1.0), Seen(shot='b', part=0.25, strength=0.5))
        """
        if not self._seen:
            return ()
        i = max(0, bisect_right(self._starts, time_s) - 1)
        span = self._seen[i]
        into = min(max(0.0, time_s - span.start_s), span.shot.length_s)
        part = into / span.shot.length_s
        join_s = min(span.shot.join_s, span.shot.length_s)
        if span.shot.join == "dissolve" and i and into < join_s:
            before = self._seen[i - 1]
            return Seen(before.shot.id, 1.0, 1.0), Seen(span.shot.id, part, into / join_s)
        strength = 1.0
        if span.shot.join == "fade" and into < join_s / 2:
            strength = into / (join_s / 2)
        follows = self._seen[i + 1].shot if i + 1 < len(self._seen) else None
        if follows is not None and follows.join == "fade":
            left, half = span.shot.length_s - into, min(follows.join_s, span.shot.length_s) / 2
            strength = min(strength, left / half) if half > 0 else strength
        return (Seen(span.shot.id, part, min(1.0, strength)),)


def rippled(lengths_s: Sequence[float], at: int, by_s: float) -> list[float]:
    """Lengths after one shot was made longer or shorter; all that follows moves. The shot keeps at least `SHORTEST_S`.

    >>> rippled([4.0, 3.0], 0, -1.5)
    [2.5, 3.0]
    """
    out = list(lengths_s)
    out[at] = max(SHORTEST_S, round(out[at] + by_s, 3))
    return out


def rolled(lengths_s: Sequence[float], at: int, by_s: float) -> list[float]:
    """Lengths after the cut behind a shot was moved: what it gains the next one loses, the whole stays as long. Both keep at least `SHORTEST_S`; the last
    shot has no cut behind it and is rippled.

    >>> rolled([4.0, 3.0], 0, 5.0)
    [6.8, 0.2]
    """
    if at + 1 >= len(lengths_s):
        return rippled(lengths_s, at, by_s)
    out = list(lengths_s)
    both = out[at] + out[at + 1]
    if both < 2 * SHORTEST_S:
        return out
    out[at] = round(min(max(SHORTEST_S, out[at] + by_s), both - SHORTEST_S), 3)
    out[at + 1] = round(both - out[at], 3)
    return out
