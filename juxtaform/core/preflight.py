"""What a shot's words say against what is assigned to it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from juxtaform.core.names import Named, Reader


def named_but_absent(text: str, threads: Sequence[Named], assigned: set[str]) -> list[str]:
    """Ids of threads that a shot's words name although they do not run through it, in order of first mention."""
    mentions = _reader(tuple(threads)).mentions(text)
    return [t for t in dict.fromkeys(m.id for m in mentions) if t not in assigned]


@lru_cache(maxsize=8)
def _reader(threads: tuple[Named, ...]) -> Reader:
    return Reader(threads)
