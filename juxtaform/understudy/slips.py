"""What goes wrong in the Understudy's pictures now and then, by seed, as it does with a real service."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.understudy.painting import PAINTS, Cut, Figure, Pixels, Scene, all_of, freest, paints_of
from juxtaform.understudy.protocol import Wanted

SlipKind = Literal[
    "recoloured", "missing", "twice", "somebody_else", "border", "lettering", "another_hand", "soft", "drift"
]
Trouble = Literal["", "refused", "failed", "slow", "broken", "busy"]
"""What goes wrong with a job: it is refused, fails, takes long, hands over something broken, or is to be asked again."""
TROUBLES: tuple[Trouble, ...] = ("refused", "failed", "slow", "broken", "busy")
OF_FIGURES: tuple[SlipKind, ...] = ("recoloured", "missing", "twice", "somebody_else")
OF_PICTURES: tuple[SlipKind, ...] = ("border", "lettering", "another_hand", "soft")
PART_LEAST, PART_MOST = 0.06, 0.5
"""The part of a figure that a recoloured piece takes."""
SMALL_LEAST, SMALL_MOST = 0.006, 0.09
"""The part of a figure that a missing piece takes."""
DRIFT_STEP = 0.14
"""How much of its colour a picture loses with each generation of a lineage that drifts."""


@dataclass(frozen=True)
class Slip:
    """One thing that went wrong: its kind, and the figure that it is about."""

    kind: SlipKind
    name: str = ""


def trouble_of(key: str, often: float) -> Trouble:
    """What goes wrong with the job of a key, with the chance `often` (0..1)."""
    rng = np.random.default_rng(list(hashlib.sha256(key.encode()).digest()[:8]))
    return TROUBLES[int(rng.integers(len(TROUBLES)))] if rng.random() < often else ""


def drifts(wanted: Wanted, often: float) -> bool:
    """Whether a lineage drifts, with the chance `often` (0..1): by what the picture is of, so that all of a lineage do, or none."""
    names = sorted(p.name for p in wanted.pictures if p.role in ("character", "setting"))
    rng = np.random.default_rng(list(hashlib.sha256("/".join(names).encode()).digest()[:8]))
    return bool(rng.random() < often)


def chosen(scene: Scene, often: float) -> tuple[Slip, ...]:
    """What goes wrong in a scene by its seed: with the chance `often` (0..1) one thing, and now and then a second."""
    rng = np.random.default_rng([scene.seed, 2])
    slips: list[Slip] = []
    while rng.random() < often and len(slips) < 2:
        kinds = [k for k in (*OF_FIGURES, *OF_PICTURES) if scene.figures or k in OF_PICTURES]
        kind = kinds[int(rng.integers(len(kinds)))]
        name = scene.figures[int(rng.integers(len(scene.figures)))].name if kind in OF_FIGURES else ""
        slips.append(Slip(kind, name))
        often *= 0.3
    return tuple(slips)


def staged_wrong(scene: Scene, slips: Sequence[Slip]) -> tuple[Scene, tuple[Slip, ...]]:
    """The scene with what went wrong in its figures; and the slips that came about: a figure without a small piece loses none."""
    done: list[Slip] = []
    for i, slip in enumerate(slips):
        rng = np.random.default_rng([scene.seed, 3, i])
        at = next((k for k, f in enumerate(scene.figures) if f.name == slip.name), None)
        if slip.kind not in OF_FIGURES or at is None:
            done += [slip] if slip.kind in OF_PICTURES else []
            continue
        figures = list(scene.figures)
        changed = _wrong(figures[at], scene, slip.kind, rng)
        if changed is None:
            continue
        figures[at : at + 1] = changed
        scene = replace(scene, figures=tuple(figures))
        done.append(slip)
    return scene, tuple(done)


def marred(picture: Pixels, slips: Sequence[Slip], seed: int, generation: int = 0) -> Pixels:
    """A painted picture (h, w, 3) with what went wrong in it as a whole; `generation` counts how often a lineage that drifts was remade."""
    for i, slip in enumerate(slips):
        rng = np.random.default_rng([seed, 4, i])
        if slip.kind == "border":
            picture = _bordered(picture, rng)
        elif slip.kind == "lettering":
            picture = _lettered(picture, rng)
        elif slip.kind == "another_hand":
            picture = _inked(picture)
        elif slip.kind == "soft":
            picture = np.asarray(cv2.GaussianBlur(picture, (0, 0), 0.006 * picture.shape[1]))
        elif slip.kind == "drift":
            grey = picture.mean(axis=2, keepdims=True)
            share = min(0.9, DRIFT_STEP * max(1, generation))
            picture = np.rint(picture * (1 - share) + grey * share).astype(np.uint8)
    return picture


def _wrong(figure: Figure, scene: Scene, kind: SlipKind, rng: np.random.Generator) -> list[Figure] | None:
    if kind == "twice":
        x = freest([f.place.x for f in scene.figures], rng)
        return [figure, replace(figure, place=replace(figure.place, x=x, mirrored=not figure.place.mirrored))]
    if kind == "somebody_else":
        others = [f for f in scene.figures if f.name != figure.name]
        cut = others[int(rng.integers(len(others)))].cut if others else _turned(figure.cut, all_of(figure.cut), 0.5)
        return [replace(figure, cut=cut)]
    piece = _paint(figure.cut, rng) if kind == "recoloured" else _small_piece(figure.cut, rng)
    if piece is None:
        return None
    if kind == "recoloured":
        return [replace(figure, cut=_turned(figure.cut, piece, float(rng.uniform(0.3, 0.7))))]
    grown = cv2.dilate(piece.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    hidden = (grown | ~all_of(figure.cut)).astype(np.uint8)  # filled from the figure alone: its ground is no part of it
    filled = cv2.inpaint(figure.cut.colours.astype(np.uint8), hidden, 3, cv2.INPAINT_TELEA)
    filled = np.where(grown[..., None], filled, figure.cut.colours)
    return [replace(figure, cut=Cut(filled.astype(np.float32), figure.cut.cover))]


def _paint(cut: Cut, rng: np.random.Generator) -> NDArray[np.bool_] | None:
    """All that a figure has of one paint, neither a speck nor most of it; None where there is no such paint."""
    inside, labels = paints_of(cut)
    found = [where for k in range(PAINTS) if PART_LEAST <= (where := labels == k).sum() / inside.sum() <= PART_MOST]
    return found[int(rng.integers(len(found)))] if found else None


def _small_piece(cut: Cut, rng: np.random.Generator) -> NDArray[np.bool_] | None:
    """One small connected piece of one paint of a figure, of the three largest; None where there is none."""
    inside, labels = paints_of(cut)
    found: list[tuple[float, NDArray[np.bool_]]] = []
    for paint in range(PAINTS):
        count, pieces, stats, _ = cv2.connectedComponentsWithStats((labels == paint).astype(np.uint8))
        shares = [(i, float(stats[i, cv2.CC_STAT_AREA] / inside.sum())) for i in range(1, count)]
        found += [(share, np.asarray(pieces == i)) for i, share in shares if SMALL_LEAST <= share <= SMALL_MOST]
    found.sort(key=lambda f: -f[0])
    return found[int(rng.integers(min(3, len(found))))][1] if found else None


def _turned(cut: Cut, where: NDArray[np.bool_], turn: float) -> Cut:
    """The figure with the hue of some of its pixels turned by a part of the circle; grey ones get a colour."""
    hsv = cv2.cvtColor((np.clip(cut.colours, 0, 255) / 255).astype(np.float32), cv2.COLOR_RGB2HSV)
    hsv[..., 0] = np.where(where, (hsv[..., 0] + 360 * turn) % 360, hsv[..., 0])
    hsv[..., 1] = np.where(where & (hsv[..., 1] < 0.25), 0.55, hsv[..., 1])
    return Cut(np.asarray(cv2.cvtColor(hsv, cv2.COLOR_HSV2RGB) * 255, dtype=np.float32), cut.cover)


def _bordered(picture: Pixels, rng: np.random.Generator) -> Pixels:
    out = picture.copy()
    wide = round(float(rng.uniform(0.03, 0.07)) * min(picture.shape[:2]))
    tone = (245, 240, 228) if rng.random() < 0.6 else (12, 12, 14)
    out[:wide] = out[-wide:] = out[:, :wide] = out[:, -wide:] = tone
    return out


def _lettered(picture: Pixels, rng: np.random.Generator) -> Pixels:
    height, width = picture.shape[:2]
    letters = "".join(rng.choice(list("ABEHKLNORSTUW"), int(rng.integers(4, 9))))
    at = (round(float(rng.uniform(0.05, 0.5)) * width), round(float(rng.uniform(0.15, 0.9)) * height))
    out = np.ascontiguousarray(picture)
    tone = (250, 248, 240) if out.mean() < 128 else (20, 18, 24)
    cv2.putText(out, letters, at, cv2.FONT_HERSHEY_DUPLEX, height / 260, tone, max(1, height // 160), cv2.LINE_AA)
    return out


def _inked(picture: Pixels) -> Pixels:
    """The picture by another hand: few tones, and dark lines round everything."""
    smooth = cv2.bilateralFilter(picture, 7, 60, 7)
    tones = (np.rint(smooth / 51.0) * 51).clip(0, 255).astype(np.uint8)
    edges = cv2.Canny(cv2.cvtColor(smooth, cv2.COLOR_RGB2GRAY), 40, 110)
    reach = max(1, picture.shape[1] // 500)
    tones[cv2.dilate(edges, np.ones((reach + 1, reach + 1), np.uint8)) > 0] = (24, 18, 22)
    return np.asarray(tones)
