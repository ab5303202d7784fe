"""Sequences of drawn art by other hands in which figures have things that they never have: what is told of them, and of right figures."""

from __future__ import annotations

from bench.art.added import ADDED
from bench.art.checked import findings_of, print_by_fault, shots_of, told_of, with_clean_ones
from juxtaform.core.picture.regions import Box

SAID = {"told": "extra", "asked": "extra_doubtful", "as a change of colour": "trait_changed"}


def things_on_figures(last: bool, each: int = 2) -> None:
    """In three pictures of a sequence one figure has a thing that it never has: what is told where the thing is, and of right figures."""
    first = 7700 if last else 5700
    print_by_fault(_told_of_each, with_clean_ones(first, tuple(ADDED), last, each))


def _told_of_each(job: tuple[str, int, tuple[str, ...], bool]) -> list[tuple[str, str]]:
    """By what each figure has on it, what is told: the thing, in its place, or something else, or nothing."""
    story = told_of(*job)
    findings = findings_of(shots_of(story))
    out = []
    for i, frame in enumerate(story.frames):
        for mark in frame.marks:
            own = [f for f in findings if f.shot == f"s{i}" and f.thread == "ab"[mark.who]]
            if mark.part is not None:
                x, y = mark.box.x + mark.part[0] * mark.box.w, mark.box.y + mark.part[1] * mark.box.h
                at = [f for f in own if f.region is not None and _holds(f.region.grown(0.1), x, y)]
                own = at or [f for f in own if f.kind not in SAID.values()]
            kinds = {f.kind for f in own}
            said = next((w for w, kind in SAID.items() if kind in kinds), "something else" if kinds else "nothing")
            out.append((mark.fault or ("right beside a thing" if job[2] else "right"), said))
    return out


def _holds(box: Box, x: float, y: float) -> bool:
    return box.x <= x <= box.x + box.w and box.y <= y <= box.y + box.h
