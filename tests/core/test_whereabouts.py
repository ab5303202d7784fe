"""Where a story goes, and what speaks for a new picture."""

from __future__ import annotations

import pytest

from juxtaform.core.text import moments as m
from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import story_of
from juxtaform.core.text.english import whereabouts as w
from juxtaform.core.text.english.sentences import Read
from juxtaform.core.text.english.story import Story
from juxtaform.formats import prose


def places(text: str) -> list[str]:
    """The place at each sentence."""
    manuscript = prose.read(text)
    story = story_of(manuscript)
    return [p.place.removeprefix("new:") for i, _ in enumerate(manuscript.scenes()) for p in story.pieces(i)]


def reads(text: str) -> list[Read]:
    return [r for _, parts in Story(prose.read(text)).scenes for r in parts if isinstance(r, Read)]


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Mina sat in the kitchen. She sang. Then she ran into the garden.", ["kitchen", "kitchen", "garden"]),
        ("Mina stood in the barn. She took her hat from the chair.", ["barn", "barn"]),
        ("Mina waited at the station. She did not go to the market.", ["station", "station"]),
        ("Mina waited at the station. She would have gone to the market.", ["station", "station"]),
        ("Mina waited at the station. She dreamed of the beach.", ["station", "station"]),
        (
            "Mina sat in the shop. Her finger followed the road on the map, down to the harbour.",
            ["shop", "shop"],
        ),
        ("Mina waited in the yard. They looked in the bicycle shed.", ["yard", "bicycle shed"]),
        ("Mina sat in the cellar. A man sat on a barrel.", ["cellar", "cellar"]),
        ("Mina sat in the shop. It sighed like an uncle in an armchair.", ["shop", "shop"]),
        ("Mina sat in the shop. She listened to the whole story.", ["shop", "shop"]),
        ("Mina sat in the museum. She put a sandwich on the radiator.", ["museum", "museum"]),
        ("Mina sat in the barn. She slid down on her apron.", ["barn", "barn"]),
        ("Mina lived in the tower. Every spring she sang.", ["tower", "tower"]),
        ("In the lane stood a badger. In the cellar sat a mouse.", ["lane", "cellar"]),
        ("Mina sat in the kitchen. Outdoors a bell rang. She ran into the kitchen.", ["kitchen", "", "kitchen"]),
    ],
)
def test_a_story_goes_where_its_people_go(text, told):
    assert places(text) == told


def test_a_pronoun_behind_a_preposition_means_what_was_named_last_and_can_hold_somebody():
    mentions = w.Mentions()
    first, second = reads("Tove found an old telephone box. Every day Tove sat in it.")
    assert [(x.key, x.meant) for x in mentions.of(first) if "box" in x.key] == [("telephone box", False)]
    assert [x.key for x in mentions.of(second) if x.meant] == ["telephone box"]


def test_a_pronoun_without_anything_named_before_means_no_place():
    assert not [x for r in reads("Tove sat in it. It was Monday.") for x in w.Mentions().of(r) if x.meant]


@pytest.mark.parametrize(
    ("one", "other", "holds"),
    [
        ("room", "lamp room", True),
        ("lamp room", "room", True),
        ("back room", "front room", False),
        ("room", "", False),
        ("", "", True),
        ("broom", "room", False),
    ],
)
def test_two_names_of_one_place(one, other, holds):
    assert w.same(one, other) is holds


def test_a_script_s_heading_holds_and_a_chapter_s_may_be_left():
    script = "INT. KITCHEN - DAY\n\nMina runs into the garden. She sits in the garden."
    chapter = "# The kitchen\n\nMina ran into the garden. She sat down in the garden."
    assert [s.places for x in breakdown(prose.read(script)) for s in x.shots] == [("new:Kitchen",)]
    assert places(chapter)[-1] == "garden"


def test_weights_are_there_and_belong_to_terms_that_are_told():
    seen = w.around(reads("Mina sat in the kitchen."))
    (read,) = reads("Mina sat in the kitchen.")
    told = {name for x in w.Mentions().of(read) for name in w.terms(x, read, seen)}
    assert {"tie in", "sort room", "nowhere yet", "rests × in"} <= told & w.weights().keys()


def test_signs_of_a_new_picture():
    text = "Mina and Bo sat in the boat. Bo asked: “Is it far?” “Look,” said Ida. The boat sank."
    manuscript = prose.read(text)
    signs = m.scene_signs(story_of(manuscript).pieces(0))
    assert signs[0] == {}
    assert {"speech begins", "then speech"} - signs[1].keys() == {"then speech"}
    assert {"a question", "an answer"} <= signs[2].keys()
    assert {"speech ends", "a thing comes back"} - signs[3].keys() == {"a thing comes back"}
    assert all(value == 1.0 for found in signs for value in found.values())


def test_every_sign_that_says_something_may_be_weighed():
    assert not {name for name in m.WHY if name not in m.weights()} - {"the place is left", "no actor after actor"}


@pytest.mark.parametrize(("words", "cheaper"), [(22, 44), (22, 8), (30, 60), (16, 4)])
def test_a_moment_of_the_usual_length_costs_least(words, cheaper):
    assert m.price(words, 22) < m.price(cheaper, 22)
