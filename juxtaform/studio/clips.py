"""Clips: taken in, shown frame by frame, trimmed; frames out as takes; and clips asked of a service."""

from __future__ import annotations

import hashlib
import io
import tempfile
from collections.abc import Collection
from concurrent.futures import BrokenExecutor
from concurrent.futures import TimeoutError as TooLong
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image
from PIL.PngImagePlugin import PngInfo
from sqlalchemy import select
from sqlalchemy.orm import Session

from juxtaform.core.brief.motion import Form, MotionShot, as_text, motion_brief
from juxtaform.core.colour.spaces import Pixels
from juxtaform.limits import MOST_CLIP_BYTES, MOST_CLIP_WORK_S
from juxtaform.media import clips
from juxtaform.media.clips import ClipFacts
from juxtaform.media.decode import PictureRefused
from juxtaform.media.store import TEMPORARY, StoredPicture
from juxtaform.records.models import Picture, Project, Service, Shot, Take, new_id
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import pictures
from juxtaform.studio.areas import child_of
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.desk import profiles_of
from juxtaform.studio.making import Asked, Quality
from juxtaform.studio.remaking import Remake, ask_on
from juxtaform.studio.workspace import Changed, NotPossible, NotThere, Workspace, edited, found

NEAR_S = 0.5
"""The sharpest frame is looked for so far before and after a point."""


@dataclass(frozen=True)
class ClipOrder:
    """A clip to be made by a service from a take's picture: how long, to which take's picture (none: wherever it leads), and what moves."""

    take_id: str
    seconds: float
    last_take_id: str = ""
    service_id: str = ""
    model: str = ""
    quality: Quality = "draft"


def put(ws: Workspace, data: bytes, media_type: str) -> StoredPicture:
    """Store a clip and its first frame; the picture is that of the frame. Raises PictureRefused, OSError."""
    if len(data) > MOST_CLIP_BYTES:
        raise PictureRefused(f"The clip has {len(data) >> 20} MB; the most is {MOST_CLIP_BYTES >> 20} MB.")
    facts, poster = _opened(ws, data, media_type)
    picture = ws.store.put(poster)
    ws.store.put_clip(picture.sha, data)
    return replace(picture, clip=_known(facts))


def proved(ws: Workspace, data: bytes, poster: bytes) -> dict[str, object]:
    """What is known of a clip that comes with its first frame, which must name it. Raises PictureRefused."""
    kind = clips.clip_type(data)
    with Image.open(io.BytesIO(poster), formats=("PNG",)) as picture:
        named = getattr(picture, "text", {}).get("Clip")
    if kind is None or named != hashlib.sha256(data).hexdigest():
        raise PictureRefused("This is not the clip that its first frame names. The bundle is damaged.")
    return _known(_opened(ws, data, kind)[0])


def _known(facts: ClipFacts) -> dict[str, object]:
    return {
        "media_type": facts.media_type,
        "frames": facts.frames,
        "seconds": facts.seconds,
        "has_sound": facts.has_sound,
    }


def _opened(ws: Workspace, data: bytes, media_type: str) -> tuple[ClipFacts, bytes]:
    with tempfile.NamedTemporaryFile(suffix=f".{clips.ENDINGS[media_type]}") as file:
        file.write(data)
        file.flush()
        opened = ws.workers.executor().submit(open_task, file.name, media_type, hashlib.sha256(data).hexdigest())
        try:
            return opened.result(MOST_CLIP_WORK_S)
        except TooLong as error:
            raise PictureRefused("The clip takes too long to read. Export it smaller or shorter.") from error
        except BrokenExecutor as error:
            ws.workers.drop()
            raise PictureRefused("The clip broke the reader. Save or export it again.") from error


def open_task(path: str, media_type: str, sha: str) -> tuple[ClipFacts, bytes]:
    """What is known of a clip, and its first frame as a PNG that names the clip; runs in a worker process, so that a hostile file harms nobody else.
    Raises PictureRefused."""
    facts = clips.facts_of(Path(path), media_type)
    first = clips.frame_at(Path(path), media_type, 0.0)
    return facts, _png(first, sha)


def file_of(ws: Workspace, sha: str) -> tuple[Path, str]:
    """Where a clip lies, by its first frame, and its media type. Raises NotThere."""
    with ws.database.reading() as s:
        picture = s.get(Picture, sha)
        kind = (picture.clip or {}).get("media_type") if picture else None
    try:
        path = ws.store.clip_path(sha)
    except KeyError as error:
        raise NotThere("There is no such clip.") from error
    if not kind or not path.exists():
        raise NotThere("There is no such clip.")
    return path, str(kind)


_as_they_are: set[Path] = set()
"""Clips that browsers play as they are: a browser fetches one piece by piece, and each piece would open it again."""


def film_of(ws: Workspace, sha: str) -> tuple[Path, str]:
    """Where a clip lies as a browser plays it, and its media type: the clip itself, or a film that is made of it once. Raises NotThere, NotPossible."""
    path, kind = file_of(ws, sha)
    film = ws.store.film_path(sha)
    if film.exists():
        return film, clips.WEBM
    if path in _as_they_are:
        return path, kind
    fresh = film.with_name(f"{TEMPORARY}{new_id()}")
    try:
        if not by_worker(ws, film_task, str(path), kind, str(fresh)):
            _as_they_are.add(path)
            return path, kind
        fresh.replace(film)
    finally:
        fresh.unlink(missing_ok=True)
    return film, clips.WEBM


def film_task(path: str, kind: str, to: str) -> bool:
    """Write a clip as a film unless browsers play it as it is; whether it was written. Runs in a worker process. Raises PictureRefused, OSError."""
    if clips.plays(Path(path), kind):
        return False
    clips.as_film(Path(path), kind, Path(to))
    return True


def frame(ws: Workspace, sha: str, at_s: float, side: int) -> bytes:
    """The frame of a clip at a time, as WebP. Raises NotThere."""
    path, kind = file_of(ws, sha)
    return ws.store.as_webp(by_worker(ws, frame_task, str(path), kind, at_s, side))


def strip(ws: Workspace, sha: str, count: int, side: int) -> bytes:
    """So many frames of a clip beside each other, evenly from its beginning to its end, as WebP. Raises NotThere."""
    path, kind = file_of(ws, sha)
    with ws.database.reading() as s:
        seconds = float((found(s, Picture, sha).clip or {})["seconds"])
    return ws.store.as_webp(by_worker(ws, strip_task, str(path), kind, count, side, seconds))


def frame_task(path: str, kind: str, at_s: float, side: int | None) -> Pixels:
    """Runs in a worker process. Raises PictureRefused."""
    return clips.frame_at(Path(path), kind, at_s, side)


def strip_task(path: str, kind: str, count: int, side: int, seconds: float) -> Pixels:
    """Runs in a worker process. Raises PictureRefused."""
    wanted = [seconds * (i + 0.5) / count for i in range(count)]
    seen: list[Pixels] = []
    last: Pixels | None = None
    for at, pixels in clips.frames(Path(path), kind, side):
        while len(seen) < count and last is not None and at > wanted[len(seen)]:
            seen.append(last)
        last = pixels
        if len(seen) == count:
            break
    assert last is not None
    seen += [last] * (count - len(seen))
    return np.concatenate(seen, axis=1)


def trim(
    ws: Workspace, project_id: str, take_id: str, part: tuple[float, float] | None, revision: int | None = None
) -> Changed:
    """Show a part of a clip, from when to when in s; none: all of it. Raises NotThere, NotPossible, Conflict."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        sha, seconds = take.picture_sha, _seconds(s, take)
    if part is not None:
        start, end = max(0.0, part[0]), min(seconds, part[1])
        if end - start < 0.04:
            raise NotPossible("Nothing of the clip would be left. Move the ends apart.")
        part = (round(start, 3), round(end, 3))
    shown = ends(ws, sha, part)
    with ws.writing(project_id, "trimmed a clip" if part else "took a clip’s trim back") as w:
        take = found(w.session, Take, take_id, project_id)
        edited(take, revision, {"trim": list(part) if part else None, **vars(shown)})
    return w.changed


@dataclass(frozen=True)
class Ends:
    """The frames that a take shows first and last, by the digests of their pictures, where these are not the take's own picture."""

    first_sha: str | None = None
    last_sha: str | None = None


def ends(ws: Workspace, sha: str, part: tuple[float, float] | None = None) -> Ends:
    """The ends of a clip, or of a part of it, as pictures in the store; none of what is no clip, or cannot be read there."""
    with ws.database.reading() as s:
        picture = s.get(Picture, sha)
        clip = picture.clip if picture else None
    if not clip:
        return Ends()
    start, end = part or (0.0, float(clip["seconds"]))
    try:
        path, kind = file_of(ws, sha)
        first, last = by_worker(ws, ends_task, str(path), kind, start, end)
    except (NotThere, NotPossible):
        return Ends()
    kept = [None if data is None else ws.store.put(data) for data in (first, last)]
    with ws.database.session() as s:
        for stored in kept:
            if stored is not None:
                pictures.keep(s, stored)
    return Ends(*(stored.sha if stored else None for stored in kept))


def ends_of(ws: Workspace, shas: Collection[str]) -> dict[str, Ends]:
    """The ends of all that are clips among some pictures, by digest; none of the others."""
    with ws.database.reading() as s:
        known = s.execute(select(Picture.sha, Picture.clip).where(Picture.sha.in_(shas))).tuples().all()
    moving = {sha for sha, clip in known if clip}
    return {sha: ends(ws, sha) if sha in moving else Ends() for sha in shas}


def ends_task(path: str, kind: str, start: float, end: float) -> tuple[bytes | None, bytes]:
    """The frame that a part of a clip begins with, where it is not the clip's first, and that which is seen when it ends, as PNG; runs in a worker process.
    Raises PictureRefused."""
    last = clips.frame_at(Path(path), kind, max(start, end - 0.002))
    return _png(clips.frame_at(Path(path), kind, start)) if start > 0 else None, _png(last)


def frame_out(
    ws: Workspace, project_id: str, take_id: str, at_s: float, shot_id: str | None = None, sharpest: bool = False
) -> Changed:
    """Make a take of one frame of a clip, in its shot or another one: the frame at a time, or the sharpest near it. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        seconds = _seconds(s, take)
        shot = found(s, Shot, shot_id or take.shot_id, project_id)
        shot_id, sha = shot.id, take.picture_sha
    if not 0 <= at_s <= seconds + 0.001:
        raise NotPossible(f"The clip ends at {seconds:.1f} s.")
    path, kind = file_of(ws, sha)
    at, data = by_worker(ws, out_task, str(path), kind, at_s, sharpest)
    picture = ws.store.put(data)
    with ws.database.session() as s:
        pictures.keep(s, picture)
    with ws.writing(project_id, "took a frame out of a clip") as w:
        take = found(w.session, Take, take_id, project_id)
        fresh = child_of(w.session, take, picture.sha, f"{take.name}, at {at:.2f} s", {})
        if shot_id != take.shot_id:
            last = w.session.scalars(select(Take.position).where(Take.shot_id == shot_id)).all()
            fresh.shot_id, fresh.parent_id, fresh.not_here = shot_id, None, []
            fresh.position, fresh.picked = max(last, default=-1.0) + 1, not last
        w.add(fresh)
    return w.changed


def out_task(path: str, kind: str, at_s: float, sharpest: bool) -> tuple[float, bytes]:
    """A frame as PNG and when it is; runs in a worker process. Raises PictureRefused."""
    if not sharpest:
        return at_s, _png(clips.frame_at(Path(path), kind, at_s))
    best: tuple[float, float] | None = None
    for at, pixels in clips.frames(Path(path), kind, 640, max(0.0, at_s - NEAR_S)):
        if at > at_s + NEAR_S:
            break
        grey = pixels.astype(np.float32).mean(axis=-1)
        seen = float(np.abs(np.diff(grey, axis=0)[:, 1:] + np.diff(grey, axis=1)[1:]).mean())
        if best is None or seen > best[0]:
            best = (seen, at)
    at = best[1] if best else at_s
    return at, _png(clips.frame_at(Path(path), kind, at))


def order(ws: Workspace, project_id: str, wanted: ClipOrder) -> list[str]:
    """Ask a service for a clip that begins with a take's picture; returns the jobs. Raises NotPossible, NotThere."""
    with ws.database.reading() as s:
        take = found(s, Take, wanted.take_id, project_id)
        row = found(s, Shot, take.shot_id)
        said = MotionShot(
            row.motion,
            row.move,
            wanted.seconds,
            "the first frame",
            "the last frame" if wanted.last_take_id else "",
            (tuple(row.move_start), tuple(row.move_end)) if row.move_start and row.move_end else None,
        )
        form = _motion_form(s, project_id, wanted.service_id)
        last = found(s, Take, wanted.last_take_id, project_id).picture_sha if wanted.last_take_id else ""
        first = take.picture_sha

    def made(request: Asked, model: ModelSaid) -> Asked:
        if model.clip_seconds_most and wanted.seconds > model.clip_seconds_most:
            raise NotPossible(f"{model.name} makes clips of at most {model.clip_seconds_most:g} s.")
        ends = [("first", first), *([("last", last)] if last else [])]
        sent = [{"sha": sha, "role": role, "name": "", "hold": "", "weight": 1.0} for role, sha in ends]
        kept = [p for p in request.wanted["pictures"] if p["role"] != "base"]
        body = {
            **request.wanted,
            "kind": "clip",
            "motion": as_text(motion_brief(said), form)[:1000],
            "seconds": wanted.seconds,
            "pictures": [*kept, *sent],
        }
        return Asked(body, request.made_from, request.cut)

    again = Remake(wanted.take_id, 1, wanted.service_id, wanted.model, wanted.quality, from_picture=True)
    return ask_on(ws, project_id, again, "clip", "makes clips", made)


def _motion_form(s: Session, project_id: str, service_id: str) -> Form:
    """How the service wants a motion brief, by the project's own profile of its name."""
    service = s.get(Service, service_id) if service_id else None
    own = profiles_of(found(s, Project, project_id))
    return next((p.motion for p in own if service is not None and p.name == service.name), "sentences")


def _seconds(s: Session, take: Take) -> float:
    clip = found(s, Picture, take.picture_sha).clip
    if not clip:
        raise NotPossible("This take is no clip.")
    return float(clip["seconds"])


def _png(pixels: Pixels, clip: str = "") -> bytes:
    """A frame as PNG; the first frame of a clip names it, so that clips that begin alike have pictures of their own."""
    out, info = io.BytesIO(), PngInfo()
    if clip:
        info.add_text("Clip", clip)
    Image.fromarray(pixels).save(out, "PNG", pnginfo=info)
    return out.getvalue()
