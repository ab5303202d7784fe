"""Files out are opened again by other programs, and what these say is held against the plan: counts, order, seconds, words, colours."""

import io
import subprocess
import xml.etree.ElementTree as ET
import zipfile
from fractions import Fraction

import av
import numpy as np
import opentimelineio as otio
import pytest
from PIL import Image

from juxtaform.core.run.along import captions as laid_captions
from juxtaform.formats.out import animatic as film
from juxtaform.formats.out import captions, pictures, storyboard, timeline
from juxtaform.formats.out.animatic import AnimaticForm, animatic
from juxtaform.formats.out.captions import CaptionsWrong
from juxtaform.formats.out.sequence import Going, OutClip, OutPicture, OutSequence, OutShot, Stopped, file_name
from juxtaform.formats.out.stage import Stage, planes_of
from juxtaform.formats.out.timeline import TimelineWrong
from tests.constructed_clips import film as filmed
from tests.constructed_clips import flip

RED, GREEN, BLUE = (200, 40, 30), (30, 160, 60), (40, 60, 190)
FACTS = "stream=codec_name,width,height,nb_read_frames,color_space"
WORDS = "The tide had been gone three days. Pell sat on the bottom step, and waited & waited <there>."


def picture(folder, name, colour, size=(192, 128)):
    path = folder / f"{name}.png"
    Image.new("RGB", size, colour).save(path)
    return OutPicture(str(path), *size, "image/png")


def shot(number, length_s, words="", shows="A step", **more):
    said = tuple(laid_captions(words, length_s))
    return OutShot(
        f"{number:032x}", number, "Quay", shows, "wide shot", "static", length_s, "cut", 0.6, words, said, **more
    )


@pytest.fixture
def sequence(tmp_path):
    """Three shots: red, one without a picture, and green that comes by a dissolve."""
    red, green = picture(tmp_path, "red", RED), picture(tmp_path, "green", GREEN)
    last = shot(3, 1.5, "Они ждали.", "Καλημέρα / part: 3", picture=green)
    last = OutShot(**{**vars(last), "join": "dissolve", "join_s": 0.5})
    return OutSequence(
        "Pell: the “Tide”", (shot(1, 2.0, WORDS, picture=red), shot(2, 1.25, "Nothing."), last), 24.0, 1.5, "en", "p"
    )


@pytest.fixture
def going(tmp_path):
    (tmp_path / "work").mkdir()
    return Going(tmp_path / "work")


@pytest.mark.parametrize(("kind", "codec"), [("mp4", "h264"), ("webm", "vp9")])
def test_an_animatic_has_every_frame_at_its_time_in_its_colours(sequence, going, tmp_path, kind, codec):
    to = tmp_path / f"out.{kind}"
    assert animatic(sequence, AnimaticForm(kind, 120, burnt_in=False), to, going).unread == []
    told = subprocess.run(
        ["ffprobe", "-v", "error", "-count_frames", "-of", "csv=p=0", "-show_entries", FACTS, str(to)],
        capture_output=True,
        text=True,
        check=True,
    ).stdout.strip()
    assert told == f"{codec},180,120,bt709,{round(4.75 * 24)}"
    with av.open(str(to)) as container:
        frames = [(float(f.pts * f.time_base), f.to_ndarray(format="rgb24")) for f in container.decode(video=0)]
    times = [t for t, _ in frames]
    assert times == pytest.approx([i / 24 for i in range(len(frames))], abs=0.002)
    middle = {t: f[60, 90].astype(int) for t, f in ((1.0, frames[24][1]), (3.5, frames[84][1]), (4.5, frames[108][1]))}
    assert np.abs(middle[1.0] - RED).max() < 8
    assert np.abs(middle[4.5] - GREEN).max() < 8
    card = frames[60][1]
    assert card.mean() > 190  # the card of the shot without a picture is paper
    dissolving = middle[3.5]  # half way from the card to green
    assert dissolving[1] > middle[4.5][1] + 15
    assert dissolving[0] < 200


@pytest.mark.parametrize("kind", ["video/mp4", "image/gif"])
def test_a_clip_runs_in_the_animatic_within_its_trim_and_its_last_frame_stays(going, tmp_path, kind):
    shades = [
        np.full((96, 144, 3), 20 + 8 * i, np.uint8) for i in range(24)
    ]  # a second and more: each frame is lighter
    data, fps = (
        (filmed(shades, tmp_path / "f.mp4", rate=24), 24) if kind == "video/mp4" else (flip(shades, "GIF", 0.1), 10)
    )
    (tmp_path / "c").write_bytes(data)
    Image.fromarray(shades[0]).save(tmp_path / "first.png")
    start, end = 6 / fps, 18 / fps
    clip = OutClip(str(tmp_path / "c"), kind, start, end)
    still = picture(tmp_path, "red", RED)
    shown = OutPicture(str(tmp_path / "first.png"), 144, 96, "image/png", clip=clip)
    shots = (shot(1, 1.0, picture=still), shot(2, 3.0, picture=shown), shot(3, 1.0, picture=still))
    animatic(OutSequence("x", shots, 24.0, 1.5), AnimaticForm("mp4", 120, burnt_in=False), tmp_path / "o.mp4", going)
    with av.open(str(tmp_path / "o.mp4")) as container:
        light = [float(f.to_ndarray(format="rgb24")[60, 90].mean()) for f in container.decode(video=0)]
    length = end - start
    for part in (0.1, 0.5, 0.9):
        i = 24 + round(part * length * 24)
        wanted = 20 + 8 * int((start + (i - 24) / 24) * fps + 1e-6)
        assert light[i] == pytest.approx(wanted, abs=12), part
    assert light[24 + 60] == pytest.approx(light[24 + 70], abs=3)  # over: the last frame stays
    assert light[24 + 60] == pytest.approx(20 + 8 * 18, abs=14)
    (tmp_path / "c").write_bytes(b"nothing")
    told = animatic(OutSequence("x", shots, 24.0, 1.5), AnimaticForm("mp4", 120), tmp_path / "p.mp4", Going(tmp_path))
    assert told.unread == [2]


def test_words_are_burnt_in_where_they_are_said_and_nowhere_else(sequence, tmp_path):
    parts = []
    for burnt_in in (False, True):
        (tmp_path / f"w{burnt_in}").mkdir()
        to = tmp_path / f"{burnt_in}.mp4"
        animatic(sequence, AnimaticForm("mp4", 240, burnt_in), to, Going(tmp_path / f"w{burnt_in}"))
        with av.open(str(to)) as container:
            parts.append([f.to_ndarray(format="rgb24")[:, :, 1].astype(int) for f in container.decode(video=0)])
    plain, told = parts
    differ = np.abs(plain[12] - told[12])
    assert differ[160:].max() > 100
    assert differ[:120].max() < 24
    assert (told[12][160:] > 200).sum() > 200


def test_work_that_was_stopped_goes_on_where_it_was(sequence, going, tmp_path, monkeypatch):
    monkeypatch.setattr(film, "PART_FRAMES", 30)
    drawn = []
    once = Stage.drawn
    monkeypatch.setattr(Stage, "drawn", lambda self, seen: (drawn.append(seen), once(self, seen))[1])
    told = going.done

    def stop_in_the_third(count, of):
        told(count, of)
        if count >= 60:
            (going.folder / "stop").touch()

    monkeypatch.setattr(going, "done", stop_in_the_third)
    to = tmp_path / "out.mp4"
    with pytest.raises(Stopped):
        animatic(sequence, AnimaticForm("mp4", 120, burnt_in=False), to, going)
    assert not to.exists()
    (going.folder / "stop").unlink()
    monkeypatch.setattr(going, "done", told)
    before = len(drawn)
    animatic(sequence, AnimaticForm("mp4", 120, burnt_in=False), to, going)
    assert drawn[before][0].shot == sequence.shots[1].id  # the red ones were not drawn again
    with av.open(str(to)) as container:
        assert sum(1 for _ in container.decode(video=0)) == 114


def test_a_slow_move_shifts_by_parts_of_a_pixel(tmp_path):
    ramp = np.tile(np.linspace(0, 255, 240).astype(np.uint8)[None, :, None], (160, 1, 3))
    Image.fromarray(ramp).save(tmp_path / "ramp.png")
    pan = OutShot(
        "a",
        1,
        "",
        "",
        "",
        "pan",
        4.0,
        "cut",
        0.6,
        move_start=(0.0, 0.0, 0.5, 0.5),
        move_end=(0.05, 0.0, 0.5, 0.5),
        picture=OutPicture(str(tmp_path / "ramp.png"), 240, 160, "image/png"),
    )
    sequence = OutSequence("x", (pan,))
    stage = Stage(sequence, 240, 160)
    tones = [
        float(stage.drawn(sequence.timeline.at(t)).planes[0][80, 60:180].mean()) for t in np.linspace(0.5, 3.5, 25)
    ]
    steps = np.diff(tones)
    assert (steps > 0).all()
    assert steps.max() < 2.5 * steps.mean()


def test_planes_are_those_of_another_program():
    rng = np.random.default_rng(1)
    pixels = np.kron(rng.integers(0, 256, (8, 12, 3)), np.ones((4, 4, 1))).astype(np.uint8)
    frame = av.VideoFrame.from_ndarray(pixels, format="rgb24").reformat(format="yuv444p", dst_colorspace="ITU709")
    light, blue, _ = planes_of(pixels)
    other = frame.to_ndarray()
    assert np.abs(light.astype(int) - other[0]).max() <= 2
    assert np.abs(blue.astype(int) - other[1][::2, ::2]).max() <= 2


def test_captions_go_out_and_come_back(sequence):
    for text in (captions.web_vtt(sequence), captions.srt(sequence)):
        back = captions.read_captions(text.encode())
        assert " ".join(c.words for c in back) == f"{WORDS} Nothing. Они ждали."
        assert back[0].start_s == 0
        assert [c.end_s for c in back][-1] == pytest.approx(4.75, abs=0.001)
        assert next(c for c in back if c.words == "Nothing.").start_s == pytest.approx(2.0, abs=0.001)
    assert "waited &amp;" in captions.web_vtt(sequence)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "No captions"),
        (b"hello", "No captions"),
        (b"1\n00:00:01,000 --> soon\nHi", "from when to when"),
        (b"1\n00:00:03,000 --> 00:00:01,000\nHi", "ends before"),
        (b"\x00\x01\x02", "No captions"),
    ],
)
def test_captions_that_cannot_be_read_say_why(data, words):
    with pytest.raises(CaptionsWrong, match=words):
        captions.read_captions(data)


def test_captions_of_strangers_are_read():
    told = captions.read_captions(
        "\ufeff1\r\n00:01.5 --> 00:02.25 align:start\r\n<i>Caf\u00e9</i>\r\n{\\an8}two\r\n\r\n\r\nNOTE x\r\n".encode()
    )
    assert [(c.start_s, c.end_s, c.words) for c in told] == [(1.5, 2.25, "Café two")]
    assert captions.read_captions("1\n0:00:01,0 --> 0:00:02,0\nCafé".encode("cp1252"))[0].words == "Café"


def test_numbered_pictures_come_in_their_order_under_names_that_any_system_takes(sequence, going, tmp_path):
    pictures.numbered_zip(sequence, tmp_path / "p.zip", going)
    with zipfile.ZipFile(tmp_path / "p.zip") as archive:
        assert archive.namelist() == [
            "Pell the “Tide”/001 A step.png",
            "Pell the “Tide”/002 A step.png",
            "Pell the “Tide”/003 Καλημέρα part 3.png",
        ]
        assert archive.testzip() is None
        first = Image.open(io.BytesIO(archive.read(archive.namelist()[0])))
        assert first.getpixel((5, 5)) == RED
        assert Image.open(io.BytesIO(archive.read(archive.namelist()[1]))).size == (1200, 800)
    pictures.numbered_zip(sequence, tmp_path / "q.zip", going, placeholders=False)
    with zipfile.ZipFile(tmp_path / "q.zip") as archive:
        assert len(archive.namelist()) == 2


def test_a_comic_archive_tells_its_pages(sequence, going, tmp_path):
    pictures.cbz(sequence, tmp_path / "c.cbz", going)
    with zipfile.ZipFile(tmp_path / "c.cbz") as archive:
        pages = sorted(n for n in archive.namelist() if n.endswith(".png"))
        info = ET.fromstring(archive.read("ComicInfo.xml"))
    assert (info.findtext("Title"), info.findtext("PageCount"), len(pages)) == ("Pell: the “Tide”", "3", 3)
    assert [(p.get("Image"), p.get("ImageWidth")) for p in info.iter("Page")] == [
        ("0", "192"),
        ("1", "1200"),
        ("2", "192"),
    ]


def test_a_timeline_is_read_by_its_own_library_and_back(sequence, tmp_path):
    path = tmp_path / "t.otio"
    path.write_text(timeline.otio_text(sequence))
    read = otio.adapters.read_from_file(str(path))
    track = read.tracks[0]
    clips = [c for c in track if isinstance(c, otio.schema.Clip)]
    assert [c.source_range.duration.value for c in clips] == [48, 30, 36]
    assert track.duration().to_seconds() == pytest.approx(4.75)
    assert [type(c.media_reference).__name__ for c in clips] == [
        "ExternalReference",
        "MissingReference",
        "ExternalReference",
    ]
    assert [t.out_offset.value for t in track if isinstance(t, otio.schema.Transition)] == [12]
    assert " ".join(m.name for m in track.markers) == f"{WORDS} Nothing. Они ждали."
    laid = timeline.read_timeline(path)
    assert [(x.shot, x.length_s) for x in laid] == [(s.id, pytest.approx(s.length_s)) for s in sequence.shots]


def test_rounding_to_frames_does_not_add_up(tmp_path):
    many = OutSequence("x", tuple(shot(i + 1, 1.03) for i in range(200)))
    read = otio.adapters.read_from_string(timeline.otio_text(many), "otio_json")
    assert read.tracks[0].duration().to_seconds() == pytest.approx(206.0, abs=0.03)


@pytest.mark.parametrize(
    "data", [b"", b"{", b"[]", b'{"OTIO_SCHEMA": "Clip.1"}', b'{"OTIO_SCHEMA": "Timeline.1", "tracks": null}']
)
def test_timelines_that_cannot_be_read_say_so(tmp_path, data):
    (tmp_path / "bad.otio").write_bytes(data)
    with pytest.raises(TimelineWrong):
        timeline.read_timeline(tmp_path / "bad.otio")


@pytest.mark.parametrize(("a_page", "pages"), [(1, 3), (4, 1), (6, 1), (9, 1)])
def test_a_storyboard_has_every_picture_with_its_words_in_order(sequence, going, tmp_path, a_page, pages):
    storyboard.storyboard(sequence, a_page, tmp_path / "s.pdf", going)
    told = subprocess.run(
        ["pdftotext", "-layout", str(tmp_path / "s.pdf"), "-"], capture_output=True, text=True, check=True
    ).stdout
    info = subprocess.run(["pdfinfo", str(tmp_path / "s.pdf")], capture_output=True, text=True, check=True).stdout
    assert f"Pages:           {pages}" in info
    for words in ("Pell: the “Tide”", "wide shot", "Nothing.", "Они ждали.", "Καλημέρα", "2 s"):
        assert words in told
    fonts = subprocess.run(["pdffonts", str(tmp_path / "s.pdf")], capture_output=True, text=True, check=True).stdout
    assert all(line.split()[-5] == "yes" for line in fonts.splitlines()[2:])  # every face is embedded
    images = subprocess.run(
        ["pdfimages", "-list", str(tmp_path / "s.pdf")], capture_output=True, text=True, check=True
    ).stdout
    assert len(images.splitlines()) - 2 == 3


def test_a_plan_without_shots_or_length_says_so(going, tmp_path):
    with pytest.raises(ValueError, match="no shot has a length"):
        animatic(OutSequence("x", (shot(1, 0.0),)), AnimaticForm(), tmp_path / "x.mp4", going)
    storyboard.storyboard(OutSequence("x", ()), 6, tmp_path / "e.pdf", going)
    assert captions.web_vtt(OutSequence("x", ())).startswith("WEBVTT")


def test_a_damaged_picture_is_told_and_stands_as_a_card(tmp_path, going):
    (tmp_path / "bad.png").write_bytes(b"\x89PNG nothing")
    bad = shot(1, 0.5, picture=OutPicture(str(tmp_path / "bad.png"), 192, 128, "image/png"))
    assert animatic(OutSequence("x", (bad,)), AnimaticForm("mp4", 120), tmp_path / "x.mp4", going).unread == [1]


@pytest.mark.parametrize(
    ("words", "name"),
    [
        ("a/b\\c:d*e?", "a b c d e"),
        ("nul", "nul_"),
        (" .. ", "Sequence"),
        ("x" * 300, "x" * 80),
        ("e\u0301", "é"),
        ("LPT1.txt", "LPT1.txt_"),
    ],
)
def test_names_that_any_system_takes(words, name):
    assert file_name(words) == name


def test_odd_frame_rates_keep_their_time(sequence, going, tmp_path):
    odd = OutSequence(sequence.title, sequence.shots, 30000 / 1001, 1.5)
    animatic(odd, AnimaticForm("mp4", 120, burnt_in=False), tmp_path / "o.mp4", going)
    with av.open(str(tmp_path / "o.mp4")) as container:
        assert container.streams.video[0].average_rate == Fraction(30000, 1001)
        assert sum(1 for _ in container.decode(video=0)) == round(4.75 * 30000 / 1001)
