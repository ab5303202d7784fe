"""Pictures stored once under the SHA-256 of their bytes, with thumbnails beside them."""

from __future__ import annotations

import contextlib
import functools
import hashlib
import io
import os
import re
import tempfile
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.check.measure import picture_palette
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.colour.spaces import linear_from_srgb8, srgb_from_linear
from juxtaform.core.picture.regions import Box, cut_out
from juxtaform.media.decode import BAND_PIXELS, decoded_file, decoding, media_type
from juxtaform.media.shared import at_hand, shared

THUMB_SIDES = (240, 960)
REDUCING_GAP = 3.0
"""A picture is reduced by whole numbers to at least so many times its thumbnail, then resampled."""
THUMBS = tuple(f".{side}.webp" for side in THUMB_SIDES)
"""How the names of thumbnails end."""
CROP, MOST_CROPS = ".crop.webp", 60
"""How the names of kept crops end, and how many are kept of a picture."""
CLIP, FILM = ".clip", ".film"
"""How the names end of a clip and of the film that browsers play in its place, if they do not play the clip; they begin as that of its first frame."""
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
    clip: dict[str, object] | None = None
    """Of a clip's first frame: what is known of the clip, whose file lies beside it."""


class PictureStore:
    """A folder of pictures named by digest. Files are written to a temporary name, synced, then renamed. Where the environment names a shared
    store, every file goes there too, and what is missing here comes from there."""

    def __init__(self, root: Path) -> None:
        self.root = root

    def put(self, data: bytes) -> StoredPicture:
        """Store a picture and its thumbnails; the same bytes are stored once. Raises PictureRefused."""
        with self.putting() as put:
            stored = put(data)
            put.settle()
        return stored

    @contextmanager
    def putting(self) -> Iterator[Putting]:
        """Store several pictures or none: what the block does not settle, or brought and then failed, is not kept."""
        put = Putting(self)
        try:
            yield put
        except BaseException:
            put.take_back()
            raise
        finally:
            put.drop()

    def clear_halves(self, before: float) -> int:
        """Delete files that were being written when a server died, older than a moment (seconds since 1970); returns how many."""
        return sum(_deleted(p) for p in self.root.glob(f"??/{TEMPORARY}*") if _older(p, before))

    def older(self, before: float) -> Iterator[str]:
        """The digests of pictures here that were last written before a moment, also of those that have thumbnails alone."""
        for folder in sorted(self.root.glob("??")):
            digests = {p.name[:64] for p in folder.iterdir() if _SHA.match(p.name[:64])}
            for sha in sorted(digests):
                if all(_older(p, before) for p in self._files(sha)):
                    yield sha

    def unshared(self, shas: Iterable[str]) -> list[Path]:
        """Files of pictures that are here and not in the shared store; none where there is no such store."""
        store = shared()
        if store is None:
            return []
        return [
            p
            for sha in shas
            for p in self._files(sha)
            if CROP not in p.name and p.suffix != FILM and not store.has(f"{p.parent.name}/{p.name}")
        ]

    def share(self, paths: Iterable[Path]) -> None:
        """Lay files into the shared store. Raises OSError."""
        for path in paths:
            _share(path)

    def forget(self, sha: str) -> None:
        """Delete a picture and its thumbnails."""
        for path in self._files(sha):
            _deleted(path)
            if (store := shared()) is not None:
                store.remove(f"{path.parent.name}/{path.name}")

    def path(self, sha: str) -> Path:
        """Where the picture's own bytes lie. Raises KeyError for what is no digest."""
        return at_hand(self._place(sha) / sha)

    def has(self, sha: str, end: str = "") -> bool:
        """Whether a file of a picture is here or in the shared store; nothing is fetched. `end` is how its name ends after the digest."""
        path = self._place(sha) / f"{sha}{end}"
        return path.exists() or ((store := shared()) is not None and store.has(f"{path.parent.name}/{path.name}"))

    def thumb_path(self, sha: str, side: int) -> Path:
        """Where its thumbnail lies; the nearest size at least as large is chosen."""
        kept = next((s for s in THUMB_SIDES if s >= side), THUMB_SIDES[-1])
        return at_hand(self._place(sha) / f"{sha}.{kept}.webp")

    def clip_path(self, sha: str) -> Path:
        """Where the clip lies of which this picture is the first frame."""
        return at_hand(self._place(sha) / f"{sha}{CLIP}")

    def film_path(self, sha: str) -> Path:
        """Where the film lies that is played in place of a clip, once it was made."""
        return self._place(sha) / f"{sha}{FILM}"

    def put_clip(self, sha: str, data: bytes) -> None:
        """Lay a clip beside its first frame, which is in the store."""
        handle, name = tempfile.mkstemp(dir=self._place(sha), prefix=TEMPORARY)
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            os.replace(name, self._place(sha) / f"{sha}{CLIP}")
            _share(self._place(sha) / f"{sha}{CLIP}")
        except BaseException:
            _deleted(Path(name))
            raise

    def pixels(self, sha: str) -> NDArray[np.uint8]:
        return decoded_file(self.path(sha))

    def small(self, sha: str, side: int = THUMB_SIDES[0]) -> NDArray[np.uint8]:
        """Its pixels as a thumbnail has them."""
        with Image.open(self.thumb_path(sha, side)) as picture:
            return np.asarray(picture.convert("RGB"))

    def crop(self, sha: str, box: Box, side: int, light: SceneLight | None = None) -> bytes:
        """A WebP of a box on a picture, at most `side` px, with a scene light taken out if one is given. Without one it is made once and
        kept."""
        if light is None:
            return self._kept_crop(sha, box, side)
        even = light.taken_out(linear_from_srgb8(_fitted(self._cut(sha, box, side), side)))
        return _webp(np.rint(srgb_from_linear(even) * 255).astype(np.uint8))

    def _kept_crop(self, sha: str, box: Box, side: int) -> bytes:
        about = ",".join(f"{v:.1f}" for v in (box.x, box.y, box.w, box.h, side))
        path = self._place(sha) / f"{sha}.{hashlib.sha256(about.encode()).hexdigest()[:16]}{CROP}"
        with contextlib.suppress(FileNotFoundError):
            return path.read_bytes()
        data = _webp(_fitted(self._cut(sha, box, side), side))
        if len(self._crops(sha)) < MOST_CROPS:
            with contextlib.suppress(OSError):  # A full disk keeps no crop, and gives it all the same.
                handle, name = tempfile.mkstemp(dir=path.parent, prefix=TEMPORARY)
                with os.fdopen(handle, "wb") as file:
                    file.write(data)
                os.replace(name, path)
        return data

    def _crops(self, sha: str) -> list[Path]:
        return list(self._place(sha).glob(f"{sha}.*{CROP}"))

    def as_webp(self, pixels: NDArray[np.uint8]) -> bytes:
        """Pixels (h, w, 3) that are in no file, as WebP."""
        return _webp(pixels)

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
        place = self._place(sha)
        own = [place / f"{sha}{end}" for end in ("", *THUMBS, CLIP, FILM)]
        return [p for p in (*own, *self._crops(sha)) if p.exists()]

    def _place(self, sha: str) -> Path:
        if not _SHA.match(sha):
            raise KeyError(sha)
        return self.root / sha[:2]


def _share(file: Path, path: Path | None = None) -> None:
    """Lay a file into the shared store, if there is one, under the name that it has or is to have. Raises OSError."""
    store = shared()
    if store is not None:
        named = path or file
        store.put(file, f"{named.parent.name}/{named.name}")


def _older(path: Path, before: float) -> bool:
    try:
        return path.stat().st_mtime < before
    except FileNotFoundError:
        return False


def _deleted(path: Path) -> bool:
    path.unlink(missing_ok=True)
    return True


def _fitted(pixels: NDArray[np.uint8], side: int) -> NDArray[np.uint8]:
    """A picture made to fit a side; a large one is first reduced by bands of rows, so that it is not held twice."""
    height, width = pixels.shape[:2]
    scale = side / max(width, height)
    if scale >= 1:
        return pixels
    factor = max(1, int(1 / scale / REDUCING_GAP))
    rows = factor * max(1, BAND_PIXELS // (width * factor))
    bands = (Image.fromarray(pixels[y : y + rows]).reduce(factor) for y in range(0, height, rows))
    reduced = Image.fromarray(np.concatenate([np.asarray(b) for b in bands]))
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    whole = (0.0, 0.0, width / factor, height / factor)
    return np.asarray(reduced.resize(size, Image.Resampling.LANCZOS, whole))


def _thumb(pixels: NDArray[np.uint8], side: int) -> bytes:
    return _webp(_fitted(pixels, side))


def _webp(pixels: NDArray[np.uint8]) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "WEBP", quality=88, method=2)
    return out.getvalue()


class Putting:
    """Pictures on their way into a store: decoded and written under temporary names, then settled all at once."""

    def __init__(self, store: PictureStore) -> None:
        self._store = store
        self._waiting: list[tuple[Path, Path]] = []
        self._fresh: list[Path] = []

    def __call__(self, data: bytes) -> StoredPicture:
        """Bring one picture. Raises PictureRefused."""
        with decoding(data) as pixels:
            sha = hashlib.sha256(data).hexdigest()
            for side in THUMB_SIDES:
                self._write(self._store.thumb_path(sha, side), functools.partial(_thumb, pixels, side))
            self._write(self._store.path(sha), lambda: data)
            swatches = picture_palette(pixels)
            size = pixels.shape
        return StoredPicture(
            sha, size[1], size[0], len(data), media_type(data), tuple((s.hex, round(s.share, 4)) for s in swatches)
        )

    def settle(self) -> None:
        """Give all files their names."""
        for name, path in self._waiting:
            if not path.exists():
                self._fresh.append(path)
            _share(name, path)
            os.replace(name, path)
        self._waiting.clear()

    def take_back(self) -> None:
        """Delete what was settled and not there before."""
        for path in self._fresh:
            _deleted(path)

    def drop(self) -> None:
        """Delete what was not settled."""
        for name, _ in self._waiting:
            _deleted(name)

    def _write(self, path: Path, data: Callable[[], bytes]) -> None:
        try:
            os.utime(path)  # Young again: whoever cleans up leaves it alone.
            return
        except FileNotFoundError:
            pass
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=TEMPORARY)
        self._waiting.append((Path(name), path))
        with os.fdopen(handle, "wb") as file:
            file.write(data())
            file.flush()
            os.fsync(file.fileno())
