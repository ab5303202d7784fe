"""Load the demo project into a workspace."""

from __future__ import annotations

from collections.abc import Callable

from juxtaform.core.picture.regions import Box
from juxtaform.core.plan.story_frame import CastMember, story_frame
from juxtaform.demo import pictures, sounds, story, thumbnails
from juxtaform.formats import prose
from juxtaform.records.models import Bead, Beat, Project, Scene, Shot, Thread
from juxtaform.studio import (
    library,
    modelsheets,
    plan,
    projects,
    sketches,
    sound_track,
    takes,
    taste,
    threads,
    versions,
)
from juxtaform.studio import sounds as use_sounds
from juxtaform.studio.findings import Findings
from juxtaform.studio.measuring import pool
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.storytext import first_parts, text_of
from juxtaform.studio.workspace import Workspace, Writing, found

Say = Callable[[str], None]


def load(ws: Workspace, say: Say = lambda _: None) -> str:
    """Draw the demo's pictures and write its project; returns the project's id."""
    say("Drawing the demo's pictures …")
    with pool() as executor:
        shots = list(executor.map(_page_png, range(len(pictures.PAGES))))
        references = list(executor.map(_reference_png, range(len(pictures.REFERENCES))))
    project = projects.make(ws, story.TITLE)
    with ws.writing(project, "made the demo project") as w:
        row = found(w.session, Project, project)
        row.target_s = story.TARGET_S
        w.add(*first_parts(project, story.TEXT))
        row.pace_factor = story.PACE
        row.premise, row.tone, row.shape = story.PREMISE, story.TONE, "three tries"
        row.frame_cast = [{"name": name, "line": line} for name, line in story.CAST]
        _frame(w, project)
        ids: dict[str, str] = {}
        for i, t in enumerate(story.THREADS):
            made = Thread(
                project_id=project,
                kind=t.kind,
                name=t.name,
                aliases=list(t.aliases),
                wording=t.wording,
                short_wording=t.short,
                must_keep=list(t.must_keep),
                costumes=[_worn(n, w) for n, w in t.costumes] + [_worn(*v) for v in t.variants],
                owner_id=ids.get(t.owner),
                vocabulary=list(t.vocabulary),
                donts=list(t.donts),
                position=float(i),
            )
            w.add(made)
            ids[t.key] = made.id
        row.aspect, row.style_id, row.seed_rule, row.seed = "3:2", ids["style"], "per shot", 400
        row.donts = ["printed borders"]
        row.profiles, row.profile = [story.SERVICE], str(story.SERVICE["name"])
        found(w.session, Thread, ids["style"]).kept_colours = [{"thread_id": ids["pell"], "hex": "#dba326"}]
        shot_ids = _plan(w, project, ids)
        row.book = {
            "imprint": story.IMPRINT,
            "dedication": story.DEDICATION,
            "front": ["title", "imprint"],
            "cover_shot_id": shot_ids[story.COVER - 1],
            "author": story.AUTHOR,
            "blurb": story.BLURB,
        }
    modelsheets.take_palette(ws, project, ids["style"], "cut-paper-dusk.gpl", story.PALETTE.encode())
    _references(ws, project, ids, references)
    files = [
        (f"tide-{i + 1:02d}.png", str(takes.take_in(ws, f"tide-{i + 1:02d}.png", data).sha))
        for i, data in enumerate(shots)
    ]
    takes.accept(ws, project, [(name, sha, shot_ids[i]) for i, (name, sha) in enumerate(files)])
    taken = {row["shot_id"]: row["id"] for row in projects.snapshot(ws, project).rows["take"]}
    for page, shot_id in zip(pictures.PAGES, shot_ids, strict=True):
        for thread, box in pictures.marks(page):
            takes.mark(ws, project, taken[shot_id], ids[thread], Box(*box))
    scribbled = sketches.look(ws, "thumbnails.png", pictures.png(thumbnails.page()), "page", "left to right")
    sketches.onto_shots(ws, project, scribbled.sha, scribbled.boxes, shot_ids)
    _in_time_and_on_paper(ws, project, shot_ids)
    _heard(ws, project, shot_ids)
    _settled(ws, project, ids)
    _newer_dawn(ws, project, ids["steps"], shot_ids[10])
    projects.forget_history(ws, project)
    return project


def _in_time_and_on_paper(ws: Workspace, project: str, shot_ids: list[str]) -> None:
    """How shots come after each other, which pictures bleed, and two surprises, of which one is given away."""
    for at, facts in story.IN_TIME.items():
        plan.edit_shot(ws, project, shot_ids[at - 1], facts, None)


def _heard(ws: Workspace, project: str, shot_ids: list[str]) -> None:
    """A scratch voice for the first eight shots, the sea on the steps, the whistle; one take clips, one line outruns its shot."""
    lines = {x.shot_id: x.lines for x in sound_track.track(ws, project).shots}
    for number, shot_id in enumerate(shot_ids[:8], 1):
        for place, line in enumerate(lines.get(shot_id, ())):
            pace, gain = story.VOICE.get(number, (1.12 * story.PACE, 1.0))
            for take, (slower, louder) in enumerate(((pace, gain),) if number != 3 else ((pace, 4.5), (pace, gain)), 1):
                data = sounds.wav(sounds.hummed(line.words, slower), louder)
                name = f"Shot {number}, take {take}"
                use_sounds.add(ws, project, data, NewSound(shot_id, name, "voice", line.words, place=place))
    tide = NewSound(shot_ids[0], "sea on the steps.wav", "effect", start_s=0.0, until_shot_id=shot_ids[2])
    dinner = NewSound(shot_ids[8], "the note that means dinner.wav", "effect", start_s=5.5)
    for data, new, facts in (
        (sounds.wav(sounds.sea(40.0)), tide, {"gain_db": -6.0, "fade_in_s": 2.0, "fade_out_s": 3.0}),
        (sounds.wav(sounds.whistle()), dinner, {}),
    ):
        made = use_sounds.add(ws, project, data, new).rows["sound"][0]
        if facts:
            use_sounds.edit(ws, project, made["id"], facts)


def _settled(ws: Workspace, project: str, ids: dict[str, str]) -> None:
    """What has been looked at already: the stripes are let stand, the library has a few tags, and some choices of taste."""
    findings = Findings(ws)
    stripes = next(f for f in findings.of(project, "brief") if f.kind == "pattern")
    findings.stet(project, stripes.key, "the stripes are on the reference, and hold by it")
    found_pictures = library.search(ws, project, library.Search()).items
    still_lifes = [p.id for p in found_pictures if any(u.id == ids["style"] for u in p.uses)]
    library.tag(ws, project, still_lifes, ["still life"], [])
    for _ in range(5):
        pair = taste.standing(ws, project, "still life")
        taste.choose(ws, project, pair.left or "", pair.right or "", "left")


def _worn(name: str, wording: str, time: str = "", light: str = "") -> dict[str, str]:
    return {"name": name, "wording": wording, "time": time, "weather": "", "damage": "", "light": light}


def _newer_dawn(ws: Workspace, project: str, thread: str, first_shot: str) -> None:
    """A reference replaced late: the pictures of the last two shots are stale."""
    old = next(
        r["id"]
        for r in projects.snapshot(ws, project).rows["reference"]
        if r["thread_id"] == thread and r["costume"] == "dawn"
    )
    fresh = str(takes.take_in(ws, "dawn, boats nearer.png", pictures.png(pictures.LATER_DAWN.draw())).sha)
    versions.replace_reference(ws, project, old, fresh, "dawn", first_shot)


def _frame(w: Writing, project: str) -> None:
    cast = [CastMember(name, line) for name, line in story.CAST]
    beats = story_frame(story.PREMISE, story.TONE, cast, "three tries")
    w.add(
        *(
            Beat(
                project_id=project,
                position=float(i),
                title=b.title,
                purpose=b.purpose,
                share=b.share,
                cast=list(b.cast),
                question=b.question,
                answer=answer,
            )
            for i, (b, answer) in enumerate(zip(beats, story.ANSWERS, strict=True))
        )
    )


def _plan(w: Writing, project: str, ids: dict[str, str]) -> list[str]:
    titles = [(p.words, p.start) for p in prose.read(story.TEXT).passages if p.kind == "scene"]
    scenes = [Scene(project_id=project, position=float(i), title=title) for i, (title, _) in enumerate(titles)]
    w.add(*scenes)
    text = text_of(w.session, project)
    shot_ids = []
    for i, facts in enumerate(story.SHOTS):
        after = titles[facts.scene][1]
        start = story.TEXT.index(facts.covers[0], after)
        end = story.TEXT.index(facts.covers[1], start) + len(facts.covers[1])
        shot = Shot(
            project_id=project,
            scene_id=scenes[facts.scene].id,
            position=float(i),
            shows=facts.shows,
            size=facts.size,
            angle=facts.angle,
            move=facts.move,
            length_s=facts.length_s,
            spoken=facts.spoken,
            speakers=[ids[k] for k in facts.speakers],
            motion=facts.motion,
            sound=facts.sound,
            music=facts.music,
            notes=facts.notes,
            move_start=list(facts.move_frames[0]) if facts.move_frames else None,
            move_end=list(facts.move_frames[1]) if facts.move_frames else None,
        )
        text.cover(shot, start, end)
        w.add(shot)
        setting, _, variant = facts.setting.partition(":")
        shot_ids.append(shot.id)
        w.add(
            *(
                Bead(
                    project_id=project,
                    shot_id=shot.id,
                    thread_id=ids[key],
                    costume=variant if key == setting else facts.costume if key == "pell" else "",
                    facing=dict(facts.facings).get(key, ""),
                    stands=dict(facts.stands).get(key),
                    weight={"whistle": 0.4, "key": 0.6, "style": 0.6}.get(key, 0.9 if key == "pell" else 0.75),
                )
                for key in (*facts.cast, setting, "style")
            )
        )
    return shot_ids


def _references(ws: Workspace, project: str, ids: dict[str, str], files: list[bytes]) -> None:
    made: dict[tuple[str, str], str] = {}
    for page, data in zip(pictures.REFERENCES, files, strict=True):
        sha = str(takes.take_in(ws, f"{page.thread}.png", data).sha)
        changed = threads.add_references(ws, project, ids[page.thread], [(sha, page.view)], page.costume)
        reference = changed.rows["reference"][0]
        made[page.thread, page.view] = reference["id"]
        if "front" in page.view:
            threads.edit_reference(ws, project, reference["id"], {"view": "front", "anchor": True}, None)
        if page.weight != 1.0:
            threads.edit_reference(ws, project, reference["id"], {"weight": page.weight}, None)
    for t in pictures.TRAITS:
        added = threads.add_trait(ws, project, made[t.thread, t.view], t.name, t.part, Box(*t.box), list(t.colours))
        if t.body is not None:
            place = {"body_x": t.body[0], "body_y": t.body[1]}
            threads.edit_trait(ws, project, added.rows["trait"][0]["id"], place, None)


def _page_png(i: int) -> bytes:
    return pictures.png(pictures.picture(pictures.PAGES[i]))


def _reference_png(i: int) -> bytes:
    return pictures.png(pictures.REFERENCES[i].draw())
