"""The database goes away while somebody works: what is typed and done waits in the window, and is kept when it is back."""

import json
import urllib.request

import pytest
from selenium.webdriver.common.keys import Keys

from juxtaform import mariadb
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from tests.browser.conftest import Page, chromium
from tests.conftest import joined, served


@pytest.fixture
def away(tmp_path):
    """A page on a server of its own, and its database, to be stopped and started."""
    held = {"database": mariadb.start(tmp_path / "mariadb")}
    database = Database(held["database"].create("away"))
    database.migrate()
    ws = Workspace(database, PictureStore(tmp_path / "pictures"))

    def back():
        held["database"] = mariadb.start(tmp_path / "mariadb", held["database"].port)

    with served(ws, Checker(ws)) as address:
        driver = chromium()
        yield Page(driver, address), lambda: held["database"].process.kill(), back
        driver.quit()
    database.close()
    held["database"].stop()


def test_what_is_done_while_the_database_is_away_is_kept_when_it_is_back(away):
    page, kill, back = away
    page.open()
    page.one("input").send_keys("Away", Keys.ENTER)
    page.until(lambda: "/p/" in page.driver.current_url, "the project")
    project = page.driver.current_url.split("/p/")[1].split("/")[0]
    page.open(f"/p/{project}/story")
    page.write_story("# One\n\nAda came in.")
    rows = lambda: json.load(urllib.request.urlopen(f"{page.address}/api/projects/{project}"))["rows"]  # noqa: E731
    page.until(lambda: "Ada came in." in joined(rows()["text_part"]), "the text is kept")
    kill()
    page.one("[data-page] .cm-content").click()
    page.chord(Keys.CONTROL, Keys.END)
    page.keys(" And sat down.")
    page.see("Juxtaform does not answer.")
    page.write_over(page.one("[aria-label=Title]"), "Away and back", Keys.ENTER)
    back()
    page.see("Juxtaform answers again.")
    page.until(lambda: joined(rows()["text_part"]).endswith("And sat down."), "what was typed is kept")
    page.until(lambda: rows()["project"][0]["title"] == "Away and back", "what was done after it is kept too")
    page.until(
        lambda: "Juxtaform does not answer." not in page.driver.find_element("tag name", "body").text,
        "no more trouble is told",
    )


def test_the_apis_own_page_works_without_a_network(page):
    page.open("/api/docs")
    page.see("/api/projects/{project_id}/changes")
    page.one(".opblock-summary-control").click()
    page.see("Responses")
    assert page.trouble() == []
