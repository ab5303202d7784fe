"""Live events are read from the journal: nothing between a snapshot and the first event is lost, nor over a restart."""

import asyncio
import json

import pytest

from juxtaform.studio import plan, projects, threads
from juxtaform.studio.background import Background
from juxtaform.studio.live import LiveProjects
from juxtaform.studio.measuring import Workers
from juxtaform.studio.presence import Presence
from juxtaform.studio.showings import News
from juxtaform.studio.workspace import NotThere, Workspace
from juxtaform.web.entrance import Visitor
from juxtaform.web.events import _there, events
from tests.conftest import rows


def heard(ws, project, after, count, last_event_id="", meanwhile=None):
    """The next events as (name, data, id), with something done after the first wait."""

    async def listen():
        told, nobody = [], Visitor()
        stream = events(
            ws,
            LiveProjects(ws),
            Background(ws, Workers()),
            Presence(ws.listeners),
            News(),
            nobody,
            project,
            after,
            "",
            last_event_id,
        )
        if meanwhile:
            asyncio.get_running_loop().call_later(0.2, meanwhile)
        async for e in stream:
            told.append((e.event, json.loads(e.raw_data), e.id))
            if len(told) == count:
                break
        await stream.aclose()
        return told

    return asyncio.run(asyncio.wait_for(listen(), 300))


def test_what_happened_between_the_snapshot_and_the_first_event_is_told(ws, project):
    seen = projects.snapshot(ws, project).version
    plan.add_scene(ws, project, "Late")
    plan.add_scene(ws, project, "Later")
    (name, told, key), (check, status, _) = heard(ws, project, seen, 2)
    assert (name, key, told["since"], told["version"]) == ("changed", str(seen + 2), seen, seen + 2)
    assert {s["title"] for s in told["rows"]["scene"]} == {"Late", "Later"}
    assert (check, status["state"]) == ("check", "never")


def test_a_change_wakes_a_listener(ws, project):
    seen = projects.snapshot(ws, project).version
    told = heard(ws, project, seen, 2, meanwhile=lambda: threads.make(ws, project, "character", "Ada"))
    assert told[1][1]["rows"]["thread"][0]["name"] == "Ada"
    assert told[1][1]["undo_label"] == "made Ada"


def test_a_listener_that_comes_again_after_a_restart_is_told_what_it_missed(ws, project):
    plan.add_scene(ws, project, "One")
    scene = rows(ws, project, "scene")[0]["id"]
    seen = projects.snapshot(ws, project).version
    plan.delete_shots(ws, project, [s["id"] for s in rows(ws, project, "shot")])
    anew = Workspace(ws.database, ws.store)
    (_, told, _), _ = heard(anew, project, 0, 2, last_event_id=str(seen))
    assert told["since"] == seen
    assert scene in told["gone"]["scene"]


@pytest.mark.parametrize("nonsense", ["", "x", "-4", "9" * 40, "１"])
def test_a_strange_last_event_id_is_passed_over(ws, project, nonsense):
    plan.add_scene(ws, project, "One")
    (_, told, _), _ = heard(ws, project, 0, 2, last_event_id=nonsense)
    assert (told["since"], told["version"]) == (0, 1)


def test_who_has_a_version_that_never_was_is_told_to_begin_anew(ws, project):
    assert heard(ws, project, 77, 1)[0][0] == "anew"


def test_a_listener_is_told_that_its_project_is_gone(ws, project):
    told = heard(ws, project, 0, 2, meanwhile=lambda: (projects.remove(ws, project), ws.listeners.wake(project)))
    assert told[-1][0] == "gone"
    with pytest.raises(NotThere):
        _there(ws, project)
