"""A take rescued by a crop: which crops leave its faults out, and a take with a parent made of one."""

from __future__ import annotations

import io
from dataclasses import dataclass, replace

from PIL import Image
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.picture.border import printed_border
from juxtaform.core.picture.regions import Box, shared_area
from juxtaform.core.takes.rescue import Rescue, rescues
from juxtaform.media.decode import PictureRefused
from juxtaform.records.models import FaultMark, Mark, Picture, Project, Shot, Take, Thread
from juxtaform.studio import pictures
from juxtaform.studio.gauging import who_stands
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found

LEAST_INSIDE = 0.3
"""A mark goes with the crop when at least this part of it is inside."""


@dataclass(frozen=True)
class RescueOffer:
    """Crops that rescue a take, the least costly first; `why` says why there is none."""

    crops: tuple[Rescue, ...]
    why: str
    border: bool


def offer(ws: Workspace, project_id: str, take_id: str, print_mm: float | None = None) -> RescueOffer:
    """The crops that leave a take's fault marks and its border out. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        take, picture, shot, aspect = _read(s, project_id, take_id)
        faults = [_box(f) for f in s.scalars(select(FaultMark).where(FaultMark.take_id == take_id))]
        names = {t.id: t for t in s.scalars(select(Thread).where(Thread.project_id == project_id))}
        stands = [m for m in who_stands(s, ws, project_id, take) if names[m.thread_id].kind == "character"]
    try:
        border = printed_border(ws.store.small(take.picture_sha, 480))
    except PictureRefused as error:
        raise NotPossible(str(error)) from error
    f = (
        picture.width / min(picture.width, 480)
        if picture.width >= picture.height
        else picture.height / min(picture.height, 480)
    )
    inner = None
    if border is not None:
        grown = replace(
            border, left=border.left * f, top=border.top * f, right=border.right * f, bottom=border.bottom * f
        )
        inner = grown.inner(picture.width, picture.height)
    figures = [(names[m.thread_id].name, m.box) for m in stands]
    crops = rescues(
        picture.width, picture.height, aspect, faults, figures, inner=inner, size=shot.size, print_mm=print_mm
    )
    own = abs(picture.width / picture.height / aspect - 1) < 0.01
    if not faults and border is None and own:
        return RescueOffer(
            (), "Nothing is marked in it. Mark what is wrong, and the crops that leave it out are offered here.", False
        )
    why = "" if crops else "No crop leaves every fault out and every head whole. Change that area, or make it again."
    return RescueOffer(tuple(crops), why, border is not None)


def crop(ws: Workspace, project_id: str, take_id: str, box: Box) -> Changed:
    """Make a take of a part of another one, its child; who is marked inside stays marked. Raises NotPossible, NotThere."""
    with ws.database.reading() as s:
        take, picture, _, _ = _read(s, project_id, take_id)
    try:
        cut = box.inside(picture.width, picture.height)
    except ValueError as error:
        raise NotPossible(str(error)) from error
    x0, y0 = round(cut.x), round(cut.y)
    x1, y1 = min(picture.width, round(cut.x + cut.w)), min(picture.height, round(cut.y + cut.h))
    out = io.BytesIO()
    try:
        Image.fromarray(ws.store.pixels(take.picture_sha)[y0:y1, x0:x1]).save(out, "PNG")
        stored = ws.store.put(out.getvalue())
    except PictureRefused as error:
        raise NotPossible(str(error)) from error
    with ws.database.session() as s:
        pictures.keep(s, stored)
    with ws.writing(project_id, "rescued a take by a crop") as w:
        parent = found(w.session, Take, take_id, project_id)
        last = max(w.session.scalars(select(Take.position).where(Take.shot_id == parent.shot_id)))
        origin = {k: v for k, v in parent.made_from.items() if k in ("references", "phrases", "held")}
        fresh = Take(
            project_id=project_id,
            shot_id=parent.shot_id,
            picture_sha=stored.sha,
            name=f"{parent.name}, cropped"[:255],
            position=last + 1,
            made_from={**origin, "crop": {"x": float(x0), "y": float(y0), "w": float(x1 - x0), "h": float(y1 - y0)}},
            parent_id=parent.id,
            not_here=list(parent.not_here),
        )
        w.add(fresh)
        area = Box(x0, y0, x1 - x0, y1 - y0)
        for m in list(w.session.scalars(select(Mark).where(Mark.take_id == take_id))):
            if (inside := _inside(_box(m), area)) is not None:
                w.add(
                    Mark(
                        project_id=project_id,
                        take_id=fresh.id,
                        thread_id=m.thread_id,
                        x=inside.x,
                        y=inside.y,
                        w=inside.w,
                        h=inside.h,
                    )
                )
    return w.changed


def _read(s: Session, project_id: str, take_id: str) -> tuple[Take, Picture, Shot, float]:
    take = found(s, Take, take_id, project_id)
    picture, shot = found(s, Picture, take.picture_sha), found(s, Shot, take.shot_id, project_id)
    form = shot.aspect or found(s, Project, project_id).aspect
    wide, high = (float(v) for v in form.split(":")) if form else (picture.width, picture.height)
    return take, picture, shot, wide / high if wide > 0 and high > 0 else picture.width / picture.height


def _box(row: Mark | FaultMark) -> Box:
    return Box(row.x, row.y, row.w, row.h)


def _inside(mark: Box, area: Box) -> Box | None:
    """A mark as it stands in a crop; None where too little of it does."""
    if shared_area(mark, area) < LEAST_INSIDE * mark.w * mark.h:
        return None
    try:
        return Box(mark.x - area.x, mark.y - area.y, mark.w, mark.h).inside(int(area.w), int(area.h))
    except ValueError:
        return None
