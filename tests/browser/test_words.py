"""Words: what is read in a text and how sure it is; a brief as it is sent, of what moves, and by a template; words that a style's pictures say."""

from selenium.webdriver.common.keys import Keys

from juxtaform.studio import plan, projects, takes, threads
from tests.browser.test_accessible import faults
from tests.conftest import flat, plan_from, row, rows

KITTENS = (
    "The three kittens lived in a shoe box behind the bakery. Soot was black, Flour was white and Crumb was both. "
    "When the baker came out in the morning, Soot and Flour ran to his feet. Crumb stayed in the box and looked at a snail. "
    "“What is the matter with you?” asked the baker. He picked her up. Under the box there was a stair. "
    "The kittens ran down the stair into a long cellar, and at the end of it a lamp was burning. “Mum?” said Crumb. Far below somebody purred."
)


def test_a_text_tells_its_language_its_speech_its_groups_and_what_is_doubtful(page, project, ws):
    page.open(f"/p/{project}/story")
    page.write_story(KITTENS)
    page.see("English · speech in “ ”")
    page.until(lambda: "Soot, Flour, Crumb" in page.one("[data-candidate=kittens]").text, "the group's members")
    assert not page.all("[data-candidate=snail]")
    page.one("[data-doubtful]").click()
    page.until(lambda: "snail?" in page.one("[data-candidate=snail]").text, "what is offered")
    page.one("[data-propose]").click()
    page.until(lambda: page.all("[data-reason]"), "proposals with their reasons")
    with ws.writing(project, "doubt") as w:
        first, *rest = sorted(rows(ws, project, "shot"), key=lambda s: s["position"])
        w.session.get(plan.Shot, rest[-1]["id"]).sure = 0.3
    count = len(rest) + 1
    page.until(lambda: page.words_of("[data-accept-all]") == f"Accept {count - 1} of {count}", "what is sure")
    page.see("a new picture?")
    assert faults(page) == []
    page.one("[data-accept-all]").click()
    page.until(lambda: page.words_of("[data-accept-all]") == "Accept the last 1 too", "one is left to look at")
    assert {s["status"] for s in rows(ws, project, "shot") if s["id"] != rest[-1]["id"]} == {"settled"}
    page.accept_all()
    page.until(lambda: {s["status"] for s in rows(ws, project, "shot")} == {"settled"}, "all settled")
    assert page.trouble() == []
    assert first["why"] == "a scene begins"


def test_who_may_look_on_is_asked_about_and_said_to_be_there_by_a_key(page, project, ws):
    for name in ("Ada", "Ben"):
        threads.make(ws, project, "character", name)
    page.open(f"/p/{project}/story")
    page.write_story("Ada and Ben sat in the kitchen.\n\nAda filled the bowls.\n\nAda and Ben ate the soup.")
    page.one("[data-propose]").click()
    page.until(lambda: page.words_of("[data-also=Ben]") == "Ben here too?", "it is asked who else is there")
    assert faults(page) == []
    page.keys("j", "a")
    page.until(lambda: not page.all("[data-also]"), "it is answered")
    assert len(rows(ws, project, "bead")) == 6
    page.chord(Keys.CONTROL, "z")
    page.until(lambda: page.all("[data-also=Ben]"), "and taken back")
    page.one("[data-also]").click()
    page.until(lambda: len(rows(ws, project, "bead")) == 6, "by the mouse too")
    assert page.trouble() == []


PANELS = """PAGE ONE

Panel 1. Wide. Rooftops at dusk. A girl in a yellow coat, PIA, eats noodles on a chimney pot.

CAPTION: Nobody looks up in this town.

Panel 2. Close on Pia.

PIA: Mmf?
SFX: KRANNG
"""


def test_a_comic_script_is_read_by_its_panels(page, project, ws):
    page.open(f"/p/{project}/story")
    page.write_story(PANELS)
    page.see("comic script, 2 panels")
    page.until(lambda: page.all("[data-candidate=Pia]"), "who is in it")
    assert not page.all("[data-candidate=Nobody]")
    page.one("[data-propose]").click()
    page.until(lambda: page.words_of("[data-accept-all]") == "Accept all 2", "a picture for each panel")
    page.accept_all()
    page.until(lambda: {s["status"] for s in rows(ws, project, "shot")} == {"settled"}, "settled")
    first, second = rows(ws, project, "shot")
    assert first["shows"].startswith("Rooftops at dusk. A girl in a yellow coat, Pia,")
    assert first["size"] == "WS"
    assert (second["shows"], second["size"], second["spoken"]) == ("Close on Pia.", "CU", "Mmf?")
    assert page.trouble() == []


def test_a_shot_list_that_is_pasted_becomes_its_shots(page, project, ws):
    page.open(f"/p/{project}/story")
    page.write_story(
        "SCENE 1 – THE QUAY\n1A – Wide: fog over the quay.\n1B – Medium close-up: NILS at the lamp, listening. (4 sec)\n"
        "1C – Low angle, push in: a boat comes out of the fog.\nNILS: Who is there?\n"
    )
    page.see("in 3 parts")
    page.until(lambda: page.all("[data-candidate=Nils]"), "who is in it")
    page.one("[data-propose]").click()
    page.until(lambda: page.words_of("[data-accept-all]") == "Accept all 3", "a shot for each line")
    page.accept_all()
    page.until(lambda: {s["status"] for s in rows(ws, project, "shot")} == {"settled"}, "settled")
    told = [(s["size"], s["angle"], s["move"], s["shows"], s["spoken"]) for s in rows(ws, project, "shot")]
    assert told[0] == ("WS", "eye level", "static", "Fog over the quay.", "")
    assert told[1] == ("MCU", "eye level", "static", "Nils at the lamp, listening.", "")
    assert told[2][1:] == ("low", "push in", "A boat comes out of the fog.", "Who is there?")
    assert rows(ws, project, "shot")[1]["length_s"] == 4.0
    assert [s["title"] for s in rows(ws, project, "scene")] == ["THE QUAY"]
    assert page.trouble() == []


def test_a_text_in_another_language_says_how_it_is_read(page, project):
    page.open(f"/p/{project}/story")
    page.write_story(
        "„Komm“, sagte Merle. Der Hund Pauli war nicht im Haus, und Merle suchte ihn auch im Garten. Da bellte Pauli. „Hier“, rief Merle."
    )
    page.see("German · speech in „ “")
    page.until(lambda: page.all("[data-candidate=Merle]") and page.all("[data-candidate=Pauli]"), "names")
    page.see("at English pace")
    page.one("[data-length]").click()
    page.one("[data-take-language]").click()
    page.until(lambda: not page.all("[data-pace-unlike]"), "the pace of German")
    assert page.trouble() == []


def test_the_manuscript_of_a_picture_book_is_read_page_by_page(page, project, ws):
    page.open(f"/p/{project}/story")
    page.write_story(
        "Spread 1\nWilma let her bucket into the well.\n\nSpread 2\n[Art note: Wilma in her nightgown.]\n\nSpread 3\n“Come up,” said Wilma."
    )
    page.see("told by 3 pages")
    page.see("counted as a film")
    page.one("[data-length]").click()
    page.one("[data-take-book]").click()
    page.until(lambda: rows(ws, project, "project")[0]["medium"] == "book", "a book")
    page.keys(Keys.ESCAPE)
    page.one("[data-propose]").click()
    page.until(lambda: page.words_of("[data-accept-all]") == "Accept all 3", "a picture for each page")
    second = rows(ws, project, "shot")[1]
    assert (second["shows"], second["page_form"]) == ("Wilma in her nightgown.", "spread")
    assert page.trouble() == []


def test_a_brief_is_seen_as_it_is_sent_and_its_motion_beside_it(page, project, ws):
    plan_from(ws, project, "Ada waits on the quay for the boat that never comes.")
    shot = rows(ws, project, "shot")[0]["id"]
    threads.make(ws, project, "character", "Ada")
    ada = rows(ws, project, "thread")[0]["id"]
    threads.edit(ws, project, ada, {"wording": "Ada, a woman of forty: a red coat, grey boots."}, None)
    sha = takes.take_in(ws, "ada.png", flat((200, 60, 60))).sha
    threads.add_references(ws, project, ada, [(sha, "front")], "")
    threads.assign(ws, project, ada, [shot], on=True)
    plan.edit_shot(
        ws, project, shot, {"shows": "Ada waits on the quay.", "motion": "Her coat swings.", "move": "static"}, None
    )
    page.open(f"/p/{project}/briefs")
    page.see("One figure is to be seen: Ada.")
    page.see("Ada looks the same as in picture 1.")
    page.click("As it is sent")
    page.until(lambda: "Ada waits on the quay. One figure" in page.one("[data-as-sent]").text, "as sent")
    page.click("Motion")
    page.until(lambda: "Her coat swings. The camera is static" in page.one("[data-motion-brief]").text, "motion")
    note = page.one("[data-motion-note]")
    assert note.get_attribute("value") == "Her coat swings."
    page.write_over(note, "A gull crosses the sky.\t")
    page.until(
        lambda: "A gull crosses the sky. The camera" in page.one("[data-motion-brief] p.font-book").text, "the new note"
    )
    assert faults(page) == []
    page.click("Defaults …")
    page.click("+ service")
    page.until(lambda: row(ws, project, "project")["profiles"], "a service of one's own")
    projects.edit(ws, project, {"profile": "My service"}, None)
    field = page.one("[data-template]")
    field.send_keys("{shows} {cost}", Keys.TAB)
    page.until(lambda: "is not known" in field.get_property("validationMessage"), "a place that nobody knows")
    assert row(ws, project, "project")["profiles"][0]["template"] == ""
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("First {shows}", Keys.TAB)
    page.until(lambda: row(ws, project, "project")["profiles"][0]["template"] == "First {shows}", "kept")
    page.keys(Keys.ESCAPE)
    page.click("As it is sent")
    page.until(
        lambda: page.one("[data-as-sent]").text.endswith("First Ada waits on the quay. One figure is to be seen: Ada."),
        "by its template",
    )
    assert page.trouble() == []


def test_words_that_a_style_s_pictures_say_are_taken_one_by_one(page, project, ws):
    threads.make(ws, project, "style", "Paper")
    style = rows(ws, project, "thread")[0]["id"]
    sha = takes.take_in(ws, "flat.png", flat((30, 120, 130))).sha
    threads.add_references(ws, project, style, [(sha, "sheet")], "")
    page.open(f"/p/{project}/models/{style}")
    page.until(lambda: page.all("[data-proposed-words] button"), "words that its picture says")
    before = len(page.all("[data-proposed-words] button"))
    taken = page.one("[data-proposed-words] button").text.removeprefix("+ ")
    page.one("[data-proposed-words] button").click()
    page.until(lambda: row(ws, project, "thread")["vocabulary"] == [taken], "taken into the vocabulary")
    page.until(lambda: len(page.all("[data-proposed-words] button")) == before - 1, "and offered no more")
    assert faults(page) == []
    assert page.trouble() == []
