"""Files that come in are looked at by a scanner first: what it refuses, and what it says oddly or not at all, comes no further."""

import io
import re
import socketserver
import threading
from typing import ClassVar

import pytest

from juxtaform.listening import CannotStart
from juxtaform.server import SCANNER_VARIABLE, _scanner
from juxtaform.services import scanner as scanners
from juxtaform.services.scanner import Harmful, Scanner, ScannerAway
from juxtaform.studio import plan, projects
from juxtaform.web.app import create_app
from tests.conftest import client_on, flat, rows

BAD = b"X5O!P%@AP[4\\PZX54(P^)7CC)7}$EICAR"


class Stand(socketserver.StreamRequestHandler):
    """A scanner that refuses one row of letters, or says what it is told to say."""

    said: ClassVar = None
    seen: ClassVar = []

    def handle(self):
        heading = b""
        while not heading.endswith(b"\r\n\r\n"):
            heading += self.rfile.readline()
        assert heading.startswith(b"RESPMOD icap://")
        self.rfile.read(int(re.search(rb"res-body=(\d+)", heading)[1]))
        body = b""
        while size := int(self.rfile.readline(), 16):
            body += self.rfile.read(size)
            self.rfile.readline()
        type(self).seen.append(body)
        if self.said is not None:
            self.wfile.write(self.said)
        elif BAD in body:
            self.wfile.write(
                b"ICAP/1.0 200 OK\r\nX-Infection-Found: Type=0; Threat=Test;\r\nEncapsulated: null-body=0\r\n\r\n"
            )
        else:
            self.wfile.write(b"ICAP/1.0 204 No Content\r\n\r\n")


@pytest.fixture
def stand(monkeypatch):
    monkeypatch.setattr(Stand, "said", None)
    monkeypatch.setattr(Stand, "seen", [])
    with socketserver.ThreadingTCPServer(("127.0.0.1", 0), Stand) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield Scanner.at(f"icap://127.0.0.1:{server.server_address[1]}/scan")
        server.shutdown()


def test_what_is_clean_goes_through_whole_whatever_its_size(stand):
    for size in (0, 1, 65_536, 300_001):
        data = bytes(range(256)) * (size // 256) + b"x" * (size % 256)
        stand.look(io.BytesIO(data))
        assert Stand.seen[-1] == data


def test_what_is_refused_is_told_by_its_name(stand):
    with pytest.raises(Harmful, match="Threat=Test"):
        stand.look(io.BytesIO(b"a" * 100_000 + BAD))


@pytest.mark.parametrize(
    "said",
    [
        b"",
        b"hello\r\n\r\n",
        b"HTTP/1.1 200 OK\r\n\r\n",
        b"ICAP/1.0 500 Oops\r\n\r\n",
        b"ICAP/1.0 x\r\n\r\n",
        b"a" * 40_000,
    ],
)
def test_a_scanner_that_says_no_such_thing_lets_nothing_through(stand, said, monkeypatch):
    monkeypatch.setattr(Stand, "said", said)
    with pytest.raises(ScannerAway):
        stand.look(io.BytesIO(b"fine"))


def test_a_scanner_that_is_not_there_or_says_nothing_is_told(monkeypatch):
    monkeypatch.setattr(scanners, "STEP_S", 0.3)
    with pytest.raises(ScannerAway):
        Scanner.at("icap://127.0.0.1:9").look(io.BytesIO(b"fine"))
    with socketserver.TCPServer(("127.0.0.1", 0), Stand) as silent, pytest.raises(ScannerAway):
        Scanner.at(f"icap://127.0.0.1:{silent.server_address[1]}/scan").look(io.BytesIO(b"fine"))


def test_a_picture_comes_in_only_past_the_scanner(ws, checker, stand):
    project = projects.make(ws, "Scanned")
    plan.add_scene(ws, project, "One")
    client = client_on(create_app(ws, checker, scanner=stand))
    ask = lambda data: client.post(  # noqa: E731
        f"/api/projects/{project}/pictures", files={"file": ("one.png", data)}, data={"name": "one.png"}
    )
    picture = flat((40, 90, 120), (64, 48))
    assert ask(picture).status_code in (200, 201)
    assert Stand.seen == [picture]
    refused = ask(picture + BAD)
    assert (refused.status_code, refused.json()["title"]) == (422, "Not let through")
    two = client.post(
        f"/api/projects/{project}/pictures",
        files=[("file", ("bad.png", picture + BAD)), ("file", ("one.png", picture))],
        data={"name": "one.png"},
    )
    assert two.status_code == 422, "each of several files under one name is looked at"
    text = client.post(f"/api/projects/{project}/captions/file", files={"file": ("a.srt", b"1\n" + BAD)})
    assert text.status_code == 422
    Stand.said = b"ICAP/1.0 503 Busy\r\n\r\n"
    away = ask(picture)
    assert (away.status_code, "Try again" in away.json()["detail"] or "cannot look" in away.json()["detail"]) == (
        424,
        True,
    )
    assert rows(ws, project, "take") == []


@pytest.mark.parametrize("given", ["http://127.0.0.1/scan", "icap://", "scan", "icap://h:port/x", "icap://a b/"])
def test_an_address_that_is_none_is_told_at_the_start(given, monkeypatch):
    monkeypatch.setenv(SCANNER_VARIABLE, given)
    with pytest.raises(CannotStart, match=SCANNER_VARIABLE):
        _scanner()
