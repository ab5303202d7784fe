"""The light table: opened by one key from every view, wiped, blinked, pegged on a head, and the loupe read."""

import cv2
import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.test_accessible import VIEWS, faults
from tests.conftest import Staged, measured_takes, png, rows


@pytest.fixture(scope="module")
def staged(ws, checker):
    made = Staged(ws)
    takes_by_shot = {t["shot_id"]: t["id"] for t in rows(ws, made.project, "take")}
    measured_takes(ws, checker, made.project, [takes_by_shot[s] for s in made.shots[:2]])
    return made


def test_the_table_opens_by_one_key_from_every_view(page, staged):
    for view, what in VIEWS.items():
        page.open(f"/p/{staged.project}/{view}")
        page.one(what)
        page.driver.execute_script("document.activeElement.blur()")
        page.keys("L" if view == "run" else "l")  # where time is played, l plays it
        page.one("[data-light-table] [data-board]")
        page.keys(Keys.ESCAPE)
        page.until(lambda: not page.all("[data-light-table]"), f"closed over {view}")
    assert page.trouble() == []


def test_two_pictures_are_wiped_blinked_pegged_and_read(page, staged):
    page.open(f"/p/{staged.project}/sheet")
    page.one("[data-shot]")
    page.keys("j", "l")
    page.see("Shot 1 and shot 2")
    board = page.one("[data-board]")
    ActionChains(page.driver).move_to_element(board).perform()
    page.one("[data-apart]")
    page.see("light out")
    assert faults(page) == []

    def drawn():
        return page.driver.execute_script("return document.querySelector('[data-board]').toDataURL()")

    seen = {}
    for key, way in zip("12345", ("beside", "wipe", "blink", "onion", "difference"), strict=True):
        page.keys(key)
        page.one(f"[data-way={way}][aria-checked=true]")
        page.until(lambda: drawn() not in seen.values(), f"it looks another way: {way}")
        seen[way] = drawn()
    page.keys("4", "p", "p")
    page.until(lambda: "head" in page.one("[data-pegged]").get_attribute("value"), "pegged on a head")
    page.until(lambda: drawn() != seen["onion"], "laid anew")
    page.keys("a")
    page.until(
        lambda: page.one("[data-light-table]").text.count("on top") or len(page.all("[data-reading]")) == 3,
        "a third picture",
    )
    page.keys(Keys.DELETE)
    page.until(lambda: len(page.all("[data-reading]")) == 2, "two again")
    before = page.one("[data-loupe]").text
    for _ in range(30):
        page.chord(Keys.SHIFT, Keys.ARROW_UP)
        if page.one("[data-loupe]").text != before:
            break
    page.until(lambda: page.one("[data-loupe]").text != before, "the loupe moved")
    page.keys("]")
    page.until(lambda: "Shot 1 and shot 3" in page.one("[data-light-table]").text, "another picture")
    page.keys("l")
    page.until(lambda: not page.all("[data-light-table]"), "closed")
    assert page.trouble() == []


def test_one_area_is_changed_and_proved(page, ws, staged, tmp_path):
    take = next(t for t in rows(ws, staged.project, "take") if t["shot_id"] == staged.shots[0])
    pixels = ws.store.pixels(take["picture_sha"]).copy()
    h, w = pixels.shape[:2]
    pixels[int(0.35 * h) : int(0.5 * h), int(0.4 * w) : int(0.55 * w)] = (200, 40, 40)
    cv2.circle(pixels, (int(0.9 * w), int(0.15 * h)), 24, (30, 220, 60), -1)
    (tmp_path / "retouched.png").write_bytes(png(pixels))
    page.open(f"/p/{staged.project}/sheet")
    page.one("[data-shot]")
    page.keys("l")
    page.one("[data-board]")
    page.keys("x", "e")
    page.see("Change one area of shot 1")
    page.see("There is no service to ask yet")
    stage = page.one("[data-area-drawing]").rect
    x, y = stage["x"] + stage["width"] / 2, stage["y"] + stage["height"] / 2
    page.button("box").click()
    page.drag(x - 150, y - 150, x + 120, y + 60)
    assert faults(page) == []
    page.one("[data-choose=retouched]").send_keys(str(tmp_path / "retouched.png"))
    page.see("One place outside the area changed")
    page.one("[data-proof-map]")
    assert faults(page) == []
    page.one("[data-take-only]").click()
    page.see("The area alone was taken")
    page.see("Nothing outside the area changed.")
    page.keys(Keys.ESCAPE)
    page.until(lambda: not page.all("[data-light-table]"), "closed")
    edits = [t for t in rows(ws, staged.project, "take") if t["made_from"].get("edit")]
    assert [(t["parent_id"], t["made_from"]["edit"]["only"]) for t in edits] == [
        (take["id"], False),
        (take["id"], True),
    ]
    only = ws.store.pixels(edits[1]["picture_sha"])
    assert (only[:, int(0.8 * w) :] == ws.store.pixels(take["picture_sha"])[:, int(0.8 * w) :]).all()
    assert page.trouble() == []
