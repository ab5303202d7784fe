"""Sequences of ten pictures with two characters, as an illustrator would check them: clean, or with known faults."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from bench.art.added import ADDED, with_a_thing
from bench.art.hands import painted_over
from bench.art.shapes import RESHAPED
from bench.art.sources import Family, grounds, picture
from bench.art.staging import SIZE, Rgb, Rgba, Standing, on_white, random_light, scene
from juxtaform.core.colour.spaces import (
    delta_e_2000,
    lab_from_srgb8,
    linear_from_oklab,
    linear_from_srgb8,
    oklab_from_linear,
    srgb_from_linear,
)
from juxtaform.core.picture.regions import Box

LENGTH = 10
FAULTS = ("stranger", "swapped", "recoloured", "recoloured again", "other hand")
WHOLE = ("repainted", "repainted again", "repainted once more")
"""Whole parts in another hue, with all their shades; `recoloured` is one tone of a part."""
ALIKE = 16.0
"""CIELAB distance, lightness by half, within which pixels have one colour."""
PLAIN, ONE_HUE = 12.0, 25.0
"""Chroma (CIELAB) from which a tone has a hue, and degrees of hue within which neighbouring tones are one part in light and shade."""


@dataclass(frozen=True)
class Shown:
    """A mark on a picture: who is said to stand there, where, and what is wrong with it (empty: nothing). `part` is the place of a
    recoloured part, or of a thing that is too much, in the box, 0..1, with its new and its old colour in sRGB."""

    who: int
    box: Box
    fault: str = ""
    part: tuple[float, float] | None = None
    was: tuple[int, int, int] | None = None
    now: tuple[int, int, int] | None = None


@dataclass(frozen=True)
class Frame:
    """One picture with its marks."""

    pixels: Rgb
    marks: tuple[Shown, ...]
    fault: str = ""


@dataclass(frozen=True)
class Drift:
    """A colour of one of both characters that is another one in some pictures, sRGB."""

    who: int
    was: tuple[int, int, int]
    now: tuple[int, int, int]
    frames: range


@dataclass
class Story:
    """Two characters' references, and ten pictures; `cast` names both and the stranger."""

    source: str
    kind: str
    references: list[list[Rgb]]
    frames: list[Frame] = field(default_factory=list)
    cast: tuple[str, ...] = ()


def story(
    members: list[Family], seed: int, faults: tuple[str, ...] = FAULTS, lasting: int = 0, light: str = ""
) -> Story:
    """A sequence whose cast is drawn by one hand; `faults` fall on different pictures, never on the first two. With `lasting` a colour
    of one character is another one in so many pictures on end besides. Each picture has some light, or all have the one that is named."""
    rng = np.random.default_rng(seed)
    usable = [m for m in members if len(m.pictures) >= 3]
    cast = [usable[i] for i in rng.permutation(len(usable))[:3]]
    pictures = []
    for family in cast:
        held = [p for a in family.pictures if (p := readable(a)) is not None]
        pictures.append([held[i] for i in rng.permutation(len(held))])
    if any(len(p) < 3 for p in pictures):
        return story(members, seed + 1000, faults, lasting, light)
    references = [[on_white(p) for p in own[:2]] for own in pictures[:2]]
    told = Story(cast[0].source, cast[0].kind, references, cast=tuple(f.name for f in cast))
    places = grounds()
    ground = places[rng.integers(len(places))]
    at = dict(zip(2 + rng.permutation(LENGTH - 2)[: len(faults)], faults, strict=True))
    drift = _drift(pictures, lasting, rng) if lasting else None
    for i in range(LENGTH):
        going = drift if drift and i in drift.frames else None
        told.frames.append(_frame(pictures, cut_of(ground, rng), rng, at.get(i, ""), going, light))
    return told


def _drift(pictures: list[list[Rgba]], lasting: int, rng: np.random.Generator) -> Drift | None:
    who, first = int(rng.integers(2)), int(rng.integers(2, LENGTH - lasting + 1))
    changed = recoloured(pictures[who][0], rng)
    return Drift(who, changed[2], changed[3], range(first, first + lasting)) if changed else None


def _frame(
    pictures: list[list[Rgba]],
    ground: Rgb,
    rng: np.random.Generator,
    fault: str,
    drift: Drift | None = None,
    light: str = "",
) -> Frame:
    who = [0, 1] if rng.random() < 0.7 else [int(rng.integers(2))]
    hit = int(rng.integers(len(who)))
    standing, told = [], []
    for slot, character in enumerate(who):
        own = pictures[character]
        seen = own[rng.integers(len(own))]
        wrong, part, was, now = "", None, None, None
        if slot == hit and fault in ("stranger", "swapped"):
            other = pictures[2] if fault == "stranger" else pictures[1 - character]
            seen, wrong = other[rng.integers(len(other))], fault
        if slot == hit and fault.startswith(("recoloured", "repainted")):
            kind = fault.split()[0]
            changed = recoloured(seen, rng, whole=kind == "repainted")
            if changed is not None:
                seen, part, was, now = changed
                wrong = kind
        if slot == hit and fault in ADDED:
            (seen, part), wrong = with_a_thing(seen, rng, ADDED[fault]), fault
        if slot == hit and fault in RESHAPED:
            seen, wrong = RESHAPED[fault](seen), fault
        if drift and not wrong and character == drift.who:
            alike = recoloured_alike(seen, drift)
            if alike is not None:
                (seen, part), wrong, was, now = alike, "recoloured", drift.was, drift.now
        x = (
            float(rng.uniform(0.2, 0.4) if slot == 0 else rng.uniform(0.62, 0.8))
            if len(who) == 2
            else float(rng.uniform(0.3, 0.7))
        )
        mirrored = bool(rng.integers(2))
        if part and mirrored:
            part = (1 - part[0], part[1])
        standing.append(Standing(seen, x, float(rng.uniform(0.85, 0.98)), float(rng.uniform(0.4, 0.75)), mirrored))
        told.append((character, wrong, part, was, now))
    pixels, boxes = scene(ground, standing, light or random_light(rng))
    if fault == "other hand":
        pixels = painted_over(pixels, rng)
    marks = tuple(
        Shown(c, box.grown(0.03).inside(*SIZE), wrong, part, was, now)
        for (c, wrong, part, was, now), box in zip(told, boxes, strict=True)
    )
    return Frame(pixels, marks, fault if fault == "other hand" else "")


def cut_of(ground: Rgb, rng: np.random.Generator) -> Rgb:
    """A part of a ground, from a little over half of it to all."""
    h, w = ground.shape[:2]
    part = float(rng.uniform(0.55, 1.0))
    ch, cw = int(h * part), int(w * part)
    y, x = int(rng.integers(0, h - ch + 1)), int(rng.integers(0, w - cw + 1))
    return ground[y : y + ch, x : x + cw]


def readable(address: str) -> Rgba | None:
    """A picture at an address; None for one that cannot be read."""
    try:
        return picture(address)
    except ValueError:
        return None


def _parts(seen: Rgba, rng: np.random.Generator, least: float, most: float) -> Iterator[NDArray[np.bool_]]:
    """Neighbouring pixels of like colour with between `least` and `most` of a figure, in random order."""
    inside, nearest, tones = _tones(seen, rng)
    for i in rng.permutation(len(tones)):
        mask = _opened((nearest == i) & inside)
        if least < mask.sum() / inside.sum() < most and tones[i][0] >= 12:
            yield mask


def _tones(seen: Rgba, rng: np.random.Generator) -> tuple[NDArray[np.bool_], NDArray[np.intp], NDArray[np.float32]]:
    """Where a figure is, which of seven tones each pixel has, and the tones in CIELAB."""
    inside = seen[..., 3] > 128
    lab = lab_from_srgb8(seen[..., :3])
    data = np.ascontiguousarray(lab[inside][:: max(1, int(inside.sum() // 8000))], dtype=np.float32)
    cv2.setRNGSeed(int(rng.integers(1 << 30)))
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 20, 0.5)
    _, _, tones = cv2.kmeans(data, min(7, len(data)), None, stop, 2, cv2.KMEANS_PP_CENTERS)  # type: ignore[call-overload]
    nearest = np.linalg.norm((lab[:, :, None] - tones[None, None]) * np.array([0.5, 1, 1]), axis=-1).argmin(axis=-1)
    return inside, nearest, tones


def _opened(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, np.ones((5, 5), np.uint8)) > 0


def _whole_parts(seen: Rgba, rng: np.random.Generator, least: float, most: float) -> Iterator[NDArray[np.bool_]]:
    """Coloured pixels of one hue that lie together, light and shade of them alike, with between `least` and `most` of a figure, in
    random order: a coat, a head of hair."""
    inside, nearest, tones = _tones(seen, rng)
    coloured = np.hypot(tones[:, 1], tones[:, 2]) > PLAIN
    hue = np.degrees(np.arctan2(tones[:, 2], tones[:, 1]))
    masks = []
    for i in np.flatnonzero(coloured):
        apart = np.abs((hue - hue[i] + 180) % 360 - 180)
        alike = _opened(np.isin(nearest, np.flatnonzero(coloured & (apart < ONE_HUE))) & inside)
        count, labels = cv2.connectedComponents(
            cv2.morphologyEx(alike.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((7, 7), np.uint8))
        )
        masks += [(labels == k) & alike for k in range(1, count)]
    for k in rng.permutation(len(masks)):
        if least < masks[k].sum() / inside.sum() < most:
            yield masks[k]


def recoloured_alike(seen: Rgba, drift: Drift) -> tuple[Rgba, tuple[float, float]] | None:
    """Another picture of a figure with the same colour changed in the same way; None where little of that colour is seen."""
    inside = seen[..., 3] > 128
    tone = lab_from_srgb8(np.array(drift.was, dtype=np.uint8))
    apart = np.linalg.norm((lab_from_srgb8(seen[..., :3]) - tone) * np.array([0.5, 1, 1]), axis=-1)
    mask = ((apart < ALIKE) & inside).astype(np.uint8)
    mask = cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8)) > 0
    if not 0.03 < mask.sum() / inside.sum() < 0.5:
        return None
    ok = oklab_from_linear(linear_from_srgb8(seen[..., :3]))
    ok[mask, 1:] = oklab_from_linear(linear_from_srgb8(np.array(drift.now, dtype=np.uint8)))[1:]
    rgb = 255 * srgb_from_linear(np.clip(linear_from_oklab(ok), 0, 1))
    soft = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), 1.0)[..., None]
    out = seen.copy()
    out[..., :3] = np.rint(rgb * soft + seen[..., :3] * (1 - soft))
    ys, xs = np.nonzero(mask)
    return out, (float(xs.mean() / seen.shape[1]), float(ys.mean() / seen.shape[0]))


def recoloured(
    seen: Rgba, rng: np.random.Generator, *, whole: bool = False, least: float = 22.0
) -> tuple[Rgba, tuple[float, float], tuple[int, int, int], tuple[int, int, int]] | None:
    """One tone of a part of a figure in another hue, its light and shade kept, or with `whole` one part with all its shades; None when nothing is
    large and plain enough: either has 5 to 40 % of the figure."""
    for mask in (_whole_parts if whole else _parts)(seen, rng, 0.05, 0.4):
        changed = _in_another_hue(seen, mask, rng, least)
        if changed is not None:
            return changed
    return None


def _in_another_hue(
    seen: Rgba, mask: NDArray[np.bool_], rng: np.random.Generator, least: float
) -> tuple[Rgba, tuple[float, float], tuple[int, int, int], tuple[int, int, int]] | None:
    ok = oklab_from_linear(linear_from_srgb8(seen[..., :3]))
    chroma = max(0.12, float(np.median(np.hypot(ok[mask][:, 1], ok[mask][:, 2]))))
    turn = float(rng.uniform(0, 2 * np.pi))
    for _ in range(8):
        changed = ok.copy()
        keep = changed[mask]
        keep[:, 1], keep[:, 2] = chroma * np.cos(turn), chroma * np.sin(turn)
        changed[mask] = keep
        rgb = np.rint(255 * srgb_from_linear(np.clip(linear_from_oklab(changed), 0, 1))).astype(np.uint8)
        was, now = np.median(seen[..., :3][mask], axis=0), np.median(rgb[mask], axis=0)
        if float(delta_e_2000(lab_from_srgb8(was.astype(np.uint8)), lab_from_srgb8(now.astype(np.uint8)))) > least:
            soft = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), 1.0)[..., None]
            out = seen.copy()
            out[..., :3] = np.rint(rgb * soft + seen[..., :3] * (1 - soft))
            ys, xs = np.nonzero(mask)
            at = (float(xs.mean() / seen.shape[1]), float(ys.mean() / seen.shape[0]))
            return out, at, tuple(int(v) for v in was), tuple(int(v) for v in now)  # type: ignore[return-value]
        turn += 0.8
    return None
