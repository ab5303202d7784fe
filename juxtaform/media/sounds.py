"""Sounds read: WAV, FLAC, MP3, OGG and M4A by PyAV, each by the one reader of what its bytes say; kept with a working copy (WAV, 16 bits, 48 kHz) and levels."""

from __future__ import annotations

import io
import os
import re
import struct
import tempfile
import time
import wave
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.sound.levels import RATE, Holds, Levels, Samples, held, levels_of
from juxtaform.limits import MOST_SOUND_BYTES, MOST_SOUND_S, MOST_SOUND_WORK_S

WAV, FLAC, MP3, OGG, M4A = "audio/wav", "audio/flac", "audio/mpeg", "audio/ogg", "audio/mp4"
ENDINGS = {WAV: "wav", FLAC: "flac", MP3: "mp3", OGG: "ogg", M4A: "m4a"}
DEMUXERS = {WAV: "wav", FLAC: "flac", MP3: "mp3", OGG: "ogg", M4A: "mov"}
SOUND, COPY, LEVELS = ".sound", ".wav", ".levels"
"""How the names end of a sound's own bytes, its working copy and its levels."""
HEADER = 44
BLOCK_S = 60
TEMPORARY = "tmp"
_SHA = re.compile(r"^[0-9a-f]{64}$")


class SoundRefused(ValueError):
    """A sound that cannot be taken in; the message says why and what to do."""


@dataclass(frozen=True)
class SoundFacts:
    """What is known of a sound: its media type, channels of its working copy, seconds, and what it holds."""

    media_type: str
    channels: int
    seconds: float
    holds: Holds


def sound_type(data: bytes) -> str | None:
    """The media type of a sound by its first bytes; None for what is none."""
    if data[:4] in (b"RIFF", b"RF64") and data[8:12] == b"WAVE":
        return WAV
    if data[:4] == b"fLaC":
        return FLAC
    if data[:4] == b"OggS":
        return OGG
    if data[4:8] == b"ftyp":
        return M4A
    if data[:3] == b"ID3" or (len(data) > 2 and data[0] == 0xFF and data[1] & 0xE6 == 0xE2):
        return MP3
    return None


def opened(path: Path, media_type: str, copy: Path, levels: Path) -> SoundFacts:
    """Read a sound through: its working copy and its levels are written, and what it holds is told. Raises SoundRefused."""
    if path.stat().st_size > MOST_SOUND_BYTES:
        raise SoundRefused(f"The sound has more than {MOST_SOUND_BYTES >> 20} MB. Export it as FLAC or MP3.")
    try:
        channels, count = _copied(path, media_type, copy)
    except SoundRefused:
        raise
    except MemoryError as error:
        raise SoundRefused("There is not enough memory for this sound. Export it shorter.") from error
    except (av.error.FFmpegError, OSError, ValueError, EOFError, IndexError, ArithmeticError) as error:
        if isinstance(error, OSError) and error.errno == 28 and not isinstance(error, av.error.FFmpegError):
            raise
        raise SoundRefused("The sound breaks off or is damaged. Save or export it again.") from error
    if count < RATE // 50:
        raise SoundRefused("There is no sound in this file, or next to none.")
    measured, clipped = levels_of(_blocks(samples(copy)))
    np.stack([measured.low, measured.high, measured.rms], axis=1).astype("<i2").tofile(levels)
    return SoundFacts(media_type, channels, round(count / RATE, 4), held(measured, clipped))


def _copied(path: Path, media_type: str, copy: Path) -> tuple[int, int]:
    """Write the working copy; returns its channels and how many samples each has."""
    until, most, count = time.monotonic() + MOST_SOUND_WORK_S, int(MOST_SOUND_S * RATE), 0
    with av.open(str(path), format=DEMUXERS[media_type], metadata_errors="replace") as container:
        if not container.streams.audio:
            raise SoundRefused("There is no sound in this file.")
        stream = container.streams.audio[0]
        context = stream.codec_context
        if context is None or not context.sample_rate:
            raise SoundRefused(
                "The sound is written in a way that is not read here. Export it as WAV, FLAC, MP3 or OGG."
            )
        channels = 1 if context.layout.nb_channels == 1 else 2
        as_wanted = av.AudioResampler(format="s16", layout="mono" if channels == 1 else "stereo", rate=RATE)
        with wave.open(str(copy), "wb") as out:
            out.setnchannels(channels)
            out.setsampwidth(2)
            out.setframerate(RATE)
            for frame in _decoded(container, stream):
                for part in as_wanted.resample(frame):
                    data = part.to_ndarray().reshape(-1)[: part.samples * channels]
                    count += part.samples
                    out.writeframes(data.astype("<i2").tobytes())
                if count > most:
                    raise SoundRefused(f"The sound is longer than {MOST_SOUND_S / 60:.0f} minutes. Cut it shorter.")
                if time.monotonic() > until:
                    raise SoundRefused("The sound takes too long to read. Export it shorter.")
    return channels, count


def _decoded(container: av.container.InputContainer, stream: av.AudioStream) -> Iterator[av.AudioFrame | None]:
    """The frames of a stream, and None at the end, upon which the rest comes. A last frame that breaks off is left out: many recorders end so."""
    seen = 0
    try:
        for frame in container.decode(stream):
            frame.pts = None
            seen += 1
            yield frame
    except av.error.InvalidDataError:
        if seen < 10:
            raise
    yield None


def samples(copy: Path) -> Samples:
    """The samples of a working copy, (n, channels), read from the file where they are asked for."""
    with copy.open("rb") as file:
        channels = struct.unpack("<H", file.read(HEADER)[22:24])[0]
    count = (copy.stat().st_size - HEADER) // (2 * channels)
    return np.memmap(copy, dtype="<i2", mode="r", offset=HEADER, shape=(count, channels))


def _blocks(whole: Samples) -> Iterator[Samples]:
    for start in range(0, len(whole), BLOCK_S * RATE):
        yield np.asarray(whole[start : start + BLOCK_S * RATE])


def as_wav(part: NDArray[np.int16]) -> bytes:
    """Samples (n, channels) as a WAV file."""
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(part.shape[1])
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes(np.ascontiguousarray(part, dtype="<i2").tobytes())
    return out.getvalue()


class SoundStore:
    """A folder of sounds named by digest; files are written under temporary names, synced, then renamed."""

    def __init__(self, root: Path) -> None:
        self.root = root

    def path(self, sha: str) -> Path:
        """Where a sound's own bytes lie. Raises KeyError for what is no digest."""
        return self._place(sha, SOUND)

    def copy(self, sha: str) -> Path:
        """Where its working copy lies. Raises KeyError."""
        return self._place(sha, COPY)

    def levels(self, sha: str) -> Levels:
        """Its levels. Raises KeyError, OSError."""
        rows = np.fromfile(self._place(sha, LEVELS), dtype="<i2").reshape(-1, 3)
        return Levels(rows[:, 0], rows[:, 1], rows[:, 2])

    def levels_path(self, sha: str) -> Path:
        """Where its levels lie: (lowest, highest, rms) as int16, a hundred a second. Raises KeyError."""
        return self._place(sha, LEVELS)

    def has(self, sha: str) -> bool:
        return all(self._place(sha, ending).exists() for ending in (SOUND, COPY, LEVELS))

    def room(self, sha: str) -> Path:
        """A folder for files that are being written."""
        folder = self._place(sha, SOUND).parent
        folder.mkdir(parents=True, exist_ok=True)
        return Path(tempfile.mkdtemp(prefix=TEMPORARY, dir=folder))

    def settle(self, sha: str, room: Path) -> None:
        """Give the files of a room, `sound`, `wav` and `levels`, their names."""
        for name, ending in (("wav", COPY), ("levels", LEVELS), ("sound", SOUND)):
            with (room / name).open("rb") as file:
                os.fsync(file.fileno())
            os.replace(room / name, self._place(sha, ending))

    def older(self, before: float) -> Iterator[str]:
        """The digests of sounds that were last written before a moment (seconds since 1970)."""
        for path in self.root.glob(f"??/*{COPY}"):
            if _SHA.match(path.stem) and path.stat().st_mtime < before:
                yield path.stem

    def rooms_older(self, before: float) -> Iterator[Path]:
        """Folders of files that were being written when a server died."""
        yield from (p for p in self.root.glob(f"??/{TEMPORARY}*") if p.stat().st_mtime < before)

    def forget(self, sha: str) -> None:
        for ending in (SOUND, COPY, LEVELS):
            self._place(sha, ending).unlink(missing_ok=True)

    def _place(self, sha: str, ending: str) -> Path:
        if not _SHA.match(sha):
            raise KeyError(sha)
        return self.root / sha[:2] / f"{sha}{ending}"
