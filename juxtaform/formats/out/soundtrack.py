"""The sounds of a sequence mixed into a file that goes out: added up as they are heard, and all made quieter where they would clip."""

from __future__ import annotations

import math
from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np
from av.audio.stream import AudioStream

from juxtaform.core.sound.levels import FULL, RATE, Samples
from juxtaform.core.sound.mix import Mixed, mixed
from juxtaform.formats.out.sequence import OutSequence, OutSound
from juxtaform.media.sounds import samples

BLOCK = RATE
"""Samples that are mixed at once."""
ROOM = 0.98
"""What is left below full scale when a mix is made quieter: encoders overshoot a little."""
CODECS = {"mp4": ("aac", "fltp", 160_000), "webm": ("libopus", "flt", 128_000)}


class Soundtrack:
    """The mix of a sequence, block by block; `unread` are the names of sounds whose file could not be read, and that are left out."""

    def __init__(self, sequence: OutSequence) -> None:
        self.count = round(sequence.timeline.frames(sequence.fps) / sequence.fps * RATE)
        self.unread: list[str] = []
        self._samples: dict[str, Samples] = {}
        self._laid = []
        for sound in sequence.sounds:
            try:
                self._samples[sound.laid.piece.id] = samples(Path(sound.copy))
                self._laid.append(sound.laid)
            except (OSError, ValueError):
                self.unread.append(sound.name)
        peak = max((float(np.abs(b).max(initial=0.0)) for b in self._mixed()), default=0.0)
        self._scale = ROOM / peak if peak > 1.0 else 1.0

    @property
    def quieter_db(self) -> float:
        """By how much all was made quieter."""
        return -20 * math.log10(self._scale)

    def blocks(self) -> Iterator[Mixed]:
        """The whole, (n, 2), within ±1."""
        for block in self._mixed():
            yield block * np.float32(self._scale)

    def _mixed(self) -> Iterator[Mixed]:
        laid = self._laid
        for start in range(0, self.count, BLOCK):
            stop = min(self.count, start + BLOCK)
            here = [x for x in laid if x.start_s * RATE < stop and x.end_s * RATE > start]
            yield mixed(here, lambda i: self._samples[i], start, stop)


def add_stream(container: av.container.OutputContainer, kind: str) -> AudioStream:
    """A stream of sound in a file that is written."""
    codec, form, rate = CODECS[kind]
    stream = container.add_stream(codec, rate=RATE)
    assert isinstance(stream, AudioStream)
    stream.codec_context.layout, stream.codec_context.format = "stereo", form
    stream.codec_context.bit_rate = rate
    return stream


def packets(track: Soundtrack, stream: AudioStream) -> Iterator[av.Packet[AudioStream]]:
    """The mix, encoded."""
    at = 0
    form = stream.codec_context.format.name
    for block in track.blocks():
        planes = block.T if form.endswith("p") else block.reshape(1, -1)
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(planes), format=form, layout="stereo")
        frame.sample_rate, frame.pts = RATE, at
        at += len(block)
        yield from stream.encode(frame)
    yield from stream.encode(None)


def as_mix(sequence: OutSequence, to: Path) -> None:
    """The mix of a sequence as AAC in MP4, which every browser plays. Raises OSError."""
    part = to.with_name(f"{to.name}.part")
    with av.open(str(part), "w", format="mp4") as out:
        stream = add_stream(out, "mp4")
        for packet in packets(Soundtrack(sequence), stream):
            out.mux(packet)
    part.replace(to)


def as_m4a(sound: OutSound, to: Path) -> None:
    """A sound's working copy as AAC in MP4, which every reader of EPUB plays. Raises OSError."""
    own = samples(Path(sound.copy))
    with av.open(str(to), "w", format="mp4") as out:
        stream = out.add_stream("aac", rate=RATE)
        assert isinstance(stream, AudioStream)
        layout = "mono" if own.shape[1] == 1 else "stereo"
        stream.codec_context.layout, stream.codec_context.format = layout, "fltp"
        stream.codec_context.bit_rate = 96_000
        for start in range(0, len(own), BLOCK):
            part = np.ascontiguousarray(own[start : start + BLOCK].T, dtype=np.float32) / FULL
            frame = av.AudioFrame.from_ndarray(part, format="fltp", layout=layout)
            frame.sample_rate, frame.pts = RATE, start
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
