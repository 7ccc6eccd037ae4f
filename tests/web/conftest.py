import re
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime

import pytest
from flask.testing import FlaskClient
from sqlalchemy import event, select

from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.devices.weather.stand_in import StandInOffice
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.places import PlaceRow
from iron_bucket.store.setups import SetupRow
from iron_bucket.web.app import create_app
from iron_bucket.web.settings import Settings
from tests.database import SIGNED_IN, database_url, demo, engine, open_folder, session  # noqa: F401 - fixtures


class Browser:
    """Flask's client with what a browser does besides: it keeps the page's CSRF token and sends it along."""

    def __init__(self, client: FlaskClient) -> None:
        self.client, self.token = client, ""

    def get(self, address: str, **more):
        answer = _on_one_line(self.client.get(address, **more))
        found = re.search(r'name="csrf_token" value="([^"]+)"', answer.text) if answer.mimetype == "text/html" else None
        self.token = found[1] if found else self.token
        return answer

    def post(self, address: str, data: dict | None = None, *, as_swap: bool = False):
        headers = {"HX-Request-Type": "partial"} if as_swap else {}
        return _on_one_line(self.client.post(address, data={"csrf_token": self.token} | (data or {}), headers=headers))

    def sign_in(self, name: str = DEMO_SIGN_IN, password: str = DEMO_PASSWORD):
        self.get("/sign-in")
        return self.post("/sign-in", {"sign_in": name, "password": password})


def _on_one_line(answer):
    """Where a template breaks a line, a browser shows a space."""
    if answer.mimetype == "text/html":
        answer.set_data(re.sub(r"\n {4,}| {2,}", " ", answer.get_data(as_text=True)))
    return answer


@pytest.fixture
def within_a_minute(monkeypatch):
    """What is counted by the minute, or by the hour, begins no new one in between."""
    monkeypatch.setattr("iron_bucket.desk.throttle.now", lambda: datetime(2026, 11, 26, 9, 30, 30))


@pytest.fixture(scope="session")
def app(database_url):
    made = create_app(
        Settings(database_url=database_url, secret_key="x" * 32, is_demo=True, sign_in_limit="1000 per minute")
    )
    made.extensions["weather"] = StandInOffice()
    made.testing = False  # refusals are pages here as they are outside
    yield made
    made.extensions["engine"].dispose()


@pytest.fixture
def stranger(app, demo) -> Browser:
    return Browser(app.test_client())


_COOKIES: dict[str, str] = {}


@pytest.fixture
def gaffer(app, stranger) -> Browser:
    """Signed in on a device that the demo's rows bring along."""
    if not _COOKIES:
        signer = app.session_interface.get_signing_serializer(app)
        stranger.client.set_cookie("session", signer.dumps({"_user_id": SIGNED_IN, "_fresh": True}))
        stranger.get("/")
        _COOKIES.update(session=stranger.client.get_cookie("session").value, token=stranger.token)
    stranger.client.set_cookie("session", _COOKIES["session"])
    stranger.token = _COOKIES["token"]
    return stranger


@pytest.fixture
def count_queries(app):
    @contextmanager
    def counting() -> Iterator[list[str]]:
        seen: list[str] = []

        def note(connection, cursor, statement, *rest):
            seen.append(statement)

        event.listen(app.extensions["engine"], "before_cursor_execute", note)
        yield seen
        event.remove(app.extensions["engine"], "before_cursor_execute", note)

    return counting


@pytest.fixture
def at(demo) -> dict[str, int]:
    """Numbers of the metric job, its first set-up, the imperial job's, and the clock shop."""
    with demo.begin():
        metric, imperial = (
            demo.scalars(select(JobRow.id).where(JobRow.name == name)).one()
            for name in ("The Borrowed Minute", "Hands That Bind")
        )
        first, other = (
            demo.scalars(select(SetupRow.id).where(SetupRow.job_id == job).order_by(SetupRow.rank)).first()
            for job in (metric, imperial)
        )
        shop = demo.scalars(select(PlaceRow.id).where(PlaceRow.name == "Clock-repair shop")).one()
    return {"job": metric, "setup": first, "imperial": imperial, "other": other, "place": shop}
