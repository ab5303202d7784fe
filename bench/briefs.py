"""Briefs: preflight on hand-made truth, and the time to compose and judge them against reading their rows."""

from __future__ import annotations

import time
from collections.abc import Sequence

import numpy as np

from bench.speed import planned_project, workspace
from juxtaform.core.picture.likeness import SIZE, most_alike
from juxtaform.studio import briefs, plan, projects, takes, threads
from juxtaform.studio.desk import Desk
from tests.briefs.tables import TABLES
from tests.briefs.world import Row, judged
from tests.conftest import flat

WORDINGS = (
    "a girl of nine: copper hair in a short bob, mustard coat, green boots, a tin whistle on a cord",
    "a woman of seventy: a white plait, a plum shawl, round spectacles",
    "a brass crab the size of a teapot with one blue eye",
)


def preflight_on_hand_made_truth() -> None:
    """Precision and recall of each rule, and over all."""
    for table in TABLES:
        clean = sum(1 for row in table.rows if not row.expected)
        print(f"{table.title}: {len(table.rows)} briefs, {clean} of them clean")
        _told(table.rows)


def _told(table: tuple[Row, ...]) -> None:
    rates = judged(table)
    for kind, (right, wrong, missed) in rates.items():
        words = kind.replace("_", " ")
        print(f"  {words}: precision {_share(right, wrong)}, recall {_share(right, missed)} ({right} found)")
    right, wrong, missed = (sum(r[i] for r in rates.values()) for i in range(3))
    print(f"  over all: precision {_share(right, wrong)} (wanted: 0.95), recall {_share(right, missed)} (wanted: 0.92)")


def _share(right: int, other: int) -> str:
    return f"{right / (right + other):.2f}" if right + other else "–"


def a_thousand_briefs_against_reading_their_rows() -> None:
    with workspace() as ws:
        project, shots = planned_project(ws, 1000)
        for kind, name in (
            ("character", "Pell"),
            ("character", "Oda"),
            ("character", "Sprocket"),
            ("setting", "Harbour"),
            ("setting", "Cave"),
            ("style", "Paper"),
            ("prop", "Key"),
        ):
            threads.make(ws, project, kind, name)
        made = {t["name"]: t["id"] for t in projects.snapshot(ws, project).rows["thread"]}
        for i, (name, wording) in enumerate(zip(("Pell", "Oda", "Sprocket"), WORDINGS, strict=True)):
            threads.edit(ws, project, made[name], {"wording": f"{name}, {wording}."}, None)
            sha = str(takes.take_in(ws, f"{i}.png", flat((40 * i, 10, 10))).sha)
            threads.add_references(ws, project, made[name], [(sha, "front")], "")
        threads.edit(ws, project, made["Paper"], {"vocabulary": ["cut-paper", "flat"], "donts": ["lettering"]}, None)
        for k, name in enumerate(made):
            threads.assign(
                ws,
                project,
                made[name],
                [s for i, s in enumerate(shots) if name == "Paper" or (i // (k + 2)) % 2],
                on=True,
            )
        _written(ws, project, shots)
        reading, composing = [], []
        for _ in range(5):
            with ws.database.session() as s:
                begun = time.perf_counter()
                desk = Desk.read(s, project)
                read = time.perf_counter()
                count = sum(1 for _ in briefs.all_briefs(desk))
                composing.append(time.perf_counter() - read)
                reading.append(read - begun)
        assert count == 1000
        print(
            f"composing and preflighting 1,000 briefs: {min(composing) / min(reading):.2f} x reading their rows (wanted: 3 at most); {1000 * min(composing):.0f} ms"
        )


def _written(ws, project: str, shots: Sequence[str]) -> None:  # type: ignore[no-untyped-def]
    words = (
        "{} waits on the bottom step, where the water ought to be, and looks at the boats.",
        "{} and Oda at the foot of the stairs; gulls above them in the late light.",
        "A hand on the iron key, {} behind it in the dark of the cave.",
    )
    with ws.writing(project, "wrote") as w:
        for i, shot in enumerate(plan.in_order(w.session, project)):
            shot.shows = words[i % 3].format(("Pell", "Oda", "Sprocket")[i % 3]) + f" Number {i}."


def likeness_against_a_matrix_product() -> None:
    """Searching 10,000 likeness vectors against a plain product of a matrix of that size with a vector."""
    rng = np.random.default_rng(1)
    vectors = rng.normal(size=(10_000, SIZE)).astype(np.float32)
    query = vectors[17]
    plain = min(_timed(lambda: vectors @ query) for _ in range(50))
    search = min(_timed(lambda: most_alike(vectors, query, 200)) for _ in range(50))
    print(
        f"likeness search over 10,000 pictures: {search / plain:.2f} x a plain matrix product (wanted: under 5); {1e6 * search:.0f} µs"
    )


def _timed(act) -> float:  # type: ignore[no-untyped-def]
    begun = time.perf_counter()
    act()
    return time.perf_counter() - begun
