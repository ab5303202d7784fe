"""A fitted logistic regression: how sure a few numbers make us."""

from __future__ import annotations

from dataclasses import dataclass

from juxtaform.core.colour.spaces import Floats


@dataclass(frozen=True)
class Logistic:
    """The mean and scale of each number on what it was fitted on, their weights, and the offset."""

    mean: Floats
    scale: Floats
    weights: Floats
    offset: float

    def odds(self, values: Floats) -> float:
        """Log odds; 0 is even."""
        return float(((values - self.mean) / self.scale) @ self.weights + self.offset)
