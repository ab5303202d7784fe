"""How much is taken in, in one place. Who meets a limit is told its number and what to do."""

from __future__ import annotations

MOST_TEXT = 2_000_000
"""Characters of a story."""
MOST_TEXT_BYTES = 4 * MOST_TEXT
MOST_DOCUMENT_BYTES = 100 << 20
"""Of a word processor's document, pictures and all."""
PICTURE_ENDINGS = frozenset(
    f".{e}" for e in "png jpg jpeg webp tif tiff psd psb ora kra heic heif avif bmp gif".split()
)
"""How the names of picture files end that are taken in."""
MOST_PICTURE_BYTES = 200 << 20
MOST_PIXELS = 100_000_000
MOST_SIDE_PX = 16_000
LEAST_SIDE_PX = 8
MOST_PIXELS_AT_ONCE = 150_000_000
"""Pictures are decoded at the same time as long as they have no more pixels together."""
MOST_CLIP_BYTES = 500 << 20
MOST_CLIP_S = 180.0
MOST_CLIP_FRAMES = 10_800
"""Three minutes at sixty frames a second."""
MOST_CLIP_SIDE_PX = 4096
MOST_CLIP_WORK_S = 300.0
"""Reading a clip through may take so long; what takes longer is refused."""
MOST_SOUND_BYTES = 300 << 20
MOST_SOUND_S = 1800.0
"""Half an hour; an animated short is shorter."""
MOST_SOUND_WORK_S = 120.0
MOST_SOUNDS = 5000
"""Sounds that lie on one sequence, takes of lines among them."""
MOST_TABLE_BYTES = 32 << 20
MOST_BOOK_BYTES = 500 << 20
MOST_BOOK_PAGES = 500
MOST_ANNOTATIONS_BYTES = 8 << 20
MOST_TABLE_ROWS = 20_000
MOST_PALETTE_BYTES = 1_000_000
MOST_JSON_BYTES = 32 << 20
MOST_JSON_DEPTH = 40
MOST_FORM_EXTRA_BYTES = 1 << 20
"""What an upload may have beside its file."""
MOST_UPLOADS = 12
"""Files that are taken in at the same time."""
LEAST_FREE_MB = 64
"""With less room on the disk nothing is changed any more, so that what is there stays whole."""
MOST_BUNDLE_ENTRIES = 200_000
MOST_BUNDLE_BYTES = 64 << 30
MOST_BUNDLE_JSON_BYTES = 512 << 20
MOST_BUNDLE_RATIO = 200
"""An entry that unpacks to more than so many times its size is a zip bomb."""
RESTING_S = 75
"""A connection that rests is kept so long: one that is closed just as a browser uses it again is a request lost."""


def most_body_bytes(path: str) -> int:
    """How long the body of a request to a path may be, in bytes."""
    if path.endswith("/bundles"):
        return MOST_BUNDLE_BYTES
    if path.endswith("/pictures"):
        return MOST_CLIP_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith("/sounds"):
        return MOST_SOUND_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith("/book-pages"):
        return MOST_BOOK_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith("/pages"):
        return MOST_PICTURE_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith("/text/file"):
        return MOST_DOCUMENT_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith(("/timeline/file", "/captions/file")):
        return MOST_TABLE_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith("/annotations"):
        return MOST_ANNOTATIONS_BYTES + MOST_FORM_EXTRA_BYTES
    if path.endswith("/palette"):
        return MOST_PALETTE_BYTES + MOST_FORM_EXTRA_BYTES
    return MOST_JSON_BYTES
