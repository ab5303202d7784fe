"""Briefs: composed from the rows as they stand, with hand edits on top; preflight of all; what differs; what was sent."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.brief.compose import Brief, BriefShot, composed
from juxtaform.core.brief.concerns import Before, Concern
from juxtaform.core.brief.preflight import Preflight
from juxtaform.core.brief.trimming import Fitted, Profile, fitted
from juxtaform.core.text.difference import Piece, word_difference
from juxtaform.records.models import SentBrief, Shot, Take
from juxtaform.studio.desk import Desk
from juxtaform.studio.versions import Stale, stale_takes
from juxtaform.studio.workspace import NotThere, Workspace, found


@dataclass(frozen=True)
class KeyedConcern:
    """A concern with a key that stays the same until its words or threads change, and whether it was let stand."""

    key: str
    concern: Concern
    stood: bool


@dataclass(frozen=True)
class ShotFlight:
    """What preflight says of one shot."""

    shot_id: str
    concerns: tuple[KeyedConcern, ...]


@dataclass(frozen=True)
class Flight:
    """Preflight of all briefs (shots without concerns are left out), and the pictures made from older references."""

    profile: str
    shots: tuple[ShotFlight, ...]
    stale: tuple[Stale, ...]


@dataclass(frozen=True)
class ShotBrief:
    """One shot's brief as it would go out: before and after fitting, with its concerns."""

    shot_id: str
    number: str
    whole: Brief
    fitted: Fitted
    text: str
    profile: Profile
    concerns: tuple[KeyedConcern, ...]


def flight(ws: Workspace, project_id: str, profile: str | None = None) -> Flight:
    """Preflight of every settled shot's brief."""
    with ws.database.session() as s:
        desk = Desk(s, project_id)
        told = tuple(ShotFlight(b.shot_id, b.concerns) for b in all_briefs(desk, profile) if b.concerns)
        return Flight(desk.profile(profile).name, told, tuple(stale_takes(s, project_id, desk.ids)))


def all_briefs(desk: Desk, profile: str | None = None, only: Sequence[str] | None = None) -> Iterator[ShotBrief]:
    """The briefs of all settled shots, or of some, in order."""
    rules, limits = desk.preflight(), desk.profile(profile)
    chosen = None if only is None else set(only)
    before: Before | None = None
    for i, row in enumerate(desk.order):
        shot = desk.shot(i)
        whole = desk.brief(i, shot)
        if chosen is None or row.id in chosen:
            yield _looked_at(desk, rules, limits, i, shot, whole, before)
        before = Before(
            " ".join(p.text for p in whole.phrases if p.kind == "action"), frozenset(m.id for m in shot.members)
        )


def brief(ws: Workspace, project_id: str, shot_id: str, profile: str | None = None) -> ShotBrief:
    """One shot's brief. Raises NotThere for a shot that is not there or only proposed."""
    with ws.database.session() as s:
        desk = Desk(s, project_id)
        return at_desk(desk, shot_id, profile)


def at_desk(desk: Desk, shot_id: str, profile: str | None = None) -> ShotBrief:
    """One shot's brief from rows already read."""
    if shot_id not in desk.ids:
        raise NotThere("This shot has no brief: it is gone, or only proposed. Accept it first.")
    i = desk.ids.index(shot_id)
    shot = desk.shot(i)
    before = None
    if i:
        earlier = desk.shot(i - 1)
        words = " ".join(p.text for p in desk.brief(i - 1, earlier).phrases if p.kind == "action")
        before = Before(words, frozenset(m.id for m in earlier.members))
    return _looked_at(desk, desk.preflight(), desk.profile(profile), i, shot, desk.brief(i, shot), before)


def _looked_at(
    desk: Desk, rules: Preflight, limits: Profile, i: int, shot: BriefShot, whole: Brief, before: Before | None
) -> ShotBrief:
    cut = fitted(whole, limits, shot.members, shot.aspect)
    concerns = tuple(
        KeyedConcern(key := _key(shot.id, c), c, key in desk.stood)
        for c in rules.concerns(shot, whole, before, cut, desk.state(i, shot))
    )
    return ShotBrief(shot.id, shot.number, whole, cut, cut.brief.text, limits, concerns)


def compared(ws: Workspace, project_id: str, shot_id: str, other: str, profile: str | None = None) -> list[Piece]:
    """What differs in a brief from another: `before` (the shot before), `sent` (the last that left), `plain` (without hand
    edits), or another shot's id. Raises NotThere when there is none."""
    with ws.database.session() as s:
        desk = Desk(s, project_id)
        new = at_desk(desk, shot_id, profile).text
        if other == "sent":
            query = select(SentBrief.text).where(SentBrief.shot_id == shot_id).order_by(SentBrief.id.desc()).limit(1)
            old = s.scalars(query).first()
            if old is None:
                raise NotThere("No brief of this shot has left yet: there is nothing to compare with.")
        elif other == "plain":
            i = desk.ids.index(shot_id)
            shot = desk.shot(i)
            old = fitted(composed(shot), desk.profile(profile), shot.members).brief.text
        elif other == "before":
            i = desk.ids.index(shot_id)
            if i == 0:
                raise NotThere("This is the first shot: there is none before it.")
            old = at_desk(desk, desk.ids[i - 1], profile).text
        else:
            old = at_desk(desk, other, profile).text
    return word_difference(old, new)


def sent(ws: Workspace, project_id: str, texts: Sequence[tuple[str, str]]) -> None:
    """Remember briefs that left, as (shot, text); the same text as last time is remembered once."""
    with ws.database.session() as s:
        for shot_id, text in texts:
            found(s, Shot, shot_id, project_id)
            query = select(SentBrief.text).where(SentBrief.shot_id == shot_id).order_by(SentBrief.id.desc()).limit(1)
            if s.scalars(query).first() != text:
                s.add(SentBrief(project_id=project_id, shot_id=shot_id, text=text))


def phrases_now(session: Session, project_id: str, shot_ids: Sequence[str]) -> dict[str, list[list[str]]]:
    """For each shot the phrases of its brief as (key, words): what a picture made now is made from."""
    desk = Desk(session, project_id)
    index = {shot: i for i, shot in enumerate(desk.ids)}
    return {i: [[p.key, p.text] for p in desk.brief(index[i]).phrases] for i in shot_ids if i in index}


def words_of_take(ws: Workspace, project_id: str, take_id: str) -> list[tuple[str, str]]:
    """The phrases that a take was made from; none when that is not known. Raises NotThere."""
    with ws.database.session() as s:
        return [(k, v) for k, v in found(s, Take, take_id, project_id).made_from.get("phrases") or []]


def take_phrases(session: Session, take_id: str, project_id: str) -> list[tuple[str, str]]:
    """The phrases that a take was made from. Raises NotThere when it is not known."""
    held = found(session, Take, take_id, project_id).made_from.get("phrases") or []
    if not held:
        raise NotThere("It is not known from which words this picture was made.")
    return [(key, words) for key, words in held]


def _key(shot_id: str, c: Concern) -> str:
    about = [c.rule, "" if c.shared else shot_id, c.thread, c.phrase, c.words or c.title]
    return "flight:" + hashlib.sha256("\x1f".join(about).encode()).hexdigest()[:40]


def edited_with(edits: Sequence[dict[str, str]], key: str, was: str, now: str | None) -> list[dict[str, str]]:
    """Hand edits with one set, or taken away (None)."""
    kept = [e for e in edits if e["key"] != key]
    return kept if now is None else [*kept, {"key": key, "was": was, "now": now}]


def plain_text(whole: Brief, key: str) -> str:
    """A phrase's words without a hand edit."""
    p = next((p for p in whole.phrases if p.key == key), None)
    return "" if p is None else (p.text if p.plain is None else p.plain)
