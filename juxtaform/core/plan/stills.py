"""What one picture can show: words of motion and camera in a still description, and descriptions of several moments."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed
from juxtaform.core.text.english.phrases import Phrase as Noun
from juxtaform.core.text.english.sentences import loosely
from juxtaform.core.text.tokens import tokens

Moves = Literal["camera", "motion"]

_CAMERA = re.compile(
    r"\b(?:(?:the\s+)?camera(?=\s*[:–-]|\s+(?:(?:is|then|slowly|gently|quickly)\s+)*(?:mov|pan|tilt|zoom|doll|track|truck|push|pull|follow|glid|drift|circl|orbit|ris|climb|descend|"
    r"sink|swing|fl(?:y|ies)|travel|stay|hold|look|turn|sweep|cran|com(?:es|ing)|go(?:es|ing)|clos|shak|roll|start|begin|(?:to the )?left\b|(?:to the )?right\b))[^.;,]*|(?:slow|slowly|quick|quickly)?\s*(?:(?<!his )(?<!her )(?<!its )(?<!the )(?<!of )(?<!with )(?<!and )(?<!their )pan(?:s|ning)?(?! for\b)|tilt(?:s|ing)?|zoom(?:s|ing)?|dolly|dollies|"
    r"truck(?:s|ing)?|crane(?:s)?\s+(?:up|down)|push(?:es|ing)?\s+in|pull(?:s|ing)?\s+(?:out|back)|track(?:s|ing)?\s+"
    r"(?:left|right|along|with|(?:in|out)(?!\s+(?:the|a|an|his|her|its|their|some)\b)|him|her|them))\b[^.;,]*|(?:we|the view)\s+(?:follow|move|rise|glide|drift|fly|descend)s?\b[^.;,]*|"
    r"fade(?:s)?\s+(?:in|out|to)\b[^.;,]*|cut(?:s)?\s+to\b[^.;,]*)",
    re.IGNORECASE,
)
_IS_THING = re.compile(
    r"\b(?:the|an?|his|her|its|their|my|some|no|\w+['’]s)\s+(?:tracks?|trucks?|cranes?|lifts?|turns?|changes?|starts?|sets?|fades?)\b",
    re.IGNORECASE,
)
"""A word that tells a move elsewhere and is a thing here: `reads the tracks with her finger`."""
_TO = r"(?:then|and then|before|until|while|as)"
_COURSE = re.compile(
    r"\b(?:(?:and\s+)?(?:then|slowly|suddenly|gradually|quickly)\s+)?(?:starts?|begins?|continues?|keeps?)\s+(?:to\s+\w+|\w+ing)\b[^.;,]*|"
    r"\b(?:and\s+)?(?:slowly|gradually|suddenly|quickly|back and forth|one by one|bit by bit|little by little|again and again|over and over|to and fro)\b[^.;,]*|"
    r"\b(?:fades?|grows?|turns?|changes?|becomes?)\s+(?:away|into|from\s+\w+\s+to|bigger|smaller|brighter|darker|larger)\b[^.;,]*|"
    r"\b(?:(?!pull(?:s)?\s+(?:her|him|them)\s+back)(?:puts?|takes?|pulls?|pushes|sets?)\s+(?:the\s+\w+\s+|\w+\s+)?(?:down|up|away|off|out|back)|"
    r"lifts?\s+(?:the\s+\w+\s+|\w+\s+)?(?:down|away|off|out))\b"
    r"(?!\s+(?:of|his|her|their|its|the|a|an)\b)[^.;,]*",
    re.IGNORECASE,
)
_MOMENTS = re.compile(
    r"[,;]?\s*\b(?:and then|then|after that|afterwards|next,|a moment later|moments later|finally|before (?:(?:he|she|it|they)(?! can\b)|\w+ing)"
    r")(?!\w)",
    re.IGNORECASE,
)
_SOUNDS = lx.KNOWN.words("sounds")
_HAULS = lx.KNOWN.words("hauls") | lx.GRAMMAR.words("hauls")
_GOING = lx.TRAVELS | _SOUNDS | _HAULS
_IN_HAND = ("hand", "arm", "side")
"""What looks like an object in `hand in hand`."""
_GROUND = frozenset("across along over through up down past into towards toward".split())
"""Prepositions of the ground that somebody goes over."""
_WAYS = frozenset(
    """down up along across around round through over past into onto out-of to towards toward from after off away back in out by uphill downhill
    upstairs downstairs under behind between""".split()
)
"""Prepositions and adverbs that say which way somebody goes."""
_DEEDS = lx.GRAMMAR.words("deeds one after another")
_VERBS = re.compile(rf"\b(?:{'|'.join(sorted(_DEEDS))})\b", re.IGNORECASE)


_CAMERA_HINTS = frozenset(
    """camera pan pans panning tilt tilts tilting zoom zooms zooming dolly dollies truck trucks trucking crane cranes push pushes
    pushing pull pulls pulling track tracks tracking we view fade fades cut cuts""".split()
)
_COURSE_HINTS = frozenset(
    """start starts begin begins continue continues keep keeps slowly gradually suddenly quickly forth again over by fro fade fades
    grow grows turn turns change changes become becomes lift lifts put puts take takes pull pulls push pushes set sets""".split()
)
_TURN_HINTS = frozenset("then that afterwards next later finally before until".split())
"""Without any of these words the costlier expressions find nothing."""


@dataclass(frozen=True)
class MovingWords:
    """A phrase `start`..`end` of a still description that no still can show: a camera's move, or a course of action."""

    start: int
    end: int
    words: str
    kind: Moves


def moving_words(shows: str, names: frozenset[str] = frozenset()) -> list[MovingWords]:
    """Phrases of a still description that belong in the motion note, in order, none inside another. `names` are the words of the threads' names.

    >>> [(m.words, m.kind) for m in moving_words("Pell on the step; the camera pans left, slowly turning blue.")]
    [('the camera pans left', 'camera'), ('slowly turning blue', 'motion')]
    """
    found: list[MovingWords] = []
    plain = tokens(shows)
    if any(lemma in _GOING for t in plain for lemma in lx.lemmas(t, "v")):
        found += _travelling(shows, names)
    for kind, pattern, hints in (("camera", _CAMERA, _CAMERA_HINTS), ("motion", _COURSE, _COURSE_HINTS)):
        for m in pattern.finditer(shows) if not plain.isdisjoint(hints) else ():
            words = m.group().rstrip(" .")
            lead = len(words) - len(words.lstrip())
            start, end = m.start() + lead, m.start() + len(words)
            if any(t.start() < start < t.end() for t in _IS_THING.finditer(shows)):
                continue
            if words.strip() and not any(f.start < end and start < f.end for f in found):
                found.append(MovingWords(start, end, words.strip(), kind))  # type: ignore[arg-type]
    return sorted(found, key=lambda m: m.start)


@lru_cache(maxsize=4096)
def _travelling(shows: str, names: frozenset[str]) -> tuple[MovingWords, ...]:
    """Clauses in which somebody, or something that drives or sails, goes some way: `dashes down the slope`."""
    found = []
    for offset, s in loosely(shows, names)[0]:
        for i, deed in enumerate(s.deeds):
            comes = not deed.finite and i > 0 and s.deeds[i - 1].verb in ("come", "go") and s.deeds[i - 1].finite
            if (
                deed.verb not in _GOING
                or deed.denied
                or deed.past
                or deed.perfect
                or deed.modal
                or not (deed.finite or comes)
            ):
                continue
            if not any(_goes(who, deed) for who in deed.subjects if who.pronoun not in ("nothing", "nobody", "none")):
                continue
            start = offset + (s.deeds[i - 1].start if comes else deed.start)
            course = re.match(r"[^.;,]*", shows[start:])
            words = course.group().rstrip() if course else ""
            behind = next((t.low for t in s.tokens if t.start >= deed.end), "")
            own = {q.prep for q in deed.at if q.owning and q.prep in ("up", "down", "off", "out")}  # up his sleeves
            ways = [q for q in deed.at if q.start >= deed.end and not (q.owning and q.prep in own)]
            over_ground = any(_is_way(q) or _is_goal(q, deed) for q in ways)
            some_way = behind in _WAYS - own or any(q.prep.replace(" ", "-") in _WAYS for q in ways)
            itself = any(q.pronoun.endswith(("self", "selves")) for q in deed.objects)
            vehicle = any(lx.meaning(who.head).share("V") > 0.3 for who in deed.subjects)
            alone = (
                deed.verb in lx.TRAVELS and deed.verb != "climb" and not any(q.det or q.owning for q in deed.objects)
            )
            goes = alone or itself or (deed.verb in _SOUNDS and vehicle)
            if over_ground or (some_way and goes):
                found.append(MovingWords(start, start + len(words), words, "motion"))
    return tuple(found)


def _is_way(q: Noun) -> bool:
    """Whether a phrase is the ground that somebody goes over: any but a body behind `across`, a place behind `up`."""
    means = lx.meaning(q.head)
    if q.prep in ("across", "along", "past") or (q.prep in ("up", "down") and q.det):
        return means.share("BC") < 0.5
    return q.prep in _GROUND and means.share("LWRHD") > 0.4


def _is_goal(q: Noun, deed: Deed) -> bool:
    """Whether a phrase is where somebody is going: `runs for the gate`."""
    return q.prep == "for" and deed.verb in lx.TRAVELS and lx.meaning(q.head).share("LWRHD") > 0.4


def _goes(who: Noun, deed: Deed) -> bool:
    """Whether a subject is somebody, or something that drives, flies, sails or rolls; and takes something along where the deed does."""
    takes = any(q.head not in _IN_HAND for q in deed.objects)
    if deed.verb not in (_HAULS if takes else lx.TRAVELS | _SOUNDS):
        return False  # `runs a comb through her hair`
    rolls = deed.verb in ("roll", "slide", *_SOUNDS) and bool(who.det or who.several)
    if rolls and lx.meaning(who.head).share("OFKDC") > 0.5:
        return True
    if deed.verb in _SOUNDS and not any(q.prep in ("up", "down", "along") for q in deed.at):
        return lx.meaning(who.head).share("V") > 0.3
    return bool(who.pronoun or who.name) or lx.living(who.head) >= 0.45 or lx.meaning(who.head).share("V") > 0.3


def moved(shows: str, motion: str = "", names: frozenset[str] = frozenset()) -> tuple[str, str]:
    """A still description without its moving words, and the motion note with them.

    What would leave nothing to show stays: the verb is then the picture.

    >>> moved("Pell on the step; the camera pans left.", "Wind.")
    ('Pell on the step.', 'Wind. The camera pans left.')
    """
    notes = [motion.strip()] if motion.strip() else []
    still = shows
    for phrase in reversed(moving_words(shows, names)):
        shorter = _joined(still[: phrase.start], still[phrase.end :])
        if len(re.findall(r"\w+", shorter)) < 2:
            continue
        still = shorter
        note = re.sub(r"^(?:and|then|,|;)\s+", "", phrase.words, flags=re.IGNORECASE)
        notes.insert(1 if motion.strip() else 0, f"{note[:1].upper()}{note[1:]}.")
    return still, " ".join(notes)


def moments_in(shows: str) -> int:
    """How many moments a description tells of: one picture shows one.

    >>> moments_in("Pell sits on the step."), moments_in("Pell opens the door, looks in and then runs away.")
    (1, 2)
    """
    plain = tokens(shows)
    turns = len(_MOMENTS.findall(shows)) if not plain.isdisjoint(_TURN_HINTS) else 0
    deeds = 0
    if len(plain & _DEEDS) >= 2:
        for sentence in re.split(r"[.;!?]", shows):
            deeds = max(deeds, len(_VERBS.findall(sentence)))
    return 1 + max(turns, 1 if deeds >= 4 else 0)


def _joined(before: str, after: str) -> str:
    head = re.sub(r"[\s,;:–—]+(?:and|then|while|as)?\s*$", "", before)
    tail = after.lstrip(" ,;")
    if not tail or tail[0] in ".!?":
        return head + (tail or "")
    return f"{head}, {tail}" if head and head[-1] not in ".!?" else f"{head} {tail}".strip()
