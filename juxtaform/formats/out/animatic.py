"""The animatic: the sequence in time as MP4 (H.264, AAC) or WebM (VP9, Opus), in parts, so that work that was stopped goes on where it was."""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal, TypeVar

import av
from av.audio.stream import AudioStream
from av.video.stream import VideoStream

from juxtaform.core.run.along import in_lines
from juxtaform.core.run.timeline import Seen
from juxtaform.formats.out import soundtrack
from juxtaform.formats.out.captions import Cue, cues
from juxtaform.formats.out.lettering import caption_overlay
from juxtaform.formats.out.sequence import Going, OutSequence
from juxtaform.formats.out.soundtrack import Soundtrack, packets
from juxtaform.formats.out.stage import Canvas, Stage

Made = TypeVar("Made")
Kind = Literal["mp4", "webm"]
PART_FRAMES = 240
"""Frames of a part that is written at once."""
CODECS: dict[str, tuple[str, dict[str, str]]] = {
    "mp4": ("libx264", {"crf": "19", "preset": "veryfast", "bf": "0"}),
    "webm": ("libvpx-vp9", {"crf": "33", "b": "0", "deadline": "realtime", "cpu-used": "6", "row-mt": "1"}),
}


@dataclass(frozen=True)
class AnimaticForm:
    """How an animatic is written: file form, height in px, and whether its words are burnt in."""

    kind: Kind = "mp4"
    height: int = 720
    burnt_in: bool = True
    sound: bool = True


@dataclass(frozen=True)
class Written:
    """What is to be told of an animatic: the numbers of shots whose picture could not be read, and what became of the sound."""

    unread: list[int]
    sound: str = ""


def animatic(sequence: OutSequence, form: AnimaticForm, to: Path, going: Going) -> Written:
    """Write the animatic. Raises Stopped, ValueError for a sequence without length."""
    count = sequence.timeline.frames(sequence.fps)
    if not count:
        raise ValueError("There is nothing to play: no shot has a length.")
    height = form.height - form.height % 2
    width = max(2, round(height * sequence.aspect / 2) * 2)
    frames = _Frames(sequence, Stage(sequence, width, height), cues(sequence) if form.burnt_in else [])
    parts = []
    for k, start in enumerate(range(0, count, PART_FRAMES)):
        part = going.kept(f"{k:05d}.{form.kind}")
        parts.append(part)
        stop = min(count, start + PART_FRAMES)
        if not part.exists():
            _write_part(frames, start, stop, part, form.kind, going, count)
        going.done(stop, count)
    track = Soundtrack(sequence) if form.sound and sequence.sounds else None
    _joined(parts, to, form.kind, Fraction(sequence.fps).limit_denominator(1001), track)
    return Written(frames.stage.troubled, _of_sound(track) if track else "")


def _of_sound(track: Soundtrack) -> str:
    told = []
    if track.unread:
        names = ", ".join(f"“{n}”" for n in track.unread[:3]) + (" and others" if len(track.unread) > 3 else "")
        told.append(
            f"{names} could not be read and is not heard."
            if len(track.unread) == 1
            else f"{names} could not be read and are not heard."
        )
    if track.quieter_db > 0.05:
        told.append(f"All sound was made {track.quieter_db:.1f} dB quieter, so that it does not clip.")
    return " ".join(told)


class _Frames:
    """The frames of a sequence, each with the words that stand on it."""

    def __init__(self, sequence: OutSequence, stage: Stage, words: list[Cue]) -> None:
        self.stage, self.fps = stage, sequence.fps
        self._timeline, self._words = sequence.timeline, words
        self._at = 0

    def of(self, start: int, stop: int) -> Iterator[tuple[Canvas, bool]]:
        """Frames from one number up to another; with each whether it is the same as the one before."""
        before: tuple[str, str] | None = None
        last: Canvas | None = None
        for i in range(start, stop):
            seen = self._timeline.at(i / self.fps)
            said = self._said(i / self.fps)
            key = (seen[0].shot, said) if seen and self.stage.is_still(seen) else None
            if key is not None and key == before and last is not None:
                yield last, True
                continue
            last, before = self._drawn(seen, said), key
            yield last, False

    def _drawn(self, seen: tuple[Seen, ...], said: str) -> Canvas:
        canvas = self.stage.drawn(seen)
        if said:
            caption_overlay(tuple(in_lines(said)), self.stage.width, self.stage.height).lay_over(canvas.planes)
        return canvas

    def _said(self, time_s: float) -> str:
        if not self._words:
            return ""
        if self._at and self._words[self._at - 1].end_s > time_s:
            self._at = 0
        while self._at < len(self._words) and self._words[self._at].end_s <= time_s:
            self._at += 1
        cue = self._words[self._at] if self._at < len(self._words) else None
        return cue.words if cue is not None and cue.start_s <= time_s else ""


def _write_part(frames: _Frames, start: int, stop: int, to: Path, kind: Kind, going: Going, count: int) -> None:
    rate = Fraction(frames.fps).limit_denominator(1001)
    half = to.with_name(f"half-{to.name}")
    with av.open(str(half), "w", format=kind) as container:
        stream = opened(container, kind, rate, frames.stage.width, frames.stage.height)
        for i, ready in enumerate(_ahead(_encodable(frames.of(start, stop)))):
            ready.pts, ready.time_base = i, 1 / rate
            container.mux(stream.encode(ready))
            if i % 24 == 0:
                going.done(start + i, count)
        container.mux(stream.encode(None))
    os.replace(half, to)


def _encodable(frames: Iterator[tuple[Canvas, bool]]) -> Iterator[av.VideoFrame]:
    """Frames as an encoder takes them; what is the same as before is made once."""
    ready: av.VideoFrame | None = None
    for canvas, same in frames:
        if ready is None or not same:
            ready = av.VideoFrame.from_ndarray(canvas.array, format="yuv420p")
        yield ready


def _ahead(made: Iterator[Made], most: int = 3) -> Iterator[Made]:
    """What is made, some ahead of its time: the next frames are drawn while one is encoded."""
    with ThreadPoolExecutor(1) as thread:
        waiting: deque[Future[Made | None]] = deque()
        while True:
            while len(waiting) < most:
                waiting.append(thread.submit(next, made, None))
            one = waiting.popleft().result()
            if one is None:
                return
            yield one


def opened(container: av.container.OutputContainer, kind: str, rate: Fraction, width: int, height: int) -> VideoStream:
    """A stream of pictures in a file that is written."""
    codec, options = CODECS[kind]
    stream = container.add_stream(codec, rate=rate, options=options)
    assert isinstance(stream, VideoStream)
    stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
    stream.codec_context.time_base = 1 / rate
    for about in ("colorspace", "color_primaries", "color_trc", "color_range"):
        setattr(stream.codec_context, about, 1)  # BT.709 in video's range
    return stream


def _joined(parts: list[Path], to: Path, kind: Kind, rate: Fraction, track: Soundtrack | None = None) -> None:
    """Parts of one form, one after another in one file; nothing is encoded again. The sound is encoded beside them."""
    options = {"movflags": "+faststart"} if kind == "mp4" else {}
    with av.open(str(to), "w", format=kind, options=options) as out:
        stream: VideoStream | None = None
        heard: Iterator[av.Packet[AudioStream]] = iter(())
        start = Fraction(0)
        for part in parts:
            with av.open(str(part)) as container:
                own = container.streams.video[0]
                if stream is None:
                    stream = out.add_stream_from_template(own)
                    heard = packets(track, soundtrack.add_stream(out, kind)) if track is not None else heard
                base = own.time_base
                assert base is not None
                shift = round(start / base)
                frames = 0
                for packet in container.demux(own):
                    if packet.dts is None or packet.pts is None:
                        continue
                    packet.pts += shift
                    packet.dts += shift
                    packet.stream = stream
                    if frames % 24 == 0:
                        _mux_until(out, heard, float(start + Fraction(frames) / rate) + 1.0)
                    frames += 1
                    out.mux(packet)
                start += Fraction(frames) / rate
        _mux_until(out, heard, None)


def _mux_until(
    out: av.container.OutputContainer, heard: Iterator[av.Packet[AudioStream]], time_s: float | None
) -> None:
    """Write the sound up to a moment beside the pictures; None: all that is left."""
    for packet in heard:
        out.mux(packet)
        if time_s is not None and packet.pts is not None and float(packet.pts * packet.time_base) >= time_s:
            return
