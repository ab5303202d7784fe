"""Who does what to whom and where: a sentence's noun phrases and deeds, and how they hang together.

One walk from left to right over tagged words. It knows noun phrases with their owners, coordinated phrases, subjects before and behind the verb (`In the doorway
stood a boy`, `said the fox`), relative and participle clauses, and clauses that speak of what is not so (denied, wished, compared, supposed).
"""

from __future__ import annotations

from collections.abc import Sequence

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.ahead import Ahead
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.phrases import FINITE, Phrase, Phrases
from juxtaform.core.text.english.tagging import Token
from juxtaform.core.text.english.verbs import verb_group

_PUT_ON = lx.GRAMMAR.words("put on")
_VERBAL = frozenset("VDEGBHMO")
_SUPPOSING = frozenset(["if", "unless", "as if", "as though", "lest", "than", "whether"])
_FIXED = frozenset(
    [
        "at last",
        "at first",
        "at once",
        "at least",
        "at all",
        "of course",
        "in fact",
        "for ever",
        "in vain",
        "in front",
        "in turn",
    ]
)
"""What a preposition makes with one word that is no phrase of its own."""
_JOINED = {"in front of": "in front of", "on top of": "on"}
"""Three words that are one preposition, and which."""
INNER = lx.GRAMMAR.words("inner")
_CARRIES = lx.GRAMMAR.words("carries")
_GIVES = lx.GRAMMAR.words("gives to")
_GREETS = lx.GRAMMAR.words("greets")
_FELT = lx.GRAMMAR.words("feels of")
"""Verbs of which the rest of the clause is in somebody's head, and not to be seen."""
_SPEAKING = lx.GRAMMAR.words("speaking")


def parsed(tokens: Sequence[Token]) -> Sentence:
    """A sentence's phrases and deeds.

    >>> from juxtaform.core.text.english.tagging import tagged
    >>> s = parsed(tagged("In the doorway stood a boy who was eating his brother's herring."))
    >>> [(p.head, p.role, p.prep) for p in s.phrases]
    [('doorway', 'at', 'in'), ('boy', 'subject', ''), ('brother', 'owner', ''), ('herring', 'object', '')]
    >>> [(d.verb, [x.head for x in d.subjects]) for d in s.deeds]
    [('stand', ['boy']), ('eat', ['boy'])]
    """
    return _Walk(_without_ages(list(tokens))).walk()


def _without_ages(tokens: list[Token]) -> list[Token]:
    """Words without numbers in brackets: how old somebody is, as scripts tell it (`MAGDA (70), the owner`)."""
    ages = [
        i
        for i in range(1, len(tokens) - 1)
        if tokens[i].tag == "#" and (tokens[i - 1].text, tokens[i + 1].text) == ("(", ")")
    ]
    left_out = {i + k for i in ages for k in (-1, 0, 1)}
    return [t for i, t in enumerate(tokens) if i not in left_out] if ages else tokens


class _Walk:
    def __init__(self, tokens: list[Token]) -> None:
        self.t = tokens
        self.n = len(tokens)
        self.find = Phrases(tokens)
        self.ahead = Ahead(tokens, self.find)
        self.phrases: list[Phrase] = []
        self.deeds: list[Deed] = []
        self.waiting: list[Phrase] = []
        """Phrases that no verb has taken as its subject yet."""
        self.deed: Deed | None = None
        self.front: list[Phrase] = []
        self.prep = ""
        self.wants_subject = False
        self.supposed = ""
        self.boundary = True
        self.relative: Phrase | None = None
        self.gap: Phrase | None = None
        self.outer: list[Phrase] = []
        """Phrases that wait for a verb behind a relative clause: the goat in `the goat that he lost is not here`."""
        self.last: Phrase | None = None
        self.joined: Phrase | None = None
        """The last of a list of phrases."""
        self.inner = False

    def walk(self) -> Sentence:
        i = 0
        while i < self.n:
            tag = self.t[i].tag
            if (phrase := self.find.at(i)) is not None:
                i = self._took(phrase)
            elif tag in _VERBAL or (tag == "o" and i + 1 < self.n and self.t[i + 1].tag in "VBHn"):
                i = self._verb(i)
            elif tag in "Io":
                i = self._preposition(i)
            else:
                i = self._mark(i)
        self._go_without_a_verb()
        for p in (*self.waiting, *self.outer):
            p.role = p.role or "subject"
        if self.deeds:
            for p in self.front:
                p.deed = self.deeds[-1]
                self.deeds[-1].at.append(p)
        start = self.t[0].start if self.t else 0
        return Sentence(start, self.t[-1].end if self.t else start, self.t, self.phrases, self.deeds)

    # Phrases and what they are to their deed

    def _add(self, p: Phrase) -> None:
        if p.owner is not None:
            self._add(p.owner)
        if self.supposed or self.inner:
            p.unreal = p.unreal or self.supposed or "inner"
        self.phrases.append(p)

    def _took(self, p: Phrase) -> int:
        """Take a phrase in, and those that are joined to it; returns the place behind them."""
        t = self.t
        if self._is_given_to(p):
            who = t[p.first : p.last]
            p.name, p.head, p.compound, p.count = " ".join(w.text for w in who), who[-1].low, (), 1
            p.last, p.end = p.last - 1, who[-1].end
        after = p.last + 1
        if p.first and t[p.first - 1].tag == "n" and self.deed is None:
            p.unreal = p.unreal or "denied"  # `Nobody slept. Not Mum, not the dog.`
        self._add(p)
        prep, self.prep = self.prep, ""
        if p.name and t[0].low in _GREETS and p.first <= 1 and after < self.n and t[after].text == ",":
            p.unreal = "spoken to"  # `Dear Uncle Wojtek, thank you`
            return after
        if self.deed is not None and self._is_a_particle(prep, self.deed):
            self.deed.particles, prep = (*self.deed.particles, prep), ""
        if (p.head == "door" and p.described == ("next",) and not p.det) or (not prep and self._is_a_time(p)):
            p.role = "time"  # no deed has it, nor `the boy next door`
            return after
        if prep:
            return self._stands_behind(prep, p)
        if self._names_the_noun(p):
            p.role, p.beside = "beside", self.waiting[-1]
            return after
        if p.name and self._gives_a_name():
            return self._called(p, after)
        self._gets_a_role(p, after)
        after = self._coordinated(p, after)
        if p.role != "beside":
            self.last = p
        self.boundary = False
        return after

    def _is_given_to(self, p: Phrase) -> bool:
        """Whether a name has what it is given behind it: `gave Mia honey`."""
        given = self.deed is not None and self.deed.verb in _GIVES and not self.deed.objects and not self.prep
        who, what = self.t[p.first : p.last], self.t[p.last]
        named = bool(who) and all(w.tag == "P" for w in who) and what.tag in "NS"
        return given and named and not p.owner and lx.living(p.head) < 0.45

    def _is_a_particle(self, prep: str, deed: Deed) -> bool:
        """Whether a preposition belongs to the verb: `picked up the parcel`, `put on his coat`."""
        goes_with = prep in ("up", "down", "off", "out") or (prep in ("on", "over") and deed.verb in _PUT_ON)
        return goes_with and not deed.objects and (deed.does("HKO") > 0.4 or deed.verb in _CARRIES)

    def _is_a_time(self, p: Phrase) -> bool:
        """Whether a phrase without a preposition says when: `the next day Tom came`."""
        told = bool(set(p.described) & {"last", "next"})
        usual = told or p.det in ("every", "that", "this", "each", "one", "all")
        return (
            not p.name
            and (self.boundary or self.deed is None or usual)
            and lx.word(p.head).share("T") > 0.5
            and not (p.head in lx.ORDINALS and p.det == "the")
            and (bool(p.det) or p.count > 0 or told)
            and (not self.find.finite_at(p.last + 1) or bool(self.outer))
        )

    def _stands_behind(self, prep: str, p: Phrase) -> int:
        """Take in a phrase that stands behind a preposition."""
        t, after = self.t, p.last + 1
        p.role, p.prep = "at", prep
        before = self.last
        of_it = before is not None and before.last + 2 == p.first and prep in ("in", "on", "at", "under", "of")
        if of_it and before is not None and before.unreal == "compared":
            p.unreal = p.unreal or "compared"  # `it sighed like an uncle in an armchair`
        serves = self.deed is not None and self.deed.verb in ("wear", "serve", "work", "come", "dress")
        if prep in ("like", "than") or (prep == "as" and not serves):
            p.unreal = p.unreal or "compared"
        elif prep in ("without", "except", "unlike", "instead of"):
            p.unreal = p.unreal or "denied"
        elif prep == "of" and p.first > 1 and t[p.first - 2].low in _FELT:
            p.unreal = p.unreal or "inner"
        if prep == "of" and before is not None and t[before.last].end <= p.start and p.first - before.last <= 3:
            before.of = p
        p.deed = self.deed
        (self.deed.at if self.deed else self.front).append(p)
        if (subject := self._taken_in(p, after)) is not None:
            self._add(subject)
            self.waiting.append(subject)
            self.last, self.boundary = subject, False
            return after
        after = self._coordinated(p, after)
        self.last = p
        return after

    def _names_the_noun(self, p: Phrase) -> bool:
        """Whether `the dog` right behind a name or a living noun tells who that is: `Biscuit the dog`."""
        who = self.waiting[-1] if self.waiting else None
        beside = who is not None and who.last + 1 == p.first and p.det == "the" and lx.living(p.head) > 0.45
        return beside and who is not None and (bool(who.name) or lx.living(who.head) > 0.45)

    def _gets_a_role(self, p: Phrase, after: int) -> None:
        """What a phrase without a preposition is: the subject of the verb behind it or before it, an object, or what explains another one."""
        deed = self.deed
        if self.find.finite_at(after):
            self._new_clause_for(p)
            self.waiting.append(p)
        elif self.wants_subject and deed is not None:
            deed.subjects.append(p)
            p.role, p.deed = "subject", deed
            self.wants_subject = False
        elif deed is not None and not self.boundary and self._sounded(p):
            p.role, p.deed = "subject", deed
            for sound in deed.subjects:
                sound.role = ""
            deed.subjects = [p]
        elif deed is not None and not self.boundary:
            p.role = "object"
            if deed.verb in ("be", "become", "look", "seem", "remain", "turn"):
                p.role = "is"
            elif deed.verb in ("call", "name") and (deed.passive or deed.objects or deed.tag == "E"):
                p.role = "called"
            p.deed = deed
            deed.objects.append(p)
        elif self._names_who_waits(p, after):
            p.role, p.beside = "beside", self.waiting[-1]
            self.waiting[-1].beside = p
        elif (before := self._before_a_comma(p)) is not None and self.boundary and self._explains(before, p, after):
            p.role, p.beside = "beside", before
            before.beside = p
        else:
            self.waiting.append(p)

    def _taken_in(self, p: Phrase, after: int) -> Phrase | None:
        """The subject that a place before it took in, where a verb follows and nobody else does its deed: `In the lamp room moths were everywhere`."""
        t = self.t
        alone = self.deed is None and not self.waiting and not self.outer
        if not (alone and p.compound and not p.count and t[p.last].tag == "S" and self.find.finite_at(after)):
            return None
        behind = after
        while behind < self.n and t[behind].tag in "VDBMHoEGR":
            behind += 1
        if self.find.at(behind) is not None:
            return None  # `On the market stalls lay apples`
        subject = Phrase(t[p.last].start, p.end, p.head, count=0, first=p.last, last=p.last)
        p.head, p.compound, p.count = p.compound[-1], p.compound[:-1], 1
        p.last, p.end = p.last - 1, t[p.last - 1].end
        return subject

    def _gives_a_name(self) -> bool:
        """Whether the last word was `called` or `named` behind a noun: `a snail named Ferdinand`."""
        d = self.deed
        return d is not None and not d.finite and d.tag == "E" and d.verb in ("call", "name") and not d.objects

    def _called(self, p: Phrase, after: int) -> int:
        """A name that `called` or `named` gives: whoever has it is the subject of the verb behind it, if there is one."""
        deed = self.deed
        assert deed is not None
        p.role, p.deed = "called", deed
        deed.objects.append(p)
        if deed.subjects:
            self._is_of_who_waits(deed.subjects[-1])
        if self.find.finite_at(after) and not self.waiting:
            self.waiting = list(deed.subjects)
        self.last, self.boundary = p, False
        return after

    def _is_of_who_waits(self, who: Phrase) -> None:
        """Who is named behind a comma may be the one before it: `her dog, a huge old hound called Prince`."""
        before = next((w for w in self.waiting if w.last + 2 == who.first and self.t[who.first - 1].text == ","), None)
        if before is not None and who in self.waiting and _is_described(before, who):
            self.waiting.remove(who)
            who.role, who.beside, before.beside = "beside", before, who

    def _go_without_a_verb(self) -> None:
        """Phrases behind a comma or `and` that no verb has taken do what the last one does: `The cows came, and the sheep, and the old mule.`"""
        deed = next((d for d in reversed(self.deeds) if d.finite), None)
        if deed is None or not any(_lives(s) or s.pronoun in ("they", "we") for s in deed.subjects):
            return
        for p in self.waiting:
            before = self.t[p.first - 1] if p.first else None
            joined = before is not None and before.tag in ",CR" and p.start > deed.start
            if joined and not p.pronoun and (p.name or lx.living(p.head) > 0.45):
                p.role, p.deed = "subject", deed
                deed.subjects.append(p)

    def _explains(self, before: Phrase, p: Phrase, after: int) -> bool:
        """Whether a phrase behind a comma says who the one before it is: one of them a name, or `a small woman` behind `the librarian`, and a comma or an end
        behind. What a verb follows at once does that deed: `Finn, a lady with a cage got on` is a list."""
        ends = after >= self.n or self.t[after].tag in ",.IWGE"
        if not ends or p.several or before.several or self.find.finite_at(self.ahead.past_places(after)):
            return False
        described = p.det in ("a", "an") and before.det == "the" and not p.name and not before.name
        if described and before.role == "" and self.ahead.a_comma_and_a_verb(after):
            return min(lx.living(p.head), lx.living(before.head)) >= 0.45
        return bool(before.name) != bool(p.name)

    def _before_a_comma(self, p: Phrase) -> Phrase | None:
        """The phrase that a comma parts from this one, alone or the last of a list: `the twins and a grey parrot, Doctor`."""
        near = (q for q in (self.last, self.joined) if q is not None and q.last + 2 == p.first)
        return next(near, None) if p.first and self.t[p.first - 1].text == "," else None

    def _names_who_waits(self, p: Phrase, after: int) -> bool:
        """Whether a name between commas tells who somebody is of whom more was said: `a girl in a yellow coat, Pia, sits`."""
        who = self.waiting[-1] if self.waiting else None
        between = p.first > 0 and self.t[p.first - 1].text == "," and after < self.n and self.t[after].text == ","
        told_of = self.last is not None and self.last.role == "at" and self.last.last + 2 == p.first
        return (
            bool(p.name)
            and between
            and told_of
            and who is not None
            and not who.name
            and not who.several
            and who.det in ("a", "an")
            and lx.living(who.head) >= 0.45
            and self.find.finite_at(after + 1)
        )

    def _new_clause_for(self, p: Phrase) -> None:
        if self.deed is not None and self.deed.verb in INNER | _SPEAKING and not self.boundary:
            self.inner = True
            p.unreal = p.unreal or "inner"
        self.deed = None

    def _coordinated(self, p: Phrase, i: int) -> int:
        """Phrases that `and` or commas join to this one: they have its role."""
        listing = False
        while i < self.n:
            j = i
            if self.t[j].text == ",":
                j += 1
            if j < self.n and self.t[j].tag == "C" and self.t[j].low in ("and", "or", "nor"):
                j += 1
                if self.ahead.then(j):
                    j += 1
            elif j > i and self.ahead.then(j):
                j += 1
            elif j > i and (listing or self.ahead.list_goes_on(j)):
                listing = True
            else:
                break
            if j >= self.n or j == i:
                break
            other = self.find.at(j)
            if other is None:
                break
            if (
                self.deed is not None
                and (p.role in ("object", "at", "is") or (p.role == "subject" and p.start > self.deed.start))
                and self.find.finite_at(self.ahead.past_places(other.last + 1))
            ):
                break
            if other.pronoun in ("he", "she", "they", "i", "we", "it") and p.role in ("object", "at", "is"):
                break
            if p.role == "at" and self.t[other.first - 1].text == "," and _lives(other) and not _lives(p):
                break  # `They rode through the park, Bean and the gentleman.`
            and_then = self.t[i].text == "," and self.t[i + 1].low == "and"
            if p.role in ("object", "at", "is") and and_then and self.ahead.begins_a_clause(j):
                break  # `It was as stiff as a bath, and Dash and Comma used it.`
            other.role, other.prep, other.deed = p.role, p.prep, p.deed
            other.unreal = other.unreal or p.unreal
            self._add(other)
            if p.role == "object" and self.deed:
                self.deed.objects.append(other)
            elif p.role == "at":
                (self.deed.at if self.deed else self.front).append(other)
            elif p.role == "subject" and self.deed:
                self.deed.subjects.append(other)
            elif p in self.waiting:
                self.waiting.append(other)
            self.joined = other
            i = other.last + 1
        return i

    # Verbs

    def _verb(self, i: int) -> int:
        """Take in the verb that begins at a word as a new deed; returns the place behind it."""
        t = self.t
        found = verb_group(t, i)
        for at in found.asked:
            if (p := self.find.at(at)) is not None:
                self._add(p)
                self.waiting.append(p)
        group, j, denied = found.words, found.end, found.denied
        infinite = t[i].tag == "o"
        if not group:
            return i + 1
        main = group[-1]
        finite = not infinite and group[0].tag in FINITE
        gives_a_name = (
            main.low in ("called", "named")
            and len(group) == 1
            and i > 0
            and t[i - 1].tag in "NS"
            and j < self.n
            and t[j].tag == "P"
        )
        if gives_a_name:
            finite, main = False, Token(main.text, main.start, main.end, "E", main.lemma)
        before_never = i > 0 and t[i - 1].low == "never"
        if i > 0 and t[i - 1].low in ("like", "than") and main.tag == "G":
            self.supposed = "supposed"  # `It was like looking into a garage`
        deed = Deed(
            main.lemma if main.tag != "o" else "be",
            group[0].start,
            main.end,
            main.tag,
            denied=denied or before_never or any(s.det == "neither" for s in self.waiting),
            modal=next((g.low for g in group if g.tag == "M"), ""),
            perfect=any(g.tag == "H" for g in group[:-1]),
            passive=main.tag == "E" and any(g.tag == "B" for g in group[:-1]),
            finite=finite,
            past=group[0].tag == "D" or group[0].low in ("was", "were", "had", "did"),
            supposed=self.supposed or ("inner" if self.inner else ""),
        )
        if not finite and self.deed is not None and self.deed.verb in INNER and infinite:
            deed.supposed = deed.supposed or "inner"
            self.inner = True
        if self.outer and self.gap is None and finite and not self.waiting:
            self.waiting, self.outer = self.outer, []
        if self.gap is not None and finite:
            deed.gap, deed.relative, self.gap = self.gap, True, None
        self._get_subjects(deed, i, named=gives_a_name)
        if self.front and finite:
            deed.at = self.front
            for p in self.front:
                p.deed = deed
            self.front = []
        said_of = next((w for w in t[j : j + 3] if w.tag != "R"), None)
        deed.says_of = said_of.low if said_of is not None and said_of.tag == "J" else ""
        self.deeds.append(deed)
        self.deed = deed
        self.boundary = False
        return j

    def _get_subjects(self, deed: Deed, i: int, *, named: bool) -> None:
        """Who does the deed whose verb begins at a word; `named` is the verb that gives the phrase before it a name."""
        adjacent = self.last is not None and self.last.last + 1 == i and not self.boundary
        finite = deed.finite
        if self.relative is not None:
            deed.subjects, deed.relative = [self.relative], True
            self.relative = None
        elif self.waiting and named and self.waiting[-1].last + 1 == i:
            # `an old keeper named Tormund and a goat called Biscuit`
            deed.subjects, deed.relative = [self.waiting[-1]], True
        elif self.waiting:
            deed.subjects = (
                list(self.waiting) if finite or self.deed is None else (list(self.deed.subjects) if self.deed else [])
            )
            if finite or self.deed is None:
                for p in self.waiting:
                    p.role, p.deed = "subject", deed
                self.waiting = []
        elif (
            not finite
            and adjacent
            and deed.tag in "GE"
            and self.last is not None
            and self.last.role in ("object", "at", "subject", "is")
        ):
            deed.subjects, deed.relative = [self.last], True
        elif self._inverted(i, deed):
            self.wants_subject = True
        elif self.deed is not None:
            deed.subjects = list(self.deed.subjects)
        elif self.deeds:
            deed.subjects = list(self.deeds[-1].subjects)

    def _sounded(self, p: Phrase) -> bool:
        """Whether who makes a sound stands behind it: `Tock, tock, went the woodpecker`."""
        deed = self.deed
        if deed is None or deed.verb != "go" or deed.objects or p.det != "the" or self.t[p.first - 1].end != deed.end:
            return False
        sounds = [s for s in deed.subjects if not s.det and self.t[s.last + 1].tag == ","]
        return len(sounds) == len(deed.subjects) > 0 and not any(s.pronoun or lx.living(s.head) >= 0.45 for s in sounds)

    def _inverted(self, i: int, deed: Deed) -> bool:
        """Whether the subject comes behind the verb: behind somebody's words, behind `there`, behind a place that stands first."""
        if not deed.finite:
            return False
        before = self.t[i - 1] if i else None
        quoted = any(x.tag == "Q" for x in self.t[max(0, i - 3) : i]) and (before is None or before.tag in "Q,.")
        following = self.t[i + 1] if i + 1 < self.n else None
        if quoted and following is not None and following.tag in "TYPNSU#J":
            return True
        if before is not None and before.tag == "X":
            return True
        opens = i < 2 or self.t[i - 2].tag in "C,.Q"
        if (
            before is not None
            and before.tag in "RI"
            and opens
            and following is not None
            and following.tag in "TYPS#J"
            and deed.does("MI") > 0.3
        ):
            return True
        first = self.deed is None and not self.waiting
        return (
            first
            and (bool(self.front) or (before is not None and before.tag == "R"))
            and (deed.verb == "be" or deed.does("MIB") > 0.3)
        )

    # The small words

    def _preposition(self, i: int) -> int:
        """Take in a preposition, a particle or a word that begins a clause; returns the place behind it."""
        t = self.t
        low = t[i].low
        following = t[i + 1] if i + 1 < self.n else None
        if i + 2 < self.n and (joined := _JOINED.get(" ".join(w.low for w in t[i : i + 3]))) is not None:
            self.prep, self.boundary = joined, False
            return i + 3
        if following is not None and f"{low} {following.low}" in _FIXED:
            return i + 2
        if (
            low == "as"
            and i + 2 < self.n
            and t[i + 1].low in ("far", "high", "low", "deep", "near")
            and t[i + 2].low in ("as", "into")
        ):
            told = self.find.end(i + 3)
            if told is not None and self.t[i + 3].tag != "U" and self.find.finite_at(told + 1):
                self.boundary, self.prep, self.supposed, self.deed = True, "", "supposed", None
                return i + 3  # `as high as a man can reach`
            self.prep, self.boundary = "to", False
            return i + 3
        inner = self.find.end(i + 1) if following is not None else None
        if low in lx.SUBORDINATORS and inner is not None and self.find.finite_at(inner + 1):
            self.boundary, self.prep = True, ""
            awaited = low in ("until", "till") and self.deed is not None and not self.deed.past
            self.supposed = "supposed" if low in _SUPPOSING or awaited else self.supposed
            self.deed = None
            return i + 1
        if inner is None and following is not None and following.tag == "R":
            return i + 1
        if following is None or following.tag in ".,CKQ" or (following.tag in FINITE and low != "to"):
            if self.deed is not None:
                self.deed.particles += (low,)
            self.prep = ""
            if following is not None and following.tag in FINITE:
                self.boundary = False
            return i + 1
        if self.prep and low in ("of", "to"):
            self.prep = (
                f"{self.prep} of"
                if low == "of" and self.prep in ("out", "instead", "because", "outside", "inside")
                else low
            )
        elif i and t[i - 1].low in ("out", "instead") and low == "of":
            self.prep = f"{t[i - 1].low} of"
        else:
            self.prep = low
        self.boundary = False
        return i + 1

    def _mark(self, i: int) -> int:
        """Take in a mark or a word of grammar; returns the place behind it."""
        token = self.t[i]
        tag, low = token.tag, token.low
        after_noun = low == "that" and self.last is not None and self.last.last == i - 1 and self.t[i - 1].tag in "NSP"
        if tag == "K" and after_noun and (self.deed is None or self.deed.verb not in INNER | _SPEAKING):
            tag = "W"
        if tag == "Q":
            self.boundary = True
            self.prep = ""
            if self.deed is not None:
                self.deed.says = True
            self.deed = None
        elif tag == "K" or (tag == "W" and low in ("when", "where", "what", "how", "why")):
            word = (
                f"as {self.t[i + 1].low}"
                if low == "as" and i + 1 < self.n and self.t[i + 1].low in ("if", "though")
                else low
            )
            if (
                word in ("as", "than")
                and self.find.end(i + 1) is not None
                and not self.find.finite_at((self.find.end(i + 1) or 0) + 1)
            ):
                self.prep = word
                return i + 1
            if word == "than" and i + 1 < self.n and self.t[i + 1].tag in "RJ":
                return i + 2  # `taller than ever`: a measure, no clause
            compared = word in _SUPPOSING and not (word == "than" and any(t.low == "sooner" for t in self.t[:i]))
            if word in ("if", "whether") or compared or (word == "that" and self.ahead.purpose(i)):
                self.supposed = "supposed"
            told_of = tag == "W" and not (i and self.t[i - 1].tag == ",")
            if self.deed is not None and self.deed.verb in INNER | _SPEAKING and (told_of or low == "that"):
                self.inner = True
            self.boundary = True
            of_who_waits = self.deed is not None and self.deed.relative and self.deed.subjects[:1]
            if self.waiting and of_who_waits and of_who_waits[0] in self.waiting:
                # `a man who had been a child when the trees were seeds lay down`
                self.outer, self.waiting = self.waiting, []
            self.deed = None if self.waiting == [] else self.deed
            if word in ("as if", "as though"):
                return i + 2
        elif tag in "JR" and low in ("gone", "missing", "absent", "away", "nowhere") and self.deed is not None:
            self.deed.particles += (low,)
        elif tag == "W":
            if self.last is not None and i + 1 < self.n:
                verb_next = self.t[i + 1].tag in _VERBAL or (self.t[i + 1].tag in "Rn" and self.find.finite_at(i + 1))
                self.relative = self.last if verb_next else None
                self.boundary = not verb_next
                if not verb_next:
                    self.gap = self.last
                    if self.waiting:
                        self.outer, self.waiting = self.waiting, []
                    self.deed = None
        elif tag in ",":
            self.boundary = True
            if (self.inner or self.supposed) and (low in ";:—–" or (self.supposed and self.deed is not None)):
                self.inner, self.supposed = False, ""
            if low in (";", ":", "—", "–", "--"):
                self.deed, self.waiting, self.front = None, [], []
        elif tag == "C":
            self.boundary = True
            if low == "but":
                self.inner, self.supposed = False, ""
            if (
                i + 1 < self.n
                and self.t[i + 1].tag == "I"
                and not self.waiting
                and (end := self.find.end(i + 2)) is not None
                and self.find.finite_at(end + 1)
            ):
                self.deed = None
        elif tag == ".":
            self._go_without_a_verb()
            self.deed, self.waiting, self.front, self.boundary = None, [], [], True
            self.inner, self.supposed = False, ""
        return i + 1


def _lives(p: Phrase) -> bool:
    """Whether a phrase is a name, or somebody by a noun."""
    return bool(p.name) or (not p.pronoun and lx.living(p.head) > 0.45)


def _is_described(known: Phrase, told: Phrase) -> bool:
    """Whether a phrase tells more of somebody who is spoken of as known: `her dog, a huge old hound`."""
    living = min(lx.living(known.head), lx.living(told.head)) >= 0.45
    return (
        living
        and told.det in ("a", "an")
        and (known.det == "the" or bool(known.owning or known.owner))
        and not known.name
    )
