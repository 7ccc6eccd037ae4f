"""The people who sign in."""

from collections.abc import Collection
from datetime import datetime

from sqlalchemy import String, func, select
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base


class PersonRow(Base):
    """Somebody with a sign-in. ``password_hash`` is argon2's whole text, empty before a password was set.
    ``is_admin``: adds and disables people.
    """

    __tablename__ = "people"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    sign_in: Mapped[str] = mapped_column(String(80), unique=True)
    password_hash: Mapped[str] = mapped_column(String(200))
    created_at: Mapped[datetime]
    is_admin: Mapped[bool] = mapped_column(default=False, server_default="0")
    is_disabled: Mapped[bool] = mapped_column(default=False, server_default="0")


def person_by_sign_in(session: Session, sign_in: str) -> PersonRow | None:
    """Who signs in so, if anybody."""
    return session.scalars(select(PersonRow).where(PersonRow.sign_in == sign_in)).one_or_none()


def count_people(session: Session) -> int:
    """How many can sign in."""
    return session.scalar(select(func.count()).select_from(PersonRow)) or 0


def names_of(session: Session, numbers: Collection[int]) -> dict[int, str]:
    """Of some people, by their numbers: one query, none for nobody."""
    if not numbers:
        return {}
    query = select(PersonRow.id, PersonRow.name).where(PersonRow.id.in_(numbers))
    return {row.id: row.name for row in session.execute(query)}


def all_people(session: Session) -> list[PersonRow]:
    """By name."""
    return list(session.scalars(select(PersonRow).order_by(PersonRow.is_disabled, PersonRow.name, PersonRow.id)))
