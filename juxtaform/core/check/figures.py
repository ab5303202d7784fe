"""Findings along a figure: traits that changed or went missing, somebody else in its place."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.changes import judged
from juxtaform.core.check.extras import something_extra, unexplained
from juxtaform.core.check.persons import somebody_else, thread_level
from juxtaform.core.check.proportions import out_of_proportion
from juxtaform.core.check.states import FigurePoint, Mark, ShotState, ThreadState, Verdict
from juxtaform.core.check.styles import AwayFromStyle
from juxtaform.core.colour.spaces import linear_from_hex, oklab_from_linear
from juxtaform.core.colour.words import colour_name
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.reading import TraitReading
from juxtaform.core.figure.recognition import STRANGER, Judges, weighed
from juxtaform.core.figure.verdict import DOUBTFUL_LEAD, STRANGER_BELOW, Answer, Level, answer
from juxtaform.core.findings import Evidence, Finding, asks
from juxtaform.core.picture.regions import Box, shared_area
from juxtaform.core.style.drift import scalar_change

SHAPE_BELOW = 1.5
"""A figure whose score in the right colours is at most this far below that of the thread's better half has the right shape."""
HOLDS_LEAST = 0.15
"""Where a changed trait explains a figure, the traits that hold are at least this part of it."""
RIVAL_LEAST = 0.0
"""Somebody else is named in a question when it is likelier than not (log odds) to be that one."""
COVERED_LEAST = 0.3
"""Where somebody else's mark covers this part of a figure's, who it is can only be asked: what is seen there is partly the other one."""
HIDDEN_LEAST = 0.5
"""Where somebody else's mark covers this part of a trait's place, it may be hidden: nothing is told of it."""
HOLDER, HELD_LEAST = 3.0, 0.8
"""A mark so many times as large as another one, which lies in it by this part, is of whoever holds or wears what is marked there."""
USUALLY_TWICE = 0.34
"""A trait that is there twice in more of a thread's other pictures than this part of them is so by design, or by how it is read."""
DRAWN_UNLIKE = 1.5
"""In a picture by another hand somebody else must be so much more certain (log odds): it draws everybody a little unlike."""
SURELY_SAME = 8.0
"""Log odds below those of somebody else at which a figure is at distance 0 from itself."""
STILL_COLOURFUL = 0.7
"""A part that keeps at least this much of its chroma is not changed by a slide of the style to grey."""
ONE_HUE = 0.5
"""Two colours whose hues lie within this angle (OKLab, radians) are one hue, paler or stronger."""


def figure_thread(
    thread: str,
    titles: dict[str, str],
    shots: Sequence[ShotState],
    parts: Mapping[tuple[str, str], str],
    away: AwayFromStyle,
    accepted: Collection[tuple[str, str]] = (),
    judges: Judges | None = None,
) -> tuple[ThreadState, list[Finding]]:
    """A figure along the shots where it is marked: first who it is, then what about it changed.

    `accepted` names appearances, as (thread, shot), that the illustrator says are right; `judges` weigh what speaks for a change of a trait, and for somebody else. In pictures that lost their colour no trait is told; without an eye none in pictures by another hand, and only missing ones in pictures that slide with the style; with one, of those what the slide does not say.
    """
    here = [
        (shot, mark, seen)
        for shot in shots
        if shot.picture is not None
        for mark, seen in zip(shot.marks, shot.picture.appearances, strict=True)
        if mark.thread == thread
    ]
    every = [seen for _, _, seen in here]
    level = thread_level(every, [seen for shot, _, seen in here if (thread, shot.id) in accepted])
    odds = somebody_else(every, level, judges.who if judges else None)
    apart = {i for i, (shot, _, _) in enumerate(here) if shot.id in away.other_hand | away.sliding}
    told_traits = judged(every, judges.traits if judges else None, apart)
    strange = unexplained(every)
    here = [
        (shot, mark, replace(seen, traits=_unseen(traits) if shot.id in away.faded else traits, worn=(), extras=()))
        for (shot, mark, seen), traits in zip(here, told_traits, strict=True)
    ]
    del every  # what they wear has been weighed, and takes much memory
    repeated = _repeated([seen for _, _, seen in here])
    misshapen = out_of_proportion(thread, titles.get(thread, thread), here)
    points: list[FigurePoint] = []
    findings: list[Finding] = []
    for at, (shot, mark, seen) in enumerate(here):
        other_hand = shot.id in away.other_hand
        who, findings_here = _who(thread, titles, shot, mark, seen, level, odds[at], other_hand=other_hand)
        if shot.id in away.faded:  # it is to be retaken, and in grey everybody is a little like everybody
            findings_here = [f for f in findings_here if f.kind != "figure_doubtful"]
        dressed_otherwise = seen.identity is not None and seen.identity.wears is not None
        partly_another = who == "doubtful" and _stands_before(shot, mark) >= COVERED_LEAST
        if who not in ("stranger", "other") and not dressed_otherwise and not partly_another:
            findings_here += _traits(thread, titles, shot, mark, seen, parts, away)
            if not other_hand:
                held = [t for t in repeated[at] if _trait_held(mark.hold, parts.get((thread, t.name), "figure"))]
                findings_here += [_twice(thread, titles.get(thread, thread), shot, seen, t) for t in held]
                findings_here += misshapen[at] if _stands_before(shot, mark) < COVERED_LEAST else []
                one = strange[at]
                free = one is not None and _stands_before(shot, mark, one.extra.box) < HIDDEN_LEAST
                if free and shot.id not in away.faded | away.sliding:
                    findings_here += something_extra(thread, titles.get(thread, thread), shot, mark, one, seen.traits)
        points.append(FigurePoint(shot.id, mark, seen, _verdict(who, findings_here), _distance(seen, level, odds[at])))
        findings += findings_here
    change = scalar_change(np.array([p.distance for p in points])) if len(points) >= 4 else None
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


def _repeated(seen: Sequence[Appearance]) -> list[list[TraitReading]]:
    """The traits of each appearance that are there once more than on the references, and are not so in many of the thread's other pictures."""
    times = Counter((t.name, t.expected) for a in seen for t in a.traits if t.again)
    others = len(seen) - 1
    return [
        [
            t
            for t in a.traits
            if t.again and t.verdict == "holds" and times[t.name, t.expected] - 1 <= USUALLY_TWICE * others
        ]
        for a in seen
    ]


def _twice(thread: str, name: str, shot: ShotState, seen: Appearance, trait: TraitReading) -> Finding:
    part = _lower(trait.name)
    return Finding(
        source="check",
        kind="trait_twice",
        thread=thread,
        shot=shot.id,
        title=f"{name}'s {part} is there twice",
        advice="The references show one fewer. Retake the shot, change this area, or let it stand.",
        measured=trait.again,
        expected=1.0,
        unit="× as much",
        severity=trait.again,
        trait=trait.name,
        region=trait.again_at,
        evidence=(
            Evidence(f"{trait.name}, once more", "here", expected_hex=trait.expected[0]),
            Evidence("How much of it there is", f"{trait.again:.1f} times as much as on the references"),
            Evidence("Scene light taken out", seen.light.words()),
        ),
    )


def _unseen(traits: Sequence[TraitReading]) -> tuple[TraitReading, ...]:
    """Traits of a picture that lost its colour: none of them can be told."""
    return tuple(replace(t, verdict="not_seen") for t in traits)


def _distance(seen: Appearance, level: Level, odds: float | None) -> float:
    """The figure's relative distance: 1 is where it is told as somebody else."""
    if seen.identity is None:
        return seen.distance
    if odds is not None:
        return max(0.0, 1.0 + (odds - STRANGER) / SURELY_SAME)
    return max(0.0, (level.score - seen.identity.as_worn) / STRANGER_BELOW)


def _verdict(who: Answer, findings: Sequence[Finding]) -> Verdict:
    if who in ("stranger", "other"):
        return "swapped"
    if any(not asks(f) for f in findings):
        return "drifts"
    return "doubtful" if findings else "holds"


def _who(
    thread: str,
    titles: dict[str, str],
    shot: ShotState,
    mark: Mark,
    seen: Appearance,
    level: Level,
    odds: float | None,
    *,
    other_hand: bool,
) -> tuple[Answer, list[Finding]]:
    """Whether it is this character, by the log `odds` that it is somebody else where they were weighed; without an eye by colours and structure alone, and
    only of others in the cast.

    What a changed trait or another hand explains is no question.
    """
    name = titles.get(thread, thread)
    if seen.identity is None:
        rival = min(seen.others, key=lambda k: seen.others[k], default=None)
        if rival and seen.distance > 1.0 and seen.others[rival] < tol.SWAP_RATIO * seen.distance:
            return "other", [_swapped(thread, titles, rival, shot, mark, seen, level)]
        return "same", []
    # In another costume of their own they are themselves; that it is the wrong one is told by itself.
    score = seen.identity.as_worn
    if odds is None:
        who, rival = answer(score, seen.identity.rivals, level)
    else:
        odds -= DRAWN_UNLIKE * other_hand
        who, rival = weighed(odds, score, seen.identity.rivals, level)
    rival_name = titles.get(rival, rival) if rival else None
    if who in ("other", "stranger") and _stands_before(shot, mark) >= COVERED_LEAST:
        who = "doubtful"  # what is looked at is partly somebody else, and it looks like them
    if who == "other" and rival_name:
        return who, [_swapped(thread, titles, rival or "", shot, mark, seen, level, odds)]
    theirs = seen.identity.rivals[rival] if rival else -np.inf
    lead = theirs > max(score + DOUBTFUL_LEAD, RIVAL_LEAST)
    if who in ("stranger", "doubtful") and not lead and (_explained(seen, level) or (who == "doubtful" and other_hand)):
        return "same", []
    if who == "stranger" and other_hand:
        who = "doubtful"
    most_like = f"Of the cast it looks most like {rival_name}. " if rival_name else ""
    if who == "stranger":
        title = f"This is not {name}" + (f"; of the cast it looks most like {rival_name}" if rival_name else "")
        advice = f"Retake the shot with {name}'s references, or mend the mark."
        return who, [_figure_finding("figure_stranger", thread, shot, mark, seen, title, advice, level, titles, odds)]
    if who == "doubtful":
        title = f"Is this {name}, or {rival_name}?" if lead else f"Is this {name}?"
        advice = f"{'' if lead else most_like}It goes less well with the references than {name} does elsewhere. If it is {name}, let it stand."
        return who, [_figure_finding("figure_doubtful", thread, shot, mark, seen, title, advice, level, titles, odds)]
    return who, []


def _stands_before(shot: ShotState, mark: Mark, part: Box | None = None) -> float:
    """The largest part of a mark, or of a `part` of it, 0..1, that the mark of one other figure covers. Who holds a thing, is so much larger and all around it, does not cover it."""
    own, part = mark.box.w * mark.box.h, part or mark.box
    others = [
        m.box
        for m in shot.marks
        if m.thread != mark.thread
        and not (m.box.w * m.box.h > HOLDER * own and shared_area(m.box, mark.box) > HELD_LEAST * own)
    ]
    return max((shared_area(part, box) for box in others), default=0.0) / max(1e-9, part.w * part.h)


def _explained(seen: Appearance, level: Level) -> bool:
    """Whether traits that changed say why a figure goes so badly with its references: its shape is as right as in the thread's other
    pictures, and more of its traits hold than changed."""
    assert seen.identity is not None
    changed = [t for t in seen.traits if t.verdict in ("changed", "missing")]
    holds = [t for t in seen.traits if t.verdict == "holds"]
    part = sum(t.share_expected for t in holds)
    return (
        bool(changed)
        and len(holds) >= len(changed)
        and part >= HOLDS_LEAST
        and level.shape - seen.identity.shape < SHAPE_BELOW
    )


def _swapped(
    thread: str,
    titles: Mapping[str, str],
    rival: str,
    shot: ShotState,
    mark: Mark,
    seen: Appearance,
    level: Level,
    odds: float | None = None,
) -> Finding:
    name, other = titles.get(thread, thread), titles.get(rival, rival)
    title = f"This is not {name}; it looks most like {other}"
    advice = f"Mark it as {other}, or retake the shot with {name}'s references."
    return _figure_finding("figure_swapped", thread, shot, mark, seen, title, advice, level, titles, odds)


def _traits(
    thread: str,
    titles: dict[str, str],
    shot: ShotState,
    mark: Mark,
    seen: Appearance,
    parts: Mapping[tuple[str, str], str],
    away: AwayFromStyle,
) -> list[Finding]:
    name, sliding = titles.get(thread, thread), shot.id in away.sliding
    judgeable = [t for t in seen.traits if _trait_held(mark.hold, parts.get((thread, t.name), "figure"))]
    bad = [t for t in judgeable if t.verdict in ("changed", "missing")]
    bad = [t for t in bad if _stands_before(shot, mark, t.region) < HIDDEN_LEAST]
    if seen.identity is None:
        if shot.id in away.other_hand:
            return []
        most_bad = len(bad) >= 3 and len(bad) >= 0.5 * len(judgeable)
        if mark.hold == "figure" and (most_bad or (not bad and seen.distance > tol.FIGURE_TOLERANCE)) and not sliding:
            title = f"{name} looks like somebody else" if most_bad else f"{name} has drifted as a whole"
            advice = "Compare with the anchor, then retake."
            return [_figure_finding("figure_drift", thread, shot, mark, seen, title, advice, None, {})]
    if sliding:
        bad = [t for t in bad if t.verdict == "missing" or (seen.identity is not None and not _only_of_colour(t))]
    return [_trait_finding(thread, name, shot, seen, t, judgeable) for t in bad]


def _only_of_colour(trait: TraitReading) -> bool:
    """Whether a changed trait lost so much colour that the slide of the style says it, or has more of the same hue."""
    if trait.seen is None:
        return True
    seen, *expected = (complex(*oklab_from_linear(linear_from_hex(c))[1:]) for c in (trait.seen, *trait.expected))
    if abs(seen) < STILL_COLOURFUL * max((abs(e) for e in expected), default=0.0):
        return True
    alike = [abs(e) > 0 and abs(np.angle(seen / e)) < ONE_HUE for e in expected]
    return any(hue and abs(seen) > abs(e) for hue, e in zip(alike, expected, strict=True))


def narrowed(
    state: ThreadState,
    title: str,
    shots: Mapping[str, ShotState],
    parts: Mapping[tuple[str, str], str],
    most: Mapping[str, float],
) -> list[Finding]:
    """What of a thread's figures is within our tolerance and beyond a narrower one that was learned: `most` is, by trait, how far it may go as a part of
    ours. Only traits that were read as holding are looked at; what is told anyway is not told again."""
    found = []
    for point in state.figures:
        seen, shot = point.appearance, shots[point.shot]
        held = [t for t in seen.traits if _trait_held(point.mark.hold, parts.get((state.thread, t.name), "figure"))]
        for t in held:
            if (
                t.name in most
                and t.verdict == "holds"
                and t.difference is not None
                and t.difference > most[t.name] * t.allowed
            ):
                one = _trait_finding(state.thread, title, shot, seen, t, held)
                why = Evidence(
                    "Your marks", f"as far off as this is too far: {most[t.name]:.1f} of the usual tolerance"
                )
                found.append(replace(one, evidence=(*one.evidence, why)))
    return found


def _trait_held(hold: str, part: str) -> bool:
    return hold == "figure" or part in (hold, "figure")


def _trait_finding(
    thread: str, name: str, shot: ShotState, seen: Appearance, trait: TraitReading, all_traits: list[TraitReading]
) -> Finding:
    rest = [t.difference for t in all_traits if t is not trait and t.verdict == "holds" and t.difference is not None]
    light = Evidence("Scene light taken out", seen.light.words())
    others = Evidence("Other traits", f"hold (at most {max(rest):.1f} apart)" if rest else "none to compare")
    share = Evidence("Share of the figure", f"{trait.share_seen * 100:.0f} %", f"{trait.share_expected * 100:.0f} %")
    if trait.verdict == "missing":
        return Finding(
            source="check",
            kind="trait_missing",
            thread=thread,
            shot=shot.id,
            title=f"{name}'s {_lower(trait.name)} is missing",
            advice=f"It is on the references and not in this picture. Retake with the {_lower(trait.name)} in the brief, or let it stand.",
            measured=trait.share_seen * 100,
            expected=trait.share_expected * 100,
            unit="% of figure",
            severity=2.0,
            trait=trait.name,
            region=trait.region,
            evidence=(
                Evidence(f"{trait.name}, expected", "not found", expected_hex=trait.expected[0]),
                share,
                light,
                others,
            ),
        )
    difference = trait.difference or 0.0
    was, now = (colour_name(linear_from_hex(code)) for code in (trait.expected[0], trait.seen or trait.expected[0]))
    part = f"{name}'s {_lower(trait.name)}"
    title = (
        f"{part} is {now}; on the references it is {was}"
        if was != now
        else f"{part} is another {was} than on the references"
    )
    return Finding(
        source="check",
        kind="trait_changed",
        thread=thread,
        shot=shot.id,
        title=title,
        advice="The scene's light does not explain it. Retake with this corrected.",
        measured=difference,
        expected=trait.allowed,
        unit="ΔE00",
        severity=difference / trait.allowed,
        trait=trait.name,
        region=trait.region,
        evidence=(
            Evidence(f"{trait.name}, expected", trait.expected[0], expected_hex=trait.expected[0]),
            Evidence(f"{trait.name}, seen", trait.seen or "", measured_hex=trait.seen),
            Evidence(
                "Difference of colour",
                f"{difference:.0f}",
                f"{trait.allowed:.0f}",
                behind=f"CIEDE2000 {difference:.1f}, allowed {trait.allowed:.1f}: 2 is just seen, 7 is another colour",
            ),
            *([Evidence(f"In {trait.alone} other pictures of {name}", "nowhere")] if trait.alone else []),
            share,
            light,
            others,
        ),
    )


def _figure_finding(
    kind: str,
    thread: str,
    shot: ShotState,
    mark: Mark,
    seen: Appearance,
    title: str,
    advice: str,
    level: Level | None,
    titles: Mapping[str, str],
    odds: float | None = None,
) -> Finding:
    rows: list[Evidence] = []
    measured, expected, severity = seen.distance, 1.0, max(seen.distance, 1.5)
    if seen.identity is not None and level is not None:
        who = seen.identity
        measured = _distance(seen, level, odds)
        severity = tol.DOUBT_SEVERITY if kind == "figure_doubtful" else max(measured, 1.5)
        rows = [
            Evidence(
                f"That this is {titles.get(thread, thread)}",
                likelihood(who.score if odds is None else -odds),
                likelihood(level.score),
                behind=f"Log odds {_signed(who.score)} by the references; the thread's usual {_signed(level.score)}"
                + ("" if odds is None else f"; weighed beside its other pictures and the cast {_signed(-odds)}"),
            ),
            *(
                Evidence(f"That it is {titles.get(k, k)}", likelihood(v), behind=f"Log odds {_signed(v)}")
                for k, v in sorted(who.rivals.items(), key=lambda t: -t[1])[:3]
            ),
            Evidence(
                "Lies over the reference", f"{who.share * 100:.0f} % of the figure", behind="By one turn and scale"
            ),
            Evidence("Band set on", level.words()),
        ]
    else:
        rows = [
            Evidence(
                "The figure as a whole",
                f"{seen.distance:.1f} times as far off as it may be",
                behind="Distance over tolerance",
            ),
            Evidence(
                "Colours the light does not explain",
                f"{seen.terms.colour * 100:.0f} %",
                behind="Mean OKLab distance, 0 to 2",
            ),
            Evidence("Shares of its colours", f"{seen.terms.makeup * 100:.0f} % apart", behind="Hellinger distance"),
            Evidence(
                "Drawn details",
                f"{(1 - seen.terms.structure) * 100:.0f} % agree",
                behind="Keypoints under one affine map",
            ),
            *(
                Evidence(f"Distance to {other}", f"{d:.1f} times its tolerance")
                for other, d in sorted(seen.others.items())
            ),
        ]
    rows.append(Evidence("Scene light taken out", seen.light.words()))
    return Finding(
        source="check",
        kind=kind,
        thread=thread,
        shot=shot.id,
        title=title,
        advice=advice,
        measured=measured,
        expected=expected,
        unit="× tolerance",
        severity=severity,
        region=mark.box,
        evidence=tuple(rows),
    )


_LIKELY = ((-2.0, "very unlikely"), (-0.5, "unlikely"), (0.5, "as likely as not"), (2.0, "likely"))


def likelihood(log_odds: float) -> str:
    """Log odds in words.

    >>> [likelihood(v) for v in (-3, -1, 0, 1, 3)]
    ['very unlikely', 'unlikely', 'as likely as not', 'likely', 'very likely']
    """
    return next((words for edge, words in _LIKELY if log_odds < edge), "very likely")


def _signed(value: float) -> str:
    return f"{value:+.1f}".replace("-", "−")


def _lower(name: str) -> str:
    return name[:1].lower() + name[1:]
