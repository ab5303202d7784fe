"""A project with forty findings of five kinds, for reviews: which shot shows what is known."""

from __future__ import annotations

import numpy as np

from juxtaform.demo.paper import bordered
from juxtaform.studio import plan, projects, takes, threads
from juxtaform.studio.workspace import Workspace
from tests.conftest import plan_from, png, rows

SHOTS = 32
NAMED, OTHER_FORM, BORDERED, JOLTED = range(12), range(12, 22), range(10), range(22, 30)
"""Shots whose words name somebody who is not there; whose pictures are square; are framed; and come after a shot of quite another length."""
COUNT = len(NAMED) + len(OTHER_FORM) + len(BORDERED) + len(JOLTED)


def picture(seed: int, square: bool = False) -> np.ndarray:
    """Some plain rectangles, others for every number."""
    rng = np.random.default_rng(500 + seed)
    wide = 200 if square else 300
    pixels = np.full((200, wide, 3), rng.integers(40, 220, 3), np.uint8)
    for _ in range(7):
        x, y = int(rng.integers(wide - 40)), int(rng.integers(160))
        pixels[y : y + int(rng.integers(20, 120)), x : x + int(rng.integers(20, 140))] = rng.integers(0, 255, 3)
    return pixels


def forty(ws: Workspace, title: str = "Forty") -> tuple[str, list[str]]:
    """The project and its shots in order; nothing is checked yet."""
    project = projects.make(ws, title)
    projects.edit(ws, project, {"aspect": "3:2"}, None)
    threads.make(ws, project, "character", "Ada")
    plan_from(ws, project, "# One\nNobody came.")
    [first] = rows(ws, project, "shot")
    last = first["id"]
    for _ in range(SHOTS - 1):
        last = plan.insert_shot(ws, project, last).rows["shot"][0]["id"]
    shots = [s["id"] for s in rows(ws, project, "shot")]
    # No length is five times as long as its neighbour's but those that are meant to be.
    for i, shot in enumerate(shots):
        values = {"shows": f"Ada waits, {i + 1}." if i in NAMED else f"An empty room, {i + 1}.", "length_s": 4.0}
        if i + 1 in JOLTED or i in JOLTED:
            values["length_s"] = 1.5 if (i - JOLTED.start) % 2 else 9.0
        plan.edit_shot(ws, project, shot, values, None)
    files = []
    for i, shot in enumerate(shots):
        pixels = picture(i, i in OTHER_FORM)
        seen = bordered(pixels, 0.06, "#f3efe6") if i in BORDERED else pixels
        name = f"{i + 1}.png"
        files.append((name, str(takes.take_in(ws, name, png(seen)).sha), shot))
    takes.accept(ws, project, files)
    return project, shots
