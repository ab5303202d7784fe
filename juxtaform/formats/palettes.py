"""Palettes in and out: GPL text palettes, CSS custom properties, and JSON. Names and roles go along where the form has room."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from dataclasses import dataclass

MOST = 256
GPL_HEAD = "GIMP Palette"
"""What the open text format begins with."""
ROLES = ("lead", "other", "ground", "reserved")


class PaletteWrong(ValueError):
    """A palette file that cannot be read; the message names the line or place."""


@dataclass(frozen=True)
class NamedColour:
    """A colour as #rrggbb, its name, and its role (empty: none)."""

    hex: str
    name: str = ""
    role: str = ""


def write_gpl(title: str, colours: Sequence[NamedColour]) -> bytes:
    """A text palette: a head, then red, green, blue and a name on each line.

    >>> write_gpl("Dusk", [NamedColour("#1f5f66", "teal", "lead")]).decode().splitlines()[4].split()
    ['31', '95', '102', 'teal', '(lead)']
    """
    lines = [GPL_HEAD, f"Name: {_one_line(title)}", "Columns: 0", "#"]
    for c in colours:
        r, g, b = (int(c.hex[i : i + 2], 16) for i in (1, 3, 5))
        role = f" ({c.role})" if c.role else ""
        lines.append(f"{r:3d} {g:3d} {b:3d}\t{_one_line(c.name) or c.hex}{role}")
    return ("\n".join(lines) + "\n").encode()


def write_css(title: str, colours: Sequence[NamedColour]) -> bytes:
    """CSS custom properties on :root, named by role and name; the same name twice gets a number."""
    lines, seen = [f"/* {_one_line(title).replace('*/', '')} */", ":root {"], set()
    for c in colours:
        plain = re.sub(r"[^a-z0-9]+", "-", f"{c.role} {c.name or c.hex[1:]}".casefold()).strip("-") or "colour"
        name, n = plain, 2
        while name in seen:
            name, n = f"{plain}-{n}", n + 1
        seen.add(name)
        lines.append(f"  --{name}: {c.hex};")
    return ("\n".join([*lines, "}"]) + "\n").encode()


def write_json(title: str, colours: Sequence[NamedColour]) -> bytes:
    document = {"name": title, "colours": [{"hex": c.hex, "name": c.name, "role": c.role} for c in colours]}
    return (json.dumps(document, ensure_ascii=False, indent=1) + "\n").encode()


def read(name: str, data: bytes) -> list[NamedColour]:
    """The colours of a palette file of any of the three forms, told apart by what they hold. Raises PaletteWrong."""
    if len(data) > 1_000_000:
        raise PaletteWrong(f"{name} is larger than a palette can be. Choose a palette file.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        try:
            text = data.decode("latin-1")
        except UnicodeDecodeError as error:
            raise PaletteWrong(f"{name} is no text.") from error
    if "\x00" in text:
        raise PaletteWrong(f"{name} is no text palette. Choose a .gpl, .css or .json file.")
    first = text.lstrip()
    if first.startswith(GPL_HEAD):
        found = _read_gpl(name, text)
    elif first.startswith(("{", "[")):
        found = _read_json(name, text)
    else:
        found = _read_css(name, text)
    if not found:
        raise PaletteWrong(f"{name} holds no colours. Choose a .gpl, .css or .json palette.")
    return found[:MOST]


def _read_gpl(name: str, text: str) -> list[NamedColour]:
    out = []
    for number, line in enumerate(text.splitlines(), 1):
        plain = line.strip()
        if number == 1 or not plain or plain.startswith("#") or re.match(r"(Name|Columns):", plain):
            continue
        m = re.match(r"(\d+)\s+(\d+)\s+(\d+)(?:\s+(.*))?$", plain)
        if not m or any(int(v) > 255 for v in m.groups()[:3]):
            raise PaletteWrong(f"{name}, line {number}: not three numbers from 0 to 255 and a name.")
        colour_words, role = _role_of(m.group(4) or "")
        out.append(NamedColour("#{:02x}{:02x}{:02x}".format(*(int(v) for v in m.groups()[:3])), colour_words, role))
    return out


def _read_css(name: str, text: str) -> list[NamedColour]:
    out = []
    for number, line in enumerate(
        re.sub(r"/\*.*?\*/", lambda m: "\n" * m.group().count("\n"), text, flags=re.DOTALL).splitlines(), 1
    ):
        for m in re.finditer(r"--([\w-]+)\s*:\s*([^;}]+)", line):
            value = m.group(2).strip()
            code = _hex_of(value)
            if code is None:
                if value.startswith(("#", "rgb")):
                    raise PaletteWrong(f"{name}, line {number}: {value} is no colour.")
                continue
            role, _, rest = m.group(1).partition("-")
            out.append(
                NamedColour(
                    code,
                    (rest if role in ROLES and rest else m.group(1)).replace("-", " "),
                    role if role in ROLES else "",
                )
            )
    return out


def _read_json(name: str, text: str) -> list[NamedColour]:
    try:
        document = json.loads(text)
    except ValueError as error:
        raise PaletteWrong(f"{name}: not whole JSON ({error}).") from error
    rows = document.get("colours", document.get("colors")) if isinstance(document, dict) else document
    if not isinstance(rows, list):
        raise PaletteWrong(f"{name}: there is no list of colours in it.")
    out = []
    for i, row in enumerate(rows, 1):
        value = row if isinstance(row, str) else row.get("hex", "") if isinstance(row, dict) else ""
        code = _hex_of(value) if isinstance(value, str) else None
        if code is None:
            raise PaletteWrong(f"{name}, colour {i}: {value!r} is no colour like #1f5f66.")
        role = str(row.get("role", "")) if isinstance(row, dict) else ""
        out.append(
            NamedColour(code, str(row.get("name", "")) if isinstance(row, dict) else "", role if role in ROLES else "")
        )
    return out


def _hex_of(value: str) -> str | None:
    if m := re.fullmatch(r"#([0-9a-fA-F]{3})", value):
        return "#" + "".join(c * 2 for c in m.group(1).lower())
    if re.fullmatch(r"#[0-9a-fA-F]{6}(?:[0-9a-fA-F]{2})?", value):
        return value[:7].lower()
    m = re.fullmatch(r"rgba?\(\s*(\d+)[\s,]+(\d+)[\s,]+(\d+)(?:[\s,/]+[\d.%]+)?\s*\)", value)
    if m and all(int(v) <= 255 for v in m.groups()):
        return "#{:02x}{:02x}{:02x}".format(*(int(v) for v in m.groups()))
    return None


def _role_of(words: str) -> tuple[str, str]:
    m = re.fullmatch(r"(.*?)\s*\((lead|other|ground|reserved)\)", words.strip())
    return (m.group(1), m.group(2)) if m else (words.strip(), "")


def _one_line(words: str) -> str:
    return " ".join(words.split())
