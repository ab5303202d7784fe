"""Zip entries that are the same each time: one fixed time, plain file rights."""

from __future__ import annotations

import zipfile

EPOCH = (1980, 1, 1, 0, 0, 0)


def put(archive: zipfile.ZipFile, name: str, data: bytes, *, packed: bool = True) -> None:
    """Write an entry; pictures are packed already and go in as they are."""
    entry = zipfile.ZipInfo(name, EPOCH)
    entry.compress_type = zipfile.ZIP_DEFLATED if packed else zipfile.ZIP_STORED
    entry.external_attr = 0o644 << 16
    archive.writestr(entry, data)
