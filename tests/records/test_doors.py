"""The database lets in nobody but us: tried as another user of the machine, over the network of the machine and by its files."""

import os
import shutil
import signal
import subprocess
import tempfile
import time
from pathlib import Path

import pymysql
import pytest

from juxtaform import mariadb, private
from juxtaform.keeper import Keeper
from juxtaform.records.database import Database
from juxtaform.studio import projects
from juxtaform.studio.workspace import Workspace

NOBODY = 65534


@pytest.fixture(scope="module")
def home():
    """A folder that everybody may enter, as a user's own often is."""
    folder = Path(tempfile.mkdtemp())
    folder.chmod(0o755)
    yield folder
    shutil.rmtree(folder)


@pytest.fixture(scope="module")
def running(home):
    server = mariadb.start(home / "mariadb")
    server.create("juxtaform")
    yield server
    server.stop()


def as_nobody(*command):
    if os.geteuid() != 0:
        pytest.skip("only root can act as another user")
    return subprocess.run(
        command,
        capture_output=True,
        text=True,
        user=NOBODY,
        group=NOBODY,
        extra_groups=[],
        cwd="/",
        timeout=300,
        check=False,
    )


@pytest.mark.parametrize(
    "who", [["-uroot"], ["-ujuxtaform"], ["-ujuxtaform", "-pguess"], ["-umysql"], ["-unobody"], ["--user="]]
)
def test_another_user_of_the_machine_is_not_let_in(running, who):
    asked = ["-e", "SELECT 1", "--connect-timeout=5", "--no-defaults"]
    came = as_nobody("mariadb", asked[-1], "-h127.0.0.1", f"-P{running.port}", "--protocol=tcp", *who, *asked[:-1])
    assert came.returncode != 0
    assert "denied" in came.stderr.lower()


def test_nor_by_the_socket(running, home):
    sock = home / "mariadb.run" / "s.sock"
    assert sock.exists()
    came = as_nobody("mariadb", "--no-defaults", f"--socket={sock}", "-uroot", "-e", "SELECT 1")
    assert came.returncode != 0


@pytest.mark.parametrize("path", ["mariadb.run/password", "mariadb.log", "mariadb/ibdata1", "mariadb.run/s.sock"])
def test_nor_to_its_files(running, home, path):
    assert (home / path).exists()
    came = as_nobody("cat", str(home / path))
    assert came.returncode != 0
    assert not came.stdout
    assert all(p.stat().st_mode & 0o077 == 0 for p in (home / path).parents if home in p.parents)
    if path.endswith(("password", ".log")):
        assert (home / path).stat().st_mode & 0o777 == 0o600


def test_our_own_user_has_no_way_to_files_and_other_databases(running, home):
    with running.connection() as connection, connection.cursor() as cursor:
        for refused in (
            f"SELECT 1 INTO OUTFILE '{home}/written'",
            f"SELECT 1 INTO OUTFILE '{home}/mariadb.run/files/written'",
            "CREATE DATABASE elsewhere",
            "SELECT * FROM mysql.global_priv",
            "CREATE USER eve@localhost",
            f"SET GLOBAL general_log_file = '{home}/written'",
        ):
            with pytest.raises(pymysql.Error, match=r"denied|1227|1290"):
                cursor.execute(refused)
        cursor.execute("SELECT LOAD_FILE('/etc/hostname')")
        assert cursor.fetchone() == (None,)
    assert not (home / "written").exists()


def test_it_listens_on_loopback_alone(running):
    told = subprocess.run(["cat", f"/proc/{running.process.pid}/net/tcp"], capture_output=True, text=True, check=True)
    mine = [line.split()[1] for line in told.stdout.splitlines() if f":{running.port:04X} " in line and " 0A " in line]
    assert mine == [f"0100007F:{running.port:04X}"]


def test_a_password_is_nowhere_to_be_read(running, home):
    assert running.password not in repr(running)
    assert running.password not in (home / "mariadb.log").read_text()
    assert running.password not in Path(f"/proc/{running.process.pid}/cmdline").read_text()
    assert not (home / "mariadb.run" / "doors.sql").exists()


def test_a_password_that_others_could_read_is_made_anew(tmp_path):
    kept = private.password(tmp_path / "password")
    assert private.password(tmp_path / "password") == kept
    (tmp_path / "password").chmod(0o644)
    assert private.password(tmp_path / "password") != kept
    assert (tmp_path / "password").stat().st_mode & 0o777 == 0o600


def test_a_database_from_before_is_closed_at_its_next_start(tmp_path, monkeypatch):
    """Made without doors: its root has no password, others have accounts, its folders are open."""
    real = mariadb._command
    monkeypatch.setattr(mariadb, "_doors", lambda password: "SELECT 1;\n")
    monkeypatch.setattr(mariadb, "_answers", lambda running, deadline: time.sleep(3) or running.process.poll() is None)
    older = mariadb.start(tmp_path / "mariadb")
    with pymysql.connect(host="127.0.0.1", port=older.port, user="root", autocommit=True) as connection:
        for done in (
            "CREATE DATABASE juxtaform",
            "CREATE TABLE juxtaform.shot (shows TEXT)",
            "INSERT INTO juxtaform.shot VALUES ('kept')",
            "CREATE USER eve@'%'",
            "CREATE USER root@'%'",
            "GRANT ALL ON *.* TO root@'%'",
        ):
            connection.cursor().execute(done)
    older.stop()
    monkeypatch.undo()
    assert mariadb._command is real
    for path in (tmp_path / "mariadb", tmp_path / "mariadb.log"):
        path.chmod(0o755)
    again = mariadb.start(tmp_path / "mariadb")
    try:
        for user in ("root", "eve", ""):
            with pytest.raises(pymysql.Error, match="denied"):
                pymysql.connect(host="127.0.0.1", port=again.port, user=user)
        with again.connection() as connection, connection.cursor() as cursor:
            cursor.execute("SELECT shows FROM juxtaform.shot")
            assert cursor.fetchone() == ("kept",)
        assert (tmp_path / "mariadb").stat().st_mode & 0o777 == 0o700
        assert (tmp_path / "mariadb.log").stat().st_mode & 0o777 == 0o600
    finally:
        again.stop()


def test_a_database_that_dies_is_started_again_with_what_it_had(tmp_path):
    keeper = Keeper(tmp_path / "mariadb")
    try:
        database = Database(keeper.server.create("juxtaform"))
        database.migrate()
        ws = Workspace(database, None)
        kept = projects.make(ws, "Kept")
        first = keeper.server.process
        os.kill(first.pid, signal.SIGKILL)
        deadline = time.monotonic() + 600
        while time.monotonic() < deadline:
            if keeper.server.process.pid == first.pid:
                time.sleep(0.1)
                continue
            try:
                assert [p.id for p in projects.shelf(ws)] == [kept]
                break
            except Exception:
                time.sleep(0.3)
        assert keeper.server.process.pid != first.pid
        assert projects.make(ws, "And goes on")
        database.close()
    finally:
        keeper.stop()
    assert keeper.server.process.poll() is not None
