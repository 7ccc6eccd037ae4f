"""Signing in, and who somebody is."""

from dataclasses import dataclass

from argon2 import PasswordHasher
from argon2.exceptions import VerifyMismatchError
from sqlalchemy.orm import Session

from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.errors import NotAllowed
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.people import PersonRow, person_by_sign_in

SHORTEST_PASSWORD = 10
_HASHER = PasswordHasher()
#: Checked when nobody bears the name, so that a wrong name takes as long as a wrong password.
_NOBODY = _HASHER.hash("this sign-in is not known")


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Somebody signed in."""

    person_id: int
    name: str
    sign_in: str


def _person(row: PersonRow) -> Person:
    return Person(person_id=row.id, name=row.name, sign_in=row.sign_in)


@one_transaction
def add_person(session: Session, *, name: str, sign_in: str, password: str) -> Person:
    """A new sign-in. Raises: BadValue for an empty name, a taken sign-in or a short password."""
    require_word("name", name)
    require_word("sign_in", sign_in)
    if len(password) < SHORTEST_PASSWORD:
        raise BadValue("password", f"{len(password)} letters long", f"{SHORTEST_PASSWORD} letters or more")
    if person_by_sign_in(session, sign_in):
        raise BadValue("sign_in", repr(sign_in), "a sign-in nobody has yet")
    row = PersonRow(name=name.strip(), sign_in=sign_in.strip(), password_hash=_HASHER.hash(password), created_at=now())
    session.add(row)
    session.flush()
    return _person(row)


@one_transaction
def sign_in(session: Session, name: str, password: str) -> Person:
    """Who this is. Raises: NotAllowed for a wrong name or password, without saying which."""
    row = person_by_sign_in(session, name.strip())
    try:
        _HASHER.verify(row.password_hash if row else _NOBODY, password)
    except VerifyMismatchError:
        row = None
    if row is None:
        raise NotAllowed("wrong sign-in or password")
    return _person(row)


@one_transaction
def person_of(session: Session, person_id: int) -> Person | None:
    """Somebody by number; None where they are gone."""
    row = session.get(PersonRow, person_id)
    return _person(row) if row else None
