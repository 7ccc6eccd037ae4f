"""Independent pieces of bulk work on two threads: numpy and our kernels let go of the interpreter's lock."""

from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

T = TypeVar("T")
R = TypeVar("R")
#: More would only wait for memory, and for each other where several people ask.
WORKERS = 2


def in_threads(work: Callable[[T], R], over: Iterable[T]) -> list[R]:
    """What the work gives of each, in their order. Raises: what it raises, of the first that does."""
    with ThreadPoolExecutor(WORKERS) as pool:
        return list(pool.map(work, over))
