"""Sequences of drawn art by other hands as the check sees them, and what it finds in them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from typing import Any

import cv2

from bench.art.sequences import Frame, Story, story
from bench.art.sources import families
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import Cast, check
from juxtaform.core.check.states import Company, Finding, Mark, ShotState, StyleHome
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.standing import Sought, other_places, seen_places, settled, sought
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.technical.lettering import LetterEye
from juxtaform.core.text.names import Named
from juxtaform.media.network import figure_eye, hand_eye, judges

SOURCES = ("supertux", "freedink", "hedgewars", "twemoji", "openmoji", "emojione")
CAST = 3
"""A sequence needs so many figures of one hand: two characters and a stranger."""


def side_by_side(job: Callable[..., Any], jobs: Sequence[Any]) -> list[Any]:
    """The results of many jobs, two at a time."""
    cv2.setNumThreads(1)
    with ProcessPoolExecutor(2, initializer=cv2.setNumThreads, initargs=(1,)) as pool:
        return list(pool.map(job, jobs, chunksize=1))


def print_by_fault(job: Callable[..., list[tuple[str, str]]], jobs: Sequence[Any]) -> None:
    """Print what is told by fault; a job gives (fault, what is told) of every figure of a sequence."""
    told: Counter[tuple[str, str]] = Counter()
    for said in side_by_side(job, jobs):
        told.update(said)
    for fault in dict.fromkeys(f for f, _ in told):
        words = {word: n for (f, word), n in told.items() if f == fault}
        print(f"  {fault}: {', '.join(f'{w} {n}' for w, n in sorted(words.items(), key=lambda t: -t[1]))}")


def with_clean_ones(
    first: int, faults: tuple[str, ...], last: bool, each: int
) -> list[tuple[str, int, tuple[str, ...], bool]]:
    """What `told_of` takes for sequences with faults, `each` of every source of a half, and for twice as many clean ones."""
    jobs = [(s, first + k, faults, last) for s in sources_of(last) for k in range(each)]
    return jobs + [(s, first + 50 + k, (), last) for s in sources_of(last) for k in range(2 * each)]


def sources_of(last: bool) -> list[str]:
    """The sources of a half that have figures enough."""
    return [s for s in SOURCES if sum(f.source == s and len(f.pictures) >= 3 for f in families(last)) >= CAST]


def told_of(source: str, seed: int, faults: tuple[str, ...], last: bool, light: str = "") -> Story:
    """A sequence of a source, in any light or in the one that is named."""
    return story([f for f in families(last) if f.source == source], seed, faults, light=light)


def shots_of(told: Story, letters: LetterEye | None = None, *, own_boxes: bool = False) -> list[ShotState]:
    """The pictures of a sequence as the check sees them: marked by hand, or with `own_boxes` where each figure is proposed to stand."""
    eye = figure_eye()
    known = []
    for name, sheets in zip("ab", told.references, strict=True):
        views = [reference_view(p, f"view {i}", eye=eye) for i, p in enumerate(sheets)]
        known.append(known_figure(figure_model(name, views), eye))
    assert eye
    looks = [sought(eye, sheets) for sheets in told.references] if own_boxes else []
    shots = []
    for i, frame in enumerate(told.frames):
        marks = tuple(Mark("ab"[m.who], m.box) for m in frame.marks)
        company: tuple[Company, ...] = ()
        if own_boxes:
            marks, company = _boxes_of(eye, frame, looks)
        marked = [(m.box, known["ab".index(m.thread)]) for m in marks]
        measure = measure_picture(frame.pixels, marked, known, None, eye, hand_eye(), letters)
        planned = frozenset("ab"[m.who] for m in frame.marks)
        shots.append(ShotState(f"s{i}", str(i + 1), "", planned, "style", marks, measure, None, company))
    return shots


def _boxes_of(eye: Eye, frame: Frame, looks: Sequence[Sought]) -> tuple[tuple[Mark, ...], tuple[Company, ...]]:
    """The marks of whoever takes every box that is proposed, and who else is looked for: those without a box, and anybody outside the boxes."""
    threads = ["ab"[m.who] for m in frame.marks]
    places = dict(zip(threads, seen_places(eye, frame.pixels, [looks["ab".index(t)] for t in threads]), strict=True))
    marks = tuple(Mark(s.figure, s.box) for s in settled(places) if s.box is not None)
    taken = {m.thread for m in marks}
    others = other_places(eye, frame.pixels, looks, [m.box for m in marks])
    company = [
        Company(t, (*own, *(places[t][:1] if t in places and t not in taken else ())))
        for t, own in zip("ab", others, strict=True)
    ]
    return marks, tuple(company)


def findings_of(shots: Sequence[ShotState]) -> list[Finding]:
    names = [Named("a", "A"), Named("b", "B")]
    cast = Cast({"a": "character", "b": "character"})
    return list(check(shots, [StyleHome("style", "Style", (), ())], names, judges=judges(), cast=cast).findings)
