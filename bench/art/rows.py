"""Pictures of many subjects in one hand, and rows of them in which the hand slips: for the style."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np

from bench.art.hands import brushed, hatched, inked, softened
from bench.art.sources import EMOJI, Family, families, grounds, picture, singles
from bench.art.staging import Rgb, Standing, random_light, scene

SIZE = (768, 480)
LAST_EMOJI = frozenset({"emojione", "fxemoji", "streamline-emojis"})
Over = Callable[[Rgb, np.random.Generator], Rgb]
WORKED_OVER: dict[str, Over] = {
    "plain": lambda p, rng: p,
    "inked": lambda p, rng: inked(p),
    "brushed": lambda p, rng: brushed(p),
    "hatched": hatched,
    "softened": lambda p, rng: softened(p),
    "grained": lambda p, rng: np.clip(
        p + cv2.GaussianBlur(rng.normal(0, 34, p.shape[:2]).astype(np.float32), (0, 0), 0.8)[..., None], 0, 255
    ).astype(np.uint8),
}


@dataclass(frozen=True)
class Hand:
    """Who draws the figures, on which kind of ground, and how the whole is worked over."""

    figures: str
    ground: str
    over: str

    @property
    def name(self) -> str:
        return f"{self.figures} {self.ground} {self.over}"


def hands(last: bool) -> list[Hand]:
    """All hands of a half."""
    emoji = [h for h in EMOJI if h != "flat-color-icons" and (h in LAST_EMOJI) == last]
    sprites = ["supertux", "freedink"] if not last else ["hedgewars", "supertux"]
    found = [Hand(f, "flat", o) for f in emoji for o in ("plain", "hatched", "grained")]
    found += [Hand(f, "flat", o) for f in emoji[:2] for o in ("inked", "brushed", "softened")]
    return found + [Hand(f, "wallpaper", o) for f in sprites for o in WORKED_OVER]


@lru_cache(maxsize=16)
def _subjects(figures: str, last: bool) -> tuple[Family, ...]:
    if figures in EMOJI:
        return tuple(f for f in singles(None) if f.source == figures)
    return tuple(f for f in families(None if figures == "hedgewars" else last) if f.source == figures)


def drawn(hand: Hand, rng: np.random.Generator, last: bool = False, light: str | None = None) -> Rgb:
    """A picture by a hand: two to five subjects on a ground, in some light."""
    subjects = _subjects(hand.figures, last)
    standing: list[Standing] = []
    count = int(rng.integers(2, 6))
    while len(standing) < count:
        family = subjects[rng.integers(len(subjects))]
        try:
            seen = picture(family.pictures[rng.integers(len(family.pictures))])
        except ValueError:
            continue
        x = (len(standing) + float(rng.uniform(0.2, 0.8))) / count
        standing.append(
            Standing(seen, x, float(rng.uniform(0.6, 1.0)), float(rng.uniform(0.25, 0.7)), bool(rng.integers(2)))
        )
    page, _ = scene(_ground(hand, rng), standing, light or random_light(rng), SIZE)
    return WORKED_OVER[hand.over](page, rng)


def _ground(hand: Hand, rng: np.random.Generator) -> Rgb:
    if hand.ground == "wallpaper":
        held = grounds()
        ground = held[rng.integers(len(held))]
        return np.asarray(cv2.bilateralFilter(cv2.resize(ground, (768, 480), interpolation=cv2.INTER_AREA), 9, 40, 5))
    top, bottom = rng.uniform(60, 250, 3), rng.uniform(60, 250, 3)
    page = np.linspace(top, bottom, 480)[:, None, :].repeat(768, axis=1)
    split = int(rng.integers(200, 420))
    page[split:] = rng.uniform(40, 220, 3)
    return np.rint(page).astype(np.uint8)


@dataclass(frozen=True)
class Row:
    """A sequence's pictures with its style references; `slips` are positions of single pictures by another hand, `begins` where
    another hand takes over for good (None: nowhere)."""

    references: tuple[Rgb, ...]
    pictures: tuple[Rgb, ...]
    slips: tuple[int, ...]
    begins: int | None
    hand: Hand


def row(seed: int, what: str, last: bool = False, length: int = 12, references: int = 2) -> Row:
    """`what` is clean, slip (two single pictures), or change (from a picture on)."""
    rng = np.random.default_rng(seed)
    known = hands(last)
    own = known[rng.integers(len(known))]
    other = own
    while other == own or (other.figures == own.figures and {own.over, other.over} == {"plain", "grained"}):
        other = known[rng.integers(len(known))]
    slips = tuple(sorted(int(v) for v in 3 + rng.permutation(length - 3)[:2])) if what == "slip" else ()
    begins = int(rng.integers(4, length - 3)) if what == "change" else None
    pictures = [
        drawn(other if i in slips or (begins is not None and i >= begins) else own, rng, last) for i in range(length)
    ]
    return Row(tuple(drawn(own, rng, last) for _ in range(references)), tuple(pictures), slips, begins, own)
