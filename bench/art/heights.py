"""Two drawn figures by other hands that stand beside each other as tall as they always are, but for one picture."""

from __future__ import annotations

from collections import Counter

import numpy as np

from bench.art.checked import findings_of, shots_of, side_by_side, sources_of
from bench.art.sequences import Frame, Shown, Story, cut_of, readable
from bench.art.sources import Family, families, grounds
from bench.art.staging import SIZE, Rgba, Standing, on_white, random_light, scene

PICTURES, ODD = 8, 5
TIMES = (1.0, 1.25, 1.5, 1.8, 1 / 1.5, 1 / 1.8)
"""How many times as large the second figure is in one picture; 1 is a clean row."""


def figures_beside_each_other(last: bool, each: int = 2) -> None:
    """Both stand on one ground, near and far, in any pose, side and light; in the sixth picture one of them is of another size."""
    first = 7600 if last else 5600
    jobs = [(s, first + k, times, last) for times in TIMES for s in sources_of(last) for k in range(each)]
    told = list(zip(jobs, side_by_side(_row, jobs), strict=True))
    for times in TIMES:
        own = [out for (_, _, t, _), out in told if t == times]
        hit = Counter(kind for kinds, _ in own for kind in kinds)
        wrong = Counter(kind for _, kinds in own for kind in kinds)
        print(
            f"  {times:.2f} times: told {hit['height']}, asked {hit['height_doubtful']} of {len(own)}; wrongly {dict(wrong) or 'nothing'}"
        )


def _row(job: tuple[str, int, float, bool]) -> tuple[list[str], list[str]]:
    """What is told of heights in the odd picture, and in the others."""
    source, seed, times, last = job
    told = [f for f in findings_of(shots_of(_told(source, seed, times, last))) if f.kind.startswith("height")]
    at = f"s{ODD}" if times != 1 else ""
    return [f.kind for f in told if f.shot == at], [f.kind for f in told if f.shot != at]


def _told(source: str, seed: int, times: float, last: bool) -> Story:
    rng = np.random.default_rng(seed)
    cast = [_pictures(f) for f in families(last) if f.source == source]
    cast = [own for own in cast if len(own) >= 3]
    pair = [cast[i] for i in rng.permutation(len(cast))[:2]]
    usual = [float(rng.uniform(0.35, 0.5)), float(rng.uniform(0.35, 0.5))]
    story = Story(source, "", [[on_white(p) for p in own[:2]] for own in pair])
    places = grounds()
    ground = places[rng.integers(len(places))]
    for i in range(PICTURES):
        zoom, foot = float(rng.uniform(0.7, 1.1)), float(rng.uniform(0.88, 0.95))
        standing = []
        for who, own in enumerate(pair):
            seen = own[rng.integers(len(own))]
            height = usual[who] * zoom * len(seen) / len(own[0]) * float(rng.uniform(0.96, 1.04))
            height *= times if i == ODD and who == 1 else 1.0
            x = float(rng.uniform(0.2, 0.35) if who == 0 else rng.uniform(0.65, 0.8))
            standing.append(Standing(seen, x, foot, height, bool(rng.integers(2))))
        pixels, boxes = scene(cut_of(ground, rng), standing, random_light(rng))
        marks = tuple(Shown(who, box.grown(0.03).inside(*SIZE)) for who, box in enumerate(boxes))
        story.frames.append(Frame(pixels, marks))
    return story


def _pictures(family: Family) -> list[Rgba]:
    return [p for a in family.pictures if (p := readable(a)) is not None]
