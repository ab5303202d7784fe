"""Clips of drawn figures by other hands that walk, turn and talk before wallpapers: clean, or with a fault that begins at a known frame."""

from __future__ import annotations

import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np

from bench.art.hands import painted_over
from bench.art.sequences import Drift, readable, recoloured, recoloured_alike
from bench.art.sources import Family, grounds
from bench.art.staging import LIGHTS, Rgb, Rgba, _filled
from juxtaform.core.clips.reading import Frame
from juxtaform.core.colour.spaces import linear_from_srgb8, srgb_from_linear
from juxtaform.core.picture.regions import Box
from juxtaform.demo.by_hand import film
from juxtaform.media import clips

SIZE = (640, 400)
COUNT, RATE, POSE = 72, 24, 3
"""Frames of a clip, frames a second, and frames that one pose stands."""
CLEAN = (
    "talks",
    "walks",
    "turns",
    "leaves",
    "camera pans",
    "camera nears",
    "light falls",
    "somebody comes",
    "fades out",
)
FAULTS = ("part", "somebody else", "greys", "another hand", "softens", "flickers")
SLIDE = 8
"""Frames in which a fault comes in."""


@dataclass(frozen=True)
class Filmed:
    """A clip's frames, where the figure stands in each (px; None where it is not seen), what is wrong with it ("" nothing) and from which
    frame on."""

    name: str
    frames: list[Rgb]
    boxes: list[Box | None]
    fault: str
    begins: int


class _Cast(NamedTuple):
    own: list[Rgba]
    other: list[Rgba]


def filmed(members: list[Family], kind: str, seed: int) -> Filmed:
    """A clip of one kind: its figure, its ground and how both move are drawn by lot."""
    rng = np.random.default_rng(seed)
    usable = [m for m in members if len(m.pictures) >= 3]
    cast: _Cast | None = None
    changed = None
    while cast is None or (kind == "part" and changed is None):
        chosen = [usable[i] for i in rng.permutation(len(usable))[:2]]
        pictures = [[p for a in f.pictures[:6] if (p := readable(a)) is not None] for f in chosen]
        if chosen[0].source != chosen[1].source or min(len(p) for p in pictures) < 2:
            continue
        cast = _Cast(*pictures)
        changed = _repainted(cast.own, rng) if kind == "part" else None
    places = grounds()
    ground = _filled(places[rng.integers(len(places))], (SIZE[0] * 3 // 2, SIZE[1] * 3 // 2))
    begins = int(rng.integers(24, 41)) if kind in FAULTS else 0
    height, foot, x = float(rng.uniform(0.4, 0.7)), float(rng.uniform(0.85, 0.97)), float(rng.uniform(0.25, 0.4))
    to = {"leaves": 1.9, "talks": x, "camera pans": x}.get(kind, x + float(rng.uniform(0.1, 0.35)))
    pan = (float(rng.uniform(0.2, 0.33)) if kind == "camera pans" else float(rng.uniform(0, 0.1))) * SIZE[0]
    hand = int(rng.integers(1 << 30))
    frames: list[Rgb] = []
    boxes: list[Box | None] = []
    for i in range(COUNT):
        far = i / (COUNT - 1)
        slid = float(np.clip((i - begins) / SLIDE, 0, 1)) if kind in FAULTS and i > begins else 0.0
        k = i // POSE
        page = _window(ground, pan * far).astype(np.float32)
        seen = cast.own[k % len(cast.own)].astype(np.float32)
        if kind == "part" and changed is not None:
            seen = seen * (1 - slid) + changed[k % len(cast.own)] * slid
        mirrored = kind == "turns" and far > 0.5
        at = x + (to - x) * far
        if kind == "somebody comes":
            _put(page, cast.other[k % len(cast.other)], 1.25 - 0.45 * min(1, 2 * far), foot, height, True)
        if kind == "somebody else" and slid:
            bare = page.copy()
            boxes.append(_put(page, seen, at, foot, height, mirrored))
            _put(bare, cast.other[k % len(cast.other)], at, foot, height, mirrored)
            page = page * (1 - slid) + bare * slid
        else:
            boxes.append(_put(page, seen, at, foot, height, mirrored))
        frames.append(_finished(page, kind, far, slid, i, begins, hand))
    if kind == "camera nears":
        boxes = [_neared(b, i / (COUNT - 1)) if b else None for i, b in enumerate(boxes)]
    return Filmed(f"{kind} {seed}", frames, boxes, kind if kind in FAULTS else "", begins)


def _repainted(own: list[Rgba], rng: np.random.Generator) -> list[Rgba] | None:
    """All poses of a figure with one part in another colour; None where it has none, or where it is not seen in every pose."""
    first = recoloured(own[0], rng, whole=True)
    if first is None:
        return None
    drift = Drift(0, first[2], first[3], range(0))
    others = [recoloured_alike(p, drift) for p in own[1:]]
    if any(o is None for o in others):
        return None
    return [first[0], *(o[0] for o in others if o is not None)]


def _window(ground: Rgb, x: float) -> Rgb:
    left, top = round(x), (ground.shape[0] - SIZE[1]) // 2
    return ground[top : top + SIZE[1], left : left + SIZE[0]]


def _put(page: np.ndarray, figure: np.ndarray, x: float, foot: float, height: float, mirrored: bool) -> Box | None:  # type: ignore[type-arg]
    """Draw a figure into a page; its box, None where nothing of it is seen."""
    scale = min(height * SIZE[1] / figure.shape[0], 0.6 * SIZE[0] / figure.shape[1])
    w, h = max(6, round(figure.shape[1] * scale)), max(6, round(figure.shape[0] * scale))
    small = cv2.resize(
        figure.astype(np.float32), (w, h), interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR
    )
    if mirrored:
        small = small[:, ::-1]
    left, top = round(x * SIZE[0] - w / 2), round(foot * SIZE[1] - h)
    a, b = max(0, left), min(SIZE[0], left + w)
    c, d = max(0, top), min(SIZE[1], top + h)
    if a >= b or c >= d:
        return None
    part = small[c - top : d - top, a - left : b - left]
    alpha = part[..., 3:] / 255
    page[c:d, a:b] = part[..., :3] * alpha + page[c:d, a:b] * (1 - alpha)
    return Box(a, c, b - a, d - c)


def _part(far: float) -> tuple[int, int, int, int]:
    """What of a page a camera sees that comes nearer: x, y, w, h."""
    near = 1 + 0.5 * far
    w, h = round(SIZE[0] / near), round(SIZE[1] / near)
    return round((SIZE[0] - w) * 0.35), (SIZE[1] - h) // 2, w, h


def _neared(box: Box, far: float) -> Box | None:
    x, y, w, h = _part(far)
    fx, fy = SIZE[0] / w, SIZE[1] / h
    a, c = max(0.0, (box.x - x) * fx), max(0.0, (box.y - y) * fy)
    b, d = min(SIZE[0], (box.x + box.w - x) * fx), min(SIZE[1], (box.y + box.h - y) * fy)
    return Box(a, c, b - a, d - c) if b > a and d > c else None


def _finished(page: np.ndarray, kind: str, far: float, slid: float, i: int, begins: int, hand: int) -> Rgb:  # type: ignore[type-arg]
    """A frame as the camera and the fault leave it."""
    if kind == "camera nears":
        x, y, w, h = _part(far)
        page = cv2.resize(page[y : y + h, x : x + w], SIZE, interpolation=cv2.INTER_LINEAR)
    if kind == "greys":
        page = page * (1 - 0.75 * slid) + page.mean(axis=-1, keepdims=True) * 0.75 * slid
    if kind == "softens" and slid:
        page = cv2.GaussianBlur(page, (0, 0), 2.5 * slid)
    if kind == "flickers" and i > begins and i % 6 == 3:
        page = page * 1.12
    pixels = np.rint(np.clip(page, 0, 255)).astype(np.uint8)
    if kind == "another hand" and slid:
        over = painted_over(pixels, np.random.default_rng(hand)).astype(np.float32)
        pixels = np.rint(pixels * (1 - slid) + over * slid).astype(np.uint8)
    if kind in ("light falls", "fades out"):
        gain = (
            1 - far * (1 - np.array(LIGHTS["dusk"]))
            if kind == "light falls"
            else np.full(3, min(1, (1 - far) * COUNT / 12))
        )
        pixels = np.rint(255 * srgb_from_linear(np.clip(linear_from_srgb8(pixels) * gain, 0, 1))).astype(np.uint8)
    return pixels


def read_frames(clip: Filmed) -> list[Frame]:
    """A clip's frames as the application reads them from a film."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "clip.mp4"
        film(clip.frames, path, rate=RATE)
        return list(clips.read_through(path, clips.MP4))
