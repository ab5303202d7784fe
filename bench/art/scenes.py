"""Pictures with several figures, and whom to look for in them: those who are there, and those who are not."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bench.art.pairs import nearest
from bench.art.sources import Family, grounds, picture
from bench.art.staging import SIZE, Rgb, Standing, on_white, random_light, scene
from juxtaform.core.picture.regions import Box

HIDDEN = 0.15
"""So many figures stand half behind something."""


@dataclass(frozen=True)
class Query:
    """A reference to look for: its box in the scene, or None; `alike` when somebody stands there whom it looks like."""

    reference: Rgb
    box: Box | None
    alike: bool
    kind: str
    source: str
    hidden: bool = False
    """Half of it stands behind something."""
    posed: bool = False
    """It is drawn in another pose or mood than on the reference."""


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
    standing, references, posed = [], [], []
    for i, family in enumerate(here):
        at = rng.permutation(len(family.pictures))
        other = at[-1] if rng.random() < 0.5 else at[0]
        posed.append(bool(other != at[0]))
        reference, seen = picture(family.pictures[at[0]]), picture(family.pictures[other])
        references.append(on_white(reference))
        x = (i + float(rng.uniform(0.3, 0.7))) / count
        standing.append(
            Standing(seen, x, float(rng.uniform(0.6, 0.98)), float(rng.uniform(0.18, 0.7)), bool(rng.integers(2)))
        )
    pixels, boxes = scene(ground, standing, random_light(rng), SIZE)
    hidden = rng.random(count) < HIDDEN
    for behind, box in zip(hidden, boxes, strict=True):
        if behind:
            pixels = _half_hidden(pixels, box, rng)
    queries = [
        Query(r, b, False, f.kind, f.source, bool(h), p)
        for r, b, f, h, p in zip(references, boxes, here, hidden, posed, strict=True)
    ]
    names = {f.name for f in here}
    like = nearest(here[0], [m for m in members if m.name not in names])
    queries.append(Query(on_white(picture(like.pictures[0])), None, True, like.kind, like.source))
    queries.append(Query(on_white(picture(absent.pictures[0])), None, False, absent.kind, absent.source))
    return Scene(pixels, tuple(queries))


def _half_hidden(pixels: Rgb, box: Box, rng: np.random.Generator) -> Rgb:
    """The left, right or lower half of a box covered with another place of the picture."""
    w, h = int(box.w), int(box.h)
    side = rng.integers(3)
    x0, y0 = int(box.x), int(box.y)
    x1, y1 = x0 + w, y0 + h
    if side == 0:
        x1 = x0 + w // 2
    elif side == 1:
        x0 += w // 2
    else:
        y0 += h // 2
    page = pixels.copy()
    from_x = int(rng.integers(0, max(1, page.shape[1] - (x1 - x0))))
    from_y = int(rng.integers(0, max(1, page.shape[0] - (y1 - y0))))
    page[y0:y1, x0:x1] = pixels[from_y : from_y + y1 - y0, from_x : from_x + x1 - x0]
    return page
