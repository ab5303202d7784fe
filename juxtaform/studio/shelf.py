"""Measures laid into a file, each read again when something of it is asked for: those of a long story would take much memory all at once."""

from __future__ import annotations

import os
import tempfile
from array import array
from functools import lru_cache
from itertools import accumulate
from pathlib import Path
from typing import Any, get_type_hints

from pydantic import TypeAdapter
from pydantic_core import from_json, to_json

from juxtaform.core.check.measure import PictureMeasure

HELD = 64
"""So many parts stay read: a check goes along the story and looks at neighbours."""
_PARTS = {name: TypeAdapter(hint) for name, hint in get_type_hints(PictureMeasure).items()}


class Shelf:
    """A file without a name, in a folder of the disk, that goes when nothing of it is used any more. The usual folder for such files may itself be memory."""

    def __init__(self, folder: Path | None = None) -> None:
        self._file = tempfile.TemporaryFile(dir=folder)  # noqa: SIM115 - it lives as long as the shelf
        self._end = 0
        self.part = lru_cache(maxsize=HELD)(self._part)

    def lay(self, text: str) -> PictureMeasure:
        """The measure that a text holds (see `measuring.to_text`), with only its place in the file held in memory. Raises ValueError for a text that is
        no JSON."""
        parsed = from_json(text)
        parts = [to_json(parsed[name]) if name in parsed else b"" for name in _PARTS]
        begin, ends = self._end, array("I", accumulate(len(p) for p in parts))
        os.pwrite(self._file.fileno(), b"".join(parts), begin)
        self._end += ends[-1]
        return _Laid(self, begin, ends)

    def _part(self, at: int, size: int, name: str) -> Any:
        """A part of a measure, from where it lies."""
        return _PARTS[name].validate_json(os.pread(self._file.fileno(), size, at))


class _Read:
    """A part of a measure that is read when it is asked for."""

    def __set_name__(self, _: type, name: str) -> None:
        self._name, self._number = name, list(_PARTS).index(name)

    def __get__(self, laid: _Laid, _: type) -> Any:
        start = laid.ends[self._number - 1] if self._number else 0
        size = laid.ends[self._number] - start
        return laid.shelf.part(laid.begin + start, size, self._name) if size else getattr(PictureMeasure, self._name)


class _Laid(PictureMeasure):
    """A measure on a shelf."""

    __slots__ = ("begin", "ends", "shelf")
    shelf: Shelf
    begin: int
    ends: array[int]
    width = _Read()
    height = _Read()
    signature = _Read()
    palette = _Read()
    border = _Read()
    appearances = _Read()
    roles = _Read()
    hand = _Read()
    cast = _Read()
    technical = _Read()
    place = _Read()
    glance = _Read()

    def __init__(self, shelf: Shelf, begin: int, ends: array[int]) -> None:
        for name, value in (("shelf", shelf), ("begin", begin), ("ends", ends)):
            object.__setattr__(self, name, value)
