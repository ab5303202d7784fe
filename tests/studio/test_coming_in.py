"""Timelines and captions that were edited elsewhere come back as lengths, order and words, in one step each."""

import opentimelineio as otio
import pytest

from juxtaform.formats.out import captions, timeline
from juxtaform.records.models import Shot
from juxtaform.studio import coming_in, outgoing, plan, projects, story
from juxtaform.studio.workspace import NotPossible
from tests.conftest import rows


@pytest.fixture
def shots(ws, project):
    """Four shots of two seconds in two scenes: 1 and 2 on the quay, 3 and 4 in the cave."""
    for title in ("The quay", "The cave"):
        plan.add_scene(ws, project, title)
    for first in [x["id"] for x in rows(ws, project, "shot")]:
        plan.insert_shot(ws, project, first)
    ids = order(ws, project)
    for i, shot in enumerate(ids):
        plan.edit_shot(ws, project, shot, {"length_s": 2.0, "shows": f"Step {i}"}, None)
    return ids


def order(ws, project):
    scenes = {s["id"]: s["position"] for s in rows(ws, project, "scene")}
    return [x["id"] for x in sorted(rows(ws, project, "shot"), key=lambda x: (scenes[x["scene_id"]], x["position"]))]


def facts(ws, project, key):
    by = {x["id"]: x[key] for x in rows(ws, project, "shot")}
    return [by[i] for i in order(ws, project)]


def edited(ws, project, change):
    """The project's own timeline, edited by another program."""
    read = otio.adapters.read_from_string(timeline.otio_text(outgoing.sequence_of(ws, project)), "otio_json")
    change(read.tracks[0])
    return otio.adapters.write_to_string(read, "otio_json").encode()


def test_our_own_timeline_changes_nothing(ws, project, shots):
    changed = coming_in.timeline_in(ws, project, edited(ws, project, lambda track: None))
    assert not changed.rows.get("shot")


def test_lengths_and_order_come_back_in_one_step(ws, project, shots):
    def change(track):
        clips = list(track)
        range_ = clips[0].source_range
        clips[0].source_range = otio.opentime.TimeRange(range_.start_time, otio.opentime.RationalTime(84, 24))
        del track[:]
        track.extend([clips[1], clips[0], *clips[2:]])

    before = facts(ws, project, "scene_id")
    coming_in.timeline_in(ws, project, edited(ws, project, change))
    assert order(ws, project) == [shots[1], shots[0], shots[2], shots[3]]
    assert facts(ws, project, "length_s") == [2.0, 3.5, 2.0, 2.0]
    assert facts(ws, project, "scene_id") == before
    projects.undo(ws, project)
    assert order(ws, project) == shots
    assert facts(ws, project, "length_s") == [2.0] * 4


def test_lengths_between_two_frames_stay_and_a_frame_more_is_a_frame_more(ws, project, shots):
    told = [3.6, 2.41, 0.3333, 5.02]
    for shot, length in zip(shots, told, strict=True):
        plan.edit_shot(ws, project, shot, {"length_s": length}, None)

    def change(track):
        range_ = track[1].source_range
        longer = range_.duration + otio.opentime.RationalTime(1, 24)
        track[1].source_range = otio.opentime.TimeRange(range_.start_time, longer)

    assert not coming_in.timeline_in(ws, project, edited(ws, project, lambda track: None)).rows.get("shot")
    coming_in.timeline_in(ws, project, edited(ws, project, change))
    assert facts(ws, project, "length_s") == pytest.approx([3.6, 2.41 + 1 / 24, 0.3333, 5.02], abs=1e-3)


def test_a_shot_that_goes_elsewhere_joins_the_scene_it_stands_in(ws, project, shots):
    def change(track):
        clips = list(track)
        del track[:]
        track.extend([clips[0], clips[2], clips[1], clips[3]])

    coming_in.timeline_in(ws, project, edited(ws, project, change))
    assert order(ws, project) == [shots[0], shots[2], shots[1], shots[3]]
    quay, cave = (s["id"] for s in sorted(rows(ws, project, "scene"), key=lambda s: s["position"]))
    assert facts(ws, project, "scene_id") == [quay, cave, cave, cave]


def test_clips_of_strangers_are_known_by_their_numbers_and_the_rest_stays(ws, project, shots):
    strange = otio.schema.Timeline("x")
    track = otio.schema.Track(kind=otio.schema.TrackKind.Video)
    for name, frames in (("3 cave", 50), ("1. quay", 25), ("nobody", 10), ("3 again", 25)):
        span = otio.opentime.TimeRange(otio.opentime.RationalTime(0, 25), otio.opentime.RationalTime(frames, 25))
        track.append(otio.schema.Clip(name, source_range=span))
    strange.tracks.append(track)
    coming_in.timeline_in(ws, project, otio.adapters.write_to_string(strange, "otio_json").encode())
    assert order(ws, project) == [shots[2], shots[3], shots[0], shots[1]]
    assert facts(ws, project, "length_s") == [3.0, 2.0, 1.0, 2.0]


@pytest.mark.parametrize("data", [b"", b"{}", b"[1]"])
def test_what_is_no_timeline_changes_nothing(ws, project, shots, data):
    with pytest.raises(NotPossible):
        coming_in.timeline_in(ws, project, data)
    assert order(ws, project) == shots


def test_words_come_back_from_captions(ws, project, shots):
    srt = "1\n00:00:00,200 --> 00:00:01,000\nThe tide\n\n2\n00:00:01,100 --> 00:00:01,900\nwoke.\n\n3\n00:00:04,100 --> 00:00:05,000\nWho is there?\n"
    coming_in.captions_in(ws, project, srt.encode())
    assert facts(ws, project, "spoken") == ["The tide woke.", "", "Who is there?", ""]
    told = captions.read_captions(captions.srt(outgoing.sequence_of(ws, project)).encode())
    assert [c.words for c in told] == ["The tide woke.", "Who is there?"]
    projects.undo(ws, project)
    assert facts(ws, project, "spoken") == [""] * 4
    with pytest.raises(NotPossible, match="No captions"):
        coming_in.captions_in(ws, project, b"nothing")


def test_words_that_the_text_has_already_are_not_said_twice(ws, project, shots):
    story.keep(ws, project, "“The tide woke,” said Oda.")
    story.anchor_again(ws, project, shots[0], 0, 27)
    vtt = captions.web_vtt(outgoing.sequence_of(ws, project))
    coming_in.captions_in(ws, project, vtt.encode())
    assert facts(ws, project, "spoken") == [""] * 4


def test_captions_pass_over_shots_that_are_only_proposed(ws, project, shots):
    with ws.writing(project, "proposed it") as w:
        w.session.get(Shot, shots[1]).status = "proposed"
    assert [x.id for x in outgoing.sequence_of(ws, project).shots] == [shots[0], *shots[2:]]
    coming_in.captions_in(ws, project, b"WEBVTT\n\n00:02.500 --> 00:03.500\nThe third says it.\n")
    assert facts(ws, project, "spoken") == ["", "", "The third says it.", ""]


def test_captions_want_a_shot_to_go_to(ws, project):
    with pytest.raises(NotPossible, match="no shot yet"):
        coming_in.captions_in(ws, project, b"1\n00:00:00,200 --> 00:00:01,000\nHi")
