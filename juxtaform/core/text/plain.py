"""A story in a language whose grammar is not read: who it names by capital and repetition, who speaks, what time it is. No rule of English is applied."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence

from juxtaform.core.text.english.sentences import narrated, spans
from juxtaform.core.text.english.tagging import SAID
from juxtaform.core.text.languages import Language
from juxtaform.core.text.manuscript import Manuscript, Passage
from juxtaform.core.text.names import NEW, Mention, Named, Reader, heading_place, titled
from juxtaform.core.text.piece import Line, Piece
from juxtaform.core.text.speech import bare

_CAPITAL = re.compile(r"(?<![\w’'\-])[^\W\d_a-z][\w’'\-]*")
_WORD = re.compile(r"[\w’'\-]+")


class PlainStory:
    """A manuscript read by names alone; `known` are the threads that are there."""

    def __init__(self, manuscript: Manuscript, language: Language, known: Sequence[Named] = ()) -> None:
        self.manuscript, self.language = manuscript, language
        self.told, self._speeches = narrated(manuscript)
        self._scenes = list(manuscript.scenes())
        self.found = self._names(known)
        self._reader = Reader([*known, *self.found])
        self._kinds = {t.id: t.kind for t in (*known, *self.found)}
        self.counts = Counter(m.id for m in self._reader.mentions(self.told))

    def _names(self, known: Sequence[Named]) -> list[Named]:
        """Words with a capital that come back where no sentence begins: in German those without a word before them that a noun has."""
        taken = {w.casefold() for t in known for w in (t.name, *t.aliases)}
        cues = dict.fromkeys(titled(p.name) for p in self.manuscript.passages if p.kind == "character" and p.name)
        inside: Counter[str] = Counter()
        bare: Counter[str] = Counter()
        small = set(re.findall(r"(?<![\w’'])[a-zß-ÿа-я][\w’'\-]*", self.manuscript.text))
        for p in self.manuscript.passages:
            if p.kind not in ("action", "dialogue", "centred", "lyric"):
                continue
            words = self.manuscript.text[p.start : p.end]
            before = earlier = ""
            at = 0
            for m in _WORD.finditer(words):
                gap = words[at : m.start()]
                begins = (
                    at == 0
                    or bool(re.search(r"[.!?…:“”\"«»„—–]\s*$", gap.strip(" ")[-2:] if gap.strip() else ""))
                    or bool(re.search(r"[.!?…]", gap))
                )
                word = re.sub(r"['’]s$", "", m.group())
                before, earlier = ("", "") if begins else (before, earlier)
                if _CAPITAL.match(word) and len(word) > 1 and not word.isupper():
                    inside[word] += not begins
                    if before not in self.language.before_noun and not (
                        earlier in self.language.before_noun and self._describes(before)
                    ):
                        bare[word] += 1
                before, earlier = m.group().casefold(), before
                at = m.end()
        found = [Named(NEW + name, name, (name.upper(),)) for name in cues if name.casefold() not in taken]
        for word, count in inside.items():
            total = len(re.findall(rf"(?<!\w){re.escape(word)}(?!\w)", self.manuscript.text))
            plainly = bare[word] >= 0.7 * total if self.language.nouns_have_capitals else True
            if (
                count >= 1
                and total >= 2
                and plainly
                and word.casefold() not in small
                and word.casefold() not in taken
                and not any(word in f.name.split() for f in found)
            ):
                found.append(Named(NEW + word, word, (word.upper(),)))
        return found

    def _describes(self, word: str) -> bool:
        """Whether a German word before a noun describes it: `kleinen Hund`."""
        return (
            self.language.nouns_have_capitals
            and bool(re.fullmatch(r"[a-zäöüß]{3,}(?:e|en|er|es|em)", word))
            and word not in self.language.saying
        )

    def time(self, words: str) -> str:
        return next(
            (name for pattern, name in self.language.times if re.search(rf"\b(?:{pattern})\b", words, re.IGNORECASE)),
            "",
        )

    def pieces(self, number: int) -> list[Piece]:
        """The sentences and speeches of a scene, with whom they name."""
        heading, passages = self._scenes[number]
        here = self._heading(heading)
        found: list[Piece] = []
        speakers: list[str] = []
        for p in passages:
            if p.kind in ("dialogue", "lyric") and p.name:
                who = next((m.id for m in self._reader.mentions(titled(p.name))), "")
                found.append(
                    Piece(
                        p.start,
                        p.end,
                        p.words,
                        True,
                        True,
                        lines=(Line(who, p.words),),
                        people=(who,) if who and not p.off else (),
                        actors=(who,) if who else (),
                        place=here,
                        dialogue=True,
                        opening="speech",
                    )
                )
            elif p.kind in ("action", "centred", "dialogue", "lyric"):
                found += self._sentences(p, here, speakers)
        return found

    def _heading(self, heading: Passage | None) -> str:
        place = heading_place(heading.words)[0] if heading else ""
        return next((m.id for m in self._reader.mentions(place) if self._kinds[m.id] == "setting"), "") if place else ""

    def _sentences(self, p: Passage, here: str, speakers: list[str]) -> list[Piece]:
        text = self.manuscript.text
        said = self._speeches.get(p.start, [])
        found: list[Piece] = []
        for start, end in spans(text, self.told, p.start, p.end, said):
            inside = [s for s in said if start <= s[0] < end]
            mentions = self._reader.mentions(self.told, start, end)
            people = tuple(dict.fromkeys(m.id for m in mentions if self._kinds[m.id] == "character"))
            lines: tuple[Line, ...] = ()
            if inside:
                who = self._speaker(start, end, mentions) or (people[0] if people else "")
                if not who and len(speakers) > 1 and found and found[-1].speech:
                    who = speakers[-2]
                if who:
                    people = tuple(dict.fromkeys([who, *people]))
                    if not speakers or speakers[-1] != who:
                        speakers.append(who)
                lines = tuple(Line(who, bare(text[a:b]).rstrip(", ")) for a, b in inside)
            told = self.told[start:end].replace(SAID, " ").strip()
            opening = (
                "time"
                if re.match(rf"\W*{self.language.later}", told, re.IGNORECASE) or (self.time(told[:24]) and not inside)
                else "speech"
                if self.told[start : start + 1] == SAID
                else ""
            )
            found.append(
                Piece(
                    start,
                    end,
                    text[start:end],
                    not found,
                    bool(inside),
                    tuple(mentions),
                    lines,
                    people,
                    (here,) if here else (),
                    tuple(dict.fromkeys(m.id for m in mentions if self._kinds[m.id] == "prop")),
                    people,
                    here,
                    opening=opening,
                    dialogue=bool(inside) and len(told.split()) <= 4,
                )
            )
        return found

    def _speaker(self, start: int, end: int, mentions: Sequence[Mention]) -> str:
        """The name beside a verb of saying."""
        people = [m for m in mentions if self._kinds[m.id] == "character"]
        for m in _WORD.finditer(self.told, start, end):
            if m.group().casefold() in self.language.saying:
                near = sorted(people, key=lambda x: min(abs(x.start - m.end()), abs(m.start() - x.end)))
                if near and min(abs(near[0].start - m.end()), abs(m.start() - near[0].end)) <= 24:
                    return near[0].id
        return ""
