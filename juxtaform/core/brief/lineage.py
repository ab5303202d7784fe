"""What a picture was made from, and what of that changed from its parent's, in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from juxtaform.core.text.difference import word_difference

MOST_WORDS = 7
"""Words of a change that are quoted; the middle of longer ones is left out."""


@dataclass(frozen=True)
class Origin:
    """What a picture was made from: phrases of its brief by key, how threads held (weight 0..1, hold, costume) by thread, references by id, and by
    whom. `crop` tells that it shows a part of its parent, `edit` what was changed in an area of it, `grown` that it goes on beyond its edges."""

    phrases: Mapping[str, str] = field(default_factory=dict)
    held: Mapping[str, tuple[float, str, str]] = field(default_factory=dict)
    references: tuple[str, ...] = ()
    service: str = ""
    model: str = ""
    quality: str = ""
    seed: int | None = None
    crop: bool = False
    edit: str | None = None
    grown: bool = False

    @property
    def is_brought(self) -> bool:
        """Whether the user brought the picture: no service made it."""
        return not self.service and not self.crop and self.edit is None and not self.grown

    def group(self) -> tuple[object, ...]:
        """The same for pictures that differ by their seeds alone."""
        if self.is_brought:
            return ("brought",)
        return (
            tuple(sorted(self.phrases.items())),
            tuple(sorted(self.held.items())),
            tuple(sorted(self.references)),
            self.service,
            self.model,
            self.quality,
            self.crop,
            self.edit,
            self.grown,
        )


def changes(old: Origin, new: Origin, names: Mapping[str, str]) -> list[str]:
    """What changed from one origin to another, the words first; `names` are those of threads.

    >>> a = Origin({"action": "Pell sits in the lamp room."}, {"p": (0.9, "figure", "")}, service="U", quality="draft", seed=4)
    >>> b = Origin({"action": "Pell sits by the lamp."}, {"p": (0.7, "figure", "")}, service="U", quality="final", seed=4)
    >>> changes(a, b, {"p": "Pell"})
    ['“by” instead of “in”', 'without “room”', 'Pell at 70 % instead of 90 %', 'final instead of draft']
    """
    out = [
        *_words(old.phrases, new.phrases),
        *_held(old.held, new.held, names),
        *([_references(old.references, new.references)] if set(old.references) != set(new.references) else []),
        *_by_whom(old, new),
    ]
    return out or (["another seed"] if old.seed != new.seed and new.seed is not None else [])


def _words(old: Mapping[str, str], new: Mapping[str, str]) -> list[str]:
    out = []
    for key in dict.fromkeys((*old, *new)):
        if key.partition(":")[0] in ("hold", "technical", "styled", "layout", "count", "light"):
            continue  # said by the threads' weights and the seed
        was, now = old.get(key, ""), new.get(key, "")
        if was != now:
            out += _said(was, now)
    return out


def _said(was: str, now: str) -> list[str]:
    pieces = word_difference(was, now)
    kept = sum(len(p.words.split()) for p in pieces if p.kind == "same")
    if kept < 0.4 * max(len(was.split()), len(now.split())):
        return [f"“{_short(now)}” instead of “{_short(was)}”" if was and now else _added(was, now)]
    out, i = [], 0
    while i < len(pieces):
        p = pieces[i]
        following = pieces[i + 1] if i + 1 < len(pieces) else None
        if p.kind == "gone" and following is not None and following.kind == "new":
            out.append(f"“{_short(following.words)}” instead of “{_short(p.words)}”")
            i += 1
        elif p.kind != "same" and any(c.isalnum() for c in p.words):
            out.append(_added(p.words, "") if p.kind == "gone" else _added("", p.words))
        i += 1
    return out


def _added(was: str, now: str) -> str:
    return f"with “{_short(now)}”" if now else f"without “{_short(was)}”"


def _short(words: str) -> str:
    own = words.strip(" ,.;:").split()
    if len(own) <= MOST_WORDS:
        return " ".join(own)
    half = MOST_WORDS // 2
    return " ".join([*own[:half], "…", *own[-half:]])


def _held(
    old: Mapping[str, tuple[float, str, str]], new: Mapping[str, tuple[float, str, str]], names: Mapping[str, str]
) -> list[str]:
    out = []
    for thread in dict.fromkeys((*old, *new)):
        name, was, now = names.get(thread, "somebody"), old.get(thread), new.get(thread)
        if was is None or now is None:
            out.append(f"with {name}" if was is None else f"without {name}")
            continue
        if round(was[0], 3) != round(now[0], 3):
            out.append(f"{name} at {now[0] * 100:.0f} % instead of {was[0] * 100:.0f} %")
        if was[1] != now[1]:
            out.append(f"{name}: {now[1]} holds instead of {was[1]}")
        if was[2] != now[2]:
            out.append(f"{name} in {now[2] or 'the usual costume'}")
    return out


def _references(old: Sequence[str], new: Sequence[str]) -> str:
    added, gone = len(set(new) - set(old)), len(set(old) - set(new))
    if added and gone:
        return "other references"
    return f"{added} more references" if added > 1 else "one more reference" if added else "fewer references"


def _by_whom(old: Origin, new: Origin) -> list[str]:
    out = []
    if old.service != new.service:
        out.append(f"by {new.service}" if new.service else "by hand")
    elif old.model != new.model:
        out.append(f"by the model {new.model}")
    if old.quality != new.quality and new.quality and old.quality:
        out.append(f"{new.quality} instead of {old.quality}")
    return out
