"""What hangs where, what gives first, and what brought sources and their neutrals carry: by hand."""

from dataclasses import replace
from types import SimpleNamespace

import pytest

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.job.generator_day import start_order
from iron_bucket.core.power.job.kit import Board, ChargerKit, Generator, JobPower, OtherLoad, Phases
from iron_bucket.core.power.job.load_board import _legs
from iron_bucket.core.power.job.outlets import fed_place
from iron_bucket.core.power.job.power_cautions import power_cautions, supply_cautions
from iron_bucket.core.power.job.shared_board import _circuits, shared_board
from iron_bucket.core.power.job.ways_out import ways_out
from iron_bucket.core.power.phases import harmonic_a, neutral_with_harmonics_a
from tests.core.power.job.made import HERE, KETTLE, RULES, TWO, a_board, a_kilowatt, around
from tests.core.setups.made import a_lamp, a_place

BOX = Board(piece_id="box", name="Box", place_id=HERE, phases=Phases.THREE, breaker_a=16.0, used_a=1.0, x_m=2.0)
PLANT = Generator(piece_id="gen", name="Plant", place_id=HERE, x_m=9.0, y_m=9.0, continuous_w=2300.0, peak_w=2530.0)


def told(board, power=JobPower(), place=TWO):  # noqa: B008
    found = power_cautions(
        board, fed_place(place, HERE, power).legs, around(fed_place(place, HERE, power).place), RULES.units
    )
    return {(each.code, each.title): each.trigger for each in found}


def test_a_ring_bears_what_is_planned_of_it_and_opens_when_the_standard_says(gear):
    two = a_board(gear, a_kilowatt(1), a_kilowatt(2)).bars[0]
    assert (two.ours_a, two.amps, two.limit_a) == pytest.approx((2000 / 230, 2 + 2000 / 230, 10.4))
    assert two.spare_a == pytest.approx(10.4 - 2 - 2000 / 230)
    assert (two.fits, two.opens, two.dark, two.eighty_a) == (False, None, ("K1", "K2"), pytest.approx(10.4))
    one = a_board(gear, a_kilowatt(1), a_kilowatt(2, is_on=False)).bars[0]
    assert (one.fits, one.amps, one.dark) == (True, pytest.approx(2 + 1000 / 230), ("K1",))
    assert one.as_used.used_a == pytest.approx(one.amps)
    # Three of 4.35 A and 2.0 are 15.04 A, 1.157 times 13; with four 1.49 times.
    lamps = [a_kilowatt(at) for at in range(4)]
    assert a_board(gear, *lamps[:3]).bars[0].opens.words == "after 47 min or not at all"
    assert a_board(gear, *lamps).bars[0].opens.words == "after 4 min to 49 min"
    caution = told(a_board(gear, *lamps))["breaker", "Too much on Ring"]
    assert caution == (
        "17.4 A of ours, 2.0 A on it already, 10.4 A planned of 13 A;"
        " the breaker opens after 4 min to 49 min (curve B, typical), and K0, K1, K2 and K3 go dark"
    )
    assert (
        "and K0 goes dark"
        in told(a_board(gear, a_kilowatt(0, configuration="tung-5000.flood")))["breaker", "Too much on Ring"]
    )
    exact = replace(TWO, circuits=(replace(TWO.circuits[0], used_a=10.4 - 1000 / 230), TWO.circuits[1]))
    assert a_board(gear, a_kilowatt(), place=exact).bars[0].fits


def test_starts_are_the_hardest_one_while_the_rest_burns(gear):
    """A cold filament takes ten times; of 2 kW that is 87 A, 6.7 times 13, which opens curve B at once."""
    lamp = a_kilowatt(1, configuration="tung-2000.flood", level=0.5)
    bar = a_board(gear, lamp).bars[0]
    assert bar.start_a == pytest.approx(2.0 + 10 * 2000 / 230)
    assert bar.start_opens
    assert not a_board(gear, a_kilowatt(1, configuration="tung-300.flood")).bars[0].start_opens
    steady = a_board(gear, a_lamp(feed="socket", level=1.0)).bars[0]
    assert steady.start_a == pytest.approx(steady.amps)
    struck = a_board(gear, a_kilowatt(1, configuration="hmi-1200.flood", level=0.5)).bars[0]
    assert struck.start_a == pytest.approx(2.0 + 1.6 * 1330 / 0.98 / 230)
    assert (
        told(a_board(gear, lamp), place=TWO)["start", "Ring does not bear the start"]
        == "89 A as the hardest starts, on 13 A"
    )
    own = replace(
        gear, heads=tuple(replace(each, inrush_a=40.0) if each.slug == "hmi-1200" else each for each in gear.heads)
    )
    assert a_board(own, a_kilowatt(1, configuration="hmi-1200.flood")).bars[0].start_a == pytest.approx(
        2.0 + 40 * 250 / 230
    )
    power = JobPower(loads=(replace(KETTLE, watts=50.0),))
    mixed = a_board(gear, a_kilowatt(1), a_kilowatt(2, configuration="hmi-1200.flood"), power=power).bars[0]
    order = start_order(mixed)
    steps = order.steps
    assert order.running_a == pytest.approx(mixed.amps)
    # The filament jumps highest and is struck first; a kettle neither jumps nor warms up.
    assert [(each.load_id, each.warm_up_min) for each, _ in steps] == [("k1", 0.0), ("k2", 3.0), ("kettle", 0.0)]
    assert steps[0][1] == pytest.approx(2.0 + 10 * 1000 / 230)


def test_brought_legs_are_circuits_and_their_neutral_carries_harmonics(gear):
    power = JobPower(boards=(BOX,))
    fed = fed_place(TWO, HERE, power)
    assert [each.name for each in fed.place.circuits] == ["Ring", "Store", "Box, leg a", "Box, leg b", "Box, leg c"]
    outlet = fed.place.sockets[-1]
    assert (outlet.socket_id, outlet.circuit, outlet.x_m) == ("brought.box.c", "Box, leg c", 2.0)
    assert (fed.legs[0].name, fed.legs[0].needs_electrician) == ("Box", True)
    assert fed_place(TWO, HERE + 1, power).place is TWO
    twice = replace(power, boards=(replace(BOX, phases=Phases.ONE, name="Ring"),))
    assert [each.name for each in fed_place(TWO, HERE, twice).place.circuits] == ["Ring", "Store", "Ring, ours"]
    with pytest.raises(BadValue, match="circuits is 61; accepted: up to 60"):
        fed_place(
            replace(
                TWO, circuits=tuple(replace(TWO.circuits[0], name=n) for n in [*map(str, range(58)), "Ring", "Store"])
            ),
            HERE,
            twice,
        )
    # Filaments, 4.348 A a leg and 1 A of others: all three alike leave the neutral empty, two of them a leg's worth.
    lamps = [a_kilowatt(at, feed=f"brought.box.{leg}") for at, leg in enumerate("abc")]
    legs = a_board(gear, *lamps, power=power).legs[0]
    assert (legs.neutral_a, legs.harmonics_a, legs.imbalance_share) == pytest.approx((0.0, 0.0, 0.0), abs=1e-9)
    two = a_board(gear, *lamps[:2], power=power).legs[0]
    assert two.neutral_a == pytest.approx(1000 / 230)
    assert two.imbalance_share == pytest.approx((1 + 1000 / 230) / (1 + 2000 / 690) - 1)
    # Electronic supplies alike: of I a leg, I3 = 0.1 I / sqrt(1.01) from each adds up in the neutral.
    lamps = [a_lamp(piece_id=leg, name=leg, feed=f"brought.box.{leg}", level=1.0) for leg in "abc"]
    even = a_board(gear, *lamps, power=replace(power, boards=(replace(BOX, used_a=0.0),))).legs[0]
    assert even.neutral_a == pytest.approx(3 * (352 / 0.97 / 230) * 0.1 / 1.01**0.5)
    # Without correction the neutral carries more than a leg: 3 x 0.7 / sqrt(1.49) = 1.72 times.
    lamps = [
        a_kilowatt(at, configuration="hmi-575-mag.flood", feed=f"brought.box.{leg}") for at, leg in enumerate("abc")
    ]
    worst = a_board(gear, *lamps, power=replace(power, boards=(replace(BOX, used_a=0.0),)))
    assert worst.legs[0].neutral_a == pytest.approx(615 / 0.6 / 230 * 2.1 / 1.49**0.5)
    assert ("neutral", "The neutral of Box carries more than a leg") in told(worst, power)
    assert (
        told(worst, power)["electrician", "Box: licensed electrician"] == "distribution box, three phases, 16 A a leg"
    )
    # Two legs against each other: only what they differ by.
    split = JobPower(boards=(replace(BOX, phases=Phases.SPLIT, used_a=0.0),))
    both = a_board(
        gear, a_kilowatt(0, feed="brought.box.a"), a_kilowatt(1, feed="brought.box.b", level=0.4), power=split
    )
    assert both.legs[0].neutral_a == pytest.approx(both.legs[0].amps[0] - both.legs[0].amps[1])


def test_one_leg_alone_comes_back_in_the_neutral_whatever_its_waves_are():
    for legs, harmonics in (((10.0, 0.0, 0.0), (3.0, 0.0, 0.0)), ((10.0, 0.0), (3.0, 0.0))):
        assert neutral_with_harmonics_a(legs, harmonics) == pytest.approx(10.0)
    # Two legs of three, 10 A with 3 A of the third each: 91 of rms squared less their half shared, and 6 A in step.
    assert neutral_with_harmonics_a((10.0, 10.0, 0.0), (3.0, 3.0, 0.0)) == pytest.approx((91.0 + 36.0) ** 0.5)


def test_a_generator_gives_its_rated_amps_and_stalls_beyond_its_peak(gear):
    power = JobPower(generators=(PLANT,))
    feed = "brought.gen"
    one = a_board(gear, a_kilowatt(feed=feed), power=power).bars[-1]
    assert (one.circuit.breaker_a, one.generator, one.opens, one.stalls) == (10.0, PLANT, None, False)
    assert one.limit_a == pytest.approx(8.0)
    three = a_board(gear, *(a_kilowatt(at, feed=feed) for at in range(3)), power=power)
    assert (three.bars[-1].stalls, three.bars[-1].fits) == (True, False)
    assert "; the generator stalls, and K0, K1 and K2 go dark" in told(three, power)["breaker", "Too much on Plant"]
    assert one.start_opens  # 43 A of 11
    assert told(a_board(gear, a_kilowatt(feed=feed), power=power), power)[
        "start", "Plant does not bear the start"
    ].endswith("on 11.0 A for a moment")
    inside = replace(power, generators=(replace(PLANT, x_m=3.0, y_m=2.0),))
    assert (
        told(a_board(gear, power=inside), inside)["indoors", "Plant stands indoors"]
        == "in Room, 3.0 m across, 2.0 m up the plan"
    )
    assert not [code for code, _ in told(a_board(gear, power=power), power)]
    assert PLANT.burns_l_h(0.0) == pytest.approx(0.3)
    assert PLANT.burns_l_h(0.5) == pytest.approx(0.75)
    assert replace(PLANT, phases=Phases.SPLIT).rated_a == pytest.approx(5.0)
    assert replace(PLANT, phases=Phases.THREE).peak_a == pytest.approx(11.0 / 3)


def test_batteries_bear_their_current_and_are_counted_by_their_plates(gear):
    """Two plates of 150 Wh, 14.4 V and 12 A at 95 % give 328 W; 0.6 of 352 W less idle is 219.6 W."""
    lamp = a_lamp(feed="battery-v-150", level=0.6)
    assert [bar.count for bar in a_board(gear, lamp).batteries] == [0]  # hung on what is not in the bucket
    board = a_board(gear, lamp, counts={"battery-v-150": 3, "battery-v-98": 2})
    bars = {bar.kind.slug: bar for bar in board.batteries}
    bar = bars["battery-v-150"]
    assert (bar.plates, bar.count, bar.refused) == (2, 3, ())
    assert [replace(bar, count=count).has_room_for(board.loads[0]) for count in (3, 4)] == [False, True]
    bright = a_board(gear, replace(lamp, level=0.7)).batteries[0]  # 253 W of 328, and more than its plates let it give
    assert [each.can_feed(each.loads[0]) for each in (bar, bright)] == [True, False]
    assert bar.most_w == pytest.approx(2 * 12 * 14.4 * 0.95)
    assert bar.watts == pytest.approx(21.1 + 0.6 * (352 - 21.1))
    assert bar.lasts_h(0.0) == pytest.approx(2 * 150 * 0.9 * 0.95 * 0.8 / bar.watts)
    assert bar.lasts_h(None) == pytest.approx(bar.lasts_h(20.0)) == pytest.approx(bar.lasts_h(0.0) / 0.8)
    assert (bars["battery-v-98"].loads, bars["battery-v-98"].lasts_h(None)) == ((), None)
    assert board.loads[0].jump_va == 0.0
    weak = a_board(
        gear, a_lamp(feed="battery-np-50"), a_kilowatt(2, configuration="day-led-120.bare", feed="battery-d-98")
    )
    assert told(weak)["battery-current", "Key does not run on its batteries"].endswith("it takes no slide-in 50 Wh")
    assert (
        told(a_board(replace(gear, batteries=tuple(replace(b, most_a=2.0) for b in gear.batteries)), lamp))[
            "battery-current", "Key does not run on its batteries"
        ]
        == "it asks 220 W; 2 × V-lock 150 Wh give 55 W"
    )
    short = a_board(gear, lamp, replace(lamp, piece_id="two"), counts={"battery-v-150": 3})
    assert told(short) == {
        ("battery-count", "1 more of V-lock 150 Wh"): "4 on lamps at once; the job has 3 × V-lock 150 Wh"
    }
    assert not short.batteries[0].fits
    tube = a_board(gear, a_lamp(feed="battery-built-in-20", configuration="tube-60.bare", level=0.2))
    assert (tube.batteries[0].is_built_in, told(tube), tube.batteries[0].fits) == (True, {}, True)
    assert tube.batteries[0].has_room_for(tube.loads[0])
    wired = a_lamp(feed="socket", configuration="tube-60.bare")
    boards = [a_board(gear, each, counts={"battery-built-in-20": 1}) for each in (wired, lamp)]
    assert [[bar.is_built_in for bar in board.batteries] for board in boards] == [[True], [False]]


def test_loads_share_a_power_station_whatever_they_are(gear):
    """8.5 A at 230 V and 0.88 are 1720 W a station: four lamps of 300 W and a kettle of 700 W ask for two."""
    on = {"feed": "battery-station-1500"}
    lamps = [a_kilowatt(at, configuration="tung-300.flood", **on) for at in range(4)]
    power = JobPower(loads=(replace(KETTLE, watts=700.0, **on),))
    boards = [a_board(gear, *lamps, power=power, counts={on["feed"]: count}) for count in (1, 2)]
    one, two = (board.batteries[0] for board in boards)
    assert (one.watts, one.most_w, two.most_w) == pytest.approx((1900.0, 8.5 * 230 * 0.88, 2 * one.most_w))
    assert [(bar.plates, bar.places, bar.missing, bar.fits) for bar in (one, two)] == [
        (5, 4, 1, False),
        (5, 8, 0, True),
    ]
    assert (one.lasts_h(None), two.lasts_h(None)) == (0.0, pytest.approx(2 * 1500 * 0.85 * 0.88 / 1900.0))
    each_w = one.kind.supply(1).most_w
    assert told(boards[0], power)["battery-count", "1 more of power station 1.5 kWh"] == (
        f"1900 W on 1 × power station 1.5 kWh, of {each_w:.0f} W each"
    )
    kettle = boards[1].batteries[0].loads[-1]
    assert (kettle.load_id, kettle.is_on_battery) == ("kettle", True)
    assert [two.can_feed(replace(kettle, watts=watts)) for watts in (each_w, each_w + 1.0)] == [True, False]
    left_w = 2 * each_w - 1900.0
    assert [two.has_room_for(replace(kettle, watts=watts)) for watts in (left_w, left_w + 1.0)] == [True, False]
    rooms = [replace(two, loads=(two.loads * 2)[:many]).has_room_for(replace(kettle, watts=1.0)) for many in (7, 8)]
    assert rooms == [True, False]
    assert not replace(two, count=0, loads=()).has_room_for(kettle)
    plain = replace(two, kind=gear.by_slug(BatteryKind, "battery-v-150"), loads=())
    assert (plain.can_feed(kettle), plain.surge_w, plain.places) == (False, None, 2)


def test_whatever_has_watts_is_a_load_where_it_stands(gear):
    power = JobPower(
        loads=(
            OtherLoad(piece_id="kettle", name="Kettle", place_id=HERE, watts=2000.0, power_factor=1.0, feed="store"),
            OtherLoad(
                piece_id="once", name="Hazer", place_id=HERE, setup_id=2, watts=100.0, start_va=300.0, feed="store"
            ),
            OtherLoad(piece_id="far", name="Far", place_id=HERE + 1, watts=100.0, feed="store"),
        ),
        chargers=(
            ChargerKit(piece_id="charger", name="Charger", place_id=HERE, bays=4, bay_w=90.0, feed="store"),
            ChargerKit(piece_id="away", name="Away", place_id=HERE + 1, feed="store"),
        ),
    )
    board = a_board(gear, a_kilowatt(feed="nowhere"), power=power)
    store = board.bar_of("store")
    assert [load.name for load in store.loads] == ["Charger", "Kettle"]
    assert store.ours_a == pytest.approx((2000 + 4 * 90 / 0.9 / 0.95) / 230)
    assert store.start_a == store.amps
    assert [load.harmonic > 0.0 for load in store.loads] == [True, False]  # what is plain has no waves of its own
    assert [load.name for load in board.unfed] == ["K1"]
    assert [(load.load_id, load.feed) for load in board.fed(board.loads)][1:] == [("kettle", "store"), ("k1", "")]
    assert [load.name for load in board.loads] == ["Charger", "Kettle", "K1"]
    second = a_board(gear, power=power, setup_id=2).bar_of("store")
    assert second.start_a - second.amps == pytest.approx((300 - 100 / 0.95) / 230)
    assert board.bar_of("nowhere") is None


def test_leakage_is_asked_for_where_it_is_wet_or_outside(gear):
    wet = replace(TWO, is_wet=True)
    assert told(a_board(gear, a_kilowatt(), place=wet), place=wet)["leakage", "Leakage protection on Ring"] == (
        "a wet place; leakage protection of 30 mA is asked for, none is noted"
    )
    outside = a_board(gear, a_kilowatt(x_m=-2.0))
    assert told(outside)["leakage", "Leakage protection on Ring"].startswith("K1 outside;")
    for rcd_ma, is_told in ((30.0, False), (100.0, True), (0.5, False)):
        place = replace(wet, circuits=(replace(wet.circuits[0], rcd_ma=rcd_ma), wet.circuits[1]))
        found = told(a_board(gear, a_kilowatt(), place=place), place=place)
        assert (("leakage", "Leakage protection on Ring") in found) is is_told
    assert not told(a_board(gear, a_kilowatt(0, configuration="tung-300.flood")))
    # 6 V under 9 A are 2.9 V under 4.35; 3 % of 230 V are 6.9.
    sagging = replace(TWO, circuits=(replace(TWO.circuits[0], sag_v=16.0, sag_at_a=9.0), TWO.circuits[1]))
    board = a_board(gear, a_kilowatt(), place=sagging)
    assert board.bars[0].sag_v == pytest.approx(16 * (1000 / 230) / 9)
    assert told(board, place=sagging)["sag", "Ring sags"] == "7.7 V, 3.4 %, under our 4.3 A, as measured"
    less = replace(sagging, circuits=(replace(sagging.circuits[0], sag_v=14.0), TWO.circuits[1]))
    assert told(a_board(gear, a_kilowatt(), place=less), place=less) == {}  # 6.8 V of 6.9, three in a hundred
    assert len(supply_cautions(board, (), around(), RULES.units)) == 1
    assert a_place().circuits[0].sag_under_v(9.0) == 0.0


def test_stations_bear_starts_within_their_surge_and_have_so_many_outlets(gear):
    """17 A at 230 V are 3910 W for a moment: 300 W of filament start with 3000, 650 W with 6500."""
    fed = {"feed": "battery-station-1500"}
    fine = a_board(
        gear, *(a_kilowatt(at, configuration="tung-300.flood", **fed) for at in range(4)), counts={fed["feed"]: 1}
    )
    assert fine.batteries[0].start_w == pytest.approx(3 * 300 + 3000)
    assert told(fine) == {}
    hard = told(a_board(gear, a_kilowatt(configuration="tung-650.flood", **fed), counts={fed["feed"]: 1}))
    assert hard == {
        ("surge", "power station 1.5 kWh does not bear the start"): "6500 W as the hardest starts, 3910 W for a moment"
    }
    many = a_board(gear, *(a_lamp(piece_id=str(at), name=str(at), **fed) for at in range(5)), counts={fed["feed"]: 1})
    assert told(many) == {("outlets", "Too few outlets on power station 1.5 kWh"): "5 loads, 4 outlets"}
    two = a_board(gear, *(a_lamp(piece_id=str(at), name=str(at), **fed) for at in range(5)), counts={fed["feed"]: 2})
    assert told(two) == {}
    limited = a_board(gear, a_lamp(feed="battery-v-150", level=0.7), counts={"battery-v-150": 2})
    assert limited.batteries[0].watts == pytest.approx(21.1 + 0.6 * (352 - 21.1))
    assert told(a_board(gear, a_lamp(feed="battery-v-150", level=0.7, is_on=False))) == {}
    assert told(limited) == {
        ("battery-limit", "Key gives less on batteries"): "up to 60 % on V-lock 150 Wh; it is set to 70 %"
    }


def test_half_a_watt_counts_like_any_other(gear):
    tiny = OtherLoad(piece_id="tiny", name="Tiny", place_id=HERE, watts=0.5, power_factor=1.0, feed="socket")
    bar = a_board(gear, power=JobPower(loads=(tiny,))).bars[0]
    assert (bar.dark, bar.ours_a) == (("Tiny",), pytest.approx(0.5 / 230))
    place = around()
    brimful = replace(TWO, circuits=(replace(TWO.circuits[0], used_a=10.399), TWO.circuits[1]))
    board = a_board(gear, power=JobPower(loads=(tiny,)), place=brimful)
    ways = ways_out(board.over[0], board, brimful, place.lead_ways, gear, RULES.units)
    assert [way.feed for way in ways] == ["store"]
    nowhere = a_board(gear, power=JobPower(loads=(replace(tiny, feed=""),)))
    given = {"hours": 1.0, "celsius": None, "loudness_dba": {}}
    assert shared_board(nowhere, TWO, place.lead_ways, JobPower(), 1, **given).feeds == {"tiny": "socket"}
    assert shared_board(board, brimful, place.lead_ways, JobPower(), 1, **given).feeds == {"tiny": "store"}


def test_what_is_unwelcome_about_a_source_is_its_noise(gear):
    """As a share of the loudest that is borne; a house makes none, and of one nobody has heard nothing is known."""
    power = JobPower(generators=(PLANT,))
    board = a_board(gear, power=power)

    def burdens(dba):
        return {each.source_id: each.burden for each in _circuits(board, dba)}

    assert PLANT.is_carried
    split = a_board(gear, power=JobPower(boards=(replace(BOX, phases=Phases.SPLIT),)))
    assert [each.source_id for each in _circuits(split, {})] == ["Ring", "Store", "Box"]
    house = {"Ring": 0.0, "Store": 0.0}
    for dba, burden in (({}, 0.0), ({"gen": 40.0}, 0.5), ({"gen": 100.0}, 1.0), ({"other": 40.0}, 0.0)):
        assert burdens(dba) == house | {"Plant": burden}


def bar_of(name: str, amps: float, harmonic: float = 0.8):
    load = SimpleNamespace(harmonic=harmonic, amps=amps)
    return SimpleNamespace(name=name, amps=amps, loads=(load,), amps_of=lambda each: each.amps)


def test_harmonics_of_three_legs_add_up_and_those_of_two_against_each_other_do_not():
    legs = {"a": 10.0, "b": 6.0, "c": 4.0}
    bars = (*(bar_of(name, amps) for name, amps in legs.items()), bar_of("elsewhere", 99.0))
    for own, adds in (("abc", sum), ("ab", lambda each: each[0] - each[1]), ("ba", lambda each: each[1] - each[0])):
        found = _legs(SimpleNamespace(circuits=tuple(own)), tuple(sorted(bars[:3], key=lambda bar: own.find(bar.name))))
        parts = [harmonic_a(legs[name], 0.8) for name in own]
        assert found.harmonics_a == pytest.approx(abs(adds(parts)))
        assert sorted(found.amps) == sorted(legs[name] for name in own)
