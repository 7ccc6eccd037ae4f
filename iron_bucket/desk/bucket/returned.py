"""What came back otherwise: units, stock and their history follow."""

from collections.abc import Mapping, Sequence

from sqlalchemy.orm import Session

from iron_bucket.core.bench.unit import Condition
from iron_bucket.core.bucket.hire import Source
from iron_bucket.core.bucket.ticks import Tick, Trouble
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.bench.edit import change_piece, get_piece
from iron_bucket.desk.errors import NotFound
from iron_bucket.store.bench import GearRow

_CONDITIONS = {
    Trouble.DAMAGED: Condition.DAMAGED,
    Trouble.MISSING: Condition.MISSING,
    Trouble.USED_UP: Condition.MISSING,
}


def take_returned(
    session: Session, person_id: int, job_name: str, ticks: Sequence[Tick], sources: Mapping[str, Source]
) -> None:
    """Each tick once: a unit takes the condition that it came back in, of what is ours and gone there are fewer; what a
    tick takes back is as it was. ``sources`` by thing, without units.
    """
    for tick in ticks:
        if not tick.trouble:
            continue
        slug, _, unit = tick.thing.partition("#")
        source = sources.get(slug)
        if unit:
            _unit(session, person_id, job_name, tick, unit)
        elif source is not None and source.own >= abs(tick.count):
            _stock(session, person_id, job_name, tick, slug.partition("~")[0])


def _piece(session: Session, slug: str) -> GearRow | None:
    try:
        return get_piece(session, slug)
    except NotFound:
        return None


def _unit(session: Session, person_id: int, job_name: str, tick: Tick, slug: str) -> None:
    row = _piece(session, slug)
    if row is None:
        return
    condition = _CONDITIONS[tick.trouble] if tick.count > 0 else Condition.GOOD
    faults = [*str(row.item.get("faults", "")).split(";"), *([tick.note] if tick.note and tick.count > 0 else [])]
    item = row.item | {"condition": condition.value, "faults": ";".join(filter(None, faults))}
    if not item["faults"]:
        del item["faults"]
    if item != row.item:
        touch = change_piece(session, row, item)
        said = f"{condition.value} after {job_name}" + (f": {tick.note}" if tick.note else "")
        record_bench(session, person_id, str(row.item["head_slug"]), f"{row.item['name']} {said}", [touch])


def _stock(session: Session, person_id: int, job_name: str, tick: Tick, slug: str) -> None:
    row = _piece(session, slug)
    if row is None or tick.trouble is Trouble.DAMAGED:
        return
    owned = max(int(row.item.get("owned") or 0) - tick.count, 0)
    touch = change_piece(session, row, row.item | {"owned": owned})
    said = (
        f"{abs(tick.count)} × {row.item['name']} {tick.trouble.value if tick.count > 0 else 'found'} after {job_name}"
    )
    record_bench(session, person_id, slug, said, [touch])
