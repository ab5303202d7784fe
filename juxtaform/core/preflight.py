"""What a shot's words say against what is assigned to it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Named:
    """A thread's id, name and aliases, as they may stand in a text."""

    id: str
    name: str
    aliases: tuple[str, ...] = ()


def names_in(text: str, threads: Sequence[Named]) -> list[str]:
    """Ids of the threads whose name or an alias stands in the text, in order of first mention.

    Whole words only, with or without a possessive ending; names are matched with their capitals, since a common word
    that is also a name is a name only when capitalised. Longer names win over shorter ones inside them.

    >>> names_in("Oda’s boat, and Pell.", [Named("p", "Pell"), Named("o", "Oda"), Named("b", "Boat")])
    ['o', 'p']
    """
    spellings = sorted(
        ((word, t.id) for t in threads for word in (t.name, *t.aliases) if word.strip()), key=lambda pair: -len(pair[0])
    )
    found: dict[str, int] = {}
    taken: list[tuple[int, int]] = []
    for word, thread in spellings:
        pattern = r"(?<![\w])" + re.escape(word.strip()) + r"(?:['’]s|s['’]|['’])?(?![\w])"
        for match in re.finditer(pattern, text):
            if any(a < match.end() and match.start() < b for a, b in taken):
                continue
            taken.append(match.span())
            found[thread] = min(found.get(thread, match.start()), match.start())
    return sorted(found, key=lambda thread: found[thread])


def named_but_absent(text: str, threads: Sequence[Named], assigned: set[str]) -> list[str]:
    """Ids of threads that a shot's words name although they do not run through it."""
    return [thread for thread in names_in(text, threads) if thread not in assigned]
