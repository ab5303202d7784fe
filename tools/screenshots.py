"""Make the pictures of docs/screenshots from the demo, on a database and a server of their own."""

from __future__ import annotations

import socket
import tempfile
import threading
import time
from pathlib import Path

import uvicorn

from juxtaform import mariadb
from juxtaform.demo.load import load
from juxtaform.media.store import PictureStore
from juxtaform.records.database import Database
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from juxtaform.web.app import create_app
from tests.browser.conftest import Page, chromium

TARGET = Path(__file__).parents[1] / "docs" / "screenshots"


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        server = mariadb.start(Path(folder) / "db")
        database = Database(server.create("pictures"))
        database.migrate()
        ws = Workspace(database, PictureStore(Path(folder) / "pictures"))
        checker = Checker(ws)
        project = load(ws)
        checker.start(project)
        checker.wait(project, 300)
        listening = socket.socket()
        listening.bind(("127.0.0.1", 0))
        listening.listen(64)
        web = uvicorn.Server(uvicorn.Config(create_app(ws, checker), log_level="warning", timeout_graceful_shutdown=1))
        threading.Thread(target=web.run, kwargs={"sockets": [listening]}, daemon=True).start()
        page = Page(chromium(), f"http://127.0.0.1:{listening.getsockname()[1]}")
        try:
            take(page, project)
        finally:
            page.driver.quit()
            web.should_exit = True
            checker.close()
            database.close()
            server.stop()


def take(page: Page, project: str) -> None:
    TARGET.mkdir(parents=True, exist_ok=True)

    def shoot(name: str) -> None:
        time.sleep(1.5)
        page.driver.save_screenshot(str(TARGET / f"{name}.png"))

    page.open("/")
    shoot("shelf")
    for view in ("story", "sheet", "models", "takes"):
        page.open(f"/p/{project}/{view}")
        page.one("main")
        shoot(view)
    page.open(f"/p/{project}/continuity")
    page.one("[data-finding]")
    for _ in range(3):
        page.keys("]")
    shoot("continuity")
    page.one("[data-thread='Cut-paper dusk']").click()
    page.keys("]")
    page.one("[data-thread='Cut-paper dusk']").click()
    page.click("10 · Style slides")
    shoot("style")
    page.click("Dark")
    page.open(f"/p/{project}/sheet")
    page.one("[data-sheet]")
    shoot("sheet-dark")


if __name__ == "__main__":
    main()
