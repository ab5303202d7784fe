"""Sequences in one hand stay silent; another hand, a switch and a slide are told with their place."""

from types import SimpleNamespace

import cv2
import numpy as np
import pytest

from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotState, StyleHome
from juxtaform.core.check.styles import LINE_WIDTH, style_thread
from juxtaform.core.picture.border import printed_border
from juxtaform.core.picture.regions import Box
from juxtaform.core.style.drift import lasting_change, term_change
from juxtaform.core.style.terms import TERMS, _slope, signature
from juxtaform.core.style.words import proposed_words
from juxtaform.core.text.names import Named
from juxtaform.demo.paper import bordered, greyed, lit
from juxtaform.media.network import hand_eye
from tests.constructed import LIGHTS, random_look, scene

GROUNDS = [0, 2, 3, 5, 6, 7, 8, 1, 4, 9, 0, 3]


def sequence(seed: int, length: int = 12):
    rng = np.random.default_rng(seed)
    looks = [random_look(rng) for _ in range(3)]
    hands = lambda i, hand: scene(looks[: i % 3], rng, LIGHTS[i % 4], ground=GROUNDS[i % 12], hand=hand)[0]  # noqa: E731
    return hands, [hands(i, "paper") for i in range(length)]


@pytest.fixture(scope="module")
def home():
    rng = np.random.default_rng(99)
    pictures = [scene([], rng, LIGHTS[i % 2], ground=g)[0] for i, g in enumerate((5, 6, 7, 8))]
    return StyleHome("style", "Cut paper", tuple(signature(p) for p in pictures), (1.0,) * 4)


def checked(pictures, home, words="", names=()):
    shots = [
        ShotState(f"s{i + 1}", str(i + 1), words, frozenset(), "style", (), measure_picture(p, []))
        for i, p in enumerate(pictures)
    ]
    return check(shots, [home], list(names))


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_very_different_content_in_one_hand_and_any_light_is_silent(home, seed):
    _, pictures = sequence(seed)
    assert checked(pictures, home).findings == ()


def test_one_picture_in_another_hand_is_told_alone(home):
    draw, pictures = sequence(1)
    pictures[5] = draw(5, "inked")
    [finding] = checked(pictures, home).findings
    assert (finding.kind, finding.shot) == ("style_break", "s6")
    assert "drawn line" in finding.title or "grain" in finding.title
    assert finding.evidence


def test_where_no_style_is_named_the_pictures_are_held_against_each_other(home):
    draw, pictures = sequence(1)
    shots = lambda: [  # noqa: E731
        ShotState(f"s{i + 1}", str(i + 1), "", frozenset(), None, (), measure_picture(p, [], hand_eye=hand_eye()))
        for i, p in enumerate(pictures)
    ]
    assert check(shots(), [], []).findings == ()
    pictures[5] = draw(5, "inked")
    [finding] = check(shots(), [], []).findings
    assert (finding.kind, finding.shot, finding.thread) == ("style_break", "s6", None)
    assert "unlike the others" in finding.advice
    assert check(shots(), [home], []).findings == (), "pictures without the style that the story has are nobody's"


def test_a_picture_without_colour_is_told_among_coloured_ones(home):
    """The network's eye hardly minds colour, and the plain terms weigh little beside it."""
    _, pictures = sequence(1)
    pictures[3] = greyed(pictures[3], 1.0)
    shots = [
        ShotState(f"s{i + 1}", str(i + 1), "", frozenset(), "style", (), measure_picture(p, [], hand_eye=hand_eye()))
        for i, p in enumerate(pictures)
    ]
    [finding] = check(shots, [home], []).findings
    assert (finding.kind, finding.shot, finding.title) == ("style_break", "s4", "The picture has lost its colours")
    assert finding.measured > 1


def test_a_small_coloured_figure_on_white_paper_has_not_lost_its_colours(home):
    _, pictures = sequence(1)
    page = np.full_like(pictures[3], 255)
    middle = tuple(slice(n // 2 - n // 12, n // 2 + n // 12) for n in page.shape[:2])
    page[middle] = pictures[3][middle]
    pictures[3] = page
    told = [f.title for f in checked(pictures, home).findings]
    assert "The picture has lost its colours" not in told
    pictures[3] = greyed(page, 1.0)
    assert "The picture has lost its colours" in [f.title for f in checked(pictures, home).findings]


def test_a_switch_from_a_shot_on_is_one_finding_with_its_beginning(home):
    draw, pictures = sequence(2)
    pictures[8:] = [draw(i, "inked") for i in range(8, 12)]
    result = checked(pictures, home)
    [finding] = result.findings
    assert (finding.kind, finding.shot, finding.until, finding.back_to) == ("style_step", "s9", "s12", "s8")
    assert result.threads["style"].begins == "s9"


def test_a_slow_slide_is_told_from_where_it_begins(home):
    _, pictures = sequence(3)
    for i, amount in zip(range(7, 12), (0.3, 0.5, 0.66, 0.78, 0.9), strict=True):
        pictures[i] = greyed(pictures[i], amount)
    kinds = [(f.kind, f.shot) for f in checked(pictures, home).findings]
    assert len(kinds) == 1
    assert kinds[0][0] in ("style_slide", "style_step")
    assert abs(int(kinds[0][1][1:]) - 8) <= 2


@pytest.mark.parametrize(("last", "told"), [((1.0,) * 4, []), ((1.4, 1.8, 2.2, 2.6), ["wider lines"])])
def test_lines_that_grow_wider_are_told_by_themselves(last, told):
    rng = np.random.default_rng(3)
    widths = (*[1.0] * 7, *last)
    pictures = [
        scene([random_look(rng)], rng, LIGHTS[i % 4], ground=GROUNDS[i], hand="inked", scale=0.9, line=x)[0]
        for i, x in enumerate(widths)
    ]
    empty = tuple(signature(scene([], rng, ground=g, hand="inked")[0]) for g in (5, 6, 7, 8))
    found = checked(pictures, StyleHome("style", "Ink", empty, (1.0,) * 4)).findings
    assert [f.title.split(": ")[1].split(", ")[0] for f in found] == told
    assert all(f.shot in ("s8", "s9", "s10") and f.until == "s11" for f in found)


def lined(widths, heights):
    """What changes from the sixth or seventh picture on in a row whose pictures differ in line width alone, and whose figures have such heights."""
    shots = []
    for i, (width, height) in enumerate(zip(widths, heights, strict=True)):
        values = [0.0] * len(TERMS)
        values[LINE_WIDTH] = width
        picture = SimpleNamespace(
            signature=SimpleNamespace(values=values),
            hand=(),
            appearances=(),
            palette=[SimpleNamespace(linear=(0.5, 0.2, 0.1))],
            height=480,
        )
        marks = (Mark("a", Box(0, 0, 80, height)),) if height else ()
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset(), "ink", marks, picture))
    return [f.title.split(": ")[1] for f in style_thread(StyleHome("ink", "Ink"), shots)[1] if f.shot in ("s5", "s6")]


def test_lines_are_wider_from_nearer_and_thinner_from_farther():
    wider = (0.0, 0.05, 0.0, -0.05, 0.0, 0.04, 0.45, 0.6, 0.75, 0.9)
    thinner = [-x for x in wider]
    even, nearer = [200] * 10, [200] * 6 + [320] * 4
    assert lined(wider, even) == ["wider lines"]
    assert lined(wider, [0] * 10) == ["wider lines"]
    assert lined(wider, nearer) == []
    assert lined(thinner, nearer) == ["thinner lines"]
    assert lined(thinner, [320] * 6 + [200] * 4) == []


def test_one_term_changes_for_good_against_how_steady_its_own_row_is():
    tail = (0.35, 0.6, 0.8, 1.0)
    steady = np.array((0.0, 0.05, -0.04, 0.02, 0.0, 0.06, -0.05, *tail))
    restless = np.array((0.0, 0.7, -0.6, 0.5, 0.1, -0.7, 0.6, *tail))
    found = term_change(steady, 0.4)
    assert found is not None
    change, away = found
    assert (change.start, change.end) in ((7, 11), (8, 11), (9, 11))
    assert away[10] > 3
    assert term_change(restless, 0.4) is None
    assert term_change(np.zeros(3), 0.4) is None
    assert term_change(-steady, 0.4) is not None


def test_a_tint_hardly_moves_the_signature():
    _, pictures = sequence(1, 4)
    spread = np.array([prior for _, _, prior in TERMS])
    for picture in pictures[:1]:
        plain, tinted = (np.array(signature(p).values) for p in (picture, lit(picture, (0.7, 0.8, 1.0))))
        assert (np.abs(plain - tinted) / spread).max() < 1.0


def test_noise_is_no_lasting_change():
    rng = np.random.default_rng(5)
    for _ in range(40):
        z = rng.normal(0, 0.6, (14, len(TERMS)))
        assert lasting_change(z, np.sqrt((z**2).mean(axis=1)) / 1.75) is None


def test_a_single_slip_is_no_lasting_change():
    z = np.random.default_rng(6).normal(0, 0.5, (12, 6))
    z[6] += 6
    assert lasting_change(z, np.sqrt((z**2).mean(axis=1)) / 1.75) is None


@pytest.mark.parametrize(("part", "code"), [(0.03, "#ffffff"), (0.055, "#f3efe6"), (0.09, "#101010")])
def test_a_printed_border_is_measured(part, code):
    _, pictures = sequence(1, 3)
    border = printed_border(bordered(pictures[2], part, code))
    assert border is not None
    for side in (border.left, border.top, border.right, border.bottom):
        assert side == pytest.approx(600 * part, abs=6)


def test_pictures_without_a_border_have_none():
    _, pictures = sequence(2)
    assert [i for i, p in enumerate(pictures) if printed_border(p) is not None] == []


def test_borders_on_most_pictures_are_the_layout_and_not_told(home):
    _, pictures = sequence(1, 6)
    assert checked([bordered(p, 0.05, "#ffffff") for p in pictures], home).findings == ()


def test_words_that_name_somebody_absent_are_told():
    shots = [ShotState("s1", "1", "Pell looks for Oda’s boat.", frozenset({"pell"}), None)]
    [finding] = check(shots, [], [Named("pell", "Pell"), Named("oda", "Oda")]).findings
    assert (finding.kind, finding.thread) == ("named_absent", "oda")


def test_marks_without_a_picture_are_passed_over():
    shots = [ShotState("s1", "1", "", frozenset(), None, (Mark("pell", Box(0, 0, 9, 9)),), None)]
    assert check(shots, [], []).findings == ()


def _drawn(lines=False, grain=0.0, shade=False, pale=False):
    rng = np.random.default_rng(4)
    picture = np.full((400, 600, 3), 200, np.uint8)
    cv2.circle(picture, (200, 200), 90, (180, 60, 50), -1)
    cv2.rectangle(picture, (350, 120), (520, 330), (50, 90, 160), -1)
    if lines:
        for i in range(20):
            cv2.line(picture, (20 + i * 28, 20), (40 + i * 28, 380), (25, 25, 25), 3)
    values = picture.astype(float)
    if shade:
        values *= (0.5 + 0.6 * np.linspace(0, 1, 600))[None, :, None]
        values *= (0.7 + 0.3 * np.sin(np.linspace(0, 40, 400)))[:, None, None]
    if pale:
        values = 150 + 0.15 * values
    return np.clip(values + rng.normal(0, grain, values.shape), 0, 255).astype(np.uint8)


@pytest.mark.parametrize(
    ("how", "has", "has_not"),
    [
        ({}, {"flat colour", "no outlines", "smooth", "few colours"}, {"grainy", "dark outlines", "muted colours"}),
        ({"lines": True}, {"dark outlines"}, {"no outlines"}),
        ({"grain": 16.0}, {"grainy"}, {"smooth", "flat colour"}),
        ({"shade": True}, {"modelled with light and shade"}, {"flat colour"}),
        ({"pale": True}, {"muted colours", "low contrast"}, {"vivid colours", "strong contrast"}),
    ],
)
def test_words_for_a_style_say_what_its_pictures_have(how, has, has_not):
    words = {w.word for w in proposed_words([signature(_drawn(**how))])}
    assert has <= words
    assert not has_not & words


def test_words_for_a_style_go_by_the_weightier_pictures_and_name_large_colours():
    both = [signature(_drawn()), signature(_drawn(grain=16.0))]
    palettes = [(("#1f6f78", 0.7), ("#f4a300", 0.05)), (("#1f6f78", 0.9),)]
    assert "grainy" not in {w.word for w in proposed_words(both, [0.9, 0.1], palettes)}
    assert "grainy" in {w.word for w in proposed_words(both, [0.1, 0.9], palettes)}
    assert proposed_words(both, [0.9, 0.1], palettes)[-1].word == "mostly teal"
    assert proposed_words([]) == ()


@pytest.mark.parametrize("size", [(37, 41), (64, 96), (101, 7)])
def test_a_slope_is_the_same_wherever_the_picture_lies_in_memory(size):
    h, w = size
    image = np.random.default_rng(7).normal(0, 1e-3, size).astype(np.float32)
    found = set()
    for offset in range(9):
        room = np.empty(h * w + offset, dtype=np.float32)[offset:].reshape(size)
        room[:] = image
        found.add(_slope(room).tobytes())
    assert len(found) == 1
    gx, gy = cv2.Sobel(image, cv2.CV_32F, 1, 0, scale=1 / 8), cv2.Sobel(image, cv2.CV_32F, 0, 1, scale=1 / 8)
    assert np.allclose(_slope(image), np.hypot(gx, gy), atol=1e-8)
