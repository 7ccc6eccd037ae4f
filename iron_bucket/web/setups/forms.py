"""What the forms of a set-up ask, and what a new piece begins as."""

from collections import defaultdict
from dataclasses import dataclass
from typing import Any

import numpy as np
from werkzeug.datastructures import MultiDict

from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.effects.effect import EffectKind
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.beam_cut import slides
from iron_bucket.core.places.place import Gloss, Place
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import mark_names
from iron_bucket.core.setups.evaluate.walk import next_position_name
from iron_bucket.core.setups.plan.changes import next_id
from iron_bucket.core.setups.plan.setup import HALF_SCRIMS, LISTS, PLACED, Setup, Width
from iron_bucket.desk.errors import NotFound
from iron_bucket.formats.record_json import write_record
from iron_bucket.web.shared.typed_fields import Row, Takes, TypedField, changes_of, field

_WHERE = (
    field("x_m", "x, to the right", Takes.LENGTH),
    field("y_m", "y, up the plan", Takes.LENGTH),
    field("z_m", "Height", Takes.LENGTH),
)
_LOOKS = (field("bearing_deg", "Pan", Takes.DEGREES), field("tilt_deg", "Tilted up", Takes.DEGREES))
_HELD = (field("group", "Group, moves together", Takes.TEXT), field("is_locked", "Locked", Takes.YES))

#: A copied piece stands so far to the right and down the plan.
COPY_ASIDE_M = 0.4
#: The next position of somebody is proposed so far on.
STEP_M = 1.0
LOOK_FIELDS = (
    field("t_stop", "T-stop", is_fine=True),
    field("iso", "ISO"),
    field("fps", "Frames a second", is_fine=True),
    field("shutter_deg", "Shutter", Takes.DEGREES),
    field("nd_stops", "ND at the lens", Takes.STOPS),
    field("filter_stops", "Other filters", Takes.STOPS),
    field("white_balance_k", "White balance", Takes.KELVIN),
    field("white_balance_duv", "White balance, Duv"),
    field("above", "Clips above middle grey", Takes.STOPS),
    field("below", "Floor below middle grey", Takes.STOPS),
    field("by_iso", "Instead by ISO: ISO, above, below", Takes.ROWS_OF_THREE, hint="800 6 6.5; 3200 7 5.5"),
    field("sensor_width_mm", "Sensor wide, mm", is_fine=True),
    field("sensor_height_mm", "Sensor high, mm", is_fine=True),
)
CAMERA_FIELDS = (*_WHERE, *_LOOKS, field("focal_mm", "Focal length, mm"))


def setup_fields(place: Place) -> tuple[TypedField, ...]:
    """Of the pass itself."""
    return (
        field("name", "Name", Takes.TEXT),
        field("width", "Pass", Takes.CHOICE, [each.value for each in Width]),
        field("when", "Day and hour, the place’s clock", Takes.WHEN),
        field("weather", "Weather", Takes.CHOICE, [each.value for each in Weather]),
        field(
            "house_off",
            "House lamps switched off",
            Takes.SEVERAL,
            [(each.lamp_id, each.name) for each in place.house_lamps if not each.must_stay],
        ),
        field("note", "Notes", Takes.NOTE),
    )


def configuration_choices(gear: Gear) -> list[tuple[str, str]]:
    """Every configuration by head, ours first."""
    heads = {head.slug: head for head in gear.heads}
    rows = sorted(
        gear.configurations,
        key=lambda each: (not heads[each.head_slug].is_owned, heads[each.head_slug].name, each.name),
    )
    return [
        (each.slug, f"{heads[each.head_slug].name} · {each.name}{'' if heads[each.head_slug].is_owned else ' (hire)'}")
        for each in rows
    ]


def _named(items: Any) -> list[tuple[str, str]]:
    return [(each.slug, each.name) for each in sorted(items, key=lambda each: (not each.is_owned, each.name))]


def feeds(place: Place, gear: Gear) -> list[tuple[str, str]]:
    """Sockets of a place, and kinds of batteries."""
    sockets = [(each.socket_id, f"{each.name}, {each.circuit}") for each in place.sockets]
    return [("", "not said"), *sockets, *_named(gear.batteries)]


#: A list that one still reads.
MOST_HEADS = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedHead:
    """A head by its name, and how it can be set up: slug and name of each."""

    name: str
    is_owned: bool
    configurations: tuple[tuple[str, str], ...]


def heads_named(text: str, gear: Gear) -> list[NamedHead]:
    """Those with every word of the text in head or configuration, ours first; none before something is typed."""
    words = text.casefold().split()
    if not words:
        return []
    by_head: dict[str, list[tuple[str, str]]] = defaultdict(list)
    heads = {head.slug: head for head in gear.heads if not head.is_retired}
    for each in gear.configurations:
        head = heads.get(each.head_slug)
        if head and not each.is_retired and all(word in f"{head.name} {each.name}".casefold() for word in words):
            by_head[head.slug].append((each.slug, each.name))
    order = sorted(by_head, key=lambda slug: (not heads[slug].is_owned, heads[slug].name))
    return [
        NamedHead(name=heads[slug].name, is_owned=heads[slug].is_owned, configurations=tuple(by_head[slug]))
        for slug in order[:MOST_HEADS]
    ]


def followed(setup: Setup) -> list[tuple[str, str]]:
    """Who or what a lamp may follow."""
    return [("", "by bearing and tilt"), *((each.piece_id, each.name) for each in (*setup.people, *setup.spots))]


def piece_fields(where: str, setup: Setup, place: Place, gear: Gear) -> tuple[TypedField, ...]:
    """The form of one piece of a list. Raises: BadValue for a list that there is not."""
    match where:
        case "people":
            return (
                field("name", "Name", Takes.TEXT),
                *_WHERE[:2],
                field("z_m", "Height of the face", Takes.LENGTH),
                field("bearing_deg", "Nose points, clockwise from up", Takes.DEGREES),
                *_HELD,
            )
        case "positions":
            return (
                field("name", "Name", Takes.TEXT),
                field("person", "Who walks there", Takes.CHOICE, [(each.piece_id, each.name) for each in setup.people]),
                *_WHERE[:2],
                field("z_m", "Height of the face", Takes.LENGTH),
                field("bearing_deg", "Nose points, clockwise from up", Takes.DEGREES),
                *_HELD,
            )
        case "spots":
            return (
                field("name", "Name", Takes.TEXT),
                *_WHERE,
                *_LOOKS,
                field("reflectance", "Surface reflects", Takes.PERCENT),
                field("gloss", "Surface shines", Takes.CHOICE, [(each.value, each.value or "no") for each in Gloss]),
                *_HELD,
            )
        case "lamps":
            return (
                field("name", "Name", Takes.TEXT),
                field("configuration", "Head", Takes.CHOICE, configuration_choices(gear)),
                field("level", "Level", Takes.PERCENT),
                field("is_on", "On", Takes.YES),
                field("cct_k", "Set to", Takes.KELVIN),
                field("tint", "Tint set to, full gels, green positive"),
                field("colour_xy", "Or mixed to x y, full colour heads", Takes.PAIR, hint="0.44 0.41"),
                field(
                    "effect", "Plays", Takes.CHOICE, [("", "burns steadily"), *((each, each) for each in EffectKind)]
                ),
                field("effect_rate", "Events a second, 0 usual"),
                field("effect_depth", "Falls by, 0 usual", Takes.PERCENT),
                field("effect_seed", "Which of them"),
                field("face", "Box", Takes.CHOICE, [("", "none"), *_named(gear.faces)]),
                field(
                    "grid",
                    "Grid",
                    Takes.CHOICE,
                    [
                        ("", "none"),
                        *(
                            (each.slug, f"{each.name} for {each.face_slug}" if each.face_slug else each.name)
                            for each in gear.grids
                        ),
                    ],
                ),
                field("sheets", "Sheets", Takes.SEVERAL, _named(gear.sheets)),
                field("doors_deg", "Barn doors", Takes.FOUR, hint="top bottom left right, in degrees; – is open"),
                field(
                    "half_scrims", "Half-scrims, below", Takes.CHOICE, [(each, each or "none") for each in HALF_SCRIMS]
                ),
                field("snoot_m", "Snoot, long", Takes.LENGTH),
                field("iris", "Iris, of the field", Takes.PERCENT),
                field(
                    "shutters", "Shutters", Takes.FOUR_SHARES, hint="top bottom left right, pushed in by %; – is out"
                ),
                field("slide", "Slide", Takes.CHOICE, [("", "none"), *((each, each) for each in slides())]),
                *_WHERE,
                field("aims_at", "Aims at", Takes.CHOICE, followed(setup)),
                *_LOOKS,
                field("feed", "Fed from", Takes.CHOICE, feeds(place, gear)),
                field("purpose", "What it is for", Takes.TEXT),
                field("motivation", "What motivates it", Takes.TEXT),
                field("alternate", "What would do instead", Takes.TEXT),
                *_HELD,
            )
        case "frames":
            return (
                field("name", "Name", Takes.TEXT),
                field("frame", "Frame", Takes.CHOICE, [("", "none: a board"), *_named(gear.frames)]),
                field("cloth", "Cloth", Takes.CHOICE, [("", "none: a board"), *_named(gear.cloths)]),
                field("board", "Board", Takes.CHOICE, [("", "none: a cloth"), *_named(gear.boards)]),
                *_WHERE,
                *_LOOKS,
                *_HELD,
            )
        case "flags":
            return (
                field("name", "Name", Takes.TEXT),
                field("kind", "Kind", Takes.CHOICE, [each.value for each in FlagKind]),
                field("width_m", "Wide", Takes.LENGTH),
                field("height_m", "High", Takes.LENGTH),
                *_WHERE,
                *_LOOKS,
                *_HELD,
            )
        case "targets":
            return (
                field("mark", "Mark", Takes.CHOICE, list(mark_names(setup, place).items())),
                field("stops", "Target", Takes.STOPS),
                field("tolerance", "Tolerance", Takes.STOPS),
            )
        case "films":
            windows = [(each.opening_id, each.name) for room in place.rooms for each in room.openings]
            return (
                field("opening_id", "Window", Takes.CHOICE, windows),
                field("stops", "ND film", Takes.STOPS),
                field("sheets", "Colour film", Takes.SEVERAL, _gels(gear)),
            )
        case "house":
            lamps = [(each.lamp_id, each.name) for each in place.house_lamps]
            return (
                field("lamp_id", "Lamp of the house", Takes.CHOICE, lamps),
                field("globe_k", "Another globe", Takes.KELVIN, hint="0 keeps its own"),
                field("globe_duv", "Duv of that globe"),
                field("sheets", "Gels round it", Takes.SEVERAL, _gels(gear)),
            )
        case "colour_targets":
            return (
                field("mark", "Mark", Takes.CHOICE, list(mark_names(setup, place).items())),
                field("mired", "Warmer than white, mired"),
                field("duv", "Greener than white, Duv"),
                field("tolerance", "Tolerance, mired"),
            )
    raise BadValue("list", repr(where), ", ".join(LISTS))


def _gels(gear: Gear) -> list[tuple[str, str]]:
    return _named(tuple(each for each in gear.sheets if each.kind.is_colour))


#: What may be added, and the word on its button.
ADDITIONS = {
    "lamp": "Lamp",
    "cloth": "Frame with cloth",
    "board": "Board",
    "flag": "Flag",
    "net": "Net",
    "black": "Black",
    "person": "Person",
    "position": "Next position",
    "spot": "Measuring point",
    "target": "Target",
}


def new_piece(what: str, setup: Setup, place: Place, gear: Gear, chosen: str = "") -> Row:
    """A change that adds a piece with usual values, out of the way between camera and first person.

    ``chosen``: which lamp, cloth or board.
    """
    spot = _beside(setup)
    row: Row = {"piece_id": next_id(setup, what), "x_m": spot[0], "y_m": spot[1]}
    subject = setup.people[0].piece_id if setup.people else ""
    match what:
        case "lamp":
            slug = chosen or next((slug for slug, _ in configuration_choices(gear)), "")
            head = next((each.name for each in gear.heads if slug.startswith(each.slug + ".")), "Lamp")
            row |= {"name": head[:80], "configuration": slug, "z_m": 2.0, "level": 0.5, "aims_at": subject}
            return {"operation": "add", "where": "lamps", "to": row}
        case "cloth":
            row |= {
                "name": "Cloth frame",
                "frame": _first(gear.frames, "1.2"),
                "cloth": chosen or _first(gear.cloths, "half-white"),
                "z_m": 1.7,
                "bearing_deg": _towards(setup, spot),
            }
            return {"operation": "add", "where": "frames", "to": row}
        case "board":
            row |= {
                "name": "Board",
                "board": chosen or _first(gear.boards, "poly"),
                "z_m": 1.2,
                "bearing_deg": _towards(setup, spot),
            }
            return {"operation": "add", "where": "frames", "to": row}
        case "flag" | "net" | "black":
            kind = {"flag": FlagKind.SOLID, "net": FlagKind.SINGLE_NET, "black": FlagKind.BLACK}[what]
            size = {"width_m": 1.2, "height_m": 1.8} if what == "black" else {}
            row |= {
                "name": what.capitalize(),
                "kind": kind.value,
                "z_m": 1.5,
                "bearing_deg": _towards(setup, spot),
            } | size
            return {"operation": "add", "where": "flags", "to": row}
        case "person":
            row |= {"name": f"Person {len(setup.people) + 1}", "z_m": 1.55, "bearing_deg": 180.0}
            return {"operation": "add", "where": "people", "to": row}
        case "position":
            return _position(setup, chosen, row)
        case "spot":
            row |= {"name": f"Point {len(setup.spots) + 1}", "z_m": 1.4, "bearing_deg": 180.0, "reflectance": 0.3}
            return {"operation": "add", "where": "spots", "to": row}
        case "target":
            taken = {each.mark for each in setup.targets}
            mark = next((mark for mark in mark_names(setup, place) if mark not in taken), None)
            if mark is None:
                raise BadValue("target", "one more", "a mark with no target yet: every mark has one")
            return {
                "operation": "add",
                "where": "targets",
                "to": {"piece_id": row["piece_id"], "mark": mark, "stops": 0.0},
            }
    raise BadValue("what to add", repr(what), ", ".join(ADDITIONS.values()))


def _position(setup: Setup, chosen: str, row: Row) -> Row:
    """One more position of whoever is chosen, or of the first person, a step on from the last."""
    found = setup.find(chosen)
    walker = found[1].person if found and found[0] == "positions" else chosen
    if not setup.people:
        raise BadValue("position", "one more", "somebody who walks there first")
    person = next((each for each in setup.people if each.piece_id == walker), setup.people[0])
    last = (person, *setup.positions_of(person.piece_id))[-1]
    row |= {
        "name": next_position_name(setup, person),
        "person": person.piece_id,
        "x_m": round(last.x_m + STEP_M, 3),
        "y_m": last.y_m,
        "z_m": last.z_m,
        "bearing_deg": last.bearing_deg,
    }
    return {"operation": "add", "where": "positions", "to": row}


def _first(items: Any, word: str) -> str:
    """The first of ours whose slug has the word, else any."""
    rows = sorted(items, key=lambda each: (word not in each.slug, not each.is_owned, each.slug))
    if not rows:
        raise BadValue("bench", "without one", "a piece of that kind on the bench first")
    return str(rows[0].slug)


def _beside(setup: Setup) -> tuple[float, float]:
    """A free place between camera and subject, moved on for every piece that stands there."""
    camera = np.array([setup.camera.x_m, setup.camera.y_m])
    subject = np.array([setup.people[0].x_m, setup.people[0].y_m]) if setup.people else camera + np.array([0.0, 2.0])
    taken = [(each.x_m, each.y_m) for name in PLACED for each in getattr(setup, name)]
    for share in (0.5, 0.4, 0.6, 0.3, 0.7, 0.8, 0.2):
        spot = subject + share * (camera - subject)
        if all(np.hypot(*(spot - np.array(other))) > 0.3 for other in taken):
            break
    return round(float(spot[0]), 2), round(float(spot[1]), 2)


def _towards(setup: Setup, spot: tuple[float, float]) -> float:
    if not setup.people:
        return 0.0
    dx, dy = setup.people[0].x_m - spot[0], setup.people[0].y_m - spot[1]
    return round(float(np.degrees(np.arctan2(dx, dy)) % 360.0), 1)


def changes_by_form(
    where: str, form: MultiDict[str, str], units: UnitSystem, setup: Setup, place: Place, gear: Gear
) -> list[dict[str, Any]]:
    """What the inspector's form changes, as rows; none where nothing was typed anew. Raises: BadValue."""
    piece_id = form.get("piece", "")
    if where in LISTS and form.get("out"):
        return [{"operation": "remove", "where": where, "piece_id": piece_id}]
    own = {"pass": setup_fields(place), "camera": CAMERA_FIELDS, "look": LOOK_FIELDS}
    to, was = changes_of(own[where] if where in own else piece_fields(where, setup, place, gear), form, units)
    if not to:
        return []
    at = {"where": "" if where == "pass" else where, "piece_id": piece_id if where in LISTS else ""}
    return [{"operation": "set", **at, "to": to, "was": was}]


def copied_piece(setup: Setup, piece_id: str) -> dict[str, Any]:
    """A piece once more, beside itself, as a change. Raises: NotFound where it is gone."""
    found = setup.find(piece_id)
    if found is None:
        raise NotFound("that piece is no longer there")
    row = write_record(found[1]) | {"piece_id": next_id(setup, found[0].rstrip("s")), "is_locked": False}
    row |= {"x_m": row["x_m"] + COPY_ASIDE_M, "y_m": row["y_m"] - COPY_ASIDE_M} if "x_m" in row else {}
    return {"operation": "add", "where": found[0], "to": row}
