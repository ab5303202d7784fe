"""Who may be in a picture though its words do not name them: those who are in the pictures beside it, at the same place.

A story names who does something; who only looks on is there without a word. How likely somebody is there is a logistic of a few signs
(`tools/fit_also_here.py` sets their weights on texts that were broken down by hand with those who are there silently). It is asked, never taken for granted.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from math import exp

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.languages import ENGLISH, language_of
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.weights import weights_in

ASKED_FROM = 0.4
"""From this chance on (0..1) it is asked whether somebody is there."""
MOST_ASKED = 2
"""So many are asked about in one picture at most: the likeliest."""
_MANY = 3
"""From so many others on a picture is full."""
_OFTEN = 0.5
"""Who is in more than this share of the pictures may be in any."""
_SEVERAL = re.compile(rf"\b(?:{'|'.join(sorted(lx.GRAMMAR.words('of several')))})\b", re.IGNORECASE)


@dataclass(frozen=True)
class Peopled:
    """A picture: who is in it (ids), where it is (anything that is equal for the same place of the same scene), and its words."""

    cast: frozenset[str]
    where: Hashable
    words: str


def leaves_out_who_looks_on(manuscript: Manuscript, *, is_script: bool) -> bool:
    """Whether a text may not tell of all who are there: a story in English, by which the weights are set. Scripts, comic scripts and shot lists name all whom they show."""
    return not is_script and not manuscript.panels and language_of(manuscript.text) == ENGLISH


def also_here(pictures: Sequence[Peopled]) -> list[tuple[str, ...]]:
    """Who else may be in each picture, the likeliest first. The pictures come in the order of the story; work is in proportion to their number."""
    weights = weights_in("juxtaform.core.plan", "also_here.tsv")
    found = []
    for signs in signs_of(pictures):
        chances = sorted(((_chance(s, weights), who) for who, s in signs.items()), key=lambda x: (-x[0], x[1]))
        found.append(tuple(who for chance, who in chances[:MOST_ASKED] if chance >= ASKED_FROM))
    return found


def signs_of(pictures: Sequence[Peopled]) -> list[dict[str, dict[str, float]]]:
    """The signs of each who may be in each picture without a word, 0..1: they were in the story before, and are in a picture beside it or in most."""
    count = Counter(who for p in pictures for who in p.cast)
    shares = {who: n / len(pictures) for who, n in count.items()}
    often = {who for who, share in shares.items() if share > _OFTEN}
    been: set[str] = set()
    found = []
    for i, picture in enumerate(pictures):
        before = pictures[i - 1] if i else None
        behind = pictures[i + 1] if i + 1 < len(pictures) else None
        beside = {who for p in (before, behind) if p is not None for who in p.cast}
        several = _SEVERAL.search(picture.words) is not None
        found.append(
            {
                who: {
                    "always": 1.0,
                    "share of the pictures": shares[who],
                    "before, at the same place": float(_is_in(who, before, picture)),
                    "behind, at the same place": float(_is_in(who, behind, picture)),
                    "words of several": float(several),
                    "many others": float(len(picture.cast) >= _MANY),
                }
                for who in ((beside | often) & been) - picture.cast
            }
        )
        been |= picture.cast
    return found


def _is_in(who: str, other: Peopled | None, picture: Peopled) -> bool:
    return other is not None and who in other.cast and other.where == picture.where


def _chance(signs: Mapping[str, float], weights: Mapping[str, float]) -> float:
    return 1 / (1 + exp(-sum(weights.get(name, 0.0) * value for name, value in signs.items())))
