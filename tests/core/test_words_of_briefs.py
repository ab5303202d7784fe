"""What a shot's words say: who is to be seen, which colours, times and weathers fight a reference, what speaks of style."""

import pytest

from juxtaform.core.brief.contradictions import (
    Worded,
    colour_fights,
    time_fights,
    weather_fights,
    worded_colours,
)
from juxtaform.core.brief.lacking import missing_features
from juxtaform.core.brief.stylewords import BARE_GROUND, PATTERN, contradictions, disagree, families_of, style_words
from juxtaform.core.text.candidates import story_of
from juxtaform.core.text.names import Named
from juxtaform.formats import prose
from tests.briefs.rowing import CAST, CAST_OF_WORDS, GOOSE, MIRA, TOMAS, member, read


@pytest.mark.parametrize(
    ("text", "seen"),
    [
        ("Mira and Tomas row.", "mt"),
        ("The pilot climbs out.", "m"),
        ("Mira's hand on the rope.", "m"),
        ("Mira’s boots in the doorway.", "m"),
        ("Mira's bicycle against the wall.", ""),
        ("Tomas’ old hat on a nail.", ""),
        ("A letter from Tomas on the table.", ""),
        ("The portrait of Tomas over the stove.", ""),
        ("Greta waits for Mira.", "g"),
        ("Greta without Mira.", "g"),
        ("Mira thinks of Tomas.", "m"),
        ("Mira has left; Greta looks up.", "g"),
        ("Tomas is gone, only Greta is there.", "g"),
        ("Mira in the barn, the lamp in her hand.", "mbl"),
        ("Mira looks over at the barn.", "m"),
        ("On the way to the barn, Mira slips.", "m"),
        ("Inside the barn: Tomas asleep.", "bt"),
        ("Nobody. Rain on the window.", ""),
        ("A map of the barn, and Mira’s finger on it.", "m"),
        ("Mira and the lamp.", "ml"),
    ],
)
def test_who_is_to_be_seen_by_a_shot_s_words(text, seen):
    assert set(read(text).seen) == set(seen)


@pytest.mark.parametrize(("text", "attached", "unspoken"), CAST_OF_WORDS)
def test_for_whom_nothing_in_the_words_stands(text, attached, unspoken):
    assert {m.id for m in read(text).unspoken([CAST[k] for k in attached])} == set(unspoken)


def test_a_mention_is_underlined_where_somebody_is_to_be_seen_first():
    told = read("A letter from Tomas; Tomas opens it.")
    key, start, end = told.spans["t"][0]
    assert (key, "A letter from Tomas; Tomas opens it."[start:end], start) == ("action", "Tomas", 21)


@pytest.mark.parametrize(
    ("wording", "colours"),
    [
        ("red scarf, black hair", (("scarf", "red"), ("hair", "black"))),
        ("a mustard oilskin coat", (("coat", "mustard"),)),
        ("eyes of blue", ()),
        ("a coat, red with age", ()),
        ("green and white striped socks", (("socks", "white"),)),
        ("no colours at all", ()),
        ("a plum-coloured shawl", (("shawl", "plum"),)),
    ],
)
def test_the_colours_that_a_wording_gives_to_things(wording, colours):
    assert worded_colours(wording) == colours


@pytest.mark.parametrize(
    ("text", "fights"),
    [
        ("Mira in her red scarf.", []),
        ("Mira in her blue scarf.", ["blue scarf"]),
        ("Mira, her scarf green in the lamplight.", []),
        ("Mira's scarf is green.", ["scarf is green"]),
        ("Tomas, grey-bearded, on a red stool.", []),
        ("Tomas strokes his black beard.", []),
        ("Tomas strokes his red beard.", ["red beard"]),
        ("Tomas in a navy coat.", []),
        ("A yellow door.", []),
        ("Mira winds the crimson scarf twice.", []),
        ("Tomas hands Mira a green apple.", []),
        ("Mira pulls the white scarf tight.", ["white scarf"]),
    ],
)
def test_colour_words_fight_only_the_part_that_they_stand_by(text, fights):
    worded = [Worded.of(CAST["m"]), Worded.of(CAST["t"])]
    assert [f.words for f in colour_fights(text, worded)] == fights


def test_traits_and_costumes_speak_before_the_usual_wording():
    usual = Worded.of(CAST["m"], [("boots", "green")])
    assert [f.expected for f in colour_fights("Mira in red boots.", [usual])] == ["green boots"]
    dressed = Worded.of(
        member("m", "character", "Mira", CAST["m"].wording, costume="Sunday", costume_wording="a white dress")
    )
    assert list(colour_fights("Mira in a white dress, black hair loose.", [dressed])) == []
    assert [f.words for f in colour_fights("Mira in a black dress.", [dressed])] == ["black dress"]
    assert [f.words for f in colour_fights("Mira in her red scarf.", [dressed])] == ["red scarf"]


NIGHT = Worded.of(member("n", "setting", "Quay at night", "A stone quay in the rain."))
ANY = Worded.of(member("n", "setting", "Quay", "A stone quay."))


@pytest.mark.parametrize(
    ("text", "times", "weathers"),
    [
        ("Mira on the quay.", [], []),
        ("Mira on the quay at noon.", ["noon"], []),
        ("Mira at dusk, in bright sunshine.", ["dusk"], ["sunshine"]),
        ("Midnight. Rain.", [], []),
        ("Mira in her night-shirt.", [], []),
        ("Mira says good morning.", [], []),
        ("Mira remembers last evening.", [], []),
        ("Fog over the quay.", [], []),
        ("Thunder and rain.", [], []),
        ("Snow on the quay.", [], ["Snow"]),
    ],
)
def test_times_and_weathers_fight_the_place_as_it_is_shown(text, times, weathers):
    assert [said for _, _, said, _ in time_fights(text, NIGHT)] == times
    assert [said for _, _, said, _ in weather_fights(text, NIGHT)] == weathers
    assert list(time_fights(text, ANY)) == list(weather_fights(text, ANY)) == []


@pytest.mark.parametrize(
    ("text", "gone"),
    [
        ("Mira without her scarf.", ["without her scarf"]),
        ("Mira in her scarf.", []),
        ("Mira has lost her scarf.", ["has lost her scarf"]),
        ("Mira without Tomas.", []),
    ],
)
def test_words_that_take_away_what_somebody_is_never_without(text, gone):
    assert [text[a:b] for a, b, _ in missing_features(text, ("red scarf",))] == gone


@pytest.mark.parametrize(
    ("text", "families"),
    [
        ("In watercolour.", ["watercolour"]),
        ("A flat, cut-paper picture.", ["flat", "paper"]),
        ("An ink bottle on a flat stone.", []),
        ("Her pencil behind her ear.", []),
        ("A photograph on the wall.", []),
        ("Drawn in ink, black and white.", ["ink", "monochrome"]),
        ("As a photograph, sharp and detailed.", ["photograph", "crisp", "detailed"]),
        ("She flattens the dough.", []),
        ("A sharp knife.", []),
        ("An oil lamp.", []),
        ("An oil painting in muted colours.", ["oil", "muted"]),
    ],
)
def test_words_of_style_are_told_from_things_of_that_name(text, families):
    assert [f for *_, f in style_words(text)] == families
    for start, end, _ in style_words(text):
        assert text[start:end] == text[start:end].strip()


@pytest.mark.parametrize(
    ("words", "pairs"),
    [
        ("flat, shaded", [("flat", "modelled")]),
        ("flat, cut-paper, few outlines", []),
        ("monochrome, vivid", [("monochrome", "colourful")]),
        ("minimal, ornate", [("simple", "detailed")]),
        ("watercolour, soft-edged, muted", []),
        (
            "photorealistic watercolour, pixel-art",
            [("photograph", "watercolour"), ("photograph", "pixel"), ("watercolour", "pixel")],
        ),
        ("", []),
    ],
)
def test_words_that_cannot_both_hold(words, pairs):
    assert contradictions(families_of(words)) == pairs


@pytest.mark.parametrize(
    ("said", "hue", "against"),
    [
        ("red", "red", False),
        ("crimson", "red", False),
        ("copper", "red", False),
        ("olive", "blue", True),
        ("navy", "blue", False),
        ("silver", "white", False),
        ("black", "white", True),
        ("ginger", "orange", False),
        ("plum", "green", True),
    ],
)
def test_near_hues_are_one_to_the_eye(said, hue, against):
    assert disagree(said, hue) is against


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("A striped shirt.", True),
        ("A plaid blanket.", True),
        ("A checked floor.", True),
        ("She checked the door.", False),
        ("Spotted by the guard.", False),
        ("A floral apron", True),
        ("A plain coat.", False),
    ],
)
def test_patterns_of_cloth_are_told_from_deeds(text, found):
    assert bool(PATTERN.search(text)) is found


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Mira on a plain white background.", "on a plain white background"),
        ("Mira, front view, T-pose.", "front view"),
        ("Mira in the background.", ""),
        ("Isolated on white.", "Isolated on white"),
        ("Mira against a white wall.", ""),
        ("A model sheet of Mira.", "model sheet"),
    ],
)
def test_words_of_a_reference_picture_are_found(text, found):
    m = BARE_GROUND.search(text)
    assert (m.group() if m else "") == found


def by_pronoun(*sentences, threads=(MIRA, TOMAS, GOOSE), heading=False):
    """Who each sentence's pronouns name."""
    text = ("\n\n# Later\n\n" if heading else " ").join(sentences)
    manuscript = prose.read(text)
    story = story_of(manuscript, tuple(threads))
    pieces = [p for i, _ in enumerate(manuscript.scenes()) for p in story.pieces(i)]
    return [[m.id for m in p.mentions if m.pronoun] for p in pieces]


@pytest.mark.parametrize(
    ("sentences", "told"),
    [
        (("Mira rows.", "She is tired."), [[], ["m"]]),
        (("Mira and Tomas row.", "They are tired."), [[], ["m", "t"]]),
        (("Tomas calls Mira.", "She waves at him."), [[], ["m", "t"]]),
        (("She is tired.",), [[]]),
        (
            ("Mira rows.", "A gull cries.", "It rains.", "Wind.", "Night.", "Nothing else.", "She sleeps."),
            [[], [], [], [], [], [], ["m"]],
        ),
    ],
)
def test_a_pronoun_names_who_was_named_last_and_fits(sentences, told):
    sided = (Named("m", "Mira", ("the girl",)), Named("t", "Tomas", ("the old man",)), GOOSE)
    assert by_pronoun(*sentences, threads=sided) == told


def test_a_pronoun_does_not_reach_over_a_heading():
    assert by_pronoun("Mira rows.", "She is tired.", threads=(MIRA,)) == [[], ["m"]]
    assert by_pronoun("Mira rows.", "She is tired.", threads=(MIRA,), heading=True) == [[], []]
