"""Where the cast of a shot is to stand, as it is drawn on its layout guide."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import select

from juxtaform.core.figure.standing import settled
from juxtaform.core.picture.regions import Box
from juxtaform.records.models import Bead, Picture, Shot, Thread
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.seeking import place_key
from juxtaform.studio.sequence import assigned_figures
from juxtaform.studio.spotting import SpotTask, spot
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, edited, found, of_project


def look_on_guide(ws: Workspace, project_id: str, shot_id: str) -> Changed:
    """Look on a shot's layout guide for those of its cast whose place nobody has said, and put whoever is found there. Raises NotThere, NotPossible where
    there is no guide, nobody to look for, or nobody is found."""
    with ws.database.reading() as s:
        shot = found(s, Shot, shot_id, project_id)
        sha = shot.sketch_sha
        if sha is None:
            raise NotPossible("The shot has no layout guide. Give it a picture or a sketch first.")
        figures = assigned_figures(s, ws.store, project_id, [shot_id]).get(shot_id, {})
        cast = {t.id for t in of_project(s, Thread, project_id) if t.kind == "character"}
        picture = found(s, Picture, sha)
        beads = {b.thread_id: b for b in s.scalars(select(Bead).where(Bead.shot_id == shot_id))}
    placed = {t: _box_of(b.stands, picture) for t, b in beads.items() if b.stands}
    wanted = {t: f for t, f in figures.items() if t in cast and t not in placed}
    if not wanted:
        raise NotPossible("There is nobody to look for: all who have references are placed.")
    spotted = by_worker(ws, spot, SpotTask(str(ws.store.path(sha)), sha, tuple(wanted.values())))
    if spotted.trouble:
        raise NotPossible(spotted.trouble)
    places = {t: spotted.places[place_key(sha, f)] for t, f in wanted.items()}
    seen = {x.figure: x.box for x in settled(places, placed) if x.answer == "found" and x.box is not None}
    if not seen:
        raise NotPossible(
            "Nobody was recognised on the guide; a rough sketch seldom looks like the references. Place them by hand."
        )
    with ws.writing(project_id, "placed the cast") as w:
        now = {b.thread_id: b for b in w.session.scalars(select(Bead).where(Bead.shot_id == shot_id))}
        for thread, box in seen.items():
            if thread in now and now[thread].stands is None:
                edited(now[thread], None, {"stands": _shares(box, picture)})
        w.name(f"placed {len(seen)} {'figure' if len(seen) == 1 else 'figures'} as on the guide")
    return w.changed


def _box_of(stands: Sequence[float], picture: Picture) -> Box:
    x, y, w, h = stands
    return Box(x * picture.width, y * picture.height, w * picture.width, h * picture.height)


def _shares(box: Box, picture: Picture) -> list[float]:
    """A box as shares of a picture, cut to it."""
    left, top = max(0.0, box.x / picture.width), max(0.0, box.y / picture.height)
    right, bottom = min(1.0, (box.x + box.w) / picture.width), min(1.0, (box.y + box.h) / picture.height)
    return [round(v, 4) for v in (left, top, right - left, bottom - top)]
