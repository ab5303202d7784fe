"""How long words take: a reading pace by language and audience, pauses by punctuation, and what has to give.

Paces in words a minute. Silent reading of adults: M. Brysbaert, "How many words do we read per minute?", J. Mem. Lang.
109, 2019 (238 for English; other languages by the ratios of S. Trauzettel-Klosinski and K. Dietz, Invest. Ophthalmol.
Vis. Sci. 53, 2012, table 2). Reading aloud: 183 in the first source; to children it is slower, with time to look.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.text.voices import Voices

Audience = Literal["aloud to children", "aloud", "voice-over", "silent"]

ALOUD_TO_CHILDREN, ALOUD, VOICE_OVER, SILENT = 130.0, 183.0, 150.0, 238.0
PACES: dict[Audience, float] = {
    "aloud to children": ALOUD_TO_CHILDREN,
    "aloud": ALOUD,
    "voice-over": VOICE_OVER,
    "silent": SILENT,
}
LANGUAGES: dict[str, float] = {
    "English": 1.0,
    "Dutch": 0.89,
    "Finnish": 0.71,
    "French": 0.86,
    "German": 0.79,
    "Italian": 0.82,
    "Polish": 0.73,
    "Portuguese": 0.79,
    "Spanish": 0.96,
    "Swedish": 0.87,
    "Turkish": 0.73,
}
"""Words a minute against English: texts of the same meaning have fewer and longer words in some languages."""
COMMA_S, STOP_S, PARAGRAPH_S = 0.15, 0.4, 0.4
"""Pauses; a sentence's end is about a breath group (J. Goldman-Eisler, "Psycholinguistics", 1968, ch. 2)."""
SHORTEST_S = 2.0
"""Below this a still picture cannot be taken in."""
LOOK_S = 3.0
"""A picture without words is looked at this long."""
ACTION_S = 1.2
"""A movement that is shown and not told takes about this long."""

_WORD = re.compile(r"\w+(?:['’\-]\w+)*")


@dataclass(frozen=True)
class Pace:
    """How a text is read: its language, for whom, and a factor on top (1.2 is a fifth faster)."""

    language: str = "English"
    audience: Audience = "aloud to children"
    factor: float = 1.0

    @property
    def words_per_minute(self) -> float:
        return PACES[self.audience] * LANGUAGES.get(self.language, 1.0) * self.factor


@dataclass(frozen=True)
class ShotTime:
    """What a shot's length is made of, in seconds: the words told and the pauses in them, the words spoken by the cast
    with theirs, and what happens without words."""

    words_s: float
    pauses_s: float
    action_s: float
    spoken_s: float = 0.0

    @property
    def told_s(self) -> float:
        """Narration with its pauses."""
        return self.words_s + self.pauses_s

    @property
    def length_s(self) -> float:
        """Narration runs over the action, dialogue comes before or after it; a picture without words is looked at."""
        heard = self.told_s + self.spoken_s
        return round(max(SHORTEST_S, max(self.told_s, self.action_s) + self.spoken_s, 0.0 if heard else LOOK_S), 1)


@dataclass(frozen=True)
class Trim:
    """A proposal for one shot: from its length to another, never below what its words need."""

    shot: str
    length_s: float
    proposed_s: float


@dataclass(frozen=True)
class Balance:
    """A plan against its target, all in seconds: `over` is positive when it is too long. `least` is what the words alone
    need; `words_too_many` is how many words have to go when even that is over the target."""

    total_s: float
    target_s: float
    over_s: float
    least_s: float
    words_too_many: int
    trims: tuple[Trim, ...]


def word_count(text: str) -> int:
    """Words of a text.

    >>> word_count("Well, there it is, then – the tide's back.")
    8
    """
    return len(_WORD.findall(text))


def reading_time(text: str, pace: Pace | None = None, movements: int = 0) -> ShotTime:
    """The time for a shot's words at a pace, and for `movements` that are shown and not told.

    >>> reading_time("The tide woke, and stretched. It remembered the sea.", Pace()).length_s
    5.1
    """
    p = pace or Pace()
    count = word_count(text)
    commas = len(re.findall(r"[,;:–—]", text))
    stops = len(re.findall(r"[.!?…]+", text))
    breaks = len(re.findall(r"\S\n\s*\n\s*\S", text))
    pauses = (commas * COMMA_S + stops * STOP_S + breaks * PARAGRAPH_S) / p.factor
    return ShotTime(count * 60 / p.words_per_minute, pauses, movements * ACTION_S)


def shot_time(voices: Voices, pace: Pace | None = None) -> ShotTime:
    """The time that a shot's voices need at a pace: dialogue, narration, and the deeds of a script's action.

    >>> t = shot_time(Voices(spoken="Ticket, please.", acted="The conductor bows and waits."))
    >>> round(t.spoken_s, 2), t.told_s, round(t.action_s, 1), t.length_s
    (1.47, 0.0, 2.4, 3.9)
    """
    narration, spoken = reading_time(voices.told, pace), reading_time(voices.spoken, pace)
    return ShotTime(narration.words_s, narration.pauses_s, voices.deeds * ACTION_S, spoken.told_s)


def balanced(shots: Sequence[tuple[str, float, float]], target_s: float, words_per_minute: float) -> Balance:
    """A plan of (shot, length, least length) against its target, and lengths that would meet it as nearly as they can.

    What is over is taken from each shot in proportion to what it has above its least; what is short is given in
    proportion to length. Shots below their least (words that do not fit) are told by a trim upwards first.

    >>> balanced([("a", 10.0, 4.0), ("b", 5.0, 5.0)], 12.0, 130).trims
    (Trim(shot='a', length_s=10.0, proposed_s=7.0),)
    """
    total = sum(length for _, length, _ in shots)
    least = sum(low for _, _, low in shots)
    lengths = [max(length, low) for _, length, low in shots]
    over = sum(lengths) - target_s
    spare = [length - low for length, (_, _, low) in zip(lengths, shots, strict=True)]
    if over > 0 and sum(spare) > 0:
        part = min(1.0, over / sum(spare))
        lengths = [length - part * s for length, s in zip(lengths, spare, strict=True)]
    elif over < 0 and lengths:
        grown = sum(lengths)
        lengths = [length * (1 - over / grown) for length in lengths]
    trims = tuple(
        Trim(shot, old, round(fresh, 1))
        for (shot, old, _), fresh in zip(shots, lengths, strict=True)
        if abs(fresh - old) >= 0.25
    )
    too_many = max(0, round((least - target_s) * words_per_minute / 60)) if target_s else 0
    return Balance(round(total, 1), target_s, round(total - target_s, 1), round(least, 1), too_many, trims)
