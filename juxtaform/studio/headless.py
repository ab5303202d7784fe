"""Check a sequence manifest without a database or a screen, and report what was found."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any

from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import CheckResult, Mark, ShotState, StyleHome
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.findings import Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.formats.manifest import Manifest, ManifestReference, ManifestShot, ManifestWrong, picture_path
from juxtaform.media.network import judges
from juxtaform.studio.measuring import FigureFile, PictureTask, TraitEntry, ViewFile, Workers, measure_task

REPORT_FORMAT = "juxtaform-report/1"
Progress = Callable[[int, int], None]


def check_manifest(manifest: Manifest, path: Path, progress: Progress | None = None) -> dict[str, Any]:
    """The report of a manifest that lies at `path`. Raises ManifestWrong for pictures that cannot be used."""
    references = {r.id: r for r in manifest.references}
    files = _figure_files(manifest, path)
    style_ids = [r.id for r in manifest.references if r.kind == "style"]
    only_style = style_ids[0] if len(style_ids) == 1 else None
    kept = tuple(
        (owner, code) for r in manifest.references for owner, codes in r.kept_colours.items() for code in codes
    )
    characters = {r.id for r in manifest.references if r.kind == "character"}
    tasks: dict[str, PictureTask] = {}
    for i, shot in enumerate(manifest.shots):
        if shot.picture is not None:
            found = picture_path(path, shot.picture, f"/shots/{i}/picture")
            tasks[f"/shots/{i}/picture"] = _shot_task(found, shot, files, kept, characters)
    for i, reference in enumerate(manifest.references):
        if reference.kind == "style":
            for j, picture in enumerate(reference.pictures):
                pointer = f"/references/{i}/pictures/{j}/path"
                found = picture_path(path, picture.path, pointer)
                tasks[pointer] = PictureTask(str(found), sha_of(found), (), ())
    measures = _all_measured(tasks, progress)
    styles = [
        StyleHome(
            r.id,
            r.name or r.id,
            tuple(measures[f"/references/{i}/pictures/{j}/path"].signature for j in range(len(r.pictures))),
            tuple(p.weight for p in r.pictures),
            tuple(h for j in range(len(r.pictures)) if (h := measures[f"/references/{i}/pictures/{j}/path"].hand)),
        )
        for i, r in enumerate(manifest.references)
        if r.kind == "style"
    ] or [StyleHome("", "the sequence")]
    shots = [
        _shot_state(i, shot, only_style if style_ids else "", measures.get(f"/shots/{i}/picture"), references)
        for i, shot in enumerate(manifest.shots)
    ]
    names: list[Named] = [
        Named(r.id, r.name or r.id, tuple(r.aliases)) for r in manifest.references if r.kind != "style"
    ]
    parts = {(r.id, t.name): t.part for r in manifest.references for t in r.traits}
    return _report(manifest, shots, check(shots, styles, names, parts, judges=judges()))


def sha_of(path: Path) -> str:
    """SHA-256 of a file's bytes, as hex."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _figure_files(manifest: Manifest, path: Path) -> dict[tuple[str, str], FigureFile]:
    """Every figure by (reference, costume)."""
    files = {}
    for i, reference in enumerate(manifest.references):
        if reference.kind not in ("character", "prop"):
            continue
        for costume in dict.fromkeys(p.costume for p in reference.pictures):
            kept = [(j, p) for j, p in enumerate(reference.pictures) if p.costume == costume]
            views = tuple(
                ViewFile(
                    str(found := picture_path(path, p.path, f"/references/{i}/pictures/{j}/path")),
                    sha_of(found),
                    p.view or Path(p.path).stem,
                    p.weight,
                    p.box,
                )
                for j, p in kept
            )
            index = {j: k for k, (j, _) in enumerate(kept)}
            files[reference.id, costume] = FigureFile(
                f"{reference.id}/{costume}" if costume else reference.id,
                reference.id,
                views,
                _traits(reference, costume, index),
            )
    return files


def _traits(reference: ManifestReference, costume: str, index: dict[int, int]) -> tuple[TraitEntry, ...]:
    return tuple(
        TraitEntry(t.name, tuple(t.colours), t.box if t.picture in index else None, index.get(t.picture, 0), t.part)
        for t in reference.traits
        if (t.costume is None or t.costume == costume) and (t.picture in index or (t.box is None or t.colours))
    )


def _figure_of(files: dict[tuple[str, str], FigureFile], reference: str, costume: str) -> FigureFile:
    """The figure in that costume, or in the usual one, or in any."""
    exact = files.get((reference, costume)) or files.get((reference, ""))
    return exact or next(f for (owner, _), f in files.items() if owner == reference)


def _shot_task(
    found: Path,
    shot: ManifestShot,
    files: dict[tuple[str, str], FigureFile],
    kept: tuple[tuple[str, str], ...],
    characters: set[str],
) -> PictureTask:
    marks = tuple((_figure_of(files, a.reference, a.costume).id, a.box) for a in shot.appearances)
    marked = {(a.reference, a.costume) for a in shot.appearances}
    cast = tuple(f for (owner, _), f in files.items() if owner in characters or any(owner == m for m, _ in marked))
    return PictureTask(str(found), sha_of(found), marks, cast, kept)


def _all_measured(tasks: dict[str, PictureTask], progress: Progress | None) -> dict[str, PictureMeasure]:
    by_key = {task.key: task for task in tasks.values()}
    measures: dict[str, PictureMeasure] = {}
    workers = Workers()
    try:
        for result in workers.done(measure_task, by_key.values()):
            if result.measure is None:
                pointer = next(p for p, task in tasks.items() if task.key == result.key)
                raise ManifestWrong(pointer, result.trouble)
            measures[result.key] = result.measure
            if progress:
                progress(len(measures), len(by_key))
    finally:
        workers.close()
    return {pointer: measures[task.key] for pointer, task in tasks.items()}


def _shot_state(
    i: int,
    shot: ManifestShot,
    only_style: str | None,
    picture: PictureMeasure | None,
    references: dict[str, ManifestReference],
) -> ShotState:
    everyone = frozenset(references)
    assigned = everyone if shot.assigned is None else frozenset(shot.assigned)
    marks = tuple(Mark(a.reference, Box(*a.box), a.hold, a.costume) for a in shot.appearances)
    return ShotState(shot.id, str(i + 1), shot.words, assigned, shot.style or only_style, marks, picture)


def _report(manifest: Manifest, shots: list[ShotState], result: CheckResult) -> dict[str, Any]:
    style_points = {p.shot: (thread, p) for thread, state in result.threads.items() for p in state.style}
    by_shot = []
    for shot, stated in zip(shots, manifest.shots, strict=True):
        thread, point = style_points.get(shot.id, (None, None))
        appearances = [
            _appearance_report(p.appearance, stated.appearances[k].reference, stated.appearances[k].costume, p.verdict)
            for k, p in enumerate(_points_of(result, shot))
        ]
        by_shot.append(
            {
                "shot": shot.id,
                "style": None
                if point is None
                else {
                    "reference": thread or None,
                    "distance": round(point.distance, 4),
                    "verdict": point.verdict,
                    "foremost": [{"term": name, "departure": round(z, 3)} for name, z in point.foremost],
                },
                "appearances": appearances,
            }
        )
    return {
        "format": REPORT_FORMAT,
        "title": manifest.title,
        "verdict": "findings" if result.findings else "clean",
        "shots": by_shot,
        "findings": [_finding_report(f) for f in result.findings],
        "threads": [
            {"reference": thread or None, "change": s.change, "drift_begins": s.begins, "back_to": s.back_to}
            for thread, s in result.threads.items()
        ],
    }


def _points_of(result: CheckResult, shot: ShotState) -> list[Any]:
    points = {
        (p.mark.thread, p.mark.box): p for state in result.threads.values() for p in state.figures if p.shot == shot.id
    }
    return [points[m.thread, m.box] for m in shot.marks] if shot.picture else []


def _appearance_report(seen: Appearance, reference: str, costume: str, verdict: str) -> dict[str, Any]:
    return {
        "reference": reference,
        "costume": costume,
        "distance": round(seen.distance, 4),
        "verdict": verdict,
        "terms": {k: round(v, 4) for k, v in asdict(seen.terms).items()},
        "light": {
            "gain": [round(g, 4) for g in seen.light.gain],
            "saturation": round(seen.light.saturation, 3),
            "words": seen.light.words(),
        },
        "nearest_view": seen.nearest_view,
        "distance_to_others": {k: round(v, 4) for k, v in seen.others.items()},
        "traits": [
            {
                "name": t.name,
                "verdict": t.verdict,
                "expected": list(t.expected),
                "seen": t.seen,
                "distance": None if t.difference is None else round(t.difference, 2),
                "allowed": round(t.allowed, 2),
                "share_expected": round(t.share_expected, 4),
                "share_seen": round(t.share_seen, 4),
                "region": _box(t.region),
            }
            for t in seen.traits
        ],
    }


def _finding_report(f: Finding) -> dict[str, Any]:
    return {
        "kind": f.kind,
        "reference": f.thread or None,
        "shot": f.shot,
        "until": f.until,
        "back_to": f.back_to,
        "trait": f.trait or None,
        "title": f.title,
        "advice": f.advice,
        "measured": round(f.measured, 3),
        "expected": round(f.expected, 3),
        "unit": f.unit,
        "severity": round(f.severity, 3),
        "region": _box(f.region) if f.region else None,
        "evidence": [{k: v for k, v in asdict(e).items() if v} for e in f.evidence],
    }


def _box(box: Box) -> list[float]:
    return [round(v, 1) for v in (box.x, box.y, box.w, box.h)]
