"""Routes of picture-making services, of what is asked of them, and of the queue."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from juxtaform.records.rules import Address, Id, Label, Quality, Short
from juxtaform.studio import jobs, making, services
from juxtaform.studio.jobs import Deed, Queue
from juxtaform.studio.making import Offer, Order
from juxtaform.studio.services import ServiceView
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheQueue, Ws, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["services"], responses=ERRORS)
Token = Annotated[str, Field(max_length=4000)]


class NewService(Body):
    name: Short
    address: Address
    token: Token = ""


class ServiceEdit(Body):
    name: Short = "?"
    address: Address = "?"
    revision: int | None = None


class TokenIn(Body):
    token: Token


class OrderIn(Body):
    """Takes wanted: of which shots, how many each, by which model, how good; `as_it_is` sends also what preflight holds back."""

    shot_ids: Annotated[list[Id], Field(min_length=1, max_length=5000)]
    count: Annotated[int, Field(ge=1, le=40)] = 4
    service_id: Id
    model: Label = ""
    quality: Quality = "draft"
    as_it_is: bool = False
    order_id: Annotated[str, Field(pattern="^[0-9A-Za-z_-]{8,64}$")] | None = None

    def order(self) -> Order:
        return Order(
            tuple(self.shot_ids),
            self.count,
            self.service_id,
            self.model,
            self.quality,
            self.as_it_is,
            self.order_id or "",
        )


class Asked(Body):
    job_ids: list[str]


class Steering(Body):
    """What to do, with which jobs; with all that it can be done with when none are named."""

    deed: Deed
    job_ids: Annotated[list[Id], Field(min_length=1, max_length=5000)] | None = None


class Steered(Body):
    jobs: int


@router.get("/services", summary="The services, and what they can do")
def views(ws: Ws, project_id: str) -> list[ServiceView]:
    return services.views(ws, project_id)


@router.post("/services", summary="Add a service by its address, and ask it what it can do")
def add(ws: Ws, project_id: str, body: NewService) -> ChangedOut:
    return out(services.add(ws, project_id, body.name, body.address, body.token))


@router.patch("/services/{service_id}", summary="Rename a service, or give its new address")
def edit(ws: Ws, project_id: str, service_id: str, body: ServiceEdit) -> ChangedOut:
    values = body.model_dump(exclude={"revision"}, exclude_unset=True)
    return out(services.edit(ws, project_id, service_id, values, body.revision))


@router.put("/services/{service_id}/token", summary="Keep a service's token; it is never given out")
def set_token(ws: Ws, project_id: str, service_id: str, body: TokenIn) -> ServiceView:
    return services.set_token(ws, project_id, service_id, body.token)


@router.post("/services/{service_id}/ask", summary="Ask a service again what it can do")
def ask(ws: Ws, project_id: str, service_id: str) -> ServiceView:
    return services.ask(ws, project_id, service_id)


@router.delete("/services/{service_id}", summary="Remove a service; its token is forgotten")
def remove(ws: Ws, project_id: str, service_id: str) -> ChangedOut:
    return out(services.remove(ws, project_id, service_id))


@router.post("/orders/offer", summary="What an order would cost, and what preflight holds back")
def offer(ws: Ws, project_id: str, body: OrderIn) -> Offer:
    return making.offer(ws, project_id, body.order())


@router.post("/orders", summary="Ask for takes: put them into the queue", status_code=202)
def make(ws: Ws, queue: TheQueue, project_id: str, body: OrderIn) -> Asked:
    ids = making.make(ws, project_id, body.order())
    queue.touched(project_id)
    return Asked(job_ids=ids)


@router.get("/jobs", summary="The queue: open jobs, those that went wrong, and the latest done")
def queue(ws: Ws, project_id: str) -> Queue:
    return jobs.queue(ws, project_id)


@router.post("/jobs/steer", summary="Pause, resume, cancel, move up, try again, say yes to, or put away jobs")
def steer(ws: Ws, queue: TheQueue, project_id: str, body: Steering) -> Steered:
    done = jobs.steer(ws, project_id, body.deed, body.job_ids)
    queue.touched(project_id)
    return Steered(jobs=done)
