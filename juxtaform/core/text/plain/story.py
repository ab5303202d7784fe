"""A story in another language than English: who it names, who speaks, whom its pronouns mean, what time it is. No rule of English is applied."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import replace
from typing import cast

from juxtaform.core.text.english.sentences import narrated, spans
from juxtaform.core.text.english.tagging import SAID
from juxtaform.core.text.languages import Language, Sex
from juxtaform.core.text.manuscript import READ, Manuscript, Passage
from juxtaform.core.text.names import NEW, Mention, Named, Reader, addressed_in, heading_place, titled
from juxtaform.core.text.piece import Line, Piece
from juxtaform.core.text.plain.asides import parted
from juxtaform.core.text.plain.beings import Beings
from juxtaform.core.text.plain.words import Word, noun_at, saying_at, words_of
from juxtaform.core.text.speech import bare

_REMEMBERED = 6
"""So many of those told of last may be meant by a pronoun, or answer."""


class PlainStory:
    """A manuscript read by small words and names; `known` are the threads that are there."""

    def __init__(self, manuscript: Manuscript, language: Language, known: Sequence[Named] = ()) -> None:
        self.manuscript, self.language = manuscript, language
        self.told, self._speeches = narrated(manuscript)
        if language.says_inside_speech:
            self._part_asides()
        self._scenes = list(manuscript.scenes())
        self._words = {
            p.start: words_of(self.told, p.start, p.end, language)
            for p in manuscript.passages
            if p.kind in READ and not p.name
        }
        beings = Beings(language, known)
        for p in manuscript.passages:
            if p.kind == "character" and p.name:
                beings.cue(p.name)
        for words in self._words.values():
            beings.read(words)
        made = beings.found()
        self.found = [*(b.named for b in made), *self._places(known)]
        self._sexes = {b.named.id: b.sex for b in made} | {t.id: beings.sex_of(t) for t in known}
        self._reader = Reader([*known, *self.found])
        self._kinds = {t.id: t.kind for t in (*known, *self.found)}
        self.counts = Counter(m.id for m in self._mentions(0, len(self.told)))
        self._with_nouns = {b.named.id for b in made if b.nouns}
        self._recent: list[str] = []
        self._last: Piece | None = None
        self._learn_sexes(known)

    def _part_asides(self) -> None:
        assert self.language.grammar is not None
        out = list(self.told)
        text = self.manuscript.text
        for at, speeches in self._speeches.items():
            kept = []
            for a, b in speeches:
                own = list(parted(text, a, b, self.language.grammar))
                if own != [(a, b)]:
                    out[a:b] = text[a:b]
                    for x, y in own:
                        out[x:y] = SAID + " " * (y - x - 1)
                kept += own
            self._speeches[at] = kept
        self.told = "".join(out)

    def _places(self, known: Sequence[Named]) -> list[Named]:
        """The places that headings in the form of a script name."""
        taken = {w.casefold() for t in known for w in (t.name, *t.aliases)}
        headings = (heading_place(h.words) for h, _ in self._scenes if h)
        names = dict.fromkeys(place for place, _, script in headings if script and place)
        return [Named(NEW + n, n, (), "setting") for n in names if n.casefold() not in taken]

    def _mentions(self, start: int, end: int) -> list[Mention]:
        return self._reader.mentions(self.told, start, end, judge=lambda a, b: True)

    def pieces(self, number: int) -> list[Piece]:
        """The sentences and speeches of a scene, with whom they name."""
        heading, passages = self._scenes[number]
        here = self._heading(heading)
        found: list[Piece] = []
        self._recent, self._last = [], None
        for p in passages:
            if p.kind in ("dialogue", "lyric") and p.name:
                found.append(self._cued(p, here))
            elif p.kind in READ:
                found += self._sentences(p, here)
        return [replace(x, new_place=bool(here)) if i == 0 else x for i, x in enumerate(found)]

    def _cued(self, p: Passage, here: str) -> Piece:
        who = next((m.id for m in self._reader.mentions(titled(p.name), judge=lambda a, b: True)), "")
        if who:
            self._remember(who)
        return Piece(
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

    def _heading(self, heading: Passage | None) -> str:
        place, _, script = heading_place(heading.words) if heading else ("", "", False)
        if not place and heading and not script:
            place = heading.words
        return next(
            (m.id for m in self._reader.mentions(place, judge=lambda a, b: True) if self._kinds[m.id] == "setting"), ""
        )

    def _remember(self, who: str) -> None:
        self._recent = [who, *(x for x in self._recent if x != who)][:_REMEMBERED]

    def _sentences(self, p: Passage, here: str) -> list[Piece]:
        said = self._speeches.get(p.start, [])
        words = self._words[p.start]
        begins, spoken = [w.start for w in words], [a for a, _ in said]
        found: list[Piece] = []
        grammar = self.language.grammar
        shortened = grammar.abbreviations if grammar else frozenset()
        for start, end in spans(self.manuscript.text, self.told, p.start, p.end, said, shortened):
            inside = said[bisect_left(spoken, start) : bisect_left(spoken, end)]
            self._last = self._sentence(
                start, end, words[bisect_left(begins, start) : bisect_left(begins, end)], inside, here, not found
            )
            found.append(self._last)
        return found

    def _sentence(
        self, start: int, end: int, words: Sequence[Word], said: Sequence[tuple[int, int]], here: str, first: bool
    ) -> Piece:
        text = self.manuscript.text
        mentions = self._mentions(start, end)
        people = [m.id for m in mentions if self._kinds[m.id] == "character"]
        meant = self._pronoun(words, mentions)
        lines: tuple[Line, ...] = ()
        if said:
            who = self._speaker(words, mentions, " ".join(text[a:b] for a, b in said), first)
            people = [who, *people] if who else people
            lines = tuple(Line(who, bare(text[a:b]).lstrip(".,;: ").rstrip(", ")) for a, b in said)
        elif meant:
            mentions = sorted([*mentions, *meant], key=lambda m: m.start)
            people = [m.id for m in mentions if self._kinds[m.id] == "character"]
        elif not people and re.match(self.language.acts_unnamed, self.told[start:end].lstrip(), re.IGNORECASE):
            people = self._recent[:1]
        seen = tuple(dict.fromkeys(people))
        for one in reversed(seen):
            self._remember(one)
        told = self.told[start:end].replace(SAID, " ").strip()
        return Piece(
            start,
            end,
            text[start:end],
            first,
            bool(said),
            tuple(mentions),
            lines,
            seen,
            (here,) if here else (),
            tuple(dict.fromkeys(m.id for m in mentions if self._kinds[m.id] == "prop")),
            seen,
            here,
            opening=self._opening(start, told, words, mentions, bool(said)),
            dialogue=bool(said) and len(told.split()) <= 4,
            exists=bool(re.match(rf"\W*(?:{self.language.exists})", told, re.IGNORECASE)),
            nouns=frozenset(
                words[j].low for i in range(len(words)) if (j := noun_at(words, i, self.language)) is not None
            ),
        )

    def _opening(self, start: int, told: str, words: Sequence[Word], mentions: Sequence[Mention], speaks: bool) -> str:
        grammar = self.language.grammar
        if self.told[start : start + 1] == SAID:
            return "speech"
        if re.match(rf"\W*(?:{self.language.later})", told, re.IGNORECASE) or (
            self.language.time(told[:24]) and not speaks
        ):
            return "time"
        if grammar is None or not words:
            return ""
        if words[0].low in grammar.turns:
            return grammar.turns[words[0].low]
        if mentions and mentions[0].start == words[0].start:
            return "pronoun" if mentions[0].pronoun else "name"
        return "noun" if noun_at(words, 0, self.language) is not None else ""

    def _pronoun(self, words: Sequence[Word], mentions: Sequence[Mention]) -> list[Mention]:
        """Whom the first pronoun of a sentence means, where nobody is named before it: who was told of last, of those whom it can mean; several of them where it means several."""
        grammar = self.language.grammar
        if grammar is None:
            return []
        for i, w in enumerate(words):
            sex = grammar.pronouns.get(w.low)
            if not sex or w.low in grammar.determiners or self._impersonal(w):
                continue
            if any(m.start < w.start and self._kinds[m.id] == "character" for m in mentions):
                return []
            if self._several(words, i):
                return [Mention(x, w.start, w.end, True) for x in self._recent[:2]]
            who = self._meant_by(sex)
            return [Mention(who, w.start, w.end, True)] if who else []
        return []

    def _several(self, words: Sequence[Word], i: int) -> bool:
        """Whether a pronoun means several: by itself, or by the deed beside it."""
        assert self.language.grammar is not None
        if self.language.grammar.pronouns[words[i].low] == "they":
            return True
        pronoun, end = self.language.means_several
        if words[i].low != pronoun:
            return False
        near = [*(words[i - 1 : i] if not words[i].begins else ()), *words[i + 1 : i + 2]]
        deed = next((w for w in near if not w.capital and w.low not in self.language.grammar.closed), None)
        return deed is not None and deed.low.endswith(end)

    def _impersonal(self, w: Word) -> bool:
        return bool(re.match(self.language.impersonal, self.told[w.start : w.start + 24], re.IGNORECASE))

    def _can_be(self, who: str, sex: str) -> bool:
        return sex == "they" or self._sexes.get(who, "") in (sex, "")

    def _meant_by(self, sex: str) -> str:
        """Who was told of last, of those who are known to be meant by such a pronoun; else of those who may be."""
        sure = (x for x in self._recent if sex == self._sexes.get(x))
        return next(sure, "") or next((x for x in self._recent if self._can_be(x, sex)), "")

    def _speaker(self, words: Sequence[Word], mentions: Sequence[Mention], spoken: str, first: bool) -> str:
        """Who says what is said in a sentence: whom a tag behind it names or means, who does something before it, else who answers."""
        people = [m for m in mentions if self._kinds[m.id] == "character"]
        for i, w in enumerate(words):
            behind = SAID in w.gap or (i == 0 and SAID in self.told[max(0, w.start - 1) : w.start])
            tag = saying_at(words, i, self.language, behind_speech=True) if behind else None
            if (
                tag is None
                and not behind
                and self.language.grammar
                and w.low.split("-")[0] in self.language.grammar.saying
            ):
                tag = saying_at(words, i, self.language, behind_speech=False)
                earlier = [m for m in people if m.end <= w.start]
                if earlier:
                    return earlier[-1].id
            if tag is None:
                continue
            a, b = words[tag.first].start, words[tag.last].end
            named = next((m.id for m in people if m.start < b and a < m.end), "")
            if named:
                return named
            if tag.pronoun:
                return self._meant_by(tag.pronoun)
            noun = noun_at(words, tag.first, self.language)
            if noun is not None:
                return self._of_noun(words[tag.first])
            return people[0].id if people else next(iter(self._recent), "")
        if people:
            return people[0].id
        return self._answerer(spoken, first)

    def _of_noun(self, article: Word) -> str:
        """Who is meant by a noun that is nobody's: of those told of last the first whom its article can mean, rather one whom no noun means yet."""
        grammar = self.language.grammar
        assert grammar is not None
        sex = next((s for s, articles in grammar.sexes.items() if article.low in articles), "")
        could = [x for x in self._recent if not sex or self._can_be(x, sex)]
        return next((x for x in could if x not in self._with_nouns), could[0] if could else "")

    def _answerer(self, spoken: str, first: bool) -> str:
        """Who speaks where nothing tells it: who spoke just before in the same paragraph, else by turns the other one."""
        addressed = set(addressed_in(bare(spoken), self._reader))
        last = self._last
        spoke = last.lines[-1].speaker if last and last.lines else ""
        if spoke and last and not first and self.told[last.start : last.end].replace(SAID, "").strip():
            return spoke
        return next((x for x in self._recent if x != spoke and x not in addressed), "")

    def _learn_sexes(self, known: Sequence[Named]) -> None:
        """Who is meant by which pronoun, of those of whom no title or article tells it: what most pronouns say behind their names."""
        grammar = self.language.grammar
        if grammar is None:
            return
        votes: defaultdict[str, Counter[str]] = defaultdict(Counter)
        for words in self._words.values():
            if not words:
                continue
            mentions = iter(self._mentions(words[0].start, words[-1].end))
            coming, last = next(mentions, None), ""
            for w in words:
                while coming and coming.start <= w.start:
                    last = coming.id if self._kinds[coming.id] == "character" else last
                    coming = next(mentions, None)
                sex = grammar.pronouns.get(w.low.split("-")[-1])
                if sex and sex != "they" and last and not self._sexes.get(last) and not self._impersonal(w):
                    votes[last][sex] += 1
        for who, said in votes.items():
            (most, n), *others = said.most_common(2)
            if not others or n > others[0][1]:
                self._sexes[who] = cast(Sex, most)
        for t in (*known, *self.found):
            if not self._sexes.get(t.id) and t.kind == "character":
                self._sexes[t.id] = next((sex for end, sex in self.language.endings if t.name.endswith(end)), "")
