"""Figures of known parameters: what changed is told, what is only light, pose or place is not."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.figure.appearance import measure_appearances
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.traits import (
    TraitSpec,
    colours_in,
    figure_extent,
    figure_model,
    nearest_difference,
    reference_view,
)
from juxtaform.core.picture.regions import Box, within
from tests.constructed import (
    LIGHTS,
    Look,
    about,
    lookalike,
    model_of,
    random_look,
    recoloured_look,
    reference,
    scene,
    told,
)

LOOK = Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b", extra_form=0)


@pytest.fixture(scope="module")
def known():
    return model_of(LOOK, np.random.default_rng(1))


@pytest.mark.parametrize("ground", [0, 2, 3, 6])
@pytest.mark.parametrize("light", LIGHTS)
def test_another_pose_scale_side_place_and_light_are_no_drift(known, ground, light):
    picture, [box] = scene([LOOK], np.random.default_rng(ground), light, ground=ground)
    [seen] = measure_appearances(picture, [(box, known)])
    assert told(seen) == []
    assert seen.distance < 1.0


@pytest.mark.parametrize("light", [LIGHTS[1], LIGHTS[2]])
def test_the_light_that_was_put_on_is_found(known, light):
    picture, [box] = scene([LOOK], np.random.default_rng(4), light, ground=5)
    [seen] = measure_appearances(picture, [(box, known)])
    assert np.allclose(np.log2(seen.light.gain), np.log2(light), atol=0.25)


@pytest.mark.parametrize("part", ["hair", "coat", "boots"])
def test_a_recoloured_trait_is_told_as_changed_with_its_colours(known, part):
    rng = np.random.default_rng(7)
    picture, [box] = scene([recoloured_look(LOOK, part, rng, 25)], rng, LIGHTS[1], ground=1, scale=1.0)
    [seen] = measure_appearances(picture, [(box, known)])
    hits = [t for t in told(seen) if about(t, getattr(LOOK, part))]
    assert [t.verdict for t in hits] == ["changed"]
    assert hits[0].seen is not None
    assert hits[0].difference > hits[0].allowed


def test_a_hat_that_is_gone_is_told_missing_and_not_recoloured(known):
    picture, [box] = scene([replace(LOOK, has_extra=False)], np.random.default_rng(9), LIGHTS[3], ground=5, scale=1.0)
    [seen] = measure_appearances(picture, [(box, known)])
    [hat] = [t for t in told(seen) if about(t, LOOK.extra)]
    assert hat.verdict == "missing"
    assert hat.seen is None


def test_a_figure_of_the_cast_in_the_wrong_place_is_known_as_the_other(known):
    rng = np.random.default_rng(11)
    other_look = random_look(rng)
    other = model_of(other_look, rng, "other")
    picture, [box] = scene([other_look], rng, LIGHTS[2], ground=7, scale=0.9)
    [seen] = measure_appearances(picture, [(box, known)], [known, other])
    assert seen.distance > 1.0
    assert seen.others["other"] < 0.72 * seen.distance


def test_lookalikes_stand_further_off_than_the_figure_itself(known):
    rng = np.random.default_rng(13)

    def distance(look):
        picture, [box] = scene([look], rng, LIGHTS[int(rng.integers(6))])
        return measure_appearances(picture, [(box, known)])[0].distance

    same = [distance(LOOK) for _ in range(8)]
    alike = [distance(lookalike(LOOK, rng)) for _ in range(8)]
    assert np.mean([s < a for s in same for a in alike]) > 0.9


def test_declared_traits_are_read_where_their_box_stands():
    picture = reference(LOOK)
    extent = figure_extent(picture)
    coat = TraitSpec("Coat", (), Box(110, 200, 100, 110))
    known = known_figure(figure_model("figure", [reference_view(picture, "front")], [(coat, extent)]))
    [trait] = known.model.traits
    assert trait.name == "Coat"
    assert 0.2 < trait.share < 0.5
    scene_picture, [box] = scene([LOOK], np.random.default_rng(3), ground=4)
    assert told(measure_appearances(scene_picture, [(box, known)])[0]) == []


def test_a_trait_is_what_its_outline_holds_not_all_of_its_box():
    picture = reference(LOOK)
    tall, extent = Box(60, 20, 200, 320), figure_extent(picture)
    around_the_coat = ((110.0, 200.0), (210.0, 200.0), (210.0, 310.0), (110.0, 310.0))
    specs = [(TraitSpec("Box", (), tall), extent), (TraitSpec("Drawn", (), tall, outline=around_the_coat), extent)]
    boxed, drawn = known_figure(figure_model("figure", [reference_view(picture, "front")], specs)).model.traits
    coat = linear_from_hex(LOOK.coat)
    assert nearest_difference(drawn.colours, coat) < 4
    assert len(drawn.colours) < len(boxed.colours)
    assert drawn.share < boxed.share
    assert drawn.centre[1] > boxed.centre[1]
    assert [round(share, 1) for _, share in colours_in(picture, tall, around_the_coat)] == [1.0]
    assert len(colours_in(picture, tall)) > 1


def test_an_outline_of_two_corners_is_refused():
    with pytest.raises(ValueError, match="three corners"):
        within(((0, 0), (1, 1)), np.zeros((1, 2)))


def test_colours_in_a_box_leave_the_plain_ground_out():
    found = colours_in(reference(LOOK), Box(60, 180, 200, 120))
    codes = {round(c[0], 1) for c, _ in found}
    assert all(max(c) < 0.9 for c, _ in found), codes


def test_a_figure_without_references_says_what_to_do():
    with pytest.raises(ValueError, match="add one"):
        figure_model("Nobody", [])


@pytest.mark.parametrize("seed", range(4))
def test_bars_over_a_figure_are_no_change_of_it(known, seed):
    picture, [box] = scene([LOOK], np.random.default_rng(seed), ground=5, scale=1.0)
    barred, high = picture.copy(), 80
    barred[:high] = barred[-high:] = 0
    assert box.y + box.h > len(picture) - high, "the feet are behind the lower bar"
    [seen] = measure_picture(barred, [(box, known)]).appearances
    assert told(seen) == []
    [off] = measure_picture(barred, [(Box(10, len(picture) - high, 60, high), known)]).appearances
    assert off is not None, "a mark that lies on a bar alone is still read"


def test_a_mark_outside_the_picture_is_refused(known):
    picture, _ = scene([LOOK], np.random.default_rng(3), ground=4)
    with pytest.raises(ValueError, match="outside the picture"):
        measure_appearances(picture, [(Box(5000, 5000, 10, 10), known)])


def test_a_light_taken_out_gives_back_the_colours():
    colours = np.random.default_rng(0).uniform(0.05, 0.8, (40, 3))
    light = SceneLight((0.4, 0.5, 0.8), 0.6, 0.8)
    assert np.allclose(light.taken_out(light.put_on(colours)), colours, atol=1e-6)
    assert light.words().startswith("cool")
