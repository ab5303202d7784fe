"""The book as EPUB 3 with fixed layout (W3C, EPUB 3.3): a page a page, in the places of the printed one, with the words as text."""

from __future__ import annotations

import io
import re
import uuid
import zipfile
from datetime import datetime
from pathlib import Path
from xml.sax.saxutils import quoteattr

import numpy as np
from PIL import Image

from juxtaform.core.book.pages import Opening, Page, PlacedPicture, PlacedWords
from juxtaform.core.book.words import LEADING, MM_PER_PT
from juxtaform.core.picture.regions import resized
from juxtaform.formats.fonts import covered_by, letters_of, script_files, subset_files
from juxtaform.formats.out.book import OutBook
from juxtaform.formats.out.cover import front_jpeg
from juxtaform.formats.out.epub_voice import ReadAlong, clean, text
from juxtaform.formats.out.lettering import card
from juxtaform.formats.out.sequence import Going, OutShot
from juxtaform.formats.zips import put
from juxtaform.media.decode import PictureRefused, decoded_file

PX_PER_MM = 5
SIDE = 2048
CONTAINER = """<?xml version="1.0" encoding="utf-8"?>
<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">
  <rootfiles><rootfile full-path="EPUB/package.opf" media-type="application/oebps-package+xml"/></rootfiles>
</container>
"""


def epub(book: OutBook, made_at: datetime, to: Path, going: Going) -> list[int]:
    """Write the book; returns the numbers of shots whose picture could not be read. Raises Stopped."""
    return _Writer(book, made_at).write(to, going)


class _Writer:
    def __init__(self, book: OutBook, made_at: datetime) -> None:
        self._book, self._made, self._made_at = book, book.layout.book, made_at
        self._shots = {x.id: x for x in book.sequence.shots}
        self._width, self._height = (round(v * PX_PER_MM) for v in (self._made.trim_w, self._made.trim_h))
        self._fonts = _needed_fonts(book.words)
        self.troubled: list[int] = []
        self._read_along = ReadAlong(book.sequence)

    def write(self, to: Path, going: Going) -> list[int]:
        pages = [(o, p) for o in self._book.layout.openings for p in (o.left, o.right) if p is not None]
        shown = [s for o in self._book.layout.openings for s in dict.fromkeys(p.shot for p in o.pictures)]
        with zipfile.ZipFile(to, "w") as archive:
            put(archive, "mimetype", b"application/epub+zip", packed=False)
            put(archive, "META-INF/container.xml", CONTAINER.encode())
            for i, shot in enumerate(shown):
                going.done(i, len(shown))
                put(archive, f"EPUB/pictures/{self._name(shot)}.jpg", self._picture(self._shots[shot]), packed=False)
            if self._book.cover is not None:
                put(archive, "EPUB/cover.jpg", front_jpeg(self._book, self._height), packed=False)
                put(archive, "EPUB/cover.xhtml", self._cover().encode())
            for font in self._fonts:
                put(archive, f"EPUB/fonts/{font.name}", font.read_bytes(), packed=False)
            put(archive, "EPUB/book.css", self._css().encode())
            for opening, page in pages:
                self._read_along.turn_to(page.number)
                put(archive, f"EPUB/page-{page.number:03d}.xhtml", self._page(opening, page).encode())
            for name, overlay in self._read_along.overlays().items():
                put(archive, f"EPUB/{name}", overlay.encode())
            for name, path in self._read_along.sounds(going.kept):
                put(archive, f"EPUB/{name}", path.read_bytes(), packed=False)
            put(archive, "EPUB/nav.xhtml", self._nav([p for _, p in pages]).encode())
            put(archive, "EPUB/package.opf", self._package([p for _, p in pages], shown).encode())
        going.done(len(shown), len(shown))
        return self.troubled

    def _name(self, shot: str) -> str:
        return f"shot-{self._shots[shot].number:03d}"

    def _picture(self, shot: OutShot) -> bytes:
        out = io.BytesIO()
        pixels: np.ndarray | None = None
        if shot.picture is not None:
            try:
                pixels = resized(decoded_file(Path(shot.picture.path)), SIDE)
            except (PictureRefused, OSError):
                self.troubled.append(shot.number)
        if pixels is None:
            pixels = card(shot.number, shot.shows, 1200, 800)
        Image.fromarray(np.ascontiguousarray(pixels)).save(out, "JPEG", quality=90)
        return out.getvalue()

    def _css(self) -> str:
        faces = "".join(
            f'@font-face {{ font-family: "Book"; src: url("fonts/{font.name}") format("woff2"); font-weight: 200 900; unicode-range: {letters_of(font)}; }}\n'
            for font in self._fonts
        )
        return (
            f"{faces}html, body {{ margin: 0; padding: 0; }}\n"
            f"body {{ position: relative; width: {self._width}px; height: {self._height}px; overflow: hidden; background: #fff; color: #1c1e20; "
            'font-family: "Book", Georgia, serif; }\n'
            ".part { position: absolute; overflow: hidden; }\n.part img { position: absolute; }\n"
            f".words {{ position: absolute; line-height: {LEADING}; margin: 0; }}\n.light {{ color: #fff; }}\n.middle {{ text-align: center; }}\n"
            ".-epub-media-overlay-active { text-decoration: underline; text-decoration-thickness: 0.08em; text-underline-offset: 0.18em; }\n"
        )

    def _page(self, opening: Opening, page: Page) -> str:
        left = self._made.trim_w if page.on_the_right else 0.0
        parts = [self._front(page)]
        wide = self._made.trim_w + 2 * self._made.bleed
        parts += [self._laid(p, left) for p in opening.pictures if p.box.w > wide or p.shot in page.shots]
        parts += [
            self._said(w, left)
            for w in opening.words
            if w.box.x < left + self._made.trim_w
            and w.box.x + w.box.w > left
            and (w.box.x + w.box.w / 2 >= self._made.trim_w) == page.on_the_right
        ]
        title = f"{self._book.sequence.title}, page {page.number}"
        return self._document(
            title,
            "\n".join(p for p in parts if p),
            f'<meta name="viewport" content="width={self._width}, height={self._height}"/>',
        )

    def _cover(self) -> str:
        alt = quoteattr(clean(f"Cover: {self._book.sequence.title}"))
        image = (
            f'<img src="cover.jpg" alt={alt} style="position: absolute; left: 0; top: 0; width: 100%; height: 100%"/>'
        )
        sized = f'<meta name="viewport" content="width={self._width}, height={self._height}"/>'
        return self._document(self._book.sequence.title, image, sized)

    def _document(self, title: str, body: str, head: str = "") -> str:
        tag = quoteattr(self._book.sequence.language)
        return (
            '<?xml version="1.0" encoding="utf-8"?>\n<!DOCTYPE html>\n'
            f'<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang={tag} xml:lang={tag}>\n'
            f'<head>\n<meta charset="utf-8"/>\n<title>{text(title)}</title>\n{head}\n<link rel="stylesheet" type="text/css" href="book.css"/>\n</head>\n'
            f"<body>\n{body}\n</body>\n</html>\n"
        )

    def _laid(self, picture: PlacedPicture, left: float) -> str:
        box, (px, py, pw, ph) = picture.box, picture.part
        shot = self._shots[picture.shot]
        inner = (
            f"left: {-px / pw * 100:.3f}%; top: {-py / ph * 100:.3f}%; width: {100 / pw:.3f}%; height: {100 / ph:.3f}%"
        )
        alt = quoteattr(clean(shot.shows or f"Picture {shot.number}"))
        return f'<div class="part" style="{_place(box.x - left, box.y, box.w, box.h)}"><img src="pictures/{self._name(picture.shot)}.jpg" alt={alt} style="{inner}"/></div>'

    def _said(self, words: PlacedWords, left: float) -> str:
        box = words.box
        kinds = " ".join(
            k
            for k, on in (
                ("words", True),
                ("light", words.tone == "light"),
                ("middle", not (words.over or words.by_hand)),
            )
            if on
        )
        size = f"font-size: {words.size_pt * MM_PER_PT * PX_PER_MM:.1f}px"
        lines = self._read_along.marked_up(self._shots[words.shot])
        return f'<p dir="auto" class="{kinds}" style="left: {(box.x - left) * PX_PER_MM:.1f}px; top: {box.y * PX_PER_MM:.1f}px; width: {box.w * PX_PER_MM:.1f}px; {size}">{lines}</p>'

    def _front(self, page: Page) -> str:
        made, wide, high = self._made, self._width, self._height
        if page.kind == "title":
            return f'<h1 class="words middle" style="left: 12%; width: 76%; top: {high * 0.4:.0f}px; font-size: {30 * MM_PER_PT * PX_PER_MM:.1f}px">{text(self._book.sequence.title)}</h1>'
        if page.kind == "dedication" and made.dedication:
            return f'<p class="words middle" style="left: 12%; width: 76%; top: {high * 0.42:.0f}px; font-size: {14 * MM_PER_PT * PX_PER_MM:.1f}px"><em>{text(made.dedication)}</em></p>'
        if page.kind == "imprint" and made.imprint:
            lines = "<br/>".join(text(line) for line in made.imprint.split("\n"))
            edge = 1.4 * made.safe * PX_PER_MM
            return f'<p class="words" style="left: {edge:.0f}px; bottom: {edge:.0f}px; width: {wide - 2 * edge:.0f}px; font-size: {8 * MM_PER_PT * PX_PER_MM:.1f}px">{lines}</p>'
        return ""

    def _nav(self, pages: list[Page]) -> str:
        """The scenes, each by its first page, and a list of pages."""
        first: dict[str, int] = {}
        for page in pages:
            for shot in page.shots:
                first.setdefault(self._shots[shot].scene or "The story", page.number)
        entries = first or {self._book.sequence.title: pages[0].number if pages else 1}
        items = "\n".join(f'<li><a href="page-{n:03d}.xhtml">{text(name)}</a></li>' for name, n in entries.items())
        every = "\n".join(f'<li><a href="page-{p.number:03d}.xhtml">{p.number}</a></li>' for p in pages)
        body = (
            f'<nav epub:type="toc" id="toc"><h1>{text(self._book.sequence.title)}</h1><ol>\n{items}\n</ol></nav>\n'
            f'<nav epub:type="page-list" id="pages" hidden="hidden"><ol>\n{every}\n</ol></nav>'
        )
        return self._document(self._book.sequence.title, body)

    def _package(self, pages: list[Page], shown: list[str]) -> str:
        sequence = self._book.sequence
        items = [
            '<item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>',
            '<item id="css" href="book.css" media-type="text/css"/>',
            *(
                f'<item id="font-{i}" href="fonts/{font.name}" media-type="font/woff2"/>'
                for i, font in enumerate(self._fonts)
            ),
            *(
                f'<item id="{self._name(s)}" href="pictures/{self._name(s)}.jpg" media-type="image/jpeg"{" properties=" + chr(34) + "cover-image" + chr(34) if i == 0 and self._book.cover is None else ""}/>'
                for i, s in enumerate(shown)
            ),
            *(
                f'<item id="page-{p.number}" href="page-{p.number:03d}.xhtml" media-type="application/xhtml+xml"{self._read_along.names_overlay(p.number)}/>'
                for p in pages
            ),
            *self._read_along.items(),
        ]
        if self._book.cover is not None:
            items += [
                '<item id="cover" href="cover.jpg" media-type="image/jpeg" properties="cover-image"/>',
                '<item id="cover-page" href="cover.xhtml" media-type="application/xhtml+xml"/>',
            ]
        spine = ['<itemref idref="cover-page" properties="rendition:page-spread-center"/>'] if self._book.cover else []
        spine += [
            f'<itemref idref="page-{p.number}" properties="page-spread-{"right" if p.on_the_right else "left"}"/>'
            for p in pages
        ]
        identity = (
            uuid.UUID(sequence.project)
            if re.fullmatch(r"[0-9a-f]{32}", sequence.project)
            else uuid.uuid5(uuid.NAMESPACE_URL, sequence.title)
        )
        return f"""<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang={quoteattr(sequence.language)} prefix="rendition: http://www.idpf.org/vocab/rendition/# schema: http://schema.org/">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
<dc:identifier id="id">urn:uuid:{identity}</dc:identifier>
<dc:title>{text(sequence.title or "Book")}</dc:title>
<dc:language>{text(sequence.language)}</dc:language>
<meta property="dcterms:modified">{self._made_at:%Y-%m-%dT%H:%M:%SZ}</meta>
<meta property="rendition:layout">pre-paginated</meta>
<meta property="rendition:spread">auto</meta>
{self._read_along.about()}<meta property="schema:accessMode">visual</meta>
<meta property="schema:accessMode">textual</meta>
<meta property="schema:accessibilityFeature">alternativeText</meta>
<meta property="schema:accessibilityHazard">none</meta>
<meta property="schema:accessibilitySummary">Every picture has a description, the words are text.</meta>
</metadata>
<manifest>
{chr(10).join(items)}
</manifest>
<spine>
{chr(10).join(spine)}
</spine>
</package>
"""


def _needed_fonts(words: str) -> list[Path]:
    """The files of faces that have letters of the words."""
    wanted = {ord(c) for c in words}
    needed = []
    for path in (*subset_files("book"), *script_files(words)):
        own = wanted & covered_by(path)
        if own:
            needed.append(path)
            wanted -= own
    return needed


def _place(x: float, y: float, w: float, h: float) -> str:
    return f"left: {x * PX_PER_MM:.1f}px; top: {y * PX_PER_MM:.1f}px; width: {w * PX_PER_MM:.1f}px; height: {h * PX_PER_MM:.1f}px"
