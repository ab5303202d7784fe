"""A changed text: every stretch follows its words, and what is gone is told."""

import random

import numpy as np
import pytest

from juxtaform.core.text.anchoring import Span, anchored
from juxtaform.core.text.parts import MOST, Parts, parted, remade

OLD = "The tide had gone. Pell sat on the step. Sprocket tapped the dry stone twice. Oda counted the boats on their sides."
SENTENCES = [
    "The tide had gone.",
    "Pell sat on the step.",
    "Sprocket tapped the dry stone twice.",
    "Oda counted the boats on their sides.",
]


def spans():
    return [Span(str(i), OLD.index(s), OLD.index(s) + len(s)) for i, s in enumerate(SENTENCES)]


def after(new):
    found, lost = anchored(OLD, new, spans())
    return {a.id: new[a.start : a.end] for a in found}, [x.id for x in lost]


@pytest.mark.parametrize(
    ("new", "changed", "lost"),
    [
        (OLD, {}, []),
        ("Once upon a time. " + OLD, {}, []),
        (OLD.replace("tide", "whole tide"), {"0": "The whole tide had gone."}, []),
        (OLD.replace("Pell sat on the step. ", ""), {"1": None}, ["1"]),
        (OLD.replace("Pell sat", "Mina slept"), {"1": "Mina slept on the step."}, []),
        (OLD.replace("twice.", "three times, hard."), {"2": "Sprocket tapped the dry stone three times, hard."}, []),
        (OLD.replace("The", "A"), {"0": "A tide had gone."}, []),
        (OLD.replace("their sides", "the mud"), {"3": "Oda counted the boats on the mud."}, []),
        ("\n\n".join(SENTENCES), {}, []),
    ],
)
def test_a_stretch_follows_its_words(new, changed, lost):
    wanted = {str(i): s for i, s in enumerate(SENTENCES)} | changed
    assert after(new) == ({k: v for k, v in wanted.items() if v}, lost)


def test_a_passage_that_was_moved_is_found_again():
    new = " ".join([SENTENCES[2], SENTENCES[0], SENTENCES[1], SENTENCES[3]])
    texts, lost = after(new)
    assert texts == {str(i): s for i, s in enumerate(SENTENCES)}
    assert lost == []


def test_all_is_lost_when_the_text_is_another():
    found, lost = anchored(OLD, "Something else altogether, said the moon.", spans())
    assert found == []
    assert [x.words for x in lost] == SENTENCES


def test_stretches_survive_many_small_edits_of_a_long_text():
    rng = np.random.default_rng(2)
    words = [f"w{int(i)}" for i in rng.integers(0, 900, 4000)]
    old, starts, at = " ".join(words), [], 0
    for w in words:
        starts.append(at)
        at += len(w) + 1
    cover = [Span(str(i), starts[i], starts[i + 19] + len(words[i + 19])) for i in range(0, 3980, 20)]
    edited = [w if rng.random() > 0.05 else "new" for w in words]
    for _ in range(30):
        edited.insert(int(rng.integers(0, len(edited))), "put in")
    new = " ".join(edited)
    found, lost = anchored(old, new, cover)
    assert lost == []
    ends = [a.start for a in found]
    assert ends == sorted(ends)
    assert all(abs(len(new[a.start : a.end].split()) - 20) < 8 for a in found)


@pytest.mark.parametrize("seed", range(20))
def test_parts_joined_are_the_text_and_none_is_long(seed):
    rng = random.Random(seed)
    pieces = ["Ada came in. ", "\n", "\n\n", "x" * 900, " ", "“No,” said Bo.\r\n", "ß🦀 ", "word " * 300]
    text = "".join(rng.choice(pieces) for _ in range(rng.randrange(60)))
    parts = parted(text)
    assert "".join(parts) == text
    assert all(0 < len(p) <= MOST for p in parts)
    places = Parts([len(p) for p in parts])
    assert places.length == len(text)
    for _ in range(20 if text else 0):
        at = rng.randrange(len(text))
        start, end = places.start(at), places.end(at + 1)
        assert start.part == end.part
        assert parts[start.part][start.at] == text[at] == parts[end.part][end.at - 1]
        assert places.offset(start.part, start.at) == at
        gone = rng.randrange(len(text) - at + 1)
        first, last = places.touched(at, gone)
        before = places.offset(first, 0)
        now = remade("".join(parts[first:last]), at - before, gone, "put")
        assert "".join([*parts[:first], *now, *parts[last:]]) == text[:at] + "put" + text[at + gone :]


def test_a_place_outside_of_a_text_is_refused():
    places = Parts([5, 5])
    for wrong in (
        lambda: places.touched(8, 3),
        lambda: places.start(10),
        lambda: places.end(0),
        lambda: places.end(11),
    ):
        with pytest.raises(ValueError, match="a text of 10 characters"):
            wrong()
    assert Parts([]).touched(0, 0) == (0, 0)
