"""A figure's picture as it is compared: laid on a square, its mask, and its maps; upright and mirrored."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TypeVar

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8
from juxtaform.core.figure.ground import Mask, figure_mask, rim_colour
from juxtaform.core.picture.regions import resized
from juxtaform.core.picture.trunk import SIDE, Map, Maps, Trunk, unit

T = TypeVar("T", np.uint8, np.float32)

CROP_SIDE = 480
"""A figure's crop is at most so many px before it is laid on its square."""
COARSE, FINE = 14, 28
"""Places of a square's side at stages 4 and 5, and at stage 3."""
FIGURE_LEAST = 0.4
"""A place belongs to the figure when its mask holds at least this part of it."""
DEEP_WEIGHT = 0.7
"""Stage 4 beside stage 5 where places are matched."""


@dataclass(frozen=True)
class Sheet:
    """A figure on a square of 224 px: `pixels` (224, 224, 3), `inside` (224, 224) 1 where its crop is, masks of the
    figure at 28 and 14 places a side, 0..1, and its maps."""

    pixels: Pixels
    inside: Mask
    fine_mask: Mask
    coarse_mask: Mask
    maps: Maps

    @cached_property
    def figure(self) -> NDArray[np.bool_]:
        """Which pixels (224, 224) are the figure's."""
        step = SIDE // FINE
        return np.asarray((self.fine_mask > FIGURE_LEAST).repeat(step, axis=0).repeat(step, axis=1))

    @cached_property
    def cells(self) -> Floats:
        """Mean linear light of 28 x 28 places, (28, 28, 3)."""
        return cells(self.pixels)

    @cached_property
    def units(self) -> Maps:
        """The maps, every place's numbers at unit length."""
        third, fourth, fifth = (unit(one) for one in self.maps)
        return third, fourth, fifth

    @cached_property
    def alone(self) -> tuple[Map, NDArray[np.bool_]]:
        """Stage 3 at unit length where the figure is, with what its neighbours' neighbours need around it, and which of these places are the figure's."""
        mask = self.fine_mask > FIGURE_LEAST
        rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
        part = tuple(slice(max(0, int(at[0]) - 2), int(at[-1]) + 3) for at in (rows, columns))
        return np.ascontiguousarray(self.units[0][:, part[0], part[1]]), mask[part]

    @cached_property
    def coarse(self) -> Map:
        """What 14 x 14 places are matched by: stages 4 and 5, unit length."""
        return unit(np.concatenate([DEEP_WEIGHT * self.units[1], self.units[2]]))

    @cached_property
    def fine(self) -> Map:
        """What 28 x 28 places are matched by: stages 3 and 4, unit length."""
        return finely(*self.maps[:2])


@dataclass(frozen=True)
class Look:
    """A figure as one picture shows it; `mirrored` is left out for references."""

    upright: Sheet
    mirrored: Sheet | None = None

    @property
    def sides(self) -> tuple[Sheet, ...]:
        return (self.upright,) if self.mirrored is None else (self.upright, self.mirrored)

    def side(self, *, mirrored: bool) -> Sheet:
        """Its square, turned over or not; upright where it has no other."""
        return self.sides[-1 if mirrored else 0]


def cells(pixels: Pixels) -> Floats:
    """Mean linear light of 28 x 28 places of a square, (28, 28, 3)."""
    step = SIDE // FINE
    rows = linear_from_srgb8(pixels).reshape(FINE, step, -1).sum(axis=1)
    return np.asarray(rows.reshape(FINE, FINE, step, 3).sum(axis=2) / step**2)


def finely(third: Map, fourth: Map) -> Map:
    """Stages 3 and 4 side by side at 28 x 28 places, unit length."""
    return unit(np.concatenate([unit(third), doubled(unit(fourth))]))


def doubled(seen: NDArray[np.float32]) -> NDArray[np.float32]:
    """Every place four times: rows and columns doubled."""
    return np.asarray(np.repeat(np.repeat(seen, 2, axis=-2), 2, axis=-1))


def halved(seen: NDArray[np.float32]) -> NDArray[np.float32]:
    """The mean of every 2 x 2 places."""
    h, w = seen.shape
    return np.asarray(seen.reshape(h // 2, 2, w // 2, 2).mean(axis=(1, 3)))


def look_of(trunk: Trunk, crop: Pixels, mirror: bool = False) -> Look:
    """The look of a figure from its crop (h, w, 3) of a picture, its ground around it."""
    small = np.ascontiguousarray(resized(crop, CROP_SIDE))
    fill = rim_colour(small)
    pixels = on_square(small, fill)
    inside = on_square(np.ones(small.shape[:2], np.float32), 0)
    mask = on_square(figure_mask(small), 0)
    upright = _sheet(trunk, pixels, inside, mask)
    if not mirror:
        return Look(upright)
    return Look(upright, _sheet(trunk, _turned_over(pixels), _turned_over(inside), _turned_over(mask)))


def _sheet(trunk: Trunk, pixels: Pixels, inside: Mask, mask: Mask) -> Sheet:
    step = SIDE // FINE
    fine = mask.reshape(FINE, step, FINE, step).mean(axis=(1, 3))
    return Sheet(pixels, inside, fine, halved(fine), trunk.maps(pixels))


def _turned_over(part: NDArray[T]) -> NDArray[T]:
    return np.ascontiguousarray(part[:, ::-1])


def on_square(part: NDArray[T], fill: NDArray[np.uint8] | float) -> NDArray[T]:
    """A picture or mask in the middle of a square of 224 px, its longer side filling it, the rest `fill`."""
    scale = SIDE / max(part.shape[:2])
    h, w = max(1, round(part.shape[0] * scale)), max(1, round(part.shape[1] * scale))
    small = cv2.resize(part, (w, h), interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR)
    page = np.empty((SIDE, SIDE, *part.shape[2:]), part.dtype)
    page[:] = fill
    top, left = (SIDE - h) // 2, (SIDE - w) // 2
    page[top : top + h, left : left + w] = small
    return page
