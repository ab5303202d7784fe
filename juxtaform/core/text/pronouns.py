"""Who a pronoun names."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Sequence

from juxtaform.core.text.lexicon import CREATURES, GENDER
from juxtaform.core.text.names import Mention, Named

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
        self._persons = {t.id for t in self._threads.values() if t.name in ("I", "you")}
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
            fits = [i for i in group if i not in barred and i not in self._persons and self._side(i) in (side, "")]
            sure = [i for i in fits if self._side(i) == side] or fits
            if sure:
                self._votes[sure[0]][side] += weight
                return sure[:1]
        return []

    def _side(self, thread: str) -> str:
        votes = self._votes[thread]
        return votes.most_common(1)[0][0] if votes and votes.most_common(1)[0][1] > 0 else ""
