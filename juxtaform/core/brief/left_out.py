"""Who is attached to a shot and has no part in its words: all that could stand for somebody who is not named, weighed together (`data/left_out.tsv`, set by `tools/fit_briefs.py`)."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

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
EDGE = -0.3
"""From these log odds on somebody is told to be left out."""
_LONG = 20
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
class Weighing:
    """A shot's words, those of its cast whom they do not name (`waiting`), and those whom they do (`named`)."""

    words: Unnamed
    waiting: tuple[Member, ...]
    named: tuple[Member, ...]

    @staticmethod
    def of(words: Unnamed, cast: Sequence[Member], named: Collection[str]) -> Weighing:
        return Weighing(words, tuple(m for m in cast if m.id not in named), tuple(m for m in cast if m.id in named))

    def left_out(self) -> Iterator[Member]:
        """Those of the cast who are not named and for whom nothing else in the words stands: no noun, pronoun or plural."""
        weights = weights_in("juxtaform.core.brief", "left_out.tsv") if self.waiting else {}
        for i, m in enumerate(self.waiting):
            if self._is_called_by_sex(i):
                continue
            found = self.terms(i)
            odds = sum(weights.get(term, 0.0) * value for term, value in found.items())
            empty = "is deserted" in found and not self.named and not any(t in found for t in _FOR_THEM)
            if odds > EDGE or empty:
                yield m

    def terms(self, i: int) -> dict[str, float]:
        """What speaks for or against the waiting one's having no part in the words: each term with how much of it there is, 0..1."""
        words, m, alone = self.words, self.waiting[i], not self.named
        meant = self._meant[i]
        others = sum(self._meant) > meant
        bodies = words.somebody - sum(self._meant) - sum(not x for x in self._meant[:i])
        sex = self._sexes[i]
        told = {"anybody": True, "alone": alone, **self._pronouns[i]}
        for name, holds in (
            ("they", words.they),
            ("a noun for several", words.several),
            ("somebody", not meant and bodies > 0),
            ("a part of a body", words.body and not others and i == 0),
            ("no deed", "nothing" in words.acts),
            ("only things do something", "things" in words.acts),
            ("somebody living does something", "living" in words.acts),
        ):
            told[name] = holds
            told[f"{name}, nobody named"] = holds and alone
        told |= {
            "they, beside one name": words.they and len(self.named) == 1,
            "several at once": words.several and is_several(m),
            "together": words.together,
            "a noun of what they are": self._spoken_of[i],
            "it": "it" in words.nouns and not sex,
            "somebody else": words.somebody_else,
            "as many bodies": words.somebody > 1,
            "only another is meant": others and not meant,
            "no body is left": not meant and words.somebody > 0 and bodies <= 0,
            "one of several": words.one_of_several and is_several(m),
            "are several": is_several(m),
            "a body of their colour": bool(words.tinted) and bool(words.tinted & coats_of(m.wording)),
            "a noun of their sex": sex in words.generic,
            "a noun of the other sex": bool(words.generic) and sex not in words.generic,
            "nobody": "nobody" in words.acts,
            "is deserted": not _DESERTED.isdisjoint(words.nouns),
            "everybody": not _EVERYBODY.isdisjoint(words.nouns),
            "we": not _WE.isdisjoint(words.nouns),
            "anybody’s noun": not _ANYBODY.isdisjoint(words.nouns),
            **self._by_wording(i, alone),
        }
        told["another is meant, nothing is theirs"] = told["only another is meant"] and not any(
            told[t] for t in _FOR_THEM
        )
        return {term: 1.0 for term, holds in told.items() if holds} | {
            "names": min(len(self.named), 3) / 3,
            "length": min(words.length, _LONG) / _LONG,
        }

    @cached_property
    def _sexes(self) -> tuple[str, ...]:
        return tuple(sex_of(m.wording, m.name) for m in self.waiting)

    @cached_property
    def _spoken_of(self) -> tuple[bool, ...]:
        return tuple(self.words.speaks_of(m) for m in self.waiting)

    @cached_property
    def _meant(self) -> tuple[bool, ...]:
        """Whether a noun, a pronoun or a body in the words is each one's more than another's."""
        return tuple(
            spoken_of
            or pronouns["a pronoun"]
            or sex in self.words.generic
            or (bool(self.words.tinted) and bool(self.words.tinted & coats_of(m.wording)))
            for m, spoken_of, pronouns, sex in zip(
                self.waiting, self._spoken_of, self._pronouns, self._sexes, strict=True
            )
        )

    @cached_property
    def _pronouns(self) -> tuple[dict[str, bool], ...]:
        """Whether a pronoun can mean each, and whom else: one `she` is the first of those whom she can be."""
        words = self.words
        named = [sex_of(o.wording, o.name) for o in self.named]
        found = []
        for i, sex in enumerate(self._sexes):
            others = (*self._sexes[:i], *self._sexes[i + 1 :])
            can = sex in words.singles if sex else any(s not in others for s in words.singles)
            can = can and sex not in self._sexes[:i]
            explained = can and any(not other or not sex or other == sex for other in named)
            found.append(
                {
                    "a pronoun": can,
                    "a pronoun, nobody named": can and not self.named,
                    "a pronoun that does something": can and (sex in words.doing or not sex),
                    "a pronoun that a name explains": explained,
                    "a pronoun that no name explains": can and bool(self.named) and not explained,
                    "a pronoun to whom it is done": bool(sex) and sex in words.others,
                    "another’s pronoun": not can and bool(words.singles),
                }
            )
        return tuple(found)

    def _is_called_by_sex(self, i: int) -> bool:
        """Whether a noun for anybody of a sex stands in the words, and this one is the first of that sex: `The woman turns round`."""
        return self._sexes[i] in self.words.generic and self._sexes[i] not in self._sexes[:i]

    def _by_wording(self, i: int, alone: bool) -> dict[str, bool]:
        """What the words share with somebody's wording."""
        m = self.waiting[i]
        shared = self._nouns & parts_of(m.wording)
        if not shared:
            return {"a noun of their wording": False}
        others = (parts_of(o.wording) for o in (*self.waiting, *self.named) if o is not m)
        own = shared.difference(*others)
        return {
            "a noun of their wording": True,
            "a noun of theirs alone": bool(own),
            "a noun of theirs alone, nobody named": bool(own) and alone,
            "two nouns of theirs": len(shared) > 1,
            "a body of theirs": any(lx.meaning(w).share("B") > 0.5 for w in shared),
            "clothes of theirs": any(is_garment(w) for w in shared),
            "a thing of theirs": bool(self.words.things & things_of(m.wording)),
        }

    @cached_property
    def _nouns(self) -> frozenset[str]:
        return frozenset(lx.singular(w) for w in self.words.nouns)
