"""Each kind of gear as one flat row and back: the same keys in JSON, in CSV headings and in the database."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from iron_bucket.formats.battery_rows import battery_of, battery_row
from iron_bucket.formats.cable_rows import cable_of, cable_row
from iron_bucket.formats.carried_rows import (
    accessory_of,
    accessory_row,
    case_of,
    case_row,
    flag_of,
    flag_row,
    vehicle_of,
    vehicle_row,
)
from iron_bucket.formats.configuration_rows import configuration_of, configuration_row
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.head_rows import head_of, head_row
from iron_bucket.formats.item_rows import Row, item_row
from iron_bucket.formats.modifier_rows import (
    board_of,
    board_row,
    cloth_of,
    cloth_row,
    face_of,
    face_row,
    frame_of,
    frame_row,
    grid_of,
    grid_row,
    optic_of,
    optic_row,
    sheet_of,
    sheet_row,
)
from iron_bucket.formats.stand_rows import bag_of, stand_of, stand_row
from iron_bucket.formats.unit_rows import unit_of, unit_row


@dataclass(frozen=True, slots=True, kw_only=True)
class GearKind:
    """One list of the gear: how its rows are read and written, and what one of them is called."""

    read: Callable[[Fields], Any]
    write: Callable[[Any], Row]
    noun: str


#: By the name of the list, in JSON, of the CSV file, and of the field of Gear.
GEAR_KINDS: dict[str, GearKind] = {
    "heads": GearKind(read=head_of, write=head_row, noun="head"),
    "configurations": GearKind(read=configuration_of, write=configuration_row, noun="configuration"),
    "optics": GearKind(read=optic_of, write=optic_row, noun="optic"),
    "sheets": GearKind(read=sheet_of, write=sheet_row, noun="sheet"),
    "faces": GearKind(read=face_of, write=face_row, noun="box"),
    "grids": GearKind(read=grid_of, write=grid_row, noun="grid"),
    "frames": GearKind(read=frame_of, write=frame_row, noun="frame"),
    "cloths": GearKind(read=cloth_of, write=cloth_row, noun="cloth"),
    "boards": GearKind(read=board_of, write=board_row, noun="bounce"),
    "batteries": GearKind(read=battery_of, write=battery_row, noun="battery"),
    "stands": GearKind(read=stand_of, write=stand_row, noun="stand"),
    "bags": GearKind(read=bag_of, write=item_row, noun="bag"),
    "cables": GearKind(read=cable_of, write=cable_row, noun="lead"),
    "flags": GearKind(read=flag_of, write=flag_row, noun="flag"),
    "accessories": GearKind(read=accessory_of, write=accessory_row, noun="accessory"),
    "cases": GearKind(read=case_of, write=case_row, noun="case"),
    "vehicles": GearKind(read=vehicle_of, write=vehicle_row, noun="vehicle"),
    "units": GearKind(read=unit_of, write=unit_row, noun="unit"),
}
#: What carries, feeds and is carried beside lamps and what they wear.
CARRIED_KINDS = ("batteries", "stands", "bags", "cables", "flags", "accessories", "cases", "vehicles")
MODIFIER_KINDS = ("optics", "sheets", "faces", "grids", "frames", "cloths", "boards")


def item_of(kind: str, row: Row) -> Any:
    """One piece of gear from its row. Raises: BadValue, also for a key that means nothing."""
    fields = Fields(row)
    item = GEAR_KINDS[kind].read(fields)
    fields.done()
    return item
