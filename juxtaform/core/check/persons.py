"""Who stands where a character is marked, each picture weighed beside the others of its thread."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from juxtaform.core.check.changes import around
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.recognition import UNWORN, WhoJudge, WhoTerms
from juxtaform.core.figure.verdict import Level, level
from juxtaform.core.figure.worn import FAR, STRANGE, Worn, strange

LOWER = 0.25
"""The quantile of the other pictures' scores that tells how badly right ones go."""


def thread_level(seen: Sequence[Appearance], accepted: Sequence[Appearance] = ()) -> Level:
    """Where the scores of a thread's right figures lie; `accepted` are those that the illustrator let stand."""
    looked = [a.identity for a in seen if a.identity is not None]
    right = [a.identity.score for a in accepted if a.identity is not None]
    return level(looked[0].references if looked else (), [i.score for i in looked], [i.shape for i in looked], right)


def somebody_else(seen: Sequence[Appearance], held: Level, judge: WhoJudge | None) -> list[float | None]:
    """The log odds that each appearance of a thread is somebody else; None where nothing weighs them. Who plainly wears another costume of their own is
    themselves, whatever their colours."""
    if judge is None:
        return [None] * len(seen)
    return [
        None
        if terms is None or (a.identity is not None and a.identity.wears is not None)
        else judge.somebody_else(terms)
        for a, terms in zip(seen, who_terms(seen, held), strict=True)
    ]


def who_terms(seen: Sequence[Appearance], held: Level) -> list[WhoTerms | None]:
    """What speaks for somebody else in each appearance of a thread; None where no eye looked."""
    scores = [a.identity.as_worn for a in seen if a.identity is not None]
    out: list[WhoTerms | None] = []
    for a, colours in zip(seen, around(seen), strict=True):
        who = a.identity
        if who is None:
            out.append(None)
            continue
        others = list(scores)
        others.remove(who.as_worn)
        anywhere, mostly = strange(a.worn, colours)
        out.append(
            WhoTerms(
                score=who.as_worn,
                below=held.score - who.as_worn,
                shape_below=held.shape - who.shape,
                placed=who.share,
                rivals=max(who.rivals.values(), default=-np.inf) - who.as_worn,
                others=(float(np.median(others)), float(np.quantile(others, LOWER))) if others else (held.score,) * 2,
                anywhere=_strange_part(a.worn, anywhere),
                mostly=_strange_part(a.worn, mostly),
                distance=a.distance,
            )
        )
    return out


def _strange_part(own: Sequence[Worn], unlike: Floats) -> tuple[float, float]:
    """The part of a figure whose colours are strange, and how far its colours are from known ones on average."""
    if not own:
        return UNWORN
    share = np.array([w.share for w in own])
    return float(share[unlike > STRANGE].sum()), float((share * np.minimum(unlike, FAR)).sum())
