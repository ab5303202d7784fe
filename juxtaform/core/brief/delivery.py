"""Concerns of what goes out beside the words: the form, the guide, references, and a service's limits."""

from __future__ import annotations

import re
from collections.abc import Iterator

from juxtaform.core.brief.compose import BriefShot
from juxtaform.core.brief.concerns import Concern, Mend, State
from juxtaform.core.brief.trimming import Fitted

GUIDE_RUN = 3
"""As many shots in a row on one guide are a batch in which it was forgotten: two may share a set-up."""
GUIDE_FORM_OFF = 0.06
"""A hand-drawn guide may differ by so much from the form of the picture: more has to be cut or squeezed."""
GUIDE_CHROMA_RATIO, GUIDE_CHROMA_MORE = 1.35, 0.02
"""A guide lends its colours when its strong ones (OKLab chroma) exceed the style's by a third, and plainly."""


def beside_words(shot: BriefShot, state: State) -> Iterator[Concern]:
    """What speaks against the form of a picture, its guide and its references."""
    wanted = state.wanted_aspect
    if wanted and shot.aspect and shot.aspect != wanted and not state.is_spread:
        yield Concern(
            "aspect", f"{shot.aspect}, where the project is {wanted}", "The pictures will not fit together.", "technical",
            words=shot.aspect, mend=Mend("aspect", f"Use {wanted}", value=wanted),
        )  # fmt: skip
    form = ratio_of(shot.aspect or wanted)
    if state.guide_form and form and abs(state.guide_form / form - 1) > GUIDE_FORM_OFF:
        yield Concern(
            "aspect", "The guide has another form than the picture", "It will be cut or squeezed. Crop the guide first.",
            mend=Mend("drop_guide", "Take the guide off"),
        )  # fmt: skip
    if state.guide_chroma is not None and state.style_chroma is not None and state.guide_chroma > state.style_chroma * GUIDE_CHROMA_RATIO + GUIDE_CHROMA_MORE:  # fmt: skip
        yield Concern(
            "colourful_guide", "The guide is more colourful than the style", "Its colours will come through. Use it in grey, or lower its strength.",
            mend=Mend("drop_guide", "Take the guide off"),
        )  # fmt: skip
    if state.guide_run >= GUIDE_RUN:
        yield Concern(
            "same_guide", f"The same guide on {state.guide_run} shots in a row", "Was it left on by mistake?",
            mend=Mend("drop_guide", "Take the guide off"),
        )  # fmt: skip
    names = {m.id: m.name for m in shot.members}
    for thread, reason in state.unfit:
        yield Concern("unfit_reference", f"{names.get(thread, 'A reference')}: {reason}", "Choose another view, or mend the reference.", thread=thread, words=reason)  # fmt: skip
    for thread in state.stale:
        yield Concern(
            "stale_reference", f"{names.get(thread, 'A thread')} is attached in an old view", "A newer version is there.",
            thread=thread, mend=Mend("newest", "Use the newest", thread),
        )  # fmt: skip


def limits(shot: BriefShot, cut: Fitted) -> Iterator[Concern]:
    """What a service's limits would leave out that matters."""
    if cut.over:
        yield Concern(
            "over_limits",
            f"{cut.over} characters over the service’s limit",
            "Shorten what the picture shows.",
            "action",
        )
    needed = [x for x in cut.left if x.key.split(":")[0] in ("cast", "costume", "setting", "variant", "style") and not x.why.startswith("The short")]  # fmt: skip
    if needed:
        yield Concern(
            "over_limits", f"The service’s limit leaves out “{_short(needed[0].what)}”",
            "Shorten wordings on the model sheets, or give them a short form.", words=needed[0].what,
        )  # fmt: skip
    seen = {p.thread for p in cut.brief.pictures}
    for m in shot.members:
        if m.kind == "character" and m.views and m.id not in seen:
            yield Concern(
                "over_limits", f"No view of {m.name} goes out", "The service takes too few pictures. Lay the views out as one plate.",
                thread=m.id,
            )  # fmt: skip
    names = {m.id: (m.name, m.hold) for m in shot.members}
    for thread in cut.unknown_holds:
        name, hold = names[thread]
        yield Concern("over_limits", f"The service cannot hold the {hold} of {name}", "It goes out in words alone.", f"hold:{thread}", thread=thread)  # fmt: skip
    if cut.unknown_aspect:
        yield Concern("over_limits", f"The service makes no pictures of {cut.unknown_aspect}", "Crop afterwards, or choose another form.", "technical", words=cut.unknown_aspect)  # fmt: skip


def ratio_of(aspect: str) -> float:
    """Width over height of an aspect ratio such as 3:2; 0 for none.

    >>> ratio_of("3:2"), ratio_of("")
    (1.5, 0.0)
    """
    m = re.fullmatch(r"\s*(\d+(?:\.\d+)?)\s*[:x/]\s*(\d+(?:\.\d+)?)\s*", aspect)
    return float(m.group(1)) / float(m.group(2)) if m and float(m.group(2)) else 0.0


def _short(words: str) -> str:
    return words if len(words) <= 48 else words[:45].rsplit(" ", 1)[0] + " …"
