"""Findings along a style: a picture by another hand, a step, a slide, a sequence that stands apart from its references."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from juxtaform.core import tolerances as tol
from juxtaform.core.check.fading import CONTRAST, SATURATION, Fading, fading, has_colour
from juxtaform.core.check.states import ShotState, StyleHome, StylePoint, ThreadState
from juxtaform.core.check.tints import tint_findings
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.findings import Evidence, Finding, asks
from juxtaform.core.style.drift import TERM_EDGE, Change, lasting_change, term_change
from juxtaform.core.style.hands import HandJudgement, change_of_hand, hands_judged
from juxtaform.core.style.terms import NAMES, PRIOR, TERMS, StyleJudgement, judged

LEAST_HANDS = 4
"""With fewer pictures and references together a style's hand is not known."""
TERMS_WEIGHT, TERMS_MOST = 0.2, 2.0
"""How much the plain terms count beside the network's hand; none of them may shout."""
TOLD_LEAST = 0.9
"""A lasting change that the plain terms alone tell is believed when the whole distance of its pictures is near tolerance."""
STEP_LEAST = 0.8
"""Another hand that stays is believed when the plain terms tell it too, or the middle distance of its pictures is at least this: single grounds
and lights drift less."""
LASTING = 1.2
"""What lasts is graver than its single pictures are far: several that agree say more than one."""
OTHER_HAND = 1.4
"""A picture this far out of style was made by another hand; its shading and outlines cover traits, so that these are
measured and not reported: the picture is retaken anyway."""

GREYER = 0.75
"""Where a picture is out of style, figures that keep less than this part of their usual colour, or have as much more, are so for that reason, and no change of their own."""
STRONG = 1.6
"""With so many times their usual colour, paints run into each other, and nothing is told of traits."""
FOREMOST, HARDLY = 3, 1.0
"""Saturation or contrast is one of so many terms that change most where pictures lose colour or contrast; terms that change by less than the second (spreads) do not count."""

LINE_WIDTH = NAMES.index("line_width")
NEARER = 0.4
"""Figures that are so much larger in the picture (log2; a third) are seen from nearer."""

UNNAMED = StyleHome("", "the other pictures")


def style_thread(style: StyleHome, shots: Sequence[ShotState]) -> tuple[ThreadState, list[Finding]]:
    """A style along its shots: every picture's distance, single breaks, and where a lasting change begins."""
    run = [s for s in shots if s.style == style.id and s.picture is not None]
    if not run:
        return ThreadState(style.id), []
    sequence = np.array([s.picture.signature.values for s in run if s.picture is not None])
    references = np.array([r.values for r in style.references]).reshape(-1, len(TERMS))
    judgement = judged(sequence, references, np.array(style.weights) if style.weights else None)
    judgement, change, hands = _with_hands(style, run, judgement)
    faded = fading(run)
    coloured, veiled = faded.furthest, faded.veiled
    lost = faded.alone > np.maximum(1.0, judgement.distance)
    judgement = replace(judgement, distance=np.where(lost, faded.alone, judgement.distance))
    changes = _changes(change, faded.change if _of_colour_first(judgement, faded) else None)
    lines = term_change(sequence[:, LINE_WIDTH], PRIOR[LINE_WIDTH])
    if lines and _of_lines_alone(run, lines, changes, veiled):
        changes.append(lines[0])
    inside = {i for c in changes for i in range(c.start, c.end)}
    of_colour = {i for c in changes if c is faded.change for i in range(c.start, c.end)}
    points = []
    findings = tint_findings(style, run, changes)
    tinted = _through(run, (f for f in findings if not asks(f)))
    for i, shot in enumerate(run):
        out = bool(judgement.distance[i] > tol.STYLE_TOLERANCE) or i in inside
        part = (coloured if i in of_colour else faded.kept)[i]
        kept = float(part) if np.isfinite(part) else None
        points.append(
            StylePoint(
                shot.id,
                float(judgement.distance[i]),
                "drifts" if out or i in tinted else "holds",
                _foremost(judgement, i),
                kept,
                out and (i in of_colour or (kept is not None and not GREYER < kept < 1 / GREYER)),
                bool(veiled[i]),
            )
        )
        if out and i not in inside:
            told = _style_break(style, shot, judgement, sequence, i, hands)
            findings.append(_lost_colour(told, faded.kept[i]) if lost[i] else told)
    for lasting in changes:
        of_lines = lines[1] if lines and lasting is lines[0] else None
        findings.append(_style_change(style, run, judgement, sequence, lasting, hands, faded, of_lines))
    change = changes[0] if changes else None
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


def _through(run: Sequence[ShotState], findings: Iterable[Finding]) -> set[int]:
    """The positions of the shots that findings last through."""
    order = {shot.id: i for i, shot in enumerate(run)}
    return {i for f in findings for i in range(order[f.shot or ""], order[f.until or f.shot or ""] + 1)}


def unnamed_style(shots: Sequence[ShotState]) -> tuple[ThreadState, list[Finding]]:
    """Where nobody named a style: the pictures held against each other, as if they all had one. Its findings lie on no thread. By plain terms alone, where the
    network's eye did not look, nothing is told: without references they take other grounds for another hand."""
    if not all(s.picture.hand for s in shots if s.picture is not None):
        return ThreadState(UNNAMED.id), []
    state, findings = style_thread(UNNAMED, [replace(s, style=UNNAMED.id) for s in shots])
    return state, [replace(f, thread=None) for f in findings]


def _with_hands(
    style: StyleHome, run: Sequence[ShotState], judgement: StyleJudgement
) -> tuple[StyleJudgement, Change | None, HandJudgement | None]:
    """The judgement with what the network's hands add, and where a lasting change begins. Without hands the terms speak alone."""
    lasting = lasting_change(judgement.z, judgement.distance)
    # One array at a time: as numbers of Python those of a long story take much memory.
    hands = [np.array(s.picture.hand) for s in run if s.picture is not None and s.picture.hand]
    if len(hands) < len(run) or len(hands) + len(style.hands) < LEAST_HANDS:
        return judgement, lasting, None
    seen = np.stack(hands)
    del hands
    change = change_of_hand(seen)
    before = change.start if change else len(seen)
    found = hands_judged(seen, np.array(style.hands).reshape(-1, seen.shape[1]), before)
    distance = (1 - TERMS_WEIGHT) * found.distance + TERMS_WEIGHT * np.minimum(judgement.distance, TERMS_MOST)
    plain = judgement.distance
    judgement = replace(judgement, distance=distance)
    if change is not None and lasting is not None and abs(lasting.start - change.start) <= 1:
        change = replace(change, kind=lasting.kind)
    elif change is not None and change.kind == "step" and np.median(distance[change.start :]) < STEP_LEAST:
        change = None
    if change is None and lasting is not None and np.median(distance[lasting.start : lasting.end]) > TOLD_LEAST:
        change = lasting
    if change is not None and lasting is not None and change.kind == lasting.kind:
        there = slice(change.start, change.end)  # the plain terms see this change too: what they say of it is shown
        distance[there] = np.maximum(distance[there], plain[there])
    return judgement, change, found


def _foremost(judgement: StyleJudgement, i: int, most: int = 4) -> tuple[tuple[str, float], ...]:
    order = np.argsort(-np.abs(judgement.z[i]))[:most]
    return tuple((TERMS[k][0], float(judgement.z[i, k])) for k in order)


def _rows(i: int, hands: HandJudgement | None, terms: tuple[Evidence, ...]) -> tuple[Evidence, ...]:
    """What the terms say of a picture, and what the network's eye says, where it looked: whichever tells that something is off comes first."""
    if hands is None:
        return terms
    times = float(hands.distance[i])
    whole = Evidence(
        "The hand as a whole",
        f"{times:.1f} times as far off as it may be" if times >= 1 else "as it may be",
        behind=f"Distance over tolerance {times:.1f}",
    )
    beside = Evidence("Judged beside", f"{hands.set_on} references and pictures")
    return (whole, *terms, beside) if times >= 1 else (*terms, whole, beside)


MUCH, PLAIN = 3.0, 1.5
"""From so many spreads on a term is told as far from the others, and as plainly apart."""


def _style_rows(judgement: StyleJudgement, values: Floats, z: Floats) -> tuple[Evidence, ...]:
    """The terms that depart most, by what the eye sees of them."""
    return tuple(
        Evidence(
            _MORE[TERMS[k][0]][0 if z[k] > 0 else 1].capitalize(),
            "far" if abs(z[k]) > MUCH else "plainly" if abs(z[k]) > PLAIN else "a little",
            behind=f"{TERMS[k][1].capitalize()}: {values[k]:.2f}, usually {judgement.centre[k]:.2f} ± {judgement.scale[k]:.2f}".replace(
                "-", "−"
            ),
        )
        for k in np.argsort(-np.abs(z))[:4]
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


def _style_break(
    style: StyleHome, shot: ShotState, j: StyleJudgement, values: Floats, i: int, hands: HandJudgement | None
) -> Finding:
    said = style_words(j.z[i])
    return Finding(
        source="check",
        kind="style_break",
        thread=style.id,
        shot=shot.id,
        title=f"Another hand: {said}",
        advice="Only this picture leaves the style. Retake it with the style's references."
        if style.id
        else "Only this picture is unlike the others. Retake it; a style with references, on the Sheet, says what all shall look like.",
        measured=float(j.distance[i]),
        expected=tol.STYLE_TOLERANCE,
        unit="× tolerance",
        severity=float(j.distance[i]),
        evidence=_rows(i, hands, _style_rows(j, values[i], j.z[i])),
    )


def _style_change(
    style: StyleHome,
    run: Sequence[ShotState],
    j: StyleJudgement,
    values: Floats,
    change: Change,
    hands: HandJudgement | None,
    faded: Fading,
    of_lines: Floats | None,
) -> Finding:
    """Where a style changes for good, and by what: in the foreground colour and contrast, where it is these that the figures lose or gain, or the width of lines,
    where that alone changes."""
    part = slice(change.start, change.end)
    peak = change.start + int(np.argmax(j.distance[part]))
    z = j.z[part].mean(axis=0) if change.kind == "step" else j.z[change.end - 1]
    first, back = run[change.start], run[change.start - 1]
    verb = "slides" if change.kind == "slide" else "changes"
    said, measured, expected, unit = style_words(z), float(j.distance[peak]), tol.STYLE_TOLERANCE, "× tolerance"
    rows = _rows(peak, hands, _style_rows(j, values[change.end - 1], j.z[change.end - 1]))
    if change is faded.change:
        kept, contrast = (_furthest(x[part], faded.stronger) for x in (faded.kept, faded.contrast))
        measured, expected, unit = kept, 1.0, "of the usual colour"
        said = _colour_words(kept, contrast)
        if _far(contrast) > _far(kept):
            measured, unit = contrast, "of the usual contrast"
        rows = (*_of_colour(kept, contrast), *rows)
    elif of_lines is not None:
        measured, expected, unit = float(of_lines[change.end - 1]), TERM_EDGE, "spreads"
        said = _MORE["line_width"][0 if measured > 0 else 1]
    return Finding(
        source="check",
        kind="style_slide" if change.kind == "slide" else "style_step",
        thread=style.id,
        shot=first.id,
        title=f"Style {verb} from shot {first.number}: {said}",
        advice=f"Go back to the take of shot {back.number} and work on from there.",
        measured=measured,
        expected=expected,
        unit=unit,
        severity=max(LASTING, float(j.distance[peak])),
        until=run[change.end - 1].id,
        back_to=back.id,
        evidence=rows,
    )


def _style_apart(
    style: StyleHome, run: Sequence[ShotState], j: StyleJudgement, values: Floats, references: Floats
) -> Finding:
    home = references.mean(axis=0)
    z = (np.median(values, axis=0) - home) / j.scale
    return Finding(
        source="check",
        kind="style_apart",
        thread=style.id,
        shot=run[0].id,
        title=f"The whole sequence stands apart from {style.name}: {style_words(z)}",
        advice="The pictures agree with each other, not with the style's references. Choose references that look like the work.",
        measured=float(np.sqrt((z**2).mean())),
        expected=1.0,
        unit="spreads",
        severity=float(np.sqrt((z**2).mean())),
        until=run[-1].id,
        evidence=_style_rows(replace(j, centre=home), np.median(values, axis=0), z),
    )


@dataclass(frozen=True)
class AwayFromStyle:
    """Shots whose pictures are not in the style's hand, by what that means for their figures: drawn by an `other_hand`, alone or in a
    changed part; `sliding`, whose colours wander with the style, greyer or stronger, which the one finding about that says, or which something veils; `faded`, which lost so
    much of their colour that what is told by colour cannot be; `drawn_otherwise`, those of another hand whose own picture shows it."""

    other_hand: frozenset[str] = frozenset()
    sliding: frozenset[str] = frozenset()
    faded: frozenset[str] = frozenset()
    drawn_otherwise: frozenset[str] = frozenset()


def away_from_style(states: Iterable[ThreadState], shots: Sequence[ShotState]) -> AwayFromStyle:
    """Which pictures are away from their style."""
    states = list(states)
    coloured = {p.shot: p.kept for state in states for p in state.style if p.of_colour and p.kept is not None}
    veiled = {p.shot for state in states for p in state.style if p.veiled}
    sliding = frozenset(shot for state in states for shot in _sliding(state)) | frozenset(coloured) | veiled
    faded = _faded(shots, sliding) | {shot for shot, kept in coloured.items() if not tol.FADED_FIGURE < kept < STRONG}
    other_hand = frozenset(shot for state in states for shot in _other_hand(state)) | faded | frozenset(coloured)
    return AwayFromStyle(other_hand, sliding, faded, frozenset(shot for s in states for shot in _drawn_otherwise(s)))


def _other_hand(state: ThreadState) -> list[str]:
    order = [p.shot for p in state.style]
    begin = order.index(state.begins) if state.begins else len(order)
    seen_late = state.change == "slide" and not state.style[-1].of_colour  # but for what figures tell
    before = begin - tol.SLIDE_LEAST_SHOTS if seen_late else begin
    return [
        p.shot
        for i, p in enumerate(state.style)
        if before <= i < begin or p.distance > tol.STYLE_TOLERANCE * (1.0 if i >= begin else OTHER_HAND)
    ]


def _drawn_otherwise(state: ThreadState) -> list[str]:
    order = [p.shot for p in state.style]
    step = order.index(state.begins) if state.begins and state.change == "step" else len(order)
    return [
        p.shot
        for i, p in enumerate(state.style)
        if (i >= step and not p.of_colour) or p.distance > tol.STYLE_TOLERANCE * OTHER_HAND
    ]


def _sliding(state: ThreadState) -> list[str]:
    order = [p.shot for p in state.style]
    return order[order.index(state.begins) :] if state.begins and state.change == "slide" else []


def _changes(seen: Change | None, greyer: Change | None) -> list[Change]:
    """The lasting changes of a style, foremost first. What the figures tell of their colour, and which begins near the other change or within it, is that change."""
    if seen is None or greyer is None:
        return [c for c in (greyer, seen) if c]
    near = abs(seen.start - greyer.start) <= tol.SLIDE_LEAST_SHOTS and seen.end > greyer.start
    return [greyer] if near else [seen, greyer]


def _of_lines_alone(
    run: Sequence[ShotState], lines: tuple[Change, Floats], others: Sequence[Change], veiled: NDArray[np.bool_]
) -> bool:
    """Whether line width, and nothing else there, changes for good: no fog lies over it, which leaves less of every line, and the pictures are not seen from nearer,
    or from farther, where lines that are drawn along with the figures are wider, or thinner."""
    change, away = lines
    near = any(c.end > change.start - tol.SLIDE_LEAST_SHOTS for c in others)
    if near or veiled[change.start : change.end].mean() >= 0.5:
        return False
    sizes = [
        [np.log2(m.box.h / s.picture.height) for s in part if s.picture is not None for m in s.marks]
        for part in (run[: change.start], run[change.start : change.end])
    ]
    nearer = float(np.median(sizes[1]) - np.median(sizes[0])) if all(sizes) else 0.0
    return bool(nearer * np.sign(away[change.end - 1]) < NEARER)


def _of_colour_first(j: StyleJudgement, faded: Fading) -> bool:
    """Whether saturation or contrast is among the terms that move most where figures lose or gain them: drawn by another hand they have less too, and more line."""
    if faded.change is None:
        return False
    part, way = slice(faded.change.start, faded.change.end), 1.0 if faded.stronger else -1.0
    much = np.maximum(np.nan_to_num(way * np.log2(np.maximum(faded.furthest[part], 0.01))), 1e-6)
    z = np.average(j.z[part], axis=0, weights=much) - np.median(j.z[: faded.change.start], axis=0)
    moved = max(way * z[SATURATION], way * z[CONTRAST])
    return bool(moved > 0 and (np.abs(z) > max(moved, HARDLY)).sum() < FOREMOST)


def _furthest(kept: Floats, stronger: bool) -> float:
    """The most, or the least, that figures of several pictures have of their usual colour or contrast; 1 where none tells it."""
    known = kept[np.isfinite(kept)]
    return float(known.max() if stronger else known.min()) if len(known) else 1.0


def _far(kept: Floats | float) -> Floats:
    return np.abs(np.log2(np.maximum(kept, 0.01)))


def _colour_words(kept: float, contrast: float) -> str:
    """`greyer colours, less contrast`: what figures have less of, or more, the one that is further from usual first."""
    told = sorted((("saturation", kept), ("contrast", contrast)), key=lambda t: -_far(t[1]))
    return ", ".join(
        _MORE[name][0 if x > 1 else 1] for i, (name, x) in enumerate(told) if not (i and GREYER < x < 1 / GREYER)
    )


def _of_colour(kept: float, contrast: float = 1.0) -> tuple[Evidence, ...]:
    """What figures keep of their colour and contrast, as far as either is not the usual one."""
    told = []
    for label, what, x in (
        ("Colour of the figures", "Colourfulness", kept),
        ("Contrast in the figures", "Contrast", contrast),
    ):
        if not GREYER < x < 1 / GREYER:
            left = "hardly any" if x < 0.15 else f"{100 * x:.0f} % of what they usually have"
            told.append(Evidence(label, left, behind=f"{what} against references and other pictures {x:.2f}"))
    return tuple(told)


def _lost_colour(told: Finding, kept: float) -> Finding:
    """A break of style that is a loss of colour: said as such, as a hand or a light hardly takes all colour out of a picture."""
    some = bool(kept > tol.FADED_FIGURE)
    return replace(
        told,
        title="The picture is much greyer than the others" if some else "The picture has lost its colours",
        advice="No light of the story takes all colour away. Retake it in colour; if it is meant so, let it stand.",
        evidence=(*_of_colour(kept), *told.evidence) if np.isfinite(kept) else told.evidence,
    )


def _faded(shots: Sequence[ShotState], sliding: frozenset[str]) -> frozenset[str]:
    seen = {s.id: s.picture.signature.values[SATURATION] for s in shots if s.picture is not None}
    steady = [saturation for shot, saturation in seen.items() if shot not in sliding]
    usual = float(np.median(steady)) if steady else 0.0
    low = {shot for shot, saturation in seen.items() if saturation < usual - tol.FADED_PICTURE}
    return frozenset(s.id for s in shots if s.id in low and s.picture and not has_colour(s.picture.appearances))
