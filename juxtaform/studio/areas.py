"""One area of a take changed, by a service or by hand; proof that nothing else did; only the area taken; and takes grown beyond their edges."""

from __future__ import annotations

import hashlib
import io
import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar

import numpy as np
from PIL import Image
from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.edits.added import ADDED_VERSION, AddedPart, added_parts, place_in
from juxtaform.core.edits.area import Area, Shape, box_of, mask_of
from juxtaform.core.edits.evidence import proof_map
from juxtaform.core.edits.proof import PROOF_VERSION, EditProof, proof
from juxtaform.core.edits.seam import only_inside
from juxtaform.core.edits.words import harmless, matches, verdict
from juxtaform.core.picture.regions import Box
from juxtaform.media.decode import PictureRefused, decoded_file
from juxtaform.media.store import StoredPicture
from juxtaform.records import measures
from juxtaform.records.models import Mark, Picture, Take
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import making, pictures
from juxtaform.studio.making import Asked, Quality
from juxtaform.studio.remaking import Remake, ask_on
from juxtaform.studio.workspace import Changed, NotPossible, NotThere, Workspace, found, stored

MASK_SIDE_PX = 2048
"""The longer side of a mask that is sent, at most."""
_PROOFS = TypeAdapter(EditProof)
_ADDED = TypeAdapter(tuple[AddedPart, ...])
Done = TypeVar("Done")


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


@dataclass(frozen=True)
class PlaceChanged:
    """Where outside the area something changed (px of the parent's picture), and by how much (CIEDE2000)."""

    box: Box
    delta: float


@dataclass(frozen=True)
class Proved:
    """What an edit did outside its area, in words and numbers; `parent_id` is the take that it was made of. `strength` is the strongest change in
    noises of the pair itself (`floor`, codes)."""

    take_id: str
    parent_id: str
    words: str
    harmless: str
    changed: bool
    strength: float
    floor: float
    places: tuple[PlaceChanged, ...]
    key: str


@dataclass(frozen=True)
class Grown:
    """What was added beyond a take's edges, each side in words, and whether all of it matches."""

    take_id: str
    parent_id: str
    words: tuple[str, ...]
    matches: bool


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
            _carry(w.session, parent, fresh)
    return w.changed


def prove(ws: Workspace, project_id: str, take_id: str) -> Proved:
    """What an edit did outside its area. Raises NotThere for a take that is no edit, or whose parent is gone; NotPossible."""
    pair = _pair(ws, project_id, take_id)
    told = _proof(ws, pair)
    places = tuple(PlaceChanged(p.box, round(p.delta, 1)) for p in told.places)
    return Proved(
        take_id,
        pair.parent_id,
        verdict(told),
        harmless(told),
        told.changed,
        round(told.strength, 1),
        round(told.floor, 2),
        places,
        pair.key,
    )


def prove_map(ws: Workspace, project_id: str, take_id: str) -> bytes:
    """The proof of an edit as a WebP. Raises NotThere, NotPossible."""
    pair = _pair(ws, project_id, take_id)
    told = _proof(ws, pair)
    before = _read(pair.before)
    mask = mask_of(pair.area, before.shape[1], before.shape[0])
    return ws.store.as_webp(proof_map(before, mask, told))


def take_only(ws: Workspace, project_id: str, take_id: str, feather: float | None = None) -> Changed:
    """Make a take of an edit's parent with the area alone taken from the edit: outside it not one pixel differs. Raises NotThere, NotPossible."""
    pair = _pair(ws, project_id, take_id)
    area = pair.area if feather is None else Area(pair.area.shapes, feather)
    kept = _by_worker(ws, only_task, (pair.before, pair.after, json.dumps(as_row(area))))
    picture = _store(ws, kept)
    with ws.writing(project_id, "took only the area") as w:
        parent = found(w.session, Take, pair.parent_id, project_id)
        edit_of = found(w.session, Take, take_id, project_id)
        words = (edit_of.made_from.get("edit") or {}).get("words", "")
        edit = {"area": as_row(area), "words": words, "only": True}
        w.add(fresh := child_of(w.session, parent, picture.sha, f"{edit_of.name}, area only", {"edit": edit}))
        _carry(w.session, parent, fresh)
    return w.changed


def look_at_growth(ws: Workspace, project_id: str, take_id: str) -> Grown:
    """How what was added to a take matches the rest of it. Raises NotThere for a take that did not grow; NotPossible."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        parent = s.get(Take, take.parent_id) if take.parent_id else None
        if not take.made_from.get("grown") or parent is None or parent.project_id != project_id:
            raise NotThere("This take was not grown from another one, or that one is gone.")
        sha, old, parent_id = take.picture_sha, parent.picture_sha, parent.id
        key = f"added{ADDED_VERSION}:{_digest([sha, old])}"
        known = measures.known(s, [key], ADDED_VERSION).get(key)
    if known is None:
        known = _by_worker(ws, added_task, (str(ws.store.path(sha)), str(ws.store.path(old))))
        with ws.database.session() as s:
            measures.keep(s, key, ADDED_VERSION, known)
    parts = _ADDED.validate_json(known)
    return Grown(take_id, parent_id, tuple(matches(p) for p in parts), not any(p.departures for p in parts))


@dataclass(frozen=True)
class _Pair:
    """An edit and what it was made of, as files, and its area."""

    parent_id: str
    before: str
    after: str
    area: Area
    key: str


def _pair(ws: Workspace, project_id: str, take_id: str) -> _Pair:
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        edit = take.made_from.get("edit")
        if not edit:
            raise NotThere("This take is no edit of an area.")
        parent = s.get(Take, take.parent_id) if take.parent_id else None
        if parent is None or parent.project_id != project_id:
            raise NotThere("The take that this edit was made of is gone. Undo brings it back.")
        row = edit["area"]
        key = f"proof{PROOF_VERSION}:{_digest([parent.picture_sha, take.picture_sha, row])}"
        paths = (str(ws.store.path(parent.picture_sha)), str(ws.store.path(take.picture_sha)))
        return _Pair(parent.id, *paths, as_area(row), key)


def _proof(ws: Workspace, pair: _Pair) -> EditProof:
    with ws.database.reading() as s:
        known = measures.known(s, [pair.key], PROOF_VERSION).get(pair.key)
    if known is None:
        known = _by_worker(ws, proof_task, (pair.before, pair.after, json.dumps(as_row(pair.area))))
        with ws.database.session() as s:
            measures.keep(s, pair.key, PROOF_VERSION, known)
    return _PROOFS.validate_json(known)


def _by_worker(ws: Workspace, work: Callable[..., Done], args: tuple[str, ...]) -> Done:
    try:
        return ws.workers.executor().submit(work, *args).result()
    except PictureRefused as error:
        raise NotThere(f"A picture is not in the store as it was: {error}") from error
    except ValueError as error:
        raise NotPossible(str(error)) from error


def proof_task(before: str, after: str, area: str) -> str:
    """A proof as JSON; runs in a worker process. Raises PictureRefused, ValueError."""
    one = _read(before)
    mask = mask_of(as_area(json.loads(area)), one.shape[1], one.shape[0])
    return _PROOFS.dump_json(proof(one, _read(after), mask)).decode()


def only_task(before: str, after: str, area: str) -> bytes:
    """A PNG of the earlier picture with the area of the later one; runs in a worker process. Raises PictureRefused, ValueError."""
    one = _read(before)
    mask = mask_of(as_area(json.loads(area)), one.shape[1], one.shape[0])
    return _png(only_inside(one, _read(after), mask))


def added_task(path: str, old: str) -> str:
    """How added parts match, as JSON; runs in a worker process. Raises PictureRefused, ValueError."""
    pixels = _read(path)
    return _ADDED.dump_json(added_parts(pixels, place_in(pixels, _read(old)))).decode()


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
    return _store(ws, _png(np.repeat(np.rint(mask * 255).astype(np.uint8)[..., None], 3, axis=-1)))


def _store(ws: Workspace, data: bytes) -> StoredPicture:
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


def _carry(s: Session, parent: Take, fresh: Take) -> None:
    """Who is marked in the parent stands in its edit too."""
    one, other = found(s, Picture, parent.picture_sha), found(s, Picture, fresh.picture_sha)
    fx, fy = other.width / one.width, other.height / one.height
    for m in list(s.scalars(select(Mark).where(Mark.take_id == parent.id))):
        s.add(
            Mark(
                project_id=m.project_id,
                take_id=fresh.id,
                thread_id=m.thread_id,
                x=m.x * fx,
                y=m.y * fy,
                w=m.w * fx,
                h=m.h * fy,
            )
        )
    s.flush()


def _read(path: str) -> Pixels:
    return decoded_file(Path(path))


def _png(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    return out.getvalue()


def _digest(value: object) -> str:
    return hashlib.sha256(json.dumps(value, sort_keys=True).encode()).hexdigest()[:48]
