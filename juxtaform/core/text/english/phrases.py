"""Noun phrases: a head with its determiner, describing words, number, name and owner, wherever one begins."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.tagging import Token

if TYPE_CHECKING:
    from juxtaform.core.text.english.deeds import Deed

Role = Literal["", "subject", "object", "at", "owner", "called", "is", "beside", "time"]
FINITE = frozenset("VDBHMO")
"""Parts of speech with which a finite verb begins."""
ALL = 3
"""As many as `they all` are at least."""
_SOMEBODY = 0.5
"""From this share of its meanings on a noun tells somebody."""
_NAME_LINKS = frozenset(["of", "the", "de", "van", "von", "la"])


def _is_time(word: str, det: str) -> bool:
    """Whether a word with a capital is a time and no first name: `every Thursday` before `Malik`, but `April` alone before `Finch`."""
    return lx.capitals().get(word, "") == "T" and (bool(det) or word.endswith("day"))


@dataclass(slots=True, eq=False)
class Phrase:
    """A noun phrase at `start`..`end`: its head (lemma), its name, determiner, describing words, how many (0: several, nobody knows how many), and its owner.

    `role` is what it is to its deed: subject, object, `at` (behind the preposition `prep`), owner of another phrase, what something `is` or is `called`, or
    `beside` another phrase that it explains. `unreal` tells that the picture does not hold it: denied, compared, wished, supposed, said of a kind.
    """

    start: int
    end: int
    head: str
    name: str = ""
    pronoun: str = ""
    det: str = ""
    described: tuple[str, ...] = ()
    compound: tuple[str, ...] = ()
    """Nouns that stand before the head and make one word with it: `lamp` of a lamp room."""
    count: int = 1
    owner: Phrase | None = None
    owning: str = ""
    role: Role = ""
    prep: str = ""
    deed: Deed | None = None
    of: Phrase | None = None
    beside: Phrase | None = None
    unreal: str = ""
    first: int = 0
    last: int = 0
    place: float = -1.0
    """How surely it tells where the picture is; below 0 nobody asked yet (see `places.placed`)."""

    @property
    def several(self) -> bool:
        return self.count != 1


class Phrases:
    """Finds the noun phrases of a sentence's words.

    >>> from juxtaform.core.text.english.tagging import tagged
    >>> p = Phrases(tagged("his brother's three wooden boats")).at(0)
    >>> p.head, p.count, p.described, p.owner.head, p.owner.owning
    ('boat', 3, ('wooden',), 'brother', 'his')
    """

    def __init__(self, tokens: Sequence[Token]) -> None:
        self.t = tokens
        self.n = len(tokens)

    def end(self, i: int) -> int | None:
        """The last word of the phrase that begins at a word."""
        found = self.at(i) if i < self.n else None
        return found.last if found else None

    def _only_counted(self, j: int) -> bool:
        """Whether a name follows a bare number that is a phrase of its own: `at seven Miss Pepper stood up`."""
        return j > 1 and self.t[j - 1].tag == "#" and self.t[j - 2].low == "at"

    def finite_at(self, i: int) -> bool:
        """Whether a finite verb follows, adverbs between left out."""
        while i < self.n and self.t[i].tag in "Rn":
            i += 1
        if i + 1 < self.n and self.t[i].low in ("called", "named") and self.t[i + 1].tag == "P":
            return False
        return i < self.n and self.t[i].tag in FINITE

    def at(self, i: int) -> Phrase | None:
        """The phrase that begins at a word; None where none does."""
        t = self.t
        if i >= self.n:
            return None
        if t[i].tag == "U":
            low = t[i].low
            if (
                low
                in ("both", "all", "one", "none", "each", "some", "half", "many", "most", "few", "neither", "either")
                and i + 2 < self.n
                and t[i + 1].low == "of"
            ):
                inner = self.at(i + 2)
                if inner:
                    inner.start, inner.first = t[i].start, i
                    inner.det = "neither" if low in ("none", "neither") else inner.det
                    return inner
            if low == "all" and not self.finite_at(i + 1):
                return self._all_of(i)
            plural = low in ("they", "them", "we", "us")
            all_of_them = plural and i + 1 < self.n and t[i + 1].low == "all"
            return Phrase(
                t[i].start,
                t[i].end,
                low,
                pronoun=low,
                count=ALL if all_of_them else 0 if plural or low in ("both", "all") else 1,
                first=i,
                last=i,
            )
        if t[i].tag not in "TY#JNSPEGR":
            return None
        j, head, owner, det, owning = i, -1, None, "", ""
        names: list[Token] = []
        described: list[str] = []
        compound: list[str] = []
        count = -1
        begun = i
        while j < self.n:
            tag, low = t[j].tag, t[j].low
            if tag in "TY" and head < 0 and not described and count < 0 and not names:
                if tag == "Y":
                    owning = low
                elif low not in ("all", "both", "half", "such") or not det:
                    det = low
            elif tag == "#" and head < 0 and not names:
                count = lx.NUMBERS.get(low, int(low) if low.isdecimal() and len(low) < 9 else 1)
            elif tag == "J" and head < 0 and (not names or det):
                described.append(low)
            elif (
                tag == "R"
                and head < 0
                and not names
                and j + 1 < self.n
                and t[j + 1].tag in "JEG"
                and (det or owning or owner or described)
                and self._noun_ahead(j + 1)
            ):
                pass
            elif (
                tag in "EG"
                and head < 0
                and not names
                and (det or owning or owner or described or count >= 0)
                and self._noun_ahead(j + 1)
            ):
                described.append(low)
            elif tag in "NS" and not names and (head < 0 or (t[head].tag == "N" and t[j - 1].tag != "'")):
                if head >= 0:
                    compound.append(t[head].low)
                head = j
            elif tag == "S" and len(names) == 1 and head < 0 and det == "the" and t[j].lemma in lx.KIN:
                head = j  # `the Ferreira sisters`
            elif tag in "NS" and names and head < 0 and (not det or len(names) == 1):
                compound.extend(n.low for n in names)
                names, head = [], j
            elif (
                tag == "P"
                and head < 0
                and not names
                and described
                and det == "the"
                and lx.word(described[-1]).pos.get("n", 0) >= 1
                and self.finite_at(j + 1)
            ):
                head = j - 1
                described.pop()
                break
            elif tag == "P" and ((names and _is_time(names[-1].text, det)) or (j > i and self._only_counted(j))):
                break
            elif tag == "P":
                several = head >= 0 and t[head].tag == "S"
                if head >= 0 and (
                    lx.living(t[head].lemma) < 0.45 or (several and (not (det or owning) or self._more_names(j + 1)))
                ):
                    break
                names.append(t[j])
            elif tag == "'" and (head >= 0 or names):
                owner = self._made(begun, j - 1, head, names, det, owning, described, compound, count, owner)
                owner.role = "owner"
                begun, head, names, det, owning, described, compound, count = j + 1, -1, [], "", "", [], [], -1
            elif head < 0 and not names and described and self._goes_on_describing(j):
                pass
            elif (
                names
                and t[j].low in _NAME_LINKS
                and j + 1 < self.n
                and t[j + 1].tag == "P"
                and (j + 2 >= self.n or t[j + 2].tag not in "NS")
            ):
                names.append(t[j])
            else:
                break
            j += 1
        if head < 0 and not names:
            if owner is not None:
                owner.role, owner.last = "", max(owner.last, j - 1)
                return owner
            nominal = [w for w in described if w in lx.ORDINALS or w.endswith(("er", "est"))]
            if (
                det
                in (
                    "the",
                    "this",
                    "that",
                    "these",
                    "those",
                    "each",
                    "every",
                    "another",
                    "neither",
                    "either",
                    "no",
                    "any",
                )
                or owning
                or count >= 0
            ):
                if "other" in described and t[j - 1].tag == "#":  # `the other two`
                    return Phrase(
                        t[begun].start,
                        t[j - 1].end,
                        "#",
                        det=det,
                        described=tuple(described),
                        count=count,
                        owning=owning,
                        first=i,
                        last=j - 1,
                    )
                if nominal and t[j - 1].tag == "J" and (j >= self.n or t[j].tag not in "I" or t[j].low == "of"):
                    return Phrase(
                        t[begun].start,
                        t[j - 1].end,
                        nominal[-1],
                        det=det,
                        described=tuple(described[:-1]),
                        count=count if count >= 0 else 1,
                        owning=owning,
                        first=i,
                        last=j - 1,
                    )
                if count >= 0 and not described:
                    return Phrase(
                        t[i].start, t[j - 1].end, "#", det=det, count=count, owning=owning, first=i, last=j - 1
                    )
            return None
        if head < 0 and len(names) > 1 and names[-1].low in _NAME_LINKS:
            names.pop()
            j -= 1
        return self._made(i, j - 1, head, names, det, owning, described, compound, count, owner, begun)

    def _all_of(self, i: int) -> Phrase | None:
        """The phrase that `all` stands before: `all his spines`. None where it stands for nobody: `all at once`, `all the same`."""
        inner = self.at(i + 1) if i + 1 < self.n and self.t[i + 1].tag in "TY" else None
        if inner:
            inner.start, inner.first = self.t[i].start, i
        return inner

    def _made(
        self,
        i: int,
        last: int,
        head: int,
        names: list[Token],
        det: str,
        owning: str,
        described: list[str],
        compound: list[str],
        count: int,
        owner: Phrase | None,
        begun: int = -1,
    ) -> Phrase:
        t = self.t
        lemma = (
            t[head].lemma
            if head >= 0 and t[head].tag != "J"
            else t[head].low
            if head >= 0
            else head_of_name([n.text for n in names])
        )
        several = head >= 0 and t[head].tag == "S"
        title = next((k for k in range(1, len(names)) if names[k].text.endswith(".") and names[k].low in lx.TITLES), 0)
        if title and lx.living(names[title - 1].low) >= _SOMEBODY:
            lemma, names = names[title - 1].low, names[title:]  # `Caretaker Mr. Olsen`
        if described and not compound and lemma in lx.NAMED_BY_DEEDS.get(described[-1], ()):
            described, compound = described[:-1], [described[-1]]
        return Phrase(
            t[begun if begun > i else i].start,
            t[last].end,
            lemma,
            name=" ".join(n.text for n in names),
            det=det,
            described=tuple(described),
            compound=tuple(compound),
            count=count if count >= 0 else 0 if several else 1,
            owner=owner,
            owning=owning,
            unreal="denied" if det == "no" else "",
            first=i,
            last=last,
        )

    def _more_names(self, j: int) -> bool:
        """Whether another name follows behind a comma or a link: `the twins Zuzana and Petr`."""
        return j + 1 < self.n and (self.t[j].text == "," or self.t[j].tag == "C") and self.t[j + 1].tag == "P"

    def _goes_on_describing(self, j: int) -> bool:
        """Whether a comma or an *and* stands between words that describe one noun."""
        if j + 1 >= self.n:
            return False
        follows = "JEG" if self.t[j].text == "," else "JE" if self.t[j].tag == "C" else ""
        return self.t[j + 1].tag in tuple(follows) and self._noun_ahead(j + 1)

    def _noun_ahead(self, j: int) -> bool:
        """Whether a noun follows before anything but describing words does."""
        for k in range(j, min(j + 5, self.n)):
            if self.t[k].tag in "NSP":
                return True
            if self.t[k].tag not in "JEGRC," and self.t[k].tag != "#":
                return False
        return False


def head_of_name(words: Sequence[str]) -> str:
    """What a name is a name of, as far as its words tell: the last one, but for what *of* ties to it, and for a number behind a place.

    >>> [head_of_name(n.split()) for n in ("Old Fenn", "Room Four", "Unit Seven", "Museum of Small Things")]
    ['fenn', 'room', 'seven', 'museum']
    """
    lows = [w.casefold() for w in words]
    if "of" in lows[1:]:
        lows = lows[: lows.index("of", 1)]
    if len(lows) > 1 and (lows[-1] in lx.NUMBERS or lows[-1].isdecimal()) and lx.meaning(lows[-2]).share("RHWL") > 0.4:
        lows.pop()
    return lows[-1] if lows else ""
