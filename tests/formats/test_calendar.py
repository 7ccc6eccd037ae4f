"""iCalendar out and in: zones, stable ids, daylight saving; and what is none."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.formats.calendar import CalendarEvent, calendar_bytes, read_calendar
from iron_bucket.formats.errors import FormatError


def an_event(zone: str = "Europe/Amsterdam", **changes) -> CalendarEvent:
    begins = datetime(2026, 11, 26, 11, 0, tzinfo=ZoneInfo(zone))
    made = {"uid": "pass-1@x", "summary": "At the bench, wide", "start": begins, "end": begins + timedelta(hours=1)}
    return CalendarEvent(**(made | changes))


@pytest.mark.parametrize(
    "zone", ["Europe/Amsterdam", "Asia/Kathmandu", "Australia/Lord_Howe", "America/St_Johns", "UTC", "Etc/GMT-1"]
)
@pytest.mark.parametrize("month", [1, 3, 7, 10])
def test_what_goes_out_comes_in_at_the_same_moment(zone, month):
    begins = datetime(2026, month, 29, 2, 30, tzinfo=ZoneInfo(zone))
    event = an_event(zone, start=begins, end=begins + timedelta(minutes=75), location="Shop; by the “door”, left")
    (back,) = read_calendar(calendar_bytes("The film", [event]))
    assert (back.uid, back.summary, back.location) == (event.uid, event.summary, event.location)
    there = [(each.start.astimezone(UTC), each.end.astimezone(UTC)) for each in (back, event)]
    assert there[0] == there[1]  # at 2:30 of a night that has none, too


def test_the_file_is_rfc_5545_and_the_same_each_time():
    text = calendar_bytes("The film", [an_event(description="Rig from 10:00, gone at 12:35." * 4)])
    assert text == calendar_bytes("The film", [an_event(description="Rig from 10:00, gone at 12:35." * 4)])
    lines = text.split(b"\r\n")
    assert lines[0] == b"BEGIN:VCALENDAR"
    assert b"VERSION:2.0" in lines
    assert b"BEGIN:VTIMEZONE" in lines
    assert b"DTSTART;TZID=Europe/Amsterdam:20261126T110000" in lines
    assert b"DTSTAMP:20261126T100000Z" in lines
    assert b"UID:pass-1@x" in lines
    assert max(map(len, lines)) <= 75


OTHER = b"""BEGIN:VCALENDAR\r
VERSION:2.0\r
PRODID:-//a production//EN\r
%s
END:VCALENDAR\r
"""


def rows(*lines: str) -> bytes:
    return OTHER % "\r\n".join(["BEGIN:VEVENT", "UID:u", *lines, "END:VEVENT"]).encode()


def test_a_production_writes_times_in_other_ways():
    for lines, minutes in (
        (("DTSTART:20261126T100000Z", "DURATION:PT90M"), 90),
        (("DTSTART:20261126T100000", "DTEND:20261126T104500"), 45),
        (("DTSTART:20261126T100000Z",), 0),
        (("DTSTART:20261126T100000Z", "DTEND:20261126T090000Z"), 0),
    ):
        (event,) = read_calendar(rows("SUMMARY:Bench", *lines))
        assert event.start == datetime(2026, 11, 26, 10, 0, tzinfo=UTC)
        assert event.end - event.start == timedelta(minutes=minutes)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "no iCalendar file|no event with a time"),
        (b"rubbish", "no iCalendar file"),
        (OTHER % b"", "no event with a time"),
        (rows("SUMMARY:Day off", "DTSTART;VALUE=DATE:20261126"), "no event with a time"),
        (rows("SUMMARY:x", "DTSTART:yesterday"), "cannot be read|no event with a time|no iCalendar"),
        (b" " * 1_000_001, "up to 1,000 kB"),
    ],
)
def test_what_is_no_calendar(data, words):
    with pytest.raises(FormatError, match=words):
        read_calendar(data)
    for wrong in ({"start": datetime(2026, 1, 1)}, {"end": datetime(2026, 1, 1, tzinfo=UTC)}):
        with pytest.raises(BadValue):
            an_event(**wrong)
