"""How long things take, each against something plain in the same run."""

from __future__ import annotations

import io
import json
import statistics
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from juxtaform import mariadb
from juxtaform.core.check.measure import measure_picture, picture_palette
from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.appearance import measure_appearances
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.figure.who import identify, seen_look
from juxtaform.core.picture.border import printed_border
from juxtaform.core.picture.regions import Box
from juxtaform.core.style.terms import signature
from juxtaform.media.decode import decoded
from juxtaform.media.network import figure_eye
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio import checking, plan, projects, takes, threads
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from tests.conftest import LOOK, plan_from, png
from tests.constructed import LIGHTS, model_of, random_look, random_pose, reference, scene


def _median_ms(act: Callable[[], object], times: int = 15) -> float:
    act()
    return statistics.median(_once_ms(act) for _ in range(times))


def _once_ms(act: Callable[[], object]) -> float:
    begun = time.perf_counter()
    act()
    return 1000 * (time.perf_counter() - begun)


def measure_against_decoding() -> None:
    cv2.setNumThreads(1)
    rng = np.random.default_rng(1)
    looks = [LOOK, random_look(rng)]
    known = [model_of(look, rng, str(i)) for i, look in enumerate(looks)]
    small, boxes = scene(looks, rng, LIGHTS[1], ground=0)
    picture = np.asarray(Image.fromarray(small).resize((1280, 720), Image.Resampling.LANCZOS))
    fx, fy = 1280 / 900, 720 / 600
    marks = [(Box(b.x * fx, b.y * fy, b.w * fx, b.h * fy), k) for b, k in zip(boxes, known, strict=True)]
    data = png(picture)
    jpeg = io.BytesIO()
    Image.fromarray(picture).save(jpeg, "JPEG", quality=92)
    decoding = _median_ms(lambda: decoded(data))
    print(
        f"decoding a 1280 x 720 PNG: {decoding:.1f} ms; the same as JPEG: {_median_ms(lambda: decoded(jpeg.getvalue())):.1f} ms"
    )
    for count in (0, 1, 2):
        ratio = _median_ms(lambda n=count: measure_picture(picture, marks[:n], known)) / decoding
        print(f"measuring it with {count} figures: {ratio:.2f} x decoding the PNG (wanted: under 3)")
    for name, act in (
        ("border", lambda: printed_border(picture)),
        ("style signature", lambda: signature(picture)),
        ("palette", lambda: picture_palette(picture)),
        ("one figure", lambda: measure_appearances(picture, marks[:1])),
    ):
        print(f"  of that {name}: {_median_ms(act) / decoding:.2f} x decoding")
    who_they_are_against_bare_passes()


def who_they_are_against_bare_passes() -> None:
    """Who two figures with two references each are, against decoding and the network's passes that it takes, timed bare."""
    cv2.setNumThreads(1)
    eye = figure_eye()
    assert eye
    rng = np.random.default_rng(5)
    looks = [LOOK, random_look(rng)]
    cast = []
    for look in looks:
        pages = (reference(look), reference(look, random_pose(rng)))
        views = [reference_view(p, str(i), eye=eye) for i, p in enumerate(pages)]
        cast.append(known_figure(figure_model(f"figure {len(cast)}", views), eye).known)
    picture, boxes = scene(looks, rng, scale=1.0)
    data = png(picture)
    passes: Counter[str] = Counter()
    bare = {"maps": eye.trunk.maps, "early": eye.trunk.early}

    def counted(name: str) -> Callable[[Pixels], object]:
        def seen(pixels: Pixels) -> object:
            passes[name] += 1
            return bare[name](pixels)

        return seen

    def identified() -> None:
        for box, known in zip(boxes, cast, strict=True):
            identify(eye, seen_look(eye, picture, box), known, cast)

    for name in bare:
        setattr(eye.trunk, name, counted(name))
    identified()
    for name in bare:
        delattr(eye.trunk, name)
    square = np.zeros((224, 224, 3), np.uint8)

    def needed() -> None:
        decoded(data)
        for name, count in passes.items():
            for _ in range(count):
                bare[name](square)

    def taken() -> None:
        decoded(data)
        identified()

    ratio = statistics.median(_once_ms(taken) / _once_ms(needed) for _ in range(15))
    print(
        f"who two figures are: {ratio:.2f} x decoding and its {passes.total()} passes, "
        f"{passes['early']} of them early ones (wanted: under 1.5)"
    )


def four_hundred_against_one_hundred() -> None:
    with tempfile.TemporaryDirectory() as folder:
        _sequence_files(Path(folder), 400)
        runs = {n: _headless_run(Path(folder) / f"m{n}.json") for n in (100, 400)}
    (time_100, peak_100), (time_400, peak_400) = runs[100], runs[400]
    print(f"400 pictures take {time_400 / time_100:.2f} x the time of 100 (wanted: 4.2 at most)")
    print(f"peak memory of one process: {peak_400 / peak_100:.2f} x (wanted: within 1.3); {peak_400 / 1024:.0f} MB")


def _sequence_files(folder: Path, count: int) -> None:
    rng = np.random.default_rng(4)
    (folder / "ada.png").write_bytes(png(reference(LOOK)))
    shots = []
    for i in range(count):
        picture, [box] = scene([LOOK], rng, LIGHTS[i % 4], ground=i % 10)
        (folder / f"{i}.png").write_bytes(png(picture, compress_level=1))
        shots.append(
            {
                "id": f"s{i}",
                "picture": f"{i}.png",
                "appearances": [{"reference": "ada", "box": [box.x, box.y, box.w, box.h]}],
            }
        )
    references = [{"id": "ada", "kind": "character", "pictures": [{"path": "ada.png"}]}]
    for n in (100, count):
        (folder / f"m{n}.json").write_text(json.dumps({"references": references, "shots": shots[:n]}))


def _headless_run(manifest: Path) -> tuple[float, int]:
    """Seconds and the largest resident size (KiB) among a check's processes."""
    code = (
        "import resource, subprocess, sys, time; t = time.perf_counter();"
        "subprocess.run([sys.executable, '-m', 'juxtaform.cli', 'check', sys.argv[1], '--quiet']);"
        "print(time.perf_counter() - t, resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss)"
    )
    out = subprocess.run([sys.executable, "-c", code, str(manifest)], capture_output=True, text=True, check=True).stdout
    seconds, peak = out.split()[-2:]
    return float(seconds), int(peak)


@contextmanager
def workspace() -> Iterator[Workspace]:
    with tempfile.TemporaryDirectory() as folder:
        server = mariadb.start(Path(folder) / "db")
        try:
            database = Database(server.create("bench"))
            database.migrate()
            yield Workspace(database, PictureStore(Path(folder) / "pictures"))
            database.close()
        finally:
            server.stop()


def planned_project(ws: Workspace, shots: int) -> tuple[str, list[str]]:
    project = projects.make(ws, f"{shots} shots")
    plan_from(ws, project, "\n".join(f"# S{i}\nAda goes on, step {i}." for i in range(shots)))
    with ws.database.session() as s:
        return project, [shot.id for shot in plan.in_order(s, project)]


def marked_project(ws: Workspace, shots: int) -> tuple[str, str, list[str]]:
    """A project of one character with a reference, a picture in each shot, and a mark in each picture; its id, hers and the shots'."""
    project, ids = planned_project(ws, shots)
    threads.make(ws, project, "character", "Ada")
    ada = projects.snapshot(ws, project).rows["thread"][0]["id"]
    taken = takes.take_in(ws, "ada.png", png(reference(LOOK)))
    threads.add_references(ws, project, ada, [(str(taken.sha), "front")], "")
    rng = np.random.default_rng(2)
    boxes = {}
    for i, shot in enumerate(ids):
        picture, [boxes[shot]] = scene([LOOK], rng, ground=i % 10)
        name = f"{i + 1}.png"
        takes.accept(ws, project, [(name, str(takes.take_in(ws, name, png(picture, compress_level=1)).sha), shot)])
    for take in projects.snapshot(ws, project).rows["take"]:
        takes.mark(ws, project, take["id"], ada, boxes[take["shot_id"]])
    return project, ada, ids


def recheck_after_one_replacement() -> None:
    with workspace() as ws:
        project, _, shots = marked_project(ws, 100)
        checker = Checker(ws)
        whole = checked(ws, checker, project)
        picture, _ = scene([LOOK], np.random.default_rng(3), ground=3)
        fresh = takes.take_in(ws, "new.png", png(picture))
        takes.replace_picture(ws, project, shots[40], "new.png", str(fresh.sha))
        again = checked(ws, checker, project)
        measured = checking.status(ws, project).measured
        idle = checked(ws, checker, project)
        checker.close()
        print(
            f"recheck after one replaced picture: {100 * again / whole:.1f} % of the whole check of 100; {measured} measured"
        )
        print(f"check with nothing new: {idle / whole:.4f} of the whole check (wanted: under 0.02)")


def checked(ws: Workspace, checker: Checker, project: str) -> float:
    begun = time.perf_counter()
    checker.start(project)
    checker.wait(project, 600)
    assert checking.status(ws, project).state == "done"
    return time.perf_counter() - begun
