"""Ways out of a missed target, and levels for all targets at once."""

from sqlalchemy.orm import Session

from iron_bucket.core.setups.evaluate.ladder import Rung
from iron_bucket.core.setups.evaluate.walk import Walk, walks
from iron_bucket.core.setups.suggest.fix import Fix
from iron_bucket.core.setups.suggest.fixes import fixes_for
from iron_bucket.core.setups.suggest.set_levels import SolvedSetup, solved_setup
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.setups.edit import change_setup, open_setup
from iron_bucket.desk.setups.kept import kept_response
from iron_bucket.desk.setups.view import SetupView
from iron_bucket.formats.change_json import change_row


def fixes_of(view: SetupView, mark: str) -> tuple[Rung, tuple[Fix, ...]]:
    """The rung of a mark and what would bring it to its target. Raises: NotFound where there is no such mark."""
    rung = view.now.ladder.rung(mark)
    if rung is None:
        raise NotFound("there is no such mark on the ladder now")
    return rung, fixes_for(view.now.lit, rung, view.now.gear, view.now.rules, kept_response, view.bucket)


def walks_of(view: SetupView) -> tuple[Walk, ...]:
    """How everybody with several positions is lit on the way."""
    return walks(view.now.lit, view.now.gear, view.now.rules, kept_response)


def solve(session: Session, person_id: int, job_id: int, setup_id: int) -> tuple[SetupView, SolvedSetup]:
    """Set the levels of the lamps that are on for every target. Raises: NoAnswer where there is nothing to solve."""
    view = open_setup(session, person_id, job_id, setup_id)
    found = solved_setup(view.now.lit, view.now.rules.receptor)
    if found.changes:
        rows = [change_row(each) for each in found.changes]
        view = change_setup(session, person_id, job_id, setup_id, rows, "set levels for all targets")
    return view, found
