"""The library: every picture that a project has ever seen, with tags; searched by word, colour, likeness and thread."""

from __future__ import annotations

import base64
import threading
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.colour import linear_from_hex, oklab_from_linear
from juxtaform.core.likeness import LIKENESS_VERSION, SIZE, colour_shares, likeness_vector, most_alike
from juxtaform.records.models import Bead, LibraryPicture, Measure, Picture, Project, Reference, Shot, Take, Thread
from juxtaform.studio import plan
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, of_project, remember

PALETTE = 8
LEAST_SHARE = 0.02
"""A picture with less than this part in a colour does not have it."""


@dataclass(frozen=True)
class Use:
    """Where a picture is used: as what (`reference`, `take`, `guide`), of which thread or shot, in words."""

    what: str
    id: str
    words: str


@dataclass(frozen=True)
class LibraryItem:
    """A picture of the library with its tags and uses; `score` tells how well it answers the search (1: fully)."""

    id: str
    revision: int
    sha: str
    name: str
    tags: tuple[str, ...]
    binned: bool
    width: int
    height: int
    score: float
    uses: tuple[Use, ...]


@dataclass(frozen=True)
class LibraryPart:
    """A part of what a search found: how many there are in all, from where this part begins, and all tags in use."""

    total: int
    offset: int
    items: tuple[LibraryItem, ...]
    tags: tuple[str, ...]


@dataclass(frozen=True)
class Search:
    """What is looked for; empty fields ask for nothing."""

    words: str = ""
    colour: str = ""
    like: str = ""
    thread: str = ""
    tag: str = ""
    binned: bool = False


class _Known:
    """What is known of pictures by digest, kept in memory: it never changes."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.vectors: dict[str, np.ndarray] = {}
        self.palettes: dict[str, tuple[np.ndarray, np.ndarray]] = {}


_known = _Known()


def search(ws: Workspace, project_id: str, wanted: Search, offset: int = 0, limit: int = 200) -> LibraryPart:
    """Search a project's pictures, best answers first, else newest first. Raises NotThere, NotPossible."""
    with ws.database.session() as s:
        rows = s.execute(
            select(LibraryPicture.id, LibraryPicture.picture_sha, LibraryPicture.name, LibraryPicture.tags)
            .where(LibraryPicture.project_id == project_id, LibraryPicture.binned == wanted.binned)
            .order_by(LibraryPicture.added_at.desc(), LibraryPicture.id)
        ).all()
        tags = tuple(sorted({t for r in rows for t in r.tags}, key=str.casefold))
        if wanted.tag:
            rows = [r for r in rows if wanted.tag in r.tags]
        uses = _Uses(s, project_id)
        if wanted.thread:
            rows = [r for r in rows if wanted.thread in uses.threads[r.picture_sha]]
        if words := wanted.words.casefold().split():
            rows = [r for r in rows if _answers(words, r.name, r.tags, uses.words[r.picture_sha])]
        scores = dict.fromkeys((r.id for r in rows), 1.0)
        if wanted.colour and rows:
            shares = _in_colour(s, [r.picture_sha for r in rows], wanted.colour)
            kept = [(r, share) for r, share in zip(rows, shares, strict=True) if share >= LEAST_SHARE]
            kept.sort(key=lambda k: -k[1])
            rows, scores = [r for r, _ in kept], {r.id: share for r, share in kept}
        if wanted.like and rows:
            vectors = _vectors(ws, s, [wanted.like, *(r.picture_sha for r in rows)])
            order, like = most_alike(vectors[1:], vectors[0], len(rows))
            rows, scores = [rows[i] for i in order], {rows[i].id: float(v) for i, v in zip(order, like, strict=True)}
        part = rows[offset : offset + limit]
        held = {p.id: p for p in s.scalars(select(LibraryPicture).where(LibraryPicture.id.in_([r.id for r in part])))}
        sizes = {p.sha: p for p in s.scalars(select(Picture).where(Picture.sha.in_([r.picture_sha for r in part])))}
        items = tuple(
            LibraryItem(
                r.id, held[r.id].revision, r.picture_sha, r.name, tuple(r.tags), wanted.binned, sizes[r.picture_sha].width,
                sizes[r.picture_sha].height, round(scores[r.id], 3), tuple(uses.of[r.picture_sha]),
            )
            for r in part
        )  # fmt: skip
        return LibraryPart(len(rows), offset, items, tags)


def tag(ws: Workspace, project_id: str, ids: Sequence[str], add: Sequence[str], remove: Sequence[str]) -> Changed:
    """Add tags to pictures, or take them off."""
    fresh = [t for t in dict.fromkeys(" ".join(t.split())[:60] for t in add) if t]
    with ws.writing(project_id, "tagged pictures") as w:
        count = len(ids)
        w.name(f"tagged {count} {'picture' if count == 1 else 'pictures'}")
        for i in ids:
            row = found(w.session, LibraryPicture, i, project_id)
            row.tags = [t for t in dict.fromkeys([*row.tags, *fresh]) if t not in set(remove)]
    return w.changed


def put_in_bin(ws: Workspace, project_id: str, ids: Sequence[str], *, binned: bool) -> Changed:
    """Put pictures in the bin, or take them out. A picture in use cannot be binned: what uses it is told."""
    with ws.writing(project_id, "binned pictures") as w:
        uses = _Uses(w.session, project_id)
        count = len(ids)
        w.name(
            f"{'put' if binned else 'took'} {count} {'picture' if count == 1 else 'pictures'} {'in' if binned else 'out of'} the bin"
        )
        for i in ids:
            row = found(w.session, LibraryPicture, i, project_id)
            if binned and uses.of[row.picture_sha]:
                raise NotPossible(
                    f"{row.name} is in use: {uses.of[row.picture_sha][0].words}. Take it out there first."
                )
            row.binned = binned
    return w.changed


def seen(ws: Workspace, project_id: str, sha: str, name: str) -> None:
    """Remember a picture that came in for a project, and keep its likeness vector, so that a search need not make it."""
    with ws.database.session() as s:
        found(s, Project, project_id)
        remember(s, project_id, {sha: name.replace("\\", "/").rsplit("/", 1)[-1]})
        _vectors(ws, s, [sha])


class _Uses:
    """Where each picture of a project is used, by digest."""

    def __init__(self, s: Session, project_id: str) -> None:
        self.of: defaultdict[str, list[Use]] = defaultdict(list)
        self.threads: defaultdict[str, set[str]] = defaultdict(set)
        self.words: defaultdict[str, str] = defaultdict(str)
        threads = {t.id: t for t in of_project(s, Thread, project_id)}
        order = plan.in_order(s, project_id)
        numbers = {x.id: i + 1 for i, x in enumerate(order)}
        shots: dict[str, Shot] = {x.id: x for x in order}
        for r in of_project(s, Reference, project_id):
            t = threads[r.thread_id]
            self._put(
                r.picture_sha,
                Use("reference", t.id, f"reference of {t.name}: {r.name}"),
                f"{t.name} {' '.join(t.aliases)}",
            )
            self.threads[r.picture_sha].add(t.id)
        takes = of_project(s, Take, project_id)
        for take in takes:
            picked = ", picked" if take.picked else ""
            words = f"take of shot {numbers.get(take.shot_id, '?')}{picked}"
            self._put(take.picture_sha, Use("take", take.shot_id, words), shots[take.shot_id].shows)
        for x in order:
            if x.sketch_sha:
                self._put(x.sketch_sha, Use("guide", x.id, f"guide of shot {numbers[x.id]}"), x.shows)
        by_shot: defaultdict[str, list[str]] = defaultdict(list)
        for take in takes:
            by_shot[take.shot_id].append(take.picture_sha)
        for thread_id, shot_id in s.execute(
            select(Bead.thread_id, Bead.shot_id).where(Bead.project_id == project_id)
        ).tuples():
            for sha in by_shot[shot_id]:
                self.threads[sha].add(thread_id)

    def _put(self, sha: str, use: Use, words: str) -> None:
        self.of[sha].append(use)
        self.words[sha] += f" {use.words} {words}".casefold()


def _answers(words: Sequence[str], name: str, tags: Sequence[str], used: str) -> bool:
    whole = f"{name} {' '.join(tags)} {used}".casefold()
    return all(w in whole for w in words)


def _in_colour(s: Session, shas: Sequence[str], code: str) -> list[float]:
    missing = [sha for sha in dict.fromkeys(shas) if sha not in _known.palettes]
    for sha, entries in (
        s.execute(select(Picture.sha, Picture.palette).where(Picture.sha.in_(missing))).tuples() if missing else ()
    ):
        colours, shares = np.zeros((PALETTE, 3)), np.zeros(PALETTE)
        if entries:
            told = entries[:PALETTE]
            colours[: len(told)] = oklab_from_linear(np.array([linear_from_hex(c) for c, _ in told]))
            shares[: len(told)] = [share for _, share in told]
        _known.palettes[sha] = colours, shares
    palettes = np.stack([_known.palettes[x][0] for x in shas])
    shares = np.stack([_known.palettes[x][1] for x in shas])
    wanted = oklab_from_linear(linear_from_hex(code))
    return [float(v) for v in colour_shares(palettes, shares, wanted)]


def _vectors(ws: Workspace, s: Session, shas: Sequence[str]) -> np.ndarray:
    """The likeness vectors of pictures (n, SIZE), read from the cache or made."""
    missing = [x for x in dict.fromkeys(shas) if x not in _known.vectors]
    keys = {f"like{LIKENESS_VERSION}:{x[:56]}": x for x in missing}
    for key, data in s.execute(select(Measure.key, Measure.data).where(Measure.key.in_(keys))).tuples() if keys else ():
        _known.vectors[keys.pop(key)] = np.frombuffer(base64.b64decode(data), dtype=np.float16).astype(np.float32)
    for key, sha in keys.items():
        vector = likeness_vector(ws.store.small(sha)).astype(np.float16)
        s.merge(Measure(key=key, version=LIKENESS_VERSION, data=base64.b64encode(vector.tobytes()).decode()))
        _known.vectors[sha] = vector.astype(np.float32)
    return np.stack([_known.vectors[x] for x in shas]) if shas else np.zeros((0, SIZE), dtype=np.float32)
