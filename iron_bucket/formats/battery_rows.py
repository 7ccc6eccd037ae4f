"""A battery kind as one flat row and back."""

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, item_fields, item_row, kept


def battery_of(fields: Fields) -> BatteryKind:
    """A kind of battery."""
    return BatteryKind(
        **item_fields(fields),
        mount=fields.word("mount"),
        capacity_wh=fields.number("capacity_wh"),
        nominal_v=fields.number("nominal_v"),
        most_a=fields.number("most_a"),
        usable=fields.number("usable", 0.9),
        efficiency=fields.number("efficiency", 0.95),
        peak_a=fields.number("peak_a", 0.0),
        recharge_w=fields.number("recharge_w", 0.0),
        passes_through=fields.yes("passes_through"),
        ac_outlets=fields.whole("ac_outlets", 0),
        dc_outlets=fields.whole("dc_outlets", 0),
    )


def battery_row(battery: BatteryKind) -> Row:
    """The same as a row."""
    return {
        **item_row(battery),
        "mount": battery.mount,
        "capacity_wh": battery.capacity_wh,
        "nominal_v": battery.nominal_v,
        "most_a": battery.most_a,
        "usable": battery.usable,
        "efficiency": battery.efficiency,
    } | kept(
        {
            "peak_a": battery.peak_a,
            "recharge_w": battery.recharge_w,
            "passes_through": battery.passes_through,
            "ac_outlets": battery.ac_outlets,
            "dc_outlets": battery.dc_outlets,
        }
    )
