"""What recurring faults share: exact tests over what takes were made from, corrected for how many were asked."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache

import scipy

from juxtaform.core.text.english.lexicon import is_small

Feature = tuple[str, str]
"""What a take was made from: a kind (`words`, `framing`, `reference`, `weight`, `costume`, `style`, `service`, `quality`, `seed`, `shot`) and which one."""

LEVEL = 0.05
"""The chance that anything is told of takes whose faults share nothing."""
LEAST_MARKED, LEAST_EACH = 3, 3
"""Nothing is told of fewer marks, nor of what fewer takes have, or lack."""
_WORD = re.compile(r"[^\W\d_]+")
ORDER = ("words", "framing", "reference", "weight", "costume", "style", "service", "quality", "seed", "shot")
"""What can be changed most easily is named first, where several things go together."""


@dataclass(frozen=True)
class Judged:
    """A take that the user has looked at: the kinds of fault that are marked in it, and what it was made from."""

    take: str
    faults: frozenset[str]
    features: frozenset[Feature]


@dataclass(frozen=True)
class Cause:
    """What takes with a fault share: the features (those of `alike` go with it in every take), how many takes with and without it have the fault, of how
    many, the exact chance of that, and that chance corrected for all that was asked."""

    fault: str
    feature: Feature
    alike: tuple[Feature, ...]
    with_it: tuple[int, int]
    without_it: tuple[int, int]
    p: float
    corrected: float
    takes: frozenset[str] = frozenset()
    """The takes that have both."""


def causes(takes: Sequence[Judged], level: float = LEVEL) -> list[Cause]:
    """What each kind of fault goes with, the surest first. Told only where one-sided Fisher tests bear it after Bonferroni's correction for all
    that can be asked of these takes at all (R. E. Tarone, A modified Bonferroni method for discrete data, 1990)."""
    having: defaultdict[Feature, set[int]] = defaultdict(set)
    for i, t in enumerate(takes):
        for feature in t.features:
            having[feature].add(i)
    parted: defaultdict[frozenset[int], list[Feature]] = defaultdict(list)
    for feature, those in having.items():
        if LEAST_EACH <= len(those) <= len(takes) - LEAST_EACH:
            parted[frozenset(those)].append(feature)
    kinds = {f for t in takes for f in t.faults}
    marked = {k: frozenset(i for i, t in enumerate(takes) if k in t.faults) for k in kinds}
    asked = [(fault, where, own) for fault, where in marked.items() if len(where) >= LEAST_MARKED for own in parted]
    least = [_chance(len(takes), len(where), len(own), min(len(where), len(own))) for _, where, own in asked]
    tests = _tests(least, level)
    found = []
    for (fault, where, own), possible in zip(asked, least, strict=True):
        both = len(where & own)
        if possible > level / tests:
            continue
        p = _chance(len(takes), len(where), len(own), both)
        corrected = min(1.0, p * tests)
        if corrected < level:
            named = sorted(parted[own], key=_rank)
            found.append(
                Cause(
                    fault,
                    named[0],
                    tuple(named[1:]),
                    (both, len(own)),
                    (len(where) - both, len(takes) - len(own)),
                    p,
                    corrected,
                    frozenset(takes[i].take for i in where & own),
                )
            )
    return _foremost(sorted(found, key=lambda c: c.p))


def words_in(phrases: Iterable[str]) -> frozenset[Feature]:
    """The words of a brief that may matter, and pairs of them that stand side by side.

    >>> sorted(w for _, w in words_in(["Pell whistles on the step."]))
    ['pell', 'pell whistles', 'step', 'whistles']
    """
    out: set[Feature] = set()
    for phrase in phrases:
        before = ""
        for word in _WORD.findall(phrase.casefold()):
            telling = len(word) > 2 and not is_small(word)
            if telling:
                out.add(("words", word))
                if before:
                    out.add(("words", f"{before} {word}"))
            before = word if telling else ""
    return frozenset(out)


@cache
def _chance(takes: int, marked: int, having: int, both: int) -> float:
    """The chance of so many marked takes among those that have a feature, or more (Fisher's exact test, one-sided)."""
    return float(scipy.stats.hypergeom.sf(both - 1, takes, marked, having))


def _tests(least: Sequence[float], level: float) -> int:
    """For how many tests is corrected: those whose least possible chance could pass at that correction."""
    tests = 1
    while sum(p <= level / tests for p in least) > tests:
        tests += 1
    return tests


def _rank(feature: Feature) -> tuple[int, int, str]:
    kind, what = feature
    return ORDER.index(kind), -what.count(" "), what


def _foremost(found: Sequence[Cause]) -> list[Cause]:
    """Of what a fault goes with, the surest; what says nothing more than that is left out."""
    by_fault: dict[str, list[Cause]] = {}
    for cause in found:
        own = by_fault.setdefault(cause.fault, [])
        if not any(cause.takes <= other.takes for other in own):
            own.append(cause)
    return [c for own in by_fault.values() for c in own]
