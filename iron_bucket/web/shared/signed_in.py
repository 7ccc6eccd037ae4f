"""Pages for those who are signed in; everybody else is sent to the sign-in and comes back."""

from collections.abc import Callable
from typing import ParamSpec, TypeVar, cast

from flask_login import login_required

P = ParamSpec("P")
R = TypeVar("R")


def signed_in(route: Callable[P, R]) -> Callable[P, R]:
    """Flask-Login's guard with the types of what it guards."""
    return cast(Callable[P, R], login_required(route))
