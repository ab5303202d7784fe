"""Something to look at: what departs or would go wrong, what it is about, and what to do. Whatever room finds it, it is told in one form."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from typing import Literal

from juxtaform.core.picture.regions import Box

Source = Literal["check", "plan", "brief", "reference", "take", "viewer"]
"""What was looked at: the pictures along their threads, the plan, a brief's words, a reference, or what a take was made from; or a viewer of a
showing said it."""
MendKind = Literal["attach", "clear", "cut", "to_motion", "costume", "aspect", "drop_guide", "newest"]


@dataclass(frozen=True, slots=True)
class Evidence:
    """One row of evidence in an illustrator's words: what, how much of it and what was expected; colours as hex. `behind` are the numbers with
    their units."""

    label: str
    measured: str
    expected: str = ""
    measured_hex: str | None = None
    expected_hex: str | None = None
    behind: str = ""


@dataclass(frozen=True)
class WordsAt:
    """Words in a brief: characters `start` to `end` of a phrase. `shared` tells that they come with a thread (its fixed wording,
    its reference), and so stand in every brief that has it."""

    phrase: str
    start: int = 0
    end: int = 0
    text: str = ""
    shared: bool = False


@dataclass(frozen=True)
class Mend:
    """What one key does about a finding: its kind, the thread and value that it needs, and its label."""

    kind: MendKind
    label: str
    thread: str = ""
    value: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Finding:
    """Something to look at, with what it is about by ids, its evidence and what to do.

    `measured` and `expected` are in `unit`; `severity` is relative: 1 is the edge of tolerance. `until` is the last shot concerned where it
    spans several, `reason` what the plan itself says for it; `back_to` the shot to go back to; `before` is the shot before a cut, where the cut to `shot` is meant; `at_s` when in the shot's clip. `key` names it for as long as it says the same of the same: a stet holds so long.
    """

    source: Source
    kind: str
    title: str
    advice: str
    shot: str | None = None
    until: str | None = None
    thread: str | None = None
    trait: str = ""
    reference: str | None = None
    take: str | None = None
    severity: float = 1.0
    measured: float = 0.0
    expected: float = 0.0
    unit: str = ""
    back_to: str | None = None
    before: str | None = None
    at_s: float | None = None
    region: Box | None = None
    evidence: tuple[Evidence, ...] = ()
    words: WordsAt | None = None
    mend: Mend | None = None
    reason: str = ""
    key: str = ""


def asks(f: Finding) -> bool:
    """Whether a finding is a question, not a claim: questions come after all that is told."""
    return f.kind.endswith("_doubtful")


def key_of(*says: object) -> str:
    """The key of a finding that says just this; whatever its room, keys are made in this one way.

    >>> key_of("border", "shot 3") == key_of("border", "shot 3"), len(key_of("border"))
    (True, 40)
    """
    return hashlib.sha256("\x1f".join(str(s) for s in says).encode()).hexdigest()[:40]
