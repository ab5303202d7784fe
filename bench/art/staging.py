"""Figures put on grounds: another size, side, light and place, so that what stands where is known."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import linear_from_srgb8, srgb_from_linear
from juxtaform.core.picture.regions import Box

Rgba = NDArray[np.uint8]
Rgb = NDArray[np.uint8]
LIGHTS: dict[str, tuple[float, float, float]] = {
    "day": (1.0, 1.0, 1.0),
    "lamp": (1.08, 0.92, 0.7),
    "dusk": (0.75, 0.55, 0.5),
    "night": (0.22, 0.28, 0.45),
}
SIZE = (960, 600)


@dataclass(frozen=True)
class Standing:
    """A figure to be put into a scene: its picture, where its feet are (0..1 of the scene), its height 0..1, side, turn."""

    picture: Rgba
    x: float
    foot: float
    height: float
    mirrored: bool = False
    turn: float = 0.0


def on_white(picture: Rgba, margin: float = 0.06) -> Rgb:
    """A figure alone on white, as a reference."""
    part = picture[..., 3:] / 255
    page = picture[..., :3] * part + 255 * (1 - part)
    edge = round(max(page.shape[:2]) * margin)
    return np.rint(np.pad(page, ((edge, edge), (edge, edge), (0, 0)), constant_values=255)).astype(np.uint8)


def scene(
    ground: Rgb, figures: list[Standing], light: str = "day", size: tuple[int, int] = SIZE
) -> tuple[Rgb, list[Box]]:
    """The picture (h, w, 3) and every figure's box."""
    page = _filled(ground, size).astype(np.float32)
    boxes = []
    for figure in figures:
        picture = _turned(figure.picture, figure.turn)
        scale = figure.height * size[1] / picture.shape[0]
        scale = min(scale, 0.9 * size[0] / picture.shape[1])
        w, h = max(6, round(picture.shape[1] * scale)), max(6, round(picture.shape[0] * scale))
        small = cv2.resize(picture, (w, h), interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR).astype(
            np.float32
        )
        if figure.mirrored:
            small = small[:, ::-1]
        x = round(np.clip(figure.x * size[0] - w / 2, 0, size[0] - w))
        y = round(np.clip(figure.foot * size[1] - h, 0, size[1] - h))
        part = small[..., 3:] / 255
        page[y : y + h, x : x + w] = small[..., :3] * part + page[y : y + h, x : x + w] * (1 - part)
        boxes.append(Box(x, y, w, h))
    return lit(np.rint(page).astype(np.uint8), light), boxes


def lit(pixels: Rgb, light: str) -> Rgb:
    gain = LIGHTS[light]
    if gain == (1.0, 1.0, 1.0):
        return pixels
    return np.rint(255 * srgb_from_linear(np.clip(linear_from_srgb8(pixels) * np.array(gain), 0, 1))).astype(np.uint8)


def random_light(rng: np.random.Generator) -> str:
    return str(rng.choice(list(LIGHTS), p=[0.4, 0.2, 0.2, 0.2]))


def _filled(ground: Rgb, size: tuple[int, int]) -> Rgb:
    scale = max(size[0] / ground.shape[1], size[1] / ground.shape[0])
    big = cv2.resize(
        ground, (round(ground.shape[1] * scale) + 1, round(ground.shape[0] * scale) + 1), interpolation=cv2.INTER_AREA
    )
    x, y = (big.shape[1] - size[0]) // 2, (big.shape[0] - size[1]) // 2
    return np.asarray(big[y : y + size[1], x : x + size[0]])


def _turned(picture: Rgba, degrees: float) -> Rgba:
    if not degrees:
        return picture
    h, w = picture.shape[:2]
    side = int(np.hypot(h, w)) + 2
    turn = cv2.getRotationMatrix2D((w / 2, h / 2), degrees, 1.0)
    turn[:, 2] += np.array([(side - w) / 2, (side - h) / 2])
    page = cv2.warpAffine(picture, turn, (side, side))
    seen = page[..., 3] > 40
    rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
    return np.asarray(page[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1])
