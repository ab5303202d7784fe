"""A review of real rows: decisions in one step, what they teach, groups with what they come from, and the report."""

from collections import Counter
from html.parser import HTMLParser
from types import SimpleNamespace

import pytest

from juxtaform.core.picture.regions import Box
from juxtaform.studio import checking, fault_marks, projects, report, review, takes
from juxtaform.studio.findings import Findings, let_stand
from juxtaform.studio.workspace import Conflict, NotPossible, NotThere
from tests.conftest import Staged, rows
from tests.review_project import BORDERED, COUNT, JOLTED, NAMED, OTHER_FORM, forty


@pytest.fixture(scope="module")
def checked(ws, checker):
    project, shots = forty(ws)
    checker.start(project)
    checker.wait(project, 300)
    return project, shots


@pytest.fixture
def findings(ws):
    return Findings(ws)


def decided(ws, project):
    return {x["finding_key"]: x for x in rows(ws, project, "stet")}


def test_the_check_finds_what_was_put_there(ws, checked, findings):
    project, shots = checked
    at = {s: i for i, s in enumerate(shots)}
    told = Counter((f.kind, at[f.shot]) for f in findings.of(project, "check"))
    wanted = {"named_absent": NAMED, "aspect": OTHER_FORM, "border": BORDERED, "rhythm": JOLTED}
    assert set(told) == {(kind, i) for kind, where in wanted.items() for i in where}
    assert told.total() == COUNT == 40


def test_findings_come_in_groups_the_weightiest_first(ws, checked, findings):
    project, _ = checked
    told = review.review(findings, project)
    assert sum(len(g.keys) for g in told.groups) == COUNT
    assert [g.weight for g in told.groups] == sorted((g.weight for g in told.groups), reverse=True)
    borders = next(g for g in told.groups if "printed borders" in g.title)
    assert (borders.title, len(borders.keys)) == ("printed borders, in 10 pictures", 10)


def test_several_findings_are_decided_in_one_step_and_undone_in_one(ws, checked, findings):
    project, _ = checked
    keys = [f.key for f in findings.of(project, "check") if f.kind == "border"]
    findings.decide(project, keys, "stet", "the frame is part of the book")
    assert let_stand(ws, project) >= set(keys)
    with pytest.raises(Conflict):  # another window that has not seen the stets
        findings.decide(project, keys[:2], "retake", seen={})
    seen = {k: decided(ws, project)[k]["revision"] for k in keys[:2]}
    findings.decide(project, keys[:2], "retake", seen=seen)
    assert {decided(ws, project)[k]["verdict"] for k in keys[:2]} == {"retake"}
    assert not let_stand(ws, project) & set(keys[:2])
    projects.undo(ws, project)
    projects.undo(ws, project)
    assert decided(ws, project) == {}


def test_what_nobody_found_cannot_be_decided_and_nothing_of_it_is_kept(ws, checked, findings):
    project, _ = checked
    key = findings.of(project, "check")[0].key
    with pytest.raises(NotThere):
        findings.decide(project, [key, "f" * 40], "retake")
    with pytest.raises(NotPossible):
        findings.decide(project, [key], "stet", "  ")
    assert decided(ws, project) == {}


def test_decisions_teach_how_far_a_term_may_go_until_that_is_set_back(ws, checker, checked, findings):
    project, _ = checked
    jolts = [f for f in findings.of(project, "check") if f.kind == "rhythm"]
    findings.decide(project, [f.key for f in jolts[:5]], "stet", "a jolt is meant")
    [band] = review.review(findings, project).bands
    assert band.label == "the rhythm"
    assert band.after > 1.0
    assert band.words.startswith("After 5 accepted, the rhythm may vary")
    checker.start(project)
    checker.wait(project, 300)
    left = {f.key for f in findings.of(project, "check") if f.kind == "rhythm"}
    assert left == {f.key for f in jolts[:5]}  # what was decided stays to be seen; the others are within the band
    assert len(checking.outcome(ws, project).within) == 3
    assert review.review(findings, project).bands[0].within == 3
    projects.edit(ws, project, {"unlearned": [{"thread_id": "", "term": band.term}]}, None)
    checker.start(project)
    checker.wait(project, 300)
    assert len([f for f in findings.of(project, "check") if f.kind == "rhythm"]) == len(JOLTED)
    assert not review.review(findings, project).bands[0].used
    for _ in range(2):
        projects.undo(ws, project)
    checker.start(project)
    checker.wait(project, 300)


class _Seen(HTMLParser):
    def __init__(self):
        super().__init__()
        self.tags, self.words, self.asked = Counter(), [], []

    def handle_starttag(self, tag, attrs):
        self.tags[tag] += 1
        self.asked += [v for k, v in attrs if k in ("src", "href") and not v.startswith("data:")]

    def handle_data(self, data):
        self.words.append(data)


def test_the_report_says_all_to_somebody_who_has_only_the_file(ws, checked, findings):
    project, _ = checked
    keys = [f.key for f in findings.of(project, "check") if f.kind == "border"]
    findings.decide(project, keys[:1], "stet", "the frame is <meant> & stays")
    findings.decide(project, keys[1:3], "retake")
    page = report.as_html(ws, findings, project)
    seen = _Seen()
    seen.feed(page.data.decode())
    text = " ".join(seen.words)
    assert seen.asked == []
    assert seen.tags["article"] == COUNT
    assert seen.tags["img"] >= COUNT
    assert "40 findings: 1 let stand, 2 to be made again, 37 open." in text
    assert "Let stand: the frame is <meant> & stays" in text
    pdf = report.as_pdf(ws, findings, project)
    assert pdf.data.startswith(b"%PDF")
    assert pdf.data.count(b"/Type /Page\n") + pdf.data.count(b"/Type /Page ") + pdf.data.count(b"/Type /Page>") > 3
    for _ in range(2):
        projects.undo(ws, project)


def test_without_a_check_the_report_says_so(ws, findings):
    made = report.as_html(ws, findings, projects.make(ws, "Unchecked"))
    assert b"Nothing was checked yet. Check the pictures" in made.data


def test_a_fault_mark_on_a_trait_teaches_that_it_went_too_far(ws, checker):
    staged = Staged(ws)
    checker.start(staged.project)
    checker.wait(staged.project, 300)
    point = checking.outcome(ws, staged.project).result.threads[staged.ada].figures[0]
    trait = max((t for t in point.appearance.traits if t.difference is not None), key=lambda t: t.region.w * t.region.h)
    take = next(t for t in rows(ws, staged.project, "take") if t["picked"] and t["shot_id"] == point.shot)
    r = trait.region
    fault_marks.add(ws, staged.project, take["id"], "other", Box(r.x, r.y, r.w, r.h), "wrong colour")
    checker.start(staged.project)
    checker.wait(staged.project, 300)
    lessons = checking.outcome(ws, staged.project).from_pictures
    assert any(x.term == (staged.ada, f"trait_changed:{trait.name}") and not x.accepted for x in lessons)


def test_a_picture_that_is_kept_as_it_is_teaches_what_may_stand(ws, checker, findings):
    project, _ = forty(ws, "Kept")
    checker.start(project)
    checker.wait(project, 300)
    jolts = [f for f in findings.of(project, "check") if f.kind == "rhythm"]
    kept = {f.shot for f in jolts[:6]}
    takes.stand(ws, project, [t["id"] for t in rows(ws, project, "take") if t["shot_id"] in kept], "kept")
    checker.start(project)
    checker.wait(project, 300)
    [band] = review.review(findings, project).bands
    assert (band.accepted, band.label) == (6, "the rhythm")
    assert [f for f in findings.of(project, "check") if f.kind == "rhythm"] == []


def test_a_band_of_something_extra_is_called_by_its_colour_and_whom_it_is_on():
    rows_held = SimpleNamespace(threads={"a": SimpleNamespace(name="Pell")})
    assert review._label("a", "extra:red", rows_held) == "something red on Pell"
    assert review._label("gone", "extra:red", rows_held) == "something red"
    assert review._label("a", "trait_changed:Coat", rows_held) == "Pell’s coat"
