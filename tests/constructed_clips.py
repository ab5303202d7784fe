"""Small clips whose faults are known: a figure that moves, and from a frame on changes colour, or the picture fades, or its light flickers."""

from __future__ import annotations

import io

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.picture.regions import Box
from juxtaform.demo.by_hand import film
from tests.constructed import Look, scene

__all__ = ["ADA", "film", "flip", "frames"]

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


def flip(pixels: list[NDArray[np.uint8]], kind: str, frame_s: float = 0.1) -> bytes:
    """The frames as an animated GIF or WEBP."""
    out = io.BytesIO()
    pages = [Image.fromarray(p) for p in pixels]
    pages[0].save(out, kind, save_all=True, append_images=pages[1:], duration=round(1000 * frame_s), loop=0)
    return out.getvalue()
