"""Which language a text is in, and the small words by which German, French and Spanish are read: their grammar's words, sayings, times and headings."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.text.lists import word_lists

_LISTS = word_lists("juxtaform.core.text", "languages.txt")

Read = Literal["English", "German", "French", "Spanish", ""]
"""The language that a text is read in; empty for all others, of which only names by capital and repetition are read."""
_WORD = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)?")


@dataclass(frozen=True)
class Language:
    """A language by its small words: those that are found in every text, verbs of saying, words before a noun, times of day, and openings that tell a new time."""

    name: Read
    common: frozenset[str]
    saying: frozenset[str]
    before_noun: frozenset[str]
    times: tuple[tuple[str, str], ...]
    later: str
    nouns_have_capitals: bool = False


ENGLISH = Language(
    "English",
    _LISTS.words("english common"),
    frozenset(),
    frozenset(),
    (),
    "",
)
GERMAN = Language(
    "German",
    _LISTS.words("german common"),
    _LISTS.words("german saying"),
    _LISTS.words("german before noun"),
    (
        (r"morgengrauen|morgendämmerung|sonnenaufgang", "dawn"),
        (r"am morgen|morgens|frühmorgens|eines morgens|jeden morgen", "morning"),
        (r"mittags?", "noon"),
        (r"nachmittags?", "afternoon"),
        (r"abends?|abenddämmerung|dämmerung|sonnenuntergang", "dusk"),
        (r"nachts?|mitternacht|mondschein", "night"),
    ),
    r"(?:am nächsten|eines (?:tages|morgens|abends|nachts)|am (?:morgen|abend|mittag|nachmittag)|in der nacht|später|dann|plötzlich|endlich|inzwischen|einmal|als|kurz darauf)\b",
    True,
)
FRENCH = Language(
    "French",
    _LISTS.words("french common"),
    _LISTS.words("french saying"),
    _LISTS.words("french before noun"),
    (
        (r"(?:à l['’])?aube|lever du soleil", "dawn"),
        (r"(?:le|du|un|ce|chaque) matin|matin", "morning"),
        (r"midi", "noon"),
        (r"après-midi", "afternoon"),
        (r"soir|crépuscule|coucher du soleil", "dusk"),
        (r"nuit|minuit|clair de lune", "night"),
    ),
    r"(?:le lendemain|un (?:jour|matin|soir)|une nuit|ce (?:soir|matin)|plus tard|soudain|enfin|alors|puis|ensuite|pendant ce temps|quand|tout à coup)\b",
)
SPANISH = Language(
    "Spanish",
    _LISTS.words("spanish common"),
    _LISTS.words("spanish saying"),
    _LISTS.words("spanish before noun"),
    (
        (r"amanecer|alba", "dawn"),
        (r"(?:por|de|en) la mañana|una mañana|cada mañana|esa mañana", "morning"),
        (r"mediodía", "noon"),
        (r"(?:por|de|en) la tarde|una tarde", "afternoon"),
        (r"anochecer|atardecer|crepúsculo", "dusk"),
        (r"noche|medianoche", "night"),
    ),
    r"(?:al día siguiente|un día|una (?:mañana|tarde|noche)|esa (?:noche|tarde|mañana)|por la (?:mañana|tarde|noche)|más tarde|de repente|por fin|entonces|luego|mientras tanto|cuando|después)\b",
)
LANGUAGES = (ENGLISH, GERMAN, FRENCH, SPANISH)
_OF_WORD = {w: tuple(x.name for x in LANGUAGES if w in x.common) for w in {w for x in LANGUAGES for w in x.common}}
OTHER = Language("", frozenset(), frozenset(), frozenset(), (), r"(?!)")
LEAST = 0.16
"""The share of a text's words that a language's small words must have, before the text is read in it."""


def language_of(text: str) -> Language:
    """The language in which a text is read: of the four that are known, that whose small words stand in it most; `OTHER` where none of them does.

    >>> language_of("The boat was in the harbour, and she had it.").name, language_of("Der Hund war nicht im Haus, und sie hatte es auch.").name
    ('English', 'German')
    >>> language_of("Il était une fois un chat qui dormait dans la rue.").name, language_of("El perro no era de la casa, y se fue.").name
    ('French', 'Spanish')
    >>> language_of("Кот сидел на окне.").name, language_of("Pell.").name
    ('', 'English')
    """
    words = [w.casefold() for w in _WORD.findall(text, 0, 40_000)]
    if not words:
        return ENGLISH if text.isascii() else OTHER
    hits = Counter(name for w in words for name in _OF_WORD.get(w, ()))
    shares = {x.name: hits[x.name] / len(words) for x in LANGUAGES}
    best = max(LANGUAGES, key=lambda x: shares[x.name])
    if shares[best.name] >= LEAST:
        return best
    latin = sum(1 for w in words if w.isascii())
    foreign = sum(1 for w in words if not w.isascii())
    return (
        ENGLISH
        if latin and (len(words) < 12 or foreign < 0.02 * len(words)) and shares["English"] >= max(shares.values())
        else OTHER
    )
