"""Frames of the sequence as they are seen, as video keeps them: light in full, colours at half the size (4:2:0, ITU-R BT.709).

A picture is turned into these planes once; a move then shifts planes, which is half the work of shifting colours and turning each frame.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Generator, Iterator
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.run.moves import WHOLE, Frame, frame_at, laid_in
from juxtaform.core.run.timeline import Seen
from juxtaform.formats.out.lettering import card
from juxtaform.formats.out.sequence import OutClip, OutSequence, OutShot
from juxtaform.media import clips
from juxtaform.media.decode import PictureRefused, decoded_file

Pixels = NDArray[np.uint8]
Planes = tuple[Pixels, Pixels, Pixels]
"""Light (h, w), and two of colour (h / 2, w / 2), in video's range."""
BT_709 = np.array(
    [[0.18259, 0.61423, 0.06201, 16.0], [-0.10064, -0.33857, 0.43922, 128.0], [0.43922, -0.39894, -0.04027, 128.0]]
)
"""Red, green and blue 0..255 to light and colour in video's range (ITU-R BT.709-6, items 3.2 to 3.4)."""
BLACK = (16, 128, 128)
HELD = 2
"""Pictures held at a time: the one that is seen, and the one under it while it comes."""


def planes_of(pixels: Pixels) -> Planes:
    """A picture (h, w, 3), h and w even, as planes.

    >>> [int(p[0, 0]) for p in planes_of(np.full((2, 2, 3), 255, np.uint8))]
    [235, 128, 128]
    """
    light, blue, red = cv2.split(cv2.transform(pixels, BT_709))
    half = (pixels.shape[1] // 2, pixels.shape[0] // 2)
    small = [np.asarray(cv2.resize(p, half, interpolation=cv2.INTER_AREA), np.uint8) for p in (blue, red)]
    return np.asarray(light, np.uint8), small[0], small[1]


class Canvas:
    """A frame of even size: `array` (h * 3 / 2, w) as an encoder takes it, and its planes, which lie in it."""

    def __init__(self, width: int, height: int) -> None:
        self.array = np.empty((height * 3 // 2, width), np.uint8)
        flat, whole = self.array.reshape(-1), height * width
        half = (height // 2, width // 2)
        self.planes: Planes = (
            self.array[:height],
            flat[whole : whole + whole // 4].reshape(half),
            flat[whole + whole // 4 :].reshape(half),
        )

    def blacken(self) -> None:
        for plane, value in zip(self.planes, BLACK, strict=True):
            plane[:] = value


class Stage:
    """Draws frames of a sequence one after another; what does not move is drawn once."""

    def __init__(self, sequence: OutSequence, width: int, height: int) -> None:
        """`width` and `height` are even."""
        self.width, self.height = width, height
        self.troubled: list[int] = []
        """Numbers of shots whose picture could not be read; a card stands in for it."""
        self._shots = {x.id: x for x in sequence.shots}
        self._held: OrderedDict[str, Planes] = OrderedDict()
        self._films: OrderedDict[str, _Film] = OrderedDict()

    def is_still(self, seen: tuple[Seen, ...]) -> bool:
        """Whether a frame looks like its neighbours in the same shot."""
        if len(seen) != 1 or seen[0].strength < 1:
            return False
        shot = self._shots[seen[0].shot]
        start, end = shot.frames
        return start == end and (shot.picture is None or shot.picture.clip is None)

    def drawn(self, seen: tuple[Seen, ...]) -> Canvas:
        """A frame; black where nothing is seen."""
        canvas = Canvas(self.width, self.height)
        if not seen or seen[0].strength < 1:
            canvas.blacken()
        for one in seen:
            if one.strength >= 1:
                self._lay(one, canvas)
                continue
            over = Canvas(self.width, self.height)
            self._lay(one, over)
            cv2.addWeighted(over.array, one.strength, canvas.array, 1 - one.strength, 0, dst=canvas.array)
        return canvas

    def _lay(self, seen: Seen, canvas: Canvas) -> None:
        """Lay a shot's frame on a canvas; what it leaves free is black. Places lie between pixels, so that slow moves do not jump."""
        shot = self._shots[seen.shot]
        picture = self._filmed(shot, seen.part) or self._picture(shot)
        start, end = shot.frames
        frame = frame_at(start, end, seen.part) if shot.picture else WHOLE
        h, w = picture[0].shape
        _, (_, _, pw, ph) = laid_in(w / h, self.width / self.height, frame)
        wide, high = _even(pw * self.width, self.width), _even(ph * self.height, self.height)
        left, top = ((self.width - wide) // 4 * 2, (self.height - high) // 4 * 2)
        if (wide, high) != (self.width, self.height):
            canvas.blacken()
        for k, (plane, out) in enumerate(zip(picture, canvas.planes, strict=True)):
            d = 2 if k else 1
            room = out[top // d : (top + high) // d, left // d : (left + wide) // d]
            _shifted(plane, frame, room)

    def _filmed(self, shot: OutShot, part: float) -> Planes | None:
        """The frame of a shot's clip that is seen at a part of the shot; the last one when the clip is over. None without a clip, or where it cannot be read."""
        if shot.picture is None or shot.picture.clip is None:
            return None
        film = self._films.get(shot.id)
        if film is None:
            film = self._films[shot.id] = _Film(shot.picture.clip, lambda pixels: self._fitting(pixels, shot))
            while len(self._films) > HELD:
                self._films.popitem(last=False)[1].close()
        try:
            return film.at(part * shot.length_s)
        except (PictureRefused, OSError):
            if shot.number not in self.troubled:
                self.troubled.append(shot.number)
            return None

    def _picture(self, shot: OutShot) -> Planes:
        if shot.id in self._held:
            self._held.move_to_end(shot.id)
            return self._held[shot.id]
        while len(self._held) >= HELD:
            self._held.popitem(last=False)
        self._held[shot.id] = picture = planes_of(self._read(shot))
        return picture

    def _read(self, shot: OutShot) -> Pixels:
        """The shot's picture, of even size, as large as its closest frame needs it on this stage."""
        if shot.picture is None:
            return card(shot.number, shot.shows, self.width, self.height)
        try:
            pixels = decoded_file(Path(shot.picture.path))
        except (PictureRefused, OSError):
            self.troubled.append(shot.number)
            return card(shot.number, f"The picture of this shot cannot be read. {shot.shows}", self.width, self.height)
        return self._fitting(pixels, shot)

    def _fitting(self, pixels: Pixels, shot: OutShot) -> Pixels:
        """Pixels of even size, as many as the shot's closest frame needs on this stage."""
        h, w = pixels.shape[:2]
        closest = min(f[2] for f in shot.frames)
        _, (_, _, pw, _) = laid_in(w / h, self.width / self.height, WHOLE)
        scale = min(1.0, pw * self.width / closest / w)
        size = (_even(w * scale), _even(h * scale))
        if size == (w, h):
            return pixels
        return np.asarray(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), np.uint8)


class _Film:
    """A clip read frame by frame as a shot goes on; one that is asked for an earlier moment begins anew."""

    def __init__(self, clip: OutClip, fit: Callable[[Pixels], Pixels]) -> None:
        self._clip, self._fit = clip, fit
        self._frames: Iterator[tuple[float, Pixels]] = iter(())
        self._next: tuple[float, Pixels] | None = None
        self._seen: tuple[float, Planes] | None = None

    def at(self, time_s: float) -> Planes:
        """The frame at a moment of the shot. Raises PictureRefused, OSError."""
        wanted = min(self._clip.start_s + time_s, self._clip.end_s)
        if self._seen is None or wanted < self._seen[0] - 1e-6:
            self._begin()
        latest: tuple[float, Pixels] | None = None
        while self._next is not None and (self._next[0] <= wanted + 1e-6 or (self._seen is None and latest is None)):
            latest = self._next
            self._next = next(self._frames, None)
        if latest is not None:
            self._seen = latest[0], planes_of(self._fit(latest[1]))
        if self._seen is None:
            raise PictureRefused("There is no frame in this part of the clip.")
        return self._seen[1]

    def _begin(self) -> None:
        self.close()
        path = Path(self._clip.path)
        self._frames = clips.frames(path, self._clip.media_type, None, max(0.0, self._clip.start_s - 0.001))
        self._next, self._seen = next(self._frames, None), None

    def close(self) -> None:
        """Let the file go."""
        if isinstance(self._frames, Generator):
            self._frames.close()


def _shifted(plane: Pixels, frame: Frame, room: Pixels) -> None:
    """Draw the part of a plane that a frame shows into some room."""
    h, w = plane.shape
    high, wide = room.shape
    x, y, fw, fh = frame
    sx, sy = fw * w / wide, fh * h / high
    # Middles of pixels fall on middles of pixels.
    to_plane = np.array([[sx, 0, x * w + sx / 2 - 0.5], [0, sy, y * h + sy / 2 - 0.5]], np.float64)
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    room[:] = cv2.warpAffine(plane, to_plane, (wide, high), flags=flags, borderMode=cv2.BORDER_REPLICATE)


def _even(size: float, most: int | None = None) -> int:
    even = max(2, 2 * round(size / 2))
    return even if most is None else min(most, even)
