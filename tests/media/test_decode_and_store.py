"""Pictures come in upright, in sRGB, 8 bits; what cannot be a picture is refused with the reason."""

import io
import struct
import zlib

import numpy as np
import pytest
from PIL import Image, ImageCms

from juxtaform.core.regions import Box
from juxtaform.media.decode import PictureRefused, decoded
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
        (b"GIF89a" + bytes(60), "not a PNG"),
        (b"plain text, not a picture at all", "not a PNG"),
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
    store = PictureStore(tmp_path)
    one, two = store.put(flat()), store.put(flat())
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
    store = PictureStore(tmp_path)
    sha = store.put(flat((100, 100, 100), (200, 200))).sha
    from juxtaform.core.light import SceneLight

    crop = Image.open(io.BytesIO(store.crop(sha, Box(50, 50, 100, 100), 60, SceneLight((0.5, 0.5, 0.5))))).convert(
        "RGB"
    )
    assert crop.size == (60, 60)
    assert crop.getpixel((30, 30))[0] > 130
