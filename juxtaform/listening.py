"""Sockets of ours on loopback, and what is told when something cannot start."""

from __future__ import annotations

import socket

MOST_PORT = 65535


class CannotStart(RuntimeError):
    """The server cannot start; the message is one clear sentence."""


def listening_on(port: int) -> socket.socket:
    """A socket of ours on loopback; port 0 is any free one. Raises CannotStart."""
    if not 0 <= port <= MOST_PORT:
        raise CannotStart(f"{port} is no port: give a number from 1 to {MOST_PORT}, or 0 for a free one.")
    # Named as TCP, so that answers leave at once: asyncio turns waiting for more off (TCP_NODELAY) for such sockets alone.
    s = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        s.bind(("127.0.0.1", port))
    except PermissionError as error:
        s.close()
        raise CannotStart(f"Port {port} is not for everybody: start with --port and a number from 1024 on.") from error
    except OSError as error:
        s.close()
        raise CannotStart(
            f"Port {port} is in use: stop what runs there, or start with --port and another number."
        ) from error
    s.listen(128)
    return s
