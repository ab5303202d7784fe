"""A project's rows held together in memory, and brought up to date by what the journal says was touched."""

from __future__ import annotations

from collections import defaultdict
from functools import cached_property

from sqlalchemy import select
from sqlalchemy.orm import Session, load_only

from juxtaform.records import journal
from juxtaform.records.models import (
    APART,
    JOURNALED,
    Bead,
    Beat,
    FaultMark,
    Journaled,
    Mark,
    Picture,
    Project,
    Reference,
    Scene,
    Service,
    Shot,
    Sound,
    SoundFile,
    Stet,
    Take,
    TextPart,
    Thread,
    Trait,
    Trial,
)
from juxtaform.records.rules import PICTURES
from juxtaform.studio.storytext import StoryText
from juxtaform.studio.workspace import found, of_project

MOST_ENTRIES = 200
"""Who is further behind reads the project anew."""
SHAPE = ("scene_id", "position", "status", "sketch_sha")
"""What of a shot concerns others beside it and its next one."""

Touched = dict[str, list[tuple[Journaled | None, Journaled | None]]]
"""Rows as they were and as they are, by table; None for those that were not there, or are gone."""


class ProjectRows:
    """All rows of a project but those that are asked for by parts, as they were at `version`; with `plan_alone` no more than plan and
    briefs are made from. Raises NotThere."""

    def __init__(self, session: Session, project_id: str, *, plan_alone: bool = False) -> None:
        self.project = found(session, Project, project_id)
        self.version = journal.latest(session, project_id).version
        self.text_parts = {r.id: r for r in of_project(session, TextPart, project_id)}
        self.scenes = {r.id: r for r in of_project(session, Scene, project_id)}
        self.shots = {r.id: r for r in of_project(session, Shot, project_id)}
        self.threads = {r.id: r for r in of_project(session, Thread, project_id)}
        self.references = {r.id: r for r in of_project(session, Reference, project_id)}
        self.traits = {r.id: r for r in of_project(session, Trait, project_id)}
        self.beads = {r.id: r for r in of_project(session, Bead, project_id)}
        self.beats: dict[str, Beat] = {}
        self.takes: dict[str, Take] = {}
        self.marks: dict[str, Mark] = {}
        self.fault_marks: dict[str, FaultMark] = {}
        self.services: dict[str, Service] = {}
        self.trials: dict[str, Trial] = {}
        self.stets: dict[str, Stet] = {}
        self.sounds = {r.id: r for r in of_project(session, Sound, project_id)}
        self.sound_files: dict[str, SoundFile] = {}
        self.pictures: dict[str, Picture] = {}
        if not plan_alone:
            self.beats = {r.id: r for r in of_project(session, Beat, project_id)}
            self.takes = {r.id: r for r in of_project(session, Take, project_id)}
            self.marks = {r.id: r for r in of_project(session, Mark, project_id)}
            self.fault_marks = {r.id: r for r in of_project(session, FaultMark, project_id)}
            self.services = {r.id: r for r in of_project(session, Service, project_id)}
            self.trials = {r.id: r for r in of_project(session, Trial, project_id)}
            self.stets = {r.id: r for r in of_project(session, Stet, project_id)}
        self._picked: dict[str, Take] = {}
        if plan_alone and any(x.bridge for x in self.shots.values()):
            ends = load_only(Take.shot_id, Take.picture_sha, Take.first_sha, Take.last_sha)
            query = select(Take).where(Take.project_id == project_id, Take.picked).options(ends)
            self._picked = {t.shot_id: t for t in session.scalars(query)}
        self._show(session, self.shas())
        self._hear(session)

    def table(self, name: str) -> list[Journaled]:
        """The rows of a table."""
        if name == "project":
            return [self.project]
        rows: dict[str, Journaled] = getattr(self, f"{name}s")
        return list(rows.values())

    def shas(self) -> set[str]:
        """The digests of all pictures that rows name."""
        named = {r.picture_sha for rows in (self.takes, self.references) for r in rows.values()}
        named |= {sha for t in self.takes.values() for sha in (t.first_sha, t.last_sha) if sha}
        return named | {x.sketch_sha for x in self.shots.values() if x.sketch_sha}

    def picked(self, shot_id: str) -> Take | None:
        """The take that is picked of a shot; with the plan alone it is known where there is a bridge."""
        own = next((t for t in self.takes.values() if t.picked and t.shot_id == shot_id), None)
        return own or self._picked.get(shot_id)

    def _show(self, session: Session, shas: set[str]) -> None:
        wanted = sorted(shas - set(self.pictures))
        for i in range(0, len(wanted), 1000):
            query = select(Picture).where(Picture.sha.in_(wanted[i : i + 1000]))
            self.pictures |= {p.sha: p for p in session.scalars(query)}

    def _hear(self, session: Session) -> None:
        wanted = sorted({r.sound_sha for r in self.sounds.values()} - set(self.sound_files))
        for i in range(0, len(wanted), 1000):
            query = select(SoundFile).where(SoundFile.sha.in_(wanted[i : i + 1000]))
            self.sound_files |= {f.sha: f for f in session.scalars(query)}

    @cached_property
    def order(self) -> list[Shot]:
        """All shots in the order of the story."""
        scenes = self.scenes
        return sorted(
            self.shots.values(),
            key=lambda x: (scenes[x.scene_id].position, x.scene_id, x.position, x.id),
        )

    @cached_property
    def text(self) -> StoryText:
        """The story's text."""
        return StoryText(self.text_parts.values())

    @cached_property
    def beads_of(self) -> defaultdict[str, dict[str, Bead]]:
        """Beads by shot and their own id."""
        by: defaultdict[str, dict[str, Bead]] = defaultdict(dict)
        for bead in self.beads.values():
            by[bead.shot_id][bead.id] = bead
        return by

    def catch_up(self, session: Session) -> Touched | None:
        """Take what happened since; returns what was touched, or None when that is too much to say: read the project anew."""
        news = journal.news_since(session, self.project.id, self.version, MOST_ENTRIES)
        if news is None:
            return None
        if news.version == self.version:
            return {}
        touched: Touched = {}
        for table, ids in news.touched.items():
            model = JOURNALED[table]
            if table in APART:
                touched[table] = []
                continue
            query = select(model).where(model.id.in_(ids)).execution_options(populate_existing=True)
            fresh: dict[str, Journaled] = {r.id: r for r in session.scalars(query)}
            touched[table] = [(self._put(table, i, fresh.get(i)), fresh.get(i)) for i in ids]
        if "scene" in touched or any(_moved(was, now) for was, now in touched.get("shot", ())):
            self.__dict__.pop("order", None)
        elif "shot" in touched and "order" in self.__dict__:
            self.__dict__["order"] = [self.shots[x.id] for x in self.order]
        if "text_part" in touched:
            self.__dict__.pop("text", None)
        self._show(session, {sha for pairs in touched.values() for _, now in pairs for sha in _pictures_of(now)})
        if "sound" in touched:
            self._hear(session)
        self.version = news.version
        return touched

    def _put(self, table: str, key: str, row: Journaled | None) -> Journaled | None:
        if table == "project":
            was: Journaled = self.project
            if isinstance(row, Project):
                self.project = row
            return was
        rows: dict[str, Journaled] = getattr(self, f"{table}s")
        before = rows.get(key)
        if row is None:
            rows.pop(key, None)
        else:
            rows[key] = row
        if table == "bead" and "beads_of" in self.__dict__:
            if isinstance(before, Bead):
                self.beads_of[before.shot_id].pop(key, None)
            if isinstance(row, Bead):
                self.beads_of[row.shot_id][key] = row
        elif table in ("thread", "reference", "trait"):
            setattr(self, f"{table}s", dict(sorted(rows.items(), key=lambda kv: (kv[1].position, kv[0]))))  # type: ignore[attr-defined]
        return before


def _moved(was: Journaled | None, now: Journaled | None) -> bool:
    return was is None or now is None or any(getattr(was, k) != getattr(now, k) for k in SHAPE)


def _wrote(was: Project, now: Project) -> bool:
    """Whether a project differs by what its text counts alone."""
    return all(getattr(was, c.key) == getattr(now, c.key) for c in was.__mapper__.columns if c.key not in TEXT_COUNTS)


def _pictures_of(row: Journaled | None) -> set[str]:
    """The digests of the pictures that a row names."""
    named = [getattr(row, column, None) for column in PICTURES] if isinstance(row, (Shot, Take, Reference)) else []
    return {sha for sha in named if sha}


TEXT_COUNTS = frozenset({"text_revision", "revision"})
"""What of a project changes with every letter of its text."""


NOT_PLANNED = frozenset({"take", "mark", "fault_mark", "service", "trial", "sound", "stet", "library_picture", "duel"})
"""Tables that neither the plan nor a brief is made from."""


def only_facts(touched: Touched) -> set[str] | None:
    """The shots whose own facts or beads are all that was touched, but for the text; None when more was."""
    shots: set[str] = set()
    for table, pairs in touched.items():
        for was, now in pairs:
            if isinstance(was, Shot) and isinstance(now, Shot) and not _moved(was, now):
                shots.add(now.id)
            elif table in {*NOT_PLANNED, "text_part"} or (
                isinstance(was, Project) and isinstance(now, Project) and _wrote(was, now)
            ):
                continue
            elif table == "bead":
                shots.update(b.shot_id for b in (was, now) if isinstance(b, Bead))
            else:
                return None
    return shots
