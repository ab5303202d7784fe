"""Pictures with several figures, and whom to look for in them: those who are there, and those who are not."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bench.art.pairs import nearest
from bench.art.sources import Family, grounds, picture
from bench.art.staging import SIZE, Rgb, Standing, on_white, random_light, scene
from juxtaform.core.regions import Box


@dataclass(frozen=True)
class Query:
    """A reference to look for: its box in the scene, or None; `alike` when somebody stands there whom it looks like."""

    reference: Rgb
    box: Box | None
    alike: bool
    kind: str
    source: str


@dataclass(frozen=True)
class Scene:
    """A picture and its queries."""

    pixels: Rgb
    queries: tuple[Query, ...]


def made(members: list[Family], seed: int) -> Scene:
    """One to three figures by one hand on a ground; looked for are they, somebody like one of them, and somebody else."""
    rng = np.random.default_rng(seed)
    ground = grounds()[rng.integers(len(grounds()))]
    count = int(rng.integers(1, 4))
    chosen = [members[i] for i in rng.permutation(len(members))[: count + 1]]
    here, absent = chosen[:count], chosen[count]
    standing, references = [], []
    for i, family in enumerate(here):
        at = rng.permutation(len(family.pictures))
        reference, seen = (
            picture(family.pictures[at[0]]),
            picture(family.pictures[at[-1]] if rng.random() < 0.5 else family.pictures[at[0]]),
        )
        references.append(on_white(reference))
        x = (i + float(rng.uniform(0.3, 0.7))) / count
        standing.append(
            Standing(seen, x, float(rng.uniform(0.6, 0.98)), float(rng.uniform(0.18, 0.7)), bool(rng.integers(2)))
        )
    pixels, boxes = scene(ground, standing, random_light(rng), SIZE)
    queries = [Query(r, b, False, f.kind, f.source) for r, b, f in zip(references, boxes, here, strict=True)]
    names = {f.name for f in here}
    like = nearest(here[0], [m for m in members if m.name not in names])
    queries.append(Query(on_white(picture(like.pictures[0])), None, True, like.kind, like.source))
    queries.append(Query(on_white(picture(absent.pictures[0])), None, False, absent.kind, absent.source))
    return Scene(pixels, tuple(queries))
