"""Findings grouped by what they come from: one reference, one service, one scene, one picture."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import comb
from typing import Literal

from juxtaform.core.findings import Finding

CauseKind = Literal["reference", "service", "scene", "costume", "picture", "thread", "alone"]

GROUP_LEAST = 2
"""One finding is no group."""
BY_CHANCE = 0.1
"""What shots with a finding share is told as its cause when it would be shared by chance less often than this."""


@dataclass(frozen=True)
class ShotFacts:
    """What may be the cause of a finding at a shot: its scene, the references (ids) and the service that its picture was made with, the costumes worn as
    (thread, costume), and the picture's width and height in px."""

    scene: str = ""
    references: frozenset[str] = frozenset()
    service: str = ""
    costumes: frozenset[tuple[str, str]] = frozenset()
    size: tuple[float, float] | None = None


@dataclass(frozen=True)
class Group:
    """Findings with one cause, the weightiest first; `about` is what the cause is (an id, or a name of a service). `shared` and `elsewhere` count the
    shots of the group, and the other shots that have the same and no such finding."""

    cause: CauseKind
    about: str
    findings: tuple[Finding, ...]
    weight: float
    shared: int = 0
    elsewhere: int = 0


def grouped(findings: Sequence[Finding], weights: Mapping[str, float], facts: Mapping[str, ShotFacts]) -> list[Group]:
    """Findings in groups, the weightiest group first. Those of one kind on one thread belong together; what their shots share and others do not is their
    cause. What is left is grouped by its picture, where one retake mends several.

    `weights` by a finding's key; `facts` by shot.
    """
    by_term: dict[tuple[str, str, str], list[Finding]] = defaultdict(list)
    for f in findings:
        by_term[_kind(f), f.thread or "", f.trait].append(f)
    groups, left = [], []
    for own in by_term.values():
        shots = {f.shot for f in own if f.shot}
        if len(shots) < GROUP_LEAST:
            left += own
            continue
        cause, about, shared, elsewhere = _cause(shots, facts)
        groups.append(_group(cause, about or (own[0].thread or ""), own, weights, shared, elsewhere))
    by_shot: dict[str, list[Finding]] = defaultdict(list)
    for f in left:
        by_shot[f.shot or ""].append(f)
    for shot, own in by_shot.items():
        groups.append(_group("picture" if len(own) >= GROUP_LEAST else "alone", shot, own, weights))
    return sorted(groups, key=lambda g: -g.weight)


def _kind(f: Finding) -> str:
    """Kinds that have one cause count as one."""
    return {
        "trait_missing": "trait",
        "trait_changed": "trait",
        "trait_twice": "trait",
        "leak": "trait",
        "extra_doubtful": "extra",
        "proportion_doubtful": "proportion",
        "height_doubtful": "height",
        "tint_doubtful": "style_slide",
        "unplanned_doubtful": "unplanned",
        "twice_doubtful": "twice",
    }.get(f.kind, f.kind)


def _group(
    cause: CauseKind,
    about: str,
    own: Sequence[Finding],
    weights: Mapping[str, float],
    shared: int = 0,
    elsewhere: int = 0,
) -> Group:
    ranked = sorted(own, key=lambda f: -weights.get(f.key, 0.0))
    each = [weights.get(f.key, 0.0) for f in ranked]
    # Several of one cause are seen more than one, and less than all added up.
    return Group(cause, about, tuple(ranked), max(each) + 0.25 * (sum(each) - max(each)), shared, elsewhere)


def _cause(shots: set[str], facts: Mapping[str, ShotFacts]) -> tuple[CauseKind, str, int, int]:
    """What all shots of a group share and others mostly do not: the reference, service, scene or costume that would do so least often by chance (the
    hypergeometric chance that as many shots, drawn from all, have it all)."""
    count: Counter[tuple[CauseKind, str]] = Counter()
    for fact in facts.values():
        count.update(_values(fact))
    here: Counter[tuple[CauseKind, str]] = Counter()
    for shot in shots:
        here.update(_values(facts.get(shot, ShotFacts())))
    every, n = len(facts), len(shots)
    best: tuple[float, CauseKind, str, int, int] | None = None
    for value, shared in here.items():
        if shared < n or count[value] >= every:
            continue
        chance = comb(count[value], n) / comb(every, n)
        if chance <= BY_CHANCE and (best is None or chance < best[0]):
            best = chance, value[0], value[1], shared, count[value] - shared
    return best[1:] if best else ("thread", "", n, 0)


def _values(fact: ShotFacts) -> set[tuple[CauseKind, str]]:
    found: set[tuple[CauseKind, str]] = {("reference", r) for r in fact.references}
    found |= {("costume", f"{t}/{c}") for t, c in fact.costumes}
    if fact.service:
        found.add(("service", fact.service))
    if fact.scene:
        found.add(("scene", fact.scene))
    return found
