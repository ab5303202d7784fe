"""Secrets: passwords kept as hashes, links and tokens kept as digests, and how often somebody may try."""

from __future__ import annotations

import hashlib
import secrets
import threading
from collections.abc import Sequence
from datetime import timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy import delete
from sqlalchemy.orm import Session

from juxtaform.records.models import now
from juxtaform.records.people import Trying
from juxtaform.studio.workspace import NotPossible

LEAST_PASSWORD, MOST_PASSWORD = 10, 200
LEAST_SCORE = 3
"""Of zxcvbn's scores 0 to 4: 3 takes a hundred million guesses or more, each at the cost of a hash such as ours."""
READ_BY_ESTIMATE = 72
"""The estimate takes no longer words; what is longer is judged by its beginning."""
FREE_TRIES, FIRST_WAIT_S, MOST_WAIT_S = 5, 2.0, 900.0
FREE_TRIES_OF_ADDRESS = 20
FORGOTTEN_AFTER = timedelta(hours=24)
HASHES_AT_ONCE = 2
_hasher = PasswordHasher()
_nobody = _hasher.hash(secrets.token_urlsafe(24))
_hashing = threading.BoundedSemaphore(HASHES_AT_ONCE)


class TooMany(RuntimeError):
    """Too many wrong tries; `wait_s` seconds are to pass."""

    def __init__(self, wait_s: float) -> None:
        self.wait_s = max(1, round(wait_s))
        super().__init__(f"That was wrong too often. Try again in {_as_time(self.wait_s)}.")


def new_secret(prefix: str = "") -> str:
    """A secret of 256 random bits, for a cookie, a link or a token."""
    return prefix + secrets.token_urlsafe(32)


def digest(secret: str) -> str:
    """What is kept of a secret of many random bits: a digest suffices, as nobody can guess them."""
    return hashlib.sha256(secret.encode("utf-8", "replace")).hexdigest()


def hashed(password: str, about: Sequence[str] = ()) -> str:
    """A password's hash (Argon2id, RFC 9106), if it is hard to guess. `about` are words that it must not consist of, such as the name. Raises NotPossible."""
    see_strong(password, about)
    return hash_of(password)


def see_strong(password: str, about: Sequence[str] = ()) -> None:
    """See that a password is hard to guess. Raises NotPossible."""
    if len(password) < LEAST_PASSWORD:
        raise NotPossible(
            f"This password is too short: {LEAST_PASSWORD} characters are the least. A few words are easy to keep."
        )
    if len(password) > MOST_PASSWORD:
        raise NotPossible(f"This password is too long: {MOST_PASSWORD} characters are the most.")
    from zxcvbn import zxcvbn  # its lists of words take a second to load, and few commands ask for them

    told = zxcvbn(
        password[:READ_BY_ESTIMATE], user_inputs=["juxtaform", *(word for a in about for word in (a, *a.split()))]
    )
    if told["score"] < LEAST_SCORE:
        raise NotPossible("This password is easy to guess. Take a few words that do not belong together.")


def hash_of(phrase: str) -> str:
    """A hash without any question whether it is easy to guess: of a password that holds already, or of a passphrase that guards one link beside its
    secret."""
    with _hashing:
        return _hasher.hash(phrase[:MOST_PASSWORD])


def holds(password: str, kept: str | None) -> bool:
    """Whether a password is the one of that hash. It takes as long where there is no hash at all."""
    with _hashing:
        try:
            return _hasher.verify(kept or _nobody, password[:MOST_PASSWORD]) and kept is not None
        except (VerifyMismatchError, InvalidHashError):
            return False


def is_outdated(kept: str) -> bool:
    """Whether a hash was made with less work than is usual now."""
    return _hasher.check_needs_rehash(kept)


def may_try(session: Session, *whom: tuple[str, int]) -> None:
    """See that whoever tries has waited long enough; `whom` are names of what is tried, each with its free tries. Raises TooMany."""
    waits = []
    for name, free in whom:
        row = session.get(Trying, digest(name))
        if row is not None and row.at > now() - FORGOTTEN_AFTER:
            waits.append((row.at - now()).total_seconds() + wait_s(row.failures, free))
    if waits and max(waits) > 0:
        raise TooMany(max(waits))


def wait_s(failures: int, free: int) -> float:
    """Seconds to wait after so many wrong tries: none for the free ones, then twice as long each time.

    >>> wait_s(4, 5), wait_s(5, 5), wait_s(8, 5), wait_s(50, 5)
    (0.0, 2.0, 16.0, 900.0)
    """
    return 0.0 if failures < free else min(MOST_WAIT_S, FIRST_WAIT_S * 2.0 ** min(failures - free, 20))


def was_wrong(session: Session, *names: str) -> None:
    """Count a wrong try."""
    for name in names:
        row = session.get(Trying, digest(name), with_for_update=True)
        if row is None:
            session.add(Trying(key=digest(name), failures=1, at=now()))
        else:
            row.failures = row.failures + 1 if row.at > now() - FORGOTTEN_AFTER else 1
            row.at = now()
    session.execute(delete(Trying).where(Trying.at < now() - FORGOTTEN_AFTER))


def was_right(session: Session, *names: str) -> None:
    """Forget wrong tries."""
    session.execute(delete(Trying).where(Trying.key.in_([digest(n) for n in names])))


def _as_time(seconds: int) -> str:
    return f"{seconds} s" if seconds < 90 else f"{round(seconds / 60)} minutes"
