"""Who is named in a brief's words and not attached to the shot, and who is attached and not named."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from juxtaform.core.brief.compose import BriefShot, Phrase
from juxtaform.core.brief.knowledge import ThreadWords, found_at, found_in_brief
from juxtaform.core.brief.presence import Presence
from juxtaform.core.findings import Finding, Mend


def attached(
    shot: BriefShot, own: Sequence[Phrase], here: Presence, by_id: dict[str, ThreadWords], spoken_of: set[str]
) -> Iterator[Finding]:
    """Threads that are seen by the words and do not run through the shot, and the other way round; those of `spoken_of` have a finding already."""
    attached = {m.id: m for m in shot.members}
    has_setting = any(m.kind == "setting" for m in shot.members)
    for thread in here.seen:
        if thread in attached or thread in spoken_of:
            continue
        key, start, end = here.spans[thread][0]
        phrase = next(p for p in own if p.key == key)
        words = phrase.text[start:end]
        name, kind = by_id[thread].named.name, by_id[thread].kind
        if kind == "setting" and has_setting:
            place = next(m for m in shot.members if m.kind == "setting")
            if place.id in here.named:
                continue  # the barge in the mouth of the tunnel
            yield found_at(
                phrase,
                start,
                end,
                kind="fights_reference",
                title=f"“{words}”, but the setting is {place.name}",
                advice=f"Set {name} here, or change the words.",
                thread=thread,
                mend=Mend("attach", f"Set {name} here", thread),
            )
            continue
        yield found_at(
            phrase,
            start,
            end,
            kind="named_not_attached",
            title=f"“{name}” is named, but not attached",
            advice=f"Attach {name}, or take the name out of the words.",
            thread=thread,
            mend=Mend("attach", f"Attach {name}", thread),
        )
    if not own or here.nothing_shown:
        return
    owners = {m.id for m in shot.members}
    for m in here.unspoken([m for m in shot.members if m.kind == "character"]):
        span = here.spans[m.id][0] if m.id in here.spans else ("", 0, 0)
        words = next((p.text[span[1] : span[2]] for p in own if p.key == span[0]), "")
        title = f"The words leave {m.name} out" if words else f"“{m.name}” is attached, but not in the words"
        yield found_in_brief(
            kind="attached_not_named",
            title=title,
            advice=f"Name {m.name}, or clear {m.name} from this shot.",
            phrase=span[0],
            start=span[1],
            end=span[2],
            words=words,
            thread=m.id,
            mend=Mend("clear", f"Clear {m.name}", m.id),
        )
    props = [
        m
        for m in shot.members
        if m.kind == "prop"
        and (m.id in here.gone or (m.id not in here.named and not here.unnamed.speaks_of(m)))
        and m.owner not in owners
    ]
    for m in props if len(props) > 1 or not here.unnamed.it else ():
        yield found_in_brief(
            kind="attached_not_named",
            title=f"“{m.name}” is attached, but not in the words",
            advice="Name it, say whose it is on its model sheet, or clear it from this shot.",
            thread=m.id,
            mend=Mend("clear", f"Clear {m.name}", m.id),
        )
