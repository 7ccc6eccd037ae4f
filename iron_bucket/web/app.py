"""The application factory."""

import gc
from datetime import timedelta
from pathlib import Path

from flask import Flask
from jinja2 import StrictUndefined
from sqlalchemy.orm import sessionmaker
from werkzeug.middleware.proxy_fix import ProxyFix

from iron_bucket.demo.sign_in import DEMO_PASSWORD
from iron_bucket.desk.hire import HireAnswers
from iron_bucket.desk.people.signing_in import SignInRules
from iron_bucket.devices.hire_desk import HttpHireDesk
from iron_bucket.devices.mail import SmtpPost
from iron_bucket.devices.weather import HttpWeather
from iron_bucket.formats.text_file import FILE_LIMIT_BYTES
from iron_bucket.store.engine import engine_for
from iron_bucket.store.one_connection import OneConnection
from iron_bucket.web import errors
from iron_bucket.web.settings import Settings
from iron_bucket.web.shared import closed_forms, display_filters, guards, measured, preferences, request_session, rights
from iron_bucket.web.shared.numbers import BoundedNumber
from iron_bucket.web.shared.outside import outside
from iron_bucket.web.stations import STATIONS

FORM_ROOM_BYTES = 100_000
#: A page makes tens of thousands of small things, and hardly any that hold each other.
RARER = 20_000, 20, 50


def create_app(settings: Settings) -> Flask:
    """Iron Bucket's pages. Holds no state of its own: everything is in the database."""
    app = Flask(__name__, static_folder=str(Path(__file__).parent / "static"))
    app.config.update(
        SECRET_KEY=settings.secret_key,
        MAX_CONTENT_LENGTH=FILE_LIMIT_BYTES + FORM_ROOM_BYTES,
        MAX_FORM_MEMORY_SIZE=FORM_ROOM_BYTES,
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=settings.is_https,
        SESSION_COOKIE_NAME="__Host-session" if settings.is_https else "session",
        PERMANENT_SESSION_LIFETIME=timedelta(days=settings.longest_days),
        TRUSTED_HOSTS=list(settings.hosts) or None,
        SEND_FILE_MAX_AGE_DEFAULT=timedelta(days=7),
        IS_DEMO=settings.is_demo,
        WTF_CSRF_TIME_LIMIT=None,
        ADDRESS=settings.address,
        METRICS_KEY=settings.metrics_key,
    )
    app.jinja_env.undefined = StrictUndefined
    app.url_map.converters["int"] = BoundedNumber
    app.jinja_env.trim_blocks = app.jinja_env.lstrip_blocks = True
    engine = engine_for(settings.database_url)
    app.extensions["engine"] = engine
    hire_desk = HttpHireDesk(address=settings.hire_desk_url) if settings.hire_desk_url else None
    app.extensions["hire_answers"] = HireAnswers(hire_desk)
    app.extensions["weather"] = HttpWeather(address=settings.weather_url) if settings.weather_url else None
    app.extensions["post"] = SmtpPost(url=settings.mail_url, sender=settings.mail_from) if settings.mail_url else None
    app.extensions["sign_in_rules"] = SignInRules(
        idle=timedelta(hours=settings.idle_hours),
        longest=timedelta(days=settings.longest_days),
        limit=settings.sign_in_limit,
        refused="" if settings.is_demo else DEMO_PASSWORD,
    )
    if settings.proxies:
        app.wsgi_app = ProxyFix(  # type: ignore[method-assign]
            app.wsgi_app, x_for=settings.proxies, x_proto=settings.proxies, x_host=settings.proxies
        )
    measured.attach(app)
    request_session.attach(app, sessionmaker(engine, class_=OneConnection, expire_on_commit=False))
    # A refused form still needs the light that its page is in.
    for piece in (preferences, guards, rights, closed_forms, display_filters, errors):
        piece.attach(app)
    for station in STATIONS:
        app.register_blueprint(station.blueprint)
    app.jinja_env.globals["outside"] = outside
    app.jinja_env.globals["style"] = app.jinja_env.get_template("shared/_style.html").module
    app.jinja_env.globals["rail_stops"] = [stop for station in STATIONS for stop in station.stops]
    return app


def warm_up(app: Flask) -> None:
    """Compile every template, so that no page has to; and let what stays for good not be searched for garbage again and
    again, a tenth of a second each time.
    """
    for name in app.jinja_env.list_templates(extensions=["html", "svg"]):
        app.jinja_env.get_template(name)
    gc.collect()
    gc.freeze()
    gc.set_threshold(*RARER)
