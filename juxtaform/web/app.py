"""The application: routers, errors as problem details, who may ask, and the front end's files."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles

import juxtaform
from juxtaform.media.decode import PictureRefused
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Conflict, NotPossible, NotThere, Workspace
from juxtaform.understudy import prompter
from juxtaform.web import briefs, checking, events, library, pictures, plan, projects, rowsheet, story, takes, threads

STATIC = Path(__file__).parent / "static"
LOCAL_HOSTS = {"127.0.0.1", "localhost", "[::1]", "testserver"}
POLICY = "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'"


def create_app(ws: Workspace, checker: Checker) -> FastAPI:
    """The web application over a workspace."""

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        checker.resume()
        yield
        checker.close()

    app = FastAPI(
        title="Juxtaform",
        version=juxtaform.__version__,
        lifespan=lifespan,
        docs_url="/api/docs",
        openapi_url="/api/openapi.json",
    )
    app.state.workspace, app.state.checker = ws, checker
    app.middleware("http")(_only_from_here)
    for kind, code, title in (
        (NotThere, 404, "Not there"),
        (NotPossible, 422, "Not possible"),
        (PictureRefused, 422, "Picture refused"),
    ):
        app.add_exception_handler(kind, _as_problem(code, title))
    app.add_exception_handler(Conflict, _conflict)
    app.add_exception_handler(RequestValidationError, _invalid)
    for router in (
        projects.router,
        events.router,
        story.router,
        plan.router,
        threads.router,
        briefs.router,
        rowsheet.router,
        library.router,
        takes.router,
        checking.router,
        pictures.router,
    ):
        app.include_router(router, prefix="/api")
    app.mount("/understudy", prompter.app)
    _serve_front_end(app)
    return app


async def _only_from_here(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
    """Answer only to this machine's own names, and take changes only from our own pages."""
    host = request.headers.get("host", "").rsplit(":", 1)[0]
    if host not in LOCAL_HOSTS:
        return problem(421, "Wrong host", "Juxtaform answers on 127.0.0.1 and localhost only.")
    origin = request.headers.get("origin")
    if (
        request.method not in ("GET", "HEAD", "OPTIONS")
        and origin
        and origin.split("://")[-1] != request.headers.get("host")
    ):
        return problem(403, "Wrong origin", "Changes are taken only from Juxtaform's own pages.")
    response = await call_next(request)
    response.headers.setdefault("X-Content-Type-Options", "nosniff")
    response.headers.setdefault("Content-Security-Policy", POLICY)
    return response


def problem(status: int, title: str, detail: str, **more: Any) -> JSONResponse:
    """An RFC 9457 answer."""
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, **more}
    return JSONResponse(json.loads(json.dumps(body, default=str)), status, media_type="application/problem+json")


def _as_problem(status: int, title: str) -> Callable[[Request, Exception], Response]:
    return lambda _, error: problem(status, title, str(error.args[0] if error.args else error))


def _conflict(_: Request, error: Exception) -> Response:
    assert isinstance(error, Conflict)
    return problem(409, "Changed meanwhile", str(error), mine=error.mine, theirs=error.theirs)


def _invalid(_: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    where = "/".join(str(part) for part in first["loc"][1:]) or "the request"
    return problem(422, "Not valid", f"{where}: {first['msg']}.")


def _serve_front_end(app: FastAPI) -> None:
    if not (STATIC / "index.html").exists():
        return
    app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        return FileResponse(STATIC / "index.html", headers={"Cache-Control": "no-cache"})
