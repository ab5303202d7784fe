"""Drawn art by other hands, fetched from package registries when the bench asks for it; none of it ships.

Figures come as families: one figure in several poses or moods, drawn by one hand. Half of all families and half of all
hands are `last`: they are looked at in a last run only, never while anything is being set.
"""

from __future__ import annotations

import io
import json
import re
import struct
import subprocess
import tarfile
import zlib
from collections import defaultdict
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Literal

import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

Kind = Literal["flat", "line", "painted", "pixel"]
HOME = Path(__file__).parents[2] / "var" / "art"
EMOJI: dict[str, Kind] = {
    "twemoji": "flat",
    "emojione": "flat",
    "emojione-v1": "painted",
    "openmoji": "line",
    "streamline-emojis": "line",
    "fxemoji": "flat",
    "flat-color-icons": "flat",
}
DEBIAN = ("gcompris-qt-data", "supertux-data", "hedgewars-data", "freedink-data")
GROUNDS = ("gnome-backgrounds", "mate-backgrounds", "ukui-wallpapers")
POSES = ("gesturing-no", "gesturing-ok", "raising-hand", "tipping-hand", "frowning", "pouting", "shrugging")
NO_POSE = "melting|editor|dust|hud|worldmap|explo|burn|flame|light|glow|particle|squish|frozen|freeze|^(root|fire|falling|spike)|tick"
"""Files of creatures that show something else than the creature as it looks: on fire, in ice, gone, or in changing colours."""
WORN = "tux/(air|earth|fire|ice)/"
"""Hats and other things that a creature wears, drawn by themselves."""
RENDER_PX = 480


@dataclass(frozen=True)
class Family:
    """One figure as one hand drew it: where it comes from, what kind of art it is, and its pictures in various poses."""

    source: str
    name: str
    kind: Kind
    pictures: tuple[str, ...]

    @property
    def last(self) -> bool:
        """Whether this figure is kept for the last run."""
        return zlib.crc32(f"{self.source}/{self.name}".encode()) % 2 == 1


def fetched() -> Path:
    """Fetch and unpack everything that is not here yet."""
    packages = HOME / "packages"
    packages.mkdir(parents=True, exist_ok=True)
    for name in EMOJI:
        target = HOME / f"iconify-json-{name}"
        if not target.exists():
            subprocess.run(
                ["npm", "pack", "--silent", f"@iconify-json/{name}"], cwd=packages, check=True, capture_output=True
            )
            (archive,) = (p for p in packages.glob(f"iconify-json-{name}-[0-9]*.tgz"))
            with tarfile.open(archive) as packed:
                packed.extractall(target, filter="data")
    for name in (*DEBIAN, *GROUNDS):
        target = HOME / name
        if not target.exists():
            subprocess.run(["apt-get", "download", "-qq", name], cwd=packages, check=True)
            (archive,) = packages.glob(f"{name}_*.deb")
            subprocess.run(["dpkg-deb", "-x", archive, target], check=True)
    return HOME


@lru_cache(maxsize=4)
def families(last: bool | None = False) -> list[Family]:
    """All figures of the half that settings may be tried on, of the `last` half, or of both (None)."""
    fetched()
    found = [*_emoji_people(), *_creatures(), *_sprites(), *_children()]
    return [f for f in found if last is None or f.last == last]


@lru_cache(maxsize=4)
def singles(last: bool | None = False) -> list[Family]:
    """Emoji that have one picture each: animals, people at work, things."""
    found = []
    for hand, kind in EMOJI.items():
        icons = _icons(hand)
        for name in sorted(icons):
            if re.search(
                "skin-tone|-(button|symbol|square|circle|clock|hand|arrow|flag)|^(flag|hand|family|couple|kiss)|sign$",
                name,
            ):
                continue
            found.append(Family(hand, name, kind, (f"emoji:{hand}:{name}",)))
    return [f for f in found if last is None or f.last == last]


def _emoji_people() -> list[Family]:
    found = []
    for hand, kind in EMOJI.items():
        icons = _icons(hand)
        groups: dict[str, list[str]] = defaultdict(list)
        for name in icons:
            matched = re.fullmatch(
                rf"(?:(woman|man|person)-)?({'|'.join(POSES)})(?:-(woman|man|person))?(?:-(\d|[a-z-]*skin-tone))?", name
            )
            if matched:
                who = matched[1] or matched[3] or "person"
                groups[f"{who} {matched[4] or ''}".strip()].append(name)
            if (
                re.search(r"(^|-)cat(-|$)", name)
                and "face" in name + "face"
                and name not in ("cat", "black-cat", "cat-2", "cat-face")
            ):
                groups["cat"].append(name)
        found += [
            Family(hand, who, kind, tuple(f"emoji:{hand}:{n}" for n in sorted(names)))
            for who, names in sorted(groups.items())
            if len(names) >= 2
        ]
    return found


def _glows(image: Image.Image) -> bool:
    """Whether a picture is mostly half transparent: a glow takes its colours from what stands behind it, and is no figure that could be held."""
    alpha = np.asarray(image.convert("RGBA"))[..., 3]
    there = alpha > 16
    return bool((there & (alpha < 240)).sum() > 0.4 * there.sum())


def _creatures() -> list[Family]:
    root = HOME / "supertux-data/usr/share/games/supertux2/images/creatures"
    groups: dict[str, list[str]] = defaultdict(list)
    for path in sorted(root.rglob("*.png")):
        if re.search(NO_POSE, path.stem) or re.match(WORN, str(path.relative_to(root))):
            continue
        stem = re.sub(
            r"[-_ ]?(left|right|walk|jump|frozen|idle|flat|run|stand|skid|kick|grab\w*|fall|buttjump|climb\w*|swim\w*|duck|gameover)?[-_ ]?\d*$",
            "",
            path.stem,
        )
        image = Image.open(path)
        if min(image.size) >= 26 and not _glows(image):
            groups[f"{path.parent.relative_to(root)}/{stem.split('-')[0]}"].append(str(path))
    return [Family("supertux", n, "painted", tuple(p[:12])) for n, p in sorted(groups.items()) if len(p) >= 3]


def _sprites() -> list[Family]:
    found = []
    root = HOME / "freedink-data/usr/share/games/dink/dink/graphics"
    groups: dict[str, list[str]] = defaultdict(list)
    for path in sorted(root.rglob("dir.ff")):
        kin = str(path.parent.relative_to(root))
        if not re.match("(?i)(people|foes|animals|dink)", kin) or re.search("(?i)death|die|effect|seed|fish", kin):
            continue
        who = re.sub("(?i)/(walk|attack2?|idle|hit|normal|magic|push|crawl)", "", kin)
        names = [n for n in _bitmaps(path) if not re.search("(?i)death|-X[13]-", n)]
        groups[who] += [f"ff:{path}:{n}" for n in names[:: max(1, len(names) // 10)]]
    found = [Family("freedink", n, "pixel", tuple(p[:14])) for n, p in sorted(groups.items()) if len(p) >= 3]
    hogs = HOME / "hedgewars-data/usr/share/games/hedgewars/Data/Graphics"
    hats = sorted(p for p in (hogs / "Hats").glob("*.png") if Image.open(p).size[0] >= 32)
    poses = [
        p.stem
        for p in sorted((hogs / "Hedgehog").glob("*.png"))
        if p.stem in ("Idle", "Shrug", "Sad", "Hurrah", "Juggle")
    ]
    for hat in hats[::4]:
        found.append(Family("hedgewars", hat.stem, "pixel", tuple(f"hog:{hat}:{pose}" for pose in poses)))
    return found


def _children() -> list[Family]:
    """Drawings for children: files whose names differ in a number or a state alone show one thing in several states."""
    groups: dict[str, list[str]] = defaultdict(list)
    for archive in sorted((HOME / "gcompris-qt-data/usr/share/gcompris-qt/rcc").glob("*.rcc")):
        if archive.stem in (
            "lang",
            "geography",
            "geo-country",
            "paintings",
            "explore_monuments",
            "photo_hunter",
            "erase",
        ):
            continue
        for name in _resources(archive):
            if re.search(r"\.(svgz?|png|webp)$", name) and not re.search(
                "(?i)background|button|bar_|digit|letter|flag|map|arrow|icon|key|score", name
            ):
                stem = re.sub(
                    r"[-_ ]?(\d+|left|right|up|down|on|off|open|closed?|happy|sad|flying|front|back|side)$",
                    "",
                    name.rsplit(".", 1)[0],
                )
                groups[f"{archive.stem}:{stem}"].append(f"rcc:{archive}:{name}")
    return [Family("gcompris", n, "flat", tuple(p[:8])) for n, p in sorted(groups.items()) if len(p) >= 2]


@lru_cache(maxsize=4096)
def picture(address: str) -> NDArray[np.uint8]:
    """A figure's picture (h, w, 4) sRGB and alpha, cut to what is drawn, its longer side about 480 px. Raises ValueError."""
    kind, _, rest = address.partition(":")
    if kind == "emoji":
        hand, name = rest.split(":", 1)
        image = _svg(_icons(hand)[name])
    elif kind == "ff":
        path, name = rest.rsplit(":", 1)
        rgb = np.asarray(Image.open(io.BytesIO(_bitmaps(Path(path))[name])).convert("RGB"))
        ground = (rgb.min(axis=-1) > 248) | (rgb.max(axis=-1) == 0) & (rgb[0, 0].max() == 0)
        image = Image.fromarray(np.dstack([rgb, np.where(ground, 0, 255).astype(np.uint8)]))
    elif kind == "hog":
        image = _hog(*rest.rsplit(":", 1))
    elif kind == "rcc":
        path, name = rest.rsplit(":", 1)
        data = _resources(Path(path))[name]
        if name.endswith((".svg", ".svgz")):
            text = zlib.decompress(data, 31) if data[:2] == b"\x1f\x8b" else data
            image = _svg(text.decode("utf-8", "replace"))
        else:
            image = Image.open(io.BytesIO(data)).convert("RGBA")
    else:
        image = Image.open(address).convert("RGBA")
    alpha = np.asarray(image)[..., 3]
    rows, columns = np.flatnonzero((alpha > 40).any(axis=1)), np.flatnonzero((alpha > 40).any(axis=0))
    if len(rows) < 8 or len(columns) < 8:
        raise ValueError(f"{address} shows nothing")
    image = image.crop((int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1))
    scale = RENDER_PX / max(image.size)
    size = (max(8, round(image.width * scale)), max(8, round(image.height * scale)))
    small = scale > 1.6
    return np.asarray(image.resize(size, Image.Resampling.NEAREST if small else Image.Resampling.LANCZOS))


@lru_cache(maxsize=1)
def grounds() -> tuple[NDArray[np.uint8], ...]:
    """Wallpapers (h, w, 3) at 1200 px wide."""
    found = []
    for package in GROUNDS:
        for path in sorted((HOME / package).rglob("*")):
            if path.suffix.lower() in (".jpg", ".jpeg", ".png", ".webp"):
                try:
                    image = Image.open(path).convert("RGB")
                except OSError:
                    continue
                if image.width >= 1000:
                    found.append(np.asarray(image.resize((1200, round(1200 * image.height / image.width)))))
    backs = HOME / "supertux-data/usr/share/games/supertux2/images/background"
    for path in sorted(backs.rglob("*.jpg")):
        image = Image.open(path).convert("RGB")
        if image.width >= 600:
            found.append(np.asarray(image.resize((1200, round(1200 * image.height / image.width)))))
    return tuple(found)


@lru_cache(maxsize=8)
def _icons(hand: str) -> dict[str, str]:
    """SVG text of every icon of a hand."""
    told = json.loads((HOME / f"iconify-json-{hand}/package/icons.json").read_text())
    out = {}
    for name, icon in told["icons"].items():
        w, h = icon.get("width", told.get("width", 16)), icon.get("height", told.get("height", 16))
        left, top = icon.get("left", 0), icon.get("top", 0)
        out[name] = (
            f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="{left} {top} {w} {h}" '
            f'width="{w}" height="{h}">{icon["body"]}</svg>'
        )
    return out


def _svg(text: str) -> Image.Image:
    rendered = bytes(resvg_py.svg_to_bytes(svg_string=text, width=RENDER_PX))
    return Image.open(io.BytesIO(rendered)).convert("RGBA")


@lru_cache(maxsize=256)
def _bitmaps(path: Path) -> dict[str, bytes]:
    """Bitmaps of a sprite archive: a count, then offsets and names of 13 bytes each."""
    data = path.read_bytes()
    (count,) = struct.unpack_from("<i", data)
    entries = [struct.unpack_from("<i13s", data, 4 + 17 * i) for i in range(count)]
    starts = [e[0] for e in entries]
    names = [e[1].split(b"\0")[0].decode("latin-1") for e in entries]
    pieces = {n: data[a:b] for n, a, b in zip(names, starts, starts[1:], strict=False)}
    return {n: d for n, d in pieces.items() if d[:2] == b"BM"}


@lru_cache(maxsize=256)
def _resources(path: Path) -> dict[str, bytes]:
    """Files of a compiled resource: a tree of 22-byte nodes, names in UTF-16, data plain or by zlib."""
    data = path.read_bytes()
    _, tree, contents, names = struct.unpack_from(">iiii", data, 4)
    out: dict[str, bytes] = {}

    def name_at(offset: int) -> str:
        (length,) = struct.unpack_from(">H", data, names + offset)
        return data[names + offset + 6 : names + offset + 6 + 2 * length].decode("utf-16-be")

    def walk(node: int, prefix: str) -> None:
        at = tree + 22 * node
        name, flags = struct.unpack_from(">iH", data, at)
        here = f"{prefix}/{name_at(name)}" if node else ""
        if flags & 2:
            count, first = struct.unpack_from(">ii", data, at + 6)
            for child in range(first, first + count):
                walk(child, here)
            return
        (offset,) = struct.unpack_from(">i", data, at + 10)
        (size,) = struct.unpack_from(">i", data, contents + offset)
        piece = data[contents + offset + 4 : contents + offset + 4 + size]
        if flags & 1:
            piece = zlib.decompress(piece[4:])
        if not flags & 4:
            out[here] = piece

    walk(0, "")
    return out


def _hog(hat: str, pose: str) -> Image.Image:
    """A small animal in one of its poses, with a hat."""
    sheet = Image.open(HOME / f"hedgewars-data/usr/share/games/hedgewars/Data/Graphics/Hedgehog/{pose}.png").convert(
        "RGBA"
    )
    body = sheet.crop((0, 0, 32, 32))
    cap = Image.open(hat).convert("RGBA").crop((0, 0, 32, 32))
    page = Image.new("RGBA", (44, 48))
    page.alpha_composite(body, (6, 12))
    page.alpha_composite(cap, (6, 7))
    return page
