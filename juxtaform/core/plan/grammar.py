"""Findings of the shot plan itself, before any picture is made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import groupby, pairwise

from juxtaform.core.findings import Finding
from juxtaform.core.plan.blocking import Stand, changed_sides
from juxtaform.core.plan.shots import WIDE, Facing
from juxtaform.core.plan.stills import moments_in, moving_words

RUN_OF_ONE_SIZE = 4
"""This many pictures of one size in a row tire the eye; three in a row may be a rhythm."""
SHORTEST_S, LONGEST_S = 1.5, 20.0
"""A still under a second and a half is not read; one over twenty seconds is left with the eyes."""
LONG_AGAINST_THE_REST = 3.0
"""A shot this many times as long as the usual one (median) is told, from half of LONGEST_S on."""


@dataclass(frozen=True)
class PlanShot:
    """A shot as planned; `cast` and `places` are thread ids, `speakers` those of its spoken words, `addressed` whom these
    speak to by name, `facings` where each of the cast looks on the screen, `stands` where on the picture they stand, `names` the words of all threads' names."""

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
    stands: Mapping[str, Stand] = field(default_factory=dict)
    names: frozenset[str] = frozenset()


def plan_findings(shots: Sequence[PlanShot], names: Mapping[str, str], kinds: Mapping[str, str]) -> list[Finding]:
    """Findings of a plan, in shot order. `names` and `kinds` (character, setting, prop, style) by thread id.

    Only what the plan itself can tell: nothing here knows the pictures.
    """
    order = {s.id: i for i, s in enumerate(shots)}
    found = findings_of_plan(shots, names, kinds)
    for _, group in groupby(shots, key=lambda s: s.scene):
        found += findings_of_scene(list(group), names)
    for shot in shots:
        found += findings_of_shot(shot, kinds)
    return sorted(found, key=lambda f: order[f.shot or ""])


def findings_of_plan(shots: Sequence[PlanShot], names: Mapping[str, str], kinds: Mapping[str, str]) -> list[Finding]:
    """What only the whole plan tells: lengths against the usual one, and who and what is in no shot."""
    return [*_lengths(shots), *_absent(shots, names, kinds)] if shots else []


def findings_of_scene(shots: Sequence[PlanShot], names: Mapping[str, str]) -> list[Finding]:
    """What the shots of one scene tell together."""
    return [*_establishing(shots), *_same_size(shots), *_line(shots, names), *_unseen_speakers(shots, names)]


def findings_of_shot(shot: PlanShot, kinds: Mapping[str, str]) -> list[Finding]:
    """What a shot tells by itself."""
    return [*_unplaced(shot, kinds), *_description(shot)]


def _establishing(shots: Sequence[PlanShot]) -> Iterator[Finding]:
    if len(shots) >= 2 and not any(s.size in WIDE for s in shots):
        yield Finding(
            source="plan",
            kind="no_establishing",
            shot=shots[0].id,
            title="No shot shows where this scene is",
            advice="Make one of its shots wide, or let the place be guessed on purpose.",
            until=shots[-1].id,
            measured=0,
            expected=1,
            unit="wide shots",
        )


def _same_size(shots: Sequence[PlanShot]) -> Iterator[Finding]:
    for size, group in groupby(shots, key=lambda s: s.size):
        own = list(group)
        if len(own) >= RUN_OF_ONE_SIZE and len({s.angle for s in own}) < len(own) / 2:
            yield Finding(
                source="plan",
                kind="same_size",
                shot=own[0].id,
                title=f"{len(own)} shots of one size ({size}) in a row",
                advice="Change the size or the angle of one in the middle.",
                until=own[-1].id,
                measured=len(own),
                expected=RUN_OF_ONE_SIZE - 1,
                unit="shots",
            )


def _line(shots: Sequence[PlanShot], names: Mapping[str, str]) -> Iterator[Finding]:
    """A character who faces left in one shot and right in the next has crossed the line, unless a shot between looks
    along it; two who face each other and then both turn have been crossed by the view, and so have two who change sides."""
    for before, after in pairwise(shots):
        turned = [
            who
            for who in before.cast
            if who in after.cast and {before.facings.get(who, ""), after.facings.get(who, "")} == {"left", "right"}
        ] or changed_sides(before.stands, after.stands)
        if turned:
            who = " and ".join(names.get(t, "somebody") for t in turned[:2])
            yield Finding(
                source="plan",
                kind="crosses_line",
                shot=after.id,
                title=f"{who} {'change' if len(turned) > 1 else 'changes'} sides",
                advice="Turn the view round, or put a shot between that looks along the line or shows the turn.",
                thread=turned[0],
                measured=len(turned),
                expected=0,
                unit="turned",
            )


def _lengths(shots: Sequence[PlanShot]) -> Iterator[Finding]:
    ordered = sorted(s.length_s for s in shots)
    usual = ordered[len(ordered) // 2]
    longest = min(LONGEST_S, max(LONGEST_S / 2, LONG_AGAINST_THE_REST * usual))
    for shot in shots:
        if shot.length_s > longest:
            yield Finding(
                source="plan",
                kind="too_long",
                shot=shot.id,
                title=f"{shot.length_s:g} s is long for one picture",
                advice="Split it, give it a move, or let it stand if the eye has enough to find.",
                measured=shot.length_s,
                expected=round(longest, 1),
                unit="s",
            )
        elif shot.length_s < SHORTEST_S:
            yield Finding(
                source="plan",
                kind="too_short",
                shot=shot.id,
                title=f"{shot.length_s:g} s is too short to be read",
                advice="Give it more time, or merge it.",
                measured=shot.length_s,
                expected=SHORTEST_S,
                unit="s",
            )


def _absent(shots: Sequence[PlanShot], names: Mapping[str, str], kinds: Mapping[str, str]) -> Iterator[Finding]:
    seen = Counter(t for s in shots for t in (*s.cast, *s.places))
    for thread, kind in kinds.items():
        if kind == "character" and not seen[thread]:
            yield Finding(
                source="plan",
                kind="never_appears",
                shot=shots[0].id,
                title=f"No shot shows {names[thread]}",
                advice="Assign a shot, or take them out of the cast.",
                thread=thread,
                measured=0,
                expected=1,
                unit="shots",
            )
        elif kind == "setting" and not seen[thread]:
            yield Finding(
                source="plan",
                kind="place_without_shot",
                shot=shots[0].id,
                title=f"No shot plays at: {names[thread]}",
                advice="Assign a shot, or drop the place.",
                thread=thread,
                measured=0,
                expected=1,
                unit="shots",
            )


def _unplaced(shot: PlanShot, kinds: Mapping[str, str]) -> Iterator[Finding]:
    if "setting" in kinds.values() and not shot.places and shot.size not in ("ECU", "CU"):
        yield Finding(
            source="plan",
            kind="shot_without_place",
            shot=shot.id,
            title="No place is assigned",
            advice="Say where it plays; a close shot may go without.",
            measured=0,
            expected=1,
            unit="places",
        )


def _unseen_speakers(shots: Sequence[PlanShot], names: Mapping[str, str]) -> Iterator[Finding]:
    """Within a scene, whoever speaks should be seen once, and so should whoever is spoken to by name."""
    seen = {t for s in shots for t in s.cast}
    named: set[str] = set()
    for shot in shots:
        for listener in shot.addressed:
            if listener in names and listener not in seen and listener not in named:
                named.add(listener)
                title = f"{names[listener]} is spoken to and never seen in this scene"
                yield _unseen(
                    shot, listener, "listener_unseen", title, "Show who is spoken to, or let them stay off screen."
                )
        for speaker in shot.speakers:
            if speaker in names and speaker not in seen and speaker not in named:
                named.add(speaker)
                title = f"{names[speaker]} speaks and is never seen in this scene"
                yield _unseen(
                    shot,
                    speaker,
                    "speaker_unseen",
                    title,
                    "Assign the speaker to a shot, or let the voice stay off screen.",
                )


def _unseen(shot: PlanShot, who: str, kind: str, title: str, advice: str) -> Finding:
    return Finding(
        source="plan",
        kind=kind,
        shot=shot.id,
        title=title,
        advice=advice,
        thread=who,
        measured=0,
        expected=1,
        unit="shots",
    )


def _description(shot: PlanShot) -> Iterator[Finding]:
    if not shot.shows.strip():
        yield Finding(
            source="plan",
            kind="no_description",
            shot=shot.id,
            title="Nothing says what this picture shows",
            advice="Write one sentence.",
        )
        return
    phrases = moving_words(shot.shows, shot.names)
    if phrases:
        yield Finding(
            source="plan",
            kind="moves_in_still",
            shot=shot.id,
            title=f"“{phrases[0].words}” moves; a still cannot show it",
            advice="Move it to the motion note.",
            measured=len(phrases),
            expected=0,
            unit="phrases",
        )
    moments = moments_in(shot.shows)
    if moments > 1:
        yield Finding(
            source="plan",
            kind="several_moments",
            shot=shot.id,
            title="More than one moment in one picture",
            advice="Split the shot, or choose the moment.",
            measured=moments,
            expected=1,
            unit="moments",
        )
