"""Trials: one shot made under several settings with the same seeds, read side by side, and the winner taken."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.check.takes import TakeReading
from juxtaform.core.takes.trials import LEAST_PAIRS, Outcome, outcome
from juxtaform.records.models import Bead, Job, Project, Service, Shot, Take, Thread, Trial
from juxtaform.records.rules import MOST_INT
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import briefs, making, services
from juxtaform.studio.desk import Desk, profiles_of
from juxtaform.studio.gauging import Gauge, sheet_reading
from juxtaform.studio.making import Quality, Setting
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, of_project

MOST_CELLS, MOST_SEEDS = 24, 12
LOST = 3.0
"""A figure this far past tolerance, or not found, is lost: how far beyond says no more."""


@dataclass(frozen=True)
class Axis:
    """One thing that a trial varies: `weight` of a thread (percent), `style` (ids) or `service` (ids, or id/model), or the words of a `phrase` (by key)."""

    varies: str
    about: str
    choices: tuple[str, ...]


@dataclass(frozen=True)
class TrialOrder:
    """A trial wanted: of which shot, what it varies, with how many seeds, by whom; `thread_id` is whom it is about."""

    shot_id: str
    axes: tuple[Axis, ...]
    seeds: int
    service_id: str
    model: str = ""
    quality: Quality = "draft"
    thread_id: str | None = None


@dataclass(frozen=True)
class CellView:
    """A setting of a trial: its place on each axis, in words, and its takes by seed."""

    at: tuple[int, ...]
    name: str
    take_ids: dict[int, str]


@dataclass(frozen=True)
class MeasuredView:
    """What a trial shows of one measure (a thread): every setting's values by seed, and which hold better, in words."""

    of: str
    values: dict[str, dict[int, float]]
    middle: dict[str, float | None]
    best: str | None
    alike: tuple[str, ...]
    worse: dict[str, tuple[float, float]]
    told: str
    apart: bool


@dataclass(frozen=True)
class TrialView:
    """A trial as it stands: its cells, what each measure shows, and how many takes are still to come or to be measured."""

    trial_id: str
    title: str
    cells: tuple[CellView, ...]
    measures: tuple[MeasuredView, ...]
    coming: int
    waiting: int


def start(ws: Workspace, project_id: str, order: TrialOrder) -> tuple[Changed, list[str]]:
    """Begin a trial: every setting is asked for with the same seeds. Raises NotPossible, NotThere."""
    cells = list(product(*(range(len(a.choices)) for a in order.axes)))
    if not order.axes or len(cells) < 2:
        raise NotPossible("A trial compares at least two settings. Give another choice.")
    if len(cells) > MOST_CELLS:
        raise NotPossible(f"These would be {len(cells)} settings; a trial compares at most {MOST_CELLS}.")
    if not 1 <= order.seeds <= MOST_SEEDS:
        raise NotPossible(f"Give each setting 1 to {MOST_SEEDS} seeds.")
    with ws.writing(project_id, "began a trial") as w:
        s = w.session
        shot = found(s, Shot, order.shot_id, project_id)
        desk = Desk.read(s, project_id)
        if shot.id not in desk.at:
            raise NotPossible("This shot is only proposed. Accept it first.")
        _see_axes(s, project_id, desk, shot.id, order.axes)
        service, can = services.offered(s, project_id, order.service_id)
        model = can.model(order.model)
        if model is None or "picture" not in model.kinds:
            raise NotPossible(f"{service.name} has no such model that makes pictures. Ask it again what it can do.")
        if not model.seeds:
            raise NotPossible(f"{service.name} takes no seeds, so that settings cannot be compared seed by seed.")
        used = making.used_seeds(s, [shot.id])
        base = making.unused(making.fresh_seed(desk, shot.id), used[shot.id])
        seeds = [(base + i) % MOST_INT for i in range(order.seeds)]
        last = max((t.position for t in of_project(s, Trial, project_id)), default=-1.0)
        trial = Trial(
            project_id=project_id,
            shot_id=shot.id,
            axes=[{"varies": a.varies, "about": a.about, "choices": list(a.choices)} for a in order.axes],
            seeds=seeds,
            thread_id=order.thread_id,
            position=last + 1,
        )
        w.add(trial)
        w.name(f"began a trial of shot {desk.shot(desk.at[shot.id]).number}")
        heights = making.figure_heights(s, project_id)
        jobs: list[Job] = []
        for cell in cells:
            asked = _asked(s, project_id, order, cell, service, model, base)
            made = {"trial_id": trial.id, "cell": list(cell)}
            limits = making.profile_of(asked.service, asked.model, profiles_of(desk.project))
            jobs += making.asked_for(
                desk,
                shot.id,
                order.seeds,
                asked.service,
                asked.model,
                order.quality,
                limits,
                heights,
                used,
                asked.setting,
                made=made,
            )
        making.queued(s, project_id, jobs)
        ids = [job.id for job in jobs]
    return w.changed, ids


def read(ws: Workspace, gauge: Gauge, project_id: str, trial_id: str) -> TrialView:
    """A trial as it stands. Raises NotThere."""
    with ws.database.reading() as s:
        trial = found(s, Trial, trial_id, project_id)
        its_takes = [
            t
            for t in s.scalars(select(Take).where(Take.shot_id == trial.shot_id).order_by(Take.position, Take.id))
            if (t.made_from.get("made") or {}).get("trial_id") == trial_id
        ]
        open_jobs = [
            j
            for j in s.scalars(select(Job).where(Job.shot_id == trial.shot_id, Job.ended_at.is_(None)))
            if (j.made_from.get("made") or {}).get("trial_id") == trial_id
        ]
        names = {t.id: t.name for t in of_project(s, Thread, project_id)}
        names |= {x.id: x.name for x in of_project(s, Service, project_id)}
    reading = sheet_reading(ws, gauge, project_id, trial.shot_id)
    by_take = {r.take: r for r in reading.takes}
    cells = [
        CellView(at, _cell_name(trial.axes, at, names), _by_seed(its_takes, at))
        for at in product(*(range(len(a["choices"])) for a in trial.axes))
    ]
    coming = sum(max(0, j.wanted.get("count", 1) - len(j.taken)) for j in open_jobs)
    waiting = sum(t.id not in by_take for t in its_takes)
    measures = tuple(_measures(cells, by_take, names, trial.thread_id, done=not coming and not waiting))
    return TrialView(trial_id, _title(trial.axes, names), tuple(cells), measures, coming, waiting)


def take_winner(ws: Workspace, project_id: str, trial_id: str, at: Sequence[int], everywhere: bool) -> Changed:
    """Make a trial's setting that of its shot, or of the whole project. Raises NotPossible, NotThere."""
    with ws.writing(project_id, "took a trial's setting") as w:
        s = w.session
        trial = found(s, Trial, trial_id, project_id)
        if len(at) != len(trial.axes) or any(
            not 0 <= i < len(a["choices"]) for i, a in zip(at, trial.axes, strict=True)
        ):
            raise NotPossible("The trial has no such setting.")
        for i, axis in zip(at, trial.axes, strict=True):
            _take(s, project_id, trial.shot_id, axis, axis["choices"][i], everywhere=everywhere)
        names = {t.id: t.name for t in of_project(s, Thread, project_id)}
        w.name(f"took {_cell_name(trial.axes, at, names)}{' everywhere' if everywhere else ''}"[:200])
    return w.changed


def remove(ws: Workspace, project_id: str, trial_id: str) -> Changed:
    """Put a trial away; its takes stay. Raises NotThere."""
    with ws.writing(project_id, "put a trial away") as w:
        w.erase([found(w.session, Trial, trial_id, project_id)])
    return w.changed


@dataclass(frozen=True)
class _Cell:
    service: Service
    model: ModelSaid
    setting: Setting


def _asked(
    s: Session, project_id: str, order: TrialOrder, cell: Sequence[int], service: Service, model: ModelSaid, seed: int
) -> _Cell:
    weights: dict[str, float] = {}
    style: str | None = None
    phrase: tuple[str, str] | None = None
    for i, axis in zip(cell, order.axes, strict=True):
        choice = axis.choices[i]
        if axis.varies == "weight":
            weights[axis.about] = float(choice) / 100
        elif axis.varies == "style":
            style = choice
        elif axis.varies == "phrase":
            phrase = axis.about, choice
        elif axis.varies == "service":
            service_id, _, model_id = choice.partition("/")
            service, can = services.offered(s, project_id, service_id)
            found_model = can.model(model_id)
            if found_model is None or not found_model.seeds:
                raise NotPossible(f"{service.name} has no such model that takes seeds. Ask it again what it can do.")
            model = found_model
    return _Cell(service, model, Setting(seed, weights, style, phrase))


def _see_axes(s: Session, project_id: str, desk: Desk, shot_id: str, axes: Sequence[Axis]) -> None:
    """See that what is varied is there. Raises NotPossible."""
    index = desk.at[shot_id]
    members = {m.id for m in desk.shot(index).members}
    keys = {p.key for p in desk.brief(index).phrases}
    for axis in axes:
        if len(set(axis.choices)) < len(axis.choices):
            raise NotPossible("Two choices are the same. Change one of them.")
        if axis.varies == "weight":
            if axis.about not in members:
                raise NotPossible("This thread does not run through the shot: assign it first.")
            if not all(_is_percent(c) for c in axis.choices):
                raise NotPossible("Weights are percent, 0 to 100.")
        elif axis.varies == "style" and any(
            desk.threads[c].kind != "style" if c in desk.threads else True for c in axis.choices
        ):
            raise NotPossible("One of the styles is not there any more.")
        elif axis.varies == "service":
            for choice in axis.choices:
                found(s, Service, choice.partition("/")[0], project_id)
        elif axis.varies == "phrase" and axis.about not in keys:
            raise NotPossible("The brief has no such phrase any more.")
    if len({(a.varies, a.about) for a in axes}) < len(axes):
        raise NotPossible("Both axes vary the same. Choose another thing for one of them.")


def _is_percent(choice: str) -> bool:
    try:
        return 0 <= float(choice) <= 100
    except ValueError:
        return False


def _by_seed(its_takes: Sequence[Take], at: Sequence[int]) -> dict[int, str]:
    return {t.made_from["made"]["seed"]: t.id for t in its_takes if t.made_from["made"].get("cell") == list(at)}


def _cell_name(axes: Sequence[Mapping[str, Any]], at: Sequence[int], names: Mapping[str, str]) -> str:
    return ", ".join(_choice(axis, axis["choices"][i], names) for i, axis in zip(at, axes, strict=True))


def _choice(axis: Mapping[str, Any], choice: str, names: Mapping[str, str]) -> str:
    match axis["varies"]:
        case "weight":
            return f"{names.get(axis['about'], 'weight')} {choice} %"
        case "style":
            return names.get(choice, "one that is gone")
        case "service":
            service_id, _, model_id = choice.partition("/")
            return ", ".join(x for x in (names.get(service_id, "one that is gone"), model_id) if x)
        case "phrase":
            return f"“{choice}”" if choice else "without the phrase"
        case _:
            return choice


def _title(axes: Sequence[Mapping[str, Any]], names: Mapping[str, str]) -> str:
    words = {"style": "style", "service": "service", "phrase": "one phrase"}
    said = " and ".join(words.get(a["varies"]) or f"weight of {names.get(a['about'], 'a thread')}" for a in axes)
    return said[:1].upper() + said[1:]


def _measures(
    cells: Sequence[CellView],
    by_take: Mapping[str, TakeReading],
    names: Mapping[str, str],
    about: str | None,
    *,
    done: bool,
) -> list[MeasuredView]:
    """What each thread's measure shows, whom the trial is about first."""
    of: dict[str, dict[str, dict[int, float]]] = {}
    for cell in cells:
        for seed, take in cell.take_ids.items():
            r = by_take.get(take)
            for score in [*r.figures, *([r.style] if r.style else [])] if r else []:
                value = LOST if score.value is None else min(LOST, score.value)
                of.setdefault(score.of, {c.name: {} for c in cells})[cell.name][seed] = value
    shown = [_shown(thread, values, names, done=done) for thread, values in of.items()]
    return sorted(shown, key=lambda m: (m.of != about, not m.apart))


def _shown(thread: str, values: dict[str, dict[int, float]], names: Mapping[str, str], *, done: bool) -> MeasuredView:
    got = outcome(values)
    middle = {c.setting: (c.middle if c.values else None) for c in got.cells}
    name = names.get(thread, "it")
    return MeasuredView(
        thread, values, middle, got.best, got.alike, dict(got.worse), _told(got, name, done=done), got.is_told
    )


def _told(got: Outcome, name: str, *, done: bool) -> str:
    """What a trial shows of a thread, in a sentence."""
    if got.best is None:
        return (
            f"Too few seeds to compare: {LEAST_PAIRS} are needed of each setting."
            if done
            else "The takes are still being made and measured."
        )
    if not got.is_told and got.leans:
        worse = _and(list(got.leans))
        return f"Not certain: {worse} look{'s' if len(got.leans) == 1 else ''} worse for {name}, but {got.pairs} seeds cannot tell it for sure. Try more seeds."
    if not got.is_told:
        return f"No difference: {name} holds as well in every setting, as far as {got.pairs} seeds can tell."
    rest = [a for a in got.alike if a != got.best]
    alike = f"; {_and(rest)} cannot be told from it" if rest else ""
    return f"{name} holds best with {got.best}{alike}. {_and(list(got.worse))} hold{'s' if len(got.worse) == 1 else ''} it less."


def _and(items: Sequence[str]) -> str:
    return items[0] if len(items) == 1 else f"{', '.join(items[:-1])} and {items[-1]}"


def _take(s: Session, project_id: str, shot_id: str, axis: Mapping[str, Any], choice: str, *, everywhere: bool) -> None:
    """Make a choice that of a shot, or of the project."""
    match axis["varies"]:
        case "weight":
            wanted = select(Bead).where(Bead.project_id == project_id, Bead.thread_id == axis["about"])
            for bead in s.scalars(wanted if everywhere else wanted.where(Bead.shot_id == shot_id)):
                bead.weight = float(choice) / 100
        case "style":
            found(s, Thread, choice, project_id)
            styles = {t.id for t in of_project(s, Thread, project_id) if t.kind == "style"}
            for bead in s.scalars(select(Bead).where(Bead.project_id == project_id, Bead.thread_id.in_(styles))):
                if everywhere or bead.shot_id == shot_id:
                    s.delete(bead)
            s.flush()
            if everywhere:
                found(s, Project, project_id).style_id = choice
            else:
                s.add(Bead(project_id=project_id, shot_id=shot_id, thread_id=choice, hold="figure", weight=1.0))
        case "phrase":
            desk = Desk.read(s, project_id)
            for i in desk.ids if everywhere else [shot_id]:
                whole = desk.brief(desk.at[i])
                if any(p.key == axis["about"] for p in whole.phrases):
                    row = desk.rows.shots[i]
                    plain = briefs.plain_text(whole, axis["about"])
                    row.brief_edits = briefs.edited_with(row.brief_edits, axis["about"], plain, choice)
        case "service":
            service = found(s, Service, choice.partition("/")[0], project_id)
            first = min((x.position for x in of_project(s, Service, project_id)), default=0.0)
            if service.position != first:
                service.position = first - 1
