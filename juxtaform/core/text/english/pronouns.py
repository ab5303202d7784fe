"""Whom a pronoun or a counted few mean: the nearest who fit, and for several those who are told of together."""

from __future__ import annotations

from dataclasses import dataclass, field

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.cast import Cast
from juxtaform.core.text.english.deeds import Deed
from juxtaform.core.text.english.phrases import ALL, Phrase
from juxtaform.core.text.english.register import Being

REMEMBERED = 6
"""Sentences that a pronoun reaches back at most."""
NEXT_TO_EACH_OTHER = 2
"""So many sentences back those may stand who did something one after the other, each alone."""
_SIDE = {"she": "f", "her": "f", "hers": "f", "herself": "f", "he": "m", "him": "m", "his": "m", "himself": "m"}
_SEVERAL = lx.GRAMMAR.words("several")
_WE = frozenset("we us ourselves".split())
_ALL = frozenset("everyone everybody".split())
_ANYBODY = ("I", "you")
_COUNTLESS = lx.GRAMMAR.words("countless")
_OF_THE_LIVING = "STVFBEX"
"""Deeds that only the living do: say, think, see, feel, laugh, eat, play."""
_BY_ONESELF = frozenset("beside behind before above below beneath under over around about near".split()) | {
    "in front of"
}
_TAKEN_ALONG = lx.GRAMMAR.words("taken along")
_DOES = lx.GRAMMAR.words("does")
_USUAL_DEEDS = frozenset("be have do go come look see get".split())
_COMES_ON = lx.GRAMMAR.words("comes on")
_NO_OBJECT = frozenset("his its their".split())


@dataclass
class Spoken:
    """What a sentence spoke of, as the pronouns of the next ones need it: its people, those who act first, but who is only one of a group that it names last;
    those of them who do something together, and those who are named alone; whether its subject is a thing, or several things, or people who are nobody of the cast."""

    people: list[Being] = field(default_factory=list)
    together: list[Being] = field(default_factory=list)
    alone: list[Being] = field(default_factory=list)
    thing: bool = False
    things: bool = False
    crowd: bool = False
    last: Being | None = None
    """Who was named last, as who does something or to whom it is done, if no thing was."""
    begins: bool = False
    """Whether it begins a paragraph."""
    unseen: list[Being] = field(default_factory=list)
    """Those of its people who are only thought of, wished for or told not to be there."""


@dataclass
class Memory:
    """What is remembered of whom was spoken of while a scene is read."""

    recent: list[Spoken] = field(default_factory=list)
    earlier: list[Spoken] = field(default_factory=list)
    """The end of the scene before: `the three of them` reaches over a heading, a pronoun does not."""
    team: list[Being] = field(default_factory=list)
    """Who did something together last."""
    speakers: list[Being] = field(default_factory=list)
    said_last: bool = False
    we: list[Being] = field(default_factory=list)
    learning: bool = False
    """Whether what pronouns show of whom they name is remembered."""
    paragraph: bool = False
    """Whether the sentence at hand begins a paragraph."""
    now: Spoken = field(default_factory=Spoken)
    """The sentence at hand, as far as it is read."""
    who: dict[int, list[Being]] = field(default_factory=dict)
    """Whom each phrase of the sentence at hand means, by the phrase's identity."""
    parts: dict[int, Phrase] = field(default_factory=dict)
    """The phrase of which each phrase of the sentence at hand is the whole: `the three` of `the three of them`."""
    did: dict[str, Being] = field(default_factory=dict)
    """Who did a deed last, by its verb."""
    doing: dict[int, list[Being]] = field(default_factory=dict)
    """Who does each deed of the sentence at hand, by the deed's identity."""

    def begin(self, phrases: list[Phrase], paragraph: bool = False) -> None:
        """Begin a sentence, and with it a paragraph or not."""
        self.now, self.who, self.doing, self.paragraph = Spoken(begins=paragraph), {}, {}, paragraph
        self.parts = {id(p.of): p for p in phrases if p.of is not None}

    def read(self, p: Phrase, beings: list[Being]) -> None:
        """Remember whom a phrase of the sentence at hand means."""
        self.who[id(p)] = beings
        alive = [b for b in beings if b.kind == "character"]
        self.now.people += [b for b in alive if b not in self.now.people]
        if len(alive) == 1:
            self.now.alone += alive
        if p.role in ("subject", "object") and not p.pronoun:
            self.now.last = alive[0] if len(alive) == 1 else None
        if p.role == "subject" and p.deed is not None and not p.unreal:
            doing = self.doing.setdefault(id(p.deed), [])
            doing += [b for b in alive if b not in doing]
            if len(doing) > 1:
                self.now.together = doing
            elif len(doing) == 1:
                self.did[p.deed.verb] = doing[0]
        self.now.crowd = self.now.crowd or (not beings and _is_crowd(p))
        if is_thing(p):
            self.now.thing = self.now.thing or not p.several
            self.now.things = self.now.things or p.several

    def end(self, people: list[Being]) -> None:
        """End a sentence in which these were, those who act first."""
        alone = [b for b in people if b in self.now.alone]
        self.now.people = [*alone, *(b for b in people if b not in alone)]
        if len(self.now.together) > 1:
            self.team = self.now.together
        self.remember(self.now)

    def remember(self, spoken: Spoken) -> None:
        self.recent.append(spoken)
        del self.recent[:-REMEMBERED]

    def reach(self) -> list[Spoken]:
        """What pronouns may mean, the nearest first: the sentence at hand, and those before it."""
        return [self.now, *reversed(self.recent)]


def is_thing(p: Phrase) -> bool:
    """Whether a phrase is what a sentence speaks of, and no living being: `an apple lay on the altar`."""
    thing = not p.name and not p.pronoun and lx.meaning(p.head).kinds and lx.living(p.head) < 0.2
    return bool(thing) and p.role == "subject"


def _is_crowd(p: Phrase) -> bool:
    """Whether a phrase is people whom a sentence speaks of: `there were people all down the street`."""
    several = p.several or lx.meaning(p.head).share("G") > 0.6
    return (
        several
        and not p.name
        and not p.pronoun
        and p.role == "subject"
        and not p.unreal
        and lx.living(lx.singular(p.head)) > 0.4
    )


def _by_oneself(p: Phrase) -> bool:
    """Whether a phrase tells what somebody has by them, and so who does the deed: `she stood with a goose beside her`, `she took the goose with her`."""
    deed = p.deed
    if p.role != "at" or deed is None:
        return False
    before = next((q for q in (*deed.objects, *deed.at) if q is not p and q.last < p.first <= q.last + 2), None)
    if before is None or before.pronoun:
        return False
    along = p.prep == "with" and before.role == "object" and deed.verb in _TAKEN_ALONG
    return along or (before.prep == "with" and p.prep in _BY_ONESELF)


class Pronouns:
    """Finds whom the pronouns of a story mean."""

    def __init__(self, cast: Cast) -> None:
        self.cast = cast

    def meant(self, word: str, p: Phrase, memory: Memory, weight: int) -> list[Being]:
        """Whom a pronoun, or the owner of a phrase, means. `weight` is how much it tells of somebody's sex."""
        if word == "themselves" and p.deed is not None and p.deed.subjects:
            return _who_does(p.deed, memory)
        if word in _SIDE:
            return self._one(_SIDE[word], word, p, memory, weight)
        if word in _SEVERAL:
            return self._several(word, p, memory)
        if word in _ALL:
            return self.together(memory, 3)
        if word == "each" and p.role == "subject":
            return self.together(memory, 2)
        if word == "one" and p.role == "subject" and p.deed is not None and not p.deed.modal:
            return next(([b] for b in (memory.recent[-1].people if memory.recent else ()) if b.several), [])
        narrator = self.cast.called("i")
        if word in ("i", "me", "myself", "my") and narrator is not None:
            return [narrator]
        if word in _WE and narrator is not None:
            return self._we(narrator, memory)
        if word in ("you", "yourself") and (you := self.cast.called("you")) is not None:
            return [you]
        if word in ("it", "its", "itself"):
            return self._it(word, p, memory)
        return []

    def counted_off(self, p: Phrase, memory: Memory) -> list[Being]:
        """`the eldest`, `the taller one`, `the three`, `the other two`: somebody of the group that was named last, or all of it."""
        names = [p.head, *(f"{lx.plain_form(d)} one" for d in p.described)]
        for name in names:
            if (own := self.cast.called(name)) is not None and own.kind == "character":
                return [own]
        if p.head == "#" and p.role == "is" and not p.det:
            return []  # `who was seven`
        if p.head == "#" and "other" in p.described:
            did = memory.recent[-1].people if memory.recent else []
            others = [b for b in memory.team if b not in did]
            return others if len(others) == p.count else []
        if p.head == "#" and p.det in ("the", "these", "those", "both", "all") and p.count > 1:
            return self.together(memory, p.count, counted=True)
        for spoken in reversed(memory.recent):
            for b in spoken.people:
                if b.several:
                    return [b] if p.head in ("one", "#", "other") or p.head.endswith(("er", "est")) else []
        return []

    def together(self, memory: Memory, count: int, *, counted: bool = False) -> list[Being]:
        """Those who were named last; where it is said how many, also from before the scene."""
        if counted and 1 < len(memory.team) < count:
            near = [b for s in reversed(memory.recent) for b in s.people if b.kind == "character" and not b.several]
            more = dict.fromkeys(b for b in near if b.counted and b not in memory.team)
            if len(memory.team) + len(more) >= count:
                return [*memory.team, *more][:count]
        found: dict[str, Being] = {}
        for spoken in reversed([*memory.earlier, *memory.recent] if counted else memory.recent):
            for b in spoken.people:
                if b.kind == "character":
                    for one in b.members or [b]:
                        found[one.id] = one
            if len(found) >= max(2, count) or any(b.several for b in found.values()):
                break
        return list(found.values()) if len(found) >= 2 or any(b.several for b in found.values()) else []

    # One

    def _one(self, side: str, word: str, p: Phrase, memory: Memory, weight: int) -> list[Being]:
        spoken = memory.reach()
        reach = [[b for b in s.people if b.kind == "character"] for s in spoken]
        barred = self._barred(word, p, memory)
        answer = self._answers(p, memory)
        anybody = any(b.counted for group in reach for b in group)
        if (again := self._again(side, p, memory)) is not None:
            return [again]
        likelier = any(b.likely() == side and b not in barred and not b.several for group in reach for b in group)
        for group, s in zip(reach, spoken, strict=True):
            fits = [
                b
                for b in group
                if b not in barred and not b.several and b.side() in (side, "") and b.name not in _ANYBODY
            ]
            fits = [b for b in fits if b.counted or not anybody]
            fits = [b for b in fits if b not in s.unseen] or fits  # `If only Dad were here, thought Tom. He sniffed.`
            fits = [b for b in fits if b.likely() in (side, "") or not likelier]  # Peter is not she where Ruby is near
            alone = [b for b in fits if b in s.alone] or fits
            sure = [b for b in alone if b.side() == side] or [b for b in alone if b.likely() == side]
            sure = sure or [b for b in alone if not b.likely()] or alone
            own = bool(sure) and bool(p.owning) and p.deed is not None and sure[0] in _who_does(p.deed, memory)
            far = p.role != "subject" or group not in reach[:2]
            if sure and sure[0].creature and not sure[0].side() and far and not own:
                human = next(
                    (b for r in reach for b in r if b not in barred and b.side() == side and not b.several), None
                )
                sure = [human] if human is not None else sure
            on_a_body = p.owning and p.prep in ("on", "onto") and lx.meaning(p.head).share("B") > 0.5
            if (
                likelier
                and on_a_body
                and p.deed is not None
                and p.deed.verb in _COMES_ON
                and all(b.name[:1].islower() and not b.likely() for b in sure)
            ):
                continue  # `The dragon sat on her head`
            if not sure:
                continue
            who = sure[0]
            if answer is not None and who is answer and not who.side() and group is not reach[0]:
                others = (b for r in reach[1:] for b in r if b is not answer and not b.several)
                who = next((b for b in others if b.side() in (side, "") and b.name not in _ANYBODY), None) or who
            if memory.learning:
                who.sex[side] += weight
            return [who]
        return []

    @staticmethod
    def _again(side: str, p: Phrase, memory: Memory) -> Being | None:
        """Who did what a paragraph begins with before: `He met a hen. “No,” said the hen.` and then `He met a goose.`"""
        if (
            not memory.paragraph
            or p.role != "subject"
            or p.deed is None
            or p.deed.verb in _USUAL_DEEDS
            or p.deed.does("S") > 0.4
        ):
            return None
        who = memory.did.get(p.deed.verb)
        return who if who is not None and who.side() in (side, "") else None

    @staticmethod
    def _barred(word: str, p: Phrase, memory: Memory) -> list[Being]:
        """Who does the deed to whom a pronoun cannot mean: `she saw her`."""
        if p.role not in ("object", "at") or p.deed is None or word.endswith("self") or word in _NO_OBJECT or p.owning:
            return []
        if word in _DOES:  # `as far as she could`
            return []
        if _by_oneself(p):
            return []
        return _who_does(p.deed, memory)

    @staticmethod
    def _answers(p: Phrase, memory: Memory) -> Being | None:
        """Who spoke last, if the pronoun is who says what comes next."""
        says = p.deed is not None and p.deed.does("S") > 0.4 and p.role == "subject"
        return memory.speakers[-1] if memory.speakers and memory.said_last and says else None

    def _it(self, word: str, p: Phrase, memory: Memory) -> list[Being]:
        deed, subject = p.deed, p.role == "subject"
        if word == "its" and deed is not None and p.role in ("object", "at"):
            for b in (b for s in deed.subjects for b in memory.who.get(id(s), [])):
                b.creature = b.creature or (b.kind == "character" and not b.side())
        if subject and deed is not None and deed.does("W") > 0.3:
            return []
        barred = self._barred(word, p, memory)
        for back, spoken in enumerate(memory.reach()[:3]):
            fits = [
                b
                for b in spoken.people
                if b.kind == "character"
                and b not in barred
                and b.creature
                and not b.several
                and (b.side() not in ("f", "m") or b.sex["n"] > 0)
            ]
            if not fits and back and spoken.thing:
                return []
            if fits and (subject or word == "its"):
                if memory.learning:
                    fits[0].sex["n"] += 1
                return fits[:1]
            done_to = p.role == "object" or (p.role == "at" and p.prep in ("at", "to", "after", "with"))
            if back == 1 and word == "it" and done_to and spoken.last in fits:
                return [spoken.last] if spoken.last is not None else []  # `Tom found a frog. He kissed it.`
            if back and spoken.begins:
                return []  # What `it` is was named in this paragraph, or last in the one before.
        return []

    # Several

    def _several(self, word: str, p: Phrase, memory: Memory) -> list[Being]:
        part = memory.parts.get(id(p))
        if part is not None and part.head in _COUNTLESS:
            return []
        if part is not None and part.head == "#" and part.det:
            return memory.who.get(id(part), [])
        if p.count == ALL and p.role == "subject":  # `They all turned round`
            near = self.together(memory, ALL, counted=True)
            everyone = [b for b in near if not b.creature or b in memory.team]
            if len(everyone) >= ALL:
                return everyone
        barred, reach = self._not_among(word, p, memory), memory.reach()
        counted = {b.id: b for s in reach for b in s.people if b.kind == "character" and b.counted}
        anybody = len(counted) > 1 or any(b.several for b in counted.values())
        of_the_living = p.deed is not None and p.deed.does(_OF_THE_LIVING) > 0.4
        one_each: list[Being] = []
        for back, spoken in enumerate(reach):
            people = [
                b for b in spoken.people if b.kind == "character" and b not in barred and (b.counted or not anybody)
            ]
            together = [b for b in spoken.together if b in people]
            several = [b for b in people if b.several]
            if memory.paragraph and back and len(memory.team) > 1 and p.role == "subject":
                # A new paragraph goes on with those who do things together, not with some who were seen once: Two policemen saluted.
                people = [b for b in people if not b.several or b.mentions > 1]
                several = [b for b in several if b in people]
            if len(together) > 1:
                return [m for b in together for m in b.members or [b]]
            if several and (back or not barred):
                return several[0].members or [several[0]]
            if len(people) > 1:
                return _with_whom_they_were(people, one_each, reach[back:])
            side_by_side = len(one_each) == len(people) == 1 and people != one_each and back <= NEXT_TO_EACH_OTHER
            near_team = any(b in memory.team for s in reach[: back + 1] for b in s.people)
            if side_by_side and p.role == "subject" and not near_team:
                return [*people, *one_each]  # `Tam held up his claws. The girl held up her hands. They laughed.`
            one_each = one_each or [b for b in people if b in spoken.alone]
            if spoken.crowd and not people and p.role == "subject":
                return []
            if back < 2 and spoken.things and not of_the_living and p.role == "subject":
                return []
        if len(memory.team) > 1 and not any(b in barred for b in memory.team):
            return memory.team
        # A scene may begin with those of the one before: They went on.
        begins = p.role == "subject" and not any(s.people for s in memory.recent)
        return self.together(memory, 2, counted=begins)

    def _not_among(self, word: str, p: Phrase, memory: Memory) -> list[Being]:
        """Whom `they` and `them` cannot mean: who does it to them, with all that they are of, and who is told what they did to me."""
        barred = self._barred(word, p, memory)
        if p.deed is None:
            return barred
        if barred:
            barred += [b for s in p.deed.subjects for b in memory.who.get(id(s.of), [])]
        done_to = (*p.deed.objects, *p.deed.at)
        if p.role == "subject":  # `They heard him`
            alone = (o for o in done_to if o.pronoun in _SIDE and o.start > p.start)
            barred += [b for o in alone for b in self._one(_SIDE[o.pronoun], o.pronoun, o, memory, 0)]
        to_me = any(o.pronoun in ("me", "us") for o in done_to)
        narrator = self.cast.called("i")
        return [*barred, narrator] if narrator is not None and to_me and p.role == "subject" else barred

    @staticmethod
    def _we(narrator: Being, memory: Memory) -> list[Being]:
        if not memory.we:
            groups = [[b for b in s.people if b.kind == "character"] for s in memory.reach()]
            with_me = next(([b for b in g if b is not narrator] for g in groups if narrator in g and len(g) > 1), None)
            others = with_me if with_me is not None else [b for g in groups for b in g if b is not narrator][:1]
            if others:
                memory.we = [narrator, *others[:3]]
        return memory.we or [narrator]


def _who_does(deed: Deed, memory: Memory) -> list[Being]:
    """Who does a deed of the sentence at hand, as far as it is read."""
    return [b for s in deed.subjects for b in memory.who.get(id(s), [])]


def _with_whom_they_were(people: list[Being], acted: list[Being], before: list[Spoken]) -> list[Being]:
    """Some people, and with them who acted alone after them, where all of these were told of together before: `Rumi met the twins. Chidi saw Chike. Rumi got
    her shoes. They left.`"""
    everyone = [*(b for b in acted if b not in people), *people]
    return everyone if any(set(everyone) <= set(s.people) for s in before) else people
