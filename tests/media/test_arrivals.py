"""What painting programs, scanners and telephones save becomes a PNG; what is kept already stays byte for byte as it is."""

import contextlib
import io
import random
import re
import zipfile
from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms
from psd_tools import PSDImage

from juxtaform.limits import MOST_SIDE_PX, PICTURE_ENDINGS
from juxtaform.media.arrivals import arrived, is_still
from juxtaform.media.clips import clip_type
from juxtaform.media.decode import PictureRefused, decoded, media_type

HEIC = Path(__file__).with_name("red_over_blue.heic").read_bytes()
RED, BLUE = (200, 60, 40), (30, 90, 160)


def halves(mode: str = "RGB") -> Image.Image:
    """Red above blue, 64 × 48 px."""
    picture = Image.new("RGB", (64, 48), RED)
    picture.paste(BLUE, (0, 24, 64, 48))
    return picture.convert(mode)


def saved(kind: str, picture: Image.Image | None = None, **options) -> bytes:
    out = io.BytesIO()
    (picture or halves()).save(out, kind, **options)
    return out.getvalue()


def by_cv(pixels: np.ndarray) -> bytes:
    return cv2.imencode(".tiff", pixels)[1].tobytes()


def psd(mode: str = "RGB", *, merged: bool = True) -> bytes:
    file = PSDImage.frompil(halves(mode))
    out = io.BytesIO()
    file.save(out)
    data = out.getvalue()
    if merged:
        return data
    # A resource that says: there is no merged picture (version info, 1057).
    said = (1).to_bytes(4, "big") + b"\0" + b"\0\0\0\0" * 2 + (1).to_bytes(4, "big")
    said += b"\0" * (len(said) % 2)
    resource = b"8BIM" + (1057).to_bytes(2, "big") + b"\0\0" + len(said).to_bytes(4, "big") + said
    colours = int.from_bytes(data[26:30], "big")
    at = 30 + colours
    length = int.from_bytes(data[at : at + 4], "big")
    return data[:at] + len(resource).to_bytes(4, "big") + resource + data[at + 4 + length :]


def archive(kind: str = "image/openraster", **entries: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        file.writestr("mimetype", kind)
        for name, data in entries.items():
            file.writestr(f"{name}.png", data)
    return out.getvalue()


WIDE = np.asarray(halves())[..., ::-1].astype(np.uint16) * 257
COME = {
    "TIFF": saved("TIFF"),
    "TIFF packed by LZW": saved("TIFF", compression="tiff_lzw"),
    "TIFF of a print shop": saved("TIFF", halves("CMYK")),
    "TIFF of 16 bits": by_cv(WIDE),
    "TIFF in CIELAB": saved(
        "TIFF",
        ImageCms.applyTransform(
            halves(),
            ImageCms.buildTransform(ImageCms.createProfile("sRGB"), ImageCms.createProfile("LAB"), "RGB", "LAB"),
        ),
    ),
    "PSD": psd(),
    "PSD with transparency": psd("RGBA"),
    "OpenRaster": archive(mergedimage=saved("PNG")),
    "another archive of layers": archive("application/octet-stream", mergedimage=saved("PNG")),
    "HEIC": HEIC,
    "AVIF": saved("AVIF", quality=95),
    "BMP": saved("BMP"),
    "GIF": saved("GIF"),
}


@pytest.mark.parametrize("kind", COME)
def test_it_becomes_a_png_that_looks_the_same(kind):
    came = arrived(COME[kind])
    pixels = decoded(came.data)
    assert (media_type(came.data), came.told) == ("image/png", "Kept as PNG.")
    assert pixels.shape == (48, 64, 3)
    for row, colour in ((6, RED), (40, BLUE)):
        assert np.abs(pixels[row].astype(int) - colour).max() <= 6, kind


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_what_browsers_show_is_kept_byte_for_byte(kind):
    data = saved(kind)
    assert arrived(data).data is data
    assert arrived(data).told == ""


def test_the_same_file_twice_is_one_picture():
    assert arrived(COME["PSD"]).data == arrived(COME["PSD"]).data


def test_a_scan_that_lies_on_its_side_is_set_upright():
    turned = Image.Exif()
    turned[0x0112] = 6
    assert decoded(arrived(saved("TIFF", exif=turned)).data).shape == (64, 48, 3)


def test_what_is_transparent_lies_on_white():
    clear = halves("RGBA")
    clear.putalpha(0)
    assert decoded(arrived(saved("TIFF", clear)).data).min() == 255


def test_of_several_pages_the_first_comes_in_and_the_others_are_told():
    pages = saved("TIFF", save_all=True, append_images=[Image.new("RGB", (64, 48), (0, 0, 0))] * 2)
    came = arrived(pages)
    assert "The first of its 3 pictures came in" in came.told
    assert decoded(came.data)[6, 6].tolist() == list(RED)


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (psd(merged=False), "other programs can open it"),
        (archive(thumbnail=saved("PNG")), "no whole picture"),
        (by_cv(WIDE.astype(np.float32)), "Export it as PNG"),
        (saved("BMP", Image.new("RGB", (MOST_SIDE_PX + 1, 8))), "Export it smaller"),
        (saved("BMP", Image.new("RGB", (4, 4))), "too small"),
        (b"", "empty"),
    ],
    ids=["layers alone", "an archive of layers alone", "numbers that are no codes", "too wide", "tiny", "nothing"],
)
def test_what_cannot_come_in_says_what_to_do(data, said):
    with pytest.raises(PictureRefused, match=said):
        arrived(data)


def test_a_layered_file_that_breaks_off_is_refused_and_not_made_black():
    whole = COME["PSD"]
    with pytest.raises(PictureRefused):
        arrived(whole[: len(whole) - 60])


def test_an_avif_whose_first_box_says_only_that_it_is_a_picture_is_read():
    named = COME["AVIF"]
    assert named[8:12] == b"avif"
    assert decoded(arrived(named[:8] + b"mif1" + named[12:]).data).shape == (48, 64, 3)


def test_a_photo_of_a_telephone_is_no_film():
    assert is_still(HEIC)
    assert clip_type(HEIC) is None
    assert clip_type(b"\0\0\0\x18ftypisom") == "video/mp4"


@pytest.mark.parametrize("kind", COME)
def test_spoiled_files_are_read_or_refused(kind):
    """Cut off or with bytes changed, 40 times each, the same ones every time."""
    dice = random.Random(kind)
    for _ in range(40):
        data = bytearray(COME[kind])
        if dice.random() < 0.3:
            del data[dice.randrange(len(data)) :]
        for _ in range(dice.choice([1, 3, 20])):
            if data:
                data[dice.randrange(len(data))] = dice.randrange(256)
        with contextlib.suppress(PictureRefused):
            assert decoded(arrived(bytes(data)).data).ndim == 3


def test_the_screens_offer_the_same_files():
    screens = Path(__file__).parents[2] / "frontend/src/lib/pictures.ts"
    offered = re.search(r"PICTURES = '([^']*)'", screens.read_text("utf-8"))
    assert offered
    assert frozenset(offered[1].split(",")) == PICTURE_ENDINGS
