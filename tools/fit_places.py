"""Set the numbers by which a place is said to be a figure's: `python -m tools.fit_places`. Development only.

Scenes of the half of foreign art that settings may be tried on, with who is there, who is not, and who merely looks alike. A
logistic regression over every place that was looked at; only its numbers are kept.
"""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from bench.art.judge import SOURCES
from bench.art.scenes import made
from bench.art.sources import families
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.locate import scene_maps, sighted, templates
from juxtaform.core.figure.logistic import Logistic
from juxtaform.core.figure.sheet import look_of
from juxtaform.core.picture.regions import overlap
from juxtaform.media.network import figure_eye

NETWORK = Path(__file__).parents[1] / "juxtaform" / "network"
RIDGE = 1e-2


def looked(job: tuple[str, int]) -> list[dict[str, Any]]:
    source, seed = job
    eye = figure_eye()
    assert eye
    try:
        shown = made([f for f in families() if f.source == source], seed)
    except ValueError:
        return []
    maps = scene_maps(eye.trunk, shown.pixels)
    out = []
    for n, query in enumerate(shown.queries):
        look = look_of(eye.trunk, query.reference)
        found = sighted(eye, shown.pixels, maps, [look], [templates(eye.trunk, look.upright)])
        for s in found:
            out.append(
                {
                    "query": (*job, n),
                    "there": query.box is not None,
                    "hidden": query.hidden,
                    "right": query.box is not None and overlap(s.box, query.box) > 0.5,
                    "values": s.values,
                }
            )
    return out


def fitted(values: Floats, right: NDArray[np.bool_], ridge: float = RIDGE) -> Logistic:
    """The regression of whether something is right by its numbers (n, m)."""
    mean, scale = values.mean(axis=0), values.std(axis=0)
    x = np.column_stack([(values - mean) / scale, np.ones(len(values))])

    def loss(b: Floats) -> float:
        return float(np.logaddexp(0, -(2 * right - 1) * (x @ b)).mean() + ridge * (b[:-1] ** 2).sum())

    found = minimize(loss, np.zeros(x.shape[1])).x
    return Logistic(mean, scale, found[:-1], float(found[-1]))


def main() -> None:
    each = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    jobs = [(s, 3000 + k) for k in range(each) for s in SOURCES]
    cv2.setNumThreads(1)
    with ProcessPoolExecutor(2, initializer=cv2.setNumThreads, initargs=(1,)) as pool:
        told = [x for one in pool.map(looked, jobs, chunksize=1) for x in one]
    values, right = np.array([t["values"] for t in told]), np.array([t["right"] for t in told])
    even = np.array([t["query"][1] % 2 == 0 for t in told])
    halves = {side: fitted(values[even != side], right[even != side]) for side in (True, False)}
    best: dict[tuple[str, int, int], tuple[float, dict[str, Any]]] = {}
    for one, side in zip(told, even, strict=True):
        odds = halves[bool(side)].odds(one["values"])
        if one["query"] not in best or odds > best[one["query"]][0]:
            best[one["query"]] = odds, one
    for level in (-3.0, -2.5, -2.0, -1.5, 0.0, 0.4, 0.8, 1.2, 1.6):
        rate = {}
        for name, group in (
            ("seen and right", [o for o, b in best.values() if b["there"] and b["right"] and not b["hidden"]]),
            ("half hidden and right", [o for o, b in best.values() if b["right"] and b["hidden"]]),
            ("there", [o for o, b in best.values() if b["there"] and not b["hidden"]]),
            ("there, half hidden", [o for o, b in best.values() if b["hidden"]]),
            ("wrong or absent", [o for o, b in best.values() if not b["right"]]),
            ("absent", [o for o, b in best.values() if not b["there"]]),
        ):
            rate[name] = f"{sum(o > level for o in group)} of {len(group)}"
        print(level, rate, f"{len(best)} queries")
    judge = fitted(values, right)
    path = NETWORK / "figure.npz"
    numbers = dict(np.load(path))
    numbers |= {f"place_{k}": getattr(judge, k) for k in ("mean", "scale", "weights", "offset")}
    np.savez(path, **numbers)  # type: ignore[arg-type]
    print("weights", judge.weights.round(2), round(judge.offset, 2))


if __name__ == "__main__":
    main()
