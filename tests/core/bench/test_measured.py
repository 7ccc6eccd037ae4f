"""Readings applied: to a configuration, a head, a very lamp, a focus between stops; and the three voices."""

from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from iron_bucket.core.bench.configuration import EmittingFace, FaceShape, bare_configuration
from iron_bucket.core.bench.dimming import Dimming, DimmingCurve
from iron_bucket.core.bench.figure_origins import voices
from iron_bucket.core.bench.focus import focus_ranges
from iron_bucket.core.bench.measured_configuration import at_full_lx, measured_configuration, measured_head, trim_stops
from iron_bucket.core.bench.mode import Mode
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.figure import Origin
from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.typical import typical as typical_table
from tests.made_up import a_configuration, a_head, typical
from tests.tables import refusals, table, tabled

THROWS = (1.0, 2.0, 3.0, 5.0)
HEAD = a_head()
LENS = a_configuration()  # 9000 cd, beam 40, field 70, no offset
WHITE = table(__file__, "WHITE")


def a_reading(throw_m: float = 2.0, illuminance_lx: float = 1000.0, **changes) -> Reading:
    return Reading(
        **({"configuration_slug": "lamp.own", "throw_m": throw_m, "illuminance_lx": illuminance_lx} | changes)
    )


def readings_of(configuration, factor: float = 1.0, **changes) -> tuple[Reading, ...]:
    return tuple(
        a_reading(throw, level_lx(configuration, throw) * factor, configuration_slug=configuration.slug, **changes)
        for throw in THROWS
    )


def test_a_meter_replaces_the_claim():
    found = measured_configuration(LENS, HEAD, readings_of(LENS, 0.5))
    assert found.gap_stops == pytest.approx(-1.0, abs=1e-4)
    assert found.contradicts
    assert found.middle_m == pytest.approx(np.sqrt(5.0))
    assert (found.in_use.origin, found.in_use.told_at_k) == (Origin.MEASURED, 0.0)
    assert found.in_use.lumens == pytest.approx(LENS.lumens / 2, rel=1e-4)
    assert level_lx(found.in_use, 4.0) == pytest.approx(level_lx(LENS, 4.0) / 2, rel=1e-4)
    assert found.claimed == LENS


@pytest.mark.parametrize(("factor", "contradicts"), [(0.8, False), (0.79, True), (1.25, False), (1.27, True)])
def test_a_third_of_a_stop_contradicts(factor, contradicts):
    assert measured_configuration(LENS, HEAD, readings_of(LENS, factor)).contradicts is contradicts


def test_a_lens_takes_its_measured_virtual_source_unless_distances_are_too_few():
    read = tuple(a_reading(throw, 9000.0 / (throw + 0.2) ** 2) for throw in THROWS)
    found = measured_configuration(LENS, HEAD, read)
    assert found.in_use.offset_m == pytest.approx(0.2, abs=1e-4)
    assert float(found.in_use.distribution.intensity_cd(0.0)) == pytest.approx(9000.0, rel=1e-4)
    behind = replace(LENS, offset_m=0.3)
    found = measured_configuration(behind, HEAD, readings_of(behind, 0.8)[:2])
    assert found.in_use.offset_m == 0.3
    assert found.gap_stops == pytest.approx(np.log2(0.8))


def test_a_white_face_keeps_its_size_and_is_brought_to_the_readings():
    found = measured_configuration(WHITE, HEAD, readings_of(WHITE, 0.6))
    assert found.in_use.face == WHITE.face
    assert found.gap_stops == pytest.approx(np.log2(0.6), abs=0.03)  # the disc law stands in for the rectangle
    assert level_lx(found.in_use, found.middle_m) == pytest.approx(float(found.fit.illuminance_lx(found.middle_m)))
    two = measured_configuration(WHITE, HEAD, readings_of(WHITE)[:2])
    assert two.fit.second == pytest.approx(0.6 * 0.3 / np.pi)  # the disc of the face's area
    disc = replace(WHITE, face=EmittingFace(shape=FaceShape.DISC, width_m=0.6, height_m=0.6))
    assert measured_configuration(disc, HEAD, readings_of(disc)[:2]).fit.radius_m == pytest.approx(0.3)


def test_readings_beside_the_axis_measure_the_beam():
    narrow = replace(LENS, distribution=BeamField(peak_cd=9000.0, beam_deg=30.0, field_deg=52.5))
    gamma = np.radians([8.0, 12.0, 18.0])
    levels = narrow.distribution.intensity_cd(np.degrees(gamma)) * np.cos(gamma) ** 3 / 9.0
    beside = zip(levels, 3.0 * np.tan(gamma), strict=True)
    aside = tuple(a_reading(3.0, float(level), aside_m=float(aside_m)) for level, aside_m in beside)
    found = measured_configuration(LENS, HEAD, readings_of(LENS) + aside)
    assert found.stretch == pytest.approx(0.75, rel=0.01)  # the steps of the search
    assert found.in_use.distribution.beam_deg == pytest.approx(30.0, rel=0.01)
    assert found.in_use.lumens < LENS.lumens
    assert measured_configuration(LENS, HEAD, readings_of(LENS) + aside[:2]).stretch is None
    assert len(found.readings) == 4  # those beside the axis are no part of the fit


def test_the_colour_that_was_read_most_counts():
    warm = readings_of(LENS, 0.5, set_cct_k=3200.0)[:2]
    day = readings_of(LENS, 0.9, set_cct_k=5600.0)
    found = measured_configuration(LENS, HEAD, warm + day)
    assert found.at_cct_k == found.in_use.told_at_k == 5600.0
    near, far, cool = (a_reading(4.0, 600.0, set_cct_k=cct_k) for cct_k in (5580.0, 5570.0, 5625.0))
    for more, count in (((near, a_reading(4.5, 500.0)), 6), ((far, cool), 4)):
        assert len(measured_configuration(LENS, HEAD, (*day, *more)).readings) == count
    assert found.gap_stops == pytest.approx(np.log2(0.9), abs=1e-3)


def test_dimmed_readings_and_ambient_are_brought_to_full():
    square = a_head(dimming=Dimming(curve=DimmingCurve.SQUARE))
    dimmed = a_reading(illuminance_lx=260.0, ambient_lx=10.0, setting=0.5)
    assert at_full_lx((dimmed,), square) == pytest.approx([1000.0])
    assert at_full_lx((a_reading(illuminance_lx=260.0, setting=0.5),), HEAD) == pytest.approx([520.0])


def test_a_very_lamp_against_its_model():
    own = (
        *readings_of(LENS, 0.8)[:2],
        a_reading(5.0, level_lx(LENS, 5.0) * 3.0),
        a_reading(2.0, 1.0, modifier_slug="nd"),
        a_reading(3.0, 1.0, aside_m=2.0),
    )
    trim = trim_stops(own, HEAD, LENS)
    assert trim.value == pytest.approx(np.log2(0.8))  # the median: one bad reading does not count
    assert trim.origin is Origin.MEASURED
    assert trim_stops(own[3:], HEAD, LENS) is None


def test_a_meter_at_the_plug_replaces_the_watts():
    read = [*(a_reading(watts=each) for each in (230.0, 232.0, 400.0)), a_reading(watts=90.0, setting=0.3), a_reading()]
    found = measured_head(HEAD, read)
    assert (found.draw.full_w.value, found.draw.full_w.origin) == (232.0, Origin.MEASURED)
    assert found.nameplate_w == 200.0  # what the sheet said is kept
    assert measured_head(a_head(nameplate_w=300.0), read).nameplate_w == 300.0
    assert measured_head(HEAD, read[3:]) is HEAD
    assert measured_head(HEAD, [a_reading(watts=240.0, setting=0.999)]).draw.full_w.value == 240.0
    assert measured_head(HEAD, [a_reading(watts=240.0, setting=0.998)]) is HEAD
    assert measured_head(HEAD, [a_reading(watts=15.0)]).draw.idle_w == 15.0  # never more idle than full


def test_between_focus_positions_log_against_log():
    spot, middle, flood = (
        a_configuration(
            slug=f"lamp.{name}",
            optic="lens",
            focus=focus,
            offset_m=offset_m,
            origin=origin,
            distribution=BeamField(peak_cd=cd, beam_deg=beam, field_deg=beam * 1.6),
        )
        for name, focus, cd, beam, offset_m, origin in (
            ("spot", 0.0, 40_000.0, 10.0, 0.2, Origin.MEASURED),
            ("middle", 0.5, 10_000.0, 20.0, 0.15, Origin.CLAIMED),
            ("flood", 1.0, 2_500.0, 40.0, 0.1, Origin.CLAIMED),
        )
    )
    (lens,) = focus_ranges((flood, middle, LENS, spot))
    assert (lens.optic, lens.origin) == ("lens", Origin.CLAIMED)
    candela, offset_m = lens.at_beam(20.0)  # halfway on the logarithm: sqrt(40000 x 2500)
    assert (candela, offset_m) == (pytest.approx(10_000.0, rel=1e-3), pytest.approx(0.15, abs=1e-3))
    assert lens.at_beam(lens.beams_deg[0])[0] == pytest.approx(40_000.0)
    for past in (9.0, 41.0):
        with pytest.raises(NoAnswer, match="the lens goes from 10° to 40°"):
            lens.at_beam(past)
    with pytest.raises(BadValue, match="beam is 0"):
        lens.at_beam(0.0)
    with pytest.raises(NoAnswer):
        lens.at_beam(0.5)
    with pytest.raises(NoAnswer, match="the zoom goes from"):
        replace(lens, optic="zoom").at_beam(50.0)
    assert lens.at_beam(lens.beams_deg[-1] * (1 + 1e-12))[0] == pytest.approx(2_500.0)
    assert focus_ranges((spot, LENS)) == ()
    fixed = tuple(a_configuration(slug=f"fixed.{at}", optic="lens") for at in range(2))
    assert focus_ranges((*fixed, spot)) == ()
    for past in (9.95, 40.05):
        with pytest.raises(NoAnswer, match="past its end stop"):
            lens.at_beam(past)


def test_claim_meter_and_trade_side_by_side():
    found = measured_configuration(LENS, HEAD, readings_of(LENS, 0.5))
    near, far = voices(LENS, HEAD, found, (2.0, 10.0))
    assert near.measured_over_claimed_stops == pytest.approx(-1.0, abs=1e-3)
    assert (near.wins, near.is_carried, far.is_carried) == (Origin.MEASURED, False, True)
    assert near.band_stops >= 0.0
    # the made-up head: 10 000 lm from 200 W; its technology usually gives 92 lm/W
    assert near.typical_over_claimed_stops == pytest.approx(
        np.log2(typical_table("lumens_per_watt")[HEAD.technology] * 200.0 / 10_000.0)
    )
    assert [each.is_carried for each in voices(LENS, HEAD, found, (0.99, 1.0, 5.0, 5.01))] == [True, False, False, True]
    (alone,) = voices(LENS, HEAD, None, (2.0,))
    assert (alone.measured_lx, alone.band_stops, alone.measured_over_claimed_stops) == (None, None, None)
    assert alone.wins is Origin.CLAIMED


def test_on_the_axis_is_within_two_degrees_and_focus_a_share():
    assert a_reading(3.0, aside_m=0.09).is_on_axis
    assert not a_reading(3.0, aside_m=-0.1).is_on_axis
    assert a_reading(taken_at=datetime(2026, 10, 12, tzinfo=UTC)).net_lx == 1000.0
    with pytest.raises(BadValue, match="focus is"):
        a_configuration(focus=1.1)
    assert typical(1.0).origin is Origin.TYPICAL


def test_a_head_that_nobody_described_further_is_a_small_white_face():
    bare = bare_configuration(HEAD)
    assert (bare.weight_kg, bare.face.width_m, bare.face.height_m) == (0.01, 0.1, 0.1)
    assert float(bare.distribution.intensity_cd(0.0)) == pytest.approx(10_000.0 / np.pi)
    assert (bare.slug, bare.origin, bare.takes_box, bare.owned) == ("lamp.bare", Origin.TYPICAL, True, 0)
    assert not bare_configuration(a_head(fitting="")).takes_box


def test_ways_to_run_a_head():
    quiet = Mode(name="silent", output_share=0.6, nameplate_w=130.0, measured_w=124.0, fan_db=18.0)
    head = a_head(modes=(quiet, Mode(name="eco", output_share=0.8, nameplate_w=160.0, fan_db=24.0)), fan_db=30.0)
    assert (quiet.watts.value, quiet.watts.origin) == (124.0, Origin.MEASURED)
    assert (head.modes[1].watts.value, head.modes[1].watts.origin) == (160.0, Origin.CLAIMED)
    assert head.quietest_db == 18.0
    assert [head.quiet_share(most) for most in (30.0, 29.9, 24.0, 18.0, 17.9)] == [1.0, 0.8, 0.8, 0.6, 0.0]
    for changes in ({"output_share": 0.0}, {"nameplate_w": 0.0}, {"measured_w": 0.0}, {"fan_db": -1.0}, {"name": " "}):
        with pytest.raises(BadValue):
            Mode(**({"name": "x", "output_share": 0.5, "nameplate_w": 10.0} | changes))


@tabled
def test_what_is_no_head(changes):
    with pytest.raises(BadValue):
        a_head(**changes)


@pytest.mark.parametrize("changes", [{"slug": "No 1"}, {"name": " "}, {"name": "x" * 121}, {"globe_h": -1.0}])
def test_what_is_no_unit(changes):
    with pytest.raises(BadValue):
        Unit(**({"slug": "lamp-1", "name": "No. 1", "head_slug": "lamp"} | changes))


test_what_is_refused = refusals(__file__)
