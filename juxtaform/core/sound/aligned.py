"""Words laid on a voice that says them: sentence ends on its pauses, the words between in proportion to their letters."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

import numpy as np

from juxtaform.core.run.along import SaidWord, said_words
from juxtaform.core.sound.laying import Piece
from juxtaform.core.sound.levels import Span

GAP_S = 0.16
"""A shorter pause may lie within a phrase."""
UNUSED_GAP, UNUSED_STOP, UNUSED_COMMA = 0.35, 0.5, 0.12
"""What it costs, as a part of the time said, that a pause has no mark, a sentence ends without a pause, a comma has none."""
LONG_S = 10_000.0


def said_in_voice(text: str, heard: Sequence[Span]) -> list[SaidWord]:
    """When each word of a text is said in a recording that says it, in s of the recording. `heard` are the spans in which something is heard, in order.

    Words take time in proportion to their letters (as in `said_words`, its pauses left out); marks are laid on pauses by a cheapest path (dynamic
    programming over marks and pauses in order), which costs how far a pause lies from where its mark is expected.

    >>> [round(w.start_s, 2) for w in said_in_voice("Come here. Now!", [(1.0, 2.0), (2.5, 3.0)])]
    [1.0, 1.5, 2.5]
    """
    words = said_words(text, LONG_S)
    spoken = [w for w in words if w.end_s > w.start_s]
    if not spoken or not heard:
        return []
    lengths = np.array([w.end_s - w.start_s for w in words])
    voiced = sum(b - a for a, b in heard)
    ends = np.cumsum(lengths) / lengths.sum() * voiced  # when each word ends, in voiced time
    gaps = _gaps(heard)
    marks = [
        (i, UNUSED_STOP if text[w.end - 1 : w.end] in "” \"')»" or text[w.end - 1] in ".!?…。！？" else UNUSED_COMMA)
        for i, w in enumerate(words[:-1])
        if not text[w.end - 1].isalnum()
    ]
    anchors = _matched([(float(ends[i]), cost) for i, cost in marks], [g[0] for g in gaps], max(voiced, 1e-6))
    known = {-1: 0.0, len(words) - 1: voiced} | {marks[m][0]: gaps[g][0] for m, g in anchors}
    after = {marks[m][0]: gaps[g][1] for m, g in anchors}
    at = np.interp(
        np.concatenate([[0.0], ends]),
        [0.0 if i < 0 else float(ends[i]) for i in sorted(known)],
        [known[i] for i in sorted(known)],
    )
    out = []
    for i, w in enumerate(words):
        start = after[i - 1] if i - 1 in after else _real(float(at[i]), heard, begins=True)
        out.append(SaidWord(w.start, w.end, start, max(start, _real(float(at[i + 1]), heard, begins=False))))
    return out


def words_in_voice(
    words: str, pieces: Sequence[Piece], begins: Mapping[str, float], paced: list[SaidWord]
) -> list[SaidWord]:
    """When each word of a shot is said, where lines have a voice: by it; the words between as far as there is time. `paced` are the words without one."""
    known: dict[int, tuple[float, float]] = {}
    at = {w.start: i for i, w in enumerate(paced)}
    for p in pieces:
        place = words.find(p.line) if p.kind == "voice" and p.line else -1
        if place < 0:
            continue
        for w in said_in_voice(p.line, p.spans):
            i = at.get(place + w.start)
            if i is not None:
                shift = begins[p.id] - p.from_s
                known[i] = (w.start_s + shift, w.end_s + shift)
    if not known:
        return paced
    fixed = sorted(known)
    first, last = fixed[0], fixed[-1]
    out = []
    for i, w in enumerate(paced):
        if i in known:
            start, end = known[i]
        elif i < first:
            scale = known[first][0] / max(paced[first].start_s, 1e-6)
            start, end = w.start_s * min(1.0, scale), w.end_s * min(1.0, scale)
        elif i > last:
            shift = known[last][1] - paced[last].end_s
            start, end = w.start_s + shift, w.end_s + shift
        else:
            before = max(j for j in fixed if j < i)
            after = min(j for j in fixed if j > i)
            a, b = known[before][1], max(known[before][1], known[after][0])
            start, end = (float(np.interp(j, (before + 1, after), (a, b))) for j in (i, i + 1))
        out.append(SaidWord(w.start, w.end, start, max(start, end)))
    return out


def _gaps(heard: Sequence[Span]) -> list[tuple[float, float]]:
    """Pauses as (voiced time before, when the voice goes on)."""
    out, voiced = [], 0.0
    for (start, end), (begins, _) in pairwise(heard):
        voiced += end - start
        if begins - end >= GAP_S:
            out.append((voiced, begins))
    return out


def _matched(marks: Sequence[tuple[float, float]], gaps: Sequence[float], whole: float) -> list[tuple[int, int]]:
    """Which mark lies on which pause, in order, at the least cost."""
    costs = np.zeros((len(marks) + 1, len(gaps) + 1))
    costs[1:, 0] = np.cumsum([cost for _, cost in marks])
    costs[0, 1:] = np.arange(1, len(gaps) + 1) * UNUSED_GAP
    for i, (at, cost) in enumerate(marks, 1):
        for j, gap in enumerate(gaps, 1):
            laid = costs[i - 1, j - 1] + 4 * abs(at - gap) / whole
            costs[i, j] = min(laid, costs[i - 1, j] + cost, costs[i, j - 1] + UNUSED_GAP)
    pairs: list[tuple[int, int]] = []
    i, j = len(marks), len(gaps)
    while i and j:
        if costs[i, j] == costs[i - 1, j - 1] + 4 * abs(marks[i - 1][0] - gaps[j - 1]) / whole:
            i, j = i - 1, j - 1
            pairs.append((i, j))
        elif costs[i, j] == costs[i - 1, j] + marks[i - 1][1]:
            i -= 1
        else:
            j -= 1
    return pairs[::-1]


def _real(voiced: float, heard: Sequence[Span], *, begins: bool) -> float:
    """A moment of voiced time in the recording's own; on the edge of a pause the side where a word begins or ends."""
    left = voiced
    for start, end in heard:
        length = end - start
        if left < length - 1e-9 or (not begins and left <= length + 1e-9):
            return start + max(0.0, left)
        left -= length
    return heard[-1][1]
