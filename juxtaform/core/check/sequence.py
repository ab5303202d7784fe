"""From measures to findings: what departs, where along each thread, by how much, and what to go back to."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field

from juxtaform.core.check.clips import clip_findings
from juxtaform.core.check.company import company_findings, leaks
from juxtaform.core.check.cuts import cut_findings
from juxtaform.core.check.extras import without_planned_things
from juxtaform.core.check.figures import figure_thread
from juxtaform.core.check.heights import unequal_heights
from juxtaform.core.check.places import place_threads
from juxtaform.core.check.states import CheckResult, PlaceHome, ShotState, StyleHome, ThreadState
from juxtaform.core.check.styles import away_from_style, style_thread, unnamed_style
from juxtaform.core.check.technical import Wanted, technical_findings
from juxtaform.core.figure.recognition import Judges
from juxtaform.core.findings import Evidence, Finding, asks
from juxtaform.core.text.names import Named, named_but_absent

ROLE_SHARE = 0.012
"""A kept colour is misused from this share of the picture on: the size of a hat in a wide shot."""

NOTHING_WANTED = Wanted()


@dataclass(frozen=True)
class Cast:
    """The kind (character, prop) of each thread, by figure id how its costume is called, and which references (ids) show their figure from a side, so
    that a mirrored one looks the other way, and whose each prop is that is somebody's."""

    kinds: Mapping[str, str] = field(default_factory=dict)
    costumes: Mapping[str, str] = field(default_factory=dict)
    side_views: frozenset[str] = frozenset()
    owners: Mapping[str, str] = field(default_factory=dict)


NOBODY = Cast()


def check(
    shots: Sequence[ShotState],
    styles: Sequence[StyleHome],
    names: Sequence[Named],
    parts: Mapping[tuple[str, str], str] | None = None,
    accepted: Collection[tuple[str, str]] = (),
    judges: Judges | None = None,
    wanted: Wanted = NOTHING_WANTED,
    places: Sequence[PlaceHome] = (),
    cast: Cast = NOBODY,
) -> CheckResult:
    """Check a sequence of shots in their order.

    `names` are all threads that a text can name; `parts` tells for (thread, trait) which part of the figure a trait
    belongs to (`face`, `outfit` or `figure`), so that a hold on the face alone leaves clothes unjudged. `accepted` names figures, as
    (thread, shot), that the illustrator let stand as right: others like them are not asked about. `judges` weigh what speaks for a change of a trait, and for somebody else;
    without them the verdicts stand as each picture was read. `wanted` is what the project's pictures are made for; `places` are
    its settings, `cast` what is known of who and what may be in a picture.
    """
    titles = {n.id: n.name for n in names}
    findings: list[Finding] = [*_absent(shots, names), *_kept(shots, titles)]
    threads: dict[str, ThreadState] = {}
    for style in styles:
        state, own_findings = style_thread(style, shots)
        threads[style.id] = state
        findings += own_findings
    hands = list(threads.values())
    if not styles:
        state, own_findings = unnamed_style(shots)
        hands.append(state)
        findings += own_findings
    away = away_from_style(hands, shots)
    findings += technical_findings(shots, wanted, away.drawn_otherwise)
    settings, of_places = place_threads(places, shots, away.drawn_otherwise)
    threads |= settings
    findings += of_places
    figures = dict.fromkeys(mark.thread for shot in shots for mark in shot.marks)
    for thread in figures:
        state, own_findings = figure_thread(thread, titles, shots, parts or {}, away, accepted, judges)
        threads[thread] = state
        findings += own_findings
    findings = without_planned_things(findings, shots, cast.kinds, cast.owners)
    others = {(f.shot or "", f.thread or "") for f in findings if f.kind in ("figure_swapped", "figure_stranger")}
    misread = {(f.shot or "", f.thread or "") for f in findings if f.kind in ("figure_doubtful", "proportion")}
    findings += unequal_heights(shots, titles, others | misread)
    findings += cut_findings(shots, titles, away.other_hand | away.sliding | away.faded, cast.side_views, others)
    findings += clip_findings(shots, titles)
    findings += company_findings(shots, titles, cast.kinds, cast.costumes)
    findings = leaks(findings, shots, titles)
    order = {shot.id: i for i, shot in enumerate(shots)}
    findings.sort(key=lambda f: (asks(f), order[f.shot or ""], -f.severity))  # questions come last
    return CheckResult(tuple(findings), threads)


def _absent(shots: Sequence[ShotState], names: Sequence[Named]) -> list[Finding]:
    titles = {n.id: n.name for n in names}
    found = []
    for shot in shots:
        for thread in named_but_absent(shot.words, names, set(shot.assigned)):
            name = titles[thread]
            found.append(
                Finding(
                    source="check",
                    kind="named_absent",
                    thread=thread,
                    shot=shot.id,
                    title=f"The words name {name}, whose thread does not run here",
                    advice=f"Take {name} out of the words, or assign {name} to this shot.",
                    measured=1.0,
                    expected=0.0,
                    unit="mentions",
                    severity=1.2,
                    evidence=(Evidence("Words", shot.words), Evidence("Assigned", f"not {name}")),
                )
            )
    return found


def _kept(shots: Sequence[ShotState], titles: dict[str, str]) -> list[Finding]:
    found = []
    for shot in shots:
        for role in shot.picture.roles if shot.picture else ():
            if role.share > ROLE_SHARE:
                owner = titles.get(role.figure, role.figure)
                found.append(
                    Finding(
                        source="check",
                        kind="kept_colour",
                        thread=shot.style,
                        shot=shot.id,
                        title=f"A colour kept for {owner} is worn by something else",
                        advice=f"Only {owner} may wear this colour in this style.",
                        measured=role.share * 100,
                        expected=ROLE_SHARE * 100,
                        unit="% of picture",
                        severity=role.share / ROLE_SHARE,
                        region=role.region,
                    )
                )
    return found
