"""Who and what an English story has: names and nouns that act, speak or are spoken to; places that people are in, at or come to; things in hands.

Evidence is counted over the whole text before anybody is told: a name by its capital and what it does, a noun by what it means and what it does.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.evidence import Evidence, Seen
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.places import PLACE, place_key
from juxtaform.core.text.english.sentences import Read
from juxtaform.core.text.english.whereabouts import Moved
from juxtaform.core.text.names import NEW, Named, ThreadKind

ALIVE = "PAG"
"""The kinds of nouns that live: persons, animals, groups of people."""
_NOBODY = frozenset(
    "people crowd world family someone company team public member population group band army lot kind".split()
)


_YOUNG_KIN = {
    "boy": frozenset("brother son grandson nephew".split()),
    "girl": frozenset("sister daughter granddaughter niece".split()),
}
"""Whom `the boy` and `the girl` mean where nobody brought them in: a brother who was named."""
_UNSEEN = Seen()


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


class Cast:
    """All that a text names, told by reading its sentences once. `known` are threads that are there already; the rest has ids that begin with `new:`."""

    def __init__(
        self,
        reads: Sequence[Read],
        spoken_to: Counter[str],
        cues: Counter[str],
        known: Sequence[Named],
        went: Mapping[int, Moved],
    ) -> None:
        self.beings: dict[str, Being] = {}
        self._by_name: dict[str, Being] = {}
        self._by_token: defaultdict[str, list[Being]] = defaultdict(list)
        self._by_head: defaultdict[str, list[Being]] = defaultdict(list)
        self._settings: defaultdict[str, list[Being]] = defaultdict(list)
        self._seen = Evidence(reads, went)
        for t in known:
            self._know(t)
        self._name_people(spoken_to, cues)
        self._noun_people()
        self._tie_groups()
        self._name_places()
        self._name_things()

    # What is known beforehand

    def _know(self, t: Named) -> None:
        being = Being(t.id, t.kind, t.name, known=True)
        self.beings[t.id] = being
        for word in (t.name, *t.aliases):
            self._call(being, word)

    def _call(self, being: Being, word: str) -> None:
        plain = word.strip()
        if not plain:
            return
        being.called[plain] = None
        low = " ".join(w for w in plain.casefold().split() if w not in ("the", "a", "an"))
        self._by_name.setdefault(low, being)
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
            self._by_head[f"{lx.singular(head)}+"].append(being)
            return
        if (plain[:1].islower() or being.kind != "character") and head:
            being.heads.add(lx.singular(head))
            self._by_head[lx.singular(head)].append(being)
        if being.kind == "character" and plain[:1].isupper():
            for token in tokens:
                if (
                    token.strip(".") not in lx.TITLES
                    and token not in lx.DETERMINERS
                    and being not in self._by_token[token]
                ):
                    self._by_token[token].append(being)
        for token in tokens:
            self._vote(being, token)

    def _vote(self, being: Being, token: str) -> None:
        token = lx.KIN.get(token.strip("."), token.strip("."))
        if token in lx.FEMALE or lx.meaning(token).sex == "f" or lx.ends_in(token, "woman"):
            being.sex["f"] += 8
        elif token in lx.MALE or lx.meaning(token).sex == "m" or lx.ends_in(token, "man"):
            being.sex["m"] += 8

    # People by name

    def _name_people(self, spoken_to: Counter[str], cues: Counter[str]) -> None:
        forms: dict[str, Seen] = dict(self._seen.names)
        for name, count in cues.items():
            seen = forms.setdefault(name, Seen())
            seen.count += count
            seen.acts += count
            seen.speaks += count
            seen.first = min(seen.first, 0)
        for name, count in spoken_to.items():
            if name in forms or any(name in f.split() for f in forms):
                forms.setdefault(name, Seen()).called_to += count
            elif count >= 2 or name.split()[0].casefold() in lx.TITLES:
                forms.setdefault(name, Seen(count=count)).called_to += count
        clusters: list[list[str]] = []
        for name in sorted(forms, key=lambda n: (-len(n.split()), forms[n].first)):
            core = _core(name)
            home = [c for c in clusters if core and core & _core(c[0]) and (core <= _core(c[0]) or _core(c[0]) <= core)]
            if len(home) == 1 or (home and len(core) == 1):
                home[0].append(name)
            else:
                clusters.append([name])
        for cluster in clusters:
            self._name_person(cluster, forms)

    def _name_person(self, cluster: list[str], forms: dict[str, Seen]) -> None:
        core = set().union(*(_core(n) for n in cluster))
        known = next((b for token in core for b in self._by_token.get(token, [])), None) or next(
            (self._by_name[n.casefold()] for n in cluster if n.casefold() in self._by_name), None
        )
        seen = [forms[n] for n in cluster]
        count, acts = sum(s.count for s in seen), sum(s.acts + s.speaks + s.called_to for s in seen)
        at = sum(s.at for s in seen)
        if known is not None:
            known.mentions += count
            for name in cluster:
                if known.kind == "character":
                    self._call(known, name)
            for name, head in self._seen.beside:
                if name in cluster:
                    self._tie(known, head)
            return
        longest = max(cluster, key=lambda n: (len(n.split()), forms[n].count))
        if not core or (len(core) == 1 and longest.casefold() in lx.KIN):
            self._kin_name(longest, cluster, count, sum(s.acts + s.speaks for s in seen))
            return
        last = longest.split()[-1].casefold()
        noun = lx.word(last)
        titled = longest.split()[0].casefold().strip(".") in lx.TITLES and len(longest.split()) > 1
        heads = Counter(h for s in seen for h, n in s.heads.items() for _ in range(n))
        person_head = any(lx.meaning(h).share(ALIVE) > 0.5 for h in heads)
        if (
            not person_head
            and not titled
            and self._seen.given.isdisjoint(cluster)
            and any(lx.capitals().get(w, "") in ("T", "J") for w in (longest, longest.removesuffix("s")))
        ):
            return
        group = [h for h in heads if (h, [longest]) in self._seen.groups]
        if group and len(longest.split()) == 1:
            longest = f"{longest} {plural(group[0])}"
        is_place = (len(longest.split()) > 1 and not titled and noun.share(PLACE) > 0.5) or (
            lx.capitals().get(longest) in tuple(PLACE) and at >= acts
        )
        if is_place or (at > acts and not titled and not person_head):
            key = longest.casefold()
            self._seen.places[key].count += count
            self._seen.places[key].at += at
            self._seen.places[key].first = min(s.first for s in seen)
            self._seen.places[key].heads[longest] += 1
            return
        if not (titled or person_head or acts >= 1 or count >= 2) or (len(longest) == 1 and acts < 2):
            return
        being = Being(NEW + longest, "character", longest, mentions=count, acts=acts, several=bool(group))
        if group:
            self._by_head[f"{group[0]}+"].append(being)
        being.counted = bool(
            ((titled or person_head) and acts >= 0.5)
            or acts >= 1.5
            or (count >= 2 and acts >= 1)
            or (acts >= 1 and lx.word(last).total == 0)
        )
        self._put(being)
        for name in sorted(cluster, key=lambda n: -len(n)):
            self._call(being, name)
        for token in core:
            if len(longest.split()) > 1 and all(token in _core(n) for n in cluster[:1]):
                self._call(being, next(w for w in longest.split() if w.casefold().strip(".") == token))
        for head, _ in heads.items():
            self._tie(being, head)
        for name, head in self._seen.beside:
            if name in cluster:
                self._tie(being, head)

    def _tie(self, being: Being, head: str) -> None:
        """A noun that is set beside a name means the same person."""
        if head in self._seen.nominals:
            self._by_name[head] = being
        elif lx.meaning(head).share(ALIVE) > 0.4 or head in lx.KIN:
            head = lx.KIN.get(head, head)
            being.heads.add(head)
            self._vote(being, head)
            if being not in self._by_head[head]:
                self._by_head[head].append(being)
            if not any(head == w.casefold() for w in being.called):
                being.called[head] = None

    def _kin_name(self, name: str, cluster: list[str], count: int, acts: float) -> None:
        """`Mother`, `Papa`: a title alone is a name, that of whom other words for the same kin mean."""
        word = name.split()[-1].casefold().strip(".")
        if word in ("sir", "madam", "mister", "miss", "child", "mr", "mrs", "dr", "st") or (
            word not in lx.KIN and lx.living(word) < 0.45
        ):
            return
        kin = lx.KIN.get(word, word)
        if named := self._kin(kin):
            for n in cluster:
                self._call(named, n)
            return
        being = Being(NEW + name, "character", name, mentions=count, counted=acts >= 0.5)
        self._put(being)
        for n in cluster:
            self._call(being, n)
        being.heads.add(kin)
        self._by_head[kin].append(being)
        for name, head in self._seen.beside:
            if name in cluster:
                self._tie(being, head)

    def _kin(self, kin: str) -> Being | None:
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

    def _put(self, being: Being) -> None:
        self.beings[being.id] = being

    # People by noun

    def _noun_people(self) -> None:
        for (head, several), seen in sorted(self._seen.nouns.items(), key=lambda n: n[1].first):
            alive = lx.living(head)
            named = self._by_head.get(f"{head}+" if several else head)
            if named:
                named[0].mentions += seen.count
                continue
            if head in _NOBODY or (not seen.count):
                continue
            lively = (
                seen.moves >= 1 and seen.acts >= 2 and seen.count >= 3 and lx.meaning(head).share("BT" + PLACE) < 0.5
            )
            speaks = seen.speaks or self._seen.nouns.get((head, not several), _UNSEEN).speaks
            if alive < 0.45 and not (alive >= 0.2 and seen.moves) and not speaks and not lively:
                continue
            if (head in lx.KIN or head in lx.TITLES) and not several and (of_kin := self._kin(head)) is not None:
                self._tie(of_kin, head)
                of_kin.mentions += seen.count
                continue
            if (
                not several
                and head in lx.ANYBODY
                and head not in self._seen.introduced
                and any(
                    b.kind == "character"
                    and (b.name[:1].isupper() or bool(b.heads & _YOUNG_KIN.get(head, frozenset())))
                    for b in self.beings.values()
                )
            ):
                continue
            if (
                several
                and head in lx.TOGETHER
                and seen.known_first
                and len([b for b in self.beings.values() if b.kind == "character"]) >= 2
                and seen.first > 1
            ):
                continue
            self._noun_person(head, several, seen, alive, bool(speaks))
        self._count_off()

    def _count_off(self) -> None:
        """`the eldest`, `the second one`: one of the group that was named last before."""
        groups = sorted(
            (seen.first, head, seen.number)
            for (head, several), seen in self._seen.nouns.items()
            if several and f"{head}+" in self._by_head
        )
        for nominal, times in self._seen.nominals.items():
            before = [g for g in groups if g[0] < self._seen.nominal_at[nominal]]
            if not before:
                continue
            counted_ones = [g for g in before if g[2] >= 2]
            head = (counted_ones or before)[-1][1]
            if (named := self._by_name.get(nominal)) is not None:
                named.heads.add(head)
                continue
            whole = f"{nominal.removesuffix(' one')} {head}"
            if whole in self._by_name:
                self._by_name[nominal] = self._by_name[whole]
                continue
            being = Being(NEW + whole, "character", whole, mentions=times, acts=times)
            being.heads = {head}
            being.called[whole] = None
            self._vote(being, head)
            self._put(being)
            self._by_name[nominal] = self._by_name[whole] = being

    def _noun_person(self, head: str, several: bool, seen: Seen, alive: float, speaks: bool) -> None:
        kind, times = seen.described.most_common(1)[0] if seen.described else ("", 0)
        apart = [d for d, n in seen.described.items() if d in lx.ORDINALS and d not in ("last", "next", "other")]
        apart += [] if several else self._told_apart(head, seen)
        written = seen.heads.most_common(1)[0][0] if head in lx.KIN and seen.heads and not several else head
        shown = (
            f"{kind} {written}"
            if kind
            and times > 0.5 * seen.count
            and kind not in ("other", "same", "last", "next", "only", "whole", "own")
            else written
        )
        if lx.capitals().get(kind.capitalize()) == "J" and not lx.word(kind).total:
            shown = shown.replace(kind, kind.capitalize(), 1)
        if several:
            shown = f"{kind} {plural(head)}" if kind and shown != head else plural(head)
        if len(apart) >= 2 or (len(apart) == 1 and (head, True) in self._seen.nouns and not several):
            times_of = {
                d: sum(n for w, n in seen.described.items() if d in (w, lx.plain_form(w)) or _looks_alike(w, d))
                for d in apart
            }
            for d in apart:
                being = Being(f"{NEW}{d} {head}", "character", f"{d} {head}", mentions=times_of[d], acts=seen.acts)
                being.heads = {head}
                self._put(being)
                being.called[f"{d} {head}"] = None
                self._by_name[f"{d} {head}"] = being
                for w in seen.described:
                    if _looks_alike(w, d):
                        self._by_name[f"{w} {head}"] = being
                self._vote(being, head)
            if sum(times_of.values()) >= seen.count:
                return
        being = Being(NEW + shown, "character", shown, mentions=seen.count, acts=seen.acts, several=several)
        being.creature = lx.meaning(head).share("A") > 0.2 or lx.living(head) < 0.45
        enough = seen.acts >= 1 or (seen.count >= 2 and seen.acts > 0)
        being.counted = bool(
            enough
            and (
                alive >= 0.45
                or (alive >= 0.2 and seen.moves)
                or (speaks and seen.count >= 2)
                or (seen.moves and seen.count >= 3)
            )
        )
        if being.id in self.beings:
            return
        self._put(being)
        being.heads.add(head)
        being.called[shown] = None
        if shown != head and not several:
            being.called[head] = None
        self._by_head[f"{head}+" if several else head].append(being)
        self._vote(being, head)

    def _told_apart(self, head: str, seen: Seen) -> list[str]:
        """The looks by which the text tells several who share a noun apart: those that exclude each other, or any two where it speaks of several such. The
        first of each look is its name."""
        looks: dict[tuple[str, int], str] = {}
        for d in seen.described:
            if (look := lx.look(d)) is not None:
                looks.setdefault(look, lx.plain_form(d))
        excluding = any((scale, 1 - side) in looks for scale, side in looks)
        of_several = self._seen.nouns[head, True].number >= 2 if (head, True) in self._seen.nouns else False
        return list(looks.values()) if excluding or (of_several and len(looks) >= 2) else []

    def _tie_groups(self) -> None:
        """Groups get their members: names set beside the plural (`the twins Zuzana and Petr`), kin with that title (`her fathers`: Papa Leo, Papa Sam)."""
        for being in list(self.beings.values()):
            if not being.several or being.members:
                continue
            head = next(iter(being.heads), "")
            told = next((names for h, names in self._seen.groups if h == head and len(names) >= 2), [])
            by_name = [b for n in told if (b := self._by_name.get(n.casefold())) is not None]
            if len(by_name) >= 2:
                being.members, being.counted = by_name, False
                continue
            own = [
                b
                for b in self.beings.values()
                if not b.several and b is not being and b.kind == "character" and head in b.heads
            ]
            if not own and self._seen.nouns[head, True].number >= 2:
                own = self._next_names(head)
            if head in lx.KIN.values():
                own += [
                    b
                    for b in self.beings.values()
                    if not b.several
                    and b.kind == "character"
                    and any(lx.KIN.get(w.split()[0].casefold()) == head and len(w.split()) > 1 for w in b.called)
                    and b not in own
                ]
            ordinal = [b for b in own if b.name.split()[0] in lx.ORDINALS]
            being.members = ordinal if len(ordinal) >= 2 else own if len(own) >= 2 else []
            being.counted = being.counted or bool(being.members)

    def _next_names(self, head: str) -> list[Being]:
        """The names that follow a group of as many: `the three kittens … Soot, Flour and Crumb`."""
        group = self._seen.nouns[head, True]
        count = group.number
        after = sorted(
            (
                (self._seen.names[n].first, b)
                for b in self.beings.values()
                if not b.several
                for n in b.called
                if n in self._seen.names and self._seen.names[n].first > group.first
            ),
            key=lambda x: x[0],
        )
        order: dict[str, tuple[int, Being]] = {}
        for first, b in after:
            order.setdefault(b.id, (first, b))
        first_names = list(order.values())[:count]
        if len(first_names) == count and first_names[-1][0] - group.first <= 8 * count:
            return [b for _, b in first_names]
        return []

    # Places and things

    def _name_places(self) -> None:
        known = [b for b in self.beings.values() if b.kind == "setting"]
        by_head: dict[str, Being] = {}
        for b in known:
            for h in b.heads:
                by_head[h] = b
        keys = sorted(self._seen.places, key=lambda k: self._seen.places[k].first)
        heads = Counter(k.split()[-1] for k in keys)
        for key in keys:
            seen = self._seen.places[key]
            head = key.split()[-1]
            owner = self._by_name.get(key)
            if key in self._by_name and self._by_name[key].kind != "prop":
                self._by_name[key].mentions += seen.count
                continue
            if not seen.count or (not seen.at and seen.weak < 1 and not seen.heads):
                continue
            if head in by_head and (" " not in key or heads[head] == 1):
                by_head[head].mentions += seen.count
                self._by_name.setdefault(key, by_head[head])
                continue
            whole = (
                next(
                    (k for k in keys if k != key and k.split()[-1] == head and " " in k and self._seen.places[k].count),
                    "",
                )
                if " " not in key
                else ""
            )
            if whole and heads[head] == 2:
                self._seen.places[whole].count += seen.count
                self._seen.places[whole].at += seen.at
                self._seen.places[whole].weak += seen.weak
                self._seen.places[whole].first = min(seen.first, self._seen.places[whole].first)
                if whole in self._by_name:
                    self._by_name[key] = self._by_name[whole]
                    continue
                name = next(iter(seen.heads), whole)
                being = Being(NEW + name, "setting", name, mentions=seen.count)
                self._put(being)
                for word in (whole, key):
                    being.called[word] = None
                    self._by_name[word] = being
                being.heads.add(head)
                by_head.setdefault(head, being)
                continue
            name = next(iter(seen.heads), self._seen.shown.get(key, key))
            being = Being(NEW + name, "setting", name, mentions=seen.count)
            being.counted = seen.at >= 1 or seen.weak >= 1
            self._put(being)
            being.called[name] = None
            being.heads.add(head)
            if owner is None or owner.kind != "character":
                self._by_name[key] = being
            self._settings[head].append(being)
            by_head.setdefault(head, being)

    def _name_things(self) -> None:
        for (head, several), seen in self._seen.nouns.items():
            both = self._seen.whole[head]
            if (
                several
                or seen.handled < 1
                or both < 2
                or self._by_head.get(head)
                or head in self._by_name
                or head in lx.PARTS
            ):
                continue
            meaning = lx.meaning(head)
            if meaning.share("OKCFDVN") < 0.5 or meaning.share("B") > 0.3:
                continue
            being = Being(NEW + head, "prop", head, mentions=both)
            self._put(being)
            being.called[head] = None
            being.heads.add(head)
            self._by_head[head].append(being)
            self._by_name.setdefault(head, being)

    # Asked while reading

    def named(self, p: Phrase) -> Being | None:
        """Whom a phrase names by a name."""
        if not p.name:
            return None
        low = p.name.casefold()
        if low in self._by_name:
            return self._by_name[low]
        for token in low.split():
            if owners := self._by_token.get(token):
                return owners[0]
        return None

    def noun(self, p: Phrase) -> list[Being]:
        """Whom or what a phrase's noun can mean, the likeliest first."""
        head = lx.KIN.get(p.head, p.head)
        for d in reversed((*p.described, *p.compound)):
            if found := self._by_name.get(f"{d} {head}") or self._by_name.get(f"{lx.plain_form(d)} {head}"):
                return [found]
        if p.several or p.det in ("every", "each"):
            group = self._by_head.get(f"{head}+")
            if group:
                return group
        found = self._by_name.get(head)
        own = list(self._by_head.get(head, []))
        if p.several and own and not own[0].several:
            return own if own[0].kind != "character" or own[0].known else []
        if found is not None and found not in own:
            own.insert(0, found)
        return own or ([] if p.several else [b for b in self._by_head.get(f"{head}+", []) if p.head == "one"])

    def group_of(self, kin: str) -> list[Being]:
        """Whom a word for several kin means, `the sisters`: the only group of its sex that the text names otherwise."""
        side = "f" if kin in lx.FEMALE else "m" if kin in lx.MALE else ""
        fits = [b for b in self.beings.values() if b.several and b.kind == "character" and side and b.side() == side]
        return (fits[0].members or fits) if len(fits) == 1 else []

    def called(self, word: str) -> Being | None:
        """Who or what goes by some words, whatever their capitals."""
        return self._by_name.get(word.casefold())

    def spoken_to(self, word: str) -> Being | None:
        """The character whom a name, one of its words or a word for kin calls."""
        low = word.casefold()
        found = self._by_name.get(low) or next(iter(self._by_token.get(low.split()[-1], [])), None)
        if found is None and low in lx.KIN:
            found = self._kin(lx.KIN[low]) or next(
                (b for b in self._by_head.get(lx.KIN[low], []) if not b.several), None
            )
        return found if found is not None and found.kind == "character" else None

    def add(self, being: Being, *words: str) -> None:
        """Somebody or something that goes by some words."""
        self.beings[being.id] = being
        for word in words:
            self._by_name[word.casefold()] = being

    def place(self, p: Phrase) -> Being | None:
        return self.place_called(place_key(p))

    def place_called(self, key: str) -> Being | None:
        """The setting that goes by some words (see `places.place_key`); None where none does."""
        if not key:
            return None
        found = self._by_name.get(key)
        if found is None or found.kind != "setting":
            found = self._by_name.get(key.split()[-1])
        if found is None or found.kind != "setting":
            found = next((b for b in self._settings.get(key.split()[-1], [])), None)
        return found if found is not None and found.kind == "setting" else None


def _looks_alike(one: str, other: str) -> bool:
    """Whether two adjectives tell of the same look: `tall` and `bigger`."""
    look = lx.look(one)
    return look is not None and look == lx.look(other)


def _core(name: str) -> frozenset[str]:
    """The words of a name that are its own, titles left out."""
    return frozenset(w.casefold().strip(".") for w in name.split()) - lx.TITLES - lx.DETERMINERS - {"of"}


def plural(noun: str) -> str:
    """A noun for several.

    >>> plural("kitten"), plural("fox"), plural("lady"), plural("man")
    ('kittens', 'foxes', 'ladies', 'men')
    """
    irregular = {
        "man": "men",
        "woman": "women",
        "child": "children",
        "mouse": "mice",
        "goose": "geese",
        "person": "people",
        "wolf": "wolves",
        "thief": "thieves",
        "sheep": "sheep",
        "fish": "fish",
        "deer": "deer",
    }
    if noun in irregular:
        return irregular[noun]
    for end in ("man", "woman"):
        if noun.endswith(end) and len(noun) > len(end):
            return noun[:-2] + "en"
    if re.search(r"(s|x|z|ch|sh)$", noun):
        return noun + "es"
    if re.search(r"[^aeiou]y$", noun):
        return noun[:-1] + "ies"
    return noun + "s"
