"""The faces that we serve, as TrueType for print: taken from the front end's packages and converted once on a machine."""

from __future__ import annotations

import hashlib
import io
import json
import os
import re
import tempfile
from collections.abc import Iterable, Mapping
from dataclasses import fields, is_dataclass
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
SUBSETS = ("latin", "latin-ext", "vietnamese", "cyrillic", "cyrillic-ext", "greek", "greek-ext")
_SANS = """arabic hebrew devanagari bengali tamil thai georgian armenian gujarati gurmukhi telugu kannada malayalam oriya sinhala khmer lao myanmar
ethiopic thaana syriac cherokee canadian-aboriginal javanese balinese"""
SCRIPTS = (*(f"noto-sans-{script}" for script in _SANS.split()), "noto-serif-tibetan")
"""Faces of the Noto family for scripts beyond those of our own faces."""
HAN = ("jp", "kr", "sc")
"""Faces of Chinese characters as they are written in Japan, Korea and China; kana and hangul tell which one a text wants."""
_KANA, _HANGUL = re.compile("[\u3040-\u30ff]"), re.compile("[\u1100-\u11ff\uac00-\ud7af]")
_OURS = frozenset({*SUBSETS, "math", "symbols"})


class FontMissing(RuntimeError):
    """The faces are not installed; the message says what to do."""


def truetype(face: str, weight: int, subset: str = "latin") -> bytes | None:
    """One subset of a face at a weight (100..900) as TrueType bytes; None where the face has no such subset.

    Raises FontMissing where the package is not there.
    """
    path = _file(FACES[face][0], subset)
    return fixed(path, weight) if path.exists() else None


def fixed(path: Path, weight: int) -> bytes:
    """A face's file at a weight as TrueType bytes."""
    return Path(_laid_out(path, weight)).read_bytes()


_VARIATIONS = ("fvar", "avar", "gvar", "cvar", "HVAR", "VVAR", "MVAR", "STAT")
"""The tables of a face that make it vary; without them it stands as it is drawn at its own weight."""


def _converted(path: Path, weight: int) -> bytes:
    font = TTFont(path)
    axes = font["fvar"].axes
    low, own, high = next((a.minValue, a.defaultValue, a.maxValue) for a in axes if a.axisTag == "wght")
    wanted = min(high, max(low, weight))
    if wanted == own:
        # To merge every pair of letters with no change at all takes ten seconds for some scripts.
        for table in _VARIATIONS:
            if table in font:
                del font[table]
    else:
        font = instantiateVariableFont(font, {a.axisTag: wanted if a.axisTag == "wght" else None for a in axes})
    font.flavor = None
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


def _file(package: str, subset: str) -> Path:
    folder = PACKAGES / package / "files"
    if not folder.is_dir():
        raise FontMissing("The faces for print are not installed: run bin/start once.")
    return folder / f"{package}-{subset}-wght-normal.woff2"


def subset_files(face: str) -> list[Path]:
    """The files of a face, a subset each, Latin first. Raises FontMissing."""
    files = (_file(FACES[face][0], subset) for subset in SUBSETS)
    return [f for f in files if f.exists()]


@lru_cache(maxsize=512)
def covered_by(path: Path) -> frozenset[int]:
    """The letters (code points) that a face's file has."""
    return frozenset(TTFont(path).getBestCmap())


def script_files(words: str) -> list[Path]:
    """The files for those letters of some words that our own faces do not have, each as far as there is a face. Raises FontMissing."""
    left = {ord(c) for c in words if not c.isspace()}
    left -= frozenset().union(*(covered_by(p) for face in FACES for p in subset_files(face)))
    if not left:
        return []
    first = "jp" if _KANA.search(words) else "kr" if _HANGUL.search(words) else "sc"
    needed: list[Path] = []
    for package in (*SCRIPTS, *(f"noto-sans-{h}" for h in sorted(HAN, key=lambda h: h != first))):
        for path, low_to_high in _ranges(package):
            if any(a <= c <= b for c in left for a, b in low_to_high) and (own := left & covered_by(path)):
                needed.append(path)
                left -= own
        if not left:
            break
    return needed


@lru_cache(maxsize=64)
def _ranges(package: str) -> list[tuple[Path, list[tuple[int, int]]]]:
    """The files of a script's face, each with the ranges of letters that it may have, as its package tells."""
    _file(package, "")
    told: dict[str, str] = json.loads((PACKAGES / package / "unicode.json").read_text())
    return [(_file(package, name.strip("[]")), _low_to_high(said)) for name, said in told.items() if name not in _OURS]


def _low_to_high(said: str) -> list[tuple[int, int]]:
    pairs = (part.strip().removeprefix("U+").partition("-") for part in said.split(","))
    return [(int(a, 16), int(b or a, 16)) for a, _, b in pairs]


def words_in(told: object) -> str:
    """All words of something nested: of dataclasses, mappings and sequences.

    >>> words_in([{"a": "one"}, ("two", b"no words", 3)])
    'one two'
    """
    if isinstance(told, str):
        return told
    if is_dataclass(told) and not isinstance(told, type):
        told = [getattr(told, f.name) for f in fields(told)]
    if isinstance(told, Mapping):
        told = list(told.values())
    if isinstance(told, Iterable) and not isinstance(told, (bytes, bytearray)):
        return " ".join(w for part in told if (w := words_in(part)))
    return ""


def letters_of(path: Path) -> str:
    """The letters of a file as a range of CSS (`unicode-range`)."""
    runs: list[list[int]] = []
    for code in sorted(covered_by(path)):
        if runs and code == runs[-1][1] + 1:
            runs[-1][1] = code
        else:
            runs.append([code, code])
    return ", ".join(f"U+{a:X}" if a == b else f"U+{a:X}-{b:X}" for a, b in runs)


def lay_in(pdf: FPDF, families: Mapping[str, tuple[str, int]], every_script: str, words: str) -> None:
    """Lay faces into a PDF, by the family's name a face and its weight: their Latin letters, of `every_script` the other subsets that the `words` to come
    need, and faces for what else they need; the families fall back on these. Scripts whose letters join or stack are shaped. Raises FontMissing."""
    fallbacks, wanted = [], {ord(c) for c in words}
    for name, (face, weight) in families.items():
        for subset in SUBSETS if name == every_script else ("latin",):
            path = _file(FACES[face][0], subset)
            if not path.exists() or (subset != "latin" and not wanted & covered_by(path)):
                continue
            family = name if subset == "latin" else f"{name}-{subset}"
            pdf.add_font(family, "", _laid_out(path, weight))
            if subset != "latin":
                fallbacks.append(family)
    others = script_files(words)
    for k, path in enumerate(others):
        pdf.add_font(f"other-{k}", "", _laid_out(path, 400))
        fallbacks.append(f"other-{k}")
    if others:
        pdf.set_text_shaping(True)
    if fallbacks:
        pdf.set_fallback_fonts(fallbacks, exact_match=False)


@lru_cache(maxsize=1)
def _folder() -> Path:
    """Where converted faces lie, so that each is made once on a machine; where nothing can be written there, for this process alone."""
    kept = PACKAGES.parent / ".faces"
    try:
        kept.mkdir(exist_ok=True)
        tempfile.TemporaryFile(dir=kept).close()
    except OSError:
        return Path(_own().name)
    return kept


@lru_cache(maxsize=1)
def _own() -> tempfile.TemporaryDirectory[str]:
    return tempfile.TemporaryDirectory(prefix="faces-")


def _laid_out(path: Path, weight: int) -> str:
    """A face's file at a weight, as a TrueType file; letters are shaped from it when all else is done."""
    version = hashlib.sha256(path.read_bytes()).hexdigest()[:12]
    to = _folder() / f"{path.stem}-{weight}-{version}.ttf"
    if not to.exists():
        half = to.with_suffix(f".{os.getpid()}.half")
        half.write_bytes(_converted(path, weight))
        half.replace(to)
    return str(to)
