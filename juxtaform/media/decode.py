"""Decode PNG, JPEG and WebP into upright 8-bit sRGB, or refuse with the reason."""

from __future__ import annotations

import io
import struct
import warnings
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageCms, ImageOps

from juxtaform.limits import LEAST_SIDE_PX, MOST_PICTURE_BYTES, MOST_PIXELS, MOST_SIDE_PX

FORMATS = {"PNG": "image/png", "JPEG": "image/jpeg", "WEBP": "image/webp"}

Image.MAX_IMAGE_PIXELS = MOST_PIXELS


class PictureRefused(ValueError):
    """A file that cannot be taken as a picture; the message says why and what to do."""


def decoded(data: bytes) -> NDArray[np.uint8]:
    """Upright sRGB pixels (h, w, 3) of a picture file; transparency is laid on white. Raises PictureRefused."""
    picture = _opened(data)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            picture.load()
        return _as_srgb(picture)
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise PictureRefused(_too_many(picture)) from error
    except (OSError, SyntaxError, ValueError, struct.error, EOFError) as error:
        if isinstance(error, PictureRefused):
            raise
        raise PictureRefused("The file breaks off or is damaged. Save or export it again.") from error


def decoded_file(path: Path) -> NDArray[np.uint8]:
    """The same, from a file. Raises PictureRefused, also for a file that cannot be read."""
    try:
        return decoded(path.read_bytes())
    except OSError as error:
        raise PictureRefused(f"{path.name} cannot be read: {error.strerror or error}.") from error


def media_type(data: bytes) -> str:
    """The media type of a picture file. Raises PictureRefused."""
    return FORMATS[str(_opened(data).format)]


def _opened(data: bytes) -> Image.Image:
    if not data:
        raise PictureRefused("The file is empty (0 bytes). Save or export it again.")
    if len(data) > MOST_PICTURE_BYTES:
        raise PictureRefused(f"The file has {len(data) // 2**20} MB; the most is {MOST_PICTURE_BYTES // 2**20} MB.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            picture = Image.open(io.BytesIO(data), formats=tuple(FORMATS))
    except Image.DecompressionBombError as error:
        raise PictureRefused(
            f"The picture claims more than {MOST_PIXELS // 1_000_000} million pixels. Export it smaller."
        ) from error
    except Exception as error:
        raise PictureRefused("This is not a PNG, JPEG or WebP picture. Export it as one of these.") from error
    w, h = picture.size
    if max(w, h) > MOST_SIDE_PX:
        raise PictureRefused(
            f"The picture is {w} × {h} px; the longest side may be {MOST_SIDE_PX} px. Export it smaller."
        )
    if w * h > MOST_PIXELS:
        raise PictureRefused(_too_many(picture))
    if min(w, h) < LEAST_SIDE_PX:
        raise PictureRefused(f"The picture is {w} × {h} px: too small to be of use.")
    return picture


def _too_many(picture: Image.Image) -> str:
    w, h = picture.size
    return f"The picture has {w} × {h} px; the most is {MOST_PIXELS // 1_000_000} million pixels. Export it smaller."


def _as_srgb(picture: Image.Image) -> NDArray[np.uint8]:
    profile = picture.info.get("icc_profile")
    upright = ImageOps.exif_transpose(picture)
    if upright.mode.startswith("I") or upright.mode == "F":
        wide = np.asarray(upright, dtype=np.float64)
        top = 65535.0 if wide.max() > 255 else 255.0
        grey = np.rint(np.clip(wide / top, 0, 1) * 255).astype(np.uint8)
        return np.repeat(grey[..., None], 3, axis=2)
    alpha = None
    if upright.mode in ("RGBA", "LA", "PA") or "transparency" in upright.info:
        upright = upright.convert("RGBA")
        alpha = np.asarray(upright.getchannel("A"))
        upright = upright.convert("RGB")
    elif upright.mode not in ("RGB", "CMYK", "L"):
        upright = upright.convert("RGB")
    if profile:
        upright = _converted(upright, profile)
    pixels = np.asarray(upright.convert("RGB"))
    if alpha is not None and int(alpha.min()) < 255:
        part = alpha[..., None].astype(np.uint16)
        pixels = ((pixels * part + 255 * (255 - part) + 127) // 255).astype(np.uint8)
    return np.ascontiguousarray(pixels)


def _converted(picture: Image.Image, profile: bytes) -> Image.Image:
    """Through the embedded profile to sRGB; a profile that does not fit the picture is passed over."""
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        made = ImageCms.profileToProfile(picture, source, ImageCms.createProfile("sRGB"), outputMode="RGB")
    except (ImageCms.PyCMSError, OSError, ValueError):
        return picture
    return made or picture
