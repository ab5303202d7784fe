"""Set the numbers by which a trait's change is judged: `python -m tools.fit_traits`, after `tools.fit_figure`. Development only.

Right figures, and figures with a part recoloured or gone, in one picture or in several on end, of our own and of the half of foreign art that
settings may be tried on.
"""

from __future__ import annotations

from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import cv2
import numpy as np
from scipy.optimize import minimize

from bench.art.judge import SOURCES
from bench.art.sequences import Shown, story
from bench.art.sources import families
from juxtaform.core.check.changes import trait_terms
from juxtaform.core.colour.spaces import Floats, delta_e_2000, lab_from_linear, lab_from_srgb8, linear_from_hex
from juxtaform.core.figure.appearance import Appearance, measure_appearances
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.media.network import figure_eye
from tests.constructed import LIGHTS, random_look, random_pose, recoloured_look, reference, scene

NETWORK = Path(__file__).parents[1] / "juxtaform" / "network"
MIXED = ("stranger", "swapped", "recoloured", "recoloured again", "other hand")
RECOLOURED = ("recoloured", "recoloured again", "recoloured once more")
OWN_PARTS = ("hair", "coat", "boots", "legs", "extra", "extra")
OWN_FAULTS = (4, 7, 9)
SAME_COLOUR = 14.0
RIDGE = 3e-3


@dataclass(frozen=True)
class Job:
    """A sequence to be made: whose figures, its faults, and in how many pictures one colour changes besides."""

    source: str
    seed: int
    faults: tuple[str, ...]
    lasting: int = 0


@dataclass(frozen=True)
class Case:
    """One trait of one figure: its terms, the figure's key, whether anything was changed on it, and whether it was this trait."""

    values: Floats
    figure: tuple[object, ...]
    faulty: bool
    this: bool
    step: float


def main() -> None:
    cv2.setNumThreads(1)
    jobs = [Job(s, 300 + k, MIXED if k else ()) for s in SOURCES for k in range(3)]
    jobs += [Job(s, 400 + k, RECOLOURED) for s in SOURCES for k in range(2)]
    jobs += [Job(s, 500 + k, (), 3 + k) for s in SOURCES for k in range(3)]
    jobs += [Job("own", k, (), 4 * (k % 3 == 0)) for k in range(18)]
    with ProcessPoolExecutor(2, initializer=cv2.setNumThreads, initargs=(1,)) as pool:
        told = [c for cases in pool.map(_cases, jobs) for c in cases]
    kept = _one_each(told)
    values, changed = np.array([c.values for c in kept]), np.array([float(c.this) for c in kept])
    mean, scale = values.mean(axis=0), values.std(axis=0) + 1e-9
    x = np.column_stack([(values - mean) / scale, np.ones(len(values))])

    def loss(b: Floats) -> float:
        return float(np.logaddexp(0, -(2 * changed - 1) * (x @ b)).mean() + RIDGE * (b[:-1] ** 2).sum())

    found = minimize(loss, np.zeros(x.shape[1])).x
    numbers = dict(np.load(NETWORK / "figure.npz"))
    numbers |= {"trait_mean": mean, "trait_scale": scale, "trait_weights": found[:-1], "trait_offset": found[-1]}
    np.savez(NETWORK / "figure.npz", **numbers)
    score = x @ found
    auc = float(np.mean(score[changed > 0][:, None] > score[changed == 0][None]))
    print(f"{len(kept)} traits, {int(changed.sum())} changed; on what it was set on: AUC {auc:.3f}")


def _one_each(told: list[Case]) -> list[Case]:
    """Traits of right figures, and of each faulty one the trait that was changed: of several in its colour that with the largest step."""
    groups: dict[tuple[object, ...], list[Case]] = defaultdict(list)
    for case in told:
        if case.this:
            groups[case.figure].append(case)
    changed = [max(group, key=lambda c: c.step) for group in groups.values()]
    return [c for c in told if not c.faulty] + changed


def _cases(job: Job) -> list[Case]:
    return _own(job) if job.source == "own" else _foreign(job)


def _own(job: Job) -> list[Case]:
    eye, rng = figure_eye(), np.random.default_rng(job.seed)
    look = random_look(rng)
    pages = (reference(look), reference(look, random_pose(rng)))
    known = known_figure(figure_model("own", [reference_view(p, str(i), eye=eye) for i, p in enumerate(pages)]), eye)
    shown, parts = [], []
    lasting = recoloured_look(look, str(rng.choice(OWN_PARTS)), rng)
    for i in range(10):
        part = str(rng.choice(OWN_PARTS)) if i in OWN_FAULTS and not job.lasting else ""
        seen = look
        if part:
            gone = part == "extra" and rng.random() < 0.7
            seen = replace(look, has_extra=False) if gone else recoloured_look(look, part, rng)
        if job.lasting and i >= 10 - job.lasting:
            seen, part = lasting, next(p for p in OWN_PARTS if getattr(lasting, p) != getattr(look, p))
        hand = "inked" if rng.random() < 0.3 else "paper"
        page, (box,) = scene([seen], rng, LIGHTS[int(rng.integers(6))], hand=hand)  # type: ignore[arg-type]
        shown += measure_appearances(page, [(box, known)], None, eye)
        parts.append(tuple(int(getattr(look, part)[k : k + 2], 16) for k in (1, 3, 5)) if part else None)
    return [c for i, case in enumerate(_terms(shown)) for c in _traits(shown[i], case, (job, i), parts[i])]


def _foreign(job: Job) -> list[Case]:
    eye = figure_eye()
    shown = story([f for f in families() if f.source == job.source], job.seed, job.faults, job.lasting)
    known = [
        known_figure(figure_model(n, [reference_view(p, str(i), eye=eye) for i, p in enumerate(pages)]), eye)
        for n, pages in zip("ab", shown.references, strict=True)
    ]
    threads: dict[int, list[tuple[tuple[object, ...], Shown, Appearance]]] = defaultdict(list)
    for i, frame in enumerate(shown.frames):
        seen = measure_appearances(frame.pixels, [(m.box, known[m.who]) for m in frame.marks], None, eye)
        for j, (mark, told) in enumerate(zip(frame.marks, seen, strict=True)):
            threads[mark.who].append(((job, i, j), mark, told))
    out = []
    for thread in threads.values():
        for (key, mark, told), terms in zip(thread, _terms([t for _, _, t in thread]), strict=True):
            if mark.fault in ("", "recoloured"):
                out += _traits(told, terms, key, mark.was if mark.fault else None)
    return out


def _terms(seen: list[Appearance]) -> list[list[Floats]]:
    return [[t.values for t in own] for own in trait_terms(seen)]


def _traits(
    seen: Appearance, terms: list[Floats], figure: tuple[object, ...], was: tuple[int, ...] | None
) -> list[Case]:
    out = []
    for t, values in zip(seen.traits, terms, strict=True):
        this = False
        if was is not None:
            tone = lab_from_srgb8(np.array(was, dtype=np.uint8))
            apart = min(float(delta_e_2000(lab_from_linear(linear_from_hex(c)), tone)) for c in t.expected)
            this = apart < SAME_COLOUR
        out.append(Case(values, figure, was is not None, this, t.laid.step if t.laid else 0.03))
    return out


if __name__ == "__main__":
    main()
