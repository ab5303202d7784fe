"""Where a story goes: at each sentence it stays where it is, or one of the places that the sentence names becomes the place.

Staying has the odds 1; each mention of another place has odds by what kind of thing it is, how it is tied to the deed, and what the text showed so far (a
multinomial logit, McFadden 1974). The weights are set on stories broken down by hand (`tools/fit_story.py`), none by hand.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import exp, log1p

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.clauses import INNER
from juxtaform.core.text.english.deeds import Deed
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.places import HOLLOW, PLACE, aimed_at, fixture, moving, place_key, whole
from juxtaform.core.text.english.sentences import Read, opening
from juxtaform.core.text.weights import weights_in

LEAST = 0.6
"""Odds against staying from which on a mention becomes the place; below 1, for a story that is held back too long is wrong in every picture after."""
_TIES = tuple(lx.GRAMMAR.by_group("ties"))
_TIE = lx.GRAMMAR.group_of("ties") | {
    "in front of": "near",
    "outside of": "near",
    "out of": "from",
}
_AHEAD = frozenset(["in", "on", "at", "to", "through", "under", "up or down"])
"""Ties of a phrase that may be where a sentence ends up."""
_SORTS = {
    "place": "RHWL",
    "room": "RH",
    "holder": "VKDN",
    "thing": "OF",
    "else": "BCPAGTX",
    "way": "W",
    "land": "L",
    "body": "BC",
    "living": "PAG",
    "time": "T",
    "abstract": "X",
    "vehicle": "V",
}
_TIED_SORTS = ("place", "room", "holder", "thing", "else")
_KINDS = "RHWLVKDNO"
"""The kinds of things that can be where somebody is, each by itself."""
_PERSONS = frozenset(["he", "she", "they", "we", "i"])
_RESTS = lx.GRAMMAR.words("rests")
_ENTERS = lx.GRAMMAR.words("enters")
_PUTS = lx.GRAMMAR.words("puts")
_FURNITURE = lx.KNOWN.words("furniture")
"""Who sits or lies on it is still in the room that the story is in."""
_AS_LIKELY = 0.5
"""Of two deeds one after another the later one tells where a sentence ends up, if its place is at least so much as likely."""
_SURE = 6.0
"""Or its own odds are as high as this: `They rowed to the island and walked along the beach`."""
_BARE = lx.GRAMMAR.words("bare places")
_INHABITED = 1.0
"""Odds at least for a thing that somebody is in."""
_IS_IN = lx.GRAMMAR.words("is in")
_CARRY = frozenset(["foot", "leg", "paw", "hoof", "wing"])
_BESIDE = frozenset("behind beside by under near".split())
_SAYS_WHERE = lx.GRAMMAR.words("says where")
_NOWHERE = lx.GRAMMAR.words("nowhere")
_WAITS = lx.GRAMMAR.words("waits")
_OWNS = lx.GRAMMAR.words("owns")
_BACK = lx.GRAMMAR.words("back")
_IT = frozenset(["it", "them", "which"])


@dataclass(frozen=True, slots=True)
class Mention:
    """A place as a sentence names it: the words by which it goes, its phrase, and whether a pronoun stands for it."""

    key: str
    phrase: Phrase
    meant: bool = False

    @property
    def head(self) -> str:
        return self.key.rsplit(" ", 1)[-1]


@dataclass(slots=True)
class Around:
    """What the text shows around a sentence: how often each head is named, and behind a preposition, in all of it; where the story was already; where it is now."""

    named: Mapping[str, int]
    behind: Mapping[str, int]
    been: set[str] = field(default_factory=set)
    here: str = ""


@dataclass(frozen=True, slots=True)
class Moved:
    """Where a story went in a sentence, and how surely, 0..1."""

    key: str
    phrase: Phrase
    sure: float


def weights() -> dict[str, float]:
    """The weight (log odds) of each term."""
    return weights_in("juxtaform.core.text.english", "whereabouts.tsv")


class Mentions:
    """The places that sentences name, one sentence after another: a pronoun behind a preposition means what was named last and can hold somebody; in the same deed it
    only describes that (`a room with nothing in it`)."""

    def __init__(self) -> None:
        self._last: Phrase | None = None

    def of(self, read: Read) -> list[Mention]:
        found = []
        told = any(d.finite for d in read.sentence.deeds)
        for p in sorted(read.sentence.phrases, key=lambda p: p.start):
            if p.pronoun:
                held = p.pronoun in _IT and p.role == "at" and _tie(p) in _AHEAD - {"at"}
                described = self._last is not None and self._last.deed is not None and self._last.deed is p.deed
                if self._last is not None and held and not described and not _unreal(p):
                    found.append(Mention(place_key(self._last), _standing_for(self._last, p), meant=True))
            elif (
                p.role != "time" and (key := place_key(p)) and not _unreal(p) and not (told and _leads_nowhere(p, read))
            ):
                found.append(Mention(key, p))
                if _may_hold(p):
                    self._last = p
        return found


def _may_hold(p: Phrase) -> bool:
    """Whether somebody may be in or on what a phrase means: no time, no thought, nobody and nothing worn."""
    sorts = _sorts(p)
    return not p.name and max(sorts["living"], sorts["body"], sorts["time"]) < 0.3 and sorts["abstract"] < 0.5


def _leads_nowhere(p: Phrase, read: Read) -> bool:
    """Whether what a phrase of a told sentence means is only named: no deed has it (`she saw it all: the square, the well`), or no living being does
    something to it (`the fog swallowed the hill`)."""
    if p.deed is None:
        return not p.role
    if p.deed.subjects and all(_is_a_part(s) for s in p.deed.subjects):
        return True  # `His finger follows the road down to the valley`
    if p.owning and lx.meaning(p.head).share("C") >= 0.5:
        return True  # `She slid down the heap on her apron`
    if aimed_at(p, "V") or p.prep in _NOWHERE or (p.prep == "for" and p.deed.verb in _WAITS):
        return True
    if p.role == "object" and p.deed.verb in _OWNS:
        return True  # `Ruby had a ladder`
    if p.role == "at" and p.prep == "to" and (_is_on_the_way(p, read) or _a_way_leads(p.deed)):
        return True
    if p.role == "at" and p.prep == "out of" and moving(p.deed):
        return True  # `She climbed out of the well`
    if p.role == "at" and p.deed.start < p.start and (_is_seen_there(p, p.deed) or _is_elsewhere(p, read)):
        return True
    if p.role == "at" and _put_there(p, p.deed):
        return True  # `He puts his sandwich on the radiator`
    if p.prep == "to" and not moving(p.deed) and lx.meaning(p.head).share("X") >= 0.5:
        return True  # `He listened to the whole story`
    return p.role == "object" and bool(p.deed.subjects) and not _alive(p.deed)


def _is_seen_there(p: Phrase, deed: Deed) -> bool:
    """Whether a phrase is only what somebody looks over to, or knocks at: `looked out over the sea`."""
    if p.prep in ("over", "across", "towards", "toward", "into") and deed.does("V") > 0.5:
        return True
    return deed.verb == "knock" and p.prep in ("at", "on")


def _is_elsewhere(p: Phrase, read: Read) -> bool:
    """Whether somebody comes back from a place: `came home from the cinema`."""
    before = read.sentence.tokens[p.first - 2].low if p.first > 1 else ""
    return p.prep == "from" and moving(p.deed) and before in _BACK


def _is_on_the_way(p: Phrase, read: Read) -> bool:
    """Whether somebody is still on the way to a place: `on the way to the cinema she met a goose`."""
    words = [t.low for t in read.sentence.tokens[max(0, p.first - 4) : p.first]]
    return words[-2:] == ["way", "to"] and words[0] != "all"


def _a_way_leads(deed: Deed) -> bool:
    """Whether a way leads somewhere, and nobody goes: `the path led to the castle`."""
    return bool(deed.subjects) and all(lx.meaning(s.head).share("W") > 0.5 for s in deed.subjects)


def _put_there(p: Phrase, deed: Deed) -> bool:
    """Whether a phrase is no place but what a thing is put on or in."""
    put = deed.verb in _PUTS and any(o.start < p.start for o in deed.objects)
    return put and lx.meaning(whole(p).head).share(PLACE) < 0.5


def _is_a_part(p: Phrase) -> bool:
    """Whether a phrase is a part of a body that goes nowhere by itself."""
    return not p.pronoun and not p.name and p.head not in _CARRY and lx.meaning(p.head).share("B") > 0.5


def _alive(deed: Deed) -> bool:
    return any(s.pronoun != "it" and (s.pronoun or s.name or lx.living(s.head) >= 0.2) for s in deed.subjects)


def _unreal(p: Phrase) -> bool:
    """Whether what a phrase tells is not so: denied, wished, compared, only thought of."""
    deed = p.deed
    if deed is None:
        return bool(p.unreal)
    if deed.relative and any(s.unreal for s in deed.subjects):
        return True  # `like people who have dropped off in church`
    wished = deed.modal in ("would", "could", "might", "should") or (deed.verb in INNER and p.role == "at")
    return bool(p.unreal) or deed.denied or bool(deed.supposed) or wished


def _standing_for(named: Phrase, pronoun: Phrase) -> Phrase:
    """What was named, tied to the deed as the pronoun is that means it."""
    return replace(
        named,
        role=pronoun.role,
        prep=pronoun.prep,
        deed=pronoun.deed,
        start=pronoun.start,
        first=pronoun.first,
        last=pronoun.last,
    )


def around(reads: Sequence[Read]) -> Around:
    """What a whole text shows of its places."""
    named: Counter[str] = Counter()
    behind: Counter[str] = Counter()
    for read in reads:
        for p in read.sentence.phrases:
            if not p.pronoun and (key := place_key(p)):
                head = key.rsplit(" ", 1)[-1]
                named[head] += 1
                behind[head] += p.role == "at"
    return Around(named, behind)


def went(
    read: Read, mentions: Sequence[Mention], seen: Around, numbers: Mapping[str, float] | None = None
) -> Moved | None:
    """Where the story goes in a sentence; None when it stays. `numbers` are the terms' weights, where they are not those of the house."""
    numbers = weights() if numbers is None else numbers
    odds: dict[str, tuple[float, Phrase]] = {}
    worth: list[tuple[Mention, float]] = []
    in_a_room = bool(seen.here) and lx.meaning(seen.here.rsplit(" ", 1)[-1]).share("RH") > 0.5
    for m in mentions:
        if same(m.key, seen.here) or (in_a_room and _stands_in_a_room(whole(m.phrase).head)):
            continue
        value = exp(sum(numbers.get(name, 0.0) * x for name, x in terms(m, read, seen).items()))
        value = max(value, _INHABITED) if _inhabits(m.phrase) else value
        worth.append((m, value))
    for m, value in _outermost(worth):
        before, phrase = odds.get(m.key, (0.0, m.phrase))
        odds[m.key] = before + value, phrase
    if not odds:
        return None
    key, (best, phrase) = max(odds.items(), key=lambda o: o[1][0])
    for other, (value, later) in odds.items():
        if (
            value > max(LEAST, min(_AS_LIKELY * best, _SURE))
            and later.start > phrase.start
            and later.deed not in (None, phrase.deed)
        ):
            key, best, phrase = other, value, later
    return Moved(key, phrase, best / (1 + best)) if best > LEAST else None


def _outermost(worth: Sequence[tuple[Mention, float]]) -> list[tuple[Mention, float]]:
    """The mentions with their odds, without those that only say where another place is (`in the boat on the lake`), and without ways that go through one
    (`the path through the wood`)."""
    left, ends = list(worth), {m.phrase.last: (m, value) for m, value in worth}
    for m, value in worth:
        if (before := ends.get(m.phrase.first - 2)) is not None:
            (n, other), p = before, m.phrase
            q = n.phrase
            if p.deed is None or max(value, other) <= LEAST:
                continue
            a_way = lx.meaning(q.head).share("W") > 0.5 and p.prep in ("through", "across", "over", "along", "into")
            if a_way and value > LEAST * 0.5:
                left = [x for x in left if x[0] is not n]
            elif p.prep in _SAYS_WHERE and other > LEAST and not moving(p.deed):
                dropped = n if value > other and _holds_nobody(q) else m
                left = [x for x in left if x[0] is not dropped]
    return left


def _holds_nobody(p: Phrase) -> bool:
    """Whether who is at a thing is rather where that thing is: `in bed in the attic`, `behind a bush in the park`."""
    return _stands_in_a_room(p.head) or lx.meaning(p.head).share("N") > 0.5 or p.prep in _BESIDE


def _stands_in_a_room(head: str) -> bool:
    """Whether what a noun means is furniture, or a vessel: who is in it is still in the room."""
    return head in _FURNITURE or (lx.meaning(head).share("K") >= 0.5 and head not in HOLLOW)


def _inhabits(p: Phrase) -> bool:
    """Whether somebody is in a thing that can hold them, as its words tell: `The frog lived in a bucket`, `Tom climbed into the basket`."""
    deed = p.deed
    if p.role != "at" or deed is None or deed.verb not in _IS_IN or not _alive(deed) or _unreal(p) or p.owning:
        return False
    holds = p.head in HOLLOW or lx.meaning(whole(p).head).share("KVRHL") >= 0.5
    return holds and p.prep in ("in", "inside", "into") and p.head not in _FURNITURE


def same(key: str, other: str) -> bool:
    """Whether two names may mean one place: `room` and `lamp room`, but not `back room` and `front room`."""
    return key == other or f" {key}".endswith(f" {other}" if other else "\0") or f" {other}".endswith(f" {key}")


def terms(m: Mention, read: Read, seen: Around) -> dict[str, float]:
    """What speaks for and against a mention's becoming the place: each term's value, most of them 0..1."""
    p, deed = m.phrase, m.phrase.deed
    tie, sorts = _tie(p), _sorts(p)
    fixed = fixture(p)
    found = {
        "any": 1.0,
        f"tie {tie}": 1.0,
        "part": float(p.head in lx.PARTS),
        f"determiner {_determiner(p)}": 1.0,
        "several": float(p.several),
        "a pronoun": float(m.meant),
        "in a speech's sentence": float(bool(read.said)),
        "named again": log1p(seen.named.get(m.head, 1) - 1),
        "behind a preposition again": log1p(max(0, seen.behind.get(m.head, 0) - (p.role == "at"))),
        "was there": float(m.key in seen.been),
        "a new time": float(opening(read) == "time"),
        "fixture": fixed,
        f"{tie} × fixture": fixed,
        "last": float(not any(q.start > p.start and _tie(q) in _AHEAD and place_key(q) for q in _nouns(read))),
    }
    found |= {f"sort {sort}": share for sort, share in sorts.items() if share}
    found |= {f"{tie} × {sort}": sorts[sort] for sort in _TIED_SORTS}
    found |= _by_words(m, tie, sorts["place"])
    if not seen.here:
        found |= {"nowhere yet": 1.0, "nowhere yet × place": sorts["place"], "nowhere yet × fixture": fixed}
    if p.role == "at" and p.first <= 2:
        found |= {"opens": 1.0, f"opens × {tie}": 1.0}
    return found | (_by_deed(p, tie, sorts["place"], deed) if deed is not None else {"no deed": 1.0})


def _by_words(m: Mention, tie: str, place: float) -> dict[str, float]:
    """What the very words say: which kinds of thing its noun means, its preposition and its determiner, and whether it goes by the noun before its head
    (the kitchen of the kitchen table)."""
    p, meaning = m.phrase, lx.meaning(m.head)
    found = {f"kind {kind}": share for kind in _KINDS if (share := meaning.share(kind))}
    determiner = _determiner(p)
    found |= {f"determiner {determiner} × {tie}": 1.0, f"determiner {determiner} × place": place}
    if p.role == "at":
        found |= {f"behind {p.prep}": 1.0, f"behind {p.prep} × place": place}
    if not p.name and m.head != p.head and m.head in p.compound:
        found |= {
            "by its compound": 1.0,
            "by its compound × room": meaning.share("RH"),
            f"by its compound × {tie}": 1.0,
        }
    return found


def _by_deed(p: Phrase, tie: str, place: float, deed: Deed) -> dict[str, float]:
    """What the deed of a phrase says of it."""
    alive = _alive(deed)
    before = float(p.role == "at" and p.start < deed.start)
    moves = moving(deed)
    person = float(any(s.name or s.pronoun in _PERSONS for s in deed.subjects))
    just_before = [o for o in (*deed.objects, *deed.at) if o is not p and o.last + 2 == p.first]
    return {
        "had": float(deed.perfect and deed.past),
        "relative": float(deed.relative),
        f"goes × {tie}": float(moves),
        f"rests × {tie}": float(deed.verb in _RESTS),
        f"looks × {tie}": deed.does("V"),
        "speaks": deed.does("S"),
        "somebody": float(alive),
        "a person": person,
        f"a person × {tie}": person,
        "a main deed": float(deed.finite and not deed.relative and not deed.supposed),
        "something": float(bool(deed.subjects) and not alive),
        "before its deed × place": before * place,
        "before its deed × other": before * (1 - place),
        "tied to a phrase": float(any(not (moves and o in deed.at) for o in just_before)),
        "tied to a thing": float(
            any(o in deed.objects and not (o.name or o.pronoun or lx.living(o.head) > 0.45) for o in just_before)
        ),
        "entered": float(p.role == "object" and deed.verb in _ENTERS),
        "left": float(deed.verb == "leave"),
    }


def _nouns(read: Read) -> Iterator[Phrase]:
    return (p for p in read.sentence.phrases if not p.pronoun)


def _tie(p: Phrase) -> str:
    """How a phrase hangs on its deed: behind which kind of preposition, or as what."""
    return _TIE.get(p.prep, "other") if p.role == "at" else p.role or "alone"


def _determiner(p: Phrase) -> str:
    if p.det in ("the", "this", "that") or (not p.det and p.head in _BARE and not (p.owning or p.owner)):
        return "the"
    if p.det in ("a", "an"):
        return "a"
    return "own" if p.owning or p.owner else "other" if p.det else "none"


def _sorts(p: Phrase) -> dict[str, float]:
    """How much of what a phrase means is of each sort, 0..1; sorts overlap."""
    target = whole(p)
    meaning = lx.meaning(target.head)
    found = {sort: meaning.share(kinds) for sort, kinds in _SORTS.items()}
    if target.name and not (target.head and found["place"] > 0.4):
        return dict.fromkeys(found, 0.0) | {"name": 1.0}
    return found if meaning.kinds else found | {"unknown": 1.0}
