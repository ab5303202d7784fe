"""A server that is killed outright while it asks for takes: the next one goes on; nothing is asked twice, nothing paid twice."""

import os
import signal
import subprocess
import sys
import time

import httpx
import pytest

from tests.services_at_work import understudy

TEXT = "# One\nAda waits.\n# Two\nAda sits.\n# Three\nAda goes."
PATIENCE_S = 120


def started(var, port):
    command = [sys.executable, "-m", "juxtaform.cli", "serve", "--empty", "--port", str(port), "--var", str(var)]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    end = time.monotonic() + PATIENCE_S
    while time.monotonic() < end:
        line = process.stdout.readline()
        if "Juxtaform is at" in line:
            return process, line.split("at ")[1].split()[0]
        assert process.poll() is None, line
    pytest.fail("the server did not start")
    return None


@pytest.mark.kill
def test_a_server_killed_while_it_asks_pays_nothing_twice(tmp_path):
    with understudy(at_once=2) as (address, app):
        server, base = started(tmp_path / "var", 0)
        try:
            with httpx.Client(base_url=base, timeout=60) as client:
                project = client.post("/api/projects", json={"title": "Killed"}).json()["id"]
                path = f"/api/projects/{project}"
                client.patch(f"{path}/text", json={"at": 0, "gone": 0, "put": TEXT, "seen": 1}).raise_for_status()
                client.post(f"{path}/proposals", json={}).raise_for_status()
                client.post(f"{path}/proposals/accept", json={}).raise_for_status()
                client.post(f"{path}/services", json={"name": "U", "address": address}).raise_for_status()
                snapshot = client.get(path).json()["rows"]
                shots, service = [s["id"] for s in snapshot["shot"]], snapshot["service"][0]["id"]
                order = {"shot_ids": shots, "count": 8, "service_id": service, "as_it_is": True}
                assert client.post(f"{path}/orders", json=order).status_code == 202
                end = time.monotonic() + PATIENCE_S
                while app.state.jobs.made < 5 and time.monotonic() < end:
                    time.sleep(0.01)
            port = int(base.rsplit(":", 1)[1])
        finally:
            os.kill(server.pid, signal.SIGKILL)
            server.wait()
        server, base = started(tmp_path / "var", port)
        try:
            with httpx.Client(base_url=base, timeout=60) as client:
                end = time.monotonic() + PATIENCE_S
                counts = {}
                while counts != {"done": len(shots)} and time.monotonic() < end:
                    time.sleep(0.2)
                    counts = client.get(f"{path}/jobs").json()["counts"]
                assert counts == {"done": len(shots)}
                takes = client.get(path).json()["rows"]["take"]
                ledger = client.get(f"{path}/ledger").json()
        finally:
            server.terminate()
            server.wait(30)
        done = app.state.jobs
        assert done.taken == len(shots)
        assert done.made == len(takes) == 8 * len(shots)
        assert ledger["credits"] == done.credits == float(8 * len(shots))
