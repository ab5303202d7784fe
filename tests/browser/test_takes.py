"""Takes: from brief to picked take with the Understudy; a trial finds the better weight; a bad hand is marked, cropped away, and its cause told."""

import numpy as np
import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from juxtaform.studio import making, plan, projects, services, takes, threads
from juxtaform.studio.making import Order
from tests.browser.test_accessible import faults
from tests.conftest import png, row, rows
from tests.constructed import scene
from tests.services_at_work import understudy, with_ada


@pytest.fixture
def own_understudy(ws):
    """The Understudy that ships, where the server looks for it; it never slips."""
    with understudy() as (address, app):
        ws.understudy = (address, "")
        yield app
    ws.understudy = None


@pytest.fixture
def shots(ws, project, own_understudy):
    """Three shots with Ada on a quay, and a service."""
    shots = with_ada(ws, project)
    threads.make(ws, project, "setting", "Quay")
    quay = rows(ws, project, "thread")[-1]["id"]
    ground = takes.take_in(ws, "quay.png", png(scene([], np.random.default_rng(11), ground=5)[0])).sha
    threads.add_references(ws, project, quay, [(ground, "wide")], "")
    threads.assign(ws, project, quay, shots, on=True)
    return shots


def made(ws, project):
    return sorted(rows(ws, project, "take"), key=lambda t: t["position"])


def measured(page, count):
    page.until(lambda: len(page.all("[data-take]")) >= count, f"{count} takes")
    page.until(lambda: "being measured" not in page.one("[data-contact-sheet]").text, "all measured")


def test_from_brief_to_picked_take_with_the_understudy(page, ws, project, shots):
    page.open(f"/p/{project}/takes")
    page.see("No picture of this shot yet")
    page.one("[data-open-making]").click()
    page.one("[data-add-understudy]").click()
    page.see("Each shot’s brief goes out as it stands")
    box = page.one("#mt-count")
    box.send_keys(Keys.CONTROL, "a")
    box.send_keys("3")
    page.one("[data-offer]")
    if page.all("[data-held-back]"):
        page.one("[data-held-back] input[type=checkbox]").click()
    page.see("3 takes of 1 shot")
    page.one("[data-make]").click()
    page.see("asked for")
    measured(page, 3)
    page.see("From the brief")
    page.see("3 takes · 3 credits")
    assert faults(page) == []
    page.one("[data-open-making]").click()
    page.one("[data-make]")
    assert faults(page) == []
    page.keys(Keys.ESCAPE)
    page.until(lambda: not page.all("[role=dialog]"), "closed")
    page.one("[data-take='2'] button").click()
    page.keys("-")
    page.until(lambda: "out" in page.one("[data-take='2']").text, "put out")
    page.one("[data-take='1'] button").click()
    page.keys(Keys.ENTER)
    page.until(lambda: "picked" in page.one("[data-take='1']").text, "picked")
    assert [(t["picked"], t["standing"]) for t in made(ws, project)] == [(True, ""), (False, "out"), (False, "")]
    page.one("[data-ledger]").click()
    page.see("2 shots are left")
    assert faults(page) == []
    page.keys(Keys.ESCAPE)
    assert page.trouble() == []


def test_takes_are_made_of_the_shots_chosen_on_the_sheet(page, ws, project, shots):
    page.open(f"/p/{project}/sheet")
    page.one(f"[data-shot='{shots[0]}'] > span").click()
    page.chord(Keys.SHIFT, Keys.ARROW_DOWN)
    page.one(f"[data-shot='{shots[1]}'].bg-wash")
    page.one(f"[data-shot='{shots[1]}'] [aria-haspopup=menu]").click()
    page.see("Make takes of these 2 …")
    page.at("//*[@role='menuitem'][contains(., 'of these 2')]").click()
    page.one("[data-add-understudy]").click()
    page.see("the 2 chosen")
    assert page.trouble() == []


def test_a_trial_finds_the_better_weight(page, ws, project, shots):
    services.add(ws, project, "Understudy", "understudy:")
    projects.edit(ws, project, {"seed_rule": "one", "seed": 100}, None)
    page.open(f"/p/{project}/takes")
    making.make(ws, project, Order((shots[0],), 2, row(ws, project, "service")["id"], as_it_is=True))
    measured(page, 2)
    page.one("[data-new-trial]").click()
    for name, weight in (("Weight 1", "20"), ("Weight 2", "90")):
        box = page.one(f"input[aria-label='{name}']")
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(weight, Keys.TAB)
    page.click("− one less")
    page.click("− one less")
    page.see("2 settings × 5 seeds")
    assert faults(page) == []
    page.one("[data-begin-trial]").click()
    page.until(lambda: page.all("[data-trial]"), "the trial")
    page.until(lambda: "Ada holds best with Ada 90 %" in page.one("[data-trial-told]").text, "the better weight", 90)
    assert faults(page) == []
    page.one("[data-setting='Ada 90 %'] button").click()
    page.one("[data-use-setting]").click()
    page.see("holds in this shot from now on")
    ada = next(t["id"] for t in rows(ws, project, "thread") if t["name"] == "Ada")
    beads = {b["shot_id"]: b["weight"] for b in rows(ws, project, "bead") if b["thread_id"] == ada}
    assert beads[shots[0]] == 0.9
    assert beads[shots[1]] != 0.9
    assert page.trouble() == []


def test_a_bad_hand_is_marked_cropped_away_and_its_cause_told(page, ws, project, shots):
    services.add(ws, project, "Understudy", "understudy:")
    for i, shot in enumerate(shots):
        plan.edit_shot(
            ws, project, shot, {"shows": f"Ada {'waves with both hands' if i == 0 else 'waits'} on the quay."}, None
        )
    projects.edit(ws, project, {"aspect": "3:2"}, None)
    page.open(f"/p/{project}/takes")
    making.make(ws, project, Order(tuple(shots), 6, row(ws, project, "service")["id"], as_it_is=True))
    measured(page, 6)
    page.until(lambda: len(made(ws, project)) == 18, "all takes")
    takes.stand(ws, project, [t["id"] for t in made(ws, project) if t["shot_id"] != shots[0]], "kept")
    for n in range(1, 7):
        picture = page.one(f"[data-take='{n}'] button")
        ActionChains(page.driver).move_to_element_with_offset(picture, 74, 44).perform()
        page.keys("1")
        page.until(lambda n=n: "hand" in page.one(f"[data-take='{n}']").text, f"take {n} marked")
    page.see("“hand”: 6 of 6 came with “hands”")
    page.one("[data-take='1'] button").click()
    page.keys("r")
    page.until(lambda: page.all("[data-crop]"), "crops")
    assert faults(page) == []
    page.keys(Keys.ENTER)
    page.until(lambda: len(made(ws, project)) == 19, "the rescue")
    page.see("Cropped from take 1")
    page.one("[data-mend-phrase]").click()
    page.see("The words are out of these briefs")
    edits = next(s for s in rows(ws, project, "shot") if s["id"] == shots[0])["brief_edits"]
    assert edits
    assert "hands" not in edits[0]["now"]
    assert page.trouble() == []
