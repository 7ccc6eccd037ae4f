"""The upload form, read into a wish."""

from collections.abc import Mapping

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.checks import require_positive
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk.bench.files import UploadWish


def read_wish(form: Mapping[str, str], units: UnitSystem) -> UploadWish:
    """What the file does not tell. Raises: BadValue."""
    try:
        technology = Technology(form.get("technology", ""))
    except ValueError:
        raise BadValue(
            "technology", repr(form.get("technology", "")), "one of " + ", ".join(each.value for each in Technology)
        ) from None
    watts, price = form.get("watts", "").strip(), form.get("day_price", "").strip()
    weight_kg = parse.mass_kg(form.get("weight", ""), "weight", units)
    require_positive("weight", weight_kg, unit="kg")
    owned = parse.number(form.get("owned") or "0", "owned")
    if owned != int(owned) or owned > 999:
        raise BadValue("owned", repr(form.get("owned")), "a whole number up to 999")
    return UploadWish(
        name=form.get("name", ""),
        technology=technology,
        cct_k=parse.cct_k(form.get("cct", ""), "colour"),
        weight_kg=weight_kg,
        watts=parse.number(watts, "watts", "W") if watts else None,
        owned=int(owned),
        day_price=parse.number(price, "price") if price else None,
    )
