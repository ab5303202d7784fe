"""Every route of the API as a method, and the shapes of what goes in and out. Made by `python -m tools.client`; not written by hand."""

# fmt: off
# mypy: disable-error-code=no-any-return

from __future__ import annotations

from typing import Any, Literal, NotRequired, TypeAlias, TypedDict

from juxtaform.client.calls import Calls, FileIn

Json: TypeAlias = Any


class Accepted(TypedDict):
    """Proposed shots to settle; all of them when left out."""

    shot_ids: NotRequired[list[str] | None]


class AccountCard(TypedDict):
    """An account as its keeper sees it."""

    id: str
    login: str
    name: str
    keeper: bool
    made_at: str
    seen_at: str | None
    closed: bool
    second: bool


class AfterBeat(TypedDict):
    after: NotRequired[str | None]


class Anchor(TypedDict):
    """The reference view that counts as true, for one costume: its picture and the figure's box on it."""

    costume: str
    name: str
    sha: str
    box: Box


class AnswerIn(TypedDict):
    words: str


class AreaOrderIn(TypedDict):
    """An area to be changed, to what, how many tries, by whom and how good."""

    area: AreaRow
    words: str
    count: NotRequired[int]
    service_id: NotRequired[str | None]
    model: NotRequired[str]
    quality: NotRequired[Literal['draft', 'final']]


class AreaRow(TypedDict):
    """The area of a picture that may change, and the width of its soft rim as a part of the longer side."""

    shapes: list[ShapeRow]
    feather: NotRequired[float]


class Asked(TypedDict):
    job_ids: list[str]


class Assignment(TypedDict):
    shot_ids: list[str]
    on: bool


class At(TypedDict):
    """Where a window is."""

    window: str
    view: NotRequired[str]
    shot_id: NotRequired[str | None]


class AxisIn(TypedDict):
    varies: str
    about: NotRequired[str]
    choices: list[str]


class AxisRow(TypedDict):
    """One thing that a trial varies, and the choices: weights of a thread in percent, styles or services by id, qualities, or a phrase's words."""

    varies: Literal['weight', 'style', 'service', 'phrase']
    about: str
    choices: list[str]


class Balance(TypedDict):
    """A plan against its target, all in seconds: `over` is positive when it is too long. `least` is what the words alone"""

    total_s: float
    target_s: float
    over_s: float
    least_s: float
    words_too_many: int
    trims: list[Trim]


class BeadCopy(TypedDict):
    hold: NotRequired[Literal['figure', 'face', 'outfit', 'place', 'light', 'layout']]
    weight: NotRequired[float]
    costume: NotRequired[str]


class BeadEdit(TypedDict):
    """`revisions` of the beads by id, as the editor saw them."""

    shot_ids: list[str]
    revisions: NotRequired[dict[str, Json]]
    hold: NotRequired[Literal['figure', 'face', 'outfit', 'place', 'light', 'layout']]
    weight: NotRequired[float]
    costume: NotRequired[str]
    reference_id: NotRequired[str | None]
    facing: NotRequired[Literal['', 'left', 'right', 'camera', 'away']]
    face: NotRequired[str]
    stands: NotRequired[list[Json] | None]


class BeadRow(TypedDict):
    id: str
    revision: int
    shot_id: str
    thread_id: str
    hold: Literal['figure', 'face', 'outfit', 'place', 'light', 'layout']
    weight: float
    costume: str
    reference_id: str | None
    facing: Literal['', 'left', 'right', 'camera', 'away']
    face: str
    stands: list[Json] | None


class BeadsPaste(TypedDict):
    """A copied range of a column (null: no bead there); a greater `length` repeats it."""

    first_shot_id: str
    beads: list[BeadCopy | None]
    length: NotRequired[int]


class BeatEdit(TypedDict):
    revision: NotRequired[int | None]
    title: NotRequired[str]
    purpose: NotRequired[str]
    share: NotRequired[float]
    cast: NotRequired[list[str]]
    answer: NotRequired[str]


class BeatRow(TypedDict):
    id: str
    revision: int
    position: float
    title: str
    purpose: str
    share: float
    cast: list[str]
    question: str
    answer: str


class BeatStep(TypedDict):
    step: Literal[-1, 1]


class Binning(TypedDict):
    ids: list[str]
    binned: bool


class Book(TypedDict):
    """How a book is made; lengths in mm. `multiple` is the number of pages that a sheet takes; words are set in `words_pt` points."""

    trim_w: float
    trim_h: float
    bleed: float
    safe: float
    gutter: float
    multiple: int
    front: list[Literal['title', 'imprint', 'dedication', 'blank']]
    words_pt: float
    dedication: str
    imprint: str


class BookNote(TypedDict):
    """Something that would go wrong: its kind, the shot and page, what and what to do. `box` is where, in mm of the opening."""

    kind: str
    shot: str | None
    page: int
    title: str
    advice: str
    box: Box | None


class BookRow(TypedDict):
    """How the book is made; lengths in mm, words in points. What is left out is usual; without a trim size the form of the pictures gives it."""

    trim_w: NotRequired[float | None]
    trim_h: NotRequired[float | None]
    bleed: NotRequired[float]
    safe: NotRequired[float]
    gutter: NotRequired[float]
    multiple: NotRequired[Literal[1, 2, 4, 8, 16]]
    front: NotRequired[list[Literal['title', 'imprint', 'dedication', 'blank']]]
    words_pt: NotRequired[float]
    dedication: NotRequired[str]
    imprint: NotRequired[str]
    cover_shot_id: NotRequired[str | None]
    author: NotRequired[str]
    blurb: NotRequired[str]
    spine: NotRequired[float | None]


class BookView(TypedDict):
    """A book as it is shown: how it is made, its openings with pictures and words, and notes."""

    book: Book
    layout: Layout
    notes: list[BookNote]
    shas: dict[str, str]
    cover: Cover | None


class Box(TypedDict):
    """A rectangle in pixels of a picture: left edge, top edge, width, height."""

    x: float
    y: float
    w: float
    h: float


class BoxIn(TypedDict):
    """Left, top, width and height in pixels of the upright picture."""

    x: float
    y: float
    w: float
    h: float


class BridgeKey(TypedDict):
    """A proposed bridge, by its key."""

    key: str


class BridgeView(TypedDict):
    """A shot that is proposed between two: how it is framed, what it shows, whom and what (threads), its length in s, why this one; and `because` why any: the"""

    key: str
    before_id: str
    after_id: str
    size: Literal['EWS', 'WS', 'MWS', 'MS', 'MCU', 'CU', 'ECU']
    angle: Literal['eye level', 'high', 'low', "bird's eye", "worm's eye", 'over the shoulder', 'point of view', 'tilted']
    shows: str
    thread_ids: list[str]
    length_s: float
    why: str
    because: list[str]
    findings: list[str]
    carries_words: bool


class Brief(TypedDict):
    """A shot's words as phrases in order, and the pictures that go with them."""

    shot: str
    number: str
    phrases: list[Phrase]
    pictures: list[Picture]
    orphans: list[Edit]
    template: str


class Candidate(TypedDict):
    """Somebody or something that a text names and that is no thread yet, with how often it is named. `sure` tells that the story has it: what only might be"""

    kind: Literal['character', 'setting', 'prop']
    name: str
    aliases: list[str]
    mentions: int
    sure: bool
    members: list[str]


class CastLine(TypedDict):
    """Somebody of the story frame's cast, with one line about them."""

    name: str
    line: NotRequired[str]


class CauseView(TypedDict):
    """What takes with a fault share, in words; how it can be mended: by a don't (empty: none fits), by `words` less (one of them, or none), or only by"""

    fault: str
    kind: str
    what: str
    told: str
    beside: str
    dont: str
    words: list[str]
    take_ids: list[str]
    shot_ids: list[str]


class CellView(TypedDict):
    """A setting of a trial: its place on each axis, in words, and its takes by seed."""

    at: list[int]
    name: str
    take_ids: dict[str, str]


class Cells(TypedDict):
    """Cells as a spreadsheet copies them, with a header."""

    cells: str
    mend: NotRequired[bool]


class ChangedOut(TypedDict):
    """What happened after version `since` up to `version`: rows that are there now, ids that are gone by table, and what undo"""

    project_id: str
    version: int
    since: int
    label: str
    rows: Rows
    gone: dict[str, list[str]]
    pictures: list[PictureRow]
    undo_label: str | None
    redo_label: str | None


class CheckOut(TypedDict):
    """How the latest check stands: pictures that could not be measured (by shot), its threads, and the project's version that it holds for."""

    status: CheckStatus
    trouble: dict[str, str]
    threads: list[ThreadSummary]
    version: int


class CheckStatus(TypedDict):
    """Where the latest check stands; `measured` counts pictures that were not known from before."""

    state: Literal['never', 'queued', 'running', 'done', 'stopped', 'failed']
    done: int
    total: int
    measured: int
    message: str
    at: str | None


class Choice(TypedDict):
    left: str
    right: str
    chosen: Literal['left', 'right', 'skip']


class ClipIn(TypedDict):
    seconds: float
    last_take_id: NotRequired[str | None]
    service_id: NotRequired[str | None]
    model: NotRequired[str]
    quality: NotRequired[Literal['draft', 'final']]


class ClipRow(TypedDict):
    """What is known of a clip: its media type, frames, seconds, and whether it has sound."""

    media_type: str
    frames: int
    seconds: float
    has_sound: bool


class ClipTold(TypedDict):
    """What is told of a clip: when its measured frames are, how each thread drifts, frames that flicker, in words what is wrong and what is not judged, and from"""

    times: list[float]
    tracks: list[TrackTold]
    flicker: list[float]
    words: list[str]
    notes: list[str]
    proposed: list[Json]
    seconds: float


class Closing(TypedDict):
    closed: bool


class ColumnOut(TypedDict):
    header: str
    fact: str
    meaning: str


class ConfirmedBox(TypedDict):
    take_id: str
    thread_id: str
    box: BoxIn


class ConfirmedBoxes(TypedDict):
    boxes: list[ConfirmedBox]


class Confirming(TypedDict):
    """A code of an app that was just set up, and the password once more."""

    password: str
    code: str


class ContactSheet(TypedDict):
    """A shot's takes in groups, what is read of those that are measured, and how many wait; `message` says what is wrong with measuring."""

    groups: list[TakeGroup]
    readings: list[TakeReading]
    waiting: int
    message: str


class CopiedBead(TypedDict):
    """What a thread's bead says at one of the copied shots."""

    hold: str
    weight: float
    costume: str


class CopiedShot(TypedDict):
    """A copied shot: its facts, and the threads that ran through it."""

    facts: dict[str, Json]
    threads: list[CopiedThread]


class CopiedThread(TypedDict):
    """A bead of a copied shot, its thread by kind and name: ids mean nothing in another project."""

    kind: str
    name: str
    bead: CopiedBead


class CostumeRow(TypedDict):
    """A costume of a character, or a variant of a setting: its own words, and for a setting its time, weather and damage."""

    name: str
    wording: NotRequired[str]
    time: NotRequired[str]
    weather: NotRequired[str]
    damage: NotRequired[str]
    light: NotRequired[str]


class Cover(TypedDict):
    """A cover in mm: how its book is made, how thick its spine is, its front as a page on the right of an opening, what stands on it, and the colour of spine"""

    book: Book
    spine_mm: float
    shot: str
    picture: PlacedPicture
    title: PlacedWords
    author: str
    blurb: str
    ground: str


class Covered(TypedDict):
    """A stretch of the text in characters, and the text's revision that it is of."""

    start: int
    end: int
    seen: NotRequired[int | None]


class CropIn(TypedDict):
    box: BoxIn


class CroppedTo(TypedDict):
    """What of its parent's picture a rescued one shows, in that picture's px."""

    x: float
    y: float
    w: float
    h: float


class Cut(TypedDict):
    """A place in the text, and the text's revision that it is of."""

    at: NotRequired[int | None]
    seen: NotRequired[int | None]


class DeliveryOptions(TypedDict):
    """How a file out is made: pictures a page of a storyboard; an animatic's form, height, words and whether it sounds; the form of captions; cards where pictures are missing."""

    a_page: NotRequired[Literal[1, 4, 6, 9]]
    form: NotRequired[Literal['mp4', 'webm']]
    height: NotRequired[Literal[480, 720, 1080]]
    words: NotRequired[Literal['burnt in', 'beside', 'none']]
    sound: NotRequired[bool]
    captions: NotRequired[Literal['vtt', 'srt']]
    placeholders: NotRequired[bool]


class DeliveryView(TypedDict):
    """A file out as it stands: `done` of `total` steps; `message` says what is wrong, or what is not as it should be in a whole file."""

    id: str
    kind: Literal['pictures', 'cbz', 'storyboard', 'animatic', 'timeline', 'captions', 'book', 'dummy', 'epub', 'cues', 'cover']
    options: DeliveryOptions
    state: Literal['waiting', 'running', 'done', 'stopped', 'failed']
    done: int
    total: int
    message: str
    name: str
    bytes: int
    asked_at: str
    ended_at: str | None


class DuelRow(TypedDict):
    id: str
    revision: int
    left_sha: str
    right_sha: str
    chosen: Literal['left', 'right', 'skip']


class Edit(TypedDict):
    """A hand edit of a phrase: its words when it was edited, and what they became (empty: left out)."""

    key: str
    was: str
    now: str


class EditInShort(TypedDict):
    """That an area of its parent was changed: to what in words, and whether the old pixels were put back outside. The area itself is large, and asked"""

    words: str
    only: bool


class EditRow(TypedDict):
    """A hand edit of a brief's phrase: its words when it was edited, and what they became."""

    key: str
    was: str
    now: str


class Effect(TypedDict):
    """What a mend brought: takes with the fault before and since, of how many, and that in words."""

    told: str
    before: list[Json]
    since: list[Json]
    helped: bool | None


class Evidence(TypedDict):
    """One row of evidence in an illustrator's words: what, how much of it and what was expected; colours as hex. `behind` are the numbers with"""

    label: str
    measured: str
    expected: NotRequired[str]
    measured_hex: NotRequired[str | None]
    expected_hex: NotRequired[str | None]
    behind: NotRequired[str]


class FaultEdit(TypedDict):
    kind: NotRequired[Literal['hand', 'twice', 'extra', 'missing', 'wrong person', 'leaked', 'lettering', 'border', 'soft', 'other']]
    box: NotRequired[BoxIn | None]
    note: NotRequired[str]
    revision: NotRequired[int | None]


class FaultMarkRow(TypedDict):
    id: str
    revision: int
    take_id: str
    kind: Literal['hand', 'twice', 'extra', 'missing', 'wrong person', 'leaked', 'lettering', 'border', 'soft', 'other']
    note: str
    x: float
    y: float
    w: float
    h: float


class FaultMendIn(TypedDict):
    """What is done against a fault that recurs: `dont` adds a don't, `phrase` takes the words out."""

    fault: Literal['hand', 'twice', 'extra', 'missing', 'wrong person', 'leaked', 'lettering', 'border', 'soft', 'other']
    kind: str
    what: str
    how: str


class FaultsTold(TypedDict):
    """How often each kind of fault is marked, of how many takes that were looked at; what recurring ones share; what mends brought."""

    looked_at: int
    counts: dict[str, int]
    causes: list[CauseView]
    effects: list[Effect]


class Files(TypedDict):
    files: list[NamedPicture]


class FinalPass(TypedDict):
    """Finals beside their drafts, and the shots whose picked draft has no final yet, with what these would cost."""

    finals: list[FinalView]
    drafts: list[str]
    credits: float


class FinalView(TypedDict):
    """A final and its draft: what makes it another picture (none: it is the draft in full); `ready` once both are measured."""

    shot_id: str
    number: int
    draft_id: str
    final_id: str
    picked: bool
    ready: bool
    differences: list[str]


class FinalsIn(TypedDict):
    shot_ids: NotRequired[list[str] | None]
    service_id: NotRequired[str | None]


class Finding(TypedDict):
    """Something to look at, with what it is about by ids, its evidence and what to do."""

    source: Literal['check', 'plan', 'brief', 'reference', 'take', 'viewer']
    kind: str
    title: str
    advice: str
    shot: NotRequired[str | None]
    until: NotRequired[str | None]
    thread: NotRequired[str | None]
    trait: NotRequired[str]
    reference: NotRequired[str | None]
    take: NotRequired[str | None]
    severity: NotRequired[float]
    measured: NotRequired[float]
    expected: NotRequired[float]
    unit: NotRequired[str]
    back_to: NotRequired[str | None]
    before: NotRequired[str | None]
    at_s: NotRequired[float | None]
    region: NotRequired[Box | None]
    evidence: NotRequired[list[Evidence]]
    words: NotRequired[WordsAt | None]
    mend: NotRequired[Mend | None]
    reason: NotRequired[str]
    key: NotRequired[str]


class FindingGroup(TypedDict):
    """All findings of one source at one shot (None: of the whole project); none when what was there is gone."""

    source: Literal['check', 'plan', 'brief', 'reference', 'take', 'viewer']
    shot: str | None
    findings: list[Finding]


class FindingsSince(TypedDict):
    """What there is to look at as of `version`. With `anew` the groups are all there are; else they are those that changed since what the"""

    version: int
    mark: str
    anew: bool
    groups: list[FindingGroup]
    shots: list[ShotPlanned]
    lengths: Lengths


class Fit(TypedDict):
    """Why a reference cannot serve well; nothing when it can."""

    reference_id: str
    faults: list[Finding]


class Fitted(TypedDict):
    """A brief as a service gets it, what was left out, and what cannot be helped: words over the limit, holds and an aspect"""

    brief: Brief
    left: list[Left]
    over: int
    unknown_holds: list[str]
    unknown_aspect: str


class FollowVoice(TypedDict):
    """Shots that are to have the time of their voice; none named: all. With `shorten` they lose what they do not need."""

    shot_ids: NotRequired[list[str] | None]
    shorten: NotRequired[bool]


class Forecast(TypedDict):
    """Credits for the shots that are left: one time in ten it is less than `low`, half the time less than `middle`, nine in ten less than `high`. `takes`"""

    low: float
    middle: float
    high: float
    takes: float
    kept: int
    surely: int | None
    likely: int | None


class FoundPanels(TypedDict):
    """A page as found: the straightened picture (stored), its size, and its panels in reading order, in its pixels."""

    sha: str
    width: int
    height: int
    boxes: list[Box]


class FrameOut(TypedDict):
    """A frame that is to become a take: when it is, the sharpest near it, and of another shot if one is given."""

    at_s: float
    sharpest: NotRequired[bool]
    shot_id: NotRequired[str | None]


class FrameText(TypedDict):
    text: str


class FrameWanted(TypedDict):
    shape: Literal['three acts', 'five parts', 'four turns', 'three tries', 'there and back', 'round']


class Framing(TypedDict):
    """A way to show a moment, and what it does."""

    size: str
    angle: str
    move: str
    why: str


class FramingRow(TypedDict):
    """Another way to look at a shot's moment, kept beside it."""

    size: Literal['EWS', 'WS', 'MWS', 'MS', 'MCU', 'CU', 'ECU']
    angle: Literal['eye level', 'high', 'low', "bird's eye", "worm's eye", 'over the shoulder', 'point of view', 'tilted']
    move: Literal['static', 'pan', 'tilt', 'push in', 'pull out', 'arc', 'track', 'crane']
    why: NotRequired[str]


class Frozen(TypedDict):
    """A sequence as it was frozen."""

    title: str
    aspect: float
    fps: float
    medium: str
    shots: list[FrozenShot]


class FrozenShot(TypedDict):
    """A shot as it was: its picture by digest and size, its words in time, its move and how it is joined to the one before."""

    id: str
    number: int
    scene: str
    shows: str
    words: str
    captions: list[list[Json]]
    length_s: float
    join: str
    join_s: float
    move: str
    move_start: list[float] | None
    move_end: list[float] | None
    sha: str | None
    sketch: bool
    width: int
    height: int
    clip: list[Json] | None


class Gap(TypedDict):
    """Words that no shot covers, or that two or more do: their span and whose they are."""

    start: int
    end: int
    shots: list[str]


class Grown(TypedDict):
    """What was added beyond a take's edges, side by side."""

    take_id: str
    parent_id: str
    sides: list[SideTold]


class GrowthIn(TypedDict):
    aspect: str
    count: NotRequired[int]
    service_id: NotRequired[str | None]
    model: NotRequired[str]
    quality: NotRequired[Literal['draft', 'final']]


class Here(TypedDict):
    """A window: whose it is (empty where there are no accounts), its view, and the shot that it is at."""

    window: str
    name: str
    account_id: str
    view: str
    shot_id: str | None


class HistoryEntry(TypedDict):
    id: int
    label: str
    at: str
    undone: bool
    by: str


class Invited(TypedDict):
    """What a link opens: whereto, as what, and whose password where it is for one."""

    invites: Literal['first', 'project', 'account', 'password']
    project: str
    role: str
    login: str
    ends_at: str
    second: bool


class JobView(TypedDict):
    """A job as it stands; `count` pictures are wanted, `taken` came; `message` says why it waits or went wrong."""

    id: str
    shot_id: str
    service_id: str
    service: str
    state: Literal['held', 'waiting', 'paused', 'asking', 'running', 'done', 'failed', 'refused', 'cancelled']
    count: int
    taken: int
    progress: float
    expected_credits: float
    credits: float
    message: str
    quality: str
    kind: str
    parent_id: str | None
    trial_id: str | None
    asked_at: str
    ended_at: str | None
    not_before: str | None


class Joined(TypedDict):
    person: Person
    project_id: str | None


class Joining(TypedDict):
    """What a link is answered with: a new account, or nothing of it by who is signed in and wants to join a project as that."""

    secret: str
    login: NotRequired[str]
    name: NotRequired[str]
    password: NotRequired[str]
    code: NotRequired[str]
    as_known: NotRequired[bool]


class KeptColour(TypedDict):
    """A colour of a style that only one character may wear."""

    thread_id: str
    hex: str


class KeptFramings(TypedDict):
    """Framings kept beside a shot; `picked` is the one that becomes the shot's."""

    framings: list[FramingRow]
    picked: NotRequired[int | None]
    revision: NotRequired[int | None]


class LaidKey(TypedDict):
    """Tells that a figure was laid over a reference: `reference` is that reference's picture, `key` changes with what was measured."""

    reference: str
    key: str


class Layout(TypedDict):
    """A book laid out; `skipped` are pages that stay empty because a spread begins on a left-hand page, `filled` those at the end."""

    book: Book
    openings: list[Opening]
    pages: list[Page]
    skipped: list[int]
    filled: int
    spreads: list[str]


class LearnedBand(TypedDict):
    """How far a term of a thread may go, before and after what was decided (multiples of our band), in words; `moved` tells whether that is otherwise than before, `used` is false where it was set back,"""

    thread_id: str
    term: str
    label: str
    before: float
    after: float
    accepted: int
    refused: int
    words: str
    moved: bool
    used: bool
    within: int


class Ledger(TypedDict):
    """What was spent, on what, and what is still to be spent: `left` are shots without a picked picture, `until` the shot up to which the month's"""

    month: Month
    by_shot: list[Line]
    by_scene: list[Line]
    by_service: list[Line]
    by_day: list[Line]
    credits: float
    takes: int
    left: int
    forecast: Forecast | None
    surely_until: str | None
    likely_until: str | None
    told: str


class Left(TypedDict):
    """Something that a service's limits left out or changed, in words, and the phrase or picture it was."""

    what: str
    why: str
    key: str


class LengthOf(TypedDict):
    """A shot's new length; `revision` is the one the editor saw."""

    shot_id: str
    length_s: float
    revision: NotRequired[int | None]


class Lengths(TypedDict):
    """The plan's lengths as they stand against the target; its seconds are spoken by the cast, told, or only shown."""

    balance: Balance
    pages: float
    words_per_minute: float
    spoken_s: float
    told_s: float
    shown_s: float


class LibraryItem(TypedDict):
    """A picture of the library with its tags and uses; `score` tells how well it answers the search (1: fully)."""

    id: str
    revision: int
    sha: str
    name: str
    tags: list[str]
    binned: bool
    width: int
    height: int
    score: float
    uses: list[Use]


class LibraryPart(TypedDict):
    """A part of what a search found: how many there are in all, from where this part begins, and all tags in use."""

    total: int
    offset: int
    items: list[LibraryItem]
    tags: list[str]


class LibraryPictureRow(TypedDict):
    id: str
    revision: int
    picture_sha: str
    name: str
    tags: list[str]
    binned: bool


class LightIn(TypedDict):
    """Gains of linear red, green and blue; factors of saturation and contrast."""

    gain: list[Json]
    saturation: NotRequired[float]
    contrast: NotRequired[float]


class Line(TypedDict):
    """What was spent on something: a shot, a scene, a service or a day; `takes` are pictures that came."""

    id: str
    name: str
    jobs: int
    takes: int
    credits: float


class LineView(TypedDict):
    """A line: its words, who says it (a thread, and a name where no thread has it), and its takes in their order."""

    words: str
    thread_id: str | None
    who: str
    takes: list[str]


class LineageStep(TypedDict):
    """A take of a lineage, oldest first, with what changed from the one before it."""

    take_id: str
    number: int
    changes: list[str]


class Lineup(TypedDict):
    """A thread side by side; `begins` is the shot where a lasting change begins."""

    thread_id: str
    anchors: list[Anchor]
    cells: list[LineupCell]
    change: str | None
    begins: str | None
    back_to: str | None


class LineupCell(TypedDict):
    """One shot on the thread: its picture, the figure's box (none for a style), distance, verdict, traits, light."""

    shot_id: str
    sha: str
    box: Box | None
    costume: str
    distance: float
    verdict: str
    traits: list[TraitReading]
    light: SceneLight | None
    light_words: str
    nearest_view: str
    foremost: list[list[Json]]
    laid: LaidKey | None


class Link(TypedDict):
    secret: str


class Loupe(TypedDict):
    places: list[LoupePlace]


class LoupePlace(TypedDict):
    sha: str
    x: float
    y: float
    radius: NotRequired[float]
    light: NotRequired[LightIn | None]


class MadeShowing(TypedDict):
    """A showing; the path of its link is told this once."""

    path: str
    showing: ShowingCard


class MadeToken(TypedDict):
    """A new token; `secret` is told this once."""

    secret: str
    token: TokenCard


class MarkRow(TypedDict):
    id: str
    revision: int
    take_id: str
    thread_id: str
    x: float
    y: float
    w: float
    h: float


class Me(TypedDict):
    """Who asks: `closed` says whether one has to sign in here, `person` who is signed in, `first` that there is no account yet, `second_wanted` that"""

    closed: bool
    first: bool
    person: Person | None
    second_wanted: bool


class MeasuredView(TypedDict):
    """What a trial shows of one measure (a thread): every setting's values by seed, and which hold better, in words."""

    of: str
    values: dict[str, dict[str, float]]
    middle: dict[str, float | None]
    best: str | None
    alike: list[str]
    worse: dict[str, list[Json]]
    told: str
    apart: bool


class MemberCard(TypedDict):
    """Somebody who works on a project."""

    account_id: str
    login: str
    name: str
    role: Literal['reviewer', 'illustrator', 'owner']


class Mend(TypedDict):
    """What one key does about a finding: its kind, the thread and value that it needs, and its label."""

    kind: Literal['attach', 'clear', 'cut', 'to_motion', 'costume', 'aspect', 'drop_guide', 'newest']
    label: str
    thread: NotRequired[str]
    value: NotRequired[str]


class MendIn(TypedDict):
    key: str
    profile: NotRequired[str | None]


class ModelSaid(TypedDict):
    id: str
    name: str
    kinds: list[str]
    aspects: list[str]
    holds: list[str]
    text_most: int
    references_most: int
    reference_side_most_px: int
    pictures_most: int
    seeds: bool
    masks: bool
    clip_seconds_most: float | None
    qualities: list[QualitySaid]


class Month(TypedDict):
    """A calendar month (UTC) of a project: credits spent, bound by jobs that are under way, and allowed (None: no limit)."""

    begins: str
    spent: float
    bound: float
    allowance: float | None


class MotionField(TypedDict):
    """A part of a motion brief: what it is about, and its words as a sentence."""

    name: str
    words: str


class MovingWords(TypedDict):
    """A phrase `start`..`end` of a still description that no still can show: a camera's move, or a course of action."""

    start: int
    end: int
    words: str
    kind: Literal['camera', 'motion']


class NamedPicture(TypedDict):
    sha: str
    name: str


class Naming(TypedDict):
    name: str


class NewDecision(TypedDict):
    finding_keys: list[str]
    verdict: Literal['stet', 'retake']
    reason: NotRequired[str]
    seen: NotRequired[dict[str, int] | None]


class NewDelivery(TypedDict):
    kind: Literal['pictures', 'cbz', 'storyboard', 'animatic', 'timeline', 'captions', 'book', 'dummy', 'epub', 'cues', 'cover']
    options: NotRequired[DeliveryOptions]


class NewFault(TypedDict):
    kind: Literal['hand', 'twice', 'extra', 'missing', 'wrong person', 'leaked', 'lettering', 'border', 'soft', 'other']
    box: BoxIn
    note: NotRequired[str]


class NewLengths(TypedDict):
    lengths: list[LengthOf]


class NewLink(TypedDict):
    """The path of a link, told this once."""

    path: str


class NewMark(TypedDict):
    thread_id: str
    box: BoxIn
    revision: NotRequired[int | None]


class NewPassword(TypedDict):
    old: str
    new: str


class NewProject(TypedDict):
    title: str


class NewReferences(TypedDict):
    pictures: list[NamedPicture]
    costume: NotRequired[str]


class NewService(TypedDict):
    name: str
    address: str
    token: NotRequired[str]


class NewShowing(TypedDict):
    title: NotRequired[str]
    words: NotRequired[str]
    days: NotRequired[int]
    passphrase: NotRequired[str]


class NewStet(TypedDict):
    finding_key: str
    reason: str
    revision: NotRequired[int | None]


class NewThread(TypedDict):
    kind: Literal['character', 'setting', 'style', 'prop']
    name: str


class NewToken(TypedDict):
    name: str
    scope: NotRequired[Literal['read', 'write']]
    project_id: NotRequired[str | None]
    days: NotRequired[int]


class NewTrait(TypedDict):
    name: str
    part: NotRequired[Literal['figure', 'face', 'outfit']]
    box: BoxIn
    colours: NotRequired[list[str]]
    outline: NotRequired[list[list[Json]] | None]


class NotHere(TypedDict):
    thread_id: str
    revision: NotRequired[int | None]


class NoteIn(TypedDict):
    shot_id: str
    words: str
    name: NotRequired[str]
    place: NotRequired[list[float] | None]
    at_s: NotRequired[float | None]
    parent_id: NotRequired[str | None]


class NoteView(TypedDict):
    """A comment as it is seen: where it lies, who says it (`inside`: somebody of the project), and what it answers; `key` is that of what there"""

    id: str
    key: str
    shot_id: str
    edition: int
    parent_id: str | None
    name: str
    inside: bool
    words: str
    place: list[float] | None
    at_s: float | None
    made_at: str


class Offer(TypedDict):
    """What an order means: shot by shot, its price in all, and how the month stands without it. `over` is how much of it the month's allowance"""

    shots: list[ShotOffer]
    credits: float
    month: Month
    over: float


class Offers(TypedDict):
    """Texts offered, best first, and what the service says of itself."""

    service: str
    texts: list[str]
    note: str


class OnlyIn(TypedDict):
    feather: NotRequired[float | None]


class OpenBy(TypedDict):
    secret: str
    passphrase: NotRequired[str]


class OpenInvitation(TypedDict):
    """A link that was not used yet; `id` is its digest."""

    id: str
    role: str
    made_at: str
    ends_at: str


class OpenedOut(TypedDict):
    showing_id: str


class Opening(TypedDict):
    """Two pages that are seen together; one of them is missing at the beginning and the end."""

    left: Page | None
    right: Page | None
    pictures: list[PlacedPicture]
    words: list[PlacedWords]


class OrderIn(TypedDict):
    """Takes wanted: of which shots, how many each, by which model, how good; `as_it_is` sends also what preflight holds back."""

    shot_ids: list[str]
    count: NotRequired[int]
    service_id: str
    model: NotRequired[str]
    quality: NotRequired[Literal['draft', 'final']]
    as_it_is: NotRequired[bool]
    order_id: NotRequired[str | None]


class Ordered(TypedDict):
    thread_ids: list[str]


class OthersOut(TypedDict):
    """The takes that are not picked, with their marks and pictures, as they were at `version`."""

    version: int
    rows: Rows
    pictures: list[PictureRow]


class Outgoing(TypedDict):
    """What goes out: shots, how long they take, and what is missing, a sentence each."""

    shots: int
    length_s: float
    missing: list[str]


class OwnSignIn(TypedDict):
    """A browser in which somebody is signed in; `here` is the one that asks."""

    id: str
    browser: str
    made_at: str
    seen_at: str
    here: bool


class Page(TypedDict):
    """A page by its number, what it is, and its shots."""

    number: int
    kind: Literal['title', 'imprint', 'dedication', 'blank', 'shot']
    shots: list[str]


class PanelBox(TypedDict):
    x: float
    y: float
    w: float
    h: float


class PanelsTaken(TypedDict):
    """Panels of a page (a stored picture) in the order in which they are read."""

    sha: str
    boxes: list[PanelBox]
    scene_id: NotRequired[str | None]
    thread_id: NotRequired[str | None]


class PartStep(TypedDict):
    """One part of a figure against the reference: `step` and `hue` are OKLab distances in the common light (hue and chroma alone for"""

    step: float
    hue: float
    beyond: float
    seen: list[Json]
    cells: int


class Peg(TypedDict):
    """How a picture is laid on another: from px of its own to px of the other, and by what: its places, or the boxes alone."""

    affine: list[Json]
    by: Literal['places', 'boxes']


class PegIn(TypedDict):
    thread_id: NotRequired[str | None]
    on: NotRequired[Literal['figure', 'head', 'picture']]
    pictures: list[PinnedIn]


class Pegged(TypedDict):
    """How each picture is laid on the first one; None for one in which the figure does not stand."""

    pegs: list[Peg | None]


class Person(TypedDict):
    """Somebody with an account."""

    id: str
    login: str
    name: str
    keeper: bool
    second: bool


class Phrase(TypedDict):
    """A piece of a brief: a key that lasts, what it is, its words, where they come from, and the thread they speak of; of a list, its `items`."""

    key: str
    kind: Literal['action', 'cast', 'prop', 'setting', 'style', 'framing', 'palette', 'dont', 'technical']
    text: str
    source: str
    thread: str
    short: str
    plain: str | None
    outdated: bool
    items: list[str]
    shows: list[Picture]
    pointing: str
    weight: float | None


class PhraseEdit(TypedDict):
    """A phrase's new words (empty: leave it out); null takes the edit back."""

    key: str
    now: str | None


class Picture(TypedDict):
    """A picture that goes out with a brief: what it is for, whose, its digest, and how strongly it holds (0..1)."""

    role: Literal['view', 'style', 'guide', 'first', 'last']
    sha: str
    label: str
    weight: float
    thread: str
    reference: str
    anchor: bool


class PictureRow(TypedDict):
    sha: str
    width: int
    height: int
    palette: list[list[Json]]
    clip: ClipRow | None


class Piece(TypedDict):
    """Words that both texts have, that only the new one has, or that only the old one had."""

    kind: Literal['same', 'new', 'gone']
    words: str


class PinnedIn(TypedDict):
    sha: str
    take_id: NotRequired[str | None]


class PlaceChanged(TypedDict):
    """Where outside the area something changed (px of the parent's picture), and by how much (CIEDE2000)."""

    box: Box
    delta: float


class PlaceIn(TypedDict):
    """A box on a picture, with an outline within it if one was drawn."""

    x: float
    y: float
    w: float
    h: float
    outline: NotRequired[list[list[Json]] | None]


class Placed(TypedDict):
    """A picture in the ranking: its score (log odds against the average), the standard deviation of that, how often it was"""

    sha: str
    name: str
    score: float
    sd: float
    seen: int
    weight: float


class PlacedFile(TypedDict):
    sha: str
    name: str
    shot_id: str


class PlacedFiles(TypedDict):
    files: list[PlacedFile]


class PlacedPicture(TypedDict):
    """A picture in an opening, and which part of it is seen (shares of it)."""

    shot: str
    box: Box
    part: list[Json]


class PlacedWords(TypedDict):
    """Words in an opening. `over` tells that they lie on the picture; `by_hand` that the user put them there; `page` is that on which they lie, or its left one."""

    shot: str
    words: str
    box: Box
    size_pt: float
    over: bool
    by_hand: bool
    tone: Literal['dark', 'light'] | None


class Problem(TypedDict):
    """RFC 9457 problem details; a conflict carries both states, a question what would be done (`offer`)."""

    type: NotRequired[str]
    title: str
    status: int
    detail: str
    mine: NotRequired[dict[str, Json] | None]
    theirs: NotRequired[dict[str, Json] | None]
    offer: NotRequired[str | None]


class Profile(TypedDict):
    """What a service takes: characters of text and number of pictures (0: any), the longest side of a picture in px (0: any),"""

    name: str
    text_limit: int
    picture_limit: int
    picture_side_px: int
    holds: list[str]
    aspects: list[str]
    plate: bool
    template: str
    weights: Literal['data', 'words', 'numbers']
    motion: Literal['sentences', 'fields']


class ProfileRow(TypedDict):
    """What a service takes; 0 or an empty list is no limit, a picture limit of -1 takes no pictures."""

    name: str
    text_limit: NotRequired[int]
    picture_limit: NotRequired[int]
    picture_side_px: NotRequired[int]
    holds: NotRequired[list[Literal['figure', 'face', 'outfit', 'place', 'light', 'layout']]]
    aspects: NotRequired[list[str]]
    plate: NotRequired[bool]
    template: NotRequired[str]
    weights: NotRequired[Literal['data', 'words', 'numbers']]
    motion: NotRequired[Literal['sentences', 'fields']]


class ProjectCard(TypedDict):
    """A project on the shelf: its title, how many shots it has, and its first picture."""

    id: str
    title: str
    shots: int
    cover: str | None
    created_at: str


class ProjectEdit(TypedDict):
    revision: NotRequired[int | None]
    title: NotRequired[str]
    target_s: NotRequired[float | None]
    target_pages: NotRequired[int | None]
    premise: NotRequired[str]
    tone: NotRequired[str]
    frame_cast: NotRequired[list[CastLine]]
    medium: NotRequired[Literal['film', 'book']]
    language: NotRequired[str]
    audience: NotRequired[Literal['aloud to children', 'aloud', 'voice-over', 'silent']]
    pace_factor: NotRequired[float]
    table_columns: NotRequired[list[str]]
    aspect: NotRequired[str]
    style_id: NotRequired[str | None]
    donts: NotRequired[list[str]]
    seed_rule: NotRequired[Literal['free', 'one', 'per shot']]
    seed: NotRequired[int | None]
    profile: NotRequired[str]
    profiles: NotRequired[list[ProfileRow]]
    allowance: NotRequired[float | None]
    hidden_columns: NotRequired[list[str]]
    print_mm: NotRequired[float | None]
    unlearned: NotRequired[list[Unlearned]]
    fps: NotRequired[float]
    book: NotRequired[BookRow]


class ProjectRow(TypedDict):
    id: str
    revision: int
    title: str
    text_revision: int
    syntax: Literal['prose', 'fountain']
    premise: str
    tone: str
    shape: Literal['three acts', 'five parts', 'four turns', 'three tries', 'there and back', 'round']
    frame_cast: list[CastLine]
    medium: Literal['film', 'book']
    language: str
    audience: Literal['aloud to children', 'aloud', 'voice-over', 'silent']
    pace_factor: float
    target_s: float | None
    target_pages: int | None
    table_columns: list[str]
    aspect: str
    style_id: str | None
    donts: list[str]
    seed_rule: Literal['free', 'one', 'per shot']
    seed: int | None
    profile: str
    profiles: list[ProfileRow]
    allowance: float | None
    hidden_columns: list[str]
    print_mm: float | None
    unlearned: list[Unlearned]
    fps: float
    book: dict[str, Json]


class Proposal(TypedDict):
    """A stored file and the shot it seems to belong to."""

    name: str
    sha: str
    shot_id: str | None
    reason: str


class Proved(TypedDict):
    """What an edit did outside its area, in words and numbers; `parent_id` is the take that it was made of. `strength` is the strongest change in"""

    take_id: str
    parent_id: str
    words: str
    harmless: str
    changed: bool
    strength: float
    floor: float
    told_from: float
    places: list[PlaceChanged]
    key: str


class QualitySaid(TypedDict):
    id: Literal['draft', 'final']
    side_px: int
    credits: float


class Queue(TypedDict):
    """A project's queue: how many jobs there are in each state; the open ones in their order, those that went wrong, and the latest done."""

    counts: dict[str, int]
    jobs: list[JobView]


class ReadAlong(TypedDict):
    """The words of a shot and when each is said at the project's pace: (first character, end, from, to), in s from the shot's beginning. `lines` are the"""

    shot_id: str
    words: str
    said: list[list[Json]]
    lines: list[int]
    needs_s: float
    in_voice: bool


class Reading(TypedDict):
    """What the text is made of: passages (kind, start, end, speaker), words in no shot or in two, who and what it names"""

    text_revision: int
    syntax: str
    words: int
    passages: list[list[Json]]
    gaps: list[Gap]
    found: list[Candidate]
    troubles: list[Trouble]
    language: str
    speech: str
    sure_from: float
    panels: int
    pages: int
    parts: int


class ReferenceEdit(TypedDict):
    revision: NotRequired[int | None]
    name: NotRequired[str]
    costume: NotRequired[str]
    weight: NotRequired[float]
    view: NotRequired[Literal['', 'front', 'three-quarter', 'profile', 'back', 'expression', 'detail']]
    anchor: NotRequired[bool]
    position: NotRequired[float]


class ReferenceRow(TypedDict):
    id: str
    revision: int
    thread_id: str
    picture_sha: str
    name: str
    costume: str
    weight: float
    position: float
    view: Literal['', 'front', 'three-quarter', 'profile', 'back', 'expression', 'detail']
    anchor: bool
    replaces_id: str | None
    from_shot_id: str | None


class RemakeIn(TypedDict):
    """How a take is made again: how many, by whom, how good, with the same seed, with one phrase changed, from the picture itself."""

    count: NotRequired[int]
    service_id: NotRequired[str | None]
    model: NotRequired[str]
    quality: NotRequired[Literal['draft', 'final']]
    same_seed: NotRequired[bool]
    key: NotRequired[str | None]
    now: NotRequired[str]
    from_picture: NotRequired[bool]


class RemarksTaken(TypedDict):
    """How many annotations became comments, how many were here already, and why others were left out."""

    taken: int
    known: int
    left_out: list[str]


class Rescue(TypedDict):
    """A crop in px of the picture; `left` is the part of its area that is left, `dpi` what it has at the print width (None: no width given), `closer`"""

    box: Box
    left: float
    dpi: float | None
    closer: float
    size: str
    cut: list[str]
    cost: float


class RescueOffer(TypedDict):
    """Crops that rescue a take, the least costly first; `why` says why there is none."""

    crops: list[Rescue]
    why: str
    border: bool


class Retouched(TypedDict):
    """A picture that was changed elsewhere, already taken in; without an area it was grown beyond its edges."""

    sha: str
    name: str
    area: NotRequired[AreaRow | None]


class Review(TypedDict):
    """All that the check found, in groups, the weightiest first; and the bands that were learned."""

    groups: list[ReviewGroup]
    bands: list[LearnedBand]


class ReviewGroup(TypedDict):
    """Findings with one cause, by key, the weightiest first: what they have in common in words, and what would mend them all."""

    cause: Literal['reference', 'service', 'scene', 'costume', 'picture', 'thread', 'alone']
    title: str
    why: str
    advice: str
    keys: list[str]
    weight: float


class RoleOf(TypedDict):
    role: Literal['reviewer', 'illustrator', 'owner']


class Round(TypedDict):
    """Where the taste rounds stand: the pair to choose from (None: too few pictures), choices so far, and the ranking."""

    left: str | None
    right: str | None
    chosen: int
    skipped: int
    ranking: list[Placed]


class Rows(TypedDict):
    """Rows by table; a table that is left out did not change."""

    project: list[ProjectRow]
    text_part: list[TextPartRow]
    beat: list[BeatRow]
    scene: list[SceneRow]
    shot: list[ShotRow]
    thread: list[ThreadRow]
    reference: list[ReferenceRow]
    trait: list[TraitRow]
    bead: list[BeadRow]
    take: list[TakeRow]
    mark: list[MarkRow]
    fault_mark: list[FaultMarkRow]
    service: list[ServiceRow]
    trial: list[TrialRow]
    sound: list[SoundRow]
    stet: list[StetRow]
    library_picture: list[LibraryPictureRow]
    duel: list[DuelRow]


class SceneLight(TypedDict):
    """A common light: gains of linear red, green and blue; then a fade, by factors of saturation and contrast."""

    gain: list[Json]
    saturation: float
    contrast: float


class SceneRow(TypedDict):
    id: str
    revision: int
    position: float
    title: str


class SceneTime(TypedDict):
    target_s: float


class SceneTitle(TypedDict):
    title: str
    revision: NotRequired[int | None]


class Score(TypedDict):
    """How one thing stands: `of` is a thread's id or a technical fault; `value` is relative, 1 is the edge of tolerance (None: it was not seen);"""

    of: str
    value: float | None
    verdict: Literal['holds', 'doubtful', 'drifts', 'swapped', 'unseen']
    says: list[str]


class SecondOffer(TypedDict):
    """What is to be brought into an app: by hand as letters, as an address, or as a square code, whose rows are of 1 (dark) and 0."""

    secret: str
    address: str
    square: list[str]


class SecondStanding(TypedDict):
    """Whether an account has a second factor, and how many spare codes are left."""

    on: bool
    spare_left: int


class SeenSound(TypedDict):
    revision: NotRequired[int | None]


class SentIn(TypedDict):
    shot_ids: list[str]
    profile: NotRequired[str | None]


class ServiceEdit(TypedDict):
    name: NotRequired[str]
    address: NotRequired[str]
    revision: NotRequired[int | None]


class ServiceRow(TypedDict):
    id: str
    revision: int
    name: str
    address: str
    position: float


class ServiceSaid(TypedDict):
    """What a service can do."""

    name: str
    version: Literal[1]
    models: list[ModelSaid]
    jobs_at_once: int


class ServiceView(TypedDict):
    """What is known of a service beside its row: whether a token is kept, what it can do (None: not asked yet), what is wrong with it, and how"""

    service_id: str
    has_token: bool
    can: ServiceSaid | None
    trouble: str
    rests_until: str | None
    asked_at: str | None


class ShapeRow(TypedDict):
    """A form drawn on a picture, its points as parts of width and height; a brush has a radius (a part of the longer side). What is rubbed is taken"""

    kind: Literal['brush', 'outline', 'box']
    points: list[list[Json]]
    radius: NotRequired[float]
    rubbed: NotRequired[bool]


class ShotBrief(TypedDict):
    """One shot's brief as it would go out: before and after fitting, with what is to look at in it."""

    shot_id: str
    number: str
    whole: Brief
    fitted: Fitted
    text: str
    profile: Profile
    findings: list[Finding]
    motion: list[MotionField]
    motion_text: str


class ShotCopy(TypedDict):
    facts: ShotEdit
    threads: NotRequired[list[ThreadCopy]]


class ShotEdit(TypedDict):
    """Facts to change; `revision` is the one the editor saw."""

    revision: NotRequired[int | None]
    shows: NotRequired[str]
    size: NotRequired[Literal['EWS', 'WS', 'MWS', 'MS', 'MCU', 'CU', 'ECU']]
    angle: NotRequired[Literal['eye level', 'high', 'low', "bird's eye", "worm's eye", 'over the shoulder', 'point of view', 'tilted']]
    move: NotRequired[Literal['static', 'pan', 'tilt', 'push in', 'pull out', 'arc', 'track', 'crane']]
    length_s: NotRequired[float]
    spoken: NotRequired[str]
    speakers: NotRequired[list[str]]
    motion: NotRequired[str]
    move_start: NotRequired[list[Json] | None]
    move_end: NotRequired[list[Json] | None]
    sound: NotRequired[str]
    music: NotRequired[str]
    notes: NotRequired[str]
    page_form: NotRequired[Literal['half', 'single', 'spread']]
    bleed: NotRequired[bool]
    sketch_sha: NotRequired[str | None]
    guide_strength: NotRequired[float]
    aspect: NotRequired[str]
    donts: NotRequired[list[str]]
    seed: NotRequired[int | None]
    join: NotRequired[Literal['cut', 'dissolve', 'fade']]
    join_s: NotRequired[float]
    words_at: NotRequired[list[Json] | None]
    words_tone: NotRequired[Literal['', 'dark', 'light']]
    surprise: NotRequired[bool]
    lost: NotRequired[Literal['']]


class ShotIds(TypedDict):
    shot_ids: list[str]


class ShotLines(TypedDict):
    """The lines of a shot, and how long it takes until all of its voice is said, in s; 0 without one."""

    shot_id: str
    lines: list[LineView]
    said_s: float


class ShotOffer(TypedDict):
    """What an order means for a shot: its price, and what preflight holds it back for, in words (none: it can go)."""

    shot_id: str
    number: str
    credits: float
    held_back: list[str]
    left_out: list[str]


class ShotPlanned(TypedDict):
    """What a shot needs: seconds for its words and deeds, how many of its seconds are spoken and told (the rest is only"""

    shot_id: str
    words_s: float
    spoken_s: float
    told_s: float
    moving: list[MovingWords]
    also: list[str]


class ShotRow(TypedDict):
    id: str
    revision: int
    scene_id: str
    position: float
    shows: str
    size: Literal['EWS', 'WS', 'MWS', 'MS', 'MCU', 'CU', 'ECU']
    angle: Literal['eye level', 'high', 'low', "bird's eye", "worm's eye", 'over the shoulder', 'point of view', 'tilted']
    move: Literal['static', 'pan', 'tilt', 'push in', 'pull out', 'arc', 'track', 'crane']
    length_s: float
    spoken: str
    speakers: list[str]
    start_part_id: str | None
    start_at: int | None
    end_part_id: str | None
    end_at: int | None
    lost: str
    status: Literal['settled', 'proposed']
    why: str
    sure: float
    time: str
    motion: str
    move_start: list[Json] | None
    move_end: list[Json] | None
    sound: str
    music: str
    notes: str
    page_form: Literal['half', 'single', 'spread']
    bleed: bool
    framings: list[FramingRow]
    sketch_sha: str | None
    guide_strength: float
    aspect: str
    donts: list[str]
    brief_edits: list[EditRow]
    seed: int | None
    join: Literal['cut', 'dissolve', 'fade']
    join_s: float
    words_at: list[Json] | None
    words_tone: Literal['', 'dark', 'light']
    surprise: bool
    bridge: bool


class ShotsEdit(TypedDict):
    """`revisions` of the shots by id, as the editor saw them."""

    shot_ids: list[str]
    values: ShotEdit
    revisions: NotRequired[dict[str, Json]]


class ShotsPaste(TypedDict):
    after_shot_id: NotRequired[str | None]
    shots: list[ShotCopy]


class ShowingCard(TypedDict):
    """A showing: its link is told once, when it is made."""

    id: str
    title: str
    words: str
    made_by: str
    made_at: str
    ends_at: str
    state: str
    has_passphrase: bool
    edition: int
    frozen_at: str
    behind: bool
    viewers: list[str]
    notes: list[NoteView]
    verdicts: list[WordView]
    signs: list[SignView]


class Shown(TypedDict):
    """What a viewer sees: the frozen state, what was said of it, and what changed since their last look."""

    title: str
    words: str
    made_by: str
    edition: int
    frozen_at: str
    ends_at: str
    name: str
    sequence: Frozen
    has_sound: bool
    changed: dict[str, list[str]]
    since: int
    notes: list[NoteView]
    verdicts: list[WordView]
    signs: list[SignView]


class SideTold(TypedDict):
    """How what was added on one side matches the rest, in words."""

    words: str
    matches: bool


class SignInOf(TypedDict):
    login: str
    password: str
    code: NotRequired[str]


class SignOff(TypedDict):
    name: NotRequired[str]
    words: NotRequired[str]


class SignView(TypedDict):
    """A signing off."""

    name: str
    words: str
    edition: int
    at: str


class Sketch(TypedDict):
    sha: NotRequired[str | None]


class SnapshotOut(TypedDict):
    """Everything of a project as it was at `version`."""

    project_id: str
    version: int
    rows: Rows
    pictures: list[PictureRow]
    undo_label: str | None
    redo_label: str | None


class SomeShots(TypedDict):
    """Some shots, or all of them when left out."""

    shot_ids: NotRequired[list[str] | None]


class SomeTakes(TypedDict):
    take_ids: list[str]


class SoundEdit(TypedDict):
    """What of a sound is to be other than it is; what is left out stays."""

    shot_id: NotRequired[str | None]
    name: NotRequired[str | None]
    kind: NotRequired[Literal['voice', 'music', 'effect'] | None]
    thread_id: NotRequired[str | None]
    line: NotRequired[str | None]
    start_s: NotRequired[float | None]
    from_s: NotRequired[float | None]
    to_s: NotRequired[float | None]
    until_shot_id: NotRequired[str | None]
    gain_db: NotRequired[float | None]
    fade_in_s: NotRequired[float | None]
    fade_out_s: NotRequired[float | None]
    revision: NotRequired[int | None]


class SoundHeard(TypedDict):
    """A sound as it lies: how long after its shot it begins, how long its recording is, where in that something is heard, and its highest sample."""

    id: str
    begins_s: float
    seconds: float
    peak: float
    heard: list[list[Json]]


class SoundNote(TypedDict):
    """Something wrong: its kind, the shot and moment (s of the whole), the sounds it is about, what and what to do, and what would mend it."""

    kind: Literal['clips', 'over', 'together', 'longer', 'cut off', 'silent', 'edge', 'unsaid', 'other words', 'hush']
    shot: str
    at_s: float
    sounds: list[str]
    title: str
    advice: str
    mend: Literal['', 'give time', 'take the silence off', 'turn down', 'record']


class SoundRow(TypedDict):
    id: str
    revision: int
    shot_id: str
    sound_sha: str
    name: str
    kind: Literal['voice', 'music', 'effect']
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


class SoundTrack(TypedDict):
    """All that sounds: sounds as they lie, lines by shot, and what is wrong."""

    sounds: list[SoundHeard]
    shots: list[ShotLines]
    notes: list[SoundNote]


class SpareCodes(TypedDict):
    """Codes that open once each, in the place of one from the app; they are told this once."""

    codes: list[str]


class SpotStatus(TypedDict):
    """How looking goes: pictures looked through, of how many; `message` is empty when nothing is wrong."""

    done: int
    total: int
    message: str


class Standing(TypedDict):
    """What is said of one figure: found, doubtful or absent (which is never sure: it may be half hidden), where unless it is absent,"""

    figure: str
    answer: Literal['found', 'doubtful', 'absent']
    box: Box | None
    odds: float
    rival: str | None


class StandingIn(TypedDict):
    take_ids: list[str]
    standing: Literal['', 'kept', 'out']


class Standings(TypedDict):
    """What is proposed in some takes, and how many takes have not been looked through yet."""

    takes: list[TakeStandings]
    unseen: int
    status: SpotStatus


class Steered(TypedDict):
    jobs: int


class Steering(TypedDict):
    """What to do, with which jobs; with all that it can be done with when none are named."""

    deed: Literal['pause', 'resume', 'cancel', 'up', 'again', 'approve', 'dismiss']
    job_ids: NotRequired[list[str] | None]


class Step(TypedDict):
    step: Literal[-1, 1]


class StetRow(TypedDict):
    id: str
    revision: int
    finding_key: str
    reason: str
    verdict: Literal['stet', 'retake']
    thread_id: str | None
    term: str
    departure: float


class Stretch(TypedDict):
    """A stretch of the text in characters, and the text's revision that it is of; all of it when left out."""

    start: NotRequired[int | None]
    end: NotRequired[int | None]
    seen: NotRequired[int | None]


class StyleTrial(TypedDict):
    """A style tried: each of its pictures, and its words."""

    pictures: list[Tried]
    vocabulary: Vocabulary
    proposed: list[StyleWord]


class StyleWord(TypedDict):
    """A word for a style and what says so, in words with numbers."""

    word: str
    because: str


class Swatch(TypedDict):
    hex: str
    share: float


class SyntaxIn(TypedDict):
    syntax: Literal['prose', 'fountain']


class Tagging(TypedDict):
    ids: list[str]
    add: NotRequired[list[str]]
    remove: NotRequired[list[str]]


class TakeGroup(TypedDict):
    """Takes that were made from the same: what sets them apart in words, by whom, and the take that they come from (None: from the brief)."""

    title: str
    detail: str
    parent_id: str | None
    take_ids: list[str]


class TakeLight(TypedDict):
    """The light of the scene in a take, and in words."""

    take_id: str
    light: SceneLight
    words: str


class TakeOrigin(TypedDict):
    """How a take came about: made by a service, cropped from its parent, its parent with an area changed, or grown beyond its edges; brought by the"""

    made: RulesMade | None
    crop: CroppedTo | None
    edit: EditInShort | None
    grown: bool


class TakeReading(TypedDict):
    """All scores of a take; `worst` is the highest of them, to sort by."""

    take: str
    figures: list[Score]
    style: Score | None
    technical: list[Score]
    worst: float


class TakeRow(TypedDict):
    id: str
    revision: int
    shot_id: str
    picture_sha: str
    name: str
    picked: bool
    position: float
    not_here: list[str]
    standing: Literal['', 'kept', 'out']
    parent_id: str | None
    made_from: TakeOrigin
    trim: list[Json] | None
    first_sha: str | None
    last_sha: str | None


class TakeStandings(TypedDict):
    """What waits for the user's word in a take: a proposal for every assigned figure that is neither marked nor refused."""

    take_id: str
    figures: list[Standing]


class TakenIn(TypedDict):
    """A file that came in: its stored picture and what became of it on the way, or why it was refused."""

    name: str
    sha: str | None
    width: int
    height: int
    refused: str
    told: str


class Text(TypedDict):
    """The text as typed; `seen` is the text's revision that the editor saw."""

    text: str
    seen: NotRequired[int | None]


class TextPartRow(TypedDict):
    """Some lines of the story's text; joined in their order they are the text."""

    id: str
    revision: int
    position: float
    words: str


class TheseTakes(TypedDict):
    take_ids: NotRequired[list[str] | None]


class ThreadCopy(TypedDict):
    kind: Literal['character', 'setting', 'style', 'prop']
    name: str
    bead: NotRequired[BeadCopy]


class ThreadEdit(TypedDict):
    revision: NotRequired[int | None]
    name: NotRequired[str]
    aliases: NotRequired[list[str]]
    wording: NotRequired[str]
    short_wording: NotRequired[str]
    must_keep: NotRequired[list[str]]
    owner_id: NotRequired[str | None]
    costumes: NotRequired[list[CostumeRow]]
    vocabulary: NotRequired[list[str]]
    donts: NotRequired[list[str]]
    tones: NotRequired[list[ToneRow]]
    kept_colours: NotRequired[list[KeptColour]]


class ThreadRow(TypedDict):
    id: str
    revision: int
    kind: Literal['character', 'setting', 'style', 'prop']
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


class ThreadSummary(TypedDict):
    """How a thread stands: shots measured, and where a lasting change begins."""

    thread_id: str
    measured: int
    begins: str | None


class ToStyle(TypedDict):
    thread_id: str
    tag: NotRequired[str]


class TokenCard(TypedDict):
    """A token as its owner sees it; what it is was shown once."""

    id: str
    name: str
    scope: Literal['read', 'write']
    project_id: str | None
    project: str
    made_at: str
    ends_at: str
    used_at: str | None


class TokenIn(TypedDict):
    token: str


class ToneRow(TypedDict):
    """A colour of a style's palette with its role."""

    hex: str
    role: Literal['lead', 'other', 'ground']


class TooLoud(TypedDict):
    """A moment of the whole at which the sounds are too loud together."""

    at_s: float


class TrackTold(TypedDict):
    """How something drifts along a clip: for each measured frame, relative (1 is the edge); from when on it slips, in s, and what slips, with the colour that a part"""

    thread_id: str | None
    name: str
    drift: list[float]
    begins_s: float | None
    still: float | None
    kind: Literal['', 'person', 'colour', 'colours', 'pale', 'loud', 'hand']
    was: str
    now: str
    leaves_s: float | None
    boxes: list[list[Json]]


class TraitEdit(TypedDict):
    revision: NotRequired[int | None]
    name: NotRequired[str]
    part: NotRequired[Literal['figure', 'face', 'outfit']]
    colours: NotRequired[list[str]]
    outline: NotRequired[list[list[Json]] | None]
    tolerance: NotRequired[float | None]
    free: NotRequired[bool]
    body_x: NotRequired[float | None]
    body_y: NotRequired[float | None]
    x: NotRequired[float]
    y: NotRequired[float]
    w: NotRequired[float]
    h: NotRequired[float]


class TraitReading(TypedDict):
    """A trait in one appearance. Colours as hex; `difference` CIEDE2000; shares of the figure 0..1; `region` is where"""

    name: str
    verdict: Literal['holds', 'changed', 'missing', 'not_seen']
    expected: list[str]
    seen: str | None
    difference: float | None
    allowed: float
    share_expected: float
    share_seen: float
    region: Box
    laid: PartStep | None
    alone: int
    again: float
    again_at: Box | None


class TraitRow(TypedDict):
    id: str
    revision: int
    thread_id: str
    reference_id: str
    name: str
    part: Literal['figure', 'face', 'outfit']
    colours: list[str]
    x: float
    y: float
    w: float
    h: float
    position: float
    outline: list[list[Json]] | None
    tolerance: float | None
    free: bool
    body_x: float | None
    body_y: float | None


class TrialBegun(TypedDict):
    trial_id: str
    job_ids: list[str]
    changed: ChangedOut


class TrialIn(TypedDict):
    axes: list[AxisIn]
    seeds: NotRequired[int]
    service_id: str
    model: NotRequired[str]
    quality: NotRequired[Literal['draft', 'final']]
    about_thread_id: NotRequired[str | None]


class TrialRow(TypedDict):
    id: str
    revision: int
    shot_id: str
    axes: list[AxisRow]
    seeds: list[int]
    thread_id: str | None
    position: float


class TrialView(TypedDict):
    """A trial as it stands: its cells, what each measure shows, and how many takes are still to come or to be measured."""

    trial_id: str
    title: str
    cells: list[CellView]
    measures: list[MeasuredView]
    coming: int
    waiting: int


class Tried(TypedDict):
    """What one picture does to its style, in words."""

    reference_id: str
    distance: float
    shift: float
    odd: bool
    terms: list[str]


class Trim(TypedDict):
    """A proposal for one shot: from its length to another, never below what its words need."""

    shot: str
    length_s: float
    proposed_s: float


class TrimIn(TypedDict):
    """From when to when a clip is shown, in s; none: all of it."""

    part: NotRequired[list[Json] | None]
    revision: NotRequired[int | None]


class Trouble(TypedDict):
    """Something in a text that does not hold together: its line (from 1) and what to do."""

    line: int
    message: str


class Typed(TypedDict):
    """Characters of the text from `at` on that give way to others, and the text's revision that the place is of."""

    at: int
    gone: int
    put: str
    seen: int


class UnderLoupe(TypedDict):
    """What the loupe reads in one picture: its colour, and the colour without the light of its scene where that is known (both None outside the"""

    hex: str | None
    even_hex: str | None
    apart: float | None
    words: str
    even_apart: float | None
    even_words: str


class Unlearned(TypedDict):
    """A term whose band is left as it was, whatever was decided: a thread's id (empty: the sequence's own) and what of it."""

    thread_id: str
    term: str


class Use(TypedDict):
    """Where a picture is used: as what (`reference`, `take`, `guide`), of which thread or shot, in words."""

    what: str
    id: str
    words: str


class Varied(TypedDict):
    key: str
    now: str


class Vocabulary(TypedDict):
    """How a style's words stand: their number against the fewest and most that serve, and why they may not."""

    count: int
    fewest: int
    most: int
    verdict: str


class Wanted(TypedDict):
    kind: Literal['character', 'setting', 'prop']
    name: str


class WantedThreads(TypedDict):
    threads: list[Wanted]


class WinnerIn(TypedDict):
    at: list[int]
    everywhere: NotRequired[bool]


class WordIn(TypedDict):
    says: Literal['good', 'change'] | None
    name: NotRequired[str]


class WordView(TypedDict):
    """One word about a shot, and the edition that it was said of."""

    shot_id: str
    name: str
    says: str
    edition: int


class WordsAt(TypedDict):
    """Words in a brief: characters `start` to `end` of a phrase. `shared` tells that they come with a thread (its fixed wording,"""

    phrase: str
    start: NotRequired[int]
    end: NotRequired[int]
    text: NotRequired[str]
    shared: NotRequired[bool]


class RulesMade(TypedDict):
    """How a service made a picture: which one, with what model, quality and seed, what it cost; `trial` is the trial and the cell that it"""

    job_id: str
    service_id: str
    service: str
    model: str
    quality: Literal['draft', 'final']
    seed: int
    credits: float
    trial_id: str | None
    cell: list[int]


class BriefsReplacement(TypedDict):
    """The new picture, and the shot from which it holds (null: everywhere)."""

    sha: str
    name: NotRequired[str]
    from_shot_id: NotRequired[str | None]


class ProjectsMade(TypedDict):
    id: str


class TakesReplacement(TypedDict):
    sha: str
    name: str


class Api(Calls):
    """A running Juxtaform, route by route."""

    def get_projects_bundle_zip(self, project_id: str) -> bytes:
        """The whole project as one open bundle."""
        return self._asked("GET", "/api/projects/{project_id}/bundle.zip", {"project_id": project_id})

    def post_bundles(self, file: FileIn) -> ProjectsMade:
        """Take in a bundle as a project."""
        return self._asked("POST", "/api/bundles", {}, form={"file": file})

    def get_projects(self) -> list[ProjectCard]:
        """All projects, newest first."""
        return self._asked("GET", "/api/projects", {})

    def post_projects(self, body: NewProject) -> ProjectsMade:
        """A new project."""
        return self._asked("POST", "/api/projects", {}, body=body)

    def get_projects_one(self, project_id: str, *, picked_alone: bool | None = None) -> SnapshotOut:
        """Everything of a project."""
        return self._asked("GET", "/api/projects/{project_id}", {"project_id": project_id}, query={"picked_alone": picked_alone})

    def patch_projects_one(self, project_id: str, body: ProjectEdit) -> ChangedOut:
        """Rename a project or set its target length."""
        return self._asked("PATCH", "/api/projects/{project_id}", {"project_id": project_id}, body=body)

    def delete_projects_one(self, project_id: str) -> None:
        """Delete a project."""
        self._asked("DELETE", "/api/projects/{project_id}", {"project_id": project_id})

    def get_projects_others(self, project_id: str) -> OthersOut:
        """The takes that are not picked, with their marks and pictures."""
        return self._asked("GET", "/api/projects/{project_id}/others", {"project_id": project_id})

    def get_projects_changes(self, project_id: str, after: int) -> ChangedOut:
        """All that happened after a version, as one change."""
        return self._asked("GET", "/api/projects/{project_id}/changes", {"project_id": project_id}, query={"after": after})

    def post_projects_undo(self, project_id: str) -> ChangedOut:
        """Take back the latest change."""
        return self._asked("POST", "/api/projects/{project_id}/undo", {"project_id": project_id})

    def post_projects_redo(self, project_id: str) -> ChangedOut:
        """Make the latest undone change again."""
        return self._asked("POST", "/api/projects/{project_id}/redo", {"project_id": project_id})

    def get_projects_history(self, project_id: str) -> list[HistoryEntry]:
        """The latest changes, newest first."""
        return self._asked("GET", "/api/projects/{project_id}/history", {"project_id": project_id})

    def post_projects_history_one(self, project_id: str, change_id: str) -> ChangedOut:
        """Go back (or forth) to the state after a change."""
        return self._asked("POST", "/api/projects/{project_id}/history/{change_id}", {"project_id": project_id, "change_id": change_id})

    def put_projects_here(self, project_id: str, body: At) -> list[Here]:
        """Say in which view and at which shot a window is; who is where comes back."""
        return self._asked("PUT", "/api/projects/{project_id}/here", {"project_id": project_id}, body=body)

    def get_projects_story(self, project_id: str) -> Reading:
        """What the text is made of: passages, words in no shot, who and what it names."""
        return self._asked("GET", "/api/projects/{project_id}/story", {"project_id": project_id})

    def put_projects_text(self, project_id: str, body: Text) -> ChangedOut:
        """Keep the text as it is typed; every shot follows its words."""
        return self._asked("PUT", "/api/projects/{project_id}/text", {"project_id": project_id}, body=body)

    def patch_projects_text(self, project_id: str, body: Typed) -> ChangedOut:
        """Keep what was typed at a place of the text; every shot follows its words."""
        return self._asked("PATCH", "/api/projects/{project_id}/text", {"project_id": project_id}, body=body)

    def post_projects_text_file(self, project_id: str, file: FileIn) -> ChangedOut:
        """A text file becomes the story's text."""
        return self._asked("POST", "/api/projects/{project_id}/text/file", {"project_id": project_id}, form={"file": file})

    def get_projects_text_file(self, project_id: str) -> bytes:
        """The text as it came in, with its encoding and line ends."""
        return self._asked("GET", "/api/projects/{project_id}/text/file", {"project_id": project_id})

    def put_projects_text_syntax(self, project_id: str, body: SyntaxIn) -> ChangedOut:
        """Say whether the text is prose or Fountain."""
        return self._asked("PUT", "/api/projects/{project_id}/text/syntax", {"project_id": project_id}, body=body)

    def post_projects_proposals(self, project_id: str, body: Stretch) -> ChangedOut:
        """Propose shots for the words that no settled shot covers."""
        return self._asked("POST", "/api/projects/{project_id}/proposals", {"project_id": project_id}, body=body)

    def post_projects_proposals_accept(self, project_id: str, body: Accepted) -> ChangedOut:
        """Settle proposed shots."""
        return self._asked("POST", "/api/projects/{project_id}/proposals/accept", {"project_id": project_id}, body=body)

    def put_projects_shots_span(self, project_id: str, shot_id: str, body: Covered) -> ChangedOut:
        """Say which words a shot covers."""
        return self._asked("PUT", "/api/projects/{project_id}/shots/{shot_id}/span", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_found(self, project_id: str, body: WantedThreads) -> ChangedOut:
        """Make threads of what the text names."""
        return self._asked("POST", "/api/projects/{project_id}/found", {"project_id": project_id}, body=body)

    def post_projects_frame(self, project_id: str, body: FrameWanted) -> ChangedOut:
        """Draw up a story frame from premise, tone and cast."""
        return self._asked("POST", "/api/projects/{project_id}/frame", {"project_id": project_id}, body=body)

    def post_projects_beats(self, project_id: str, body: AfterBeat) -> ChangedOut:
        """An empty beat."""
        return self._asked("POST", "/api/projects/{project_id}/beats", {"project_id": project_id}, body=body)

    def patch_projects_beats_one(self, project_id: str, beat_id: str, body: BeatEdit) -> ChangedOut:
        """Change a beat."""
        return self._asked("PATCH", "/api/projects/{project_id}/beats/{beat_id}", {"project_id": project_id, "beat_id": beat_id}, body=body)

    def delete_projects_beats_one(self, project_id: str, beat_id: str) -> ChangedOut:
        """Drop a beat."""
        return self._asked("DELETE", "/api/projects/{project_id}/beats/{beat_id}", {"project_id": project_id, "beat_id": beat_id})

    def post_projects_beats_move(self, project_id: str, beat_id: str, body: BeatStep) -> ChangedOut:
        """Move a beat up or down."""
        return self._asked("POST", "/api/projects/{project_id}/beats/{beat_id}/move", {"project_id": project_id, "beat_id": beat_id}, body=body)

    def get_projects_frame_text(self, project_id: str) -> FrameText:
        """The frame as a text to write on."""
        return self._asked("GET", "/api/projects/{project_id}/frame/text", {"project_id": project_id})

    def post_projects_beats_offers(self, project_id: str, beat_id: str) -> Offers:
        """Words for a beat, from the writing service."""
        return self._asked("POST", "/api/projects/{project_id}/beats/{beat_id}/offers", {"project_id": project_id, "beat_id": beat_id})

    def post_projects_shots_offers(self, project_id: str, shot_id: str) -> Offers:
        """Words for a description, from the writing service."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/offers", {"project_id": project_id, "shot_id": shot_id})

    def post_projects_pages(self, project_id: str, file: FileIn, *, sort: str | None = None, direction: str | None = None) -> FoundPanels:
        """Find the panels of a photographed page, or the views on a sheet."""
        return self._asked("POST", "/api/projects/{project_id}/pages", {"project_id": project_id}, form={"file": file, "sort": sort, "direction": direction})

    def post_projects_pages_shots(self, project_id: str, body: PanelsTaken) -> ChangedOut:
        """Make a shot of each panel, with its sketch."""
        return self._asked("POST", "/api/projects/{project_id}/pages/shots", {"project_id": project_id}, body=body)

    def post_projects_pages_references(self, project_id: str, body: PanelsTaken) -> ChangedOut:
        """Make a reference of each view."""
        return self._asked("POST", "/api/projects/{project_id}/pages/references", {"project_id": project_id}, body=body)

    def post_projects_shots_stands(self, project_id: str, shot_id: str) -> ChangedOut:
        """Look for the cast of a shot on its layout guide."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/stands", {"project_id": project_id, "shot_id": shot_id})

    def put_projects_shots_sketch(self, project_id: str, shot_id: str, body: Sketch) -> ChangedOut:
        """Give a shot a sketch, or take it away."""
        return self._asked("PUT", "/api/projects/{project_id}/shots/{shot_id}/sketch", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def get_projects_table_columns(self, project_id: str) -> list[ColumnOut]:
        """The columns that a table can have."""
        return self._asked("GET", "/api/projects/{project_id}/table/columns", {"project_id": project_id})

    def get_projects_table_csv(self, project_id: str) -> bytes:
        """The shot list as CSV."""
        return self._asked("GET", "/api/projects/{project_id}/table.csv", {"project_id": project_id})

    def get_projects_table_tsv(self, project_id: str) -> bytes:
        """The shot list as cells for a spreadsheet."""
        return self._asked("GET", "/api/projects/{project_id}/table.tsv", {"project_id": project_id})

    def get_projects_table_pdf(self, project_id: str) -> bytes:
        """The shot list to print, with pictures."""
        return self._asked("GET", "/api/projects/{project_id}/table.pdf", {"project_id": project_id})

    def post_projects_table(self, project_id: str, body: Cells) -> ChangedOut:
        """Change shots by pasted cells."""
        return self._asked("POST", "/api/projects/{project_id}/table", {"project_id": project_id}, body=body)

    def post_projects_table_file(self, project_id: str, file: FileIn, *, mend: bool | None = None) -> ChangedOut:
        """Change shots by a CSV file."""
        return self._asked("POST", "/api/projects/{project_id}/table/file", {"project_id": project_id}, query={"mend": mend}, form={"file": file})

    def post_projects_scenes(self, project_id: str, body: SceneTitle) -> ChangedOut:
        """A new scene at the end."""
        return self._asked("POST", "/api/projects/{project_id}/scenes", {"project_id": project_id}, body=body)

    def patch_projects_scenes_one(self, project_id: str, scene_id: str, body: SceneTitle) -> ChangedOut:
        """Rename a scene."""
        return self._asked("PATCH", "/api/projects/{project_id}/scenes/{scene_id}", {"project_id": project_id, "scene_id": scene_id}, body=body)

    def patch_projects_shots_one(self, project_id: str, shot_id: str, body: ShotEdit) -> ChangedOut:
        """Change facts of a shot."""
        return self._asked("PATCH", "/api/projects/{project_id}/shots/{shot_id}", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_shots_insert(self, project_id: str, shot_id: str) -> ChangedOut:
        """An empty shot after this one."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/insert", {"project_id": project_id, "shot_id": shot_id})

    def post_projects_shots_delete(self, project_id: str, body: ShotIds) -> ChangedOut:
        """Delete shots."""
        return self._asked("POST", "/api/projects/{project_id}/shots/delete", {"project_id": project_id}, body=body)

    def post_projects_shots_move(self, project_id: str, shot_id: str, body: Step) -> ChangedOut:
        """Move a shot up or down."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/move", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_shots_split(self, project_id: str, shot_id: str, body: Cut) -> ChangedOut:
        """Split a shot in two."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/split", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_shots_merge_up(self, project_id: str, shot_id: str) -> ChangedOut:
        """Merge a shot into the one before it."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/merge-up", {"project_id": project_id, "shot_id": shot_id})

    def post_projects_shots_to_motion(self, project_id: str, shot_id: str) -> ChangedOut:
        """Move what no still can show to the motion note."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/to-motion", {"project_id": project_id, "shot_id": shot_id})

    def get_projects_shots_framings(self, project_id: str, shot_id: str) -> list[Framing]:
        """Other ways to look at a shot's moment."""
        return self._asked("GET", "/api/projects/{project_id}/shots/{shot_id}/framings", {"project_id": project_id, "shot_id": shot_id})

    def put_projects_shots_framings(self, project_id: str, shot_id: str, body: KeptFramings) -> ChangedOut:
        """Keep framings beside a shot, and pick one."""
        return self._asked("PUT", "/api/projects/{project_id}/shots/{shot_id}/framings", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_plan_time(self, project_id: str, body: SomeShots) -> ChangedOut:
        """Set lengths from the words at the project's pace."""
        return self._asked("POST", "/api/projects/{project_id}/plan/time", {"project_id": project_id}, body=body)

    def post_projects_plan_fit(self, project_id: str) -> ChangedOut:
        """Set the lengths that meet the target as nearly as the words allow."""
        return self._asked("POST", "/api/projects/{project_id}/plan/fit", {"project_id": project_id})

    def post_projects_threads(self, project_id: str, body: NewThread) -> ChangedOut:
        """A new thread."""
        return self._asked("POST", "/api/projects/{project_id}/threads", {"project_id": project_id}, body=body)

    def patch_projects_threads_one(self, project_id: str, thread_id: str, body: ThreadEdit) -> ChangedOut:
        """Change a thread's names, wording or kept colours."""
        return self._asked("PATCH", "/api/projects/{project_id}/threads/{thread_id}", {"project_id": project_id, "thread_id": thread_id}, body=body)

    def delete_projects_threads_one(self, project_id: str, thread_id: str) -> ChangedOut:
        """Delete a thread."""
        return self._asked("DELETE", "/api/projects/{project_id}/threads/{thread_id}", {"project_id": project_id, "thread_id": thread_id})

    def post_projects_threads_references(self, project_id: str, thread_id: str, body: NewReferences) -> ChangedOut:
        """Add stored pictures to a thread."""
        return self._asked("POST", "/api/projects/{project_id}/threads/{thread_id}/references", {"project_id": project_id, "thread_id": thread_id}, body=body)

    def get_projects_threads_palette(self, project_id: str, thread_id: str) -> list[Swatch]:
        """The palette of a thread's pictures, weighed."""
        return self._asked("GET", "/api/projects/{project_id}/threads/{thread_id}/palette", {"project_id": project_id, "thread_id": thread_id})

    def post_projects_threads_palette(self, project_id: str, thread_id: str, file: FileIn) -> ChangedOut:
        """Take in a palette file."""
        return self._asked("POST", "/api/projects/{project_id}/threads/{thread_id}/palette", {"project_id": project_id, "thread_id": thread_id}, form={"file": file})

    def patch_projects_references_one(self, project_id: str, reference_id: str, body: ReferenceEdit) -> ChangedOut:
        """Change a reference's name, costume or weight."""
        return self._asked("PATCH", "/api/projects/{project_id}/references/{reference_id}", {"project_id": project_id, "reference_id": reference_id}, body=body)

    def delete_projects_references_one(self, project_id: str, reference_id: str) -> ChangedOut:
        """Delete a reference."""
        return self._asked("DELETE", "/api/projects/{project_id}/references/{reference_id}", {"project_id": project_id, "reference_id": reference_id})

    def post_projects_references_colours(self, project_id: str, reference_id: str, body: PlaceIn) -> list[Swatch]:
        """The main colours inside a box or outline on a reference."""
        return self._asked("POST", "/api/projects/{project_id}/references/{reference_id}/colours", {"project_id": project_id, "reference_id": reference_id}, body=body)

    def post_projects_references_traits(self, project_id: str, reference_id: str, body: NewTrait) -> ChangedOut:
        """A trait on a reference."""
        return self._asked("POST", "/api/projects/{project_id}/references/{reference_id}/traits", {"project_id": project_id, "reference_id": reference_id}, body=body)

    def patch_projects_traits_one(self, project_id: str, trait_id: str, body: TraitEdit) -> ChangedOut:
        """Change a trait."""
        return self._asked("PATCH", "/api/projects/{project_id}/traits/{trait_id}", {"project_id": project_id, "trait_id": trait_id}, body=body)

    def delete_projects_traits_one(self, project_id: str, trait_id: str) -> ChangedOut:
        """Delete a trait."""
        return self._asked("DELETE", "/api/projects/{project_id}/traits/{trait_id}", {"project_id": project_id, "trait_id": trait_id})

    def put_projects_threads_run(self, project_id: str, thread_id: str, body: Assignment) -> ChangedOut:
        """Let a thread run through shots, or clear it from them."""
        return self._asked("PUT", "/api/projects/{project_id}/threads/{thread_id}/run", {"project_id": project_id, "thread_id": thread_id}, body=body)

    def patch_projects_threads_beads(self, project_id: str, thread_id: str, body: BeadEdit) -> ChangedOut:
        """Set hold, weight, costume or view of beads."""
        return self._asked("PATCH", "/api/projects/{project_id}/threads/{thread_id}/beads", {"project_id": project_id, "thread_id": thread_id}, body=body)

    def get_projects_threads_fitness(self, project_id: str, thread_id: str) -> list[Fit]:
        """Why references of a thread cannot serve well."""
        return self._asked("GET", "/api/projects/{project_id}/threads/{thread_id}/fitness", {"project_id": project_id, "thread_id": thread_id})

    def get_projects_threads_trial(self, project_id: str, thread_id: str) -> StyleTrial:
        """A style with and without each of its pictures, and its words."""
        return self._asked("GET", "/api/projects/{project_id}/threads/{thread_id}/trial", {"project_id": project_id, "thread_id": thread_id})

    def get_projects_threads_plate_png(self, project_id: str, thread_id: str, *, side: int | None = None, margin: int | None = None, costume: str | None = None, labels: bool | None = None) -> bytes:
        """A thread's views on one labelled plate."""
        return self._asked("GET", "/api/projects/{project_id}/threads/{thread_id}/plate.png", {"project_id": project_id, "thread_id": thread_id}, query={"side": side, "margin": margin, "costume": costume, "labels": labels})

    def get_projects_threads_model_sheet_in_form(self, project_id: str, thread_id: str, form: str) -> bytes:
        """A thread's model sheet, to print."""
        return self._asked("GET", "/api/projects/{project_id}/threads/{thread_id}/model-sheet.{form}", {"project_id": project_id, "thread_id": thread_id, "form": form})

    def get_projects_threads_palette_in_form(self, project_id: str, thread_id: str, form: str) -> bytes:
        """A thread's palette as a file."""
        return self._asked("GET", "/api/projects/{project_id}/threads/{thread_id}/palette.{form}", {"project_id": project_id, "thread_id": thread_id, "form": form})

    def get_projects_profiles(self, project_id: str) -> list[Profile]:
        """The profiles that briefs can be fitted to."""
        return self._asked("GET", "/api/projects/{project_id}/profiles", {"project_id": project_id})

    def get_projects_shots_brief(self, project_id: str, shot_id: str, *, profile: str | None = None) -> ShotBrief:
        """A shot's brief as it would leave."""
        return self._asked("GET", "/api/projects/{project_id}/shots/{shot_id}/brief", {"project_id": project_id, "shot_id": shot_id}, query={"profile": profile})

    def get_projects_shots_brief_difference(self, project_id: str, shot_id: str, *, other: str | None = None, profile: str | None = None) -> list[Piece]:
        """What differs from another brief, word by word."""
        return self._asked("GET", "/api/projects/{project_id}/shots/{shot_id}/brief/difference", {"project_id": project_id, "shot_id": shot_id}, query={"other": other, "profile": profile})

    def put_projects_shots_brief_phrase(self, project_id: str, shot_id: str, body: PhraseEdit) -> ChangedOut:
        """Edit a phrase of a brief by hand, or take the edit back."""
        return self._asked("PUT", "/api/projects/{project_id}/shots/{shot_id}/brief/phrase", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_shots_brief_mend(self, project_id: str, shot_id: str, body: MendIn) -> ChangedOut:
        """Do what a finding offers."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/brief/mend", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def get_projects_takes_words(self, project_id: str, take_id: str) -> list[list[Json]]:
        """The phrases that a take was made from, as (key, words)."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/words", {"project_id": project_id, "take_id": take_id})

    def post_projects_takes_vary(self, project_id: str, take_id: str, body: Varied) -> ChangedOut:
        """Start again from a take with one phrase changed."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/vary", {"project_id": project_id, "take_id": take_id}, body=body)

    def post_projects_briefs_sent(self, project_id: str, body: SentIn) -> None:
        """Remember briefs that left by the clipboard."""
        self._asked("POST", "/api/projects/{project_id}/briefs/sent", {"project_id": project_id}, body=body)

    def get_projects_briefs_in_form(self, project_id: str, form: str, *, profile: str | None = None, shots: list[str] | None = None) -> bytes:
        """All briefs, or some, as one file."""
        return self._asked("GET", "/api/projects/{project_id}/briefs.{form}", {"project_id": project_id, "form": form}, query={"profile": profile, "shots": shots})

    def get_projects_references_stale(self, project_id: str, reference_id: str, *, from_shot_id: str | None = None) -> list[str]:
        """Shots whose pictures a replacement would make stale."""
        return self._asked("GET", "/api/projects/{project_id}/references/{reference_id}/stale", {"project_id": project_id, "reference_id": reference_id}, query={"from_shot_id": from_shot_id})

    def post_projects_references_replace(self, project_id: str, reference_id: str, body: BriefsReplacement) -> ChangedOut:
        """Put a new version in a reference's place."""
        return self._asked("POST", "/api/projects/{project_id}/references/{reference_id}/replace", {"project_id": project_id, "reference_id": reference_id}, body=body)

    def get_projects_review(self, project_id: str) -> Review:
        """What the check found, in groups with one cause, and the bands that were learned."""
        return self._asked("GET", "/api/projects/{project_id}/review", {"project_id": project_id})

    def post_projects_decisions(self, project_id: str, body: NewDecision) -> ChangedOut:
        """Let findings stand, or put their shots down for a retake, in one step."""
        return self._asked("POST", "/api/projects/{project_id}/decisions", {"project_id": project_id}, body=body)

    def get_projects_continuity_report_pdf(self, project_id: str) -> bytes:
        """The continuity report as PDF."""
        return self._asked("GET", "/api/projects/{project_id}/continuity-report.pdf", {"project_id": project_id})

    def get_projects_continuity_report_html(self, project_id: str) -> bytes:
        """The continuity report as one HTML file."""
        return self._asked("GET", "/api/projects/{project_id}/continuity-report.html", {"project_id": project_id})

    def patch_projects_shots(self, project_id: str, body: ShotsEdit) -> ChangedOut:
        """Set facts of several shots to the same."""
        return self._asked("PATCH", "/api/projects/{project_id}/shots", {"project_id": project_id}, body=body)

    def put_projects_threads_column(self, project_id: str, thread_id: str, body: BeadsPaste) -> ChangedOut:
        """Lay a copied range of a column down from a shot on."""
        return self._asked("PUT", "/api/projects/{project_id}/threads/{thread_id}/column", {"project_id": project_id, "thread_id": thread_id}, body=body)

    def get_projects_shots_copied(self, project_id: str, shots: list[str]) -> list[CopiedShot]:
        """Some shots as they can be pasted into any project."""
        return self._asked("GET", "/api/projects/{project_id}/shots/copied", {"project_id": project_id}, query={"shots": shots})

    def post_projects_shots_paste(self, project_id: str, body: ShotsPaste) -> ChangedOut:
        """Put copied shots after a shot."""
        return self._asked("POST", "/api/projects/{project_id}/shots/paste", {"project_id": project_id}, body=body)

    def put_projects_threads_order(self, project_id: str, body: Ordered) -> ChangedOut:
        """Put the threads in an order."""
        return self._asked("PUT", "/api/projects/{project_id}/threads/order", {"project_id": project_id}, body=body)

    def get_projects_library(self, project_id: str, *, words: str | None = None, colour: str | None = None, like: str | None = None, thread: str | None = None, tag: str | None = None, binned: bool | None = None, offset: int | None = None, limit: int | None = None) -> LibraryPart:
        """Search the library; best answers first, else newest first."""
        return self._asked("GET", "/api/projects/{project_id}/library", {"project_id": project_id}, query={"words": words, "colour": colour, "like": like, "thread": thread, "tag": tag, "binned": binned, "offset": offset, "limit": limit})

    def post_projects_library_tags(self, project_id: str, body: Tagging) -> ChangedOut:
        """Add tags to pictures, or take them off."""
        return self._asked("POST", "/api/projects/{project_id}/library/tags", {"project_id": project_id}, body=body)

    def post_projects_library_bin(self, project_id: str, body: Binning) -> ChangedOut:
        """Put pictures in the bin, or take them out."""
        return self._asked("POST", "/api/projects/{project_id}/library/bin", {"project_id": project_id}, body=body)

    def get_projects_library_taste(self, project_id: str, *, tag: str | None = None) -> Round:
        """The next pair of a taste round, and the ranking so far."""
        return self._asked("GET", "/api/projects/{project_id}/library/taste", {"project_id": project_id}, query={"tag": tag})

    def post_projects_library_taste(self, project_id: str, body: Choice) -> ChangedOut:
        """Pick one of two pictures, or skip them."""
        return self._asked("POST", "/api/projects/{project_id}/library/taste", {"project_id": project_id}, body=body)

    def post_projects_library_taste_style(self, project_id: str, body: ToStyle) -> ChangedOut:
        """Give a style the proposed pictures with their weights."""
        return self._asked("POST", "/api/projects/{project_id}/library/taste/style", {"project_id": project_id}, body=body)

    def post_projects_loupe(self, project_id: str, body: Loupe) -> list[UnderLoupe]:
        """The colours of the same place in several pictures, and how far they are apart."""
        return self._asked("POST", "/api/projects/{project_id}/loupe", {"project_id": project_id}, body=body)

    def post_projects_lights(self, project_id: str, body: SomeTakes) -> list[TakeLight]:
        """The light of the scene in some takes, where it was measured."""
        return self._asked("POST", "/api/projects/{project_id}/lights", {"project_id": project_id}, body=body)

    def post_projects_pegs(self, project_id: str, body: PegIn) -> Pegged:
        """How pictures are laid on the first one, so that a figure or its head lies on the same spot."""
        return self._asked("POST", "/api/projects/{project_id}/pegs", {"project_id": project_id}, body=body)

    def post_projects_pictures(self, project_id: str, file: FileIn, name: str) -> TakenIn:
        """Take in one picture file; a bad one is refused with the reason."""
        return self._asked("POST", "/api/projects/{project_id}/pictures", {"project_id": project_id}, form={"file": file, "name": name})

    def post_projects_book_pages(self, project_id: str, file: FileIn) -> list[TakenIn]:
        """Take in every page of a comic archive or a PDF as a picture."""
        return self._asked("POST", "/api/projects/{project_id}/book-pages", {"project_id": project_id}, form={"file": file})

    def post_projects_takes_propose(self, project_id: str, body: Files) -> list[Proposal]:
        """Match taken-in files to shots by the numbers in their names."""
        return self._asked("POST", "/api/projects/{project_id}/takes/propose", {"project_id": project_id}, body=body)

    def post_projects_takes(self, project_id: str, body: PlacedFiles) -> ChangedOut:
        """Make takes of taken-in files."""
        return self._asked("POST", "/api/projects/{project_id}/takes", {"project_id": project_id}, body=body)

    def post_projects_shots_replace(self, project_id: str, shot_id: str, body: TakesReplacement) -> ChangedOut:
        """Add a take and pick it."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/replace", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def post_projects_takes_pick(self, project_id: str, take_id: str) -> ChangedOut:
        """Pick a take."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/pick", {"project_id": project_id, "take_id": take_id})

    def put_projects_takes_standing(self, project_id: str, body: StandingIn) -> ChangedOut:
        """Keep takes, or put them out."""
        return self._asked("PUT", "/api/projects/{project_id}/takes/standing", {"project_id": project_id}, body=body)

    def get_projects_shots_sheet(self, project_id: str, shot_id: str) -> ContactSheet:
        """A shot's contact sheet: its takes in groups, and how each one holds."""
        return self._asked("GET", "/api/projects/{project_id}/shots/{shot_id}/sheet", {"project_id": project_id, "shot_id": shot_id})

    def get_projects_takes_lineage(self, project_id: str, take_id: str) -> list[LineageStep]:
        """What a take came from, and what changed at each step."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/lineage", {"project_id": project_id, "take_id": take_id})

    def post_projects_takes_faults(self, project_id: str, take_id: str, body: NewFault) -> ChangedOut:
        """Mark a fault in a take."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/faults", {"project_id": project_id, "take_id": take_id}, body=body)

    def patch_projects_faults_one(self, project_id: str, fault_mark_id: str, body: FaultEdit) -> ChangedOut:
        """Change a fault mark."""
        return self._asked("PATCH", "/api/projects/{project_id}/faults/{fault_mark_id}", {"project_id": project_id, "fault_mark_id": fault_mark_id}, body=body)

    def delete_projects_faults_one(self, project_id: str, fault_mark_id: str) -> ChangedOut:
        """Remove a fault mark."""
        return self._asked("DELETE", "/api/projects/{project_id}/faults/{fault_mark_id}", {"project_id": project_id, "fault_mark_id": fault_mark_id})

    def delete_projects_takes_one(self, project_id: str, take_id: str) -> ChangedOut:
        """Remove a take."""
        return self._asked("DELETE", "/api/projects/{project_id}/takes/{take_id}", {"project_id": project_id, "take_id": take_id})

    def put_projects_takes_marks(self, project_id: str, take_id: str, body: NewMark) -> ChangedOut:
        """Say where somebody stands in a take."""
        return self._asked("PUT", "/api/projects/{project_id}/takes/{take_id}/marks", {"project_id": project_id, "take_id": take_id}, body=body)

    def delete_projects_marks_one(self, project_id: str, mark_id: str) -> ChangedOut:
        """Remove a mark."""
        return self._asked("DELETE", "/api/projects/{project_id}/marks/{mark_id}", {"project_id": project_id, "mark_id": mark_id})

    def get_projects_standings(self, project_id: str, *, take_id: list[str] | None = None) -> Standings:
        """Boxes that wait for the user's word, in all picked takes and in those named."""
        return self._asked("GET", "/api/projects/{project_id}/standings", {"project_id": project_id}, query={"take_id": take_id})

    def post_projects_standings_look(self, project_id: str, body: TheseTakes) -> SpotStatus:
        """Look for whom the plan puts into some takes, or into all picked ones; what is known is not looked for again."""
        return self._asked("POST", "/api/projects/{project_id}/standings/look", {"project_id": project_id}, body=body)

    def post_projects_standings_stop(self, project_id: str) -> SpotStatus:
        """Look no further; what was found is kept."""
        return self._asked("POST", "/api/projects/{project_id}/standings/stop", {"project_id": project_id})

    def post_projects_standings_confirm(self, project_id: str, body: ConfirmedBoxes) -> ChangedOut:
        """Mark figures where they stand, in one step."""
        return self._asked("POST", "/api/projects/{project_id}/standings/confirm", {"project_id": project_id}, body=body)

    def post_projects_takes_not_here(self, project_id: str, take_id: str, body: NotHere) -> ChangedOut:
        """Say that a figure is not in a picture."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/not-here", {"project_id": project_id, "take_id": take_id}, body=body)

    def get_projects_services(self, project_id: str) -> list[ServiceView]:
        """The services, and what they can do."""
        return self._asked("GET", "/api/projects/{project_id}/services", {"project_id": project_id})

    def post_projects_services(self, project_id: str, body: NewService) -> ChangedOut:
        """Add a service by its address, and ask it what it can do."""
        return self._asked("POST", "/api/projects/{project_id}/services", {"project_id": project_id}, body=body)

    def patch_projects_services_one(self, project_id: str, service_id: str, body: ServiceEdit) -> ChangedOut:
        """Rename a service, or give its new address."""
        return self._asked("PATCH", "/api/projects/{project_id}/services/{service_id}", {"project_id": project_id, "service_id": service_id}, body=body)

    def delete_projects_services_one(self, project_id: str, service_id: str) -> ChangedOut:
        """Remove a service; its token is forgotten."""
        return self._asked("DELETE", "/api/projects/{project_id}/services/{service_id}", {"project_id": project_id, "service_id": service_id})

    def put_projects_services_token(self, project_id: str, service_id: str, body: TokenIn) -> ServiceView:
        """Keep a service's token; it is never given out."""
        return self._asked("PUT", "/api/projects/{project_id}/services/{service_id}/token", {"project_id": project_id, "service_id": service_id}, body=body)

    def post_projects_services_ask(self, project_id: str, service_id: str) -> ServiceView:
        """Ask a service again what it can do."""
        return self._asked("POST", "/api/projects/{project_id}/services/{service_id}/ask", {"project_id": project_id, "service_id": service_id})

    def post_projects_orders_offer(self, project_id: str, body: OrderIn) -> Offer:
        """What an order would cost, and what preflight holds back."""
        return self._asked("POST", "/api/projects/{project_id}/orders/offer", {"project_id": project_id}, body=body)

    def post_projects_orders(self, project_id: str, body: OrderIn) -> Asked:
        """Ask for takes: put them into the queue."""
        return self._asked("POST", "/api/projects/{project_id}/orders", {"project_id": project_id}, body=body)

    def get_projects_jobs(self, project_id: str) -> Queue:
        """The queue: open jobs, those that went wrong, and the latest done."""
        return self._asked("GET", "/api/projects/{project_id}/jobs", {"project_id": project_id})

    def post_projects_jobs_steer(self, project_id: str, body: Steering) -> Steered:
        """Pause, resume, cancel, move up, try again, say yes to, or put away jobs."""
        return self._asked("POST", "/api/projects/{project_id}/jobs/steer", {"project_id": project_id}, body=body)

    def post_projects_takes_remake(self, project_id: str, take_id: str, body: RemakeIn) -> Asked:
        """Ask for takes that go on from one."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/remake", {"project_id": project_id, "take_id": take_id}, body=body)

    def get_projects_finals(self, project_id: str) -> FinalPass:
        """Finals beside their drafts, and picked drafts that have none."""
        return self._asked("GET", "/api/projects/{project_id}/finals", {"project_id": project_id})

    def post_projects_finals(self, project_id: str, body: FinalsIn) -> Asked:
        """Make picked drafts again in full."""
        return self._asked("POST", "/api/projects/{project_id}/finals", {"project_id": project_id}, body=body)

    def post_projects_finals_pick(self, project_id: str) -> ChangedOut:
        """Pick every final that is its draft in full."""
        return self._asked("POST", "/api/projects/{project_id}/finals/pick", {"project_id": project_id})

    def post_projects_shots_trials(self, project_id: str, shot_id: str, body: TrialIn) -> TrialBegun:
        """Begin a trial of a shot."""
        return self._asked("POST", "/api/projects/{project_id}/shots/{shot_id}/trials", {"project_id": project_id, "shot_id": shot_id}, body=body)

    def get_projects_trials_one(self, project_id: str, trial_id: str) -> TrialView:
        """What a trial shows."""
        return self._asked("GET", "/api/projects/{project_id}/trials/{trial_id}", {"project_id": project_id, "trial_id": trial_id})

    def delete_projects_trials_one(self, project_id: str, trial_id: str) -> ChangedOut:
        """Put a trial away; its takes stay."""
        return self._asked("DELETE", "/api/projects/{project_id}/trials/{trial_id}", {"project_id": project_id, "trial_id": trial_id})

    def post_projects_trials_winner(self, project_id: str, trial_id: str, body: WinnerIn) -> ChangedOut:
        """Make a trial's setting that of its shot, or of the project."""
        return self._asked("POST", "/api/projects/{project_id}/trials/{trial_id}/winner", {"project_id": project_id, "trial_id": trial_id}, body=body)

    def get_projects_takes_rescues(self, project_id: str, take_id: str, *, print_mm: float | None = None) -> RescueOffer:
        """Crops that leave a take's faults out."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/rescues", {"project_id": project_id, "take_id": take_id}, query={"print_mm": print_mm})

    def post_projects_takes_crop(self, project_id: str, take_id: str, body: CropIn) -> ChangedOut:
        """Make a take of a part of another one."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/crop", {"project_id": project_id, "take_id": take_id}, body=body)

    def get_projects_faults(self, project_id: str) -> FaultsTold:
        """What recurring faults share, and what mends brought."""
        return self._asked("GET", "/api/projects/{project_id}/faults", {"project_id": project_id})

    def post_projects_faults_mend(self, project_id: str, body: FaultMendIn) -> ChangedOut:
        """Do something against a fault that recurs."""
        return self._asked("POST", "/api/projects/{project_id}/faults/mend", {"project_id": project_id}, body=body)

    def get_projects_ledger(self, project_id: str) -> Ledger:
        """What was spent, on what, and what is still to be spent."""
        return self._asked("GET", "/api/projects/{project_id}/ledger", {"project_id": project_id})

    def get_projects_ledger_csv(self, project_id: str) -> bytes:
        """Every job that cost or brought something."""
        return self._asked("GET", "/api/projects/{project_id}/ledger.csv", {"project_id": project_id})

    def post_projects_takes_area(self, project_id: str, take_id: str, body: AreaOrderIn) -> Asked:
        """Ask for a take with one area changed."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/area", {"project_id": project_id, "take_id": take_id}, body=body)

    def post_projects_takes_growth(self, project_id: str, take_id: str, body: GrowthIn) -> Asked:
        """Ask for a take grown to another form."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/growth", {"project_id": project_id, "take_id": take_id}, body=body)

    def get_projects_takes_growth(self, project_id: str, take_id: str) -> Grown:
        """How what was added to a take matches the rest of it."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/growth", {"project_id": project_id, "take_id": take_id})

    def post_projects_takes_retouched(self, project_id: str, take_id: str, body: Retouched) -> ChangedOut:
        """Make a take of a picture that was changed elsewhere."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/retouched", {"project_id": project_id, "take_id": take_id}, body=body)

    def get_projects_takes_proof(self, project_id: str, take_id: str) -> Proved:
        """Whether anything outside an edit's area changed."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/proof", {"project_id": project_id, "take_id": take_id})

    def get_projects_takes_proof_map(self, project_id: str, take_id: str, *, key: str | None = None) -> bytes:
        """Where outside an edit's area something changed, as a picture."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/proof/map", {"project_id": project_id, "take_id": take_id}, query={"key": key})

    def post_projects_takes_only(self, project_id: str, take_id: str, body: OnlyIn) -> ChangedOut:
        """Make a take of an edit's area alone, the old pixels around it."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/only", {"project_id": project_id, "take_id": take_id}, body=body)

    def get_projects_takes_clip(self, project_id: str, take_id: str) -> ClipTold:
        """How a clip holds along its frames, and from when to when."""
        return self._asked("GET", "/api/projects/{project_id}/takes/{take_id}/clip", {"project_id": project_id, "take_id": take_id})

    def post_projects_takes_clip(self, project_id: str, take_id: str, body: ClipIn) -> Asked:
        """Ask for a clip that begins with a take's picture."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/clip", {"project_id": project_id, "take_id": take_id}, body=body)

    def put_projects_takes_trim(self, project_id: str, take_id: str, body: TrimIn) -> ChangedOut:
        """Show a part of a clip."""
        return self._asked("PUT", "/api/projects/{project_id}/takes/{take_id}/trim", {"project_id": project_id, "take_id": take_id}, body=body)

    def post_projects_takes_frame(self, project_id: str, take_id: str, body: FrameOut) -> ChangedOut:
        """Make a take of one frame of a clip."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/frame", {"project_id": project_id, "take_id": take_id}, body=body)

    def post_projects_takes_sound(self, project_id: str, take_id: str) -> ChangedOut:
        """Lay what is heard in a clip on its shot."""
        return self._asked("POST", "/api/projects/{project_id}/takes/{take_id}/sound", {"project_id": project_id, "take_id": take_id})

    def post_projects_check(self, project_id: str) -> CheckStatus:
        """Start a check; only what changed is measured."""
        return self._asked("POST", "/api/projects/{project_id}/check", {"project_id": project_id})

    def get_projects_check(self, project_id: str) -> CheckOut:
        """How the latest check stands."""
        return self._asked("GET", "/api/projects/{project_id}/check", {"project_id": project_id})

    def post_projects_check_stop(self, project_id: str) -> CheckStatus:
        """Stop the check; what is measured is kept."""
        return self._asked("POST", "/api/projects/{project_id}/check/stop", {"project_id": project_id})

    def get_projects_lineups_one(self, project_id: str, thread_id: str) -> Lineup:
        """A thread's appearances side by side."""
        return self._asked("GET", "/api/projects/{project_id}/lineups/{thread_id}", {"project_id": project_id, "thread_id": thread_id})

    def get_projects_lineups_pictures_one(self, project_id: str, thread_id: str, shot_id: str) -> Json:
        """Three squares side by side: a figure's reference, the figure laid over it, and where both differ."""
        return self._asked("GET", "/api/projects/{project_id}/lineups/{thread_id}/pictures/{shot_id}", {"project_id": project_id, "thread_id": thread_id, "shot_id": shot_id})

    def get_projects_findings(self, project_id: str, *, after: str | None = None) -> FindingsSince:
        """All that there is to look at, from every room, or what changed of it."""
        return self._asked("GET", "/api/projects/{project_id}/findings", {"project_id": project_id}, query={"after": after})

    def post_projects_stets(self, project_id: str, body: NewStet) -> ChangedOut:
        """Let a finding stand, with a reason."""
        return self._asked("POST", "/api/projects/{project_id}/stets", {"project_id": project_id}, body=body)

    def delete_projects_stets_one(self, project_id: str, stet_id: str) -> ChangedOut:
        """Take a stet back."""
        return self._asked("DELETE", "/api/projects/{project_id}/stets/{stet_id}", {"project_id": project_id, "stet_id": stet_id})

    def get_pictures_one(self, sha: str) -> bytes:
        """A picture's own file."""
        return self._asked("GET", "/api/pictures/{sha}", {"sha": sha})

    def get_pictures_thumb(self, sha: str, *, side: int | None = None) -> bytes:
        """A thumbnail."""
        return self._asked("GET", "/api/pictures/{sha}/thumb", {"sha": sha}, query={"side": side})

    def get_pictures_crop(self, sha: str, x: float, y: float, w: float, h: float, *, side: int | None = None, light: str | None = None) -> Json:
        """A box on a picture, with a scene light taken out if one is given."""
        return self._asked("GET", "/api/pictures/{sha}/crop", {"sha": sha}, query={"x": x, "y": y, "w": w, "h": h, "side": side, "light": light})

    def get_pictures_tile(self, sha: str, *, level: int | None = None, column: int | None = None, row: int | None = None) -> bytes:
        """A tile of 512 px of a picture; each next level is half as large."""
        return self._asked("GET", "/api/pictures/{sha}/tile", {"sha": sha}, query={"level": level, "column": column, "row": row})

    def get_projects_read_along(self, project_id: str) -> list[ReadAlong]:
        """The words of each shot, and when each word is said."""
        return self._asked("GET", "/api/projects/{project_id}/read-along", {"project_id": project_id})

    def put_projects_lengths(self, project_id: str, body: NewLengths) -> ChangedOut:
        """Give shots other lengths, in one step."""
        return self._asked("PUT", "/api/projects/{project_id}/lengths", {"project_id": project_id}, body=body)

    def post_projects_scenes_fit(self, project_id: str, scene_id: str, body: SceneTime) -> ChangedOut:
        """Fit a scene to a time, as nearly as its words allow."""
        return self._asked("POST", "/api/projects/{project_id}/scenes/{scene_id}/fit", {"project_id": project_id, "scene_id": scene_id}, body=body)

    def get_projects_sound_track(self, project_id: str) -> SoundTrack:
        """All that sounds: where, the lines of each shot with their takes, and what is wrong."""
        return self._asked("GET", "/api/projects/{project_id}/sound-track", {"project_id": project_id})

    def post_projects_sounds(self, project_id: str, file: FileIn, shot_id: str, *, name: str | None = None, kind: str | None = None, line: str | None = None, thread_id: str | None = None, start_s: str | None = None, until_shot_id: str | None = None, place: str | None = None) -> ChangedOut:
        """Take in a sound file, or a recorded line, and lay it on a shot."""
        return self._asked("POST", "/api/projects/{project_id}/sounds", {"project_id": project_id}, form={"file": file, "shot_id": shot_id, "name": name, "kind": kind, "line": line, "thread_id": thread_id, "start_s": start_s, "until_shot_id": until_shot_id, "place": place})

    def patch_projects_sounds_one(self, project_id: str, sound_id: str, body: SoundEdit) -> ChangedOut:
        """Change where a sound lies and how it sounds."""
        return self._asked("PATCH", "/api/projects/{project_id}/sounds/{sound_id}", {"project_id": project_id, "sound_id": sound_id}, body=body)

    def delete_projects_sounds_one(self, project_id: str, sound_id: str) -> ChangedOut:
        """Take a sound off."""
        return self._asked("DELETE", "/api/projects/{project_id}/sounds/{sound_id}", {"project_id": project_id, "sound_id": sound_id})

    def post_projects_sounds_pick(self, project_id: str, sound_id: str) -> ChangedOut:
        """Of the takes of a line let this one be heard."""
        return self._asked("POST", "/api/projects/{project_id}/sounds/{sound_id}/pick", {"project_id": project_id, "sound_id": sound_id})

    def post_projects_sounds_trim_silence(self, project_id: str, sound_id: str, body: SeenSound) -> ChangedOut:
        """Take the silence off at both ends."""
        return self._asked("POST", "/api/projects/{project_id}/sounds/{sound_id}/trim-silence", {"project_id": project_id, "sound_id": sound_id}, body=body)

    def post_projects_follow_voice(self, project_id: str, body: FollowVoice) -> ChangedOut:
        """Let lengths follow the voice."""
        return self._asked("POST", "/api/projects/{project_id}/follow-voice", {"project_id": project_id}, body=body)

    def post_projects_turn_down(self, project_id: str, body: TooLoud) -> ChangedOut:
        """Turn sounds down where they are too loud together."""
        return self._asked("POST", "/api/projects/{project_id}/turn-down", {"project_id": project_id}, body=body)

    def get_projects_bridges(self, project_id: str) -> list[BridgeView]:
        """Shots proposed between two whose cut jars, or of which words outrun the first."""
        return self._asked("GET", "/api/projects/{project_id}/bridges", {"project_id": project_id})

    def post_projects_bridges(self, project_id: str, body: BridgeKey) -> ChangedOut:
        """Put a proposed bridge in."""
        return self._asked("POST", "/api/projects/{project_id}/bridges", {"project_id": project_id}, body=body)

    def post_projects_bridges_refuse(self, project_id: str, body: BridgeKey) -> ChangedOut:
        """Say that no shot is wanted there."""
        return self._asked("POST", "/api/projects/{project_id}/bridges/refuse", {"project_id": project_id}, body=body)

    def get_projects_book(self, project_id: str) -> BookView:
        """The book as its pages are laid out, and what would go wrong in print."""
        return self._asked("GET", "/api/projects/{project_id}/book", {"project_id": project_id})

    def get_projects_book_cover(self, project_id: str, *, height: int | None = None) -> bytes:
        """The front of the cover as it is printed."""
        return self._asked("GET", "/api/projects/{project_id}/book/cover", {"project_id": project_id}, query={"height": height})

    def get_projects_outgoing(self, project_id: str) -> Outgoing:
        """What would go out, and what is missing of it."""
        return self._asked("GET", "/api/projects/{project_id}/outgoing", {"project_id": project_id})

    def post_projects_timeline_file(self, project_id: str, file: FileIn) -> ChangedOut:
        """Lengths and order from an OpenTimelineIO file."""
        return self._asked("POST", "/api/projects/{project_id}/timeline/file", {"project_id": project_id}, form={"file": file})

    def post_projects_captions_file(self, project_id: str, file: FileIn) -> ChangedOut:
        """Words from a WebVTT or SRT file."""
        return self._asked("POST", "/api/projects/{project_id}/captions/file", {"project_id": project_id}, form={"file": file})

    def get_projects_deliveries(self, project_id: str) -> list[DeliveryView]:
        """The files out, the newest first."""
        return self._asked("GET", "/api/projects/{project_id}/deliveries", {"project_id": project_id})

    def post_projects_deliveries(self, project_id: str, body: NewDelivery) -> DeliveryView:
        """Ask for a file."""
        return self._asked("POST", "/api/projects/{project_id}/deliveries", {"project_id": project_id}, body=body)

    def post_projects_deliveries_stop(self, project_id: str, delivery_id: str) -> DeliveryView:
        """Stop a file that is being made."""
        return self._asked("POST", "/api/projects/{project_id}/deliveries/{delivery_id}/stop", {"project_id": project_id, "delivery_id": delivery_id})

    def post_projects_deliveries_resume(self, project_id: str, delivery_id: str) -> DeliveryView:
        """Go on with a file that was stopped or failed."""
        return self._asked("POST", "/api/projects/{project_id}/deliveries/{delivery_id}/resume", {"project_id": project_id, "delivery_id": delivery_id})

    def delete_projects_deliveries_one(self, project_id: str, delivery_id: str) -> None:
        """Remove a file."""
        self._asked("DELETE", "/api/projects/{project_id}/deliveries/{delivery_id}", {"project_id": project_id, "delivery_id": delivery_id})

    def get_projects_deliveries_file(self, project_id: str, delivery_id: str) -> bytes:
        """The file itself."""
        return self._asked("GET", "/api/projects/{project_id}/deliveries/{delivery_id}/file", {"project_id": project_id, "delivery_id": delivery_id})

    def get_me(self) -> Me:
        """Who is signed in here, and whether one has to be."""
        return self._asked("GET", "/api/me", {})

    def patch_me(self, body: Naming) -> Person:
        """Change the name that others see."""
        return self._asked("PATCH", "/api/me", {}, body=body)

    def post_me_sign_in(self, body: SignInOf) -> Person:
        """Sign in."""
        return self._asked("POST", "/api/me/sign-in", {}, body=body)

    def post_me_sign_out(self) -> None:
        """Sign out."""
        self._asked("POST", "/api/me/sign-out", {})

    def post_me_invited(self, body: Link) -> Invited:
        """What a link opens."""
        return self._asked("POST", "/api/me/invited", {}, body=body)

    def post_me_joined(self, body: Joining) -> Joined:
        """Use a link: make an account, join a project, or set a new password."""
        return self._asked("POST", "/api/me/joined", {}, body=body)

    def put_me_password(self, body: NewPassword) -> Person:
        """Change one's password; all else that is open is closed."""
        return self._asked("PUT", "/api/me/password", {}, body=body)

    def get_me_second(self) -> SecondStanding:
        """Whether one has a second factor, and how many spare codes are left."""
        return self._asked("GET", "/api/me/second", {})

    def put_me_second(self, body: Confirming) -> SpareCodes:
        """Turn the second factor on by its first code; spare codes are told this once."""
        return self._asked("PUT", "/api/me/second", {}, body=body)

    def post_me_second(self) -> SecondOffer:
        """What is to be brought into an app for a second factor."""
        return self._asked("POST", "/api/me/second", {})

    def post_me_second_off(self, body: Confirming) -> None:
        """Take one's second factor off."""
        self._asked("POST", "/api/me/second/off", {}, body=body)

    def get_me_sign_ins(self) -> list[OwnSignIn]:
        """Where one is signed in."""
        return self._asked("GET", "/api/me/sign-ins", {})

    def delete_me_sign_ins_one(self, sign_in_id: str) -> None:
        """Sign a browser out from elsewhere."""
        self._asked("DELETE", "/api/me/sign-ins/{sign_in_id}", {"sign_in_id": sign_in_id})

    def get_me_tokens(self) -> list[TokenCard]:
        """One's tokens for programs."""
        return self._asked("GET", "/api/me/tokens", {})

    def post_me_tokens(self, body: NewToken) -> MadeToken:
        """A new token; what it is is told this once."""
        return self._asked("POST", "/api/me/tokens", {}, body=body)

    def delete_me_tokens_one(self, token_id: str) -> None:
        """Take a token back."""
        self._asked("DELETE", "/api/me/tokens/{token_id}", {"token_id": token_id})

    def get_projects_members(self, project_id: str) -> list[MemberCard]:
        """Who is in a project."""
        return self._asked("GET", "/api/projects/{project_id}/members", {"project_id": project_id})

    def put_projects_members_one(self, project_id: str, account_id: str, body: RoleOf) -> list[MemberCard]:
        """Change what somebody is in a project."""
        return self._asked("PUT", "/api/projects/{project_id}/members/{account_id}", {"project_id": project_id, "account_id": account_id}, body=body)

    def delete_projects_members_one(self, project_id: str, account_id: str) -> list[MemberCard]:
        """Take somebody out of a project."""
        return self._asked("DELETE", "/api/projects/{project_id}/members/{account_id}", {"project_id": project_id, "account_id": account_id})

    def delete_projects_members_me(self, project_id: str) -> None:
        """Leave a project."""
        self._asked("DELETE", "/api/projects/{project_id}/members/me", {"project_id": project_id})

    def get_projects_invitations(self, project_id: str) -> list[OpenInvitation]:
        """Links into a project that were not used yet."""
        return self._asked("GET", "/api/projects/{project_id}/invitations", {"project_id": project_id})

    def post_projects_invitations(self, project_id: str, body: RoleOf) -> NewLink:
        """A link into a project; it is told this once."""
        return self._asked("POST", "/api/projects/{project_id}/invitations", {"project_id": project_id}, body=body)

    def delete_projects_invitations_one(self, project_id: str, invitation_id: str) -> None:
        """Let a link open nothing any more."""
        self._asked("DELETE", "/api/projects/{project_id}/invitations/{invitation_id}", {"project_id": project_id, "invitation_id": invitation_id})

    def get_accounts(self) -> list[AccountCard]:
        """All accounts of this Juxtaform."""
        return self._asked("GET", "/api/accounts", {})

    def post_accounts_invitations(self) -> NewLink:
        """A link to an account; it is told this once."""
        return self._asked("POST", "/api/accounts/invitations", {})

    def post_accounts_password_link(self, account_id: str) -> NewLink:
        """A link to a new password; it is told this once."""
        return self._asked("POST", "/api/accounts/{account_id}/password-link", {"account_id": account_id})

    def put_accounts_closed(self, account_id: str, body: Closing) -> list[AccountCard]:
        """Close an account, or open it again."""
        return self._asked("PUT", "/api/accounts/{account_id}/closed", {"account_id": account_id}, body=body)

    def delete_accounts_second(self, account_id: str) -> list[AccountCard]:
        """Take the second factor off an account that lost it."""
        return self._asked("DELETE", "/api/accounts/{account_id}/second", {"account_id": account_id})

    def get_projects_showings(self, project_id: str) -> list[ShowingCard]:
        """What is shown by links, and what was said of it."""
        return self._asked("GET", "/api/projects/{project_id}/showings", {"project_id": project_id})

    def post_projects_showings(self, project_id: str, body: NewShowing) -> MadeShowing:
        """Freeze the sequence and make a link to it; it is told this once."""
        return self._asked("POST", "/api/projects/{project_id}/showings", {"project_id": project_id}, body=body)

    def post_projects_showings_freeze(self, project_id: str, showing_id: str) -> ShowingCard:
        """Show the sequence as it stands now under the same link."""
        return self._asked("POST", "/api/projects/{project_id}/showings/{showing_id}/freeze", {"project_id": project_id, "showing_id": showing_id})

    def post_projects_showings_revoke(self, project_id: str, showing_id: str) -> None:
        """Let a link show nothing any more."""
        self._asked("POST", "/api/projects/{project_id}/showings/{showing_id}/revoke", {"project_id": project_id, "showing_id": showing_id})

    def delete_projects_showings_one(self, project_id: str, showing_id: str) -> None:
        """Delete a showing with what was said of it."""
        self._asked("DELETE", "/api/projects/{project_id}/showings/{showing_id}", {"project_id": project_id, "showing_id": showing_id})

    def post_projects_notes_answers(self, project_id: str, note_id: str, body: AnswerIn) -> NoteView:
        """Answer a viewer's comment."""
        return self._asked("POST", "/api/projects/{project_id}/notes/{note_id}/answers", {"project_id": project_id, "note_id": note_id}, body=body)

    def get_projects_showings_annotations(self, project_id: str, showing_id: str) -> bytes:
        """What was said as web annotations."""
        return self._asked("GET", "/api/projects/{project_id}/showings/{showing_id}/annotations", {"project_id": project_id, "showing_id": showing_id})

    def post_projects_showings_annotations(self, project_id: str, showing_id: str, file: FileIn) -> RemarksTaken:
        """Take in web annotations as comments."""
        return self._asked("POST", "/api/projects/{project_id}/showings/{showing_id}/annotations", {"project_id": project_id, "showing_id": showing_id}, form={"file": file})

    def post_shown_open(self, body: OpenBy) -> OpenedOut:
        """Open a showing by its link."""
        return self._asked("POST", "/api/shown/open", {}, body=body)

    def get_shown_one(self, showing_id: str) -> Shown:
        """What a showing shows, and what was said of it."""
        return self._asked("GET", "/api/shown/{showing_id}", {"showing_id": showing_id})

    def get_shown_pictures_one(self, showing_id: str, sha: str) -> bytes:
        """A picture of a showing."""
        return self._asked("GET", "/api/shown/{showing_id}/pictures/{sha}", {"showing_id": showing_id, "sha": sha})

    def get_shown_pictures_thumb(self, showing_id: str, sha: str, *, side: int | None = None) -> bytes:
        """A thumbnail of a showing's picture."""
        return self._asked("GET", "/api/shown/{showing_id}/pictures/{sha}/thumb", {"showing_id": showing_id, "sha": sha}, query={"side": side})

    def get_shown_clips_one(self, showing_id: str, sha: str) -> bytes:
        """A clip of a showing."""
        return self._asked("GET", "/api/shown/{showing_id}/clips/{sha}", {"showing_id": showing_id, "sha": sha})

    def get_shown_sound(self, showing_id: str) -> bytes:
        """All that sounds in a showing."""
        return self._asked("GET", "/api/shown/{showing_id}/sound", {"showing_id": showing_id})

    def post_shown_notes(self, showing_id: str, body: NoteIn) -> NoteView:
        """Comment on a shot, a place of its picture or a moment, or answer."""
        return self._asked("POST", "/api/shown/{showing_id}/notes", {"showing_id": showing_id}, body=body)

    def put_shown_shots_word(self, showing_id: str, shot_id: str, body: WordIn) -> list[WordView]:
        """Say good or change of a shot, or take it back."""
        return self._asked("PUT", "/api/shown/{showing_id}/shots/{shot_id}/word", {"showing_id": showing_id, "shot_id": shot_id}, body=body)

    def post_shown_signs(self, showing_id: str, body: SignOff) -> list[SignView]:
        """Sign off what is shown."""
        return self._asked("POST", "/api/shown/{showing_id}/signs", {"showing_id": showing_id}, body=body)

    def get_clips_one(self, sha: str) -> bytes:
        """A clip's own file, by its first frame."""
        return self._asked("GET", "/api/clips/{sha}", {"sha": sha})

    def get_clips_film(self, sha: str) -> bytes:
        """A clip as a browser plays it, by its first frame."""
        return self._asked("GET", "/api/clips/{sha}/film", {"sha": sha})

    def get_clips_frame(self, sha: str, *, at: float | None = None, side: int | None = None) -> bytes:
        """A clip's frame at a time."""
        return self._asked("GET", "/api/clips/{sha}/frame", {"sha": sha}, query={"at": at, "side": side})

    def get_clips_strip(self, sha: str, *, count: int | None = None, side: int | None = None) -> bytes:
        """A clip's frames beside each other."""
        return self._asked("GET", "/api/clips/{sha}/strip", {"sha": sha}, query={"count": count, "side": side})

    def get_sounds_one(self, sha: str) -> bytes:
        """A sound's own file."""
        return self._asked("GET", "/api/sounds/{sha}", {"sha": sha})

    def get_sounds_levels(self, sha: str) -> bytes:
        """A sound's levels: lowest and highest sample and strength, 16 bits each, a hundred times a second."""
        return self._asked("GET", "/api/sounds/{sha}/levels", {"sha": sha})

    def get_sounds_part(self, sha: str, *, start: float | None = None, seconds: float | None = None) -> bytes:
        """A part of a sound as WAV."""
        return self._asked("GET", "/api/sounds/{sha}/part", {"sha": sha}, query={"start": start, "seconds": seconds})
