"""Planning in the browser: from a premise, a script and a photographed page to a plan, and the story changed later."""

import json
import re
import urllib.request

import cv2
import numpy as np
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page, chromium
from tests.conftest import joined, png
from tests.constructed_pages import drawn_page
from tests.story_texts import SCRIPT
from tests.written import docx, par

SCRIPT_TEXT = SCRIPT.text


def begin(page, title):
    page.open()
    page.one("input[name=title]").send_keys(title, Keys.ENTER)
    page.one("[data-page] .cm-content")


def numbers(page):
    return [b.get_attribute("data-bracket") for b in page.all("[data-bracket]")]


def status(page, of):
    return len(page.all(f"[data-shot][data-status={of}]"))


def test_premise_to_plan(page):
    begin(page, "A premise")
    page.click("Frame")
    page.one("textarea[name=premise]").send_keys("A crab minds the tide.", Keys.TAB)
    page.one("textarea[name=cast]").send_keys("Pell: nine, apprentice", Keys.ENTER, "Oda", Keys.TAB)
    page.click("three tries")
    page.until(lambda: len(page.all("[data-beat]")) == 6, "six beats")
    assert "Pell" in page.one("[data-beat] textarea").get_attribute("placeholder")
    page.all("[data-beat] textarea")[0].send_keys("Pell must wake the tide. Oda sleeps.", Keys.TAB)
    page.until(lambda: page.one("header").text.find("edited the beat") >= 0, "the answer kept")
    page.all("[data-beat] textarea")[0].click()
    page.chord(Keys.ALT, Keys.ARROW_DOWN)
    page.until(lambda: page.all("[data-beat]")[1].get_attribute("data-beat") == "The trouble", "the beat moved")
    page.click("Write on from this frame")
    page.until(lambda: "Pell must wake the tide." in page.one(".cm-content").text, "the frame as text")
    page.one("[data-propose]").click()
    page.until(lambda: status(page, "proposed") >= 1, "proposals")
    page.one("[data-found] button").click()
    page.until(lambda: "from the text" in page.one("header").text, "a thread from the text")
    page.accept_all()
    page.until(lambda: status(page, "proposed") == 0 and status(page, "settled") >= 1, "settled")
    page.one("[data-length]").click()
    page.one("input[name=target]").send_keys("1 min", Keys.ENTER)
    page.see("of 1 min")
    assert page.trouble() == []


def test_script_to_plan_then_the_script_changes(page, tmp_path):
    begin(page, "A script")
    path = tmp_path / "tram.fountain"
    path.write_bytes(SCRIPT_TEXT.replace("\n", "\r\n").encode("utf-8-sig"))
    page.one("[data-choose=text]").send_keys(str(path))
    page.see("Fountain")
    page.one("[data-propose]").click()
    page.until(lambda: status(page, "proposed") >= 5, "proposals from the script")
    page.one("[data-make-all]").click()
    page.until(lambda: "threads" in page.one("header").text, "threads from the script")
    count = int(page.words_of("[data-accept-all]").split()[-1])
    page.one("aside [data-shot] > span").click()  # its number: a click on its words edits them
    page.keys(Keys.ENTER)
    page.until(lambda: int(page.words_of("[data-accept-all]").split()[-1]) == count - 1, "one accepted by key")
    words = page.words_of("[data-accept-all]")
    page.chord(Keys.SHIFT, Keys.ENTER)
    page.until(lambda: page.words_of("[data-accept-all]") != words, "accepted by key")
    page.accept_all()
    before = page.one("aside [data-shot]").get_attribute("data-shot")

    content = page.one(".cm-content")
    content.click()
    page.chord(Keys.CONTROL, Keys.HOME)
    page.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.END, "\n\nINT. CELLAR - DAY\n\nA mouse wakes up and yawns.")
    page.until(lambda: "edited the text" in page.one("header").text, "typing kept")
    page.until(lambda: "uncovered" in page.one("[data-propose]").text, "the new words are in no shot")
    page.until(lambda: page.all(".jx-none"), "and marked so")
    page.keys(Keys.ESCAPE)
    page.one("[data-propose]").click()
    page.until(lambda: status(page, "proposed") == 1, "one new proposal")
    assert page.one("aside [data-shot]").get_attribute("data-status") == "proposed"
    assert before in [s.get_attribute("data-shot") for s in page.all("aside [data-shot]")]

    page.driver.get(page.driver.current_url)
    page.until(lambda: "A mouse wakes up" in page.one(".cm-content").text, "all is there after a reload")
    page.one("[data-page]")
    page.until(lambda: page.all("[data-bracket]"), "brackets")
    page.keys("h")
    page.one("[data-history]")
    page.at("//ol//button[contains(., 'ook in a text')]").click()
    page.until(lambda: not page.all("aside [data-shot]"), "back before the shots")
    page.at("//ol/li[1]/button").click()
    page.until(lambda: page.all("aside [data-shot]"), "and forth again")
    assert page.trouble() == []


def test_brackets_are_dragged_and_moved_by_key(page):
    begin(page, "Brackets")
    page.plan_from("Ada came in and sat down by the fire. At midnight Bo left the house with a lamp in his hand.")
    page.until(lambda: numbers(page) == ["1", "2"], "two brackets")
    page.one("[data-bracket='1'] button").click()
    page.keys(",")
    page.until(lambda: page.one(".jx-none").text == "fire.", "the last word let go")
    page.keys(".")
    page.until(lambda: not page.all(".jx-none"), "and taken back")
    handle = page.one("[data-bracket='2'] [data-handle=start]").rect
    x, y = handle["x"] + 8, handle["y"] + 6
    content = page.one(".cm-line").rect
    page.drag(x, y, content["x"] + 4, content["y"] + 14)
    page.until(lambda: page.all(".jx-twice"), "words in two shots")
    page.chord(Keys.CONTROL, "z")
    page.until(lambda: not page.all(".jx-twice"), "taken back")
    assert page.trouble() == []


def test_photo_to_plan(page, tmp_path):
    drawn = drawn_page(np.random.default_rng(9), 3, desk=True, perspective=0.03, turn=3.0, shadow=0.3)
    path = tmp_path / "page.png"
    path.write_bytes(png(drawn.photo))
    begin(page, "A photo")
    page.one("[data-choose=page]").send_keys(str(path))
    page.until(
        lambda: page.all("[data-take-panels]") and "5 shots" in page.one("[data-take-panels]").text, "five panels", 60
    )
    page.keys(".", Keys.DELETE)
    page.until(lambda: "4 shots" in page.one("[data-take-panels]").text, "one left out")
    stage = page.one("[data-page-in] [data-stage] svg").rect
    page.drag(stage["x"] + 12, stage["y"] + 12, stage["x"] + 60, stage["y"] + 60)
    page.until(lambda: "5 shots" in page.one("[data-take-panels]").text, "one drawn by hand")
    page.one("[data-take-panels]").click()
    page.until(lambda: len(page.all("aside [data-shot] img")) == 5, "five shots with sketches")
    page.one("aside [data-shot]").click()
    page.keys("f")
    page.see("Sketch, its layout guide")
    assert page.trouble() == []


def test_a_page_without_panels_and_a_broken_picture_say_so(page, tmp_path):
    blank, broken = tmp_path / "blank.png", tmp_path / "broken.png"
    blank.write_bytes(png(np.full((600, 500, 3), 245, np.uint8)))
    broken.write_bytes(cv2.imencode(".png", np.zeros((40, 40, 3), np.uint8))[1].tobytes()[:60])
    begin(page, "No panels")
    page.one("[data-choose=page]").send_keys(str(blank))
    page.see("0 panels found")
    page.click("Never mind")
    page.one("[data-choose=page]").send_keys(str(broken))
    page.see("damaged")


def test_facts_framings_and_what_moves(page):
    begin(page, "Facts")
    page.plan_from("Ada sits on the quay; the camera pans left.\n\nAt midnight Bo laughs.")
    page.one("aside [data-shot]").click()
    page.see("to the motion note")
    page.keys("t")
    page.until(
        lambda: (
            "Ada sits on the quay." in page.one("aside [data-shot]").text and "moves ·" not in page.one("aside").text
        )
    )
    page.keys("f")
    assert "pans left" in page.at("//label[contains(., 'What moves')]/textarea").get_attribute("value")
    page.one("[aria-label=Move] [title=pan]").click()
    page.until(lambda: page.all("[aria-label='Start and end of the move']"), "frames of the move")
    page.one("[aria-label=Size] [title='extreme close']").click()
    page.until(lambda: page.one("[aria-label=Size] [title='extreme close']").get_attribute("aria-checked") == "true")
    page.click("Other framings …")
    page.see("Other ways to look at this moment")
    page.at("//p[contains(., 'Other ways')]/following-sibling::button[1]").click()
    page.see("as it was")
    page.click("Plan")
    page.one("[data-plan-findings]")
    assert page.trouble() == []


def test_who_stands_where_is_drawn_on_the_frame_and_told_in_the_brief(page):
    begin(page, "Stands")
    page.plan_from("Ada sits on the quay. Ada looks at the sea.")
    page.one("[data-found] button").click()
    page.until(lambda: "from the text" in page.one("header").text, "a thread from the text")
    page.one("aside [data-shot]").click()
    page.keys("f")
    page.at("//button[@data-place][.='Place']").click()
    page.until(lambda: "set the place of Ada" in page.one("header").text, "placed")
    stage = page.one("[data-stands] svg[role=application]")
    stage.click()
    page.one("[data-stands] [data-box]").click()
    page.keys(*[Keys.ARROW_RIGHT] * 65)
    box = lambda: float(page.one("[data-stands] [data-box]").get_attribute("x"))  # noqa: E731
    page.until(lambda: box() > 500, "moved to the right")
    page.click("Briefs")
    page.see("One figure is to be seen: Ada on the right.")
    assert page.trouble() == []


def test_the_plan_s_findings_can_stand(page):
    begin(page, "Findings")
    page.plan_from("\n\n".join(f"{who} looks at a hand, part {i}." for i, who in enumerate(("Ada", "Bo") * 3)))
    page.click("Plan")
    page.see("in a row")
    count = len(page.all("[data-plan-findings] article"))
    page.click("Stet, because …")
    page.one("input[name=reason]").send_keys("A rhythm", Keys.ENTER)
    page.until(lambda: len(page.all("[data-plan-findings] article")) == count - 1, "one stands")
    page.see("A rhythm")


def test_a_table_goes_out_and_comes_back_and_a_wrong_one_changes_nothing(page, tmp_path):
    begin(page, "Table")
    page.plan_from("Ada came in and sat down.\n\nAt midnight Bo left.")
    project = page.driver.current_url.split("/")[4]
    cells = page.driver.execute_async_script(
        "const done = arguments[1]; fetch(`/api/projects/${arguments[0]}/table.csv`).then((r) => r.text()).then(done)",
        project,
    )
    good, bad = tmp_path / "good.csv", tmp_path / "bad.csv"
    good.write_bytes(cells.replace("At midnight Bo left.", "Bo is gone").encode())
    bad.write_bytes(cells.replace(",MS,", ",HUGE,").replace(",WS,", ",HUGE,").encode())
    page.click("Table …")
    page.one("[data-choose=table]").send_keys(str(bad))
    page.see("column “Size”")
    page.see("Nothing was changed.")
    page.one("[data-choose=table]").send_keys(str(good))
    page.see("Bo is gone")


def test_two_windows_on_one_text_and_a_conflict_shows_both(page, address):
    begin(page, "Two writers")
    page.write_story("Ada came in.")
    page.until(lambda: "edited the text" in page.one("header").text)
    other = Page(chromium(), address)
    try:
        other.driver.get(page.driver.current_url)
        other.until(lambda: "Ada came in." in other.one(".cm-content").text, "the same text")
        page.one(".cm-content").click()
        page.chord(Keys.CONTROL, Keys.END)
        page.keys(" She sat.")
        other.until(lambda: "She sat." in other.one(".cm-content").text, "typed here, seen there")
        project = page.driver.current_url.split("/")[4]
        page.chord(Keys.CONTROL, Keys.END)
        page.keys(" Mine.")
        page.driver.execute_async_script(
            "const [project, done] = arguments; fetch(`/api/projects/${project}/text`, {method: 'PUT', headers: {'content-type':"
            " 'application/json'}, body: JSON.stringify({text: 'Theirs.'})}).then(done)",
            project,
        )
        page.see("Changed by somebody else meanwhile")
        page.see("Theirs.")
        page.click("Keep mine")
        page.until(lambda: "Mine." in page.one(".cm-content").text and not page.all("[role=dialog]"), "mine stands")
    finally:
        other.driver.quit()


def test_commands_are_found_by_name(page):
    begin(page, "Commands")
    page.keys(Keys.ESCAPE)
    page.chord(Keys.CONTROL, "k")
    page.one("[data-command-search] input").send_keys("hist")
    page.keys(Keys.ENTER)
    page.one("[data-history]")


def test_fifty_thousand_words_are_drawn_where_they_are_seen_and_typing_in_them_is_kept(page, address):
    begin(page, "Long text")
    project = page.driver.current_url.split("/p/")[1].split("/")[0]
    paragraph = "Ada went along the quay and counted the boats, and there were more of them than the day before. "
    page.write_story("\n\n".join(paragraph * 8 for _ in range(330)))
    page.until(lambda: re.search(r"\b5\d{4} words", page.one("main").text), "read")
    page.one(".cm-content").click()
    page.keys("x" * 20)
    assert len(page.all(".cm-line")) < 200

    def kept():
        with urllib.request.urlopen(f"{address}/api/projects/{project}") as answer:
            return "x" * 20 in joined(json.load(answer)["rows"]["text_part"])

    page.until(kept, "what was typed is kept")


def test_a_document_becomes_the_story_and_a_table_s_strange_names_threads(page, tmp_path):
    begin(page, "A document")
    path = tmp_path / "otter.docx"
    path.write_bytes(
        docx(par("The Otter’s Umbrella"), par("by Ana Wren"), par("Otto sat by the river."), par("It rained."))
    )
    page.one("[data-choose=text]").send_keys(str(path))
    page.see("Took in otter.docx")
    page.one("[data-propose]").click()
    page.until(lambda: status(page, "proposed") == 2, "pictures of the story, none of its title")
    page.click("Table")
    page.driver.execute_script(
        "const data = new DataTransfer(); data.setData('text/plain', arguments[0]);"
        "document.querySelector('[data-table] textarea').dispatchEvent("
        "new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))",
        "Description\tCast\tHue\nOtto and Wilma on the bridge\tOtto and Wilma\tred",
    )
    assert "there is no character “Otto”" in page.one("[data-table-trouble]").text
    page.one("[data-table-offer]").click()
    page.see("Done: took in a table: 1 new, 2 new threads")
    assert status(page, "settled") == 1
