"""From a link made to comments pinned on a telephone, and back into the workbench as something to look at."""

import pytest
from selenium.webdriver.common.by import By

from tests.browser.conftest import Page, chromium
from tests.browser.test_accessible import faults
from tests.conftest import Staged


@pytest.fixture(scope="module")
def staged(ws):
    return Staged(ws)


def test_a_sequence_is_shown_commented_on_a_telephone_and_signed_off(page, staged):
    page.open(f"/p/{staged.project}/showings")
    page.see("Nothing is shown yet")
    page.one("[data-new-showing]").click()
    page.one("[name=words]").send_keys("Look at the coats.")
    page.one("[name=passphrase]").send_keys("low water")
    assert faults(page) == []
    page.click("Make the link")
    link = page.one("[data-shown-once] input").get_attribute("value")
    page.see("Nobody said anything yet")
    assert faults(page) == []

    phone = Page(chromium(360, 740), page.address)
    try:
        phone.open(link.removeprefix(page.address))
        phone.see("opens with a passphrase")
        phone.one("[name=passphrase]").send_keys("low water")
        phone.click("Open")
        phone.see("Look at the coats.")
        assert "#" not in phone.driver.current_url
        wide = phone.driver.execute_script("return document.querySelector('[data-shown]').scrollWidth")
        assert wide <= 360, "nothing is wider than the telephone"
        assert faults(phone) == []
        phone.one("[data-play]").click()
        phone.until(lambda: phone.words_of("[data-run] .label") > "0:00", "it plays")
        phone.click("Comment on this moment")
        phone.one("textarea").send_keys("Too slow here.")
        phone.one("form input[autocomplete=name]").send_keys("Ines")
        phone.click("Send")
        phone.see("Too slow here.")
        third = phone.all("[data-shown-shot]")[2]
        phone.driver.execute_script("arguments[0].scrollIntoView({block: 'start'})", third)
        third.find_element(By.CSS_SELECTOR, "[data-picture-of]").click()
        third.find_element(By.CSS_SELECTOR, "textarea").send_keys("Her coat was orange!")
        third.find_element(By.XPATH, ".//button[normalize-space()='Send']").click()
        phone.until(lambda: third.find_elements(By.CSS_SELECTOR, "[data-note] + *, [data-pin]"), "the pin")
        third.find_element(By.CSS_SELECTOR, "[data-says=change]").click()
        phone.until(
            lambda: third.find_element(By.CSS_SELECTOR, "[data-says=change]").get_attribute("aria-pressed") == "true",
            "said",
        )
        phone.click("This edition is as it should be")
        phone.see("Ines signed off edition 1")
        assert faults(phone) == []
        assert not [t for t in phone.trouble() if "status of 401" not in t]

        page.see("Her coat was orange!")
        page.see("Ines signed off edition 1")
        page.until(lambda: "Showings3" in page.one("nav").text.replace("\n", ""), "counted")
        page.at("//*[@data-thread][.//p[contains(., 'coat was orange')]]//button[normalize-space()='Retake']").click()
        page.until(lambda: "Her coat was orange!" not in page.one("main").text, "decided")
        page.click("All that was said")
        page.click("Shot 3")
        page.see("Ines wants this changed")
        page.open(f"/p/{staged.project}/showings")
        page.one("[data-freeze]").click()
        page.see("Edition 2 is shown")
        assert not page.trouble()
    finally:
        phone.driver.quit()
