"""Set the numbers that the style's network measure ships with: `python -m tools.fit_style`. Development only.

The same subjects by many hands: what differs within a hand is content, light, fog and night, and is evened out, what differs between hands tells them.
"""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import cv2
import numpy as np
from scipy.linalg import eigh

from bench.art.rows import drawn, hands
from bench.art.staging import Rgb
from juxtaform.core.style.hand import HandEye, HandNumbers
from tests.constructed import LIGHTS, random_look, scene

NETWORK = Path(__file__).parents[1] / "juxtaform" / "network"
EACH = 40
EVEN, TELLING = 64, 24
SHRINK = 0.1
VEILED, VEIL = 0.35, (0.1, 0.45)
"""This part of the pictures is seen through something of one of these colours (sRGB 0..255), from little to nearly half of it: fog, night, dust, smoke."""
AIR = ((222, 224, 226), (34, 44, 78), (200, 190, 170), (120, 130, 140))


def main() -> None:
    cv2.setNumThreads(1)
    jobs = [(i, k) for i in range(len(hands(False)) + 2) for k in range(EACH)]
    with ProcessPoolExecutor(2, initializer=_start) as pool:
        told = list(pool.map(_seen, jobs, chunksize=16))
    values, label = np.array(told), np.array([i for i, _ in jobs])
    mean, scale = values.mean(axis=0), values.std(axis=0) + 1e-6
    x = (values - mean) / scale
    middles = np.array([x[label == i].mean(axis=0) for i in range(label.max() + 1)])
    within = np.cov((x - middles[label]).T)
    within = (1 - SHRINK) * within + SHRINK * np.trace(within) / len(within) * np.eye(len(within))
    spread, turn = np.linalg.eigh(np.cov(x.T))
    order = np.argsort(-spread)[:EVEN]
    main_turn = turn[:, order]
    inner = main_turn.T @ within @ main_turn
    w, v = np.linalg.eigh(inner)
    even = main_turn @ v / np.sqrt(w)
    _, vectors = eigh(np.cov(middles.T) + 1e-9 * np.eye(len(within)), within)
    telling = vectors[:, ::-1][:, :TELLING]
    norms = []
    for basis in (even, telling):
        seen = x @ basis
        apart = [
            np.linalg.norm(a - b)
            for i in range(label.max() + 1)
            for a, b in zip(seen[label == i][::2], seen[label == i][1::2], strict=False)
        ]
        norms.append(float(np.median(apart)))
    np.savez(
        NETWORK / "style.npz",
        mean=mean.astype(np.float32),
        scale=scale.astype(np.float32),
        even=even.astype(np.float32),
        telling=telling.astype(np.float32),
        norms=np.array(norms),
    )
    print("hands", label.max() + 1, "pictures", len(values), "norms", norms)


_eye: list[HandEye] = []


def _start() -> None:
    cv2.setNumThreads(1)
    none = HandNumbers(*(np.zeros(1, np.float32),) * 4, (1.0, 1.0))
    _eye.append(HandEye((NETWORK / "style.onnx").read_bytes(), none))


def _seen(job: tuple[int, int]) -> np.ndarray:  # type: ignore[type-arg]
    which, k = job
    rng = np.random.default_rng(7000 + 1000 * which + k)
    known = hands(False)
    if which < len(known):
        page = drawn(known[which], rng)
    else:
        page, _ = scene(
            [random_look(rng)], rng, LIGHTS[int(rng.integers(5))], hand=("paper", "inked")[which - len(known)]
        )
    return _eye[0].statistics(_veiled(page, np.random.default_rng(55_000 + 1000 * which + k)))


def _veiled(page: Rgb, rng: np.random.Generator) -> Rgb:
    if rng.random() > VEILED:
        return page
    amount = float(rng.uniform(*VEIL))
    air = np.array(AIR[rng.integers(len(AIR))], dtype=np.float64)
    return np.rint(page + amount * (air - page)).astype(np.uint8)


if __name__ == "__main__":
    main()
