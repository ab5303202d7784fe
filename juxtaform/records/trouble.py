"""What a database error means to whoever asked: is it away, is its disk full, or is somebody else just writing?

Numbers of MariaDB: https://mariadb.com/kb/en/mariadb-error-code-reference/; below 120 of its file layer, above 2000 of the client.
"""

from __future__ import annotations

from typing import Literal

from sqlalchemy.exc import DBAPIError, InterfaceError, SQLAlchemyError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.orm.exc import StaleDataError

Trouble = Literal["away", "full", "busy"]
AWAY = frozenset({1040, 1053, 1077, 1152, 1158, 1159, 1160, 1161, 1184, 1927, 2002, 2003, 2006, 2013, 2014, 2055})
FULL = frozenset({3, 20, 1021, 1026, 1041, 1114})
BUSY = frozenset({1020, 1205, 1213})
NO_SPACE = 28
"""The errno of a full disk, which MariaDB tells in the words of 1005 and 1030."""


def trouble_of(error: SQLAlchemyError) -> Trouble | None:
    """What an error says of the database; None when it says something of the request."""
    if isinstance(error, (PoolTimeout, StaleDataError)):
        return "busy"
    if not isinstance(error, DBAPIError):
        return None
    args = getattr(error.orig, "args", ())
    code = args[0] if args and isinstance(args[0], int) else None
    if code in FULL or (code in (1005, 1030) and f" {NO_SPACE} " in str(args[1:])):
        return "full"
    if code in BUSY:
        return "busy"
    if code in AWAY or error.connection_invalidated or isinstance(error, InterfaceError):
        return "away"
    return None
