"""How a text marks speech, found by looking at it, and texts in German, French, Spanish and other languages."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered, story_of
from juxtaform.core.text.languages import language_of
from juxtaform.core.text.speech import habit_of, said
from juxtaform.formats import prose


def spoken(text):
    return [text[a:b] for a, b in said(text, habit_of(text))]


@pytest.mark.parametrize(
    ("text", "marks", "words"),
    [
        ("“Come,” said Oda. “Now.”", "“ ”", ["“Come,”", "“Now.”"]),
        ('"Come," said Oda.', '" "', ['"Come,"']),
        ("‘It's the boys' boat,’ said Oda.", "‘ ’", ["‘It's the boys' boat,’"]),
        ("'Don't,' said Oda. 'It's mine.'", "' '", ["'Don't,'", "'It's mine.'"]),
        ("« Viens », dit Ana.", "« »", ["« Viens »"]),
        ("»Komm«, sagte Ana. »Jetzt.«", "» «", ["»Komm«", "»Jetzt.«"]),
        ("„Komm“, sagte Ana.", "„ “", ["„Komm“"]),
        ("„Chodź”, rzekła Ana.", "„ ”", ["„Chodź”"]),
        ("“I heard ‘no’,” said Oda.", "“ ”", ["“I heard ‘no’,”"]),
        ("“Come here\n\nOda waited. “Well?” she said.", "“ ”", ["“Come here", "“Well?”"]),
        ("The boys' boat wasn't Oda's.", "", []),
    ],
)
def test_speech_is_found_by_the_text_s_own_marks(text, marks, words):
    assert habit_of(text).words == marks
    assert spoken(text) == words


def test_lines_behind_dashes_are_speech_and_what_stands_between_two_is_told():
    text = "— ¿Dónde está? —preguntó Tomás— No lo veo.\n— Aquí —dijo Inés."
    assert habit_of(text).words == "— …"
    assert [w.strip(" —") for w in spoken(text)] == ["¿Dónde está?", "No lo veo.", "Aquí"]


GERMAN = (
    "Kapitel 1\n\nAm Morgen fand Merle den Schlüssel im Sand. „Opa!“, rief Merle. Der Hund Pauli kam aus dem Haus, und er war nass.\n\n"
    "In der Nacht leuchtete das Licht. Pauli schlief auf Merles Füßen, und Merle war auch nicht mehr wach."
)
FRENCH = "Chaque matin, Moka descendait au port avec Lucie. « Tu as faim ? » demanda Lucie. La nuit, le chat Moka dormait dans la barque de Lucie."
SPANISH = "— ¿Dónde está el sombrero? —preguntó Tomás.\n— En la cabeza del caballo —dijo Inés.\n\nEl caballo miró a Tomás. Por la noche Inés se fue."
RUSSIAN = (
    "Кот Мурзик сидел на окне. «Мама, Мурзик хочет гулять», — сказала Таня. Мурзик спрыгнул. Потом Таня надела пальто."
)


@pytest.mark.parametrize(
    ("text", "language", "names", "times"),
    [
        (GERMAN, "German", {"Merle", "Pauli"}, {"morning", "night"}),
        (FRENCH, "French", {"Moka", "Lucie"}, {"morning", "night"}),
        (SPANISH, "Spanish", {"Tomás", "Inés"}, {"night"}),
        (RUSSIAN, "", {"Мурзик", "Таня"}, set()),
    ],
)
def test_other_languages_are_read_by_their_names_and_no_english_rule(text, language, names, times):
    manuscript = prose.read(text)
    assert story_of(manuscript).language.name == language
    assert {c.name for c in discovered(manuscript)} == names
    shots = [s for scene in breakdown(manuscript) for s in scene.shots]
    assert times <= {s.time for s in shots} | {""}
    assert "".join(text[s.start : s.end] for s in shots).count("\n") <= text.count("\n")
    assert all(not s.places for s in shots)


def test_who_speaks_is_told_by_the_language_s_own_verbs():
    lines = [x for scene in breakdown(prose.read(SPANISH)) for s in scene.shots for x in s.lines]
    assert [x.speaker.removeprefix("new:") for x in lines] == ["Tomás", "Inés"]
    assert prose.read(GERMAN).passages[0].kind == "scene"


@pytest.mark.parametrize(
    "text",
    [
        "月の夜、うさぎのミミは森へ行きました。「だれ」とミミは言いました。",
        "ذهبت ليلى إلى البحر. قالت ليلى: نعم.",
        "🙂🙂🙂",
        "1 2 3",
        "—",
    ],
)
def test_any_script_goes_through_untouched(text):
    manuscript = prose.read(text)
    assert manuscript.text == text
    covered = "".join(text[s.start : s.end] for scene in breakdown(manuscript) for s in scene.shots)
    assert covered.split() == text.split() or covered == text


def test_a_text_of_few_words_is_english_unless_it_says_otherwise():
    assert language_of("Pell sits.").name == "English"
    assert language_of("").name == "English"
