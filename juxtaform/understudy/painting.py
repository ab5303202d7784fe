"""What the Understudy paints: figures cut from the plain ground of their references, put into a setting's picture, brought into a style.

It draws nothing that it was not sent. The same words, pictures and seed give the same picture; a draft is the same composition, small and rough.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
Plane = NDArray[np.float32]
Role = Literal["character", "prop", "setting", "style", "layout"]

GROUND_APART = 14.0
"""Distance in 8-bit RGB steps from the ground's colour, beyond which a pixel is the figure's."""
PLAIN_SPREAD = 26.0
"""A rim that spreads less than this (90 % of its pixels) is plain ground."""
LEAST_FIGURE = 0.01
"""A figure with less than this part of its picture could not be cut out."""
GROUND_PULL, FIGURE_PULL = 0.45, 0.12
"""How far the colours of a ground, and of a figure, are moved to the style's means and spreads: a figure keeps its own."""
RIM = 0.015
"""The rim of a figure where a soft shadow of its reference is looked for, as a part of its height."""
DARKEST_SHADOW = 0.55
"""A soft shadow leaves at least this part of the ground's light."""
PAINTS = 6
"""The main colours that a figure is parted into."""
OBEYED_WEIGHT, WANDERS = 0.75, 90.0
"""From this weight on a reference holds as it is; below it each paint wanders by so many CIELAB steps for each whole weight that is missing."""
GRAIN_SIDE = 512
"""The longer side in px at which a style's grain is read."""


@dataclass(frozen=True)
class Sent:
    """A picture that was sent (h, w, 3) with what it is for; `weight` says how strongly it is to hold, 0..1, and `tall` how tall its figure is
    beside a grown one."""

    pixels: Pixels
    role: Role
    name: str = ""
    weight: float = 1.0
    tall: float | None = None

    @property
    def height(self) -> float:
        """How tall the figure is beside a grown one; a thing that nobody said it of is small."""
        return self.tall if self.tall is not None else 1.0 if self.role == "character" else 0.35


@dataclass(frozen=True)
class Place:
    """Where a figure stands, as parts of the picture: the middle of its feet, and its height."""

    x: float
    feet: float
    height: float
    mirrored: bool = False


@dataclass(frozen=True)
class Cut:
    """A figure without its ground: colours (h, w, 3) and how much of each pixel is the figure's (h, w), 0..1."""

    colours: Plane
    cover: Plane


@dataclass(frozen=True)
class Figure:
    """A figure that was cut out, whose it is, and where it is put."""

    name: str
    cut: Cut
    place: Place


@dataclass(frozen=True)
class Scene:
    """What is to be painted: figures from back to front on a ground, and the style's picture; independent of any size."""

    ground: Pixels | None
    figures: tuple[Figure, ...]
    style: Pixels | None
    seed: int
    paper: tuple[int, int, int] = (196, 190, 180)


def staged(sent: Sequence[Sent], seed: int, figure_height: float = 0.55) -> Scene:
    """A scene of what was sent. Each name stands once, by its heaviest picture; figures stand where the layout guide has strokes, else side
    by side. `figure_height` is the part of the picture's height that a figure takes, by the framing asked for. Pictures whose figure
    cannot be cut out are left out."""
    rng = np.random.default_rng(seed)
    best: dict[str, Sent] = {}
    for picture in sent:
        if picture.role in ("character", "prop"):
            held = best.get(picture.name)
            if held is None or picture.weight > held.weight:
                best[picture.name] = picture
    cuts = [
        (p, wandered(made, p.weight, np.random.default_rng([seed, 5, i])))
        for i, p in enumerate(best.values())
        if (made := cut_out(p.pixels)) is not None
    ]
    guide = next((p.pixels for p in sent if p.role == "layout"), None)
    places = _places(guide, [(p.role, p.height) for p, _ in cuts], figure_height, rng)
    figures = tuple(Figure(p.name, made, place) for (p, made), place in zip(cuts, places, strict=True))
    grounds = [p for p in sent if p.role == "setting"]
    styles = [p for p in sent if p.role == "style"]
    return Scene(
        ground=max(grounds, key=lambda p: p.weight).pixels if grounds else None,
        figures=tuple(sorted(figures, key=lambda f: f.place.feet)),
        style=max(styles, key=lambda p: p.weight).pixels if styles else None,
        seed=seed,
    )


def painted(scene: Scene, width: int, height: int, *, rough: bool = False) -> Pixels:
    """The scene at a size (height, width, 3). A rough one is painted at half of it and made large again. Raises ValueError for a size
    that is none."""
    if width < 8 or height < 8:
        raise ValueError(f"a picture of {width} x {height} px is none")
    if rough:
        small = _painted(scene, max(8, width // 2), max(8, height // 2))
        return np.asarray(cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC))
    return _painted(scene, width, height)


def _painted(scene: Scene, width: int, height: int) -> Pixels:
    canvas = _ground(scene, width, height)
    if scene.style is not None:
        canvas = _in_style(canvas, scene.style, GROUND_PULL)
    for figure in scene.figures:
        _put(canvas, figure.cut, figure.place)
    if scene.style is not None:
        canvas = _in_style(canvas, scene.style, FIGURE_PULL)
        canvas += _grain(scene.style, width, height, scene.seed)
    return np.clip(np.rint(canvas), 0, 255).astype(np.uint8)


def cut_out(pixels: Pixels) -> Cut | None:
    """The figure on plain ground; None where the ground is not plain, or nothing stands on it."""
    height, width = pixels.shape[:2]
    edge = max(1, min(height, width) // 40)
    rim = np.concatenate(
        [pixels[:edge].reshape(-1, 3), pixels[:, :edge].reshape(-1, 3), pixels[:, -edge:].reshape(-1, 3)]
    ).astype(np.float32)
    ground = np.median(rim, axis=0)
    if np.percentile(np.linalg.norm(rim - ground, axis=1), 90) > PLAIN_SPREAD:
        return None
    apart = np.linalg.norm(pixels.astype(np.float32) - ground, axis=2)
    solid = _filled(apart > GROUND_APART)
    if solid.mean() < LEAST_FIGURE:
        return None
    ys, xs = np.flatnonzero(solid.any(axis=1)), np.flatnonzero(solid.any(axis=0))
    box = np.s_[ys[0] : ys[-1] + 1, xs[0] : xs[-1] + 1]
    cover = cv2.GaussianBlur(solid.astype(np.float32), (0, 0), 0.8)
    reach = max(2, round(RIM * (ys[-1] - ys[0])))
    core = cv2.erode(solid.astype(np.uint8), np.ones((2 * reach + 1, 2 * reach + 1), np.uint8)) > 0
    rim_cover = np.where(core, 1.0, np.clip(_unlike_shadow(pixels, ground) / GROUND_APART, 0, 1))
    return Cut(pixels[box].astype(np.float32), np.asarray((cover * rim_cover)[box], dtype=np.float32))


def _unlike_shadow(pixels: Pixels, ground: NDArray[np.floating]) -> Plane:
    """How far each pixel's colour (h, w) is from the ground's colour as a soft shadow darkens it, in 8-bit RGB steps."""
    light = (pixels.astype(np.float32) @ ground) / max(1.0, float(ground @ ground))
    shaded = np.clip(light, DARKEST_SHADOW, 1.0)[..., None] * ground
    return np.asarray(np.linalg.norm(pixels - shaded, axis=2), dtype=np.float32)


def _filled(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """A mask with its holes closed: what the ground at the rim does not reach is the figure's."""
    h, w = mask.shape
    outside = np.zeros((h + 4, w + 4), np.uint8)
    outside[1:-1, 1:-1] = 1
    outside[2:-2, 2:-2] = (~mask).astype(np.uint8)
    flood = np.zeros((h + 6, w + 6), np.uint8)
    cv2.floodFill(outside, flood, (1, 1), 2)
    return np.asarray(outside[2:-2, 2:-2] != 2)


def all_of(cut: Cut) -> NDArray[np.bool_]:
    """Where a figure is (h, w)."""
    return np.asarray(cut.cover > 0.5)


def paints_of(cut: Cut) -> tuple[NDArray[np.bool_], NDArray[np.int32]]:
    """Where the figure is (h, w), and which of its main colours each of its pixels has; -1 outside."""
    inside = all_of(cut)
    labels = np.full(inside.shape, -1, dtype=np.int32)
    colours = cut.colours[inside]
    if len(colours) < 50:
        return inside, labels
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 12, 1.0)
    cv2.setRNGSeed(7)
    _, nearest, _ = cv2.kmeans(colours, PAINTS, None, stop, 2, cv2.KMEANS_PP_CENTERS)  # type: ignore[call-overload]
    labels[inside] = nearest.ravel()
    return inside, labels


def wandered(cut: Cut, weight: float, rng: np.random.Generator) -> Cut:
    """A figure as it comes out where its reference holds little: each of its paints wanders off, the farther the less the weight (0..1), and its build
    a little; from the obeyed weight on it is the reference's own."""
    far = max(0.0, OBEYED_WEIGHT - weight)
    if far == 0.0:
        return cut
    _, labels = paints_of(cut)
    lab = cv2.cvtColor((np.clip(cut.colours, 0, 255) / 255).astype(np.float32), cv2.COLOR_RGB2Lab)
    for paint in range(PAINTS):
        way = rng.normal(0, 1, 3)
        lab[labels == paint] += (way / max(0.3, float(np.linalg.norm(way))) * WANDERS * far).astype(np.float32)
    colours = np.asarray(np.clip(cv2.cvtColor(lab, cv2.COLOR_Lab2RGB), 0, 1) * 255, dtype=np.float32)
    stretched = 1 + float(rng.uniform(-1, 1)) * 0.5 * far
    size = (max(3, round(cut.cover.shape[1] * stretched)), cut.cover.shape[0])
    return Cut(
        np.asarray(cv2.resize(colours, size, interpolation=cv2.INTER_LINEAR), dtype=np.float32),
        np.asarray(cv2.resize(cut.cover, size, interpolation=cv2.INTER_LINEAR), dtype=np.float32),
    )


def _places(
    guide: Pixels | None, figures: Sequence[tuple[Role, float]], figure_height: float, rng: np.random.Generator
) -> list[Place]:
    """Where figures stand: in the guide's strokes from left to right, the largest first taken; the rest side by side."""
    drawn = _strokes(guide) if guide is not None else []
    places: list[Place] = []
    spare = sum(role == "character" for role, _ in figures) or len(figures)
    middles = [(i + 1) / (spare + 1) for i in range(spare)]
    rng.shuffle(middles)
    for role, height in figures:
        if role == "character" and drawn:
            places.append(drawn.pop(0))
            continue
        tall = figure_height * height * float(rng.uniform(0.94, 1.06))
        x = middles.pop() if middles else freest([p.x for p in places], rng)
        x += float(rng.uniform(-0.03, 0.03))
        places.append(Place(x, min(1.25, 0.9 + max(0.0, tall - 0.8)), tall, mirrored=bool(rng.random() < 0.3)))
    return places


def freest(taken: Sequence[float], rng: np.random.Generator) -> float:
    """Of some places across a picture the one with most room to those that are taken."""
    offered = rng.uniform(0.12, 0.88, 12)
    return float(max(offered, key=lambda x: min((abs(x - t) for t in taken), default=1.0)))


def _strokes(guide: Pixels) -> list[Place]:
    """The upright drawn things of a layout guide, the largest first."""
    grey = cv2.cvtColor(guide, cv2.COLOR_RGB2GRAY)
    ink = (grey < np.median(grey) * 0.6).astype(np.uint8)
    height, width = ink.shape
    edge = max(1, min(height, width) // 20)
    ink[:edge] = ink[-edge:] = ink[:, :edge] = ink[:, -edge:] = 0  # a frame drawn round the picture is no figure
    joined = cv2.dilate(ink, np.ones((max(3, height // 40), max(3, width // 60)), np.uint8))
    count, _, stats, _ = cv2.connectedComponentsWithStats(joined)
    found = []
    for i in range(1, count):
        x, y, w, h, _ = (int(v) for v in stats[i])
        if h > 0.15 * height and h > 1.1 * w:
            found.append((h, Place((x + w / 2) / width, (y + h) / height, h / height)))
    return [place for _, place in sorted(found, key=lambda f: -f[0])]


def _ground(scene: Scene, width: int, height: int) -> Plane:
    """The setting's picture made to cover the size, or plain paper that grows darker downwards."""
    if scene.ground is None:
        fall = np.linspace(1.05, 0.85, height, dtype=np.float32)[:, None, None]
        return np.asarray(np.full((height, width, 3), scene.paper, dtype=np.float32) * fall)
    own_h, own_w = scene.ground.shape[:2]
    scale = max(width / own_w, height / own_h)
    size = (max(width, round(own_w * scale)), max(height, round(own_h * scale)))
    kind = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
    whole = cv2.resize(scene.ground, size, interpolation=kind).astype(np.float32)
    y, x = (whole.shape[0] - height) // 2, (whole.shape[1] - width) // 2
    return np.ascontiguousarray(whole[y : y + height, x : x + width])


def _put(canvas: Plane, cut: Cut, place: Place) -> None:
    """Lay a figure over the canvas, with a soft shadow at its feet."""
    height, width = canvas.shape[:2]
    tall = max(4, round(place.height * height))
    wide = max(3, round(tall * cut.cover.shape[1] / cut.cover.shape[0]))
    kind = cv2.INTER_AREA if tall < cut.cover.shape[0] else cv2.INTER_CUBIC
    colours = cv2.resize(cut.colours, (wide, tall), interpolation=kind)
    cover = np.clip(cv2.resize(cut.cover, (wide, tall), interpolation=kind), 0, 1)
    if place.mirrored:
        colours, cover = colours[:, ::-1], cover[:, ::-1]
    left, top = round(place.x * width - wide / 2), round(place.feet * height) - tall
    _shadow(canvas, left + wide / 2, top + tall, wide)
    a, b = max(0, left), min(width, left + wide)
    c, d = max(0, top), min(height, top + tall)
    if a >= b or c >= d:
        return
    part = np.s_[c - top : d - top, a - left : b - left]
    share = cover[part][..., None]
    canvas[c:d, a:b] = canvas[c:d, a:b] * (1 - share) + colours[part] * share


def _shadow(canvas: Plane, x: float, y: float, wide: int) -> None:
    height, width = canvas.shape[:2]
    rows, columns = np.ogrid[:height, :width]
    away = ((columns - x) / max(1.0, 0.55 * wide)) ** 2 + ((rows - y) / max(1.0, 0.1 * wide)) ** 2
    canvas *= (1 - 0.35 * np.exp(-away)).astype(np.float32)[..., None]


def _in_style(canvas: Plane, style: Pixels, far: float) -> Plane:
    """Colours moved towards the style's: their means and spreads in a lightness and two opponent channels (after E. Reinhard et al.,
    Color transfer between images, 2001)."""
    own, theirs = (cv2.cvtColor((x / 255).astype(np.float32), cv2.COLOR_RGB2Lab) for x in (canvas, style))
    mean, spread = own.mean((0, 1)), own.std((0, 1)) + 1e-3
    wanted_mean, wanted_spread = theirs.mean((0, 1)), theirs.std((0, 1)) + 1e-3
    moved = (own - mean) * np.clip(wanted_spread / spread, 0.5, 2.0) + wanted_mean
    pull = np.array([0.3, 1.0, 1.0], dtype=np.float32) * far
    mixed = (own * (1 - pull) + moved * pull).astype(np.float32)
    return np.asarray(np.clip(cv2.cvtColor(mixed, cv2.COLOR_Lab2RGB), 0, 1) * 255, dtype=np.float32)


def _grain(style: Pixels, width: int, height: int, seed: int) -> Plane:
    """Noise as strong as the style's own: what a small blur takes out of it, by the middle."""
    scale = GRAIN_SIDE / max(style.shape[:2])
    small = cv2.resize(style, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA).astype(np.float32)
    strength = float(np.median(np.abs(small - cv2.GaussianBlur(small, (0, 0), 1.2)))) * 1.48
    noise = np.random.default_rng([seed, 1]).normal(0, 1, (height, width, 1)).astype(np.float32)
    return np.asarray(noise * min(6.0, strength), dtype=np.float32)
