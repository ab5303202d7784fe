"""Proof of edits: what one did outside its area, the area taken alone, and how what was added beyond a take's edges matches."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass
from pathlib import Path

from pydantic import TypeAdapter

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.edits.added import ADDED_VERSION, AddedPart, added_parts, place_in
from juxtaform.core.edits.area import Area, mask_of
from juxtaform.core.edits.evidence import proof_map
from juxtaform.core.edits.proof import CHANGED, PROOF_VERSION, EditProof, proof
from juxtaform.core.edits.seam import only_inside
from juxtaform.core.edits.words import harmless, matches, verdict
from juxtaform.core.picture.regions import Box
from juxtaform.media.decode import decoded_file
from juxtaform.records import measures
from juxtaform.records.models import Take
from juxtaform.studio.areas import as_area, as_png, as_row, carry_marks, child_of, stored_picture
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.workspace import Changed, NotThere, Workspace, found

_PROOFS = TypeAdapter(EditProof)
_ADDED = TypeAdapter(tuple[AddedPart, ...])


@dataclass(frozen=True)
class PlaceChanged:
    """Where outside the area something changed (px of the parent's picture), and by how much (CIEDE2000)."""

    box: Box
    delta: float


@dataclass(frozen=True)
class Proved:
    """What an edit did outside its area, in words and numbers; `parent_id` is the take that it was made of. `strength` is the strongest change in
    noises of the pair itself (`floor`, codes); what is stronger than `told_from` is told."""

    take_id: str
    parent_id: str
    words: str
    harmless: str
    changed: bool
    strength: float
    floor: float
    told_from: float
    places: tuple[PlaceChanged, ...]
    key: str


@dataclass(frozen=True)
class SideTold:
    """How what was added on one side matches the rest, in words."""

    words: str
    matches: bool


@dataclass(frozen=True)
class Grown:
    """What was added beyond a take's edges, side by side."""

    take_id: str
    parent_id: str
    sides: tuple[SideTold, ...]


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
        CHANGED,
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
    kept = by_worker(ws, only_task, pair.before, pair.after, json.dumps(as_row(area)))
    picture = stored_picture(ws, kept)
    with ws.writing(project_id, "took only the area") as w:
        parent = found(w.session, Take, pair.parent_id, project_id)
        edit_of = found(w.session, Take, take_id, project_id)
        words = (edit_of.made_from.get("edit") or {}).get("words", "")
        edit = {"area": as_row(area), "words": words, "only": True}
        w.add(fresh := child_of(w.session, parent, picture.sha, f"{edit_of.name}, area only", {"edit": edit}))
        carry_marks(w.session, parent, fresh)
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
        known = by_worker(ws, added_task, str(ws.store.path(sha)), str(ws.store.path(old)))
        measures.keep(ws.database, ADDED_VERSION, {key: known})
    parts = _ADDED.validate_json(known)
    return Grown(take_id, parent_id, tuple(SideTold(matches(p), not p.departures) for p in parts))


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
        known = by_worker(ws, proof_task, pair.before, pair.after, json.dumps(as_row(pair.area)))
        measures.keep(ws.database, PROOF_VERSION, {pair.key: known})
    return _PROOFS.validate_json(known)


def proof_task(before: str, after: str, area: str) -> str:
    """A proof as JSON; runs in a worker process. Raises PictureRefused, ValueError."""
    one = _read(before)
    mask = mask_of(as_area(json.loads(area)), one.shape[1], one.shape[0])
    return _PROOFS.dump_json(proof(one, _read(after), mask)).decode()


def only_task(before: str, after: str, area: str) -> bytes:
    """A PNG of the earlier picture with the area of the later one; runs in a worker process. Raises PictureRefused, ValueError."""
    one = _read(before)
    mask = mask_of(as_area(json.loads(area)), one.shape[1], one.shape[0])
    return as_png(only_inside(one, _read(after), mask))


def added_task(path: str, old: str) -> str:
    """How added parts match, as JSON; runs in a worker process. Raises PictureRefused, ValueError."""
    pixels = _read(path)
    return _ADDED.dump_json(added_parts(pixels, place_in(pixels, _read(old)))).decode()


def _read(path: str) -> Pixels:
    return decoded_file(Path(path))


def _digest(value: object) -> str:
    return hashlib.sha256(json.dumps(value, sort_keys=True).encode()).hexdigest()[:48]
