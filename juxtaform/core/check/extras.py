"""Something on a figure that neither its references nor its other pictures show: a hat that nobody asked for, a bag, a second scarf in another colour."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.check.changes import around
from juxtaform.core.check.states import Mark, ShotState
from juxtaform.core.colour.spaces import Floats, hex_from_linear, linear_from_hex, oklab_from_linear
from juxtaform.core.colour.words import colour_name
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.extras import Extra, twice
from juxtaform.core.figure.reading import TraitReading
from juxtaform.core.figure.worn import shown
from juxtaform.core.findings import Evidence, Finding

APART, FROM_GROUND, ELSEWHERE = 0.16, 0.06, 0.08
"""The distances (OKLab, its colour axes doubled) from which a colour is none of the references, none of the ground, and none that the figure has in its other
pictures. Of 864 right figures of foreign art, in every light, 4 had a piece beyond all three: tears of a face that cries."""
ASKED_LEAST = 0.8
"""A piece that goes so far towards all three is asked about."""
LARGE, PLAIN = 0.03, 0.65
"""It is at least this part of the figure, and so much of it has one colour."""
HAD_BY = 0.25
"""Up to this part of the other pictures, and one at least, may show the same thing: an error may come more than once."""
LIKE_A_PROP = 0.2
"""A thing within this distance of a colour of a prop may be that prop, in whatever light and finish."""
SAME = 0.15
"""A changed trait whose new colour lies within this distance says it."""


@dataclass(frozen=True)
class Unexplained:
    """A piece of a figure that nothing explains: how far it goes (1: told), beside how many other pictures, and how many of these show it too."""

    extra: Extra
    far: float
    others: int
    had_by: int


def unexplained(seen: Sequence[Appearance]) -> list[Unexplained | None]:
    """The foremost piece of each appearance of a thread that neither its references nor the pictures around it explain."""
    colours = [twice(np.concatenate([shown(a.worn), _lab(a.extras)])) for a in seen]
    return [
        max((_beside(e, others) for e in a.extras), key=lambda u: u.far * np.sqrt(u.extra.share), default=None)
        for a, others in zip(seen, around(seen, colours), strict=True)
    ]


def _beside(extra: Extra, others: Sequence[Floats]) -> Unexplained:
    own = twice(oklab_from_linear(np.array(extra.linear)))
    away = sorted(float(np.linalg.norm(lab - own, axis=1).min()) for lab in others)
    had_by = max(1, int(HAD_BY * len(away)))
    elsewhere = away[min(had_by, len(away) - 1)] if away else np.inf
    far = min(extra.apart / APART, extra.from_ground / FROM_GROUND, elsewhere / ELSEWHERE)
    large = extra.share >= LARGE and extra.plain >= PLAIN
    return Unexplained(extra, far if large else 0.0, len(away), sum(d < ELSEWHERE for d in away))


def _lab(extras: Sequence[Extra]) -> Floats:
    return oklab_from_linear(np.array([e.linear for e in extras]).reshape(-1, 3))


def something_extra(
    thread: str, name: str, shot: ShotState, mark: Mark, one: Unexplained | None, traits: Sequence[TraitReading]
) -> list[Finding]:
    """What is to be told of an appearance's foremost piece; nothing where a changed trait says it already."""
    if one is None or one.far < ASKED_LEAST or mark.hold != "figure" or _is_a_trait(one.extra, traits):
        return []
    sure, extra = one.far >= 1, one.extra
    colour = colour_name(np.array(extra.linear))
    seen = hex_from_linear(np.array(extra.linear))
    reason = _in_words(colour, shot.words)
    return [
        Finding(
            source="check",
            kind="extra" if sure else "extra_doubtful",
            thread=thread,
            shot=shot.id,
            title=f"{name} has something {colour} that the references do not show"
            if sure
            else f"Does something {colour} belong to {name} here?",
            advice="Retake the shot, change this area, or let it stand. If it is a thing of the plan, mark it in the picture.",
            measured=extra.share * 100,
            expected=0.0,
            unit="% of figure",
            severity=one.far if sure else tol.DOUBT_SEVERITY,
            trait=colour,
            region=extra.box,
            reason=reason,
            evidence=(
                Evidence("What is there", colour, measured_hex=seen, behind="Without the scene's light"),
                Evidence("How large it is", f"{extra.share * 100:.0f} % of the figure"),
                Evidence(
                    "On the references",
                    "no such colour" if extra.apart >= APART else "a colour not far from it",
                    behind=f"OKLab distance, hue twice: {extra.apart:.2f}; {APART:.2f} is another colour",
                ),
                *([_in_others(name, one)] if one.others else []),
                *([Evidence("The plan says", reason)] if reason else []),
            ),
        )
    ]


def _in_words(colour: str, words: str) -> str:
    """The plan's own reason for a colour, where the words of the shot name it.

    >>> _in_words("dark red", "Pell holds a red balloon."), _in_words("red", "Pell is tired.")
    ('the words of the shot name something red', '')
    """
    plain = colour.split()[-1]
    told = plain in re.findall(r"[a-z]+", words.lower())
    return f"the words of the shot name something {plain}" if told else ""


def _in_others(name: str, one: Unexplained) -> Evidence:
    others = f"In {one.others} other picture{'s' * (one.others != 1)} of {name}"
    return Evidence(others, f"in {one.had_by} of them" if one.had_by else "nowhere")


def _is_a_trait(extra: Extra, traits: Sequence[TraitReading]) -> bool:
    own = twice(oklab_from_linear(np.array(extra.linear)))
    changed = [_hex_twice(t.seen) for t in traits if t.verdict == "changed" and t.seen]
    return any(float(np.linalg.norm(c - own)) < SAME for c in changed)


def without_planned_things(
    findings: Sequence[Finding], shots: Sequence[ShotState], kinds: Mapping[str, str], owners: Mapping[str, str]
) -> list[Finding]:
    """The findings without extras that may be a prop which the plan has there and nobody marked yet: nobody else's, and, where its colours are known, one that has
    such a colour. `kinds` are those of threads, `owners` whose a prop is."""
    by_id = {shot.id: shot for shot in shots}
    return [
        f
        for f in findings
        if f.kind not in ("extra", "extra_doubtful") or not _may_be_planned(f, by_id[f.shot or ""], kinds, owners)
    ]


def _may_be_planned(found: Finding, shot: ShotState, kinds: Mapping[str, str], owners: Mapping[str, str]) -> bool:
    marked = {mark.thread for mark in shot.marks}
    props = (
        t for t in shot.assigned - marked if kinds.get(t) == "prop" and owners.get(t, found.thread) == found.thread
    )
    known = {c.thread: c.colours for c in shot.company if c.colours}
    own = _hex_twice(found.evidence[0].measured_hex or "")
    return any(
        t not in known or min(float(np.linalg.norm(_hex_twice(c) - own)) for c in known[t]) < LIKE_A_PROP for t in props
    )


def _hex_twice(code: str) -> Floats:
    return twice(oklab_from_linear(linear_from_hex(code)))
