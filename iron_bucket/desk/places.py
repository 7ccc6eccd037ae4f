"""Places: list, add, change, copy, put away; undo and redo without end."""

from collections.abc import Collection, Hashable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.outlets import fed_place
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch, note, record, step
from iron_bucket.desk.transaction import database_address, now, one_transaction
from iron_bucket.formats.change_json import Outdated, summary, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.history import NO_STEPS, Around, Scope, ScopeKind, around, row_state
from iron_bucket.store.places import PlaceRow, PlaceStamp, all_places, place_row, places_by_id
from iron_bucket.store.setups import setups_in_place


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PlaceView:
    """A place as a page shows it. ``steps``: what would be undone or done again."""

    place_id: int
    place: Place
    surroundings: Surroundings
    version: int
    is_archived: bool
    changed_at: datetime
    steps: Around = NO_STEPS


_SURROUNDINGS: BoundedCache[Hashable, Surroundings] = BoundedCache(48)


def surroundings_of(session: Session, row: PlaceRow) -> Surroundings:
    """A place made ready once for each change of it; rooms stay solved while nobody changes it."""
    key = _key(session, PlaceStamp(row.id, row.name, row.version, row.changed_at))
    return _SURROUNDINGS.get_or_make(key, lambda: Surroundings(read_record(Place, row.document)))


def _key(session: Session, stamp: PlaceStamp) -> Hashable:
    return database_address(session), stamp


def all_surroundings(
    session: Session, stamps: Collection[PlaceStamp]
) -> tuple[dict[int, Surroundings], dict[int, str]]:
    """Of some places, by their numbers, and why those that cannot be read cannot; no query where all are at hand."""
    found = {stamp.place_id: _SURROUNDINGS.get(_key(session, stamp)) for stamp in stamps}
    missing = {place_id for place_id, around in found.items() if around is None}
    trouble = {}
    for row in places_by_id(session, missing) if missing else []:
        try:
            found[row.id] = surroundings_of(session, row)
        except BadValue as bad:
            trouble[row.id] = f"{row.name}: {bad}"
    return {place_id: around for place_id, around in found.items() if around}, trouble


_FED: BoundedCache[Hashable, Surroundings] = BoundedCache(24)


def fed_surroundings(bare: Surroundings, place_id: int, power: JobPower) -> Surroundings:
    """A place with the outlets that a job brings there. Raises: BadValue."""
    brought = tuple(each for each in power.sources if each.place_id == place_id)
    if not brought:
        return bare
    return _FED.get_or_make((bare, brought), lambda: bare.fed_by(fed_place(bare.place, place_id, power).place))


def _scope(place_id: int) -> Scope:
    return Scope(ScopeKind.PLACE, place_id)


def _view(session: Session, row: PlaceRow, steps: Around | None = None) -> PlaceView:
    """``steps``: what undo and redo would do, where it is at hand."""
    steps = steps or around(session, _scope(row.id))
    surroundings = surroundings_of(session, row)
    return PlaceView(
        place_id=row.id,
        place=surroundings.place,
        surroundings=surroundings,
        version=row.version,
        is_archived=row.is_archived,
        changed_at=row.changed_at,
        steps=steps,
    )


def get_place(session: Session, place_id: int, *, locked: bool = False) -> PlaceRow:
    """Raises: NotFound."""
    row = place_row(session, place_id, locked=locked)
    if row is None:
        raise NotFound("there is no such place")
    return row


def surroundings_at(session: Session, place_id: int, power: JobPower) -> Surroundings:
    """A place as it stands now with a job's outlets, in one query. Raises: NotFound."""
    return fed_surroundings(surroundings_of(session, get_place(session, place_id)), place_id, power)


@one_transaction
def list_places(session: Session) -> tuple[PlaceView, ...]:
    """All places that can be read, the archived ones last: one query."""
    return _readable(session)[0]


@one_transaction
def list_places_and_trouble(session: Session) -> tuple[tuple[PlaceView, ...], tuple[str, ...]]:
    """The same, and a sentence for each that cannot be read."""
    return _readable(session)


def _readable(session: Session) -> tuple[tuple[PlaceView, ...], tuple[str, ...]]:
    rows, views, trouble = all_places(session), [], []
    for row in rows:
        try:
            views.append(_view(session, row, NO_STEPS))
        except BadValue as bad:
            trouble.append(f"{row.name}: {bad}")
    return tuple(views), tuple(trouble)


@one_transaction
def open_place(session: Session, place_id: int) -> PlaceView:
    """Raises: NotFound."""
    return _view(session, get_place(session, place_id))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedSetup:
    """A set-up of a job in a place, by its names."""

    job_id: int
    job_name: str
    setup_id: int
    name: str
    width: str


@one_transaction
def setups_here(session: Session, person_id: int, place_id: int) -> tuple[PlacedSetup, ...]:
    """Of this person's jobs, in their order: one query."""
    return tuple(
        PlacedSetup(
            job_id=row.job_id,
            job_name=job_name,
            setup_id=row.id,
            name=str(row.document.get("name", "a set-up")),
            width=str(row.document.get("width", "")),
        )
        for row, job_name in setups_in_place(session, person_id, place_id)
    )


@one_transaction
def add_place(session: Session, person_id: int, place: Place) -> int:
    """A new place; gives its number."""
    number = _added(session, place)
    note(session, _scope(number), person_id, f"recorded {place.name}")
    return number


@one_transaction
def copy_place(session: Session, person_id: int, place_id: int) -> int:
    """The same once more under another name, for a day when it is dressed otherwise."""
    place = _view(session, get_place(session, place_id)).place
    document = write_record(place) | {"name": f"{place.name[:70]}, copy"}
    number = _added(session, read_record(Place, document))
    note(session, _scope(number), person_id, f"copied {place.name}")
    return number


def put_place(session: Session, place: Place, here: Mapping[str, PlaceRow]) -> int:
    """The number of a place that is here alike, by its name, else of a new one; within an open transaction."""
    known = here.get(place.name)
    if known is not None and known.document == write_record(place):
        return known.id
    return _added(session, place)


def _added(session: Session, place: Place) -> int:
    row = PlaceRow(
        name=place.name, document=write_record(place), version=1, is_archived=False, created_at=now(), changed_at=now()
    )
    session.add(row)
    session.flush()
    return row.id


@one_transaction
def change_place(session: Session, person_id: int, place_id: int, changes: list[dict[str, Any]]) -> PlaceView:
    """Some changes at once, or none. Raises: NotFound, BadValue, ChangedMeanwhile."""
    row = get_place(session, place_id, locked=True)
    try:
        place = read_record(Place, with_changes(row.document, changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    before = row_state(row)
    row.name, row.document = place.name, write_record(place)
    row.version, row.changed_at = row.version + 1, now()
    touch = Touch(table="places", key=place_id, before=before, after=row_state(row))
    record(session, _scope(place_id), person_id, summary(changes, _names(place)), [touch])
    session.flush()
    return _view(session, row)


def _names(place: Place) -> dict[str, str]:
    named = [
        *((each.room_id, each.name) for each in place.rooms),
        *((each.lamp_id, each.name) for each in place.house_lamps),
    ]
    named += [
        *((each.socket_id, each.name) for each in place.sockets),
        *((each.area_id, each.name) for each in place.kit_areas),
    ]
    return dict(named)


@one_transaction
def step_place(session: Session, person_id: int, place_id: int, number: int, *, is_back: bool) -> PlaceView:
    """Undo or redo one step. Raises: NotFound, ChangedMeanwhile."""
    row = get_place(session, place_id, locked=True)
    step(session, _scope(place_id), person_id, number, is_back=is_back)
    return _view(session, row)


@one_transaction
def archive_place(session: Session, person_id: int, place_id: int, *, is_archived: bool) -> None:
    """Put a place away, or bring it back; set-ups in it stay."""
    row = get_place(session, place_id, locked=True)
    row.is_archived = is_archived
    note(session, _scope(place_id), person_id, f"{'archived' if is_archived else 'restored'} the place")
