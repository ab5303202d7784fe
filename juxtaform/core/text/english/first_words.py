"""Names that only ever begin sentences: `Ruby ran. Ruby fell.` A word that is also a noun is a name there when it does something without a determiner."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence

from juxtaform.core.text.english import lexicon as lx

_NEXT = re.compile(
    r"[’']s (?P<owned>[a-zà-þ]+)|[’']s(?= )|(?P<told>, an? (?=[a-zà-þ])| the (?=[a-zà-þ]+ [a-zà-þ]))|,| (?:(?P<also>and [A-ZÀ-Þ][a-zà-þ])|and (?:the|an?|his|her|their|my|our) (?P<beside>(?:[a-zà-þ]+ ?){1,5})|(?P<word>[a-zà-þ]+))"
)
"""What stands behind a word: an owner's mark (only somebody has clothes and kin), who it is (`Biscuit the dog`, `Biscuit, a dog`), another name, somebody else (`and the old dog sat`), a verb."""
OF_THINGS = lx.GRAMMAR.words("of things")
"""What is also said of what is not alive: bread smells."""
OF_TIMES = lx.GRAMMAR.words("of times")
"""What is also said of times: June came."""
_COMMON = 10
"""From so many uses as a noun on a word is common."""
_HELPS = frozenset([*lx.BE, *lx.HAVE, *lx.DO, *lx.MODALS])


class FirstWords:
    """Counts, word by word, how often one that begins a sentence does something."""

    def __init__(self) -> None:
        self.acts: Counter[str] = Counter()
        self.wills: Counter[str] = Counter()

    def see(self, word: str, text: str, end: int) -> None:
        """A word that begins a sentence or is a time with a capital (`then May laughed`) and ends at `end`."""
        following = _NEXT.match(text, end, end + 40)
        if following is None:
            return
        low = following["word"]
        if low is not None and is_time(word) and (low in _HELPS or _deed(low) in OF_TIMES):
            return
        if following["also"] or (following["told"] and word.casefold() not in lx.MODALS):
            self.acts[word] += 2
            self.wills[word] += 1
        elif following["beside"]:
            self.acts[word] += 1
            self.wills[word] += _somebody_acts(following["beside"].split())
        elif following["owned"]:
            self.acts[word] += 1
            self.wills[word] += lx.meaning(lx.singular(following["owned"])).share("CP") > 0.7
        elif low is None or low in _HELPS:
            self.acts[word] += 1
        elif deed := _deed(low):
            self.acts[word] += 1
            self.wills[word] += deed not in OF_THINGS and lx.word(deed).does("TFSVBO") > 0.5

    def hear(self, word: str) -> None:
        """A word of which it is told that it says something: `said May`."""
        self.acts[word] += 1
        self.wills[word] += 1

    def is_name(self, word: str) -> bool:
        """Whether a word that is nowhere in small letters is somebody's name: a first name that does something (twice, or what only somebody does, where the
        word is a plant, food or common: `Ivy covered the wall`), or any word that does so twice and once what only somebody does. Times (`Summer came`) and
        what cannot be counted (`Hope grew`) need that too."""
        low = word.casefold()
        acts, wills, meaning = self.acts[word], self.wills[word], lx.meaning(low)
        if is_time(word):
            return low in lx.first_names() and wills >= 1 and acts >= (1 if low not in lx.MODALS else 2)
        common = lx.word(low).pos.get("n", 0) >= _COMMON
        if low not in lx.first_names() or (common and meaning.share("XT") >= 0.5):
            return acts >= 2 and wills >= 1
        seldom = not common and meaning.share("NF") < 0.5
        return acts >= (1 if seldom or wills else 2)


def is_time(word: str) -> bool:
    """Whether a word with a capital is a day or a month."""
    return lx.capitals().get(word, "") == "T"


def _somebody_acts(words: Sequence[str]) -> bool:
    """Whether somebody and what they do stand first: `old dog sat on`."""
    deed = next((i for i, w in enumerate(words) if w in _HELPS or _deed(w)), 0)
    return deed > 0 and lx.living(words[deed - 1]) >= 0.45


def _deed(low: str) -> str:
    """The lemma of a finite verb in the past or the third person; empty for a word that is rather a noun, or no such form."""
    deed = next((v for v in lx.lemmas(low, "v") if v != low or low in lx.SAME_PAST), "")
    things = [n for n in lx.lemmas(low, "n") if n != low] if low.endswith("s") else []
    return "" if any(lx.word(n).pos.get("n", 0) > lx.word(deed).pos.get("v", 0) for n in things) else deed
