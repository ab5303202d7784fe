"""The motion brief of a shot: what moves, what the camera does, from which picture to which, and how long; as sentences or as fields."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.brief.saying import sentence
from juxtaform.core.plan.stills import moving_words

Form = Literal["sentences", "fields"]
_CAMERA: dict[str, str] = {
    "static": "The camera is static: it does not move, turn or zoom",
    "pan": "The camera stands still and turns to the side",
    "tilt": "The camera stands still and turns up or down",
    "push in": "The camera moves slowly closer",
    "pull out": "The camera moves slowly away",
    "arc": "The camera moves round in an arc",
    "track": "The camera goes along with what moves",
    "crane": "The camera rises or sinks",
}


@dataclass(frozen=True)
class MotionShot:
    """What a motion brief is composed from: the shot's motion note, its trade move, its length in s, and whether it has a start and an end picture; `frames`
    are where the view begins and ends in the picture (left, top, width, height as shares), where the plan draws a move."""

    motion: str
    move: str
    length_s: float
    starts: str = "the picture of this shot"
    ends: str = ""
    frames: tuple[tuple[float, ...], tuple[float, ...]] | None = None


@dataclass(frozen=True)
class MotionField:
    """A part of a motion brief: what it is about, and its words as a sentence."""

    name: str
    words: str


def motion_brief(shot: MotionShot) -> tuple[MotionField, ...]:
    """The parts of a shot's motion brief, in order.

    >>> [f.words for f in motion_brief(MotionShot("Her plait swings.", "static", 4.2))][:2]
    ['Her plait swings.', 'The camera is static: it does not move, turn or zoom.']
    """
    note = sentence(shot.motion)
    told = any(m.kind == "camera" for m in moving_words(note))
    out = [
        MotionField("Moves", note or "Nothing is told to move: what stands there breathes, and nobody comes or goes.")
    ]
    if not told or shot.move != "static":
        camera = _CAMERA.get(shot.move, f"The camera: {shot.move}")
        out.append(
            MotionField(
                "Camera",
                sentence(
                    camera + (_course(*shot.frames, told=shot.move in ("push in", "pull out")) if shot.frames else "")
                ),
            )
        )
    out.append(MotionField("Start", f"It starts from {shot.starts}."))
    if shot.ends:
        out.append(MotionField("End", f"It ends on {shot.ends}."))
    out.append(MotionField("Length", f"It lasts {shot.length_s:g} seconds."))
    return tuple(out)


def as_text(fields: Sequence[MotionField], form: Form) -> str:
    """A motion brief as it goes out.

    >>> as_text((MotionField("Moves", "Gulls turn."), MotionField("Length", "It lasts 3 seconds.")), "fields")
    'Moves: Gulls turn.\\nLength: It lasts 3 seconds.'
    """
    if form == "fields":
        return "\n".join(f"{f.name}: {f.words}" for f in fields)
    return " ".join(f.words for f in fields)


def _course(start: Sequence[float], end: Sequence[float], *, told: bool) -> str:
    """Which way the view goes, from one frame in the picture to another."""
    dx, dy = (end[i] + end[i + 2] / 2 - start[i] - start[i + 2] / 2 for i in (0, 1))
    ways = [
        w
        for w, holds in (
            ("to the right", dx > 0.08),
            ("to the left", dx < -0.08),
            ("down", dy > 0.08),
            ("up", dy < -0.08),
        )
        if holds
    ]
    grown = end[2] / start[2] if start[2] else 1.0
    if not told and grown < 0.9:
        ways.append("and comes closer" if ways else "closer")
    elif not told and grown > 1.12:
        ways.append("and gets wider" if ways else "wider")
    return (
        f", {' '.join(ways)}".replace(" up", " and up")
        .replace(" down", " and down")
        .replace(",  and", ",")
        .replace(", and", ",")
        if ways
        else ""
    )
