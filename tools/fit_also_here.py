"""Set the weights by which it is asked who else is in a picture: `python -m tools.fit_also_here`. Development only.

The texts are those whose truth also has who is there without a word and that may be looked at; how the weights do on texts they were not set on is printed
first (in eight parts, each judged by weights set on the others).
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
from scipy.optimize import minimize

from bench.story import peopled
from juxtaform.core.colour.spaces import Floats
from juxtaform.core.plan import also_here as a
from tests import story_texts_eighth, story_texts_fifth, story_texts_fourth

SET_ON = (*story_texts_fourth.LOOKED_AT, *story_texts_fifth.SET_ON, *story_texts_eighth.LOOKED_AT)
TARGET = Path(a.__file__).parent / "data" / "also_here.tsv"
PARTS = 8
RIDGE = 1.0


def main() -> None:
    signs, there, text = [], [], []
    for number, told in enumerate(SET_ON):
        pictures, moments = peopled(told)
        asked = a.signs_of(pictures)
        for picture, truth in moments:
            for who, own in asked[picture].items():
                signs.append(own)
                there.append(who in truth)
                text.append(number)
    names = list(signs[0])
    x = np.array([[own[name] for name in names] for own in signs])
    y, part = np.array(there, float), np.array(text) % PARTS
    chance = np.zeros(len(y))
    for k in range(PARTS):
        chance[part == k] = _chances(x[part == k], _weights(x[part != k], y[part != k]))
    asked_of = chance >= a.ASKED_FROM
    print(f"asked of {asked_of.sum()}, {int(y[asked_of].sum())} of them there; {int(y.sum())} are there without a word")
    lines = [f"{name}\t{weight:.2f}" for name, weight in zip(names, _weights(x, y), strict=True)]
    TARGET.write_text("\n".join(lines) + "\n", "utf-8")


def _chances(x: Floats, weights: Floats) -> Floats:
    return np.asarray(1 / (1 + np.exp(-x @ weights)))


def _weights(x: Floats, y: Floats) -> Floats:
    """The likeliest weights, held small by a ridge."""

    def loss(w: Floats) -> tuple[float, Floats]:
        z = x @ w
        return float(np.sum(np.logaddexp(0, z) - y * z) + RIDGE / 2 * w @ w), x.T @ (_chances(x, w) - y) + RIDGE * w

    return np.asarray(minimize(loss, np.zeros(x.shape[1]), jac=True, method="L-BFGS-B").x)


if __name__ == "__main__":
    main()
