"""A setting without references in a project: known by its own pictures, and what stands in one of them alone is found."""

import cv2

from juxtaform.studio import checking, continuity, plan, takes, threads
from juxtaform.studio.findings import Findings
from tests.conftest import png, rows
from tests.constructed import ground_picture


def test_what_stands_in_one_picture_alone_is_found_and_a_stet_holds(ws, project, checker):
    plan.add_scene(ws, project, "The cave")
    cave = threads.make(ws, project, "setting", "Cave").rows["thread"][0]["id"]
    for _ in range(4):
        plan.insert_shot(ws, project, rows(ws, project, "shot")[0]["id"])
    shots = [x["id"] for x in rows(ws, project, "shot")]
    threads.assign(ws, project, cave, shots, on=True)
    page = ground_picture(3, "paper")
    for i, shot in enumerate(shots):
        # The same ground, a little nearer each time: no two pictures are one file.
        part = page[4 * i : 600 - 4 * i, 6 * i : 900 - 6 * i].copy()
        if i == 2:
            cv2.ellipse(part, (620, 310), (150, 140), 0, 0, 360, (220, 90, 60), -1)
        sha = takes.take_in(ws, f"{i}.png", png(part)).sha
        takes.accept(ws, project, [(f"{i}.png", sha, shot)])
    checker.start(project)
    checker.wait(project, 300)
    told = [f for f in Findings(ws).of(project, "check") if f.thread == cave]
    assert [(f.shot, f.title) for f in told] == [(shots[2], "Something of “Cave” is not as in its other pictures")]
    cells = continuity.lineup(ws, project, cave).cells
    assert [c.verdict for c in cells] == ["holds", "holds", "drifts", "holds", "holds"]
    Findings(ws).stet(project, told[0].key, "the story wants it")
    checker.start(project)
    checker.wait(project, 300)
    assert [f.key for f in checking.outcome(ws, project).findings if f.thread == cave] == [told[0].key]
