"""Briefs with hand-made truth: for each, the rules of preflight that should speak. Made-up stories; both kinds, faulty and clean.

A row is (world, words, attached, expected rules, what else is so). Attached are keys of the world's threads, `pell/night-shirt`
for a costume or variant; `-` before the words of `before` gives the shot before. Half of the rows are clean on purpose: they hold
pronouns, plurals, possessives, common words that are also names, and things that only sound like a fault.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from juxtaform.core.brief.compose import BriefShot, Member, Picture, StyleWords, composed
from juxtaform.core.brief.knowledge import Before, State, ThreadWords
from juxtaform.core.brief.preflight import Preflight
from juxtaform.core.brief.trimming import fitted
from juxtaform.core.findings import Finding
from juxtaform.core.text.names import Named

N, A, L, F, S, P, M, T, U, D = (
    "named_not_attached",
    "attached_not_named",
    "leftover",
    "fights_reference",
    "style_words",
    "pattern",
    "motion",
    "moments",
    "unpicturable",
    "unheld",
)
"""The rules that most rows name."""


def view(thread: str, name: str = "front") -> Picture:
    return Picture("view", f"{thread}-{name}", f"{thread}, {name}", 1.0, thread, f"{thread}-{name}", name == "front")


@dataclass(frozen=True)
class World:
    """A project's threads: members by key, styles, costumes by thread as {name: words}, traits as (costume, noun, hue)."""

    members: Mapping[str, Member]
    styles: Mapping[str, StyleWords]
    aliases: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    costumes: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    traits: Mapping[str, tuple[tuple[str, str, str], ...]] = field(default_factory=dict)
    aspect: str = "3:2"

    def preflight(self) -> Preflight:
        return Preflight(
            [
                ThreadWords(
                    Named(k, m.name, self.aliases.get(k, ()), "character" if m.kind == "character" else m.kind),
                    m.kind,
                    m.wording,
                    tuple(self.costumes.get(k, {}).items()),
                    self.traits.get(k, ()),
                )
                for k, m in self.members.items()
            ]
            + [ThreadWords(Named(k, s.name, (), "style"), "style", "") for k, s in self.styles.items()]
        )


def person(key: str, name: str, wording: str, must_keep: tuple[str, ...] = ()) -> Member:
    return Member(key, "character", name, wording, must_keep=must_keep, views=(view(key),))


def place(key: str, name: str, wording: str) -> Member:
    return Member(key, "setting", name, wording, hold="place", views=(view(key),))


@dataclass(frozen=True)
class Row:
    world: World
    words: str
    attached: str
    expected: frozenset[str]
    so: Mapping[str, Any]

    def findings(self) -> list[Finding]:
        """What preflight says of this brief."""
        shot, before, cut, state = self.told()
        return self.world.preflight().findings(shot, composed(shot), before, cut, state)

    def told(self) -> tuple[BriefShot, Before | None, Any, State]:
        members, style = self._members(self.attached)
        so = dict(self.so)
        members = tuple(Member(**{**m.__dict__, **so.get("member", {}).get(m.id, {})}) for m in members)
        shot = BriefShot(
            "s",
            "4",
            self.words,
            members=members,
            style=style,
            donts=tuple(so.get("donts", ())),
            aspect=so.get("aspect", self.world.aspect),
        )
        before = None
        if "before" in so:
            before = Before(so["before"], frozenset(m.id for m in self._members(so.get("had", self.attached))[0]))
        cut = fitted(composed(shot), so["profile"], shot.members, shot.aspect) if "profile" in so else None
        state = State(
            self.world.aspect,
            so.get("spread", False),
            so.get("guide_form"),
            so.get("guide_run", 0),
            so.get("guide_chroma"),
            so.get("style_chroma"),
            tuple(so.get("unfit", ())),
            tuple(so.get("stale", ())),
        )
        return shot, before, cut, state

    def _members(self, attached: str) -> tuple[tuple[Member, ...], StyleWords | None]:
        members, style = [], None
        for name in attached.split():
            key, _, costume = name.replace("_", " ").partition("/")
            if key in self.world.styles:
                style = self.world.styles[key]
                continue
            m = self.world.members[key]
            words = self.world.costumes.get(key, {}).get(costume, "")
            members.append(Member(**{**m.__dict__, "costume": costume, "costume_wording": words}))
        return tuple(members), style


def rows(world: World, style: str, *told: tuple[Any, ...]) -> tuple[Row, ...]:
    """Briefs of a world, each as (words, attached, rules that should speak, what else is so); the style goes along where none is attached."""
    made = []
    for words, attached, expected, *so in told:
        names = attached if any(s in attached.split() for s in (*world.styles, "-")) else f"{attached} {style}"
        rules = frozenset(expected.split())
        made.append(Row(world, words, names.replace(" -", "").removeprefix("-"), rules, so[0] if so else {}))
    return tuple(made)


def judged(table: tuple[Row, ...]) -> dict[str, tuple[int, int, int]]:
    """For each rule how often it spoke rightly, wrongly, and not though it should have."""
    counts: dict[str, list[int]] = {}
    for row in table:
        told = {f.kind for f in row.findings()}
        for rule in told | row.expected:
            held = counts.setdefault(rule, [0, 0, 0])
            held[0 if rule in told & row.expected else 1 if rule in told else 2] += 1
    return {rule: (a, b, c) for rule, (a, b, c) in counts.items()}
