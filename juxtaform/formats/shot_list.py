"""A shot list in plain text: each line a picture, by its number, how it is framed and what it shows, as planners type it and paste it from elsewhere."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from juxtaform.core.text.manuscript import Framing, Passage, lines_of, may_be_title
from juxtaform.formats.comic import SPOKEN, goes_on, said
from juxtaform.formats.framing import begins_framed, framing_of
from juxtaform.formats.headings import is_heading, labelled

_LABEL = re.compile(
    r"^[ \t]{0,9}(?:[-*•][ \t]+)?(?P<word>(?:shot|sh|einstellung|plan|plano|toma)\b\.?[ \t]{0,3}(?:#|nr\.?|no\.?)?[ \t]{0,3})?"
    r"#?\d{1,4}[ \t]?(?:[a-z](?![a-z]))?[ \t]{0,3}(?P<how>[(\[][^)\]\n]{1,40}[)\]])?[ \t]{0,3}(?:[.):–—-]{1,2}|\t|(?=[A-Z]{2,3}\b))[ \t]*(?=\S)",
    re.IGNORECASE,
)
"""`Shot 4 (WS): `, `2B – `, `12. `."""
_SECONDS = re.compile(
    r"(?:[(\[]|[–—-][ \t])[ \t]{0,3}(?P<s>\d{1,3}(?:[.,]\d{1,2})?)[ \t]{0,3}(?:s|secs?|seconds?|sek(?:unden)?|secondes?|segundos?)\b\.?[ \t]{0,3}[)\]]?$",
    re.IGNORECASE,
)
_SCENE = re.compile(
    r"^(?:scene|szene|scène|escena)[ \t]+\d{1,3}\b[ \t]*(?:[.:–—-]+[ \t]*(?P<words>\S.{0,80}))?$", re.IGNORECASE
)
_SLUG = re.compile(r"(?:INT|EXT|I/E)\b\.?(?:/(?:INT|EXT)\.?)?[ \t]+[^a-zß-ÿ.:\n]{2,48}[.:][ \t]+(?=\S)")
"""Where a picture is, as some lists say it on each line: `INT. KITCHEN – DAY. `."""
LEAST_FRAMED, LEAST_SHARE = 3, 0.4
"""So many lines, and so large a part of all, say how a picture is framed."""


@dataclass(frozen=True)
class _Line:
    """A line that is a shot's: where what it shows begins and ends in it, how it is framed, and where a place is named in it."""

    begins: int
    ends: int
    framing: Framing
    slug: tuple[int, int] = (0, 0)


def is_shot_list(text: str) -> bool:
    """Whether a text is a shot list: three lines and more, and a good part of all, say how their picture is framed.

    >>> is_shot_list("1. WS. A quay.\\n2. CU. A hand.\\n3. OTS: the boat."), is_shot_list("1. A quay.\\n2. A hand.\\n3. The boat.")
    (True, False)
    """
    lines = [line for _, _, line in lines_of(text) if line.strip() and not _heading(line)]
    framed = sum(1 for line in lines if (shot := _shot(line)) is not None and shot.framing != Framing())
    return framed >= LEAST_FRAMED and framed >= LEAST_SHARE * len(lines)


def _heading(line: str) -> str:
    """What a line that begins a scene says, or nothing."""
    bare = line.strip().strip("#* \t")
    numbered = _SCENE.match(bare)
    return labelled(bare) or (numbered and numbered["words"]) or (bare if numbered or is_heading(bare) else "")


def _shot(line: str) -> _Line | None:
    """A line as that of a shot; None where it is none."""
    label = _LABEL.match(line)
    begins = label.end() if label else len(line) - len(line.lstrip())
    framing = (framing_of(label["how"][1:-1]) if label and label["how"] else None) or Framing()
    place = _SLUG.match(line, begins) if label else None
    slug = (begins, place.end()) if place else (0, 0)
    begins = place.end() if place else begins
    told = begins_framed(line[begins:])
    if label is None and told is None:
        return None
    if told is not None:
        framing, begins = told[0], begins + told[1]
    ends = len(line.rstrip())
    if seconds := _SECONDS.search(line, begins, ends):
        framing = replace(framing, seconds=float(seconds["s"].replace(",", ".")))
        ends = len(line[: seconds.start()].rstrip())
    return _Line(begins, ends, framing, slug)


def read(text: str) -> tuple[list[Passage], tuple[int, ...], tuple[Framing, ...]]:
    """The passages of a shot list, where each picture begins, and how it is framed. What stands above the first is a title or a note; a line that names
    a place or a scene begins one; `NILS: Who is there?` is said in the picture before it."""
    found: list[Passage] = []
    panels: list[int] = []
    framings: list[Framing] = []
    block: list[tuple[int, int]] = []
    speaks = False
    here = ""
    shots = [shot for _, _, line in lines_of(text) if (shot := _shot(line)) is not None]
    each_placed = 2 * sum(shot.slug != (0, 0) for shot in shots) > len(shots)

    def close() -> Iterator[Passage]:
        if not block:
            return
        start, end = block[0][0], block[-1][1]
        block.clear()
        words = " ".join(text[start:end].split())
        title = not found and not panels and may_be_title(words)
        yield Passage("title" if title else "action" if panels else "note", start, end, words, level=int(title))

    for start, end, line in lines_of(text):
        begins, stops = start + len(line) - len(line.lstrip()), start + len(line.rstrip())
        if begins >= stops:
            found += close()
            speaks = False
        elif heading := _heading(line):
            found += close()
            speaks = False
            found.append(Passage("scene", start, end, heading, level=2))
        elif (shot := _shot(line)) is not None:
            found += close()
            speaks = False
            first, last = shot.slug
            place = line[first:last].strip(" \t.:") if each_placed else ""
            if place and place != here:
                here = place
                found.append(Passage("scene", start + first, start + last, place, level=2))
            if not place and last and shot.framing == Framing():
                shot = replace(shot, begins=first)
            panels.append(start + last if place else start)
            framings.append(shot.framing)
            if not place:
                found.append(Passage("note", begins, max(begins + 1, start + shot.begins), line[: shot.begins].strip()))
            block.append((start + shot.begins, start + shot.ends))
        elif panels and (spoken := SPOKEN.match(line)):
            found += close()
            found += said(spoken, start)
            speaks = found[-1].kind != "note"
        elif speaks:
            found[-1:] = goes_on(found[-1], begins, stops, line)
        else:
            block.append((begins, stops))
    found += close()
    return found, tuple(panels), tuple(framings)
