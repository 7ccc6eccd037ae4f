"""Whose each thing is, and what is paid for it: by hand."""

from dataclasses import replace

import pytest

from iron_bucket.core.bench.unit import Condition, Unit
from iron_bucket.core.bucket.availability import ready, with_lent
from iron_bucket.core.bucket.bucket_plan import Borrowed
from iron_bucket.core.bucket.hire import hire_price, sources_of
from iron_bucket.core.bucket.job_kit import KitLine
from iron_bucket.core.bucket.kit_groups import GroupedBy, groups_of
from iron_bucket.core.modifiers.kinds import ClothSize
from tests.core.bucket.made import a_job, setup_of
from tests.made_up import a_cloth, a_gear, a_head
from tests.tables import table, tabled

LAMP = a_head(slug="lamp", owned=2, day_price=10.0)


@tabled
def test_weeks_are_cheaper_where_they_are(days, changes, price):
    assert hire_price(replace(LAMP, **changes), days) == price


def a_unit(name: str, owner: str = "", condition: Condition = Condition.GOOD, **changes) -> Unit:
    return Unit(slug=name, name=name, head_slug="lamp", owner=owner, condition=condition, **changes)


UNITS = table(__file__, "UNITS")


def lines_of(quantity: int, item=LAMP) -> list[KitLine]:
    return [KitLine(sort=(item.slug, 1.0), kind="heads", item=item, by_hand=quantity, derived=0, beyond=0, whys=())]


def found_for(quantity: int, item=LAMP, borrowed=()):
    gear = a_gear(heads=(item,), configurations=(), units=UNITS)
    return sources_of(lines_of(quantity, item), gear, borrowed, 2)[item.slug, 1.0]


def test_own_first_then_lent_then_hired_then_nowhere():
    """Two are ours, one of them in repair; Ada lends one, of two that she has one is missing."""
    source = found_for(5, replace(LAMP, hire_stock=2, lead_days=3))
    assert (source.own, source.lent, source.hired, source.short) == (1, (("Ada", 1),), 2, 1)
    assert (source.price, source.lead_days, len(source.units)) == (40.0, 3, 4)
    assert [found_for(count).own for count in (0, 1, 2)] == [0, 1, 1]
    one = found_for(1, replace(LAMP, lead_days=3))
    assert (one.lent, one.hired, one.lead_days, one.price) == ((), 0, 0, 0.0)
    assert found_for(9).hired == 7  # nobody knows how many the house has
    unhired = found_for(3, replace(LAMP, day_price=None))
    assert (unhired.hired, unhired.short, unhired.price) == (0, 1, None)
    lent = found_for(4, borrowed=(Borrowed(piece_id="b", item="lamp", count=2, owner="Ben"),))
    assert (lent.lent, lent.hired) == ((("Ada", 1), ("Ben", 2)), 0)
    more = found_for(3, borrowed=(Borrowed(piece_id="b", item="lamp", count=2, owner="Ada"),))
    assert more.lent == (("Ada", 2),)


def test_what_is_away_is_not_ready():
    gear = a_gear(heads=(LAMP,), configurations=(), units=UNITS)
    assert gear.away["lamp"] == 0  # one of ours in repair, one lent
    assert a_gear(heads=(LAMP,), configurations=(), units=UNITS[:2]).away["lamp"] == 1
    away = with_lent({"lamp": 1}, (Borrowed(piece_id="b", item="lamp", count=3, owner="Ben"),))
    assert [ready(LAMP, 1.0, each) for each in ({}, {"lamp": 1}, {"lamp": 3}, away)] == [2, 1, 0, 4]
    sized = a_cloth(owned=5, sizes=(ClothSize(width_m=1.2, height_m=1.2, owned=2),))
    assert [ready(sized, area, {}) for area in (1.44, 1.46, 4.0)] == [2, 0, 0]
    assert ready(a_cloth(owned=5), 4.0, {}) == 5


def test_a_list_is_laid_out_by_kind_by_set_up_and_by_owner(gear):
    setup = setup_of(lamps=({"sheets": ("nd-0.3",)}, {"feed": "battery-v-150"}), flags=({},))
    kit = a_job(gear, setup, replace(setup, name="Again", lamps=setup.lamps[:1]))
    sources = sources_of(kit.lines, gear, (), 1)
    by = {way: groups_of(kit, sources, way) for way in GroupedBy}
    titles = {way: [group.title for group in groups] for way, groups in by.items()}
    assert titles[GroupedBy.KIND] == [
        "Heads",
        "On the heads",
        "Frames, boards, flags",
        "Stands and bags",
        "Grip and control",
        "Power",
        "Used up",
    ]
    whole = {(row.line.sort, row.quantity) for group in by[GroupedBy.KIND] for row in group.rows}
    assert whole == {(line.sort, line.quantity) for line in kit.lines}
    names = [row.line.item.name for row in by[GroupedBy.KIND][3].rows]
    assert names == [*sorted(names[:-1]), "sandbag 10 kg"]
    assert titles[GroupedBy.SETUP] == ["Pass, wide, Box", "Again, wide, Box", "The whole job"]
    heads = [[row.quantity for row in group.rows if row.line.kind == "heads"] for group in by[GroupedBy.SETUP]]
    assert heads == [[2], [1], []]
    assert titles[GroupedBy.OWNER] == ["Our own"]
    counts = sum(row.quantity for group in by[GroupedBy.OWNER] for row in group.rows)
    assert counts == sum(line.quantity for line in kit.lines)


def test_a_cloth_is_paid_by_its_square_metres():
    cloth = a_cloth(slug="silk", day_price=3.0, owned=0)
    line = KitLine(sort=("silk", 4.0), kind="cloths", item=cloth, by_hand=2, derived=0, beyond=0, whys=())
    source = sources_of([line], a_gear(cloths=(cloth,)), (), 2)["silk", 4.0]
    assert (source.hired, source.price) == (2, 2 * 4.0 * 6.0)
    assert line.weight_of(2) == pytest.approx(cloth.weight_kg * 8.0)
