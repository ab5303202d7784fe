"""Connect to MariaDB, migrate, hand out sessions."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Literal, TypeVar

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, Executable, Row, create_engine, make_url
from sqlalchemy.exc import DBAPIError, SQLAlchemyError
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
        self._at_once = _engine(url, "AUTOCOMMIT", pool_pre_ping=False, pool_reset_on_return=None)
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

    def row(self, asked: Executable, **values: object) -> Row[Any] | None:
        """The first row of a question with some values, as the tables stand now: once there and back, without a transaction around it. A line that was cut meanwhile is
        taken up again."""
        try:
            with self._at_once.connect() as connection:
                return connection.execute(asked, values).first()
        except DBAPIError as error:
            if not error.connection_invalidated:
                raise
        with self._at_once.connect() as connection:
            return connection.execute(asked, values).first()

    def migrate(self, revision: str = "head") -> None:
        """Bring the tables up to a revision."""
        command.upgrade(self.alembic(), revision)

    def migrate_down(self, revision: str) -> None:
        """Take the tables back to a revision (`base` for none)."""
        command.downgrade(self.alembic(), revision)

    def close(self) -> None:
        self.engine.dispose()
        self._one_moment.dispose()
        self._at_once.dispose()

    def alembic(self) -> Config:
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        config.attributes["engine"] = self.engine
        return config


def _engine(url: str, isolation: Literal["READ COMMITTED", "REPEATABLE READ", "AUTOCOMMIT"], **options: Any) -> Engine:
    return create_engine(
        url,
        **{"pool_pre_ping": True, **options},
        pool_size=8,
        max_overflow=16,
        connect_args={
            "charset": "utf8mb4",
            "init_command": "SET time_zone='+00:00', sql_mode='STRICT_ALL_TABLES'",
            # To get ready for a secret line takes longer than all else about a connection; within one machine none is needed.
            "ssl_disabled": make_url(url).host == "127.0.0.1",
        },
        isolation_level=isolation,
    )
