"""The manuscript of a picture book: the words of each page or spread below its number, and notes of what is to be seen, as authors hand them to illustrators."""

from __future__ import annotations

import re
from collections.abc import Iterator

from juxtaform.core.text.manuscript import Passage, lines_of, may_be_title
from juxtaform.formats.comic import MARKS, NUMBER

PAGE = r"(?:double[ -]?page(?:[ -]spread)?|spread|pages?|pgs?|pp?|doppelseite|seiten?|planches?|doble página|páginas?|págs?)"
_MARK = re.compile(
    rf"^[ \t]{{0,9}}{MARKS}[\[(]?(?P<words>{PAGE}\b\.?[ \t]{{0,9}}(?P<number>{NUMBER})(?:[ \t]{{0,9}}(?:[-–—/&]|and|to|und|bis|et|à|y|a)[ \t]{{0,9}}{NUMBER})?)[\])]?"
    rf"(?P<how>[ \t]{{0,9}}\([^)\n]{{0,200}}\))?[ \t]{{0,9}}{MARKS}(?:[:.)–—-]+[ \t]{{0,9}}{MARKS}|$)",
    re.IGNORECASE,
)
"""`Spread 1`, `PAGES 4-5:`, `p. 6 –`, `**Page 2** (wordless)`."""
_TWO = re.compile(
    rf"spread|double|doppel|doble|{NUMBER}[ \t]*(?:[-–—/&]|and|to|und|bis|et|à|y|a)[ \t]*{NUMBER}", re.IGNORECASE
)
_COUNT = re.compile(r"^[ \t]*(?P<number>\d{1,3})[.)][ \t]+(?=\S)")
ART = (
    r"(?:art(?:ist)?(?:[ -]?note)?s?|illus?(?:tration)?(?:[ -]?(?:note|idea))?s?|illo|note to (?:the )?illustrator|picture|image|visual|"
    r"bild(?:idee|notiz)?|zeichnung|dessin|image|ilustración|nota de (?:arte|ilustración))"
)
LABEL = re.compile(
    rf"^[ \t]*{MARKS}(?:(?P<art>{ART})|(?:text|words|texte|texto))[ \t]*{MARKS}[:：][ \t]*{MARKS}", re.IGNORECASE
)
"""`Art: …`, `ILLUSTRATION NOTE: …`, and `Text: …`."""
_WORDLESS = r"(?:no (?:text|words|copy)|wordless|without words|silent|(?:ohne|kein) text|sans texte|sin texto)"
_NOTE = re.compile(
    rf"\[(?P<square>[^\]]{{1,3000}})\]|\([ \t]*(?:{ART}[ \t]*[:.–—-]|(?={_WORDLESS}\b))(?P<round>[^)]{{0,3000}})\)",
    re.IGNORECASE,
)
"""What stands among the words of a page and is no part of them."""
_BEFORE_NOTE = re.compile(
    rf"^[ \t]*(?:{ART}[ \t]*[:.–—-][ \t]*)?(?:{_WORDLESS}\b[.:;,–—-]*[ \t]*)?(?:(?:please[ \t]+)?show(?:ing)?[ \t]+|we[ \t]+see[ \t]+)?",
    re.IGNORECASE,
)
_WORDLESS_ALONE = re.compile(rf"^\W*{_WORDLESS}\W*$", re.IGNORECASE)
_NO_STORY = re.compile(
    r"^\W*(?:half[ -]?title|title page|copyright|imprint|dedication|end[ -]?papers?|front matter|back matter|blank|schmutztitel|titelei|impressum|widmung|vorsatz|"
    r"faux[- ]titre|page de titre|dédicace|portadilla|portada|dedicatoria|guardas)\b[^.!?]{0,40}\W*$",
    re.IGNORECASE,
)
"""A page of a book that tells nothing of the story."""
LEAST_PAGES, LEAST_COUNTED = 3, 4
MOST_ABOVE, BESIDE = 40, 0.2
"""Words above counted paragraphs, and the part of all words that may stand above them and below the last one's first paragraph."""


def is_paged(text: str) -> bool:
    """Whether a text is told page by page: three lines and more begin with a page or a spread, its number rising; or its paragraphs or beats are counted from one.

    >>> is_paged("Spread 1\\nA boat.\\n\\nSpread 2\\nA gull.\\n\\nSpread 3\\nNight."), is_paged("Page 4 was torn. Page 5 too.")
    (True, False)
    """
    return bool(_pages(text))


def _pages(text: str) -> list[tuple[int, re.Match[str]]]:
    """The lines that begin a page, each with where it stands; none where the text is not told so."""
    lines = list(lines_of(text))
    marked = [(start, m) for start, _, line in lines if (m := _MARK.match(line))]
    numbers = [int(m["number"]) for _, m in marked if m["number"].isdigit()]
    if len(marked) >= LEAST_PAGES and numbers == sorted(set(numbers)):
        return marked
    counted = [(start, m) for start, _, line in lines if (m := _COUNT.match(line))]
    in_order = [int(m["number"]) for _, m in counted] == list(range(1, len(counted) + 1))
    return (
        counted if len(counted) >= LEAST_COUNTED and in_order and _are_the_text(text, [at for at, _ in counted]) else []
    )


def _are_the_text(text: str, starts: list[int]) -> bool:
    """Whether counted paragraphs are the story, and no list in one (`She wrote: 1. Flour …`): hardly anything stands above them, or below the last."""
    words = len(text.split())
    behind = text.find("\n\n", starts[-1])
    below = len(text[behind:].split()) if behind >= 0 else 0
    return len(text[: starts[0]].split()) <= max(MOST_ABOVE, words * BESIDE) and below <= words * BESIDE


def read(text: str) -> tuple[list[Passage], tuple[int, ...], tuple[str, ...]]:
    """The passages of a paged manuscript, where each page begins, and its form (empty where paragraphs are counted): its number is a section, a note of what is to be seen is art, and what stands above
    the first page is the title or a note."""
    pages = dict(_pages(text))
    first = min(pages)
    found: list[Passage] = []
    block: list[tuple[int, int]] = []
    art = False

    def close() -> None:
        if block and block[0][0] < first:
            for begins, stops in block:
                words = " ".join(text[begins:stops].split())
                title = not found and may_be_title(words)
                found.append(Passage("title" if title else "note", begins, stops, words, level=int(title)))
        elif block:
            found.extend(_told(text, block[0][0], block[-1][1], art=art))
        block.clear()

    for start, _, line in lines_of(text):
        begins, stops = start + len(line) - len(line.lstrip()), start + len(line.rstrip())
        if page := pages.get(start):
            close()
            art = False
            begins = start + page.end()
            named = page.groupdict().get("words")
            how = (page.groupdict().get("how") or "").strip()
            mark = start + (page.start("how") if how else page.end())
            stands_alone = not line[page.end() :].strip()
            found.append(Passage("section" if stands_alone else "note", start, mark, named or page["number"], level=2))
            if how and not _WORDLESS_ALONE.match(how):
                found.append(Passage("note", start + page.start("how"), start + page.end("how"), how))
        elif label := LABEL.match(line):
            close()
            art, begins = bool(label["art"]), start + label.end()
        elif begins >= stops:
            close()
            art = False
        if begins < stops:
            block.append((begins, stops))
    close()
    return found, tuple(pages), tuple(_form(page) for page in pages.values())


def _form(page: re.Match[str]) -> str:
    """Whether a page's line names one page or a spread of two."""
    words = page.groupdict().get("words")
    if words is None:
        return ""
    return "spread" if _TWO.search(words) else "single"


def _told(text: str, start: int, end: int, *, art: bool) -> Iterator[Passage]:
    """The words of a page and the notes among them."""
    at = start
    for m in _NOTE.finditer(text, start, end) if not art else ():
        yield from _words(text, at, m.start())
        group = "square" if m["square"] is not None else "round"
        yield from _note(text, m.start(group), m.end(group))
        at = m.end()
    yield from _note(text, at, end) if art else _words(text, at, end)


def _words(text: str, start: int, end: int) -> Iterator[Passage]:
    plain = text[start:end]
    if re.search(r"\w", plain):
        begins = start + len(plain) - len(plain.lstrip())
        yield Passage(
            "note" if _NO_STORY.match(plain) else "action", begins, start + len(plain.rstrip()), " ".join(plain.split())
        )


def _note(text: str, start: int, end: int) -> Iterator[Passage]:
    start += _BEFORE_NOTE.match(text[start:end]).end()  # type: ignore[union-attr]
    plain = text[start:end]
    if re.search(r"\w", plain):
        yield Passage("art", start, start + len(plain.rstrip()), " ".join(plain.split()))
