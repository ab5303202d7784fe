"""Where sounds lie: each begins with a shot and moves with it, lines one after another, music until the end of a shot that is named."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container, Sequence
from dataclasses import dataclass

from juxtaform.core.plan.shots import SoundKind
from juxtaform.core.run.timeline import Timeline
from juxtaform.core.sound.levels import Span

LEAD_S, PAUSE_S, TAIL_S = 0.2, 0.3, 0.4
"""A line begins so long after its shot, so long after the line before it, and its shot lasts so much longer: a cut on the first or last sound of a word
swallows it."""


@dataclass(frozen=True)
class Piece:
    """A sound on the sequence: a part of a recording, `from_s` to `to_s`, that begins `start_s` after its shot does. A voice without `start_s` is said after the
    lines before it in its shot; any other begins with its shot. It ends with the shot `until`, if one is named. `heard` says where in the recording something is heard."""

    id: str
    shot: str
    kind: SoundKind
    from_s: float
    to_s: float
    start_s: float | None = None
    until: str = ""
    gain_db: float = 0.0
    fade_in_s: float = 0.0
    fade_out_s: float = 0.0
    who: str = ""
    line: str = ""
    heard: tuple[Span, ...] = ()
    name: str = ""

    @property
    def length_s(self) -> float:
        return max(0.0, self.to_s - self.from_s)

    @property
    def spans(self) -> list[Span]:
        """Where in the recording something is heard that lies in this part of it."""
        return [(max(a, self.from_s), min(b, self.to_s)) for a, b in self.heard if b > self.from_s and a < self.to_s]

    @property
    def said(self) -> Span:
        """From when to when in its own time something is heard: all of it where nothing is known."""
        spans = self.spans
        return (spans[0][0] - self.from_s, spans[-1][1] - self.from_s) if spans else (0.0, self.length_s)


@dataclass(frozen=True)
class Laid:
    """A piece on the sequence, from when to when it is heard, in s of the whole; `cut_s` is how much of it the end of the sequence cuts off."""

    piece: Piece
    start_s: float
    end_s: float
    cut_s: float = 0.0

    def spoken(self) -> list[Span]:
        """From when to when something is heard of it, in s of the whole."""
        shift = self.start_s - self.piece.from_s
        spans = self.piece.heard or ((self.piece.from_s, self.piece.to_s),)
        shown = [(max(self.start_s, a + shift), min(self.end_s, b + shift)) for a, b in spans]
        return [(a, b) for a, b in shown if b > a]


def starts(pieces: Sequence[Piece]) -> dict[str, float]:
    """When each piece begins after its shot does, in s.

    >>> starts([Piece("a", "1", "voice", 0.0, 2.0), Piece("b", "1", "voice", 0.5, 1.5), Piece("m", "1", "music", 0.0, 60.0)])
    {'a': 0.2, 'b': 2.5, 'm': 0.0}
    """
    free: dict[str, float] = {}
    out: dict[str, float] = {}
    for p in pieces:
        if p.start_s is not None:
            out[p.id] = p.start_s
        elif p.kind != "voice":
            out[p.id] = 0.0
        else:
            out[p.id] = round(free[p.shot] + PAUSE_S if p.shot in free else LEAD_S, 3)
        if p.kind == "voice":
            free[p.shot] = max(free.get(p.shot, 0.0), out[p.id] + p.length_s)
    return out


def lay(pieces: Sequence[Piece], timeline: Timeline) -> list[Laid]:
    """All pieces on the sequence, in the order in which they begin. Those of a shot that is not there are left out."""
    spans = {s.shot.id: s for s in timeline.spans}
    begins = starts(pieces)
    laid: list[Laid] = []
    for p in pieces:
        if p.shot not in spans:
            continue
        start = max(0.0, spans[p.shot].start_s + begins[p.id])
        end = start + p.length_s
        if p.until in spans:
            end = min(end, spans[p.until].end_s)
        cut = max(0.0, end - timeline.length_s)
        laid.append(Laid(p, start, max(start, end - cut), cut))
    return sorted(laid, key=lambda x: (x.start_s, x.piece.id))


@dataclass(frozen=True)
class Room:
    """How long it takes, from a shot's beginning, until all is said that is said in it, and how long there is for that; in s."""

    said_s: float
    room_s: float

    @property
    def over_s(self) -> float:
        """By how much what is said outruns its room."""
        return max(0.0, self.said_s - self.room_s)


def rooms(pieces: Sequence[Piece], timeline: Timeline, worded: Container[str]) -> dict[str, Room]:
    """The room of each shot with a voice: its own length, and that of shots of its scene behind it that have neither words (`worded` ones have) nor a voice.

    >>> from juxtaform.core.run.timeline import TimedShot
    >>> line = Timeline([TimedShot("1", "s", 3.0), TimedShot("2", "s", 2.0), TimedShot("3", "s", 4.0)])
    >>> rooms([Piece("a", "1", "voice", 0.0, 4.2)], line, {"3"})
    {'1': Room(said_s=4.4, room_s=5.0)}
    """
    begins = starts(pieces)
    said: defaultdict[str, float] = defaultdict(float)
    for p in pieces:
        if p.kind == "voice":
            said[p.shot] = max(said[p.shot], begins[p.id] + p.said[1])
    found: dict[str, Room] = {}
    for i, span in enumerate(timeline.spans):
        shot = span.shot
        if shot.id not in said:
            continue
        room_s = shot.length_s
        for behind in (x.shot for x in timeline.spans[i + 1 :]):
            if behind.scene != shot.scene or behind.id in said or behind.id in worded:
                break
            room_s += behind.length_s
        found[shot.id] = Room(round(said[shot.id], 3), room_s)
    return found
