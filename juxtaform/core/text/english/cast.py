"""Who and what an English story has: names and nouns that act, speak or are spoken to; places that people are in, at or come to; things in hands.

Evidence is counted over the whole text before anybody is told: a name by its capital and what it does, a noun by what it means and what it does.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from juxtaform.core.text.english.evidence import Evidence
from juxtaform.core.text.english.people import People
from juxtaform.core.text.english.register import Register
from juxtaform.core.text.english.sentences import Read
from juxtaform.core.text.english.things import find_places, find_things
from juxtaform.core.text.english.whereabouts import Moved
from juxtaform.core.text.names import Named


class Cast(Register):
    """All that a text names, told by reading its sentences once. `known` are threads that are there already; the rest has ids that begin with `new:`."""

    def __init__(
        self,
        reads: Sequence[Read],
        spoken_to: Counter[str],
        talked_of: frozenset[str],
        cues: Counter[str],
        known: Sequence[Named],
        went: Mapping[int, Moved],
        *,
        in_fragments: bool = False,
    ) -> None:
        super().__init__(known)
        seen = Evidence(reads, went, in_fragments=in_fragments)
        People(self, seen).find(spoken_to, talked_of, cues)
        find_places(self, seen)
        find_things(self, seen)
        self.me = tuple(dict.fromkeys(seen.me))
        """What who tells the story calls itself."""
