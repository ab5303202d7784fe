"""Files out as jobs: asked for, made, stopped and gone on with, over a restart too; what is missing is said first."""

import io
import time
import zipfile

import pytest
from PIL import Image

from juxtaform.studio import book, outgoing, plan, projects, takes
from juxtaform.studio.deliveries import Deliveries
from juxtaform.studio.producing import DeliveryOptions
from juxtaform.studio.workspace import NotPossible, NotThere
from tests.conftest import flat, rows


@pytest.fixture
def deliveries(ws, checker):
    made = Deliveries(ws, checker.workers)
    yield made
    made.close()


@pytest.fixture
def shots(ws, project):
    """Three shots of two seconds; the first two have pictures."""
    plan.add_scene(ws, project, "The quay")
    for _ in range(2):
        plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
    ids = [x["id"] for x in sorted(rows(ws, project, "shot"), key=lambda x: x["position"])]
    for i, shot in enumerate(ids):
        plan.edit_shot(ws, project, shot, {"length_s": 2.0, "shows": f"Step {i}"}, None)
        if i < 2:
            sha = takes.take_in(ws, f"p{i}.png", flat((40 + 80 * i, 90, 120), (96, 64))).sha
            takes.accept(ws, project, [(f"p{i}.png", sha, shot)])
    return ids


def ended(deliveries, project, delivery_id, states=("done", "failed"), seconds=120):
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        view = next(d for d in deliveries.all(project) if d.id == delivery_id)
        if view.state in states:
            return view
        time.sleep(0.05)
    raise AssertionError(f"it is still {view.state}")


def made(deliveries, project, kind, **options):
    asked = deliveries.ask(project, kind, DeliveryOptions(**options))
    return ended(deliveries, project, asked.id)


def test_what_is_missing_is_said_first(ws, project, shots):
    told = outgoing.outgoing(ws, project)
    assert (told.shots, told.length_s, told.missing) == (3, 6.0, ("No picture for shot 3.",))


def test_an_empty_project_says_what_to_do(ws, project, deliveries):
    assert "Plan one on the Sheet first." in outgoing.outgoing(ws, project).missing[-1]
    view = made(deliveries, project, "cbz")
    assert (view.state, view.message) == ("failed", "There is no shot yet. Plan one on the Sheet first.")


@pytest.mark.parametrize(
    ("kind", "options", "ending"),
    [
        ("pictures", {}, "pictures.zip"),
        ("cbz", {"placeholders": False}, ".cbz"),
        ("storyboard", {"a_page": 4}, "storyboard.pdf"),
        ("timeline", {}, "timeline.zip"),
        ("captions", {"captions": "srt"}, ".srt"),
        ("book", {}, "book.pdf"),
        ("dummy", {}, "dummy to fold.pdf"),
        ("epub", {}, ".epub"),
        ("animatic", {"height": 480, "words": "beside"}, "animatic.zip"),
    ],
)
def test_every_kind_is_made_and_fetched(project, shots, deliveries, kind, options, ending):
    view = made(deliveries, project, kind, **options)
    assert (view.state, view.message) == ("done", "")
    file = deliveries.file(project, view.id)
    assert file.name.endswith(ending)
    assert file.path.stat().st_size == view.bytes
    assert sorted(p.name for p in file.path.parent.iterdir() if p.name.startswith(("half", "kept"))) == []
    if kind == "cbz":
        with zipfile.ZipFile(io.BytesIO(file.path.read_bytes())) as archive:
            assert len(archive.namelist()) == 3  # two pages, and what the book is
    deliveries.remove(project, view.id)
    assert not file.path.exists()
    with pytest.raises(NotThere):
        deliveries.file(project, view.id)


def test_a_long_one_is_stopped_gone_on_with_and_survives_a_restart(ws, project, shots, deliveries, checker):
    for shot in shots:
        plan.edit_shot(ws, project, shot, {"length_s": 30.0, "move": "push in"}, None)
    asked = deliveries.ask(project, "animatic", DeliveryOptions(height=480, words="none"))
    until = time.monotonic() + 120
    while deliveries.all(project)[0].done < 250 and time.monotonic() < until:
        time.sleep(0.05)
    assert deliveries.stop(project, asked.id).state == "stopped"
    deliveries.wait(project)
    view = deliveries.all(project)[0]
    assert (view.state, view.name) == ("stopped", "")
    kept = sorted((deliveries.root / asked.id / "kept").glob("0*.mp4"))
    assert kept
    assert not (deliveries.root / asked.id / "half").exists()
    with pytest.raises(NotThere):
        deliveries.file(project, asked.id)
    with pytest.raises(NotPossible):
        deliveries.stop(project, asked.id)
    written = kept[0].stat().st_mtime_ns
    deliveries.resume(project, asked.id)
    while deliveries.all(project)[0].state == "waiting":
        time.sleep(0.02)
    deliveries.close()  # the server ends in the middle of it
    assert kept[0].stat().st_mtime_ns == written
    again = Deliveries(ws, checker.workers)
    again.start()
    view = ended(again, project, asked.id, seconds=240)
    again.close()
    assert (view.state, view.done, view.total) == ("done", 2160, 2160)
    assert again.file(project, asked.id).name.endswith("animatic.mp4")


def test_a_changed_plan_does_not_mix_with_what_was_kept(ws, project, shots, deliveries):
    asked = deliveries.ask(project, "animatic", DeliveryOptions(height=480, words="none"))
    ended(deliveries, project, asked.id)
    folder = deliveries.root / asked.id
    (folder / "kept").mkdir()
    (folder / "kept" / "00000.mp4").write_bytes(b"of another plan")
    deliveries._write(project, asked.id, state="failed")
    plan.edit_shot(ws, project, shots[0], {"length_s": 1.0}, None)
    deliveries.resume(project, asked.id)
    assert ended(deliveries, project, asked.id).state == "done"


def test_a_full_disk_is_told_and_leaves_no_half(project, shots, deliveries, monkeypatch, ws):
    from concurrent.futures import ThreadPoolExecutor

    from juxtaform.studio import producing
    from juxtaform.studio.measuring import Workers

    def full(*_, **__):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(producing.pictures, "cbz", full)
    with ThreadPoolExecutor(1) as executor:
        here = Deliveries(ws, Workers(executor))
        view = made(here, project, "cbz")
        here.close()
    assert view.state == "failed"
    assert view.message.startswith("The disk is full. Free some room, then go on")
    assert [p.name for p in (here.root / view.id).iterdir() if p.name == "half"] == []


def test_a_cover_is_asked_for_first_and_then_made_and_seen(ws, project, shots, deliveries):
    view = made(deliveries, project, "cover")
    assert (view.state, view.message) == ("failed", "The book has no cover yet. Choose a picture for it in the dummy.")
    with pytest.raises(NotThere):
        book.cover_seen(ws, project, 200)
    projects.edit(ws, project, {"book": {"cover_shot_id": shots[0], "author": "Nobody", "blurb": "Words."}}, None)
    view = made(deliveries, project, "cover")
    assert (view.state, view.name[-9:]) == ("done", "cover.pdf")
    seen = Image.open(io.BytesIO(book.cover_seen(ws, project, 200)))
    assert (seen.format, seen.height) == ("JPEG", 200)
    assert "dpi in print" in " ".join(n.title for n in book.view(ws, project).notes if n.kind == "cover")
    view = made(deliveries, project, "cbz")
    with zipfile.ZipFile(deliveries.file(project, view.id).path) as archive:
        assert archive.namelist()[0] == "000 cover.jpg"
    plan.delete_shots(ws, project, [shots[0]])
    assert book.view(ws, project).cover is None
    assert "not there any more" in next(n.title for n in book.view(ws, project).notes if n.kind == "cover")
