"""A shot's own words read clause by clause: who is there, and who is only spoken of."""

from __future__ import annotations

from typing import Literal

from juxtaform.core.brief.clothes import is_garment
from juxtaform.core.brief.showing import IN_HEAD
from juxtaform.core.brief.words import MONTHS, Words
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.phrases import FINITE, Phrase
from juxtaform.core.text.english.places import placed
from juxtaform.core.text.lists import word_lists

_LISTS = word_lists("juxtaform.core.brief")

Standing = Literal["seen", "spoken of", "absent", "gone", "owner", "no name"]
"""How words speak of somebody: to be seen; spoken of, and there or not; not there; gone from there; the owner of what is there; or the words are no name at all."""

_OUTLINES = _LISTS.words("outlines")
DEPICTIONS = _LISTS.words("depictions") | lx.KNOWN.words("depictions")
"""What shows somebody who is not there."""
_MINDS = _LISTS.words("minds")
_MESSAGES = _LISTS.words("messages")
_TRACES = _LISTS.words("traces")
_DEPICT = _LISTS.words("depict")
_CALL = _LISTS.words("call") | lx.KNOWN.words("calls")
_SEEK = _LISTS.words("seek")
_ASKS = lx.KNOWN.words("asks") | _LISTS.words("asks")
"""Deeds that say what somebody is to do."""
_HEAR = _LISTS.words("hear")
_PUTS_ON = _LISTS.words("puts on")
_TURNS_UP = lx.GRAMMAR.words("turns up") | {"answer"}
_ON_THEM = _LISTS.words("on them")
"""What somebody has on or about them that is seen with them in it."""
_BEFORE_THEM = _LISTS.words("before them")
"""What is done for somebody who is there: the chair is held for her; what is put aside for somebody waits for them."""
_WHERE = _LISTS.words("where")
_FAR = _LISTS.words("far")
_SEE = ("see", "view", "glimpse", "watch")
_LIES = _LISTS.words("lies")
"""What things do that somebody has left somewhere."""


def standing(words: Words, start: int, end: int, kind: str) -> Standing | None:
    """How the words at `start`..`end` speak of somebody or something of a kind; None where the clauses do not tell."""
    if any(a <= start and end <= b for a, b in words.speeches):
        return "no name" if kind == "setting" else "spoken of"
    if words.is_done(start):
        return "no name"
    found = words.at(start, end)
    if found is None:
        return None
    s, p = found
    offset = next(o for o, x in words.sentences if x is s)
    only_describes = bool(p.compound) and end < p.end + offset - 1
    if kind == "prop" and only_describes:
        return "spoken of"  # a bicycle bell
    if kind == "setting":
        return "spoken of" if only_describes and not _stands_there(p) else _place_standing(s, p)
    deed = p.deed
    if p.name and not s.deeds and len(s.phrases) == 1 and s.tokens and s.tokens[-1].text in ("!", "?"):
        return "spoken of"  # somebody is called
    if (
        p.role == "is"
        and deed is not None
        and not deed.subjects
        and s.tokens[0].low == "where"
        and s.tokens[-1].text == "?"
    ):
        return "spoken of"
    if _no_name(s, p) or (only_describes and not p.name and _does_itself(s, p)):
        return "no name"
    if _depicted(s, p):
        return "seen" if any(d.relative and p in d.subjects and not d.past for d in s.deeds) else "absent"
    if deed is not None and any(q.head in _MINDS and q.prep == "in" for q in deed.at):
        return "spoken of"
    if p.unreal == "denied":
        return "absent" if p.prep != "except" else "spoken of"
    if p.unreal:
        return "absent"
    if deed is not None and deed.supposed:
        return "absent"
    if (
        deed is not None
        and p.role == "subject"
        and deed.verb == "be"
        and any(t.low == "so" and t.end <= deed.start < t.end + 3 for t in s.tokens)
    ):
        earlier = [d for d in s.deeds if d.start < deed.start]
        if earlier and (_is_gone(earlier[-1]) or earlier[-1].denied):
            return "absent"
    if (
        deed is not None
        and p.role == "subject"
        and not deed.relative
        and (
            _is_gone(deed)
            or (deed.verb == "be" and deed.denied and (deed.at or deed.particles or deed.end >= s.end - 8))
        )
    ):
        return "gone"
    if deed is not None and (
        deed.modal in ("would", "should", "ought", "might") or (deed.modal == "will" and not deed.denied)
    ):
        return "spoken of"
    if _only_asked(s, p) or (p.role == "subject" and any(t.low == "somewhere" for t in s.tokens)):
        return "spoken of"
    if deed is not None and p.role == "subject" and (deed.perfect or deed.past) and _is_aside(s, deed):
        stood = deed.past and deed.verb in (*_LIES, "be") and any(t.low == "where" for t in s.tokens)
        return "gone" if stood else "spoken of"
    if deed is not None and deed.relative and deed.past and p.role != "subject" and _present_tense(s):
        return "spoken of"
    if p.role == "owner":
        owned = next((q for q in s.phrases if q.owner is p), None)
        if owned is not None and _worn_by_another(s, owned):
            return "absent"
        if (
            owned is not None
            and not owned.compound
            and (lx.meaning(owned.head).share("B") > 0.4 or owned.head in _ON_THEM)
            and not (is_garment(owned.head) and _left_behind(s, owned))  # `Bela's boots stand by the stove`
        ):
            return "seen"
        if owned is not None and kind == "character" and _is_worn(owned):
            return "seen"
        empty = owned is not None and owned.deed is not None and owned.deed.says_of == "empty"
        return "absent" if owned is not None and (empty or owned.head in _TRACES or _left_behind(s, owned)) else "owner"
    if p.role == "at":
        return _behind(s, p)
    if p.role == "subject" and deed is not None and deed.denied and deed.verb in _TURNS_UP:
        return "absent"
    if p.role == "object" and deed is not None:
        if deed.does("V") > 0.4 and any(t.low in _FAR for t in s.tokens):
            return "spoken of"
        if deed.verb in _HEAR or (deed.verb in _SEEK and deed.verb != "ask"):
            return "absent"
        if deed.denied:
            within_reach = deed.modal in ("can", "could") and deed.does("KMHOB") > 0.5 and deed.verb not in _SEEK
            return "seen" if within_reach and kind == "prop" else "spoken of"  # `Tam can't reach the lamp`
    return "seen"


def _is_worn(owned: Phrase) -> bool:
    """Whether somebody's clothes do something that they do on a body: `the giant's sandal fills the sky`."""
    does = owned.deed
    return (
        does is not None
        and owned.role == "subject"
        and not owned.compound
        and lx.meaning(owned.head).share("C") > 0.5
        and bool(does.objects)
        and not does.past
        and does.verb not in _LIES
    )


def _worn_by_another(s: Sentence, owned: Phrase) -> bool:
    """Whether somebody's clothes are on somebody else: `Pim in the captain's boots`, `Pim wears Rook's hat`."""
    if not is_garment(owned.head):
        return False
    deed = owned.deed
    if owned.role == "object" and deed is not None and deed.verb in _PUTS_ON and deed.subjects:
        return True
    somebody = (q for q in s.phrases if q.last + 2 == owned.first and q is not owned.owner)
    return owned.role == "at" and owned.prep == "in" and any(q.name or lx.living(q.head) >= 0.45 for q in somebody)


def _left_behind(s: Sentence, owned: Phrase) -> bool:
    """Whether somebody's thing lies or hangs somewhere, and nothing else speaks of them."""
    does = owned.deed
    if does is None and not s.deeds and is_garment(owned.head):
        return any(
            q.prep in ("on", "over", "under", "across", "beside")
            and (lx.meaning(q.head).share("B") < 0.4 or q.head in lx.PARTS)
            for q in s.phrases
        )
    if does is None or owned.role != "subject" or not does.at:
        return False
    if any(t.low in ("she", "her", "hers", "he", "his", "him") for t in s.tokens):
        return False
    put = does.past and len(s.deeds) == 1 and any(t.text == "," and owned.end <= t.start < does.start for t in s.tokens)
    return does.verb in _LIES or put or (does.verb == "stand" and is_garment(owned.head))


def _only_asked(s: Sentence, p: Phrase) -> bool:
    """Whether somebody stands in what is only asked for, ordered or promised: `begs the warden to let Pim go`."""
    to = next((t for t in reversed(s.tokens) if t.end <= p.start and t.low == "to" and t.tag != "I"), None)
    done = next((d for d in s.deeds if to is not None and d.start in (to.start, to.end + 1)), None)
    asks = next((d for d in reversed(s.deeds) if to is not None and d.end <= to.start), None)
    if to is None or done is None or asks is None or asks.verb not in _ASKS:
        return False
    return not any(to.end <= t.start < p.start and (t.text in ",;:" or t.low in ("and", "but")) for t in s.tokens)


def _is_aside(s: Sentence, deed: Deed) -> bool:
    """Whether a clause tells where or since when something else is so: `where the king has passed the street is empty`."""
    opens = [t for t in s.tokens if t.low in ("where", "wherever", "since", "after") and t.end <= deed.start]
    others = any(d.finite and d is not deed and not d.relative for d in s.deeds)
    return bool(opens) and others and not any(opens[-1].end <= d.start < deed.start for d in s.deeds)


def _behind(s: Sentence, p: Phrase) -> Standing:
    """Somebody behind a preposition."""
    deed = p.deed
    before = next((q for q in s.phrases if q.of is p or q.last + 2 == p.first), None)
    if p.prep == "to" and deed is not None and deed.verb == "write":
        return "absent"
    if p.prep in ("about", "without", "unlike", "instead of", "like", "than", "despite"):
        return "absent"
    if p.prep == "of":
        if before is not None and (before.head in _MESSAGES or before.head in DEPICTIONS - _OUTLINES):
            return "absent"
        return (
            "absent"
            if deed is not None and deed.verb in (*IN_HEAD, "speak", "tell", "talk", "hear")
            else "spoken of"
            if before is not None
            and before.role == "subject"
            and before.head in ("shadow", "cousin", "friend", "mother", "father", "sister", "brother")
            else "seen"
        )
    if p.prep == "for":
        if deed is not None and deed.verb == "be":
            return "spoken of"
        if deed is not None and deed.verb in (*_SEEK, *IN_HEAD):
            return "absent"
        room = deed is not None and any(q.head in ("room", "way", "space", "place") for q in deed.objects)
        if deed is not None and deed.objects and not room and deed.verb not in _BEFORE_THEM:
            return "spoken of"
        return "spoken of" if before is not None and before.head in _MESSAGES else "seen"
    if p.prep in ("from", "by") and before is not None and (before.head in _MESSAGES or before.head in DEPICTIONS):
        return "absent"
    if _does_something(s, p):
        return "seen"
    if p.prep in ("to", "at", "across", "after") and deed is not None and deed.verb in _CALL:
        return "spoken of" if p.prep != "after" else "absent"
    return "seen"


def _does_something(s: Sentence, p: Phrase) -> bool:
    """Whether a clause behind somebody tells what they do: `listens to the professor, who reads aloud`."""
    after = [t.low for t in s.tokens[p.last + 1 : p.last + 3]]
    does = next((d for d in s.deeds if d.start > p.end), None)
    return "who" in after and does is not None and does.relative and not (does.past or does.perfect or does.denied)


def _no_name(s: Sentence, p: Phrase) -> bool:
    """Whether the name of a month is one here: `In May`, `It is April`."""
    if p.name.casefold() not in MONTHS:
        return False
    if p.role == "at" and p.prep in (
        "in",
        "since",
        "until",
        "till",
        "during",
        "through",
        "of",
        "by",
        "before",
        "after",
    ):
        return True
    return p.role == "is" and p.deed is not None and any(q.pronoun in ("it", "this") for q in p.deed.subjects)


def _does_itself(s: Sentence, p: Phrase) -> bool:
    """Whether a verb stands right behind a phrase: `April showers fall`, where `Bill rows and hums` has somebody who rows."""
    after = p.last + 1
    return after < len(s.tokens) and s.tokens[after].tag in FINITE


def lies_there(words: Words, start: int, end: int) -> bool:
    """Whether some characters name a thing that hangs or lies somewhere, and is not worn."""
    found = words.at(start, end)
    return (
        found is not None
        and found[1].role == "subject"
        and found[1].deed is not None
        and found[1].deed.verb in ("hang", "lie", "lay", "dry", "stand", "float", "drift")
    )


def is_depicted(words: Words, start: int, end: int) -> bool:
    """Whether some characters name somebody who is drawn or painted there."""
    found = words.at(start, end)
    return found is not None and _depicted(*found)


def _depicted(s: Sentence, p: Phrase) -> bool:
    """Whether somebody stands in a picture in the picture: drawn, painted, on a poster, in a photograph of them."""
    if any(lemma in _DEPICT for w in p.described for lemma in lx.lemmas(w, "v")):
        return True  # a painted wolf
    if p.prep == "of" and any(q.of is p and q.head in DEPICTIONS - _OUTLINES for q in s.phrases):
        return True
    deed = p.deed
    if (
        deed is not None
        and p.role == "object"
        and (deed.verb in _DEPICT or any(q.head in DEPICTIONS for q in deed.subjects))
    ):
        return True
    if any(d.gap is p and d.verb in _DEPICT for d in s.deeds):
        return True
    if (
        deed is not None
        and p.role in ("subject", "object", "at")
        and any(
            q.head in DEPICTIONS and q.prep in ("on", "in") and q.start < deed.start and not _tells_where(p, q)
            for q in deed.at
        )
    ):
        return p.head not in DEPICTIONS
    shows = next(
        (
            q
            for q in s.phrases
            if q.head in DEPICTIONS and (q.role in ("", "subject") or q.prep in ("in", "on", "of")) and q.deed is None
        ),
        None,
    )
    return (
        shows is not None and deed is None and any(t.text == ":" and shows.end <= t.start < p.start for t in s.tokens)
    )


def _tells_where(p: Phrase, depiction: Phrase) -> bool:
    """Whether a phrase says where a picture in the picture hangs: `on the poster behind the teacher`."""
    return p.role == "at" and p.first - 2 == depiction.last and p.prep in _WHERE


def _is_gone(deed: Deed) -> bool:
    if deed.verb == "go" and deed.passive:
        return True
    if deed.verb in ("be", "go", "seem", "stay") and any(
        w in ("gone", "missing", "absent", "away", "nowhere") for w in deed.particles
    ):
        return True
    return (
        deed.verb in ("leave", "vanish", "disappear", "go", "depart", "die")
        and deed.perfect
        and not deed.objects
        and not deed.denied
    )


def _present_tense(s: Sentence) -> bool:
    return any(d.finite and not d.past and not d.relative for d in s.deeds)


def _stands_there(p: Phrase) -> bool:
    """Whether somebody is at a thing that stands in a place: `at the kitchen table`, not `at the stage door`."""
    return p.role == "at" and p.prep in ("at", "by", "under", "beside") and lx.meaning(p.head).share("OK") > 0.4


def _place_standing(s: Sentence, p: Phrase) -> Standing:
    """Whether a place is where the picture is, or only spoken of, seen from far, or shown on something."""
    deed = p.deed
    if deed is not None and any(q.head in _MINDS and q.prep == "in" for q in deed.at):
        return "spoken of"
    if p.role == "object" and not (p.name or p.det or p.owning or p.owner or p.several or p.described):
        return "spoken of"  # `brings in wood`
    if _depicted(s, p) or p.unreal or (deed is not None and deed.supposed):
        return "absent"
    if p.role == "at":
        if p.prep in ("behind", "beside", "by", "near", "outside", "past", "before") or any(
            q.of is p and q.head in ("side", "front", "back", "wall", "door", "roof") for q in s.phrases
        ):
            return "spoken of"
        if p.prep == "from" and deed is not None and deed.verb in _SEE:
            return "seen"
        if p.prep in ("of", "for", "about", "like", "towards", "toward", "from", "beyond", "than", "off") or (
            p.prep == "at" and deed is not None and deed.does("V") > 0.4
        ):
            part = next((q for q in s.phrases if q.of is p), None)
            return (
                "seen"
                if part is not None
                and (part.head in lx.PARTS or lx.meaning(part.head).share("DHBRW") > 0.4)
                and part.head not in ("view", *DEPICTIONS)
                and (part.role != "object")
                else "absent"
            )
        if p.prep == "to":
            return "absent"
        if p.prep in (
            "in",
            "on",
            "at",
            "inside",
            "into",
            "onto",
            "through",
            "across",
            "along",
            "under",
            "outside",
            "behind",
            "beside",
            "by",
            "near",
            "over",
        ):
            return "seen"
        return "seen" if placed(p) else "absent"
    if p.role == "object":
        return (
            "absent"
            if deed is not None
            and (deed.does("V") > 0.4 or deed.verb in ("point", "reach", "show", "want", "leave", "miss"))
            else "seen"
        )
    if p.role == "subject" and deed is not None and any(t.low in _FAR or t.low == "distance" for t in s.tokens):
        return "absent"
    if p.role == "subject" and deed is not None and deed.past and _present_tense(s):
        return "absent"
    if p.role == "subject" and deed is not None and deed.verb in _SEE and any(q.prep == "from" for q in deed.at):
        return "absent"
    return "seen"
