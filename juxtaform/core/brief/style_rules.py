"""Words of style: too few, too many, against each other or against the shot's style; patterns, which no two pictures repeat."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache

from juxtaform.core.brief.compose import Brief, BriefShot, Phrase
from juxtaform.core.brief.knowledge import found_at, found_in_brief
from juxtaform.core.brief.stylewords import (
    FEWEST,
    MEDIA,
    MOST,
    PATTERN,
    PATTERN_HINTS,
    contradictions,
    families_of,
    style_words,
)
from juxtaform.core.findings import Finding, Mend
from juxtaform.core.text.tokens import tokens


def style(shot: BriefShot, brief: Brief, own: Sequence[Phrase], *, anywhere: bool, first: bool) -> Iterator[Finding]:
    """What is to look at in the words of style. A story without a style `anywhere` is told so once, on its first picture."""
    style = shot.style
    said = [(p, start, end, family) for p in own for start, end, family in style_words(p.text)]
    if style is None:
        if not said and (anywhere or first):
            yield found_in_brief(
                kind="style_words",
                title="No style" if anywhere else "The story has no style yet",
                advice="Attach a style, or say in a few words how the picture is made."
                if anywhere
                else "Make one on Model sheets and let it run through the shots.",
            )
        families = tuple(dict.fromkeys(f for *_, f in said))
        for a, b in contradictions(families):
            p, start, end, _ = next(s for s in said if s[3] == b)
            yield found_at(
                p,
                start,
                end,
                kind="style_words",
                title=f"{a} against {b}",
                advice="Both cannot hold in one picture. Keep one.",
                mend=Mend("cut", "Cut the words"),
            )
        return
    words = [p for p in brief.phrases if p.key in (f"style:{style.id}", f"words:{style.id}")]
    families = families_of(" ".join(p.text for p in words))
    if not style.vocabulary and not style.pictures and len(families) < FEWEST:
        yield found_in_brief(
            kind="style_words",
            title=f"{style.name} has no words and no pictures",
            advice="Give the style a few words or pictures.",
            thread=style.id,
            shared=True,
        )
    for a, b in contradictions(families):
        yield found_in_brief(
            kind="style_words",
            title=f"{style.name} is {a} and {b}",
            advice="Both cannot hold in one picture. Keep one on the style’s sheet.",
            phrase=words[-1].key if words else "",
            thread=style.id,
            shared=True,
            words=f"{a}, {b}",
        )
    if len(style.vocabulary) > MOST:
        yield found_in_brief(
            kind="style_words",
            title=f"{len(style.vocabulary)} words of style",
            advice=f"More than {MOST} pull apart. Keep those that pictures cannot say.",
            phrase=words[-1].key if words else "",
            thread=style.id,
            shared=True,
        )
    for p, start, end, family in said:
        against = [f for f in families if contradictions((f, family))]
        if (family in MEDIA and family not in families) or against:
            yield found_at(
                p,
                start,
                end,
                kind="fights_reference",
                title=f"“{p.text[start:end]}” against {style.name}",
                advice="The style is another. Cut the words, or give this shot another style.",
                thread=style.id,
                mend=Mend("cut", "Cut the words"),
            )


def patterns(brief: Brief) -> Iterator[Finding]:
    """Patterns that come out differently in every picture."""
    for p in brief.phrases:
        if p.kind not in ("action", "cast", "prop") or p.key.startswith("hold"):
            continue
        for start, end in _pattern_spans(p.text):
            yield found_at(
                p,
                start,
                end,
                kind="pattern",
                title=f"“{p.text[start:end]}” comes out differently in every picture",
                advice="A plain cloth keeps. Or hold the outfit by a reference, and let it stand.",
                thread=p.thread,
                shared=p.kind != "action",
            )


@lru_cache(maxsize=8192)
def _pattern_spans(text: str) -> tuple[tuple[int, int], ...]:
    if tokens(text).isdisjoint(PATTERN_HINTS):
        return ()
    return tuple((m.start(), m.end()) for m in PATTERN.finditer(text))
