"""Set the numbers that the figure's measure ships with, on drawn art: `python -m tools.fit_figure`. Development only.

Whitening: mean and principal turn of each stage's places over drawings as references and in scenes. Judge: a logistic
regression on pairs of our own invented figures and of the half of foreign art that settings may be tried on. Only these numbers
are kept.
"""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import fields
from pathlib import Path

import cv2
import numpy as np
from scipy.optimize import minimize

from bench.art.pairs import Pair, own_pairs, pairs
from bench.art.sources import families, grounds, picture, singles
from bench.art.staging import lit, on_white, random_light
from juxtaform.core.figure.logistic import Logistic
from juxtaform.core.figure.match import Eye, Judge, Terms, match
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.picture.regions import cut_out
from juxtaform.core.picture.trunk import Trunk, Whitening

NETWORK = Path(__file__).parents[1] / "juxtaform" / "network"
CHANNELS = (240, 480, 672)
KEPT = (48, 64, 64)
PLACES = (80, 40, 40)
PICTURES = 480
RIDGE = 1e-2
NO_PLACES = Logistic(np.zeros(9), np.ones(9), np.zeros(9), 0.0)
TERMS = tuple(f.name for f in fields(Terms))


def main() -> None:
    cv2.setNumThreads(1)  # workers are forked
    white = _whitening()
    path = NETWORK / "figure.npz"
    numbers: dict[str, object] = dict(np.load(path)) if path.exists() else {}  # what tools.fit_traits set stays
    for stage, one in zip((3, 4, 5), white, strict=True):
        numbers |= {f"mean{stage}": one.mean, f"turn{stage}": one.turn}
    np.savez(path, **numbers)  # type: ignore[arg-type]
    told = _told(
        [
            *pairs([f for f in families() if f.source != "gcompris"], 240, 11),
            *pairs(_some(singles(), 700), 180, 12),
            *own_pairs(240, 23),
        ]
    )
    values = np.array([v for v, _ in told])
    same = np.array([s for _, s in told])
    mean, scale = values.mean(axis=0), values.std(axis=0)
    x = np.column_stack([(values - mean) / scale, np.ones(len(values))])

    def loss(b: np.ndarray) -> float:  # type: ignore[type-arg]
        return float(np.logaddexp(0, -(2 * same - 1) * (x @ b)).mean() + RIDGE * (b[:-1] ** 2).sum())

    found = minimize(loss, np.zeros(x.shape[1])).x
    numbers |= {"judge_mean": mean, "judge_scale": scale, "judge_weights": found[:-1], "judge_offset": found[-1]}
    np.savez(path, **numbers)  # type: ignore[arg-type]
    score = x @ found
    print(
        "weights",
        dict(
            zip(
                TERMS,
                found[:-1].round(2),
                strict=True,
            )
        ),
    )
    print(
        f"on what it was set on: AUC {np.mean(score[same == 1][:, None] > score[same == 0][None]):.3f} of {len(same)}"
    )


def _some(found: list, count: int) -> list:  # type: ignore[type-arg]
    rng = np.random.default_rng(2)
    kept = [f for f in found if f.source != "flat-color-icons"]
    return [kept[i] for i in rng.permutation(len(kept))[:count]]


def _plain(white: tuple[Whitening, Whitening, Whitening] | None = None) -> Trunk:
    plain = tuple(Whitening(np.zeros(n, np.float32), np.eye(n, dtype=np.float32)) for n in CHANNELS)
    return Trunk(*((NETWORK / f"{name}.onnx").read_bytes() for name in ("figure", "scene")), white or plain)  # type: ignore[arg-type]


def _whitening() -> tuple[Whitening, Whitening, Whitening]:
    rng = np.random.default_rng(3)
    trunk = _plain()
    sources = [*families(), *_some(singles(), 900)]
    seen: list[list[np.ndarray]] = [[], [], []]  # type: ignore[type-arg]
    for _ in range(PICTURES):
        family = sources[rng.integers(len(sources))]
        try:
            drawn = picture(family.pictures[rng.integers(len(family.pictures))])
        except ValueError:
            continue
        for crop in (on_white(drawn), _in_scene(drawn, rng)):
            sheet = look_of(trunk, crop).upright
            for stage, (maps, count) in enumerate(zip(sheet.maps, PLACES, strict=True)):
                inside = (sheet.fine_mask if stage == 0 else sheet.coarse_mask) > 0.6
                held = maps[:, inside].T
                seen[stage].append(held[rng.permutation(len(held))[:count]])
    out = []
    for parts, kept in zip(seen, KEPT, strict=True):
        x = np.concatenate(parts)
        spread, turn = np.linalg.eigh(np.cov(x.T))
        order = np.argsort(-spread)[:kept]
        out.append(
            Whitening(
                x.mean(axis=0).astype(np.float32), (turn[:, order] / np.sqrt(spread[order] + 1e-6)).astype(np.float32)
            )
        )
    return tuple(out)  # type: ignore[return-value]


def _in_scene(drawn: np.ndarray, rng: np.random.Generator) -> np.ndarray:  # type: ignore[type-arg]
    edge = 20
    padded = np.pad(drawn, ((edge, edge), (edge, edge), (0, 0)))
    h, w = padded.shape[:2]
    ground = grounds()[rng.integers(40)]
    y, x = rng.integers(0, max(1, ground.shape[0] - h)), rng.integers(0, max(1, ground.shape[1] - w))
    back = cv2.resize(ground[y : y + h, x : x + w], (w, h))
    part = padded[..., 3:] / 255
    page = np.rint(padded[..., :3] * part + back * (1 - part)).astype(np.uint8)
    scale = float(rng.uniform(0.25, 1.0))
    small = cv2.resize(page, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    return lit(np.asarray(cv2.resize(small, (w, h))), random_light(rng))


def _told(found: list[Pair]) -> list[tuple[np.ndarray, int]]:  # type: ignore[type-arg]
    with ProcessPoolExecutor(2, initializer=_start) as pool:
        return list(pool.map(_values, found, chunksize=8))


_worker: list[Trunk] = []


def _start() -> None:
    cv2.setNumThreads(1)
    z = np.load(NETWORK / "figure.npz")
    _worker.append(_plain(tuple(Whitening(z[f"mean{i}"], z[f"turn{i}"]) for i in (3, 4, 5))))  # type: ignore[arg-type]


def _values(pair: Pair) -> tuple[np.ndarray, int]:  # type: ignore[type-arg]
    trunk = _worker[0]
    none = Judge(np.zeros(6), np.ones(6), np.zeros(6), 0.0)
    told = match(
        Eye(trunk, none, NO_PLACES),
        look_of(trunk, pair.reference),
        look_of(trunk, cut_out(pair.frame, pair.box), mirror=True),
    )
    return told.terms.values, int(pair.what == "same")


if __name__ == "__main__":
    sys.exit(main())
