"""The light table: 24-megapixel pictures panned in a real browser, against an empty page's frames in the same run."""

from __future__ import annotations

import statistics
import time

import cv2
import numpy as np
from numpy.typing import NDArray

from bench.screens import _page
from bench.speed import planned_project, workspace
from juxtaform.studio import takes
from tests.conftest import png

WIDE, HIGH = 6000, 4000
FRAMES = 240
EMPTY = """
const frames = arguments[0], done = arguments[1], times = [];
let last = performance.now(), n = 0;
function frame(now) { times.push(now - last); last = now; if (++n < frames) requestAnimationFrame(frame); else done(times.slice(5)); }
requestAnimationFrame(frame);
"""
PAN = """
const frames = arguments[0], done = arguments[1], times = [], board = document.querySelector('[data-board]');
const at = (type, x, y) => board.dispatchEvent(new PointerEvent(type, { clientX: x, clientY: y, pointerId: 1, button: 0, bubbles: true, cancelable: true }));
board.setPointerCapture = () => {};
let last = performance.now(), n = 0;
at('pointerdown', 500, 400);
function frame(now) {
  times.push(now - last); last = now;
  at('pointermove', 500 + 300 * Math.sin(n / 25), 400 + 200 * Math.cos(n / 25));
  if (++n < frames) requestAnimationFrame(frame); else { at('pointerup', 500, 400); done(times.slice(5)); }
}
requestAnimationFrame(frame);
"""


def _large(seed: int) -> NDArray[np.uint8]:
    """A picture with something to see everywhere: soft masses, lines and grain."""
    rng = np.random.default_rng(seed)
    small = rng.integers(0, 255, (HIGH // 200, WIDE // 200, 3), dtype=np.uint8)
    pixels = cv2.resize(small, (WIDE, HIGH), interpolation=cv2.INTER_CUBIC)
    for _ in range(300):
        a, b = (tuple(int(v) for v in rng.integers(0, (WIDE, HIGH))) for _ in range(2))
        cv2.line(pixels, a, b, tuple(int(v) for v in rng.integers(0, 255, 3)), int(rng.integers(2, 20)))
    return np.asarray(pixels, dtype=np.uint8)


def panning() -> None:
    """Frames while two pictures of 24 megapixels are panned, in each way and at three zooms, against those of an empty page."""
    with workspace() as ws:
        project, ids = planned_project(ws, 2)
        for i, shot in enumerate(ids):
            sha = str(takes.take_in(ws, f"{i}.png", png(_large(i))).sha)
            takes.accept(ws, project, [(f"{i}.png", sha, shot)])
        with _page(ws) as page:
            page.driver.get("about:blank")
            empty = statistics.median(page.driver.execute_async_script(EMPTY, FRAMES))
            page.open(f"/p/{project}/sheet")
            page.until(lambda: page.all("[data-shot]"), "the Sheet")
            time.sleep(1)
            page.keys("l")
            page.one("[data-board]")
            page.one("[data-tray]")
            time.sleep(4)
            for zoom, keys in (("all of it", "0"), ("one to one", "9"), ("four to one", "++++++")):
                page.keys(*keys)
                time.sleep(3)
                for way, key in (("side by side", "1"), ("wipe", "2"), ("onion skin", "4"), ("difference", "5")):
                    page.keys(key, *("0" if zoom == "all of it" else ""))
                    time.sleep(1.5)
                    page.driver.execute_async_script(PAN, FRAMES)
                    times = sorted(page.driver.execute_async_script(PAN, FRAMES))
                    median, late = statistics.median(times), times[int(0.95 * len(times))]
                    print(
                        f"panning, {zoom}, {way}: {1000 / median:.0f} frames a second (median {median:.1f} ms, 95 % under {late:.1f}), "
                        f"{median / empty:.2f} times an empty page's {empty:.1f} ms (wanted 1.0)",
                        flush=True,
                    )
