"""One clock a project: whoever writes at the same time, nothing is lost, nothing is double, and what undo reaches once was so."""

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
from sqlalchemy import select

from juxtaform.core.picture.regions import Box
from juxtaform.records.models import Change, Picture
from juxtaform.studio import (
    library,
    mending,
    news,
    plan,
    projects,
    rowsheet,
    story,
    story_frame,
    takes,
    threads,
)
from juxtaform.studio.findings import Findings
from juxtaform.studio.workspace import Conflict, NotPossible, NotThere
from tests.conftest import flat, plan_from, row, rows, text_in

TEXT = "# One\nAda came in.\n\n# Two\nAda sat down.\n\n# Three\nAda left the house."


@pytest.fixture
def planned(ws, project):
    plan_from(ws, project, TEXT)
    threads.make(ws, project, "character", "Ada")
    threads.make(ws, project, "style", "Paper")
    story_frame.add_beat(ws, project, None)
    shot, ada = rows(ws, project, "shot")[0]["id"], rows(ws, project, "thread")[0]["id"]
    sha = str(takes.take_in(ws, "a.png", flat((10, 80, 120))).sha)
    threads.add_references(ws, project, ada, [(sha, "front")], "")
    threads.add_trait(
        ws, project, row(ws, project, "reference")["id"], "Coat", "outfit", Box(4, 4, 20, 20), ["#102030"]
    )
    threads.assign(ws, project, ada, [shot], on=True)
    takes.accept(ws, project, [("a.png", sha, shot)])
    takes.mark(ws, project, row(ws, project, "take")["id"], ada, Box(4, 4, 20, 20))
    return project


def at_once(count, deed):
    """What came of a deed done by several threads at once: results and errors."""
    gate = threading.Barrier(count)

    def one(i):
        gate.wait()
        try:
            return deed(i)
        except Exception as error:
            return error

    with ThreadPoolExecutor(count) as pool:
        return list(pool.map(one, range(count)))


def edits(ws, p):
    """How each kind of row is edited on a revision, by table: (the row now, edit(value number, revision))."""
    held = {
        t: row(ws, p, t) for t in ("project", "scene", "beat", "shot", "thread", "reference", "trait", "bead", "mark")
    }
    key = {t: r["id"] for t, r in held.items()}
    mark = held["mark"]
    return held, {
        "project": lambda i, r: projects.edit(ws, p, {"tone": f"tone {i}"}, r),
        "scene": lambda i, r: plan.edit_scene(ws, p, key["scene"], {"title": f"title {i}"}, r),
        "beat": lambda i, r: story_frame.edit_beat(ws, p, key["beat"], {"answer": f"answer {i}"}, r),
        "shot": lambda i, r: plan.edit_shot(ws, p, key["shot"], {"shows": f"shows {i}"}, r),
        "thread": lambda i, r: threads.edit(ws, p, key["thread"], {"wording": f"wording {i}"}, r),
        "reference": lambda i, r: threads.edit_reference(ws, p, key["reference"], {"weight": 0.1 + i / 50}, r),
        "trait": lambda i, r: threads.edit_trait(ws, p, key["trait"], {"name": f"name {i}"}, r),
        "bead": lambda i, r: threads.set_beads(
            ws, p, held["bead"]["thread_id"], [held["bead"]["shot_id"]], {"weight": 0.1 + i / 50}, {key["bead"]: r}
        ),
        "mark": lambda i, r: takes.mark(ws, p, mark["take_id"], mark["thread_id"], Box(4, 4, 10 + i, 20), r),
        "shots": lambda i, r: rowsheet.edit_shots(ws, p, [key["shot"]], {"notes": f"notes {i}"}, {key["shot"]: r}),
    }


@pytest.mark.parametrize(
    "table", ["project", "scene", "beat", "shot", "thread", "reference", "trait", "bead", "mark", "shots"]
)
def test_of_many_editors_on_one_revision_one_wins_and_the_rest_see_both_states(ws, planned, table):
    held, how = edits(ws, planned)
    revision = held["shot" if table == "shots" else table]["revision"]
    before = projects.snapshot(ws, planned).version
    came = at_once(6, lambda i: how[table](i, revision))
    lost = [c for c in came if isinstance(c, Conflict)]
    assert len(lost) == 5, came
    assert projects.snapshot(ws, planned).version == before + 1
    assert all(c.mine != c.theirs and c.theirs["revision"] > revision for c in lost)


def test_of_many_who_typed_on_one_text_one_wins(ws, planned):
    seen = row(ws, planned, "project")["text_revision"]
    came = at_once(6, lambda i: story.keep(ws, planned, TEXT + f" And {i}.", seen))
    assert sum(isinstance(c, Conflict) for c in came) == 5
    assert {c.theirs["text"] for c in came if isinstance(c, Conflict)} == {text_in(ws, planned)}


def test_undos_at_once_undo_different_things_and_every_state_was_once_so(ws, project):
    states = [0]
    for i in range(12):
        plan.add_scene(ws, project, f"Scene {i}")
        states.append(len(rows(ws, project, "scene")))
    came = at_once(8, lambda _: projects.undo(ws, project))
    assert sorted(len(c.gone["scene"]) for c in came) == [1] * 8
    assert len({c.gone["scene"][0] for c in came}) == 8
    assert len(rows(ws, project, "scene")) == 4
    came = at_once(10, lambda i: projects.redo(ws, project) if i % 2 else projects.undo(ws, project))
    assert len(rows(ws, project, "scene")) in states


def test_the_journal_only_grows_and_counts_without_a_gap(ws, project):
    at_once(8, lambda i: plan.add_scene(ws, project, f"{i}") if i % 3 else projects.undo(ws, project))
    projects.undo(ws, project)
    projects.restore(ws, project, 0)
    with ws.database.session() as s:
        told = list(
            s.execute(select(Change.version, Change.takes_back).where(Change.project_id == project).order_by(Change.id))
        )
    assert [v for v, _ in told] == list(range(1, len(told) + 1))
    undone = [t for _, t in told if t]
    assert len(undone) == len(set(undone))


def test_the_same_things_four_times_at_once_are_there_once(ws, planned):
    shot, other = (s["id"] for s in rows(ws, planned, "shot")[1:3])
    ada, paper = (t["id"] for t in rows(ws, planned, "thread"))
    data = flat((90, 200, 31))

    def deeds(i):
        taken = takes.take_in(ws, "same.png", data)
        library.seen(ws, planned, taken.sha, "same.png")
        takes.accept(ws, planned, [("same.png", taken.sha, shot)])
        threads.assign(ws, planned, ada, [shot, other], on=True)
        threads.assign(ws, planned, paper, [shot, other], on=True)
        threads.set_beads(ws, planned, ada, [shot], {"weight": 0.5})
        takes.mark(ws, planned, rows(ws, planned, "take")[0]["id"], ada, Box(2, 2, 20, 20))
        plan.add_scene(ws, planned, f"Scene {i}")
        plan.insert_shot(ws, planned, shot)
        return taken.sha

    came = at_once(4, deeds)
    assert len({*came}) == 1, came
    told = projects.snapshot(ws, planned).rows
    assert sum(t["picture_sha"] == came[0] for t in told["take"]) == 1
    assert len({(b["shot_id"], b["thread_id"]) for b in told["bead"]}) == len(told["bead"])
    assert len({(m["take_id"], m["thread_id"]) for m in told["mark"]}) == len(told["mark"])
    assert len({s["position"] for s in told["scene"]}) == len(told["scene"]) == 7
    places = [(s["scene_id"], s["position"]) for s in told["shot"]]
    assert len(set(places)) == len(places) == 11
    with ws.database.session() as s:
        assert s.get(Picture, came[0]) is not None
    assert sum(i.sha == came[0] for i in library.search(ws, planned, library.Search()).items) == 1


@pytest.mark.parametrize("last", [True, False])
def test_a_hundred_insertions_at_one_place_keep_their_order(ws, planned, last):
    first, *rest = (s["id"] for s in rows(ws, planned, "shot"))
    if last:
        plan.insert_shot(ws, planned, first)
    made = [plan.insert_shot(ws, planned, first).rows["shot"] for _ in range(100)]
    order = [s["id"] for s in rows(ws, planned, "shot")]
    fresh = [next(s["id"] for s in told if s["revision"] == 1 and s["id"] not in rest) for told in made]
    assert order[0] == first
    assert order[1:101] == fresh[::-1]
    assert order[-len(rest) :] == rest


def test_a_mend_is_made_on_the_words_as_they_stand(ws, planned):
    """The offsets of a concern are those of the words when it was told; the words may be others by now."""
    shot = rows(ws, planned, "shot")[0]
    threads.make(ws, planned, "setting", "Harbour steps")
    place = next(t["id"] for t in rows(ws, planned, "thread") if t["kind"] == "setting")
    threads.assign(ws, planned, place, [shot["id"]], on=True)
    plan.edit_shot(ws, planned, shot["id"], {"shows": "Ada on a plain white background, smiling."}, None)
    told = Findings(ws).brief(planned, shot["id"])
    key = next(f.key for f in told.findings if f.mend and f.mend.kind == "cut")
    real, raced = mending.briefs.at_desk, []

    def slow(desk, shot_id, profile=None):
        """Somebody else writes between the look and the cut, if the project lets them."""
        came = real(desk, shot_id, profile)
        if not raced:
            raced.append(
                threading.Thread(target=plan.edit_shot, args=(ws, planned, shot["id"], {"shows": "Short."}, None))
            )
            raced[0].start()
            raced[0].join(0.7)
        return came

    mending.briefs.at_desk = slow
    try:
        mending.mend(ws, planned, shot["id"], key)
    finally:
        mending.briefs.at_desk = real
        raced[0].join(300)
    assert rows(ws, planned, "shot")[0]["shows"] == "Short."
    projects.undo(ws, planned)
    assert rows(ws, planned, "shot")[0]["shows"] == "Ada, smiling."


def test_a_stet_stands_only_on_what_exists(ws, planned):
    with pytest.raises(NotThere, match="no such finding"):
        Findings(ws).stet(planned, "f" * 40, "because")
    assert not rows(ws, planned, "stet")


def test_assigning_in_one_project_leaves_another_alone(ws, planned):
    other = projects.make(ws, "Other")
    plan_from(ws, other, TEXT)
    threads.make(ws, other, "style", "Ink")
    ink = row(ws, other, "thread")["id"]
    shots = [s["id"] for s in rows(ws, other, "shot")]
    threads.assign(ws, other, ink, shots, on=True)
    before = projects.snapshot(ws, other)
    paper = rows(ws, planned, "thread")[1]["id"]
    with pytest.raises(NotThere):
        threads.assign(ws, planned, paper, shots, on=True)
    threads.set_beads(ws, planned, paper, shots, {"weight": 0.2})
    with pytest.raises((NotThere, NotPossible)):
        threads.set_beads(ws, planned, rows(ws, planned, "thread")[0]["id"], shots, {"reference_id": ink})
    assert projects.snapshot(ws, other) == before


def test_typing_is_one_step_back_and_each_pause_its_own_version(ws, planned):
    version, before = projects.snapshot(ws, planned).version, text_in(ws, planned)
    for i in range(5):
        story.keep(ws, planned, TEXT + " " + "word " * i + ".")
    assert projects.snapshot(ws, planned).version == version + 5
    assert len([h for h in projects.history(ws, planned) if h.label == "edited the text"]) == 2
    projects.undo(ws, planned)
    assert text_in(ws, planned) == before
    projects.redo(ws, planned)
    assert text_in(ws, planned).endswith("word word word word .")


def test_a_long_text_is_journaled_as_the_place_that_changed(ws, project):
    text = "Once upon a tide. " * 3000
    story.keep(ws, project, text)
    story.keep(ws, project, text[:500] + "Pell " + text[500:])
    with ws.database.session() as s:
        newest = s.scalars(
            select(Change.rows).where(Change.project_id == project).order_by(Change.id.desc()).limit(1)
        ).one()
    assert len(newest) < 1500
    projects.undo(ws, project)
    assert text_in(ws, project) == ""


def test_a_snapshot_is_of_one_moment(ws, planned, monkeypatch):
    """While it is read, somebody deletes: it has either all of the shot or nothing."""
    real, deleted = projects.of_project, []

    def slow(s, model, project_id):
        found = real(s, model, project_id)
        if model.__tablename__ == "shot" and not deleted:
            deleted.append(plan.delete_shots(ws, planned, [rows_before[0]["id"]]))
        return found

    rows_before = rows(ws, planned, "shot")
    monkeypatch.setattr(projects, "of_project", slow)
    told = projects.snapshot(ws, planned)
    shots = {s["id"] for s in told.rows["shot"]}
    assert deleted
    assert {b["shot_id"] for b in told.rows["bead"]} <= shots
    assert {t["shot_id"] for t in told.rows["take"]} <= shots
    assert told.version == deleted[0].since
    caught_up = news.since(ws, planned, told.version)
    assert caught_up.gone["shot"] == [rows_before[0]["id"]]


def test_a_row_that_was_gone_never_comes_back_with_a_revision_that_it_had(ws, project):
    made = plan.add_scene(ws, project, "One").rows["scene"][0]
    revisions = [made["revision"]]

    def note(changed):
        revisions.extend(s["revision"] for s in changed.rows.get("scene", ()))

    note(plan.edit_scene(ws, project, made["id"], {"title": "Two"}, None))
    for step in (projects.undo, projects.undo, projects.redo, projects.redo, projects.undo):
        note(step(ws, project))
    assert len(revisions) == len(set(revisions)) == 6


def test_a_replay_that_fails_leaves_connections_as_they_were(ws, planned, monkeypatch):
    """Foreign keys are on, whatever went wrong in between."""
    from juxtaform.records import journal

    real = journal._write

    def half(session, changes):
        real(session, changes[:1])
        raise RuntimeError("in the middle")

    monkeypatch.setattr(journal, "_write", half)
    for _ in range(3):
        with pytest.raises(RuntimeError):
            projects.undo(ws, planned)
    connections = [ws.database.engine.connect() for _ in range(6)]
    try:
        for c in connections:
            assert c.exec_driver_sql("SELECT @@foreign_key_checks").scalar() == 1
    finally:
        for c in connections:
            c.close()
