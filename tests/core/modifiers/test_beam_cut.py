"""Leaves, tubes and gates, against rays from many places of the lens."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.modifiers.beam_cut import BeamCut, CutBeam
from iron_bucket.core.photometry.distribution import BeamField
from tests.tables import tabled

SPOT = BeamField(peak_cd=1000.0, beam_deg=30.0, field_deg=60.0)
LENS_M = 0.2
FIELD = np.tan(np.radians(30.0))
CHANCE = np.random.default_rng(3)
#: Places all over the lens, left and up.
LENS = (CHANCE.uniform(-1.0, 1.0, (40_000, 2)) * LENS_M / 2.0)[:]
LENS = LENS[np.hypot(*LENS.T) <= LENS_M / 2.0]


def passes(cut: BeamCut, left: float, up: float) -> float:
    """Share left of the beam, towards tangents to the left and up."""
    gamma, azimuth = np.degrees(np.arctan(np.hypot(left, up))), np.degrees(np.arctan2(up, left))
    beam = CutBeam(inner=SPOT, cut=cut, lens_m=LENS_M)
    return float(beam.intensity_cd(gamma, azimuth) / SPOT.intensity_cd(gamma))


@pytest.mark.parametrize(("which", "way"), [(0, (0, 1)), (1, (0, -1)), (2, (1, 0)), (3, (-1, 0))])
@pytest.mark.parametrize("leaf_deg", [-20.0, 0.0, 25.0])
def test_a_leaf_hides_what_lies_behind_its_edge(which, way, leaf_deg):
    """Hinged at the rim, as long as the lens is wide: what of the lens is seen past its edge, ray by ray."""
    doors = tuple(leaf_deg if at == which else 90.0 for at in range(4))
    opened = np.radians(leaf_deg)
    off_m, before_m = LENS_M / 2.0 + LENS_M * np.sin(opened), LENS_M * np.cos(opened)
    for tangent in (-0.5, 0.0, 0.2, 0.5, 0.9, 1.4):
        seen = np.mean(LENS @ np.array(way) + before_m * tangent < off_m)
        assert passes(BeamCut(doors_deg=doors), way[0] * tangent, way[1] * tangent) == pytest.approx(seen, abs=0.01)


def test_a_snoot_leaves_what_two_rims_share():
    for length_m in (0.1, 0.3):
        for tangent in (0.0, 0.2, 0.5, 1.0):
            far_rim = LENS + np.array([0.6, 0.8]) * length_m * tangent
            seen = np.mean(np.hypot(*far_rim.T) <= LENS_M / 2.0)
            assert passes(BeamCut(snoot_m=length_m), 0.6 * tangent, 0.8 * tangent) == pytest.approx(seen, abs=0.01)


@tabled
def test_the_gate_by_hand(cut, place, share):
    """In units of the field's radius, which ends where a tenth of the peak is left."""
    assert passes(BeamCut(**cut), place[0] * FIELD, place[1] * FIELD) == pytest.approx(share, abs=0.02)


def test_cuts_are_one_after_the_other_and_nothing_is_nothing():
    doors, iris = BeamCut(doors_deg=(5.0, 90.0, 90.0, 10.0)), BeamCut(iris=0.6)
    for place in ((0.1, 0.2), (-0.3, 0.4), (0.2, -0.3)):
        both = passes(replace(doors, iris=0.6), *place)
        assert both == pytest.approx(passes(doors, *place) * passes(iris, *place))
    assert (BeamCut().cuts_nothing, doors.cuts_nothing, doors.is_doors_alone, iris.is_doors_alone) == (1, 0, 1, 0)
    behind = CutBeam(inner=SPOT, cut=doors, lens_m=LENS_M).intensity_cd(np.array([95.0, 179.0]), 0.0)
    assert behind.tolist() == [0.0, 0.0]
