"""What preflight tells of plain words about two children, a lamp and a yard, in as many ways as people say them."""

from pathlib import Path

import pytest

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, M, N, Row, T, U, World, person, place, view

LETTERS = {"A": A, "D": D, "F": F, "M": M, "N": N, "T": T, "U": U}
YARD = World(
    {
        "tam": person("tam", "Tam", "Tam, a boy of nine: red hair, a green coat."),
        "mia": person("mia", "Mia", "Mia, a girl: black plaits, a yellow dress."),
        "lamp": Member("lamp", "prop", "Lamp", "An oil lamp of brass.", views=(view("lamp"),)),
        "yard": place("yard", "Yard", "A yard with a pump."),
    },
    {"ink": StyleWords("ink", "Ink", "Ink and wash.", ("ink",))},
    {"lamp": ("the lamp",), "yard": ("the yard",)},
)


def told():
    lines = (Path(__file__).parent.parent / "texts" / "briefs.txt").read_text("utf-8").splitlines()
    for line in lines:
        if not line.startswith("#"):
            words, attached, letters = (x.strip() for x in (line + " |").split("|")[:3])
            yield words, attached, letters


@pytest.mark.parametrize(("words", "attached", "letters"), told())
def test_preflight_tells_what_is_so(words, attached, letters):
    found = {f.kind for f in Row(YARD, words, f"{attached} ink", frozenset(), {}).findings()}
    assert found == {LETTERS[x] for x in letters.split()}
