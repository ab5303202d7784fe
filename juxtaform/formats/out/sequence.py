"""The sequence as all files out are made from it, and how a long piece of work tells how far it is."""

from __future__ import annotations

import json
import re
import unicodedata
from dataclasses import dataclass, field
from pathlib import Path

from juxtaform.core.picture.regions import Box
from juxtaform.core.plan.shots import Join
from juxtaform.core.run.along import Caption
from juxtaform.core.run.moves import WHOLE, Frame, frames_of
from juxtaform.core.run.timeline import TimedShot, Timeline
from juxtaform.core.sound.laying import Laid
from juxtaform.media.sounds import ENDINGS as SOUND_ENDINGS

ENDINGS = {"image/png": "png", "image/jpeg": "jpg", "image/webp": "webp"}
_NOT_IN_NAMES = re.compile(r"[\\/:*?\"<>|\x00-\x1f\x7f]+")
_DEVICES = re.compile(r"^(con|prn|aux|nul|com\d|lpt\d)$", re.IGNORECASE)
LONGEST_NAME = 80


class Stopped(Exception):
    """The user stopped the work."""


@dataclass(frozen=True)
class OutClip:
    """A clip's file, its media type, and from when to when of it is shown, in s."""

    path: str
    media_type: str
    start_s: float
    end_s: float


@dataclass(frozen=True)
class OutPicture:
    """A picture's file: where it lies, its size in px, its media type; `sketch` for one that stands in for a picture, `clip` where it is the first frame of one."""

    path: str
    width: int
    height: int
    media_type: str
    sketch: bool = False
    clip: OutClip | None = None

    @property
    def ending(self) -> str:
        return ENDINGS.get(self.media_type, "png")


@dataclass(frozen=True)
class OutPhrase:
    """Characters `start`..`end` of a shot's words, and the sound that says them, from when to when in its recording."""

    start: int
    end: int
    sound: str
    from_s: float
    to_s: float


@dataclass(frozen=True)
class OutSound:
    """A sound as it goes out: where it lies, its own file and its working copy, who is heard, and the number of its shot."""

    laid: Laid
    path: str
    copy: str
    media_type: str
    seconds: float
    who: str
    number: int

    @property
    def name(self) -> str:
        return self.laid.piece.name

    @property
    def ending(self) -> str:
        return SOUND_ENDINGS.get(self.media_type, "wav")


@dataclass(frozen=True)
class OutShot:
    """A shot as it goes out. `words` go with the picture, `captions` are the same in time, `phrases` tell what voice says them; `faces` are boxes of heads in px of the picture."""

    id: str
    number: int
    scene: str
    shows: str
    framing: str
    move: str
    length_s: float
    join: Join
    join_s: float
    words: str = ""
    captions: tuple[Caption, ...] = ()
    speakers: tuple[str, ...] = ()
    motion: str = ""
    notes: str = ""
    move_start: Frame | None = None
    move_end: Frame | None = None
    picture: OutPicture | None = None
    page_form: str = "single"
    bleed: bool = False
    faces: tuple[Box, ...] = ()
    phrases: tuple[OutPhrase, ...] = ()

    @property
    def frames(self) -> tuple[Frame, Frame]:
        """Where the camera looks at the beginning and the end."""
        return frames_of(self.move, self.move_start, self.move_end) if self.picture else (WHOLE, WHOLE)


@dataclass(frozen=True)
class OutSequence:
    """A project's sequence: `aspect` is the stage's width over its height, `language` a tag of BCP 47; `sounds` in the order in which they begin."""

    title: str
    shots: tuple[OutShot, ...]
    fps: float = 24.0
    aspect: float = 1.5
    language: str = "en"
    project: str = ""
    sounds: tuple[OutSound, ...] = ()

    @property
    def timeline(self) -> Timeline:
        return Timeline([TimedShot(x.id, x.scene, x.length_s, x.join, x.join_s) for x in self.shots])

    @property
    def missing(self) -> list[int]:
        """The numbers of shots without a picture."""
        return [x.number for x in self.shots if x.picture is None or x.picture.sketch]


@dataclass
class Going:
    """How a piece of work goes, told by files in a folder: whoever waits reads `progress`, whoever has enough writes `stop`."""

    folder: Path
    _told: tuple[int, int] = field(default=(-1, 0))

    def done(self, count: int, of: int) -> None:
        """Say how far it is. Raises Stopped."""
        if (self.folder / "stop").exists():
            raise Stopped
        if (count, of) != self._told:
            self._told = (count, of)
            fresh = self.folder / "progress.new"
            fresh.write_text(json.dumps([count, of]))
            fresh.replace(self.folder / "progress")

    def kept(self, name: str) -> Path:
        """Where something half-way is kept, so that work that was stopped goes on from there."""
        (self.folder / "kept").mkdir(exist_ok=True)
        return self.folder / "kept" / name


def file_name(words: str, usual: str = "Sequence") -> str:
    """Words as the name of a file that any system takes: no path, no device, no dot at its ends, not too long.

    >>> file_name("Pell: the tide / part 1?"), file_name("CON"), file_name("..."), file_name("")
    ('Pell the tide part 1', 'CON_', 'Sequence', 'Sequence')
    """
    plain = " ".join(_NOT_IN_NAMES.sub(" ", unicodedata.normalize("NFC", words)).split()).strip(". ")
    while len(plain.encode()) > LONGEST_NAME:
        plain = plain[:-1].strip(". ")
    plain = plain or usual
    return f"{plain}_" if _DEVICES.match(plain.split(".")[0]) else plain


def ranges(numbers: list[int]) -> str:
    """Numbers in words.

    >>> ranges([1, 2, 3, 7, 9, 10])
    '1 to 3, 7, 9, 10'
    """
    parts: list[str] = []
    at = 0
    while at < len(numbers):
        end = at
        while end + 1 < len(numbers) and numbers[end + 1] == numbers[end] + 1:
            end += 1
        run = numbers[at : end + 1]
        parts += [f"{run[0]} to {run[-1]}"] if len(run) > 2 else [str(n) for n in run]
        at = end + 1
    return ", ".join(parts)
