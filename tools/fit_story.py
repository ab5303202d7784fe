"""Set the numbers by which a story goes from place to place and is parted into moments: `python -m tools.fit_story`. Development only.

The texts are those broken down by hand that may be looked at; how the numbers do on texts they were not set on is printed first (in twelve parts, each read by
numbers set on the others).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from pathlib import Path

import numpy as np
from scipy.optimize import minimize
from scipy.special import logsumexp

from bench.story import PARAGRAPHED, SET_ON, begun_at, names_in, plain_name, spans_of
from bench.story import bare_offset as bare
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.text import moments as m
from juxtaform.core.text.breakdown import BOOK_WORDS, own_measure
from juxtaform.core.text.candidates import story_of
from juxtaform.core.text.english import whereabouts as w
from juxtaform.core.text.english.sentences import Read
from juxtaform.core.text.english.story import Story
from juxtaform.core.text.weights import weights_in
from juxtaform.formats import texts
from tests.story_texts import Told

WHERE = Path(w.__file__).parent / "data" / "whereabouts.tsv"
CUTS = Path(m.__file__).parent / "data" / "moments.tsv"
PARTS = 12
RIDGE, RIDGE_OF_FEW = 2.0, 0.25
"""How small weights are held; less where a few are set while all others stand."""
LEAST_WEIGHT = 0.01
LINE = "a script's line"
TOO_LONG = 50.0
"""What a moment costs that is longer than any that is looked for."""


@dataclass(frozen=True)
class Choice:
    """A sentence: the terms of each mention of another place, whether it is one that the story is at from here on, and whether the story goes there."""

    mentions: list[dict[str, float]]
    right: list[bool]
    goes: bool


@dataclass(frozen=True)
class Reading:
    """A text read: the sentences of each moment, their mentions, and where the moment is, by hand."""

    moments: list[tuple[set[str], list[tuple[Read, list[w.Mention]]]]]
    seen: w.Around


def main() -> None:
    readings = [r for t in SET_ON if (r := reading(t)) is not None]
    order = np.random.default_rng(0).permutation(len(readings))
    total: Counter[str] = Counter()
    for part in range(PARTS):
        numbers = where_weights([readings[i] for k, i in enumerate(order) if k % PARTS != part])
        for i in order[part::PARTS]:
            total += where_judged(readings[i], numbers)
    print(f"places, cuts given, {len(readings)} texts, each read by numbers set on others: {_rates(total)}")
    _write(WHERE, where_weights(readings))
    weights_in.cache_clear()
    parted = [[of_one_sign(x) for x in partings(t)] for t in SET_ON]
    order = np.random.default_rng(0).permutation(len(parted))
    total = Counter()
    for part in range(PARTS):
        numbers = cut_weights([x for k, i in enumerate(order) if k % PARTS != part for x in parted[i]])
        for i in order[part::PARTS]:
            for x in parted[i]:
                total += cuts_judged(x, numbers)
    print(f"cuts, {len(parted)} texts, each read by numbers set on others: {_rates(total)}")
    _write(CUTS, with_paragraphs(cut_weights([x for xs in parted for x in xs])))


def reading(told: Told) -> Reading | None:
    """A text in prose without headings, read; None for another."""
    if told.syntax != "prose" or "#" in told.text or not any(places for _, _, places in told.moments):
        return None
    text = " ".join(told.text.split())
    story = Story(texts.read(text, "prose"))
    reads = [r for _, parts in story.scenes for r in parts if isinstance(r, Read)]
    spans = spans_of(told, text)
    moments: list[tuple[set[str], list[tuple[Read, list[w.Mention]]]]] = [(names_in(p), []) for _, _, p in told.moments]
    mentions = w.Mentions()
    for r in reads:
        at = max((i for i, (begin, _) in enumerate(spans) if begin <= bare(text, r.start)), default=0)
        moments[at][1].append((r, mentions.of(r)))
    return Reading(moments, w.around(reads))


def choices(reading: Reading) -> list[Choice]:
    """What the story does at each sentence, as it should be: at the first sentence that names the moment's place it goes there."""
    found = []
    before: str = ""
    been: set[str] = set()
    for places, sentences in reading.moments:
        here, arrived = before, not places or before in places
        arrived_at: set[str] = set()
        for read, mentions in sentences:
            others = [x for x in mentions if plain_name(x.key) != here]
            seen = replace(reading.seen, been=set(been), here=here)
            right = [plain_name(x.key) in places for x in others]
            goes = not arrived and any(right)
            found.append(Choice([w.terms(x, read, seen) for x in others], right, goes))
            if goes:
                arrived, here = True, next(iter(places))
                arrived_at = {x.key for x, ok in zip(others, right, strict=True) if ok}
        before = before if before in places or not places else next(iter(places))
        been |= arrived_at
    return [c for c in found if c.mentions]


def where_weights(readings: Sequence[Reading]) -> dict[str, float]:
    """The weights that make right choices likeliest, held small by a ridge."""
    made = [c for r in readings for c in choices(r)]
    names = sorted({name for c in made for terms in c.mentions for name in terms})
    at = {name: i for i, name in enumerate(names)}
    rows, begins = [], [0]
    for c in made:
        for terms in c.mentions:
            row = np.zeros(len(names))
            for name, value in terms.items():
                row[at[name]] = value
            rows.append(row)
        begins.append(len(rows))
    x = np.array(rows)

    def loss(b: Floats) -> tuple[float, Floats]:
        odds = np.exp(np.clip(x @ b, -30, 30))
        total, slope = 0.0, np.zeros(len(x))
        for c, first, end in zip(made, begins, begins[1:], strict=False):
            share = odds[first:end] / (1 + odds[first:end].sum())
            if c.goes:
                right = share * np.array(c.right)
                total -= np.log(right.sum())
                slope[first:end] = share - right / right.sum()
            else:
                total -= np.log(1 - share.sum())
                slope[first:end] = share
        return float(total + RIDGE / 2 * b @ b), x.T @ slope + RIDGE * b

    found = minimize(loss, np.zeros(len(names)), jac=True, method="L-BFGS-B").x
    return {name: float(value) for name, value in zip(names, found, strict=True) if abs(value) >= LEAST_WEIGHT}


def where_judged(reading: Reading, numbers: dict[str, float]) -> Counter[str]:
    """Places of the moments found, missed and false, with the cuts given."""
    counts: Counter[str] = Counter()
    seen = replace(reading.seen, been=set(), here="")
    for places, sentences in reading.moments:
        at, best = seen.here, 0.0
        for read, mentions in sentences:
            if (moved := w.went(read, mentions, seen, numbers)) is not None:
                seen.here = moved.key
                seen.been.add(moved.key)
                if moved.sure > best:
                    at, best = moved.key, moved.sure
        found = {plain_name(at)} if at else set()
        counts += Counter(hit=len(found & places), missed=len(places - found), false=len(found - places))
    return counts


@dataclass(frozen=True)
class Parting:
    """A scene: the signs at each of its pieces, what a moment of the pieces a..b costs by its length, and at which pieces pictures begin, by hand."""

    signs: list[dict[str, float]]
    costs: Floats
    begins: frozenset[int]


def partings(told: Told) -> list[Parting]:
    """The scenes of a text, without paragraphs where it is prose, but for those whose paragraphs are a writer's."""
    flat = told.syntax == "prose" and "#" not in told.text and told not in PARAGRAPHED
    manuscript = texts.read(text := " ".join(told.text.split()) if flat else told.text, told.syntax)  # type: ignore[arg-type]
    story = story_of(manuscript)
    usual = own_measure(manuscript, BOOK_WORDS)
    wanted = begun_at(told, text)
    found = []
    for number in range(len(list(manuscript.scenes()))):
        if not (pieces := story.pieces(number)):
            continue
        n, before = len(pieces), m.lengths(pieces)
        costs = np.full((n + 1, n + 1), np.inf)
        for a in range(n):
            for b in range(a + 1, min(n, a + m.LONGEST) + 1):
                costs[a, b] = m.price(before[b] - before[a], usual)
        begins = frozenset(i for i in range(1, n) if bare(text, pieces[i].start) in wanted)
        found.append(Parting(m.scene_signs(pieces), costs, begins))
    return found


def of_one_sign(scene: Parting) -> Parting:
    """A scene whose paragraphs are all of one sign, that of a script's lines: these texts have few others."""
    signs = [{LINE if "paragraph" in name else name: value for name, value in found.items()} for found in scene.signs]
    return replace(scene, signs=signs)


def with_paragraphs(given: dict[str, float]) -> dict[str, float]:
    """The weights of all signs with those of paragraphs, which are set on texts that have paragraphs while all others stand."""
    return given | cut_weights([x for t in (*SET_ON, *PARAGRAPHED) for x in partings(t)], given)


def cut_weights(scenes: Sequence[Parting], given: dict[str, float] | None = None) -> dict[str, float]:
    """The weights that make the right partings likeliest among all, held small by a ridge; of paragraphs alone where the others are `given`."""
    told = sorted({name for s in scenes for found in s.signs for name in found})
    names = told if given is None else [name for name in told if "paragraph" in name]
    fixed = [
        np.array([sum((given or {}).get(name, 0.0) * v for name, v in found.items()) for found in s.signs])
        for s in scenes
    ]
    ridge = RIDGE if given is None else RIDGE_OF_FEW
    values = [np.array([[found.get(name, 0.0) for name in names] for found in s.signs]) for s in scenes]

    def loss(b: Floats) -> tuple[float, Floats]:
        total, slope = ridge / 2 * float(b @ b), ridge * b
        for s, x, known in zip(scenes, values, fixed, strict=True):
            lost, toward = _unlikely(s, x @ b + known)
            total += lost
            slope = slope + x.T @ toward
        return total, slope

    found = minimize(loss, np.zeros(len(names)), jac=True, method="L-BFGS-B").x
    return {name: float(value) for name, value in zip(names, found, strict=True) if abs(value) >= LEAST_WEIGHT}


def _unlikely(scene: Parting, odds: Floats) -> tuple[float, Floats]:
    """Minus the logarithm of how likely the right parting is among all, and its slope in the odds of each piece (forward and backward sums over partings)."""
    n = len(odds)
    costs = scene.costs
    ahead, behind = np.full(n + 1, -np.inf), np.full(n + 1, -np.inf)
    ahead[0] = behind[n] = 0.0
    for b in range(1, n + 1):
        a = np.arange(max(0, b - m.LONGEST), b)
        ahead[b] = logsumexp(ahead[a] + odds[a] - costs[a, b])
    for a in range(n - 1, -1, -1):
        ends = np.arange(a + 1, min(n, a + m.LONGEST) + 1)
        behind[a] = odds[a] + logsumexp(behind[ends] - costs[a, ends])
    begins = np.exp(ahead[:n] + behind[:n] - ahead[n])
    begins[0] = 0.0
    edges = [0, *sorted(scene.begins), n]
    right = sum(odds[a] - min(costs[a, b], TOO_LONG) for a, b in pairwise(edges))
    wanted = np.zeros(n)
    wanted[sorted(scene.begins)] = 1.0
    return float(ahead[n] - right), begins - wanted


def cuts_judged(scene: Parting, numbers: dict[str, float]) -> Counter[str]:
    """Cuts of a scene found, missed and false."""
    odds = [sum(numbers.get(name, 0.0) * value for name, value in found.items()) for found in scene.signs]
    found = set(m.best_parting(odds, lambda a, b: float(scene.costs[a, b]))[1:])
    return Counter(hit=len(found & scene.begins), missed=len(scene.begins - found), false=len(found - scene.begins))


def _rates(counts: Counter[str]) -> str:
    hit, missed, false = counts["hit"], counts["missed"], counts["false"]
    return (
        f"precision {hit / max(1, hit + false):.2f}, recall {hit / max(1, hit + missed):.2f} ({hit} of {hit + missed})"
    )


def _write(path: Path, numbers: dict[str, float]) -> None:
    path.write_text("".join(f"{n}\t{v:.2f}\n" for n, v in sorted(numbers.items())), "utf-8")


if __name__ == "__main__":
    main()
