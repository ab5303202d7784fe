"""Pairs of one reference and one figure in a scene: the same figure, a look-alike by the same hand, or another."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np

from bench.art.sources import Family, Kind, grounds, picture
from bench.art.staging import Rgb, Standing, on_white, random_light, scene
from juxtaform.core.picture.regions import Box
from juxtaform.demo.paper import Hand
from tests.constructed import LIGHTS, lookalike, random_look, random_pose
from tests.constructed import reference as own_reference
from tests.constructed import scene as own_scene


@dataclass(frozen=True)
class Pair:
    """`reference` on white against what stands in `box` of `frame`; `what` is same, look-alike or other."""

    reference: Rgb
    frame: Rgb
    box: Box
    what: str
    kind: Kind
    source: str
    light: str


def pairs(found: list[Family], count: int, seed: int) -> list[Pair]:
    """`count` pairs, half of them the same figure, spread evenly over the kinds of art."""
    rng = np.random.default_rng(seed)
    by_source: dict[str, list[Family]] = defaultdict(list)
    for family in found:
        by_source[family.source].append(family)
    kinds: dict[Kind, list[str]] = defaultdict(list)
    for source, members in sorted(by_source.items()):
        if len(members) >= 2:
            kinds[members[0].kind].append(source)
    out = []
    while len(out) < count:
        kind = list(kinds)[len(out) % len(kinds)]
        source = str(rng.choice(kinds[kind]))
        members = by_source[source]
        family = members[rng.integers(len(members))]
        at = rng.permutation(len(family.pictures))
        what = ("same", "look-alike", "same", "other")[int(rng.integers(4))]
        try:
            reference = picture(family.pictures[at[0]])
            if what == "same":
                seen = picture(family.pictures[at[1 % len(at)]])
            else:
                others = [m for m in members if m.name != family.name]
                near = nearest(family, others) if what == "look-alike" else others[rng.integers(len(others))]
                seen = picture(near.pictures[rng.integers(len(near.pictures))])
        except ValueError:
            continue
        out.append(_staged(reference, seen, what, kind, source, rng))
    return out


def nearest(family: Family, others: list[Family]) -> Family:
    """Which of others looks most like a figure, by colours and outline."""
    return min(others, key=lambda m: _apart(m, family))


def _staged(reference, seen, what: str, kind: Kind, source: str, rng: np.random.Generator) -> Pair:  # type: ignore[no-untyped-def]
    light = random_light(rng)
    places = grounds()
    standing = Standing(
        seen,
        float(rng.uniform(0.25, 0.75)),
        float(rng.uniform(0.8, 1.0)),
        float(rng.uniform(0.35, 0.8)),
        mirrored=bool(rng.integers(2)),
        turn=float(rng.normal(0, 4)),
    )
    frame, (box,) = scene(places[rng.integers(len(places))], [standing], light)
    loose = box.grown(float(rng.uniform(0.02, 0.1))).inside(frame.shape[1], frame.shape[0])
    return Pair(on_white(reference), frame, loose, what, kind, source, light)


@lru_cache(maxsize=100_000)
def _apart(one: Family, other: Family) -> float:
    """How far apart two figures' colours and outlines are."""
    return float(np.abs(_told(one) - _told(other)).sum())


@lru_cache(maxsize=4096)
def _told(family: Family) -> np.ndarray:  # type: ignore[type-arg]
    try:
        seen = picture(family.pictures[0])
    except ValueError:
        return np.full(8 * 8 + 216, 9.0)
    small = cv2.resize(seen, (64, 64), interpolation=cv2.INTER_AREA)
    inside = small[..., 3] > 128
    cells = (small[..., :3][inside] // 43).astype(int) @ np.array([36, 6, 1])
    colours = np.bincount(cells, minlength=216)[:216] / max(1, inside.sum())
    outline = cv2.resize(seen[..., 3], (8, 8), interpolation=cv2.INTER_AREA).ravel() / 255 / 16
    return np.concatenate([outline, colours])


def own_pairs(count: int, seed: int) -> list[Pair]:
    """The same of our own invented figures: another pose, another face, a look-alike, another."""
    rng = np.random.default_rng(seed)
    out = []
    for _ in range(count):
        look = random_look(rng)
        what = ("same", "same", "look-alike", "other")[int(rng.integers(4))]
        seen = {"same": look, "look-alike": lookalike(look, rng), "other": random_look(rng)}[what]
        hand: Hand = "paper" if rng.integers(2) else "inked"
        frame, (box,) = own_scene([seen], rng, LIGHTS[int(rng.integers(len(LIGHTS)))], hand=hand)
        out.append(Pair(own_reference(look, random_pose(rng)), frame, box, what, "flat", "own", "any"))
    return out
