"""Names that are also nouns and only begin sentences, and who has them."""

import pytest

from juxtaform.core.text.candidates import discovered, story_of
from juxtaform.core.text.english.lexicon import first_names
from juxtaform.formats import prose


def cast(text):
    return {c.name for c in discovered(prose.read(text)) if c.kind == "character" and c.sure}


def people(text):
    return [{p.removeprefix("new:") for p in x.people} for x in story_of(prose.read(text)).pieces(0)]


@pytest.mark.parametrize(
    "name", "Ruby Peter Lily Jack John Max Daisy Nils Kit Bean Pip Dawn June Socks Biscuit".split()
)
def test_who_does_something_is_somebody_though_the_word_is_a_noun(name):
    assert name in cast(f"{name} ran. {name} fell. {name} cried.")
    assert name in cast(f"{name} and Oskar went to the lake. {name} swam. Oskar laughed.") or name == "June"


@pytest.mark.parametrize(
    "text",
    [
        "Rain fell. Rain ran down the window.",
        "Summer came. Summer went.",
        "Smoke rose. Smoke ran along the roof.",
        "Music played. Music filled the room.",
        "Bread lay on the table. Bread smells good.",
        "Lily pads floated on the pond.",
        "Monday looked bad.",
    ],
)
def test_what_cannot_be_counted_is_nobody(text):
    assert not cast(text)


@pytest.mark.parametrize("name", "Ben Ruby Moss Pip Fox Jack Grace Biscuit".split())
@pytest.mark.parametrize(
    "text",
    [
        "{} and the goose sat down on the bench. {} and the goose ran home.",
        "{}'s hat blew away. {} ran after it.",
        "My name is {}. I live in a tower.",
        "“Where is {}?” asked Tom. {} was under the bed.",
    ],
)
def test_who_is_told_of_with_others_by_what_they_own_or_in_what_is_said_is_somebody(name, text):
    assert name in cast(text.replace("{}", name))


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("May", "May sat down. Then May laughed."),
        ("May", "“Hello,” said May. May waved."),
        ("June", "June and Tom ran. June won."),
        ("April", "April and her brother sat down. April sneezed."),
        ("August", "August was a small boy. August liked snow."),
    ],
)
def test_a_month_that_does_what_no_time_does_is_somebody(name, text):
    assert name in cast(text)


@pytest.mark.parametrize(
    "text",
    [
        "In May Tom went to sea. May was warm. June came and June went.",
        "June brought rain. In June the roses bloomed. June passed.",
        "May the best one win. May you be happy. Tom bowed.",
        "On Monday Tom ran. Monday was long.",
        "It was April. April rain fell on the roof. Tom yawned.",
        "Will the rain stop? Will it snow? asked Tom.",
    ],
)
def test_a_month_that_comes_and_goes_is_nobody(text):
    assert cast(text) <= {"Tom"}


@pytest.mark.parametrize(
    "text",
    [
        "Snow and the frozen lake lay behind them. Tom shivered.",
        "Smoke and the smell of soup came out. Tom sniffed.",
        "Summer's days are long. Summer went.",
        "“We are going to Berlin,” said Tom. Berlin was hot.",
    ],
)
def test_what_is_told_of_with_things_and_places_is_nobody(text):
    assert cast(text) <= {"Tom"}


def test_he_and_she_are_who_mostly_have_the_name():
    assert people("Peter and Ruby went to the lake. He swam. She sang.") == [{"Peter", "Ruby"}, {"Peter"}, {"Ruby"}]
    assert people("Ruby laughed. Peter came in. She sat down.")[-1] == {"Ruby"}
    assert people("Lily gave Max a hat. He put it on.")[-1] == {"Max"}


def test_what_the_text_tells_counts_for_more_than_the_name():
    assert people("Sam laughed. She ran.")[-1] == {"Sam"}
    assert people("Peter came. She laughed.")[-1] == {"Peter"}


def test_a_name_that_both_have_leans_to_neither():
    assert first_names()["ruby"] == "f"
    assert first_names()["peter"] == "m"
    assert first_names()["robin"] == ""


def test_a_priest_and_a_guest_are_no_comparisons():
    assert people("A priest laughed. Three guests ran.") == [{"priest"}, {"guests"}]
    assert people("Three brothers set out. The eldest slept.")[-1] == {"eldest brother"}
