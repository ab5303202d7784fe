"""Briefs: composed from the rows as they stand, with hand edits on top; preflight of all; what differs; what was sent."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.brief.compose import Brief, composed
from juxtaform.core.brief.knowledge import Before
from juxtaform.core.brief.motion import MotionField, as_text, motion_brief
from juxtaform.core.brief.trimming import Fitted, Profile, fitted
from juxtaform.core.findings import Finding, WordsAt, key_of
from juxtaform.core.text.difference import Piece, word_difference
from juxtaform.records.models import SentBrief, Shot, Take
from juxtaform.studio.desk import Desk
from juxtaform.studio.workspace import NotThere, Workspace, found


@dataclass(frozen=True)
class ShotBrief:
    """One shot's brief as it would go out: before and after fitting, with what is to look at in it."""

    shot_id: str
    number: str
    whole: Brief
    fitted: Fitted
    text: str
    profile: Profile
    findings: tuple[Finding, ...]
    motion: tuple[MotionField, ...]
    motion_text: str
    """The motion brief as it would go out: what moves, the camera, start and end, length."""


def before(desk: Desk, index: int) -> Before | None:
    """The shot before one: its own words, and what was attached."""
    if index == 0:
        return None
    earlier = desk.shot(index - 1)
    words = " ".join(p.text for p in desk.brief(index - 1).own)
    return Before(words, frozenset(m.id for m in earlier.members))


def all_briefs(desk: Desk, profile: str | None = None, only: Sequence[str] | None = None) -> Iterator[ShotBrief]:
    """The briefs of all settled shots, or of some, in order."""
    chosen = None if only is None else set(only)
    limits = desk.profile(profile)
    for i, shot in enumerate(desk.ids):
        if chosen is None or shot in chosen:
            yield looked_at(desk, i, limits)


def at_desk(desk: Desk, shot_id: str, profile: str | None = None) -> ShotBrief:
    """One shot's brief from rows already read."""
    if shot_id not in desk.at:
        raise NotThere("This shot has no brief: it is gone, or only proposed. Accept it first.")
    return looked_at(desk, desk.at[shot_id], desk.profile(profile))


def looked_at(desk: Desk, index: int, limits: Profile) -> ShotBrief:
    """The brief of the shot at an index, fitted to a service's limits and looked over."""
    shot = desk.shot(index)
    whole = desk.brief(index)
    cut = fitted(whole, limits, shot.members, shot.aspect)
    in_words = desk.preflight.findings(shot, whole, before(desk, index), cut, desk.state(index, shot))
    findings = tuple(replace(f, shot=shot.id, key=_key(shot.id, f)) for f in in_words)
    motion = motion_brief(desk.motion(index))
    return ShotBrief(
        shot.id, shot.number, whole, cut, cut.brief.text, limits, findings, motion, as_text(motion, limits.motion)
    )


def compared(ws: Workspace, project_id: str, shot_id: str, other: str, profile: str | None = None) -> list[Piece]:
    """What differs in a brief from another: `before` (the shot before), `sent` (the last that left), `plain` (without hand
    edits), or another shot's id. Raises NotThere when there is none."""
    with ws.database.session() as s:
        desk = Desk.read(s, project_id)
        new = at_desk(desk, shot_id, profile).text
        if other == "sent":
            query = select(SentBrief.text).where(SentBrief.shot_id == shot_id).order_by(SentBrief.id.desc()).limit(1)
            old = s.scalars(query).first()
            if old is None:
                raise NotThere("No brief of this shot has left yet: there is nothing to compare with.")
        elif other == "plain":
            i = desk.at[shot_id]
            shot = desk.shot(i)
            old = fitted(composed(shot), desk.profile(profile), shot.members).brief.text
        elif other == "before":
            i = desk.at[shot_id]
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
    desk = Desk.read(session, project_id)
    return {i: [[p.key, p.text] for p in desk.brief(desk.at[i]).phrases] for i in shot_ids if i in desk.at}


def words_of_take(ws: Workspace, project_id: str, take_id: str) -> list[tuple[str, str]]:
    """The phrases that a take was made from; none when that is not known. Raises NotThere."""
    with ws.database.session() as s:
        return [(k, v) for k, v in found(s, Take, take_id, project_id).made_from.get("phrases") or []]


def take_phrases(session: Session, take_id: str, project_id: str) -> list[tuple[str, str]]:
    """The phrases that a take was made from. Raises NotThere when it is not known."""
    phrases = found(session, Take, take_id, project_id).made_from.get("phrases") or []
    if not phrases:
        raise NotThere("It is not known from which words this picture was made.")
    return [(key, words) for key, words in phrases]


def _key(shot_id: str, f: Finding) -> str:
    """The same while the words and threads are; what comes with a thread is one matter in every brief that has it."""
    at = f.words or WordsAt("")
    return key_of(f.kind, "" if at.shared else shot_id, f.thread or "", at.phrase, at.text or f.title)


def edited_with(edits: Sequence[dict[str, str]], key: str, was: str, now: str | None) -> list[dict[str, str]]:
    """Hand edits with one set, or taken away (None)."""
    kept = [e for e in edits if e["key"] != key]
    return kept if now is None else [*kept, {"key": key, "was": was, "now": now}]


def plain_text(whole: Brief, key: str) -> str:
    """A phrase's words without a hand edit."""
    p = next((p for p in whole.phrases if p.key == key), None)
    return "" if p is None else (p.text if p.plain is None else p.plain)
