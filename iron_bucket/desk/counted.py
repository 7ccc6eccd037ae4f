"""How far something long is, told now and then while it goes on."""

from collections.abc import Callable, Iterator, Sequence
from typing import TypeVar

T = TypeVar("T")
#: Told how many pieces of how many are done.
Tell = Callable[[int, int], None]
_EVERY = 100


def to_nobody(done: int, of: int) -> None:
    """Where nobody asks."""


def counted(pieces: Sequence[T], tell: Tell) -> Iterator[T]:
    """The same, one by one, told after every hundred."""
    for number, each in enumerate(pieces):
        if number % _EVERY == 0:
            tell(number, len(pieces))
        yield each
