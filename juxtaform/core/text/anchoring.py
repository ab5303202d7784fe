"""When a text was changed: where each covered stretch of it stands now.

Old and new text are compared as words, not by offsets: stretches that stand once in both (runs of words) are matched
first and put in order by the longest increasing subsequence (the idea of patience sorting, used for comparing texts by
B. Cohen), the gaps between them are compared in full. What was moved elsewhere is looked for among the words that are
new there.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher

TOKEN = re.compile(r"\w+(?:['’]\w+)*|[^\w\s]")
RUN = 4
"""Words in a row that must stand once in both texts to be matched at once."""
GAP_MOST = 4_000_000
"""A gap is compared in full when its sides' words, multiplied, stay below this; a larger one was rewritten."""
KEPT_SHARE = 0.34
"""A stretch of which less than this part of the words is left is not the same words any more."""


@dataclass(frozen=True)
class Span:
    """A stretch `start`..`end` (characters) of a text, and whose it is."""

    id: str
    start: int
    end: int


@dataclass(frozen=True)
class Anchored:
    """Where a stretch stands in the new text; `share` of its words is still there; `moved` out of its old order."""

    id: str
    start: int
    end: int
    share: float
    moved: bool = False


@dataclass(frozen=True)
class Lost:
    """A stretch that is not in the new text any more, with the words it had."""

    id: str
    words: str


def anchored(old: str, new: str, spans: Sequence[Span]) -> tuple[list[Anchored], list[Lost]]:
    """Each span of the old text in the new one, or what is lost, in the spans' order.

    Words typed inside a stretch belong to it, words put in place of some of it too; words put between two stretches
    belong to neither.

    >>> anchored("One fell. Two ran.", "Zero. One fell down. Two ran.", [Span("a", 0, 9), Span("b", 10, 18)])[0]
    [Anchored(id='a', start=6, end=20, share=1.0, moved=False), Anchored(id='b', start=21, end=29, share=1.0, moved=False)]
    """
    a, b = _Tokens(old), _Tokens(new)
    partner = _matched(a.words, b.words)
    taken = {j for j in partner if j >= 0}
    places: dict[tuple[str, ...], list[int]] | None = None
    found: list[Anchored] = []
    lost: list[Lost] = []
    for span in spans:
        first, last = a.within(span.start, span.end)
        if first > last:
            lost.append(Lost(span.id, old[span.start : span.end].strip()))
            continue
        partners = [j for j in partner[first : last + 1] if j >= 0]
        share = len(partners) / (last + 1 - first)
        if share >= KEPT_SHARE:
            left, right = _edges(partner, first, last, partners, len(b.words))
            end = _with_its_stop(old[span.start : span.end].rstrip(), new, b.ends[right])
            found.append(Anchored(span.id, b.starts[left], end, share))
            continue
        places = _places(b.words, taken) if places is None else places
        if (place := _elsewhere(a.words[first : last + 1], b.words, taken, places)) is not None:
            left, right, part = place
            taken.update(range(left, right + 1))
            found.append(Anchored(span.id, b.starts[left], b.ends[right], part, moved=True))
        else:
            lost.append(Lost(span.id, old[span.start : span.end].strip()))
    return found, lost


class _Tokens:
    def __init__(self, text: str) -> None:
        matches = list(TOKEN.finditer(text))
        self.words = [m.group() for m in matches]
        self.starts = [m.start() for m in matches]
        self.ends = [m.end() for m in matches]

    def within(self, start: int, end: int) -> tuple[int, int]:
        return bisect_left(self.starts, start), bisect_left(self.starts, end) - 1


def _matched(a: list[str], b: list[str]) -> list[int]:
    """For each old word the new word that it is, or -1; increasing."""
    partner = [-1] * len(a)
    head = 0
    while head < min(len(a), len(b)) and a[head] == b[head]:
        partner[head] = head
        head += 1
    tail = 0
    while tail < min(len(a), len(b)) - head and a[-1 - tail] == b[-1 - tail]:
        tail += 1
        partner[len(a) - tail] = len(b) - tail
    last_a, last_b = head, head
    for i, j in [*_anchors(a, b, head, tail), (len(a) - tail, len(b) - tail)]:
        _fill(a, b, (last_a, i), (last_b, j), partner)
        if i < len(a) - tail:
            partner[i] = j
            last_a, last_b = i + 1, j + 1
    return partner


def _anchors(a: list[str], b: list[str], head: int, tail: int) -> list[tuple[int, int]]:
    """Pairs of words that begin a run standing once in both, in order in both."""
    here, there = _once(a, head, len(a) - tail), _once(b, head, len(b) - tail)
    pairs = sorted((i, there[run]) for run, i in here.items() if run in there)
    tops: list[int] = []
    chain: list[int] = []
    before: list[int] = []
    for n, (_, j) in enumerate(pairs):
        at = bisect_left(tops, j)
        if at == len(tops):
            tops.append(j)
            chain.append(n)
        else:
            tops[at], chain[at] = j, n
        before.append(chain[at - 1] if at else -1)
    found: list[tuple[int, int]] = []
    n = chain[-1] if chain else -1
    while n >= 0:
        found.append(pairs[n])
        n = before[n]
    return found[::-1]


def _once(words: list[str], start: int, end: int) -> dict[tuple[str, ...], int]:
    seen: dict[tuple[str, ...], int] = {}
    for i in range(start, end - RUN + 1):
        run = tuple(words[i : i + RUN])
        seen[run] = -1 if run in seen else i
    return {run: i for run, i in seen.items() if i >= 0}


def _fill(a: list[str], b: list[str], old: tuple[int, int], new: tuple[int, int], partner: list[int]) -> None:
    size = (old[1] - old[0]) * (new[1] - new[0])
    if not 0 < size <= GAP_MOST:
        return
    blocks = SequenceMatcher(None, a[old[0] : old[1]], b[new[0] : new[1]], autojunk=False).get_matching_blocks()
    for block in blocks:
        for k in range(block.size):
            partner[old[0] + block.a + k] = new[0] + block.b + k


def _edges(partner: list[int], first: int, last: int, partners: list[int], count: int) -> tuple[int, int]:
    """The new words that a stretch reaches from and to; replaced words at its edges count, added ones do not."""
    left, right = partners[0], partners[-1]
    lead = next(k for k in range(first, last + 1) if partner[k] >= 0) - first
    trail = last - next(k for k in range(last, first - 1, -1) if partner[k] >= 0)
    if lead:
        before = next((k for k in range(first - 1, -1, -1) if partner[k] >= 0), -1)
        gap_old, gap_new = first + lead - before - 1, left - (partner[before] + 1 if before >= 0 else 0)
        left -= round(gap_new * lead / gap_old)
    if trail:
        after = next((k for k in range(last + 1, len(partner)) if partner[k] >= 0), len(partner))
        gap_old = after - (last - trail) - 1
        gap_new = (partner[after] if after < len(partner) else count) - right - 1
        right += round(gap_new * trail / gap_old)
    return left, right


def _with_its_stop(old: str, new: str, end: int) -> int:
    """The end of a stretch with the stop and the closing quotes that it had, where they stand there still."""
    tail = len(old) - len(old.rstrip(".!?…”’\"')"))
    had = old[len(old) - tail :]
    for n in range(tail, 0, -1):
        if new.startswith(had[-n:], end):
            return end + n
    return end


def _elsewhere(
    words: list[str], new: list[str], taken: set[int], places: dict[tuple[str, ...], list[int]]
) -> tuple[int, int, float] | None:
    """The longest stretch of free new words that holds most of these words in a row."""
    best: tuple[int, int, float] | None = None
    for i in range(len(words) - RUN + 1):
        for j in places.get(tuple(words[i : i + RUN]), ()):
            if j in taken or (best and best[0] <= j <= best[1]):
                continue
            size = RUN
            while i + size < len(words) and j + size < len(new) and words[i + size] == new[j + size]:
                size += 1
            if best is None or size > best[1] - best[0] + 1:
                best = (j, j + size - 1, size / len(words))
    return best if best and best[2] >= KEPT_SHARE else None


def _places(words: list[str], taken: set[int]) -> dict[tuple[str, ...], list[int]]:
    """Where each run of free words stands; runs that stand in many places tell nothing and are left out."""
    found: dict[tuple[str, ...], list[int]] = {}
    for j in range(len(words) - RUN + 1):
        if j not in taken:
            found.setdefault(tuple(words[j : j + RUN]), []).append(j)
    return {run: js for run, js in found.items() if len(js) <= 4}
