"""Take the network that finds lettering from a registry package: `python -m tools.letters`, in an environment of its own with
rapidocr-onnxruntime==1.4.4 and onnx. Nothing of the package runs with the product; OpenCV reads the file.
"""

from __future__ import annotations

import hashlib
from importlib.metadata import files
from pathlib import Path

import numpy as np
import onnx
from onnx import helper

from tools.lean import Graph, lean, normalisation

OUT = Path(__file__).parents[1] / "juxtaform" / "network"
NAME = "ch_PP-OCRv4_det_infer.onnx"
DIFFERS_MOST = 1e-3


def main() -> None:
    [found] = [f for f in files("rapidocr-onnxruntime") or [] if f.name == NAME]
    target, package = OUT / "letters.onnx", Path(str(found.locate()))
    onnx.save(lean(onnx.load(package), _quarters), target)
    _agrees(package, target)
    sums = OUT / "SHA256SUMS"
    kept = [line for line in sums.read_text().splitlines() if not line.endswith("letters.onnx")]
    sums.write_text("\n".join([*kept, f"{hashlib.sha256(target.read_bytes()).hexdigest()}  {target.name}"]) + "\n")


def _quarters(g: Graph) -> None:
    """The last two steps double rows and columns, each place by itself: said as the sixteen chances of a place, four by four."""
    first, second = (n for n in g.nodes if n.op_type == "ConvTranspose")
    chain = [first]
    while chain[-1].op_type != "Sigmoid":
        after = g.only_taker(chain[-1].output[0])
        assert after is not None
        chain.append(after)
    assert [n.op_type for n in chain] == [
        "ConvTranspose",
        "Add",
        "BatchNormalization",
        "Relu",
        "ConvTranspose",
        "Add",
        "Sigmoid",
    ]
    (_, shift), (_, last) = g.parted(chain[1]) or ("", None), g.parted(chain[5]) or ("", None)
    scale, more = normalisation(g, chain[2])
    wide, narrow = g.number(first.input[1]), g.number(second.input[1])
    assert wide is not None
    assert narrow is not None
    assert shift is not None
    assert last is not None
    channels, inner = wide.shape[:2]
    apart = (wide * scale[None, :, None, None]).transpose(2, 3, 1, 0).reshape(4 * inner, channels, 1, 1)
    bias = np.tile(shift.ravel() * scale + more, 4)
    each = np.tile(narrow[:, 0].transpose(1, 2, 0).reshape(4, inner, 1, 1), (4, 1, 1, 1))
    halves, sixteenths = "halves", "sixteenths"
    g.put(
        [
            helper.make_node(
                "Conv", [first.input[0], g.add(halves, apart), g.add(halves, bias)], [halves], kernel_shape=[1, 1]
            ),
            helper.make_node("Relu", [halves], [halves + "/relu"]),
            helper.make_node(
                "Conv",
                [halves + "/relu", g.add(sixteenths, each), g.add(sixteenths, np.full(16, last.ravel()[0]))],
                [sixteenths],
                kernel_shape=[1, 1],
                group=4,
            ),
            helper.make_node("Sigmoid", [sixteenths], ["chances"]),
        ],
        chain,
    )
    g.model.graph.output[0].CopyFrom(
        helper.make_tensor_value_info("chances", onnx.TensorProto.FLOAT, ["pictures", 16, "rows", "columns"])
    )
    g.index()


def _agrees(package: Path, ours: Path) -> None:
    """The file says what the package's says, of a page of words, by the library that reads it in the product."""
    import cv2

    from juxtaform.core.technical.lettering import spread_out

    page = np.full((288, 448, 3), 200, np.uint8)
    for i, size in enumerate((0.5, 0.8, 1.2, 2.0)):
        cv2.putText(
            page, "One more word", (10 + 20 * i, 50 + 65 * i), cv2.FONT_HERSHEY_SIMPLEX, size, (20, 60, 40 * i), 2
        )
    x = ((page.astype(np.float32) / 255 - 0.45) / 0.22).transpose(2, 0, 1)[None]
    seen = []
    for path in (package, ours):
        net = cv2.dnn.readNetFromONNX(np.frombuffer(path.read_bytes(), np.uint8))
        net.setInput(x)
        seen.append(net.forward())
    assert seen[0].max() > 0.9
    apart = float(np.abs(seen[0][0, 0] - spread_out(seen[1][0])).max())
    print(f"{ours.name}: {ours.stat().st_size} bytes, differs by at most {apart:.1e}")
    if apart > DIFFERS_MOST:
        raise SystemExit(f"{ours.name} differs from the package by {apart}.")


if __name__ == "__main__":
    main()
