"""What a job holds, read once: the lines of its bucket, its set-ups as they stand in their places, what feeds them, and
the gear that all speak of.
"""

from collections import Counter, defaultdict
from collections.abc import Hashable, Mapping
from dataclasses import dataclass, field
from typing import Any

import orjson
from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.job_kit import JobKit, job_kit
from iron_bucket.core.bucket.kit_pass import kit_passes
from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.bucket.lead_kit import lead_kit
from iron_bucket.core.bucket.pass_kit import PassKit
from iron_bucket.core.days.day_plan import DayPlan
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.places import all_surroundings, fed_surroundings
from iron_bucket.desk.setups.kept import kept_kit, kept_setup
from iron_bucket.formats.gear_rows import item_of
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.bucket import LINE_FIELDS, BucketLineRow, lines_of
from iron_bucket.store.documents import JobDocuments, job_documents
from iron_bucket.store.places import PlaceStamp
from iron_bucket.store.power import power_rows
from iron_bucket.store.setups import SetupRow, setups_with_places

_POWERS: BoundedCache[bytes, JobPower] = BoundedCache(200)
_PLANS: BoundedCache[bytes, BucketPlan] = BoundedCache(200)
_DAYS: BoundedCache[bytes, DayPlan] = BoundedCache(200)
_CREWS: BoundedCache[bytes, CrewKit] = BoundedCache(200)
_LEADS: BoundedCache[Hashable, PassKit] = BoundedCache(1000)
#: Every page of a job tells in its head what the whole kit weighs and draws.
_KITS: BoundedCache[Hashable, JobKit] = BoundedCache(40)
#: A page of a job asks for all its lines, which keep the gear as it was when it went in.
_ITEMS: BoundedCache[tuple[str, bytes], Item] = BoundedCache(2000)


@dataclass(kw_only=True, eq=False)
class JobContents:
    """Rows of one job, and the gear that they speak of. ``power`` and ``places`` (by number, with the job's outlets,
    ``bare`` without) as far as they can be read; ``trouble`` says what cannot, of places also
    ``unread``.
    """

    lines: list[BucketLineRow]
    setups: list[SetupRow]
    gear: Gear
    power: JobPower = field(default_factory=JobPower)
    plan: BucketPlan = field(default_factory=BucketPlan)
    days: DayPlan = field(default_factory=DayPlan)
    place_names: dict[int, str] = field(default_factory=dict)
    bare: dict[int, Surroundings] = field(default_factory=dict)
    places: dict[int, Surroundings] = field(default_factory=dict)
    unread: dict[int, str] = field(default_factory=dict)
    trouble: tuple[str, ...] = ()
    _made: dict[HouseRules, JobKit] = field(default_factory=dict)

    @property
    def counted(self) -> Counter[str]:
        """How many of each piece of gear the lines hold, by slug."""
        found: Counter[str] = Counter()
        for line in self.lines:
            found[str(line.item.get("slug", ""))] += line.quantity
        return found

    def kit(self, rules: HouseRules) -> JobKit:
        """Its lines, then what its set-ups and rules need beyond them. Made once for a use case.

        What cannot be read or is not on the bench is named, and does not hide the rest.
        """
        if rules not in self._made:
            self._made[rules] = _KITS.get_or_make((rules, self._stamp()), lambda: self._kit(rules))
        return self._made[rules]

    def _stamp(self) -> Hashable:
        """All that its kit hangs on."""
        rows = tuple((row.id, row.after_id, row.place_id, orjson.dumps(row.document)) for row in self.setups)
        lines = orjson.dumps([[getattr(line, name) for name in LINE_FIELDS] for line in self.lines])
        places = tuple(self.places.items()), tuple(self.place_names.items())
        return self.gear, self.power, self.plan, rows, lines, places, self.trouble

    def _kit(self, rules: HouseRules) -> JobKit:
        passes, kits, trouble, lines = [], {}, list(self.trouble), []
        for row in self.setups:
            try:
                each = self.pass_of(row)
                around = self.places.get(row.place_id)
                kits[row.id] = (kept_kit(row.document, around, self.gear, rules), *self._leads(row, around, rules))
                passes.append(each)
            except BadValue as bad:
                trouble.append(f"{row.document.get('name', 'a set-up')}: {bad}")
        for line in self.lines:
            try:
                lines.append(entry_of(line))
            except BadValue as bad:
                trouble.append(f"{line.item.get('name', 'a line of the bucket')}: {bad}")
        timed = kit_passes(passes, kits, self.power, self.plan.pairs)
        return job_kit(timed, lines, self.power, self.gear, rules, trouble, self.plan.borrowed)

    def _leads(self, row: SetupRow, around: Surroundings | None, rules: HouseRules) -> tuple[PassKit, ...]:
        if around is None:
            return ()
        setup, gear, power = kept_setup(row.document), self.gear, self.power
        key = (orjson.dumps(row.document), row.id, around, gear, rules, power)
        return (_LEADS.get_or_make(key, lambda: lead_kit(setup, row.id, row.place_id, around, power, gear, rules)),)

    def pass_of(self, row: SetupRow) -> JobPass:
        """A pass in its place. Raises: BadValue where it cannot be read."""
        return JobPass(
            setup_id=row.id,
            chain=self._chain(row),
            place_id=row.place_id,
            place_name=self.place_names[row.place_id],
            setup=kept_setup(row.document),
        )

    def _chain(self, row: SetupRow) -> int:
        """The first pass that this one varies, in the same place."""
        rows = {each.id: each for each in self.setups}
        seen = set()
        while row.after_id in rows and row.id not in seen and rows[row.after_id].place_id == row.place_id:
            seen.add(row.id)
            row = rows[row.after_id]
        return row.id


def entry_of(line: BucketLineRow) -> Entry:
    """A line of the bucket; numbers count within the job. Raises: BadValue where what was stored cannot be read."""
    return Entry(
        entry_id=line.number,
        parent_id=line.parent_number,
        kind=line.kind,
        item=_ITEMS.get_or_make((line.kind, orjson.dumps(line.item)), lambda: item_of(line.kind, line.item)),
        quantity=line.quantity,
        purpose=line.purpose,
        level=line.level,
        fed_from=FedFrom(line.fed_from),
        area_m2=line.area_m2,
        setting=line.setting,
    )


def job_contents(
    session: Session, job_ids: list[int], gear: Gear | None = None, documents: Mapping[int, JobDocuments] | None = None
) -> dict[int, JobContents]:
    """Of each job: four queries, however many jobs, and one more for places that are not at hand; fewer where the gear
    or the documents (by job) are.
    """
    gear = gear or shelf_in(session).gear
    documents = job_documents(session, job_ids) if documents is None else documents
    lines: dict[int, list[BucketLineRow]] = defaultdict(list)
    for line in lines_of(session, job_ids):
        lines[line.job_id].append(line)
    setups: dict[int, list[tuple[SetupRow, PlaceStamp]]] = defaultdict(list)
    for row, stamp in setups_with_places(session, job_ids):
        setups[row.job_id].append((row, stamp))
    around, trouble = all_surroundings(session, {stamp for some in setups.values() for _, stamp in some})
    return {
        each: _contents(lines[each], setups[each], gear, documents.get(each, JobDocuments()), around, trouble)
        for each in job_ids
    }


def _contents(
    lines: list[BucketLineRow],
    setups: list[tuple[SetupRow, PlaceStamp]],
    gear: Gear,
    stored: JobDocuments,
    around: Mapping[int, Surroundings],
    cannot: Mapping[int, str],
) -> JobContents:
    """What cannot be read is said, and hides nothing else."""
    power, plan, days, found, unread, trouble = JobPower(), BucketPlan(), DayPlan(), {}, {}, []
    names = {stamp.place_id: stamp.name for _, stamp in setups}
    try:
        power = kept_power(stored.power.document) if stored.power else power
    except BadValue as bad:
        trouble.append(f"power: {bad}")
    try:
        plan = kept_plan(stored.plan.document) if stored.plan else plan
    except BadValue as bad:
        trouble.append(f"bucket: {bad}")
    try:
        days = kept_days(stored.days.document) if stored.days else days
    except BadValue as bad:
        trouble.append(f"days: {bad}")
    for place_id, name in names.items():
        try:
            if place_id in around:
                found[place_id] = fed_surroundings(around[place_id], place_id, power)
            elif place_id in cannot:
                unread[place_id] = cannot[place_id]
        except BadValue as bad:
            unread[place_id] = f"{name}: {bad}"
    return JobContents(
        lines=lines,
        setups=[row for row, _ in setups],
        gear=gear,
        power=power,
        plan=plan,
        days=days,
        place_names=names,
        bare={place_id: around[place_id] for place_id in found},
        places=found,
        unread=unread,
        trouble=(*trouble, *unread.values()),
    )


def power_of(session: Session, job_id: int) -> JobPower:
    """What a job brings to feed its lamps: one query. Raises: BadValue where that cannot be read."""
    stored = power_rows(session, [job_id]).get(job_id)
    return kept_power(stored.document) if stored else JobPower()


def kept_power(document: dict[str, Any]) -> JobPower:
    """Of a job, as it was stored. Raises: BadValue where that cannot be read."""
    return _POWERS.get_or_make(orjson.dumps(document), lambda: read_record(JobPower, document))


def kept_plan(document: dict[str, Any]) -> BucketPlan:
    """What a crew says of its bucket, as it was stored. Raises: BadValue where that cannot be read."""
    return _PLANS.get_or_make(orjson.dumps(document), lambda: read_record(BucketPlan, document))


def kept_days(document: dict[str, Any]) -> DayPlan:
    """What is said of a job's days, as it was stored. Raises: BadValue where that cannot be read."""
    return _DAYS.get_or_make(orjson.dumps(document), lambda: read_record(DayPlan, document))


def kept_crew_kit(document: dict[str, Any]) -> CrewKit:
    """How a job's crew packs, as it was stored. Raises: BadValue where that cannot be read."""
    return _CREWS.get_or_make(orjson.dumps(document), lambda: read_record(CrewKit, document))
