"""Clauses of a shot's words: how they speak of somebody, what no picture shows, how many deeds; and how a brief says things."""

import pytest

from juxtaform.core.brief.clauses import standing
from juxtaform.core.brief.clothes import garments, is_garment, tells_of, without_clothes
from juxtaform.core.brief.compose import Member
from juxtaform.core.brief.deeds import deeds_of_one_body, described_strangers
from juxtaform.core.brief.light import on_figures
from juxtaform.core.brief.saying import clothed, hold_words, none_of, the, told_of, where_of
from juxtaform.core.brief.words import read_words
from juxtaform.core.text.listing import listed
from tests.briefs.clauses import CLAUSES

NAMES = frozenset(["Ada", "Bo", "May", "Rose"])


def words(text):
    return read_words(text, NAMES)


def stands(text, name, kind="character"):
    start = text.index(name)
    return standing(words(text), start, start + len(name), kind)


@pytest.mark.parametrize(
    ("text", "name", "told"),
    [
        ("Ada rows.", "Ada", "seen"),
        ("Bo rows beside Ada.", "Ada", "seen"),
        ("Ada's hand lies on the rope.", "Ada", "seen"),
        ("Ada's hat lies on the rope.", "Ada", "absent"),
        ("Ada's hat is on fire.", "Ada", "owner"),
        ("Bo waits for Ada.", "Ada", "absent"),
        ("Bo asks Ada why it rains.", "Ada", "seen"),
        ("Bo asks for Ada.", "Ada", "absent"),
        ("Bo begs Rose to let Ada go.", "Ada", "spoken of"),
        ("Bo begs Rose, and Ada goes.", "Ada", "seen"),
        ("Ada's tracks lead to the sea.", "Ada", "absent"),
        ("Rings spread on the water where Ada sank.", "Ada", "spoken of"),
        ("Bo makes room for Ada.", "Ada", "seen"),
        ("The letter is for Ada.", "Ada", "spoken of"),
        ("Ada's boot fills the sky.", "Ada", "seen"),
        ("Ada's sandal fills the sky.", "Ada", "seen"),
        ("Somewhere out there Ada is calling.", "Ada", "spoken of"),
        ("On the wall a painted Ada, rowing.", "Ada", "absent"),
        ("Bo puts a bun on the sill for Ada.", "Ada", "spoken of"),
        ("Bo holds the chair for Ada.", "Ada", "seen"),
        ("Where Ada has passed, the smoke is frozen.", "Ada", "spoken of"),
        ("Ada has lost a boot where the path ends.", "Ada", "seen"),
        ("Bo talks about Ada.", "Ada", "absent"),
        ("Bo calls to Ada.", "Ada", "spoken of"),
        ("Bo wishes that Ada were here.", "Ada", "absent"),
        ("Bo remembers how Ada sang.", "Ada", "absent"),
        ("A portrait of Ada hangs there.", "Ada", "absent"),
        ("On the poster Ada rides a bear.", "Ada", "absent"),
        ("The children have drawn Ada on the wall.", "Ada", "absent"),
        ("The photograph shows Ada.", "Ada", "absent"),
        ("Ada is gone.", "Ada", "gone"),
        ("Ada does not come.", "Ada", "absent"),
        ("The hat is gone, and so is Ada.", "Ada", "absent"),
        ("Without Ada the boat is light.", "Ada", "absent"),
        ("Everybody laughs except Ada.", "Ada", "spoken of"),
        ("Bo laughs like Ada.", "Ada", "absent"),
        ("Bo waits until Ada comes back.", "Ada", "absent"),
        ("Neither Ada nor Bo dares to move.", "Ada", "seen"),
        ("Bo sees Ada far down the road.", "Ada", "spoken of"),
        ("A letter from Ada lies there.", "Ada", "absent"),
        ("In May the hills are white.", "May", "no name"),
        ("It is May.", "May", "no name"),
        ("April showers fall on the wagons.", "April", "no name"),
        ("April rows and hums.", "April", "seen"),
        ("May sits on the hill.", "May", "seen"),
        ("“That is Ada’s hat,” says Bo.", "Ada", "spoken of"),
        ("“Good night,” says Ada.", "Ada", "seen"),
        ("Bo kisses “Ada”.", "Ada", None),
        ("“Ada!” shouts Bo.", "Ada", "spoken of"),
        ("Where is Ada? Bo looks up.", "Ada", "spoken of"),
        ("Where is Bo? Ada looks up.", "Ada", "seen"),
        ("Snapshots on the wall: Ada as a baby, Ada with a fish.", "Ada", "absent"),
        ("Ada rows over the bay.", "rows", "no name"),
    ],
)
def test_how_words_speak_of_somebody(text, name, told):
    assert stands(text, name) == told


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Ada sits in the barn.", "seen"),
        ("Ada runs into the barn.", "seen"),
        ("Ada looks at the barn.", "absent"),
        ("Ada points to the barn.", "absent"),
        ("Ada thinks of the barn.", "absent"),
        ("A painting of the barn hangs there.", "absent"),
        ("The barn is far off, a dot.", "absent"),
        ("Ada hides behind the barn.", "spoken of"),
        ("Ada draws on the barn door.", "spoken of"),
        ("Where the barn once stood there is only grass.", "absent"),
        ("“I was in the barn,” says Ada.", "no name"),
    ],
)
def test_how_words_speak_of_a_place(text, told):
    assert stands(text, "barn", "setting") == told


@pytest.mark.parametrize(("text", "told"), CLAUSES)
def test_what_no_picture_shows(text, told):
    found = [text[a:b] for a, b, _ in words(text).unseen]
    assert found == ([told] if told else [])


@pytest.mark.parametrize(
    ("text", "count"),
    [
        ("Ada drops the oar, grabs the rail and falls.", 3),
        ("Ada pulls and groans and pulls.", 1),
        ("Ada rows, Bo sings and Rose sleeps.", 1),
        ("Ada sits and watches the sea.", 1),
        ("Ada opens the door and runs out.", 2),
    ],
)
def test_deeds_of_one_body_are_counted_and_what_goes_on_is_not(text, count):
    assert deeds_of_one_body(words(text)) == count


def test_strangers_who_are_described_are_told_and_those_that_a_thread_holds_are_not():
    text = "A man in a top hat with a parrot under his arm steps on board."
    assert [text[a:b] for a, b in described_strangers(words(text), frozenset())] == [
        "A man in a top hat with a parrot under his arm"
    ]
    several = "Three old women with black umbrellas argue over a carpet."
    assert [several[a:b] for a, b in described_strangers(words(several), frozenset())] == [
        "Three old women with black umbrellas"
    ]
    assert not list(described_strangers(words("Old women with black umbrellas argue."), frozenset()))
    assert not list(described_strangers(words(text), frozenset(["man"])))
    assert not list(described_strangers(words("A man sits there."), frozenset()))
    assert not list(described_strangers(words("The man in the top hat sits there."), frozenset()))


@pytest.mark.parametrize(
    ("wording", "bare"),
    [
        ("Oda: a white plait, a plum shawl, round spectacles.", "Oda: a white plait, round spectacles."),
        ("Juno: silver suit, short grey hair.", "Juno: short grey hair."),
        ("A tall woman in a green coat with brass buttons.", "A tall woman."),
        ("Mira wears a red scarf and has black hair.", "Mira has black hair."),
        ("Bruno, an old brown bear.", "Bruno, an old brown bear."),
        ("Ari: a blue jumper.", "Ari."),
    ],
)
def test_a_wording_without_its_clothes(wording, bare):
    assert without_clothes(wording) == bare


def test_clothes_and_things_are_known_by_their_nouns():
    assert garments("green boots, a straw hat and a grey beard") == ("boots", "hat")
    assert not is_garment("lantern")
    assert tells_of("a tin whistle on a cord", "Whistle")
    assert not tells_of("a whistled tune", "Whistle")


def test_names_and_wordings_are_said_without_labels():
    key = Member("k", "prop", "Tide key", "A long iron key.")
    steps = Member("s", "setting", "Harbour steps", "Stone steps.", hold="place")
    pell = Member("p", "character", "Pell", "copper hair, green boots")
    assert (the(key), the(steps, first=False), the(pell)) == ("The tide key", "the harbour steps", "Pell")
    assert told_of(key, key.wording) == "The tide key is a long iron key."
    assert told_of(steps, steps.wording) == "The place is the harbour steps: stone steps."
    assert told_of(pell, pell.wording) == "Pell has copper hair, green boots."
    assert told_of(steps, "") == "The place is the harbour steps."


@pytest.mark.parametrize(
    ("member", "said"),
    [
        (Member("p", "character", "Pell", costume="night-shirt"), "Pell wears the night-shirt."),
        (
            Member("p", "character", "Pell", costume="n", costume_wording="A white night-shirt."),
            "Pell wears a white night-shirt.",
        ),
        (Member("p", "character", "Pell", costume="n", costume_wording="Dressed in white."), "Dressed in white."),
        (Member("s", "setting", "Quay", costume="dusk", costume_wording="in the blue hour"), "In the blue hour."),
    ],
)
def test_what_is_worn_is_a_sentence(member, said):
    assert clothed(member) == said


@pytest.mark.parametrize("hold", ["figure", "face", "outfit", "light", "layout"])
def test_a_hold_points_to_its_pictures_and_names_no_number(hold):
    said = hold_words(Member("p", "character", "Pell", hold=hold))
    assert said.count("{}") == 1
    assert "%" not in said


def test_small_sentences():
    assert none_of(["lettering", "without cars"]) == "no lettering, no cars"
    assert listed(["one"]) == "one"
    assert where_of((0.6, 0.7, 0.35, 0.25)) == "in the lower right"
    assert where_of((0.0, 0.0, 0.3, 1.0)) == "on the left"
    assert on_figures("a lamp room") == ""
    assert "dark" in on_figures("at night, in rain")
    assert "shadows" in on_figures("a sunny square")


@pytest.mark.parametrize("text", ["Armand réfléchit.", "Selma rennt.", "Severino duerme."])
def test_a_few_words_that_english_does_not_know_are_not_read_as_english(text):
    assert not read_words(text, frozenset()).sentences
    assert read_words("Armand thinks and waits.", frozenset()).sentences
