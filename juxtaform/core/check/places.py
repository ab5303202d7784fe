"""Findings along a setting: another place, another variant of it, fixed things that are not as they were."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from juxtaform.core.check.states import PlaceHome, PlacePoint, PlaceReference, ShotState, ThreadState
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.place.ground import PlaceMap
from juxtaform.core.place.match import Compared, Ground, compared, ground_of, likeness, unlike

HOME = 0.2
"""From this likeness to its references on a picture surely shows its place: of pictures of other places one in a hundred does. Set on constructed
places, seen from near and far in five lights, as are the next two."""
STRANGE = 0.115
"""Below this likeness three quarters of the pictures of other places lie, and one in fifty of those of the place itself."""
USUAL = 0.3
"""The middle likeness of pictures of a place to its references."""
PLAINLY = 0.45
"""A picture so like its place's references is nowhere else."""
LEAD = 0.05
"""Another setting that fits so much better is where the picture is."""
VARIANT_LEAD = 0.05
LIGHT_COST = 0.04
"""What a stop of light, or of red over blue, between a picture and a variant's reference takes from its likeness: variants differ in light above all."""
CHANGED = 0.06
"""The share of a picture's ground in one patch that is not as on the reference, from which a mass was moved, lost or added."""
LAID_MOST = 2
"""A picture is laid over so many references of its variant: those that most of it goes with."""
BESIDE = 8
"""A picture that its references hardly know is held against so many of the nearest pictures that they know well."""
CLOSE = ("CU", "ECU", "MCU")
"""Sizes that show so little ground that nobody asks which place it is."""


@dataclass(frozen=True)
class _Seen:
    """A shot of a setting: its ground, and how it goes with each reference of each setting."""

    shot: ShotState
    variant: str
    ground: Ground
    own: tuple[tuple[PlaceReference, Ground, Compared], ...]
    rivals: dict[str, float]


def picture_ground(shot: ShotState) -> Ground | None:
    """The ground of a shot's picture with its marked figures taken out; None without one, or where too little is left."""
    if shot.picture is None or shot.picture.place is None:
        return None
    inner = shot.picture.inner
    figures = [Box(m.box.x - inner.x, m.box.y - inner.y, m.box.w, m.box.h) for m in shot.marks]
    return ground_of(shot.picture.place, inner.w, inner.h, figures)


def place_threads(
    homes: Sequence[PlaceHome], shots: Sequence[ShotState], other_hand: Collection[str] = ()
) -> tuple[dict[str, ThreadState], list[Finding]]:
    """All settings along their shots. Of pictures by an `other_hand` only a plain other place is told: every ground looks strange in it."""
    references = {h.id: [(r, g) for r in h.references if (g := _reference_ground(r.place)) is not None] for h in homes}
    states, findings = {}, list[Finding]()
    for home in homes:
        seen = [s for shot in shots if (s := _looked_at(shot, home, references)) is not None]
        if seen:
            points, own = _thread(home, {h.id: h.name for h in homes}, seen, other_hand)
            states[home.id] = ThreadState(home.id, places=tuple(points))
            findings += own
    return states, findings


def _reference_ground(place: PlaceMap) -> Ground | None:
    return ground_of(place, 1.0, 1.0)


def _looked_at(
    shot: ShotState, home: PlaceHome, references: Mapping[str, Sequence[tuple[PlaceReference, Ground]]]
) -> _Seen | None:
    here = dict(shot.plan.places) if shot.plan else {}
    ground = picture_ground(shot) if home.id in here else None
    if ground is None:
        return None
    own = tuple((r, g, compared(ground, g)) for r, g in references[home.id])
    rivals = {
        other: max(likeness(ground, g) for _, g in theirs)
        for other, theirs in references.items()
        if theirs and other not in here and max((c.likeness for _, _, c in own), default=0.0) < PLAINLY
    }
    return _Seen(shot, here[home.id], ground, own, rivals)


def _thread(
    home: PlaceHome, names: Mapping[str, str], seen: Sequence[_Seen], other_hand: Collection[str]
) -> tuple[list[PlacePoint], list[Finding]]:
    by_references = [max((c.likeness for _, _, c in s.own), default=0.0) for s in seen]
    anchors = [i for i, v in enumerate(by_references) if v >= HOME]
    points, findings = [], []
    for i, s in enumerate(seen):
        # Seen from another side than on any reference, a place is known by its other pictures.
        at = bisect_left(anchors, i)
        around = anchors[max(0, at - BESIDE // 2) : at + BESIDE // 2 + 1] if by_references[i] < USUAL else []
        near = [j for j in around if j != i]
        by_shots = max((likeness(s.ground, seen[j].ground) for j in near), default=0.0)
        alike = max(by_references[i], by_shots)
        found = _found(home, names, s, alike)
        if found is not None and s.shot.id in other_hand and found.kind != "another_place":
            found = None
        distance = max(0.0, (USUAL - alike) / (USUAL - STRANGE))
        if found is not None and found.kind != "place_doubtful":
            distance = max(distance, min(2.0, 0.2 + found.severity))
        points.append(
            PlacePoint(
                s.shot.id,
                round(distance, 3),
                round(alike, 3),
                "holds" if found is None else "doubtful" if found.kind == "place_doubtful" else "drifts",
                s.variant,
            )
        )
        findings += [found] if found else []
    return points, findings


def _found(home: PlaceHome, names: Mapping[str, str], s: _Seen, alike: float) -> Finding | None:
    if not home.references:
        return None
    rival = max(s.rivals, key=lambda k: s.rivals[k], default=None)
    theirs = s.rivals[rival] if rival is not None else 0.0
    rows = [
        Evidence(
            f"Like {home.name}",
            _likeness_words(alike),
            "like its references",
            behind=f"Likeness of the ground {alike:.2f}, usually {USUAL:.2f}",
        ),
        *(
            [Evidence(f"Like {names[rival]}", _likeness_words(theirs), behind=f"Likeness of the ground {theirs:.2f}")]
            if rival
            else []
        ),
    ]
    if rival is not None and theirs - alike > LEAD and theirs > STRANGE:
        return _finding(
            "another_place",
            home,
            s,
            f"This is not {_the(home.name)}; it looks most like {_the(names[rival])}",
            f"Assign {_the(names[rival])} to this shot, or retake it with the references of {_the(home.name)}.",
            rows,
            severity=1.5 + (theirs - alike) / LEAD / 4,
            measured=alike,
            expected=theirs,
        )
    if alike < STRANGE:
        close = s.shot.plan is not None and s.shot.plan.size in CLOSE
        return (
            None
            if close
            else _finding(
                "place_doubtful",
                home,
                s,
                f"Is this {_the(home.name)}?",
                "Hardly anything of its ground is on the references or in the other pictures of the place. If it is the place seen from elsewhere, let it stand.",
                rows,
                severity=0.6,
                measured=alike,
                expected=STRANGE,
            )
        )
    return _variant(home, s, rows) or _changed(home, s, rows)


def _variant(home: PlaceHome, s: _Seen, rows: Sequence[Evidence]) -> Finding | None:
    fits: dict[str, tuple[float, Compared]] = {}
    for reference, _, seen in s.own:
        cost = LIGHT_COST * (abs(seen.exposure) + abs(seen.warmth)) if seen.sure else 0.0
        fit = seen.likeness - cost
        if reference.variant not in fits or fit > fits[reference.variant][0]:
            fits[reference.variant] = fit, seen
    if len(fits) < 2 or s.variant not in fits:
        return None
    best = max(fits, key=lambda v: fits[v][0])
    lead = fits[best][0] - fits[s.variant][0]
    if best == s.variant or lead <= VARIANT_LEAD:
        return None
    looks, planned = best or "the usual one", s.variant or "the usual one"
    return _finding(
        "place_variant",
        home,
        s,
        f"{home.name} looks like {looks}; the plan says {planned}",
        f"Choose {looks} on the Sheet, or retake the shot with the references of {planned}.",
        [
            Evidence(
                f"Goes with {looks}",
                f"{fits[best][0]:.2f}",
                behind="Likeness of the ground less what the light differs",
            ),
            Evidence(f"Goes with {planned}", f"{fits[s.variant][0]:.2f}"),
            *rows,
        ],
        severity=1.0 + lead / VARIANT_LEAD / 4,
        measured=fits[s.variant][0],
        expected=fits[best][0],
        trait=best,
    )


def _changed(home: PlaceHome, s: _Seen, rows: Sequence[Evidence]) -> Finding | None:
    """A patch of ground that is not as on any reference of the variant that it can be laid over."""
    every = [(r, g, c) for r, g, c in s.own if c.sure and r.variant in ("", s.variant)]
    laid = sorted(every, key=lambda x: -x[2].share)[:LAID_MOST]
    patches = [(u, c) for _, g, c in laid if (u := unlike(s.ground, g, c)) is not None]
    if not laid or len(patches) < len(laid):
        return None
    patch, seen = min(patches, key=lambda p: p[0].share)
    if patch.share < CHANGED:
        return None
    assert s.shot.picture
    inner = s.shot.picture.inner
    b = patch.box
    return _finding(
        "place_changed",
        home,
        s,
        f"Something of {_the(home.name)} is not as on its references",
        "Look at the framed part: a fixed thing is missing, moved, or in another colour. Change the area, or retake with the place's references.",
        [
            Evidence(
                "Part of the ground that is unlike",
                f"{100 * patch.share:.0f} %",
                behind=f"In one patch; told from {100 * CHANGED:.0f} % on",
            ),
            Evidence("Light taken out", _light_words(seen)),
            *rows,
        ],
        severity=patch.share / CHANGED,
        measured=round(100 * patch.share, 1),
        expected=100 * CHANGED,
        unit="% of ground",
        region=Box(inner.x + b.x * inner.w, inner.y + b.y * inner.h, b.w * inner.w, b.h * inner.h),
    )


def _finding(
    kind: str, home: PlaceHome, s: _Seen, title: str, advice: str, rows: Sequence[Evidence], **more: object
) -> Finding:
    return replace(
        Finding(
            source="check",
            kind=kind,
            thread=home.id,
            shot=s.shot.id,
            title=title,
            advice=advice,
            unit="likeness",
            evidence=tuple(rows),
        ),
        **more,  # type: ignore[arg-type]
    )


def _the(name: str) -> str:
    return name if name[:1].islower() else f"“{name}”"


def _light_words(seen: Compared) -> str:
    tint = "neutral" if abs(seen.warmth) < 0.25 else "cooler" if seen.warmth > 0 else "warmer"
    return f"{tint}, {-seen.exposure:+.1f} stops".replace("-", "−")


_LIKE = ((STRANGE, "hardly at all"), (HOME, "a little"), (USUAL, "yes"))


def _likeness_words(likeness: float) -> str:
    """A likeness of grounds in words.

    >>> [_likeness_words(v) for v in (0.05, 0.15, 0.25, 0.5)]
    ['hardly at all', 'a little', 'yes', 'very much']
    """
    return next((words for edge, words in _LIKE if likeness < edge), "very much")
