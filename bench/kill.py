"""Server and database killed at random while people write: what was acknowledged is there, once, and pictures are whole."""

from __future__ import annotations

import hashlib
import os
import random
import signal
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from juxtaform.mariadb import free_port
from tests.conftest import flat

ROUNDS = 16
WRITERS = 4
LEAST_S, MOST_S = 0.6, 2.2
"""So long they write before something is killed."""
UP_S = 90.0


@dataclass
class Acknowledged:
    """What the server said it has done."""

    titles: set[str] = field(default_factory=set)
    pictures: dict[str, str] = field(default_factory=dict)
    again: int = 0


def server_and_database_at_random(rounds: int = ROUNDS, seed: int = 5) -> None:
    dice = random.Random(seed)
    with tempfile.TemporaryDirectory() as folder:
        var, port = Path(folder) / "var", free_port()
        base = f"http://127.0.0.1:{port}/api"
        server = _started(var, port)
        project = httpx.post(f"{base}/projects", json={"title": "Killed"}, timeout=20).json()["id"]
        known, killed = Acknowledged(), {"server": 0, "database": 0}
        for number in range(rounds):
            stop = threading.Event()
            writers = [
                threading.Thread(target=_write, args=(base, project, known, stop, number * WRITERS + i))
                for i in range(WRITERS)
            ]
            for w in writers:
                w.start()
            time.sleep(dice.uniform(LEAST_S, MOST_S))
            if dice.random() < 0.5:
                killed["server"] += 1
                server.kill()
                server.wait()
                server = _started(var, port)
            else:
                killed["database"] += 1
                for pid in _databases(var):
                    os.kill(pid, signal.SIGKILL)
                _up(base)
            time.sleep(0.5)
            stop.set()
            for w in writers:
                w.join(UP_S)
        lost, double, torn = _read_back(base, project, known)
        server.send_signal(signal.SIGINT)
        server.wait(60)
    print(
        f"{rounds} rounds ({killed['server']} server, {killed['database']} database): {len(known.titles)} scenes and {len(known.pictures)} pictures"
        f" acknowledged, {known.again} requests sent again; lost {lost}, double {double}, pictures torn {torn}"
    )
    assert (lost, double, torn) == (0, 0, 0)


def half_way() -> None:
    """The tests that kill a server, a backup, a restore, a worker or a scheduler half-way, which `bin/test` leaves out."""
    tests = [sys.executable, "-m", "pytest", "-m", "kill", "tests/test_killed.py", "tests/studio"]
    subprocess.run(tests, check=True)


def _write(base: str, project: str, known: Acknowledged, stop: threading.Event, number: int) -> None:
    """Make scenes and send pictures, each until it is acknowledged, as the browser does: again under the same name."""
    count = 0
    with httpx.Client(timeout=20) as client:
        while not stop.is_set():
            count += 1
            title = f"scene {number}.{count}"
            name = uuid.uuid4().hex
            if _until_answered(
                known,
                lambda: client.post(
                    f"{base}/projects/{project}/scenes", json={"title": title}, headers={"Idempotency-Key": name}
                ),
            ):
                known.titles.add(title)
            if count % 3 == 0:
                data = flat((number % 256, count % 256, (number * 7 + count) % 256))
                sent = _until_answered(
                    known,
                    lambda: client.post(
                        f"{base}/projects/{project}/pictures",
                        files={"file": ("a.png", data)},
                        data={"name": f"{title}.png"},
                    ),
                )
                if sent is not None and sent.json()["sha"]:
                    known.pictures[sent.json()["sha"]] = hashlib.sha256(data).hexdigest()


def _until_answered(known: Acknowledged, ask) -> httpx.Response | None:  # type: ignore[no-untyped-def]
    deadline = time.monotonic() + UP_S
    while time.monotonic() < deadline:
        try:
            answer = ask()
        except httpx.HTTPError:
            known.again += 1
            time.sleep(0.2)
            continue
        if answer.status_code == 503:
            known.again += 1
            time.sleep(0.2)
            continue
        assert answer.status_code < 300, answer.text
        return answer
    return None


def _read_back(base: str, project: str, known: Acknowledged) -> tuple[int, int, int]:
    """Scenes lost, scenes there more than once, and pictures whose bytes are not their own."""
    rows = httpx.get(f"{base}/projects/{project}", timeout=60).json()["rows"]["scene"]
    titles = [r["title"] for r in rows]
    torn = 0
    for sha in known.pictures:
        whole = httpx.get(f"{base}/pictures/{sha}", timeout=20)
        thumb = httpx.get(f"{base}/pictures/{sha}/thumb", timeout=20)
        torn += whole.status_code != 200 or hashlib.sha256(whole.content).hexdigest() != sha or thumb.status_code != 200
    return len(known.titles - set(titles)), len(titles) - len(set(titles)), torn


def _started(var: Path, port: int) -> subprocess.Popen[bytes]:
    command = [sys.executable, "-m", "juxtaform.cli", "serve", "--empty", "--var", str(var), "--port", str(port)]
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    _up(f"http://127.0.0.1:{port}/api")
    return server


def _up(base: str) -> None:
    deadline = time.monotonic() + UP_S
    while time.monotonic() < deadline:
        try:
            if httpx.get(f"{base}/projects", timeout=5).status_code == 200:
                return
        except httpx.HTTPError:
            pass
        time.sleep(0.1)
    raise TimeoutError(f"{base} does not come up")


def _databases(var: Path) -> list[int]:
    told = subprocess.run(["pgrep", "-f", f"datadir={var}"], capture_output=True, text=True, check=False)
    return [int(pid) for pid in told.stdout.split()]
