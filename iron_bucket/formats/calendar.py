"""A day's order as iCalendar (RFC 5545), and a production's calendar back as times."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Component, Event

from iron_bucket.core.errors import BadValue
from iron_bucket.formats.errors import FormatError

LIMIT_BYTES = 1_000_000
MOST_EVENTS = 2000
_PRODUCT = "-//Iron Bucket//Days//EN"


@dataclass(frozen=True, slots=True, kw_only=True)
class CalendarEvent:
    """``uid`` stays the same for ever; ``start`` and ``end`` know their zone. ``stamp``: when it was last changed."""

    uid: str
    summary: str
    start: datetime
    end: datetime
    location: str = ""
    description: str = ""
    stamp: datetime | None = None

    def __post_init__(self) -> None:
        if self.start.tzinfo is None or self.end.tzinfo is None:
            raise BadValue("start", self.start.isoformat(), "a time with its zone")
        if self.end < self.start:
            raise BadValue("end", self.end.isoformat(), "no time before its start")


def calendar_bytes(name: str, events: Sequence[CalendarEvent]) -> bytes:
    """The file, with the zones that its times speak of."""
    found = Calendar()
    found.add("prodid", _PRODUCT)
    found.add("version", "2.0")
    found.add("x-wr-calname", name)
    for each in events:
        row = Event()
        row.add("uid", each.uid)
        row.add("dtstamp", (each.stamp or each.start).astimezone(UTC))
        row.add("dtstart", each.start)
        row.add("dtend", each.end)
        row.add("summary", each.summary)
        if each.location:
            row.add("location", each.location)
        if each.description:
            row.add("description", each.description)
        found.add_component(row)
    found.add_missing_timezones()
    return bytes(found.to_ical())


def read_calendar(data: bytes) -> tuple[CalendarEvent, ...]:
    """Every event with a time, of those that come again the first. Times without a zone are in UTC; whole days are left
    out. Raises: FormatError.
    """
    if len(data) > LIMIT_BYTES:
        raise FormatError("calendar", None, f"accepted: up to {LIMIT_BYTES // 1000:,} kB")
    try:
        rows = list(Calendar.from_ical(data).walk("VEVENT"))
    except (ValueError, KeyError, IndexError, TypeError, AttributeError) as bad:
        raise FormatError("calendar", None, "this is no iCalendar file (.ics)") from bad
    if len(rows) > MOST_EVENTS:
        raise FormatError("calendar", None, f"accepted: up to {MOST_EVENTS:,} events")
    try:
        events = [event for row in rows if (event := _event(row)) is not None]
    except (ValueError, KeyError, TypeError, AttributeError, BadValue) as bad:
        raise FormatError("calendar", None, f"an event cannot be read: {bad}") from bad
    if not events:
        raise FormatError("calendar", None, "there is no event with a time in it")
    return tuple(events)


def _event(row: Component) -> CalendarEvent | None:
    if "DTSTART" not in row:
        return None
    start = row.decoded("DTSTART")
    if isinstance(start, date) and not isinstance(start, datetime):
        return None
    end = row.decoded("DTEND") if "DTEND" in row else start + row.decoded("DURATION") if "DURATION" in row else start
    if not isinstance(end, datetime):
        end = start + timedelta(hours=1)
    return CalendarEvent(
        uid=str(row.get("UID", ""))[:200],
        summary=str(row.get("SUMMARY", ""))[:200],
        start=_zoned(start),
        end=max(_zoned(end), _zoned(start)),
        location=str(row.get("LOCATION", ""))[:200],
    )


def _zoned(when: datetime) -> datetime:
    return when if when.tzinfo else when.replace(tzinfo=UTC)
