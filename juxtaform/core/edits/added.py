"""Parts added beyond a picture's edge: whether they match the rest in line, grain, palette and light."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from juxtaform.core.colour.palette import palette
from juxtaform.core.colour.spaces import Floats, Pixels, linear_from_srgb8, oklab_from_linear
from juxtaform.core.picture.regions import Box, resized
from juxtaform.core.style.terms import NAMES, PRIOR, STYLE_SIDE, signature

ADDED_VERSION = "1"
STRIPS = 8
"""The old picture is cut into about so many strips along the side: what neighbouring ones differ by is the picture's own."""
STRIP_PART = 0.1
"""The width of a strip, at most, as a part of the old picture's length; a narrower new part has narrower ones."""
FIND_SIDE, FOUND_LEAST = 480, 0.8
"""The longer side in px at which the old part is looked for, and how well it must correlate there (-1..1)."""
LEAST_PX = 24
"""A narrower new part tells nothing."""
TOLERANCE = 3.6
"""A term departs when it steps at the seam by so many of the spreads that steps between neighbouring strips have."""
SPREAD_LEAST = 0.5
"""No spread is taken smaller than this part of what a change of subject alone gives a term."""
NEAR_COLOUR = 0.09
"""OKLab distance within which a colour of the new part is one of the old."""
LIGHT_STOPS = 0.4
"""A step of light across the seam that an eye follows as an edge; less is within what neighbouring strips of one picture differ."""
CHROMA_STOPS = 0.5
"""The same for colourfulness: log2 of OKLab chroma."""


@dataclass(frozen=True)
class Departure:
    """A term in which a new part departs: its name (of `style.terms`, or `palette`, `light`), what it is like, and how many tolerances."""

    term: str
    words: str
    strength: float


@dataclass(frozen=True)
class AddedPart:
    """A part that was added: where (px of the new picture), and in what it departs from the old picture; nothing: it matches."""

    side: str
    box: Box
    departures: tuple[Departure, ...]


def place_in(pixels: Pixels, base: Pixels) -> Box:
    """Where a picture lies in one that was grown from it (both (h, w, 3)), by the best normalised correlation over the sizes that growing leaves:
    its own, or filling the width or the height. Raises ValueError when it lies nowhere there."""
    h, w = pixels.shape[:2]
    f = min(1.0, FIND_SIDE / max(h, w))
    page = cv2.resize(pixels, (max(8, round(w * f)), max(8, round(h * f))), interpolation=cv2.INTER_AREA)
    best, found = FOUND_LEAST, None
    for scale in {1.0, w / base.shape[1], h / base.shape[0]}:
        size = (round(base.shape[1] * scale * f), round(base.shape[0] * scale * f))
        if min(size) < 8 or size[0] > page.shape[1] + 1 or size[1] > page.shape[0] + 1:
            continue
        part = cv2.resize(
            base, (min(size[0], page.shape[1]), min(size[1], page.shape[0])), interpolation=cv2.INTER_AREA
        )
        _, likeness, _, (x, y) = cv2.minMaxLoc(cv2.matchTemplate(page, part, cv2.TM_CCOEFF_NORMED))
        if likeness > best:
            best = likeness
            found = Box(x / f, y / f, base.shape[1] * scale, base.shape[0] * scale)
    if found is None:
        raise ValueError("The picture that it was grown from is not to be found in this one.")
    return found


def added_parts(pixels: Pixels, old: Box) -> tuple[AddedPart, ...]:
    """What lies around the `old` part of a picture (h, w, 3) and how it matches. Raises ValueError when nothing was added."""
    h, w = pixels.shape[:2]
    inner = old.inside(w, h)
    x0, y0, x1, y1 = (round(v) for v in (inner.x, inner.y, inner.x + inner.w, inner.y + inner.h))
    boxes = {
        "left": Box(0, y0, x0, y1 - y0),
        "right": Box(x1, y0, w - x1, y1 - y0),
        "above": Box(0, 0, w, y0),
        "below": Box(0, y1, w, h - y1),
    }
    found = {side: b for side, b in boxes.items() if min(b.w, b.h) >= LEAST_PX}
    if not found:
        raise ValueError("Nothing was added to this picture.")
    middle = pixels[y0:y1, x0:x1]
    return tuple(AddedPart(side, box, _departures(_part(pixels, box), middle, side)) for side, box in found.items())


def _part(pixels: Pixels, box: Box) -> Pixels:
    x, y, w, h = (round(v) for v in (box.x, box.y, box.w, box.h))
    return pixels[y : y + h, x : x + w]


def _departures(new: Pixels, old: Pixels, side: str) -> tuple[Departure, ...]:
    """What steps at the seam more than it does between neighbouring strips of the old picture: what goes on across the seam is the same subject, so
    the subject drops out."""
    strips = _strips(old, new, side)
    scale = STYLE_SIDE / max(old.shape[:2])
    terms = np.array([_terms(s, scale) for s in strips])
    steps = np.diff(terms, axis=0)
    own, usual = steps[0], steps[1:]
    spread = np.maximum(1.4826 * np.median(np.abs(usual), axis=0), SPREAD_LEAST * PRIOR)
    # What neighbours of the old picture differ by at most is its own too.
    stepped = np.abs(own) / np.maximum(spread, np.abs(usual).max(axis=0) / (TOLERANCE - 1))
    # And no strip of the old picture is like that: a wall that begins at the seam is not another hand.
    inside = terms[1:]
    beyond = np.maximum(terms[0] - inside.max(axis=0), inside.min(axis=0) - terms[0]) / (SPREAD_LEAST * PRIOR)
    z = np.minimum(stepped, TOLERANCE * beyond)
    found = [
        Departure(name, _WORDS[name][0 if own[i] < 0 else 1], float(z[i] / TOLERANCE))
        for i, name in enumerate(NAMES)
        if name in _WORDS and z[i] > TOLERANCE
    ]
    found += _palette(new, old)
    found += _at_seam(strips)
    return tuple(sorted(found, key=lambda d: -d.strength)[:4])


def _terms(part: Pixels, scale: float) -> Floats:
    """The style terms of a part at the scale of the whole picture."""
    return np.array(signature(resized(part, max(24, round(max(part.shape[:2]) * scale)))).values)


def _strips(old: Pixels, new: Pixels, side: str) -> list[Pixels]:
    """The strip of the new part at the seam, then those of the old part from the seam on."""
    if side in ("above", "below"):
        off = (new.shape[1] - old.shape[1]) // 2
        new = new[:, off : off + old.shape[1]].swapaxes(0, 1)
        old = old.swapaxes(0, 1)
    length = old.shape[1]
    wide = max(8, min(new.shape[1], round(length * STRIP_PART)))
    count = min(STRIPS, length // wide)
    if side in ("left", "above"):
        return [new[:, new.shape[1] - wide :], *(old[:, i * wide : (i + 1) * wide] for i in range(count))]
    return [new[:, :wide], *(old[:, length - (i + 1) * wide : length - i * wide] for i in range(count))]


def _palette(new: Pixels, old: Pixels) -> list[Departure]:
    """A main colour of the new part that the old picture has not."""
    have = oklab_from_linear(linear_from_srgb8(resized(old, 96)).reshape(-1, 3))
    worst, code = 0.0, ""
    for swatch in palette(linear_from_srgb8(resized(new, 72)).reshape(-1, 3), 6):
        if swatch.share < 0.05:
            continue
        far = float(np.quantile(np.sqrt(((have - oklab_from_linear(np.array(swatch.linear))) ** 2).sum(-1)), 0.01))
        if far > worst:
            worst, code = far, swatch.hex
    return (
        [Departure("palette", f"a colour that the picture has not ({code})", worst / NEAR_COLOUR)]
        if worst > NEAR_COLOUR
        else []
    )


def _at_seam(strips: list[Pixels]) -> list[Departure]:
    """Steps of light and of colourfulness across the seam, place by place along it, beyond what neighbouring strips differ by."""
    found = []
    lit = [linear_from_srgb8(s) for s in strips]
    light = _step([np.log2(_along(x.mean(axis=-1)) + 0.01) for x in lit], LIGHT_STOPS)
    if light:
        words = f"{'lighter' if light[0] > 0 else 'darker'} by {abs(light[0]):.1f} stops at the seam"
        found.append(Departure("light", words, light[1]))
    labs = [oklab_from_linear(x) for x in lit]
    chroma = _step([np.log2(_along(np.hypot(x[..., 1], x[..., 2])) + 0.01) for x in labs], CHROMA_STOPS)
    if chroma:
        found.append(Departure("saturation", "more colourful" if chroma[0] > 0 else "greyer", chroma[1]))
    return found


def _step(values: list[Floats], least: float) -> tuple[float, float] | None:
    """The middle step from the first old strip to the new one, and how many tolerances that is; None within them."""
    across = np.array(values)
    steps = np.median(across[:-1] - across[1:], axis=1)
    most = max(least, 1.5 * float(np.abs(steps[1:]).max()))
    return (float(steps[0]), abs(float(steps[0])) / most) if abs(steps[0]) > most else None


def _along(strip: Floats) -> Floats:
    """The mean of a strip (h, w) at up to 64 places along the seam."""
    return np.array([part.mean() for part in np.array_split(strip, min(64, strip.shape[0]))])


_WORDS: dict[str, tuple[str, str]] = {
    "line_share": ("more drawn line", "less drawn line"),
    "line_width": ("wider lines", "finer lines"),
    "line_darkness": ("darker lines", "paler lines"),
    "grain_fine": ("more fine grain", "less fine grain"),
    "grain_middle": ("more grain", "less grain"),
    "edge_softness": ("softer edges", "harder edges"),
}
"""Terms of line, grain and edges, and what more, or less, of one looks like. What is flat, modelled or in contrast in one strip is its subject."""
