"""Pictures come in upright, in sRGB, 8 bits; what cannot be a picture is refused with the reason."""

import contextlib
import io
import struct
import subprocess
import sys
import threading
import time
import zlib
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from PIL import Image, ImageCms, ImageOps

from juxtaform.core.picture.regions import Box
from juxtaform.limits import MOST_PIXELS
from juxtaform.media import decode, store
from juxtaform.media.decode import PictureRefused, decoded, media_type
from juxtaform.media.store import PictureStore
from tests.conftest import flat, png


def saved(picture: Image.Image, kind: str, **options) -> bytes:
    out = io.BytesIO()
    picture.save(out, kind, **options)
    return out.getvalue()


def claimed(width: int, height: int) -> bytes:
    """A PNG whose header claims a size that its data do not hold."""

    def chunk(name: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(bytes(1000))) + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_the_three_formats_are_read(kind):
    assert decoded(saved(Image.new("RGB", (40, 30), (200, 60, 40)), kind)).shape == (30, 40, 3)


def test_a_turned_photo_is_set_upright():
    exif = Image.Exif()
    exif[0x0112] = 6
    picture = Image.new("RGB", (40, 20), (255, 0, 0))
    assert decoded(saved(picture, "JPEG", exif=exif)).shape == (40, 20, 3)


@pytest.mark.parametrize("orientation", range(1, 9))
def test_every_way_a_camera_can_be_held_is_set_upright(orientation):
    exif = Image.Exif()
    exif[0x0112] = orientation
    picture = Image.fromarray(np.arange(12 * 20 * 3, dtype=np.uint8).reshape(12, 20, 3))
    data = saved(picture, "PNG", exif=exif)
    upright = np.asarray(ImageOps.exif_transpose(Image.open(io.BytesIO(data))))
    assert np.array_equal(decoded(data), upright)


def test_a_phones_picture_with_further_pictures_behind_it_is_read_as_its_first(tmp_path):
    first, second = Image.new("RGB", (40, 30), (200, 60, 40)), Image.new("RGB", (20, 15), (0, 0, 255))
    data = saved(first, "MPO", save_all=True, append_images=[second])
    assert Image.open(io.BytesIO(data)).format == "MPO"
    assert decoded(data).shape == (30, 40, 3)
    assert media_type(data) == "image/jpeg"
    assert PictureStore(tmp_path).put(data).media_type == "image/jpeg"


def test_a_picture_of_many_bands_is_what_it_is_in_one(monkeypatch, tmp_path):
    rng = np.random.default_rng(4)
    picture = Image.fromarray(rng.integers(0, 255, (130, 90, 4), dtype=np.uint8), "RGBA")
    data = saved(picture, "PNG")
    whole = decoded(data)
    monkeypatch.setattr(decode, "BAND_PIXELS", 7 * 90)
    assert np.array_equal(decoded(data), whole)


def test_a_large_picture_is_reduced_by_bands_as_it_would_be_whole(monkeypatch):
    smooth = np.asarray(
        Image.fromarray(np.random.default_rng(5).integers(0, 255, (9, 12, 3), dtype=np.uint8)).resize((1600, 1201))
    )
    whole = Image.fromarray(smooth)
    whole.thumbnail((100, 100), Image.Resampling.LANCZOS, reducing_gap=3.0)
    monkeypatch.setattr(store, "BAND_PIXELS", 20_000)
    apart = np.abs(store._fitted(smooth, 100).astype(int) - np.asarray(whole))
    assert apart.mean() < 0.5
    assert apart.max() < 12


@pytest.mark.parametrize("mode", ["RGB", "RGBA"])
def test_a_large_webp_is_what_it_is_when_it_is_small(monkeypatch, mode):
    exif = Image.Exif()
    exif[0x0112] = 6
    picture = Image.fromarray(np.random.default_rng(7).integers(0, 255, (60, 90, len(mode)), dtype=np.uint8), mode)
    data = saved(picture, "WEBP", lossless=True, exact=True, exif=exif)
    whole = decoded(data)
    monkeypatch.setattr(decode, "LARGE_WEBP_PIXELS", 100)
    assert np.array_equal(decoded(data), whole)


def test_damage_of_any_kind_is_told(tmp_path):
    """Whatever byte is spoiled, the picture is read or refused with a reason."""
    rng = np.random.default_rng(6)
    whole = {
        kind: saved(Image.fromarray(rng.integers(0, 255, (24, 32, 3), dtype=np.uint8)), kind)
        for kind in ("PNG", "JPEG", "WEBP")
    }
    for i in range(300):
        data = bytearray(whole[("PNG", "JPEG", "WEBP")[i % 3]])
        for _ in range(int(rng.integers(1, 6))):
            data[rng.integers(len(data))] = rng.integers(256)
        with contextlib.suppress(PictureRefused):
            assert decoded(bytes(data)).dtype == np.uint8


def test_large_pictures_wait_for_each_other(monkeypatch):
    """No more than the room for them is decoded at the same time; one that is larger than all of it still comes in."""
    room, most, now = decode._Room(1000), [], []
    lock = threading.Lock()

    def one(pixels):
        with room.of(pixels):
            with lock:
                now.append(pixels)
                most.append(sum(now))
            time.sleep(0.005)
            with lock:
                now.remove(pixels)

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(one, [400, 400, 300, 2000, 100, 900, 400, 400] * 4))
    assert max(m for m in most if m != 2000) <= 1000
    assert 2000 in most


MEASURED = """
import re, sys, tempfile
from pathlib import Path
from juxtaform.media.store import PictureStore

def kib(what):
    return int(re.search(what + r":\\s+(\\d+)", Path("/proc/self/status").read_text())[1])

data, store = Path(sys.argv[1]).read_bytes(), PictureStore(Path(tempfile.mkdtemp()))
store.put(Path(sys.argv[2]).read_bytes())
Path("/proc/self/clear_refs").write_text("5")  # The peak counts from here: a new process begins with that of its parent.
before = kib("VmRSS")
picture = store.put(data)
print((kib("VmHWM") - before) * 1024 / (picture.width * picture.height * 3))
"""


@pytest.mark.parametrize("mode", ["RGB", "RGBA"])
def test_the_largest_picture_takes_less_than_four_times_its_pixels(tmp_path, mode):
    side = int(MOST_PIXELS**0.5)
    Image.new(mode, (side, side), (200, 60, 40, 128)[: len(mode)]).save(tmp_path / "large.png", compress_level=1)
    (tmp_path / "small.png").write_bytes(flat())
    told = subprocess.run(
        [sys.executable, "-c", MEASURED, tmp_path / "large.png", tmp_path / "small.png"],
        capture_output=True,
        text=True,
        check=True,
    )
    assert float(told.stdout) < 4


def test_a_colour_profile_is_honoured():
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    picture = Image.new("RGB", (20, 20), (180, 90, 30))
    assert abs(int(decoded(saved(picture, "PNG", icc_profile=profile))[5, 5, 0]) - 180) <= 1
    swapped = profile.replace(b"rXYZ", b"tmp_").replace(b"gXYZ", b"rXYZ").replace(b"tmp_", b"gXYZ")
    assert np.allclose(decoded(saved(picture, "PNG", icc_profile=swapped))[5, 5], (90, 180, 30), atol=2)


def test_sixteen_bits_become_eight():
    ramp = np.linspace(0, 65535, 64, dtype=np.uint16).reshape(8, 8)
    pixels = decoded(saved(Image.fromarray(ramp), "PNG"))
    assert pixels[0, 0, 0] == 0
    assert pixels[7, 7, 0] == 255
    assert abs(int(pixels[4, 0, 0]) - 130) < 3


def test_transparency_is_laid_on_white():
    picture = Image.new("RGBA", (20, 20), (255, 0, 0, 0))
    assert tuple(decoded(saved(picture, "PNG"))[3, 3]) == (255, 255, 255)


def test_cmyk_is_read():
    assert decoded(saved(Image.new("CMYK", (20, 20), (0, 255, 255, 0)), "JPEG")).shape == (20, 20, 3)


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (b"", "empty"),
        (b"GIF89a" + bytes(60), "Export it as PNG"),
        (b"plain text, not a picture at all", "Export it as PNG"),
        (flat(size=(300, 200))[:-400], "damaged"),
        (claimed(30_000, 200), "30000 × 200 px"),
        (claimed(15_000, 15_000), "million pixels"),
        (claimed(60_000, 60_000), "million pixels"),
        (png(np.zeros((4, 4, 3), np.uint8)), "too small"),
    ],
)
def test_what_cannot_be_a_picture_is_refused_with_the_reason(data, reason):
    with pytest.raises(PictureRefused, match=reason):
        decoded(data)


def test_the_same_bytes_are_stored_once_with_thumbnails_beside_them(tmp_path):
    held = PictureStore(tmp_path)
    one, two = held.put(flat()), held.put(flat())
    assert one == two
    files = sorted(p.name for p in tmp_path.rglob("*") if p.is_file())
    assert files == sorted([one.sha, f"{one.sha}.240.webp", f"{one.sha}.960.webp"])
    assert one.palette[0][0] == "#c83c28"


def test_a_refused_picture_leaves_nothing_behind(tmp_path):
    with pytest.raises(PictureRefused):
        PictureStore(tmp_path).put(b"no picture")
    assert list(tmp_path.rglob("*")) == []


def test_what_is_no_digest_is_no_path(tmp_path):
    with pytest.raises(KeyError):
        PictureStore(tmp_path).path("../../etc/passwd")


def test_a_crop_can_have_its_light_taken_out(tmp_path):
    held = PictureStore(tmp_path)
    sha = held.put(flat((100, 100, 100), (200, 200))).sha
    from juxtaform.core.colour.light import SceneLight

    crop = Image.open(io.BytesIO(held.crop(sha, Box(50, 50, 100, 100), 60, SceneLight((0.5, 0.5, 0.5))))).convert("RGB")
    assert crop.size == (60, 60)
    assert crop.getpixel((30, 30))[0] > 130


def test_a_crop_without_light_is_made_once_and_goes_with_its_picture(tmp_path, monkeypatch):
    store = PictureStore(tmp_path)
    sha = store.put(png(np.random.default_rng(1).integers(0, 255, (300, 400, 3), dtype=np.uint8))).sha
    made = store.crop(sha, Box(20, 30, 200, 180), 120)
    monkeypatch.setattr(store, "_cut", lambda *_: pytest.fail("cut again"))
    assert store.crop(sha, Box(20, 30, 200, 180), 120) == made
    store.forget(sha)
    assert [p for p in tmp_path.rglob("*") if p.is_file()] == []


def test_only_so_many_crops_are_kept(tmp_path, monkeypatch):
    monkeypatch.setattr("juxtaform.media.store.MOST_CROPS", 3)
    store = PictureStore(tmp_path)
    sha = store.put(png(np.full((64, 64, 3), 90, np.uint8))).sha
    assert all(store.crop(sha, Box(i, 0, 20, 20), 20) for i in range(9))
    assert len(list(tmp_path.rglob("*.crop.webp"))) == 3
