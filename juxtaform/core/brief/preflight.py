"""Preflight: what would go wrong if a shot's brief went out as it is. Every finding names its words and offers a mend."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

from juxtaform.core.brief.attachment import attached
from juxtaform.core.brief.clauses import lies_there
from juxtaform.core.brief.compose import Brief, BriefShot, Member, Phrase
from juxtaform.core.brief.contradictions import (
    ColourFight,
    Worded,
    colour_fights,
    season_fights,
    time_fights,
    weather_fights,
)
from juxtaform.core.brief.delivery import beside_words, limits
from juxtaform.core.brief.knowledge import Before, State, ThreadWords, found_at, found_in_brief
from juxtaform.core.brief.lacking import missing_features, taken_off
from juxtaform.core.brief.leftover import leftover
from juxtaform.core.brief.presence import Presence, presence
from juxtaform.core.brief.style_rules import patterns, style
from juxtaform.core.brief.trimming import Fitted
from juxtaform.core.brief.wearers import is_held, may_be, wearer
from juxtaform.core.brief.wording import donts, stillness, strangers
from juxtaform.core.brief.words import Words, read_words
from juxtaform.core.findings import Finding, Mend
from juxtaform.core.text.names import Reader

_COMPARED = re.compile(r"\b(?:as|like|than) (?:an?|the) [a-z-]+")
"""What a wording only compares with: of `twice as tall as a man` no man is held."""


@dataclass
class Preflight:
    """The rules over one project's threads; made once, asked for every brief."""

    threads: Sequence[ThreadWords]
    _by_id: dict[str, ThreadWords] = field(init=False)
    _reader: Reader = field(init=False)
    _worded: dict[tuple[str, str], Worded] = field(init=False)
    _kinds: dict[str, str] = field(init=False)
    _held: frozenset[str] = field(init=False)

    def __post_init__(self) -> None:
        self._by_id = {t.named.id: t for t in self.threads}
        self._reader = Reader([t.named for t in self.threads if t.kind != "style"])
        self._worded = {}
        self._kinds = {t.named.id: t.kind for t in self.threads}
        self._held = frozenset(
            w
            for t in self.threads
            for part in (t.named.name, *t.named.aliases, t.wording)
            for w in re.findall(r"[a-z][\w-]+", _COMPARED.sub(" ", part.casefold()))
        )

    def findings(
        self,
        shot: BriefShot,
        brief: Brief,
        before: Before | None = None,
        cut: Fitted | None = None,
        state: State = State(),
    ) -> list[Finding]:
        """Everything to look at in a brief, the words' own first."""
        own = brief.own
        here = self.seen_in(shot, brief)
        found: list[Finding] = []
        found += leftover(shot, own, here, before, self._by_id)
        left = {c.thread for c in found if c.thread}
        found += attached(shot, own, here, self._by_id, left)
        found += self._fights(shot, own)
        found += style(shot, brief, own, anywhere="style" in self._kinds.values(), first=before is None)
        found += patterns(brief)
        found += stillness(own, self._reader.words)
        found += strangers(own, self._held, self._reader.words)
        found += beside_words(shot, state)
        if cut is not None:
            found += limits(shot, cut)
        found += donts(brief)
        return found

    @property
    def names(self) -> frozenset[str]:
        """The words of the threads' names."""
        return self._reader.words

    def seen_in(self, shot: BriefShot, brief: Brief) -> Presence:
        """Who is to be seen by a brief's own words."""
        return presence(self._reader, brief.own, self._kinds, frozenset(m.id for m in shot.members))

    def _fights(self, shot: BriefShot, own: Sequence[Phrase]) -> Iterator[Finding]:
        worded = [self._words_of(m) for m in shot.members]
        for p in own:
            for f in colour_fights(p.text, worded):
                words = read_words(p.text, self._reader.words)
                if (f.put_off and lies_there(words, f.start, f.end)) or self._is_anothers(words, f, shot):
                    continue
                yield found_in_brief(
                    kind="fights_reference",
                    title=f"“{f.words}” against {f.owner}’s {f.expected}",
                    advice=f"{f.owner}’s references have a {f.expected}. Cut the word, or give {f.owner} a costume of that colour.",
                    phrase=p.key,
                    start=f.start,
                    end=f.end,
                    words=f.words,
                    thread=f.thread,
                    mend=Mend("cut", "Cut the words"),
                )
            yield from self._costume_fights(shot, p)
            for m in shot.members:
                for start, end, kept in missing_features(p.text, m.must_keep):
                    title = f"but {m.name} is never without the {kept}"
                    advice = f"Cut the words, or take the {kept} out of what {m.name} always keeps."
                    yield _against(p, start, end, m, title, advice)
            off = [
                (m, start, end, noun)
                for m in shot.members
                if m.kind == "character"
                for start, end, noun in taken_off(p.text, m.costume_wording or m.wording)
                if not any(noun in kept for kept in m.must_keep)
            ]
            for m, start, end, noun in off if len({m.id for m, *_ in off}) == 1 else ():
                title = f"but the words that go along give {m.name} the {noun}"
                advice = f"Give {m.name} a costume without it, or cut the words."
                yield _against(p, start, end, m, title, advice)
            for m in shot.members:
                if m.kind == "setting":
                    place = self._words_of(m)
                    for start, end, said, usually in (
                        *time_fights(p.text, place),
                        *weather_fights(p.text, place),
                        *season_fights(p.text, place),
                    ):
                        yield found_in_brief(
                            kind="fights_reference",
                            title=f"“{said}” against {m.name}, which is {usually}",
                            advice=f"{m.name} is shown {usually}. Choose another variant of it, or change the words.",
                            phrase=p.key,
                            start=start,
                            end=end,
                            words=said,
                            thread=m.id,
                            mend=Mend("cut", "Cut the words"),
                        )

    def _is_anothers(self, words: Words, f: ColourFight, shot: BriefShot) -> bool:
        """Whether what a colour is told of belongs to somebody else by the words."""
        thread = self._by_id.get(f.thread)
        if thread is None or thread.kind == "setting":
            return False
        if is_held(words, f.start, f.end):
            return True
        if (who := wearer(words, f.start, f.end)) is None:
            return False
        others = [t for m in shot.members if m.id != f.thread and (t := self._by_id.get(m.id)) is not None]
        return not may_be(who, thread, others)

    def _costume_fights(self, shot: BriefShot, p: Phrase) -> Iterator[Finding]:
        low = p.text.casefold()
        for m in shot.members:
            thread = self._by_id.get(m.id)
            if thread is None or m.kind != "character":
                continue
            for name, _ in thread.costumes:
                if name and name != m.costume and (at := _word_at(low, name.casefold())) is not None:
                    start, end = at
                    yield found_at(
                        p,
                        start,
                        end,
                        kind="fights_reference",
                        title=f"“{p.text[start:end]}”, but {m.name} is in {m.costume or 'the usual costume'}",
                        advice=f"Put {m.name} into {name} at this shot, or change the words.",
                        thread=m.id,
                        mend=Mend("costume", f"Put {m.name} into {name}", m.id, name),
                    )

    def _words_of(self, m: Member) -> Worded:
        worded = self._worded.get((m.id, m.costume))
        if worded is None:
            thread = self._by_id.get(m.id)
            traits = tuple((n, h) for c, n, h in thread.traits if c == m.costume) if thread else ()
            worded = Worded.of(m, traits)
            self._worded[m.id, m.costume] = worded
        return worded


def _against(p: Phrase, start: int, end: int, m: Member, title: str, advice: str) -> Finding:
    """Words that take something away that somebody has."""
    return found_at(
        p,
        start,
        end,
        kind="fights_reference",
        title=f"“{p.text[start:end]}”, {title}",
        advice=advice,
        thread=m.id,
        mend=Mend("cut", "Cut the words"),
    )


@lru_cache(maxsize=4096)
def _costume_pattern(name: str) -> re.Pattern[str]:
    return re.compile(r"(?<!\w)" + re.escape(name).replace(r"\-", "[- ]?").replace(r"\ ", "[- ]?") + r"(?!\w)")


def _word_at(text: str, word: str) -> tuple[int, int] | None:
    m = _costume_pattern(word).search(text)
    return (m.start(), m.end()) if m else None
