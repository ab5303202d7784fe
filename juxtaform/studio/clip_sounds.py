"""What is heard in a clip, laid on its shot as a sound of its own: to be turned down, moved and heard in every file out."""

from __future__ import annotations

import hashlib
from pathlib import Path

from sqlalchemy import select

from juxtaform.media import clips
from juxtaform.records.models import Picture, Sound, Take
from juxtaform.studio import sounds
from juxtaform.studio.by_worker import by_worker
from juxtaform.studio.clips import file_of
from juxtaform.studio.sounds import NewSound
from juxtaform.studio.workspace import Changed, NotPossible, Workspace, found


def lay(ws: Workspace, project_id: str, take_id: str) -> Changed:
    """Lay what is heard in the shown part of a clip on its shot, from its beginning. Raises NotThere, NotPossible."""
    with ws.database.reading() as s:
        take = found(s, Take, take_id, project_id)
        clip = found(s, Picture, take.picture_sha).clip
        if not clip:
            raise NotPossible("This take is no clip.")
        start, end = take.trim or (0.0, float(clip["seconds"]))
        new = NewSound(take.shot_id, take.name, "effect", start_s=0.0)
        sha = take.picture_sha
    path, kind = file_of(ws, sha)
    heard = by_worker(ws, heard_task, str(path), kind, start, end)
    with ws.database.reading() as s:
        same = Sound.sound_sha == hashlib.sha256(heard).hexdigest()
        if s.scalar(select(Sound.id).where(Sound.shot_id == new.shot_id, same)):
            raise NotPossible("What is heard in this clip lies on the shot already.")
    return sounds.add(ws, project_id, heard, new)


def heard_task(path: str, kind: str, start: float, end: float) -> bytes:
    """Runs in a worker process. Raises PictureRefused, SoundRefused."""
    return clips.sound_of(Path(path), kind, start, end)
