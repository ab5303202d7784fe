"""What the check found, put in the order of a review: groups with one cause, each with what to say of it; and what was learned of the bands."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from juxtaform.core.check.learned import Lesson, held_by, learned
from juxtaform.core.findings import Finding
from juxtaform.core.review.causes import CauseKind, Group, ShotFacts, grouped
from juxtaform.core.review.weight import weight
from juxtaform.records.models import Reference, Take, Thread
from juxtaform.studio.findings import CheckFound, Findings
from juxtaform.studio.rows import ProjectRows
from juxtaform.studio.sequence import lessons_of


@dataclass(frozen=True)
class ReviewGroup:
    """Findings with one cause, by key, the weightiest first: what they have in common in words, and what would mend them all."""

    cause: CauseKind
    title: str
    why: str
    advice: str
    keys: tuple[str, ...]
    weight: float


@dataclass(frozen=True)
class LearnedBand:
    """How far a term of a thread may go, before and after what was decided (multiples of our band), in words; `moved` tells whether that is otherwise than before, `used` is false where it was set back,
    `within` counts what is no longer told."""

    thread_id: str
    term: str
    label: str
    before: float
    after: float
    accepted: int
    refused: int
    words: str
    moved: bool
    used: bool
    within: int


@dataclass(frozen=True)
class Review:
    """All that the check found, in groups, the weightiest first; and the bands that were learned."""

    groups: tuple[ReviewGroup, ...]
    bands: tuple[LearnedBand, ...]


def review(findings: Findings, project_id: str) -> Review:
    """The review of a project as it stands. Raises NotThere."""
    return findings.shown(project_id, reviewed)


def reviewed(check: CheckFound, rows: ProjectRows) -> Review:
    """What a check found, as a review of a project with these rows."""
    facts = facts_of(rows)
    at = {shot.id: i for i, shot in enumerate(rows.order)}
    weights = {f.key: weight(f, facts[f.shot].size if f.shot in facts else None, _lasts(f, at)) for f in check.findings}
    words = _Words(rows, {x: i + 1 for x, i in at.items()})
    groups = tuple(
        ReviewGroup(
            g.cause, words.title(g), words.why(g), words.advice(g), tuple(f.key for f in g.findings), round(g.weight, 3)
        )
        for g in grouped(check.findings, weights, facts)
    )
    return Review(groups, _bands([*lessons_of(rows.stets.values()), *check.from_pictures], check.within, rows))


def facts_of(rows: ProjectRows) -> dict[str, ShotFacts]:
    """What may be the cause of a finding, by shot, for all shots with a picked picture."""
    worn: dict[str, set[tuple[str, str]]] = {}
    for bead in rows.beads.values():
        if bead.costume:
            worn.setdefault(bead.shot_id, set()).add((bead.thread_id, bead.costume))
    scenes = {shot.id: shot.scene_id for shot in rows.order}
    return {
        t.shot_id: ShotFacts(
            scenes.get(t.shot_id, ""),
            frozenset(t.made_from.get("references", ())),
            _service(t),
            frozenset(worn.get(t.shot_id, ())),
            _size(rows, t),
        )
        for t in rows.takes.values()
        if t.picked
    }


def _service(take: Take) -> str:
    made = take.made_from.get("made") or {}
    return str(made.get("service", ""))


def _size(rows: ProjectRows, take: Take) -> tuple[float, float] | None:
    picture = rows.pictures.get(take.picture_sha)
    return (float(picture.width), float(picture.height)) if picture else None


def _lasts(f: Finding, at: Mapping[str, int]) -> int:
    first, last = at.get(f.shot or ""), at.get(f.until or "")
    return 1 if first is None or last is None else last - first + 1


class _Words:
    """What to say of groups."""

    def __init__(self, rows: ProjectRows, numbers: Mapping[str, int]) -> None:
        self._threads: Mapping[str, Thread] = rows.threads
        self._references: Mapping[str, Reference] = rows.references
        self._scenes = rows.scenes
        self._numbers = numbers

    def title(self, g: Group) -> str:
        if len(g.findings) == 1:
            return g.findings[0].title
        shots = sorted({self._numbers.get(f.shot or "", 0) for f in g.findings})
        if g.cause == "picture":
            return f"{len(g.findings)} findings in shot {shots[0]}"
        first = g.findings[0]
        thread = self._threads.get(first.thread or "")
        what = first.trait or COMMON.get(first.kind, "")
        name = f"{thread.name}: {what}" if thread and what else thread.name if thread else what or first.title
        return f"{name}, in {len(g.findings)} pictures"

    def why(self, g: Group) -> str:
        """What they share, and how often others share it."""
        about = self._about(g)
        if about is None:
            return ""
        if not g.elsewhere:
            return (
                f"All were made with {about}; no other picture was."
                if g.cause in ("reference", "service")
                else f"All are {about}, and no other picture is."
            )
        others = f"{g.elsewhere} other {'picture' if g.elsewhere == 1 else 'pictures'}"
        return (
            f"All were made with {about}, as {others} that are fine."
            if g.cause in ("reference", "service")
            else f"All are {about}, as {others}."
        )

    def _about(self, g: Group) -> str | None:
        if g.cause == "reference" and g.about in self._references:
            r = self._references[g.about]
            thread = self._threads.get(r.thread_id)
            return f"the reference “{r.name}”" + (f" of {thread.name}" if thread else "")
        if g.cause == "service":
            return g.about
        if g.cause == "scene" and g.about in self._scenes:
            return f"in the scene “{self._scenes[g.about].title or 'without a title'}”"
        if g.cause == "costume":
            thread_id, _, costume = g.about.partition("/")
            thread = self._threads.get(thread_id)
            return f"of {thread.name if thread else 'somebody'} in “{costume}”"
        return None

    def advice(self, g: Group) -> str:
        if g.cause == "reference":
            return "Look at that reference first: mended or replaced, it mends them all."
        if g.cause == "service":
            return "Try another service or setting on one of them before all are made again."
        if g.cause == "picture":
            return "One retake mends them all."
        return g.findings[0].advice


COMMON = {
    "soft": "softer than the others",
    "compressed": "compression shows",
    "banding": "tones in bands",
    "aspect": "another form",
    "too_small": "too small to print",
    "lettering": "letters that nobody asked for",
    "border": "printed borders",
    "letterbox": "bars",
    "style_break": "another hand",
    "line_crossed": "the line is crossed",
    "size_leap": "leaps in size",
    "light_leap": "the light jumps",
    "palette_leap": "the colours jump",
    "stutter": "pictures nearly alike",
    "place_changed": "not as on the references",
    "place_variant": "another variant",
    "another_place": "another place",
    "costume": "another costume",
    "unplanned": "not in the plan",
    "twice": "there twice",
    "twice_doubtful": "there twice?",
    "unplanned_doubtful": "not in the plan?",
    "place_doubtful": "is it the place?",
    "prop_doubtful": "is it there?",
    "unmarked_doubtful": "not marked",
    "clip_slips": "slips in clips",
    "clip_unlike_still": "clips that begin otherwise",
    "clip_flickers": "flicker",
    "figure_stranger": "somebody else",
    "figure_swapped": "somebody else",
    "figure_doubtful": "is it?",
    "extra": "something extra",
    "extra_doubtful": "something extra?",
    "proportion": "other proportions",
    "proportion_doubtful": "other proportions?",
    "height": "heights beside each other",
    "height_doubtful": "heights beside each other?",
    "tint_doubtful": "a tint?",
}
"""What findings of a kind have in common, where no trait says it."""


def _bands(lessons: Sequence[Lesson], within: Sequence[Finding], rows: ProjectRows) -> tuple[LearnedBand, ...]:
    unlearned = {(u["thread_id"], u["term"]) for u in rows.project.unlearned}
    hidden = Counter(held_by(f) for f in within)
    found = []
    for (thread_id, term), band in learned(lessons).items():
        label = _label(thread_id, term, rows)
        used = (thread_id, term) not in unlearned
        found.append(
            LearnedBand(
                thread_id,
                term,
                label,
                1.0,
                band.times,
                band.accepted,
                band.refused,
                band.words(label),
                band.moved,
                used,
                hidden[thread_id, term],
            )
        )
    return tuple(sorted(found, key=lambda b: (b.label, b.term)))


def _label(thread_id: str, term: str, rows: ProjectRows) -> str:
    kind, _, trait = term.partition(":")
    thread = rows.threads.get(thread_id)
    what = TERMS.get(kind, kind.replace("_", " "))
    if kind == "extra":
        return f"something {trait} on {thread.name}" if thread else f"something {trait}"
    if trait:
        return f"{thread.name}’s {trait[:1].lower()}{trait[1:]}" if thread else trait
    return f"{what} of {thread.name}" if thread else what


TERMS = {
    "style_break": "the hand",
    "size_leap": "a leap in size",
    "side_leap": "a leap across",
    "light_leap": "the light at a cut",
    "palette_leap": "the colours at a cut",
    "stutter": "how alike neighbours are",
    "rhythm": "the rhythm",
    "soft": "softness",
    "compressed": "compression",
    "banding": "bands in tones",
    "place_changed": "fixed things",
    "proportion": "the proportions",
    "height": "the height",
}
