"""Findings of single pictures as files: their form, what lies round them, how sharp, how compressed and how large they are, and lettering."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core.check.measure import PictureMeasure
from juxtaform.core.check.states import ShotState
from juxtaform.core.findings import Evidence, Finding
from juxtaform.core.picture.regions import shared_area
from juxtaform.core.technical.lettering import Lettering
from juxtaform.core.text.lettering import names_lettering

ASPECT_MOST = 1.03
"""A picture may be so many times as wide or as high as was asked for: a px or two of rounding, and what nobody sees."""
SOFTER = 0.6
"""A picture whose edges are this much wider (log2) than the sequence's usual is soft; half an octave is the spread that subject alone brings."""
SPREADS = 3.0
"""... and at least so many robust spreads of the sequence."""
USUAL_OF = 4
"""Fewer pictures than this make nothing usual."""
BLOCKS, BLOCKS_SURE = 0.65, 3.0
"""Steps at block edges, as a part of the picture's usual step and in their own spread, from which they are told: JPEG below about quality 60, whatever the
hand; at 90 they stay under 0.3, in pictures that were never compressed under 0.02."""
RINGING, RINGING_TIMES = 0.3, 3.0
"""Unrest beside edges above the sequence's usual, in codes, and how many times the usual. It is told beside blocks, never alone: dotted shadows and the
rims of pixel art are as restless."""
OVER_SOMEBODY = 0.35
"""A patch over so much of a marked figure is the figure, not lettering."""
BANDED = 0.01
"""The share of a picture's rows that are staircases, from which bands are seen."""
PRINT_DPI = 300.0
"""Dots per inch that print of pictures is made with."""
MM_PER_INCH = 25.4


@dataclass(frozen=True)
class Wanted:
    """What a project's pictures shall be printed at: the longer side in mm; None where no print was chosen."""

    print_mm: float | None = None


def technical_findings(
    shots: Sequence[ShotState], wanted: Wanted, other_hand: frozenset[str] = frozenset()
) -> list[Finding]:
    """Findings of all pictures as files. What most pictures have is the layout or the way they were made, and is told once or not at all; pictures by
    an `other_hand` are called neither soft nor compressed: their edges are not the
    sequence's."""
    seen = [(s, s.picture) for s in shots if s.picture is not None]
    compressed = _compressed([(s, p) for s, p in seen if s.id not in other_hand])
    return [
        *_bars(seen),
        *(f for s, p in seen if (f := _aspect(s, p)) is not None),
        *_told_alike(seen, lambda s, _: compressed.get(s.id)),
        *_soft([(s, p) for s, p in seen if s.id not in other_hand and s.id not in compressed]),
        *_told_alike(seen, _banded),
        *_lettering(seen),
        *_told_alike(seen, lambda s, p: _small(s, p, wanted)),
    ]


Seen = Sequence[tuple[ShotState, PictureMeasure]]


def _found(shot: ShotState, kind: str, title: str, advice: str, rows: Sequence[Evidence], **more: object) -> Finding:
    return Finding(source="check", kind=kind, shot=shot.id, title=title, advice=advice, evidence=tuple(rows), **more)  # type: ignore[arg-type]


def _told_alike(seen: Seen, one: Callable[[ShotState, PictureMeasure], Finding | None]) -> list[Finding]:
    """What `one` finds in every picture; when most have it, one finding from the first to the last of them."""
    found = [f for s, p in seen if (f := one(s, p)) is not None]
    if len(found) < USUAL_OF or len(found) <= 0.5 * len(seen):
        return found
    worst = max(found, key=lambda f: f.severity)
    return [
        Finding(
            source="check",
            kind=worst.kind,
            shot=found[0].shot,
            until=found[-1].shot,
            title=f"{worst.title}: so it is in {len(found)} of {len(seen)} pictures",
            advice=worst.advice,
            measured=worst.measured,
            expected=worst.expected,
            unit=worst.unit,
            severity=worst.severity,
            evidence=worst.evidence,
        )
    ]


def _bars(seen: Seen) -> list[Finding]:
    bordered = [(s, p) for s, p in seen if p.border is not None]
    if len(bordered) > 0.5 * len(seen):
        return []
    found = []
    for shot, picture in bordered:
        b = picture.border
        assert b is not None
        sides = {"left": b.left, "top": b.top, "right": b.right, "bottom": b.bottom}
        wide = [name for name, value in sides.items() if value > 0]
        letterbox = len(wide) == 2
        where = "above and below" if "top" in wide else "left and right"
        found.append(
            _found(
                shot,
                "letterbox" if letterbox else "border",
                f"Bars {where} of the picture" if letterbox else "A printed border round the picture",
                "Trim them, or retake in the form that is wanted."
                if letterbox
                else "Trim it, or retake without a frame.",
                [Evidence(f"Band, {name}", f"{value:.0f} px", "0 px") for name, value in sides.items()],
                measured=max(sides.values()),
                expected=0.0,
                unit="px",
                severity=1.5,
                region=b.inner(picture.width, picture.height),
            )
        )
    return found


def _aspect(shot: ShotState, picture: PictureMeasure) -> Finding | None:
    wanted = shot.plan.aspect if shot.plan else None
    if not wanted:
        return None
    inner = picture.inner
    # A border is told by itself; the form is that of what it frames or that of the whole, whichever is nearer.
    times = min(_times(v, wanted) for v in (inner.w / inner.h, picture.width / picture.height))
    if times <= ASPECT_MOST:
        return None
    have = picture.width / picture.height
    what = "wider" if have > wanted else "narrower"
    return _found(
        shot,
        "aspect",
        f"The picture is {what} than the form that is wanted",
        "Crop it, extend it, or retake it in the form that is wanted.",
        [
            Evidence(
                "Form of the picture",
                f"{picture.width} × {picture.height} px",
                f"{wanted:.2f} to 1",
                behind=f"{have:.3f} to 1",
            ),
            Evidence("Would be lost by a crop", f"{100 * (1 - 1 / times):.0f} % of the picture"),
        ],
        measured=round(have, 3),
        expected=round(wanted, 3),
        unit="width to height",
        severity=1 + float(np.log(times) / np.log(1.5)),
    )


def _times(a: float, b: float) -> float:
    return max(a / b, b / a)


def _soft(seen: Seen) -> list[Finding]:
    read = [(s, p, float(np.log2(p.technical.edge_width))) for s, p in seen if p.technical and p.technical.edge_width]
    if len(read) < USUAL_OF:
        return []
    # In its own px, and on the page: a small sharp picture is not soft, nor is a very large one whose edges are a few px wide.
    own = np.array([w for _, _, w in read])
    page = own - np.log2([max(p.width, p.height) for _, p, _ in read])
    beyond = np.minimum(_above_usual(own), _above_usual(page))
    found = []
    for (shot, picture, width), over in zip(read, beyond, strict=True):
        if over > 1:
            usual = float(np.median(own))
            found.append(
                _found(
                    shot,
                    "soft",
                    "Softer than the other pictures",
                    "Retake it, or bring it in at its full size: it looks enlarged or taken from a moving picture.",
                    [
                        Evidence(
                            "Edges of the picture",
                            f"{2 ** (width - usual):.1f} times as wide",
                            "as in the others",
                            behind=f"{2**width:.1f} px, usually {2**usual:.1f} px",
                        ),
                        Evidence("Size", f"{picture.width} × {picture.height} px"),
                    ],
                    measured=round(2**width, 2),
                    expected=round(2 ** (usual + SOFTER), 2),
                    unit="px",
                    severity=float(over),
                )
            )
    return found


def _above_usual(values: np.ndarray[tuple[int], np.dtype[np.float64]]) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """How far each value lies above the usual one, 1 at the edge of what counts as usual."""
    usual = np.median(values)
    spread = 1.4826 * float(np.median(np.abs(values - usual)))
    return np.asarray((values - usual) / max(SOFTER, SPREADS * spread))


def _compressed(seen: Seen) -> dict[str, Finding]:
    """Of every picture that compression shows in, what it shows, by shot."""
    ringing = [p.technical.compression.ringing for _, p in seen if p.technical]
    usual = float(np.median(ringing)) if len(ringing) >= USUAL_OF else np.inf

    def one(shot: ShotState, picture: PictureMeasure) -> Finding | None:
        if picture.technical is None:
            return None
        c = picture.technical.compression
        blocks = c.blocks / BLOCKS if c.blocks_sure >= BLOCKS_SURE else 0.0
        if blocks <= 1:
            return None
        rings = (c.ringing - usual) / RINGING if c.ringing > RINGING_TIMES * max(usual, 0.05) else 0.0
        return _found(
            shot,
            "compressed",
            "Compression shows: blocks and unrest beside edges" if rings > 1 else "Compression shows: blocks",
            "Bring the picture in again from a file that was compressed less.",
            [
                Evidence(
                    "Steps at the edges of blocks",
                    "plain to see" if blocks > 2 else "seen",
                    behind=f"{c.blocks:.2f} of the usual step above others, told from {BLOCKS}",
                ),
                Evidence(
                    "Unrest beside hard edges",
                    "more than usual" if rings > 1 else "as usual",
                    behind=f"{c.ringing:.2f} codes" + ("" if np.isinf(usual) else f", usually {usual:.2f}"),
                ),
            ],
            measured=round(c.blocks, 3),
            expected=BLOCKS,
            unit="of the usual step",
            severity=min(3.0, max(blocks, rings)),
        )

    return {s.id: f for s, p in seen if (f := one(s, p)) is not None}


def _banded(shot: ShotState, picture: PictureMeasure) -> Finding | None:
    if picture.technical is None or picture.technical.banding.share < BANDED:
        return None
    read = picture.technical.banding
    return _found(
        shot,
        "banding",
        "A smooth change of tone falls into bands",
        "Export it with more tones (16 bits, then 8 with dither), or lay a little grain over it.",
        [
            Evidence(
                "Part of the picture in bands",
                f"{100 * read.share:.1f} %",
                behind="Share of rows and columns that are staircases",
            ),
            Evidence("Step between bands", f"{read.step:.0f} codes", "1 code"),
        ],
        measured=round(100 * read.share, 2),
        expected=100 * BANDED,
        unit="% of picture",
        severity=float(1 + min(2.0, np.log2(read.share / BANDED) / 2)),
    )


def _lettering(seen: Seen) -> list[Finding]:
    lettered = [(s, patches) for s, p in seen if (patches := _letters_of(s, p))]
    if len(lettered) > 0.5 * len(seen) and len(lettered) >= USUAL_OF:
        return []  # Letters are part of the work, as in comics.
    found = []
    for shot, patches in lettered:
        if names_lettering(shot.words):
            continue
        found.append(
            _found(
                shot,
                "lettering",
                "Letters that nobody asked for"
                if len(patches) == 1
                else f"Letters that nobody asked for, in {len(patches)} places",
                "Change the area, or retake with “no text” in the brief. If the words should be there, say so in what the shot shows.",
                [
                    Evidence(
                        "How sure",
                        "very sure" if patches[0].chance > 0.85 else "sure",
                        behind=f"Chance {patches[0].chance:.2f} that it is lettering",
                    ),
                    Evidence("Height", f"{min(patches[0].box.w, patches[0].box.h):.0f} px"),
                ],
                measured=float(len(patches)),
                expected=0.0,
                unit="places",
                severity=1.0 + patches[0].chance,
                region=patches[0].box,
            )
        )
    return found


def _letters_of(shot: ShotState, picture: PictureMeasure) -> list[Lettering]:
    """The patches of lettering but for those that lie over much of somebody: two faces side by side are much like two letters."""
    patches = picture.technical.lettering or () if picture.technical else ()
    bodies = [m.box for m in shot.marks if m.box.w * m.box.h > 0]
    return [p for p in patches if not any(shared_area(p.box, b) >= OVER_SOMEBODY * b.w * b.h for b in bodies)]


def _small(shot: ShotState, picture: PictureMeasure, wanted: Wanted) -> Finding | None:
    if wanted.print_mm is None:
        return None
    dpi = max(picture.width, picture.height) / (wanted.print_mm / MM_PER_INCH)
    if dpi >= PRINT_DPI * 0.99:
        return None
    need = round(PRINT_DPI * wanted.print_mm / MM_PER_INCH)
    return _found(
        shot,
        "too_small",
        f"Too small to print with a longer side of {wanted.print_mm:.0f} mm",
        "Make the final of this picture larger, or print it smaller.",
        [
            Evidence("Dots per inch in print", f"{dpi:.0f}", f"{PRINT_DPI:.0f}"),
            Evidence("Longer side", f"{max(picture.width, picture.height)} px", f"{need} px"),
        ],
        measured=round(dpi, 1),
        expected=PRINT_DPI,
        unit="dpi",
        severity=PRINT_DPI / dpi,
    )
