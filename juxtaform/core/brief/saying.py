"""How a brief says things: names with their articles, wordings without labels, costumes, holds, places on a page; each a sentence that reads aloud well."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache
from typing import TYPE_CHECKING

from juxtaform.core.brief.clothes import without_clothes
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.listing import listed

if TYPE_CHECKING:
    from juxtaform.core.brief.compose import Member


@lru_cache(maxsize=8192)
def sentence(words: str) -> str:
    """Words as one sentence: blanks made even, a capital first, a full stop last.

    >>> sentence("  stone steps   down to a harbour ")
    'Stone steps down to a harbour.'
    """
    plain = " ".join(words.split())
    if not plain:
        return ""
    plain = plain[0].upper() + plain[1:]
    return plain if plain[-1] in ".!?…:”\"'" else plain + "."


def worn(m: Member) -> str:
    """A character's wording with what it wears here: a costume takes the place of the usual clothes."""
    return (
        without_clothes(m.wording)
        if m.kind == "character" and m.wording and (m.costume or m.costume_wording)
        else m.wording
    )


def clothed(m: Member) -> str:
    """A costume or a variant as a sentence."""
    words = m.costume_wording or m.costume
    if m.kind == "setting" or re.search(rf"\b(?:wears?|wearing|dressed|{re.escape(m.name)})\b", words, re.IGNORECASE):
        return sentence(words)
    if m.costume_wording:
        return sentence(f"{the(m)} {verb_for(m, 'wears', 'wear')} {uncapitalised(words)}")
    return sentence(f"{the(m)} {verb_for(m, 'wears', 'wear')} the {words}")


def told_of(m: Member, wording: str) -> str:
    """A wording as a sentence that says whose it is, without a label before it.

    >>> from juxtaform.core.brief.compose import Member
    >>> told_of(Member("k", "prop", "Tide key"), "A long iron key with a shell-shaped bow.")
    'The tide key is a long iron key with a shell-shaped bow.'
    >>> told_of(Member("h", "setting", "Harbour steps"), "Stone steps down to a dry harbour.")
    'The place is the harbour steps: stone steps down to a dry harbour.'
    >>> told_of(Member("c", "setting", "Cave"), "The cave, round and teal.")
    'The place is the cave, round and teal.'
    """
    words = " ".join(wording.split())
    if not words or words.casefold() == m.name.casefold():
        seen = f"{the(m)} {verb_for(m, 'is', 'are')} to be seen"
        return sentence(f"The place is {the(m, first=False)}" if m.kind == "setting" else seen)
    name = re.escape(m.name.casefold())
    if m.kind == "setting" and re.match(rf"(?:(?:the|a|an)\s+)?{name}\s*[,:]", words.casefold()):
        return sentence(f"The place is {uncapitalised(words)}")
    if re.search(rf"(?<!\w){name}(?!\w)", words.casefold()):
        return sentence(words)
    if m.kind == "setting":
        return sentence(f"The place is {the(m, first=False)}: {uncapitalised(words)}")
    if re.match(r"(?:a|an|the|his|her|their|its|one|two|three|four|five)\s", words, re.IGNORECASE):
        return sentence(f"{the(m)} {verb_for(m, 'is', 'are')} {uncapitalised(words)}")
    if m.kind == "character":
        verb = verb_for(m, "is", "are") if _describes(words) else verb_for(m, "has", "have")
        return sentence(f"{the(m)} {verb} {uncapitalised(words)}")
    return sentence(f"{the(m)}, {uncapitalised(words)}")


def _describes(words: str) -> bool:
    """Whether words up to the first mark end with an adjective: `small and round, with an apron`, but not `red hair, a blue coat`."""
    first = re.split(r"[,;:.]", words, maxsplit=1)[0].split()
    told = lx.word(first[-1].casefold()).pos if first else {}
    return told.get("a", 0) > told.get("n", 0)


def the(m: Member, *, first: bool = True) -> str:
    """A name as a sentence says it: `Pell`, `the tide key`, `Glass Street`.

    >>> from juxtaform.core.brief.compose import Member
    >>> the(Member("k", "prop", "Tide key")), the(Member("p", "character", "Pell")), the(Member("g", "setting", "Glass Street"), first=False)
    ('The tide key', 'Pell', 'Glass Street')
    """
    words = m.name.split()
    common = m.common or (
        m.kind != "character"
        and words
        and all(w[:1].islower() for w in words[1:])
        and bool(lx.meaning(lx.singular(words[-1].casefold())).kinds)
    )
    if not common or (m.name[:1].islower() and words[0] in ("the", "a", "an")):
        return m.name[:1].upper() + m.name[1:] if first else m.name
    plain = f"the {m.name[:1].lower()}{m.name[1:]}"
    return plain[:1].upper() + plain[1:] if first else plain


def verb_for(m: Member, one: str, several: str) -> str:
    """The verb for one or for several, by the name's last word."""
    last = m.name.split()[-1].casefold() if m.name.split() else ""
    return several if m.kind != "character" and last != lx.singular(last) else one


def with_article(thing: str) -> str:
    """A thing with an article where it needs one."""
    first = thing.split()[0].casefold() if thing.split() else ""
    if (
        first in lx.DETERMINERS
        or first in lx.OWNING
        or lx.singular(thing.split()[-1].casefold()) != thing.split()[-1].casefold()
    ):
        return thing
    return f"the {thing[:1].lower()}{thing[1:]}"


def uncapitalised(words: str) -> str:
    """Words that go on within a sentence: a capital that only the beginning gave is taken away."""
    first = words.split()[0] if words.split() else ""
    plain = re.sub(r"['’]s$", "", first.rstrip(",.:;")).casefold()
    common = (
        plain in lx.DETERMINERS
        or plain in lx.PREPOSITIONS
        or plain in lx.OWNING
        or lx.word(plain).total
        or lx.lemmas(plain, "n")
    )
    return words[:1].lower() + words[1:] if common and not (first.isupper() and len(first) > 1) else words


def hold_words(m: Member) -> str:
    """What of somebody holds, in words that whoever draws understands; how strongly goes along as data."""
    match m.hold:
        case "face":
            return "The face is the one in {}; the clothes may be others."
        case "outfit":
            return "The clothes are those in {}; the rest of the figure may be another."
        case "light":
            return "The light is the one in {}; take nothing else from there."
        case "layout":
            return "Everything stands where it stands in {}; its look may be another."
    if m.kind == "setting":
        return "It is the same place as in {}."
    if m.kind == "character":
        also = "; the clothes are as told here." if m.costume or m.costume_wording else "."
        return f"{the(m)} looks the same as in {{}}{also}"
    return f"{the(m)} {verb_for(m, 'looks', 'look')} the same as in {{}}."


def where_of(box: tuple[float, ...]) -> str:
    """Where a box (left, top, width, height as shares of a picture) lies, in words.

    >>> where_of((0.05, 0.75, 0.9, 0.2)), where_of((0.05, 0.05, 0.3, 0.3)), where_of((0.3, 0.3, 0.4, 0.4))
    ('at the bottom', 'in the upper left', 'in the middle')
    """
    left, top, width, height = box[:4]
    x, y = left + width / 2, top + height / 2
    across = "" if width > 0.6 or 0.38 <= x <= 0.62 else "left" if x < 0.5 else "right"
    down = "" if height > 0.6 or 0.36 <= y <= 0.64 else "upper" if y < 0.5 else "lower"
    if across and down:
        return f"in the {down} {across}"
    if across:
        return f"on the {across}"
    return {"upper": "at the top", "lower": "at the bottom", "": "in the middle"}[down]


def none_of(donts: Sequence[str]) -> str:
    """What is to be left out, as it is said.

    >>> none_of(["lettering", "no cars"])
    'no lettering, no cars'
    """
    bare = [re.sub(r"^(?:no|without|never|not)\s+", "", d.strip(), flags=re.IGNORECASE) for d in donts]
    return ", ".join(f"no {d}" for d in bare if d)


def look_words(words: Sequence[str]) -> str:
    """A style's words as one sentence: what the look is, and what it has.

    >>> look_words(["cut-paper", "few outlines", "flat"]), look_words(["soft shadows", "low contrast"])
    ('the look is cut-paper and flat, with few outlines', 'the look has soft shadows and low contrast')
    """
    has = [w for w in words if w.strip() and _is_had(w)]
    is_so = [w for w in words if w not in has]
    if not is_so:
        return f"the look has {listed(has)}"
    return f"the look is {listed(is_so)}" + (f", with {listed(has)}" if has else "")


def _is_had(words: str) -> bool:
    """Whether some words of a style name something that a picture has: several words whose last one does not only describe, or things."""
    *before, last = words.casefold().split()
    one = lx.singular(last)
    return (
        lx.word(last).pos.get("a", 0) <= 0.5 * lx.word(last).total
        if before
        else one != last and lx.word(one).pos.get("n", 0) > 0
    )
