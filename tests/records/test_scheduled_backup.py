"""Backups that a running server makes by itself, and commands beside it."""

import time

from typer.testing import CliRunner

from juxtaform.cli import app
from juxtaform.formats import backup_file
from juxtaform.keeper import BackupKeeper, Keeper
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio import projects
from juxtaform.studio.workspace import Workspace


def command(*words):
    return CliRunner().invoke(app, words)


def test_a_running_server_backs_up_by_itself_and_a_restore_brings_it_back(tmp_path):
    var, file = tmp_path / "var", tmp_path / "story.backup"
    var.mkdir()
    keeper = Keeper(var / "mariadb")
    try:
        database = Database(keeper.server.create("juxtaform"))
        database.migrate()
        ws = Workspace(database, PictureStore(var / "pictures"))
        projects.make(ws, "The borrowed tide")
        backups = BackupKeeper(var, file, 0.0004)
        until = time.monotonic() + 120
        while time.monotonic() < until:
            if file.exists():
                with backup_file.opened(file) as kept:
                    if len(kept.backups) >= 2:
                        break
            time.sleep(0.2)
        backups.stop()
        with backup_file.opened(file) as kept:
            assert len(kept.backups) >= 2
        told = command("doctor", "--var", str(var))
        assert (told.exit_code, "All is well" in told.stdout) == (0, True), told.stderr
        into = command("restore", str(file), "--var", str(var))
        assert (into.exit_code, "empty place" in into.stderr) == (2, True)
        database.close()
    finally:
        keeper.stop()
    listed = command("restore", str(file), "--list")
    assert "1  20" in listed.stdout
    back = command("restore", str(file), "--var", str(tmp_path / "new"))
    assert back.exit_code == 0, back.stderr
    assert "Restored the state of" in back.stdout
    assert command("backup", str(file), "--only-verify").exit_code == 0
    for name in ("backup", "doctor", "accounts"):
        words = (str(file),) if name == "backup" else ()
        told = command(name, *words, "--var", str(tmp_path / "wrong"))
        assert (told.exit_code, "There is no Juxtaform in" in told.stderr) == (2, True)
        assert not (tmp_path / "wrong").exists()
    for odd in ("nowhere", __file__):
        told = command("restore", odd, "--var", str(tmp_path / "other"))
        assert told.exit_code == 2
        assert len(told.stderr.strip().splitlines()) == 1, told.stderr
