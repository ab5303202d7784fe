"""Words that belong to the shot before, or to a reference picture, and were left standing in a brief."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import lru_cache

from juxtaform.core.brief.compose import BriefShot, Phrase
from juxtaform.core.brief.knowledge import Before, ThreadWords, found_at
from juxtaform.core.brief.presence import Presence
from juxtaform.core.brief.stylewords import BARE_GROUND, GROUND_HINTS
from juxtaform.core.findings import Finding, Mend
from juxtaform.core.text.tokens import tokens


def leftover(
    shot: BriefShot, own: Sequence[Phrase], here: Presence, before: Before | None, by_id: dict[str, ThreadWords]
) -> Iterator[Finding]:
    """Words about bare ground in a setting; clauses of the shot before that speak of somebody or of a place that is not here any more."""
    attached = {m.id for m in shot.members}
    settings = {m.id for m in shot.members if m.kind == "setting"}
    for p in own:
        for m in BARE_GROUND.finditer(p.text) if settings and not tokens(p.text).isdisjoint(GROUND_HINTS) else ():
            place = next(x.name for x in shot.members if x.kind == "setting")
            yield found_at(
                p,
                m.start(),
                m.end(),
                kind="leftover",
                title=f"“{m.group()}” in {place}",
                advice="Such words belong to a reference picture, not to a scene. Cut them.",
                mend=Mend("cut", "Cut the words"),
            )
    if before is None or not before.words:
        return
    old = _clauses(before.words)
    places_before = {i for i in before.attached if i in by_id and by_id[i].kind == "setting"}
    moved = bool(settings and places_before and not settings & places_before)
    for p in own:
        whole = _plain(p.text)
        if p.key == "action" and whole == _plain(before.words) and len(whole.split()) >= 4:
            yield found_at(
                p,
                0,
                len(p.text),
                kind="leftover",
                title="The same words as in the shot before",
                advice="Say what this picture shows, or merge the two shots.",
            )
            return
        for start, end, clause in _clause_spans(p.text):
            if clause not in old:
                continue
            words = len(clause.split())
            gone = next(
                (
                    t
                    for t in here.named
                    if t not in attached
                    and t in before.attached
                    and any(p.key == k and start <= a < end for k, a, _ in here.spans[t])
                ),
                "",
            )
            if (gone and words >= 3) or (moved and words >= 4):
                why = f"{by_id[gone].named.name} was there, and is not here." if gone else "The place is another now."
                yield found_at(
                    p,
                    start,
                    end,
                    kind="leftover",
                    title=f"“{p.text[start:end]}” stood in the shot before",
                    advice=f"{why} Cut the words, or attach it.",
                    thread=gone,
                    mend=Mend("cut", "Cut the words"),
                )


def _clause_spans(text: str) -> Iterator[tuple[int, int, str]]:
    for m in re.finditer(r"[^.;,:!?—–]+", text):
        plain = _plain(m.group())
        if plain:
            lead = len(m.group()) - len(m.group().lstrip())
            yield m.start() + lead, m.start() + len(m.group().rstrip()), plain


@lru_cache(maxsize=4096)
def _clauses(text: str) -> frozenset[str]:
    return frozenset(clause for _, _, clause in _clause_spans(text))


def _plain(words: str) -> str:
    return " ".join(re.findall(r"[\w’'-]+", words.casefold()))
