"""Findings of who and what is in a picture against the plan: somebody nobody named, twice, missing, not marked, in the wrong costume, or wearing another's colour."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from statistics import median

import numpy as np

from juxtaform.core.check.states import Company, Mark, ShotState
from juxtaform.core.colour.spaces import delta_e_2000, lab_from_linear, linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.locate import SMALLEST
from juxtaform.core.figure.standing import ABSENT, ONE_BODY, Place, covers
from juxtaform.core.figure.traits import PART_AT
from juxtaform.core.figure.who import COSTUME_LEAD
from juxtaform.core.findings import Evidence, Finding, asks
from juxtaform.core.picture.regions import Box, overlap

SURE, ASKED = 2.2, 0.6
"""Log odds from which somebody is told to be where the plan has nobody, and from which it is asked: a claim that somebody is there against the plan must be
surer than one that they stand where the plan wants them."""
CLOSE = 2.0
"""Whom the plan has here keeps a place from somebody else whose odds are better by less than this."""
SEEN_ELSEWHERE = 2
"""A prop that was found in so many other pictures can be found: that it is not here means something."""
NUMBERED_MOST = 6
"""Of more shots than this only the first and the last are numbered."""
MOSTLY_MARKED = 0.5
"""A character who is marked in fewer of the pictures that the plan has it in is told once as such, not picture by picture."""
LEAKED = 9.0
"""A changed trait this near (CIEDE2000) to a colour of somebody or something else in the picture has taken that colour."""
LEAK_PART = 0.5
"""... if that is at most this part of how far the trait went from its own."""


@dataclass
class Seen:
    """In how many pictures something was found or is marked, and how large it is there beside each other thread that is marked (times its longer side)."""

    pictures: int = 0
    beside: dict[str, list[float]] = field(default_factory=dict)

    def add(self, box: Box, marks: Sequence[Mark]) -> None:
        self.pictures += 1
        for m in marks:
            self.beside.setdefault(m.thread, []).append(max(box.w, box.h) / max(m.box.w, m.box.h))

    @cached_property
    def times(self) -> dict[str, float]:
        """The usual size beside each thread; asked once all pictures are added."""
        return {thread: median(sizes) for thread, sizes in self.beside.items()}


def company_findings(
    shots: Sequence[ShotState], titles: Mapping[str, str], kinds: Mapping[str, str], costumes: Mapping[str, str]
) -> list[Finding]:
    """Findings of all pictures. `titles` and `kinds` (character, prop) by thread; `costumes` tells for a figure's id how its costume is called."""
    seen_in = _seen_in(shots)
    planned = frozenset(thread for shot in shots for thread in shot.assigned)
    found: list[Finding] = []
    nowhere: dict[str, list[tuple[ShotState, Finding]]] = {}
    instead: set[tuple[str, str]] = set()
    for shot in shots:
        if shot.picture is None:
            continue
        found += _wrong_costume(shot, titles, costumes)
        wanted = _not_seen(shot, kinds)
        for one in shot.company:
            name = titles.get(one.thread, one.thread)
            if one.thread in shot.assigned:
                found += _of_planned(shot, one, name, kinds.get(one.thread, ""), seen_in.get(one.thread, Seen()))
            elif kinds.get(one.thread) == "character":
                for f in _unplanned(shot, one, name, _claims(shot)):
                    if one.thread not in planned:
                        nowhere.setdefault(one.thread, []).append((shot, f))
                    elif wanted and not asks(f):
                        missed = wanted.pop()
                        instead.add((shot.id, missed))
                        found.append(_in_place_of(f, name, titles.get(missed, missed)))
                    else:
                        found.append(f)
    for thread, seen in nowhere.items():
        found += _in_no_shot(seen, titles.get(thread, thread))
    for thread, kind in kinds.items():
        if kind == "character":
            planned_in = [s for s in shots if s.picture is not None and thread in s.assigned]
            found += [f for f in _unmarked(planned_in, thread, titles) if (f.shot, thread) not in instead or f.until]
    return found


def _of_planned(shot: ShotState, one: Company, name: str, kind: str, seen: Seen) -> Iterator[Finding]:
    """Findings of somebody or something whom the plan has in a picture; `seen` tells where it is in others."""
    yield from _twice(shot, one, name)
    if kind == "character":
        yield from _refused(shot, one, name, "figure_missing")
    elif kind == "prop":
        yield from _refused(shot, one, name, "prop_missing")
        yield from _missing(shot, one, name, seen)


def _seen_in(shots: Sequence[ShotState]) -> dict[str, Seen]:
    """Where each thread was found or is marked."""
    seen: dict[str, Seen] = {}
    for shot in shots:
        found = {c.thread: c.places[0].box for c in shot.company if c.places and c.places[0].odds > ASKED}
        for thread, box in (found | {m.thread: m.box for m in shot.marks}).items():
            seen.setdefault(thread, Seen()).add(box, shot.marks)
    return seen


def _free(places: Sequence[Place], marks: Sequence[Mark]) -> list[Place]:
    """The places that are nobody's who is marked, surest first."""
    return [p for p in places if not any(covers(m.box, p.box) for m in marks)]


def _twice(shot: ShotState, one: Company, name: str) -> Iterator[Finding]:
    own = [m for m in shot.marks if m.thread == one.thread]
    free = _free(one.places, shot.marks)
    if not own:
        # Unmarked, the surest free place is where it stands; a second one is one too many.
        first, free = free[:1], free[1:]
        if not first or first[0].odds < ASKED:
            return
        bodies = [first[0].box]
    else:
        bodies = [m.box for m in own]
    free = [p for p in free if not any(covers(b, p.box) or overlap(b, p.box) >= ONE_BODY for b in bodies)]
    if free and free[0].odds >= ASKED:
        sure = free[0].odds >= SURE
        yield _placed(
            "twice" if sure else "twice_doubtful",
            shot,
            one.thread,
            free[0],
            f"{name} is there twice" if sure else f"Is {name} there twice?",
            "Change the area, or retake; if both are meant (a mirror, a picture on the wall), let it stand.",
            severity=2.0 if sure else 0.6,
        )


def _claims(shot: ShotState) -> list[Place]:
    """Where those stand whom the plan puts here and nobody marked yet, as far as they were found."""
    marked = {m.thread for m in shot.marks}
    planned = [c for c in shot.company if c.thread in shot.assigned and c.thread not in marked]
    return [p for c in planned for p in _free(c.places, shot.marks)[:1] if p.odds > ABSENT]


def _unplanned(shot: ShotState, one: Company, name: str, claims: Sequence[Place]) -> Iterator[Finding]:
    # Who is planned and not marked yet has the better claim to a place, unless somebody else is much likelier there.
    free = [
        p
        for p in _free(one.places, shot.marks)
        if not any(covers(c.box, p.box) and p.odds < c.odds + CLOSE for c in claims)
    ]
    if _is_marked(shot, one.thread) or not free or free[0].odds < ASKED:
        return
    sure = free[0].odds >= SURE
    yield _placed(
        "unplanned" if sure else "unplanned_doubtful",
        shot,
        one.thread,
        free[0],
        f"{name} is here, and the plan does not say so"
        if sure
        else f"Is this {name}? The plan has nobody like that here",
        f"Assign {name} to this shot, or take them out of the picture.",
        severity=1.8 if sure else 0.6,
    )


def _not_seen(shot: ShotState, kinds: Mapping[str, str]) -> list[str]:
    """The characters whom the plan has in a picture and who are neither marked there nor said not to be there, though nobody like them was found."""
    return [
        c.thread
        for c in shot.company
        if kinds.get(c.thread) == "character"
        and c.thread in shot.assigned
        and c.looked
        and not c.refused
        and not _is_marked(shot, c.thread)
        and all(p.odds <= ABSENT for p in c.places)
    ]


def _in_place_of(f: Finding, name: str, missed: str) -> Finding:
    """Somebody unplanned where somebody else is planned and was not found: one is most likely there instead of the other."""
    return replace(
        f,
        title=f"{name} is here, and the plan has {missed}",
        advice=f"Retake with {missed} in the brief. If the picture is right, put {name} into this shot and take {missed} out.",
        evidence=(*f.evidence, Evidence("The plan has", missed), Evidence("Looked for " + missed, "nobody like it")),
    )


def _in_no_shot(seen: Sequence[tuple[ShotState, Finding]], name: str) -> Sequence[Finding]:
    """What is told of a character that the plan has nowhere: in several pictures it is told once."""
    if len(seen) < SEEN_ELSEWHERE:
        return [f for _, f in seen]
    surest = max((f for _, f in seen), key=lambda f: f.measured)
    shots = [shot for shot, _ in seen]
    numbers = f"shots {', '.join(s.number for s in shots[:-1])} and {shots[-1].number}"
    if len(shots) > NUMBERED_MOST:
        numbers = f"{len(shots)} shots from {shots[0].number} to {shots[-1].number}"
    may = "is" if surest.kind == "unplanned" else "may be"
    return [
        replace(
            surest,
            shot=shots[0].id,
            until=shots[-1].id,
            region=None,
            title=f"{name} {may} in {numbers}, and the plan has {name} nowhere",
            advice=f"On the Sheet, drag down the column of {name} over the shots that {name} is in; then check.",
        )
    ]


def _missing(shot: ShotState, one: Company, name: str, seen: Seen) -> Iterator[Finding]:
    if _is_marked(shot, one.thread) or one.refused or not one.looked:
        return
    best, found_in = max((p.odds for p in one.places), default=-9.0), seen.pictures
    if best < ABSENT and found_in >= SEEN_ELSEWHERE and not _is_too_small(shot, seen):
        yield _plain(
            "prop_doubtful",
            shot,
            one.thread,
            f"Is {name} in this picture?",
            f"It was not found here, and it was in {found_in} other pictures. If it is there, mark it; else retake with it in the brief.",
            [
                Evidence("Likeliest place", "nothing like it", behind=f"Log odds {best:+.1f}".replace("-", "−")),
                Evidence("Found in other pictures", str(found_in)),
            ],
            severity=0.6,
        )


def _is_too_small(shot: ShotState, seen: Seen) -> bool:
    """Whether something would be too small in a picture to be found, as large as it is elsewhere beside those who are marked here."""
    sizes = [seen.times[m.thread] * max(m.box.w, m.box.h) for m in shot.marks if m.thread in seen.times]
    picture = shot.picture
    return picture is not None and bool(sizes) and median(sizes) < SMALLEST * max(picture.width, picture.height)


def _refused(shot: ShotState, one: Company, name: str, kind: str) -> Iterator[Finding]:
    if one.refused and not _is_marked(shot, one.thread):
        yield _plain(
            kind,
            shot,
            one.thread,
            f"{name} is not in the picture, and the plan has {name} here",
            f"Retake with {name} in the brief, change the area, or take {name} out of this shot.",
            [Evidence("You said", "not in this picture"), Evidence("Assigned", name)],
            severity=1.6,
        )


def _is_marked(shot: ShotState, thread: str) -> bool:
    return any(m.thread == thread for m in shot.marks)


def _unmarked(planned: Sequence[ShotState], thread: str, titles: Mapping[str, str]) -> Iterator[Finding]:
    """Of the pictures that the plan has a character in, those in which nobody is marked as such and nobody said that it is not there: who stands there is not
    checked. Somebody else in its place looks like nobody to whoever looks for it, so what was not found counts most."""
    name = titles.get(thread, thread)
    left = [
        (shot, one)
        for shot in planned
        if not _is_marked(shot, thread)
        for one in shot.company
        if one.thread == thread and not one.refused
    ]
    marked = sum(_is_marked(shot, thread) for shot in planned)
    if len(left) > 1 and marked < MOSTLY_MARKED * len(planned):
        yield replace(
            _plain(
                "unmarked_doubtful",
                left[0][0],
                thread,
                f"{name} is marked in {marked} of {len(planned)} pictures"
                if marked
                else f"{name} is marked in no picture",
                "Who it is, and whether anything about it changed, is checked only where it is marked. On Takes, take the boxes that were found, or drag your own.",
                [Evidence("Marked in", str(marked), str(len(planned)))],
                severity=0.8,
            ),
            until=left[-1][0].id,
        )
        return
    for shot, one in left:
        yield _not_marked(shot, one, name)


def _not_marked(shot: ShotState, one: Company, name: str) -> Finding:
    likely = [p for p in one.places if p.odds > ABSENT]
    best = next(iter(_free(likely, shot.marks)), None)
    unseen = one.looked and best is None
    looked = "a likely place, framed" if best is not None else "not yet"
    if unseen:
        looked = "only somebody who is marked as another" if likely else "nobody like it"
    odds = max((p.odds for p in one.places), default=None)
    return replace(
        _plain(
            "unmarked_doubtful",
            shot,
            one.thread,
            f"Is {name} in this picture? Nobody like {name} was found"
            if unseen
            else f"Is {name} in this picture? Nobody is marked as {name}",
            f"Who stands here was not checked. Mark who is meant to be {name}, then check; if {name} is not in it, say so.",
            [
                Evidence(
                    "Looked for",
                    looked,
                    behind="" if odds is None else f"Log odds {odds:+.1f}, found from {ABSENT} on".replace("-", "−"),
                ),
                Evidence("Marked", f"nobody as {name}"),
            ],
            severity=1.6 if unseen else 0.6,
        ),
        region=best.box if best is not None else None,
    )


def _wrong_costume(shot: ShotState, titles: Mapping[str, str], costumes: Mapping[str, str]) -> Iterator[Finding]:
    assert shot.picture is not None
    for mark, seen in zip(shot.marks, shot.picture.appearances, strict=True):
        who = seen.identity
        best = who.wears if who is not None else None
        if who is None or best is None:
            continue
        lead = who.costumes[best] - who.score
        worn, planned = costumes.get(best, "") or "the usual costume", mark.costume or "the usual costume"
        name = titles.get(mark.thread, mark.thread)
        yield replace(
            _plain(
                "costume",
                shot,
                mark.thread,
                f"{name} wears {worn}; the plan says {planned}",
                f"Choose {worn} on the Sheet if the picture is right, or retake with the references of {planned}.",
                [
                    Evidence("How sure", "very sure" if lead > 2 * COSTUME_LEAD else "sure"),
                    Evidence(
                        f"Goes with {worn}", "best", behind=f"Log odds {who.costumes[best]:+.1f}".replace("-", "−")
                    ),
                    Evidence(
                        f"Goes with {planned}", "less well", behind=f"Log odds {who.score:+.1f}".replace("-", "−")
                    ),
                ],
                severity=1.5 + lead / 4,
            ),
            region=mark.box,
            measured=round(who.score, 2),
            expected=round(who.costumes[best], 2),
            unit="log odds",
        )


def leaks(findings: Sequence[Finding], shots: Sequence[ShotState], titles: Mapping[str, str]) -> list[Finding]:
    """The findings, with those of changed traits that took a colour of somebody else in their picture told as leaks."""
    by_id = {s.id: s for s in shots}
    return [_leak(f, by_id[f.shot], titles) if f.kind == "trait_changed" and f.shot in by_id else f for f in findings]


def _leak(f: Finding, shot: ShotState, titles: Mapping[str, str]) -> Finding:
    seen = next((e.measured_hex for e in f.evidence if e.measured_hex), None)
    if seen is None or shot.picture is None:
        return f
    colour = lab_from_linear(linear_from_hex(seen))
    near: list[tuple[float, str, str]] = []
    own = [np.inf]
    for mark, other in zip(shot.marks, shot.picture.appearances, strict=True):
        if mark.thread != f.thread:
            near += _nearest(colour, mark.thread, other)
        else:
            own += [_apart(colour, code) for t in other.traits if t.name != f.trait for code in t.expected]
    for one in shot.company:
        if one.thread != f.thread and one.thread in shot.assigned:
            near += [(_apart(colour, code), one.thread, "") for code in one.colours]
    if not near:
        return f
    apart, thread, trait = min(near)
    if apart > LEAKED or apart > LEAK_PART * f.measured or min(own) <= apart:
        return f  # it may as well have the colour of another of its own parts
    owner = titles.get(thread, thread)
    source = f"{owner}’s {trait[:1].lower()}{trait[1:]}" if trait and PART_AT not in trait else owner
    name, part = titles.get(f.thread or "", "it"), f.trait[:1].lower() + f.trait[1:]
    told = colour_name(linear_from_hex(seen))
    return replace(
        f,
        kind="leak",
        title=f"The {told} of {source} has got into {name}’s {part}",
        advice=f"Say in the brief which colour {part} has, or change the area: the colour belongs to {owner}.",
        evidence=(
            *f.evidence,
            Evidence(
                f"From {source}",
                f"{apart:.0f} apart",
                behind=f"CIEDE2000 {apart:.1f}; from its own colour {f.measured:.1f}",
            ),
        ),
    )


def _nearest(
    colour: np.ndarray[tuple[int, ...], np.dtype[np.float64]], thread: str, other: Appearance
) -> list[tuple[float, str, str]]:
    return [(_apart(colour, code), thread, t.name) for t in other.traits for code in t.expected]


def _apart(colour: np.ndarray[tuple[int, ...], np.dtype[np.float64]], code: str) -> float:
    return float(delta_e_2000(colour, lab_from_linear(linear_from_hex(code))))


def _placed(kind: str, shot: ShotState, thread: str, place: Place, title: str, advice: str, severity: float) -> Finding:
    how = "very sure" if place.odds > 4 else "sure" if place.odds >= SURE else "not sure"
    rows = [Evidence("How sure", how, behind=f"Log odds {place.odds:+.1f}, told from {SURE}".replace("-", "−"))]
    return replace(
        _plain(kind, shot, thread, title, advice, rows, severity),
        region=place.box,
        measured=round(place.odds, 2),
        expected=SURE,
        unit="log odds",
    )


def _plain(
    kind: str, shot: ShotState, thread: str, title: str, advice: str, rows: Sequence[Evidence], severity: float
) -> Finding:
    return Finding(
        source="check",
        kind=kind,
        shot=shot.id,
        thread=thread,
        title=title,
        advice=advice,
        evidence=tuple(rows),
        severity=severity,
    )
