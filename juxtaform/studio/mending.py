"""Changing briefs: hand edits on top, one-key mends of what preflight found, and one phrase changed from a take."""

from __future__ import annotations

from sqlalchemy import select

from juxtaform.core.brief.compose import Brief
from juxtaform.core.findings import WordsAt
from juxtaform.core.plan.stills import moved
from juxtaform.records.models import Bead, Shot, Take
from juxtaform.studio import briefs, plan
from juxtaform.studio.desk import Desk
from juxtaform.studio.workspace import Changed, NotPossible, NotThere, Workspace, Writing, found


def edit_phrase(ws: Workspace, project_id: str, shot_id: str, key: str, now: str | None) -> Changed:
    """Change a phrase of a brief by hand (empty: leave it out), or take the edit back (None). The words of the action are the
    shot's own: editing them edits the shot."""
    with ws.writing(project_id, "edited a brief") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        w.name(f"edited the brief of {plan.called(w.session, shot)}")
        if key == "action":
            shot.shows = shot.shows if now is None else now
        else:
            was = briefs.plain_text(_brief_of(w, shot), key)
            shot.brief_edits = briefs.edited_with(shot.brief_edits, key, was, None if now == was else now)
    return w.changed


def vary(ws: Workspace, project_id: str, take_id: str, key: str, now: str) -> Changed:
    """Start again from a take with one phrase changed: every other phrase of its shot's brief becomes what it was then."""
    with ws.writing(project_id, "changed one phrase") as w:
        take = found(w.session, Take, take_id, project_id)
        then = dict(briefs.take_phrases(w.session, take_id, project_id))
        if key not in then and key != "extra":
            raise NotThere("The picture was not made from such a phrase.")
        shot = found(w.session, Shot, take.shot_id, project_id)
        w.name(f"changed one phrase of take {take.name}, {plan.called(w.session, shot)}")
        then[key] = now
        shot.shows = then.pop("action", shot.shows)
        shot.brief_edits = []
        w.session.flush()
        desk = Desk.read(w.session, project_id)
        plain = {p.key: p.text for p in desk.brief(desk.at[shot.id]).phrases}
        edits: list[dict[str, str]] = []
        for k in dict.fromkeys([*plain, *then]):
            was, words = plain.get(k, ""), then.get(k, "")
            if was != words and k != "action":
                edits.append({"key": k, "was": was, "now": words})
        shot.brief_edits = edits
    return w.changed


def mend(ws: Workspace, project_id: str, shot_id: str, key: str, profile: str | None = None) -> Changed:
    """Do what a finding offers. Raises NotThere when it is gone, NotPossible when it offers nothing."""
    with ws.writing(project_id, "mended a brief") as w:
        shot = found(w.session, Shot, shot_id, project_id)
        # Looked at while the project is held: a mend cuts at offsets of the words as they stand.
        brief = briefs.at_desk(Desk.read(w.session, project_id), shot_id, profile)
        finding = next((f for f in brief.findings if f.key == key), None)
        if finding is None:
            raise NotThere("This is gone already.")
        if finding.mend is None:
            raise NotPossible("There is no mend on one key for this: change the words, or let it stand.")
        offer = finding.mend
        w.name(f"{offer.label[:1].lower()}{offer.label[1:]}, shot {brief.number}")
        match offer.kind:
            case "attach":
                _attach(w, shot, offer.thread)
            case "clear":
                w.erase([b for b in _beads(w, shot) if b.thread_id == offer.thread])
            case "costume":
                _bead(w, shot, offer.thread).costume = offer.value
            case "newest":
                _bead(w, shot, offer.thread).reference_id = None
            case "aspect":
                shot.aspect = ""
            case "drop_guide":
                shot.sketch_sha = None
            case "to_motion":
                shot.shows, shot.motion = moved(shot.shows, shot.motion, plan.name_words(w.session, shot.project_id))
            case "cut" if finding.words is not None:
                _cut(w, shot, finding.words)
            case _:
                raise NotPossible("There is no mend on one key for this.")
    return w.changed


def _attach(w: Writing, shot: Shot, thread_id: str) -> None:
    desk = Desk.read(w.session, shot.project_id)
    if desk.threads[thread_id].kind == "setting":
        w.erase([b for b in _beads(w, shot) if desk.threads[b.thread_id].kind == "setting"])
    near = next(
        (b for other in _around(desk.ids, shot.id) for b in desk.beads(other) if b.thread_id == thread_id), None
    )
    w.add(
        Bead(
            project_id=shot.project_id,
            shot_id=shot.id,
            thread_id=thread_id,
            costume=near.costume if near else "",
            hold=near.hold if near else "figure",
            weight=near.weight if near else 0.8,
        )
    )


def _around(ids: list[str], shot_id: str) -> list[str]:
    """The shots nearest before and after one, nearest first."""
    at = ids.index(shot_id)
    return [ids[j] for d in range(1, len(ids)) for j in (at - d, at + d) if 0 <= j < len(ids)]


def _cut(w: Writing, shot: Shot, at: WordsAt) -> None:
    whole = _brief_of(w, shot)
    if at.phrase == "action":
        shot.shows = without(briefs.plain_text(whole, "action"), at.start, at.end)
        return
    words = next((p.text for p in whole.phrases if p.key == at.phrase), "")
    kept = without(words, at.start, at.end)
    shot.brief_edits = briefs.edited_with(shot.brief_edits, at.phrase, briefs.plain_text(whole, at.phrase), kept)


def _brief_of(w: Writing, shot: Shot) -> Brief:
    desk = Desk.read(w.session, shot.project_id)
    if shot.id not in desk.ids:
        raise NotPossible("This shot is only proposed. Accept it first.")
    return desk.brief(desk.at[shot.id])


def without(text: str, start: int, end: int) -> str:
    """A text with some words cut out and its joints mended.

    >>> without("Pell on a plain white background, smiling.", 5, 32)
    'Pell, smiling.'
    """
    before, after = text[:start].rstrip(" ,;:–—"), text[end:].lstrip(" ")
    for link in (
        " in a",
        " in an",
        " in",
        " on",
        " with",
        " with a",
        " and",
        " against",
        " a",
        " an",
        " the",
        " his",
        " her",
        " their",
    ):
        if before.endswith(link) and (not after or after[0] in ".,;!?"):
            before = before[: -len(link)].rstrip(" ,")
    glue = "" if not before or not after or after[0] in ".,;:!?" else " "
    whole = (before + glue + after).strip(" ,;")
    return whole[:1].upper() + whole[1:]


def _bead(w: Writing, shot: Shot, thread_id: str) -> Bead:
    bead = next((b for b in _beads(w, shot) if b.thread_id == thread_id), None)
    if bead is None:
        raise NotThere("It does not run through this shot any more.")
    return bead


def _beads(w: Writing, shot: Shot) -> list[Bead]:
    return list(w.session.scalars(select(Bead).where(Bead.shot_id == shot.id)))
