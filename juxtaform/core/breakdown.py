"""A text becomes proposed scenes and shots: sentences grouped into moments that one picture can show."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.preflight import Named, names_in

READING_WORDS_PER_MINUTE = 130
"""Reading aloud to children, unhurried."""
PAUSE_S = 0.8
"""A breath at the end of each moment."""
SHORTEST_S = 2.0
CUT = 1.0
"""The score from which a new picture begins; see `_cut_score` for what adds to it."""
FULL_WORDS = 26
"""A moment with this many words is as much as one picture should carry of read-aloud text."""

_HEADING = re.compile(r"^\s*(#{1,6})(?:\s+|(?=[^#\s]))(.*?)\s*#*\s*$|^\s*(#{1,6})\s*$")
_SCENE_HEADING = re.compile(r"^\s*(?:\.(?=[^.])|(?=(?:INT|EXT|EST|INT\.?/EXT|I/E)[. ]))(.+?)\s*$", re.IGNORECASE)
_SENTENCE_END = re.compile(r"[.!?…]+[\"”’')\]]*(?=\s+[\"“‘'(\[]?[A-ZÀ-ÞΑ-ΩА-Я0-9]|\s*$)")
_ABBREVIATIONS = {"mr", "mrs", "ms", "dr", "st", "prof", "no", "vs", "etc", "e.g", "i.e", "int", "ext", "est"}
_QUOTED = re.compile(r"[“\"]([^”\"]+)[”\"]")
_SHIFT = re.compile(
    r"^\W*(then|suddenly|meanwhile|next|later|soon|after|before|at last|finally|now|when|by|until|that night|in the "
    r"morning|behind|outside|inside|above|below|far|up on|down|over|beyond|across|all at once)\b",
    re.IGNORECASE,
)
_LATER = re.compile(
    r"^\W*(by (morning|evening|night|noon|dawn|dusk)|the next (day|morning|night)|that (night|evening)|in the morning|"
    r"at (midnight|dawn|dusk|noon)|later|meanwhile|(an hour|a day|a week|days|weeks|years) later)\b",
    re.IGNORECASE,
)
_CARRIED_ON = re.compile(
    r"^\W*(he|she|it|they|his|her|its|their|him|them|and|but|so|or|this|that|who|which)\b", re.IGNORECASE
)
_CLOSE = re.compile(
    r"\b(eye|eyes|face|smile|smiled|tear|tears|whisper|whispered|hand|hands|finger|fingers|tapped|looked closely|blink)",
    re.I,
)
_WIDE = re.compile(
    r"\b(harbour|harbor|sea|sky|hill|hills|mountain|mountains|forest|city|town|village|valley|street|field|fields|"
    r"desert|horizon|boats|everywhere|far|miles|hundred|thousand|world|crowd)\b",
    re.I,
)


@dataclass(frozen=True)
class ProposedShot:
    """A moment: its span in the text (characters), what it shows, who and where (thread ids), trade size, seconds, and
    the words spoken in it."""

    start: int
    end: int
    shows: str
    cast: tuple[str, ...]
    places: tuple[str, ...]
    size: str
    length_s: float
    spoken: str


@dataclass(frozen=True)
class ProposedScene:
    """A scene: its heading (empty when the text gives none), its span, and its shots."""

    title: str
    start: int
    end: int
    shots: tuple[ProposedShot, ...]


@dataclass(frozen=True)
class _Sentence:
    start: int
    end: int
    text: str
    begins_paragraph: bool
    cast: tuple[str, ...]
    places: tuple[str, ...]

    @property
    def words(self) -> int:
        return len(self.text.split())


def breakdown(text: str, cast: Sequence[Named] = (), places: Sequence[Named] = ()) -> list[ProposedScene]:
    """Proposed scenes and shots of a text, in order; every word of the body lies in exactly one shot.

    A line that starts with `#`, or in the open screenplay form (INT., EXT., EST., or a leading full stop), begins a
    scene. Names are matched with their capitals, possessives included. Linear in the length of the text.

    >>> [s.shows for s in breakdown("Pell sat. Then Oda came home.", [Named("p", "Pell"), Named("o", "Oda")])[0].shots]
    ['Pell sat.', 'Then Oda came home.']
    """
    found = []
    for title, start, end in _scenes(text):
        sentences = _sentences(text, start, end, cast, places)
        heading_places = _places_in(title, places)
        shots = tuple(_shot(group, heading_places) for group in _moments(sentences))
        if shots or title:
            found.append(ProposedScene(title, start, end, shots))
    return found


def reading_length_s(words: int) -> float:
    """Seconds to read that many words aloud, with a breath after them.

    >>> reading_length_s(13)
    6.8
    """
    return round(max(SHORTEST_S, words * 60 / READING_WORDS_PER_MINUTE + PAUSE_S), 1) if words else 3.0


def _scenes(text: str) -> list[tuple[str, int, int]]:
    """Title and body span of each scene."""
    found: list[tuple[str, int, int]] = []
    title, start, position = "", 0, 0
    for line in text.splitlines(keepends=True):
        heading = _HEADING.match(line) or None
        named = (heading.group(2) or "") if heading else None
        if named is None and (scene := _SCENE_HEADING.match(line)):
            named = scene.group(1).strip()
        if named is not None:
            if title or text[start:position].strip():
                found.append((title, start, position))
            title, start = named, position + len(line)
        position += len(line)
    if title or text[start:].strip():
        found.append((title, start, len(text)))
    return found


def _places_in(title: str, places: Sequence[Named]) -> tuple[str, ...]:
    """Places named in a heading, whatever its capitals: screenplay headings are in capitals throughout."""
    folded = [Named(p.id, p.name.casefold(), tuple(a.casefold() for a in p.aliases)) for p in places]
    return tuple(names_in(title.casefold(), folded))


def _sentences(text: str, start: int, end: int, cast: Sequence[Named], places: Sequence[Named]) -> list[_Sentence]:
    found = []
    for paragraph in re.finditer(r"\S(?:.|\n(?!\s*\n))*", text[start:end]):
        a, b = start + paragraph.start(), start + paragraph.end()
        first = True
        for x, y in _sentence_spans(text, a, b):
            body = text[x:y]
            found.append(_Sentence(x, y, body, first, tuple(names_in(body, cast)), tuple(names_in(body, places))))
            first = False
    return found


def _sentence_spans(text: str, start: int, end: int) -> list[tuple[int, int]]:
    spans, at = [], start
    for stop in _SENTENCE_END.finditer(text, start, end):
        last = text[at : stop.start()].split()
        if last and last[-1].lower().strip("“\"'(") in _ABBREVIATIONS:
            continue
        if text[at : stop.end()].count("“") > text[at : stop.end()].count("”"):
            continue
        spans.append((at, stop.end()))
        at = stop.end()
        while at < end and text[at].isspace():
            at += 1
    if at < end and text[at:end].strip():
        spans.append((at, at + len(text[at:end].rstrip())))
    return spans


def _moments(sentences: list[_Sentence]) -> list[list[_Sentence]]:
    groups: list[list[_Sentence]] = []
    for sentence in sentences:
        if groups and _cut_score(groups[-1], sentence) < CUT:
            groups[-1].append(sentence)
        else:
            groups.append([sentence])
    return groups


def _cut_score(held: list[_Sentence], following: _Sentence) -> float:
    """How strongly a new picture begins here: 1 for a new person or place in the lead, less for weaker signs."""
    words = sum(s.words for s in held)
    known = {name for s in held for name in s.cast}
    here = {place for s in held for place in s.places}
    speech_goes_on = _QUOTED.search(following.text) and _QUOTED.search(held[-1].text)
    score = 0.0
    if following.cast and following.cast[0] not in known:
        score += 1.0 if known else 0.7
    if following.places and not here & set(following.places):
        score += 1.0
    if following.begins_paragraph:
        score += 0.6
    if _LATER.match(following.text):
        score += 1.0
    elif _SHIFT.match(following.text):
        score += 0.6
    if _CARRIED_ON.match(following.text) and not following.begins_paragraph:
        score -= 0.4
    if speech_goes_on:
        score -= 0.3
    score += max(0.0, (words + following.words - FULL_WORDS) / FULL_WORDS)
    if words < 5:
        score -= 0.5
    return score


def _shot(group: list[_Sentence], heading_places: tuple[str, ...]) -> ProposedShot:
    text = " ".join(" ".join(s.text.split()) for s in group)
    cast = tuple(dict.fromkeys(name for s in group for name in s.cast))
    places = tuple(dict.fromkeys(place for s in group for place in s.places)) or heading_places
    told = next((s for s in group if s.cast), group[0])
    shows = " ".join(told.text.split())
    spoken = " ".join(_QUOTED.findall(text))
    return ProposedShot(
        group[0].start,
        group[-1].end,
        shows if len(shows) <= 160 else shows[:157].rsplit(" ", 1)[0] + " …",
        cast,
        places,
        _size(text, len(cast)),
        reading_length_s(len(text.split())),
        spoken,
    )


def _size(text: str, people: int) -> str:
    """A trade size from the words: wide for places and crowds, close for faces and hands, else medium."""
    if people <= 1 and _CLOSE.search(text):
        return "CU"
    if _WIDE.search(text) or people >= 3:
        return "WS"
    return "MS"
