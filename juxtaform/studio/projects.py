"""Projects: list, make, open, rename; undo and redo; the history."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, func, select

from juxtaform.records import journal
from juxtaform.records.entries import RowChange
from juxtaform.records.models import (
    APART,
    JOURNALED,
    Change,
    CheckRun,
    Delivery,
    Job,
    Picture,
    Project,
    SentBrief,
    ServiceState,
    Shot,
    Take,
    Thread,
)
from juxtaform.records.people import ApiToken, Invitation, Member
from juxtaform.studio import members, showings
from juxtaform.studio.workspace import (
    Changed,
    NotPossible,
    NotThere,
    Row,
    Workspace,
    as_changed,
    edited,
    found,
    hold,
    of_project,
    pictures_of,
    plain,
)


@dataclass(frozen=True)
class ProjectCard:
    """A project on the shelf: its title, how many shots it has, and its first picture."""

    id: str
    title: str
    shots: int
    cover: str | None
    created_at: datetime


@dataclass(frozen=True)
class HistoryEntry:
    id: int
    label: str
    at: datetime
    undone: bool
    by: str


@dataclass(frozen=True)
class Snapshot:
    """Everything of a project that the screen holds, as it was at `version`; `rows` by table."""

    project_id: str
    version: int
    rows: dict[str, list[Row]]
    pictures: list[Row]
    undo_label: str | None
    redo_label: str | None


def shelf(ws: Workspace, account_id: str | None = None) -> list[ProjectCard]:
    """All projects, or those of an account, newest first."""
    with ws.database.session() as s:
        counts = dict(s.execute(select(Shot.project_id, func.count()).group_by(Shot.project_id)).tuples().all())
        cards = []
        wanted = select(Project).order_by(Project.created_at.desc())
        if account_id is not None:
            wanted = wanted.join(Member, Member.project_id == Project.id).where(Member.account_id == account_id)
        for project in s.scalars(wanted):
            cover = s.scalars(
                select(Take.picture_sha)
                .join(Shot, Shot.id == Take.shot_id)
                .where(Take.project_id == project.id, Take.picked)
                .order_by(Shot.position)
                .limit(1)
            ).first()
            cards.append(ProjectCard(project.id, project.title, counts.get(project.id, 0), cover, project.created_at))
        return cards


def there(ws: Workspace, project_id: str) -> None:
    """See that a project is there. Raises NotThere."""
    with ws.database.session() as s:
        found(s, Project, project_id)


def make(ws: Workspace, title: str, owner_id: str | None = None) -> str:
    """A new, empty project; returns its id."""
    title = _titled(title)
    with ws.database.session() as s:
        project = Project(title=title)
        s.add(project)
        s.flush()
        if owner_id is not None:
            members.raise_to(s, project.id, owner_id, "owner")
        return project.id


def edit(ws: Workspace, project_id: str, values: Row, revision: int | None) -> Changed:
    if "title" in values:
        values = {**values, "title": _titled(values["title"])}
    with ws.writing(project_id, _edit_label(values)) as w:
        if values.get("style_id") and found(w.session, Thread, values["style_id"], project_id).kind != "style":
            raise NotPossible("The usual style has to be a style. Choose one of the styles.")
        edited(found(w.session, Project, project_id), revision, values)
    return w.changed


def _edit_label(values: Row) -> str:
    names = {"title": "renamed the project", "table_columns": "chose columns", "frame_cast": "changed the story's cast"}
    names |= dict.fromkeys(("target_s", "target_pages"), "set the target length")
    names |= dict.fromkeys(("language", "audience", "pace_factor"), "set the reading pace")
    names |= {
        "aspect": "chose the aspect ratio",
        "style_id": "chose the usual style",
        "donts": "changed the project's don'ts",
    }
    names |= {
        "profile": "chose a service profile",
        "profiles": "changed service profiles",
        "allowance": "set the month's allowance",
        "hidden_columns": "chose columns of the Sheet",
        "print_mm": "chose the size in print",
        "book": "changed how the book is made",
        "fps": "chose the frame rate",
        "unlearned": "set a tolerance back, or used it again",
    }
    names |= dict.fromkeys(("seed_rule", "seed"), "set the seed rule")
    names |= {"premise": "wrote the premise", "tone": "set the tone", "medium": "chose book or film"}
    return names.get(next(iter(values), ""), "edited the project")


def snapshot(ws: Workspace, project_id: str) -> Snapshot:
    """The whole project, as rows. Raises NotThere."""
    with ws.database.reading() as s:
        project = found(s, Project, project_id)
        rows: dict[str, list[Row]] = {"project": [plain(project)]}
        for table, model in JOURNALED.items():
            if model is Project or table in APART:
                continue
            rows[table] = [plain(r) for r in of_project(s, model, project_id)]  # type: ignore[type-var,arg-type]
        shas = pictures_of(rows)
        pictures = [plain(p) for p in s.scalars(select(Picture).where(Picture.sha.in_(shas)))] if shas else []
        back, forth = journal.next_labels(s, project_id)
        return Snapshot(project_id, journal.latest(s, project_id).version, rows, pictures, back, forth)


def remove(ws: Workspace, project_id: str) -> None:
    """Delete a project with all its rows; its pictures stay in the store."""
    with ws.database.session() as s:
        hold(s, project_id)
        showings.forget_project(ws, s, project_id)
        for other in (CheckRun, Change, SentBrief, Job, ServiceState, Delivery, Member, Invitation, ApiToken):
            s.execute(delete(other).where(other.project_id == project_id))
        for model in reversed(JOURNALED.values()):
            if model is not Project:
                s.execute(delete(model).where(model.project_id == project_id))  # type: ignore[attr-defined]
        s.execute(delete(Project).where(Project.id == project_id))


def undo(ws: Workspace, project_id: str) -> Changed:
    return _replayed(ws, project_id, back=True)


def redo(ws: Workspace, project_id: str) -> Changed:
    return _replayed(ws, project_id, back=False)


def restore(ws: Workspace, project_id: str, change_id: int) -> Changed:
    """Bring the project to how it was right after a change, by undoing what came later or making undone changes again.

    0 is the state before the first change. Nothing is lost: the undone changes can be made again until something new is
    done. Raises NotThere for a change that is not in the history."""
    with ws.database.session() as s:
        deed = hold(s, project_id)
        stands, undone = ([step.id for step in steps] for steps in journal.history(s, project_id))
        if change_id and change_id not in {*stands, *undone}:
            raise NotThere("This step is not in the history any more.")
        here = stands[0] if stands else 0
        if change_id == here:
            raise NotPossible("This is where you are.")
        back = change_id in stands or not change_id
        since = journal.latest(s, project_id).version
        rows: dict[tuple[str, str], RowChange] = {}
        steps = (stands.index(change_id) if change_id else len(stands)) if back else undone.index(change_id) + 1
        for left in range(steps, 0, -1):
            name = deed if left == 1 else None
            written = journal.undo(s, project_id, name) if back else journal.redo(s, project_id, name)
            _gathered(rows, written)
        written.rows = list(rows.values())
        written.label = "went back in the history" if back else "went forth in the history"
        changed = as_changed(s, written, since)
    ws.listeners.wake(project_id)
    return changed


def _gathered(rows: dict[tuple[str, str], RowChange], written: journal.Written) -> None:
    for r in written.rows:
        gathered = rows.get((r.table, r.id))
        rows[r.table, r.id] = RowChange(r.table, r.id, gathered.before if gathered else r.before, r.after)


def history(ws: Workspace, project_id: str, most: int = 200) -> list[HistoryEntry]:
    """The latest changes that stand, newest first, after those that can be made again. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        stands, undone = journal.history(s, project_id, most)
        return [HistoryEntry(e.id, e.label, e.at, True, e.by) for e in reversed(undone)] + [
            HistoryEntry(e.id, e.label, e.at, False, e.by) for e in stands
        ]


def forget_history(ws: Workspace, project_id: str) -> None:
    """Begin a project's history anew: what was done so far cannot be undone any more."""
    with ws.database.session() as s:
        hold(s, project_id)
        journal.begin_anew(s, project_id)


def _replayed(ws: Workspace, project_id: str, *, back: bool) -> Changed:
    with ws.database.session() as s:
        deed = hold(s, project_id)
        try:
            written = journal.undo(s, project_id, deed) if back else journal.redo(s, project_id, deed)
        except journal.NothingToUndo as error:
            raise NotPossible(str(error)) from error
        changed = as_changed(s, written)
    ws.listeners.wake(project_id)
    return changed


def _titled(title: str) -> str:
    title = " ".join(title.split())
    if not title:
        raise NotPossible("A project needs a title.")
    return title[:200]
