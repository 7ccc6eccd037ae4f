"""``iron-bucket sun`` and ``iron-bucket moon``: where they stand, and the sun's hours of a day."""

from datetime import UTC, date, datetime
from functools import partial
from typing import Any

import click

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.refusal import plain_refusals, typed
from iron_bucket.core.daylight.moon import moon_position
from iron_bucket.core.daylight.sun import sun_position
from iron_bucket.core.daylight.sun_day import sun_day
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse as read

_HOURS = ("sunrise", "sunset", "civil_dawn", "civil_dusk", "nautical_dawn", "nautical_dusk")


def _time(text: str, name: str) -> datetime:
    """With its zone; one without is in UTC."""
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        raise BadValue(name, repr(text), "a time such as 2026-11-26T11:00:00Z") from None
    return found if found.tzinfo else found.replace(tzinfo=UTC)


def _day(text: str, name: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadValue(name, repr(text), "a day such as 2026-06-21") from None


_degrees = partial(read.signed, is_fine=True)
_lat = click.option("--lat", required=True, callback=typed("--lat", _degrees), help="Degrees, north above 0.")
_lon = click.option("--lon", required=True, callback=typed("--lon", _degrees), help="Degrees, east above 0.")


@click.command()
@_lat
@_lon
@click.option("--at", "when", callback=typed("--at", _time), help="A time, such as 2026-11-26T11:00:00Z.")
@click.option("--day", callback=typed("--day", _day), help="A day of the place's own sun, such as 2026-06-21.")
@json_option
def sun(lat: float, lon: float, when: datetime | None, day: date | None, as_json: bool) -> None:
    """Where the sun stands at a time, or when it rises and sets on a day."""
    with plain_refusals():
        if (when is None) == (day is None):
            raise BadValue("--at and --day", "both or neither", "one of the two")
        found: dict[str, Any]
        if when is not None:
            there = sun_position(when, latitude_deg=lat, longitude_deg=lon)
            found = {
                "azimuth_deg": there.azimuth_deg,
                "altitude_deg": there.altitude_deg,
                "apparent_altitude_deg": there.apparent_altitude_deg,
            }
        else:
            hours = sun_day(day or date.min, latitude_deg=lat, longitude_deg=lon)
            found = {name: _utc(getattr(hours, name)) for name in _HOURS}
    _say(found, as_json=as_json)


@click.command()
@_lat
@_lon
@click.option(
    "--at", "when", required=True, callback=typed("--at", _time), help="A time, such as 2026-11-26T11:00:00Z."
)
@json_option
def moon(lat: float, lon: float, when: datetime, as_json: bool) -> None:
    """Where the moon stands, and how much of it is lit."""
    with plain_refusals():
        there = moon_position(when, latitude_deg=lat, longitude_deg=lon)
    found = {
        "azimuth_deg": there.azimuth_deg,
        "altitude_deg": there.altitude_deg,
        "illuminated_share": there.illuminated_share,
    }
    _say(found, as_json=as_json)


def _utc(when: datetime | None) -> str | None:
    return when.isoformat(timespec="seconds").replace("+00:00", "Z") if when else None


def _say(found: dict[str, Any], *, as_json: bool) -> None:
    if as_json:
        print_json(found)
        return
    for name, value in found.items():
        shown = "never that day" if value is None else f"{value:.2f}" if isinstance(value, float) else value
        click.echo(f"{name.replace('_', ' '):24} {shown}")
