"""A picture as a file: each fault is read where it is, and pictures without one stay silent."""

import io
from dataclasses import replace

import cv2
import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.check.states import Mark, ShotPlan, ShotState
from juxtaform.core.check.technical import Wanted, technical_findings
from juxtaform.core.picture.border import printed_border
from juxtaform.core.picture.regions import Box
from juxtaform.core.style.terms import Signature
from juxtaform.core.technical.banding import banding
from juxtaform.core.technical.compression import compression
from juxtaform.core.technical.lettering import PATCHES_MOST, is_written
from juxtaform.core.technical.sharpness import edge_width
from juxtaform.core.technical.technical import technical
from juxtaform.core.technical.tiles import ACROSS, TILE, tiles_of
from juxtaform.core.text.lettering import names_lettering
from juxtaform.demo.paper import bordered
from juxtaform.media.network import letter_eye
from tests.constructed import LIGHTS, random_look, scene


@pytest.fixture(scope="module")
def row():
    rng = np.random.default_rng(40)
    return [scene([random_look(rng)], rng, LIGHTS[i % 5], ground=i)[0] for i in range(6)]


def shots(pictures, words="", plan=None, letters=None):
    states = []
    for i, p in enumerate(pictures):
        measure = PictureMeasure(
            p.shape[1], p.shape[0], Signature((0.0,)), (), printed_border(p), (), (), technical=technical(p, letters)
        )
        states.append(ShotState(f"s{i}", str(i + 1), words, frozenset(), None, (), measure, plan))
    return states


def kinds(pictures, wanted=Wanted(), **more):
    return [(f.shot, f.kind) for f in technical_findings(shots(pictures, **more), wanted)]


def squeezed(p, quality):
    out = io.BytesIO()
    Image.fromarray(p).save(out, "JPEG", quality=quality)
    return np.asarray(Image.open(out).convert("RGB"))


def lettered(p, word="Harbour"):
    picture = Image.fromarray(p)
    ImageDraw.Draw(picture).text((300, 40), word, fill=(250, 250, 240), font=ImageFont.load_default(44))
    return np.asarray(picture)


def test_a_clean_row_stays_silent(row):
    assert kinds(row, plan=ShotPlan(aspect=1.5), letters=letter_eye()) == []


def test_bars_above_and_below_are_no_printed_border(row):
    boxed = row[1].copy()
    boxed[:50], boxed[-50:] = 0, 0
    assert kinds([row[0], boxed, *row[2:]]) == [("s1", "letterbox")]
    assert kinds([row[0], bordered(row[1], 0.05, "#f3efe6"), *row[2:]]) == [("s1", "border")]


def test_a_border_that_most_pictures_have_is_the_layout(row):
    framed = [bordered(p, 0.05, "#f3efe6") for p in row[:4]]
    assert kinds([*framed, *row[4:]]) == []


def test_a_picture_in_another_form_is_told_with_what_a_crop_would_cost(row):
    [found] = technical_findings(shots([row[0], row[1][:, :700], *row[2:]], plan=ShotPlan(aspect=1.5)), Wanted())
    assert (found.shot, found.kind) == ("s1", "aspect")
    assert found.title == "The picture is narrower than the form that is wanted"
    assert found.evidence[1].measured == "22 % of the picture"


def test_a_px_of_rounding_is_no_other_form(row):
    assert kinds([p[:, :888] for p in row], plan=ShotPlan(aspect=1.5)) == []


def test_a_picture_is_soft_beside_the_others(row):
    soft = np.asarray(cv2.GaussianBlur(row[2], (0, 0), 2.0), np.uint8)
    assert kinds([*row[:2], soft, *row[3:]]) == [("s2", "soft")]


def test_a_small_sharp_picture_is_not_soft(row):
    small = np.asarray(cv2.resize(row[2], (450, 300), interpolation=cv2.INTER_AREA), np.uint8)
    assert kinds([*row[:2], small, *row[3:]]) == []


def test_edges_widen_as_a_picture_is_blurred(row):
    widths = [
        edge_width(tiles_of(np.asarray(cv2.GaussianBlur(row[0], (0, 0), s), np.uint8))) for s in (0.5, 1.0, 2.0, 3.0)
    ]
    assert widths == sorted(widths)
    assert widths[-1] > 2.5 * widths[0]


def test_a_picture_without_edges_says_nothing_of_sharpness():
    assert edge_width(tiles_of(np.full((300, 400, 3), 128, np.uint8))) is None


def test_blocks_are_found_wherever_their_grid_begins(row):
    rough = squeezed(row[3], 20)
    for begin in (0, 3, 5):
        cut = np.ascontiguousarray(rough[begin:, begin:])
        read = compression(tiles_of(cut))
        assert read.blocks > 0.65
        assert read.blocks_sure > 2


def test_compression_is_told_of_one_picture_and_once_of_all(row):
    assert kinds([*row[:3], squeezed(row[3], 15), *row[4:]]) == [("s3", "compressed")]
    [found] = technical_findings(shots([squeezed(p, 15) for p in row]), Wanted())
    assert found.until == "s5"
    assert found.title.endswith("of 6 pictures")


def test_grain_that_is_stronger_beside_edges_is_no_compression(row):
    """Paper shows more where a wash ends; it is restless everywhere, where a squeezed picture is calm away from its edges."""
    rng = np.random.default_rng(3)

    def grained(p):
        grain = cv2.GaussianBlur(rng.normal(0, 16, p.shape[:2]).astype(np.float32), (0, 0), 0.8)
        edges = cv2.Canny(cv2.cvtColor(p, cv2.COLOR_RGB2GRAY), 60, 120)
        more = 1 + cv2.dilate(edges, np.ones((25, 25), np.uint8)) / 255
        return np.clip(p + (grain * more)[..., None], 0, 255).astype(np.uint8)

    rough = grained(row[3])
    assert compression(tiles_of(rough)).ringing == 0
    assert "compressed" not in [kind for _, kind in kinds([*row[:3], rough, *row[4:]])]
    assert compression(tiles_of(squeezed(row[3], 15))).ringing > 0.3


def test_a_gradient_of_few_tones_is_banded_and_one_in_eight_bits_is_not():
    ramp = np.tile(np.linspace(40, 200, 800), (500, 1))
    smooth = np.repeat(np.rint(ramp)[..., None], 3, axis=2).astype(np.uint8)
    few = np.repeat((np.rint(ramp / 8) * 8)[..., None], 3, axis=2).astype(np.uint8)
    assert banding(tiles_of(smooth)).share == 0
    told = banding(tiles_of(few))
    assert told.share > 0.3
    assert told.step == pytest.approx(8, abs=0.5)


def test_letters_are_found_where_they_stand_unless_the_words_ask_for_them(row):
    spoiled = [row[0], lettered(row[1]), *row[2:]]
    [found] = technical_findings(shots(spoiled, letters=letter_eye()), Wanted())
    assert (found.shot, found.kind) == ("s1", "lettering")
    assert found.region.x < 330 < found.region.x + found.region.w
    assert found.region.y < 66 < found.region.y + found.region.h
    assert kinds(spoiled, letters=letter_eye(), words="A sign over the door") == []


def test_what_lies_over_much_of_somebody_is_no_lettering(row):
    """Two faces side by side are much like two letters; a word on somebody's coat is one."""
    states = shots([row[0], lettered(row[1]), *row[2:]], letters=letter_eye())
    [found] = technical_findings(states, Wanted())

    def beside(box):
        return [replace(s, marks=(Mark("a", box),)) if s.id == "s1" else s for s in states]

    assert technical_findings(beside(found.region.grown(0.1)), Wanted()) == []
    assert technical_findings(beside(found.region.grown(3)), Wanted()) == [found]


def test_what_is_like_letters_at_one_size_alone_is_none():
    """Two faces side by side are two letters only to who sees them from one distance."""
    eye = letter_eye()
    page = np.full((600, 900, 3), 210, np.uint8)
    word = Image.fromarray(page)
    ImageDraw.Draw(word).text((300, 250), "Lantern", fill=(20, 20, 20), font=ImageFont.load_default(60))
    [patch] = eye.lettering(np.asarray(word))
    assert eye._seen_again(np.asarray(word), patch.box)
    for x in (300, 540):
        cv2.circle(page, (x, 300), 100, (240, 200, 160), -1)
        for eye_x in (x - 35, x + 35):
            cv2.circle(page, (eye_x, 290), 14, (30, 20, 20), -1)
        cv2.ellipse(page, (x, 345), (35, 12), 0, 0, 180, (120, 30, 30), 6)
    assert not eye._seen_again(page, Box(200, 220, 440, 150))


def test_a_page_full_of_words_is_not_looked_at_without_end(monkeypatch):
    eye, looks = letter_eye(), []
    monkeypatch.setattr(eye, "_seen_again", lambda pixels, box: looks.append(box) or True)
    page = Image.fromarray(np.full((1200, 900, 3), 230, np.uint8))
    for i in range(60):
        at = (40 + 280 * (i % 3), 30 + 58 * (i // 3))
        ImageDraw.Draw(page).text(at, "Lantern", fill=(20, 20, 20), font=ImageFont.load_default(34))
    assert len(eye.lettering(np.asarray(page))) == len(looks) == PATCHES_MOST


def test_letters_in_most_pictures_are_part_of_the_work(row):
    assert kinds([lettered(p) for p in row], letters=letter_eye()) == []


def test_a_word_is_a_row_of_strokes_and_spectacles_are_none():
    page = np.full((60, 200, 3), 200, np.uint8)
    word = Image.fromarray(page)
    ImageDraw.Draw(word).text((10, 8), "Lantern", fill=(20, 20, 20), font=ImageFont.load_default(40))
    assert is_written(np.asarray(word))
    glasses = page.copy()
    for x in (60, 130):
        cv2.circle(glasses, (x, 30), 22, (20, 20, 20), 4)
    assert not is_written(glasses)


def test_a_picture_too_small_for_print_is_told_with_the_size_that_it_needs(row):
    assert kinds(row[:2], Wanted(70)) == []
    found = technical_findings(shots(row[:2]), Wanted(210))
    assert [f.kind for f in found] == ["too_small", "too_small"]
    assert found[0].evidence[1].expected == "2480 px"


def test_a_large_picture_is_read_by_tiles_of_one_number():
    large = tiles_of(np.zeros((4000, 6000, 3), np.uint8))
    assert len(large) == ACROSS**2
    assert all(t.luma.shape == (TILE, TILE) and t.x % 8 == 0 and t.y % 8 == 0 for t in large)


def test_pictures_by_another_hand_are_called_neither_soft_nor_compressed(row):
    soft = np.asarray(cv2.GaussianBlur(row[2], (0, 0), 2.0), np.uint8)
    states = shots([*row[:2], soft, *row[3:]])
    assert technical_findings(states, Wanted(), frozenset({"s2"})) == []
    assert technical_findings([replace(s, picture=None) for s in states], Wanted()) == []


def test_words_that_carry_letters():
    assert names_lettering("She reads the newspaper")
    assert not names_lettering("She designs a boat")


def test_straight_edges_of_a_drawing_are_no_blocks():
    page = np.full((400, 600, 3), 230, np.uint8)
    for x in (56, 200, 328, 480):  # each at a multiple of eight
        page[40:360, x : x + 64] = (40, 90, 160)
    assert compression(tiles_of(page)).blocks == 0


def test_the_width_of_edges_is_the_same_wherever_the_picture_lies_in_memory():
    """To the bit: what one machine measures another one can be held against."""
    rng = np.random.default_rng(2)
    picture = cv2.GaussianBlur(rng.integers(0, 255, (243, 357, 3), np.uint8), (0, 0), 2.0)
    told = set()
    for shift in range(0, 33, 3):
        room = np.empty(picture.size + 64, np.uint8)[shift : shift + picture.size].reshape(picture.shape)
        room[:] = picture
        told.add(edge_width(tiles_of(room)))
    assert len(told) == 1
