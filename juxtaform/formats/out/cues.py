"""The cue sheet: what sounds when, a line a sound, as CSV with timecodes."""

from __future__ import annotations

import csv
import io

from juxtaform.formats.cells import safe_cell
from juxtaform.formats.out.sequence import OutSequence

COLUMNS = (
    "Cue",
    "In",
    "Out",
    "Length s",
    "Shot",
    "Scene",
    "Kind",
    "Who",
    "Words",
    "File",
    "From s",
    "Gain dB",
    "Fade in s",
    "Fade out s",
)


def timecode(time_s: float, fps: float) -> str:
    """A moment as hours, minutes, seconds and frames.

    >>> timecode(61.5, 24)
    '00:01:01:12'
    """
    whole = round(fps)
    frames = round(time_s * fps)
    seconds, frame = divmod(frames, whole)
    return f"{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}:{frame:02d}"


def cue_sheet(sequence: OutSequence) -> str:
    """The cue sheet of a sequence, its sounds in the order in which they begin."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    scenes = {x.number: x.scene for x in sequence.shots}
    for i, sound in enumerate(sequence.sounds, 1):
        laid, p = sound.laid, sound.laid.piece
        cells = [
            str(i),
            timecode(laid.start_s, sequence.fps),
            timecode(laid.end_s, sequence.fps),
            f"{laid.end_s - laid.start_s:.2f}",
            str(sound.number),
            scenes.get(sound.number, ""),
            p.kind,
            sound.who,
            p.line,
            sound.name,
            f"{p.from_s:.2f}",
            f"{p.gain_db:.1f}",
            f"{p.fade_in_s:.2f}",
            f"{p.fade_out_s:.2f}",
        ]
        numbers = {0, 1, 2, 3, 4, 10, 11, 12, 13}
        writer.writerow([c if k in numbers else safe_cell(c) for k, c in enumerate(cells)])
    return out.getvalue()
