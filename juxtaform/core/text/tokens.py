"""The plain words of a text, for asking cheaply whether a costlier look can find anything at all."""

from __future__ import annotations

import re
from functools import lru_cache

_WORD = re.compile(r"[a-z]+")


@lru_cache(maxsize=32768)
def tokens(text: str) -> frozenset[str]:
    """Runs of letters in lower case; hyphens and apostrophes part words.

    >>> sorted(tokens("Cut-paper, Pell’s!"))
    ['cut', 'paper', 'pell', 's']
    """
    return frozenset(_WORD.findall(text.casefold()))
