"""What is said of days, and the rules that follow."""

from datetime import date

import pytest

from iron_bucket.core.days.day_plan import DayPlan, PlannedDay, PlannedPass, clock_min, clock_spans, clock_words
from iron_bucket.core.days.order import DayRules, Weights
from iron_bucket.core.days.weather import Forecast
from iron_bucket.core.errors import BadValue

DAY = date(2026, 11, 26)


@pytest.mark.parametrize(
    ("text", "minute"), [("", None), ("0:00", 0), ("07:05", 425), (" 18:00", 1080), ("23:59", 1439), ("35:59", 2159)]
)
def test_a_clock_goes_on_into_the_morning_after(text, minute):
    assert clock_min(text, "call") == minute
    if minute is not None:
        assert clock_words(minute) == f"{minute // 60 % 24:02d}:{minute % 60:02d}"


@pytest.mark.parametrize("text", ["36:00", "7", "12:60", "noon", "-1:00"])
def test_what_is_no_time(text):
    with pytest.raises(BadValue, match="a time such as 18:00"):
        clock_min(text, "call")


def test_hours_of_sound():
    assert clock_spans("", "sound") == ()
    assert clock_spans("0:00-8:00", "sound") == ((0, 480),)
    assert clock_spans("08:00-12:30, 13:30–25:00", "sound") == ((480, 750), (810, 1500))
    for wrong in ("8", "12:00-11:00", "8:00-8:00", "8:00-", ",".join(["8:00-9:00"] * 13)):
        with pytest.raises(BadValue):
            clock_spans(wrong, "sound")
    plan = DayPlan(days=(PlannedDay(piece_id="d", day="2026-11-26", sound="9:00-10:00"),))
    assert (plan.sound_min(DAY), plan.sound_min(date(2026, 1, 1))) == (((540, 600),), ())
    with pytest.raises(BadValue):
        PlannedDay(piece_id="d", day="2026-11-26", sound="all day")
    told = Forecast(piece_id="f", place_id=3, day="2026-11-26")
    known = DayPlan(forecasts=(told,))
    assert (known.forecast(3, DAY), known.forecast(4, DAY), known.forecast(3, date(2026, 1, 1))) == (told, None, None)


def test_rules_of_a_day():
    said = PlannedDay(piece_id="d", day="2026-11-26", call="7:30", wrap="17:00", curfew="22:00")
    plan = DayPlan(days=(said,), move_min=20, turn_round_min=3, break_after_min=300, break_min=45, piece=2.0)
    assert plan.rules(DAY) == DayRules(
        begins_min=450,
        ends_min=1020,
        curfew_min=1320,
        move_min=20,
        turn_round_min=3,
        break_after_min=300,
        break_min=45,
        weights=Weights(piece=2.0),
    )
    other = plan.rules(date(2026, 11, 27), 600)
    assert (other.begins_min, other.ends_min, other.curfew_min) == (600, 1200, None)
    assert DayPlan().rules(DAY).begins_min == 480
    assert (plan.day(DAY), plan.day(date(2026, 1, 1))) == (said, None)
    hero = PlannedPass(piece_id="p", setup_id=4, is_hero=True)
    both = DayPlan(passes=(hero,))
    assert (both.of_pass(4), both.of_pass(5)) == (hero, PlannedPass(piece_id="pass-5", setup_id=5))
