"""Pictures where all machines reach them: a shared folder or an S3-compatible store, by fsspec. Each machine keeps a copy of what it used."""

from __future__ import annotations

import functools
import hashlib
import os
import re
import tempfile
import uuid
from pathlib import Path
from typing import Any

STORE_VARIABLE, COPIES_VARIABLE = "JUXTAFORM_STORE", "JUXTAFORM_COPIES"
"""The address of the shared store (`s3://bucket/folder`, `file:///mnt/story`); and where this machine keeps copies, for one that has no store of
its own. What a protocol needs is told to fsspec: FSSPEC_S3_ENDPOINT_URL, FSSPEC_S3_KEY, FSSPEC_S3_SECRET and the like."""
_DIGEST = re.compile(r"^[0-9a-f]{64}$")


class SharedWrong(OSError):
    """A shared store that cannot be used; the message says why and what to do."""


class SharedStore:
    """Files by `<aa>/<name>` below an address."""

    def __init__(self, address: str) -> None:
        import fsspec

        try:
            self._fs, self._root = fsspec.core.url_to_fs(address)
        except (ValueError, ImportError) as error:
            raise SharedWrong(f"{STORE_VARIABLE}={address} is no address of a store: {error}.") from error
        self.address = address
        self._is_folder = "file" in (
            self._fs.protocol if isinstance(self._fs.protocol, tuple) else (self._fs.protocol,)
        )
        self._root = self._root.rstrip("/")

    def has(self, name: str) -> bool:
        return bool(self._asked("asked for", self._fs.exists, f"{self._root}/{name}"))

    def put(self, path: Path, name: str) -> None:
        """Lay a file there; in a folder it gets its name when it is whole. Raises SharedWrong."""
        target = f"{self._root}/{name}"
        if not self._is_folder:
            self._asked("written to", self._fs.put_file, str(path), target)
            return
        half = f"{target}.{uuid.uuid4().hex[:8]}.tmp"
        self._asked("written to", self._fs.makedirs, os.path.dirname(target), exist_ok=True)
        self._asked("written to", self._fs.put_file, str(path), half)
        self._asked("written to", self._fs.mv, half, target)

    def fetch(self, name: str, to: Path) -> bool:
        """Copy a file from there; whether it was there. What is named by its digest is held against it. Raises SharedWrong."""
        to.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        handle, half = tempfile.mkstemp(dir=to.parent, prefix="tmp")
        os.close(handle)
        try:
            try:
                self._asked("read from", self._fs.get_file, f"{self._root}/{name}", half)
            except FileNotFoundError:
                return False
            if _DIGEST.match(to.name) and _digest(Path(half)) != to.name:
                raise SharedWrong(f"{name} in {self.address} is not what was put in: the store damaged it.")
            os.replace(half, to)
            return True
        finally:
            Path(half).unlink(missing_ok=True)

    def remove(self, name: str) -> None:
        if self.has(name):
            self._asked("written to", self._fs.rm_file, f"{self._root}/{name}")

    def _asked(self, deed: str, do: Any, *args: Any, **options: Any) -> Any:
        try:
            return do(*args, **options)
        except FileNotFoundError:
            raise
        except Exception as error:  # Every protocol fails in its own way.
            raise SharedWrong(f"The shared store {self.address} cannot be {deed}: {error}") from error


@functools.cache
def _at(address: str) -> SharedStore:
    return SharedStore(address)


def shared() -> SharedStore | None:
    """The shared store that the environment names, if it does. Raises SharedWrong."""
    address = os.environ.get(STORE_VARIABLE, "")
    return _at(address) if address else None


def at_hand(path: Path) -> Path:
    """Where a file of a store can be read: as it is where it lies here, else as a copy of what the shared store has. Raises SharedWrong."""
    if path.exists():
        return path
    store = shared()
    if store is None:
        return path
    copies = os.environ.get(COPIES_VARIABLE, "")
    name = f"{path.parent.name}/{path.name}"
    copy = Path(copies) / name if copies else path
    if not copy.exists():
        store.fetch(name, copy)
    return copy


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
