"""Where a shot's words take away what somebody has: `without her hat`, `cap gone`, `barefoot`, `beardless`."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import lru_cache

from juxtaform.core.brief.clothes import is_garment
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.lists import word_lists

_LISTS = word_lists("juxtaform.core.brief")
_AWAY = re.compile(r"\b(?:without|off|gone|missing|no|unshod|bald|clean-?shaven)\b|less\b|\bbare", re.IGNORECASE)
"""Without any of these nothing is taken away."""
_WITHOUT_OWN = re.compile(r"\b(?P<all>without (?:his|her|their|its) (?:[\w-]+ )??(?P<thing>[a-z-]+))\b", re.IGNORECASE)
_ENDS = r"(?=\s*(?:[,;:.!?–—]|$)|\s+(?:and|now|again|yet|on|any\s?more|today)\b)"
_OFF = re.compile(
    r"(?:^|[,;:.–—]\s*|\b(?:his|her|its|their|with|the)\s+)(?:[\w-]+ )?(?P<all>(?P<thing>[a-z-]+) (?:(?:is|are|now|all) )*(?:gone|off|missing))\b"
    + _ENDS,
    re.IGNORECASE,
)
"""`cap gone, hair in the wind`; `her gloves are off`."""
_NO_MORE = re.compile(
    r"(?:^|[,;:.–—]\s*|\b(?:with|wears?|wearing|has)\s+)(?P<all>no (?:[\w-]+ )?(?P<thing>[a-z-]+))\b" + _ENDS,
    re.IGNORECASE,
)
"""`no cap, no shoes`."""
_BARE = re.compile(
    r"\b(?:(?P<headwear>bare-?headed)|(?P<handwear>bare-?handed)|(?P<shirts>bare-?chested)|(?P<hair>bald(?! (?:spot|patch)))|(?P<beards>clean-?shaven)"
    r"|(?P<footwear>bare-?foot(?:ed)?|unshod)|(?P<less>[a-z]{3,})less)\b",
    re.IGNORECASE,
)
"""`barefoot`, `hatless`, `bald`."""
_BARED = {
    "headwear": _LISTS.words("headwear"),
    "handwear": _LISTS.words("handwear"),
    "shirts": _LISTS.words("shirts"),
    "hair": _LISTS.words("hair"),
    "beards": _LISTS.words("beards"),
    "footwear": _LISTS.words("footwear"),
}
"""What whoever is bare has not on, or has not."""


def taken_off(text: str, wording: str) -> Iterator[tuple[int, int, str]]:
    """Words that take away what a wording gives somebody: start, end, and the thing.

    >>> list(taken_off("Nell on the roof, cap gone.", "Nell: freckles, a sailor cap."))
    [(18, 26, 'cap')]
    >>> list(taken_off("Nell, barefoot.", "Nell: red shoes."))
    [(6, 14, 'shoes')]
    """
    if _AWAY.search(text) is None:
        return
    given = frozenset(w for w in re.findall(r"[a-z][a-z-]+", wording.casefold()) if _is_thing(w))
    for pattern in (_WITHOUT_OWN, _OFF, _NO_MORE):
        for m in pattern.finditer(text):
            if (noun := m.group("thing").casefold()) in given:
                yield m.start("all"), m.end("all"), noun
    for m in _BARE.finditer(text):
        stem = (m.group("less") or "").casefold()
        lacks = _lacked(stem) if stem else _BARED[str(m.lastgroup)]
        if worn := sorted(given & lacks):
            yield m.start(), m.end(), worn[0]


_HAIR = _BARED["hair"] | _BARED["beards"]


def _lacked(stem: str) -> frozenset[str]:
    """What whoever is `hatless` or `beardless` has not; who is careless lacks nothing that can be drawn."""
    return (
        frozenset([stem, f"{stem}s"])
        if is_garment(stem) or lx.meaning(stem).share("B") > 0.3 or stem in _HAIR
        else frozenset()
    )


@lru_cache(maxsize=4096)
def _is_thing(noun: str) -> bool:
    one = lx.singular(noun)
    return bool(lx.word(one).pos.get("n")) and lx.living(one) < 0.3


def missing_features(text: str, must_keep: Sequence[str]) -> Iterator[tuple[int, int, str]]:
    """Words that take away what somebody is never without: start, end, and the feature."""
    for kept in must_keep:
        for m in _without(kept).finditer(text):
            yield m.start(), m.end(), kept


@lru_cache(maxsize=512)
def _without(kept: str) -> re.Pattern[str]:
    noun = re.escape(kept.split()[-1])
    bare = r"|\bbare-?headed\b" if noun in ("cap", "hat", "hood") else ""
    return re.compile(
        rf"\b(?:without|no|minus|missing|has lost|lost|forgot(?:ten)?)\s+(?:his |her |their |its |the |a |any )?(?:[\w-]+ )?{noun}\b"
        rf"|\b{noun} (?:is |has )?(?:gone|missing|lost|off)\b{bare}",
        re.IGNORECASE,
    )
