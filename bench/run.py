"""Speed as ratios, and rates on constructed truth. `python -m bench.run [part …]`; without any, all parts but `art`, `soak` and what is read once."""

from __future__ import annotations

import sys
from collections.abc import Callable

from bench import (
    briefs,
    check_speed,
    clips,
    delivery,
    edits,
    fuzz,
    intake,
    kill,
    kinds,
    light_table,
    rates,
    screens,
    sound,
    speed,
    story,
    takes,
    together,
    work,
)
from bench.art import judge

PARTS: dict[str, Callable[[], None]] = {
    "measure": speed.measure_against_decoding,
    "scale": speed.four_hundred_against_one_hundred,
    "recheck": speed.recheck_after_one_replacement,
    "sheet": screens.sheet_frames,
    "typing": screens.typing,
    "breakdown": story.breakdown_on_hand_made_truth,
    "linear": story.breakdown_is_linear,
    "wild": story.wild_texts,
    "anchoring": story.anchoring_after_an_edit,
    "panels": story.panels_on_constructed_pages,
    "preflight": briefs.preflight_on_hand_made_truth,
    "briefs": briefs.a_thousand_briefs_against_reading_their_rows,
    "likeness": briefs.likeness_against_a_matrix_product,
    "paint": screens.first_paint,
    "opening": screens.opening,
    "crops": screens.crops_against_thumbnails,
    "table": intake.ten_times_the_rows,
    "picture": intake.memory_of_the_largest_picture,
    "art": judge.on_foreign_art,
    "truth": rates.on_constructed_truth,
    "new": check_speed.against_decoding,
    "thousands": check_speed.ten_thousand,
    "kinds": kinds.half,
    "kinds-last": kinds.last,
    "edit": work.one_edit,
    "snapshot": work.snapshot_against_bare_json,
    "letter": work.a_letter,
    "fifty": work.fifty_people,
    "signed": work.signed_in,
    "soak": together.soak,
    "far": together.far_against_here,
    "parts": together.parts,
    "queue": takes.queue_against_a_bare_loop,
    "contact": takes.contact_sheet_of_two_hundred,
    "gauge": takes.measures_on_screen,
    "panning": light_table.panning,
    "edits": edits.proofs,
    "growth": edits.growth,
    "clip": clips.reading_against_decoding,
    "slips": clips.slips,
    "late": delivery.late_frames,
    "animatic": delivery.animatic_against_its_encoder,
    "paper": delivery.pdf_against_its_pictures,
    "sound": sound.half,
    "sound-last": sound.last,
    "fuzz": fuzz.everything_that_comes_in,
    "kill": kill.server_and_database_at_random,
    "half-way": kill.half_way,
}

GROUPS = {
    "delivery": ("late", "animatic", "paper"),
    "takes": ("queue", "contact", "gauge"),
    "kill": ("kill", "half-way"),
    "screens": ("edit", "letter", "snapshot", "fifty", "opening", "sheet", "typing", "recheck", "crops"),
}
"""Parts that are asked for by one name: how work on the screens fits the edit, in one run."""

if __name__ == "__main__":
    asked = [part for a in sys.argv[1:] for part in GROUPS.get(a, (a,)) if part in PARTS]
    for name in asked or [p for p in PARTS if p not in ("art", "kinds-last", "sound-last", "soak")]:
        print(f"\n== {name}", flush=True)
        PARTS[name]()
