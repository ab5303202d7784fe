"""Addresses of outside services: what may be called, and what is told where one may not."""

from __future__ import annotations

import ipaddress
import socket
from urllib.parse import urlsplit


class AddressWrong(ValueError):
    """An address that is not called; the message says why and what to do."""


def checked(address: str, what: str, example: str) -> str:
    """An address of http or https without its last slash; plain http leads to this machine alone, so that nothing is read on the way.

    `what` names the service in the user's words. Raises AddressWrong.

    >>> checked("http://127.0.0.1:9000/", "a service", "")
    'http://127.0.0.1:9000'
    """
    address = address.strip().rstrip("/")
    try:
        parts = urlsplit(address)
        sound = parts.scheme in ("http", "https") and bool(parts.hostname) and (parts.port is None or parts.port > 0)
    except ValueError:
        sound = False
    if not sound or parts.query or parts.fragment or "@" in parts.netloc or any(c.isspace() for c in address):
        raise AddressWrong(f"“{address[:200]}” is no address of {what}. It looks like {example}.")
    if parts.scheme == "http" and not _leads_here(parts.hostname or ""):
        raise AddressWrong(
            f"{what[:1].upper()}{what[1:]} elsewhere is asked over https only, so that nobody reads your work on the way."
        )
    return address


def _leads_here(host: str) -> bool:
    try:
        return ipaddress.ip_address(socket.gethostbyname(host)).is_loopback
    except (OSError, ValueError, UnicodeError):
        return False
