"""The dummy on screen: pages turned by keys, words moved by hand and by arrows, the book's size, notes that lead to their page, and the files made."""

import urllib.request

import pytest
from selenium.webdriver.common.keys import Keys

from juxtaform.studio import plan
from tests.browser.test_accessible import faults
from tests.browser.test_run_through import Timed
from tests.conftest import rows


@pytest.fixture(scope="module")
def timed(ws):
    made = Timed(ws)
    for shot in made.shots:
        plan.edit_shot(ws, made.project, shot, {"spoken": "The tide woke, and stretched.", "bleed": True}, None)
    plan.edit_shot(ws, made.project, made.shots[1], {"page_form": "spread"}, None)
    return made


def placed(ws, timed):
    return {x["id"]: x["words_at"] for x in rows(ws, timed.project, "shot")}[timed.shots[0]]


def test_words_are_moved_and_the_book_is_made(page, ws, timed, address):
    page.open(f"/p/{timed.project}/dummy")
    page.see("Page 3")
    page.see("dpi at its size")
    assert faults(page) == []
    words = page.one(f"[data-words='{timed.shots[0]}']")
    box = words.rect
    page.drag(box["x"] + 20, box["y"] + 8, box["x"] + 60, box["y"] + 48)
    page.until(lambda: placed(ws, timed), "the words were put somewhere")
    x, y = placed(ws, timed)[:2]
    page.one(f"[data-words='{timed.shots[0]}']").send_keys(Keys.ARROW_RIGHT)
    page.until(lambda: placed(ws, timed)[0] > x, "a millimetre to the right")
    assert placed(ws, timed)[1] == pytest.approx(y, abs=0.001)
    page.click("Place them by themselves")
    page.until(lambda: placed(ws, timed) is None, "by themselves again")
    page.driver.execute_script("document.activeElement.blur()")
    page.keys(Keys.ARROW_RIGHT)
    page.see("Pages 4 and 5")
    page.write_over(page.one("[data-making] input[aria-label='Width, mm']"), "210", Keys.TAB)
    page.see("210 ×")
    assert rows(ws, timed.project, "project")[0]["book"]["trim_w"] == 210
    page.one("[data-note]").find_element("css selector", "button").click()
    page.see("Page 3")
    assert page.trouble() == []


def test_from_plan_to_book_animatic_and_e_book(page, ws, timed):
    page.open(f"/p/{timed.project}/delivery")
    for kind in ("book", "dummy", "epub", "animatic"):
        page.one(f"[data-kind={kind}] .btn").click()
    for kind, begins in (("book", b"%PDF-"), ("dummy", b"%PDF-"), ("epub", b"PK"), ("animatic", b"\0\0\0")):
        page.until(lambda k=kind: page.all(f"[data-file={k}][data-state=done]"), f"{kind} made")
        link = page.one(f"[data-file={kind}] a").get_attribute("href")
        assert urllib.request.urlopen(link).read(len(begins)) == begins
    assert page.trouble() == []
