"""The one common change of light that best explains a figure's colours, and its removal.

Model: seen = gain * (luminance + saturation * (expected - luminance)), in linear light, a gain per channel
(von Kries' coefficient law) after a common loss or rise of saturation.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from juxtaform.core.colour import LUMINANCE, Floats, oklab_from_linear

CAP = 22.0
"""OKLab distance, times 100, past which a mismatch costs no more: the robust fit gives that pair up."""


@dataclass(frozen=True)
class SceneLight:
    """A common light: gains of linear red, green and blue, and a factor of saturation."""

    gain: tuple[float, float, float] = (1.0, 1.0, 1.0)
    saturation: float = 1.0

    @property
    def exposure_stops(self) -> float:
        """Change of brightness in stops (log2 of the luminance gain)."""
        return float(np.log2(max(1e-4, float(np.dot(self.gain, LUMINANCE)))))

    @property
    def warmth_stops(self) -> float:
        """Red over blue in stops: above 0 is warmer."""
        return float(np.log2(max(self.gain[0], 1e-4) / max(self.gain[2], 1e-4)))

    def words(self) -> str:
        """What was taken out, in words: `cool, -1.3 stops`."""
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
        grey = (linear @ LUMINANCE)[..., None]
        return np.asarray((grey + self.saturation * (linear - grey)) * np.array(self.gain))

    def taken_out(self, linear: Floats) -> Floats:
        """Linear-light colours (..., 3) as they would look without this light, within 0..1.2."""
        even = linear / np.array(self.gain)
        grey = (even @ LUMINANCE)[..., None]
        return np.clip(grey + (even - grey) / self.saturation, 0.0, 1.2)


@dataclass(frozen=True)
class Paints:
    """Some colours of a figure: linear (n, 3), OKLab (n, 3), share (n,), place (n, 2) as x and y in the box 0..1."""

    linear: Floats
    share: Floats
    place: Floats

    @property
    def lab(self) -> Floats:
        return oklab_from_linear(self.linear)


def mismatch(expected: Paints, seen: Paints, lights: list[SceneLight]) -> Floats:
    """Robust cost in about 0..2 of each light for explaining `seen` by `expected`; shape (len(lights),).

    Symmetric: every expected colour should be found, every colour of the figure should be expected, near its place;
    plus a mild cost for a strong light (0.02 per squared stop of exposure, 0.08 per squared stop of tint).
    """
    gains = np.array([light.gain for light in lights])
    saturation = np.array([light.saturation for light in lights])
    even = seen.linear[None] / gains[:, None]
    grey = (even @ LUMINANCE)[..., None]
    canonical = np.clip(grey + (even - grey) / saturation[:, None, None], 0.0, 1.2)
    apart = _apart(expected, oklab_from_linear(canonical), seen.place)
    found = np.minimum(apart.min(axis=2), CAP) / CAP
    known = np.minimum(apart.min(axis=1), CAP) / CAP
    w = np.sqrt(expected.share)
    forward = (found * w).sum(axis=1) / w.sum()
    backward = (known * seen.share).sum(axis=1) / max(1e-9, float(seen.share.sum()))
    stops = np.log2(np.maximum(gains, 1e-4))
    exposure = stops.mean(axis=1)
    tint = ((stops - exposure[:, None]) ** 2).sum(axis=1)
    return np.asarray(forward + 0.8 * backward + 0.02 * exposure**2 + 0.08 * tint + 0.15 * (1 - saturation) ** 2)


def fit(expected: Paints, seen: Paints, hints: list[SceneLight]) -> SceneLight:
    """The light that best explains `seen`, searched over every pairing of one expected with one seen colour.

    `hints` (lights of other figures in the picture) join the candidates. The winner is refined by a weighted least
    squares over the pairs it explains, then a common saturation is tried where at least four colours can tell.
    """
    candidates = [SceneLight(), *hints, *_pairings(expected, seen)]
    best = candidates[int(np.argmin(mismatch(expected, seen, candidates)))]
    tried = [best]
    for _ in range(2):
        best = _refined(expected, seen, best)
        tried.append(best)
    if len(expected.share) >= 4:
        tried += [SceneLight(best.gain, s) for s in (0.35, 0.45, 0.55, 0.65, 0.75, 0.85, 0.93, 1.07, 1.15)]
    best = tried[int(np.argmin(mismatch(expected, seen, tried)))]
    return best


def _pairings(expected: Paints, seen: Paints) -> list[SceneLight]:
    floor = 0.006
    gains = (seen.linear[None] + floor) / (expected.linear[:, None] + floor)
    stops = np.log2(np.clip(gains.reshape(-1, 3), 1e-3, 1e3))
    exposure = stops.mean(axis=1)
    tint = np.abs(stops - exposure[:, None]).max(axis=1)
    usable = (exposure > -3.5) & (exposure < 1.6) & (tint < 1.5)
    return [SceneLight((float(g[0]), float(g[1]), float(g[2]))) for g in 2.0 ** stops[usable]]


def _refined(expected: Paints, seen: Paints, light: SceneLight) -> SceneLight:
    canonical = oklab_from_linear(light.taken_out(seen.linear))
    apart = _apart(expected, canonical[None], seen.place)[0]
    partner = apart.argmin(axis=1)
    nearest = apart.min(axis=1)
    trust = np.sqrt(expected.share) * np.maximum(0.0, 1 - (nearest / CAP) ** 2) ** 2
    if (trust > 0).sum() < 2:
        return light
    target = SceneLight((1, 1, 1), light.saturation).put_on(expected.linear)
    bright = np.maximum(target, 0.02)
    log_gain = np.log((seen.linear[partner] + 0.006) / (target + 0.006))
    weight = trust[:, None] * np.sqrt(bright)
    mean = (weight * log_gain).sum(axis=0) / np.maximum(weight.sum(axis=0), 1e-9)
    g = np.clip(np.exp(mean), 0.03, 8.0)
    return SceneLight((float(g[0]), float(g[1]), float(g[2])), light.saturation)


def _apart(expected: Paints, canonical: Floats, places: Floats) -> Floats:
    """OKLab distance times 100 plus a cost of place, (lights, expected, seen)."""
    colour = 100 * np.sqrt(((canonical[:, None] - expected.lab[None, :, None]) ** 2).sum(-1))
    dy = np.abs(expected.place[:, None, 1] - places[None, :, 1])
    return np.asarray(colour + 14 * np.maximum(0.0, dy - 0.15)[None])
