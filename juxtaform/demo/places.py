"""The demo's settings and the still lifes of its style references, as pieces on a page of 1200 x 800 units."""

from __future__ import annotations

from juxtaform.demo.paper import Piece, Placed, blob, box, ellipse, line, polygon

TEAL, DEEP, MID, PALE = "#1f5f66", "#143c44", "#3f8a8c", "#8fbfb8"
PLUM, DUSK_PLUM, PINK, SHELL = "#6a3a60", "#8d5a7c", "#e6a39a", "#f2c9bb"
STONE, STONE_DARK, CREAM, NIGHT, WOOD = "#56777c", "#3c5a61", "#f1e3cd", "#1d2c4c", "#5d4038"


def boat(x: float, y: float, size: float, hull: str, tilt: float = 0.0) -> tuple[Piece, ...]:
    s, t = size, tilt
    return (
        Piece(polygon((x + 4 * s + t * 20 * s, y - 62 * s), (x + 8 * s, y), (x + 46 * s, y - 4 * s)), SHELL),
        Piece(line((x + t * 20 * s, y - 70 * s), (x, y + 4 * s)), WOOD, 5 * s, 0),
        Piece(
            blob(
                (x - 62 * s, y - t * 22 * s),
                (x + 62 * s, y + t * 22 * s),
                (x + 38 * s, y + 30 * s),
                (x - 40 * s, y + 28 * s),
            ),
            hull,
        ),
    )


STROKES = {
    "A": (((0, 10), (4, 0), (8, 10)), ((2, 6), (6, 6))),
    "E": (((7, 0), (0, 0), (0, 10), (7, 10)), ((0, 5), (6, 5))),
    "L": (((0, 0), (0, 10), (7, 10)),),
    "O": (((0, 0), (8, 0), (8, 10), (0, 10), (0, 0)),),
    "R": (((0, 10), (0, 0), (7, 0), (7, 5), (0, 5)), ((3, 5), (8, 10))),
    "T": (((0, 0), (8, 0)), ((4, 0), (4, 10))),
}
"""Letters as a brush writes them, in a box of 8 x 10 units."""


def lettered(word: str, x: float, y: float, height: float, fill: str) -> tuple[Piece, ...]:
    """A word that nobody asked for, as it creeps into pictures."""
    k = height / 10
    return tuple(
        Piece(line(*((x + (px + 12 * i) * k, y + py * k) for px, py in stroke)), fill, 1.7 * k, 0)
        for i, letter in enumerate(word)
        for stroke in STROKES[letter]
    )


def steps(dawn: bool = False, shift: float = 0.0) -> tuple[Piece, ...]:
    """The harbour steps: mud and tilted boats at dusk, water and upright boats at dawn."""
    sky, far, near = (SHELL, PINK, MID) if dawn else (TEAL, PLUM, DUSK_PLUM)
    ground = PALE if dawn else STONE_DARK
    tilt = 0.0 if dawn else 0.8
    x = shift
    pieces = [
        Piece(box(-20, -20, 1240, 840), sky, lift=0),
        Piece(ellipse(860 + x / 2, 250 if dawn else 330, 92), CREAM if dawn else PINK),
        Piece(
            blob((-60, 420), (160, 330), (380, 390), (640, 320), (900, 380), (1260, 310), (1280, 620), (-60, 620)), far
        ),
        Piece(blob((-60, 480), (240, 440), (620, 470), (1000, 420), (1280, 460), (1280, 700), (-60, 700)), near),
        Piece(blob((-60, 540), (400, 520), (800, 540), (1280, 515), (1280, 840), (-60, 840)), ground),
        *boat(640 + x, 590, 1.0, PLUM, tilt),
        *boat(910 + x, 640, 1.25, TEAL, -tilt),
        Piece(polygon((-30, 560), (210, 560), (210, 840), (-30, 840)), STONE),
        Piece(polygon((-30, 630), (330, 630), (330, 840), (-30, 840)), STONE),
        Piece(polygon((-30, 705), (470, 705), (470, 840), (-30, 840)), STONE),
    ]
    return tuple(pieces)


def lamp_room(shift: float = 0.0) -> tuple[Piece, ...]:
    x = shift
    stars = [(300, 130), (352, 210), (420, 110), (470, 240), (268, 250), (520, 150)]
    return (
        Piece(box(-20, -20, 1240, 840), PLUM, lift=0),
        Piece(box(210 + x, 60, 370, 270), NIGHT),
        *(Piece(ellipse(sx + x, sy, 5), CREAM, lift=0) for sx, sy in stars),
        Piece(box(385 + x, 56, 16, 280), WOOD),
        Piece(blob((820 + x, 110), (960 + x, 90), (1090 + x, 120), (1070 + x, 420), (840 + x, 420)), MID),
        Piece(blob((870 + x, 170), (950 + x, 150), (1030 + x, 175), (1010 + x, 370), (885 + x, 370)), CREAM),
        Piece(box(800 + x, 420, 310, 60), DEEP),
        Piece(box(880 + x, 480, 150, 200), DUSK_PLUM),
        Piece(polygon((-30, 660), (1240, 650), (1240, 840), (-30, 840)), DEEP),
        Piece(blob((60, 700), (600, 690), (1100, 705), (1000, 780), (200, 790)), STONE_DARK),
    )


def wall_clock(x: float, y: float) -> tuple[Piece, ...]:
    return (
        Piece(ellipse(x, y, 70), WOOD),
        Piece(ellipse(x, y, 54), SHELL),
        Piece(line((x, y), (x, y - 40)), DEEP, 6, 0),
        Piece(line((x, y), (x + 26, y + 14)), DEEP, 6, 0),
    )


def cave(shift: float = 0.0, awake: bool = False, tide: bool = True) -> tuple[Piece, ...]:
    x = shift
    pieces = [
        Piece(box(-20, -20, 1240, 840), DEEP, lift=0),
        Piece(
            blob((120 + x, 820), (170 + x, 260), (420 + x, 80), (800 + x, 90), (1060 + x, 280), (1110 + x, 820)), TEAL
        ),
        Piece(
            blob((260 + x, 820), (320 + x, 360), (520 + x, 200), (760 + x, 210), (930 + x, 370), (970 + x, 820)), STONE
        ),
        Piece(blob((-60, 690), (300, 660), (700, 690), (1260, 650), (1280, 840), (-60, 840)), PLUM),
    ]
    if tide:
        y = 500.0 if awake else 560.0
        pieces += [
            Piece(blob((560 + x, 700), (530 + x, y), (680 + x, y - 90), (880 + x, y - 40), (930 + x, 690)), PALE),
            Piece(blob((600 + x, 700), (590 + x, y + 50), (700 + x, y - 20), (830 + x, y + 30), (860 + x, 696)), MID),
            Piece(
                blob((650 + x, 700), (660 + x, y + 90), (730 + x, y + 50), (790 + x, y + 100), (780 + x, 698)), SHELL
            ),
        ]
    return tuple(pieces)


def stairs_down() -> tuple[Piece, ...]:
    """The inside of the light: a stair that winds down."""
    pieces = [
        Piece(box(-20, -20, 1240, 840), DEEP, lift=0),
        Piece(blob((300, -40), (900, -40), (980, 840), (220, 840)), PLUM),
    ]
    for i in range(7):
        y = 130 + 98 * i
        left = 250 + 60 * (i % 2)
        pieces.append(Piece(polygon((left, y), (left + 620, y + 26), (left + 610, y + 62), (left + 8, y + 40)), STONE))
    pieces.append(Piece(blob((540, 20), (640, 10), (660, 90), (530, 95)), CREAM))
    return tuple(pieces)


def shell_door() -> tuple[Piece, ...]:
    rays = [(470, 330), (530, 260), (600, 235), (670, 260), (730, 330)]
    return (
        Piece(blob((420, 690), (400, 360), (600, 190), (800, 360), (780, 690)), SHELL),
        *(Piece(line((600, 680), p), PINK, 9, 0) for p in rays),
        Piece(ellipse(600, 560, 17), DEEP, lift=0),
    )


def still_life(which: int) -> tuple[Piece, ...]:
    """Other subjects in the same hand, for the style's references: gulls, houses, jars, fish."""
    if which == 0:
        birds = [(300, 300), (520, 220), (760, 330), (980, 240)]
        return (
            Piece(box(-20, -20, 1240, 840), MID, lift=0),
            Piece(ellipse(240, 200, 80), SHELL),
            *(
                Piece(blob((x - 70, y), (x - 20, y - 34), (x, y), (x + 24, y - 36), (x + 74, y), (x, y + 22)), CREAM)
                for x, y in birds
            ),
            Piece(blob((-60, 560), (300, 500), (760, 560), (1280, 490), (1280, 840), (-60, 840)), TEAL),
            Piece(blob((-60, 660), (400, 620), (900, 660), (1280, 610), (1280, 840), (-60, 840)), DEEP),
        )
    if which == 1:
        pieces = [Piece(box(-20, -20, 1240, 840), DUSK_PLUM, lift=0), Piece(ellipse(900, 190, 70), SHELL)]
        for i, (wall, roof) in enumerate(((PINK, PLUM), (PALE, DEEP), (SHELL, TEAL), (STONE, PLUM))):
            x, y = 90 + 270 * i, 330 + 46 * (i % 2)
            pieces += [
                Piece(box(x, y, 210, 340), wall),
                Piece(polygon((x - 24, y), (x + 105, y - 120), (x + 234, y)), roof),
                Piece(box(x + 40, y + 60, 44, 60), NIGHT),
                Piece(box(x + 126, y + 60, 44, 60), NIGHT),
            ]
        return (*pieces, Piece(polygon((-30, 660), (1240, 650), (1240, 840), (-30, 840)), DEEP))
    if which == 2:
        pieces = [Piece(box(-20, -20, 1240, 840), TEAL, lift=0), Piece(box(-20, 560, 1240, 280), PLUM)]
        for i, colour in enumerate((PINK, PALE, CREAM, DUSK_PLUM, MID)):
            x = 130 + 205 * i
            pieces += [
                Piece(
                    blob((x, 600), (x - 14, 400), (x + 30, 330), (x + 100, 330), (x + 144, 400), (x + 130, 600)), colour
                ),
                Piece(box(x + 30, 296, 72, 40), WOOD),
            ]
        return tuple(pieces)
    pieces = [Piece(box(-20, -20, 1240, 840), DEEP, lift=0)]
    for i in range(9):
        x, y = 150 + 330 * (i % 3) + 60 * (i // 3 % 2), 170 + 220 * (i // 3)
        colour = (PINK, PALE, DUSK_PLUM)[i % 3]
        pieces += [
            Piece(blob((x - 90, y), (x - 20, y - 50), (x + 70, y - 10), (x + 70, y + 12), (x - 20, y + 48)), colour),
            Piece(polygon((x + 60, y), (x + 120, y - 40), (x + 120, y + 42)), colour),
            Piece(ellipse(x - 48, y - 8, 7), NIGHT, lift=0),
        ]
    return tuple(pieces)


def on_page(pieces: tuple[Piece, ...], x: float, y: float, scale: float, size: tuple[float, float]) -> Placed:
    """Pieces with a box of their own, put on the page."""
    return Placed(pieces, x, y, scale, size=size)
