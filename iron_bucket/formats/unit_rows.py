"""A unit, this very lamp, as one flat row and back."""

from iron_bucket.core.bench.unit import Condition, Unit
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, kept


def unit_of(fields: Fields) -> Unit:
    """One lamp with its own history."""
    return Unit(
        slug=fields.word("slug"),
        name=fields.word("name"),
        head_slug=fields.word("head_slug"),
        serial=fields.word("serial", ""),
        owner=fields.word("owner", ""),
        globe_h=fields.number("globe_h", 0.0),
        faults=fields.words("faults"),
        note=fields.word("note", ""),
        tags=fields.words("tags"),
        is_retired=fields.yes("is_retired"),
        condition=fields.choice("condition", Condition, Condition.GOOD),
        where=fields.word("where", ""),
        value=fields.number("value", 0.0),
    )


def unit_row(unit: Unit) -> Row:
    """The same as a row."""
    row: Row = {"slug": unit.slug, "name": unit.name, "head_slug": unit.head_slug}
    return row | kept(
        {
            "serial": unit.serial,
            "owner": unit.owner,
            "globe_h": unit.globe_h,
            "faults": ";".join(unit.faults),
            "note": unit.note,
            "tags": ";".join(unit.tags),
            "is_retired": unit.is_retired,
            "condition": "" if unit.condition is Condition.GOOD else unit.condition.value,
            "where": unit.where,
            "value": unit.value,
        }
    )
