"""The commands on projects, against a running server: what they print, what they write, and how they end; and that the client is as the API is."""

import json
import zipfile

import numpy as np
import pytest
from typer.testing import CliRunner

from juxtaform.cli import app
from juxtaform.client import Api, NotReached, Refused
from juxtaform.demo.paper import bordered
from juxtaform.studio import projects
from juxtaform.web.app import Entrance
from tests.conftest import flat, png, rows, served
from tests.constructed import scene
from tests.people import House, joins, person, without_people
from tools import client as maker

STORY = (
    "# The quay\n\nAda came in and sat down on the step.\n\nAda stood up and looked at the sea.\n\nAda left, whistling."
)


@pytest.fixture(scope="module")
def at(ws, checker):
    with served(ws, checker) as address:
        yield address


@pytest.fixture
def run(at, monkeypatch):
    """Run a command; how it ended, what it printed, and what it said on the side."""

    def ran(*words, token="", address=at):
        monkeypatch.setenv("JUXTAFORM_TOKEN", token)
        done = CliRunner().invoke(app, ["project", *map(str, words), "--at", address])
        assert done.exception is None or isinstance(done.exception, SystemExit), done.exception
        return done

    return ran


@pytest.fixture
def folder(tmp_path):
    """A text and three pictures: of the first shot, of the last one, and of a shot that there is not."""
    (tmp_path / "tide.md").write_text(STORY)
    pictures = tmp_path / "pictures"
    pictures.mkdir()
    for i in (1, 3, 9):
        (pictures / f"tide {i}.png").write_bytes(flat((10 * i, 90, 120)))
    (pictures / "notes.txt").write_text("no picture")
    (pictures / "tide 2.png").write_bytes(b"no picture either")
    return tmp_path


def events(done):
    return [json.loads(line) for line in done.stdout.splitlines()]


def test_the_client_is_as_the_api_is():
    """`python -m tools.client` makes it anew."""
    assert maker.HERE.read_text() == maker.written()


def test_a_project_comes_of_a_text_and_a_folder(run, ws, folder):
    done = run("new", folder / "tide.md", "--pictures", folder / "pictures", "--title", "A tide by a script", "--json")
    told = events(done)
    assert done.exit_code == 1
    assert [e["event"] for e in told if e["event"] != "progress"] == [
        "project",
        "shots",
        "refused",
        "left",
        "takes",
        "done",
    ]
    assert [e["done"] for e in told if e["event"] == "progress"] == [1, 2, 3, 4]
    assert next(e for e in told if e["event"] == "refused")["name"] == "tide 2.png"
    assert next(e for e in told if e["event"] == "left")["name"] == "tide 9.png"
    made = told[-1]
    assert (made["shots"], made["left_out"]) == (3, 2)
    assert [s["status"] for s in rows(ws, made["id"], "shot")] == ["settled"] * 3
    shots = [s["id"] for s in rows(ws, made["id"], "shot")]
    assert {(t["name"], shots.index(t["shot_id"])) for t in rows(ws, made["id"], "take")} == {
        ("tide 1.png", 0),
        ("tide 3.png", 2),
    }
    plain = run("new", folder / "tide.md")
    assert plain.exit_code == 0
    assert projects.snapshot(ws, plain.stdout.strip()).rows["project"][0]["title"] == "tide"


def test_a_check_ends_by_what_it_finds(run, ws, at, folder):
    project = run("new", folder / "tide.md").stdout.strip()
    clean = run("check", project, "--json")
    assert (clean.exit_code, events(clean)[-1]) == (0, {"event": "done", "findings": 0})
    shots = [s["id"] for s in rows(ws, project, "shot")]
    with Api(at) as api:
        for i, shot in enumerate(shots):
            page = scene([], np.random.default_rng(3), ground=5 + i)[0]
            page = bordered(page, 0.08, "#f3efe6") if i == 1 else page
            sha = api.post_projects_pictures(project, ("a.png", png(page)), "a.png")["sha"]
            api.post_projects_takes(project, {"files": [{"name": "a.png", "sha": sha, "shot_id": shot}]})
    found = run("check", project, "--json")
    told = [e for e in events(found) if e["event"] == "finding"]
    assert (found.exit_code, bool(told)) == (1, True), found.output
    assert "border" in {e["kind"] for e in told if e["number"] == 2}
    with Api(at) as api:
        for one in told:
            api.post_projects_stets(project, {"finding_key": one["key"], "reason": "meant"})
    assert run("check", project).exit_code == 0


def test_briefs_and_files_come_under_their_names(run, folder):
    project = run("new", folder / "tide.md", "--title", "Out it goes").stdout.strip()
    assert run("briefs", project, "--to", folder / "out" / "briefs.zip").exit_code == 0
    assert zipfile.is_zipfile(folder / "out" / "briefs.zip")
    assert run("briefs", "Out it goes", "--to", folder / "briefs.md").stdout.strip() == str(folder / "briefs.md")
    assert "Ada" in (folder / "briefs.md").read_text()
    refused = run("briefs", project, "--to", folder / "briefs.doc")
    assert (refused.exit_code, "briefs are written as" in refused.stderr) == (2, True)
    made = run("deliver", project, "captions", "--to", folder / "out", "--set", "captions=srt", "--json")
    assert made.exit_code == 0, made.output
    assert events(made)[-1]["file"].endswith(".srt")
    assert "Ada came in" in (folder / "out" / "Out it goes.srt").read_text()
    assert not list((folder / "out").glob(".part*"))
    wrong = run("deliver", project, "storyboard", "--to", folder, "--set", "a_page=5")
    assert wrong.exit_code == 2
    assert "a_page" in wrong.stderr


def test_what_cannot_be_done_says_why_and_ends_with_2(run, tmp_path):
    for words, told in (
        (("check", "Nobody’s"), "There is no project “Nobody’s”"),
        (("check", "0" * 32), "This project is not there"),
        (("new", tmp_path / "none.txt"), "No such file"),
        (("deliver", "0" * 32, "captions", "--set", "srt"), "write name=value"),
    ):
        done = run(*words)
        assert done.exit_code == 2, words
        assert told in done.stderr
    away = run("list", address="http://127.0.0.1:9")
    assert (away.exit_code, "Does it run?" in away.stderr) == (2, True)
    with pytest.raises(NotReached), Api("http://127.0.0.1:9") as api:
        api.get_projects()


def test_where_there_are_accounts_a_token_opens_what_it_may(ws, checker, run, folder):
    house = House(ws, checker)
    mira = person(ws, "mira", keeper=True)
    project = projects.make(ws, "Mira’s")
    joins(ws, project, mira, "owner")
    other = projects.make(ws, "Another")
    try:
        with served(ws, checker, entrance=Entrance()) as address:
            nobody = run("list", address=address)
            assert (nobody.exit_code, nobody.stdout) == (2, "")
            reading, alone = house.token(mira, "read"), house.token(mira, "write", project)
            assert "Mira’s" in run("list", token=reading, address=address).stdout
            assert run("new", folder / "tide.md", token=reading, address=address).exit_code == 2
            assert run("check", project, token=alone, address=address).exit_code == 0
            assert run("check", other, token=alone, address=address).exit_code == 2
            with Api(address, alone) as api, pytest.raises(Refused, match="one project alone") as refused:
                api.get_projects()
            assert refused.value.status == 403
    finally:
        without_people(house)
