"""Sound in files out, opened again by other programs: how long, how loud, where; read along in a book, on a timeline, on a cue sheet."""

import csv
import io
import json
import re
import shutil
import subprocess
import zipfile
from datetime import UTC, datetime

import av
import numpy as np
import opentimelineio as otio
import pytest
from PIL import Image

from juxtaform.core.book.pages import Book, BookShot, laid_out
from juxtaform.core.sound.laying import Laid, Piece, lay
from juxtaform.core.sound.levels import RATE
from juxtaform.formats.out import timeline
from juxtaform.formats.out.animatic import AnimaticForm, animatic
from juxtaform.formats.out.book import OutBook
from juxtaform.formats.out.cues import COLUMNS, cue_sheet
from juxtaform.formats.out.epub import epub
from juxtaform.formats.out.sequence import Going, OutPhrase, OutPicture, OutSequence, OutShot, OutSound
from juxtaform.formats.out.soundtrack import Soundtrack
from juxtaform.media.sounds import opened
from tests.constructed_sounds import music, voice, wav

LINE = "The tide woke. It <stretched> & went."


@pytest.fixture
def going(tmp_path):
    (tmp_path / "work").mkdir()
    return Going(tmp_path / "work")


def kept(folder, name, wave):
    own = folder / f"{name}.wav"
    own.write_bytes(wav(wave))
    facts = opened(own, "audio/wav", folder / f"{name}.copy.wav", folder / f"{name}.levels")
    return own, folder / f"{name}.copy.wav", facts


@pytest.fixture
def sounding(tmp_path):
    """Two shots of two seconds: a voice in the first from 0.2 s on, music over both that fades at its end."""
    Image.new("RGB", (192, 128), (200, 40, 30)).save(tmp_path / "p.png")
    picture = OutPicture(str(tmp_path / "p.png"), 192, 128, "image/png")
    said = kept(tmp_path, "said", voice([(0.1, 0.8), (1.1, 1.5)], 1.6, 0.5))
    song = kept(tmp_path, "song", music(6.0, 0.1))
    phrases = (OutPhrase(0, 14, "v", 0.1, 0.8), OutPhrase(15, len(LINE), "v", 1.1, 1.5))
    shots = tuple(
        OutShot(
            f"s{i}",
            i,
            "Quay",
            f"Step {i}",
            "",
            "static",
            2.0,
            "cut",
            0.6,
            LINE if i == 1 else "",
            picture=picture,
            phrases=phrases if i == 1 else (),
        )
        for i in (1, 2)
    )
    made = OutSequence("Pell: the <Tide>", shots, 24.0, 1.5, "en", "a" * 32)
    pieces = [
        Piece("v", "s1", "voice", 0.0, 1.6, who="p", line=LINE, heard=said[2].holds.heard, name="=said, 1.wav"),
        Piece("m", "s1", "music", 0.0, 6.0, gain_db=-6.0, fade_out_s=1.0, name="Song.wav"),
    ]
    files = {"v": said, "m": song}
    sounds = tuple(
        OutSound(
            x,
            str(files[x.piece.id][0]),
            str(files[x.piece.id][1]),
            "audio/wav",
            files[x.piece.id][2].seconds,
            "Pell" if x.piece.id == "v" else "",
            1,
        )
        for x in lay(pieces, made.timeline)
    )
    return OutSequence(**{**vars(made), "sounds": sounds})


def heard_in(path):
    with av.open(str(path)) as container:
        frames = [f.to_ndarray() for f in container.decode(audio=0)]
    return np.concatenate(frames, axis=1)


@pytest.mark.parametrize(("kind", "codec"), [("mp4", "aac"), ("webm", "opus")])
def test_an_animatic_sounds_as_the_sequence_does(sounding, going, tmp_path, kind, codec):
    to = tmp_path / f"a.{kind}"
    assert animatic(sounding, AnimaticForm(kind, 120), to, going).sound == ""
    told = json.loads(
        subprocess.run(
            ["ffprobe", "-v", "error", "-show_streams", "-of", "json", str(to)],
            capture_output=True,
            text=True,
            check=True,
        ).stdout
    )
    streams = {s["codec_type"]: s for s in told["streams"]}
    assert (streams["audio"]["codec_name"], streams["audio"]["sample_rate"], streams["audio"]["channels"]) == (
        codec,
        "48000",
        2,
    )
    heard = heard_in(to)
    assert heard.shape[1] / RATE == pytest.approx(4.0, abs=0.05)
    wanted = np.concatenate(list(Soundtrack(sounding).blocks()))
    assert len(wanted) == 4 * RATE

    def strength(wave, a, b):
        return float(np.sqrt(np.mean(np.square(wave[round(a * RATE) : round(b * RATE)]))))

    left = heard[0] if np.abs(heard).max() <= 2 else heard[0] / 32768
    for a, b in ((0.02, 0.25), (0.4, 0.9), (1.35, 1.65), (2.0, 2.9), (3.6, 3.8)):
        assert strength(left, a, b) == pytest.approx(strength(wanted[:, 0], a, b), rel=0.15, abs=0.003)
    silent = tmp_path / f"b.{kind}"
    animatic(sounding, AnimaticForm(kind, 120, sound=False), silent, Going(going.folder))
    with av.open(str(silent)) as container:
        assert not container.streams.audio


def test_what_would_clip_is_made_quieter_and_what_cannot_be_read_is_told(sounding, going, tmp_path):
    first = sounding.sounds[1]
    loud = Laid(Piece(**{**vars(first.laid.piece), "gain_db": 18.0}), first.laid.start_s, first.laid.end_s)
    again = OutSequence(**{**vars(sounding), "sounds": (OutSound(**{**vars(first), "laid": loud}),)})
    told = animatic(again, AnimaticForm("mp4", 120), tmp_path / "a.mp4", going).sound
    assert re.fullmatch(r"All sound was made \d+\.\d dB quieter, so that it does not clip\.", told)
    assert np.abs(np.concatenate(list(Soundtrack(again).blocks()))).max() == pytest.approx(0.98, abs=1e-3)
    gone = OutSequence(**{**vars(sounding), "sounds": (OutSound(**{**vars(first), "copy": str(tmp_path / "gone")}),)})
    told = animatic(gone, AnimaticForm("mp4", 120), tmp_path / "b.mp4", Going(going.folder)).sound
    assert told == f"“{first.name}” could not be read and is not heard."


def test_a_timeline_has_the_sounds_on_tracks_of_their_own(sounding, tmp_path):
    (tmp_path / "t.otio").write_text(timeline.otio_text(sounding))
    read = otio.adapters.read_from_file(str(tmp_path / "t.otio"))
    tracks = {t.name: t for t in read.tracks if t.kind == otio.schema.TrackKind.Audio}
    assert list(tracks) == ["Voice", "Music"]
    clip = next(iter(tracks["Voice"].find_clips()))
    assert clip.range_in_parent().start_time.to_seconds() == pytest.approx(0.2)
    assert clip.duration().to_seconds() == pytest.approx(1.6)
    assert clip.metadata["juxtaform"]["words"] == LINE
    assert tracks["Music"][0].duration().to_seconds() == pytest.approx(4.0)
    names = timeline.sound_names(sounding)
    assert sorted(names.values()) == ["sounds/001 Song.wav", "sounds/002 =said, 1.wav"]
    assert [c.media_reference.target_url for c in tracks["Music"].find_clips()] == ["sounds/001%20Song.wav"]
    assert [c.length_s for c in timeline.read_timeline(tmp_path / "t.otio")] == [2.0, 2.0]


def test_a_cue_sheet_tells_every_sound_in_time_and_runs_no_formula(sounding):
    table = list(csv.reader(io.StringIO(cue_sheet(sounding))))
    assert tuple(table[0]) == COLUMNS
    cells = [dict(zip(COLUMNS, line, strict=True)) for line in table[1:]]
    assert [(c["In"], c["Out"], c["Kind"], c["Who"]) for c in cells] == [
        ("00:00:00:00", "00:00:04:00", "music", ""),
        ("00:00:00:05", "00:00:01:19", "voice", "Pell"),
    ]
    assert cells[0]["Gain dB"] == "-6.0"
    assert cells[1]["File"] == "'=said, 1.wav"
    assert cells[1]["Words"] == LINE


def test_an_e_book_reads_its_sentences_aloud(sounding, going, tmp_path):
    laid = laid_out(
        [BookShot(s.id, s.number, "single", 1.5, s.words) for s in sounding.shots],
        Book(180, 120, 3, 10, 8, 4, ("title",), 13, "", ""),
    )
    to = tmp_path / "b.epub"
    assert epub(OutBook(sounding, laid), datetime(2026, 1, 2, tzinfo=UTC), to, going) == []
    told = subprocess.run(["java", "-jar", shutil.which("epubcheck"), str(to)], capture_output=True, text=True)
    assert told.returncode == 0, told.stdout + told.stderr
    assert "0 fatals / 0 errors / 0 warnings" in told.stdout + told.stderr
    with zipfile.ZipFile(to) as archive:
        smil = next(archive.read(n).decode() for n in archive.namelist() if n.endswith(".smil"))
        page = next(
            archive.read(n).decode()
            for n in archive.namelist()
            if n.startswith("EPUB/page-") and "said-1" in archive.read(n).decode()
        )
        (tmp_path / "v.m4a").write_bytes(archive.read("EPUB/sounds/voice-v.m4a"))
    clips = re.findall(
        r'#(said-1-\d+)"/><audio src="sounds/voice-v.m4a" clipBegin="([\d.]+)s" clipEnd="([\d.]+)s"', smil
    )
    assert [(c[0], float(c[1]), float(c[2])) for c in clips] == [("said-1-0", 0.04, 0.86), ("said-1-15", 1.04, 1.56)]
    assert (
        '<span id="said-1-0">The tide woke.</span> <span id="said-1-15">It &lt;stretched&gt; &amp; went.</span>' in page
    )
    assert heard_in(tmp_path / "v.m4a").shape[1] / RATE == pytest.approx(1.6, abs=0.05)
