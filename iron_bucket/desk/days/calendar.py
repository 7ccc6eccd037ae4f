"""The days of a job as a calendar, and a call sheet's calendar that fixes their times."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session

from iron_bucket.core.power.job.shooting_day import JobPass, TimedPass
from iron_bucket.desk.days.edit import put_times, said_of_pass
from iron_bucket.desk.days.view import DaysView, OneDay, days_view, open_days
from iron_bucket.desk.jobs import require_job
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.calendar import CalendarEvent, calendar_bytes, read_calendar


@dataclass(frozen=True, slots=True, kw_only=True)
class CalendarTaken:
    """``fixed``: names of the passes that have their time from it now; ``unknown``: events that name none of them."""

    view: DaysView
    fixed: tuple[str, ...]
    unknown: tuple[str, ...]


def calendar_of(session: Session, person_id: int, job_id: int) -> bytes:
    """Every pass of every day. Raises: NotFound."""
    view = open_days(session, person_id, job_id)
    uid = require_uid(session, person_id, job_id)
    days = [day for day in map(view.day, view.days) if day is not None]
    events = [_event(view, one, each, uid) for one in days for each in one.passes]
    return calendar_bytes(view.power.job.name, events)


@one_transaction
def require_uid(session: Session, person_id: int, job_id: int) -> str:
    """The job's own for ever. Raises: NotFound."""
    return str(require_job(session, person_id, job_id).uid)


def _event(view: DaysView, one: OneDay, each: TimedPass, uid: str) -> CalendarEvent:
    setup, zone = each.of.setup, _zone(view, each.of)
    clock = one.shooting.clock
    holding = one.holdings[each.of.setup_id]
    light = "; ".join(f"{a:%H:%M} to {b:%H:%M}" for a, b in holding.spans)
    words = [f"Rig from {clock(each.rig_min):%H:%M}, gone at {clock(each.end_min):%H:%M}."]
    words += (
        [f"Its light holds {light}." if light else "Its light does not hold that day."] if not holding.is_free else []
    )
    row = next(row for row in view.power.contents.setups if row.id == each.of.setup_id)
    return CalendarEvent(
        uid=f"pass-{each.of.setup_id}@{uid}",
        summary=f"{setup.name}, {setup.width.value}",
        start=clock(each.shoot_min).replace(tzinfo=zone),
        end=clock(each.strike_min).replace(tzinfo=zone),
        location=each.of.place_name,
        description=" ".join(words),
        stamp=row.changed_at.replace(tzinfo=UTC),
    )


def _zone(view: DaysView, each: JobPass) -> ZoneInfo:
    return ZoneInfo(view.power.surroundings(each).place.time_zone)


@one_transaction
def take_calendar(session: Session, person_id: int, job_id: int, data: bytes) -> CalendarTaken:
    """Passes that an event means, by its id or by their name in its words, are shot at its time and fixed there.

    Raises: FormatError, NotFound.
    """
    events = read_calendar(data)
    view, uid = days_view(session, person_id, job_id), require_job(session, person_id, job_id).uid
    times: dict[int, datetime] = {}
    unknown = []
    for event in events:
        found = _meant(view, event, uid, taken=set(times))
        if found is None:
            unknown.append(event.summary or event.uid or "an event without a name")
        else:
            times[found.setup_id] = event.start.astimezone(_zone(view, found)).replace(
                tzinfo=None, second=0, microsecond=0
            )
    names = {each.setup_id: f"{each.setup.name}, {each.setup.width.value}" for each in view.power.passes}
    if times:
        pins = [row for setup_id in sorted(times) for row in said_of_pass(view.plan, setup_id, is_pinned=True)]
        many = f"{len(times)} pass{'es' if len(times) != 1 else ''}"
        view = put_times(session, person_id, job_id, times, f"fixed {many} by a calendar", pins)
    return CalendarTaken(view=view, fixed=tuple(names[each] for each in times), unknown=tuple(unknown))


def _meant(view: DaysView, event: CalendarEvent, uid: str, taken: set[int]) -> JobPass | None:
    """By its id; else the first pass whose name and width, else whose name alone, stands in its words."""
    passes = [each for each in view.power.passes if each.setup_id not in taken]
    words = event.summary.casefold()
    ways: tuple[Callable[[JobPass], bool], ...] = (
        lambda each: event.uid == f"pass-{each.setup_id}@{uid}",
        lambda each: each.setup.name.casefold() in words and each.setup.width.value in words,
        lambda each: each.setup.name.casefold() in words,
    )
    for fits in ways:
        found = next((each for each in passes if fits(each)), None)
        if found is not None:
            return found
    return None
