"""Which pages take long."""

from collections.abc import Callable
from typing import TypeVar

from flask import Flask

F = TypeVar("F", bound=Callable[..., object])
_MARK = "is_heavy"


def heavy(view: F) -> F:
    """A page that is made in a process beside, where there is one (``web.beside``). Stands under the route."""
    setattr(view, _MARK, True)
    return view


def heavy_endpoints(app: Flask) -> frozenset[str]:
    """All of them."""
    return frozenset(name for name, view in app.view_functions.items() if getattr(view, _MARK, False))
