"""What a process keeps at hand so as not to compute it again: never more than so many, the longest unused go first."""

import threading
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

from cachetools import LRUCache

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class BoundedCache(Generic[K, V]):
    """Safe between threads. Keys are compared by value; what several ask for at once is computed once."""

    def __init__(self, most: int) -> None:
        self._kept: LRUCache[K, V] = LRUCache(maxsize=most)
        self._lock = threading.Lock()
        self._making: dict[K, threading.RLock] = {}

    def get(self, key: K) -> V | None:
        """What is at hand; None where it is not."""
        with self._lock:
            return self._kept.get(key)

    def put(self, key: K, value: V) -> None:
        """Keep it for the next."""
        with self._lock:
            self._kept[key] = value

    def get_or_make(self, key: K, make: Callable[[], V]) -> V:
        """What is at hand, or what ``make`` gives, kept for the next."""
        with self._lock:
            if key in self._kept:
                return self._kept[key]
            turn = self._making.setdefault(key, threading.RLock())
        with turn:
            with self._lock:
                if key in self._kept:
                    return self._kept[key]
            try:
                found = make()
                self.put(key, found)
            finally:
                with self._lock:
                    self._making.pop(key, None)
        return found

    def __len__(self) -> int:
        return len(self._kept)
