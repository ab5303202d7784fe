"""The journey in the browser with a stranger's pictures: from a text and a folder to findings that hold."""

from __future__ import annotations

import contextlib
import time

from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

TEXT = "\n".join(f"# Scene {i + 1}\nAda met Bo, part {i + 1} of the long day." for i in range(8))


def make_thread(page, kind, name, files):
    page.click("+ New thread" if page.all("aside [data-thread]") else "Make the first thread")
    page.one(f"input[name=kind][value={kind}]").click()
    page.one("input[name=thread-name]").send_keys(name)
    page.click("Make it")
    page.one(f"[data-thread='{name}']").click()
    page.one("[data-choose=references]").send_keys("\n".join(str(f) for f in files))
    page.until(lambda: len(page.all("[data-reference]")) == len(files), f"references of {name}")


def column(page, name):
    header = page.at(f"//button[contains(@title, '{name}: open its model sheet')]")
    return header.rect["x"] + header.rect["width"] / 2


def row_y(page, number):
    box = page.all("[data-shot]")[number - 1].rect
    return box["y"] + box["height"] / 2


def beads(page):
    script = (
        "return [...document.querySelectorAll('[data-beads]')].reduce((sum, e) => sum + Number(e.dataset.beads), 0)"
    )
    return page.driver.execute_script(script)


def mark_the_rest(page, boxes, width=900):
    """Draw the boxes of those who are not marked yet on the picture that is shown; what is proposed for them is refused before."""
    for i, box in enumerate(boxes):
        row = page.one(f"[data-who='{i + 1}']")
        if "marked" in row.text:
            continue
        while held := page.driver.find_elements(
            By.XPATH, f"//button[@data-who='{i + 1}']/..//button[@title='Not there']"
        ):
            with contextlib.suppress(StaleElementReferenceException):  # the proposals were just read again
                held[0].click()
            page.until(lambda n=i: "not there" in page.one(f"[data-who='{n + 1}']").text, "refused")
        page.keys(str(i + 1))
        stage = page.one("[data-stage] svg").rect
        f = stage["width"] / width
        page.drag(
            stage["x"] + box.x * f + 1,
            stage["y"] + box.y * f + 1,
            stage["x"] + (box.x + box.w) * f - 1,
            stage["y"] + (box.y + box.h) * f - 1,
        )
        page.until(lambda n=i: "marked" in page.one(f"[data-who='{n + 1}']").text, f"mark {i + 1}")


def confirm_boxes(page, pictures):
    """Say who stands where in pictures that came in, by key alone; returns how many keys it took."""
    page.until(lambda: page.all("[data-where-they-stand]"), "the question who stands where")
    page.until(lambda: "looked through" not in page.one("[data-where-they-stand]").text, "all looked through")
    page.until(lambda: len(page.all("[data-look]")) == pictures, "the pictures that came in")

    def waits():
        return page.one("[data-confirm-all]").is_enabled() or bool(page.all("[data-standing=doubtful]"))

    keys = 0
    while waits():
        before = page.one("[data-where-they-stand]").text
        page.keys(Keys.ENTER if page.one("[data-confirm-all]").is_enabled() else "y")
        keys += 1
        page.until(
            lambda was=before: page.one("[data-where-they-stand]").text != was or not waits(), "the key did something"
        )
    page.keys(Keys.ESCAPE)
    page.until(lambda: not page.all("[data-where-they-stand]"), "the dialog closed")
    return keys + 1


def go_to(page, kind):
    """Step through the findings until one of a kind is shown."""
    page.one("[data-finding]")
    for _ in range(6):
        if page.one("[data-finding]").get_attribute("data-finding") == kind:
            return
        page.keys("]")
        time.sleep(0.5)
    page.until(lambda: page.one("[data-finding]").get_attribute("data-finding") == kind, f"no finding {kind}")


def test_from_a_text_and_a_folder_of_pictures_to_findings_that_hold(page, stranger):
    home, boxes, good_boxes = stranger
    page.open()
    page.one("input[name=title]").send_keys("A stranger's book")
    page.click("Begin")

    page.plan_from(TEXT)
    page.see("8 shots")

    page.click("Model sheets")
    make_thread(page, "character", "Ada", [home / "ada-0.png", home / "ada-1.png"])
    make_thread(page, "character", "Bo", [home / "bo-0.png", home / "bo-1.png"])
    make_thread(page, "style", "Paper", [home / f"style-{g}.png" for g in (5, 6, 7, 8)])
    page.see("Palette of its pictures")

    page.click("Sheet")
    page.one("[data-sheet]")
    for name in ("Ada", "Bo", "Paper"):
        x = column(page, name)
        page.drag(x, row_y(page, 1), x, row_y(page, 4))
        page.see(f"assigned {name}, 4 shots")
    for name in ("Ada", "Bo", "Paper"):
        x = column(page, name)
        page.drag(x, row_y(page, 4), x, row_y(page, 4))
        page.until(lambda: page.all("[data-bead-popover]"), "the bead's popover")
        page.keys(Keys.ESCAPE)
        page.until(lambda: not page.all("[data-bead-popover]"), "the popover closed")
        page.keys(Keys.ARROW_DOWN)
        page.chord(Keys.SHIFT, Keys.END)
        page.keys(Keys.SPACE)
        page.see(f"assigned {name}, 4 shots")
        page.one("[data-sheet]").send_keys(Keys.HOME)
        page.until(lambda: page.driver.execute_script("return document.querySelector('[data-sheet]').scrollTop") < 80)

    page.one("[data-choose=folder]").send_keys(str(home / "shots"))
    page.until(
        lambda: len(page.all("[data-pictures-in] tbody tr")) == 8 and page.one("[data-accept]").is_enabled(),
        "files read",
    )
    assert {r.get_attribute("data-refused").rsplit("/", 1)[-1] for r in page.all("[data-refused]")} == {
        "notes 9.png",
        "empty 10.png",
    }
    matched = [Select(s).first_selected_option.text.split(" ·")[0] for s in page.all("[data-pictures-in] tbody select")]
    assert matched == [str(i) for i in range(1, 9)]
    page.click("Take 8 pictures")
    assert confirm_boxes(page, 8) < 12

    page.click("Takes")
    page.keys("k" * 9)
    for i in range(8):
        page.until(
            lambda n=i: (
                f"page {n + 1}.png" in page.one("aside").text
                or page.driver.find_elements(By.XPATH, f"//p[contains(., 'page {n + 1}.png')]")
            ),
            f"picture {i + 1}",
        )
        mark_the_rest(page, boxes[i])
        page.keys(".")

    page.one("[data-check=start]").click()
    page.see("3 to look at")

    page.click("Continuity")
    page.see("Scene light taken out")
    go_to(page, "figure_stranger")
    page.see("This is not Bo")
    go_to(page, "leak")
    assert page.all("figure img[alt='Anchor']")
    assert "allowed" in page.one("aside[aria-label=Evidence]").text
    go_to(page, "style_break")

    page.keys("s")
    page.one("input[name=reason]").send_keys("A dream, drawn by another hand", Keys.ENTER)
    page.see("1 stet")
    page.see("2 to look at")

    go_to(page, "leak")
    page.one("[data-choose=replace]").send_keys(str(home / "better.png"))
    page.see("Undo “replaced the picture of shot 3”")
    page.click("Takes")
    page.one("[data-take='2'] button").click()
    page.keys(Keys.SPACE)
    page.see("take 2 · picked")
    while held := page.all("button[aria-label^='Remove the mark']"):
        held[0].click()
        page.until(lambda n=len(held): len(page.all("button[aria-label^='Remove the mark']")) < n)
    mark_the_rest(page, good_boxes)
    page.one("[data-check=start]").click()
    page.until(
        lambda: "1 to look at" in page.one("header").text and "1 stet" in page.one("header").text,
        "the rest stays checked",
        120,
    )
    assert page.trouble() == []


def test_work_is_still_there_after_a_reload_and_can_be_undone(page):
    page.open()
    page.one("input[name=title]").send_keys("Undone", Keys.ENTER)
    page.plan_from("# One\nAda came.\n# Two\nBo went.")
    page.until(lambda: len(page.all("[data-shot]")) == 2)
    page.driver.refresh()
    page.until(lambda: len(page.all("[data-shot]")) == 2, "the shots after a reload")
    page.click("Sheet")
    page.one("[data-sheet]")
    page.keys("n")
    page.one("[data-sheet] textarea").send_keys("A new shot between", Keys.ENTER)
    page.see("A new shot between")
    page.keys("j", "m")
    page.until(lambda: len(page.all("[data-shot]")) == 2, "merged")
    page.chord(Keys.CONTROL, "z")
    page.until(lambda: len(page.all("[data-shot]")) == 3, "the merge undone")
    page.chord(Keys.CONTROL, Keys.SHIFT, "z")
    page.until(lambda: len(page.all("[data-shot]")) == 2, "and done again")
    assert page.trouble() == []


def test_a_second_window_sees_a_change_at_once_and_bad_input_is_told(page, address):
    from tests.browser.conftest import Page, chromium

    page.open()
    page.one("input[name=title]").send_keys("Two windows", Keys.ENTER)
    page.plan_from("# One\nAda came.")
    page.until(lambda: len(page.all("[data-shot]")) == 1)
    other = Page(chromium(), address)
    try:
        other.driver.get(page.driver.current_url.replace("/story", "/sheet"))
        other.until(lambda: len(other.all("[data-shot]")) == 1)
        page.keys("n")
        other.until(lambda: len(other.all("[data-shot]")) == 2, "the other window's new row")
    finally:
        other.driver.quit()
    page.driver.get(f"{address}/p/none/sheet")
    page.see("This project is not there any more.")


def test_a_thousand_shots_keep_few_rows_on_the_page_and_show_the_right_ones(page):
    page.open()
    page.one("input[name=title]").send_keys("Long", Keys.ENTER)
    page.plan_from("\n".join(f"# S{i}\nAda went on, step {i}." for i in range(1000)))
    page.see("1000 shots")
    page.click("Sheet")
    page.one("[data-sheet]")
    assert len(page.all("[data-shot]")) < 30
    page.keys(Keys.END)
    page.see("Ada went on, step 999.")
    assert len(page.all("[data-shot]")) < 30


def test_who_scrolls_the_sheet_away_from_the_current_shot_is_left_there(page):
    page.open()
    page.one("input[name=title]").send_keys("Long", Keys.ENTER)
    page.one("[data-page] .cm-content")
    page.plan_from("\n".join(f"# S{i + 1}\nAda went on, step {i + 1}." for i in range(30)))
    page.click("Sheet")
    page.one("[data-sheet]")
    top = "return document.querySelector('[data-sheet]').scrollTop"
    page.driver.execute_script("document.querySelector('[data-sheet]').scrollTop = 900")
    page.see("step 14")
    assert page.driver.execute_script(top) == 900
    page.keys(Keys.ARROW_DOWN)
    page.until(lambda: page.driver.execute_script(top) < 200, "the shot that becomes the current one is shown")
