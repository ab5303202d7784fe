"""Sounds whose faults are known: voices as bursts of a buzz with pauses, music as chords, noise of a room; and the files that hold them."""

from __future__ import annotations

import io

import av
import numpy as np

from juxtaform.core.sound.levels import FULL, PER_S, RATE, Levels, levels_of
from juxtaform.media.sounds import as_wav


def noise(seconds: float, level: float = 0.001, seed: int = 0) -> np.ndarray:
    """A quiet room, ±1."""
    return np.random.default_rng(seed).normal(0, level, round(seconds * RATE))


def voice(
    spans, seconds: float, level: float = 0.3, room: float = 0.001, pitch: float = 140.0, seed: int = 0
) -> np.ndarray:
    """A voice that is heard in some spans (s), in a room; syllables rise and fall four times a second, ±1."""
    rng = np.random.default_rng(seed)
    out = noise(seconds, room, seed)
    for start, end in spans:
        n = round((end - start) * RATE)
        t = np.arange(n) / RATE
        wobble = pitch * (1 + 0.05 * np.sin(2 * np.pi * 3.1 * t + rng.uniform(0, 6)))
        phase = 2 * np.pi * np.cumsum(wobble) / RATE
        buzz = sum(np.sin(k * phase) / k for k in range(1, 9)) / 2.2
        shape = 0.65 + 0.35 * np.sin(2 * np.pi * 4 * t + rng.uniform(0, 6))
        ramp = np.clip(np.minimum(t, (end - start) - t) / 0.015, 0, 1)
        at = round(start * RATE)
        out[at : at + n] += level * (buzz * shape * ramp)[: len(out) - at]
    return out


def music(seconds: float, level: float = 0.2, seed: int = 0) -> np.ndarray:
    """Chords that change every two seconds, stereo, ±1."""
    rng = np.random.default_rng(seed)
    t = np.arange(round(seconds * RATE)) / RATE
    out = np.zeros((len(t), 2))
    for start in np.arange(0, seconds, 2.0):
        own = (t >= start) & (t < start + 2)
        fade = 0.4 + 0.6 * np.exp(-(t[own] - start))
        for pitch in rng.choice([196, 220, 262, 294, 330, 392, 440], 3, replace=False):
            out[own] += level / 3 * (np.sin(2 * np.pi * pitch * t[own]) * fade)[:, None]
    return out


def samples(wave: np.ndarray, gain: float = 1.0) -> np.ndarray:
    """A wave as samples (n, channels); what is louder than full scale is clipped, as a recorder does."""
    wide = wave if wave.ndim == 2 else wave[:, None]
    return np.clip(np.round(wide * gain * FULL), -FULL - 1, FULL).astype(np.int16)


def wav(wave: np.ndarray, gain: float = 1.0) -> bytes:
    return as_wav(samples(wave, gain))


def levels(wave: np.ndarray, gain: float = 1.0) -> tuple[Levels, tuple[tuple[float, float], ...]]:
    return levels_of(iter([samples(wave, gain)]))


def file_of(wave: np.ndarray, kind: str) -> bytes:
    """A wave as FLAC, MP3, OGG (Opus) or M4A."""
    codec, container, form = {
        "flac": ("flac", "flac", "s16"),
        "mp3": ("libmp3lame", "mp3", "s16p"),
        "ogg": ("libopus", "ogg", "s16"),
        "m4a": ("aac", "mp4", "fltp"),
    }[kind]
    data, out = samples(wave), io.BytesIO()
    layout = "mono" if data.shape[1] == 1 else "stereo"
    with av.open(out, "w", format=container) as target:
        stream = target.add_stream(codec, rate=RATE)
        stream.codec_context.layout, stream.codec_context.format = layout, form
        for start in range(0, len(data), RATE):
            part = data[start : start + RATE]
            planes = part.T if form.endswith("p") else part.reshape(1, -1)
            if form == "fltp":
                planes = planes.astype(np.float32) / FULL
            frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(planes), format=form, layout=layout)
            frame.sample_rate, frame.pts = RATE, start
            target.mux(stream.encode(frame))
        target.mux(stream.encode(None))
    return out.getvalue()


def steps(seconds: float) -> int:
    return round(seconds * PER_S)
