"""Which references cannot serve well, and why: each by itself, beside the thread's others, and beside the style."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from juxtaform.core.colour.spaces import Floats, delta_e_2000, lab_from_linear
from juxtaform.core.colour.words import colour_name
from juxtaform.core.findings import Finding
from juxtaform.core.picture.fitness import Fitness

SMALL_FIGURE = 0.45
"""A figure that takes less of the picture's height than this (and of its width) leaves too few pixels for a face."""
LEAST_FIGURE_PX = 320
"""Below this height on the picture itself a figure's features are a few pixels each."""
LEAST_SIDE_PX = 512
"""A picture with a shorter side below this is smaller than what most services work at."""
SOFT = 0.52
"""The blur effect (see `blur_effect`) of a drawn picture in focus is 0.15 to 0.42; two pixels of blur bring it over this."""
COLOURFUL_RATIO, TONAL_RATIO = 1.6, 0.45
"""A style picture this much more, or less, colourful than the middle of the others pulls the style its way."""
CHROMA_MORE = 0.03
"""A difference of strong chroma (OKLab) below this is hardly seen, however large it is as a ratio."""
DISAGREES = 14.0
"""A trait whose colour is nowhere on another view within this CIEDE2000 is another colour there, or hidden."""


def faults(f: Fitness, kind: str, output_px: int = 0, view: str = "") -> list[Finding]:
    """Why a picture cannot serve for a thread of some kind; a detail or an expression may be cut off and fill the picture."""
    of_figure = _of_figure(f, close=view in ("expression", "detail")) if kind in ("character", "prop") else ()
    return [*of_figure, *_of_picture(f, output_px)]


def _fault(kind: str, title: str, advice: str, measured: float, expected: float, unit: str) -> Finding:
    return Finding(
        source="reference", kind=kind, title=title, advice=advice, measured=measured, expected=expected, unit=unit
    )


def _of_figure(f: Fitness, *, close: bool) -> Iterator[Finding]:
    """What is wrong with how a figure stands on its picture."""
    if not f.plain:
        advice = "Cut the figure out, or draw it on one plain colour."
        yield _fault("busy_ground", "The ground is busy", advice, 0, 1, "plain ground")
    if f.figures > 1:
        advice = "One figure a picture: cut the sheet into its views."
        yield _fault("several_figures", f"{f.figures} figures", advice, f.figures, 1, "figures")
    elif f.figure_height is not None and not close:
        size = max(f.figure_height, f.figure_width or 0)
        if size < SMALL_FIGURE:
            advice, least = "Crop the picture closer to the figure.", round(100 * SMALL_FIGURE)
            yield _fault("small_figure", "The figure is small", advice, round(100 * size), least, "% of the picture")
        if f.cut:
            advice = "Use a picture that shows all of it, or call it a detail."
            yield _fault("cut_off", f"Cut off at the {' and '.join(f.cut)}", advice, len(f.cut), 0, "sides")
    fills = (f.figure_height or 0) >= SMALL_FIGURE
    if f.figure_px is not None and f.figures == 1 and f.figure_px < LEAST_FIGURE_PX and fills:
        advice = "Scan or draw it larger."
        yield _fault("few_pixels", "Too few pixels on the figure", advice, f.figure_px, LEAST_FIGURE_PX, "px")


def _of_picture(f: Fitness, output_px: int) -> Iterator[Finding]:
    """What is wrong with any picture."""
    if f.blur > SOFT:
        yield _fault("soft", "Out of focus", "Use a crisper picture.", round(f.blur, 2), SOFT, "blur")
    least = max(output_px, LEAST_SIDE_PX) if output_px else LEAST_SIDE_PX
    side = max(f.width, f.height)
    if side < least:
        advice = "It will be enlarged and turn soft. Use a larger one."
        yield _fault("small_for_output", "Small for the output", advice, side, least, "px")


def odd_in_style(own: Fitness, others: Sequence[Fitness]) -> list[Finding]:
    """Whether a style's picture is much more colourful, or more tonal, than the other pictures of the style."""
    if len(others) < 2:
        return []
    middle = float(np.median([o.chroma for o in others]))
    if own.chroma > COLOURFUL_RATIO * middle + 0.01:
        return [
            Finding(
                source="reference",
                kind="colourful",
                title="More colourful than the others",
                advice="Lower its weight, or take it out.",
                measured=round(own.chroma, 3),
                expected=round(middle * COLOURFUL_RATIO, 3),
                unit="chroma",
            )
        ]
    if own.chroma < TONAL_RATIO * middle - 0.005:
        return [
            Finding(
                source="reference",
                kind="tonal",
                title="More tonal than the others",
                advice="Lower its weight, or take it out.",
                measured=round(own.chroma, 3),
                expected=round(middle * TONAL_RATIO, 3),
                unit="chroma",
            )
        ]
    return []


def odd_for_style(own: Fitness, kind: str, style: Sequence[Fitness]) -> list[Finding]:
    """Whether a reference is more colourful than any picture of the style that it will stand in, so that its colours come through;
    or a setting's is hardly coloured in a style that is. A grey figure may be just that."""
    if not style:
        return []
    most, least = max(s.chroma for s in style), min(s.chroma for s in style)
    if own.chroma > (edge := COLOURFUL_RATIO * most + CHROMA_MORE):
        advice = "Its colours will come through. Use a version of it in the style’s colours."
        return [
            Finding(
                source="reference",
                kind="colourful",
                title="More colourful than the style",
                advice=advice,
                measured=round(own.chroma, 3),
                expected=round(edge, 3),
                unit="chroma",
            )
        ]
    if kind == "setting" and own.chroma < (edge := TONAL_RATIO * least - CHROMA_MORE):
        advice = "The style is coloured. Use a coloured version, or attach this one as a layout guide."
        return [
            Finding(
                source="reference",
                kind="tonal",
                title="More tonal than the style",
                advice=advice,
                measured=round(own.chroma, 3),
                expected=round(edge, 3),
                unit="chroma",
            )
        ]
    return []


def disagreement(trait: str, colours: Floats, other: Fitness, view: str) -> Finding | None:
    """Whether a trait's main colour (linear, shape (n, 3)) is nowhere on another view; None where it is."""
    if not other.paints or not len(colours):
        return None
    paints = np.array([p[:3] for p in other.paints if p[3] >= 0.004])
    apart = delta_e_2000(lab_from_linear(colours[:1])[:, None], lab_from_linear(paints)[None])[0]
    nearest = int(np.argmin(apart))
    if apart[nearest] <= DISAGREES:
        return None
    return Finding(
        source="reference",
        kind="disagrees",
        title=f"{trait} is not on {view}",
        advice=f"The nearest colour there is {colour_name(paints[nearest])}. One of the views is another version.",
        measured=round(float(apart[nearest]), 1),
        expected=DISAGREES,
        unit="ΔE",
    )
