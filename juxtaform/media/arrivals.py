"""Pictures as painting programs, scanners and telephones save them: each is made into a PNG, which every browser shows and every part of us reads."""

from __future__ import annotations

import io
import logging
import zipfile
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
import pi_heif
from PIL import Image
from psd_tools import PSDImage
from psd_tools.constants import Compression

from juxtaform.limits import MOST_PICTURE_BYTES, MOST_PIXELS
from juxtaform.media.decode import UNREAD, PictureRefused, loading, opened, within_bytes, within_pixels

STILL_BRANDS = frozenset([b"heic", b"heix", b"heim", b"heis", b"hevc", b"hevx", b"mif1", b"msf1", b"avif", b"avis"])
"""What the first box of a file of still pictures says that it is (ISO/IEC 23008-12); films begin with the same box."""
_LAYERED = b"mimetypeimage/openraster"
"""How an OpenRaster archive of layers begins, behind its first 30 bytes."""
_MERGED = "mergedimage.png"
"""The whole picture, which lies beside the layers; other archives of layers have it too."""
_ENTRIES_BYTES = 1 << 16
"""At the end of an archive, where its entries are listed."""
_NOT_MERGED = (
    "This file holds its layers and no whole picture. Save it so that other programs can open it, or export it as PNG."
)
_BYTES_A_PIXEL = 24
"""What a layered file's whole picture may take beside itself while it is read: four colours of 16 bits, three times."""
_PNG_LEVEL = 1

pi_heif.register_heif_opener(decode_threads=1, thumbnails=False, depth_images=False, aux_images=False)


class _Strict(logging.Handler):
    """Refuses a layered file of which something cannot be read: its reader says so in its log alone, and makes that part black."""

    def emit(self, record: logging.LogRecord) -> None:
        raise PictureRefused(UNREAD)


logging.getLogger("psd_tools.compression").addHandler(_Strict(logging.WARNING))


@dataclass(frozen=True, slots=True)
class Arrived:
    """A file as it is kept, and what became of it, in a sentence or two; nothing is said of one that is kept as it came."""

    data: bytes
    told: str = ""


def is_still(data: bytes) -> bool:
    """Whether a file that begins as a film is a still picture.

    >>> is_still(b"\\0\\0\\0\\x18ftypheic"), is_still(b"\\0\\0\\0\\x18ftypisom")
    (True, False)
    """
    return data[4:8] == b"ftyp" and data[8:12] in STILL_BRANDS


def stays(data: bytes) -> bool:
    """Whether a file is kept as it came: PNG, JPEG and WebP are, and so is what nothing here reads."""
    return _opening(data) is None


def arrived(data: bytes) -> Arrived:
    """A picture file as it is kept: PNG, JPEG and WebP as they are, others as PNG with 8 bits per colour, upright, sRGB, on white.
    Raises PictureRefused."""
    within_bytes(data)
    opening = _opening(data)
    if opening is None:
        return Arrived(data)
    picture = opening(data)
    pages = _pages(picture)
    with loading(picture) as pixels:
        done, png = cv2.imencode(".png", pixels[..., ::-1], [cv2.IMWRITE_PNG_COMPRESSION, _PNG_LEVEL])
    if not done:
        raise PictureRefused("There is not enough memory for this picture. Export it smaller.")
    told = "Kept as PNG."
    if pages > 1:
        told += f" The first of its {pages} pictures came in; save the others as files of their own."
    return Arrived(png.tobytes(), told)


def _pages(picture: Image.Image) -> int:
    """How many pictures a file holds, 1 where that cannot be read."""
    try:
        return int(getattr(picture, "n_frames", 1))
    except Exception:  # A damaged list of pages is said in many ways.
        return 1


def _opening(data: bytes) -> Callable[[bytes], Image.Image] | None:
    """How a file is opened that is not kept as it is, by its first bytes."""
    if data[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"):
        return lambda d: opened(d, ("TIFF",))
    if data[:4] == b"8BPS":
        return _of_photo_layers
    if is_still(data):
        return lambda d: opened(d, ("AVIF", "HEIF"))  # the first box does not always tell which
    if data[:2] == b"BM":
        return lambda d: opened(d, ("BMP",))
    if data[:6] in (b"GIF87a", b"GIF89a"):
        return lambda d: opened(d, ("GIF",))
    if data[:4] == b"PK\3\4" and (data.startswith(_LAYERED, 30) or _MERGED.encode() in data[-_ENTRIES_BYTES:]):
        return _of_archived_layers
    return None


def _of_photo_layers(data: bytes) -> Image.Image:
    """The whole picture of a PSD or PSB file, its layers left alone."""
    try:
        file = PSDImage.open(io.BytesIO(data), max_alloc_bytes=MOST_PIXELS * _BYTES_A_PIXEL)
        within_pixels(file.width, file.height)
        _whole(file)
        picture = file.topil()
    except PictureRefused:
        raise
    except MemoryError as error:
        raise PictureRefused("There is not enough memory for this picture. Export it smaller.") from error
    except Exception as error:  # A reader says it in many ways.
        raise PictureRefused(UNREAD) from error
    if picture is None:
        raise PictureRefused(_NOT_MERGED)
    return picture


def _whole(file: PSDImage) -> None:
    """Raises PictureRefused where a packed picture breaks off: its reader takes what is missing for black. Each row says its length, in 2 bytes (PSB: 4)."""
    packed = file._record.image_data
    if packed.compression == Compression.RLE:
        rows, size = file.height * file.channels, 2 * file.version
        lengths = np.frombuffer(packed.data[: rows * size], dtype=f">u{size}")
        if len(lengths) < rows or int(lengths.sum(dtype=np.int64)) > len(packed.data) - rows * size:
            raise PictureRefused(UNREAD)


def _of_archived_layers(data: bytes) -> Image.Image:
    """The whole picture that lies beside the layers of an archive."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entry = archive.getinfo(_MERGED)
            if entry.file_size > MOST_PICTURE_BYTES:
                raise PictureRefused(
                    f"The picture in this file has more than {MOST_PICTURE_BYTES >> 20} MB. Export it smaller."
                )
            whole = archive.read(entry)
    except KeyError as error:
        raise PictureRefused(_NOT_MERGED) from error
    except (zipfile.BadZipFile, OSError, RuntimeError, NotImplementedError, EOFError, ValueError) as error:
        raise PictureRefused(UNREAD) from error
    return opened(whole, ("PNG",))
