"""Things of a story: what is picked up, carried and hidden is a prop, whatever else the word means."""

import pytest

from juxtaform.core.text.candidates import discovered
from juxtaform.formats import prose

THINGS = "key ring coin ticket postcard feather egg apple parcel crown pen kettle box bicycle boat arrow whistle diary medal balloon chest seed truck kite"


def kinds(text):
    return {c.name: c.kind for c in discovered(prose.read(text)) if c.sure}


@pytest.mark.parametrize("thing", THINGS.split())
def test_what_is_carried_about_is_a_prop(thing):
    a = "an" if thing[0] in "aeiou" else "a"
    text = f"Tom found {a} {thing} in the grass. He picked up the {thing} and carried it home. Mia looked at the {thing}. Tom hid the {thing}."
    assert kinds(text)[thing] == "prop"


@pytest.mark.parametrize(
    ("text", "place"),
    [
        ("Tom sat in the boat. He rowed the boat across. In the boat it was wet.", "boat"),
        ("Tom lived in a barrel. He rolled the barrel down the hill. In the barrel it was dark.", "barrel"),
    ],
)
def test_what_somebody_is_in_is_a_place(text, place):
    assert kinds(text)[place] == "setting"


def test_what_is_taken_and_cannot_be_held_is_none():
    assert not [
        n for n, k in kinds("Tom took a breath. Mia held her breath. Tom took a breath again.").items() if k == "prop"
    ]


def test_his_hands_are_no_props():
    assert "hand" not in kinds("Tom took his hand away. He hid his hands. Mia held her hand out.")
