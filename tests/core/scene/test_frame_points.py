"""What frames catch and send on, against reference cases and by laws."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.faces import rectangle_illuminance_lx
from iron_bucket.core.scene.blocking import Blocker
from iron_bucket.core.scene.fineness import REFERENCE
from iron_bucket.core.scene.frame_points import FramePoints, points_a_side, points_for_near
from iron_bucket.core.scene.light_levels import lamp_flux_lm
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import Scene, SceneFrame, Solid, direction
from iron_bucket.core.scene.standing import mark_points
from tests.conftest import golden_cases
from tests.core.scene.made import X, Z, a_frame, a_lamp, a_mark, a_panel, at, found
from tests.made_up import panel_at


@pytest.mark.parametrize("far_m", [0.15, 0.4])
def test_close_behind_a_cloth_its_points_still_add_up(far_m):
    """A mark before the middle of an evenly lit cloth: the rectangle of docs/craft.md, section 3."""
    lamp = a_lamp(position_m=at(0, 0, -40), intensity=CosinePower(peak_cd=160_000.0, exponent=1.0))
    scene = Scene(lamps=(lamp,), frames=(a_frame(),), marks=(a_mark((0, 0, far_m)),))
    expected = float(rectangle_illuminance_lx(0.5 * 100.0 / np.pi, 1.2, 1.2, far_m))
    assert unit_response(scene, fineness=replace(REFERENCE, frame_points=61)).via_lx[0, 0, 0] == pytest.approx(
        expected, rel=0.005
    )


def test_a_cloth_passes_some_straight_scatters_the_rest_and_a_bounce_stops_the_ray():
    frosted = found(frames=(a_frame(straight_share=0.4),))
    assert frosted.direct_lx[0, 0] == pytest.approx(0.2 * 9000 / 16)
    assert frosted.via_lx[0, 0, 0] == pytest.approx(0.6 * found(frames=(a_frame(),)).via_lx[0, 0, 0])
    assert found(frames=(a_frame(),)).direct_lx[0, 0] == 0.0
    bounce = a_frame(transmittance=None, reflectance=0.8)
    behind, beside = a_mark((0, 0, 2)), a_mark((0, 1, -1.5), at(0, -np.sqrt(0.5), np.sqrt(0.5)), "beside")
    response = found(frames=(bounce,), marks=(behind, beside))
    assert (response.direct_lx[0, 0], response.via_lx[0, 0, 0]) == (0.0, 0.0)
    assert response.via_lx[0, 0, 1] > 10.0
    assert found(frames=(a_frame(),), marks=(beside,)).via_lx[0, 0, 0] == 0.0  # a cloth sends nothing back


@pytest.mark.parametrize("flipped", [False, True])
def test_a_frame_has_no_wrong_side(flipped):
    panel = a_panel(side_x=-X if flipped else X)
    assert found(lamps=(a_lamp(position_m=at(0, 0, -0.4)),), frames=(a_frame(panel=panel),)).via_lx[0, 0, 0] > 1.0
    assert found(frames=(a_frame(panel=panel),)).via_lx[0, 0, 0] == pytest.approx(
        found(frames=(a_frame(),)).via_lx[0, 0, 0]
    )


@pytest.mark.parametrize(
    "kind",
    [{}, {"lobe_deg": 20.0, "back_reflectance": 0.3}, {"transmittance": None, "reflectance": 0.7, "lobe_deg": 12}],
)
@pytest.mark.parametrize("is_front", [False, True])
def test_its_points_one_by_one_add_up_to_the_frame(kind, is_front):
    cut = FramePoints.of(a_frame(**kind), 7)
    whence, lit_lx = np.array([[0.3, -0.2, -1.5], [np.nan] * 3]), np.arange(98.0).reshape(2, 49)
    for z_m in (1.2, -0.8):
        meter = mark_points((a_mark((0.4, 0.3, z_m), at(0, 0, -np.sign(z_m))),))
        each = cut.sent_by_point_lx(whence, lit_lx, meter, (), is_lit_in_front=is_front).sum(axis=1)
        whole = cut.sent_lx(whence, lit_lx, meter, (), is_lit_in_front=is_front)[:, 0]
        assert each == pytest.approx(whole, rel=1e-3)


def test_a_lit_frame_adds_up_to_the_lumens_that_land_on_it():
    lamp = a_lamp(intensity=CosinePower(peak_cd=100.0, exponent=1.0), position_m=at(0, 0, -0.001))
    cut = FramePoints.of(a_frame(panel=a_panel(width_m=40.0, height_m=40.0)), 121)
    near = a_lamp(position_m=at(0, 0, -1), intensity=CosinePower(peak_cd=1000.0, exponent=1.0))
    lit_lx = cut.lit_lx((near,), (), is_lit_in_front=False)[0]
    assert lit_lx @ cut.area_m2 == pytest.approx(1000.0 * np.pi, rel=0.01)  # nearly the whole half space
    assert lamp_flux_lm(lamp) == pytest.approx(100.0 * np.pi, rel=1e-4)  # the quadrature of formulas


@pytest.mark.parametrize("flipped", [1.0, -1.0])
@pytest.mark.parametrize("is_cloth", [True, False])
def test_what_a_frame_sends_on_goes_one_way_only(is_cloth, flipped):
    """A lamp on each side: each has its light on the far side of a cloth, on its own side of a bounce."""
    panel = a_panel((0, 0, 0), side_x=X * flipped, width_m=1.0, height_m=1.0)
    frame = a_frame(panel=panel) if is_cloth else a_frame(panel=panel, transmittance=None, reflectance=0.5)
    lamps = tuple(
        a_lamp(lamp_id=name, position_m=at(0, 0, z), aim=Z * -np.sign(z)) for name, z in (("up", 2.0), ("down", -2.0))
    )
    marks = (a_mark((0, 0, 1.5), -Z, name="above"), a_mark((0, 0, -1.5), Z, name="below"))
    via = found(lamps=lamps, frames=(frame,), marks=marks).via_lx[:, 0]
    lit = [[False, True], [True, False]] if is_cloth else [[True, False], [False, True]]
    assert (via > 0).tolist() == lit
    assert via.max() == pytest.approx(via[1, 0] if is_cloth else via[1, 1])


@pytest.mark.parametrize(("beam_deg", "throw_m"), [(10.0, 1.0), (10.0, 2.0), (13.0, 2.0), (54.0, 2.0)])
def test_a_spot_on_a_large_frame_is_cut_finely_enough(beam_deg, throw_m):
    spot = a_lamp(
        position_m=at(0.2, 0.1, -throw_m), intensity=BeamField(peak_cd=1e5, beam_deg=beam_deg, field_deg=1.9 * beam_deg)
    )
    scene = Scene(
        lamps=(spot,), frames=(a_frame(panel=a_panel(width_m=2.4, height_m=2.4)),), marks=(a_mark((0.3, 0.2, 1.5)),)
    )
    fine = unit_response(scene, fineness=replace(REFERENCE, frame_points=61)).via_lx[0, 0, 0]
    assert unit_response(scene, fineness=replace(REFERENCE, frame_points=9)).via_lx[0, 0, 0] == pytest.approx(
        fine, rel=0.02
    )


def test_a_frame_is_cut_for_the_beams_that_fall_on_it():
    frame = a_frame(panel=a_panel(width_m=2.0, height_m=1.0))
    spot = a_lamp(position_m=at(0, 0, -2), intensity=BeamField(peak_cd=1e5, beam_deg=10.0, field_deg=20.0))
    # 2.5 points across 2 * 2 m * tan(5 degrees), found to the next half degree: 2.5 * 2 / 0.385 = 13.
    assert points_a_side(frame, (spot,), 9) == 13
    # The frame's corner lies 29 degrees off its middle; the spot's half beam of five reaches it from 30, not from 40.
    for turned_deg, expected in ((30.0, 13), (40.0, 9), (90.0, 9)):
        aim = at(np.sin(np.radians(turned_deg)), 0.0, np.cos(np.radians(turned_deg)))
        assert points_a_side(frame, (replace(spot, aim=aim),), 9) == expected
    assert points_a_side(frame, (replace(spot, intensity=CosinePower(peak_cd=1.0, exponent=1.0)),), 9) == 9
    assert points_a_side(frame, (), 31) == 31
    # A lobe of 10 degrees turns by 2 m (1 / 2 m + 1 / 1 m) over the frame: 2.5 points to each of its 20 degrees.
    silver = a_frame(panel=frame.panel, transmittance=None, reflectance=0.8, lobe_deg=10.0)
    wide = replace(spot, intensity=CosinePower(peak_cd=1.0, exponent=1.0))
    assert points_a_side(silver, (wide,), 9) == int(np.ceil(2.5 * 3.0 / np.radians(20.0)))
    near = replace(spot, position_m=at(0, 0, -0.1))
    assert points_a_side(frame, (near,), 9) == 61


def test_flags_before_and_behind_a_frame_count_and_the_frame_is_not_in_its_own_way():
    before, behind = (
        Solid(solid_id=name, panel=a_panel((0, 0, z), width_m=4.0, height_m=4.0))
        for name, z in (("S", -1.0), ("T", 1.0))
    )
    plain = found(frames=(a_frame(),))
    assert plain.via_lx[0, 0, 0] > 0
    for solid in (before, behind):
        blocked = found(frames=(a_frame(),), solids=(solid,))
        assert (blocked.via_lx[0, 0, 0], blocked.direct_lx[0, 0]) == (0.0, 0.0)
    assert found(frames=(a_frame(),), solids=(before,)).share_caught[0, 0] == 0.0
    assert found(frames=(a_frame(),), solids=(behind,)).share_caught[0, 0] == plain.share_caught[0, 0]


@pytest.mark.parametrize("kind", ["diffusion_frame", "bounce"])
def test_reference_frames_and_bounces(kind):
    for case in golden_cases("optics.json", kind):
        given, expected, rel_tol = case.values
        centre, side_x, side_y = (given[f"frame_{part}"] for part in ("centre", "side_x", "side_y"))
        panel = panel_at(centre, direction("x", side_x), side_y, given["frame_w_m"], given["frame_h_m"])
        frame = SceneFrame(
            frame_id="F", panel=panel, transmittance=given.get("transmittance"), reflectance=given.get("reflectance")
        )
        lamp = a_lamp(
            position_m=at(*given["source_position"]),
            aim=at(*given["aim"]),
            intensity=CosinePower(peak_cd=given["I0_cd"], exponent=given["n"]),
        )
        response = found(
            lamps=(lamp,), frames=(frame,), marks=(a_mark(given["subject_position"], given["subject_normal"]),)
        )
        assert response.via_lx[0, 0, 0] == pytest.approx(expected["subject_lux"], rel=rel_tol)
        assert response.share_caught[0, 0] == pytest.approx(expected["share_of_flux_caught"], rel=rel_tol)
        assert response.direct_lx[0, 0] < 0.001 * expected["subject_lux"]


@pytest.mark.parametrize("count", [9, 31])
@pytest.mark.parametrize("edge_m", [0.0, 0.13, -0.41])
@pytest.mark.parametrize("axis", [0, 1])
def test_a_shadow_s_edge_on_a_frame_counts_by_what_is_lit(count, edge_m, axis):
    """Even light of 100 lx from far off, a flag a hand behind the frame that ends at ``edge_m``: to two hundredths."""
    lamp = a_lamp(position_m=at(0, 0, -400), intensity=CosinePower(peak_cd=1.6e7, exponent=0.01))
    middle = (edge_m - 2.0) * np.eye(3)[axis] + at(0, 0, -0.1)
    flag = Blocker(panel=a_panel(middle, width_m=4.0, height_m=4.0), passes=0.3)
    cut = FramePoints.of(a_frame(), count)
    lit_lx = cut.lit_lx((lamp,), (flag,), is_lit_in_front=False)[0]
    lit_m2 = 1.2 * (0.6 - edge_m + 0.3 * (0.6 + edge_m))
    assert lit_lx @ cut.area_m2 == pytest.approx(100.0 * lit_m2, rel=0.02 if count < 20 else 0.004)
    assert cut.lit_lx((lamp,), (flag,), is_lit_in_front=True).max() == 0.0


def test_a_frame_is_cut_for_the_nearest_place():
    """By hand, 3.5 / log(1 + 2 h / w): over the middle, beside an edge, past a corner; no nearer than a fiftieth."""
    panel = a_panel(width_m=2.0, height_m=1.0)
    for place, near_m in (
        ((0.2, 0.1, 0.3), 0.3),
        ((0.2, 0.1, -0.3), 0.3),
        ((1.3, 0.0, 0.0), 0.3),
        ((0.0, -0.9, 0.3), 0.5),
        ((1.3, 0.9, 0.0), 0.5),
        ((0.0, 0.0, 0.001), 0.04),
    ):
        wanted = 3.5 / np.log(1.0 + 2.0 * near_m / 2.0)
        assert points_for_near(panel, np.array([place, (5.0, 5.0, 5.0)])) == pytest.approx(wanted)
    assert points_for_near(panel, np.zeros((0, 3))) == 0.0
