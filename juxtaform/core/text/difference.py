"""What differs between two texts, word by word."""

from __future__ import annotations

import re
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

_TOKEN = re.compile(r"\s+|[\w’'-]+|[^\w\s]")


@dataclass(frozen=True)
class Piece:
    """Words that both texts have, that only the new one has, or that only the old one had."""

    kind: Literal["same", "new", "gone"]
    words: str


def word_difference(old: str, new: str) -> list[Piece]:
    """The new text as pieces, with what is gone in between; same and new pieces together give the new text.

    >>> [(p.kind, p.words) for p in word_difference("Pell in a red coat.", "Pell in her red coat.")]
    [('same', 'Pell in '), ('gone', 'a'), ('new', 'her'), ('same', ' red coat.')]
    """
    a, b = _TOKEN.findall(old), _TOKEN.findall(new)
    out: list[Piece] = []
    for op, a0, a1, b0, b1 in SequenceMatcher(None, a, b, autojunk=False).get_opcodes():
        if op == "equal":
            out.append(Piece("same", "".join(b[b0:b1])))
            continue
        if a1 > a0:
            out.append(Piece("gone", "".join(a[a0:a1])))
        if b1 > b0:
            out.append(Piece("new", "".join(b[b0:b1])))
    return out
