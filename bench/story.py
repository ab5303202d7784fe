"""Story and plan: the breakdown against hand-made truth, its speed, anchoring, and panels on constructed pages."""

from __future__ import annotations

import gc
import io
import itertools
import random
import re
import time
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import replace
from statistics import median

import numpy as np
from PIL import Image

from juxtaform.core.picture.panels import panels
from juxtaform.core.picture.upright import straightened
from juxtaform.core.plan.also_here import Peopled, also_here, leaves_out_who_looks_on
from juxtaform.core.text.anchoring import TOKEN, Span, anchored
from juxtaform.core.text.breakdown import ProposedScene, breakdown
from juxtaform.core.text.candidates import discovered, story_of
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.names import NEW
from juxtaform.formats import texts
from juxtaform.media.decode import decoded
from tests import (
    story_texts_eighth,
    story_texts_fifth,
    story_texts_fourth,
    story_texts_languages,
    story_texts_later,
    story_texts_paragraphs,
    story_texts_seventh,
    story_texts_sixth,
    story_texts_third,
)
from tests.constructed_pages import CASES, LAYOUTS, drawn_page
from tests.constructed_pages import judged as panels_judged
from tests.story_texts import TEXTS, Told
from tests.story_texts_fresh import LAST, WORKED
from tests.story_texts_unseen import UNSEEN
from tests.wild import read_through, wild_text

FRESH = (
    *WORKED,
    *LAST,
    *story_texts_later.READ,
    *story_texts_later.UNREAD,
    *story_texts_third.OPENED,
    *story_texts_third.SEALED,
    *story_texts_fourth.LOOKED_AT,
    *story_texts_fourth.KEPT,
    *story_texts_fifth.SET_ON,
    *story_texts_sixth.READ_ONCE,
    *story_texts_seventh.READ_ONCE,
    *story_texts_paragraphs.SET_ON,
    *story_texts_paragraphs.KEPT,
    *story_texts_eighth.LOOKED_AT,
    *story_texts_eighth.KEPT,
)
"""Texts whose every moment has its place by hand."""
PARAGRAPHED = (*story_texts_paragraphs.SET_ON, *story_texts_languages.LOOKED_AT)
"""Texts with a writer's paragraphs that numbers are set on."""
_KEPT = (
    *story_texts_fourth.KEPT,
    *story_texts_sixth.READ_ONCE,
    *story_texts_seventh.READ_ONCE,
    *story_texts_paragraphs.SET_ON,
    *story_texts_paragraphs.KEPT,
    *story_texts_eighth.LOOKED_AT,
    *story_texts_eighth.KEPT,
)
SET_ON = (*TEXTS, *UNSEEN, *(t for t in FRESH if t not in _KEPT))
"""Texts that numbers are set on (`tools/fit_story.py`), read without their paragraphs."""


MEASURED = ("cuts", "cast", "who", "places")


def breakdown_on_hand_made_truth() -> None:
    """Cuts, cast, who is in a picture and where it is, against truth; `without paragraphs` is the same text on one line."""
    for told_of, texts_of in (
        ("fifteen older texts", (*TEXTS, *UNSEEN)),
        ("fresh texts, the half worked on from the start", WORKED),
        ("fresh texts, the other half, worked on after its first reading", LAST),
        ("later texts, worked on", story_texts_later.READ),
        ("later texts, worked on after their first reading", story_texts_later.UNREAD),
        ("third texts, worked on after their first reading", story_texts_third.OPENED),
        ("third texts, the others, worked on after their first reading", story_texts_third.SEALED),
        ("fourth texts, numbers set on them", story_texts_fourth.LOOKED_AT),
        ("fourth texts, the others, no number set on them", story_texts_fourth.KEPT),
        ("fifth texts, numbers set on them", story_texts_fifth.SET_ON),
        ("sixth texts, written when the numbers stood, none set on them", story_texts_sixth.READ_ONCE),
        ("seventh texts, written when the rules stood, read once", story_texts_seventh.READ_ONCE),
        ("eighth texts, looked at after their first reading, none set on them", story_texts_eighth.LOOKED_AT),
        ("eighth texts, the others, only counted", story_texts_eighth.KEPT),
        ("texts with a writer's paragraphs, numbers set on them", story_texts_paragraphs.SET_ON),
        ("texts with a writer's paragraphs, the others, only counted", story_texts_paragraphs.KEPT),
        ("German, French and Spanish texts, worked on", story_texts_languages.LOOKED_AT),
        ("German, French and Spanish texts, worked on after they were counted", story_texts_languages.OPENED),
        ("German, French and Spanish texts, read once", story_texts_languages.READ_ONCE),
    ):
        for flat in (False, True):
            total: Counter[str] = Counter()
            for told in texts_of:
                total += judged(told, flat=flat)
            print(
                f"{told_of}{', without paragraphs' if flat else ''}: "
                + "; ".join(rates(total, what) for what in MEASURED)
                + f"; asked about {total['asked hit'] + total['asked false']} more, {total['asked hit']} of them there"
            )


def judged(told: Told, *, flat: bool = False) -> Counter[str]:
    """Hits, misses and false ones of cuts, of the cast of the text, of who is in a picture and of its place; nothing is known of the text beforehand.

    A moment is held against the shot that shares most of its words with it. In the older texts a place counts where the words tell it.
    """
    text, manuscript, scenes, moments = _broken_down(told, flat=flat)
    shots = [s for scene in scenes for s in scene.shots]
    counts: Counter[str] = Counter()
    everyone: set[str] = set()
    asks = leaves_out_who_looks_on(manuscript, is_script=told.syntax != "prose")
    asked = also_here(_peopled(scenes, text)) if asks else [()] * len(shots)
    for (_, cast, places), at in zip(told.moments, moments, strict=True):
        shot = shots[at]
        everyone |= names_in(cast)
        here = {plain_name(c) for c in shot.cast}
        _count(counts, "who", names_in(cast), here)
        more = {plain_name(c) for c in asked[at]} - here
        counts["asked hit"] += len(more & names_in(cast))
        counts["asked false"] += len(more - names_in(cast))
        if places or told in FRESH:
            found = {plain_name(p) for p in shot.places}
            truth = names_in(places)
            _count(counts, "places", truth if told in FRESH else truth & found or truth, found)
    starts = {bare_offset(text, s.start) for s in shots}
    starts.discard(min(starts))
    _count(counts, "cuts", begun_at(told, text), starts)
    _count(
        counts,
        "cast",
        everyone,
        {plain_name(c.name) for c in discovered(manuscript) if c.kind == "character" and c.sure},
    )
    return counts


def _broken_down(told: Told, *, flat: bool) -> tuple[str, Manuscript, list[ProposedScene], list[int]]:
    """A text (on one line if `flat`), read and broken down; and for each of its moments, by hand, the shot that shares most of its words with it."""
    text = " ".join(told.text.split()) if flat and told.syntax == "prose" and "#" not in told.text else told.text
    manuscript = texts.read(text, told.syntax)  # type: ignore[arg-type]
    scenes = breakdown(manuscript)
    spans = [(bare_offset(text, s.start), bare_offset(text, s.end)) for scene in scenes for s in scene.shots]
    moments = [
        max(range(len(spans)), key=lambda i: min(spans[i][1], end) - max(spans[i][0], begin))
        for begin, end in spans_of(told, text)
    ]
    return text, manuscript, scenes, moments


def _peopled(scenes: Sequence[ProposedScene], text: str) -> list[Peopled]:
    return [
        Peopled(frozenset(s.cast), (number, s.places), text[s.start : s.end])
        for number, scene in enumerate(scenes)
        for s in scene.shots
    ]


def peopled(told: Told) -> tuple[list[Peopled], list[tuple[int, set[str]]]]:
    """The pictures of a text, on one line, by plain names; and for each of its moments its picture and who is there, by hand."""
    text, _, scenes, moments = _broken_down(told, flat=True)
    pictures = [replace(p, cast=frozenset(map(plain_name, p.cast))) for p in _peopled(scenes, text)]
    return pictures, [(at, names_in(cast)) for (_, cast, _), at in zip(told.moments, moments, strict=True)]


def spans_of(told: Told, text: str) -> list[tuple[int, int]]:
    """Where each moment of a text begins and ends, blanks not counted."""
    joined = "".join(text.split())
    spans, at = [], 0
    for words, _, _ in told.moments:
        plain = "".join(words.split())
        begin = joined.index(plain, at)
        at = begin + len(plain)
        spans.append((begin, at))
    return spans


def begun_at(told: Told, text: str) -> set[int]:
    """Where a picture begins, by hand, but for the first; blanks not counted."""
    found = set()
    for (words, _, _), (begin, _) in zip(told.moments[1:], spans_of(told, text)[1:], strict=True):
        body = words.strip()
        found.add(begin + len("".join(body[: _body(body, 0, len(body))].split())))
    return found


def _body(text: str, begin: int, end: int) -> int:
    """Where a moment's own words begin, its heading and cue left out."""
    while True:
        line = text[begin:end].split("\n", 1)[0]
        if len(line) == end - begin or not (
            line.startswith(("#", "(", "Title", "Credit")) or line.isupper() or not line.strip()
        ):
            return begin
        begin += len(line) + 1


def bare_offset(text: str, at: int) -> int:
    """An offset in a text, blanks not counted."""
    return len("".join(text[:at].split()))


def names_in(words: str) -> set[str]:
    """The plain names of a list of them."""
    return {plain_name(w) for w in words.split(",") if w.strip()}


def plain_name(name: str) -> str:
    """The head of a name, singular: `Old Fenn` and `Fenn` are one."""
    plain = name.removeprefix(NEW).casefold().split()[-1]
    return plain[:-1] if plain.endswith("s") and plain not in ("stairs", "steps", "tobias") else plain


def _count(counts: Counter[str], what: str, wanted: set, found: set) -> None:  # type: ignore[type-arg]
    counts[f"{what} hit"] += len(wanted & found)
    counts[f"{what} missed"] += len(wanted - found)
    counts[f"{what} false"] += len(found - wanted)


def rates(counts: Counter[str], what: str) -> str:
    hit, missed, false = (counts[f"{what} {k}"] for k in ("hit", "missed", "false"))
    return f"{what} precision {hit / max(1, hit + false):.2f}, recall {hit / max(1, hit + missed):.2f}"


def wild_texts(count: int = 20_000, seed: int = 11) -> None:
    """Texts that nobody would write: none may break the reader."""
    dice, shots, broken = random.Random(seed), 0, []
    for _ in range(count):
        text = wild_text(dice)
        try:
            shots += read_through(text)
        except Exception as error:
            broken.append(f"{type(error).__name__}: {error}\n{text}")
    print(f"{count} wild texts, {shots} shots: {len(broken)} break the reader")
    print("\n\n".join(broken[:5]))
    assert not broken


def breakdown_is_linear() -> None:
    """The time for 100,000 words over a tenth of that for ten texts of 10,000, and the time per 1,000 words. Both read equally much, one
    between the halves of the other, so that a machine that is now slow and now fast serves both alike; the middle one of five rounds; no sentence comes twice, and nothing is remembered from before."""
    base = "\n\n".join(t.text for t in TEXTS if t.syntax == "prose")
    numbers = itertools.count()
    copies = round(10_000 / len(base.split()))
    breakdown(texts.read(base, "prose"))

    def taken(times: int) -> float:
        """Seconds per word of a text that many times as long as the short one."""
        parts = [re.sub(r"\.(?=\s|$)", f" for the {next(numbers)}th time.", base) for _ in range(times * copies)]
        manuscript = texts.read("\n\n".join(parts), "prose")
        story_of.cache_clear()
        gc.collect()
        begun = time.perf_counter()
        breakdown(manuscript)
        return (time.perf_counter() - begun) / len(manuscript.text.split())

    rounds = []
    for _ in range(5):
        before = sum(taken(1) for _ in range(5))
        long = taken(10)
        rounds.append((10 * long / ((before + sum(taken(1) for _ in range(5))) / 10), long))
    print(
        f"breakdown of 100,000 words takes {median(r for r, _ in rounds):.1f} x the time of 10,000 (wanted: 10.5 at most)"
    )
    print(f"{1000 * median(t for _, t in rounds):.3f} s per 1,000 words (wanted: 0.1 at most)")


def anchoring_after_an_edit() -> None:
    """Following 2,500 spans of 50,000 words through an edit, against taking the words apart once."""
    rng = np.random.default_rng(3)
    words = [f"w{int(i)}" for i in rng.integers(0, 4000, 50_000)]
    starts = np.concatenate([[0], np.cumsum([len(w) + 1 for w in words])])
    old = " ".join(words)
    spans = [Span(str(i), int(starts[i]), int(starts[i + 20]) - 1) for i in range(0, 50_000 - 20, 20)]
    new = " ".join(
        [*words[:900], "put", "in", *words[900:30_000], *words[31_000:45_000], *words[30_000:31_000], *words[45_000:]]
    )
    begun = time.perf_counter()
    TOKEN.findall(old), TOKEN.findall(new)
    apart = time.perf_counter() - begun
    begun = time.perf_counter()
    found, lost = anchored(old, new, spans)
    taken = time.perf_counter() - begun
    print(
        f"anchoring {len(spans)} spans of 50,000 words: {taken / apart:.1f} x taking the words apart; {len(found)} found, {len(lost)} lost"
    )


def panels_on_constructed_pages() -> None:
    """F1 at an overlap of 0.8 by kind of page, and the time on 12 megapixels against decoding them."""
    total = np.zeros(3, dtype=int)
    for name, how in CASES.items():
        counts = np.zeros(3, dtype=int)
        for layout in range(len(LAYOUTS)):
            drawn = drawn_page(np.random.default_rng(700 + layout), layout, **how)
            page = straightened(drawn.photo)
            counts += panels_judged(drawn, panels(page.pixels), page.to_page)
        total += counts
        print(f"{name}: F1 {_f1(counts):.3f} ({counts[0]} found, {counts[1]} false, {counts[2]} missed)")
    print(f"all pages: F1 {_f1(total):.3f} at an overlap of 0.8")
    drawn = drawn_page(
        np.random.default_rng(1), 5, desk=True, turn=3.0, perspective=0.03, shadow=0.3, size=(2500, 3600)
    )
    out = io.BytesIO()
    Image.fromarray(drawn.photo).save(out, "JPEG", quality=92)
    data = out.getvalue()
    decoding = _best_s(lambda: decoded(data))
    pixels = decoded(data)
    finding = _best_s(lambda: panels(straightened(pixels).pixels))
    print(
        f"panels of {pixels.shape[0] * pixels.shape[1] / 1e6:.1f} megapixels: {finding / decoding:.2f} x decoding them (wanted: 4 at most)"
    )


def _f1(counts: np.ndarray) -> float:  # type: ignore[type-arg]
    return float(2 * counts[0] / max(1, 2 * counts[0] + counts[1] + counts[2]))


def _best_s(act: Callable[[], object], times: int = 5) -> float:
    taken = []
    for _ in range(times):
        begun = time.perf_counter()
        act()
        taken.append(time.perf_counter() - begun)
    return min(taken)
