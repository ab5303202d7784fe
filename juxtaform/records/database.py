"""Connect to MariaDB, migrate, hand out sessions."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Literal, TypeVar

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker

from juxtaform.records.trouble import trouble_of

Done = TypeVar("Done")
MOST_TIMES = 6


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

    def retried(self, work: Callable[[Session], Done]) -> Done:
        """What some work does in a transaction, begun again where others were in its way (a deadlock, a lock that was waited for too long)."""
        for left in range(MOST_TIMES, 0, -1):
            try:
                with self.session() as session:
                    return work(session)
            except SQLAlchemyError as error:
                if trouble_of(error) != "busy" or left == 1:
                    raise
                time.sleep(random.uniform(0.01, 0.08))
        raise AssertionError("unreachable")

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A transaction that reads alone: all that it reads is of one moment."""
        with self._readings.begin() as session:
            yield session

    def migrate(self, revision: str = "head") -> None:
        """Bring the tables up to a revision."""
        command.upgrade(self.alembic(), revision)

    def migrate_down(self, revision: str) -> None:
        """Take the tables back to a revision (`base` for none)."""
        command.downgrade(self.alembic(), revision)

    def close(self) -> None:
        self.engine.dispose()
        self._one_moment.dispose()

    def alembic(self) -> Config:
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
