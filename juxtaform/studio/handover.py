"""Handing briefs over: as one file, or by the clipboard; what left is remembered."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import quote

from juxtaform.core.brief.compose import Picture
from juxtaform.core.brief.trimming import Profile
from juxtaform.formats import briefs as forms
from juxtaform.formats.briefs import OutgoingBrief
from juxtaform.formats.fonts import truetype
from juxtaform.media.plates import drawn_plate
from juxtaform.records.models import Project
from juxtaform.studio import briefs
from juxtaform.studio.desk import Desk, profiles_of
from juxtaform.studio.fitting import fitting_file
from juxtaform.studio.workspace import NotPossible, Workspace, found

MEDIA = {
    "md": "text/markdown; charset=utf-8",
    "csv": "text/csv; charset=utf-8",
    "json": "application/json",
    "zip": "application/zip",
}
ENDINGS = {"image/png": "png", "image/jpeg": "jpg", "image/webp": "webp"}
PLATE_PX = 1536


@dataclass(frozen=True)
class BriefsFile:
    """Briefs as one file; the name is percent-encoded."""

    name: str
    data: bytes
    media_type: str


def profiles(ws: Workspace, project_id: str) -> list[Profile]:
    """The profiles to choose from."""
    with ws.database.session() as s:
        return profiles_of(found(s, Project, project_id))


def file(ws: Workspace, project_id: str, form: str, profile: str | None, shots: Sequence[str] | None) -> BriefsFile:
    """All briefs, or those of some shots, as one file. Raises NotPossible when there is none."""
    out, title, limits = _outgoing(ws, project_id, profile, shots)
    if form == "md":
        data = forms.as_markdown(title, limits.name, out)
    elif form == "csv":
        data = forms.as_csv(out)
    elif form == "json":
        data = forms.as_json(title, limits.name, out)
    else:
        data = forms.as_zip(title, limits.name, out, _Files(ws, limits).file, _Files(ws, limits).plate)
    briefs.sent(ws, project_id, [(o.brief.shot, o.brief.text) for o in out])
    plain = re.sub(r"[\\/:*?\"<>|\x00-\x1f]+", " ", title).strip() or "briefs"
    return BriefsFile(quote(f"{plain} briefs.{form}"), data, MEDIA[form])


def remember(ws: Workspace, project_id: str, shot_ids: Sequence[str], profile: str | None) -> None:
    """Remember the briefs of some shots as they left by the clipboard."""
    out, _, _ = _outgoing(ws, project_id, profile, shot_ids)
    briefs.sent(ws, project_id, [(o.brief.shot, o.brief.text) for o in out])


def _outgoing(
    ws: Workspace, project_id: str, profile: str | None, shots: Sequence[str] | None
) -> tuple[list[OutgoingBrief], str, Profile]:
    with ws.database.session() as s:
        desk = Desk.read(s, project_id)
        composed = list(briefs.all_briefs(desk, profile, shots))
        out = []
        for b in composed:
            shot = desk.shot(desk.at[b.shot_id])
            out.append(OutgoingBrief(b.fitted.brief, b.fitted.left, shot.aspect, shot.seed))
        if not out:
            raise NotPossible("There is no settled shot to hand over. Accept the proposals, or insert a shot.")
        return out, desk.project.title, desk.profile(profile)


class _Files:
    """The picture files that go out with briefs, no larger than the profile takes."""

    def __init__(self, ws: Workspace, profile: Profile) -> None:
        self._ws, self._profile = ws, profile

    def file(self, _: OutgoingBrief, p: Picture) -> tuple[bytes, str]:
        file = fitting_file(self._ws.store, p.sha, self._profile.picture_side_px)
        return file.data, ENDINGS.get(file.media_type, "png")

    def plate(self, o: OutgoingBrief) -> bytes | None:
        views = [p for p in o.brief.pictures if p.role == "view"]
        if not self._profile.plate or not views:
            return None
        side = self._profile.picture_side_px or PLATE_PX
        return drawn_plate([(self._ws.store.pixels(p.sha), p.label) for p in views], truetype("sans", 500), side)
