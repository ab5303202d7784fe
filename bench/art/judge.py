"""The measures judged on drawn art by other hands, with every rate and its count. `python -m bench.run art`; with `last` as a further
word on the half that nothing was set on."""

from __future__ import annotations

import sys
from collections import Counter, defaultdict
from collections.abc import Sequence
from typing import Any

import numpy as np

from bench.art import filmed, pages, rows
from bench.art.checked import SOURCES, findings_of, shots_of, side_by_side, sources_of, told_of
from bench.art.heights import figures_beside_each_other
from bench.art.pairs import Pair, pairs
from bench.art.proportions import figures_out_of_proportion
from bench.art.scenes import Query, made
from bench.art.sequences import FAULTS, WHOLE, Story, cut_of, readable
from bench.art.settings import Seen, story_at_two_places
from bench.art.slides import rows_that_slide
from bench.art.sources import families, grounds, singles
from bench.art.staging import Rgb, Standing, scene
from bench.art.things import things_on_figures
from juxtaform.core.check.changes import certainties
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Finding, ShotState, StyleHome
from juxtaform.core.clips.looks import Eyes
from juxtaform.core.clips.reading import READ_SIDE, read_clip
from juxtaform.core.colour.spaces import delta_e_2000, lab_from_linear, lab_from_srgb8, linear_from_hex
from juxtaform.core.edits.proof import proof
from juxtaform.core.figure.match import match
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.figure.standing import ABSENT, FOUND, Place, seen_places, settled, sought
from juxtaform.core.picture.panels import panels
from juxtaform.core.picture.regions import cut_out, overlap
from juxtaform.core.picture.upright import straightened
from juxtaform.media.network import figure_eye, hand_eye, judges, letter_eye
from tests.constructed_edits import is_found, pair
from tests.constructed_pages import judged as panels_judged

IDENTITY = ("figure_swapped", "figure_stranger")
QUESTIONS = frozenset({"figure_doubtful", "unmarked_doubtful", "twice_doubtful"})
ABOUT_WHO = frozenset({*IDENTITY, *QUESTIONS, "twice"})
NOTHING = -9.0
"""The certainty of a change where a figure has no trait."""


def on_foreign_art() -> None:
    """All parts, or those named after `art`."""
    last = "last" in sys.argv
    every = (
        figure_pairs,
        sequences,
        boxes_as_found,
        all_of_clean,
        style_rows,
        rows_that_slide,
        figures_out_of_proportion,
        figures_beside_each_other,
        things_on_figures,
        stories_at_two_places,
        where_they_stand,
        pages_of_panels,
        clips_of_figures,
        edits_of_pictures,
    )
    for part in [p for p in every if p.__name__ in sys.argv] or every:
        print(f"-- {part.__name__.replace('_', ' ')} ({'last half' if last else 'half to set on'})", flush=True)
        part(last)


def auc(score: Sequence[float], same: Sequence[bool]) -> float:
    """The chance that one of a kind scores above one of the other."""
    s, y = np.asarray(score), np.asarray(same, dtype=bool)
    if y.all() or not y.any():
        return float("nan")
    return float(np.mean(s[y][:, None] > s[~y][None]) + 0.5 * np.mean(s[y][:, None] == s[~y][None]))


def figure_pairs(last: bool, count: int = 160) -> None:
    """The same figure or not, one reference each."""
    seed = 91 if last else 31
    people = pairs([f for f in families(last) if f.source != "gcompris"], count, seed)
    rng = np.random.default_rng(seed)
    every = singles(last)
    things = pairs([every[i] for i in rng.permutation(len(every))[:500]], count // 2, seed + 1)
    found = [*people, *things]
    scores = np.array(side_by_side(_pair_score, found))
    same = np.array([p.what == "same" for p in found])
    print(f"ROC AUC {auc(scores, same):.3f} of {len(found)} pairs")
    for name, group in (
        ("kind", [p.kind for p in found]),
        ("light", [p.light for p in found]),
        ("source", [p.source for p in found]),
    ):
        told = np.array(group)
        print(
            f"  by {name}: "
            + ", ".join(
                f"{g} {auc(scores[told == g], same[told == g]):.3f} ({(told == g).sum()})" for g in sorted(set(group))
            )
        )
    what = np.array([p.what for p in found])
    for other in ("look-alike", "other"):
        kept = (what == "same") | (what == other)
        print(f"  against {other}s: {auc(scores[kept], same[kept]):.3f} ({kept.sum()})")


def _pair_score(pair: Pair) -> float:
    eye = figure_eye()
    assert eye
    reference = look_of(eye.trunk, pair.reference)
    return match(eye, reference, look_of(eye.trunk, cut_out(pair.frame, pair.box), mirror=True)).score


def sequences(last: bool, each: int = 2) -> None:
    """Ten pictures, two characters, five faults; and clean ones."""
    first = 700 if last else 100
    jobs = [(s, first + k, FAULTS, last) for s in sources_of(last) for k in range(each)]
    jobs += [(s, first + 400 + k, WHOLE, last) for s in sources_of(last) for k in range(each)]
    jobs += [(s, first + 200 + k, (), last) for s in sources_of(last) for k in range(max(1, each // 2))]
    told: dict[str, list[int]] = defaultdict(lambda: [0, 0])
    asked = 0
    parts: dict[str, list[int]] = defaultdict(lambda: [0, 0, 0, 0])
    false: dict[str, int] = defaultdict(int)
    silent, clean, marks = 0, 0, 0
    per_source: dict[str, list[int]] = defaultdict(lambda: [0, 0, 0])
    frames: list[tuple[float, bool]] = []
    for (source, _, faults, _), out in zip(jobs, side_by_side(_sequence, jobs), strict=True):
        for fault, hit, doubt in out["faults"]:
            told[fault][0] += hit
            told[fault][1] += 1
            asked += doubt and not hit
            per_source[source][0] += hit
            per_source[source][1] += 1
        for fault, *right in out["parts"]:
            parts[fault] = [n + more for n, more in zip(parts[fault], (*right, 1), strict=True)]
        for kind in out["false"]:
            false[kind] += 1
            per_source[source][2] += kind != "figure_doubtful"
        frames += out["frames"]
        marks += out["marks"]
        if not faults:
            clean += 1
            silent += not [k for k in out["false"] if k != "figure_doubtful"]
    for fault, (hits, all_) in sorted(told.items()):
        print(f"  {fault}: found {hits} of {all_}")
    print(f"  asked about instead: {asked}")
    for fault, (named, colour, foremost, count) in sorted(parts.items()):
        print(
            f"  {fault}: the part named rightly {named}, its new colour told rightly {colour}, certainty of a change highest there {foremost}, of {count}"
        )
    print(f"  false findings by kind over {len(jobs)} sequences with {marks} right figures: {dict(false) or 'none'}")
    print(f"  clean sequences silent: {silent} of {clean}")
    print(
        f"  frame AUC of recolouring: {auc([f for f, _ in frames], [y for _, y in frames]):.3f} of {len(frames)} figures"
    )
    for source, (hits, all_, wrong) in per_source.items():
        print(f"  {source}: {hits} of {all_}, {wrong} false")


def _sequence(job: tuple[str, int, tuple[str, ...], bool]) -> dict[str, Any]:
    told = told_of(*job)
    shots = shots_of(told)
    return _scored(told, shots, findings_of(shots))


def boxes_as_found(last: bool, each: int = 2) -> None:
    """The same sequences as somebody checks them who takes every box that is proposed and draws none: what is told or asked of who is there."""
    first = 700 if last else 100
    jobs = [(s, first + k, FAULTS, last) for s in sources_of(last) for k in range(each)]
    jobs += [(s, first + 200 + k, (), last) for s in sources_of(last) for k in range(each)]
    said: dict[str, Counter[str]] = defaultdict(Counter)
    for told in side_by_side(_as_found, jobs):
        for fault, word in told:
            said[fault][word] += 1
    for fault, words in sorted(said.items()):
        print(f"  {fault}: {', '.join(f'{w} {n}' for w, n in words.most_common())}, of {words.total()}")


def _as_found(job: tuple[str, int, tuple[str, ...], bool]) -> list[tuple[str, str]]:
    """What is said of each planned figure of a sequence, by what is wrong with it."""
    story_told = told_of(*job)
    shots = shots_of(story_told, own_boxes=True)
    findings = findings_of(shots)
    said = []
    for i, frame in enumerate(story_told.frames):
        if frame.fault:
            continue
        here = [f for f in findings if f.shot == f"s{i}"]
        for m in frame.marks:
            who = {f.kind for f in here if f.thread == "ab"[m.who] and f.kind in ABOUT_WHO}
            # Whoever stands in another's place is there twice, which tells it too.
            if m.fault == "swapped":
                who |= {f.kind for f in here if f.kind in ("twice", "twice_doubtful")}
            word = "told" if who - QUESTIONS else "asked" if who else "silent"
            said.append((m.fault or ("right, in a clean sequence" if not job[2] else "right"), word))
    return said


def all_of_clean(last: bool, each: int = 4) -> None:
    """Every kind of finding in clean sequences, as somebody would see them who brings such pictures: of files and lettering too."""
    jobs = [(s, (6700 if last else 6200) + k, last) for s in sources_of(last) for k in range(each)]
    told = side_by_side(_all_told, jobs)
    kinds = Counter(kind for found in told for kind in found)
    silent = sum(not [k for k in found if k != "figure_doubtful"] for found in told)
    print(f"  {len(jobs)} clean sequences, {silent} silent; told: {dict(kinds) or 'nothing'}")


def _all_told(job: tuple[str, int, bool]) -> list[str]:
    source, seed, last = job
    shots = shots_of(told_of(source, seed, (), last), letter_eye())
    return [f.kind for f in findings_of(shots)]


def _scored(story: Story, shots: list[ShotState], findings: list[Finding]) -> dict[str, Any]:
    out: dict[str, Any] = {"faults": [], "parts": [], "false": [], "frames": [], "marks": 0}
    drift = _drift(shots)
    for i, frame in enumerate(story.frames):
        here = [f for f in findings if f.shot == f"s{i}"]
        style = [f for f in findings if f.thread == "style" and f.shot == f"s{i}"]
        if frame.fault:
            out["faults"].append((frame.fault, bool(style), False))
        else:
            out["false"] += [f.kind for f in style]
        for j, m in enumerate(frame.marks):
            own = [f for f in here if f.thread == "ab"[m.who]]
            if frame.fault and not m.fault:
                continue
            kinds = {f.kind for f in own}
            if not m.fault:
                out["marks"] += 1
                out["false"] += [f.kind for f in own]
                out["frames"].append((max(drift[i, j], default=NOTHING), False))
            elif m.fault in ("recoloured", "repainted"):
                seen = shots[i].picture
                assert seen
                assert m.was
                assert m.now
                traits = [f for f in own if f.kind in ("trait_changed", "trait_missing", "leak")]
                told = [f for f in traits if _about(f, m.was)]
                certain = drift[i, j]
                foremost = bool(certain) and _alike(
                    seen.appearances[j].traits[int(np.argmax(certain))].expected[0], m.was
                )
                out["faults"].append((m.fault, bool(traits), "figure_doubtful" in kinds))
                out["parts"].append((m.fault, bool(told), any(_shows(f, m.now) for f in told), foremost))
                out["frames"].append((max(certain, default=NOTHING), True))
                out["false"] += [k for k in kinds if k in IDENTITY]
            else:
                out["faults"].append((m.fault, bool(kinds & set(IDENTITY)), "figure_doubtful" in kinds))
    return out


def _drift(shots: list[ShotState]) -> dict[tuple[int, int], list[float]]:
    """How certain it is that each trait of each marked figure changed, by picture and mark."""
    both = judges()
    assert both
    out = {}
    for thread in ("a", "b"):
        here = [
            (i, j, seen)
            for i, shot in enumerate(shots)
            if shot.picture
            for j, (mark, seen) in enumerate(zip(shot.marks, shot.picture.appearances, strict=True))
            if mark.thread == thread
        ]
        told = certainties([seen for _, _, seen in here], both.traits)
        out |= {(i, j): own for (i, j, _), own in zip(here, told, strict=True)}
    return out


def _about(finding: Finding, was: tuple[int, int, int]) -> bool:
    return any(_alike(e.expected_hex, was) for e in finding.evidence[:1] if e.expected_hex)


def _shows(finding: Finding, now: tuple[int, int, int]) -> bool:
    """Whether a finding says which colour a part has now, in the picture's light a little off."""
    return any(_alike(e.measured_hex, now, 20) for e in finding.evidence if e.measured_hex)


def _alike(code: str, colour: tuple[int, int, int], within: float = 14) -> bool:
    own = lab_from_srgb8(np.array(colour, dtype=np.uint8))
    return float(delta_e_2000(lab_from_linear(linear_from_hex(code)), own)) < within


def style_rows(last: bool, each: int = 8) -> None:
    """Twelve pictures with two references: clean, two slips, or a change of hand."""
    jobs = [(what, (5000 if last else 3000) + k, last) for k in range(each) for what in ("clean", "slip", "change")]
    frames: list[tuple[float, bool]] = []
    found, errors, false, slips, clean = 0, [], Counter[str](), [0, 0], 0
    for (what, _, _), out in zip(jobs, side_by_side(_style_row, jobs), strict=True):
        frames += list(zip(out["distance"], out["other"], strict=True))
        if what == "clean":
            clean += 1
            false.update(out["kinds"])
        if what == "slip":
            slips[0] += out["hits"]
            slips[1] += 2
        if what == "change" and out["begins"] is not None:
            found += 1
            errors.append(abs(out["begins"] - out["truth"]))
    print(f"  frame AUC {auc([d for d, _ in frames], [o for _, o in frames]):.3f} of {len(frames)} pictures")
    print(
        f"  change of hand found {found} of {each}, mean error {np.mean(errors) if errors else float('nan'):.2f} pictures"
    )
    print(f"  single slips found {slips[0]} of {slips[1]}; false in {clean} clean rows: {dict(false) or 'none'}")


def _style_row(job: tuple[str, int, bool]) -> dict[str, Any]:
    what, seed, last = job
    row = rows.row(seed, what, last)
    home = [measure_picture(p, [], None, None, None, hand_eye()) for p in row.references]
    shots = [
        ShotState(
            f"s{i}", str(i + 1), "", frozenset(), "style", (), measure_picture(p, [], None, None, None, hand_eye())
        )
        for i, p in enumerate(row.pictures)
    ]
    style = StyleHome(
        "style", "Style", tuple(m.signature for m in home), (1.0,) * len(home), tuple(m.hand for m in home)
    )
    result = check(shots, [style], [])
    state = result.threads["style"]
    other = [i in row.slips or (row.begins is not None and i >= row.begins) for i in range(len(shots))]
    begins = int(state.begins[1:]) if state.begins else None
    hits = sum(any(f.shot == f"s{i}" for f in result.findings) for i in row.slips)
    return {
        "distance": [p.distance for p in state.style],
        "other": other,
        "begins": begins,
        "truth": row.begins,
        "kinds": [f.kind for f in result.findings],
        "hits": hits,
    }


def stories_at_two_places(last: bool, count: int = 24) -> None:
    """Pictures of two places, with two references, one, and none: what is told of right ones, and of those that show another place."""
    for references in (2, 1, 0):
        jobs = [((900 if last else 800) + k, references, last) for k in range(count)]
        said: dict[str, Counter[str]] = defaultdict(Counter)
        for seen in [s for own in side_by_side(_at_two_places, jobs) for s in own]:
            said[seen.shows][seen.told] += 1
        for shows, told in sorted(said.items()):
            words = ", ".join(f"{w} {n}" for w, n in told.most_common())
            print(f"  {references} references, {shows}: {words}, of {told.total()}")


def _at_two_places(job: tuple[int, int, bool]) -> list[Seen]:
    return story_at_two_places(*job)


def where_they_stand(last: bool, each: int = 6) -> None:
    """Who is looked for in pictures with one to three figures, each alone: is the best box theirs, and are those who are not there
    left alone?"""
    jobs = [(s, (900 if last else 60) + k, last) for s in sources_of(last) for k in range(each)]
    told = [q for queries in side_by_side(_looked_for, jobs) for q in queries]
    here = [q for q in told if q["there"] and not q["hidden"]]
    for name, group in (
        ("in the reference's pose", [q for q in here if not q["posed"]]),
        ("in another pose or mood", [q for q in here if q["posed"]]),
        ("half hidden", [q for q in told if q["hidden"]]),
        *((kind, [q for q in here if q["kind"] == kind]) for kind in sorted({q["kind"] for q in here})),
    ):
        right, found, missed = (
            sum(map(rule, group))
            for rule in (
                lambda q: q["iou"] > 0.5,
                lambda q: q["iou"] > 0.5 and q["odds"] > FOUND,
                lambda q: q["odds"] < ABSENT,
            )
        )
        print(f"  there, {name}: best box right {right}, found so {found}, said to be absent {missed}, of {len(group)}")
    wrong = [q for q in told if q["odds"] > FOUND and not q["iou"] > 0.5]
    print(f"  false boxes: {len(wrong)} of {len(told)} queries")
    for name, alike in (("look-alike", True), ("other", False)):
        group = [q for q in told if not q["there"] and q["alike"] == alike]
        print(f"  absent, {name}: taken for there {sum(q['odds'] > FOUND for q in group)} of {len(group)}")
    for who, asked in (
        ("all of the picture together", [q for q in told if q["there"]]),
        ("they and one who is not there, weighed together", [w for q in told for w in q["beside"]]),
        ("each alone, with two others of the cast beside", [q["claimed"] for q in told]),
    ):
        seen, away = [q for q in asked if q["there"] and not q["hidden"]], [q for q in asked if not q["there"]]
        found = [q for q in asked if q["told"] == "found"]
        right = sum(q["told"] == "found" and q["told_iou"] > 0.5 for q in seen)
        print(
            f"  {who}: found so {right} of {len(seen)}, said to be absent {sum(q['told'] == 'absent' for q in seen)}; false boxes {sum(not q['told_iou'] > 0.5 for q in found)} "
            f"of {len(asked)} queries; of who is not there said so {sum(q['told'] == 'absent' for q in away)} of {len(away)}"
        )


def _looked_for(job: tuple[str, int, bool]) -> list[dict[str, Any]]:
    source, seed, last = job
    eye = figure_eye()
    assert eye
    try:
        shown = made([f for f in families(last) if f.source == source], seed)
    except ValueError:
        return []
    out = []
    every = seen_places(eye, shown.pixels, [sought(eye, [q.reference]) for q in shown.queries])
    here = [i for i, q in enumerate(shown.queries) if q.box is not None]
    together = _weighed(shown.queries, every, here)
    beside = [
        w
        for i, q in enumerate(shown.queries)
        if q.box is None
        for w in _weighed(shown.queries, every, [*here, i]).values()
    ]
    for i, (query, places) in enumerate(zip(shown.queries, every, strict=True)):
        out.append(
            {
                **together.get(i, {}),
                "beside": [] if i else beside,
                "claimed": _weighed(shown.queries, every, [i], [j for j in range(len(every)) if j != i][:2])[i],
                "there": query.box is not None,
                "alike": query.alike,
                "hidden": query.hidden,
                "posed": query.posed,
                "kind": query.kind,
                "iou": overlap(places[0].box, query.box) if places and query.box else 0.0,
                "odds": places[0].odds if places else -9.0,
            }
        )
    return out


def _weighed(
    queries: Sequence[Query], every: Sequence[Sequence[Place]], asked: Sequence[int], beside: Sequence[int] = ()
) -> dict[int, dict[str, Any]]:
    """What is said of some of the queries of a picture when they are weighed together, others beside them, by their index."""
    told = {}
    for x in settled({str(i): every[i] for i in asked}, beside={str(i): every[i] for i in beside}):
        query = queries[int(x.figure)]
        told[int(x.figure)] = {
            "there": query.box is not None,
            "hidden": query.hidden,
            "told": x.answer,
            "told_iou": overlap(x.box, query.box) if x.box is not None and query.box is not None else 0.0,
        }
    return told


def pages_of_panels(last: bool, each: int = 16) -> None:
    """Panels at an overlap of 0.8, and upright pages that were turned."""
    jobs = [(kind, (8000 if last else 6000) + k, last) for kind in pages.KINDS for k in range(each)]
    told = side_by_side(_paged, jobs)
    for kind in pages.KINDS:
        _told_of_panels(kind, [t for t, job in zip(told, jobs, strict=True) if job[0] == kind])
    _told_of_panels("all", told)
    upright = [t for t in told if t[3] is not None]
    print(f"  upright pages turned by a degree or more: {sum(t[3] > 1 for t in upright)} of {len(upright)}")


def _told_of_panels(name: str, told: Sequence[tuple[int, int, int, float | None]]) -> None:
    hits, false, missed = (sum(t[i] for t in told) for i in range(3))
    print(
        f"  {name}: F1 {2 * hits / max(1, 2 * hits + false + missed):.3f}, {hits} right, {false} false, {missed} missed"
    )


def _paged(job: tuple[pages.PageKind, int, bool]) -> tuple[int, int, int, float | None]:
    kind, seed, last = job
    source = SOURCES[seed % len(SOURCES)]
    made_page = pages.page(kind, [f for f in families(last) if f.source == source], seed)
    upright = straightened(made_page.photo)
    turned = None
    if made_page.upright:
        turned = abs(float(np.degrees(np.arctan2(upright.to_page[1, 0], upright.to_page[0, 0]))))
    return (*panels_judged(made_page, panels(upright.pixels), upright.to_page), turned)


def clips_of_figures(last: bool, each: int = 6) -> None:
    """Clips of figures that walk, turn and talk: what is told of clean ones, and of those in which something slips; how many frames off its beginning is told."""
    sources = sources_of(last)
    jobs = [
        (sources[k % len(sources)], kind, (40_000 if last else 30_000) + 100 * n + k, last)
        for n, kind in enumerate((*filmed.CLEAN, *filmed.FAULTS))
        for k in range(each)
    ]
    told: dict[str, list[_Clip]] = defaultdict(list)
    for job, out in zip(jobs, side_by_side(_filmed, jobs), strict=True):
        told[job[1]].append(out)
    for kind, own in told.items():
        said = Counter(word for clip in own for word in clip[0])
        off = [o for clip in own for o in clip[1]]
        within = f"; the beginning within {np.median(off):.0f} frames (middle), {max(off)} at most" if off else ""
        print(
            f"  {kind}: {', '.join(f'{w} {n}' for w, n in said.most_common()) or 'nothing told'}, of {len(own)}{within}"
        )
    clean = [clip for kind in filmed.CLEAN for clip in told[kind]]
    print(f"  {len(clean)} clean clips, {sum(not clip[0] for clip in clean)} silent")


_Clip = tuple[list[str], list[int]]


def _filmed(job: tuple[str, str, int, bool]) -> _Clip:
    """What is told of a clip, and by how many frames the beginning of a fault is off."""
    source, kind, seed, last = job
    clip = filmed.filmed([f for f in families(last) if f.source == source], kind, seed)
    first = clip.boxes[0]
    assert first
    box = first.grown(0.03).inside(*filmed.SIZE).scaled(READ_SIDE / filmed.SIZE[0])
    read = read_clip(iter(filmed.read_frames(clip)), {"a": box}, None, Eyes(figure_eye(), hand_eye()))
    words = [t.kind for t in (*read.figures, read.style) if t.begins is not None]
    words += ["flicker"] if len(read.flicker) >= 3 else []
    meant = read.figures[0] if kind in ("part", "somebody else") else read.style
    return words, [abs(meant.begins - clip.begins)] if clip.fault and meant.begins is not None else []


def edits_of_pictures(last: bool, count: int = 120) -> None:
    """Two drawn figures before a wallpaper, an area of it painted anew: is something else that changed outside told from what is harmless?"""
    told = [t for t in side_by_side(_edited, [(2 * k + last, last) for k in range(count)]) if t is not None]
    changed, clean = ([t for t in told if t[0] is is_changed] for is_changed in (True, False))
    print(f"  ROC AUC {auc([t[1] for t in told], [t[0] for t in told]):.4f} of {len(told)} pairs")
    print(
        f"  found at its place {sum(t[2] for t in changed)} of {len(changed)}; false {sum(t[3] for t in clean)} of {len(clean)}"
    )


def _edited(job: tuple[int, bool]) -> tuple[bool, float, bool, bool] | None:
    """Whether something outside changed, how strong it is told, whether it is found, and whether anything is told; None where there was no room for a change."""
    seed, last = job
    members = [f for f in families(last) if f.source in SOURCES]

    def drawn(rng: np.random.Generator) -> Rgb:
        figures: list[Standing] = []
        while len(figures) < 2:
            family = members[int(rng.integers(len(members)))]
            shown = readable(family.pictures[int(rng.integers(len(family.pictures)))])
            if shown is not None:
                figures.append(Standing(shown, 0.3 + 0.4 * len(figures), 0.92, float(rng.uniform(0.4, 0.75))))
        places = grounds()
        return scene(cut_of(places[int(rng.integers(len(places)))], rng), figures)[0]

    try:
        made_pair = pair(seed, drawn)
    except ValueError:
        return None
    seen = proof(made_pair.before, made_pair.after, made_pair.mask)
    where = made_pair.where
    found = where is not None and is_found(tuple(p.box for p in seen.places), where)
    return where is not None, seen.strength, found, seen.changed
