"""The demo's sounds, made from numbers: a scratch voice that hums the words, the sea, the whistle; what is wrong in them is known."""

from __future__ import annotations

import zlib

import numpy as np
import scipy
from numpy.typing import NDArray

from juxtaform.core.run.along import said_words
from juxtaform.core.sound.levels import FULL, RATE
from juxtaform.core.text.timing import Pace
from juxtaform.media.sounds import as_wav

Wave = NDArray[np.float64]
VOWELS = ((730, 1090), (570, 840), (440, 1020), (300, 870), (530, 1840), (390, 1990), (270, 2290))
"""First and second resonance of English vowels in Hz (G. Peterson and H. Barney, 1952)."""
TUNE = ((587, 0.35), (659, 0.35), (740, 0.7), (587, 0.35), (880, 1.05), (740, 0.9))
"""The note that means dinner, and what comes after it: Hz and s."""


def hummed(words: str, factor: float = 1.0, pitch: float = 190.0, lead_s: float = 0.15) -> Wave:
    """A voice that hums some words at a pace, ±1: a buzz through two resonances, a vowel a syllable, falling towards the end of a sentence."""
    rng = np.random.default_rng(zlib.crc32(words.encode()))
    said = said_words(words, 10_000.0, Pace(factor=factor))
    whole = np.zeros(round((said[-1].end_s + lead_s + 0.3) * RATE))
    for i, word in enumerate(said):
        letters = words[word.start : word.end]
        syllables = max(
            1,
            sum(
                a in "aeiouy" and b not in "aeiouy"
                for a, b in zip(letters.lower(), letters.lower()[1:] + " ", strict=True)
            ),
        )
        each = (word.end_s - word.start_s) * 0.94 / syllables
        for k in range(syllables):
            start = round((lead_s + word.start_s + k * each) * RATE)
            sound = _syllable(
                each,
                pitch * (1.08 - 0.2 * i / len(said)) * rng.uniform(0.96, 1.05),
                VOWELS[rng.integers(len(VOWELS))],
                rng,
            )
            whole[start : start + len(sound)] += sound
    return np.asarray(0.4 * whole / max(1e-9, np.abs(whole).max()) + rng.normal(0, 0.0006, len(whole)))


def _syllable(seconds: float, pitch: float, vowel: tuple[int, int], rng: np.random.Generator) -> Wave:
    t = np.arange(max(64, round(seconds * RATE))) / RATE
    phase = np.cumsum(pitch * (1 - 0.05 * t / t[-1])) / RATE
    buzz = 2 * (phase % 1) - 1
    for hz, wide in zip(vowel, (90, 120), strict=True):
        r = np.exp(-np.pi * wide / RATE)
        buzz = scipy.signal.lfilter([1 - r], [1, -2 * r * np.cos(2 * np.pi * hz / RATE), r * r], buzz)
    breath = rng.normal(0, 0.004, len(t)) * np.exp(-t / 0.02)
    shape = np.clip(np.minimum(t / 0.03, (t[-1] - t) / 0.05), 0, 1)
    out: Wave = (buzz + breath) * shape
    return out


def sea(seconds: float) -> Wave:
    """Waves on stone steps, ±1: noise that swells every six seconds, stereo."""
    rng = np.random.default_rng(12)
    t = np.arange(round(seconds * RATE)) / RATE
    sides = []
    for side in range(2):
        soft = scipy.signal.lfilter([0.04], [1, -0.96], rng.normal(0, 1, len(t)))
        swell = 0.35 + 0.65 * (0.5 + 0.5 * np.sin(2 * np.pi * t / 6.2 + 0.5 * side)) ** 2
        sides.append(soft * swell)
    both = np.stack(sides, axis=1)
    return np.asarray(0.3 * both / np.abs(both).max())


def whistle() -> Wave:
    """A tin whistle, ±1."""
    parts = []
    for hz, seconds in TUNE:
        t = np.arange(round(seconds * RATE)) / RATE
        vibrato = 2 * np.pi * hz * t + 0.35 * np.sin(2 * np.pi * 5.5 * t)
        shape = np.clip(np.minimum(t / 0.03, (t[-1] - t) / 0.06), 0, 1)
        parts.append((np.sin(vibrato) + 0.18 * np.sin(2 * vibrato) + 0.05 * np.sin(3 * vibrato)) * shape)
    return np.asarray(0.35 * np.concatenate(parts))


def wav(wave: Wave, gain: float = 1.0) -> bytes:
    """A wave as a WAV file; what is louder than full scale is clipped, as a recorder does."""
    wide = wave if wave.ndim == 2 else wave[:, None]
    return as_wav(np.clip(np.round(wide * gain * FULL), -FULL - 1, FULL).astype(np.int16))
