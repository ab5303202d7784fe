"""Errors as RFC 9457 problem details, in the user's words."""

from __future__ import annotations

import errno
import json
import logging
from collections.abc import Callable, Mapping
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DataError, IntegrityError, SQLAlchemyError
from starlette.exceptions import HTTPException

from juxtaform.media.decode import PictureRefused
from juxtaform.records.trouble import trouble_of
from juxtaform.services.scanner import Harmful, ScannerAway
from juxtaform.studio import news
from juxtaform.studio.accounts import Wrong
from juxtaform.studio.second import CodeWanted, CodeWrong
from juxtaform.studio.secrets import TooMany
from juxtaform.studio.shown import NeedsPassphrase
from juxtaform.studio.tables import TableAsks
from juxtaform.studio.workspace import AlreadyDone, Conflict, NotPossible, NotThere
from juxtaform.web.entrance import NotAllowed, NotKnown
from juxtaform.web.rows import ChangedOut

MEDIA_TYPE = "application/problem+json"
log = logging.getLogger("juxtaform.people")
MOST_DETAIL = 500
AWAY = "The database is away for the moment. It is being started again; what you did is not lost, and is done as soon as it answers."
BUSY = "Somebody else is changing this project at the moment. Try again; nothing was changed."
FULL = "The disk is full, so nothing was changed. Free some room, then do it again."
TITLES = {400: "Not readable", 404: "Not there", 405: "No such action", 413: "Too large", 422: "Not valid"}
WORDS = {404: "There is no such address.", 405: "This address does not take that."}


def problem(
    status: int, title: str, detail: str, headers: Mapping[str, str] | None = None, **more: Any
) -> JSONResponse:
    """An RFC 9457 answer."""
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, **more}
    text = json.dumps(body, default=str).encode("utf-8", "replace")
    return JSONResponse(json.loads(text), status, headers=headers, media_type=MEDIA_TYPE)


def tell_problems(app: FastAPI) -> None:
    """Answer every foreseen error of an application in words."""
    for kind, code, title in (
        (NotThere, 404, "Not there"),
        (NotPossible, 422, "Not possible"),
        (PictureRefused, 422, "Picture refused"),
        (Harmful, 422, "Not let through"),
        (ScannerAway, 424, "Scanner away"),
        (NotKnown, 401, "Sign in"),
        (Wrong, 401, "Wrong"),
        (NeedsPassphrase, 401, "Passphrase"),
        (CodeWanted, 401, "Code wanted"),
        (CodeWrong, 401, "Code wanted"),
    ):
        app.add_exception_handler(kind, _as_problem(code, title))
    app.add_exception_handler(Conflict, _conflict)
    app.add_exception_handler(TableAsks, _table_asks)
    app.add_exception_handler(TooMany, _too_many)
    app.add_exception_handler(NotAllowed, _not_allowed)
    app.add_exception_handler(AlreadyDone, _already_done)
    app.add_exception_handler(news.TooFarBehind, _too_far_behind)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(SQLAlchemyError, _database)
    app.add_exception_handler(OSError, _system)


def _as_problem(status: int, title: str) -> Callable[[Request, Exception], Response]:
    return lambda _, error: problem(status, title, _short(str(error.args[0] if error.args else error)))


def _conflict(_: Request, error: Exception) -> Response:
    assert isinstance(error, Conflict)
    return problem(409, "Changed meanwhile", str(error), mine=error.mine, theirs=error.theirs)


def _table_asks(_: Request, error: Exception) -> Response:
    assert isinstance(error, TableAsks)
    return problem(422, "Asked", _short(str(error)), offer=error.offer)


def _not_allowed(request: Request, error: Exception) -> Response:
    visitor = getattr(request.state, "visitor", None)
    who = f"account {visitor.account_id}" if visitor and visitor.account_id else "somebody"
    log.warning("refused to %s: %s %s", who, request.method, request.url.path)
    return problem(403, "Not allowed", _short(str(error)))


def _too_many(_: Request, error: Exception) -> Response:
    assert isinstance(error, TooMany)
    return problem(429, "Too often", str(error), headers={"Retry-After": str(error.wait_s)})


def _already_done(request: Request, error: Exception) -> Response:
    """The request came again: what it did, and what happened since."""
    assert isinstance(error, AlreadyDone)
    changed = news.since(request.app.state.workspace, error.project_id, error.version - 1)
    return JSONResponse(ChangedOut.model_validate(changed, from_attributes=True).model_dump(mode="json"))


def _too_far_behind(_: Request, error: Exception) -> Response:
    return problem(410, "Too far behind", "Too much happened since. Take the whole project anew.")


def _invalid(_: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    where = "/".join(str(part) for part in first["loc"][1:]) or "the request"
    return problem(422, "Not valid", _short(f"{where}: {first['msg']}."))


def _http(_: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    detail = WORDS.get(error.status_code) or str(error.detail)
    return problem(error.status_code, TITLES.get(error.status_code, "Refused"), _short(detail), headers=error.headers)


def _database(_: Request, error: Exception) -> Response:
    assert isinstance(error, SQLAlchemyError)
    match trouble_of(error):
        case "away":
            return problem(503, "Database away", AWAY, headers={"Retry-After": "2"})
        case "busy":
            return problem(503, "Busy", BUSY, headers={"Retry-After": "1"})
        case "full":
            return problem(507, "Disk full", FULL)
    if isinstance(error, IntegrityError):
        gone = "Something that this refers to is not there any more. Look at the project as it is now, then try again."
        return problem(409, "Gone meanwhile", gone)
    if isinstance(error, DataError):
        return problem(422, "Not valid", "A number or text in this is too large to be kept. Nothing was changed.")
    raise error


def _system(_: Request, error: Exception) -> Response:
    assert isinstance(error, OSError)
    if error.errno in (errno.ENOSPC, errno.EDQUOT):
        return problem(507, "Disk full", FULL)
    raise error


def _short(text: str) -> str:
    return text if len(text) <= MOST_DETAIL else f"{text[:MOST_DETAIL]} …"
