"""What preflight tells and asks: rules, concerns with their mends, and what it knows of threads, the shot before and a shot's state."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from juxtaform.core.text.names import Named

Rule = Literal[
    "named_not_attached",
    "attached_not_named",
    "leftover",
    "fights_reference",
    "style_words",
    "pattern",
    "motion",
    "moments",
    "aspect",
    "colourful_guide",
    "same_guide",
    "unfit_reference",
    "stale_reference",
    "over_limits",
    "dont",
]
RULES: dict[str, str] = {
    "named_not_attached": "named, but not attached",
    "attached_not_named": "attached, but not named",
    "leftover": "left over from the shot before",
    "fights_reference": "words against a reference",
    "style_words": "words of style",
    "pattern": "a pattern that never repeats well",
    "motion": "motion in a still",
    "moments": "several moments in one picture",
    "aspect": "another form than the project's",
    "colourful_guide": "a guide more colourful than the style",
    "same_guide": "one guide on a whole run",
    "unfit_reference": "a reference that cannot serve",
    "stale_reference": "an old reference",
    "over_limits": "over the service's limits",
    "dont": "a don't in the words",
}


@dataclass(frozen=True)
class Mend:
    """What one key does about a concern: its kind, the thread and value that it needs, and its label."""

    kind: Literal["attach", "clear", "cut", "to_motion", "costume", "aspect", "drop_guide", "newest"]
    label: str
    thread: str = ""
    value: str = ""


@dataclass(frozen=True)
class Concern:
    """Something to look at before a brief leaves. `phrase` with `start`..`end` are the words in it (characters of the phrase);
    `shared` tells that it lies in a fixed wording, and so in every brief that has it."""

    rule: Rule
    title: str
    advice: str
    phrase: str = ""
    start: int = 0
    end: int = 0
    words: str = ""
    thread: str = ""
    shared: bool = False
    mend: Mend | None = None


@dataclass(frozen=True)
class ThreadWords:
    """A thread as the words may speak of it: its names, costumes or variants by name, its wording, and the hues of its traits
    as (costume, noun, hue)."""

    named: Named
    kind: str
    wording: str = ""
    costumes: tuple[tuple[str, str], ...] = ()
    traits: tuple[tuple[str, str, str], ...] = ()


@dataclass(frozen=True)
class Before:
    """The shot before: its own words, and the ids of what was attached to it."""

    words: str
    attached: frozenset[str]


@dataclass(frozen=True)
class State:
    """What is known of a shot beside its words: the project's aspect ratio, the form of its guide (width over height), how
    many shots in a row share the guide, the colourfulness of guide and style (OKLab chroma), references that cannot serve as
    (thread, reason), and threads whose attached view is an old one."""

    wanted_aspect: str = ""
    is_spread: bool = False
    guide_form: float | None = None
    guide_run: int = 0
    guide_chroma: float | None = None
    style_chroma: float | None = None
    unfit: tuple[tuple[str, str], ...] = ()
    stale: tuple[str, ...] = ()
