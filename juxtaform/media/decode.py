"""Decode PNG, JPEG and WebP into upright 8-bit sRGB, or refuse with the reason."""

from __future__ import annotations

import io
import threading
import warnings
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageCms

from juxtaform.limits import LEAST_SIDE_PX, MOST_PICTURE_BYTES, MOST_PIXELS, MOST_PIXELS_AT_ONCE, MOST_SIDE_PX
from juxtaform.media.shared import at_hand

FORMATS = {"PNG": "image/png", "JPEG": "image/jpeg", "MPO": "image/jpeg", "WEBP": "image/webp"}
"""Phones write JPEGs with further pictures behind the first (MPO, CIPA DC-007); the first is taken."""
OPENED = ("PNG", "JPEG", "WEBP")
_DAMAGED = "The file breaks off or is damaged. Save or export it again."
UNREAD = "The file is damaged, or of a kind that cannot be read here. Export it as PNG."
_UNKNOWN = "This is no picture that can be read here. Export it as PNG, JPEG, WebP or TIFF."
BAND_PIXELS = 4_000_000
LARGE_WEBP_PIXELS = 20_000_000

Image.MAX_IMAGE_PIXELS = MOST_PIXELS


class PictureRefused(ValueError):
    """A file that cannot be taken as a picture; the message says why and what to do."""


def decoded(data: bytes) -> NDArray[np.uint8]:
    """Upright sRGB pixels (h, w, 3) of a picture file; transparency is laid on white. Raises PictureRefused."""
    with decoding(data) as pixels:
        return pixels


@contextmanager
def decoding(data: bytes) -> Iterator[NDArray[np.uint8]]:
    """The same, for as long as they are needed: large pictures wait for each other. Raises PictureRefused."""
    picture = opened(data)
    with _in_room(
        picture, lambda: _large_webp(picture, data) if _is_large_webp(picture) else _loaded(picture)
    ) as pixels:
        yield pixels


def loading(picture: Image.Image) -> AbstractContextManager[NDArray[np.uint8]]:
    """The same, of a picture that was opened otherwise. Raises PictureRefused."""
    return _in_room(picture, lambda: _loaded(picture))


@contextmanager
def _in_room(picture: Image.Image, load: Callable[[], NDArray[np.uint8]]) -> Iterator[NDArray[np.uint8]]:
    with _room.of(picture.width * picture.height):
        try:
            pixels = load()
        finally:
            picture.close()
        yield pixels


def _loaded(picture: Image.Image) -> NDArray[np.uint8]:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            picture.load()
        return _as_srgb(picture)
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise PictureRefused(_too_many(*picture.size)) from error
    except MemoryError as error:
        raise PictureRefused("There is not enough memory for this picture. Export it smaller.") from error
    except Exception as error:  # A decoder says it in many ways.
        raise PictureRefused(_DAMAGED) from error


def _is_large_webp(picture: Image.Image) -> bool:
    still = getattr(picture, "n_frames", 1) == 1
    return picture.format == "WEBP" and still and picture.width * picture.height > LARGE_WEBP_PIXELS


def _large_webp(picture: Image.Image, data: bytes) -> NDArray[np.uint8]:
    """A large WebP, which Pillow would hold five times while it is loaded: decoded once, then taken by bands."""
    raw = cv2.imdecode(np.frombuffer(data, dtype=np.uint8), cv2.IMREAD_UNCHANGED | cv2.IMREAD_IGNORE_ORIENTATION)
    if raw is None or raw.shape[:2] != (picture.height, picture.width):
        raise PictureRefused(_DAMAGED)
    order = [2, 1, 0, 3][: raw.shape[2]]
    out = np.empty((picture.height, picture.width, 3), dtype=np.uint8)
    rows = max(1, BAND_PIXELS // picture.width)
    band = _band(picture)
    for y in range(0, picture.height, rows):
        out[y : y + rows] = band(Image.fromarray(np.ascontiguousarray(raw[y : y + rows, :, order])))
    del raw
    return np.ascontiguousarray(_orientation(picture)(out))


class _Room:
    """Room in memory for pictures, in pixels: who finds none waits until others are done."""

    def __init__(self, most: int) -> None:
        self._most, self._taken = most, 0
        self._free = threading.Condition()

    @contextmanager
    def of(self, pixels: int) -> Iterator[None]:
        with self._free:
            self._free.wait_for(lambda: self._taken == 0 or self._taken + pixels <= self._most)
            self._taken += pixels
        try:
            yield
        finally:
            with self._free:
                self._taken -= pixels
                self._free.notify_all()


_room = _Room(MOST_PIXELS_AT_ONCE)


def decoded_file(path: Path) -> NDArray[np.uint8]:
    """The same, from a file. Raises PictureRefused, also for a file that cannot be read."""
    try:
        return decoded(at_hand(path).read_bytes())
    except OSError as error:
        raise PictureRefused(f"{path.name} cannot be read: {error.strerror or error}.") from error


def media_type(data: bytes) -> str:
    """The media type of a picture file. Raises PictureRefused."""
    return FORMATS[str(opened(data).format)]


def opened(data: bytes, formats: tuple[str, ...] = OPENED) -> Image.Image:
    """A picture file of one of some formats, opened and not yet loaded, its size within the limits. Raises PictureRefused."""
    within_bytes(data)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # What is wrong with a file is told to whoever sent it.
            picture = Image.open(io.BytesIO(data), formats=formats)
            size = picture.size
    except Image.DecompressionBombError as error:
        raise PictureRefused(
            f"The picture claims more than {MOST_PIXELS // 1_000_000} million pixels. Export it smaller."
        ) from error
    except Exception as error:
        raise PictureRefused(_UNKNOWN if formats == OPENED else UNREAD) from error
    within_pixels(*size)
    return picture


def within_bytes(data: bytes) -> None:
    """Raises PictureRefused for an empty file and for one that is too large."""
    if not data:
        raise PictureRefused("The file is empty (0 bytes). Save or export it again.")
    if len(data) > MOST_PICTURE_BYTES:
        raise PictureRefused(f"The file has {len(data) // 2**20} MB; the most is {MOST_PICTURE_BYTES // 2**20} MB.")


def within_pixels(width: int, height: int) -> None:
    """Raises PictureRefused for a picture that is too large or too small."""
    if max(width, height) > MOST_SIDE_PX:
        raise PictureRefused(
            f"The picture is {width} × {height} px; the longest side may be {MOST_SIDE_PX} px. Export it smaller."
        )
    if width * height > MOST_PIXELS:
        raise PictureRefused(_too_many(width, height))
    if min(width, height) < LEAST_SIDE_PX:
        raise PictureRefused(f"The picture is {width} × {height} px: too small to be of use.")


def _too_many(width: int, height: int) -> str:
    return f"The picture has {width} × {height} px; the most is {MOST_PIXELS // 1_000_000} million pixels. Export it smaller."


def _as_srgb(picture: Image.Image) -> NDArray[np.uint8]:
    """A loaded picture as pixels, by bands of rows: little is held beside the picture itself."""
    width, height = picture.size
    turn = _orientation(picture)
    out = np.empty((height, width, 3), dtype=np.uint8)
    rows = max(1, BAND_PIXELS // width)
    band = _wide_band(picture) if picture.mode.startswith("I") or picture.mode == "F" else _band(picture)
    for y in range(0, height, rows):
        out[y : y + rows] = band(picture.crop((0, y, width, min(height, y + rows))))
    picture.close()
    return np.ascontiguousarray(turn(out))


def _wide_band(picture: Image.Image) -> Callable[[Image.Image], NDArray[np.uint8]]:
    """How a band of a grey picture with more than 8 bits becomes 8 bits."""
    low_high = picture.getextrema()
    top = 65535.0 if float(low_high[1]) > 255 else 255.0  # type: ignore[arg-type]

    def grey(band: Image.Image) -> NDArray[np.uint8]:
        wide = np.asarray(band, dtype=np.float32)
        narrow: NDArray[np.uint8] = np.rint(np.clip(wide / top, 0, 1) * 255).astype(np.uint8)
        return narrow[..., None]

    return grey


def _band(picture: Image.Image) -> Callable[[Image.Image], NDArray[np.uint8]]:
    """How a band of a picture becomes sRGB: laid on white where it is transparent, through its profile if that fits."""
    clear = picture.mode in ("RGBA", "LA", "PA") or "transparency" in picture.info
    mode = "RGB" if clear or picture.mode not in ("RGB", "CMYK", "L") else picture.mode
    through = _through_profile(picture.info.get("icc_profile"), mode)

    def colour(band: Image.Image) -> NDArray[np.uint8]:
        alpha = None
        if clear:
            band = band.convert("RGBA")
            alpha = np.asarray(band.getchannel("A"))
        if band.mode != mode:
            band = band.convert(mode)
        pixels = np.asarray(through(band))
        if alpha is None or int(alpha.min()) == 255:
            return pixels
        part = alpha[..., None].astype(np.uint16)
        return ((pixels * part + 255 * (255 - part) + 127) // 255).astype(np.uint8)

    return colour


def _orientation(picture: Image.Image) -> Callable[[NDArray[np.uint8]], NDArray[np.uint8]]:
    """How pixels are turned upright, by the Exif orientation (CIPA DC-008, tag 274)."""
    try:
        value = picture.getexif().get(0x0112, 1)
    except Exception:  # Damaged Exif data turn nothing.
        value = 1
    return _TURNS.get(value, lambda p: p)


_TURNS: dict[int, Callable[[NDArray[np.uint8]], NDArray[np.uint8]]] = {
    2: lambda p: p[:, ::-1],
    3: lambda p: p[::-1, ::-1],
    4: lambda p: p[::-1],
    5: lambda p: p.swapaxes(0, 1),
    6: lambda p: p[::-1].swapaxes(0, 1),
    7: lambda p: p[::-1, ::-1].swapaxes(0, 1),
    8: lambda p: p[:, ::-1].swapaxes(0, 1),
}


def _through_profile(profile: bytes | None, mode: str) -> Callable[[Image.Image], Image.Image]:
    """Through an embedded profile to sRGB; a profile that does not fit the picture is passed over."""
    if profile:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            transform = ImageCms.buildTransform(source, ImageCms.createProfile("sRGB"), mode, "RGB")
            return lambda band: ImageCms.applyTransform(band, transform) or band
        except (ImageCms.PyCMSError, OSError, ValueError):
            pass
    return lambda band: band if band.mode == "RGB" else band.convert("RGB")
