"""Every way out of an overload, taken: it saves what it says, and the circuit is within its limit then."""

from dataclasses import replace

import pytest

from iron_bucket.core.bench.head import MainsRange
from iron_bucket.core.power.job.kit import Board, Generator, JobPower, Phases, Pin, pin_of
from iron_bucket.core.power.job.outlets import fed_place
from iron_bucket.core.power.job.shared_board import shared_board, takes_volts
from iron_bucket.core.power.job.ways_out import Reach, ways_in, ways_out
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.changes import changed
from tests.core.power.job.made import HERE, KETTLE, TWO, a_board, a_kilowatt, around
from tests.core.setups.made import a_lamp, a_setup

COUNTS = {"battery-v-150": 4}


def found_for(gear, *lamps, power=JobPower(), counts=COUNTS):  # noqa: B008
    board, place = a_board(gear, *lamps, power=power, counts=counts), around()
    bar = board.over[0]
    return bar, ways_out(bar, board, place.place, place.lead_ways, gear, UnitSystem.METRIC)


def test_each_brings_the_circuit_back_and_saves_what_it_says(gear):
    lamps = (
        a_kilowatt(1),
        a_kilowatt(2, configuration="tung-650.flood"),
        a_lamp(piece_id="led", name="Led", feed="socket", level=0.6, configuration="day-led-300.bare"),
    )
    power = JobPower(loads=(replace(KETTLE, watts=250.0),))
    bar, ways = found_for(gear, *lamps, power=power)
    kinds = [way.reach for way in ways]
    assert kinds == sorted(kinds, key=list(Reach).index)
    assert {Reach.MOVE, Reach.DIM, Reach.BATTERY, Reach.OFF, Reach.HEAD} == set(kinds)
    for way in ways:
        setup = changed(a_setup(lamps=lamps), way.changes)
        after = replace(power, loads=(replace(power.loads[0], feed=way.feed),)) if way.feed else power
        now = a_board(gear, *setup.lamps, power=after, counts=COUNTS)
        ring = now.bar_of("socket")
        assert ring.fits, way.text
        assert bar.amps - ring.amps == pytest.approx(way.saves_a, abs=0.02), way.text
        assert len(now.over) == 0
        assert not [load for battery in now.batteries for load in battery.refused]
    texts = {way.text: way for way in ways}
    assert texts["Switch off K1"].saves_a == pytest.approx(1000 / 230)
    # Along the walls from (5.8, 4.8) to (1, 0.6): 0.2 + 4.8 + 5.0 + 0.6 m, and 1.5 m up the stand.
    assert "K1 to Store, 12.1 m of lead from Store socket" in texts
    assert "Led on 2 × V-lock 150 Wh, for 1 h 10" in texts  # 256.5 Wh at 219.6 W


def test_the_fewest_thirds_of_a_stop_that_do_and_nothing_that_does_not(gear, monkeypatch):
    """Two kilowatts are 0.30 A over; a third of a stop takes 1 - 2^(-1.6 / 3.4 / 3) = 10.3 % off 4.35 A of filament."""
    _, ways = found_for(gear, a_kilowatt(1), a_kilowatt(2))
    dims = [way for way in ways if way.reach is Reach.DIM]
    assert [way.text for way in dims] == ["Dim K1 0.3 stop, to 79 %", "Dim K2 0.3 stop, to 79 %"]
    monkeypatch.setattr("iron_bucket.core.power.job.ways_out._MOST_THIRDS", 1)
    assert [way for way in found_for(gear, a_kilowatt(1), a_kilowatt(2))[1] if way.reach is Reach.DIM] == dims
    assert dims[0].saves_a == pytest.approx(1000 / 230 * (1 - 2 ** (-1.6 / 3.4 / 3)))
    # A circuit that is full, batteries that are taken and a level that plates do not give are no way out.
    full = JobPower(loads=(replace(KETTLE, watts=2300.0, feed="store"),))
    _, ways = found_for(gear, a_kilowatt(1), a_kilowatt(2), power=full)
    assert not [way for way in ways if way.reach in (Reach.MOVE, Reach.BATTERY)]
    led = a_lamp(piece_id="led", name="Led", feed="socket", level=1.0, configuration="day-led-300.bare")
    _, ways = found_for(gear, led, a_kilowatt(1), a_kilowatt(2))
    assert not [way for way in ways if way.reach is Reach.BATTERY]
    busy = a_lamp(piece_id="b", name="B", feed="battery-v-150", level=0.1)
    _, ways = found_for(gear, replace(led, level=0.5), a_kilowatt(1), a_kilowatt(2), busy, counts={"battery-v-150": 3})
    assert not [way for way in ways if way.reach is Reach.BATTERY]
    # A station takes the kettle: 1.5 kWh x 0.85 x 0.88 at 1.2 kW. A filament's start of 10 kW is too much for it.
    station = {"battery-station-1500": 1}
    _, ways = found_for(gear, a_kilowatt(1), power=JobPower(loads=(KETTLE,)), counts=station)
    plugged = [(way.text, way.feed, way.changes) for way in ways if way.reach is Reach.BATTERY]
    assert plugged == [("Kettle on 1 × power station 1.5 kWh, for 56 min", "battery-station-1500", ())]
    # Lamps of 110 V stay off 230.
    assert not found_for(gear, a_kilowatt(1, configuration="tung-5000.flood"), counts={})[1][0].text.startswith("K1 to")


def test_shared_out_each_circuit_keeps_its_limit_and_pins_stay(gear):
    lamps = [a_kilowatt(at) for at in range(4)]
    power = JobPower(pins=(Pin(piece_id=pin_of(1, "k3")),))
    place = around()
    board = a_board(gear, *lamps, power=power)
    given = {"hours": 2.0, "celsius": None, "loudness_dba": {}}
    shared = shared_board(board, place.place, place.lead_ways, power, 1, **given)
    assert "k3" not in shared.feeds
    led = a_lamp(piece_id="led", feed="socket", level=0.3)  # on mains it stays, whatever batteries there are
    mains = JobPower(pins=(Pin(piece_id=pin_of(1, "led")),))
    on_mains = shared_board(a_board(gear, led, counts=COUNTS), place.place, place.lead_ways, mains, 1, **given)
    assert (on_mains.feeds, on_mains.left) == ({}, ())
    # 10.4 A less 2 bear one kilowatt of filament, 10.4 bear two: one of four fits nowhere.
    assert (len(shared.left), shared.gap) == (1, pytest.approx(0.0, abs=1e-6))
    assert sorted(shared.feeds.values()) == ["store", "store"]
    assert shared.left[0].why == "it needs 4.3 A, Ring has 4.1 A"
    three = a_board(gear, *lamps[:3])
    after = shared_board(three, place.place, place.lead_ways, JobPower(), 1, **given)
    moved = [replace(lamp, feed=after.feeds.get(lamp.piece_id, lamp.feed)) for lamp in lamps[:3]]
    assert a_board(gear, *moved).over == ()
    # What hangs well stays; what no circuit bears goes on batteries that do; what is off is left alone.
    assert shared_board(a_board(gear, lamps[0]), place.place, place.lead_ways, JobPower(), 1, **given).feeds == {}
    led = a_lamp(piece_id="led", name="Led", feed="", level=0.5, configuration="day-led-300.bare")
    alone = replace(TWO, circuits=(replace(TWO.circuits[0], used_a=10.4),), sockets=TWO.sockets[:1])
    off = a_kilowatt(2, is_on=False, feed="")
    dark = a_board(gear, led, off, place=alone, counts=COUNTS)
    found = shared_board(dark, alone, around(alone).lead_ways, JobPower(), 1, **given)
    assert (found.feeds, found.left) == ({"led": "battery-v-150"}, ())
    three = a_board(gear, led, replace(led, piece_id="two"), place=alone, counts={"battery-v-150": 3})
    few = shared_board(three, alone, around(alone).lead_ways, JobPower(), 1, **given)
    assert (len(few.feeds), few.left[0].why) == (1, "it takes 2 of V-lock 150 Wh, and 1 is left")
    small = a_lamp(piece_id="small", feed="", level=0.1, configuration="day-led-60.bare")
    last = a_board(gear, small, place=alone, counts={"battery-v-150": 1})
    found = shared_board(last, alone, around(alone).lead_ways, JobPower(), 1, **given)
    assert found.feeds == {"small": "battery-v-150"}


def test_a_head_takes_the_volts_that_are_its_own(gear):
    board = a_board(gear, a_kilowatt(), power=JobPower(loads=(KETTLE,)))
    lamp, kettle, bar = (*(each for each in board.loads), board.bars[0])
    low = replace(lamp, fixture=replace(lamp.fixture, head=replace(lamp.head, mains=MainsRange(low_v=100, high_v=120))))
    none = replace(lamp, fixture=replace(lamp.fixture, head=replace(lamp.head, mains=None)))
    assert [takes_volts(each, bar) for each in (lamp, kettle, low, none)] == [True, True, False, False]


def test_three_legs_share_what_one_would_not_bear(gear):
    box = Board(piece_id="box", name="Box", place_id=HERE, phases=Phases.THREE, breaker_a=10.0, x_m=2.0)
    power = JobPower(boards=(box,))
    full = replace(TWO, circuits=tuple(replace(each, used_a=10.4) for each in TWO.circuits))
    fed = fed_place(full, HERE, power).place
    board = a_board(gear, *(a_kilowatt(at, feed="") for at in range(4)), power=power, place=full)
    found = shared_board(board, fed, around(fed).lead_ways, power, 1, hours=2.0, celsius=None, loudness_dba={})
    assert sorted(found.feeds.values()) == ["brought.box.a", "brought.box.b", "brought.box.c"]
    assert found.left[0].why == "it needs 4.3 A, Box, leg a has 3.7 A"


def test_the_louder_generator_is_spared(gear):
    plants = tuple(
        Generator(piece_id=name, name=name, place_id=HERE, continuous_w=2300.0, peak_w=30_000.0)
        for name in ("loud", "quiet")
    )
    bare = replace(TWO, circuits=(), sockets=())
    board = a_board(gear, a_kilowatt(feed=""), power=JobPower(generators=plants), place=bare)
    fed = fed_place(bare, HERE, JobPower(generators=plants)).place
    for loud, quiet in (("loud", "quiet"), ("quiet", "loud")):
        given = {"hours": 1.0, "celsius": None, "loudness_dba": {loud: 60.0, quiet: 40.0}}
        shared = shared_board(board, fed, around(fed).lead_ways, JobPower(), 1, **given)
        assert shared.feeds == {"k1": f"brought.{quiet}"}
    # Batteries rather than a generator that is heard, a quiet one rather than batteries.
    led = a_lamp(piece_id="led", name="Led", feed="", level=0.2, configuration="day-led-300.bare")
    board = a_board(gear, led, power=JobPower(generators=plants[:1]), place=bare, counts=COUNTS)
    for dba, feed in ((60.0, "battery-v-150"), (30.0, "brought.loud")):
        given = {"hours": 1.0, "celsius": None, "loudness_dba": {"loud": dba}}
        assert shared_board(board, fed, around(fed).lead_ways, JobPower(), 1, **given).feeds == {"led": feed}


def test_what_hangs_nowhere_is_fed_by_one_change(gear):
    """A kilowatt beside one on each circuit of 10.4 A: the store bears it, the ring only with one change more."""
    lamps = [a_kilowatt(1), a_kilowatt(2, feed="store"), a_kilowatt(3, feed="")]
    place = around()

    def ways(*lamps, counts=None, power=JobPower()):  # noqa: B008
        board = a_board(gear, *lamps, power=power, counts=counts or {})
        return ways_in(board.unfed[0], board, place.place, place.lead_ways, gear, UnitSystem.METRIC)

    # 0.2 + 4.8 + 5.0 + 0.6 + 1.5 m along the walls; on the ring, 4.35 A of 4.05, a third of a stop less of either.
    found = {way.text: way for way in ways(*lamps)}
    assert next(iter(found)) == "K3 on Store, 12.1 m of lead from Store socket"
    assert {"K3 on Ring, and dim K1 0.3 stop, to 79 %", "K3 on Ring, and dim K3 0.3 stop, to 79 %"} < set(found)
    assert "K3 on Ring, and K1 to Store, 12.1 m of lead from Store socket" in found
    assert not [text for text in found if "switch off K3" in text or "and K3 to" in text]
    for way in found.values():
        now = a_board(gear, *changed(a_setup(lamps=tuple(lamps)), way.changes).lamps)
        assert (now.over, [load.load_id for load in now.unfed]) == ((), []), way.text
    led = a_lamp(piece_id="led", name="Led", feed="", level=0.5, configuration="day-led-300.bare")
    assert [way.text for way in ways(led, counts=COUNTS)][-1].startswith("Led on 2 × V-lock 150 Wh, for 1 h 2")
    assert [way.saves_a for way in ways(led, counts=COUNTS)] == [0.0] * 3
    kettle = ways(power=JobPower(loads=(replace(KETTLE, feed=""),)))
    assert [(way.feed, way.load_id, way.changes) for way in kettle] == [
        ("socket", "kettle", ()),
        ("store", "kettle", ()),
    ]
