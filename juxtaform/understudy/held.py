"""What the Understudy holds: pictures by digest and jobs by id, in memory or in a folder that outlives it."""

from __future__ import annotations

import hashlib
import os
import threading
from collections import OrderedDict
from pathlib import Path

MOST_HELD_BYTES = 2_000_000_000


class Held:
    """Pictures that were brought or made, by the SHA-256 of their bytes; the oldest go first when there are too many. Those in a folder outlive
    the process."""

    def __init__(self, folder: Path | None = None, most_bytes: int = MOST_HELD_BYTES) -> None:
        self.most_bytes = most_bytes
        self._folder = folder
        self._data: dict[str, bytes] = {}
        self._sizes: OrderedDict[str, int] = OrderedDict()
        self._lock = threading.Lock()
        if folder is not None:
            folder.mkdir(parents=True, exist_ok=True)
            for path in sorted(folder.iterdir(), key=lambda p: p.stat().st_mtime):
                if path.suffix:
                    path.unlink()  # one that was being written when the process ended
                else:
                    self._sizes[path.name] = path.stat().st_size

    def put(self, data: bytes) -> tuple[str, bool]:
        """Keep bytes; returns their digest, and whether they are new."""
        sha = hashlib.sha256(data).hexdigest()
        with self._lock:
            if sha in self._sizes:
                self._sizes.move_to_end(sha)
                return sha, False
            self._write(sha, data)
            self._sizes[sha] = len(data)
            while sum(self._sizes.values()) > self.most_bytes and len(self._sizes) > 1:
                self._forget(self._sizes.popitem(last=False)[0])
        return sha, True

    def get(self, sha: str) -> bytes | None:
        with self._lock:
            if sha not in self._sizes:
                return None
            return self._data[sha] if self._folder is None else (self._folder / sha).read_bytes()

    def _write(self, sha: str, data: bytes) -> None:
        if self._folder is None:
            self._data[sha] = data
            return
        part = self._folder / f"{sha}.part"
        part.write_bytes(data)
        os.replace(part, self._folder / sha)

    def _forget(self, sha: str) -> None:
        if self._folder is None:
            del self._data[sha]
        else:
            (self._folder / sha).unlink(missing_ok=True)
