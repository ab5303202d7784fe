"""A text becomes proposed scenes and shots: sentences and speeches grouped into moments that one picture can show."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from juxtaform.core.text.candidates import Candidate, discovered
from juxtaform.core.text.lexicon import THINGS_THAT_GO
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.names import (
    QUOTE,
    Mention,
    Named,
    Reader,
    heading_place,
    time_of_day,
)
from juxtaform.core.text.scene_reading import Line, Piece, SceneReading
from juxtaform.core.text.timing import Pace, shot_time
from juxtaform.core.text.voices import Voices, Voicing

CUT = 1.0
"""The score from which a new picture begins; see `_cut_score` for what adds to it."""
FULL_WORDS = 26
"""A moment with this many words is as much as one picture should carry of read-aloud text."""
SHOWS_MOST = 160

_SHIFT = re.compile(
    r"^\W*(then|suddenly|meanwhile|next|later|soon|after|before|at last|finally|now|when|by|until|that night|in the "
    r"morning|behind|outside|inside|above|below|far|up on|down|over|beyond|across|all at once|back|on the|in the|at the)\b",
    re.IGNORECASE,
)
_LATER = re.compile(
    r"^\W*(by (morning|evening|night|noon|dawn|dusk)|the next (day|morning|night)|that (night|evening)|in the morning|"
    r"at (midnight|dawn|dusk|noon|night)|later|meanwhile|one (day|morning|night|evening)|every (day|morning|night|evening)|"
    r"then one|(an hour|a day|a week|days|weeks|years) later)\b",
    re.IGNORECASE,
)
_CARRIED_ON = re.compile(r"^\W*(and|but|so|or|this|that|who|which)\b", re.IGNORECASE)
_PRONOUN_FIRST = re.compile(r"^\W*(he|she|it|they)\b", re.IGNORECASE)
_CLOSE = re.compile(
    r"\b(eyes?|face|smil(?:e|ed|es|ing)|tears?|whisper(?:ed|s)?|hands?|fingers?|tapped|looked closely|blink(?:ed|s)?|lips)\b",
    re.IGNORECASE,
)
_DETAIL = re.compile(r"\b(key|ring|letter|button|coin|crack|keyhole|stone|eye|handle|word|words|page)\b", re.IGNORECASE)
_WIDE = re.compile(
    r"\b(harbour|harbor|sea|sky|hills?|mountains?|forest|city|town|village|valley|street|fields?|desert|horizon|boats|"
    r"everywhere|far|miles|hundred|thousand|world|crowd|whole|road|river|bridge|beach)\b",
    re.IGNORECASE,
)
_ANGLES: tuple[tuple[str, str], ...] = (
    (
        r"from (?:high )?above|far below|bird'?s[- ]eye|seen from the (?:roof|tower|top|air)|over the rooftops",
        "bird's eye",
    ),
    (r"look(?:ed|s|ing)? down|peer(?:ed|s|ing)? down|down the (?:stairs|steps|well|inside)", "high"),
    (
        r"look(?:ed|s|ing)? up|tower(?:ed|s|ing) (?:over|above)|loom(?:ed|s|ing)|climb(?:ed|s|ing)? (?:up )?(?:the|a)|high above",
        "low",
    ),
    (
        r"through (?:his|her|their|the) (?:eyes|keyhole|spyglass|telescope)|saw (?:that|the|a|how)|could see",
        "point of view",
    ),
)


@dataclass(frozen=True)
class ProposedShot:
    """A moment: its span in the text (characters), what it shows, who is in it, where, with what (thread ids), trade size,
    angle, seconds, the words spoken in it, the time of day, and why a new picture begins here."""

    start: int
    end: int
    shows: str
    cast: tuple[str, ...]
    places: tuple[str, ...]
    size: str
    length_s: float
    lines: tuple[Line, ...] = ()
    props: tuple[str, ...] = ()
    angle: str = "eye level"
    time: str = ""
    why: str = ""

    @property
    def spoken(self) -> str:
        return " ".join(line.words for line in self.lines)


@dataclass(frozen=True)
class ProposedScene:
    """A scene: its heading (empty when the text gives none), its span, its place and time of day, and its shots."""

    title: str
    start: int
    end: int
    shots: tuple[ProposedShot, ...]
    places: tuple[str, ...] = ()
    time: str = ""


def breakdown(
    manuscript: Manuscript,
    threads: Sequence[Named] = (),
    pace: Pace | None = None,
    candidates: Sequence[Candidate] | None = None,
) -> list[ProposedScene]:
    """Proposed scenes and shots of a text, in order; every word that pictures cover lies in exactly one shot.

    Who and what is in a shot is told by thread id; candidates that the text names and that are no threads yet have ids
    that begin with `new:` (None: they are discovered). Linear in the length of the text.
    """
    found = discovered(manuscript, threads) if candidates is None else list(candidates)
    everyone = [*threads, *(c.named() for c in found)]
    by_id = {t.id: t for t in everyone}
    reading = SceneReading(manuscript, everyone)
    reading.learn_sides()
    voicing = Voicing(manuscript)
    scenes = []
    for heading, passages in manuscript.scenes():
        title = heading.words if heading else ""
        here = tuple(dict.fromkeys(m.id for m in _named_in_heading(title, everyone)))
        time = heading_place(title)[1] if title else ""
        pieces = reading.pieces(passages)
        shots = []
        for i, (group, why) in enumerate(_moments(pieces)):
            heard = voicing.of(group[0].start, group[-1].end)
            shots.append(_shot(group, here, time, why, first=i == 0, by_id=by_id, pace=pace or Pace(), voices=heard))
            time = shots[-1].time
        start = heading.start if heading else (passages[0].start if passages else 0)
        end = max([p.end for p in passages], default=heading.end if heading else start)
        if shots or title:
            scenes.append(ProposedScene(title, start, end, tuple(shots), here, heading_place(title)[1]))
    return scenes


def _named_in_heading(title: str, everyone: Sequence[Named]) -> list[Mention]:
    """Settings that a heading names, whatever its capitals."""
    settings = [
        replace(t, name=t.name.casefold(), aliases=tuple(a.casefold() for a in t.aliases))
        for t in everyone
        if t.kind == "setting"
    ]
    return Reader(settings).mentions(title.casefold()) if title and settings else []


def _moments(pieces: list[Piece]) -> list[tuple[list[Piece], str]]:
    groups: list[tuple[list[Piece], str]] = []
    for piece in pieces:
        if groups:
            score, why = _cut_score(groups[-1][0], piece)
            if score < CUT:
                groups[-1][0].append(piece)
                continue
            groups.append(([piece], why))
        else:
            groups.append(([piece], "a scene begins"))
    return groups


def _cut_score(moment: list[Piece], following: Piece) -> tuple[float, str]:
    """How strongly a new picture begins here, and the strongest reason: 1 for a new person or place in the lead."""
    words = sum(p.words for p in moment)
    known = {name for p in moment for name in p.people}
    here = {place for p in moment for place in p.places}
    signs: list[tuple[float, str]] = []
    if following.lead and following.lead not in known:
        signs.append((1.0, "somebody new"))
    elif following.lead and moment[-1].people and following.lead != moment[-1].lead:
        signs.append((0.45, "somebody else acts"))
    if following.places and not here & set(following.places):
        signs.append((1.0 if here else 0.6, "a new place"))
    if following.begins_paragraph:
        signs.append((0.75, "a new paragraph"))
        if following.speech and not moment[-1].speech:
            signs.append((0.25, "somebody speaks"))
        elif (
            following.speech
            and moment[-1].lines
            and following.lines
            and following.lines[0].speaker != moment[-1].lines[-1].speaker
        ):
            signs.append((0.35, "an answer"))
    if _LATER.match(following.text):
        signs.append((1.0, "a new time"))
    elif _SHIFT.match(following.text):
        signs.append((0.6, "a turn"))
    over = (words + following.words - FULL_WORDS) / FULL_WORDS
    if over > 0:
        signs.append((over, "enough for one picture"))
    score = sum(weight for weight, _ in signs)
    if not following.begins_paragraph:
        if _PRONOUN_FIRST.match(following.text) and following.lead in known:
            score -= 0.5
        elif _CARRIED_ON.match(following.text):
            score -= 0.4
        if following.speech and moment[-1].speech:
            score -= 0.4
    if words < 5:
        score -= 0.7
    if following.lead not in known and known & set(following.people) and not following.begins_paragraph:
        score -= 0.4
    return score, max(signs, default=(0.0, ""))[1]


def _shot(
    group: list[Piece],
    here: tuple[str, ...],
    time: str,
    why: str,
    *,
    first: bool,
    by_id: dict[str, Named],
    pace: Pace,
    voices: Voices,
) -> ProposedShot:
    text = " ".join(" ".join(p.text.split()) for p in group)
    cast = tuple(dict.fromkeys(name for p in group for name in p.people))
    seen = tuple(dict.fromkeys(place for p in group for place in p.places))
    parts = {t.id for t in by_id.values() if here and t.name.casefold() in THINGS_THAT_GO}
    places = tuple(dict.fromkeys([*here, *(p for p in seen if p not in parts)]))
    shown_piece = next((p for p in group if p.people and not (p.speech and len(p.lines) and len(group) > 1)), group[0])
    named_places = any(p.places for p in group)
    return ProposedShot(
        group[0].start,
        group[-1].end,
        shown(shown_piece.text, shown_piece.start, shown_piece.mentions, shown_piece.lines, by_id),
        cast,
        places,
        _size(text, len(cast), establishing=first and (bool(here) or named_places), speech=group[0].speech),
        shot_time(voices, pace).length_s,
        tuple(line for p in group for line in p.lines),
        tuple(dict.fromkeys(prop for p in group for prop in p.props)),
        next(
            (angle for pattern, angle in _ANGLES if re.search(rf"\b(?:{pattern})\b", text, re.IGNORECASE)), "eye level"
        ),
        time_of_day(text) or time,
        why,
    )


def shown(text: str, at: int, mentions: Sequence[Mention], lines: Sequence[Line], by_id: dict[str, Named]) -> str:
    """What one picture shows, as a still description: who speaks for a speech, else the sentence, its first pronoun
    replaced by the name it stands for."""
    outside = QUOTE.sub("", text).strip(" ,.–—")
    if lines and (len(outside.split()) < 4 or text == lines[0].words):
        speaker = by_id.get(lines[0].speaker)
        return f"{_capital(speaker.name)} speaks." if speaker else "Somebody speaks."
    pronoun = next(
        (
            m
            for m in sorted(mentions, key=lambda m: m.start)
            if m.pronoun and text[m.start - at : m.end - at].casefold() in ("she", "he", "it")
        ),
        None,
    )
    named_first = any(not m.pronoun and pronoun and m.id == pronoun.id and m.start < pronoun.start for m in mentions)
    words = text
    if pronoun and not named_first:
        name = by_id[pronoun.id].name
        name = name if name[:1].isupper() else f"the {name}"
        words = text[: pronoun.start - at] + name + text[pronoun.end - at :]
    for t in (by_id[i] for i in dict.fromkeys(m.id for m in mentions)):
        if t.kind == "character" and len(t.name) > 1:
            words = re.sub(rf"\b{re.escape(t.name.upper())}\b", t.name, words)
    plain = _capital(" ".join(words.split()))
    return plain if len(plain) <= SHOWS_MOST else plain[: SHOWS_MOST - 3].rsplit(" ", 1)[0] + " …"


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _size(text: str, people: int, *, establishing: bool, speech: bool) -> str:
    """A trade size from the words: wide for places, crowds and a scene's first picture, close for faces and hands."""
    if establishing:
        return "WS"
    if people == 0 and _DETAIL.search(text) and not _WIDE.search(text):
        return "CU"
    if people <= 1 and _CLOSE.search(text):
        return "CU"
    if speech and people <= 1:
        return "MCU"
    if _WIDE.search(text) or people >= 3:
        return "WS"
    return "MS"
