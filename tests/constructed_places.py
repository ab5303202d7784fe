"""Places drawn from parameters, seen by a camera that moves: which place a picture shows, in which light and from where, is known."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.picture.regions import Box
from juxtaform.demo.paper import Hand, Piece, Placed, blob, box, ellipse, line, lit, polygon, rendered, svg
from tests.constructed import PAINTS, Look, figure, laid_on, random_pose

Pixels = NDArray[np.uint8]
WIDTH, HEIGHT = 1200, 800
LIGHTS = ((1.0, 1.0, 1.0), (0.95, 0.76, 0.64), (0.42, 0.5, 0.74), (1.06, 0.92, 0.8), (0.6, 0.62, 0.78))
"""Day, dusk, night, morning, overcast."""


@dataclass(frozen=True)
class Camera:
    """What part of a place a picture shows, in units of the page, and whether it is turned over."""

    x: float = 0.0
    y: float = 0.0
    w: float = 1200.0


def place(seed: int, paints: tuple[str, ...] = PAINTS) -> tuple[Piece, ...]:
    """A place of a number: sky or wall, masses behind, a floor, and a few things that stand there."""
    rng = np.random.default_rng(seed + 90_000)
    tones = [paints[i] for i in rng.choice(len(paints), 7, replace=False)]
    horizon = float(rng.uniform(330, 600))
    pieces = [Piece(box(-20, -20, 1240, 840), tones[0], lift=0)]
    pieces += _behind(rng, horizon, tones[1:3])
    pieces.append(
        Piece(
            blob(
                (-60, horizon + 30), (400, horizon), (800, horizon + 25), (1280, horizon - 5), (1280, 860), (-60, 860)
            ),
            tones[3],
        )
    )
    for _ in range(int(rng.integers(3, 7))):
        pieces += _thing(rng, horizon, tones)
    return tuple(pieces)


def _behind(rng: np.random.Generator, horizon: float, tones: list[str]) -> list[Piece]:
    kind = int(rng.integers(3))
    if kind == 0:  # hills
        ys = rng.uniform(0.45, 0.95, 5) * horizon
        hills = [(x, float(y)) for x, y in zip((-60, 240, 560, 900, 1260), ys, strict=True)]
        return [Piece(blob(*hills, (1280, horizon + 80), (-60, horizon + 80)), tones[0])]
    if kind == 1:  # houses
        found, x = [], -40.0
        while x < 1200:
            w, h = float(rng.uniform(110, 240)), float(rng.uniform(0.3, 0.85)) * horizon
            found.append(Piece(box(x, horizon - h, w, h + 60), tones[int(rng.integers(2))]))
            if rng.random() < 0.6:
                found.append(
                    Piece(
                        polygon((x - 10, horizon - h), (x + w / 2, horizon - h - 70), (x + w + 10, horizon - h)),
                        tones[0],
                    )
                )
            x += w + float(rng.uniform(0, 90))
        return found
    found = []  # a wall with openings
    for _ in range(int(rng.integers(1, 4))):
        x, y = float(rng.uniform(60, 900)), float(rng.uniform(60, 0.5 * horizon))
        w, h = float(rng.uniform(110, 260)), float(rng.uniform(120, 260))
        found.append(Piece(box(x, y, w, h), tones[0]))
        found.append(Piece(box(x + w / 2 - 6, y, 12, h), tones[1]))
    return found


def _thing(rng: np.random.Generator, horizon: float, tones: list[str]) -> list[Piece]:
    x, y = float(rng.uniform(60, 1140)), float(rng.uniform(horizon, 720))
    s, tone, other = float(rng.uniform(0.7, 1.6)), tones[int(rng.integers(4, 7))], tones[int(rng.integers(1, 7))]
    kind = int(rng.integers(5))
    if kind == 0:  # a tree
        crown = [
            (x + s * float(rng.uniform(40, 90)) * np.cos(a), y - 190 * s + s * float(rng.uniform(40, 80)) * np.sin(a))
            for a in np.linspace(0, 2 * np.pi, 7)[:-1]
        ]
        return [Piece(box(x - 10 * s, y - 140 * s, 20 * s, 140 * s), other), Piece(blob(*crown), tone)]
    if kind == 1:  # a crate
        return [
            Piece(box(x - 60 * s, y - 90 * s, 120 * s, 90 * s), tone),
            Piece(line((x - 60 * s, y - 45 * s), (x + 60 * s, y - 45 * s)), other, 6 * s, 0),
        ]
    if kind == 2:  # a lamp
        return [Piece(line((x, y), (x, y - 230 * s)), other, 9 * s), Piece(ellipse(x, y - 240 * s, 26 * s), tone)]
    if kind == 3:  # steps
        return [
            Piece(
                polygon(
                    (x - 110 * s + 30 * k * s, y - 34 * k * s),
                    (x + 120 * s, y - 34 * k * s),
                    (x + 120 * s, y),
                    (x - 110 * s + 30 * k * s, y),
                ),
                tone,
            )
            for k in range(1, 4)
        ]
    return [
        Piece(
            blob(
                (x - 110 * s, y), (x - 60 * s, y - 70 * s), (x + 50 * s, y - 86 * s), (x + 120 * s, y), (x, y + 16 * s)
            ),
            tone,
        )
    ]


@lru_cache(maxsize=96)
def empty(seed: int, hand: Hand = "paper") -> Pixels:
    """A place without anybody, drawn once."""
    return rendered(svg(place(seed), (), WIDTH, HEIGHT, seed=seed + 1, hand=hand))


def camera(rng: np.random.Generator, nearest: float = 0.5) -> Camera:
    """A camera somewhere in a place, showing so much of its width at least."""
    w = float(rng.uniform(nearest, 1.0)) * WIDTH
    return Camera(float(rng.uniform(0, WIDTH - w)), float(rng.uniform(0, HEIGHT - w * 2 / 3)), w)


def seen(
    seed: int,
    view: Camera = Camera(),
    light: tuple[float, float, float] = LIGHTS[0],
    hand: Hand = "paper",
    looks: tuple[Look, ...] = (),
    rng: np.random.Generator | None = None,
    page: Pixels | None = None,
) -> tuple[Pixels, list[Box]]:
    """A picture (600, 900, 3) of a place (or of a page of it that was changed) with some figures standing in it, and where they stand."""
    whole = empty(seed, hand) if page is None else page
    k = whole.shape[1] / WIDTH
    x, y, w = view.x * k, view.y * k, view.w * k
    part = whole[round(y) : round(y + w * 2 / 3), round(x) : round(x + w)]
    ground = np.asarray(cv2.resize(part, (900, 600), interpolation=cv2.INTER_AREA if w > 900 else cv2.INTER_CUBIC))
    placed, boxes = [], []
    for i, look in enumerate(looks):
        assert rng is not None
        s = float(rng.uniform(0.6, 1.1))
        px, py = 120 + 500 * i + float(rng.uniform(0, 300)), 790 - 400 * s - float(rng.uniform(0, 40))
        placed.append(Placed(figure(look, random_pose(rng)), px, py, s))
        boxes.append(Box((px - 14 * s) * 0.75, (py - 2 * s) * 0.75, 228 * s * 0.75, 406 * s * 0.75).inside(900, 600))
    picture = laid_on(ground, tuple(placed), hand) if placed else ground
    return lit(picture, light), boxes


def with_mass(seed: int, part: float, rng: np.random.Generator) -> Pixels:
    """The page of a place in which a round thing stands that takes a part of its width."""
    whole, other = empty(seed), empty((seed + 7) % 24)
    w = round(whole.shape[1] * part)
    h = round(w * 0.9)
    y, x = int(rng.integers(40, whole.shape[0] - h - 40)), int(rng.integers(60, whole.shape[1] - w - 60))
    mask = np.zeros(whole.shape[:2], np.uint8)
    cv2.ellipse(mask, (x + w // 2, y + h // 2), (w // 2, h // 2), 0, 0, 360, 255, -1)
    tone = np.array([int(v) for v in rng.integers(20, 235, 3)])
    return np.where(mask[..., None] > 0, (0.35 * other + 0.65 * tone), whole).astype(np.uint8)


def moved(view: Camera, by: float) -> Camera:
    """A camera moved sideways by so many units, within the page."""
    return replace(view, x=min(max(0.0, view.x + by), WIDTH - view.w))
