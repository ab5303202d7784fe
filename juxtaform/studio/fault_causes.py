"""What recurring faults share, what may be done against it, and whether that helped."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np
import scipy
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.takes.causes import Cause, Feature, Judged, causes, words_in
from juxtaform.records.models import FaultMark, Job, Project, Reference, Shot, Take, Thread, now
from juxtaform.studio import briefs
from juxtaform.studio.desk import Desk
from juxtaform.studio.mending import without
from juxtaform.studio.plan import in_order
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, of_project

FAULT_WORDS = {
    "hand": "hand",
    "twice": "there twice",
    "extra": "not asked for",
    "missing": "missing",
    "wrong person": "wrong person",
    "leaked": "leaked colour",
    "lettering": "lettering",
    "border": "border",
    "soft": "soft",
    "other": "other",
}
DONTS = {
    "hand": "extra fingers",
    "twice": "the same figure or thing twice",
    "extra": "anything that is not named",
    "leaked": "colours of one thing on another",
    "lettering": "lettering",
    "border": "a border",
    "soft": "soft focus",
}
"""What a brief can be told to leave out, by the kind of fault."""
NOT_WORDS = frozenset(
    {"hold", "technical", "palette", "donts", "keep", "framing", "count", "light", "styled", "layout", "room"}
)
"""Phrases whose words are asked about in another way: by weight, seed, style and framing."""
SURE = 0.05
MOST_WORDS = 3


@dataclass(frozen=True)
class CauseView:
    """What takes with a fault share, in words; how it can be mended: by a don't (empty: none fits), by `words` less (one of them, or none), or only by
    the user."""

    fault: str
    kind: str
    what: str
    told: str
    beside: str
    dont: str
    words: tuple[str, ...]
    take_ids: tuple[str, ...]
    shot_ids: tuple[str, ...]


@dataclass(frozen=True)
class Effect:
    """What a mend brought: takes with the fault before and since, of how many, and that in words."""

    told: str
    before: tuple[int, int]
    since: tuple[int, int]
    helped: bool | None


@dataclass(frozen=True)
class FaultsTold:
    """How often each kind of fault is marked, of how many takes that were looked at; what recurring ones share; what mends brought."""

    looked_at: int
    counts: dict[str, int]
    causes: tuple[CauseView, ...]
    effects: tuple[Effect, ...]


def told(ws: Workspace, project_id: str) -> FaultsTold:
    """What a project's fault marks tell. Raises NotThere."""
    with ws.database.reading() as s:
        project = found(s, Project, project_id)
        if s.scalar(select(FaultMark.id).where(FaultMark.project_id == project_id).limit(1)) is None:
            return FaultsTold(0, {}, (), ())
        its_takes, judged = _judged(s, project_id)
        names = _names(s, project_id)
        cast = {
            w for t in of_project(s, Thread, project_id) for n in (t.name, *t.aliases) for w in n.casefold().split()
        }
        views = tuple(_view(c, its_takes, names, cast) for c in causes(judged))
        asked = dict(s.execute(select(Job.id, Job.asked_at).where(Job.project_id == project_id)).tuples().all())
        effects = tuple(e for m in project.mends if (e := _effect(m, its_takes, judged, asked)) is not None)
    return FaultsTold(len(judged), dict(Counter(f for t in judged for f in t.faults)), views, effects)


def mend(ws: Workspace, project_id: str, fault: str, feature: Feature, how: str) -> Changed:
    """Do something against a fault that recurs, in all shots whose briefs have what it goes with: a don't, or the phrase without these words. Raises
    NotPossible where nothing of the kind can be done."""
    with ws.writing(project_id, f"mended: {FAULT_WORDS.get(fault, fault)}") as w:
        desk = Desk.read(w.session, project_id)
        shots = _having(desk, feature)
        if how == "dont" and fault not in DONTS:
            raise NotPossible("There is no don't for this kind of fault. Say it another way in the brief.")
        if how == "phrase" and feature[0] != "words":
            raise NotPossible("This stands in no phrase. Change it on the Sheet or the Model sheets.")
        if not shots:
            raise NotPossible("No brief has this any more.")
        for i in shots:
            row = desk.rows.shots[i]
            if how == "dont":
                row.donts = list(dict.fromkeys([*row.donts, DONTS[fault]]))
            else:
                _say_less(desk, row, feature[1])
        project = found(w.session, Project, project_id)
        entry = {"fault": fault, "feature": list(feature), "how": how, "shots": list(shots), "at": now().isoformat()}
        project.mends = [*project.mends, entry]
    return w.changed


def _judged(s: Session, project_id: str) -> tuple[dict[str, Take], list[Judged]]:
    """The takes that a service made and the user has looked at: picked, kept, put out, or marked."""
    marked: defaultdict[str, set[str]] = defaultdict(set)
    for f in of_project(s, FaultMark, project_id):
        marked[f.take_id].add(f.kind)
    its_takes = {
        t.id: t
        for t in of_project(s, Take, project_id)
        if t.made_from.get("made") and (t.picked or t.standing or t.id in marked)
    }
    return its_takes, [Judged(t.id, frozenset(marked[t.id]), _features(t)) for t in its_takes.values()]


def _features(t: Take) -> frozenset[Feature]:
    origin, made = t.made_from, t.made_from["made"]
    words = [text for key, text in origin.get("phrases") or [] if key.partition(":")[0] not in NOT_WORDS]
    out = set(words_in(words))
    out |= {("framing", text[:300]) for key, text in origin.get("phrases") or [] if key == "framing" and text}
    out |= {("reference", r) for r in origin.get("references") or []}
    for h in origin.get("held") or []:
        out.add(("weight", f"{h['thread_id']}:{round(h['weight'] * 10) * 10}"))
        if h.get("costume"):
            out.add(("costume", f"{h['thread_id']}:{h['costume']}"))
    out |= {("style", key.partition(":")[2]) for key, _ in origin.get("phrases") or [] if key.startswith("style:")}
    out |= {
        ("service", f"{made['service']}, {made['model']}"),
        ("quality", made["quality"]),
        ("seed", str(made["seed"])),
    }
    return frozenset({*out, ("shot", t.shot_id)})


def _names(s: Session, project_id: str) -> dict[str, str]:
    names = {t.id: t.name for t in of_project(s, Thread, project_id)}
    references = {
        r.id: f"{names.get(r.thread_id, '?')}, {r.view or r.name}" for r in of_project(s, Reference, project_id)
    }
    shots = {x.id: f"shot {i + 1}" for i, x in enumerate(in_order(s, project_id))}
    return {**names, **references, **shots}


def _in_words(feature: Feature, names: Mapping[str, str]) -> str:
    kind, what = feature
    head, _, tail = what.partition(":")
    match kind:
        case "words":
            return f"“{what}” in the words"
        case "framing":
            return f"the framing “{what.rstrip('.')}”"
        case "reference":
            return f"the reference {names.get(what, 'that is gone')}"
        case "weight":
            return f"{names.get(head, 'somebody')} at about {tail} %"
        case "costume":
            return f"{names.get(head, 'somebody')} in {tail}"
        case "style":
            return f"the style {names.get(what, 'that is gone')}"
        case "service":
            return what
        case "quality":
            return f"{what}s"
        case "seed":
            return f"seed {what}"
        case _:
            return names.get(what, "a shot that is gone")


def _telling(c: Cause, cast: Collection[str]) -> tuple[str, ...]:
    """Of words that always go together those that say most: pairs before their parts, no names of the cast, those that name the fault first."""
    own = [what for kind, what in (c.feature, *c.alike) if kind == "words"]
    free = [w for w in own if not set(w.split()) & set(cast)] or own
    pairs = [w for w in free if " " in w]
    kept = [*pairs, *(w for w in free if " " not in w and not any(w in p.split() for p in pairs))]
    return tuple(sorted(kept, key=lambda w: (c.fault not in w, kept.index(w)))[:MOST_WORDS])


def _view(c: Cause, its_takes: Mapping[str, Take], names: Mapping[str, str], cast: Collection[str]) -> CauseView:
    (a, of_a), (b, of_b) = c.with_it, c.without_it
    name = FAULT_WORDS.get(c.fault, c.fault)
    words = _telling(c, cast) if c.feature[0] == "words" else ()
    what = f"{_or([f'“{w}”' for w in words])} in the words" if words else _in_words(c.feature, names)
    told_words = f"“{name}”: {a} of {a + b} came with {what} ({a} of {of_a} such takes, {b} of {of_b} others)."
    kinds = dict.fromkeys(kind for kind, _ in c.alike if kind != c.feature[0])
    others = [f for kind in kinds for f in [next(x for x in c.alike if x[0] == kind)]][:3]
    beside = f"The same takes have {', '.join(_in_words(f, names) for f in others)}." if others else ""
    shots = tuple(dict.fromkeys(its_takes[i].shot_id for i in c.takes))
    return CauseView(
        c.fault,
        c.feature[0],
        words[0] if words else c.feature[1],
        told_words,
        beside,
        DONTS.get(c.fault, ""),
        words,
        tuple(sorted(c.takes)),
        shots,
    )


def _or(items: Sequence[str]) -> str:
    return items[0] if len(items) == 1 else f"{', '.join(items[:-1])} and {items[-1]}"


def _having(desk: Desk, feature: Feature) -> list[str]:
    """The settled shots whose briefs have a feature now; for what is no word, those whose threads or pictures do."""
    kind, what = feature
    out = []
    for i, shot_id in enumerate(desk.ids):
        brief = desk.brief(i)
        if kind == "words":
            words = [p.text for p in brief.phrases if p.key.partition(":")[0] not in NOT_WORDS]
            has = ("words", what) in words_in(words)
        elif kind == "framing":
            has = any(p.key == "framing" and p.text == what for p in brief.phrases)
        elif kind == "reference":
            has = any(p.reference == what for p in brief.pictures)
        elif kind in ("weight", "costume"):
            has = what.partition(":")[0] in {m.id for m in desk.shot(i).members}
        elif kind == "style":
            has = (style := desk.shot(i).style) is not None and style.id == what
        else:
            has = kind != "shot" or shot_id == what
        if has:
            out.append(shot_id)
    return out


def _say_less(desk: Desk, row: Shot, words: str) -> None:
    """Take words out of every phrase of a shot's brief that has them."""
    whole = desk.brief(desk.at[row.id])
    for p in whole.phrases:
        at = p.text.casefold().find(words)
        if at < 0 or p.key.partition(":")[0] in NOT_WORDS:
            continue
        kept = without(p.text, at, at + len(words))
        row.brief_edits = briefs.edited_with(row.brief_edits, p.key, briefs.plain_text(whole, p.key), kept)


def _effect(
    entry: Mapping[str, object], its_takes: Mapping[str, Take], judged: Sequence[Judged], asked: Mapping[str, datetime]
) -> Effect | None:
    """What a mend brought in the shots that it was made in; None before takes came that the user looked at."""
    at = datetime.fromisoformat(str(entry["at"]))
    shots: Collection[str] = entry["shots"]  # type: ignore[assignment]
    feature: Sequence[str] = entry["feature"]  # type: ignore[assignment]
    fault, kind, what = str(entry["fault"]), feature[0], feature[1]
    before, since = [0, 0], [0, 0]
    for t in judged:
        take = its_takes[t.take]
        when = asked.get(take.made_from["made"]["job_id"])
        if take.shot_id not in shots or when is None:
            continue
        if when < at and (kind, what) not in t.features:
            continue
        count = since if when >= at else before
        count[0] += fault in t.faults
        count[1] += 1
    if not since[1] or not before[1]:
        return None
    name = FAULT_WORDS.get(fault, fault)
    table = np.array([[since[0], since[1] - since[0]], [before[0], before[1] - before[0]]])
    p = float(scipy.stats.fisher_exact(table, alternative="less").pvalue)
    fewer = since[0] / since[1] < before[0] / before[1]
    helped = True if p < SURE else None if fewer else False
    verdict = {True: "It helped.", None: "Too few takes yet to say that it helped.", False: "It did not help."}[helped]
    words = f"“{name}”, since the mend: {since[0]} of {since[1]} takes; before: {before[0]} of {before[1]}. {verdict}"
    return Effect(words, (before[0], before[1]), (since[0], since[1]), helped)
