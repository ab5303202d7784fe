"""Who and what a text names: every mention of some threads in it, and what its headings say."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from juxtaform.core.text.english import lexicon as lx

ThreadKind = Literal["character", "setting", "prop"]
SENTENCE_START = re.compile(r"(?:^|[.!?…:][\"”’')\]]*\s+|\n\s*|[“\"«„—–]\s*)$")
_POSSESSIVE = r"(?:['’]s|s['’]|['’])?"
TIMES: tuple[tuple[str, str], ...] = (
    (r"dawn|sunrise|daybreak", "dawn"),
    (r"morning|breakfast", "morning"),
    (r"noon|midday|lunch(?:time)?", "noon"),
    (r"afternoon", "afternoon"),
    (r"dusk|sunset|twilight|evening", "dusk"),
    (r"midnight|night|moonlight|starlight", "night"),
    (r"day|daylight", "day"),
)
"""Words for a time of day, and its name; earlier rows win."""
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
class Mention:
    """Somebody or something named at `start`..`end`; `pronoun` when only a pronoun names it."""

    id: str
    start: int
    end: int
    pronoun: bool = False


def name_words(names: Iterable[str]) -> frozenset[str]:
    """The words of names that are written with a capital.

    >>> sorted(name_words(["Old Tansy", "the owl"]))
    ['Old', 'Tansy']
    """
    return frozenset(w for name in names if name[:1].isupper() for w in name.split())


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
                if t.kind == "prop" and plain.startswith("the "):
                    for owning in ("his", "her", "its", "their"):  # `the lamp` is `her lamp` too
                        self._free.setdefault(owning + plain.casefold().removeprefix("the"), t.id)
                if (t.kind in ("setting", "prop") and plain[:1].isupper()) or plain.startswith(("The ", "A ", "An ")):
                    self._free.setdefault(plain.casefold(), t.id)
        self.words = name_words(self._owner)
        """The words of all names."""
        self._cased = _alternatives(self._owner)
        self._loose = _alternatives(self._free, plural=True)

    def mentions(
        self,
        text: str,
        start: int = 0,
        end: int | None = None,
        certain: frozenset[str] = frozenset(),
        judge: Callable[[int, int], bool | None] | None = None,
    ) -> list[Mention]:
        """Mentions by name in text[start:end], in order; longer names win over shorter ones inside them.

        A name with a capital is matched with it (all capitals too), since a common word that is also a name is one only
        when capitalised; possessives and plurals count. For ids in `certain` (they are known to be there) a doubtful
        capital at a sentence's start is the name. `judge` is asked first whether the common word at some characters is a name, where grammar tells.
        """
        stop = len(text) if end is None else end
        found: list[Mention] = []
        if self._cased:
            for m in self._cased.finditer(text, start, stop):
                word = m.group(1)
                owner = self._owner.get(word) or next(o for w, o in self._owner.items() if w.upper() == word)
                told = judge(m.start(1), m.end(1)) if judge is not None and " " not in word else None
                if told is False:
                    continue
                if (
                    told is None
                    and owner not in certain
                    and is_common(word.casefold())
                    and not word.isupper()
                    and _doubtful(text, m.start(), m.end(), start)
                ):
                    continue
                found.append(Mention(owner, m.start(1), m.end(1)))
        if self._loose:
            named, at = list(found), 0
            for m in self._loose.finditer(text, start, stop):
                while at < len(named) and named[at].end <= m.start(1):
                    at += 1
                if at == len(named) or named[at].start >= m.end(1):
                    owner = self._free[_singular(m.group(1).casefold(), self._free)]
                    found.append(Mention(owner, m.start(1), m.end(1)))
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
    if place.casefold() in lx.PARTS_OF_A_STORY or (
        not script
        and not any(lx.meaning(lx.singular(w.casefold())).share("RHWLV") > 0.3 for w in re.findall(r"[\w\-]+", place))
    ):
        place = ""
    return (titled(place) if place.isupper() else place), time, bool(script)


def time_of_day(words: str) -> str:
    """The name of the time of day in some words, or an empty string.

    >>> time_of_day("By noon the tide was back"), time_of_day("Pell sat.")
    ('noon', '')
    """
    if _ANY_TIME.search(words) is None:
        return ""
    return next((name for pattern, name in _TIMES if pattern.search(words)), "")


_TIMES = tuple((re.compile(rf"\b(?:{words})\b", re.IGNORECASE), name) for words, name in TIMES)
_ANY_TIME = re.compile(rf"\b(?:{'|'.join(words for words, _ in TIMES)})\b", re.IGNORECASE)


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


def is_common(low: str) -> bool:
    """Whether a word is also a common one, by the word list or as a word of grammar.

    >>> is_common("rose"), is_common("will"), is_common("zuzana")
    (True, True, False)
    """
    return (
        bool(lx.word(low).total)
        or low in lx.MODALS
        or low in lx.ADVERBS
        or any(lx.lemmas(low, pos) for pos in ("n", "v"))
    )


def _doubtful(text: str, start: int, end: int, floor: int) -> bool:
    """Whether a capitalised common word at a sentence's start is rather the word than the name."""
    if not SENTENCE_START.search(text[max(floor, start - 12) : start]):
        return False
    after = re.match(r"(['’]s\b)|\s*(,)|\s+([\w’']+)", text[end : end + 24])
    if not after:
        return False
    if after.group(1) or after.group(2):
        return False
    following = after.group(3).casefold()
    return not (
        following == "and"
        or following in lx.BE
        or following in lx.HAVE
        or following in lx.DO
        or following in lx.MODALS
        or any(x != following for x in lx.lemmas(following, "v"))
    )


def titled(name: str) -> str:
    if not name.isupper():
        return name
    words = name.lower().split()
    return " ".join(w.capitalize() if i == 0 or len(w) > 3 or w in ("old",) else w for i, w in enumerate(words))


def named_but_absent(text: str, threads: Sequence[Named], assigned: set[str]) -> list[str]:
    """Ids of threads that a shot's words name although they do not run through it, in order of first mention."""
    mentions = _reader(tuple(threads)).mentions(text)
    return [t for t in dict.fromkeys(m.id for m in mentions) if t not in assigned]


@lru_cache(maxsize=8)
def _reader(threads: tuple[Named, ...]) -> Reader:
    return Reader(threads)
