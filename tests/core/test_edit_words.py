"""What a proof of an edit says, and the map that shows it."""

from dataclasses import replace

import numpy as np
import pytest

from juxtaform.core.edits.added import AddedPart, Departure, place_in
from juxtaform.core.edits.evidence import proof_map
from juxtaform.core.edits.proof import ChangedPlace, EditProof
from juxtaform.core.edits.words import harmless, matches, verdict
from juxtaform.core.picture.regions import Box

QUIET = EditProof(1.0, 0.4, (), 0.0, 0.0, 0.0, 0.0, False, tuple([1.0] * 96), 12)
PLACE = ChangedPlace(Box(10, 10, 20, 20), 24.4, 40.0)


@pytest.mark.parametrize(
    ("proof", "words"),
    [
        (QUIET, "Nothing outside the area changed."),
        (replace(QUIET, places=(PLACE,)), "One place outside the area changed by 24 ΔE."),
        (
            replace(QUIET, places=(PLACE, replace(PLACE, delta=31.0))),
            "2 places outside the area changed, the strongest by 31 ΔE.",
        ),
        (
            replace(QUIET, floor=4.2),
            "The whole picture was painted anew: everything outside the area differs a little.",
        ),
    ],
)
def test_one_sentence_says_whether_anything_else_changed(proof, words):
    assert verdict(proof) == words


@pytest.mark.parametrize(
    ("proof", "words"),
    [
        (QUIET, ""),
        (replace(QUIET, stops=0.31), "0.3 stops lighter"),
        (replace(QUIET, stops=-0.045), "a little darker"),
        (replace(QUIET, shift_px=1.1), "moved by a pixel"),
        (replace(QUIET, shift_px=4.6, resized=True), "moved by 5 px and in another size"),
        (replace(QUIET, blur=1.0, resized=True, stops=-0.5), "0.5 stops darker, softer and in another size"),
        (replace(QUIET, blur=-0.8), "sharper"),
    ],
)
def test_what_is_harmless_is_told_as_harmless(proof, words):
    assert harmless(proof) == (f"It came back {words}; that was taken out before comparing." if words else "")


def test_an_added_part_is_told_with_all_in_which_it_departs():
    box = Box(0, 0, 100, 400)
    assert matches(AddedPart("left", box, ())) == "What was added on the left matches."
    told = matches(
        AddedPart(
            "below", box, (Departure("light", "darker by 0.6 stops", 2.0), Departure("saturation", "greyer", 1.2))
        )
    )
    assert told == "What was added below does not match: darker by 0.6 stops and greyer."


def test_the_map_stripes_what_changed_and_washes_the_area():
    before = np.full((64, 96, 3), 200, np.uint8)
    mask = np.zeros((64, 96), np.float32)
    mask[40:, :30] = 1
    strengths = np.ones((8, 12))
    strengths[1, 9] = 50
    shown = proof_map(before, mask, replace(QUIET, strengths=tuple(strengths.ravel())))
    assert shown.shape == before.shape
    red, blue = shown[8:16, 72:80].reshape(-1, 3).mean(axis=0), shown[56, 10]
    assert red[0] > red[2] + 30
    assert blue[2] > blue[0] + 30
    plain = shown[60, 80].astype(int)
    assert np.ptp(plain) < 4


def test_the_old_picture_is_found_in_the_one_that_it_grew_to():
    rng = np.random.default_rng(2)
    page = np.kron(rng.integers(0, 255, (12, 20, 3), dtype=np.uint8), np.ones((30, 30, 1), np.uint8))
    old = page[:, 120:480]
    found = place_in(page, old)
    assert (found.x, found.w) == (pytest.approx(120, abs=2), 360)
    with pytest.raises(ValueError, match="not to be found"):
        place_in(page, rng.integers(0, 255, old.shape, dtype=np.uint8))
