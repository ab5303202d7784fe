"""What a text shows of each name, noun and place before anybody is told: how often it stands there, acts, speaks, is in somebody's hands, is where people are."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import takewhile

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.clauses import INNER
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.first_words import OF_THINGS, OF_TIMES, is_time
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.places import COMES, PLACE, STAYS, is_a_day, moving, place_key, placed
from juxtaform.core.text.english.sentences import Read
from juxtaform.core.text.english.tagging import Token
from juxtaform.core.text.english.whereabouts import Moved

_FEELINGS = lx.GRAMMAR.words("feelings")
_BRINGS_IN = lx.GRAMMAR.words("brings in")
_CARRIES = lx.GRAMMAR.words("carries")
_LAUGHS = lx.GRAMMAR.words("laughs")
_ON_FEET = lx.GRAMMAR.words("on feet")
_OPENS = {"–": "–", "—": "—", "(": ")", ",": ",", ":": "."}
"""Marks before a name that tells who somebody is, and what stands behind it."""
MOST_BETWEEN = 9
"""Words between somebody and the name that is set behind them."""
ACTED = 5
"""How many who acted before are remembered, until a name is given to one of them."""
_SIDE = {"her": "f", "his": "m"}


@dataclass
class Seen:
    """What the text shows of a name or noun: how often it stands there, acts, speaks, does what only somebody does, is spoken to, is a place, and how it is described."""

    count: int = 0
    acts: float = 0.0
    speaks: int = 0
    wills: int = 0
    laughs: int = 0
    called_to: int = 0
    at: int = 0
    weak: float = 0.0
    described: Counter[str] = field(default_factory=Counter)
    heads: Counter[str] = field(default_factory=Counter)
    handled: int = 0
    carried: int = 0
    """How often it is held, carried, dropped or hidden: what only a thing is."""
    owned: int = 0
    first: int = 10**9
    moves: int = 0
    number: int = 0
    known_first: bool = False
    """Whether it is spoken of as known when it is named first: `the children` are then those who were named before."""


class Evidence:
    """All that sentences show: of names, of nouns (by lemma and whether there are several) and of places; what is set beside what; groups and who follows them."""

    def __init__(self, reads: Sequence[Read], went: Mapping[int, Moved], *, in_fragments: bool = False) -> None:
        self._alone = 1.0 if in_fragments else 0.0
        """What it counts for a name that it stands without a verb: a shot list so tells who is to be seen (`Nils and the ferryman.`)."""
        self.names: defaultdict[str, Seen] = defaultdict(Seen)
        self.nouns: defaultdict[tuple[str, bool], Seen] = defaultdict(Seen)
        self.places: defaultdict[str, Seen] = defaultdict(Seen)
        self.beside: list[tuple[str, str]] = []
        self.same: list[tuple[str, str]] = []
        """Names that the text says are of one: `Bean, whose real name was Beatrice`."""
        self.given: set[str] = set()
        """Names that the text gives to somebody: `the bear's name was Monday`."""
        self.shown: dict[str, str] = {}
        self.groups: list[tuple[str, list[str]]] = []
        self.whole: Counter[str] = Counter()
        self.introduced: set[str] = set()
        self.nominals: Counter[str] = Counter()
        self.nominal_at: dict[str, int] = {}
        self._spoken = False
        self.me: list[str] = []
        """What who tells the story calls itself: `I am a small snail`, `my name is Ines`."""
        self._acted: list[Phrase] = []
        self._order = 0
        self._phrases: list[Phrase] = []
        self._tokens: list[Token] = []
        self._deeds: list[Deed] = []
        for read in reads:
            self._spoken = bool(read.said)
            self._look(read)
            if (moved := went.get(read.start)) is not None and not moved.phrase.name:
                self._went_to(moved)

    def _look(self, read: Read) -> None:
        phrases = self._phrases = read.sentence.phrases
        self._tokens, self._deeds = read.sentence.tokens, read.sentence.deeds
        for i, p in enumerate(phrases):
            if p.several and not p.name and not p.pronoun and lx.living(p.head) >= 0.45:
                own = list(takewhile(lambda q: bool(q.name) and q.beside is None, phrases[i + 1 : i + 8]))
                names = [q.name for q in own if q.role in (p.role, "")]
                behind = [q.name for q in phrases[i + 1 :] if q.name and q.deed is None and q.beside is None]
                if p.count >= 2 and len(behind) == p.count:
                    self.groups.append((lx.KIN.get(p.head, p.head), behind))
                if len(names) >= 2 and phrases[i + 1].name and phrases[i + 1].first == p.last + 1:
                    self.groups.append((lx.KIN.get(p.head, p.head), names))
                    for q in own:
                        self.names[q.name].acts += q.deed is None  # they do what all of them do
        self._look_at_marks(read.sentence)
        for p in read.sentence.phrases:
            self._order += 1
            if p.pronoun or (p.role == "beside" and not p.name and p.beside is not None and not p.beside.name):
                continue
            if (p.role == "subject" and p.head != "name") or _is_brought_in(p):
                self._acted = [p, *self._acted[:ACTED]]
            if p.role == "is" and not p.unreal and _of_me(p):
                self.me.append(p.name or lx.KIN.get(p.head, p.head))
            if p.name and p.name.split()[0] not in ("Your", "My"):  # `Your Majesty` is whoever is spoken to
                self._saw_name(p)
            if p.head == "one":
                acts = p.role == "subject" and p.deed is not None and p.deed.verb != "be"
                nominal = _nominal(p)
                if nominal and nominal not in ("last", "next", "other") and (acts or nominal in lx.ORDINALS):
                    self.nominals[nominal] += 1
                    self.nominal_at.setdefault(nominal, self._order)
                continue
            if (
                p.head in lx.ORDINALS
                and p.det == "the"
                and (p.role in ("subject", "object") or (p.role == "at" and p.prep not in ("in", "on", "from", "at")))
                and p.head not in ("last", "next", "other", "middle")
            ):
                self.nominals[p.head] += 1
                self.nominal_at.setdefault(p.head, self._order)
                continue
            if p.head and p.head != "#" and not (p.name and p.head == p.name.split()[-1].casefold()):
                self._saw_noun(p)

    def _look_at_marks(self, sentence: Sentence) -> None:
        """A name between dashes or in brackets, or in capitals between commas, is that of whom the sentence tells before it: `a woman of seventy – DORA – pours`."""
        tokens = sentence.tokens
        for i, q in enumerate(self._phrases):
            begins = (
                q.first - 2
                if q.first > 2 and tokens[q.first - 1].text == "." and tokens[q.first - 2].low in lx.TITLES
                else q.first
            )
            if not q.name or begins == 0 or q.last + 1 >= len(tokens):
                continue
            opens, closes = tokens[begins - 1].text, tokens[q.last + 1].text
            if opens not in _OPENS or closes not in (",", *_OPENS[opens]) or (opens in ",:" and not q.name.isupper()):
                continue
            told = [
                p
                for p in self._phrases[max(0, i - MOST_BETWEEN) : i]
                if p.det in ("a", "an") and not p.name and not p.several and p.last >= begins - MOST_BETWEEN
            ]
            who = next((p for p in told if p.role != "at" and lx.living(p.head) >= 0.45), None)
            if who is not None:
                self.beside.append((q.name, lx.KIN.get(who.head, who.head)))

    def _went_to(self, moved: Moved) -> None:
        seen = self.places[moved.key]
        seen.count, seen.at = max(seen.count, 1), seen.at + 1
        seen.first = min(seen.first, self._order)
        if (owner := moved.phrase.owner) is not None and owner.name:
            self.shown[moved.key] = moved.key.replace(owner.name.casefold(), owner.name, 1)

    def _saw_name(self, p: Phrase) -> None:
        if self._is_a_sound(p) or self._is_all_of_a_place(p):
            return
        seen = self.names[p.name]
        seen.count += 1
        seen.first = min(seen.first, self._order)
        if p.role in ("subject", "owner", "object", "called") or p.beside is not None:
            seen.acts += {"object": 0.5, "owner": 0.3}.get(p.role, 1.0) if not p.unreal else 0.0
        elif not p.role and p.deed is None and not p.unreal:
            seen.acts += self._alone
        if (
            p.role == "at"
            and not is_a_day(p)
            and (p.prep in STAYS - {"by", "behind", "beside"} or p.prep in COMES or p.prep in ("from", "of", "towards"))
        ):
            seen.at += not _thought_or_given(p)
        if p.deed is not None and p.role == "subject" and p.deed.does("STVFB") > 0.5:
            seen.acts += 0.5
            seen.speaks += p.deed.does("S") > 0.5
            seen.wills += p.deed.verb not in OF_THINGS
        elif p.deed is not None and p.role == "subject" and is_time(p.name) and p.name.casefold() in lx.first_names():
            seen.wills += p.deed.verb not in OF_TIMES  # `June put on her boots`
        if p.head and p.head != p.name.split()[-1].casefold():
            seen.heads[p.head] += 1
            if p.several:
                self.groups.append((p.head, [p.name]))
        if p.role == "called":
            self.given.add(p.name)
        if p.role == "called" and p.deed is not None and p.deed.subjects:
            who = p.deed.subjects[0 if p.deed.finite else -1]  # `a dog, a man called Finn`
            for w in (who, who.beside) if who.role == "beside" else (who,):
                if w is not None and not w.pronoun:
                    self.beside.append((p.name, _nominal(w) or w.name or w.head))
        gap = p.deed.gap if p.deed is not None and p.deed.verb in ("call", "name") and p.deed.relative else None
        if p.role == "object" and gap is not None and not gap.pronoun:  # `the youngest, whom everybody called Pip`
            seen.acts += 1
            self.given.add(p.name)
            self.beside.append((p.name, _nominal(gap) or gap.name or gap.head))
        named = next((s for s in p.deed.subjects if s.head == "name"), None) if p.deed is not None else None
        if p.role == "is" and named is not None:
            seen.acts += 1
            self.given.add(p.name)
            owner = named.owner
            if named.owning == "whose":
                owner = self._before(named) or owner
            whose = owner if owner is not None and not owner.pronoun else self._who_acted(named.owning)
            if whose is not None and named.owning != "my":
                self.beside.append((p.name, whose.name or whose.head))
                if whose.name:
                    self.same.append((p.name, whose.name))
        if p.role == "is" and p.deed is not None and any(s.pronoun in ("this", "it") for s in p.deed.subjects):
            brought_in = next((q for q in self._acted[:1] if not q.name and q.det in ("a", "an")), None)
            if brought_in is not None and lx.living(brought_in.head) >= 0.45:  # `A man climbs out. This is Oskar.`
                self.given.add(p.name)
                self.beside.append((p.name, lx.KIN.get(brought_in.head, brought_in.head)))
        if p.beside is not None:
            self.beside.append((p.name, p.beside.name or p.beside.head))

    def _before(self, p: Phrase) -> Phrase | None:
        """Whom *whose* means: somebody who stands before it, with no more between than where they are."""
        near = [q for q in self._phrases if q.last < p.first and p.first - q.last <= MOST_BETWEEN and not q.pronoun]
        return next((q for q in reversed(near) if q.name or lx.living(q.head) >= 0.45), None)

    def _who_acted(self, owning: str) -> Phrase | None:
        """Who acted last and can be whom `her` or `his` means."""
        side = _SIDE.get(owning, "")
        fits = [p for p in self._acted if not side or _side(p) in (side, "")]
        return next((p for p in fits if side and _side(p) == side), fits[0] if fits else None)

    def _saw_noun(self, p: Phrase) -> None:
        head = lx.KIN.get(p.head, p.head)
        several = p.several
        seen = self.nouns[head, several]
        self.whole[head] += 1
        if (
            p.unreal in ("compared", "denied", "kind")
            or p.role == "called"
            or p.det in ("every", "each", "any", "neither")
        ):
            return
        definite = p.det in ("the", "this", "that", "these", "those") or bool(p.owning or p.owner)
        if not seen.count:
            seen.known_first = definite
        seen.count += 1
        seen.heads[p.head] += 1
        seen.first = min(seen.first, self._order)
        seen.number = max(seen.number, p.count)
        supposed = bool(p.unreal) or (p.deed is not None and bool(p.deed.supposed))  # `as high as a man can reach`
        if (not definite and not supposed) or (
            head in lx.ANYBODY and (set(p.described) - lx.USUAL or self._told_apart(p) or p.owner is not None)
        ):
            self.introduced.add(head)
        for d in p.described:
            seen.described[d] += 1
        deed = p.deed
        if p.beside is not None and p.beside.name:
            self.beside.append((p.beside.name, head))
        if deed is None:
            seen.acts += max(0.5, self._alone) if not p.role else 0.0
        elif p.role == "subject" and not p.unreal:
            exists = deed.verb == "be" and not deed.relative
            if not (deed.denied and deed.passive):
                seen.acts += 1.0 if not exists or deed.at or p.start > deed.start else 0.6
            if deed.does("S") > 0.4 and self._spoken:
                seen.speaks += 1
            if willed(deed, self._spoken) or self._feels(deed):
                seen.moves += 1
            seen.laughs += deed.verb in _LAUGHS
        elif p.role == "is" and not p.unreal and not deed.denied and any(s.pronoun == "it" for s in deed.subjects):
            seen.acts += 1.0 if lx.meaning(head).share("P") > 0.7 and p.det == "the" else 0.0  # `It was the postman`
        elif p.role == "object" and not deed.denied and not p.unreal and deed.verb not in ("have", "be"):
            person = lx.meaning(head).share("P") > 0.7 and lx.meaning(head).share("A") < 0.1
            if deed.verb in _BRINGS_IN and lx.living(head) >= 0.2:
                seen.acts += 1.0
                seen.moves += 1  # a lobster that is met is no dish
            elif person and not deed.relative:
                seen.acts += 1.0 if deed.does("V") < 0.5 else 0.5
            elif deed.does("MDXS") > 0.4:
                seen.acts += 0.5
        if p.role == "object" and deed is not None and (deed.does("HOKE") > 0.4 or deed.verb in _CARRIES):
            seen.handled += 1
            seen.carried += deed.verb in _CARRIES
        seen.owned += bool(p.owning or p.owner)
        if (
            p.role == "is"
            and deed is not None
            and p.det in ("a", "an")
            and not (several or deed.denied or deed.modal or p.unreal)
        ):
            # `Inspector Plum was a tortoise`
            self.beside += [(s.name, head) for s in deed.subjects[:1] if s.name and lx.living(head) >= 0.45]
        key = place_key(p)
        if key and not p.unreal:
            self._saw_place(p, key)

    def _feels(self, deed: Deed) -> bool:
        """Whether a deed says what somebody feels: `little boat is scared`."""
        if deed.verb != "be":
            return False
        after = bisect_left(self._tokens, deed.end, key=lambda t: t.start)
        return not _FEELINGS.isdisjoint(t.low for t in self._tokens[after : after + 3])

    def _is_a_sound(self, p: Phrase) -> bool:
        """Whether a word is said twice and more in a row, in small letters then: `Tock, tock, tock, went the woodpecker`."""
        behind = self._tokens[p.last + 1 : p.last + 3]
        return p.first == p.last and len(behind) == 2 and behind[0].tag == "," and behind[1].text == p.name.casefold()

    def _is_all_of_a_place(self, p: Phrase) -> bool:
        """Whether a name tells of those who live somewhere: `All of London walked about on it`."""
        begins = [t.low for t in self._tokens[p.first : p.first + 2]]
        of_all = len(begins) == 2 and begins[0] in ("all", "half", "most") and begins[1] == "of"
        return of_all and lx.capitals().get(p.name.split()[-1]) == "L"

    def _told_apart(self, p: Phrase) -> bool:
        """Whether words behind a noun tell which one is meant: `the lady in the doorway`, `the man who opened`, whom nobody named before."""
        return any(d.relative and p in d.subjects for d in self._deeds) or any(
            (q.role == "at" and q.prep in ("in", "with", "at", "from", "behind", "on") and q.first == p.last + 2)
            or (q.role == "time" and q.head == "door" and q.first == p.last + 1)  # `the boy next door`
            for q in self._phrases
        )

    def _saw_place(self, p: Phrase, key: str) -> None:
        sure = placed(p)
        if sure:
            if p.owner is not None and p.owner.name:
                self.shown[key] = key.replace(p.owner.name.casefold(), p.owner.name, 1)
            seen = self.places[key]
            seen.count += 1
            seen.at += sure > 0.6
            seen.weak += 0.0 if sure > 0.6 else 1.0 if sure >= 0.5 else 0.34
            seen.first = min(seen.first, self._order)
        elif not p.several and (
            (p.role in ("subject", "object") and lx.meaning(p.head).share("RHL") > 0.8)
            or (
                p.role in ("subject", "at")
                and p.det == "the"
                and lx.meaning(p.head if p.head not in lx.PARTS or p.of is None else p.of.head).share(PLACE) >= 0.1
            )
        ):
            seen = self.places[key]
            seen.weak += 0.5
            seen.count += 1
            seen.first = min(seen.first, self._order)


def _nominal(p: Phrase) -> str:
    """The words that tell which one of several a phrase means, `second` or `tall one`; empty for another."""
    if p.head != "one":
        return ""
    return next(
        (d if d in lx.ORDINALS else f"{lx.plain_form(d)} one" for d in p.described if d in lx.ORDINALS or lx.look(d)),
        "",
    )


def willed(deed: Deed, spoken: bool = False) -> bool:
    """Whether a deed is one that only somebody alive does: thinks, feels, looks, eats, says something in words, goes on its feet, or does something with a
    part of its own body."""
    if (
        deed.does("TFE") > 0.5
        or deed.verb in _ON_FEET
        or deed.verb in ("look", "watch", "stare", "listen", "see", "hear")
    ):
        return True
    if spoken and deed.does("S") > 0.5:
        return True
    return any(o.owning in ("his", "her", "their") and lx.meaning(o.head).share("B") > 0.5 for o in deed.objects)


def _thought_or_given(p: Phrase) -> bool:
    """Whether a preposition ties a name to a deed that no place is needed for: `passed it on to Max`, `thought of Cordelia`."""
    deed = p.deed
    if deed is None:
        return False
    to_one = bool(deed.objects) and len(p.name.split()) == 1
    given = p.prep == "to" and deed.verb != "be" and (to_one or not moving(deed))
    return given or (p.prep == "of" and deed.verb in INNER)


def _is_brought_in(p: Phrase) -> bool:
    """Whether a phrase tells who it was that came: `It was a boy with a telescope`."""
    living = not p.pronoun and p.det in ("a", "an") and lx.living(p.head) >= 0.45
    return p.role == "is" and living and p.deed is not None and any(s.pronoun == "it" for s in p.deed.subjects)


def _of_me(p: Phrase) -> bool:
    """Whether what a phrase says is said of who tells the story, now or then."""
    deed = p.deed
    if deed is None or deed.verb != "be" or deed.denied or deed.modal or not (p.name or p.det in ("a", "an", "the")):
        return False
    mine = any(s.head == "name" and s.owning == "my" for s in deed.subjects)
    return mine or (any(s.pronoun == "i" for s in deed.subjects) and (bool(p.name) or lx.living(p.head) >= 0.45))


def _side(p: Phrase) -> str:
    """Whether a name's title or a noun says that somebody is she or he."""
    return next((side for word in (*p.name.casefold().split(), p.head) if (side := lx.side_of(word))), "")
