"""What is somebody's own: given out as a file, and deleted."""

from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.desk.errors import NotAllowed
from iron_bucket.desk.people.administration import require_other_admin
from iron_bucket.desk.people.passwords import is_right
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.store.own_data import forget_person, left_empty, left_without_gaffer, rows_of
from iron_bucket.store.people import PersonRow
from iron_bucket.store.sign_ins import end_codes, end_sign_ins

GONE = "somebody who is gone"


@one_transaction
def own_data(session: Session, person_id: int) -> dict[str, Any]:
    """All that is kept of somebody, table by table, ready for JSON; no password and no token, nor their digests."""
    return {"written_at": now().isoformat(), **rows_of(session, person_id)}


@one_transaction
def delete_person(session: Session, person_id: int, password: str) -> None:
    """Forget somebody: name, sign-in, password, devices, crews, what was told of them. What they did to jobs that
    others work on stays, by nobody; jobs that are theirs alone go with them, and crews with their gear and places.

    Raises: NotAllowed for a wrong password, for the last administrator, and where others would be left without a gaffer
    or without the gear of a crew.
    """
    row = session.get_one(PersonRow, person_id, with_for_update=True)
    if not is_right(password, row.password_hash):
        raise NotAllowed("that is not your password now")
    left = left_without_gaffer(session, person_id)
    if left:
        raise NotAllowed(f"{', '.join(left)} would be left without a gaffer; hand over first")
    empty = left_empty(session, person_id)
    if empty:
        raise NotAllowed(f"jobs of others use the gear of {', '.join(empty)}; put one of them into that crew first")
    require_other_admin(session, row)
    end_sign_ins(session, person_id, now())
    end_codes(session, person_id, now())
    forget_person(session, person_id)
    row.name, row.sign_in, row.password_hash = GONE, f"gone-{person_id}", ""
    row.is_admin, row.is_disabled = False, True
    tell(session, None, "people", "somebody deleted what was theirs")
