"""Somebody saw the demo by a link: what a publisher's editor said of it."""

from __future__ import annotations

from collections.abc import Callable

from juxtaform.studio import plan, showings, shown
from juxtaform.studio.shown import NewNote
from juxtaform.studio.workspace import Workspace

VIEWER = "Ines Moreau"


def by_a_viewer(ws: Workspace, project_id: str, say: Callable[[str], object] = lambda line: None) -> None:
    """Make a showing of the demo, with comments."""
    say("Showing it to somebody …")
    secret, card = showings.make(
        ws,
        project_id,
        "The Borrowed Tide, first look",
        "The harbour and the lamp room are new. Is the tide key clear in shot 4?",
        60,
    )
    with ws.database.session() as s:
        shots = [x.id for x in plan.in_order(s, project_id)]
    cookie = shown.open_by(ws, secret, "", "the demo").cookie
    for shot, words, place in (
        (1, "Sprocket looks at us here, not at the stone.", [0.27, 0.52]),
        (3, "Yes, it is. Could it catch a little light?", [0.47, 0.3]),
    ):
        shown.note(ws, card.id, cookie, NewNote(shots[shot], words, VIEWER, place))
    for shot, says in ((0, "good"), (2, "good"), (1, "change")):
        shown.say(ws, card.id, cookie, shots[shot], says, VIEWER)  # type: ignore[arg-type]
