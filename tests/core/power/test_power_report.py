"""What each source bears and each load gets: one plan with a source of every kind, by hand."""

import math
from dataclasses import replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.battery import Supply
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.power.planned_load import Lead, PlannedLoad
from iron_bucket.core.power.power_plan import PowerPlan, as_pinned, left_of
from iron_bucket.core.power.power_report import load_reports, source_reports
from iron_bucket.core.power.sources import (
    BatterySource,
    CircuitSource,
    GeneratorSource,
    StationSource,
    ThreePhaseSource,
)

RING = CircuitSource(source_id="ring", circuit=Circuit(voltage_v=230.0, breaker_a=10.0, used_a=2.0))
BOARD = ThreePhaseSource(source_id="board", voltage_v=230.0, breaker_a=10.0)
BATTERY = BatterySource(
    source_id="v",
    supply=Supply(capacity_wh=100.0, nominal_v=14.0, most_a=10.0, usable=0.9, efficiency=0.8, count=2),
    temperature_c=0.0,
)
STATION = StationSource(source_id="station", capacity_wh=1000.0, continuous_w=500.0, surge_w=900.0, efficiency=0.9)
PLANT = GeneratorSource(
    source_id="plant", voltage_v=230.0, continuous_w=2000.0, peak_w=2400.0, noise_dba=60.0, at_m=(3.0, 4.0)
)
EVERY = (RING, BOARD, BATTERY, STATION, PLANT)


def a_load(fed_by: str, watts: float, **changes) -> PlannedLoad:
    name = f"{fed_by}{changes.get('leg', '')}{watts:g}"
    return PlannedLoad(**({"load_id": name, "watts": watts, "fed_by": fed_by} | changes))


def reports(*loads, sources=EVERY, microphone_m=None):
    plan = PowerPlan(sources=sources, loads=loads, microphone_m=microphone_m)
    return {each.source_id: each for each in source_reports(plan, as_pinned(plan))}


def loaded(source_id: str, *watts: float, **changes):
    return reports(*(a_load(source_id, each, **changes) for each in watts))[source_id]


def test_a_circuit_with_what_hangs_on_it_already():
    """8 A are planned of 10, 2 are used: 6 A, 1380 W, are ours."""
    full = loaded("ring", 1380.0)
    assert (full.amps, full.limit_a, full.spare_a) == pytest.approx((6.0, 8.0, 0.0))
    assert (full.within_limit, full.within_breaker, full.legs_a, full.runtime_h) == (True, True, None, None)
    more = loaded("ring", 1380.0, 230.0)
    assert (more.watts, more.spare_a, more.within_limit, more.within_breaker) == (
        1610.0,
        pytest.approx(-1.0),
        False,
        True,
    )
    assert [loaded("ring", watts).within_breaker for watts in (1840.0, 1841.0)] == [True, False]
    assert loaded("ring", 690.0, power_factor=0.5).amps == pytest.approx(6.0)
    assert reports()["ring"].amps == 0.0
    two = reports(a_load("ring", 230.0), a_load("v", 50.0))  # to each its own
    assert (two["ring"], two["v"]) == (loaded("ring", 230.0), loaded("v", 50.0))


def test_a_board_by_its_fullest_leg():
    legs = {"a": 1840.0, "b": 920.0, "c": 460.0}
    found = reports(*(a_load("board", watts, leg=leg) for leg, watts in legs.items()))["board"]
    assert found.legs_a == pytest.approx((8.0, 4.0, 2.0))
    assert (found.amps, found.limit_a, found.spare_a, found.watts) == pytest.approx((8.0, 8.0, 0.0, 3220.0))
    assert found.neutral_a == pytest.approx(math.sqrt(64 + 16 + 4 - 32 - 8 - 16))
    assert found.imbalance_share == pytest.approx(8.0 / (14.0 / 3.0) - 1.0)
    assert (found.within_limit, found.within_breaker) == (True, True)
    over = [reports(a_load("board", watts, leg="b"))["board"] for watts in (1841.0, 2300.0, 2301.0)]
    assert [(each.within_limit, each.within_breaker) for each in over] == [(False, True), (False, True), (False, False)]


def test_batteries_and_stations_by_their_watts():
    """Cold leaves 80 %: 2 x 100 x 0.8 x 0.9 x 0.8 Wh; 2 x 10 A x 14 V x 0.8 are 224 W."""
    found = loaded("v", 112.0)
    assert (found.amps, found.limit_a, found.spare_a) == pytest.approx((5.0, 10.0, 5.0))
    assert (found.delivers, found.within_limit, found.within_breaker) == (True, True, None)
    assert found.runtime_h == pytest.approx(115.2 / 112.0)
    dead = loaded("v", 225.0)
    assert (dead.delivers, dead.within_limit, dead.runtime_h) == (False, False, 0.0)
    assert reports()["v"].runtime_h is None
    station = loaded("station", 450.0)
    assert (station.runtime_h, station.delivers, station.within_breaker) == (pytest.approx(2.0), True, True)
    assert [loaded("station", w).delivers for w in (500.0, 501.0)] == [True, False]
    assert [loaded("station", w).within_breaker for w in (900.0, 901.0)] == [True, False]
    assert loaded("station", 501.0).runtime_h == 0.0
    assert (reports()["station"].runtime_h, reports()["station"].within_limit) == (None, True)


def test_a_generator_by_its_apparent_power_and_its_sound():
    found = loaded("plant", 1000.0, power_factor=0.5)
    assert (found.amps, found.limit_a, found.spare_a) == pytest.approx((2000 / 230, 2000 / 230, 0.0))
    assert (found.within_limit, found.within_breaker, found.level_dba) == (True, True, None)
    assert [loaded("plant", w).within_limit for w in (2000.0, 2001.0)] == [True, False]
    assert [loaded("plant", w).within_breaker for w in (2400.0, 2401.0)] == [True, False]
    heard = {at: reports(microphone_m=at)["plant"].level_dba for at in ((3.0, 11.0), (10.0, 28.0), (3.0, 4.0))}
    assert heard[3.0, 11.0] == pytest.approx(60.0)
    assert heard[10.0, 28.0] == pytest.approx(60.0 - 20 * math.log10(25.0 / 7.0))
    assert heard[3.0, 4.0] == pytest.approx(60.0 + 20 * math.log10(7.0))  # no nearer than a metre
    for silent in (replace(PLANT, noise_dba=None), replace(PLANT, at_m=None)):
        assert reports(sources=(silent,), microphone_m=(0.0, 0.0))["plant"].level_dba is None


def test_what_a_load_gets_at_the_end_of_its_lead():
    lead = Lead(length_m=30.0, area_mm2=1.5)
    loads = [
        a_load("ring", 690.0, lead=lead),
        a_load("board", 690.0, leg="c", lead=lead, curve=DrawCurve.FILAMENT),
        a_load("v", 112.0, lead=lead),
        a_load("station", 100.0, lead=lead),
        a_load("plant", 690.0),
        PlannedLoad(load_id="nowhere", watts=10.0),
    ]
    plan = PowerPlan(sources=EVERY, loads=tuple(loads))
    ring, board, battery, station, plant, nowhere = load_reports(plan, as_pinned(plan))
    lost = 2 * 30 * 3 * 1.724e-8 / 1.5e-6
    assert (ring.amps, ring.drop_v, ring.volts_at_load) == pytest.approx((3.0, lost, 230.0 - lost))
    assert (ring.drop_share, ring.tungsten_flux_share, ring.leg) == (pytest.approx(lost / 230), None, "")
    assert (board.leg, board.tungsten_flux_share) == ("c", pytest.approx((1 - lost / 230) ** 3.4))
    assert (battery.amps, battery.drop_v) == pytest.approx((5.0, lost * 5 / 3))
    assert battery.volts_at_load == pytest.approx(14.0 - lost * 5 / 3)
    assert (station.fed_by, station.amps, station.drop_v) == ("station", None, None)
    assert (plant.amps, plant.drop_v) == (pytest.approx(3.0), None)
    assert (nowhere.fed_by, nowhere.leg, nowhere.amps) == ("", "", None)
    left = {channel.source_id + channel.leg: free for channel, free in left_of(plan, as_pinned(plan)).items()}
    assert left["ring"] == pytest.approx(6 * 230 - 690.0)
    assert (left["v"], left["boardc"], left["boarda"]) == pytest.approx((224 - 112.0, 8 * 230 - 690.0, 8 * 230))


def test_starts_burdens_and_legs_of_channels():
    circuit = Circuit(voltage_v=230.0, breaker_a=16.0, used_a=1.0)
    (channel,) = CircuitSource(source_id="c", circuit=circuit, start_a=80.0, burden=0.3).channels
    assert (channel.start_limit, channel.burden, channel.leg) == (pytest.approx(79 * 230.0), 0.3, "")
    assert RING.channels[0].start_limit is None
    full = replace(RING, circuit=replace(RING.circuit, used_a=9.0), start_a=5.0).channels[0]
    assert (full.limit, full.start_limit) == (0.0, 0.0)
    two = replace(BOARD, used_a=3.0, legs=("a", "b"), start_a=50.0, burden=0.2).channels
    assert [(each.leg, each.limit, each.start_limit, each.burden) for each in two] == [
        (leg, pytest.approx(5 * 230.0), pytest.approx(47 * 230.0), 0.2) for leg in "ab"
    ]
    assert replace(BOARD, used_a=9.0).channels[0].limit == 0.0
    assert replace(BATTERY, burden=0.5).channels[0].burden == 0.5
    with pytest.raises(BadValue, match="breaker_a is 0"):
        replace(BOARD, breaker_a=0.0)
    may = PlannedLoad(load_id="m", watts=1.0, may=frozenset({"ring"}))
    plan = PowerPlan(sources=EVERY, loads=(may,))
    assert [channel.source_id for channel in plan.channels if plan.takes(may, channel)] == ["ring"]


def test_a_plan_has_an_end():
    for most, field in ((100, "sources"), (400, "loads")):
        ends = {"sources": (RING,), "loads": (), field: ({"sources": RING, "loads": a_load("ring", 1.0)}[field],)}
        with pytest.raises(BadValue, match="id in"):  # as many as may be, told by the next rule: all have one name
            PowerPlan(**{**ends, field: ends[field] * most})
        with pytest.raises(BadValue, match=f"{most + 1} of them; accepted: up to {most}"):
            PowerPlan(**{**ends, field: ends[field] * (most + 1)})
