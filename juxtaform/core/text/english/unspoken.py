"""What a sentence with spoken words in it shows: who speaks, and what they do meanwhile. Words in quotation marks would be drawn as letters."""

from __future__ import annotations

import re

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.clauses import parsed
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.tagging import SAID, tagged
from juxtaform.core.text.speech import habit_of, said

SAYS, LIVES = 0.35, 0.2
"""From this share of its meanings on a verb is one of saying, a noun somebody who can."""
_SENTENCE = re.compile(rf"(?<=[.!?…])(?<!\bMr\.)(?<!\bMrs\.)(?<!\bMs\.)(?<!\bDr\.)(?<!\bSt\.)\s+(?=[A-ZÀ-Þ{SAID}])")
_SAID_LAST = re.compile(rf"([,:]\s?{SAID})(?=\s+[A-ZÀ-Þ])")
"""What is said last in a sentence, with its full stop inside: `and said, “…” Then he left`."""
_ENDS, _BEGINS = re.compile(r"(?<!\.)\.[^\w.]*$"), re.compile(r"\s+[A-ZÀ-Þ]")
"""How speech ends with a full stop, and how the next sentence begins: nobody says `“I am here.” Tuck thanked her.`"""
_GOES_ON = re.compile(rf"[\s,;{SAID}–—-]*\b(?:and|but|then)\b(?:\s+then)?\s+(?:(?:he|she|they|it)\s+)?", re.IGNORECASE)
_LINK_BEFORE = re.compile(rf"[\s,;{SAID}–—-]*\b(?:and|then|but)[\s,]*$", re.IGNORECASE)
_WHO = frozenset(["one", "voice"])
_WRITTEN = frozenset(["say", "read", "tell", "state", "declare", "announce"])
"""What a sign does as well as somebody: whatever asks or whispers is alive in its story."""
MOST_ASIDE = 3
"""Words between who speaks and what they do as well that a picture can do without: `said Noor gently, and held up the bag`."""
_EDGES = f" ,;:–—-.!?…{SAID}"


def unspoken(words: str) -> str:
    """Some sentences without what is said in them; as they are where nobody says it or nothing is said.

    >>> unspoken("“Again,” said Nadim, and he ran to the wall."), unspoken("“What is it?” asked the old woman.")
    ('Nadim ran to the wall.', 'The old woman speaks.')
    >>> unspoken("Otto stamped his foot and said, “No!”"), unspoken("“Hello,” Tove said into the receiver.")
    ('Otto stamped his foot.', 'Tove speaks into the receiver.')
    """
    plain = " ".join(words.split())
    spans = said(plain, habit_of(plain))
    if not spans:
        return words
    for a, b in reversed(spans):
        ends = "." if _ENDS.search(plain[a:b]) and _BEGINS.match(plain[b:]) else ""
        plain = f"{plain[:a]}{SAID}{ends}{plain[b:]}"
    plain = _SAID_LAST.sub(r"\1.", plain)
    told = [_of_one(part) for part in _SENTENCE.split(plain) if part.strip(_EDGES)]
    return " ".join(told) if told and all(told) else words


def _of_one(words: str) -> str:
    sentence = parsed(tagged(words))
    used = any(d.verb == "use" for d in sentence.deeds)  # `he used to say`
    saying = next((d for d in sentence.deeds if (d.finite or used) and d.does("S") > SAYS and d.subjects), None)
    if SAID not in words:
        return _closed(words)
    if saying is None:
        return ""
    who = saying.subjects[0]
    kinds = lx.word(who.head).kinds
    begin, end = sentence.tokens[who.first].start, sentence.tokens[who.last].end
    bare = not (who.det or who.owning or who.several) and words[begin].isupper()  # `Anna said`: a name, and no coin
    written = saying.verb in _WRITTEN and not (who.name or who.pronoun or who.head in _WHO or bare)
    if kinds and lx.living(who.head) <= LIVES and written:
        return ""
    name = words[begin:end]
    after = words[max(saying.end, end if begin > saying.start else 0) :]
    edge = min(begin, saying.start)
    if any(who in d.subjects and d.start < saying.start and d.verb != "use" for d in sentence.deeds):
        before = _LINK_BEFORE.sub("", words[: saying.start])
        return _closed(f"{before} {after.strip(_EDGES)}" if _acts(after, sentence, saying) else before)
    lead = ""
    if any(d.end <= edge for d in sentence.deeds):  # `When the door opened, Mia said`
        lead = words[:edge].strip(_EDGES) + (", " if words[:edge].rstrip().endswith(",") else " ")
    if deed := _acts(after, sentence, saying):
        return _closed(f"{lead}{name} {deed}")
    rest = after.strip(_EDGES)
    joint = ", " if after.strip(f" {SAID}").startswith(",") else " "
    if rest.startswith("who "):
        return _closed(f"{lead}{name}, {rest}, {_speaks(who)}")
    for x in saying.objects:
        spoken_to = x.name or x.pronoun or lx.living(x.head) > LIVES
        if spoken_to and after.strip(f" {SAID}").startswith(words[x.start : x.end]):
            joint = " to "
    return _closed(f"{lead}{name} {_speaks(who)}{joint if rest else ''}{rest}")


def _acts(after: str, sentence: Sentence, saying: Deed) -> str:
    """What whoever speaks does as well, behind *and* or *and she*; empty where nothing is told so."""
    begins = sentence.end - len(after)
    for link in _GOES_ON.finditer(after):
        at = begins + link.end()
        if any(d is not saying and d.finite and abs(d.start - at) < 3 for d in sentence.deeds):
            aside = after[: link.start()].strip(_EDGES)
            return after[link.end() :].strip(_EDGES) if len(aside.split()) <= MOST_ASIDE else ""
    return ""


def _speaks(who: Phrase) -> str:
    return "speak" if who.several else "speaks"


def _closed(words: str) -> str:
    words = " ".join(words.replace(SAID, " ").split()).replace(" ,", ",").strip(_EDGES)
    return f"{words[:1].upper()}{words[1:]}."
