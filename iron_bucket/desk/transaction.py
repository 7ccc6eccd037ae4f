"""One transaction for one use case, tried once more where the database asks for it."""

from collections.abc import Callable
from datetime import UTC, datetime
from functools import wraps
from typing import Concatenate, ParamSpec, TypeVar

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

P = ParamSpec("P")
R = TypeVar("R")

#: MariaDB: deadlock found, lock wait timed out, record changed since read (also what a cluster's certification says).
_TRY_AGAIN = {1213, 1205, 1020}


def one_transaction(use_case: Callable[Concatenate[Session, P], R]) -> Callable[Concatenate[Session, P], R]:
    """Run a use case between begin and commit; a deadlock is tried once more, anything else is rolled back and raised."""

    @wraps(use_case)
    def run(session: Session, *args: P.args, **kwargs: P.kwargs) -> R:
        try:
            with session.begin():
                return use_case(session, *args, **kwargs)
        except OperationalError as trouble:
            if trouble.orig is None or trouble.orig.args[0] not in _TRY_AGAIN:
                raise
        with session.begin():
            return use_case(session, *args, **kwargs)

    return run


def now() -> datetime:
    """UTC without its zone, as the tables keep it."""
    return datetime.now(UTC).replace(tzinfo=None)
