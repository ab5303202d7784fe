"""Pictures stored once under the SHA-256 of their bytes, with thumbnails beside them."""

from __future__ import annotations

import hashlib
import io
import os
import re
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.colour import linear_from_srgb8, srgb_from_linear
from juxtaform.core.light import SceneLight
from juxtaform.core.picture import picture_palette
from juxtaform.core.regions import Box, cut_out
from juxtaform.media.decode import decoded, decoded_file, media_type

THUMB_SIDES = (240, 960)
TEMPORARY = "tmp"
"""How the names of files begin that are being written."""
_SHA = re.compile(r"^[0-9a-f]{64}$")


@dataclass(frozen=True)
class StoredPicture:
    """What is known of a picture on entry: its digest, size in px, bytes, media type and palette as (hex, share)."""

    sha: str
    width: int
    height: int
    bytes: int
    media_type: str
    palette: tuple[tuple[str, float], ...]


class PictureStore:
    """A folder of pictures named by digest. Files are written to a temporary name, synced, then renamed."""

    def __init__(self, root: Path) -> None:
        self.root = root

    def put(self, data: bytes) -> StoredPicture:
        """Store a picture and its thumbnails; the same bytes are stored once. Raises PictureRefused."""
        pixels = decoded(data)
        sha = hashlib.sha256(data).hexdigest()
        for side in THUMB_SIDES:
            _written(self.thumb_path(sha, side), _webp(_fitted(pixels, side)))
        _written(self.path(sha), data)
        swatches = picture_palette(pixels)
        return StoredPicture(
            sha,
            pixels.shape[1],
            pixels.shape[0],
            len(data),
            media_type(data),
            tuple((s.hex, round(s.share, 4)) for s in swatches),
        )

    def clear_halves(self, before: float) -> int:
        """Delete files that were being written when a server died, older than a moment (seconds since 1970); returns how many."""
        return sum(_deleted(p) for p in self.root.glob(f"??/{TEMPORARY}*") if _older(p, before))

    def older(self, before: float) -> Iterator[str]:
        """The digests of pictures here that were last written before a moment, also of those that have thumbnails alone."""
        for folder in sorted(self.root.glob("??")):
            held = {p.name[:64] for p in folder.iterdir() if _SHA.match(p.name[:64])}
            for sha in sorted(held):
                if all(_older(p, before) for p in self._files(sha)):
                    yield sha

    def forget(self, sha: str) -> None:
        """Delete a picture and its thumbnails."""
        for path in self._files(sha):
            _deleted(path)

    def path(self, sha: str) -> Path:
        """Where the picture's own bytes lie. Raises KeyError for what is no digest."""
        return self._place(sha) / sha

    def thumb_path(self, sha: str, side: int) -> Path:
        """Where its thumbnail lies; the nearest size at least as large is chosen."""
        kept = next((s for s in THUMB_SIDES if s >= side), THUMB_SIDES[-1])
        return self._place(sha) / f"{sha}.{kept}.webp"

    def pixels(self, sha: str) -> NDArray[np.uint8]:
        return decoded_file(self.path(sha))

    def small(self, sha: str) -> NDArray[np.uint8]:
        """Its pixels as the smallest thumbnail has them."""
        with Image.open(self.thumb_path(sha, THUMB_SIDES[0])) as picture:
            return np.asarray(picture.convert("RGB"))

    def crop(self, sha: str, box: Box, side: int, light: SceneLight | None = None) -> bytes:
        """A WebP of a box on a picture, at most `side` px, with a scene light taken out if one is given."""
        small = _fitted(self._cut(sha, box, side), side)
        if light:
            even = light.taken_out(linear_from_srgb8(small))
            small = np.rint(srgb_from_linear(even) * 255).astype(np.uint8)
        return _webp(small)

    def _cut(self, sha: str, box: Box, side: int) -> NDArray[np.uint8]:
        """The box's pixels, from the large thumbnail where that has enough of them."""
        width, height = Image.open(self.path(sha)).size
        thumb = Image.open(self.thumb_path(sha, THUMB_SIDES[-1]))
        scale = max(thumb.size) / max(width, height)
        if max(box.w, box.h) * scale < 0.75 * side and scale < 1:
            return cut_out(self.pixels(sha), box)
        return cut_out(
            np.asarray(thumb.convert("RGB")), Box(box.x * scale, box.y * scale, box.w * scale, box.h * scale)
        )

    def _files(self, sha: str) -> list[Path]:
        return [p for p in (self.path(sha), *(self.thumb_path(sha, side) for side in THUMB_SIDES)) if p.exists()]

    def _place(self, sha: str) -> Path:
        if not _SHA.match(sha):
            raise KeyError(sha)
        return self.root / sha[:2]


def _older(path: Path, before: float) -> bool:
    try:
        return path.stat().st_mtime < before
    except FileNotFoundError:
        return False


def _deleted(path: Path) -> bool:
    path.unlink(missing_ok=True)
    return True


def _fitted(pixels: NDArray[np.uint8], side: int) -> NDArray[np.uint8]:
    picture = Image.fromarray(pixels)
    picture.thumbnail((side, side), Image.Resampling.LANCZOS, reducing_gap=3.0)
    return np.asarray(picture)


def _webp(pixels: NDArray[np.uint8]) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "WEBP", quality=88, method=2)
    return out.getvalue()


def _written(path: Path, data: bytes) -> None:
    try:
        os.utime(path)  # Young again: whoever cleans up leaves it alone.
        return
    except FileNotFoundError:
        pass
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=TEMPORARY)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
