"""Draw docs/rooms.svg: the rooms of the package, and which knows which, read from their imports."""

from __future__ import annotations

import ast
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).parents[1]
PACKAGE = ROOT / "juxtaform"
TARGET = ROOT / "docs" / "rooms.svg"
LEVELS = (
    ("cli, server, reach", "mariadb, keeper"),
    ("web", "demo", "understudy", "client"),
    ("studio",),
    ("formats", "records", "services"),
    ("media",),
    ("core/takes", "core/edits", "core/clips", "core/review", "core/sound"),
    ("core/check",),
    ("core/figure", "core/style", "core/technical", "core/place", "core/brief", "core/run", "core/book"),
    ("core/findings", "core/plan"),
    ("core/picture", "core/taste"),
    ("core/colour", "core/text", "core/tolerances"),
)
"""From the door inwards: a room knows those below it."""
WIDTH, HEIGHT, BOX, TALL, EDGE = 880, 66, 138, 34, 40


def room_of(module: str) -> str | None:
    """The room of a module of ours, named from the package on; None for those that every room may use."""
    parts = module.split(".")[1:]
    if not parts or parts[0] in ("limits", "private", "network"):
        return None
    if parts[0] in ("cli", "server", "reach", "listening", "at_hand", "far_worker", "project_commands"):
        return "cli, server, reach"
    if parts[0] in ("mariadb", "keeper"):
        return "mariadb, keeper"
    return f"core/{parts[1]}" if parts[0] == "core" and len(parts) > 1 else parts[0]


def knows() -> Counter[tuple[str, str]]:
    """How many imports lead from each room to each other one."""
    found: Counter[tuple[str, str]] = Counter()
    for path in PACKAGE.rglob("*.py"):
        own = room_of(".".join(path.relative_to(ROOT).with_suffix("").parts))
        for node in ast.walk(ast.parse(path.read_text())):
            named = node.module if isinstance(node, ast.ImportFrom) else None
            if own is None or not named or not named.startswith("juxtaform"):
                continue
            for other in {room_of(f"{named}.{a.name}") for a in node.names}:
                if other is not None and other != own and other != "core":
                    found[own, other] += 1
    return found


def drawn() -> str:
    """The picture as SVG."""
    places = {
        room: (WIDTH * (i + 1) / (len(level) + 1), 30 + HEIGHT * row)
        for row, level in enumerate(LEVELS)
        for i, room in enumerate(level)
    }
    edges = knows()
    strange = {room for pair in edges for room in pair} - set(places)
    if strange:
        raise SystemExit(
            f"Rooms that have no place in the picture: {', '.join(sorted(strange))}. Put them into LEVELS."
        )
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {HEIGHT * len(LEVELS) + 10}" font-family="sans-serif">',
        '<rect width="100%" height="100%" fill="#fcfcfc"/>',
    ]
    for (a, b), count in sorted(edges.items()):
        (x0, y0), (x1, y1) = places[a], places[b]
        start, end = y0 + TALL / 2, y1 - TALL / 2
        if y1 <= y0:
            start, end = y0, y1
        wide = min(6.0, 0.6 + count / 8)
        out.append(
            f'<path d="M{x0:.0f} {start:.0f}C{x0:.0f} {start + EDGE:.0f} {x1:.0f} {end - EDGE:.0f} {x1:.0f} {end:.0f}" fill="none" '
            f'stroke="#1e6b98" stroke-opacity="0.35" stroke-width="{wide:.1f}"><title>{a} knows {b}: {count}</title></path>'
        )
    for room, (x, y) in places.items():
        fill = "#e3f0f7" if room.startswith("core/") else "#ffffff"
        out.append(
            f'<rect x="{x - BOX / 2:.0f}" y="{y - TALL / 2:.0f}" width="{BOX}" height="{TALL}" rx="4" fill="{fill}" stroke="#28282b"/>'
            f'<text x="{x:.0f}" y="{y + 5:.0f}" text-anchor="middle" font-size="14" fill="#28282b">{room}</text>'
        )
    return "\n".join([*out, "</svg>", ""])


if __name__ == "__main__":
    TARGET.write_text(drawn())
