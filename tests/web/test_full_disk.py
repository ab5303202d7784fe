"""A disk that fills up: every route says so in a sentence, what is there can be read, and all goes on when there is room."""

import contextlib
import errno
import os
import shutil
import subprocess
from collections import namedtuple

import pytest

from juxtaform import limits, mariadb
from juxtaform.media import store
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from tests.conftest import client_of, flat, joined
from tests.small import Small

SIZE_MB = 420


@pytest.fixture(scope="module")
def small_disk(tmp_path_factory):
    """A disk of its own, a few hundred MB large."""
    folder = tmp_path_factory.mktemp("disk")
    if subprocess.run(
        ["mount", "-t", "tmpfs", "-o", f"size={SIZE_MB}m", "tmpfs", folder], capture_output=True, check=False
    ).returncode:
        pytest.skip("no disk of its own can be had here")
    yield folder
    subprocess.run(["umount", "-l", folder], check=True)


def fill(disk):
    """Fill a disk to the last block."""
    with (disk / "fill").open("wb") as out, contextlib.suppress(OSError):
        while True:
            out.write(bytes(1 << 20))
            out.flush()
    assert shutil.disk_usage(disk).free < 1 << 20


@pytest.fixture(scope="module")
def ws(small_disk):
    server = mariadb.start(small_disk / "mariadb")
    database = Database(server.create("full"))
    database.migrate()
    yield Workspace(database, PictureStore(small_disk / "pictures"))
    database.close()
    server.stop()


def test_a_disk_that_is_full_is_told_and_all_goes_on_when_there_is_room(small_disk, ws, monkeypatch):
    """Nothing stands between the full disk and the request here: the guard that refuses before that is off."""
    monkeypatch.setattr(limits, "LEAST_FREE_MB", 0)
    client = client_of(ws, Checker(ws), raise_server_exceptions=False)
    project = f"/api/projects/{client.post('/api/projects', json={'title': 'Full'}).json()['id']}"
    fill(small_disk)
    told = []
    for i in range(12):
        answer = client.put(f"{project}/text", json={"text": f"{i} " + os.urandom(600_000).hex()})
        told.append(answer.status_code)
        if answer.status_code != 200:
            assert answer.status_code in (503, 507), answer.text
            assert answer.json()["detail"].endswith(".")
    taken = client.post(f"{project}/pictures", files={"file": ("a.png", flat((1, 2, 3)))}, data={"name": "a.png"})
    assert taken.status_code == 507 or "disk full" in taken.json()["refused"].lower(), taken.text
    assert 507 in told
    assert client.get(project).status_code == 200
    (small_disk / "fill").unlink()
    assert client.put(f"{project}/text", json={"text": "Room again."}).status_code == 200
    assert joined(client.get(project).json()["rows"]["text_part"]) == "Room again."
    assert not list(ws.store.root.rglob("tmp*"))


@pytest.fixture
def nearly_full(monkeypatch):
    usage = namedtuple("usage", "total used free")
    monkeypatch.setattr(shutil, "disk_usage", lambda path: usage(1, 1, 5 << 20))


def test_every_route_that_changes_something_says_that_the_disk_is_full(ws, nearly_full):
    client = client_of(ws, Checker(ws))
    document = client.get("/api/openapi.json").json()
    asked = 0
    for path, operations in document["paths"].items():
        for method in operations:
            if method == "get":
                continue
            answer = client.request(method, path.replace("{", "").replace("}", ""), json={})
            assert answer.status_code == 507, (method, path, answer.text)
            assert "Only 5 MB are free" in answer.json()["detail"]
            asked += 1
    assert asked > 60
    assert client.get("/api/projects").status_code == 200


def test_a_picture_that_cannot_be_written_is_refused_and_leaves_nothing(ws, monkeypatch):
    small = Small(ws)
    before = sorted(ws.store.root.rglob("*"))

    def full(fd):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(store.os, "fsync", full)
    client = client_of(ws, Checker(ws))
    answer = client.post(
        f"/api/projects/{small.project}/pictures", files={"file": ("a.png", flat((7, 7, 7)))}, data={"name": "a.png"}
    )
    assert "disk full" in answer.json()["refused"].lower()
    monkeypatch.undo()
    assert [p for p in sorted(ws.store.root.rglob("*")) if p.is_file()] == [p for p in before if p.is_file()]
