"""Findings along a setting: another place, another variant of it, fixed things that are not as they were."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from juxtaform.core.check.states import PlaceHome, PlacePoint, PlaceReference, ShotState, ThreadState
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.place.ground import PlaceMap
from juxtaform.core.place.match import (
    Compared,
    Ground,
    Laid,
    Unlike,
    compared,
    gone,
    ground_of,
    laid_over,
    likeness,
    unlike,
)

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
AMONG = 0.045
"""... where several pictures agree on it: crude layouts err each in its own way."""
IN_ALL = 0.09
"""... where several pictures are unlike their reference at once: laid over one and the same picture, layouts err alike."""
LAID_MOST = 2
"""A picture is laid over so many references of its variant: those that most of it goes with."""
BESIDE = 8
"""A picture that its references hardly know is held against so many of the nearest pictures that they know well."""
PICTURES_LEAST = 4
"""A setting without references is known by its own pictures from so many on, where the middle one of them is like others."""
LOOKED_AT = 4
"""A picture is laid over so many others of the place that stand nearest to it in the story."""
AGREE = 2
"""What is unlike by other pictures alone, or in several pictures at once, is so by this many."""
CLOSE = ("CU", "ECU", "MCU")
"""Sizes that show so little ground that nobody asks which place it is."""
ASKED = 0.6
"""Log odds from which a figure that was found, and that nobody marked, is taken out of the ground."""
HELD = 256
"""So many grounds and layings are held at once; a picture is held against those that stand near it in the story."""

GroundOf = Callable[[int], Ground | None]
"""The ground of a shot's picture, by the shot's number in the sequence."""


@dataclass(frozen=True)
class _Seen:
    """A shot of a setting, and which of all it is: how its ground goes with each reference of the setting, and how well with those of other settings."""

    at: int
    shot: ShotState
    variant: str
    grounds: GroundOf
    own: tuple[tuple[PlaceReference, Ground, Compared], ...]
    rivals: dict[str, float]

    @property
    def ground(self) -> Ground:
        """Its ground, made anew when it is no longer held: all those of a long story at once would take much."""
        ground = self.grounds(self.at)
        assert ground is not None
        return ground


@dataclass(frozen=True)
class _Patched:
    """A picture laid over its references, and the patch that these have otherwise, if there is one."""

    laid: tuple[Laid, ...]
    patch: Unlike | None


@dataclass(frozen=True)
class _Likeness:
    """How like its place a picture is, 0..1, and what it was held against, in words."""

    of: float
    to: str


def picture_ground(shot: ShotState) -> Ground | None:
    """The ground of a shot's picture with its figures taken out, those that are marked and those that were found; None without a picture, or where too
    little is left."""
    if shot.picture is None or shot.picture.place is None:
        return None
    inner = shot.picture.inner
    stand = [m.box for m in shot.marks]
    stand += [c.places[0].box for c in shot.company if c.places and c.places[0].odds > ASKED and not c.refused]
    figures = [Box(b.x - inner.x, b.y - inner.y, b.w, b.h) for b in stand]
    return ground_of(shot.picture.place, inner.w, inner.h, figures)


def place_threads(
    homes: Sequence[PlaceHome], shots: Sequence[ShotState], other_hand: Collection[str] = ()
) -> tuple[dict[str, ThreadState], list[Finding]]:
    """All settings along their shots. Of pictures by an `other_hand` only a plain other place is told: every ground looks strange in it."""

    @lru_cache(maxsize=HELD)
    def ground(at: int) -> Ground | None:
        return picture_ground(shots[at])

    references = {h.id: [(r, g) for r in h.references if (g := _reference_ground(r.place)) is not None] for h in homes}
    # A setting without references is known by its pictures.
    pictured = {
        h.id: [i for i, shot in enumerate(shots) if _plays_at(shot, h.id) and ground(i) is not None]
        for h in homes
        if not references[h.id]
    }
    states, findings = {}, list[Finding]()
    for home in homes:
        seen = [s for i, shot in enumerate(shots) if (s := _looked_at(i, shot, home, references, ground)) is not None]
        if seen:
            points, own = _thread(home, {h.id: h.name for h in homes}, seen, pictured, other_hand)
            states[home.id] = ThreadState(home.id, places=tuple(points))
            findings += own
    return states, findings


def _reference_ground(place: PlaceMap) -> Ground | None:
    return ground_of(place, 1.0, 1.0)


def _plays_at(shot: ShotState, home: str) -> bool:
    return shot.plan is not None and home in dict(shot.plan.places)


def _looked_at(
    at: int,
    shot: ShotState,
    home: PlaceHome,
    references: Mapping[str, Sequence[tuple[PlaceReference, Ground]]],
    grounds: GroundOf,
) -> _Seen | None:
    here = dict(shot.plan.places) if shot.plan else {}
    ground = grounds(at) if home.id in here else None
    if ground is None:
        return None
    own = tuple((r, g, compared(ground, g)) for r, g in references[home.id])
    rivals = {
        other: max(likeness(ground, g) for _, g in theirs)
        for other, theirs in references.items()
        if theirs and other not in here and max((c.likeness for _, _, c in own), default=0.0) < PLAINLY
    }
    return _Seen(at, shot, here[home.id], grounds, own, rivals)


def _pictured_rivals(s: _Seen, pictured: Mapping[str, Sequence[int]]) -> dict[str, float]:
    """How well a picture goes with other settings that have no references, by their pictures nearest to it."""
    assert s.shot.plan
    here, rivals = dict(s.shot.plan.places), {}
    for other, every in pictured.items():
        middle = bisect_left(every, s.at)
        around = every[max(0, middle - BESIDE) : middle + BESIDE]
        near = sorted(around, key=lambda at: abs(at - s.at))[:BESIDE]
        if other not in here and len(near) >= PICTURES_LEAST:
            # One of its pictures may itself show another place: two must be like this one.
            rivals[other] = sorted(likeness(s.ground, g) for at in near if (g := s.grounds(at)) is not None)[-2]
    return rivals


def _thread(
    home: PlaceHome,
    names: Mapping[str, str],
    seen: Sequence[_Seen],
    pictured: Mapping[str, Sequence[int]],
    other_hand: Collection[str],
) -> tuple[list[PlacePoint], list[Finding]]:
    alike = _likenesses(home, seen)
    unlike_references = _unlike_references(home, seen)
    if unlike_references is not None:
        # What the references do not know, or what has too few things to be known by, is held against its own pictures.
        alike = _likenesses(replace(home, references=()), seen)
    own_hand = [i for i, s in enumerate(seen) if s.shot.id not in other_hand]

    @lru_cache(maxsize=HELD)
    def off(at: int) -> _Patched | None:
        return _off(seen[at])

    points, findings = [], [unlike_references] if unlike_references else []
    for i, (s, beside) in enumerate(zip(seen, _beside(seen, off, own_hand), strict=True)):
        told = alike[i]
        others = _pictured_rivals(s, pictured) if told is not None and told.of < USUAL else {}
        found = _found(home, names, s, told, others, off(i), beside)
        if found is not None and s.shot.id in other_hand and found.kind != "another_place":
            found = None
        distance = max(0.0, (USUAL - told.of) / (USUAL - STRANGE)) if told else 0.0
        if found is not None and found.kind != "place_doubtful":
            distance = max(distance, min(2.0, 0.2 + found.severity))
        points.append(
            PlacePoint(
                s.shot.id,
                round(distance, 3),
                round(told.of, 3) if told else 0.0,
                "holds" if found is None else "doubtful" if found.kind == "place_doubtful" else "drifts",
                s.variant,
            )
        )
        findings += [found] if found else []
    return points, findings


def _likenesses(home: PlaceHome, seen: Sequence[_Seen]) -> list[_Likeness | None]:
    """How like its place each picture is: to the references; where these hardly know it, to pictures near it that they know well. Without references, to the
    pictures near it; None where these are too few or too unlike each other to make a place."""
    by_references = [max((c.likeness for _, _, c in s.own), default=0.0) for s in seen]
    anchors = [i for i, v in enumerate(by_references) if v >= HOME] if home.references else list(range(len(seen)))
    told = list[_Likeness | None]()
    for i, known in enumerate(by_references):
        # Seen from another side than on any reference, a place is known by its other pictures.
        near = _nearest(i, anchors, BESIDE) if known < USUAL else []
        by_shots = max((likeness(seen[i].ground, seen[j].ground) for j in near), default=0.0)
        told.append(_Likeness(max(known, by_shots), "its references" if home.references else "its other pictures"))
    if home.references:
        return told
    middle = float(np.median([t.of for t in told if t])) if told else 0.0
    return told if len(told) >= PICTURES_LEAST and middle >= HOME else [None] * len(told)


def _unlike_references(home: PlaceHome, seen: Sequence[_Seen]) -> Finding | None:
    """One question for a place of which most pictures are hardly like its references, instead of one for each: these show something else, or the place has
    too few fixed things."""
    known = [max(c.likeness for _, _, c in s.own) for s in seen if s.own]
    if len(known) < PICTURES_LEAST or float(np.median(known)) >= STRANGE:
        return None
    told = _finding(
        "place_doubtful",
        home,
        seen[0],
        f"The pictures of {_the(home.name)} are hardly like its references",
        f"Do the references show {_the(home.name)} as these pictures do? If not, give it others. Until then its pictures are held against each other.",
        [
            Evidence(
                "Like its references",
                f"{sum(k >= STRANGE for k in known)} of {len(known)} pictures",
                behind=f"Middle likeness of the ground {np.median(known):.2f}, usually {USUAL:.2f}",
            )
        ],
        severity=0.6,
        measured=float(np.median(known)),
        expected=STRANGE,
    )
    return replace(told, until=seen[-1].shot.id)


def _nearest(i: int, among: Sequence[int], most: int) -> list[int]:
    """The numbers of a rising list that lie around one, without itself: as many before as after, where there are as many."""
    at = bisect_left(among, i)
    start = max(0, min(at - most // 2, len(among) - most - 1))
    return [j for j in among[start : start + most + 1] if j != i]


def _found(
    home: PlaceHome,
    names: Mapping[str, str],
    s: _Seen,
    told: _Likeness | None,
    pictured: Mapping[str, float],
    off: _Patched | None,
    beside: Sequence[_Beside],
) -> Finding | None:
    if told is None:
        return None
    alike = told.of
    rivals = {**s.rivals, **pictured}
    rival = max(rivals, key=lambda k: rivals[k], default=None)
    theirs = rivals[rival] if rival is not None else 0.0
    rows = [
        Evidence(
            f"Like {home.name}",
            _likeness_words(alike),
            f"like {told.to}",
            behind=f"Likeness of the ground {alike:.2f}, usually {USUAL:.2f}",
        ),
        *(
            [Evidence(f"Like {names[rival]}", _likeness_words(theirs), behind=f"Likeness of the ground {theirs:.2f}")]
            if rival
            else []
        ),
    ]
    if rival is not None and theirs - alike > LEAD and theirs > STRANGE:
        # What a place is like is sure by references; by pictures alone it is asked.
        sure = bool(home.references) and rival in s.rivals
        return _finding(
            "another_place" if sure else "place_doubtful",
            home,
            s,
            f"This is not {_the(home.name)}; it looks most like {_the(names[rival])}"
            if sure
            else f"Is this {_the(home.name)}? It looks more like {_the(names[rival])}",
            f"Assign {_the(names[rival])} to this shot, or retake it with the {'references' if home.references else 'other pictures'} of {_the(home.name)}.",
            rows,
            severity=1.5 + (theirs - alike) / LEAD / 4 if sure else 0.6,
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
                f"Hardly anything of its ground is {'on the references or ' if home.references else ''}in the other pictures of the place. If it is the place seen from elsewhere, let it stand.",
                rows,
                severity=0.6,
                measured=alike,
                expected=STRANGE,
            )
        )
    return _variant(home, s, rows) or _changed(home, s, rows, off, beside)


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


def _off(s: _Seen) -> _Patched | None:
    """The patch of a picture's ground that is not as on the references of its variant that it can be laid over; None where it can be laid over none."""
    every = [(g, c) for r, g, c in s.own if c.sure and r.variant in ("", s.variant)]
    best = sorted(every, key=lambda x: -x[1].share)[:LAID_MOST]
    laid = tuple(both[0] for g, c in best if (both := laid_over(s.ground, g, c)) is not None)
    return _Patched(laid, _large(unlike(s.ground, laid), CHANGED)) if laid else None


@dataclass(frozen=True)
class _Beside:
    """A picture of the same place near another one: that one laid over it, and the patch in which it departs from its own references."""

    number: str
    laid: Laid | None
    patch: Unlike | None


def _beside(
    seen: Sequence[_Seen], off: Callable[[int], _Patched | None], own_hand: Sequence[int]
) -> Iterator[list[_Beside]]:
    """For each picture those of the place that stand nearest to it in the story; two are laid over each other once."""
    known: dict[tuple[int, int], tuple[Laid, Laid] | None] = {}
    for i in range(len(seen)):
        row = []
        for j in _nearest(i, own_hand, LOOKED_AT):
            first, then = sorted((i, j))
            if (first, then) not in known:
                a, b = seen[first], seen[then]
                same = a.variant == b.variant
                known[first, then] = laid_over(a.ground, b.ground, compared(a.ground, b.ground)) if same else None
            both, patched = known[first, then], off(j)
            row.append(
                _Beside(
                    seen[j].shot.number,
                    None if both is None else both[i > j],
                    None if patched is None else patched.patch,
                )
            )
        yield row
        for past in [pair for pair in known if pair[1] <= i]:
            del known[past]


def _large(patch: Unlike | None, least: float) -> Unlike | None:
    return patch if patch is not None and patch.share >= least else None


def _changed(
    home: PlaceHome,
    s: _Seen,
    rows: Sequence[Evidence],
    off: _Patched | None,
    beside: Sequence[_Beside],
) -> Finding | None:
    """A patch of ground in which something stands that is neither on the references nor in the pictures around that show it, or that is not on the references
    in several pictures; or where something is gone that both have. A picture that lies over no reference is held against the pictures around alone."""
    near = [o.laid for o in beside if o.laid is not None]
    laid = (*(off.laid if off else ()), *near)
    least = AMONG if near else CHANGED
    patch = _large(unlike(s.ground, laid, 1 if off else AGREE), least) if off is None or off.patch is not None else None
    if patch is None and off is not None and sum(_large(o.patch, IN_ALL) is not None for o in beside) >= AGREE:
        patch = _large(off.patch, IN_ALL)
    missing = patch is None
    if patch is None:
        least = CHANGED
        patch = _large(gone(s.ground, laid, AGREE), least)
    if patch is None:
        return None
    where = "on its references" if off else "in its other pictures"
    seen = max((x.seen for x in laid), key=lambda c: c.share)
    numbers = ", ".join(o.number for o in beside if o.laid is not None)
    against = " and ".join([*(["references"] if off else []), *([f"shots {numbers}"] if numbers else [])])
    assert s.shot.picture
    inner = s.shot.picture.inner
    b = patch.box
    return _finding(
        "place_changed",
        home,
        s,
        f"Something of {_the(home.name)} is gone that is {where}"
        if missing
        else f"Something of {_the(home.name)} is not as {where}",
        f"Look at the framed part: a fixed thing is {'missing or moved' if missing else 'new, moved, or in another colour'}. Change the area, or retake with "
        f"{'the place’s references' if off else 'the pictures beside it'}.",
        [
            Evidence(
                "Part of the ground that is unlike",
                f"{100 * patch.share:.0f} %",
                behind=f"In one patch; told from {100 * least:.1f} % on",
            ),
            Evidence("Held against", against),
            Evidence("Light taken out", _light_words(seen)),
            *rows,
        ],
        severity=patch.share / least,
        measured=round(100 * patch.share, 1),
        expected=100 * least,
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
