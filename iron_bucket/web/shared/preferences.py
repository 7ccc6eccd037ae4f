"""What a person likes on this device: the light to work in, single keys or none, the units where no job says."""

from datetime import timedelta

from flask import Flask, current_app, g, request
from werkzeug.wrappers import Response

from iron_bucket.core.quantities.units import UnitSystem

LIGHTS = ("enamel", "dim")
#: Whether single keys do something on pages; those of a focused piece always do.
KEYS = ("on", "off")
KEPT_FOR = timedelta(days=365)


def attach(app: Flask) -> None:
    """Read the cookies before each request; a job's own units replace them when it is opened."""

    @app.before_request
    def read_preferences() -> None:
        light, units = request.cookies.get("light"), request.cookies.get("units")
        g.light = light if light in LIGHTS else LIGHTS[0]
        g.units = UnitSystem(units) if units in list(UnitSystem) else UnitSystem.METRIC
        keys = request.cookies.get("keys")
        g.keys = keys if keys in KEYS else KEYS[0]
        g.job = None


def keep(answer: Response, name: str, value: str) -> Response:
    """Set a preference's cookie on an answer."""
    answer.set_cookie(
        name, value, max_age=KEPT_FOR, samesite="Lax", httponly=True, secure=current_app.config["SESSION_COOKIE_SECURE"]
    )
    return answer
