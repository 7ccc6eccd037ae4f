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
    return row | kept({"tags": ";".join(item.tags), "note": item.note, "is_retired": item.is_retired})


def kept(row: Row) -> Row:
    """Only what says something: no empty texts, no zeros, no plain no."""
    return {key: value for key, value in row.items() if value not in ("", None, False, 0)}


def figure_row(key: str, figure: Figure | None) -> Row:
    """A figure under its key, its origin beside it."""
    if figure is None:
        return {}
    return {key: figure.value, f"{key}_origin": figure.origin.value}
