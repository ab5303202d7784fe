"""Who a figure is: laid over its references, compared place by place, and told along its thread."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from juxtaform.core.check.figures import figure_thread
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Mark, ShotPlan, ShotState
from juxtaform.core.check.styles import AwayFromStyle
from juxtaform.core.colour.spaces import linear_from_hex, linear_from_srgb8
from juxtaform.core.figure.appearance import measure_appearances
from juxtaform.core.figure.colours import common_light, steps
from juxtaform.core.figure.evidence import laid
from juxtaform.core.figure.ground import figure_mask
from juxtaform.core.figure.known import known_figure
from juxtaform.core.figure.loose import alike
from juxtaform.core.figure.match import best_near, match
from juxtaform.core.figure.parts import Over, PartStep, part_steps, worn_over
from juxtaform.core.figure.placing import placed
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.figure.traits import figure_model, look_box, nearest_difference, part_masks, reference_view
from juxtaform.core.figure.verdict import DOUBTFUL_BELOW, LEVEL, STRANGER_BELOW, answer, level
from juxtaform.core.figure.who import Known, identify, pairs_of, seen_look
from juxtaform.core.figure.worn import shown, strange, strangeness
from juxtaform.core.picture.regions import Box, cut_out, plain_ground
from juxtaform.core.picture.trunk import Trunk, Whitening, unit
from juxtaform.core.text.names import Named
from juxtaform.media import network
from tests.constructed import (
    LIGHTS,
    Look,
    about,
    lookalike,
    random_look,
    random_pose,
    recoloured_look,
    reference,
    scene,
)

PELL = Look("#b4532a", "#efc09c", "#dba326", "#3b3f73", "#2f7d4f", "#c8322b", extra_form=0)
ODA = Look("#2a2326", "#7b4a30", "#6b4a8c", "#456a70", "#8a5a3c", "#f3f0ea", hair_form=1, coat_form=2, extra_form=1)


@pytest.fixture(scope="module")
def eye():
    found = network.figure_eye()
    assert found is not None
    return found


def figure(look, eye, name):
    rng = np.random.default_rng(3)
    pages = [reference(look), reference(look, random_pose(rng))]
    views = [reference_view(p, f"{name} {i}", eye=eye, id=f"{name}{i}") for i, p in enumerate(pages)]
    return known_figure(figure_model(name, views), eye)


@pytest.fixture(scope="module")
def pell(eye):
    return figure(PELL, eye, "pell")


@pytest.fixture(scope="module")
def oda(eye):
    return figure(ODA, eye, "oda")


def known(eye, look, owner):
    page = reference(look)
    return Known(owner, ("front",), (owner,), (look_of(eye.trunk, cut_out(page, look_box(page))),))


def test_early_stages_alone_are_what_they_are_among_all(eye):
    pixels = np.random.default_rng(0).integers(0, 255, (96, 128, 3)).astype(np.uint8)
    first = eye.trunk.maps(pixels)
    assert np.allclose(eye.trunk.fourth(pixels), first[1], atol=1e-4)
    assert all(np.allclose(a, b, atol=1e-4) for a, b in zip(eye.trunk.early(pixels), first[:2], strict=True))
    assert all((a == b).all() for a, b in zip(first, eye.trunk.maps(pixels), strict=True))


def test_maps_have_the_trunks_places(eye):
    third, fourth, fifth = eye.trunk.maps(np.full((224, 224, 3), 90, np.uint8))
    assert [m.shape[1:] for m in (third, fourth, fifth)] == [(28, 28), (14, 14), (14, 14)]
    assert np.allclose(np.linalg.norm(unit(third), axis=0), 1, atol=1e-4)


def test_a_file_that_is_no_network_is_refused():
    white = Whitening(np.zeros(1, np.float32), np.ones((1, 1), np.float32))
    with pytest.raises(ValueError, match="cannot be read"):
        Trunk(b"not a network", b"not a network", (white, white, white))


def test_the_mask_is_the_figure_on_a_plain_ground():
    page = reference(PELL)
    mask = figure_mask(page)
    drawn = np.abs(page.astype(int) - 255).max(axis=-1) > 30
    assert (mask[drawn] > 0.5).mean() > 0.95
    assert (mask[~drawn] > 0.5).mean() < 0.05


def test_a_large_white_part_on_white_is_the_figures_and_a_gap_is_not():
    page = np.full((200, 200, 3), 255, np.uint8)
    page[30:170, 50:150] = (40, 60, 90)
    page[60:120, 70:130] = 255
    page[140:150, 60:75] = 255
    mask = figure_mask(page)
    assert mask[90, 100] > 0.5
    assert mask[145, 67] < 0.5
    ground = plain_ground(linear_from_srgb8(page))
    assert ground is not None
    assert not ground[90, 100]
    assert ground[145, 67]


def test_places_are_as_alike_as_they_and_their_neighbours_are():
    rng = np.random.default_rng(9)
    one, other = (unit(rng.normal(size=(8, h, w)).astype(np.float32)) for h, w in ((5, 4), (3, 6)))
    cosine = np.einsum("nyx,nvu->yxvu", one, other)

    def best(y, x, v, u):
        if not (0 <= y < 5 and 0 <= x < 4 and 0 <= v < 3 and 0 <= u < 6):
            return 0.0
        return cosine[y, x, max(0, v - 1) : v + 2, max(0, u - 1) : u + 2].max()

    around = [(dy, dx) for dy in (-1, 0, 1) for dx in (-1, 0, 1) if dy or dx]
    i, j = np.array([0, 5, 11, 19]), np.array([0, 8, 17])
    wanted = [
        [
            cosine.reshape(20, 18)[a, b] / 2
            + np.mean([best(a // 4 + dy, a % 4 + dx, b // 6 + dy, b % 6 + dx) for dy, dx in around]) / 2
            for b in j
        ]
        for a in i
    ]
    assert np.allclose(alike(one, other, i, j), wanted, atol=1e-5)


def test_the_best_cosine_is_looked_for_within_one_place():
    rng = np.random.default_rng(10)
    one, other = (unit(rng.normal(size=(8, 4, 4)).astype(np.float32)) for _ in range(2))
    cosine = np.einsum("nyx,nvu->yxvu", one, other)
    found = best_near(one, other)
    assert found[2, 1] == pytest.approx(cosine[2, 1, 1:4, 0:3].max(), abs=1e-5)
    assert found[0, 3] == pytest.approx(max(0, cosine[0, 3, 0:2, 2:4].max()), abs=1e-5)


@pytest.mark.parametrize(("scale", "turn"), [(1.0, 0.0), (1.5, 0.2), (0.7, -0.3)])
def test_the_transform_between_two_sets_of_places_is_found(scale, turn):
    rng = np.random.default_rng(5)
    seen = unit(rng.normal(size=(32, 28, 28)).astype(np.float32))
    ys, xs = np.mgrid[0:28, 0:28] + 0.5
    c, s = scale * np.cos(turn), scale * np.sin(turn)
    affine = np.array([[c, -s, 14 - 14 * c + 14 * s], [s, c, 14 - 14 * s - 14 * c]])
    at = affine[:, :2] @ np.stack([xs.ravel(), ys.ravel()]) + affine[:, 2:]
    x, y = np.floor(at).astype(int)
    inside = (x >= 0) & (x < 28) & (y >= 0) & (y < 28)
    ours = unit(rng.normal(size=(32, 28 * 28)).astype(np.float32))
    ours[:, inside] = seen[:, y[inside], x[inside]]
    whole = np.ones((28, 28), np.float32)
    found = placed(ours.reshape(32, 28, 28), whole, seen, whole, 1.3)
    assert found is not None
    assert np.allclose(found.affine, affine, atol=0.6)
    assert found.share > 0.2


def test_strange_places_are_not_placed():
    rng = np.random.default_rng(6)
    one, other = (unit(rng.normal(size=(64, 14, 14)).astype(np.float32)) for _ in range(2))
    found = placed(one, np.ones((14, 14), np.float32), other, np.ones((14, 14), np.float32), 1.3)
    assert found is None or found.share < 0.1


@pytest.mark.parametrize("light", [LIGHTS[0], LIGHTS[2]])
@pytest.mark.parametrize("ground", [1, 6])
def test_a_figure_goes_with_its_own_reference_and_not_with_a_strangers(eye, light, ground):
    picture, [box] = scene([PELL], np.random.default_rng(ground), light, ground=ground)
    seen = seen_look(eye, picture, box)
    own, other = (match(eye, known(eye, look, "x").looks[0], seen) for look in (PELL, ODA))
    assert own.score > 0.5
    assert other.score < -2.0
    assert own.terms.share > other.terms.share


def test_a_figure_that_looks_the_other_way_is_turned_over(eye):
    page = reference(PELL, random_pose(np.random.default_rng(8)))
    ours = look_of(eye.trunk, page)
    found = match(eye, ours, look_of(eye.trunk, np.ascontiguousarray(page[:, ::-1]), mirror=True))
    assert found.mirrored
    assert found.score > 3.0
    assert not match(eye, ours, look_of(eye.trunk, page, mirror=True)).mirrored


def test_of_several_references_the_best_counts_and_the_cast_is_compared_where_it_is_not_sure(eye, pell, oda):
    picture, [box] = scene([ODA], np.random.default_rng(2), LIGHTS[1], ground=3)
    told, _ = identify(eye, seen_look(eye, picture, box), pell.known, [pell.known, oda.known])
    assert set(told.rivals) == {"oda"}
    assert told.rivals["oda"] > told.score + 2
    right, _ = identify(eye, seen_look(eye, picture, box), oda.known, [pell.known, oda.known])
    assert right.reference in ("oda0", "oda1")
    assert right.score == told.rivals["oda"]


def test_lookalikes_score_below_the_figure_itself(eye, pell):
    rng = np.random.default_rng(13)

    def score(look):
        picture, [box] = scene([look], rng, LIGHTS[int(rng.integers(5))])
        return identify(eye, seen_look(eye, picture, box), pell.known, [])[0].score

    same, alike = [score(PELL) for _ in range(8)], [score(lookalike(PELL, rng)) for _ in range(8)]
    others = [score(random_look(rng)) for _ in range(8)]
    assert np.mean([s > a for s in same for a in alike]) > 0.8
    assert np.mean([s > o for s in same for o in others]) > 0.95


def test_the_evidence_shows_the_figure_in_its_references_place(eye, pell):
    picture, [box] = scene([PELL], np.random.default_rng(4), ground=5)
    told, found = identify(eye, seen_look(eye, picture, box), pell.known, [])
    assert told.evidence is not None
    page = reference(PELL) if told.view == 0 else reference(PELL, random_pose(np.random.default_rng(3)))
    shown = laid(cut_out(page, look_box(page)), picture, box, told.evidence)
    assert found.redrawn is not None
    assert np.abs(shown.redrawn.astype(int) - found.redrawn).mean() < 2
    assert shown.differs.shape == shown.reference.shape == (224, 224, 3)


def test_one_light_over_all_places_is_no_step():
    own = np.random.default_rng(1).uniform(0.05, 0.8, (12, 12, 3))
    seen = own * np.array([0.5, 0.6, 0.8])
    stops = common_light(own.reshape(-1, 3), seen.reshape(-1, 3))
    whole, hue = steps(own, seen, stops)
    assert np.median(whole) < 0.02
    assert np.median(hue) < 0.02


def test_a_green_figure_is_not_tinted_until_it_is_purple():
    own, seen = np.tile([0.3, 0.05, 0.4], (6, 6, 1)), np.tile([0.05, 0.4, 0.08], (6, 6, 1))
    stops = common_light(own.reshape(-1, 3), seen.reshape(-1, 3))
    assert steps(own, seen, stops)[0].min() > 0.1


@pytest.mark.parametrize("part", ["coat", "hair"])
def test_the_part_that_changed_is_named_where_the_figures_lie_over_each_other(eye, pell, part):
    rng = np.random.default_rng(17)
    told = []
    for look in (PELL, recoloured_look(PELL, part, rng, 25)):
        picture, [box] = scene([look], np.random.default_rng(18), LIGHTS[1], ground=1, scale=1.0)
        [seen] = measure_appearances(picture, [(box, pell)], None, eye)
        laid_steps = {t.name: t.laid.step for t in seen.traits if t.laid and about(t, getattr(PELL, part))}
        rest = [t.laid.step for t in seen.traits if t.laid and not about(t, getattr(PELL, part))]
        told.append((max(laid_steps.values()), float(np.median(rest))))
    (before, _), (after, rest) = told
    assert after > before + 0.05
    assert after > rest + 0.05


def test_proposed_traits_cover_the_figure_and_bear_names_of_their_own(pell):
    names = [t.name for t in pell.model.traits]
    assert len(set(names)) == len(names)
    assert sum(t.share for t in pell.model.traits) > 0.8
    for view, masks in zip(pell.looked_at, pell.masks, strict=True):
        figure = cv2.resize(view.look.upright.fine_mask, (56, 56)) > 0.5
        assert (masks.sum(axis=0) > 0.5)[figure].mean() > 0.7


def test_materials_in_several_shades_are_one_trait():
    page = np.full((240, 160, 3), 255, np.uint8)
    for i, grey in enumerate((90, 110, 128, 140)):
        page[40 + 30 * i : 70 + 30 * i, 40:120] = grey
    page[160:210, 40:120] = (200, 40, 40)
    model = figure_model("knight", [reference_view(page, "front")])
    assert [t.name for t in model.traits] == ["grey part at the middle", "red part at the bottom"]


def test_a_pixel_belongs_to_one_trait(pell):
    for view in pell.looked_at:
        masks = part_masks(pell.model, view)
        assert len(masks) == len(pell.model.traits) > 2
        assert masks.sum(axis=0).max() <= 1.0 + 1e-6
        assert all(m.sum() > 3 for m in masks[[t.share > 0.05 for t in pell.model.traits]])


def test_parts_outside_the_picture_are_not_read(eye, pell):
    sheet = pell.looked_at[0].look.upright
    nothing = Over(sheet, pell.masks[0], sheet.pixels, np.zeros((224, 224), np.float32))
    assert part_steps(nothing, np.zeros(3)) == [None] * len(pell.masks[0])
    assert worn_over(nothing, np.zeros(3), pell.familiar) == ()
    whole = Over(sheet, pell.masks[0], sheet.pixels, np.ones((224, 224), np.float32))
    assert all(isinstance(s, PartStep) and s.step < 0.01 for s in part_steps(whole, np.zeros(3)) if s)
    assert sum(w.share for w in worn_over(whole, np.zeros(3), pell.familiar) if w.apart > 0.05) < 0.1


def test_half_a_part_in_a_strange_colour_is_worn_there_and_nowhere_else(pell):
    sheet = pell.looked_at[0].look.upright
    [coat] = [
        i for i, t in enumerate(pell.model.traits) if nearest_difference(t.colours, linear_from_hex(PELL.coat)) < 6
    ]
    mask = pell.masks[0][coat] > 0.5
    rows = np.flatnonzero(mask.any(axis=1))
    half = mask.copy()
    half[: rows[len(rows) // 2]] = False
    violet = np.array([110, 40, 150], np.uint8)
    drawn = np.where(np.kron(half, np.ones((4, 4)))[..., None] > 0, violet, sheet.pixels).astype(np.uint8)
    inside = np.ones((224, 224), np.float32)
    right, wrong = (
        worn_over(Over(sheet, pell.masks[0], p, inside), np.zeros(3), pell.familiar) for p in (sheet.pixels, drawn)
    )
    usual, odd = shown(right), shown(wrong)
    alone = strange(wrong, [usual] * 3)[0]
    assert 0.3 < strangeness(wrong, alone, coat).part < 0.7
    assert strangeness(wrong, alone, coat).patch > 0.15
    assert strangeness(right, strange(right, [odd])[0], coat).part < 0.1
    anywhere, mostly = (strangeness(wrong, s, coat).part for s in strange(wrong, [usual, usual, odd]))
    assert anywhere < 0.1 < mostly
    others = [i for i in range(len(pell.masks[0])) if i != coat]
    assert all(strangeness(wrong, alone, i).part < 0.2 for i in others)


def test_the_level_of_a_thread_learns_from_its_references_and_its_pictures():
    assert level([], []).score == pytest.approx(LEVEL)
    lower = level([0.5], [0.2, 0.4, 0.3, 0.1])
    assert lower.score < LEVEL
    assert lower.words() == "1 pair of references and 4 pictures of this thread"
    assert level([], [3.0, 3.2, -6.0, 3.1]).score == pytest.approx(level([], [3.1, 3.0, 3.2, 3.1]).score, abs=0.2)
    assert level([], []).words() == "drawn figures in general"
    accepted = level([], [], accepted=[-0.5])
    assert accepted.score < LEVEL - 0.5
    assert accepted.words() == "1 that you let stand"


def test_a_stranger_is_no_question_and_a_question_no_stranger():
    held = level([], [])
    assert answer(held.score, {}, held) == ("same", None)
    assert answer(held.score - STRANGER_BELOW - 0.5, {"oda": -5.0}, held) == ("stranger", "oda")
    assert answer(held.score - DOUBTFUL_BELOW - 0.1, {"oda": -5.0}, held) == ("doubtful", "oda")
    assert answer(-1.5, {"oda": 3.0, "tim": -2.0}, held) == ("other", "oda")
    assert answer(2.5, {"oda": 3.4}, held) == ("doubtful", "oda")
    assert answer(4.0, {}, held)[0] == "same"
    turned = level([], [2.5, -2.1, -2.2, -2.3, -2.4, -2.2, -2.0])
    assert answer(-2.3, {}, turned)[0] == "doubtful", "where most pictures go badly, none is called a stranger"
    assert answer(-2.3, {}, level([], [2.5, 2.1, -2.3, 2.4, 1.9]))[0] == "stranger"


def test_references_are_held_against_each_other_once(eye, pell):
    looks = [v.look for v in pell.looked_at]
    assert pell.known.pairs == pairs_of(eye, looks)
    assert pell.known.pairs[0] > 0


def test_without_an_eye_nothing_is_said_of_who_it_is(pell):
    picture, [box] = scene([PELL], np.random.default_rng(4), ground=5)
    [seen] = measure_appearances(picture, [(box, pell)])
    assert seen.identity is None
    assert all(t.laid is None for t in seen.traits)


def test_a_mark_that_is_a_sliver_is_measured_all_the_same(eye, pell):
    picture, [box] = scene([PELL], np.random.default_rng(4), ground=5)
    [seen] = measure_appearances(picture, [(replace(box, w=3.0), pell)], None, eye)
    assert seen.identity is not None
    flat = np.full((40, 40, 3), 128, np.uint8)
    [empty] = measure_appearances(flat, [(Box(0, 0, 40, 40), pell)], None, eye)
    assert empty.identity is not None
    assert empty.identity.score < 0


def test_a_missing_or_changed_network_file_is_said_and_not_trusted(monkeypatch, tmp_path, caplog):
    for name in ("figure.onnx", "scene.onnx", "figure.npz", "style.onnx", "style.npz", "SHA256SUMS"):
        (tmp_path / name).write_bytes((network.HOME / name).read_bytes())
    (tmp_path / "figure.onnx").write_bytes(b"damaged")
    (tmp_path / "style.onnx").unlink()
    monkeypatch.setattr(network, "HOME", tmp_path)
    for ask in (network.figure_eye, network.hand_eye):
        ask.cache_clear()
        assert ask() is None
        ask.cache_clear()
    assert "not the file that shipped" in caplog.text
    monkeypatch.undo()


def test_the_same_picture_gives_the_same_numbers(eye, pell):
    picture, [box] = scene([PELL], np.random.default_rng(4), ground=5)
    small = cv2.resize(picture, (450, 300), interpolation=cv2.INTER_AREA)
    half = Box(box.x / 2, box.y / 2, box.w / 2, box.h / 2)
    first, again = (identify(eye, seen_look(eye, small, half), pell.known, [])[0] for _ in range(2))
    assert first == again


def told_of(eye, figures, look, hold, parts, where=(3,), pictures=5, covered=None, away=AwayFromStyle()):
    """The findings along a thread of pictures, of which some show `look`; there somebody else may be marked on the same place."""
    shots = []
    for i in range(pictures):
        page, [box] = scene([look if i in where else PELL], np.random.default_rng(40 + i), ground=i, scale=1.0)
        marks, known = [Mark("pell", box, hold)], [(box, figures[0])]
        if covered and i in where:
            marks.append(Mark("oda", box.grown(covered)))
            known.append((box, figures[1]))
        measure = measure_picture(page, known, list(figures), None, eye)
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset({"pell"}), None, tuple(marks), measure))
    return figure_thread("pell", {"pell": "Pell", "oda": "Oda"}, shots, parts, away, (), network.judges())[1]


def test_another_coat_is_told_where_the_figure_holds_and_not_where_the_face_alone_does(eye, pell, oda):
    changed = replace(PELL, coat="#6b4a8c")
    [finding] = told_of(eye, (pell, oda), changed, "figure", {})
    assert (finding.kind, finding.shot) == ("trait_changed", "s3")
    assert "; on the references it is " in finding.title
    outfit = {("pell", t.name): "outfit" for t in pell.model.traits}
    assert told_of(eye, (pell, oda), changed, "face", outfit) == []


def test_a_coat_that_somebody_elses_mark_covers_is_not_told_unless_they_hold_whoever_wears_it(eye, pell, oda):
    changed = replace(PELL, coat="#6b4a8c")
    assert told_of(eye, (pell, oda), changed, "figure", {}, covered=0.05) == []
    [finding] = told_of(eye, (pell, oda), changed, "figure", {}, covered=0.6)
    assert (finding.kind, finding.shot) == ("trait_changed", "s3")


def test_another_coat_is_told_in_a_picture_whose_style_slides_too(eye, pell, oda):
    changed, sliding = replace(PELL, coat="#6b4a8c"), AwayFromStyle(sliding=frozenset({"s2", "s3", "s4"}))
    assert [f.shot for f in told_of(eye, (pell, oda), changed, "figure", {}, away=sliding)] == ["s3"]
    greyer = replace(PELL, coat="#7d7a70")
    assert [f.shot for f in told_of(eye, (pell, oda), greyer, "figure", {})] == ["s3"]
    assert told_of(eye, (pell, oda), greyer, "figure", {}, away=sliding) == []


def test_a_coat_that_stays_another_one_is_told_in_each_picture(eye, pell, oda):
    changed = replace(PELL, coat="#6b4a8c")
    found = told_of(eye, (pell, oda), changed, "figure", {}, where=(4, 5, 6), pictures=8)
    assert {(f.kind, f.shot) for f in found} == {
        ("trait_changed", "s4"),
        ("trait_changed", "s5"),
        ("trait_changed", "s6"),
    }


def test_somebody_of_the_cast_in_the_wrong_place_is_told_and_all_others_hold(eye, pell, oda):
    [finding] = told_of(eye, (pell, oda), ODA, "figure", {})
    assert (finding.kind, finding.shot, finding.title) == (
        "figure_swapped",
        "s3",
        "This is not Pell; it looks most like Oda",
    )
    assert any(row.label == "That it is Oda" for row in finding.evidence)


@pytest.mark.parametrize(("look", "told"), [(PELL, "side_leap"), (ODA, "figure_swapped")])
def test_where_somebody_else_stands_is_no_leap_of_who_was_marked(eye, pell, oda, look, told):
    shots = []
    for i in range(4):
        page, [box] = scene([look if i == 3 else PELL], np.random.default_rng(40 + i), ground=i, scale=1.0)
        if i == 3:
            page, box = np.roll(page[:, ::-1], 60, axis=1), replace(box, x=page.shape[1] - box.x - box.w + 60)
        measure = measure_picture(page, [(box, pell)], [pell, oda], None, eye)
        plan = ShotPlan("one", "MS", length_s=4.0, places=(("here", ""),))
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset({"pell"}), None, (Mark("pell", box),), measure, plan))
    named = [Named("pell", "Pell"), Named("oda", "Oda")]
    found = check(shots, [], named, judges=network.judges()).findings
    assert [f.kind for f in found if f.thread == "pell" and f.kind in ("side_leap", "figure_swapped")] == [told]


def test_who_stands_behind_somebody_else_is_asked_about_and_what_somebody_holds_is_told(eye, pell, oda):
    [finding] = told_of(eye, (pell, oda), ODA, "figure", {}, covered=0.05)
    assert (finding.kind, finding.title) == ("figure_doubtful", "Is this Pell, or Oda?")
    [finding] = told_of(eye, (pell, oda), ODA, "figure", {}, covered=0.6)
    assert finding.kind == "figure_swapped", "a mark that is five times as large is of a holder"
