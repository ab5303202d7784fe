"""What preflight knows beside a brief: the project's threads as words may speak of them, the shot before, and a shot's state."""

from __future__ import annotations

from dataclasses import dataclass

from juxtaform.core.brief.compose import Phrase
from juxtaform.core.findings import Finding, Mend, WordsAt
from juxtaform.core.text.names import Named


def found_in_brief(
    *,
    kind: str,
    title: str,
    advice: str,
    phrase: str = "",
    start: int = 0,
    end: int = 0,
    words: str = "",
    thread: str = "",
    shared: bool = False,
    mend: Mend | None = None,
) -> Finding:
    """Something to look at before a brief leaves, with the words that it is about."""
    at = WordsAt(phrase, start, end, words, shared) if phrase or words or shared else None
    return Finding(source="brief", kind=kind, title=title, advice=advice, thread=thread or None, words=at, mend=mend)


def found_at(
    phrase: Phrase,
    start: int,
    end: int,
    *,
    kind: str,
    title: str,
    advice: str,
    thread: str = "",
    shared: bool = False,
    mend: Mend | None = None,
) -> Finding:
    """Something to look at in the characters `start` up to `end` of a phrase."""
    return found_in_brief(
        kind=kind,
        title=title,
        advice=advice,
        phrase=phrase.key,
        start=start,
        end=end,
        words=phrase.text[start:end],
        thread=thread,
        shared=shared,
        mend=mend,
    )


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


def short(words: str) -> str:
    """Words for a title: cut behind a word where they are long."""
    return words if len(words) <= 48 else words[:45].rsplit(" ", 1)[0] + " …"
