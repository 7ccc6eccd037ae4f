"""Modifiers by measurement: what readings say of them, for each class of head, and that a pick then
computes with it."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.head import HeadClass, Technology
from iron_bucket.core.bench.mode import Mode
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.selection.chain import chain_of
from iron_bucket.core.selection.fit import candidate_of, fit_of
from iron_bucket.core.selection.levels import levels
from iron_bucket.core.selection.measured_gear import measured_gear
from iron_bucket.core.selection.measured_modifiers import measured_passes
from iron_bucket.core.selection.packing import CLASSES, pack
from iron_bucket.core.selection.pick import pick
from tests.made_up import a_configuration, a_gear, a_head, a_need
from tests.tables import table, tabled

LED, TUNGSTEN = HeadClass.LED, HeadClass.TUNGSTEN
LAMP = a_configuration()
HOT = a_head(slug="hot", name="hot", technology=Technology.TUNGSTEN, lowest_cct_k=3200.0, highest_cct_k=3200.0)
HOT_LAMP = a_configuration(slug="hot.own", head_slug="hot")
GEAR = table(__file__, "GEAR")


def read(throw_m: float, lux: float, modifier: str = "", configuration: str = "lamp.own", **changes) -> Reading:
    return Reading(
        configuration_slug=configuration, throw_m=throw_m, illuminance_lx=float(lux), modifier_slug=modifier, **changes
    )


def passes(*readings: Reading) -> dict[tuple[str, HeadClass], MeasuredPass]:
    return {(each.modifier_slug, each.head_class): each for each in measured_passes(GEAR, readings)}


def test_a_gel_with_and_without_at_the_same_distance():
    found = passes(read(3.0, 800.0), read(3.0, 240.0, "blue"), read(5.0, 300.0), read(5.0, 84.0, "blue"))["blue", LED]
    assert found.passes == pytest.approx(np.sqrt(0.3 * 0.28))  # the median of two in stops
    assert found.count == 2
    assert found.spread_stops == pytest.approx(np.std(np.log2([0.3, 0.28]), ddof=1))


def test_a_gel_read_where_nobody_read_it_bare_is_held_against_the_model():
    lone = passes(read(4.0, 0.3 * level_lx(LAMP, 4.0), "blue"))["blue", LED]
    assert lone.passes == pytest.approx(0.3)
    assert lone.spread_stops is None
    # Another lamp, another colour (25 K is one), a distance three hundredths off: none is the same light read bare.
    for bare, behind in (
        ({"unit_slug": "one"}, {"unit_slug": "two"}),
        ({"set_cct_k": 3200.0}, {"set_cct_k": 5600.0}),
        ({"set_cct_k": 5625.0}, {"set_cct_k": 5600.0}),
        ({"throw_m": 51.5}, {"throw_m": 50.0}),
    ):
        throw_m = behind.get("throw_m", 3.0)
        gelled = read(**{"throw_m": throw_m, "lux": 0.5 * level_lx(LAMP, throw_m), "modifier": "blue"} | behind)
        found = passes(read(**{"throw_m": 3.0, "lux": 800.0} | bare), gelled)
        assert found["blue", LED].passes == pytest.approx(0.5)
    two_percent = passes(read(51.0, 800.0), read(50.0, 400.0, "blue"))
    assert two_percent["blue", LED].passes == pytest.approx(0.5)


def test_each_class_of_head_has_its_own():
    found = passes(
        read(3.0, 800.0),
        read(3.0, 240.0, "blue"),
        read(3.0, 1000.0, configuration="hot.own"),
        read(3.0, 400.0, "blue", "hot.own"),
    )
    assert (found["blue", LED].passes, found["blue", TUNGSTEN].passes) == (pytest.approx(0.3), pytest.approx(0.4))


def test_colour_shift_and_tint_from_what_the_meter_saw():
    found = passes(
        read(3.0, 800.0, cct_k=3200.0, duv=0.001),
        read(3.0, 250.0, "blue", cct_k=5400.0, duv=0.004),
        read(5.0, 80.0, "blue"),
    )["blue", LED]
    assert found.shift_mired == pytest.approx(1e6 / 5400.0 - 1e6 / 3200.0)
    assert found.duv_shift == pytest.approx(0.003)
    assert found.tint == pytest.approx(0.15)
    plain = passes(read(3.0, 800.0), read(3.0, 250.0, "blue", cct_k=5400.0))["blue", LED]
    assert (plain.shift_mired, plain.duv_shift, plain.tint, plain.beam_deg) == (None, None, None, None)


@tabled
def test_box_grid_and_bounce_are_reckoned_through_the_chain(slug, key, share):
    bench = pack(GEAR)
    front = next(index for index, each in enumerate(bench.fronts) if each.key == key)
    row = next(index for index, each in enumerate(bench.configurations) if each.slug == "lamp.own")
    (part, figure), *_ = bench.fronts[front].passing
    level = levels(bench, a_need(throw_m=2.5)).full_lx[row, front] * share / figure.value
    assert part.slug == slug
    assert passes(read(2.5, level, slug))[slug, LED].passes == pytest.approx(share, rel=1e-5)


def test_a_cloth_needs_its_frame_and_place():
    bench = pack(GEAR)
    front = next(index for index, each in enumerate(bench.fronts) if each.cloth and each.head_share == 0.4)
    row = next(index for index, each in enumerate(bench.configurations) if each.slug == "lamp.own")
    level = levels(bench, a_need(throw_m=3.0)).full_lx[row, front] / 0.4 * 0.33
    placed = passes(read(3.0, level, "cloth", frame_slug="frame", head_to_frame_m=1.2))
    assert placed["cloth", LED].passes == pytest.approx(0.33, rel=1e-5)
    assert passes(read(3.0, level, "cloth")) == {}
    assert passes(read(3.0, level, "cloth", frame_slug="gone", head_to_frame_m=1.2)) == {}


def test_a_grid_is_held_against_its_box_and_readings_of_nothing_against_nothing():
    found = passes(read(2.0, 500.0, "dome"), read(2.0, 300.0, "dome-grid"))
    assert found["dome-grid", LED].passes == pytest.approx(0.6)
    assert ("dome-grid", LED) not in passes(read(2.0, 300.0, "dome-grid"))
    assert passes(read(3.0, 100.0, "blue", aside_m=1.0), read(3.0, 100.0, "gone"), read(3.0, 100.0)) == {}


def test_the_beam_through_a_modifier():
    wide = BeamField(peak_cd=9000.0, beam_deg=60.0, field_deg=105.0)
    gamma = np.array([10.0, 20.0, 30.0])
    aside = [
        read(
            3.0,
            0.5 * wide.intensity_cd(angle) * np.cos(np.radians(angle)) ** 3 / 9.0,
            "blue",
            aside_m=float(3.0 * np.tan(np.radians(angle))),
        )
        for angle in gamma
    ]
    found = passes(read(3.0, 1000.0), read(3.0, 500.0, "blue"), *aside)["blue", LED]
    assert found.beam_deg == pytest.approx(60.0, rel=0.01)
    assert passes(read(3.0, 1000.0), read(3.0, 500.0, "blue"), *aside[:2])["blue", LED].beam_deg is None


def test_a_pick_reckons_with_the_meter_s_figures_and_says_so():
    meter = (
        MeasuredPass(modifier_slug="blue", head_class=LED, passes=0.25, count=2, shift_mired=-100.0, duv_shift=0.01),
        MeasuredPass(modifier_slug="cloth", head_class=LED, passes=0.2, count=1),
    )
    bench = pack(replace(GEAR, measured=meter))
    blue = [chosen.key for chosen in bench.sheet_sets].index("blue")
    led, tungsten = CLASSES.index(LED), CLASSES.index(TUNGSTEN)
    for school in ScrimSchool:
        assert bench.sheet_stops(school)[led, blue] == pytest.approx(-2.0)
        assert bench.sheet_stops(school)[tungsten, blue] == pytest.approx(np.log2(0.34))
    assert (bench.sheet_shift_mired[led, blue], bench.sheet_shift_mired[tungsten, blue]) == (-100.0, -137.0)
    assert (bench.sheet_tint[led, blue], bench.sheet_tint[tungsten, blue]) == (pytest.approx(0.5), 0.0)
    need = a_need(illuminance_lx=1.0, throw_m=3.0)
    plain, measured = levels(pack(GEAR), need), levels(bench, need)
    front = next(index for index, each in enumerate(bench.fronts) if each.cloth)
    rows = {each.slug: index for index, each in enumerate(bench.configurations)}
    assert measured.full_lx[rows["lamp.own"], front] == pytest.approx(
        plain.full_lx[rows["lamp.own"], front] * 0.5, rel=1e-5
    )
    assert measured.full_lx[rows["hot.own"], front] == pytest.approx(plain.full_lx[rows["hot.own"], front])
    picked = pick(bench, need)
    candidate = candidate_of(picked, f"lamp.own~{bench.fronts[front].key}~blue")
    _, _, gel, cloth, _ = chain_of(bench, need, candidate).steps
    assert (gel.stops, gel.origin) == (pytest.approx(-2.0), Origin.MEASURED)
    assert cloth.origin is Origin.MEASURED
    assert cloth.formula.startswith("cloth passes 0.2,")
    assert fit_of(picked, candidate).tint == pytest.approx(0.5)


def test_a_box_of_two_parts_is_as_trusted_as_the_weaker():
    gridded = replace(GEAR, measured=(MeasuredPass(modifier_slug="dome", head_class=LED, passes=0.4, count=1),))
    bench = pack(gridded)
    picked = pick(bench, a_need(illuminance_lx=1.0))
    for key, origin in (("dome", Origin.MEASURED), ("dome+dome-grid", Origin.TYPICAL)):
        chain = chain_of(bench, picked.need, candidate_of(picked, f"lamp.own~{key}~none"))
        assert chain.steps[2].origin is origin


def test_readings_that_contradict_the_maker_change_the_ranking():
    bright, dim = (
        a_head(slug=name, name=name, owned=1, weight_kg=weight) for name, weight in (("boaster", 4.0), ("honest", 4.4))
    )
    shelf = a_gear(
        heads=(bright, dim),
        configurations=tuple(
            a_configuration(slug=f"{each.slug}.own", head_slug=each.slug, owned=1) for each in (bright, dim)
        ),
    )
    need = a_need(illuminance_lx=600.0, throw_m=3.0)
    first = pick(pack(shelf), need)
    assert first.bench.heads[first.fits.row[0]].slug == "boaster"
    half = [read(throw, level_lx(LAMP, throw) / 2, configuration="boaster.own") for throw in (1.0, 2.0, 4.0)]
    again = pick(pack(measured_gear(shelf, half).gear), need)
    assert [again.bench.heads[row].slug for row in again.fits.row] == ["honest"]
    assert [again.bench.heads[miss.candidate.row].slug for miss in again.near_misses] == ["boaster"]


def test_the_whole_bench_with_its_readings():
    units = (Unit(slug="lamp-2", name="No. 2", head_slug="lamp"), Unit(slug="lamp-1", name="No. 1", head_slug="lamp"))
    shelf = replace(GEAR, units=units)
    bare = [read(throw, level_lx(LAMP, throw), watts=180.0) for throw in (1.0, 2.0, 3.0, 4.0, 5.0)]
    found = measured_gear(
        shelf,
        [
            *bare,
            read(2.0, level_lx(LAMP, 2.0) * 0.8, unit_slug="lamp-2"),
            read(3.0, 30.0, "blue"),
            read(3.0, 5.0, configuration="gone"),
        ],
    )
    assert set(found.configurations) == {"lamp.own"}
    assert found.gear.head("lamp").draw.full_w.value == 180.0
    assert found.gear.head("hot") == HOT
    assert [each.modifier_slug for each in found.gear.measured] == ["blue"]
    ((trim,),) = found.trims.values()
    assert (trim.unit.name, trim.count) == ("No. 2", 1)
    assert trim.trim.value == pytest.approx(np.log2(0.8), abs=0.08)  # its own reading drags the model a little
    untouched = measured_gear(shelf, [])
    assert untouched.gear.items() == shelf.items()
    assert untouched.trims == {}


def test_a_quiet_mode_limits_what_a_pick_may_use():
    loud = a_head(fan_db=34.0, modes=(Mode(name="silent", output_share=0.5, nameplate_w=110.0, fan_db=20.0),))
    bench = pack(a_gear(heads=(loud,)))
    free, quiet = (pick(bench, a_need(illuminance_lx=100.0, most_noise_db=most)) for most in (34.0, 25.0))
    assert free.fits.headroom_stops[0] - quiet.fits.headroom_stops[0] == pytest.approx(1.0, abs=1e-5)
    assert len(pick(bench, a_need(illuminance_lx=100.0, most_noise_db=19.0)).fits) == 0
