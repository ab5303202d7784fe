"""Plain words about a few people, as many as there are ways of saying it: what each shot says, what is attached, and what preflight tells, in `texts/briefs.txt`."""

from __future__ import annotations

from pathlib import Path

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
SHIP = World(
    {
        "rook": person("rook", "Captain Rook", "Captain Rook, a pirate: a grey beard, a red hat, a wooden leg."),
        "pim": person("pim", "Pim", "Pim, a cabin boy: freckles, torn trousers, bare feet."),
        "gull": person("gull", "Gull", "Gull, a fat white seagull with one black feather."),
        "spyglass": Member("spyglass", "prop", "Spyglass", "A brass spyglass.", views=(view("spyglass"),)),
        "map": Member("map", "prop", "Map", "A map on goatskin.", views=(view("map"),)),
        "deck": place("deck", "Deck", "The deck of a small ship, by day, in sunshine."),
        "cabin": place("cabin", "Cabin", "A low cabin, at night, lit by a lantern."),
    },
    {"ink": StyleWords("ink", "Ink", "Ink and wash.", ("ink",))},
    {
        "rook": ("Rook", "the captain"),
        "pim": ("the cabin boy",),
        "spyglass": ("the spyglass",),
        "map": ("the map",),
        "deck": ("the deck", "the ship"),
        "cabin": ("the cabin",),
    },
)
ALP = World(
    {
        "ilka": person("ilka", "Ilka", "Ilka, a girl of ten: two blond braids, a blue anorak, a white hat."),
        "ruben": person("ruben", "Ruben", "Ruben, an old mountain guide: a grey moustache, a green hat, a brown coat."),
        "yeti": person("yeti", "Yeti", "The yeti: white shaggy fur, yellow eyes, twice as tall as a man."),
        "rope": Member("rope", "prop", "Rope", "A red climbing rope.", views=(view("rope"),)),
        "lantern": Member("lantern", "prop", "Lantern", "A storm lantern.", views=(view("lantern"),)),
        "slope": place("slope", "Slope", "A steep snowy slope under a ridge, by day."),
        "cave": place("cave", "Cave", "An ice cave, blue and dim."),
        "hut": place("hut", "Hut", "A wooden hut with a stove, in the evening."),
    },
    {"ink": StyleWords("ink", "Ink", "Ink and wash.", ("ink",))},
    {
        "ruben": ("the guide", "the old guide"),
        "yeti": ("the yeti",),
        "rope": ("the rope",),
        "lantern": ("the lantern",),
        "slope": ("the slope",),
        "cave": ("the cave",),
        "hut": ("the hut",),
    },
)
MOON = World(
    {
        "vega": person(
            "vega", "Vega", "Vega, the commander, a woman of fifty: short grey hair, a silver suit, black boots."
        ),
        "beep": person("beep", "Beep", "Beep, a small round robot on three wheels, with one red lamp."),
        "tomas": person("tomas", "Tomas", "Tomas, a boy of nine, a stowaway: freckles, brown overalls."),
        "wrench": Member("wrench", "prop", "Wrench", "A big wrench.", views=(view("wrench"),)),
        "cake": Member("cake", "prop", "Cake", "A lopsided cake.", views=(view("cake"),)),
        "corridor": place("corridor", "Corridor", "A white corridor with round hatches."),
        "dome": place("dome", "Dome", "A glass dome full of plants."),
        "crater": place("crater", "Crater", "A moon crater under a black sky."),
    },
    {"ink": StyleWords("ink", "Ink", "Ink and wash.", ("ink",))},
    {
        "vega": ("the commander",),
        "beep": ("the robot",),
        "tomas": ("the boy", "the stowaway"),
        "wrench": ("the wrench",),
        "cake": ("the cake",),
        "corridor": ("the corridor",),
        "dome": ("the dome",),
        "crater": ("the crater",),
    },
)
_WORLDS = {"[yard]": YARD, "[wood]": WOOD, "[school]": SCHOOL, "[ship]": SHIP, "[alp]": ALP, "[moon]": MOON}


def rows_of(*sections: str) -> tuple[Row, ...]:
    """The briefs of some sections of the file."""
    found, section = [], ""
    for line in (Path(__file__).parent.parent / "texts" / "briefs.txt").read_text("utf-8").splitlines():
        if line in _WORLDS:
            section = line
        elif line and not line.startswith("#") and section.strip("[]") in sections:
            words, attached, letters = (x.strip() for x in (line + " |").split("|")[:3])
            rules = frozenset(LETTERS[x] for x in letters.split())
            found.append(Row(_WORLDS[section], words, f"{attached} ink", rules, {}))
    return tuple(found)


SHIP_BRIEFS, SHIP_KEPT = rows_of("ship")[::2], rows_of("ship")[1::2]
"""What was wrong in the first half was mended; nothing was in the other."""
