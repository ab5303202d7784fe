"""From measures to findings: what departs, where along each thread, by how much, and what to go back to."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.colour import Floats, linear_from_hex
from juxtaform.core.drift import Change, lasting_change, scalar_change
from juxtaform.core.identity import Appearance, TraitReading
from juxtaform.core.names import Named, named_but_absent
from juxtaform.core.naming import colour_name
from juxtaform.core.picture import PictureMeasure
from juxtaform.core.regions import Box
from juxtaform.core.style import TERMS, Signature, StyleJudgement, judged

Kind = Literal[
    "trait_changed",
    "trait_missing",
    "figure_drift",
    "figure_swapped",
    "style_break",
    "style_step",
    "style_slide",
    "style_apart",
    "border",
    "named_absent",
    "kept_colour",
]
OTHER_HAND = 1.4
"""A picture this far out of style was made by another hand; its shading and outlines cover traits, so that these are
measured and not reported: the picture is retaken anyway."""
ROLE_SHARE = 0.012
"""A kept colour is misused from this share of the picture on: the size of a hat in a wide shot."""


@dataclass(frozen=True)
class Mark:
    """Where a thread stands in a shot's picture; `hold` is what of it must hold; `costume` its costume's name."""

    thread: str
    box: Box
    hold: str = "figure"
    costume: str = ""


@dataclass(frozen=True)
class ShotState:
    """One shot as the check sees it: its words, the threads that run through it, its measured picture and marks."""

    id: str
    number: str
    words: str
    assigned: frozenset[str]
    style: str | None
    marks: tuple[Mark, ...] = ()
    picture: PictureMeasure | None = None


@dataclass(frozen=True)
class StyleHome:
    """A style thread: its references' signatures and weights."""

    id: str
    name: str
    references: tuple[Signature, ...] = ()
    weights: tuple[float, ...] = ()


@dataclass(frozen=True)
class Evidence:
    """One row of evidence: a label, what was measured and what was expected, as text with units; colours as hex."""

    label: str
    measured: str
    expected: str = ""
    measured_hex: str | None = None
    expected_hex: str | None = None


@dataclass(frozen=True)
class Finding:
    """A departure with its evidence. `measured` and `expected` are in `unit`; `severity` is relative: 1 is the edge of
    tolerance; `until` is the last shot concerned where the finding spans several; `back_to` the shot to go back to."""

    kind: Kind
    thread: str | None
    shot: str
    title: str
    advice: str
    measured: float
    expected: float
    unit: str
    severity: float
    trait: str = ""
    until: str | None = None
    back_to: str | None = None
    region: Box | None = None
    evidence: tuple[Evidence, ...] = ()


@dataclass(frozen=True)
class StylePoint:
    """A shot on its style thread: relative distance, verdict, and the terms that depart most, as name and signed z."""

    shot: str
    distance: float
    verdict: Literal["holds", "drifts"]
    foremost: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class FigurePoint:
    """A shot on a character's thread."""

    shot: str
    mark: Mark
    appearance: Appearance
    verdict: Literal["holds", "drifts", "swapped"]


@dataclass(frozen=True)
class ThreadState:
    """A thread along the sequence; `begins` is where a lasting change begins, `back_to` the shot before it."""

    thread: str
    style: tuple[StylePoint, ...] = ()
    figures: tuple[FigurePoint, ...] = ()
    change: Literal["step", "slide"] | None = None
    begins: str | None = None
    back_to: str | None = None


@dataclass(frozen=True)
class CheckResult:
    """Findings in shot order, and every measured thread."""

    findings: tuple[Finding, ...]
    threads: dict[str, ThreadState] = field(default_factory=dict)


def check(
    shots: Sequence[ShotState],
    styles: Sequence[StyleHome],
    names: Sequence[Named],
    parts: Mapping[tuple[str, str], str] | None = None,
) -> CheckResult:
    """Check a sequence of shots in their order.

    `names` are all threads that a text can name; `parts` tells for (thread, trait) which part of the figure a trait
    belongs to (`face`, `outfit` or `figure`), so that a hold on the face alone leaves clothes unjudged.
    """
    titles = {n.id: n.name for n in names}
    findings: list[Finding] = [*_borders(shots), *_absent(shots, names), *_kept(shots, titles)]
    threads: dict[str, ThreadState] = {}
    for style in styles:
        state, told = _style_thread(style, shots)
        threads[style.id] = state
        findings += told
    other_hand = {shot for state in threads.values() for shot in _other_hand(state)}
    sliding = {shot for state in threads.values() for shot in _sliding(state)}
    figures = dict.fromkeys(mark.thread for shot in shots for mark in shot.marks)
    for thread in figures:
        state, told = _figure_thread(thread, titles, shots, parts or {}, other_hand, sliding)
        threads[thread] = state
        findings += told
    order = {shot.id: i for i, shot in enumerate(shots)}
    findings.sort(key=lambda f: (order[f.shot], -f.severity))
    return CheckResult(tuple(findings), threads)


def _style_thread(style: StyleHome, shots: Sequence[ShotState]) -> tuple[ThreadState, list[Finding]]:
    run = [s for s in shots if s.style == style.id and s.picture is not None]
    if not run:
        return ThreadState(style.id), []
    sequence = np.array([s.picture.signature.values for s in run if s.picture is not None])
    references = np.array([r.values for r in style.references]).reshape(-1, len(TERMS))
    judgement = judged(sequence, references, np.array(style.weights) if style.weights else None)
    change = lasting_change(judgement.z, judgement.distance)
    inside = set(range(change.start, change.end)) if change else set()
    points = []
    findings: list[Finding] = []
    for i, shot in enumerate(run):
        out = bool(judgement.distance[i] > tol.STYLE_TOLERANCE) or i in inside
        points.append(
            StylePoint(shot.id, float(judgement.distance[i]), "drifts" if out else "holds", _foremost(judgement, i))
        )
        if out and i not in inside:
            findings.append(_style_break(style, shot, judgement, sequence, i))
    if change:
        findings.append(_style_change(style, run, judgement, sequence, change))
    if judgement.whole:
        findings.append(_style_apart(style, run, judgement, sequence, references))
    return (
        ThreadState(
            style.id,
            style=tuple(points),
            change=change.kind if change else None,
            begins=run[change.start].id if change else None,
            back_to=run[change.start - 1].id if change else None,
        ),
        findings,
    )


def _foremost(judgement: StyleJudgement, i: int, most: int = 4) -> tuple[tuple[str, float], ...]:
    order = np.argsort(-np.abs(judgement.z[i]))[:most]
    return tuple((TERMS[k][0], float(judgement.z[i, k])) for k in order)


def _style_rows(judgement: StyleJudgement, values: Floats, z: Floats) -> tuple[Evidence, ...]:
    order = np.argsort(-np.abs(z))[:4]
    return tuple(
        Evidence(
            TERMS[k][1].capitalize(),
            f"{values[k]:.2f}",
            f"{judgement.centre[k]:.2f} ± {judgement.scale[k]:.2f}",
        )
        for k in order
    )


_MORE = {
    "line_share": ("more drawn line", "less drawn line"),
    "line_width": ("wider lines", "thinner lines"),
    "line_darkness": ("darker lines", "paler lines"),
    "flatness": ("flatter areas", "less flat areas"),
    "modelling": ("more shading", "less shading"),
    "grain_fine": ("more fine grain", "less fine grain"),
    "grain_middle": ("more texture", "less texture"),
    "grain_coarse": ("coarser texture", "less coarse texture"),
    "contrast": ("more contrast", "less contrast"),
    "saturation": ("stronger colours", "greyer colours"),
    "colours": ("more colours", "fewer colours"),
    "edge_softness": ("softer edges", "harder edges"),
}


def style_words(z: Floats, most: int = 2) -> str:
    """What departs most, in words: `more drawn line, more shading`."""
    order = np.argsort(-np.abs(z))[:most]
    return ", ".join(_MORE[TERMS[k][0]][0 if z[k] > 0 else 1] for k in order)


def _style_break(style: StyleHome, shot: ShotState, j: StyleJudgement, values: Floats, i: int) -> Finding:
    said = style_words(j.z[i])
    return Finding(
        "style_break",
        style.id,
        shot.id,
        f"Another hand: {said}",
        "Only this picture leaves the style. Retake it with the style's references.",
        float(j.distance[i]),
        tol.STYLE_TOLERANCE,
        "× tolerance",
        float(j.distance[i]),
        evidence=_style_rows(j, values[i], j.z[i]),
    )


def _style_change(
    style: StyleHome, run: Sequence[ShotState], j: StyleJudgement, values: Floats, change: Change
) -> Finding:
    part = slice(change.start, change.end)
    peak = change.start + int(np.argmax(j.distance[part]))
    z = j.z[part].mean(axis=0) if change.kind == "step" else j.z[change.end - 1]
    first, back = run[change.start], run[change.start - 1]
    verb = "slides" if change.kind == "slide" else "changes"
    return Finding(
        "style_slide" if change.kind == "slide" else "style_step",
        style.id,
        first.id,
        f"Style {verb} from shot {first.number}: {style_words(z)}",
        f"Go back to the take of shot {back.number} and work on from there.",
        float(j.distance[peak]),
        tol.STYLE_TOLERANCE,
        "× tolerance",
        float(j.distance[peak]),
        until=run[change.end - 1].id,
        back_to=back.id,
        evidence=_style_rows(j, values[change.end - 1], j.z[change.end - 1]),
    )


def _style_apart(
    style: StyleHome, run: Sequence[ShotState], j: StyleJudgement, values: Floats, references: Floats
) -> Finding:
    home = references.mean(axis=0)
    z = (np.median(values, axis=0) - home) / j.scale
    return Finding(
        "style_apart",
        style.id,
        run[0].id,
        f"The whole sequence stands apart from {style.name}: {style_words(z)}",
        "The pictures agree with each other, not with the style's references. Choose references that look like the work.",
        float(np.sqrt((z**2).mean())),
        1.0,
        "spreads",
        float(np.sqrt((z**2).mean())),
        until=run[-1].id,
        evidence=tuple(
            Evidence(TERMS[k][1].capitalize(), f"{np.median(values[:, k]):.2f}", f"{home[k]:.2f} ± {j.scale[k]:.2f}")
            for k in np.argsort(-np.abs(z))[:4]
        ),
    )


def _other_hand(state: ThreadState) -> list[str]:
    """Shots whose pictures are so far from the style, alone or in a changed part, that traits cannot be told."""
    order = [p.shot for p in state.style]
    begin = order.index(state.begins) if state.begins else len(order)
    return [
        p.shot
        for i, p in enumerate(state.style)
        if p.distance > tol.STYLE_TOLERANCE * (1.0 if i >= begin else OTHER_HAND)
    ]


def _sliding(state: ThreadState) -> list[str]:
    """Shots whose style slides: their colours wander with it, which the one finding about the slide says."""
    order = [p.shot for p in state.style]
    return order[order.index(state.begins) :] if state.begins and state.change == "slide" else []


def _figure_thread(
    thread: str,
    titles: dict[str, str],
    shots: Sequence[ShotState],
    parts: Mapping[tuple[str, str], str],
    other_hand: set[str],
    sliding: set[str],
) -> tuple[ThreadState, list[Finding]]:
    points: list[FigurePoint] = []
    findings: list[Finding] = []
    for shot in shots:
        if shot.picture is None:
            continue
        for mark, seen in zip(shot.marks, shot.picture.appearances, strict=True):
            if mark.thread != thread:
                continue
            told = _appearance_findings(thread, titles, shot, mark, seen, parts)
            if shot.id in other_hand:
                told = [f for f in told if f.kind == "figure_swapped"]
            elif shot.id in sliding:
                told = [f for f in told if f.kind not in ("trait_changed", "figure_drift")]
            swapped = any(f.kind == "figure_swapped" for f in told)
            points.append(FigurePoint(shot.id, mark, seen, "swapped" if swapped else ("drifts" if told else "holds")))
            findings += told
    change = scalar_change(np.array([p.appearance.distance for p in points])) if len(points) >= 4 else None
    return (
        ThreadState(
            thread,
            figures=tuple(points),
            change=change.kind if change else None,
            begins=points[change.start].shot if change else None,
            back_to=points[change.start - 1].shot if change else None,
        ),
        findings,
    )


def _appearance_findings(
    thread: str,
    titles: dict[str, str],
    shot: ShotState,
    mark: Mark,
    seen: Appearance,
    parts: Mapping[tuple[str, str], str],
) -> list[Finding]:
    name = titles.get(thread, thread)
    judgeable = [t for t in seen.traits if _held(mark.hold, parts.get((thread, t.name), "figure"))]
    bad = [t for t in judgeable if t.verdict in ("changed", "missing")]
    rival = min(seen.others, key=lambda k: seen.others[k], default=None)
    most_bad = len(bad) >= 2 and len(bad) >= 0.5 * len(judgeable)
    if rival and seen.others[rival] < tol.SWAP_RATIO * seen.distance and (seen.distance > 1.0 or most_bad):
        rival_name = titles.get(rival, rival)
        title = f"This is {rival_name}, not {name}"
        return [
            _figure_finding(
                "figure_swapped", thread, shot, mark, seen, title, f"Mark it as {rival_name}, or retake the shot."
            )
        ]
    if mark.hold == "figure" and ((most_bad and len(bad) >= 3) or (not bad and seen.distance > tol.FIGURE_TOLERANCE)):
        title = f"{name} looks like somebody else" if most_bad else f"{name} has drifted as a whole"
        return [
            _figure_finding("figure_drift", thread, shot, mark, seen, title, "Compare with the anchor, then retake.")
        ]
    return [_trait_finding(thread, name, shot, seen, t, judgeable) for t in bad]


def _held(hold: str, part: str) -> bool:
    return hold == "figure" or part in (hold, "figure")


def _trait_finding(
    thread: str, name: str, shot: ShotState, seen: Appearance, trait: TraitReading, all_traits: list[TraitReading]
) -> Finding:
    rest = [t.difference for t in all_traits if t is not trait and t.verdict == "holds" and t.difference is not None]
    light = Evidence("Scene light taken out", seen.light.words())
    others = Evidence("Other traits", f"hold (≤ {max(rest):.1f})" if rest else "none to compare")
    share = Evidence("Share of the figure", f"{trait.share_seen * 100:.0f} %", f"{trait.share_expected * 100:.0f} %")
    if trait.verdict == "missing":
        return Finding(
            "trait_missing", thread, shot.id, f"{trait.name} is missing",
            f"{name}'s {_lower(trait.name)} is on the references and not in this picture. Retake, or let it stand.",
            trait.share_seen * 100, trait.share_expected * 100, "% of figure", 2.0, trait=trait.name,
            region=trait.region,
            evidence=(Evidence(f"{trait.name}, expected", "not found", expected_hex=trait.expected[0]), share, light, others),
        )  # fmt: skip
    difference = trait.difference or 0.0
    was, now = (colour_name(linear_from_hex(code)) for code in (trait.expected[0], trait.seen or trait.expected[0]))
    title = f"{trait.name} is {now}, not {was}" if was != now else f"{trait.name} is another {was}"
    return Finding(
        "trait_changed", thread, shot.id, title,
        f"{name}'s {_lower(trait.name)} changed colour, beyond what the light explains. Retake with this corrected.",
        difference, trait.allowed, "ΔE00", difference / trait.allowed, trait=trait.name, region=trait.region,
        evidence=(
            Evidence(f"{trait.name}, expected", trait.expected[0], expected_hex=trait.expected[0]),
            Evidence(f"{trait.name}, seen", trait.seen or "", measured_hex=trait.seen),
            Evidence("Difference (ΔE00)", f"{difference:.1f}", f"{trait.allowed:.1f}"),
            share, light, others,
        ),
    )  # fmt: skip


def _figure_finding(
    kind: Kind, thread: str, shot: ShotState, mark: Mark, seen: Appearance, title: str, advice: str
) -> Finding:
    rows = [
        Evidence("Figure distance", f"{seen.distance:.2f} × tolerance", "1"),
        Evidence("Colours after the light", f"{seen.terms.colour:.2f}"),
        Evidence("Make-up of the figure", f"{seen.terms.makeup:.2f}"),
        Evidence("Local structure", f"{(1 - seen.terms.structure) * 100:.0f} % agrees"),
        Evidence("Scene light taken out", seen.light.words()),
        *(Evidence(f"Distance to {other}", f"{d:.2f} × tolerance") for other, d in sorted(seen.others.items())),
    ]
    return Finding(
        kind, thread, shot.id, title, advice, seen.distance, 1.0, "× tolerance", max(seen.distance, 1.5),
        region=mark.box, evidence=tuple(rows),
    )  # fmt: skip


def _borders(shots: Sequence[ShotState]) -> list[Finding]:
    pictured = [s for s in shots if s.picture is not None]
    bordered = [s for s in pictured if s.picture is not None and s.picture.border is not None]
    if not bordered or len(bordered) > 0.5 * len(pictured):
        return []
    found = []
    for shot in bordered:
        assert shot.picture is not None
        b = shot.picture.border
        assert b is not None
        widest = max(b.left, b.top, b.right, b.bottom)
        rows = tuple(
            Evidence(f"Band, {side}", f"{value:.0f} px", "0 px")
            for side, value in (("left", b.left), ("top", b.top), ("right", b.right), ("bottom", b.bottom))
        )
        found.append(
            Finding(
                "border",
                None,
                shot.id,
                "A printed border round the picture",
                "Trim it, or retake without a frame.",
                widest,
                0.0,
                "px",
                1.5,
                region=b.inner(shot.picture.width, shot.picture.height),
                evidence=rows,
            )
        )
    return found


def _absent(shots: Sequence[ShotState], names: Sequence[Named]) -> list[Finding]:
    titles = {n.id: n.name for n in names}
    found = []
    for shot in shots:
        for thread in named_but_absent(shot.words, names, set(shot.assigned)):
            name = titles[thread]
            found.append(
                Finding(
                    "named_absent",
                    thread,
                    shot.id,
                    f"The words name {name}, whose thread does not run here",
                    f"Take {name} out of the words, or assign {name} to this shot.",
                    1.0,
                    0.0,
                    "mentions",
                    1.2,
                    evidence=(Evidence("Words", shot.words), Evidence("Assigned", f"not {name}")),
                )
            )
    return found


def _kept(shots: Sequence[ShotState], titles: dict[str, str]) -> list[Finding]:
    found = []
    for shot in shots:
        for role in shot.picture.roles if shot.picture else ():
            if role.share > ROLE_SHARE:
                owner = titles.get(role.figure, role.figure)
                found.append(
                    Finding(
                        "kept_colour",
                        shot.style,
                        shot.id,
                        f"A colour kept for {owner} is worn by something else",
                        f"Only {owner} may wear this colour in this style.",
                        role.share * 100,
                        ROLE_SHARE * 100,
                        "% of picture",
                        role.share / ROLE_SHARE,
                        region=role.region,
                    )
                )
    return found


def _lower(name: str) -> str:
    return name[:1].lower() + name[1:]
