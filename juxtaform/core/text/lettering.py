"""Whether a description asks for letters in the picture."""

from __future__ import annotations

import re

_NAMES = re.compile(
    r"\b(?:letter(?:s|ing|ed)?|sign(?:s|post|posts|board)?|poster|placard|banner|label|labels|labelled|headline|caption|title|text|writ(?:es|ing|ten)|"
    r"inscri(?:bed|ption)|engraved|newspaper|note|book|page|map|shop ?front|speech (?:balloon|bubble)|reads? “|says “)\b",
    re.IGNORECASE,
)


def names_lettering(words: str) -> bool:
    """Whether the words of a description speak of something that carries letters.

    >>> names_lettering("A sign over the door"), names_lettering("Pell waits on the bottom step")
    (True, False)
    """
    return bool(_NAMES.search(words))
