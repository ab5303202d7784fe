"""A backup or a restore whose process is killed: what was whole before stays whole, and the next one goes through."""

import os
import signal
import subprocess
import sys
import time

import numpy as np
import pytest
from sqlalchemy import text

from juxtaform.formats import backup_file
from juxtaform.records.database import Database
from juxtaform.studio import backup, doctor, projects, takes
from juxtaform.studio.workspace import Workspace
from tests.conftest import _names, empty_workspace, png

PATIENCE_S = 60.0
pytestmark = pytest.mark.kill


@pytest.fixture
def house(server, tmp_path):
    (tmp_path / "here").mkdir()
    with empty_workspace(server, tmp_path / "here" / "pictures") as ws:
        projects.make(ws, "Killed")
        yield ws


def pictures(ws, count, seed):
    """So many pictures of half a megabyte."""
    rng = np.random.default_rng(seed)
    for i in range(count):
        taken = takes.take_in(ws, f"{i}.png", png(rng.integers(0, 255, (400, 420, 3), dtype=np.uint8)))
        assert taken.sha


def command(database, *words):
    env = {**os.environ, "JUXTAFORM_DATABASE": database.url}
    return subprocess.Popen(
        [sys.executable, "-m", "juxtaform.cli", *map(str, words)],
        env=env,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
    )


def killed(process, when):
    """Kill a process once something is so; it may not end before."""
    until = time.monotonic() + PATIENCE_S
    while not when():
        assert process.poll() is None, process.communicate()[0]
        assert time.monotonic() < until
        time.sleep(0.001)
    process.send_signal(signal.SIGKILL)
    assert process.wait() == -signal.SIGKILL


def test_a_backup_that_is_killed_leaves_the_earlier_one_and_the_next_is_whole(house, server, tmp_path):
    file = tmp_path / "all.backup"
    pictures(house, 3, 1)
    first = backup.back_up(house, file)
    pictures(house, 40, 2)
    begun = file.stat().st_size
    process = command(house.database, "backup", file, "--var", tmp_path / "here")
    killed(process, lambda: file.stat().st_size >= begun + (8 << 20))  # In the middle of its pictures.
    with backup_file.opened(file) as kept:
        assert [len(whole.files) for whole in kept.backups] == [first.files]
    assert backup.verify(file) == []
    whole = backup.back_up(house, file)
    assert (whole.missing, whole.files > first.files) == ([], True)
    assert backup.verify(file) == []
    with backup_file.opened(file) as kept:
        assert len(kept.backups) == 2


def test_a_restore_that_is_killed_can_be_made_again(house, server, tmp_path):
    file, there = tmp_path / "all.backup", tmp_path / "there"
    pictures(house, 40, 3)
    told = backup.back_up(house, file)
    database = Database(server.create(next(_names)))

    def tables():
        with database.engine.connect() as connection:
            return len(connection.execute(text("SHOW TABLES")).all())

    def written():
        return len(list((there / "pictures").glob("??/*"))) if there.exists() else 0

    for when in (lambda: written() > 20, lambda: tables() > 5):
        killed(command(database, "restore", file, "--var", there), when)
    again = command(database, "restore", file, "--var", there)
    assert again.wait(PATIENCE_S) == 0, again.communicate()[0]
    assert f"{told.rows} rows" in again.communicate()[0]
    ws = Workspace(database, type(house.store)(there / "pictures"))
    assert doctor.examine(ws, deep=True).complaints == []
    # What was being written when it died is cleared away as the server starts.
    ws.store.clear_halves(time.time() + 1)
    assert not list((there / "pictures").glob("??/tmp*"))
    database.close()
