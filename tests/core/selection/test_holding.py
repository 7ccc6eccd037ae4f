"""What holds a beam to a width, tried on the beam itself."""

import math

import pytest

from iron_bucket.core.modifiers.beam_cut import BeamCut, CutBeam
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.holding import holding
from iron_bucket.core.selection.pick import Candidate
from tests.core.selection.made import ONLY, answer
from tests.made_up import a_cloth, a_configuration, a_frame, a_need


def test_half_of_the_light_is_left_at_the_edges_of_the_width():
    need = a_need(illuminance_lx=100.0, width_m=1.0, throw_m=4.0)
    picked = answer(need)
    fit = fit_of(picked, ONLY)
    held, shape = holding(fit, need), fit.configuration
    edge_deg = math.degrees(math.atan(0.5 / 4.0))
    for cut in (
        BeamCut(doors_deg=(90.0, 90.0, held.doors_deg, held.doors_deg)),
        BeamCut(snoot_m=held.snoot_m),
        BeamCut(iris=held.iris),
    ):
        beam = CutBeam(inner=shape.distribution, cut=cut, lens_m=shape.face.width_m)
        for azimuth in (0.0, 180.0):
            left = beam.intensity_cd(edge_deg, azimuth) / shape.distribution.intensity_cd(edge_deg)
            assert float(left) == pytest.approx(0.5, abs=0.01)


def test_what_spills_nothing_or_is_shaped_otherwise_needs_no_holding():
    wide = a_need(illuminance_lx=20.0, width_m=2.2, throw_m=3.0)
    for need, gear, front in (
        (wide, {}, 0),
        (a_need(illuminance_lx=20.0), {}, 0),
        (a_need(illuminance_lx=20.0, width_m=0.5), {"configurations": (a_configuration(is_lambertian=True),)}, 0),
        (a_need(illuminance_lx=20.0, width_m=0.5), {"frames": (a_frame(),), "cloths": (a_cloth(),)}, 1),
    ):
        picked = answer(need, **gear)
        assert holding(fit_of(picked, Candidate(row=0, front=front, sheets=0)), need) is None
