"""Who and what is in a picture against the plan."""

from dataclasses import dataclass, replace
from types import SimpleNamespace

import numpy as np
import pytest

from juxtaform.core.check.company import company_findings, leaks
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import Cast, check
from juxtaform.core.check.states import Company, Mark, ShotState
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.standing import Place, other_places, sought
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.figure.who import Identity
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.media.network import figure_eye, judges
from tests.constructed import random_look, random_pose, reference, scene

TITLES = {"a": "Ada", "b": "Bo", "k": "The key"}
KINDS = {"a": "character", "b": "character", "k": "prop"}
SOMEWHERE = Box(10, 10, 60, 120)


def told(*company, assigned="a", marks=(), others=()):
    """The findings of a picture of nobody's making: only who was looked for in it counts."""
    measure = measure_picture(np.full((300, 450, 3), 120, np.uint8), [])
    shot = ShotState("s", "1", "", frozenset(assigned), None, (), measure, None, company)
    shot = replace(
        shot, marks=tuple(Mark(t, b) for t, b in marks), picture=replace(measure, appearances=(SEEN,) * len(marks))
    )
    return company_findings([shot, *others], TITLES, KINDS, {})


class _Seen:
    identity = None
    traits = ()


SEEN = _Seen()


def test_somebody_whom_the_plan_does_not_name_is_told_or_asked_about():
    [sure] = told(Company("b", (Place(SOMEWHERE, 3.0),)))
    assert (sure.kind, sure.title) == ("unplanned", "Bo is here, and the plan does not say so")
    [asked] = told(Company("b", (Place(SOMEWHERE, 1.0),)))
    assert asked.kind == "unplanned_doubtful"
    assert told(Company("b", (Place(SOMEWHERE, 0.1),))) == []


def test_somebody_in_the_place_of_somebody_who_was_not_found_is_one_finding():
    elsewhere = replace(shots_with_ada(1)[0], id="o", assigned=frozenset("b"))
    bo, ada = Company("b", (Place(SOMEWHERE, 3.0),)), Company("a", (Place(SOMEWHERE, -5.0),))
    [found] = told(bo, ada, others=[elsewhere])
    assert (found.kind, found.thread, found.title) == ("unplanned", "b", "Bo is here, and the plan has Ada")
    assert "take Ada out" in found.advice
    # What is only asked, and who may be there, are matters of their own.
    asked = told(Company("b", (Place(SOMEWHERE, 1.0),)), ada, others=[elsewhere])
    assert [f.kind for f in asked] == ["unplanned_doubtful", "unmarked_doubtful"]
    likely = told(bo, Company("a", (Place(Box(200, 10, 60, 120), -1.0),)), others=[elsewhere])
    assert [f.kind for f in likely] == ["unplanned", "unmarked_doubtful"]


def test_somebody_whom_the_plan_has_nowhere_is_told_once():
    measure = measure_picture(np.full((300, 450, 3), 120, np.uint8), [])
    bo = [
        ShotState(f"s{i}", str(i), "", frozenset(), None, (), measure, None, (Company("b", (Place(SOMEWHERE, odds),)),))
        for i, odds in enumerate((1.0, 3.0, 0.0, 1.2))
    ]
    [found] = company_findings(bo, TITLES, KINDS, {})
    assert found.title == "Bo is in shots 0, 1 and 3, and the plan has Bo nowhere"
    assert (found.kind, found.shot, found.until) == ("unplanned", "s0", "s3")
    [many] = company_findings(bo * 3, TITLES, KINDS, {})
    assert many.title == "Bo is in 9 shots from 0 to 3, and the plan has Bo nowhere"
    [alone] = company_findings(bo[:1], TITLES, KINDS, {})
    assert alone.title == "Is this Bo? The plan has nobody like that here"
    planned = replace(bo[2], assigned=frozenset("b"), company=())
    assert len(company_findings([*bo[:2], planned, bo[3]], TITLES, KINDS, {})) == 3


def test_a_place_of_somebody_who_is_marked_is_theirs():
    assert told(Company("b", (Place(SOMEWHERE, 5.0),)), marks=[("a", Box(8, 8, 70, 130))]) == []


def test_a_place_of_somebody_planned_whom_nobody_marked_yet_is_theirs():
    ada = Company("a", (Place(Box(12, 12, 60, 120), 2.0),))
    assert [f.thread for f in told(Company("b", (Place(SOMEWHERE, 3.0),)), ada)] == ["a"]
    [found, _] = told(Company("b", (Place(SOMEWHERE, 5.0),)), ada)
    assert found.kind == "unplanned"


def test_a_figure_twice_is_told_at_the_second_place():
    marks = [("a", Box(300, 10, 60, 120))]
    [found] = told(Company("a", (Place(SOMEWHERE, 2.5),)), marks=marks)
    [asked] = told(Company("a", (Place(SOMEWHERE, 1.5),)), marks=marks)
    assert asked.title == "Is Ada there twice?"
    assert (found.kind, found.region) == ("twice", SOMEWHERE)
    both = (Place(Box(300, 10, 60, 120), 4.0), Place(SOMEWHERE, 3.0))
    assert [f.region for f in told(Company("a", both)) if f.kind == "twice"] == [SOMEWHERE]


def shots_with_ada(marked, *unmarked):
    """So many pictures in which Ada is marked, and others in which she is planned and was looked for."""
    measure = measure_picture(np.full((300, 450, 3), 120, np.uint8), [])
    right = [
        ShotState(
            f"m{i}", str(i), "", frozenset("a"), None, (Mark("a", SOMEWHERE),), replace(measure, appearances=(SEEN,))
        )
        for i in range(marked)
    ]
    return right + [
        ShotState(f"u{i}", str(i), "", frozenset("a"), None, (), measure, None, (one,))
        for i, one in enumerate(unmarked)
    ]


def test_who_is_planned_and_not_marked_is_asked_about():
    """Somebody else in her place looks like nobody to whoever looks for her: without a question nothing would be said."""
    unseen, likely, waits = (
        Company("a", (Place(SOMEWHERE, -4.0),)),
        Company("a", (Place(SOMEWHERE, -1.0),)),
        Company("a", (), looked=False),
    )
    found = company_findings(shots_with_ada(4, unseen, likely, waits), TITLES, KINDS, {})
    assert {f.kind for f in found} == {"unmarked_doubtful"}
    assert [f.shot for f in found] == ["u0", "u1", "u2"]
    assert [f.region for f in found] == [None, SOMEWHERE, None]
    assert [f.evidence[0].measured for f in found] == ["nobody like it", "a likely place, framed", "not yet"]
    assert found[0].title == "Is Ada in this picture? Nobody like Ada was found"
    assert found[0].severity > found[1].severity == found[2].severity
    assert company_findings(shots_with_ada(4), TITLES, KINDS, {}) == []


def test_a_place_where_somebody_else_is_marked_is_nobody_else_s():
    *right, there = shots_with_ada(4, Company("a", (Place(SOMEWHERE, 0.5),)))
    [asked] = company_findings([*right, there], TITLES, KINDS, {})
    assert (asked.region, asked.severity) == (SOMEWHERE, 0.6)
    taken = replace(there, marks=(Mark("b", SOMEWHERE),), assigned=frozenset("ab"), picture=right[0].picture)
    found = [f for f in company_findings([*right, taken], TITLES, KINDS, {}) if f.kind == "unmarked_doubtful"]
    assert [(f.title, f.region) for f in found] == [("Is Ada in this picture? Nobody like Ada was found", None)]
    assert found[0].evidence[0].measured == "only somebody who is marked as another"
    assert found[0].severity > asked.severity


def test_who_is_hardly_marked_anywhere_is_told_once():
    unseen = [Company("a", (Place(SOMEWHERE, -4.0),))] * 5
    [few] = company_findings(shots_with_ada(2, *unseen), TITLES, KINDS, {})
    assert (few.title, few.shot, few.until) == ("Ada is marked in 2 of 7 pictures", "u0", "u4")
    [none] = company_findings(shots_with_ada(0, *unseen), TITLES, KINDS, {})
    assert none.title == "Ada is marked in no picture"


def test_who_is_said_not_to_be_there_is_missing():
    [found] = company_findings(shots_with_ada(1, Company("a", (), refused=True)), TITLES, KINDS, {})
    assert (found.kind, found.title) == ("figure_missing", "Ada is not in the picture, and the plan has Ada here")


def test_a_prop_that_is_said_not_to_be_there_is_missing():
    [found] = told(Company("k", (), refused=True), assigned="ak")
    assert (found.kind, found.severity) == ("prop_missing", 1.6)


def test_a_prop_that_is_found_elsewhere_is_asked_about_where_it_is_not():
    measure = measure_picture(np.full((300, 450, 3), 120, np.uint8), [])
    others = [
        ShotState(
            f"o{i}", str(i + 2), "", frozenset("k"), None, (), measure, None, (Company("k", (Place(SOMEWHERE, 3.0),)),)
        )
        for i in range(2)
    ]
    assert [f.kind for f in told(Company("k", (Place(SOMEWHERE, -4.0),)), assigned="k", others=others)] == [
        "prop_doubtful"
    ]
    assert told(Company("k", (Place(SOMEWHERE, -4.0),)), assigned="k") == []
    assert told(Company("k", (), looked=False), assigned="k", others=others) == []
    # Ada is marked in those pictures, and here: beside her, the key must be large enough to be found.
    beside = [
        replace(o, marks=(Mark("a", Box(0, 0, 80, 240)),), picture=replace(measure, appearances=(SEEN,)))
        for o in others
    ]
    for height, kinds in ((200, ["prop_doubtful"]), (60, [])):
        marks = [("a", Box(0, 0, height / 3, height))]
        found = told(Company("k", (Place(SOMEWHERE, -4.0),)), assigned="k", marks=marks, others=beside)
        assert [f.kind for f in found] == kinds


@pytest.fixture(scope="module")
def pair():
    rng = np.random.default_rng(12)
    return random_look(rng), random_look(rng)


def test_the_cast_is_looked_for_where_nobody_is_marked(pair):
    eye, rng = figure_eye(), np.random.default_rng(13)
    picture, boxes = scene(list(pair), rng, scale=0.95, ground=5)
    figures = [sought(eye, [reference(look)]) for look in pair]
    ada, bo = other_places(eye, picture, figures, boxes[:1])
    assert all(p.odds < 0.6 for p in ada)
    assert bo[0].odds > 0.6
    middle = bo[0].box.x + bo[0].box.w / 2
    assert boxes[1].x < middle < boxes[1].x + boxes[1].w
    assert other_places(eye, picture, figures, [Box(0, 0, 900, 600)]) == [(), ()]


def test_a_costume_of_another_scene_is_named(pair):
    eye, rng = figure_eye(), np.random.default_rng(14)
    usual, other = pair
    night = replace(other, hair=usual.hair, skin=usual.skin)
    known = [
        known_figure(figure_model(n, [reference_view(reference(look), "front", eye=eye, id=n)], owner="a"), eye)
        for n, look in (("a", usual), ("a/night", night))
    ]
    picture, [box] = scene([night], rng, scale=0.95, ground=5)
    measure = measure_picture(picture, [(box, known[0])], known, None, eye)
    shot = ShotState("s", "1", "", frozenset("a"), None, (Mark("a", box),), measure)
    [found] = company_findings([shot], TITLES, KINDS, {"a/night": "the night-shirt"})
    assert found.title == "Ada wears the night-shirt; the plan says the usual costume"
    right = measure_picture(picture, [(box, known[1])], known, None, eye)
    assert company_findings([replace(shot, picture=right)], TITLES, KINDS, {}) == []


def test_a_colour_of_somebody_beside_is_told_as_a_leak(pair):
    eye, rng = figure_eye(), np.random.default_rng(15)
    known = [
        known_figure(
            figure_model(
                n,
                [
                    reference_view(reference(look), "front", eye=eye),
                    reference_view(reference(look, random_pose(rng)), "pose", eye=eye),
                ],
                owner=n,
            ),
            eye,
        )
        for n, look in zip("ab", pair, strict=True)
    ]
    shots = []
    for i in range(5):
        ada = replace(pair[0], coat=pair[1].coat) if i == 2 else pair[0]
        picture, boxes = scene([ada, pair[1]], rng, ground=5 + i % 4, scale=0.95)
        measure = measure_picture(picture, list(zip(boxes, known, strict=True)), known, None, eye)
        marks = tuple(Mark(n, b) for n, b in zip("ab", boxes, strict=True))
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("ab"), None, marks, measure))
    found = [
        f for f in check(shots, [], [Named("a", "Ada"), Named("b", "Bo")], judges=judges()).findings if f.shot == "s2"
    ]
    assert [f.kind for f in found if f.thread == "a"] == ["leak"]
    assert "has got into Ada’s" in found[0].title


@dataclass(frozen=True)
class _Part:
    name: str
    expected: tuple[str, ...]


@pytest.mark.parametrize(
    ("belt", "kind"), [("#2f7d4f", "leak"), ("#3a3f74", "trait_changed")], ids=["nobody else's", "its own belt's"]
)
def test_a_colour_that_is_as_near_to_another_part_of_its_own_is_no_leak(belt, kind):
    wears = [SimpleNamespace(traits=(_Part("Coat", ("#b4532a",)), _Part("Belt", (belt,))))]
    wears.append(SimpleNamespace(traits=(_Part("Cape", ("#3b3f73",)),)))
    measure = replace(measure_picture(np.full((300, 450, 3), 120, np.uint8), []), appearances=tuple(wears))
    marks = (Mark("a", SOMEWHERE), Mark("b", Box(200, 10, 60, 120)))
    shot = ShotState("s", "1", "", frozenset("ab"), None, marks, measure)
    colours = (
        Evidence("Coat, expected", "", expected_hex="#b4532a"),
        Evidence("Coat, seen", "", measured_hex="#3a3f74"),
    )
    changed = Finding(
        source="check",
        kind="trait_changed",
        title="",
        advice="",
        shot="s",
        thread="a",
        trait="Coat",
        measured=40.0,
        evidence=colours,
    )
    assert [f.kind for f in leaks([changed], [shot], TITLES)] == [kind]


def test_what_is_no_changed_trait_stays_as_it_is():
    plain = Finding(source="check", kind="border", title="", advice="", shot="s")
    assert leaks([plain], [], {}) == [plain]


def test_in_a_wrong_costume_somebody_is_themselves_and_only_the_costume_is_told(pair):
    eye, rng = figure_eye(), np.random.default_rng(8)
    usual, other = pair
    night = replace(usual, coat=other.coat, legs=other.legs, boots=other.boots, coat_form=(usual.coat_form + 1) % 3)
    bo = random_look(rng)

    def known(name, owner, look):
        views = [reference_view(reference(look, p), "view", eye=eye) for p in (None, random_pose(rng))]
        return known_figure(figure_model(name, views, owner=owner), eye)

    cast = [known("a", "a", usual), known("a/night", "a", night), known("b", "b", bo)]
    shots = []
    for i in range(5):
        picture, boxes = scene([night if i == 2 else usual, bo], rng, ground=5 + i % 4, scale=0.95)
        measure = measure_picture(picture, list(zip(boxes, (cast[0], cast[2]), strict=True)), cast, None, eye)
        marks = tuple(Mark(n, b) for n, b in zip("ab", boxes, strict=True))
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("ab"), None, marks, measure))
    told = Cast(kinds=KINDS, costumes={"a/night": "night"})
    found = check(shots, [], [Named("a", "Ada"), Named("b", "Bo")], judges=judges(), cast=told)
    assert [(f.shot, f.title) for f in found.findings if f.thread == "a"] == [
        ("s2", "Ada wears night; the plan says the usual costume")
    ]
    assert [p.verdict for p in found.threads["a"].figures][2] in ("holds", "drifts")


def test_a_stranger_wears_no_costume_of_the_character():
    def seen(score, night):
        return Identity(score, 0, 0.5, {}, costumes={"a/night": night})

    assert (seen(-4.0, 2.5).wears, seen(-4.0, 2.5).as_worn) == ("a/night", 2.5)
    assert (seen(-4.0, -1.0).wears, seen(-4.0, -1.0).as_worn) == (None, -4.0)
    assert seen(2.0, 2.5).wears is None
