"""Findings of the shot plan itself, before any picture is made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import groupby, pairwise
from typing import Literal

from juxtaform.core.plan.shots import WIDE, Facing
from juxtaform.core.plan.stills import moments_in, moving_words

PlanKind = Literal[
    "no_establishing",
    "same_size",
    "crosses_line",
    "too_long",
    "too_short",
    "never_appears",
    "place_without_shot",
    "shot_without_place",
    "speaker_unseen",
    "listener_unseen",
    "moves_in_still",
    "several_moments",
    "no_description",
]

RUN_OF_ONE_SIZE = 4
"""This many pictures of one size in a row tire the eye; three in a row may be a rhythm."""
SHORTEST_S, LONGEST_S = 1.5, 20.0
"""A still under a second and a half is not read; one over twenty seconds is left with the eyes."""
LONG_AGAINST_THE_REST = 3.0
"""A shot this many times as long as the usual one (median) is told, from half of LONGEST_S on."""


@dataclass(frozen=True)
class PlanShot:
    """A shot as planned; `cast` and `places` are thread ids, `speakers` those of its spoken words, `addressed` whom these
    speak to by name, `facings` where each of the cast looks on the screen."""

    id: str
    scene: str
    size: str
    length_s: float
    shows: str
    cast: tuple[str, ...] = ()
    places: tuple[str, ...] = ()
    speakers: tuple[str, ...] = ()
    angle: str = "eye level"
    facings: Mapping[str, Facing] = field(default_factory=dict)
    addressed: tuple[str, ...] = ()


@dataclass(frozen=True)
class PlanFinding:
    """Something in the plan to look at. `shot` is where it begins and `until` where it ends; `thread` whom it is about;
    `measured` and `allowed` in `unit`."""

    kind: PlanKind
    shot: str
    title: str
    advice: str
    until: str | None = None
    thread: str | None = None
    measured: float = 0.0
    allowed: float = 0.0
    unit: str = ""


def plan_findings(shots: Sequence[PlanShot], names: Mapping[str, str], kinds: Mapping[str, str]) -> list[PlanFinding]:
    """Findings of a plan, in shot order. `names` and `kinds` (character, setting, prop, style) by thread id.

    Only what the plan itself can tell: nothing here knows the pictures.
    """
    if not shots:
        return []
    order = {s.id: i for i, s in enumerate(shots)}
    found = [
        *_establishing(shots),
        *_same_size(shots),
        *_line(shots, names),
        *_lengths(shots),
        *_absent(shots, names, kinds),
        *_unplaced(shots, kinds),
        *_unseen_speakers(shots, names),
        *_descriptions(shots),
    ]
    return sorted(found, key=lambda f: order[f.shot])


def _establishing(shots: Sequence[PlanShot]) -> Iterator[PlanFinding]:
    for _, group in groupby(shots, key=lambda s: s.scene):
        own = list(group)
        if len(own) >= 2 and not any(s.size in WIDE for s in own):
            yield PlanFinding(
                "no_establishing", own[0].id, "No shot shows where this scene is",
                "Make one of its shots wide, or let the place be guessed on purpose.", until=own[-1].id,
                measured=0, allowed=1, unit="wide shots",
            )  # fmt: skip


def _same_size(shots: Sequence[PlanShot]) -> Iterator[PlanFinding]:
    for (_, size), group in groupby(shots, key=lambda s: (s.scene, s.size)):
        own = list(group)
        if len(own) >= RUN_OF_ONE_SIZE and len({s.angle for s in own}) < len(own) / 2:
            yield PlanFinding(
                "same_size", own[0].id, f"{len(own)} shots of one size ({size}) in a row",
                "Change the size or the angle of one in the middle.", until=own[-1].id,
                measured=len(own), allowed=RUN_OF_ONE_SIZE - 1, unit="shots",
            )  # fmt: skip


def _line(shots: Sequence[PlanShot], names: Mapping[str, str]) -> Iterator[PlanFinding]:
    """A character who faces left in one shot and right in the next has crossed the line, unless a shot between looks
    along it; two who face each other and then both turn have been crossed by the view."""
    for before, after in pairwise(shots):
        if before.scene != after.scene:
            continue
        turned = [
            who
            for who in before.cast
            if who in after.cast and {before.facings.get(who, ""), after.facings.get(who, "")} == {"left", "right"}
        ]
        if turned:
            who = " and ".join(names.get(t, "somebody") for t in turned[:2])
            yield PlanFinding(
                "crosses_line", after.id, f"{who} {'change' if len(turned) > 1 else 'changes'} sides",
                "Turn the view round, or put a shot between that looks along the line or shows the turn.",
                thread=turned[0], measured=len(turned), allowed=0, unit="turned",
            )  # fmt: skip


def _lengths(shots: Sequence[PlanShot]) -> Iterator[PlanFinding]:
    ordered = sorted(s.length_s for s in shots)
    usual = ordered[len(ordered) // 2]
    longest = min(LONGEST_S, max(LONGEST_S / 2, LONG_AGAINST_THE_REST * usual))
    for shot in shots:
        if shot.length_s > longest:
            yield PlanFinding(
                "too_long", shot.id, f"{shot.length_s:g} s is long for one picture",
                "Split it, give it a move, or let it stand if the eye has enough to find.",
                measured=shot.length_s, allowed=round(longest, 1), unit="s",
            )  # fmt: skip
        elif shot.length_s < SHORTEST_S:
            yield PlanFinding(
                "too_short", shot.id, f"{shot.length_s:g} s is too short to be read", "Give it more time, or merge it.",
                measured=shot.length_s, allowed=SHORTEST_S, unit="s",
            )  # fmt: skip


def _absent(shots: Sequence[PlanShot], names: Mapping[str, str], kinds: Mapping[str, str]) -> Iterator[PlanFinding]:
    seen = Counter(t for s in shots for t in (*s.cast, *s.places))
    for thread, kind in kinds.items():
        if kind == "character" and not seen[thread]:
            yield PlanFinding(
                "never_appears", shots[0].id, f"{names[thread]} is in no shot", "Assign a shot, or take them out of the cast.",
                thread=thread, measured=0, allowed=1, unit="shots",
            )  # fmt: skip
        elif kind == "setting" and not seen[thread]:
            yield PlanFinding(
                "place_without_shot", shots[0].id, f"No shot plays at: {names[thread]}", "Assign a shot, or drop the place.",
                thread=thread, measured=0, allowed=1, unit="shots",
            )  # fmt: skip


def _unplaced(shots: Sequence[PlanShot], kinds: Mapping[str, str]) -> Iterator[PlanFinding]:
    if "setting" not in kinds.values():
        return
    for shot in shots:
        if not shot.places and shot.size not in ("ECU", "CU"):
            yield PlanFinding(
                "shot_without_place", shot.id, "No place is assigned", "Say where it plays; a close shot may go without.",
                measured=0, allowed=1, unit="places",
            )  # fmt: skip


def _unseen_speakers(shots: Sequence[PlanShot], names: Mapping[str, str]) -> Iterator[PlanFinding]:
    """Within a scene, whoever speaks should be seen once, and so should whoever is spoken to by name."""
    for _, group in groupby(shots, key=lambda s: s.scene):
        own = list(group)
        seen = {t for s in own for t in s.cast}
        told: set[str] = set()
        for shot in own:
            for listener in shot.addressed:
                if listener in names and listener not in seen and listener not in told:
                    told.add(listener)
                    yield PlanFinding(
                        "listener_unseen", shot.id, f"{names[listener]} is spoken to and never seen in this scene",
                        "Show who is spoken to, or let them stay off screen.", thread=listener,
                        measured=0, allowed=1, unit="shots",
                    )  # fmt: skip
            for speaker in shot.speakers:
                if speaker in names and speaker not in seen and speaker not in told:
                    told.add(speaker)
                    yield PlanFinding(
                        "speaker_unseen", shot.id, f"{names[speaker]} speaks and is never seen in this scene",
                        "Assign the speaker to a shot, or let the voice stay off screen.", thread=speaker,
                        measured=0, allowed=1, unit="shots",
                    )  # fmt: skip


def _descriptions(shots: Sequence[PlanShot]) -> Iterator[PlanFinding]:
    for shot in shots:
        if not shot.shows.strip():
            yield PlanFinding("no_description", shot.id, "Nothing says what this picture shows", "Write one sentence.")
            continue
        phrases = moving_words(shot.shows)
        if phrases:
            yield PlanFinding(
                "moves_in_still", shot.id, f"“{phrases[0].words}” moves; a still cannot show it", "Move it to the motion note.",
                measured=len(phrases), allowed=0, unit="phrases",
            )  # fmt: skip
        moments = moments_in(shot.shows)
        if moments > 1:
            yield PlanFinding(
                "several_moments", shot.id, "More than one moment in one picture", "Split the shot, or choose the moment.",
                measured=moments, allowed=1, unit="moments",
            )  # fmt: skip
