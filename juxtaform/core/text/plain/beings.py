"""Who a story has, by the closed classes of its language: names with their titles, whom a word of naming names, and who speaks without a name."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.tagging import SAID
from juxtaform.core.text.languages import Language, Sex
from juxtaform.core.text.names import NEW, Named, name_words, titled
from juxtaform.core.text.plain.words import Tag, Word, noun_at, runs_of_names, saying_at

_MOSTLY = 0.7
_PRONOUNS = {"f": "she", "m": "he"}
_NEAR = 25
"""So many words before a pronoun that is named somebody was told of: `Una oveja entró. Se llamaba …`."""


@dataclass(frozen=True)
class Being:
    """Somebody whom the text has and no thread yet, with the pronoun that means them."""

    named: Named
    sex: Sex
    nouns: frozenset[str] = frozenset()
    """The nouns by which the text calls them beside their name, or alone."""


@dataclass
class _Name:
    inside: int = 0
    leads: int = 0
    """How often it begins a sentence that goes on with no small word: as who does something."""
    bare: int = 0
    towards: int = 0
    proper: bool = False
    """Whether a title, a cue or a word of naming told that it is somebody's."""
    calls: Counter[str] = field(default_factory=Counter)
    """What stands before it: titles and ranks as the text writes them."""
    apposed: set[str] = field(default_factory=set)
    """Nouns with a capital before it: whose name it is where it stands elsewhere too."""
    nouns: set[str] = field(default_factory=set)
    sexes: Counter[str] = field(default_factory=Counter)


@dataclass
class _Noun:
    phrases: int = 0
    introduced: bool = False
    says: int = 0
    acts: int = 0
    sexes: Counter[str] = field(default_factory=Counter)


class Beings:
    """Goes through the words once, passage by passage, and tells then whom they name."""

    def __init__(self, language: Language, known: Sequence[Named] = ()) -> None:
        self.language = language
        self.grammar = language.grammar
        self.known = {w.lower() for t in known for w in (t.name, *t.aliases, *name_words([t.name]))}
        self.names: defaultdict[str, _Name] = defaultdict(_Name)
        self.nouns: defaultdict[str, _Noun] = defaultdict(_Noun)
        self.written: Counter[str] = Counter()
        self._cues: dict[str, str] = {}

    def cue(self, words: str) -> None:
        """A speaker's name as a script writes it."""
        first, *rest = words.lower().split()
        if self.grammar and rest and first in self.grammar.determiners:
            words = words[len(first) :].strip()
        name = titled(words)
        self._cues[words.upper()] = name
        core = self._core(name.split())
        self.names[core].proper = True
        self._called(core, name.split()[: -len(core.split())])

    def read(self, words: Sequence[Word]) -> None:
        """One passage of narration."""
        self.written.update(w.text for w in words)
        for first, last in runs_of_names(words, self.language):
            self._run(words, first, last)
        if self.grammar is None:
            return
        for i in range(len(words)):
            self._phrase(words, i)
            self._naming(words, i)
            self._saying(words, i)

    def _core(self, run: list[str]) -> str:
        """A run of names without the titles that open it."""
        g = self.grammar
        i = 0
        while g and i < len(run) - 1 and (run[i].lower() in g.titles or run[i].lower() in g.ranks):
            i += 1
        return " ".join(run[i:])

    def _run(self, words: Sequence[Word], first: int, last: int) -> None:
        if any(w.text.isupper() and len(w.text) > 1 for w in words[first : last + 1]):
            return
        run = [_unowned(w.text) for w in words[first : last + 1]]
        core = self._core(run)
        calls = run[: len(run) - len(core.split())]
        g, before = self.grammar, words[first - 1] if first and not words[first].begins else None
        if (
            g
            and self.language.nouns_have_capitals
            and not calls
            and len(run) > 1
            and (article := self._article_of(words, first))
        ):
            if article not in g.the | g.owning:
                return  # `zwei Tassen Tee`
            core = run[-1]  # `der Polizist Kruse`
            self.names[core].apposed.update(run[:-1])
            self._sexed(self.names[core], article)
        name = self.names[core]
        name.inside += not words[first].begins
        name.leads += words[first].begins and self._deed_follows(words, last)
        name.proper |= bool(calls)
        self._called(core, calls)
        if g is None or before is None or words[first].gap.strip():
            name.bare += 1
            return
        if before.low in g.titles or before.low in g.ranks:
            name.proper = True
            self._called(core, [before.text])
        elif (
            not self.language.nouns_have_capitals
            and first >= 2
            and noun_at(words, first - 2, self.language) == first - 1
        ):
            name.proper = True  # `le jardinier Firmin`
            name.nouns.add(before.low)
        name.towards += before.low in g.towards
        name.bare += core != " ".join(run) or not self._article_of(words, first)

    def _deed_follows(self, words: Sequence[Word], last: int) -> bool:
        after = words[last + 1] if last + 1 < len(words) else None
        known = self.grammar.closed if self.grammar else frozenset()
        return after is not None and after.gap == " " and not after.capital and after.low not in known

    def _article_of(self, words: Sequence[Word], i: int) -> str:
        """The article or the like before a German word with a capital, and before what describes it; empty where there is none."""
        g = self.grammar
        if g is None or words[i].begins or not i:
            return ""
        if words[i - 1].low in g.determiners:
            return words[i - 1].low
        described = i > 1 and not words[i - 1].begins and noun_at(words, i - 2, self.language) == i
        return words[i - 2].low if described else ""

    def _called(self, core: str, calls: Iterable[str]) -> None:
        g = self.grammar
        name = self.names[core]
        for call in calls:
            low = call.lower()
            name.calls[call] += 1
            if g:
                name.sexes[g.titles.get(low) or g.ranks.get(low, "")] += 1
                name.nouns.add(call if self.language.nouns_have_capitals else low)

    def _phrase(self, words: Sequence[Word], i: int) -> None:
        at = noun_at(words, i, self.language)
        if at is None or self._before_name(words, at):
            return
        noun = self.nouns[self._spelled(words[at])]
        noun.phrases += 1
        self._sexed(noun, words[i].low)
        g = self.grammar
        assert g is not None
        noun.introduced |= words[i].low in g.a | g.owning | g.counting
        noun.acts += words[i].begins and words[i].low in g.the | g.owning | g.a

    def _before_name(self, words: Sequence[Word], noun: int) -> bool:
        """Whether a noun stands right before a name: `la señorita Olmo`."""
        after = words[noun + 1] if noun + 1 < len(words) else None
        return after is not None and after.capital and not after.begins and not after.gap.strip()

    def _spelled(self, word: Word) -> str:
        return word.text if self.language.nouns_have_capitals else word.low

    def _sexed(self, told: _Name | _Noun, article: str) -> None:
        g = self.grammar
        assert g is not None
        for sex, articles in g.sexes.items():
            told.sexes[sex] += article in articles
        told.sexes["it"] += self.language.nouns_have_capitals and article == "das"

    def _naming(self, words: Sequence[Word], i: int) -> None:
        """`namens Fritzi`, `qui s'appelait Gaston`, `Se llamaba Anselmo`; `Inés, la sastra`, `le chat, Pompon,`."""
        g = self.grammar
        assert g is not None
        w = words[i]
        named = next(
            (j for j in (i + 1, i - 1) if 0 < j < len(words) and words[j].capital and not words[max(i, j)].begins), None
        )
        if w.low in g.named and named is not None:
            core = _unowned(words[named].text)
            after = words[named + 1] if named > i and named + 1 < len(words) else None
            if core.lower() in g.titles.keys() | g.ranks.keys() and after and after.capital and after.gap == " ":
                title, core = core, _unowned(after.text)  # `Die Ziege hieß Frau Petersen`
                self._called(core, [title])
            self.names[core].proper = True
            sex = next((g.pronouns[x.low] for x in words[max(0, i - 2) : i] if x.low in g.pronouns), "")
            self.names[core].sexes[sex] += 2
            if (noun := self._told_of(words, min(i, named), sex)) is not None:
                self.names[core].nouns.add(noun)
        if (w.capital and not w.begins) or (w.capital and w.low not in g.closed):
            core = _unowned(w.text)
            behind = i + 1 < len(words) and words[i + 1].gap == ", " and noun_at(words, i + 1, self.language)
            if behind and words[i + 1].low in (g.the | g.owning) - g.contracted and not self._article_of(words, i):
                self._apposed(core, words, behind)
            if (
                not self.language.nouns_have_capitals
                and w.gap == ", "
                and i >= 2
                and noun_at(words, i - 2, self.language) == i - 1
                and i + 1 < len(words)
                and words[i + 1].gap.startswith(",")
            ):
                self.names[core].nouns.add(words[i - 1].low)

    def _apposed(self, core: str, words: Sequence[Word], noun: int) -> None:
        g = self.grammar
        assert g is not None
        after = words[noun + 1] if noun + 1 < len(words) else None
        lists = after is not None and (after.capital or after.low in g.determiners or g.turns.get(after.low) == "and")
        closes = after is None or after.begins or after.gap.startswith(",") or after.low in g.towards | g.particles
        if closes and (after is None or after.begins or not lists):
            self.names[core].nouns.add(self._spelled(words[noun]))
            self.names[core].proper = True

    def _told_of(self, words: Sequence[Word], i: int, sex: str) -> str | None:
        """Of whom a naming at `i` tells: the noun in its own sentence, else who was told of first in the one before."""
        begin = i
        while begin and not words[begin].begins:
            begin -= 1
        nouns = [j for k in range(begin, i) if (j := noun_at(words, k, self.language)) is not None and j < i]
        if nouns:
            return self._spelled(words[nouns[-1]])
        g = self.grammar
        assert g is not None
        earlier = begin - 1
        while earlier > 0 and not words[earlier].begins:
            earlier -= 1
        for k in range(max(0, earlier, i - _NEAR), begin):
            other = sex and any(words[k].low in articles for s, articles in g.sexes.items() if s != sex)
            if words[k].low in g.a and not other and (j := noun_at(words, k, self.language)) is not None:
                told = f"{words[k].low} {words[j].low}"
                if not self.language.time(told) and not re.match(self.language.later, told, re.IGNORECASE):
                    return self._spelled(words[j])
        return None

    def _saying(self, words: Sequence[Word], i: int) -> None:
        g = self.grammar
        tag = self._tag(words, i)
        if g is None or tag is None or tag.pronoun:
            return
        noun = noun_at(words, tag.first, self.language)
        if noun == tag.last and noun is not None and not self._before_name(words, noun):
            self.nouns[self._spelled(words[noun])].says += 1
        elif words[tag.last].capital and words[tag.last].low not in g.titles.keys() | g.ranks.keys():
            self.names[_unowned(words[tag.last].text)].proper |= words[tag.last].low not in g.closed

    def _tag(self, words: Sequence[Word], i: int) -> Tag | None:
        return saying_at(words, i, self.language) if SAID in words[i].gap else None

    def found(self) -> list[Being]:
        """Those whom the text has and no thread: names first."""
        joined = self._joined()
        meant = Counter(noun for name in joined.values() for noun in name.nouns)
        made = [b for core, name in joined.items() if (b := self._named(core, name, meant)) is not None]
        taken = {a for b in made for a in (b.named.name, *b.named.aliases)} | meant.keys()
        return made + [
            b for noun, told in self.nouns.items() if noun not in taken and (b := self._unnamed(noun, told)) is not None
        ]

    def sex_of(self, known: Named) -> Sex:
        """By which pronoun somebody is meant who is a thread already, as their titles and articles tell."""
        told = self.names.get(self._core(known.name.split()))
        return _likeliest(told.sexes) if told else ""

    def _joined(self) -> dict[str, _Name]:
        """Names, with those that are a part of one longer name counted to it."""
        joined = dict(self.names)
        longer: defaultdict[str, list[str]] = defaultdict(list)
        for name in joined:
            for part in set(name.split()) if " " in name else ():
                longer[part].append(name)
        for core in [n for n in joined if " " not in n]:
            whole = longer[core]
            if len(whole) == 1 and (joined[core].inside or joined[core].proper):
                into, own = joined[whole[0]], joined.pop(core)
                into.inside, into.bare, into.proper = (
                    into.inside + own.inside,
                    into.bare + own.bare,
                    into.proper or own.proper,
                )
                into.calls, into.sexes = into.calls + own.calls, into.sexes + own.sexes
                into.nouns |= own.nouns
        for core, told in joined.items():
            if self.written[core] > 1:
                told.nouns |= told.apposed
        return joined

    def _named(self, core: str, name: _Name, meant: Mapping[str, int]) -> Being | None:
        parts = core.split()
        low = core.lower()
        g = self.grammar
        if low in self.known or any(p.lower() in self.known for p in parts) or (g and low in g.closed):
            return None
        cue = core.upper() in self._cues or any(c.split()[-1] == core.upper() for c in self._cues)
        count = max(self.written[p] for p in parts)
        if not cue:
            lower = self.written[low] > 0 or (
                len(parts) == 1 and core in self.nouns and self.nouns[core].phrases > 0.5 * count
            )
            if lower and not (name.proper and self.written[low] == 0):
                return None
            often = count >= 2 and (name.inside >= 1 or (g is not None and name.leads >= 2))
            plainly = not self.language.nouns_have_capitals or name.bare >= _MOSTLY * count
            far = name.towards >= _MOSTLY * max(1, name.inside)
            first_name = self._is_first_name(parts[0], name) and plainly
            if not (name.proper or (often and plainly) or first_name) or (far and not name.calls):
                return None
        call = name.calls.most_common(1)[0][0] if name.calls else ""
        whole = f"{call[:1].upper()}{call[1:]} {core}" if call else core
        aliases = [core, *(parts if len(parts) > 1 and not g else ()), core.upper()]
        aliases += [f"{c} {core}" for c in name.calls if f"{c} {core}" != whole] + [whole.upper()]
        aliases += [
            n for n in sorted(name.nouns) if meant[n] == 1 and not (g and n.lower() in g.titles and not self._alone(n))
        ]
        if self.written[low] and cue:
            aliases.append(low)
        if len(parts) > 1:
            aliases += [p for p in (parts[0], parts[-1]) if self.written[p] and (not g or p.lower() not in g.particles)]
        aliases = [a for a in dict.fromkeys(aliases) if a != whole]
        sexes = name.sexes + sum((self.nouns[n].sexes for n in name.nouns if n in self.nouns), Counter())
        if low in self.nouns:
            sexes += self.nouns[low].sexes
        if not _likeliest(sexes):
            sexes[_PRONOUNS.get(lx.first_names().get(parts[0].lower(), ""), "")] += 1
        return Being(Named(NEW + whole, whole, tuple(aliases)), _likeliest(sexes), frozenset(name.nouns))

    def _is_first_name(self, word: str, name: _Name) -> bool:
        """Whether a word is a first name that many have, and stands there as one at least once."""
        known = len(word) > 2 and word.lower() in lx.first_names() and not self.written[word.lower()]
        stands = name.inside + name.leads + (0 if self.language.nouns_have_capitals else name.bare)
        return known and stands > 0 and word not in self.nouns

    def _alone(self, title: str) -> bool:
        """Whether a title stands alone behind an article as well."""
        return title in self.nouns and self.nouns[title].phrases > 0

    def _unnamed(self, noun: str, told: _Noun) -> Being | None:
        low = noun.lower()
        if low in self.known:
            return None
        g = self.grammar
        assert g is not None
        speaks = told.says and (told.introduced or told.phrases >= 2)
        kin = low in g.ranks and told.phrases >= 2 and (told.acts or told.says)
        if not speaks and not kin:
            return None
        return Being(
            Named(NEW + noun, noun, ()),
            _likeliest(told.sexes) or _likeliest(Counter([g.ranks.get(low, "")])),
            frozenset([noun]),
        )


def _unowned(name: str) -> str:
    return name.removesuffix("'s").removesuffix("’s")


def _likeliest(sexes: Counter[str]) -> Sex:
    told = Counter({s: n for s, n in sexes.items() if s and n > 0}).most_common(2)
    if not told or (len(told) == 2 and told[0][1] == told[1][1]):
        return ""
    return told[0][0]  # type: ignore[return-value]
