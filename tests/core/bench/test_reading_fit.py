"""The fit through readings: exact on exact ones, unmoved by one bad one, honest about few."""

import numpy as np
import pytest
from scipy.stats import t as student

from iron_bucket.core.bench.reading_fit import FitKind, fit_readings
from iron_bucket.core.errors import BadValue
from tests.tables import tabled

THROWS = np.array([1.0, 1.5, 2.0, 3.0, 4.0, 5.0])


def lens(throws=THROWS, *, cd=30_000.0, offset_m=0.12):
    return cd / (throws + offset_m) ** 2


def face(throws=THROWS, *, cd=2_000.0, radius_m=0.4):
    return cd / (throws**2 + radius_m**2)


@pytest.mark.parametrize("offset_m", [-0.3, 0.0, 0.12, 1.8])
def test_a_lens_is_found_again(offset_m):
    found = fit_readings(THROWS, lens(offset_m=offset_m), FitKind.OFFSET)
    assert found.intensity_cd == pytest.approx(30_000.0, rel=1e-5)
    assert found.offset_m == pytest.approx(offset_m, abs=1e-5)
    assert found.radius_m == 0.0
    assert found.is_second_fitted
    assert found.illuminance_lx(7.0) == pytest.approx(lens(np.array(7.0), offset_m=offset_m), rel=1e-5)


@pytest.mark.parametrize("radius_m", [0.0, 0.1, 0.4, 2.0])
def test_a_face_is_found_again(radius_m):
    found = fit_readings(THROWS, face(radius_m=radius_m), FitKind.FACE)
    assert found.intensity_cd == pytest.approx(2_000.0, rel=1e-4)
    assert found.radius_m == pytest.approx(radius_m, abs=2e-3)
    assert found.offset_m == 0.0


@pytest.mark.parametrize("wrong", [0.4, 0.6, 1.6, 3.0])
@pytest.mark.parametrize("place", range(len(THROWS)))
def test_one_bad_reading_does_not_pull_the_fit(place, wrong):
    levels = lens()
    levels[place] *= wrong
    found = fit_readings(THROWS, levels, FitKind.OFFSET)
    assert found.intensity_cd == pytest.approx(30_000.0, rel=1e-3)
    assert found.is_aside == tuple(at == place for at in range(len(THROWS)))
    assert found.residual_stops[place] == pytest.approx(np.log2(wrong), abs=0.01)


def test_a_third_of_the_readings_may_be_bad_and_more_or_one_a_little_off_are_all_kept():
    levels = lens() * np.array([1.0, 2.0, 1.0, 2.0, 1.0, 2.0])
    assert not any(fit_readings(THROWS, levels, FitKind.OFFSET).is_aside)
    levels = lens()
    levels[2] *= 2.0**0.3
    assert not any(fit_readings(THROWS, levels, FitKind.OFFSET).is_aside)
    throws = np.array([1.0, 1.3, 1.7, 2.2, 3.0, 4.0, 5.0, 6.5, 8.0])
    levels = lens(throws)
    levels[[1, 4, 7]] *= 0.5
    assert np.flatnonzero(fit_readings(throws, levels, FitKind.OFFSET).is_aside).tolist() == [1, 4, 7]
    levels[3] *= 0.5
    assert not any(fit_readings(throws, levels, FitKind.OFFSET).is_aside)


@tabled
def test_few_or_close_distances_leave_the_second_unknown_as_assumed(throws, note):
    throws = np.array(throws)
    found = fit_readings(throws, lens(throws), FitKind.OFFSET, assumed_second=0.12)
    assert not found.is_second_fitted
    assert found.offset_m == 0.12
    assert found.intensity_cd == pytest.approx(30_000.0, rel=1e-9)
    assert found.notes[0].startswith(note)


def test_three_distances_carry_both_unknowns_and_fewer_tell_no_band():
    throws = np.array([2.0, 2.5, 3.0])
    found = fit_readings(throws, lens(throws), FitKind.OFFSET)
    assert found.is_second_fitted
    assert found.notes == ()
    throws = np.array([1.0, 2.0, 4.0])
    assert fit_readings(throws, lens(throws), FitKind.OFFSET).band_stops(3.0) is not None
    assert fit_readings(throws[:1], lens(throws[:1]), FitKind.OFFSET).band_stops(3.0) is None
    assert fit_readings(throws[:1], lens(throws[:1]), FitKind.OFFSET).spread_stops is None


def test_the_band_is_that_of_ordinary_least_squares():
    noise = np.array([0.05, -0.03, 0.02, -0.06, 0.01, 0.03])
    found = fit_readings(THROWS, lens() * 2.0**noise, FitKind.OFFSET)
    slopes = np.stack([np.ones(6), -2.0 / (THROWS + found.offset_m) / np.log(2.0)], axis=1)
    left = 4  # six readings, two unknowns
    spread = np.sqrt(np.square(found.residual_stops).sum() / left)
    at = np.array([1.0, -2.0 / (10.0 + found.offset_m) / np.log(2.0)])
    expected = student.ppf(0.975, left) * spread * np.sqrt(at @ np.linalg.inv(slopes.T @ slopes) @ at)
    assert found.spread_stops == pytest.approx(spread)
    assert found.band_stops(10.0) == pytest.approx(expected, rel=1e-6)
    assert found.band_stops(np.array([2.0, 30.0]))[0] < found.band_stops(np.array([2.0, 30.0]))[1]


@pytest.mark.parametrize("kind", list(FitKind))
def test_a_second_unknown_ends_at_its_bound(kind):
    """Levels that hardly fall with distance, of a source infinitely far, or large; by the readings that are kept."""
    found = fit_readings(THROWS, 1000.0 - THROWS, kind)
    farthest = THROWS[~np.array(found.is_aside)].max()
    assert found.second == pytest.approx(2.0 * farthest if kind is FitKind.OFFSET else farthest**2, rel=1e-3)


def test_the_band_of_a_face_and_of_output_alone():
    noise = np.array([0.05, -0.03, 0.02, -0.06, 0.01, 0.03])
    found = fit_readings(THROWS, face() * 2.0**noise, FitKind.FACE)
    slopes = np.stack([np.ones(6), -1.0 / (THROWS**2 + found.second) / np.log(2.0)], axis=1)
    at = np.array([1.0, -1.0 / (4.0 + found.second) / np.log(2.0)])
    expected = student.ppf(0.975, 4) * found.spread_stops * np.sqrt(at @ np.linalg.inv(slopes.T @ slopes) @ at)
    assert found.band_stops(2.0) == pytest.approx(expected, rel=1e-6)
    near = np.array([2.0, 2.2, 2.4])
    alone = fit_readings(near, lens(near) * 2.0 ** noise[:3], FitKind.OFFSET, assumed_second=0.12)
    assert alone.band_stops(9.0) == pytest.approx(student.ppf(0.975, 2) * alone.spread_stops / np.sqrt(3.0))


def test_a_fit_is_sharp_to_a_millimetre_and_says_from_where_to_where():
    found = fit_readings(THROWS[::-1], lens()[::-1], FitKind.OFFSET)
    assert (found.nearest_m, found.farthest_m) == (1.0, 5.0)
    found = fit_readings(THROWS, lens(offset_m=0.1234567), FitKind.OFFSET)
    assert found.offset_m == pytest.approx(0.1234567, abs=1e-5)


@tabled
def test_what_cannot_be_fitted(throws, levels):
    with pytest.raises(BadValue, match="readings is"):
        fit_readings(np.array(throws), np.array(levels), FitKind.OFFSET)


def test_a_virtual_source_is_looked_for_up_to_twice_the_farthest_reading():
    assert fit_readings(THROWS, lens(offset_m=9.9), FitKind.OFFSET).offset_m == pytest.approx(9.9, rel=1e-4)
    assert fit_readings(THROWS, lens(offset_m=30.0), FitKind.OFFSET).offset_m == pytest.approx(10.0)
    assert fit_readings(THROWS, lens(offset_m=-0.89), FitKind.OFFSET).offset_m == pytest.approx(-0.89, abs=1e-4)
    assert fit_readings(THROWS, face(radius_m=4.9), FitKind.FACE).radius_m == pytest.approx(4.9, rel=1e-3)


@pytest.mark.parametrize(("off_stops", "is_aside"), [(0.32, False), (0.345, True)])
def test_far_off_begins_at_a_third_of_a_stop(off_stops, is_aside):
    throws = np.array([1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0])
    levels = lens(throws)
    levels[4] *= 2.0**off_stops
    assert fit_readings(throws, levels, FitKind.OFFSET).is_aside[4] is is_aside


@pytest.mark.parametrize(("count", "is_aside"), [(4, True), (3, False)])
def test_leaving_one_aside_leaves_enough_to_judge_by(count, is_aside):
    # Output alone is fitted: two distances. One aside must leave three.
    throws = np.array([2.0, 2.0, 2.0, 3.0][-count:])
    levels = lens(throws)
    levels[-1] *= 3.0
    assert any(fit_readings(throws, levels, FitKind.OFFSET, assumed_second=0.12).is_aside) is is_aside


@pytest.mark.parametrize("place", range(4))
@pytest.mark.parametrize("off_stops", [1.0, -1.0])
def test_one_of_four_that_is_a_stop_off_is_named_and_moves_nothing(place, off_stops):
    """It lay 0.9 stop beside when the virtual source bent to it."""
    throws = np.array([1.0, 2.0, 3.0, 5.0])
    levels = 8000.0 / np.square(throws)
    levels[place] *= 2.0**off_stops
    fit = fit_readings(throws, levels, FitKind.OFFSET)
    assert fit.intensity_cd == pytest.approx(8000.0)
    assert (fit.second, fit.is_second_fitted) == (0.0, False)
    assert fit.is_aside == tuple(at == place for at in range(4))
    note = f"the reading at {throws[place]:.2f} m lies 1.0 stops off the others: take it again"
    assert [each.partition(";")[0] for each in fit.notes] == [note]


def test_four_that_lie_on_no_curve_name_the_two_to_take_again():
    throws = np.array([1.0, 2.0, 3.0, 5.0])
    levels = 8000.0 / np.square(throws) * 2.0 ** np.array([0.0, 1.0, -0.8, 0.0])
    fit = fit_readings(throws, levels, FitKind.OFFSET)
    assert not any(fit.is_aside)
    assert "take those at 2.00 and 3.00 m again" in fit.notes[0]
    # Four that scatter as meters do are fitted as ever.
    quiet = fit_readings(
        throws, 8000.0 / np.square(throws + 0.3) * 2.0 ** np.array([0.1, -0.1, 0.1, -0.1]), FitKind.OFFSET
    )
    assert (quiet.notes, quiet.is_second_fitted) == ((), True)
