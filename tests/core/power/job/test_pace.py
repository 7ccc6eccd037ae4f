"""How fast a crew is, by hand."""

from dataclasses import replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.pace import Pace, crew_share, learned_pace
from iron_bucket.core.power.job.shooting_day import time_of, usual_time
from tests.core.power.job.test_days import a_pass
from tests.tables import table

TIMED = table(__file__, "TIMED")


def test_more_people_are_quicker_and_twice_as_many_not_twice_as_quick():
    assert crew_share(3) == 1.0
    assert crew_share(6) == pytest.approx(0.5**0.7)
    assert crew_share(1) == pytest.approx(3.0**0.7)


def test_all_minutes_over_all_that_the_rule_gave():
    other = replace(TIMED, rig_min=5, shoot_min=60, strike_min=0, rule_rig_min=20, rule_shoot_min=50, rule_strike_min=0)
    # Rig 80 of 80, shoot 150 of 125; of strike only twenty minutes were ruled: nothing is learned of it.
    assert learned_pace((TIMED, other)) == Pace(rig=1.0, shoot=1.2, strike=1.0)
    assert learned_pace((TIMED, replace(other, rule_strike_min=10))) == Pace(rig=1.0, shoot=1.2, strike=0.33)
    assert learned_pace((replace(TIMED, rig_min=600),)).rig == 4.0
    assert learned_pace((replace(TIMED, rig_min=1),)).rig == 0.25
    assert learned_pace(()) is None
    assert learned_pace((replace(TIMED, rule_rig_min=29, rule_shoot_min=0, rule_strike_min=0),)) is None


def test_times_by_rule_follow_the_crew_and_its_pace():
    usual = usual_time(1, is_first=True)
    assert time_of(a_pass(1), JobPower()) == usual
    slow = time_of(a_pass(1), JobPower(crew=6, rig_pace=2.0, shoot_pace=1.2, strike_pace=0.5))
    assert (slow.rig_min, slow.shoot_min, slow.strike_min) == (round(60 * 2.0 * 0.5**0.7), 90, round(10 * 0.5**0.7))
    said = replace(usual, rig_min=7)
    assert time_of(a_pass(1), JobPower(crew=1, times=(said,))) == said


@pytest.mark.parametrize("changes", [{"crew": 0}, {"crew": 61}, {"rig_pace": 0.2}, {"shoot_pace": 4.1}])
def test_what_no_crew_is(changes):
    with pytest.raises(BadValue):
        JobPower(**changes)
    with pytest.raises(BadValue):
        replace(TIMED, strike_min=-1)
