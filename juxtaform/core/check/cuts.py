"""Findings of cuts: two neighbours that do not go together, each told with the plan's own reason where it has one."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.check.places import picture_ground
from juxtaform.core.check.states import Mark, ShotPlan, ShotState
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.glance import Glance, alike
from juxtaform.core.picture.regions import overlap
from juxtaform.core.place.ground import PlaceMap
from juxtaform.core.place.match import Compared, compared
from juxtaform.core.plan.shots import SIZES

SIZE_LEAP = 3.5
"""A figure so many times as tall as in the neighbour leaps at the eye: about three steps of size."""
SIDE_LEAP = 0.45
"""A figure whose middle goes so far across the picture's width, while the ground stays, leaps to the other side."""
APART = 0.06
"""Two figures stand left and right of each other when their middles are at least this part of the width apart."""
LIGHT_LEAP = 0.8
"""Stops by which the light on the same ground may differ between neighbours in one scene: what a cloud does is a third of a stop."""
TINT_LEAP = 0.6
"""Stops by which its red over blue may differ: half of the way from daylight to lamplight."""
VIVID_LEAP = 0.9
"""How much farther apart the hues of the same ground may lie (log2): with half or twice of its colour a picture jumps at the eye."""
HUES_LEAST = 0.6
"""How the hues of the same ground go together at least (correlation); a green meadow that turns violet stays far below."""
STUTTER = 0.975
"""Two pictures that correlate so much, with everybody in the same place, look like one that twitched."""
SAME_COLOURS = 0.35
"""Half of two pictures' cells lie at most so many stops off each other, red, green and blue: what is farther is another light, another ground, no twitch."""
SAME_PLACE = 0.6
"""Figures whose boxes overlap so much stand in the same place."""
LAID_LEAST = 0.25
"""The part of a figure that must lie over a side view before it says where the figure looks."""
RHYTHM = 5.0
"""A shot so many times as long as its neighbour, where the shorter one is short, breaks the rhythm."""
SHORT_S = 2.5


@dataclass(frozen=True)
class Neighbours:
    """Two pictures that follow each other in one scene, with what the plan says of both."""

    a: ShotState
    b: ShotState
    a_picture: PictureMeasure
    b_picture: PictureMeasure
    a_plan: ShotPlan
    b_plan: ShotPlan
    others: Collection[tuple[str, str]] = ()

    def both(self) -> Iterator[tuple[str, Mark, Mark]]:
        """Whoever is marked in both pictures and is not told to be somebody else in one."""
        theirs = {m.thread: m for m in self.b.marks}
        for mark in self.a.marks:
            if mark.thread in theirs and not any((s.id, mark.thread) in self.others for s in (self.a, self.b)):
                yield mark.thread, mark, theirs[mark.thread]


def cut_findings(
    shots: Sequence[ShotState],
    titles: Mapping[str, str],
    apart: Collection[str] = (),
    side_views: Collection[str] = (),
    others: Collection[tuple[str, str]] = (),
) -> list[Finding]:
    """Findings of all cuts within scenes. The light of pictures that are `apart` (by another hand, or fading) is not compared: that is told of them.
    `side_views` are references (ids) that show their figure from a side; `others` are marked figures, as (shot, thread), that are told to be somebody else: where
    these stand says nothing of who was marked."""
    found: list[Finding] = []
    for a, b in pairwise(shots):
        if a.plan is None or b.plan is None or not a.plan.scene or a.plan.scene != b.plan.scene:
            continue
        found += _rhythm(a, b, a.plan, b.plan)
        if a.picture is None or b.picture is None:
            continue
        cut = Neighbours(a, b, a.picture, b.picture, a.plan, b.plan, others)
        stutter = _stutter(cut)
        found += [stutter] if stutter else [*_size(cut, titles), *_line(cut, titles, side_views)]
        if not {a.id, b.id} & set(apart):
            found += _colours(cut)
    return found


def _cut(
    cut: Neighbours,
    kind: str,
    title: str,
    advice: str,
    rows: Sequence[Evidence],
    severity: float,
    reason: str,
    **more: object,
) -> Finding:
    said = [Evidence("The plan says", reason)] if reason else []
    return Finding(
        source="check",
        kind=kind,
        shot=cut.b.id,
        before=cut.a.id,
        title=title,
        advice=f"{advice} The plan has a reason: let it stand if it is meant." if reason else advice,
        evidence=(*rows, *said),
        severity=severity,
        reason=reason,
        **more,  # type: ignore[arg-type]
    )


def _reason(cut: Neighbours, *, size: bool = False) -> str:
    """What the plan says that explains a leap: a step in time, a move that ends elsewhere, planned sizes that lie far apart, or the planner's notes."""
    a, b = cut.a_plan, cut.b_plan
    if size and a.size in SIZES and b.size in SIZES and abs(SIZES.index(a.size) - SIZES.index(b.size)) >= 3:
        return f"{a.size}, then {b.size}"
    if b.time and b.time != a.time:
        return f"the time is {b.time}"
    if a.move not in ("", "static"):
        return f"shot {cut.a.number} ends elsewhere: {a.move}"
    return b.notes[:120] if b.notes else ""


def _size(cut: Neighbours, titles: Mapping[str, str]) -> Iterator[Finding]:
    worst: tuple[float, str, float, float] | None = None
    for thread, a, b in cut.both():
        ha, hb = a.box.h / cut.a_picture.height, b.box.h / cut.b_picture.height
        times = max(ha, hb) / max(1e-6, min(ha, hb))
        if times > SIZE_LEAP and (worst is None or times > worst[0]):
            worst = times, thread, ha, hb
    if worst is None:
        return
    times, thread, ha, hb = worst
    name = titles.get(thread, thread)
    yield _cut(
        cut,
        "size_leap",
        f"{name} is suddenly {'larger' if hb > ha else 'smaller'}: a leap in size from shot {cut.a.number} to {cut.b.number}",
        "Put a size between, or begin the second shot with something that leads the eye there.",
        [
            Evidence(f"Height of {name}, shot {cut.a.number}", f"{100 * ha:.0f} % of the picture"),
            Evidence(
                f"Height of {name}, shot {cut.b.number}",
                f"{100 * hb:.0f} % of the picture",
                behind=f"{times:.1f} times; told from {SIZE_LEAP} on",
            ),
        ],
        times / SIZE_LEAP,
        _reason(cut, size=True),
        measured=round(times, 2),
        expected=SIZE_LEAP,
        unit="times",
    )


def _line(cut: Neighbours, titles: Mapping[str, str], side_views: Collection[str]) -> Iterator[Finding]:
    """The line between two figures crossed: who stood left stands right; or one figure leaps across, or looks the other way."""
    both = list(cut.both())
    mid_a = {t: (m.box.x + m.box.w / 2) / cut.a_picture.width for t, m, _ in both}
    mid_b = {t: (m.box.x + m.box.w / 2) / cut.b_picture.width for t, _, m in both}
    order = sorted(mid_a, key=lambda t: mid_a[t])
    for i, one in enumerate(order):
        for other in order[i + 1 :]:
            before, after = mid_a[other] - mid_a[one], mid_b[other] - mid_b[one]
            if before > APART and after < -APART:
                names = titles.get(one, one), titles.get(other, other)
                yield _cut(
                    cut,
                    "line_crossed",
                    f"{names[0]} and {names[1]} change sides from shot {cut.a.number} to {cut.b.number}",
                    "Turn one of the pictures over, retake it from the other side, or put a picture between that looks along the line.",
                    [
                        Evidence(
                            f"Shot {cut.a.number}",
                            f"{names[0]} left of {names[1]}",
                            behind=f"{100 * before:.0f} % of the width apart",
                        ),
                        Evidence(
                            f"Shot {cut.b.number}",
                            f"{names[0]} right of {names[1]}",
                            behind=f"{100 * -after:.0f} % of the width apart",
                        ),
                    ],
                    1.0 + min(before, -after) / 0.3,
                    _reason(cut),
                    thread=one,
                    measured=round(-after, 3),
                    expected=0.0,
                    unit="of the width",
                )
                return
    looks_a, looks_b = _planned_looks(cut.a_plan), _planned_looks(cut.b_plan)
    seen_turned = _turned(cut, side_views)
    for thread, _, _ in both:
        turned = {looks_a.get(thread), looks_b.get(thread)} == {"left", "right"} or thread in seen_turned
        leapt = abs(mid_a[thread] - mid_b[thread]) > SIDE_LEAP and len(both) == 1
        if not (turned or leapt):
            continue
        name = titles.get(thread, thread)
        rows = [
            Evidence(
                f"Shot {n}",
                f"{'looks ' + look[thread] + ', ' if thread in look else ''}stands at {100 * mid[thread]:.0f} % of the width",
            )
            for n, look, mid in ((cut.a.number, looks_a, mid_a), (cut.b.number, looks_b, mid_b))
        ]
        title = f"{name} looks the other way" if turned else f"{name} leaps to the other side"
        yield _cut(
            cut,
            "line_crossed" if turned else "side_leap",
            f"{title} from shot {cut.a.number} to {cut.b.number}",
            "Turn one of the pictures over, or show the turn between them.",
            rows,
            1.2 if turned else abs(mid_a[thread] - mid_b[thread]) / SIDE_LEAP,
            _reason(cut),
            thread=thread,
            measured=round(abs(mid_a[thread] - mid_b[thread]), 3),
            expected=SIDE_LEAP,
            unit="of the width",
        )
        return


def _planned_looks(plan: ShotPlan) -> dict[str, str]:
    """Who looks left or right by the plan."""
    return {t: f for t, f in plan.facings.items() if f in ("left", "right")}


def _turned(cut: Neighbours, side_views: Collection[str]) -> set[str]:
    """Whoever lies over one and the same side view in both pictures, mirrored in one of them alone: they look the other way."""
    views = []
    for shot, picture in ((cut.a, cut.a_picture), (cut.b, cut.b_picture)):
        looked = {}
        for mark, seen in zip(shot.marks, picture.appearances, strict=True):
            who = seen.identity
            if who is not None and who.evidence is not None and who.reference in side_views and who.share >= LAID_LEAST:
                looked[mark.thread] = who.reference, who.evidence.mirrored
        views.append(looked)
    first, then = views
    return {t for t in first if t in then and first[t][0] == then[t][0] and first[t][1] != then[t][1]}


def _colours(cut: Neighbours) -> Iterator[Finding]:
    """Whether the same ground has another palette in both pictures, or stands in another light."""
    if not cut.a_plan.places or cut.a_plan.places != cut.b_plan.places or cut.a_plan.time != cut.b_plan.time:
        return
    a, b = picture_ground(cut.a), picture_ground(cut.b)
    seen = compared(a, b) if a is not None and b is not None else None
    if seen is not None and seen.sure:
        yield from _palette(cut, seen) or _light(cut, seen)


def _palette(cut: Neighbours, seen: Compared) -> list[Finding]:
    if abs(seen.vivid) <= VIVID_LEAP and seen.hues >= HUES_LEAST:
        return []
    how = "other hues"
    if abs(seen.vivid) > VIVID_LEAP:
        how = "more colourful" if seen.vivid > 0 else "greyer"
    times = 2.0**seen.vivid
    return [
        _cut(
            cut,
            "palette_leap",
            f"The colours jump from shot {cut.a.number} to {cut.b.number}: {how}",
            "Give both pictures one palette: retake one with the other as its reference, or say in the plan what changes it.",
            [
                Evidence(
                    "Colour of the same ground",
                    f"{times:.1f} times as much" if times >= 1 else f"{100 * times:.0f} % of it",
                    behind=f"How far its hues lie apart; told from {2**VIVID_LEAP:.1f} times on, or {100 * 2**-VIVID_LEAP:.0f} % and less",
                ),
                Evidence(
                    "Its hues",
                    "the same" if seen.hues >= HUES_LEAST else "others",
                    behind=f"Correlation {seen.hues:.2f}; told below {HUES_LEAST}".replace("-", "−"),
                ),
                Evidence("Same ground found", f"{100 * seen.share:.0f} % of the picture"),
            ],
            max(abs(seen.vivid) / VIVID_LEAP, (1 - seen.hues) / (1 - HUES_LEAST)),
            _reason(cut),
            measured=round(times, 2),
            expected=1.0,
            unit="times",
        )
    ]


def _light(cut: Neighbours, seen: Compared) -> Iterator[Finding]:
    over = max(abs(seen.exposure) / LIGHT_LEAP, abs(seen.warmth) / TINT_LEAP)
    if over <= 1:
        return
    how = [
        w
        for w, far in (
            ("brighter" if seen.exposure > 0 else "darker", abs(seen.exposure) > LIGHT_LEAP),
            ("warmer" if seen.warmth > 0 else "cooler", abs(seen.warmth) > TINT_LEAP),
        )
        if far
    ]
    yield _cut(
        cut,
        "light_leap",
        f"The light jumps from shot {cut.a.number} to {cut.b.number}: {' and '.join(how)}",
        "Give both pictures one light, or say the time of day in the plan if it changes.",
        [
            Evidence(
                "Brightness of the same ground",
                f"{seen.exposure:+.1f} stops".replace("-", "−"),
                behind=f"Told from {LIGHT_LEAP} stops on",
            ),
            Evidence(
                "Red over blue", f"{seen.warmth:+.1f} stops".replace("-", "−"), behind=f"Told from {TINT_LEAP} stops on"
            ),
            Evidence("Same ground found", f"{100 * seen.share:.0f} % of the picture"),
        ],
        over,
        _reason(cut),
        measured=round(max(abs(seen.exposure), abs(seen.warmth)), 2),
        expected=LIGHT_LEAP,
        unit="stops",
    )


def _in_the_same_colours(one: PlaceMap | None, other: PlaceMap | None) -> bool:
    if one is None or other is None:
        return True
    return float(np.median(np.abs(one.read()[1] - other.read()[1]).max(axis=1))) <= SAME_COLOURS


def _stutter(cut: Neighbours) -> Finding | None:
    if cut.a_picture.glance is None or cut.b_picture.glance is None:
        return None
    like = alike(Glance.of(cut.a_picture.glance), Glance.of(cut.b_picture.glance))
    if like < STUTTER or {m.thread for m in cut.a.marks} != {m.thread for m in cut.b.marks}:
        return None
    f = cut.a_picture.width / cut.b_picture.width
    if any(overlap(a.box, b.box.scaled(f)) < SAME_PLACE for _, a, b in cut.both()):
        return None
    if not _in_the_same_colours(cut.a_picture.place, cut.b_picture.place):
        return None
    reason = cut.b_plan.notes[:120] if cut.b_plan.notes else ""
    return _cut(
        cut,
        "stutter",
        f"Shots {cut.a.number} and {cut.b.number} are nearly one picture",
        "Change the size or the side of one of them, or make them one shot: as they are the picture seems to twitch.",
        [
            Evidence(
                "Alike",
                f"{100 * like:.1f} %",
                f"below {100 * STUTTER:.1f} %",
                behind="Correlation of both pictures at a glance",
            )
        ],
        1.0 + (like - STUTTER) / (1 - STUTTER),
        reason,
        measured=round(like, 4),
        expected=STUTTER,
        unit="correlation",
    )


def _rhythm(a: ShotState, b: ShotState, a_plan: ShotPlan, b_plan: ShotPlan) -> Iterator[Finding]:
    if min(a_plan.length_s, b_plan.length_s) <= 0:
        return
    short, long = sorted((a_plan.length_s, b_plan.length_s))
    if long / short < RHYTHM or short > SHORT_S:
        return
    yield Finding(
        source="check",
        kind="rhythm",
        shot=b.id,
        before=a.id,
        title=f"{a_plan.length_s:g} s, then {b_plan.length_s:g} s: the rhythm breaks from shot {a.number} to {b.number}",
        advice="Give the short one more time or the long one less, or let it stand as a jolt that is meant.",
        measured=round(long / short, 1),
        expected=RHYTHM,
        unit="times",
        severity=float(np.log2(long / short) / np.log2(RHYTHM)),
        evidence=(
            Evidence(f"Shot {a.number}", f"{a_plan.length_s:g} s"),
            Evidence(f"Shot {b.number}", f"{b_plan.length_s:g} s"),
        ),
    )
