"""Who says what: the subject of a verb of saying, who acts beside bare words, or the other one of two who talk."""

from __future__ import annotations

import re

from juxtaform.core.text.english.cast import Cast
from juxtaform.core.text.english.pronouns import Memory
from juxtaform.core.text.english.register import Being
from juxtaform.core.text.english.sentences import Read
from juxtaform.core.text.manuscript import Passage

CALLED_TO = re.compile(
    r"(?:^|[,.!?…—–“‘\"']\s*|\b(?:[Hh]ello|[Dd]ear|[Oo]h|[Yy]es|[Nn]o|[Gg]ood (?:morning|night|evening|day)|[Tt]hank you|[Cc]ome on|[Pp]lease),?\s+)"
    r"((?:(?:Mr|Mrs|Ms|Dr)\.?\s)?[A-ZÀ-Þ][\w’'\-]+(?:\s[A-ZÀ-Þ][\w’'\-]+)?|mother|father|mum|dad|grandma|grandpa|sir|madam|child)(?=[,.!?…—–”’\"']|$)"
)
"""Somebody who is called by name or as what they are, within what is said; the first group is what they are called."""


class Speakers:
    """Tells who speaks in the sentences of a text."""

    def __init__(self, cast: Cast, text: str) -> None:
        self._cast, self._text = cast, text

    def of(
        self, read: Read, memory: Memory, people: list[Being], actors: list[Being], behind: Read | Passage | None
    ) -> Being | None:
        """Who says what is said in a sentence: the subject of a verb of saying, who acts in it or right behind it, else the other one of two who talk."""
        for deed in read.sentence.deeds:
            if deed.does("S") > 0.35 or deed.verb in ("go", "smile", "laugh", "sigh", "gasp", "nod") or deed.says:
                for p in deed.subjects:
                    for who in memory.who.get(id(p), []):
                        if who.kind == "character":
                            return who
        if read.sentence.deeds and actors:
            return next((a for a in actors if a.kind == "character"), None)
        rest = [t for t in read.sentence.tokens if t.tag not in "Q.,"]
        if rest and people:
            return people[0]
        if rest:
            return self._acts_behind(behind, revealed=True)  # `“Me,” said a voice. It was Tom.`
        if not read.begins_paragraph and memory.speakers and memory.said_last and not self._flows(read):
            return memory.speakers[-1]
        if (acting := self._acts_behind(behind)) is not None:
            return acting  # `“Hello.” Tom waved.`
        if len(memory.speakers) > 1 and memory.said_last:
            near = {id(b) for r in memory.recent[-4:] for b in r.people}
            others = [s for s in reversed(memory.speakers[:-1]) if s is not memory.speakers[-1]]
            if any(id(s) in near for s in others) or len(near) < 2:
                return next((s for s in others if id(s) in near), next(iter(others), memory.speakers[-1]))
        around = [b for r in reversed(memory.recent) for b in r.people if b.kind == "character" and b.counted]
        text = self._text
        called = [self._cast.spoken_to(m.group(1)) for a, b in read.said for m in CALLED_TO.finditer(text[a:b])]
        return next(
            (
                b
                for b in around
                if b not in called and (not memory.speakers or b is not memory.speakers[-1] or not memory.said_last)
            ),
            None,
        )

    def _acts_behind(self, behind: Read | Passage | None, *, revealed: bool = False) -> Being | None:
        """Who is told of right behind bare words, in the same paragraph and by name or noun; where it is only `revealed`, by `It was Tom`."""
        if not isinstance(behind, Read) or behind.begins_paragraph or behind.said or not behind.sentence.deeds:
            return None
        deed = behind.sentence.deeds[0]
        it_is = deed.verb == "be" and not deed.denied and [s.pronoun for s in deed.subjects] == ["it"]
        told = deed.objects[:1] if it_is else [] if revealed else deed.subjects
        if len(told) != 1 or told[0].pronoun or told[0].unreal or (not it_is and told[0].first > 1):
            return None
        who = self._cast.named(told[0]) or next(iter(self._cast.noun(told[0])), None)
        known = who is not None and who.kind == "character" and who.counted and not who.several
        return who if known and (it_is or told[0].det not in ("a", "an")) else None

    def _flows(self, read: Read) -> bool:
        """Whether bare speeches follow each other on one line, as replies in a text without paragraphs do."""
        before = self._text[max(0, read.start - 2) : read.start].rstrip()
        return before[-1:] in "”’\"'»" and bool(before)
