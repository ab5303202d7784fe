"""What changed from one picture's origin to the next, in words."""

from dataclasses import replace

import pytest

from juxtaform.core.brief.lineage import Origin, changes

NAMES = {"a": "Ada", "b": "Bo"}
BASE = Origin(
    {"action": "Ada waits on the stone quay.", "framing": "Wide shot.", "hold:a": "Hold all of Ada, 90 %."},
    {"a": (0.9, "figure", "")},
    ("r1",),
    "Understudy",
    "m",
    "draft",
    7,
)


def spoken(words):
    return {**BASE.phrases, "action": words}


@pytest.mark.parametrize(
    ("now", "said"),
    [
        (BASE, []),
        (replace(BASE, seed=8), ["another seed"]),
        (replace(BASE, phrases=spoken("Ada waits on the quay.")), ["without “stone”"]),
        (replace(BASE, phrases=spoken("Ada waits on the wet stone quay.")), ["with “wet”"]),
        (replace(BASE, phrases=spoken("Ada sits on the stone quay.")), ["“sits” instead of “waits”"]),
        (replace(BASE, phrases=spoken("A crab.")), ["“A crab” instead of “Ada waits on the stone quay”"]),
        (replace(BASE, phrases={**BASE.phrases, "extra": "In snow."}), ["with “In snow”"]),
        (replace(BASE, phrases={**BASE.phrases, "hold:a": "Hold all of Ada, 50 %."}), []),
        (replace(BASE, held={"a": (0.5, "figure", "")}), ["Ada at 50 % instead of 90 %"]),
        (replace(BASE, held={"a": (0.9, "face", "")}), ["Ada: face holds instead of figure"]),
        (replace(BASE, held={"a": (0.9, "figure", "coat")}), ["Ada in coat"]),
        (replace(BASE, held={**BASE.held, "b": (0.5, "figure", "")}), ["with Bo"]),
        (replace(BASE, held={}), ["without Ada"]),
        (replace(BASE, references=("r2",)), ["other references"]),
        (replace(BASE, references=("r1", "r2")), ["one more reference"]),
        (replace(BASE, references=("r1", "r2", "r3")), ["2 more references"]),
        (replace(BASE, references=()), ["fewer references"]),
        (replace(BASE, service="Other"), ["by Other"]),
        (replace(BASE, model="n"), ["by the model n"]),
        (replace(BASE, quality="final"), ["final instead of draft"]),
    ],
)
def test_a_change_is_said_in_words(now, said):
    assert changes(BASE, now, NAMES) == said


def test_long_changes_are_quoted_by_their_ends():
    long = "Ada waits on the stone quay while nine boats lie on their sides in the cold grey mud."
    [said] = changes(BASE, replace(BASE, phrases=spoken(long)), NAMES)
    assert "…" in said
    assert said.startswith("“Ada waits on … cold grey mud” instead of")


def test_pictures_that_differ_by_their_seeds_alone_are_one_group():
    assert BASE.group() == replace(BASE, seed=99).group()
    assert BASE.group() != replace(BASE, quality="final").group()
    assert Origin({"action": "x"}).group() == Origin().group() == ("brought",)
    assert not replace(Origin(), crop=True).is_brought
