"""The desk: a project's rows as briefs are composed from them."""

from __future__ import annotations

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Iterable, Sequence
from functools import cached_property
from itertools import groupby

import numpy as np
from sqlalchemy.orm import Session

from juxtaform.core.brief.compose import Brief, BriefShot, Edit, Member, Picture, StyleWords, Tone, composed
from juxtaform.core.brief.knowledge import State, ThreadWords
from juxtaform.core.brief.motion import MotionShot
from juxtaform.core.brief.preflight import Preflight
from juxtaform.core.brief.saying import where_of
from juxtaform.core.brief.stylewords import hue_of_name
from juxtaform.core.brief.trimming import ANYTHING, PROFILES, Profile
from juxtaform.core.brief.versions import Editions
from juxtaform.core.colour.spaces import linear_from_hex, oklab_from_linear
from juxtaform.core.colour.words import colour_name
from juxtaform.core.text.names import Named
from juxtaform.records.models import Bead, Project, Reference, Shot, Thread
from juxtaform.studio import fitness
from juxtaform.studio.editions import editions_of, in_force
from juxtaform.studio.rows import ProjectRows

STRONG_COLOURS = 0.25
"""The colourfulness of a picture is that of this share of it, the most colourful part."""


class Desk:
    """All that briefs are composed from. Facts and beads of a shot may change in the rows beneath it; after any other change a
    project's desk is made anew."""

    def __init__(self, session: Session, project_rows: ProjectRows) -> None:
        self.rows = project_rows
        self.project = project_rows.project
        self.ids = [s.id for s in project_rows.order if s.status == "settled"]
        self.at = {shot: i for i, shot in enumerate(self.ids)}
        self.threads = project_rows.threads
        self.references: defaultdict[str, list[Reference]] = defaultdict(list)
        rows = list(project_rows.references.values())
        for r in rows:
            self.references[r.thread_id].append(r)
        self.costume_of = {r.id: r.costume for r in rows}
        self.editions: Editions = editions_of(rows, self.ids)
        self.traits = list(project_rows.traits.values())
        self.pictures = project_rows.pictures
        judged = fitness.judged(
            session,
            fitness.JudgedBy(
                project_rows.project, list(project_rows.threads.values()), rows, self.traits, self.editions
            ),
        )
        self.faults = tuple(fault for fit in judged for fault in fit.faults)
        self.unfit = {f.reference_id: f.faults[0].title for f in judged if f.faults}
        self.unmeasured = {r.picture_sha for r in rows if r.id not in {f.reference_id for f in judged}}
        self._style_chroma: dict[str, float | None] = {}
        self._positions = {
            t.id: (("character", "prop", "setting", "style").index(t.kind), t.position) for t in self.threads.values()
        }
        self._begins = sorted(self.ids.index(r.from_shot_id) for r in rows if r.from_shot_id in self.ids)
        self._members: dict[tuple[object, ...], Member | None] = {}
        self._styles: dict[tuple[object, ...], StyleWords] = {}
        self._composed: dict[str, tuple[BriefShot, Brief]] = {}
        self._runs = _runs([project_rows.shots[i].sketch_sha for i in self.ids])

    @classmethod
    def read(cls, session: Session, project_id: str) -> Desk:
        """The desk of a project as a transaction sees it. Raises NotThere."""
        return cls(session, ProjectRows(session, project_id, plan_alone=True))

    def beads(self, shot_id: str) -> list[Bead]:
        return list(self.rows.beads_of[shot_id].values())

    def profile(self, name: str | None = None) -> Profile:
        """The profile of that name, else the project's own choice, else no limits."""
        wanted = self.project.profile if name is None else name
        return next((p for p in profiles_of(self.project) if p.name == wanted), ANYTHING)

    @cached_property
    def preflight(self) -> Preflight:
        """The rules over the project's threads."""
        return Preflight([self._words_of(t) for t in self.threads.values()])

    def changed(self, shots: Iterable[str]) -> None:
        """Facts or beads of some shots are other ones now."""
        for shot in shots:
            self._composed.pop(shot, None)

    def shot(self, index: int) -> BriefShot:
        """All that the brief of the shot at an index is composed from."""
        return self._at(index)[0]

    def brief(self, index: int) -> Brief:
        """The brief of the shot at an index, with its hand edits."""
        return self._at(index)[1]

    def _at(self, index: int) -> tuple[BriefShot, Brief]:
        key, ends = self.ids[index], self._ends(index)
        if key not in self._composed or self._composed[key][0].ends != ends:
            shot = self._laid_out(index, ends)
            edits = [Edit(e["key"], e["was"], e["now"]) for e in self.rows.shots[key].brief_edits]
            self._composed[key] = shot, composed(shot, edits)
        return self._composed[key]

    def _ends(self, index: int) -> tuple[Picture, ...]:
        """The pictures between which a bridge lies: the picked ones of its neighbours, as far as there are any; of a clip the frame next to the bridge."""
        if not self.rows.shots[self.ids[index]].bridge:
            return ()
        found = []
        for at, role, words in ((index - 1, "first", "picture before"), (index + 1, "last", "picture after")):
            take = self.rows.picked(self.ids[at]) if 0 <= at < len(self.ids) else None
            if take is not None:
                sha = (take.last_sha if role == "first" else take.first_sha) or take.picture_sha
                found.append(Picture(role, sha, f"Shot {at + 1}, the {words}: {role} frame", 1.0))  # type: ignore[arg-type]
        return tuple(found)

    def _laid_out(self, index: int, ends: tuple[Picture, ...]) -> BriefShot:
        row = self.rows.shots[self.ids[index]]
        beads = sorted(self.beads(row.id), key=lambda b: self._positions[b.thread_id])
        members = [m for b in beads if (m := self._member(b, index)) is not None]
        style = next((b for b in beads if self.threads[b.thread_id].kind == "style"), None)
        style_id = style.thread_id if style is not None else self.project.style_id
        guide = None
        if row.sketch_sha:
            guide = Picture("guide", row.sketch_sha, f"Shot {index + 1}, layout guide", row.guide_strength)
        return BriefShot(
            row.id,
            str(index + 1),
            row.shows,
            row.size,
            row.angle,
            tuple(members),
            self._style(style_id, style, index) if style_id in self.threads else None,
            guide,
            row.aspect or self.project.aspect,
            tuple(dict.fromkeys([*self.project.donts, *row.donts])),
            self._seed(row, index),
            room=self._room(row),
            fold=self.project.medium == "book" and row.page_form == "spread",
            ends=ends,
        )

    def _room(self, row: Shot) -> str:
        """Where a book's picture has to stay quiet for the words that are laid in."""
        if self.project.medium != "book" or (row.start_part_id is None and row.words_at is None):
            return ""
        return where_of(tuple(row.words_at)) if row.words_at else "at the bottom"

    def motion(self, index: int) -> MotionShot:
        """All that the motion brief of the shot at an index is composed from."""
        row = self.rows.shots[self.ids[index]]
        frames = (tuple(row.move_start), tuple(row.move_end)) if row.move_start and row.move_end else None
        ends = {p.role: p.label for p in self._ends(index)}
        starts = ends.get("first", f"the picture of shot {index + 1}")
        return MotionShot(row.motion, row.move, row.length_s, starts, ends.get("last", ""), frames)

    def state(self, index: int, shot: BriefShot) -> State:
        """What is known of a shot beside its words."""
        row = self.rows.shots[self.ids[index]]
        guide = self.pictures.get(row.sketch_sha or "")
        stale = tuple(
            b.thread_id
            for b in self.beads(row.id)
            if b.reference_id is not None and self.editions.at(b.reference_id, index) != b.reference_id
        )
        unfit = tuple(
            (v.thread, fault)
            for m in shot.members
            for v in m.views[:1]
            if (fault := self.unfit.get(v.reference, "")) and f"{v.thread}" == m.id
        )
        return State(
            self.project.aspect,
            row.page_form == "spread",
            guide.width / guide.height if guide else None,
            self._runs[index],
            _chroma(guide.palette) if guide else None,
            self._chroma_of(shot.style),
            unfit,
            stale,
        )

    def _member(self, bead: Bead, index: int) -> Member | None:
        """Beads that say the same between two replacements of references share one member."""
        key = (
            bead.thread_id,
            bead.hold,
            bead.weight,
            bead.costume,
            bead.reference_id,
            bead.facing,
            bead.face,
            tuple(bead.stands or ()),
            self._segment(index),
        )
        if key not in self._members:
            self._members[key] = self._made(bead, index)
        return self._members[key]

    def _segment(self, index: int) -> int:
        return bisect_right(self._begins, index)

    def _made(self, bead: Bead, index: int) -> Member | None:
        t = self.threads[bead.thread_id]
        if t.kind == "style":
            return None
        views = in_force(self.references[t.id], self.editions, index, bead, bead.costume)
        worn = next((c for c in t.costumes if c["name"] == bead.costume), None)
        return Member(
            t.id,
            t.kind,  # type: ignore[arg-type]
            t.name,
            t.wording,
            t.short_wording,
            bead.costume,
            _costume_words(worn) if worn else "",
            bead.hold,
            bead.weight,
            tuple(t.must_keep),
            t.owner_id or "",
            tuple(
                Picture(
                    "view",
                    r.picture_sha,
                    f"{t.name}, {r.view or r.name}",
                    round(bead.weight * r.weight, 3),
                    t.id,
                    r.id,
                    i == 0,
                )
                for i, r in enumerate(views)
            ),
            bead.facing,
            bead.face,
            tuple(bead.stands) if bead.stands else None,
            t.kind == "character" and f"{t.name[:1].lower()}{t.name[1:]}" in t.aliases,
        )

    def _style(self, style_id: str | None, bead: Bead | None, index: int) -> StyleWords:
        key = (style_id, bead.reference_id if bead else None, self._segment(index))
        if key not in self._styles:
            self._styles[key] = self._styled(style_id, bead, index)
        return self._styles[key]

    def _styled(self, style_id: str | None, bead: Bead | None, index: int) -> StyleWords:
        t = self.threads[style_id or ""]
        in_force_here = in_force(self.references[t.id], self.editions, index, bead, "")
        total = sum(r.weight for r in in_force_here) or 1.0
        tones = [Tone(x["hex"], x["role"]) for x in t.tones]
        for k in t.kept_colours:
            owner = self.threads.get(k["thread_id"])
            tones.append(Tone(k["hex"], "reserved", k["thread_id"], owner.wording if owner else ""))
        pictures = tuple(
            Picture("style", r.picture_sha, f"{t.name}, {r.name}", round(r.weight / total, 3), t.id, r.id)
            for r in in_force_here
        )
        return StyleWords(t.id, t.name, t.wording, tuple(t.vocabulary), tuple(tones), tuple(t.donts), pictures)

    def style_words(self, style_id: str, index: int) -> StyleWords:
        """A style as the shot at an index would have it. Raises KeyError for what is no style here."""
        return self._style(style_id, None, index)

    def _seed(self, row: Shot, index: int) -> int | None:
        if row.seed is not None:
            return row.seed
        if self.project.seed_rule == "one":
            return self.project.seed if self.project.seed is not None else 1
        if self.project.seed_rule == "per shot":
            return (self.project.seed or 0) + index + 1
        return None

    def _words_of(self, t: Thread) -> ThreadWords:
        traits = tuple(
            (self.costume_of.get(x.reference_id, ""), x.name.casefold().split()[-1], hue)
            for x in self.traits
            if x.thread_id == t.id
            and not x.free
            and x.colours
            and (hue := hue_of_name(colour_name(linear_from_hex(x.colours[0]))))
        )
        named = Named(t.id, t.name, tuple(t.aliases), "character" if t.kind == "style" else t.kind)  # type: ignore[arg-type]
        return ThreadWords(
            named, t.kind, t.wording, tuple((c["name"], c.get("wording", "")) for c in t.costumes), traits
        )

    def _chroma_of(self, style: StyleWords | None) -> float | None:
        if style is None or not style.pictures:
            return None
        if style.id not in self._style_chroma:
            chromas = [_chroma(self.pictures[p.sha].palette) for p in style.pictures if p.sha in self.pictures]
            self._style_chroma[style.id] = max(chromas) if chromas else None
        return self._style_chroma[style.id]


def profiles_of(project: Project) -> list[Profile]:
    """The profiles to choose from: the project's own, then those to begin with."""
    own = [
        Profile(**{**p, "holds": tuple(p.get("holds", ())), "aspects": tuple(p.get("aspects", ()))})
        for p in project.profiles
    ]
    names = {p.name for p in own}
    return [*own, *(p for p in PROFILES if p.name not in names)]


def _costume_words(worn: dict[str, str]) -> str:
    parts = [worn.get("wording", ""), *(worn.get(k, "") for k in ("time", "weather", "damage", "light"))]
    return ", ".join(p.strip().rstrip(".") for p in parts if p and p.strip())


def _runs(guides: Sequence[str | None]) -> list[int]:
    """For each shot how many shots in a row have its guide; told at the first of them, 0 for the rest."""
    out: list[int] = []
    for sha, run in groupby(guides):
        count = len(list(run))
        out += [count if sha else 0, *([0] * (count - 1))]
    return out


def _chroma(palette: Sequence[tuple[str, float]]) -> float:
    """OKLab chroma of the most colourful part of a palette of (hex, share)."""
    colours = [(float(np.hypot(*oklab_from_linear(linear_from_hex(code))[1:])), share) for code, share in palette]
    left = wanted = STRONG_COLOURS * sum(share for _, share in colours)
    total = 0.0
    for chroma, share in sorted(colours, reverse=True):
        part = min(left, share)
        total, left = total + chroma * part, left - part
    return total / wanted if wanted else 0.0
