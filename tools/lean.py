"""The same network in fewer steps: what an ONNX file says at length is said as its reader computes it fastest. Development only, with `onnx`.

OpenCV runs a convolution together with the bias, the scale and the activation behind it, in a layout of its own; anything else between two
convolutions costs two changes of layout. So a scale is taken into the weights, padding into the convolution, and `Clip` and
`x * clip(x + 3, 0, 6) / 6` become activations that are run along. Numbers stay the same but for rounding.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import onnx
from onnx import helper, numpy_helper
from onnx.reference import ReferenceEvaluator

OPSET = 14
"""The first version with `HardSwish`."""
SIX = 6.0


class Graph:
    """A model's nodes and constants, to be changed."""

    def __init__(self, model: onnx.ModelProto) -> None:
        self.model, self.nodes = model, model.graph.node
        for node in [n for n in self.nodes if n.op_type == "Constant"]:
            kept = numpy_helper.from_array(numpy_helper.to_array(node.attribute[0].t), node.output[0])
            model.graph.initializer.append(kept)
            self.nodes.remove(node)
        self.index()

    def index(self) -> None:
        """Look again who makes and who takes what."""
        self.constants = {i.name: i for i in self.model.graph.initializer}
        self.outputs = {o.name for o in self.model.graph.output}
        self.makers = {o: n for n in self.nodes for o in n.output}
        self.takers: dict[str, list[onnx.NodeProto]] = {}
        for n in self.nodes:
            for name in n.input:
                self.takers.setdefault(name, []).append(n)

    def number(self, name: str) -> np.ndarray | None:
        return numpy_helper.to_array(self.constants[name]) if name in self.constants else None

    def add(self, name: str, values: object) -> str:
        """A new constant; its name."""
        made = numpy_helper.from_array(np.asarray(values, np.float32), f"{name}/{len(self.constants)}")
        self.model.graph.initializer.append(made)
        self.constants[made.name] = made
        return made.name

    def only_taker(self, name: str) -> onnx.NodeProto | None:
        takers = self.takers.get(name, [])
        return takers[0] if len(takers) == 1 and name not in self.outputs else None

    def parted(self, node: onnx.NodeProto) -> tuple[str, np.ndarray] | None:
        """What a node with two inputs takes, and the constant beside it."""
        for name, other in (tuple(node.input), tuple(node.input)[::-1]):
            constant = self.number(other)
            if constant is not None:
                return name, constant
        return None

    def put(self, made: list[onnx.NodeProto], instead_of: list[onnx.NodeProto]) -> None:
        """Put nodes where others are."""
        at = min(list(self.nodes).index(n) for n in instead_of)
        for n in instead_of:
            self.nodes.remove(n)
        for k, n in enumerate(made):
            self.nodes.insert(at + k, n)
        self.index()

    def weights(self, conv: onnx.NodeProto) -> tuple[np.ndarray, np.ndarray]:
        weights = self.number(conv.input[1])
        assert weights is not None
        bias = self.number(conv.input[2]) if len(conv.input) > 2 else None
        return weights, np.zeros(len(weights), np.float32) if bias is None else bias

    def set_weights(self, conv: onnx.NodeProto, weights: np.ndarray, bias: np.ndarray) -> None:
        taken = conv.input[0]
        del conv.input[:]
        conv.input.extend([taken, self.add(conv.name + "/weights", weights), self.add(conv.name + "/bias", bias)])
        self.index()

    def prune(self) -> None:
        """Leave out what no output needs."""
        needed, kept = set(self.outputs), []
        for n in reversed(self.nodes):
            if needed & set(n.output):
                kept.append(n)
                needed.update(n.input)
        constants = [i for i in self.model.graph.initializer if i.name in needed]
        del self.nodes[:], self.model.graph.initializer[:]
        self.nodes.extend(reversed(kept))
        self.model.graph.initializer.extend(constants)
        self.index()


def lean(model: onnx.ModelProto, more: Callable[[Graph], None] = lambda _: None) -> onnx.ModelProto:
    """The model, changed in place; `more` is done last, to what is left."""
    graph = Graph(model)
    for step in (_said_once, _padding, _swish, _scales, _into_the_next, _gates, _sixths, more):
        step(graph)
        graph.prune()
    for used in model.opset_import:
        used.version = max(used.version, OPSET)
    onnx.checker.check_model(model)
    return model


def _said_once(g: Graph) -> None:
    """A node that does just what an earlier one did is left out."""
    seen: dict[tuple[object, ...], onnx.NodeProto] = {}
    for n in list(g.nodes):
        what = (n.op_type, tuple(n.input), tuple(sorted(a.SerializeToString() for a in n.attribute)))
        first = seen.setdefault(what, n)
        if first is n:
            continue
        keep, gone = (n.output[0], first.output[0]) if n.output[0] in g.outputs else (first.output[0], n.output[0])
        assert gone not in g.outputs
        first.output[0] = keep
        for taker in g.nodes:
            for i, name in enumerate(taker.input):
                if name == gone:
                    taker.input[i] = keep
        g.nodes.remove(n)
    g.index()


def _padding(g: Graph) -> None:
    """Zeros around a picture are put there by the convolution that takes it."""
    pads = {n.input[1]: n for n in g.nodes if n.op_type == "Pad"}
    if not pads:
        return
    asked = onnx.ModelProto()
    asked.CopyFrom(g.model)
    del asked.graph.output[:], asked.graph.input[:]
    asked.graph.output.extend(helper.make_tensor_value_info(p, onnx.TensorProto.INT64, [8]) for p in pads)
    Graph(asked).prune()
    for (_, n), (_, _, top, left, _, _, bottom, right) in zip(
        pads.items(), ReferenceEvaluator(asked).run(None, {}), strict=True
    ):
        for conv in g.takers[n.output[0]]:
            old = next(a for a in conv.attribute if a.name == "pads")
            assert conv.op_type == "Conv"
            assert not any(old.ints)
            old.ints[:] = [int(top), int(left), int(bottom), int(right)]
            conv.input[0] = n.input[0]
        g.nodes.remove(n)
    g.index()


def _swish(g: Graph) -> None:
    """`x * clip(x + 3, 0, 6) / 6` is a hard swish."""
    for n in [n for n in g.nodes if n.op_type == "Div"]:
        six, product = g.number(n.input[1]), g.makers.get(n.input[0])
        if six is None or float(six.ravel()[0]) != SIX or product is None or product.op_type != "Mul":
            continue
        for x, other in (tuple(product.input), tuple(product.input)[::-1]):
            clip = g.makers.get(other)
            if clip is not None and clip.op_type == "Clip" and x in g.makers[clip.input[0]].input:
                shift = g.makers[clip.input[0]]
                made = helper.make_node("HardSwish", [x], [n.output[0]], name=n.name + "/swish")
                g.put([made], [n, product, clip, shift])
                break


def _scales(g: Graph) -> None:
    """A scale, a shift or a normalisation behind a convolution goes into its weights."""
    while any(_scaled(g, n) for n in g.nodes if n.op_type == "Conv"):
        pass


def _scaled(g: Graph, conv: onnx.NodeProto) -> bool:
    taker = g.only_taker(conv.output[0])
    if taker is None or taker.op_type not in ("Mul", "Add", "BatchNormalization"):
        return False
    weights, bias = g.weights(conv)
    if taker.op_type == "BatchNormalization":
        scale, shift = normalisation(g, taker)
    else:
        parted = g.parted(taker)
        if parted is None or parted[1].size not in (1, len(weights)):
            return False
        number = np.broadcast_to(parted[1].ravel(), len(weights))
        scale, shift = (number, 0 * number) if taker.op_type == "Mul" else (0 * number + 1, number)
    output = taker.output[0]
    g.nodes.remove(taker)
    conv.output[0] = output
    g.set_weights(conv, weights * scale[:, None, None, None], bias * scale + shift)
    return True


def normalisation(g: Graph, node: onnx.NodeProto) -> tuple[np.ndarray, np.ndarray]:
    """The scale and the shift of each channel that a batch normalisation comes to."""
    scale, shift, mean, variance = (numpy_helper.to_array(g.constants[x]) for x in node.input[1:])
    small = next((a.f for a in node.attribute if a.name == "epsilon"), 1e-5)
    factor = scale / np.sqrt(variance + small)
    return factor, shift - mean * factor


def _into_the_next(g: Graph) -> None:
    """A scale and a shift behind an activation go into the convolutions that follow; where these pad with zeros, the shift stays."""
    for n in [n for n in g.nodes if n.op_type == "HardSwish"]:
        by, to = g.only_taker(n.output[0]), None
        if by is not None and by.op_type == "Mul":
            to = g.only_taker(by.output[0])
        if by is None or to is None or to.op_type != "Add":
            continue
        parts = (g.parted(by), g.parted(to))
        takers = g.takers.get(to.output[0], [])
        if any(p is None or p[1].size != 1 for p in parts) or any(t.op_type != "Conv" for t in takers):
            continue
        scale, shift = (float(p[1].ravel()[0]) for p in parts if p is not None)
        padded = any(any(a.ints) for t in takers for a in t.attribute if a.name == "pads")
        for conv in takers:
            weights, bias = g.weights(conv)
            add = 0.0 if padded else shift * weights.sum(axis=(1, 2, 3))
            g.set_weights(conv, weights * np.float32(scale), bias + add)
            conv.input[0] = to.output[0] if padded else n.output[0]
        stays = helper.make_node("Add", [n.output[0], g.add(to.name, shift / scale)], [to.output[0]], name=to.name)
        g.put([stays] if padded else [], [by, to])


def _gates(g: Graph) -> None:
    """`x + x * gate` is `x * (1 + gate)`, with a gate of one place."""
    for n in [n for n in g.nodes if n.op_type == "Add"]:
        for x, other in (tuple(n.input), tuple(n.input)[::-1]):
            product = g.makers.get(other)
            if product is None or product.op_type != "Mul" or x not in product.input or g.only_taker(other) is not n:
                continue
            gate = next(i for i in product.input if i != x)
            if g.makers[gate].op_type == "HardSigmoid":
                more = helper.make_node("Add", [gate, g.add(n.name, 1.0)], [n.name + "/gate"], name=n.name + "/gate")
                gated = helper.make_node("Mul", [x, n.name + "/gate"], [n.output[0]], name=n.name + "/gated")
                g.put([more, gated], [product, n])
                break


def _sixths(g: Graph) -> None:
    """A clip to 0..6 is six times a hard sigmoid, which is run along with a convolution; the next weights take the six."""
    for n in [n for n in g.nodes if n.op_type == "Clip"]:
        low, high = (g.number(i) for i in n.input[1:])
        takers = g.takers.get(n.output[0], [])
        if low != 0.0 or high != SIX or any(t.op_type != "Conv" for t in takers):
            continue
        sixth = n.output[0] + "/sixth"
        for conv in takers:
            weights, bias = g.weights(conv)
            conv.input[0] = sixth
            g.set_weights(conv, weights * np.float32(SIX), bias)
        made = [helper.make_node("HardSigmoid", [n.input[0]], [sixth], name=n.name, alpha=1 / SIX, beta=0.0)]
        if n.output[0] in g.outputs:
            made.append(helper.make_node("Mul", [sixth, g.add(n.name, SIX)], [n.output[0]], name=n.name + "/whole"))
        g.put(made, [n])
