"""Every view and dialog, in both themes, held against the rules of accessible pages; and the keys of those who see no pictures."""

from pathlib import Path

import pytest
from selenium.webdriver.common.keys import Keys

from juxtaform.studio import plan
from tests.conftest import Staged

AXE = (Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js").read_text()
RUN = """
const done = arguments[0];
axe.run(document, {resultTypes: ['violations'], rules: {'target-size': {enabled: true}}}).then((told) => done(
  told.violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 120)}: ${(n.any[0] || n.all[0] || n.none[0] || {}).message}`))));
"""
VIEWS = {
    "story": "[data-page] .cm-content",
    "sheet": "[data-sheet] [data-shot]",
    "models": "[data-reference]",
    "library": "[data-picture]",
    "briefs": "[data-phrase]",
    "takes": "[data-stage]",
    "continuity": "main section",
    "run": "[data-time]",
    "dummy": "[data-pages]",
    "delivery": "[data-kind]",
}


def faults(page):
    """What stands against the page as it is now."""
    page.until(lambda: page.driver.execute_script("return document.getAnimations().length === 0"), "everything at rest")
    if not page.driver.execute_script("return typeof axe === 'object'"):
        page.driver.execute_script(AXE)
    page.driver.set_script_timeout(120)
    return page.driver.execute_async_script(RUN)


@pytest.fixture(scope="module")
def staged(ws, checker):
    made = Staged(ws)
    plan.edit_shot(ws, made.project, made.shots[1], {"shows": "Ada runs and runs, then jumps."}, None)
    checker.start(made.project)
    checker.wait(made.project, 900)
    return made


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_no_view_stands_in_anybodys_way(page, staged, theme):
    page.open("/")
    page.see("Your projects")
    page.driver.execute_script(f"localStorage.setItem('theme', '{theme}')")
    page.open("/")
    page.see("Your projects")
    assert faults(page) == []
    for view, what in VIEWS.items():
        page.open(f"/p/{staged.project}/{view}")
        page.one(what)
        assert (view, faults(page)) == (view, [])


def test_no_dialog_stands_in_anybodys_way(page, staged):
    page.open(f"/p/{staged.project}/sheet")
    page.one("[data-shot]")
    for keys, what in (
        (["?"], "[role=dialog]"),
        (["h"], "[data-history]"),
        (["f"], "[aria-label=Size]"),
        ([Keys.ARROW_RIGHT, Keys.ENTER], "[data-bead-popover]"),
    ):
        for key in keys:
            page.keys(key)
        page.one(what)
        assert (what, faults(page)) == (what, [])
        page.keys(Keys.ESCAPE)
        page.until(lambda what=what: not page.all(what), f"{what} closed")
    page.chord(Keys.CONTROL, "k")
    page.one("[data-command-search]")
    assert faults(page) == []
    page.keys(Keys.ESCAPE)
    for opens, view in (("Table …", "story"), ("Columns", "sheet"), ("+ thread", "sheet"), ("Defaults …", "briefs")):
        page.open(f"/p/{staged.project}/{view}")
        page.click(opens)
        page.one("[role=dialog]")
        assert (opens, faults(page)) == (opens, [])


def test_the_sheet_and_the_colour_script_are_heard_and_walked_by_keys(page, staged):
    page.open(f"/p/{staged.project}/sheet")
    grid = page.one("[data-sheet-grid]")

    def heard():
        at = grid.get_attribute("aria-activedescendant")
        return page.driver.execute_script("return document.getElementById(arguments[0])?.textContent ?? ''", at)

    page.driver.execute_script("arguments[0].focus()", grid)
    page.until(lambda: heard().startswith("Shot 1:"), "the first shot")
    page.keys(Keys.ARROW_DOWN)
    page.until(lambda: heard().startswith("Shot 2:"), "the second shot")
    page.keys(Keys.ARROW_RIGHT)
    page.until(lambda: heard().startswith("Ada: figure held"), "the bead's name")
    script = page.one("[data-colour-script] [role=slider]")
    page.driver.execute_script("arguments[0].focus()", script)
    page.keys(Keys.END)
    page.until(lambda: script.get_attribute("aria-valuenow") == str(len(staged.shots)), "the last shot")
    page.keys(Keys.HOME)
    page.until(lambda: script.get_attribute("aria-valuetext").startswith("Shot 1:"), "the first shot by name")
