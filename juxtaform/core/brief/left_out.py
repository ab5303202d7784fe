"""Who is attached to a shot and has no part in its words: all that could stand for somebody who is not named, weighed together (`data/left_out.tsv`, set by `tools/fit_briefs.py`)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from juxtaform.core.brief.clothes import is_garment
from juxtaform.core.brief.compose import Member
from juxtaform.core.brief.unnamed import Unnamed, coats_of, is_several, parts_of, sex_of, things_of
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.lists import word_lists
from juxtaform.core.text.weights import weights_in

_LISTS = word_lists("juxtaform.core.brief")
_EVERYBODY = _LISTS.words("everybody")
_ANYBODY = _LISTS.words("anybody")
_DESERTED = _LISTS.words("deserted")
_WE = frozenset("we us our".split())
EDGE = 0.0
"""From these log odds on somebody is told to be left out."""
_LONG, _MANY = 20, 4
_FOR_THEM = (
    "they",
    "a noun for several",
    "together",
    "everybody",
    "we",
    "anybody’s noun",
    "a noun of their wording",
    "somebody",
    "a part of a body",
    "somebody else",
    "as many bodies",
)
"""Terms of what can be theirs though it is not theirs alone."""


@dataclass(frozen=True)
class Rest:
    """Those of a shot's cast whom its words do not name (`waiting`), and those whom they do (`named`)."""

    waiting: tuple[Member, ...]
    named: tuple[Member, ...]


def left_out(words: Unnamed, cast: Sequence[Member], named: frozenset[str]) -> Iterator[Member]:
    """Those of the cast who are not `named` and for whom nothing else in the words stands: no noun, pronoun or plural."""
    rest = Rest(tuple(m for m in cast if m.id not in named), tuple(m for m in cast if m.id in named))
    weights = weights_in("juxtaform.core.brief", "left_out.tsv")
    for m in rest.waiting:
        if _is_called_by_sex(words, m, rest):
            continue
        found = terms(words, m, rest)
        odds = sum(weights.get(term, 0.0) * value for term, value in found.items())
        empty = "is deserted" in found and "alone" in found and not any(t in found for t in _FOR_THEM)
        if odds > EDGE or empty:
            yield m


def terms(words: Unnamed, m: Member, rest: Rest) -> dict[str, float]:
    """What speaks for or against somebody's having no part in the words: each term with how much of it there is, 0..1."""
    alone = not rest.named
    meant = [o for o in rest.waiting if _is_meant(words, o, rest)]
    others = any(o is not m for o in meant)
    bodies = words.somebody - len(meant) - len([o for o in rest.waiting[: rest.waiting.index(m)] if o not in meant])
    told = {"anybody": True, "alone": alone, "the only one": len(rest.waiting) == 1, **_by_pronoun(words, m, rest)}
    for name, holds in {
        "they": words.they,
        "a noun for several": words.several,
        "somebody": m not in meant and bodies > 0,
        "a part of a body": words.body and not others and m is rest.waiting[0],
        "no deed": "nothing" in words.acts,
        "only things do something": "things" in words.acts,
        "somebody living does something": "living" in words.acts,
    }.items():
        told |= {name: holds, f"{name}, nobody named": holds and alone}
    told |= {
        "they, beside one name": words.they and len(rest.named) == 1,
        "several at once": words.several and is_several(m),
        "together": words.together,
        "a noun of what they are": words.speaks_of(m),
        "it": words.it and not sex_of(m.wording, m.name),
        "somebody else": words.somebody_else,
        "as many bodies": words.somebody > 1,
        "only another is meant": others and m not in meant,
        "no body is left": m not in meant and words.somebody > 0 and bodies <= 0,
        "one of several": words.one_of_several and is_several(m),
        "are several": is_several(m),
        "a body of their colour": bool(words.tinted & coats_of(m.wording)),
        "a noun of their sex": sex_of(m.wording, m.name) in words.generic,
        "a noun of the other sex": bool(words.generic) and sex_of(m.wording, m.name) not in words.generic,
        "nobody": "nobody" in words.acts,
        "is deserted": not _DESERTED.isdisjoint(words.nouns),
        "everybody": not _EVERYBODY.isdisjoint(words.nouns),
        "we": not _WE.isdisjoint(words.nouns),
        "anybody’s noun": not _ANYBODY.isdisjoint(words.nouns),
        **_by_wording(words, m, rest, alone),
    }
    told["another is meant, nothing is theirs"] = told["only another is meant"] and not any(told[t] for t in _FOR_THEM)
    return {term: 1.0 for term, holds in told.items() if holds} | {
        "names": min(len(rest.named), 3) / 3,
        "waiting": min(len(rest.waiting), _MANY) / _MANY,
        "length": min(words.length, _LONG) / _LONG,
    }


def _is_called_by_sex(words: Unnamed, m: Member, rest: Rest) -> bool:
    """Whether a noun for anybody of a sex stands in the words, and somebody is the first of that sex: `The woman turns round`."""
    sex = sex_of(m.wording, m.name)
    first = next((o for o in rest.waiting if sex_of(o.wording, o.name) == sex), None)
    return sex in words.generic and first is m


def _is_meant(words: Unnamed, m: Member, rest: Rest) -> bool:
    """Whether a noun, a pronoun or a body in the words is somebody's more than another's."""
    return (
        words.speaks_of(m)
        or _by_pronoun(words, m, rest)["a pronoun"]
        or sex_of(m.wording, m.name) in words.generic
        or bool(words.tinted & coats_of(m.wording))
    )


def _by_pronoun(words: Unnamed, m: Member, rest: Rest) -> dict[str, bool]:
    """Whether a pronoun can mean somebody, and whom else: one `she` is the first of those whom she can be."""
    sex = sex_of(m.wording, m.name)
    others = [sex_of(o.wording, o.name) for o in rest.waiting if o is not m]
    before = [sex_of(o.wording, o.name) for o in rest.waiting[: rest.waiting.index(m)]]
    can = sex in words.singles if sex else any(words.singles) and not any(o in words.singles for o in others)
    can = can and sex not in before
    named = [sex_of(o.wording, o.name) for o in rest.named]
    explained = can and any(not other or not sex or other == sex for other in named)
    return {
        "a pronoun": can,
        "a pronoun, nobody named": can and not rest.named,
        "a pronoun that does something": can and (sex in words.doing or not sex),
        "a pronoun that a name explains": explained,
        "a pronoun that no name explains": can and bool(rest.named) and not explained,
        "a pronoun to whom it is done": bool(sex) and sex in words.others,
        "another’s pronoun": not can and any(words.singles),
    }


def _by_wording(words: Unnamed, m: Member, rest: Rest, alone: bool) -> dict[str, bool]:
    """What the words share with somebody's wording."""
    nouns = frozenset(lx.singular(w) for w in words.nouns)
    shared = nouns & parts_of(m.wording)
    others = frozenset[str]().union(*(parts_of(o.wording) for o in (*rest.waiting, *rest.named) if o is not m))
    own = shared - others
    return {
        "a noun of their wording": bool(shared),
        "a noun of theirs alone": bool(own),
        "a noun of theirs alone, nobody named": bool(own) and alone,
        "two nouns of theirs": len(shared) > 1,
        "a body of theirs": any(lx.meaning(w).share("B") > 0.5 for w in shared),
        "clothes of theirs": any(is_garment(w) for w in shared),
        "a thing of theirs": bool(words.things & things_of(m.wording)),
    }
