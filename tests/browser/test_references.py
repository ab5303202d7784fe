"""Journeys in the browser: two characters from pictures to model sheets; forty shots assigned and preflighted; a reference
replaced at shot 9; the library and a taste round; a bundle out and in again."""

from __future__ import annotations

import io
import time
import urllib.request
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image
from psd_tools import PSDImage
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import BO
from tests.conftest import LOOK, flat, png
from tests.constructed import random_pose, reference, scene

PLACES = ("on the quay", "by the lamp", "at the door")


class Counted:
    """A page that counts keys and clicks: what the user's hands do."""

    def __init__(self, page):
        self.page, self.count = page, 0

    def keys(self, *keys):
        self.count += len(keys)
        self.page.keys(*keys)

    def chord(self, *keys):
        self.count += 1
        self.page.chord(*keys)

    def click(self, element):
        self.count += 1
        element.click()


@pytest.fixture
def pictures(tmp_path):
    rng = np.random.default_rng(4)
    for name, look in (("ada", LOOK), ("bo", BO)):
        for i in range(2):
            (tmp_path / f"{name}-{i}.png").write_bytes(png(reference(look, random_pose(rng) if i else None)))
    (tmp_path / "ada-new.png").write_bytes(png(reference(replace(LOOK, coat="#20a0d0"))))
    for g in (5, 6, 7):
        (tmp_path / f"style-{g}.png").write_bytes(png(scene([], rng, ground=g)[0]))
    return tmp_path


def begin(page, title, text=None):
    page.open()
    page.one("input[name=title]").send_keys(title, Keys.ENTER)
    page.one("[data-page] .cm-content")
    if text:
        page.plan_from(text)


def make_thread(page, kind, name, files=()):
    page.click("+ New thread" if page.all("aside [data-thread]") else "Make the first thread")
    page.one(f"input[name=kind][value={kind}]").click()
    page.one("input[name=thread-name]").send_keys(name)
    page.click("Make it")
    page.one(f"[data-thread='{name}']").click()
    if files:
        page.one("[data-choose=references]").send_keys("\n".join(str(f) for f in files))
        page.until(lambda: len(page.all("[data-reference]")) == len(files), f"references of {name}")


def fill(page, label, words):
    field = page.at(f"//label[contains(., '{label}')]//*[self::input or self::textarea]")
    page.write_over(field, words, Keys.TAB)


def test_two_characters_from_pictures_to_model_sheets(page, pictures, address):
    begin(page, "Two characters", "# One\nAda met Bo.\n\n# Two\nAda left in the rain.")
    page.click("Model sheets")
    make_thread(page, "character", "Ada", [pictures / "ada-0.png", pictures / "ada-1.png"])
    fill(page, "Its one wording", "Ada, a girl: red hair, yellow coat.")
    fill(page, "In short", "Ada in yellow.")
    fill(page, "Never without", "badge, green boots")
    page.until(lambda: page.all("[data-reference] p.text-red"), "the fitness of the views")
    assert "Small for the output" in page.one("[data-reference] p.text-red").text
    page.at("//button[normalize-space()='anchor']").click()
    page.until(lambda: page.driver.find_elements(By.XPATH, "//span[normalize-space()='anchor']"), "an anchor")

    page.driver.execute_script("document.querySelector('[data-stage]').scrollIntoView({block: 'end'})")
    stage = page.driver.execute_script(
        "return document.querySelector('[data-stage] svg').getBoundingClientRect().toJSON()"
    )
    page.drag(
        stage["x"] + stage["width"] * 0.4,
        stage["y"] + stage["height"] * 0.45,
        stage["x"] + stage["width"] * 0.6,
        stage["y"] + stage["height"] * 0.6,
    )
    page.one("input[name=trait-name]").send_keys("Coat")
    page.click("Add the trait")
    page.one("[data-trait=Coat]")
    page.at("//aside[@aria-label='Traits']//ul//button[contains(., 'Coat')]").click()
    page.one("[data-body-map]").click()
    page.until(lambda: page.all("[data-body-map] circle"), "the trait's place on the body")
    page.at("//div[@data-trait='Coat']//input[@type='checkbox']").click()
    page.see("Undo “edited the trait Coat”")

    page.click("+ costume")
    page.one("input[name=costume]").send_keys("night-shirt", Keys.ENTER)
    page.until(
        lambda: page.driver.find_elements(
            By.XPATH, "//button[@role='radio' and @aria-checked='true' and contains(., 'night-shirt')]"
        ),
        "the costume chosen",
    )
    fill(page, "What is different", "A white night-shirt")

    make_thread(page, "character", "Bo", [pictures / "bo-0.png", pictures / "bo-1.png"])
    make_thread(page, "style", "Paper", [pictures / f"style-{g}.png" for g in (5, 6, 7)])
    page.one("input[name=vocabulary]").send_keys("cut-paper, flat", Keys.TAB)
    page.see("Enough to name the style")
    page.until(lambda: len(page.all("[data-trial]")) == 3, "the style's trial")
    page.one("[data-choose=palette]").send_keys(str(palette_file(pictures)))
    page.see("Undo “took in 2 colours for Paper”")

    page.one("[data-thread=Ada]").click()
    sheet = page.at("//a[normalize-space()='PDF']").get_attribute("href")
    assert urllib.request.urlopen(sheet).read(5) == b"%PDF-"
    assert "Ada in yellow." in page.driver.page_source or page.driver.find_elements(By.CSS_SELECTOR, "input")
    assert page.trouble() == []


def palette_file(folder):
    path = folder / "dusk.gpl"
    path.write_bytes(b"GIMP Palette\n31 95 102\tteal (lead)\n239 185 164\tpink\n")
    return path


def test_forty_shots_are_assigned_in_few_strokes_and_preflighted(page, address):
    text = "\n".join(f"# S{i + 1}\nAda went on {PLACES[i % 3]}, step {i + 1}." for i in range(40))
    begin(page, "Forty", text)
    page.see("40 shots")
    page.click("Sheet")
    page.one("[data-sheet]")
    hands = Counted(page)
    threads = (("character", "Ada"), ("character", "Bo"), ("character", "Cy"), ("setting", "Quay"), ("style", "Paper"))
    for i, (kind, name) in enumerate(threads):
        hands.click(page.button("+ thread"))
        if kind != "character":
            hands.click(page.one(f"input[name=kind][value={kind}]"))
        field = page.one("input[name=thread-name]")
        field.send_keys(name, Keys.ENTER)
        hands.count += 2  # The name is words, not strokes of assigning: counted as one, and Enter.
        page.until(
            lambda n=i: (
                len(page.driver.find_elements(By.XPATH, "//button[contains(@title, 'open its model sheet')]")) == n + 1
            ),
            name,
        )
    page.until(lambda: not page.all("input[name=thread-name]"), "the popover closed")
    hands.chord(Keys.CONTROL, "a")
    for _, name in threads:
        hands.keys(Keys.ARROW_RIGHT, Keys.SPACE)
        page.see(f"assigned {name}, 40 shots")
    print(f"keys and clicks for three characters, a setting and a style over 40 shots: {hands.count}")
    assert hands.count < 60

    page.click("Briefs")
    page.one("[data-brief]")
    page.until(lambda: page.all("[data-finding=attached_not_named]"), "Bo and Cy are attached, but not named")
    assert len(page.all("[data-brief-of]")) == 40
    while page.all("[data-finding=attached_not_named]"):
        before = len(page.all("[data-finding=attached_not_named]"))
        page.one("[data-finding=attached_not_named]").click()
        page.keys(Keys.ENTER)
        page.until(lambda n=before: len(page.all("[data-finding=attached_not_named]")) < n, "mended on one key")
    page.one("[data-phrase=action]").click()
    area = page.one("[data-brief] textarea")
    area.send_keys(Keys.CONTROL + "a")
    area.send_keys("Ada and Bo by the camera, which pans left.", Keys.ENTER)
    page.until(
        lambda: page.all("[data-finding=named_not_attached]") and page.all("[data-finding=motion]"), "what is wrong now"
    )
    underlined = [e.text for e in page.all("[data-phrase=action] .found")]
    assert "Bo" in underlined
    page.one("[data-finding=named_not_attached]").click()
    page.keys(Keys.ENTER)
    page.until(lambda: not page.all("[data-finding=named_not_attached]"), "Bo attached")
    page.one("[data-finding=motion]").click()
    page.keys("s")
    page.one("input[name=reason]").send_keys("it is a joke", Keys.ENTER)
    page.see("it is a joke")
    page.keys("d")
    page.see("This is the first shot")
    page.one("[data-brief-of]:nth-child(2)").click()
    page.until(lambda: page.all("[data-difference] del"), "what differs from the shot before")
    project = page.driver.current_url.split("/p/")[1].split("/")[0]
    told = urllib.request.urlopen(f"{address}/api/projects/{project}/briefs.md").read().decode()
    assert told.count("## Shot ") == 40
    assert [e for e in page.trouble() if "/difference" not in e] == []


def test_a_reference_replaced_at_shot_9_makes_later_pictures_stale_until_retaken(page, pictures):
    begin(page, "Replaced", "\n".join(f"# S{i + 1}\nAda went on, step {i + 1}." for i in range(12)))
    page.click("Model sheets")
    make_thread(page, "character", "Ada", [pictures / "ada-0.png"])
    page.click("Sheet")
    page.one("[data-sheet]")
    page.chord(Keys.CONTROL, "a")
    page.keys(Keys.ARROW_RIGHT, Keys.SPACE)
    page.see("assigned Ada, 12 shots")
    folder = pictures / "shots"
    folder.mkdir()
    for i in range(10):
        (folder / f"page {i + 1}.png").write_bytes(flat((10 * i, 90, 120), (90, 60)))
    painted = Image.new("RGB", (90, 60), (100, 90, 120))
    painted.save(folder / "page 11.tif", save_all=True, append_images=[painted])
    PSDImage.frompil(painted).save(folder / "page 12.psd")
    page.one("[data-choose=folder]").send_keys(str(folder))
    page.until(lambda: page.all("[data-accept]") and page.one("[data-accept]").is_enabled(), "files read")
    told = {e.get_attribute("data-told").rsplit("/", 1)[-1]: e.text for e in page.all("[data-told]")}
    assert told.keys() == {"page 11.tif", "page 12.psd"}
    assert "The first of its 2 pictures came in" in told["page 11.tif"]
    page.click("Take 12 pictures")
    page.until(lambda: page.all("[data-where-they-stand]"), "who stands where")
    page.keys(Keys.ESCAPE)
    page.until(lambda: not page.all("[data-where-they-stand]"), "left for later")

    page.click("Model sheets")
    page.one("[data-thread=Ada]").click()
    page.click("New version")
    page.one("[data-new-version]")
    page.see("12 pictures would become stale")
    page.all("input[name=where]")[1].click()
    select = page.one("[data-new-version] select")
    select.find_elements(By.TAG_NAME, "option")[7].click()
    page.see("4 pictures would become stale")
    assert "9–12" in page.one("[data-would-be-stale]").text
    page.one("[data-choose=version]").send_keys(str(pictures / "ada-new.png"))
    page.click("Replace from shot 9 on")
    page.until(lambda: not page.all("[data-new-version]"), "replaced")
    page.see("v2 from 9")

    page.click("Sheet")
    page.one("[data-sheet]")
    page.one("select[aria-label='Which shots'] option[value=stale]").click()
    page.until(lambda: len(page.all("[data-shot]")) == 4, "the stale shots alone")
    page.click("Briefs")
    page.click("Stale")
    page.until(lambda: len(page.all("[data-brief-of]")) == 4, "four are stale")
    page.one("[data-brief-of]").click()
    page.one("[data-stale] .quiet").click()
    page.one("[data-stale] input[name=reason]").send_keys("the old coat is right here", Keys.ENTER)
    page.until(lambda: len(page.all("[data-brief-of]")) == 3, "one let stand")
    page.one("[data-brief-of]").click()
    page.one("[data-stale] .btn").click()
    (pictures / "retake.png").write_bytes(flat((1, 2, 3), (90, 60)))
    page.one("[data-choose=takes]").send_keys(str(pictures / "retake.png"))
    page.until(lambda: page.all("[data-accept]") and page.one("[data-accept]").is_enabled(), "the retake is read")
    page.one("[data-accept]").click()
    page.until(lambda: not page.all("[data-pictures-in]"), "taken")
    if page.all("[data-where-they-stand]"):
        page.keys(Keys.ESCAPE)
        page.until(lambda: not page.all("[data-where-they-stand]"), "left for later")
    page.until(lambda: page.all("[data-contact-sheet] [data-take]"), "the contact sheet")
    page.keys(Keys.ARROW_RIGHT, Keys.ENTER)
    page.see("picked a take”")
    page.click("Briefs")
    page.click("Stale")
    page.until(lambda: len(page.all("[data-brief-of]")) == 2, "one retaken")
    assert page.trouble() == []


def test_the_library_is_searched_tagged_and_ranked_by_taste(page, tmp_path):
    begin(page, "Library")
    page.click("Library")
    page.see("Every picture that comes into this project stands here")
    for i, code in enumerate(((200, 40, 30), (190, 60, 40), (30, 150, 60), (30, 60, 190))):
        (tmp_path / f"{('red', 'rust', 'green', 'blue')[i]}.png").write_bytes(flat(code, (90, 60)))
    page.one("[data-choose=library]").send_keys("\n".join(str(p) for p in sorted(tmp_path.glob("*.png"))))
    page.until(lambda: len(page.all("[data-picture]")) == 4, "four pictures")
    page.one("[data-picture='red.png']").click()
    page.one("input[name=tags]").send_keys("warm", Keys.ENTER)
    page.see("Undo “tagged 1 picture”")
    page.one("input[aria-label='Find pictures']").send_keys("warm")
    page.until(lambda: len(page.all("[data-picture]")) == 1, "found by its tag")
    page.click("clear")
    page.until(lambda: len(page.all("[data-picture]")) == 4, "all again")
    page.one("[data-picture='red.png']").click()
    page.keys("s")
    page.until(
        lambda: [e.get_attribute("data-picture") for e in page.all("[data-picture]")][:2] == ["red.png", "rust.png"],
        "the most alike first",
    )
    page.keys(Keys.ESCAPE)
    page.until(lambda: page.all("[data-picture='blue.png']"), "all again")
    page.one("[data-picture='blue.png']").click()
    page.keys(Keys.DELETE)
    page.until(lambda: len(page.all("[data-picture]")) == 3, "one in the bin")
    page.click("Bin")
    page.until(
        lambda: [e.get_attribute("data-picture") for e in page.all("[data-picture]")] == ["blue.png"],
        "it is in the bin",
    )
    page.keys(Keys.DELETE)
    page.see("The bin is empty")
    page.click("Bin")
    page.keys("r")
    for k in range(4):
        page.until(
            lambda n=k: f"{n} chosen" in page.one("[data-taste]").text and page.all("[data-side]"), f"pair {k + 1}"
        )
        page.keys(Keys.ARROW_LEFT)
    page.see("4 chosen")
    assert page.all("[data-ranked]")
    page.keys(Keys.BACKSPACE)
    page.see("3 chosen")
    assert page.trouble() == []


def test_a_project_goes_out_as_a_bundle_and_comes_in_again(page, tmp_path, address):
    begin(page, "Bundled", "# One\nAda came.\n\n# Two\nAda went.")
    project = page.driver.current_url.split("/p/")[1].split("/")[0]
    data = urllib.request.urlopen(f"{address}/api/projects/{project}/bundle.zip").read()
    (tmp_path / "bundled.zip").write_bytes(data)
    (tmp_path / "bad.zip").write_bytes(io.BytesIO(data[:200]).getvalue())
    page.open()
    page.one("[data-choose=bundle]").send_keys(str(tmp_path / "bad.zip"))
    page.see("bad.zip is no zip file")
    page.one("[data-choose=bundle]").send_keys(str(tmp_path / "bundled.zip"))
    page.until(lambda: "/p/" in page.driver.current_url and project not in page.driver.current_url, "a copy")
    page.until(lambda: len(page.all("[data-shot]")) == 2, "its shots")
    time.sleep(0.2)
    assert [e for e in page.trouble() if "422" not in e] == []
