"""Clips of every kind that is taken, frame by frame; and files that are none."""

import av
import numpy as np
import pytest

from juxtaform.core.sound.levels import RATE
from juxtaform.media import clips
from juxtaform.media.decode import PictureRefused
from juxtaform.media.sounds import HEADER, SoundRefused
from tests.conftest import flat
from tests.constructed_clips import film, film_with_sound, flip, frames

PIXELS, _ = frames(12)
for i, page in enumerate(PIXELS):
    page[:8, :8] = i * 20  # No two are the same: writers of GIF and WebP leave out what repeats.
KINDS = {
    "mp4": (clips.MP4, lambda path: film(PIXELS, path)),
    "mov": (clips.MOV, lambda path: film(PIXELS, path)),
    "webm": (clips.WEBM, lambda path: film(PIXELS, path, "libvpx")),
    "gif": (clips.GIF, lambda path: flip(PIXELS, "GIF")),
    "webp": (clips.WEBP, lambda path: flip(PIXELS, "WEBP")),
}


@pytest.fixture(params=KINDS)
def clip(request, tmp_path):
    kind, make = KINDS[request.param]
    path = tmp_path / f"clip.{request.param}"
    path.write_bytes(make(path))
    return path, kind


def test_every_kind_is_known_by_its_bytes_and_read_whole(clip):
    path, kind = clip
    assert clips.clip_type(path.read_bytes()) == kind
    facts = clips.facts_of(path, kind)
    assert (facts.width, facts.height, facts.frames) == (480, 320, 12)
    assert facts.seconds == pytest.approx(12 / 12 if kind.startswith("video") else 1.2, abs=0.1)
    seen = list(clips.frames(path, kind, 240))
    assert len(seen) == 12
    assert seen[0][1].shape == (160, 240, 3)
    assert [t for t, _ in seen] == sorted(t for t, _ in seen)
    last = clips.frame_at(path, kind, facts.seconds + 5)
    assert np.abs(last.astype(int) - PIXELS[-1]).mean() < 8
    third = clips.frame_at(path, kind, seen[3][0])
    assert np.abs(third.astype(int) - PIXELS[3]).mean() < np.abs(third.astype(int) - PIXELS[8]).mean()
    read = list(clips.read_through(path, kind))
    assert [f.pixels is not None for f in read] == [i % 2 == 0 for i in range(12)], "six a second"
    assert abs(int(np.median(read[0].luma)) - int(np.median(PIXELS[0].mean(axis=-1)))) < 14


def test_a_film_in_place_of_a_clip_has_its_frames_at_their_times(clip, tmp_path):
    path, kind = clip
    assert clips.plays(path, kind) is kind.startswith("video/")
    clips.as_film(path, kind, tmp_path / "film")
    own, film = (list(clips.frames(*x)) for x in ((path, kind), (tmp_path / "film", clips.WEBM)))
    assert [t for t, _ in film[:12]] == pytest.approx([t for t, _ in own], abs=0.002)
    assert clips.facts_of(tmp_path / "film", clips.WEBM).seconds >= clips.facts_of(path, kind).seconds - 0.01
    for (_, a), (_, b) in zip(own, film, strict=False):
        assert np.abs(a.astype(int) - b).mean() < 8


def test_what_browsers_do_not_play_is_known(tmp_path):
    path = tmp_path / "clip.mov"
    path.write_bytes(film(PIXELS, path, "mpeg4"))
    assert not clips.plays(path, clips.MOV)
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=12)
        stream.height, stream.width, stream.pix_fmt = *PIXELS[0].shape[:2], "yuv444p"
        out.mux(stream.encode(av.VideoFrame.from_ndarray(PIXELS[0], format="rgb24").reformat(format="yuv444p")))
        out.mux(stream.encode())
    assert not clips.plays(path, clips.MOV)


@pytest.mark.parametrize("kind", ["mp4", "webm"])
@pytest.mark.parametrize("part", [(0.0, 1.0), (0.5, 0.9), (0.8, 3.0)])
def test_the_sound_of_a_part_begins_when_it_begins_there(tmp_path, kind, part):
    """A tone from 0.3 to 0.7 s of a film of one second."""
    path = tmp_path / f"clip.{kind}"
    film_with_sound(PIXELS, path, np.sin(np.arange(round(0.4 * RATE)) * 2 * np.pi * 440 / RATE) * 0.5, 0.3)
    heard = (max(0.0, 0.3 - part[0]), 0.7 - part[0])
    if heard[1] <= 0:
        with pytest.raises(SoundRefused, match="nothing but silence"):
            clips.sound_of(path, f"video/{kind}", *part)
        return
    pieces = np.frombuffer(clips.sound_of(path, f"video/{kind}", *part)[HEADER:], "<i2")
    assert len(pieces) == round((part[1] - part[0]) * RATE)
    loud = np.flatnonzero(np.abs(pieces) > 3000) / RATE
    assert loud[0] == pytest.approx(heard[0], abs=0.02)
    assert loud[-1] == pytest.approx(heard[1], abs=0.03)


def test_a_clip_without_sound_is_told(clip):
    with pytest.raises(SoundRefused, match="no sound"):
        clips.sound_of(*clip, 0.0, 1.0)


def test_a_still_picture_is_no_clip():
    assert clips.clip_type(flat()) is None
    assert clips.clip_type(flip(PIXELS[:1], "GIF")) is None
    assert clips.clip_type(b"") is None


@pytest.mark.parametrize("cut", [40, 400, 3000])
def test_a_clip_that_breaks_off_is_refused_or_read_as_far_as_it_goes(tmp_path, cut):
    path = tmp_path / "cut.webm"
    data = film(PIXELS, tmp_path / "whole.webm", "libvpx")
    path.write_bytes(data[:cut])
    with pytest.raises(PictureRefused, match=r"damaged|two frames|only sound"):
        clips.facts_of(path, clips.WEBM)


def test_a_clip_in_a_strange_coding_is_refused_with_what_to_do(tmp_path):
    path = tmp_path / "strange.mp4"
    path.write_bytes(film(PIXELS, tmp_path / "good.mp4").replace(b"avc1", b"zzzz"))
    with pytest.raises(PictureRefused, match=r"not read here|damaged"):
        clips.facts_of(path, clips.MP4)


def test_a_playlist_that_calls_itself_a_film_leads_nowhere(tmp_path):
    path = tmp_path / "list.mp4"
    path.write_bytes(b"\x00\x00\x00\x18ftypisom#EXTM3U\nfile:///etc/passwd\n" * 20)
    assert clips.clip_type(path.read_bytes()) == clips.MP4
    with pytest.raises(PictureRefused, match="damaged"):
        clips.facts_of(path, clips.MP4)


def test_a_clip_that_is_too_long_is_refused_with_its_limit(tmp_path, monkeypatch):
    path = tmp_path / "long.mp4"
    film(PIXELS, path)
    monkeypatch.setattr(clips, "MOST_CLIP_FRAMES", 5)
    with pytest.raises(PictureRefused, match="more than 5 frames"):
        clips.facts_of(path, clips.MP4)
    monkeypatch.setattr(clips, "MOST_CLIP_SIDE_PX", 300)
    with pytest.raises(PictureRefused, match="longest side"):
        clips.facts_of(path, clips.MP4)


@pytest.mark.parametrize(
    ("matrix", "corner"),
    [
        ((0, 1, -1, 0), (-1, 0)),  # turned to the right: what was below on the left is above on the left
        ((-1, 0, 0, -1), (-1, -1)),
        ((0, -1, 1, 0), (0, -1)),
    ],
)
def test_a_clip_that_a_telephone_wrote_on_its_side_is_seen_upright(tmp_path, matrix, corner):
    """The track header's matrix (ISO 14496-12, 8.3.2) says how a film is turned."""
    page = np.zeros((160, 240, 3), np.uint8)
    y, x = corner
    page[(slice(0, 40) if y == 0 else slice(-40, None)), (slice(0, 60) if x == 0 else slice(-60, None))] = 240
    data = film([page] * 6, tmp_path / "upright.mp4")
    told, plain = (b"".join((v * 65536).to_bytes(4, "big", signed=True) for v in m) for m in (matrix, (1, 0, 0, 1)))
    plain = plain[:8] + bytes(4) + plain[8:]
    at = data.index(plain, data.index(b"tkhd"))
    (tmp_path / "turned.mp4").write_bytes(data[:at] + told[:8] + bytes(4) + told[8:] + data[at + len(plain) :])
    path = tmp_path / "turned.mp4"
    facts = clips.facts_of(path, clips.MP4)
    sideways = matrix[0] == 0
    assert (facts.width, facts.height) == ((160, 240) if sideways else (240, 160))
    seen = clips.frame_at(path, clips.MP4, 0.0)
    assert seen.shape == ((240, 160, 3) if sideways else (160, 240, 3))
    assert seen[5, 5].mean() > 200
    assert seen[-5, -5].mean() < 40
    read = next(clips.read_through(path, clips.MP4))
    assert read.pixels.shape == seen.shape


def test_a_clip_that_takes_too_long_is_given_up(tmp_path, monkeypatch):
    path = tmp_path / "slow.mp4"
    film(PIXELS, path)
    monkeypatch.setattr(clips, "MOST_CLIP_WORK_S", -1.0)
    with pytest.raises(PictureRefused, match="too long to read"):
        clips.facts_of(path, clips.MP4)
