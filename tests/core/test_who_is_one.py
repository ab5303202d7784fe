"""Who is one person under several words: a name that is given late, who tells the story, and whom a new scene begins with."""

import pytest

from juxtaform.core.text.breakdown import breakdown
from juxtaform.core.text.candidates import discovered, story_of
from juxtaform.core.text.names import Named
from juxtaform.formats import prose


def told(text):
    return {c.name: set(c.aliases) for c in discovered(prose.read(text)) if c.kind == "character" and c.sure}


def shots(text, **how):
    return [s for scene in breakdown(prose.read(text), **how) for s in scene.shots]


def test_her_name_is_that_of_the_last_one_who_can_be_she():
    cast = told(
        "Mr. Feather drew maps. A girl in a raincoat came in. Mr. Feather put down his pen. She climbed onto the stool. Her name was Ines. Ines sneezed."
    )
    assert "girl" in cast["Ines"]
    assert "girl" not in cast["Mr. Feather"]


def test_his_name_is_his_and_not_hers():
    cast = told("A boy came in. A woman sat down. His name was Tam. Tam sneezed. The woman laughed.")
    assert "boy" in cast["Tam"]
    assert "woman" in cast


@pytest.mark.parametrize(
    ("text", "name", "words"),
    [
        ("I am a very small snail. I started on Monday. I slid all the way back.", "small snail", {"I", "me", "snail"}),
        ("I am a small snail. I slid back. I slept. My name is Pip.", "Pip", {"I", "snail", "small snail"}),
        ("My name is Ines. I live on a hill. I have a goat.", "Ines", {"I", "my"}),
    ],
)
def test_who_tells_the_story_is_what_it_says_of_itself(text, name, words):
    assert words <= told(text)[name]
    assert "I" not in told(text)


@pytest.mark.parametrize("text", ["I am not a snail. I slid back. I slept.", "I was the last. I slid back. I slept."])
def test_who_is_not_said_to_be_anything_is_i(text):
    assert "I" in told(text)


def test_an_animal_that_is_met_is_somebody_and_answers():
    found = shots("On Monday I met a ladybird. “What is it like up there?” I asked. “Windy,” she said. I went on.")
    assert "ladybird" in told("On Monday I met a ladybird. “Windy,” she said. I went on. I slept.")
    assert any("new:ladybird" in s.cast for s in found)


def test_a_scene_may_begin_with_those_of_the_one_before():
    text = (
        "# One\n\nTam looked at the map. Ines looked at Tam. Then Tam took down his hat.\n\n"
        "# Two\n\nThey went to the harbour. A ferryman scratched his head."
    )
    assert {"new:Tam", "new:Ines"} <= set(shots(text)[-1].cast) | set(shots(text)[-2].cast)
    assert "new:ferryman" not in next(s for s in shots(text, wanted=4) if "went to the harbour" in s.shows).cast


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("Below, a woman of seventy – DORA – pours two cups. Dora looks up.", "Dora"),
        ("A woman of seventy, DORA, pours two cups. Dora looks up.", "Dora"),
        ("A woman in a hat (Dora) pours two cups. Dora looks up.", "Dora"),
        ("A tall woman (MRS. BELL, 50) enters. Mrs. Bell sits down.", "Mrs. Bell"),
    ],
)
def test_a_name_between_marks_is_that_of_whom_the_sentence_tells(text, name):
    assert "woman" in told(text)[name]
    assert "woman" not in told(text)
    assert shots(text)[0].cast == (f"new:{name}",)


def test_a_goat_and_a_baker_are_not_the_children():
    cast = told(
        "There lived a goat called Brindle. The baker came out. The children ran and pointed. Brindle ate. He wept."
    )
    assert "children" in cast


def test_two_words_with_capitals_that_do_something_are_somebody():
    assert "Sugar Bowl" in told("Milk Jug shouted from the tray. Sugar Bowl began to cry.")


def test_a_room_may_be_named_by_what_is_done_in_it():
    found = discovered(prose.read("In the living room the boy sat down. He slept on the sofa."))
    assert "living room" in {c.name for c in found if c.kind == "setting"}


def test_whose_real_name_is_another_is_one():
    assert (
        "Beatrice" in told("Ada, whose real name was Beatrice, was in the middle. Ada ran. Max slept. Max woke.")["Ada"]
    )


def test_to_whom_something_is_passed_or_of_whom_somebody_thinks_is_no_place():
    text = "Ada wore the coats and passed them on to Max. Ada thought of Cordelia. Ada thought of Max."
    assert not [c for c in discovered(prose.read(text)) if c.kind == "setting"]


def test_the_four_friends_are_the_four_who_were_named_last():
    text = (
        "So Hare gave Bear a leaf. Then Squirrel gave him a bag. But Bear sneezed and nuts rained down on Mole. “Help!” cried Mole. And Hare laughed. And Squirrel laughed.\n\n"
        "The four friends sat down by the stream."
    )
    assert set(shots(text)[-1].cast) == {"new:Hare", "new:Bear", "new:Squirrel", "new:Mole"}


def test_a_new_paragraph_goes_on_with_those_who_do_things_together():
    text = "Ada and Tam rode through the park. Tam laughed. Two policemen saluted.\n\nThey stopped at a gate."
    assert set(shots(text)[-1].cast) == {"new:Ada", "new:Tam"}


def test_who_is_listed_behind_them_is_who_they_are():
    text = "An old gentleman put out his hand. So they rode through the park, Ada and the gentleman and the parrot."
    assert {"new:Ada", "new:gentleman", "new:parrot"} <= set(shots(text)[-1].cast)


def test_a_treatment_s_capitals_and_its_camera():
    text = "At the bench an OLD WOMAN bends over something we can't see. The old woman opens the window. We follow the bird. The bird lands."
    cast = told(text)
    assert "I" not in cast
    assert "OLD WOMAN" in cast["old woman"]
    assert any("old woman bends over" in s.shows for s in shots(text, wanted=3))


def test_what_falls_when_somebody_speaks_says_nothing():
    assert set(told("“Achoo!” said Bear, and all the leaves fell off the tree. Bear lent a leaf. Bear slept.")) == {
        "Bear"
    }


def test_whom_everybody_calls_by_a_name_has_it():
    text = "A king had three sons. The eldest son rode off. The second son rode off. Then the youngest, whom everybody called Pip, rode off. Pip ate. So Pip slept."
    cast = told(text)
    assert "Pip" in cast
    assert "youngest son" not in cast


def test_you_are_anybody_where_a_story_is_not_told_to_you():
    text = (
        "Ada lived in a city of stairs. To go to school you went up ninety; to buy fish you went down two hundred, and you ran. "
        + "Ada sat down. Ada looked at the river. She ate. Ada slept. She woke. Bo came in. Bo sang. Ada wept. " * 4
    )
    assert "you" not in told(text)
    assert "you" in told("You wake up. You put on your boots. You open the door. You see a bear. The bear sits down.")


def test_what_a_sign_says_is_nobody():
    assert set(told("Ada sat down. He held up a sign: COME IN, it said, BUT WIPE YOUR FEET. Ada laughed.")) == {"Ada"}


def test_sisters_with_a_name_are_several():
    text = "There Ada lived with Bo. On the second floor there are the Ferreira sisters, who have not spoken. Ada and Bo laughed."
    assert "Ferreira sisters" in told(text)
    assert "second floor" in {c.name for c in discovered(prose.read(text)) if c.kind == "setting"}


def test_a_wolf_who_is_he_is_no_jar_and_white_is_nobody():
    text = "A wolf tied on his apron and hummed. The wolf showed Ada a jar. It was grey in there. So Ada slept, all white with flour, with the wolf."
    assert set(told(text)) == {"wolf", "Ada"}
    assert not any("wolf was grey" in s.shows for s in shots(text, wanted=4))
    assert not [c for c in discovered(prose.read(text)) if c.kind == "setting"]


def test_a_picture_s_description_names_all_who_are_in_it():
    text = "Then Minna sniffed. The cat sniffed. “It isn't dead,” said Minna. “No,” said the cat."
    [shot] = shots(text, wanted=1)
    assert shot.shows == "Then Minna sniffed. The cat sniffed."
    [shot] = shots("“Come in,” said Ada. “No,” said Bo. “Yes,” said Ada.", wanted=1)
    assert shot.shows == "Ada and Bo speak."


def test_what_somebody_with_a_name_is_means_them():
    cast = told("Inspector Plum was a tortoise. So Plum drove. The tortoise yawned. Then Plum slept.")
    assert cast.keys() == {"Inspector Plum"}
    assert "tortoise" in cast["Inspector Plum"]


def test_to_a_place_with_a_name_somebody_may_bring_something():
    found = discovered(prose.read("They took the tram to Market Square. The statue smiled. Ada sat down. Ada slept."))
    assert "Market Square" in {c.name for c in found if c.kind == "setting"}


def test_other_clouds_that_speak_are_somebody_beside_the_cloud():
    text = "A cloud drifted over the town. “Rain,” said the other clouds. “No,” said the cloud. The cloud puffed. She drifted away."
    assert {"cloud", "clouds"} <= told(text).keys()


def test_a_boat_that_is_scared_is_somebody_and_what_is_around_it_is_told():
    text = (
        "Little boat goes up. Little boat goes down. Dark clouds come. Little boat is scared. Little boat comes home."
    )
    assert "little boat" in told(text)
    [shot] = shots("Dark clouds came over the sea. Ada was scared. She ran home. Ada slept.", wanted=1)
    assert shot.shows == "Dark clouds came over the sea. Ada ran home."


def test_a_word_for_kin_alone_is_a_name_where_nobody_is_called_so_in_small_letters():
    assert "Grandpa" in told("Ada drove. Grandpa, who had been asleep, smiled. Ada laughed. Ada slept.")
    assert "Grandpa" not in told("Ada drove with her grandpa. Grandpa smiled. Ada laughed. Ada slept.")


def test_a_cat_that_is_a_thread_already_is_still_a_cat_to_her():
    cast = (Named("m", "Minna"), Named("c", "Cat", ("cat",)), Named("w", "Wolf", ("wolf",)))
    text = "So Minna went down. She pulled on her coat. The cat came too. The wolf showed her a jar."
    assert set([s for scene in breakdown(prose.read(text), cast, wanted=4) for s in scene.shots][-1].cast) == {"m", "w"}


def test_of_two_who_are_named_each_has_their_own_name():
    cast = told(
        "In the lighthouse lived an old keeper named Tormund and a goat called Biscuit. Tormund slept. Biscuit ate. The goat slept."
    )
    assert "keeper" in cast["Tormund"]
    assert "goat" in cast["Biscuit"]
    assert not {"keeper", "goat"} & set(cast)
    assert "keeper" not in cast["Biscuit"]


@pytest.mark.parametrize(
    ("text", "name", "words"),
    [
        (
            "Her dog, a huge old hound called Prince, sleeps. The dog yawns. Prince eats.",
            "Prince",
            {"dog", "hound"},
        ),
        ("Inside, MAGDA (70), the owner, does a crossword. Magda yawns. The owner sleeps.", "Magda", {"owner"}),
        ("A man climbs out of a car. This is OSKAR. Oskar knocks. The man waits.", "Oskar", {"man"}),
        (
            "Upstairs lived the twins Chidi and Chike, and a grey parrot, Doctor. Doctor sang. The parrot slept.",
            "Doctor",
            {"parrot"},
        ),
    ],
)
def test_who_is_told_beside_a_name_is_the_one_who_has_it(text, name, words):
    cast = told(text)
    assert words <= cast[name]
    assert not words & set(cast)


def test_twins_whose_names_are_told_are_those_two():
    text = (
        "The Okafors lived upstairs: Mr. Okafor, Mrs. Okafor and the twins Chidi and Chike. Rumi lived below. "
        "On Saturday Rumi met the twins on the landing. They carried a cage."
    )
    last = shots(text)[-1]
    assert {"new:Chidi", "new:Chike"} <= set(last.cast)
    assert not {"new:Mr. Okafor", "new:Mrs. Okafor"} & set(last.cast)


def test_what_is_said_of_a_kind_is_of_nobody_there():
    text = "A goat called Biscuit lived on a rock. She went up the steps. It took her no time; goats are made for steps. Then she slept."
    assert set(told(text)) == {"Biscuit"}
    assert "new:goats" not in {c for s in shots(text) for c in s.cast}


def test_goats_that_are_there_are_somebody_though_the_story_is_told_in_the_present():
    assert "goats" in told("Goats climb over the wall. Goats eat the roses. Old Marta shouts. The goats run away.")


_BOTH = "Tom took off his hat. Tom sat down. Ida took off her hat. Ida laughed."


@pytest.mark.parametrize(
    ("text", "last", "never"),
    [
        (
            "Bea saw a swan. Bea and the swan sang. Little Crab slept. Little Crab woke. Little Crab yawned. The baker slept. The baker woke. "
            "Little Crab held up his claws. The baker held up her hands. They looked at each other.",
            {"Little Crab", "baker"},
            {"swan", "Bea"},
        ),
        (
            "Tam lost his hat. He met an octopus.\n\n“Have you seen a hat?” asked Tam.\n\n“No,” said the octopus. The octopus sang.\n\nHe met a lobster.",
            {"Tam", "lobster"},
            {"octopus"},
        ),
        (
            "Rumi sat. Chidi sat. Chike sat. Rumi saw Chidi and Chike. Chidi nudged Chike. Rumi got her shoes. They looked in the yard.",
            {"Rumi", "Chidi", "Chike"},
            set(),
        ),
        (f"{_BOTH} She put it on top of him.", {"Ida", "Tom"}, set()),
        (f"{_BOTH} She stood in front of him.", {"Ida", "Tom"}, set()),
        (
            "Ida, Tam, Bo and Pip came home. Ida sang. Tam sang. Bo sang. Pip sang. All four of them slept.",
            {"Ida", "Tam", "Bo", "Pip"},
            set(),
        ),
        ("Ida took her hat. Ida made soup. Mister Lemon slept. “Turn round,” she ordered.", {"Ida"}, {"Mister Lemon"}),
        ("The cooks slept. Fitch sang. Fitch, who was seven, sat in a tree.", {"Fitch"}, {"cooks"}),
        ("Tam fell. Tam rose. Nobody had ever called him young man.", set(), {"young man", "man"}),
    ],
)
def test_who_is_meant_in_the_last_sentence(text, last, never):
    story = story_of(prose.read(text))
    found = {w.removeprefix("new:") for w in story.pieces(0)[-1].people}
    assert last <= found
    assert not found & never


def test_your_majesty_is_nobody_of_their_own_and_a_numbered_room_is_a_place():
    text = "“No, Your Majesty,” said Fitch. “Your Majesty is late.” The queen wept. In Room Four a key sang. But Room Four was cold. The queen sat down."
    assert set(told(text)) == {"Fitch", "queen"}
    assert "Room Four" in {c.name for c in discovered(prose.read(text)) if c.kind == "setting"}


def test_they_are_named_where_a_picture_is_described():
    def last(text):
        return shots(text)[-1].shows

    assert last("# One\n\nIda met Tam. Ida and Tam sang.\n\n# Two\n\nThey ate soup.") == "Ida and Tam ate soup."
    four = "Ida, Tam, Bo and Pip met. Ida sang. Tam sang. Bo sang. Pip sang. Ida, Tam, Bo and Pip slept."
    assert last(f"# One\n\n{four}\n\n# Two\n\nThey ate soup.") == "They ate soup."


def test_a_boy_who_is_told_with_it_was_is_he_whose_name_comes_next():
    text = "Uncle Wojtek wrote. Uncle Wojtek slept. I saw somebody. It was a boy with a torch and he was looking at me. I waved. His name is Hamid. Hamid waved."
    assert "boy" in told(text)["Hamid"]
    assert "Hamid" not in told(text)["Uncle Wojtek"]


def test_a_word_of_grammar_behind_a_colon_is_nobody():
    assert "Could" not in told("Ida wrote a letter. PS: Could you send a broom? Ida waited.")


def test_whoever_gets_a_letter_is_not_there():
    text = "Dear Uncle Wojtek, thank you for the telescope. I have set it up on the roof. Mama says I may look.\n\nYour Basia"
    assert all("new:Uncle Wojtek" not in s.cast for s in shots(text))
    assert "Diary" not in told("Dear Diary, today I saw a fox. I ran home. I slept.")


@pytest.mark.parametrize(
    ("text", "name", "word"),
    [
        ("Nora met a mouse. “I’m Pip,” said the mouse. Pip sneezed. The mouse ran off.", "Pip", "mouse"),
        (
            "A man knocked. “My name is Doctor Alba,” he said. The man sat down. Doctor Alba coughed.",
            "Doctor Alba",
            "man",
        ),
        ("“Call me Pepper,” said a toad. Pepper hopped away. The toad sang.", "Pepper", "toad"),
    ],
)
def test_who_tells_their_name_has_it(text, name, word):
    cast = told(text)
    assert word in cast[name]
    assert word not in cast


def test_a_name_that_somebody_else_has_is_not_given_by_saying_so():
    cast = told(
        "Red picked flowers. A wolf knocked at the door. “I am Red,” said the wolf. The wolf went in. Red sang."
    )
    assert {"Red", "wolf"} <= cast.keys()


def test_what_somebody_says_they_are_is_no_name():
    assert "English" not in told("Nora met a mouse. “I’m English,” said the mouse. The mouse ran off.")["mouse"]


def test_a_second_one_is_somebody_else():
    cast = told(
        "Nora met a mouse. The mouse ran. “Wait,” said a second mouse. The second mouse sneezed. The mouse sang."
    )
    assert {"mouse", "second mouse"} <= cast.keys()


def test_those_who_are_counted_off_are_of_the_group_and_are_each_others_brothers():
    text = (
        "A merchant had three sons. The eldest, Anselm, was proud, the second, Gregor, was sly, and the youngest was called Tuck. "
        "Tuck slept in the forest. Then his brothers came to the city."
    )
    [sons] = [c for c in discovered(prose.read(text)) if c.name == "sons"]
    assert set(sons.members) == {"Anselm", "Gregor", "Tuck"}
    last = story_of(prose.read(text)).pieces(0)[-1]
    assert set(last.people) == {"new:Anselm", "new:Gregor"}


def test_namesakes_are_each_of_those_who_share_the_name():
    text = "Big Anna rowed. Little Anna hissed at a swan. Jonas sang. The Annas laughed."
    last = story_of(prose.read(text)).pieces(0)[-1]
    assert set(last.people) == {"new:Big Anna", "new:Little Anna"}
    assert "Annas" not in told(text)


def test_a_voice_is_heard_and_not_seen():
    text = "Leo dug a hole. Marta helped. “We are closed!” said a voice from below. Leo knocked. They looked at each other."
    assert "voice" not in told(text)
    assert set(story_of(prose.read(text)).pieces(0)[-1].people) == {"new:Leo", "new:Marta"}


def test_what_speaks_is_somebody_whatever_else_could_be_in_it():
    text = "A stork and a kettle shared a roof. “You are lucky,” said the kettle. “Why?” said the stork. In the end the kettle fell."
    assert "kettle" in told(text)


def test_a_titled_man_who_acts_by_his_title_is_counted():
    assert (
        "constable"
        in told("There stood Constable Brandt. “We shall knock,” said the constable. The constable knocked.")[
            "Constable Brandt"
        ]
    )


def test_they_all_are_more_than_two_and_who_sees_him_is_not_he():
    seen = "Bo knocked. Leo dug. Marta screamed. They all turned round."
    assert set(story_of(prose.read(seen)).pieces(0)[-1].people) == {"new:Bo", "new:Leo", "new:Marta"}
    heard = "Ada and Bo sat on the step. Then the fox fell into the nettles. They heard him from afar."
    assert set(story_of(prose.read(heard)).pieces(0)[-1].people) == {"new:Ada", "new:Bo", "new:fox"}


def test_themselves_are_who_does_it():
    text = "Ada and Bo waited. The umbrellas talked. The umbrellas folded themselves."
    people = story_of(prose.read(text)).pieces(0)[-1].people
    assert not {"new:Ada", "new:Bo"} & set(people)


@pytest.mark.parametrize(
    "text",
    ["Ada fed the goat. When it got dark she went home.", "Ada fed the goat. It was late and she went home."],
)
def test_what_gets_dark_is_nobody(text):
    assert story_of(prose.read(text)).pieces(0)[-1].people == ("new:Ada",)


def test_it_is_not_who_was_there_in_the_paragraph_before_the_last_sentence():
    text = "A swan hissed at Ada.\n\nAda rowed as far as the island. It was no bigger than a bus stop."
    assert "new:swan" not in story_of(prose.read(text)).pieces(0)[-1].people


def test_a_name_is_no_time_and_a_greeting_only_where_nothing_else_tells():
    assert [s.time for s in shots("Then Dawn opened the door. Dawn sang and Dawn went in.")] == [""]
    one, *_ = shots("It was night. “Good evening,” said Ada.")
    assert one.time == "night"
    assert shots("“Good evening,” said Ada. Ada sat down.")[0].time == "dusk"


def test_a_nickname_inside_a_name_and_a_rank_before_one_are_of_one_person():
    cast = told(
        "DELPHINE “DEL” AMARA comes round the corner. Caretaker MR. PRZYBYLSKI trundles past. Del nods. The caretaker nods."
    )
    assert {"Delphine", "Amara"} <= cast["Del"]
    assert "caretaker" in cast["Mr. Przybylski"]
    assert cast.keys() == {"Del", "Mr. Przybylski"}


def test_who_did_not_do_it_is_not_meant():
    text = "Grandpa snores. Nobody can sleep. Not Mum, not the dog. She puts a peg on his nose."
    assert "new:dog" not in story_of(prose.read(text)).pieces(0)[-1].people


def test_who_answers_is_near_and_not_somebody_who_left():
    text = (
        "“Mind the step,” said the porter.\n\n“Yes,” said Winston.\n\nThe porter left. Del came in. Del sat down. Del read a book. "
        "Winston ate a bun.\n\n“Who is that?” said Winston.\n\n“That is the question.”"
    )
    assert story_of(prose.read(text)).pieces(0)[-1].lines[0].speaker == "new:Del"


def test_a_creature_does_it_with_its_own_mouth():
    text = "An old man slept. A hare came. The hare looked after it with his mouth open."
    assert story_of(prose.read(text)).pieces(0)[-1].people == ("new:hare",)


def test_a_month_that_speaks_is_somebody():
    assert "Jan" in told("On Monday Jan wore the boots. “Ask her,” said Jan. Koos laughed. Jan ran off.")


def test_the_eldest_is_of_those_who_can_be_counted_off():
    text = (
        "In the light of a thousand glow-worms sat a king. “Oh!” cried the king’s daughters. Nils danced with the eldest and with the second. "
        "The eldest laughed."
    )
    cast = told(text)
    assert "eldest daughter" in cast
    assert not any("glow-worm" in name and name.startswith("eldest") for name in cast)


@pytest.mark.parametrize(
    ("text", "time"),
    [
        ("It was evening. Koos, whose day it was, went to look.", "dusk"),
        ("“One day I shall dance too,” said Nils.", ""),
        ("The next day Nils danced.", "day"),
    ],
)
def test_not_every_day_is_a_time_of_day(text, time):
    assert shots(text)[-1].time == time


def test_midsummer_eve_is_no_place():
    found = discovered(
        prose.read("Nils played. On Midsummer Eve he walked over the ridge. On Midsummer Eve he danced.")
    )
    assert not any(c.kind == "setting" and "Eve" in c.name for c in found)


def test_the_man_who_opened_is_nobody_who_was_named():
    text = "Ines rang the bell. The man who opened had an umbrella. “It hasn't said a word,” the man told her."
    assert {"Ines", "man"} <= set(told(text))
    assert "man" not in told("Mr Pock rang the bell. Mr Pock sang. “Not a word,” the man told her.")


def test_a_sound_is_nobody_and_whoever_makes_it_does_so():
    text = "Tock, tock, tock, went the woodpecker. The woodpecker sat in the oak."
    assert set(told(text)) == {"woodpecker"}
    assert shots("Clip, clop, went the old horse.")[0].cast == ("new:old horse",)


def test_all_of_a_town_is_no_single_person():
    assert "London" not in told("The river froze, and all of London walked about on it. Kit sold bread.")


def test_whose_kitchen_it_is_is_written_as_the_name_is():
    text = "Max ate toast in the kitchen. Max ran. That evening they all ate in Ruby's kitchen. Ruby sang."
    assert "Ruby’s kitchen" in {c.name for c in discovered(prose.read(text)) if c.kind == "setting"}
