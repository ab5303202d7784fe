"""What came to the demo's shots after its first pictures: takes by the Understudy, a trial, marks of what went wrong, and so a ledger; and what was made by hand."""

from __future__ import annotations

import time
from collections.abc import Callable

import httpx

from juxtaform.core.picture.regions import Box
from juxtaform.demo import by_hand
from juxtaform.records.models import Picture, Take
from juxtaform.studio import fault_marks, jobs, making, plan, projects, services, takes, trials
from juxtaform.studio.making import Order
from juxtaform.studio.queue import JobQueue
from juxtaform.studio.trials import Axis, TrialOrder
from juxtaform.studio.workspace import Workspace, found, of_project

Say = Callable[[str], None]

MADE_OF = (1, 5, 8)
"""The shots, from 0 on, that takes were made of, and how many of each."""
TAKES = 8
TRIAL_OF, WEIGHTS, SEEDS = 8, ("30", "60", "90"), 6
ALLOWANCE = 120.0
WAIT_S = 180.0
MARKED = {
    "twice": "twice",
    "missing": "missing",
    "somebody_else": "wrong person",
    "border": "border",
    "lettering": "lettering",
    "soft": "soft",
    "recoloured": "other",
    "another_hand": "other",
}
"""How each slip of the Understudy is marked."""
NOTES = {"recoloured": "another colour", "another_hand": "another hand"}
OPEN = {"held", "waiting", "asking", "running"}
LOST = {"failed", "refused"}


def make_takes(ws: Workspace, project: str, say: Say = lambda _: None) -> None:
    """Have takes made, and sort them as an illustrator would: what slipped is marked and put out, one is kept. Does nothing where no
    Understudy runs."""
    if ws.understudy is None:
        return
    say("The Understudy makes takes …")
    services.add(ws, project, services.OWN_NAME, services.OWN)
    projects.edit(ws, project, {"allowance": ALLOWANCE}, None)
    with ws.database.reading() as s:
        shots = [x.id for x in plan.in_order(s, project)]
        threads = {t["name"]: t["id"] for t in projects.snapshot(ws, project).rows["thread"]}
        service = projects.snapshot(ws, project).rows["service"][0]["id"]
    making.make(ws, project, Order(tuple(shots[i] for i in MADE_OF), TAKES, service, as_it_is=True))
    by_hand.bring(ws, project, shots)
    pell = threads["Pell"]
    weights = Axis("weight", pell, WEIGHTS)
    trials.start(ws, project, TrialOrder(shots[TRIAL_OF], (weights,), SEEDS, service, thread_id=pell))
    queue = JobQueue(ws)
    queue.start()
    try:
        all_made(queue, project)
    finally:
        queue.close()
    _sorted(ws, project, [shots[i] for i in MADE_OF])
    projects.forget_history(ws, project)


def all_made(queue: JobQueue, project: str) -> None:
    """Wait until all jobs have ended. What went wrong in the trial is asked for again, as its settings can only be told apart with a picture of each."""
    until = time.monotonic() + WAIT_S
    while time.monotonic() < until:
        told = jobs.queue(queue.ws, project).jobs
        if lost := [j.id for j in told if j.trial_id is not None and j.state in LOST]:
            jobs.steer(queue.ws, project, "again", lost)
            queue.touched(project)
        elif not any(j.state in OPEN for j in told):
            return
        time.sleep(0.2)


def _sorted(ws: Workspace, project: str, shots: list[str]) -> None:
    """Mark what slipped in takes of some shots where it is looked for first, put these out, and keep the first that is right."""
    with ws.database.reading() as s:
        made = [t for t in of_project(s, Take, project) if (t.made_from.get("made") or {}) and t.shot_id in shots]
        made = [t for t in made if "trial_id" not in t.made_from["made"]]
        sizes = {t.id: found(s, Picture, t.picture_sha) for t in made}
    kept: set[str] = set()
    for t in sorted(made, key=lambda t: t.position):
        slipped = _slips(ws, t.picture_sha)
        p = sizes[t.id]
        for kind in slipped:
            box = Box(0.38 * p.width, 0.4 * p.height, 0.24 * p.width, 0.3 * p.height)
            fault_marks.add(ws, project, t.id, MARKED[kind], box, NOTES.get(kind, ""))
        if slipped:
            takes.stand(ws, project, [t.id], "out")
        elif t.shot_id not in kept:
            kept.add(t.shot_id)
            takes.stand(ws, project, [t.id], "kept")


def _slips(ws: Workspace, sha: str) -> list[str]:
    """What the Understudy says went wrong in a picture of its own."""
    assert ws.understudy is not None
    address, token = ws.understudy
    answer = httpx.get(
        f"{address}/understudy/slips/{sha}", headers={"Authorization": f"Bearer {token}"}, timeout=10, trust_env=False
    )
    return [s["kind"] for s in answer.json() if s["kind"] in MARKED] if answer.status_code == httpx.codes.OK else []
