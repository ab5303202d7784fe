"""The shot list as a table: out as CSV, cells and PDF; in from CSV and from pasted cells."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy.orm import Session

from juxtaform.formats import shot_table
from juxtaform.formats.shot_table import Cells, TableRow, TableWrong
from juxtaform.formats.shotlist_pdf import PrintedShot, shot_list_pdf
from juxtaform.records import rules
from juxtaform.records.models import Bead, Project, Scene, Shot, Take, Thread, new_id
from juxtaform.studio import plan
from juxtaform.studio.storytext import text_of
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, Writing, found, of_project

MOST_NAMED = 6
"""Names and columns that a table's question tells one by one."""
_PARTED = re.compile(r"\s*(?:[,/&+\n]|\band\b)\s*")
THREAD_FACTS = ("character", "setting", "style", "prop")
FACTS = (
    "shows",
    "size",
    "angle",
    "move",
    "length_s",
    "spoken",
    "motion",
    "sound",
    "music",
    "notes",
    "page_form",
    "bleed",
    "aspect",
    "seed",
    "donts",
)


def as_csv(ws: Workspace, project_id: str) -> bytes:
    """The shot list as CSV in the project's columns, with the ids that a round trip needs."""
    rows, headers = _cells(ws, project_id)
    return shot_table.write_csv(rows, [*headers, *([] if "Id" in headers or not headers else ["Id"])])


def as_tabs(ws: Workspace, project_id: str) -> str:
    """The shot list as cells to paste into a spreadsheet, in the project's columns."""
    rows, headers = _cells(ws, project_id)
    return shot_table.write_tabs(rows, [*headers, *([] if "Id" in headers or not headers else ["Id"])])


def as_pdf(ws: Workspace, project_id: str) -> bytes:
    """The shot list to print, with pictures."""
    with ws.database.session() as s:
        project = found(s, Project, project_id)
        picked = {t.shot_id: t.picture_sha for t in of_project(s, Take, project_id) if t.picked}
        sketches = {x.id: x.sketch_sha for x in of_project(s, Shot, project_id) if x.sketch_sha}
        title, headers = project.title, list(project.table_columns)
    rows, _ = _cells(ws, project_id)
    printed = []
    for row in rows:
        sha = picked.get(row["id"]) or sketches.get(row["id"])
        printed.append(PrintedShot(row, ws.store.thumb_path(sha, 960).read_bytes() if sha else None))
    return shot_list_pdf(title, printed, headers)


class TableAsks(NotPossible):
    """A table with names that are no threads, or columns that nothing is known of; `offer` says what would be done about it."""

    def __init__(self, unknown: Sequence[str], missing: Mapping[tuple[str, str], tuple[str, int]]) -> None:
        told = [f"Line 1: there is no column “{h[:60]}”." for h in unknown[:MOST_NAMED]]
        told += [f"Line {line}: there is no {kind} “{name[:80]}”." for (kind, _), (name, line) in missing.items()]
        more = len(unknown) + len(missing) - MOST_NAMED
        super().__init__(" ".join(told[:MOST_NAMED]) + (f" And {more} more." if more > 0 else ""))
        threads = "a thread of it" if len(missing) == 1 else f"threads of these {len(missing)}"
        columns = "that column" if len(unknown) == 1 else f"these {len(unknown)} columns"
        deeds = [f"make {threads}"] * bool(missing) + [f"leave out {columns}"] * bool(unknown)
        self.offer = f"Take it in: {' and '.join(deeds)}"


def take_in(ws: Workspace, project_id: str, data: bytes | str, mend: bool = False) -> Changed:
    """Change shots by a table, all of it or nothing. Rows without an id are new shots; shots that the table leaves out
    stay. With `mend` names that are no threads become some, and columns that nothing is known of are left out; without it
    they are asked about. Raises NotPossible naming line and column, TableAsks."""
    try:
        table = shot_table.read_table(data)
    except TableWrong as error:
        raise NotPossible(str(error)) from error
    rows = table.rows
    with ws.writing(project_id, "took in a table") as w:
        reader = _Reader(w, project_id)
        for row in rows:
            reader.name(row)
        if not mend and (table.unknown or reader.missing):
            raise TableAsks(table.unknown, reader.missing)
        reader.make_missing()
        for row in rows:
            reader.check(row)
        changed = sum(reader.put(row) for row in rows)
        reader.finish()
        new = sum(1 for row in rows if not row.facts.get("id"))
        done = [f"{changed} changed"] * bool(changed or not new) + [f"{new} new"] * bool(new)
        done += [f"{len(reader.missing)} new threads"] * bool(reader.missing)
        w.name(f"took in a table: {', '.join(done)}")
    return w.changed


def _cells(ws: Workspace, project_id: str) -> tuple[list[Cells], list[str]]:
    with ws.database.session() as s:
        project = found(s, Project, project_id)
        shots = plan.in_order(s, project_id)
        scenes = {x.id: x.title for x in of_project(s, Scene, project_id)}
        threads = {t.id: t for t in of_project(s, Thread, project_id)}
        running = _running(s, project_id, threads)
        headers = [h for h in project.table_columns if h.casefold() in shot_table.BY_HEADER]
        text = text_of(s, project_id)
    rows = []
    for i, x in enumerate(shots):
        covered = text.covered(x)
        rows.append(
            {
                "number": str(i + 1),
                "scene": scenes[x.scene_id],
                "shows": x.shows,
                "size": x.size,
                "angle": x.angle,
                "move": x.move,
                "length_s": f"{x.length_s:g}",
                "spoken": x.spoken,
                "motion": x.motion,
                "sound": x.sound,
                "music": x.music,
                "notes": x.notes,
                "page_form": x.page_form,
                "bleed": "yes" if x.bleed else "no",
                "aspect": x.aspect,
                "seed": "" if x.seed is None else str(x.seed),
                "donts": "; ".join(x.donts),
                "words": " ".join(covered.split()),
                "id": x.id,
                **{kind: "; ".join(running[x.id][kind]) for kind in THREAD_FACTS},
            }
        )
    return rows, headers


def _running(s: Session, project_id: str, threads: dict[str, Thread]) -> dict[str, dict[str, list[str]]]:
    by: defaultdict[str, dict[str, list[str]]] = defaultdict(lambda: {kind: [] for kind in THREAD_FACTS})
    for bead in of_project(s, Bead, project_id):
        thread = threads[bead.thread_id]
        by[bead.shot_id][thread.kind].append(thread.name)
    for kinds in by.values():
        for names in kinds.values():
            names.sort()
    return by


class _Reader:
    """Puts rows of a table into the plan; all that is new goes to the database at once."""

    def __init__(self, w: Writing, project_id: str) -> None:
        self.w, self.project_id = w, project_id
        self.shots = {x.id: x for x in of_project(w.session, Shot, project_id)}
        self.scenes = {x.id: x for x in of_project(w.session, Scene, project_id)}
        self.by_title: dict[str, Scene] = {}
        for scene in self.scenes.values():
            self.by_title.setdefault(scene.title, scene)
        self.threads = of_project(w.session, Thread, project_id)
        self.by_name = {(t.kind, word.casefold()): t for t in self.threads for word in (t.name, *t.aliases)}
        self.beads: defaultdict[str, dict[str, Bead]] = defaultdict(dict)
        for bead in of_project(w.session, Bead, project_id):
            self.beads[bead.shot_id][bead.thread_id] = bead
        self.last: defaultdict[str, float] = defaultdict(lambda: -1.0)
        for shot in self.shots.values():
            self.last[shot.scene_id] = max(self.last[shot.scene_id], shot.position)
        self.scene: Scene | None = None
        self.left: set[str] = set()
        self.missing: dict[tuple[str, str], tuple[str, int]] = {}
        self.gone: list[Bead] = []
        self.fresh: tuple[list[Scene], list[Shot], list[Bead]] = ([], [], [])

    def name(self, row: TableRow) -> None:
        """Find the threads that a row names; who and what is none may be a list, where commas or *and* part it."""
        for kind in THREAD_FACTS:
            if kind not in row.facts:
                continue
            names = [
                part
                for name in row.facts[kind]
                for part in ([name] if self._is_one(kind, name) else _PARTED.split(name))
                if part
            ]
            row.facts[kind] = names
            for name in names:
                if (kind, name.casefold()) not in self.by_name:
                    self.missing.setdefault((kind, name.casefold()), (name, row.line))

    def _is_one(self, kind: str, name: str) -> bool:
        return kind not in ("character", "prop") or (kind, name.casefold()) in self.by_name

    def make_missing(self) -> None:
        """Make threads of the names that are none yet."""
        last = max((t.position for t in self.threads), default=-1.0)
        made = []
        for (kind, _), (name, line) in self.missing.items():
            if wrong := rules.field_fault("thread", "name", name):
                raise NotPossible(f"Line {line}, column “{shot_table.BY_FACT[kind].header}”: {wrong}.")
            last += 1
            thread = Thread(id=new_id(), project_id=self.project_id, kind=kind, name=name, position=last)
            self.by_name[kind, name.casefold()] = thread
            made.append(thread)
        self.threads = [*self.threads, *made]
        self.w.add(*made)

    def check(self, row: TableRow) -> None:
        """See that a row can be put in. Raises NotPossible, naming its line."""
        key = row.facts.get("id")
        if key and key not in self.shots:
            raise NotPossible(
                f"Line {row.line}: there is no shot with the id {key[:40]}. Leave the id out to make a new shot."
            )
        if len({self.by_name["style", n.casefold()].id for n in row.facts.get("style", ())}) > 1:
            raise NotPossible(f"Line {row.line}, column “Styles”: a shot has one style. Keep one of them.")
        for fact in FACTS:
            if fact in row.facts and (wrong := rules.field_fault("shot", fact, row.facts[fact])):
                raise NotPossible(f"Line {row.line}, column “{shot_table.BY_FACT[fact].header}”: {wrong}.")
        if wrong := rules.field_fault("scene", "title", row.facts.get("scene", "")):
            raise NotPossible(f"Line {row.line}, column “Scene”: {wrong}.")

    def put(self, row: TableRow) -> bool:
        """Put a row in; returns whether it changed facts of a shot that was there."""
        facts: dict[str, Any] = {k: v for k, v in row.facts.items() if k in FACTS}
        shot = self.shots.get(row.facts.get("id") or "")
        was_there = shot is not None
        if shot is None:
            shot = self._new(row)
        altered = any(getattr(shot, key) != value for key, value in facts.items())
        for key, value in facts.items():
            setattr(shot, key, value)
        self.scene = self.scenes[shot.scene_id]
        if was_there and "scene" in row.facts and row.facts["scene"] != self.scene.title:
            self.left.add(shot.scene_id)
            self._place(shot, self._titled(row.facts["scene"]))
        self._run(shot, row)
        return was_there and altered

    def finish(self) -> None:
        """Write all that is new, take away what is gone, and scenes that were left empty."""
        for rows in self.fresh:
            self.w.add(*rows)
        self.w.erase(self.gone)
        plan.erase_empty_scenes(self.w, self.left)

    def _new(self, row: TableRow) -> Shot:
        title = row.facts.get("scene", self.scene.title if self.scene else "")
        scene = self.scene if self.scene is not None and title == self.scene.title else self._titled(title)
        shot = Shot(id=new_id(), project_id=self.project_id)
        self._place(shot, scene)
        self.shots[shot.id] = shot
        self.fresh[1].append(shot)
        return shot

    def _titled(self, title: str) -> Scene:
        """The scene with a heading; a new one at the end when there is none."""
        if title in self.by_title:
            return self.by_title[title]
        end = max((x.position for x in self.scenes.values()), default=-1.0)
        scene = Scene(id=new_id(), project_id=self.project_id, title=title, position=end + 1)
        self.scenes[scene.id] = self.by_title[title] = scene
        self.fresh[0].append(scene)
        return scene

    def _place(self, shot: Shot, scene: Scene) -> None:
        """Put a shot at the end of a scene."""
        self.last[scene.id] += 1
        shot.scene_id, shot.position = scene.id, self.last[scene.id]
        self.scene = scene

    def _run(self, shot: Shot, row: TableRow) -> None:
        beads = self.beads[shot.id]
        for kind in THREAD_FACTS:
            if kind not in row.facts:
                continue
            wanted = {self.by_name[kind, name.casefold()].id for name in row.facts[kind]}
            mine = {t.id for t in self.threads if t.kind == kind}
            for thread in mine - wanted:
                if (bead := beads.pop(thread, None)) is not None:
                    self._drop(bead)
            for thread in sorted(wanted - set(beads)):
                beads[thread] = Bead(project_id=self.project_id, shot_id=shot.id, thread_id=thread)
                self.fresh[2].append(beads[thread])

    def _drop(self, bead: Bead) -> None:
        if bead in self.fresh[2]:
            self.fresh[2].remove(bead)
        else:
            self.gone.append(bead)


def columns() -> Sequence[shot_table.Column]:
    """All columns that a table can have."""
    return shot_table.COLUMNS
