"""Clips: reading every fourth frame of a 1080p clip against decoding it; and what is told along constructed clips."""

from __future__ import annotations

import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import av
import cv2
import numpy as np

from juxtaform.core.clips.looks import Eyes
from juxtaform.core.clips.reading import EVERY, GRID, Frame, read_clip
from juxtaform.core.picture.regions import Box
from juxtaform.media import clips
from juxtaform.media.network import figure_eye, hand_eye
from tests.constructed import scene
from tests.constructed_clips import ADA, film, frames

LARGE = (1920, 1080)
COUNT, TIMES = 72, 5


def _large() -> list[np.ndarray]:
    """A pan over a grainy picture at 1080p."""
    rng = np.random.default_rng(1)
    picture, _ = scene([ADA], rng, ground=3, scale=0.8)
    page = cv2.resize(picture, (LARGE[0], 1280)).astype(np.float32)
    grain = [
        cv2.GaussianBlur(rng.normal(0, 1, page.shape[:2]).astype(np.float32), (0, 0), 1.2)[..., None] * 16
        for _ in range(4)
    ]
    tops = [int(100 + 80 * np.sin(i / 9)) for i in range(COUNT)]
    return [np.clip((page + grain[i % 4])[y : y + LARGE[1]], 0, 255).astype(np.uint8) for i, y in enumerate(tops)]


def _cpu(work: Callable[[], object]) -> float:
    begun = time.process_time()
    work()
    return time.process_time() - begun


def reading_against_decoding() -> None:
    """Processor time, the middle of five, each with decoding by slices as the reader has it."""
    cv2.setNumThreads(1)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.mp4"
        film(_large(), path, rate=24)

        def decode() -> None:
            with av.open(str(path)) as container:
                container.streams.video[0].thread_type = "SLICE"
                for _ in container.decode(video=0):
                    pass

        box = Box(60, 60, 60, 100)
        eyes = Eyes(figure_eye(), hand_eye())
        pairs = [
            (_cpu(decode), _cpu(lambda: read_clip(clips.read_through(path, clips.MP4), {"ada": box}, None, eyes)))
            for _ in range(TIMES)
        ]
    plain, read = (statistics.median(p[k] for p in pairs) for k in (0, 1))
    print(
        f"a clip of 1080p, {COUNT} frames: decoding {plain:.2f} s, with every {EVERY}th frame measured {read:.2f} s: {read / plain:.2f} times (wanted < 1.5)"
    )


def slips() -> None:
    """Constructed clips, ten of each: what slips is told, from when on; what only moves is not."""
    for flaw in ("", "grey", "coat", "flicker"):
        told, off = 0, []
        for seed in range(10):
            pixels, box = frames(48, flaw, begins=20 + seed, seed=seed)
            small = [
                cv2.resize(cv2.cvtColor(p, cv2.COLOR_RGB2GRAY), (GRID[1], GRID[0]), interpolation=cv2.INTER_AREA)
                for p in pixels
            ]
            seen = read_clip(
                (
                    Frame(light, p if i % EVERY == 0 else None)
                    for i, (light, p) in enumerate(zip(small, pixels, strict=True))
                ),
                {"ada": box},
                None,
                Eyes(figure_eye(), hand_eye()),
            )
            found = len(seen.flicker) >= 3 if flaw == "flicker" else seen.begins is not None
            told += found
            if found and flaw in ("grey", "coat") and seen.begins is not None:
                off.append(abs(seen.begins - 20 - seed))
        within = f", beginning told within {max(off)} frames (middle {statistics.median(off):.0f})" if off else ""
        print(f"{flaw or 'nothing wrong'}: told in {told} of 10{within}")
