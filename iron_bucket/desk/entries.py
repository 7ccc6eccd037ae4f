"""What a job's bucket holds as entries of the core: lines that were put in, and what stands in set-ups beyond them."""

from collections import defaultdict

from sqlalchemy.orm import Session

from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.placed import placed_entries
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.formats.gear_rows import item_of
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.bucket import BucketLineRow, lines_of
from iron_bucket.store.setups import setups_of
from iron_bucket.store.states import SetupStateRow, standing


def entries_of(lines: list[BucketLineRow]) -> tuple[Entry, ...]:
    """In the order of the lines; numbers count within the job."""
    return tuple(
        Entry(
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
        for line in lines
    )


def bucket_entries(session: Session, job_ids: list[int]) -> dict[int, tuple[Entry, ...]]:
    """Of each job: its lines, then what its set-ups hold beyond them. Three queries, however many jobs."""
    lines: dict[int, list[BucketLineRow]] = defaultdict(list)
    for line in lines_of(session, job_ids):
        lines[line.job_id].append(line)
    rows = setups_of(session, job_ids)
    states = standing(session, SetupStateRow, rows)
    setups: dict[int, list[Setup]] = defaultdict(list)
    for row in rows:
        setups[row.job_id].append(read_record(Setup, states[row.id].document))
    found = {}
    for job_id in job_ids:
        entries = entries_of(lines[job_id])
        if setups[job_id]:
            entries += placed_entries(setups[job_id], shelf_in(session).gear, ScrimSchool.HALF_AND_ONE, entries)
        found[job_id] = entries
    return found
