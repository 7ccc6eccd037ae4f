"""Readings: put down one by one or as a table, struck out, brought back."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from sqlalchemy.orm import Session

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.bench.shelf import Shelf, reading_row_of, shelf_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.history import Touch
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.reading_rows import reading_of
from iron_bucket.formats.reading_table import BadRow, ReadingTable, proposed_uses, read_rows, read_table
from iron_bucket.store.history import row_state
from iron_bucket.store.readings import ReadingRow, column_map, keep_column_map

#: Walking away from a lamp: the next distance to stop at. Each is about one stop darker.
NEXT_SHARE = 2.0**0.5
FIRST_M, FARTHEST_M = 1.0, 30.0
ROUND_TO_M = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingView:
    """One reading as it stands on a page."""

    reading_id: int
    reading: Reading
    is_struck: bool
    made_at: datetime


def view_of(row: ReadingRow) -> ReadingView:
    """A stored reading."""
    return ReadingView(
        reading_id=row.id, reading=reading_of(Fields(row.item)), is_struck=row.is_struck, made_at=row.made_at
    )


def _checked(shelf: Shelf, reading: Reading) -> None:
    """Whether what a reading names is there. Raises: NotFound, BadValue."""
    gear = shelf.stated
    configuration = gear.find(Configuration, reading.configuration_slug)
    if configuration is None:
        raise NotFound("there is no such configuration on the bench")
    for field, slug, known in (
        ("modifier", reading.modifier_slug, [item.slug for item in gear.modifiers()]),
        ("frame", reading.frame_slug, [frame.slug for frame in gear.frames]),
        ("unit", reading.unit_slug, [unit.slug for unit in gear.units if unit.head_slug == configuration.head_slug]),
    ):
        if slug and slug not in known:
            raise BadValue(field, repr(slug), f"a {field} that is on the bench and belongs to this")
    if reading.modifier_slug in {cloth.slug for cloth in gear.cloths} and not (
        reading.frame_slug and reading.head_to_frame_m
    ):
        raise BadValue("frame", "missing", "for a cloth, its frame and how far the frame stands from the head")


@one_transaction
def add_reading(session: Session, person_id: int, readings: Sequence[Reading]) -> int:
    """Readings of one configuration; gives how many. Raises: NotFound, BadValue."""
    shelf = shelf_in(session)
    if not readings:
        raise BadValue("readings", "none", "one reading or more")
    for reading in readings:
        _checked(shelf, reading)
    rows = [reading_row_of(replace(each, taken_at=each.taken_at or datetime.now(UTC)), person_id) for each in readings]
    session.add_all(rows)
    session.flush()
    touches = [Touch(table="readings", key=row.id, before=None, after=row_state(row)) for row in rows]
    first = readings[0]
    name = _told(shelf, first)
    told = (
        f"read {first.net_lx:.4g} lx at {first.throw_m:g} m from {name}"
        if len(rows) == 1
        else f"logged {len(rows)} readings of {name}"
    )
    record_bench(session, person_id, _told_of(shelf, first), told, touches)
    return len(rows)


def _told(shelf: Shelf, reading: Reading) -> str:
    return f"{shelf.stated.head(_told_of(shelf, reading)).name}"


def _told_of(shelf: Shelf, reading: Reading) -> str:
    return shelf.stated.by_slug(Configuration, reading.configuration_slug).head_slug


@one_transaction
def strike(session: Session, person_id: int, reading_id: int, *, is_struck: bool) -> str:
    """Leave a reading out of every figure, or count it again; gives the configuration's slug. Raises: NotFound."""
    row = session.get(ReadingRow, reading_id, with_for_update=True)
    if row is None:
        raise NotFound("there is no such reading")
    before = row_state(row)
    if row.is_struck != is_struck:
        row.is_struck = is_struck
        shelf = shelf_in(session)
        reading = reading_of(Fields(row.item))
        told = f"{'struck out' if is_struck else 'counted again'} {reading.net_lx:.4g} lx at {reading.throw_m:g} m"
        touch = Touch(table="readings", key=row.id, before=before, after=row_state(row))
        record_bench(session, person_id, _told_of(shelf, reading), told, [touch])
    return row.configuration_slug


@dataclass(frozen=True, slots=True, kw_only=True)
class TableView:
    """A pasted table before it is kept: its cells, what each column is taken for, what would be kept and what not."""

    table: ReadingTable
    uses: tuple[str, ...]
    good: tuple[Reading, ...]
    bad: tuple[BadRow, ...]
    trouble: str
    is_remembered: bool


@one_transaction
def look_at_table(
    session: Session, person_id: int, data: bytes, uses: tuple[str, ...] | None, start: Reading, system: UnitSystem
) -> TableView:
    """Read a table without keeping anything. ``uses`` None: as this person said last time, else as the headings say.

    Raises: FormatError for what is no table.
    """
    table = read_table(data)
    remembered = column_map(session, person_id, table.signature)
    if uses is None and remembered is not None and len(remembered) == table.columns:
        uses = tuple(remembered)
    chosen = uses or proposed_uses(table, system)
    try:
        good, bad = read_rows(table, chosen, start)
    except BadValue as trouble:
        return TableView(table=table, uses=chosen, good=(), bad=(), trouble=str(trouble), is_remembered=False)
    return TableView(
        table=table, uses=chosen, good=good, bad=bad, trouble="", is_remembered=chosen == tuple(remembered or ())
    )


@one_transaction
def remember_columns(session: Session, person_id: int, table: ReadingTable, uses: tuple[str, ...]) -> None:
    """What the columns of such a table are, for the next time."""
    keep_column_map(session, person_id, table.signature, list(uses))


def next_throw_m(throws_m: Sequence[float]) -> float:
    """Where to stop next when walking away: one stop darker, on a round half metre."""
    if not throws_m:
        return FIRST_M
    wanted = max(throws_m) * NEXT_SHARE
    return min(max(round(wanted / ROUND_TO_M) * ROUND_TO_M, max(throws_m) + ROUND_TO_M), FARTHEST_M)
