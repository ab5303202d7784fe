"""The application: routers behind the door, errors as problem details, the API's own page, and the front end's files."""

from __future__ import annotations

import tempfile
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.trustedhost import TrustedHostMiddleware

import juxtaform
from juxtaform.studio.background import Background
from juxtaform.studio.checking import Checker
from juxtaform.studio.findings import Findings
from juxtaform.studio.live import LiveProjects
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
    pictures,
    plan,
    projects,
    review,
    rowsheet,
    run_through,
    services,
    sounds,
    spotting,
    story,
    takes,
    threads,
)
from juxtaform.web.doors import LOCAL_HOSTS, POLICY, Doors
from juxtaform.web.problems import MEDIA_TYPE, tell_problems

STATIC = Path(__file__).parent / "static"
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
)


def create_app(ws: Workspace, checker: Checker) -> FastAPI:
    """The web application over a workspace; who stands where is looked for by the check's own workers."""
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
    if ws:
        app.state.live = live = LiveProjects(ws)
        app.state.findings = Findings(ws, live)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=list(LOCAL_HOSTS), www_redirect=False)
    app.add_middleware(Doors, rooms=[ws.store.root, Path(tempfile.gettempdir())] if ws else [])
    tell_problems(app)
    for room in ROUTERS:
        app.include_router(room.router, prefix="/api")
    app.include_router(clips.files, prefix="/api")
    app.include_router(sounds.files, prefix="/api")
    app.mount("/understudy", prompter.app)
    _serve_front_end(app)
    return app


class _Documented(FastAPI):
    """Its OpenAPI document says that errors are problem details."""

    def openapi(self) -> dict[str, Any]:
        if self.openapi_schema is None:
            document = get_openapi(title=self.title, version=self.version, routes=self.routes)
            for operations in document["paths"].values():
                for operation in operations.values():
                    for status, answer in operation["responses"].items():
                        content = answer.get("content", {})
                        if status[0] != "2" and content:
                            answer["content"] = {MEDIA_TYPE: next(iter(content.values()))}
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
    def docs() -> FileResponse:
        headers = {"Cache-Control": "no-cache", "Content-Security-Policy": DOCS_POLICY}
        return FileResponse(STATIC / "api-docs.html", headers=headers)

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path == "api" or path.startswith(("api/", "assets/", "understudy/")):
            raise HTTPException(404)
        return FileResponse(STATIC / "index.html", headers={"Cache-Control": "no-cache"})
