"""Files out on screen: what is missing is told, a file is made while one works on, stopped, gone on with, and fetched."""

import urllib.request

import pytest

from juxtaform.studio import plan
from tests.browser.test_accessible import faults
from tests.browser.test_run_through import Timed


@pytest.fixture(scope="module")
def timed(ws):
    return Timed(ws)


def test_files_are_made_and_fetched(page, ws, timed, address):
    page.open(f"/p/{timed.project}/delivery")
    page.see("No picture for shot 4.")
    assert faults(page) == []
    page.one("[data-kind=captions] .btn").click()
    page.until(lambda: page.all("[data-file=captions][data-state=done]"), "captions made")
    page.one("[data-kind=storyboard] [role=radio][aria-checked=false]").click()
    page.one("[data-kind=storyboard] .btn").click()
    page.until(lambda: page.all("[data-file=storyboard][data-state=done]"), "a storyboard made")
    page.see("Storyboard, 1 a page")
    link = page.one("[data-file=storyboard] a").get_attribute("href")
    assert urllib.request.urlopen(link).read(5) == b"%PDF-"
    assert faults(page) == []
    assert page.trouble() == []


def test_a_long_one_is_stopped_and_gone_on_with_from_where_it_was(page, ws, timed):
    for shot in timed.shots:
        plan.edit_shot(ws, timed.project, shot, {"length_s": 40.0, "move": "push in"}, None)
    page.open(f"/p/{timed.project}/delivery")
    page.one("[data-kind=animatic] .btn").click()
    page.until(lambda: progress(page) > 8, "it goes on")
    page.keys("\ue00c")
    page.one("[data-file=animatic] button").click()
    page.see("Stopped. What was made so far is kept.")
    page.click("Go on")
    page.until(lambda: progress(page) > 8, "it goes on from there")
    page.one("[data-file=animatic] button").click()
    page.see("Stopped.")
    page.one("[data-file=animatic] .quiet").click()
    page.until(lambda: not page.all("[data-file=animatic]"), "removed")
    assert page.trouble() == []


def progress(page):
    bars = page.all("[data-file=animatic] [role=progressbar]")
    return int(bars[0].get_attribute("aria-valuenow")) if bars else 0
