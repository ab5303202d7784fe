"""Routes of what is made of takes: made again, finals, trials, rescues, what faults share, and the ledger."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import Field

from juxtaform.records.rules import FaultKind, Id, Label, Quality, Words
from juxtaform.studio import fault_causes, finals, ledger, remaking, rescuing, trials
from juxtaform.studio.fault_causes import FaultsTold
from juxtaform.studio.finals import FinalPass
from juxtaform.studio.ledger import Ledger
from juxtaform.studio.remaking import Remake
from juxtaform.studio.rescuing import RescueOffer
from juxtaform.studio.trials import Axis, TrialOrder, TrialView
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheGauge, TheQueue, Ws, attachment, file_answer, out
from juxtaform.web.rows import ChangedOut
from juxtaform.web.services import Asked
from juxtaform.web.threads import BoxIn

router = APIRouter(prefix="/projects/{project_id}", tags=["takes"], responses=ERRORS)


class RemakeIn(Body):
    """How a take is made again: how many, by whom, how good, with the same seed, with one phrase changed, from the picture itself."""

    count: Annotated[int, Field(ge=1, le=40)] = 1
    service_id: Id | None = None
    model: Label = ""
    quality: Quality = "draft"
    same_seed: bool = False
    key: Label | None = None
    now: Words = ""
    from_picture: bool = False


class FinalsIn(Body):
    shot_ids: Annotated[list[Id], Field(min_length=1, max_length=5000)] | None = None
    service_id: Id | None = None


class AxisIn(Body):
    varies: Annotated[str, Field(pattern="^(weight|style|service|phrase)$")]
    about: Annotated[str, Field(max_length=120)] = ""
    choices: Annotated[list[Annotated[str, Field(max_length=2000)]], Field(min_length=1, max_length=8)]


class TrialIn(Body):
    axes: Annotated[list[AxisIn], Field(min_length=1, max_length=2)]
    seeds: Annotated[int, Field(ge=1, le=12)] = 5
    service_id: Id
    model: Label = ""
    quality: Quality = "draft"
    about_thread_id: Id | None = None


class TrialBegun(Body):
    trial_id: str
    job_ids: list[str]
    changed: ChangedOut


class WinnerIn(Body):
    at: Annotated[list[Annotated[int, Field(ge=0, le=7)]], Field(min_length=1, max_length=2)]
    everywhere: bool = False


class CropIn(Body):
    box: BoxIn


class FaultMendIn(Body):
    """What is done against a fault that recurs: `dont` adds a don't, `phrase` takes the words out."""

    fault: FaultKind
    kind: Label
    what: Annotated[str, Field(max_length=300)]
    how: Annotated[str, Field(pattern="^(dont|phrase)$")]


@router.post("/takes/{take_id}/remake", summary="Ask for takes that go on from one", status_code=202)
def remake(ws: Ws, queue: TheQueue, project_id: str, take_id: str, body: RemakeIn) -> Asked:
    phrase = (body.key, body.now) if body.key else None
    wanted = Remake(
        take_id, body.count, body.service_id or "", body.model, body.quality, body.same_seed, phrase, body.from_picture
    )
    ids = remaking.remake(ws, project_id, wanted)
    queue.touched(project_id)
    return Asked(job_ids=ids)


@router.get("/finals", summary="Finals beside their drafts, and picked drafts that have none")
def look_at_finals(ws: Ws, gauge: TheGauge, project_id: str) -> FinalPass:
    return finals.look(ws, gauge, project_id)


@router.post("/finals", summary="Make picked drafts again in full", status_code=202)
def begin_finals(ws: Ws, queue: TheQueue, project_id: str, body: FinalsIn) -> Asked:
    ids = finals.begin(ws, project_id, body.shot_ids, body.service_id)
    queue.touched(project_id)
    return Asked(job_ids=ids)


@router.post("/finals/pick", summary="Pick every final that is its draft in full")
def pick_finals(ws: Ws, gauge: TheGauge, project_id: str) -> ChangedOut:
    return out(finals.pick_same(ws, gauge, project_id))


@router.post("/shots/{shot_id}/trials", summary="Begin a trial of a shot", status_code=202)
def begin_trial(ws: Ws, queue: TheQueue, project_id: str, shot_id: str, body: TrialIn) -> TrialBegun:
    axes = tuple(Axis(a.varies, a.about, tuple(a.choices)) for a in body.axes)
    order = TrialOrder(shot_id, axes, body.seeds, body.service_id, body.model, body.quality, body.about_thread_id)
    changed, ids = trials.start(ws, project_id, order)
    queue.touched(project_id)
    trial_id = changed.rows["trial"][0]["id"]
    return TrialBegun(trial_id=trial_id, job_ids=ids, changed=out(changed))


@router.get("/trials/{trial_id}", summary="What a trial shows")
def read_trial(ws: Ws, gauge: TheGauge, project_id: str, trial_id: str) -> TrialView:
    return trials.read(ws, gauge, project_id, trial_id)


@router.post("/trials/{trial_id}/winner", summary="Make a trial's setting that of its shot, or of the project")
def take_winner(ws: Ws, project_id: str, trial_id: str, body: WinnerIn) -> ChangedOut:
    return out(trials.take_winner(ws, project_id, trial_id, body.at, body.everywhere))


@router.delete("/trials/{trial_id}", summary="Put a trial away; its takes stay")
def remove_trial(ws: Ws, project_id: str, trial_id: str) -> ChangedOut:
    return out(trials.remove(ws, project_id, trial_id))


@router.get("/takes/{take_id}/rescues", summary="Crops that leave a take's faults out")
def offer_rescues(
    ws: Ws,
    project_id: str,
    take_id: str,
    print_mm: Annotated[float | None, Query(ge=10, le=5000, description="The width in print, mm")] = None,
) -> RescueOffer:
    return rescuing.offer(ws, project_id, take_id, print_mm)


@router.post("/takes/{take_id}/crop", summary="Make a take of a part of another one")
def crop(ws: Ws, gauge: TheGauge, project_id: str, take_id: str, body: CropIn) -> ChangedOut:
    changed = rescuing.crop(ws, project_id, take_id, body.box.box())
    gauge.want(project_id, [t["id"] for t in changed.rows.get("take", []) if t["parent_id"] == take_id])
    return out(changed)


@router.get("/faults", summary="What recurring faults share, and what mends brought")
def faults_told(ws: Ws, project_id: str) -> FaultsTold:
    return fault_causes.told(ws, project_id)


@router.post("/faults/mend", summary="Do something against a fault that recurs")
def mend_fault(ws: Ws, project_id: str, body: FaultMendIn) -> ChangedOut:
    return out(fault_causes.mend(ws, project_id, body.fault, (body.kind, body.what), body.how))


@router.get("/ledger", summary="What was spent, on what, and what is still to be spent")
def read_ledger(ws: Ws, project_id: str) -> Ledger:
    return ledger.ledger(ws, project_id)


@router.get(
    "/ledger.csv",
    summary="Every job that cost or brought something",
    response_class=Response,
    responses=file_answer("text/csv; charset=utf-8"),
)
def ledger_csv(ws: Ws, project_id: str) -> Response:
    return attachment("ledger.csv", ledger.as_csv(ws, project_id).encode("utf-8-sig"), "text/csv; charset=utf-8")
