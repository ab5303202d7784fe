"""Words that speak of style, pattern, ground and colour, and which of them contradict each other."""

from __future__ import annotations

import re
from functools import lru_cache

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.lists import word_lists
from juxtaform.core.text.tokens import tokens

_LISTS = word_lists("juxtaform.core.brief")


def _one_of(name: str) -> str:
    """An expression for the words of a list, a hyphen as a hyphen or a space; longer ones first."""
    return "|".join(re.escape(w).replace(r"\-", "[- ]") for w in sorted(_LISTS.words(name), key=len, reverse=True))


FAMILY = _LISTS.group_of("style families")
"""Style words and the family that each belongs to."""
MEDIA = _LISTS.words("media")
"""Families that say how a picture is made: in a shot's own words they are another style."""
AGAINST = frozenset(frozenset((a, b)) for a, others in _LISTS.by_group("styles against").items() for b in others)
FEWEST, MOST = 2, 8
"""Fewer words leave the style open; with more of them the later ones are hardly heeded, and they begin to pull apart."""

PATTERN = re.compile(
    rf"\b(?:{_one_of('patterns')}|(?:{_one_of('patterned')})\s+(?:\w+\s+)?(?:{_one_of('cloth')}))\b", re.IGNORECASE
)
"""Patterns that come out differently in every picture."""
BARE_GROUND = re.compile(
    r"\b(?:(?:on|against|in front of|with)\s+(?:an?\s+)?)?(?:plain|blank|empty|pure|solid|seamless|simple|neutral|transparent)"
    r"\s+(?:white\s+|grey\s+|gray\s+|black\s+)?(?:background|backdrop|ground)\b|"
    r"\b(?:isolated\s+)?(?:on|against)\s+(?:an?\s+)?(?:white|grey|gray|black)\s+(?:background|backdrop|ground)\b|"
    r"\bwhite\s+background\b|\bisolated on white\b|\bstudio\s+(?:backdrop|background)\b|\bno background\b|"
    r"\b(?:model|character|reference)\s+sheet\b|\bturnaround\b|\bseveral views\b|\bfront view\b|\bT-pose\b",
    re.IGNORECASE,
)
"""Words of a reference picture that have no place in a scene."""

_STYLE_WORD = re.compile(
    r"(?<![\w-])(?:(?:in|as(?:\s+an?)?)\s+)?(?:"
    + "|".join(sorted((re.escape(w) for w in FAMILY), key=len, reverse=True)).replace("\\-", "[- ]")
    + r"|oil painting|oil paints?|line art|pixel art|cut paper|torn paper|black and white|pen and ink)(?![\w-])",
    re.IGNORECASE,
)
_STYLE_HINTS = frozenset(re.findall(r"[a-z]+", " ".join([*FAMILY, "oil line pixel cut torn black pen"])))
PATTERN_HINTS = frozenset(
    part for name in ("patterns", "patterned") for w in _LISTS.words(name) for part in w.split("-")
)
GROUND_HINTS = frozenset("background backdrop ground sheet turnaround views view pose isolated".split())
"""Without any of these words the costlier expressions find nothing."""
_PHRASES = {
    "oil painting": "oil",
    "oil paint": "oil",
    "oil paints": "oil",
    "line art": "ink",
    "pixel art": "pixel",
    "cut paper": "paper",
    "torn paper": "paper",
    "black and white": "monochrome",
    "pen and ink": "ink",
}
_NOT_OF_STYLE = re.compile(
    r"^\s+(?:on (?:his|her|their|its)|bottle|well|pot|stain|case|box|stone|rock|roof|cap|tyre|face|water|lamp|cloth)s?\b|^\s*ing\b",
    re.IGNORECASE,
)
"""What behind such a word shows that it is a thing in the picture: an ink bottle, a flat stone."""
_MADE = re.compile(
    r"\b(?:drawn|painted|sketched|done|made|coloured|shaded|rendered)\s+(?:in|with)\s+(?:\w+\s+){0,2}$", re.IGNORECASE
)
_MADE_IN = re.compile(r"(?:^|[.,;:!?—–-]\s*|\b(?:and|all)\s+)(?:in|as(?:\s+an?)?)\s+(?:\w+\s+){0,2}$", re.IGNORECASE)
_OF_A_PICTURE = re.compile(
    r"\s+(?:(?:and|on)\s+\w+\s+)?(?:drawings?|paintings?|sketch(?:es)?|illustrations?|prints?|pictures?|look|style|lines?|outlines?|textures?|strokes?|"
    r"hatching|shading|wash(?:es)?|technique|artwork|studies|study|stills?)\b",
    re.IGNORECASE,
)
_OF_STYLE = _LISTS.words("of style")
_AS_THING = _LISTS.words("as thing")


def style_words(text: str) -> list[tuple[int, int, str]]:
    """Start, end and family of every word that speaks of style; a thing of that name (an ink bottle, her pencil) is none.

    >>> style_words("In watercolour, with her pencil behind her ear, on a flat stone")
    [(3, 14, 'watercolour')]
    """
    found: list[tuple[int, int, str]] = []
    if tokens(text).isdisjoint(_STYLE_HINTS):
        return found
    for m in _STYLE_WORD.finditer(text):
        word = re.sub(r"^(?:in|as)\s+(?:an?\s+)?", "", m.group().casefold())
        start = m.end() - len(word)
        family = _PHRASES.get(word) or FAMILY.get(word) or FAMILY.get(word.replace(" ", "-"), "")
        if not family or _NOT_OF_STYLE.match(text, m.end()) or _NOT_OF_STYLE.match(text[m.end() : m.end() + 16]):
            continue
        if word in _AS_THING and not _of_the_drawing(text, m.start(), start, m.end()):
            continue
        if (
            family in ("simple", "crisp", "flat", "detailed", "soft", "crisp")
            and start == m.start()
            and re.match(r"\s+[a-z]", text[m.end() : m.end() + 3])
            and not re.match(
                r"\s+(?:and|or|style|colou?rs?|shapes?|shading|lines?|drawing|illustration|picture|look)\b",
                text[m.end() : m.end() + 16],
            )
        ):
            continue
        found.append((start, m.end(), family))
    return found


_COMPARED = re.compile(r"\b(?:like|(?!him|her|them|it)[a-z]+ as) (?:an?|the|two|some) $")
_HANGS = re.compile(
    r"\s+(?:paintings?|drawings?|pictures?|sketch(?:es)?|prints?|portraits?)?\s*(?:hangs?|stands?|leans?|lies?|falls?|is|are)\b",
    re.IGNORECASE,
)


def _of_the_drawing(text: str, whole: int, start: int, end: int) -> bool:
    """Whether a word for a stuff or a kind of picture says how this picture is made, and is no thing in it and no deed: `in chalk`, `a chalk drawing`, `drawn with
    chalk`, or nothing but words of style between two stops; not `chalk dust`, `she oils the wheel`."""
    before, after = text[:start], text[end:]
    if _COMPARED.search(before) or (
        _HANGS.match(after) and re.search(r"\b(?:an?|the|his|her|their)\s+$", text[:whole] or before)
    ):
        return False  # `thin as a pencil`, `an oil painting hangs over the stage`
    if _OF_A_PICTURE.match(after) or _MADE.search(before):
        return True
    if (whole < start or _MADE_IN.search(before)) and not re.match(r"\s+[a-z]", after):
        return True
    part = re.split(r"[.,;:!?—–]", before)[-1] + text[start:end] + re.split(r"[.,;:!?—–]", after)[0]
    return all(w in FAMILY or w in _OF_STYLE for w in re.findall(r"[a-z0-9][\w-]*", part.casefold()))


@lru_cache(maxsize=1024)
def families_of(words: str) -> tuple[str, ...]:
    """The style families that some words name, in order."""
    return tuple(dict.fromkeys(family for _, _, family in style_words(words)))


def contradictions(families: tuple[str, ...]) -> list[tuple[str, str]]:
    """Pairs of families that cannot hold in one picture.

    >>> contradictions(("flat", "ink", "modelled"))
    [('flat', 'modelled')]
    """
    return [(a, b) for i, a in enumerate(families) for b in families[i + 1 :] if frozenset((a, b)) in AGAINST]


HUE = lx.KNOWN.group_of("hues") | _LISTS.group_of("hues")
_NEAR = frozenset(frozenset((a, b)) for a, others in _LISTS.by_group("near hues").items() for b in others)
_NAMED = (
    ("buff", "yellow"),
    ("olive", "green"),
    ("lime", "green"),
    ("amber", "yellow"),
    ("yellow", "yellow"),
    ("orange", "orange"),
    ("brown", "brown"),
    ("red", "red"),
    ("pink", "pink"),
    ("purple", "purple"),
    ("violet", "purple"),
    ("sky blue", "blue"),
    ("blue", "blue"),
    ("teal", "teal"),
    ("green", "green"),
    ("black", "black"),
    ("white", "white"),
    ("grey", "grey"),
)


def hue_of_name(name: str) -> str:
    """The plain hue of a colour's everyday name (`dark purple` is purple), or an empty string."""
    return next((hue for word, hue in _NAMED if word in name), "")


def disagree(word: str, hue: str) -> bool:
    """Whether a colour word cannot mean a hue: neighbours like orange and yellow may.

    >>> disagree("blue", "yellow"), disagree("copper", "red"), disagree("mustard", "yellow")
    (True, False, False)
    """
    said = HUE.get(word.casefold(), "")
    return bool(said and hue and said != hue and frozenset((said, hue)) not in _NEAR)


COLOUR_WORD = re.compile(
    r"(?<![\w-])(?:[a-z]+-)?(" + "|".join(sorted(map(re.escape, HUE), key=len, reverse=True)) + r")(?![\w])",
    re.IGNORECASE,
)


@lru_cache(maxsize=2048)
def colour_words(words: str) -> tuple[str, ...]:
    """The colour words of a wording, in order, each once and in small letters.

    >>> colour_words("Pell: copper hair, a Mustard coat, copper buttons.")
    ('copper', 'mustard')
    """
    return tuple(dict.fromkeys(m.group(1).casefold() for m in COLOUR_WORD.finditer(words)))
