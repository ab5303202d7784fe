"""A take made again: from the same words, references and threads, with one phrase changed or none."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from sqlalchemy.orm import Session

from juxtaform.core.brief.compose import NEED, Brief, Phrase, Picture
from juxtaform.core.brief.trimming import Profile, fitted
from juxtaform.core.plan.shots import FIGURE_HEIGHTS
from juxtaform.records.models import Job, Service, Take
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import making, services
from juxtaform.studio.desk import Desk
from juxtaform.studio.making import Asked, Quality
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, found, hold


@dataclass(frozen=True)
class Remake:
    """A take made again from the same words, references and threads; what departs from them is said. `from_picture` sends the picture itself to be
    worked on from."""

    take_id: str
    count: int = 1
    service_id: str = ""
    model: str = ""
    quality: Quality = "draft"
    same_seed: bool = False
    phrase: tuple[str, str] | None = None
    from_picture: bool = False


def remake(ws: Workspace, project_id: str, wanted: Remake) -> list[str]:
    """Ask for takes that go on from one; returns the jobs. Raises NotPossible, NotThere."""
    with ws.database.session() as s:
        hold(s, project_id)
        take = found(s, Take, wanted.take_id, project_id)
        made = take.made_from.get("made") or {}
        service, can = services.offered(s, project_id, wanted.service_id or making.service_of(s, project_id, made))
        model = can.model(wanted.model or (made.get("model", "") if can.model(made.get("model", "")) else ""))
        if model is None or "picture" not in model.kinds:
            raise NotPossible(f"{service.name} has no such model that makes pictures. Ask it again what it can do.")
        if not 1 <= wanted.count <= making.MOST_TAKES:
            raise NotPossible(f"Ask for 1 to {making.MOST_TAKES} takes at once.")
        desk = Desk.read(s, project_id)
        jobs = remade(s, desk, take, wanted, service, model, making.figure_heights(s, project_id))
        making.queued(s, project_id, jobs)
        ids = [job.id for job in jobs]
    ws.listeners.wake(project_id)
    return ids


def ask_on(
    ws: Workspace,
    project_id: str,
    again: Remake,
    kind: str,
    does: str,
    made: Callable[[Asked, ModelSaid], Asked],
) -> list[str]:
    """Ask a service for something else than a picture that goes on from a take: `kind` as the protocol has it, `does` in words, `made` makes its body of
    what would be asked for the take itself. Returns the jobs. Raises NotPossible, NotThere."""
    with ws.database.session() as s:
        hold(s, project_id)
        take = found(s, Take, again.take_id, project_id)
        service_id = again.service_id or making.service_of(s, project_id, take.made_from.get("made") or {})
        service, can = services.offered(s, project_id, service_id)
        model = can.model(again.model) or next((m for m in can.models if kind in m.kinds), None)
        if model is None or kind not in model.kinds:
            raise NotPossible(f"{service.name} has no model that {does}. Choose another service, or bring a picture.")
        if not 1 <= again.count <= making.MOST_TAKES:
            raise NotPossible(f"Ask for 1 to {making.MOST_TAKES} takes at once.")
        desk = Desk.read(s, project_id)
        if take.shot_id not in desk.at:
            raise NotThere("This shot has no brief: it is gone, or only proposed. Accept it first.")
        request = made(asked_again(desk, take, again, model, making.figure_heights(s, project_id)), model)
        seed = seed_for(s, take, again)
        jobs: list[Job] = making.jobs_for(
            desk, take.shot_id, request, service, model, again.quality, seed, again.count, take.id
        )
        making.queued(s, project_id, jobs)
        ids = [job.id for job in jobs]
    ws.listeners.wake(project_id)
    return ids


def remade(
    s: Session,
    desk: Desk,
    take: Take,
    wanted: Remake,
    service: Service,
    model: ModelSaid,
    heights: Mapping[str, float],
) -> list[Job]:
    """The jobs that make a take again. Raises NotPossible for one whose words are not known, NotThere for one whose shot has no brief."""
    if take.shot_id not in desk.at:
        raise NotThere("This shot has no brief: it is gone, or only proposed. Accept it first.")
    if not take.made_from.get("phrases"):
        raise NotPossible("It is not known from which words this picture was made: make takes from the brief instead.")
    request = asked_again(desk, take, wanted, model, heights)
    seed = seed_for(s, take, wanted)
    return making.jobs_for(desk, take.shot_id, request, service, model, wanted.quality, seed, wanted.count, take.id)


def seed_for(s: Session, take: Take, wanted: Remake) -> int:
    """The seed of what goes on from a take: its own where that is wanted, else one that its shot has not."""
    first = (take.made_from.get("made") or {}).get("seed") if wanted.same_seed else None
    if first is not None:
        return int(first)
    return making.unused(secrets.randbelow(1_000_000), making.used_seeds(s, [take.shot_id])[take.shot_id])


_KINDS: dict[str, str] = {"extra": "action", "words": "style", "donts": "dont"}
_OF_THREADS: dict[str, str] = {"character": "cast", "prop": "prop", "setting": "setting"}


def asked_again(desk: Desk, take: Take, wanted: Remake, model: ModelSaid, heights: Mapping[str, float]) -> Asked:
    """What a service gets to make a take again, as far as it is known from what it was made."""
    origin, row = take.made_from, desk.rows.shots[take.shot_id]
    shot = desk.shot(desk.at[take.shot_id])
    words = dict(origin.get("phrases") or [])
    if wanted.phrase:
        key, now = wanted.phrase
        words = {**words, key: now} if key in words or key != "extra" else {"extra": now, **words}
    phrases = tuple(_phrase(desk, key, text) for key, text in words.items())
    held = {h["thread_id"]: h for h in origin.get("held") or []}
    sent = origin.get("sent")
    pictures = [dict(p) for p in sent] if sent is not None else _pictures_again(desk, origin, held, model, heights)
    limits = Profile("", model.text_most, -1)
    cut = fitted(Brief(shot.id, shot.number, phrases, ()), limits)
    pictures = pictures[: model.references_most]
    if wanted.from_picture:
        pictures.append({"sha": take.picture_sha, "role": "base", "name": "", "hold": "", "weight": 1.0})
    body = {
        "model": model.id,
        "kind": "picture",
        "quality": model.quality(wanted.quality).id,
        "text": cut.brief.text,
        "donts": [d for key, text in words.items() if key == "donts" for d in _listed(text)][:100],
        "pictures": pictures,
        "aspect": making.nearest_aspect(shot.aspect, model.aspects),
        "figure_height": FIGURE_HEIGHTS[row.size],
        "side_most": model.reference_side_most_px,
    }
    made_from = {
        "references": list(origin.get("references") or []),
        "phrases": [[key, text] for key, text in words.items()],
        "held": list(held.values()),
        "sent": [p for p in pictures if p["role"] != "base"],
    }
    return Asked(body, made_from, cut)


def _pictures_again(
    desk: Desk, origin: Mapping[str, Any], held: Mapping[str, Any], model: ModelSaid, heights: Mapping[str, float]
) -> list[dict[str, Any]]:
    """The pictures of a take of which only its references are known."""
    shown = []
    for reference_id in origin.get("references") or []:
        r = desk.rows.references.get(reference_id)
        thread = desk.threads.get(r.thread_id) if r else None
        if r is None or thread is None:
            continue
        weight = held[thread.id]["weight"] if thread.id in held else 1.0
        role: Literal["view", "style"] = "style" if thread.kind == "style" else "view"
        name = f"{thread.name}, {r.view or r.name}"
        shown.append(Picture(role, r.picture_sha, name, weight * r.weight, thread.id, r.id))
    holds = {t: h["hold"] for t, h in held.items()}
    return [making.sent_picture(p, desk, holds, model, heights) for p in shown]


def _phrase(desk: Desk, key: str, text: str) -> Phrase:
    """A phrase of a brief that was, with the part of the order where it stood."""
    head, _, thread = key.partition(":")
    of_thread = desk.threads.get(thread)
    kind = _KINDS.get(head) or (
        head
        if head in ("action", "cast", "prop", "setting", "style", "framing", "palette", "technical")
        else _OF_THREADS.get(of_thread.kind if of_thread else "", "cast")
    )
    return Phrase(key if head in NEED else "extra", kind, text, "", thread)  # type: ignore[arg-type]


def _listed(words: str) -> list[str]:
    """What a brief leaves out, as a list.

    >>> _listed("Without: lettering, extra people.")
    ['lettering', 'extra people']
    """
    return [d.strip()[:200] for d in words.removeprefix("Without:").rstrip(". ").split(",") if d.strip()]
