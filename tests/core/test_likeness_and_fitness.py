"""Likeness by colour and layout; fitness of reference pictures with known faults; a style's trial."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from juxtaform.core.brief.references import disagreement, faults, odd_for_style, odd_in_style
from juxtaform.core.colour.spaces import linear_from_hex, oklab_from_linear
from juxtaform.core.picture.fitness import blur_effect, fitness
from juxtaform.core.picture.likeness import SIZE, colour_shares, likeness_vector, most_alike
from juxtaform.core.style.terms import signature, trial
from tests.constructed import LIGHTS, random_look, random_pose, reference, scene


def kinds(pixels, kind="character", view="", output_px=0):
    return {f.kind for f in faults(fitness(pixels), kind, output_px, view)}


def large(seed=0, scale=2):
    rng = np.random.default_rng(seed)
    picture = reference(random_look(rng), random_pose(rng))
    return cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_CUBIC)


def padded(pixels, left, right=None, top=0, bottom=0, code=(255, 255, 255)):
    return cv2.copyMakeBorder(
        pixels, top, bottom, left, left if right is None else right, cv2.BORDER_CONSTANT, value=code
    )


@pytest.mark.parametrize("seed", range(6))
def test_a_clean_reference_has_no_fault(seed):
    rng = np.random.default_rng(seed)
    picture = reference(random_look(rng), random_pose(rng))
    assert kinds(picture) <= {"small_for_output"}


@pytest.mark.parametrize("seed", range(3))
def test_each_fault_is_found_and_no_other(seed):
    clean = large(seed)
    h, w = clean.shape[:2]
    small = padded(clean, 3 * w, top=h, bottom=h)
    assert kinds(small) == {"small_figure"}
    assert "soft" in kinds(cv2.GaussianBlur(clean, (0, 0), 4))
    assert kinds(clean[: int(0.6 * h)]) == {"cut_off"}
    assert kinds(np.hstack([clean, clean])) == {"several_figures"}
    rng = np.random.default_rng(seed)
    assert "busy_ground" in kinds(scene([random_look(rng)], rng, ground=3)[0])
    tiny = cv2.resize(clean, (w // 4, h // 4), interpolation=cv2.INTER_AREA)
    assert kinds(tiny) == {"few_pixels", "small_for_output"}


def test_a_detail_may_be_cut_off_and_settings_need_no_plain_ground():
    clean = large()
    assert kinds(clean[: clean.shape[0] // 2], view="expression") == set()
    rng = np.random.default_rng(1)
    assert "busy_ground" not in kinds(scene([], rng, ground=2)[0], "setting")


def test_what_an_output_needs_is_asked_for():
    clean = large()
    assert kinds(clean, output_px=4000) == {"small_for_output"}
    assert kinds(clean, output_px=600) == set()


def test_the_blur_effect_grows_with_blur_and_ignores_brightness():
    clean = large(3)
    told = [blur_effect(cv2.GaussianBlur(clean, (0, 0), s)) if s else blur_effect(clean) for s in (0, 1, 2, 4)]
    assert told == sorted(told)
    assert blur_effect((clean * 0.6).astype(np.uint8)) == pytest.approx(told[0], abs=0.03)
    assert blur_effect(np.full((50, 50, 3), 90, np.uint8)) == 0.0


def test_views_that_disagree_are_told_with_the_trait_and_how_far():
    look = random_look(np.random.default_rng(4))
    same, other = reference(look, random_pose(np.random.default_rng(1))), reference(replace(look, coat="#20a0d0"))
    coat = np.array([linear_from_hex(look.coat)])
    assert disagreement("Coat", coat, fitness(same), "profile") is None
    fault = disagreement("Coat", coat, fitness(other), "profile")
    assert fault is not None
    assert fault.measured > fault.expected
    assert "profile" in fault.title


def test_a_style_picture_that_is_too_colourful_or_too_tonal_stands_out():
    rng = np.random.default_rng(5)
    pictures = [fitness(scene([], rng, ground=g)[0]) for g in (5, 6, 7)]
    assert [odd_in_style(p, [o for o in pictures if o is not p]) for p in pictures].count([]) >= 2
    assert [f.kind for f in odd_in_style(replace(pictures[0], chroma=0.4), pictures[1:])] == ["colourful"]
    assert [f.kind for f in odd_in_style(replace(pictures[0], chroma=0.001), pictures[1:])] == ["tonal"]


def test_the_trial_of_a_style_shows_the_odd_one_out():
    rng = np.random.default_rng(6)
    own = [signature(scene([], rng, ground=g)[0]) for g in (5, 6, 7, 8)]
    assert not any(t.odd for t in trial(own, [1.0] * 4))
    strange = signature(scene([random_look(rng)], rng, ground=2, hand="inked")[0])
    told = trial([*own, strange], [1.0] * 5)
    assert told[-1].odd
    assert told[-1].terms
    assert max(range(5), key=lambda i: told[i].distance) == 4
    assert told[-1].shift > max(t.shift for t in told[:-1])
    assert [t.distance for t in trial(own[:1], [1.0])] == [0.0]


def test_the_picture_most_like_another_is_the_same_place_in_another_light():
    rng = np.random.default_rng(8)
    grounds = [scene([], rng, ground=g)[0] for g in range(10)]
    vectors = np.stack([likeness_vector(g) for g in grounds])
    assert vectors.shape == (10, SIZE)
    assert np.allclose(np.linalg.norm(vectors, axis=1), 1, atol=1e-3)
    for g in range(10):
        again = scene([random_look(rng)], rng, LIGHTS[1], ground=g)[0]
        order, like = most_alike(vectors, likeness_vector(again), 10)
        assert g in order[:2]
        assert list(like) == sorted(like, reverse=True)
    assert most_alike(vectors, vectors[3], 1)[0].tolist() == [3]
    assert most_alike(vectors[:0], vectors[3], 5)[0].tolist() == []


def test_how_much_of_a_picture_is_in_a_colour():
    def lab(code):
        return oklab_from_linear(linear_from_hex(code))

    palettes = np.array(
        [[lab("#c03020"), lab("#ffffff")], [lab("#c43424"), lab("#102060")], [lab("#20a040"), lab("#ffffff")]]
    )
    shares = np.array([[0.2, 0.8], [0.9, 0.1], [1.0, 0.0]])
    told = colour_shares(palettes, shares, lab("#c03020"))
    assert told[1] > told[0] > 0.15
    assert told[2] < 0.02


@pytest.mark.parametrize(
    ("own", "kind", "style", "told"),
    [
        (0.16, "character", (0.01, 0.012), ["colourful"]),
        (0.16, "character", (0.09, 0.13), []),
        (0.16, "setting", (), []),
        (0.005, "setting", (0.12, 0.1), ["tonal"]),
        (0.005, "character", (0.12, 0.1), []),
        (0.03, "prop", (0.0, 0.0), []),
        (0.05, "setting", (0.12, 0.1), []),
    ],
)
def test_a_reference_beside_the_style_that_it_will_stand_in(own, kind, style, told):
    base = fitness(large())
    found = odd_for_style(replace(base, chroma=own), kind, [replace(base, chroma=c) for c in style])
    assert [f.kind for f in found] == told
