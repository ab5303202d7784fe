"""What the check tells of clips: slips within the part that is shown, flicker, and a beginning that is not as its still."""

from juxtaform.core.check.clips import clip_findings
from juxtaform.core.check.states import ClipSeen, ShotState
from juxtaform.core.clips.reading import ClipReading, Track
from juxtaform.core.clips.words import slips

HOLDS = (0.1, 0.2, 0.2, 0.1)


def told(figure=None, style=None, flicker=(), part=(0.0, 4.0)):
    """The findings of a clip of 4 s in 40 frames, of which every tenth was measured."""
    figure = figure or Track("ada", HOLDS, None)
    reading = ClipReading(
        (0, 10, 20, 30), 40, style or Track("style", HOLDS, None), (figure,), tuple(flicker), (1.0,) * 4, {}
    )
    shot = ShotState("s", "1", "", frozenset(), "look", clip=ClipSeen(reading, 4.0, part))
    return clip_findings([shot], {"ada": "Ada"})


def test_a_clip_that_holds_and_a_shot_without_one_are_told_nothing():
    assert told() == []
    assert clip_findings([ShotState("s", "1", "", frozenset(), None)], {}) == []


def test_a_slip_is_told_where_it_begins_with_both_colours():
    slipping = Track("ada", (0.1, 0.2, 2.0, 9.0), 20, kind="colour", was="#dba326", now="#2f7d4f")
    [found] = told(slipping)
    assert found.title == "In the clip: Ada's amber turns green from 2.0 s on"
    assert (found.kind, found.thread, found.shot, found.at_s, found.severity) == ("clip_slips", "ada", "s", 2.0, 3.0)
    assert (found.evidence[1].expected_hex, found.evidence[2].measured_hex) == ("#dba326", "#2f7d4f")


def test_what_is_cut_away_is_not_told():
    slipping = Track("ada", (0.1, 0.2, 2.0, 2.0), 20, kind="person")
    assert told(slipping, part=(0.0, 1.9)) == []
    assert [f.kind for f in told(slipping, part=(0.5, 3.0))] == ["clip_slips"]


def test_a_style_that_slips_lies_on_the_style_s_thread():
    [found] = told(style=Track("style", (0.1, 0.2, 1.1, 1.1), 20, kind="pale"))
    assert found.thread == "look"
    assert found.title == "In the clip: the colours fade from 2.0 s on"


def test_flicker_is_told_from_three_frames_on_that_are_shown():
    flashes = [(5, 0.1), (11, 0.1), (17, -0.1)]
    assert told(flicker=flashes[:2]) == []
    [found] = told(flicker=flashes)
    assert (found.kind, found.at_s) == ("clip_flickers", 0.5)
    assert told(flicker=flashes, part=(1.0, 4.0)) == []


def test_a_beginning_unlike_its_still_is_told_once():
    [found] = told(Track("ada", HOLDS, None, still=1.8))
    assert found.title == "The clip does not begin as its still: Ada is not the same"
    assert told(Track("ada", HOLDS, None, still=0.9)) == []


def test_every_kind_of_slip_is_a_sentence_that_says_since_when():
    said = {kind: slips("Ada", kind, "", "", 1.0) for kind in ("person", "colours", "colour", "pale", "loud", "hand")}
    assert len(set(said.values())) == 6
    assert all("from 1.0 s on" in words for words in said.values())
