"""Take the network that finds lettering from a registry package: `python -m tools.letters`, in an environment of its own with
rapidocr-onnxruntime==1.4.4. Nothing of the package runs with the product; OpenCV reads the file."""

from __future__ import annotations

import hashlib
import shutil
from importlib.metadata import files
from pathlib import Path

OUT = Path(__file__).parents[1] / "juxtaform" / "network"
NAME = "ch_PP-OCRv4_det_infer.onnx"


def main() -> None:
    [found] = [f for f in files("rapidocr-onnxruntime") or [] if f.name == NAME]
    target = OUT / "letters.onnx"
    shutil.copy(found.locate(), target)
    sums = OUT / "SHA256SUMS"
    kept = [line for line in sums.read_text().splitlines() if not line.endswith("letters.onnx")]
    sums.write_text("\n".join([*kept, f"{hashlib.sha256(target.read_bytes()).hexdigest()}  {target.name}"]) + "\n")


if __name__ == "__main__":
    main()
