"""Texts that nobody would write: sentences of stories mixed, words changed, doubled, lost and put in capitals, and all forms in which a text can come."""

from __future__ import annotations

import random
import re
from collections.abc import Sequence

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.formats import texts
from tests import story_texts, story_texts_languages, story_texts_later, story_texts_third


def _sentences(told: Sequence[story_texts.Told]) -> list[str]:
    return [s for one in told for s in re.split(r"(?<=[.!?…”\"])\s+", one.text) if s.strip()]


_ENGLISH = _sentences((*story_texts.TEXTS, *story_texts_later.READ, *story_texts_third.OPENED))
_OTHERS = _sentences(story_texts_languages.LOOKED_AT)
_WORDS = [w for s in _ENGLISH for w in s.split()]
_NAMES = [w.strip(".,;:!?“”\"'") for w in _WORDS if w[:1].isupper()]
_SMALL = (
    "Mr. Mrs. Miss Misses Messrs Dr. King Old Little Big the The Aunt Great-Aunt St. Mother second another two both all every they it he "
    'themselves and which when as if CU. INT. 1. ( ) “ ” " — I’m'
).split()
_SMALL += ["them all", "his brothers", "the second", "call me", "I am", "as high as", "one after another"]


def wild_text(dice: random.Random) -> str:
    """A text of up to two dozen sentences, one of four in German, French and Spanish."""
    known = _OTHERS if dice.random() < 0.25 else _ENGLISH
    lines = [_changed(dice.choice(known), dice) for _ in range(dice.randint(1, 24))]
    match dice.randrange(6):
        case 0:
            return "\n".join(f"{i}. {line}" for i, line in enumerate(lines, 1))
        case 1:
            return "\n".join(f"{dice.choice(_NAMES).upper()}: {line}" for line in lines)
        case 2:
            return "\n\n".join(f"Panel {i}\n{line}" for i, line in enumerate(lines, 1))
        case _:
            return dice.choice((" ", "\n", "\n\n")).join(lines)


def _changed(sentence: str, dice: random.Random) -> str:
    words = sentence.split()
    for _ in range(dice.randint(0, 4)):
        i = dice.randrange(len(words)) if words else 0
        match dice.randrange(9) if words else 0:
            case 0:
                words.insert(i, dice.choice(_SMALL))
            case 1:
                words[i] = dice.choice(_NAMES)
            case 2:
                words[i] = words[i].upper()
            case 3:
                words[i] = words[i].lower()
            case 4:
                del words[i]
            case 5:
                words[i] = dice.choice(_WORDS)
            case 6:
                words[i] += dice.choice([",", ".", ":", "!", '"', "…", "—", "s", "'s", "-"])
            case 7:
                words.insert(i, words[i])
            case _:
                words[i] = words[i].capitalize()
    return " ".join(words)


def read_through(text: str) -> int:
    """Read a text as the product does; how many shots it has. Every shot has its own stretch of the text, in order, and shows something."""
    manuscript = texts.read(text, texts.syntax_of(text))
    discovered(manuscript)
    shots = [s for scene in breakdown(manuscript) for s in scene.shots]
    at = 0
    for s in shots:
        assert at <= s.start < s.end <= len(text), (at, s.start, s.end)
        assert s.shows.strip(), text[s.start : s.end]
        at = s.end
    return len(shots)
