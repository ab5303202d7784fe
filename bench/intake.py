"""What coming in costs: a table of ten times the rows, and the memory of the largest picture."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from pathlib import Path

from PIL import Image

from bench.speed import workspace
from juxtaform.limits import MOST_PIXELS
from juxtaform.studio import projects, tables, threads
from juxtaform.studio.workspace import Workspace
from tests.conftest import flat
from tests.media.test_decode_and_store import MEASURED
from tests.studio.test_tables import table


def ten_times_the_rows() -> None:
    with workspace() as ws:
        _taken(ws, 200)
        small = min(_taken(ws, 1000) for _ in range(3))
        large = min(_taken(ws, 10_000) for _ in range(2))
        print(
            f"a table of 10,000 rows against one of 1,000: {large / small:.1f}x (wanted below 12; {small:.1f} s for 1,000)"
        )


def _taken(ws: Workspace, rows: int) -> float:
    project = projects.make(ws, f"{rows} rows")
    threads.make(ws, project, "character", "Ada")
    threads.make(ws, project, "style", "Paper")
    begun = time.perf_counter()
    tables.take_in(ws, project, table(rows))
    return time.perf_counter() - begun


def memory_of_the_largest_picture() -> None:
    side = int(MOST_PIXELS**0.5)
    with tempfile.TemporaryDirectory() as folder:
        small = Path(folder) / "small.png"
        small.write_bytes(flat())
        for mode, name, options in (
            ("RGB", "large.png", {"compress_level": 1}),
            ("RGBA", "large.png", {"compress_level": 1}),
            ("CMYK", "large.jpg", {"quality": 80}),
            ("RGB", "large.webp", {"quality": 60, "method": 0}),
        ):
            path = Path(folder) / name
            Image.new(mode, (side, side), (200, 60, 40, 128)[: len(mode)]).save(path, **options)
            told = subprocess.run(
                [sys.executable, "-c", MEASURED, path, small], capture_output=True, text=True, check=True
            )
            print(
                f"memory for a {path.suffix[1:]} of {MOST_PIXELS / 1e6:.0f} megapixels ({mode}): {float(told.stdout):.1f}x its pixels (wanted below 4)"
            )
