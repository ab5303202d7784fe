"""Whether a project's rows hold together as a whole: what one names is there, what belongs together fits."""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping, Sequence
from typing import Any

from juxtaform.core.picture.regions import Box
from juxtaform.limits import MOST_TEXT
from juxtaform.records.rules import PICTURES, links

Row = dict[str, Any]
Tables = Mapping[str, Sequence[Row]]
PLACES = (("mark", "take_id", "take"), ("fault_mark", "take_id", "take"), ("trait", "reference_id", "reference"))
"""Tables whose rows are places in a picture, and the row whose picture it is."""
Sizes = Mapping[str, tuple[int, int]]
"""Width and height of pictures in px, by digest."""


def fault(tables: Tables, sizes: Sizes, sounds: Container[str] = ()) -> str | None:
    """What is wrong with a project's rows, each of which keeps its rule, as `table id: field: what`; None when nothing is."""
    return next(_faults(tables, sizes, sounds), None)


def _faults(tables: Tables, sizes: Sizes, sounds: Container[str]) -> Iterator[str]:
    if len(tables["project"]) != 1:
        yield "there must be exactly one project in a bundle."
        return
    project = tables["project"][0]
    rows = {table: {r["id"]: r for r in table_rows} for table, table_rows in tables.items()}
    seen: set[str] = set()
    for table, table_rows in tables.items():
        for r in table_rows:
            where = f"{table} {r['id']}"
            if r["id"] in seen:
                yield f"{where}: id: it is there twice."
            seen.add(r["id"])
            if table != "project" and r["project_id"] != project["id"]:
                yield f"{where}: project_id: it names the project {r['project_id']}, which is not there."
            for column, target, key in links(table, r):
                if key not in rows[target]:
                    yield f"{where}: {column}: it names the {target} {key}, which is not there."
            for column in PICTURES:
                if r.get(column) and r[column] not in sizes:
                    yield f"{where}: {column}: it names the picture {r[column]}, which is not there."
    for r in tables["sound"]:
        if r["sound_sha"] not in sounds:
            yield f"sound {r['id']}: sound_sha: it names the sound {r['sound_sha']}, which is not there."
    yield from _twice(tables)
    yield from _strangers(tables, rows)
    yield from _outside(tables, rows, sizes)


def _twice(tables: Tables) -> Iterator[str]:
    """What can be there once, and is there twice."""
    styles = {t["id"] for t in tables["thread"] if t["kind"] == "style"}
    once: list[tuple[str, str, Any]] = [("bead", "thread_id", (b["shot_id"], b["thread_id"])) for b in tables["bead"]]
    where = [b["id"] for b in tables["bead"]]
    for table, column, key in (
        ("take", "picked", lambda r: r["shot_id"] if r["picked"] else None),
        ("mark", "thread_id", lambda r: (r["take_id"], r["thread_id"])),
        ("stet", "finding_key", lambda r: r["finding_key"]),
        ("library_picture", "picture_sha", lambda r: r["picture_sha"]),
        ("bead", "style", lambda r: r["shot_id"] if r["thread_id"] in styles else None),
    ):
        for r in tables[table]:
            if (value := key(r)) is not None:
                once.append((table, column, value))
                where.append(r["id"])
    known: set[tuple[str, str, Any]] = set()
    for entry, key in zip(once, where, strict=True):
        if entry in known:
            yield f"{entry[0]} {key}: {entry[1]}: there can be one, and there are two."
        known.add(entry)


def _strangers(tables: Tables, rows: Mapping[str, Mapping[str, Row]]) -> Iterator[str]:
    """What names a row that is there, and not one of its own."""
    for r in tables["trait"]:
        if rows["reference"][r["reference_id"]]["thread_id"] != r["thread_id"]:
            yield f"trait {r['id']}: reference_id: the picture is of another thread."
    for r in tables["bead"]:
        if r["reference_id"] and rows["reference"][r["reference_id"]]["thread_id"] != r["thread_id"]:
            yield f"bead {r['id']}: reference_id: the picture is of another thread."
    replaced = {r["id"]: r["replaces_id"] for r in tables["reference"]}
    for r in tables["reference"]:
        older, steps = r["replaces_id"], 0
        if older and rows["reference"][older]["thread_id"] != r["thread_id"]:
            yield f"reference {r['id']}: replaces_id: the older picture is of another thread."
        while older and steps <= len(replaced):
            older, steps = replaced[older], steps + 1
        if older:
            yield f"reference {r['id']}: replaces_id: it replaces itself."
    parents = {r["id"]: r["parent_id"] for r in tables["take"]}
    for take in parents:
        older, steps = parents[take], 0
        while older and steps <= len(parents):
            older, steps = parents[older], steps + 1
        if older:
            yield f"take {take}: parent_id: it was made from itself."
    for p in tables["project"]:
        if p["style_id"] and rows["thread"][p["style_id"]]["kind"] != "style":
            yield f"project {p['id']}: style_id: the usual style has to be a style."
    for t in tables["thread"]:
        if t["owner_id"] == t["id"]:
            yield f"thread {t['id']}: owner_id: it belongs to itself."


def _outside(tables: Tables, rows: Mapping[str, Mapping[str, Row]], sizes: Sizes) -> Iterator[str]:
    """Places outside of what they are places in."""
    length = {r["id"]: len(r["words"]) for r in tables["text_part"]}
    if sum(length.values()) > MOST_TEXT:
        yield f"project {tables['project'][0]['id']}: the text has more than {MOST_TEXT:,} characters."
    for r in tables["shot"]:
        for part, at in (("start_part_id", "start_at"), ("end_part_id", "end_at")):
            if r[part] is not None and r[at] > length[r[part]]:
                yield f"shot {r['id']}: {at}: this part of the text has {length[r[part]]} characters."
    for table, column, whole in PLACES:
        for r in tables[table]:
            width, height = sizes[rows[whole][r[column]]["picture_sha"]]
            try:
                Box(r["x"], r["y"], r["w"], r["h"]).inside(width, height)
            except ValueError as error:
                yield f"{table} {r['id']}: x: {error}"
