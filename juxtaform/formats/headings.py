"""Lines that stand above a part of a story: numbered parts, slug lines, and the dates of a diary, in English, German, French and Spanish."""

from __future__ import annotations

import re
from collections.abc import Sequence

from juxtaform.core.text.manuscript import lines_of

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
_NUMBER = (
    r"\d{1,3}|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|eins|zwei|drei|vier|fünf|sechs|sieben|acht|neun|zehn|un|deux|trois|quatre|cinq|"
    r"sept|huit|neuf|dix|uno|dos|tres|cuatro|cinco|seis|siete|ocho|nueve|diez"
)
_COUNTED = rf"(?:day|week|night|tag|woche|nacht|jour|semaine|nuit|día|semana|noche)\s+(?:{_NUMBER})"
_PART_OF_DAY = (
    r"morning|noon|afternoon|evening|night|morgens?|mittags?|abends?|nachts?|matin|midi|soir|nuit|mañana|tarde|noche"
)
_DAY = re.compile(
    rf"^(?:(?:{_WEEKDAY})(?:,?\s+(?:(?:the\s+|den\s+|le\s+|el\s+)?(?:{_DATE}|{_ORDINAL})|{_PART_OF_DAY}))?|{_DATE}|{_COUNTED})[.:]?$",
    re.IGNORECASE,
)


def is_heading(line: str) -> bool:
    """Whether a line is a slug line, tells a part by its number, or a day: such lines begin a scene.

    >>> [is_heading(x) for x in ("INT. KITCHEN", "Chapter Two", "Monday", "THURSDAY, 3 May", "Day Four")]
    [True, True, True, True, True]
    >>> [is_heading(x) for x in ("Monday was blue", "May", "Night fell", "Sunday came, and")]
    [False, False, False, False]
    """
    return bool(_SCREEN.match(line) or _NAMED_PART.match(line) or is_day(line))


def is_day(line: str) -> bool:
    """Whether a line tells a day and nothing else, as a diary does above what was written then."""
    return bool(_DAY.match(line))


_LABELLED = re.compile(
    r"^(?:scene|setting|location|place|szene|schauplatz|ort|scène|lieu|décor|escena|lugar|escenario)\s*\d{0,3}\s*[:：]\s*(?P<words>\S.{0,100})$",
    re.IGNORECASE,
)
_BULLET = re.compile(r"^[ \t]*[-*+•][ \t]+(?=\S)")
MOST_WORDS, LEAST_BELOW, LEAST_TIMES = 5, 8, 3
"""A line that is a heading by its place alone has at most so many words, so many at least stand below it, and so often it is found in a text."""
_SMALL = 3
"""Letters of words that need no capital in a heading: `The Man in the Well`."""


def labelled(line: str) -> str:
    """Where a scene is that a line labels as one, or nothing.

    >>> labelled("Scene 2: The garden."), labelled("Location: a kitchen, early morning"), labelled("The scene: none.")
    ('The garden', 'a kitchen, early morning', '')
    """
    m = _LABELLED.match(line)
    return m["words"].rstrip(" .") if m else ""


def begins_an_item(line: str) -> bool:
    """Whether a line begins an item of a list, which stands for itself.

    >>> begins_an_item("- A boat."), begins_an_item("• Night."), begins_an_item("-- no"), begins_an_item("– Yes.")
    (True, True, False, False)
    """
    return bool(_BULLET.match(line))


def bare_headings(text: str) -> frozenset[int]:
    """Where the lines begin that are headings by their place alone: short ones without a mark, in capitals where a title has them, above what is told there,
    several times in a text.

    >>> told = "A boat lay under a white sun and was empty."
    >>> sorted(bare_headings(f"The Lake\\n{told}\\n\\nThe Old Well\\n{told}\\n\\nNight\\n{told}"))
    [0, 54, 112]
    >>> bare_headings("The wind blew\\nThe ship flew\\n\\nThe sail tore\\nWe reached shore\\n\\nAnd no one\\nSaw us gone")
    frozenset()
    """
    blocks: list[list[tuple[int, str]]] = [[]]
    for start, _, line in lines_of(text):
        if line.strip():
            blocks[-1].append((start, line.strip()))
        elif blocks[-1]:
            blocks.append([])
    blocks = [b for b in blocks if b]
    found: list[int] = []
    short: list[int] = []
    for i, block in enumerate(blocks):
        (start, line), *below = block
        after = blocks[i + 1] if i + 1 < len(blocks) else []
        told = [w for _, w in (below or after)]
        if _is_bare(line) and told and not _is_bare(told[0]):
            (found if _tells(line, told) else short if below and i else []).append(start)
    several = len(found) >= LEAST_TIMES and 3 * len(found) >= len(blocks) - len(found)
    return frozenset([*found, *short]) if several else frozenset()


def _is_bare(line: str) -> bool:
    words = line.split()
    titled = all(w[0].isupper() or len(w) <= _SMALL for w in words) and line[0].isupper()
    return titled and len(words) <= MOST_WORDS and all(w.strip("'’-").isalnum() for w in words)


def _tells(line: str, told: Sequence[str]) -> bool:
    """Whether what stands below a line is told, and no other line of a verse."""
    return len(" ".join(told).split()) >= LEAST_BELOW and len(told[0]) > 2 * len(line) and told[-1][-1] in ".!?…”\"'’»"
