"""The demo's twelve pictures and its references, drawn from parameters; what is wrong in them is written here."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.demo import cast, places
from juxtaform.demo.cast import Pose
from juxtaform.demo.paper import Hand, Piece, Placed, blob, bordered, greyed, lit, rendered, svg

Pixels = NDArray[np.uint8]
WIDTH, HEIGHT = 1200, 800
DUSK, NIGHT, DEEP_NIGHT, DAWN = (0.92, 0.74, 0.66), (0.42, 0.50, 0.74), (0.5, 0.62, 0.72), (1.04, 0.92, 0.82)
CRAB, KEY = (200.0, 140.0), (60.0, 200.0)


@dataclass(frozen=True)
class Page:
    """One picture's parameters: ground, figures by thread, light, and what is wrong with it."""

    ground: tuple[Piece, ...]
    figures: tuple[tuple[str, Placed], ...]
    light: tuple[float, float, float]
    seed: int
    hand: Hand = "paper"
    grey: float = 0.0
    border: bool = False
    unplanned: tuple[str, ...] = ()
    fault: str = ""


def _pell(
    x: float, y: float, scale: float, pose: Pose, *, mirrored: bool = False, **look: object
) -> tuple[str, Placed]:
    return "pell", Placed(cast.pell(pose, **look), x, y, scale, mirrored)  # type: ignore[arg-type]


def _crab(
    x: float, y: float, scale: float, left: float = 0.0, right: float = 0.0, *, eye: str = cast.EYE, bow: bool = False
) -> tuple[str, Placed]:
    return "sprocket", Placed(cast.sprocket(left, right, eye=eye, bow=bow), x, y, scale, size=CRAB)


def _oda(x: float, y: float, scale: float, pose: Pose, *, mirrored: bool = False) -> tuple[str, Placed]:
    return "oda", Placed(cast.oda(pose), x, y, scale, mirrored)


def _key(x: float, y: float, scale: float, turn: float = 0.0) -> tuple[str, Placed]:
    return "key", Placed(cast.tide_key(), x, y, scale, turn=turn, size=KEY)


PAGES: tuple[Page, ...] = (
    Page(
        (*places.steps(), *places.lettered("TOLERAT", 838, 716, 40, places.CREAM)),
        (_pell(330, 300, 1.0, Pose(20, 34)), _crab(560, 600, 0.95, 0, 14)),
        DUSK,
        3,
        fault="letters that nobody asked for",
    ),
    Page(
        places.steps(shift=-90),
        (
            _pell(640, 150, 1.3, Pose(12, 60, gaze=-5), mirrored=True, whistle=False),
            _crab(250, 470, 1.6, 30, 0, bow=True),
        ),
        DUSK,
        5,
        fault="the whistle is missing; Sprocket wears a bow that nobody asked for; Pell and Sprocket have changed sides since the first picture",
    ),
    Page(
        places.steps(shift=60),
        (_oda(460, 170, 1.45, Pose(24, 96, gaze=4)),),
        DUSK,
        7,
        border=True,
        fault="a printed border",
    ),
    Page(
        (*places.lamp_room(), *places.wall_clock(690, 200)),
        (_pell(420, 280, 1.15, Pose(30, 120, gaze=4)), _key(668, 250, 0.85)),
        NIGHT,
        11,
        fault="the words name Oda, who is not in it",
    ),
    Page(
        places.lamp_room(shift=30),
        (
            _pell(520, 190, 1.3, Pose(110, 36, gaze=-4), coat=cast.OLIVE),
            _crab(240, 560, 1.05, 34, 34),
            _key(425, 210, 0.95, 20),
        ),
        NIGHT,
        13,
        fault="the coat is olive",
    ),
    Page(
        places.stairs_down(),
        (_pell(510, 240, 1.0, Pose(70, 70)), _crab(300, 470, 0.85, 0, 20)),
        DEEP_NIGHT,
        17,
        hand="inked",
        fault="inked and shaded, another hand",
    ),
    Page(
        (*places.cave(tide=False), *places.shell_door()),
        (
            _pell(150, 290, 1.1, Pose(26, 84), costume="night-shirt"),
            _crab(860, 590, 0.9, 10, 0),
            _key(330, 330, 0.8, 60),
        ),
        DEEP_NIGHT,
        19,
        fault="the cave is not as on its reference: a door, and no tide",
    ),
    Page(
        places.cave(90),
        (
            _pell(150, 260, 1.2, Pose(30, 46, gaze=5), costume="night-shirt"),
            _crab(420, 560, 1.1, 0, 0, eye=cast.RED_EYE),
        ),
        DEEP_NIGHT,
        23,
        fault="Sprocket's eye is red",
    ),
    Page(
        places.cave(-60, awake=True),
        (_pell(330, 150, 1.5, Pose(14, 24), costume="night-shirt", mirrored=True), _crab(800, 560, 1.25)),
        DEEP_NIGHT,
        29,
        unplanned=("sprocket",),
        fault="Sprocket is there, and the plan does not say so",
    ),
    Page(
        places.steps(dawn=True),
        (_pell(300, 270, 1.05, Pose(36, 100)), _crab(520, 610, 0.9, 24, 24)),
        DAWN,
        31,
        grey=0.38,
        fault="slides towards grey",
    ),
    Page(
        places.steps(dawn=True, shift=-120),
        (_pell(470, 170, 1.35, Pose(8, 12)), _crab(760, 560, 1.1, 0, 18)),
        DAWN,
        37,
        grey=0.54,
        fault="slides towards grey",
    ),
    Page(
        places.steps(dawn=True, shift=-40),
        (_pell(260, 300, 1.05, Pose(16, 22, gaze=5)), _oda(520, 240, 1.2, Pose(50, 20, gaze=5))),
        DAWN,
        41,
        grey=0.68,
        fault="slides towards grey",
    ),
)


@dataclass(frozen=True)
class ReferencePage:
    """A reference picture: its thread, view, costume, weight, and the picture's maker."""

    thread: str
    view: str
    draw: Callable[[], Pixels]
    costume: str = ""
    weight: float = 1.0


@dataclass(frozen=True)
class TraitFacts:
    """A trait's name, box on the reference of that view (in px of the model sheet), part, colours, and place on the body
    map."""

    thread: str
    view: str
    name: str
    box: tuple[float, float, float, float]
    part: str
    colours: tuple[str, ...] = field(default=())
    body: tuple[float, float] | None = None


def _sheet(
    pieces: tuple[Piece, ...], size: tuple[float, float] = (200, 400), *, mirrored: bool = False, k: float = 1.0
) -> Callable[[], Pixels]:
    """A model sheet: the figure alone on white, 620 x 872 (the crab: 620 x 360), 2 px a unit; all of it `k` times."""
    height = 872 if size[1] == 400 else 40 + int(size[1] * 2) + 40

    def draw() -> Pixels:
        return rendered(
            svg((), (Placed(pieces, 110 * k, 34 * k, 2.0 * k, mirrored, size=size),), round(620 * k), round(height * k))
        )

    return draw


def _ground(pieces: tuple[Piece, ...], seed: int, light: tuple[float, float, float]) -> Callable[[], Pixels]:
    return lambda: lit(rendered(svg(pieces, (), WIDTH, HEIGHT, seed=seed)), light)


_NEUTRAL = (1.0, 1.0, 1.0)

REFERENCES: tuple[ReferencePage, ...] = (
    ReferencePage("pell", "front", _sheet(cast.pell(Pose()))),
    ReferencePage("pell", "arms out", _sheet(cast.pell(Pose(80, 50, 28, 4)), mirrored=True), weight=0.6),
    ReferencePage("pell", "night-shirt, front", _sheet(cast.pell(Pose(), costume="night-shirt")), "night-shirt"),
    ReferencePage(
        "pell", "night-shirt, arms out", _sheet(cast.pell(Pose(60, 90, 26), costume="night-shirt")), "night-shirt", 0.6
    ),
    ReferencePage("oda", "front", _sheet(cast.oda(Pose()))),
    ReferencePage("oda", "counting", _sheet(cast.oda(Pose(20, 90)), mirrored=True), weight=0.6),
    ReferencePage("sprocket", "front", _sheet(cast.sprocket(), CRAB, k=1.5)),
    ReferencePage("sprocket", "claws up", _sheet(cast.sprocket(34, 34), CRAB, k=1.5), weight=0.6),
    ReferencePage("steps", "dusk", _ground(places.steps(shift=20), 51, DUSK), "dusk"),
    ReferencePage("lamp", "night", _ground(places.lamp_room(), 52, NIGHT)),
    ReferencePage("stairs", "night", _ground(places.stairs_down(), 53, DEEP_NIGHT)),
    ReferencePage("cave", "night", _ground(places.cave(), 54, DEEP_NIGHT)),
    ReferencePage("steps", "dawn", _ground(places.steps(dawn=True), 55, DAWN), "dawn"),
    ReferencePage("style", "gulls", _ground(places.still_life(0), 61, _NEUTRAL)),
    ReferencePage("style", "houses", _ground(places.still_life(1), 62, DUSK)),
    ReferencePage("style", "jars", _ground(places.still_life(2), 63, _NEUTRAL), weight=0.8),
    ReferencePage("style", "fish", _ground(places.still_life(3), 64, NIGHT), weight=0.8),
    ReferencePage(
        "key", "front", lambda: rendered(svg((), (Placed(cast.tide_key(), 90, 45, 3.0, size=KEY),), 360, 690))
    ),
    ReferencePage(
        "whistle",
        "front",
        lambda: rendered(
            svg(
                (),
                (
                    Placed(
                        (
                            Piece(blob((84, 40), (106, 40), (108, 232), (86, 232)), cast.SILVER),
                            Piece("M92,70a4,4 0 1 0 8,0a4,4 0 1 0 -8,0Z", cast.INK),
                        ),
                        -70,
                        -10,
                        2.6,
                    ),
                ),
                360,
                690,
            )
        ),
    ),
)

LATER_DAWN = ReferencePage("steps", "dawn", _ground(places.steps(dawn=True, shift=60), 58, DAWN), "dawn")
"""A newer version of the steps at dawn, with the boats nearer: it holds for the last two shots, whose pictures are older."""

TRAITS: tuple[TraitFacts, ...] = (
    TraitFacts("pell", "front", "Hair", (200, 90, 220, 90), "face", (cast.COPPER,), (0.5, 0.07)),
    TraitFacts("pell", "front", "Coat", (190, 340, 240, 330), "outfit", (cast.MUSTARD,), (0.5, 0.45)),
    TraitFacts("pell", "front", "Whistle", (274, 398, 56, 104), "outfit", (cast.SILVER,), (0.5, 0.33)),
    TraitFacts("pell", "front", "Boots", (190, 690, 240, 150), "outfit", (cast.BOOT,), (0.43, 0.95)),
    TraitFacts("pell", "night-shirt, front", "Hair", (200, 90, 220, 90), "face", (cast.COPPER,), (0.5, 0.07)),
    TraitFacts(
        "pell",
        "night-shirt, front",
        "Night-shirt",
        (190, 340, 240, 330),
        "outfit",
        (cast.SHIRT, cast.STRIPE),
        (0.5, 0.45),
    ),
    TraitFacts("pell", "night-shirt, front", "Whistle", (274, 398, 56, 104), "outfit", (cast.SILVER,), (0.5, 0.33)),
    TraitFacts("pell", "night-shirt, front", "Bare feet", (190, 740, 240, 100), "outfit", (cast.SKIN,), (0.43, 0.97)),
    TraitFacts("oda", "front", "White hair", (200, 90, 220, 80), "face", (cast.WHITE_HAIR,), (0.5, 0.07)),
    TraitFacts("oda", "front", "Shawl", (180, 330, 260, 270), "outfit", (cast.PLUM,), (0.5, 0.36)),
    TraitFacts("oda", "front", "Skirt", (190, 560, 240, 220), "outfit", (cast.SKIRT,), (0.5, 0.72)),
    TraitFacts("sprocket", "front", "Brass", (165, 90, 600, 375), "figure", (cast.BRASS,)),
    TraitFacts("sprocket", "front", "Eye", (393, 117, 144, 150), "face", (cast.EYE,)),
)


def picture(page: Page) -> Pixels:
    """The page drawn, lit, and with its faults."""
    drawn = rendered(svg(page.ground, tuple(f for _, f in page.figures), WIDTH, HEIGHT, page.seed, page.hand))
    seen = lit(drawn, page.light)
    if page.grey:
        seen = greyed(seen, page.grey)
    return bordered(seen, 0.055, "#f3efe6") if page.border else seen


def marks(page: Page) -> list[tuple[str, tuple[float, float, float, float]]]:
    """Where each character stands on the page, in px, as a user would draw the boxes."""
    inset = 0.055 * HEIGHT if page.border else 0.0
    fx, fy = (WIDTH - 2 * inset) / WIDTH, (HEIGHT - 2 * inset) / HEIGHT
    found = []
    for thread, placed in page.figures:
        if thread not in ("pell", "oda", "sprocket") or thread in page.unplanned:
            continue
        x, y, w, h = placed.box()
        reach, grown = (0.12 if thread != "sprocket" else 0.04) * w, 0.03 * w
        x0, y0 = max(0.0, x - reach), max(0.0, y - grown)
        x1, y1 = min(float(WIDTH), x + w + reach), min(float(HEIGHT), y + h + grown)
        found.append((thread, (x0 * fx + inset, y0 * fy + inset, (x1 - x0) * fx, (y1 - y0) * fy)))
    return found


def png(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=4)
    return out.getvalue()
