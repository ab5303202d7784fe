"""Found, missed and false alarms per kind of fault, on constructed sequences that no threshold was set on."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace

import numpy as np

from bench.art.checked import side_by_side
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotState, StyleHome
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.style.terms import signature
from juxtaform.core.text.names import Named
from juxtaform.demo.paper import bordered, greyed
from juxtaform.media.network import figure_eye, hand_eye, judges
from tests.constructed import LIGHTS, lookalike, random_look, random_pose, recoloured_look, reference, scene

TRAITS = {"trait_changed", "trait_missing", "leak"}
"""A changed part; where the new colour is one of somebody beside, it is told as a leak."""
KINDS = {
    "trait recoloured": TRAITS,
    "trait missing": TRAITS,
    "figure swapped in the cast": {"figure_swapped"},
    "stranger": {"figure_stranger"},
    "look-alike": {"figure_stranger", "figure_doubtful", "figure_swapped"} | TRAITS,
    "another hand once": {"style_break"},
    "another hand from a shot on": {"style_step"},
    "slow slide to grey": {"style_slide", "style_step"},
    "half grey at last": {"style_slide", "style_step"},
    "printed border": {"border"},
    "clean": set(),
}
SLIDES = {"slow slide to grey": (0.3, 0.5, 0.66, 0.78, 0.9), "half grey at last": (0.24, 0.36, 0.48)}
"""How much of their colour the last pictures lose."""
LENGTH = 10


def on_constructed_truth(seeds: range = range(500, 504)) -> None:
    """Print the rates; every sequence has other figures, poses, places and lights, and one fault or none."""
    found: dict[str, int] = defaultdict(int)
    told: dict[str, int] = defaultdict(int)
    false: dict[str, int] = defaultdict(int)
    silent: dict[str, int] = defaultdict(int)
    jobs = [(fault, seed) for seed in seeds for fault in KINDS]
    for (fault, _), (hits, others, kinds) in zip(jobs, side_by_side(_sequence, jobs), strict=True):
        found[fault] += hits
        told[fault] += 1
        silent[fault] += others == 0
        for kind in kinds:
            false[kind] += 1
    for fault in KINDS:
        if KINDS[fault]:
            print(
                f"{fault}: found {found[fault]} of {told[fault]}, missed {told[fault] - found[fault]}; nothing else told in {silent[fault]}"
            )
        else:
            print(f"{fault}: silent {silent[fault]} of {told[fault]}")
    shots = len(seeds) * len(KINDS) * LENGTH
    print(f"false alarms over {shots} shots with {2 * shots} appearances: {dict(false) or 'none'}")


def _sequence(job: tuple[str, int]) -> tuple[int, int, list[str]]:
    """Whether the fault was found, how many other findings there were, and their kinds."""
    (fault, seed), eye, hands = job, figure_eye(), hand_eye()
    assert eye
    assert hands
    rng = np.random.default_rng(seed)
    looks = [random_look(rng), random_look(rng)]
    known = []
    for name, look in zip("ab", looks, strict=True):
        pages = (reference(look), reference(look, random_pose(rng)))
        views = [reference_view(p, f"view {i}", eye=eye) for i, p in enumerate(pages)]
        known.append(known_figure(figure_model(name, views), eye))
    empty = [scene([], rng, ground=g)[0] for g in (5, 6, 7, 8)]
    style = StyleHome("style", "Paper", tuple(map(signature, empty)), (1.0,) * 4, tuple(map(hands.hand, empty)))
    at = int(rng.integers(3, LENGTH - 3))
    places = rng.permutation(10)
    shots = []
    for i in range(LENGTH):
        here = list(looks)
        if i == at:
            here[0] = _faulty(fault, looks, rng)
        inked = (fault == "another hand once" and i == at) or (fault == "another hand from a shot on" and i >= at)
        picture, boxes = scene(
            here,
            rng,
            LIGHTS[int(rng.integers(5))],
            ground=int(places[i]),
            hand="inked" if inked else "paper",
            scale=float(rng.uniform(0.75, 1.1)),
        )
        if i >= LENGTH - len(SLIDES.get(fault, ())):
            picture = greyed(picture, SLIDES[fault][i - LENGTH])
        if fault == "printed border" and i == at:
            picture = bordered(picture, 0.05, "#f3efe6")
            boxes = [replace(b, x=b.x * 0.9 + 30, y=b.y * 0.9 + 30, w=b.w * 0.9, h=b.h * 0.9) for b in boxes]
        marks = tuple(Mark(name, box) for name, box in zip("ab", boxes, strict=True))
        placed = [(m.box, k) for m, k in zip(marks, known, strict=True)]
        measure = measure_picture(picture, placed, known, None, eye, hands)
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("ab"), "style", marks, measure))
    findings = check(shots, [style], [Named("a", "A"), Named("b", "B")], judges=judges()).findings
    wanted = KINDS[fault]
    first = LENGTH - len(SLIDES[fault]) if fault in SLIDES else at
    slack = 2 if fault in SLIDES else 0
    hits = [
        f
        for f in findings
        if f.kind in wanted and abs(int(f.shot[1:]) - first) <= slack and f.thread in ("a", "style", None)
    ]
    others = [f for f in findings if f not in hits and f.kind != "figure_doubtful"]
    return int(bool(hits)), len(others), [f.kind for f in others]


def _faulty(fault: str, looks: list, rng: np.random.Generator):  # type: ignore[no-untyped-def, type-arg]
    if fault == "trait recoloured":
        return recoloured_look(looks[0], str(rng.choice(["hair", "coat", "boots"])), rng)
    if fault == "trait missing":
        return replace(looks[0], has_extra=False)
    if fault == "stranger":
        return random_look(rng)
    if fault == "figure swapped in the cast":
        return looks[1]
    return lookalike(looks[0], rng) if fault == "look-alike" else looks[0]
