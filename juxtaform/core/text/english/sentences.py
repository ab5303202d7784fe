"""A manuscript's narration sentence by sentence, with what is said in each, and its names."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.clauses import parsed
from juxtaform.core.text.english.deeds import Sentence
from juxtaform.core.text.english.first_words import FirstWords, is_time
from juxtaform.core.text.english.tagging import SAID, TOKEN, Names, tagged
from juxtaform.core.text.manuscript import READ, Manuscript, Passage
from juxtaform.core.text.names import Named
from juxtaform.core.text.speech import habit_of, said

_END = re.compile(r"[.!?…]+[\"”’')\]»]*(?=\s|$)|(?<=\x01)\s+|\n\s*\n")
LONGEST = 2000
"""Characters of a sentence that is read as one."""
_ABBREVIATIONS = lx.GRAMMAR.words("abbreviations")
_CAPITALS = re.compile(r"(?<![\w’'])[A-ZÀ-ÞŁŠŽ][\w’'\-]*")
_OWNERS = re.compile(r"['’]s$|['’]$")
_LOUD = re.compile(r"(?<!\w)[A-ZÀ-Þ][A-ZÀ-Þ’'\-]+(?:\s+[A-ZÀ-Þ][A-ZÀ-Þ’'\-]*)*(?!\w)")

_LABEL = re.compile(
    r"(?:^|(?<=[.!?]\s))\s*(?:[A-Z][A-Z0-9 /&’'()-]{1,30}:|(?:[EMX]?CU|[EM]?[LW]S|MS|OTS|POV|INT|EXT)\b[.:]?)(?=\s)"
)
"""What a shot list puts before a shot's words: its size, its kind, its number."""
_TITLED = re.compile(rf"(?<!\w)(?:{'|'.join(sorted(w.title() for w in (*lx.KIN, *lx.TITLES) if w.isalpha()))})\.? $")
"""A title or a word for kin right before a word: `Auntie May` is nobody who may."""
_TURNS = lx.GRAMMAR.group_of("turns")


@dataclass(frozen=True)
class Read:
    """A sentence at `start`..`end` of the text: what is said in it (marks and all), and its narration read, in offsets from `start`."""

    start: int
    end: int
    begins_paragraph: bool
    said: tuple[tuple[int, int], ...]
    sentence: Sentence


def opening(read: Read) -> str:
    """What a sentence opens with: a time, a turn, a link, a pronoun, a place, somebody's words."""
    s = read.sentence
    if not s.tokens:
        return ""
    first = s.tokens[0]
    if first.tag == "Q":
        return "speech"
    if any(p.role == "time" and p.first <= 2 for p in s.phrases) or (
        first.tag == "I"
        and any(p.role == "at" and p.first <= 2 and lx.word(p.head).share("T") > 0.6 and not p.name for p in s.phrases)
    ):
        return "time"
    if (
        first.low in ("at", "in")
        and len(s.tokens) > 1
        and s.tokens[1].low in ("last", "once", "first", "the")
        and s.tokens[1].low != "the"
    ):
        return "then"
    turn = _TURNS.get(first.low, "")
    if turn:
        return turn
    if first.tag == "I" and any(p.role == "at" and p.first <= 3 for p in s.phrases):
        return "where"
    if first.tag == "R" and first.low in lx.ADVERBS | lx.PREPOSITIONS:
        return "where"
    if first.tag == "X":
        return "there"
    if first.tag == "U":
        return "pronoun"
    return "owning" if first.tag == "Y" else "name" if first.tag == "P" else "noun"


@lru_cache(maxsize=8_000)
def _sentence(words: str, names: frozenset[str], small: frozenset[str]) -> Sentence:
    return parsed(tagged(words, names=Names(names, small)))


def _named(word: str) -> str:
    """A word without its mark of an owner: `Tom's` names Tom."""
    return _OWNERS.sub("", word)


def read(words: str, names: Names) -> Sentence:
    """A sentence read; what depends on the same words and names is remembered."""
    here = frozenset(_named(w) for w in _CAPITALS.findall(words))
    return _sentence(words, here & names.names, frozenset(w.casefold() for w in here) & names.small)


@lru_cache(maxsize=4096)
def loosely(text: str, names: frozenset[str]) -> tuple[tuple[tuple[int, Sentence], ...], tuple[tuple[int, int], ...]]:
    """Some English words by themselves: their sentences, each with the offset at which it begins, and where something is said in them."""
    speeches = tuple(said(text, habit_of(text)))
    told = _LABEL.sub(lambda m: " " * len(m.group()), text)
    for a, b in speeches:
        told = told[:a] + SAID + " " * (b - a - 1) + told[b:]
    known = Names(names, frozenset())
    return tuple((a, read(told[a:b], known)) for a, b in spans(text, told, 0, len(text), speeches)), speeches


def quietened(words: str, known: frozenset[str]) -> str:
    """Script action without capitals that only draw the eye: `A nervous GIANT` is a giant, `DELROY` is Delroy.

    >>> quietened("MISS AGNEW comes. A huge EYE. DELROY sits.", frozenset())
    'Miss Agnew comes. A huge eye. Delroy sits.'
    """

    def plain(m: re.Match[str]) -> str:
        run = m.group()
        if len(run.replace("’", "'")) < 2 or run in ("I", "A"):
            return run
        parts = run.split()
        name = run.title() in known or any(
            not lx.word(p.casefold().strip("'’")).total and p.casefold() not in lx.DETERMINERS for p in parts
        )
        return " ".join(p[:1] + p[1:].lower() for p in parts) if name else run.lower()

    return _LOUD.sub(plain, words) if _LOUD.search(words) else words


def names_of(manuscript: Manuscript, narrated: str, known: Sequence[Named] = ()) -> Names:
    """Words that the text writes with a capital where no sentence begins or that name somebody known, and all words that it has in small letters."""
    cues = {w for p in manuscript.passages if p.kind == "character" for w in p.name.title().split()}
    cues |= {
        w
        for t in known
        if t.kind == "character"
        for name in (t.name, *t.aliases)
        for w in name.split()
        if w[:1].isupper()
    }
    small = frozenset(re.findall(r"(?<![\w’'])[a-zà-þ][\w’'\-]*", narrated))
    kin = {lx.KIN[w] for w in small if w in lx.KIN}
    loud: set[str] = set()
    inside: Counter[str] = Counter()
    begins: Counter[str] = Counter()
    first = FirstWords()
    text = manuscript.text
    for p in manuscript.passages:
        if p.kind not in READ:
            continue
        for m in _CAPITALS.finditer(text, p.start, p.end):
            word = _named(m.group())
            if word.isupper() and len(word) > 1:
                if manuscript.framings and len(word) > 2 and not of_grammar(word.casefold()):
                    loud |= {word, word.title()}  # A shot list brings people in with capitals: `NILS at the lamp`.
                continue
            before = text[max(p.start, m.start() - 3) : m.start()]
            if m.start() == p.start or re.search(r"[.!?…:“”\"‘’'«»„\n—–(]\s*$|^\s*$", before) or word == "I":
                begins[word] += 1
                first.see(word, text, m.start() + len(word))
                continue
            titled = _TITLED.search(text, max(p.start, m.start() - 16), m.start()) is not None
            if titled or (
                lx.capitals().get(word, "") not in ("J", "T")
                and word.casefold() not in lx.DETERMINERS | lx.PREPOSITIONS | lx.OWNING | lx.PRONOUNS
            ):
                inside[word] += 1
            elif is_time(word):
                last = text[p.start : m.start()].split()[-1:]
                low = last[0].casefold() if last else ""
                if lx.word(lx.lemma_by_tag(low, "D")).does("S") > 0.5:
                    first.hear(word)
                elif low not in lx.PREPOSITIONS | lx.DETERMINERS:
                    first.see(word, text, m.start() + len(word))
    twice = {
        w
        for w, n in {**dict.fromkeys(first.acts, 0), **begins}.items()
        if w.casefold() not in small
        and (
            first.is_name(w)
            or (
                (n >= 2 or (w.casefold() in lx.KIN and lx.KIN[w.casefold()] not in kin))
                and lx.living(w.casefold() if lx.word(w.casefold()).total else lx.singular(w.casefold())) >= 0.3
            )
        )
        and (is_time(w) or not of_grammar(w.casefold()))
    }
    loud = {w for w in loud if lx.living(w.casefold()) < 0.45 and w.casefold() not in small}
    return Names(frozenset(inside) | cues | twice | loud, small)


def of_grammar(low: str) -> bool:
    """Whether a word is one of grammar."""
    return any(
        low in words
        for words in (
            lx.DETERMINERS,
            lx.PREPOSITIONS,
            lx.OWNING,
            lx.PRONOUNS,
            lx.LINKS,
            lx.SUBORDINATORS,
            lx.ASKING,
            lx.ADVERBS,
            lx.MODALS,
            lx.NUMBERS,
            lx.ORDINALS,
        )
    ) or bool(lx.word(low).pos.get("r") or low in lx.BE or low in lx.HAVE or low in lx.DO)


def _said_small(m: re.Match[str]) -> str:
    """Words in capitals that are no name (`the sign says WIPE YOUR FEET`) in small letters."""
    words = [w.casefold().strip("'’") for w in m.group().split()]
    told = len(words) > 1 and any(map(of_grammar, words)) and all(of_grammar(w) or lx.word(w).total for w in words)
    small = m.group().lower()
    return small if told and len(small) == len(m.group()) else m.group()


NICKNAMED = re.compile(
    r"\b(?P<first>[A-ZÀ-Þ][\w’-]{0,30}) (?P<quoted>[\"“'‘(](?P<nick>[A-ZÀ-Þ][\w-]{0,30})[\"”'’)]) (?P<last>[A-ZÀ-Þ][\w’-]{0,30})"
)
"""`DELPHINE “DEL” AMARA`."""


def narrated(manuscript: Manuscript) -> tuple[str, dict[int, list[tuple[int, int]]]]:
    """The text with speech, headings and asides blanked at the same length, a mark where each speech began; and the speeches by the passage's start."""
    out = [" "] * len(manuscript.text)
    speeches: dict[int, list[tuple[int, int]]] = {}
    for p in manuscript.passages:
        if p.kind in ("action", "centred", "art") or (p.kind in ("dialogue", "lyric") and not p.name):
            out[p.start : p.end] = _LOUD.sub(_said_small, manuscript.text[p.start : p.end])
            inside = [m.span("quoted") for m in NICKNAMED.finditer(manuscript.text, p.start, p.end)]
            for a, b in inside:
                out[a:b] = " " * (b - a)
            spans = [s for s in manuscript.said_in(p) if s not in inside]
            speeches[p.start] = spans
            for a, b in spans:
                out[a:b] = SAID + " " * (b - a - 1)
    return "".join(out), speeches


def spans(
    text: str,
    told: str,
    start: int,
    end: int,
    speeches: Sequence[tuple[int, int]],
    shortened: frozenset[str] = _ABBREVIATIONS,
) -> Iterator[tuple[int, int]]:
    """The sentences of a passage. A speech that ends with a stop ends its sentence unless somebody's saying follows it; words that are `shortened` have a
    stop of their own. What goes on without a stop for very long is parted between words, for a sentence is read in time that grows faster than its length."""
    by_start = dict(speeches)
    at = start
    i = start
    while i < end:
        m = _END.search(told, i, end)
        said = told.find(SAID, i, m.end() if m else end)
        if said >= 0 and (m is None or said < m.start() or said < m.end()):
            close = by_start.get(said, said + 1)
            inner = text[said:close].rstrip("”\"’'»“«")
            rest = told[close:end]
            nothing_after = not rest.strip()
            following = rest.lstrip()[:1]
            stops = (
                bool(following)
                and inner[-1:] in ".!?…"
                and following not in ",;—–―-"
                and not following.islower()
                and not _saying_follows(rest)
            )
            next_speech = following == SAID and inner[-1:] in ".!?…"
            i = close
            if nothing_after or stops or next_speech:
                yield from _in_parts(told, at, close, speeches)
                at = close + len(rest) - len(rest.lstrip())
                i = at
            continue
        if m is None:
            break
        last = told[at : m.start()].split()
        following = told[m.end() : m.end() + 12].lstrip()
        if m.group()[:1] == "." and last and last[-1].casefold().strip("“\"'(") in shortened:
            i = m.end()
            continue
        if m.group()[0] in "…." and following[:1].islower():
            i = m.end()
            continue
        if told[at : m.end()].strip():
            stop = m.end() if m.group().strip() else len(told[: m.end()].rstrip())
            yield from _in_parts(told, at, stop, speeches)
        at = m.end()
        while at < end and told[at].isspace():
            at += 1
        i = max(at, m.end())
    if at < end and told[at:end].strip():
        yield from _in_parts(told, at, at + len(told[at:end].rstrip()), speeches)


def _in_parts(told: str, at: int, stop: int, speeches: Sequence[tuple[int, int]]) -> Iterator[tuple[int, int]]:
    """A sentence, parted between words where it is very long."""
    while stop - at > LONGEST:
        cut = told.find(" ", at + LONGEST, stop)
        cut = next((b for a, b in speeches if a < cut < b), cut)
        if not at < cut < stop:
            break
        yield at, cut
        at = cut + len(told[cut:stop]) - len(told[cut:stop].lstrip())
    yield at, stop


def _saying_follows(rest: str) -> bool:
    """Whether words behind a speech tell who said it: a verb of saying among the next few, before anything else is done."""
    for i, m in enumerate(TOKEN.finditer(rest, 0, 60)):
        word = m.group()
        if i > 4 or word in ".,;:!?—" or word == SAID:
            return False
        low = word.casefold()
        for lemma in lx.lemmas(low, "v"):
            if lx.word(lemma).does("S") > 0.4 and lx.word(lemma).pos["v"] > 0.4 * lx.word(lemma).total:
                return True
    return False


def passages_read(
    manuscript: Manuscript,
    told: str,
    speeches: dict[int, list[tuple[int, int]]],
    names: Names,
    passages: Sequence[Passage],
    cues: frozenset[str],
) -> Iterator[Read | Passage]:
    """The sentences of some passages, and dialogue passages as they are."""
    for passage in passages:
        if passage.kind in ("dialogue", "lyric") and passage.name:
            yield passage
            continue
        if passage.kind not in READ:
            continue
        first = True
        said = speeches.get(passage.start, [])
        at = 0
        for start, end in spans(manuscript.text, told, passage.start, passage.end, said):
            while at < len(said) and said[at][1] <= start:
                at += 1
            inside = []
            k = at
            while k < len(said) and said[k][0] < end:
                inside.append(said[k])
                k += 1
            words = told[start:end]
            if cues:
                words = quietened(words, cues)
            yield Read(start, end, first, tuple(inside), read(words, names))
            first = False
