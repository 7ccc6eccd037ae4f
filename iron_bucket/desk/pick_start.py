"""What a pick in a job begins from: that job's rules, its look, and the place of its first set-up."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.desk.bench import Shelf, shelf_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.job_contents import job_contents
from iron_bucket.desk.jobs import JobView, rules_from, view_of
from iron_bucket.desk.places import surroundings_of
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.places import PlaceRow
from iron_bucket.store.setups import job_with_look


@dataclass(frozen=True, slots=True, kw_only=True)
class PickStart:
    """``look`` None: none was set; ``place`` None: the job has no set-up yet."""

    shelf: Shelf
    job: JobView
    look: Look | None
    place: Place | None

    @property
    def ceiling_m(self) -> float | None:
        """Of the largest room; None outside."""
        rooms = self.place.rooms if self.place else ()
        return max(rooms, key=lambda room: room.floor_area_m2).height_m if rooms else None

    @property
    def circuits(self) -> dict[str, Circuit]:
        """What the place has, by name, that with most to spare first, under the job's rule."""
        found = {
            each.name: Circuit(
                voltage_v=each.voltage_v,
                breaker_a=each.breaker_a,
                planned_share=self.job.rules.planned_share,
                used_a=each.used_a,
            )
            for each in (self.place.circuits if self.place else ())
        }
        return dict(sorted(found.items(), key=lambda pair: -pair[1].free_a))


@one_transaction
def pick_start(session: Session, person_id: int, job_id: int, *, with_bucket: bool) -> PickStart:
    """Two queries; with the job's totals, for a whole page, two more.

    Raises: NotFound, also for somebody else's job.
    """
    found = job_with_look(session, person_id, job_id)
    if found is None:
        raise NotFound("there is no such job on your list")
    row, look, place_state = found
    rules, shelf = rules_from(row.rules), shelf_in(session)
    job = view_of(row)
    if with_bucket:
        job = view_of(row, job_contents(session, [job_id], shelf.gear)[job_id].entries(rules))
    return PickStart(
        shelf=shelf,
        job=job,
        look=read_record(Look, look.document) if look else None,
        place=_place(session, place_state) if place_state else None,
    )


def _place(session: Session, row: PlaceRow) -> Place | None:
    """None for one that cannot be read: a pick can begin without it."""
    try:
        return surroundings_of(session, row).place
    except BadValue:
        return None
