"""The word lists beside the code: each is asked for, tells its source, and holds no word twice."""

import re
from importlib.resources import files
from pathlib import Path

import pytest

from juxtaform.core.brief.stylewords import HUE
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.lists import parsed_lists, word_lists

CORE = Path(__file__).parent.parent.parent / "juxtaform/core"
FILES = [
    ("juxtaform.core.text", "english.txt"),
    ("juxtaform.core.text", "german.txt"),
    ("juxtaform.core.text", "french.txt"),
    ("juxtaform.core.text", "spanish.txt"),
    ("juxtaform.core.text.english", "lists.txt"),
    ("juxtaform.core.text.english", "wordnet_lists.txt"),
    ("juxtaform.core.brief", "lists.txt"),
]


@pytest.mark.parametrize(("package", "file"), FILES)
def test_every_list_is_asked_for_tells_its_source_and_holds_no_word_twice(package, file):
    text = files(package).joinpath(f"data/{file}").read_text("utf-8")
    assert "# Source:" in text
    code = "\n".join(path.read_text("utf-8") for path in CORE.rglob("*.py"))
    for name, groups in word_lists(package, file).groups.items():
        assert re.search(rf'["\x27]{re.escape(name)}["\x27]', code), f"nobody asks for {name}"
        for words in groups.values():
            assert words, f"{name} is empty"
            assert sorted(set(words)) == sorted(words), f"{name} has a word twice"


def test_words_before_the_first_list_and_a_list_that_stands_twice_are_told():
    with pytest.raises(ValueError, match="before the first list"):
        parsed_lists("mother father")
    with pytest.raises(ValueError, match="stands twice"):
        parsed_lists("[kin]\nmother\n[kin]\nfather")


def test_a_list_that_nobody_wrote_is_an_error():
    with pytest.raises(KeyError):
        word_lists("juxtaform.core.brief").words("no such list")


def test_what_wordnet_knows_of_going_of_pictures_and_of_colours():
    assert {"trudge", "gallop", "wade", "dash"} <= lx.TRAVELS
    assert lx.TRAVELS.isdisjoint({"sit", "think", "fall", "go"})
    assert {"statue", "photograph", "effigy", "daguerreotype"} <= lx.KNOWN.words("depictions")
    assert [HUE[w] for w in ("maroon", "ultramarine", "mustard")] == ["red", "blue", "yellow"]
