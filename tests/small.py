"""A small project with one of everything, and what stands for each parameter of a path."""

import io

import numpy as np
from PIL import Image

from juxtaform.core.picture.regions import Box
from juxtaform.records.models import Delivery, Duel, ServiceState, Take, new_id
from juxtaform.records.showings import ShowingNote
from juxtaform.services.shapes import ServiceSaid
from juxtaform.studio import (
    areas,
    bridges,
    fault_marks,
    library,
    plan,
    projects,
    services,
    showings,
    sounds,
    story_frame,
    takes,
    threads,
    trials,
)
from juxtaform.studio.findings import Findings
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.trials import Axis, TrialOrder
from tests.conftest import flat, plan_from, png, rows
from tests.constructed_clips import flip
from tests.constructed_sounds import voice, wav


class Small:
    """A small project with one of everything, and what stands for each parameter of a path."""

    def __init__(self, ws) -> None:
        p = self.project = projects.make(ws, "Small")
        plan_from(ws, p, "# One\nPell sat on the step.\n\n# Two\nPell left the step. Oda came in, and Oda laughed.")
        named = (("character", "Pell"), ("style", "Paper"), ("setting", "Harbour steps"))
        thread, style, place = (threads.make(ws, p, *of).rows["thread"][0]["id"] for of in named)
        shot, later = (s["id"] for s in rows(ws, p, "shot")[:2])
        plan.edit_shot(ws, p, shot, {"shows": "Pell on a plain white background, smiling."}, None)
        threads.assign(ws, p, place, [shot], on=True)
        threads.assign(ws, p, thread, [shot], on=True)
        self.sha, self.other = (str(takes.take_in(ws, "a.png", flat((10, 80, i))).sha) for i in (120, 121))
        for sha in (self.sha, self.other):
            library.seen(ws, p, sha, "a.png")
        reference = threads.add_references(ws, p, thread, [(self.sha, "front")], "").rows["reference"][0]["id"]
        threads.add_trait(ws, p, reference, "Coat", "outfit", Box(4, 4, 20, 20), ["#102030"])
        take = takes.accept(ws, p, [("a.png", self.sha, shot)]).rows["take"][0]["id"]
        takes.mark(ws, p, take, thread, Box(4, 4, 20, 20))
        fault_marks.add(ws, p, take, "hand", Box(4, 4, 20, 20))
        service = services.add(ws, p, "Nobody", "http://127.0.0.1:9").rows["service"][0]["id"]
        with ws.database.session() as s:
            state = s.get(ServiceState, service)
            assert state is not None
            state.can = ServiceSaid.model_validate(ABILITIES).model_dump_json()
            row = s.get(Take, take)
            assert row is not None
            row.made_from = {**row.made_from, "made": {**MADE, "job_id": "a" * 32, "service_id": state.service_id}}
        weights = Axis("weight", thread, ("40", "90"))
        trials.start(ws, p, TrialOrder(shot, (weights,), 1, service))
        for _ in range(2):
            story_frame.add_beat(ws, p, None)
        told = [f for f in Findings(ws).of(p, "brief") if f.shot == shot]
        self.concern = next(f.key for f in told if f.mend)
        Findings(ws).stet(p, told[0].key, "meant")
        projects.edit(ws, p, {"book": {"cover_shot_id": shot}}, None)
        _, shown_by = showings.make(ws, p, "To Ines", "", 14)  # of no sounds yet: nothing is mixed
        for heard, new in (
            (VOICE, NewSound(shot, "Said", "voice", "Pell sat on the step.")),
            (TONE, NewSound(shot, "Loud", "music")),
            (TONE, NewSound(shot, "Louder", "music")),
        ):
            sounds.add(ws, p, heard, new)
        self.bridge = bridges.proposed(Findings(ws), ws, p)[0].key
        with ws.writing(p, "chose a picture") as w:
            for _ in range(12):
                w.add(Duel(project_id=p, left_sha=self.sha, right_sha=self.other, chosen="left"))
        self.picture = library.search(ws, p, library.Search()).items[0].id
        self.change = projects.history(ws, p)[3].id
        made = projects.snapshot(ws, p).rows
        self.text_revision = made["project"][0]["text_revision"]
        self.sound_sha = made["sound"][0]["sound_sha"]
        delivery = Delivery(id=new_id(), project_id=p, kind="captions", options={}, state="done", name="a.vtt")
        (ws.store.root.parent / "deliveries" / delivery.id).mkdir(parents=True)
        (ws.store.root.parent / "deliveries" / delivery.id / "a.vtt").write_text("WEBVTT")
        with ws.database.session() as s:
            s.add(delivery)
            s.flush()
            self.delivery = delivery.id
        with ws.database.session() as s:
            said = ShowingNote(
                project_id=p, showing_id=shown_by.id, edition=1, shot_id=shot, name="Ines", words="Her boots!"
            )
            s.add(said)
            s.flush()
            self.note = said.id
        first = {t: table[0]["id"] for t, table in made.items() if table}
        self.ids = {
            "project_id": p,
            "thread_id": thread,
            "shot_id": shot,
            "reference_id": reference,
            "take_id": take,
            "trait_id": first["trait"],
            "scene_id": first["scene"],
            "style_id": style,
            "shot_ids": [shot],
            "take_ids": [take],
            "beat_id": first["beat"],
            "thread_ids": [thread, style],
            "first_shot_id": shot,
            "sha": self.sha,
            "mark_id": first["mark"],
            "stet_id": first["stet"],
            "service_id": first["service"],
            "fault_mark_id": first["fault_mark"],
            "trial_id": first["trial"],
            "sound_id": next(r["id"] for r in made["sound"] if r["kind"] == "voice"),
            "until_shot_id": later,
            "cover_shot_id": shot,
            "change_id": self.change,
            "delivery_id": self.delivery,
            "showing_id": shown_by.id,
            "note_id": self.note,
            "sketch_sha": self.sha,
            "after_shot_id": shot,
            "from_shot_id": later,
            "owner_id": place,
            "later": later,
            "place": place,
            "left_sha": self.sha,
            "form": "md",
        }

    def of_another_kind(self, ws, path):
        """The ids for routes of edits, grown takes and clips: such a take stands in the place of the plain one."""
        p, take, shot = (self.ids[k] for k in ("project_id", "take_id", "shot_id"))
        changed = None
        if " /sounds/" in path:
            return {**self.ids, "sha": self.sound_sha}
        if path.endswith(("/proof", "/proof/map", "/only")):
            sha = str(takes.take_in(ws, "edit.png", flat((14, 80, 120))).sha)
            changed = areas.bring(ws, p, take, sha, "edit.png", areas.as_area(AREA))
        elif path.endswith("/growth") and "get" in path:
            pixels = np.asarray(Image.open(io.BytesIO(flat((10, 80, 120)))))
            sha = str(
                takes.take_in(ws, "grown.png", png(np.pad(pixels, ((0, 0), (32, 32), (0, 0)), mode="reflect"))).sha
            )
            changed = areas.bring(ws, p, take, sha, "grown.png", None)
        elif "/clips/" in path or path.endswith(("get /projects/{project_id}/takes/{take_id}/clip", "/trim", "/frame")):
            pages = [np.full((40, 60, 3), 20 * i + sum(map(ord, path)) % 97, np.uint8) for i in range(4)]
            sha = str(takes.take_in(ws, "clip.gif", flip(pages, "GIF")).sha)
            changed = takes.accept(ws, p, [("clip.gif", sha, shot)])
        if changed is None:
            return self.ids
        fresh = next(t for t in changed.rows["take"] if t["revision"] == 1)
        return {**self.ids, "take_id": fresh["id"], "sha": fresh["picture_sha"]}


VOICE, TONE = wav(voice([(0.2, 29.0)], 30.0)), wav(np.full(2 * 48_000, 0.8))
MADE = {"service": "Nobody", "model": "m", "quality": "draft", "seed": 4, "credits": 1.0}
ABILITIES = {
    "name": "Nobody",
    "version": 1,
    "jobs_at_once": 1,
    "models": [
        {
            "id": "m",
            "name": "M",
            "kinds": ["picture", "edit", "extension", "clip"],
            "aspects": ["3:2"],
            "text_most": 900,
            "references_most": 4,
            "reference_side_most_px": 900,
            "pictures_most": 4,
            "seeds": True,
            "qualities": [
                {"id": "draft", "side_px": 64, "credits": 1.0},
                {"id": "final", "side_px": 128, "credits": 4.0},
            ],
        }
    ],
}
AREA = {"shapes": [{"kind": "box", "points": [[0.1, 0.1], [0.4, 0.5]]}], "feather": 0.01}
