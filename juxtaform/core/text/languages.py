"""Which language a text is in, and the small words by which German, French and Spanish are read: their closed classes, words of saying, titles and times."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from juxtaform.core.text.lists import WordLists, word_lists

Read = Literal["English", "German", "French", "Spanish", ""]
"""The language that a text is read in; empty for all others, of which only names by capital and repetition are read."""
_WORD = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)?")


Sex = Literal["he", "she", "it", "they", ""]
"""By which pronoun somebody is meant; empty where the text does not tell."""


@dataclass(frozen=True, eq=False)
class Grammar:
    """The closed classes of a language that is read by them: words before a noun, pronouns, links, titles, words of saying and of naming."""

    saying: frozenset[str]
    the: frozenset[str]
    contracted: frozenset[str]
    """Articles that hold a preposition: `im`, `aux`, `del`."""
    a: frozenset[str]
    owning: frozenset[str]
    counting: frozenset[str]
    sexes: Mapping[str, frozenset[str]]
    """The words before a noun that tell its sex."""
    pronouns: Mapping[str, str]
    small: frozenset[str]
    turns: Mapping[str, str]
    """Words that open a sentence, and what they tell: a turn, a time, a link."""
    titles: Mapping[str, str]
    """What somebody is addressed with before a name, and their sex: never alone."""
    ranks: Mapping[str, str]
    """What somebody is called beside a name or alone, and their sex."""
    named: frozenset[str]
    towards: frozenset[str]
    """What stands before the name of a place."""
    particles: frozenset[str]
    abbreviations: frozenset[str]
    describes_first: frozenset[str]
    """Words that stand between the article and its noun, where most stand behind it."""

    @cached_property
    def determiners(self) -> frozenset[str]:
        return self.the | self.a | self.owning | self.counting

    @cached_property
    def closed(self) -> frozenset[str]:
        """All words that are no names, nouns or deeds."""
        return self.determiners | self.small | frozenset(self.pronouns) | frozenset(self.turns)


def _lists(name: str) -> WordLists:
    return word_lists("juxtaform.core.text", f"{name}.txt")


def _grammar(name: str) -> Grammar:
    lists = _lists(name)
    return Grammar(
        lists.words("saying"),
        lists.words("the"),
        lists.words("contracted"),
        lists.words("a"),
        lists.words("owning"),
        lists.words("counting"),
        {"he": lists.words("he"), "she": lists.words("she")},
        lists.group_of("pronouns"),
        lists.words("small"),
        lists.group_of("turns"),
        lists.group_of("titles"),
        lists.group_of("ranks"),
        lists.words("named"),
        lists.words("towards"),
        lists.words("particles"),
        lists.words("abbreviations"),
        lists.words("describes first") if "describes first" in lists.groups else frozenset(),
    )


@dataclass(frozen=True)
class Language:
    """A language by its small words: those that are found in every text, its closed classes, times of day, openings that tell a new time, what says that something is there,
    how a picture of somebody who speaks is told, and what its grammar does that others do not."""

    name: Read
    common: frozenset[str]
    grammar: Grammar | None = None
    times: tuple[tuple[str, str], ...] = ()
    in_headings: tuple[tuple[str, str], ...] = ()
    """Words that are a time of day in a heading, and other things in a story."""
    later: str = r"(?!)"
    exists: str = r"(?!)"
    impersonal: str = r"(?!)"
    """A pronoun that means nobody, and what comes behind it."""
    speaks: str = "{} speaks."
    speak: str = ""
    """The same of several, where the name tells that they are."""
    somebody: str = "Somebody"
    nouns_have_capitals: bool = False
    says_inside_speech: bool = False
    """Whether who speaks is told among the words spoken, without a mark: `« Oui, dit-il. Viens. »`."""
    acts_unnamed: str = r"(?!)"
    """Deeds of somebody whom no word names, at a sentence's start."""
    means_several: tuple[str, str] = ("", "")
    """A pronoun that means one or several, and how a deed of several ends."""
    articles: tuple[str, ...] = ("the",)
    """What stands before a noun that does something."""
    subjects: frozenset[str] = frozenset({"she", "he", "it"})
    several: frozenset[str] = frozenset()
    """Pronouns of several who can be named in their place, joined by `and`."""
    """The pronouns of one who does something."""
    endings: tuple[tuple[str, Sex], ...] = ()
    """How names end, and whose they mostly are."""

    def time(self, words: str, *, heading: bool = False) -> str:
        """The time of day that some words tell."""
        rows = (*self.times, *(self.in_headings if heading else ()))
        return next((name for pattern, name in rows if re.search(rf"\b(?:{pattern})\b", words, re.IGNORECASE)), "")


ENGLISH = Language("English", _lists("english").words("common"), speak="{} speak.", several=frozenset({"they"}))
GERMAN = Language(
    "German",
    _lists("german").words("common"),
    _grammar("german"),
    (
        (r"morgengrauen|morgendämmerung|sonnenaufgang", "dawn"),
        (r"am (?:nächsten |frühen )?morgen|morgens|frühmorgens|(?:eines|jeden|diesen) morgen(?:s)?", "morning"),
        (r"mittags?", "noon"),
        (r"nachmittags?", "afternoon"),
        (r"abends?|abenddämmerung|dämmerung|sonnenuntergang", "dusk"),
        (r"nachts?|mitternacht|mondschein", "night"),
    ),
    ((r"morgen", "morning"), (r"tag", "day")),
    r"(?:am nächsten|eines (?:tages|morgens|abends|nachts)|am (?:morgen|abend|mittag|nachmittag)|in der nacht|später|plötzlich|endlich|inzwischen|einmal|kurz darauf)\b",
    r"es (?:war|gibt|gab)\b|(?:da|dort) (?:war|stand|saß|lag|ist|steht|sitzt|liegt)\b",
    r"es (?:gibt|gab|war|ist|schneite|schneit|regnete|regnet|wurde|wird)\b",
    "{} spricht.",
    "Jemand",
    nouns_have_capitals=True,
    means_several=("sie", "n"),
    articles=("der", "die", "das"),
    subjects=frozenset({"er", "sie"}),
)
FRENCH = Language(
    "French",
    _lists("french").words("common"),
    _grammar("french"),
    (
        (r"(?:à l['’])?aube|lever du soleil", "dawn"),
        (r"(?:le|du|un|ce|chaque) matin|matin", "morning"),
        (r"midi", "noon"),
        (r"après-midi", "afternoon"),
        (r"soir|crépuscule|coucher du soleil", "dusk"),
        (r"nuit|minuit|clair de lune", "night"),
    ),
    ((r"jour", "day"),),
    r"(?:le (?:sur)?lendemain|un (?:jour|matin|soir)|une nuit|(?:le|ce) (?:soir|matin)|plus tard|soudain|enfin|pendant (?:ce temps|la nuit)|tout à coup)\b",
    r"il y (?:a|avait|eut)\b|(?:il )?était une fois\b|c['’](?:est|était)\b",
    r"il (?:n['’])?(?:y|faut|fallait|fai(?:sai)?t|pleut|pleuvait|neigeait|neige|était (?:une fois|tard|temps|minuit|midi))\b",
    "{} parle.",
    "Quelqu’un",
    says_inside_speech=True,
    articles=("le", "la", "l’", "l'"),
    subjects=frozenset({"il", "elle"}),
)
SPANISH = Language(
    "Spanish",
    _lists("spanish").words("common"),
    _grammar("spanish"),
    (
        (r"amanecer|alba", "dawn"),
        (r"(?:por|de|en|a) la mañana|una mañana|cada mañana|esa mañana", "morning"),
        (r"mediodía", "noon"),
        (r"(?:por|de|en) la tarde|una tarde", "afternoon"),
        (r"anochecer|atardecer|crepúsculo", "dusk"),
        (r"noche|medianoche", "night"),
    ),
    ((r"mañana", "morning"), (r"tarde", "afternoon"), (r"día", "day")),
    r"(?:al día siguiente|a la mañana siguiente|un día|una (?:mañana|tarde|noche)|(?:aquella|esa) (?:noche|tarde|mañana)|por la (?:mañana|tarde|noche)|más tarde|de repente|por fin|mientras tanto|al (?:amanecer|anochecer))\b",
    r"(?:hay|había|hubo|érase|era)\b",
    r"(?!)",
    "{} habla.",
    "Alguien",
    acts_unnamed=r"(?!había|hacía|era\b|llovía|nevaba|nevó|llovió|anocheció|amaneció)\w+(?:ó|aba|ía|aron|ieron|aban|ían)\b",
    articles=("el", "la"),
    subjects=frozenset({"él", "ella"}),
    endings=(("a", "she"), ("o", "he")),
)
LANGUAGES = (ENGLISH, GERMAN, FRENCH, SPANISH)
_OF_WORD = {w: tuple(x.name for x in LANGUAGES if w in x.common) for w in {w for x in LANGUAGES for w in x.common}}
OTHER = Language("", frozenset(), speaks="{}", somebody="", articles=(), subjects=frozenset())
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
