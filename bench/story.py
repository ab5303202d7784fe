"""The breakdown judged on texts that were broken down by hand: precision and recall of cuts, cast and places."""

from __future__ import annotations

from collections import Counter

from juxtaform.core.breakdown import ProposedShot, breakdown
from juxtaform.core.names import NEW
from juxtaform.formats import texts
from tests.story_texts import TEXTS, Told


def breakdown_on_hand_made_truth() -> None:
    total: Counter[str] = Counter()
    for told in TEXTS:
        counts = judged(told)
        total += counts
        print(f"{told.name}: " + "; ".join(_rates(counts, what) for what in ("cuts", "cast", "places")))
    print("all six: " + "; ".join(_rates(total, what) for what in ("cuts", "cast", "places")))


def judged(told: Told) -> Counter[str]:
    """Hits, misses and false ones of cuts, cast and places; nothing is known of the text beforehand."""
    text = told.text
    shots = [s for scene in breakdown(texts.read(text, told.syntax)) for s in scene.shots]  # type: ignore[arg-type]
    starts = {_bare(text, s.start) for s in shots}
    counts: Counter[str] = Counter()
    wanted, at = set(), 0
    for i, (words, cast, places) in enumerate(told.moments):
        begin = text.index(words.strip(), at)
        at = begin + len(words.strip())
        if i:
            wanted.add(_bare(text, _body(text, begin, at)))
        shot = max(shots, key=lambda s: min(s.end, at) - max(s.start, begin))
        _count(counts, "cast", _names(cast), {_plain(c) for c in shot.cast})
        _count(counts, "places", _names(places), {_plain(p) for p in shot.places})
    starts.discard(min(starts))
    _count(counts, "cuts", wanted, starts)
    return counts


def _body(text: str, begin: int, end: int) -> int:
    """Where a moment's own words begin, its heading and cue left out."""
    while True:
        line = text[begin:end].split("\n", 1)[0]
        if len(line) == end - begin or not (line.startswith(("#", "(", "Title", "Credit")) or line.isupper() or not line.strip()):  # fmt: skip
            return begin
        begin += len(line) + 1


def _bare(text: str, at: int) -> int:
    return len("".join(text[:at].split()))


def _names(words: str) -> set[str]:
    return {_plain(w) for w in words.split(",") if w.strip()}


def _plain(name: str) -> str:
    plain = name.removeprefix(NEW).strip().casefold()
    return plain[:-1] if plain.endswith("s") and plain not in ("stairs", "steps", "tobias") else plain


def _count(counts: Counter[str], what: str, wanted: set, found: set) -> None:  # type: ignore[type-arg]
    counts[f"{what} hit"] += len(wanted & found)
    counts[f"{what} missed"] += len(wanted - found)
    counts[f"{what} false"] += len(found - wanted)


def _rates(counts: Counter[str], what: str) -> str:
    hit, missed, false = (counts[f"{what} {k}"] for k in ("hit", "missed", "false"))
    return f"{what} precision {hit / max(1, hit + false):.2f}, recall {hit / max(1, hit + missed):.2f}"


def shots_of(told: Told) -> list[ProposedShot]:
    return [s for scene in breakdown(texts.read(told.text, told.syntax)) for s in scene.shots]  # type: ignore[arg-type]
