"""Taste rounds: two pictures of the library, pick one or skip; the choices give a ranking, and pictures for a style."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.taste import Taste, fitted, next_pair, proposed
from juxtaform.records.models import Duel, LibraryPicture, Project, Reference, Shot, Take, Thread
from juxtaform.studio import measures
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found


@dataclass(frozen=True)
class Placed:
    """A picture in the ranking: its score (log odds against the average), the standard deviation of that, how often it was
    seen, and the weight that is proposed for it (0: none)."""

    sha: str
    name: str
    score: float
    sd: float
    seen: int
    weight: float


@dataclass(frozen=True)
class Round:
    """Where the taste rounds stand: the pair to choose from (None: too few pictures), choices so far, and the ranking."""

    left: str | None
    right: str | None
    chosen: int
    skipped: int
    ranking: tuple[Placed, ...]


def standing(ws: Workspace, project_id: str, tag: str = "") -> Round:
    """The next pair and the ranking, over the library's pictures or those with a tag. Raises NotThere."""
    with ws.database.session() as s:
        found(s, Project, project_id)
        shas, names, taste, duels = _taste(s, project_id, tag)
    index = {sha: i for i, sha in enumerate(shas)}
    shown = [(index[d.left_sha], index[d.right_sha]) for d in duels if d.left_sha in index and d.right_sha in index]
    pair = next_pair(taste, shown, seed=len(shown))
    weights = dict(proposed(taste))
    return Round(
        shas[pair[0]] if pair else None,
        shas[pair[1]] if pair else None,
        sum(d.chosen != "skip" for d in duels),
        sum(d.chosen == "skip" for d in duels),
        tuple(
            Placed(shas[r.index], names[r.index], round(r.score, 2), round(r.sd, 2), r.seen, weights.get(r.index, 0.0))
            for r in taste.ranking
            if r.seen
        ),
    )


def choose(ws: Workspace, project_id: str, left: str, right: str, chosen: str) -> Changed:
    """Keep one choice: `left`, `right` or `skip`."""
    if left == right:
        raise NotPossible("These are the same picture.")
    with ws.writing(project_id, "chose a picture" if chosen != "skip" else "skipped a pair") as w:
        query = select(LibraryPicture.picture_sha).where(
            LibraryPicture.project_id == project_id, LibraryPicture.picture_sha.in_([left, right])
        )
        if len(set(w.session.scalars(query))) < 2:
            raise NotPossible("One of the pictures is not in the library any more. Ask for the next pair.")
        w.add(Duel(project_id=project_id, left_sha=left, right_sha=right, chosen=chosen))
    return w.changed


def to_style(ws: Workspace, project_id: str, thread_id: str, tag: str = "") -> Changed:
    """Give a style the proposed pictures with their weights; pictures that it has already get the weight."""
    with ws.writing(project_id, "made style pictures of the best") as w:
        style = found(w.session, Thread, thread_id, project_id)
        shas, names, taste, _ = _taste(w.session, project_id, tag)
        best = proposed(taste)
        if not best:
            raise NotPossible("No picture is surely better than the rest yet. Choose a few more times.")
        w.name(f"made {len(best)} pictures the style of {style.name}")
        own = {r.picture_sha: r for r in w.session.scalars(select(Reference).where(Reference.thread_id == thread_id))}
        position = max((r.position for r in own.values()), default=-1.0)
        for i, weight in best:
            if shas[i] in own:
                own[shas[i]].weight = weight
                continue
            position += 1
            w.add(
                Reference(
                    project_id=project_id,
                    thread_id=thread_id,
                    picture_sha=shas[i],
                    name=names[i].rsplit(".", 1)[0][:120],
                    weight=weight,
                    position=position,
                )
            )
    measures.measure(ws, measures.OF_REFERENCES, [shas[i] for i, _ in best])
    return w.changed


def _taste(s: Session, project_id: str, tag: str) -> tuple[list[str], list[str], Taste, Sequence[Duel]]:
    rows = s.scalars(
        select(LibraryPicture)
        .where(LibraryPicture.project_id == project_id, ~LibraryPicture.binned)
        .order_by(LibraryPicture.added_at, LibraryPicture.id)
    )
    unfit = set() if tag else _no_style(s, project_id)
    fit = [r for r in rows if tag in r.tags or (not tag and r.picture_sha not in unfit)]
    shas = [r.picture_sha for r in fit]
    index = {sha: i for i, sha in enumerate(shas)}
    duels = list(s.scalars(select(Duel).where(Duel.project_id == project_id).order_by(Duel.at, Duel.id)))
    choices = []
    for d in duels:
        if d.chosen == "skip" or d.left_sha not in index or d.right_sha not in index:
            continue
        pair = (index[d.left_sha], index[d.right_sha])
        choices.append(pair if d.chosen == "left" else (pair[1], pair[0]))
    return shas, [r.name for r in fit], fitted(len(shas), choices), duels


def _no_style(s: Session, project_id: str) -> set[str]:
    """Pictures that could be no style's: views of a figure and sketches, unless they are something else too."""
    query = select(Reference.picture_sha, Thread.kind).join(Thread, Thread.id == Reference.thread_id)
    used = list(s.execute(query.where(Reference.project_id == project_id)).tuples())
    views = {sha for sha, kind in used if kind in ("character", "prop")}
    sketches = set(
        s.scalars(select(Shot.sketch_sha).where(Shot.project_id == project_id, Shot.sketch_sha.is_not(None)))
    )
    shown = {sha for sha, kind in used if kind not in ("character", "prop")}
    shown |= set(s.scalars(select(Take.picture_sha).where(Take.project_id == project_id)))
    return {sha for sha in views | sketches if sha is not None} - shown
