"""What preflight tells of plain words about two children in a yard, and about a girl, a fox and a grandmother, in as many ways as people say them."""

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


WOOD = World(
    {
        "oma": person(
            "oma", "Grandma Tilda", "Grandma Tilda, a tiny old woman: a white bun, a blue apron, round glasses."
        ),
        "kip": person("kip", "Kip", "Kip, a fox with one torn ear and a red scarf."),
        "bela": person("bela", "Bela", "Bela, a girl of seven: brown curls, a green jumper, yellow boots."),
        "kettle": Member("kettle", "prop", "Kettle", "A copper kettle.", views=(view("kettle"),)),
        "sledge": Member("sledge", "prop", "Sledge", "A wooden sledge.", views=(view("sledge"),)),
        "kitchen": place("kitchen", "Kitchen", "A low kitchen with a tiled stove, in the evening."),
        "wood": place("wood", "Wood", "A birch wood in snow, by day."),
    },
    {"ink": StyleWords("ink", "Gouache", "Gouache, flat colours.", ("flat",))},
    {
        "oma": ("Grandma", "Tilda", "the old woman"),
        "kip": ("the fox",),
        "kettle": ("the kettle",),
        "sledge": ("the sledge",),
        "kitchen": ("the kitchen",),
        "wood": ("the wood", "the forest"),
    },
    {"bela": {"pyjamas": "Green pyjamas with stars."}},
)
SCHOOL = World(
    {
        "otis": person("otis", "Otis", "Otis, a boy of eight: brown eyes, curly hair, an orange shirt."),
        "vane": person("vane", "Miss Vane", "Miss Vane, a teacher: a black bun, a grey dress, glasses on a chain."),
        "twins": person("twins", "The twins", "The twins, two girls in sailor dresses."),
        "drum": Member("drum", "prop", "Drum", "A tin drum.", views=(view("drum"),)),
        "hall": place("hall", "School hall", "A school hall with a stage and tall windows, in the morning."),
        "street": place("street", "Street", "A narrow street with tram rails, by day, in sunshine."),
    },
    {"ink": StyleWords("ink", "Ink", "Ink and wash.", ("ink",))},
    {
        "twins": ("twins",),
        "drum": ("the drum",),
        "hall": ("the hall",),
        "street": ("the street",),
        "vane": ("the teacher",),
    },
    {"otis": {"suit": "A Sunday suit."}},
)
WORLDS = {"[yard]": YARD, "[wood]": WOOD, "[school]": SCHOOL}


def told():
    world = YARD
    for line in (Path(__file__).parent.parent / "texts" / "briefs.txt").read_text("utf-8").splitlines():
        if line in WORLDS:
            world = WORLDS[line]
        elif line and not line.startswith("#"):
            words, attached, letters = (x.strip() for x in (line + " |").split("|")[:3])
            yield world, words, attached, letters


@pytest.mark.parametrize(("world", "words", "attached", "letters"), told())
def test_preflight_tells_what_is_so(world, words, attached, letters):
    found = {f.kind for f in Row(world, words, f"{attached} ink", frozenset(), {}).findings()}
    assert found == {LETTERS[x] for x in letters.split()}
