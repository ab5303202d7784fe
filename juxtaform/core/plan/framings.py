"""Other ways to look at one moment: a set of sizes, angles and moves that differ in what they tell."""

from __future__ import annotations

from dataclasses import dataclass

from juxtaform.core.plan.shots import SIZES


@dataclass(frozen=True)
class Framing:
    """A way to show a moment, and what it does."""

    size: str
    angle: str
    move: str
    why: str


def alternatives(
    now: Framing, cast: int, *, speech: bool, before: str | None = None, after: str | None = None, most: int = 5
) -> list[Framing]:
    """Framings for one moment that differ from `now` and from each other; those that differ in size from the shots before
    and after (their sizes) come first.

    >>> [f.size for f in alternatives(Framing("MS", "eye level", "static", ""), 2, speech=True, most=3)]
    ['MCU', 'MWS', 'WS']
    """
    offers = [
        Framing("WS", "eye level", "static", "shows where it is and how far apart things stand"),
        Framing("CU", "eye level", "push in", "stays with a face until it tells"),
        Framing("MS", "low", "static", "makes whoever stands there larger than us"),
        Framing("WS", "high", "static", "makes them small in the place"),
        Framing("ECU", "eye level", "static", "one thing, and nothing else matters"),
        Framing("EWS", "bird's eye", "static", "a map: everybody's place at once"),
        Framing("MCU", "tilted", "static", "something is wrong"),
        Framing("MS", "point of view", "static", "what they see, not them"),
        Framing("WS", "worm's eye", "crane", "from the ground: all that is above"),
    ]
    if cast >= 2:
        offers.insert(1, Framing("MCU", "over the shoulder", "static", "one sees the other: sides are kept"))
        offers.insert(1, Framing("MWS", "eye level", "arc", "the two of them, and the air between"))
    if speech:
        offers.insert(1, Framing("MCU", "eye level", "static", "who speaks, close enough for the mouth"))
    if cast == 0:
        offers = [o for o in offers if "face" not in o.why and "stands" not in o.why and o.angle != "over the shoulder"]
    neighbours = {before, after}

    def rank(offer: Framing) -> tuple[int, int]:
        jump = abs(SIZES.index(offer.size) - SIZES.index(now.size)) if now.size in SIZES else 1
        return (int(offer.size in neighbours), 0 if jump == 1 and offer.angle == now.angle else 1)

    fresh = [o for o in offers if (o.size, o.angle) != (now.size, now.angle)]
    chosen: list[Framing] = []
    for offer in sorted(fresh, key=rank):
        if not any(c.size == offer.size and c.angle == offer.angle for c in chosen):
            chosen.append(offer)
    return chosen[:most]
