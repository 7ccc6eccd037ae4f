"""What every lamp does at every mark: against the reference cases, against closed forms, and by laws."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.faces import disc_illuminance_lx, rectangle_illuminance_lx
from iron_bucket.core.scene.blocking import crosses
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.mark_levels import UnitResponse, unit_response
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import (
    GlowingFace,
    LitShape,
    Mark,
    Scene,
    SceneFrame,
    SceneLamp,
    Solid,
    direction,
)
from iron_bucket.core.scene.sources import FramePoints, face_pieces, lamp_flux_lm, lamp_level_lx, points_a_side
from tests.conftest import golden_cases
from tests.made_up import panel_at
from tests.tables import refusals

X, Y, Z = np.eye(3)


def at(*coordinates: float) -> np.ndarray:
    return np.array(coordinates, dtype=float)


def a_lamp(**changes) -> SceneLamp:
    made = {
        "lamp_id": "A",
        "position_m": at(0, 0, -2),
        "aim": Z,
        "intensity": CosinePower(peak_cd=9000.0, exponent=20.0),
    }
    return SceneLamp(**(made | changes))


def a_panel(centre=(0, 0, 0), side_x=X, side_y=Y, width_m=1.2, height_m=1.2) -> Panel:
    return panel_at(at(*centre), side_x, side_y, width_m, height_m)


def a_frame(**changes) -> SceneFrame:
    return SceneFrame(**({"frame_id": "F", "panel": a_panel(), "transmittance": 0.5} | changes))


def a_mark(position=(0, 0, 2), normal=-Z, name="m") -> Mark:
    return Mark(mark_id=name, position_m=at(*position), normal=np.asarray(normal, dtype=float))


def found(**parts) -> UnitResponse:
    return unit_response(Scene(**({"lamps": (a_lamp(),), "marks": (a_mark(),)} | parts)))


def a_face(shape=LitShape.RECTANGLE, width_m=1.0, height_m=0.6, luminance=1000.0, along=X) -> GlowingFace:
    return GlowingFace(shape=shape, width_m=width_m, height_m=height_m, luminance_cd_m2=luminance, width_along=along)


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


@pytest.mark.parametrize("far_m", [0.15, 0.4])
def test_close_behind_a_cloth_its_points_still_add_up(far_m):
    """A mark before the middle of an evenly lit cloth: the rectangle of docs/craft.md, section 3."""
    lamp = a_lamp(position_m=at(0, 0, -40), intensity=CosinePower(peak_cd=160_000.0, exponent=1.0))
    scene = Scene(lamps=(lamp,), frames=(a_frame(),), marks=(a_mark((0, 0, far_m)),))
    expected = float(rectangle_illuminance_lx(0.5 * 100.0 / np.pi, 1.2, 1.2, far_m))
    assert unit_response(scene, frame_points=61).via_lx[0, 0, 0] == pytest.approx(expected, rel=0.005)


def test_inverse_square_and_cosine():
    straight = found(
        marks=(
            a_mark((0, 0, 2)),
            a_mark((0, 0, 4), name="far"),
            a_mark((0, 0, 2), -at(0, np.sqrt(0.75), 0.5), "turned"),
            a_mark((0, 0, 2), Z, "away"),
            a_mark((0, 0, -3), Z, "behind"),
        )
    )
    assert straight.direct_lx[0] == pytest.approx([9000 / 16, 9000 / 36, 9000 / 32, 0.0, 0.0])
    assert straight.indirect_lx.sum() == 0.0


@pytest.mark.parametrize(
    ("shape", "law"),
    [
        (LitShape.DISC, lambda d: disc_illuminance_lx(1000.0, 0.5, d)),
        (LitShape.RECTANGLE, lambda d: rectangle_illuminance_lx(1000.0, 1.0, 0.6, d)),
    ],
)
def test_a_face_by_its_exact_law_in_any_direction(shape, law):
    face = a_face(shape, 1.0, 1.0 if shape is LitShape.DISC else 0.6, along=Y)
    lamp = a_lamp(position_m=at(1, 2, 3), aim=X, intensity=None, face=face)
    levels = found(
        lamps=(lamp,), marks=(a_mark((1.5, 2, 3), -X), a_mark((4, 2, 3), -X, "far"), a_mark((0.5, 2, 3), X, "behind"))
    ).direct_lx[0]
    assert levels == pytest.approx([float(law(0.5)), float(law(3.0)), 0.0], rel=1e-4)
    assert lamp_flux_lm(lamp) == pytest.approx(np.pi * 1000.0 * face.area_m2)


def test_pieces_make_up_the_face():
    for shape, height_m in ((LitShape.DISC, 1.0), (LitShape.RECTANGLE, 0.6)):
        corners, centres, luminance = face_pieces(a_lamp(intensity=None, face=a_face(shape, 1.0, height_m)))
        area = np.linalg.norm(np.cross(corners[:, 2] - corners[:, 0], corners[:, 3] - corners[:, 1]), axis=1) / 2
        assert area.sum() == pytest.approx(a_face(shape, 1.0, height_m).area_m2)
        assert (luminance, centres.mean(axis=0)) == (1000.0, pytest.approx([0, 0, -2]))
        assert len(face_pieces(a_lamp(intensity=None, face=a_face(shape, 1.0, height_m)), 6)[1]) == (
            24 * 3 if shape is LitShape.DISC else 36
        )
    with pytest.raises(ValueError, match="no pieces"):
        face_pieces(a_lamp())


def test_a_solid_casts_its_shadow_and_a_net_dims():
    flag = Solid(solid_id="S", panel=a_panel((0, 0, 0), width_m=0.5, height_m=0.5))
    marks = (a_mark((0.49, 0, 2), name="in"), a_mark((0.51, 0, 2), name="out"))
    open_lx = found(marks=marks).direct_lx[0]
    assert found(solids=(flag,), marks=marks).direct_lx[0] == pytest.approx(
        [0.0, open_lx[1]]
    )  # its edge at 0.25 throws to 0.5
    assert found(solids=(replace(flag, transmittance=0.6),), marks=marks).direct_lx[0] == pytest.approx(
        [0.6 * open_lx[0], open_lx[1]]
    )
    beyond = replace(flag, panel=a_panel((0, 0, 3)))
    assert found(solids=(beyond,), marks=marks).direct_lx[0] == pytest.approx(open_lx)
    alongside = replace(flag, panel=a_panel((0, 0, 0), side_x=Z, side_y=Y))  # edge on: a ray in its plane meets nothing
    assert found(solids=(alongside,), marks=(a_mark(),)).direct_lx[0] == pytest.approx(found().direct_lx[0])


@pytest.mark.parametrize("off_deg", [0.0, 8.0, 14.0, 20.0])
def test_cells_on_a_face_shade_it_by_their_law(off_deg):
    """From so far that the face is a point: what cells of 36 degrees let through there, and no more."""
    turn, face = np.radians(off_deg), a_face(LitShape.RECTANGLE, 0.01, 0.01)
    mark = a_mark((8.0 * np.sin(turn), 0.0, 8.0 * np.cos(turn)), (-np.sin(turn), 0.0, -np.cos(turn)))
    plain, cut = (
        found(lamps=(a_lamp(position_m=at(0, 0, 0), intensity=None, face=each),), marks=(mark,)).direct_lx[0, 0]
        for each in (face, replace(face, cutoff_deg=36.0))
    )
    assert cut / plain == pytest.approx(float(grid_cut(36.0, off_deg)), abs=2e-3)


def test_half_a_face_behind_a_flag_gives_half():
    lamp = a_lamp(position_m=at(0, 0, 0), intensity=None, face=a_face(LitShape.RECTANGLE, 1.0, 1.0))
    half = Solid(solid_id="S", panel=a_panel((1.0, 0, 0.001), width_m=2.0, height_m=4.0))
    whole = found(lamps=(lamp,), marks=(a_mark((0, 0, 3)),)).direct_lx[0, 0]
    assert found(lamps=(lamp,), solids=(half,), marks=(a_mark((0, 0, 3)),)).direct_lx[0, 0] == pytest.approx(
        whole / 2, rel=1e-3
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


def test_another_cloth_in_the_way_lets_through_what_goes_straight():
    second = a_frame(
        frame_id="G", panel=a_panel((0, 0, 1), width_m=6.0, height_m=6.0), transmittance=0.5, straight_share=0.5
    )
    alone, both = found(frames=(a_frame(),)), found(frames=(a_frame(), second))
    assert both.via_lx[0, 0, 0] == pytest.approx(0.25 * alone.via_lx[0, 0, 0])
    assert both.share_caught[0, 0] == alone.share_caught[0, 0]


def test_light_adds_up_and_levels_weigh_it():
    lamps = (a_lamp(), a_lamp(lamp_id="B", position_m=at(1, 0, -2), level=0.5))
    response = found(lamps=lamps, frames=(a_frame(),), marks=(a_mark(), a_mark((0.5, 0.2, 1.5), name="n")))
    one, two = (
        found(lamps=(lamp,), frames=(a_frame(),), marks=(a_mark(), a_mark((0.5, 0.2, 1.5), name="n"))) for lamp in lamps
    )
    three = found(
        lamps=lamps, frames=(a_frame(), a_frame(frame_id="G", panel=a_panel((0.4, 0, 1.0)))), marks=(a_mark(),)
    )
    assert three.total_lx(at(1.0, 0.0)) == pytest.approx(three.direct_lx[0] + three.via_lx[0].sum(axis=0))
    assert response.total_lx(at(1.0, 0.5)) == pytest.approx(one.total_lx(at(1.0)) + 0.5 * two.total_lx(at(1.0)))


def by_brute_force(room: BoxRoom, lamp: SceneLamp, position: np.ndarray, normal: np.ndarray, steps: int = 160) -> float:
    """The first bounce at one receiver by a sum over many points of every wall."""
    size, total = np.array(room.dimensions_m), 0.0
    grid = (np.arange(steps) + 0.5) / steps
    for index, rho in enumerate(room.reflectances):
        axis, far = divmod(index, 2)
        u, v = [other for other in range(3) if other != axis]
        points = np.zeros((steps, steps, 3))
        points[..., u], points[..., v], points[..., axis] = (
            grid[:, None] * size[u],
            grid[None, :] * size[v],
            size[axis] * far,
        )
        points = points.reshape(-1, 3)
        inward = np.zeros(3)
        inward[axis] = -1.0 if far else 1.0
        level = lamp_level_lx(lamp, Points(positions_m=points, normals=np.broadcast_to(inward, points.shape)), ())
        rays = position - points
        distance = np.linalg.norm(rays, axis=1)
        share = np.maximum(rays @ inward, 0.0) * np.maximum(-(rays @ normal), 0.0) / distance**4
        total += rho / np.pi * float(level @ share) * size[u] * size[v] / steps**2
    return total


ROOM = BoxRoom(dimensions_m=(5.0, 4.0, 2.6), reflectances=(0.5, 0.6, 0.4, 0.3, 0.2, 0.8))


@pytest.mark.parametrize(("exponent", "aim"), [(3.0, (1, 0, 0)), (40.0, (0.3, 0.2, 1)), (150.0, (0, 1, 0.2))])
def test_the_first_bounce_of_a_spot(exponent, aim):
    lamp = a_lamp(
        position_m=at(1.5, 1.2, 1.4),
        aim=direction("aim", aim),
        intensity=CosinePower(peak_cd=20_000.0, exponent=exponent),
    )
    for position, normal in (((2.5, 2.0, 1.2), Z), ((4.0, 1.0, 1.3), -X), ((2.5, 2.0, 0.0), Z)):
        response = found(lamps=(lamp,), rooms=(ROOM,), marks=(a_mark(position, normal),))
        expected = by_brute_force(ROOM, lamp, at(*position), normal)
        assert response.first_bounce_lx[0, 0] == pytest.approx(expected, rel=0.03)
        assert response.indirect_lx[0, 0] > response.first_bounce_lx[0, 0]


def test_what_the_lumens_method_says_of_a_pale_room():
    # First estimate of the docs/craft.md, section 3: E = flux rho / (A (1 - rho)), for light thrown evenly at walls of
    # one paint.
    room = BoxRoom(dimensions_m=(4.0, 4.0, 4.0), reflectances=(0.7,) * 6)
    lamp = a_lamp(position_m=at(2, 2, 2), aim=Z, intensity=CosinePower(peak_cd=1000.0, exponent=0.001))
    flux = lamp_flux_lm(lamp) * 2  # the other half by a second lamp that looks down
    response = found(
        lamps=(lamp, replace(lamp, lamp_id="B", aim=-Z)),
        rooms=(room,),
        marks=(a_mark((2, 2, 1), Z), a_mark((1, 2, 2), X, "n"), a_mark((3, 1, 2), -Y, "o")),
    )
    assert (response.indirect_lx.sum(axis=0)).mean() == pytest.approx(flux * 0.7 / (96.0 * 0.3), rel=0.1)


def test_black_walls_send_nothing_and_a_grid_at_hand_changes_nothing():
    dark = BoxRoom(dimensions_m=(5.0, 4.0, 2.6), reflectances=(0.0,) * 6)
    lamp = a_lamp(position_m=at(1, 1, 1), aim=X)
    assert found(lamps=(lamp,), rooms=(dark,), marks=(a_mark((3, 2, 1), -X),)).indirect_lx[0, 0] == 0.0
    scene = Scene(lamps=(lamp,), rooms=(ROOM,), marks=(a_mark((3, 2, 1), -X),))
    assert unit_response(scene, [RoomGrid.of(ROOM)]).indirect_lx == pytest.approx(unit_response(scene).indirect_lx)


def test_a_flag_keeps_light_off_the_wall_and_a_bounce_puts_it_there():
    lamp = a_lamp(position_m=at(1, 2, 1.3), aim=X, intensity=CosinePower(peak_cd=20_000.0, exponent=60.0))
    mark = (a_mark((2.5, 0.5, 1.3), Y),)
    plain = found(lamps=(lamp,), rooms=(ROOM,), marks=mark).indirect_lx[0, 0]
    flag = Solid(solid_id="S", panel=panel_at(at(1.5, 2, 1.3), Y, Z, 1.0, 1.0))
    assert found(lamps=(lamp,), rooms=(ROOM,), solids=(flag,), marks=mark).indirect_lx[0, 0] < 0.05 * plain
    board = SceneFrame(frame_id="F", panel=flag.panel, reflectance=0.85)
    assert found(lamps=(lamp,), rooms=(ROOM,), frames=(board,), marks=mark).indirect_lx[0, 0] > 0.2 * plain


def test_a_screen_before_the_mark_hides_the_walls_behind_it():
    lamp = a_lamp(position_m=at(1, 2, 1.3), aim=X, intensity=CosinePower(peak_cd=20_000.0, exponent=60.0))
    mark = (a_mark((2.5, 2.0, 1.3), X),)
    screen = Solid(solid_id="S", panel=panel_at(at(2.6, 2, 1.3), Y, Z, 3.9, 2.5))
    open_lx, hidden = (
        found(lamps=(lamp,), rooms=(ROOM,), solids=solids, marks=mark).first_bounce_lx[0, 0]
        for solids in ((), (screen,))
    )
    assert hidden < 0.1 * open_lx


def test_a_lit_frame_adds_up_to_the_lumens_that_land_on_it():
    lamp = a_lamp(intensity=CosinePower(peak_cd=100.0, exponent=1.0), position_m=at(0, 0, -0.001))
    cut = FramePoints.of(a_frame(panel=a_panel(width_m=40.0, height_m=40.0)), 121)
    near = a_lamp(position_m=at(0, 0, -1), intensity=CosinePower(peak_cd=1000.0, exponent=1.0))
    lit_lx = cut.lit_lx((near,), (), is_lit_in_front=False)[0]
    assert lit_lx @ cut.area_m2 == pytest.approx(1000.0 * np.pi, rel=0.01)  # nearly the whole half space
    assert lamp_flux_lm(lamp) == pytest.approx(100.0 * np.pi, rel=1e-4)  # the quadrature of formulas


def test_a_mark_on_the_wall_is_inside():
    assert found(
        lamps=(a_lamp(position_m=at(5, 4, 2.6), aim=-X),), rooms=(ROOM,), marks=(a_mark((0, 0, 0), Z),)
    ).direct_lx.shape == (1, 1)


@pytest.mark.parametrize("turn_deg", [0.0, 35.0, 160.0])
def test_rays_against_a_tilted_rectangle_anywhere(turn_deg):
    """Held against the plane's equation solved ray by ray."""
    turn = np.radians(turn_deg)
    panel = a_panel((1.5, -0.7, 2.2), side_x=at(np.cos(turn), 0, np.sin(turn)), side_y=Y, width_m=1.8, height_m=2.6)
    random = np.random.default_rng(7)
    starts, ends = (random.uniform([-1, -3, 0], [4, 2, 4], (30, 3)) for _ in range(2))
    found_crossings = crosses(starts, ends, panel)

    def meets(start, end) -> bool:
        share = (panel.centre_m - start) @ panel.normal / ((end - start) @ panel.normal)
        off = start + share * (end - start) - panel.centre_m
        return 0.0 < share < 1.0 and abs(off @ panel.side_x) <= 0.9 and abs(off @ panel.side_y) <= 1.3

    expected = [[meets(start, end) for end in ends] for start in starts]
    assert found_crossings.tolist() == expected
    assert 0.05 < found_crossings.mean() < 0.6


def test_a_ray_that_ends_on_a_panel_does_not_cross_it():
    """Nor one that ends just before it, whatever the other rays do."""
    ends = np.array([[0, 0, 1.0], [0, 0, 0.8], [0, 0, 0.7], [0, 0, 2.0]])
    assert crosses(np.zeros((1, 3)), ends, a_panel((0, 0, 1))).tolist() == [[False, False, False, True]]
    assert crosses(ends, np.zeros((1, 3)), a_panel((0, 0, 1))).tolist() == [[False], [False], [False], [True]]
    beside = np.array([[0.0, 0.0, 1.0], [5.0, 0.0, 1.0]])  # in the panel's own plane
    assert not crosses(beside, np.concatenate([beside, ends]), a_panel((0, 0, 1))).any()
    # Ten metres long, past the panel by half a millionth of that, then by a thousandth.
    past = np.array([[0, 0, 1.0 + 5e-6], [0, 0, 1.01]])
    assert crosses(at(0, 0, -9)[None], past, a_panel((0, 0, 1))).tolist() == [[False, True]]
    assert crosses(past, at(0, 0, -9)[None], a_panel((0, 0, 1))).tolist() == [[False], [True]]
    tilted = a_panel((0.3, 0.1, 0.7), side_x=at(0.6, 0.0, 0.8), side_y=Y)  # its own points lie in it but for rounding
    inside = tilted.centre_m + np.random.default_rng(3).uniform(-0.5, 0.5, (40, 2)) @ np.array([tilted.side_x, Y])
    assert not crosses(inside, inside, tilted).any()


def test_a_dark_face_gives_nothing_to_share():
    dark = found(lamps=(a_lamp(intensity=None, face=a_face(luminance=0.0)),), frames=(a_frame(),))
    assert dark.share_caught.tolist() == [[0.0]]
    assert dark.total_lx(at(1.0)).tolist() == [0.0]


def test_no_lamps_or_no_marks_give_empty_tables():
    empty = found(lamps=(), frames=(a_frame(),))
    assert (empty.direct_lx.shape, empty.via_lx.shape, empty.share_caught.shape) == ((0, 1), (0, 1, 1), (0, 1))
    assert found(lamps=(), rooms=(ROOM,), marks=(a_mark((1, 1, 1)),)).indirect_lx.shape == (0, 1)
    unread = found(marks=(), frames=(a_frame(),), rooms=())
    assert (unread.direct_lx.shape, unread.via_lx.shape) == ((1, 0), (1, 1, 0))


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
    fine = unit_response(scene, frame_points=61).via_lx[0, 0, 0]
    assert unit_response(scene, frame_points=9).via_lx[0, 0, 0] == pytest.approx(fine, rel=0.02)


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


test_what_is_refused = refusals(__file__)
