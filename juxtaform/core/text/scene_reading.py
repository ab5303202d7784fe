"""A scene read sentence by sentence: who and what each names, who speaks in it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from juxtaform.core.text.lexicon import SAYING
from juxtaform.core.text.manuscript import PICTURED, Manuscript, Passage
from juxtaform.core.text.names import QUOTE, Mention, Named, Reader, narration
from juxtaform.core.text.pronouns import Pronouns

_SENTENCE_END = re.compile(r"[.!?…]+[\"”’')\]]*(?=\s+[\"“‘'(\[]?[A-ZÀ-ÞŁŠŽΑ-ΩА-Я0-9]|\s*$)")
_ABBREVIATIONS = {"mr", "mrs", "ms", "dr", "st", "prof", "no", "vs", "etc", "e.g", "i.e", "int", "ext", "est"}


@dataclass(frozen=True)
class Line:
    """Words spoken in a shot: who speaks (a thread's id, empty when the text does not tell) and what."""

    speaker: str
    words: str


@dataclass(frozen=True)
class Piece:
    """A sentence of narration or a speech, with who and what it names."""

    start: int
    end: int
    text: str
    begins_paragraph: bool
    speech: bool
    mentions: tuple[Mention, ...] = ()
    lines: tuple[Line, ...] = ()
    people: tuple[str, ...] = ()
    places: tuple[str, ...] = ()
    props: tuple[str, ...] = ()

    @property
    def words(self) -> int:
        return len(self.text.split())

    @property
    def lead(self) -> str:
        return self.people[0] if self.people else ""


class SceneReading:
    """Reads the scenes of one manuscript. Who is she and who is he is learned by reading all of it once before."""

    def __init__(self, manuscript: Manuscript, everyone: Sequence[Named]) -> None:
        self._manuscript = manuscript
        self._text = manuscript.text
        self._told = narration(manuscript)
        self._by_id = {t.id: t for t in everyone}
        self._reader = Reader(everyone)
        self._pronouns = Pronouns(everyone)

    def learn_sides(self) -> None:
        """Read all scenes for what pronouns show of whom they name; later readings go by it."""
        for _, passages in self._manuscript.scenes():
            self.pieces(passages)

    def pieces(self, passages: Sequence[Passage]) -> list[Piece]:
        """The sentences and speeches of a scene; pronouns do not reach over its heading."""
        self._pronouns.forget()
        return list(self._read(passages))

    def _read(self, passages: Sequence[Passage]) -> Iterator[Piece]:
        speakers: list[str] = []
        for passage in passages:
            if passage.kind not in PICTURED:
                continue
            if passage.kind in ("dialogue", "lyric") and passage.name:
                who = next((m.id for m in self._reader.mentions(passage.name)), "")
                line = (Line(who, passage.words),)
                cast = (who,) if who else ()
                yield Piece(passage.start, passage.end, passage.words, True, True, (), line, cast)
                self._pronouns.resolved("", 0, [Mention(who, passage.start, passage.end)] if who else [])
                continue
            first = True
            quoted_only = not self._told[passage.start : passage.end].strip(" \n.,!?–—-")
            for start, end in sentence_spans(self._text, passage.start, passage.end):
                plain = self._told[start:end]
                quotes = [q.group().strip(' “”"«»„,') for q in QUOTE.finditer(self._text, start, end)]
                answered = speakers[-1] if quotes and first and speakers else ""
                mentions = self._pronouns.resolved(
                    plain, start, self._reader.mentions(self._told, start, end), answered
                )
                people = tuple(dict.fromkeys(m.id for m in mentions if self._by_id[m.id].kind == "character"))
                lines: tuple[Line, ...] = ()
                if quotes:
                    who = _speaker(plain, start, mentions, self._by_id) or (people[0] if people else "")
                    if not who and speakers and not first:
                        who = speakers[-1]
                    if not who and quoted_only and len(speakers) > 1:
                        who = next((s for s in reversed(speakers[:-1]) if s != speakers[-1]), speakers[-1])
                    if who and (not speakers or speakers[-1] != who or first):
                        speakers.append(who)
                    lines = tuple(Line(who, q) for q in quotes if q)
                    people = tuple(dict.fromkeys([*([who] if who else []), *people]))
                yield Piece(
                    start,
                    end,
                    self._text[start:end],
                    first,
                    bool(quotes),
                    tuple(mentions),
                    lines,
                    people,
                    tuple(dict.fromkeys(m.id for m in mentions if self._by_id[m.id].kind == "setting")),
                    tuple(dict.fromkeys(m.id for m in mentions if self._by_id[m.id].kind == "prop")),
                )
                first = False


def _speaker(plain: str, at: int, mentions: Sequence[Mention], by_id: dict[str, Named]) -> str:
    """Who speaks in a sentence with quotes: the name or pronoun beside a verb of saying."""
    for verb in re.finditer(rf"\b(?:{SAYING})\b", plain):
        near = [m for m in mentions if by_id[m.id].kind == "character"]
        after = [m for m in near if 0 <= m.start - at - verb.end() <= 12]
        before = [m for m in near if 0 <= at + verb.start() - m.end <= 24]
        if after or before:
            return (after[:1] or before[-1:])[0].id
    return ""


def sentence_spans(text: str, start: int, end: int) -> list[tuple[int, int]]:
    """The sentences of a passage as spans; a quotation is not broken open, an abbreviation ends none."""
    spans, at = [], start
    for stop in _SENTENCE_END.finditer(text, start, end):
        last = text[at : stop.start()].split()
        if last and last[-1].lower().strip("“\"'(") in _ABBREVIATIONS:
            continue
        body = text[at : stop.end()]
        if body.count("“") > body.count("”") or body.count('"') % 2:
            continue
        spans.append((at, stop.end()))
        at = stop.end()
        while at < end and text[at].isspace():
            at += 1
    if at < end and text[at:end].strip():
        spans.append((at, at + len(text[at:end].rstrip())))
    return spans
