"""The light table: colours read under the loupe, and pictures pegged on each other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from sqlalchemy import select

from juxtaform.core.colour.light import SceneLight, common_light
from juxtaform.core.colour.loupe import apart, apart_in_words, colour_at
from juxtaform.core.colour.spaces import Floats, hex_from_linear
from juxtaform.core.edits.fit import laid_on
from juxtaform.core.figure.pegs import Peg, pegged
from juxtaform.core.picture.regions import Box, head_of
from juxtaform.media.decode import PictureRefused, decoded_file
from juxtaform.media.network import figure_eye
from juxtaform.records.models import Mark, Picture, Project, Take, Thread
from juxtaform.studio import gauging, measures
from juxtaform.studio.by_worker import all_by_workers
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, found

On = Literal["figure", "head", "picture"]
MOST_PICTURES = 4


@dataclass(frozen=True)
class Place:
    """A round place under the loupe, in px of its picture, and the light of the picture's scene where that is known."""

    sha: str
    x: float
    y: float
    radius: float
    light: SceneLight | None = None


@dataclass(frozen=True)
class UnderLoupe:
    """What the loupe reads in one picture: its colour, and the colour without the light of its scene where that is known (both None outside the
    picture). `apart` is CIEDE2000 from the first picture, in words too; `even_apart` the same without the lights, where there is one."""

    hex: str | None
    even_hex: str | None
    apart: float | None
    words: str
    even_apart: float | None
    even_words: str


@dataclass(frozen=True)
class TakeLight:
    """The light of the scene in a take, and in words."""

    take_id: str
    light: SceneLight
    words: str


@dataclass(frozen=True)
class Pinned:
    """A picture of the light table: a take's, where marks say who stands where, or one of a figure alone, as references are."""

    sha: str
    take_id: str | None = None


@dataclass(frozen=True)
class PegTask:
    """Two picture files and the box of the same figure, or of its head, in each; without boxes all of the pictures is meant."""

    path: str
    over_path: str
    box: Box | None = None
    over_box: Box | None = None


@dataclass(frozen=True)
class Pegged:
    """How each picture is laid on the first one; None for one in which the figure does not stand."""

    pegs: tuple[Peg | None, ...]


def read_colours(ws: Workspace, project_id: str, places: Sequence[Place]) -> list[UnderLoupe]:
    """The colours of the same place in several pictures. Raises NotThere for a picture that is not in the store."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
    read = [_colour(ws, p) for p in places]
    # Without a light of its own a picture is taken as it is: a reference is painted in even light.
    even = [
        p.light.taken_out(colour) if p.light is not None and colour is not None else colour
        for p, colour in zip(places, read, strict=True)
    ]
    out = []
    for i, place in enumerate(places):
        lit = place.light is not None or places[0].light is not None
        plain_apart, even_apart = _apart(read, i), _apart(even, i) if lit else None
        out.append(
            UnderLoupe(
                _hex(read[i]),
                _hex(even[i]) if place.light is not None else None,
                plain_apart,
                _words(plain_apart),
                even_apart,
                _words(even_apart),
            )
        )
    return out


def _colour(ws: Workspace, place: Place) -> Floats | None:
    try:
        pixels = ws.pyramids.whole(place.sha)
    except (KeyError, PictureRefused) as error:
        raise NotThere("There is no such picture.") from error
    try:
        return colour_at(pixels, place.x, place.y, place.radius)
    except ValueError:
        return None


def _apart(colours: Sequence[Floats | None], i: int) -> float | None:
    first, own = colours[0], colours[i]
    return round(apart(first, own), 2) if i and first is not None and own is not None else None


def _words(delta: float | None) -> str:
    return "" if delta is None else apart_in_words(delta)


def _hex(colour: Floats | None) -> str | None:
    return None if colour is None else hex_from_linear(colour)


def lights(ws: Workspace, project_id: str, take_ids: Sequence[str]) -> list[TakeLight]:
    """The lights of the scenes in some takes: of those that are measured and show a figure."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        its_takes = list(s.scalars(select(Take).where(Take.project_id == project_id, Take.id.in_(take_ids))))
        known = gauging.measures_of(s, ws, project_id, its_takes)
    seen = {i: common_light([a.light for a in m.appearances]) for i, m in known.items() if m.appearances}
    return [TakeLight(i, light, light.words()) for i, light in seen.items()]


def peg(ws: Workspace, project_id: str, thread_id: str, on: On, pictures: Sequence[Pinned]) -> Pegged:
    """How pictures are laid on the first so that a thread's figure, or its head, lies on the same spot, or that most of all of the picture does. Raises
    NotThere, NotPossible where the figure does not stand in the first."""
    if on == "picture":
        with ws.database.reading() as s:
            found(s, Project, project_id)
        return _pegged(ws, [PegTask(_path(ws, pictures[0].sha), _path(ws, p.sha)) for p in pictures[1:]])
    with ws.database.reading() as s:
        thread = found(s, Thread, thread_id, project_id)
        take_ids = [p.take_id for p in pictures if p.take_id]
        marks = s.scalars(select(Mark).where(Mark.thread_id == thread_id, Mark.take_id.in_(take_ids)))
        marked = {m.take_id: Box(m.x, m.y, m.w, m.h) for m in marks}
    alone = [p.sha for p in pictures if not p.take_id]
    stances = measures.of(ws, measures.STANCE, alone) if alone else {}
    with ws.database.reading() as s:
        sizes = {p.sha: (p.width, p.height) for p in s.scalars(select(Picture).where(Picture.sha.in_(alone)))}
    boxes = [
        marked.get(p.take_id) if p.take_id else stances[p.sha].box(*sizes[p.sha]) if p.sha in sizes else None
        for p in pictures
    ]
    if on == "head":
        boxes = [head_of(b) if b else None for b in boxes]
    if not boxes or boxes[0] is None:
        raise NotPossible(
            f"{thread.name} is not marked in the first picture. Mark them there, or peg on something else."
        )
    return _pegged(
        ws,
        [
            PegTask(_path(ws, pictures[0].sha), _path(ws, p.sha), boxes[0], b) if b else None
            for p, b in zip(pictures[1:], boxes[1:], strict=True)
        ],
    )


def _path(ws: Workspace, sha: str) -> str:
    return str(ws.store.path(sha))


def _pegged(ws: Workspace, tasks: Sequence[PegTask | None]) -> Pegged:
    laid = iter(all_by_workers(ws, peg_task, [(t,) for t in tasks if t]))
    return Pegged((Peg((1, 0, 0, 0, 1, 0), "places"), *(next(laid) if t else None for t in tasks)))


def peg_task(task: PegTask) -> Peg:
    """Peg two pictures; runs in a worker process. Raises PictureRefused, ValueError."""
    ground, over = decoded_file(Path(task.path)), decoded_file(Path(task.over_path))
    if task.box is None or task.over_box is None:
        a, b, c, d, e, f = (round(float(v), 5) for v in laid_on(ground, over).ravel())
        return Peg((a, b, c, d, e, f), "places")
    return pegged(figure_eye(), ground, task.box, over, task.over_box)
