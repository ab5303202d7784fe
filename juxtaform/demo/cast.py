"""The demo's cast, drawn in boxes of 200 x 400 units (the crab: 200 x 140), feet on the lower edge."""

from __future__ import annotations

from dataclasses import dataclass

from juxtaform.demo.paper import Piece, blob, box, ellipse, limb, line, polygon

COPPER, SKIN, MUSTARD, BOOT, SILVER, CORD = "#b4532a", "#efc09c", "#dba326", "#2f7d4f", "#c9ced3", "#4a2f22"
INK, CHEEK, TIGHTS = "#1d1f24", "#e39a86", "#3a3550"
SHIRT, STRIPE = "#efe9dc", "#5f7fae"
PLUM, WHITE_HAIR, ODA_SKIN, SKIRT, GLASS = "#6b2f5b", "#f3f0ea", "#d9a07e", "#456a70", "#23242b"
BRASS, BRASS_DARK, EYE = "#a8693a", "#74431f", "#2c6fc4"
IRON = "#40454d"
RED_BOW = "#c23a4b"
OLIVE, RED_EYE = "#75803c", "#c8322b"


@dataclass(frozen=True)
class Pose:
    """Arm angles in degrees from straight down (outwards positive), the distance between the feet, and the gaze."""

    left: float = 18.0
    right: float = 18.0
    stride: float = 22.0
    gaze: float = 0.0


def pell(pose: Pose, coat: str = MUSTARD, whistle: bool = True, costume: str = "oilskin") -> tuple[Piece, ...]:
    night = costume == "night-shirt"
    cloth = SHIRT if night else coat
    legs: list[Piece] = []
    for side in (-1, 1):
        x = 100 + side * pose.stride
        legs.append(Piece(box(x - 11, 285, 22, 75), SKIN if night else TIGHTS))
        foot = blob((x - 15, 362), (x + 12, 360), (x + 15 + 10 * side, 396), (x - 15 + 10 * side, 397))
        boot = blob((x - 19, 318), (x + 17, 318), (x + 21 + 10 * side, 398), (x - 22 + 10 * side, 398))
        legs.append(Piece(foot if night else boot, SKIN if night else BOOT))
    arms: list[Piece] = []
    for side, angle in ((-1, pose.left), (1, pose.right)):
        sleeve, hand = limb(100 + side * 38, 172, 92, side * angle, 19, 15)
        arms += [Piece(ellipse(hand[0], hand[1] + 3, 14), SKIN), Piece(sleeve, cloth)]
    body = blob((70, 150), (130, 150), (150, 230), (168, 322), (100, 332), (32, 322), (50, 230))
    pieces = [Piece(blob((42, 96), (60, 36), (140, 36), (158, 96), (154, 150), (100, 140), (46, 150)), COPPER), *legs]
    pieces += [*arms[2:], Piece(body, cloth)]
    if night:
        pieces += [
            Piece(
                polygon((58 + 22 * i, 168), (68 + 22 * i, 168), (66 + 26 * i - 8, 318), (54 + 26 * i - 8, 318)),
                STRIPE,
                lift=0,
            )
            for i in range(4)
        ]
    else:
        pieces += [Piece(line((100, 168), (100, 322)), _darker(cloth), 3, 0)]
        pieces += [Piece(ellipse(111, y, 5), _darker(cloth), lift=0) for y in (222, 256, 290)]
    pieces += [*arms[:2]]
    if whistle:
        pieces += [
            Piece(line((78, 152), (94, 186), (122, 152)), CORD, 4, 0),
            Piece(polygon((84, 184), (106, 184), (108, 232), (86, 232)), SILVER),
            Piece(ellipse(96, 198, 4), INK, lift=0),
        ]
    g = pose.gaze
    pieces += [
        Piece(ellipse(100, 98, 47, 49), SKIN),
        Piece(
            blob((50, 100), (58, 44), (100, 34), (142, 44), (150, 100), (134, 84), (122, 64), (84, 74), (66, 82)),
            COPPER,
        ),
        Piece(ellipse(82 + g, 104, 5.5, 7), INK, lift=0),
        Piece(ellipse(118 + g, 104, 5.5, 7), INK, lift=0),
        Piece(ellipse(70 + g / 2, 121, 9, 6), CHEEK, lift=0),
        Piece(ellipse(130 + g / 2, 121, 9, 6), CHEEK, lift=0),
        Piece(line((90 + g, 126), (100 + g, 131), (110 + g, 126)), CORD, 3.5, 0),
    ]
    return tuple(pieces)


def oda(pose: Pose) -> tuple[Piece, ...]:
    pieces = [
        Piece(blob((52, 90), (64, 34), (136, 34), (148, 90), (140, 132), (60, 132)), WHITE_HAIR),
        Piece(blob((64, 210), (136, 210), (160, 384), (100, 392), (40, 384)), SKIRT),
        Piece(blob((60, 382), (94, 382), (94, 398), (50, 398)), GLASS),
        Piece(blob((106, 382), (140, 382), (150, 398), (106, 398)), GLASS),
    ]
    for side, angle in ((-1, pose.left), (1, pose.right)):
        sleeve, hand = limb(100 + side * 40, 172, 96, side * angle, 20, 15)
        pieces += [Piece(ellipse(hand[0], hand[1] + 3, 14), ODA_SKIN), Piece(sleeve, PLUM)]
    pieces += [
        Piece(blob((66, 142), (134, 142), (168, 246), (124, 262), (100, 300), (76, 262), (32, 246)), PLUM),
        Piece(ellipse(100, 94, 42, 46), ODA_SKIN),
        Piece(blob((56, 88), (64, 42), (100, 32), (136, 42), (144, 88), (124, 62), (100, 54), (76, 62)), WHITE_HAIR),
        *(Piece(ellipse(140 + 6 * (i % 2), 128 + 24 * i, 13, 15), WHITE_HAIR) for i in range(5)),
        Piece(ellipse(82, 98, 13), GLASS, 4, 0),
        Piece(ellipse(118, 98, 13), GLASS, 4, 0),
        Piece(line((95, 97), (105, 97)), GLASS, 4, 0),
        Piece(ellipse(82 + pose.gaze, 99, 4), INK, lift=0),
        Piece(ellipse(118 + pose.gaze, 99, 4), INK, lift=0),
        Piece(line((90, 122), (100, 126), (110, 121)), CORD, 3.5, 0),
    ]
    return tuple(pieces)


def sprocket(
    raise_left: float = 0.0, raise_right: float = 0.0, eye: str = EYE, *, bow: bool = False
) -> tuple[Piece, ...]:
    pieces = []
    for side in (-1, 1):
        for i in range(3):
            x = 100 + side * (34 + 13 * i)
            pieces.append(Piece(line((x, 98), (x + side * 17, 114), (x + side * 15, 136)), BRASS_DARK, 7, 0))
    for side, up in ((-1, raise_left), (1, raise_right)):
        x, y = 100 + side * 74, 74 - up
        pieces.append(Piece(line((100 + side * 48, 82), (x, y + 8)), BRASS_DARK, 9, 0))
        claw = blob(
            (x - 20, y + 8),
            (x - 16, y - 22),
            (x - 3, y - 26),
            (x, y - 8),
            (x + 5, y - 26),
            (x + 17, y - 20),
            (x + 20, y + 8),
            (x, y + 20),
        )
        pieces.append(Piece(claw, BRASS))
    pieces += [
        Piece(blob((40, 92), (56, 56), (100, 46), (144, 56), (160, 92), (136, 122), (64, 122)), BRASS),
        *(Piece(ellipse(x, 104, 4.5), BRASS_DARK, lift=0) for x in (62, 80, 100, 120, 138)),
        Piece(line((54, 92), (146, 92)), BRASS_DARK, 4, 0),
        Piece(ellipse(100, 48, 27), BRASS_DARK),
        Piece(ellipse(100, 47, 21), eye, lift=0),
        Piece(ellipse(93, 40, 6), "#f4f8fb", lift=0),
    ]
    if bow:  # nobody asked for it
        pieces += [Piece(polygon((100, 88), (100 + s * 34, 72), (100 + s * 34, 106)), RED_BOW) for s in (-1, 1)]
        pieces.append(Piece(ellipse(100, 89, 8), RED_BOW))
    return tuple(pieces)


def tide_key() -> tuple[Piece, ...]:
    """The long iron key with a shell-shaped bow, in a box of 60 x 200 units."""
    return (
        Piece(polygon((25, 60), (35, 60), (35, 196), (25, 196)), IRON),
        Piece(polygon((35, 160), (56, 160), (56, 172), (35, 172)), IRON, lift=0),
        Piece(polygon((35, 180), (50, 180), (50, 194), (35, 194)), IRON, lift=0),
        Piece(blob((30, 66), (4, 44), (8, 14), (30, 2), (52, 14), (56, 44)), IRON),
        *(Piece(line((30, 62), (x, 16)), "#7d838c", 3, 0) for x in (14, 30, 46)),
    )


def _darker(code: str) -> str:
    return "#" + "".join(f"{int(int(code[i : i + 2], 16) * 0.72):02x}" for i in (1, 3, 5))
