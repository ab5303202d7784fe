"""The Understudy: a simulated picture-making service that speaks the picture-service protocol, version 1 (docs/picture-service.md)."""

from __future__ import annotations

import hashlib
import hmac
import json
from collections.abc import AsyncIterator, Callable, Iterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Annotated

from fastapi import APIRouter, Depends, FastAPI, Header, HTTPException, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from fastapi.sse import EventSourceResponse, ServerSentEvent
from starlette.exceptions import HTTPException as Raised

from juxtaform.understudy.held import Held
from juxtaform.understudy.jobs import CREDITS, MOST_CLIP_S, SIDES, Jobs, OtherBody, Refused, TooMany
from juxtaform.understudy.protocol import (
    MOST_PICTURES,
    MOST_REFERENCES,
    MOST_TEXT,
    Job,
    Model,
    Problem,
    Quality,
    Service,
    Wanted,
)
from juxtaform.understudy.slips import Slip, Trouble

PREFIX = "/picture-service/v1"
MOST_BYTES = 60_000_000
MAGIC = {b"\x89PNG": "image/png", b"\xff\xd8\xff": "image/jpeg", b"RIFF": "image/webp"}
ASPECTS = ["1:1", "4:3", "3:2", "16:9", "2:1", "3:4", "2:3", "9:16"]
AGAIN_S = 10.0
AGAIN_IN_S = 2
PROBLEMS = {
    "default": {
        "description": "What went wrong, in words",
        "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
    }
}
BYTES = {"schema": {"type": "string", "format": "binary"}}
PICTURE = dict.fromkeys(("image/png", "image/jpeg", "image/webp"), BYTES)


def make_app(
    token: str = "",
    at_once: int = 2,
    often: float = 0.0,
    *,
    tells: bool = False,
    keep: Path | None = None,
    trouble: Callable[[str], Trouble] | None = None,
) -> FastAPI:
    """The Understudy as an application; with a token it answers to nobody else. `often` is the chance that something goes wrong in a picture;
    one that `tells` says what, and what it was asked for in all. What it holds outlives it in the folder `keep`."""
    pictures = Held(keep / "pictures" if keep else None)
    jobs = Jobs(pictures, at_once, often, keep / "jobs" if keep else None, trouble)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        yield
        jobs.close()

    app = FastAPI(title="Picture-service", version="1", lifespan=lifespan, docs_url=None, redoc_url=None)
    app.state.jobs, app.state.token = jobs, token
    app.add_exception_handler(Raised, _problem_of)
    app.add_exception_handler(RequestValidationError, _not_valid)
    app.include_router(router)
    if tells:
        app.include_router(telling)
    return app


def _let_in(request: Request, authorization: Annotated[str, Header()] = "") -> None:
    wanted = request.app.state.token
    if wanted and not hmac.compare_digest(authorization.encode("latin-1"), f"Bearer {wanted}".encode()):
        raise HTTPException(401, "The token is not the one that this service was given. Look it up in the settings.")


def _jobs(request: Request) -> Jobs:
    jobs: Jobs = request.app.state.jobs
    return jobs


TheJobs = Annotated[Jobs, Depends(_jobs)]
router = APIRouter(prefix=PREFIX, dependencies=[Depends(_let_in)], responses=PROBLEMS)  # type: ignore[arg-type]


telling = APIRouter(prefix="/understudy", dependencies=[Depends(_let_in)], include_in_schema=False)


@telling.get("/count")
def count(jobs: TheJobs) -> dict[str, float]:
    """How many jobs were taken and pictures made, and what they cost."""
    return {"jobs": jobs.taken, "pictures": jobs.made, "credits": jobs.credits}


@telling.get("/slips/{sha}")
def slips(jobs: TheJobs, sha: str) -> list[Slip]:
    """What went wrong in a picture."""
    if sha not in jobs.slips:
        raise HTTPException(404, "This picture was not made here.")
    return list(jobs.slips[sha])


@router.get("/", summary="What the service can do")
def about(jobs: TheJobs) -> Service:
    model = Model(
        id="cut-paper",
        name="Understudy, cut and laid",
        kinds=["picture", "edit", "extension", "clip"],
        aspects=ASPECTS,
        holds=["figure", "place", "light", "layout", "style"],
        text_most=MOST_TEXT,
        references_most=MOST_REFERENCES,
        reference_side_most_px=4096,
        pictures_most=MOST_PICTURES,
        seeds=True,
        masks=True,
        clip_seconds_most=MOST_CLIP_S,
        qualities=[
            Quality(id="draft", side_px=SIDES["draft"], credits=CREDITS["draft"]),
            Quality(id="final", side_px=SIDES["final"], credits=CREDITS["final"]),
        ],
    )
    return Service(name="Understudy", models=[model], jobs_at_once=jobs.at_once)


@router.put(
    "/pictures/{sha}",
    status_code=201,
    summary="Bring a picture under the SHA-256 of its bytes",
    response_class=Response,
    responses={200: {"description": "It is there already"}},
    openapi_extra={"requestBody": {"required": True, "content": PICTURE}},
)
async def bring(request: Request, jobs: TheJobs, sha: str) -> Response:
    data = b""
    async for part in request.stream():
        data += part
        if len(data) > MOST_BYTES:
            raise HTTPException(413, f"A picture has at most {MOST_BYTES // 1_000_000} MB here. Send a smaller one.")
    if hashlib.sha256(data).hexdigest() != sha:
        raise HTTPException(422, "These bytes have another SHA-256 than the address says. Send them again.")
    if _media_type(data) is None:
        raise HTTPException(422, "This is no PNG, JPEG or WebP. Send the picture in one of these.")
    _, is_new = jobs.pictures.put(data)
    return Response(status_code=201 if is_new else 200)


@router.head("/pictures/{sha}", summary="Whether a picture is there", response_class=Response)
@router.get(
    "/pictures/{sha}",
    summary="A picture or a clip",
    response_class=Response,
    responses={200: {"description": "Its bytes", "content": {**PICTURE, "video/mp4": BYTES, "video/webm": BYTES}}},
)
def picture(request: Request, jobs: TheJobs, sha: str) -> Response:
    data = jobs.pictures.get(sha)
    if data is None:
        raise HTTPException(404, "This picture is not here. Bring it first.")
    if request.method == "GET" and jobs.breaks(sha):
        return Response(data[: len(data) // 2], media_type="image/png")
    return Response(data, media_type=_media_type(data) or "application/octet-stream")


@router.post("/jobs", status_code=202, summary="Ask for pictures")
def ask(
    jobs: TheJobs,
    wanted: Wanted,
    response: Response,
    idempotency_key: Annotated[str, Header(min_length=8, max_length=200)],
) -> Job:
    if wanted.model != "cut-paper":
        raise HTTPException(422, f"There is no model {wanted.model!r} here. Ask what the service can do.")
    try:
        job = jobs.take(idempotency_key, wanted)
    except Refused as error:
        raise HTTPException(422, str(error)) from error
    except TooMany as error:
        raise HTTPException(429, str(error), headers={"Retry-After": str(AGAIN_IN_S)}) from error
    except OtherBody as error:
        raise HTTPException(409, str(error)) from error
    response.headers["Location"] = f"{PREFIX}/jobs/{job.id}"
    return job


@router.get("/jobs/{job_id}", summary="How a job goes")
def job(jobs: TheJobs, job_id: str) -> Job:
    found = jobs.find(job_id)
    if found is None:
        raise HTTPException(404, "There is no such job (any more).")
    return found


@router.get("/jobs/{job_id}/events", summary="How a job goes, as it goes", response_class=EventSourceResponse)
def events(jobs: TheJobs, job_id: str) -> Iterator[ServerSentEvent]:
    version = -1
    while (told := jobs.wait(job_id, version, AGAIN_S)) is not None:
        now, count = told
        if count > version:
            version = count
            yield ServerSentEvent(event="job", raw_data=now.model_dump_json())
        else:
            yield ServerSentEvent(comment="still there")
        if now.state in ("done", "failed", "refused", "cancelled"):
            return


@router.delete("/jobs/{job_id}", summary="Cancel a job; what is made stays")
def cancel(jobs: TheJobs, job_id: str) -> Job:
    found = jobs.cancel(job_id)
    if found is None:
        raise HTTPException(404, "There is no such job (any more).")
    return found


def _media_type(data: bytes) -> str | None:
    return next((kind for magic, kind in MAGIC.items() if data.startswith(magic)), None)


def _problem_of(_: Request, error: Exception) -> Response:
    assert isinstance(error, Raised)
    return _problem(error.status_code, str(error.detail), dict(error.headers or {}))


def _not_valid(_: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    where = "/".join(str(part) for part in first["loc"] if part != "body")
    return _problem(422, f"{where}: {first['msg']}.")


def _problem(status: int, detail: str, headers: dict[str, str] | None = None) -> Response:
    body = Problem(title="Not done", status=status, detail=detail).model_dump()
    return JSONResponse(body, status, headers, media_type="application/problem+json")


def openapi() -> str:
    """The protocol as OpenAPI 3.1, as it lies in docs/."""
    return json.dumps(make_app().openapi(), indent=1, ensure_ascii=False, sort_keys=True) + "\n"
