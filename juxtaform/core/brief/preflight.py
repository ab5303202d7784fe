"""Preflight: what would go wrong if a shot's brief went out as it is. Every finding names its words and offers a mend."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

from juxtaform.core.brief.compose import Brief, BriefShot, Member, Phrase
from juxtaform.core.brief.contradictions import Worded, colour_fights, missing_features, time_fights, weather_fights
from juxtaform.core.brief.delivery import beside_words, limits
from juxtaform.core.brief.knowledge import Before, State, ThreadWords, found_in_brief
from juxtaform.core.brief.presence import Presence, presence
from juxtaform.core.brief.stylewords import (
    BARE_GROUND,
    FEWEST,
    GROUND_HINTS,
    MEDIA,
    MOST,
    PATTERN,
    PATTERN_HINTS,
    contradictions,
    families_of,
    style_words,
)
from juxtaform.core.brief.trimming import Fitted
from juxtaform.core.findings import Finding, Mend
from juxtaform.core.plan.stills import moments_in, moving_words
from juxtaform.core.text.names import Reader
from juxtaform.core.text.tokens import tokens


@dataclass
class Preflight:
    """The rules over one project's threads; made once, asked for every brief."""

    threads: Sequence[ThreadWords]
    _by_id: dict[str, ThreadWords] = field(init=False)
    _reader: Reader = field(init=False)
    _worded: dict[tuple[str, str], Worded] = field(init=False)
    _kinds: dict[str, str] = field(init=False)

    def __post_init__(self) -> None:
        self._by_id = {t.named.id: t for t in self.threads}
        self._reader = Reader([t.named for t in self.threads if t.kind != "style"])
        self._worded = {}
        self._kinds = {t.named.id: t.kind for t in self.threads}

    def findings(
        self,
        shot: BriefShot,
        brief: Brief,
        before: Before | None = None,
        cut: Fitted | None = None,
        state: State = State(),
    ) -> list[Finding]:
        """Everything to look at in a brief, the words' own first."""
        own = [p for p in brief.phrases if p.kind == "action" and p.text]
        here = presence(self._reader, own, self._kinds, frozenset(m.id for m in shot.members))
        found: list[Finding] = []
        found += _leftover(shot, own, here, before, self._by_id)
        left = {c.thread for c in found if c.thread}
        found += _attached(shot, own, here, self._by_id, left)
        found += self._fights(shot, own)
        found += _style(shot, brief, own)
        found += _patterns(brief)
        found += _stillness(own)
        found += beside_words(shot, state)
        if cut is not None:
            found += limits(shot, cut)
        found += _donts(brief)
        return found

    def _fights(self, shot: BriefShot, own: Sequence[Phrase]) -> Iterator[Finding]:
        worded = [self._words_of(m) for m in shot.members]
        for p in own:
            for f in colour_fights(p.text, worded):
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
                    yield found_in_brief(
                        kind="fights_reference",
                        title=f"“{p.text[start:end]}”, but {m.name} is never without the {kept}",
                        advice=f"Cut the words, or take the {kept} out of what {m.name} always keeps.",
                        phrase=p.key,
                        start=start,
                        end=end,
                        words=p.text[start:end],
                        thread=m.id,
                        mend=Mend("cut", "Cut the words"),
                    )
            for m in shot.members:
                if m.kind == "setting":
                    place = self._words_of(m)
                    for start, end, said, held in (*time_fights(p.text, place), *weather_fights(p.text, place)):
                        yield found_in_brief(
                            kind="fights_reference",
                            title=f"“{said}” against {m.name}, which is {held}",
                            advice=f"{m.name} is shown {held}. Choose another variant of it, or change the words.",
                            phrase=p.key,
                            start=start,
                            end=end,
                            words=said,
                            thread=m.id,
                            mend=Mend("cut", "Cut the words"),
                        )

    def _costume_fights(self, shot: BriefShot, p: Phrase) -> Iterator[Finding]:
        low = p.text.casefold()
        for m in shot.members:
            held = self._by_id.get(m.id)
            if held is None or m.kind != "character":
                continue
            for name, _ in held.costumes:
                if name and name != m.costume and (at := _word_at(low, name.casefold())) is not None:
                    start, end = at
                    yield found_in_brief(
                        kind="fights_reference",
                        title=f"“{p.text[start:end]}”, but {m.name} is in {m.costume or 'the usual costume'}",
                        advice=f"Put {m.name} into {name} at this shot, or change the words.",
                        phrase=p.key,
                        start=start,
                        end=end,
                        words=p.text[start:end],
                        thread=m.id,
                        mend=Mend("costume", f"Put {m.name} into {name}", m.id, name),
                    )

    def _words_of(self, m: Member) -> Worded:
        held = self._worded.get((m.id, m.costume))
        if held is None:
            thread = self._by_id.get(m.id)
            traits = tuple((n, h) for c, n, h in thread.traits if c == m.costume) if thread else ()
            held = Worded.of(m, traits)
            self._worded[m.id, m.costume] = held
        return held


def _leftover(
    shot: BriefShot, own: Sequence[Phrase], here: Presence, before: Before | None, by_id: dict[str, ThreadWords]
) -> Iterator[Finding]:
    attached = {m.id for m in shot.members}
    settings = {m.id for m in shot.members if m.kind == "setting"}
    for p in own:
        for m in BARE_GROUND.finditer(p.text) if settings and not tokens(p.text).isdisjoint(GROUND_HINTS) else ():
            place = next(x.name for x in shot.members if x.kind == "setting")
            yield found_in_brief(
                kind="leftover",
                title=f"“{m.group()}” in {place}",
                advice="Such words belong to a reference picture, not to a scene. Cut them.",
                phrase=p.key,
                start=m.start(),
                end=m.end(),
                words=m.group(),
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
            yield found_in_brief(
                kind="leftover",
                title="The same words as in the shot before",
                advice="Say what this picture shows, or merge the two shots.",
                phrase=p.key,
                start=0,
                end=len(p.text),
                words=p.text,
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
                yield found_in_brief(
                    kind="leftover",
                    title=f"“{p.text[start:end]}” stood in the shot before",
                    advice=f"{why} Cut the words, or attach it.",
                    phrase=p.key,
                    start=start,
                    end=end,
                    words=p.text[start:end],
                    thread=gone,
                    mend=Mend("cut", "Cut the words"),
                )


def _attached(
    shot: BriefShot, own: Sequence[Phrase], here: Presence, by_id: dict[str, ThreadWords], told: set[str]
) -> Iterator[Finding]:
    attached = {m.id: m for m in shot.members}
    has_setting = any(m.kind == "setting" for m in shot.members)
    for thread in here.seen:
        if thread in attached or thread in told:
            continue
        key, start, end = here.spans[thread][0]
        words = next(p for p in own if p.key == key).text[start:end]
        name, kind = by_id[thread].named.name, by_id[thread].kind
        if kind == "setting" and has_setting:
            place = next(m for m in shot.members if m.kind == "setting")
            yield found_in_brief(
                kind="fights_reference",
                title=f"“{words}”, but the setting is {place.name}",
                advice=f"Set {name} here, or change the words.",
                phrase=key,
                start=start,
                end=end,
                words=words,
                thread=thread,
                mend=Mend("attach", f"Set {name} here", thread),
            )
            continue
        yield found_in_brief(
            kind="named_not_attached",
            title=f"{name} is named, but not attached",
            advice=f"Attach {name}, or take the name out of the words.",
            phrase=key,
            start=start,
            end=end,
            words=words,
            thread=thread,
            mend=Mend("attach", f"Attach {name}", thread),
        )
    if not own:
        return
    owners = {m.id for m in shot.members}
    for m in here.unspoken([m for m in shot.members if m.kind == "character"]):
        span = here.spans[m.id][0] if m.id in here.spans else ("", 0, 0)
        words = next((p.text[span[1] : span[2]] for p in own if p.key == span[0]), "")
        title = f"The words leave {m.name} out" if words else f"{m.name} is attached, but the words do not name them"
        yield found_in_brief(
            kind="attached_not_named",
            title=title,
            advice=f"Name {m.name}, or clear {m.name} from this shot.",
            phrase=span[0],
            start=span[1],
            end=span[2],
            words=words,
            thread=m.id,
            mend=Mend("clear", f"Clear {m.name}", m.id),
        )
    for m in shot.members:
        if m.kind == "prop" and m.id not in here.named and m.owner not in owners and not here.speaks_of(m):
            yield found_in_brief(
                kind="attached_not_named",
                title=f"{m.name} is attached, but the words do not name it",
                advice="Name it, say whose it is on its model sheet, or clear it from this shot.",
                thread=m.id,
                mend=Mend("clear", f"Clear {m.name}", m.id),
            )


def _style(shot: BriefShot, brief: Brief, own: Sequence[Phrase]) -> Iterator[Finding]:
    style = shot.style
    said = [(p, start, end, family) for p in own for start, end, family in style_words(p.text)]
    if style is None:
        if not said:
            yield found_in_brief(
                kind="style_words",
                title="No style",
                advice="Attach a style, or say in a few words how the picture is made.",
            )
        families = tuple(dict.fromkeys(f for *_, f in said))
        for a, b in contradictions(families):
            p, start, end, _ = next(s for s in said if s[3] == b)
            yield found_in_brief(
                kind="style_words",
                title=f"{a} against {b}",
                advice="Both cannot hold in one picture. Keep one.",
                phrase=p.key,
                start=start,
                end=end,
                words=p.text[start:end],
                mend=Mend("cut", "Cut the words"),
            )
        return
    words = [p for p in brief.phrases if p.key in (f"style:{style.id}", f"words:{style.id}")]
    families = families_of(" ".join(p.text for p in words))
    if not style.vocabulary and not style.pictures and len(families) < FEWEST:
        yield found_in_brief(
            kind="style_words",
            title=f"{style.name} has no words and no pictures",
            advice="Give the style a few words or pictures.",
            thread=style.id,
            shared=True,
        )
    for a, b in contradictions(families):
        yield found_in_brief(
            kind="style_words",
            title=f"{style.name} is {a} and {b}",
            advice="Both cannot hold in one picture. Keep one on the style’s sheet.",
            phrase=words[-1].key if words else "",
            thread=style.id,
            shared=True,
            words=f"{a}, {b}",
        )
    if len(style.vocabulary) > MOST:
        yield found_in_brief(
            kind="style_words",
            title=f"{len(style.vocabulary)} words of style",
            advice=f"More than {MOST} pull apart. Keep those that pictures cannot say.",
            phrase=words[-1].key if words else "",
            thread=style.id,
            shared=True,
        )
    for p, start, end, family in said:
        against = [f for f in families if contradictions((f, family))]
        if (family in MEDIA and family not in families) or against:
            yield found_in_brief(
                kind="fights_reference",
                title=f"“{p.text[start:end]}” against {style.name}",
                advice="The style is another. Cut the words, or give this shot another style.",
                phrase=p.key,
                start=start,
                end=end,
                words=p.text[start:end],
                thread=style.id,
                mend=Mend("cut", "Cut the words"),
            )


def _patterns(brief: Brief) -> Iterator[Finding]:
    for p in brief.phrases:
        if p.kind not in ("action", "cast", "prop", "setting") or p.key.startswith("hold"):
            continue
        for start, end in _pattern_spans(p.text):
            yield found_in_brief(
                kind="pattern",
                title=f"“{p.text[start:end]}” comes out differently in every picture",
                advice="A plain cloth keeps. Or hold the outfit by a reference, and let it stand.",
                phrase=p.key,
                start=start,
                end=end,
                words=p.text[start:end],
                thread=p.thread,
                shared=p.kind != "action",
            )


@lru_cache(maxsize=8192)
def _pattern_spans(text: str) -> tuple[tuple[int, int], ...]:
    if tokens(text).isdisjoint(PATTERN_HINTS):
        return ()
    return tuple((m.start(), m.end()) for m in PATTERN.finditer(text))


def _stillness(own: Sequence[Phrase]) -> Iterator[Finding]:
    for p in own:
        for m in moving_words(p.text):
            yield found_in_brief(
                kind="motion",
                title=f"“{m.words}” moves",
                advice="A still cannot show it. It belongs in the motion note.",
                phrase=p.key,
                start=m.start,
                end=m.end,
                words=m.words,
                mend=Mend("to_motion", "Move it to the motion note"),
            )
        if (count := moments_in(p.text)) > 1:
            yield found_in_brief(
                kind="moments",
                title=f"{count} moments in one picture",
                advice="Keep the one that the picture shows, or split the shot.",
                phrase=p.key,
                start=0,
                end=len(p.text),
                words=p.text,
            )


_NOT_DESCRIBING = frozenset({"dont", "palette", "technical", "framing"})


def _donts(brief: Brief) -> Iterator[Finding]:
    told = next((p for p in brief.phrases if p.key == "donts"), None)
    if told is None:
        return
    texts = [p for p in brief.phrases if p.text and p.kind not in _NOT_DESCRIBING and not p.key.startswith("hold")]
    for pattern, word, stem in _dont_patterns(told.items):
        for p in texts:
            if stem not in p.text.casefold():
                continue
            for m in pattern.finditer(p.text):
                yield found_in_brief(
                    kind="dont",
                    title=f"“{m.group(1)}” is a don’t",
                    advice=f"“{word}” stands among the don’ts. Cut the word, or the don’t.",
                    phrase=p.key,
                    start=m.start(1),
                    end=m.end(1),
                    words=m.group(1),
                    thread=p.thread,
                    shared=p.kind != "action",
                    mend=Mend("cut", "Cut the word") if p.kind == "action" else None,
                )


@lru_cache(maxsize=512)
def _dont_patterns(words: tuple[str, ...]) -> tuple[tuple[re.Pattern[str], str, str], ...]:
    out = []
    for w in words:
        plain = re.sub(r"^(?:no|without|never|not)\s+", "", w.strip(), flags=re.IGNORECASE)
        stem = re.sub(r"(?<=\w{3})s$", "", plain)
        if stem:
            spelled = re.escape(stem).replace(r"\ ", r"[\s-]+")
            out.append(
                (
                    re.compile(
                        rf"(?<!\w)(?<!no )(?<!without )(?<!not )(?<!without a )(?<!without any )({spelled}(?:s|(?<=[sxzh])es)?)(?![\w-])",
                        re.IGNORECASE,
                    ),
                    plain,
                    stem.casefold().split()[0].split("-")[0],
                )
            )
    return tuple(out)


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


@lru_cache(maxsize=4096)
def _costume_pattern(name: str) -> re.Pattern[str]:
    return re.compile(r"(?<!\w)" + re.escape(name).replace(r"\-", "[- ]?").replace(r"\ ", "[- ]?") + r"(?!\w)")


def _word_at(text: str, word: str) -> tuple[int, int] | None:
    m = _costume_pattern(word).search(text)
    return (m.start(), m.end()) if m else None
