"""Versions of references: which ones hold at a shot, and what was made from an older one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Edition:
    """A reference as a version: the one that it replaces (None: it is a first one), and the index of the shot from which it
    holds (0: everywhere)."""

    id: str
    thread: str
    replaces: str | None = None
    from_index: int = 0


class Editions:
    """All versions of a project's references.

    >>> e = Editions([Edition("a", "pell"), Edition("b", "pell", "a", 8), Edition("c", "pell", "b", 10)])
    >>> [e.at("a", i) for i in (0, 7, 8, 9, 10)], e.holds("a", 8), e.stale(["a"], 9)
    (['a', 'a', 'b', 'b', 'c'], False, [('a', 'b')])
    """

    def __init__(self, editions: Sequence[Edition]) -> None:
        self._by_id = {e.id: e for e in editions}
        self._after: defaultdict[str, list[Edition]] = defaultdict(list)
        for e in editions:
            if e.replaces is not None and e.replaces in self._by_id:
                self._after[e.replaces].append(e)

    def at(self, reference: str, index: int) -> str:
        """The version of a reference that holds at a shot."""
        seen = {reference}
        while True:
            following = [e for e in self._after[reference] if e.from_index <= index and e.id not in seen]
            if not following:
                return reference
            reference = max(following, key=lambda e: e.from_index).id
            seen.add(reference)

    def holds(self, reference: str, index: int) -> bool:
        """Whether a reference is in force at a shot: it has begun to hold, and nothing has replaced it there."""
        edition = self._by_id.get(reference)
        return edition is not None and self._begun(edition, index) and self.at(reference, index) == reference

    def newest(self, reference: str) -> bool:
        """Whether nothing replaces a reference, at any shot."""
        return reference in self._by_id and not self._after[reference]

    def together(self, one: str, other: str) -> bool:
        """Whether two references are in force at a same shot: the later of them begins while the earlier still holds.

        >>> e = Editions([Edition("a", "pell"), Edition("b", "pell", "a", 8), Edition("side", "pell")])
        >>> e.together("a", "b"), e.together("b", "side")
        (False, True)
        """
        begin = max(
            (e.from_index for r in (one, other) if (e := self._by_id.get(r)) and e.replaces in self._by_id), default=0
        )
        return self.holds(one, begin) and self.holds(other, begin)

    def _begun(self, edition: Edition, index: int) -> bool:
        return edition.replaces not in self._by_id or edition.from_index <= index

    def stale(self, made_from: Iterable[str], index: int) -> list[tuple[str, str]]:
        """Those of the references that something was made from which another has replaced at that shot, each with the newer."""
        pairs = ((r, self.at(r, index)) for r in made_from if r in self._by_id)
        return [(old, new) for old, new in pairs if new != old]
