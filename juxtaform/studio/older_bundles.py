"""What the rows of an older bundle become."""

from __future__ import annotations

import hashlib

from juxtaform.core.text.parts import Parts, parted
from juxtaform.formats.bundle import BundleWrong
from juxtaform.limits import MOST_TEXT
from juxtaform.studio.workspace import Row


def brought_up(tables: dict[str, list[Row]]) -> dict[str, list[Row]]:
    """The rows of a bundle as they are kept today. Raises BundleWrong."""
    projects = tables.get("project", [])
    if len(projects) == 1 and isinstance(projects[0].get("text"), str):
        tables = _with_parts(tables)
    if isinstance(tables.get("stet"), list):
        tables = {**tables, "stet": [_without_room(r) for r in tables["stet"]]}
    return tables


def _with_parts(tables: dict[str, list[Row]]) -> dict[str, list[Row]]:
    """A text in one is kept in parts, and what a shot covers by them."""
    project = dict(tables["project"][0])
    text = project.pop("text")
    if len(text) > MOST_TEXT:
        raise BundleWrong(f"bundle.json: project {project.get('id')}: text: it has more than {MOST_TEXT:,} characters.")
    words = parted(text)
    ids = [hashlib.sha256(f"{project.get('id')}:{i}".encode()).hexdigest()[:32] for i in range(len(words))]
    parts = [
        {"id": ids[i], "revision": 1, "project_id": project.get("id"), "position": float(i), "words": part}
        for i, part in enumerate(words)
    ]
    places = Parts([len(w) for w in words])
    shots = [_covering(dict(r), places, ids) for r in tables.get("shot", [])]
    return {**tables, "project": [project], "text_part": parts, "shot": shots}


def _covering(shot: Row, places: Parts, ids: list[str]) -> Row:
    start, end = shot.pop("span_start", None), shot.pop("span_end", None)
    if start is None and end is None:
        return shot
    where = f"bundle.json: shot {str(shot.get('id'))[:40]}: span_end"
    if not isinstance(start, int) or not isinstance(end, int) or not 0 <= start < end:
        raise BundleWrong(f"{where}: a stretch of the text has a start, and an end after it.")
    if end > places.length:
        raise BundleWrong(f"{where}: the text has {places.length} characters.")
    first, last = places.start(start), places.end(end)
    covers = {"start_part_id": ids[first.part], "start_at": first.at, "end_part_id": ids[last.part], "end_at": last.at}
    return {**shot, **covers}


def _without_room(stet: Row) -> Row:
    """Older bundles say before a stet's key which room found it."""
    key = stet.get("finding_key")
    return {**stet, "finding_key": key.rpartition(":")[2]} if isinstance(key, str) else stet
