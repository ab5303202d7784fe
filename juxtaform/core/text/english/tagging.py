"""Words of a sentence with their parts of speech: the best way through what each word can be, by how parts of speech follow each other.

A hidden Markov model in the sense of Viterbi (1967): what a word can be comes from how often the word list counts it as noun, verb, adjective or adverb
and from its ending; what follows what is English grammar, written down by hand in `FOLLOWS` as log odds. Nothing of it was fitted to texts.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import log

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.mending import mended

TOKEN = re.compile(
    r"\x01|\w+n[’']t\b|(?:Mr|Mrs|Ms|Dr|St|Prof|Capt|Sgt|Mt|MR|MRS|DR|PROF|CAPT|SGT)\.(?=\s)|\w+(?:[-’'](?!s\b|re\b|ve\b|ll\b|d\b|m\b|t\b)\w+)*|[’'](?:s|re|ve|ll|d|m|t)\b|[.!?…]+|[,;:()—–]|-{2,}|\S"
)
SAID = "\x01"
"""Stands in a sentence where somebody's words stood."""
Tag = str
"""N noun, S nouns, P name, V verb in the present or plain, D verb in the past, G -ing, E past participle, B form of be, H of have, O of do, M modal, J adjective,
R adverb, T determiner, Y owning determiner, U pronoun, I preposition, C link, K subordinator, W asking word, X there, # number, o `to`, n not, ' of possession,
Q somebody's words, `.` end, `,` pause, ! a cry."""


_BEFORE_NOT = {"ca": "can", "wo": "will", "sha": "shall"}
"""What `can`, `will` and `shall` are before `n't`."""


@dataclass(frozen=True, slots=True)
class Token:
    """A word at `start`..`end` of its text, its part of speech and its lemma (small letters)."""

    text: str
    start: int
    end: int
    tag: Tag
    lemma: str

    @property
    def low(self) -> str:
        return _BEFORE_NOT.get(self.text.casefold(), self.text.casefold())


_ROWS = """
^ T2 Y2 U2.5 I1 R1 S1 N0 P1 J0.3 G0 K1 V-0.5 D-3 E-1 B-1 H-1.5 O-1 M-1 W1 X2 #1 C1 Q2 o0 n0 !1 ,-2 .-3
T N2.5 S2.3 J2 #1.5 P0.8 R0 G0 E0.5 I-1 V-6 D-6 B-2 M-2 U-3 T-1.5 Y-1 C-3 ,-2 .-1.5 Q-2 H-2 O-4
Y N2.5 S2.5 J2 #1 P0.3 R-1 G0.3 E0.3 V-7 D-7 I-4 U-5 T-6 B-4 C-4 ,-4 .-4 M-4 H-4 O-5
J N2.5 S2.5 J1 C0.5 I0.5 P0.7 G0 ,1 .1 o1 V-3 D-2.5 E-2 U-2 T-1.5 Y-2 R-0.5 B-0.5 M-2 K0 #-1 H-2
N D2 V1.3 B2 H1.5 M1.5 O0.5 I1.5 C1.5 ,1.5 .2 N0 S0 '3 R0.7 K0.7 W0.7 G0 E0 o1 U-1 T-1.2 Y-1.5 J-1.5 P-1 #-1 Q0 X-2 n-1
S D2 V2 B2 H1.5 M1.5 O0.5 I1.5 C1.5 ,1.5 .2 N-1 S-1 '0 R0.7 K0.7 W0.7 G0.3 E0.3 o1 U-0.7 T-1 Y-1.2 J-0.7 P-1 #-1 Q0 n-1
P D2.5 V1.5 B2 H2 M1.5 O1 I1 C1.5 ,1.5 .2 P1.5 N-0.3 S-0.5 '3 R0.7 K0 W0.5 G0 E0 o1 U-2 T-1.5 Y-1.5 J-1.5 #-1 Q0 n-1
U D2.5 V2 B2.5 H2 M2 O1.5 R0.7 I1 .1 ,1 C0.5 o1 N-3 S-2 J0 T-0.3 Y-0.3 P-1.5 G0 E-0.5 K0 U-1.5 W0 '-1 Q-1 #0 n0
V T1.5 Y1.5 U1.2 I1.5 R1 J0.5 S0.3 N-0.3 P0.3 o1.2 G0.5 E-1 .1 ,0.8 C0.7 K0.7 W0.8 D-2.5 V-1.5 B-1 M-3 H-2 #0.5 Q0.5 X-1 n1
D T1.5 Y1.5 U1 I1.7 R1.2 J0.5 S0.2 N-0.3 P0.3 o1.2 G0.5 E-1.5 .1 ,0.8 C0.7 K0.8 W0.8 D-3 V-3 B-2 M-3 H-2 #0.5 Q0.7 X0 n-1
G T1.5 Y1.5 U0.8 I1.7 R1 J0.3 S0.7 N0.5 P0.2 o1 G-0.5 E-1 .1 ,1 C0.8 K0.5 W0.5 D-1.5 V-2 B0 M-1 H-1 #0 Q0
E I2 T0.3 Y0.3 U0 R1 J0 S0.5 N0.5 P-0.3 o1.2 .1 ,1 C1 K0.5 W0 G0 E-1 D-2 V-2 B-1 M-2 #-0.5 Q0.3
B T1.3 Y0.8 J1.7 E2 G2.2 R1.5 n2 I1.3 N-1 S-0.5 U0.3 P0 o0.8 C0 .0.3 ,0.3 V-4 D-4 K0.3 W0.8 #0.7 H-2 M-3 X0 Q0
H T1.5 Y1 E2 J0.7 R1 n2 N-0.5 S0.3 U1 P0.3 o1.5 #1 B1.5 I0 V-3 D-1.5 G-0.5 .0 ,0
O n2.5 V2 U1.5 T1 Y0.7 R0.5 N0 S0 P0.7 D-4 G-1 E-2 .0 ,0 J-0.5
M V3 B2 H1.5 n2 R1 U1 P0.5 D-4 E-3 N-3 S-3 T-0.5 J-2 .-1 ,-0.5 O1
R D1.2 V0.7 J1.3 R0.7 I1.2 T0.5 Y0.3 U0.5 E1 G0.8 .1.3 ,1.3 C0.3 N-1 S-0.7 P0 B0.5 H0.5 M0.5 o0.3 K0.3 W0.3 #0.3 Q0.3 O0.3
I T2 Y2 N0.7 S0.9 P1.2 U1.3 J0.7 #1 G0.7 I0 R0 W0.7 V-5 D-5 E-1.5 B-4 M-5 H-4 .0 ,-0.5 C-0.5 Q-0.5 K-2 o0
o V3 B2.5 H2 T1 Y1 N-0.3 S-0.3 P0.5 U0.3 R0 J-0.5 D-5 G-2 E-2 .-1 ,-1 M-5 W0.3 #0
C T1 Y1 N0.5 S0.7 P0.7 U1.3 D1.2 V0.7 J0.7 R0.8 I0.7 G0.7 E0.3 B0.5 H0.5 M0.3 o0 K0.5 W0.3 X1 #0.5 n0.5 Q0.5 ,-1 O0
K U2 T1.7 Y1.3 N0.3 S0.5 P1 J0 G0.5 R0.3 X1 D-2 V-2 B-0.5 I0.3 E0 #0
W D1.7 V1.3 B1.7 H1.3 M1.3 U1.5 T1 Y0.7 P0.7 S0.3 N0 O1 J0.3 R0.3 o0.7 I0 ,0
X B3 D1 V0.5 H1 M1.5 R0 .0 ,0 I0 T-1
# N2 S2.3 J1 I0.5 C0.7 .0.7 ,0.7 #0.7 D0.3 V0.3 B0.3 P-0.5 G-0.5 H0.3 R0
n V2 J1 E1.2 G1 R1 T1 Y0.7 I0.5 U0.7 o0.7 B1 H1 N-0.5 S-0.3 P0 D-1 .0.3 ,0.3
' N2.5 S2.5 J2 P0.3 E0.3 G0.3 #1 .0 ,0 I-0.5 D-2 V-3
Q D2 V1.5 U2 T1.3 Y1 P1.3 C0.5 .0.5 ,0.3 N0.3 S0.3 R0.5 I0.3 G0.3 B0.3 M0 K0.3 O0.3
, T1.2 Y1.2 U1.3 C1.5 N0.7 S0.7 P1 D0.8 V0.5 G1 E0.7 J0.7 R1 I1 K1 W1.2 X0.5 #0.5 Q1 B0.3 H0.3 M0 n0.3 o0.3 ,0 .0
! ,1 .1 U0.5 T0.3 P0.5 N0 V0.3
. ^0 T1 U1 Q1 .0 ,0 C0
"""


def _table() -> dict[tuple[str, str], float]:
    """The rows as a table; `Z` is a verb in the present with its `s`: it goes with one, the plain form with several."""
    table = {}
    for row in _ROWS.strip().splitlines():
        before, *cells = row.split()
        for cell in cells:
            table[before, cell[0]] = float(cell[1:])
    for (before, after), odds in list(table.items()):
        if after == "V":
            table[before, "Z"] = odds
        if before == "V":
            table["Z", after] = odds
    return table | {
        ("N", "V"): -2.4,
        ("N", "Z"): 1.3,
        ("P", "V"): -1.0,
        ("P", "Z"): 1.6,
        ("S", "V"): 1.5,
        ("S", "Z"): -1.5,
        ("M", "Z"): -4.0,
        ("o", "Z"): -4.0,
        ("O", "Z"): -3.0,
        ("^", "Z"): -1.5,
        ("Q", "Z"): 1.7,
        ("Q", "V"): 0.8,
        (",", "Z"): 0.7,
        (",", "V"): 0.2,
    }


FOLLOWS = _table()
_BEFORE: dict[str, dict[str, float]] = {}
for (_before, _tag), _odds in FOLLOWS.items():
    _BEFORE.setdefault(_tag, {})[_before] = _odds
_NONE: dict[str, float] = {}
_DEFAULT = -2.0
_OPEN = "nvar"


@lru_cache(maxsize=65536)
def _small(low: str) -> tuple[tuple[str, float], ...]:
    """What a word in small letters can be, with log odds."""
    if closed := _closed(low):
        return closed
    found: dict[str, float] = {}

    def put(tag: str, weight: float) -> None:
        if weight > 0:
            found[tag] = found.get(tag, 0.0) + weight

    plain = lx.word(low)
    put("N", plain.pos.get("n", 0))
    put("J", plain.pos.get("a", 0))
    put("R", plain.pos.get("r", 0))
    put("V", plain.pos.get("v", 0))
    for lemma in lx.lemmas(low, "v"):
        weight = lx.word(lemma).pos["v"]
        if lemma == low:
            continue
        if low.endswith("ing"):
            put("G", weight)
        elif low.endswith("s") and not low.endswith("ss") and low not in _IRREGULAR_S:
            put("Z", weight * 0.6)
        elif low.endswith("ed"):
            put("D", weight * 0.6)
            put("E", weight * 0.4)
        elif low.endswith(("n", "ne", "wn", "ung", "unk", "um")) and low not in ("began", "ran", "won"):
            put("E", weight)
        else:
            put("D", weight * 0.7)
            put("E", weight * 0.3)
    if low in lx.SAME_PAST:
        put("D", plain.pos.get("v", 0) * 0.8)
        put("E", plain.pos.get("v", 0) * 0.3)
    for lemma in lx.lemmas(low, "n"):
        if lemma != low:
            put("S", lx.word(lemma).pos["n"] * 0.8)
    for lemma in lx.lemmas(low, "a"):
        if lemma != low:
            put("J", max(1.0, lx.word(lemma).pos["a"] * 0.3))
    if low in _SAME_PLURAL:
        put("S", plain.pos.get("n", 0))
    if not found:
        ending = next(
            (
                e
                for e in ("ly", "ing", "ed", "s", "ful", "less", "ous", "ish", "y")
                if low.endswith(e) and len(low) > len(e) + 2
            ),
            "",
        )
        compound = lx.meaning(low)
        if compound.kinds:
            return (("N", 0.0),)
        guess = {
            "ly": "R",
            "ing": "G",
            "ed": "E",
            "s": "S",
            "ful": "J",
            "less": "J",
            "ous": "J",
            "ish": "J",
            "y": "J",
        }.get(ending, "N")
        found = {guess: 3.0, "N": 1.0 if guess != "N" else 3.0, "V": 0.3, "J": 0.5}
        if ending == "ed":
            found["D"] = 3.0
        if ending == "s":
            found["Z"] = 0.8
        if "-" in low:
            found = {"S": 3.0, "J": 1.0} if ending == "s" else {"J": 2.0, "N": 2.0}
    total = sum(found.values())
    return tuple((tag, max(-5.0, log(weight / total))) for tag, weight in found.items())


_IRREGULAR_S = lx.GRAMMAR.words("irregular s")
_SAME_PLURAL = frozenset("sheep deer fish".split())


@lru_cache(maxsize=4096)
def _closed(low: str) -> tuple[tuple[str, float], ...]:
    """What a word of grammar can be; empty for others. The first with odds of 0 or more settles it."""
    if low in _FIXED:
        return _FIXED[low]
    if low in lx.BE:
        return (("B", 0.0),)
    if low in lx.HAVE:
        return (("H", 0.0),)
    if low in lx.DO:
        return (("O", 0.0),)
    if low in lx.OWNING:
        return (("Y", 0.0), ("U", -1.0)) if low in ("her", "his") else (("Y", 0.0),)
    if low in lx.NUMBERS or low.isdigit():
        return (("#", 0.0),)
    if low in lx.MODALS or low in _BEFORE_NOT:
        return (("M", 0.0), ("N", -4.0)) if low in ("will", "can", "might") else (("M", 0.0),)
    if low in lx.PRONOUNS:
        return (("U", 0.0),)
    if low in lx.LINKS:
        return (("C", 0.0),)
    tags: dict[str, float] = {}
    if low in lx.DETERMINERS:
        tags["T"] = 0.0
        if low in (
            "this",
            "that",
            "these",
            "those",
            "all",
            "both",
            "either",
            "neither",
            "many",
            "few",
            "several",
            "some",
            "any",
            "another",
            "each",
            "half",
            "much",
            "more",
            "most",
        ):
            tags["U"] = -0.7
    if low in lx.ASKING:
        tags["W"] = -0.2
    if low in lx.SUBORDINATORS:
        tags["K"] = -0.5
    if low in lx.PREPOSITIONS:
        tags["I"] = (
            0.0
            if low
            not in (
                "up",
                "down",
                "out",
                "off",
                "over",
                "behind",
                "inside",
                "outside",
                "like",
                "round",
                "past",
                "about",
                "after",
                "before",
            )
            else -0.3
        )
        if low in (
            "up",
            "down",
            "out",
            "off",
            "over",
            "in",
            "on",
            "behind",
            "inside",
            "outside",
            "past",
            "round",
            "around",
            "by",
            "about",
            "through",
            "along",
            "across",
            "above",
            "below",
            "beneath",
            "near",
            "before",
            "after",
        ):
            tags["R"] = -0.7
    if low in lx.ADVERBS:
        tags["R"] = 0.0
    return tuple(sorted(tags.items(), key=lambda t: -t[1]))


_FIXED: dict[str, tuple[tuple[str, float], ...]] = {
    "not": (("n", 0.0),),
    "n't": (("n", 0.0),),
    "to": (("o", 0.0),),
    "there": (("X", 0.0), ("R", -0.3)),
    "here": (("R", 0.0), ("X", -1.5)),
    "that": (("K", 0.0), ("T", 0.0), ("W", 0.0), ("U", -0.5)),
    "no": (("T", 0.0), ("!", -1.0)),
    "so": (("R", 0.0), ("K", -0.7), ("C", -0.5)),
    "as": (("K", 0.0), ("I", 0.0), ("R", -0.5)),
    "like": (("I", 0.0), ("V", -1.0)),
    "then": (("R", 0.0),),
    "left": (("D", 0.0), ("E", -0.5), ("J", -0.5), ("N", -1.0)),
    "oh": (("!", 0.0),),
    "ah": (("!", 0.0),),
    "hello": (("!", 0.0),),
    "yes": (("!", 0.0),),
    "please": (("!", 0.0),),
    "good-bye": (("!", 0.0),),
    "both": (("T", 0.0), ("U", 0.0)),
    "saw": (("D", 0.0), ("N", -2.0)),
    "felt": (("D", 0.0), ("N", -3.0), ("E", -1.0)),
    "lay": (("D", 0.0), ("V", -1.5)),
    "said": (("D", 0.0), ("E", -2.0)),
    "enough": (("R", 0.0), ("J", -0.5), ("U", -0.7)),
    "one": (("#", 0.0), ("U", -1.0), ("N", -1.0)),
    "ones": (("S", 0.0),),
    "other": (("J", 0.0), ("N", -2.0)),
    "others": (("U", 0.0),),
    "more": (("R", 0.0), ("T", 0.0)),
    "most": (("R", 0.0), ("T", 0.0)),
    "let": (("V", 0.0), ("D", 0.0), ("E", -1.5)),
    "well": (("R", 0.0), ("N", -1.0), ("!", -0.7)),
    "back": (("R", 0.0), ("N", -0.7), ("V", -3.0), ("J", -1.2)),
    "home": (("R", -0.3), ("N", 0.0)),
    "round": (("I", 0.0), ("R", -0.3), ("J", -0.5)),
    "past": (("I", 0.0), ("R", -0.7), ("N", -1.5)),
    "only": (("R", 0.0), ("J", -1.0)),
    "still": (("R", 0.0), ("J", -1.5)),
    "even": (("R", 0.0), ("J", -3.0)),
    "own": (("J", 0.0), ("V", -2.0)),
    "very": (("R", 0.0),),
    "just": (("R", 0.0),),
    "first": (("J", 0.0), ("R", -0.5)),
    "next": (("J", 0.0), ("R", -0.7)),
    "last": (("J", 0.0), ("V", -2.0), ("R", -1.5), ("N", -2.0)),
    "upside": (("R", 0.0),),
    "each": (("T", 0.0), ("U", -0.7)),
    "any": (("T", 0.0),),
}


def tokens(text: str, start: int = 0, end: int | None = None) -> Iterator[tuple[str, int, int]]:
    """The words and marks of text[start:end] with where they stand. `didn't` is two of them, `Mr.` is one."""
    for m in TOKEN.finditer(text, start, len(text) if end is None else end):
        word, at = m.group(), m.start()
        if word.casefold().endswith(("n't", "n’t")) and len(word) > 3:
            yield word[:-3], at, m.end() - 3
            yield word[-3:], m.end() - 3, m.end()
        else:
            yield word, at, m.end()


@dataclass(frozen=True)
class Names:
    """What is known of a text's capitals: words that are names, and words that the text has in small letters."""

    names: frozenset[str] = frozenset()
    small: frozenset[str] = frozenset()


NO_NAMES = Names()


def _choices(word: str, begins: bool, names: Names, before_name: bool = False) -> tuple[tuple[str, float], ...]:
    low = word.casefold().replace("’", "'")
    if word == SAID:
        return (("Q", 0.0),)
    if not word[0].isalnum():
        if low in ("'s",):
            return (("'", 0.0), ("B", -1.0))
        if low in lx.BE or low in lx.HAVE:
            return (("B", 0.0),) if low in lx.BE else (("H", 0.0),)
        if low in ("'ll", "'d"):
            return (("M", 0.0),)
        if low == "'":
            return (("'", 0.0), (",", -0.5))
        return ((".", 0.0),) if word[0] in ".!?…" else ((",", 0.0),)
    capital = word[0].isupper()
    if not capital:
        return _small(low)
    if word == "I":
        return (("U", 0.0),)
    if word.endswith(".") or (word.isupper() and len(word) > 1 and word in names.names):
        return (("P", 0.0),)
    small = _small(low)
    if begins and before_name and low in lx.TITLES:
        return (("P", 0.0),)
    if not begins:
        of_grammar = low in lx.MODALS or low in lx.ASKING
        if (
            low in lx.DETERMINERS | lx.PREPOSITIONS | lx.OWNING
            or low in lx.LINKS
            or (of_grammar and word not in names.names)
        ):
            return small
        kind = lx.capitals().get(word, "")
        return (("J", 0.0), ("P", -1.5), ("S", -1.5)) if kind == "J" else (("P", 0.0),)
    known = bool(lx.word(low).total or _closed(low) or any(lx.lemmas(low, p) for p in _OPEN))
    if word in names.names:
        return (("P", 0.0), *((t, s - (2.0 if low not in names.small else 0.7)) for t, s in small))
    if not known:
        return (("P", 0.0), *((t, s - 3.0) for t, s in small))
    return (*small, ("P", -3.5 if low in names.small else -2.5)) if not _closed(low) else small


def tagged(text: str, start: int = 0, end: int | None = None, names: Names = NO_NAMES) -> list[Token]:
    """The words of a sentence with their parts of speech, in order.

    >>> [(t.text, t.tag) for t in tagged("The old dog barked at Pell.")]
    [('The', 'T'), ('old', 'J'), ('dog', 'N'), ('barked', 'D'), ('at', 'I'), ('Pell', 'P'), ('.', '.')]
    """
    words = list(tokens(text, start, end))
    if not words:
        return []
    choices = [
        _choices(
            w,
            i == 0 or words[i - 1][0] == SAID or (i == 1 and not words[0][0][0].isalnum()),
            names,
            i + 1 < len(words) and words[i + 1][0][0].isupper() and words[i + 1][0] != "I",
        )
        for i, (w, _, _) in enumerate(words)
    ]
    best = _best_way(choices)
    best = mended(words, choices, best)
    best = ["V" if tag == "Z" else tag for tag in best]
    return [Token(w, a, b, tag, lx.lemma_by_tag(w, tag)) for (w, a, b), tag in zip(words, best, strict=True)]


def _best_way(choices: Sequence[tuple[tuple[str, float], ...]]) -> list[str]:
    scores = {"^": 0.0}
    back: list[dict[str, str]] = []
    for options in choices:
        new: dict[str, float] = {}
        came: dict[str, str] = {}
        for tag, odds in options:
            after = _BEFORE.get(tag, _NONE)
            best, source = -1e9, ""
            for b, s in scores.items():
                score = s + after.get(b, _DEFAULT)
                if score > best:
                    best, source = score, b
            best += odds
            if tag not in new or best > new[tag]:
                new[tag], came[tag] = best, source
        scores = new
        back.append(came)
    tag = max(scores, key=lambda t: scores[t])
    way = []
    for came in reversed(back):
        way.append(tag)
        tag = came[tag]
    return way[::-1]
