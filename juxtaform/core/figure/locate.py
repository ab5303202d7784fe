"""Where a character or prop stands in a picture: places of its references vote for boxes, and the best boxes are looked at."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels
from juxtaform.core.figure.ground import Mask
from juxtaform.core.figure.match import Eye, Match, match
from juxtaform.core.figure.sheet import COARSE, FIGURE_LEAST, Look, Sheet, look_of
from juxtaform.core.picture.regions import Box, cut_out, overlap, resized
from juxtaform.core.picture.trunk import SIDE, Map, Trunk, unit

Votes = NDArray[np.float32]

PLACE_PX = 16
"""A place of stage 4 on the picture that the network sees."""
SCENE_SIDES = (832, 448)
"""The picture's longer side as the network sees it: once for small figures, once for large ones."""
FIGURE_SIDES = (80, 112, 160, 224)
"""The figure's longer side at which its reference votes, in px of those pictures."""
SMALLEST = FIGURE_SIDES[0] / SCENE_SIDES[0]
"""What is smaller than this part of the picture's longer side is found by chance at most."""
CANDIDATES = 2
"""The number of boxes that get a second look for every reference."""
OVERLAP_MOST = 0.5
"""When two candidates overlap more than this (intersection over union), the better one stays."""
AROUND = 0.08
"""A candidate's second look has this part of its size as rim at each side."""


@dataclass(frozen=True)
class Template:
    """A figure's reference as it votes: for each size, upright and mirrored, the unit numbers (n, p) of its p places of stage 4,
    their rows and columns (p, 2), and the figure's size in places (rows, columns)."""

    numbers: Map
    at: NDArray[np.intp]
    size: tuple[float, float]


@dataclass(frozen=True)
class SceneMaps:
    """A picture as the network sees it: unit numbers of stage 4 (n, rows, columns), and px of the picture per place."""

    numbers: Map
    px: float


@dataclass(frozen=True)
class Candidate:
    """A box with its vote (mean cosine of the reference's places there, -1..1)."""

    box: Box
    vote: float


@dataclass(frozen=True)
class Sighting:
    """Where a figure was looked for and found best: its box, the vote, how much better the vote is than the next other place,
    `agree` how much the box that votes chose and the one that the second look lays over have in common (0..1), and the second look
    itself: how the figure in the box goes with the reference `view`."""

    box: Box
    vote: float
    lead: float
    agree: float
    view: int
    look: Match

    @property
    def values(self) -> Floats:
        """What a place is judged by, (9,): the vote, its lead, the agreement, and the six terms of the second look."""
        return np.array([self.vote, self.lead, self.agree, *self.look.terms.values])


def scene_maps(trunk: Trunk, pixels: Pixels, sides: Sequence[int] = SCENE_SIDES) -> tuple[SceneMaps, ...]:
    """The picture (h, w, 3) at both sizes, or at those asked for."""
    found = []
    h, w = pixels.shape[:2]
    for side in sides:
        scale = side / max(h, w)
        sh, sw = (max(32, round(v * scale / 32) * 32) for v in (h, w))
        near = resized(pixels, 2 * side)  # halved by the quick way first
        small = cv2.resize(near, (sw, sh), interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR)
        found.append(SceneMaps(unit(trunk.fourth(np.asarray(small, np.uint8))), PLACE_PX * max(h, w) / side))
    return tuple(found)


def templates(trunk: Trunk, reference: Sheet) -> tuple[Template, ...]:
    """A reference's figure at every size, upright and mirrored."""
    rows, columns = (np.flatnonzero((reference.fine_mask > FIGURE_LEAST).any(axis=a)) for a in (1, 0))
    if len(rows) < 2 or len(columns) < 2:
        return ()
    step = SIDE // reference.fine_mask.shape[0]
    top, bottom, left, right = rows[0] * step, (rows[-1] + 1) * step, columns[0] * step, (columns[-1] + 1) * step
    body = reference.pixels[top:bottom, left:right]
    mask = cv2.resize(reference.fine_mask, (SIDE, SIDE))[top:bottom, left:right]
    fill = np.median(
        np.concatenate([reference.pixels[:4].reshape(-1, 3), reference.pixels[-4:].reshape(-1, 3)]), axis=0
    )
    found = []
    for side in FIGURE_SIDES:
        scale = side / max(body.shape[:2])
        h, w = (max(8, round(v * scale)) for v in body.shape[:2])
        page = np.empty((-(-(h + 32) // 32) * 32, -(-(w + 32) // 32) * 32, 3), np.uint8)
        page[:] = fill
        inside = np.zeros(page.shape[:2], np.float32)
        page[16 : 16 + h, 16 : 16 + w] = cv2.resize(body, (w, h), interpolation=cv2.INTER_AREA)
        inside[16 : 16 + h, 16 : 16 + w] = cv2.resize(mask, (w, h), interpolation=cv2.INTER_AREA)
        for turned in (False, True):
            if turned:
                page, inside = np.ascontiguousarray(page[:, ::-1]), np.ascontiguousarray(inside[:, ::-1])
            found.append(_template(trunk, page, inside, h, w))
    return tuple(t for t in found if len(t.at) >= 4)


def _template(trunk: Trunk, page: Pixels, inside: Mask, h: int, w: int) -> Template:
    numbers = unit(trunk.fourth(page))
    cover = inside.reshape(page.shape[0] // PLACE_PX, PLACE_PX, page.shape[1] // PLACE_PX, PLACE_PX).mean(axis=(1, 3))
    at = np.argwhere(cover > min(FIGURE_LEAST, 0.6 * float(cover.max())))
    ys, xs = np.flatnonzero(inside.max(axis=1) > 0), np.flatnonzero(inside.max(axis=0) > 0)
    corner = np.array([ys[0], xs[0]]) / PLACE_PX if len(ys) and len(xs) else np.zeros(2)
    return Template(
        numbers[:, at[:, 0], at[:, 1]], (at - np.floor(corner)).astype(np.intp), (h / PLACE_PX, w / PLACE_PX)
    )


def votes(scene: SceneMaps, template: Template) -> Votes:
    """The mean cosine of the template's places with the scene's, each the best within one place, for the template's corner at
    every place (rows, columns); places outside the scene count as strange."""
    n, rows, columns = scene.numbers.shape
    cosine = (template.numbers.T @ scene.numbers.reshape(n, -1)).reshape(-1, rows, columns)
    total = np.zeros((rows, columns), np.float32)
    kernel = np.ones((3, 3), np.uint8)
    for (dy, dx), one in zip(template.at, cosine, strict=True):
        near = np.asarray(cv2.dilate(one, kernel))
        y0, x0 = max(0, dy), max(0, dx)
        if y0 < rows and x0 < columns:
            total[: rows - y0, : columns - x0] += near[y0:, x0:]
    return np.asarray(total / len(template.at))


def candidates(
    scenes: Sequence[SceneMaps],
    figure: Sequence[Template],
    size: tuple[int, int],
    most: int,
    free: Callable[[Candidate], bool] = lambda _: True,
) -> list[Candidate]:
    """The `free` boxes with the most votes over all sizes, none overlapping another much; `size` is the picture's height and width."""
    found: list[Candidate] = []
    for scene in scenes:
        for template in figure:
            seen = votes(scene, template)
            peaks = (seen >= np.asarray(cv2.dilate(seen, np.ones((5, 5), np.uint8)))) & (seen > np.quantile(seen, 0.98))
            for y, x in np.argwhere(peaks)[:12]:
                box = Box(x * scene.px, y * scene.px, template.size[1] * scene.px, template.size[0] * scene.px)
                if box.x + 0.6 * box.w < size[1] and box.y + 0.6 * box.h < size[0]:
                    found.append(Candidate(box.inside(size[1], size[0]), float(seen[y, x])))
    kept: list[Candidate] = []
    for one in sorted(found, key=lambda c: -c.vote):
        if all(overlap(one.box, k.box) < OVERLAP_MOST for k in kept) and free(one):
            kept.append(one)
        if len(kept) > most:
            break
    return kept


def sighted(
    eye: Eye,
    pixels: Pixels,
    scenes: Sequence[SceneMaps],
    looks: Sequence[Look],
    votes_of: Sequence[Sequence[Template]],
    free: Callable[[Candidate], bool] = lambda _: True,
    least_vote: float = 0.0,
) -> tuple[Sighting, ...]:
    """The places of a figure with some references, best vote first: the boxes with the most votes over all references, each looked
    at again beside the reference that voted for it. Only candidates that are `free` count: who is known to be somebody takes no place and no vote;
    and of them those with `least_vote` are looked at again. Empty for a figure too small to vote."""
    size = (pixels.shape[0], pixels.shape[1])
    voted = [(c, view) for view, t in enumerate(votes_of) for c in candidates(scenes, t, size, CANDIDATES, free)]
    ranked: list[tuple[Candidate, int]] = []
    for one, view in sorted(voted, key=lambda v: -v[0].vote):
        if all(overlap(one.box, k.box) < OVERLAP_MOST for k, _ in ranked):
            ranked.append((one, view))
    found = []
    for i, (one, view) in enumerate(ranked[:CANDIDATES]):
        if one.vote < least_vote:
            break
        others = [c.vote for j, (c, _) in enumerate(ranked) if j != i]
        crop = one.box.grown(AROUND).inside(size[1], size[0])
        seen = match(eye, looks[view], look_of(eye.trunk, cut_out(pixels, crop), mirror=True))
        box = (_mended(seen, looks[view].upright, crop) or one.box).inside(size[1], size[0])
        lead = one.vote - max(others, default=0.0)
        found.append(Sighting(box, one.vote, lead, overlap(one.box, box), view, seen))
    return tuple(found)


def _mended(found: Match, reference: Sheet, crop: Box) -> Box | None:
    """The box that the reference's figure covers in the picture, by the transform that lays one over the other."""
    if found.affine is None or found.terms.share < 0.12:
        return None
    rows, columns = (np.flatnonzero((reference.fine_mask > FIGURE_LEAST).any(axis=a)) / 2 for a in (1, 0))
    corners = np.array(
        [
            [columns[0], rows[0]],
            [columns[-1] + 0.5, rows[0]],
            [columns[-1] + 0.5, rows[-1] + 0.5],
            [columns[0], rows[-1] + 0.5],
        ]
    )
    seen = corners @ found.affine[:, :2].T + found.affine[:, 2]
    if found.mirrored:
        seen[:, 0] = COARSE - seen[:, 0]
    px = max(crop.w, crop.h) / COARSE
    left, top = crop.x - (max(crop.w, crop.h) - crop.w) / 2, crop.y - (max(crop.w, crop.h) - crop.h) / 2
    xs, ys = left + seen[:, 0] * px, top + seen[:, 1] * px
    box = Box(float(xs.min()), float(ys.min()), float(np.ptp(xs)), float(np.ptp(ys)))
    return box if overlap(box, crop) > 0.3 else None
