"""The pictures in their order: numbered files in a zip, and a comic archive (CBZ with ComicInfo.xml)."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator
from pathlib import Path
from xml.sax.saxutils import escape

import numpy as np
from PIL import Image

from juxtaform.formats.out.lettering import card
from juxtaform.formats.out.sequence import Going, OutSequence, OutShot, file_name
from juxtaform.formats.zips import put

CARD_PX = 1200


def numbered_zip(sequence: OutSequence, to: Path, going: Going, *, placeholders: bool = True) -> None:
    """All pictures as they are, each under its shot's number and words; a card where there is none, or nothing. Raises Stopped."""
    with zipfile.ZipFile(to, "w") as archive:
        for name, data in _files(sequence, going, placeholders=placeholders):
            put(archive, f"{file_name(sequence.title)}/{name}", data, packed=False)


def cbz(
    sequence: OutSequence, to: Path, going: Going, *, placeholders: bool = True, front: bytes | None = None
) -> None:
    """A comic archive: the cover if there is one, the pictures by number, and what the book is. Raises Stopped."""
    pages = []
    with zipfile.ZipFile(to, "w") as archive:
        covers = [("000 cover.jpg", front)] if front is not None else []
        for name, data in (*covers, *_files(sequence, going, placeholders=placeholders)):
            put(archive, name, data, packed=False)
            with Image.open(io.BytesIO(data)) as seen:
                pages.append((len(data), *seen.size))
        put(archive, "ComicInfo.xml", _comic_info(sequence, pages).encode())


def _files(sequence: OutSequence, going: Going, *, placeholders: bool) -> Iterator[tuple[str, bytes]]:
    digits = max(3, len(str(len(sequence.shots))))
    for i, shot in enumerate(sequence.shots):
        going.done(i, len(sequence.shots))
        data = (
            Path(shot.picture.path).read_bytes()
            if shot.picture
            else placeholder(sequence, shot)
            if placeholders
            else None
        )
        if data is not None:
            ending = shot.picture.ending if shot.picture else "png"
            words = file_name(" ".join(shot.shows.split()[:8]), "")
            yield f"{shot.number:0{digits}d}{f' {words}' if words else ''}.{ending}", data
    going.done(len(sequence.shots), len(sequence.shots))


def placeholder(sequence: OutSequence, shot: OutShot, side: int = CARD_PX) -> bytes:
    """A card for a shot without a picture, as PNG."""
    width = side if sequence.aspect >= 1 else round(side * sequence.aspect)
    out = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(card(shot.number, shot.shows, width, round(width / sequence.aspect)))).save(
        out, "PNG"
    )
    return out.getvalue()


def _comic_info(sequence: OutSequence, pages: list[tuple[int, int, int]]) -> str:
    rows = "\n".join(
        f'    <Page Image="{i}" ImageSize="{size}" ImageWidth="{w}" ImageHeight="{h}"{" Type=" + chr(34) + "FrontCover" + chr(34) if i == 0 else ""}/>'
        for i, (size, w, h) in enumerate(pages)
    )
    return (
        '<?xml version="1.0" encoding="utf-8"?>\n'
        '<ComicInfo xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" xmlns:xsd="http://www.w3.org/2001/XMLSchema">\n'
        f"  <Title>{_xml(sequence.title)}</Title>\n  <PageCount>{len(pages)}</PageCount>\n"
        f"  <LanguageISO>{_xml(sequence.language)}</LanguageISO>\n  <Pages>\n{rows}\n  </Pages>\n</ComicInfo>\n"
    )


def _xml(words: str) -> str:
    """Words as XML text; control characters, which XML has not, are left out."""
    return escape("".join(c for c in words if c >= " " or c in "\t\n"))
