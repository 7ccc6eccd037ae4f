"""The weather of a day: asked of the office, or forgotten."""

from datetime import UTC, datetime

from flask import current_app, g

from iron_bucket.core.errors import NoAnswer
from iron_bucket.desk.days.view import DaysView, open_days
from iron_bucket.desk.days.weather import ask_weather, forget_weather
from iron_bucket.devices.weather import WeatherTrouble
from iron_bucket.web.days.blueprint import bp
from iron_bucket.web.days.day_routes import Answer, asked_day, changed_page
from iron_bucket.web.shared.request_session import person_id


@bp.post("/weather/<any(ask,forget):way>")
def weather(job_id: int, way: str) -> Answer:
    """Of every place of the day. Where nobody answers everything stays as it is, and the page says so."""

    def change() -> DaysView:
        view = open_days(g.session, person_id(), job_id)
        one = view.day(asked_day())
        if one is None:
            raise NoAnswer("Nothing is shot on that day.")
        if way == "forget":
            return forget_weather(g.session, person_id(), job_id, one.day)
        office = current_app.extensions["weather"]
        if office is None:
            raise NoAnswer("No weather office is set: the sky is that of the set-ups.")
        try:
            return ask_weather(g.session, person_id(), job_id, one.day, office, datetime.now(UTC))
        except WeatherTrouble as trouble:
            raise NoAnswer(f"The weather stays as it was: {trouble}.") from trouble

    return changed_page(job_id, change)
