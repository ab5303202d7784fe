"""Weights that the tools set on texts (`tools/fit_*.py`), kept in files: a name and a number (log odds) in each line."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files


@lru_cache(maxsize=16)
def weights_in(package: str, name: str) -> dict[str, float]:
    """The weights in the file `name` of a package's data."""
    text = files(package).joinpath("data", name).read_text("utf-8")
    return {term: float(value) for term, value in (line.split("\t") for line in text.splitlines())}
