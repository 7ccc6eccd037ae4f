"""Note a change with how things stood, undo it, do it again: the same for bench, jobs, places and set-ups."""

from collections.abc import Sequence
from dataclasses import dataclass, fields
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.transaction import now
from iron_bucket.store.history import KEEPERS, ChangeRow, Scope, drop_undone, first_undone, last_standing


@dataclass(frozen=True, slots=True, kw_only=True)
class Touch:
    """What a change touched: table and key, and how it stood before and after. None: it was not there."""

    table: str
    key: str | int
    before: dict[str, Any] | None
    after: dict[str, Any] | None


def record(
    session: Session,
    scope: Scope,
    person_id: int,
    text: str,
    touches: Sequence[Touch],
    *,
    slug: str = "",
    has_undone: bool = True,
) -> None:
    """Note a change, so that it can be told and undone. ``has_undone`` False: nothing waits to be redone."""
    if has_undone:
        drop_undone(session, scope)
    session.add(
        ChangeRow(
            scope=scope.kind,
            scope_number=scope.number,
            person_id=person_id,
            slug=slug,
            text=text[:300],
            touched=[{each.name: getattr(touch, each.name) for each in fields(touch)} for touch in touches],
            made_at=now(),
        )
    )


def step(session: Session, scope: Scope, *, is_back: bool) -> str | None:
    """Undo the last change of a scope, or do again the last that was undone; gives its text, None at either end.

    Raises: ChangedMeanwhile where somebody has changed what it touched since.
    """
    change = last_standing(session, scope) if is_back else first_undone(session, scope)
    if change is None:
        return None
    stood, will = ("after", "before") if is_back else ("before", "after")
    for touch in reversed(change.touched) if is_back else change.touched:
        keeper = KEEPERS[touch["table"]]
        # What was noted before this history was does not say how it stood afterwards.
        if stood in touch and keeper.state(session, touch["key"]) != touch[stood]:
            raise ChangedMeanwhile(
                f"“{change.text}” cannot be {'un' if is_back else 're'}done: somebody has changed the same thing since"
            )
        keeper.put_back(session, touch["key"], touch[will], now())
    change.undone_at = now() if is_back else None
    session.flush()
    return change.text
