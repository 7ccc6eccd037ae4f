"""A link that shows one set-up, read only, to whoever has it; it can be taken back."""

import secrets
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.jobs import require_job, require_shared_job, view_of
from iron_bucket.desk.links import USUAL_DAYS, end_of_link
from iron_bucket.desk.setups.view import SetupView, get_setup, opened_setup, setup_view
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.setups import ShareRow, share_by_token, standing_share

_TOKEN_BYTES = 24


@one_transaction
def open_share(session: Session, person_id: int, job_id: int, setup_id: int, days: int = USUAL_DAYS) -> str:
    """The link's token; the one that is open already, where there is one. Raises: NotFound, BadValue."""
    job = require_job(session, person_id, job_id)
    row = get_setup(session, job_id, setup_id, locked=True)
    share = standing_share(session, row.id, now())
    if share is None:
        share = ShareRow(
            setup_id=row.id,
            token=secrets.token_urlsafe(_TOKEN_BYTES),
            person_id=person_id,
            made_at=now(),
            revoked_at=None,
            expires_at=end_of_link(days),
        )
        session.add(share)
        tell(session, person_id, "link", f"opened a link to a set-up of {job.name} for {days} days")
    return share.token


@one_transaction
def share_token(session: Session, person_id: int, job_id: int, setup_id: int) -> tuple[str, datetime | None] | None:
    """The token of the link that is open now and when it ends, None where there is none."""
    require_job(session, person_id, job_id)
    share = standing_share(session, get_setup(session, job_id, setup_id).id, now())
    return (share.token, share.expires_at) if share else None


@one_transaction
def revoke_share(session: Session, person_id: int, job_id: int, setup_id: int) -> None:
    """Take the link back: from now on it shows nothing."""
    job = require_job(session, person_id, job_id)
    share = standing_share(session, get_setup(session, job_id, setup_id, locked=True).id, now())
    if share is not None:
        share.revoked_at = now()
        tell(session, person_id, "link", f"took back the link to a set-up of {job.name}")


@one_transaction
def shared_setup(session: Session, token: str) -> SetupView:
    """What a link shows. Raises: NotFound for one that was taken back or never was."""
    found = share_by_token(session, token, now())
    if found is None:
        raise NotFound("this link is off")
    job = require_shared_job(session, found[1].job_id)
    return setup_view(session, opened_setup(session, job, found[1]), job=view_of(job))
