"""One transaction for one use case, tried once more where the database asks for it."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from functools import update_wrapper
from typing import Concatenate, ParamSpec, TypeVar

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from iron_bucket.store.trouble import DatabaseTrouble, database_trouble

P = ParamSpec("P")
R = TypeVar("R")

_WHOLE, _ADDRESS = "use cases are part of one transaction", "address of the database"


def one_transaction(use_case: Callable[Concatenate[Session, P], R]) -> Callable[Concatenate[Session, P], R]:
    """Run a use case between begin and commit; a deadlock is tried once more, anything else is rolled back and raised.

    Within ``all_or_nothing`` it is a part of that transaction.
    """

    def run(session: Session, *args: P.args, **kwargs: P.kwargs) -> R:
        if session.info.get(_WHOLE):
            return use_case(session, *args, **kwargs)
        try:
            with session.begin():
                return use_case(session, *args, **kwargs)
        except OperationalError as trouble:
            if database_trouble(trouble) is not DatabaseTrouble.BUSY:
                raise
        with session.begin():
            return use_case(session, *args, **kwargs)

    update_wrapper(run, use_case)
    return run  # type: ignore[return-value]


@contextmanager
def all_or_nothing(session: Session) -> Iterator[None]:
    """Several use cases in one transaction."""
    with session.begin():
        session.info[_WHOLE] = True
        try:
            yield
            session.flush()
        finally:
            del session.info[_WHOLE]


def database_address(session: Session) -> str:
    """Which database it speaks to: a process may serve several, and what is kept of one is not the other's."""
    if _ADDRESS not in session.info:
        session.info[_ADDRESS] = str(session.get_bind().engine.url)
    return str(session.info[_ADDRESS])


def now() -> datetime:
    """UTC without its zone, as the tables keep it."""
    return datetime.now(UTC).replace(tzinfo=None)
