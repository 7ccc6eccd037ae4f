import pytest

from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.totals import Hired, hired_of, totals_of
from iron_bucket.core.jobs.house_rules import HouseRules
from tests.made_up import a_battery, a_cloth, a_draw, a_frame, a_gel, a_head, typical
from tests.tables import refusals


def an_entry(item, number=1, parent=None, kind="heads", **changes) -> Entry:
    return Entry(**({"entry_id": number, "parent_id": parent, "kind": kind, "item": item, "quantity": 1} | changes))


def test_what_a_bucket_adds_up_to():
    entries = (
        an_entry(a_head(), level=0.5, quantity=2),  # 2 x 110 W at PF 0.8
        an_entry(a_head(slug="off-grid"), number=2, fed_from=FedFrom.BATTERY),
        an_entry(a_battery(), number=3, parent=2, kind="batteries", quantity=4),
        an_entry(a_cloth(), number=4, parent=1, kind="cloths", area_m2=4.0),
    )
    sums = totals_of(entries, HouseRules())
    assert sums.heads == 3
    assert entries[1].level == 1.0  # unless it is said
    assert sums.mains_w == pytest.approx(220.0)
    assert sums.mains_a == pytest.approx(220.0 / 0.8 / 230.0)
    assert sums.planned_a == pytest.approx(10.4)
    assert sums.battery_wh == pytest.approx(400.0)
    assert sums.weight_kg == pytest.approx(10.0 + 5.0 + 4.0 + 2.0)
    assert sums.day_price == pytest.approx(80.0 + 40.0 + 8.0)


def hire_price(entries) -> float:
    return totals_of(entries, HouseRules()).day_price


def test_only_what_is_beyond_ours_is_hired():
    ours = a_head(owned=1)
    assert hire_price((an_entry(ours), an_entry(ours, number=2, quantity=2))) == pytest.approx(80.0)
    assert hire_price((an_entry(ours),)) == 0.0
    assert hire_price((an_entry(a_frame(), kind="frames"),)) == 0.0  # no price is known
    assert hired_of((an_entry(a_frame(), kind="frames", quantity=2),)) == {1: Hired(pieces=2, day_price=None)}
    assert hired_of((an_entry(ours), an_entry(ours, number=2, quantity=2))) == {
        1: Hired(pieces=0, day_price=0.0),
        2: Hired(pieces=2, day_price=80.0),
    }


@pytest.mark.parametrize("order", [1, -1])
def test_of_a_cloth_in_two_sizes_the_smaller_is_taken_for_ours(order):
    """By hand: 1 m2 is ours, 6 m2 are hired at 2 a square metre; two pieces of the larger are 24."""
    cloth = a_cloth(owned=1, day_price=2.0)
    small, large = an_entry(cloth, kind="cloths", area_m2=1.0), an_entry(cloth, number=2, kind="cloths", area_m2=6.0)
    assert hire_price((small, large)[::order]) == pytest.approx(12.0)
    pair = an_entry(cloth, number=2, kind="cloths", area_m2=6.0, quantity=2)
    assert hire_price((small, pair)[::order]) == pytest.approx(24.0)
    assert hire_price((pair,)) == pytest.approx(12.0)
    as_put_in_last = an_entry(a_cloth(owned=3, day_price=2.0), number=3, kind="cloths", area_m2=6.0)
    assert hire_price((small, large, as_put_in_last)[::order]) == 0.0


def codes(cautions):
    return [each.code for each in cautions]


def test_each_head_is_minded_with_what_hangs_on_it_alone():
    hot = a_head(is_hot=True)
    gel = an_entry(a_gel(), number=3, parent=2, kind="sheets")
    for first, second, is_told in ((hot, a_head(), False), (a_head(), hot, True)):
        entries = (an_entry(first), an_entry(second, number=2), gel)
        assert ("heat" in codes(totals_of(entries, HouseRules()).cautions)) is is_told


def test_cautions_of_a_bucket_are_said_once_and_not_for_what_is_out():
    hot = a_head(is_hot=True, draw=a_draw(full_w=typical(3000.0), idle_w=3000.0))
    twice = totals_of((an_entry(hot), an_entry(hot, number=2)), HouseRules())
    assert codes(twice.cautions) == ["circuit", "hot"]
    none = totals_of((an_entry(hot, quantity=0),), HouseRules())
    assert none.cautions == ()
    hanging = totals_of(
        (an_entry(a_head()), an_entry(a_battery(capacity_wh=150.0), number=2, parent=1, kind="batteries")), HouseRules()
    )
    assert codes(hanging.cautions) == ["comes-back", "air"]


test_what_is_refused = refusals(__file__)
