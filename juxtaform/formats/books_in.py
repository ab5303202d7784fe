"""Pages of books that come in: comic archives (a zip of pictures) and PDF files, each page as a picture. Runs in a worker process: both may be hostile."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Iterator
from pathlib import PurePosixPath

import pypdfium2
from PIL import Image

from juxtaform.limits import MOST_BOOK_PAGES, MOST_BUNDLE_RATIO, MOST_PICTURE_BYTES, PICTURE_ENDINGS

PAGE_SIDE_PX = 2400
"""The longer side of a PDF's page as a picture."""


class BookRefused(ValueError):
    """A file whose pages cannot be read; the message says why."""


def is_book(data: bytes) -> bool:
    """Whether a file is an archive or a PDF, by its first bytes."""
    return data[:4] == b"PK\x03\x04" or b"%PDF-" in data[:1024]


def pages_of(data: bytes) -> Iterator[tuple[str, bytes]]:
    """The pages of a file in their order, each with a name that ends in its number. Raises BookRefused."""
    pages = _of_archive(data) if data[:4] == b"PK\x03\x04" else _of_pdf(data)
    count = 0
    for name, page in pages:
        count += 1
        if count > MOST_BOOK_PAGES:
            raise BookRefused(f"The file has more than {MOST_BOOK_PAGES:,} pages. Split it.")
        yield name, page
    if not count:
        raise BookRefused("No picture is in this file.")


def _of_archive(data: bytes) -> Iterator[tuple[str, bytes]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = [
                e
                for e in archive.infolist()
                if not e.is_dir() and PurePosixPath(e.filename).suffix.lower() in PICTURE_ENDINGS
            ]
            entries = [e for e in entries if not PurePosixPath(e.filename).name.startswith(".")]
            entries.sort(key=lambda e: _natural(e.filename))
            for number, entry in enumerate(entries, _first([PurePosixPath(e.filename).name for e in entries])):
                if entry.file_size > MOST_PICTURE_BYTES or entry.file_size > MOST_BUNDLE_RATIO * max(
                    1, entry.compress_size
                ):
                    raise BookRefused(f"“{PurePosixPath(entry.filename).name}” in the archive is too large.")
                with archive.open(entry) as file:
                    yield (
                        f"page {number:03d}{PurePosixPath(entry.filename).suffix.lower()}",
                        file.read(MOST_PICTURE_BYTES + 1),
                    )
    except (zipfile.BadZipFile, OSError, EOFError, RuntimeError, NotImplementedError, ValueError) as error:
        if isinstance(error, BookRefused):
            raise
        raise BookRefused("The archive is damaged, or locked by a password. Make it again.") from error


def _of_pdf(data: bytes) -> Iterator[tuple[str, bytes]]:
    try:
        document = pypdfium2.PdfDocument(data)
    except pypdfium2.PdfiumError as error:
        raise BookRefused("The PDF is damaged, or locked by a password. Export it again.") from error
    with document:
        for i in range(len(document)):
            try:
                page = document[i]
                side = max(page.get_size())
                scale = PAGE_SIDE_PX / side if side > 0 else 1.0
                picture: Image.Image = page.render(scale=scale).to_pil()
            except (pypdfium2.PdfiumError, ValueError, MemoryError) as error:
                raise BookRefused(f"Page {i + 1} of the PDF cannot be read. Export it again.") from error
            out = io.BytesIO()
            picture.convert("RGB").save(out, "PNG", compress_level=3)
            yield f"page {i + 1:03d}.png", out.getvalue()


def _first(names: list[str]) -> int:
    """The number of the first page: 0 where the names themselves count from 0, as they do when a cover lies before the pages."""
    told = [int(m.group()) if (m := re.match(r"\d{1,5}(?!\d)", name)) else -1 for name in names]
    return 0 if told == list(range(len(told))) else 1


def _natural(name: str) -> list[tuple[int, str]]:
    """Names by their numbers: 2 before 10."""
    return [(int(part), "") if part.isdigit() else (0, part.casefold()) for part in re.split(r"(\d+)", name)]
