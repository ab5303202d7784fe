"""What slips in a clip, in words."""

from __future__ import annotations

from juxtaform.core.clips.reading import Kind
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name

_ALL = {"pale": "the colours fade", "loud": "the colours become stronger", "hand": "the style is another one"}


def slips(name: str, kind: Kind, was: str, now: str, at_s: float) -> str:
    """What slips with a figure (or the style), and from when on; `was` and `now` are a part's colours (sRGB codes), empty where none is known.

    >>> slips("Pell", "colour", "#dba326", "#2f7d4f", 1.25)
    "Pell's amber turns green from 1.2 s on"
    """
    since = f"from {at_s:.1f} s on"
    if kind == "person":
        return f"this is not {name} any more {since}"
    if kind == "colours":
        return f"several of {name}'s colours are others {since}"
    if kind == "colour" and was and now:
        old, new = (colour_name(linear_from_hex(c)) for c in (was, now))
        return f"{name}'s {old} {f'turns {new}' if old != new else 'is another one'} {since}"
    return f"{_ALL.get(kind, f'{name} slips')} {since}"
