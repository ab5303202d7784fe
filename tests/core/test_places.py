"""Places: known by their ground, whoever stands before it and in whatever light."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.places import place_threads
from juxtaform.core.check.states import Company, Mark, PlaceHome, PlaceReference, ShotPlan, ShotState
from juxtaform.core.figure.standing import Place
from juxtaform.core.picture.regions import Box
from juxtaform.core.place.ground import COLUMNS, ROWS
from juxtaform.core.place.match import compared, gone, ground_of, laid_over, unlike
from juxtaform.demo.paper import bordered, lit
from juxtaform.media.network import hand_eye
from tests.constructed import ground_picture, repainted

NIGHT = (0.42, 0.5, 0.74)


def seen_of(pixels):
    return measure_picture(pixels, [], None, None, None, hand_eye())


@pytest.fixture(scope="module")
def grounds():
    return {name: ground_picture(g, "paper") for name, g in (("steps", 0), ("lamp", 2), ("cave", 3))}


@pytest.fixture(scope="module")
def homes(grounds):
    return [PlaceHome(n, n.capitalize(), (PlaceReference(seen_of(p).place, ""),)) for n, p in grounds.items()]


def shot(i, pixels, place="steps", variant="", boxes=(), **plan):
    marks = tuple(Mark(f"f{k}", b) for k, b in enumerate(boxes))
    return ShotState(
        f"s{i}",
        str(i + 1),
        "",
        frozenset(),
        None,
        marks,
        seen_of(pixels),
        ShotPlan("one", places=((place, variant),), **plan),
    )


def nearer(pixels, x=120, y=100, w=600):
    part = pixels[y : y + w * 2 // 3, x : x + w]
    return np.asarray(cv2.resize(part, (900, 600), interpolation=cv2.INTER_CUBIC), np.uint8)


def test_a_place_holds_from_nearer_and_at_night(grounds, homes):
    shots = [shot(0, grounds["steps"]), shot(1, nearer(grounds["steps"])), shot(2, lit(grounds["steps"], NIGHT))]
    states, found = place_threads(homes, shots)
    assert found == []
    assert [p.verdict for p in states["steps"].places] == ["holds"] * 3


def test_another_place_is_named(grounds, homes):
    _, [found] = place_threads(homes, [shot(0, grounds["steps"]), shot(1, lit(grounds["cave"], NIGHT))])
    assert (found.shot, found.kind) == ("s1", "another_place")
    assert found.title == "This is not “Steps”; it looks most like “Cave”"


def test_a_place_that_is_on_no_reference_is_asked_about_unless_it_is_close(homes):
    strange = ground_picture(6, "paper")
    _, [found] = place_threads(homes[:1], [shot(0, strange)])
    assert found.kind in ("place_doubtful", "another_place")
    _, silent = place_threads(homes[:1], [shot(0, strange, size="CU")])
    assert silent == []


def test_a_place_that_its_references_hardly_know_is_asked_about_once(homes):
    strange = ground_picture(6, "paper")
    pictures = [strange, nearer(strange), nearer(strange, x=60), nearer(strange, y=60, w=700), lit(strange, NIGHT)]
    states, [found] = place_threads(homes[:1], [shot(i, p) for i, p in enumerate(pictures)])
    assert (found.kind, found.shot, found.until) == ("place_doubtful", "s0", "s4")
    assert found.title == "The pictures of “Steps” are hardly like its references"
    assert {p.verdict for p in states["steps"].places} == {"holds"}


@pytest.mark.parametrize("side", ["left", "right", "below"])
def test_black_stays_black_in_another_light(grounds, side):
    """A channel that shows nothing says nothing of the light, and what is nearly black is no other thing for being a little lighter."""
    cut = {"left": np.s_[:, :360], "right": np.s_[:, 540:], "below": np.s_[360:]}[side]
    day = grounds["lamp"].copy()
    day[cut] = (day[cut] * np.array([0.05, 0.07, 0.16])).astype(np.uint8)
    home = PlaceHome("lamp", "Lamp room", (PlaceReference(seen_of(day).place, ""),))
    pictures = [lit(nearer(day), (0.5, 0.3, 0.2)), lit(nearer(day, x=60), (0.2, 0.26, 0.4)), nearer(day)]
    _, found = place_threads([home], [shot(i, p, "lamp") for i, p in enumerate(pictures)])
    assert found == []


def test_another_variant_is_told_by_its_light(grounds):
    day, night = grounds["lamp"], lit(grounds["lamp"], (0.3, 0.36, 0.6))
    home = PlaceHome(
        "lamp", "Lamp room", (PlaceReference(seen_of(day).place, "day"), PlaceReference(seen_of(night).place, "night"))
    )
    shots = [
        shot(0, nearer(day), "lamp", "day"),
        shot(1, nearer(night), "lamp", "day"),
        shot(2, nearer(night), "lamp", "night"),
    ]
    _, [found] = place_threads([home], shots)
    assert (found.shot, found.title) == ("s1", "Lamp room looks like night; the plan says day")


@pytest.mark.parametrize("times", [0.3, 2.4, np.exp(1.1j)], ids=["greyer", "more colourful", "other hues"])
@pytest.mark.parametrize("name", ["steps", "lamp", "cave"])
def test_another_palette_is_no_changed_thing(grounds, homes, name, times):
    pictures = [grounds[name], nearer(grounds[name]), repainted(grounds[name], times), nearer(grounds[name], x=60)]
    _, found = place_threads(homes, [shot(i, p, name) for i, p in enumerate(pictures)])
    assert not [f for f in found if f.kind == "place_changed"]


def test_places_of_a_long_story_are_told_as_in_a_short_one(grounds, homes, monkeypatch):
    pictures = [grounds["steps"], nearer(grounds["steps"]), nearer(grounds["steps"], x=60)] * 3
    pictures[4] = grounds["lamp"]
    for home in (homes, [PlaceHome("steps", "Steps"), *homes[1:]]):
        shots = [shot(i, p) for i, p in enumerate(pictures)]
        told = []
        for held in (256, 1):
            monkeypatch.setattr("juxtaform.core.check.places.HELD", held)
            told.append(place_threads(home, shots))
        assert told[0] == told[1]
        assert told[0][1]


def test_a_mass_that_was_not_there_is_framed(grounds, homes):
    changed = grounds["cave"].copy()
    cv2.ellipse(changed, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    _, [found] = place_threads(homes, [shot(0, grounds["cave"], "cave"), shot(1, changed, "cave")])
    assert (found.shot, found.kind) == ("s1", "place_changed")
    x, y = found.region.x + found.region.w / 2, found.region.y + found.region.h / 2
    assert abs(x - 640) < 110
    assert abs(y - 330) < 110


def test_a_patch_that_the_pictures_around_have_too_is_told_of_all_or_of_none(grounds, homes):
    changed = grounds["cave"].copy()
    cv2.ellipse(changed, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    in_all = [shot(i, changed, "cave") for i in range(3)]
    assert [f.shot for f in place_threads(homes, in_all)[1]] == ["s0", "s1", "s2"], "all depart from the reference"
    without = [PlaceHome("cave", "Cave")]
    assert place_threads(without, [*in_all, shot(3, changed, "cave")])[1] == []


def test_a_mass_that_is_gone_is_told_where_others_have_it(grounds, homes):
    whole = grounds["cave"].copy()
    cv2.ellipse(whole, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    with_it = [replace(homes[2], references=(PlaceReference(seen_of(whole).place),))]
    shots = [shot(i, grounds["cave"] if i == 1 else whole, "cave") for i in range(4)]
    _, [told] = place_threads(with_it, shots)
    assert (told.shot, told.title) == ("s1", "Something of “Cave” is gone that is on its references")
    x, y = told.region.x + told.region.w / 2, told.region.y + told.region.h / 2
    assert abs(x - 640) < 110
    assert abs(y - 330) < 110
    _, alone = place_threads(with_it, shots[1:2])
    assert alone == [], "one reference may show somebody who walked past"


def test_a_place_without_references_is_held_against_its_own_pictures(grounds):
    page = grounds["cave"]
    changed = page.copy()
    cv2.ellipse(changed, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    home, lamp = PlaceHome("cave", "Cave"), PlaceHome("lamp", "Lamp room")
    shots = [shot(i, lit(page, NIGHT) if i == 1 else page, "cave") for i in range(5)]
    of_lamp = [shot(i, grounds["lamp"], "lamp") for i in range(6, 10)]
    states, found = place_threads([home], shots)
    assert (found, {p.verdict for p in states["cave"].places}) == ([], {"holds"})
    _, [told] = place_threads([home], [*shots[:2], shot(2, changed, "cave"), *shots[3:]])
    assert (told.shot, told.title) == ("s2", "Something of “Cave” is not as in its other pictures")
    assert "shots 1, 2, 4, 5" in [e.measured for e in told.evidence]
    _, [elsewhere] = place_threads([home, lamp], [*shots, shot(5, grounds["lamp"], "cave"), *of_lamp])
    assert (elsewhere.shot, elsewhere.kind) == ("s5", "place_doubtful")
    assert elsewhere.title == "Is this “Cave”? It looks more like “Lamp room”"
    _, few = place_threads([home], [shots[0], shot(1, grounds["lamp"], "cave")])
    assert few == [], "two pictures that are unlike make no place"


def test_figures_are_taken_out_of_the_ground(grounds, homes):
    crowded = grounds["cave"].copy()
    cv2.ellipse(crowded, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    stands = Box(480, 180, 320, 300)
    _, found = place_threads(homes, [shot(0, crowded, "cave", boxes=[stands])])
    assert found == []
    unmarked = replace(shot(0, crowded, "cave"), company=(Company("f0", (Place(stands, 2.0),)),))
    assert place_threads(homes, [unmarked])[1] == [], "somebody who was found and is not marked is no part of the place"


def test_a_picture_full_of_figures_says_nothing_of_its_place(grounds, homes):
    states, found = place_threads(homes, [shot(0, grounds["cave"], "steps", boxes=[Box(0, 0, 900, 560)])])
    assert (states, found) == ({}, [])


def test_of_pictures_by_another_hand_only_another_place_is_told(grounds, homes):
    changed = grounds["cave"].copy()
    cv2.ellipse(changed, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    shots = [shot(0, changed, "cave"), shot(1, grounds["lamp"], "cave")]
    _, found = place_threads(homes, shots, {"s0", "s1"})
    assert [(f.shot, f.kind) for f in found] == [("s1", "another_place")]


def test_the_light_between_two_pictures_of_a_place_is_read_off_its_ground(grounds):
    a, b = (ground_of(seen_of(p).place, 900, 600) for p in (grounds["steps"], lit(nearer(grounds["steps"]), NIGHT)))
    told = compared(a, b)
    assert told.sure
    assert told.exposure == pytest.approx(float(np.mean(np.log2(NIGHT))), abs=0.15)
    assert told.warmth == pytest.approx(float(np.log2(NIGHT[0] / NIGHT[2])), abs=0.2)


def test_a_place_map_is_small_and_reads_back(grounds):
    place = seen_of(grounds["steps"]).place
    numbers, tones = place.read()
    assert numbers.shape[0] == tones.shape[0] == ROWS * COLUMNS
    assert np.linalg.norm(numbers, axis=1) == pytest.approx(1.0, abs=1e-3)
    assert len(place.numbers) + len(place.tones) < 10_000
    whole = ground_of(place, 900, 600)
    [one, _] = laid_over(whole, whole, compared(whole, whole))
    assert (unlike(whole, [one]), gone(whole, [one, one])) == (None, None)


def test_a_printed_border_moves_nothing(grounds, homes):
    changed = grounds["cave"].copy()
    cv2.ellipse(changed, (640, 330), (150, 140), 0, 0, 360, (220, 90, 60), -1)
    framed = bordered(changed, 0.09, "#f3efe6")
    inset = 0.09 * 600
    stands = Box(480 * (900 - 2 * inset) / 900 + inset, 180 * (600 - 2 * inset) / 600 + inset, 290, 245)
    _, silent = place_threads(homes, [shot(0, framed, "cave", boxes=[stands])])
    assert silent == []
    _, [found] = place_threads(homes, [shot(0, framed, "cave")])
    assert found.kind == "place_changed"
    assert abs(found.region.x + found.region.w / 2 - (640 * (900 - 2 * inset) / 900 + inset)) < 100
