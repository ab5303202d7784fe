"""What about a figure changed: its traits in every picture of its thread, each judged beside the others."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace

import numpy as np

from juxtaform.core.colour.spaces import Floats, hex_from_linear, linear_from_hex
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.certainty import OTHER_HAND, TOLD, TraitJudge, TraitTerms, beside_others
from juxtaform.core.figure.reading import TraitReading, Verdict
from juxtaform.core.figure.traits import nearest_difference
from juxtaform.core.figure.worn import STRANGE, Strangeness, Worn, shown, strange, strangeness

SMALL_PART, OWN_COLOUR, COVERED = 0.05, 10.0, 5.0
"""A trait of less than the first (share of the figure), over whose place another of the figure's own colours lies within the second (CIEDE2000), is
more likely covered by an arm or a fold than changed into just that colour: its certainty (log odds) is less by the third. Of a trait whose colour is
nowhere on the figure it says nothing: where a whistle is gone, the coat is seen."""
BESIDE = 12
"""A picture is held beside so many before it and after it along the thread."""


def judged(
    seen: Sequence[Appearance], judge: TraitJudge | None, other_hand: Collection[int] = ()
) -> list[tuple[TraitReading, ...]]:
    """The traits of every appearance of a thread, their verdicts by how certain a change is beside what the others show. In pictures by an
    `other_hand`, told by their places in the thread, a change must be more certain: its inks and grain change every trait a little. Without a
    judge, and where no eye looked, the verdicts stand as they were read."""
    if judge is None:
        return [a.traits for a in seen]
    certainty = certainties(seen, judge)
    return [
        tuple(_with_verdict(a, i, others, c - OTHER_HAND * (at in other_hand)) for i, c in enumerate(own))
        if a.identity
        else a.traits
        for at, (a, others, own) in enumerate(zip(seen, around(seen), certainty, strict=True))
    ]


def certainties(seen: Sequence[Appearance], judge: TraitJudge) -> list[list[float]]:
    """How certain it is (log odds) that each trait of each appearance changed, what the thread's other pictures show of it taken out."""
    rows = [[judge.certainty(t) for t in terms] for terms in trait_terms(seen)]
    places: dict[tuple[str, ...], list[tuple[int, int]]] = defaultdict(list)
    for i, a in enumerate(seen):
        for k, t in enumerate(a.traits if a.identity else ()):
            places[t.name, *t.expected].append((i, k))
    for group in places.values():
        for (i, k), beside in zip(group, beside_others(np.array([rows[i][k] for i, k in group])), strict=True):
            rows[i][k] = float(beside)
    for a, own in zip(seen, rows, strict=True):
        for k, t in enumerate(a.traits if a.identity else ()):
            if t.share_expected < SMALL_PART and t.verdict != "missing" and _covered(t, a.traits):
                own[k] -= COVERED
    return rows


def _covered(trait: TraitReading, traits: Sequence[TraitReading]) -> bool:
    """Whether what lies over a trait's place has the colour of another part of the same figure: a sleeve before a mouth."""
    own = [c for t in traits if t is not trait for c in t.expected]
    if trait.laid is None or not own:
        return False
    seen = np.array(trait.laid.seen)
    apart = nearest_difference(np.array([linear_from_hex(c) for c in own]), seen)
    return apart < min(OWN_COLOUR, nearest_difference(np.array([linear_from_hex(c) for c in trait.expected]), seen))


def trait_terms(seen: Sequence[Appearance]) -> Iterator[list[TraitTerms]]:
    """What speaks for a change of each trait of each appearance of a thread, one appearance at a time: those of a long story would take much memory."""
    for a, others in zip(seen, around(seen), strict=True):
        anywhere, mostly = strange(a.worn, others)
        terms = []
        for i, t in enumerate(a.traits):
            terms.append(
                TraitTerms(
                    laid=t.laid,
                    changed=t.verdict == "changed",
                    missing=t.verdict == "missing",
                    difference=t.difference,
                    allowed=t.allowed,
                    seen_share=t.share_seen,
                    expected_share=t.share_expected,
                    placed=a.identity.share if a.identity else 0.0,
                    score=a.identity.score if a.identity else 0.0,
                    anywhere=strangeness(a.worn, anywhere, i) if a.worn else Strangeness(),
                    mostly=strangeness(a.worn, mostly, i) if a.worn else Strangeness(),
                )
            )
        yield terms


def around(seen: Sequence[Appearance], colours: Sequence[Floats] | None = None) -> Iterator[list[Floats]]:
    """The colours that the pictures around each appearance, in the same costume, show of the figure; those that it wears, or the `colours` of each that are given."""
    colours = [shown(a.worn) for a in seen] if colours is None else colours
    by_costume: dict[tuple[tuple[str, ...], ...], list[int]] = defaultdict(list)
    for i, a in enumerate(seen):
        by_costume[tuple((t.name, *t.expected) for t in a.traits)].append(i)
    near: dict[int, tuple[list[int], int]] = {i: (own, at) for own in by_costume.values() for at, i in enumerate(own)}
    for i in range(len(seen)):
        places, at = near[i]
        beside = [*places[max(0, at - BESIDE) : at], *places[at + 1 : at + 1 + BESIDE]]
        yield [colours[j] for j in beside if len(colours[j])]


def _with_verdict(a: Appearance, trait: int, others: Sequence[Floats], certainty: float) -> TraitReading:
    t = a.traits[trait]
    if certainty <= TOLD or (t.verdict == "not_seen" and t.laid is None):
        return replace(t, verdict="not_seen" if t.verdict == "not_seen" else "holds")
    if t.verdict == "missing" and t.seen is None:
        return t
    colour = _colour_there(a, trait, others)
    if colour is None:
        return replace(t, verdict="changed" if t.seen else "missing", alone=_alone(t.seen, others))
    seen = hex_from_linear(colour)
    difference = nearest_difference(np.array([linear_from_hex(c) for c in t.expected]), colour)
    verdict: Verdict = "changed" if t.verdict in ("changed", "missing") or difference > t.allowed else "holds"
    return replace(t, verdict=verdict, seen=seen, difference=difference, alone=_alone(seen, others))


def _colour_there(a: Appearance, trait: int, others: Sequence[Floats]) -> Floats | None:
    """The colour that is in a changed trait's place: the middle one where it lies over its reference, if it is another than expected; else that
    which the figure wears nowhere else. None where neither is known: then what was found by colour alone stands."""
    t = a.traits[trait]
    if t.laid is None:
        return None
    expected = np.array([linear_from_hex(c) for c in t.expected])
    middle = np.array(t.laid.seen)
    if nearest_difference(expected, middle) > t.allowed:
        return middle
    strangest = _strangest(a, trait, strange(a.worn, others)[1])
    if strangest is not None:
        return np.array(strangest.linear)
    return None if t.verdict in ("changed", "missing") else middle


def _strangest(a: Appearance, trait: int, unlike: Floats) -> Worn | None:
    """The colour of a trait that is most of it and most unlike what the figure wears elsewhere; None where none is strange."""
    weight = np.array([w.parts[trait] for w in a.worn]) * np.where(unlike > STRANGE, unlike, 0.0)
    return a.worn[int(weight.argmax())] if len(weight) and weight.max() > 0 else None


def _alone(seen: str | None, others: Sequence[Floats]) -> int:
    """How many other pictures there are, if none of them shows a colour."""
    if seen is None:
        return 0
    red, green, blue = (float(v) for v in linear_from_hex(seen))
    unlike, _ = strange([Worn((red, green, blue), share=1.0, apart=np.inf, parts=())], others)
    return len(others) if others and unlike[0] > STRANGE else 0
