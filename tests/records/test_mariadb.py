"""The database of our own: it finds a port, and says in one sentence why it cannot come up."""

import shutil
import socket
from collections import namedtuple
from concurrent.futures import ThreadPoolExecutor

import pytest

from juxtaform import mariadb
from juxtaform.mariadb import DatabaseTrouble


@pytest.fixture
def taken_port():
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        s.listen()
        yield s.getsockname()[1]


def test_a_port_that_was_taken_in_the_last_moment_is_given_up_for_another(taken_port, tmp_path, monkeypatch):
    free = mariadb.free_port()
    ports = iter([taken_port, free])
    monkeypatch.setattr(mariadb, "free_port", lambda: next(ports))
    running = mariadb.start(tmp_path / "data")
    try:
        assert running.port == free
        running.create("kept")
        with running.connection() as connection, connection.cursor() as cursor:
            cursor.execute("SHOW DATABASES")
            assert ("juxtaform_kept",) in cursor.fetchall()
    finally:
        running.stop()


def test_a_port_that_was_asked_for_and_is_taken_is_told_with_the_log(taken_port, tmp_path):
    with pytest.raises(DatabaseTrouble, match=r"taken by another program.*Its log is .*data\.log"):
        mariadb.start(tmp_path / "data", taken_port)


def test_data_that_another_server_uses_is_told(tmp_path, monkeypatch):
    monkeypatch.setattr(mariadb, "PREDECESSOR_S", 0)
    running = mariadb.start(tmp_path / "data")
    try:
        with pytest.raises(DatabaseTrouble, match="already runs"):
            mariadb.start(tmp_path / "data")
    finally:
        running.stop()


def test_what_was_made_is_there_after_a_stop(tmp_path):
    running = mariadb.start(tmp_path / "data")
    with running.connection(autocommit=True) as connection:
        running.create("plans")
        connection.cursor().execute("CREATE TABLE juxtaform_plans.shot (shows TEXT)")
        connection.cursor().execute("INSERT INTO juxtaform_plans.shot VALUES ('A crab – 🦀')")
    running.stop()
    again = mariadb.start(tmp_path / "data")
    try:
        with again.connection() as connection, connection.cursor() as cursor:
            cursor.execute("SELECT shows FROM juxtaform_plans.shot")
            assert cursor.fetchall() == (("A crab – 🦀",),)
    finally:
        again.stop()


def test_no_database_program_says_what_to_install(tmp_path, monkeypatch):
    monkeypatch.setattr(shutil, "which", lambda name: None)
    with pytest.raises(DatabaseTrouble, match="apt-get install mariadb-server"):
        mariadb.start(tmp_path / "data")


def test_a_full_disk_is_told_before_anything_is_written(tmp_path, monkeypatch):
    usage = namedtuple("usage", "total used free")
    monkeypatch.setattr(shutil, "disk_usage", lambda path: usage(1, 1, 5 * 2**20))
    with pytest.raises(DatabaseTrouble, match="Only 5 MB are free"):
        mariadb.start(tmp_path / "data")
    assert not (tmp_path / "data").exists()


def test_servers_that_start_at_once_leave_each_other_alone(tmp_path):
    def started(i):
        running = mariadb.start(tmp_path / str(i) / "data")
        running.stop()
        return running.port

    with ThreadPoolExecutor(6) as executor:
        assert len(list(executor.map(started, range(6)))) == 6
