"""Edits of an area: asked of a service that takes masks and of one that does not, brought, proved, taken alone; and takes that grew."""

import time

import cv2
import numpy as np
import pytest
from sqlalchemy import select

from juxtaform.core.edits.area import Area, Shape
from juxtaform.records.models import Job, ServiceState
from juxtaform.studio import areas, edit_proofs, jobs, services, takes
from juxtaform.studio.areas import AreaOrder, GrowthOrder
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.workspace import NotPossible, NotThere
from tests.conftest import Staged, png, rows
from tests.services_at_work import understudy

AREA = Area((Shape("box", ((0.1, 0.1), (0.4, 0.5))),), 0.01)


@pytest.fixture(scope="module")
def staged(ws):
    return Staged(ws)


def picture_of(ws, take):
    return ws.store.pixels(take["picture_sha"])


def first_take(ws, staged):
    return min(rows(ws, staged.project, "take"), key=lambda t: (t["shot_id"] != staged.shots[0], t["position"]))


def retouched(ws, staged, elsewhere=False):
    """The first take with its area painted over; with `elsewhere` something outside changed too. Returns the new take's id."""
    take = first_take(ws, staged)
    pixels = picture_of(ws, take).copy()
    h, w = pixels.shape[:2]
    pixels[int(0.15 * h) : int(0.4 * h), int(0.15 * w) : int(0.3 * w)] = (200, 40, 40)
    if elsewhere:
        cv2.circle(pixels, (int(0.8 * w), int(0.3 * h)), 22, (30, 220, 60), -1)
    sha = takes.take_in(ws, "retouched.png", png(pixels)).sha
    changed = areas.bring(ws, staged.project, take["id"], sha, "retouched.png", AREA)
    return next(t["id"] for t in changed.rows["take"])


def take_row(ws, staged, take_id):
    return next(t for t in rows(ws, staged.project, "take") if t["id"] == take_id)


def test_a_retouched_picture_is_a_child_with_its_marks_and_a_proof(ws, staged):
    child = take_row(ws, staged, retouched(ws, staged))
    parent = first_take(ws, staged)
    assert child["parent_id"] == parent["id"]
    assert not child["picked"]
    marks = [m for m in rows(ws, staged.project, "mark") if m["take_id"] == child["id"]]
    assert [m["thread_id"] for m in marks] == [staged.ada]
    told = edit_proofs.prove(ws, staged.project, child["id"])
    assert (told.changed, told.words) == (False, "Nothing outside the area changed.")
    assert edit_proofs.prove_map(ws, staged.project, child["id"])[8:12] == b"WEBP"


def test_a_change_elsewhere_is_told_and_can_be_put_back(ws, staged):
    edit = retouched(ws, staged, elsewhere=True)
    told = edit_proofs.prove(ws, staged.project, edit)
    assert told.changed
    assert told.words.startswith("One place outside the area changed")
    h, w = picture_of(ws, first_take(ws, staged)).shape[:2]
    place = told.places[0].box
    assert place.x < 0.8 * w < place.x + place.w
    assert place.y < 0.3 * h < place.y + place.h
    only = next(t for t in edit_proofs.take_only(ws, staged.project, edit).rows["take"] if t["revision"] == 1)
    assert only["parent_id"] == told.parent_id
    before, after = picture_of(ws, first_take(ws, staged)), picture_of(ws, only)
    assert (before[:, w // 2 :] == after[:, w // 2 :]).all()
    assert (after[int(0.3 * h), int(0.2 * w)] == (200, 40, 40)).all()
    assert not edit_proofs.prove(ws, staged.project, only["id"]).changed


def test_what_cannot_be_proved_says_why(ws, staged):
    parent = first_take(ws, staged)
    with pytest.raises(NotThere, match="no edit"):
        edit_proofs.prove(ws, staged.project, parent["id"])
    with pytest.raises(NotThere, match="not grown"):
        edit_proofs.look_at_growth(ws, staged.project, parent["id"])
    nothing = Area((Shape("box", ((0.1, 0.1), (0.2, 0.2)), rubbed=True),))
    with pytest.raises(NotPossible, match="empty"):
        areas.bring(ws, staged.project, parent["id"], parent["picture_sha"], "x.png", nothing)
    with pytest.raises(NotPossible, match="Say what"):
        areas.order(ws, staged.project, AreaOrder(parent["id"], AREA, " "))


def _came(ws, project, ids):
    queue = JobQueue(ws)
    queue.start()
    try:
        until = time.monotonic() + 120
        while time.monotonic() < until:
            with ws.database.session() as s:
                states = [s.get(Job, i).state for i in ids]
            if all(state not in ("waiting", "asking", "running") for state in states):
                return states
            time.sleep(0.1)
        raise AssertionError([(j.state, j.message) for j in jobs.queue(ws, project).jobs])
    finally:
        queue.close()


def test_the_understudy_changes_the_drawn_area_alone(ws, staged):
    with understudy() as (address, _):
        services.add(ws, staged.project, "Understudy", address)
        parent = first_take(ws, staged)
        brush = Area((Shape("brush", ((0.3, 0.3), (0.5, 0.6)), 0.05),), 0.0)
        ids = areas.order(ws, staged.project, AreaOrder(parent["id"], brush, "a lantern", 2))
        assert _came(ws, staged.project, ids) == ["done"]
        came = [t for t in rows(ws, staged.project, "take") if t["made_from"].get("made")]
        assert [t["parent_id"] for t in came] == [parent["id"]] * 2
        assert came[0]["made_from"]["edit"]["words"] == "a lantern"
        assert not edit_proofs.prove(ws, staged.project, came[0]["id"]).changed
        # A service that takes no masks gets the box around the area, and may paint all of it: the proof tells.
        with ws.database.session() as s:
            for state in s.scalars(select(ServiceState)):
                state.can = state.can.replace('"masks":true', '"masks":false')
        ids = areas.order(ws, staged.project, AreaOrder(parent["id"], brush, "a boat", 1))
        assert _came(ws, staged.project, ids) == ["done"]
        boxed = [
            t for t in rows(ws, staged.project, "take") if (t["made_from"].get("edit") or {}).get("words") == "a boat"
        ]
        assert edit_proofs.prove(ws, staged.project, boxed[0]["id"]).changed
        ids = areas.grow(ws, staged.project, GrowthOrder(parent["id"], "2:1"))
        assert _came(ws, staged.project, ids) == ["done"]
        grown = next(t for t in rows(ws, staged.project, "take") if t["made_from"].get("grown"))
        told = edit_proofs.look_at_growth(ws, staged.project, grown["id"])
        assert len(told.sides) == 2
        assert np.all([s.words.startswith("What was added on the") for s in told.sides])
