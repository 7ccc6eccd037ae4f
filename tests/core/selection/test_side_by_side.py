from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.selection.levels import levels
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.side_by_side import CURVE_THROWS_M, Verdict, side_by_side, verdicts
from tests.made_up import a_configuration, a_gear, a_need
from tests.tables import table

SPOT = table(__file__, "SPOT")
PANEL = table(__file__, "PANEL")
GEAR = a_gear(**table(__file__, "GEAR"), configurations=(a_configuration(), SPOT, PANEL))
BENCH = pack(GEAR)
FRAME = next(front.key for front in BENCH.fronts if front.cloth and front.head_share == 0.4)
KEYS = ("lamp.spot~open~none", "panel.own~open~none", "lamp.own~dome~blue")


def test_each_stack_on_the_same_work():
    sides = side_by_side(BENCH, KEYS, a_need(throw_m=3.0), FRAME)
    spot, panel, dome = sides.rows
    assert spot.level_lx == pytest.approx(level_lx(SPOT, 3.0), rel=1e-3)
    assert spot.open_lx == spot.level_lx
    assert spot.far_lx == pytest.approx(level_lx(SPOT, 10.0), rel=1e-3)
    assert spot.lowest_lx == pytest.approx(spot.level_lx * 0.01)
    assert panel.curve_lx == pytest.approx(
        [level_lx(PANEL, throw) for throw in CURVE_THROWS_M], rel=1e-3
    )  # the near-field bend
    assert dome.level_lx < dome.open_lx
    (ungelled,) = side_by_side(BENCH, ("lamp.own~dome~none",), a_need(throw_m=3.0)).rows
    assert dome.level_lx == pytest.approx(ungelled.level_lx / 2)  # the gel passes half
    assert dome.curve_lx == pytest.approx(ungelled.curve_lx / 2)
    assert dome.apparent_deg == pytest.approx(2 * np.degrees(np.arctan(0.5 / 3.0)))
    assert (spot.weight_kg, dome.weight_kg) == (6.5, pytest.approx(5.0 + 0.5 + 1.5 + 0.1))
    assert (spot.origin, panel.origin, dome.origin) == (Origin.MEASURED, Origin.MEASURED, Origin.TYPICAL)
    assert (panel.coolest_k, panel.warmest_k) == (pytest.approx(6500.0), pytest.approx(2700.0))
    assert dome.coolest_k == pytest.approx(1e6 / (1e6 / 5600.0 - 100.0))
    assert spot.section_lx[0] == spot.level_lx
    assert spot.coverage_m < dome.coverage_m
    assert (panel.is_owned, spot.is_owned) == (True, False)
    tinted = replace(BENCH, tint=BENCH.tint + 0.004, sheet_tint=BENCH.sheet_tint + 0.003)
    before, after = (side_by_side(each, KEYS, a_need()).rows[2].tint for each in (BENCH, tinted))
    assert after - before == pytest.approx(0.007)


def test_what_each_gives_for_its_watts_kilos_and_price():
    _, panel, dome = side_by_side(BENCH, KEYS, a_need(throw_m=3.0)).rows
    assert dome.lux_per_watt == dome.level_lx / 200.0
    assert dome.lux_per_kg == dome.level_lx / dome.weight_kg
    assert dome.day_price == 40.0 + 6.0 + 3.0
    assert dome.lux_per_price == dome.level_lx / 49.0
    assert panel.lux_per_price is None


def test_behind_the_same_cloth_the_stack_s_own_things_are_off():
    sides = side_by_side(BENCH, (*KEYS, f"lamp.spot~{FRAME}~none"), a_need(throw_m=3.0), FRAME)
    assert sides.rows[3].level_lx == pytest.approx(sides.rows[0].through_lx)
    assert sides.rows[3].apparent_deg > sides.rows[0].apparent_deg
    need, framed = a_need(throw_m=3.0), next(at for at, front in enumerate(BENCH.fronts) if front.key == FRAME)
    row = next(at for at, each in enumerate(BENCH.configurations) if each == SPOT)
    assert sides.rows[3].apparent_deg == pytest.approx(levels(BENCH, need).apparent_deg[row, framed])
    assert side_by_side(BENCH, KEYS, need).rows[0].through_lx is None
    assert (CURVE_THROWS_M[[0, -1]].tolist(), len(CURVE_THROWS_M)) == ([0.5, 20.0], 17)


def test_a_width_asked_for_is_looked_at_whole():
    assert side_by_side(BENCH, KEYS, a_need(throw_m=3.0)).places_m[-1] == pytest.approx(1.8)
    assert side_by_side(BENCH, KEYS, a_need(throw_m=3.0, width_m=4.0)).places_m[-1] == pytest.approx(3.0)


def test_what_is_no_longer_there_is_left_out_and_four_are_the_most():
    assert [
        row.key
        for row in side_by_side(BENCH, ("gone~open~none", KEYS[0], "panel.own~dome~none", "nonsense"), a_need()).rows
    ] == [KEYS[0]]
    assert len(side_by_side(BENCH, (*KEYS, KEYS[0], KEYS[1]), a_need()).rows) == 4
    assert side_by_side(BENCH, (), a_need()).rows == ()
    with pytest.raises(BadValue, match="frame is 'dome'"):
        side_by_side(BENCH, KEYS, a_need(), "dome")


def test_which_is_the_better_tool_for_what():
    told = {each.task: each for each in verdicts(side_by_side(BENCH, KEYS, a_need(throw_m=3.0), FRAME))}
    assert told["a long throw, 10 m in the open"].places == (0,)
    assert told["a wide fill"].places[-1] in (1, 2)
    assert told["softness"].places == (2,)
    assert told["burning low without a scrim"].places == (1,)
    assert told["light off a battery"].places == (0,)  # the panel takes none
    assert told["light through the cloth"].ahead_stops > 0
    assert "the money" not in told  # the panel is ours
    hired = {each.task for each in verdicts(side_by_side(BENCH, (KEYS[0], KEYS[2]), a_need(throw_m=3.0)))}
    assert "the money" in hired
    assert "light through the cloth" not in hired
    near = {each.task for each in verdicts(side_by_side(BENCH, KEYS, a_need(throw_m=1.0)))}
    assert "burning low without a scrim" in near  # dozens of lux at their lowest


def test_alike_is_what_no_meter_would_tell_apart():
    same = side_by_side(BENCH, (KEYS[0], KEYS[0]), a_need())
    assert all(each.places == (0, 1) and each.ahead_stops is None for each in verdicts(same))
    assert verdicts(side_by_side(BENCH, KEYS[:1], a_need())) == ()
    no_battery = verdicts(side_by_side(BENCH, (KEYS[1], KEYS[1]), a_need()))
    assert "light off a battery" not in {each.task for each in no_battery}
    one_only = next(
        each for each in verdicts(side_by_side(BENCH, KEYS[:2], a_need())) if each.task == "light off a battery"
    )
    assert one_only == Verdict(task="light off a battery", places=(0,), ahead_stops=None)
