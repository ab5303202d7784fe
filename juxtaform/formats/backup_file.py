"""The backup file: a tar archive that only grows. Each backup adds the files that are new, then its tables, then what makes it whole.

Members: `juxtaform-backup.json` (what this is), `files/<kind>/<aa>/<name>`, `backups/<n>/<table>.jsonl.gz` with the rows of a table, and last
`backups/<n>/whole.json` with the digest of everything that belongs to it. A backup whose last member is missing was never made: an
archive that breaks off in the middle is as good as it was before. Any tar reads it.
"""

from __future__ import annotations

import fcntl
import gzip
import hashlib
import io
import json
import os
import tarfile
import tempfile
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import IO, Any

FORM, VERSION = "juxtaform-backup", 1
HEAD = "juxtaform-backup.json"
CHUNK = 1 << 20
BLOCK = tarfile.BLOCKSIZE


class BackupWrong(ValueError):
    """A backup file that cannot be used; the message says why and what to do."""


@dataclass(frozen=True)
class Kept:
    """A member that holds a file or a table: where its bytes begin, how many they are, and their SHA-256."""

    at: int
    bytes: int
    sha256: str


@dataclass
class Whole:
    """One backup: when, of which schema, its tables with how many rows each has, and all files that belong to it, by kind and name."""

    at: str
    schema: str
    tables: dict[str, tuple[Kept, int]] = field(default_factory=dict)
    files: dict[str, Kept] = field(default_factory=dict)


class BackupFile:
    """A backup file that is open; of a new one `backups` is empty."""

    def __init__(self, file: IO[bytes], path: Path) -> None:
        self._file, self.path = file, path
        self.backups: list[Whole] = []
        self._end = 0
        self._read()

    @property
    def latest(self) -> Whole:
        """The newest backup. Raises BackupWrong."""
        if not self.backups:
            raise BackupWrong(f"{self.path} holds no whole backup.")
        return self.backups[-1]

    @property
    def known(self) -> dict[str, Kept]:
        """All files that are in the archive already."""
        return dict(self.backups[-1].files) if self.backups else {}

    def rows(self, kept: Kept) -> Iterator[dict[str, Any]]:
        """The rows of a table."""
        with gzip.open(_Part(self._file, kept), "rt", encoding="utf-8") as lines:
            for line in lines:
                yield json.loads(line)

    def read(self, kept: Kept) -> Iterator[bytes]:
        """A member's bytes, in parts. Raises BackupWrong at the end where they are not what was put in."""
        told = hashlib.sha256()
        for part in _parts(_Part(self._file, kept)):
            told.update(part)
            yield part
        if told.hexdigest() != kept.sha256:
            raise BackupWrong(
                f"{self.path}: what lies at byte {kept.at} is not what was put in. The file is damaged there."
            )

    def wrong_parts(self, whole: Whole, progress: Callable[[int, int], None] = lambda done, of: None) -> list[str]:
        """Read back all of a backup; the names of what is not what was put in."""
        parts = [*whole.files.items(), *((t, kept) for t, (kept, _) in whole.tables.items())]
        wrong = []
        for done, (name, kept) in enumerate(parts):
            try:
                for _ in self.read(kept):
                    pass
            except BackupWrong:
                wrong.append(name)
            progress(done + 1, len(parts))
        return wrong

    @contextmanager
    def adding(self, schema: str) -> Iterator[Adding]:
        """Add a backup; where that fails, the archive is as it was."""
        begun = self._end
        self._file.seek(begun)
        try:
            adding = Adding(self._file, len(self.backups) + 1, self.known, schema)
            if not begun:
                adding.put_bytes(HEAD, json.dumps({"form": FORM, "version": VERSION}).encode())
            yield adding
            adding.finish()
            self._end = self._file.tell()
            self._close_archive()
            self.backups.append(adding.whole)
        except BaseException:
            with suppress(OSError):
                self._file.seek(begun)
                self._end = begun
                self._close_archive()
            raise

    def _close_archive(self) -> None:
        """Two empty blocks end a tar archive."""
        self._file.write(bytes(2 * BLOCK))
        self._file.truncate()
        self._file.flush()
        os.fsync(self._file.fileno())

    def _read(self) -> None:
        size = os.fstat(self._file.fileno()).st_size
        if not size:
            return
        self._file.seek(0)
        try:
            with tarfile.open(fileobj=self._file, mode="r:") as archive:
                head = archive.next()
                if head is None or head.name != HEAD:
                    raise BackupWrong(f"{self.path} is not a backup of Juxtaform.")
                told = json.loads(self._file_at(head).readall())
                if told.get("form") != FORM or told.get("version") != VERSION:
                    raise BackupWrong(f"{self.path} is of another version of Juxtaform: open it with that one.")
                self._members(archive, size)
        except tarfile.TarError as error:
            raise BackupWrong(f"{self.path} is not a backup of Juxtaform.") from error
        if not self.backups:
            raise BackupWrong(f"{self.path} breaks off before its first backup was whole. Delete it and make another.")

    def _members(self, archive: tarfile.TarFile, size: int) -> None:
        """What is whole of the archive; what comes after breaks off and is written over by the next backup."""
        while True:
            try:
                member = archive.next()
            except tarfile.TarError:
                return
            if member is None or member.offset_data + member.size > size:
                return
            if member.name.endswith("/whole.json"):
                try:
                    self.backups.append(_whole(json.loads(self._file_at(member).readall())))
                except (ValueError, KeyError, TypeError):
                    return
                self._end = member.offset_data + -(-member.size // BLOCK) * BLOCK

    def _file_at(self, member: tarfile.TarInfo) -> io.RawIOBase:
        return _Part(self._file, Kept(member.offset_data, member.size, ""))


class Adding:
    """A backup under way."""

    def __init__(self, file: IO[bytes], number: int, known: dict[str, Kept], schema: str) -> None:
        self._file, self._number, self._known = file, number, known
        self.whole = Whole(time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime()), schema)

    def file(self, name: str, path: Path) -> bool:
        """Add a file by its kind and name; whether it was new. Raises OSError."""
        if name in self._known:
            self.whole.files[name] = self._known[name]
            return False
        with path.open("rb") as source:
            size = os.fstat(source.fileno()).st_size
            self.whole.files[name] = self._put(f"files/{name}", size, source)
        return True

    def table(self, name: str, rows: Iterable[dict[str, Any]]) -> int:
        """Add the rows of a table; how many they were. They are packed beside the archive first, as a tar says sizes before."""
        with _scratch(self._file) as packed:
            count = 0
            with gzip.GzipFile(fileobj=packed, mode="wb", compresslevel=5, mtime=0) as out:
                for row in rows:
                    out.write(json.dumps(row, ensure_ascii=False).encode() + b"\n")
                    count += 1
            size = packed.tell()
            packed.seek(0)
            self.whole.tables[name] = self._put(f"backups/{self._number:06}/{name}.jsonl.gz", size, packed), count
        return count

    def put_bytes(self, name: str, data: bytes) -> Kept:
        return self._put(name, len(data), io.BytesIO(data))

    def finish(self) -> None:
        """Say that the backup is whole, once all of it is on the disk."""
        self._file.flush()
        os.fsync(self._file.fileno())
        self.put_bytes(f"backups/{self._number:06}/whole.json", json.dumps(_told(self.whole)).encode())

    def _put(self, name: str, size: int, source: IO[bytes]) -> Kept:
        info = tarfile.TarInfo(name)
        info.size, info.mode, info.mtime = size, 0o600, int(time.time())
        self._file.write(info.tobuf(tarfile.PAX_FORMAT))
        at, told, left = self._file.tell(), hashlib.sha256(), size
        while left:
            part = source.read(min(CHUNK, left))
            if not part:
                raise OSError(f"{name} became shorter while it was read")
            told.update(part)
            self._file.write(part)
            left -= len(part)
        self._file.write(bytes(-size % BLOCK))
        return Kept(at, size, told.hexdigest())


@contextmanager
def opened(path: Path, *, to_add: bool = False) -> Iterator[BackupFile]:
    """A backup file, to read or to add to. A new one gets its name when its first backup is whole. Raises BackupWrong, OSError."""
    if path.exists() or not to_add:
        with path.open("r+b" if to_add else "rb") as file:
            if to_add:
                _alone(file, path)
            yield BackupFile(file, path)
        return
    part = path.with_name(f"{path.name}.part")
    with part.open("w+b") as file:
        os.fchmod(file.fileno(), 0o600)
        _alone(file, path)
        try:
            made = BackupFile(file, path)
            yield made
            if made.backups:
                os.replace(part, path)
        finally:
            part.unlink(missing_ok=True)


def _alone(file: IO[bytes], path: Path) -> None:
    try:
        fcntl.flock(file.fileno(), fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as error:
        raise BackupWrong(f"Another backup is being written to {path} just now.") from error


@contextmanager
def _scratch(file: IO[bytes]) -> Iterator[IO[bytes]]:
    """A file without a name beside an archive."""

    with tempfile.TemporaryFile(dir=Path(str(file.name)).parent) as scratch:
        yield scratch


class _Part(io.RawIOBase):
    """A part of a file, read by its own place."""

    def __init__(self, file: IO[bytes], kept: Kept) -> None:
        self._file, self._at, self._left = file, kept.at, kept.bytes

    def readable(self) -> bool:
        return True

    def readinto(self, buffer: Any) -> int:
        data = os.pread(self._file.fileno(), min(len(buffer), self._left), self._at)
        self._at += len(data)
        self._left -= len(data)
        buffer[: len(data)] = data
        return len(data)


def _parts(file: io.RawIOBase) -> Iterator[bytes]:
    while part := file.read(CHUNK):
        yield part


def _told(whole: Whole) -> dict[str, Any]:
    return {
        "at": whole.at,
        "schema": whole.schema,
        "tables": {t: [*asdict(kept).values(), rows] for t, (kept, rows) in whole.tables.items()},
        "files": {name: list(asdict(kept).values()) for name, kept in whole.files.items()},
    }


def _whole(told: dict[str, Any]) -> Whole:
    tables = {t: (Kept(*row[:3]), int(row[3])) for t, row in told["tables"].items()}
    return Whole(told["at"], told["schema"], tables, {name: Kept(*row) for name, row in told["files"].items()})
