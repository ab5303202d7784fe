"""How long the screens take in a real browser: scrolling, typing, paging; each against a small case in the same run."""

from __future__ import annotations

import os
import statistics
import time
from collections.abc import Iterator
from contextlib import contextmanager

import numpy as np
from sqlalchemy import insert

from bench.speed import checked, marked_project, planned_project, workspace
from bench.work import filled_project
from juxtaform.records.models import LibraryPicture, Picture, Take, new_id, now
from juxtaform.studio import continuity, projects, story, takes, threads
from juxtaform.studio.checking import Checker
from juxtaform.studio.continuity import LineupCell
from juxtaform.studio.workspace import Workspace
from tests.browser.conftest import Page, chromium
from tests.conftest import flat, served
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
    with served(ws, Checker(ws)) as address:
        page = Page(chromium(), address)
        page.driver.set_script_timeout(120)
        try:
            yield page
        finally:
            page.driver.quit()
            time.sleep(1)


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
                through = [x for i, x in enumerate(shots) if (i // (k + 2)) % 3]
                if through:
                    threads.assign(ws, project, thread["id"], through, on=True)
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


PAINTED = """
const [wanted, done] = [arguments[0], arguments[1]], begun = performance.now();
(function look() {
  const seen = document.querySelectorAll(wanted);
  if (seen.length && [...document.images].every((i) => i.complete)) requestAnimationFrame(() => done(performance.now()));
  else if (performance.now() - begun > 20000) done(-1);
  else setTimeout(look, 4);
})();
"""


def first_paint() -> None:
    """The time from opening the Sheet and the Library to their first pictures, with 10,000 pictures against 50."""
    rng = np.random.default_rng(5)
    with workspace() as ws:
        codes = [tuple(int(v) for v in rng.integers(0, 255, 3)) for _ in range(60)]
        shas = [str(takes.take_in(ws, f"{i}.png", flat(c)).sha) for i, c in enumerate(codes)]
        made = {}
        for count in (50, 10_000):
            project, shots = planned_project(ws, 50)
            with ws.database.session() as s:
                seen = [f"{count:05d}{i:059x}" for i in range(count)]
                s.execute(insert(Picture), [_picture_row(x, s.get(Picture, shas[i % 60])) for i, x in enumerate(seen)])
                s.execute(insert(LibraryPicture), [_seen_row(project, x, i) for i, x in enumerate(seen)])
                s.execute(
                    insert(Take),
                    [_take_row(project, shots[i % len(shots)], x, i, len(shots)) for i, x in enumerate(seen)],
                )
            for i, x in enumerate(seen):
                for side in (240, 960):
                    path = ws.store.thumb_path(x, side)
                    path.parent.mkdir(parents=True, exist_ok=True)
                    os.link(ws.store.thumb_path(shas[i % 60], side), path)
            made[count] = project
        with _page(ws) as page:
            for view, wanted in (("library", "[data-picture] img"), ("sheet", "[data-shot] img")):
                told = {}
                for count, project in made.items():
                    runs = []
                    for _ in range(4):
                        page.driver.get("about:blank")
                        page.open(f"/p/{project}/{view}")
                        runs.append(page.driver.execute_async_script(PAINTED, wanted))
                    told[count] = min(runs)
                print(
                    f"first paint of the {view} with 10,000 pictures: {told[10_000]:.0f} ms, with 50: {told[50]:.0f} ms, {told[10_000] / told[50]:.2f} x (wanted: 1.5 at most)"
                )


def opening() -> None:
    """The time from opening the Sheet of 1,000 shots to its first pictures, against 10 shots."""
    painted = {}
    with workspace() as ws:
        made = {n: filled_project(ws, n)[0] for n in (10, 1000)}
        with _page(ws) as page:
            for n, project in made.items():
                runs = []
                for _ in range(5):
                    page.driver.get("about:blank")
                    page.open(f"/p/{project}/sheet")
                    runs.append(page.driver.execute_async_script(PAINTED, "[data-shot] img"))
                painted[n] = min(runs)
    print(
        f"first paint of the Sheet with 1,000 shots: {painted[1000]:.0f} ms, with 10: {painted[10]:.0f} ms, {painted[1000] / painted[10]:.2f} x (wanted: under 1.5)"
    )


SHOWN = """
const [addresses, done] = [arguments[0], arguments[1]], begun = performance.now();
Promise.all(addresses.map((address) => { const image = new Image(); image.src = address; return image.decode(); }))
  .then(() => done(performance.now() - begun), () => done(-1));
"""


def crops_against_thumbnails() -> None:
    """200 appearances cropped as Continuity shows them, against plain thumbnails of the same pictures; each address is asked once."""
    with workspace() as ws:
        project, ada, _ = marked_project(ws, 200)
        checker = Checker(ws)
        checked(ws, checker, project)
        checker.close()
        cells = continuity.lineup(ws, project, ada).cells
        crops = [f"/api/pictures/{c.sha}/crop?{_box(c)}&side=264" for c in cells]
        thumbs = [f"/api/pictures/{c.sha}/thumb?side=960" for c in cells]
        with _page(ws) as page:
            page.open(f"/p/{project}/continuity")
            page.driver.execute_async_script(PAINTED, "[data-cell] img")
            ms: dict[str, float] = {}
            for name, addresses in (("thumbs", thumbs), ("first", crops), ("again", crops)):
                asked = [f"{a}&{name}" for a in addresses]
                ms[name] = page.driver.execute_async_script(SHOWN, asked)
    print(
        f"{len(cells)} crops of Continuity: made for the first time {ms['first'] / ms['thumbs']:.2f} x thumbnails of the same pictures, kept ones {ms['again'] / ms['thumbs']:.2f} x (wanted: under 1.5)"
    )


def _box(cell: LineupCell) -> str:
    assert cell.box is not None
    return "&".join(f"{side}={getattr(cell.box, side)}" for side in "xywh")


def _picture_row(sha: str, like: Picture | None) -> dict[str, object]:
    assert like is not None
    return {
        "sha": sha,
        "width": like.width,
        "height": like.height,
        "bytes": like.bytes,
        "media_type": like.media_type,
        "palette": like.palette,
        "added_at": now(),
    }


def _seen_row(project: str, sha: str, i: int) -> dict[str, object]:
    return {
        "id": new_id(),
        "revision": 1,
        "project_id": project,
        "picture_sha": sha,
        "name": f"{i}.png",
        "tags": [],
        "binned": False,
        "added_at": now(),
    }


def _take_row(project: str, shot: str, sha: str, i: int, shots: int) -> dict[str, object]:
    return {
        "id": new_id(),
        "revision": 1,
        "project_id": project,
        "shot_id": shot,
        "picture_sha": sha,
        "name": f"{i}.png",
        "picked": i < shots,
        "position": float(i),
        "made_from": {},
    }
