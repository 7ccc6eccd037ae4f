"""Bucket lines of the store as entries of the core."""

from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.formats.gear_rows import item_of
from iron_bucket.store.bucket import BucketLineRow


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
