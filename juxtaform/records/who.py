"""Who is at work: the name that changes are written down under."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_name: ContextVar[str] = ContextVar("who", default="")


def at_work() -> str:
    """The name of whoever asks; empty where there are no accounts."""
    return _name.get()


def now_works(name: str) -> None:
    """From here on in this request, changes are somebody's."""
    _name.set(name[:80])


@contextmanager
def working(name: str) -> Iterator[None]:
    """While this lasts, changes are somebody's."""
    token = _name.set(name[:80])
    try:
        yield
    finally:
        _name.reset(token)
