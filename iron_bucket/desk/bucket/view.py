"""The bucket of a job as its pages show it: the kit by lines, where each comes from, what it adds up to."""

from collections.abc import Hashable
from dataclasses import dataclass
from functools import cached_property

from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.vehicle import Vehicle
from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.hire import Source, sources_of
from iron_bucket.core.bucket.job_kit import JobKit, KitLine
from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.bucket.load.cases import Packed, packed
from iron_bucket.core.bucket.load.hold import Loaded, loaded
from iron_bucket.core.bucket.load.layout import Layout, layout_of
from iron_bucket.core.bucket.load.piece import pieces_of
from iron_bucket.core.bucket.need import Sort
from iron_bucket.core.bucket.unit_ways import UnitWay, unit_ways
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.job_contents import JobContents, job_contents
from iron_bucket.desk.jobs import JobView, contents_view, require_job
from iron_bucket.desk.setups.kept import kept_setup
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.jobs import JobRow

#: A hold takes some tenths of a second to be filled.
_PACKED: BoundedCache[Hashable, Packed] = BoundedCache(40)
_LOADED: BoundedCache[Hashable, Loaded] = BoundedCache(40)


@dataclass(frozen=True, slots=True, kw_only=True)
class HandLine:
    """A line as it was put in, and what hangs on it."""

    entry: Entry
    hanging: tuple[Entry, ...]


@dataclass(kw_only=True, eq=False)
class BucketView:
    """A job with its kit; what follows from it is computed when it is first asked for."""

    job: JobView
    contents: JobContents

    @property
    def kit(self) -> JobKit:
        """All of it."""
        return self.contents.kit(self.job.rules)

    @property
    def plan(self) -> BucketPlan:
        """What the crew says of it."""
        return self.contents.plan

    @property
    def gear(self) -> Gear:
        """The bench."""
        return self.contents.gear

    @property
    def crew(self) -> CrewKit:
        """How it packs."""
        return self.job.rules.kit

    @property
    def entries(self) -> tuple[Entry, ...]:
        """By hand first, then derived."""
        return self.kit.entries

    @property
    def days(self) -> int:
        """That hired things are paid for: as the crew says, else as many as are shot on, one at least."""
        return self.crew.hire_days or max(len({each.day for each in self.kit.passes}), 1)

    @cached_property
    def sources(self) -> dict[Sort, Source]:
        """Where each line comes from."""
        return sources_of(self.kit.lines, self.gear, self.plan.borrowed, self.days)

    @property
    def hire_total(self) -> float:
        """For all days."""
        return sum(each.price or 0.0 for each in self.sources.values())

    @cached_property
    def packed(self) -> Packed:
        """In cases."""
        lines = tuple((line.sort, line.quantity) for line in self.kit.lines)
        starts = tuple((each.setup_id, each.start_min) for each in self.kit.passes)
        key = (lines, starts, self.gear, self.plan, self.crew)
        return _PACKED.get_or_make(key, lambda: packed(pieces_of(self.kit), self.gear, self.plan, self.crew))

    @cached_property
    def vehicles(self) -> tuple[Vehicle, ...]:
        """That the crew says, each as often as there are of it."""
        said = [(self.gear.find(Vehicle, each.item), each.count) for each in self.plan.vehicles]
        return tuple(vehicle for vehicle, count in said if vehicle for _ in range(count))

    @cached_property
    def loaded(self) -> Loaded:
        """The cases in them."""
        return _LOADED.get_or_make((self.packed, self.vehicles), lambda: loaded(self.packed.boxes, self.vehicles))

    def layouts(self) -> dict[int, Layout]:
        """By place, where its cases are laid out."""
        places: dict[int, list[int]] = {}
        for row in self.contents.setups:
            if row.place_id in self.contents.places:
                places.setdefault(row.place_id, []).append(row.id)
        return {place_id: self._layout(place_id, frozenset(rows)) for place_id, rows in places.items()}

    def _layout(self, place_id: int, here: frozenset[int]) -> Layout:
        """Boxes with something that a pass of that place needs."""
        needed = {sort for each in self.kit.passes if each.setup_id in here for sort in each.by_sort}
        boxes = [box for box in self.packed.boxes if any(piece.line.sort in needed for piece in box.pieces)]
        setups = [kept_setup(row.document) for row in self.contents.setups if row.id in here]
        return layout_of(boxes, self.contents.places[place_id], setups)

    @cached_property
    def by_hand(self) -> dict[Sort, tuple[HandLine, ...]]:
        """Lines as they were put in, under what they are of; what hangs on one stands beneath it."""
        known = {entry.entry_id for entry in self.kit.by_hand}
        found: dict[Sort, tuple[HandLine, ...]] = {}
        for entry in self.kit.by_hand:
            if entry.parent_id not in known:
                hanging = tuple(each for each in self.kit.by_hand if each.parent_id == entry.entry_id)
                sort = (entry.item.slug, round(entry.area_m2, 3))
                found[sort] = (*found.get(sort, ()), HandLine(entry=entry, hanging=hanging))
        return found

    def line(self, slug: str, area_m2: float) -> KitLine:
        """One of them. Raises: NotFound."""
        found = self.kit.by_sort.get((slug, round(area_m2, 3)))
        if found is None:
            raise NotFound("that line is no longer in the bucket")
        return found

    def ways(self, line: KitLine) -> tuple[UnitWay, ...]:
        """Of each unit of a line over the days; of what is cut or comes in packs none."""
        return unit_ways(line.peak.everywhere) if line.peak else ()


@one_transaction
def open_bucket(session: Session, person_id: int, job_id: int) -> BucketView:
    """Raises: NotFound, also for somebody else's job."""
    return bucket_view(session, require_job(session, person_id, job_id))


def bucket_view(session: Session, row: JobRow) -> BucketView:
    """The same within an open transaction."""
    contents = job_contents(session, [row.id])[row.id]
    return BucketView(job=contents_view(session, row, contents), contents=contents)
