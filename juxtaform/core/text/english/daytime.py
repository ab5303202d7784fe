"""Which time of day English words tell: by its name, by the sun, the moon and the stars, by meals and bedtime."""

from __future__ import annotations

import re

from juxtaform.core.text.names import TIMES

_HOURS = r"(?:one|two|three|four|1|2|3|4)(?: o[’']clock)?"
_TOLD = (
    *((name, words) for words, name in TIMES),
    ("night", rf"nights|tonight|bedtime|dark outside|(?:at|was|until) {_HOURS} in the morning"),
    ("night", r"stars (?:came out|come out|shone|shine|were (?:out|shining)|twinkled?|glittered|appeared)"),
    ("night", r"moon (?:rose|rises|shone|shines|was (?:up|shining|rising|out)|came (?:up|out)|hung|hangs)"),
    ("dawn", r"first light|cock-?crow|day (?:broke|breaks|was breaking)"),
    ("dawn", r"sun (?:rose|rises|was (?:just )?(?:rising|coming up)|came up|comes up)"),
    ("morning", r"mornings|breakfasttime"),
    ("afternoon", r"afternoons|tea-?time"),
    ("dusk", r"evenings|nightfall|supper(?:time)?"),
    ("dusk", r"sun (?:went|goes|was going) down|sun (?:set|sets|was setting|sank|sinks|was sinking)"),
)
"""Times by the words of headings, and by what else tells them in a story; what begins first counts, of two the longer."""
_TIME = re.compile(
    "|".join(rf"(?P<{name}{i}>\b(?:{words})\b)" for i, (name, words) in reversed(list(enumerate(_TOLD)))), re.IGNORECASE
)
_NOT_NOW = re.compile(
    r"\b(?:last night|(?:until|till|since|(?:wait|hop|long)(?:s|ed|ing)? for|dream(?:s|ed|t|ing)? of) (?:the )?(?:next )?(?:\w+light|\w+day|\w+time|dawn|sunrise|sunset|morning|noon|"
    r"afternoon|dusk|evening|night|supper|breakfast)|(?:night|morning|evening|day)[- ]?(?:watchm[ae]n|nurse|shirts?|dress(?:es)?|gowns?|caps?|lights?|lamps?|papers?|coats?|"
    r"glory|school|class|trip|dreams?|mares?))\b",
    re.IGNORECASE,
)
"""What is of another time, or a thing of that name: `last night`, `until evening`, `a night-shirt`."""


def time_told(words: str) -> str:
    """The name of the time of day that some words tell first, or an empty string.

    >>> time_told("The sun was setting."), time_told("By noon the tide was back"), time_told("The night watchman came")
    ('dusk', 'noon', '')
    """
    m = _TIME.search(_NOT_NOW.sub(" ", words))
    return (m.lastgroup or "").rstrip("0123456789") if m else ""
