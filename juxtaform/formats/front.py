"""What stands above a story and below it: its title, who wrote it, what authors tell of a manuscript (how many words, for whom, how to reach them), *The End*; and how
letters in it begin and end."""

from __future__ import annotations

import re
from collections.abc import Sequence

from juxtaform.core.text.manuscript import TITLE_WORDS, has_end_mark, may_be_title

MOST, LONGEST = 12, 240
"""Paragraphs that may stand above a story, and the characters of one."""
_WHO = r"(?:words|text|story|pictures|illustrations|art|told|written|illustrated|drawn)"
_BYLINE = re.compile(
    rf"^(?:(?:a (?:picture book )?story |{_WHO}(?:(?: and|,| &) {_WHO})* )?by|von|erzählt von|text von|par|écrit par|de|escrito por|por) \S+(?: \S+){{0,8}}[^.!?…:;,]$",
    re.IGNORECASE,
)
_TITLE_AND_BYLINE = re.compile(
    r"^\S.{0,60}\S (?:by|By|BY|von|par) (?!the\b|an?\b|der\b|dem\b|la\b|le\b)[^\W\d_a-zß-ÿ]\S*(?: \S+){0,4}[^.!?…:;,]$"
)
_ABOUT = re.compile(
    r"^(?:(?:approx(?:imately|\.)?|about|ca\.?|c\.)? ?\d[\d,. ]{0,6} (?:words?|wörter|mots|palabras)|"
    r"(?:approx(?:imate|\.)? )?(?:word ?count|words|title|working title|author|illustrator|agent|contact|e-?mail|phone|tel|address|website|genre|category|"
    r"audience|age(?:s| group| range)?|target age|format|status|draft|version|date|wörter|titel|autorin|autor|alter|titre|auteur|autrice|título|autora?)\.? ?[:#–—] ?\S.*|"
    r"(?:for )?ages? \d{1,2} ?(?:[-–]|to) ?\d{1,2}\b.{0,30}|(?:first|second|third|final|draft|version) ?(?:draft|version|\d)\b.{0,30}|"
    r"(?:an? )?(?:(?:fiction|non-?fiction|rhyming|wordless|illustrated|children[’']s|bedtime) )*picture[- ]?book(?: (?:text|manuscript|story|script|dummy|fiction))?|"
    r"(?:ein )?bilderbuch(?:text)?|(?:un )?album illustré|(?:un )?álbum ilustrado|(?:©|\(c\)|copyright\b).*|.*\S@\S+\.\S.*|(?:https?://|www\.)\S+)$",
    re.IGNORECASE,
)
_TOLD = (_BYLINE, _TITLE_AND_BYLINE, _ABOUT)
_DEDICATION = re.compile(
    r"^(?:for|to|für|pour|para) (?:my|our|all|every|everyone|anyone|mein|alle|mon|ma|mes|tou|mi|mis|tod)\w*\b.{0,60}[^.!?…:;,]$",
    re.IGNORECASE,
)
_END = re.compile(r"^\W*(?:the end|ende|fin|the end of (?:the|this) (?:book|story))\W*$", re.IGNORECASE)
_SALUTATION = re.compile(
    r"^(?:(?:my |our )?dear(?:est)?|hello|hi|hallo|liebe[rs]?|ch(?:er|ère|ers)|mon cher|ma chère|querid[oa]s?|hola)\b[^.?:;\n]{1,60}[,:]$",
    re.IGNORECASE,
)
_SIGNED = re.compile(
    r"^(?:(?:with |lots of |all (?:my|our) |much )?(?:love|hugs|kisses)|yours(?: truly| sincerely| faithfully)?|sincerely|best wishes|your (?:loving |old |faithful |best )*(?:friend|son|daughter|grandson|granddaughter|niece|nephew|brother|sister|mother|father|mum|mom|dad|(?-i:[A-ZÀ-Þ])[\w’'-]+$)|"
    r"deine?|liebe grüße|herzlich|je t’embrasse|bises|tendrement|un abrazo|besos|con cariño)\b[^.?!:;]{0,60}$",
    re.IGNORECASE,
)
_SMALL = frozenset("a an and at by for from in into of on or s the to with".split())
_WORD = re.compile(r"[^\W\d_][\w’'-]*")
_QUOTES = '“”„«»"'


def front_of(paragraphs: Sequence[str], headed: bool = False) -> int:
    """How many paragraphs at a text's top stand above the story; 0 where it begins at once. `headed` tells that a heading follows them.

    >>> front_of(["The Night Bus", "by Ana Wren", "Word count: 300", "Ada sat down."])
    3
    >>> front_of(["The moon came up", "The fox ran down."])
    0
    """
    names: list[str] = []
    told = 0
    for words in paragraphs[:MOST]:
        if len(words) > LONGEST:
            break
        if any(kind.match(words) for kind in _TOLD) or (names and _DEDICATION.match(words)):
            told += 1
        elif may_be_title(words) and not any(q in words for q in _QUOTES) and len(names) < (1 if told else 2):
            names.append(words)
        else:
            break
    above = told + len(names)
    if above == len(paragraphs) and headed:
        return above
    if not 0 < above < len(paragraphs):
        return 0
    story = paragraphs[above]
    if told:
        return above if has_end_mark(story) or len(story.split()) > TITLE_WORDS else 0
    if all(_titled(words) for words in names) and has_end_mark(story):
        return above
    return 1 if has_end_mark(paragraphs[1]) and len(paragraphs[1].split()) > TITLE_WORDS else 0


def is_the_end(words: str) -> bool:
    """Whether a paragraph says nothing but that the story is over."""
    return len(words) < LONGEST and bool(_END.match(words))


def is_salutation(words: str) -> bool:
    """Whether a paragraph only says to whom a letter goes (`Dear Grandpa,`): what follows belongs to it."""
    return len(words) < LONGEST and bool(_SALUTATION.match(words))


def is_signed(words: str) -> bool:
    """Whether a paragraph only says from whom a letter comes (`Love, Mia`): it belongs to what stands before it."""
    return len(words) < LONGEST and bool(_SIGNED.match(words))


def _titled(words: str) -> bool:
    """Whether each word of some is written as in a title."""
    told = _WORD.findall(words)
    return len(told) > 1 and told[0][0].isupper() and all(w[0].isupper() or w in _SMALL for w in told)
