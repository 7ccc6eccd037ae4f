"""Who is signed in where, how often it was tried, and the codes that stand for a password once."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import ForeignKey, String, delete, or_, select, text, update
from sqlalchemy.dialects.mysql import insert
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base
from iron_bucket.store.people import PersonRow


class SignInRow(Base):
    """One device of somebody's. Its token is with the device alone; here stands the digest."""

    __tablename__ = "sign_ins"

    id: Mapped[int] = mapped_column(primary_key=True)
    token_digest: Mapped[str] = mapped_column(String(64), unique=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), index=True)
    began_at: Mapped[datetime]
    seen_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]
    address: Mapped[str] = mapped_column(String(45))
    device: Mapped[str] = mapped_column(String(200))


class TryRow(Base):
    """How often somebody tried since a time. ``subject``: the digest of an account, a device or an address."""

    __tablename__ = "sign_in_tries"

    subject: Mapped[str] = mapped_column(String(64), primary_key=True)
    since: Mapped[datetime] = mapped_column(primary_key=True)
    count: Mapped[int]


class CodeRow(Base):
    """A code by which somebody sets a password, once, until it expires."""

    __tablename__ = "one_time_codes"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("people.id", ondelete="CASCADE"), index=True)
    made_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    used_at: Mapped[datetime | None]


def standing_sign_in(
    session: Session, token_digest: str, began_after: datetime, seen_after: datetime
) -> tuple[SignInRow, PersonRow] | None:
    """A sign-in that has not ended, with whose it is: one query."""
    query = (
        select(SignInRow, PersonRow)
        .join(PersonRow, PersonRow.id == SignInRow.person_id)
        .where(SignInRow.token_digest == token_digest, SignInRow.ended_at.is_(None))
        .where(SignInRow.began_at > began_after, SignInRow.seen_at > seen_after, PersonRow.is_disabled.is_(False))
    )
    found = session.execute(query).one_or_none()
    return (found[0], found[1]) if found else None


def sign_ins_of(session: Session, person_id: int, began_after: datetime, seen_after: datetime) -> list[SignInRow]:
    """Where somebody is signed in, the last used first."""
    query = select(SignInRow).where(SignInRow.person_id == person_id, SignInRow.ended_at.is_(None))
    query = query.where(SignInRow.began_at > began_after, SignInRow.seen_at > seen_after)
    return list(session.scalars(query.order_by(SignInRow.seen_at.desc(), SignInRow.id)))


def end_sign_in(session: Session, person_id: int, token_digest: str, at: datetime) -> None:
    """End one of somebody's, by its token."""
    this = (SignInRow.person_id == person_id, SignInRow.token_digest == token_digest)
    session.execute(update(SignInRow).where(*this).values(ended_at=at))


def end_sign_ins(session: Session, person_id: int, at: datetime, *, but: str = "", only: int | None = None) -> int:
    """End all of somebody's, all but the one with the digest ``but``, or the one numbered ``only``; gives how many."""
    wanted = [SignInRow.person_id == person_id, SignInRow.ended_at.is_(None), SignInRow.token_digest != but]
    wanted += [SignInRow.id == only] if only is not None else []
    ended = session.execute(update(SignInRow).where(*wanted).values(ended_at=at))
    return int(ended.rowcount)  # type: ignore[attr-defined]


def count_tries(session: Session, subjects: Sequence[str], since: datetime) -> list[int]:
    """Count one try more for each subject; gives how many each has now. In their order, so that two never wait for one
    another.
    """
    for subject in sorted(subjects):
        put = insert(TryRow).values(subject=subject, since=since, count=1)
        session.execute(put.on_duplicate_key_update(count=text("count + 1")))
    query = select(TryRow.subject, TryRow.count).where(TryRow.subject.in_(subjects), TryRow.since == since)
    counts: dict[str, int] = dict(session.execute(query).all())
    return [counts[subject] for subject in subjects]


def forget_tries(session: Session, subjects: Sequence[str]) -> None:
    """Somebody got in."""
    session.execute(delete(TryRow).where(TryRow.subject.in_(subjects)))


def end_codes(session: Session, person_id: int, at: datetime) -> None:
    """What was given out for somebody and not used yet stands for nothing any more."""
    session.execute(update(CodeRow).where(CodeRow.person_id == person_id, CodeRow.used_at.is_(None)).values(used_at=at))


def drop_old_sign_ins(session: Session, until: datetime) -> int:
    """Take away what has ended, and what was tried, before a time; gives how many rows went."""
    is_over = or_(SignInRow.ended_at < until, SignInRow.seen_at < until)
    old = (
        delete(SignInRow).where(is_over),
        delete(TryRow).where(TryRow.since < until),
        delete(CodeRow).where(CodeRow.expires_at < until),
    )
    return sum(int(session.execute(each).rowcount) for each in old)  # type: ignore[attr-defined,misc]
