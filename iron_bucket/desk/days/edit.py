"""Change the days of a job: its hours and rules, what is fixed, and when each pass is shot. All of it can be undone."""

from collections.abc import Callable, Mapping
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.days.day_plan import DayPlan, PlannedDay
from iron_bucket.core.days.order import DayOrder
from iron_bucket.core.days.ordering import DaySchool
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.desk.days.view import DaysView, OneDay, days_scope, days_view
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch, record, step
from iron_bucket.desk.job_contents import kept_days
from iron_bucket.desk.jobs import require_job
from iron_bucket.desk.setups.edit import put_changes
from iron_bucket.desk.setups.view import read_setup
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.change_json import Outdated, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.days import DayPlanRow, day_plan_row
from iron_bucket.store.history import row_state

Row = dict[str, Any]


@one_transaction
def change_days(session: Session, person_id: int, job_id: int, changes: list[Row], text: str) -> DaysView:
    """What is said of the days, or nothing of it. Raises: NotFound, BadValue, ChangedMeanwhile."""
    require_job(session, person_id, job_id)
    record(session, days_scope(job_id), person_id, text, [_put_plan(session, job_id, changes)])
    session.flush()
    return days_view(session, person_id, job_id)


@one_transaction
def put_days(session: Session, person_id: int, job_id: int, changes: list[Row]) -> None:
    """What is said of a job's days to begin with: nothing that could be undone."""
    require_job(session, person_id, job_id)
    _put_plan(session, job_id, changes)


def _put_plan(session: Session, job_id: int, changes: list[Row]) -> Touch:
    row = day_plan_row(session, job_id, is_locked=True)
    before = row_state(row) if row else None
    try:
        old = kept_days(row.document) if row else DayPlan()
        plan = read_record(DayPlan, with_changes(write_record(old), changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    if row is None:
        row = DayPlanRow(job_id=job_id, document={}, version=0, changed_at=now())
        session.add(row)
    row.document, row.version, row.changed_at = write_record(plan), row.version + 1, now()
    session.flush()
    return Touch(table="day_plans", key=job_id, before=before, after=row_state(row))


def said_of_pass(plan: DayPlan, setup_id: int, **fields: bool) -> list[Row]:
    """A change of what is said of one pass."""
    known = any(each.setup_id == setup_id for each in plan.passes)
    if known:
        return [{"operation": "set", "where": "passes", "piece_id": f"pass-{setup_id}", "to": fields}]
    return [{"operation": "add", "where": "passes", "to": write_record(plan.of_pass(setup_id)) | fields}]


def said_of_day(plan: DayPlan, day: date, to: Row, was: Row) -> list[Row]:
    """A change of the hours of one day."""
    name = f"day-{day.isoformat()}"
    if plan.day(day):
        return [{"operation": "set", "where": "days", "piece_id": name, "to": to, "was": was}]
    return [
        {"operation": "add", "where": "days", "to": write_record(PlannedDay(piece_id=name, day=day.isoformat())) | to}
    ]


@one_transaction
def shoot_at(session: Session, person_id: int, job_id: int, setup_id: int, when: datetime, was: str = "") -> DaysView:
    """One pass at another hour; everything else stays. Raises: NotFound, ChangedMeanwhile."""
    found = read_setup(session, person_id, job_id, setup_id, locked=True)
    if was and found.setup.when.isoformat(timespec="minutes") != was[:16]:
        raise ChangedMeanwhile(
            f"{found.setup.name} was put at {found.setup.when:%H:%M} meanwhile; here is how the day stands now"
        )
    text = f"{found.setup.name}, {found.setup.width.value} at {when:%H:%M}"
    return put_times(session, person_id, job_id, {setup_id: when}, text)


@one_transaction
def take_order(session: Session, person_id: int, job_id: int, day: date, named: str) -> DaysView:
    """A whole day in another order: the cheapest, or that of a school. Raises: NotFound, BadValue."""
    view = days_view(session, person_id, job_id)
    one = view.day(day)
    if one is None:
        raise NotFound("nothing is shot on that day")
    orders: Mapping[str, Callable[[], DayOrder]] = {
        "best": lambda: one.best.order,
        **{school.value: (lambda school=school: one.schools[school]) for school in DaySchool},  # type: ignore[misc]
    }
    if named not in orders:
        raise BadValue("order", repr(named), ", ".join(orders))
    text = "ordered the day" if named == "best" else f"ordered the day {named}"
    return _laid(session, person_id, job_id, one, orders[named](), text)


@one_transaction
def move_pass(session: Session, person_id: int, job_id: int, setup_id: int, *, is_earlier: bool) -> DaysView:
    """One pass before the one that is shot before it, or after the next; the day is laid out anew around what is fixed.

    Raises: NotFound, NoAnswer at either end.
    """
    one = days_view(session, person_id, job_id).day_with(setup_id)
    at = [each.of.setup_id for each in one.passes].index(setup_id)
    to = at - 1 if is_earlier else at + 1
    if not 0 <= to < len(one.passes):
        raise NoAnswer("It is the first of the day." if is_earlier else "It is the last of the day.")
    return _moved(session, person_id, job_id, one, at, to)


@one_transaction
def put_pass(session: Session, person_id: int, job_id: int, setup_id: int, place: int) -> DaysView:
    """One pass to a place of its day, the first is 0. Raises: NotFound; BadValue beyond the day."""
    one = days_view(session, person_id, job_id).day_with(setup_id)
    if not 0 <= place < len(one.passes):
        raise BadValue("place", repr(place + 1), f"1 to {len(one.passes)}")
    at = [each.of.setup_id for each in one.passes].index(setup_id)
    return _moved(session, person_id, job_id, one, at, place)


def _moved(session: Session, person_id: int, job_id: int, one: OneDay, at: int, to: int) -> DaysView:
    """Between others, by their places; the others keep their order."""
    order = list(range(len(one.passes)))
    order.insert(to, order.pop(at))
    names = one.names()
    moved, beside = (names[one.passes[place].of.setup_id] for place in (at, to))
    text = f"moved {moved} {'before' if to < at else 'behind'} {beside}"
    return _laid(session, person_id, job_id, one, one.to_order.laid(order), text)


def _laid(session: Session, person_id: int, job_id: int, one: OneDay, order: DayOrder, text: str) -> DaysView:
    times = {each.shot.shot_id: one.midnight + timedelta(minutes=each.shoot_min) for each in order.placed}
    return put_times(session, person_id, job_id, times, text)


def put_times(
    session: Session,
    person_id: int,
    job_id: int,
    times: Mapping[int, datetime],
    text: str,
    said: list[Row] | None = None,
) -> DaysView:
    """Each pass at its hour and what is said of the days, as one step that can be undone, within an open
    transaction.
    """
    touches = [_put_plan(session, job_id, said)] if said else []
    for setup_id in sorted(times):
        found = read_setup(session, person_id, job_id, setup_id, locked=True)
        if found.setup.when != times[setup_id]:
            to = {"when": times[setup_id].isoformat(timespec="minutes")}
            touches.append(put_changes(found, [{"operation": "set", "to": to}])[0])
    if touches:
        record(session, days_scope(job_id), person_id, text, touches)
    session.flush()
    return days_view(session, person_id, job_id)


@one_transaction
def step_days(session: Session, person_id: int, job_id: int, number: int, *, is_back: bool) -> DaysView:
    """Undo or redo one step. Raises: NotFound, ChangedMeanwhile."""
    require_job(session, person_id, job_id)
    step(session, days_scope(job_id), person_id, number, is_back=is_back)
    return days_view(session, person_id, job_id)
