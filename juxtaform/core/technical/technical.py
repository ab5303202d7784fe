"""All that is read of a picture as a file."""

from __future__ import annotations

from dataclasses import dataclass

from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.picture.regions import Box, cut_out
from juxtaform.core.technical.banding import Banding, banding
from juxtaform.core.technical.compression import Compression, compression
from juxtaform.core.technical.lettering import LetterEye, Lettering
from juxtaform.core.technical.sharpness import edge_width
from juxtaform.core.technical.tiles import tiles_of


@dataclass(frozen=True, slots=True)
class Technical:
    """`edge_width` in px of the picture, None where it has too few edges; `lettering` is None where no eye looked for letters."""

    edge_width: float | None
    compression: Compression
    banding: Banding
    lettering: tuple[Lettering, ...] | None = None


def technical(pixels: Pixels, letters: LetterEye | None = None, inner: Box | None = None) -> Technical:
    """Read an sRGB picture (h, w, 3) as a file; `inner` is what lies inside its printed border, whose own edges say nothing. Lettering is looked for on
    the border too."""
    tiles = tiles_of(cut_out(pixels, inner) if inner else pixels)
    return Technical(
        edge_width(tiles), compression(tiles), banding(tiles), letters.lettering(pixels) if letters else None
    )
