"""What is made of takes: measured as they come, grouped, made again, held against finals, rescued, tried, explained, and paid for."""

import csv
import io

import numpy as np
import pytest
from sqlalchemy import select, text

from juxtaform.core.check.measure import MEASURE_VERSION
from juxtaform.core.picture.regions import Box
from juxtaform.demo.made import all_made
from juxtaform.records.models import Measure, Take
from juxtaform.studio import (
    bundles,
    checking,
    contact_sheet,
    fault_causes,
    fault_marks,
    finals,
    jobs,
    ledger,
    making,
    plan,
    projects,
    remaking,
    rescuing,
    sequence,
    services,
    spotting,
    takes,
    threads,
    trials,
)
from juxtaform.studio.gauging import Gauge
from juxtaform.studio.making import Order
from juxtaform.studio.remaking import Remake
from juxtaform.studio.spotting import SpotStatus
from juxtaform.studio.trials import Axis, TrialOrder
from juxtaform.studio.workspace import NotPossible
from tests.conftest import png, row, rows
from tests.constructed import scene
from tests.services_at_work import queue_of, soon, understudy, with_ada, with_service


@pytest.fixture
def gauge(ws, checker):
    made = Gauge(ws, checker.workers)
    yield made
    made.close()


@pytest.fixture
def studio(ws, project, gauge):
    """A project with Ada in three shots, a quay, and an Understudy that never slips; takes are measured as they come."""
    with understudy() as (address, _), queue_of(ws, came=lambda p, t: gauge.want(p, [t])) as queue:
        shots = with_ada(ws, project)
        threads.make(ws, project, "setting", "Quay")
        quay = rows(ws, project, "thread")[-1]["id"]
        ground = takes.take_in(ws, "quay.png", png(scene([], np.random.default_rng(2), ground=5)[0])).sha
        threads.add_references(ws, project, quay, [(ground, "wide")], "")
        threads.assign(ws, project, quay, shots, on=True)
        yield Studio(ws, project, gauge, queue, shots, with_service(ws, project, address))


class Studio:
    def __init__(self, ws, project, gauge, queue, shots, service):
        self.ws, self.project, self.gauge, self.queue, self.shots, self.service = (
            ws,
            project,
            gauge,
            queue,
            shots,
            service,
        )
        self.ada = row(ws, project, "thread")["id"]

    def make(self, shots, count=2, **more):
        making.make(self.ws, self.project, Order(tuple(shots), count, self.service, as_it_is=True, **more))
        self.done()

    def done(self):
        self.queue.touched(self.project)
        ended = {"done", "failed", "refused", "cancelled"}
        soon(lambda: {j.state for j in jobs.queue(self.ws, self.project).jobs} <= ended, 90)

    def sheet(self, shot):
        """The shot's contact sheet once all of it is measured."""
        got = []

        def ready():
            got[:] = [contact_sheet.sheet(self.ws, self.gauge, self.project, shot)]
            return not got[0].waiting

        soon(ready, 120)
        return got[0]

    def takes(self, shot=None):
        told = [t for t in rows(self.ws, self.project, "take") if shot in (None, t["shot_id"])]
        return sorted(told, key=lambda t: t["position"])


def test_takes_are_measured_as_they_come_and_read_as_the_check_will(studio, checker):
    ws, project = studio.ws, studio.project
    studio.make(studio.shots[:1], 3)
    sheet = studio.sheet(studio.shots[0])
    assert len(sheet.readings) == 3
    assert sheet.message == ""
    assert {s.of for r in sheet.readings for s in r.figures} == {studio.ada}
    assert [g.title for g in sheet.groups] == ["From the brief"]
    first = studio.takes()[0]
    takes.pick(ws, project, first["id"])
    told = spotting.standings(ws, project, SpotStatus())
    boxes = [(t.take_id, f.figure, f.box) for t in told.takes for f in t.figures if f.box]
    spotting.confirm(ws, project, boxes)
    assert studio.sheet(studio.shots[0]).waiting == 0
    with ws.database.reading() as s:
        before = {*s.scalars(select(Measure.key))}
    checker.start(project)
    checker.wait(project, 120)
    with ws.database.reading() as s:
        [(_, [(reference, _)])] = sequence.load(s, ws.store, project).places
        new = {*s.scalars(select(Measure.key).where(Measure.version == MEASURE_VERSION))} - before
    # The place's reference at the most, if nobody measured it before; no take that was measured as it came.
    assert checking.status(ws, project).measured <= 1
    assert new <= {reference.key}


def test_a_take_is_made_again_with_one_phrase_changed_and_its_lineage_tells_what(studio):
    ws, project = studio.ws, studio.project
    studio.make(studio.shots[:1], 1)
    [first] = studio.takes()
    remaking.remake(ws, project, Remake(first["id"], 2, phrase=("action", "Ada waits on the quay at night.")))
    studio.done()
    second = studio.takes()[1]
    assert second["parent_id"] == first["id"]
    assert second["made_from"]["references"] == first["made_from"]["references"]
    steps = contact_sheet.lineage(ws, project, second["id"])
    assert [s.number for s in steps] == [1, 2]
    assert steps[1].changes == ("with “at night”",)
    groups = studio.sheet(studio.shots[0]).groups
    assert [g.title for g in groups] == ["From the brief", "From take 1: with “at night”"]
    assert groups[1].parent_id == first["id"]
    takes.remove(ws, project, first["id"])
    assert all(t["parent_id"] is None for t in studio.takes())
    projects.undo(ws, project)
    assert studio.takes()[1]["parent_id"] == first["id"]


def test_a_final_is_its_draft_in_full(studio):
    ws, project = studio.ws, studio.project
    studio.make(studio.shots[:2], 1)
    for t in studio.takes():
        takes.pick(ws, project, t["id"])
    told = finals.look(ws, studio.gauge, project)
    assert set(told.drafts) == set(studio.shots[:2])
    assert told.credits == 8.0
    finals.begin(ws, project)
    studio.done()
    for shot in studio.shots[:2]:
        studio.sheet(shot)
    told = finals.look(ws, studio.gauge, project)
    assert told.drafts == ()
    assert [(v.number, v.ready, v.differences) for v in told.finals] == [(1, True, ()), (2, True, ())]
    with pytest.raises(NotPossible, match="No picked draft"):
        finals.begin(ws, project)
    finals.pick_same(ws, studio.gauge, project)
    picked = [t for t in studio.takes() if t["picked"]]
    assert {t["made_from"]["made"]["quality"] for t in picked} == {"final"}
    draft = next(t for t in studio.takes() if t["id"] == picked[0]["parent_id"])
    assert draft["made_from"]["made"]["seed"] == picked[0]["made_from"]["made"]["seed"]


def test_a_final_that_came_out_another_picture_says_why(studio):
    ws, project = studio.ws, studio.project
    studio.make(studio.shots[:1], 2)
    first, other = studio.takes()
    takes.pick(ws, project, first["id"])
    finals.begin(ws, project)
    studio.done()
    studio.sheet(studio.shots[0])
    final = studio.takes()[-1]
    # Another picture of the shot in the final's place: as a service does that does not keep to its seeds.
    with ws.database.session() as s:
        away = s.get(Take, final["id"])
        taken_in = takes.take_in(ws, "x.png", png(np.full((1024, 1536, 3), 90, np.uint8)))
        away.picture_sha = taken_in.sha
        away.revision += 1
    soon(lambda: not studio.sheet(studio.shots[0]).waiting, 60)
    [view] = finals.look(ws, studio.gauge, project).finals
    assert view.ready
    assert any("not found any more" in d for d in view.differences)
    assert other["id"] != first["id"]


def test_a_take_is_rescued_by_a_crop_that_leaves_its_fault_out(studio):
    ws, project = studio.ws, studio.project
    projects.edit(ws, project, {"aspect": "3:2"}, None)
    picture, [box] = scene([], np.random.default_rng(1), ground=5)[0], [Box(300, 120, 120, 260)]
    sha = takes.take_in(ws, "p.png", png(picture)).sha
    takes.accept(ws, project, [("p.png", sha, studio.shots[0])])
    [take] = studio.takes()
    takes.mark(ws, project, take["id"], studio.ada, box)
    assert "Nothing is marked" in rescuing.offer(ws, project, take["id"]).why
    height, width = picture.shape[:2]
    fault_marks.add(ws, project, take["id"], "hand", Box(width - 60, height - 80, 50, 60))
    told = rescuing.offer(ws, project, take["id"], 120.0)
    assert told.crops
    assert told.crops[0].dpi
    best = told.crops[0].box
    rescuing.crop(ws, project, take["id"], best)
    child = studio.takes()[-1]
    assert child["parent_id"] == take["id"]
    assert child["made_from"]["crop"]["w"] == pytest.approx(best.w, abs=1)
    mark = next(m for m in rows(ws, project, "mark") if m["take_id"] == child["id"])
    assert mark["x"] == pytest.approx(box.x - best.x, abs=1)
    assert "Cropped from take 1" in [
        g.title for g in contact_sheet.sheet(ws, studio.gauge, project, studio.shots[0]).groups
    ]
    with pytest.raises(NotPossible, match="outside"):
        rescuing.crop(ws, project, take["id"], Box(9000, 9000, 10, 10))


def test_what_second_whistles_share_is_told_mended_and_the_mend_is_judged(studio):
    ws, project = studio.ws, studio.project
    for i, shot in enumerate(studio.shots):
        words = "Ada waits with two whistles." if i == 0 else "Ada waits."
        plan.edit_shot(ws, project, shot, {"shows": words}, None)
    studio.make(studio.shots, 6)
    assert fault_causes.told(ws, project).causes == ()
    for t in studio.takes():
        if t["shot_id"] == studio.shots[0]:
            fault_marks.add(ws, project, t["id"], "twice", Box(10, 10, 40, 40))
        else:
            takes.stand(ws, project, [t["id"]], "kept")
    told = fault_causes.told(ws, project)
    assert (told.looked_at, told.counts) == (18, {"twice": 6})
    cause = told.causes[0]
    assert any("whistles" in w for w in cause.words)
    assert cause.told.startswith("“there twice”: 6 of 6 came with “")
    assert cause.shot_ids == (studio.shots[0],)
    fault_causes.mend(ws, project, cause.fault, (cause.kind, cause.what), "phrase")
    shot = next(s for s in rows(ws, project, "shot") if s["id"] == studio.shots[0])
    assert "whistles" not in shot["brief_edits"][0]["now"]
    studio.make(studio.shots[:1], 6)
    for t in studio.takes(studio.shots[0])[6:]:
        takes.stand(ws, project, [t["id"]], "kept")
    [effect] = fault_causes.told(ws, project).effects
    assert (effect.before, effect.since, effect.helped) == ((6, 6), (0, 6), True)


def test_a_dont_goes_into_every_brief_that_has_what_the_fault_goes_with(studio):
    ws, project = studio.ws, studio.project
    fault_causes.mend(ws, project, "twice", ("words", "quay"), "dont")
    with_dont = [s["id"] for s in rows(ws, project, "shot") if s["donts"]]
    assert with_dont
    assert row(ws, project, "project")["mends"][0]["shots"] == with_dont
    projects.undo(ws, project)
    assert row(ws, project, "project")["mends"] == []
    for how, feature, words in (("dont", ("words", "unicorn"), "No brief"), ("phrase", ("seed", "4"), "no phrase")):
        with pytest.raises(NotPossible, match=words):
            fault_causes.mend(ws, project, "twice", feature, how)


def test_a_trial_asks_every_setting_with_the_same_seeds_and_its_winner_is_taken(studio):
    ws, project = studio.ws, studio.project
    axes = (Axis("weight", studio.ada, ("40", "90")), Axis("phrase", "action", ("Ada waits.", "Ada stands.")))
    _, ids = trials.start(ws, project, TrialOrder(studio.shots[0], axes, 3, studio.service, thread_id=studio.ada))
    assert len(ids) == 4
    studio.done()
    trial = row(ws, project, "trial")["id"]
    got = []

    def ready():
        got[:] = [trials.read(ws, studio.gauge, project, trial)]
        return not got[0].coming and not got[0].waiting

    soon(ready, 120)
    view = got[0]
    assert [c.name for c in view.cells] == [
        "Ada 40 %, “Ada waits.”",
        "Ada 40 %, “Ada stands.”",
        "Ada 90 %, “Ada waits.”",
        "Ada 90 %, “Ada stands.”",
    ]
    assert {tuple(c.take_ids) for c in view.cells} == {tuple(row(ws, project, "trial")["seeds"])}
    told = {m.of: m for m in view.measures}
    assert told[studio.ada].told.startswith(("No difference", "Ada holds best", "Not certain"))
    trials.take_winner(ws, project, trial, [0, 1], everywhere=False)
    bead = next(
        b for b in rows(ws, project, "bead") if b["shot_id"] == studio.shots[0] and b["thread_id"] == studio.ada
    )
    assert bead["weight"] == 0.4
    shot = next(s for s in rows(ws, project, "shot") if s["id"] == studio.shots[0])
    assert shot["brief_edits"][0]["now"] == "Ada stands."
    trials.take_winner(ws, project, trial, [1, 0], everywhere=True)
    assert {b["weight"] for b in rows(ws, project, "bead") if b["thread_id"] == studio.ada} == {0.9}
    trials.remove(ws, project, trial)
    assert len(studio.takes()) == 12


@pytest.mark.parametrize(
    ("axes", "words"),
    [
        ((Axis("weight", "x" * 32, ("40", "90")),), "does not run"),
        ((Axis("phrase", "nothing", ("a", "b")),), "no such phrase"),
        ((Axis("phrase", "action", ("a",)),), "at least two"),
        ((Axis("phrase", "action", ("a", "a")),), "the same"),
        ((Axis("style", "", ("0" * 32, "1" * 32)),), "not there"),
    ],
)
def test_a_trial_that_cannot_be_is_refused_and_asks_nothing(studio, axes, words):
    with pytest.raises(NotPossible, match=words):
        trials.start(studio.ws, studio.project, TrialOrder(studio.shots[0], axes, 3, studio.service))
    assert jobs.queue(studio.ws, studio.project).jobs == ()
    assert rows(studio.ws, studio.project, "trial") == []


def test_a_demo_asks_again_for_what_its_trial_lost(ws, project):
    lost = []

    def first_ones(key):
        lost.append(key)
        return "refused" if len(lost) in (1, 3) else ""

    with understudy(trouble=first_ones) as (address, _), queue_of(ws) as queue:
        shots = with_ada(ws, project)
        ada = row(ws, project, "thread")["id"]
        axes = (Axis("weight", ada, ("40", "90")),)
        trials.start(ws, project, TrialOrder(shots[0], axes, 2, with_service(ws, project, address), thread_id=ada))
        all_made(queue, project)
    assert [j.state for j in jobs.queue(ws, project).jobs] == ["done", "done"]
    assert len(rows(ws, project, "take")) == 4
    assert len(set(lost)) == 4


def test_the_ledger_adds_up_by_everything_and_foretells(studio):
    ws, project = studio.ws, studio.project
    plan.add_scene(ws, project, "Later")
    studio.make(studio.shots, 2)
    for shot in studio.shots:
        takes.pick(ws, project, studio.takes(shot)[0]["id"])
    projects.edit(ws, project, {"allowance": 9.0}, None)
    told = ledger.ledger(ws, project)
    assert (told.credits, told.takes, told.left) == (6.0, 6, 1)
    for lines in (told.by_shot, told.by_scene, told.by_service, told.by_day):
        assert sum(x.credits for x in lines) == 6.0
        assert sum(x.takes for x in lines) == 6
    assert told.forecast
    assert told.forecast.takes == 2.0
    assert "1 shot is left: 2 to 2 credits" in told.told
    assert "enough for all" in told.told
    projects.edit(ws, project, {"allowance": 7.0}, None)
    assert "not enough for the next shot" in ledger.ledger(ws, project).told
    table = list(csv.DictReader(io.StringIO(ledger.as_csv(ws, project))))
    assert sum(float(r["Credits"]) for r in table) == 6.0
    assert {r["Shot"] for r in table} == {"1", "2", "3"}


def test_an_empty_ledger_says_what_it_waits_for(ws, project):
    with_ada(ws, project)
    told = ledger.ledger(ws, project)
    assert told.forecast is None
    assert "once three shots have a made picture" in told.told


def test_takes_are_kept_put_out_and_brought_back(studio):
    ws, project = studio.ws, studio.project
    studio.make(studio.shots[:1], 2)
    first, second = (t["id"] for t in studio.takes())
    takes.pick(ws, project, first)
    takes.stand(ws, project, [first, second], "out")
    assert [(t["standing"], t["picked"]) for t in studio.takes()] == [("out", False), ("out", False)]
    takes.pick(ws, project, first)
    assert [(t["standing"], t["picked"]) for t in studio.takes()] == [("", True), ("out", False)]
    projects.undo(ws, project)
    projects.undo(ws, project)
    assert [(t["standing"], t["picked"]) for t in studio.takes()] == [("", True), ("", False)]


def test_services_are_added_asked_renamed_and_their_tokens_never_told(ws, project):
    with understudy() as (address, _):
        with pytest.raises(NotPossible, match="no address"):
            services.add(ws, project, "Bad", "ftp://x")
        with pytest.raises(NotPossible, match="https only"):
            services.add(ws, project, "Far", "http://192.0.2.1")
        service = with_service(ws, project, address, "very-secret")
        with pytest.raises(NotPossible, match="already"):
            services.add(ws, project, "Again", address)
        [view] = services.views(ws, project)
        assert view.has_token
        assert view.can
        assert view.can.models[0].id == "cut-paper"
        assert "very-secret" not in repr(view)
        services.edit(ws, project, service, {"name": "Mine"}, None)
        services.edit(ws, project, service, {"address": "http://127.0.0.1:9/"}, None)
        [view] = services.views(ws, project)
        assert not view.has_token
        assert "cannot be reached" in view.trouble
        with ws.database.session() as s:
            kept = s.execute(text("SELECT `rows` FROM `change` WHERE project_id = :p"), {"p": project}).scalars().all()
        assert not any("very-secret" in k for k in kept)
        out = io.BytesIO()
        bundles.give_out(ws, project, out)
        assert b"very-secret" not in out.getvalue()
