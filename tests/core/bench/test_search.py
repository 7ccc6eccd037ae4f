import numpy as np
import pytest

from iron_bucket.core.bench.search import Limit, search, search_index, wanted_of
from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.quantities.units import UnitSystem
from tests.made_up import a_configuration, a_gear, a_sheet
from tests.tables import table, tabled

HEADS = table(__file__, "HEADS")
GEAR = a_gear(
    heads=HEADS, configurations=(a_configuration(slug="day-60.lens", name="narrow reflector 27°", head_slug="day-60"),)
)
INDEX = search_index(HEADS, GEAR)


def slugs(text: str, system=UnitSystem.METRIC, **chosen) -> list[str]:
    return [item.slug for item in search(INDEX, wanted_of(text, system), chosen).items]


@tabled
def test_the_trade_s_words(text, expected):
    assert slugs(text) == expected


def test_a_limit_without_unit_is_a_weight_in_the_reader_s_system():
    assert wanted_of("under 4").limits == (Limit(figure="weight_kg", value=4.0, is_upper=True),)
    (limit,) = wanted_of("over 10", UnitSystem.IMPERIAL).limits
    assert limit.value == pytest.approx(4.5359237)
    assert not limit.is_upper
    assert slugs("over 10", UnitSystem.IMPERIAL) == ["bi-500"]


def test_filters_cut_and_count_what_each_other_would_leave():
    found = search(INDEX, wanted_of("led"), {"technology": "LED bicolour", "fitting": "S-type"})
    assert [item.slug for item in found.items] == ["bi-300", "bi-500"]
    assert dict(found.counts["technology"]) == {"LED bicolour": 2, "LED day": 1}  # as if no technology were chosen
    assert dict(found.counts["fitting"]) == {"S-type": 2}
    assert dict(found.counts["own"]) == {"own": 1}
    assert dict(found.counts["tag"]) == {"favourite": 1}
    assert dict(found.counts["colour"]) == {"variable": 2}
    assert slugs("", own="own") == ["bi-300"]
    assert slugs("", tag="favourite") == ["bi-300"]
    assert slugs("", colour="tungsten") == ["tung-650"]
    assert slugs("", technology="laser") == []


def test_modifiers_are_searched_too():
    sheets = (a_sheet("full-blue", SheetKind.COLOUR, day_price=2.0), a_sheet("nd-3", SheetKind.ND, owned=2))
    index = search_index(sheets, a_gear(sheets=sheets))
    assert [item.slug for item in search(index, wanted_of("gel"), {}).items] == ["full-blue"]
    assert [item.slug for item in search(index, wanted_of("ours"), {}).items] == ["nd-3"]
    assert [item.slug for item in search(index, wanted_of("under 3 a day"), {}).items] == ["full-blue"]
    assert not search(index, wanted_of("5600 k"), {}).items
    assert search(index, wanted_of(""), {}).counts["fitting"] == ()
    assert np.isnan(index.figures["watts"]).all()


@tabled
def test_limits_and_their_sizes(text, figure, value):
    (limit,) = wanted_of(text).limits
    assert (limit.figure, limit.value) == (figure, pytest.approx(value))
