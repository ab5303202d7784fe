"""How the client asks: over HTTP, with a token where there are accounts; what is refused is raised with the server's own words."""

from __future__ import annotations

from collections.abc import Mapping
from types import TracebackType
from typing import Any, Self
from urllib.parse import quote

import httpx

FileIn = tuple[str, bytes]
"""A file's name and its bytes."""
RESTS_S = 20.0
"""A connection that rested so long is not used again: the server may have closed it."""


class NotReached(Exception):
    """Nobody answers at the address; the message says what to do."""


class Refused(Exception):
    """The server says no, or that something is wrong; the message is its own, `status` the number of its answer (RFC 9110)."""

    def __init__(self, status: int, words: str) -> None:
        super().__init__(words)
        self.status = status


class Calls:
    """A connection to a running Juxtaform."""

    def __init__(self, at: str = "http://127.0.0.1:8765", token: str = "", timeout_s: float = 120.0) -> None:
        headers = {"Authorization": f"Bearer {token}"} if token else {}
        self.at = at.rstrip("/")
        limits = httpx.Limits(keepalive_expiry=RESTS_S)
        self._http = httpx.Client(base_url=self.at, headers=headers, timeout=timeout_s, limits=limits, trust_env=False)

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        self._http.close()

    def _asked(
        self,
        method: str,
        path: str,
        parts: Mapping[str, object],
        query: Mapping[str, object] | None = None,
        body: Any = None,
        form: Mapping[str, FileIn | str | None] | None = None,
    ) -> Any:
        """What a route answers: its JSON, its bytes where it gives a file, None where it gives nothing. Raises Refused, NotReached."""
        where = path.format(**{k: quote(str(v), safe="") for k, v in parts.items()})
        asked: dict[str, Any] = {"params": {k: v for k, v in (query or {}).items() if v is not None}}
        if form is not None:
            asked["files"] = {k: v for k, v in form.items() if isinstance(v, tuple)}
            asked["data"] = {k: v for k, v in form.items() if isinstance(v, str)}
        elif body is not None:
            asked["json"] = body
        try:
            answer = self._http.request(method, where, **asked)
        except (httpx.HTTPError, httpx.InvalidURL) as error:
            raise NotReached(f"Juxtaform does not answer at {self.at} ({error}). Does it run?") from error
        if answer.status_code >= 400:
            raise Refused(answer.status_code, _words(answer))
        if not answer.content:
            return None
        return (
            answer.json() if answer.headers.get("content-type", "").startswith("application/json") else answer.content
        )


def _words(answer: httpx.Response) -> str:
    """What a problem says (RFC 9457), with the fields that it names."""
    try:
        told = answer.json()
        fields = "".join(f" {f.get('at', '')}: {f.get('detail', '')}." for f in told.get("errors") or [])
        return f"{told['detail']}{fields}"
    except (ValueError, KeyError, TypeError, AttributeError):
        return f"The server answered {answer.status_code}."
