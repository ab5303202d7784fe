"""A tint that creeps in: pictures whose light turns more and more to one colour and grows no darker, as pictures do that are each made from the one before."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.states import ShotState, StyleHome
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.style.drift import SLIDE_DISTANCE, TERM_EDGE, Change, term_away, term_change

GROWS_LEAST, GROWS = 3, 1.4
"""A tint creeps where it is seen in so many pictures at least, and their later half has so many times as much of it as their earlier half."""
AT_ONCE = 0.5
"""A picture that brings more than this part of all the tint by itself stands in another light."""
DARKER = 0.5
"""Evening comes with less light: where the light changes by more than this part of the tint (both in stops), beyond `DARKER_FREE`, it is the story's."""
DARKER_FREE = 0.1
SCENE_LEAST = 6
"""A scene by itself is long enough for a tint to creep in from so many pictures on."""
SURELY = 1.6
"""Told is a tint so many times the edge; less is asked."""


@dataclass(frozen=True)
class _Axis:
    """A way in which light is tinted: weights of the log2 gains of red, green and blue, how far it usually lies apart (stops) in pictures of one light, and the
    words for more of it and for less."""

    weights: tuple[float, float, float]
    usual: float
    more: str
    less: str
    label: str


AXES = (
    _Axis((1.0, 0.0, -1.0), 0.15, "warmer", "cooler", "Red over blue"),
    _Axis((-0.5, 1.0, -0.5), 0.1, "greener", "pinker", "Green over red and blue"),
)
"""Light varies along daylight's colours more than across them. Of drawn figures by other hands, all in one light, the first lies 0.01 to 0.25 stops apart, the second 0.00 to 0.08."""


@dataclass(frozen=True)
class Tint:
    """A creeping tint: where, along which axis, how far each picture is from the first ones in stops (n,; NaN where no figure tells it), and from how many
    stops on it is one."""

    change: Change
    axis: _Axis
    stops: Floats
    edge: float

    @property
    def reached(self) -> float:
        """The tint of the last picture that tells it, in stops; below 0 it is less of the axis."""
        return float(self.stops[np.isfinite(self.stops)][-1])


def lights(run: Sequence[ShotState]) -> Floats:
    """The light on each picture's figures as log2 gains of linear red, green and blue (n, 3): the middle of all, NaN where none tells it."""
    return np.array([_light(shot) for shot in run]).reshape(-1, 3)


def creeping_tint(gains: Floats) -> Tint | None:
    """The tint that the figures' light (n, 3; see `lights`) takes on more and more up to the end of a sequence, the furthest if there are several, or None."""
    at = np.flatnonzero(np.isfinite(gains).all(axis=1))
    found = []
    for axis in AXES:
        values = gains[at] @ np.array(axis.weights)
        if not len(values) or abs(term_away(values, axis.usual)[-1]) < SLIDE_DISTANCE * TERM_EDGE:
            continue
        changed = term_change(values, axis.usual)
        if changed is None:
            continue
        change, away = changed
        part = slice(change.start, change.end)
        first = np.median(values[: (len(values) + 1) // 2])
        stops, spread = values - first, (values - first)[-1] / away[-1]
        light = gains[at].mean(axis=1)
        darker = abs(float(light[part][-1] - np.median(light[: change.start])))
        if not _creeps(stops[part]) or darker > DARKER * abs(stops[-1]) + DARKER_FREE:
            continue
        whole = np.full(len(gains), np.nan)
        whole[at] = stops
        lasting = replace(change, kind="slide", start=int(at[change.start]), end=len(gains))
        found.append(Tint(lasting, axis, whole, float(TERM_EDGE * spread)))
    return max(found, key=lambda t: abs(t.reached) / t.edge, default=None)


def _light(shot: ShotState) -> Floats:
    seen = [a.light.gain for a in shot.picture.appearances] if shot.picture else []
    if not seen:
        return np.full(3, np.nan)
    return np.asarray(np.median(np.log2(np.maximum(np.array(seen), 1e-3)), axis=0))


def _creeps(stops: Floats) -> bool:
    """Whether a tint grows from picture to picture: one that is there at once is another light."""
    own = stops * np.sign(stops[-1])
    if len(own) < GROWS_LEAST:
        return False
    half = len(own) // 2
    steps = np.diff(np.concatenate([[0.0], own]))
    return bool(
        np.median(own[-half:]) > GROWS * max(0.0, float(np.median(own[:half]))) and steps.max() < AT_ONCE * own[-1]
    )


def tint_findings(style: StyleHome, run: Sequence[ShotState], told: Sequence[Change]) -> list[Finding]:
    """What is told of tints along a style, up to its end or up to the end of a scene, where none of the changes `told` is near: they say what is wrong there
    already."""
    found: list[Finding] = []
    gains, ends = lights(run), len(run) + 1
    for start, end in reversed(_stretches(run)):
        tint = creeping_tint(gains[start:end])
        if tint is None or start + tint.change.end > ends:
            continue
        begins = start + tint.change.start
        if any(c.start < end and c.end > begins - tol.SLIDE_LEAST_SHOTS for c in told):
            continue
        found.insert(0, _finding(style, tint, run[start:end]))
        ends = begins
    return found


def _stretches(run: Sequence[ShotState]) -> list[tuple[int, int]]:
    """Where (start, end) a tint can creep in: in each scene that is long enough, and through all pictures of the run, which come last."""
    scenes = [shot.plan.scene if shot.plan else "" for shot in run]
    begins = [0, *(i for i in range(1, len(run)) if scenes[i] != scenes[i - 1]), len(run)]
    own = [(a, b) for a, b in pairwise(begins) if scenes[a] and b - a >= SCENE_LEAST and b - a < len(run)]
    return [*own, (0, len(run))]


def _finding(style: StyleHome, tint: Tint, run: Sequence[ShotState]) -> Finding:
    first, back, last = run[tint.change.start], run[tint.change.start - 1], run[-1]
    way = tint.axis.more if tint.reached > 0 else tint.axis.less
    severity = abs(tint.reached) / tint.edge
    sure = severity > SURELY
    reason = _reason(back, run[tint.change.start :])
    behind = f"{tint.axis.label} {tint.reached:+.2f} stops at last, allowed {tint.edge:.2f}".replace("-", "−")
    return Finding(
        source="check",
        kind="style_slide" if sure else "tint_doubtful",
        thread=style.id,
        shot=first.id,
        title=f"Style slides from shot {first.number}: the colours turn {way}"
        if sure
        else f"Do the colours turn {way} from shot {first.number} on?",
        advice=f"If no light of the story does that, go back to the take of shot {back.number} and work on from there; if it is meant, let it stand.",
        measured=tint.reached,
        expected=tint.edge,
        unit="stops",
        severity=severity if sure else tol.DOUBT_SEVERITY,
        until=last.id,
        back_to=back.id,
        reason=reason,
        evidence=(
            *((Evidence("The plan says", reason),) if reason else ()),
            Evidence("Light on figures", f"{way} each time", behind=behind),
            Evidence("Brightness", "about as before", behind="An evening's light would be darker too"),
        ),
    )


def _reason(before: ShotState, there: Sequence[ShotState]) -> str:
    """What the plan says that explains another light: another time, or another variant of the place."""
    for shot in there:
        if shot.plan and before.plan:
            if shot.plan.time and shot.plan.time != before.plan.time:
                return f"the time of shot {shot.number} is {shot.plan.time}"
            variants = {v for _, v in shot.plan.places if v} - {v for _, v in before.plan.places}
            if variants:
                return f"the variant of shot {shot.number} is {min(variants)}"
    return ""
