"""The beam behind a modifier: found from readings beside the axis, then used for how wide a stack lights."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.head import HeadClass, Technology
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.selection.chain import chain_of
from iron_bucket.core.selection.fit import candidate_of, fit_of
from iron_bucket.core.selection.levels import levels, spread_profile, through_fronts
from iron_bucket.core.selection.measured_beam import lone_bench, measured_beam
from iron_bucket.core.selection.measured_modifiers import measured_passes
from iron_bucket.core.selection.packing import CLASSES, pack
from iron_bucket.core.selection.pick import passed_over, pick
from iron_bucket.core.selection.reasons import Reason
from iron_bucket.core.selection.side_by_side import side_by_side
from tests.made_up import a_configuration, a_gear, a_head, a_need
from tests.tables import table, tabled

LED, TUNGSTEN = HeadClass.LED, HeadClass.TUNGSTEN
LAMP = a_configuration()
HOT = a_head(slug="hot", name="hot", technology=Technology.TUNGSTEN, lowest_cct_k=3200.0, highest_cct_k=3200.0)
GEAR = table(__file__, "GEAR")
BARE = pack(GEAR)
ASIDE_DEG = np.array([5.0, 9.0, 13.0])
THROW_M = 3.0


def place_of(key: str) -> int:
    return next(index for index, each in enumerate(BARE.fronts) if each.key == key)


def meter(slug: str, spread: float, kind: HeadClass = LED) -> MeasuredPass:
    return MeasuredPass(modifier_slug=slug, head_class=kind, passes=0.5, count=1, spread=spread)


def readings_through(front_key: str, slug: str, spread: float, **placed) -> list[Reading]:
    """On the axis and aside, as a meter would find them if the computed beam were that much wider."""
    row = next(index for index, each in enumerate(BARE.configurations) if each.slug == "lamp.own")

    def level(angle_deg: float) -> float:
        at = np.array([0.0, THROW_M * np.tan(np.radians(angle_deg))])
        return float(through_fronts(BARE, THROW_M, at).profile_lx[row, place_of(front_key), 1])

    def reading(angle_deg: float) -> Reading:
        inner = angle_deg / spread
        lux = level(inner) * (np.cos(np.radians(angle_deg)) / np.cos(np.radians(inner))) ** 3
        return Reading(
            configuration_slug="lamp.own",
            throw_m=THROW_M,
            illuminance_lx=lux,
            modifier_slug=slug,
            aside_m=THROW_M * float(np.tan(np.radians(angle_deg))),
            **placed,
        )

    return [reading(angle) for angle in (0.0, *ASIDE_DEG)]


@pytest.mark.parametrize("spread", [0.7, 1.3])
@tabled
def test_the_spread_is_found_through_the_same_chain_that_a_pick_uses(front, slug, placed, spread):
    readings = readings_through(front, slug, spread, **placed)
    if slug == "dome-grid":
        readings.append(replace(readings[0], modifier_slug="dome"))
    found = {each.modifier_slug: each for each in measured_passes(GEAR, readings)}[slug]
    assert found.spread == pytest.approx(spread, rel=0.03)
    assert found.beam_deg > 0.0


def test_a_box_that_reads_as_computed_is_lambertian_and_no_beam_is_wider_than_can_be():
    (found,) = measured_passes(GEAR, readings_through("dome", "dome", 1.0))
    assert found.spread == pytest.approx(1.0, rel=0.02)
    assert 110.0 < found.beam_deg < 125.0  # cos 60 is a half, a little less near a large face
    (found,) = measured_passes(GEAR, readings_through("dome", "dome", 1.3)[:3])
    assert (found.spread, found.beam_deg) == (None, None)
    front = BARE.fronts[place_of("dome")]
    found = measured_beam(lone_bench(a_head(), LAMP, front), 20.0, ASIDE_DEG, np.cos(np.radians(ASIDE_DEG / 2.5)))
    assert found.spread == pytest.approx(2.5, rel=0.01)
    assert found.beam_deg == 175.0


@pytest.mark.parametrize(("aside_at_m", "counts"), [(51.0, True), (50.5, True), (49.0, False), (51.5, False)])
def test_readings_aside_belong_to_the_same_distance(aside_at_m, counts):
    """Two per cent of the distance aside: 1.02 m of 51."""
    on_axis, *aside = readings_through("dome", "dome", 1.3)
    moved = [replace(each, throw_m=aside_at_m, aside_m=each.aside_m * 50.0 / THROW_M) for each in aside]
    (found,) = measured_passes(GEAR, [replace(on_axis, throw_m=50.0), *moved])
    assert (found.spread is not None) is counts


def test_beyond_the_last_place_the_slope_goes_on():
    """By hand: three metres away, one stop of candela a metre, angles halved: what lay at 3 tan(2 x 20 deg) now lies
    at 20 degrees.
    """
    places = np.array([0.0, 1.0])
    profile = np.cos(np.arctan(places / 3.0)) ** 3 * 2.0**-places
    (found,) = spread_profile(profile[None], places, 3.0, 0.5)
    inner = 3.0 * np.tan(2.0 * np.arctan(1.0 / 3.0))  # 2.25 m
    assert inner == pytest.approx(2.25)
    assert found == pytest.approx([1.0, np.cos(np.arctan(1.0 / 3.0)) ** 3 * 2.0**-2.25])
    assert spread_profile(profile[None, :1], places[:1], 3.0, 0.5)[0] == pytest.approx([1.0])
    (dark,) = spread_profile(np.array([[1.0, 0.0]]), places, 3.0, 0.05)
    assert 0.0 <= dark[1] < 1e-9


def test_the_front_nearest_the_subject_shapes_the_beam_of_its_class_alone():
    measured = (meter("dome", 0.5), meter("dome-grid", 0.7), meter("cloth", 1.2, TUNGSTEN), meter("frost", 1.5))
    bench = pack(replace(GEAR, measured=measured))
    led, tungsten = CLASSES.index(LED), CLASSES.index(TUNGSTEN)
    spread = {front.key: bench.front_spread[led, index] for index, front in enumerate(bench.fronts)}
    assert (spread["open"], spread["dome"], spread["dome+dome-grid"]) == (1.0, 0.5, 0.7)
    assert {bench.front_spread[tungsten, place_of(f"frame+cloth@{share}")] for share in (0.4, 0.65)} == {1.2}
    assert spread["frame+cloth@0.4"] == 1.0
    assert bench.sheet_spread[led].max() == 1.5
    assert bench.sheet_spread[tungsten].max() == 1.0
    need = a_need(width_m=1.5)
    wider, plain = levels(bench, need), levels(BARE, need)
    rows = {each.slug: index for index, each in enumerate(bench.configurations)}
    assert wider.full_lx[rows["lamp.own"]][place_of("dome")] == pytest.approx(
        plain.full_lx[rows["lamp.own"], place_of("dome")]
    )
    changed = np.argwhere(~np.isclose(wider.coverage_m, plain.coverage_m))
    assert {(bench.configurations[row].slug, bench.fronts[front].key) for row, front in changed} == {
        ("lamp.own", "dome"),
        ("lamp.own", "dome+dome-grid"),
        ("hot.own", "frame+cloth@0.4"),
        ("hot.own", "frame+cloth@0.65"),
        ("hot.own", "frame+cloth+board"),
    }
    assert wider.coverage_m[rows["lamp.own"], place_of("dome")] < plain.coverage_m[rows["lamp.own"], place_of("dome")]


def test_a_sheet_found_to_spread_lets_a_narrow_beam_serve_a_wide_place():
    lone = a_gear(heads=(a_head(),), configurations=(LAMP,), sheets=GEAR.sheets)
    need = a_need(illuminance_lx=100.0, width_m=2.0)
    assert levels(pack(lone), need).coverage_m[0, 0] == pytest.approx(1.6, abs=0.4)
    assert len(pick(pack(replace(lone, sheets=())), need).fits) == 0
    picked = pick(pack(replace(lone, measured=(meter("frost", 1.8),))), need)
    assert [picked.fits.candidate(place).sheets for place in range(len(picked.fits))] == [1]
    assert picked.tally.counts == {Reason.NARROW: 1}
    fit = fit_of(picked, picked.fits.candidate(0))
    bare_m = float(picked.found.coverage_m[0, 0])
    assert bare_m * 1.4 < fit.coverage_m < bare_m * 1.8  # less than the angle, because of cos^3
    assert not fit.covers_more
    assert fit_of(picked, candidate_of(picked, "lamp.own~open~none")).coverage_m == pytest.approx(bare_m)
    rows = side_by_side(picked.bench, ("lamp.own~open~frost", "lamp.own~open~none"), need).rows
    assert rows[0].coverage_m == pytest.approx(fit.coverage_m, rel=0.05)
    assert rows[1].coverage_m == pytest.approx(bare_m, rel=0.05)
    assert rows[0].section_lx[0] == pytest.approx(rows[1].section_lx[0] / 2.0)


def test_a_sheet_s_spread_stops_at_a_box_or_a_frame_and_narrow_ones_are_passed_over_for_it():
    measured = (meter("frost", 0.5),)
    bench = pack(replace(GEAR, measured=measured))
    need = a_need(illuminance_lx=10.0, width_m=1.0)
    picked = pick(bench, need)
    for key in ("dome", "frame+cloth@0.4", "board"):
        frosted, plain = (
            fit_of(picked, candidate_of(picked, f"lamp.own~{key}~{sheet}")) for sheet in ("frost", "none")
        )
        assert frosted.coverage_m == plain.coverage_m
    wide = pick(bench, a_need(illuminance_lx=10.0, width_m=4.0))
    combed = {each.reason for each in passed_over(wide) if each.candidate.front == place_of("comb")}
    assert combed == {Reason.NARROW}


def test_the_chain_says_what_the_meter_found_of_the_beam():
    bench = pack(replace(GEAR, measured=(meter("frost", 1.25), meter("dome", 0.9))))
    picked = pick(bench, a_need(illuminance_lx=10.0))

    def formulas(key: str) -> list[str]:
        return [step.formula for step in chain_of(bench, picked.need, candidate_of(picked, key)).steps]

    assert formulas("lamp.own~open~frost")[2] == "log2(0.5 passed); beam × 1.25 by the meter"
    behind = formulas("lamp.own~dome~frost")
    assert behind[2] == "log2(0.5 passed)"
    assert behind[3].endswith("; beam × 0.90 by the meter")
    assert "beam" not in " ".join(formulas("hot.own~dome~frost"))
