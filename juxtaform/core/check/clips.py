"""Findings in clips: who or what slips along the part that is shown, flicker, and a beginning that is not as its still."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from juxtaform.core.check.states import ClipSeen, ShotState
from juxtaform.core.clips.reading import FLICKERS_TOLD, Track
from juxtaform.core.clips.words import slips
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.findings import Evidence, Finding

SEVERE = 3.0
"""Somebody else is no graver the further off the network sees them."""
CUT = "Cut the clip where it slips, or make it again from the last frame that holds."


def clip_findings(shots: Sequence[ShotState], titles: Mapping[str, str]) -> list[Finding]:
    """What is told of the shots' clips."""
    return [f for shot in shots if shot.clip is not None for f in _of(shot, shot.clip, titles)]


def _of(shot: ShotState, clip: ClipSeen, titles: Mapping[str, str]) -> list[Finding]:
    told = [_Told(track, titles.get(track.name, track.name), track.name) for track in clip.reading.figures]
    told.append(_Told(clip.reading.style, "the style", shot.style))
    found = []
    for one in told:
        at_s = clip.when(one.track.begins)
        if at_s is not None and clip.shows(at_s):
            found.append(_slip(shot, clip, one, at_s))
        if one.track.still is not None and one.track.still > 1:
            found.append(_unlike_still(shot, one))
    flashes = [s for i, _ in clip.reading.flicker if (s := clip.when(i)) is not None and clip.shows(s)]
    if len(flashes) >= FLICKERS_TOLD:
        found.append(_flickers(shot, flashes))
    return found


@dataclass(frozen=True)
class _Told:
    track: Track
    name: str
    thread: str | None


def _slip(shot: ShotState, clip: ClipSeen, one: _Told, at_s: float) -> Finding:
    track = one.track
    beyond = [d for d, i in zip(track.drift, clip.reading.frames, strict=True) if i >= (track.begins or 0)]
    far = min(SEVERE, max([1.0, *beyond]))
    rows = [Evidence("Holds until", f"{at_s:.1f} s of {clip.seconds:.1f} s")]
    if track.was and track.now:
        old, new = (colour_name(linear_from_hex(code)) for code in (track.was, track.now))
        rows.append(Evidence("Its colour at first", old, expected_hex=track.was))
        rows.append(Evidence("Its colour later", new, measured_hex=track.now))
    rows.append(Evidence("How far off", "plainly" if far > 1.5 else "a little", behind=f"{far:.1f} times what holds"))
    return Finding(
        source="check",
        kind="clip_slips",
        thread=one.thread,
        shot=shot.id,
        title=f"In the clip: {slips(one.name, track.kind, track.was, track.now, at_s)}",
        advice=CUT,
        measured=far,
        expected=1.0,
        unit="× tolerance",
        severity=max(1.2, far),
        at_s=round(at_s, 3),
        evidence=tuple(rows),
    )


def _unlike_still(shot: ShotState, one: _Told) -> Finding:
    far = min(SEVERE, one.track.still or 0.0)
    return Finding(
        source="check",
        kind="clip_unlike_still",
        thread=one.thread,
        shot=shot.id,
        title=f"The clip does not begin as its still: {one.name} is not the same",
        advice="Make the clip again from the still, or pick another still for it.",
        measured=far,
        expected=1.0,
        unit="× tolerance",
        severity=far,
        evidence=(Evidence("Beside the still", "plainly another" if far > 1.5 else "a little off"),),
    )


def _flickers(shot: ShotState, flashes: Sequence[float]) -> Finding:
    return Finding(
        source="check",
        kind="clip_flickers",
        thread=None,
        shot=shot.id,
        title=f"The light of the clip flickers in {len(flashes)} frames, first at {flashes[0]:.1f} s",
        advice="Make the clip again, or cut it before it flickers.",
        measured=float(len(flashes)),
        expected=float(FLICKERS_TOLD - 1),
        unit="frames",
        severity=min(SEVERE, len(flashes) / FLICKERS_TOLD),
        at_s=round(flashes[0], 3),
        evidence=(Evidence("Frames that flash", f"{len(flashes)}, first at {flashes[0]:.1f} s"),),
    )
