"""Boxes and outlines on pictures, plain grounds, names of colours, files matched to shots, plates, lasting changes."""

import re

import numpy as np
import pytest

from juxtaform.core.brief.versions import Edition, Editions
from juxtaform.core.colour.spaces import linear_from_hex, linear_from_srgb8
from juxtaform.core.colour.words import colour_name
from juxtaform.core.figure.traits import place_name
from juxtaform.core.picture.border import printed_border
from juxtaform.core.picture.plate import plate
from juxtaform.core.picture.regions import Box, appearance_crop, cut_out, plain_ground, reference_crop, resized, within
from juxtaform.core.plan.framings import Framing, alternatives
from juxtaform.core.plan.numbering import matched, natural_key
from juxtaform.core.style.drift import lasting_change, scalar_change
from tools import rooms


def flat(h, w, code=(200, 60, 40)):
    return np.full((h, w, 3), code, np.uint8)


@pytest.mark.parametrize(
    ("box", "inside"),
    [
        (Box(10, 10, 20, 20), Box(10, 10, 20, 20)),
        (Box(-5, -5, 20, 20), Box(0, 0, 15, 15)),
        (Box(90, 40, 50, 50), Box(90, 40, 10, 10)),
        (Box(-10, -10, 500, 500), Box(0, 0, 100, 50)),
    ],
)
def test_a_box_is_cut_to_its_picture(box, inside):
    assert box.inside(100, 50) == inside


@pytest.mark.parametrize("box", [Box(200, 0, 10, 10), Box(0, -30, 10, 10), Box(99, 0, 10, 10), Box(5, 5, 1, 40)])
def test_a_box_of_which_nothing_is_in_the_picture_is_refused_with_its_place(box):
    with pytest.raises(ValueError, match=rf"at {box.x:.0f}, {box.y:.0f} lies outside the picture of 100 × 50 px"):
        box.inside(100, 50)


SQUARE = ((10.0, 10.0), (30.0, 10.0), (30.0, 30.0), (10.0, 30.0))
BOW = ((0.0, 0.0), (40.0, 40.0), (40.0, 0.0), (0.0, 40.0))
RING = (
    (0.0, 0.0),
    (40.0, 0.0),
    (40.0, 40.0),
    (0.0, 40.0),
    (0.0, 0.0),
    (10.0, 10.0),
    (10.0, 30.0),
    (30.0, 30.0),
    (30.0, 10.0),
    (10.0, 10.0),
)


@pytest.mark.parametrize(
    ("outline", "points", "inside"),
    [
        (SQUARE, [(20, 20), (5, 20), (20, 35), (29.9, 10.1)], [True, False, False, True]),
        (SQUARE[::-1], [(20, 20), (5, 20)], [True, False]),
        (BOW, [(35, 20), (5, 20), (20, 5), (20, 35)], [True, True, False, False]),
        (RING, [(5, 5), (20, 20)], [True, False]),
    ],
)
def test_points_within_an_outline_however_it_was_drawn(outline, points, inside):
    assert within(outline, np.array(points, float)).tolist() == inside


def test_a_picture_is_made_smaller_by_its_longer_side_and_never_larger():
    assert resized(flat(400, 100), 80).shape == (80, 20, 3)
    assert resized(flat(100, 403), 80).shape[1] == 80
    assert resized(flat(30, 40), 80).shape == (30, 40, 3)
    assert resized(flat(1, 4000), 80).shape == (1, 80, 3)
    assert (resized(flat(400, 100), 80) == (200, 60, 40)).all()


def test_a_part_cut_out_has_the_pixels_of_its_box():
    picture = flat(60, 80)
    picture[20:40, 10:30] = (0, 0, 255)
    part = cut_out(picture, Box(10, 20, 20, 20))
    assert part.shape == (20, 20, 3)
    assert (part == (0, 0, 255)).all()
    assert cut_out(picture, Box(70, 50, 100, 100)).shape == (10, 10, 3)


def test_a_plain_ground_is_found_around_a_figure_and_not_in_a_scene():
    picture = flat(80, 80, (255, 255, 255))
    picture[20:60, 30:50] = (40, 90, 160)
    ground = plain_ground(linear_from_srgb8(picture))
    assert ground is not None
    assert ground[0, 0]
    assert not ground[40, 40]
    noise = np.random.default_rng(0).integers(0, 255, (80, 80, 3), dtype=np.uint8)
    assert plain_ground(linear_from_srgb8(noise)) is None


def test_an_off_white_patch_within_the_figure_is_no_ground_but_a_gap_in_it_is():
    picture = flat(80, 80, (255, 255, 255))
    picture[20:60, 20:60] = (40, 90, 160)
    picture[35:45, 35:45] = (240, 238, 232)
    picture[50:54, 25:30] = 255
    ground = plain_ground(linear_from_srgb8(picture))
    assert ground is not None
    assert not ground[40, 40]
    assert ground[52, 27]


def test_a_crop_tells_where_the_picture_s_edge_cuts_it():
    rng = np.random.default_rng(2)
    picture = rng.integers(0, 60, (200, 300, 3), dtype=np.uint8)
    picture[60:200, 100:200] = (220, 160, 30)
    assert appearance_crop(picture, Box(100, 60, 100, 140), 80).cut == (False, False, False, True)
    assert appearance_crop(picture, Box(0, 0, 300, 200), 80).cut == (True, True, True, True)
    crop = appearance_crop(picture, Box(90, 50, 120, 120), 80)
    assert max(crop.figure.shape) <= 81
    assert crop.figure[40, 40] > crop.figure[1, 1]
    assert crop.places.shape == (*crop.figure.shape, 2)
    assert crop.places[0, 0].tolist() == pytest.approx([0.5 / crop.figure.shape[1], 0.5 / crop.figure.shape[0]])


def test_a_reference_is_cropped_to_its_figure():
    picture = flat(300, 300, (255, 255, 255))
    picture[100:220, 120:180] = (220, 160, 30)
    crop = reference_crop(picture, 60)
    assert crop.figure.shape[0] / crop.figure.shape[1] == pytest.approx(2.0, rel=0.1)
    assert crop.figure.mean() > 0.85


@pytest.mark.parametrize(
    ("code", "name"),
    [
        ("#000000", "black"),
        ("#ffffff", "white"),
        ("#808080", "grey"),
        ("#d0d0d0", "light grey"),
        ("#d62020", "red"),
        ("#2050d0", "blue"),
        ("#209040", "green"),
        ("#5a3a22", "brown"),
        ("#efc9a0", "buff"),
        ("#102a60", "dark blue"),
        ("#f6c1d0", "pale pink"),
        ("#8a2be2", "violet"),
    ],
)
def test_colours_have_everyday_names(code, name):
    assert colour_name(linear_from_hex(code)) == name


def test_places_are_told_by_thirds():
    assert [place_name(0.5, y) for y in (0.0, 0.32, 0.5, 0.66, 0.68, 1.0)] == [
        "top",
        "top",
        "middle",
        "middle",
        "bottom",
        "bottom",
    ]


NUMBERS = [str(n) for n in range(1, 13)]


@pytest.mark.parametrize(
    ("names", "shots"),
    [
        (["1.png", "10.png", "2.png"], [0, 1, 9]),
        (["shot 3 v2.png", "shot 3 v1.png"], [2, 2]),
        (["Pell_2026_05.png", "Pell_2026_06.png"], [4, 5]),
        (["act1/7.png", "act1/8.png"], [6, 7]),
        (["IMG_0004.jpeg", "IMG_0005.jpeg"], [3, 4]),
        (["4-take 9.png"], [3]),
        (["no number.png"], [None]),
        (["99.png"], [None]),
        (["1_sketch.png", "1_ink.png", "2_sketch.png"], [0, 0, 1]),
        (["scene2_shot05.png", "scene2_shot06.png", "scene3_shot07.png"], [4, 5, 6]),
    ],
)
def test_files_go_to_the_shot_that_their_names_number(names, shots):
    assert [m.shot for m in matched(names, NUMBERS)] == shots


def test_files_without_numbers_go_in_order_only_when_there_are_as_many_as_shots():
    names = ["dawn.png", "dusk.png", "noon.png"]
    assert [m.shot for m in matched(names, ["1", "2", "3"])] == [0, 1, 2]
    assert {m.reason for m in matched(names, ["1", "2", "3"])} == {"by order of names"}
    assert [m.shot for m in matched(names, ["1", "2", "3", "4"])] == [None] * 3
    assert matched([], ["1"]) == []


def test_names_sort_as_people_count():
    assert sorted(["p10", "p9a", "P9", "p100", "p"], key=natural_key) == ["p", "P9", "p9a", "p10", "p100"]


@pytest.mark.parametrize("forms", [[1.0], [0.5, 2.0], [0.7] * 5, [0.4, 1.0, 1.6, 0.9, 3.0, 0.7, 1.2], [1.5] * 23])
@pytest.mark.parametrize(("side", "margin", "label"), [(1536, 24, 28), (512, 0, 0), (2048, 60, 40)])
def test_a_plate_has_the_asked_side_and_its_pictures_keep_form_and_order(forms, side, margin, label):
    p = plate(forms, side, margin, label)
    assert abs(max(p.width, p.height) - side) <= 3
    assert len(p.cells) == len(forms)
    for cell, form in zip(p.cells, forms, strict=True):
        assert cell.w / cell.h == pytest.approx(form, rel=0.12)
        assert cell.x >= margin
        assert cell.y >= margin
        assert cell.x + cell.w <= p.width - margin + 2
        assert cell.y + cell.h + label <= p.height - margin + 2
    rows = [(c.y, c.x) for c in p.cells]
    assert rows == sorted(rows)
    for i, a in enumerate(p.cells):
        for b in p.cells[i + 1 :]:
            assert a.x + a.w <= b.x or b.x + b.w <= a.x or a.y + a.h <= b.y or b.y + b.h <= a.y


def test_a_plate_of_nothing_is_refused():
    with pytest.raises(ValueError, match="at least one picture"):
        plate([])


def departures(*runs, seed=0, k=3):
    """A sequence of departures, as (count, level) runs, in units of tolerated spread."""
    rng = np.random.default_rng(seed)
    levels = np.concatenate([np.full(n, level, float) for n, level in runs])
    z = rng.normal(0, 0.35, (len(levels), k)) + levels[:, None] * np.array([1.0, -0.6, 0.3][:k])
    return z, np.abs(levels) / 2 + np.abs(rng.normal(0, 0.05, len(levels)))


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize(("runs", "start"), [(((8, 0), (6, 5)), 8), (((5, 0), (12, 4)), 5), (((12, 0), (3, 6)), 12)])
def test_a_lasting_step_is_found_where_it_begins(runs, start, seed):
    change = lasting_change(*departures(*runs, seed=seed))
    assert change is not None
    assert abs(change.start - start) <= 1
    assert change.end == sum(n for n, _ in runs)


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize(
    "runs", [((14, 0),), ((6, 0), (1, 8), (7, 0)), ((3, 0), (1, 6), (4, 0), (1, 6), (5, 0)), ((3, 0),)]
)
def test_noise_and_single_slips_are_no_lasting_change(runs, seed):
    assert lasting_change(*departures(*runs, seed=seed)) is None


def test_a_slow_slide_is_told_from_about_where_it_leaves():
    levels = np.concatenate([np.zeros(8), np.linspace(0.5, 6, 10)])
    z = np.random.default_rng(1).normal(0, 0.3, (18, 3)) + levels[:, None] * np.array([1, 0.5, -0.5])
    change = lasting_change(z, levels / 2)
    assert change is not None
    assert 7 <= change.start <= 11
    single = scalar_change(levels / 2)
    assert single is not None
    assert single.start >= 7


@pytest.mark.parametrize(
    ("width", "code", "found"), [(24, (245, 240, 225), True), (24, (0, 0, 0), True), (0, (0, 0, 0), False)]
)
def test_a_printed_border_is_a_band_of_one_colour_with_a_straight_step(width, code, found):
    rng = np.random.default_rng(4)
    picture = rng.integers(40, 200, (400, 600, 3), dtype=np.uint8)
    if width:
        picture[:width], picture[-width:], picture[:, :width], picture[:, -width:] = (code,) * 4
    border = printed_border(picture)
    assert (border is not None) is found


@pytest.mark.parametrize(
    ("left", "top", "right", "bottom"),
    [(0.3, 0, 0.3, 0), (0.38, 0, 0.38, 0), (0, 0.27, 0, 0.27), (0.06, 0.06, 0.06, 0.3), (0.05, 0.08, 0.05, 0.36)],
)
def test_wide_pillars_and_the_rims_of_instant_photos_are_borders(left, top, right, bottom):
    rng = np.random.default_rng(4)
    picture = rng.integers(40, 200, (400, 600, 3), dtype=np.uint8)
    px = [round(part * side) for part, side in ((left, 600), (top, 400), (right, 600), (bottom, 400))]
    framed = np.full_like(picture, (244, 242, 236))
    inside = (slice(px[1], 400 - px[3]), slice(px[0], 600 - px[2]))
    framed[inside] = picture[inside]
    border = printed_border(framed)
    assert border is not None
    found = (border.left, border.top, border.right, border.bottom)
    assert found == pytest.approx(px, abs=5)


def test_a_figure_on_plain_ground_has_no_border():
    from tests.constructed import Look, reference

    page = reference(Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b"))
    assert printed_border(page) is None


def test_a_sky_of_one_colour_is_no_border():
    picture = np.random.default_rng(4).integers(40, 200, (400, 600, 3), dtype=np.uint8)
    picture[:120] = (120, 170, 220)
    assert printed_border(picture) is None


@pytest.mark.parametrize("cast", [0, 1, 2, 5])
@pytest.mark.parametrize("speech", [True, False])
def test_other_framings_differ_from_this_one_and_from_each_other(cast, speech):
    now = Framing("MS", "eye level", "static", "")
    offers = alternatives(now, cast, speech=speech, before="WS", after="CU")
    looks = [(o.size, o.angle) for o in offers]
    assert len(set(looks)) == len(looks) == 5
    assert ("MS", "eye level") not in looks
    assert offers[0].size not in ("WS", "CU")
    assert all(o.why for o in offers)
    if cast < 2:
        assert "over the shoulder" not in {o.angle for o in offers}


LINE = [Edition("a", "m"), Edition("b", "m", "a", 4), Edition("c", "m", "b", 9), Edition("side", "m")]


@pytest.mark.parametrize(
    ("one", "other", "together"),
    [
        ("a", "b", False),
        ("b", "c", False),
        ("a", "side", True),
        ("c", "side", True),
        ("b", "side", True),
        ("a", "nobody", False),
    ],
)
def test_which_versions_hold_at_a_same_shot(one, other, together):
    editions = Editions(LINE)
    assert editions.together(one, other) is together
    assert editions.together(other, one) is together


def test_two_replacements_from_one_shot_on_the_later_made_holds_and_a_ring_ends():
    ring = Editions([Edition("a", "m", "b"), Edition("b", "m", "a")])
    assert ring.at("a", 0) in ("a", "b")
    both = Editions([Edition("a", "m"), Edition("b", "m", "a", 3), Edition("c", "m", "a", 6)])
    assert [both.at("a", i) for i in (0, 3, 5, 6)] == ["a", "b", "b", "c"]
    assert both.stale(["a", "gone"], 5) == [("a", "b")]


def test_the_picture_of_the_rooms_shows_the_rooms_that_there_are():
    shown = {tuple(pair) for pair in re.findall(r"<title>(.*?) knows (.*?):", rooms.TARGET.read_text())}
    assert shown == set(rooms.knows()), "run python -m tools.rooms"
