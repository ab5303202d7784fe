"""German, French and Spanish by their closed classes: who is named, who speaks, whom a pronoun means, and how a picture of it is told."""

import pytest

from juxtaform.core.text.breakdown import breakdown, called
from juxtaform.core.text.candidates import discovered, story_of
from juxtaform.core.text.languages import FRENCH
from juxtaform.core.text.names import Named
from juxtaform.core.text.plain.asides import parted
from juxtaform.formats import fountain, prose

GERMAN = (
    "Am Rand der Stadt wohnte Herr Dachs mit seiner Katze, die Minka hieß. Herr Dachs hatte einen Garten. Jeden Morgen grub er darin.\n\n"
    "»Guten Morgen«, sagte eine Wolke. »Wo ist der Mond?«\n\n»Im Teich«, brummte Herr Dachs.\n\nDie Katze schlief."
)
FRENCH_TEXT = (
    "Tante Odile gardait un nuage dans sa baignoire, et Basile ne le savait pas.\n\n"
    "« Il grandit, dit Basile. Il est énorme. »\n\n— Il boit beaucoup, répondit-elle.\n\nLa tante rit. Elle ouvrit la fenêtre de la ville de Basile."
)
SPANISH = (
    "En la escuela nueva entró la señorita Olmo con una caja. Después llegó un ciempiés. Se llamaba Anselmo.\n\n"
    "—Buenos días —dijo Anselmo—. Yo quiero cien.\n\n—¿Cien? —preguntó la señorita Olmo.\n\nAnselmo miró a la señorita. Sonrió."
)


def names(text, kind="character"):
    return {c.name: set(c.aliases) for c in discovered(prose.read(text)) if c.kind == kind and c.sure}


def shots(text, read=prose.read):
    return [s for scene in breakdown(read(text)) for s in scene.shots]


def lines(text):
    return [(line.speaker.removeprefix("new:"), line.words) for s in shots(text) for line in s.lines]


def test_titles_belong_to_names_and_words_of_naming_tell_whose_they_are():
    german, french, spanish = names(GERMAN), names(FRENCH_TEXT), names(SPANISH)
    assert set(german) == {"Herr Dachs", "Minka", "Wolke"}
    assert "Dachs" in german["Herr Dachs"]
    assert "Katze" in german["Minka"]
    assert {"Tante Odile", "Basile"} <= set(french)
    assert "tante" in french["Tante Odile"]
    assert set(spanish) == {"Señorita Olmo", "Anselmo"}
    assert "ciempiés" in spanish["Anselmo"]


def test_who_speaks_is_told_by_what_stands_behind_the_words():
    assert lines(GERMAN) == [
        ("Wolke", "Guten Morgen"),
        ("Wolke", "Wo ist der Mond?"),
        ("Herr Dachs", "Im Teich"),
    ]
    assert lines(FRENCH_TEXT) == [
        ("Basile", "Il grandit"),
        ("Basile", "Il est énorme."),
        ("Tante Odile", "Il boit beaucoup"),
    ]
    assert lines(SPANISH) == [
        ("Anselmo", "Buenos días"),
        ("Anselmo", "Yo quiero cien."),
        ("Señorita Olmo", "¿Cien?"),
    ]


def cast_of(text, words):
    """Who is in the picture that holds some words."""
    at = text.index(words)
    return next({c.removeprefix("new:") for c in s.cast} for s in shots(text) if s.start <= at < s.end)


def test_pronouns_and_deeds_that_nobody_is_named_for_mean_who_was_told_of_last():
    assert "Herr Dachs" in cast_of(GERMAN, "Jeden Morgen grub er")
    assert "Tante Odile" in cast_of(FRENCH_TEXT, "Elle ouvrit")
    assert "Anselmo" in cast_of(SPANISH, "Sonrió")
    assert cast_of(GERMAN, "Die Katze schlief") >= {"Minka"}


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Pia lief zum Fenster. Im Hof stand Olli.\n\n»Komm!«, rief Pia.", "Pia spricht."),
        ("Zoé courut à la fenêtre, et Noé dormait.\n\n— Viens ! cria Zoé.\n\n— Non, dit Noé.\n\n— Viens, dit Zoé.", "Zoé parle."),
        ("Corrió Eva a la ventana, y Noé dormía.\n\n—¡Ven! —gritó Eva.\n\n—No —dijo Noé.\n\n—Ven —dijo Eva.", "Eva habla."),
    ],
)  # fmt: skip
def test_a_picture_of_somebody_who_speaks_is_told_in_the_texts_language(text, told):
    shown = [s.shows for s in shots(text)]
    assert told in shown or any(told.split()[0] in s for s in shown)
    assert not any("speaks" in s or "Somebody" in s for s in shown)


def test_a_pronoun_gives_way_to_the_name_unless_it_means_several():
    text = "Der Regen fiel. Im Garten saß Fritzi auf einem Stein. Dann nieste er laut und lange. Daneben saß Minka. Am nächsten Tag gingen sie zum Markt. Auf dem Markt verlor Fritzi eine Socke, und Minka fand sie."
    shown = " ".join(s.shows for s in breakdown(prose.read(text), wanted=6)[0].shots)
    assert "nieste Fritzi" in shown
    assert "gingen sie" in shown


def test_nouns_with_a_capital_and_what_lies_behind_towards_are_nobody():
    text = "Lene goss zwei Tassen Tee ein. Der Tee war heiß, und Lene pustete. Morgen fuhr sie nach Bremen. In Bremen trank Lene wieder eine Tasse Tee."
    assert set(names(text)) == {"Lene"}
    french = "Un jour, Ada partit. Elle vivait en Bretagne avec Lou, au premier étage, et Lou aimait en Bretagne le vent. Ada aussi."
    assert set(names(french)) == {"Ada", "Lou"}


def test_what_tells_who_speaks_is_taken_out_of_the_words():
    text = "— Maman, regarde ! cria-t-il. Le chat dort."
    assert [text[a:b] for a, b in parted(text, 0, len(text), FRENCH.grammar)] == ["— Maman, regarde !", "Le chat dort."]
    question = "Et Paul, va-t-il venir ?"
    assert [question[a:b] for a, b in parted(question, 0, len(question), FRENCH.grammar)] == [question]


@pytest.mark.parametrize(
    ("heading", "place", "time"),
    [
        ("INT. KÜCHE - NACHT", "Küche", "night"),
        ("EXT. DACH - MORGEN", "Dach", "morning"),
        ("INT. CUISINE - JOUR", "Cuisine", "day"),
        ("EXT. PLAYA - NOCHE", "Playa", "night"),
    ],
)
def test_headings_tell_place_and_time(heading, place, time):
    words = {
        "K": "ANNA\nIch bin hier, und der Hund ist nicht da.\n\nSie setzt sich auf den Stuhl und wartet.",
        "D": "ANNA\nIch bin hier, und der Hund ist nicht da.\n\nSie setzt sich auf den Stuhl und wartet.",
        "C": "ANNA\nJe suis là, et le chien est dans la rue.\n\nElle est sur une chaise et ne dit rien.",
        "P": "ANNA\nEstoy en la casa, y el perro no está con ella.\n\nElla se sienta en una silla y espera.",
    }[place[0]]
    text = f"{heading}\n\n{words}"
    scene = breakdown(fountain.read(text))[0]
    assert scene.places == (f"new:{place}",)
    assert scene.time == time
    assert all(s.places == scene.places and s.time == time for s in scene.shots)
    assert {c for s in scene.shots for c in s.cast} == {"new:Anna"}


def test_speeches_that_one_pair_of_marks_holds_are_all_heard():
    text = "Ninon regarda le phoque, et Guy ne dit rien.\n\n« Est-ce qu'il mord ? demanda Ninon.\n\n— Seulement les facteurs », répondit Guy."
    assert lines(text) == [("Ninon", "Est-ce qu'il mord ?"), ("Guy", "Seulement les facteurs")]


def test_who_is_a_thread_already_is_nobody_new_and_is_meant_by_pronouns_too():
    known = [Named("o", "Tante Odile", ("Odile",)), Named("b", "Basile")]
    assert discovered(prose.read(FRENCH_TEXT), known) == []
    told = breakdown(prose.read(FRENCH_TEXT), known)
    assert {c for scene in told for s in scene.shots for c in s.cast} == {"o", "b"}
    assert [line.speaker for scene in told for s in scene.shots for line in s.lines] == ["b", "b", "o"]


def test_a_list_sets_nobody_beside_anybody():
    german = "Lene nahm den Hut, den Mantel, die Tasche. Lene ging, und der Hut blieb nicht im Haus. Da lag die Tasche, und auch der Mantel."
    assert names(german) == {"Lene": {"LENE"}}
    french = (
        "Ada, la dame, Lou et le chat partirent. Ada chantait. Dans la rue, Lou dansait avec Ada, et le chat dormait."
    )
    assert not {"dame", "chat"} & (names(french)["Ada"] | names(french)["Lou"])


def test_whoever_is_called_so_with_a_title_is_one_and_a_girl_is_told_with_her_article():
    german = (
        "Der Wärter Hinnerk hatte eine Ziege. Die Ziege hieß Frau Petersen. Hinnerk lachte. »Mäh«, sagte Frau Petersen."
    )
    found = {c.name: set(c.aliases) for c in discovered(prose.read(german))}
    assert "Ziege" in found["Frau Petersen"]
    assert "Frau" not in found
    french = "« Combien ? » demanda une petite fille. Le nuage toussa sur la petite fille. « Comment s'appelle-t-il ? » demanda la petite fille."
    assert called(Named("f", "fille"), french, FRENCH) == "la fille"


@pytest.mark.parametrize(
    "text",
    [
        "Es war ein warmer Tag, und der Wind kam vom Meer. Mia saß im Garten. Sie lachte.",
        "Il faisait chaud ce jour-là, et le vent venait de la mer. Mia s'assit dans le jardin. Elle arriva.",
        "Hacía calor aquel día, y el viento venía del mar. Mia se sentó en el jardín. Ella reía.",
    ],
)
def test_a_first_name_that_is_known_is_somebody_the_first_time(text):
    pieces = story_of(prose.read(text)).pieces(0)
    assert pieces[1].people == ("new:Mia",)
    assert pieces[2].people == ("new:Mia",)
