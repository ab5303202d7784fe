"""All rows of a database as they are, table by table, and put back: for backups, of this schema and of older ones."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from datetime import date, datetime
from decimal import Decimal
from typing import Any

from sqlalchemy import Connection, Engine, inspect, text

AT_ONCE = 500
SCHEMA = "alembic_version"


def schema_of(connection: Connection) -> str:
    """The revision of the tables; empty where there are none."""
    if SCHEMA not in inspect(connection).get_table_names():
        return ""
    return str(connection.execute(text(f"SELECT version_num FROM {SCHEMA}")).scalar() or "")


def tables(connection: Connection) -> list[str]:
    """The tables of the database, without the one that names its schema."""
    return sorted(t for t in inspect(connection).get_table_names() if t != SCHEMA)


def rows(connection: Connection, table: str) -> Iterator[dict[str, Any]]:
    """The rows of a table as the database has them, in the order of its key; not all are held at once."""
    key = ", ".join(f"`{c}`" for c in inspect(connection).get_pk_constraint(table)["constrained_columns"])
    query = text(f"SELECT * FROM `{table}`" + (f" ORDER BY {key}" if key else ""))
    for row in connection.execution_options(stream_results=True, yield_per=AT_ONCE).execute(query).mappings():
        yield {column: _plain(value) for column, value in row.items()}


def put_back(connection: Connection, table: str, kept: Iterable[dict[str, Any]]) -> int:
    """Put rows into a table; how many they were. What they name may come later."""
    connection.execute(text("SET SESSION foreign_key_checks = 0"))
    part: list[dict[str, Any]] = []
    count = 0
    for row in kept:
        part.append(row)
        if len(part) == AT_ONCE:
            count += _put(connection, table, part)
            part = []
    return count + (_put(connection, table, part) if part else 0)


def is_empty(engine: Engine, told_by: Iterable[str] = ("project", "account")) -> bool:
    """Whether nobody has put anything into the database."""
    with engine.connect() as connection:
        there = set(inspect(connection).get_table_names())
        return not any(connection.execute(text(f"SELECT 1 FROM `{t}` LIMIT 1")).scalar() for t in told_by if t in there)


def drop_all(engine: Engine) -> None:
    """Take all tables away."""
    with engine.begin() as connection:
        connection.execute(text("SET SESSION foreign_key_checks = 0"))
        for table in inspect(connection).get_table_names():
            connection.execute(text(f"DROP TABLE `{table}`"))
        connection.execute(text("SET SESSION foreign_key_checks = 1"))


def _put(connection: Connection, table: str, part: list[dict[str, Any]]) -> int:
    columns = list(part[0])
    names, values = ", ".join(f"`{c}`" for c in columns), ", ".join(f":c{i}" for i in range(len(columns)))
    given = [{f"c{i}": row[c] for i, c in enumerate(columns)} for row in part]
    connection.execute(text(f"INSERT INTO `{table}` ({names}) VALUES ({values})"), given)
    return len(part)


def _plain(value: Any) -> Any:
    match value:
        case datetime():
            return value.isoformat(sep=" ", timespec="microseconds")
        case date():
            return value.isoformat()
        case Decimal():
            return str(value)
        case bytes():
            return value.decode("utf-8")
        case _:
            return value
