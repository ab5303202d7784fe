"""People: signing in and out, one's own account and tokens, who is in a project, and the accounts of this Juxtaform."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Request, Response
from pydantic import Field

from juxtaform.records.people import Role, Scope
from juxtaform.records.rules import Id
from juxtaform.studio import accounts, invitations, members, second, tokens
from juxtaform.studio.accounts import AccountCard, Entered, OwnSignIn, Person
from juxtaform.studio.invitations import Invited, OpenInvitation
from juxtaform.studio.members import MemberCard
from juxtaform.studio.second import SecondOffer, SecondStanding
from juxtaform.studio.tokens import TokenCard
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, Keeper, Ws
from juxtaform.web.entrance import (
    NotKnown,
    TheVisitor,
    Visitor,
    address_of,
    browser_of,
    cookie_of,
    see_role,
    set_cookie,
    take_cookie,
)

router = APIRouter(tags=["people"], responses=ERRORS)
Login = Annotated[str, Field(max_length=200)]
Password = Annotated[str, Field(max_length=200)]
Name = Annotated[str, Field(max_length=80)]
Secret = Annotated[str, Field(max_length=200)]
Code = Annotated[str, Field(max_length=60)]


class Me(Body):
    """Who asks: `closed` says whether one has to sign in here, `person` who is signed in, `first` that there is no account yet, `second_wanted` that
    everybody has to have a second factor."""

    closed: bool
    first: bool
    person: Person | None
    second_wanted: bool


class SignInOf(Body):
    login: Login
    password: Password
    code: Code = ""


class Confirming(Body):
    """A code of an app that was just set up, and the password once more."""

    password: Password
    code: Code


class SpareCodes(Body):
    """Codes that open once each, in the place of one from the app; they are told this once."""

    codes: list[str]


class Naming(Body):
    name: Annotated[str, Field(min_length=1, max_length=80)]


class NewPassword(Body):
    old: Password
    new: Password


class Link(Body):
    secret: Secret


class Joining(Body):
    """What a link is answered with: a new account, or nothing of it by who is signed in and wants to join a project as that."""

    secret: Secret
    login: Login = ""
    name: Name = ""
    password: Password = ""
    code: Code = ""
    as_known: bool = False


class Joined(Body):
    person: Person
    project_id: str | None


class NewToken(Body):
    name: Annotated[str, Field(min_length=1, max_length=80)]
    scope: Scope = "read"
    project_id: Id | None = None
    days: Annotated[int, Field(ge=1, le=366)] = 90


class MadeToken(Body):
    """A new token; `secret` is told this once."""

    secret: str
    token: TokenCard


class RoleOf(Body):
    role: Role


class NewLink(Body):
    """The path of a link, told this once."""

    path: str


class Closing(Body):
    closed: bool


@router.get("/me", summary="Who is signed in here, and whether one has to be")
def me(keeper: Keeper, visitor: TheVisitor) -> Me:
    closed = keeper.closed
    return Me(
        closed=closed,
        first=closed and not keeper.has_accounts(),
        person=visitor.person,
        second_wanted=keeper.second_wanted,
    )


@router.post("/me/sign-in", summary="Sign in", responses={401: ERRORS["default"], 429: ERRORS["default"]})
def sign_in(ws: Ws, request: Request, response: Response, body: SignInOf) -> Person:
    before = cookie_of(request)
    done = accounts.sign_in(ws, body.login, body.password, body.code, address_of(request), browser_of(request))
    if before:
        accounts.sign_out(ws, before)
    return _entered(request, response, done)


@router.post("/me/sign-out", summary="Sign out", status_code=204)
def sign_out(ws: Ws, request: Request, response: Response) -> None:
    accounts.sign_out(ws, cookie_of(request))
    take_cookie(request, response)
    response.headers["Clear-Site-Data"] = '"cache", "storage"'


@router.post("/me/invited", summary="What a link opens")
def invited(ws: Ws, request: Request, body: Link) -> Invited:
    return invitations.look(ws, body.secret, address_of(request))


@router.post(
    "/me/joined", summary="Use a link: make an account, join a project, or set a new password", status_code=201
)
def join(ws: Ws, keeper: Keeper, visitor: TheVisitor, request: Request, response: Response, body: Joining) -> Joined:
    address = address_of(request)
    if body.as_known:
        if visitor.person is None or visitor.by_token:
            raise NotKnown
        project = invitations.use_for_known(ws, body.secret, visitor.person, address)
        return Joined(person=visitor.person, project_id=project)
    done, project_id = invitations.use_for_new(
        ws, body.secret, body.login, body.name, body.password, body.code, address, browser_of(request)
    )
    keeper.first_made()
    return Joined(person=_entered(request, response, done), project_id=project_id)


@router.patch("/me", summary="Change the name that others see")
def rename(ws: Ws, visitor: TheVisitor, body: Naming) -> Person:
    return accounts.rename(ws, _own(visitor), body.name)


@router.put(
    "/me/password", summary="Change one's password; all else that is open is closed", responses={401: ERRORS["default"]}
)
def change_password(ws: Ws, visitor: TheVisitor, request: Request, response: Response, body: NewPassword) -> Person:
    done = accounts.change_password(ws, _own(visitor), body.old, body.new, browser_of(request))
    return _entered(request, response, done)


@router.get("/me/second", summary="Whether one has a second factor, and how many spare codes are left")
def own_second(ws: Ws, visitor: TheVisitor) -> SecondStanding:
    return second.standing(ws, _own(visitor))


@router.post("/me/second", summary="What is to be brought into an app for a second factor", status_code=201)
def offer_second(ws: Ws, visitor: TheVisitor) -> SecondOffer:
    return second.offer(ws, _own(visitor))


@router.put(
    "/me/second",
    summary="Turn the second factor on by its first code; spare codes are told this once",
    responses={401: ERRORS["default"], 429: ERRORS["default"]},
)
def confirm_second(ws: Ws, visitor: TheVisitor, body: Confirming) -> SpareCodes:
    accounts.see_password(ws, _own(visitor), body.password)
    return SpareCodes(codes=second.confirm(ws, _own(visitor), body.code))


@router.post(
    "/me/second/off",
    summary="Take one's second factor off",
    status_code=204,
    responses={401: ERRORS["default"], 429: ERRORS["default"]},
)
def second_off(ws: Ws, visitor: TheVisitor, body: Confirming) -> None:
    accounts.see_password(ws, _own(visitor), body.password)
    second.prove(ws, _own(visitor), body.code)
    second.take_off(ws, _own(visitor))


@router.get("/me/sign-ins", summary="Where one is signed in")
def sign_ins(ws: Ws, visitor: TheVisitor, request: Request) -> list[OwnSignIn]:
    return accounts.sign_ins(ws, _own(visitor), cookie_of(request))


@router.delete("/me/sign-ins/{sign_in_id}", summary="Sign a browser out from elsewhere", status_code=204)
def end_sign_in(ws: Ws, visitor: TheVisitor, sign_in_id: str) -> None:
    accounts.end_sign_in(ws, _own(visitor), sign_in_id)


@router.get("/me/tokens", summary="One's tokens for programs")
def own_tokens(ws: Ws, visitor: TheVisitor) -> list[TokenCard]:
    return tokens.of(ws, _own(visitor))


@router.post("/me/tokens", summary="A new token; what it is is told this once", status_code=201)
def new_token(ws: Ws, visitor: TheVisitor, body: NewToken) -> MadeToken:
    if body.project_id:
        see_role(ws, visitor, body.project_id, "reviewer")
    secret, card = tokens.make(ws, _own(visitor), body.name, body.scope, body.project_id, body.days)
    return MadeToken(secret=secret, token=card)


@router.delete("/me/tokens/{token_id}", summary="Take a token back", status_code=204)
def take_back(ws: Ws, visitor: TheVisitor, token_id: str) -> None:
    tokens.take_back(ws, _own(visitor), token_id)


@router.get("/projects/{project_id}/members", summary="Who is in a project")
def project_members(ws: Ws, project_id: str) -> list[MemberCard]:
    return members.of(ws, project_id)


@router.put("/projects/{project_id}/members/{account_id}", summary="Change what somebody is in a project")
def set_role(ws: Ws, project_id: str, account_id: str, body: RoleOf) -> list[MemberCard]:
    members.set_role(ws, project_id, account_id, body.role)
    return members.of(ws, project_id)


@router.delete("/projects/{project_id}/members/me", summary="Leave a project", status_code=204)
def leave(ws: Ws, project_id: str, visitor: TheVisitor) -> None:
    members.leave(ws, project_id, _own(visitor))


@router.delete("/projects/{project_id}/members/{account_id}", summary="Take somebody out of a project")
def take_out(ws: Ws, project_id: str, account_id: str) -> list[MemberCard]:
    members.leave(ws, project_id, account_id)
    return members.of(ws, project_id)


@router.get("/projects/{project_id}/invitations", summary="Links into a project that were not used yet")
def waiting(ws: Ws, project_id: str) -> list[OpenInvitation]:
    return invitations.waiting(ws, project_id)


@router.post(
    "/projects/{project_id}/invitations", summary="A link into a project; it is told this once", status_code=201
)
def invite(ws: Ws, project_id: str, visitor: TheVisitor, body: RoleOf) -> NewLink:
    return NewLink(path=f"/enter#{invitations.to_project(ws, project_id, body.role, _own(visitor))}")


@router.delete(
    "/projects/{project_id}/invitations/{invitation_id}", summary="Let a link open nothing any more", status_code=204
)
def uninvite(ws: Ws, project_id: str, invitation_id: str) -> None:
    invitations.take_back(ws, project_id, invitation_id)


@router.get("/accounts", summary="All accounts of this Juxtaform")
def all_accounts(ws: Ws) -> list[AccountCard]:
    return accounts.all_of_them(ws)


@router.post("/accounts/invitations", summary="A link to an account; it is told this once", status_code=201)
def invite_account(ws: Ws, visitor: TheVisitor) -> NewLink:
    return NewLink(path=f"/enter#{invitations.to_account(ws, _own(visitor))}")


@router.post(
    "/accounts/{account_id}/password-link", summary="A link to a new password; it is told this once", status_code=201
)
def password_link(ws: Ws, visitor: TheVisitor, account_id: str) -> NewLink:
    return NewLink(path=f"/enter#{invitations.to_password(ws, account_id, _own(visitor))}")


@router.put("/accounts/{account_id}/closed", summary="Close an account, or open it again")
def close(ws: Ws, account_id: str, body: Closing) -> list[AccountCard]:
    accounts.close(ws, account_id, closed=body.closed)
    return accounts.all_of_them(ws)


@router.delete("/accounts/{account_id}/second", summary="Take the second factor off an account that lost it")
def second_of_lost(ws: Ws, account_id: str) -> list[AccountCard]:
    second.take_off(ws, account_id)
    return accounts.all_of_them(ws)


def _own(visitor: Visitor) -> str:
    """The account of whoever asks. Raises NotKnown where there are no accounts."""
    if visitor.person is None:
        raise NotKnown("There are no accounts here: this Juxtaform is for this machine alone.")
    return visitor.person.id


def _entered(request: Request, response: Response, done: Entered) -> Person:
    set_cookie(request, response, done.cookie)
    return done.person
