"""A sequence frozen: everything that others are to see of it, and nothing else, as plain values; what differs between two."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from juxtaform.core.run.along import Caption
from juxtaform.formats.out.sequence import OutSequence
from juxtaform.studio.rows import ProjectRows

Changes = Literal["new", "picture", "words", "length"]


class FrozenShot(BaseModel):
    """A shot as it was: its picture by digest and size, its words in time, its move and how it is joined to the one before."""

    model_config = ConfigDict(frozen=True)

    id: str
    number: int
    scene: str
    shows: str
    words: str
    captions: list[tuple[str, float, float]]
    length_s: float
    join: str
    join_s: float
    move: str
    move_start: list[float] | None
    move_end: list[float] | None
    sha: str | None
    sketch: bool
    width: int
    height: int
    clip: tuple[float, float] | None


class Frozen(BaseModel):
    """A sequence as it was frozen."""

    model_config = ConfigDict(frozen=True)

    title: str
    aspect: float
    fps: float
    medium: str
    shots: list[FrozenShot]

    @property
    def pictures(self) -> set[str]:
        """The digests of all pictures in it."""
        return {x.sha for x in self.shots if x.sha}


def freeze(rows: ProjectRows, out: OutSequence) -> Frozen:
    """The settled shots of a project as they go out now."""
    shas: dict[str, str | None] = {x.id: x.sketch_sha for x in rows.order}
    shas |= {t.shot_id: t.picture_sha for t in rows.takes.values() if t.picked}
    shots = []
    for x in out.shots:
        own = rows.shots[x.id]
        picture = x.picture
        clip = picture.clip if picture else None
        shots.append(
            FrozenShot(
                id=x.id,
                number=x.number,
                scene=x.scene,
                shows=x.shows,
                words=x.words,
                captions=[_caption(c) for c in x.captions],
                length_s=x.length_s,
                join=x.join,
                join_s=x.join_s,
                move=own.move,
                move_start=own.move_start,
                move_end=own.move_end,
                sha=shas[x.id] if picture else None,
                sketch=bool(picture and picture.sketch),
                width=picture.width if picture else 0,
                height=picture.height if picture else 0,
                clip=(clip.start_s, clip.end_s) if clip else None,
            )
        )
    return Frozen(title=out.title, aspect=out.aspect, fps=out.fps, medium=rows.project.medium, shots=shots)


def changes(before: Frozen, now: Frozen) -> dict[str, list[Changes]]:
    """What changed from one frozen state to a later one, by shot."""
    was = {x.id: x for x in before.shots}
    told: dict[str, list[Changes]] = {}
    for x in now.shots:
        old = was.get(x.id)
        if old is None:
            told[x.id] = ["new"]
            continue
        found: list[Changes] = []
        if x.sha != old.sha or x.clip != old.clip:
            found.append("picture")
        if (x.words, x.shows) != (old.words, old.shows):
            found.append("words")
        if abs(x.length_s - old.length_s) > 0.01:
            found.append("length")
        if found:
            told[x.id] = found
    return told


def _caption(c: Caption) -> tuple[str, float, float]:
    return c.words, round(c.start_s, 3), round(c.end_s, 3)


def read(text: str) -> Frozen:
    """What was frozen, from the text that was kept."""
    return Frozen.model_validate_json(text)
