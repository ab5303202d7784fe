"""One area of a take changed, by a service or by hand, and takes grown beyond their edges."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL import Image
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.edits.area import Area, Shape, box_of, mask_of
from juxtaform.media.decode import PictureRefused
from juxtaform.media.store import StoredPicture
from juxtaform.records.models import Mark, Picture, Take
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import making, pictures
from juxtaform.studio.making import Asked, Quality
from juxtaform.studio.remaking import Remake, ask_on
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, stored

MASK_SIDE_PX = 2048
"""The longer side of a mask that is sent, at most."""


@dataclass(frozen=True)
class AreaOrder:
    """An area of a take to be changed by a service: to what, how many tries, by which model, how good."""

    take_id: str
    area: Area
    words: str
    count: int = 1
    service_id: str = ""
    model: str = ""
    quality: Quality = "draft"


@dataclass(frozen=True)
class GrowthOrder:
    """A take to be grown to another form by a service: what lies around it is added."""

    take_id: str
    aspect: str
    count: int = 1
    service_id: str = ""
    model: str = ""
    quality: Quality = "draft"


def order(ws: Workspace, project_id: str, wanted: AreaOrder) -> list[str]:
    """Ask a service to change an area of a take; returns the jobs. Raises NotPossible, NotThere."""
    if not wanted.words.strip():
        raise NotPossible("Say what is to be there instead.")
    with ws.database.reading() as s:
        take = found(s, Take, wanted.take_id, project_id)
        picture = found(s, Picture, take.picture_sha)
    try:
        box = box_of(mask_of(wanted.area, picture.width, picture.height))
    except ValueError as error:
        raise NotPossible(str(error)) from error
    mask = _stored_mask(ws, wanted.area, picture.width, picture.height)

    def made(request: Asked, model: ModelSaid) -> Asked:
        body = {
            **request.wanted,
            "kind": "edit",
            "text": wanted.words.strip()[: model.text_most],
            "area": {
                "x": box.x / picture.width,
                "y": box.y / picture.height,
                "w": box.w / picture.width,
                "h": box.h / picture.height,
            },
        }
        if model.masks:
            sent = {"sha": mask.sha, "role": "mask", "name": "", "hold": "", "weight": 1.0}
            body["pictures"] = [*body["pictures"], sent]
        edit = {"area": as_row(wanted.area), "words": wanted.words.strip(), "only": False}
        return Asked(body, {**request.made_from, "edit": edit}, request.cut)

    again = Remake(wanted.take_id, wanted.count, wanted.service_id, wanted.model, wanted.quality, from_picture=True)
    return ask_on(ws, project_id, again, "edit", "changes areas", made)


def grow(ws: Workspace, project_id: str, wanted: GrowthOrder) -> list[str]:
    """Ask a service for a take grown to another form; returns the jobs. Raises NotPossible, NotThere."""

    def made(request: Asked, model: ModelSaid) -> Asked:
        aspect = making.nearest_aspect(wanted.aspect, model.aspects)
        body = {**request.wanted, "kind": "extension", "aspect": aspect}
        return Asked(body, {**request.made_from, "grown": True}, request.cut)

    again = Remake(wanted.take_id, wanted.count, wanted.service_id, wanted.model, wanted.quality, from_picture=True)
    return ask_on(ws, project_id, again, "extension", "grows pictures", made)


def bring(ws: Workspace, project_id: str, take_id: str, sha: str, name: str, area: Area | None) -> Changed:
    """Make a take of a picture that was retouched in an area, or grown beyond its edges (no area), the child of the one that it was made of; who
    stands in an area's picture stays marked. Raises NotPossible, NotThere."""
    with ws.writing(project_id, "brought a retouched picture") as w:
        parent = found(w.session, Take, take_id, project_id)
        picture = found(w.session, Picture, parent.picture_sha)
        stored(w.session, f"The picture {name[:120]}", sha)
        try:
            if area is not None:
                mask_of(area, picture.width, picture.height)
        except ValueError as error:
            raise NotPossible(str(error)) from error
        base = name.replace("\\", "/").rsplit("/", 1)[-1]
        if area is None:
            w.add(child_of(w.session, parent, sha, base, {"grown": True}))
        else:
            edit = {"area": as_row(area), "words": "", "only": False}
            w.add(fresh := child_of(w.session, parent, sha, base, {"edit": edit}))
            carry_marks(w.session, parent, fresh)
    return w.changed


def as_area(row: Mapping[str, Any]) -> Area:
    """An area of its row."""
    shapes = tuple(
        Shape(s["kind"], tuple((p[0], p[1]) for p in s["points"]), s.get("radius", 0.0), s.get("rubbed", False))
        for s in row["shapes"]
    )
    return Area(shapes, row.get("feather", 0.01))


def as_row(area: Area) -> dict[str, Any]:
    """An area as rows keep it."""
    shapes = [
        {"kind": s.kind, "points": [list(p) for p in s.points], "radius": s.radius, "rubbed": s.rubbed}
        for s in area.shapes
    ]
    return {"shapes": shapes, "feather": area.feather}


def _stored_mask(ws: Workspace, area: Area, width: int, height: int) -> StoredPicture:
    f = min(1.0, MASK_SIDE_PX / max(width, height))
    mask = mask_of(area, max(1, round(width * f)), max(1, round(height * f)))
    return stored_picture(ws, as_png(np.repeat(np.rint(mask * 255).astype(np.uint8)[..., None], 3, axis=-1)))


def stored_picture(ws: Workspace, data: bytes) -> StoredPicture:
    try:
        picture = ws.store.put(data)
    except PictureRefused as error:
        raise NotPossible(str(error)) from error
    with ws.database.session() as s:
        pictures.keep(s, picture)
    return picture


def child_of(s: Session, parent: Take, sha: str, name: str, how: Mapping[str, Any]) -> Take:
    """A take of its parent's shot, made from the same words and references, and how besides."""
    last = max(s.scalars(select(Take.position).where(Take.shot_id == parent.shot_id)))
    origin = {k: v for k, v in parent.made_from.items() if k in ("references", "phrases", "held")}
    return Take(
        project_id=parent.project_id,
        shot_id=parent.shot_id,
        picture_sha=sha,
        name=name[:255],
        position=last + 1,
        made_from={**origin, **how},
        parent_id=parent.id,
        not_here=list(parent.not_here),
    )


def carry_marks(s: Session, before: Take, after: Take) -> None:
    """Who is marked in a take stands in another one of the same picture's form too."""
    one, other = found(s, Picture, before.picture_sha), found(s, Picture, after.picture_sha)
    fx, fy = other.width / one.width, other.height / one.height
    for m in list(s.scalars(select(Mark).where(Mark.take_id == before.id))):
        s.add(
            Mark(
                project_id=m.project_id,
                take_id=after.id,
                thread_id=m.thread_id,
                x=m.x * fx,
                y=m.y * fy,
                w=m.w * fx,
                h=m.h * fy,
            )
        )
    s.flush()


def as_png(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    return out.getvalue()
