"""A project given out as a bundle, and taken in again: with its own ids where these are free, so that stets hold."""

from __future__ import annotations

import types
import typing
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from typing import IO, Any, get_args, get_origin
from urllib.parse import quote

from sqlalchemy import Column, inspect, select
from sqlalchemy.orm import Session

from juxtaform.formats import bundle as form
from juxtaform.formats.bundle import ENDINGS, Bundle, BundledPicture, BundleWrong, OpenBundle
from juxtaform.formats.manifest import Manifest
from juxtaform.media.clips import ENDINGS as CLIP_ENDINGS
from juxtaform.media.decode import PictureRefused
from juxtaform.media.sounds import ENDINGS as SOUND_ENDINGS
from juxtaform.media.store import Putting, StoredPicture
from juxtaform.records import rules
from juxtaform.records.models import (
    JOURNALED,
    Bead,
    Journaled,
    Mark,
    Picture,
    Project,
    Reference,
    Shot,
    SoundFile,
    Take,
    Thread,
    Trait,
    as_utc,
    new_id,
)
from juxtaform.records.rules import PICTURES
from juxtaform.studio import clips, measures, members, plan, sounds, wholeness
from juxtaform.studio.older_bundles import brought_up
from juxtaform.studio.pictures import keep
from juxtaform.studio.workspace import NotPossible, Row, Workspace, found, of_project, plain

LINKS = (
    "project_id",
    "scene_id",
    "start_part_id",
    "end_part_id",
    "shot_id",
    "thread_id",
    "reference_id",
    "take_id",
    "owner_id",
    "replaces_id",
    "from_shot_id",
    "style_id",
    "parent_id",
    "until_shot_id",
)


def give_out(ws: Workspace, project_id: str, out: IO[bytes]) -> str:
    """Write a project as a bundle; returns its file name, percent-encoded. Raises NotThere."""
    with ws.database.reading() as s:
        project = found(s, Project, project_id)
        tables: dict[str, list[Row]] = {"project": [_told(project)]}
        for table, model in JOURNALED.items():
            if model is not Project:
                rows = [_told(r) for r in of_project(s, model, project_id)]  # type: ignore[type-var]
                tables[table] = sorted(rows, key=lambda r: (r.get("position", 0.0), r["id"]))
        _untie(tables)
        shas = sorted({r[k] for rows in tables.values() for r in rows for k in PICTURES if r.get(k)})
        pictures = {
            p.sha: BundledPicture(p.sha, ENDINGS.get(p.media_type, "png"), _clip_ending(p.clip))
            for p in s.scalars(select(Picture).where(Picture.sha.in_(shas)))
        }
        named = {r["sound_sha"] for r in tables["sound"]}
        heard = {
            f.sha: SOUND_ENDINGS[f.media_type] for f in s.scalars(select(SoundFile).where(SoundFile.sha.in_(named)))
        }
        made = Bundle(
            tables, list(pictures.values()), _manifest(s, project, pictures), _marks(s, project_id, pictures), heard
        )
        title = project.title
    form.write(
        made,
        lambda sha: ws.store.path(sha).read_bytes(),
        out,
        lambda sha: ws.store.clip_path(sha).read_bytes(),
        lambda sha: ws.sounds.path(sha).read_bytes(),
    )
    return quote(f"{title}.zip")


def take_in(ws: Workspace, file: IO[bytes], name: str, owner_id: str | None = None) -> str:
    """Take in a bundle as a project of its own; returns its id. Nothing is kept of a bundle that is not whole and safe: neither a
    row nor a picture.

    Its ids are kept when they are free; beside its own original it gets fresh ones. Raises NotPossible with the place.
    """
    try:
        bundle = OpenBundle(file, name)
        rows = _checked(brought_up(bundle.tables))
        with ws.store.putting() as put:
            pictures = {p.sha: _picture(put, bundle, p) for p in bundle.pictures}
            filmed = {p.sha: _clip(ws, bundle, p) for p in bundle.pictures if p.clip}
            wrong = wholeness.fault(rows, {sha: (p.width, p.height) for sha, p in pictures.items()}, bundle.sounds)
            if wrong:
                raise BundleWrong(f"bundle.json: {wrong}")
            for sha in bundle.sounds:
                _heard(ws, bundle, sha)
            put.settle()
            for sha, (data, _) in filmed.items():
                ws.store.put_clip(sha, data)
            with ws.database.session() as s:
                for p in pictures.values():
                    keep(s, replace(p, clip=filmed[p.sha][1]) if p.sha in filmed else p)
                project_id = _written(s, rows)
                if owner_id is not None:
                    members.raise_to(s, project_id, owner_id, "owner")
    except BundleWrong as error:
        raise NotPossible(str(error)) from error
    measures.measure(ws, measures.OF_REFERENCES, [r["picture_sha"] for r in rows["reference"]])
    return project_id


def _picture(put: Putting, bundle: OpenBundle, p: BundledPicture) -> StoredPicture:
    try:
        return put(bundle.picture(p))
    except PictureRefused as error:
        raise BundleWrong(f"{p.path}: {error}") from error


def _clip(ws: Workspace, bundle: OpenBundle, p: BundledPicture) -> tuple[bytes, dict[str, object]]:
    """A clip of a bundle and what is known of it; its first frame names it. Raises BundleWrong."""
    data = bundle.clip(p)
    try:
        return data, clips.proved(ws, data, bundle.picture(p))
    except PictureRefused as error:
        raise BundleWrong(f"{p.clip_path}: {error}") from error


def _heard(ws: Workspace, bundle: OpenBundle, sha: str) -> None:
    """Keep a sound of a bundle. Raises BundleWrong."""
    try:
        sounds.take_in(ws, bundle.sound(sha))
    except NotPossible as error:
        raise BundleWrong(f"{form.sound_path(sha, bundle.sounds[sha])}: {error}") from error


def _clip_ending(clip: dict[str, Any] | None) -> str:
    return CLIP_ENDINGS.get(str((clip or {}).get("media_type")), "")


def _written(s: Session, rows: dict[str, list[Row]]) -> str:
    project_id: str = rows["project"][0]["id"]
    taken = any(
        s.scalars(select(JOURNALED[t].id).where(JOURNALED[t].id.in_([r["id"] for r in table_rows])).limit(1)).first()
        for t, table_rows in rows.items()
        if table_rows
    )
    fresh = {r["id"]: new_id() for table_rows in rows.values() for r in table_rows} if taken else {}
    for table, model in JOURNALED.items():
        for r in rows.get(table, ()):
            values = {k: fresh.get(v, v) if k in ("id", *LINKS) and isinstance(v, str) else v for k, v in r.items()}
            if fresh:
                values = _relinked(values, fresh)
            s.add(model(**values))
        s.flush()
    return fresh.get(project_id, project_id)


def _relinked(values: Row, fresh: dict[str, str]) -> Row:
    """Ids inside JSON columns (speakers, kept colours, edits, what a take was made from) made to follow."""

    def follow(v: Any) -> Any:
        if isinstance(v, str):
            head, _, tail = v.partition(":")
            return fresh.get(v) or (f"{head}:{fresh[tail]}" if tail in fresh else v)
        if isinstance(v, list):
            return [follow(x) for x in v]
        return {k: follow(x) for k, x in v.items()} if isinstance(v, dict) else v

    return {k: follow(v) if isinstance(v, (list, dict)) else v for k, v in values.items()}


def _checked(tables: dict[str, list[Row]]) -> dict[str, list[Row]]:
    """The rows with their times revived; each keeps the rule of its table."""
    strange = set(tables) - set(JOURNALED)
    if strange:
        raise BundleWrong(f"bundle.json: there is no table {sorted(strange)[0][:60]!r}.")
    return {table: [_row(table, model, r) for r in tables.get(table, [])] for table, model in JOURNALED.items()}


def _row(table: str, model: type[Journaled], given: Row) -> Row:
    columns = {c.key: c for c in inspect(model).columns}
    where = f"{table} {str(given.get('id'))[:40]}"
    strange = set(given) - set(columns)
    if strange:
        raise BundleWrong(f"bundle.json: {where}: there is no column {sorted(strange)[0][:60]!r}.")
    hints = typing.get_type_hints(model, include_extras=False, localns={})
    out: Row = {}
    for key, column in columns.items():
        value = given[key] if key in given else _default(where, key, column)
        kinds = _kinds(get_args(hints[key])[0] if get_args(hints[key]) else str)
        if datetime in kinds and isinstance(value, str):
            try:
                value = as_utc(datetime.fromisoformat(value))
            except (ValueError, OverflowError) as error:
                raise BundleWrong(f"bundle.json: {where}: {key}: this is no time.") from error
        if float in kinds and isinstance(value, int) and not isinstance(value, bool) and abs(value) < 2**53:
            value = float(value)
        out[key] = value
    wrong = rules.fault(table, out)
    if wrong:
        raise BundleWrong(f"bundle.json: {where}: {wrong}.")
    return out


def _default(where: str, key: str, column: Column[Any]) -> Any:
    """What a row of an older bundle has in a column that it does not know."""
    if column.default is None:
        if column.nullable:
            return None
        raise BundleWrong(f"bundle.json: {where}: {key} is missing.")
    arg = column.default.arg  # type: ignore[attr-defined]
    return arg(None) if callable(arg) else arg


def _kinds(hint: Any) -> tuple[type, ...]:
    if isinstance(hint, types.UnionType) or get_origin(hint) is typing.Union:
        return tuple(k for part in get_args(hint) for k in _kinds(part))
    return (get_origin(hint) or hint,)


def _untie(tables: dict[str, list[Row]]) -> None:
    """Let go of what rows of an older Juxtaform name and is not there any more."""
    there = {table: {r["id"] for r in rows} for table, rows in tables.items()}
    for table, rows in tables.items():
        for r in rows:
            for column, target, key in list(rules.links(table, r)):
                if key in there[target]:
                    continue
                if column == "kept_colours":
                    r[column] = [k for k in r[column] if k["thread_id"] != key]
                else:
                    r[column] = None


def _told(row: Journaled) -> Row:
    return {k: v.isoformat() if isinstance(v, datetime) else v for k, v in plain(row).items()}  # type: ignore[arg-type]


def _manifest(s: Session, project: Project, pictures: dict[str, BundledPicture]) -> Row | None:
    """The sequence for a check without a screen, its pictures inside the bundle; None when there is no shot."""
    shots = plan.in_order(s, project.id)
    if not shots:
        return None
    threads = of_project(s, Thread, project.id)
    references = sorted(of_project(s, Reference, project.id), key=lambda r: (r.position, r.id))
    traits = of_project(s, Trait, project.id)
    picked = {t.shot_id: t for t in of_project(s, Take, project.id) if t.picked}
    marks: defaultdict[str, list[Mark]] = defaultdict(list)
    for m in sorted(of_project(s, Mark, project.id), key=lambda m: m.id):
        marks[m.take_id].append(m)
    beads: defaultdict[str, dict[str, Bead]] = defaultdict(dict)
    for b in sorted(of_project(s, Bead, project.id), key=lambda b: b.id):
        beads[b.shot_id][b.thread_id] = b
    kinds = {t.id: t.kind for t in threads}
    return Manifest.model_validate(
        {
            "title": project.title,
            "references": [_reference(t, references, traits, pictures) for t in threads],
            "shots": [_shot(x, picked.get(x.id), marks, beads[x.id], kinds, pictures, project.style_id) for x in shots],
        }
    ).model_dump(mode="json", exclude_defaults=True) | {"format": "juxtaform-sequence/1"}


def _reference(
    t: Thread, references: Sequence[Reference], traits: Sequence[Trait], pictures: dict[str, BundledPicture]
) -> Row:
    own = [r for r in references if r.thread_id == t.id and r.picture_sha in pictures]
    index = {r.id: i for i, r in enumerate(own)}
    kept: defaultdict[str, list[str]] = defaultdict(list)
    for k in t.kept_colours:
        kept[k["thread_id"]].append(k["hex"])
    return {
        "id": t.id,
        "kind": t.kind,
        "name": t.name,
        "aliases": list(t.aliases),
        "kept_colours": dict(kept),
        "pictures": [
            {"path": pictures[r.picture_sha].path, "weight": r.weight, "view": r.name, "costume": r.costume}
            for r in own
        ],
        "traits": [
            {
                "name": x.name,
                "colours": list(x.colours),
                "box": (x.x, x.y, x.w, x.h),
                "picture": index[x.reference_id],
                "part": x.part,
            }
            for x in traits
            if x.thread_id == t.id and x.reference_id in index and not x.free
        ],
    }


def _shot(
    x: Shot,
    take: Take | None,
    marks: dict[str, list[Mark]],
    beads: dict[str, Any],
    kinds: dict[str, str],
    pictures: dict[str, BundledPicture],
    usual_style: str | None,
) -> Row:
    def first(kind: str) -> str | None:
        return next((i for i in beads if kinds[i] == kind), None)

    there = marks[take.id] if take and take.id in marks else []
    return {
        "id": x.id,
        "words": x.shows,
        "assigned": sorted(beads),
        "setting": first("setting"),
        "style": first("style") or usual_style,
        "picture": pictures[take.picture_sha].path if take and take.picture_sha in pictures else None,
        "appearances": [
            {
                "reference": m.thread_id,
                "box": (m.x, m.y, m.w, m.h),
                "costume": beads[m.thread_id].costume if m.thread_id in beads else "",
                "hold": hold
                if m.thread_id in beads and (hold := beads[m.thread_id].hold) in ("figure", "face", "outfit")
                else "figure",
            }
            for m in there
        ],
    }


def _marks(s: Session, project_id: str, pictures: dict[str, BundledPicture]) -> Row:
    takes = {t.id: t for t in of_project(s, Take, project_id)}
    names = {t.id: t.name for t in of_project(s, Thread, project_id)}
    rows = sorted(of_project(s, Mark, project_id), key=lambda m: m.id)
    return form.web_annotations(
        [
            (m.id, pictures[takes[m.take_id].picture_sha].path, (m.x, m.y, m.w, m.h), m.thread_id, names[m.thread_id])
            for m in rows
            if takes[m.take_id].picture_sha in pictures
        ]
    )
