"""An English story read through: in each sentence who is to be seen, who acts, who speaks, where it is, and what it turns on."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import zip_longest

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.cast import Cast
from juxtaform.core.text.english.own_names import OwnNames, join_nicknames
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.english.places import PLACE, placed
from juxtaform.core.text.english.pronouns import REMEMBERED, Memory, Pronouns, Spoken
from juxtaform.core.text.english.register import Being
from juxtaform.core.text.english.seen import is_seen, kinds_are_nobody, leaves, weather_is_nobody
from juxtaform.core.text.english.sentences import (
    Read,
    names_of,
    narrated,
    opening,
    passages_read,
)
from juxtaform.core.text.english.speakers import CALLED_TO, Speakers
from juxtaform.core.text.english.whereabouts import Mentions, Moved, around, went
from juxtaform.core.text.manuscript import Manuscript, Passage
from juxtaform.core.text.names import NEW, Mention, Named, heading_place, titled
from juxtaform.core.text.piece import Line, Piece
from juxtaform.core.text.speech import bare

_TALKED_OF = re.compile(r"\b(?P<before>[a-zà-þ]+) (?P<name>[A-ZÀ-Þ][\w-]+)")
_SIBLINGS = frozenset(["brother", "sister", "sibling"])
_CAMERA = lx.GRAMMAR.words("camera")
YOU_LEAST = 0.15
"""From this share of all who do things on a story is told to somebody who is in it."""
_SURE_OF_ANOTHER = 0.75
_SURE_OF_KNOWN = 0.6
"""How sure a sentence must be of another place than that of its scene's heading; less for one that is a thread already."""


@dataclass
class _Scene(Memory):
    """What is remembered while a scene is read: whom it spoke of, and where it is."""

    place: Being | None = None
    heading: Being | None = None
    script: bool = False
    """Whether the heading is a script's: its place holds to the end of the scene."""


class Story:
    """An English manuscript read. Reading costs time in proportion to its length; `known` are the threads that are there."""

    def __init__(self, manuscript: Manuscript, known: Sequence[Named] = (), cast: Cast | None = None) -> None:
        self.manuscript = manuscript
        self._ended: tuple[int, list[Spoken]] = (-1, [])
        self._own_names = OwnNames(manuscript.text)
        self.told, self._speeches = narrated(manuscript)
        self.names = names_of(manuscript, self.told, known)
        cues = Counter(titled(p.name) for p in manuscript.passages if p.kind == "character" and p.name)
        self.is_script = bool(cues) or any(heading_place(p.words)[2] for p in manuscript.passages if p.kind == "scene")
        self._loud = frozenset(cues) if self.is_script else frozenset()
        self.scenes = [
            (
                heading,
                list(
                    passages_read(
                        manuscript,
                        self.told,
                        self._speeches,
                        self.names,
                        passages,
                        self._loud or (frozenset([""]) if self.is_script else frozenset()),
                    )
                ),
            )
            for heading, passages in manuscript.scenes()
        ]
        reads = [r for _, parts in self.scenes for r in parts if isinstance(r, Read)]
        kinds_are_nobody(reads)
        weather_is_nobody(reads)
        self._went = self._wanderings(reads)
        self.cast = cast or Cast(
            reads,
            self._called_to(),
            self._talked_of(),
            cues,
            known,
            self._went,
            in_fragments=bool(manuscript.framings),
        )
        self.pronouns = Pronouns(self.cast)
        self._speakers = Speakers(self.cast, manuscript.text)
        self._narrator(reads)
        join_nicknames(self.cast, manuscript.text)
        if self.is_script:
            for b in self.cast.beings.values():
                b.counted = b.counted and (b.kind != "setting" or b.known)
        for heading, _ in self.scenes:
            if heading:
                self._heading_place(heading.words)
        self._votes()

    # The whole text

    def _wanderings(self, reads: Sequence[Read]) -> dict[int, Moved]:
        """Where the story goes, by where the sentence begins that tells it."""
        seen = around(reads)
        mentions = Mentions()
        found = {}
        for heading, parts in self.scenes:
            seen.here = heading_place(heading.words)[0].casefold() if heading else ""
            for part in parts:
                if not isinstance(part, Read):
                    continue
                if (moved := went(part, mentions.of(part), seen)) is not None:
                    found[part.start] = moved
                    seen.here = moved.key
                    seen.been.add(moved.key)
                elif leaves(part):
                    seen.here = ""
        return found

    def _said(self) -> list[tuple[int, int]]:
        """Where something is said."""
        spans = [s for speeches in self._speeches.values() for s in speeches]
        return spans + [(p.start, p.end) for p in self.manuscript.passages if p.kind == "dialogue" and p.name]

    def _talked_of(self) -> frozenset[str]:
        """Names within what is said that are not of a place somebody is in or comes to."""
        text = self.manuscript.text
        found = (m for a, b in self._said() for m in _TALKED_OF.finditer(text, a, b))
        tied = lx.DETERMINERS | lx.PREPOSITIONS | lx.OWNING
        return frozenset(m["name"] for m in found if m["before"] not in tied) & self.names.names

    def _called_to(self) -> Counter[str]:
        found: Counter[str] = Counter()
        text = self.manuscript.text
        for a, b in self._said():
            for m in CALLED_TO.finditer(text[a:b]):
                word = m.group(1)
                low = word.casefold()
                common = lx.word(low).total or lx.word(lx.singular(low)).total
                if word[0].isupper() and (
                    low in lx.PRONOUNS or (common and word not in self.names.names and low not in lx.KIN)
                ):
                    continue
                if (
                    lx.capitals().get(word, "") in ("T", "J")
                    or low in lx.ADVERBS
                    or low in lx.LINKS
                    or low in lx.ASKING
                ):
                    continue
                found[word if word[0].isupper() else word.capitalize()] += 1
        return found

    def _narrator(self, reads: Sequence[Read]) -> None:
        """`I` and `you` are somebody when they do things; an aside of who tells the story makes nobody."""
        does: Counter[str] = Counter()
        told = 0
        for r in reads:
            for d in r.sentence.deeds:
                for p in d.subjects:
                    told += 1
                    if p.pronoun == "we" and not d.past and d.verb in _CAMERA:
                        continue
                    if p.pronoun in ("i", "we", "you") and not (not d.past and d.does("TS") > 0.5) and not d.modal:
                        does["you" if p.pronoun == "you" else "I"] += 1 if p.pronoun != "we" else 0.5  # type: ignore[assignment]
        # To go to school you went up two hundred stairs: here and there you are anybody.
        for name, least in (("I", 1.5), ("you", max(3, YOU_LEAST * told))):
            if does[name] >= least and self.cast.called(name) is None:
                being = self._who_i_am() if name == "I" else None
                if being is None:
                    being = Being(NEW + name, "character", name, acts=does[name])
                being.mentions, being.counted = being.mentions + int(does[name]), True
                being.called.update(dict.fromkeys(("I", "me", "my", "we") if name == "I" else ("you", "your")))
                self.cast.add(being, name)

    def _who_i_am(self) -> Being | None:
        """Who tells the story, where the text says so: by name, or as what it is."""
        named = [b for word in self.cast.me if (b := self.cast.by_name.get(word.casefold())) is not None]
        told = [b for word in self.cast.me for b in self.cast.by_head.get(word, []) if not b.several]
        mine = [b for b in dict.fromkeys((*named, *told)) if b.kind == "character" and not b.known]
        for other in mine[1:]:
            if not other.name[:1].isupper():
                self.cast.join(mine[0], other)
        return mine[0] if mine else None

    def _heading_place(self, words: str) -> Being | None:
        place, _, script = heading_place(words)
        if not place:
            return None
        bare = re.sub(r"^(?:(?:the\s+)?same|the|a|an)\s+", "", place, flags=re.IGNORECASE)
        low = bare.casefold()
        found = self.cast.called(low)
        if found is None or found.kind != "setting":
            short = next(
                (
                    w
                    for w in self.cast.beings.values()
                    if w.kind == "setting"
                    and any(low == c.casefold() or low.endswith(" " + c.casefold()) for c in w.called)
                ),
                None,
            )
            if short is not None and not short.known and (script or " " in low):
                self.cast.beings.pop(short.id)
                short.id, short.name = NEW + bare[:1].upper() + bare[1:], bare[:1].upper() + bare[1:]
                self.cast.beings[short.id] = short
                short.called[short.name] = None
            found = short
        if found is None:
            name = bare[:1].upper() + bare[1:]
            found = Being(NEW + name, "setting", name, mentions=1)
            found.called[name] = None
        self.cast.add(found, low)
        found.counted = True
        return found

    def _votes(self) -> None:
        """Who is she and who is he, learned by reading once before."""
        for _, parts in self.scenes:
            scene = _Scene(learning=True)
            for part, behind in zip_longest(parts, parts[1:]):
                if isinstance(part, Read):
                    self._piece(part, scene, behind)
                else:
                    self._cue(part, scene)
        self._own_names.settle(self.cast)

    # A scene

    def pieces(self, number: int) -> list[Piece]:
        """The sentences and speeches of a scene, read."""
        heading, parts = self.scenes[number]
        last, who = self._ended
        scene = _Scene(earlier=who if last == number - 1 else [])
        if heading:
            scene.place = scene.heading = self._heading_place(heading.words)
            scene.script = bool(self._loud) or heading_place(heading.words)[2]
        found = []
        for part, behind in zip_longest(parts, parts[1:]):
            found.append(self._piece(part, scene, behind) if isinstance(part, Read) else self._cue(part, scene))
        self._ended = number, [*scene.earlier, *scene.recent][-REMEMBERED:]
        return found

    def _cue(self, passage: Passage, scene: _Scene) -> Piece:
        who = self.cast.spoken_to(titled(passage.name))
        if who is not None:
            scene.remember(Spoken([who]))
        here = (who.id,) if who is not None else ()
        if scene.learning:
            self._own_names.hear(who, passage.start, passage.end)
        return Piece(
            passage.start,
            passage.end,
            passage.words,
            True,
            True,
            lines=(Line(here[0] if here else "", passage.words),),
            people=here if not passage.off else (),
            actors=here,
            place=scene.place.id if scene.place else "",
            opening="speech",
            dialogue=True,
        )

    def _piece(self, read: Read, scene: _Scene, behind: Read | Passage | None) -> Piece:
        before = scene.place
        mentions, people, actors, stated = self._resolved(read, scene)
        text = self.manuscript.text
        speaker: Being | None = None
        lines: tuple[Line, ...] = ()
        if read.said:
            speaker = self._speakers.of(read, scene, people, actors, behind)
            if speaker is not None:
                people = [speaker, *(p for p in people if p is not speaker)]
                if not scene.speakers or scene.speakers[-1] is not speaker:
                    scene.speakers.append(speaker)
            for a, b in read.said:
                for m in CALLED_TO.finditer(text[a:b]):
                    other = self.cast.spoken_to(m.group(1))
                    if (
                        other is not None
                        and other is not speaker
                        and other not in people
                        and any(other in r.people for r in scene.recent[-4:])
                    ):
                        people.append(other)
                if scene.learning:
                    self._own_names.hear(speaker, a, b)
            lines = tuple(Line(speaker.id if speaker else "", bare(text[a:b]).rstrip(", ")) for a, b in read.said)
            if people:
                if not scene.recent:
                    scene.remember(Spoken())
                scene.recent[-1].people = list(dict.fromkeys([*people, *scene.recent[-1].people]))
        scene.said_last = bool(read.said)
        props = [m.id for m in mentions if m.id in self.cast.beings and self.cast.beings[m.id].kind == "prop"]
        new_place = scene.place is not before and scene.place is not None
        words = read.sentence.tokens
        return Piece(
            read.start,
            read.end,
            text[read.start : read.end],
            read.begins_paragraph,
            bool(read.said),
            tuple(mentions),
            lines,
            tuple(b.id for b in people if b.kind == "character" and b.counted),
            (scene.place.id,) if scene.place is not None else (),
            tuple(dict.fromkeys(props)),
            actors=tuple(
                b.id for b in ([speaker] if speaker else []) + [a for a in actors if a is not speaker] if b.counted
            ),
            place=scene.place.id if scene.place else "",
            new_place=new_place,
            left_place=scene.place is None and before is not None,
            stated=stated,
            opening=opening(read),
            nouns=frozenset(p.head for p in read.sentence.phrases if p.head and not p.name and p.head != "#"),
            dialogue=bool(read.said) and sum(1 for t in words if t.tag not in ".,Q") <= 5,
            still=bool(read.sentence.deeds)
            and not any(d.finite and d.verb not in ("be", "have") and d.does("I") < 0.6 for d in read.sentence.deeds),
            exists=any(t.tag == "X" for t in words[:3])
            or any(
                d.subjects and d.subjects[0].start > d.start and d.does("IM") > 0.3 for d in read.sentence.deeds[:1]
            ),
        )

    # A sentence

    def _resolved(self, read: Read, scene: _Scene) -> tuple[list[Mention], list[Being], list[Being], float]:
        """Mentions in order, who is to be seen, who acts, and how surely the place is told; moves what the scene remembers on."""
        scene.begin(read.sentence.phrases, read.begins_paragraph)
        mentions: list[Mention] = []
        people: dict[str, Being] = {}
        actors: dict[str, Being] = {}
        stated = 0.0
        at = read.start
        owned = {id(p.owner): p for p in read.sentence.phrases if p.owner is not None}
        for p in sorted(read.sentence.phrases, key=lambda p: p.start):
            beings = self._meant(p, scene)
            scene.read(p, beings)
            for b in beings:
                if b.kind in ("character", "prop") or not p.pronoun:
                    mentions.append(Mention(b.id, at + p.start, at + p.end, pronoun=bool(p.pronoun)))
            alive = [b for b in beings if b.kind == "character"]
            if is_seen(p, owned.get(id(p)), scene, alive):
                for b in alive:
                    people[b.id] = b
                    if p.role == "subject" and p.deed is not None:
                        actors[b.id] = b
            if (
                p.owning
                and lx.meaning(p.head).share("BC") > 0.5
                and p.role in ("subject", "object", "at")
                and not p.unreal
            ):
                for b in self.pronouns.meant(p.owning, p, scene, weight=1):
                    people[b.id] = b
                    if p.role == "subject":
                        actors[b.id] = b
            if p.prep == "except":
                for b in alive:
                    people.pop(b.id, None)  # `Everyone except Mia laughed`
                    actors.pop(b.id, None)
        if (moved := self._goes_to(read, scene)) is not None:
            scene.place, stated = moved
        elif scene.place is not None and leaves(read):
            scene.place = None
        here = list(people.values())
        scene.now.unseen = [b for b in scene.now.people if b.id not in people]
        if here or scene.now.people or read.sentence.deeds or read.said:
            scene.end(list(dict.fromkeys([*actors.values(), *here, *scene.now.people])))
        return mentions, here, list(actors.values()), stated

    def _goes_to(self, read: Read, scene: _Scene) -> tuple[Being, float] | None:
        """The place that the story goes to in a sentence, and how surely; in a scene with a heading only what is sure to be another one."""
        moved = self._went.get(read.start)
        place = self.cast.place_called(moved.key) if moved is not None else None
        if moved is None or place is None or place is scene.place:
            return None
        if scene.heading is None:
            return place, moved.sure
        is_place = place.known or lx.meaning(moved.phrase.head).share(PLACE) >= 0.5
        sure = is_place and moved.sure >= (_SURE_OF_KNOWN if place.known else _SURE_OF_ANOTHER)
        return (place, moved.sure) if sure and not scene.script else None

    def _meant(self, p: Phrase, scene: _Scene) -> list[Being]:
        if p.unreal == "weather":
            return []
        if p.pronoun:
            return self.pronouns.meant(p.pronoun, p, scene, weight=2)
        cast = self.cast
        if p.role == "beside" and p.beside is not None and not p.name and not p.beside.name:
            return scene.who.get(id(p.beside), [])
        if (being := cast.named(p)) is not None:
            return being.members or [being]
        if (
            p.head == "#"
            or p.head in ("one", "other")
            or (p.head in lx.ORDINALS and not p.compound)
            or lx.superlative(p.head)
        ):
            if p.head == "#" and p.of is not None and not p.of.pronoun and p.of.several:
                return self._meant(p.of, scene)  # `Two of the boys`
            return self.pronouns.counted_off(p, scene)
        found = list(cast.noun(p))
        if p.role == "at" or placed(p):
            place = cast.place(p)
            if place is not None and place not in found:
                found.insert(0, place)
        head = lx.KIN.get(p.head, p.head)
        if p.several and head in _SIBLINGS and (siblings := self._siblings(p, scene)):
            return siblings
        if found:
            if p.several and found[0].kind == "character" and found[0].several and found[0].members:
                return found[0].members
            if len(found) > 1 and found[0].kind == "character":
                ranked = [b for r in reversed(scene.recent) for b in r.people if b in found]
                return [ranked[0]] if ranked and not p.described else found[:1]
            return found[:1]
        if (p.several and head in lx.TOGETHER and p.det in ("the", "these", "those", "both")) or (
            p.several and head in lx.TOGETHER and p.owning
        ):
            return self.cast.group_of(head) or self.pronouns.together(scene, max(2, p.count), counted=p.count > 2)
        if head in lx.ANYBODY and p.det in ("the", "this", "that") and not set(p.described) - lx.USUAL:
            side = lx.ANYBODY[head]
            for spoken in reversed(scene.recent):
                for b in spoken.people:
                    if (
                        b.kind == "character"
                        and b.side() == side
                        and not b.several
                        and (side or head not in ("creature", "animal", "beast") or b.creature)
                    ):
                        return [b]
        return []

    def _siblings(self, p: Phrase, scene: _Scene) -> list[Being]:
        """Whom `his brothers` means: the others of the only group of whom he is one."""
        own = scene.who.get(id(p.owner), []) if p.owner is not None else []
        if p.owning and not own:
            own = self.pronouns.meant(p.owning, p, scene, weight=0)
        groups = [b for b in self.cast.beings.values() if b.several and own and all(o in b.members for o in own)]
        return [b for b in groups[0].members if b not in own] if len(groups) == 1 else []
