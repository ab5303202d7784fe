"""Pictures that lose their colours or their contrast, or gain some: told by what figures have of theirs, and one finding says it for all their parts."""

from types import SimpleNamespace

import numpy as np
import pytest

from juxtaform.core.check.fading import CONTRAST, SATURATION, colour_kept, contrast_kept, fading
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotState, StyleHome
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.style.terms import TERMS, signature
from juxtaform.core.text.names import Named
from juxtaform.demo.paper import greyed
from juxtaform.media.network import figure_eye, hand_eye, judges
from tests.constructed import LIGHTS, contrasted, random_look, random_pose, reference, repainted, scene

COAT, BOOTS, GREY = "#dba326", "#2f7d4f", "#808080"


def towards_grey(code, amount):
    values = np.array(linear_from_hex(code))
    return np.maximum(values + amount * (values.mean() - values), 0.0)


def seen(amount, codes=(COAT, BOOTS)):
    """A figure in two colours that lost so much of them."""
    return figure(codes, [towards_grey(c, amount) for c in codes])


def figure(codes, paints):
    """A figure whose traits have such colours, and which wears such paints."""
    traits = tuple(SimpleNamespace(expected=(c,), share_expected=1 / len(codes)) for c in codes)
    return SimpleNamespace(traits=traits, worn=tuple(SimpleNamespace(linear=x, share=1 / len(codes)) for x in paints))


def pale(amount, codes=("#3a3a3a", "#d8d8d8")):
    """A grey figure whose paints lie so much nearer to each other in lightness (stops)."""
    light = np.log2([linear_from_hex(c) for c in codes])
    return figure(codes, 2 ** (light + amount * (light.mean(axis=0) - light)))


def behind(amount, codes=(COAT, BOOTS, "#3a2a20")):
    """A figure seen through so much of a white fog."""
    return figure(codes, [(1 - amount) * np.array(linear_from_hex(c)) + amount * 0.75 for c in codes])


def run_of(*pictures, saturation=None, contrast=None):
    """Shots by the figures in each, and how saturated (log2) and how rich in contrast (stops) the pictures are."""
    found = []
    for i, figures in enumerate(pictures):
        values = [0.0] * len(TERMS)
        values[SATURATION] = saturation[i] if saturation is not None else 0.0
        values[CONTRAST] = contrast[i] if contrast is not None else 0.0
        paints = [SimpleNamespace(linear=towards_grey(c, 0.0)) for c in (COAT, BOOTS)]
        picture = SimpleNamespace(
            signature=SimpleNamespace(values=values), appearances=[a for _, a in figures], palette=paints
        )
        marks = tuple(Mark(thread, None) for thread, _ in figures)
        found.append(ShotState(f"s{i}", str(i), "", frozenset(), "style", marks, picture))
    return found


def alone(*amounts):
    return [[("a", seen(x))] if x is not None else [] for x in amounts]


def test_a_figure_without_colour_has_none_to_lose():
    assert colour_kept(seen(0.0)) == pytest.approx(1.0)
    assert 0.2 < colour_kept(seen(0.5)) < 0.8
    assert colour_kept(seen(0.0, (GREY, "#404040"))) is None
    assert colour_kept(SimpleNamespace(worn=())) is None


def test_contrast_is_how_far_light_and_dark_paints_lie_apart_whatever_the_light():
    assert contrast_kept(pale(0.0)) == pytest.approx(1.0)
    assert 0.3 < contrast_kept(pale(0.5)) < 0.7
    assert contrast_kept(pale(0.0, ("#808080", "#8a8a8a"))) is None
    assert contrast_kept(SimpleNamespace(worn=())) is None
    dark = pale(0.0)
    dark.worn = tuple(SimpleNamespace(linear=0.25 * x.linear, share=x.share) for x in dark.worn)
    assert contrast_kept(dark) == pytest.approx(1.0, abs=0.01)


def test_grey_figures_whose_paints_draw_together_slide_where_their_pictures_do_too():
    row = [[("a", pale(x))] for x in (0.0, 0.02, 0.0, 0.01, 0.0, 0.25, 0.4, 0.55)]
    fewer = [0.0, 0.1, 0.0, -0.1, 0.0, -0.4, -0.8, -1.2]
    found = fading(run_of(*row, contrast=fewer))
    assert found.change is not None
    assert (found.change.start, found.change.end, found.stronger) == (5, 8, False)
    assert np.isnan(found.kept).all()
    assert found.furthest[7] == found.contrast[7] < 0.6
    assert fading(run_of(*row)).change is None


def test_a_fog_that_lies_over_pictures_at_once_is_no_slide_and_one_that_grows_is():
    fewer = [0.0, 0.1, 0.0, -0.1, 0.0, -0.6, -0.8, -1.0, -1.2]
    fog, growing = (
        fading(run_of(*[[("a", behind(x))] for x in (*[0.0] * 5, *last)], saturation=fewer, contrast=fewer))
        for last in ((0.3, 0.32, 0.31, 0.3), (0.06, 0.14, 0.25, 0.4))
    )
    assert fog.change is None
    assert list(np.flatnonzero(fog.veiled)) == [5, 6, 7, 8]
    assert fog.alone.max() < 1
    assert growing.change is not None
    assert (growing.change.end, growing.veiled[:5].any()) == (9, False)
    assert growing.change.start in (5, 6)


def test_a_row_of_steady_figures_tells_of_less_than_a_restless_one():
    steady, restless = (0.0, 0.01, 0.0, 0.01, 0.0, 0.01), (0.0, 0.14, 0.0, -0.16, 0.15, 0.0)
    fewer = [0.0] * 6 + [-0.2, -0.3, -0.4, -0.4]
    changes = [
        fading(run_of(*alone(*first, 0.12, 0.17, 0.2, 0.22), saturation=fewer)).change for first in (steady, restless)
    ]
    assert changes[0] is not None
    assert changes[1] is None


def test_a_slide_begins_with_the_first_figure_that_loses_colour_and_skips_empty_pictures():
    amounts = (0.02, 0.0, None, 0.03, 0.0, 0.01, None, 0.4, None, 0.6, 0.8)
    fewer = [0.0, 0.1, 0.0, -0.1, 0.0, 0.1, 0.0, -0.6, 0.0, -1.2, -1.6]
    found = fading(run_of(*alone(*amounts), saturation=fewer))
    assert found.change is not None
    assert (found.change.start, found.change.end) == (7, 11)
    assert np.isnan(found.kept[[2, 6, 8]]).all()
    assert found.alone[10] > 1 > found.alone[3]


def test_a_row_whose_last_pictures_have_more_colour_slides_too_and_none_is_grey():
    found = fading(
        run_of(*alone(0.3, 0.3, 0.32, 0.3, 0.3, 0.0, -0.1, -0.2), saturation=[0, 0, 0.1, 0, 0, 0.6, 0.9, 1.1])
    )
    assert found.change is not None
    assert (found.stronger, found.change.start) == (True, 5)
    assert found.kept[7] > 1.5
    assert found.alone.max() < 1


def test_who_puts_on_something_grey_takes_no_colour_from_the_picture():
    found = fading(run_of(*alone(0.0, 0.0, 0.02, 0.0, 0.01, 0.8, 0.8, 0.8)))
    assert found.change is None
    assert found.alone.max() == 0


def test_a_picture_keeps_its_colours_where_one_of_two_figures_does():
    both = [[("a", seen(x)), ("b", seen(0.0))] for x in (0.0, 0.0, 0.0, 0.0, 0.8, 0.8)]
    found = fading(run_of(*both, saturation=[0.0, 0.0, 0.0, 0.0, -1.0, -1.0]))
    assert found.change is None
    assert found.kept.min() > 0.95


@pytest.mark.parametrize(
    ("change", "amounts", "said", "label"),
    [
        (greyed, (), "", ""),
        (greyed, (0.24, 0.36, 0.48), "greyer colours", "Colour of the figures"),
        (repainted, (1.4, 1.7, 2.0), "stronger colours", "Colour of the figures"),
        (contrasted, (0.75, 0.6, 0.45), "less contrast", "Contrast in the figures"),
    ],
)
def test_a_slide_of_colour_or_contrast_is_one_finding_and_no_change_of_figures(change, amounts, said, label):
    rng, eye = np.random.default_rng(12), figure_eye()
    look = random_look(rng)
    pages = (reference(look), reference(look, random_pose(rng)))
    known = known_figure(figure_model("a", [reference_view(p, f"{i}", eye=eye) for i, p in enumerate(pages)]), eye)
    empty = [scene([], rng, ground=g)[0] for g in (5, 6, 7)]
    style = StyleHome("style", "Paper", tuple(map(signature, empty)), (1.0,) * 3, tuple(map(hand_eye().hand, empty)))
    shots = []
    for i in range(8):
        picture, boxes = scene([look], rng, LIGHTS[i % 5], ground=i * 3 % 8, scale=0.9)
        if i >= 8 - len(amounts):
            picture = change(picture, amounts[i - 8])
        measure = measure_picture(picture, [(boxes[0], known)], [known], None, eye, hand_eye())
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("a"), "style", (Mark("a", boxes[0]),), measure))
    told = check(shots, [style], [Named("a", "A")], judges=judges()).findings
    assert [(f.kind, f.shot, f.until, f.back_to) for f in told] == [("style_slide", "s5", "s7", "s4")] * bool(amounts)
    for f in told:
        assert f.title.startswith(f"Style slides from shot 6: {said}")
        assert f.evidence[0].label == label
