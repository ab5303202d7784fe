"""Routes of briefs: composed, compared, edited, preflighted, handed over; and of versions of references."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import Field

from juxtaform.records.rules import Digest, FileName, Id, Label, Words
from juxtaform.studio import briefs, handover, mending, versions
from juxtaform.studio.briefs import ShotBrief
from juxtaform.studio.values import Piece, Profile
from juxtaform.web.body import Body
from juxtaform.web.deps import ERRORS, TheFindings, Ws, attachment, file_answer, out
from juxtaform.web.rows import ChangedOut

router = APIRouter(prefix="/projects/{project_id}", tags=["briefs"], responses=ERRORS)
ProfileName = Annotated[
    str | None, Query(max_length=80, description="A profile's name; the project's own when left out.")
]


class PhraseEdit(Body):
    """A phrase's new words (empty: leave it out); null takes the edit back."""

    key: Annotated[str, Field(max_length=80)]
    now: Words | None


class Varied(Body):
    key: Annotated[str, Field(max_length=80)]
    now: Words


class MendIn(Body):
    key: Annotated[str, Field(max_length=80)]
    profile: Label | None = None


class SentIn(Body):
    shot_ids: Annotated[list[Id], Field(min_length=1, max_length=5000)]
    profile: Label | None = None


class Replacement(Body):
    """The new picture, and the shot from which it holds (null: everywhere)."""

    sha: Digest
    name: FileName = ""
    from_shot_id: Id | None = None


@router.get("/profiles", summary="The profiles that briefs can be fitted to")
def profiles(ws: Ws, project_id: str) -> list[Profile]:
    return handover.profiles(ws, project_id)


@router.get("/shots/{shot_id}/brief", summary="A shot's brief as it would leave")
def brief(findings: TheFindings, project_id: str, shot_id: str, profile: ProfileName = None) -> ShotBrief:
    return findings.brief(project_id, shot_id, profile)


@router.get("/shots/{shot_id}/brief/difference", summary="What differs from another brief, word by word")
def difference(
    ws: Ws,
    project_id: str,
    shot_id: str,
    other: Annotated[str, Query(description="before, sent, plain, or another shot's id")] = "before",
    profile: ProfileName = None,
) -> list[Piece]:
    return briefs.compared(ws, project_id, shot_id, other, profile)


@router.put("/shots/{shot_id}/brief/phrase", summary="Edit a phrase of a brief by hand, or take the edit back")
def edit_phrase(ws: Ws, project_id: str, shot_id: str, body: PhraseEdit) -> ChangedOut:
    return out(mending.edit_phrase(ws, project_id, shot_id, body.key, body.now))


@router.post("/shots/{shot_id}/brief/mend", summary="Do what a finding offers")
def mend(ws: Ws, project_id: str, shot_id: str, body: MendIn) -> ChangedOut:
    return out(mending.mend(ws, project_id, shot_id, body.key, body.profile))


@router.get("/takes/{take_id}/words", summary="The phrases that a take was made from, as (key, words)")
def take_words(ws: Ws, project_id: str, take_id: str) -> list[tuple[str, str]]:
    return briefs.words_of_take(ws, project_id, take_id)


@router.post("/takes/{take_id}/vary", summary="Start again from a take with one phrase changed")
def vary(ws: Ws, project_id: str, take_id: str, body: Varied) -> ChangedOut:
    return out(mending.vary(ws, project_id, take_id, body.key, body.now))


@router.post("/briefs/sent", summary="Remember briefs that left by the clipboard", status_code=204)
def sent(ws: Ws, project_id: str, body: SentIn) -> None:
    handover.remember(ws, project_id, body.shot_ids, body.profile)


@router.get(
    "/briefs.{form}",
    summary="All briefs, or some, as one file",
    response_class=Response,
    responses=file_answer("application/octet-stream"),
)
def hand_over(
    ws: Ws,
    project_id: str,
    form: Literal["md", "csv", "json", "zip"],
    profile: ProfileName = None,
    shots: Annotated[list[str] | None, Query(description="Only these shots")] = None,
) -> Response:
    file = handover.file(ws, project_id, form, profile, shots)
    return attachment(file.name, file.data, file.media_type)


@router.get("/references/{reference_id}/stale", summary="Shots whose pictures a replacement would make stale")
def would_be_stale(ws: Ws, project_id: str, reference_id: str, from_shot_id: str | None = None) -> list[str]:
    return versions.would_be_stale(ws, project_id, reference_id, from_shot_id)


@router.post("/references/{reference_id}/replace", summary="Put a new version in a reference's place")
def replace(ws: Ws, project_id: str, reference_id: str, body: Replacement) -> ChangedOut:
    return out(versions.replace_reference(ws, project_id, reference_id, body.sha, body.name, body.from_shot_id))
