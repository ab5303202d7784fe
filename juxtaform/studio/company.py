"""Who else is in a picture: the cast looked for where nobody is marked, in worker processes, for the check."""

from __future__ import annotations

import functools
from dataclasses import dataclass
from pathlib import Path

from pydantic import TypeAdapter

from juxtaform.core.figure.standing import Place, other_places
from juxtaform.core.picture.regions import Box
from juxtaform.media.decode import PictureRefused, decoded_file
from juxtaform.media.network import figure_eye, network_digest
from juxtaform.studio.measuring import FigureFile, digest_of
from juxtaform.studio.seeking import heaviest, sought_of

COMPANY_VERSION = "company 2"
"""Raise this whenever company is looked for in another way."""
EVERYBODY = TypeAdapter(tuple[tuple[Place, ...], ...])


@dataclass(frozen=True)
class CompanyTask:
    """A picture, the boxes of those who are marked in it, and the figures to look for beside them."""

    path: str
    sha: str
    taken: tuple[tuple[float, float, float, float], ...]
    figures: tuple[FigureFile, ...]

    @functools.cached_property
    def key(self) -> str:
        """Changes with all that the answer depends on."""
        views = [[f.id, [[v.sha, v.box] for v in heaviest(f.views)]] for f in self.figures]
        return digest_of([COMPANY_VERSION, network_digest(), self.sha, self.taken, views])


@dataclass(frozen=True)
class Met:
    """What came of a task: the places of each of its figures in order; none for a picture that cannot be read, which the check tells anyway."""

    key: str
    places: tuple[tuple[Place, ...], ...] | None


def meet(task: CompanyTask) -> Met:
    """Look for company in one picture; runs in a worker process and never raises for a bad picture."""
    eye = figure_eye()
    if eye is None:
        return Met(task.key, None)
    try:
        pixels = decoded_file(Path(task.path))
        figures = [sought_of(tuple(heaviest(f.views))) for f in task.figures]
        return Met(task.key, tuple(other_places(eye, pixels, figures, [Box(*b) for b in task.taken])))
    except (PictureRefused, ValueError):
        return Met(task.key, None)


def to_text(places: tuple[tuple[Place, ...], ...]) -> str:
    """Places as JSON text for the cache."""
    return EVERYBODY.dump_json(places).decode()


def from_text(text: str) -> tuple[tuple[Place, ...], ...]:
    return EVERYBODY.validate_json(text)
