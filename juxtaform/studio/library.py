"""The library: every picture that a project has ever seen, with tags; searched by word, colour, likeness and thread."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.core.colour.spaces import linear_from_hex, oklab_from_linear
from juxtaform.core.picture.likeness import SIZE, colour_shares, most_alike
from juxtaform.records.models import Bead, LibraryPicture, Picture, Project, Reference, Take, Thread
from juxtaform.studio import measures, plan
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, hold, of_project, remember

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


MOST_REMEMBERED = 50_000
"""Pictures of which this process remembers likeness and colours; about 50 MB."""


class _Known:
    """What is known of pictures by digest, kept in memory: it never changes. Beyond the most, all is read anew."""

    def __init__(self) -> None:
        self.vectors: dict[str, np.ndarray] = {}
        self.palettes: dict[str, tuple[np.ndarray, np.ndarray]] = {}

    def make_room(self) -> None:
        for remembered in (self.vectors, self.palettes):
            if len(remembered) > MOST_REMEMBERED:
                remembered.clear()


_known = _Known()


def search(ws: Workspace, project_id: str, wanted: Search, offset: int = 0, limit: int = 200) -> LibraryPart:
    """Search a project's pictures, best answers first, else newest first. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        of_them = (LibraryPicture.project_id == project_id, LibraryPicture.binned == wanted.binned)
        columns = (LibraryPicture.id, LibraryPicture.picture_sha, LibraryPicture.name, LibraryPicture.tags)
        newest = select(*columns).where(*of_them).order_by(LibraryPicture.added_at.desc(), LibraryPicture.id.desc())
        tag_lists = s.scalars(select(LibraryPicture.tags).where(*of_them, func.json_length(LibraryPicture.tags) > 0))
        tags = tuple(sorted({t for some in tag_lists for t in some}, key=str.casefold))
        if wanted == Search(binned=wanted.binned):
            total = s.scalar(select(func.count()).select_from(LibraryPicture).where(*of_them)) or 0
            part = list(s.execute(newest.offset(offset).limit(limit)).all())
            return LibraryPart(
                total, offset, _items(s, project_id, part, dict.fromkeys((r.id for r in part), 1.0), wanted), tags
            )
        rows = list(s.execute(newest).all())
        if wanted.tag:
            rows = [r for r in rows if wanted.tag in r.tags]
        if wanted.thread or wanted.words:
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
        if wanted.like and s.get(Picture, wanted.like) is None:
            raise NotPossible("The picture to be like is not in the store. Choose one of the library.")
        if wanted.like and rows:
            vectors = _vectors(ws, [wanted.like, *(r.picture_sha for r in rows)])
            order, like = most_alike(vectors[1:], vectors[0], len(rows))
            rows, scores = [rows[i] for i in order], {rows[i].id: float(v) for i, v in zip(order, like, strict=True)}
        return LibraryPart(
            len(rows), offset, _items(s, project_id, rows[offset : offset + limit], scores, wanted), tags
        )


def _items(
    s: Session, project_id: str, part: Sequence[Any], scores: dict[str, float], wanted: Search
) -> tuple[LibraryItem, ...]:
    """A part of the answer with sizes and uses."""
    shas = [r.picture_sha for r in part]
    uses = _Uses(s, project_id, shas)
    size_of = dict(
        s.execute(select(LibraryPicture.id, LibraryPicture.revision).where(LibraryPicture.id.in_([r.id for r in part])))
        .tuples()
        .all()
    )
    sizes = {
        sha: (w, h)
        for sha, w, h in s.execute(
            select(Picture.sha, Picture.width, Picture.height).where(Picture.sha.in_(shas))
        ).tuples()
    }
    return tuple(
        LibraryItem(
            r.id,
            size_of[r.id],
            r.picture_sha,
            r.name,
            tuple(r.tags),
            wanted.binned,
            *sizes[r.picture_sha],
            round(scores[r.id], 3),
            tuple(uses.of[r.picture_sha]),
        )
        for r in part
    )


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
        hold(s, project_id)
        remember(s, project_id, {sha: name.replace("\\", "/").rsplit("/", 1)[-1]})
    measures.measure(ws, (measures.LIKENESS,), [sha])


class _Uses:
    """Where pictures of a project are used, by digest: all of them, or some."""

    def __init__(self, s: Session, project_id: str, only: Sequence[str] | None = None) -> None:
        self.of: defaultdict[str, list[Use]] = defaultdict(list)
        self.threads: defaultdict[str, set[str]] = defaultdict(set)
        self.words: defaultdict[str, str] = defaultdict(str)
        threads = {t.id: t for t in of_project(s, Thread, project_id)}
        order = plan.in_order(s, project_id)
        numbers = {x.id: i + 1 for i, x in enumerate(order)}
        shows = {x.id: x.shows for x in order}
        references = select(Reference.picture_sha, Reference.thread_id, Reference.name).where(
            Reference.project_id == project_id
        )
        takes = select(Take.picture_sha, Take.shot_id, Take.picked).where(Take.project_id == project_id)
        if only is not None:
            references, takes = (
                references.where(Reference.picture_sha.in_(only)),
                takes.where(Take.picture_sha.in_(only)),
            )
        for sha, thread_id, name in s.execute(references).tuples():
            t = threads[thread_id]
            self._put(sha, Use("reference", t.id, f"reference of {t.name}: {name}"), f"{t.name} {' '.join(t.aliases)}")
            self.threads[sha].add(t.id)
        by_shot: defaultdict[str, list[str]] = defaultdict(list)
        for sha, shot_id, picked in s.execute(takes).tuples():
            words = f"take of shot {numbers.get(shot_id, '?')}{', picked' if picked else ''}"
            self._put(sha, Use("take", shot_id, words), shows.get(shot_id, ""))
            by_shot[shot_id].append(sha)
        for x in order:
            if x.sketch_sha:
                self._put(x.sketch_sha, Use("guide", x.id, f"guide of shot {numbers[x.id]}"), x.shows)
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
    _known.make_room()
    missing = [sha for sha in dict.fromkeys(shas) if sha not in _known.palettes]
    for sha, entries in (
        s.execute(select(Picture.sha, Picture.palette).where(Picture.sha.in_(missing))).tuples() if missing else ()
    ):
        colours, shares = np.zeros((PALETTE, 3)), np.zeros(PALETTE)
        if entries:
            foremost = entries[:PALETTE]
            colours[: len(foremost)] = oklab_from_linear(np.array([linear_from_hex(c) for c, _ in foremost]))
            shares[: len(foremost)] = [share for _, share in foremost]
        _known.palettes[sha] = colours, shares
    palettes = np.stack([_known.palettes[x][0] for x in shas])
    shares = np.stack([_known.palettes[x][1] for x in shas])
    wanted = oklab_from_linear(linear_from_hex(code))
    return [float(v) for v in colour_shares(palettes, shares, wanted)]


def _vectors(ws: Workspace, shas: Sequence[str]) -> np.ndarray:
    """The likeness vectors of pictures (n, SIZE), read from the cache or made."""
    _known.make_room()
    missing = [x for x in dict.fromkeys(shas) if x not in _known.vectors]
    if missing:
        _known.vectors |= measures.of(ws, measures.LIKENESS, missing)
    return np.stack([_known.vectors[x] for x in shas]) if shas else np.zeros((0, SIZE), dtype=np.float32)
