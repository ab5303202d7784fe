"""Connect to MariaDB, migrate, hand out sessions."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Literal

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker


class Database:
    """One MariaDB database; `session()` is one transaction, `reading()` one that reads all of one moment."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.engine = _engine(url, "READ COMMITTED")
        # Connections of their own: to change the isolation of one for a moment costs two questions each time.
        self._one_moment = _engine(url, "REPEATABLE READ")
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)
        self._readings = sessionmaker(self._one_moment, expire_on_commit=False)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A transaction: committed at the end of the block, rolled back on any error."""
        with self._sessions.begin() as session:
            yield session

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A transaction that reads alone: all that it reads is of one moment."""
        with self._readings.begin() as session:
            yield session

    def migrate(self, revision: str = "head") -> None:
        """Bring the tables up to a revision."""
        command.upgrade(self._config(), revision)

    def migrate_down(self, revision: str) -> None:
        """Take the tables back to a revision (`base` for none)."""
        command.downgrade(self._config(), revision)

    def close(self) -> None:
        self.engine.dispose()
        self._one_moment.dispose()

    def _config(self) -> Config:
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        config.attributes["engine"] = self.engine
        return config


def _engine(url: str, isolation: Literal["READ COMMITTED", "REPEATABLE READ"]) -> Engine:
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=8,
        max_overflow=16,
        connect_args={"charset": "utf8mb4", "init_command": "SET time_zone='+00:00', sql_mode='STRICT_ALL_TABLES'"},
        isolation_level=isolation,
    )
