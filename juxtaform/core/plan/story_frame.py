"""A story frame: from a premise, a tone, a length and a cast to beats, each with a purpose, a share and a question.

The shapes are common property of story telling: Aristotle's beginning, middle and end (Poetics, 7); the five parts of
G. Freytag, "Die Technik des Dramas", 1863; the four steps ki-shō-ten-ketsu of East Asian composition; the three tries
and the refrain of folk tales (A. Olrik, "Epic Laws of Folk Narrative", 1909); the journey there and back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

Shape = Literal["three acts", "five parts", "four turns", "three tries", "there and back", "round"]


@dataclass(frozen=True)
class CastMember:
    """Somebody in the story: a name, and one line about them."""

    name: str
    line: str = ""


@dataclass(frozen=True)
class Beat:
    """A step of a story: its title, what it is for, its share of the time 0..1, who is suggested for it, and a question for
    the writer to answer."""

    title: str
    purpose: str
    share: float
    cast: tuple[str, ...]
    question: str


_SHAPES: dict[Shape, tuple[tuple[str, str, float, str, str], ...]] = {
    "three acts": (
        (
            "The usual day",
            "Show the world as it is before anything happens.",
            0.12,
            "lead",
            "What does {lead} do every day, and what is missing from it?",
        ),
        (
            "Something happens",
            "The thing that cannot be undone.",
            0.10,
            "lead other",
            "What happens to {lead} that cannot be put back?",
        ),
        (
            "The way in",
            "The lead takes it up and leaves the usual day.",
            0.14,
            "lead other",
            "Why does {lead} go, and not somebody else?",
        ),
        (
            "It goes well",
            "What was promised by the premise: {premise}",
            0.18,
            "all",
            "What is the picture everybody will remember?",
        ),
        (
            "It goes wrong",
            "What was won is lost, and it is the lead's own doing.",
            0.18,
            "all",
            "What does {lead} get wrong?",
        ),
        (
            "The lowest point",
            "Nothing works any more; somebody sees why.",
            0.10,
            "lead",
            "What does {lead} understand, alone, that they did not want to?",
        ),
        (
            "The last try",
            "Done another way.",
            0.12,
            "all",
            "What does {lead} do now that they would not have done at the start?",
        ),
        (
            "The day after",
            "The usual day, changed.",
            0.06,
            "lead other",
            "What is in the last picture that was not in the first?",
        ),
    ),
    "five parts": (
        ("Exposition", "Who, where, and what is wanted.", 0.18, "lead other", "What does {lead} want, in one word?"),
        ("Rising", "Each step makes turning back harder.", 0.26, "all", "Which door closes behind {lead}?"),
        ("The turn", "The middle, after which nothing is as before.", 0.16, "all", "What is decided here?"),
        ("Falling", "What was done comes back.", 0.24, "all", "Who has to pay, and with what?"),
        ("Outcome", "How it stands in the end.", 0.16, "lead other", "Who is in the last picture, and who is not?"),
    ),
    "four turns": (
        ("Opening", "Something small and plain.", 0.25, "lead", "What is simply there, where {lead} is?"),
        (
            "Going on",
            "The same, a little further; no quarrel is needed.",
            0.30,
            "lead other",
            "What more do we see of it?",
        ),
        (
            "The other thing",
            "Something that does not seem to belong.",
            0.25,
            "other",
            "What is the last thing one would expect here?",
        ),
        (
            "Together",
            "What the two have to do with each other.",
            0.20,
            "all",
            "What do we see now in the first picture?",
        ),
    ),
    "three tries": (
        ("The trouble", "What has to be done, and why it is hard.", 0.16, "lead", "What must {lead} do?"),
        ("First try", "The obvious way; it fails.", 0.18, "lead other", "What is the first thing anybody would try?"),
        ("Second try", "Harder, bigger, sillier; it fails better.", 0.20, "lead other", "How does it get worse?"),
        ("The pause", "Quiet. Somebody small says something.", 0.12, "other", "Who has been watching all the time?"),
        ("Third try", "The third time is different.", 0.22, "all", "What was there from the beginning?"),
        ("And so", "How it is now.", 0.12, "all", "What do they do with it?"),
    ),
    "there and back": (
        (
            "At home",
            "The place that will be missed.",
            0.12,
            "lead",
            "What is the best thing about home, though {lead} does not know it?",
        ),
        ("Away", "The step over the sill.", 0.12, "lead", "What does {lead} take along?"),
        ("The strange place", "Its rules, found out one by one.", 0.26, "all", "What is the other way round there?"),
        ("The price", "What it costs to stay, or to leave.", 0.20, "all", "What must be given?"),
        (
            "The way back",
            "The same way, seen from the other end.",
            0.18,
            "lead",
            "Which picture from the way out comes again?",
        ),
        (
            "Home again",
            "Home is as it was; the lead is not.",
            0.12,
            "lead other",
            "What does {lead} bring, and who notices?",
        ),
    ),
    "round": (
        ("It begins", "Somebody has something, or wants it.", 0.16, "lead", "What is it that goes round?"),
        ("To the next", "It passes on, and changes a little.", 0.22, "other", "Who gets it, and what for?"),
        ("And the next", "Faster.", 0.22, "all", "What does nobody notice?"),
        ("Too far", "As far from the beginning as can be.", 0.22, "all", "What has become of it?"),
        (
            "Back where it began",
            "The same picture as the first, and it means something else.",
            0.18,
            "lead",
            "Why does {lead} smile?",
        ),
    ),
}
SHAPES: tuple[Shape, ...] = tuple(_SHAPES)

_TONES: tuple[tuple[str, str], ...] = (
    ("funny", "Where is the joke that only the picture tells?"),
    ("quiet", "Which picture has no words at all?"),
    ("scary", "What is not shown?"),
    ("sad", "What do they keep?"),
    ("warm", "Who is touched, and where is the light?"),
    ("adventur", "What is risked in this beat?"),
)


def story_frame(
    premise: str, tone: str = "", cast: Sequence[CastMember] = (), shape: Shape = "three acts"
) -> tuple[Beat, ...]:
    """The beats of a story in a shape; shares sum to 1. The first of the cast is the lead.

    >>> [(b.title, b.share) for b in story_frame("A crab minds the tide.", shape="four turns")][:2]
    [('Opening', 0.25), ('Going on', 0.3)]
    """
    names = [c.name for c in cast if c.name.strip()]
    lead = names[0] if names else "the lead"
    rest = names[1:]
    asked = next((question for word, question in _TONES if word in tone.casefold()), "")
    beats = []
    for i, (title, purpose, share, who, question) in enumerate(_SHAPES[shape]):
        people = {
            "lead": names[:1],
            "lead other": names[:2],
            "other": rest[i % len(rest) :][:1] if rest else names[:1],
            "all": names,
        }[who]
        story = premise.strip().rstrip(".") or "the premise"
        whole = question.format(lead=lead) + (f" {asked}" if asked and i == len(_SHAPES[shape]) // 2 else "")
        beats.append(Beat(title, purpose.format(premise=story + "."), share, tuple(people), whole))
    return tuple(beats)


def shared_out(shares: Sequence[float], total: float) -> list[float]:
    """A length shared out over beats in proportion, whole numbers for pages or tenths for seconds alike.

    >>> shared_out([0.5, 0.25, 0.25], 120.0)
    [60.0, 30.0, 30.0]
    """
    whole = sum(shares)
    return [round(total * share / whole, 1) if whole > 0 else 0.0 for share in shares]
