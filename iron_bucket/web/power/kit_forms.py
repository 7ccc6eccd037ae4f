"""What the forms of the Power station ask, list by list, and what a new piece begins as."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from iron_bucket.core.bench.head import BUILT_IN, POWER_STATION
from iron_bucket.core.power.job.kit import BoardKind, JobPower, Phases
from iron_bucket.core.power.lead_choice import HOUSE_PLUG, Laid
from iron_bucket.core.power.trip import BreakerCurve
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.power.view import PowerView
from iron_bucket.web.shared.typed_fields import Row, Takes, TypedField, changes_of, field, read_row


@dataclass(frozen=True, slots=True, kw_only=True)
class KitList:
    """One list of what a job brings: what it is called, and the form of one."""

    where: str
    title: str
    noun: str
    fields: tuple[TypedField, ...]
    begins: Mapping[str, Any]


TIME_FIELDS = (
    field("rig_min", "Rig", unit="min"),
    field("shoot_min", "Shoot", unit="min"),
    field("strike_min", "Strike", unit="min"),
    field("overlap_min", "Overlap", unit="min"),
    field("lit_share", "Lit of the shoot", Takes.PERCENT),
)
JOB_FIELDS = (
    field("is_straight", "Leads lie straight, not along the walls", Takes.YES),
    field("laid", "Leads lie", Takes.CHOICE, [each.value for each in Laid]),
)


def _item(view: PowerView, role: str) -> TypedField:
    found = [(each.slug, each.name) for each in view.gear.accessories if each.role == role and not each.is_retired]
    return field("item", "Of the bench", Takes.CHOICE, [("", "not said: no weight, no price"), *found])


def _at(view: PowerView) -> tuple[TypedField, ...]:
    places = {str(each.place_id): each.place_name for each in view.passes}
    return (
        field("place_id", "In", Takes.CHOICE, list(places.items())),
        field("x_m", "x, to the right", Takes.LENGTH),
        field("y_m", "y, up the plan", Takes.LENGTH),
    )


def _feeds(view: PowerView) -> list[tuple[str, str]]:
    """Outlets of all places of the job, and its power stations."""
    found = {"": "nothing yet"}
    for around in view.contents.places.values():
        found |= {each.socket_id: f"{each.name}, {each.circuit} ({around.place.name})" for each in around.place.sockets}
    stations = (each for each in view.gear.batteries if each.mount == POWER_STATION and view.stock.get(each.slug))
    return [*found.items(), *((each.slug, each.name) for each in stations)]


def lists_of(view: PowerView) -> tuple[KitList, ...]:
    """Every list with its form; choices are those of this job."""
    where, feeds = _at(view), _feeds(view)
    kinds = [(each.slug, each.name) for each in view.gear.batteries if each.mount != BUILT_IN and not each.is_retired]
    passes = [("0", "all day"), *((str(e.setup_id), f"{e.setup.name}, {e.setup.width.value}") for e in view.passes)]
    place = str(view.passes[0].place_id) if view.passes else ""
    phases, volts = [each.value for each in Phases], view.rules.voltage_v
    spot = {"place_id": place, "x_m": 0.0, "y_m": 0.0, "item": ""}
    return (
        KitList(
            where="batteries",
            title="Batteries and power stations",
            noun="battery",
            fields=(
                field("kind", "Kind", Takes.CHOICE, kinds),
                field("name", "Which", Takes.TEXT, hint="serials, a case"),
                field("count", "How many"),
                field("health", "Health", Takes.PERCENT),
                field("cycles", "Cycles"),
            ),
            begins={"kind": kinds[0][0] if kinds else "", "name": "", "count": 2, "health": 1.0, "cycles": 0},
        ),
        KitList(
            where="chargers",
            title="Chargers",
            noun="charger",
            fields=(
                field("name", "Name", Takes.TEXT),
                _item(view, "charger"),
                field("kinds", "Charges", Takes.SEVERAL, kinds),
                field("bays", "Bays"),
                field("bay_w", "Each gives", unit="W"),
                field("efficiency", "Efficiency", Takes.PERCENT),
                field("slow_from", "Slower from", Takes.PERCENT),
                field("slow_share", "Then gives", Takes.PERCENT),
                *where,
                field("feed", "Fed from", Takes.CHOICE, feeds),
            ),
            begins=spot
            | {
                "name": "Charger",
                "kinds": [],
                "bays": 2,
                "bay_w": 90,
                "efficiency": 0.9,
                "slow_from": 0.8,
                "slow_share": 0.5,
                "feed": "",
            },
        ),
        KitList(
            where="generators",
            title="Generators",
            noun="generator",
            fields=(
                field("name", "Name", Takes.TEXT),
                _item(view, "generator"),
                *where,
                field("voltage_v", "Volts, leg to neutral"),
                field("phases", "Gives", Takes.CHOICE, phases),
                field("continuous_w", "All day", unit="W"),
                field("peak_w", "For a moment", unit="W"),
                field("tank_l", "Tank, litres", is_fine=True),
                field("idle_l_h", "Burns with nothing on it, l/h", is_fine=True),
                field("full_l_h", "Burns full, l/h", is_fine=True),
                field("noise_dba", "Noise, dB(A)", may_be_empty=True),
                field("noise_at_m", "Measured at", Takes.LENGTH),
                field("outlet", "Outlet", Takes.TEXT),
            ),
            begins=spot
            | {
                "name": "Generator",
                "voltage_v": volts,
                "phases": Phases.ONE.value,
                "continuous_w": 2600,
                "peak_w": 2800,
                "tank_l": 5.7,
                "idle_l_h": 0.4,
                "full_l_h": 1.4,
                "noise_dba": 58,
                "noise_at_m": 7.0,
                "outlet": HOUSE_PLUG,
            },
        ),
        KitList(
            where="boards",
            title="Boxes, tie-ins, vehicle sockets",
            noun="box",
            fields=(
                field("name", "Name", Takes.TEXT),
                _item(view, "distribution box"),
                field("kind", "Kind", Takes.CHOICE, [each.value for each in BoardKind]),
                *where,
                field("voltage_v", "Volts, leg to neutral"),
                field("phases", "Legs", Takes.CHOICE, phases),
                field("breaker_a", "Breaker of each leg, A"),
                field("used_a", "Drawn of each already, A"),
                field("curve", "Opens by", Takes.CHOICE, [(e.value, f"curve {e.value}") for e in BreakerCurve]),
                field("rcd_ma", "Leakage protection, mA; 0 none"),
                field("outlet", "Outlet", Takes.TEXT),
            ),
            begins=spot
            | {
                "name": "Box",
                "kind": BoardKind.BOX.value,
                "voltage_v": volts,
                "phases": Phases.THREE.value if volts > 200 else Phases.SPLIT.value,
                "breaker_a": 32,
                "used_a": 0,
                "curve": BreakerCurve.C.value,
                "rcd_ma": 30,
                "outlet": HOUSE_PLUG,
            },
        ),
        KitList(
            where="loads",
            title="Everything else with watts",
            noun="load",
            fields=(
                field("name", "Name", Takes.TEXT),
                field("watts", "Watts", unit="W"),
                field("power_factor", "Power factor", is_fine=True),
                field("start_va", "Starts with, VA; 0 as it runs"),
                field("setup_id", "In use", Takes.CHOICE, passes),
                *where,
                field("feed", "Fed from", Takes.CHOICE, feeds),
            ),
            begins={name: value for name, value in spot.items() if name != "item"}
            | {"name": "Monitor", "watts": 80, "power_factor": 0.95, "start_va": 0, "setup_id": "0", "feed": ""},
        ),
    )


#: Fields of a choice that hold a number.
_NUMBERS = ("place_id", "setup_id", "count", "bays", "cycles")


def _numbered(row: Row) -> Row:
    """Choices are texts, and counts were typed with a point perhaps."""
    return {key: _whole(value) if key in _NUMBERS else value for key, value in row.items()}


def _whole(value: Any) -> Any:
    """A whole number as one; anything else is left for its own field to refuse."""
    try:
        return int(value) if float(value).is_integer() else value
    except (TypeError, ValueError, OverflowError):
        return value


def shown_row(row: Row) -> Row:
    """As the form's choices are named."""
    return row | {key: str(row[key]) for key in ("place_id", "setup_id") if key in row}


def next_kit_id(power: JobPower, noun: str) -> str:
    """An id that nothing of the job's power bears."""
    lists = (power.generators, power.boards, power.batteries, power.chargers, power.loads)
    taken, number = {each.piece_id for some in lists for each in some}, 1
    while f"{noun}-{number}" in taken:
        number += 1
    return f"{noun}-{number}"


def added_kit(pieces: KitList, power: JobPower, form: Any, units: UnitSystem) -> Row:
    """A change that adds a piece from its form. Raises: BadValue."""
    row = _numbered(dict(pieces.begins) | read_row(pieces.fields, form, units))
    return {"operation": "add", "where": pieces.where, "to": row | {"piece_id": next_kit_id(power, pieces.noun)}}


def changed_kit(pieces: KitList, piece_id: str, form: Any, units: UnitSystem) -> list[Row]:
    """Changes to one piece from its form; none where nothing differs. Raises: BadValue."""
    if form.get("out"):
        return [{"operation": "remove", "where": pieces.where, "piece_id": piece_id}]
    to, was = changes_of(pieces.fields, form, units)
    if not to:
        return []
    row = {"to": _numbered(to), "was": _numbered(was)}
    return [{"operation": "set", "where": pieces.where, "piece_id": piece_id} | row]
