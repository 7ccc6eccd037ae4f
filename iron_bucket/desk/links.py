"""How long a link shows what it shows."""

from datetime import datetime, timedelta

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.transaction import now

#: Of a link: for a day, the shoot, the job; nobody means a link for ever.
DAYS = (1, 7, 30, 120)
USUAL_DAYS = 30


def end_of_link(days: int) -> datetime:
    """Raises: BadValue for what is not offered."""
    if days not in DAYS:
        raise BadValue("days", days, ", ".join(map(str, DAYS)))
    return now() + timedelta(days=days)
