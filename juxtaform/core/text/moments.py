"""Sentences grouped into moments that one picture can show: the best way to part a scene, all evidence weighed together.

Between two sentences stand signs for and against a new picture; each has a weight (log odds). What a moment holds has a price by its length, from how many words
a picture of this medium usually has. The parting with the best sum is found by dynamic programming over the places where a picture may begin (Bellman 1957),
so that a long moment is cut where that costs least. The weights were set on texts broken down by hand (`bench/story.py` prints what they do on others).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log

from juxtaform.core.text.piece import Piece

LONGEST = 14
"""Sentences that one moment holds at the most."""
SIGNS: dict[str, tuple[float, str]] = {
    "base": (-0.6, ""),
    "a new place": (2.0, "a new place"),
    "the place is left": (0.8, "the place is left"),
    "first seen": (1.0, "somebody new"),
    "comes back": (0.5, "somebody else acts"),
    "others act": (0.3, "somebody else acts"),
    "same actor": (-0.3, ""),
    "no actor after actor": (-0.3, "the eye goes elsewhere"),
    "time": (2.0, "a new time"),
    "then": (0.6, "a turn"),
    "but": (0.2, "a turn"),
    "and": (0.0, "a turn"),
    "so": (0.2, "a turn"),
    "when": (0.5, "a turn"),
    "where": (0.6, "the eye goes elsewhere"),
    "there": (0.0, "something is there"),
    "pronoun": (-0.2, ""),
    "exists": (0.1, "somebody new"),
    "speech begins": (0.4, "somebody speaks"),
    "speech goes on": (-0.8, ""),
    "an answer": (-0.3, "an answer"),
    "speech ends": (0.6, "after what was said"),
    "still": (-0.6, ""),
    "a paragraph": (1.9, "a new paragraph"),
    "short": (-0.2, ""),
    "short before": (-0.5, ""),
}
"""Each sign's weight and what it says to whoever asks why a picture begins; an empty word is a sign against."""
SURE = 0.6
"""From this confidence on a moment is taken with all others; below it somebody looks first."""
SPREAD = 0.55
"""How much the length of moments varies (the standard deviation of its logarithm)."""


@dataclass(frozen=True)
class Moment:
    """Pieces that one picture shows, why it begins, and how sure that is (0..1)."""

    pieces: tuple[Piece, ...]
    why: str
    sure: float


def signs(before: Sequence[Piece], piece: Piece, seen: frozenset[str]) -> dict[str, float]:
    """What speaks for and against a new picture at a piece, by the pieces before it (nearest last) and who was seen so far in the scene: 0 or 1 each."""
    last = before[-1]
    found: dict[str, float] = {"base": 1.0}

    def sign(name: str, holds: bool) -> None:
        if holds:
            found[name] = 1.0

    near = {p for x in before[-3:] for p in x.people}
    actors, acted = set(piece.actors), set(last.actors)
    sign("a new place", piece.new_place)
    sign("the place is left", piece.left_place)
    lead = piece.actors[0] if piece.actors else piece.lead
    fresh = bool(lead) and lead not in seen
    sign("first seen", fresh)
    sign("comes back", bool(lead) and not fresh and lead not in near)
    sign("others act", bool(actors) and bool(acted) and not actors & acted and lead in near)
    sign("same actor", bool(actors & acted))
    sign("no actor after actor", not actors and bool(acted) and not piece.still)
    sign(piece.opening, piece.opening in ("time", "then", "but", "and", "so", "when", "where", "there", "pronoun"))
    sign("exists", piece.exists)
    if piece.speech:
        if not last.speech:
            sign("speech begins", True)
        else:
            same = bool(piece.lines) and bool(last.lines) and piece.lines[0].speaker == last.lines[-1].speaker
            sign("speech goes on", same or piece.dialogue)
            sign("an answer", not same)
    else:
        sign("speech ends", last.speech)
    sign("still", piece.still and not piece.new_place)
    sign("a paragraph", piece.begins_paragraph)
    sign("short", piece.words < 5)
    sign("short before", sum(x.words for x in before[-2:]) < 6)
    return found


def moments(
    pieces: Sequence[Piece], words: float, wanted: int | None = None, first_why: str = "a scene begins"
) -> list[Moment]:
    """The best parting of a scene's pieces. `words` is how many a picture usually has; `wanted` how many pictures are wanted, if somebody said so."""
    n = len(pieces)
    if not n:
        return []
    odds = [0.0] * n
    whys = [first_why] * n
    seen: set[str] = set(pieces[0].people)
    for i in range(1, n):
        found = signs(pieces[max(0, i - 3) : i], pieces[i], frozenset(seen))
        odds[i] = sum(SIGNS[name][0] * value for name, value in found.items())
        told = [(SIGNS[name][0] * value, SIGNS[name][1]) for name, value in found.items() if SIGNS[name][1]]
        whys[i] = max(told, default=(0.0, ""))[1] or "enough for one picture"
        if max(told, default=(0.0, ""))[0] <= 0:
            whys[i] = "enough for one picture"
        seen.update(pieces[i].people)
    lengths = [0]
    for p in pieces:
        lengths.append(lengths[-1] + max(1, p.words))
    usual = log(max(4.0, words))

    def price(a: int, b: int) -> float:
        """What a moment of the pieces a..b costs by its length."""
        z = max(-2.0, (log(lengths[b] - lengths[a]) - usual) / SPREAD)
        return 0.5 * (z * z if z > 0 else 0.6 * z * z)

    def part(push: float) -> list[int]:
        best = [0.0] * (n + 1)
        came = [0] * (n + 1)
        for b in range(1, n + 1):
            best[b], came[b] = max(
                (best[a] - price(a, b) + (odds[a] + push if a else 0.0), a) for a in range(max(0, b - LONGEST), b)
            )
        starts, b = [], n
        while b:
            b = came[b]
            starts.append(b)
        return starts[::-1]

    starts = part(0.0)
    if wanted is not None:
        low, high = -8.0, 8.0
        for _ in range(24):
            push = (low + high) / 2
            starts = part(push)
            if len(starts) == wanted:
                break
            low, high = (push, high) if len(starts) < wanted else (low, push)
    made = []
    for k, a in enumerate(starts):
        b = starts[k + 1] if k + 1 < len(starts) else n
        begun = starts[k - 1] if k else 0
        margin = odds[a] + price(begun, b) - price(begun, a) - price(a, b) if a else 6.0
        made.append(
            Moment(
                tuple(pieces[a:b]),
                whys[a] if odds[a] > 0 or not a else "enough for one picture",
                1 / (1 + exp(-margin)),
            )
        )
    return made
