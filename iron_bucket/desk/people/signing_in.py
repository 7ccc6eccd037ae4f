"""Signing in and out: kept in the database, device by device, and tried only so often."""

import hashlib
import re
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import NotAllowed, NotFound
from iron_bucket.desk.people.passwords import hashed, is_kept_otherwise, is_right
from iron_bucket.desk.people.person import Person, person_from
from iron_bucket.desk.throttle import forget_turns, take_turn
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.people import person_by_sign_in
from iron_bucket.store.sign_ins import SignInRow, end_sign_in, end_sign_ins, sign_ins_of, standing_sign_in

_TOKEN_BYTES = 32
#: When somebody was seen last is written down at most so often.
_SEEN_EVERY = timedelta(minutes=1)
#: One address may stand for a whole production office.
_ADDRESS_FACTOR = 5
_SECONDS = {"second": 1, "minute": 60, "hour": 3600}


@dataclass(frozen=True, slots=True, kw_only=True)
class SignInRules:
    """How long one may be away, how long one stays signed in at most, and how often a password may be tried.

    ``limit`` such as "10 per minute", for each account; an address has five times as many. ``refused``: a password that
    is no secret.
    """

    idle: timedelta = timedelta(hours=24)
    longest: timedelta = timedelta(days=14)
    limit: str = "10 per minute"
    refused: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Device:
    """From where somebody asks. ``known``: what only a device has from which this account was signed in to before; it
    is counted by itself, so that nobody is locked out by others who try.
    """

    address: str = ""
    name: str = ""
    known: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class SignedIn:
    """``token`` stays with the device alone."""

    person: Person
    token: str


def count_try(session: Session, name: str, device: Device, rules: SignInRules) -> None:
    """Before a password is looked at. Raises: TooManyTries."""
    most, window = _limit(rules.limit)
    account = f"device {device.known}" if device.known else f"account {name.strip().lower()}"
    take_turn(session, {account: most, f"address {device.address}": most * _ADDRESS_FACTOR}, window)


@one_transaction
def sign_in(
    session: Session, name: str, password: str, device: Device = Device(), rules: SignInRules = SignInRules()
) -> SignedIn:
    """A new sign-in on a device. Raises: NotAllowed for a wrong name or password, or somebody disabled, without saying
    which.
    """
    row = person_by_sign_in(session, name.strip())
    is_in = is_right(password, row.password_hash if row else None)
    if row is None or not is_in or row.is_disabled or (rules.refused and password == rules.refused):
        raise NotAllowed("wrong sign-in or password")
    if is_kept_otherwise(row.password_hash):
        row.password_hash = hashed(password)
    forget_turns(session, f"account {row.sign_in.lower()}", f"device {device.known}")
    tell(session, row.id, "sign-in", f"signed in from {device.name or 'somewhere'}", device.address)
    return SignedIn(person=person_from(row), token=begin(session, row.id, device))


def begin(session: Session, person_id: int, device: Device) -> str:
    """The token of a new sign-in within an open transaction."""
    token, at = secrets.token_urlsafe(_TOKEN_BYTES), now()
    session.add(
        SignInRow(
            token_digest=_digest(token),
            person_id=person_id,
            began_at=at,
            seen_at=at,
            ended_at=None,
            address=device.address[:45],
            device=device.name[:200],
        )
    )
    return token


@one_transaction
def refused_sign_in(session: Session, name: str, device: Device) -> None:
    """Tell that somebody tried; the name is told only where there is such a sign-in, for it may be a password typed in
    the wrong field.
    """
    row = person_by_sign_in(session, name.strip())
    tell(session, None, "refusal", f"wrong password for {row.sign_in if row else 'nobody known'}", device.address)


@one_transaction
def signed_in_person(session: Session, token: str, rules: SignInRules) -> Person | None:
    """Whose token it is, while it stands: one query, and one more a minute."""
    at = now()
    found = standing_sign_in(session, _digest(token), at - rules.longest, at - rules.idle)
    if found is None:
        return None
    if at - found[0].seen_at > _SEEN_EVERY:
        found[0].seen_at = at
    return person_from(found[1])


@dataclass(frozen=True, slots=True, kw_only=True)
class StandingSignIn:
    """One device on which somebody is signed in."""

    number: int
    device: str
    address: str
    began_at: datetime
    seen_at: datetime
    is_this: bool


@one_transaction
def list_sign_ins(session: Session, person_id: int, token: str, rules: SignInRules) -> tuple[StandingSignIn, ...]:
    """Where somebody is signed in, the last used first."""
    at = now()
    return tuple(
        StandingSignIn(
            number=row.id,
            device=row.device,
            address=row.address,
            began_at=row.began_at,
            seen_at=row.seen_at,
            is_this=row.token_digest == _digest(token),
        )
        for row in sign_ins_of(session, person_id, at - rules.longest, at - rules.idle)
    )


@one_transaction
def sign_out(session: Session, person_id: int, token: str) -> None:
    """End this sign-in, wherever its cookie was copied to."""
    end_sign_in(session, person_id, _digest(token), now())


@one_transaction
def end_other_sign_ins(session: Session, person_id: int, token: str, number: int | None = None) -> int:
    """End one of somebody's sign-ins, or all but this one; gives how many. Raises: NotFound."""
    ended = end_sign_ins(session, person_id, now(), but=_digest(token), only=number)
    if number is not None and not ended:
        raise NotFound("that sign-in has ended already")
    tell(session, person_id, "sign-out", f"ended {ended} other sign-in{'s' if ended != 1 else ''}")
    return ended


def _limit(limit: str) -> tuple[int, timedelta]:
    found = re.fullmatch(r"(\d+) per (second|minute|hour)", limit)
    assert found  # settings have looked
    return int(found[1]), timedelta(seconds=_SECONDS[found[2]])


def code_digest(code: str) -> str:
    """Of a one-time code, however it was typed."""
    return _digest("code " + re.sub(r"[^A-Z0-9]", "", code[:100].upper()))


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode("utf-8", "replace")).hexdigest()
