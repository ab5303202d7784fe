"""Crops that rescue: every fault outside, every head whole, the form right, the least lost first."""

import numpy as np
import pytest

from juxtaform.core.picture.regions import Box, shared_area
from juxtaform.core.takes.rescue import rescues

PELL = ("Pell", Box(500, 200, 200, 550))


def test_a_hand_at_the_edge_is_cropped_away_and_the_head_stays_whole():
    fault = Box(1050, 500, 100, 100)
    best, *_ = rescues(1200, 800, 1.5, [fault], [PELL])
    assert shared_area(best.box, fault) == 0
    assert best.box.w / best.box.h == pytest.approx(1.5)
    assert best.box.y <= 200
    assert best.left == pytest.approx((1050 / 1200) ** 2, abs=0.01)
    assert best.closer == pytest.approx(np.log2(1200 / 1050), abs=0.01)


def test_every_crop_keeps_what_was_asked_on_a_hundred_random_pictures():
    rng = np.random.default_rng(4)
    given = 0
    for _ in range(100):
        faults = [Box(*rng.uniform(0, 900, 2), *rng.uniform(20, 160, 2)) for _ in range(rng.integers(1, 5))]
        figures = [("a", Box(rng.uniform(0, 900), rng.uniform(0, 300), 160, 420))]
        aspect = float(rng.choice([1.0, 1.5, 0.75]))
        for r in rescues(1200, 800, aspect, faults, figures):
            given += 1
            assert all(shared_area(r.box, f) < 1e-6 for f in faults)
            assert r.box.w / r.box.h == pytest.approx(aspect)
            assert r.box.x >= -0.01
            assert r.box.y >= -0.01
            assert r.box.x + r.box.w <= 1200.01
            assert r.box.y + r.box.h <= 800.01
            head = Box(figures[0][1].x, figures[0][1].y, 160, 160)
            inside = Box(head.x, head.y, min(160, 1200 - head.x), 142)
            assert shared_area(r.box, inside) == pytest.approx(inside.w * inside.h, rel=0.02)
        costs = [r.cost for r in rescues(1200, 800, aspect, faults, figures)]
        assert costs == sorted(costs)
    assert given > 60


def test_a_fault_on_the_face_has_no_rescue():
    assert rescues(1200, 800, 1.5, [Box(560, 240, 60, 60)], [PELL]) == []


def test_a_border_is_trimmed_in_the_wanted_form():
    inner = Box(40, 40, 1120, 720)
    best = rescues(1200, 800, 1.5, [], [PELL], inner=inner)[0]
    assert best.box.w == pytest.approx(1080)
    assert best.box.x >= 40


def test_without_faults_another_form_is_cut_around_the_figure():
    best = rescues(1200, 800, 1.0, [], [PELL])[0]
    assert best.box.w == 800
    assert best.cut == ()


def test_the_print_size_tells_dpi_and_makes_small_crops_dear():
    fault = Box(0, 0, 300, 800)
    large, small = (rescues(1200, 800, 1.5, [fault], [PELL], print_mm=mm)[0] for mm in (60.0, 300.0))
    assert large.dpi == pytest.approx(large.box.w / 60 * 25.4)
    assert small.cost > large.cost


def test_a_closer_crop_names_the_size_that_it_makes():
    faults = [Box(0, 0, 350, 800), Box(860, 0, 340, 800)]
    best = rescues(1200, 800, 1.0, faults, [("a", Box(500, 300, 150, 300))], size="MS")[0]
    assert best.size in ("MCU", "CU")


def test_a_form_that_is_none_is_refused():
    with pytest.raises(ValueError, match="no form"):
        rescues(1200, 800, 0.0, [], [])
