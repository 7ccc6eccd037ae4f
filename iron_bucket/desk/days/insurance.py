"""A pass as if it were another hour: what replaces its light, kept ready, and brought only when asked."""

from dataclasses import replace
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.core.days.insurance import Insurance, insurance
from iron_bucket.core.setups.plan.changes import changed
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
    view = setup_view(session, read_setup(session, person_id, job_id, setup_id))
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
    )
    return view, found


@one_transaction
def keep_ready(
    session: Session, person_id: int, job_id: int, setup_id: int, at: datetime, text: str, *, is_brought: bool
) -> int:
    """One of the replacements, by its words, as a pass of its own; gives its number. It is put away, so that nothing of
    it is in the bucket, unless it ``is_brought``.

    Raises: NotFound, NoAnswer; ChangedMeanwhile where it is offered no more.
    """
    view, found = _insurance(session, person_id, job_id, setup_id, at)
    chosen = next((each for each in found.replacements if each.fix.text == text), None)
    if chosen is None:
        raise ChangedMeanwhile(f"“{text}” is offered no more; here is what is now")
    old = get_setup(session, job_id, setup_id)
    note = f"As if it were {view.setup.when:%H:%M}. {view.setup.note}".strip()
    setup = replace(changed(view.setup, chosen.changes), note=note)
    room_for_one(session, job_id)
    make_room_after(session, job_id, old.rank)
    number = added_setup(session, job_id, old.place_id, old.id, old.rank + 1, setup)
    get_setup(session, job_id, number).is_archived = not is_brought
    return number
