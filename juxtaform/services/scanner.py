"""A scanner for harmful files, asked over ICAP (RFC 3507), which real ones speak: `RESPMOD` with the file as the body of an answer, 204 when all is well."""

from __future__ import annotations

import socket
import time
from dataclasses import dataclass
from typing import BinaryIO
from urllib.parse import urlsplit

PORT = 1344
CHUNK_BYTES = 1 << 16
STEP_S, WHOLE_S = 20.0, 120.0
"""How long each step, and all of it, may take."""
MOST_HEADING_BYTES = 16_384
NAMED_BY = ("x-infection-found", "x-virus-id", "x-violations-found")


class ScannerAway(RuntimeError):
    """The scanner does not answer, or not as a scanner does."""


class Harmful(RuntimeError):
    """The scanner does not let a file through."""


@dataclass(frozen=True)
class Scanner:
    """Where a scanner is, and the name of its service there."""

    host: str
    port: int
    service: str

    @classmethod
    def at(cls, address: str) -> Scanner:
        """A scanner by an address such as icap://127.0.0.1:1344/scan. Raises ValueError."""
        parts = urlsplit(address)
        if parts.scheme != "icap" or not parts.hostname or any(c.isspace() for c in address):
            raise ValueError(f"{address} is no address of a scanner.")
        return cls(parts.hostname, parts.port or PORT, parts.path.lstrip("/"))

    def look(self, file: BinaryIO) -> None:
        """Let a file be looked at, from where it stands to its end. Raises Harmful, ScannerAway."""
        try:
            with socket.create_connection((self.host, self.port), STEP_S) as line:
                status, told = self._asked(line, file)
        except (OSError, ValueError) as error:
            raise ScannerAway(
                "The scanner for harmful files does not answer, so nothing was taken in. Try again later."
            ) from error
        if status == 204:
            return
        if status != 200:
            raise ScannerAway(
                f"The scanner for harmful files cannot look at this now ({status}), so nothing was taken in."
            )
        found = next((told[name] for name in NAMED_BY if name in told), "")
        raise Harmful(
            f"The scanner does not let this file through{f': {found}' if found else ''}. Nothing was taken in."[:400]
        )

    def _asked(self, line: socket.socket, file: BinaryIO) -> tuple[int, dict[str, str]]:
        answer = b"HTTP/1.1 200 OK\r\nContent-Type: application/octet-stream\r\n\r\n"
        heading = (
            f"RESPMOD icap://{self.host}:{self.port}/{self.service} ICAP/1.0\r\nHost: {self.host}:{self.port}\r\n"
            f"Allow: 204\r\nEncapsulated: res-hdr=0, res-body={len(answer)}\r\n\r\n"
        )
        until = time.monotonic() + WHOLE_S
        line.sendall(heading.encode() + answer)
        while part := file.read(CHUNK_BYTES):
            if time.monotonic() > until:
                raise TimeoutError
            line.sendall(b"%x\r\n%b\r\n" % (len(part), part))
        line.sendall(b"0\r\n\r\n")
        said = b""
        while b"\r\n\r\n" not in said:
            got = line.recv(4096)
            said += got
            if not got or len(said) > MOST_HEADING_BYTES or time.monotonic() > until:
                raise ValueError("no heading of ICAP")
        first, *lines = said.partition(b"\r\n\r\n")[0].decode("latin-1").split("\r\n")
        protocol, status = first.split()[:2]
        if not protocol.startswith("ICAP/"):
            raise ValueError(first)
        return int(status), {
            name.strip().casefold(): value.strip() for name, _, value in (x.partition(":") for x in lines)
        }
