"""What day it is, where a form proposes one."""

from datetime import UTC, date, datetime


def today() -> date:
    """By universal time; what is proposed can be typed over."""
    return datetime.now(UTC).date()
