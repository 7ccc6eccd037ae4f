"""What a new light could burn from, and where a pick's answer goes."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import HouseCircuit, Socket
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.load_board import LoadBoard, load_board
from iron_bucket.core.power.job.outlets import FedPlace
from iron_bucket.core.power.job.pass_loads import pass_loads
from iron_bucket.core.selection.need import BatteryFeed
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.sheet.amps import circuit_amps
from iron_bucket.core.setups.suggest.feeds import best_feed, feed_named
from iron_bucket.core.setups.suggest.head_place import stance_for
from iron_bucket.core.setups.suggest.work_for_pick import work_for_pick
from tests.core.setups.made import a_lamp, a_place, lit_setup

LOFT = HouseCircuit(name="Loft", voltage_v=110.0, breaker_a=16.0, used_a=5.0, used_by="fridge")
TWO = replace(
    a_place(temperature_c=4.0),
    circuits=(*a_place().circuits, LOFT),
    sockets=(*a_place().sockets, Socket(socket_id="up", name="Up", x_m=1.0, y_m=1.0, circuit="Loft")),
)


def now(gear, place=TWO, rules=None, **changes) -> Evaluation:
    found = lit_setup(gear, surroundings=Surroundings(place), **changes)
    return Evaluation(lit=found, gear=gear, rules=rules or HouseRules())


def board(now: Evaluation) -> LoadBoard:
    loads = pass_loads(now.setup, 1, 1, JobPower(), now.gear, now.rules.scrim_school).loads
    return load_board(FedPlace(place=now.lit.built.surroundings.place), loads, now.gear, now.rules, {})


def best(now: Evaluation) -> str:
    return best_feed(now, board(now))


def named(now: Evaluation, feed_id: str):
    return feed_named(now, board(now), feed_id)


def test_a_socket_is_taken_by_what_is_left_on_its_circuit_with_ours_on_it(gear):
    """80 % of 13 A less 2 A are 8.4 A, of 16 A less 5 A 7.8 A; our key on the first takes more than the difference."""
    assert best(now(gear)) == "socket"
    burning = now(gear, lamps=(a_lamp(feed="socket", level=1.0),))
    ours = circuit_amps(burning.lit, gear, burning.rules)["Ring"]
    assert ours > 0.6
    assert best(burning) == "up"
    whole = HouseRules(planned_share=1.0)
    expected = Circuit(voltage_v=230.0, breaker_a=13.0, planned_share=1.0, used_a=2.0 + ours)
    assert named(replace(burning, rules=whole), "socket") == expected
    assert named(burning, "up") == Circuit(voltage_v=110.0, breaker_a=16.0, planned_share=0.8, used_a=5.0)


def test_without_a_socket_it_is_our_largest_battery_as_cold_as_the_place(gear):
    bare = replace(TWO, sockets=())
    ours = max((each for each in gear.batteries if each.owned > 0), key=lambda each: each.capacity_wh)
    larger = replace(ours, slug="larger", capacity_wh=2.0 * ours.capacity_wh, owned=0)
    shelf = replace(gear, batteries=(larger, *gear.batteries))
    assert best(now(shelf, bare)) == ours.slug
    nobodys = replace(gear, batteries=tuple(replace(each, owned=0) for each in gear.batteries))
    assert best(now(nobodys, bare)) == ""
    assert named(now(nobodys, bare), "") is None
    with pytest.raises(BadValue, match=r"fed from is 'nothing of ours'; accepted: a socket of this place"):
        named(now(gear), "nothing of ours")
    for owned, count in ((0, 2), (1, 2), (7, 7)):
        kind: BatteryKind = replace(ours, owned=owned)
        of_kind = replace(gear, batteries=(kind,))
        cold = BatteryFeed(kind=kind, count=count, burn_h=2.0, temperature_c=4.0)
        assert named(now(of_kind), kind.slug) == cold
        usual = BatteryFeed(kind=kind, count=count, burn_h=2.0)
        assert named(now(of_kind, replace(TWO, temperature_c=None)), kind.slug) == usual


def test_a_picks_answer_goes_as_far_from_what_lacks_most_as_it_was_asked_for_where_that_is_free(gear):
    found = now(gear, lamps=())
    mark = found.lit.built.marks[found.lit.place_of("anna.key")].mark
    work = work_for_pick(found, board(found), 1.4)
    assert np.linalg.norm(work.from_m - work.subject_m) == pytest.approx(1.4)
    assert list(work.subject_m) == pytest.approx(list(mark.position_m))
    said = (work.aims_at, work.purpose, work.cct_k, work.feed)
    assert said == ("anna", "Anna key side", found.setup.look.white_balance_k, "socket")
    likeliest = stance_for(found.lit.built, mark).head_m
    assert work_for_pick(found, board(found), 40.0).from_m == pytest.approx(
        likeliest
    )  # nothing is free 40 m off in a room of 6
    nobody = now(gear, people=(), spots=())
    with pytest.raises(BadValue, match=r"set-up is 'Pass'; accepted: one with a person or a measuring point"):
        work_for_pick(nobody, board(nobody), 2.0)
