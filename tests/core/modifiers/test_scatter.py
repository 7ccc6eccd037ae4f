"""Beams behind diffusion sheets, by their laws and by hand."""

import numpy as np
import pytest

from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.modifiers.scatter import Scatter, Scattered, typical_scatter
from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.lumens import lumens
from tests.made_up import a_sheet, typical
from tests.tables import tabled

SPOT = BeamField(peak_cd=90_000.0, beam_deg=12.0, field_deg=22.0)
SOFT = CosinePower(peak_cd=3000.0, exponent=1.0)


@pytest.mark.parametrize("inner", [SPOT, SOFT, BeamField(peak_cd=9000.0, beam_deg=40.0, field_deg=70.0)])
@pytest.mark.parametrize("scatter", [Scatter(straight_share=0.45, lobe_deg=12.0), Scatter(straight_share=0.0)])
def test_a_sheet_that_takes_nothing_keeps_the_lumens(inner, scatter):
    assert lumens(Scattered(inner=inner, scatter=scatter)) == pytest.approx(lumens(inner), rel=0.01)


def test_full_white_makes_a_matt_source_of_any_beam():
    behind = Scattered(inner=SPOT, scatter=Scatter(straight_share=0.0))
    gamma = np.array([0.0, 30.0, 60.0, 80.0])
    assert behind.intensity_cd(gamma) == pytest.approx(lumens(SPOT) / np.pi * np.cos(np.radians(gamma)), rel=0.01)
    assert behind.straight_on_axis == 0.0
    # Over five stops on the axis of a spot: what the sheet of old only dimmed.
    assert np.log2(SPOT.peak_cd / behind.intensity_cd(0.0)) > 5.0


def test_frost_keeps_a_hot_centre_in_a_wider_beam():
    behind = Scattered(inner=SPOT, scatter=Scatter(straight_share=0.45, lobe_deg=12.0))
    around = Scattered(inner=SPOT, scatter=Scatter(straight_share=0.0, lobe_deg=12.0))
    axis, aside = behind.intensity_cd(np.array([0.0, 20.0]), 90.0)
    scattered = around.intensity_cd(np.array([0.0, 20.0]))
    assert axis == pytest.approx(0.45 * 90_000.0 + 0.55 * scattered[0])
    assert behind.straight_on_axis == pytest.approx(0.45 * 90_000.0 / axis)
    assert aside > 5.0 * SPOT.intensity_cd(20.0)
    assert behind.intensity_cd(95.0) == 0.0
    # A thin pencil is spread by the lobe alone: half its peak at the lobe's half width.
    pencil = BeamField(peak_cd=1e6, beam_deg=1.0, field_deg=2.0)
    lobe = Scattered(inner=pencil, scatter=Scatter(straight_share=0.0, lobe_deg=12.0))
    assert lobe.intensity_cd(12.0) / lobe.intensity_cd(0.0) == pytest.approx(0.5, abs=0.01)


def test_a_beam_that_is_not_round_is_scattered_as_its_mean():
    class Sideways:
        def intensity_cd(self, gamma_deg, azimuth_deg=0.0):
            return np.broadcast_arrays(np.where(np.asarray(azimuth_deg) % 360.0 < 90.0, 400.0, 0.0), gamma_deg)[0]

    even = Scattered(inner=Sideways(), scatter=Scatter(straight_share=0.0))
    quarter = Scattered(inner=CosinePower(peak_cd=100.0, exponent=0.0001), scatter=Scatter(straight_share=0.0))
    assert even.intensity_cd(20.0) == pytest.approx(float(quarter.intensity_cd(20.0)), rel=0.001)


@tabled
def test_sheets_that_nobody_described_are_typical(passes, straight, lobe_deg):
    found = typical_scatter(passes)
    assert (found.straight_share, found.lobe_deg) == (pytest.approx(straight), pytest.approx(lobe_deg))
    sheet = a_sheet("d", SheetKind.DIFFUSION, transmittance=typical(passes))
    assert sheet.scatter == found
    assert a_sheet("d", SheetKind.ND, transmittance=typical(passes)).scatter is None
    stated = a_sheet("d", SheetKind.DIFFUSION, transmittance=typical(passes), straight_share=0.2, lobe_deg=30.0)
    assert stated.scatter == Scatter(straight_share=0.2, lobe_deg=30.0)
