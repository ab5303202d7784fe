"""Plain text and Markdown (CommonMark's headings, rules, quotes, emphasis and comments) as passages; a comic script among it is read by its panels, a picture book's by its pages, a play by its lines."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import takewhile

from juxtaform.core.text.manuscript import (
    Framing,
    Manuscript,
    Passage,
    Trouble,
    line_number,
    lines_of,
)
from juxtaform.formats import comic, paged, play, shot_list
from juxtaform.formats.framing import without_framings
from juxtaform.formats.front import MOST, front_of, is_salutation, is_signed, is_the_end
from juxtaform.formats.headings import bare_headings, begins_an_item, is_heading, labelled

_ATX = re.compile(r"^ {0,3}(#{1,6})(?:[ \t]+|(?=[^#\s])|$)(.*?)[ \t]*#*[ \t]*$")
_SETEXT = re.compile(r"^ {0,3}(=+|-+)[ \t]*$")
_RULE = re.compile(r"^[ \t]*([*\-_~•][ \t]*){3,}$|^[ \t]*[⁂§][ \t]*$")
_COMMENT = re.compile(r"<!--.*?-->", re.DOTALL)
_MARKS = re.compile(r"(?<!\w)(\*{1,3}|_{1,3})(?=\S)(.{1,400}?)(?<=\S)\1(?!\w)")
_LEAD = re.compile(r"^[ \t]*(?:>[ \t]?)*(?:[-*+•][ \t]+|\d{1,3}[.)][ \t]+)?")


def read(text: str) -> Manuscript:
    """The passages of a plain or Markdown text; headings and rules begin scenes, paragraphs are narration.

    >>> [(p.kind, p.words) for p in read("# The quay\\n\\nOda *sat*\\ndown.").passages]
    [('scene', 'The quay'), ('action', 'Oda sat down.')]
    """
    last = text.rfind("-->") + 3 if "-->" in text else 0  # behind it no comment is closed, however often one is opened
    masked = _COMMENT.sub(lambda m: re.sub(r"[^\n]", " ", m.group()), text[:last]) + text[last:]
    troubles = []
    if (left := masked.find("<!--")) >= 0:
        troubles.append(Trouble(line_number(text, left), "A comment is opened with <!-- and never closed with -->."))
    notes = [Passage("note", m.start(), m.end(), m.group()[4:-3].strip()) for m in _COMMENT.finditer(text, 0, last)]
    panels: tuple[int, ...] = ()
    forms: tuple[str, ...] = ()
    framings: tuple[Framing, ...] = ()
    if comic.is_comic(masked):
        blocks, panels = comic.read(masked)
    elif shot_list.is_shot_list(masked):
        blocks, panels, framings = shot_list.read(masked)
        forms = ("",) * len(panels)
    elif paged.is_paged(masked):
        blocks, panels, forms = paged.read(masked)
    elif play.is_play(masked):
        blocks = play.read(masked)
    else:
        blocks = _ended(_letters(_blocks(masked)))
    passages = sorted([*blocks, *notes], key=lambda p: p.start)
    if panels and not forms:  # a comic script
        passages, framings = without_framings(text, passages, panels)
    return Manuscript(text, tuple(_titled(passages)), tuple(troubles), panels=panels, forms=forms, framings=framings)


def spoken_plainly(words: str) -> str:
    """Words without emphasis marks, white space folded."""
    return " ".join(_MARKS.sub(r"\2", words).split())


def _blocks(text: str) -> list[Passage]:
    found: list[Passage] = []
    lines: list[tuple[int, int, str]] = []
    bare_ones = bare_headings(text)

    def close() -> None:
        if lines:
            words = " ".join(_LEAD.sub("", line) for _, _, line in lines)
            first = lines[0][2]
            found.append(
                Passage(
                    "action", lines[0][0] + len(first) - len(first.lstrip()), _end(lines[-1]), spoken_plainly(words)
                )
            )
            lines.clear()

    for start, end, line in lines_of(text):
        bare = line.strip()
        if not bare:
            close()
        elif heading := _ATX.match(line):
            close()
            words, level = spoken_plainly(heading.group(2)), len(heading.group(1))
            found.append(Passage("scene", start, end, words, level=level))
        elif lines and len(lines) == 1 and len(bare) >= 3 and _SETEXT.match(line):
            first, _, words = lines.pop()
            found.append(Passage("scene", first, end, spoken_plainly(words), level=1 if "=" in line else 2))
        elif _RULE.match(line):
            close()
            found.append(Passage("scene", start, end, "", level=2))
        elif not lines and (place := labelled(bare)):
            found.append(Passage("scene", start, end, place, level=2))
        elif not lines and (is_heading(bare) or start in bare_ones):
            found.append(Passage("scene", start, end, bare.lstrip(".").strip(), level=2))
        else:
            if begins_an_item(line):
                close()
            lines.append((start, end, line))
    close()
    return found


def _letters(blocks: list[Passage]) -> list[Passage]:
    """Paragraphs, to whom a letter goes and from whom it comes joined to what it says."""
    found: list[Passage] = []
    for block in blocks:
        before = found[-1] if found and found[-1].kind == block.kind == "action" else None
        if before is not None and (is_salutation(before.words) or is_signed(block.words)):
            found[-1] = Passage("action", before.start, block.end, f"{before.words} {block.words}")
        else:
            found.append(block)
    return found


def _ended(blocks: list[Passage]) -> list[Passage]:
    """Paragraphs, without the last one as a picture where it says that the story is over."""
    if len(blocks) > 1 and blocks[-1].kind == "action" and is_the_end(blocks[-1].words):
        return [*blocks[:-1], replace(blocks[-1], kind="title", level=1)]
    return blocks


def _end(line: tuple[int, int, str]) -> int:
    return line[0] + len(line[2].rstrip())


def _titled(passages: list[Passage]) -> list[Passage]:
    """A first heading that stands right above a deeper one, and is the only one of its level, is the story's title; so is a first line that stands alone
    and ends without a mark, above a paragraph that ends with one, and with it what tells of the manuscript."""
    told = [p for p in passages if p.kind != "note"]
    paragraphs = list(takewhile(lambda p: p.kind == "action", told[: MOST + 1]))
    headed = len(told) > len(paragraphs) and told[len(paragraphs)].kind == "scene"
    if above := front_of([p.words for p in paragraphs], headed):
        for line in paragraphs[:above]:
            passages[passages.index(line)] = Passage("title", line.start, line.end, line.words, level=1)
        return passages
    headings = [p for p in passages if p.kind == "scene" and p.words]
    if len(headings) < 2 or headings[0] is not next((p for p in passages if p.kind != "note"), None):
        return passages
    first = headings[0]
    following = passages[passages.index(first) + 1 :]
    if not following or following[0] is not headings[1]:
        return passages
    if all(p.level > first.level for p in headings[1:]):
        passages[passages.index(first)] = Passage("title", first.start, first.end, first.words, level=first.level)
    return passages
