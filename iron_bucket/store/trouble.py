"""What a database error means: gone, busy, full, or a fault of ours."""

from enum import Enum

from sqlalchemy.exc import DBAPIError, SQLAlchemyError, TimeoutError

#: Client: cannot connect (2002, 2003), gone away (2006), lost (2013, 2055). Server: shutting down (1053), killed
#: (1927), too many (1040).
_GONE = {2002, 2003, 2006, 2013, 2055, 1053, 1927, 1040}
#: Deadlock, lock wait timed out, record changed since read (also what a cluster's certification says).
_BUSY = {1213, 1205, 1020}
#: Disk full, no space for a temporary or log file, table full.
_FULL = {1021, 1114, 3}
_ENGINE_ERROR, _NO_SPACE = 1030, "28"


class DatabaseTrouble(Enum):
    """GONE: no connection. BUSY: others hold what is wanted.

    FULL: no room on its disk. FAULT: anything else, which is ours.
    """

    GONE = "gone"
    BUSY = "busy"
    FULL = "full"
    FAULT = "fault"


def database_trouble(error: SQLAlchemyError) -> DatabaseTrouble:
    """Told by the server's number, never by its words."""
    if isinstance(error, TimeoutError):
        return DatabaseTrouble.BUSY
    if not isinstance(error, DBAPIError):
        return DatabaseTrouble.FAULT
    arguments = error.orig.args if error.orig is not None else ()
    number = arguments[0] if arguments and isinstance(arguments[0], int) else None
    if number in _GONE or (number in (0, None) and error.connection_invalidated):
        return DatabaseTrouble.GONE
    if number in _BUSY:
        return DatabaseTrouble.BUSY
    if number in _FULL or (number == _ENGINE_ERROR and f"error {_NO_SPACE}" in str(arguments[-1])):
        return DatabaseTrouble.FULL
    return DatabaseTrouble.FAULT
