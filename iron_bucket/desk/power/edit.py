"""Change what hangs where and what the job brings: every change can be undone from the Power station."""

from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.job.kit import JobPower, Pin, pin_of
from iron_bucket.core.power.job.load_board import BatteryBar, CircuitBar, LoadBoard
from iron_bucket.core.power.job.outlets import fed_place
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.shared_board import SharedBoard, nearest_outlet, shared_board, takes_volts
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch, record, step
from iron_bucket.desk.job_contents import kept_power
from iron_bucket.desk.jobs import require_job
from iron_bucket.desk.places import get_place, surroundings_of
from iron_bucket.desk.power.generators import loudest_dba
from iron_bucket.desk.power.view import PowerView, power_scope, power_view
from iron_bucket.desk.setups.edit import put_changes
from iron_bucket.desk.setups.view import get_setup, read_setup
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.change_json import Outdated, change_row, summary, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.history import row_state
from iron_bucket.store.power import PowerRow, locked_power_row

Row = dict[str, Any]


@one_transaction
def change_power(session: Session, person_id: int, job_id: int, changes: list[Row], text: str = "") -> PowerView:
    """Some changes to what the job brings, or none of them. Raises: NotFound, BadValue, ChangedMeanwhile."""
    require_job(session, person_id, job_id)
    touch, before, power = _put_power(session, job_id, changes)
    names = _names(before) | _names(power)
    record(session, power_scope(job_id), person_id, text or summary(changes, names), [touch])
    session.flush()
    return power_view(session, person_id, job_id)


@one_transaction
def put_power(session: Session, person_id: int, job_id: int, changes: list[Row]) -> None:
    """What a job brings to begin with, from a file or the demo: nothing that could be undone."""
    require_job(session, person_id, job_id)
    _put_power(session, job_id, changes)


def put_power_changes(session: Session, job_id: int, changes: list[Row]) -> Touch:
    """Written down within an open transaction; gives what it touched, that still has to be noted."""
    return _put_power(session, job_id, changes)[0]


def _put_power(session: Session, job_id: int, changes: list[Row]) -> tuple[Touch, JobPower, JobPower]:
    """Written down, as it was and as it is; what it touched still has to be noted."""
    row = locked_power_row(session, job_id)
    before = row_state(row) if row else None
    old = kept_power(row.document) if row else JobPower()
    try:
        power = read_record(JobPower, with_changes(write_record(old), changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    for place_id in {each.place_id for each in power.sources}:
        fed_place(surroundings_of(session, get_place(session, place_id)).place, place_id, power)
    if row is None:
        row = PowerRow(job_id=job_id, document={}, version=0, changed_at=now())
        session.add(row)
    row.document, row.version, row.changed_at = write_record(power), row.version + 1, now()
    session.flush()
    return Touch(table="power", key=job_id, before=before, after=row_state(row)), old, power


def _names(power: JobPower) -> dict[str, str]:
    lists = (power.generators, power.boards, power.batteries, power.chargers, power.loads)
    return {each.piece_id: each.name for some in lists for each in some if each.name}


@one_transaction
def hang(
    session: Session, person_id: int, job_id: int, setup_id: int, load_id: str, where: str, was: str | None = None
) -> PowerView:
    """One load of a pass somewhere else: ``where`` is ``circuit:`` or ``battery:`` with its name or slug, or nothing.
    ``was``: what fed it when that was asked, None where nobody says.

    Raises: NotFound; BadValue for what cannot hang there; ChangedMeanwhile where it hangs otherwise by now.
    """
    view = _locked_view(session, person_id, job_id, setup_id)
    each = _pass(view, setup_id)
    board = view.boards[setup_id]
    load = next((load for load in board.loads if load.load_id == load_id), None)
    if load is None:
        raise NotFound("that load is no longer there")
    if was is not None and was != load.feed:
        raise ChangedMeanwhile(f"{load.name} was hung elsewhere meanwhile; here is how it stands now")
    feed = _feed(view, each, board, load, where)
    if feed == load.feed:
        return view
    battery = view.gear.find(BatteryKind, feed)
    name = battery.name if battery else where.partition(":")[2] or "nothing"
    return _kept(session, person_id, job_id, each, {load_id: feed}, f"hung {load.name} on {name}")


def _locked_view(session: Session, person_id: int, job_id: int, setup_id: int) -> PowerView:
    """Of a job whose power and one pass nobody else changes meanwhile."""
    get_setup(session, job_id, setup_id, locked=True)  # first: what is read before the lock would be older
    locked_power_row(session, job_id)
    return power_view(session, person_id, job_id)


def _pass(view: PowerView, setup_id: int) -> JobPass:
    found = view.pass_of(setup_id)
    if found is None:
        raise NotFound("there is no such pass in this job now")
    return found


def _feed(view: PowerView, each: JobPass, board: LoadBoard, load: PassLoad, where: str) -> str:
    kind, _, name = where.partition(":")
    if not where:
        return ""
    bar: CircuitBar | BatteryBar | None = None
    if kind == "circuit":
        bar = next((bar for bar in board.bars if bar.name == name), None)
    elif kind == "battery":
        bar = next((bar for bar in board.batteries if bar.kind.slug == name), None)
    if bar is None or (isinstance(bar, CircuitBar) and not bar.sockets):
        raise BadValue("fed from", repr(name), "a circuit of this place with a socket, or batteries of the job")
    if isinstance(bar, BatteryBar):
        if not bar.can_feed(load):
            raise BadValue(
                "fed from", bar.kind.name, f"something that {load.name} takes, and that bears its {load.watts:.0f} W"
            )
        return bar.kind.slug
    if not takes_volts(load, bar):
        raise BadValue(
            "fed from", f"{bar.name}, {bar.circuit.voltage_v:g} V", f"a circuit with the volts that {load.name} takes"
        )
    around = view.surroundings(each)
    return nearest_outlet(load, bar, around.place, around.lead_ways)[0].socket_id


def _kept(
    session: Session,
    person_id: int,
    job_id: int,
    each: JobPass,
    feeds: dict[str, str],
    text: str,
    more: list[Row] | None = None,
) -> PowerView:
    """Lamps are fed by their set-up, everything else by the job's own lists; one step back undoes both."""
    found = read_setup(session, person_id, job_id, each.setup_id, locked=True)
    lamps = {lamp.piece_id for lamp in found.setup.lamps}
    rows = [
        {"operation": "set", "where": "lamps", "piece_id": load_id, "to": {"feed": feed}}
        for load_id, feed in feeds.items()
        if load_id in lamps
    ] + (more or [])
    touches = [put_changes(found, rows)[0]] if rows else []
    others = [_fed_row(found.contents.power, load_id, feed) for load_id, feed in feeds.items() if load_id not in lamps]
    if others:
        touches.append(_put_power(session, job_id, others)[0])
    record(session, power_scope(job_id), person_id, text, touches)
    session.flush()
    return power_view(session, person_id, job_id)


def _fed_row(power: JobPower, load_id: str, feed: str) -> Row:
    where = "chargers" if any(each.piece_id == load_id for each in power.chargers) else "loads"
    return {"operation": "set", "where": where, "piece_id": load_id, "to": {"feed": feed}}


@one_transaction
def take_way_out(session: Session, person_id: int, job_id: int, setup_id: int, circuit: str, text: str) -> PowerView:
    """One of the ways out of an overloaded circuit, or without one of the ways to feed what hangs nowhere, by its
    words.

    Raises: ChangedMeanwhile where it is none any more.
    """
    view = _locked_view(session, person_id, job_id, setup_id)
    each = _pass(view, setup_id)
    board = view.boards[setup_id]
    bar = next((bar for bar in board.over if bar.name == circuit), None)
    found = view.ways_out(each, bar) if bar else ()
    if not circuit:
        found = tuple(way for load in board.unfed for way in view.ways_in(each, load))
    way = next((way for way in found if way.text == text), None)
    if way is None:
        raise ChangedMeanwhile(f"“{text}” is no longer a way out; here is how it stands now")
    feeds = {way.load_id: way.feed} if way.feed else {}
    rows = [change_row(change) for change in way.changes]
    return _kept(session, person_id, job_id, each, feeds, way.within, rows)


@one_transaction
def share_out(session: Session, person_id: int, job_id: int, setup_id: int) -> tuple[PowerView, SharedBoard]:
    """All loads of a pass over all that there is, pins left where they are."""
    view = _locked_view(session, person_id, job_id, setup_id)
    each = _pass(view, setup_id)
    around, day = view.surroundings(each), view.day_of(setup_id)
    timed = next(timed for timed in day.passes if timed.of.setup_id == setup_id)
    found = shared_board(
        view.boards[setup_id],
        around.place,
        around.lead_ways,
        view.power,
        setup_id,
        hours=(timed.strike_min - timed.lit_min) / 60.0,
        celsius=around.place.temperature_c,
        loudness_dba=loudest_dba(view, each),
    )
    if found.feeds:
        count = len(found.feeds)
        text = f"shared out: {count} load{'s' if count != 1 else ''} hung otherwise"
        view = _kept(session, person_id, job_id, each, found.feeds, text)
    return view, found


@one_transaction
def pin(session: Session, person_id: int, job_id: int, setup_id: int, load_id: str, *, is_pinned: bool) -> PowerView:
    """Leave a load where it hangs when loads are shared out, or not any more."""
    view = _locked_view(session, person_id, job_id, setup_id)
    loads = view.boards[_pass(view, setup_id).setup_id].loads
    name = next((load.name for load in loads if load.load_id == load_id), load_id)
    if view.power.is_pinned(setup_id, load_id) is is_pinned:
        return view
    piece = write_record(Pin(piece_id=pin_of(setup_id, load_id)))
    row: Row = {"operation": "add", "where": "pins", "to": piece}
    if not is_pinned:
        row = {"operation": "remove", "where": "pins", "piece_id": piece["piece_id"]}
    touch, *_ = _put_power(session, job_id, [row])
    record(session, power_scope(job_id), person_id, f"{'pinned' if is_pinned else 'unpinned'} {name}", [touch])
    session.flush()
    return power_view(session, person_id, job_id)


@one_transaction
def step_power(session: Session, person_id: int, job_id: int, number: int, *, is_back: bool) -> PowerView:
    """Undo or redo one step. Raises: NotFound, ChangedMeanwhile."""
    require_job(session, person_id, job_id)
    step(session, power_scope(job_id), person_id, number, is_back=is_back)
    return power_view(session, person_id, job_id)
