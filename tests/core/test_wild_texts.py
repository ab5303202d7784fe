"""No text breaks the reader, however wild it is (`bin/bench wild` goes on)."""

import random

import pytest

from tests.wild import read_through, wild_text


@pytest.mark.parametrize("seed", range(4))
def test_a_wild_text_is_read_to_its_end(seed):
    dice = random.Random(seed)
    for _ in range(60):
        text = wild_text(dice)
        try:
            read_through(text)
        except Exception as error:
            raise AssertionError(text) from error


@pytest.mark.parametrize(
    "text",
    [
        "The Misses Pym sneezed. Miss Pym laughed. “Here,” said the younger Miss Pym.",
        "In the lamp room moths were",
        "The same Misses. Queen the Misses Pym toads.",
        "The twins Odo and Chike ran. “My name is Doctor Odo,” said a man. The man sat. Doctor Odo sang.",
        "",
        "…",
        "1.\n2.\n3.\n4.\n",
    ],
)
def test_texts_that_broke_it_once(text):
    read_through(text)
