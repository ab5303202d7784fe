"""A second factor: codes of an app on one's telephone (TOTP, RFC 6238), and spare codes for when it is lost."""

from __future__ import annotations

import hmac
import logging
import secrets as random
import time
from dataclasses import dataclass

import pyotp
import segno
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from juxtaform.records.models import now
from juxtaform.records.people import Account, SpareCode
from juxtaform.studio import secrets
from juxtaform.studio.secrets import FREE_TRIES
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace

STEP_S = 30
CLOCKS_APART = 1
"""Codes of so many half minutes before and after this one are taken: clocks of telephones go a little wrong (RFC 6238, 5.2)."""
SPARE_CODES, SPARE_LETTERS = 10, 24
"""24 letters of 32 are 120 random bits, so that a digest suffices."""
ALPHABET = "abcdefghijkmnpqrstuvwxyz23456789"
log = logging.getLogger("juxtaform.people")


class CodeWanted(RuntimeError):
    """The password is right, and a code is wanted beside it."""

    def __init__(self) -> None:
        super().__init__("Now the code that your app shows, or one of your spare codes.")


class CodeWrong(RuntimeError):
    """A code that opens nothing."""

    def __init__(self) -> None:
        super().__init__(
            "This code does not hold. Wait for the next one in your app, and look whether its clock is right."
        )


@dataclass(frozen=True)
class SecondOffer:
    """What is to be brought into an app: by hand as letters, as an address, or as a square code, whose rows are of 1 (dark) and 0."""

    secret: str
    address: str
    square: list[str]


@dataclass(frozen=True)
class SecondStanding:
    """Whether an account has a second factor, and how many spare codes are left."""

    on: bool
    spare_left: int


def standing(ws: Workspace, account_id: str) -> SecondStanding:
    with ws.database.session() as s:
        account = s.get_one(Account, account_id)
        left = select(func.count()).where(SpareCode.account_id == account_id, SpareCode.used_at.is_(None))
        return SecondStanding(account.second is not None, s.scalar(left) or 0)


def offer(ws: Workspace, account_id: str) -> SecondOffer:
    """A new secret for an app; it counts for nothing before a code of it was given. Raises NotPossible."""
    with ws.database.session() as s:
        account = s.get_one(Account, account_id)
        if account.second is not None:
            raise NotPossible("There is a second factor already. Take it off first.")
        account.second_offered = pyotp.random_base32(32)
        address = pyotp.TOTP(account.second_offered).provisioning_uri(account.login, issuer_name="Juxtaform")
        rows = segno.make(address, error="m", micro=False).matrix
        return SecondOffer(
            account.second_offered, address, ["".join("1" if dark else "0" for dark in row) for row in rows]
        )


def confirm(ws: Workspace, account_id: str, code: str) -> list[str]:
    """Turn the second factor on that was offered; returns spare codes, which are told this once. Raises CodeWrong, TooMany, NotPossible."""
    with ws.database.session() as s:
        account = s.get_one(Account, account_id, with_for_update=True)
        secrets.may_try(s, (_tries(account_id), FREE_TRIES))
        if account.second_offered is None:
            raise NotPossible("Nothing waits to be confirmed. Begin again.")
        step = _step_of(account.second_offered, code, account.second_step)
        if step is not None:
            account.second, account.second_offered, account.second_step = account.second_offered, None, step
            s.execute(delete(SpareCode).where(SpareCode.account_id == account_id))
            codes = ["".join(random.choice(ALPHABET) for _ in range(SPARE_LETTERS)) for _ in range(SPARE_CODES)]
            s.add_all(SpareCode(digest=secrets.digest(c), account_id=account_id) for c in codes)
            log.info("account %s has a second factor", account_id)
            return ["-".join(c[i : i + 6] for i in range(0, SPARE_LETTERS, 6)) for c in codes]
    _was_wrong(ws, account_id)
    raise CodeWrong


def prove(ws: Workspace, account_id: str, code: str) -> None:
    """See that a code is one of an account's second factor, where it has one; each opens once. Raises CodeWanted, CodeWrong, TooMany."""
    with ws.database.session() as s:
        account = s.get_one(Account, account_id, with_for_update=True)
        if account.second is None:
            return
        if not code.strip():
            raise CodeWanted
        secrets.may_try(s, (_tries(account_id), FREE_TRIES))
        step = _step_of(account.second, code, account.second_step)
        if step is not None:
            account.second_step = step
        if step is not None or _spare(s, account_id, code):
            secrets.was_right(s, _tries(account_id))
            return
    _was_wrong(ws, account_id)
    raise CodeWrong


def take_off(ws: Workspace, account_id: str) -> None:
    """Take an account's second factor off, with its spare codes. Raises NotThere."""
    with ws.database.session() as s:
        account = s.get(Account, account_id)
        if account is None:
            raise NotThere("There is no such account.")
        account.second = account.second_offered = None
        s.execute(delete(SpareCode).where(SpareCode.account_id == account_id))
        log.info("account %s has no second factor any more", account_id)


def _step_of(secret: str, code: str, used: int) -> int | None:
    """The half minute whose code this is, if it is a later one than was used."""
    told, of = "".join(code.split()), pyotp.TOTP(secret)
    now_step = int(time.time()) // STEP_S
    for step in range(now_step - CLOCKS_APART, now_step + CLOCKS_APART + 1):
        if hmac.compare_digest(of.at(step * STEP_S).encode(), told.encode("utf-8", "replace")) and step > used:
            return step
    return None


def _spare(s: Session, account_id: str, code: str) -> bool:
    """Use a spare code up, if it is one."""
    plain = "".join(c for c in code.casefold() if c in ALPHABET)
    row = s.get(SpareCode, secrets.digest(plain), with_for_update=True)
    if row is None or row.account_id != account_id or row.used_at is not None:
        return False
    row.used_at = now()
    log.info("account %s used a spare code", account_id)
    return True


def _tries(account_id: str) -> str:
    return f"second factor of {account_id}"


def _was_wrong(ws: Workspace, account_id: str) -> None:
    ws.database.retried(lambda s: secrets.was_wrong(s, _tries(account_id)))
    log.warning("a code of account %s was wrong", account_id)
