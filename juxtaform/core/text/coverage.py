"""Which words of a text no shot covers, and which two or more do."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from juxtaform.core.text.manuscript import PICTURED, Manuscript


@dataclass(frozen=True)
class Gap:
    """Words that no shot covers, or that two or more do: their span and whose they are."""

    start: int
    end: int
    shots: tuple[str, ...] = field(default=())


def coverage(manuscript: Manuscript, spans: Sequence[tuple[str, int, int]]) -> list[Gap]:
    """Where the words that pictures should cover lie in no shot, or in two; spans as (shot, start, end).

    Blank and speechless stretches count for nothing; a gap keeps to one passage.
    """
    ordered = sorted(spans, key=lambda s: s[1])
    starts = [s[1] for s in ordered]
    longest = max((end - start for _, start, end in ordered), default=0)
    gaps: list[Gap] = []
    for passage in manuscript.passages:
        if passage.kind not in PICTURED:
            continue
        first = bisect_left(starts, passage.start - longest)
        near = []
        for shot, start, end in ordered[first:]:
            if start >= passage.end:
                break
            if end > passage.start:
                near.append((shot, max(start, passage.start), min(end, passage.end)))
        cuts = sorted({passage.start, passage.end, *(c for _, a, b in near for c in (a, b))})
        for a, b in pairwise(cuts):
            covering = tuple(shot for shot, start, end in near if start <= a and end >= b)
            if len(covering) != 1 and re.search(r"\w", manuscript.text[a:b]):
                lead = len(manuscript.text[a:b]) - len(manuscript.text[a:b].lstrip())
                gaps.append(Gap(a + lead, a + len(manuscript.text[a:b].rstrip()), covering))
    return gaps
