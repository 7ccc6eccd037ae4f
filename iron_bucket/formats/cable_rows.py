"""A lead as one flat row and back."""

from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.power.lead_choice import HOUSE_PLUG
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, item_fields, item_row


def cable_of(fields: Fields) -> Cable:
    """A kind of lead."""
    return Cable(
        **item_fields(fields),
        length_m=fields.number("length_m"),
        area_mm2=fields.number("area_mm2"),
        plug=fields.word("plug", HOUSE_PLUG),
        outlet=fields.word("outlet", HOUSE_PLUG),
        outlets=fields.whole("outlets", 1),
    )


def cable_row(cable: Cable) -> Row:
    """The same as a row."""
    return {
        **item_row(cable),
        "length_m": cable.length_m,
        "area_mm2": cable.area_mm2,
        "plug": cable.plug,
        "outlet": cable.outlet,
        "outlets": cable.outlets,
    }
