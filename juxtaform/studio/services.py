"""Picture-making services of a project: added by address and token, asked what they can do."""

from __future__ import annotations

import asyncio
from collections.abc import Sequence
from contextlib import AbstractAsyncContextManager
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Session

from juxtaform.records.models import Job, Project, Service, ServiceState, now
from juxtaform.services import address as addresses
from juxtaform.services.address import AddressWrong
from juxtaform.services.pictures import PictureService, Trouble
from juxtaform.services.shapes import ServiceSaid
from juxtaform.studio.workspace import Changed, NotPossible, Row, Workspace, edited, found, of_project

OWN = "understudy:"
"""The address of the Understudy that ships, wherever it listens now."""
OWN_NAME = "Understudy"
EXAMPLE = "https://pictures.example.org"
MOST_TOKEN = 4000


@dataclass(frozen=True)
class ServiceView:
    """What is known of a service beside its row: whether a token is kept, what it can do (None: not asked yet), what is wrong with it, and how
    long it wants to rest."""

    service_id: str
    has_token: bool
    can: ServiceSaid | None
    trouble: str
    rests_until: datetime | None
    asked_at: datetime | None


def views(ws: Workspace, project_id: str) -> list[ServiceView]:
    """All services of a project as they stand. Raises NotThere."""
    with ws.database.reading() as s:
        found(s, Project, project_id)
        states = {x.service_id: x for x in s.scalars(select(ServiceState).where(ServiceState.project_id == project_id))}
        return [_view(x, states.get(x.id)) for x in of_project(s, Service, project_id)]


def add(ws: Workspace, project_id: str, name: str, address: str, token: str = "") -> Changed:
    """Add a service; it is asked at once what it can do, and stays also when it does not answer now. Raises NotPossible."""
    address = _checked(address)
    with ws.writing(project_id, f"added the service {name}") as w:
        own = of_project(w.session, Service, project_id)
        name = _name(own, name)
        if any(x.address == address for x in own):
            raise NotPossible("This address is among the services already. Change that one.")
        service = Service(project_id=project_id, name=name, address=address, position=_last(own) + 1)
        w.add(service)
        _keep(w.session, service, token=_token(token))
    ask(ws, project_id, service.id)
    return w.changed


def edit(ws: Workspace, project_id: str, service_id: str, values: Row, revision: int | None = None) -> Changed:
    """Change a service's name or address; an address that changes forgets the token, which was for another place. Raises NotPossible, Conflict."""
    with ws.writing(project_id, "changed a service") as w:
        service = found(w.session, Service, service_id, project_id)
        others = [x for x in of_project(w.session, Service, project_id) if x.id != service_id]
        if "name" in values:
            values = {**values, "name": _name(others, values["name"])}
        if "address" in values:
            values = {**values, "address": _checked(values["address"])}
            if any(x.address == values["address"] for x in others):
                raise NotPossible("This address is among the services already. Change that one.")
        moves = values.get("address", service.address) != service.address
        edited(service, revision, values)
        if moves:
            _keep(w.session, service, token="", can="", trouble="", asked_at=None)
    if moves:
        ask(ws, project_id, service_id)
    return w.changed


def remove(ws: Workspace, project_id: str, service_id: str) -> Changed:
    """Take a service out; its token is forgotten, its jobs that wait are cancelled, what it cost stays in the ledger."""
    with ws.writing(project_id, "removed a service") as w:
        service = found(w.session, Service, service_id, project_id)
        w.name(f"removed the service {service.name}")
        waiting = ("held", "waiting", "paused")
        for job in w.session.scalars(select(Job).where(Job.service_id == service_id, Job.state.in_(waiting))):
            job.state, job.message, job.ended_at = "cancelled", "Its service was removed.", now()
        if (state := w.session.get(ServiceState, service_id)) is not None:
            w.session.delete(state)
        w.erase([service])
    return w.changed


def set_token(ws: Workspace, project_id: str, service_id: str, token: str) -> ServiceView:
    """Keep a service's token, and ask again what it can do. Raises NotPossible."""
    with ws.database.session() as s:
        _keep(s, found(s, Service, service_id, project_id), token=_token(token))
    return ask(ws, project_id, service_id)


def ask(ws: Workspace, project_id: str, service_id: str) -> ServiceView:
    """Ask a service what it can do, and keep what it says, or what is wrong with it. Raises NotThere."""
    with ws.database.session() as s:
        service = found(s, Service, service_id, project_id)
        s.expunge(service)
    try:
        said: ServiceSaid | None = asyncio.run(_asked(ws, service))
        trouble = ""
    except (Trouble, AddressWrong) as error:
        said, trouble = None, str(error)
    with ws.database.session() as s:
        service = found(s, Service, service_id, project_id)
        can = {"can": said.model_dump_json()} if said else {}
        _keep(s, service, trouble=trouble, asked_at=now(), rests_until=None, **can)
        view = _view(service, s.get(ServiceState, service_id, populate_existing=True))
    ws.listeners.wake(project_id)
    return view


def offered(session: Session, project_id: str, service_id: str) -> tuple[Service, ServiceSaid]:
    """A service and what it can do. Raises NotPossible when that is not known, NotThere."""
    service = found(session, Service, service_id, project_id)
    state = session.get(ServiceState, service_id)
    if state is None or not state.can:
        why = state.trouble if state and state.trouble else f"{service.name} was not asked yet what it can do."
        raise NotPossible(f"{why} Ask it again in the settings of services.")
    return service, ServiceSaid.model_validate_json(state.can)


def opened(ws: Workspace, service: Service) -> AbstractAsyncContextManager[PictureService]:
    """The service to be asked. Raises AddressWrong, Trouble."""
    with ws.database.session() as s:
        state = s.get(ServiceState, service.id)
        token = state.token if state else ""
    if service.address == OWN:
        if ws.understudy is None:
            raise Trouble("The Understudy does not run. Start Juxtaform by bin/start, which starts it too.")
        return PictureService.open(service.name, *ws.understudy)
    return PictureService.open(
        service.name, addresses.checked(service.address, "a picture-making service", EXAMPLE), token
    )


async def _asked(ws: Workspace, service: Service) -> ServiceSaid:
    async with opened(ws, service) as open_service:
        return await open_service.can()


def _view(service: Service, state: ServiceState | None) -> ServiceView:
    if state is None:
        return ServiceView(service.id, False, None, "", None, None)
    said = ServiceSaid.model_validate_json(state.can) if state.can else None
    rests = state.rests_until if state.rests_until and state.rests_until > now() else None
    return ServiceView(service.id, bool(state.token), said, state.trouble, rests, state.asked_at)


def _keep(session: Session, service: Service, **values: object) -> None:
    fresh = {"token": "", "can": "", "trouble": "", "project_id": service.project_id, **values}
    row = insert(ServiceState).values(service_id=service.id, **fresh)
    session.execute(row.on_duplicate_key_update(**{k: row.inserted[k] for k in values}))


def _checked(address: str) -> str:
    if address.strip() == OWN:
        return OWN
    try:
        return addresses.checked(address, "a picture-making service", EXAMPLE)
    except AddressWrong as error:
        raise NotPossible(str(error)) from error


def _name(others: Sequence[Service], name: str) -> str:
    name = " ".join(name.split())[:80]
    if not name:
        raise NotPossible("A service needs a name.")
    if any(x.name.casefold() == name.casefold() for x in others):
        raise NotPossible(f"There is a service “{name}” already. Give this one another name.")
    return name


def _token(token: str) -> str:
    token = token.strip()
    if len(token) > MOST_TOKEN or not token.isascii() or any(not c.isprintable() for c in token):
        raise NotPossible("This is no token: it has to be one line of plain letters, digits and signs.")
    return token


def _last(rows: Sequence[Service]) -> float:
    return max((x.position for x in rows), default=-1.0)
