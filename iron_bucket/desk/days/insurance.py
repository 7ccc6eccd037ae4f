"""A pass at another hour: what replaces its light, what keeps the sun out, or how it reads as night; kept ready, and
brought only when asked.
"""

from dataclasses import replace
from datetime import datetime
from enum import StrEnum

from sqlalchemy.orm import Session

from iron_bucket.core.days.day_for_night import DayForNight, day_for_night
from iron_bucket.core.days.insurance import Insurance, insurance
from iron_bucket.core.days.sun_out import SunOut, sun_out
from iron_bucket.core.power.job.shooting_day import day_of
from iron_bucket.core.setups.plan.changes import Change, changed
from iron_bucket.core.setups.suggest.feeds import best_feed, feed_named
from iron_bucket.desk.bench import shelf_in
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.setups.kept import kept_response
from iron_bucket.desk.setups.passes import added_setup, room_for_one
from iron_bucket.desk.setups.view import SetupView, get_setup, read_setup, setup_view
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.setups import make_room_after


@one_transaction
def open_insurance(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime
) -> tuple[SetupView, Insurance]:
    """What replaces the light of a pass at another hour. Raises: NotFound, NoAnswer."""
    return _insurance(session, person_id, job_id, setup_id, at)


def _insurance(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime
) -> tuple[SetupView, Insurance]:
    opened = read_setup(session, person_id, job_id, setup_id)
    view = setup_view(session, opened)
    forecast = opened.contents.days.forecast(view.place_id, day_of(view.setup))
    feed_id = best_feed(view.now, view.board)
    found = insurance(
        view.now.lit,
        at,
        shelf_in(session).packed,
        view.now.gear,
        view.now.rules,
        kept_response,
        feed=feed_named(view.now, view.board, feed_id),
        feed_id=feed_id,
        bucket=view.bucket,
        sky=forecast.sky(at, view.setup.weather) if forecast else None,
    )
    return view, found


@one_transaction
def open_sun_out(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime
) -> tuple[SetupView, SunOut | None]:
    """What keeps the sun off a pass at another hour; None where it falls on nobody then. Raises: NotFound."""
    return _sun_out(session, person_id, job_id, setup_id, at)


def _sun_out(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime
) -> tuple[SetupView, SunOut | None]:
    view = setup_view(session, read_setup(session, person_id, job_id, setup_id))
    now = view.now
    return view, sun_out(now.lit, at, now.gear, now.rules, kept_response, bucket=view.bucket)


@one_transaction
def open_day_for_night(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime
) -> tuple[SetupView, DayForNight]:
    """A pass shot at another hour as if it were night. Raises: NotFound, NoAnswer."""
    return _day_for_night(session, person_id, job_id, setup_id, at)


def _day_for_night(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime
) -> tuple[SetupView, DayForNight]:
    view = setup_view(session, read_setup(session, person_id, job_id, setup_id))
    return view, day_for_night(view.now.lit, at, view.now.gear, view.now.rules, kept_response)


class Way(StrEnum):
    """What a pass is kept ready against, or for."""

    LIGHT_GOES = "light"
    SUN_COMES = "sun"
    NIGHT = "night"


@one_transaction
def keep_ready(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime, way: Way, text: str, *, is_brought: bool
) -> int:
    """One of the ways, by its words, as a pass of its own; gives its number. It is put away, so that nothing of it is
    in the bucket, unless it ``is_brought``.

    Raises: NotFound, NoAnswer; ChangedMeanwhile where it is offered no more.
    """
    view, changes, note = _WAYS[way](session, person_id, job_id, setup_id, at, text)
    if changes is None:
        raise ChangedMeanwhile(f"“{text}” is offered no more; here is what is now")
    old = get_setup(session, job_id, setup_id)
    setup = changed(view.setup, changes)
    setup = replace(setup, note=f"{note} {setup.note}".strip())
    room_for_one(session, job_id)
    make_room_after(session, job_id, old.rank)
    number = added_setup(session, job_id, old.place_id, old.id, old.rank + 1, setup)
    get_setup(session, job_id, number).is_archived = not is_brought
    return number


_Chosen = tuple[SetupView, tuple[Change, ...] | None, str]


def _replaced(session: Session, person_id: int, job_id: int, setup_id: int, at: datetime, text: str) -> _Chosen:
    view, found = _insurance(session, person_id, job_id, setup_id, at)
    changes = next((each.changes for each in found.replacements if each.fix.text == text), None)
    return view, changes, f"As if it were {view.setup.when:%H:%M}."


def _shaded(session: Session, person_id: int, job_id: int, setup_id: int, at: datetime, text: str) -> _Chosen:
    view, found = _sun_out(session, person_id, job_id, setup_id, at)
    changes = next((each.changes for each in found.shades if each.fix.text == text), None) if found else None
    return view, changes, f"The sun kept out at {at:%H:%M}."


def _as_night(session: Session, person_id: int, job_id: int, setup_id: int, at: datetime, _: str) -> _Chosen:
    view, found = _day_for_night(session, person_id, job_id, setup_id, at)
    return view, found.changes, "Day for night."


_WAYS = {Way.LIGHT_GOES: _replaced, Way.SUN_COMES: _shaded, Way.NIGHT: _as_night}
