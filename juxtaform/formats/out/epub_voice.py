"""The voice of an EPUB: each sentence that is said lights up while it is heard (media overlays, W3C EPUB 3.3, section 9)."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from xml.sax.saxutils import escape

from juxtaform.formats.out.sequence import OutPhrase, OutSequence, OutShot
from juxtaform.formats.out.soundtrack import as_m4a

_NOT_XML = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]")
MARGIN_S = 0.06
"""A sentence is heard so much before and after: speech begins softer than it is found."""


@dataclass(frozen=True)
class _Said:
    """A sentence on a page: the name of its element, and where it is heard."""

    element: str
    phrase: OutPhrase


class ReadAlong:
    """Marks up the words that have a voice, page by page, and knows all that the package has to hold for it."""

    def __init__(self, sequence: OutSequence) -> None:
        self._sounds = {x.laid.piece.id: x for x in sequence.sounds if Path(x.copy).exists()}
        self._said: defaultdict[int, list[_Said]] = defaultdict(list)
        self._page = 0

    def turn_to(self, page: int) -> None:
        """What is marked up from now on lies on this page."""
        self._page = page

    def marked_up(self, shot: OutShot) -> str:
        """The words of a shot as XHTML, its sentences in spans where they have a voice."""
        parts, at = [], 0
        for phrase in shot.phrases:
            if phrase.sound not in self._sounds or phrase.start < at:
                continue
            element = f"said-{shot.number}-{phrase.start}"
            self._said[self._page].append(_Said(element, phrase))
            parts += [
                _lines(shot.words[at : phrase.start]),
                f'<span id="{element}">{_lines(shot.words[phrase.start : phrase.end])}</span>',
            ]
            at = phrase.end
        return "".join([*parts, _lines(shot.words[at:])])

    def overlays(self) -> dict[str, str]:
        """The overlay of each page that has a voice, by its file's name."""
        return {f"{_overlay(page)}.smil": self._smil(page) for page in self._said}

    def sounds(self, kept: Callable[[str], Path]) -> Iterator[tuple[str, Path]]:
        """The recordings that are heard, as every reader plays them, each with its name in the book."""
        for sound in self._heard():
            name = self._name(sound)
            path = kept(name.rpartition("/")[2])
            if not path.exists():
                half = path.with_name(f"half-{path.name}")
                as_m4a(self._sounds[sound], half)
                half.replace(path)
            yield name, path

    def items(self) -> list[str]:
        """Entries of the package's manifest."""
        overlays = [
            f'<item id="{_overlay(page)}" href="{_overlay(page)}.smil" media-type="application/smil+xml"/>'
            for page in self._said
        ]
        return overlays + [
            f'<item id="{self._name(s)[7:-4]}" href="{self._name(s)}" media-type="audio/mp4"/>' for s in self._heard()
        ]

    def names_overlay(self, page: int) -> str:
        """What the entry of a page says of its overlay."""
        return f' media-overlay="{_overlay(page)}"' if page in self._said else ""

    def about(self) -> str:
        """The package's metadata: how long all takes, and each page."""
        if not self._said:
            return ""
        lengths = {page: sum(to - start for start, to in map(self._clip, said)) for page, said in self._said.items()}
        lines = [
            f'<meta property="media:duration" refines="#{_overlay(page)}">{s:.3f}s</meta>'
            for page, s in lengths.items()
        ]
        lines.append(f'<meta property="media:duration">{sum(lengths.values()):.3f}s</meta>')
        lines.append('<meta property="media:active-class">-epub-media-overlay-active</meta>')
        lines.append('<meta property="schema:accessMode">auditory</meta>')
        lines.append('<meta property="schema:accessibilityFeature">synchronizedAudioText</meta>')
        return "\n".join(lines) + "\n"

    def _heard(self) -> list[str]:
        return list(dict.fromkeys(s.phrase.sound for said in self._said.values() for s in said))

    def _name(self, sound: str) -> str:
        return f"sounds/voice-{sound}.m4a"

    def _clip(self, said: _Said) -> tuple[float, float]:
        piece = self._sounds[said.phrase.sound].laid.piece
        return max(piece.from_s, said.phrase.from_s - MARGIN_S), min(piece.to_s, said.phrase.to_s + MARGIN_S)

    def _smil(self, page: int) -> str:
        pairs = []
        for said in self._said[page]:
            start, end = self._clip(said)
            pairs.append(
                f'<par id="{said.element}"><text src="page-{page:03d}.xhtml#{said.element}"/>'
                f'<audio src="{self._name(said.phrase.sound)}" clipBegin="{start:.3f}s" clipEnd="{end:.3f}s"/></par>'
            )
        body = "\n".join(pairs)
        return (
            '<?xml version="1.0" encoding="utf-8"?>\n<smil xmlns="http://www.w3.org/ns/SMIL" version="3.0">\n'
            f"<body>\n{body}\n</body>\n</smil>\n"
        )


def _overlay(page: int) -> str:
    return f"voice-of-page-{page:03d}"


def _lines(words: str) -> str:
    return "<br/>".join(text(line) for line in words.split("\n"))


def clean(words: str) -> str:
    """Words without what XML cannot hold."""
    return _NOT_XML.sub("", words)


def text(words: str) -> str:
    """Words as text of XHTML."""
    return escape(clean(words))
