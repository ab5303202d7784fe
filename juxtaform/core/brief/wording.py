"""Words that a still cannot show, and words that stand among the don'ts."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import lru_cache

from juxtaform.core.brief.compose import Brief, Phrase
from juxtaform.core.brief.deeds import deeds_of_one_body, described_strangers
from juxtaform.core.brief.knowledge import found_at, found_in_brief, short
from juxtaform.core.brief.words import read_words
from juxtaform.core.findings import Finding, Mend
from juxtaform.core.plan.stills import moments_in, moving_words


def stillness(own: Sequence[Phrase], names: frozenset[str] = frozenset()) -> Iterator[Finding]:
    """Words that move, several moments in one picture, and what no picture can show."""
    for p in own:
        words = read_words(p.text, names)
        deeds = deeds_of_one_body(words)
        unseen = words.unseen
        for start, end, why in unseen:
            yield found_at(
                p,
                start,
                end,
                kind="unpicturable",
                title=f"“{short(p.text[start:end])}” cannot be drawn",
                advice=f"It tells {why}. Say what is to be seen instead, or cut the words.",
                mend=Mend("cut", "Cut the words") if end - start < len(p.text.rstrip()) - 1 else None,
            )
        for m in moving_words(p.text, names) if deeds < SEVERAL else ():
            if any(start <= m.start < end for start, end, _ in unseen):
                continue
            yield found_in_brief(
                kind="motion",
                title=f"“{m.words}” moves",
                advice="A still cannot show it. It belongs in the motion note.",
                phrase=p.key,
                start=m.start,
                end=m.end,
                words=m.words,
                mend=Mend("to_motion", "Move it to the motion note"),
            )
        if (count := max(moments_in(p.text), deeds if deeds >= SEVERAL else 1)) > 1:
            yield found_at(
                p,
                0,
                len(p.text),
                kind="moments",
                title=f"{count} moments in one picture",
                advice="Keep the one that the picture shows, or split the shot.",
            )


def strangers(own: Sequence[Phrase], held: frozenset[str], names: frozenset[str]) -> Iterator[Finding]:
    """People whom a shot's words describe and whom no thread holds: they would look different in every picture. `held` are the words of all threads."""
    for p in own:
        for start, end in described_strangers(read_words(p.text, names), held):
            yield found_at(
                p,
                start,
                end,
                kind="unheld",
                title=f"No thread holds “{short(p.text[start:end])}”",
                advice="Made twice, they will not look the same. Make a thread of them if they come back.",
            )


SEVERAL = 3
"""From as many deeds of one body on, one after another, a sentence tells several moments."""
_NOT_DESCRIBING = frozenset({"dont", "palette", "technical", "framing"})


def donts(brief: Brief) -> Iterator[Finding]:
    """Words of the brief that its own don'ts rule out."""
    phrase = next((p for p in brief.phrases if p.key == "donts"), None)
    if phrase is None:
        return
    texts = [p for p in brief.phrases if p.text and p.kind not in _NOT_DESCRIBING and not p.key.startswith("hold")]
    for pattern, word, stem in _dont_patterns(phrase.items):
        for p in texts:
            if stem not in p.text.casefold():
                continue
            for m in pattern.finditer(p.text):
                yield found_at(
                    p,
                    m.start(1),
                    m.end(1),
                    kind="dont",
                    title=f"“{m.group(1)}” is a don’t",
                    advice=f"“{word}” stands among the don’ts. Cut the word, or the don’t.",
                    thread=p.thread,
                    shared=p.kind != "action",
                    mend=Mend("cut", "Cut the word") if p.kind == "action" else None,
                )


@lru_cache(maxsize=512)
def _dont_patterns(words: tuple[str, ...]) -> tuple[tuple[re.Pattern[str], str, str], ...]:
    out = []
    for w in words:
        plain = re.sub(r"^(?:no|without|never|not)\s+", "", w.strip(), flags=re.IGNORECASE)
        stem = re.sub(r"(?<=\w{3})s$", "", plain)
        if stem:
            spelled = re.escape(stem).replace(r"\ ", r"[\s-]+")
            out.append(
                (
                    re.compile(
                        rf"(?<!\w)(?<!no )(?<!without )(?<!not )(?<!without a )(?<!without any )({spelled}(?:s|(?<=[sxzh])es)?)(?![\w-])",
                        re.IGNORECASE,
                    ),
                    plain,
                    stem.casefold().split()[0].split("-")[0],
                )
            )
    return tuple(out)
