import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from tests.tables import cases


@pytest.mark.parametrize(("voltage_v", "breakers_a"), cases(__file__, "test_breakers_of_a_region"))
def test_breakers_of_a_region(voltage_v, breakers_a):
    found = []
    for breaker_a in range(1, 65):
        try:
            found.append(HouseRules(voltage_v=voltage_v, breaker_a=breaker_a).breaker_a)
        except BadValue:
            continue
    assert tuple(found) == breakers_a
