"""Cut paper from parameters: pieces with a fill, drawn as SVG with torn edges and soft shadows, or inked and shaded."""

from __future__ import annotations

import io
from dataclasses import dataclass, replace
from math import cos, radians, sin
from typing import Literal

import numpy as np
import resvg_py
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
<filter id="torn" x="-8%" y="-8%" width="116%" height="116%" color-interpolation-filters="sRGB">
 <feTurbulence type="fractalNoise" baseFrequency="0.022" numOctaves="2" seed="{seed}" result="n"/>
 <feDisplacementMap in="SourceGraphic" in2="n" scale="{tear}" xChannelSelector="R" yChannelSelector="G" result="cut"/>
 <feDropShadow in="cut" dx="{dx}" dy="{dy}" stdDeviation="{soft}" flood-color="#0c1418" flood-opacity="0.38"/>
</filter>
<filter id="slip" x="-10%" y="-10%" width="120%" height="120%" color-interpolation-filters="sRGB">
 <feDropShadow dx="{sdx}" dy="{sdy}" stdDeviation="{ssoft}" flood-color="#0c1418" flood-opacity="0.3"/>
</filter>
<linearGradient id="shade" x1="0" y1="0" x2="1" y2="0.35">
 <stop offset="0" stop-color="#fff" stop-opacity="0.42"/><stop offset="0.45" stop-color="#fff" stop-opacity="0"/>
 <stop offset="0.55" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.5"/>
</linearGradient>
<pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(38)">
 <line x1="0" y1="0" x2="0" y2="7" stroke="#14110f" stroke-width="1.5" stroke-opacity="0.5"/></pattern>
"""


def svg(
    ground: tuple[Piece, ...], figures: tuple[Placed, ...], width: int, height: int, seed: int = 1, hand: Hand = "paper"
) -> str:
    """The page as SVG text: ground pieces in page units, then the figures in order."""
    unit = height / 800
    defs = _DEFS.format(
        seed=seed,
        tear=f"{5 * unit:.1f}",
        dx=f"{2 * unit:.1f}",
        dy=f"{4 * unit:.1f}",
        soft=f"{5 * unit:.1f}",
        sdx=f"{1.5 * unit:.1f}",
        sdy=f"{2.5 * unit:.1f}",
        ssoft=f"{2.5 * unit:.1f}",
    )
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="0 0 {width} {height}">',
        f"<defs>{defs}</defs>",
        *(_drawn(piece, hand, "torn") for piece in ground),
    ]
    for figure in figures:
        flip = f" translate({figure.size[0]},0) scale(-1,1)" if figure.mirrored else ""
        cx, cy = figure.size[0] / 2, figure.size[1]
        move = f"translate({figure.x:.1f},{figure.y:.1f}) scale({figure.scale:.3f}) rotate({figure.turn},{cx},{cy})"
        parts.append(f'<g transform="{move}{flip}">')
        parts += [_drawn(piece, hand, "slip") for piece in figure.pieces]
        parts.append("</g>")
    return "".join([*parts, "</svg>"])


def _drawn(piece: Piece, hand: Hand, filter_id: str) -> str:
    if piece.width:
        look = f'fill="none" stroke="{piece.fill}" stroke-width="{piece.width}" stroke-linecap="round" stroke-linejoin="round"'
        return f'<path d="{piece.d}" {look}/>'
    if hand == "paper":
        lifted = f' filter="url(#{filter_id})"' if piece.lift else ""
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
