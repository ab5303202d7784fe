"""What is asked of a picture-making service for a shot: its brief fitted to the service, looked over, and made into jobs."""

from __future__ import annotations

import hashlib
import math
import secrets
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from statistics import median
from typing import Any, Literal

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.core.brief.compose import BriefShot, Edit, Phrase, Picture, composed
from juxtaform.core.brief.trimming import ANYTHING, Fitted, Profile, fitted
from juxtaform.core.plan.shots import FIGURE_HEIGHTS
from juxtaform.records.models import STET, Job, Mark, Service, Shot, Stet, Take
from juxtaform.records.models import Picture as PictureRow
from juxtaform.records.rules import MOST_INT
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import briefs, ledger, services
from juxtaform.studio.desk import Desk, profiles_of
from juxtaform.studio.ledger import Month
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, hold

Quality = Literal["draft", "final"]
ROLES = {"style": "style", "guide": "layout", "first": "first", "last": "last"}
MOST_TAKES = 40
"""Takes of one shot that are asked for at once."""
MOST_JOBS = 5000
"""Jobs that one order makes."""


@dataclass(frozen=True)
class Order:
    """Takes wanted: of which shots, how many each, from which service's model, and how good. What preflight holds back is sent all the same
    when it is wanted `as_it_is`. The same `order_id` is the same order: sent again, because an answer was lost, it is not done again."""

    shot_ids: tuple[str, ...]
    count: int
    service_id: str
    model: str = ""
    quality: Quality = "draft"
    as_it_is: bool = False
    order_id: str = ""


@dataclass(frozen=True)
class ShotOffer:
    """What an order means for a shot: its price, and what preflight holds it back for, in words (none: it can go)."""

    shot_id: str
    number: str
    credits: float
    held_back: tuple[str, ...]
    left_out: tuple[str, ...]


@dataclass(frozen=True)
class Offer:
    """What an order means: shot by shot, its price in all, and how the month stands without it. `over` is how much of it the month's allowance
    does not bear."""

    shots: tuple[ShotOffer, ...]
    credits: float
    month: Month
    over: float


@dataclass(frozen=True)
class Setting:
    """How one shot is asked for where that departs from the plan: another seed, weights of threads (0..1), style, or words of a phrase."""

    seed: int | None = None
    weights: Mapping[str, float] = field(default_factory=dict)
    style_id: str | None = None
    phrase: tuple[str, str] | None = None


@dataclass(frozen=True)
class Asked:
    """A shot's brief as a service gets it: the body of the job, and what a take of it is made from."""

    wanted: dict[str, Any]
    made_from: dict[str, Any]
    cut: Fitted


def offer(ws: Workspace, project_id: str, order: Order) -> Offer:
    """What an order means. Raises NotPossible, NotThere."""
    with ws.database.reading() as s:
        return _offer(s, project_id, order)[0]


def make(ws: Workspace, project_id: str, order: Order) -> list[str]:
    """Put an order's jobs into the queue; those that the month's allowance does not bear wait for a yes. Returns the jobs. Raises NotPossible
    when no shot can go, NotThere."""
    with ws.database.session() as s:
        hold(s, project_id)
        if order.order_id and (known := _known(s, project_id, order.order_id)):
            return known
        meant, desk, service, model = _offer(s, project_id, order)
        going = [x for x in meant.shots if order.as_it_is or not x.held_back]
        if not going:
            raise NotPossible(
                "Nothing was asked for: preflight holds every chosen shot back. Mend what it tells, or let it stand."
            )
        limits = profile_of(service, model, profiles_of(desk.project))
        heights = figure_heights(s, project_id)
        used = used_seeds(s, [x.shot_id for x in going])
        jobs = [
            job
            for x in going
            for job in asked_for(desk, x.shot_id, order.count, service, model, order.quality, limits, heights, used)
        ]
        if order.order_id:
            for n, job in enumerate(jobs):
                job.id = job.key = _job_id(order.order_id, n)
                job.made_from = {**job.made_from, "made": {**job.made_from["made"], "job_id": job.id}}
        queued(s, project_id, jobs)
        ids = [job.id for job in jobs]
    ws.listeners.wake(project_id)
    return ids


def _job_id(order_id: str, n: int) -> str:
    return hashlib.sha256(f"{order_id} {n}".encode()).hexdigest()[:32]


def _known(s: Session, project_id: str, order_id: str) -> list[str]:
    """The jobs of an order that was taken before."""
    first = s.get(Job, _job_id(order_id, 0))
    if first is None or first.project_id != project_id:
        return []
    ids = [_job_id(order_id, n) for n in range(MOST_JOBS)]
    known = set(s.scalars(select(Job.id).where(Job.project_id == project_id, Job.id.in_(ids))))
    return [i for i in ids if i in known]


def asked_for(
    desk: Desk,
    shot_id: str,
    count: int,
    service: Service,
    model: ModelSaid,
    quality: Quality,
    limits: Profile,
    heights: Mapping[str, float],
    used: Mapping[str, set[int]],
    setting: Setting | None = None,
    parent_id: str | None = None,
    made: Mapping[str, Any] | None = None,
) -> list[Job]:
    """Jobs for so many takes of a shot, as many pictures a job as the model makes. `used` are the seeds that each shot has already; `made` is to be remembered of every take."""
    request = asked(desk, desk.at[shot_id], model, quality, limits, setting or Setting(), heights)
    seed = request.wanted.pop("seed")
    if setting is None or setting.seed is None:
        seed = unused(seed, used.get(shot_id, ()))
    return jobs_for(desk, shot_id, request, service, model, quality, seed, count, parent_id, made)


def jobs_for(
    desk: Desk,
    shot_id: str,
    request: Asked,
    service: Service,
    model: ModelSaid,
    quality: Quality,
    seed: int,
    count: int,
    parent_id: str | None,
    made: Mapping[str, Any] | None = None,
) -> list[Job]:
    """Jobs for so many pictures of one request, each next picture by the next seed."""
    said, jobs = model.quality(quality), []
    while count > 0:
        pictures = min(count, model.pictures_most)
        job = Job(
            id=secrets.token_hex(16),
            project_id=desk.project.id,
            shot_id=shot_id,
            service_id=service.id,
            service=service.name,
            wanted={**request.wanted, "count": pictures, **({"seed": seed} if model.seeds else {})},
            made_from={},
            parent_id=parent_id,
            expected_credits=said.credits * pictures,
        )
        job.key = job.id
        origin = {
            "job_id": job.id,
            "service_id": service.id,
            "service": service.name,
            "model": model.id,
            "quality": said.id,
            "seed": seed,
            **(made or {}),
        }
        job.made_from = {**request.made_from, "made": origin}
        jobs.append(job)
        seed, count = (seed + pictures) % MOST_INT, count - pictures
    return jobs


def queued(s: Session, project_id: str, jobs: Sequence[Job]) -> None:
    """Put jobs at the end of the queue; what the month's allowance does not bear waits for a yes."""
    if len(jobs) > MOST_JOBS:
        raise NotPossible(
            f"These would be {len(jobs):,} jobs; {MOST_JOBS:,} can be asked for at once. Choose fewer shots."
        )
    last = s.scalar(select(func.max(Job.position)).where(Job.project_id == project_id)) or 0.0
    left = ledger.month(s, project_id).left
    for i, job in enumerate(jobs):
        job.position = last + 1 + i
        if left is not None:
            left -= job.expected_credits
        job.state = "held" if left is not None and left < 0 else "waiting"
        job.message = (
            "It is over the month's allowance. Say yes to it, or raise the allowance." if job.state == "held" else ""
        )
    s.add_all(jobs)
    s.flush()


def asked(
    desk: Desk,
    index: int,
    model: ModelSaid,
    quality: Quality,
    limits: Profile,
    setting: Setting,
    heights: Mapping[str, float],
) -> Asked:
    """A shot's brief made into the body of a job; `heights` say how tall figures are beside a grown one, by thread."""
    row = desk.rows.shots[desk.ids[index]]
    shot = _varied(desk, index, setting)
    edits = [Edit(e["key"], e["was"], e["now"]) for e in row.brief_edits]
    if setting.phrase:
        key, now = setting.phrase
        edits = [*(e for e in edits if e.key != key), Edit(key, now, now)]
    cut = fitted(composed(shot, edits), limits, shot.members, shot.aspect)
    brief = cut.brief
    holds = {m.id: m.hold for m in shot.members}
    wanted = {
        "model": model.id,
        "kind": "picture",
        "quality": model.quality(quality).id,
        "text": brief.text,
        "donts": [item[:200] for p in brief.phrases for item in _donts(p)][:100],
        "pictures": [sent_picture(p, desk, holds, model, heights) for p in brief.pictures],
        "aspect": nearest_aspect(shot.aspect, model.aspects),
        "figure_height": FIGURE_HEIGHTS[row.size],
        "seed": setting.seed if setting.seed is not None else shot.seed,
        "side_most": model.reference_side_most_px,
    }
    if wanted["seed"] is None:
        wanted["seed"] = secrets.randbelow(1_000_000)
    held = [{"thread_id": m.id, "weight": m.weight, "hold": m.hold, "costume": m.costume} for m in shot.members]
    made_from = {
        "references": list(dict.fromkeys(p.reference for p in brief.pictures if p.reference)),
        "phrases": [[p.key, p.text] for p in brief.phrases],
        "held": held,
        "sent": wanted["pictures"],
    }
    return Asked(wanted, made_from, cut)


def figure_heights(s: Session, project_id: str) -> dict[str, float]:
    """How tall characters and props are beside a grown figure, by thread: the middle of what their marks say, each by its shot's size."""
    rows = s.execute(
        select(Mark.thread_id, Mark.h, PictureRow.height, Shot.size)
        .join(Take, Take.id == Mark.take_id)
        .join(PictureRow, PictureRow.sha == Take.picture_sha)
        .join(Shot, Shot.id == Take.shot_id)
        .where(Mark.project_id == project_id)
    )
    seen: defaultdict[str, list[float]] = defaultdict(list)
    for thread, high, of, size in rows:
        seen[thread].append(high / of / FIGURE_HEIGHTS[size])
    return {thread: round(min(2.0, max(0.05, median(values))), 3) for thread, values in seen.items()}


def profile_of(service: Service, model: ModelSaid, own: Sequence[Profile] = ()) -> Profile:
    """What a service's model takes, as a profile that briefs are fitted to; its template and how it is told of weights and motion come from the
    project's own profile of its name."""
    named = next((p for p in own if p.name == service.name), ANYTHING)
    return Profile(
        service.name,
        text_limit=model.text_most,
        picture_limit=model.references_most or -1,
        picture_side_px=model.reference_side_most_px,
        holds=tuple(model.holds),
        aspects=tuple(model.aspects),
        template=named.template,
        weights=named.weights,
        motion=named.motion,
    )


def nearest_aspect(wanted: str, offered: Sequence[str]) -> str:
    """Of the forms that a service makes the one nearest to what is wanted; the first that is 3:2 or wider where nothing is.

    >>> nearest_aspect("1.85:1", ["1:1", "16:9", "2:1"]), nearest_aspect("", ["1:1", "3:2"])
    ('16:9', '3:2')
    """
    aim = _ratio(wanted) if wanted else 1.5
    return min(offered, key=lambda a: abs(math.log(_ratio(a) / aim)))


def _ratio(aspect: str) -> float:
    wide, high = (float(v) for v in aspect.split(":"))
    return wide / high if wide > 0 and high > 0 else 1.5


def _donts(phrase: Phrase) -> Collection[str]:
    return phrase.items if phrase.kind == "dont" and phrase.text else ()


def _varied(desk: Desk, index: int, setting: Setting) -> BriefShot:
    shot = desk.shot(index)
    if setting.style_id is not None:
        shot = replace(shot, style=desk.style_words(setting.style_id, index))
    if setting.weights:
        members = []
        for m in shot.members:
            if (weight := setting.weights.get(m.id)) is None:
                members.append(m)
                continue
            f = weight / m.weight if m.weight else 1.0
            views = tuple(replace(v, weight=round(min(1.0, v.weight * f), 3)) for v in m.views)
            members.append(replace(m, weight=weight, views=views))
        shot = replace(shot, members=tuple(members))
    return shot


def used_seeds(s: Session, shot_ids: Sequence[str]) -> dict[str, set[int]]:
    """The seeds that takes and open jobs of some shots have."""
    used: defaultdict[str, set[int]] = defaultdict(set)
    for shot_id, origin in s.execute(select(Take.shot_id, Take.made_from).where(Take.shot_id.in_(shot_ids))):
        if made := origin.get("made"):
            used[shot_id].add(made["seed"])
    still = select(Job.shot_id, Job.wanted).where(Job.shot_id.in_(shot_ids), Job.ended_at.is_(None))
    for shot_id, wanted in s.execute(still):
        used[shot_id] |= {wanted.get("seed", -1) + i for i in range(wanted.get("count", 1))}
    return used


def unused(seed: int, used: Collection[int]) -> int:
    """The seed, or the next one that is not used: asked for again, a service makes other pictures."""
    while seed in used:
        seed = (seed + 1) % MOST_INT
    return seed


def _offer(s: Session, project_id: str, order: Order) -> tuple[Offer, Desk, Service, ModelSaid]:
    if not 1 <= order.count <= MOST_TAKES:
        raise NotPossible(f"Ask for 1 to {MOST_TAKES} takes of a shot at once.")
    service, can = services.offered(s, project_id, order.service_id)
    model = can.model(order.model)
    if model is None or "picture" not in model.kinds:
        raise NotPossible(f"{service.name} has no such model that makes pictures. Ask it again what it can do.")
    desk = Desk.read(s, project_id)
    missing = [i for i in order.shot_ids if i not in desk.at]
    if missing:
        raise NotThere("A shot has no brief: it is gone, or only proposed. Accept it first.")
    stood = set(s.scalars(select(Stet.finding_key).where(Stet.project_id == project_id, Stet.verdict == STET)))
    limits, price = (
        profile_of(service, model, profiles_of(desk.project)),
        model.quality(order.quality).credits * order.count,
    )
    shots = []
    for shot_id in dict.fromkeys(order.shot_ids):
        brief = briefs.looked_at(desk, desk.at[shot_id], limits)
        held_back = tuple(f.title for f in brief.findings if f.key not in stood)
        left_out = tuple(f"{x.what} {x.why}." for x in brief.fitted.left)
        shots.append(ShotOffer(shot_id, brief.number, price, held_back, left_out))
    going = [x for x in shots if order.as_it_is or not x.held_back]
    credits = sum(x.credits for x in going)
    month = ledger.month(s, project_id)
    over = max(0.0, credits - month.left) if month.left is not None else 0.0
    return Offer(tuple(shots), credits, month, over), desk, service, model


def service_of(s: Session, project_id: str, made: Mapping[str, Any]) -> str:
    """The service that made a take, else the project's first. Raises NotPossible where there is none."""
    own = list(
        s.scalars(select(Service).where(Service.project_id == project_id).order_by(Service.position, Service.id))
    )
    if not own:
        raise NotPossible("There is no service to ask. Add one in Make takes.")
    return next((x.id for x in own if x.id == made.get("service_id")), own[0].id)


def sent_picture(
    p: Picture, desk: Desk, holds: Mapping[str, str], model: ModelSaid, heights: Mapping[str, float]
) -> dict[str, Any]:
    """A picture as the protocol names it."""
    thread = desk.threads.get(p.thread)
    role = ROLES.get(p.role) or (thread.kind if thread else "character")
    hold_words = holds.get(p.thread, "")
    return {
        "sha": p.sha,
        "role": role,
        "name": (thread.name if thread else p.label)[:120],
        "hold": hold_words if not model.holds or hold_words in model.holds else "",
        "weight": min(1.0, max(0.0, p.weight)),
        **({"tall": heights[p.thread]} if role in ("character", "prop") and p.thread in heights else {}),
    }


def fresh_seed(desk: Desk, shot_id: str) -> int:
    """The seed that the plan gives a shot, else any."""
    seed = desk.shot(desk.at[shot_id]).seed
    return seed if seed is not None else secrets.randbelow(1_000_000)
