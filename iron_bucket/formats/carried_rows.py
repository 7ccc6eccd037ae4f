"""What carries and what is carried beside lamps, as flat rows and back: flags, accessories, cases, vehicles."""

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.case import Case
from iron_bucket.core.bench.flag import Flag, FlagKind
from iron_bucket.core.bench.vehicle import Vehicle
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, item_fields, item_row


def flag_of(fields: Fields) -> Flag:
    """A flag, net or black."""
    return Flag(
        **item_fields(fields),
        kind=fields.choice("kind", FlagKind),
        width_m=fields.number("width_m"),
        height_m=fields.number("height_m"),
    )


def flag_row(flag: Flag) -> Row:
    """The same as a row."""
    return {**item_row(flag), "kind": flag.kind.value, "width_m": flag.width_m, "height_m": flag.height_m}


def accessory_of(fields: Fields) -> Accessory:
    """An arm, bond, tube, peg."""
    return Accessory(
        **item_fields(fields),
        role=fields.word("role"),
        fits=fields.word("fits", ""),
        length_m=fields.number("length_m", 0.0),
        holds_kg=fields.number("holds_kg", 0.0),
        rated_w=fields.number("rated_w", 0.0),
        pack=fields.whole("pack", 1),
        is_used_up=fields.yes("is_used_up"),
    )


def accessory_row(accessory: Accessory) -> Row:
    """The same as a row."""
    return {
        **item_row(accessory),
        "role": accessory.role,
        "fits": accessory.fits,
        "length_m": accessory.length_m,
        "holds_kg": accessory.holds_kg,
        "rated_w": accessory.rated_w,
        "pack": accessory.pack,
        "is_used_up": accessory.is_used_up,
    }


def case_of(fields: Fields) -> Case:
    """A case, bag or cart."""
    return Case(
        **item_fields(fields),
        inner_l_m=fields.number("inner_l_m"),
        inner_w_m=fields.number("inner_w_m"),
        inner_h_m=fields.number("inner_h_m"),
        most_kg=fields.number("most_kg"),
        wall_m=fields.number("wall_m", 0.015),
        lives=fields.words("lives"),
        is_cart=fields.yes("is_cart"),
    )


def case_row(case: Case) -> Row:
    """The same as a row."""
    return {
        **item_row(case),
        "inner_l_m": case.inner_l_m,
        "inner_w_m": case.inner_w_m,
        "inner_h_m": case.inner_h_m,
        "most_kg": case.most_kg,
        "wall_m": case.wall_m,
        "lives": ";".join(case.lives),
        "is_cart": case.is_cart,
    }


def vehicle_of(fields: Fields) -> Vehicle:
    """A van, truck or trailer."""
    return Vehicle(
        **item_fields(fields),
        payload_kg=fields.number("payload_kg"),
        inner_l_m=fields.number("inner_l_m"),
        inner_w_m=fields.number("inner_w_m"),
        inner_h_m=fields.number("inner_h_m"),
        load_height_m=fields.number("load_height_m", 0.6),
    )


def vehicle_row(vehicle: Vehicle) -> Row:
    """The same as a row."""
    return {
        **item_row(vehicle),
        "payload_kg": vehicle.payload_kg,
        "inner_l_m": vehicle.inner_l_m,
        "inner_w_m": vehicle.inner_w_m,
        "inner_h_m": vehicle.inner_h_m,
        "load_height_m": vehicle.load_height_m,
    }
