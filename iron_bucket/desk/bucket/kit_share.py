"""A link that shows a job's kit list, read only, to whoever has it; with prices or without."""

import secrets
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.desk.bucket.view import BucketView, bucket_view
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.jobs import lock_job, require_job, require_shared_job
from iron_bucket.desk.links import USUAL_DAYS, end_of_link
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.ticks import KitShareRow, kit_share_by_token, standing_kit_share

_TOKEN_BYTES = 24


@one_transaction
def open_kit_share(session: Session, person_id: int, job_id: int, *, has_prices: bool, days: int = USUAL_DAYS) -> str:
    """The link's token; the one that is open already, where there is one. Raises: NotFound, BadValue."""
    job = lock_job(session, person_id, job_id)
    share = standing_kit_share(session, job_id, now(), has_prices=has_prices)
    if share is None:
        share = KitShareRow(
            job_id=job_id,
            token=secrets.token_urlsafe(_TOKEN_BYTES),
            has_prices=has_prices,
            person_id=person_id,
            made_at=now(),
            revoked_at=None,
            expires_at=end_of_link(days),
        )
        session.add(share)
        tell(session, person_id, "link", f"opened a link to the kit list of {job.name} for {days} days")
    return share.token


@one_transaction
def kit_shares(session: Session, person_id: int, job_id: int) -> dict[bool, tuple[str, datetime | None]]:
    """Tokens of the links that are open and when they end, by whether they show prices. Raises: NotFound."""
    require_job(session, person_id, job_id)
    found = {has: standing_kit_share(session, job_id, now(), has_prices=has) for has in (True, False)}
    return {has: (share.token, share.expires_at) for has, share in found.items() if share}


@one_transaction
def revoke_kit_share(session: Session, person_id: int, job_id: int, *, has_prices: bool) -> None:
    """Take the link back: from now on it shows nothing. Raises: NotFound."""
    job = lock_job(session, person_id, job_id)
    share = standing_kit_share(session, job_id, now(), has_prices=has_prices)
    if share is not None:
        share.revoked_at = now()
        tell(session, person_id, "link", f"took back the link to the kit list of {job.name}")


@one_transaction
def shared_kit(session: Session, token: str) -> tuple[BucketView, bool]:
    """What a link shows, and whether with prices. Raises: NotFound for one that was taken back or never was."""
    found = kit_share_by_token(session, token, now())
    if found is None:
        raise NotFound("this link is off")
    return bucket_view(session, require_shared_job(session, found.job_id)), found.has_prices
