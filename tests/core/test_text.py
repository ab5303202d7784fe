"""Text to shots, names in text, and file names to shots."""

import pytest

from bench.story import judged
from juxtaform.core.plan.numbering import matched
from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered
from juxtaform.core.text.coverage import coverage
from juxtaform.core.text.names import (
    NEW,
    Named,
    Reader,
    addressed_in,
    heading_place,
    named_but_absent,
    names_in,
    time_of_day,
)
from juxtaform.core.text.timing import shot_time
from juxtaform.core.text.voices import Voices, Voicing
from juxtaform.formats import fountain, prose
from tests.story_texts import TEXTS

CAST = [Named("p", "Pell"), Named("o", "Oda", ("the keeper",)), Named("s", "Sprocket")]
PLACES = [Named("l", "Lamp room", kind="setting"), Named("q", "Quay", kind="setting")]
TEXT = """# The harbour steps

The tide had been gone three days. Pell sat on the bottom step and dangled her boots in nothing. Sprocket tapped the
dry stone twice. Up on the quay Oda counted the boats. “Nine,” she said. “And one of them is mine.”

INT. LAMP ROOM - NIGHT

Mr. Finch slept. The tide key hung behind the clock. Pell lifted it down. It was colder than it looked.
"""


def scenes(text, threads=(), read=prose.read):
    return breakdown(read(text), threads, candidates=())


def shots(text, threads=(), read=prose.read):
    return [s for scene in scenes(text, threads, read) for s in scene.shots]


def test_headings_of_both_kinds_begin_scenes():
    assert [s.title for s in scenes(TEXT, CAST)] == ["The harbour steps", "INT. LAMP ROOM - NIGHT"]


def test_a_new_place_begins_a_new_shot_and_a_new_name_alone_does_not():
    found = scenes(TEXT, CAST + PLACES)[0].shots
    assert [s.cast for s in found if s.cast] == [("p", "s"), ("o",)]
    assert " ".join(line.words for s in found for line in s.lines) == "Nine And one of them is mine."
    assert {line.speaker for s in found for line in s.lines} == {"o"}


def test_every_word_of_the_body_is_in_exactly_one_shot():
    for told in TEXTS:
        manuscript = (fountain if told.syntax == "fountain" else prose).read(told.text)
        spans = [(str(i), s.start, s.end) for i, s in enumerate(x for y in breakdown(manuscript) for x in y.shots)]
        assert coverage(manuscript, spans) == []


def test_an_abbreviation_does_not_end_a_sentence():
    assert not any(TEXT[s.start : s.end].strip() == "Mr." for s in shots(TEXT, CAST))


def test_a_place_and_a_time_in_the_heading_hold_for_its_shots():
    found = scenes(TEXT, CAST + PLACES)[1].shots
    assert {s.places for s in found} == {("l",)}
    assert {s.time for s in found} == {"night"}


@pytest.mark.parametrize("text", ["", "   \n\n ", "\n#\n"])
def test_nothing_gives_no_shots(text):
    assert shots(text) == []


def test_text_without_names_or_headings_still_becomes_shots():
    assert len(shots("The rain began. It went on. By morning the road was a river, and the hens sat on the roof.")) == 2


def test_a_still_names_who_a_pronoun_stands_for_and_who_speaks():
    found = shots("Pell came in.\n\nAt midnight she sat down.\n\n# Later\n\n“No,” said Oda.", CAST)
    assert [s.shows for s in found] == ["Pell came in.", "At midnight Pell sat down.", "Oda speaks."]


@pytest.mark.parametrize(
    ("text", "who"),
    [
        ("Pell came in. She sat down.", ["p"]),
        ("Ruben looked at Ilse. He laughed.", ["r", "i"]),
        ("Ilse came. Ruben saw her. They ran.", ["i", "r"]),
    ],
)
def test_pronouns_stand_for_who_was_named_last(text, who):
    cast = [*CAST, Named("r", "Ruben"), Named("i", "Ilse")]
    assert set(shots(text, cast)[-1].cast) <= set(who)
    assert shots(text, cast)[-1].cast


def test_in_an_answer_she_said_is_not_the_one_who_spoke_before():
    cast = [Named("r", "Ruben"), Named("i", "Ilse")]
    found = shots("“You opened it,” said Ilse.\n\n“Yes,” said Ruben.\n\n“Why?” she asked.", cast)
    assert [line.speaker for s in found for line in s.lines] == ["i", "r", "i"]


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Pell’s boots", ["p"]),
        ("Pells", []),
        ("pell", []),
        ("PELL!", ["p"]),
        ("Ask Oda and Pell", ["o", "p"]),
        ("the keeper slept", ["o"]),
        ("The keepers' boats", ["o"]),
        ("in the lamp room", ["l"]),
        ("Rose petals fell", []),
        ("Rose fell", ["r"]),
        ("then Rose fell", ["r"]),
        ("Will he?", []),
    ],
)
def test_names_are_whole_words_with_capitals_possessives_and_plurals(text, found):
    everyone = [*CAST, *PLACES, Named("r", "Rose"), Named("w", "Will")]
    assert names_in(text, everyone) == found


@pytest.mark.parametrize(
    ("speech", "who"),
    [
        ("Oda, come here.", ["o"]),
        ("Come here, Oda!", ["o"]),
        ("Is that so, Oda, my dear?", ["o"]),
        ("Oda came home.", []),
        ("I saw Oda, and Pell, and you.", []),
        ("Pell! Oda knows.", ["p"]),
    ],
)
def test_who_is_spoken_to_is_told_from_who_is_spoken_of(speech, who):
    assert addressed_in(speech, Reader(CAST)) == who


def test_mentions_tell_where_they_stand():
    [mention] = Reader(CAST).mentions("And then Pell’s hat.")
    assert (mention.start, mention.end) == (9, 13)


def test_only_names_that_are_not_assigned_are_absent():
    assert named_but_absent("Pell and Oda", CAST, {"p"}) == ["o"]


def test_who_and_what_a_text_names_is_found_in_it_and_the_known_are_left_out():
    text = "In the kitchen Captain Vane put the lantern down. The captain sighed. Vane lit the lantern.\n\nAn old fox came in. The old fox sat."
    found = {(c.kind, c.name) for c in discovered(prose.read(text))}
    assert {
        ("character", "Captain Vane"),
        ("character", "old fox"),
        ("setting", "kitchen"),
        ("prop", "lantern"),
    } <= found
    assert not any(
        c.name == "Captain Vane" for c in discovered(prose.read(text), [Named("v", "Captain Vane", ("Vane",))])
    )


def test_common_words_at_a_sentence_s_start_make_no_names():
    text = "Rain fell. Then it stopped. Suddenly Mina laughed. Nobody heard. Mina sat down."
    assert [c.name for c in discovered(prose.read(text)) if c.kind == "character"] == ["Mina"]


def test_proposals_name_candidates_that_are_no_threads_yet():
    found = [s for scene in breakdown(prose.read("Mina came in. Mina sat.")) for s in scene.shots]
    assert found[0].cast == (f"{NEW}Mina",)


@pytest.mark.parametrize(
    ("heading", "place", "time"),
    [
        ("INT. LAMP ROOM - NIGHT", "Lamp Room", "night"),
        ("EXT. QUAY – DAWN", "Quay", "dawn"),
        ("The harbour steps, dusk", "The harbour steps", "dusk"),
        ("Chapter One", "", ""),
        ("Night", "", "night"),
        ("INT./EXT. TRAM - CONTINUOUS", "Tram", ""),
    ],
)
def test_headings_tell_place_and_time(heading, place, time):
    assert heading_place(heading)[:2] == (place, time)


def test_times_of_day():
    assert [time_of_day(w) for w in ("at sunset", "By morning", "nothing", "one starlit night")] == [
        "dusk",
        "morning",
        "",
        "night",
    ]


def test_words_in_no_shot_and_in_two_are_told():
    text = "One fell. Two ran. Three sat."
    gaps = coverage(prose.read(text), [("a", 0, 9), ("b", 4, 18)])
    assert [(text[g.start : g.end], g.shots) for g in gaps] == [("fell.", ("a", "b")), ("Three sat.", ())]


@pytest.mark.parametrize("told", TEXTS, ids=lambda t: t.name)
def test_the_breakdown_is_near_what_a_hand_would_do(told):
    counts = judged(told)
    for what, least in (("cuts", 0.4), ("cast", 0.8), ("who", 0.6), ("places", 0.5)):
        hit, missed, false = (counts[f"{what} {k}"] for k in ("hit", "missed", "false"))
        assert hit / (hit + missed) >= least, what
        assert hit / (hit + false) >= least, what


NUMBERS = [str(n) for n in range(1, 13)]


@pytest.mark.parametrize(
    ("names", "numbers", "expected"),
    [
        (["p10.png", "p2.png"], NUMBERS, {"p2.png": 1, "p10.png": 9}),
        (["shot_03b.jpg", "shot_03.jpg"], [*NUMBERS, "3b"], {"shot_03b.jpg": 12, "shot_03.jpg": 2}),
        (["03b.png"], NUMBERS, {"03b.png": 2}),
        (
            ["book2_page01.png", "book2_page02.png", "book2_page11.png"],
            NUMBERS,
            {"book2_page01.png": 0, "book2_page02.png": 1, "book2_page11.png": 10},
        ),
        (["4 t2.png", "4 t1.png", "5.png"], NUMBERS, {"4 t1.png": 3, "4 t2.png": 3, "5.png": 4}),
        (["in/007.png", "in/008.png"], NUMBERS, {"in/007.png": 6, "in/008.png": 7}),
        (["cover.png"], NUMBERS, {"cover.png": None}),
        (["99.png", "1.png"], NUMBERS, {"1.png": 0, "99.png": None}),
        (["b.png", "a.png"], ["1", "2"], {"a.png": 0, "b.png": 1}),
    ],
)
def test_files_find_their_shots_by_number_in_natural_order(names, numbers, expected):
    assert {m.name: m.shot for m in matched(names, numbers)} == expected


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("The postman, Mr. Quill, came in. The postman sat.", ("Mr. Quill", "postman")),
        ("Hanneke, a girl with oil on her nose, hears it. The girl looks up.", ("Hanneke", "girl")),
    ],
)
def test_a_noun_set_beside_a_name_is_the_same_person(text, wanted):
    found = [c for c in discovered(prose.read(text)) if c.kind == "character"]
    assert [c.name for c in found] == [wanted[0]]
    assert wanted[1] in found[0].aliases


@pytest.mark.parametrize(
    ("text", "kind", "name", "is_found"),
    [
        ("The zorble yawned and looked at the wibbit.", "character", "zorble", True),
        ("“No,” said the wibbit.", "character", "wibbit", True),
        ("The zorble stood on the wibbit.", "character", "zorble", False),
        ("The pond grew small. They shared one pond.", "setting", "pond", True),
        ("The spoon grew small. They shared one spoon.", "setting", "spoon", False),
        ("She swept it with a broom, in the broom cupboard.", "setting", "broom", False),
        ("They met in the town square.", "setting", "town square", True),
        ("It stood behind the farmhouse.", "setting", "farmhouse", True),
    ],
)
def test_what_acts_is_somebody_and_what_comes_back_is_a_place(text, kind, name, is_found):
    assert any(c.kind == kind and c.name == name for c in discovered(prose.read(text))) == is_found


def test_a_narrator_is_never_meant_by_he():
    text = "I sat by Felix. I laughed. He frowned at me."
    shots = [s for scene in breakdown(prose.read(text), [Named("i", "I"), Named("f", "Felix")]) for s in scene.shots]
    assert "f" in shots[-1].cast


@pytest.mark.parametrize(
    ("syntax", "text", "voices"),
    [
        (prose, "“Come,” said Oda. The lamp went out.", Voices("Come,", "said Oda. The lamp went out.")),
        (prose, "The lamp went out.", Voices("", "The lamp went out.")),
        (fountain, "INT. ROOM - DAY\n\nThe lamp goes out.\n\nODA\nCome.", Voices("Come.", "", "The lamp goes out.")),
        (fountain, "The lamp goes out.\n\nODA\n(low)\nCome.", Voices("Come.", "", "The lamp goes out.")),
    ],
)
def test_words_are_spoken_told_or_acted(syntax, text, voices):
    assert Voicing(syntax.read(text)).of(0, len(text)) == voices


def test_the_voices_of_a_stretch_are_those_of_its_words_alone():
    text = "One two three. “Four,” she said. Five six."
    assert Voicing(prose.read(text)).of(text.index("Five"), len(text)) == Voices("", "Five six.")


def test_dialogue_takes_its_time_beside_a_scripts_action_and_narration_runs_over_it():
    script, told = (
        Voices("Come here at once.", "", "She runs, jumps and falls."),
        Voices("", "She runs, jumps and falls."),
    )
    assert shot_time(script).length_s == pytest.approx(shot_time(Voices("Come here at once.")).length_s + 3.6, abs=0.2)
    assert shot_time(told).action_s == 0.0
    assert shot_time(Voices("", "", "Rain.")).length_s == 3.0


def test_a_scripts_capitals_and_speeches_become_still_descriptions():
    text = "EXT. QUAY - DUSK\n\nODA counts the boats on the quay, one after another, twice over, from the old pier to the lamp and back again to the steps.\n\nODA\nNine. And one of them is mine, and it has not been out since the day when the tide went away and did not come back."
    shows = [s.shows for scene in breakdown(fountain.read(text)) for s in scene.shots]
    assert shows == [
        "Oda counts the boats on the quay, one after another, twice over, from the old pier to the lamp and back again to the steps.",
        "Oda speaks.",
    ]
