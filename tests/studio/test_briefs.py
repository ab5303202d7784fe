"""Briefs over real rows: composed, edited, mended, compared, handed over; and references replaced halfway."""

import io
import json
import zipfile

import pytest
from PIL import Image

from juxtaform.studio import briefs, fitness, handover, mending, plan, projects, takes, threads, versions
from juxtaform.studio.findings import Findings, let_stand
from juxtaform.studio.workspace import NotPossible, NotThere
from tests.conftest import flat, plan_from, rows

TEXT = "# The quay\n\nPell sat on the step.\n\nOda counted the boats.\n\n# The cave\n\nPell opened the door."


class Told:
    """A project with two characters, two settings and a style over three shots, with pictures."""

    def __init__(self, ws):
        self.look = Findings(ws)
        self.ws, self.project = ws, projects.make(ws, "Briefs")
        plan_from(ws, self.project, TEXT)
        self.shots = [s["id"] for s in rows(ws, self.project, "shot")]
        made = {}
        for kind, name in (
            ("character", "Pell"),
            ("character", "Oda"),
            ("setting", "Quay"),
            ("setting", "Cave"),
            ("style", "Paper"),
        ):
            threads.make(ws, self.project, kind, name)
        for t in rows(ws, self.project, "thread"):
            made[t["name"]] = t["id"]
        self.ids = made
        threads.edit(
            ws,
            self.project,
            made["Pell"],
            {
                "wording": "Pell, a girl: mustard coat.",
                "costumes": [
                    {"name": "night-shirt", "wording": "A white night-shirt.", "time": "", "weather": "", "damage": ""}
                ],
            },
            None,
        )
        threads.edit(
            ws, self.project, made["Paper"], {"vocabulary": ["cut-paper", "flat"], "donts": ["lettering"]}, None
        )
        for i, (name, shots) in enumerate(
            (("Pell", (0, 2)), ("Oda", (1,)), ("Quay", (0, 1)), ("Cave", (2,)), ("Paper", (0, 1, 2)))
        ):
            sha = str(takes.take_in(ws, f"{name}.png", flat((40 * i, 90, 120))).sha)
            threads.add_references(ws, self.project, made[name], [(sha, "front")], "")
            threads.assign(ws, self.project, made[name], [self.shots[k] for k in shots], on=True)
        self.references = {r["thread_id"]: r["id"] for r in rows(ws, self.project, "reference")}
        for i, shows in enumerate(("Pell sits on the step.", "Oda counts the boats.", "Pell opens the door.")):
            plan.edit_shot(ws, self.project, self.shots[i], {"shows": shows}, None)

    def shows(self, i, words):
        plan.edit_shot(self.ws, self.project, self.shots[i], {"shows": words}, None)

    def brief(self, i, profile=None):
        return self.look.brief(self.project, self.shots[i], profile)

    def concern(self, i, kind):
        return next((f for f in self.brief(i).findings if f.kind == kind), None)

    def stood(self, finding):
        return finding.key in let_stand(self.ws, self.project)

    def mend(self, i, rule):
        return mending.mend(self.ws, self.project, self.shots[i], self.concern(i, rule).key)


@pytest.fixture
def told(ws):
    return Told(ws)


def test_a_brief_is_composed_from_the_plan_and_follows_it(told, ws):
    text = told.brief(0).text
    assert text.splitlines()[:2] == [
        "Pell sits on the step. One figure is to be seen: Pell.",
        "Pell, a girl: mustard coat. Pell looks the same as in picture 1.",
    ]
    assert "Oda" not in text
    threads.edit(ws, told.project, told.ids["Pell"], {"wording": "Pell, a girl: a red coat."}, None)
    assert "a red coat" in told.brief(0).text
    threads.set_beads(ws, told.project, told.ids["Pell"], [told.shots[0]], {"costume": "night-shirt", "hold": "face"})
    assert "Pell wears a white night-shirt. The face is the one in picture 1" in told.brief(0).text


def test_a_project_default_gives_style_aspect_donts_and_seed(told, ws):
    threads.assign(ws, told.project, told.ids["Paper"], told.shots, on=False)
    assert "cut-paper" not in told.brief(0).text
    projects.edit(
        ws,
        told.project,
        {"style_id": told.ids["Paper"], "aspect": "3:2", "donts": ["frames"], "seed_rule": "per shot", "seed": 100},
        None,
    )
    assert "The look is cut-paper and flat." in told.brief(1).text
    assert told.brief(1).text.splitlines()[-2:] == ["No frames, no lettering.", "Picture 3:2, seed 102."]
    plan.edit_shot(ws, told.project, told.shots[1], {"seed": 7, "aspect": "1:1"}, None)
    assert told.brief(1).text.endswith("Picture 1:1, seed 7.")
    assert told.concern(1, "aspect") is not None


def test_who_is_named_is_attached_on_one_key_and_undo_takes_it_back(told, ws):
    told.shows(0, "Pell and Oda sit on the step.")
    assert told.mend(0, "named_not_attached").label == "attach Oda, shot 1"
    assert told.concern(0, "named_not_attached") is None
    assert "Oda looks the same as in picture 2." in told.brief(0).text.splitlines()[1]
    projects.undo(ws, told.project)
    assert told.concern(0, "named_not_attached") is not None


def test_a_reference_that_cannot_serve_is_told_without_opening_its_sheet(told, ws):
    small = told.concern(0, "unfit_reference")
    assert small is not None
    assert small.thread in (told.ids["Pell"], told.ids["Quay"], told.ids["Paper"])
    tiny = str(takes.take_in(ws, "tiny.png", flat((10, 20, 30), size=(24, 24))).sha)
    versions.replace_reference(ws, told.project, told.references[told.ids["Pell"]], tiny, "tiny", None)
    newest = next(r["id"] for r in rows(ws, told.project, "reference") if r["picture_sha"] == tiny)
    fits = {f.reference_id: f.faults for f in fitness.of_thread(ws, told.project, told.ids["Pell"])}
    assert fits[newest]


def test_mends_clear_cut_move_change_costume_and_setting(told, ws):
    threads.assign(ws, told.project, told.ids["Oda"], [told.shots[0]], on=True)
    told.mend(0, "attached_not_named")
    assert told.concern(0, "attached_not_named") is None
    told.shows(0, "Pell on a plain white background, smiling.")
    told.mend(0, "leftover")
    assert told.brief(0).text.startswith("Pell, smiling.")
    told.shows(2, "Pell runs across the quay.")
    told.mend(2, "motion")
    assert (
        rows(ws, told.project, "shot")[2]["motion"] == ""
        or "Runs across" in rows(ws, told.project, "shot")[2]["motion"]
    )
    told.shows(2, "Pell in her night-shirt.")
    told.mend(2, "fights_reference")
    assert "Pell wears a white night-shirt." in told.brief(2).text
    told.shows(2, "Pell on the quay.")
    told.mend(2, "fights_reference")
    assert "the quay" in told.brief(2).text
    assert "Cave" not in told.brief(2).text


def test_a_concern_that_was_let_stand_stays_so_until_its_words_change(told, ws):
    told.shows(0, "Pell and Oda sit on the step.")
    key = told.concern(0, "named_not_attached").key
    told.look.stet(told.project, key, "Oda is a shadow")
    assert told.stood(told.concern(0, "named_not_attached"))
    told.shows(0, "Pell and old Oda sit on the step.")
    assert told.stood(told.concern(0, "named_not_attached"))
    told.shows(0, "Pell sits on the step.")
    assert told.concern(0, "named_not_attached") is None


def test_hand_edits_lie_on_top_and_can_be_taken_back(told, ws):
    key = f"cast:{told.ids['Pell']}"
    mending.edit_phrase(ws, told.project, told.shots[0], key, "Pell, wet to the bone.")
    mending.edit_phrase(ws, told.project, told.shots[0], "extra", "Gulls above.")
    assert told.brief(0).text.startswith(
        "Pell sits on the step. Gulls above. One figure is to be seen: Pell.\nPell, wet to the bone."
    )
    threads.edit(ws, told.project, told.ids["Pell"], {"wording": "Pell, a girl: a red coat."}, None)
    phrase = next(p for p in told.brief(0).whole.phrases if p.key == key)
    assert phrase.outdated
    assert "wet to the bone" in told.brief(0).text
    assert "a red coat" in told.brief(2).text
    mending.edit_phrase(ws, told.project, told.shots[0], key, None)
    assert "a red coat" in told.brief(0).text
    mending.edit_phrase(ws, told.project, told.shots[0], "action", "Pell stands.")
    assert rows(ws, told.project, "shot")[0]["shows"] == "Pell stands."


def test_briefs_are_compared_with_the_shot_before_the_last_sent_and_another(told, ws):
    gone = "".join(p.words for p in briefs.compared(ws, told.project, told.shots[1], "before") if p.kind == "gone")
    assert "mustard coat" in gone
    with pytest.raises(NotThere, match="first shot"):
        briefs.compared(ws, told.project, told.shots[0], "before")
    with pytest.raises(NotThere, match="No brief of this shot has left"):
        briefs.compared(ws, told.project, told.shots[0], "sent")
    handover.remember(ws, told.project, [told.shots[0]], None)
    told.shows(0, "Pell sits on the top step.")
    pieces = briefs.compared(ws, told.project, told.shots[0], "sent")
    assert [p.words.strip() for p in pieces if p.kind == "new"] == ["top"]
    assert briefs.compared(ws, told.project, told.shots[0], told.shots[2])


def test_one_phrase_is_changed_from_a_take(told, ws):
    sha = str(takes.take_in(ws, "a.png", flat((9, 9, 9))).sha)
    takes.accept(ws, told.project, [("a.png", sha, told.shots[0])])
    take = rows(ws, told.project, "take")[0]
    told.shows(0, "Something else entirely.")
    threads.edit(ws, told.project, told.ids["Pell"], {"wording": "Pell, a girl: a red coat."}, None)
    mending.vary(ws, told.project, take["id"], "framing", "Close-up, low angle.")
    text = told.brief(0).text
    assert text.startswith("Pell sits on the step. One figure is to be seen: Pell.\nPell, a girl: mustard coat.")
    assert "Close-up, low angle." in text


def test_briefs_leave_as_markdown_csv_json_and_numbered_folders(told, ws):
    told.shows(0, "Pell, “quoted”; sits\non the step.")
    assert b"## Shot 2" in handover.file(ws, told.project, "md", None, None).data
    csv_text = handover.file(ws, told.project, "csv", None, None).data.decode()
    assert csv_text.count("\r\n") == 4
    data = json.loads(handover.file(ws, told.project, "json", None, [told.shots[2]]).data)
    assert [b["shot"] for b in data["briefs"]] == ["3"]
    assert {p["kind"] for p in data["briefs"][0]["phrases"]} >= {
        "action",
        "cast",
        "setting",
        "style",
        "framing",
        "dont",
    }
    zipped = handover.file(ws, told.project, "zip", None, None).data
    assert zipped == handover.file(ws, told.project, "zip", None, None).data
    names = zipfile.ZipFile(io.BytesIO(zipped)).namelist()
    assert {"briefs.json", "001/brief.txt", "001/1-pell-front.png", "001/2-quay-front.png", "003/brief.txt"} <= set(
        names
    )


def test_a_profile_fits_words_and_pictures_and_lays_views_out_as_a_plate(told, ws):
    projects.edit(
        ws,
        told.project,
        {
            "profiles": [
                {
                    "name": "Tiny",
                    "text_limit": 30,
                    "picture_limit": 1,
                    "picture_side_px": 32,
                    "holds": [],
                    "aspects": [],
                    "plate": False,
                }
            ],
            "profile": "Tiny",
        },
        None,
    )
    cut = told.brief(0)
    assert len(cut.text) <= 30
    assert cut.text.startswith("Pell sits on the step.")
    assert len(cut.fitted.brief.pictures) == 1
    assert told.concern(0, "over_limits") is not None
    zipped = zipfile.ZipFile(io.BytesIO(handover.file(ws, told.project, "zip", "One plate", None).data))
    plate = Image.open(io.BytesIO(zipped.read("001/1-plate.png")))
    assert max(plate.size) == pytest.approx(1536, abs=4)
    small = zipfile.ZipFile(io.BytesIO(handover.file(ws, told.project, "zip", None, None).data))
    assert max(Image.open(io.BytesIO(small.read("001/1-pell-front.png"))).size) == 32


def test_a_reference_replaced_halfway_makes_stale_what_was_made_from_the_old_one(told, ws):
    for i in range(3):
        sha = str(takes.take_in(ws, f"{i}.png", flat((10 + i, 0, 0))).sha)
        takes.accept(ws, told.project, [(f"{i}.png", sha, told.shots[i])])
    old = told.references[told.ids["Pell"]]
    assert versions.would_be_stale(ws, told.project, old, None) == [told.shots[0], told.shots[2]]
    assert versions.would_be_stale(ws, told.project, old, told.shots[1]) == [told.shots[2]]
    fresh = str(takes.take_in(ws, "new.png", flat((200, 200, 0))).sha)
    label = versions.replace_reference(ws, told.project, old, fresh, "new", told.shots[1]).label
    assert label == "replaced Pell, front, from shot 2 on"
    stale = told.look.of(told.project, "take")
    assert [(f.shot, f.thread, told.stood(f)) for f in stale] == [(told.shots[2], told.ids["Pell"], False)]
    first, third = (told.brief(i).whole.pictures[0].sha for i in (0, 2))
    assert first != third == fresh
    told.look.stet(told.project, stale[0].key, "It is good as it is")
    assert told.stood(told.look.of(told.project, "take")[0])
    sha = str(takes.take_in(ws, "retake.png", flat((0, 99, 0))).sha)
    takes.replace_picture(ws, told.project, told.shots[2], "retake.png", sha)
    assert told.look.of(told.project, "take") == []
    same = next(r["picture_sha"] for r in rows(ws, told.project, "reference") if r["id"] == old)
    with pytest.raises(NotPossible, match="same picture"):
        versions.replace_reference(ws, told.project, old, same, "", None)


def test_a_version_holds_from_the_next_shot_when_its_first_shot_is_deleted(told, ws):
    fresh = str(takes.take_in(ws, "new.png", flat((200, 200, 0))).sha)
    versions.replace_reference(ws, told.project, told.references[told.ids["Pell"]], fresh, "new", told.shots[1])
    plan.delete_shots(ws, told.project, [told.shots[1]])
    assert told.brief(0).whole.pictures[0].sha != fresh
    assert next(r for r in rows(ws, told.project, "reference") if r["replaces_id"])["from_shot_id"] == told.shots[2]


def test_a_pinned_view_that_was_replaced_is_told_and_the_newest_put_on_one_key(told, ws):
    old = told.references[told.ids["Pell"]]
    threads.set_beads(ws, told.project, told.ids["Pell"], [told.shots[0]], {"reference_id": old})
    fresh = str(takes.take_in(ws, "new.png", flat((200, 200, 0))).sha)
    versions.replace_reference(ws, told.project, old, fresh, "new", None)
    told.mend(0, "stale_reference")
    assert told.concern(0, "stale_reference") is None
