"""The Understudy's jobs: taken once for each key, worked on side by side, told as they go, cancelled when asked."""

from __future__ import annotations

import hashlib
import io
import json
import os
import re
import threading
import time
import uuid
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import asdict, dataclass, field
from pathlib import Path

import numpy as np
from PIL import Image

from juxtaform.understudy.edits import FRAMES_A_SECOND, clip_frames, edited, extended, pushed_in
from juxtaform.understudy.held import Held
from juxtaform.understudy.painting import Pixels, Role, Sent, painted, staged
from juxtaform.understudy.protocol import Job, Problem, Result, Wanted
from juxtaform.understudy.slips import Slip, Trouble, chosen, drifts, marred, staged_wrong, trouble_of

MOST_JOBS = 5000
MOST_WAITING = 64
"""Jobs that wait here; whoever asks for one more is asked to come again."""
MOST_CLIP_S = 8.0
KEPT_S = 24 * 3600.0
SLOW_S = 8.0
OF_JOBS = 0.25
"""How much rarer something goes wrong with a job than with a picture."""
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


class TooMany(RuntimeError):
    """There is too much to do already: who asks is to ask again later."""


class OtherBody(ValueError):
    """A key that was used for another job."""


@dataclass
class _Work:
    job: Job
    wanted: Wanted
    body: str
    key: str = ""
    trouble: Trouble = ""
    cancelled: bool = False
    changed: threading.Condition = field(default_factory=threading.Condition)
    version: int = 0


class Jobs:
    """All jobs of a running Understudy, and what they cost in all. Those in a folder are gone on with by the next one that runs there."""

    def __init__(
        self,
        pictures: Held,
        at_once: int = 2,
        often: float = 0.0,
        folder: Path | None = None,
        trouble: Callable[[str], Trouble] | None = None,
    ) -> None:
        """`often` is the chance (0..1) that something goes wrong in a picture, and a quarter of it that something does with a job; `trouble` says
        by a job's key what goes wrong with it instead."""
        self.pictures, self.at_once, self.often = pictures, at_once, often
        self.slips: dict[str, tuple[Slip, ...]] = {}
        self.generations: dict[str, int] = {}
        self.taken, self.made, self.credits = 0, 0, 0.0
        self._trouble = trouble or (lambda key: trouble_of(key, often * OF_JOBS))
        self._folder = folder
        self._works: OrderedDict[str, _Work] = OrderedDict()
        self._by_key: dict[str, str] = {}
        self._turned_away: set[str] = set()
        self._lock = threading.Lock()
        self._pool = ThreadPoolExecutor(at_once)
        if folder is not None:
            folder.mkdir(parents=True, exist_ok=True)
            self._take_up(folder)

    def _take_up(self, folder: Path) -> None:
        """Go on with what an Understudy that ended here had taken; what has been there for over a day is gone."""
        for path in sorted(folder.glob("*.json"), key=lambda p: p.stat().st_mtime):
            if time.time() - path.stat().st_mtime > KEPT_S:
                path.unlink()
                continue
            try:
                kept = json.loads(path.read_text("utf-8"))
                job, wanted = Job.model_validate_json(kept["job"]), Wanted.model_validate_json(kept["body"])
            except (ValueError, KeyError):
                path.unlink()
                continue
            work = _Work(job, wanted, kept["body"], kept["key"], kept["trouble"], kept["cancelled"])
            self._works[job.id], self._by_key[work.key] = work, job.id
            self.taken, self.made, self.credits = (
                self.taken + 1,
                self.made + len(job.results),
                self.credits + job.credits,
            )
            self.slips |= {r.sha: tuple(Slip(**x) for x in kept["slips"].get(r.sha, ())) for r in job.results}
            self.generations |= {r.sha: kept["generation"] for r in job.results if kept["generation"]}
            if job.state in ("queued", "running"):
                self._pool.submit(self._run, work)

    def take(self, key: str, wanted: Wanted) -> Job:
        """Take a job, or tell the one that was taken under this key. Raises Refused, OtherBody, TooMany."""
        body = wanted.model_dump_json()
        with self._lock:
            known = self._works.get(self._by_key.get(key, ""))
            if known is not None:
                if known.body != body:
                    raise OtherBody("This key was used for another job. Use a fresh one.")
                return known.job
            trouble = self._trouble(key)
            waiting = sum(w.job.state == "queued" for w in self._works.values())
            if waiting >= MOST_WAITING or (trouble == "busy" and key not in self._turned_away):
                self._turned_away.add(key)
                raise TooMany("There are too many jobs here already. Ask again in a moment.")
            self._refuse(wanted)
            chosen = int.from_bytes(hashlib.sha256(key.encode()).digest()[:4]) % 2**31
            seed = chosen if wanted.seed is None else wanted.seed
            work = _Work(Job(id=uuid.uuid4().hex, state="queued", progress=0.0, seed=seed), wanted, body, key, trouble)
            self._works[work.job.id] = work
            self._by_key[key] = work.job.id
            self.taken += 1
            self._keep(work)
            while len(self._works) > MOST_JOBS:
                old, gone = self._works.popitem(last=False)
                self._by_key.pop(gone.key, None)
                if self._folder is not None:
                    (self._folder / f"{old}.json").unlink(missing_ok=True)
        self._pool.submit(self._run, work)
        return work.job

    def _refuse(self, wanted: Wanted) -> None:
        roles = {p.role for p in wanted.pictures}
        if wanted.kind in ("edit", "extension") and "base" not in roles:
            raise Refused(f"An {wanted.kind} needs the picture that it begins with, as its base.")
        if wanted.kind == "edit" and wanted.area is None:
            raise Refused("An edit needs its area.")
        if wanted.kind == "clip" and ("first" not in roles or wanted.seconds is None):
            raise Refused("A clip needs its first picture and its length in seconds.")
        if wanted.kind == "clip" and (wanted.seconds or 0) > MOST_CLIP_S:
            raise Refused(f"A clip lasts at most {MOST_CLIP_S:.0f} seconds here.")
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
        else:
            self._keep(work)
        return work.job

    def breaks(self, sha: str) -> bool:
        """Whether a picture is handed over broken, once: it belongs to a job whose answer breaks off."""
        with self._lock:
            for work in self._works.values():
                if work.trouble == "broken" and any(r.sha == sha for r in work.job.results):
                    work.trouble = ""
                    return True
        return False

    def wait(self, job_id: str, version: int, timeout_s: float) -> tuple[Job, int] | None:
        """The job and its count of changes once it has more of these than `version`, or as it stands when time is up."""
        work = self._works.get(job_id)
        if work is None:
            return None
        with work.changed:
            work.changed.wait_for(lambda: work.version > version, timeout_s)
            return work.job, work.version

    def close(self) -> None:
        """Stop; what is under way is gone on with by the next one, where there is a folder."""
        self._pool.shutdown(wait=self._folder is None, cancel_futures=True)

    def _run(self, work: _Work) -> None:
        if work.cancelled:
            if work.job.state == "running":
                self._tell(work, state="cancelled")
            return
        try:
            self._tell(work, state="running")
            if work.trouble == "slow":
                time.sleep(SLOW_S)
            if work.trouble == "refused":
                words = "This brief is not done here: one of its words is not allowed. Say it another way."
                return self._tell(work, state="refused", problem=_problem(422, "Refused", words))
            if work.trouble == "failed":
                return self._tell(
                    work, state="failed", problem=_problem(500, "Failed", "The painter fell ill. Ask again.")
                )
            self._make(work)
        except Exception as error:  # Whatever goes wrong is told to whoever asked.
            self._tell(
                work, state="failed", problem=_problem(500, "Failed", f"The picture could not be made: {error}.")
            )
        return None

    def _make(self, work: _Work) -> None:
        wanted, done = work.wanted, len(work.job.results)
        count = 1 if wanted.kind == "clip" else wanted.count
        for i in range(done, count):
            if work.cancelled:
                return self._tell(work, state="cancelled")
            seed = work.job.seed + i
            data, media_type, size, slips = self._clip(wanted) if wanted.kind == "clip" else self._picture(wanted, seed)
            sha, _ = self.pictures.put(data)
            self.slips[sha] = slips
            self.generations[sha] = self._generation(wanted)
            price = CREDITS[wanted.quality] * ((wanted.seconds or 1.0) if wanted.kind == "clip" else 1.0)
            result = Result(sha=sha, media_type=media_type, width=size[0], height=size[1], seed=seed, credits=price)
            with self._lock:
                self.made += 1
                self.credits += price
            job = work.job
            self._tell(
                work,
                results=[*job.results, result],
                credits=job.credits + price,
                progress=(i + 1) / count,
                **({"state": "done"} if i + 1 == count else {}),
            )
        return None

    def _picture(self, wanted: Wanted, seed: int) -> tuple[bytes, str, tuple[int, int], tuple[Slip, ...]]:
        sent = [
            Sent(self._pixels(p.sha), p.role, p.name or p.sha, p.weight, p.tall)
            for p in wanted.pictures
            if p.role in ROLES
        ]
        scene = staged(sent, seed, wanted.figure_height or height_in(wanted.text))
        scene, slips = staged_wrong(scene, chosen(scene, self.often))
        width, height = size_of(wanted.aspect, SIDES[wanted.quality])
        base = next((self._pixels(p.sha) for p in wanted.pictures if p.role == "base"), None)
        if wanted.kind == "edit" and base is not None and wanted.area is not None:
            made = painted(scene, base.shape[1], base.shape[0], rough=wanted.quality == "draft")
            mask = next((self._pixels(p.sha) for p in wanted.pictures if p.role == "mask"), None)
            area = (wanted.area.x, wanted.area.y, wanted.area.w, wanted.area.h)
            made, slips = edited(base, made, area, mask), ()
        elif wanted.kind == "extension" and base is not None:
            own_h, own_w = base.shape[:2]
            f = max(own_w / width, own_h / height)
            made, slips = extended(base, round(width * f), round(height * f)), ()
        else:
            made = painted(scene, width, height, rough=wanted.quality == "draft")
            generation = self._generation(wanted)
            if generation and drifts(wanted, self.often):
                slips = (*slips, Slip("drift"))
            made = marred(made, slips, scene.seed, generation)
        return _png(made), "image/png", (made.shape[1], made.shape[0]), slips

    def _clip(self, wanted: Wanted) -> tuple[bytes, str, tuple[int, int], tuple[Slip, ...]]:
        by_role = {p.role: self._pixels(p.sha) for p in wanted.pictures if p.role in ("first", "last")}
        first = by_role["first"]
        last = by_role["last"] if "last" in by_role else pushed_in(first)
        frames = [Image.fromarray(f) for f in clip_frames(first, last, wanted.seconds or 1.0)]
        out = io.BytesIO()
        frames[0].save(
            out,
            "WEBP",
            save_all=True,
            append_images=frames[1:],
            duration=round(1000 / FRAMES_A_SECOND),
            quality=80,
            method=0,
        )
        return out.getvalue(), "image/webp", frames[0].size, ()

    def _generation(self, wanted: Wanted) -> int:
        """How often a lineage was remade from its own pictures."""
        return max((self.generations.get(p.sha, 0) + 1 for p in wanted.pictures if p.role == "base"), default=0)

    def _keep(self, work: _Work) -> None:
        if self._folder is None:
            return
        kept = {
            "key": work.key,
            "body": work.body,
            "job": work.job.model_dump_json(),
            "trouble": work.trouble,
            "cancelled": work.cancelled,
            "slips": {r.sha: [asdict(x) for x in self.slips.get(r.sha, ())] for r in work.job.results},
            "generation": self._generation(work.wanted),
        }
        part = self._folder / f"{work.job.id}.part"
        part.write_text(json.dumps(kept), "utf-8")
        os.replace(part, self._folder / f"{work.job.id}.json")

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
            self._keep(work)
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
