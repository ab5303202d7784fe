"""What is wrong with the sound: silence where words should be heard, clipping, people who speak at once, lines that outrun their shots."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.run.timeline import Timeline
from juxtaform.core.sound.laying import TAIL_S, Laid, Piece, lay, rooms
from juxtaform.core.sound.levels import Holds, Span
from juxtaform.core.text.voices import as_said

TOGETHER_S = 0.12
"""Two who speak at once for less are heard one after the other."""
EDGE_S = 0.8
"""So much silence before the first word or after the last is more than a breath."""
HUSH_S = 4.0
"""So long without any sound, between sounds, is heard as a hole."""
LATE_S = 0.05
MOST_OF_A_KIND = 40

NoteKind = Literal["clips", "over", "together", "longer", "cut off", "silent", "edge", "unsaid", "other words", "hush"]
Mend = Literal["", "give time", "take the silence off", "turn down", "record"]


@dataclass(frozen=True)
class SoundNote:
    """Something wrong: its kind, the shot and moment (s of the whole), the sounds it is about, what and what to do, and what would mend it."""

    kind: NoteKind
    shot: str
    at_s: float
    sounds: tuple[str, ...]
    title: str
    advice: str
    mend: Mend = ""


@dataclass(frozen=True)
class _Overlap:
    """Two voices that are heard at once: from which moment, and for how long in all."""

    first: Laid
    then: Laid
    at_s: float
    seconds: float


@dataclass(frozen=True)
class ShotWords:
    """The lines of a shot that are to be heard."""

    shot: str
    number: int
    lines: tuple[str, ...]


def sound_notes(
    pieces: Sequence[Piece],
    holds: Mapping[str, Holds],
    timeline: Timeline,
    shots: Sequence[ShotWords],
    names: Mapping[str, str],
    over: Sequence[tuple[Span, float]] = (),
) -> list[SoundNote]:
    """All notes on the sound, in the order of the sequence. `holds` by piece; `names` of who speaks, by thread; `over` where the mix goes over full scale, by how
    many dB."""
    laid = lay(pieces, timeline)
    numbers = {s.shot: s.number for s in shots}
    overlaps = _overlaps(laid)
    longer = _longer(pieces, timeline, numbers, overlaps, {s.shot for s in shots if s.lines})
    outrun = {n.shot for n in longer}
    found = [
        *_of_recordings(laid, holds, numbers),
        *_over(over, timeline, numbers),
        *_together(overlaps, numbers, names, outrun),
        *longer,
        *_cut_off([x for x in laid if x.piece.kind != "voice" or x.piece.shot not in outrun], numbers),
        *_unsaid(pieces, timeline, shots),
        *_hushes(laid, timeline, numbers),
    ]
    return sorted(found, key=lambda n: (n.at_s, n.kind, n.shot))


def _of_recordings(laid: Sequence[Laid], holds: Mapping[str, Holds], numbers: Mapping[str, int]) -> list[SoundNote]:
    found: list[SoundNote] = []
    for x in laid:
        p, own = x.piece, holds.get(x.piece.id)
        if own is None:
            continue
        number = numbers.get(p.shot, 0)
        heard = [s for s in own.heard if s[1] > p.from_s and s[0] < p.to_s]
        if not heard:
            title = f"Nothing is heard in “{p.name}” (shot {number})."
            found.append(
                SoundNote(
                    "silent",
                    p.shot,
                    x.start_s,
                    (p.id,),
                    title,
                    "Look whether the microphone was on; record it again.",
                    "record",
                )
            )
            continue
        clipped = [s for s in own.clipped if s[1] > p.from_s and s[0] < p.to_s]
        if clipped:
            at = x.start_s + clipped[0][0] - p.from_s
            places = "once" if len(clipped) == 1 else f"{len(clipped)} times"
            title = f"“{p.name}” clips {places}, first {clipped[0][0] - p.from_s:.1f} s in (shot {number})."
            found.append(
                SoundNote(
                    "clips",
                    p.shot,
                    at,
                    (p.id,),
                    title,
                    "Record it again with the microphone further away or turned down.",
                )
            )
        before, after = heard[0][0] - p.from_s, p.to_s - heard[-1][1]
        if p.kind == "voice" and max(before, after) > EDGE_S:
            where = f"begins with {before:.1f} s" if before > EDGE_S else f"ends with {after:.1f} s"
            title = f"“{p.name}” {where} of silence (shot {number})."
            found.append(
                SoundNote(
                    "edge",
                    p.shot,
                    x.start_s,
                    (p.id,),
                    title,
                    "Take the silence off; the recording stays whole.",
                    "take the silence off",
                )
            )
    return found


def _over(over: Sequence[tuple[Span, float]], timeline: Timeline, numbers: Mapping[str, int]) -> list[SoundNote]:
    found = []
    for (start, _), db in over[:MOST_OF_A_KIND]:
        seen = timeline.at(start)
        shot = seen[-1].shot if seen else ""
        title = f"Together the sounds are {max(0.1, db):.1f} dB too loud in shot {numbers.get(shot, 0)}."
        advice = "Turn one of them down. In files out all is made quieter by as much, so that nothing clips."
        found.append(SoundNote("over", shot, start, (), title, advice, "turn down"))
    return found


def _together(
    overlaps: Sequence[_Overlap], numbers: Mapping[str, int], names: Mapping[str, str], outrun: Container[str]
) -> list[SoundNote]:
    """Who speaks at once; where a line outruns its shot that is told there, with what it runs into."""
    found = []
    for o in overlaps:
        x, y = o.first.piece, o.then.piece
        if x.shot != y.shot and x.shot in outrun:
            continue
        who = [names.get(p.who) or ("the teller" if p.line else f"“{p.name}”") for p in (x, y)]
        pair = f"Two lines of {who[0]} are heard" if who[0] == who[1] else f"{who[0]} and {who[1]} speak"
        shots = [numbers.get(p.shot, 0) for p in (x, y)]
        where = f"shot {shots[0]}" if shots[0] == shots[1] else f"shots {shots[0]} and {shots[1]}"
        title = f"{pair[0].upper()}{pair[1:]} at the same time for {o.seconds:.1f} s ({where})."
        found.append(SoundNote("together", x.shot, o.at_s, (x.id, y.id), title, "Let the second line begin later."))
    return found


def _overlaps(laid: Sequence[Laid]) -> list[_Overlap]:
    """Pairs of voices that are heard at once for longer than a breath."""
    voices = sorted(((span, x) for x in laid if x.piece.kind == "voice" for span in x.spoken()), key=lambda v: v[0])
    shared: defaultdict[tuple[str, str], list[Span]] = defaultdict(list)
    by_id = {x.piece.id: x for x in laid}
    for i, (span, x) in enumerate(voices):
        for other, y in voices[i + 1 :]:
            if other[0] >= span[1]:
                break
            if y.piece.id != x.piece.id:
                first, second = sorted((x, y), key=lambda v: (v.start_s, v.piece.id))
                shared[(first.piece.id, second.piece.id)].append((other[0], min(span[1], other[1])))
    found = [
        _Overlap(by_id[one], by_id[two], spans[0][0], sum(b - a for a, b in spans))
        for (one, two), spans in shared.items()
    ]
    return [o for o in found if o.seconds >= TOGETHER_S]


def _longer(
    pieces: Sequence[Piece],
    timeline: Timeline,
    numbers: Mapping[str, int],
    overlaps: Sequence[_Overlap],
    worded: Container[str],
) -> list[SoundNote]:
    """Lines that outrun their shot and the silent ones behind it."""
    found = []
    by_shot = rooms(pieces, timeline, worded)
    for span in timeline.spans:
        shot = span.shot
        room = by_shot.get(shot.id)
        if room is not None and room.over_s > LATE_S:
            own = tuple(p.id for p in pieces if p.shot == shot.id and p.kind == "voice")
            into = [o for o in overlaps if o.first.piece.shot == shot.id and o.then.piece.shot != shot.id]
            what = "The line takes" if len(own) == 1 else "The lines take"
            title = f"{what} {room.said_s:.1f} s, shot {numbers.get(shot.id, 0)} has {shot.length_s:.1f}"
            if into:
                title += f": {into[0].seconds:.1f} s are heard over the line of shot {numbers.get(into[0].then.piece.shot, 0)}"
            at = span.start_s + shot.length_s
            advice = f"Give the shot {shot.length_s + room.over_s + TAIL_S:.1f} s, or say it faster."
            found.append(SoundNote("longer", shot.id, at, own, f"{title}.", advice, "give time"))
    return found


def _cut_off(laid: Sequence[Laid], numbers: Mapping[str, int]) -> list[SoundNote]:
    return [
        SoundNote(
            "cut off",
            x.piece.shot,
            x.start_s,
            (x.piece.id,),
            f"The end of the sequence cuts {x.cut_s:.1f} s off “{x.piece.name}” (shot {numbers.get(x.piece.shot, 0)}).",
            "Let it fade out before, or begin earlier.",
        )
        for x in laid
        if x.cut_s > LATE_S
        and x.piece.fade_out_s < LATE_S
        and any(b > x.piece.to_s - x.cut_s for _, b in x.piece.heard)
    ]


def _unsaid(pieces: Sequence[Piece], timeline: Timeline, shots: Sequence[ShotWords]) -> list[SoundNote]:
    """Lines without a voice, once there is any; and voices that say what the shot's words are no more."""
    voices = [p for p in pieces if p.kind == "voice" and p.line]
    starts = {s.shot.id: s.start_s for s in timeline.spans}
    said: defaultdict[str, set[str]] = defaultdict(set)
    for p in voices:
        said[p.shot].add(as_said(p.line))
    found = []
    for x in shots:
        wanted = {as_said(line) for line in x.lines}
        missing = [line for line in x.lines if as_said(line) not in said[x.shot]]
        other = tuple(p.id for p in voices if p.shot == x.shot and as_said(p.line) not in wanted)
        if other:
            title = f"The voice of shot {x.number} says other words than the shot has now."
            found.append(
                SoundNote(
                    "other words", x.shot, starts.get(x.shot, 0.0), other, title, "Record the line again.", "record"
                )
            )
        elif missing and voices:
            what = (
                "Nobody says the words"
                if len(missing) == len(x.lines)
                else f"Nobody says {len(missing)} of {len(x.lines)} lines"
            )
            title = f"{what} of shot {x.number}."
            found.append(
                SoundNote(
                    "unsaid",
                    x.shot,
                    starts.get(x.shot, 0.0),
                    (),
                    title,
                    "Record it, or lay a voice on the shot.",
                    "record",
                )
            )
    return found


def _hushes(laid: Sequence[Laid], timeline: Timeline, numbers: Mapping[str, int]) -> list[SoundNote]:
    found: list[SoundNote] = []
    spans = sorted(span for x in laid for span in x.spoken())
    end: float | None = None
    for start, stop in spans:
        if end is not None and start - end > HUSH_S:
            seen = timeline.at(end)
            shot = seen[-1].shot if seen else ""
            title = f"Nothing is heard for {start - end:.1f} s from shot {numbers.get(shot, 0)} on."
            found.append(SoundNote("hush", shot, end, (), title, "If it is not meant, lay a sound there."))
        end = max(stop, end or 0.0)
    return found
