"""From where the server is reached: this machine alone, or also from elsewhere, with people who sign in."""

from __future__ import annotations

import ipaddress
import socket
import threading
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

import psutil
import uvicorn
from fastapi import FastAPI

from juxtaform.limits import RESTING_S
from juxtaform.studio.accounts import Doorkeeper
from juxtaform.web.app import Entrance
from juxtaform.web.doors import LOCAL_HOSTS

ANY = ("0.0.0.0", "::")
"""Every address of this machine."""
PLAIN_WARNING = (
    "Without --certificate passwords and pictures travel readable by others on the way: do this in a network that you trust alone, "
    "or put a proxy with TLS before it (docs/reach.md)."
)


class CannotReach(ValueError):
    """What was asked for cannot be; the message is one clear sentence."""


@dataclass(frozen=True)
class Reach:
    """How the server is to be reached. `host` is an address of this machine to listen on beside loopback; `public` the address that a
    proxy before it has; `names` are further names of this machine; certificate and key are files for TLS; with `second` everybody has to have a
    second factor."""

    host: str = ""
    public: str = ""
    names: Sequence[str] = ()
    certificate: Path | None = None
    key: Path | None = None
    second: bool = False

    def __post_init__(self) -> None:
        if self.public:
            parts = urlsplit(self.public)
            if (
                parts.scheme not in ("http", "https")
                or not parts.hostname
                or parts.path not in ("", "/")
                or parts.query
            ):
                raise CannotReach("--public is the address that people type, such as https://story.example.org.")
        if bool(self.certificate) != bool(self.key):
            raise CannotReach("--certificate and --key go together: give both files.")
        for file in (self.certificate, self.key):
            if file is not None and not file.is_file():
                raise CannotReach(f"{file} is not there.")

    @property
    def from_elsewhere(self) -> bool:
        return bool(self.public) or bool(self.host and not _is_loopback(self.host))

    @property
    def origin(self) -> str:
        """The origin that pages have behind the proxy."""
        parts = urlsplit(self.public)
        return f"{parts.scheme}://{parts.netloc}" if self.public else ""

    def entrance(self) -> Entrance:
        """What the application is to know of this."""
        hosts = [*LOCAL_HOSTS, *self.names]
        if self.public:
            hosts.append(urlsplit(self.public).hostname or "")
        if self.host and not _is_loopback(self.host):
            hosts += _own_names(self.host)
        return Entrance(list(dict.fromkeys(hosts)), self.origin, self.from_elsewhere, self.second)

    def address(self, port: int) -> str:
        """The address to be given to others."""
        if self.public:
            return self.origin
        scheme = "https" if self.certificate else "http"
        host = next((h for h in _own_names(self.host) if not _is_loopback(h)), self.host)
        return f"{scheme}://{host}:{port}"


def open_once_somebody_is_known(app: FastAPI, reach: Reach, port: int) -> OutsideServer | None:
    """Listen on the outside address, at once where there is an account, else from the first one on."""
    keeper: Doorkeeper = app.state.doorkeeper
    if not reach.host or _is_loopback(reach.host):
        return None
    outside = OutsideServer(app, reach, port)
    if keeper.has_accounts():
        outside.start()
    else:
        keeper.when_first(outside.start)
    return outside


class OutsideServer:
    """A second server on the same application, for those who come from elsewhere; it runs in a thread of its own."""

    def __init__(self, app: FastAPI, reach: Reach, port: int) -> None:
        for s in _sockets(reach.host, port):
            s.close()  # It can be listened on; nobody is let in yet.
        self._reach, self._port = reach, port
        self._server = uvicorn.Server(
            uvicorn.Config(
                app,
                log_level="warning",
                lifespan="off",
                server_header=False,
                proxy_headers=False,
                timeout_graceful_shutdown=2,
                timeout_keep_alive=RESTING_S,
                ssl_certfile=reach.certificate,
                ssl_keyfile=reach.key,
            )
        )
        self._thread = threading.Thread(target=self._run, daemon=True)

    def start(self) -> None:
        self._thread.start()
        print(f"Juxtaform is at {self._reach.address(self._port)} for those who sign in.", flush=True)

    def _run(self) -> None:
        self._server.run(sockets=_sockets(self._reach.host, self._port))

    def stop(self) -> None:
        self._server.should_exit = True
        if self._thread.is_alive():
            self._thread.join(5)


def _sockets(host: str, port: int) -> list[socket.socket]:
    """Sockets on an address of this machine, or on all that it has but loopback, where the server listens already. Raises CannotReach."""
    listening: list[socket.socket] = []
    for address in _addresses(host):
        family = socket.AF_INET6 if ":" in address else socket.AF_INET
        try:
            listening.append(socket.create_server((address, port), family=family))
        except OSError as error:
            for s in listening:
                s.close()
            why = (error.strerror or str(error)).split(" (")[0]
            raise CannotReach(
                f"{address}, port {port}, cannot be listened on: {why}. Is it an address of this machine, and free?"
            ) from error
    return listening


def _addresses(host: str) -> list[str]:
    if host not in ANY:
        return [host]
    families = (socket.AF_INET,) if host == ANY[0] else (socket.AF_INET, socket.AF_INET6)
    found = [a.address for own in psutil.net_if_addrs().values() for a in own if a.family in families]
    # An address of the link alone (fe80::…%eth0) is no name that anybody types.
    return [a for a in found if "%" not in a and not _is_loopback(a)]


def _is_loopback(host: str) -> bool:
    if host == "localhost":
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def _own_names(host: str) -> list[str]:
    """By what those who come to an address may call this machine."""
    return [*(f"[{a}]" if ":" in a else a for a in _addresses(host)), socket.gethostname(), socket.getfqdn()]
