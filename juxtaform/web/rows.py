"""The rows of a project as the screen sees them."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import model_validator

from juxtaform.records.rules import (
    Audience,
    AxisRow,
    CastLine,
    CostumeRow,
    CroppedTo,
    Decision,
    EditRow,
    FaultKind,
    FrameBox,
    FramingRow,
    Hex,
    Hold,
    KeptColour,
    Kind,
    Made,
    Medium,
    OnPage,
    OnPicture,
    Part,
    ProfileRow,
    SeedRule,
    Shape,
    Standing,
    Syntax,
    ToneRow,
    Unlearned,
    ViewName,
    WordsTone,
)
from juxtaform.studio.values import Angle, Facing, Join, Move, PageForm, Size, SoundKind
from juxtaform.web.body import Body


class Row(Body):
    id: str
    revision: int


class ProjectRow(Row):
    title: str
    text_revision: int
    syntax: Syntax
    premise: str
    tone: str
    shape: Shape
    frame_cast: list[CastLine]
    medium: Medium
    language: str
    audience: Audience
    pace_factor: float
    target_s: float | None
    target_pages: int | None
    table_columns: list[str]
    aspect: str
    style_id: str | None
    donts: list[str]
    seed_rule: SeedRule
    seed: int | None
    profile: str
    profiles: list[ProfileRow]
    allowance: float | None
    hidden_columns: list[str]
    print_mm: float | None
    unlearned: list[Unlearned]
    fps: float
    book: dict[str, Any]


class TextPartRow(Row):
    """Some lines of the story's text; joined in their order they are the text."""

    position: float
    words: str


class BeatRow(Row):
    position: float
    title: str
    purpose: str
    share: float
    cast: list[str]
    question: str
    answer: str


class SceneRow(Row):
    position: float
    title: str


class ShotRow(Row):
    scene_id: str
    position: float
    shows: str
    size: Size
    angle: Angle
    move: Move
    length_s: float
    spoken: str
    speakers: list[str]
    start_part_id: str | None
    start_at: int | None
    end_part_id: str | None
    end_at: int | None
    lost: str
    status: Literal["settled", "proposed"]
    why: str
    sure: float
    time: str
    motion: str
    move_start: FrameBox | None
    move_end: FrameBox | None
    sound: str
    music: str
    notes: str
    page_form: PageForm
    bleed: bool
    framings: list[FramingRow]
    sketch_sha: str | None
    guide_strength: float
    aspect: str
    donts: list[str]
    brief_edits: list[EditRow]
    seed: int | None
    join: Join
    join_s: float
    words_at: OnPage | None
    words_tone: WordsTone
    surprise: bool
    bridge: bool


class ThreadRow(Row):
    kind: Kind
    name: str
    aliases: list[str]
    wording: str
    short_wording: str
    must_keep: list[str]
    owner_id: str | None
    costumes: list[CostumeRow]
    vocabulary: list[str]
    donts: list[str]
    tones: list[ToneRow]
    kept_colours: list[KeptColour]
    position: float


class ReferenceRow(Row):
    thread_id: str
    picture_sha: str
    name: str
    costume: str
    weight: float
    position: float
    view: ViewName
    anchor: bool
    replaces_id: str | None
    from_shot_id: str | None


class TraitRow(Row):
    thread_id: str
    reference_id: str
    name: str
    part: Part
    colours: list[Hex]
    x: float
    y: float
    w: float
    h: float
    position: float
    outline: list[tuple[float, float]] | None
    tolerance: float | None
    free: bool
    body_x: float | None
    body_y: float | None


class BeadRow(Row):
    shot_id: str
    thread_id: str
    hold: Hold
    weight: float
    costume: str
    reference_id: str | None
    facing: Facing
    face: str
    stands: OnPicture | None


class EditInShort(Body):
    """That an area of its parent was changed: to what in words, and whether the old pixels were put back outside. The area itself is large, and asked
    for with the proof alone."""

    words: str = ""
    only: bool = False


class TakeOrigin(Body):
    """How a take came about: made by a service, cropped from its parent, its parent with an area changed, or grown beyond its edges; brought by the
    user where all are empty."""

    made: Made | None = None
    crop: CroppedTo | None = None
    edit: EditInShort | None = None
    grown: bool = False

    @model_validator(mode="before")
    @classmethod
    def _in_short(cls, whole: object) -> object:
        """Words and references are asked for by themselves."""
        return (
            {k: whole[k] for k in ("made", "crop", "edit", "grown") if k in whole} if isinstance(whole, dict) else whole
        )


class TakeRow(Row):
    shot_id: str
    picture_sha: str
    name: str
    picked: bool
    position: float
    not_here: list[str]
    standing: Standing
    parent_id: str | None
    made_from: TakeOrigin
    trim: tuple[float, float] | None = None
    first_sha: str | None = None
    last_sha: str | None = None


class MarkRow(Row):
    take_id: str
    thread_id: str
    x: float
    y: float
    w: float
    h: float


class FaultMarkRow(Row):
    take_id: str
    kind: FaultKind
    note: str
    x: float
    y: float
    w: float
    h: float


class ServiceRow(Row):
    name: str
    address: str
    position: float


class TrialRow(Row):
    shot_id: str
    axes: list[AxisRow]
    seeds: list[int]
    thread_id: str | None
    position: float


class SoundRow(Row):
    shot_id: str
    sound_sha: str
    name: str
    kind: SoundKind
    thread_id: str | None
    line: str
    picked: bool
    start_s: float | None
    from_s: float
    to_s: float | None
    until_shot_id: str | None
    gain_db: float
    fade_in_s: float
    fade_out_s: float
    position: float


class StetRow(Row):
    finding_key: str
    reason: str
    verdict: Decision
    thread_id: str | None
    term: str
    departure: float


class ClipRow(Body):
    """What is known of a clip: its media type, frames, seconds, and whether it has sound."""

    media_type: str
    frames: int
    seconds: float
    has_sound: bool


class PictureRow(Body):
    sha: str
    width: int
    height: int
    palette: list[tuple[str, float]]
    clip: ClipRow | None = None
    """The clip of which it is the first frame."""


class LibraryPictureRow(Row):
    picture_sha: str
    name: str
    tags: list[str]
    binned: bool


class DuelRow(Row):
    left_sha: str
    right_sha: str
    chosen: Literal["left", "right", "skip"]


class Rows(Body):
    """Rows by table; a table that is left out did not change."""

    project: list[ProjectRow] = []
    text_part: list[TextPartRow] = []
    beat: list[BeatRow] = []
    scene: list[SceneRow] = []
    shot: list[ShotRow] = []
    thread: list[ThreadRow] = []
    reference: list[ReferenceRow] = []
    trait: list[TraitRow] = []
    bead: list[BeadRow] = []
    take: list[TakeRow] = []
    mark: list[MarkRow] = []
    fault_mark: list[FaultMarkRow] = []
    service: list[ServiceRow] = []
    trial: list[TrialRow] = []
    sound: list[SoundRow] = []
    stet: list[StetRow] = []
    library_picture: list[LibraryPictureRow] = []
    duel: list[DuelRow] = []


class ChangedOut(Body):
    """What happened after version `since` up to `version`: rows that are there now, ids that are gone by table, and what undo
    and redo would do next. Where nothing happened the two versions are the same."""

    project_id: str
    version: int
    since: int
    label: str
    rows: Rows
    gone: dict[str, list[str]]
    pictures: list[PictureRow]
    undo_label: str | None
    redo_label: str | None


class SnapshotOut(Body):
    """Everything of a project as it was at `version`."""

    project_id: str
    version: int
    rows: Rows
    pictures: list[PictureRow]
    undo_label: str | None
    redo_label: str | None


class OthersOut(Body):
    """The takes that are not picked, with their marks and pictures, as they were at `version`."""

    version: int
    rows: Rows
    pictures: list[PictureRow]


class Problem(Body):
    """RFC 9457 problem details; a conflict carries both states, a question what would be done (`offer`)."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    mine: dict[str, object] | None = None
    theirs: dict[str, object] | None = None
    offer: str | None = None
