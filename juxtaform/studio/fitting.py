"""Picture files made to fit what a service takes."""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass

from PIL import Image

from juxtaform.media.decode import media_type
from juxtaform.media.store import PictureStore


@dataclass(frozen=True)
class PictureFile:
    """A picture's bytes, their SHA-256 and what they are."""

    sha: str
    data: bytes
    media_type: str


def fitting_file(store: PictureStore, sha: str, side_most_px: int | None = None) -> PictureFile:
    """The file of a picture, as it is where its longer side is at most so many px, else made smaller as a PNG. The same picture and side give the
    same bytes. Raises KeyError, PictureRefused, OSError."""
    path = store.path(sha)
    data = path.read_bytes()
    with Image.open(path) as picture:
        large = bool(side_most_px) and max(picture.size) > (side_most_px or 0)
    if not large:
        return PictureFile(sha, data, media_type(data))
    small = Image.fromarray(store.pixels(sha))
    small.thumbnail((side_most_px or 0, side_most_px or 0), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    small.save(out, "PNG")
    made = out.getvalue()
    return PictureFile(hashlib.sha256(made).hexdigest(), made, "image/png")
