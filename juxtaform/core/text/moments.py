"""Sentences grouped into moments that one picture can show: the best way to part a scene, all evidence weighed together.

Between two sentences stand signs for and against a new picture; each has a weight (log odds). What a moment holds has a price by its length, from how many words
a picture of this medium usually has. The parting with the best sum is found by dynamic programming over the places where a picture may begin (Bellman 1957),
so that a long moment is cut where that costs least. The weights are the likeliest ones on texts broken down by hand (`tools/fit_story.py`; a semi-Markov random
field, Sarawagi and Cohen 2004); `bench/story.py` prints what they do on others.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import groupby
from math import exp, log

from juxtaform.core.text.piece import Piece
from juxtaform.core.text.weights import weights_in

LONGEST = 14
"""Sentences that one moment holds at the most."""
WHY = {
    "a new place": "a new place",
    "the place is left": "the place is left",
    "first seen": "somebody new",
    "comes back": "somebody else acts",
    "others act": "somebody else acts",
    "all others": "others are seen",
    "more people": "somebody comes along",
    "no actor after actor": "the eye goes elsewhere",
    "time": "a new time",
    "then": "a turn",
    "but": "a turn",
    "and": "a turn",
    "so": "a turn",
    "when": "a turn",
    "where": "the eye goes elsewhere",
    "there": "something is there",
    "exists": "somebody new",
    "speech begins": "somebody speaks",
    "another speaks": "somebody speaks",
    "speech goes on": "more is said",
    "an answer": "an answer",
    "speech ends": "after what was said",
    "a question": "after a question",
    "a thing comes back": "something comes back",
    "a paragraph": "a new paragraph",
    "a script's line": "a new paragraph",
    "a paragraph of speech": "somebody speaks",
    "a paragraph after speech": "after what was said",
    "a reply's paragraph": "an answer",
}
"""What signs say to whoever asks why a picture begins; the others say nothing."""
A_PANEL, A_PAGE, A_PART = "a panel", "a page", "a part of its own"
"""Why a picture begins where a comic script, or the manuscript of a picture book, says so."""
SURE = 0.6
"""From this confidence on a moment is taken with all others; below it somebody looks first."""
SPREAD = 0.5
"""How much the length of moments varies (the standard deviation of its logarithm)."""


@dataclass(frozen=True)
class Moment:
    """Pieces that one picture shows, why it begins, and how sure that is (0..1)."""

    pieces: tuple[Piece, ...]
    why: str
    sure: float


def weights() -> dict[str, float]:
    """Each sign's weight, in log odds."""
    return weights_in("juxtaform.core.text", "moments.tsv")


@dataclass
class Seen:
    """Who was seen in a scene so far, and at which piece each noun was last named."""

    people: set[str]
    nouns: dict[str, int]

    def add(self, at: int, piece: Piece) -> None:
        self.people.update(piece.people)
        self.nouns.update(dict.fromkeys(piece.nouns, at))


def scene_signs(pieces: Sequence[Piece]) -> list[dict[str, float]]:
    """What speaks for and against a new picture at each piece of a scene: 0 or 1 each; nothing at the first."""
    seen = Seen(set(), {})
    found: list[dict[str, float]] = []
    for i, piece in enumerate(pieces):
        after = pieces[i + 1] if i + 1 < len(pieces) else None
        found.append(signs(pieces[max(0, i - 3) : i], piece, after, seen, i) if i else {})
        seen.add(i, piece)
    return found


def signs(before: Sequence[Piece], piece: Piece, after: Piece | None, seen: Seen, at: int) -> dict[str, float]:
    """The signs at the piece `at`, by the pieces before it (nearest last), the one behind it, and what was seen so far in the scene."""
    last = before[-1]
    near = {p for x in before[-3:] for p in x.people}
    lately = {p for x in before[-2:] for p in x.people}
    people, actors, acted = set(piece.people), set(piece.actors), set(last.actors)
    lead = piece.actors[0] if piece.actors else piece.lead
    fresh = bool(lead) and lead not in seen.people
    named_at = [seen.nouns[n] for n in piece.nouns if n in seen.nouns]
    holds = {
        "base": True,
        "a new place": piece.new_place,
        "the place is left": piece.left_place,
        "first seen": fresh,
        "comes back": bool(lead) and not fresh and lead not in near,
        "others act": bool(actors) and bool(acted) and not actors & acted and lead in near,
        "same actor": bool(actors & acted),
        "named again": bool(actors & acted) and piece.opening in ("name", "noun"),
        "no actor after actor": not actors and bool(acted) and not piece.still,
        "all others": bool(people) and bool(lately) and not people & lately,
        "more people": bool(people - lately) and bool(people & lately),
        "fewer people": bool(people) and people < set(last.people),
        piece.opening: piece.opening in ("time", "then", "but", "and", "so", "when", "where", "there", "pronoun"),
        "exists": piece.exists,
        "still": piece.still and not piece.new_place,
        "a thing stays": any(n == at - 1 for n in named_at),
        "a thing comes back": any(n < at - 3 for n in named_at),
        **_of_paragraph(last, piece),
        "a question": last.text.rstrip("”’\"' ").endswith("?"),
        "short": piece.words < 5,
        "rather short": piece.words <= 7,
        "long": piece.words >= 18,
        "long before": last.words >= 18,
        "short before": sum(x.words for x in before[-2:]) < 6,
        "then speech": not piece.speech and after is not None and after.speech,
    }
    return {name: 1.0 for name, value in (holds | _of_speech(last, piece)).items() if value}


def _of_paragraph(last: Piece, piece: Piece) -> dict[str, bool]:
    """The signs of a new paragraph at a piece behind another: each who speaks has one, whether the picture changes or not."""
    if not piece.begins_paragraph:
        return {}
    if piece.in_script:
        return {"a script's line": True}
    replies = piece.opening == "speech"
    return {
        "a paragraph": not replies and not last.speech,
        "a paragraph of speech": replies and not last.speech,
        "a paragraph after speech": not replies and last.speech,
        "a reply's paragraph": replies and last.speech,
    }


def _of_speech(last: Piece, piece: Piece) -> dict[str, bool]:
    """The signs of speech at a piece behind another."""
    if not piece.speech:
        return {"speech ends": last.speech}
    speaker = piece.lines[0].speaker if piece.lines else ""
    if not last.speech:
        return {"speech begins": True, "another speaks": bool(speaker) and speaker not in last.people}
    same = bool(piece.lines) and bool(last.lines) and speaker == last.lines[-1].speaker
    return {"speech goes on": same or piece.dialogue, "an answer": not same}


def price(words: float, usual: float) -> float:
    """What a moment of so many words costs where pictures usually have `usual`: a log-normal for long ones, a little cheaper for short ones."""
    z = max(-2.0, (log(words) - log(max(4.0, usual))) / SPREAD)
    return 0.5 * (z * z if z > 0 else 0.6 * z * z)


def lengths(pieces: Sequence[Piece]) -> list[int]:
    """How many words there are before each piece, and in all."""
    found = [0]
    for p in pieces:
        found.append(found[-1] + max(1, p.words))
    return found


def best_parting(odds: Sequence[float], cost: Callable[[int, int], float]) -> list[int]:
    """Where the moments of the best parting begin; `odds` at each piece, `cost(a, b)` of a moment of the pieces a..b. The first begins at 0 in any case."""
    n = len(odds)
    best = [0.0] * (n + 1)
    came = [0] * (n + 1)
    for b in range(1, n + 1):
        best[b], came[b] = max(
            (best[a] - cost(a, b) + (odds[a] if a else 0.0), a) for a in range(max(0, b - LONGEST), b)
        )
    starts, b = [], n
    while b:
        b = came[b]
        starts.append(b)
    return starts[::-1]


def panelled(pieces: Sequence[Piece], panels: Sequence[int], why: str = A_PANEL) -> list[Moment]:
    """A scene's pieces as the panels part them, which begin at `panels` (characters of the text, rising)."""
    found: list[Moment] = []
    for _, group in groupby(pieces, key=lambda p: bisect_right(panels, p.start)):
        found.append(Moment(tuple(group), why, 1.0))
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
    for i, found in enumerate(scene_signs(pieces)):
        if i:
            told = {name: weights().get(name, 0.0) * value for name, value in found.items()}
            odds[i] = sum(told.values())
            most = max((name for name in told if name in WHY), key=lambda name: told[name], default="")
            whys[i] = WHY[most] if most and told[most] > 0 else "enough for one picture"
    before = lengths(pieces)
    costs = [[price(before[b] - before[a], words) for b in range(a + 1, min(n, a + LONGEST) + 1)] for a in range(n)]

    def cost(a: int, b: int) -> float:
        """What a moment of the pieces a..b costs by its length."""
        return costs[a][b - a - 1] if b - a <= LONGEST else price(before[b] - before[a], words)

    def part(push: float) -> list[int]:
        return best_parting([o + push for o in odds], cost)

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
        margin = odds[a] + cost(begun, b) - cost(begun, a) - cost(a, b) if a else 6.0
        made.append(
            Moment(
                tuple(pieces[a:b]),
                whys[a] if odds[a] > 0 or not a else "enough for one picture",
                1 / (1 + exp(-margin)),
            )
        )
    return made
