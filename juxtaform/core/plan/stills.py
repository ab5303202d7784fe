"""What one picture can show: words of motion and camera in a still description, and descriptions of several moments."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.text.tokens import tokens

Moves = Literal["camera", "motion"]

_CAMERA = re.compile(
    r"\b(?:(?:the\s+)?camera\b[^.;,]*|(?:slow|slowly|quick|quickly)?\s*(?:(?<!his )(?<!her )(?<!its )(?<!the )(?<!of )(?<!with )(?<!and )(?<!their )pan(?:s|ning)?(?! for\b)|tilt(?:s|ing)?|zoom(?:s|ing)?|dolly|dollies|"
    r"truck(?:s|ing)?|crane(?:s)?\s+(?:up|down)|push(?:es|ing)?\s+in|pull(?:s|ing)?\s+(?:out|back)|track(?:s|ing)?\s+"
    r"(?:left|right|along|with|in|out|him|her|them))\b[^.;,]*|(?:we|the view)\s+(?:follow|move|rise|glide|drift|fly|descend)s?\b[^.;,]*|"
    r"fade(?:s)?\s+(?:in|out|to)\b[^.;,]*|cut(?:s)?\s+to\b[^.;,]*)",
    re.IGNORECASE,
)
_TO = r"(?:then|and then|before|until|while|as)"
_COURSE = re.compile(
    r"\b(?:(?:and\s+)?(?:then|slowly|suddenly|gradually|quickly)\s+)?(?:starts?|begins?|continues?|keeps?)\s+(?:to\s+\w+|\w+ing)\b[^.;,]*|"
    r"\b(?:and\s+)?(?:slowly|gradually|suddenly|quickly|back and forth|one by one|bit by bit|little by little|again and again|over and over|to and fro)\b[^.;,]*|"
    r"\b(?:fades?|grows?|turns?|changes?|becomes?)\s+(?:away|into|from\s+\w+\s+to|bigger|smaller|brighter|darker|larger)\b[^.;,]*|"
    r"\b(?:walks?|runs?|moves?|flies|rolls?|slides?|drives?|rushes|races|wanders?|strides?|swims?|sails?|crawls?|climbs?)\s+(?:(?:hand in hand|arm in arm|side by side|barefoot|alone|together)\s+)?"
    r"(?:away|off|past|after|towards?|to|across|around|through|over|out|in|into|up|down|along|from|back|by)\b[^.;,]*|"
    r"\b(?:(?:puts?|takes?|pulls?|pushes|sets?)\s+(?:the\s+\w+\s+|\w+\s+)?(?:down|up|away|off|out|back)|"
    r"lifts?\s+(?:the\s+\w+\s+|\w+\s+)?(?:down|away|off|out))\b"
    r"(?!\s+(?:of|his|her|their|its|the|a|an)\b)[^.;,]*",
    re.IGNORECASE,
)
_MOMENTS = re.compile(
    r"[,;]?\s*\b(?:and then|then|after that|afterwards|next,|a moment later|moments later|finally|before (?:(?:he|she|it|they)(?! can\b)|\w+ing)|"
    r"(?<!waits )(?<!wait )(?<!waiting )(?<!sleeps )(?<!stays )(?<!wave )(?<!waves )until)(?!\w)",
    re.IGNORECASE,
)
_DEEDS = frozenset(
    """opens closes takes puts lifts turns runs walks jumps falls sits stands says goes comes picks throws catches
    climbs grabs knocks enters leaves wakes looks pulls pushes gives eats drinks blows stops starts opened closed
    took put lifted turned ran walked jumped fell sat stood said went came picked threw caught climbed grabbed
    knocked entered left woke looked pulled pushed gave ate drank blew stopped started""".split()
)
_VERBS = re.compile(rf"\b(?:{'|'.join(sorted(_DEEDS))})\b", re.IGNORECASE)


_CAMERA_HINTS = frozenset(
    """camera pan pans panning tilt tilts tilting zoom zooms zooming dolly dollies truck trucks trucking crane cranes push pushes
    pushing pull pulls pulling track tracks tracking we view fade fades cut cuts""".split()
)
_COURSE_HINTS = frozenset(
    """start starts begin begins continue continues keep keeps slowly gradually suddenly quickly forth again over by fro fade fades
    grow grows turn turns change changes become becomes walk walks run runs move moves flies roll rolls slide slides drive
    drives rushes races wander wanders stride strides swim swims sail sails crawl crawls climb climbs lift lifts pick picks put
    puts take takes pull pulls pushes set sets""".split()
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


def moving_words(shows: str) -> list[MovingWords]:
    """Phrases of a still description that belong in the motion note, in order, none inside another.

    >>> [(m.words, m.kind) for m in moving_words("Pell on the step; the camera pans left, slowly turning blue.")]
    [('the camera pans left', 'camera'), ('slowly turning blue', 'motion')]
    """
    found: list[MovingWords] = []
    plain = tokens(shows)
    for kind, pattern, hints in (("camera", _CAMERA, _CAMERA_HINTS), ("motion", _COURSE, _COURSE_HINTS)):
        for m in pattern.finditer(shows) if not plain.isdisjoint(hints) else ():
            words = m.group().rstrip(" .")
            lead = len(words) - len(words.lstrip())
            start, end = m.start() + lead, m.start() + len(words)
            if words.strip() and not any(f.start < end and start < f.end for f in found):
                found.append(MovingWords(start, end, words.strip(), kind))  # type: ignore[arg-type]
    return sorted(found, key=lambda m: m.start)


def moved(shows: str, motion: str = "") -> tuple[str, str]:
    """A still description without its moving words, and the motion note with them.

    What would leave nothing to show stays: the verb is then the picture.

    >>> moved("Pell on the step; the camera pans left.", "Wind.")
    ('Pell on the step.', 'Wind. The camera pans left.')
    """
    notes = [motion.strip()] if motion.strip() else []
    still = shows
    for phrase in reversed(moving_words(shows)):
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
