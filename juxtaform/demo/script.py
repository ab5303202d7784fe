"""The demo's second project: the same story as a script for an animated short, with its first scene settled."""

from __future__ import annotations

from juxtaform.records.models import Project
from juxtaform.studio import projects, proposals, story
from juxtaform.studio.storytext import first_parts
from juxtaform.studio.workspace import Workspace, found

TITLE = "The Borrowed Tide: the short"
TARGET_S = 110.0
SETTLED_SCENES = 1

TEXT = """Title: The Borrowed Tide
Credit: an animated short
Author: the harbour light
Draft date: second draft

# The tide is gone

= Pell learns that nobody is supposed to ask.

EXT. HARBOUR STEPS - DUSK

Boats lie on their sides in the mud. PELL, nine, in a mustard oilskin, sits on the bottom step and dangles her boots in nothing.

SPROCKET, a brass crab, taps the dry stone twice. He does not look at her.

PELL
You know something.

SPROCKET
(to the stone)
Click.

Up on the quay ODA counts the boats. [[Do we see all nine? Seven would be easier to draw.]]

ODA
Nine. And one of them is mine.

# The key

INT. LAMP ROOM - NIGHT

A clock. Behind it the shadow of a long iron key.

Pell climbs onto the chair. Sprocket holds it with both claws.

PELL
Higher.

SPROCKET ^
Click!

She lifts the key down. It is colder than it looks.

ODA (O.S.)
(yawning)
Is somebody up?

Pell and Sprocket freeze.

/* An earlier draft had Oda come in with a candle here. */

INT. INNER STAIR - CONTINUOUS

Two hundred steps. Pell takes the first fifty on tiptoe. Sprocket clicks down behind her, one step at a time.

# The tide

INT. CAVE - MIDNIGHT

A door shaped like a shell. Pell turns the key.

The door opens with a sigh. Behind it lies the tide, fast asleep, curled round its own tail.

PELL
You might have said.

Sprocket hides his eye.

Pell puts the whistle to her lips.

~One long note,
~the note that means dinner.

EXT. HARBOUR STEPS - DAWN

The tide wakes, stretches, and remembers the sea. One after another the boats stand up.

Pell stands on the top step with the key behind her back. Oda comes out with two cups of tea.

ODA
Well. There it is, then.

She hangs her shawl over the hook where the key belonged.

> FADE OUT.

> THE END <
"""


def load(ws: Workspace) -> str:
    """Write the script's project: its cast and places as threads, its shots proposed, the first scene accepted."""
    project = projects.make(ws, TITLE)
    with ws.writing(project, "made the demo project") as w:
        row = found(w.session, Project, project)
        row.syntax, row.target_s, row.audience = "fountain", TARGET_S, "voice-over"
        w.add(*first_parts(project, TEXT))
    found_in_text = [(c.kind, c.name) for c in story.reading(ws, project).found if c.kind != "prop" and c.sure]
    proposals.make_threads(ws, project, found_in_text)
    proposals.propose(ws, project)
    rows = projects.snapshot(ws, project).rows
    scenes = sorted(rows["scene"], key=lambda s: s["position"])[:SETTLED_SCENES]
    first = [s["id"] for s in rows["shot"] if s["scene_id"] in {x["id"] for x in scenes}]
    proposals.accept(ws, project, first)
    projects.forget_history(ws, project)
    return project
