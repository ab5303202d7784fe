"""Pairs of pictures before and after an edit, whose changes are known: what is harmless was done to the whole picture, and in half of the pairs
something outside the area changed too."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.edits.area import Area, Mask, Shape, mask_of
from juxtaform.core.picture.regions import Box, shared_area
from tests.constructed import Look, random_look, scene

Pixels = NDArray[np.uint8]
HANDS = ("paper", "inked", "grainy", "painted")
HARMLESS = ("same", "jpeg", "smaller", "larger", "lighter", "warmer", "moved", "softer", "all")
CHANGES = ("recoloured", "removed", "added", "moved", "lit", "lined")
MAGNITUDES = (0.025, 0.05, 0.1)
"""How large what changed is, as a part of the longer side."""


@dataclass(frozen=True)
class Pair:
    """A pair and its truth: the hand, what is harmless, what changed outside (empty: nothing), how large, and where."""

    before: Pixels
    after: Pixels
    mask: Mask
    hand: str
    harmless: str
    change: str
    magnitude: float
    where: Box | None


def pair(seed: int, drawn: Callable[[np.random.Generator], Pixels] | None = None) -> Pair:
    """The pair of a number; even and odd numbers are the two halves. Another hand's picture may be `drawn`."""
    rng = np.random.default_rng(seed + 7_000_000)
    n = seed // 2
    hand, harmless = HANDS[n % 4], HARMLESS[(n // 4) % len(HARMLESS)]
    before, area = drawn(rng) if drawn else _picture(rng, hand), _area(rng)
    h, w = before.shape[:2]
    mask = mask_of(area, w, h)
    after = _inside(before, mask, rng)
    change, magnitude, where = "", 0.0, None
    if rng.random() < 0.5:
        change = CHANGES[int(rng.integers(len(CHANGES)))]
        magnitude = float(rng.choice(MAGNITUDES))
        after, where = _changed(after, mask, change, magnitude, rng)
    return Pair(before, _harmless(after, harmless, rng), mask, hand, harmless, change, magnitude, where)


def _picture(rng: np.random.Generator, hand: str) -> Pixels:
    return _picture_of(rng, hand, [random_look(rng) for _ in range(int(rng.integers(1, 3)))])


def _picture_of(rng: np.random.Generator, hand: str, looks: list[Look]) -> Pixels:
    ground = int(rng.integers(0, 10))
    pixels, _ = scene(looks, rng, ground=ground, hand="inked" if hand == "inked" else "paper", scale=0.9)
    if hand == "grainy":
        grain = cv2.GaussianBlur(rng.normal(0, 1, pixels.shape[:2]).astype(np.float32), (0, 0), 0.8) * 14
        pixels = np.clip(pixels + grain[..., None], 0, 255).astype(np.uint8)
    elif hand == "painted":
        strokes = cv2.GaussianBlur(rng.normal(0, 1, pixels.shape[:2]).astype(np.float32), (0, 0), 5, sigmaY=1.5) * 60
        tone = cv2.GaussianBlur(rng.normal(0, 1, (*pixels.shape[:2], 3)).astype(np.float32), (0, 0), 30) * 220
        pixels = np.clip(cv2.GaussianBlur(pixels, (0, 0), 1.2) + strokes[..., None] + tone, 0, 255).astype(np.uint8)
    return np.asarray(pixels, dtype=np.uint8)


def _area(rng: np.random.Generator) -> Area:
    x, y = rng.uniform(0.1, 0.6, 2)
    w, h = rng.uniform(0.12, 0.35, 2)
    kind = rng.integers(3)
    if kind == 0:
        shape = Shape("box", ((x, y), (x + w, y + h)))
    elif kind == 1:
        turn = np.linspace(0, 2 * np.pi, 14)[:-1]
        reach = rng.uniform(0.75, 1.0, 13)
        shape = Shape(
            "outline",
            tuple(
                (float(x + w / 2 + r * w / 2 * np.cos(t)), float(y + h / 2 + r * h / 2 * np.sin(t)))
                for t, r in zip(turn, reach, strict=True)
            ),
        )
    else:
        shape = Shape("brush", ((x, y + h / 2), (x + w / 2, y), (x + w, y + h / 2)), 0.07)
    return Area((shape,), float(rng.choice([0.0, 0.01, 0.03])))


def _inside(before: Pixels, mask: Mask, rng: np.random.Generator) -> Pixels:
    """The area painted anew: another part of the picture, another colour, something on it."""
    h, w = before.shape[:2]
    other = np.roll(before, (int(rng.integers(60, h - 60)), int(rng.integers(60, w - 60))), axis=(0, 1))
    tint = rng.uniform(-40, 40, 3)
    fresh = np.clip(other + tint, 0, 255)
    cv2.circle(
        fresh, (int(w * rng.uniform(0.3, 0.7)), int(h * rng.uniform(0.3, 0.7))), 60, tuple(rng.uniform(0, 255, 3)), -1
    )
    part = mask[..., None]
    return np.asarray(np.rint(before * (1 - part) + fresh * part), dtype=np.uint8)


def _changed(after: Pixels, mask: Mask, change: str, magnitude: float, rng: np.random.Generator) -> tuple[Pixels, Box]:
    """Something outside the area changes in a round place of so large a part of the picture."""
    h, w = after.shape[:2]
    size = magnitude * max(h, w)
    near = cv2.dilate((mask > 0).astype(np.uint8), np.ones((41, 41), np.uint8)) > 0
    for _ in range(400):
        cx, cy = rng.uniform(size, w - size), rng.uniform(size, h - size)
        ys, xs = np.mgrid[0:h, 0:w]
        round_place = (((xs - cx) / (size / 2)) ** 2 + ((ys - cy) / (size / 2)) ** 2) <= 1
        if (round_place & near).any():
            continue
        out = after.astype(np.float32)
        own = out[round_place]
        away = rng.normal(0, 1, 3)
        away *= rng.uniform(26, 60) / np.linalg.norm(away)
        if change == "recoloured":
            out[round_place] = own + away
        elif change == "removed":
            if own.std(axis=0).mean() < 14:
                continue
            out = cv2.inpaint(after, round_place.astype(np.uint8), 5, cv2.INPAINT_TELEA).astype(np.float32)
        elif change == "added":
            points = np.array(
                [
                    [cx + size / 2 * np.cos(t) * r, cy + size / 2 * np.sin(t) * r]
                    for t, r in zip(np.linspace(0, 6, 9), rng.uniform(0.5, 1, 9), strict=True)
                ]
            )
            colour = np.clip(own.mean(axis=0) + away * 1.6, 0, 255)
            cv2.fillPoly(out, [points.astype(np.int32)], colour.tolist())
        elif change == "moved":
            if own.std(axis=0).mean() < 14:
                continue
            step = (int(rng.choice([-1, 1]) * max(6, size * 0.25)), int(rng.choice([-1, 1]) * max(6, size * 0.25)))
            out[round_place] = np.roll(out, step, axis=(0, 1))[round_place]
        elif change == "lit":
            soft = cv2.GaussianBlur(round_place.astype(np.float32), (0, 0), size / 8)
            out = out * (1 + soft[..., None] * rng.choice([-0.3, 0.3])) + soft[..., None] * rng.choice([-10, 10])
        else:
            for _ in range(4):
                a, b = rng.uniform(-0.5, 0.5, 2) * size * 0.9, rng.uniform(-0.5, 0.5, 2) * size * 0.9
                dark = np.clip(own.mean(axis=0) + (-70 if own.mean() > 90 else 90), 0, 255)
                cv2.line(
                    out,
                    (int(cx + a[0]), int(cy + a[1])),
                    (int(cx + b[0]), int(cy + b[1])),
                    dark.tolist(),
                    3,
                    cv2.LINE_AA,
                )
        made = np.clip(np.rint(out), 0, 255).astype(np.uint8)
        if np.abs(made.astype(int) - after)[round_place].max(axis=-1).mean() > 8:
            return made, Box(cx - size / 2, cy - size / 2, size, size)
    raise ValueError("no room for a change")


def _harmless(pixels: Pixels, how: str, rng: np.random.Generator) -> Pixels:
    if how in ("lighter", "all"):
        linear = (pixels / 255.0) ** 2.2 * 2 ** rng.choice([-0.4, -0.2, 0.2, 0.35])
        pixels = np.rint(np.clip(linear, 0, 1) ** (1 / 2.2) * 255).astype(np.uint8)
    if how in ("warmer", "all"):
        gains = np.array([1 + rng.uniform(0, 0.07), 1.0, 1 - rng.uniform(0, 0.07)])
        pixels = np.rint(np.clip(pixels * gains, 0, 255)).astype(np.uint8)
    h, w = pixels.shape[:2]
    if how in ("moved", "all"):
        shift = rng.uniform(-5, 5, 2)
        f = 1 + rng.uniform(-0.004, 0.004)
        pixels = cv2.warpAffine(
            pixels,
            np.array([[f, 0, shift[0]], [0, f, shift[1]]]),
            (w, h),
            flags=cv2.INTER_CUBIC,
            borderMode=cv2.BORDER_REPLICATE,
        )
    if how in ("smaller", "all"):
        f = rng.uniform(0.6, 0.9)
        pixels = cv2.resize(pixels, (round(w * f), round(h * f)), interpolation=cv2.INTER_AREA)
    if how == "larger":
        pixels = cv2.resize(pixels, (round(w * 1.5), round(h * 1.5)), interpolation=cv2.INTER_LANCZOS4)
    if how == "softer":
        pixels = cv2.GaussianBlur(pixels, (0, 0), rng.uniform(0.6, 1.4))
    if how in ("jpeg", "all", "smaller"):
        out = io.BytesIO()
        Image.fromarray(pixels).save(out, "JPEG", quality=int(rng.integers(62, 93)))
        pixels = np.asarray(Image.open(out))
    return np.asarray(pixels, dtype=np.uint8)


def is_found(places: tuple[Box, ...], where: Box) -> bool:
    """Whether a place that is told touches what changed."""
    return any(shared_area(p, where) > 0 for p in places)


FLAWS = ("", "grey", "dark", "grain", "soft", "inked", "stranger")


def grown(seed: int) -> tuple[Pixels, Box, str, str]:
    """A picture of which the sides were added, the box of the old part, its hand, and what is wrong with the added ones (empty: nothing)."""
    rng = np.random.default_rng(seed + 9_000_000)
    hand = HANDS[(seed // 2) % 4]
    flaw = FLAWS[(seed // 8) % len(FLAWS)]
    if flaw == "inked" and hand != "paper":
        flaw = "grey"
    looks = [random_look(rng)]
    state = rng.bit_generator.state
    pixels = _picture_of(rng, hand, looks)
    h, w = pixels.shape[:2]
    left = int(rng.uniform(0.12, 0.25) * w)
    right = int(w - rng.uniform(0.12, 0.25) * w)
    other = pixels.astype(np.float32)
    if flaw == "grey":
        other = other * 0.35 + other.mean(axis=-1, keepdims=True) * 0.65
    elif flaw == "dark":
        other = other * 0.72
    elif flaw == "grain":
        other = other + cv2.GaussianBlur(rng.normal(0, 1, (h, w)).astype(np.float32), (0, 0), 1.0)[..., None] * 34
    elif flaw == "soft":
        other = cv2.GaussianBlur(other, (0, 0), 5)
    elif flaw == "inked":
        again = np.random.default_rng()
        again.bit_generator.state = state
        other = _picture_of(again, "inked", looks).astype(np.float32)
    elif flaw == "stranger":
        other = other * 0.4 + np.array(rng.choice([[250, 60, 200], [60, 250, 60], [250, 240, 40]]), np.float32) * 0.6
    out = np.clip(other, 0, 255).astype(np.uint8)
    out[:, left:right] = pixels[:, left:right]
    return out, Box(left, 0, right - left, h), hand, flaw
