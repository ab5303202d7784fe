"""A picture-making service, asked over picture-service, version 1 (docs/picture-service.md).

A service may lie, drip, break off or send endless answers: each request has a size and a time that it may take in all, redirects are not
followed, and what comes is held against what was said.
"""

from __future__ import annotations

import asyncio
import functools
import hashlib
import ssl
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime
from email.utils import parsedate_to_datetime
from typing import Any, TypeVar
from urllib.parse import urljoin, urlsplit

import httpx
from pydantic import ValidationError

from juxtaform.limits import MOST_PICTURE_BYTES
from juxtaform.services.shapes import JobSaid, ProblemSaid, Said, ServiceSaid

PREFIX = "/picture-service/v1"
MOST_ANSWER_BYTES = 4_000_000
ANSWER_S, PICTURE_S, STEP_S = 30.0, 300.0, 20.0
"""How long an answer, and a picture, may take in all, and each step of either."""
LEAST_REST_S, MOST_REST_S = 1.0, 3600.0

Shape = TypeVar("Shape", bound=Said)


class Trouble(RuntimeError):
    """Something is wrong with a service; the message is one sentence for the user."""


class Away(Trouble):
    """It does not answer now: it may be asked again later."""


class Busy(Trouble):
    """It wants to be asked again after `rest_s` seconds."""

    def __init__(self, message: str, rest_s: float) -> None:
        super().__init__(message)
        self.rest_s = rest_s


class NotLetIn(Trouble):
    """It does not know our token."""


class Refused(Trouble):
    """It does not do what was asked, and says why."""


class Gone(Refused):
    """It does not know what it was asked for (any more)."""


class Untrue(Trouble):
    """It does not keep to the protocol: what it sends is not taken."""


class PictureService:
    """A service at an address, with the token that the user gave for it; used within `open`."""

    def __init__(self, client: httpx.AsyncClient, name: str, address: str) -> None:
        self._client, self.name, self._base = client, name, address.rstrip("/") + PREFIX

    @classmethod
    @asynccontextmanager
    async def open(
        cls, name: str, address: str, token: str = "", transport: httpx.AsyncBaseTransport | None = None
    ) -> AsyncIterator[PictureService]:
        """A service that is asked as long as this lasts. `transport` takes the network's place."""
        headers = {"Accept-Encoding": "identity", "User-Agent": "Juxtaform"}
        if token:
            headers["Authorization"] = f"Bearer {token}"
        async with httpx.AsyncClient(
            headers=headers,
            follow_redirects=False,
            trust_env=False,
            timeout=httpx.Timeout(STEP_S),
            transport=transport,
            verify=_trusted(),
        ) as client:
            yield cls(client, name, address)

    async def can(self) -> ServiceSaid:
        """What it can do. Raises Trouble."""
        return self._shaped(ServiceSaid, await self._asked("GET", f"{self._base}/"))

    async def bring(self, sha: str, data: bytes, media_type: str) -> None:
        """Bring a picture, unless it is there. Raises Trouble."""
        at = f"{self._base}/pictures/{sha}"
        try:
            await self._asked("HEAD", at)
        except Gone:
            await self._asked("PUT", at, content=data, headers={"Content-Type": media_type}, total_s=PICTURE_S)

    async def ask(self, key: str, wanted: dict[str, Any]) -> tuple[str, JobSaid]:
        """Ask for a job, the same for ever under one key; returns the path where it is told of, and how it stands. Raises Trouble."""
        headers = {"Idempotency-Key": key}
        response, body = await self._answered("POST", f"{self._base}/jobs", json=wanted, headers=headers)
        job = self._shaped(JobSaid, body)
        at = urljoin(self._base, response.headers.get("Location") or f"{self._base}/jobs/{job.id}")
        self._see_own(at)
        return urlsplit(at).path, job

    async def job(self, at: str) -> JobSaid:
        """How a job at a path stands. Raises Trouble."""
        return self._shaped(JobSaid, await self._asked("GET", self._at(at)))

    async def cancel(self, at: str) -> None:
        """Stop a job at a path; one that is gone is stopped. Raises Trouble."""
        try:
            await self._asked("DELETE", self._at(at))
        except Gone:
            return

    async def picture(self, sha: str) -> bytes:
        """A picture or clip by its digest. Raises Untrue for other bytes."""
        at = f"{self._base}/pictures/{sha}"
        data = await self._asked("GET", at, most_bytes=MOST_PICTURE_BYTES, total_s=PICTURE_S)
        if hashlib.sha256(data).hexdigest() != sha:
            raise Untrue(
                f"{self.name} sent another picture than it said (its digest is wrong). Nothing of it was taken."
            )
        return data

    def _at(self, path: str) -> str:
        at = urljoin(self._base, path)
        self._see_own(at)
        return at

    def _see_own(self, at: str) -> None:
        """See that an address that the service named is its own."""
        own, named = urlsplit(self._base), urlsplit(at)
        if (own.scheme, own.netloc) != (named.scheme, named.netloc) or not named.path.startswith(f"{own.path}/jobs/"):
            raise Untrue(f"{self.name} named a place that is not its own. It was not called.")
        if ".." in named.path or named.query or named.fragment or len(at) > 600:
            raise Untrue(f"{self.name} named a place that cannot be called.")

    def _shaped(self, shape: type[Shape], body: bytes) -> Shape:
        try:
            return shape.model_validate_json(body)
        except ValidationError as error:
            wrong = error.errors(include_url=False, include_context=False, include_input=False)[0]
            where = "/".join(str(part) for part in wrong["loc"]) or "its answer"
            raise Untrue(f"{self.name} does not speak picture-service, version 1: {where}: {wrong['msg']}.") from error

    async def _asked(self, method: str, at: str, **how: Any) -> bytes:
        return (await self._answered(method, at, **how))[1]

    async def _answered(
        self, method: str, at: str, *, most_bytes: int = MOST_ANSWER_BYTES, total_s: float | None = None, **how: Any
    ) -> tuple[httpx.Response, bytes]:
        """The answer to a request, whole and within its bounds. Raises Trouble."""
        data, total_s = bytearray(), total_s or ANSWER_S
        try:
            async with asyncio.timeout(total_s), self._client.stream(method, at, **how) as response:
                if response.headers.get("Content-Encoding", "identity") != "identity":
                    raise Untrue(f"{self.name} packs its answers, which was not asked for. They were not opened.")
                async for part in response.aiter_bytes():
                    data += part
                    if len(data) > most_bytes:
                        raise Untrue(f"{self.name} sends more than {most_bytes:,} bytes. It was stopped.")
        except TimeoutError as error:
            raise Away(f"{self.name} took longer than {total_s:.0f} seconds to answer.") from error
        except httpx.TimeoutException as error:
            raise Away(f"{self.name} does not answer in time. Is it overloaded?") from error
        except httpx.ConnectError as error:
            raise Away(
                f"{self.name} cannot be reached at {_host(at)}. Is it running, and is there a network?"
            ) from error
        except (httpx.RemoteProtocolError, httpx.ReadError, httpx.WriteError) as error:
            raise Away(f"{self.name} broke off in the middle of its answer.") from error
        except (httpx.HTTPError, httpx.InvalidURL, OSError, UnicodeError) as error:
            raise Away(f"{self.name} cannot be asked: {type(error).__name__}.") from error
        self._see_done(response, bytes(data))
        return response, bytes(data)

    def _see_done(self, response: httpx.Response, body: bytes) -> None:
        status = response.status_code
        if status < 300:
            return
        if status < 400:
            raise Untrue(f"{self.name} sends us to another address. Give that address in the settings if you trust it.")
        said = _problem(body)
        match status:
            case 401 | 403:
                raise NotLetIn(f"{self.name} does not let us in. Give its token anew in the settings.{said}")
            case 404 | 410:
                raise Gone(f"{self.name} does not know what it was asked for.{said}")
            case 429 | 503 if "Retry-After" in response.headers:
                rest = _rest(response.headers["Retry-After"])
                raise Busy(f"{self.name} wants to be asked again in {rest:.0f} seconds.", rest)
            case 408 | 429 | 500 | 502 | 503 | 504:
                raise Away(f"{self.name} is in trouble (answer {status}).{said}")
            case _:
                raise Refused(f"{self.name} refused ({status}).{said}")


@functools.cache
def _trusted() -> ssl.SSLContext:
    """Whose certificates are trusted: read once, as that takes longer than most answers."""
    return httpx.create_ssl_context(trust_env=False)


def _problem(body: bytes) -> str:
    try:
        said = ProblemSaid.model_validate_json(body)
    except ValidationError:
        return ""
    words = " ".join((said.detail or said.title).split())[:300]
    return f" It says: {words}" if words else ""


def _rest(said: str) -> float:
    """Seconds of a Retry-After, which is a number or a date (RFC 9110); a minute where it is neither."""
    try:
        rest = (
            float(said) if said.strip().isdigit() else (parsedate_to_datetime(said) - datetime.now(UTC)).total_seconds()
        )
    except (ValueError, TypeError):
        rest = 60.0
    return min(MOST_REST_S, max(LEAST_REST_S, rest))


def _host(at: str) -> str:
    return urlsplit(at).netloc
