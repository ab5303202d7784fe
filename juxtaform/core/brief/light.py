"""Times of day and weathers as words tell them, and what their light does to figures."""

from __future__ import annotations

import re
from functools import lru_cache

TIMES = (
    (r"before (?:dawn|sunrise|daybreak)", "at night"),
    (r"dawn|sunrise|daybreak|first light|sun (?:rises|comes up|is rising|is coming up)", "at dawn"),
    (r"morning", "in the morning"),
    (r"noon|midday|noonday", "at noon"),
    (r"afternoon", "in the afternoon"),
    (r"dusk|sunset|twilight|evening|sun (?:sets|sinks|goes down|is setting|is sinking|is going down)", "at dusk"),
    (
        r"midnight|night(?![- ]?(?:shirt|gown|cap|dress|light|mare|stand|ingale|clothes))|under the stars|(?:full|half|crescent) moon|moonlit|moonlight|starlit|starlight",
        "at night",
    ),
    (r"daylight|broad day|in the day|by day", "by day"),
)
TIME = re.compile("|".join(rf"(?P<t{i}>\b(?:{p})\b)" for i, (p, _) in enumerate(TIMES)), re.IGNORECASE)
WEATHERS = (
    (r"rain|raining|rainy|drizzle|downpour|wet with rain", "in rain"),
    (r"snow|snowing|snowy|snowfall|blizzard", "in snow"),
    (r"fog|foggy|mist|misty", "in fog"),
    (r"storm|stormy|thunder|lightning", "in a storm"),
    (
        r"sunny|sunshine|sunlit|bright sun|blue sky|cloudless|in (?:the )?(?:[a-z]+ ){0,2}sun|sunlight|sun(?:light)? (?:on|shines|falls|glints|burns|beats)",
        "in sunshine",
    ),
)
WEATHER = re.compile("|".join(rf"(?P<w{i}>\b(?:{p})\b)" for i, (p, _) in enumerate(WEATHERS)), re.IGNORECASE)
_AT = r"(?= (?:light|sun|sunlight|sky|heat|snow|wind|fog|morning|day|days|noon|afternoon|evening|dusk|dawn|night|at|in|on|with|over)\b|\s*[,.;:!?–—]|\s*$)"
"""What stands behind a season that is the picture's own; a summer dress and the winter coat are none."""
SEASONS = (
    (rf"(?:mid)?winter{_AT}|(?:december|january|february){_AT}|hoar ?frost|icicles?", "in winter"),
    (
        rf"(?:mid)?summer{_AT}|(?:june|july){_AT}|heat ?wave|(?:in|heat of|of) august\b|august (?:heat|sun|night)",
        "in summer",
    ),
    (rf"autumn{_AT}|(?:september|october|november){_AT}|falling leaves", "in autumn"),
    (
        r"springtime|in (?:the )?(?:early |late )?spring\b|spring (?:morning|day|evening|sun|light|rain)|in (?:april|may)\b",
        "in spring",
    ),
)
SEASON = re.compile("|".join(rf"(?P<s{i}>\b(?:{p}))" for i, (p, _) in enumerate(SEASONS)), re.IGNORECASE)
_ON_FIGURES = {
    "at dawn": "Pale light comes from low on one side, with long soft shadows",
    "in the morning": "Clear light falls slantwise, with shadows to one side",
    "at noon": "Bright light falls from above, with short shadows under the figures",
    "in the afternoon": "Warm light falls slantwise, with shadows to one side",
    "at dusk": "Warm light comes from low on one side; the other side is cool and dim",
    "at night": "It is dark: only what shines in the picture lights the figures, all else of them is dim and cool",
    "in rain": "The light is grey and soft and throws no shadows",
    "in snow": "Light comes up from the snow too, shadows are pale and cool",
    "in fog": "The light is grey and soft; what is farther off grows pale",
    "in a storm": "The light is dark and grey, with hard edges where it breaks through",
    "in sunshine": "The sun throws clear shadows",
}


def time_at(m: re.Match[str]) -> str:
    """The time of day that a match of TIME tells."""
    return TIMES[int((m.lastgroup or "t0")[1:])][1]


def weather_at(m: re.Match[str]) -> str:
    """The weather that a match of WEATHER tells."""
    return WEATHERS[int((m.lastgroup or "w0")[1:])][1]


def season_at(m: re.Match[str]) -> str:
    """The season that a match of SEASON tells."""
    return SEASONS[int((m.lastgroup or "s0")[1:])][1]


@lru_cache(maxsize=2048)
def all_seasons(words: str) -> tuple[str, ...]:
    """The seasons in some words, each once."""
    return tuple(dict.fromkeys(season_at(m) for m in SEASON.finditer(words)))


@lru_cache(maxsize=2048)
def all_times(words: str) -> tuple[str, ...]:
    """The times of day in some words, each once."""
    return tuple(dict.fromkeys(time_at(m) for m in TIME.finditer(words)))


@lru_cache(maxsize=2048)
def all_weathers(words: str) -> tuple[str, ...]:
    """The weathers in some words, each once."""
    return tuple(dict.fromkeys(weather_at(m) for m in WEATHER.finditer(words)))


def on_figures(*words: str) -> str:
    """What the light of the first words that tell a time or a weather does to figures; empty where none does.

    >>> on_figures("lamps lit", "stone steps at dusk")
    'Warm light comes from low on one side; the other side is cool and dim'
    """
    for text in words:
        weather = all_weathers(text)
        time = all_times(text)
        if time or weather:
            told = [
                _ON_FIGURES[x]
                for x in (*time[:1], *(w for w in weather[:1] if "at night" not in time))
                if x in _ON_FIGURES
            ]
            return ". ".join(told)
    return ""
