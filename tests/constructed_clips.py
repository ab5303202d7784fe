"""Small clips whose faults are known: a figure that moves, and from a frame on changes colour, or the picture fades, or its light flickers."""

from __future__ import annotations

import io
from functools import cache
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.picture.regions import Box
from juxtaform.core.sound.levels import RATE
from juxtaform.demo.by_hand import film
from tests.constructed import Look, scene

__all__ = ["ADA", "film", "film_with_sound", "flip", "frames", "walk"]

ADA = Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b", extra_form=0)
SIZE = (480, 320)


def frames(count: int = 48, flaw: str = "", begins: int = 24, seed: int = 3) -> tuple[list[NDArray[np.uint8]], Box]:
    """Frames of 480 x 320 px and where Ada stands in the first one. `flaw`: `grey` (the picture fades), `coat` (her coat becomes violet),
    `flicker` (every sixth frame is lighter), or none."""
    good, [box] = scene([ADA], np.random.default_rng(seed), ground=3, scale=1.0)
    other, _ = scene([Look(**{**ADA.__dict__, "coat": "#6b4a8c"})], np.random.default_rng(seed), ground=3, scale=1.0)
    scale = 520 / good.shape[1]
    pages = [np.asarray(Image.fromarray(p).resize((520, round(good.shape[0] * scale)))) for p in (good, other)]
    out = []
    for i in range(count):
        x, y = int(20 + 18 * np.sin(i / 7)), int(10 + 6 * np.cos(i / 9))
        far = np.clip((i - begins) / 8, 0, 1)
        page = pages[0].astype(np.float32)
        if flaw == "coat":
            page = page * (1 - far) + pages[1] * far
        frame = page[y : y + SIZE[1], x : x + SIZE[0]]
        if flaw == "grey":
            frame = frame * (1 - 0.75 * far) + frame.mean(axis=-1, keepdims=True) * 0.75 * far
        if flaw == "flicker" and i % 6 == 3:
            frame = frame * 1.12
        out.append(np.clip(frame, 0, 255).astype(np.uint8))
    return out, Box(box.x * scale - 20, box.y * scale - 16, box.w * scale, box.h * scale)


def film_with_sound(pixels: list[NDArray[np.uint8]], path: Path, wave: NDArray[np.float64], begins_s: float) -> bytes:
    """The frames as a film of the path's kind, twelve a second, in which a wave (±1, one channel) is heard from a time on."""
    with av.open(str(path), "w") as out:
        seen = out.add_stream("libx264" if path.suffix != ".webm" else "libvpx", rate=12)
        seen.height, seen.width, seen.pix_fmt = *pixels[0].shape[:2], "yuv420p"
        heard = out.add_stream("aac" if path.suffix != ".webm" else "libopus", rate=RATE, layout="mono")
        for page in pixels:
            out.mux(seen.encode(av.VideoFrame.from_ndarray(page, format="rgb24")))
        out.mux(seen.encode())
        said = av.AudioFrame.from_ndarray(np.rint(wave * 32767).astype(np.int16)[None], format="s16", layout="mono")
        said.sample_rate, said.pts = RATE, round(begins_s * RATE)
        fitting = av.AudioResampler(format=heard.codec_context.format, layout="mono", rate=RATE)
        for frame in (said, None):
            for part in fitting.resample(frame):
                out.mux(heard.encode(part))
        out.mux(heard.encode())
    return path.read_bytes()


def flip(pixels: list[NDArray[np.uint8]], kind: str, frame_s: float = 0.1) -> bytes:
    """The frames as an animated GIF or WEBP."""
    out = io.BytesIO()
    pages = [Image.fromarray(p) for p in pixels]
    pages[0].save(out, kind, save_all=True, append_images=pages[1:], duration=round(1000 * frame_s), loop=0)
    return out.getvalue()


OTHER = Look("#2a2326", "#7b4a30", "#456a70", "#e08fa6", "#f3f0ea", "#2c6fc4", extra_form=1)


def walk(way: str = "", count: int = 60, begins: int = 30) -> tuple[list[NDArray[np.uint8]], Box]:
    """Frames of 480 x 320 px in which Ada walks in three poses before a ground, and where she stands in the first one. `way`: `turns`, `leaves`, `pans`, `nears`,
    `dark` (all fades to black); or from `begins` on `other` (somebody else walks on in her place), `coat` (her coat becomes violet), `boots` (her boots
    take the colour of her hat)."""
    ground = np.asarray(Image.fromarray(_ground()).resize((720, 480)))
    later = {
        "other": OTHER,
        "coat": Look(**{**ADA.__dict__, "coat": "#6b4a8c"}),
        "boots": Look(**{**ADA.__dict__, "boots": ADA.extra}),
    }.get(way, ADA)
    poses = {look: [_figure(look, seed) for seed in (3, 4, 8)] for look in (ADA, later)}
    out, first = [], None
    for i in range(count):
        far = i / (count - 1)
        slid = float(np.clip((i - begins) / 8, 0, 1))
        left = round(200 * far) if way == "pans" else 40
        page = ground[100:420, left : left + 480].astype(np.float32)
        x = {"leaves": 60 + 700 * far, "pans": 150.0}.get(way, 60 + 120 * far)
        for look, share in ((ADA, 1 - slid), (later, slid)) if later is not ADA else ((ADA, 1.0),):
            shape = poses[look][i // 3 % 3]
            if share > 0:
                _laid(page, shape[:, ::-1] if way == "turns" and far > 0.5 else shape, round(x), share)
        first = first or Box(
            x - 4, 300 - poses[ADA][0].shape[0] - 4, poses[ADA][0].shape[1] + 8, poses[ADA][0].shape[0] + 8
        )
        if way == "nears":
            w, h = round(480 / (1 + 0.5 * far)), round(320 / (1 + 0.5 * far))
            page = np.asarray(
                Image.fromarray(page.astype(np.uint8)).crop((20, 320 - h, 20 + w, 320)).resize(SIZE), np.float32
            )
        if way == "dark":
            page = page * min(1.0, (1 - far) * 4)
        out.append(np.clip(page, 0, 255).astype(np.uint8))
    assert first
    return out, first if way != "nears" else Box(first.x - 20, first.y, first.w, first.h)


@cache
def _ground() -> NDArray[np.uint8]:
    return scene([], np.random.default_rng(3), ground=3)[0]


@cache
def _figure(look: Look, seed: int) -> NDArray[np.float32]:
    """A figure alone in a pose: its colours and where it is, (h, w, 4), 150 px high."""
    seen, [box] = scene([look], np.random.default_rng(seed), ground=3, scale=1.0)
    bare = _ground()
    there = (np.abs(seen.astype(int) - bare).max(axis=-1) > 8).astype(np.uint8) * 255
    y, x, h, w = (round(v) for v in (box.y, box.x, box.h, box.w))
    cut = np.dstack([seen, there])[y : y + h, x : x + w]
    return np.asarray(Image.fromarray(cut).resize((round(150 * w / h), 150)), np.float32)


def _laid(page: NDArray[np.float32], shape: NDArray[np.float32], x: int, share: float) -> None:
    top, right = 300 - shape.shape[0], min(page.shape[1], x + shape.shape[1])
    if x >= page.shape[1]:
        return
    part = shape[:, : right - x]
    alpha = part[..., 3:] / 255 * share
    page[top:300, x:right] = part[..., :3] * alpha + page[top:300, x:right] * (1 - alpha)
