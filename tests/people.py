"""People for tests: a database with accounts, and clients that are signed in."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy import delete

from juxtaform.records.people import Account, ApiToken, Invitation, Member, Role, SignIn, SpareCode, Trying
from juxtaform.studio import accounts, members, tokens
from juxtaform.studio.accounts import Person
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import Entrance, create_app
from tests.conftest import client_on

PASSWORD = "seven quiet lanterns"
AT = "http://127.0.0.1"


def person(ws: Workspace, login: str, *, keeper: bool = False) -> Person:
    """Somebody with an account."""
    with ws.database.session() as s:
        return accounts.as_person(accounts.make(s, login, login.capitalize(), PASSWORD, keeper=keeper))


def joins(ws: Workspace, project: str, who: Person, role: Role) -> None:
    with ws.database.session() as s:
        members.raise_to(s, project, who.id, role)


@dataclass
class House:
    """An application with people in it."""

    ws: Workspace
    checker: Any
    keeper: Person = field(init=False)
    people: dict[str, Person] = field(default_factory=dict)

    @cached_property
    def app(self) -> FastAPI:
        return create_app(self.ws, self.checker, Entrance(from_elsewhere=True))

    def client(self, who: Person | None = None, token: str = "", **options: Any) -> TestClient:
        """A browser, signed in as somebody if one is given; or a program with a token."""
        headers = {"authorization": f"Bearer {token}"} if token else {}
        client = client_on(self.app, base_url=AT, headers=headers, **options)
        if who is not None:
            cookie = accounts_cookie(self.ws, who)
            client.cookies.set("juxtaform", cookie)
        return client

    def token(self, who: Person, scope: str = "write", project: str | None = None) -> str:
        return tokens.make(self.ws, who.id, "a script", scope, project, 30)[0]  # type: ignore[arg-type]


def without_people(house: House) -> House:
    """The same house, that nobody has been in yet."""
    with house.ws.database.session() as s:
        for model in (SignIn, ApiToken, Invitation, Member, SpareCode, Account, Trying):
            s.execute(delete(model))
    return House(house.ws, house.checker)


def accounts_cookie(ws: Workspace, who: Person) -> str:
    return accounts.sign_in(ws, who.login, PASSWORD, "", "test", "a browser").cookie
