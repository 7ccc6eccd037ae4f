"""What a pick in a job begins from: that job's rules, its look, the place of its first set-up, and what is left of its
circuits and batteries.
"""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.places.place import Place
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.desk.bench import Shelf, shelf_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.job_contents import job_contents
from iron_bucket.desk.jobs import JobView, rules_from, view_of
from iron_bucket.desk.power.view import PowerView, power_of_contents
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.setups import job_with_look


@dataclass(frozen=True, slots=True, kw_only=True)
class PickStart:
    """``look`` None: none was set; ``place`` None: the job has no set-up yet. ``circuits`` of the place, by name, that
    with most to spare first, with what the fullest pass hangs on each; ``batteries_left``: of each kind, by slug, how
    many no lamp of the job needs at once.
    """

    shelf: Shelf
    job: JobView
    look: Look | None
    place: Place | None
    circuits: dict[str, Circuit]
    batteries_left: dict[str, int]

    @property
    def ceiling_m(self) -> float | None:
        """Of the largest room; None outside."""
        rooms = self.place.rooms if self.place else ()
        return max(rooms, key=lambda room: room.floor_area_m2).height_m if rooms else None


@one_transaction
def pick_start(session: Session, person_id: int, job_id: int) -> PickStart:
    """Four queries. Raises: NotFound, also for somebody else's job."""
    found = job_with_look(session, person_id, job_id)
    if found is None:
        raise NotFound("there is no such job on your list")
    row, look, documents = found
    rules, shelf = rules_from(row.rules), shelf_in(session)
    contents = job_contents(session, [job_id], shelf.gear, {job_id: documents})[job_id]
    view = power_of_contents(view_of(row, contents.kit(rules)), contents)
    first = contents.setups[0].place_id if contents.setups else 0
    around = contents.places.get(first)
    return PickStart(
        shelf=shelf,
        job=view.job,
        look=read_record(Look, look.document) if look else None,
        place=around.place if around else None,
        circuits=_circuits(view, first),
        batteries_left=_left(view),
    )


def _circuits(view: PowerView, place_id: int) -> dict[str, Circuit]:
    """Each in the pass of that place with most on it."""
    fullest: dict[str, Circuit] = {}
    for each in view.passes:
        for bar in view.boards[each.setup_id].bars if each.place_id == place_id else ():
            if bar.name not in fullest or bar.as_used.free_a < fullest[bar.name].free_a:
                fullest[bar.name] = bar.as_used
    return dict(sorted(fullest.items(), key=lambda pair: -pair[1].free_a))


def _left(view: PowerView) -> dict[str, int]:
    """Beside the pass with most of each kind on its lamps."""
    found = {slug: each.count for slug, each in view.stock.items()}
    for board in view.boards.values():
        for bar in board.batteries:
            left = view.stock[bar.kind.slug].count - bar.plates if bar.kind.slug in view.stock else 0
            found[bar.kind.slug] = min(found.get(bar.kind.slug, 0), max(left, 0))
    return found
