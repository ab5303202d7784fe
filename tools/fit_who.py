"""Set the numbers by which somebody else is told from a character: `python -m tools.fit_who`, after `tools.fit_figure`. Development only.

Sequences of our own figures and of the half of foreign art that settings may be tried on, right figures, recoloured ones, strangers and others of the
cast, with none to five others to compare with, whole threads and short ones.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import cv2
import numpy as np

from bench.art.judge import SOURCES
from bench.art.sequences import FAULTS, story
from bench.art.sources import Family, families, picture
from bench.art.staging import on_white
from juxtaform.core.check.persons import thread_level, who_terms
from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.appearance import Appearance, measure_appearances
from juxtaform.core.figure.known import FigureKnown, known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.media.network import figure_eye
from tests.constructed import LIGHTS, random_look, random_pose, recoloured_look, reference, scene
from tools.fit_places import fitted

NETWORK = Path(__file__).parents[1] / "juxtaform" / "network"
EXTRAS = (0, 1, 2, 4)
"""How many others of the cast there are besides the two who appear."""
SHORT = (1, 2, 3, 5)
"""Threads are also read as if they had so few pictures."""
ALONE = 0.2
"""So many threads are also read as if nobody else were in the cast."""
RIDGE = 2e-3


@dataclass(frozen=True)
class Job:
    """A sequence to be made: whose figures (`own` are ours), from which seed, with which faults."""

    source: str
    seed: int
    faults: tuple[str, ...]


@dataclass(frozen=True)
class Case:
    """A figure's terms, and whether it was somebody else."""

    values: Floats
    other: bool


def main() -> None:
    cv2.setNumThreads(1)
    each = int(sys.argv[1]) if len(sys.argv) > 1 else 15
    jobs = [Job(s, 51000 + k, FAULTS if k % 3 else ()) for k in range(each) for s in (*SOURCES, "own")]
    with ProcessPoolExecutor(2, initializer=cv2.setNumThreads, initargs=(1,)) as pool:
        told = [c for cases in pool.map(cases_of, jobs) for c in cases]
    values, other = np.array([c.values for c in told]), np.array([c.other for c in told])
    judge = fitted(values, other, RIDGE)
    np.savez(NETWORK / "who.npz", **{f"who_{k}": getattr(judge, k) for k in ("mean", "scale", "weights", "offset")})
    odds = np.array([judge.odds(v) for v in values])
    for level in (-3, -2.5, -2, -1.5, -1, -0.5, 0, 0.5, 1):
        print(
            f"from {level}: {(odds[other] > level).sum()} of {other.sum()}, wrongly {(odds[~other] > level).sum()} of {(~other).sum()}"
        )
    print("weights", judge.weights.round(2), round(judge.offset, 2))


def cases_of(job: Job) -> list[Case]:
    """All figures of a sequence, each thread read whole, cut short, and without a cast."""
    rng = np.random.default_rng(job.seed)
    out = []
    for seen, others in threads_of(job):
        out += _cases(seen, others)
        for length in SHORT:
            if len(seen) > length:
                start = int(rng.integers(len(seen) - length))
                out += _cases(seen[start : start + length], others[start : start + length])
        if rng.random() < ALONE:
            alone = [replace(a, identity=replace(a.identity, rivals={})) if a.identity else a for a in seen]
            out += _cases(alone, others)
    return out


def _cases(seen: Sequence[Appearance], others: Sequence[bool]) -> list[Case]:
    return [
        Case(t.values, other)
        for t, other in zip(who_terms(seen, thread_level(seen)), others, strict=True)
        if t is not None
    ]


def threads_of(job: Job) -> list[tuple[list[Appearance], list[bool]]]:
    """The appearances of each character of a sequence, and whether each is somebody else; pictures by another hand left out."""
    return _own(job) if job.source == "own" else _foreign(job)


def _model(name: str, pages: Sequence[Pixels]) -> FigureKnown:
    eye = figure_eye()
    return known_figure(figure_model(name, [reference_view(p, str(i), eye=eye) for i, p in enumerate(pages)]), eye)


def _foreign(job: Job) -> list[tuple[list[Appearance], list[bool]]]:
    members = [f for f in families() if f.source == job.source]
    shown = story(members, job.seed, job.faults)
    known = [_model(n, pages) for n, pages in zip("ab", shown.references, strict=True)]
    cast = [*known, *_extras(members, shown.cast, job.seed)]
    threads: dict[int, tuple[list[Appearance], list[bool]]] = {0: ([], []), 1: ([], [])}
    for frame in shown.frames:
        seen = measure_appearances(frame.pixels, [(m.box, known[m.who]) for m in frame.marks], cast, figure_eye())
        for mark, one in zip(frame.marks if not frame.fault else (), seen, strict=False):
            threads[mark.who][0].append(one)
            threads[mark.who][1].append(mark.fault in ("stranger", "swapped"))
    return [t for t in threads.values() if t[0]]


def _extras(members: Sequence[Family], taken: Sequence[str], seed: int) -> list[FigureKnown]:
    """Others of the same hand who are in the cast and in no picture."""
    rng = np.random.default_rng(seed + 1)
    free = [m for m in members if m.name not in taken and len(m.pictures) >= 2]
    found = []
    for i in rng.permutation(len(free))[: EXTRAS[seed % len(EXTRAS)]]:
        try:
            found.append(_model(f"x{i}", [on_white(picture(a)) for a in free[i].pictures[:2]]))
        except ValueError:
            continue  # a drawing that cannot be read
    return found


def _own(job: Job) -> list[tuple[list[Appearance], list[bool]]]:
    rng = np.random.default_rng(job.seed)
    looks = [random_look(rng) for _ in range(3 + EXTRAS[job.seed % len(EXTRAS)])]
    known = [
        _model(f"own{i}", (reference(look), reference(look, random_pose(rng))))
        for i, look in enumerate(looks)
        if i != 2
    ]
    seen, others = [], []
    faults = dict(zip((3, 5, 7, 8), job.faults[:4], strict=False))
    for i in range(10):
        fault = faults.get(i, "")
        drawn = looks[2] if fault == "stranger" else looks[1] if fault == "swapped" else looks[0]
        if fault.startswith("recoloured"):
            drawn = recoloured_look(drawn, str(rng.choice(("hair", "coat", "boots", "legs"))), rng)
        page, (box,) = scene(
            [drawn], rng, LIGHTS[int(rng.integers(6))], hand="inked" if rng.random() < 0.3 else "paper"
        )
        seen += measure_appearances(page, [(box, known[0])], known, figure_eye())
        others.append(fault in ("stranger", "swapped"))
    return [(seen, others)]


if __name__ == "__main__":
    main()
