"""Findings along a style: a picture by another hand, a step, a slide, a sequence that stands apart from its references."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.states import ShotState, StyleHome, StylePoint, ThreadState
from juxtaform.core.colour.spaces import Floats, linear_from_hex
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.worn import colourfulness
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.style.drift import Change, lasting_change
from juxtaform.core.style.hands import HandJudgement, change_of_hand, hands_judged
from juxtaform.core.style.terms import NAMES, TERMS, StyleJudgement, judged

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
    fades = _fades(run)
    lost = fades > np.maximum(1.0, judgement.distance)
    judgement = replace(judgement, distance=np.where(lost, fades, judgement.distance))
    inside = set(range(change.start, change.end)) if change else set()
    points = []
    findings: list[Finding] = []
    for i, shot in enumerate(run):
        out = bool(judgement.distance[i] > tol.STYLE_TOLERANCE) or i in inside
        points.append(
            StylePoint(shot.id, float(judgement.distance[i]), "drifts" if out else "holds", _foremost(judgement, i))
        )
        if out and i not in inside:
            told = _style_break(style, shot, judgement, sequence, i, hands)
            findings.append(_lost_colour(told) if lost[i] else told)
    if change:
        findings.append(_style_change(style, run, judgement, sequence, change, hands))
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
    hands = [s.picture.hand for s in run if s.picture is not None and s.picture.hand]
    if len(hands) < len(run) or len(hands) + len(style.hands) < LEAST_HANDS:
        return judgement, lasting, None
    seen = np.array(hands)
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
) -> Finding:
    part = slice(change.start, change.end)
    peak = change.start + int(np.argmax(j.distance[part]))
    z = j.z[part].mean(axis=0) if change.kind == "step" else j.z[change.end - 1]
    first, back = run[change.start], run[change.start - 1]
    verb = "slides" if change.kind == "slide" else "changes"
    return Finding(
        source="check",
        kind="style_slide" if change.kind == "slide" else "style_step",
        thread=style.id,
        shot=first.id,
        title=f"Style {verb} from shot {first.number}: {style_words(z)}",
        advice=f"Go back to the take of shot {back.number} and work on from there.",
        measured=float(j.distance[peak]),
        expected=tol.STYLE_TOLERANCE,
        unit="× tolerance",
        severity=max(LASTING, float(j.distance[peak])),
        until=run[change.end - 1].id,
        back_to=back.id,
        evidence=_rows(peak, hands, _style_rows(j, values[change.end - 1], j.z[change.end - 1])),
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
    changed part; `sliding`, whose colours wander with the style, which the one finding about the slide says; `faded`, which lost so
    much of their colour that what is told by colour cannot be; `drawn_otherwise`, those of another hand whose own picture shows it."""

    other_hand: frozenset[str] = frozenset()
    sliding: frozenset[str] = frozenset()
    faded: frozenset[str] = frozenset()
    drawn_otherwise: frozenset[str] = frozenset()


def away_from_style(states: Iterable[ThreadState], shots: Sequence[ShotState]) -> AwayFromStyle:
    """Which pictures are away from their style."""
    states = list(states)
    sliding = frozenset(shot for state in states for shot in _sliding(state))
    faded = _faded(shots, sliding)
    other_hand = frozenset(shot for state in states for shot in _other_hand(state)) | faded
    return AwayFromStyle(other_hand, sliding, faded, frozenset(shot for s in states for shot in _drawn_otherwise(s)))


def _other_hand(state: ThreadState) -> list[str]:
    order = [p.shot for p in state.style]
    begin = order.index(state.begins) if state.begins else len(order)
    before = begin - tol.SLIDE_LEAST_SHOTS if state.change == "slide" else begin  # a slide begins before it can be seen
    return [
        p.shot
        for i, p in enumerate(state.style)
        if before <= i < begin or p.distance > tol.STYLE_TOLERANCE * (1.0 if i >= begin else OTHER_HAND)
    ]


def _drawn_otherwise(state: ThreadState) -> list[str]:
    order = [p.shot for p in state.style]
    step = order.index(state.begins) if state.begins and state.change == "step" else len(order)
    return [p.shot for i, p in enumerate(state.style) if i >= step or p.distance > tol.STYLE_TOLERANCE * OTHER_HAND]


def _sliding(state: ThreadState) -> list[str]:
    order = [p.shot for p in state.style]
    return order[order.index(state.begins) :] if state.begins and state.change == "slide" else []


def _fades(run: Sequence[ShotState]) -> Floats:
    """How far each picture of a style has lost its colours (n,), 1 is where they are gone; 0 where its figures have theirs, and where anything in it is colourful, as
    a small figure on white paper. A picture without figures may be of something grey, and must have lost more."""
    at = NAMES.index("saturation")
    pictures = [s.picture for s in run if s.picture is not None]
    seen = np.array([p.signature.values[at] for p in pictures])
    least = np.array([tol.FADED_PICTURE if p.appearances else tol.FADED_GROUND for p in pictures])
    kept = np.array([bool(p.appearances) and _kept_colour(p.appearances) for p in pictures])
    strong = np.array(
        [colourfulness(np.array([w.linear for w in p.palette]), np.ones(len(p.palette))) for p in pictures]
    )
    kept |= strong > tol.FADED_FIGURE * np.median(strong)
    return np.where(kept, 0.0, np.maximum(0.0, np.median(seen) - seen) / least)


def _lost_colour(told: Finding) -> Finding:
    """A break of style that is a loss of colour: said as such, as a hand or a light hardly takes all colour out of a picture."""
    return replace(
        told,
        title="The picture has lost its colours",
        advice="No light of the story takes all colour away. Retake it in colour; if it is meant so, let it stand.",
    )


def _faded(shots: Sequence[ShotState], sliding: frozenset[str]) -> frozenset[str]:
    at = NAMES.index("saturation")
    seen = {s.id: s.picture.signature.values[at] for s in shots if s.picture is not None}
    steady = [saturation for shot, saturation in seen.items() if shot not in sliding]
    usual = float(np.median(steady)) if steady else 0.0
    low = {shot for shot, saturation in seen.items() if saturation < usual - tol.FADED_PICTURE}
    return frozenset(s.id for s in shots if s.id in low and s.picture and not _kept_colour(s.picture.appearances))


def _kept_colour(seen: Iterable[Appearance]) -> bool:
    """Whether some figure of a picture is as colourful as on its references, or all have no colour there to lose: then only the ground is grey.
    Not so where no eye looked."""
    worn = [a for a in seen if a.worn]
    kept = []
    for a in worn:
        codes = np.array([linear_from_hex(t.expected[0]) for t in a.traits]).reshape(-1, 3)
        usual = colourfulness(codes, np.array([t.share_expected for t in a.traits]))
        if usual >= tol.FIGURE_COLOURFUL:
            shown = colourfulness(np.array([w.linear for w in a.worn]), np.array([w.share for w in a.worn]))
            kept.append(shown > tol.FADED_FIGURE * usual)
    return any(kept) if kept else bool(worn)
