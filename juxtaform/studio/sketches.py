"""Hand-drawn pages become shots with their sketches; a sheet of views is cut into references."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from PIL import Image
from sqlalchemy import func, select

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.picture.panels import Direction, panels, views_on
from juxtaform.core.picture.regions import Box, cut_out
from juxtaform.core.picture.upright import straightened
from juxtaform.records.models import Scene, Shot, Thread
from juxtaform.studio import takes, threads
from juxtaform.studio.takes import TakenIn
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found

Sort = Literal["page", "views"]


@dataclass(frozen=True)
class FoundPanels:
    """A page as found: the straightened picture (stored), its size, and its panels in reading order, in its pixels."""

    sha: str
    width: int
    height: int
    boxes: tuple[Box, ...]


def look(ws: Workspace, name: str, data: bytes, sort: Sort, direction: Direction) -> FoundPanels:
    """Straighten a photo of a page and find its panels, or find the views on a sheet. Raises NotPossible when the file is
    no picture; a page without panels comes back whole, for panels to be drawn by hand."""
    photo = takes.take_in(ws, name, data)
    if photo.sha is None:
        raise NotPossible(f"{name}: {photo.refused}")
    pixels = ws.store.pixels(photo.sha)
    if sort == "views":
        return FoundPanels(photo.sha, photo.width, photo.height, tuple(views_on(pixels)))
    try:
        page = straightened(pixels)
    except ValueError as error:
        raise NotPossible(str(error)) from error
    if page.pixels is pixels:
        return FoundPanels(photo.sha, photo.width, photo.height, tuple(panels(pixels, direction)))
    kept = _stored(ws, page.pixels, name)
    return FoundPanels(str(kept.sha), kept.width, kept.height, tuple(panels(page.pixels, direction)))


def into_shots(ws: Workspace, project_id: str, sha: str, boxes: Sequence[Box], scene_id: str | None) -> Changed:
    """A shot for each panel, in the order given, at the end of a scene (the last one if none is named), with its sketch."""
    crops = _cut(ws, sha, boxes)
    with ws.writing(project_id, "made shots from a page") as w:
        scene = found(w.session, Scene, scene_id, project_id) if scene_id else None
        if scene is None:
            query = select(Scene).where(Scene.project_id == project_id).order_by(Scene.position.desc()).limit(1)
            scene = w.session.scalars(query).first()
        if scene is None:
            scene = Scene(project_id=project_id, position=0.0, title="")
            w.add(scene)
        last = w.session.scalar(select(func.max(Shot.position)).where(Shot.scene_id == scene.id))
        first = 0.0 if last is None else last + 1
        w.add(
            *(
                Shot(project_id=project_id, scene_id=scene.id, position=first + i, shows="", sketch_sha=crop.sha)
                for i, crop in enumerate(crops)
            )
        )
        w.name(f"made {len(crops)} {'shot' if len(crops) == 1 else 'shots'} from a page")
    return w.changed


def into_references(ws: Workspace, project_id: str, sha: str, boxes: Sequence[Box], thread_id: str) -> Changed:
    """A reference for each view of a sheet."""
    with ws.database.session() as s:
        found(s, Thread, thread_id, project_id)
    crops = _cut(ws, sha, boxes)
    return threads.add_references(
        ws, project_id, thread_id, [(str(c.sha), f"view {i + 1}") for i, c in enumerate(crops)], ""
    )


def onto_shots(ws: Workspace, project_id: str, sha: str, boxes: Sequence[Box], shot_ids: Sequence[str]) -> Changed:
    """Give shots that are there already the panels of a page as their sketches, in order."""
    crops = _cut(ws, sha, boxes)
    with ws.writing(project_id, "gave shots their sketches") as w:
        for shot_id, crop in zip(shot_ids, crops, strict=False):
            found(w.session, Shot, shot_id, project_id).sketch_sha = crop.sha
    return w.changed


def set_sketch(ws: Workspace, project_id: str, shot_id: str, sha: str | None) -> Changed:
    """Give a shot a sketch as its layout guide, or take it away."""
    with ws.writing(project_id, "set a sketch") as w:
        found(w.session, Shot, shot_id, project_id).sketch_sha = sha
    return w.changed


def _cut(ws: Workspace, sha: str, boxes: Sequence[Box]) -> list[TakenIn]:
    if not boxes:
        raise NotPossible("There is no panel. Draw a box round each one first.")
    pixels = ws.store.pixels(sha)
    try:
        return [_stored(ws, cut_out(pixels, b), f"panel {i + 1}.png") for i, b in enumerate(boxes)]
    except ValueError as error:
        raise NotPossible(str(error)) from error


def _stored(ws: Workspace, pixels: Pixels, name: str) -> TakenIn:
    out = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(pixels)).save(out, "PNG", compress_level=3)
    taken = takes.take_in(ws, name, out.getvalue())
    if taken.sha is None:
        raise NotPossible(f"A panel is of no use: {taken.refused}")
    return taken
