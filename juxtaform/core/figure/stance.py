"""Where a figure is on a picture of its own, and at which heights its shoulders and waist are."""

from __future__ import annotations

from dataclasses import dataclass

from juxtaform.core.colour.spaces import Pixels, linear_from_srgb8
from juxtaform.core.figure.traits import figure_extent
from juxtaform.core.picture.levels import Levels, levels
from juxtaform.core.picture.regions import Box, cut_out, plain_ground

STANCE_VERSION = "1"


@dataclass(frozen=True)
class Stance:
    """A figure's extent as parts of its picture's width and height (0..1): `left`, `top`, `right`, `bottom`; its levels where its outline
    shows them."""

    left: float
    top: float
    right: float
    bottom: float
    levels: Levels | None = None

    def box(self, width: int, height: int) -> Box:
        """The extent in px of a picture of that size."""
        return Box(
            self.left * width, self.top * height, (self.right - self.left) * width, (self.bottom - self.top) * height
        )


def stance(pixels: Pixels) -> Stance:
    """The stance of the figure on a reference picture (h, w, 3); on ground that is not plain it is all of the picture."""
    box = figure_extent(pixels)
    height, width = pixels.shape[:2]
    ground = plain_ground(linear_from_srgb8(cut_out(pixels, box)))
    found = levels(~ground) if ground is not None else None
    return Stance(box.x / width, box.y / height, (box.x + box.w) / width, (box.y + box.h) / height, found)
