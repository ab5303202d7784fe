"""Word lists, as the data files beside the code tell them: each with what it is for and where its words come from."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

_HEAD = re.compile(r"^\[([a-z][a-z0-9 -]*)\]$")


@dataclass(frozen=True)
class WordLists:
    """The lists of one file. A list holds words, or groups of words: lines that begin with the group's name and a colon."""

    groups: Mapping[str, Mapping[str, tuple[str, ...]]]

    def words(self, name: str) -> frozenset[str]:
        """All words of a list. Raises KeyError for a name that the file has not."""
        return frozenset(w for words in self.groups[name].values() for w in words)

    def by_group(self, name: str) -> dict[str, tuple[str, ...]]:
        """The words of each group of a list, in order."""
        return dict(self.groups[name])

    def group_of(self, name: str) -> dict[str, str]:
        """For each word of a list its group."""
        return {w: group for group, words in self.groups[name].items() for w in words}


def parsed_lists(text: str) -> WordLists:
    """Word lists from a file's text: `[name]` begins a list, `#` a comment, `group: words` a group, any other line goes on.

    Raises ValueError where words stand before the first name, or a name stands twice.

    >>> lists = parsed_lists("# Whom we mean.\\n[kin]\\nmother: mum mama\\nfather: dad\\n papa\\n[far]\\nfar distant")
    >>> sorted(lists.words("far")), lists.group_of("kin")["papa"], lists.by_group("kin")["mother"]
    (['distant', 'far'], 'father', ('mum', 'mama'))
    """
    groups: dict[str, dict[str, list[str]]] = {}
    held: dict[str, list[str]] | None = None
    group = ""
    for line in text.splitlines():
        line = line.partition("#")[0].strip()
        if not line:
            continue
        if head := _HEAD.match(line):
            if head.group(1) in groups:
                raise ValueError(f"The list {head.group(1)} stands twice.")
            held, group = groups.setdefault(head.group(1), {}), ""
            continue
        if held is None:
            raise ValueError(f"“{line}” stands before the first list.")
        name, colon, words = line.partition(": ")
        if colon or line.endswith(":"):
            group, line = name.rstrip(":"), words
        held.setdefault(group, []).extend(line.split())
    return WordLists({n: {g: tuple(words) for g, words in gs.items()} for n, gs in groups.items()})


@lru_cache(maxsize=16)
def word_lists(package: str, file: str = "lists.txt") -> WordLists:
    """The word lists in a package's `data` folder."""
    return parsed_lists(files(package).joinpath(f"data/{file}").read_text("utf-8"))
