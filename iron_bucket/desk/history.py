"""Note a change with how things stood, undo it, do it again, bring an earlier state back: the same for bench, jobs,
places and set-ups.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Act, Role, may, refusal
from iron_bucket.desk.errors import ChangedMeanwhile, NotAllowed
from iron_bucket.desk.transaction import now
from iron_bucket.store.gear_uses import gear_uses
from iron_bucket.store.history import (
    KEEPERS,
    ChangeRow,
    EntryKind,
    Scope,
    change_in,
    drop_undone,
    first_undone,
    last_standing,
    last_step_of,
)
from iron_bucket.store.jobs import role_on_job
from iron_bucket.store.states import State, Step, keep_states, states_by_digest


@dataclass(frozen=True, slots=True, kw_only=True)
class Touch:
    """What a change touched: table and key, and how it stood before and after. None: it was not there."""

    table: str
    key: str | int
    before: State | None
    after: State | None


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
    _enter(session, scope, person_id, text, touches, slug=slug)


def note(session: Session, scope: Scope, person_id: int, text: str) -> None:
    """Tell of what cannot be undone here."""
    _enter(session, scope, person_id, text, (), kind=EntryKind.NOTE)


def _enter(
    session: Session,
    scope: Scope,
    person_id: int,
    text: str,
    touches: Sequence[Touch],
    *,
    slug: str = "",
    kind: EntryKind = EntryKind.CHANGE,
    of: ChangeRow | None = None,
) -> None:
    made_at = now()
    kept = keep_states(session, [Step(touch.before, touch.after) for touch in touches], made_at)
    session.add(
        ChangeRow(
            scope=scope.kind,
            scope_number=scope.number,
            person_id=person_id,
            slug=slug,
            text=text[:300],
            kind=kind,
            of_id=of.id if of else None,
            touched=[
                {"table": touch.table, "key": touch.key, "before": before, "after": after}
                for touch, (before, after) in zip(touches, kept, strict=True)
            ],
            made_at=made_at,
        )
    )


def read_touches(session: Session, entries: Iterable[ChangeRow]) -> dict[int, list[dict[str, Any]]]:
    """What some entries touched with its states, by their numbers: one query. States thinned out are missing."""
    entries = list(entries)
    ends = ("before", "after")
    digests = {
        touch[end] for entry in entries for touch in entry.touched for end in ends if isinstance(touch.get(end), str)
    }
    states = states_by_digest(session, digests)

    def read(touch: dict[str, Any]) -> dict[str, Any]:
        found = dict(touch)
        for end in ends:
            if isinstance(touch.get(end), str):
                found[end] = states.get(touch[end])
                if found[end] is None:
                    del found[end]
        return found

    return {entry.id: [read(touch) for touch in entry.touched] for entry in entries}


def step(session: Session, scope: Scope, person_id: int, number: int, *, is_back: bool) -> str:
    """Undo a change, or do it again; gives its text. ``number``: of the change that whoever asks saw as the last one.

    Asked twice it is done once. It is an entry of its own. Raises: ChangedMeanwhile where that is no longer the last
    change, or somebody has changed what it touched since; NotAllowed for a job put away, by who may not settle it.
    """
    change = last_standing(session, scope) if is_back else first_undone(session, scope)
    if change is None or change.id != number:
        return _done_already(session, scope, person_id, number, is_back=is_back)
    undone = None if is_back else last_step_of(session, change)
    taken_back = undone or change  # doing again takes back what undoing did, which may have kept something
    stood, will = ("after", "before") if is_back or undone else ("before", "after")
    rows = read_touches(session, [taken_back])[taken_back.id]
    for touch in rows:
        # What was noted before this history was does not say how it stood afterwards.
        if stood in touch and KEEPERS[touch["table"]].state(session, touch["key"]) != touch[stood]:
            raise ChangedMeanwhile(
                f"“{change.text}” cannot be {'un' if is_back else 're'}done: somebody has changed the same thing since"
            )
    touches, told = _put(session, reversed(rows) if is_back or undone else rows, will, change.text)
    _require_settling(session, person_id, touches)
    change.undone_at = now() if is_back else None
    _enter(
        session,
        scope,
        person_id,
        f"{'undid' if is_back else 'did again'}: {change.text}",
        touches,
        slug=change.slug,
        kind=EntryKind.UNDO if is_back else EntryKind.REDO,
        of=change,
    )
    session.flush()
    return change.text + told


def _put(session: Session, rows: Iterable[dict[str, Any]], end: str, text: str) -> tuple[list[Touch], str]:
    """Rows made what they were at one end of a change, and what has to be told of it.

    Gear that stands somewhere does not go: it is retired. Raises: BadValue where a state was thinned out.
    """
    rows = list(rows)
    if any(end not in touch for touch in rows):
        raise BadValue("that", f"how it stood at “{text}”", "what was done within the last 90 days")
    uses = gear_uses(session, [touch["key"] for touch in rows if touch["table"] == "gear" and touch[end] is None])
    touches = []
    for touch in rows:
        keeper, key, wanted = KEEPERS[touch["table"]], touch["key"], touch[end]
        stands = keeper.state(session, key)
        if touch["table"] == "gear" and key in uses and stands is not None:
            wanted = stands | {"item": stands["item"] | {"is_retired": True}}
        if stands != wanted:
            keeper.put_back(session, key, wanted, now())
            touches.append(Touch(table=touch["table"], key=key, before=stands, after=wanted))
    where = list(dict.fromkeys(each for places in uses.values() for each in places))
    if not where:
        return touches, ""
    also = f" and {len(where) - 1} more" if len(where) > 1 else ""
    return touches, f"; it stands in {where[0]}{also}, so it stays on the bench as retired"


def _require_settling(session: Session, person_id: int, touches: Sequence[Touch]) -> None:
    """A job is put away, and taken out again, by who settles that, by whatever way. Raises: NotAllowed."""
    for touch in touches:
        if touch.table == "jobs" and _is_away(touch.before) is not _is_away(touch.after):
            found = role_on_job(session, int(touch.key), person_id)
            role = Role(found[0]) if found else Role.VIEWER
            if not may(role, Act.SETTLE):
                raise NotAllowed(refusal(role, Act.SETTLE))


def _is_away(state: State | None) -> bool:
    return state is None or bool(state["is_archived"])


def _done_already(session: Session, scope: Scope, person_id: int, number: int, *, is_back: bool) -> str:
    """A key pressed twice: this person has done it a moment ago."""
    asked = change_in(session, scope, number)
    last = last_step_of(session, asked) if asked else None
    if asked is None or last is None or last.person_id != person_id or (asked.undone_at is not None) is not is_back:
        text = f"“{asked.text}”" if asked else "that"
        word = "the last change" if is_back else "the last that was undone"
        raise ChangedMeanwhile(f"{text} is not {word} any more; here is how it stands now")
    return asked.text


def bring_back(session: Session, scope: Scope, person_id: int, entry: ChangeRow) -> str:
    """Make what an entry touched as it was after it, whatever came since; a change like any other, of ``scope``. Gives
    its text.

    Raises: BadValue where that state was thinned out.
    """
    touches, told = _put(session, read_touches(session, [entry])[entry.id], "after", entry.text)
    _require_settling(session, person_id, touches)
    if touches:
        record(session, scope, person_id, f"brought back how it stood after “{entry.text}”", touches, slug=entry.slug)
    session.flush()
    return entry.text + told
