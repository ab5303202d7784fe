"""English words: what they can be and mean (made from WordNet, see `data/LICENCE`), their forms, and the small words of grammar."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Literal

from juxtaform.core.text.lists import word_lists

GRAMMAR = word_lists("juxtaform.core.text.english")
"""Words of grammar, and words that many stories use."""
KNOWN = word_lists("juxtaform.core.text.english", "wordnet_lists.txt")
"""Lists that WordNet knows."""

Pos = Literal["n", "v", "a", "r"]
Kind = Literal["P", "A", "G", "R", "H", "W", "L", "V", "K", "D", "B", "C", "F", "N", "T", "O", "X"]
"""What a noun means: Person, Animal, Group of people, Room, House or other building, Way, Land or water, Vehicle, container (K),
barrier or furniture (D),
Body part, Clothes, Food, plaNt, Time, Other thing, and what is no thing at all (X)."""

_MARKS = re.compile(r"([A-Za-z])(\d+)")


@dataclass(frozen=True, eq=False)
class Word:
    """A lemma: how often it is a noun, verb, adjective, adverb (counts); the shares of what its noun and its verb mean (0..1); and the sex of
    a person's noun."""

    lemma: str
    pos: Mapping[str, float]
    kinds: Mapping[str, float]
    deeds: Mapping[str, float]
    sex: str = ""

    @lru_cache(maxsize=65536)  # noqa: B019 - words live as long as the program
    def share(self, kinds: str) -> float:
        """How much of what its noun means is of some kinds, 0..1."""
        return sum(self.kinds.get(k, 0.0) for k in kinds)

    @lru_cache(maxsize=65536)  # noqa: B019
    def does(self, deeds: str) -> float:
        """How much of what its verb means is of some kinds of deed, 0..1."""
        return sum(self.deeds.get(d, 0.0) for d in deeds)

    @property
    def total(self) -> float:
        return sum(self.pos.values())


NOTHING = Word("", {}, {}, {})


@lru_cache(maxsize=1)
def _lines() -> dict[str, str]:
    text = files("juxtaform.core.text.english").joinpath("data/words.tsv").read_text("utf-8")
    return dict(line.split("\t", 1) for line in text.splitlines())


@lru_cache(maxsize=1)
def _forms() -> dict[tuple[str, str], str]:
    text = files("juxtaform.core.text.english").joinpath("data/forms.tsv").read_text("utf-8")
    return {(form, pos): lemma for form, pos, lemma in (line.split("\t") for line in text.splitlines())}


@lru_cache(maxsize=1)
def capitals() -> dict[str, str]:
    """Words that are written with a capital without being anybody's name: months, places, peoples (J: an adjective)."""
    text = files("juxtaform.core.text.english").joinpath("data/capitals.tsv").read_text("utf-8")
    return dict(line.split("\t") for line in text.splitlines())


@lru_cache(maxsize=1)
def first_names() -> dict[str, str]:
    """First names in small letters, with `f` or `m` where nearly all who have one are of one sex; else empty."""
    text = files("juxtaform.core.text.english").joinpath("data/first_names.tsv").read_text("utf-8")
    rows = (line.partition("\t") for line in text.splitlines() if not line.startswith("#"))
    return {name: side for name, _, side in rows}


@lru_cache(maxsize=65536)
def look(adjective: str) -> tuple[str, int] | None:
    """The scale on which an adjective tells one of several apart, and its side of it, whether compared or not; None for another.

    >>> look("taller"), look("tiniest"), look("angry")
    (('size', 0), ('size', 1), None)
    """
    return _LOOK.get(plain_form(adjective))


def plain_form(adjective: str) -> str:
    """An adjective of size, age or girth without its comparison; any other word as it is.

    >>> plain_form("bigger"), plain_form("larger"), plain_form("tiniest"), plain_form("second")
    ('big', 'large', 'tiny', 'second')
    """
    for end in ("est", "er"):
        stem = adjective.removesuffix(end)
        if stem != adjective:
            for plain in (stem, stem + "e", stem[:-1], stem[:-1] + "y"):
                if plain in _LOOK:
                    return plain
    return adjective


def superlative(head: str) -> bool:
    """Whether a word in the place of a noun tells which one of several, and names nothing itself.

    >>> superlative("bravest"), superlative("guest"), superlative("forest")
    (True, False, False)
    """
    return head.endswith("est") and meaning(head).share("PAGRHWLVKDBCFNTO") < 0.5


@lru_cache(maxsize=16384)
def word(lemma: str) -> Word:
    """What a lemma can be and mean; an empty word for one that is not known.

    >>> word("fox").share("A") > 0.5, word("whisper").does("S") > 0.5, word("qwert").total
    (True, True, 0)
    """
    line = _lines().get(lemma)
    if line is None:
        return NOTHING
    fields = (line + "\t\t\t\t").split("\t")
    pos, kinds, deeds = ({k: float(v) for k, v in _MARKS.findall(fields[i])} for i in (0, 1, 3))
    shares = [{k: v / (sum(d.values()) or 1) for k, v in d.items()} for d in (kinds, deeds)]
    return Word(lemma, pos, shares[0], shares[1], fields[2])


def side_of(noun: str) -> str:
    """Whether a noun or a title tells that somebody is she (f) or he (m); empty where it does not.

    >>> side_of("aunt"), side_of("fireman"), side_of("cook")
    ('f', 'm', '')
    """
    token = KIN.get(noun.strip("."), noun.strip("."))
    sex = meaning(token).sex
    if token in FEMALE or sex == "f" or ends_in(token, "woman"):
        return "f"
    return "m" if token in MALE or sex == "m" or ends_in(token, "man") else ""


_PEOPLE = re.compile(r"(?:man|woman|person|boy|girl|folk|maid|keeper|maker|seller)$")
"""What a compound ends with when it is somebody, though no list has it: `ferryman`, `cake-seller`."""
_HOUSES = re.compile(r"(?:house|room|shop|yard|field|garden|hall)$")
LONGEST = 40
"""Letters of the longest word that is looked through for what it is made of."""


@lru_cache(maxsize=65536)
def meaning(lemma: str) -> Word:
    """Like `word`, for nouns that no list has by what they end with: `boathouse` is a house, `bell-ringer` does what it says."""
    known = word(lemma)
    if known.kinds or len(lemma) < 5:
        return known
    last = lemma.rsplit("-", 1)[-1]
    if last != lemma and word(last).kinds:
        return word(last)
    if m := _PEOPLE.search(lemma):
        return Word(lemma, {"n": 1.0}, {"P": 1.0}, {}, word(m.group()).sex)
    if m := _HOUSES.search(lemma):
        return word(m.group())
    for ending in ("er", "or"):
        if last.endswith(ending) and (word(last[:-2]).pos.get("v") or word(last[:-1]).pos.get("v")):
            return Word(lemma, {"n": 1.0}, {"P": 0.7, "O": 0.3}, {})
    for cut in range(3, len(lemma) - 2) if len(lemma) <= LONGEST else ():
        tail = lemma[cut:]
        if len(tail) >= 4 and word(tail).pos.get("n", 0) > 20 and word(lemma[:cut]).total:
            return word(tail)
    return known


@lru_cache(maxsize=65536)
def lemmas(form: str, pos: Pos) -> tuple[str, ...]:
    """The lemmas of which a form (in small letters) can be, by part of speech; itself first when it is one.

    >>> lemmas("ladies", "n"), lemmas("ran", "v"), lemmas("stopped", "v"), lemmas("geese", "n")
    (('lady',), ('run',), ('stop',), ('goose',))
    """
    found = [form] if word(form).pos.get(pos) else []
    if (irregular := _forms().get((form, pos))) and word(irregular).pos.get(pos):
        found.insert(0, irregular)
    endings = {
        "n": (
            ("ies", "y"),
            ("ves", "f"),
            ("ses", "s"),
            ("xes", "x"),
            ("ches", "ch"),
            ("shes", "sh"),
            ("zes", "z"),
            ("oes", "o"),
            ("men", "man"),
            ("s", ""),
        ),
        "v": (
            ("ies", "y"),
            ("ied", "y"),
            ("es", "e"),
            ("es", ""),
            ("s", ""),
            ("ed", "e"),
            ("ed", ""),
            ("ing", "e"),
            ("ing", ""),
        ),
        "a": (("iest", "y"), ("ier", "y"), ("est", "e"), ("est", ""), ("er", "e"), ("er", "")),
        "r": (),
    }[pos]
    for ending, put in endings:
        if form.endswith(ending) and len(form) > len(ending) + 1 and not (ending == "s" and form.endswith("ss")):
            stem = form[: -len(ending)] + put
            if word(stem).pos.get(pos):
                found.append(stem)
            elif put == "" and pos in "va" and len(stem) > 3 and stem[-1] == stem[-2] and word(stem[:-1]).pos.get(pos):
                found.append(stem[:-1])
    return tuple(dict.fromkeys(found))


def singular(noun: str) -> str:
    """A noun's lemma, for one that no list has by cutting the plural's ending.

    >>> singular("kittens"), singular("zorbs"), singular("glass")
    ('kitten', 'zorb', 'glass')
    """
    known = lemmas(noun, "n")
    if known:
        return known[0]
    if noun.endswith("s") and not noun.endswith(("ss", "us", "is")) and len(noun) > 3:
        return noun[:-1]
    return noun


_PLURALS = GRAMMAR.group_of("plurals")


def plural(noun: str) -> str:
    """A noun for several.

    >>> plural("kitten"), plural("fox"), plural("lady"), plural("man")
    ('kittens', 'foxes', 'ladies', 'men')
    """
    if noun in _PLURALS:
        return _PLURALS[noun]
    for end in ("man", "woman"):
        if noun.endswith(end) and len(noun) > len(end):
            return noun[:-2] + "en"
    if re.search(r"(s|x|z|ch|sh)$", noun):
        return noun + "es"
    if re.search(r"[^aeiou]y$", noun):
        return noun[:-1] + "ies"
    return noun + "s"


DETERMINERS = GRAMMAR.words("determiners")
OWNING = GRAMMAR.words("owning")
PRONOUNS = GRAMMAR.words("pronouns")
PREPOSITIONS = GRAMMAR.words("prepositions")
SUBORDINATORS = GRAMMAR.words("subordinators")
LINKS = GRAMMAR.words("links")
ASKING = GRAMMAR.words("asking")
MODALS = GRAMMAR.words("modals")
BE = {
    "be": "B",
    "am": "P",
    "is": "P",
    "are": "P",
    "was": "D",
    "were": "D",
    "been": "N",
    "being": "G",
    "'m": "P",
    "'re": "P",
}
HAVE = {"have": "P", "has": "P", "had": "D", "having": "G", "'ve": "P"}
DO = {"do": "P", "does": "P", "did": "D"}
NUMBERS = {word: int(count) for word, count in GRAMMAR.group_of("numbers").items()}
ORDINALS = GRAMMAR.words("ordinals")
_LOOK = {word: (side[:-2], int(side[-1])) for word, side in GRAMMAR.group_of("looks").items()}
ADVERBS = GRAMMAR.words("adverbs")
SAME_PAST = GRAMMAR.words("same past")
"""Verbs whose past is as their present: `put`."""
TITLES = GRAMMAR.words("titles")
"""What stands before a name and is shared by several people."""

KIN = GRAMMAR.group_of("kin")
"""Words for kin, by the word that means the same."""
FEMALE = GRAMMAR.words("female")
MALE = GRAMMAR.words("male")
ANYBODY = GRAMMAR.group_of("anybody")
"""Nouns that stand for anybody of their kind who was named before, with the sex."""
NAMED_BY_DEEDS = KNOWN.by_group("named by deeds")
"""By a deed what is named by it: a room by living, a pan by frying."""
TRAVELS = KNOWN.words("travels") | GRAMMAR.words("travels")
"""Deeds that go a way for a while."""
USUAL = GRAMMAR.words("usual")
"""What may be said of anybody without telling a new person: `the old man`."""
TOGETHER = GRAMMAR.words("together")
_BEINGS = GRAMMAR.words("beings")
PARTS_OF_A_STORY = GRAMMAR.words("parts of a story")
PARTS = GRAMMAR.words("parts")
"""Nouns that say where of something, and are no place themselves: the edge of the wood is the wood."""


@lru_cache(maxsize=65536)
def living(head: str) -> float:
    """How surely a noun means a person or an animal, 0..1; a group of people counts half, a made-up word may be somebody."""
    known = meaning(head)
    if not known.kinds:
        return 0.0 if known.total or word(head).total else 0.3
    if head in KIN or head in _BEINGS or ends_in(head, "man"):
        return 1.0
    return known.share("PA") + 0.5 * known.share("G")


def ends_in(noun: str, who: str) -> bool:
    """Whether a noun is made of another word and `man` or `woman`.

    >>> ends_in("fireman", "man"), ends_in("human", "man"), ends_in("policewoman", "man")
    (True, False, False)
    """
    return noun.endswith(who) and word(noun.removesuffix(who)).total > 0


def is_small(low: str) -> bool:
    """Whether a word, in small letters, is one of grammar that tells of nothing by itself.

    >>> is_small("the"), is_small("coat")
    (True, False)
    """
    return any(
        low in words
        for words in (
            DETERMINERS,
            OWNING,
            PRONOUNS,
            PREPOSITIONS,
            SUBORDINATORS,
            LINKS,
            ASKING,
            MODALS,
            BE,
            HAVE,
            DO,
            NUMBERS,
            ADVERBS,
        )
    )


@lru_cache(maxsize=65536)
def lemma_by_tag(token: str, tag: str) -> str:
    """The lemma of a word (as it is written) that is some part of speech.

    >>> lemma_by_tag("geese", "S"), lemma_by_tag("ran", "D")
    ('goose', 'run')
    """
    low = token.casefold().replace("’", "'")
    if tag == "S":
        return next((x for x in lemmas(low, "n") if x != low), singular(low))
    if tag == "N":
        return low if word(low).pos.get("n") else singular(low)
    if tag in "VDGE":
        found = lemmas(low, "v")
        return found[0] if found else low
    return {"B": "be", "H": "have", "O": "do"}.get(tag, low)
