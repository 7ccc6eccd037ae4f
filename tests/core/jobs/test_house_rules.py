from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from tests.tables import tabled


@tabled
def test_breakers_of_a_region(voltage_v, breakers_a):
    found = []
    for breaker_a in range(1, 65):
        try:
            found.append(HouseRules(voltage_v=voltage_v, breaker_a=breaker_a).breaker_a)
        except BadValue:
            continue
    assert tuple(found) == breakers_a
