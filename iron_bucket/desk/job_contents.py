"""What a job holds, read once: the lines of its bucket, its set-ups as they stand, and the gear that both speak of."""

from collections import Counter, defaultdict
from dataclasses import dataclass

import orjson
from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.placed import PlacedEntries, placed_entries
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.setups.kept import kept_pieces
from iron_bucket.formats.gear_rows import item_of
from iron_bucket.store.bucket import BucketLineRow, lines_of
from iron_bucket.store.setups import SetupRow, setups_of

#: A page of a job asks for all its lines, which keep the gear as it was when it went in.
_ITEMS: BoundedCache[tuple[str, bytes], Item] = BoundedCache(2000)


@dataclass(kw_only=True, eq=False)
class JobContents:
    """Rows of one job, and the gear that they speak of."""

    lines: list[BucketLineRow]
    setups: list[SetupRow]
    gear: Gear

    @property
    def counted(self) -> Counter[str]:
        """How many of each piece of gear the lines hold, by slug."""
        found: Counter[str] = Counter()
        for line in self.lines:
            found[str(line.item.get("slug", ""))] += line.quantity
        return found

    def entries(self, rules: HouseRules) -> PlacedEntries:
        """Its lines, then what its set-ups hold beyond them.

        What cannot be read or is not on the bench is named, and does not hide the rest.
        """
        pieces, left_out = [], []
        for row in self.setups:
            try:
                pieces.append(kept_pieces(row.document, self.gear, rules.scrim_school))
            except BadValue as bad:
                left_out.append(f"{row.document.get('name', 'a set-up')}: {bad}")
        lines = []
        for line in self.lines:
            try:
                lines.append(entry_of(line))
            except BadValue as bad:
                left_out.append(f"{line.item.get('name', 'a line of the bucket')}: {bad}")
        placed = placed_entries(pieces, lines)
        return PlacedEntries(entries=(*lines, *placed.entries), left_out=(*left_out, *placed.left_out))


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


def job_contents(session: Session, job_ids: list[int], gear: Gear | None = None) -> dict[int, JobContents]:
    """Of each job. Three queries, however many jobs; two where the gear is at hand."""
    gear = gear or shelf_in(session).gear
    lines: dict[int, list[BucketLineRow]] = defaultdict(list)
    for line in lines_of(session, job_ids):
        lines[line.job_id].append(line)
    setups: dict[int, list[SetupRow]] = defaultdict(list)
    for row in setups_of(session, job_ids):
        setups[row.job_id].append(row)
    return {job_id: JobContents(lines=lines[job_id], setups=setups[job_id], gear=gear) for job_id in job_ids}
