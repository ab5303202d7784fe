"""The tables. Times are UTC; ids are random hex and never change; `revision` guards against silent overwrites."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import Any, ClassVar

from sqlalchemy import (
    JSON,
    BigInteger,
    DateTime,
    Dialect,
    Double,
    ForeignKey,
    Index,
    MetaData,
    String,
    Text,
    UniqueConstraint,
)
from sqlalchemy.dialects.mysql import DATETIME, LONGTEXT
from sqlalchemy.orm import DeclarativeBase, Mapped, declared_attr, mapped_column
from sqlalchemy.types import TypeDecorator

from juxtaform.records.who import at_work

LongText = Text().with_variant(LONGTEXT(), "mysql", "mariadb")


class Instant(TypeDecorator[datetime]):
    """A moment: kept in UTC, and always with its zone outside the database."""

    impl = DateTime().with_variant(DATETIME(fsp=3), "mysql", "mariadb")
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return value and as_utc(value).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return value and as_utc(value)


def new_id() -> str:
    return uuid.uuid4().hex


def now() -> datetime:
    """This moment in UTC, to the millisecond that the database keeps."""
    at = datetime.now(UTC)
    return at.replace(microsecond=at.microsecond // 1000 * 1000)


def as_utc(at: datetime) -> datetime:
    """A moment in UTC; one without a zone is taken to be in UTC already."""
    return at.replace(tzinfo=UTC) if at.tzinfo is None else at.astimezone(UTC)


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map: ClassVar[dict[Any, Any]] = {
        datetime: Instant,
        float: Double,
        dict[str, Any]: JSON,
        list[Any]: JSON(none_as_null=True),
    }


class Journaled:
    """Rows of a project whose every change goes through the journal."""

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    revision: Mapped[int] = mapped_column(default=1)

    @declared_attr.directive
    @classmethod
    def __mapper_args__(cls) -> dict[str, Any]:
        """A row is written only where it has the revision that was read; the journal says which one comes next."""
        return {"version_id_col": cls.revision, "version_id_generator": False}


class Project(Journaled, Base):
    __tablename__ = "project"

    title: Mapped[str] = mapped_column(String(200))
    text_revision: Mapped[int] = mapped_column(default=1)
    syntax: Mapped[str] = mapped_column(String(12), default="prose")
    source: Mapped[dict[str, Any]] = mapped_column(default=dict)
    premise: Mapped[str] = mapped_column(Text, default="")
    tone: Mapped[str] = mapped_column(String(120), default="")
    shape: Mapped[str] = mapped_column(String(24), default="three acts")
    frame_cast: Mapped[list[Any]] = mapped_column(default=list)
    medium: Mapped[str] = mapped_column(String(8), default="film")
    language: Mapped[str] = mapped_column(String(24), default="English")
    audience: Mapped[str] = mapped_column(String(24), default="aloud to children")
    pace_factor: Mapped[float] = mapped_column(default=1.0)
    target_s: Mapped[float | None] = mapped_column(Double, default=None)
    target_pages: Mapped[int | None] = mapped_column(default=None)
    table_columns: Mapped[list[Any]] = mapped_column(default=list)
    aspect: Mapped[str] = mapped_column(String(12), default="")
    style_id: Mapped[str | None] = mapped_column(String(32), default=None)
    donts: Mapped[list[Any]] = mapped_column(default=list)
    seed_rule: Mapped[str] = mapped_column(String(12), default="free")
    seed: Mapped[int | None] = mapped_column(default=None)
    profile: Mapped[str] = mapped_column(String(80), default="")
    profiles: Mapped[list[Any]] = mapped_column(default=list)
    allowance: Mapped[float | None] = mapped_column(Double, default=None)
    mends: Mapped[list[Any]] = mapped_column(default=list)
    hidden_columns: Mapped[list[Any]] = mapped_column(default=list)
    print_mm: Mapped[float | None] = mapped_column(Double, default=None)
    unlearned: Mapped[list[Any]] = mapped_column(default=list)
    fps: Mapped[float] = mapped_column(default=24.0)
    book: Mapped[dict[str, Any]] = mapped_column(default=dict)
    created_at: Mapped[datetime] = mapped_column(default=now)


class TextPart(Journaled, Base):
    """Some lines of the story's text; joined in their order they are the text (`core/text/parts.py`)."""

    __tablename__ = "text_part"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    position: Mapped[float]
    words: Mapped[str] = mapped_column(LongText, default="")


class Scene(Journaled, Base):
    __tablename__ = "scene"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    position: Mapped[float]
    title: Mapped[str] = mapped_column(String(300), default="")


class Beat(Journaled, Base):
    """A step of the story frame; `answer` is what the writer makes of its question."""

    __tablename__ = "beat"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    position: Mapped[float]
    title: Mapped[str] = mapped_column(String(120), default="")
    purpose: Mapped[str] = mapped_column(Text, default="")
    share: Mapped[float] = mapped_column(default=0.1)
    cast: Mapped[list[Any]] = mapped_column(default=list)
    question: Mapped[str] = mapped_column(Text, default="")
    answer: Mapped[str] = mapped_column(Text, default="")


class Shot(Journaled, Base):
    __tablename__ = "shot"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    scene_id: Mapped[str] = mapped_column(ForeignKey("scene.id"), index=True)
    position: Mapped[float]
    shows: Mapped[str] = mapped_column(Text, default="")
    size: Mapped[str] = mapped_column(String(8), default="MS")
    angle: Mapped[str] = mapped_column(String(24), default="eye level")
    move: Mapped[str] = mapped_column(String(24), default="static")
    length_s: Mapped[float] = mapped_column(default=3.0)
    spoken: Mapped[str] = mapped_column(Text, default="")
    speakers: Mapped[list[Any]] = mapped_column(default=list)
    start_part_id: Mapped[str | None] = mapped_column(String(32), default=None, index=True)
    start_at: Mapped[int | None] = mapped_column(default=None)
    end_part_id: Mapped[str | None] = mapped_column(String(32), default=None, index=True)
    end_at: Mapped[int | None] = mapped_column(default=None)
    lost: Mapped[str] = mapped_column(Text, default="")
    status: Mapped[str] = mapped_column(String(10), default="settled")
    why: Mapped[str] = mapped_column(String(80), default="")
    sure: Mapped[float] = mapped_column(Double, default=1.0)
    time: Mapped[str] = mapped_column(String(12), default="")
    motion: Mapped[str] = mapped_column(Text, default="")
    move_start: Mapped[list[Any] | None] = mapped_column(default=None)
    move_end: Mapped[list[Any] | None] = mapped_column(default=None)
    sound: Mapped[str] = mapped_column(Text, default="")
    music: Mapped[str] = mapped_column(Text, default="")
    notes: Mapped[str] = mapped_column(Text, default="")
    page_form: Mapped[str] = mapped_column(String(8), default="single")
    bleed: Mapped[bool] = mapped_column(default=False)
    framings: Mapped[list[Any]] = mapped_column(default=list)
    sketch_sha: Mapped[str | None] = mapped_column(ForeignKey("picture.sha"), default=None)
    guide_strength: Mapped[float] = mapped_column(default=0.5)
    aspect: Mapped[str] = mapped_column(String(12), default="")
    donts: Mapped[list[Any]] = mapped_column(default=list)
    brief_edits: Mapped[list[Any]] = mapped_column(default=list)
    seed: Mapped[int | None] = mapped_column(default=None)
    join: Mapped[str] = mapped_column(String(10), default="cut")
    join_s: Mapped[float] = mapped_column(default=0.6)
    words_at: Mapped[list[Any] | None] = mapped_column(default=None)
    words_tone: Mapped[str] = mapped_column(String(8), default="")
    surprise: Mapped[bool] = mapped_column(default=False)
    bridge: Mapped[bool] = mapped_column(default=False)


class Picture(Base):
    __tablename__ = "picture"

    sha: Mapped[str] = mapped_column(String(64), primary_key=True)
    width: Mapped[int]
    height: Mapped[int]
    bytes: Mapped[int]
    media_type: Mapped[str] = mapped_column(String(40))
    palette: Mapped[list[Any]]
    added_at: Mapped[datetime] = mapped_column(default=now)
    clip: Mapped[dict[str, Any] | None] = mapped_column(default=None)


class Thread(Journaled, Base):
    __tablename__ = "thread"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    kind: Mapped[str] = mapped_column(String(12))
    name: Mapped[str] = mapped_column(String(120))
    aliases: Mapped[list[Any]] = mapped_column(default=list)
    wording: Mapped[str] = mapped_column(Text, default="")
    short_wording: Mapped[str] = mapped_column(Text, default="")
    must_keep: Mapped[list[Any]] = mapped_column(default=list)
    owner_id: Mapped[str | None] = mapped_column(String(32), default=None)
    costumes: Mapped[list[Any]] = mapped_column(default=list)
    vocabulary: Mapped[list[Any]] = mapped_column(default=list)
    donts: Mapped[list[Any]] = mapped_column(default=list)
    tones: Mapped[list[Any]] = mapped_column(default=list)
    kept_colours: Mapped[list[Any]] = mapped_column(default=list)
    position: Mapped[float]


class Reference(Journaled, Base):
    __tablename__ = "reference"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    thread_id: Mapped[str] = mapped_column(ForeignKey("thread.id"), index=True)
    picture_sha: Mapped[str] = mapped_column(ForeignKey("picture.sha"))
    name: Mapped[str] = mapped_column(String(120))
    costume: Mapped[str] = mapped_column(String(80), default="")
    weight: Mapped[float] = mapped_column(default=1.0)
    position: Mapped[float]
    view: Mapped[str] = mapped_column(String(16), default="")
    anchor: Mapped[bool] = mapped_column(default=False)
    replaces_id: Mapped[str | None] = mapped_column(String(32), default=None)
    from_shot_id: Mapped[str | None] = mapped_column(String(32), default=None)


class Trait(Journaled, Base):
    __tablename__ = "trait"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    thread_id: Mapped[str] = mapped_column(ForeignKey("thread.id"), index=True)
    reference_id: Mapped[str] = mapped_column(ForeignKey("reference.id"), index=True)
    name: Mapped[str] = mapped_column(String(80))
    part: Mapped[str] = mapped_column(String(8), default="figure")
    colours: Mapped[list[Any]] = mapped_column(default=list)
    x: Mapped[float]
    y: Mapped[float]
    w: Mapped[float]
    h: Mapped[float]
    position: Mapped[float]
    outline: Mapped[list[Any] | None] = mapped_column(default=None)
    tolerance: Mapped[float | None] = mapped_column(Double, default=None)
    free: Mapped[bool] = mapped_column(default=False)
    body_x: Mapped[float | None] = mapped_column(Double, default=None)
    body_y: Mapped[float | None] = mapped_column(Double, default=None)


class Bead(Journaled, Base):
    __tablename__ = "bead"
    __table_args__ = (UniqueConstraint("shot_id", "thread_id"),)

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    shot_id: Mapped[str] = mapped_column(ForeignKey("shot.id"))
    thread_id: Mapped[str] = mapped_column(ForeignKey("thread.id"), index=True)
    hold: Mapped[str] = mapped_column(String(8), default="figure")
    weight: Mapped[float] = mapped_column(default=0.8)
    costume: Mapped[str] = mapped_column(String(80), default="")
    reference_id: Mapped[str | None] = mapped_column(String(32), default=None)
    facing: Mapped[str] = mapped_column(String(8), default="")
    face: Mapped[str] = mapped_column(String(80), default="")
    stands: Mapped[list[Any] | None] = mapped_column(default=None)


class Take(Journaled, Base):
    __tablename__ = "take"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    shot_id: Mapped[str] = mapped_column(ForeignKey("shot.id"), index=True)
    picture_sha: Mapped[str] = mapped_column(ForeignKey("picture.sha"))
    name: Mapped[str] = mapped_column(String(255))
    picked: Mapped[bool] = mapped_column(default=False)
    position: Mapped[float]
    made_from: Mapped[dict[str, Any]] = mapped_column(default=dict)
    not_here: Mapped[list[Any]] = mapped_column(default=list)
    standing: Mapped[str] = mapped_column(String(8), default="")
    parent_id: Mapped[str | None] = mapped_column(String(32), default=None)
    trim: Mapped[list[Any] | None] = mapped_column(default=None)
    first_sha: Mapped[str | None] = mapped_column(ForeignKey("picture.sha"), default=None)
    last_sha: Mapped[str | None] = mapped_column(ForeignKey("picture.sha"), default=None)


class Mark(Journaled, Base):
    __tablename__ = "mark"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    take_id: Mapped[str] = mapped_column(ForeignKey("take.id"), index=True)
    thread_id: Mapped[str] = mapped_column(ForeignKey("thread.id"), index=True)
    x: Mapped[float]
    y: Mapped[float]
    w: Mapped[float]
    h: Mapped[float]


class FaultMark(Journaled, Base):
    """Something wrong in a take's picture, where it is: a kind of the short list, and words if the list has none."""

    __tablename__ = "fault_mark"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    take_id: Mapped[str] = mapped_column(ForeignKey("take.id"), index=True)
    kind: Mapped[str] = mapped_column(String(12))
    note: Mapped[str] = mapped_column(String(200), default="")
    x: Mapped[float]
    y: Mapped[float]
    w: Mapped[float]
    h: Mapped[float]


class Service(Journaled, Base):
    """A picture-making service that a project asks, by the address that the user gave; its token is no part of the row."""

    __tablename__ = "service"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    name: Mapped[str] = mapped_column(String(80))
    address: Mapped[str] = mapped_column(String(500))
    position: Mapped[float]


class Trial(Journaled, Base):
    """One shot made under several settings, so that these can be told apart; each cell is one choice on every axis."""

    __tablename__ = "trial"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    shot_id: Mapped[str] = mapped_column(ForeignKey("shot.id"), index=True)
    axes: Mapped[list[Any]] = mapped_column(default=list)
    seeds: Mapped[list[Any]] = mapped_column(default=list)
    thread_id: Mapped[str | None] = mapped_column(String(32), default=None)
    position: Mapped[float]
    made_at: Mapped[datetime] = mapped_column(default=now)


class SoundFile(Base):
    """What is known of a sound in the store: its media type, channels, seconds, and what it holds (`core/sound/levels.py`)."""

    __tablename__ = "sound_file"

    sha: Mapped[str] = mapped_column(String(64), primary_key=True)
    media_type: Mapped[str] = mapped_column(String(40))
    channels: Mapped[int]
    seconds: Mapped[float]
    bytes: Mapped[int] = mapped_column(BigInteger)
    holds: Mapped[dict[str, Any]]
    added_at: Mapped[datetime] = mapped_column(default=now)


class Sound(Journaled, Base):
    """A sound that lies on the sequence, from `start_s` after its shot begins (none: by itself); `line` is what a voice says, and of several takes of a line
    the picked one is heard."""

    __tablename__ = "sound"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    shot_id: Mapped[str] = mapped_column(ForeignKey("shot.id"), index=True)
    sound_sha: Mapped[str] = mapped_column(ForeignKey("sound_file.sha"))
    name: Mapped[str] = mapped_column(String(255))
    kind: Mapped[str] = mapped_column(String(8))
    thread_id: Mapped[str | None] = mapped_column(String(32), default=None)
    line: Mapped[str] = mapped_column(Text, default="")
    picked: Mapped[bool] = mapped_column(default=True)
    start_s: Mapped[float | None] = mapped_column(Double, default=None)
    from_s: Mapped[float] = mapped_column(default=0.0)
    to_s: Mapped[float | None] = mapped_column(Double, default=None)
    until_shot_id: Mapped[str | None] = mapped_column(String(32), default=None)
    gain_db: Mapped[float] = mapped_column(default=0.0)
    fade_in_s: Mapped[float] = mapped_column(default=0.0)
    fade_out_s: Mapped[float] = mapped_column(default=0.0)
    position: Mapped[float]


STET, RETAKE = "stet", "retake"
"""What can be decided about a finding."""


class Stet(Journaled, Base):
    """What was decided about a finding: let it stand, or `retake`. `thread_id`, `term` and `departure` are what the decision teaches: which
    thread, what of it, and how far it was off (1 is the edge of tolerance)."""

    __tablename__ = "stet"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    finding_key: Mapped[str] = mapped_column(String(64), index=True)
    reason: Mapped[str] = mapped_column(Text)
    verdict: Mapped[str] = mapped_column(String(8), default="stet")
    thread_id: Mapped[str | None] = mapped_column(String(32), default=None)
    term: Mapped[str] = mapped_column(String(120), default="")
    departure: Mapped[float] = mapped_column(Double, default=0.0)


class LibraryPicture(Journaled, Base):
    """A picture that the project has ever seen, with its tags; `binned` ones are put aside and can be taken out again."""

    __tablename__ = "library_picture"
    __table_args__ = (
        UniqueConstraint("project_id", "picture_sha"),
        Index("ix_library_picture_newest", "project_id", "binned", "added_at"),
    )

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"))
    picture_sha: Mapped[str] = mapped_column(ForeignKey("picture.sha"))
    name: Mapped[str] = mapped_column(String(255), default="")
    tags: Mapped[list[Any]] = mapped_column(default=list)
    binned: Mapped[bool] = mapped_column(default=False)
    added_at: Mapped[datetime] = mapped_column(default=now)


class Duel(Journaled, Base):
    """One choice of a taste round: `left`, `right`, or `skip`."""

    __tablename__ = "duel"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    left_sha: Mapped[str] = mapped_column(ForeignKey("picture.sha"))
    right_sha: Mapped[str] = mapped_column(ForeignKey("picture.sha"))
    chosen: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(default=now)


class ServiceState(Base):
    """What is known of a service, and is nobody's to undo or to give out: its token, what it said that it can do, and when it wants to be
    asked again."""

    __tablename__ = "service_state"

    service_id: Mapped[str] = mapped_column(String(32), primary_key=True)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    token: Mapped[str] = mapped_column(Text, default="")
    can: Mapped[str] = mapped_column(LongText, default="")
    trouble: Mapped[str] = mapped_column(Text, default="")
    rests_until: Mapped[datetime | None] = mapped_column(default=None)
    asked_at: Mapped[datetime | None] = mapped_column(default=None)


class Job(Base):
    """Something asked of a service: what, how it stands, what it cost. Facts of the world, so no part of undo.

    `key` names it to the service, for ever the same; `at` is where the service tells of it. Who works on it holds a lease until
    `leased_until`; `taken` are the seeds and digests of results that became takes.
    """

    __tablename__ = "job"
    __table_args__ = (
        Index("ix_job_next", "service_id", "state", "position"),
        Index("ix_job_of_project", "project_id", "state"),
    )

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"))
    shot_id: Mapped[str] = mapped_column(String(32), index=True)
    service_id: Mapped[str] = mapped_column(String(32))
    service: Mapped[str] = mapped_column(String(80))
    state: Mapped[str] = mapped_column(String(10), default="waiting")
    position: Mapped[float] = mapped_column(default=0.0)
    key: Mapped[str] = mapped_column(String(64))
    wanted: Mapped[dict[str, Any]]
    made_from: Mapped[dict[str, Any]]
    parent_id: Mapped[str | None] = mapped_column(String(32), default=None)
    at: Mapped[str] = mapped_column(String(600), default="")
    progress: Mapped[float] = mapped_column(default=0.0)
    taken: Mapped[list[Any]] = mapped_column(default=list)
    expected_credits: Mapped[float] = mapped_column(default=0.0)
    credits: Mapped[float] = mapped_column(default=0.0)
    paid_before: Mapped[float] = mapped_column(default=0.0)
    message: Mapped[str] = mapped_column(Text, default="")
    tries: Mapped[int] = mapped_column(default=0)
    cancelling: Mapped[bool] = mapped_column(default=False)
    not_before: Mapped[datetime | None] = mapped_column(default=None)
    lease: Mapped[str] = mapped_column(String(32), default="")
    leased_until: Mapped[datetime | None] = mapped_column(default=None)
    asked_at: Mapped[datetime] = mapped_column(default=now)
    ended_at: Mapped[datetime | None] = mapped_column(default=None)


class SentBrief(Base):
    """A brief as it left: the text of one shot, kept for comparing."""

    __tablename__ = "sent_brief"

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"))
    shot_id: Mapped[str] = mapped_column(String(32), index=True)
    text: Mapped[str] = mapped_column(LongText)
    at: Mapped[datetime] = mapped_column(default=now)


class Delivery(Base):
    """A file out: what it is made as, how far it is, and what came of it. Facts of the world, so no part of undo; the file lies in a folder under its id."""

    __tablename__ = "delivery"

    id: Mapped[str] = mapped_column(String(32), primary_key=True, default=new_id)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), index=True)
    kind: Mapped[str] = mapped_column(String(16))
    options: Mapped[dict[str, Any]]
    state: Mapped[str] = mapped_column(String(8), default="waiting")
    done: Mapped[int] = mapped_column(default=0)
    total: Mapped[int] = mapped_column(default=0)
    message: Mapped[str] = mapped_column(Text, default="")
    name: Mapped[str] = mapped_column(String(255), default="")
    bytes: Mapped[int] = mapped_column(BigInteger, default=0)
    asked_at: Mapped[datetime] = mapped_column(default=now)
    ended_at: Mapped[datetime | None] = mapped_column(default=None)


class Measure(Base):
    """What was measured, by digest of everything the measure depends on."""

    __tablename__ = "measure"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    version: Mapped[str] = mapped_column(String(16))
    data: Mapped[str] = mapped_column(LongText)
    made_at: Mapped[datetime] = mapped_column(default=now)


class CheckRun(Base):
    """The project's latest check: queued, running, done, stopped or failed, and what came of it as JSON text."""

    __tablename__ = "check_run"

    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"), primary_key=True)
    state: Mapped[str] = mapped_column(String(12))
    done: Mapped[int] = mapped_column(default=0)
    total: Mapped[int] = mapped_column(default=0)
    measured: Mapped[int] = mapped_column(default=0)
    message: Mapped[str] = mapped_column(Text, default="")
    result: Mapped[str] = mapped_column(LongText, default="")
    at: Mapped[datetime] = mapped_column(default=now)


class Change(Base):
    """One entry of the journal, which only grows: its label in the user's words, and each row before and after.

    `version` counts a project's entries without a gap. An undo is an entry that takes back another (`takes_back`), a redo one
    that takes back an undo. `undo_id` and `redo_id` name what undo and redo would take back after this entry; `spell_id` the
    first entry of a spell of typing that this one goes on with. `deed` is a name that whoever asked gave the request: the same
    request sent again is not done again. `by` is the name of who did it, empty where there are no accounts.
    """

    __tablename__ = "change"
    __table_args__ = (
        UniqueConstraint("project_id", "version"),
        UniqueConstraint("project_id", "deed", name="uq_change_deed"),
    )

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    project_id: Mapped[str] = mapped_column(ForeignKey("project.id"))
    version: Mapped[int]
    label: Mapped[str] = mapped_column(String(200))
    rows: Mapped[str] = mapped_column(LongText)
    takes_back: Mapped[int | None] = mapped_column(default=None)
    undo_id: Mapped[int | None] = mapped_column(default=None)
    redo_id: Mapped[int | None] = mapped_column(default=None)
    spell_id: Mapped[int | None] = mapped_column(default=None)
    deed: Mapped[str | None] = mapped_column(String(64), default=None)
    by: Mapped[str] = mapped_column(String(80), default=at_work)
    at: Mapped[datetime] = mapped_column(default=now)


JOURNALED: dict[str, type[Journaled]] = {
    model.__tablename__: model
    for model in (
        Project,
        TextPart,
        Beat,
        Scene,
        Shot,
        Thread,
        Reference,
        Trait,
        Bead,
        Take,
        Mark,
        FaultMark,
        Service,
        Trial,
        Sound,
        Stet,
        LibraryPicture,
        Duel,
    )
}
"""Journaled models by table name, parents before children."""
APART = frozenset({"library_picture", "duel"})
"""Tables that may hold very many rows and that the screen asks for by parts."""
