"""Behind the proxy of docs/reach/nginx.conf, as it stands there: TLS, cookies, origins, live events, large files."""

import datetime
import json
import shutil
import socket
import ssl
import subprocess
import threading
import time
from pathlib import Path

import httpx
import numpy as np
import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from juxtaform.mariadb import free_port
from juxtaform.studio import plan
from juxtaform.web.app import Entrance
from tests.conftest import empty_workspace, png, served
from tests.people import PASSWORD, person

CONFIG = Path(__file__).parents[2] / "docs" / "reach" / "nginx.conf"
NAME = "story.example.org"


def certificate(folder):
    """A certificate of our own for the name, and its key."""
    key, name = ec.generate_private_key(ec.SECP256R1()), x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, NAME)])
    now = datetime.datetime.now(datetime.UTC)
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - datetime.timedelta(days=1))
        .not_valid_after(now + datetime.timedelta(days=2))
        .add_extension(x509.SubjectAlternativeName([x509.DNSName(NAME)]), critical=False)
        .sign(key, hashes.SHA256())
    )
    (folder / "story.pem").write_bytes(made.public_bytes(serialization.Encoding.PEM))
    plain = serialization.NoEncryption()
    (folder / "story.key").write_bytes(
        key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, plain)
    )


@pytest.fixture(scope="module")
def behind(server, checker, tmp_path_factory):
    """The workspace, and a way to make clients that come through the proxy."""
    folder, port = tmp_path_factory.mktemp("proxy"), free_port()
    certificate(folder)
    entrance = Entrance(["127.0.0.1", NAME], f"https://{NAME}:{port}", from_elsewhere=True)
    with (
        empty_workspace(server, folder / "pictures") as ws,
        served(ws, checker, entrance=entrance) as address,
    ):
        text = CONFIG.read_text()
        for theirs, ours in (
            ("listen 443 ssl", f"listen 127.0.0.1:{port} ssl"),
            ("/etc/juxtaform", str(folder)),
            ("http://127.0.0.1:8765", address),
            ("proxy_set_header Host $host;", "proxy_set_header Host $http_host;"),  # The port is no usual one here.
            ("events {}", f"daemon off; master_process off; pid {folder}/pid; error_log {folder}/log; events {{}}"),
            (
                "http {",
                "http { access_log off; "
                + " ".join(
                    f"{t}_temp_path {folder}/{t};" for t in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
                ),
            ),
        ):
            assert theirs in text
            text = text.replace(theirs, ours)
        (folder / "nginx.conf").write_text(text)
        proxy = subprocess.Popen([shutil.which("nginx") or "/usr/sbin/nginx", "-c", str(folder / "nginx.conf")])
        trusted = ssl.create_default_context(cafile=str(folder / "story.pem"))

        def client():
            return httpx.Client(base_url=f"https://{NAME}:{port}", verify=trusted, timeout=60)

        real = socket.getaddrinfo
        socket.getaddrinfo = lambda host, *a, **k: real("127.0.0.1" if host in (NAME, NAME.encode()) else host, *a, **k)
        try:
            until = time.monotonic() + 20
            while True:
                try:
                    client().get("/api/me")
                    break
                except httpx.ConnectError:
                    assert time.monotonic() < until, (folder / "log").read_text()
                    time.sleep(0.1)
            yield ws, client, f"https://{NAME}:{port}"
        finally:
            socket.getaddrinfo = real
            proxy.terminate()
            proxy.wait(10)


def test_people_sign_in_work_and_hear_of_each_other_at_once(behind):
    ws, client, origin = behind
    person(ws, "mira", keeper=True)
    mira = client()
    answer = mira.post("/api/me/sign-in", json={"login": "mira", "password": PASSWORD}, headers={"origin": origin})
    assert answer.status_code == 200, answer.text
    cookie = answer.headers["set-cookie"]
    assert cookie.startswith("__Host-juxtaform=")
    assert "Secure" in cookie
    assert answer.headers["strict-transport-security"]
    project = mira.post("/api/projects", json={"title": "Through the proxy"}, headers={"origin": origin}).json()["id"]
    assert (
        mira.post("/api/projects", json={"title": "x"}, headers={"origin": "https://evil.example"}).status_code == 403
    )
    heard = []
    begun = threading.Event()

    def listen():
        with mira.stream("GET", f"/api/projects/{project}/events?after=0&window=w1") as stream:
            for line in stream.iter_lines():
                begun.set()
                if line.startswith("data:") and "One more" in line:
                    heard.append((time.monotonic(), json.loads(line[5:])))
                    return

    listener = threading.Thread(target=listen)
    listener.start()
    assert begun.wait(20)
    done = time.monotonic()
    plan.add_scene(ws, project, "One more")
    listener.join(20)
    assert heard[0][0] - done < 1.0, "an edit arrives within a second"
    noise = np.random.default_rng(1).integers(0, 255, (2400, 2600, 3), np.uint8)
    taken = mira.post(
        f"/api/projects/{project}/pictures", files={"file": ("a.png", png(noise))}, data={"name": "a.png"}
    )
    assert taken.status_code == 200, taken.text
    assert taken.json()["sha"]


def test_nothing_comes_in_by_other_names_or_forged_headings(behind):
    _, client, origin = behind
    stranger = client()
    assert stranger.get("/api/projects").status_code == 401
    assert stranger.get("/api/me", headers={"host": "evil.example"}).status_code == 400
    assert stranger.post("/understudy/text-assist/v1/offers", json={}).status_code == 404
    for i in range(22):
        forged = {"x-forwarded-for": f"10.0.0.{i}", "forwarded": f"for=10.0.0.{i}", "origin": origin}
        last = stranger.post("/api/me/sign-in", json={"login": f"nobody{i}", "password": "x"}, headers=forged)
    assert last.status_code == 429, "who guesses cannot pretend to come from elsewhere each time"
