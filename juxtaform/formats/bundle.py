"""A whole project as one open bundle: a zip of JSON and pictures. The same project gives the same bytes.

`bundle.json` holds every row by table; `manifest.json` the sequence for a check without a screen; `marks.json` who stands where,
as W3C Web Annotations; `pictures/` and `sounds/` each file once, named by the SHA-256 of its bytes.
"""

from __future__ import annotations

import hashlib
import json
import lzma
import stat
import struct
import zipfile
import zlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import PurePosixPath
from typing import IO, Any

from juxtaform.formats.zips import put
from juxtaform.limits import MOST_BUNDLE_BYTES, MOST_BUNDLE_ENTRIES, MOST_BUNDLE_JSON_BYTES, MOST_BUNDLE_RATIO
from juxtaform.media.clips import ENDINGS as CLIP_ENDINGS
from juxtaform.media.sounds import ENDINGS as SOUND_ENDINGS

FORMAT, VERSION = "juxtaform-bundle", 1
ENDINGS = {"image/png": "png", "image/jpeg": "jpg", "image/webp": "webp"}
_UNREADABLE = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    struct.error,
    OSError,
    NotImplementedError,
    RuntimeError,
    EOFError,
    ValueError,
    IndexError,
    OverflowError,
)
"""What a damaged zip file makes its reader say."""
CONTEXT = "http://www.w3.org/ns/anno.jsonld"

Row = dict[str, Any]


class BundleWrong(ValueError):
    """A bundle that cannot be taken in; the message names the entry or place and what is wrong there."""


@dataclass(frozen=True)
class BundledPicture:
    """A picture of a bundle: its digest and the ending of its file; and that of the clip of which it is the first frame."""

    sha: str
    ending: str
    clip: str = ""

    @property
    def path(self) -> str:
        return f"pictures/{self.sha}.{self.ending}"

    @property
    def clip_path(self) -> str:
        return f"clips/{self.sha}.{self.clip}"


@dataclass(frozen=True)
class Bundle:
    """A project's rows by table, its pictures, the sequence manifest (None without shots), and its marks as annotations."""

    tables: Mapping[str, Sequence[Row]]
    pictures: Sequence[BundledPicture]
    manifest: Row | None
    marks: Row
    sounds: Mapping[str, str] = field(default_factory=dict)
    """Endings of sounds' files, by digest."""


def sound_path(sha: str, ending: str) -> str:
    """Where a sound lies in a bundle."""
    return f"sounds/{sha}.{ending}"


def write(
    bundle: Bundle,
    picture: Callable[[str], bytes],
    out: IO[bytes],
    clip: Callable[[str], bytes] | None = None,
    sound: Callable[[str], bytes] | None = None,
) -> None:
    """Write a bundle; `picture` gives a picture's bytes by digest, `clip` those of the clip that begins with it, `sound` those of a sound."""
    document = {
        "format": FORMAT,
        "version": VERSION,
        "tables": bundle.tables,
        "pictures": {p.sha: p.ending for p in bundle.pictures},
    }
    filmed = {p.sha: p.clip for p in bundle.pictures if p.clip}
    if filmed:
        document["clips"] = filmed
    if bundle.sounds:
        document["sounds"] = dict(bundle.sounds)
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        put(archive, "bundle.json", _json(document))
        if bundle.manifest is not None:
            put(archive, "manifest.json", _json(bundle.manifest))
        put(archive, "marks.json", _json(bundle.marks))
        for p in sorted(bundle.pictures, key=lambda p: p.sha):
            put(archive, p.path, picture(p.sha), packed=False)
            if p.clip and clip is not None:
                put(archive, p.clip_path, clip(p.sha), packed=False)
        for sha, ending in sorted(bundle.sounds.items()):
            if sound is not None:
                put(archive, sound_path(sha, ending), sound(sha), packed=False)


class OpenBundle:
    """A bundle being read: checked as a whole when it is opened, its pictures when they are read. Raises BundleWrong."""

    def __init__(self, file: IO[bytes], name: str = "The bundle") -> None:
        try:
            self._archive = zipfile.ZipFile(file)
        except _UNREADABLE as error:
            raise BundleWrong(f"{name} is no zip file, or not whole ({error}).") from error
        self._entries = _checked(self._archive, name)
        document = self._read_json("bundle.json")
        if document.get("format") != FORMAT:
            raise BundleWrong(f"bundle.json: the format is {document.get('format')!r}, not {FORMAT!r}.")
        if document.get("version") != VERSION:
            raise BundleWrong(
                f"bundle.json: version {document.get('version')!r} is not known here (known: {VERSION}). Use a newer Juxtaform."
            )
        tables, pictures = document.get("tables"), document.get("pictures")
        if not isinstance(tables, dict) or not all(
            isinstance(r, list) and all(isinstance(x, dict) for x in r) for r in tables.values()
        ):
            raise BundleWrong("bundle.json: `tables` must be lists of rows by table.")
        if not isinstance(pictures, dict) or not all(
            isinstance(e, str) and e in ENDINGS.values() for e in pictures.values()
        ):
            raise BundleWrong("bundle.json: `pictures` must be file endings by digest.")
        filmed = document.get("clips", {})
        if not isinstance(filmed, dict) or not all(
            sha in pictures and isinstance(e, str) and e in CLIP_ENDINGS.values() for sha, e in filmed.items()
        ):
            raise BundleWrong("bundle.json: `clips` must be file endings by the digest of a picture.")
        heard = document.get("sounds", {})
        if not isinstance(heard, dict) or not all(
            isinstance(e, str) and e in SOUND_ENDINGS.values() for e in heard.values()
        ):
            raise BundleWrong("bundle.json: `sounds` must be file endings by digest.")
        self.sounds: dict[str, str] = heard
        self.tables: dict[str, list[Row]] = tables
        self.pictures = [BundledPicture(sha, e, filmed.get(sha, "")) for sha, e in sorted(pictures.items())]
        for p in self.pictures:
            for path in (p.path, *([p.clip_path] if p.clip else [])):
                if path not in self._entries:
                    raise BundleWrong(f"{path} is missing from the bundle.")
        for sha, ending in heard.items():
            if sound_path(sha, ending) not in self._entries:
                raise BundleWrong(f"{sound_path(sha, ending)} is missing from the bundle.")

    def clip(self, p: BundledPicture) -> bytes:
        """The bytes of the clip that begins with a picture. Raises BundleWrong."""
        return self._bytes(p.clip_path)

    def picture(self, p: BundledPicture) -> bytes:
        """A picture's bytes, proved by their digest. Raises BundleWrong."""
        return self._proved(p.path, p.sha)

    def sound(self, sha: str) -> bytes:
        """A sound's bytes, proved by their digest. Raises BundleWrong."""
        return self._proved(sound_path(sha, self.sounds[sha]), sha)

    def _proved(self, path: str, sha: str) -> bytes:
        data = self._bytes(path)
        if hashlib.sha256(data).hexdigest() != sha:
            raise BundleWrong(f"{path}: its bytes are not those of its name (SHA-256 differs). The bundle is damaged.")
        return data

    def _read_json(self, name: str) -> Row:
        if name not in self._entries:
            raise BundleWrong(f"{name} is missing: this is no bundle of a project.")
        if self._entries[name].file_size > MOST_BUNDLE_JSON_BYTES:
            raise BundleWrong(f"{name} is larger than any project's can be.")
        try:
            value = json.loads(self._bytes(name))
        except (ValueError, RecursionError) as error:
            raise BundleWrong(f"{name} is no whole JSON ({str(error)[:200]}).") from error
        if not isinstance(value, dict):
            raise BundleWrong(f"{name} must hold an object.")
        return value

    def _bytes(self, name: str) -> bytes:
        entry = self._entries[name]
        try:
            with self._archive.open(entry) as file:
                data = file.read(entry.file_size + 1)
        except _UNREADABLE as error:
            raise BundleWrong(f"{name} cannot be read: {error}. The bundle is damaged.") from error
        if len(data) != entry.file_size:
            raise BundleWrong(f"{name} is not as long as the bundle says. The bundle is damaged.")
        return data


def _checked(archive: zipfile.ZipFile, name: str) -> dict[str, zipfile.ZipInfo]:
    """The entries of a zip by name; paths that lead out, links, doubles, and zip bombs are refused by name."""
    entries: dict[str, zipfile.ZipInfo] = {}
    infos = archive.infolist()
    if len(infos) > MOST_BUNDLE_ENTRIES:
        raise BundleWrong(f"{name} has {len(infos)} entries; {MOST_BUNDLE_ENTRIES} at most are taken.")
    total = 0
    for info in infos:
        path = PurePosixPath(info.filename)
        if (
            path.is_absolute()
            or ".." in path.parts
            or "\\" in info.filename
            or ":" in info.filename
            or "\x00" in info.filename
        ):
            raise BundleWrong(f"{info.filename!r} leads out of the bundle. It is not taken in.")
        if stat.S_ISLNK(info.external_attr >> 16):
            raise BundleWrong(f"{info.filename!r} is a link. It is not taken in.")
        if info.filename in entries:
            raise BundleWrong(f"{info.filename!r} is in the bundle twice.")
        total += info.file_size
        if info.file_size > 1 << 20 and info.file_size > MOST_BUNDLE_RATIO * max(1, info.compress_size):
            raise BundleWrong(
                f"{info.filename!r} unpacks to more than {MOST_BUNDLE_RATIO} times its size: a zip bomb. It is not taken in."
            )
        if total > MOST_BUNDLE_BYTES:
            raise BundleWrong(f"{name} unpacks to more than {MOST_BUNDLE_BYTES >> 30} GB. It is not taken in.")
        entries[info.filename] = info
    return entries


def web_annotations(marks: Sequence[tuple[str, str, tuple[float, float, float, float], str, str]]) -> Row:
    """Marks as a W3C Web Annotation collection; each mark as (id, picture path, box in px, thread id, thread name).

    https://www.w3.org/TR/annotation-model/ with media fragments (`xywh=pixel:`) as selectors.
    """
    items = [
        {
            "id": f"urn:juxtaform:mark:{mark}",
            "type": "Annotation",
            "motivation": "identifying",
            "body": {"type": "TextualBody", "purpose": "identifying", "value": name, "format": "text/plain"},
            "target": {
                "source": path,
                "selector": {
                    "type": "FragmentSelector",
                    "conformsTo": "http://www.w3.org/TR/media-frags/",
                    "value": "xywh=pixel:" + ",".join(f"{v:g}" for v in box),
                },
            },
            "creator": f"urn:juxtaform:thread:{thread}",
        }
        for mark, path, box, thread, name in marks
    ]
    return {
        "@context": CONTEXT,
        "id": "urn:juxtaform:marks",
        "type": "AnnotationCollection",
        "total": len(items),
        "first": {"id": "urn:juxtaform:marks:1", "type": "AnnotationPage", "startIndex": 0, "items": items},
    }


def _json(value: object) -> bytes:
    return (json.dumps(value, ensure_ascii=False, sort_keys=True, indent=1) + "\n").encode()
