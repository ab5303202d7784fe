"""The places and things of an English story: what people are in, at or come to, and what is in hands more than once."""

from __future__ import annotations

from collections import Counter

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.evidence import Evidence, Seen
from juxtaform.core.text.english.places import PLACE
from juxtaform.core.text.english.register import Being, Register
from juxtaform.core.text.names import NEW

_IN_NO_HAND = lx.GRAMMAR.words("in no hand")
_OFTEN = 2
"""From so many times on that it is in hands a noun is a thing."""
A_PLACE = 0.3
"""From this share of its meanings on a noun is a place."""


def find_places(cast: Register, evidence: Evidence) -> None:
    """Put the places of a text into a cast, one for all the words that mean it."""
    by_head = {h: b for b in cast.beings.values() if b.kind == "setting" for h in b.heads}
    keys = sorted(evidence.places, key=lambda k: evidence.places[k].first)
    heads = Counter(k.split()[-1] for k in keys)
    for key in keys:
        seen = evidence.places[key]
        head = key.split()[-1]
        owner = cast.by_name.get(key)
        if key in cast.by_name and cast.by_name[key].kind != "prop":
            cast.by_name[key].mentions += seen.count
            continue
        if not seen.count or (not seen.at and seen.weak < 1 and not seen.heads):
            continue
        if _is_in_hands(key, seen, evidence):
            continue
        if cast.by_head.get(key) and any(b.kind == "character" and b.counted for b in cast.by_head[key]):
            continue  # a kettle that speaks
        if head in by_head and (" " not in key or heads[head] == 1):
            by_head[head].mentions += seen.count
            cast.by_name.setdefault(key, by_head[head])
            continue
        whole = (
            next(
                (k for k in keys if k != key and k.split()[-1] == head and " " in k and evidence.places[k].count),
                "",
            )
            if " " not in key
            else ""
        )
        if whole and heads[head] == 2:
            evidence.places[whole].count += seen.count
            evidence.places[whole].at += seen.at
            evidence.places[whole].weak += seen.weak
            evidence.places[whole].first = min(seen.first, evidence.places[whole].first)
            if whole in cast.by_name:
                cast.by_name[key] = cast.by_name[whole]
                continue
            name = next(iter(seen.heads), evidence.shown.get(whole, whole))
            being = Being(NEW + name, "setting", name, mentions=seen.count)
            cast.add(being)
            for word in (whole, key):
                being.called[word] = None
                cast.by_name[word] = being
            being.heads.add(head)
            by_head.setdefault(head, being)
            continue
        name = next(iter(seen.heads), evidence.shown.get(key, key))
        being = Being(NEW + name, "setting", name, mentions=seen.count)
        # A barrel that somebody once climbs on, a door: offered, but no place of its own until the story comes back to it.
        a_place = seen.count >= 2 or lx.meaning(head).share(PLACE) >= A_PLACE or name[:1].isupper()
        being.counted = a_place and (seen.at >= 1 or seen.weak >= 1)
        cast.add(being)
        being.called[name] = None
        being.heads.add(head)
        if owner is None or owner.kind != "character":
            cast.by_name[key] = being
        cast.settings[head].append(being)
        by_head.setdefault(head, being)


def _is_in_hands(key: str, seen: Seen, evidence: Evidence) -> bool:
    """Whether what could be a place is rather picked up, carried and hidden than that anybody is in it."""
    noun = evidence.nouns.get((key, False))
    return (
        noun is not None
        and noun.handled >= _OFTEN
        and noun.handled > seen.at
        and lx.meaning(key).share(PLACE) < 0.5
        and _is_thing(key, noun)
    )


def _is_thing(head: str, seen: Seen) -> bool:
    """Whether a noun means a thing, or what can be one and is often in hands: a ring, a coin, a feather that is nobody's own."""
    if head in _IN_NO_HAND:
        return False
    meaning = lx.meaning(head)
    things = meaning.share("OKCFDVN")
    if meaning.share("B") > 0.3:
        return seen.handled >= _OFTEN and not seen.owned
    return things >= 0.5 or (seen.handled >= _OFTEN and (things >= 0.2 or seen.carried >= 1))


def find_things(cast: Register, evidence: Evidence) -> None:
    """Put the things into a cast that somebody handles and that are named more than once."""
    for (head, several), seen in evidence.nouns.items():
        both = evidence.whole[head]
        if (
            several
            or seen.handled < 1
            or both < 2
            or cast.by_head.get(head)
            or head in cast.by_name
            or head in lx.PARTS
        ):
            continue
        if not _is_thing(head, seen):
            continue
        being = Being(NEW + head, "prop", head, mentions=both)
        cast.add(being)
        being.called[head] = None
        being.heads.add(head)
        cast.by_head[head].append(being)
        cast.by_name.setdefault(head, being)
