"""The people of an English story: names and nouns that act, speak or are spoken to, and the groups that they make."""

from __future__ import annotations

from collections import Counter
from collections.abc import Container

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.evidence import Evidence, Seen
from juxtaform.core.text.english.phrases import head_of_name
from juxtaform.core.text.english.places import PLACE
from juxtaform.core.text.english.register import ANIMAL, Being, Register
from juxtaform.core.text.names import NEW

ALIVE = "PAG"
"""The kinds of nouns that live: persons, animals, groups of people."""
_NOBODY = lx.GRAMMAR.words("nobody")
_HUES = lx.KNOWN.words("hues")


_YOUNG_KIN = {
    "boy": frozenset("brother son grandson nephew".split()),
    "girl": frozenset("sister daughter granddaughter niece".split()),
}
"""Whom `the boy` and `the girl` mean where nobody brought them in: a brother who was named."""
_YOUNG = lx.GRAMMAR.words("young")
_UNSEEN = Seen()
_INITIALS = 4
"""Capitals that may be somebody's initials: a longer name in capitals is written so to bring them in."""
_COUNTED = 12
"""So many at most are told one after the other: the third of a thousand is of others."""
_NEAR = 5
"""Phrases between a group and one of it that is counted off at once: `a row of birds, seven of them, and the oldest …`."""
_LIVING_NOUN = 0.5
"""From here on a name ends with what somebody is: `Mama Bear`."""
_FELT = lx.GRAMMAR.words("felt")


class People:
    """Puts the people of a text into a cast by the evidence of all of it."""

    def __init__(self, cast: Register, seen: Evidence) -> None:
        self.cast, self.seen = cast, seen
        self.cues: Counter[str] = Counter()

    def find(self, spoken_to: Counter[str], talked_of: frozenset[str], cues: Counter[str]) -> None:
        """Find all; `spoken_to` are names by which somebody is called in speech, `talked_of` other names in it, `cues` those that stand above
        lines in a script."""
        for name in talked_of & self.seen.names.keys():
            self.seen.names[name].acts += 0.5
        self.cues = cues
        self._name_people(spoken_to, cues)
        self._noun_people()
        self._tie_groups()

    # People by name

    def _name_people(self, spoken_to: Counter[str], cues: Counter[str]) -> None:
        forms: dict[str, Seen] = dict(self.seen.names)
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
            home = [
                c
                for c in clusters
                if core
                and core & _core(c[0])
                and (core <= _core(c[0]) or _core(c[0]) <= core)
                and not any(_told_apart(name, n) for n in c)
            ]
            if len(home) == 1 or (home and len(core) == 1):
                home[0].append(name)
            else:
                clusters.append([name])
        for name, other in self.seen.same:
            one, two = ([c for c in clusters if n in c] for n in (name, other))
            if one and two and one[0] is not two[0]:
                two[0].extend(one[0])
                clusters.remove(one[0])
        of_several = {t for t, n in Counter(t for c in clusters for t in set().union(*map(_core, c))).items() if n > 1}
        plural = [c for c in clusters if len(c) == 1 and c[0].endswith("s") and c[0][:-1].casefold() in of_several]
        for cluster in clusters:
            if cluster not in plural:
                self._name_person(cluster, forms, of_several)
        for [name] in plural:
            self._namesakes(name, forms[name])

    def _namesakes(self, name: str, seen: Seen) -> None:
        """Those who share a name, where it is told of several: `the Annas`."""
        members = list(self.cast.by_token.get(name[:-1].casefold(), []))
        group = Being(NEW + name, "character", name, mentions=seen.count, acts=seen.acts, several=True)
        group.members, group.counted = members, False
        group.called[name] = None
        self.cast.add(group, name)

    def _name_person(self, cluster: list[str], forms: dict[str, Seen], of_several: Container[str]) -> None:
        core = set().union(*(_core(n) for n in cluster))
        known = next((self.cast.by_name[n.casefold()] for n in cluster if n.casefold() in self.cast.by_name), None)
        if known is None:
            near = (
                b
                for token in core
                for b in self.cast.by_token.get(token, [])
                if b.known or len(b.name.split()) == 1 or not any(_told_apart(n, b.name) for n in cluster)
            )
            known = next((b for b in near if any(_can_be(n, b) for n in cluster)), None)
        seen = [forms[n] for n in cluster]
        count, acts = sum(s.count for s in seen), sum(s.acts + s.speaks + s.called_to for s in seen)
        at = sum(s.at for s in seen)
        if known is not None:
            known.mentions += count
            for name in cluster:
                if known.kind == "character":
                    self.cast.call(known, name)
            for name, head in self.seen.beside:
                if name in cluster:
                    self._tie(known, head)
            return
        longest = max(cluster, key=lambda n: (len(n.split()), not n.isupper(), forms[n].count))
        if longest.startswith("The ") and longest in self.cues:
            longest = longest.removeprefix("The ")
        if not core or (len(core) == 1 and longest.casefold() in lx.KIN):
            self._kin_name(longest, cluster, count, sum(s.acts + s.speaks for s in seen))
            return
        last = head_of_name(longest.split())
        noun = lx.word(last)
        titled = longest.split()[0].casefold().strip(".") in lx.TITLES and len(longest.split()) > 1
        heads = Counter(h for s in seen for h, n in s.heads.items() for _ in range(n))
        person_head = any(lx.meaning(h).share(ALIVE) > 0.5 for h in heads)
        if (
            not person_head
            and not titled
            and self.seen.given.isdisjoint(cluster)
            and not any(s.speaks or s.wills for s in seen)  # `said Jan`, `June laughed`
            and any(lx.capitals().get(w, "") in ("T", "J") for w in (longest, longest.removesuffix("s")))
        ):
            return
        group = [h for h in heads if (h, [longest]) in self.seen.groups]
        if group and len(longest.split()) == 1:
            longest = f"{longest} {lx.plural(group[0])}"
        is_place = (len(longest.split()) > 1 and not titled and noun.share(PLACE) > 0.5) or (
            lx.capitals().get(longest) in tuple(PLACE) and at >= acts
        )
        if is_place or (at > acts and not titled and not person_head):
            key = longest.casefold()
            self.seen.places[key].count += count
            self.seen.places[key].at += at
            self.seen.places[key].first = min(s.first for s in seen)
            self.seen.places[key].heads[longest] += 1
            return
        noun_alone = not any(name in cluster for name, _ in self.seen.beside) and not lx.capitals().get(last.title())
        if longest.isupper() and len(longest) > 2 and lx.living(last) >= 0.45 and not self.cues and noun_alone:
            self._loud_noun(longest.casefold(), last, cluster, count, acts)
            return
        told = len(longest) > 2 and any(name in cluster for name, _ in self.seen.beside)
        if longest.isupper() and (told or len(longest) > _INITIALS):
            longest = longest.title()  # `A boy, OSMAN, holds the string.`
        known_name = acts >= 0.5 and _is_first_name(longest)
        if not (titled or person_head or known_name or acts >= 1 or count >= 2) or (len(longest) == 1 and acts < 2):
            return
        being = Being(NEW + longest, "character", longest, mentions=count, acts=acts, several=bool(group))
        if group:
            self.cast.by_head[f"{group[0]}+"].append(being)
        being.counted = bool(
            ((titled or person_head) and acts >= 0.5)
            or acts >= 1.5
            or (count >= 2 and acts >= 1)
            or (acts >= 1 and lx.word(last).total == 0)
            or known_name
            or (acts >= 1 and not self.seen.given.isdisjoint(cluster))
            or (acts >= 1 and any(n in cluster and lx.living(h) >= 0.45 for n, h in self.seen.beside))
            or (len(longest.split()) > 1 and sum(s.acts for s in seen) >= 1 and noun.share(PLACE) < 0.3)
        )
        self.cast.add(being)
        for name in sorted(cluster, key=lambda n: -len(n)):
            self.cast.call(being, name)
        for token in core:
            own = next((w for w in longest.split() if w.casefold().strip(".") == token), "")
            if own and len(longest.split()) > 1 and token not in of_several and token in _core(cluster[0]):
                self.cast.call(being, own)
        for head, _ in heads.items():
            self._tie(being, head)
        for name, head in self.seen.beside:
            if name in cluster:
                self._tie(being, head)

    def _loud_noun(self, name: str, head: str, cluster: list[str], count: int, acts: float) -> None:
        """Somebody without a name whom a treatment brings in with capitals: `an OLD WOMAN bends over it`."""
        being = Being(NEW + name, "character", name, mentions=count, acts=acts, counted=acts >= 0.5)
        self.cast.add(being)
        for written in (name, *cluster):
            self.cast.call(being, written)
        being.heads.add(head)
        if being not in self.cast.by_head[head]:
            self.cast.by_head[head].append(being)

    def _tie(self, being: Being, head: str) -> None:
        """A noun that is set beside a name means the same person."""
        if head in self.seen.nominals:
            self.cast.by_name[head] = being
        elif lx.meaning(head).share(ALIVE) > 0.4 or head in lx.KIN:
            head = lx.KIN.get(head, head)
            being.heads.add(head)
            self.cast.vote(being, head)
            if being not in self.cast.by_head[head]:
                self.cast.by_head[head].append(being)
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
        if named := self.cast.of_kin(kin):
            for n in cluster:
                self.cast.call(named, n)
            return
        being = Being(NEW + name, "character", name, mentions=count, counted=acts >= 0.5)
        self.cast.add(being)
        for n in cluster:
            self.cast.call(being, n)
        being.heads.add(kin)
        self.cast.by_head[kin].append(being)
        for name, head in self.seen.beside:
            if name in cluster:
                self._tie(being, head)

    # People by noun

    def _noun_people(self) -> None:
        for (head, several), seen in sorted(self.seen.nouns.items(), key=lambda n: n[1].first):
            alive = lx.living(head)
            named = self.cast.by_head.get(f"{head}+" if several else head) or self._by_a_cue(head, several)
            if named:
                named[0].mentions += seen.count
                continue
            if head in _NOBODY or (head in _HUES and not several) or not seen.count:
                continue
            often = seen.count >= 3 or (seen.laughs and seen.count >= 2)
            lively = seen.moves + seen.laughs >= 1 and seen.acts >= 2 and often
            lively = lively and lx.meaning(head).share("BT" + PLACE) < 0.5
            speaks = seen.speaks or self.seen.nouns.get((head, not several), _UNSEEN).speaks
            if alive < 0.45 and not (alive >= 0.2 and seen.moves) and not speaks and not lively:
                continue
            if (head in lx.KIN or head in lx.TITLES) and not several and (of_kin := self.cast.of_kin(head)) is not None:
                self._tie(of_kin, head)
                of_kin.mentions += seen.count
                of_kin.counted = of_kin.counted or seen.acts >= 1  # Constable Brandt: `the constable knocked`
                continue
            if (
                not several
                and head in lx.ANYBODY
                and head not in self.seen.introduced
                and any(
                    b.kind == "character"
                    and (b.name[:1].isupper() or bool(b.heads & _YOUNG_KIN.get(head, frozenset())))
                    for b in self.cast.beings.values()
                )
            ):
                continue
            if (
                several
                and head in lx.TOGETHER
                and seen.known_first
                and not self._names_of(head)
                and len([b for b in self.cast.beings.values() if b.kind == "character" and _can_be_one_of(head, b)])
                >= 2
                and seen.first > 1
            ):
                continue
            self._noun_person(head, several, seen, alive, bool(speaks))
        self._count_off()

    def _by_a_cue(self, head: str, several: bool) -> list[Being]:
        """Whose cue is a noun, or the last part of one: `the porter` is THE PORTER, `a parrot-drone` DRONE."""
        being = self.cast.by_name.get(head.rsplit("-", 1)[-1]) if not several else None
        if being is None or not any(name in self.cues for name in being.called):
            return []
        being.heads.add(head)
        self.cast.by_head[head].append(being)
        being.called[head] = None
        return [being]

    def _count_off(self) -> None:
        """`the eldest`, `the second one`: one of the group that was named last before."""
        groups = sorted(
            (seen.first, head, seen.number)
            for (head, several), seen in self.seen.nouns.items()
            if several and f"{head}+" in self.cast.by_head
        )
        for nominal, times in self.seen.nominals.items():
            before = [g for g in groups if g[0] < self.seen.nominal_at[nominal]]
            if not before:
                continue
            near = [g for g in before if self.seen.nominal_at[nominal] - g[0] <= _NEAR]
            counted_ones = [g for g in before if 2 <= g[2] <= _COUNTED]
            head = (near or counted_ones or before)[-1][1]
            if (named := self.cast.by_name.get(nominal)) is not None:
                named.heads.add(head)
                continue
            whole = f"{nominal.removesuffix(' one')} {head}"
            if whole in self.cast.by_name:
                self.cast.by_name[nominal] = self.cast.by_name[whole]
                continue
            being = Being(NEW + whole, "character", whole, mentions=times, acts=times)
            being.heads = {head}
            being.called[whole] = None
            self.cast.vote(being, head)
            self.cast.add(being)
            self.cast.by_name[nominal] = self.cast.by_name[whole] = being

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
            shown = f"{kind} {lx.plural(head)}" if kind and shown != head else lx.plural(head)
        another = (
            len(apart) == 1 and apart[0] in lx.ORDINALS and apart[0] != "first"
        )  # `a second mouse` is not the mouse
        if len(apart) >= 2 or (len(apart) == 1 and not several and (another or (head, True) in self.seen.nouns)):
            times_of = {
                d: sum(n for w, n in seen.described.items() if d in (w, lx.plain_form(w)) or _looks_alike(w, d))
                for d in apart
            }
            for d in apart:
                being = Being(f"{NEW}{d} {head}", "character", f"{d} {head}", mentions=times_of[d], acts=seen.acts)
                being.heads = {head}
                self.cast.add(being)
                being.called[f"{d} {head}"] = None
                self.cast.by_name[f"{d} {head}"] = being
                for w in seen.described:
                    if _looks_alike(w, d):
                        self.cast.by_name[f"{w} {head}"] = being
                self.cast.vote(being, head)
            if sum(times_of.values()) >= seen.count:
                return
        being = Being(NEW + shown, "character", shown, mentions=seen.count, acts=seen.acts, several=several)
        being.creature = lx.meaning(head).share("A") > ANIMAL or lx.living(head) < 0.45
        enough = seen.acts >= 1 or (seen.count >= 2 and seen.acts > 0)
        being.counted = bool(
            enough
            and (
                alive >= 0.45
                or (alive >= 0.2 and seen.moves)
                or (speaks and (seen.count >= 2 or any(b.counted for b in self.cast.by_head.get(head, ()))))
                or (seen.moves and seen.count >= 3)
                or (seen.laughs and seen.count >= 2)
            )
        )
        if being.id in self.cast.beings:
            return
        self.cast.add(being)
        being.heads.add(head)
        being.called[shown] = None
        if shown != head and not several:
            being.called[head] = None
        self.cast.by_head[f"{head}+" if several else head].append(being)
        self.cast.vote(being, head)

    def _told_apart(self, head: str, seen: Seen) -> list[str]:
        """The looks by which the text tells several who share a noun apart: those that exclude each other, or any two where it speaks of several such. The
        first of each look is its name."""
        looks: dict[tuple[str, int], str] = {}
        for d in seen.described:
            if (look := lx.look(d)) is not None:
                looks.setdefault(look, lx.plain_form(d))
        excluding = any((scale, 1 - side) in looks for scale, side in looks)
        of_several = self.seen.nouns[head, True].number >= 2 if (head, True) in self.seen.nouns else False
        return list(looks.values()) if excluding or (of_several and len(looks) >= 2) else []

    def _tie_groups(self) -> None:
        """Groups get their members: names set beside the plural (`the twins Zuzana and Petr`), kin with that title (`her fathers`: Papa Leo, Papa Sam)."""
        for being in list(self.cast.beings.values()):
            if not being.several or being.members:
                continue
            head = next(iter(being.heads), "")
            told = self._names_of(head)
            by_name = [b for n in told if (b := self.cast.by_name.get(n.casefold())) is not None]
            if len(by_name) >= 2:
                being.members, being.counted = by_name, False
                continue
            own = [
                b
                for b in self.cast.beings.values()
                if not b.several and b is not being and b.kind == "character" and head in b.heads
            ]
            if not own and self.seen.nouns[head, True].number >= 2:
                own = self._next_names(head)
            if head in lx.KIN.values():
                own += [
                    b
                    for b in self.cast.beings.values()
                    if not b.several
                    and b.kind == "character"
                    and any(lx.KIN.get(w.split()[0].casefold()) == head and len(w.split()) > 1 for w in b.called)
                    and b not in own
                ]
            ordinal = [b for b in own if b.name.split()[0] in lx.ORDINALS]
            being.members = ordinal if len(ordinal) >= 2 else own if len(own) >= 2 else []
            being.counted = being.counted or bool(being.members)

    def _names_of(self, head: str) -> list[str]:
        """The names that stand beside a word for several: `the twins Zuzana and Petr`."""
        return next((names for h, names in self.seen.groups if h == head and len(names) >= 2), [])

    def _next_names(self, head: str) -> list[Being]:
        """The names that follow a group of as many: `the three kittens … Soot, Flour and Crumb`."""
        group = self.seen.nouns[head, True]
        count = group.number
        side = lx.side_of(head)
        first = {
            b.id: min(self.seen.names[n].first for n in b.called if n in self.seen.names)
            for b in self.cast.beings.values()
            if not b.several and any(n in self.seen.names for n in b.called)
        }
        after = sorted(
            (b for b in self.cast.beings.values() if first.get(b.id, -1) > group.first),
            key=lambda b: first[b.id],
        )
        next_ones = [b for b in after if not (side and b.side() and b.side() != side)][:count]
        if len(next_ones) == count and first[next_ones[-1].id] - group.first <= 8 * count:
            return next_ones
        return []


def _is_first_name(name: str) -> bool:
    """Whether a name is or begins with a first name, and nothing else's."""
    return name.split()[0].casefold() in lx.first_names() and lx.capitals().get(name, "P") == "P"


def _looks_alike(one: str, other: str) -> bool:
    """Whether two adjectives tell of the same look: `tall` and `bigger`."""
    look = lx.look(one)
    return look is not None and look == lx.look(other)


def _can_be(name: str, being: Being) -> bool:
    """Whether somebody may have a name, by their own and by what else they are called: `Fenn` is `Old Fenn`, but `Number Two` not `Number One`."""
    core, own = _core(name), _core(being.name)
    others = (_core(w) for w in being.called if not _core(w) < own)
    return any(core <= known or known <= core for known in (own, *others))


def _told_apart(one: str, other: str) -> bool:
    """Whether two names with a word in common are those of two: `Mr Fox` and `Mrs Fox`, `Mama Bear` and `Papa Bear`, `Little Owl` and `Big Owl`; not `Fenn` and `Old Fenn`."""
    *mine, last = one.casefold().replace(".", "").split()
    *theirs, end = other.casefold().replace(".", "").split()
    if last != end or not mine or not theirs or set(mine) <= set(theirs) or set(theirs) <= set(mine):
        return False
    a, b = mine[0], theirs[0]
    kin, same = lx.KIN.get(a), lx.KIN.get(b)
    look, alike = lx.look(a), lx.look(b)
    if {_side_of(a), _side_of(b)} == {"f", "m"} or (kin and same and kin != same):
        return True
    if look and alike and look[0] == alike[0]:
        return look != alike
    animals = lx.living(last) >= _LIVING_NOUN
    return animals and not (kin and kin == same) and not {a, b} & _FELT


def _side_of(title: str) -> str:
    kin = lx.KIN.get(title, title)
    return "f" if kin in lx.FEMALE else "m" if kin in lx.MALE else ""


def _core(name: str) -> frozenset[str]:
    """The words of a name that are its own, titles left out."""
    return frozenset(w.casefold().strip(".") for w in name.split()) - lx.TITLES - lx.DETERMINERS - {"of"}


def _can_be_one_of(head: str, being: Being) -> bool:
    """Whether several who are spoken of as known may have somebody among them: a goat called Brindle and a baker are not `the children`."""
    if head != "child":
        return True
    return all(h in _YOUNG or lx.meaning(h).share(ALIVE) < 0.5 for h in being.heads)
