"""Pages of cut paper that were drawn before in the same run of the tests: drawing one takes half a second, and many tests show the same ones."""

import functools
import hashlib
import os
from pathlib import Path

import resvg_py

KEPT_IN = "JUXTAFORM_TEST_DRAWINGS"
"""The folder of one run, for all its workers; without it every page is drawn."""


def keep_drawings() -> None:
    """Draw a page once in a run, whichever test asks for it."""
    folder = os.environ.get(KEPT_IN)
    if folder:
        resvg_py.svg_to_bytes = functools.partial(_kept, Path(folder), resvg_py.svg_to_bytes)


def _kept(folder, draw, **page):
    at = folder / f"{hashlib.sha256(repr(sorted(page.items())).encode()).hexdigest()}.png"
    if not at.exists():
        fresh = at.with_suffix(f".{os.getpid()}")
        fresh.write_bytes(bytes(draw(**page)))
        fresh.replace(at)
    return at.read_bytes()
