"""Words in a row, as they are spoken."""

from __future__ import annotations

from collections.abc import Sequence


def listed(words: Sequence[str]) -> str:
    """Some words as a list with `and` before the last. Raises IndexError for none.

    >>> listed(["softer", "darker", "moved"]), listed(["softer"])
    ('softer, darker and moved', 'softer')
    """
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
