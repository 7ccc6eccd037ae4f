"""What a job holds, read once: the lines of its bucket, its set-ups as they stand, and the gear that both speak of."""

from collections import defaultdict
from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.placed import PlacedEntries, placed_entries
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.formats.gear_rows import item_of
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.bucket import BucketLineRow, lines_of
from iron_bucket.store.setups import SetupRow, setups_with_states
from iron_bucket.store.states import SetupStateRow


@dataclass(kw_only=True, eq=False)
class JobContents:
    """``states``: the state that each set-up stands at, by the set-up's number; a change puts its own there."""

    lines: list[BucketLineRow]
    setups: list[SetupRow]
    states: dict[int, SetupStateRow]
    gear: Gear

    def entries(self, rules: HouseRules) -> PlacedEntries:
        """Its lines, then what its set-ups hold beyond them.

        What cannot be read or is not on the bench is named, and does not hide the rest.
        """
        setups, left_out = [], []
        for row in self.setups:
            document = self.states[row.id].document
            try:
                setups.append(read_record(Setup, document))
            except BadValue as bad:
                left_out.append(f"{document.get('name', 'a set-up')}: {bad}")
        lines = []
        for line in self.lines:
            try:
                lines.append(entry_of(line))
            except BadValue as bad:
                left_out.append(f"{line.item.get('name', 'a line of the bucket')}: {bad}")
        placed = placed_entries(setups, self.gear, rules.scrim_school, lines)
        return PlacedEntries(entries=(*lines, *placed.entries), left_out=(*left_out, *placed.left_out))


def entry_of(line: BucketLineRow) -> Entry:
    """A line of the bucket; numbers count within the job. Raises: BadValue where what was stored cannot be read."""
    return Entry(
        entry_id=line.number,
        parent_id=line.parent_number,
        kind=line.kind,
        item=item_of(line.kind, line.item),
        quantity=line.quantity,
        purpose=line.purpose,
        level=line.level,
        fed_from=FedFrom(line.fed_from),
        area_m2=line.area_m2,
        setting=line.setting,
    )


def job_contents(session: Session, job_ids: list[int], gear: Gear | None = None) -> dict[int, JobContents]:
    """Of each job. Three queries, however many jobs; two where the gear is at hand."""
    gear = gear or shelf_in(session).gear
    lines: dict[int, list[BucketLineRow]] = defaultdict(list)
    for line in lines_of(session, job_ids):
        lines[line.job_id].append(line)
    setups: dict[int, list[SetupRow]] = defaultdict(list)
    states: dict[int, dict[int, SetupStateRow]] = defaultdict(dict)
    for row, state in setups_with_states(session, job_ids):
        setups[row.job_id].append(row)
        states[row.job_id][row.id] = state
    return {
        job_id: JobContents(
            lines=lines[job_id],
            setups=setups[job_id],
            states=states[job_id],
            gear=gear,
        )
        for job_id in job_ids
    }
