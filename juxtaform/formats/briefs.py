"""Briefs on their way out: Markdown, CSV, JSON, and a zip of numbered folders. The same briefs give the same bytes."""

from __future__ import annotations

import csv
import io
import json
import re
import zipfile
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from juxtaform.core.brief.compose import Brief, Picture
from juxtaform.core.brief.trimming import Left
from juxtaform.formats.cells import safe_cell
from juxtaform.formats.zips import put

HEADERS = ("Shot", "Brief", "Pictures", "Left out", "Id")
VERSION = 1


@dataclass(frozen=True)
class OutgoingBrief:
    """A brief as a service gets it, what was left out of it, and the aspect ratio and seed that it asks for."""

    brief: Brief
    left: tuple[Left, ...]
    aspect: str
    seed: int | None


def as_markdown(title: str, profile: str, out: Sequence[OutgoingBrief]) -> bytes:
    parts = [f"# {title}", f"Fitted to: {profile}"]
    for o in out:
        lines = [" ".join(p.text for p in line) for _, line in o.brief.lines()]
        parts += [f"## Shot {o.brief.number}", "\n\n".join(lines)]
        if o.brief.pictures:
            parts.append("\n".join(f"- {_told(p)}" for p in o.brief.pictures))
        if o.left:
            parts.append("\n".join(f"> Left out: {x.what} ({x.why})" for x in o.left))
    return ("\n\n".join(parts) + "\n").encode()


def as_csv(out: Sequence[OutgoingBrief]) -> bytes:
    """RFC 4180, UTF-8: a row a shot."""
    text = io.StringIO(newline="")
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow(HEADERS)
    for o in out:
        b = o.brief
        pictures, left = "; ".join(_told(p) for p in b.pictures), "; ".join(x.what for x in o.left)
        writer.writerow([safe_cell(c) for c in (b.number, b.text, pictures, left, b.shot)])
    return text.getvalue().encode()


def as_json(title: str, profile: str, out: Sequence[OutgoingBrief]) -> bytes:
    document = {"version": VERSION, "project": title, "profile": profile, "briefs": [_as_row(o) for o in out]}
    return (json.dumps(document, ensure_ascii=False, indent=1) + "\n").encode()


def as_zip(
    title: str,
    profile: str,
    out: Sequence[OutgoingBrief],
    file_of: Callable[[OutgoingBrief, Picture], tuple[bytes, str]],
    plate_of: Callable[[OutgoingBrief], bytes | None],
) -> bytes:
    """Numbered folders, each with its brief and its numbered pictures; `file_of` gives a picture's bytes and file ending,
    `plate_of` a plate in place of its views."""
    data = io.BytesIO()
    digits = max(3, len(str(len(out))))
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as archive:
        put(archive, "briefs.json", as_json(title, profile, out))
        for o in out:
            folder = f"{int(o.brief.number):0{digits}d}"
            put(archive, f"{folder}/brief.txt", (o.brief.text + "\n").encode())
            plate = plate_of(o)
            number = 1
            if plate is not None:
                put(archive, f"{folder}/1-plate.png", plate, packed=False)
                number = 2
            for p in o.brief.pictures:
                if plate is not None and p.role == "view":
                    continue
                picture, ending = file_of(o, p)
                put(archive, f"{folder}/{number}-{_plain(p.label)}.{ending}", picture, packed=False)
                number += 1
    return data.getvalue()


def _as_row(o: OutgoingBrief) -> dict[str, Any]:
    b = o.brief
    return {
        "shot": b.number,
        "id": b.shot,
        "text": b.text,
        "aspect": o.aspect,
        "seed": o.seed,
        "phrases": [{"key": p.key, "kind": p.kind, "text": p.text, "source": p.source} for p in b.phrases if p.text],
        "pictures": [{"role": p.role, "label": p.label, "sha256": p.sha, "weight": p.weight} for p in b.pictures],
        "left_out": [asdict(x) for x in o.left],
    }


def _told(p: Picture) -> str:
    return f"{p.label} ({p.role}, {round(p.weight * 100)} %)"


def _plain(label: str) -> str:
    return re.sub(r"[^\w]+", "-", label.casefold()).strip("-")[:60] or "picture"
