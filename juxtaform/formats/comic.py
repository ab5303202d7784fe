"""A comic script: pages of numbered panels, each with what is to be seen and lines of who says what, as writers of comics hand them to whoever draws them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from juxtaform.core.text.manuscript import Passage, PassageKind, lines_of, may_be_title

NUMBER = r"(?:\d{1,4}[a-z]?|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|\w+teen|\w+ty(?:-\w+)?)\b"
MARKS = r"(?:\*\*|__|#{1,6})?[ \t]{0,9}"
_PAGED = rf"(?:page|seite|planche|página)[ \t]{{1,9}}{NUMBER}"
_PANEL = re.compile(
    rf"^[ \t]{{0,9}}{MARKS}(?:(?P<page>{_PAGED})[ \t]{{0,9}}[,.:;/–—-]?[ \t]{{0,9}})?"
    rf"(?:(?P<sure>panel|vignette|viñeta)|frame|bild|case)[ \t]{{1,9}}{NUMBER}{MARKS}[.:)–—-]*[ \t]{{0,9}}{MARKS}",
    re.IGNORECASE,
)
"""`Panel 1.`, `**PANEL ONE** –`, `Page 2, panel 3:`."""
_PAGE = re.compile(rf"^[ \t]{{0,9}}{MARKS}{_PAGED}.{{0,60}}$", re.IGNORECASE)
SPOKEN = re.compile(
    r"^[ \t]{0,9}(?:\d{1,2}[.)]?[ \t]{1,9})?(?P<name>[A-ZÀ-Þ][A-ZÀ-Þ0-9 .'’\-]{0,39}?)[ \t]{0,9}(?P<how>\([^)\n]{1,60}\))?[ \t]{0,9}[:：][ \t]{0,9}(?P<words>.*)$"
)
_CUE = re.compile(
    r"^[ \t]{0,9}(?P<name>[A-ZÀ-Þ][A-ZÀ-Þ0-9 .'’\-]{1,39}?)[ \t]{0,9}(?P<how>\([^)\n]{1,60}\))?[ \t]{0,9}$"
)
_ASIDE = re.compile(r"(\([^)\n]{1,60}\))[ \t]{0,9}")
_OFF = re.compile(r"\b(?:off\b|o\.?[ \t]?[sp]\b|v\.?[ \t]?o\b|voice)", re.IGNORECASE)
_CAPTIONS = frozenset(
    "CAPTION CAP CAPTIONS NARRATION NARRATOR VO V.O VOICEOVER VOICE-OVER TITLE TEXT BOX KASTEN TEXTKASTEN CARTOUCHE RÉCITATIF CARTELA".split()
)
_SOUNDS = frozenset("SFX FX SOUND SOUNDS SE EFFECT EFFEKT BRUITAGE".split())
_NOTHING = re.compile(
    r"^[ \t]{0,9}(?:no (?:copy|dialogue|text|words)|silent(?: panel)?|\(silent\))[.]?[ \t]{0,9}$", re.IGNORECASE
)
LEAST_PANELS = 2


def is_comic(text: str) -> bool:
    """Whether a text is a comic script: two lines and more name a panel by its number; by a word that may be of something else (`Case 2`), in pages alone.

    >>> is_comic("Panel 1. The quay.\\n\\nPanel 2. Oda.\\n\\nODA: Home."), is_comic("The panel 1 was loose. Panel 2 fell.")
    (True, False)
    """
    lines = [line for _, _, line in lines_of(text)]
    panels = [m for line in lines if (m := _PANEL.match(line))]
    return len(panels) >= LEAST_PANELS and (any(m["sure"] for m in panels) or any(_PAGE.match(line) for line in lines))


def read(text: str) -> tuple[list[Passage], tuple[int, ...]]:
    """The passages of a comic script, and where each panel begins. A page's line begins a scene, and what stands above its first panel
    is a note, as a sound is; a caption is spoken by nobody who is to be seen."""
    found: list[Passage] = []
    panels: list[int] = []
    told: list[tuple[int, int]] = []
    page = ""
    speaks = False  # the line before, to its end
    above = False  # the first panel of a page

    def close() -> None:
        if told:
            start, end = told[0][0], told[-1][1]
            words = " ".join(text[start:end].split())
            title = not found and not panels and may_be_title(words)
            kind: PassageKind = "title" if title else "note" if above else "action"
            found.append(Passage(kind, start, end, words, level=int(title)))
            told.clear()

    for start, end, line in lines_of(text):
        bare = line.strip()
        begins, stops = start + len(line) - len(line.lstrip()), start + len(line.rstrip())
        if not bare:
            close()
            speaks = False
        elif _PAGE.match(line) and not _PANEL.match(line):
            close()
            above, speaks = True, False
            found.append(Passage("scene", start, end, bare.strip("#* \t"), level=2))
        elif panel := _PANEL.match(line):
            close()
            above = speaks = False
            begins, named = start + panel.end(), panel["page"]
            if named and named.casefold() != page.casefold():
                page = named
                found.append(Passage("scene", start + panel.start("page"), start + panel.end("page"), page, level=2))
            panels.append(start)
            if begins < stops:
                told.append((begins, stops))
        elif _NOTHING.match(bare):
            close()
        elif spoken := SPOKEN.match(line):
            close()
            found += said(spoken, start)
            speaks = found[-1].kind != "note"
        elif speaks:
            found[-1:] = goes_on(found[-1], begins, stops, bare)
        elif panels and not told and (who := _CUE.match(line)) and text[end + 1 : end + 2].strip("\n"):
            found.append(Passage("character", begins, stops, bare, who["name"].strip(), off=_is_off(who["how"])))
            speaks = True
        else:
            told.append((begins, stops))
    close()
    return found, tuple(panels)


def goes_on(last: Passage, begins: int, stops: int, words: str) -> list[Passage]:
    """A speech with one more line, or the first one below a name."""
    plain = " ".join(words.split())
    if last.kind == "dialogue":
        return [replace(last, end=stops, words=f"{last.words} {plain}")]
    return [last, Passage("dialogue", begins, stops, plain, last.name or "CAPTION", off=last.off)]


def _is_off(how: str | None) -> bool:
    return bool(_OFF.search(how or ""))


def said(line: re.Match[str], start: int) -> Iterator[Passage]:
    """What a line says and who says it: `ODA (off): Home.`; `CAPTION (ODA): …` is Oda's voice."""
    name, how = line["name"].strip(), line["how"] or ""
    begins, words = start + line.start("words"), line["words"].strip()
    ends = begins + len(line["words"].rstrip())
    kind = name.split()[0].strip(".")
    if kind in _SOUNDS:
        yield Passage("note", start + line.start("name"), max(ends, start + line.end("name")), words)
        return
    caption = kind in _CAPTIONS
    if caption:
        name = how.strip("() \t") if how.strip("() \t").isupper() else ""
    off = caption or _is_off(how)
    if name or not words:
        yield Passage("character", start + line.start("name"), begins, line["name"].strip(), name, off=off)
    if aside := _ASIDE.match(words):
        yield Passage("parenthetical", begins, begins + aside.end(1), aside[1][1:-1], name, off=off)
        begins, words = begins + aside.end(), words[aside.end() :]
    if words:
        yield Passage("dialogue", begins, ends, " ".join(words.split()), name or "CAPTION", off=off)
