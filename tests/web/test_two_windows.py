"""Two windows of the real front end against a real server, at random: what they show ends equal, and equal to what is kept."""

import os
import shutil
import subprocess
from pathlib import Path

from tests.conftest import served

FRONTEND = Path(__file__).parents[2] / "frontend"


def test_windows_that_sleep_undo_and_write_over_each_other_end_equal(ws, checker):
    npx = shutil.which("npx")
    assert npx, "Node.js is not on the path: bin/test puts it there"
    with served(ws, checker) as address:
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
    assert "2 passed" in played.stdout
