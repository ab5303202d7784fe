"""The door: who may ask, how much may come in, what every answer says of itself, and an answer even to what nobody foresaw."""

from __future__ import annotations

import json
import logging
import re
import shutil
import traceback
import uuid
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from juxtaform import limits
from juxtaform.studio.workspace import request_named
from juxtaform.web.problems import problem

LOCAL_HOSTS = ("127.0.0.1", "localhost")
"""By these names alone the server answers: a stranger's name that points here is none (DNS rebinding)."""
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
ELSEWHERE = ("cross-site", "same-site")
"""What a browser says of a request that another site's page made (Fetch Metadata)."""
POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; media-src 'self' blob:; object-src 'none'; base-uri 'self'; "
    "form-action 'self'; frame-ancestors 'none'"
)
HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "Content-Security-Policy": POLICY,
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
REQUEST_NAME = re.compile(r"^[0-9A-Za-z_-]{8,64}$")
_STRING = re.compile(rb'"(?:[^"\\]|\\.)*"', re.DOTALL)
_SURROGATE = re.compile(rb"\\u[dD][89a-fA-F]")
log = logging.getLogger("juxtaform")


class Doors:
    """Stands before the application. `rooms` are folders whose disks must have room for changes; `public` is the origin by which a proxy
    is reached, if there is one."""

    def __init__(self, app: ASGIApp, rooms: Sequence[Path] = (), public: str = "") -> None:
        self.app, self.rooms, self.public = app, rooms, public
        self._uploads = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        begun = False

        async def out(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
                if scope["path"].startswith("/api"):
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        try:
            await self._let_in(scope, receive, out)
        except Exception as error:
            detail = _unforeseen(scope, error)
            if begun:
                raise
            await problem(500, "Not foreseen", detail)(scope, receive, out)

    async def _let_in(self, scope: Scope, receive: Receive, send: Send) -> None:
        refusal = self._refusal(scope)
        if refusal is not None:
            await problem(*refusal)(scope, receive, send)
            return
        headers = Headers(scope=scope)
        upload = headers.get("content-type", "").startswith("multipart/")
        self._uploads += upload
        try:
            if upload and self._uploads > limits.MOST_UPLOADS:
                detail = f"{limits.MOST_UPLOADS} files are being taken in already. Send this one again in a moment."
                await problem(503, "Too many at once", detail, headers={"Retry-After": "1"})(scope, receive, send)
                return
            await self._passed(scope, receive, send, headers)
        finally:
            self._uploads -= upload

    async def _passed(self, scope: Scope, receive: Receive, send: Send, headers: Headers) -> None:
        if scope["method"] in SAFE:
            await self.app(scope, receive, send)
            return
        is_json = not headers.get("content-type", "").startswith("multipart/")
        measured = _Measured(receive, limits.most_body_bytes(scope["path"]), is_json=is_json)
        name = headers.get("idempotency-key", "")
        if REQUEST_NAME.match(name):
            with request_named(name):
                await self.app(scope, measured, send)
        else:
            await self.app(scope, measured, send)

    def _refusal(self, scope: Scope) -> tuple[int, str, str] | None:
        """Why a request is not let in, as (status, title, detail)."""
        headers = Headers(scope=scope)
        if headers.get("sec-fetch-site") in ELSEWHERE and scope["path"].startswith(("/api/", "/understudy")):
            return 403, "From elsewhere", "Another site asked for this. It is given to Juxtaform's own pages alone."
        if scope["path"].startswith("/understudy") and not _is_own(scope, headers):
            return 404, "Not there", "There is no such address."
        if scope["method"] in SAFE:
            return None
        origin = headers.get("origin")
        own = (f"{scope['scheme']}://{headers.get('host', '')}", self.public)
        if origin is not None and origin not in own:
            return 403, "Wrong origin", "Changes are taken only from Juxtaform's own pages."
        length, most = headers.get("content-length", ""), limits.most_body_bytes(scope["path"])
        if length and (not length.isdigit() or int(length) > most):
            return 413, "Too large", _too_large(most)
        free_mb = min((_free_bytes(p) for p in self.rooms), default=limits.LEAST_FREE_MB << 20) >> 20
        return (507, "Disk full", no_room(free_mb)) if free_mb < limits.LEAST_FREE_MB else None


class _Measured:
    """A request's body, measured while it comes: too much of it, or JSON nested too deep, is refused before it is kept."""

    def __init__(self, receive: Receive, most: int, *, is_json: bool) -> None:
        self._receive, self._most, self._json = receive, most, is_json
        self._length = 0
        self._held: list[bytes] = []

    async def __call__(self) -> Message:
        message = await self._receive()
        if message["type"] != "http.request":
            return message
        part = message.get("body", b"")
        self._length += len(part)
        if self._length > self._most:
            raise HTTPException(413, _too_large(self._most))
        if self._json:
            self._held.append(part)
            if not message.get("more_body", False):
                whole = b"".join(self._held)
                if json_depth(whole) > limits.MOST_JSON_DEPTH:
                    raise HTTPException(422, f"The JSON is nested more than {limits.MOST_JSON_DEPTH} deep.")
                if has_half_characters(whole):
                    raise HTTPException(
                        422, "A text in this holds half a character (a lone surrogate). Nothing was changed."
                    )
        return message


def json_depth(data: bytes) -> int:
    """How deep brackets are nested in JSON text; what stands in strings does not count.

    >>> json_depth(b'{"a": [1, {"b": "[[["}]}')
    3
    """
    marks = np.frombuffer(_STRING.sub(b"", data), dtype=np.uint8)
    opened = np.isin(marks, (0x5B, 0x7B)).astype(np.int32) - np.isin(marks, (0x5D, 0x7D))
    return int(np.cumsum(opened).max(initial=0))


def has_half_characters(data: bytes) -> bool:
    """Whether some text in JSON is no text: half of a surrogate pair (RFC 8259, 8.2).

    >>> has_half_characters(rb'"\\ud83e\\udd80"'), has_half_characters(rb'"\\ud83e"')
    (False, True)
    """
    if not _SURROGATE.search(data):
        return False
    try:
        json.dumps(json.loads(data), ensure_ascii=False).encode()
    except UnicodeEncodeError:
        return True
    except (ValueError, RecursionError):
        return False  # No JSON at all: whoever reads it says so.
    return False


def _is_own(scope: Scope, headers: Headers) -> bool:
    """Whether this machine itself asks, with no proxy between."""
    host = headers.get("host", "").rpartition(":")[0] or headers.get("host", "")
    return host in LOCAL_HOSTS and not any(name in headers for name in ("forwarded", "x-forwarded-for"))


def _free_bytes(path: Path) -> int:
    while not path.exists():
        path = path.parent
    return shutil.disk_usage(path).free


def no_room(free_mb: int) -> str:
    return (
        f"Only {free_mb} MB are free on the disk, so nothing is changed: what is there stays whole. "
        f"Free at least {limits.LEAST_FREE_MB} MB, then do it again."
    )


def _too_large(most: int) -> str:
    size = f"{most >> 30} GB" if most >= 1 << 30 else f"{most >> 20} MB"
    return f"This is too large: the most is {size}. Nothing was changed."


def _unforeseen(scope: Scope, error: Exception) -> str:
    """Write an error down under an id, and say so."""
    key = uuid.uuid4().hex[:8]
    trace = "".join(traceback.format_exception(error))
    log.error("%s %s failed, id %s\n%s", scope["method"], scope["path"], key, trace)
    return f"Something went wrong that nobody foresaw. Nothing was changed. The log tells more under the id {key}."
