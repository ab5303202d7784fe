"""What follows in a sentence, before it is read: whether a verb comes, a list goes on, a clause begins."""

from __future__ import annotations

from collections.abc import Sequence

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.phrases import Phrases
from juxtaform.core.text.english.tagging import Token

_WANTED = lx.GRAMMAR.words("wanted")


class Ahead:
    """Looks ahead in the words of a sentence; places are numbers of words."""

    def __init__(self, tokens: Sequence[Token], find: Phrases) -> None:
        self._t, self._n, self._find = tokens, len(tokens), find

    def a_comma_and_a_verb(self, i: int) -> bool:
        """Whether a comma and a verb end what is told of somebody between commas: `, a small woman with earrings, looked`."""
        i = self.past_places(i)
        return i + 1 < self._n and self._t[i].text == "," and self._find.finite_at(i + 1)

    def past_places(self, i: int) -> int:
        """Behind the prepositional phrases that begin here: `from the second floor`."""
        for _ in range(2):
            if i + 1 < self._n and self._t[i].tag == "I" and (end := self._find.end(i + 1)) is not None:
                i = end + 1
        return i

    def begins_a_clause(self, j: int) -> bool:
        """Whether phrases that `and` joins, and nothing else, stand before a verb."""
        end = self._find.end(j)
        while end is not None and end + 1 < self._n and self._t[end + 1].low == "and":
            end = self._find.end(end + 2)
        return end is not None and self._find.finite_at(end + 1)

    def then(self, j: int) -> bool:
        """Whether `then` joins one more phrase to those before it: `the door, then the window`."""
        end = self._find.end(j + 1) if j + 1 < self._n and self._t[j].low == "then" else None
        return end is not None and not self._find.finite_at(self.past_places(end + 1))

    def list_goes_on(self, j: int) -> bool:
        """Whether phrases behind a comma end with `and` and one more, or are two or more and end the sentence: `a bell, a lemon, a ladder and a letter`."""
        for nth in range(6):
            other = self._find.end(j)
            if other is None:
                return False
            k = other + 1
            if k < self._n and self._t[k].tag == "I" and (inner := self._find.end(k + 1)) is not None:
                k = inner + 1
            if k < self._n and self._t[k].tag == "C" and self._t[k].low in ("and", "or"):
                return True
            if k + 1 < self._n and self._t[k].text == ",":
                j = k + 1
                if self._t[j].tag == "C" and self._t[j].low in ("and", "or"):
                    return True
                continue
            return nth >= 1 and k < self._n and self._t[k].text == "."
        return False

    def purpose(self, i: int) -> bool:
        """Whether `that` begins what somebody wants, not what comes of it: `so that the cat could see him`."""
        wanted = next((t.low for t in self._t[i + 1 :] if t.tag == "M" or t.text in (",", ";", ".")), "")
        return i > 0 and self._t[i - 1].low == "so" and wanted in _WANTED
