"""How long the screens take in a real browser: scrolling, typing, paging; each against a small case in the same run."""

from __future__ import annotations

import socket
import statistics
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

import uvicorn

from bench.speed import planned_project, workspace
from juxtaform.studio import projects, story, threads
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import create_app
from tests.browser.conftest import Page, chromium
from tests.story_texts import TEXTS

SCROLL = """
const box = document.querySelector(arguments[0]), done = arguments[1], times = [];
let last = performance.now(), n = 0;
function frame(now) {
  times.push(now - last); last = now;
  box.scrollTop = (n * 173) % Math.max(1, box.scrollHeight - box.clientHeight);
  if (++n < 180) requestAnimationFrame(frame); else done(times.slice(5));
}
requestAnimationFrame(frame);
"""
TYPE = """
const done = arguments[0], times = [];
document.querySelector('.cm-content').focus();
let n = 0;
function key() {
  const begun = performance.now();
  document.execCommand('insertText', false, 'abcde fghi '[n % 11]);
  requestAnimationFrame(() => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      times.push(performance.now() - begun);
      if (++n < 60) setTimeout(key, 70); else done(times);
    };
    channel.port2.postMessage(0);
  });
}
key();
"""


@contextmanager
def _page(ws: Workspace) -> Iterator[Page]:
    listening = socket.socket()
    listening.bind(("127.0.0.1", 0))
    listening.listen(64)
    config = uvicorn.Config(create_app(ws, Checker(ws)), log_level="warning", timeout_graceful_shutdown=1)
    server = uvicorn.Server(config)
    threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True).start()
    page = Page(chromium(), f"http://127.0.0.1:{listening.getsockname()[1]}")
    page.driver.set_script_timeout(120)
    try:
        yield page
    finally:
        page.driver.quit()
        server.should_exit = True


def _told(what: str, times: list[float]) -> float:
    ordered = sorted(times)
    median, late = statistics.median(ordered), ordered[int(0.95 * len(ordered))]
    print(f"{what}: median {median:.1f} ms, 95 % under {late:.1f}, worst {ordered[-1]:.1f}")
    return median


def sheet_frames() -> None:
    """Scrolling the Sheet with 1,000 shots and 20 threads against 12 shots."""
    with workspace() as ws:
        made = []
        for count in (12, 1000):
            project, shots = planned_project(ws, count)
            for k in range(20):
                threads.make(ws, project, ("character", "setting", "style", "prop")[k // 5], f"Thread {k + 1}")
            for k, thread in enumerate(projects.snapshot(ws, project).rows["thread"]):
                threads.assign(
                    ws, project, thread["id"], [s for i, s in enumerate(shots) if (i // (k + 2)) % 3], on=True
                )
            made.append((count, project))
        medians = []
        with _page(ws) as page:
            for count, project in made:
                page.open(f"/p/{project}/sheet")
                page.one("[data-shot]")
                time.sleep(1)
                times = page.driver.execute_async_script(SCROLL, "[data-sheet]")
                medians.append(_told(f"Sheet, {count} shots x 20 threads, a frame while scrolling", times))
        print(f"1,000 shots against 12: {medians[1] / medians[0]:.2f} x the frame time")


def typing() -> None:
    """A keystroke in the Story view, from the key to the frame that shows it, and paging, by the length of the text."""
    base = "\n\n".join(t.text for t in TEXTS if t.syntax == "prose")
    medians = []
    with workspace() as ws, _page(ws) as page:
        for words in (500, 50_000, 200_000):
            project = projects.make(ws, f"{words} words")
            story.keep(ws, project, "\n\n".join([base] * max(1, round(words / len(base.split())))))
            page.open(f"/p/{project}/story")
            page.one("[data-page] .cm-content")
            time.sleep(2)
            medians.append(_told(f"{words} words, a keystroke", page.driver.execute_async_script(TYPE)))
            _told(f"{words} words, a frame while paging", page.driver.execute_async_script(SCROLL, ".cm-scroller"))
        print(
            f"a keystroke in 50,000 words against 500: {medians[1] / medians[0]:.2f} x; in 200,000: {medians[2] / medians[0]:.2f} x"
        )
