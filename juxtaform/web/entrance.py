"""Who asks, and whether they may: one dependency of every route, and one table of what each route needs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from fastapi import Depends, Request, Response
from fastapi.concurrency import run_in_threadpool

from juxtaform.records.people import ROLES, Role, Scope
from juxtaform.records.who import now_works
from juxtaform.studio import accounts, members, tokens
from juxtaform.studio.accounts import LASTS, Doorkeeper, Person
from juxtaform.studio.workspace import NotThere, Workspace

Need = Literal["anybody", "link", "account", "keeper", "picture", "sound", "reviewer", "illustrator", "owner"]
"""What a route needs: nothing; to have opened a showing by its link; an account; one that looks after the accounts; a project that has this picture, or this sound; or to
be at least this in its project."""
PLAIN, SECURE = "juxtaform", "__Host-juxtaform"
"""The cookie's name; the prefix binds it to this host and to TLS (RFC 6265bis, 4.1.3.2)."""
SAFE = ("GET", "HEAD")
BY_SIGN_IN_ALONE = ("/me", "/members", "/invitations", "/accounts")
"""Where people themselves are looked after; no token opens this."""
OWN_ACCOUNT = "/me"
"""What is open to somebody who has to set up a second factor first."""

NEEDS: Mapping[tuple[str, str], Need] = {
    ("GET", "/me"): "anybody",
    ("POST", "/me/sign-in"): "anybody",
    ("POST", "/me/sign-out"): "anybody",
    ("POST", "/me/invited"): "anybody",
    ("POST", "/me/joined"): "anybody",
    ("POST", "/shown/open"): "anybody",
    **dict.fromkeys(
        [
            ("GET", "/shown/{showing_id}"),
            ("GET", "/shown/{showing_id}/pictures/{sha}"),
            ("GET", "/shown/{showing_id}/pictures/{sha}/thumb"),
            ("GET", "/shown/{showing_id}/clips/{sha}"),
            ("GET", "/shown/{showing_id}/sound"),
            ("POST", "/shown/{showing_id}/notes"),
            ("PUT", "/shown/{showing_id}/shots/{shot_id}/word"),
            ("POST", "/shown/{showing_id}/signs"),
        ],
        "link",
    ),
    ("PATCH", "/me"): "account",
    ("PUT", "/me/password"): "account",
    ("GET", "/me/second"): "account",
    ("POST", "/me/second"): "account",
    ("PUT", "/me/second"): "account",
    ("POST", "/me/second/off"): "account",
    ("GET", "/me/sign-ins"): "account",
    ("DELETE", "/me/sign-ins/{sign_in_id}"): "account",
    ("GET", "/me/tokens"): "account",
    ("POST", "/me/tokens"): "account",
    ("DELETE", "/me/tokens/{token_id}"): "account",
    ("GET", "/accounts"): "keeper",
    ("POST", "/accounts/invitations"): "keeper",
    ("POST", "/accounts/{account_id}/password-link"): "keeper",
    ("PUT", "/accounts/{account_id}/closed"): "keeper",
    ("DELETE", "/accounts/{account_id}/second"): "keeper",
    ("GET", "/projects"): "account",
    ("POST", "/projects"): "account",
    ("POST", "/bundles"): "account",
    ("GET", "/pictures/{sha}"): "picture",
    ("GET", "/pictures/{sha}/thumb"): "picture",
    ("GET", "/pictures/{sha}/crop"): "picture",
    ("GET", "/pictures/{sha}/tile"): "picture",
    ("GET", "/clips/{sha}"): "picture",
    ("GET", "/clips/{sha}/film"): "picture",
    ("GET", "/clips/{sha}/frame"): "picture",
    ("GET", "/clips/{sha}/strip"): "picture",
    ("GET", "/sounds/{sha}"): "sound",
    ("GET", "/sounds/{sha}/levels"): "sound",
    ("GET", "/sounds/{sha}/part"): "sound",
    # Asked by POST because much is asked; nothing is changed.
    ("POST", "/projects/{project_id}/loupe"): "reviewer",
    ("POST", "/projects/{project_id}/lights"): "reviewer",
    ("POST", "/projects/{project_id}/pegs"): "reviewer",
    ("POST", "/projects/{project_id}/references/{reference_id}/colours"): "reviewer",
    ("PUT", "/projects/{project_id}/here"): "reviewer",
    ("DELETE", "/projects/{project_id}/members/me"): "reviewer",
    # What is asked elsewhere in the project's name, what it costs, and who may come in.
    ("DELETE", "/projects/{project_id}"): "owner",
    ("POST", "/projects/{project_id}/services"): "owner",
    ("PATCH", "/projects/{project_id}/services/{service_id}"): "owner",
    ("DELETE", "/projects/{project_id}/services/{service_id}"): "owner",
    ("PUT", "/projects/{project_id}/services/{service_id}/token"): "owner",
    ("PUT", "/projects/{project_id}/members/{account_id}"): "owner",
    ("DELETE", "/projects/{project_id}/members/{account_id}"): "owner",
    ("GET", "/projects/{project_id}/invitations"): "owner",
    ("POST", "/projects/{project_id}/invitations"): "owner",
    ("DELETE", "/projects/{project_id}/invitations/{invitation_id}"): "owner",
}


def need_of(method: str, path: str) -> Need:
    """What a route needs; in a project reading needs a reviewer, and all else an illustrator. Raises KeyError for a route outside of
    projects that nobody thought of.

    >>> need_of("GET", "/projects/{project_id}/history"), need_of("PATCH", "/projects/{project_id}/shots/{shot_id}")
    ('reviewer', 'illustrator')
    """
    method = "GET" if method == "HEAD" else method
    if (method, path) in NEEDS:
        return NEEDS[method, path]
    if not path.startswith("/projects/{project_id}"):
        raise KeyError(f"{method} {path}")
    return "reviewer" if method in SAFE else "illustrator"


class NotKnown(RuntimeError):
    """Nobody is known by what was sent along."""

    def __init__(self, detail: str = "Sign in first. What you did is kept in this window until then.") -> None:
        super().__init__(detail)


class NotAllowed(RuntimeError):
    """Whoever asks is known and may not."""


@dataclass(frozen=True)
class Visitor:
    """Who asks: somebody by the cookie of their browser or by a token; nobody in particular where there are no accounts, or where a
    route is for anybody."""

    person: Person | None = None
    by_token: bool = False
    scope: Scope = "write"
    token_project: str | None = None

    @property
    def account_id(self) -> str | None:
        return self.person.id if self.person else None


async def allowed(request: Request, response: Response) -> Visitor:
    """Who asks. Raises NotKnown, NotAllowed, NotThere."""
    path = request.scope["route"].path.removeprefix("/api")
    need = need_of(request.method, path)
    keeper: Doorkeeper = request.app.state.doorkeeper
    closed = keeper.closed_for_sure()
    if closed is None:
        closed = await run_in_threadpool(lambda: keeper.closed)
    if not closed:
        visitor = Visitor()
    else:
        visitor, renewed = await run_in_threadpool(_let_in, request, path, need)
        if renewed:
            set_cookie(request, response, renewed)
        if visitor.person:
            now_works(visitor.person.name)
    request.state.visitor = visitor
    return visitor


def _let_in(request: Request, path: str, need: Need) -> tuple[Visitor, str | None]:
    ws: Workspace = request.app.state.workspace
    visitor, renewed, role = _visitor(ws, request)
    request.state.visitor = visitor
    if need in ("anybody", "link"):
        return visitor, renewed
    if visitor.person is None:
        raise NotKnown
    keeper: Doorkeeper = request.app.state.doorkeeper
    if keeper.second_wanted and not visitor.person.second and not path.startswith(OWN_ACCOUNT):
        raise NotAllowed("Everybody here has to have a second factor. Set one up first, under your name.")
    _see_scope(visitor, request.method, path, need)
    params = request.path_params
    own = visitor.token_project
    if need == "keeper" and not visitor.person.keeper:
        raise NotAllowed("Only who looks after the accounts of this Juxtaform may do this.")
    if need == "picture" and not members.may_see_picture(ws, visitor.person.id, params["sha"], own):
        raise NotThere("This picture is in none of your projects.")
    if need == "sound" and not members.may_hear(ws, visitor.person.id, params["sha"], own):
        raise NotThere("This sound is in none of your projects.")
    if need in ROLES:
        if role is not None:
            _see_least(role, need)
        else:
            see_role(ws, visitor, params["project_id"], need)
    return visitor, renewed


def see_role(ws: Workspace, visitor: Visitor, project_id: str, least: Role) -> None:
    """See that a visitor is at least that in a project. Raises NotThere for a project that is nothing to them, NotAllowed."""
    if visitor.person is None:
        return
    role = members.role_of(ws, project_id, visitor.person.id)
    if role is None or visitor.token_project not in (None, project_id):
        raise NotThere("There is no such project among yours.")
    _see_least(role, least)


def _see_least(role: Role, least: Role) -> None:
    if ROLES.index(role) < ROLES.index(least):
        may = {"illustrator": "change", "owner": "decide"}[least]
        raise NotAllowed(
            f"You are {'an' if role == 'illustrator' else 'a'} {role} here: to {may} this takes an {least}. An owner of the project can make you one."
        )


def _see_scope(visitor: Visitor, method: str, path: str, need: Need) -> None:
    if not visitor.by_token:
        return
    if path.startswith(BY_SIGN_IN_ALONE) or path.startswith(
        tuple(f"/projects/{{project_id}}{p}" for p in BY_SIGN_IN_ALONE)
    ):
        raise NotAllowed("This takes somebody who is signed in, not a token.")
    if visitor.scope == "read" and method not in SAFE and need != "reviewer":
        raise NotAllowed("This token may only read.")
    if visitor.token_project and not path.startswith("/projects/{project_id}") and need not in ("picture", "sound"):
        raise NotAllowed("This token is for one project alone.")


def _visitor(ws: Workspace, request: Request) -> tuple[Visitor, str | None, Role | None]:
    """Who asks, what their cookie is to be renewed by, and what they are in the project that they ask of, where that is known already."""
    kind, _, secret = request.headers.get("authorization", "").partition(" ")
    if kind.casefold() == "bearer":
        bearer = tokens.known(ws, secret.strip())
        if bearer is None:
            raise NotKnown("This token opens nothing: it was taken back, or its time is over.")
        return Visitor(bearer.person, True, bearer.scope, bearer.project_id), None, None
    cookie = cookie_of(request)
    if cookie and (at_once := accounts.known_at_once(ws, cookie, request.path_params.get("project_id"))):
        return Visitor(at_once[0]), None, at_once[1]
    if cookie and (found := accounts.known(ws, cookie)):
        return Visitor(found[0]), found[1], None
    return Visitor(), None, None


def cookie_of(request: Request) -> str:
    """What the cookie of whoever asks holds."""
    return request.cookies.get(_name(request), "")


def set_cookie(request: Request, response: Response, value: str) -> None:
    """Give a browser the cookie that it is known by: out of reach of scripts, and never sent along from another site."""
    response.set_cookie(
        _name(request),
        value,
        max_age=int(LASTS.total_seconds()),
        secure=is_secure(request),
        httponly=True,
        samesite="strict",
    )


def take_cookie(request: Request, response: Response) -> None:
    """Take the cookie away again."""
    response.delete_cookie(_name(request), secure=is_secure(request), httponly=True, samesite="strict")


def _name(request: Request) -> str:
    return SECURE if is_secure(request) else PLAIN


def is_secure(request: Request) -> bool:
    return request.url.scheme == "https"


def address_of(request: Request) -> str:
    """The network address that somebody asks from, for slowing down who guesses."""
    return request.client.host if request.client else ""


def browser_of(request: Request) -> str:
    return request.headers.get("user-agent", "")[:200]


TheVisitor = Annotated[Visitor, Depends(allowed)]
