"""Coming in by a link, inviting somebody, seeing where they are, and being signed out over unsaved work, in two real browsers."""

import pyotp
import pytest

from juxtaform.records.people import SignIn
from juxtaform.studio import invitations, plan, projects
from juxtaform.web.app import Entrance
from juxtaform.web.doors import LOCAL_HOSTS
from tests.browser.conftest import Page, chromium
from tests.browser.test_accessible import faults
from tests.conftest import empty_workspace, served
from tests.people import PASSWORD, joins, person

FROM_ELSEWHERE = "story.test"
"""A name in a network without TLS: browsers give its pages less than those of this machine."""


def elsewhere(address):
    """A browser on another machine of the network."""
    rules = f"--host-resolver-rules=MAP {FROM_ELSEWHERE} 127.0.0.1"
    return Page(chromium(more=(rules,)), address.replace("127.0.0.1", FROM_ELSEWHERE))


@pytest.fixture(scope="module")
def house(server, checker, tmp_path_factory):
    entrance = Entrance(from_elsewhere=True, hosts=(*LOCAL_HOSTS, FROM_ELSEWHERE))
    with (
        empty_workspace(server, tmp_path_factory.mktemp("pictures")) as ws,
        served(ws, checker, entrance=entrance) as address,
    ):
        yield ws, address


def fill(page, **fields):
    for name, words in fields.items():
        page.write_over(page.one(f"input[name={name}]"), words)


def test_from_the_first_link_to_two_people_on_one_story(house):
    ws, address = house
    mira, tomas = Page(chromium(), address), elsewhere(address)
    try:
        mira.open("/")
        mira.see("No account yet")
        mira.open(f"/enter#{invitations.first(ws)}")
        mira.see("The first account")
        assert "#" not in mira.driver.current_url, "the secret does not stay in the address"
        assert faults(mira) == []
        fill(mira, name="Mira", login="mira", password="password1234")
        mira.click("Make the account")
        mira.see("easy to guess")
        fill(mira, password=PASSWORD)
        mira.click("Make the account")
        mira.see("A new project")
        fill(mira, title="The borrowed tide")
        mira.click("Begin")
        mira.plan_from("# One\nPell sat on the step.\n# Two\nOda came in and laughed.\n")
        mira.one("[data-people]").click()
        mira.see("In this project")
        mira.click("Make a link")
        link = mira.one("[data-shown-once] input").get_attribute("value")
        assert faults(mira) == []
        mira.keys("\ue00c")

        tomas.open(link.removeprefix(address))
        tomas.see("You are invited to “The borrowed tide”")
        fill(tomas, name="Tomas", login="tomas@example.org", password=PASSWORD)
        tomas.click("Make the account")
        tomas.one("[data-shot]")
        mira.until(
            lambda: (
                "1 others are here" in mira.one("[data-people]").text or mira.words_of("[data-people]").startswith("T")
            ),
            "Tomas is seen",
        )
        tomas.keys("j")
        shot = tomas.all("[data-shot]")[1].get_attribute("data-shot")
        mira.open(mira.driver.current_url.removeprefix(address).replace("/story", "/sheet"))
        mira.until(lambda: mira.words_of(f"[data-here-at='{shot}']") == "T", "where Tomas is")
        tomas.write_over(tomas.one("[aria-label=Title]"), "The borrowed sea\ue007")
        mira.until(lambda: mira.one("[aria-label=Title]").get_attribute("value") == "The borrowed sea", "the edit")
        mira.keys("h")
        mira.see("Tomas")
        usual = ("status of 4", "Cross-Origin-Opener-Policy header has been ignored")  # the second without TLS
        told = [t for t in mira.trouble() + tomas.trouble() if not any(u in t for u in usual)]
        assert not told, "nothing is broken, and nothing that the page may not load"

        with ws.database.session() as s:
            for row in s.query(SignIn):
                s.delete(row)
        tomas.write_over(tomas.one("[aria-label=Title]"), "The borrowed river\ue007")
        tomas.see("Sign in again")
        assert faults(tomas) == []
        fill(tomas, password=PASSWORD)
        tomas.click("Sign in")
        tomas.until(lambda: not tomas.all("[data-sign-in]"), "in again")
        tomas.until(lambda: "renamed the project" in tomas.one("header").text, "what was done is sent")
        tomas.one("[data-account]").click()
        tomas.click("Sign out")
        tomas.see("No account? Ask whoever invited you")
    finally:
        mira.driver.quit()
        tomas.driver.quit()


def test_a_second_factor_is_set_up_before_anything_opens_and_asked_for_ever_after(server, checker, tmp_path):
    entrance = Entrance(from_elsewhere=True, second_wanted=True)
    with empty_workspace(server, tmp_path) as ws, served(ws, checker, entrance=entrance) as address:
        page = Page(chromium(), address)
        try:
            page.open(f"/enter#{invitations.first(ws)}")
            fill(page, name="Mira", login="mira", password=PASSWORD)
            page.click("Make the account")
            page.see("A second factor is needed here")
            assert faults(page) == []
            page.click("Set it up")
            letters = page.one("[data-letters]").text.replace(" ", "")
            assert faults(page) == []
            fill(page, password=PASSWORD, code="000000")
            page.click("Turn it on")
            page.see("This code does not hold")
            fill(page, password=PASSWORD, code=pyotp.TOTP(letters).now())
            page.click("Turn it on")
            page.one("[data-spare-codes]")
            spare = page.all("[data-spare-codes] li")[3].text
            assert faults(page) == []
            page.click("I have kept them")
            page.see("A new project")
            page.one("[data-account]").click()
            page.click("Sign out")
            page.one("[data-sign-in]")
            fill(page, login="mira", password=PASSWORD)
            page.one("[data-sign-in] form button").click()
            page.see("Now the code that your app shows")
            assert faults(page) == []
            fill(page, code=spare)
            page.one("[data-sign-in] form button").click()
            page.one("[data-account]").click()
            page.click("Second factor")
            page.see("9 spare codes are left")
            assert faults(page) == []
        finally:
            page.driver.quit()


def test_a_reviewer_is_told_so_and_is_offered_no_check_and_no_undo(server, checker, tmp_path):
    entrance = Entrance(from_elsewhere=True)
    with empty_workspace(server, tmp_path) as ws, served(ws, checker, entrance=entrance) as address:
        project = projects.make(ws, "The borrowed tide")
        plan.add_scene(ws, project, "One")
        person(ws, "mira", keeper=True)
        joins(ws, project, person(ws, "ines"), "reviewer")
        page = Page(chromium(), address)
        try:
            page.open(f"/p/{project}/sheet")
            fill(page, login="ines", password=PASSWORD)
            page.one("[data-sign-in] form button").click()
            page.one("[data-reviews]")
            assert not page.all("[data-check]")
            assert not page.all("header button[title='Ctrl+Z']")
            assert faults(page) == []
            page.one("[aria-label=Title]").send_keys("!\ue007")
            page.see("You are a reviewer here")
            page.until(
                lambda: page.one("[aria-label=Title]").get_attribute("value") == "The borrowed tide", "as it was"
            )
        finally:
            page.driver.quit()
