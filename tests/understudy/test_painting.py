"""The Understudy paints what it was sent: the same from the same, at any size, each figure in its own colours."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from juxtaform.understudy.jobs import height_in, size_of
from juxtaform.understudy.painting import Sent, cut_out, painted, staged
from tests.conftest import LOOK
from tests.constructed import reference

GROUND = (30, 90, 110)


@pytest.fixture(scope="module")
def figure():
    return reference(LOOK)


@pytest.fixture(scope="module")
def setting():
    picture = np.full((200, 320, 3), GROUND, np.uint8)
    picture[150:] = (60, 60, 50)
    return picture


def sent(figure, setting, *more):
    return [Sent(figure, "character", "Ada"), Sent(setting, "setting", "Quay"), *more]


def empty(scene):
    return replace(scene, figures=())


def box_of(picture, ground):
    """Where a picture differs from the ground that it was painted on, as parts of its height."""
    apart = np.abs(picture.astype(int) - ground.astype(int)).sum(-1) > 120
    ys = np.flatnonzero(apart.any(axis=1))
    return ys[0] / len(picture), (ys[-1] + 1) / len(picture)


def test_the_same_comes_of_the_same_and_another_seed_is_another_picture(figure, setting):
    first, again, other = (painted(staged(sent(figure, setting), seed), 300, 200) for seed in (4, 4, 5))
    assert (first == again).all()
    assert (first != other).any()


@pytest.mark.parametrize("height", [0.3, 0.55, 0.8])
def test_a_figure_is_as_tall_as_the_framing_asks_and_stands_on_the_ground(figure, setting, height):
    scene = staged(sent(figure, setting), 3, height)
    top, feet = box_of(painted(scene, 480, 320), painted(empty(scene), 480, 320))
    assert feet - top == pytest.approx(height, rel=0.12)
    assert 0.84 < feet < 0.96


def test_a_figure_keeps_its_colours_in_any_style(figure, setting):
    style = np.random.default_rng(1).integers(0, 255, (120, 180, 3)).astype(np.uint8)
    plain = painted(staged(sent(figure, setting), 2, 0.9), 300, 300)
    styled = painted(staged(sent(figure, setting, Sent(style, "style")), 2, 0.9), 300, 300)
    lab = [cv2.cvtColor((x / 255).astype(np.float32), cv2.COLOR_RGB2Lab) for x in (plain, styled)]
    alone = painted(empty(staged(sent(figure, setting), 2, 0.9)), 300, 300)
    on = np.abs(plain.astype(int) - alone.astype(int)).sum(-1) > 120
    moved = [float(np.linalg.norm(lab[1][where].mean(0) - lab[0][where].mean(0))) for where in (on, ~on)]
    assert moved[0] < 7
    assert moved[0] < moved[1]


def test_a_draft_is_the_same_composition_and_rough(figure, setting):
    scene = staged(sent(figure, setting), 8)
    final, draft = painted(scene, 600, 400), painted(scene, 600, 400, rough=True)
    small = [cv2.resize(x, (30, 20), interpolation=cv2.INTER_AREA).astype(float) for x in (final, draft)]
    assert np.abs(small[0] - small[1]).mean() < 3
    sharp = [cv2.Laplacian(cv2.cvtColor(x, cv2.COLOR_RGB2GRAY), cv2.CV_64F).var() for x in (final, draft)]
    assert sharp[1] < 0.5 * sharp[0]


def test_figures_stand_where_the_layout_guide_has_them(figure, setting):
    guide = np.full((200, 300, 3), 250, np.uint8)
    cv2.rectangle(guide, (210, 60), (230, 170), (20, 20, 20), 3)
    [ada] = staged(sent(figure, setting, Sent(guide, "layout")), 1).figures
    assert ada.place.x == pytest.approx(220 / 300, abs=0.02)
    assert ada.place.feet == pytest.approx(170 / 200, abs=0.04)
    assert ada.place.height == pytest.approx(110 / 200, abs=0.06)


def test_each_name_stands_once_by_its_heaviest_picture(figure, setting):
    lighter = figure[:, ::-1].copy()
    scene = staged([*sent(figure, setting), Sent(lighter, "character", "Ada", 0.2), Sent(figure, "prop", "Cup")], 1)
    assert sorted(f.name for f in scene.figures) == ["Ada", "Cup"]


def test_what_cannot_be_cut_out_is_left_out_and_a_picture_comes_all_the_same(setting):
    busy = np.random.default_rng(2).integers(0, 255, (90, 90, 3)).astype(np.uint8)
    assert cut_out(busy) is None
    assert cut_out(np.full((60, 60, 3), 255, np.uint8)) is None
    picture = painted(staged([Sent(busy, "character", "Bo")], 1), 64, 48)
    assert picture.shape == (48, 64, 3)


def test_the_hole_in_a_figure_is_the_figures(setting):
    ring = np.full((100, 100, 3), 255, np.uint8)
    cv2.circle(ring, (50, 50), 35, (20, 120, 60), 12)
    cut = cut_out(ring)
    assert cut is not None
    assert cut.cover[cut.cover.shape[0] // 2, cut.cover.shape[1] // 2] > 0.9


@pytest.mark.parametrize(("aspect", "size"), [("1:1", (640, 640)), ("16:9", (640, 360)), ("2:3", (426, 640))])
def test_sizes_have_the_form_asked_for(aspect, size):
    assert size_of(aspect, 640) == size


def test_a_framing_is_read_from_the_words():
    assert (
        height_in("Pell on the step. Wide shot, eye level.") < height_in("Pell. Medium shot.") < height_in("Close-up.")
    )
    with pytest.raises(ValueError, match="is none"):
        painted(staged([], 1), 4, 4)
