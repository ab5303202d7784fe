"""Who speaks, told among the words that are spoken without a mark: `« Oui, dit-il. Viens. »`."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from juxtaform.core.text.languages import Grammar


@lru_cache(maxsize=2)
def _aside(grammar: Grammar) -> re.Pattern[str]:
    def any_of(words: frozenset[str] | dict[str, str]) -> str:
        return "|".join(re.escape(w) for w in sorted(words, key=lambda w: -len(w)))

    pronouns = any_of(frozenset(grammar.pronouns))
    before = any_of(
        frozenset(w for w in grammar.determiners if len(w) > 1) | frozenset(grammar.titles) | frozenset(grammar.ranks)
    )
    return re.compile(
        rf"(?<=[,!?…»])\s*(?P<told>(?:s['’])?(?:{any_of(grammar.saying)})(?:-t)?(?:-(?:{pronouns})\b|\s+(?:(?:{before})\b|[lL]['’]|[A-ZÀ-Ý]))[^.,!?…:»\n]*)[.,:!?…]*"
    )


def parted(text: str, start: int, end: int, grammar: Grammar) -> Iterator[tuple[int, int]]:
    """The words spoken in text[start:end] without what tells who speaks.

    >>> from juxtaform.core.text.languages import FRENCH
    >>> text = "« Oui, dit-il. Viens. »"
    >>> [text[a:b] for a, b in parted(text, 0, len(text), FRENCH.grammar)]
    ['« Oui,', 'Viens. »']
    """
    at = start
    for m in _aside(grammar).finditer(text, start, end):
        if m.start() > at:
            yield at, m.start()
        at = m.end()
        while at < end and text[at].isspace():
            at += 1
    if re.search(r"\w", text[at:end]):
        yield at, end
