"""Sounds read: each kind by the one reader of what its bytes say, what is damaged refused with the reason."""

import numpy as np
import pytest

from juxtaform.core.sound.levels import RATE
from juxtaform.media.sounds import SoundRefused, SoundStore, as_wav, opened, samples, sound_type
from tests.constructed_sounds import file_of, music, voice, wav
from tests.constructed_sounds import samples as as_samples

SPANS = [(0.5, 1.5), (2.0, 2.8)]


def read(tmp_path, data):
    (tmp_path / "in").write_bytes(data)
    kind = sound_type(data)
    assert kind is not None
    return opened(tmp_path / "in", kind, tmp_path / "wav", tmp_path / "levels")


@pytest.mark.parametrize(
    ("kind", "slack_s"), [("wav", 1e-3), ("flac", 1e-3), ("mp3", 0.06), ("ogg", 0.03), ("m4a", 0.05)]
)
def test_every_kind_is_read_and_what_is_heard_lies_where_it_was(tmp_path, kind, slack_s):
    own = voice(SPANS, 3.5)
    facts = read(tmp_path, wav(own) if kind == "wav" else file_of(own, kind))
    assert facts.channels == 1
    assert facts.seconds == pytest.approx(3.5, abs=slack_s)
    assert np.allclose(facts.holds.heard, SPANS, atol=0.06)
    assert len(samples(tmp_path / "wav")) == pytest.approx(3.5 * RATE, abs=slack_s * RATE)


def test_stereo_stays_stereo_and_another_rate_comes_to_ours(tmp_path):
    import io
    import wave

    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(2)
        file.setsampwidth(3)
        file.setframerate(22_050)
        file.writeframes(bytes(6 * 22_050))
    facts = read(tmp_path, out.getvalue())
    assert (facts.channels, facts.seconds, facts.holds.silent) == (2, 1.0, True)
    assert read(tmp_path, wav(music(2.0))).channels == 2


def test_a_wav_of_ours_is_kept_to_the_sample(tmp_path):
    own = as_samples(music(1.0))
    read(tmp_path, as_wav(own))
    assert np.array_equal(samples(tmp_path / "wav"), own)


@pytest.mark.parametrize("spoil", ["cut", "noise", "empty", "short"])
def test_what_is_no_whole_sound_is_refused_in_words_or_read_as_far_as_it_goes(tmp_path, spoil):
    rng = np.random.default_rng(7)
    for kind in ("wav", "flac", "mp3", "ogg", "m4a"):
        whole = bytearray(wav(music(1.0)) if kind == "wav" else file_of(music(1.0), kind))
        if spoil == "cut":
            whole = whole[: len(whole) // 3]
        elif spoil == "noise":
            for i in rng.integers(60, len(whole), 400):
                whole[i] = int(rng.integers(256))
        elif spoil == "empty":
            whole = whole[:60]
        else:
            whole = bytearray(wav(music(0.001)))
        try:
            told = read(tmp_path, bytes(whole)).seconds
        except SoundRefused as error:
            told = str(error)
        assert 0 < told < 1.3 if isinstance(told, float) else told.endswith(".")


def test_only_sounds_are_taken_for_sounds():
    assert sound_type(b"%PDF-1.7 and more") is None
    assert sound_type(b"<svg xmlns=") is None
    assert sound_type(b"") is None
    assert sound_type(b"\x89PNG\r\n\x1a\n") is None


def test_the_store_names_by_digest_alone(tmp_path):
    store = SoundStore(tmp_path)
    with pytest.raises(KeyError):
        store.path("../../etc/passwd")
    assert not store.has("a" * 64)
