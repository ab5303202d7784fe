"""What stands above and below a story, and how letters in it begin and end."""

import pytest

from juxtaform.formats import texts

STORY = "Otto the otter had a red umbrella, and he carried it everywhere he went that year."


def kinds(text: str) -> list[tuple[str, str]]:
    return [(p.kind, p.words) for p in texts.read(text, "prose").passages]


@pytest.mark.parametrize(
    "above",
    [
        ["THE OTTER’S UMBRELLA", "by Ana Wren"],
        ["The Otter’s Umbrella", "A picture book text", "by Ana Wren", "Word count: 440"],
        ["Ana Wren\n12 Mill Lane\nana@wren.test", "The Otter’s Umbrella"],
        ["Otto and the Umbrella by Ana Wren"],
        ["OTTER’S UMBRELLA", "Written by Ana Wren\nIllustrated by Tom Teal", "© 2026 Ana Wren"],
        ["The Otter", "For my mother"],
        ["The Otter", "Ages 3–6", "Draft 4", "about 500 words"],
        ["Der Regenschirm", "von Ana Wren", "Ein Bilderbuch"],
        ["Ana Wren", "The Otter’s Umbrella"],
    ],
)
@pytest.mark.parametrize("story", [STORY, "Otto sat down."])
def test_title_and_what_is_told_of_the_manuscript_are_no_pictures(above, story):
    told = kinds("\n\n".join([*above, story]))
    assert told == [*(("title", words.replace("\n", " ")) for words in above), ("action", story)]


@pytest.mark.parametrize(
    "text",
    [
        "The moon came up\n\nThe fox ran down.",
        "By the river sat an otter.\n\nOtto sat down.",
        "For my birthday I got a kite.\n\nOtto sat down.",
        "“Where to?”\n\nOtto looked at the river, the mill and the hill, and then at all the others of them.",
        "Otto had 300 words for rain.\n\nNone was nice.",
        "The Otter\n\nThe Umbrella",
    ],
)
def test_what_tells_the_story_stays_a_picture(text):
    assert {kind for kind, _ in kinds(text)} == {"action"}


def test_above_a_heading_a_title_and_its_writer_are_no_pictures():
    assert [k for k, _ in kinds(f"The Otter\n\nby Ana Wren\n\n# One\n\n{STORY}")] == [
        "title",
        "title",
        "scene",
        "action",
    ]


@pytest.mark.parametrize("end", ["THE END", "The End.", "– Fin –", "Ende"])
def test_the_end_is_no_picture(end):
    assert kinds(f"{STORY}\n\nOtto slept.\n\n{end}")[-1] == ("title", end)


def test_a_letter_s_first_and_last_line_belong_to_what_it_says():
    told = kinds(f"{STORY}\n\nDear Grandpa,\n\nIt rains here.\n\nThe river rose.\n\nLove,\nOtto\n\nHe folded it.")
    assert [words for _, words in told[1:]] == [
        "Dear Grandpa, It rains here.",
        "The river rose. Love, Otto",
        "He folded it.",
    ]


@pytest.mark.parametrize("again", ["@a", "a@", "by ", "1 ", "©", "love ", "Dear a"])
def test_a_long_line_above_a_story_is_read_through(again):
    assert kinds(again.strip() * 400_000 + "\n\n" + STORY)[-1] == ("action", STORY)
