"""The network files that ship, read once a process."""

from __future__ import annotations

import hashlib
import io
import logging
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

import numpy as np

from juxtaform.core.colour.spaces import Floats
from juxtaform.core.figure.certainty import TraitJudge
from juxtaform.core.figure.logistic import Logistic
from juxtaform.core.figure.match import Eye, Judge
from juxtaform.core.figure.recognition import Judges, WhoJudge
from juxtaform.core.picture.trunk import Trunk, Whitening
from juxtaform.core.style.hand import HandEye, HandNumbers
from juxtaform.core.technical.lettering import LetterEye

HOME = Path(__file__).parents[1] / "network"
log = logging.getLogger("juxtaform")


@lru_cache(maxsize=1)
def figure_eye() -> Eye | None:
    """What tells figures apart; None when its files are missing or damaged."""
    try:
        network, scene = _checked("figure.onnx"), _checked("scene.onnx")
        numbers = np.load(io.BytesIO((HOME / "figure.npz").read_bytes()))
        third, fourth, fifth = (Whitening(numbers[f"mean{i}"], numbers[f"turn{i}"]) for i in (3, 4, 5))
        return Eye(
            Trunk(network, scene, (third, fourth, fifth)),
            Judge(*_judge(numbers, "judge")),
            Logistic(*_judge(numbers, "place")),
        )
    except (OSError, ValueError, KeyError) as error:
        log.warning("The figure network cannot be used: %s", error)
        return None


@lru_cache(maxsize=1)
def judges() -> Judges | None:
    """What weighs the pictures of a thread beside each other; None when what weighs traits is missing or damaged."""
    try:
        traits = TraitJudge(*_judge(_numbers("figure.npz"), "trait"))
    except (OSError, ValueError, KeyError) as error:
        log.warning("Whether traits changed cannot be weighed: %s", error)
        return None
    try:
        return Judges(traits, WhoJudge(*_judge(_numbers("who.npz"), "who")))
    except (OSError, ValueError, KeyError) as error:
        log.warning("Who somebody is cannot be weighed beside other pictures: %s", error)
        return Judges(traits)


@lru_cache(maxsize=1)
def hand_eye() -> HandEye | None:
    """What tells hands apart; None when its files are missing or damaged."""
    try:
        network, settings = _checked("style.onnx"), np.load(io.BytesIO((HOME / "style.npz").read_bytes()))
        norms = (float(settings["norms"][0]), float(settings["norms"][1]))
        numbers = HandNumbers(settings["mean"], settings["scale"], settings["even"], settings["telling"], norms)
        figures = np.load(io.BytesIO((HOME / "figure.npz").read_bytes()))
        return HandEye(network, numbers, Whitening(figures["mean3"], figures["turn3"]))
    except (OSError, ValueError, KeyError) as error:
        log.warning("The style network cannot be used: %s", error)
        return None


@lru_cache(maxsize=1)
def letter_eye() -> LetterEye | None:
    """What finds lettering; None when its file is missing or damaged."""
    try:
        return LetterEye(_checked("letters.onnx"))
    except (OSError, ValueError) as error:
        log.warning("Lettering cannot be looked for: %s", error)
        return None


@lru_cache(maxsize=1)
def network_digest() -> str:
    """Changes when a network file does or goes missing; part of every measure's key."""
    digest = hashlib.sha256()
    for name in ("figure.onnx", "scene.onnx", "figure.npz", "style.onnx", "style.npz", "letters.onnx"):
        path = HOME / name
        digest.update(path.read_bytes() if path.exists() else b"missing")
    return digest.hexdigest()[:12]


def _numbers(name: str) -> Mapping[str, Floats]:
    return np.load(io.BytesIO((HOME / name).read_bytes()))  # type: ignore[no-any-return]


def _judge(numbers: Mapping[str, Floats], name: str) -> tuple[Floats, Floats, Floats, float]:
    mean, scale, weights = (numbers[f"{name}_{part}"] for part in ("mean", "scale", "weights"))
    return mean, scale, weights, float(numbers[f"{name}_offset"])


def _checked(name: str) -> bytes:
    data = (HOME / name).read_bytes()
    wanted = dict(line.split()[::-1] for line in (HOME / "SHA256SUMS").read_text().splitlines() if line.strip())
    if wanted.get(name) != hashlib.sha256(data).hexdigest():
        raise ValueError(f"{name} is not the file that shipped")
    return data
