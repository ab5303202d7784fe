"""Cut paper from parameters: pieces with a fill, drawn as SVG with torn edges and soft shadows, or inked and shaded."""

from __future__ import annotations

import io
from dataclasses import dataclass, replace
from functools import lru_cache
from math import comb, cos, radians, sin
from typing import Literal

import numpy as np
import resvg_py
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.colour.spaces import linear_from_srgb8, srgb_from_linear

Point = tuple[float, float]
Hand = Literal["paper", "inked"]


@dataclass(frozen=True)
class Piece:
    """One shape: SVG path data and its fill; `width` above 0 makes it a stroke; `lift` is how far its shadow falls."""

    d: str
    fill: str
    width: float = 0.0
    lift: float = 1.0


@dataclass(frozen=True)
class Placed:
    """Pieces of a figure, moved to (x, y), scaled, turned and perhaps mirrored; drawn in a box of `size` units."""

    pieces: tuple[Piece, ...]
    x: float
    y: float
    scale: float = 1.0
    mirrored: bool = False
    turn: float = 0.0
    size: Point = (200.0, 400.0)

    def box(self) -> tuple[float, float, float, float]:
        """Left, top, width and height on the page, the turn left out."""
        return (self.x, self.y, self.size[0] * self.scale, self.size[1] * self.scale)


def ellipse(cx: float, cy: float, rx: float, ry: float | None = None) -> str:
    ry = rx if ry is None else ry
    return f"M{cx - rx:.1f},{cy:.1f}a{rx:.1f},{ry:.1f} 0 1 0 {2 * rx:.1f},0a{rx:.1f},{ry:.1f} 0 1 0 {-2 * rx:.1f},0Z"


def polygon(*points: Point) -> str:
    return "M" + "L".join(f"{x:.1f},{y:.1f}" for x, y in points) + "Z"


def box(x: float, y: float, w: float, h: float) -> str:
    return polygon((x, y), (x + w, y), (x + w, y + h), (x, y + h))


def line(*points: Point) -> str:
    return "M" + "L".join(f"{x:.1f},{y:.1f}" for x, y in points)


def blob(*points: Point, closed: bool = True) -> str:
    """A smooth curve through the points (Catmull-Rom as cubic Béziers)."""
    n = len(points)
    parts = [f"M{points[0][0]:.1f},{points[0][1]:.1f}"]
    for i in range(n if closed else n - 1):
        before = points[i - 1] if closed or i > 0 else points[i]
        a, b = points[i], points[(i + 1) % n]
        after = points[(i + 2) % n] if closed or i + 2 < n else b
        c1 = (a[0] + (b[0] - before[0]) / 6, a[1] + (b[1] - before[1]) / 6)
        c2 = (b[0] - (after[0] - a[0]) / 6, b[1] - (after[1] - a[1]) / 6)
        parts.append(f"C{c1[0]:.1f},{c1[1]:.1f} {c2[0]:.1f},{c2[1]:.1f} {b[0]:.1f},{b[1]:.1f}")
    return "".join(parts) + ("Z" if closed else "")


def limb(x: float, y: float, length: float, angle: float, wide: float, narrow: float) -> tuple[str, Point]:
    """A tapered limb from (x, y), `angle` degrees from straight down; returns its path and its far end."""
    dx, dy = sin(radians(angle)), cos(radians(angle))
    end = (x + dx * length, y + dy * length)
    nx, ny = dy, -dx
    d = polygon(
        (x + nx * wide, y + ny * wide),
        (end[0] + nx * narrow, end[1] + ny * narrow),
        (end[0] - nx * narrow, end[1] - ny * narrow),
        (x - nx * wide, y - ny * wide),
    )
    return d, end


def recoloured(pieces: tuple[Piece, ...], swaps: dict[str, str]) -> tuple[Piece, ...]:
    """The pieces with some fills exchanged for others."""
    return tuple(replace(p, fill=swaps.get(p.fill, p.fill)) for p in pieces)


_DEFS = """
<filter id="slip" x="-10%" y="-10%" width="120%" height="120%" color-interpolation-filters="sRGB">
 <feDropShadow dx="{dx}" dy="{dy}" stdDeviation="{soft}" flood-color="#0c1418" flood-opacity="0.3"/>
</filter>
<linearGradient id="shade" x1="0" y1="0" x2="1" y2="0.35">
 <stop offset="0" stop-color="#fff" stop-opacity="0.42"/><stop offset="0.45" stop-color="#fff" stop-opacity="0"/>
 <stop offset="0.55" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.5"/>
</linearGradient>
<pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(38)">
 <line x1="0" y1="0" x2="0" y2="7" stroke="#14110f" stroke-width="1.5" stroke-opacity="0.5"/></pattern>
"""
REACH = 4.0
"""How far a torn edge strays, in page units of a page 800 high."""
STEP = 4.0
"""How far apart the points of a torn edge are, in page units."""
WAVES = 12
"""Of so many plane waves is the tear of a page made."""


def _outline(d: str) -> list[NDArray[np.float64]]:
    """The parts of a path, of lines and Bézier curves, as points (n, 2), about `STEP` apart."""
    pen, parts = RecordingPen(), list[list[NDArray[np.float64]]]()
    parse_path(d, pen)
    for verb, given in pen.value:
        if verb == "moveTo":
            parts.append([np.array(given)])
            continue
        part = parts[-1]
        hull = np.array([part[-1][-1], *(given or part[0][:1])])
        steps = max(1, round(float(np.hypot(*np.diff(hull, axis=0).T).sum()) / STEP))
        t, degree = np.arange(1, steps + 1) / steps, len(hull) - 1
        weights = [comb(degree, k) * t**k * (1 - t) ** (degree - k) for k in range(degree + 1)]
        part.append(np.stack(weights, axis=1) @ hull)
    return [np.concatenate(part) for part in parts]


@lru_cache(maxsize=512)
def torn(d: str, seed: int, reach: float) -> str:
    """A path whose edge is torn: each of its points moved by up to about `reach`, as its place on the page of that seed has it."""
    rng = np.random.default_rng(seed)
    angle, phase = rng.uniform(0, 2 * np.pi, WAVES), rng.uniform(0, 2 * np.pi, (2, WAVES))
    number = 2 * np.pi / np.geomspace(5 * STEP, 90.0, WAVES) * np.stack([np.cos(angle), np.sin(angle)])
    size = reach * np.geomspace(0.25, 1.0, WAVES) / np.sqrt(WAVES)
    drawn = []
    for points in _outline(d):
        along = points @ number
        moved = points + np.stack([(size * np.sin(along + p)).sum(axis=1) for p in phase], axis=1)
        drawn.append("M" + "L".join(f"{x:.1f},{y:.1f}" for x, y in moved) + "Z")
    return "".join(drawn)


def svg(
    ground: tuple[Piece, ...], figures: tuple[Placed, ...], width: int, height: int, seed: int = 1, hand: Hand = "paper"
) -> str:
    """The page as SVG text: ground pieces in page units, then the figures in order."""
    unit = height / 800
    defs = _DEFS.format(dx=f"{1.5 * unit:.1f}", dy=f"{2.5 * unit:.1f}", soft=f"{2.5 * unit:.1f}")
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="0 0 {width} {height}">',
        f"<defs>{defs}</defs>",
        *(_laid(piece, seed, unit) if hand == "paper" and piece.lift else _drawn(piece, hand) for piece in ground),
    ]
    for figure in figures:
        flip = f" translate({figure.size[0]},0) scale(-1,1)" if figure.mirrored else ""
        cx, cy = figure.size[0] / 2, figure.size[1]
        move = f"translate({figure.x:.1f},{figure.y:.1f}) scale({figure.scale:.3f}) rotate({figure.turn},{cx},{cy})"
        parts.append(f'<g transform="{move}{flip}">')
        parts += [_drawn(piece, hand) for piece in figure.pieces]
        parts.append("</g>")
    return "".join([*parts, "</svg>"])


def _laid(piece: Piece, seed: int, unit: float) -> str:
    """A piece of the ground with its edge torn, over its shadow: strokes of several widths, as a blur of a whole page takes long."""
    if piece.width:
        return _drawn(piece, "paper")
    d = torn(piece.d, seed, REACH * unit)
    shadow = "".join(f'<path d="{d}" stroke-width="{wide * unit:.1f}"/>' for wide in (2, 5, 8, 12, 16))
    return (
        f'<g fill="none" stroke="#0c1418" stroke-opacity="0.04" transform="translate({unit:.1f},{3 * unit:.1f})">{shadow}</g>'
        f'<path d="{d}" fill="{piece.fill}"/>'
    )


def _drawn(piece: Piece, hand: Hand) -> str:
    if piece.width:
        look = f'fill="none" stroke="{piece.fill}" stroke-width="{piece.width}" stroke-linecap="round" stroke-linejoin="round"'
        return f'<path d="{piece.d}" {look}/>'
    if hand == "paper":
        lifted = ' filter="url(#slip)"' if piece.lift else ""
        return f'<path d="{piece.d}" fill="{piece.fill}"{lifted}/>'
    flat = f'<path d="{piece.d}" fill="{piece.fill}"/>'
    if not piece.lift:
        return flat
    return (
        flat
        + f'<path d="{piece.d}" fill="url(#shade)"/><path d="{piece.d}" fill="url(#hatch)" opacity="0.55"/>'
        + f'<path d="{piece.d}" fill="none" stroke="#14110f" stroke-width="4.5" stroke-linejoin="round"/>'
    )


def rendered(text: str) -> NDArray[np.uint8]:
    """An SVG page as sRGB pixels (h, w, 3) on white."""
    png = bytes(resvg_py.svg_to_bytes(svg_string=text, background="#ffffff"))
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGB"))


def lit(pixels: NDArray[np.uint8], gain: tuple[float, float, float]) -> NDArray[np.uint8]:
    """The picture under a coloured light: gains of red, green and blue in linear light."""
    codes = linear_from_srgb8(np.arange(256, dtype=np.uint8))[:, None] * np.array(gain)
    becomes = np.rint(srgb_from_linear(codes) * 255).astype(np.uint8)
    return np.stack([becomes[pixels[..., c], c] for c in range(3)], axis=-1)


def greyed(pixels: NDArray[np.uint8], amount: float) -> NDArray[np.uint8]:
    """The picture slid towards grey: `amount` 0..1 of its colour, and half as much of its contrast, taken away."""
    values = pixels.astype(np.float64)
    grey = values @ np.array([0.299, 0.587, 0.114])
    values = values + amount * (grey[..., None] - values)
    paler: NDArray[np.uint8] = np.rint(values + 0.5 * amount * (128 - values)).clip(0, 255).astype(np.uint8)
    return paler


def bordered(pixels: NDArray[np.uint8], part: float, code: str) -> NDArray[np.uint8]:
    """The picture inside a printed border as wide as `part` of its shorter side."""
    h, w = pixels.shape[:2]
    t = round(min(h, w) * part)
    page = np.empty_like(pixels)
    page[:] = [int(code[i : i + 2], 16) for i in (1, 3, 5)]
    inner = Image.fromarray(pixels).resize((w - 2 * t, h - 2 * t), Image.Resampling.LANCZOS)
    page[t : h - t, t : w - t] = np.asarray(inner)
    return page
