"""Who may be in a picture without a word: who is in the pictures beside it, at the same place."""

import pytest

from juxtaform.core.plan import also_here as module
from juxtaform.core.plan.also_here import MOST_ASKED, Peopled, also_here, leaves_out_who_looks_on
from juxtaform.formats import prose


def story(*pictures):
    """Pictures as `who, who @ where: words`."""
    found = []
    for told in pictures:
        (cast, where), _, words = told.partition(":")[0].split("@"), "", told.partition(":")[2]
        found.append(Peopled(frozenset(cast.replace(",", " ").split()), where.strip(), words))
    return found


def test_who_is_before_and_behind_at_the_same_place_is_asked_about():
    asked = also_here(story("ada ben @ kitchen", "ada @ kitchen: Ada filled the bowls.", "ada ben @ kitchen"))
    assert asked == [(), ("ben",), ()]


@pytest.mark.parametrize(
    "pictures",
    [
        ["ada ben @ kitchen", "ada @ beach", "ada ben @ kitchen", "ada @ hill", "ada @ town", "ada @ pier"],
        ["ada @ kitchen", "ada @ kitchen", "ada ben @ kitchen"],
        ["ada @ kitchen"],
        [],
    ],
)
def test_who_is_elsewhere_or_not_yet_there_is_not_asked_about(pictures):
    assert not any("ben" in asked for asked in also_here(story(*pictures)))


def test_words_of_several_make_it_likelier():
    alone, several = (
        also_here(story("ada ben @ kitchen", f"ada @ kitchen: {words}", *["ada @ hill"] * 3, "ben @ pier"))
        for words in ("Ada laughed.", "Ada laughed with all of them.")
    )
    assert (alone[1], several[1]) == ((), ("ben",))


def test_few_are_asked_about_in_one_picture_and_nobody_who_is_in_it():
    asked = also_here(story("a b c d @ barn", "a @ barn", "a b c d @ barn", "d @ barn", "a b c d @ barn"))
    assert all(len(who) <= MOST_ASKED for who in asked)
    assert "a" not in asked[1]
    assert len(asked[1]) == MOST_ASKED


def test_a_long_story_costs_in_proportion(monkeypatch):
    looked = 0
    chance = module._chance

    def counted(*args):
        nonlocal looked
        looked += 1
        return chance(*args)

    monkeypatch.setattr(module, "_chance", counted)
    pictures = [Peopled(frozenset([f"hero {i // 10}", f"friend {i // 5}"]), i // 5, "") for i in range(400)]
    also_here(pictures[:40])
    few, looked = looked, 0
    also_here(pictures)
    assert looked < 12 * few


@pytest.mark.parametrize(
    ("text", "is_script", "asks"),
    [
        ("Ada sat in the kitchen and looked at the soup. Ben was hungry.", False, True),
        ("Ada saß in der Küche und sah die Suppe an. Ben hatte Hunger und wollte nicht warten.", False, False),
        ("Ada sat in the kitchen and looked at the soup. Ben was hungry.", True, False),
        ("PAGE ONE\n\nPanel 1. Ada sits in the kitchen.\n\nPanel 2. Ben comes in.\n", False, False),
    ],
)
def test_it_is_asked_in_english_stories_alone(text, is_script, asks):
    assert leaves_out_who_looks_on(prose.read(text), is_script=is_script) == asks
