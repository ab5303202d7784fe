"""Who and what a story has, by all that it goes by: names, words of names, nouns."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.places import place_key
from juxtaform.core.text.names import Named, ThreadKind

ANIMAL = 0.2
"""From this share of its meanings on a noun is an animal."""


@dataclass(eq=False)
class Being:
    """Somebody, a place or a thing of the story, by all that it is called.

    `counted` tells that the story surely has it; others are offered. `members` are those of whom a group is known to consist.
    """

    id: str
    kind: ThreadKind
    name: str
    called: dict[str, None] = field(default_factory=dict)
    heads: set[str] = field(default_factory=set)
    sex: Counter[str] = field(default_factory=Counter)
    leans: str = ""
    """Who mostly has the first name: `f` or `m`; counts where the text itself does not tell."""
    several: bool = False
    members: list[Being] = field(default_factory=list)
    mentions: int = 0
    acts: float = 0.0
    counted: bool = True
    known: bool = False
    creature: bool = False

    def side(self) -> str:
        best = self.sex.most_common(1)
        return best[0][0] if best and best[0][1] > 0 else ""

    def likely(self) -> str:
        """She or he (`f` or `m`) by what the text tells, else by the first name; empty where neither does."""
        return self.side() or self.leans


class Register:
    """Beings by their names. `known` are threads that are there already."""

    def __init__(self, known: Sequence[Named]) -> None:
        self.beings: dict[str, Being] = {}
        self.by_name: dict[str, Being] = {}
        self.by_token: defaultdict[str, list[Being]] = defaultdict(list)
        self.by_head: defaultdict[str, list[Being]] = defaultdict(list)
        self.settings: defaultdict[str, list[Being]] = defaultdict(list)
        for t in known:
            self._know(t)

    def _know(self, t: Named) -> None:
        being = Being(t.id, t.kind, t.name, known=True)
        self.beings[t.id] = being
        for word in (t.name, *t.aliases):
            self.call(being, word)

    def call(self, being: Being, word: str) -> None:
        """Somebody or something goes by a word or a few: a name by each of its own words too, a noun by its head."""
        plain = word.strip()
        if not plain:
            return
        being.called[plain] = None
        low = " ".join(w for w in plain.casefold().split() if w not in ("the", "a", "an"))
        self.by_name.setdefault(low, being)
        tokens = low.split()
        if not tokens:
            return
        head = lx.KIN.get(tokens[-1], tokens[-1])
        if (
            being.kind == "character"
            and plain[:1].islower()
            and lx.singular(head) != head
            and lx.living(lx.singular(head)) >= 0.3
            and not lx.word(head).kinds
        ):
            being.several = True
            being.heads.add(lx.singular(head))
            self.by_head[f"{lx.singular(head)}+"].append(being)
            return
        if being.kind == "character" and plain[:1].islower() and lx.meaning(head).share("A") > ANIMAL:
            being.creature = True
        if (plain[:1].islower() or being.kind != "character") and head:
            being.heads.add(lx.singular(head))
            self.by_head[lx.singular(head)].append(being)
        if being.kind == "character" and plain[:1].isupper():
            if tokens[0].strip(".") not in lx.TITLES and tokens[0] not in lx.KIN:
                being.leans = being.leans or lx.first_names().get(tokens[0], "")
            for token in tokens:
                if (
                    token.strip(".") not in lx.TITLES
                    and token not in lx.DETERMINERS
                    and being not in self.by_token[token]
                ):
                    self.by_token[token].append(being)
        for token in tokens:
            self.vote(being, token)

    def vote(self, being: Being, token: str) -> None:
        """Count what a word shows of whether somebody is she or he."""
        if side := lx.side_of(token):
            being.sex[side] += 8

    def of_kin(self, kin: str) -> Being | None:
        """Whose name begins with this title or a word for this kin: `Mother Duck` for the mother, `King Obadiah` for the king."""

        def begins(name: str) -> bool:
            first = name.split()[0].casefold().strip(".")
            return lx.KIN.get(first, first) == kin

        fits = [
            b
            for b in self.beings.values()
            if b.kind == "character" and any(begins(w) for w in b.called if w[:1].isupper() and " " in w)
        ]
        return fits[0] if len(fits) == 1 else None

    # Asked while reading

    def named(self, p: Phrase) -> Being | None:
        """Whom a phrase names by a name."""
        if not p.name:
            return None
        return self.named_by(p.name)

    def named_by(self, name: str) -> Being | None:
        """Who goes by a name, or by one of its words."""
        low = name.casefold()
        if low in self.by_name:
            return self.by_name[low]
        for token in low.split():
            if owners := self.by_token.get(token):
                return owners[0]
        return None

    def noun(self, p: Phrase) -> list[Being]:
        """Whom or what a phrase's noun can mean, the likeliest first."""
        head = lx.KIN.get(p.head, p.head)
        for d in reversed((*p.described, *p.compound)):
            if found := self.by_name.get(f"{d} {head}") or self.by_name.get(f"{lx.plain_form(d)} {head}"):
                return [found]
        if p.several or p.det in ("every", "each"):
            group = self.by_head.get(f"{head}+")
            if group:
                return group
        found = self.by_name.get(head)
        own = list(self.by_head.get(head, []))
        if p.several and own and not own[0].several:
            return own if own[0].kind != "character" or own[0].known else []
        if found is not None and found not in own:
            own.insert(0, found)
        return own or ([] if p.several else [b for b in self.by_head.get(f"{head}+", []) if p.head == "one"])

    def group_of(self, kin: str) -> list[Being]:
        """Whom a word for several kin means, `the sisters`: the only group of its sex that the text names otherwise."""
        side = "f" if kin in lx.FEMALE else "m" if kin in lx.MALE else ""
        fits = [b for b in self.beings.values() if b.several and b.kind == "character" and side and b.side() == side]
        return (fits[0].members or fits) if len(fits) == 1 else []

    def called(self, word: str) -> Being | None:
        """Who or what goes by some words, whatever their capitals."""
        return self.by_name.get(word.casefold())

    def spoken_to(self, word: str) -> Being | None:
        """The character whom a name, one of its words or a word for kin calls."""
        low = word.casefold()
        found = self.by_name.get(low) or next(iter(self.by_token.get(low.split()[-1], [])), None)
        if found is None and low in lx.KIN:
            found = self.of_kin(lx.KIN[low]) or next(
                (b for b in self.by_head.get(lx.KIN[low], []) if not b.several), None
            )
        return found if found is not None and found.kind == "character" else None

    def add(self, being: Being, *words: str) -> None:
        """Somebody or something that goes by some words."""
        self.beings[being.id] = being
        for word in words:
            self.by_name[word.casefold()] = being

    def join(self, being: Being, other: Being) -> None:
        """Two who were told apart are one."""
        self.beings.pop(other.id, None)
        being.called.update(other.called)
        being.heads |= other.heads
        being.sex.update(other.sex)
        being.mentions += other.mentions
        groups = (b.members for b in self.beings.values() if b.members)
        for beings in (*self.by_head.values(), *self.by_token.values(), *groups):
            beings[:] = dict.fromkeys(being if b is other else b for b in beings)
        for word, owner in self.by_name.items():
            if owner is other:
                self.by_name[word] = being

    def place(self, p: Phrase) -> Being | None:
        """The setting that a phrase names, if it names one."""
        return self.place_called(place_key(p))

    def place_called(self, key: str) -> Being | None:
        """The setting that goes by some words (see `places.place_key`); None where none does."""
        if not key:
            return None
        found = self.by_name.get(key)
        if found is None or found.kind != "setting":
            found = self.by_name.get(key.split()[-1])
        if found is None or found.kind != "setting":
            found = next((b for b in self.settings.get(key.split()[-1], [])), None)
        return found if found is not None and found.kind == "setting" else None
