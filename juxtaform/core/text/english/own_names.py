"""What somebody says that they are called, and whose nickname stands inside a name."""

from __future__ import annotations

import re
from collections import defaultdict

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.register import Being, Register
from juxtaform.core.text.english.sentences import NICKNAMED
from juxtaform.core.text.names import is_common

_I_AM = re.compile(
    r"\b(?:I am|I[’']m|[Mm]y name is|[Mm]y name[’']s|[Tt]he name is|[Tt]he name[’']s|[Yy]ou (?:may|can) call me|[Cc]all me)\s+"
    r"((?:(?:Mr|Mrs|Ms|Dr)\.\s)?[A-ZÀ-Þ][\w’'\-]+(?:\s[A-ZÀ-Þ][\w’'\-]+)*)"
)
"""How somebody tells their name."""
MOST_TOLD = 3
"""So many names at most are weighed that one being gives itself."""


class OwnNames:
    """The names that beings give themselves in a text, heard speech by speech and settled when all of it is read."""

    def __init__(self, text: str) -> None:
        self._text = text
        self._told: defaultdict[str, list[tuple[Being, str, int]]] = defaultdict(list)

    def hear(self, who: Being | None, start: int, end: int) -> None:
        """Remember what somebody without a name says in `start`..`end` of how they are called."""
        if who is None or who.several or (who.name[:1].isupper() and not is_common(who.name.casefold())):
            return
        told = self._told[who.id]
        for m in _I_AM.finditer(self._text, start, end) if len(told) < MOST_TOLD else ():
            word = m.group(1).split()[0]
            no_name = word.casefold() in lx.PRONOUNS | lx.DETERMINERS | lx.OWNING
            if not no_name and lx.capitals().get(word, "") not in ("J", "T"):  # `I’m English`
                told.append((who, m.group(1), m.start()))

    def settle(self, cast: Register) -> None:
        """Whoever told their name has it: `“I’m Pip,” said the mouse.`"""
        for told in self._told.values():
            for who, name, at in told[:MOST_TOLD]:
                if who.id in cast.beings:
                    self._is_called(cast, who, name, at)

    def _is_called(self, cast: Register, who: Being, name: str, at: int) -> None:
        """A name that was there before is another's: `“I am Red,” said the wolf.`"""
        known = cast.named_by(name)
        called = known.name if known is not None else name
        first = re.search(rf"\b{re.escape(called)}\b", self._text, re.IGNORECASE)
        if first is not None and first.start() < at:
            return
        if known is None or known is who:
            cast.call(who, name)
        elif known.kind == "character" and not known.several and not (known.known and who.known):
            one, other = (who, known) if who.known else (known, who)
            cast.join(one, other)
            one.counted = True


def join_nicknames(cast: Register, text: str) -> None:
    """Who has a nickname inside their name is one: `DELPHINE “DEL” AMARA` is Del."""
    for m in NICKNAMED.finditer(text):
        whole, nick = cast.named_by(f"{m['first']} {m['last']}"), cast.named_by(m["nick"])
        if whole is None or whole.kind != "character" or whole is nick:
            continue
        if nick is None or nick.kind != "character" or (nick.known and whole.known):
            cast.call(whole, m["nick"])
        elif whole.known:
            cast.join(whole, nick)
        else:
            cast.join(nick, whole)
