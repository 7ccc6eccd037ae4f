"""Who may sign in: added, renamed, disabled, given a new password by a code that stands for one once."""

import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Role
from iron_bucket.desk.errors import NotAllowed, NotFound
from iron_bucket.desk.people.passwords import hashed, is_right, require_password
from iron_bucket.desk.people.person import Person, person_from
from iron_bucket.desk.people.signing_in import Device, SignedIn, begin, code_digest
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.crews import FIRST_CREW, CrewPersonRow
from iron_bucket.store.people import PersonRow, all_people, count_people, person_by_sign_in
from iron_bucket.store.sign_ins import CodeRow, end_codes, end_sign_ins

LONGEST_NAME = 80
CODE_STANDS_FOR = timedelta(days=7)
FIRST_ADMIN = "admin"
#: No letter that is taken for another: read out over a radio, written on a call sheet.
_LETTERS, _GROUPS, _GROUP_LETTERS = "ABCDEFGHJKMNPQRSTVWXYZ23456789", 5, 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Invitation:
    """``code`` sets a password once, until it expires; it is told now and never again."""

    person: Person
    code: str
    expires_at: datetime


def _checked(session: Session, name: str, sign_in: str) -> tuple[str, str]:
    name, sign_in = name.strip(), sign_in.strip()
    require_word("name", name, longest=LONGEST_NAME)
    require_word("sign_in", sign_in, longest=LONGEST_NAME)
    if person_by_sign_in(session, sign_in):
        raise BadValue("sign_in", repr(sign_in), "a sign-in nobody has yet")
    return name, sign_in


def _added(session: Session, name: str, sign_in: str, password_hash: str, *, is_admin: bool) -> PersonRow:
    row = PersonRow(
        name=name, sign_in=sign_in, password_hash=password_hash, created_at=now(), is_admin=is_admin, is_disabled=False
    )
    session.add(row)
    session.flush()
    return row


@one_transaction
def add_person(session: Session, *, name: str, sign_in: str, password: str) -> Person:
    """Somebody with a password at once. Raises: BadValue for an empty name, a taken sign-in or a weak password."""
    name, sign_in = _checked(session, name, sign_in)
    require_password(password, sign_in=sign_in, name=name)
    return person_from(_added(session, name, sign_in, hashed(password), is_admin=False))


@one_transaction
def invite(
    session: Session,
    by: int | None,
    *,
    name: str,
    sign_in: str,
    is_admin: bool = False,
    crew_id: int | None = None,
    role: Role = Role.TECHNICIAN,
) -> Invitation:
    """Somebody new, of a crew or of none yet, with a code to set their password by. Raises: BadValue."""
    name, sign_in = _checked(session, name, sign_in)
    row = _added(session, name, sign_in, "", is_admin=is_admin)
    if crew_id is not None:
        session.add(CrewPersonRow(crew_id=crew_id, person_id=row.id, role=role))
    tell(session, by, "people", f"added {name} ({sign_in}){', administrator' if is_admin else ''}")
    return _invitation(session, row)


def _invitation(session: Session, row: PersonRow) -> Invitation:
    at = now()
    end_codes(session, row.id, at)
    groups = ("".join(secrets.choice(_LETTERS) for _ in range(_GROUP_LETTERS)) for _ in range(_GROUPS))
    code, expires_at = "-".join(groups), at + CODE_STANDS_FOR
    session.add(CodeRow(digest=code_digest(code), person_id=row.id, made_at=at, expires_at=expires_at, used_at=None))
    return Invitation(person=person_from(row), code=code, expires_at=expires_at)


@one_transaction
def first_admin(session: Session) -> Invitation | None:
    """Of an installation where nobody can sign in yet, somebody who settles who may, gaffer of its first crew; None
    where there is anybody.
    """
    if count_people(session):
        return None
    row = _added(session, "Administrator", FIRST_ADMIN, "", is_admin=True)
    session.add(CrewPersonRow(crew_id=FIRST_CREW, person_id=row.id, role=Role.GAFFER))
    return _invitation(session, row)


@one_transaction
def reset_password(session: Session, by: int | None, person_id: int) -> Invitation:
    """A code by which somebody sets a new password; the old one and every sign-in end now. Raises: NotFound."""
    row = _person(session, person_id)
    row.password_hash = ""
    end_sign_ins(session, row.id, now())
    tell(session, by, "people", f"reset the password of {row.name} ({row.sign_in})")
    return _invitation(session, row)


@one_transaction
def standing_invitation(session: Session, code: str) -> Invitation:
    """What a code that was shown stands for still. Raises: NotAllowed for one that was used or replaced."""
    found = session.get(CodeRow, code_digest(code))
    if found is None or found.used_at is not None or found.expires_at < now():
        raise NotAllowed("this code was used or replaced; make a new one")
    person = person_from(session.get_one(PersonRow, found.person_id))
    return Invitation(person=person, code=code, expires_at=found.expires_at)


@one_transaction
def redeem(session: Session, code: str, password: str, device: Device) -> SignedIn:
    """Set a password by a code, and be signed in. Raises: NotAllowed for a code that stands for nothing; BadValue."""
    found = session.get(CodeRow, code_digest(code), with_for_update=True)
    row = session.get(PersonRow, found.person_id) if found else None
    if found is None or row is None or found.used_at is not None or found.expires_at < now() or row.is_disabled:
        raise NotAllowed("this code was used, has expired or never was; ask whoever gave it for another")
    require_password(password, sign_in=row.sign_in, name=row.name)
    row.password_hash, found.used_at = hashed(password), now()
    tell(session, row.id, "password", "set a password by a one-time code", device.address)
    return SignedIn(person=person_from(row), token=begin(session, row.id, device))


@one_transaction
def change_password(session: Session, person_id: int, old: str, new: str, device: Device) -> str:
    """Another password; every sign-in ends, and this device gets a new one, whose token is given. Raises: NotAllowed
    for a wrong old one; BadValue.
    """
    row = _person(session, person_id)
    if not is_right(old, row.password_hash):
        raise NotAllowed("that is not your password now")
    require_password(new, sign_in=row.sign_in, name=row.name)
    row.password_hash = hashed(new)
    end_sign_ins(session, row.id, now())
    tell(session, row.id, "password", "changed their password", device.address)
    return begin(session, row.id, device)


@one_transaction
def put_password(session: Session, sign_in: str, password: str) -> None:
    """For a program that prints it: somebody's password, whatever it is. Where it is another, every sign-in ends."""
    row = person_by_sign_in(session, sign_in)
    if row is not None and not is_right(password, row.password_hash):
        row.password_hash = hashed(password)
        end_sign_ins(session, row.id, now())


@one_transaction
def rename(session: Session, by: int | None, person_id: int, name: str) -> None:
    """Raises: NotFound, BadValue."""
    row = _person(session, person_id)
    require_word("name", name.strip(), longest=LONGEST_NAME)
    if row.name != name.strip():
        tell(session, by, "people", f"renamed {row.name} ({row.sign_in}) to {name.strip()}")
        row.name = name.strip()


@one_transaction
def disable(session: Session, by: int | None, person_id: int, *, is_disabled: bool) -> None:
    """Let somebody in no more, at once, or again. Raises: NotFound; NotAllowed for the last administrator."""
    row = _person(session, person_id)
    if is_disabled:
        require_other_admin(session, row)
        end_sign_ins(session, row.id, now())
        end_codes(session, row.id, now())
    row.is_disabled = is_disabled
    tell(session, by, "people", f"{'disabled' if is_disabled else 'let in again'}: {row.name} ({row.sign_in})")


@one_transaction
def make_admin(session: Session, by: int | None, person_id: int, *, is_admin: bool) -> None:
    """Make somebody administrator, or no longer. Raises: NotFound; NotAllowed for the last one."""
    row = _person(session, person_id)
    if not is_admin:
        require_other_admin(session, row)
    row.is_admin = is_admin
    word = "is administrator" if is_admin else "is no longer administrator"
    tell(session, by, "people", f"{row.name} ({row.sign_in}) {word}")


def require_other_admin(session: Session, row: PersonRow) -> None:
    """Somebody settles who may sign in. Raises: NotAllowed for the last administrator."""
    others = [each for each in all_people(session) if each.is_admin and not each.is_disabled and each.id != row.id]
    if row.is_admin and not others:
        raise NotAllowed("nobody would be left as administrator; make somebody else administrator first")


@one_transaction
def list_people(session: Session) -> tuple[Person, ...]:
    """By name, the disabled last."""
    return tuple(person_from(row) for row in all_people(session))


@one_transaction
def person_named(session: Session, sign_in: str) -> Person:
    """Who signs in so. Raises: NotFound."""
    row = person_by_sign_in(session, sign_in.strip())
    if row is None:
        raise NotFound(f"nobody signs in as {sign_in!r}")
    return person_from(row)


def _person(session: Session, person_id: int) -> PersonRow:
    row = session.get(PersonRow, person_id, with_for_update=True)
    if row is None:
        raise NotFound("there is nobody like that")
    return row
