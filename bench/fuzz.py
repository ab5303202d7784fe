"""Spoiled files and generated API calls, bounded and seeded: no server error, no trace, nothing taken in by half, nothing that hangs."""

from __future__ import annotations

import functools
import io
import json
import logging
import random
import re
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from urllib.parse import quote

import httpx
import numpy as np
from PIL import Image, ImageCms

from bench.speed import workspace
from juxtaform.formats import manifest as manifests
from juxtaform.studio import projects
from juxtaform.studio.checking import Checker
from juxtaform.studio.workspace import Workspace
from tests.conftest import served
from tests.small import Small

HANG_S = 30.0
CALLS = 5000
FILES = {"picture": 800, "bundle": 400, "table": 300, "palette": 250, "text": 250, "manifest": 300}


@dataclass
class Tally:
    """What came of what was sent."""

    sent: Counter[str] = field(default_factory=Counter)
    taken: Counter[str] = field(default_factory=Counter)
    errors: list[str] = field(default_factory=list)
    traces: list[str] = field(default_factory=list)
    partial: list[str] = field(default_factory=list)
    hangs: list[str] = field(default_factory=list)


class _Log(logging.Handler):
    """Every trace that stands in the log."""

    def __init__(self, traces: list[str]) -> None:
        super().__init__(logging.ERROR)
        self._traces = traces

    def emit(self, record: logging.LogRecord) -> None:
        self._traces.append(record.getMessage()[-600:])


def everything_that_comes_in(seed: int = 7) -> None:
    tally = Tally()
    logging.getLogger("juxtaform").addHandler(_Log(tally.traces))
    dice = random.Random(seed)
    with (
        workspace() as ws,
        served(ws, Checker(ws)) as address,
        httpx.Client(base_url=address, timeout=HANG_S) as client,
    ):
        small = Small(ws)
        project = f"/api/projects/{small.project}"
        _files(
            tally,
            "picture",
            dice,
            pictures(),
            lambda data: client.post(f"{project}/pictures", files={"file": ("a.png", data)}, data={"name": "a.png"}),
        )
        for kind, seeds, path, name in (
            ("table", tables(), f"{project}/table/file", "t.csv"),
            ("palette", palettes(), f"{project}/threads/{small.ids['style_id']}/palette", "p.gpl"),
            ("text", texts(), f"{project}/text/file", "t.txt"),
        ):
            _files(
                tally,
                kind,
                dice,
                seeds,
                lambda data, path=path, name=name: client.post(path, files={"file": (name, data)}),
                lambda: _version(ws, small),
            )
        _bundles(tally, dice, ws, client, project)
        _manifests(tally, dice)
        _calls(tally, seed, ws, client)
    print(f"files: {', '.join(f'{tally.sent[k]} {k}s ({tally.taken[k]} taken in)' for k in FILES)}")
    print(f"generated API calls: {tally.sent['call']} ({tally.taken['call']} done)")
    for name in ("errors", "traces", "partial", "hangs"):
        told = getattr(tally, name)
        print(f"{name}: {len(told)}" + "".join(f"\n    {t[:400]}" for t in told[:5]))
    assert not [*tally.errors, *tally.traces, *tally.partial, *tally.hangs]


def spoiled(data: bytes, dice: random.Random) -> bytes:
    """Bytes changed, cut, doubled, moved or put in; now and then as they were."""
    out = bytearray(data)
    for _ in range(dice.choice([0, 1, 1, 1, 2, 3, 8])):
        at = dice.randrange(len(out) + 1)
        size = dice.choice([1, 1, 2, 4, 16, 200])
        match dice.randrange(7):
            case 0:
                out[at : at + size] = dice.randbytes(size)
            case 1:
                del out[at : at + size]
            case 2:
                out[at:at] = out[at : at + size] * dice.choice([1, 2, 50])
            case 3:
                del out[at:]
            case 4:
                out[at:at] = dice.choice(WORDS)
            case 5:
                out[at : at + 4] = dice.choice([0, 1, 2**31 - 1, 2**32 - 1]).to_bytes(4, dice.choice(["big", "little"]))
            case 6:
                other = dice.randrange(len(out) + 1)
                out[at : at + size] = out[other : other + size]
    return bytes(out)


WORDS = (
    b"\0",
    b"\xff\xfe",
    b"\xef\xbb\xbf",
    b"\xed\xa0\x80",
    b'"',
    b"\r\n",
    b"=cmd()",
    b"NaN",
    b"-1",
    b"9" * 400,
    b"\xe2\x80\xae",
    b"[" * 300,
    b"{",
    b"}",
    b"\\ud800",
    b";",
    b"\t",
    b"#",
    b"1e999",
    b"../..",
    b"'",
    b"null",
)


def pictures() -> list[bytes]:
    rng = np.random.default_rng(1)
    picture = Image.fromarray(rng.integers(0, 255, (40, 60, 3), dtype=np.uint8))
    exif = Image.Exif()
    exif[0x0112] = 6
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    kinds: list[tuple[Image.Image, str, dict[str, Any]]] = [
        (picture, "PNG", {}),
        (picture, "PNG", {"icc_profile": profile, "exif": exif}),
        (picture, "JPEG", {"exif": exif}),
        (picture, "JPEG", {"progressive": True, "icc_profile": profile}),
        (picture, "WEBP", {}),
        (picture, "WEBP", {"lossless": True, "exif": exif}),
        (picture, "MPO", {"save_all": True, "append_images": [picture]}),
        (picture.convert("P"), "PNG", {"transparency": 3}),
        (picture.convert("RGBA"), "PNG", {}),
        (picture.convert("LA"), "PNG", {}),
        (picture.convert("CMYK"), "JPEG", {}),
        (picture.convert("1"), "PNG", {}),
        (Image.fromarray(rng.integers(0, 65535, (40, 60), dtype=np.uint16)), "PNG", {}),
        (picture, "PNG", {"interlace": 1}),
        (picture, "WEBP", {"save_all": True, "append_images": [picture]}),
        (picture, "PNG", {"save_all": True, "append_images": [picture]}),
    ]
    out = []
    for image, kind, options in kinds:
        held = io.BytesIO()
        image.save(held, kind, **options)
        out.append(held.getvalue())
    return out


def tables() -> list[bytes]:
    text = "Scene,Shows,Size,Length,Characters,Styles,Seed,Don'ts\nOne,A crab,CU,2.5,Pell,Paper,7,frames; text\nTwo,'=1,MS,3,,,,\n"
    return [
        text.encode(),
        text.replace(",", "\t").encode("utf-16"),
        text.replace(",", ";").encode("cp1252"),
        b"\xef\xbb\xbf" + text.encode(),
    ]


def palettes() -> list[bytes]:
    return [
        b"GIMP Palette\nName: Dusk\nColumns: 2\n#\n 27  77  82\tteal\n219 163  38\tmustard (lead)\n",
        b":root {\n  --teal: #1b4d52; /* ground */\n  --mustard: rgb(219, 163, 38);\n}\n",
        json.dumps({"name": "Dusk", "colours": [{"hex": "#1b4d52", "name": "teal", "role": "ground"}]}).encode(),
    ]


def texts() -> list[bytes]:
    text = "# The steps\n\nPell sat on the step. “Late again,” said Oda – and laughed.\n\nINT. LAMP ROOM - NIGHT\n\nODA\n(softly)\nCome in.\n"
    return [
        text.encode(),
        text.encode("utf-16"),
        text.replace("\n", "\r\n").encode("cp1252"),
        text.encode("utf-32-le"),
        ("Title: Tide\n\n" + text).encode(),
    ]


def _files(
    tally: Tally,
    kind: str,
    dice: random.Random,
    seeds: list[bytes],
    send: Callable[[bytes], httpx.Response],
    state: Callable[[], object] | None = None,
) -> None:
    for _ in range(FILES[kind]):
        data, before = spoiled(dice.choice(seeds), dice), state() if state else None
        answer = _asked(tally, kind, lambda data=data: send(data))
        if answer is None:
            continue
        refused = answer.status_code >= 400 or (kind == "picture" and answer.json().get("refused"))
        tally.taken[kind] += not refused
        if refused and state is not None and state() != before:
            tally.partial.append(f"{kind}: {data[:80]!r}")


def _asked(tally: Tally, kind: str, ask: Callable[[], httpx.Response]) -> httpx.Response | None:
    tally.sent[kind] += 1
    try:
        answer = ask()
    except httpx.TimeoutException as error:
        tally.hangs.append(f"{kind}: {error!r}")
        return None
    if answer.status_code >= 500:
        tally.errors.append(f"{kind} {answer.request.method} {answer.request.url.path}: {answer.text}")
        return None
    return answer


def _version(ws: Workspace, small: Small) -> int:
    return projects.snapshot(ws, small.project).version


def _bundles(tally: Tally, dice: random.Random, ws: Workspace, client: httpx.Client, project: str) -> None:
    whole = client.get(f"{project}/bundle.zip").content
    names = json.loads(zipfile.ZipFile(io.BytesIO(whole)).read("bundle.json"))
    for i in range(FILES["bundle"]):
        data = spoiled(whole, dice) if i % 2 else _other_rows(whole, names, dice)
        before = {p.id for p in projects.shelf(ws)}, {p for p in ws.store.root.rglob("*") if p.is_file()}
        answer = _asked(tally, "bundle", lambda data=data: client.post("/api/bundles", files={"file": ("b.zip", data)}))
        if answer is None:
            continue
        after = {p.id for p in projects.shelf(ws)}, {p for p in ws.store.root.rglob("*") if p.is_file()}
        if answer.status_code >= 400:
            if after != before:
                tally.partial.append(f"bundle: {answer.text}")
            continue
        tally.taken["bundle"] += 1
        made = f"/api/projects/{answer.json()['id']}"
        for path in ("", "/bundle.zip", "/check", "/story", "/findings", "/library", "/table.csv"):
            opened = _asked(tally, "opened", lambda path=made + path: client.get(path))
            if opened is not None and opened.status_code != 200:
                tally.partial.append(f"a bundle that was taken in cannot be opened: {path} {opened.text}")
        client.delete(made)


def _other_rows(whole: bytes, told: dict[str, Any], dice: random.Random) -> bytes:
    """The bundle with some values of rows changed, the zip in order."""
    told = json.loads(json.dumps(told))
    for _ in range(dice.randint(1, 3)):
        table = dice.choice([t for t, rows in told["tables"].items() if rows])
        row = dice.choice(told["tables"][table])
        column = dice.choice(sorted(row))
        row[column] = dice.choice(
            [
                None,
                "",
                "x",
                -1,
                0,
                1,
                1e300,
                2**31,
                True,
                [],
                {},
                ["x"],
                "0" * 32,
                "#112233",
                row[column],
                dice.choice(told["tables"][table]).get(column),
            ]
        )
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(whole)) as old, zipfile.ZipFile(out, "w") as new:
        for info in old.infolist():
            new.writestr(info, json.dumps(told) if info.filename == "bundle.json" else old.read(info))
    return out.getvalue()


def _manifests(tally: Tally, dice: random.Random) -> None:
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "a.png").write_bytes(pictures()[0])
        whole = json.dumps(
            {
                "format": "juxtaform-sequence/1",
                "title": "Tide",
                "references": [
                    {
                        "id": "pell",
                        "kind": "character",
                        "name": "Pell",
                        "pictures": [{"path": "a.png", "weight": 1, "view": "front"}],
                        "traits": [{"name": "coat", "colours": ["#dba326"], "box": [2, 2, 20, 20], "picture": 0}],
                    }
                ],
                "shots": [
                    {
                        "id": "1",
                        "words": "Pell sits.",
                        "picture": "a.png",
                        "appearances": [{"reference": "pell", "box": [2, 2, 30, 30]}],
                    }
                ],
            }
        ).encode()
        path = Path(folder) / "sequence.json"
        for _ in range(FILES["manifest"]):
            path.write_bytes(spoiled(whole, dice))
            tally.sent["manifest"] += 1
            begun = time.monotonic()
            try:
                manifests.read(path)
                tally.taken["manifest"] += 1
            except manifests.ManifestWrong:
                pass
            except Exception as error:
                tally.traces.append(f"manifest: {error!r} {path.read_bytes()[:200]!r}")
            if time.monotonic() - begun > HANG_S:
                tally.hangs.append("manifest")


def _calls(tally: Tally, seed: int, ws: Workspace, client: httpx.Client) -> None:
    """Calls generated from the OpenAPI document; most of them name rows that are there."""
    import schemathesis

    document = schemathesis.openapi.from_dict(client.get("/api/openapi.json").json())
    operations = [r.ok() for r in document.get_all_operations() if not r.ok().path.endswith("/events")]
    dice = random.Random(seed)
    each = -(-CALLS // len(operations))
    for operation in operations:
        small = Small(ws)
        _played(operation.as_strategy(), each, seed, functools.partial(_call, tally, client, small, dice))
    tally.taken["call"] = tally.sent["call"] - len(tally.errors)


def _played(strategy: Any, count: int, seed: int, call: Callable[[Any], None]) -> None:
    """Make so many calls of a strategy."""
    from hypothesis import HealthCheck, Phase, given, settings
    from hypothesis import seed as seeded

    @seeded(seed)
    @settings(
        max_examples=count,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=strategy)
    def play(case: Any) -> None:
        call(case)

    play()


def _call(tally: Tally, client: httpx.Client, small: Small, dice: random.Random, case: Any) -> None:
    """Make one generated call; four of five parameters and fields that name rows name some that are there."""
    known = {
        k: small.ids[k] if k in small.ids and dice.random() < 0.8 else v
        for k, v in (case.path_parameters or {}).items()
    }
    path = re.sub(r"{(\w+)}", lambda m: quote(str(known.get(m[1], "x")), safe="", errors="replace") or "x", case.path)
    sent: dict[str, Any] = {"params": [(k, str(v)) for k, v in (case.query or {}).items()]}
    if "multipart" in str(case.media_type):
        sent |= {"files": {"file": ("f", json.dumps(case.body, default=str).encode())}, "data": {"name": "f"}}
    elif isinstance(case.body, (dict, list, str, int, float, bool)):
        body = json.dumps(_with_ids(case.body, small, dice))
        sent |= {"content": body, "headers": {"content-type": "application/json"}}
    _asked(tally, "call", lambda: client.request(case.method, path, **sent))


def _with_ids(body: Any, small: Small, dice: random.Random) -> Any:
    """A generated body in which most ids are those of rows that are there."""
    if isinstance(body, dict):
        return {
            k: small.ids[k] if k in small.ids and dice.random() < 0.8 else _with_ids(v, small, dice)
            for k, v in body.items()
        }
    return body
