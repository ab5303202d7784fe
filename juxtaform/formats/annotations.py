"""Comments as W3C Web Annotations (Recommendation of 23 February 2017), out and in: places by media fragments (Media Fragments URI 1.0)."""

from __future__ import annotations

import json
import re
import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

CONTEXT = "http://www.w3.org/ns/anno.jsonld"
FRAGMENTS = "http://www.w3.org/TR/media-frags/"
SHOT = "urn:juxtaform:shot:"
PICTURE = "urn:sha256:"
WORD = "urn:juxtaform:word:"
POINT = 0.01
"""A place is told as a box; one that is no larger than this part of the picture is a point."""
MOST = 5000
MEDIA_TYPE = 'application/ld+json; profile="http://www.w3.org/ns/anno.jsonld"'
_XYWH = re.compile(r"xywh=(?:(percent|pixel):)?([\d.]+),([\d.]+),([\d.]+),([\d.]+)")
_TIME = re.compile(r"(?:^|&)t=(?:npt:)?([\d.]+)?")


class AnnotationsWrong(ValueError):
    """What is no annotation; the message says what and what to do."""


@dataclass(frozen=True)
class Remark:
    """A comment in or out. `place` is [x, y] or [x, y, w, h] in parts of the picture, or in px where `in_px`; `answers` names another remark: by our id going out, by the name that it has in the world coming in."""

    id: str
    words: str
    name: str
    shot: str = ""
    picture: str = ""
    place: list[float] | None = None
    in_px: bool = False
    at_s: float | None = None
    answers: str = ""
    at: datetime | None = None


@dataclass
class Read:
    """What was read: remarks, and why others were left out."""

    remarks: list[Remark] = field(default_factory=list)
    left_out: list[str] = field(default_factory=list)


def as_page(title: str, remarks: Iterable[Remark], verdicts: Iterable[tuple[str, str, str]] = ()) -> dict[str, Any]:
    """Comments, and one-word verdicts as (shot, name, word), as one AnnotationPage."""
    items = [_out(r) for r in remarks]
    items += [
        {
            "id": f"{WORD}{shot}:{i}",
            "type": "Annotation",
            "motivation": "assessing",
            "creator": {"type": "Person", "name": name},
            "body": {"type": "TextualBody", "value": says, "purpose": "assessing", "format": "text/plain"},
            "target": f"{SHOT}{shot}",
        }
        for i, (shot, name, says) in enumerate(verdicts)
    ]
    return {
        "@context": CONTEXT,
        "id": "urn:juxtaform:comments",
        "type": "AnnotationPage",
        "label": title,
        "items": items,
    }


def urn_of(key: str) -> str:
    """The name of a comment of ours in the world (RFC 9562).

    >>> urn_of("0123456789abcdef0123456789abcdef")
    'urn:uuid:01234567-89ab-cdef-0123-456789abcdef'
    """
    return uuid.UUID(key).urn


def read(data: bytes) -> Read:
    """The remarks of an Annotation, an AnnotationPage, a collection or a list of annotations. Raises AnnotationsWrong."""
    try:
        told = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise AnnotationsWrong("This is no JSON. Give a file of web annotations (JSON-LD).") from error
    found = Read()
    items = _items(told)
    if len(items) > MOST:
        raise AnnotationsWrong(f"These are {len(items)} annotations; {MOST} are the most. Bring them in parts.")
    for i, item in enumerate(items):
        try:
            found.remarks.append(_in(item))
        except (AnnotationsWrong, KeyError, IndexError, TypeError, ValueError, AttributeError) as error:
            why = str(error) if isinstance(error, AnnotationsWrong) else "it is not written as a web annotation"
            found.left_out.append(f"Annotation {i + 1}: {why}.")
    return found


def _out(r: Remark) -> dict[str, Any]:
    target: Any
    if r.answers:
        target = urn_of(r.answers)
    else:
        target = {"source": f"{SHOT}{r.shot}"}
        fragment = _fragment(r)
        if fragment:
            target["selector"] = {"type": "FragmentSelector", "conformsTo": FRAGMENTS, "value": fragment}
        if r.picture:
            target["scope"] = f"{PICTURE}{r.picture}"
    told: dict[str, Any] = {
        "@context": CONTEXT,
        "id": urn_of(r.id),
        "type": "Annotation",
        "motivation": "replying" if r.answers else "commenting",
        "creator": {"type": "Person", "name": r.name},
        "body": {"type": "TextualBody", "value": r.words, "format": "text/plain"},
        "target": target,
    }
    if r.at:
        told["created"] = r.at.isoformat().replace("+00:00", "Z")
    return told


def _fragment(r: Remark) -> str:
    if r.place:
        x, y, *size = r.place
        w, h = size or (POINT, POINT)
        if not size:
            x, y = max(0.0, x - POINT / 2), max(0.0, y - POINT / 2)
        return "xywh=percent:" + ",".join(f"{100 * v:.4g}" for v in (x, y, w, h))
    return f"t={r.at_s:.3f}" if r.at_s is not None else ""


def _items(told: Any) -> list[Any]:
    if isinstance(told, list):
        return told
    if not isinstance(told, dict):
        raise AnnotationsWrong("This is no web annotation. Give a file of annotations (JSON-LD).")
    kinds = told.get("type", told.get("@type", ""))
    if "items" in told and isinstance(told["items"], list):
        return list(told["items"])
    first = told.get("first")
    if isinstance(first, dict) and isinstance(first.get("items"), list):
        return list(first["items"])
    if "Annotation" in (kinds if isinstance(kinds, list) else [kinds]):
        return [told]
    raise AnnotationsWrong("There is no annotation in this. Give an Annotation or an AnnotationPage (JSON-LD).")


def _in(item: Mapping[str, Any]) -> Remark:
    words = _words(item.get("bodyValue") or item.get("body"))
    if not words:
        raise AnnotationsWrong("it has no text")
    target = item["target"]
    target = target[0] if isinstance(target, list) else target
    source = target if isinstance(target, str) else target.get("source", target.get("id", ""))
    source = source.get("id", "") if isinstance(source, dict) else str(source)
    place, in_px, at_s = _selected(target, source)
    source = source.split("#")[0]
    creator = item.get("creator", "")
    creator = creator[0] if isinstance(creator, list) else creator
    name = creator.get("name", creator.get("nickname", "")) if isinstance(creator, dict) else str(creator)
    answers = source if item.get("motivation") == "replying" else ""
    shot = source.removeprefix(SHOT) if source.startswith(SHOT) else ""
    picture = source.removeprefix(PICTURE) if source.startswith(PICTURE) else ""
    if not (answers or shot or picture):
        raise AnnotationsWrong("it is about nothing of ours")
    return Remark(
        str(item.get("id", ""))[:300],
        words[:20_000],
        str(name)[:80] or "Somebody",
        shot,
        picture,
        place,
        in_px,
        at_s,
        answers,
    )


def _words(body: Any) -> str:
    if isinstance(body, list):
        return next((w for w in map(_words, body) if w), "")
    if isinstance(body, dict):
        return str(body.get("value", "")).strip() if body.get("purpose") not in ("tagging",) else ""
    return str(body or "").strip()


def _selected(target: Any, source: str) -> tuple[list[float] | None, bool, float | None]:
    """The place and the moment that a target names by a fragment."""
    selectors = target.get("selector", []) if isinstance(target, dict) else []
    selectors = selectors if isinstance(selectors, list) else [selectors]
    values = [str(s.get("value", "")) for s in selectors if isinstance(s, dict)] + [source.partition("#")[2]]
    place, in_px, at_s = None, False, None
    for value in values:
        if box := _XYWH.search(value):
            unit, *numbers = box.groups()
            x, y, w, h = (float(n) for n in numbers)
            in_px = unit != "percent"
            if not in_px:
                x, y, w, h = (min(1.0, v / 100) for v in (x, y, w, h))
                if w <= POINT + 1e-6 and h <= POINT + 1e-6:
                    place = [x + w / 2, y + h / 2]
                    continue
            place = [x, y, w, h]
        elif time := _TIME.search(value):
            at_s = float(time.group(1) or 0.0)
    return place, in_px, at_s
