"""Speed as ratios, and rates on constructed truth. `python -m bench.run [measure|scale|recheck|sheet|truth …]`."""

from __future__ import annotations

import sys
from collections.abc import Callable

from bench import rates, speed

PARTS: dict[str, Callable[[], None]] = {
    "measure": speed.measure_against_decoding,
    "scale": speed.four_hundred_against_one_hundred,
    "recheck": speed.recheck_after_one_replacement,
    "sheet": speed.sheet_frames,
    "truth": rates.on_constructed_truth,
}

if __name__ == "__main__":
    for name in sys.argv[1:] or PARTS:
        print(f"\n== {name}", flush=True)
        PARTS[name]()
