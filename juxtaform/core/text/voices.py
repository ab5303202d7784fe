"""Who says the words of a stretch of text: somebody in the picture, the one who tells the story, or nobody."""

from __future__ import annotations

import re
from dataclasses import dataclass

from juxtaform.core.text.manuscript import PICTURED, Along, Manuscript, PassageKind
from juxtaform.core.text.names import heading_place
from juxtaform.core.text.speech import bare

_JOINT = re.compile(
    r",?\s+(?:and then|then|and|while|as|but)\s+(?=(?:\w+\s+){0,2}\w+(?:ed|s)\b)|;|(?<=[a-z]),\s+(?=\w+(?:ed|s)\b)"
)
_WORD = re.compile(r"\w+")
SPOKEN: frozenset[PassageKind] = frozenset({"dialogue", "lyric"})
CUES: frozenset[PassageKind] = frozenset({"character", "parenthetical", "transition"})
"""What a script puts around speech."""


@dataclass(frozen=True)
class Voices:
    """Words `spoken` by the cast, `told` by a narrator, and `acted`: a script's action, which is seen and not heard."""

    spoken: str = ""
    told: str = ""
    acted: str = ""

    @property
    def deeds(self) -> int:
        """How many things happen one after another in what is acted.

        >>> Voices(acted="The tram stops, opens its doors and waits. Rain.").deeds
        4
        """
        sentences = [s for s in re.split(r"[.!?…]+", self.acted) if s.strip()]
        return sum(1 + len(_JOINT.findall(s)) for s in sentences)


class Voicing:
    """Tells the voices of any stretch of one manuscript, each in the time of the passages that it touches."""

    def __init__(self, manuscript: Manuscript) -> None:
        self._manuscript = manuscript
        self.is_script = any(p.kind == "character" for p in manuscript.passages) or any(
            heading_place(p.words)[2] for p in manuscript.passages if p.kind == "scene"
        )
        self._along = Along(manuscript.passages)

    def of(self, start: int, end: int) -> Voices:
        """The voices in the characters `start`..`end`; speech marks and cues are left out.

        >>> from juxtaform.core.text.manuscript import Passage
        >>> text = "“Come,” said Oda. The lamp went out."
        >>> Voicing(Manuscript(text, (Passage("action", 0, len(text), text),))).of(0, len(text))
        Voices(spoken='Come,', told='said Oda. The lamp went out.', acted='')
        """
        spoken: list[str] = []
        plain: list[str] = []
        for passage in self._along.touching(start, end):
            low, high = max(start, passage.start), min(end, passage.end)
            words = self._manuscript.text[low:high]
            if passage.kind in ("dialogue", "lyric"):
                spoken.append(words)
            elif passage.kind in ("action", "centred"):
                at = low
                for a, b in self._manuscript.said_in(passage):
                    if b <= low or a >= high:
                        continue
                    spoken.append(bare(self._manuscript.text[max(a, low) : min(b, high)]))
                    plain.append(self._manuscript.text[at : max(a, low)])
                    at = min(b, high)
                plain.append(self._manuscript.text[at:high])
        said, rest = (" ".join(" ".join(part).split()) for part in (spoken, plain))
        return Voices(said, "", rest) if self.is_script else Voices(said, rest)

    def beside(self, start: int, end: int) -> str:
        """The words in the characters `start`..`end` that stand beside the picture in a book: notes, numbers of pages and what is to be seen left out;
        of a comic script what is said and told alone."""
        comic = bool(self._manuscript.panels) and not self._manuscript.by_pages
        found: list[str] = []
        for passage in self._along.touching(start, end):
            told = passage.kind in (SPOKEN if comic else PICTURED | CUES)
            if told and max(start, passage.start) < min(end, passage.end):
                found.append(self._manuscript.text[max(start, passage.start) : min(end, passage.end)])
        return " ".join(" ".join(found).split())


def as_said(words: str) -> str:
    """Words as they are heard, without their marks and capitals: what is spoken stands in the text in speech marks, with a comma for a full stop.

    >>> as_said("“The tide,  woke!”") == as_said("the tide woke")
    True
    """
    return " ".join(_WORD.findall(words.casefold()))
