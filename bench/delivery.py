"""The run-through on time, and what files out cost: each against the bare work that it cannot do without."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from PIL import Image

from bench.speed import workspace
from juxtaform.core.book.pages import Book, BookShot, laid_out
from juxtaform.core.run.along import captions
from juxtaform.formats.out.animatic import AnimaticForm, Kind, _Frames, animatic, opened
from juxtaform.formats.out.book import OutBook, book_pdf
from juxtaform.formats.out.captions import cues
from juxtaform.formats.out.sequence import Going, OutPicture, OutSequence, OutShot
from juxtaform.formats.out.stage import Stage
from juxtaform.formats.out.storyboard import storyboard
from juxtaform.media.decode import decoded_file
from juxtaform.studio import plan, projects, sounds, takes
from juxtaform.studio.checking import Checker
from juxtaform.studio.sounds import NewSound
from tests.browser.conftest import Page, chromium
from tests.conftest import png, rows, served
from tests.constructed import random_look, scene
from tests.constructed_sounds import music, wav

FPS, PLAYED_S = 24, 120
WORDS = "The tide had been gone three days. Pell sat on the bottom step, where the water ought to be."
EMPTY = """
const [seconds, fps, done] = arguments;
let begun = null, before = 0, due = 0, late = 0;
function frame(now) {
  begun ??= now;
  const at = Math.floor(((now - begun) / 1000) * fps);
  if (at > before) { due += at - before; late += at - before - 1; before = at; }
  if (now - begun < seconds * 1000) requestAnimationFrame(frame); else done([due, late]);
}
requestAnimationFrame(frame);
"""


def late_frames() -> None:
    """Frames of a plan of two minutes that are not drawn in time on a stage of 1280 x 720 or more, with music, against an empty animation loop."""
    with workspace() as ws:
        project = projects.make(ws, "In time")
        projects.edit(ws, project, {"aspect": "16:9"}, None)
        plan.add_scene(ws, project, "One")
        for _ in range(23):
            plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
        rng = np.random.default_rng(3)
        for i, shot in enumerate(x["id"] for x in rows(ws, project, "shot")):
            pixels = scene([random_look(rng)], rng, ground=i % 10)[0]
            large = np.asarray(Image.fromarray(pixels).resize((1920, 1080), Image.Resampling.BICUBIC))
            sha = takes.take_in(ws, f"{i}.png", png(large)).sha
            takes.accept(ws, project, [(f"{i}.png", sha, shot)])
            move, join = ("push in", "pan", "static")[i % 3], ("cut", "dissolve", "fade")[i % 3]
            plan.edit_shot(ws, project, shot, {"length_s": 5.2, "move": move, "join": join, "spoken": WORDS}, None)
        first = rows(ws, project, "shot")[0]["id"]
        sounds.add(ws, project, wav(music(PLAYED_S, 0.1)), NewSound(first, "Song", "music"))
        with served(ws, Checker(ws)) as address:
            page = Page(chromium(1870, 1110), address)
            page.driver.set_script_timeout(200)
            page.open("/")
            due, late = page.driver.execute_async_script(EMPTY, 20, FPS)
            print(f"an empty loop: {late} of {due} frames late ({late / due:.2%})")
            page.open(f"/p/{project}/run")
            page.one("[data-row]")
            time.sleep(3)
            canvas = page.one("[data-stage] canvas").rect
            page.keys(" ")
            time.sleep(PLAYED_S)
            page.keys("k")
            told = page.one("[data-told]")
            due, late = (int(told.get_attribute(f"data-{name}")) for name in ("due", "late"))
            print(
                f"the run-through at {canvas['width']} x {canvas['height']}: {late} of {due} frames late ({late / max(1, due):.2%}; wanted: under 1 %)"
            )
            page.driver.quit()


def _sequence(folder: Path, count: int, size: tuple[int, int] = (1536, 1024), kinds: int = 8) -> OutSequence:
    rng = np.random.default_rng(1)
    drawn = [Image.fromarray(scene([random_look(rng)], rng, ground=i)[0]) for i in range(min(8, kinds))]
    files = []
    for i in range(kinds):
        path = folder / f"{i}.png"
        page = np.array(drawn[i % len(drawn)].resize(size, Image.Resampling.BICUBIC))
        page[: 8 + i // 8, :8] = i % 251  # no two are the same
        Image.fromarray(page).save(path, compress_level=1)
        files.append(OutPicture(str(path), *size, "image/png"))
    shots = []
    for i in range(count):
        move, join = ("push in", "static")[i % 2], ("cut", "cut", "dissolve")[i % 3]
        said = tuple(captions(WORDS, 5.0))
        shots.append(
            OutShot(
                f"{i:032x}",
                i + 1,
                f"Scene {i // 10}",
                "A step",
                "wide shot",
                move,
                5.0,
                join,
                0.6,
                WORDS,
                said,
                picture=files[i % kinds],
            )  # type: ignore[arg-type]
        )
    return OutSequence("Bench", tuple(shots))


def _going(folder: Path, name: str) -> Going:
    (folder / name).mkdir()
    return Going(folder / name)


def animatic_against_its_encoder() -> None:
    """An animatic of a minute with moves, joins and words burnt in, against its encoder alone fed with ready frames; processor time and the clock."""
    with tempfile.TemporaryDirectory() as where:
        folder = Path(where)
        sequence = _sequence(folder, 12)
        count = sequence.timeline.frames(FPS)
        kinds: tuple[Kind, ...] = ("mp4", "webm")
        for kind in kinds:
            frames = _Frames(sequence, Stage(sequence, 1080, 720), cues(sequence))
            ready = [av.VideoFrame.from_ndarray(c.array, format="yuv420p") for c, _ in frames.of(0, count)]
            cpu, clock = time.process_time(), time.perf_counter()
            with av.open(str(folder / f"alone.{kind}"), "w", format=kind) as container:
                stream = opened(container, kind, Fraction(FPS), 1080, 720)
                for i, frame in enumerate(ready):
                    frame.pts, frame.time_base = i, Fraction(1, FPS)
                    container.mux(stream.encode(frame))
                container.mux(stream.encode(None))
            alone = time.process_time() - cpu, time.perf_counter() - clock
            del ready
            cpu, clock = time.process_time(), time.perf_counter()
            animatic(sequence, AnimaticForm(kind, 720), folder / f"all.{kind}", _going(folder, kind))
            whole = time.process_time() - cpu, time.perf_counter() - clock
            print(
                f"{kind}, {count} frames: {whole[0] / alone[0]:.2f} x the encoder alone in processor time, {whole[1] / alone[1]:.2f} x by the clock (wanted: under 1.5)"
            )


def pdf_against_its_pictures() -> None:
    """PDFs of 200 shots against reading the same pictures and encoding them again; the largest memory for 500 shots against 50."""
    with tempfile.TemporaryDirectory() as where:
        folder = Path(where)
        sequence = _sequence(folder, 200, kinds=200)
        begun = time.process_time()
        for shot in sequence.shots:
            assert shot.picture
            Image.fromarray(decoded_file(Path(shot.picture.path))).save(folder / "again.jpg", "JPEG", quality=92)
        bare = time.process_time() - begun
        storyboard(
            OutSequence("warm", sequence.shots[:1]), 6, folder / "w.pdf", _going(folder, "warm")
        )  # faces are read once a process
        begun = time.process_time()
        storyboard(sequence, 6, folder / "s.pdf", _going(folder, "s"))
        board = time.process_time() - begun
        begun = time.process_time()
        book_pdf(_book(sequence), folder / "b.pdf", _going(folder, "b"))
        book = time.process_time() - begun
        print(
            f"200 shots: storyboard {board / bare:.2f} x, book {book / bare:.2f} x reading and encoding their pictures (wanted: under 2)"
        )
    peaks = {}
    for what in ("storyboard", "book", "animatic"):
        for count in (50, 500):
            code = f"from bench.delivery import peak_of; peak_of({what!r}, {count})"
            told = subprocess.run(
                [sys.executable, "-W", "ignore", "-c", code], capture_output=True, text=True, check=True
            )
            peaks[count] = int(told.stdout.split()[-1])
        print(
            f"{what}: the largest memory for 500 shots {peaks[500] / peaks[50]:.2f} x that for 50 ({peaks[500] / 1024:.0f} MB; wanted: flat)"
        )


def _book(sequence: OutSequence) -> OutBook:
    shots = [BookShot(x.id, x.number, "single", 1.5, x.words, bleed=x.number % 2 == 0) for x in sequence.shots]
    return OutBook(sequence, laid_out(shots, Book()))


def peak_of(what: str, count: int) -> None:
    """Make a file of so many shots; prints the process's largest memory in KiB."""
    with tempfile.TemporaryDirectory() as where:
        folder = Path(where)
        sequence = _sequence(folder, count, kinds=count)
        if what == "storyboard":
            storyboard(sequence, 6, folder / "s.pdf", _going(folder, "s"))
        elif what == "book":
            book_pdf(_book(sequence), folder / "b.pdf", _going(folder, "b"))
        else:
            animatic(sequence, AnimaticForm("mp4", 240), folder / "a.mp4", _going(folder, "a"))
    # The process's own peak: what rusage tells begins with that of the process that started this one.
    [peak] = [x.split()[1] for x in Path("/proc/self/status").read_text().splitlines() if x.startswith("VmHWM")]
    print(peak)
