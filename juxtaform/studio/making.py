"""What is asked of a picture-making service for a shot: its brief fitted to the service, looked over, and made into jobs."""

from __future__ import annotations

import math
import secrets
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from statistics import median
from typing import Any, Literal

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from juxtaform.core.brief.compose import NEED, Brief, BriefShot, Edit, Phrase, Picture, composed
from juxtaform.core.brief.trimming import Fitted, Profile, fitted
from juxtaform.core.plan.shots import FIGURE_HEIGHTS
from juxtaform.records.models import Job, Mark, Service, Shot, Stet, Take
from juxtaform.records.models import Picture as PictureRow
from juxtaform.records.rules import MOST_INT
from juxtaform.services.shapes import ModelSaid
from juxtaform.studio import briefs, ledger, services
from juxtaform.studio.desk import Desk
from juxtaform.studio.ledger import Month
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace, found, hold

Quality = Literal["draft", "final"]
ROLES = {"style": "style", "guide": "layout"}
MOST_TAKES = 40
"""Takes of one shot that are asked for at once."""
MOST_JOBS = 5000
"""Jobs that one order makes."""


@dataclass(frozen=True)
class Order:
    """Takes wanted: of which shots, how many each, from which service's model, and how good. What preflight holds back is sent all the same
    when it is wanted `as_it_is`."""

    shot_ids: tuple[str, ...]
    count: int
    service_id: str
    model: str = ""
    quality: Quality = "draft"
    as_it_is: bool = False


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
        meant, desk, service, model = _offer(s, project_id, order)
        going = [x for x in meant.shots if order.as_it_is or not x.held_back]
        if not going:
            raise NotPossible(
                "Nothing was asked for: preflight holds every chosen shot back. Mend what it tells, or let it stand."
            )
        limits, heights = profile_of(service, model), figure_heights(s, project_id)
        jobs = [
            job
            for x in going
            for job in asked_for(s, desk, x.shot_id, order.count, service, model, order.quality, limits, heights)
        ]
        queued(s, project_id, jobs)
        ids = [job.id for job in jobs]
    ws.listeners.wake(project_id)
    return ids


def asked_for(
    s: Session,
    desk: Desk,
    shot_id: str,
    count: int,
    service: Service,
    model: ModelSaid,
    quality: Quality,
    limits: Profile,
    heights: Mapping[str, float],
    setting: Setting | None = None,
    parent_id: str | None = None,
    made: Mapping[str, Any] | None = None,
) -> list[Job]:
    """Jobs for so many takes of a shot, as many pictures a job as the model makes; `made` is to be remembered of every take."""
    request = asked(desk, desk.at[shot_id], model, quality, limits, setting or Setting(), heights)
    seed = request.wanted.pop("seed")
    if setting is None or setting.seed is None:
        seed = unused_seed(s, shot_id, seed)
    return _jobs(desk, shot_id, request, service, model, quality, seed, count, parent_id, made)


def _jobs(
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
        "pictures": [_picture(p, desk, holds, model, heights) for p in brief.pictures],
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


def profile_of(service: Service, model: ModelSaid) -> Profile:
    """What a service's model takes, as a profile that briefs are fitted to."""
    return Profile(
        service.name,
        text_limit=model.text_most,
        picture_limit=model.references_most or -1,
        picture_side_px=model.reference_side_most_px,
        holds=tuple(model.holds),
        aspects=tuple(model.aspects),
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


def unused_seed(s: Session, shot_id: str, seed: int) -> int:
    """The seed, or the next one that no take or job of the shot has: asked for again, a service makes other pictures."""
    origins = s.scalars(select(Take.made_from).where(Take.shot_id == shot_id))
    used = {made["seed"] for x in origins if (made := x.get("made"))}
    for wanted in s.scalars(select(Job.wanted).where(Job.shot_id == shot_id, Job.ended_at.is_(None))):
        used |= {wanted.get("seed", -1) + i for i in range(wanted.get("count", 1))}
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
    stood = set(s.scalars(select(Stet.finding_key).where(Stet.project_id == project_id)))
    limits, price = profile_of(service, model), model.quality(order.quality).credits * order.count
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
        service, can = services.offered(s, project_id, wanted.service_id or service_of(s, project_id, made))
        model = can.model(wanted.model or (made.get("model", "") if can.model(made.get("model", "")) else ""))
        if model is None or "picture" not in model.kinds:
            raise NotPossible(f"{service.name} has no such model that makes pictures. Ask it again what it can do.")
        if not 1 <= wanted.count <= MOST_TAKES:
            raise NotPossible(f"Ask for 1 to {MOST_TAKES} takes at once.")
        desk = Desk.read(s, project_id)
        jobs = remade(s, desk, take, wanted, service, model, figure_heights(s, project_id))
        queued(s, project_id, jobs)
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
    request = _asked_again(desk, take, wanted, model, heights)
    made = take.made_from.get("made") or {}
    first = made.get("seed") if wanted.same_seed else None
    seed = first if first is not None else unused_seed(s, take.shot_id, secrets.randbelow(1_000_000))
    return _jobs(desk, take.shot_id, request, service, model, wanted.quality, seed, wanted.count, take.id)


def service_of(s: Session, project_id: str, made: Mapping[str, Any]) -> str:
    """The service that made a take, else the project's first. Raises NotPossible where there is none."""
    own = list(
        s.scalars(select(Service).where(Service.project_id == project_id).order_by(Service.position, Service.id))
    )
    if not own:
        raise NotPossible("There is no service to ask. Add one in Make takes.")
    return next((x.id for x in own if x.id == made.get("service_id")), own[0].id)


_KINDS: dict[str, str] = {"extra": "action", "words": "style", "donts": "dont"}
_OF_THREADS: dict[str, str] = {"character": "cast", "prop": "prop", "setting": "setting"}


def _asked_again(desk: Desk, take: Take, wanted: Remake, model: ModelSaid, heights: Mapping[str, float]) -> Asked:
    origin, row = take.made_from, desk.rows.shots[take.shot_id]
    shot = desk.shot(desk.at[take.shot_id])
    words = dict(origin["phrases"])
    if wanted.phrase:
        key, now = wanted.phrase
        words = {**words, key: now} if key in words or key != "extra" else {"extra": now, **words}
    phrases = tuple(_phrase(desk, key, text) for key, text in words.items())
    held = {h["thread_id"]: h for h in origin.get("held") or []}
    shown = []
    for reference_id in origin.get("references") or []:
        r = desk.rows.references.get(reference_id)
        thread = desk.threads.get(r.thread_id) if r else None
        if r is None or thread is None:
            continue
        weight = held[thread.id]["weight"] if thread.id in held else 1.0
        role: Literal["view", "style"] = "style" if thread.kind == "style" else "view"
        shown.append(
            Picture(role, r.picture_sha, f"{thread.name}, {r.view or r.name}", weight * r.weight, thread.id, r.id)
        )
    guide = (shot.guide,) if shot.guide else ()
    brief = Brief(shot.id, shot.number, phrases, (*shown, *guide))
    cut = fitted(brief, Profile("", model.text_most, model.references_most or -1))
    pictures = [_picture(p, desk, {t: h["hold"] for t, h in held.items()}, model, heights) for p in cut.brief.pictures]
    if wanted.from_picture:
        pictures.append({"sha": take.picture_sha, "role": "base", "name": "", "hold": "", "weight": 1.0})
    body = {
        "model": model.id,
        "kind": "picture",
        "quality": model.quality(wanted.quality).id,
        "text": cut.brief.text,
        "donts": [d for key, text in words.items() if key == "donts" for d in _listed(text)][:100],
        "pictures": pictures,
        "aspect": nearest_aspect(shot.aspect, model.aspects),
        "figure_height": FIGURE_HEIGHTS[row.size],
        "side_most": model.reference_side_most_px,
    }
    made_from = {
        "references": [p.reference for p in cut.brief.pictures if p.reference],
        "phrases": [[key, text] for key, text in words.items()],
        "held": list(held.values()),
    }
    return Asked(body, made_from, cut)


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


def _picture(
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
