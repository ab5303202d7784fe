"""Model sheets: the printable page of a thread, the plate of its views, a style's trial, and palettes in and out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from urllib.parse import quote

from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.brief.stylewords import FEWEST, MOST, contradictions, families_of
from juxtaform.core.colour.spaces import linear_from_hex
from juxtaform.core.colour.words import colour_name
from juxtaform.core.figure.stance import Stance
from juxtaform.core.picture.modelsheet import SheetFacts, SheetPicture, model_sheet
from juxtaform.core.style.terms import TERMS, trial
from juxtaform.core.style.words import StyleWord, proposed_words
from juxtaform.formats import modelsheet as pages
from juxtaform.formats import palettes
from juxtaform.formats.fonts import truetype
from juxtaform.formats.palettes import NamedColour, PaletteWrong
from juxtaform.media.plates import drawn_plate
from juxtaform.records.models import Picture, Project, Reference, Thread, Trait
from juxtaform.studio import measures
from juxtaform.studio.editions import current
from juxtaform.studio.threads import palette_of_style
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found

_MEANING = {name: meaning for name, meaning, _ in TERMS}
KIND = {"character": "Character", "setting": "Setting", "style": "Style", "prop": "Prop"}


@dataclass(frozen=True)
class Tried:
    """What one picture does to its style, in words."""

    reference_id: str
    distance: float
    shift: float
    odd: bool
    terms: tuple[str, ...]


@dataclass(frozen=True)
class Vocabulary:
    """How a style's words stand: their number against the fewest and most that serve, and why they may not."""

    count: int
    fewest: int
    most: int
    verdict: str


@dataclass(frozen=True)
class StyleTrial:
    """A style tried: each of its pictures, and its words."""

    pictures: tuple[Tried, ...]
    vocabulary: Vocabulary
    proposed: tuple[StyleWord, ...]
    """Words that its pictures measure and that it does not have yet."""


@dataclass(frozen=True)
class ThreadFile:
    """Something of a thread as a file; the name is percent-encoded."""

    name: str
    data: bytes
    media_type: str


def style_trial(ws: Workspace, project_id: str, thread_id: str) -> StyleTrial:
    """Try a style with and without each picture, and judge its words. Raises NotThere."""
    with ws.database.session() as s:
        thread = found(s, Thread, thread_id, project_id)
        references = current(s, project_id, thread_id)
        words = _judged_words(thread)
        has = f"{thread.wording} {', '.join(thread.vocabulary)}".casefold()
        palettes = [p.palette for r in references if (p := s.get(Picture, r.picture_sha)) is not None and p.palette]
    signatures = measures.of(ws, measures.STYLE, [r.picture_sha for r in references])
    without = trial([signatures[r.picture_sha] for r in references], [r.weight for r in references])
    return StyleTrial(
        tuple(
            Tried(
                r.id,
                round(t.distance, 2),
                round(t.shift, 2),
                t.odd,
                tuple(f"{'more' if v > 0 else 'less'} {_MEANING[n]}" for n, v in t.terms),
            )
            for r, t in zip(references, without, strict=True)
        ),
        words,
        tuple(
            w
            for w in proposed_words(
                [signatures[r.picture_sha] for r in references], [r.weight for r in references], palettes
            )
            if w.word.casefold() not in has
        ),
    )


def _judged_words(thread: Thread) -> Vocabulary:
    count = len(thread.vocabulary)
    families = families_of(", ".join([*thread.vocabulary, thread.wording]))
    against = contradictions(families)
    if against:
        verdict = f"{against[0][0]} and {against[0][1]} contradict each other: keep one."
    elif count < FEWEST:
        verdict = "Too few: the style is left open. Say how it is made, and what is most its own."
    elif count > MOST:
        verdict = "Too many: the later words are hardly heeded. Keep what the pictures cannot say."
    elif not families:
        verdict = "None of them says how the picture is made (paper, ink, paint …)."
    else:
        verdict = "Enough to name the style, few enough to be heeded."
    return Vocabulary(count, FEWEST, MOST, verdict)


def plate(
    ws: Workspace, project_id: str, thread_id: str, side_px: int, costume: str | None, labels: bool, margin_px: int = 24
) -> ThreadFile:
    """A thread's views on one labelled plate, the anchor first. Raises NotPossible without pictures."""
    with ws.database.session() as s:
        thread = found(s, Thread, thread_id, project_id)
        shown = [r for r in current(s, project_id, thread_id) if costume is None or r.costume == costume]
        name = thread.name
    if not shown:
        raise NotPossible("There are no pictures to lay out. Add views first.")
    shown.sort(key=lambda r: (not r.anchor, r.position))
    face = truetype("sans", 500)
    data = drawn_plate([(ws.store.pixels(r.picture_sha), _label(r)) for r in shown], face, side_px, labels, margin_px)
    return ThreadFile(quote(f"{name} plate.png"), data, "image/png")


def page(ws: Workspace, project_id: str, thread_id: str, form: str) -> ThreadFile:
    """A thread's model sheet as `pdf` or `png`."""
    with ws.database.session() as s:
        thread = found(s, Thread, thread_id, project_id)
        references = current(s, project_id, thread_id)
        facts = _facts(s, thread, references)
        name = thread.name
    if thread.kind == "style":
        tones = tuple(
            NamedColour(code, colour_name(linear_from_hex(code)))
            for code, _ in palette_of_style(ws, project_id, thread_id)[:8]
        )
        if not facts.colours:
            facts = SheetFacts(
                facts.title,
                facts.kind,
                facts.sections,
                tuple((c.name, c.hex) for c in tones),
                facts.pictures,
                facts.foot,
            )
    if thread.kind in ("character", "prop"):
        whole = {r.picture_sha for r in references if r.view not in ("expression", "detail")}
        stances = measures.of(ws, measures.STANCE, whole)
        shown = tuple(_with_figure(p, stances[p.key]) if p.key in whole else p for p in facts.pictures)
        facts = replace(facts, pictures=shown)
    items = model_sheet(facts, pages.width_mm)

    def picture(sha: str) -> bytes:
        return ws.store.thumb_path(sha, 960).read_bytes()

    if form == "pdf":
        return ThreadFile(quote(f"{name}.pdf"), pages.as_pdf(items, picture, name), "application/pdf")
    return ThreadFile(quote(f"{name}.png"), pages.as_png(items, picture), "image/png")


def _with_figure(view: SheetPicture, figure: Stance) -> SheetPicture:
    """A view with where its figure stands on it, and at which heights its shoulders and waist are."""
    part = (figure.left, figure.top, figure.right, figure.bottom)
    named = (("shoulders", figure.levels.shoulders), ("waist", figure.levels.waist)) if figure.levels else ()
    return replace(view, figure=part, levels=named)


def _facts(s: Session, thread: Thread, references: Sequence[Reference]) -> SheetFacts:
    project = found(s, Project, thread.project_id)
    traits = s.scalars(select(Trait).where(Trait.thread_id == thread.id).order_by(Trait.position))
    forms = {
        p.sha: p.width / p.height
        for p in s.scalars(select(Picture).where(Picture.sha.in_([r.picture_sha for r in references])))
    }
    owner = s.get(Thread, thread.owner_id) if thread.owner_id else None
    costumes = "Costumes" if thread.kind == "character" else "Variants"
    sections = [
        ("Wording", thread.wording),
        ("In short", thread.short_wording),
        ("Other names", ", ".join(thread.aliases)),
        ("Never without", ", ".join(thread.must_keep)),
        ("Belongs to", owner.name if owner else ""),
        (costumes, "; ".join(f"{c['name']}: {c.get('wording', '')}".rstrip(": ") for c in thread.costumes)),
        ("Vocabulary", ", ".join(thread.vocabulary)),
        ("Don’ts", ", ".join(thread.donts)),
    ]
    colours = [(t.name + (" (free)" if t.free else ""), t.colours[0]) for t in traits if t.colours]
    colours += [(f"{colour_name(linear_from_hex(c.hex))}, {c.role}", c.hex) for c in _tones(s, thread)]
    return SheetFacts(
        thread.name,
        KIND[thread.kind],
        tuple(sections),
        tuple(dict.fromkeys(colours)),
        tuple(SheetPicture(r.picture_sha, _label(r), forms.get(r.picture_sha, 1.0), r.anchor) for r in references),
        project.title,
    )


def _tones(s: Session, thread: Thread) -> list[NamedColour]:
    out = [NamedColour(t["hex"], colour_name(linear_from_hex(t["hex"])), t["role"]) for t in thread.tones]
    for k in thread.kept_colours:
        owner = s.get(Thread, k["thread_id"])
        out.append(
            NamedColour(
                k["hex"], f"{colour_name(linear_from_hex(k['hex']))} for {owner.name if owner else '?'}", "reserved"
            )
        )
    return out


def give_palette(ws: Workspace, project_id: str, thread_id: str, form: str) -> ThreadFile:
    """A thread's palette as `gpl`, `css` or `json`: its colours with roles, else those of its pictures."""
    with ws.database.session() as s:
        thread = found(s, Thread, thread_id, project_id)
        colours, name = _tones(s, thread), thread.name
    if not colours:
        colours = [
            NamedColour(code, colour_name(linear_from_hex(code)))
            for code, _ in palette_of_style(ws, project_id, thread_id)
        ]
    if not colours:
        raise NotPossible("There are no colours to give out. Add pictures, or colours with roles.")
    write = {"gpl": palettes.write_gpl, "css": palettes.write_css, "json": palettes.write_json}[form]
    media = {"gpl": "text/plain; charset=utf-8", "css": "text/css; charset=utf-8", "json": "application/json"}[form]
    return ThreadFile(quote(f"{name}.{form}"), write(name, colours), media)


def take_palette(ws: Workspace, project_id: str, thread_id: str, name: str, data: bytes) -> Changed:
    """Put a palette file's colours into a style; those without a role become other colours. Raises NotPossible."""
    try:
        colours = palettes.read(name, data)
    except PaletteWrong as error:
        raise NotPossible(str(error)) from error
    with ws.writing(project_id, "took in a palette") as w:
        thread = found(w.session, Thread, thread_id, project_id)
        w.name(f"took in {len(colours)} colours for {thread.name}")
        codes = {t["hex"] for t in thread.tones}
        fresh = [
            {"hex": c.hex, "role": c.role if c.role in ("lead", "other", "ground") else "other"}
            for c in colours
            if c.hex not in codes
        ]
        thread.tones = [*thread.tones, *fresh][:40]
    return w.changed


def _label(r: Reference) -> str:
    view = r.view or r.name
    return f"{view}, {r.costume}" if r.costume and r.costume not in view else view
