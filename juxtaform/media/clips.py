"""Clips read frame by frame: MP4, WebM and MOV by PyAV, animated GIF and WebP by Pillow; refused with the reason when they are not what they say."""

from __future__ import annotations

import io
import time
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
from av.video.stream import VideoStream
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.clips.reading import GRID, READ_SIDE, Frame, every
from juxtaform.core.sound.levels import RATE, Samples
from juxtaform.limits import (
    LEAST_SIDE_PX,
    MOST_CLIP_BYTES,
    MOST_CLIP_FRAMES,
    MOST_CLIP_S,
    MOST_CLIP_SIDE_PX,
    MOST_CLIP_WORK_S,
)
from juxtaform.media.arrivals import is_still
from juxtaform.media.decode import PictureRefused
from juxtaform.media.sounds import SoundRefused, as_wav

Pixels = NDArray[np.uint8]
MP4, MOV, WEBM, GIF, WEBP = "video/mp4", "video/quicktime", "video/webm", "image/gif", "image/webp"
ENDINGS = {MP4: "mp4", MOV: "mov", WEBM: "webm", GIF: "gif", WEBP: "webp"}
DEMUXERS = {MP4: "mov", MOV: "mov", WEBM: "matroska"}
"""Each file is opened by the one reader of what it says it is, so that no playlist in disguise leads anywhere."""
PLAYED = {"h264", "vp8", "vp9", "av1", "libdav1d", "libvpx", "libvpx-vp9"}
"""Decoders of what browsers play themselves."""
PLAYED_H264 = {"yuv420p", "yuvj420p"}
"""... and of H.264 the forms of pixels: not those of studios, of ten bits or of full colour."""
FILM_SIDE_PX = 1280
USUAL_FRAME_S = 0.1
"""What browsers make of a frame of a GIF that names no time."""
LEAST_FRAME_S = 0.01


@dataclass(frozen=True)
class ClipFacts:
    """What is known of a clip: its media type, size of a frame in px, frames, seconds, and whether it has sound."""

    media_type: str
    width: int
    height: int
    frames: int
    seconds: float
    has_sound: bool = False

    @property
    def fps(self) -> float:
        return self.frames / self.seconds if self.seconds > 0 else 0.0


def clip_type(data: bytes) -> str | None:
    """The media type of a clip by its first bytes; None for what is none. A GIF or WebP is one when it has several frames."""
    if data[4:8] == b"ftyp" and not is_still(data):
        return MOV if data[8:12] == b"qt  " else MP4
    if data[:4] == b"\x1a\x45\xdf\xa3":
        return WEBM
    if data[:6] in (b"GIF87a", b"GIF89a") or (data[:4] == b"RIFF" and data[8:12] == b"WEBP"):
        try:
            with Image.open(io.BytesIO(data), formats=("GIF", "WEBP")) as picture:
                many = getattr(picture, "n_frames", 1) > 1
        except Exception:  # A decoder says it in many ways; whoever reads it on says why.
            return None
        return (GIF if data[:3] == b"GIF" else WEBP) if many else None
    return None


def facts_of(path: Path, media_type: str) -> ClipFacts:
    """What is known of a clip, all of its frames counted by decoding. Raises PictureRefused."""
    size, count, last, length = (0, 0), 0, 0.0, 0.0
    until = time.monotonic() + MOST_CLIP_WORK_S
    with _opened(path, media_type) as clip:
        for at, frame_s, width, height in clip.times():
            if size == (0, 0):
                size = (width, height)
            count, last, length = count + 1, at, frame_s
            if time.monotonic() > until:
                raise PictureRefused("The clip takes too long to read. Export it smaller or shorter.")
            if count > MOST_CLIP_FRAMES:
                raise PictureRefused(f"The clip has more than {MOST_CLIP_FRAMES:,} frames. Cut it shorter.")
            if last > MOST_CLIP_S:
                raise PictureRefused(f"The clip is longer than {MOST_CLIP_S:.0f} seconds. Cut it shorter.")
        sound = clip.has_sound
    if count < 2:
        raise PictureRefused("The clip has fewer than two frames. Save or export it again.")
    return ClipFacts(media_type, size[0], size[1], count, round(last + length, 4), sound)


def frames(
    path: Path, media_type: str, side: int | None = None, start_s: float = 0.0
) -> Iterator[tuple[float, Pixels]]:
    """The frames of a clip from a time on, each with its time in s, sRGB (h, w, 3), all of one size, at most `side` px. Raises PictureRefused."""
    with _opened(path, media_type) as clip:
        yield from clip.pictures(side, start_s)


def read_through(path: Path, media_type: str) -> Iterator[Frame]:
    """All frames of a clip as they are read: the light of each, the pixels of about six a second. Raises PictureRefused."""
    with _opened(path, media_type) as clip:
        yield from clip.read()


def frame_at(path: Path, media_type: str, at_s: float, side: int | None = None) -> Pixels:
    """The frame that is seen at a time; the last one for a time past the end. Raises PictureRefused."""
    seen: Pixels | None = None
    for time_s, pixels in frames(path, media_type, side, max(0.0, at_s - 0.001)):
        if seen is not None and time_s > at_s + 0.001:
            break
        seen = pixels
        if time_s >= at_s - 0.001:
            break
    if seen is None:
        return last_frame(path, media_type, side)
    return seen


def plays(path: Path, media_type: str) -> bool:
    """Whether browsers play a clip as it is. Raises PictureRefused."""
    with _opened(path, media_type) as clip:
        return isinstance(clip, _Film) and clip.codec in PLAYED and (clip.codec != "h264" or clip.form in PLAYED_H264)


def as_film(path: Path, media_type: str, to: Path) -> None:
    """Write a clip as a film (WebM) that browsers play, its frames at their times, without sound. Raises PictureRefused, OSError."""
    length = facts_of(path, media_type).seconds
    with av.open(str(to), "w", format="webm") as out:
        stream: VideoStream | None = None
        last: av.VideoFrame | None = None
        for at, pixels in frames(path, media_type, FILM_SIDE_PX):
            if stream is None:
                stream = _film_stream(out, pixels.shape[1], pixels.shape[0])
            last = av.VideoFrame.from_ndarray(pixels[: stream.height, : stream.width], format="rgb24")
            last.pts = round(at * 1000)
            out.mux(stream.encode(last))
        assert stream is not None
        assert last is not None
        # The last frame once more where the clip ends: a film is as long as its last frame is late.
        if (end := round(length * 1000) - 1) > (last.pts or 0):
            last.pts = end
            out.mux(stream.encode(last))
        out.mux(stream.encode())


def _film_stream(out: av.container.OutputContainer, width: int, height: int) -> VideoStream:
    stream = out.add_stream(
        "libvpx", rate=30, options={"crf": "10", "b": "4M", "deadline": "realtime", "cpu-used": "6"}
    )
    assert isinstance(stream, VideoStream)
    stream.width, stream.height, stream.pix_fmt = width - width % 2, height - height % 2, "yuv420p"
    stream.codec_context.time_base = Fraction(1, 1000)
    return stream


def sound_of(path: Path, media_type: str, start_s: float, end_s: float) -> bytes:
    """What is heard in a part of a clip, as WAV as long as the part; silence where its sound has not begun or is over. Raises PictureRefused,
    and SoundRefused for a clip without sound."""
    heard = None
    with _opened(path, media_type) as clip:
        if isinstance(clip, _Film) and clip.has_sound:
            heard = clip.sound(start_s, end_s)
    if heard is None or not heard.any():
        raise SoundRefused("There is no sound in this part of the clip, or nothing but silence.")
    return as_wav(heard)


def last_frame(path: Path, media_type: str, side: int | None = None) -> Pixels:
    """The last frame of a clip. Raises PictureRefused."""
    seen: Pixels | None = None
    for _, pixels in frames(path, media_type, side):
        seen = pixels
    if seen is None:
        raise PictureRefused("There is no frame in this clip.")
    return seen


class _Film:
    """An MP4, MOV or WebM."""

    def __init__(self, container: av.container.InputContainer) -> None:
        self._container = container
        if not container.streams.video:
            raise PictureRefused("There is no picture in this clip, only sound.")
        self._stream = container.streams.video[0]
        if self._stream.codec_context is None:
            raise PictureRefused(
                "The clip is written in a way that is not read here. Export it as MP4 (H.264) or WebM."
            )
        width, height = self._stream.codec_context.width, self._stream.codec_context.height
        _see_size(width, height)
        self._stream.thread_type = "SLICE"
        self.codec, self.form = self._stream.codec_context.name, self._stream.codec_context.pix_fmt
        self.has_sound = bool(container.streams.audio)
        start = self._stream.start_time
        self._start = float(start * self._stream.time_base) if start and self._stream.time_base else 0.0
        rate = self._stream.average_rate or self._stream.guessed_rate
        self._frame_s = float(1 / rate) if rate else 1 / 24

    def times(self) -> Iterator[tuple[float, float, int, int]]:
        for i, frame in enumerate(self._container.decode(self._stream)):
            width, height = _upright(frame)
            yield self._at(frame, i), self._frame_s, width, height

    def pictures(self, side: int | None, start_s: float) -> Iterator[tuple[float, Pixels]]:
        if start_s > 1:
            self._container.seek(int((start_s + self._start - 0.5) / self._stream.time_base), stream=self._stream)  # type: ignore[operator]
        size: tuple[int, int] | None = None
        for i, frame in enumerate(self._container.decode(self._stream)):
            at = self._at(frame, i)
            if at < start_s - 1e-6:
                continue
            size = size or _fitted(*_upright(frame), side)
            yield at, _pixels(frame, size)

    def read(self) -> Iterator[Frame]:
        size: tuple[int, int] | None = None
        step = every(self._frame_s)
        for i, frame in enumerate(self._container.decode(self._stream)):
            luma = _luma(frame)
            pixels = None
            if i % step == 0:
                size = size or _fitted(*_upright(frame), READ_SIDE)
                pixels = _pixels(frame, size)
            yield Frame(_on_grid(luma), pixels)

    def sound(self, start_s: float, end_s: float) -> Samples:
        """The samples of a part, (n, channels) int16 at RATE, silent where the stream holds none."""
        stream = self._container.streams.audio[0]
        channels = min(2, stream.codec_context.layout.nb_channels)
        as_wanted = av.AudioResampler(format="s16", layout="mono" if channels == 1 else "stereo", rate=RATE)
        heard = np.zeros((round((end_s - start_s) * RATE), channels), np.int16)
        at: int | None = None
        for frame in (*self._container.decode(stream), None):
            if frame is not None:
                # The stream lies from its first frame on; what comes after follows without a gap, as players do it.
                at = round(((frame.time or 0.0) - self._start - start_s) * RATE) if at is None else at
                frame.pts = None
            for part in as_wanted.resample(frame):
                samples = np.asarray(part.to_ndarray()).reshape(-1)[: part.samples * channels].reshape(-1, channels)
                here = samples[max(0, -(at or 0)) :]
                first = max(0, at or 0)
                held = heard[first : first + len(here)]
                held[:] = here[: len(held)]
                at = (at or 0) + len(samples)
        return heard

    def _at(self, frame: av.VideoFrame, i: int) -> float:
        """When a frame is seen, from the clip's beginning on."""
        return max(0.0, frame.time - self._start) if frame.time is not None else i * self._frame_s


def _upright(frame: av.VideoFrame) -> tuple[int, int]:
    """The size of a frame as it is to be seen: telephones write on their side and say so."""
    return (frame.height, frame.width) if frame.rotation % 180 else (frame.width, frame.height)


def _pixels(frame: av.VideoFrame, size: tuple[int, int]) -> Pixels:
    """A frame's pixels at a size, turned as it says."""
    turns = round(frame.rotation / 90) % 4
    width, height = size if turns % 2 == 0 else size[::-1]
    small = frame.to_ndarray(format="rgb24", width=width, height=height, interpolation="AREA")
    return np.ascontiguousarray(np.rot90(np.asarray(small, dtype=np.uint8), turns))


class _Flip:
    """An animated GIF or WebP."""

    has_sound = False

    def __init__(self, picture: Image.Image) -> None:
        self._picture = picture
        _see_size(*picture.size)

    def _each(self) -> Iterator[tuple[float, float]]:
        at = 0.0
        for i in range(getattr(self._picture, "n_frames", 1)):
            self._picture.seek(i)
            self._picture.load()
            length = max(LEAST_FRAME_S, self._picture.info.get("duration", 0) / 1000) or USUAL_FRAME_S
            yield at, length if length > LEAST_FRAME_S else USUAL_FRAME_S
            at += length if length > LEAST_FRAME_S else USUAL_FRAME_S

    def times(self) -> Iterator[tuple[float, float, int, int]]:
        for at, length in self._each():
            yield at, length, *self._picture.size

    def pictures(self, side: int | None, start_s: float) -> Iterator[tuple[float, Pixels]]:
        size = _fitted(*self._picture.size, side)
        for at, length in self._each():
            if at + length <= start_s + 1e-6:
                continue
            page = Image.new("RGBA", self._picture.size, "white")
            page.alpha_composite(self._picture.convert("RGBA"))
            small = page.convert("RGB")
            yield at, np.asarray(small.resize(size, Image.Resampling.BOX) if size != small.size else small)

    def read(self) -> Iterator[Frame]:
        step = every(next(length for _, length in self._each()))
        for i, (_, pixels) in enumerate(self.pictures(READ_SIDE, 0.0)):
            luma = np.asarray(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
            yield Frame(_on_grid(luma), pixels if i % step == 0 else None)


def _luma(frame: av.VideoFrame) -> NDArray[np.uint8]:
    """The luma of a frame, thinned: read off its first plane where it has one, which costs nothing beside decoding."""
    if (
        not frame.format.name.startswith(("yuv420p", "yuvj420p", "yuv422p", "yuv444p", "nv12"))
        or "1" in frame.format.name[7:]
    ):
        return np.asarray(frame.to_ndarray(format="gray8", width=64, height=36, interpolation="AREA"), dtype=np.uint8)
    plane = frame.planes[0]
    raw: NDArray[np.uint8] = np.asarray(memoryview(plane), dtype=np.uint8)
    rows = raw.reshape(plane.height, plane.line_size)[:, : plane.width]
    thin = rows[:: max(1, plane.height // 72), :: max(1, plane.width // 128)].astype(np.float32)
    full = frame.color_range == av.video.reformatter.ColorRange.JPEG
    return np.asarray(np.clip(thin if full else (thin - 16) * (255 / 219), 0, 255), dtype=np.uint8)


def _on_grid(luma: NDArray[np.uint8]) -> NDArray[np.uint8]:
    return np.asarray(cv2.resize(luma, (GRID[1], GRID[0]), interpolation=cv2.INTER_AREA), dtype=np.uint8)


@contextmanager
def _opened(path: Path, media_type: str) -> Iterator[_Film | _Flip]:
    if path.stat().st_size > MOST_CLIP_BYTES:
        raise PictureRefused(f"The clip has more than {MOST_CLIP_BYTES >> 20} MB. Export it smaller.")
    try:
        if media_type in DEMUXERS:
            with av.open(str(path), format=DEMUXERS[media_type], metadata_errors="replace") as container:
                yield _Film(container)
        else:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                with Image.open(path, formats=("GIF", "WEBP")) as picture:
                    yield _Flip(picture)
    except PictureRefused:
        raise
    except MemoryError as error:
        raise PictureRefused("There is not enough memory for this clip. Export it smaller.") from error
    except (
        av.error.FFmpegError,
        OSError,
        ValueError,
        EOFError,
        SyntaxError,
        IndexError,
        KeyError,
        ArithmeticError,
    ) as error:
        raise PictureRefused("The clip breaks off or is damaged. Save or export it again.") from error


def _see_size(width: int, height: int) -> None:
    if max(width, height) > MOST_CLIP_SIDE_PX:
        raise PictureRefused(
            f"The clip is {width} × {height} px; the longest side may be {MOST_CLIP_SIDE_PX} px. Export it smaller."
        )
    if min(width, height) < LEAST_SIDE_PX:
        raise PictureRefused(f"The clip is {width} × {height} px: too small to be of use.")


def _fitted(width: int, height: int, side: int | None) -> tuple[int, int]:
    f = min(1.0, side / max(width, height)) if side else 1.0
    return max(2, round(width * f)), max(2, round(height * f))
