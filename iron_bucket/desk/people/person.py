"""Somebody with a sign-in."""

from dataclasses import dataclass

from iron_bucket.store.people import PersonRow


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """``is_admin``: adds and disables people. ``has_password`` is False before the first one was set."""

    person_id: int
    name: str
    sign_in: str
    is_admin: bool = False
    is_disabled: bool = False
    has_password: bool = True


def person_from(row: PersonRow) -> Person:
    """As a page shows them."""
    return Person(
        person_id=row.id,
        name=row.name,
        sign_in=row.sign_in,
        is_admin=row.is_admin,
        is_disabled=row.is_disabled,
        has_password=bool(row.password_hash),
    )
