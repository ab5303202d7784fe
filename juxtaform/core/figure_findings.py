"""Findings along a figure: traits that changed or went missing, somebody else in its place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from juxtaform.core import tolerances as tol
from juxtaform.core.colour import linear_from_hex
from juxtaform.core.drift import scalar_change
from juxtaform.core.findings import Evidence, FigurePoint, Finding, Kind, Mark, ShotState, ThreadState
from juxtaform.core.identity import Appearance, TraitReading
from juxtaform.core.naming import colour_name


def figure_thread(
    thread: str,
    titles: dict[str, str],
    shots: Sequence[ShotState],
    parts: Mapping[tuple[str, str], str],
    other_hand: set[str],
    sliding: set[str],
) -> tuple[ThreadState, list[Finding]]:
    """A figure along the shots where it is marked. In pictures by another hand its traits cannot be told, in those that slide with the
    style only what is missing can."""
    points: list[FigurePoint] = []
    findings: list[Finding] = []
    for shot in shots:
        if shot.picture is None:
            continue
        for mark, seen in zip(shot.marks, shot.picture.appearances, strict=True):
            if mark.thread != thread:
                continue
            told = _appearance_findings(thread, titles, shot, mark, seen, parts)
            if shot.id in other_hand:
                told = [f for f in told if f.kind == "figure_swapped"]
            elif shot.id in sliding:
                told = [f for f in told if f.kind not in ("trait_changed", "figure_drift")]
            swapped = any(f.kind == "figure_swapped" for f in told)
            points.append(FigurePoint(shot.id, mark, seen, "swapped" if swapped else ("drifts" if told else "holds")))
            findings += told
    change = scalar_change(np.array([p.appearance.distance for p in points])) if len(points) >= 4 else None
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


def _appearance_findings(
    thread: str,
    titles: dict[str, str],
    shot: ShotState,
    mark: Mark,
    seen: Appearance,
    parts: Mapping[tuple[str, str], str],
) -> list[Finding]:
    name = titles.get(thread, thread)
    judgeable = [t for t in seen.traits if _held(mark.hold, parts.get((thread, t.name), "figure"))]
    bad = [t for t in judgeable if t.verdict in ("changed", "missing")]
    rival = min(seen.others, key=lambda k: seen.others[k], default=None)
    most_bad = len(bad) >= 2 and len(bad) >= 0.5 * len(judgeable)
    if rival and seen.others[rival] < tol.SWAP_RATIO * seen.distance and (seen.distance > 1.0 or most_bad):
        rival_name = titles.get(rival, rival)
        title = f"This is {rival_name}, not {name}"
        return [
            _figure_finding(
                "figure_swapped", thread, shot, mark, seen, title, f"Mark it as {rival_name}, or retake the shot."
            )
        ]
    if mark.hold == "figure" and ((most_bad and len(bad) >= 3) or (not bad and seen.distance > tol.FIGURE_TOLERANCE)):
        title = f"{name} looks like somebody else" if most_bad else f"{name} has drifted as a whole"
        return [
            _figure_finding("figure_drift", thread, shot, mark, seen, title, "Compare with the anchor, then retake.")
        ]
    return [_trait_finding(thread, name, shot, seen, t, judgeable) for t in bad]


def _held(hold: str, part: str) -> bool:
    return hold == "figure" or part in (hold, "figure")


def _trait_finding(
    thread: str, name: str, shot: ShotState, seen: Appearance, trait: TraitReading, all_traits: list[TraitReading]
) -> Finding:
    rest = [t.difference for t in all_traits if t is not trait and t.verdict == "holds" and t.difference is not None]
    light = Evidence("Scene light taken out", seen.light.words())
    others = Evidence("Other traits", f"hold (≤ {max(rest):.1f})" if rest else "none to compare")
    share = Evidence("Share of the figure", f"{trait.share_seen * 100:.0f} %", f"{trait.share_expected * 100:.0f} %")
    if trait.verdict == "missing":
        return Finding(
            "trait_missing", thread, shot.id, f"{trait.name} is missing",
            f"{name}'s {_lower(trait.name)} is on the references and not in this picture. Retake, or let it stand.",
            trait.share_seen * 100, trait.share_expected * 100, "% of figure", 2.0, trait=trait.name,
            region=trait.region,
            evidence=(Evidence(f"{trait.name}, expected", "not found", expected_hex=trait.expected[0]), share, light, others),
        )  # fmt: skip
    difference = trait.difference or 0.0
    was, now = (colour_name(linear_from_hex(code)) for code in (trait.expected[0], trait.seen or trait.expected[0]))
    title = f"{trait.name} is {now}, not {was}" if was != now else f"{trait.name} is another {was}"
    return Finding(
        "trait_changed", thread, shot.id, title,
        f"{name}'s {_lower(trait.name)} changed colour, beyond what the light explains. Retake with this corrected.",
        difference, trait.allowed, "ΔE00", difference / trait.allowed, trait=trait.name, region=trait.region,
        evidence=(
            Evidence(f"{trait.name}, expected", trait.expected[0], expected_hex=trait.expected[0]),
            Evidence(f"{trait.name}, seen", trait.seen or "", measured_hex=trait.seen),
            Evidence("Difference (ΔE00)", f"{difference:.1f}", f"{trait.allowed:.1f}"),
            share, light, others,
        ),
    )  # fmt: skip


def _figure_finding(
    kind: Kind, thread: str, shot: ShotState, mark: Mark, seen: Appearance, title: str, advice: str
) -> Finding:
    rows = [
        Evidence("Figure distance", f"{seen.distance:.2f} × tolerance", "1"),
        Evidence("Colours after the light", f"{seen.terms.colour:.2f}"),
        Evidence("Make-up of the figure", f"{seen.terms.makeup:.2f}"),
        Evidence("Local structure", f"{(1 - seen.terms.structure) * 100:.0f} % agrees"),
        Evidence("Scene light taken out", seen.light.words()),
        *(Evidence(f"Distance to {other}", f"{d:.2f} × tolerance") for other, d in sorted(seen.others.items())),
    ]
    return Finding(
        kind, thread, shot.id, title, advice, seen.distance, 1.0, "× tolerance", max(seen.distance, 1.5),
        region=mark.box, evidence=tuple(rows),
    )  # fmt: skip


def _lower(name: str) -> str:
    return name[:1].lower() + name[1:]
