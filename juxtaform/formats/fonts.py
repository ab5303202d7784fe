"""The faces that we serve, as TrueType for print: taken from the front end's packages and converted once."""

from __future__ import annotations

import io
from functools import lru_cache
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

PACKAGES = Path(__file__).parents[2] / "frontend" / "node_modules" / "@fontsource-variable"
FACES = {
    "sans": ("atkinson-hyperlegible-next", "wght"),
    "book": ("literata", "wght"),
}
SUBSETS = ("latin", "latin-ext", "cyrillic", "greek")


class FontMissing(RuntimeError):
    """The faces are not installed; the message says what to do."""


@lru_cache(maxsize=32)
def truetype(face: str, weight: int, subset: str = "latin") -> bytes | None:
    """One subset of a face at a weight (100..900) as TrueType bytes; None where the face has no such subset.

    Raises FontMissing where the package is not there.
    """
    package, axis = FACES[face]
    folder = PACKAGES / package / "files"
    if not folder.is_dir():
        raise FontMissing("The faces for print are not installed: run bin/start once.")
    path = folder / f"{package}-{subset}-{axis}-normal.woff2"
    if not path.exists():
        return None
    font = TTFont(path)
    low, high = next((a.minValue, a.maxValue) for a in font["fvar"].axes if a.axisTag == "wght")
    fixed = instantiateVariableFont(
        font, {a.axisTag: min(high, max(low, weight)) if a.axisTag == "wght" else None for a in font["fvar"].axes}
    )
    fixed.flavor = None
    out = io.BytesIO()
    fixed.save(out)
    return out.getvalue()
