"""As many as are out at one time: against a count minute by minute, and unit by unit."""

from datetime import date, datetime

import numpy as np
import pytest

from iron_bucket.core.bucket.kit_pass import clock, kit_passes
from iron_bucket.core.bucket.peak import peaks_of
from iron_bucket.core.bucket.unit_ways import unit_ways
from iron_bucket.core.power.job.kit import JobPower
from tests.core.bucket.made import a_kit_pass, packed, setup_of
from tests.core.power.job.made import a_pass, a_time

LED, MARKS = ("day-led-300", 1.0), ("floor-marks", 1.0)


def test_what_is_out_at_once_counts_and_what_follows_does_not(gear):
    one, two = packed(setup_of(lamps=({},)), gear), packed(setup_of(lamps=({}, {})), gear)
    after = peaks_of((a_kit_pass(1, one), a_kit_pass(2, two, hour=1)))[LED]
    assert (after.quantity, [each.setup_id for each in after.passes]) == (2, [2])
    at_once = peaks_of((a_kit_pass(1, one), a_kit_pass(2, two, hour=0.5)))[LED]
    assert (at_once.quantity, [each.setup_id for each in at_once.passes]) == (3, [1, 2])
    chain = peaks_of((a_kit_pass(1, one), a_kit_pass(2, two, hour=0.5, chain=1)))[LED]
    assert (chain.quantity, len(chain.everywhere)) == (2, 3)  # the first lamp only stays where it is
    dim, bright = (packed(setup_of(lamps=({"level": level},)), gear) for level in (0.2, 0.9))
    for order in ((dim, bright), (bright, dim)):  # one lamp that is turned up, or down, between
        both = [a_kit_pass(at, kit, hour=at / 2, chain=1) for at, kit in enumerate(order)]
        assert [each.entry.level for each in peaks_of(both)[LED].heaviest] == [0.9]


def test_unit_by_unit_the_need_that_draws_most(gear):
    dim, bright = (packed(setup_of(lamps=rows), gear) for rows in (({"level": 0.2}, {"level": 0.1}), ({"level": 0.9},)))
    for order in ((dim, bright), (bright, dim)):
        found = peaks_of(tuple(a_kit_pass(at, kit, hour=at) for at, kit in enumerate(order, start=1)))[LED]
        assert [each.entry.level for each in found.heaviest] == [0.9, 0.1]


def test_what_is_used_up_is_summed_once_a_chain(gear):
    kit = packed(setup_of(), gear)  # one place to stand
    passes = [a_kit_pass(at, kit, hour=at, chain=chain) for at, chain in ((1, 1), (2, 1), (3, 3))]
    found = peaks_of(passes)[MARKS]
    assert (found.quantity, sum(need.pieces for _, need in found.everywhere)) == (1, 3)  # two marks from a card of 40
    crowd = packed(setup_of(), gear)
    many = tuple(each._replace(pieces=30) if each.sort == MARKS else each for each in crowd.needs)
    crowd = type(crowd)(setup_name="Crowd", needs=many)
    passes = [a_kit_pass(at, crowd, hour=at, chain=chain) for at, chain in ((1, 1), (2, 1), (3, 3))]
    assert peaks_of(passes)[MARKS].quantity == 2  # 60 of them


def test_a_cut_gel_serves_its_own_size_alone(gear):
    """0.12 and 0.6 by 0.3 m of openings; passes one after the other."""
    small, large = (
        {"configuration": name, "sheets": ("full-orange",)} for name in ("tung-650.flood", "panel-100.own-face")
    )
    passes = [
        a_kit_pass(at, packed(setup_of(lamps=(row,)), gear), hour=at) for at, row in enumerate((small, small, large))
    ]
    found = peaks_of(passes)["full-orange", 1.0]
    assert [count for _, count in found.cuts] == [1, 1]
    one = peaks_of(passes[:2])["full-orange", 1.0]
    assert (one.quantity, [count for _, count in one.cuts]) == (1, [1])
    assert found.quantity == one.quantity + peaks_of(passes[2:])["full-orange", 1.0].quantity


@pytest.mark.parametrize("seed", range(12))
def test_the_peak_is_that_of_every_minute_and_units_are_never_in_two_places(gear, seed):
    chance = np.random.default_rng(seed)
    kits = [packed(setup_of(lamps=({},) * count), gear) for count in (1, 2, 3)]
    passes = [
        a_kit_pass(
            at,
            kits[chance.integers(3)],
            hour=chance.integers(0, 8),
            hours=chance.integers(1, 5),
            chain=max(at - int(chance.integers(0, 2)), 1),
        )
        for at in range(1, 8)
    ]

    def out(minute: int) -> int:
        """Lamps by their chain and name."""
        standing = [each for each in passes if each.start_min <= minute < each.end_min]
        return len({(each.chain, need.holder) for each in standing for need in each.by_sort.get(LED, ())})

    found = peaks_of(passes)[LED]
    assert found.quantity == max(out(minute) for minute in range(0, 14 * 60, 15))
    ways = unit_ways(found.everywhere)
    assert len(ways) == found.quantity
    assert [way.number for way in ways] == list(range(1, found.quantity + 1))
    assert sum(len(way.stops) for way in ways) == len(found.everywhere)
    for way in ways:
        for one, other in zip(way.stops, way.stops[1:], strict=False):
            is_same = (one.of.chain, one.need.holder) == (other.of.chain, other.need.holder)
            assert is_same or one.of.end_min <= other.of.start_min


def test_a_piece_keeps_its_unit_while_that_is_free(gear):
    a, b = (packed(setup_of(lamps=({"piece_id": name},)), gear) for name in "ab")
    passes = (a_kit_pass(1, a), a_kit_pass(2, b, hour=0.5), a_kit_pass(3, b, hour=2, chain=2))
    ways = unit_ways(peaks_of(passes)[LED].everywhere)
    assert [[stop.of.setup_id for stop in way.stops] for way in ways] == [[1], [2, 3]]


def test_times_come_from_the_day_and_two_passes_can_be_kept_up_together(gear):
    kit = packed(setup_of(), gear)
    when = datetime(2026, 6, 1, 10, 0)
    jobs = [a_pass(1, when=when), a_pass(2, when=when, chain=1), a_pass(3, when=datetime(2026, 6, 2, 9, 0))]
    power = JobPower(times=(a_time(1, 60, 30, 10), a_time(2, 20, 30), a_time(3, 30, 60, 15)))
    found = kit_passes(jobs, {1: (kit,)}, power, ())
    spans = [(each.setup_id, str(each.starts)[:16], str(clock(each.end_min))[11:16], each.lit_h) for each in found]
    assert spans == [
        (1, "2026-06-01 09:00", "10:40", 1.0),  # lit half of its rig
        (2, "2026-06-01 10:40", "11:30", pytest.approx(2 / 3)),
        (3, "2026-06-02 08:30", "10:15", 1.25),
    ]
    assert [(each.day, each.chain, each.kits) for each in found] == [
        (date(2026, 6, 1), 1, (kit,)),
        (date(2026, 6, 1), 1, ()),
        (date(2026, 6, 2), 3, ()),
    ]
    for pair in ((1, 2), (2, 1)):
        up = kit_passes(jobs, {}, power, (pair, (2, 99)))
        assert [str(clock(each.end_min))[11:16] for each in up] == ["11:30", "11:30", "10:15"]


def test_of_what_is_used_up_in_a_chain_the_most_counts_and_time_begins_before_film(gear):
    crowd = packed(setup_of(), gear)

    def with_marks(pieces: int):
        needs = tuple(each._replace(pieces=pieces) if each.sort == MARKS else each for each in crowd.needs)
        return type(crowd)(setup_name="Crowd", needs=needs)

    for counts in ((30, 50), (50, 30)):  # cards of 40: two for fifty marks
        passes = [a_kit_pass(at, with_marks(count), hour=at, chain=1) for at, count in enumerate(counts)]
        assert peaks_of(passes)[MARKS].quantity == 2
    assert clock(0) == datetime(1900, 1, 1)
    several = packed(setup_of(lamps=({},)), gear).entries
    assert [entry.entry_id for entry in several] == [-1 - at for at in range(len(several))]
    nothing = kit_passes([a_pass(1)], {}, JobPower(times=(a_time(1, 0, 0, 0),)), ())[0]
    assert nothing.end_min == nothing.start_min + 1  # it is out for a moment all the same
