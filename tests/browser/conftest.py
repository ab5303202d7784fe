"""A headless Chromium against a real server with a real database, and files on disk to drop."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
from selenium import webdriver
from selenium.common.exceptions import (
    JavascriptException,
    NoSuchElementException,
    StaleElementReferenceException,
    WebDriverException,
)
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from tests.conftest import LOOK, png, served
from tests.constructed import Look, random_pose, reference, scene

SWITCHES = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--hide-scrollbars",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
    "--autoplay-policy=no-user-gesture-required",
)
PATIENCE_S = float(os.environ.get("PATIENCE_S", "180"))
"""A state is waited for, however slow the machine is; only what never comes takes so long."""
TIM = Look("#58b3a6", "#f6d9c4", "#2f7d4f", "#a8a8b0", "#c8322b", "#2c6fc4", hair_form=2, coat_form=1, extra_form=2)
BO = Look("#2a2326", "#7b4a30", "#2c6fc4", "#6b4a8c", "#c8322b", "#58b3a6", 1, 1, 1)


def chromium(width: int = 1280, height: int = 800, more: tuple[str, ...] = ()) -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    for switch in (*SWITCHES, *more, f"--user-data-dir={tempfile.mkdtemp()}", f"--window-size={width},{height}"):
        options.add_argument(switch)
    options.binary_location = "/usr/bin/chromium"
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=webdriver.ChromeService("/usr/bin/chromedriver"))
    sized(driver, width, height)
    return driver


def sized(driver: webdriver.Chrome, width: int, height: int) -> None:
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)


def emptied(driver: webdriver.Chrome, address: str) -> None:
    """A new page in a browser that forgot all of the last one but the files that it fetched."""
    left = driver.window_handles
    driver.switch_to.new_window("tab")
    fresh = driver.current_window_handle
    for window in left:
        driver.switch_to.window(window)
        driver.close()
    driver.switch_to.window(fresh)
    driver.execute_cdp_cmd("Storage.clearDataForOrigin", {"origin": address, "storageTypes": "all"})
    driver.execute_cdp_cmd("Network.clearBrowserCookies", {})
    sized(driver, 1280, 800)
    driver.get_log("browser")


@pytest.fixture(scope="session")
def address(ws, checker) -> Iterator[str]:
    with served(ws, checker) as where:
        yield where


class Page:
    """What a user does: find, click, type, press keys, drag; every wait is for something to be seen."""

    def __init__(self, driver: webdriver.Chrome, address: str) -> None:
        self.driver, self.address = driver, address

    def open(self, path: str = "/") -> None:
        self.driver.get(self.address + path)

    def all(self, css: str) -> list[WebElement]:
        return self.driver.find_elements(By.CSS_SELECTOR, css)

    def until(self, what, message: str = "", seconds: float = PATIENCE_S):
        """Wait until something holds; what a page is asked while it gives way to another one is asked again."""
        ignored = (NoSuchElementException, StaleElementReferenceException, JavascriptException)
        return WebDriverWait(self.driver, seconds, 0.1, ignored).until(lambda _: what(), message)

    def one(self, css: str) -> WebElement:
        self.until(lambda: self.all(css), f"nothing matches {css}")
        return self.all(css)[0]

    def at(self, path: str) -> WebElement:
        """The first element at an XPath, once it is there."""
        self.until(lambda: self.driver.find_elements(By.XPATH, path), f"nothing is at {path}")
        return self.driver.find_elements(By.XPATH, path)[0]

    def button(self, text: str) -> WebElement:
        path = f"//button[normalize-space()='{text}' or starts-with(normalize-space(), '{text}')]"
        self.until(lambda: self.driver.find_elements(By.XPATH, path), f"no button “{text}”")
        return self.driver.find_elements(By.XPATH, path)[0]

    def click(self, text: str) -> None:
        self.until(lambda: self.button(text).is_enabled(), f"the button “{text}” stays grey")
        self.button(text).click()

    def see(self, text: str, seconds: float = PATIENCE_S) -> None:
        words = "return document.body?.innerText ?? ''"
        self.until(lambda: text in self.driver.execute_script(words), f"“{text}” is not to be seen", seconds)

    def words_of(self, css: str) -> str:
        """The words of the first such element as the page has it now; empty where there is none."""
        found = self.driver.execute_script("return document.querySelector(arguments[0])?.textContent.trim() ?? ''", css)
        return str(found)

    def accept_all(self) -> None:
        """Accept the sure proposals, then those that are left."""
        while words := self.words_of("[data-accept-all]"):
            self.one("[data-accept-all]").click()
            self.until(lambda words=words: self.words_of("[data-accept-all]") != words, "accepted")

    def write_over(self, field: WebElement, *words: str) -> None:
        """Write into a field in place of all that stands there, as a user does: never empty in between."""
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(*words)

    def keys(self, *keys: str) -> None:
        webdriver.ActionChains(self.driver).send_keys(*keys).perform()

    def chord(self, *keys: str) -> None:
        chain = webdriver.ActionChains(self.driver)
        for key in keys[:-1]:
            chain.key_down(key)
        chain.send_keys(keys[-1])
        for key in keys[:-1]:
            chain.key_up(key)
        chain.perform()

    def write_story(self, text: str) -> None:
        """Put a text on the story's page at once, as a paste does."""
        self.one("[data-page] .cm-content").click()
        self.driver.execute_script(
            "const data = new DataTransfer(); data.setData('text/plain', arguments[0]);"
            "document.querySelector('[data-page] .cm-content').dispatchEvent("
            "new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))",
            text,
        )

    def plan_from(self, text: str) -> None:
        """Write a story, propose its shots and accept them all."""
        self.write_story(text)
        self.one("[data-propose]").click()
        self.one("[data-accept-all]")
        self.accept_all()
        self.until(lambda: self.all("[data-shot]"), "settled shots")
        self.keys("\ue00c")

    def drag(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """Drag between two points of the window."""
        chain = webdriver.ActionChains(self.driver, duration=60)
        chain.w3c_actions.pointer_action.move_to_location(round(x0), round(y0))
        chain.w3c_actions.pointer_action.pointer_down()
        for i in range(1, 5):
            chain.w3c_actions.pointer_action.move_to_location(
                round(x0 + (x1 - x0) * i / 4), round(y0 + (y1 - y0) * i / 4)
            )
        chain.w3c_actions.pointer_action.pointer_up()
        chain.perform()

    def trouble(self) -> list[str]:
        """What the browser's console complained of."""
        return [e["message"] for e in self.driver.get_log("browser") if e["level"] == "SEVERE"]


@pytest.fixture(scope="session")
def idle() -> Iterator[list[webdriver.Chrome]]:
    """The browser that the next test may have: to start one takes as long as many a test."""
    drivers: list[webdriver.Chrome] = []
    yield drivers
    for driver in drivers:
        driver.quit()


@pytest.fixture
def page(address, idle) -> Iterator[Page]:
    driver = idle.pop() if idle else chromium()
    yield Page(driver, address)
    try:
        emptied(driver, address)
    except WebDriverException:
        driver.quit()
    else:
        idle.append(driver)


@pytest.fixture(scope="session")
def stranger(tmp_path_factory):
    """A stranger's files: references of two characters and a style, and eight numbered pictures with known boxes.

    Ada's coat is violet in the third picture, the sixth is in another hand, in the seventh somebody else stands in Bo's place; two files
    are no pictures.
    """
    home = tmp_path_factory.mktemp("stranger")
    rng = np.random.default_rng(21)
    for name, look in (("ada", LOOK), ("bo", BO)):
        for i, pose in enumerate((None, random_pose(rng))):
            (home / f"{name}-{i}.png").write_bytes(png(reference(look, pose)))
    for g in (5, 6, 7, 8):
        (home / f"style-{g}.png").write_bytes(png(scene([], rng, ground=g)[0]))
    shots = home / "shots"
    shots.mkdir()
    boxes = []
    for i in range(8):
        ada = replace(LOOK, coat="#6b4a8c") if i == 2 else LOOK
        hand = "inked" if i == 5 else "paper"
        picture, found = scene(
            [ada, TIM if i == 6 else BO], rng, ground=(0, 2, 3, 5, 6, 4, 8, 9)[i], hand=hand, scale=0.95
        )
        (shots / f"page {i + 1}.png").write_bytes(png(picture))
        boxes.append(found)
    good, good_boxes = scene([LOOK, BO], rng, ground=3, scale=0.95)
    (home / "better.png").write_bytes(png(good))
    (shots / "notes 9.png").write_text("not a picture")
    (shots / "empty 10.png").write_bytes(b"")
    return home, boxes, good_boxes
