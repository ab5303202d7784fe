"""Help with words from a writing service over the text-assist protocol (docs/text-assist.md); ours or the user's own."""

from __future__ import annotations

import json
import os
import urllib.error
import urllib.request
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlsplit

from juxtaform.records.models import Bead, Beat, Project, Shot, Thread
from juxtaform.services import address as addresses
from juxtaform.services.address import AddressWrong
from juxtaform.studio import plan
from juxtaform.studio.storytext import text_of
from juxtaform.studio.workspace import NotPossible, Workspace, found, of_project

VARIABLE = "JUXTAFORM_TEXT_ASSIST"
"""The address of the user's own writing service, such as http://127.0.0.1:9000; else the Prompter that ships."""
WAIT_S = 30.0
MOST_BYTES = 1_000_000


@dataclass(frozen=True)
class Offers:
    """Texts offered, best first, and what the service says of itself."""

    service: str
    texts: tuple[str, ...]
    note: str


def for_beat(ws: Workspace, address: str, project_id: str, beat_id: str) -> Offers:
    """Offers for what happens in a beat. Raises NotPossible when the service does not answer as it should."""
    with ws.database.session() as s:
        project, beat = found(s, Project, project_id), found(s, Beat, beat_id, project_id)
        body = _common(project) | {
            "task": "beat",
            "title": beat.title,
            "purpose": beat.purpose,
            "question": beat.question,
        }
    return _asked(address, body)


def for_description(ws: Workspace, address: str, project_id: str, shot_id: str) -> Offers:
    """Offers for what one picture shows."""
    with ws.database.session() as s:
        project, shot = found(s, Project, project_id), found(s, Shot, shot_id, project_id)
        order = plan.in_order(s, project_id)
        at = next(i for i, x in enumerate(order) if x.id == shot_id)
        threads = {t.id: t for t in of_project(s, Thread, project_id)}
        here = [threads[b.thread_id] for b in of_project(s, Bead, project_id) if b.shot_id == shot_id]
        words = text_of(s, project_id).covered(shot) or shot.shows
        body = _common(project) | {
            "task": "description",
            "cast": [{"name": t.name, "line": t.wording} for t in here if t.kind == "character"],
            "place": next((t.name for t in here if t.kind == "setting"), ""),
            "words": words or shot.spoken,
            "before": order[at - 1].shows if at else "",
        }
    return _asked(address, body)


def service_address(own: str) -> str:
    """The address of the writing service: the user's own from the environment, else `own`."""
    return os.environ.get(VARIABLE, "").rstrip("/") or own


def _common(project: Project) -> dict[str, Any]:
    return {"version": 1, "premise": project.premise, "tone": project.tone, "cast": list(project.frame_cast)}


def _asked(address: str, body: dict[str, Any]) -> Offers:
    try:
        address = addresses.checked(address, "a writing service", f"{VARIABLE}=http://127.0.0.1:9000")
    except AddressWrong as error:
        raise NotPossible(str(error)) from error
    data = json.dumps(body).encode()
    request = urllib.request.Request(
        f"{address}/text-assist/v1/offers", data, {"Content-Type": "application/json", "Accept": "application/json"}
    )
    try:
        with urllib.request.build_opener(urllib.request.ProxyHandler({})).open(request, timeout=WAIT_S) as answer:
            offered = json.loads(answer.read(MOST_BYTES))
        texts = tuple(str(o["text"])[:8000] for o in offered["offers"] if str(o["text"]).strip())
    except urllib.error.HTTPError as error:
        raise NotPossible(f"The writing service at {address} refused ({error.code}). Nothing was changed.") from error
    except (OSError, TimeoutError) as error:
        raise NotPossible(
            f"The writing service at {address} does not answer. Is it running? Nothing was changed."
        ) from error
    except (ValueError, KeyError, TypeError) as error:
        raise NotPossible(f"The writing service at {address} does not speak text-assist version 1.") from error
    if not texts:
        raise NotPossible("The writing service had nothing to offer for this.")
    return Offers(urlsplit(address).netloc, texts, str(offered.get("note", ""))[:400])
