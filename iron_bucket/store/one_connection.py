"""A session that keeps its connection from one transaction to the next."""

from typing import Any

from sqlalchemy import Connection, Engine
from sqlalchemy.orm import Session


class OneConnection(Session):
    """For a request, which runs several use cases: what they speak to is taken from the pool, and tried, once.

    ``bind``: an engine.
    """

    bind: Engine
    _kept: Connection | None = None

    def get_bind(self, *_asked: Any, **_more: Any) -> Connection:
        """The connection; taken when it is first needed."""
        if self._kept is None:
            self._kept = self.bind.connect()
        return self._kept

    def close(self) -> None:
        """Give it back."""
        super().close()
        if self._kept is not None:
            self._kept.close()
            self._kept = None
