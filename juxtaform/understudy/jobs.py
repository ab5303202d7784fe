"""The Understudy's jobs: taken once for each key, worked on side by side, told as they go, cancelled when asked."""

from __future__ import annotations

import hashlib
import io
import re
import threading
import uuid
from collections import OrderedDict
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field

import numpy as np
from PIL import Image

from juxtaform.understudy.painting import Pixels, Role, Sent, painted, staged
from juxtaform.understudy.protocol import Job, Problem, Result, Wanted
from juxtaform.understudy.slips import Slip, chosen, marred, staged_wrong

MOST_JOBS = 5000
MOST_HELD_BYTES = 2_000_000_000
SIDES = {"draft": 640, "final": 1536}
CREDITS = {"draft": 1.0, "final": 4.0}
ROLES: frozenset[Role] = frozenset({"character", "prop", "setting", "style", "layout"})
USUAL_HEIGHT = 0.55
FRAMINGS: tuple[tuple[str, float], ...] = (
    (r"extreme wide|establishing", 0.22),
    (r"medium wide|cowboy", 0.85),
    (r"\bwide\b|full shot", 0.5),
    (r"extreme close", 2.0),
    (r"medium close", 1.35),
    (r"close[ -]?up|\bclose\b", 1.7),
    (r"medium", 1.05),
)
"""What a text calls a framing, and the part of the picture's height that a standing figure then takes; the first that is named holds."""


class Refused(ValueError):
    """A job that the Understudy does not do; the message says why."""


class OtherBody(ValueError):
    """A key that was used for another job."""


@dataclass
class Held:
    """Pictures that were brought or made, by the SHA-256 of their bytes; the oldest go first when there are too many."""

    most_bytes: int = MOST_HELD_BYTES
    _data: OrderedDict[str, bytes] = field(default_factory=OrderedDict)
    _bytes: int = 0
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def put(self, data: bytes) -> tuple[str, bool]:
        """Keep bytes; returns their digest, and whether they are new."""
        sha = hashlib.sha256(data).hexdigest()
        with self._lock:
            if sha in self._data:
                self._data.move_to_end(sha)
                return sha, False
            self._data[sha] = data
            self._bytes += len(data)
            while self._bytes > self.most_bytes and len(self._data) > 1:
                self._bytes -= len(self._data.popitem(last=False)[1])
        return sha, True

    def get(self, sha: str) -> bytes | None:
        with self._lock:
            return self._data.get(sha)


@dataclass
class _Work:
    job: Job
    wanted: Wanted
    body: str
    cancelled: bool = False
    changed: threading.Condition = field(default_factory=threading.Condition)
    version: int = 0


class Jobs:
    """All jobs of a running Understudy, and what they cost in all."""

    def __init__(self, pictures: Held, at_once: int = 2, often: float = 0.0) -> None:
        """`often` is the chance (0..1) that something goes wrong in a picture."""
        self.pictures, self.at_once, self.often = pictures, at_once, often
        self.slips: dict[str, tuple[Slip, ...]] = {}
        self.taken, self.made, self.credits = 0, 0, 0.0
        self._works: OrderedDict[str, _Work] = OrderedDict()
        self._by_key: dict[str, str] = {}
        self._lock = threading.Lock()
        self._pool = ThreadPoolExecutor(at_once)

    def take(self, key: str, wanted: Wanted) -> Job:
        """Take a job, or tell the one that was taken under this key. Raises Refused, OtherBody."""
        body = wanted.model_dump_json()
        with self._lock:
            known = self._works.get(self._by_key.get(key, ""))
            if known is not None:
                if known.body != body:
                    raise OtherBody("This key was used for another job. Use a fresh one.")
                return known.job
            self._refuse(wanted)
            chosen = int.from_bytes(hashlib.sha256(key.encode()).digest()[:4]) % 2**31
            seed = chosen if wanted.seed is None else wanted.seed
            work = _Work(Job(id=uuid.uuid4().hex, state="queued", progress=0.0, seed=seed), wanted, body)
            self._works[work.job.id] = work
            self._by_key[key] = work.job.id
            self.taken += 1
            while len(self._works) > MOST_JOBS:
                old, _ = self._works.popitem(last=False)
                self._by_key = {k: i for k, i in self._by_key.items() if i != old}
        self._pool.submit(self._run, work)
        return work.job

    def _refuse(self, wanted: Wanted) -> None:
        if wanted.kind != "picture":
            raise Refused(f"The Understudy does no {wanted.kind} yet; it makes pictures.")
        missing = [p.sha for p in wanted.pictures if self.pictures.get(p.sha) is None]
        if missing:
            raise Refused(f"The picture {missing[0][:12]}… was not brought. Put it first, then ask again.")

    def find(self, job_id: str) -> Job | None:
        work = self._works.get(job_id)
        return work.job if work else None

    def cancel(self, job_id: str) -> Job | None:
        """Stop a job; what is made of it stays."""
        work = self._works.get(job_id)
        if work is None:
            return None
        work.cancelled = True
        if work.job.state == "queued":
            self._tell(work, state="cancelled")
        return work.job

    def wait(self, job_id: str, version: int, timeout_s: float) -> tuple[Job, int] | None:
        """The job and its count of changes once it has more of these than `version`, or as it stands when time is up."""
        work = self._works.get(job_id)
        if work is None:
            return None
        with work.changed:
            work.changed.wait_for(lambda: work.version > version, timeout_s)
            return work.job, work.version

    def close(self) -> None:
        for work in list(self._works.values()):
            work.cancelled = True
        self._pool.shutdown(cancel_futures=True)

    def _run(self, work: _Work) -> None:
        if work.cancelled:
            return
        try:
            self._tell(work, state="running")
            self._paint(work)
        except Exception as error:  # Whatever goes wrong is told to whoever asked.
            self._tell(
                work, state="failed", problem=_problem(500, "Failed", f"The picture could not be made: {error}.")
            )

    def _paint(self, work: _Work) -> None:
        wanted, seed = work.wanted, work.job.seed
        sent = [
            Sent(self._pixels(p.sha), p.role, p.name or p.sha, p.weight) for p in wanted.pictures if p.role in ROLES
        ]
        width, height = size_of(wanted.aspect, SIDES[wanted.quality])
        for i in range(wanted.count):
            if work.cancelled:
                return self._tell(work, state="cancelled")
            scene = staged(sent, seed + i, wanted.figure_height or height_in(wanted.text))
            scene, slips = staged_wrong(scene, chosen(scene, self.often))
            made = marred(painted(scene, width, height, rough=wanted.quality == "draft"), slips, scene.seed)
            sha, _ = self.pictures.put(_png(made))
            self.slips[sha] = slips
            price = CREDITS[wanted.quality]
            result = Result(sha=sha, media_type="image/png", width=width, height=height, seed=seed + i, credits=price)
            with self._lock:
                self.made += 1
                self.credits += price
            job = work.job
            self._tell(
                work,
                results=[*job.results, result],
                credits=job.credits + price,
                progress=(i + 1) / wanted.count,
                **({"state": "done"} if i + 1 == wanted.count else {}),
            )
        return None

    def _pixels(self, sha: str) -> Pixels:
        data = self.pictures.get(sha)
        if data is None:
            raise LookupError(f"the picture {sha[:12]}… is not held any more")
        with Image.open(io.BytesIO(data)) as picture:
            return np.asarray(picture.convert("RGB"))

    def _tell(self, work: _Work, **values: object) -> None:
        with work.changed:
            work.job = work.job.model_copy(update=values)
            work.version += 1
            work.changed.notify_all()


def size_of(aspect: str, side_px: int) -> tuple[int, int]:
    """Width and height in px, even numbers, of a form whose longer side is given.

    >>> size_of("3:2", 640), size_of("9:16", 640)
    ((640, 426), (360, 640))
    """
    wide, high = (int(v) for v in aspect.split(":"))
    scale = side_px / max(wide, high)
    return max(16, int(wide * scale) // 2 * 2), max(16, int(high * scale) // 2 * 2)


def height_in(text: str) -> float:
    """The part of the picture's height that a figure takes by the framing that a text names.

    >>> height_in("Pell on the step. Close-up, eye level."), height_in("Pell on the step.")
    (1.7, 0.55)
    """
    low = text.casefold()
    return next((height for words, height in FRAMINGS if re.search(words, low)), USUAL_HEIGHT)


def _problem(status: int, title: str, detail: str) -> Problem:
    return Problem(title=title, status=status, detail=detail)


def _png(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=4)
    return out.getvalue()
