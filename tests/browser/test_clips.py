"""A clip from a file to a trimmed take: dropped, read along, cut where it slips, its last frame out for the next shot."""

import pytest
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from juxtaform.studio import takes
from tests.browser.test_accessible import faults
from tests.conftest import Staged, rows
from tests.constructed_clips import film, frames


@pytest.fixture(scope="module")
def staged(ws):
    return Staged(ws)


def test_a_clip_goes_from_file_to_trimmed_take(page, ws, staged, tmp_path):
    pixels, box = frames(48, "grey")
    film(pixels, tmp_path / "walk.mp4")
    page.open(f"/p/{staged.project}/takes")
    page.one("[data-stage]")
    page.one("[data-choose=takes]").send_keys(str(tmp_path / "walk.mp4"))
    page.click("Take 1 picture")
    page.until(lambda: len(rows(ws, staged.project, "take")) == 5, "the clip is a take")
    clip = next(t for t in rows(ws, staged.project, "take") if t["name"] == "walk.mp4")
    takes.mark(ws, staged.project, clip["id"], staged.ada, box)
    page.keys(Keys.ESCAPE)
    page.until(lambda: not page.all("[role=dialog]"), "closed")
    page.keys(Keys.ESCAPE)
    page.until(lambda: page.all("[data-take='2']"), "both takes")
    page.one("[data-take='2'] button").click()
    page.keys(" ")
    page.one("[data-clip]")
    page.see("The colours fade from")
    page.until(lambda: float(page.one("[role=slider]").get_attribute("aria-valuenow")) > 0.5, "it plays")
    asked = "return performance.getEntriesByType('resource').filter(r => r.name.includes('/frame?')).length"
    assert page.driver.execute_script(asked) <= 1, "a film that plays asks for no single frames"
    assert faults(page) == []
    page.one("[data-clip-proposed]").click()
    page.see("Show all of it")
    trim = next(t for t in rows(ws, staged.project, "take") if t["id"] == clip["id"])["trim"]
    assert trim[0] == 0
    assert 1.5 < trim[1] < 3.2
    page.keys(Keys.HOME, Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
    page.see("0.17 of 4.0 s")
    page.keys("i")
    page.until(lambda: 0.1 < (rows_trim(ws, staged, clip)[0]) < 0.2, "it begins later")
    Select(page.one("[data-frame-out]")).select_by_visible_text("the last frame, for the next shot")
    page.see("The frame is a take of shot 2.")
    last = next(t for t in rows(ws, staged.project, "take") if t["name"].startswith("walk.mp4, at"))
    assert last["shot_id"] == staged.shots[1]
    assert page.trouble() == []


def rows_trim(ws, staged, clip):
    return next(t for t in rows(ws, staged.project, "take") if t["id"] == clip["id"])["trim"]
