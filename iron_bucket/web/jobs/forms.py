"""A job's form, read into core values."""

from collections.abc import Mapping
from enum import StrEnum
from typing import TypeVar

from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.exposure.ratio import RatioSchool
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.quantities.parse import number
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.web.shared.numbers import whole_number

Word = TypeVar("Word", bound=StrEnum)


def _choice(form: Mapping[str, str], field: str, kind: type[Word]) -> Word:
    try:
        return kind(form.get(field, ""))
    except ValueError:
        raise BadValue(field, repr(form.get(field, "")), "one of " + ", ".join(each.value for each in kind)) from None


def read_rules(form: Mapping[str, str]) -> HouseRules:
    """House rules. ``supply`` is voltage and breaker in one, such as 230/13. Raises: BadValue."""
    supply = form.get("supply", "230/13").split("/")
    if len(supply) != 2 or not all(part.isdecimal() and len(part) < 4 for part in supply):
        raise BadValue("supply", repr(form.get("supply")), "voltage and breaker, such as 230/13")
    return HouseRules(
        voltage_v=int(supply[0]),
        breaker_a=int(supply[1]),
        units=_choice(form, "units", UnitSystem),
        planned_share=number(form.get("planned_percent", "80"), "planned_percent", "%") / 100.0,
        scrim_school=_choice(form, "scrim_school", ScrimSchool),
        ratio_school=_choice(form, "ratio_school", RatioSchool),
        receptor=_choice(form, "receptor", Receptor),
    )


def read_version(form: Mapping[str, str]) -> int:
    """The version that a form was made from. Raises: BadValue."""
    text = form.get("version", "")
    version = whole_number(text)
    if version is None:
        raise BadValue("version", repr(text), "the number that the form came with")
    return version


def typed_from(rules: HouseRules, name: str, places: str) -> dict[str, str]:
    """What stands in the form of a job that exists."""
    return {
        "name": name,
        "places": places,
        "supply": f"{rules.voltage_v}/{rules.breaker_a}",
        "units": rules.units.value,
        "planned_percent": f"{rules.planned_share * 100:g}",
        "scrim_school": rules.scrim_school.value,
        "ratio_school": rules.ratio_school.value,
        "receptor": rules.receptor.value,
    }
