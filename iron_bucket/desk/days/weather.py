"""The weather of the days: asked of an office, kept with the job, and forgotten again."""

from datetime import date, datetime
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.days.weather import Forecast, forecast_id
from iron_bucket.desk.days.edit import change_days
from iron_bucket.desk.days.view import DaysView, days_view
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.devices.weather import WeatherOffice
from iron_bucket.formats.record_json import write_record


def ask_weather(
    session: Session, person_id: int, job_id: int, day: date, office: WeatherOffice, asked_at: datetime
) -> DaysView:
    """Of every place of a day, all of it or nothing. The office is asked outside the transaction: it may be slow.

    Raises: NotFound, WeatherTrouble.
    """
    view = _view(session, person_id, job_id)
    one = view.day(day)
    if one is None:
        raise NotFound("nothing is shot on that day")
    told = []
    for place_id in dict.fromkeys(each.of.place_id for each in one.passes):
        place = view.power.contents.places[place_id].place
        hours = office.hours(day, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg)
        told.append(
            Forecast(
                piece_id=forecast_id(place_id, day.isoformat()),
                place_id=place_id,
                day=day.isoformat(),
                hours=hours,
                told_at=asked_at.isoformat(timespec="minutes"),
            )
        )
    known = {each.piece_id for each in view.plan.forecasts}
    changes: list[dict[str, Any]] = [
        {"operation": "remove", "where": "forecasts", "piece_id": each.piece_id}
        for each in told
        if each.piece_id in known
    ]
    changes += [{"operation": "add", "where": "forecasts", "to": write_record(each)} for each in told]
    return change_days(session, person_id, job_id, changes, f"asked for the weather of {day:%-d %b}")


def forget_weather(session: Session, person_id: int, job_id: int, day: date) -> DaysView:
    """The sky of the set-ups again. Raises: NotFound."""
    view = _view(session, person_id, job_id)
    changes = [
        {"operation": "remove", "where": "forecasts", "piece_id": each.piece_id}
        for each in view.plan.forecasts
        if each.day == day.isoformat()
    ]
    if not changes:
        return view
    return change_days(session, person_id, job_id, changes, f"forgot the weather of {day:%-d %b}")


@one_transaction
def _view(session: Session, person_id: int, job_id: int) -> DaysView:
    return days_view(session, person_id, job_id)
