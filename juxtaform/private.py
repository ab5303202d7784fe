"""Files and folders that are for us alone: nobody else on this machine may read them."""

from __future__ import annotations

import os
import secrets
from pathlib import Path

FOLDER, FILE = 0o700, 0o600


def folder(path: Path) -> Path:
    """A folder that only we may enter; one that is there is closed."""
    path.mkdir(mode=FOLDER, parents=True, exist_ok=True)
    if path.stat().st_mode & 0o777 != FOLDER:
        path.chmod(FOLDER)
    return path


def close(path: Path) -> None:
    """Close a file that may be there from before."""
    if path.exists():
        path.chmod(FILE)


def written(path: Path, text: str) -> Path:
    """A file that only we may read, from its first byte on."""
    path.unlink(missing_ok=True)
    with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, FILE), "w", encoding="utf-8") as file:
        file.write(text)
    return path


def password(path: Path) -> str:
    """The random password that a file keeps; one that others could read is made anew."""
    if path.exists() and path.stat().st_mode & 0o077 == 0 and (secret := path.read_text("utf-8").strip()):
        return secret
    made = secrets.token_urlsafe(24)
    written(path, made + "\n")
    return made
