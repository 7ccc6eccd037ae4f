"""The load board of one pass: look at it, hang a load elsewhere, pin it, share out, take a way out, undo."""

from dataclasses import dataclass
from itertools import count
from typing import Any

from flask import g, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.power.job.load_board import BatteryBar, CircuitBar, LoadBoard
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.shared_board import SharedBoard, takes_volts
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.core.power.job.ways_out import WayOut
from iron_bucket.core.power.job.worst_minute import WorstMinute
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.power import edit
from iron_bucket.desk.power.view import PowerView, open_power
from iron_bucket.web.power.blueprint import bp
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.letters import letters_of
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.load_bars import WIDTHS, DrawnBar, battery_bar, circuit_bar, marks_of
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id

VIEW: dict[str, Any] = {"page": "power/page.html", "fragment": "power/_board.html"}
Answer = Response | str | tuple[str, int]
#: Sources that a single figure hangs a load on.
_KEYS = 9


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardRow:
    """A source as the board shows it: ``where`` names it in a form; ``key`` hangs the chosen load there; ``worst``: of
    its day.
    """

    where: str
    name: str
    bar: CircuitBar | BatteryBar
    drawn: dict[str, DrawnBar]
    key: str
    takes_chosen: bool
    holds_chosen: bool
    worst: WorstMinute | None = None

    @property
    def is_circuit(self) -> bool:
        """Or a kind of battery."""
        return isinstance(self.bar, CircuitBar)


@bp.get("")
def board(job_id: int) -> tuple[str, int]:
    """The board of a pass, the first where none is named."""
    view = open_power(g.session, person_id(), job_id)
    return reply(**VIEW, **context(view, whole_number(request.args.get("pass"))))


def context(
    view: PowerView, setup_id: int | None, bad: Exception | None = None, shared: SharedBoard | None = None
) -> dict[str, Any]:
    """What the board shows."""
    g.job, g.units = view.job, view.job.rules.units
    each = view.pass_of(setup_id)
    found: dict[str, Any] = {
        "view": view,
        "each": each,
        "bad": in_words(bad) if bad else "",
        "shared": shared,
        "here": "board",
    }
    if each is None:
        return found
    loads, day = view.boards[each.setup_id], view.day_of(each.setup_id)
    chosen = next((load for load in loads.loads if load.load_id == request.values.get("load")), None)
    ids = [load.load_id for load in loads.loads]
    after = ids[(ids.index(chosen.load_id) + 1) % len(ids)] if chosen else ids[0] if ids else ""
    return found | {
        "board": loads,
        "rows": _rows(view, each, loads, chosen),
        "letters": dict.fromkeys(ids, "") | letters_of(each.setup, view.gear),
        "chosen": chosen,
        "after": after,
        "is_pinned": chosen is not None and view.power.is_pinned(each.setup_id, chosen.load_id),
        "day": day,
        "ways": _ways(view, each),
        "cautions": view.cautions(each),
        "left_out": view.loads[each.setup_id].left_out,
        "celsius": view.surroundings(each).place.temperature_c,
    }


def _rows(view: PowerView, each: JobPass, loads: LoadBoard, chosen: PassLoad | None) -> list[BoardRow]:
    pinned = frozenset(load.load_id for load in loads.loads if view.power.is_pinned(each.setup_id, load.load_id))
    marks = marks_of(
        loads,
        letters_of(each.setup, view.gear),
        white=each.setup.look.white,
        chosen=chosen.load_id if chosen else "",
        pinned=pinned,
    )
    worst = view.worst(view.day_of(each.setup_id))
    found: list[BoardRow] = []
    for bar in loads.bars:
        found.append(
            BoardRow(
                where=f"circuit:{bar.name}",
                name=bar.name,
                bar=bar,
                drawn={name: circuit_bar(bar, marks, width) for name, width in WIDTHS.items()},
                key=_key(found),
                takes_chosen=chosen is not None and bool(bar.sockets) and takes_volts(chosen, bar),
                holds_chosen=chosen in bar.loads,
                worst=worst.get((each.place_id, bar.name)),
            )
        )
    for battery in loads.batteries:
        found.append(
            BoardRow(
                where=f"battery:{battery.kind.slug}",
                name=battery.kind.name,
                bar=battery,
                drawn={name: battery_bar(battery, marks, width) for name, width in WIDTHS.items()},
                key=_key(found),
                takes_chosen=chosen is not None and battery.can_feed(chosen),
                holds_chosen=chosen in battery.loads,
            )
        )
    return found


def _key(before: list[BoardRow]) -> str:
    return str(len(before) + 1) if len(before) < _KEYS else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Ways:
    """Ways out of one trouble, each with the key that takes it; ``circuit`` that has too much on it, empty for a load
    that hangs nowhere.
    """

    title: str
    circuit: str
    rows: tuple[tuple[str, WayOut], ...]


def _ways(view: PowerView, each: JobPass) -> list[Ways]:
    """Of every overloaded circuit, then of every load that draws power and hangs nowhere."""
    board, keys = view.boards[each.setup_id], count(1)
    found = [(f"{bar.name} is {-bar.spare_a:.1f} A over", bar.name, view.ways_out(each, bar)) for bar in board.over]
    for load in board.unfed:
        if load.watts > 0.0:
            found.append((f"{load.name} hangs nowhere", "", view.ways_in(each, load)))
    return [
        Ways(title=title, circuit=circuit, rows=tuple((_shifted(next(keys)), way) for way in ways))
        for title, circuit, ways in found
    ]


def _shifted(number: int) -> str:
    return f"Shift+Digit{number}" if number <= _KEYS else ""


def _answer(view: PowerView, setup_id: int | None, shared: SharedBoard | None = None) -> Response | str:
    asked: dict[str, Any] = {"pass": setup_id, "load": request.form.get("load") or None}
    address = url_for("power.board", job_id=view.job.job_id, **asked)
    return after_change(address, fragment=VIEW["fragment"], **context(view, setup_id, shared=shared))


def _refused(job_id: int, setup_id: int | None, bad: Exception) -> tuple[str, int]:
    view = open_power(g.session, person_id(), job_id)
    return reply(**VIEW, status=409 if isinstance(bad, ChangedMeanwhile) else 422, **context(view, setup_id, bad))


def _pass_number() -> int:
    """Raises: BadValue for a form without one."""
    number = whole_number(request.form.get("pass"))
    if number is None:
        raise BadValue("pass", repr(request.form.get("pass", "")), "the number of a pass")
    return number


@bp.post("/hang")
def hang(job_id: int) -> Answer:
    """A load on another source."""
    number, form = _pass_number(), request.form
    try:
        where = form.get("load", ""), form.get("where", ""), form.get("was")
        view = edit.hang(g.session, person_id(), job_id, number, *where)
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, number, bad)
    return _answer(view, number)


@bp.post("/pin")
def pin(job_id: int) -> Answer:
    """Sharing out leaves it where it hangs, or not any more."""
    number, is_pinned = _pass_number(), request.form.get("pinned") == "yes"
    try:
        view = edit.pin(g.session, person_id(), job_id, number, request.form.get("load", ""), is_pinned=is_pinned)
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, number, bad)
    return _answer(view, number)


@bp.post("/share")
def share(job_id: int) -> Answer:
    """All loads of a pass shared out."""
    number = _pass_number()
    try:
        view, found = edit.share_out(g.session, person_id(), job_id, number)
    except (BadValue, NoAnswer, ChangedMeanwhile) as bad:
        return _refused(job_id, number, bad)
    return _answer(view, number, found)


@bp.post("/way")
def take_way(job_id: int) -> Answer:
    """One of the ways out of an overloaded circuit."""
    number, form = _pass_number(), request.form
    try:
        view = edit.take_way_out(g.session, person_id(), job_id, number, form.get("circuit", ""), form.get("text", ""))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(job_id, number, bad)
    return _answer(view, number)


@bp.post("/step/<any(back,on):way>/<int:number>")
def step(job_id: int, way: str, number: int) -> Answer:
    """Undo (``back``) or redo, from whichever page of the station."""
    setup_id = whole_number(request.form.get("pass"))
    try:
        view = edit.step_power(g.session, person_id(), job_id, number, is_back=way == "back")
    except ChangedMeanwhile as bad:
        return _refused(job_id, setup_id, bad)
    return _answer(view, setup_id)
