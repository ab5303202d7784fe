"""Set the numbers by which preflight decides what cannot be drawn and who is left out: `python -m tools.fit_briefs`. Development only.

The briefs are all those with hand-made truth (`tests/briefs`). A brief is faulty if one of its sentences (or one of its cast) is: the chances of each are put together. How
the numbers do on worlds they were not set on is printed first (in twelve parts, each read by numbers set on the others).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from scipy.optimize import minimize

from juxtaform.core import brief
from juxtaform.core.brief import left_out, showing, unshown
from juxtaform.core.brief.compose import composed
from juxtaform.core.brief.left_out import Weighing
from juxtaform.core.brief.words import read_words
from juxtaform.core.colour.spaces import Floats
from tests.briefs import rowing
from tests.briefs.clauses import CLAUSES
from tests.briefs.tables import TABLES
from tests.briefs.world import Row

DATA = Path(brief.__file__).parent / "data"
PARTS, ROUNDS = 12, 3
LEAST_WEIGHT, LEAST_OFTEN = 0.05, 4
ALWAYS = ("any sentence", "anybody")
"""What every case has: its weight is not held small."""
EDGES = (-1.5, -1.0, -0.5, -0.15, 0.0, 0.6, 1.0)


@dataclass(frozen=True)
class Case:
    """A brief of a world: the terms of each clause of each of its sentences, or of each of its cast, and whether one of them is at fault. A sentence is at fault by its
    clause that is least so."""

    world: int
    parts: list[list[dict[str, float]]]
    faulty: bool

    def odds(self, numbers: Mapping[str, float]) -> float:
        return max(min(odds_of(clause, numbers) for clause in part) for part in self.parts)


def odds_of(terms: Mapping[str, float], numbers: Mapping[str, float]) -> float:
    return sum(numbers.get(term, 0.0) * value for term, value in terms.items())


def main() -> None:
    for name, cases, ridge, edge in (
        ("showing.tsv", [*_clauses(), *(c for w, r in rows_of_all() if (c := _shown(w, r)).parts)], 0.3, unshown.EDGE),
        (
            "left_out.tsv",
            [*_rowing(), *(c for w, r in rows_of_all() if (c := cast(w, r)) is not None)],
            1.0,
            left_out.EDGE,
        ),
    ):
        print(f"{name}: {len(cases)} briefs, {sum(c.faulty for c in cases)} at fault; the edge is {edge}")
        odds = np.zeros(len(cases))
        for part in range(PARTS):
            numbers = weights([c for c in cases if c.world % PARTS != part], ridge)
            for i, c in enumerate(cases):
                if c.world % PARTS == part:
                    odds[i] = c.odds(numbers)
        faulty = np.array([c.faulty for c in cases])
        for at in sorted({*EDGES, edge}):
            told = odds > at
            right = int((told & faulty).sum())
            print(f"  from {at}: precision {right / max(1, told.sum()):.2f}, recall {right / faulty.sum():.2f}")
        _write(DATA / name, weights(cases, ridge))


def rows_of_all() -> list[tuple[int, Row]]:
    """Every brief with the number of its world; the same words in one world once for what is shown."""
    return [(i, row) for i, table in enumerate(TABLES) for row in table.rows]


def _clauses() -> list[Case]:
    """Short words of which it is known what no picture can show, each as a world of its own."""
    read = ((told, read_words(text, frozenset(("Ada", "Bo", "Ida"))).sentences) for text, told in CLAUSES)
    return [
        Case(-i, [showing.terms(s) for _, s in sentences], told is not None) for i, (told, sentences) in enumerate(read)
    ]


def _rowing() -> list[Case]:
    """Short words of which it is known of each of the cast whether they have a part in them, each as a world of its own."""
    cases = []
    for i, (text, attached, unspoken) in enumerate(rowing.CAST_OF_WORDS):
        here = rowing.read(text)
        if here.absent:
            continue
        weighing = Weighing.of(here.unnamed, [rowing.CAST[k] for k in attached], here.named)
        cases += [Case(-i, [[weighing.terms(k)]], m.id in unspoken) for k, m in enumerate(weighing.waiting)]
    return cases


def _shown(world: int, row: Row) -> Case:
    names = row.world.preflight().names
    sentences = (s for _, s in read_words(row.words, names).sentences if s.tokens)
    return Case(world, [showing.terms(s) for s in sentences], "unpicturable" in row.expected)


def cast(world: int, row: Row) -> Case | None:
    """None where somebody is put elsewhere by the words, or where nothing is left to be decided."""
    shot, *_ = row.told()
    desk = row.world.preflight()
    here = desk.seen_in(shot, composed(shot))
    if here.absent or here.nothing_shown or "leftover" in row.expected:
        return None
    people = [m for m in shot.members if m.kind == "character"]
    weighing = Weighing.of(here.unnamed, people, here.named)
    if not weighing.waiting:
        return None
    parts = [[weighing.terms(k)] for k in range(len(weighing.waiting))]
    return Case(world, parts, "attached_not_named" in row.expected)


def weights(cases: Sequence[Case], ridge: float) -> dict[str, float]:
    """The weights that make the truth likeliest, held small by a ridge. Which clause of a sentence counts is asked of the weights of the round before."""
    numbers: dict[str, float] = {}
    for _ in range(ROUNDS):
        numbers = _weights(
            [[min(part, key=lambda clause: odds_of(clause, numbers)) for part in c.parts] for c in cases],
            np.array([c.faulty for c in cases], float),
            ridge,
        )
    return numbers


def _weights(cases: Sequence[Sequence[Mapping[str, float]]], faulty: Floats, ridge: float) -> dict[str, float]:
    """A case is at fault if any of its parts is (noisy or)."""
    often = Counter(term for parts in cases for term in {t for terms in parts for t, v in terms.items() if v})
    names = sorted(t for t, n in often.items() if n >= LEAST_OFTEN)
    at = {name: i for i, name in enumerate(names)}
    held = np.array([0.0 if name in ALWAYS else ridge for name in names])
    rows = [(i, terms) for i, parts in enumerate(cases) for terms in parts]
    of = np.array([i for i, _ in rows])
    x = np.zeros((len(rows), len(names)))
    for k, (_, terms) in enumerate(rows):
        for term, value in terms.items():
            if term in at:
                x[k, at[term]] = value

    def loss(b: Floats) -> tuple[float, Floats]:
        z = x @ b
        right = np.minimum(
            np.bincount(of, -np.logaddexp(0, z), len(cases)), -1e-9
        )  # log of the chance that all parts are right
        chance = 1 - np.exp(right)
        total = -(faulty * np.log(chance) + (1 - faulty) * right).sum() + held @ b**2
        slope = faulty * np.exp(right) / chance - (1 - faulty)
        return float(total), x.T @ (-slope[of] / (1 + np.exp(-z))) + 2 * held * b

    found = minimize(loss, np.zeros(len(names)), jac=True, method="L-BFGS-B", options={"maxiter": 1000}).x
    return {name: float(v) for name, v in zip(names, found, strict=True) if abs(v) >= LEAST_WEIGHT}


def _write(path: Path, numbers: dict[str, float]) -> None:
    path.write_text("".join(f"{n}\t{v:.2f}\n" for n, v in sorted(numbers.items())), "utf-8")


if __name__ == "__main__":
    main()
