"""What the forms of a place ask, list by list, and what a new piece begins as."""

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.places.place import WHAT_LAMPS_CAN, Cover, Gloss, OpeningKind, Place
from iron_bucket.core.power.lead_choice import HOUSE_PLUG
from iron_bucket.core.power.trip import BreakerCurve
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.errors import NotFound
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.web.shared.today import today
from iron_bucket.web.shared.typed_fields import Row, Takes, TypedField, changes_of, field, read_row, signed_length_m


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceList:
    """One list of a place: what it is called, the key that names a piece, and the form of one."""

    where: str
    title: str
    noun: str
    key: str
    fields: tuple[TypedField, ...]
    begins: Mapping[str, Any]


_POSITION = (field("x_m", "x, to the right", Takes.LENGTH), field("y_m", "y, up the plan", Takes.LENGTH))


def place_fields(place: Place) -> tuple[TypedField, ...]:
    """Of the place itself."""
    return (
        field("name", "Name", Takes.TEXT),
        field("latitude_deg", "Latitude, north positive", Takes.DEGREES),
        field("longitude_deg", "Longitude, east positive", Takes.DEGREES),
        field("time_zone", "Clock of the city", Takes.ZONE, hint="a large city near by"),
        field("north_deg", "True north, clockwise from up the plan", Takes.DEGREES),
        field("horizon", "What hides a low sun", Takes.ROWS_OF_TWO, hint="135 12; 180 25"),
        field("ground", "Ground outside", Takes.CHOICE, place.surface_names()),
        field("most_noise_db", "Noise limit, dB", may_be_empty=True),
        field("temperature_c", "How cold it gets", Takes.TEMPERATURE, may_be_empty=True),
        field("is_wet", "Wet: water, hoses, wet ground", Takes.YES),
        field("hazards", "Hazards", Takes.NOTE),
        field("access", "Access", Takes.NOTE),
        field("note", "Notes", Takes.NOTE),
    )


def lists_of(place: Place) -> tuple[PieceList, ...]:
    """Every list of a place with its form; choices are those of this place."""
    surfaces, circuits = place.surface_names(), [each.name for each in place.circuits]
    shines = [(each.value, each.value or "no") for each in Gloss]
    return (
        PieceList(
            where="rooms",
            title="Rooms",
            noun="room",
            key="room_id",
            fields=(
                field("name", "Name", Takes.TEXT),
                field("corners", "Corners, one after another", Takes.CORNERS, hint="0, 0; 6.2, 0; 6.2, 4.4; 0, 4.4"),
                field("height_m", "Height", Takes.LENGTH),
                field(
                    "all_walls", "All walls", Takes.CHOICE, [("", "as they are"), *((each, each) for each in surfaces)]
                ),
                field("floor", "Floor", Takes.CHOICE, surfaces),
                field("ceiling", "Ceiling", Takes.CHOICE, surfaces),
                field("floor_gloss", "Floor shines", Takes.CHOICE, shines),
                field("wall_gloss", "Walls shine", Takes.CHOICE, shines),
            ),
            begins={
                "name": "Room",
                "corners": [[0, 0], [5, 0], [5, 4], [0, 4]],
                "height_m": 2.6,
                "walls": ["white paint"] * 4,
                "floor": "light wood",
                "ceiling": "white paint",
                "openings": [],
            },
        ),
        PieceList(
            where="house_lamps",
            title="Lamps of the house",
            noun="lamp",
            key="lamp_id",
            fields=(
                field("name", "Name", Takes.TEXT),
                *_POSITION,
                field("z_m", "Height", Takes.LENGTH),
                field("lumens", "Lumens"),
                field("cct_k", "Colour", Takes.KELVIN),
                field("duv", "Tint, Duv, greener positive"),
                field("is_bare", "Bare, shines all round", Takes.YES),
                field("is_on", "On at recce", Takes.YES),
                field("can", "Can be", Takes.SEVERAL, WHAT_LAMPS_CAN),
                field("must_stay", "Must stay: security, exit", Takes.YES),
            ),
            begins={
                "name": "Ceiling lamp",
                "x_m": 1.0,
                "y_m": 1.0,
                "z_m": 2.4,
                "lumens": 800,
                "cct_k": 3000,
                "duv": 0,
                "can": ["switched"],
                "is_on": True,
                "is_bare": False,
                "must_stay": False,
            },
        ),
        PieceList(
            where="circuits",
            title="Circuits",
            noun="circuit",
            key="name",
            fields=(
                field("name", "Name", Takes.TEXT),
                field("voltage_v", "Volts"),
                field("breaker_a", "Breaker, A"),
                field("used_a", "Drawn already, A"),
                field("used_by", "By", Takes.TEXT),
                field(
                    "curve",
                    "Breaker opens by",
                    Takes.CHOICE,
                    [(each.value, f"curve {each.value}") for each in BreakerCurve],
                ),
                field("rcd_ma", "Leakage protection, mA; 0 none"),
                field("sag_v", "Measured sag, V"),
                field("sag_at_a", "Under, A"),
            ),
            begins={
                "name": "Circuit",
                "voltage_v": 230,
                "breaker_a": 13,
                "used_a": 0,
                "used_by": "",
                "curve": BreakerCurve.B.value,
                "rcd_ma": 0,
                "sag_v": 0,
                "sag_at_a": 0,
            },
        ),
        PieceList(
            where="sockets",
            title="Sockets",
            noun="socket",
            key="socket_id",
            fields=(
                field("name", "Name", Takes.TEXT),
                *_POSITION,
                field("circuit", "Circuit", Takes.CHOICE, circuits),
                field("outlet", "Plug", Takes.TEXT),
            ),
            begins={
                "name": "Socket",
                "x_m": 0.2,
                "y_m": 0.2,
                "circuit": circuits[0] if circuits else "",
                "outlet": HOUSE_PLUG,
            },
        ),
        PieceList(
            where="kit_areas",
            title="Where kit may stand",
            noun="area",
            key="area_id",
            fields=(
                field("name", "Name", Takes.TEXT),
                field("x_m", "Left edge", Takes.LENGTH),
                field("y_m", "Lower edge", Takes.LENGTH),
                field("width_m", "Width", Takes.LENGTH),
                field("depth_m", "Depth", Takes.LENGTH),
            ),
            begins={"name": "Kit", "x_m": 0.5, "y_m": 0.5, "width_m": 1.5, "depth_m": 1.5},
        ),
        PieceList(
            where="readings",
            title="Ambient readings",
            noun="reading",
            key="reading_id",
            fields=(
                *_POSITION,
                field("z_m", "Height", Takes.LENGTH),
                field("bearing_deg", "Meter faces, clockwise from up the plan", Takes.DEGREES),
                field("tilt_deg", "Tilted up", Takes.DEGREES),
                field("illuminance_lx", "Level", Takes.LEVEL),
                field("taken_at", "Taken at, clock of the place", Takes.WHEN),
                field("cct_k", "Colour there", unit="K", usual="0", hint="of a colour meter; 0: not read"),
                field("duv", "and its Duv", usual="0", hint="above 0 greener"),
                field("weather", "Weather then", Takes.CHOICE, [each.value for each in Weather]),
                field("note", "Note", Takes.TEXT),
            ),
            begins={
                "x_m": 1.0,
                "y_m": 1.0,
                "z_m": 1.3,
                "bearing_deg": 0,
                "tilt_deg": 0,
                "illuminance_lx": 300,
                "cct_k": 0,
                "duv": 0,
                "taken_at": f"{today()}T12:00",
                "weather": Weather.OVERCAST.value,
                "note": "",
            },
        ),
        PieceList(
            where="surfaces",
            title="Custom surfaces",
            noun="surface",
            key="name",
            fields=(
                field("name", "Name", Takes.TEXT),
                field("reflectance", "Reflects", Takes.PERCENT),
                field("shift_mired", "Tint, mired, warmer positive"),
                field("duv", "Tint, Duv, greener positive"),
            ),
            begins={"name": "own paint", "reflectance": 0.5, "shift_mired": 0, "duv": 0},
        ),
    )


def opening_fields(room: Row) -> tuple[TypedField, ...]:
    """The form of a window or doorway in one room."""
    walls = [(str(at), f"wall {at + 1}") for at in range(len(room["corners"]))] + [("-1", "the ceiling")]
    return (
        field("name", "Name", Takes.TEXT),
        field("kind", "Kind", Takes.CHOICE, [each.value for each in OpeningKind]),
        field("wall", "In", Takes.CHOICE, walls),
        field("along_m", "Middle, along the wall (ceiling: x)", Takes.LENGTH),
        field("sill_m", "Sill above the floor (ceiling: y)", Takes.LENGTH),
        field("width_m", "Width", Takes.LENGTH),
        field("height_m", "Height", Takes.LENGTH),
        field("glass", "Glass passes", Takes.PERCENT),
        field("film_stops", "ND film on it", Takes.STOPS),
        field("glass_mired", "Tint of the glass, mired, warmer positive"),
        field("glass_duv", "Tint of the glass, Duv, greener positive"),
        field("cover", "Covered by", Takes.CHOICE, [each.value for each in Cover]),
    )


NEW_OPENING: Row = {
    "name": "Window",
    "kind": "window",
    "wall": 0,
    "along_m": 1.5,
    "sill_m": 0.9,
    "width_m": 1.2,
    "height_m": 1.2,
    "glass": 0.8,
    "film_stops": 0,
    "glass_mired": 0,
    "glass_duv": 0,
    "cover": "open",
}


def wall_fields(room: Row, place: Place) -> tuple[TypedField, ...]:
    """A surface for each wall."""
    return tuple(
        field(f"wall-{at}", f"Wall {at + 1}", Takes.CHOICE, place.surface_names()) for at in range(len(room["corners"]))
    )


def new_place(form: Mapping[str, str], units: UnitSystem) -> Place:
    """A place from the short form: a name, and the sides of its first room, or none for open ground.

    Raises: BadValue.
    """
    sides = [form.get(key, "").strip() for key in ("width", "depth", "height")]
    rooms: list[Row] = []
    if any(sides):
        width, depth, height = (
            signed_length_m(text, label, units) for text, label in zip(sides, ("Width", "Depth", "Height"), strict=True)
        )
        corners = [[0, 0], [width, 0], [width, depth], [0, depth]]
        rooms = [
            {
                "room_id": "room-1",
                "name": "Room",
                "corners": corners,
                "height_m": height,
                "walls": ["white paint"] * 4,
                "openings": [],
            }
        ]

    return read_record(Place, {"name": form.get("name", "").strip(), "rooms": rooms})


def next_piece_id(place: Place, stem: str) -> str:
    """An id that nothing in the place bears."""
    taken, number = set(place.ids()), 1
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"


def added_piece(pieces: PieceList, place: Place, form: Any, units: UnitSystem) -> Row:
    """A change that adds a piece from its form."""
    row = dict(pieces.begins) | read_row(pieces.fields, form, units)
    if pieces.key != "name":
        row[pieces.key] = next_piece_id(place, pieces.noun)
    if pieces.where == "rooms":
        all_walls = row.pop("all_walls", "")
        row = _with_walls(_one_way(row), all_walls)
    return {"operation": "add", "where": pieces.where, "to": row}


def changed_piece(pieces: PieceList, piece_id: str, place: Place, form: Any, units: UnitSystem) -> list[Row]:
    """Changes to one piece from its form; none where nothing differs."""
    to, was = changes_of(pieces.fields, form, units)
    if pieces.where == "rooms":
        old, to = room_row(place, piece_id), _one_way(to)
        all_walls = to.pop("all_walls", "")
        row = _with_walls(old | to, all_walls)
        was.pop("all_walls", None)
        if row["walls"] != old["walls"]:
            to, was = to | {"walls": row["walls"]}, was | {"walls": old["walls"]}
    return [{"operation": "set", "where": pieces.where, "piece_id": piece_id, "to": to, "was": was}] if to else []


def _one_way(row: Row) -> Row:
    """Corners that run counter-clockwise, from the same first one, whichever way they were typed."""
    corners = row.get("corners") or []
    twice_area = sum(x * other_y - other_x * y for (x, y), (other_x, other_y) in pairwise([*corners, *corners[:1]]))
    return row | {"corners": [corners[0], *reversed(corners[1:])]} if twice_area < 0.0 else row


def _with_walls(row: Row, all_walls: str) -> Row:
    """As many surfaces as there are walls: new ones as the last, or all alike."""
    walls, count = list(row.get("walls") or ["white paint"]), len(row["corners"])
    walls = [all_walls] * count if all_walls else (walls + [walls[-1]] * count)[:count]
    return row | {"walls": walls}


def room_row(place: Place, room_id: str) -> Row:
    """One room as a row. Raises: NotFound."""
    rooms: list[Row] = write_record(place)["rooms"]
    row = next((each for each in rooms if each["room_id"] == room_id), None)
    if row is None:
        raise NotFound("that room is no longer in the place")
    return row


def wall_changes(place: Place, room_id: str, form: Any, units: UnitSystem) -> list[Row]:
    """New surfaces of walls."""
    row = room_row(place, room_id)
    given = read_row(wall_fields(row, place), form, units)
    walls = [given.get(f"wall-{at}", name) for at, name in enumerate(row["walls"])]
    if walls == row["walls"]:
        return []
    return [
        {
            "operation": "set",
            "where": "rooms",
            "piece_id": room_id,
            "to": {"walls": walls},
            "was": {"walls": row["walls"]},
        }
    ]


def opening_changes(place: Place, room_id: str, opening_id: str, form: Any, units: UnitSystem) -> list[Row]:
    """A window added (no id), changed, or taken out (``out``)."""
    row = room_row(place, room_id)
    fields = opening_fields(row)
    old = row["openings"]
    if form.get("out"):
        new = [each for each in old if each["opening_id"] != opening_id]
    else:
        given = read_row(fields, form, units)
        if "wall" in given:
            given["wall"] = int(given["wall"])
        if opening_id:
            new = [each | given if each["opening_id"] == opening_id else each for each in old]
        else:
            new = [*old, NEW_OPENING | given | {"opening_id": next_piece_id(place, "window")}]
    if new == old:
        return []
    return [
        {"operation": "set", "where": "rooms", "piece_id": room_id, "to": {"openings": new}, "was": {"openings": old}}
    ]
