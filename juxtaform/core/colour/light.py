"""The one common change of light that best explains a figure's colours, and its removal.

Model: a gain per channel of linear light (von Kries' coefficient law), then a common fade: in OKLab the chroma is
multiplied by `saturation`, and lightness drawn towards a middle grey by `contrast`.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

import numpy as np

from juxtaform.core.colour.spaces import LUMINANCE, Floats, linear_from_oklab, oklab_from_linear

CAP = 22.0
"""OKLab distance, times 100, past which a mismatch costs no more: the robust fit gives that pair up."""
MIDDLE = 0.6
"""OKLab lightness of the grey that a fade draws towards (sRGB 128)."""
FADES = (
    (0.85, 0.95),
    (0.7, 0.86),
    (0.55, 0.78),
    (0.42, 0.72),
    (0.3, 0.65),
    (0.22, 0.6),
    (0.7, 1.0),
    (0.5, 1.0),
)
"""Saturation and contrast tried when gains alone explain a figure badly. No light makes paint more colourful."""
POOR_FIT = 0.2
"""Mismatch from which fades are tried."""


@dataclass(frozen=True, slots=True)
class SceneLight:
    """A common light: gains of linear red, green and blue; then a fade, by factors of saturation and contrast."""

    gain: tuple[float, float, float] = (1.0, 1.0, 1.0)
    saturation: float = 1.0
    contrast: float = 1.0

    @property
    def exposure_stops(self) -> float:
        """Change of brightness in stops (log2 of the luminance gain)."""
        return float(np.log2(max(1e-4, float(np.dot(self.gain, LUMINANCE)))))

    @property
    def warmth_stops(self) -> float:
        """Red over blue in stops: above 0 is warmer."""
        return float(np.log2(max(self.gain[0], 1e-4) / max(self.gain[2], 1e-4)))

    def words(self) -> str:
        """What was taken out, in words: `cool, −1.3 stops`."""
        warmth, stops = self.warmth_stops, self.exposure_stops
        tint = "neutral" if abs(warmth) < 0.25 else ("warm" if warmth > 0 else "cool")
        if abs(warmth) > 1.0:
            tint = f"very {tint}"
        sign = "+" if stops >= 0 else "−"
        said = f"{tint}, {sign}{abs(stops):.1f} {'stop' if abs(stops) < 1.05 else 'stops'}"
        if abs(self.saturation - 1) >= 0.08:
            said += f", colour {round(self.saturation * 100)} %"
        return said

    def put_on(self, linear: Floats) -> Floats:
        """Linear-light colours (..., 3) as they look in this light."""
        lab = oklab_from_linear(linear * np.array(self.gain))
        lab[..., 0] = MIDDLE + self.contrast * (lab[..., 0] - MIDDLE)
        lab[..., 1:] *= self.saturation
        return linear_from_oklab(lab)

    def taken_out(self, linear: Floats) -> Floats:
        """Linear-light colours (..., 3) as they would look without this light, within 0..1.2."""
        return np.asarray(np.clip(self._unfaded(linear) / np.array(self.gain), 0.0, 1.2), dtype=np.float64)

    def _unfaded(self, linear: Floats) -> Floats:
        if self.saturation == 1.0 and self.contrast == 1.0:
            return linear
        lab = oklab_from_linear(linear)
        lab[..., 0] = MIDDLE + (lab[..., 0] - MIDDLE) / self.contrast
        lab[..., 1:] /= self.saturation
        return np.maximum(linear_from_oklab(lab), 0.0)


def common_light(lights: Sequence[SceneLight]) -> SceneLight:
    """The light that the middle of some figures stands in; none at all where there is no figure."""
    if not lights:
        return SceneLight()
    gain = np.median([light.gain for light in lights], axis=0)
    return SceneLight(
        (float(gain[0]), float(gain[1]), float(gain[2])), float(np.median([light.saturation for light in lights]))
    )


@dataclass(frozen=True)
class Paints:
    """Some colours of a figure: linear (n, 3), share (n,), place (n, 2) as x and y in the box, 0..1."""

    linear: Floats
    share: Floats
    place: Floats

    @property
    def lab(self) -> Floats:
        return oklab_from_linear(self.linear)


def mismatch(expected: Paints, seen: Paints, lights: list[SceneLight]) -> Floats:
    """Robust cost in about 0..2 of each light for explaining `seen` by `expected`; shape (len(lights),).

    Symmetric: every expected colour should be found, every colour of the figure should be expected, near its place;
    plus a mild cost for a strong light (0.02 per squared stop of exposure, 0.08 per squared stop of tint, and for fade).
    """
    gains = np.array([light.gain for light in lights])
    canonical = np.concatenate(
        [
            np.clip(group[0]._unfaded(seen.linear)[None] / np.array([light.gain for light in group])[:, None], 0.0, 1.2)
            for _, members in groupby(lights, key=lambda light: (light.saturation, light.contrast))
            for group in [list(members)]
        ]
    )
    apart = _apart(expected, oklab_from_linear(canonical), seen.place)
    found = np.minimum(apart.min(axis=2), CAP) / CAP
    known = np.minimum(apart.min(axis=1), CAP) / CAP
    w = np.sqrt(expected.share)
    forward = (found * w).sum(axis=1) / w.sum()
    backward = (known * seen.share).sum(axis=1) / max(1e-9, float(seen.share.sum()))
    return np.asarray(forward + 0.8 * backward + light_cost(gains, lights))


def light_cost(gains: Floats, lights: list[SceneLight]) -> Floats:
    """The part of a mismatch that only prefers weak lights to strong ones, shape (n,)."""
    stops = np.log2(np.maximum(gains, 1e-4))
    exposure = stops.mean(axis=1)
    tint = ((stops - exposure[:, None]) ** 2).sum(axis=1)
    fade = np.array([np.log2(light.saturation) ** 2 + 2 * np.log2(light.contrast) ** 2 for light in lights])
    return np.asarray(0.02 * exposure**2 + 0.08 * tint + 0.05 * fade)


def fit(expected: Paints, seen: Paints, hints: list[SceneLight]) -> SceneLight:
    """The light that best explains `seen`, searched over every pairing of one expected with one seen colour.

    `hints` (lights of other figures in the picture) join the candidates. Where gains alone explain the figure badly
    and at least four colours can tell, fades are searched too. The winner is refined by weighted least squares over
    the pairs that it explains.
    """
    best, cost = _best(expected, seen, [SceneLight(), *hints, *_pairings(expected, seen, SceneLight())])
    if cost > POOR_FIT and len(expected.share) >= 4:
        faded = [light for s, c in FADES for light in _pairings(expected, seen, SceneLight((1, 1, 1), s, c))]
        best, cost = _best(expected, seen, [best, *faded])
    for step in (1.0, 1.15, 1.07, 1.0):
        nearby = [best] if step == 1.0 or best.saturation == 1.0 else _fades_near(best, step)
        better, its_cost = _best(expected, seen, [_refined(expected, seen, light) for light in nearby])
        if its_cost < cost:
            best, cost = better, its_cost
    return best


def refined(expected: Paints, seen: Paints, light: SceneLight) -> SceneLight:
    """A light adjusted to one figure by least squares, if that explains the figure better."""
    return _best(expected, seen, [light, _refined(expected, seen, light)])[0]


def _fades_near(light: SceneLight, step: float) -> list[SceneLight]:
    return [
        SceneLight(light.gain, min(1.0, light.saturation * s), min(1.0, light.contrast * c))
        for s in (1 / step, 1.0, step)
        for c in (1 / step**0.5, 1.0, step**0.5)
    ]


def _best(expected: Paints, seen: Paints, lights: list[SceneLight]) -> tuple[SceneLight, float]:
    costs = mismatch(expected, seen, lights)
    i = int(np.argmin(costs))
    return lights[i], float(costs[i])


def _pairings(expected: Paints, seen: Paints, fade: SceneLight) -> list[SceneLight]:
    floor = 0.006
    even = fade._unfaded(seen.linear)
    gains = (even[None] + floor) / (expected.linear[:, None] + floor)
    stops = np.log2(np.clip(gains.reshape(-1, 3), 1e-3, 1e3))
    exposure = stops.mean(axis=1)
    tint = np.abs(stops - exposure[:, None]).max(axis=1)
    usable = (exposure > -3.5) & (exposure < 1.6) & (tint < 1.5)
    return [
        SceneLight((float(g[0]), float(g[1]), float(g[2])), fade.saturation, fade.contrast)
        for g in 2.0 ** stops[usable]
    ]


def _refined(expected: Paints, seen: Paints, light: SceneLight) -> SceneLight:
    canonical = oklab_from_linear(light.taken_out(seen.linear))
    apart = _apart(expected, canonical[None], seen.place)[0]
    partner = apart.argmin(axis=1)
    trust = np.sqrt(expected.share) * np.maximum(0.0, 1 - (apart.min(axis=1) / CAP) ** 2) ** 2
    if (trust > 0).sum() < 2:
        return light
    even = light._unfaded(seen.linear[partner])
    log_gain = np.log((even + 0.006) / (expected.linear + 0.006))
    weight = trust[:, None] * np.sqrt(np.maximum(expected.linear, 0.02))
    mean = (weight * log_gain).sum(axis=0) / np.maximum(weight.sum(axis=0), 1e-9)
    g = np.clip(np.exp(mean), 0.03, 8.0)
    return SceneLight((float(g[0]), float(g[1]), float(g[2])), light.saturation, light.contrast)


def _apart(expected: Paints, canonical: Floats, places: Floats) -> Floats:
    """OKLab distance times 100 plus a cost of place, (lights, expected, seen)."""
    tones, one = expected.lab, np.ones(3)
    squared = (
        ((tones**2) @ one)[None, :, None] + ((canonical**2) @ one)[:, None] - 2 * tones @ canonical.transpose(0, 2, 1)
    )
    colour = 100 * np.sqrt(np.maximum(squared, 0.0))
    dy = np.abs(expected.place[:, None, 1] - places[None, :, 1])
    return np.asarray(colour + 14 * np.maximum(0.0, dy - 0.15)[None])
