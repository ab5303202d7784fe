"""The use cases on a real database: plan, threads, takes, check, stet."""

import threading

import numpy as np
import pytest

from juxtaform.core.picture.regions import Box
from juxtaform.records.models import CheckRun
from juxtaform.studio import checking, continuity, plan, projects, proposals, story, takes, threads
from juxtaform.studio.findings import Findings
from juxtaform.studio.workspace import Conflict, NotPossible
from tests.conftest import Staged, covered_in, flat, plan_from, png, rows
from tests.constructed import random_look, reference

TEXT = "# One\nAda came in and hung up the coats.\n\nThen Bo sat down and said “No.”\n# Two\nAt midnight Ada left the house and Bo stayed."


@pytest.fixture
def planned(ws, project):
    for kind, name in (("character", "Ada"), ("character", "Bo"), ("style", "Paper")):
        threads.make(ws, project, kind, name)
    plan_from(ws, project, TEXT)
    return project


def shown(ws, project):
    return [s["shows"] for s in rows(ws, project, "shot")]


def test_a_text_becomes_scenes_shots_and_beads(ws, planned):
    assert [s["title"] for s in rows(ws, planned, "scene")] == ["One", "Two"]
    assert len(shown(ws, planned)) == 3
    kinds = {t["id"]: t["name"] for t in rows(ws, planned, "thread")}
    assert {kinds[b["thread_id"]] for b in rows(ws, planned, "bead")} == {"Ada", "Bo", "Paper"}
    assert rows(ws, planned, "shot")[1]["spoken"] == "No."


def test_split_and_merge_keep_every_word_and_undo_restores_the_ids(ws, planned):
    before = rows(ws, planned, "shot")
    target, words = before[2], covered_in(ws, planned)[2]
    plan.split_shot(ws, planned, target["id"])
    parts = [s for s in rows(ws, planned, "shot") if s["scene_id"] == target["scene_id"]]
    assert len(parts) == 2
    assert " ".join(covered_in(ws, planned)[2:]).split() == words.split()
    second = max(parts, key=lambda p: p["position"])
    plan.merge_up(ws, planned, second["id"])
    assert len(rows(ws, planned, "shot")) == 3
    projects.undo(ws, planned)
    projects.undo(ws, planned)
    assert {s["id"] for s in rows(ws, planned, "shot")} == {s["id"] for s in before}


def test_insert_move_and_delete(ws, planned):
    first = rows(ws, planned, "shot")[0]
    made = plan.insert_shot(ws, planned, first["id"]).rows["shot"][0]
    plan.edit_shot(ws, planned, made["id"], {"shows": "New"}, made["revision"])
    assert shown(ws, planned)[1] == "New"
    plan.move_shot(ws, planned, made["id"], 1)
    assert shown(ws, planned)[2] == "New"
    plan.move_shot(ws, planned, made["id"], 1)
    assert shown(ws, planned)[2] == "New"
    assert {s["id"]: s["scene_id"] for s in rows(ws, planned, "shot")}[made["id"]] == rows(ws, planned, "scene")[1][
        "id"
    ]
    plan.delete_shots(ws, planned, [s["id"] for s in rows(ws, planned, "shot")])
    assert rows(ws, planned, "scene") == []
    projects.undo(ws, planned)
    assert len(shown(ws, planned)) == 4


def test_an_edit_of_an_old_revision_is_a_conflict_with_both_states(ws, planned):
    shot = rows(ws, planned, "shot")[0]
    plan.edit_shot(ws, planned, shot["id"], {"shows": "Mine"}, shot["revision"])
    with pytest.raises(Conflict) as caught:
        plan.edit_shot(ws, planned, shot["id"], {"shows": "Theirs"}, shot["revision"])
    assert caught.value.theirs["shows"] == "Mine"
    assert caught.value.mine["shows"] == "Theirs"


@pytest.mark.parametrize("text", ["a\0b", "x" * 2_000_001])
def test_bad_text_is_refused_and_the_plan_stays(ws, planned, text):
    with pytest.raises(NotPossible):
        story.keep(ws, planned, text)
    assert len(shown(ws, planned)) == 3


def test_there_is_nothing_to_propose_from_no_text(ws, project):
    with pytest.raises(NotPossible, match="Paste or type"):
        proposals.propose(ws, project)


def test_a_thread_is_assigned_and_cleared_over_a_range(ws, planned):
    bo = next(t["id"] for t in rows(ws, planned, "thread") if t["name"] == "Bo")
    ids = [s["id"] for s in rows(ws, planned, "shot")]
    threads.assign(ws, planned, bo, ids, on=True)
    assert {b["shot_id"] for b in rows(ws, planned, "bead") if b["thread_id"] == bo} == set(ids)
    threads.set_beads(ws, planned, bo, ids[:2], {"hold": "face", "weight": 0.4})
    assert sorted(b["weight"] for b in rows(ws, planned, "bead") if b["thread_id"] == bo) == [0.4, 0.4, 0.8]
    threads.assign(ws, planned, bo, ids, on=False)
    assert not [b for b in rows(ws, planned, "bead") if b["thread_id"] == bo]


def test_deleting_a_thread_takes_all_of_it_and_undo_brings_all_back(ws):
    staged = Staged(ws)
    counts = {t: len(rows(ws, staged.project, t)) for t in ("thread", "reference", "bead", "mark")}
    threads.remove(ws, staged.project, staged.ada)
    assert len(rows(ws, staged.project, "mark")) == 0
    projects.undo(ws, staged.project)
    assert {t: len(rows(ws, staged.project, t)) for t in counts} == counts


def test_bad_files_are_refused_one_by_one_and_the_others_go_in(ws, planned):
    files = {
        "1.png": flat((1, 2, 3)),
        "2.png": b"",
        "3.png": b"no",
        "../4.png": flat((4, 4, 4)),
        "2b.png": flat((7, 7, 7)),
    }
    taken = {name: takes.take_in(ws, name, data) for name, data in files.items()}
    assert [n for n, t in taken.items() if t.sha is None] == ["2.png", "3.png", "../4.png"]
    assert all(t.refused for t in taken.values() if t.sha is None)
    proposals = takes.propose(ws, planned, [(n, t.sha) for n, t in taken.items() if t.sha])
    ids = [s.id for s in _order(ws, planned)]
    assert {p.name: p.shot_id for p in proposals} == {"1.png": ids[0], "2b.png": ids[1]}


def _order(ws, project):
    with ws.database.session() as s:
        return plan.in_order(s, project)


def test_several_pictures_of_one_shot_are_takes_and_one_is_picked(ws, planned):
    shot = rows(ws, planned, "shot")[0]["id"]
    shas = [takes.take_in(ws, f"{i}.png", flat((i * 20, 9, 9))).sha for i in range(3)]
    takes.accept(ws, planned, [(f"1 t{i}.png", sha, shot) for i, sha in enumerate(shas)])
    held = sorted(rows(ws, planned, "take"), key=lambda t: t["position"])
    assert [t["picked"] for t in held] == [True, False, False]
    takes.pick(ws, planned, held[2]["id"])
    takes.remove(ws, planned, held[2]["id"])
    assert sum(t["picked"] for t in rows(ws, planned, "take")) == 1


def test_a_mark_outside_its_picture_is_refused(ws, planned):
    thread, shot = rows(ws, planned, "thread")[0]["id"], rows(ws, planned, "shot")[0]["id"]
    takes.accept(ws, planned, [("1.png", takes.take_in(ws, "1.png", flat()).sha, shot)])
    take = rows(ws, planned, "take")[0]["id"]
    with pytest.raises(NotPossible, match="outside the picture"):
        takes.mark(ws, planned, take, thread, Box(900, 900, 10, 10))


@pytest.fixture(scope="module")
def staged(ws):
    return Staged(ws)


def checked(ws, checker, project):
    checker.start(project)
    checker.wait(project, 900)
    status = checking.status(ws, project)
    assert status.state == "done", status
    return status, checking.outcome(ws, project)


def test_the_check_finds_what_changed_and_a_stet_holds_until_the_picture_changes(ws, checker, staged):
    _, outcome = checked(ws, checker, staged.project)
    [found] = outcome.findings
    assert (found.kind, found.shot) == ("trait_changed", staged.shots[2])
    assert found.region is not None
    with pytest.raises(NotPossible, match="why"):
        Findings(ws).stet(staged.project, found.key, "  ")
    Findings(ws).stet(staged.project, found.key, "It is her best coat")
    status, again = checked(ws, checker, staged.project)
    assert status.measured == 0
    assert [k.key for k in again.findings] == [found.key]

    line = continuity.lineup(ws, staged.project, staged.ada)
    assert [c.verdict for c in line.cells] == ["holds", "holds", "drifts", "holds"]
    assert len(line.anchors) == 1

    good = takes.take_in(ws, "p3 better.png", png(staged.good_third))
    takes.replace_picture(ws, staged.project, staged.shots[2], "p3 better.png", good.sha)
    fresh = next(t for t in rows(ws, staged.project, "take") if t["picture_sha"] == good.sha)
    takes.mark(ws, staged.project, fresh["id"], staged.ada, staged.good_box)
    status, after = checked(ws, checker, staged.project)
    assert status.measured == 1
    assert found.key not in {k.key for k in after.findings}


def test_a_changed_reference_lifts_the_stet(ws, checker, staged):
    before = {k.shot: k.key for k in checked(ws, checker, staged.project)[1].findings}
    reference = next(r for r in rows(ws, staged.project, "reference") if r["thread_id"] == staged.ada)
    threads.edit_reference(ws, staged.project, reference["id"], {"weight": 0.35}, None)
    status, after = checked(ws, checker, staged.project)
    assert status.measured >= 4
    assert not set(before.values()) & {k.key for k in after.findings}


def test_a_new_reference_measures_its_own_thread_anew_and_of_others_only_who_is_not_clear(ws, checker, staged):
    checked(ws, checker, staged.project)
    threads.make(ws, staged.project, "character", "Newcomer")
    newcomer = next(t["id"] for t in rows(ws, staged.project, "thread") if t["name"] == "Newcomer")
    sha = str(takes.take_in(ws, "newcomer.png", png(reference(random_look(np.random.default_rng(77))))).sha)
    threads.add_references(ws, staged.project, newcomer, [(sha, "front")], "")
    status, _ = checked(ws, checker, staged.project)
    assert status.measured <= 1, "who is plainly Ada stays Ada, whoever joins the cast"


def test_a_check_can_be_stopped_and_goes_on_where_it_was(ws, checker):
    staged = Staged(ws)
    rng = np.random.default_rng(0)
    extra = [png(rng.integers(0, 255, (400, 600, 3), dtype=np.uint8)) for _ in range(14)]
    shot = staged.shots[0]
    for data in extra:
        made = plan.insert_shot(ws, staged.project, shot).rows["shot"][0]["id"]
        takes.accept(ws, staged.project, [("x.png", takes.take_in(ws, "x.png", data).sha, made)])
    enough = threading.Event()

    def look():
        if checking.status(ws, staged.project).measured >= 3:
            enough.set()

    with ws.listeners.listening(staged.project, look):
        checker.start(staged.project)
        assert enough.wait(900)
    status = checker.stop(staged.project)
    assert status.state == "stopped"
    assert 3 <= status.measured < 14
    again, _ = checked(ws, checker, staged.project)
    assert again.measured <= again.total - status.measured


def test_what_changes_while_a_check_runs_is_checked_after_it_if_it_was_asked_for(ws, checker, monkeypatch):
    staged = Staged(ws)
    checked(ws, checker, staged.project)
    runs, begun, go_on = [], threading.Event(), threading.Event()
    real = checker._measured

    def held(*given):
        runs.append(given)
        begun.set()
        assert go_on.wait(60)
        return real(*given)

    monkeypatch.setattr(checker, "_measured", held)
    checker.start(staged.project)
    assert begun.wait(60)
    plan.edit_shot(ws, staged.project, staged.shots[0], {"size": "WS"}, None)
    for _ in range(2):
        checker.start(staged.project)
    go_on.set()
    checker.wait(staged.project, 900)
    assert len(runs) == 2
    assert checking.status(ws, staged.project).state == "done"
    assert checking.outcome(ws, staged.project).version == projects.snapshot(ws, staged.project).version
    begun.clear()
    checker.start(staged.project)
    assert begun.wait(60)
    checker.start(staged.project)
    checker.wait(staged.project, 900)
    assert len(runs) == 3, "nothing has changed meanwhile"


def test_a_check_that_a_restart_cut_off_is_taken_up_again(ws, checker):
    staged = Staged(ws)
    with ws.database.session() as s:
        s.merge(CheckRun(project_id=staged.project, state="running"))
    checker.resume()
    checker.wait(staged.project, 900)
    assert checking.status(ws, staged.project).state == "done"


def test_a_picture_that_cannot_be_measured_is_told_and_the_rest_is_checked(ws, checker):
    staged = Staged(ws)
    sha = next(t["picture_sha"] for t in rows(ws, staged.project, "take") if t["shot_id"] == staged.shots[0])
    path = ws.store.path(sha)
    kept = path.read_bytes()
    [take] = [t["id"] for t in rows(ws, staged.project, "take") if t["shot_id"] == staged.shots[0]]
    [mark] = [m for m in rows(ws, staged.project, "mark") if m["take_id"] == take]
    takes.mark(ws, staged.project, mark["take_id"], staged.ada, Box(30, 30, 333, 333))
    path.write_bytes(b"damaged")
    try:
        checker.start(staged.project)
        checker.wait(staged.project, 900)
        outcome = checking.outcome(ws, staged.project)
        assert set(outcome.trouble) == {staged.shots[0]}
        assert any(k.shot == staged.shots[2] for k in outcome.findings)
    finally:
        path.write_bytes(kept)


def test_two_checks_at_once_are_one(ws, checker, staged):
    starts = [threading.Thread(target=checker.start, args=(staged.project,)) for _ in range(4)]
    for s in starts:
        s.start()
    for s in starts:
        s.join()
    checker.wait(staged.project, 900)
    assert checking.status(ws, staged.project).state == "done"
