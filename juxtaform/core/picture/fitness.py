"""Whether a picture can serve as a reference: its figure's size, focus, ground, completeness, number, and colourfulness.

Nothing here looks for a human face: illustrated animals and machines are figures like any other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import (
    Floats,
    Pixels,
    delta_e_2000,
    lab_from_linear,
    linear_from_srgb8,
    oklab_from_linear,
)
from juxtaform.core.colour.words import colour_name
from juxtaform.core.picture.regions import plain_ground, resized

FITNESS_VERSION = "2"
SIDE = 320
FOCUS_SIDE = 900

SMALL_FIGURE = 0.45
"""A figure that takes less of the picture's height than this (and of its width) leaves too few pixels for a face."""
LEAST_FIGURE_PX = 320
"""Below this height on the picture itself a figure's features are a few pixels each."""
LEAST_SIDE_PX = 512
"""A picture with a shorter side below this is smaller than what most services work at."""
SOFT = 0.52
"""The blur effect (see `blur_effect`) of a drawn picture in focus is 0.15 to 0.42; two pixels of blur bring it over this."""
CUT_SHARE = 0.04
"""A figure that covers more than this of a side of the picture is cut off there."""
SECOND_FIGURE = 0.3
"""Another body on the plain ground with at least this part of the largest one's area is a second figure."""
COLOURFUL_RATIO, TONAL_RATIO = 1.6, 0.45
"""A style picture this much more, or less, colourful than the middle of the others pulls the style its way."""
CHROMA_MORE = 0.03
"""A difference of strong chroma (OKLab) below this is hardly seen, however large it is as a ratio."""
DISAGREES = 14.0
"""A trait whose colour is nowhere on another view within this CIEDE2000 is another colour there, or hidden."""

FaultKind = Literal["small_figure", "few_pixels", "soft", "busy_ground", "cut_off", "several_figures", "disagrees", "colourful", "tonal", "small_for_output"]  # fmt: skip


@dataclass(frozen=True)
class Fitness:
    """What is measured of a reference picture: size in px; the figure's share of height and width and its height in px (None
    without a plain ground); sides where it is cut off; how many figures; blur effect 0..1; strong chroma (OKLab); the main
    colours of the figure (hex codes are left to the caller) as linear RGB with shares."""

    width: int
    height: int
    plain: bool
    figure_height: float | None
    figure_width: float | None
    figure_px: int | None
    cut: tuple[str, ...]
    figures: int
    blur: float
    chroma: float
    paints: tuple[tuple[float, float, float, float], ...]


@dataclass(frozen=True)
class Fault:
    """Why a picture cannot serve well: what was measured and what is asked for, with the unit, and what to do."""

    kind: FaultKind
    title: str
    advice: str
    measured: float
    wanted: float
    unit: str


def fitness(pixels: Pixels) -> Fitness:
    """Measure a picture (h, w, 3) in sRGB."""
    h, w = pixels.shape[:2]
    small = resized(pixels, SIDE)
    linear = linear_from_srgb8(small)
    ground = plain_ground(linear)
    if ground is None:
        ground = _all_but_a_little(linear)
    body: NDArray[np.bool_] | None = None
    figures = 0
    cut: tuple[str, ...] = ()
    tall = wide = None
    if ground is not None:
        body = _opened(~ground)
        figures, box = _bodies(body)
        if figures:
            y0, y1, x0, x1 = box
            tall, wide = (y1 - y0) / small.shape[0], (x1 - x0) / small.shape[1]
            cut = _cut_sides(body)
            if {"left", "right"} <= set(cut) or len(cut) > 2:  # What spans the picture is a part of the ground.
                ground, tall, wide, cut, figures = None, None, None, (), 0
    lab = oklab_from_linear(linear)
    inside = body if body is not None and body.any() else np.ones(lab.shape[:2], dtype=bool)
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    strong = np.sort(chroma.ravel())[-max(1, chroma.size // 4) :]
    paints = palette(linear[inside], 8)
    return Fitness(
        w, h, ground is not None, tall, wide, None if tall is None else round(tall * h), cut, figures,
        round(blur_effect(resized(pixels, FOCUS_SIDE)), 4), float(strong.mean()),
        tuple((*p.linear, p.share) for p in paints),
    )  # fmt: skip


def blur_effect(pixels: Pixels, size: int = 11) -> float:
    """How soft a picture (h, w, 3) is, 0 (crisp) to 1: how little its steps lose when it is blurred once more.

    Source: F. Crété-Roffet, T. Dolmiere, P. Ladret and M. Nicolas, "The blur effect: perception and estimation with a new
    no-reference perceptual blur metric", Proc. SPIE 6492, 2007. The larger of both directions is taken; a picture without
    steps counts as crisp.
    """
    grey = cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2GRAY).astype(np.float32)
    told = []
    for axis in (0, 1):
        kernel = (1, size) if axis == 0 else (size, 1)
        soft = cv2.blur(grey, kernel)
        sharp_step, soft_step = np.abs(np.diff(grey, axis=axis)), np.abs(np.diff(soft, axis=axis))
        lost = np.maximum(0.0, sharp_step - soft_step)
        total = float(sharp_step.sum())
        told.append((total - float(lost.sum())) / total if total > 1e-3 * grey.size else 0.0)
    return max(told)


def faults(f: Fitness, kind: str, output_px: int = 0, view: str = "") -> list[Fault]:
    """Why a picture cannot serve for a thread of some kind; a detail or an expression may be cut off and fill the picture."""
    out: list[Fault] = []
    close = view in ("expression", "detail")
    if kind in ("character", "prop"):
        if not f.plain:
            out.append(
                Fault(
                    "busy_ground",
                    "The ground is busy",
                    "Cut the figure out, or draw it on one plain colour.",
                    0,
                    1,
                    "plain ground",
                )
            )
        if f.figures > 1:
            out.append(
                Fault(
                    "several_figures",
                    f"{f.figures} figures",
                    "One figure a picture: cut the sheet into its views.",
                    f.figures,
                    1,
                    "figures",
                )
            )
        elif f.figure_height is not None and not close:
            size = max(f.figure_height, f.figure_width or 0)
            if size < SMALL_FIGURE:
                out.append(
                    Fault(
                        "small_figure",
                        "The figure is small",
                        "Crop the picture closer to the figure.",
                        round(100 * size),
                        round(100 * SMALL_FIGURE),
                        "% of the picture",
                    )
                )
            if f.cut:
                where = " and ".join(f.cut)
                out.append(
                    Fault(
                        "cut_off",
                        f"Cut off at the {where}",
                        "Use a picture that shows all of it, or call it a detail.",
                        len(f.cut),
                        0,
                        "sides",
                    )
                )
        if (
            f.figure_px is not None
            and f.figures == 1
            and f.figure_px < LEAST_FIGURE_PX
            and (f.figure_height or 0) >= SMALL_FIGURE
        ):
            out.append(
                Fault(
                    "few_pixels",
                    "Too few pixels on the figure",
                    "Scan or draw it larger.",
                    f.figure_px,
                    LEAST_FIGURE_PX,
                    "px",
                )
            )
    if f.blur > SOFT:
        out.append(Fault("soft", "Out of focus", "Use a crisper picture.", round(f.blur, 2), SOFT, "blur"))
    least = max(output_px, LEAST_SIDE_PX) if output_px else LEAST_SIDE_PX
    if max(f.width, f.height) < least:
        out.append(
            Fault(
                "small_for_output",
                "Small for the output",
                "It will be enlarged and turn soft. Use a larger one.",
                max(f.width, f.height),
                least,
                "px",
            )
        )
    return out  # fmt: skip


def odd_in_style(own: Fitness, others: Sequence[Fitness]) -> list[Fault]:
    """Whether a style's picture is much more colourful, or more tonal, than the other pictures of the style."""
    if len(others) < 2:
        return []
    middle = float(np.median([o.chroma for o in others]))
    if own.chroma > COLOURFUL_RATIO * middle + 0.01:
        return [Fault("colourful", "More colourful than the others", "Lower its weight, or take it out.", round(own.chroma, 3), round(middle * COLOURFUL_RATIO, 3), "chroma")]  # fmt: skip
    if own.chroma < TONAL_RATIO * middle - 0.005:
        return [Fault("tonal", "More tonal than the others", "Lower its weight, or take it out.", round(own.chroma, 3), round(middle * TONAL_RATIO, 3), "chroma")]  # fmt: skip
    return []


def odd_for_style(own: Fitness, kind: str, style: Sequence[Fitness]) -> list[Fault]:
    """Whether a reference is more colourful than any picture of the style that it will stand in, so that its colours come through;
    or a setting's is hardly coloured in a style that is. A grey figure may be just that."""
    if not style:
        return []
    most, least = max(s.chroma for s in style), min(s.chroma for s in style)
    if own.chroma > (edge := COLOURFUL_RATIO * most + CHROMA_MORE):
        advice = "Its colours will come through. Use a version of it in the style’s colours."
        return [
            Fault("colourful", "More colourful than the style", advice, round(own.chroma, 3), round(edge, 3), "chroma")
        ]
    if kind == "setting" and own.chroma < (edge := TONAL_RATIO * least - CHROMA_MORE):
        advice = "The style is coloured. Use a coloured version, or attach this one as a layout guide."
        return [Fault("tonal", "More tonal than the style", advice, round(own.chroma, 3), round(edge, 3), "chroma")]
    return []


def disagreement(trait: str, colours: Floats, other: Fitness, view: str) -> Fault | None:
    """Whether a trait's main colour (linear, shape (n, 3)) is nowhere on another view; None where it is."""
    if not other.paints or not len(colours):
        return None
    paints = np.array([p[:3] for p in other.paints if p[3] >= 0.004])
    apart = delta_e_2000(lab_from_linear(colours[:1])[:, None], lab_from_linear(paints)[None])[0]
    nearest = int(np.argmin(apart))
    if apart[nearest] <= DISAGREES:
        return None
    return Fault(
        "disagrees", f"{trait} is not on {view}", f"The nearest colour there is {colour_name(paints[nearest])}. One of the views is another version.",
        round(float(apart[nearest]), 1), DISAGREES, "ΔE",
    )  # fmt: skip


def _all_but_a_little(linear: Floats) -> NDArray[np.bool_] | None:
    """The ground of a picture that is nothing but ground save for a very small figure; None for others."""
    lab = oklab_from_linear(linear)
    near = ((lab - np.median(lab.reshape(-1, 3), axis=0)) ** 2).sum(-1) < 0.05**2
    return near if 0.97 < near.mean() < 0.9995 else None


def _opened(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)) > 0)


def _bodies(mask: NDArray[np.bool_]) -> tuple[int, tuple[int, int, int, int]]:
    """How many separate bodies a figure mask holds, parts that lie close counted as one, and the largest one's box."""
    reach = max(3, mask.shape[0] // 40)
    joined = cv2.dilate(mask.astype(np.uint8), np.ones((reach, reach), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    if count < 2:
        return 0, (0, 0, 0, 0)
    areas = np.array([float((mask & (labels == i)).sum()) for i in range(1, count)])
    largest = int(areas.argmax()) + 1
    x, y, w, h = (int(v) for v in stats[largest, :4])
    return int((areas >= SECOND_FIGURE * areas.max()).sum()), (y, y + h, x, x + w)


def _cut_sides(mask: NDArray[np.bool_]) -> tuple[str, ...]:
    sides = (("top", mask[0]), ("bottom", mask[-1]), ("left", mask[:, 0]), ("right", mask[:, -1]))
    return tuple(name for name, line in sides if line.mean() > CUT_SHARE)
