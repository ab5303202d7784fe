"""Make the pictures of docs/screenshots from the demo, on a database and a server of their own."""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from juxtaform import mariadb
from juxtaform.demo import script
from juxtaform.demo.load import load
from juxtaform.demo.made import TRIAL_OF, make_takes
from juxtaform.keeper import UnderstudyKeeper
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from tests.browser.conftest import Page, chromium
from tests.conftest import served

LOADED = "return [...document.images].every((i) => i.complete && (i.naturalWidth || !i.getAttribute('src')))"
TARGET = Path(__file__).parents[1] / "docs" / "screenshots"


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        server = mariadb.start(Path(folder) / "db")
        database = Database(server.create("pictures"))
        database.migrate()
        ws = Workspace(database, PictureStore(Path(folder) / "pictures"))
        checker = Checker(ws)
        written = script.load(ws)
        project = load(ws)
        understudy = UnderstudyKeeper(Path(folder))
        ws.understudy = understudy.service
        make_takes(ws, project)
        checker.start(project)
        checker.wait(project, 300)
        with served(ws, checker) as address:
            page = Page(chromium(), address)
            try:
                if "time" not in sys.argv:
                    take(page, project, written)
                in_time_and_on_paper(page, project)
            finally:
                page.driver.quit()
        understudy.stop()
        checker.close()
        database.close()
        server.stop()


def camera(page: Page) -> Callable[[str], None]:
    """What takes a picture of the window as it is, once its own pictures are there."""
    TARGET.mkdir(parents=True, exist_ok=True)

    def shoot(name: str) -> None:
        time.sleep(1.0)
        page.until(lambda: page.driver.execute_script(LOADED), f"pictures of {name}")
        time.sleep(0.5)
        page.driver.save_screenshot(str(TARGET / f"{name}.png"))

    return shoot


def in_time_and_on_paper(page: Page, project: str) -> None:
    """The run-through in the middle of a line, its voice, the dummy, files out, and pages of these files."""
    shoot = camera(page)
    page.open(f"/p/{project}/run")
    page.one("[data-row]")
    page.keys(*[Keys.ARROW_DOWN] * 6, " ")
    time.sleep(4.5)
    page.keys("k")
    shoot("run-through")
    page.keys("v", Keys.ARROW_DOWN)
    time.sleep(1)
    shoot("voice")
    page.open(f"/p/{project}/dummy")
    page.one("[data-pages]")
    page.keys(*[Keys.ARROW_RIGHT] * 4)
    shoot("dummy")
    page.open(f"/p/{project}/delivery")
    for kind in ("storyboard", "dummy", "epub"):
        page.one(f"[data-kind={kind}] .btn").click()
        page.until(lambda k=kind: page.all(f"[data-file={k}][data-state=done]"), f"{kind} made")
    page.one("[data-kind=animatic] .btn").click()
    time.sleep(3)
    shoot("delivery")
    for kind, number, name in (("storyboard", 1, "storyboard-page"), ("dummy", 3, "dummy-sheet")):
        link = page.one(f"[data-file={kind}] a").get_attribute("href")
        assert link
        with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
            file.write(urllib.request.urlopen(link).read())
            file.flush()
            ask = ["pdftoppm", "-r", "80", "-f", str(number), "-l", str(number), "-singlefile", "-png"]
            subprocess.run([*ask, file.name, str(TARGET / name)], check=True)


def take(page: Page, project: str, written: str) -> None:
    shoot = camera(page)
    page.open("/")
    page.see("Your projects")
    for view in ("story", "sheet", "models"):
        page.open(f"/p/{project}/{view}")
        page.one("main")
        shoot(view)
    contact_sheet(page, project, shoot)
    references(page, project, shoot)
    light_table(page, project, shoot)
    page.open(f"/p/{project}/continuity")
    page.one("[data-finding]")
    page.one("[data-thread=Sprocket]").click()
    shoot("continuity")
    page.keys("v")
    page.one("[data-review]")
    page.keys("t", "]", "]")
    shoot("review")
    page.chord(Keys.CONTROL, "z")
    showing(page, project, shoot)
    page.open(f"/p/{written}/story")
    page.one("[data-accept-all]")
    page.keys(*"jjjjjjjjj")
    shoot("proposals")


def showing(page: Page, project: str, shoot: Callable[[str], None]) -> None:
    """The sequence as somebody with its link sees it, with a comment pinned."""
    page.open(f"/p/{project}/showings")
    page.one("[data-new-showing]").click()
    page.one("[name=words]").send_keys("The harbour scenes are new. Is the tide key clear in shot 4?")
    page.click("Make the link")
    link = page.one("[data-shown-once] input").get_attribute("value") or ""
    page.open(link.removeprefix(page.address))
    second = page.one("[data-shown-shot]:nth-of-type(2)")
    page.driver.execute_script("arguments[0].scrollIntoView({block: 'start'})", second)
    second.find_element("css selector", "[data-picture-of]").click()
    second.find_element("css selector", "textarea").send_keys("Sprocket looks at us, not at the stone.")
    second.find_element("css selector", "form input").send_keys("Ines Moreau")
    second.find_element("xpath", ".//button[normalize-space()='Send']").click()
    page.one("[data-note]")
    second.find_element("css selector", "[data-says=change]").click()
    page.driver.execute_script("arguments[0].scrollIntoView({block: 'start'})", second)
    time.sleep(1)
    shoot("showing")


def contact_sheet(page: Page, project: str, shoot: Callable[[str], None]) -> None:
    """The contact sheet of a shot that the Understudy made takes of, and its trial."""
    page.open(f"/p/{project}/takes")
    page.until(lambda: page.all("[data-stage], [data-contact-sheet]"), "the takes")
    page.keys(*"j" * TRIAL_OF)
    page.until(lambda: page.all("[data-contact-sheet] [data-take]"), "the contact sheet")
    page.until(lambda: "being measured" not in page.one("[data-contact-sheet]").text, "measures", 600)
    page.one("[data-take='2'] button").click()
    shoot("takes")
    page.one("[data-trial-link]").click()
    page.until(lambda: page.all("[data-setting]"), "the trial")
    page.until(lambda: "still being made" not in page.one("[data-trial-told]").text, "its outcome", 600)
    shoot("trial")


def light_table(page: Page, project: str, shoot: Callable[[str], None]) -> None:
    """The second picture over the first, pegged on Pell, and the loupe on her coat."""
    page.open(f"/p/{project}/sheet")
    page.one("[data-shot]")
    page.keys("j", "l")
    page.one("[data-board]")
    page.keys("4", "p", "p", "p")
    page.until(lambda: "figure" in page.one("[data-pegged]").get_attribute("value"), "pegged")
    page.until(lambda: not page.all("[data-pegging]"), "laid on each other")
    ActionChains(page.driver).move_to_element_with_offset(page.one("[data-board]"), -95, 60).perform()
    page.one("[data-apart]")
    shoot("light-table")
    page.keys(Keys.ESCAPE)


def references(page: Page, project: str, shoot: Callable[[str], None]) -> None:
    """The style's sheet, a brief with a finding, and the library."""
    page.open(f"/p/{project}/models")
    page.one("[data-thread='Cut-paper dusk']").click()
    page.one("[data-trial]")
    shoot("style-sheet")
    page.open(f"/p/{project}/briefs")
    page.one("[data-brief]")
    page.until(lambda: re.search(r"Briefs\s*\d", page.one("nav").text), "preflight")
    page.keys("]")
    page.one("[data-finding]")
    shoot("briefs")
    page.open(f"/p/{project}/library")
    page.one("[data-picture]").click()
    shoot("library")


if __name__ == "__main__":
    main()
