"""What somebody wears by their wording: its clothes, the wording without them, and what the words tell already."""

from __future__ import annotations

import re
from functools import lru_cache

from juxtaform.core.text.english import lexicon as lx


def is_garment(noun: str) -> bool:
    """Whether a noun, in small letters, names something that is worn.

    >>> is_garment("coat"), is_garment("boots"), is_garment("beard")
    (True, True, False)
    """
    return any(lx.meaning(x).share("C") > 0.3 for x in (noun, *lx.lemmas(noun, "n"), lx.singular(noun)))


@lru_cache(maxsize=2048)
def garments(words: str) -> tuple[str, ...]:
    """The clothes that a wording names.

    >>> garments("May, a girl of ten: two black plaits, a red raincoat, yellow boots.")
    ('raincoat', 'boots')
    """
    return tuple(w for w in re.findall(r"[a-z][a-z-]+", words.casefold()) if is_garment(w))


@lru_cache(maxsize=2048)
def without_clothes(wording: str) -> str:
    """A wording without the clothes that it names; the rest stands as it was.

    >>> without_clothes("Pell, a girl of nine: copper hair in a short bob, mustard oilskin coat, green boots.")
    'Pell, a girl of nine: copper hair in a short bob.'
    >>> without_clothes("Ari, a boy of ten in an orange jumper."), without_clothes("A fat white goose.")
    ('Ari, a boy of ten.', 'A fat white goose.')
    """
    if not garments(wording):
        return wording
    head, colon, rest = wording.rstrip(" .").partition(":")
    parts = [head] if not colon else [head, rest]
    kept = []
    for part in parts:
        items = [_bared(item) for item in re.split(r"\s*[,;]\s*", part)]
        kept.append(", ".join(i for i in items if i))
    left = ": ".join(k for k in kept if k)
    if not re.search(r"\w+\W+\w+", left):
        left = head.split(",")[0]
    left = " ".join(left.split())
    return left + "."


_LINK = re.compile(r"\b(?:in|with|wearing|wears|and|who wears)\b")


def _bared(item: str) -> str:
    """A part of a list without the clothes in it: all of it where it tells of clothes alone."""
    item = item.strip()
    while True:
        worn = next((m for m in re.finditer(r"[a-z][a-z-]+", item) if is_garment(m.group())), None)
        if worn is None:
            return re.sub(r"^and\s+|\s+(?:and|in|with)$", "", item).strip()
        before = list(_LINK.finditer(item, 0, worn.start()))
        after = re.compile(r"\s+and\s+").search(item, worn.end())
        if not before or not item[: before[-1].start()].strip():
            item = item[after.end() :] if after else ""
        else:
            verb = before[-1].group().endswith("wears")
            item = item[: before[-1].start()].rstrip() + (
                item[after.end() - 1 if verb else after.start() :] if after else ""
            )


def tells_of(words: str, thing: str) -> bool:
    """Whether words tell of a thing already: its last noun stands in them.

    >>> tells_of("Pell: copper hair, a tin whistle on a cord.", "Tin whistle"), tells_of("Oda.", "tin whistle")
    (True, False)
    """
    nouns = re.findall(r"[\w-]+", thing.casefold())
    return (
        bool(nouns) and re.search(rf"(?<![\w-]){re.escape(nouns[-1])}(?:e?s)?(?![\w-])", words.casefold()) is not None
    )
