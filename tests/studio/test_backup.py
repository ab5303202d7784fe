"""Backups while people work, only what is new, read back, restored elsewhere; the doctor finds what does not belong together."""

import hashlib
import os
import shutil
import tarfile
import threading

import pytest
from sqlalchemy import inspect, select, text

from juxtaform.formats import backup_file
from juxtaform.formats.backup_file import BackupWrong
from juxtaform.media.store import PictureStore
from juxtaform.records import dump
from juxtaform.records.database import Database
from juxtaform.records.models import Change, Picture
from juxtaform.studio import backup, doctor, plan, projects, takes, threads
from juxtaform.studio.workspace import NotPossible, Workspace
from tests.conftest import _names, empty_workspace, flat, rows
from tests.people import person
from tests.small import Small


@pytest.fixture
def house(server, tmp_path):
    (tmp_path / "here").mkdir()
    with empty_workspace(server, tmp_path / "here" / "pictures") as ws:
        yield ws


@pytest.fixture
def elsewhere(server, tmp_path):
    """Another machine: an empty database and an empty folder."""
    database = Database(server.create(next(_names)))
    yield database, tmp_path / "there"
    database.close()


def held(database):
    with database.engine.connect() as connection:
        return {t: list(dump.rows(connection, t)) for t in dump.tables(connection) if t not in backup.LEFT_OUT}


def test_all_comes_back_elsewhere_and_goes_on_working(house, elsewhere, tmp_path):
    person(house, "mira", keeper=True)
    small = Small(house)
    done = backup.back_up(house, tmp_path / "all.backup")
    assert (done.missing, done.fresh) == ([], done.files)
    database, there = elsewhere
    told = backup.restore(database, there, tmp_path / "all.backup")
    assert (told.rows, told.files) == (done.rows, done.files)
    assert held(database) == held(house.database)
    ws = Workspace(database, PictureStore(there / "pictures"))
    for sha in rows(ws, small.project, "take"):
        assert ws.store.pixels(sha["picture_sha"]).size
        assert ws.store.thumb_path(sha["picture_sha"], 240).exists()
    assert doctor.examine(ws, deep=True).complaints == []
    assert ws.sounds.has(small.sound_sha)
    before = rows(ws, small.project, "thread")
    threads.make(ws, small.project, "prop", "A kettle")
    projects.undo(ws, small.project)
    assert rows(ws, small.project, "thread") == before
    assert oct((there / "pictures" / small.sha[:2]).stat().st_mode)[-3:] == "700"


def test_the_second_backup_holds_only_what_is_new_and_each_can_be_restored(house, elsewhere, tmp_path):
    small, path = Small(house), tmp_path / "all.backup"
    first = backup.back_up(house, path)
    size = path.stat().st_size
    again = backup.back_up(house, path)
    assert again.fresh == 0
    assert path.stat().st_size - size < size / 2
    fresh = takes.take_in(house, "b.png", flat((200, 7, 7)))
    takes.accept(house, small.project, [("b.png", fresh.sha, small.ids["shot_id"])])
    third = backup.back_up(house, path)
    assert third.fresh == 3  # The picture and its two thumbnails.
    assert third.files == first.files + 3
    with backup_file.opened(path) as kept:
        assert [len(w.files) for w in kept.backups] == [first.files, first.files, third.files]
    database, there = elsewhere
    backup.restore(database, there, path, 1)
    with database.session() as s:
        assert s.get(Picture, fresh.sha) is None
    assert backup.verify(path) == []
    with tarfile.open(path) as plain:  # Any tar reads it.
        assert f"files/pictures/{fresh.sha[:2]}/{fresh.sha}" in plain.getnames()


def test_another_s_backup_file_is_not_added_to(house, elsewhere, tmp_path):
    file = tmp_path / "all.backup"
    Small(house)
    backup.back_up(house, file)
    before = file.read_bytes()
    database, there = elsewhere
    database.migrate()
    other = Workspace(database, PictureStore(there / "pictures"))
    for step in (lambda: None, lambda: projects.make(other, "Something else")):
        step()
        with pytest.raises(BackupWrong, match="backups of another Juxtaform"):
            backup.back_up(other, file)
    assert file.read_bytes() == before
    projects.make(house, "One more")
    assert backup.back_up(house, file).fresh == 0


def test_a_backup_is_of_one_moment_while_people_work(house, elsewhere, tmp_path):
    project = projects.make(house, "Busy")
    stop = threading.Event()

    def work():
        while not stop.is_set():
            plan.add_scene(house, project, "One more")

    busy = [threading.Thread(target=work) for _ in range(2)]
    for t in busy:
        t.start()
    try:
        for _ in range(4):
            backup.back_up(house, tmp_path / "all.backup")
    finally:
        stop.set()
        for t in busy:
            t.join()
    database, there = elsewhere
    backup.restore(database, there, tmp_path / "all.backup")
    with database.session() as s:
        versions = list(s.scalars(select(Change.version).order_by(Change.version)))
        assert versions == list(range(1, len(versions) + 1))
        assert s.scalar(text("SELECT COUNT(*) FROM scene")) == len(versions)
    assert doctor.examine(Workspace(database, PictureStore(there / "pictures"))).complaints == []


def test_a_backup_that_broke_off_was_never_made_and_the_next_one_goes_on(house, tmp_path, monkeypatch):
    Small(house)
    path = tmp_path / "all.backup"
    backup.back_up(house, path)
    whole = path.read_bytes()
    takes.take_in(house, "c.png", flat((1, 200, 90)))
    backup.back_up(house, path)
    longer = path.read_bytes()
    for cut in (len(whole) - 700, len(whole) + 100, len(longer) - 2000):
        path.write_bytes(longer[:cut])
        with backup_file.opened(path) as kept:
            assert len(kept.backups) == 1
        assert backup.back_up(house, path).fresh == 3
        assert backup.verify(path) == []
    path.write_bytes(whole)

    def full(self, name, file):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(backup_file.Adding, "file", full)
    with pytest.raises(OSError, match="No space"):
        backup.back_up(house, path)
    assert backup.verify(path) == []
    with pytest.raises(OSError, match="No space"):
        backup.back_up(house, tmp_path / "new.backup")
    assert {p.name for p in tmp_path.iterdir()} == {"all.backup", "here"}


def test_one_damaged_byte_is_found_and_damaged_files_are_never_restored(house, elsewhere, tmp_path):
    small, path = Small(house), tmp_path / "all.backup"
    backup.back_up(house, path)
    with backup_file.opened(path) as kept:
        name, part = next((n, k) for n, k in kept.latest.files.items() if n.endswith(small.sha))
        table, (rows_part, _) = next((t, k) for t, k in kept.latest.tables.items() if t == "shot")
    spoiled = bytearray(path.read_bytes())
    spoiled[part.at + part.bytes // 2] ^= 1
    path.write_bytes(spoiled)
    assert backup.verify(path) == [name]
    database, there = elsewhere
    with pytest.raises(BackupWrong, match="damaged"):
        backup.restore(database, there, path)
    assert inspect(database.engine).get_table_names() == []
    spoiled[part.at + part.bytes // 2] ^= 1
    spoiled[rows_part.at + rows_part.bytes // 2] ^= 1
    path.write_bytes(spoiled)
    assert backup.verify(path) == [table]


def test_what_is_no_backup_or_has_no_room_is_told(house, elsewhere, tmp_path):
    Small(house)
    path = tmp_path / "all.backup"
    backup.back_up(house, path)
    with pytest.raises(NotPossible, match="empty place"):
        backup.restore(house.database, tmp_path / "here", path)
    database, there = elsewhere
    for content in (b"", b"not a tar", os.urandom(5000), path.read_bytes()[:3000]):
        (tmp_path / "odd").write_bytes(content)
        with pytest.raises(BackupWrong):
            backup.restore(database, there, tmp_path / "odd")
    with pytest.raises(BackupWrong, match="holds 1 backups"):
        backup.restore(database, there, path, 7)
    with backup_file.opened(path, to_add=True), pytest.raises(BackupWrong, match="just now"):
        backup.back_up(house, path)


def test_the_doctor_tells_what_is_missing_broken_and_not_needed(house, tmp_path):
    small = Small(house)
    path = tmp_path / "all.backup"
    backup.back_up(house, path)
    assert doctor.examine(house, deep=True).complaints == []
    house.store.path(small.sha).unlink()
    broken = house.store.path(small.other)
    broken.write_bytes(broken.read_bytes()[:-1] + b"x")
    takes_sha = rows(house, small.project, "take")[0]["picture_sha"]
    house.sounds.path(small.sound_sha).unlink()
    stray = hashlib.sha256(b"stray").hexdigest()
    house.store.path(stray).parent.mkdir(parents=True, exist_ok=True)
    house.store.path(stray).write_bytes(b"stray")
    for complaint, words in zip(
        (told := doctor.examine(house, deep=True).complaints),
        ("pictures that rows name", "sounds that rows name", "no row names", "damaged"),
        strict=True,
    ):
        assert words in complaint.what
        assert complaint.count == 1
        assert complaint.do
    assert "“Small”: a.png" in told[0].about[0]
    assert takes_sha
    assert backup.missing_back(house, path) == 3
    assert [c.what for c in doctor.examine(house, deep=True).complaints] == [
        "pictures lie in the store that no row names"
    ]
    for thumb in house.store.root.glob("??/*.webp"):
        thumb.unlink()
    assert "thumbnail" in doctor.examine(house).complaints[0].what
    assert doctor.mend(house) > 0
    assert len(doctor.examine(house).complaints) == 1


def test_pictures_that_are_gone_before_the_backup_are_told(house, tmp_path):
    small = Small(house)
    shutil.rmtree(house.store.path(small.sha).parent)
    assert small.sha in backup.back_up(house, tmp_path / "all.backup").missing
