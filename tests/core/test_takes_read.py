"""Takes are read on one scale: who holds, what drifted, what is wrong with the picture itself; what was not seen is said."""

import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.states import ShotState, StyleHome
from juxtaform.core.check.takes import TakeState, read_takes
from juxtaform.core.text.names import Named
from tests.constructed import scene

NAMES = [Named("a", "Ada", ())]


def state(name, pixels, **more):
    return ShotState(name, "1", "", frozenset({"a"}), "ink", (), measure_picture(pixels, []), **more)


@pytest.fixture(scope="module")
def grounds():
    return [scene([], np.random.default_rng(i), ground=2)[0] for i in range(6)]


@pytest.fixture(scope="module")
def style(grounds):
    return StyleHome("ink", "Ink", tuple(measure_picture(g, []).signature for g in grounds[:3]), (1.0, 1.0, 1.0))


def blurred(pixels):
    wide = np.pad(pixels.astype(float), ((4, 4), (4, 4), (0, 0)), mode="edge")
    parts = [wide[y : y + pixels.shape[0], x : x + pixels.shape[1]] for y in range(9) for x in range(9)]
    return np.mean(parts, axis=0).astype(np.uint8)


def test_nothing_is_read_of_nothing_nor_of_what_is_not_measured(style):
    assert read_takes([], [], [style], NAMES) == []
    unmeasured = ShotState("t", "1", "", frozenset(), "ink")
    assert read_takes([TakeState(unmeasured)], [], [style], NAMES) == []


def test_a_take_in_the_style_holds_and_has_no_faults(grounds, style):
    readings = read_takes(
        [TakeState(state(f"t{i}", g), form=grounds[0].shape[1] / grounds[0].shape[0]) for i, g in enumerate(grounds)],
        [],
        [style],
        NAMES,
    )
    assert [r.take for r in readings] == [f"t{i}" for i in range(6)]
    assert all(r.style and r.style.of == "ink" and r.style.value < 1 for r in readings)
    assert not any(r.technical for r in readings)


def test_who_was_not_found_is_said_and_ranks_behind_what_holds(grounds, style):
    [seen, unseen] = read_takes(
        [TakeState(state("s", grounds[3])), TakeState(state("u", grounds[4]), ("a",))], [], [style], NAMES
    )
    [score] = unseen.figures
    assert (score.of, score.value, score.verdict) == ("a", None, "unseen")
    assert unseen.worst >= 1.2 > seen.worst


def test_a_border_another_form_and_softness_are_technical_faults(grounds, style):
    height, width = grounds[0].shape[:2]
    framed = grounds[1].copy()
    framed[:24] = framed[-24:] = framed[:, :24] = framed[:, -24:] = 240
    takes = [TakeState(state(f"t{i}", g), form=width / height) for i, g in enumerate(grounds[2:5])]
    takes += [
        TakeState(state("framed", framed), form=width / height),
        TakeState(state("square", grounds[1][:, :height]), form=width / height),
        TakeState(state("soft", blurred(grounds[0])), form=width / height),
    ]
    told = {r.take: {s.of for s in r.technical} for r in read_takes(takes, [], [style], NAMES)}
    assert told["framed"] == {"border"}
    assert told["square"] == {"form"}
    assert told["soft"] == {"soft"}
    assert not any(told[f"t{i}"] for i in range(3))
    worst = {r.take: r.worst for r in read_takes(takes, [], [style], NAMES)}
    assert worst["framed"] >= 1.5


def test_of_few_takes_softness_is_not_told(grounds, style):
    takes = [TakeState(state("a", grounds[0])), TakeState(state("b", blurred(grounds[1])))]
    assert not any(r.technical for r in read_takes(takes, [], [style], NAMES))
