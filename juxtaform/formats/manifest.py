"""The sequence manifest: references and shots of a sequence as JSON, to be checked without a screen."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

FORMAT = "juxtaform-sequence/1"
Id = Annotated[str, Field(min_length=1, max_length=120)]
BoxPx = Annotated[
    tuple[float, float, Annotated[float, Field(gt=0)], Annotated[float, Field(gt=0)]],
    Field(description="Left, top, width and height in pixels of the upright picture."),
]
Hex = Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]


class ManifestWrong(ValueError):
    """A manifest that cannot be used; `pointer` (RFC 6901) names the place."""

    def __init__(self, pointer: str, message: str) -> None:
        super().__init__(f"{pointer or '/'}: {message}")
        self.pointer, self.message = pointer, message


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ReferencePicture(_Strict):
    """A reference picture."""

    path: Annotated[str, Field(min_length=1, description="Relative to the manifest, with forward slashes.")]
    weight: Annotated[float, Field(ge=0, le=1, description="How much it counts.")] = 1.0
    view: Annotated[str, Field(description="Its name, such as `front`; the file's name if left out.")] = ""
    costume: Annotated[str, Field(description="The costume it shows; empty for the usual one.")] = ""
    box: Annotated[BoxPx | None, Field(description="Where the figure stands, if not alone on a plain ground.")] = None


class TraitBox(_Strict):
    """A trait of a character or prop: what must keep its colours and its place."""

    name: Annotated[str, Field(min_length=1)]
    colours: Annotated[list[Hex], Field(description="Its colours; measured inside the box if left out.")] = []
    box: Annotated[BoxPx | None, Field(description="Where it is on the reference picture named by `picture`.")] = None
    picture: Annotated[int, Field(ge=0, description="Index into the reference's pictures.")] = 0
    part: Annotated[Literal["figure", "face", "outfit"], Field(description="Which hold it belongs to.")] = "figure"
    costume: Annotated[str | None, Field(description="The costume it belongs to; left out: every costume.")] = None


class ManifestReference(_Strict):
    """A thread: a character, setting, style or prop with its reference pictures."""

    id: Id
    kind: Literal["character", "setting", "style", "prop"]
    name: str = ""
    aliases: list[str] = []
    pictures: list[ReferencePicture] = []
    traits: Annotated[
        list[TraitBox], Field(description="Left out or empty: traits are proposed from the pictures.")
    ] = []
    kept_colours: Annotated[
        dict[str, list[Hex]],
        Field(description="For a style: colours kept for one character, by that character's id."),
    ] = {}


class ManifestAppearance(_Strict):
    """Where a character or prop stands in a shot's picture."""

    reference: Id
    box: BoxPx
    costume: str = ""
    hold: Annotated[Literal["figure", "face", "outfit"], Field(description="What of it must hold.")] = "figure"


class ManifestShot(_Strict):
    """A shot, in the order of the sequence."""

    id: Id
    picture: Annotated[
        str | None, Field(description="Relative to the manifest; null for a shot without a picture.")
    ] = None
    style: Annotated[Id | None, Field(description="Id of a style; left out: the only style, if there is one.")] = None
    setting: Id | None = None
    words: Annotated[str, Field(description="What the picture shows, in words.")] = ""
    assigned: Annotated[
        list[Id] | None, Field(description="Ids of the threads that run through it; left out: words are not compared.")
    ] = None
    appearances: list[ManifestAppearance] = []


class Manifest(_Strict):
    """A sequence to be checked."""

    format: Annotated[Literal["juxtaform-sequence/1"], Field(description="The format and its version.")] = (
        "juxtaform-sequence/1"
    )
    title: str = ""
    references: list[ManifestReference] = []
    shots: Annotated[list[ManifestShot], Field(min_length=1)]


def schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of the manifest."""
    made = Manifest.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **made, "title": "Juxtaform sequence manifest"}


def read(path: Path) -> Manifest:
    """Read and check a manifest. Raises ManifestWrong with a JSON pointer to the first thing that is wrong."""
    try:
        raw = json.loads(path.read_text(encoding="utf-8-sig"))
    except OSError as error:
        raise ManifestWrong("", f"{path} cannot be read: {error.strerror or error}.") from error
    except UnicodeDecodeError as error:
        raise ManifestWrong("", "The manifest is not UTF-8 text.") from error
    except json.JSONDecodeError as error:
        raise ManifestWrong("", f"Not JSON: {error.msg} at line {error.lineno}, column {error.colno}.") from error
    except RecursionError as error:
        raise ManifestWrong("", "Not a manifest: nested too deeply.") from error
    try:
        manifest = Manifest.model_validate(raw)
    except ValidationError as error:
        first = error.errors()[0]
        raise ManifestWrong(_pointer(first["loc"]), f"{first['msg']}.") from error
    _cross_checked(manifest)
    return manifest


def picture_path(manifest: Path, relative: str, pointer: str) -> Path:
    """Where a picture of a manifest lies. Raises ManifestWrong when it leaves the manifest's folder or is not there."""
    root = manifest.resolve().parent
    if relative.startswith(("/", "\\")) or "\\" in relative or ":" in relative.split("/", 1)[0] or "\0" in relative:
        raise ManifestWrong(pointer, f"“{relative}” must be a path relative to the manifest, with forward slashes.")
    found = (root / relative).resolve()
    if not found.is_relative_to(root):
        raise ManifestWrong(pointer, f"“{relative}” leaves the manifest's folder; put the picture inside it.")
    if not found.is_file():
        raise ManifestWrong(pointer, f"There is no file “{relative}” beside the manifest.")
    return found


def _cross_checked(manifest: Manifest) -> None:
    kinds: dict[str, str] = {}
    for i, reference in enumerate(manifest.references):
        if reference.id in kinds:
            raise ManifestWrong(f"/references/{i}/id", f"The id “{reference.id}” is used twice.")
        kinds[reference.id] = reference.kind
        for j, trait in enumerate(reference.traits):
            if trait.picture >= len(reference.pictures):
                raise ManifestWrong(
                    f"/references/{i}/traits/{j}/picture", f"There are {len(reference.pictures)} pictures."
                )
            if trait.box is None and not trait.colours:
                raise ManifestWrong(f"/references/{i}/traits/{j}", "A trait needs a box or colours.")
    for i, reference in enumerate(manifest.references):
        for owner in reference.kept_colours:
            if owner not in kinds:
                raise ManifestWrong(
                    f"/references/{i}/kept_colours/{_escaped(owner)}", f"There is no reference “{owner}”."
                )
    ids: set[str] = set()
    for i, shot in enumerate(manifest.shots):
        if shot.id in ids:
            raise ManifestWrong(f"/shots/{i}/id", f"The id “{shot.id}” is used twice.")
        ids.add(shot.id)
        for name, kind in (("style", "style"), ("setting", "setting")):
            value = getattr(shot, name)
            if value is not None and kinds.get(value) != kind:
                raise ManifestWrong(f"/shots/{i}/{name}", f"There is no {kind} with the id “{value}”.")
        for j, thread in enumerate(shot.assigned or []):
            if thread not in kinds:
                raise ManifestWrong(f"/shots/{i}/assigned/{j}", f"There is no reference “{thread}”.")
        for j, appearance in enumerate(shot.appearances):
            where = f"/shots/{i}/appearances/{j}"
            if kinds.get(appearance.reference) not in ("character", "prop"):
                raise ManifestWrong(f"{where}/reference", f"There is no character or prop “{appearance.reference}”.")
            owner_pictures = next(r.pictures for r in manifest.references if r.id == appearance.reference)
            if not owner_pictures:
                raise ManifestWrong(f"{where}/reference", f"“{appearance.reference}” has no reference picture.")
            if shot.picture is None:
                raise ManifestWrong(where, "An appearance needs a picture of its shot.")


def _pointer(location: tuple[int | str, ...]) -> str:
    return "".join(f"/{_escaped(str(part))}" for part in location)


def _escaped(part: str) -> str:
    return part.replace("~", "~0").replace("/", "~1")
