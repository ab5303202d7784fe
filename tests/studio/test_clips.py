"""Clips as takes: brought in, read, trimmed, frames out, in a bundle, and made by a service."""

import io
import zipfile

import numpy as np
import pytest
from sqlalchemy import delete, event, select

from juxtaform.core.clips.reading import READING_VERSION
from juxtaform.records.models import LibraryPicture, Measure, Take
from juxtaform.studio import (
    bundles,
    checking,
    clip_readings,
    clip_sounds,
    clips,
    projects,
    report,
    services,
    sound_track,
    takes,
)
from juxtaform.studio.clips import ClipOrder
from juxtaform.studio.findings import Findings
from juxtaform.studio.workspace import Conflict, NotPossible, NotThere
from tests.conftest import Staged, rows
from tests.constructed_clips import film, film_with_sound, flip, frames
from tests.constructed_sounds import voice
from tests.services_at_work import understudy
from tests.studio.test_areas import _came as came


@pytest.fixture(scope="module")
def staged(ws):
    return Staged(ws)


@pytest.fixture(scope="module")
def clip(ws, staged, tmp_path_factory):
    """A clip of the first shot that fades from 2 s on, Ada marked; its take's id."""
    pixels, box = frames(48, "grey")
    taken = takes.take_in(ws, "walk.mp4", film(pixels, tmp_path_factory.mktemp("clips") / "walk.mp4"))
    assert taken.refused == ""
    changed = takes.accept(ws, staged.project, [("walk.mp4", taken.sha, staged.shots[0])])
    take = takes.new_in(changed)[0]
    takes.mark(ws, staged.project, take, staged.ada, box)
    return take


def take_of(ws, staged, take_id):
    return next(t for t in rows(ws, staged.project, "take") if t["id"] == take_id)


def test_a_clip_is_a_take_that_begins_with_its_first_frame(ws, staged, clip):
    sha = take_of(ws, staged, clip)["picture_sha"]
    facts = next(p for p in projects.snapshot(ws, staged.project).pictures if p["sha"] == sha)
    assert facts["clip"] == {"media_type": "video/mp4", "frames": 48, "seconds": 4.0, "has_sound": False}
    assert np.abs(ws.store.pixels(sha).astype(int) - frames(1)[0][0]).mean() < 6
    assert clips.strip(ws, sha, 8, 100)[8:12] == b"WEBP"
    assert clips.frame(ws, sha, 2.0, 200)[8:12] == b"WEBP"
    with pytest.raises(NotThere):
        clips.frame(ws, take_of(ws, staged, clip)["picture_sha"][::-1], 0, 200)


def test_it_is_told_where_it_slips_and_where_to_cut(ws, staged, clip):
    told = clip_readings.told(ws, staged.project, clip)
    assert [t.name for t in told.tracks] == ["Ada", "the style"]
    assert any(w.startswith("The colours fade from") for w in told.words)
    assert 1.5 < told.proposed[1] < 3.0


def test_what_is_to_be_read_of_many_clips_takes_as_many_queries_as_of_one(ws, staged, clip):
    asked = []
    with ws.database.reading() as s:
        take = s.get(Take, clip)
        event.listen(s.get_bind(), "before_cursor_execute", note := lambda *said: asked.append(said[2]))
        try:
            [(_, task)] = clip_readings.tasks_of(s, ws.store, [take]).items()
            one = len(asked)
            assert clip_readings.tasks_of(s, ws.store, [take] * 40) == {clip: task}
        finally:
            event.remove(s.get_bind(), "before_cursor_execute", note)
    assert len(asked) == 2 * one
    assert task.marks.keys() == {staged.ada}
    assert task.still_path


def test_a_check_tells_where_a_clip_slips_until_it_is_cut_there(ws, checker, staged, clip):
    before = next(t["id"] for t in rows(ws, staged.project, "take") if t["shot_id"] == staged.shots[0] and t["picked"])
    takes.pick(ws, staged.project, clip)

    def slips():
        checker.start(staged.project)
        checker.wait(staged.project)
        return [f for f in checking.outcome(ws, staged.project).findings if f.kind == "clip_slips"]

    [found] = slips()
    assert found.shot == staged.shots[0]
    assert 1.5 < found.at_s < 3.2
    told = report.composed(ws, Findings(ws), staged.project)
    pictures = next(e.pictures for part in told.parts for e in part.entries if e.title == found.title)
    assert [p.caption for p in pictures] == ["Shot 1", f"At {found.at_s + report.PLAIN_S:.1f} s"]
    clips.trim(ws, staged.project, clip, (0.0, found.at_s - 0.1))
    assert slips() == []
    clips.trim(ws, staged.project, clip, None)
    take = take_of(ws, staged, clip)["picture_sha"]
    path, kept = ws.store.clip_path(take), ws.store.clip_path(take).read_bytes()
    with ws.database.session() as s:
        s.execute(delete(Measure).where(Measure.version == READING_VERSION))
    path.write_bytes(b"no film")
    try:
        assert slips() == []
        assert "The clip cannot be read" in checking.outcome(ws, staged.project).trouble[staged.shots[0]]
    finally:
        path.write_bytes(kept)
        takes.pick(ws, staged.project, before)


def test_a_trim_is_kept_undone_and_never_empty(ws, staged, clip):
    seen = take_of(ws, staged, clip)["revision"]
    clips.trim(ws, staged.project, clip, (0.5, 99.0), seen)
    assert take_of(ws, staged, clip)["trim"] == [0.5, 4.0]
    with pytest.raises(Conflict):
        clips.trim(ws, staged.project, clip, (0.0, 1.0), seen)
    with pytest.raises(NotPossible, match="Nothing of the clip"):
        clips.trim(ws, staged.project, clip, (2.0, 2.01))
    projects.undo(ws, staged.project)
    assert take_of(ws, staged, clip)["trim"] is None
    still = next(t for t in rows(ws, staged.project, "take") if t["name"] == "p2.png")
    with pytest.raises(NotPossible, match="no clip"):
        clips.trim(ws, staged.project, still["id"], (0.0, 1.0))


def test_what_a_clip_begins_and_ends_with_goes_with_its_trim(ws, staged, clip):
    pixels = frames(48, "grey")[0]

    def seen(end: str) -> np.ndarray:
        return ws.store.pixels(take_of(ws, staged, clip)[end]).astype(int)

    whole = take_of(ws, staged, clip)["last_sha"]
    assert np.abs(seen("last_sha") - pixels[47]).mean() < 8
    assert take_of(ws, staged, clip)["first_sha"] is None
    clips.trim(ws, staged.project, clip, (1.0, 2.0))
    assert np.abs(seen("first_sha") - pixels[12]).mean() < 8
    assert np.abs(seen("last_sha") - pixels[23]).mean() < 8
    with ws.database.session() as s:
        query = select(LibraryPicture.name).where(LibraryPicture.picture_sha == take_of(ws, staged, clip)["last_sha"])
        assert s.scalars(query).one() == "walk.mp4, last frame"
    projects.undo(ws, staged.project)
    assert [take_of(ws, staged, clip)[k] for k in ("first_sha", "last_sha")] == [None, whole]


def test_a_frame_comes_out_for_this_shot_and_for_the_next(ws, staged, clip):
    changed = clips.frame_out(ws, staged.project, clip, 1.0)
    out = next(t for t in changed.rows["take"] if t["revision"] == 1)
    assert (out["parent_id"], out["shot_id"], out["picked"]) == (clip, staged.shots[0], False)
    assert np.abs(ws.store.pixels(out["picture_sha"]).astype(int) - frames(48, "grey")[0][12]).mean() < 8
    shot = staged.shots[1]
    following = clips.frame_out(ws, staged.project, clip, 3.9, shot, sharpest=True)
    fresh = next(t for t in following.rows["take"] if t["revision"] == 1)
    assert fresh["shot_id"] == shot
    assert fresh["parent_id"] is None
    with pytest.raises(NotPossible, match=r"ends at 4\.0 s"):
        clips.frame_out(ws, staged.project, clip, 9.0)


def test_what_is_heard_in_a_clip_lies_on_its_shot_once(ws, staged, clip, tmp_path):
    said = voice([(0.2, 0.8)], 1.0)
    data = film_with_sound(frames(12, seed=5)[0], tmp_path / "said.mp4", said, 0.0)
    changed = takes.accept(ws, staged.project, [("said.mp4", takes.take_in(ws, "said.mp4", data).sha, staged.shots[2])])
    take = takes.new_in(changed)[0]
    clips.trim(ws, staged.project, take, (0.1, 0.9))
    laid = clip_sounds.lay(ws, staged.project, take).rows["sound"][0]
    assert (laid["shot_id"], laid["kind"], laid["start_s"]) == (staged.shots[2], "effect", 0.0)
    heard = next(x for x in sound_track.track(ws, staged.project).sounds if x.id == laid["id"])
    assert heard.seconds == pytest.approx(0.8, abs=0.01)
    with pytest.raises(NotPossible, match="already"):
        clip_sounds.lay(ws, staged.project, take)
    projects.undo(ws, staged.project)
    assert not rows(ws, staged.project, "sound")
    with pytest.raises(NotPossible, match="no sound"):
        clip_sounds.lay(ws, staged.project, clip)
    still = next(t["id"] for t in rows(ws, staged.project, "take") if t["name"] == "p1.png")
    with pytest.raises(NotPossible, match="no clip"):
        clip_sounds.lay(ws, staged.project, still)


def test_a_flip_is_played_as_a_film_that_is_made_once(ws, staged):
    taken = takes.take_in(ws, "flip.gif", flip(frames(6, seed=9)[0], "GIF"))
    path, kind = clips.film_of(ws, taken.sha)
    made = path.stat().st_mtime_ns
    assert (kind, clips.film_of(ws, taken.sha)[0].stat().st_mtime_ns) == ("video/webm", made)
    assert not [p for p in path.parent.iterdir() if p.name.startswith("tmp")]
    ws.store.forget(taken.sha)
    assert not path.exists()


def test_a_film_that_browsers_play_stays_as_it_is(ws, staged, clip):
    sha = take_of(ws, staged, clip)["picture_sha"]
    assert clips.film_of(ws, sha) == clips.file_of(ws, sha)


def test_what_is_no_clip_is_refused_in_words(ws):
    taken = takes.take_in(ws, "broken.mp4", b"\x00\x00\x00\x18ftypisom" + bytes(4000))
    assert taken.sha is None
    assert "damaged" in taken.refused


def test_a_bundle_brings_the_clip_along_and_proves_it(ws, staged, clip):
    out = io.BytesIO()
    bundles.give_out(ws, staged.project, out)
    copy = bundles.take_in(ws, io.BytesIO(out.getvalue()), "copy.zip")
    sha = take_of(ws, staged, clip)["picture_sha"]
    assert [p["clip"]["frames"] for p in projects.snapshot(ws, copy).pictures if p["sha"] == sha] == [48]
    damaged = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(out.getvalue())) as one, zipfile.ZipFile(damaged, "w") as other:
        for name in one.namelist():
            data = one.read(name)
            other.writestr(name, flip(frames(4)[0], "GIF") if name.startswith("clips/") else data)
    with pytest.raises(NotPossible, match="clips/"):
        bundles.take_in(ws, io.BytesIO(damaged.getvalue()), "damaged.zip")


def test_the_understudy_makes_a_clip_that_becomes_a_take(ws, staged):
    with understudy() as (address, _):
        services.add(ws, staged.project, "Understudy", address)
        still = next(t for t in rows(ws, staged.project, "take") if t["name"] == "p2.png")
        ids = clips.order(ws, staged.project, ClipOrder(still["id"], 1.5))
        assert came(ws, staged.project, ids) == ["done"]
        made = next(
            t for t in rows(ws, staged.project, "take") if (t["made_from"].get("made") or {}).get("job_id") in ids
        )
        assert made["parent_id"] == still["id"]
        facts = next(p for p in projects.snapshot(ws, staged.project).pictures if p["sha"] == made["picture_sha"])
        assert facts["clip"]["media_type"] == "image/webp"
        assert clip_readings.told(ws, staged.project, made["id"]).tracks[-1].still is not None
        with pytest.raises(NotPossible, match="at most"):
            clips.order(ws, staged.project, ClipOrder(still["id"], 30))
