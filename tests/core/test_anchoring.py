"""A changed text: every stretch follows its words, and what is gone is told."""

import numpy as np
import pytest

from juxtaform.core.text.anchoring import Span, anchored

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
