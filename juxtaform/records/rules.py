"""What a row may hold: one rule a table. Whatever brings a row (the API, a table, a bundle, a use case), it passes these."""

from __future__ import annotations

import functools
import re
from collections.abc import Container, Iterator
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, Strict, TypeAdapter, ValidationError

from juxtaform.core.plan.shots import Angle, Facing, Join, Move, PageForm, Size, SoundKind
from juxtaform.limits import MOST_TEXT

MOST_INT = 2**31 - 1
"""Whole numbers are kept in 32 bits."""
LEAST_SOUND_S = 0.05
MOST_WORDS = 16_000
"""Characters of a fact; a text column keeps 65,535 bytes."""

Id = Annotated[str, Field(pattern=r"^[0-9a-f]{32}$")]
Seconds = Annotated[float, Field(ge=0, le=3600, allow_inf_nan=False)]
JoinSeconds = Annotated[float, Field(ge=0.1, le=5)]
FramesPerSecond = Annotated[float, Field(ge=6, le=60)]
PartOf = Annotated[float, Field(ge=-0.5, le=1.5, allow_inf_nan=False)]
"""A place on a picture as a part of its width or height; a brush may begin beside it."""
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
Hex = Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]
Words = Annotated[str, Field(max_length=MOST_WORDS)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Short = Annotated[str, Field(min_length=1, max_length=80)]
Label = Annotated[str, Field(max_length=80)]
FileName = Annotated[str, Field(max_length=255)]
Title = Annotated[str, Field(min_length=1, max_length=200)]
Share = Annotated[float, Field(ge=0, le=1)]
Position = Annotated[float, Field(ge=-1e12, le=1e12)]
Coordinate = Annotated[float, Field(ge=-1e6, le=1e6)]
Extent = Annotated[float, Field(gt=0, le=1e6)]
Count = Annotated[int, Field(ge=1, le=MOST_INT)]
Place = Annotated[int, Field(ge=0, le=MOST_TEXT)]
Seed = Annotated[int, Field(ge=0, le=MOST_INT)]
Aspect = Annotated[str, Field(max_length=12, pattern=r"^$|^\d+(\.\d+)?:\d+(\.\d+)?$")]
Donts = Annotated[list[Short], Field(max_length=40)]
Colours = Annotated[list[Hex], Field(max_length=64)]
Outline = Annotated[list[Annotated[tuple[Coordinate, Coordinate], Strict(False)]], Field(min_length=3, max_length=400)]
FrameBox = Annotated[tuple[float, float, float, float], Strict(False)]


def on_picture(box: tuple[float, float, float, float]) -> tuple[float, float, float, float]:
    """A box as shares of a picture, moved onto it where it hangs over the edge.

    >>> on_picture((0.75, 0.2, 0.5, 0.8))
    (0.5, 0.2, 0.5, 0.8)
    """
    x, y, w, h = box
    return min(x, round(1 - w, 6)), min(y, round(1 - h, 6)), w, h


SideShare = Annotated[float, Field(ge=0.01, le=1)]
OnPicture = Annotated[tuple[Share, Share, SideShare, SideShare], Strict(False), AfterValidator(on_picture)]
"""A box as shares of a picture: left, top, width, height."""

Kind = Literal["character", "setting", "style", "prop"]
Hold = Literal["figure", "face", "outfit", "place", "light", "layout"]
Part = Literal["figure", "face", "outfit"]
Shape = Literal["three acts", "five parts", "four turns", "three tries", "there and back", "round"]
Audience = Literal["aloud to children", "aloud", "voice-over", "silent"]
SeedRule = Literal["free", "one", "per shot"]
ViewName = Literal["", "front", "three-quarter", "profile", "back", "expression", "detail"]
ToneRole = Literal["lead", "other", "ground"]
Medium = Literal["film", "book"]
Quality = Literal["draft", "final"]
Standing = Literal["", "kept", "out"]
FaultKind = Literal[
    "hand", "twice", "extra", "missing", "wrong person", "leaked", "lettering", "border", "soft", "other"
]
Decision = Literal["stet", "retake"]
Gain = Annotated[float, Field(ge=-60, le=24)]
Fade = Annotated[float, Field(ge=0, le=60)]
Address = Annotated[str, Field(min_length=1, max_length=500)]
Syntax = Literal["prose", "fountain"]


class Exact(BaseModel):
    """A part of a row: its fields and no others, numbers such as JSON can say."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, strict=True)


class CastLine(Exact):
    """Somebody of the story frame's cast, with one line about them."""

    name: Label
    line: Annotated[str, Field(max_length=400)] = ""


class FramingRow(Exact):
    """Another way to look at a shot's moment, kept beside it."""

    size: Size
    angle: Angle
    move: Move
    why: Annotated[str, Field(max_length=200)] = ""


TEMPLATE_PLACES = frozenset(
    ["shows", "cast", "props", "place", "style", "framing", "palette", "without", "technical", "pictures"]
)
"""What a profile's template can name in braces."""


def known_places(template: str) -> str:
    """A template of which every word in braces is known. Raises ValueError."""
    for word in re.findall(r"\{([^{}]*)\}", template):
        if word not in TEMPLATE_PLACES:
            raise ValueError(
                f"{{{word}}} is not known. A template can have {', '.join('{' + w + '}' for w in sorted(TEMPLATE_PLACES))}."
            )
    return template


class ProfileRow(Exact):
    """What a service takes; 0 or an empty list is no limit, a picture limit of -1 takes no pictures."""

    name: Short
    text_limit: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    picture_limit: Annotated[int, Field(ge=-1, le=1000)] = 0
    picture_side_px: Annotated[int, Field(ge=0, le=20000)] = 0
    holds: Annotated[list[Hold], Field(max_length=12)] = []
    aspects: Annotated[list[Annotated[str, Field(max_length=12)]], Field(max_length=40)] = []
    plate: bool = False
    template: Annotated[str, Field(max_length=2000), AfterValidator(known_places)] = ""
    weights: Literal["data", "words", "numbers"] = "data"
    motion: Literal["sentences", "fields"] = "sentences"


class CostumeRow(Exact):
    """A costume of a character, or a variant of a setting: its own words, and for a setting its time, weather and damage."""

    name: Short
    wording: Annotated[str, Field(max_length=2000)] = ""
    time: Annotated[str, Field(max_length=40)] = ""
    weather: Annotated[str, Field(max_length=40)] = ""
    damage: Label = ""
    light: Label = ""


class ToneRow(Exact):
    """A colour of a style's palette with its role."""

    hex: Hex
    role: ToneRole


WordsTone = Literal["", "dark", "light"]
PageShare = Annotated[float, Field(ge=-0.2, le=1.2)]
OnPage = Annotated[tuple[PageShare, PageShare, PageShare, PageShare], Strict(False)]
"""A box as shares of a page: left, top, width, height."""


class BookRow(Exact):
    """How the book is made; lengths in mm, words in points. What is left out is usual; without a trim size the form of the pictures gives it."""

    trim_w: Annotated[float, Field(ge=50, le=600)] | None = None
    trim_h: Annotated[float, Field(ge=50, le=600)] | None = None
    bleed: Annotated[float, Field(ge=0, le=20)] = 3.0
    safe: Annotated[float, Field(ge=0, le=40)] = 10.0
    gutter: Annotated[float, Field(ge=0, le=40)] = 8.0
    multiple: Literal[1, 2, 4, 8, 16] = 4
    front: Annotated[list[Literal["title", "imprint", "dedication", "blank"]], Field(max_length=12)] = [
        "title",
        "imprint",
    ]
    words_pt: Annotated[float, Field(ge=6, le=60)] = 15.0
    dedication: Annotated[str, Field(max_length=600)] = ""
    imprint: Annotated[str, Field(max_length=2000)] = ""
    cover_shot_id: Id | None = None
    """The shot whose picture is on the cover; none: the book has no cover."""
    author: Annotated[str, Field(max_length=200)] = ""
    blurb: Annotated[str, Field(max_length=2000)] = ""
    spine: Annotated[float, Field(ge=0, le=60)] | None = None
    """How thick the spine is; none: by the pages."""


DeliveryKind = Literal[
    "pictures", "cbz", "storyboard", "animatic", "timeline", "captions", "book", "dummy", "epub", "cues", "cover"
]


class DeliveryOptions(Exact):
    """How a file out is made: pictures a page of a storyboard; an animatic's form, height, words and whether it sounds; the form of captions; cards where pictures are missing."""

    a_page: Literal[1, 4, 6, 9] = 6
    form: Literal["mp4", "webm"] = "mp4"
    height: Literal[480, 720, 1080] = 720
    words: Literal["burnt in", "beside", "none"] = "burnt in"
    sound: bool = True
    captions: Literal["vtt", "srt"] = "vtt"
    placeholders: bool = True


class Unlearned(Exact):
    """A term whose band is left as it was, whatever was decided: a thread's id (empty: the sequence's own) and what of it."""

    thread_id: Annotated[str, Field(max_length=32)]
    term: Annotated[str, Field(min_length=1, max_length=120)]


class KeptColour(Exact):
    """A colour of a style that only one character may wear."""

    thread_id: Id
    hex: Hex


class EditRow(Exact):
    """A hand edit of a brief's phrase: its words when it was edited, and what they became."""

    key: Label
    was: Words
    now: Words


LineEnds = Annotated[tuple[Annotated[int, Field(ge=0, le=MOST_TEXT)], Literal["\n", "\r\n", "\r"]], Strict(False)]


class Source(Exact):
    """How a text came in: its encoding, its mark, and its line ends as runs of (count, line end)."""

    encoding: Annotated[str, Field(pattern=r"^(utf-8|utf-16-le|utf-16-be|utf-32-le|utf-32-be|cp1252|latin-1)$")] = (
        "utf-8"
    )
    marked: bool = False
    line_ends: list[LineEnds] = []


class HeldAt(Exact):
    """How strongly a thread was to hold, and what of it."""

    thread_id: Id
    weight: Share
    hold: Hold
    costume: Label = ""


class Made(Exact):
    """How a service made a picture: which one, with what model, quality and seed, what it cost; `trial` is the trial and the cell that it
    belongs to. The service and the trial may be gone by now."""

    job_id: Id
    service_id: Id
    service: Label
    model: Label
    quality: Quality
    seed: Seed
    credits: Annotated[float, Field(ge=0, le=1e9)] = 0.0
    trial_id: Id | None = None
    cell: Annotated[list[Annotated[int, Field(ge=0, le=100)]], Field(max_length=2)] = []


class CroppedTo(Exact):
    """What of its parent's picture a rescued one shows, in that picture's px."""

    x: Coordinate
    y: Coordinate
    w: Extent
    h: Extent


class ShapeRow(Exact):
    """A form drawn on a picture, its points as parts of width and height; a brush has a radius (a part of the longer side). What is rubbed is taken
    out of what was drawn before."""

    kind: Literal["brush", "outline", "box"]
    points: Annotated[list[Annotated[tuple[PartOf, PartOf], Strict(False)]], Field(min_length=2, max_length=2000)]
    radius: Annotated[float, Field(ge=0, le=0.5)] = 0.0
    rubbed: bool = False


class AreaRow(Exact):
    """The area of a picture that may change, and the width of its soft rim as a part of the longer side."""

    shapes: Annotated[list[ShapeRow], Field(min_length=1, max_length=200)]
    feather: Annotated[float, Field(ge=0, le=0.2)] = 0.01


class EditedRow(Exact):
    """That a picture is its parent with an area changed: which, to what in words (none: somebody brought it), and whether the old pixels were put
    back outside."""

    area: AreaRow
    words: Annotated[str, Field(max_length=2000)] = ""
    only: bool = False


class SentPicture(Exact):
    """A picture as it went out to a service: what for, whose, what of it was to hold and how strongly, and how tall its figure is."""

    sha: Digest
    role: Annotated[str, Field(max_length=12)]
    name: Annotated[str, Field(max_length=120)] = ""
    hold: Annotated[str, Field(max_length=24)] = ""
    weight: Share = 1.0
    tall: Annotated[float, Field(gt=0, le=2)] | None = None


class MadeFrom(Exact):
    """What a take was made from: references by id (they may be gone by now), the phrases of its brief as (key, words), how threads held,
    and how a service or a crop made it."""

    references: Annotated[list[Id], Field(max_length=5000)] = []
    phrases: Annotated[list[Annotated[tuple[Label, Words], Strict(False)]], Field(max_length=500)] = []
    held: Annotated[list[HeldAt], Field(max_length=1000)] = []
    sent: Annotated[list[SentPicture], Field(max_length=1000)] = []
    made: Made | None = None
    crop: CroppedTo | None = None
    edit: EditedRow | None = None
    grown: bool = False
    """It shows its parent's picture, grown beyond the edges."""


class AxisRow(Exact):
    """One thing that a trial varies, and the choices: weights of a thread in percent, styles or services by id, qualities, or a phrase's words."""

    varies: Literal["weight", "style", "service", "phrase"]
    about: Annotated[str, Field(max_length=120)] = ""
    choices: Annotated[list[Annotated[str, Field(max_length=2000)]], Field(min_length=1, max_length=8)]


class MendRow(Exact):
    """What was done against a fault that recurs: which fault, what it went with, how, in which shots, and when; so that its effect can be told."""

    fault: FaultKind
    feature: Annotated[tuple[Label, Annotated[str, Field(max_length=300)]], Strict(False)]
    how: Literal["dont", "phrase"]
    shots: Annotated[list[Id], Field(max_length=5000)]
    at: Annotated[str, Field(max_length=40)]


class RowRule(Exact):
    id: Id
    revision: Count


class OfProject(RowRule):
    project_id: Id


class ProjectRule(RowRule):
    title: Title
    text_revision: Count
    syntax: Syntax
    source: Source
    premise: Words
    tone: Annotated[str, Field(max_length=120)]
    shape: Shape
    frame_cast: Annotated[list[CastLine], Field(max_length=60)]
    medium: Medium
    language: Annotated[str, Field(max_length=24)]
    audience: Audience
    pace_factor: Annotated[float, Field(ge=0.4, le=2.5)]
    target_s: Annotated[float, Field(ge=1, le=36000)] | None
    target_pages: Annotated[int, Field(ge=1, le=2000)] | None
    table_columns: Annotated[list[Label], Field(max_length=40)]
    aspect: Aspect
    style_id: Id | None
    donts: Donts
    seed_rule: SeedRule
    seed: Seed | None
    profile: Label
    profiles: Annotated[list[ProfileRow], Field(max_length=40)]
    allowance: Annotated[float, Field(ge=0, le=1e9)] | None
    mends: Annotated[list[MendRow], Field(max_length=400)]
    hidden_columns: Annotated[list[Label], Field(max_length=1000)]
    print_mm: Annotated[float, Field(ge=10, le=5000)] | None
    unlearned: Annotated[list[Unlearned], Field(max_length=1000)]
    fps: FramesPerSecond
    book: BookRow
    created_at: datetime


class TextPartRule(OfProject):
    position: Position
    words: Annotated[str, Field(min_length=1, max_length=MOST_TEXT)]


class SceneRule(OfProject):
    position: Position
    title: Annotated[str, Field(max_length=300)]


class BeatRule(OfProject):
    position: Position
    title: Annotated[str, Field(max_length=120)]
    purpose: Words
    share: Annotated[float, Field(gt=0, le=1)]
    cast: Annotated[list[Label], Field(max_length=60)]
    question: Words
    answer: Words


class ShotRule(OfProject):
    scene_id: Id
    position: Position
    shows: Words
    size: Size
    angle: Angle
    move: Move
    length_s: Annotated[float, Field(gt=0, le=36000)]
    spoken: Words
    speakers: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=200)]
    start_part_id: Id | None
    start_at: Place | None
    end_part_id: Id | None
    end_at: Place | None
    lost: Words
    status: Literal["settled", "proposed"]
    why: Label
    sure: Share
    time: Annotated[str, Field(max_length=12)]
    motion: Words
    move_start: FrameBox | None
    move_end: FrameBox | None
    sound: Words
    music: Words
    notes: Words
    page_form: PageForm
    bleed: bool
    framings: Annotated[list[FramingRow], Field(max_length=12)]
    sketch_sha: Digest | None
    guide_strength: Share
    aspect: Aspect
    donts: Donts
    brief_edits: Annotated[list[EditRow], Field(max_length=400)]
    seed: Seed | None
    join: Join
    join_s: JoinSeconds
    words_at: OnPage | None
    words_tone: WordsTone
    surprise: bool
    bridge: bool
    """It leads from the picture before it to the one after it: these go out with its brief as its first and last frames."""


class ThreadRule(OfProject):
    kind: Kind
    name: Name
    aliases: Annotated[list[Annotated[str, Field(max_length=120)]], Field(max_length=100)]
    wording: Words
    short_wording: Words
    must_keep: Annotated[list[Short], Field(max_length=20)]
    owner_id: Id | None
    costumes: Annotated[list[CostumeRow], Field(max_length=40)]
    vocabulary: Annotated[list[Short], Field(max_length=40)]
    donts: Donts
    tones: Annotated[list[ToneRow], Field(max_length=40)]
    kept_colours: Annotated[list[KeptColour], Field(max_length=100)]
    position: Position


class ReferenceRule(OfProject):
    thread_id: Id
    picture_sha: Digest
    name: Annotated[str, Field(max_length=120)]
    costume: Label
    weight: Share
    position: Position
    view: ViewName
    anchor: bool
    replaces_id: Id | None
    from_shot_id: Id | None


class TraitRule(OfProject):
    thread_id: Id
    reference_id: Id
    name: Short
    part: Part
    colours: Colours
    x: Coordinate
    y: Coordinate
    w: Extent
    h: Extent
    position: Position
    outline: Outline | None
    tolerance: Annotated[float, Field(ge=1, le=60)] | None
    free: bool
    body_x: Share | None
    body_y: Share | None


class BeadRule(OfProject):
    shot_id: Id
    thread_id: Id
    hold: Hold
    weight: Share
    costume: Label
    reference_id: Id | None
    facing: Facing
    face: Label
    stands: OnPicture | None


class TakeRule(OfProject):
    shot_id: Id
    picture_sha: Digest
    name: FileName
    picked: bool
    position: Position
    made_from: MadeFrom
    not_here: Annotated[list[Id], Field(max_length=1000)]
    """Threads that the user said are not in the picture; they may be gone by now."""
    standing: Standing
    parent_id: Id | None
    trim: Annotated[tuple[Seconds, Seconds], Strict(False)] | None = None
    """From when to when of a clip is shown, in s; none: all of it."""
    first_sha: Digest | None = None
    """The frame that a trimmed clip begins with; none: its picture."""
    last_sha: Digest | None = None
    """The frame that a clip ends with, where it is one."""


class MarkRule(OfProject):
    take_id: Id
    thread_id: Id
    x: Coordinate
    y: Coordinate
    w: Extent
    h: Extent


class FaultMarkRule(OfProject):
    take_id: Id
    kind: FaultKind
    note: Annotated[str, Field(max_length=200)]
    x: Coordinate
    y: Coordinate
    w: Extent
    h: Extent


class ServiceRule(OfProject):
    name: Short
    address: Address
    position: Position


class TrialRule(OfProject):
    shot_id: Id
    axes: Annotated[list[AxisRow], Field(min_length=1, max_length=2)]
    seeds: Annotated[list[Seed], Field(max_length=40)]
    thread_id: Id | None
    position: Position
    made_at: datetime


class SoundRule(OfProject):
    shot_id: Id
    sound_sha: Digest
    name: FileName
    kind: SoundKind
    thread_id: Id | None
    line: Words
    picked: bool
    start_s: Annotated[float, Field(ge=-3600, le=3600)] | None
    from_s: Seconds
    to_s: Seconds | None
    until_shot_id: Id | None
    gain_db: Gain
    fade_in_s: Fade
    fade_out_s: Fade
    position: Position


class StetRule(OfProject):
    finding_key: Annotated[str, Field(min_length=1, max_length=64)]
    reason: Annotated[str, Field(min_length=1, max_length=MOST_WORDS)]
    verdict: Decision
    thread_id: Id | None
    term: Annotated[str, Field(max_length=120)]
    departure: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class LibraryPictureRule(OfProject):
    picture_sha: Digest
    name: FileName
    tags: Annotated[list[Annotated[str, Field(min_length=1, max_length=60)]], Field(max_length=400)]
    binned: bool
    added_at: datetime


class DuelRule(OfProject):
    left_sha: Digest
    right_sha: Digest
    chosen: Literal["left", "right", "skip"]
    at: datetime


RULES: dict[str, type[RowRule]] = {
    "project": ProjectRule,
    "text_part": TextPartRule,
    "beat": BeatRule,
    "scene": SceneRule,
    "shot": ShotRule,
    "thread": ThreadRule,
    "reference": ReferenceRule,
    "trait": TraitRule,
    "bead": BeadRule,
    "take": TakeRule,
    "mark": MarkRule,
    "fault_mark": FaultMarkRule,
    "service": ServiceRule,
    "trial": TrialRule,
    "sound": SoundRule,
    "stet": StetRule,
    "library_picture": LibraryPictureRule,
    "duel": DuelRule,
}
LINKS: dict[str, dict[str, str]] = {
    "project": {"style_id": "thread"},
    "text_part": {},
    "beat": {},
    "scene": {},
    "shot": {"scene_id": "scene", "start_part_id": "text_part", "end_part_id": "text_part"},
    "thread": {"owner_id": "thread"},
    "reference": {"thread_id": "thread", "replaces_id": "reference", "from_shot_id": "shot"},
    "trait": {"thread_id": "thread", "reference_id": "reference"},
    "bead": {"shot_id": "shot", "thread_id": "thread", "reference_id": "reference"},
    "take": {"shot_id": "shot", "parent_id": "take"},
    "mark": {"take_id": "take", "thread_id": "thread"},
    "fault_mark": {"take_id": "take"},
    "service": {},
    "trial": {"shot_id": "shot", "thread_id": "thread"},
    "sound": {"shot_id": "shot", "thread_id": "thread", "until_shot_id": "shot"},
    "stet": {},
    "library_picture": {},
    "duel": {},
}
"""Which columns name rows of the same project, and of which table."""
COVERS = ("start_part_id", "start_at", "end_part_id", "end_at")
"""Columns that say which words of the text a shot covers."""
PICTURES = ("picture_sha", "sketch_sha", "left_sha", "right_sha", "first_sha", "last_sha")
"""Columns that name pictures."""


def fault(table: str, row: dict[str, Any], of: Container[str] | None = None) -> str | None:
    """What is wrong with a row, or with some of its fields, as `field: what`; None when nothing is."""
    try:
        RULES[table].model_validate(row)
    except ValidationError as error:
        for wrong in error.errors(include_url=False, include_context=False, include_input=False):
            if of is None or not wrong["loc"] or wrong["loc"][0] in of:
                where = "/".join(str(part) for part in wrong["loc"]) or "the row"
                return f"{where}: {wrong['msg']}"
        return None
    if table == "shot" and len({row[k] is None for k in COVERS}) > 1:
        return "end_at: a stretch of the text has a start and an end"
    if table == "shot" and row["start_part_id"] == row["end_part_id"] and (row["start_at"] or 0) > (row["end_at"] or 0):
        return "end_at: a stretch of the text ends after it begins"
    if table == "sound" and row["to_s"] is not None and row["to_s"] - row["from_s"] < LEAST_SOUND_S:
        return "to_s: a part of a sound ends after it begins"
    if table == "duel" and row["left_sha"] == row["right_sha"]:
        return "right_sha: a choice is between two pictures"
    return None


def links(table: str, row: dict[str, Any]) -> Iterator[tuple[str, str, str]]:
    """The rows of the same project that a row names, as (column, table, id)."""
    for column, target in LINKS[table].items():
        if row.get(column) is not None:
            yield column, target, row[column]
    if table == "thread":
        for kept in row["kept_colours"]:
            yield "kept_colours", "thread", kept["thread_id"]


def field_fault(table: str, field: str, value: Any) -> str | None:
    """What is wrong with one value of a row; None when nothing is."""
    try:
        _field(table, field).validate_python(value)
    except ValidationError as error:
        return error.errors(include_url=False, include_context=False, include_input=False)[0]["msg"]
    return None


@functools.cache
def _field(table: str, field: str) -> TypeAdapter[Any]:
    info = RULES[table].model_fields[field]
    wanted: Any = Annotated[info.annotation, info]
    return TypeAdapter(wanted, config=ConfigDict(strict=True, allow_inf_nan=False))
