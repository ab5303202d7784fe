"""What the demo's illustrator made by hand after the fact: a retouched picture in which something else changed too, and a clip that slips."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Sequence
from pathlib import Path

import av
import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from juxtaform.core.edits.area import Area, Shape
from juxtaform.core.picture.regions import Box
from juxtaform.records.models import Mark, Take
from juxtaform.studio import areas, takes
from juxtaform.studio.workspace import Workspace, of_project

Pixels = NDArray[np.uint8]

RETOUCHED, FILMED = 4, 5
"""The shots, from 0 on, of which a picture was retouched and a clip was made."""
STRAY = (0.12, 0.62, 0.022)
"""What changed in the retouched picture besides: a spot of red paint, its middle and radius as parts of the picture's width."""
MUSTARD_HUE = 21
"""OpenCV's hue of the coat as it is to be, in 0..179."""
CLIP_SIZE, CLIP_FRAMES, CLIP_RATE, SLIPS_FROM = (540, 360), 48, 12, 30


def bring(ws: Workspace, project: str, shots: Sequence[str]) -> None:
    """Bring both, as takes that are not picked."""
    with ws.database.reading() as s:
        picked = {t.shot_id: t for t in of_project(s, Take, project) if t.picked}
        marks = {m.take_id: Box(m.x, m.y, m.w, m.h) for m in of_project(s, Mark, project)}
        coat, still = picked.get(shots[RETOUCHED]), picked.get(shots[FILMED])
        if coat is None or still is None or coat.id not in marks:
            return
        coat_id, coat_sha, still_sha = coat.id, coat.picture_sha, still.picture_sha
    pixels = ws.store.pixels(coat_sha)
    h, w = pixels.shape[:2]
    box = max((b for i, b in marks.items() if i == coat_id), key=lambda b: b.w * b.h)
    area = Area((Shape("box", ((box.x / w, box.y / h), ((box.x + box.w) / w, (box.y + box.h) / h))),), 0.01)
    retouched = takes.take_in(ws, "coat mended.png", _png(_mended(pixels, box)))
    if retouched.sha:
        areas.bring(ws, project, coat_id, retouched.sha, "coat mended.png", area)
    with tempfile.TemporaryDirectory() as folder:
        clip = takes.take_in(ws, "into the cave.mp4", film(_pan(ws.store.pixels(still_sha)), Path(folder) / "clip.mp4"))
    if clip.sha:
        takes.accept(ws, project, [("into the cave.mp4", clip.sha, shots[FILMED])])


def _mended(pixels: Pixels, box: Box) -> Pixels:
    """The coat in its own colour again, and a spot of paint where none should be."""
    out = pixels.copy()
    part = np.s_[round(box.y) : round(box.y + box.h), round(box.x) : round(box.x + box.w)]
    hsv = cv2.cvtColor(out[part], cv2.COLOR_RGB2HSV)
    olive = (hsv[..., 0] > 24) & (hsv[..., 0] < 45) & (hsv[..., 1] > 70)
    hsv[..., 0][olive] = MUSTARD_HUE
    hsv[..., 2][olive] = np.minimum(255, hsv[..., 2][olive] * 1.45).astype(np.uint8)
    out[part] = cv2.cvtColor(hsv, cv2.COLOR_HSV2RGB)
    x, y, r = STRAY
    cv2.circle(
        out, (round(x * out.shape[1]), round(y * out.shape[0])), round(r * out.shape[1]), (200, 52, 40), -1, cv2.LINE_AA
    )
    return out


def _pan(picture: Pixels) -> list[Pixels]:
    """The camera goes slowly through the picture, which loses its colour towards the end."""
    wide, high = CLIP_SIZE
    page = cv2.resize(picture, (round(wide * 1.12), round(high * 1.12)), interpolation=cv2.INTER_AREA).astype(
        np.float32
    )
    out = []
    for i in range(CLIP_FRAMES):
        t = i / (CLIP_FRAMES - 1)
        x, y = round(t * (page.shape[1] - wide)), round(0.5 * (page.shape[0] - high))
        frame = page[y : y + high, x : x + wide]
        grey = 0.8 * float(np.clip((i - SLIPS_FROM) / 8, 0, 1))
        frame = frame * (1 - grey) + frame.mean(axis=-1, keepdims=True) * grey
        out.append(np.asarray(np.rint(frame), dtype=np.uint8))
    return out


def film(frames: Sequence[Pixels], path: Path, codec: str = "libx264", rate: int = CLIP_RATE) -> bytes:
    """Frames (h, w, 3) as a film of the path's kind."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate)
        assert isinstance(stream, av.VideoStream)
        stream.height, stream.width = frames[0].shape[:2]
        stream.pix_fmt = "yuv420p"
        stream.options = {"crf": "16"}
        for frame in frames:
            container.mux(stream.encode(av.VideoFrame.from_ndarray(frame, format="rgb24")))
        container.mux(stream.encode())
    return path.read_bytes()


def _png(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    return out.getvalue()
