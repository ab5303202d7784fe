"""The words of one verb: `had never been seen`, `did he not go`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.text.english.tagging import Token


@dataclass(frozen=True, slots=True)
class VerbGroup:
    """The words of a verb, the place behind them, whether they deny it, and where pronouns stand among them that are asked about: `did he go`."""

    words: list[Token]
    end: int
    denied: bool
    asked: list[int]


def verb_group(t: Sequence[Token], i: int) -> VerbGroup:
    """The verb that begins at a word; without words where none does.

    >>> from juxtaform.core.text.english.tagging import tagged
    >>> group = verb_group(tagged("She had never been seen there."), 1)
    >>> [w.text for w in group.words], group.end, group.denied
    (['had', 'been', 'seen'], 5, True)
    """
    j = i
    group: list[Token] = []
    asked: list[int] = []
    denied = False
    while j < len(t):
        tag = t[j].tag
        if (
            tag in "HBOM"
            or (tag == "o" and (not group or group[-1].tag in "HB" or group[-1].low == "ought"))
            or tag == "n"
        ):
            denied = denied or tag == "n"
            if tag != "n":
                group.append(t[j])
        elif (
            tag == "R"
            and group
            and j + 1 < len(t)
            and (t[j + 1].tag in "VDEGBHn" or (t[j + 1].tag == "R" and j + 2 < len(t) and t[j + 2].tag in "VDEG"))
            and group[-1].tag in "HBOMo"
            and not (group[-1].tag in "BO" and t[j + 1].tag == "D")
        ):
            denied = denied or t[j].low == "never"
        elif (
            tag == "U"
            and group
            and len(group) == 1
            and group[0].tag in "OMB"
            and j + 1 < len(t)
            and t[j + 1].tag in "VGE"
            and t[j].low in ("he", "she", "it", "they", "i", "we", "you")
        ):
            asked.append(j)
        elif tag in "VDEG" and (not group or group[-1].tag in "HBOMo"):
            group.append(t[j])
            j += 1
            break
        else:
            break
        j += 1
    return VerbGroup(group, j, denied, asked)
