"""Lines that stand above a part of a story: numbered parts, slug lines, and the dates of a diary, in English, German, French and Spanish."""

from __future__ import annotations

import re

_SCREEN = re.compile(r"^(?:INT|EXT|EST|INT\.?/EXT|EXT\.?/INT|I/E)[. ].+$|^\.(?=[^.\s]).+$", re.IGNORECASE)
_NAMED_PART = re.compile(
    r"^(?:(?:chapter|scene|part|act|page|spread|book|kapitel|szene|teil|akt|seite|chapitre|scène|partie|acte|capítulo|escena|parte|acto|página)\s+"
    r"(?:[0-9]+|[ivxlc]+|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|eins|zwei|drei|vier|fünf|sechs|premier|première|un|deux|trois|"
    r"quatre|cinq|primero|primera|uno|dos|tres|cuatro|cinco)\b|(?:erstes|zweites|drittes|viertes|fünftes)\s+kapitel\b)[.:]?.{0,60}$",
    re.IGNORECASE,
)
_WEEKDAY = (
    r"(?:mon|tues|wednes|thurs|fri|satur|sun)day|(?:mon|diens|donners|frei|sams|sonn)tag|mittwoch|sonnabend|lundi|mardi|mercredi|jeudi|vendredi|samedi|"
    r"dimanche|lunes|martes|miércoles|jueves|viernes|sábado|domingo"
)
_MONTH = (
    r"january|february|march|april|may|june|july|august|september|october|november|december|januar|februar|märz|mai|juni|juli|oktober|dezember|janvier|"
    r"février|mars|avril|juin|juillet|août|septembre|octobre|novembre|décembre|enero|febrero|marzo|abril|mayo|junio|julio|agosto|septiembre|octubre|"
    r"noviembre|diciembre"
)
_ORDINAL = r"\d{1,2}(?:st|nd|rd|th|er|\.)?"
_DATE = rf"(?:{_ORDINAL}\s+(?:of\s+|de\s+)?(?:{_MONTH})|(?:{_MONTH})\s+{_ORDINAL})(?:,?\s+(?:de\s+)?\d{{4}})?|\d{{1,2}}[./]\s?\d{{1,2}}[./](?:\s?\d{{2,4}})?|\d{{4}}-\d\d-\d\d"
_COUNTED = r"(?:day|week|night|tag|woche|nacht|jour|semaine|nuit|día|semana|noche)\s+(?:\d{1,3}|[a-z]{3,9})"
_PART_OF_DAY = (
    r"morning|noon|afternoon|evening|night|morgens?|mittags?|abends?|nachts?|matin|midi|soir|nuit|mañana|tarde|noche"
)
_DAY = re.compile(
    rf"^(?:(?:{_WEEKDAY})(?:,?\s+(?:(?:the\s+|den\s+|le\s+|el\s+)?(?:{_DATE}|{_ORDINAL})|{_PART_OF_DAY}))?|{_DATE}|{_COUNTED})[.:]?$",
    re.IGNORECASE,
)
_DEAR = re.compile(r"^(?:dear diary|liebes tagebuch|cher journal|querido diario)[,.:!]?$", re.IGNORECASE)


def is_heading(line: str) -> bool:
    """Whether a line is a slug line, tells a part by its number, or a day: such lines begin a scene.

    >>> [is_heading(x) for x in ("INT. KITCHEN", "Chapter Two", "Monday", "THURSDAY, 3 May", "Day Four")]
    [True, True, True, True, True]
    >>> [is_heading(x) for x in ("Monday was blue", "May", "Day by day", "Sunday came, and")]
    [False, False, False, False]
    """
    return bool(_SCREEN.match(line) or _NAMED_PART.match(line) or is_day(line))


def is_day(line: str) -> bool:
    """Whether a line tells a day and nothing else, as a diary does above what was written then."""
    return bool(_DAY.match(line))


def is_to_a_diary(line: str) -> bool:
    """Whether a line speaks to the diary that it stands in.

    >>> is_to_a_diary("Dear Diary,"), is_to_a_diary("Dear Oda,")
    (True, False)
    """
    return bool(_DEAR.match(line))
