"""The run-through: a scene is trimmed to twenty seconds while it plays, by keys, by the mouse and by a number; nothing stops, and it is all undone."""

import numpy as np
import pytest
from selenium.webdriver.common.keys import Keys

from juxtaform.demo.by_hand import film
from juxtaform.studio import plan, projects, takes
from tests.browser.test_accessible import faults
from tests.conftest import png, rows
from tests.constructed import scene

COUNT = 4


class Timed:
    """A scene of four shots of seven seconds, three of them with pictures."""

    def __init__(self, ws):
        self.ws, self.project = ws, projects.make(ws, "In time")
        plan.add_scene(ws, self.project, "The quay")
        for _ in range(COUNT - 1):
            plan.insert_shot(ws, self.project, rows(ws, self.project, "shot")[0]["id"])
        self.shots = [x["id"] for x in sorted(rows(ws, self.project, "shot"), key=lambda x: x["position"])]
        rng = np.random.default_rng(5)
        for i, shot in enumerate(self.shots):
            plan.edit_shot(ws, self.project, shot, {"length_s": 7.0, "move": "push in" if i == 1 else "static"}, None)
            if i < COUNT - 1:
                sha = takes.take_in(ws, f"p{i}.png", png(scene([], rng, ground=i)[0])).sha
                takes.accept(ws, self.project, [(f"p{i}.png", sha, shot)])

    def lengths(self):
        by = {x["id"]: x["length_s"] for x in rows(self.ws, self.project, "shot")}
        return [by[i] for i in self.shots]


@pytest.fixture(scope="module")
def timed(ws):
    return Timed(ws)


def seconds(page):
    minutes, rest = page.one("[data-time]").text.split(":")
    return 60 * int(minutes) + float(rest)


def test_a_scene_is_trimmed_to_twenty_seconds_while_it_plays(page, ws, timed):
    page.open(f"/p/{timed.project}/run")
    page.see(f"{7 * COUNT:.1f} s")
    assert faults(page) == []
    page.keys(" ")
    page.until(lambda: seconds(page) > 0.5, "it plays")
    page.keys("{", "{")  # a second each
    page.see(f"{7 * COUNT - 2:.1f} s")
    row = page.one(f"[data-row='{timed.shots[1]}'] [data-foot]")
    box = row.rect
    page.drag(box["x"] + 40, box["y"] + 3, box["x"] + 40, box["y"] - 17)  # ten px a second
    page.until(lambda: timed.lengths()[1] == pytest.approx(5.0, abs=0.3), "the second is shorter")
    before = seconds(page)
    page.until(lambda: seconds(page) > before + 0.5, "it plays on")
    field = page.one("[data-fit]")
    field.send_keys("20", Keys.ENTER)
    page.see("20.0 s")
    page.until(lambda: sum(timed.lengths()) == pytest.approx(20.0, abs=0.01), "twenty seconds are kept")
    before = seconds(page)
    page.until(lambda: seconds(page) > before + 0.5, "and on")
    assert "late" in page.one("[data-told]").text
    assert timed.lengths()[0] < timed.lengths()[2]
    page.keys("k")
    while timed.lengths() != [7.0] * COUNT:  # two steps or three: trims shortly after each other are one
        before = timed.lengths()
        page.chord(Keys.CONTROL, "z")
        page.until(lambda b=before: timed.lengths() != b, "a step back")
    assert page.trouble() == []


def test_the_cut_is_rolled_the_scene_loops_and_the_colour_script_leads(page, ws, timed):
    page.open(f"/p/{timed.project}/run")
    page.one("[data-row]")
    page.keys("t", "}")
    page.until(lambda: timed.lengths()[:2] == [8.0, 6.0], "the next shot gave a second")
    page.keys("d")
    page.until(lambda: rows(ws, timed.project, "shot")[0]["join"] == "dissolve", "it comes by a dissolve")
    page.keys(Keys.END)
    page.keys("o", " ")
    page.until(lambda: 0.2 < seconds(page) < 5, "round again")
    page.keys("k")
    script = page.one("[data-colour-script] [role=slider]")
    script.click()
    page.until(lambda: seconds(page) == pytest.approx(8.0, abs=15), "moved")
    page.keys(Keys.HOME, ".")
    assert page.one("[data-time]").text == "0:00.0"
    page.keys(".", ".")
    page.until(lambda: page.one("[data-time]").text == "0:00.1", "three frames")
    page.open(f"/p/{timed.project}/run")
    page.one("[data-row]")
    page.keys("L")
    page.one("[role=dialog], [data-board], canvas")
    assert page.trouble() == []


def test_a_project_without_shots_says_where_to_begin(page, ws, project):
    page.open(f"/p/{project}/run")
    page.see("Nothing to play yet")


LIGHT = """
const c = document.querySelector('[data-stage] canvas');
return c.getContext('2d').getImageData(c.width / 2, c.height / 2, 1, 1).data[0];
"""


def test_a_clip_runs_with_its_shot_and_stands_where_the_line_stands(page, ws, tmp_path):
    project = projects.make(ws, "Filmed")
    plan.add_scene(ws, project, "The quay")
    shot = rows(ws, project, "shot")[0]["id"]
    plan.edit_shot(ws, project, shot, {"length_s": 2.0}, None)
    shades = [np.full((96, 144, 3), 20 + 8 * i, np.uint8) for i in range(24)]
    sha = takes.take_in(ws, "light.mp4", film(shades, tmp_path / "light.mp4", rate=24)).sha
    takes.accept(ws, project, [("light.mp4", sha, shot)])
    page.open(f"/p/{project}/run")
    page.one("[data-stage] canvas")

    def light():
        return page.driver.execute_script(LIGHT)

    page.until(lambda: abs(light() - 20) < 14, "the first frame")
    page.keys(*["."] * 12)
    page.until(lambda: abs(light() - (20 + 8 * 12)) < 14, "half a second on")
    page.keys(" ")
    page.until(lambda: light() > 180, "it runs to its end, and its last frame stays")
    assert page.trouble() == []
