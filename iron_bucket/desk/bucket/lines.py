"""Lines that somebody puts into the bucket: a pick with all that hangs on it, counts, purposes, out again."""

from collections import Counter
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.grip import grip_of_flat, grip_of_head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.entry import LONGEST_PURPOSE, MOST_OF_ONE_THING, FedFrom
from iron_bucket.core.bucket.pass_kit import LIGHTEST_OPTIC_KG
from iron_bucket.core.checks import require_showable
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import Cloth
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.fit import Fit
from iron_bucket.core.selection.need import BatteryFeed, Need
from iron_bucket.desk.bench import Shelf, shelf_in
from iron_bucket.desk.bucket.view import BucketView, bucket_view
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.history import Touch
from iron_bucket.desk.jobs import lock_job, record_job
from iron_bucket.desk.pick import opened
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.store.bucket import BucketLineRow, lines_of, snapshot
from iron_bucket.store.jobs import JobRow


@one_transaction
def put_in(session: Session, person_id: int, job_id: int, need: Need, key: str, purpose: str) -> BucketView:
    """One head with all that hangs on it, as picked. Raises: NotFound, BadValue for a purpose that is too long."""
    row = lock_job(session, person_id, job_id)
    require_showable("purpose", purpose.strip(), longest=LONGEST_PURPOSE)
    shelf = shelf_in(session)
    fit = opened(shelf, need, key, UnitSystem.METRIC).fit
    lines = lines_of(session, [job_id])
    before = snapshot(lines)
    first = max((line.number for line in lines), default=0) + 1
    for offset, line in enumerate(_lines(shelf, need, fit, purpose.strip())):
        session.add(
            BucketLineRow(job_id=job_id, number=first + offset, parent_number=first if offset else None, **line)
        )
    return _recorded(session, row, person_id, f"put {fit.head.name} in the bucket", before)


def _recorded(session: Session, row: JobRow, person_id: int, text: str, before: dict[str, Any]) -> BucketView:
    """The bucket after a change, which is noted."""
    session.flush()
    after = snapshot(lines_of(session, [row.id]))
    record_job(session, row, person_id, text, Touch(table="bucket_lines", key=row.id, before=before, after=after))
    session.flush()
    return bucket_view(session, row)


def _lines(shelf: Shelf, need: Need, fit: Fit, purpose: str) -> list[dict[str, Any]]:
    """The head first, then what hangs on it: optic, sheets, front, stands with bags, batteries."""
    on_battery = isinstance(need.feed, BatteryFeed)
    lines = [
        _line(
            "heads",
            fit.head,
            purpose=purpose,
            level=fit.level,
            fed_from=(FedFrom.BATTERY if on_battery else FedFrom.MAINS).value,
            setting=fit.configuration.name,
        )
    ]
    if fit.configuration.weight_kg >= LIGHTEST_OPTIC_KG:  # a focus setting weighs nothing and is not brought
        lines.append(_line("configurations", fit.configuration))
    lines += [_line("sheets", sheet) for sheet in fit.sheets]
    for part in fit.front.parts:
        area = (
            fit.front.frame.width_m * fit.front.frame.height_m if isinstance(part, Cloth) and fit.front.frame else 1.0
        )
        lines.append(_line(_kind_of(shelf, part), part, area_m2=area))
    on_head_kg = fit.head.weight_kg + fit.configuration.weight_kg + fit.front.on_head_kg
    grip = grip_of_head(shelf.in_use, payload_kg=on_head_kg, spigot_mm=fit.head.spigot_mm)
    for flat in fit.front.flats:
        grip += grip_of_flat(shelf.in_use, flat)
    lines += [_line(_kind_of(shelf, each), each, quantity=count) for each, count in Counter(grip).items()]
    if isinstance(need.feed, BatteryFeed):
        lines.append(_line("batteries", need.feed.kind, quantity=need.feed.count))
    return lines


def _line(
    kind: str,
    item: Item,
    *,
    quantity: int = 1,
    purpose: str = "",
    level: float = 1.0,
    fed_from: str = "mains",
    area_m2: float = 1.0,
    setting: str = "",
) -> dict[str, Any]:
    return {
        "kind": kind,
        "item": GEAR_KINDS[kind].write(item),
        "quantity": quantity,
        "purpose": purpose,
        "level": level,
        "fed_from": fed_from,
        "area_m2": area_m2,
        "setting": setting,
    }


def _kind_of(shelf: Shelf, part: Item) -> str:
    return next(kind for kind in GEAR_KINDS if any(each.slug == part.slug for each in getattr(shelf.in_use, kind)))


def _line_of(lines: list[BucketLineRow], number: int) -> BucketLineRow:
    line = next((each for each in lines if each.number == number), None)
    if line is None:
        raise NotFound("that line is no longer in the bucket")
    return line


@one_transaction
def set_quantity(session: Session, person_id: int, job_id: int, version: int, number: int, quantity: int) -> BucketView:
    """How many of one entry. Raises: NotFound, ChangedMeanwhile, BadValue."""
    row = lock_job(session, person_id, job_id, version)
    lines = lines_of(session, [job_id])
    line = _line_of(lines, number)
    if not 1 <= quantity <= MOST_OF_ONE_THING:
        raise BadValue("quantity", quantity, f"1 to {MOST_OF_ONE_THING}; for none, remove it")
    before = snapshot(lines)
    if line.quantity == quantity:
        return bucket_view(session, row)
    text = f"made it {quantity} × {line.item['name']} (was {line.quantity})"
    line.quantity = quantity
    return _recorded(session, row, person_id, text, before)


@one_transaction
def set_purpose(session: Session, person_id: int, job_id: int, version: int, number: int, purpose: str) -> BucketView:
    """What one entry is for. Raises: NotFound, ChangedMeanwhile, BadValue."""
    row = lock_job(session, person_id, job_id, version)
    lines = lines_of(session, [job_id])
    line = _line_of(lines, number)
    require_showable("purpose", " ".join(purpose.split()), longest=LONGEST_PURPOSE)
    if line.purpose == " ".join(purpose.split()):
        return bucket_view(session, row)
    before = snapshot(lines)
    line.purpose = " ".join(purpose.split())
    return _recorded(session, row, person_id, f"noted what {line.item['name']} is for", before)


@one_transaction
def take_out(session: Session, person_id: int, job_id: int, version: int, number: int) -> BucketView:
    """Remove an entry with all that hangs on it. Raises: NotFound, ChangedMeanwhile."""
    row = lock_job(session, person_id, job_id, version)
    lines = lines_of(session, [job_id])
    line = _line_of(lines, number)
    before, text = snapshot(lines), f"removed {line.item['name']}"
    for each in lines:
        if number in (each.number, each.parent_number):
            session.delete(each)
    return _recorded(session, row, person_id, text, before)
