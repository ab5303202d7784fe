"""Files in for the plan in time: lengths and order from a timeline, words from captions."""

from __future__ import annotations

import re
import tempfile
from collections.abc import Sequence
from pathlib import Path

from juxtaform.core.run.timeline import SHORTEST_S, TimedShot, Timeline
from juxtaform.core.text.voices import as_said
from juxtaform.formats.out.captions import CaptionsWrong, Cue, read_captions
from juxtaform.formats.out.timeline import Laid, TimelineWrong, read_timeline
from juxtaform.records.models import Project, Scene, Shot
from juxtaform.studio import plan
from juxtaform.studio.storytext import text_of, words_of
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found, of_project

_NUMBER = re.compile(r"\s*(\d{1,5})\b")


def timeline_in(ws: Workspace, project_id: str, data: bytes) -> Changed:
    """Take lengths and order from an OpenTimelineIO file; shots that it does not name stay behind the one before them. Raises NotPossible."""
    with tempfile.NamedTemporaryFile(suffix=".otio") as file:
        file.write(data)
        file.flush()
        try:
            laid = read_timeline(Path(file.name))
        except TimelineWrong as error:
            raise NotPossible(str(error)) from error
    with ws.writing(project_id, "took lengths and order from a timeline") as w:
        found(w.session, Project, project_id)
        shots = plan.in_order(w.session, project_id)
        matched = _matched(laid, shots)
        if not matched:
            raise NotPossible(
                "No clip of the timeline goes with a shot: clips are known by our mark in them, or by the number their name begins with."
            )
        lengths: dict[str, float] = {}
        for shot, clip in matched:  # a shot that was cut in two is as long as both
            lengths[shot.id] = lengths.get(shot.id, clip.over_s) + clip.length_s
        trimmed = 0
        for shot in shots:
            wanted = max(SHORTEST_S, round(lengths.get(shot.id, shot.length_s), 3))
            if abs(wanted - shot.length_s) > 1e-3:
                shot.length_s = min(3600.0, wanted)
                trimmed += 1
        order = _reordered(shots, list(dict.fromkeys(s.id for s, _ in matched)))
        moved = order != [x.id for x in shots]
        if moved:
            _put_in_order(order, shots, {x.id: x for x in of_project(w.session, Scene, project_id)})
        told = f"{trimmed} {'length' if trimmed == 1 else 'lengths'}{' and the order' if moved else ''}"
        w.name(f"took {told} from a timeline")
    return w.changed


def captions_in(ws: Workspace, project_id: str, data: bytes) -> Changed:
    """Take words from a WebVTT or SRT file: each caption goes to the shot in whose time its middle lies. Raises NotPossible."""
    try:
        cues = read_captions(data)
    except CaptionsWrong as error:
        raise NotPossible(str(error)) from error
    with ws.writing(project_id, "took words from captions") as w:
        project = found(w.session, Project, project_id)
        shots = plan.in_order(w.session, project_id)
        if not shots:
            raise NotPossible("There is no shot yet. Plan one on the Sheet first.")
        text = text_of(w.session, project_id)
        voicing = plan.voicing_of(project, text)
        changed = 0
        # Proposed shots are in no file that goes out, and take no time in one that comes back.
        for shot, words in _spoken(cues, [x for x in shots if x.status != "proposed"] or shots):
            if as_said(words) != as_said(words_of(shot, text, voicing)):
                shot.spoken = words
                changed += 1
        w.name(f"took the words of {changed} {'shot' if changed == 1 else 'shots'} from captions")
    return w.changed


def _matched(laid: Sequence[Laid], shots: Sequence[Shot]) -> list[tuple[Shot, Laid]]:
    """Each clip with its shot: by our mark, else by the number that its name begins with."""
    by_id = {x.id: x for x in shots}
    found_pairs = []
    for clip in laid:
        shot = by_id.get(clip.shot or "")
        if shot is None and (said := _NUMBER.match(clip.name)):
            number = int(said.group(1))
            shot = shots[number - 1] if 1 <= number <= len(shots) else None
        if shot is not None:
            found_pairs.append((shot, clip))
    return found_pairs


def _reordered(shots: Sequence[Shot], named: Sequence[str]) -> list[str]:
    """All shots in a new order: those that are named as they are named, each other one behind the shot that it stood behind."""
    chosen = set(named)
    followers: dict[str, list[str]] = {"": []}
    last = ""
    for shot in shots:
        if shot.id in chosen:
            last = shot.id
            followers.setdefault(last, [])
        else:
            followers[last].append(shot.id)
    return [*followers[""], *(i for n in named for i in (n, *followers.get(n, [])))]


def _put_in_order(order: Sequence[str], shots: Sequence[Shot], scenes: dict[str, Scene]) -> None:
    """Give shots the places of an order. A scene stays together: a shot that comes when its scene is over goes into the one that it stands in."""
    by_id = {x.id: x for x in shots}
    begun: list[str] = []
    for place, shot_id in enumerate(order):
        shot = by_id[shot_id]
        if shot.scene_id not in begun:
            begun.append(shot.scene_id)
        elif shot.scene_id != begun[-1]:
            shot.scene_id = begun[-1]
        shot.position = float(place)
    empty = [i for i in sorted(scenes, key=lambda i: scenes[i].position) if i not in begun]
    for place, scene_id in enumerate([*begun, *empty]):
        if scenes[scene_id].position != float(place):
            scenes[scene_id].position = float(place)


def _spoken(cues: Sequence[Cue], shots: Sequence[Shot]) -> list[tuple[Shot, str]]:
    """The words of the shots in whose time captions lie."""
    line = Timeline([TimedShot(x.id, x.scene_id, x.length_s) for x in shots])
    by_id = {x.id: x for x in shots}
    said: dict[str, list[str]] = {}
    for cue in cues:
        seen = line.at((cue.start_s + cue.end_s) / 2)
        if seen:
            said.setdefault(seen[-1].shot, []).append(cue.words)
    return [(by_id[i], " ".join(words)) for i, words in said.items()]
