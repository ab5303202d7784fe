"""One sentence behind another: who is to be seen in it and where it is, in as many ways as English has of telling it."""

import re
from pathlib import Path

import pytest

from juxtaform.core.text.candidates import story_of
from juxtaform.formats import prose

TEXTS = Path(__file__).parent.parent / "texts"


def told(name):
    lines = (TEXTS / name).read_text("utf-8").splitlines()
    return [tuple(x.strip() for x in line.rsplit("|", 1)) for line in lines if not line.startswith("#")]


def last_of(text, more=""):
    """The piece of the last sentence; `more` goes on behind it."""
    begins = max((m.end() for m in re.finditer(r"[.!?]\s+(?=\w)|[.!?]”\s+(?=[A-Z])", text)), default=0)
    begins = text.index("“") if "“" in text[:begins] and "”" in text[begins:] else begins
    return next(p for p in story_of(prose.read(f"{text} {more}")).pieces(0) if p.end > begins)


@pytest.mark.parametrize(("text", "who"), told("who.txt"))
def test_who_is_to_be_seen(text, who):
    names = {*re.findall(r"\b(?:Tom|Mia|Ned|Lou|Dad|Mum)\b", text), *(w for w in who.split() if w.islower())}
    everybody = (w if w[0].isupper() else f"the {w}" for w in sorted(names))
    more = " ".join(f"Afterwards {w} ran. Then {w} laughed." for w in everybody)
    assert {p.removeprefix("new:").split()[-1] for p in last_of(text, more).people} == set(who.split())


@pytest.mark.parametrize(("text", "where"), told("where.txt"))
def test_where_it_is(text, where):
    place = story_of(prose.read(text)).pieces(0)[-1].place.removeprefix("new:")
    assert (place.split()[-1] if place else "-") == where


@pytest.mark.parametrize(("text", "who"), told("cast.txt"))
def test_who_is_somebody(text, who):
    people = story_of(prose.read(text)).pieces(0)[-1].people
    assert {p.removeprefix("new:").split()[-1] for p in people} == set(who.split())
