"""What every row of gear begins with, and figures with their origin."""

from typing import Any

from iron_bucket.core.bench.item import Item
from iron_bucket.core.figure import Figure
from iron_bucket.formats.fields import Fields

Row = dict[str, Any]


def item_fields(fields: Fields) -> dict[str, Any]:
    """The arguments that every Item takes."""
    return {
        "slug": fields.word("slug"),
        "name": fields.word("name"),
        "maker": fields.word("maker", ""),
        "weight_kg": fields.number("weight_kg"),
        "day_price": fields.perhaps("day_price"),
        "owned": fields.whole("owned", 0),
        "tags": fields.words("tags"),
        "note": fields.word("note", ""),
        "is_retired": fields.yes("is_retired"),
        "week_price": fields.perhaps("week_price"),
        "hire_stock": fields.whole("hire_stock") if fields.has("hire_stock") else None,
        "lead_days": fields.whole("lead_days", 0),
        "least_days": fields.whole("least_days", 1),
        "value": fields.number("value", 0.0),
        "made_in": fields.word("made_in", ""),
        "packed_l_m": fields.number("packed_l_m", 0.0),
        "packed_w_m": fields.number("packed_w_m", 0.0),
        "packed_h_m": fields.number("packed_h_m", 0.0),
    }


def item_row(item: Item) -> Row:
    """The same as a row; what is at its usual value is left out where it came later."""
    row: Row = {
        "slug": item.slug,
        "name": item.name,
        "maker": item.maker,
        "weight_kg": item.weight_kg,
        "day_price": item.day_price,
        "owned": item.owned,
    }
    row |= kept({"tags": ";".join(item.tags), "note": item.note, "is_retired": item.is_retired})
    row |= kept({name: getattr(item, name) for name in _LATER_FIELDS})
    stock = {} if item.hire_stock is None else {"hire_stock": item.hire_stock}
    return row | stock | ({} if item.least_days == 1 else {"least_days": item.least_days})


_LATER_FIELDS = ("week_price", "lead_days", "value", "made_in", "packed_l_m", "packed_w_m", "packed_h_m")


def kept(row: Row) -> Row:
    """Only what says something: no empty texts, no zeros, no plain no."""
    return {key: value for key, value in row.items() if value not in ("", None, False, 0)}


def figure_row(key: str, figure: Figure | None) -> Row:
    """A figure under its key, its origin beside it."""
    if figure is None:
        return {}
    return {key: figure.value, f"{key}_origin": figure.origin.value}
