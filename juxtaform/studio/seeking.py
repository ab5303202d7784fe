"""How a figure is looked for: by the references that vote for it, kept ready in a worker; and the key under which its places are kept."""

from __future__ import annotations

import functools
from collections.abc import Iterable, Mapping
from pathlib import Path

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from juxtaform.core.figure.standing import Place, Sought, sought
from juxtaform.core.figure.traits import look_box
from juxtaform.core.picture.regions import Box, cut_out
from juxtaform.media.decode import decoded_file
from juxtaform.media.network import figure_eye, network_digest
from juxtaform.records import measures
from juxtaform.records.database import Database
from juxtaform.studio.measuring import FigureFile, ViewFile, digest_of

SPOTTING_VERSION = "spot 1"
"""Raise this whenever places are found in another way: what was found before is looked for again."""
MOST_VIEWS = 4
"""The number of references of a figure that vote: the heaviest."""
MODELS_KEPT = 60
_PLACES = TypeAdapter(tuple[Place, ...])


@functools.lru_cache(maxsize=MODELS_KEPT)
def sought_of(views: tuple[ViewFile, ...]) -> Sought:
    eye = figure_eye()
    assert eye is not None
    crops = []
    for view in views:
        pixels = decoded_file(Path(view.path))
        crops.append(cut_out(pixels, look_box(pixels, Box(*view.box) if view.box else None)))
    return sought(eye, crops)


def keep(database: Database, found: Mapping[str, tuple[Place, ...]]) -> None:
    """Keep where figures were found, each under its key."""
    measures.keep(database, SPOTTING_VERSION, {k: _PLACES.dump_json(p).decode() for k, p in found.items()})


def known(session: Session, keys: Iterable[str]) -> dict[str, tuple[Place, ...]]:
    """Where figures were found, of those keys under which that is kept."""
    return {k: _PLACES.validate_json(t) for k, t in measures.known(session, keys, SPOTTING_VERSION).items()}


def heaviest(views: Iterable[ViewFile]) -> list[ViewFile]:
    return sorted(views, key=lambda v: -v.weight)[:MOST_VIEWS]


def place_key(sha: str, figure: FigureFile) -> str:
    views = [[v.sha, v.box] for v in heaviest(figure.views)]
    return digest_of([SPOTTING_VERSION, network_digest(), sha, views])
