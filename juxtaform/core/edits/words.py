"""What a proof says, in an illustrator's words."""

from __future__ import annotations

from juxtaform.core.edits.added import AddedPart
from juxtaform.core.edits.proof import REPAINTED_FLOOR, EditProof
from juxtaform.core.text.listing import listed

LIGHTER_STOPS, MOVED_PX, SOFTER_PX = 0.04, 0.6, 0.5
"""What is less than this is not worth a word."""


def verdict(proof: EditProof) -> str:
    """One sentence that says whether anything outside the area changed."""
    if proof.changed:
        count = len(proof.places)
        where = "One place" if count == 1 else f"{count} places"
        by = max(p.delta for p in proof.places)
        return f"{where} outside the area changed{'' if count == 1 else ', the strongest'} by {by:.0f} ΔE."
    if proof.floor > REPAINTED_FLOOR:
        return "The whole picture was painted anew: everything outside the area differs a little."
    return "Nothing outside the area changed."


def harmless(proof: EditProof) -> str:
    """What happened to the whole picture and is no harm; empty when nothing did."""
    said = []
    if abs(proof.stops) >= LIGHTER_STOPS:
        said.append(
            f"{abs(proof.stops):.1f} stops {'lighter' if proof.stops > 0 else 'darker'}".replace(
                "0.0 stops", "a little"
            )
        )
    if proof.shift_px >= MOVED_PX:
        said.append(f"moved by {proof.shift_px:.0f} px" if proof.shift_px >= 1.5 else "moved by a pixel")
    if abs(proof.blur) >= SOFTER_PX:
        said.append("softer" if proof.blur > 0 else "sharper")
    if proof.resized:
        said.append("in another size")
    if not said:
        return ""
    return f"It came back {listed(said)}; that was taken out before comparing."


def matches(part: AddedPart) -> str:
    """What an added part is like beside the rest."""
    where = {"left": "on the left", "right": "on the right", "above": "above", "below": "below"}[part.side]
    if not part.departures:
        return f"What was added {where} matches."
    return f"What was added {where} does not match: {listed([d.words for d in part.departures])}."
