"""Forty findings reviewed by keyboard, each looked at, in fewer than eighty keys and clicks; and what they taught."""

import pytest
from selenium.webdriver.common.by import By

from juxtaform.studio import report, takes
from juxtaform.studio.findings import Findings, unstet
from tests.conftest import Staged, rows
from tests.review_project import COUNT, forty


@pytest.fixture(scope="module")
def reviewed(ws, checker):
    project, shots = forty(ws, "Forty to look at")
    checker.start(project)
    checker.wait(project, 300)
    return project, shots


class Hand:
    """Counts every key and click."""

    def __init__(self, page):
        self.page, self.used = page, 0

    def key(self, *keys):
        self.used += len(keys)
        self.page.keys(*keys)

    def chord(self, *keys):
        self.used += len(keys)
        self.page.chord(*keys)


def left(page):
    found = page.all("[data-left]")
    return int(found[0].get_attribute("data-left")) if found else None


def test_forty_findings_are_reviewed_in_fewer_than_eighty_keys(page, ws, reviewed):
    project, _ = reviewed
    page.open(f"/p/{project}/continuity")
    page.see(f"{COUNT} to look at")
    hand = Hand(page)
    hand.key("v")
    page.until(lambda: left(page) == COUNT, "forty to decide")
    looked = set()
    turn = 0
    while left(page):
        before = left(page)
        shown = page.one("[data-review]").get_attribute("data-review")
        assert shown not in looked
        looked.add(shown)
        if turn == 0:
            hand.key("s")  # in words of one's own, once
            page.one("[name=reason]")
            hand.key(*"ok", "\ue007")
            page.until(lambda: not page.all("[name=reason]"), "the reason was taken")
        else:
            hand.key("t" if turn % 3 == 0 else "12345"[turn % 5])
        turn += 1
        page.until(lambda b=before: left(page) == b - 1, f"finding {turn} decided")
    assert len(looked) == COUNT
    assert hand.used < 80
    page.see("All is decided.")
    verdicts = [s["verdict"] for s in rows(ws, project, "stet")]
    assert len(verdicts) == COUNT
    assert verdicts.count("retake") == sum(1 for i in range(1, COUNT) if i % 3 == 0)
    page.see("What your decisions taught")
    assert page.all("[data-bands] button")
    told = report.as_html(ws, Findings(ws), project).data.decode()
    assert "0 open." in told
    assert page.trouble() == []


def test_a_group_is_decided_with_one_chord_and_taken_back_by_undo(page, ws, reviewed):
    project, _ = reviewed
    for row in rows(ws, project, "stet"):
        unstet(ws, project, row["id"])
    page.open(f"/p/{project}/continuity")
    page.see(f"{COUNT} to look at")
    page.keys("v")
    page.until(lambda: left(page) == COUNT, "forty to decide")
    group = page.one("[data-group]")
    count = len(group.find_elements(By.CSS_SELECTOR, "[data-finding-key]"))
    assert count > 1
    page.chord("\ue008", "t")
    page.until(lambda: left(page) == COUNT - count, "the group is decided")
    page.see(f"{count} retake")
    page.chord("\ue009", "z")
    page.until(lambda: left(page) == COUNT, "taken back")
    assert page.trouble() == []


def test_who_is_not_marked_is_asked_about_and_answered_by_keys(page, ws, checker):
    staged = Staged(ws)
    take = next(t for t in rows(ws, staged.project, "take") if t["shot_id"] == staged.shots[3])
    mark = next(m for m in rows(ws, staged.project, "mark") if m["take_id"] == take["id"])
    takes.unmark(ws, staged.project, mark["id"])
    checker.start(staged.project)
    checker.wait(staged.project, 120)
    page.open(f"/p/{staged.project}/continuity/{staged.ada}")
    page.see("not marked in shot 4")
    page.until(lambda: page.all("[data-act]"), "findings are there")
    page.keys("[")
    page.one("[data-finding=unmarked_doubtful]")
    page.keys("n")
    page.one("[data-finding=figure_missing]")
    page.keys("o")
    page.until(lambda: not page.all("[data-finding=figure_missing]"), "it is out of the shot")
    assert staged.shots[3] not in {
        b["shot_id"] for b in rows(ws, staged.project, "bead") if b["thread_id"] == staged.ada
    }
