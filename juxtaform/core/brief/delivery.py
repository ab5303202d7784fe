"""Concerns of what goes out beside the words: the form, the guide, references, and a service's limits."""

from __future__ import annotations

import re
from collections.abc import Iterator

from juxtaform.core.brief.compose import BriefShot
from juxtaform.core.brief.knowledge import State, found_in_brief, short
from juxtaform.core.brief.trimming import Fitted
from juxtaform.core.findings import Finding, Mend

GUIDE_RUN = 3
"""As many shots in a row on one guide are a batch in which it was forgotten: two may share a set-up."""
GUIDE_FORM_OFF = 0.06
"""A hand-drawn guide may differ by so much from the form of the picture: more has to be cut or squeezed."""
GUIDE_CHROMA_RATIO, GUIDE_CHROMA_MORE = 1.35, 0.02
"""A guide lends its colours when its strong ones (OKLab chroma) exceed the style's by a third, and plainly."""


def beside_words(shot: BriefShot, state: State) -> Iterator[Finding]:
    """What speaks against the form of a picture, its guide and its references."""
    wanted = state.wanted_aspect
    if wanted and shot.aspect and shot.aspect != wanted and not state.is_spread:
        yield found_in_brief(
            kind="aspect",
            title=f"{shot.aspect}, where the project is {wanted}",
            advice="The pictures will not fit together.",
            phrase="technical",
            words=shot.aspect,
            mend=Mend("aspect", f"Use {wanted}", value=wanted),
        )
    form = ratio_of(shot.aspect or wanted)
    if state.guide_form and form and abs(state.guide_form / form - 1) > GUIDE_FORM_OFF:
        yield found_in_brief(
            kind="aspect",
            title="The guide has another form than the picture",
            advice="It will be cut or squeezed. Crop the guide first.",
            mend=Mend("drop_guide", "Take the guide off"),
        )
    if (
        state.guide_chroma is not None
        and state.style_chroma is not None
        and state.guide_chroma > state.style_chroma * GUIDE_CHROMA_RATIO + GUIDE_CHROMA_MORE
    ):
        yield found_in_brief(
            kind="colourful_guide",
            title="The guide is more colourful than the style",
            advice="Its colours will come through. Use it in grey, or lower its strength.",
            mend=Mend("drop_guide", "Take the guide off"),
        )
    if state.guide_run >= GUIDE_RUN:
        yield found_in_brief(
            kind="same_guide",
            title=f"The same guide on {state.guide_run} shots in a row",
            advice="Was it left on by mistake?",
            mend=Mend("drop_guide", "Take the guide off"),
        )
    names = {m.id: m.name for m in shot.members}
    for thread, reason in state.unfit:
        yield found_in_brief(
            kind="unfit_reference",
            title=f"{names.get(thread, 'A reference')}: {reason}",
            advice="Choose another view, or mend the reference.",
            thread=thread,
            words=reason,
            shared=True,
        )
    for thread in state.stale:
        yield found_in_brief(
            kind="stale_reference",
            title=f"{names.get(thread, 'A thread')} is attached in an old view",
            advice="A newer version is there.",
            thread=thread,
            mend=Mend("newest", "Use the newest", thread),
        )


def limits(shot: BriefShot, cut: Fitted) -> Iterator[Finding]:
    """What a service's limits would leave out that matters."""
    if cut.over:
        yield found_in_brief(
            kind="over_limits",
            title=f"{cut.over} characters over the service’s limit",
            advice="Shorten what the picture shows.",
            phrase="action",
        )
    needed = [
        x
        for x in cut.left
        if x.key.split(":")[0] in ("cast", "costume", "setting", "variant", "style")
        and not x.why.startswith("The short")
    ]
    if needed:
        yield found_in_brief(
            kind="over_limits",
            title=f"The service’s limit leaves out “{short(needed[0].what)}”",
            advice="Shorten wordings on the model sheets, or give them a short form.",
            words=needed[0].what,
        )
    seen = {p.thread for p in cut.brief.pictures}
    for m in shot.members:
        if m.kind == "character" and m.views and m.id not in seen:
            yield found_in_brief(
                kind="over_limits",
                title=f"No view of {m.name} goes out",
                advice="The service takes too few pictures. Lay the views out as one plate.",
                thread=m.id,
            )
    names = {m.id: (m.name, m.hold) for m in shot.members}
    for thread in cut.unknown_holds:
        name, hold = names[thread]
        yield found_in_brief(
            kind="over_limits",
            title=f"The service cannot hold the {hold} of {name}",
            advice="It goes out in words alone.",
            phrase=f"hold:{thread}",
            thread=thread,
        )
    if cut.unknown_aspect:
        yield found_in_brief(
            kind="over_limits",
            title=f"The service makes no pictures of {cut.unknown_aspect}",
            advice="Crop afterwards, or choose another form.",
            phrase="technical",
            words=cut.unknown_aspect,
        )


def ratio_of(aspect: str) -> float:
    """Width over height of an aspect ratio such as 3:2; 0 for none.

    >>> ratio_of("3:2"), ratio_of("")
    (1.5, 0.0)
    """
    m = re.fullmatch(r"\s*(\d+(?:\.\d+)?)\s*[:x/]\s*(\d+(?:\.\d+)?)\s*", aspect)
    return float(m.group(1)) / float(m.group(2)) if m and float(m.group(2)) else 0.0
