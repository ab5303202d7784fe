"""Short words of a shot of Mira, Tomas and a goose, with who is attached and who of them has no part in the words."""

from __future__ import annotations

from typing import Any

from juxtaform.core.brief.compose import Member, Phrase
from juxtaform.core.brief.presence import Presence, presence
from juxtaform.core.text.names import Named, Reader

MIRA = Named("m", "Mira", ("the pilot",))
TOMAS = Named("t", "Tomas")
GOOSE = Named("g", "Greta")
BARN = Named("b", "Barn", (), "setting")
LAMP = Named("l", "Storm lamp", ("lamp",), "prop")
KINDS = {"m": "character", "t": "character", "g": "character", "b": "setting", "l": "prop"}
READER = Reader([MIRA, TOMAS, GOOSE, BARN, LAMP])


def member(key: str, kind: str, name: str, wording: str = "", **facts: Any) -> Member:
    return Member(key, kind, name, wording, **facts)  # type: ignore[arg-type]


def read(text: str) -> Presence:
    """Who is to be seen by a shot's words."""
    return presence(READER, [Phrase("action", "action", text, "shows", 100)], KINDS, frozenset("mtg"))


CAST = {
    "m": member("m", "character", "Mira", "Mira, a girl of ten: red scarf, black hair."),
    "t": member("t", "character", "Tomas", "Tomas, an old man with a grey beard and a blue coat."),
    "g": member("g", "character", "Greta", "A white goose with one orange foot."),
}

CAST_OF_WORDS: tuple[tuple[str, str, str], ...] = (
    ("Mira rows.", "m", ""),
    ("Mira rows.", "mt", "t"),
    ("Mira rows.", "mtg", "tg"),
    ("Mira rows the boat to the quay, step by step.", "mtg", "tg"),
    ("Tomas mends a net on the quay.", "mtg", "mg"),
    ("Mira and Tomas mend a net.", "mtg", "g"),
    ("A net dries on the quay.", "mtg", "mtg"),
    ("Mira rows; they wave.", "mtg", ""),
    ("Mira rows; he steers.", "mt", ""),
    ("Mira rows; she steers.", "mt", "t"),
    ("They row.", "mt", ""),
    ("It bites.", "g", ""),
    ("Mira rows. It swims behind her.", "mg", ""),
    ("Both of them asleep.", "mtg", ""),
    ("The goose bites.", "g", ""),
    ("The geese bite.", "g", ""),
    ("The girl and the old man row.", "mt", ""),
    ("A hand on the latch.", "m", ""),
    ("A hand on the latch.", "mt", ""),
    ("Rain on an empty quay.", "mt", "mt"),
    ("Mira without Tomas.", "mt", "t"),
    ("Everybody on deck, Mira in front.", "mtg", ""),
    ("The woman turns round.", "m", ""),
    ("The man turns round.", "mt", "m"),
)
"""Words, who is attached (by their first letters), and who of them has no part in the words."""
