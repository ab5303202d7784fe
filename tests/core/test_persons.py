"""Somebody else in a character's place: each picture is weighed beside the others of its thread and the rest of the cast."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.check.persons import somebody_else, thread_level, who_terms
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.figure.appearance import Appearance
from juxtaform.core.figure.known import Terms
from juxtaform.core.figure.recognition import ASKED, NO_RIVAL, STRANGER, UNWORN, weighed
from juxtaform.core.figure.verdict import level
from juxtaform.core.figure.who import Identity
from juxtaform.core.figure.worn import Worn
from juxtaform.media import network

RED, BUFF, VIOLET = "#a03030", "#d8c090", "#6030a0"


def seen(score=3.0, colours=((RED, 0.0), (BUFF, 0.0)), rivals=(), distance=0.3, **more):
    """A figure in two colours of half of it each, with how far each lies from those of its references."""
    worn = tuple(
        Worn(tuple(float(v) for v in linear_from_hex(code)), share=0.5, apart=apart, parts=(0.5,))
        for code, apart in colours
    )
    who = Identity(score=score, view=0, share=0.5, rivals=dict(rivals), shape=score - 1.0, **more)
    return Appearance(distance, Terms(0.1, 0.1, 0.1), SceneLight(), (), "front", {}, who, worn)


@pytest.fixture(scope="module")
def judge():
    judges = network.judges()
    assert judges
    assert judges.who
    return judges.who


def odds(judge, *pictures):
    return somebody_else(pictures, thread_level(pictures), judge)


def test_a_right_figure_is_itself_and_a_stranger_in_other_colours_is_told(judge):
    other = seen(-1.5, ((VIOLET, 0.3), (BUFF, 0.0)), {"oda": -0.5}, distance=1.4)
    told = odds(judge, seen(), seen(2.5), other, seen(3.2), seen(2.8))
    assert told[2] > STRANGER
    assert all(o < ASKED for i, o in enumerate(told) if i != 2)


def test_what_the_other_pictures_show_as_well_speaks_less_for_somebody_else(judge):
    odd = seen(0.0, ((VIOLET, 0.3), (BUFF, 0.0)))
    alone = odds(judge, odd, seen(), seen(), seen())[0]
    like_others = odds(judge, odd, *[seen(0.2, ((VIOLET, 0.3), (BUFF, 0.0)))] * 3)[0]
    assert like_others < alone


def test_who_goes_better_of_the_cast_speaks_for_somebody_else(judge):
    plain, led = (odds(judge, seen(0.5, rivals=r), seen(), seen())[0] for r in ({"oda": -4.0}, {"oda": 3.0}))
    assert led > plain + 1
    nobody = who_terms([seen()], thread_level([seen()]))[0]
    assert nobody.values[3] == NO_RIVAL


def test_a_single_picture_is_weighed_by_the_level_alone(judge):
    [terms] = who_terms([seen(1.0)], level([], []))
    assert terms.others == (level([], []).score,) * 2
    assert odds(judge, seen())[0] < ASKED
    bare = replace(seen(), worn=())
    assert who_terms([bare], level([], []))[0].anywhere == UNWORN


def test_another_costume_of_their_own_and_what_nobody_looked_at_is_not_weighed(judge):
    dressed = seen(-3.0, costumes={"night": 3.0})
    blind = replace(seen(), identity=None)
    assert odds(judge, dressed, blind, seen())[:2] == [None, None]
    assert somebody_else([seen()], level([], []), None) == [None]


def test_the_odds_and_the_cast_say_who_it_is():
    held = level([], [])
    assert weighed(STRANGER + 0.1, -1.0, {"oda": 2.5, "tim": 0.0}, held) == ("other", "oda")
    assert weighed(STRANGER + 0.1, -1.0, {"oda": -2.0}, held) == ("stranger", "oda")
    assert weighed(STRANGER + 0.1, -1.0, {}, held) == ("stranger", None)
    assert weighed((STRANGER + ASKED) / 2, 1.0, {}, held) == ("doubtful", None)
    assert weighed(ASKED - 0.1, 1.0, {"oda": 3.0}, held) == ("same", "oda")


def test_numbers_that_are_missing_are_said_and_the_references_speak_alone(monkeypatch, tmp_path, caplog):
    (tmp_path / "figure.npz").write_bytes((network.HOME / "figure.npz").read_bytes())
    monkeypatch.setattr(network, "HOME", tmp_path)
    judges = network.judges.__wrapped__()
    assert judges is not None
    assert judges.who is None
    assert "cannot be weighed beside other pictures" in caplog.text
    assert np.isfinite(judges.traits.offset)
