"""Sequences of drawn art by other hands in which figures are drawn in other proportions: what is told of them, and of right ones."""

from __future__ import annotations

from bench.art.checked import findings_of, print_by_fault, shots_of, told_of, with_clean_ones
from bench.art.shapes import RESHAPED

SAID = {
    "told": {"proportion"},
    "asked": {"proportion_doubtful"},
    "who it is": {"figure_stranger", "figure_swapped", "figure_doubtful"},
}


def figures_out_of_proportion(last: bool, each: int = 2) -> None:
    """One figure of most pictures of a sequence is drawn in other proportions: what is told of it, and of all the right ones."""
    first = 7900 if last else 5900
    print_by_fault(_told_of_each, with_clean_ones(first, tuple(RESHAPED), last, each))


def _told_of_each(job: tuple[str, int, tuple[str, ...], bool]) -> list[tuple[str, str]]:
    """By what is wrong with each figure, what is told of it: its proportions, that it is another one, something else, nothing."""
    story = told_of(*job)
    findings = findings_of(shots_of(story))
    out = []
    for i, frame in enumerate(story.frames):
        for mark in frame.marks:
            kinds = {f.kind for f in findings if f.shot == f"s{i}" and f.thread == "ab"[mark.who]}
            said = next(
                (word for word, those in SAID.items() if kinds & those), "something else" if kinds else "nothing"
            )
            out.append((mark.fault or ("right beside a fault" if job[2] else "right"), said))
    return out
