"""The application: routers behind the door, errors as problem details, the API's own page, and the front end's files."""

from __future__ import annotations

import secrets
import tempfile
from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from fastapi import Depends, FastAPI
from fastapi.encoders import jsonable_encoder
from fastapi.openapi.utils import get_openapi
from fastapi.responses import HTMLResponse, Response
from fastapi.routing import APIRoute, iter_route_contexts
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.routing import BaseRoute

import juxtaform
from juxtaform.services.scanner import Scanner
from juxtaform.studio.accounts import Doorkeeper
from juxtaform.studio.background import Background
from juxtaform.studio.checking import Checker
from juxtaform.studio.findings import Findings
from juxtaform.studio.live import LiveProjects
from juxtaform.studio.presence import Presence
from juxtaform.studio.showings import News
from juxtaform.studio.workspace import Workspace
from juxtaform.understudy import prompter
from juxtaform.web import (
    areas,
    book,
    bridges,
    briefs,
    checking,
    clips,
    deliveries,
    events,
    findings,
    library,
    light_table,
    making,
    people,
    pictures,
    plan,
    projects,
    review,
    rowsheet,
    run_through,
    services,
    showings,
    sounds,
    spotting,
    story,
    takes,
    threads,
)
from juxtaform.web.doors import LOCAL_HOSTS, POLICY, Doors
from juxtaform.web.entrance import PLAIN, SECURE, allowed, need_of
from juxtaform.web.problems import tell_problems
from juxtaform.web.rows import Problem
from juxtaform.web.scanning import scanned

STATIC = Path(__file__).parent / "static"
NONCE = "NONCE-OF-THIS-ANSWER"
"""What stands in built pages for the nonce (frontend/vite.config.ts)."""
DOCS_POLICY = POLICY.replace("img-src 'self' data: blob:", "img-src 'self' data:")
ROUTERS = (
    projects,
    events,
    story,
    plan,
    threads,
    briefs,
    review,
    rowsheet,
    library,
    light_table,
    takes,
    spotting,
    services,
    making,
    areas,
    clips,
    checking,
    findings,
    pictures,
    run_through,
    sounds,
    bridges,
    book,
    deliveries,
    people,
    showings,
)


def create_app(
    ws: Workspace, checker: Checker, entrance: Entrance | None = None, scanner: Scanner | None = None
) -> FastAPI:
    """The web application over a workspace, to be reached by this machine alone where no other entrance is given; who stands where is
    looked for by the check's own workers. A scanner looks at every file that comes in."""
    entrance = entrance or Entrance()
    background = Background(ws, checker.workers) if checker else None

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        checker.resume()
        if background:
            background.start()
        yield
        if background:
            background.close()
        checker.close()

    app = _Documented(
        title="Juxtaform",
        version=juxtaform.__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.workspace, app.state.checker, app.state.background = ws, checker, background
    app.state.scanner = scanner
    if ws:
        app.state.showing_news = News()
        app.state.presence = Presence(ws.listeners)
        app.state.live = live = LiveProjects(ws)
        app.state.findings = Findings(ws, live)
    app.state.doorkeeper = Doorkeeper(ws, from_the_start=entrance.from_elsewhere, second_wanted=entrance.second_wanted)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=list(entrance.hosts), www_redirect=False)
    app.add_middleware(Doors, rooms=[ws.store.root, Path(tempfile.gettempdir())] if ws else [], public=entrance.public)
    tell_problems(app)
    app.router.routes.extend(_api())
    app.mount("/understudy", prompter.app)
    _serve_front_end(app)
    return app


@dataclass(frozen=True)
class Entrance:
    """By which names the server is reached, by which origin from outside if there is a proxy before it, and whether it is to be reached
    from elsewhere than this machine, so that people have to sign in from the start; and whether everybody has to have a second factor."""

    hosts: Sequence[str] = LOCAL_HOSTS
    public: str = ""
    from_elsewhere: bool = False
    second_wanted: bool = False


@lru_cache(maxsize=1)
def _api() -> tuple[BaseRoute, ...]:
    """The routes of all rooms, made once: what each takes and gives is worked out on its first use, which takes a second for all. Every one has
    something that it needs. Raises KeyError."""
    made = FastAPI(openapi_url=None)
    for router in (*(room.router for room in ROUTERS), clips.files, sounds.files):
        made.include_router(router, prefix="/api", dependencies=[Depends(allowed), Depends(scanned)])
    for route in iter_route_contexts(made.routes):
        if isinstance(route.original_route, APIRoute):
            for method in route.methods or ():
                need_of(method, (route.path or "").removeprefix("/api"))
    return tuple(made.routes)


class _Documented(FastAPI):
    """Its OpenAPI document says what each route needs, and that errors are problem details."""

    def openapi(self) -> dict[str, Any]:
        if self.openapi_schema is None:
            document = get_openapi(title=self.title, version=self.version, routes=self.routes)
            for path, operations in document["paths"].items():
                for method, operation in operations.items():
                    operation["x-needs"] = need = need_of(method.upper(), path.removeprefix("/api"))
                    operation["security"] = [{}] if need in ("anybody", "link") else [{"cookie": []}, {"token": []}]
            schemas = document["components"]["schemas"]
            schemas["Problem"] = jsonable_encoder(Problem.model_json_schema(), exclude_none=True)
            document["components"]["schemas"] = dict(sorted(schemas.items()))
            document["components"]["securitySchemes"] = {
                "cookie": {
                    "type": "apiKey",
                    "in": "cookie",
                    "name": PLAIN,
                    "description": f"By signing in; over TLS {SECURE}.",
                },
                "token": {"type": "http", "scheme": "bearer"},
            }
            _say_what_is_always_there(document)
            self.openapi_schema = document
        return self.openapi_schema


def _say_what_is_always_there(document: dict[str, Any]) -> None:
    """What is answered has all its fields, also those that may be left out of what is asked; only findings and problems leave out what they have not."""
    schemas = document["components"]["schemas"]
    asked = [o.get("requestBody", {}) for path in document["paths"].values() for o in path.values()]
    left_out = _named_in(asked, schemas) | _named_in(schemas["FindingsSince"], schemas) | {"Problem"}
    for name, schema in schemas.items():
        if name not in left_out and "properties" in schema:
            schema["required"] = list(schema["properties"])


def _named_in(part: object, schemas: dict[str, Any], seen: set[str] | None = None) -> set[str]:
    """The schemas that a part of the document names, with all that these name."""
    seen = set() if seen is None else seen
    if isinstance(part, dict):
        name = str(part.get("$ref", "")).rpartition("/")[2]
        if name and name not in seen and name in schemas:
            seen.add(name)
            _named_in(schemas[name], schemas, seen)
        for inner in part.values():
            _named_in(inner, schemas, seen)
    elif isinstance(part, list):
        for inner in part:
            _named_in(inner, schemas, seen)
    return seen


def _serve_front_end(app: FastAPI) -> None:
    if not (STATIC / "index.html").exists():
        return
    app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

    @app.get("/api/docs", include_in_schema=False)
    def docs() -> Response:
        return _page("api-docs.html", DOCS_POLICY)

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path == "api" or path.startswith(("api/", "assets/", "understudy/")):
            raise HTTPException(404)
        return _page("index.html", POLICY)


def _page(name: str, policy: str) -> Response:
    """A page of ours; style sheets that its scripts put in are let in by a nonce of this one answer (CSP Level 3)."""
    nonce = secrets.token_urlsafe(16)
    text = (STATIC / name).read_text("utf-8").replace(NONCE, nonce)
    headers = {"Cache-Control": "no-store", "Content-Security-Policy": f"{policy}; style-src 'self' 'nonce-{nonce}'"}
    return HTMLResponse(text, headers=headers)
