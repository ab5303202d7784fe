"""Two windows of the real front end against a real server, at random: what they show ends equal, and equal to what is kept."""

import os
import shutil
import socket
import subprocess
import threading
from pathlib import Path

import pytest
import uvicorn

from juxtaform.web.app import create_app

FRONTEND = Path(__file__).parents[2] / "frontend"


@pytest.fixture(scope="module")
def address(ws, checker):
    listening = socket.socket()
    listening.bind(("127.0.0.1", 0))
    listening.listen(64)
    running = uvicorn.Server(uvicorn.Config(create_app(ws, checker), log_level="warning", timeout_graceful_shutdown=1))
    thread = threading.Thread(target=running.run, kwargs={"sockets": [listening]}, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{listening.getsockname()[1]}"
    running.should_exit = True
    thread.join(10)


def test_windows_that_sleep_undo_and_write_over_each_other_end_equal(address):
    npx = shutil.which("npx")
    assert npx, "Node.js is not on the path: bin/test puts it there"
    played = subprocess.run(
        [npx, "vitest", "run", "--config", "vitest.live.config.ts"],
        cwd=FRONTEND,
        env={**os.environ, "JUXTAFORM_ADDRESS": address, "NO_COLOR": "1"},
        capture_output=True,
        text=True,
        timeout=900,
        check=False,
    )
    assert played.returncode == 0, played.stdout[-6000:] + played.stderr[-2000:]
    assert "3 passed" in played.stdout
