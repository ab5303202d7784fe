"""One sentence behind another: who is to be seen in it, who says it, where and when it is, in as many ways as English has of telling it."""

import re
from pathlib import Path

import pytest

from juxtaform.core.text.breakdown import breakdown
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


def and_so_on(text, who):
    """A few sentences more about everybody, so that all are surely somebody."""
    names = {*re.findall(r"\b(?:Tom|Mia|Ned|Lou|Dad|Mum)\b", text), *(w for w in who.split() if w.islower())}
    everybody = (w if w[0].isupper() else f"the {w}" for w in sorted(names))
    return " ".join(f"Afterwards {w} ran. Then {w} laughed." for w in everybody)


@pytest.mark.parametrize(("text", "who"), told("who.txt"))
def test_who_is_to_be_seen(text, who):
    people = last_of(text, and_so_on(text, who)).people
    assert {p.removeprefix("new:").split()[-1] for p in people} == set(who.split())


@pytest.mark.parametrize(("text", "who"), told("says.txt"))
def test_who_says_it(text, who):
    story = text.replace("\\n", "\n") + "\n\n" + and_so_on(text, who)
    lines = [line for scene in breakdown(prose.read(story)) for shot in scene.shots for line in shot.lines]
    assert [line.speaker.removeprefix("new:").split()[-1] for line in lines if line.speaker] == who.split()


@pytest.mark.parametrize(("text", "where"), told("where.txt"))
def test_where_it_is(text, where):
    place = story_of(prose.read(text)).pieces(0)[-1].place.removeprefix("new:")
    assert (place.split()[-1] if place else "-") == where


@pytest.mark.parametrize(("text", "who"), told("cast.txt"))
def test_who_is_somebody(text, who):
    people = story_of(prose.read(text)).pieces(0)[-1].people
    assert {p.removeprefix("new:").split()[-1] for p in people} == set(who.split())


@pytest.mark.parametrize(("text", "when"), told("when.txt"))
def test_when_it_is(text, when):
    assert (breakdown(prose.read(f"{text} Tom laughed. Tom ran."))[0].shots[0].time or "-") == when
