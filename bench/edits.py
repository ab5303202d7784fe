"""Edits of an area on constructed pairs: how well a change outside is told from what is harmless, and added parts from those that go on."""

from __future__ import annotations

from collections import defaultdict

import cv2
import numpy as np

from juxtaform.core.edits.added import added_parts
from juxtaform.core.edits.proof import proof
from tests.constructed_edits import grown, is_found, pair

PAIRS, GROWN = 150, 84
HALVES = (("half that was set on", 0), ("other half", 1))


def proofs() -> None:
    """ROC AUC of the strongest change outside, and what is told at the level that ships, for both halves."""
    cv2.setNumThreads(1)
    for name, half in HALVES:
        told: defaultdict[str, list[bool]] = defaultdict(list)
        strengths: dict[bool, list[float]] = {True: [], False: []}
        for i in range(PAIRS):
            made = pair(2 * i + half)
            seen = proof(made.before, made.after, made.mask)
            strengths[bool(made.change)].append(seen.strength)
            if made.where is None:
                told["clean pairs told as changed"].append(seen.changed)
                told[f"  {made.harmless}, {made.hand}"].append(seen.changed)
            else:
                found = is_found(tuple(p.box for p in seen.places), made.where)
                told["changes found, at their place"].append(found)
                told[f"  {made.change}"].append(found)
                told[f"  {made.magnitude * 100:.1f} % of the longer side"].append(found)
        changed, clean = (np.array(strengths[k]) for k in (True, False))
        auc = (changed[:, None] > clean).mean() + 0.5 * (changed[:, None] == clean).mean()
        print(f"{name}: ROC AUC {auc:.4f} ({len(changed)} changed, {len(clean)} clean; wanted 0.995)")
        for what, those in sorted(told.items(), key=lambda t: t[0].startswith("  ")):
            if any(those) or "," not in what or not what.startswith("  "):
                print(f"  {what.strip()}: {sum(those)} of {len(those)}")


def growth() -> None:
    """Added sides that go on as the picture does, and such in another hand, light or colour."""
    cv2.setNumThreads(1)
    for name, half in HALVES:
        told: defaultdict[str, list[bool]] = defaultdict(list)
        for i in range(GROWN):
            pixels, box, _, flaw = grown(2 * i + half)
            told[flaw or "nothing wrong"] += [bool(p.departures) for p in added_parts(pixels, box)]
        print(f"{name}: " + "; ".join(f"{what} told {sum(t)} of {len(t)}" for what, t in sorted(told.items())))
