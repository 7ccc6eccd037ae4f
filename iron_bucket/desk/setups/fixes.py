"""Ways out of a missed target, levels for all targets at once, and the light over a plane."""

from dataclasses import dataclass

import numpy as np
from sqlalchemy.orm import Session

from iron_bucket.core.arrays import Array
from iron_bucket.core.setups.evaluate.field import FieldPlane, level_field_lx
from iron_bucket.core.setups.evaluate.ladder import Rung
from iron_bucket.core.setups.evaluate.spill import level_on_wall_lx
from iron_bucket.core.setups.suggest.fixes import Fix, fixes_for
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
    return rung, fixes_for(view.now.lit, rung, view.now.gear, view.now.rules, kept_response)


def solve(session: Session, person_id: int, job_id: int, setup_id: int) -> tuple[SetupView, SolvedSetup]:
    """Set the levels of the lamps that are on for every target. Raises: NoAnswer where there is nothing to solve."""
    view = open_setup(session, person_id, job_id, setup_id)
    found = solved_setup(view.now.lit, view.now.rules.receptor)
    if found.changes:
        rows = [change_row(each) for each in found.changes]
        view = change_setup(session, person_id, job_id, setup_id, rows, "set levels for all targets")
    return view, found


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class StopsField:
    """``stops`` from the exposure, shape (rows, columns), the first row at the top of the sheet."""

    columns: int
    rows: int
    stops: Array
    words: str


def field_over(view: SetupView, plane: str, sheet: tuple[float, float, float, float]) -> StopsField:
    """The light over a sheet (left, top, width, height in metres) at face height or on the floor, or over a wall
    (``wall-ROOM-NUMBER``). Raises: NotFound.
    """
    wanted = view.now.ladder.wanted_lx
    if plane.startswith("wall-"):
        return _over_wall(view, plane, wanted)
    which = FieldPlane(plane) if plane in list(FieldPlane) else FieldPlane.FACE
    found = level_field_lx(view.now.lit, which, sheet)
    wanted = view.now.ladder.wanted_lx
    return StopsField(
        columns=found.shape[1], rows=found.shape[0], stops=np.log2(np.maximum(found, 1e-6) / wanted), words=which.value
    )


def _over_wall(view: SetupView, plane: str, wanted_lx: float) -> StopsField:
    parts = plane.split("-")[1:]
    rooms = view.now.lit.built.surroundings.rooms
    if (
        len(parts) != 2
        or not all(part.isdecimal() for part in parts)
        or int(parts[0]) >= len(rooms)
        or int(parts[1]) >= len(rooms[int(parts[0])].walls)
    ):
        raise NotFound("this place has no such wall")
    found = level_on_wall_lx(view.now.lit, int(parts[0]), int(parts[1]))
    return StopsField(
        columns=found.shape[1],
        rows=found.shape[0],
        stops=np.log2(np.maximum(found, 1e-6) / wanted_lx),
        words=f"wall {int(parts[1]) + 1}",
    )
