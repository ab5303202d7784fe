"""Who and what a text names: candidates for threads found in it, and every mention, pronouns included."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.lexicon import (
    ADJECTIVES,
    ANIMATE,
    COMMON_NAMES,
    CREATURES,
    FUNCTION_WORDS,
    GENDER,
    HANDLING,
    IRREGULAR_PAST,
    PLACE_BY,
    PLACE_NOUNS,
    SAYING,
    TIMES,
)
from juxtaform.core.manuscript import Manuscript

ThreadKind = Literal["character", "setting", "prop"]
QUOTE = re.compile(r"“[^”]*”?|\"[^\"]*\"?|«[^»]*»?|„[^“”]*[“”]?")
_PROPER = re.compile(
    r"\b(?:(?:Mr|Mrs|Ms|Dr|St|Prof)\.\s)?[A-ZÀ-ÞŁŠŽ][\w’'\-]*(?:\s(?:of\s|the\s)?[A-ZÀ-ÞŁŠŽ][\w’'\-]*)*"
)
_SENTENCE_START = re.compile(r"(?:^|[.!?…:][\"”’')\]]*\s+|\n\s*|[“\"«„—–]\s*)$")
_ANIMATE = re.compile(
    r"\b(?:the|a|an|his|her|their|its|my|your|our|every|each|this|that|two|three|four|five|some|no)\s+"
    rf"((?:(?:{'|'.join(sorted(ADJECTIVES))})\s+){{0,2}})({'|'.join(sorted(ANIMATE, key=len, reverse=True))})(s?)\b(?!\s+(?-i:[A-Z])\w)",
    re.IGNORECASE,
)
_PLACES = "|".join(sorted(PLACE_NOUNS, key=len, reverse=True))
_PLACE = re.compile(
    rf"\b(?:{PLACE_BY}|stood|stands|lay|lies|there was|there is)\s+(?:(?:the|a|an|his|her|their|its|your|our|my|this|that)\s+)?"
    rf"((?:[\w\-]+\s+){{0,2}}?)({_PLACES})\b|\bthe\s+({_PLACES})\s+(?:is|was|lay|lies|looks|looked)\b",
    re.IGNORECASE,
)
_PROP = re.compile(rf"\b(?:{HANDLING})\s+(?:down\s+|up\s+)?(?:the|a|an|his|her|their|its|your|my)\s+((?:[a-z\-]+\s+){{0,2}}?)([a-z\-]{{3,}})\b", re.IGNORECASE)  # fmt: skip
_POSSESSIVE = r"(?:['’]s|s['’]|['’])?"
NEW = "new:"
"""What ids of candidates begin with: they are no threads yet."""


@dataclass(frozen=True)
class Named:
    """A thread as a text can name it."""

    id: str
    name: str
    aliases: tuple[str, ...] = ()
    kind: ThreadKind = "character"


@dataclass(frozen=True)
class Candidate:
    """Somebody or something that a text names and that is no thread yet, with how often it is named."""

    kind: ThreadKind
    name: str
    aliases: tuple[str, ...]
    mentions: int

    def named(self) -> Named:
        return Named(NEW + self.name, self.name, self.aliases, self.kind)


@dataclass(frozen=True)
class Mention:
    """Somebody or something named at `start`..`end`; `pronoun` when only a pronoun names it."""

    id: str
    start: int
    end: int
    pronoun: bool = False


def discovered(manuscript: Manuscript, known: Sequence[Named] = ()) -> list[Candidate]:
    """Characters, settings and props that a text names, those of `known` left out; most mentioned first in each kind."""
    text = narration(manuscript)
    held = {w.casefold() for n in known for w in (n.name, *n.aliases)}
    cues = Counter(_titled(p.name) for p in manuscript.passages if p.kind == "character")
    people = [Candidate("character", name, (name.upper(),), count) for name, count in cues.items()]
    people += _proper_people(text, {c.name.casefold() for c in people})
    people += _common_people(text, people)
    people += _grammatical_person(text)
    places = _places(manuscript, text)
    names = {w.casefold() for c in [*people, *places] for w in (c.name, *c.aliases)}
    props = [c for c in _props(text) if c.name not in names and c.name not in PLACE_NOUNS and c.name not in ANIMATE]
    held |= {part for n in known if n.kind == "setting" for part in _forms(n.name)}
    found = [c for c in [*people, *places, *props] if not any(w.casefold() in held for w in (c.name, *c.aliases))]
    return sorted(found, key=lambda c: (("character", "setting", "prop").index(c.kind), -c.mentions, c.name))


def _forms(name: str) -> set[str]:
    """The words of a setting's name, with and without a plural ending: its parts are not places of their own."""
    words = re.findall(r"\w+", name.casefold())
    return {*words, *(w.removesuffix("s") for w in words)}


def narration(manuscript: Manuscript) -> str:
    """The text with speech, headings and asides blanked out at the same length: only what a picture could show."""
    out = [" "] * len(manuscript.text)
    for p in manuscript.passages:
        if p.kind in ("action", "centred"):
            out[p.start : p.end] = QUOTE.sub(lambda m: " " * len(m.group()), manuscript.text[p.start : p.end])
    return "".join(out)


class Reader:
    """Finds every mention of some threads in a text, in one pass."""

    def __init__(self, threads: Sequence[Named]) -> None:
        self.threads = {t.id: t for t in threads}
        self._owner: dict[str, str] = {}
        self._free: dict[str, str] = {}
        for t in threads:
            for word in (t.name, *t.aliases):
                plain = word.strip()
                if not plain:
                    continue
                by_case = self._owner if plain[:1].isupper() else self._free
                by_case.setdefault(plain if plain[:1].isupper() else plain.casefold(), t.id)
                if t.kind == "setting" and plain[:1].isupper():
                    self._free.setdefault(plain.casefold(), t.id)
        self._cased = _alternatives(self._owner)
        self._loose = _alternatives(self._free, plural=True)

    def mentions(self, text: str, start: int = 0, end: int | None = None) -> list[Mention]:
        """Mentions by name in text[start:end], in order; longer names win over shorter ones inside them.

        A name with a capital is matched with it (all capitals too), since a common word that is also a name is one only
        when capitalised; possessives and plurals count.
        """
        stop = len(text) if end is None else end
        found: list[Mention] = []
        if self._cased:
            for m in self._cased.finditer(text, start, stop):
                word = m.group(1)
                if (
                    word.casefold() in COMMON_NAMES
                    and not word.isupper()
                    and _doubtful(text, m.start(), m.end(), start)
                ):
                    continue
                owner = self._owner.get(word) or next(o for w, o in self._owner.items() if w.upper() == word)
                found.append(Mention(owner, m.start(1), m.end(1)))
        if self._loose:
            for m in self._loose.finditer(text, start, stop):
                if not any(f.start < m.end(1) and m.start(1) < f.end for f in found):
                    found.append(
                        Mention(self._free[_singular(m.group(1).casefold(), self._free)], m.start(1), m.end(1))
                    )
        return sorted(found, key=lambda f: f.start)


def names_in(text: str, threads: Sequence[Named]) -> list[str]:
    """Ids of the threads that a text names, in order of first mention.

    >>> names_in("Oda’s boat, and Pell.", [Named("p", "Pell"), Named("o", "Oda"), Named("b", "Boat")])
    ['o', 'p']
    """
    return list(dict.fromkeys(m.id for m in Reader(threads).mentions(text)))


def addressed_in(speech: str, reader: Reader) -> list[str]:
    """Ids of whom some spoken words speak to by name: a name with a comma before or behind it.

    >>> addressed_in("Oda, where is Pell?", Reader([Named("o", "Oda"), Named("p", "Pell")]))
    ['o']
    """
    found = []
    for m in reader.mentions(speech):
        before, after = speech[: m.start].rstrip(), speech[m.end :].lstrip()
        opens = not before or before[-1] in ".!?…"
        if (before.endswith(",") and (not after or after[0] in ",.!?…")) or (opens and after[:1] in (",", "!")):
            found.append(m.id)
    return list(dict.fromkeys(found))


def heading_place(words: str) -> tuple[str, str, bool]:
    """The place and the time of day in a scene heading, and whether it is in the screenplay form.

    >>> heading_place("INT. LAMP ROOM - NIGHT"), heading_place("The harbour steps, dusk")
    (('Lamp Room', 'night', True), ('The harbour steps', 'dusk', False))
    """
    plain = words.strip()
    script = re.match(r"^(?:INT\.?/EXT|EXT\.?/INT|INT|EXT|EST|I/E)[. ]+", plain, re.IGNORECASE)
    body = plain[script.end() :] if script else plain
    time = time_of_day(body)
    parts = [p.strip() for p in re.split(r"\s+[-–—]+\s+|,\s*" if script else r",\s*|\s+[-–—]+\s+", body) if p.strip()]
    kept = [p for p in parts if not _only_time(p)]
    place = kept[0] if kept else ""
    if not script and not any(w.casefold() in PLACE_NOUNS for w in re.findall(r"[\w\-]+", place)):
        place = ""
    return (_titled(place) if place.isupper() else place), time, bool(script)


def time_of_day(words: str) -> str:
    """The name of the time of day in some words, or an empty string.

    >>> time_of_day("By noon the tide was back"), time_of_day("Pell sat.")
    ('noon', '')
    """
    for pattern, name in TIMES:
        if re.search(rf"\b(?:{pattern})\b", words, re.IGNORECASE):
            return name
    return ""


def _only_time(words: str) -> bool:
    left = re.sub(r"\b(?:" + "|".join(p for p, _ in TIMES) + r")\b", "", words, flags=re.IGNORECASE)
    return not re.sub(
        r"\b(the|a|at|in|by|later|continuous|same|next|early|late|moments|following|that|before)\b|\W",
        "",
        left,
        flags=re.I,
    )


def _alternatives(words: Iterable[str], plural: bool = False) -> re.Pattern[str] | None:
    spelled = set(words) if plural else {v for w in words for v in (w, w.upper())}
    if not spelled:
        return None
    listed = "|".join(re.escape(w) + ("(?:e?s)?" if plural else "") for w in sorted(spelled, key=lambda w: -len(w)))
    return re.compile(rf"(?<!\w)({listed}){_POSSESSIVE}(?!\w)", re.IGNORECASE if plural else 0)


def _singular(word: str, known: dict[str, str]) -> str:
    if word in known:
        return word
    return word[:-1] if word[:-1] in known else word[:-2]


def _doubtful(text: str, start: int, end: int, floor: int) -> bool:
    """Whether a capitalised common word at a sentence's start is rather the word than the name."""
    if not _SENTENCE_START.search(text[max(floor, start - 12) : start]):
        return False
    after = re.match(r"(['’]s\b)|\s*(,)|\s+([\w’']+)", text[end : end + 24])
    if not after:
        return False
    if after.group(1) or after.group(2):
        return False
    following = after.group(3).casefold()
    return not (following in IRREGULAR_PAST or following == "and" or re.fullmatch(r"\w{2,}ed", following))


def _titled(name: str) -> str:
    if not name.isupper():
        return name
    words = name.lower().split()
    return " ".join(w.capitalize() if i == 0 or len(w) > 3 or w in ("old",) else w for i, w in enumerate(words))


def _proper_people(text: str, cues: set[str]) -> list[Candidate]:
    """Capitalised names that act: followed by a verb, after a speech verb, or with a possessive and more than once."""
    counts: Counter[str] = Counter()
    acts: Counter[str] = Counter()
    places: Counter[str] = Counter()
    small = set(re.findall(r"(?<!\w)[a-zà-þ][\w’'\-]*", text))
    for m in _PROPER.finditer(text):
        words = [re.sub(r"['’]s$|['’]$", "", w) for w in m.group().split()]
        start = m.start()
        if _SENTENCE_START.search(text[max(0, start - 12) : start]):
            while words and words[0].casefold() in FUNCTION_WORDS | ADJECTIVES and (len(words) > 1 or words[0].casefold() in FUNCTION_WORDS):  # fmt: skip
                words = words[1:]
            if len(words) == 1 and words[0].lower() in small:
                continue
        words = [w for w in words if w.casefold() not in FUNCTION_WORDS or w in ("of", "the")]
        if not words or words[0].casefold() in FUNCTION_WORDS or len(words[0].strip(".")) < 2:
            continue
        name = " ".join(words)
        name = _titled(name)
        counts[name] += 1
        before = text[max(0, start - 16) : start]
        after = re.match(r"(['’]s)|,?\s+(?:(?:was|is)\s+)?([\w’']+)", text[m.end() : m.end() + 30])
        verb = (after.group(2) or "").casefold() if after else ""
        if re.search(rf"\b(?:{SAYING})\s+$", before) or verb in IRREGULAR_PAST or re.fullmatch(r"\w{2,}(?:ed|s)", verb):
            acts[name] += 1
        elif re.search(r"\b(?:in|at|into|from|near|through)\s+$", before):
            places[name] += 1
    found = []
    parts: defaultdict[str, list[str]] = defaultdict(list)
    for name in counts:
        if " " in name:
            for word in name.split():
                if word in counts:
                    parts[name].append(word)
    inside = {w for words in parts.values() for w in words}
    for name, count in counts.items():
        if name in inside or name.casefold() in cues or places[name] > acts[name]:
            continue
        total = count + sum(counts[w] for w in parts[name])
        acting = acts[name] + sum(acts[w] for w in parts[name])
        last = name.split()[-1]
        aliases = tuple(dict.fromkeys([*parts[name], *([last] if " " in name and last[0].isupper() else [])]))
        if acting or total >= 3:
            found.append(Candidate("character", name, aliases, total))
    return found


def _common_people(text: str, people: list[Candidate]) -> list[Candidate]:
    """Nouns for people and animals that act or come back: `the dog`, `an old woman`."""
    forms: defaultdict[str, Counter[str]] = defaultdict(Counter)
    acts: Counter[str] = Counter()
    for m in _ANIMATE.finditer(text):
        single, plural = m.group(2).casefold(), bool(m.group(3))
        adjectives = m.group(1).casefold().split()
        kind = " ".join(a for a in adjectives if a not in ("first", "second", "last", "other", "very", "same"))
        forms[single][kind] += 1
        after = re.match(r",?\s+([\w’']+)", text[m.end() : m.end() + 20])
        verb = after.group(1).casefold() if after else ""
        if not plural and (verb in IRREGULAR_PAST or re.fullmatch(r"\w{2,}(?:ed|s)", verb)):
            acts[single] += 1
    taken = {w.casefold() for c in people for w in (c.name, *c.aliases)}
    found = []
    for noun, seen in forms.items():
        total = sum(seen.values())
        if noun in taken or (total < 2 and not acts[noun]):
            continue
        kind, count = seen.most_common(1)[0]
        name = f"{kind} {noun}" if kind and count > 0.5 * total else noun
        found.append(Candidate("character", name, (noun,) if name != noun else (), total))
    return found


def _grammatical_person(text: str) -> list[Candidate]:
    """A narrator (`I`) or a reader (`you`) who acts in the pictures."""
    you = len(re.findall(r"\byou\b", text, re.IGNORECASE))
    narrator = len(re.findall(r"\bI\b", text))
    found = [Candidate("character", "you", ("your",), you)] if you >= 3 else []
    return found + ([Candidate("character", "I", ("me", "my"), narrator)] if narrator >= 3 else [])


def _places(manuscript: Manuscript, text: str) -> list[Candidate]:
    found: dict[str, Candidate] = {}

    def put(name: str, count: int = 1) -> None:
        key = " ".join(w for w in name.casefold().split() if w not in ("the", "a", "an"))
        held = found.get(key)
        found[key] = Candidate("setting", held.name if held else name, (), (held.mentions if held else 0) + count)

    for heading, _ in manuscript.scenes():
        place = heading_place(heading.words)[0] if heading else ""
        if place:
            put(re.sub(r"^(?:the|a|an)\s+", "", place, flags=re.IGNORECASE).capitalize())
    for m in _PLACE.finditer(text):
        if not re.search(r"\blike\b[^.!?]*$", text[max(0, m.start() - 30) : m.start()]):
            put((m.group(2) or m.group(3)).casefold())
    heads = {k.split()[-1]: k for k in found if " " in k}
    for head, whole in heads.items():
        if head in found:
            held = found.pop(head)
            found[whole] = Candidate("setting", found[whole].name, (head,), found[whole].mentions + held.mentions)
    return list(found.values())


def _props(text: str) -> list[Candidate]:
    handled = Counter(m.group(2).casefold() for m in _PROP.finditer(text))
    counts = Counter(re.findall(r"\w+", text.casefold()))
    found = []
    for noun in handled:
        total = counts[noun] + counts[f"{noun}s"]
        if total >= 2 and noun not in FUNCTION_WORDS and noun not in ADJECTIVES:
            found.append(Candidate("prop", noun, (), total))
    return found


_PRONOUN = re.compile(r"\b(she|her|hers|herself|he|him|his|himself|they|them|their|theirs|it|its)\b", re.IGNORECASE)
_SIDE = {"she": "f", "her": "f", "hers": "f", "herself": "f", "he": "m", "him": "m", "his": "m", "himself": "m"}
_OWNED = re.compile(r"\s+(?!and\b|but\b|to\b|in\b|on\b|at\b|with\b|from\b|as\b|for\b|the\b|a\b|off\b|up\b|down\b)[a-z]")
REMEMBERED = 4
"""A pronoun reaches back this many sentences at the most: further than a moment it guesses."""


class Pronouns:
    """Who a pronoun names, from who was named last. Sides (she, he) are learned on a first reading of the text and held
    fast on a second."""

    def __init__(self, threads: Sequence[Named]) -> None:
        self._threads = {t.id: t for t in threads if t.kind == "character"}
        self._votes: defaultdict[str, Counter[str]] = defaultdict(Counter)
        for t in self._threads.values():
            for word in re.findall(r"\w+", f"{t.name} {' '.join(t.aliases)}".casefold()):
                if word in GENDER:
                    self._votes[t.id][GENDER[word]] += 8
        self._recent: list[list[str]] = []

    def forget(self) -> None:
        """A new scene begins: pronouns do not reach over its heading."""
        self._recent = []

    def resolved(self, sentence: str, at: int, named: list[Mention], last_speaker: str = "") -> list[Mention]:
        """The mentions in a sentence that begins at offset `at`, those by pronoun added, in order.

        `last_speaker` is who spoke the speech before: in an answer, `she said` is somebody else.
        """
        people = [m for m in named if m.id in self._threads]
        found = list(named)
        for p in _PRONOUN.finditer(sentence):
            word = p.group().casefold()
            before = [
                m.id for m in sorted(found, key=lambda m: m.start) if m.id in self._threads and m.start < at + p.start()
            ]
            owned = word in ("his", "its") or (word == "her" and _OWNED.match(sentence, p.end()))
            barred = {last_speaker} if last_speaker and not people and word in ("he", "she") else set()
            if word in ("him", "her") and not owned and before:
                barred.add(before[0])
            opens = p.start() == len(sentence) - len(sentence.lstrip())
            for who in self._meant(word, before, opens, barred, 1 if owned else 2):
                found.append(Mention(who, at + p.start(), at + p.end(), pronoun=True))
        ids = list(dict.fromkeys(m.id for m in sorted(found, key=lambda m: m.start) if m.id in self._threads))
        if ids:
            self._recent.append(ids)
            self._recent = self._recent[-REMEMBERED:]
        return sorted(found, key=lambda m: m.start)

    def _meant(self, word: str, before: list[str], opens: bool, barred: set[str], weight: int) -> list[str]:
        side = _SIDE.get(word)
        reach = [list(dict.fromkeys(before)), *reversed(self._recent)]
        if side:
            return self._one_of(side, reach, barred, weight) or self._one_of(side, reach, set(), 0)
        if word in ("they", "them", "their", "theirs"):
            group = next((g for g in reach if g), [])
            return group if len(group) > 1 else []
        if opens and word == "it" and self._recent:
            last = self._recent[-1][0]
            return [last] if set(self._threads[last].name.casefold().split()) & CREATURES else []
        return []

    def _one_of(self, side: str, reach: list[list[str]], barred: set[str], weight: int) -> list[str]:
        for group in reach:
            fits = [i for i in group if i not in barred and self._side(i) in (side, "")]
            sure = [i for i in fits if self._side(i) == side] or fits
            if sure:
                self._votes[sure[0]][side] += weight
                return sure[:1]
        return []

    def _side(self, thread: str) -> str:
        votes = self._votes[thread]
        return votes.most_common(1)[0][0] if votes and votes.most_common(1)[0][1] > 0 else ""
