"""The faces that we serve, as TrueType for print: taken from the front end's packages and converted once."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont
from fpdf import FPDF

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


def subset_files(face: str) -> list[Path]:
    """The files of a face, a subset each, Latin first. Raises FontMissing."""
    package, axis = FACES[face]
    folder = PACKAGES / package / "files"
    if not folder.is_dir():
        raise FontMissing("The faces for print are not installed: run bin/start once.")
    files = (folder / f"{package}-{subset}-{axis}-normal.woff2" for subset in SUBSETS)
    return [f for f in files if f.exists()]


def lay_in(pdf: FPDF, families: Mapping[str, tuple[str, int]], every_script: str) -> None:
    """Lay faces into a PDF, by the family's name a face and its weight: their Latin letters, and of `every_script` all subsets, which the other families
    fall back on. Raises FontMissing."""
    fallbacks = []
    with tempfile.TemporaryDirectory() as folder:
        for name, (face, weight) in families.items():
            for subset in SUBSETS if name == every_script else ("latin",):
                data = truetype(face, weight, subset)
                if data is None:
                    continue
                family = name if subset == "latin" else f"{name}-{subset}"
                path = Path(folder) / f"{family}.ttf"
                path.write_bytes(data)
                pdf.add_font(family, "", str(path))
                if subset != "latin":
                    fallbacks.append(family)
    if fallbacks:
        pdf.set_fallback_fonts(fallbacks, exact_match=False)
