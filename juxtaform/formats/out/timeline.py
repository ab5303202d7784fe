"""The sequence as OpenTimelineIO (Academy Software Foundation), and lengths and order read back from one."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.parse import quote

import opentimelineio as otio
from opentimelineio.opentime import RationalTime, TimeRange

from juxtaform.core.sound.levels import RATE
from juxtaform.formats.out.captions import cues
from juxtaform.formats.out.sequence import OutSequence, OutShot, OutSound, file_name

OURS = "juxtaform"
"""Under this name our own facts stand in the metadata."""
MOST_CLIPS = 20_000


class TimelineWrong(ValueError):
    """A timeline that cannot be read; the message says why."""


@dataclass(frozen=True)
class Laid:
    """A clip of a timeline: our shot's id where it tells one, its name, its length in s, and how much longer its shot was than the whole frames that we
    wrote for it, in s."""

    shot: str | None
    name: str
    length_s: float
    over_s: float = 0.0


def otio_text(sequence: OutSequence) -> str:
    """The sequence as .otio text: a video track of pictures with joins as transitions and the words as markers, and tracks of the sounds."""
    fps = sequence.fps
    timeline = otio.schema.Timeline(sequence.title or "Sequence")
    timeline.metadata[OURS] = {"project": sequence.project, "fps": fps}
    track = otio.schema.Track("Pictures", kind=otio.schema.TrackKind.Video)
    # Each shot ends on the frame at which the whole has come so far, so that rounding does not add up.
    edges = [0, *(round(span.end_s * fps) for span in sequence.timeline.spans)]
    for i, shot in enumerate(sequence.shots):
        count = edges[i + 1] - edges[i]
        if i and shot.join == "dissolve" and count > 0:
            track.append(_transition(shot, min(count, round(shot.join_s * fps)), fps))
        track.append(_clip(shot, count, fps, sequence.timeline.spans[i].shot.length_s))
    for cue in cues(sequence):
        _mark(track, cue.start_s, cue.end_s, cue.words, fps)
    timeline.tracks.append(track)
    for name, sounds in _tracks(sequence):
        timeline.tracks.append(_sound_track(name, sounds))
    text: str = otio.adapters.write_to_string(timeline, "otio_json")
    return text


def picture_name(shot: OutShot) -> str:
    """Where a shot's picture lies beside the timeline."""
    return f"pictures/{shot.number:03d}.{shot.picture.ending if shot.picture else 'png'}"


def sound_names(sequence: OutSequence) -> dict[str, str]:
    """Where the sounds lie beside the timeline, by their own files: each file once."""
    names: dict[str, str] = {}
    for sound in sequence.sounds:
        stem = file_name(Path(sound.name).stem, "Sound")
        names.setdefault(sound.path, f"sounds/{len(names) + 1:03d} {stem}.{sound.ending}")
    return names


def _tracks(sequence: OutSequence) -> list[tuple[str, list[tuple[OutSound, str]]]]:
    """Sounds by tracks on which none lies over another, each with its file's name."""
    names, tracks = sound_names(sequence), []
    for kind, name in (("voice", "Voice"), ("music", "Music"), ("effect", "Effects")):
        own: list[list[tuple[OutSound, str]]] = []
        for sound in (s for s in sequence.sounds if s.laid.piece.kind == kind and s.laid.end_s > s.laid.start_s):
            free = next((t for t in own if t[-1][0].laid.end_s <= sound.laid.start_s), None)
            if free is None:
                own.append(free := [])
            free.append((sound, names[sound.path]))
        tracks += [(name if i == 0 else f"{name} {i + 1}", t) for i, t in enumerate(own)]
    return tracks


def _sound_track(name: str, sounds: list[tuple[OutSound, str]]) -> otio.schema.Track:
    track = otio.schema.Track(name, kind=otio.schema.TrackKind.Audio)
    at = 0
    for sound, path in sounds:
        laid, p = sound.laid, sound.laid.piece
        start, end = round(laid.start_s * RATE), round(laid.end_s * RATE)
        if start > at:
            track.append(otio.schema.Gap(source_range=TimeRange(RationalTime(0, RATE), RationalTime(start - at, RATE))))
        ours = {
            "kind": p.kind,
            "who": sound.who,
            "words": p.line,
            "gain_db": p.gain_db,
            "fade_in_s": p.fade_in_s,
            "fade_out_s": p.fade_out_s,
        }
        reference = otio.schema.ExternalReference(
            target_url=quote(path),
            available_range=TimeRange(RationalTime(0, RATE), RationalTime(round(sound.seconds * RATE), RATE)),
        )
        first = RationalTime(round(p.from_s * RATE), RATE)
        track.append(
            otio.schema.Clip(
                name=sound.name,
                media_reference=reference,
                source_range=TimeRange(first, RationalTime(end - max(start, at), RATE)),
                metadata={OURS: ours},
            )
        )
        at = end
    return track


def _clip(shot: OutShot, count: int, fps: float, length_s: float) -> otio.schema.Clip:
    ours = {
        "shot": shot.id,
        "number": shot.number,
        "scene": shot.scene,
        "framing": shot.framing,
        "move": shot.move,
        "join": shot.join,
        "over_s": round(length_s - count / fps, 6),
    }
    if shot.picture is None:
        reference: otio.core.MediaReference = otio.schema.MissingReference(metadata={OURS: ours})
    else:
        reference = otio.schema.ExternalReference(
            target_url=picture_name(shot),
            available_range=TimeRange(RationalTime(0, fps), RationalTime(count, fps)),
        )
    return otio.schema.Clip(
        name=f"{shot.number} {shot.shows}".strip(),
        media_reference=reference,
        source_range=TimeRange(RationalTime(0, fps), RationalTime(count, fps)),
        metadata={OURS: ours},
    )


def _transition(shot: OutShot, count: int, fps: float) -> otio.schema.Transition:
    return otio.schema.Transition(
        name=shot.join,
        transition_type=otio.schema.TransitionTypes.SMPTE_Dissolve,
        in_offset=RationalTime(0, fps),
        out_offset=RationalTime(count, fps),
    )


def _mark(track: otio.schema.Track, start_s: float, end_s: float, words: str, fps: float) -> None:
    start = round(start_s * fps)
    track.markers.append(
        otio.schema.Marker(
            name=words,
            marked_range=TimeRange(RationalTime(start, fps), RationalTime(max(1, round(end_s * fps) - start), fps)),
            color=otio.schema.MarkerColor.WHITE,
        )
    )


def read_timeline(path: Path) -> list[Laid]:
    """The clips of a timeline's first video track, in their order. Raises TimelineWrong."""
    try:
        found = otio.adapters.read_from_file(str(path), "otio_json")
    except Exception as error:  # The library says it in many ways.
        raise TimelineWrong(
            "The file is no OpenTimelineIO timeline, or is damaged. Export it again as .otio."
        ) from error
    if not isinstance(found, otio.schema.Timeline):
        raise TimelineWrong("The file holds something else than a timeline. Export the whole timeline as .otio.")
    tracks = [t for t in found.tracks or () if t.kind == otio.schema.TrackKind.Video]
    if not tracks:
        raise TimelineWrong("The timeline has no video track.")
    laid = []
    for item in tracks[0]:
        if isinstance(item, otio.schema.Clip):
            try:
                length_s = item.trimmed_range().duration.to_seconds()
            except Exception as error:
                raise TimelineWrong(f"The clip “{item.name}” does not say how long it is.") from error
            ours = item.metadata.get(OURS) or {}
            shot = ours.get("shot") if hasattr(ours, "get") else None
            laid.append(
                Laid(str(shot) if shot else None, item.name or "", float(length_s), _over(ours) if shot else 0.0)
            )
        if len(laid) > MOST_CLIPS:
            raise TimelineWrong(f"The timeline has more than {MOST_CLIPS:,} clips.")
    if not laid:
        raise TimelineWrong("No clip is on the timeline's first video track.")
    return laid


def _over(ours: Any) -> float:
    """What was rounded away when we wrote a clip, in s: about a frame at most, whatever somebody wrote there since."""
    over = ours.get("over_s")
    return float(over) if isinstance(over, float) and abs(over) < 0.5 else 0.0
