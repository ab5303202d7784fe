"""What the check of files, places, cuts and company costs: against decoding the same pictures, and ten times the sequence against once."""

from __future__ import annotations

import io
import statistics
import subprocess
import sys
import time
from collections.abc import Callable, Sequence
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from juxtaform.core.check.measure import FEW_SIDE
from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.match import Eye
from juxtaform.core.figure.standing import Sought, other_places, sought
from juxtaform.core.picture.glance import glance
from juxtaform.core.picture.regions import Box, resized
from juxtaform.core.picture.trunk import Map, Whitening
from juxtaform.core.place.ground import place_map
from juxtaform.core.style.hand import HandEye
from juxtaform.core.technical.lettering import LetterEye
from juxtaform.core.technical.technical import technical
from juxtaform.media.decode import decoded
from juxtaform.media.network import figure_eye, hand_eye, letter_eye
from tests.constructed import LIGHTS, random_look, reference, scene

SIZES = ((1280, 853), (3600, 2400), (6000, 4000))


def _ms(act: Callable[[], object], times: int = 5) -> float:
    act()
    taken = []
    for _ in range(times):
        begun = time.process_time()
        act()
        taken.append(time.process_time() - begun)
    return 1000 * statistics.median(taken)


def _as_file(pixels: Pixels, kind: str) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, kind, **({"compress_level": 4} if kind == "PNG" else {"quality": 92}))
    return out.getvalue()


def against_decoding() -> None:
    """The new terms of one picture on one core, in processor time, against decoding it once."""
    cv2.setNumThreads(1)
    rng = np.random.default_rng(1)
    looks = [random_look(rng), random_look(rng)]
    small, boxes = scene(looks, rng, LIGHTS[1], ground=0, scale=0.9)
    hand, letters, eye = hand_eye(), letter_eye(), figure_eye()
    assert hand
    assert letters
    assert eye
    cast = [sought(eye, [reference(look)]) for look in [*looks, random_look(rng)]]
    for size in SIZES:
        smooth = np.asarray(cv2.resize(small, size, interpolation=cv2.INTER_CUBIC), np.uint8)
        taken = [b.scaled(size[0] / small.shape[1]) for b in boxes]
        for name, picture in (("smooth", smooth), ("with the grain of paper", _grained(smooth, rng))):
            print(f"{size[0]} x {size[1]}, {name}:")
            _one_size(picture, taken, cast, hand, letters, eye)


def _grained(pixels: Pixels, rng: np.random.Generator) -> Pixels:
    """The picture as if it were painted on paper and scanned: grain of about two pixels and two codes."""
    h, w = pixels.shape[:2]
    grain = cv2.GaussianBlur(rng.normal(0, 6, (h, w, 1)).astype(np.float32), (0, 0), 0.8)[..., None]
    return np.asarray(np.clip(pixels + grain, 0, 255), np.uint8)


def _one_size(
    picture: Pixels, taken: Sequence[Box], cast: Sequence[Sought], hand: HandEye, letters: LetterEye, eye: Eye
) -> None:
    third, whitening = hand.look(picture).third, hand.places
    assert whitening
    as_png, as_jpeg = _as_file(picture, "PNG"), _as_file(picture, "JPEG")
    png, jpeg = _ms(lambda: decoded(as_png)), _ms(lambda: decoded(as_jpeg))
    parts = {
        "files": _ms(lambda: technical(picture)),
        "places and cuts": _ms(lambda: _places_and_cuts(third, whitening, picture)),
        "letters": _ms(lambda: letters.lettering(picture)),
        "company of three": _ms(lambda: other_places(eye, picture, cast, taken)),
    }
    cheap = parts["files"] + parts["places and cuts"]
    lettered, every = cheap + parts["letters"], sum(parts.values())
    told = ", ".join(f"{name} {ms:.0f} ms" for name, ms in parts.items())
    print(f"  decoding takes {png:.0f} ms as PNG, {jpeg:.0f} as JPEG; {told}")
    print(
        f"  files, places and cuts: {cheap / png:.2f} x PNG, {cheap / jpeg:.2f} x JPEG; with letters {lettered / png:.2f} and {lettered / jpeg:.2f}; "
        f"all {every / png:.2f} and {every / jpeg:.2f} (wanted: under 1)"
    )


def _places_and_cuts(third: Map, whitening: Whitening, picture: Pixels) -> None:
    few = resized(picture, FEW_SIDE)
    place_map(third, whitening, few)
    glance(few)


def ten_thousand() -> None:
    """The findings of 10,000 measured pictures against those of 1,000, each in a process of its own: seconds, and the largest memory of the process."""
    told = {n: _of_states(n) for n in (1000, 10_000)}
    (short, small), (long, large) = told[1000], told[10_000]
    print(f"the findings of 10,000 pictures take {long / short:.2f} x those of 1,000 (wanted: under 10.5)")
    print(f"the process's largest memory: {large / small:.2f} x (wanted: under 1.2), {large / 1024:.0f} MB")


def _of_states(count: int) -> tuple[float, int]:
    code = "import sys; from bench.check_speed import findings_of; findings_of(int(sys.argv[1]))"
    out = subprocess.run(
        [sys.executable, "-W", "ignore", "-c", code, str(count)], capture_output=True, text=True, check=True
    )
    seconds, peak = out.stdout.split()[-2:]
    return float(seconds), int(peak)


def findings_of(count: int) -> None:
    """Check so many pictures, made of a few measured ones; prints seconds and the largest resident size (KiB)."""
    from juxtaform.core.check.measure import measure_picture
    from juxtaform.core.check.sequence import check
    from juxtaform.core.check.states import Mark, PlaceHome, PlaceReference, ShotPlan, ShotState, StyleHome
    from juxtaform.core.text.names import Named
    from juxtaform.media.network import judges
    from juxtaform.studio.measuring import from_text, to_text
    from juxtaform.studio.shelf import Shelf
    from tests.constructed import model_of

    rng = np.random.default_rng(1)
    look = random_look(rng)
    known = model_of(look, rng, "a")
    texts, boxes = [], []
    for i in range(10):
        picture, [box] = scene([look], rng, LIGHTS[i % 5], ground=i, scale=0.9)
        texts.append(to_text(measure_picture(picture, [(box, known)], [known], None, None, hand_eye())))
        boxes.append(box)
    own = from_text(texts[0])
    assert own.place
    homes = [
        PlaceHome(
            f"p{k}", f"Place {k}", tuple(PlaceReference(p) for t in texts[k : k + 1] if (p := from_text(t).place))
        )
        for k in range(10)
    ]
    begun = time.perf_counter()
    shelf, shots = Shelf(), []
    for i in range(count):
        seen = shelf.lay(texts[i % 10])
        plan = ShotPlan(f"scene {i // 12}", "MS", length_s=4.0, places=((f"p{i % 10}", ""),), aspect=1.5)
        shots.append(
            ShotState(f"s{i}", str(i + 1), "", frozenset("a"), "style", (Mark("a", boxes[i % 10]),), seen, plan)
        )
    check(shots, [StyleHome("style", "Paper")], [Named("a", "A")], judges=judges(), places=homes)
    seconds = time.perf_counter() - begun
    # The process's own peak: what rusage tells begins with that of the process that started this one.
    [peak] = [
        line.split()[1] for line in Path("/proc/self/status").read_text().splitlines() if line.startswith("VmHWM")
    ]
    print(seconds, peak)
